"""Files of watches and receivers: GPX, TCX, FIT, CSV, read as they came; nothing is mended here."""

from __future__ import annotations

import csv
import io
import json
import struct
import warnings
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import MOST_COLUMNS, ColumnMeanings, SpeedUnit
from kelvor.core.water.tracks.track import Track

MOST_BYTES = 200 * 1024 * 1024
"""No file is larger."""
READ_SECONDS = 60
"""So long one may take to read [s]."""
ENDINGS = (".gpx", ".fit", ".tcx", ".csv")
YEARS = (1980, 2100)
"""From the first satellites to beyond any watch: other years are a clock that was never set."""
MOST_CORNERS = 5000
"""Of a line on the map."""
SEMICIRCLE = np.pi / 2**31
"""FIT's unit of angle [rad], by its definition."""
SPEED_UNITS: dict[SpeedUnit, float] = {"m/s": 1.0, "km/h": 1 / 3.6, "kn": KNOT, "mph": 0.44704}
TIMES = ("time", "timestamp", "utc", "datetime", "date_time", "t")
LATITUDES = ("lat", "latitude", "position_lat")
LONGITUDES = ("lon", "long", "lng", "longitude", "position_long")
SPEEDS = ("speed", "sog", "velocity", "doppler_speed", "speed_ms")
SIMULATED = "simulated"
"""What our stand-in says of itself in a file's name of its device."""


class ColumnsUnknown(InputError):
    """A CSV file whose columns cannot be guessed: its heads, and a row of it."""

    def __init__(self, heads: Sequence[str], row: Sequence[str], name: str) -> None:
        self.heads, self.row, self.name = tuple(heads), tuple(row), name
        super().__init__(
            "which columns hold time, latitude and longitude is not clear", where=name, accepts="Say which"
        )

    def __reduce__(self) -> tuple[Any, ...]:
        """It comes back from a worker as it is."""
        return ColumnsUnknown, (self.heads, self.row, self.name)


def read_track(
    data: bytes, name: str, columns: Sequence[ColumnMeanings] = (), told: Callable[[float], None] | None = None
) -> Track:
    """A track as its file says it; `columns` are what CSV heads mean as somebody said, `told` hears the share read.

    Raises
    ------
    ColumnsUnknown
        When a CSV file's columns must be asked for.
    InputError
        When it is no track: too large, cut short, hostile, or without fixes.
    """
    if len(data) > MOST_BYTES:
        raise InputError(
            f"it has {len(data) / 2**20:.0f} MB", where=name, accepts=f"Tracks of up to {MOST_BYTES >> 20} MB are read"
        )
    if not data.strip():
        raise InputError("it is empty", where=name)
    ending = "." + name.rsplit(".", 1)[-1].lower() if "." in name else ""
    if data[8:12] == b".FIT" or ending == ".fit":
        found = _fit(data, name, told)
    elif ending in (".gpx", ".tcx") or data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith(b"<"):
        found = _xml(data, name, told)
    elif ending == ".csv":
        found = _csv(data, name, columns)
    else:
        raise InputError("it is of no kind that is read", where=name, accepts="GPX, FIT, TCX or CSV")
    if not len(found.seconds):
        raise InputError("it holds no fixes", where=name, accepts="A track with places and times")
    low, high = (float(np.datetime64(f"{year}-01-01", "s").astype(np.int64)) for year in YEARS)
    out = np.flatnonzero(~((found.seconds >= low) & (found.seconds < high)))
    if len(out):
        accepts = f"Years {YEARS[0]} to {YEARS[1] - 1}: set the watch's clock and save the file anew"
        raise InputError(f"the time of fix {out[0] + 1} lies in no year of a watch", where=name, accepts=accepts)
    return found


def heads_to_ask(data: bytes, name: str, columns: Sequence[ColumnMeanings]) -> ColumnsUnknown | None:
    """What must be asked about a CSV file before it can be read; nothing of other files."""
    if not name.lower().endswith(".csv"):
        return None
    try:
        _meant(*_head(data[:65536], name), columns, name)
    except ColumnsUnknown as asked:
        return asked
    except InputError:
        return None  # the reader says it
    return None


