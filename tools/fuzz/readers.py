"""Every kind of file that is read: whole ones of it, how one is damaged, who reads it, and what must hold then."""

import io
import json
import math
import random
import wave
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache, partial
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
import trimesh
from PySide6.QtCore import QBuffer, QIODevice
from PySide6.QtGui import QImage

from kelvor.core.brief.brief import Target
from kelvor.core.mill.controller import read_program
from kelvor.core.register.kinds.family import ClassRule, Quota
from kelvor.demo.boards import demo_boards
from kelvor.devices import gps_logger
from kelvor.exchange.documents import (
    board_text,
    brief_text,
    parse_board,
    parse_brief,
    parse_rule,
    rule_text,
)
from kelvor.exchange.export import export
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.readings import read_offsets
from kelvor.exchange.scans import read_points
from kelvor.exchange.tracks import MOST_BYTES, read_line, read_track
from kelvor.files import read_bytes, read_text
from kelvor.ui.controls.photos import read_photo
from kelvor.ui.water.small_panels import read_sound
from tools.fuzz.damage import mutated_binary, mutated_json, mutated_lines, mutated_svg, mutated_xml

SAILED = {
    "begun": "2026-06-14T11:00:00Z", "place": [54.2, 11.1], "rate": 1,
    "noise": {"place": 0.8, "speed": 0.08, "seed": 2},
    "legs": [{"heading": 290, "speed": 9.1, "seconds": 60}, {"heading": 110, "speed": 8, "seconds": 60}],
}  # fmt: skip


@dataclass(frozen=True)
class Kind:
    """A kind of file."""

    name: str
    ending: str
    whole: Callable[[], Sequence[bytes]]
    damaged: Callable[[bytes, random.Random], bytes]
    read: Callable[[Path], Any]
    wrong: Callable[[bytes, Any], str] = lambda data, found: ""
    """What was read other than the file says, in words."""
    large: Callable[[int], bytes] | None = None
    """A whole file of so many bytes, about, where files of the kind become large."""


def _text(mutated: Callable[..., bytes], *more: Any) -> Callable[[bytes, random.Random], bytes]:
    return lambda data, rng: mutated(data.decode("utf-8"), rng, *more)


# documents


def _boards(count: int = 26) -> list[Any]:
    return demo_boards()[:count]


@cache
def _drawn(kind: str) -> tuple[bytes, ...]:
    found = []
    with TemporaryDirectory() as folder:
        for number, (_, board, _) in enumerate(_boards(3)):
            path = Path(folder) / f"{number}.{kind}"
            export(board, kind, path)
            found.append(path.read_bytes())
    return tuple(found)


def _rules() -> list[bytes]:
    most = {"width": 0.8, "length": 3.0}
    limits = tuple(Target(figure=key, relation="at most", value=value) for key, value in most.items())
    rule = ClassRule(name="Open", limits=limits, quotas=(Quota(most=3), Quota(most=1, which=limits[0])))
    return [rule_text(rule).encode()]


def _document(parse: Callable[[str, str], Any]) -> Callable[[Path], Any]:
    return lambda path: parse(read_text(path), str(path))


def _unlike(write: Callable[[Any], str]) -> Callable[[bytes, Any], str]:
    """Whether everything a document says is also said by what was read from it."""

    def inside(a: object, b: object) -> bool:
        if isinstance(a, dict):
            return isinstance(b, dict) and all(key in b and inside(value, b[key]) for key, value in a.items())
        if isinstance(a, list):
            return isinstance(b, list) and len(a) == len(b) and all(map(inside, a, b))
        return a == b and isinstance(a, bool) == isinstance(b, bool)

    def wrong(data: bytes, found: Any) -> str:
        said = json.loads(data.decode("utf-8-sig"))
        return "" if inside(said, json.loads(write(found))) else "something else than it says"

    return wrong


def _no_board(data: bytes, found: Any) -> str:
    return "" if 0.6 <= found.length <= 6.5 and found.notes else f"{found.length} m with {found.notes}"


# tracks, lines on a map


@cache
def _kept() -> gps_logger.Kept:
    return gps_logger.planned_fixes(SAILED)


@cache
def _stamped() -> list[tuple[str, float, float]]:
    kept = _kept()
    stamps = np.datetime_as_string((kept.seconds * 1000).astype("datetime64[ms]"))
    return [(f"{t}Z", a, o) for t, a, o in zip(stamps, kept.latitude, kept.longitude, strict=True)]