def _made(
    seconds: Sequence[float] | Array, degrees: tuple[Any, Any], speed: Any, device: str, *, radians: bool = False
) -> Track:
    latitude, longitude = (np.asarray(values, dtype=float) for values in degrees)
    doppler = np.asarray(speed, dtype=float)
    return Track(
        seconds=np.asarray(seconds, dtype=float),
        latitude=latitude if radians else np.radians(latitude),
        longitude=longitude if radians else np.radians(longitude),
        doppler=doppler if len(doppler) and np.isfinite(doppler).any() else None,
        device=one_line(device, 80),
        simulated=SIMULATED in device.lower(),
    )


def _seconds(stamps: Sequence[str], name: str) -> Array:
    """ISO times as seconds since 1970, UTC."""
    cut = [_in_utc(stamp) for stamp in stamps]
    wrong = next((i for i, stamp in enumerate(cut) if not stamp[:4].isdigit()), None)
    if wrong is not None:
        said = f"time {wrong + 1}, “{one_line(stamps[wrong], 40)}”, cannot be read"
        raise InputError(said, where=name, accepts="2026-10-14T13:02:11Z")
    try:
        found: Array = np.array(cut, dtype="datetime64[ms]").astype(np.int64) / 1000.0
    except (ValueError, OverflowError):
        wrong = next(i for i, stamp in enumerate(cut) if not _is_time(stamp))
        said = f"time {wrong + 1}, “{one_line(stamps[wrong], 40)}”, cannot be read"
        raise InputError(said, where=name, accepts="2026-10-14T13:02:11Z") from None
    return found


def _is_time(stamp: str) -> bool:
    try:
        np.datetime64(stamp, "ms")
    except (ValueError, OverflowError):
        return False
    return True


def _in_utc(stamp: str) -> str:
    """A stamp in UTC without its zone, as NumPy reads it."""
    stamp = stamp.strip()
    if stamp.endswith(("Z", "z")):
        return stamp[:-1]
    if len(stamp) > 19 and (stamp[-6:-5] in "+-" and stamp[-3] == ":"):
        from datetime import UTC, datetime

        try:
            return datetime.fromisoformat(stamp).astimezone(UTC).replace(tzinfo=None).isoformat()
        except (ValueError, OverflowError):
            return ""  # no time of ours
    return stamp


# XML


def _xml(data: bytes, name: str, told: Callable[[float], None] | None) -> Track:
    from lxml import etree  # loaded in a worker

    if b"<!ENTITY" in data[:65536] or b"<!DOCTYPE" in data[:65536]:
        raise InputError("it declares entities, which no watch does", where=name, accepts="The watch's own file")
    stamps: list[str] = []
    latitude: list[float] = []
    longitude: list[float] = []
    speed: list[float] = []
    device = ""
    source = io.BytesIO(data)
    try:
        events = etree.iterparse(
            source,
            events=("end",),
            tag=("{*}trkpt", "{*}Trackpoint", "{*}gpx", "{*}Creator"),
            resolve_entities=False,
            no_network=True,
            load_dtd=False,
            huge_tree=False,
        )
        for count, (_, element) in enumerate(events):
            kind = element.tag.rsplit("}", 1)[-1] if isinstance(element.tag, str) else ""
            if kind == "trkpt":
                _trkpt(element, stamps, latitude, longitude, speed)
            elif kind == "Trackpoint":
                _trackpoint(element, stamps, latitude, longitude, speed)
            elif kind == "gpx":
                device = element.get("creator", "")
                continue
            else:
                names = (c.text or "" for c in element if isinstance(c.tag, str) and c.tag.endswith("}Name"))
                device = next(names, "")
                continue
            element.clear(keep_tail=True)
            parent = element.getparent()
            while parent is not None and element.getprevious() is not None:
                del parent[0]
            if told is not None and count % 4000 == 0:
                told(min(source.tell() / len(data), 1.0))
    except (etree.XMLSyntaxError, LookupError, ValueError) as error:
        raise _no_xml(error, name, "XML") from None
    return _made(_seconds(stamps, name), (latitude, longitude), speed, device)


def _no_xml(error: Exception, name: str, what: str) -> InputError:
    """What is wrong with a file of angle brackets, and in which line."""
    line, told = getattr(error, "lineno", None), str(error).lower()
    where = f"{name}, line {line}" if line else name
    if "encoding" in told:
        return InputError("its encoding is not known, or not what it says", where=where, accepts="Save it as UTF-8")
    if "depth" in told:
        return InputError("it is nested too deeply", where=where, accepts="The watch's own file")
    return InputError(f"it is cut short or no {what}", where=where, accepts="The whole file")


def _number(words: str | None) -> float:
    try:
        return float(words or "")
    except ValueError:
        return float("nan")


def _trkpt(element: Any, stamps: list[str], latitude: list[float], longitude: list[float], speed: list[float]) -> None:
    stamp, fast = "", float("nan")
    for child in element:
        tag = child.tag
        if not isinstance(tag, str):
            continue
        if tag.endswith("}time") or tag == "time":
            stamp = child.text or ""
        elif tag.endswith("speed"):
            fast = _number(child.text)
        elif tag.endswith("extensions"):
            for inner in child.iter():
                if isinstance(inner.tag, str) and inner.tag.endswith("speed"):
                    fast = _number(inner.text)
    if stamp:
        stamps.append(stamp)
        latitude.append(_number(element.get("lat")))
        longitude.append(_number(element.get("lon")))
        speed.append(fast)


def _trackpoint(
    element: Any, stamps: list[str], latitude: list[float], longitude: list[float], speed: list[float]
) -> None:
    stamp, place, fast = "", [float("nan"), float("nan")], float("nan")
    for child in element.iter():
        tag = child.tag if isinstance(child.tag, str) else ""
        if tag.endswith("}Time"):
            stamp = child.text or ""
        elif tag.endswith("}LatitudeDegrees"):
            place[0] = _number(child.text)
        elif tag.endswith("}LongitudeDegrees"):
            place[1] = _number(child.text)
        elif tag.endswith("}Speed"):
            fast = _number(child.text)
    if stamp and place[0] == place[0]:
        stamps.append(stamp)
        latitude.append(place[0])
        longitude.append(place[1])
        speed.append(fast)


# a line on the map


def read_line(data: bytes, name: str) -> tuple[tuple[float, float], ...]:
    """A line of places, such as a shore, as latitude and longitude [rad]: points of a GPX track, route or way points,
    or the longest line of a GeoJSON file.

    Raises
    ------
    InputError
        When it holds no line, or one of more than 5 000 corners.
    """
    if data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith((b"{", b"[")):
        degrees = _geojson(data, name)
    else:
        from lxml import etree

        if b"<!ENTITY" in data[:65536] or b"<!DOCTYPE" in data[:65536]:
            raise InputError("it declares entities", where=name, accepts="A plain GPX file")
        try:
            parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
            tree = etree.fromstring(data, parser)
        except (etree.XMLSyntaxError, LookupError, ValueError) as error:
            raise _no_xml(error, name, "GPX or GeoJSON") from None
        points = tree.iter("{*}trkpt", "{*}rtept", "{*}wpt")
        degrees = [(_number(point.get("lat")), _number(point.get("lon"))) for point in points]
    found = [(a, o) for a, o in degrees if abs(a) <= 90 and abs(o) <= 180]
    if not 2 <= len(found) <= MOST_CORNERS:
        raise InputError(f"it holds {len(found)} places", where=name, accepts=f"A line of 2 to {MOST_CORNERS}")
    return tuple((float(np.radians(a)), float(np.radians(o))) for a, o in found)


def _degrees(value: float) -> float:
    """A place's number; one of hundreds of digits is nowhere."""
    return float(value) if abs(value) < 1e6 else float("nan")