def _gpx() -> list[bytes]:
    return [gps_logger.gpx(_kept())]


def _tcx() -> list[bytes]:
    points = "".join(
        f"<Trackpoint><Time>{t}</Time><Position><LatitudeDegrees>{a:.7f}</LatitudeDegrees><LongitudeDegrees>{o:.7f}"
        "</LongitudeDegrees></Position></Trackpoint>"
        for t, a, o in _stamped()
    )
    head = '<TrainingCenterDatabase xmlns="urn:x"><Activities><Activity><Creator><Name>Watch</Name></Creator><Track>'
    return [f"<?xml version='1.0'?>{head}{points}</Track></Activity></Activities></TrainingCenterDatabase>".encode()]


def _csv_track() -> list[bytes]:
    return ["\n".join(["time,lat,lon", *(f"{t},{a:.7f},{o:.7f}" for t, a, o in _stamped())]).encode()]


def _fit_damaged(data: bytes, rng: random.Random) -> bytes:
    """Damaged inside, with a check sum that is right again in most cases, so that it is looked into."""
    found = mutated_binary(data[:-2], rng, 120)
    if rng.random() < 0.8 and len(found) > 14:
        head = found[:4] + (len(found) - 14).to_bytes(4, "little") + found[8:12]
        found = head + gps_logger.check_sum(head).to_bytes(2, "little") + found[14:]
        return found + gps_logger.check_sum(found).to_bytes(2, "little")
    return found


def _shore() -> list[bytes]:
    corners = [[round(o, 6), round(a, 6)] for _, a, o in _stamped()[::12]]
    line = {"type": "Feature", "properties": {"name": "x"}, "geometry": {"type": "LineString", "coordinates": corners}}
    return [json.dumps({"type": "FeatureCollection", "features": [line]}).encode()]


def _track(path: Path) -> Any:
    return read_track(read_bytes(path, MOST_BYTES, "tracks"), path.name)


def _line(path: Path) -> Any:
    return read_line(read_bytes(path, MOST_BYTES, "shore lines"), path.name)