def _geojson(data: bytes, name: str) -> list[tuple[float, float]]:
    """Places of the longest line or ring in a GeoJSON document, latitude first [°]."""
    try:
        document = json.loads(data)
    except RecursionError:
        raise InputError("it is nested too deeply", where=name, accepts="A GeoJSON file of a line") from None
    except UnicodeDecodeError as error:
        said = f"it is not text in UTF-8 (byte {error.start + 1})"
        raise InputError(said, where=name, accepts="Save it as UTF-8") from None
    except ValueError as error:
        where = f"{name}, line {error.lineno}" if isinstance(error, json.JSONDecodeError) else name
        raise InputError("it is cut short or no GeoJSON", where=where, accepts="The whole file") from None
    lines: list[list[tuple[float, float]]] = [[]]

    def look(value: Any) -> None:
        if isinstance(value, dict):
            for inner in value.values():
                look(inner)
        elif isinstance(value, list):
            corners = [
                p
                for p in value
                if isinstance(p, list) and len(p) >= 2 and all(isinstance(v, (int, float)) for v in p[:2])
            ]
            if corners and len(corners) == len(value):
                lines.append([(_degrees(p[1]), _degrees(p[0])) for p in corners])
            else:
                for inner in value:
                    look(inner)

    try:
        look(document)
    except RecursionError:
        raise InputError("it is nested too deeply", where=name) from None
    return max(lines, key=len)


# FIT


def _fit(data: bytes, name: str, told: Callable[[float], None] | None) -> Track:
    import fitdecode  # loaded in a worker

    rows: list[tuple[float, float, float, float]] = []
    device = ""
    try:
        with (
            warnings.catch_warnings(action="ignore"),  # of fields it does not know
            fitdecode.FitReader(io.BytesIO(data), check_crc=fitdecode.CrcCheck.RAISE) as reader,
        ):
            for frame in reader:
                if frame.frame_type != fitdecode.FIT_FRAME_DATA:
                    continue
                if frame.name == "record":
                    row = _fit_row(frame)
                    if row is not None:
                        rows.append(row)
                        if told is not None and len(rows) % 2000 == 0:
                            told(min(frame.chunk.offset / len(data), 1.0))
                elif frame.name == "file_id":
                    made = (frame.get_value(key, fallback=None) for key in ("manufacturer", "product_name"))
                    device = " ".join(str(part) for part in made if part is not None)
    except fitdecode.FitCRCError:
        raise InputError("its check sum is wrong: a bit of it flipped", where=name, accepts="Copy it again") from None
    except fitdecode.FitError:
        said = "it is cut short or no FIT file"
        raise InputError(said, where=name, accepts="Copy the whole file again") from None
    except (KeyError, TypeError, ValueError, IndexError, AttributeError, AssertionError, ArithmeticError,
            RecursionError, struct.error):  # fmt: skip
        raise InputError("it holds what no watch writes", where=name, accepts="The watch's own file") from None
    found = np.array(rows, dtype=float).reshape(-1, 4)
    degrees = (found[:, 1] * SEMICIRCLE, found[:, 2] * SEMICIRCLE)
    return _made(_spread(found[:, 0]), degrees, found[:, 3], device, radians=True)


def _fit_row(frame: Any) -> tuple[float, float, float, float] | None:
    values = {field.name: field.value for field in frame.fields}
    stamp, latitude, longitude = (values.get(key) for key in ("timestamp", "position_lat", "position_long"))
    if stamp is None or latitude is None or longitude is None:
        return None
    speed = values.get("enhanced_speed")
    speed = values.get("speed") if speed is None else speed
    seconds = stamp.timestamp() if hasattr(stamp, "timestamp") else float(stamp)
    return seconds, float(latitude), float(longitude), float("nan") if speed is None else float(speed)


def _spread(seconds: Array) -> Array:
    """FIT tells whole seconds: fixes of one second are spread over it."""
    if not len(seconds):
        return seconds
    starts = np.flatnonzero(np.append(True, np.diff(seconds) != 0))
    counts = np.diff(np.append(starts, len(seconds)))
    within = np.arange(len(seconds)) - np.repeat(starts, counts)
    most = int(np.median(counts))
    spread: Array = seconds + within / np.repeat(np.maximum(counts, most if most > 1 else 1), counts)
    return spread


# CSV


def _csv(data: bytes, name: str, columns: Sequence[ColumnMeanings]) -> Track:
    heads, rows = _head(data, name)
    meant = _meant(heads, rows, columns, name)
    at = {head: i for i, head in enumerate(heads)}
    latitude, longitude = (_floats(rows, at[key], name) for key in (meant.latitude, meant.longitude))
    speed = _floats(rows, at[meant.speed], name) * SPEED_UNITS[meant.unit] if meant.speed in at else np.zeros(0)
    stamps = [row[at[meant.time]] for row in rows]
    return _made(_times(stamps, name), (latitude, longitude), speed, "")


def _head(data: bytes, name: str) -> tuple[tuple[str, ...], list[list[str]]]:
    """Heads and rows of a table."""
    words = data.decode("utf-8-sig", errors="replace")
    mark = max(",;\t", key=words.split("\n", 1)[0].count)
    reader = csv.reader(io.StringIO(words), delimiter=mark)
    try:
        heads = tuple(one_line(cell.strip(), 80) for cell in next(reader))
        rows = [[*row, str(reader.line_num)] for row in reader if any(row)]  # and where it stood
    except (csv.Error, StopIteration):
        where = f"{name}, line {reader.line_num}" if reader.line_num else name
        raise InputError("it is no table", where=where, accepts="Cells between commas, no longer than a page") from None
    if len(heads) > MOST_COLUMNS:
        accepts = f"At most {MOST_COLUMNS}: leave out what is not needed"
        raise InputError(f"it has {len(heads)} columns", where=name, accepts=accepts)
    short = next((row for row in rows if len(row) <= len(heads)), None)
    if short is not None:
        said = f"line {short[-1]} has {len(short) - 1} of {len(heads)} cells"
        raise InputError(said, where=name, accepts="Complete it, or take it out")
    if not rows:
        raise InputError("it holds no rows under its heads", where=name)
    return heads, rows


def _meant(
    heads: tuple[str, ...], rows: list[list[str]], columns: Sequence[ColumnMeanings], name: str
) -> ColumnMeanings:
    """What heads mean: as somebody said, or as they say themselves; raises ColumnsUnknown."""
    found = next((c for c in columns if c.heads == heads), None) or _guessed(heads)
    if found is None or not {found.time, found.latitude, found.longitude} <= set(heads):
        raise ColumnsUnknown(heads, [one_line(cell, 40) for cell in rows[0][:-1]], name)
    return found


def _guessed(heads: tuple[str, ...]) -> ColumnMeanings | None:
    """What heads mean that say it themselves."""
    plain = {head.lower().split("[")[0].split("(")[0].strip().replace(" ", "_"): head for head in heads}
    found = [next((plain[key] for key in keys if key in plain), "") for keys in (TIMES, LATITUDES, LONGITUDES, SPEEDS)]
    if not all(found[:3]):
        return None
    head = found[3].lower()
    unit: SpeedUnit = (
        "kn" if "kn" in head or "kt" in head else "km/h" if "km" in head else "mph" if "mph" in head else "m/s"
    )
    if found[3] and unit == "m/s" and "m/s" not in head and "ms" not in head:
        return None  # a speed without its unit is asked for
    return ColumnMeanings(heads=heads, time=found[0], latitude=found[1], longitude=found[2], speed=found[3], unit=unit)


def _floats(rows: list[list[str]], at: int, name: str) -> Array:
    try:
        return np.array([row[at] or "nan" for row in rows], dtype=float)
    except ValueError:
        pass
    found = []
    for row in rows:
        try:
            found.append(float(row[at].replace(",", ".") or "nan"))
        except ValueError:
            said = f"line {row[-1]}, column {at + 1}: “{one_line(row[at], 40)}” is no number"
            raise InputError(said, where=name, accepts="A number, such as 61.90012") from None
    return np.array(found)


def _times(stamps: list[str], name: str) -> Array:
    """Seconds since 1970: written so, in milliseconds, or as a date and time."""
    try:
        found = np.array(stamps, dtype=float)
    except ValueError:
        return _seconds([stamp.replace(" ", "T", 1) for stamp in stamps], name)
    return found / 1000.0 if np.nanmedian(found) > 1e11 else found