def _no_track(data: bytes, found: Any) -> str:
    """More fixes than the file has times, or one beyond the years of watches."""
    times = max(data.lower().count(b"<time>"), data.count(b"\n"), len(data) // 8)
    return "" if len(found.seconds) <= times and np.isfinite(found.seconds).all() else "fixes that are not in it"


def _no_line(data: bytes, found: Any) -> str:
    return "" if all(abs(a) <= math.pi / 2 and abs(o) <= math.pi for a, o in found) else "places beyond the earth"


# scans


def _mesh(kind: str, faces: int, **more: Any) -> bytes:
    ball = trimesh.creation.icosphere(max(3, round(math.log(faces / 20, 4))), 0.8)
    found = ball.export(file_type=kind, **more)
    return found if isinstance(found, bytes) else found.encode()


def _meshes(kind: str, **more: Any) -> Callable[[], list[bytes]]:
    return lambda: [_mesh(kind, 1280, **more)]


def _cloud_of(size: int) -> bytes:
    points = np.random.default_rng(1).uniform(-1.0, 1.0, (size // 27, 3))
    file = io.BytesIO()
    np.savetxt(file, points, fmt="%.6f")
    return file.getvalue()


def _mesh_damaged(data: bytes, rng: random.Random) -> bytes:
    """Either the lines of its head and body, or its bytes."""
    head, mark, body = data.partition(b"end_header\n")
    if mark and rng.random() < 0.5:
        return mutated_lines(head.decode(), rng, " ") + b"\n" + mark + body
    return mutated_binary(data, rng)


def _no_points(data: bytes, found: Any) -> str:
    return "" if found.ndim == 2 and found.shape[1] == 3 else f"points of shape {found.shape}"


def _other_count(data: bytes, found: Any) -> str:
    lines = (line.strip(" ,;\t") for line in data.decode("utf-8", "replace").splitlines())
    count = sum(bool(line) and not line.startswith("#") for line in lines)
    return "" if count - 1 <= len(found) <= count else f"{len(found)} points of {count} lines"


# photos, sounds, programs


def _photos() -> list[bytes]:
    picture = QImage(240, 160, QImage.Format.Format_RGB32)
    picture.fill(0x336699)
    found = []
    for kind in ("PNG", "JPG"):
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        picture.save(buffer, kind)
        found.append(bytes(buffer.data().data()))
    return found


def _sounds() -> list[bytes]:
    file = io.BytesIO()
    with wave.open(file, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(8000)
        sound.writeframes(bytes(4000))
    return [file.getvalue(), b"OggS" + bytes(300), b"\0\0\0\x18ftypM4A " + bytes(300), b"ID3" + bytes(300)]


def _programs() -> list[bytes]:
    moves = (f"N{10 * i} X{10 + i} Y{i % 7 - 3:.3f} Z{80 - i % 5:.2f}" for i in range(150))
    lines = ("(bottom, ball 20 mm)", "G21 G90 G17 G94", "M3 S12000", "G0 Z150", "G0 X10 Y0", "G1 Z80 F3000", *moves,
             "G0 Z150", "M5", "M30")  # fmt: skip
    return ["\n".join(lines).encode()]


def _same_bytes(data: bytes, found: Any) -> str:
    return "" if found == data else "other bytes"


def _more_moves(data: bytes, found: Any) -> str:
    lines = len(data.decode("ascii", "replace").splitlines())
    fine = len(found.ends) <= lines and np.isfinite(found.ends).all()
    return "" if fine else f"{len(found.ends)} moves of {lines} lines"


def _repeated(whole: Callable[[], Sequence[bytes]], begin: bytes, end: bytes) -> Callable[[int], bytes]:
    """A file whose rows are there many times."""

    def made(size: int) -> bytes:
        data = whole()[0]
        first, last = data.index(begin), data.rindex(end)
        return data[:first] + data[first:last] * (size // len(data)) + data[last:]

    return made


_XML, _ROWS, _WORDS = _text(mutated_xml), _text(mutated_lines, ","), _text(mutated_lines, " ")
KINDS = (
    Kind("board", "json", lambda: [board_text(b).encode() for _, b, _ in _boards()], _text(mutated_json),
         _document(parse_board), _unlike(board_text)),
    Kind("brief", "json", lambda: [brief_text(b).encode() for _, _, b in _boards()], _text(mutated_json),
         _document(parse_brief), _unlike(brief_text)),
    Kind("class rule", "json", _rules, _text(mutated_json), _document(parse_rule), _unlike(rule_text)),
    Kind("csv", "csv", partial(_drawn, "csv"), _ROWS, read_offsets),
    Kind("dxf", "dxf", partial(_drawn, "dxf"), _text(mutated_lines, ""), read_outline, _no_board),
    Kind("svg", "svg", partial(_drawn, "svg"), _text(mutated_svg), read_outline, _no_board),
    Kind("gpx", "gpx", _gpx, _XML, _track, _no_track,
         _repeated(_gpx, b"<trkpt", b"</trkseg")),
    Kind("tcx", "tcx", _tcx, _XML, _track, _no_track,
         _repeated(_tcx, b"<Trackpoint", b"</Track>")),
    Kind("fit", "fit", lambda: [gps_logger.fit(_kept())], _fit_damaged, _track, _no_track),
    Kind("track csv", "csv", _csv_track, _ROWS, _track, _no_track,
         _repeated(lambda: [_csv_track()[0] + b"\n"], b"2026", b"")),
    Kind("shore gpx", "gpx", _gpx, _XML, _line, _no_line),
    Kind("geojson", "geojson", _shore, _text(mutated_json), _line, _no_line),
    Kind("obj", "obj", _meshes("obj"), _WORDS, read_points, _no_points,
         lambda size: _mesh("obj", size // 50)),
    Kind("ply", "ply", _meshes("ply"), _mesh_damaged, read_points, _no_points,
         lambda size: _mesh("ply", size // 20)),
    Kind("ply words", "ply", _meshes("ply", encoding="ascii"), _WORDS, read_points, _no_points),
    Kind("stl", "stl", _meshes("stl"), mutated_binary, read_points, _no_points,
         lambda size: _mesh("stl", size // 50)),
    Kind("cloud", "xyz", lambda: [_cloud_of(16_000)], _WORDS, read_points, _other_count, _cloud_of),
    Kind("photo", "png", _photos, mutated_binary, read_photo, _same_bytes),
    Kind("sound", "wav", _sounds, mutated_binary, read_sound, _same_bytes),
    Kind("program", "nc", _programs, _WORDS,
         lambda path: read_program(path.read_bytes().decode("ascii", "replace"), path.name), _more_moves),
)  # fmt: skip
