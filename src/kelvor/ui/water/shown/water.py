"""The log and its tracks in words and rows."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from math import degrees

import numpy as np

from kelvor.core.base.units import KNOT, Quantity, System, text
from kelvor.core.register.kinds.shop import MadeBoard
from kelvor.core.register.kinds.water import OnTheWater, SetUp, TrackFile
from kelvor.core.register.kinds.words import Said
from kelvor.core.register.record import Record
from kelvor.core.ride.pictures import ChartLine
from kelvor.core.water.sessions.log import Logged, bearing_words
from kelvor.core.water.tracks.polar import SailedPolar
from kelvor.core.water.tracks.reading import TrackRead
from kelvor.core.water.tracks.runs import Run, wrapped
from kelvor.ui.shown.shown import Row

READ_AS = {"least wind": "Least wind", "speed": "Speed kept up", "watts": "Watts at a pace"}
HIGH = "Reads high: told by places alone, the best of many short windows picks out the scatter."
BAND = (
    "Half width of 95 %: by what means over so long scatter on this track, and by being the best of many. What a "
    "receiver's own filter adds to speed and place alike is not in it."
)
CAUTION = (
    "On the water: somebody ashore knows when you are back; leash, buoyancy and helmet as the discipline asks; sharp "
    "fins and foils keep their distance. Wind offshore, cold or alone: think twice. Towing: observer, boat rules, "
    "never near the propeller. Local rules and licensed practice come first."
)


def speed_words(speed: float, system: System = System.METRIC) -> str:
    """A speed as it is read."""
    return text(speed, Quantity.SPEED, system)


def wind_words(one: Logged) -> str:
    """The wind of a session: “12–15 kn, 240° WSW”."""
    value = one.value
    low, high = value.wind_low / KNOT, value.wind_high / KNOT
    told = f"{low:.0f}–{high:.0f} kn" if high > low > 0 else f"{max(low, high):.0f} kn" if max(low, high) > 0 else ""
    return ", ".join(part for part in (told, bearing_words(value.wind_from)) if part)


def session_rows(log: Iterable[Logged]) -> list[tuple[str, ...]]:
    """Day, board, wind, best 10 s; a draft and what was struck say so."""
    found: list[tuple[str, ...]] = []
    for one in log:
        board = one.setup.board if one.setup is not None else ""
        mark = "struck" if one.value.struck else "draft" if one.value.draft else ""
        best = f"{one.best[1] / KNOT:.1f}" if one.best is not None else ""
        found.append((one.value.day, f"{board} · {mark}" if mark else board, wind_words(one).split(",")[0], best))
    return found


def setup_rows(one: Logged, system: System, begun: Mapping[str, MadeBoard]) -> list[Row]:
    """What was ridden, where and in what; `begun` are the made boards by identity, one of which cannot have been
    ridden before it was begun.
    """
    value = one.value
    rows = [Row("", "Conditions", "")]
    for record in one.setups:
        made = begun.get(record.value.made) if isinstance(record.value, SetUp) else None
        if made is not None and value.day < made.begun:
            asked = f"{made.serial} was begun on {made.begun}, after this day. Another board, or another day?"
            rows.append(Row("doubt", "Is this right?", asked, mark="!", tip=asked))
    _add(rows, "place", "Place", value.place)
    _add(rows, "wind", "Wind", wind_words(one))
    _add(rows, "water", "Water", value.water or "")
    _add(rows, "notes", "Notes", value.notes)
    for record in one.setups:
        s = record.value
        if isinstance(s, SetUp):
            rows.append(Row("", "Ridden", ""))
            rows += _setup(s, record.uid, system)
    if value.struck:
        _add(rows, "struck", "Does not count", value.struck)
    return rows


def _setup(s: SetUp, uid: str, system: System) -> list[Row]:
    rows: list[Row] = []
    for key, words, told in (
        ("board", "Board", s.board), ("rider", "Rider", s.rider), ("drive", "Wing, sail or kite", s.drive),
        ("foil", "Foil", s.foil), ("fin", "Fin", s.fin),
    ):  # fmt: skip
        _add(rows, f"{uid}.{key}", words, told)
    for key, words, place in (
        ("fin_place", "Fin, from the tail", s.fin_place), ("mast_track", "Mast base", s.mast_track),
        ("foil_mast", "Foil mast", s.foil_mast), ("front_strap", "Front strap", s.front_strap),
        ("back_strap", "Back strap", s.back_strap),
    ):  # fmt: skip
        _add(rows, f"{uid}.{key}", words, text(place, Quantity.LENGTH, system) if place > 0 else "")
    angles = [f"{degrees(angle):.0f}°" for angle in (s.front_angle, s.back_angle)]
    if s.front_angle or s.back_angle:
        _add(rows, f"{uid}.angles", "Straps turned, front, back", ", ".join(angles))
    _add(rows, f"{uid}.partner", "The other board", s.partner)
    _add(rows, f"{uid}.hours", "Hours", f"{s.hours:g} h" if s.hours else "")
    return rows


def _add(rows: list[Row], key: str, words: str, told: str) -> None:
    if told:
        rows.append(Row(key, words, told, tip=told))


def said_rows(one: Logged, system: System) -> list[Row]:
    """Words and readings of a session; what does not count struck through."""
    rows = []
    for record in one.words:
        s = record.value
        if isinstance(s, Said):
            who = ", ".join(part for part in (s.who, s.rides) if part)
            rows.append(
                Row(record.uid, f"“{s.words}”", s.who, struck=bool(s.struck), tip=s.struck or f"“{s.words}” {who}")
            )
    for record in one.readings:
        r = record.value
        if isinstance(r, OnTheWater):
            rows.append(
                Row(
                    record.uid,
                    READ_AS[r.what],
                    sailed_reading_words(r, system),
                    struck=bool(r.struck),
                    tip=r.struck or computed_words(r, system),
                )
            )
    for record in one.tracks:
        t = record.value
        if isinstance(t, TrackFile):
            aside = "simulated" if record.origin == "simulated" else f"{t.hours:.1f} h"
            rows.append(Row(record.uid, t.name, aside, struck=bool(t.struck), tip=t.struck or t.begun))
    return rows


def sailed_reading_words(r: OnTheWater, system: System) -> str:
    """A reading in its unit."""
    if r.what == "watts":
        return f"{r.value:.0f} W at {speed_words(r.speed, system)}"
    return speed_words(r.value, system)


def computed_words(r: OnTheWater, system: System) -> str:
    """What was computed beside it."""
    if r.computed <= 0:
        return "Nothing was computed for it."
    told = f"{r.computed:.0f} W" if r.what == "watts" else speed_words(r.computed, system)
    return f"Computed {told} for the board, rider and gear when it was written down."


def best_rows(read: TrackRead, system: System) -> list[Row]:
    """The fastest windows with what scatter makes of them."""
    rows = []
    for best in read.bests:
        tip = HIGH if best.high else BAND
        aside = f"±{best.band / KNOT:.2f}  {best.begins / 60:.0f} min"
        mark = "!" if best.high else ""
        rows.append(Row(best.name, best.name, speed_words(best.speed, system), aside=aside, mark=mark, tip=tip))
    return rows


def track_words(read: TrackRead, record: Record) -> str:
    """One line on a track: where it is from, what was left out."""
    clean = read.clean
    parts = [f"{len(clean.t)} fixes, {clean.step:.1f} s apart, {read.hours:.1f} h sailed, {len(read.runs)} runs"]
    parts.append("speed by the receiver (Doppler)" if clean.by_doppler else "speed from places: no Doppler in the file")
    parts += [f"{r.count} {r.why}" if r.count else r.why for r in clean.removed]
    told = "; ".join(parts) + "."
    return f"Simulated by our own logger. {told}" if record.origin == "simulated" else told


def wind_found_words(read: TrackRead, typed: float | None) -> str:
    """Where the wind came from, typed and by the runs."""
    if read.wind is None:
        return f"Wind by the runs: {read.wind_why}"
    told = f"Wind by the runs: {bearing_words(read.wind.bearing)} ± {degrees(read.wind.band):.1f}°"
    if typed is not None:
        apart = abs(float(wrapped(typed - read.wind.bearing)))
        told += f"; as typed {bearing_words(typed)}" + (", half a turn off?" if apart > 2.4 else "")
    return told


def run_words(read: TrackRead, run: Run, wind: float | None) -> str:
    """A run in a line."""
    told = f"run at {run.begins / 60:.0f} min: {run.seconds:.0f} s, {speed_words(run.speed)}"
    told += f", {bearing_words(run.heading)}"
    if wind is not None:
        told += f", {abs(degrees(float(wrapped(run.heading - wind)))):.0f}° off the wind"
    return told


def moment_words(read: TrackRead, t: float) -> str:
    """What the track says at a moment since its first fix [s]."""
    clean = read.clean
    stamp = datetime.fromtimestamp(float(clean.track.seconds[0]) + t, UTC).astimezone()
    speed = float(np.interp(t, clean.t, clean.speed))
    found = f"{stamp:%H:%M:%S}  {speed_words(speed)}"
    run = next((r for r in read.runs if r.begins <= t <= r.ends), None)
    return f"{found}  {run_words(read, run, read.wind.bearing if read.wind is not None else None)}" if run else found


def straight_run_rows(read: TrackRead, wind: float | None) -> list[tuple[str, ...]]:
    """Runs and the turns after them: when, which, how long, off the wind, mean or least speed."""
    turns = read.turns(wind)
    told: list[tuple[float, tuple[str, ...]]] = []
    for run in read.runs:
        off = f"{abs(degrees(float(wrapped(run.heading - wind)))):.0f}°" if wind is not None else ""
        side = "" if wind is None else "starboard" if float(wrapped(run.heading - wind)) < 0 else "port"
        lasts, way = f"{run.seconds:.0f} s", f"{run.metres:.0f} m"
        speed = f"{run.speed / KNOT:.1f}"
        row = (_clock(run.begins), "run", lasts, way, bearing_words(run.heading), off, side, speed)
        told.append((run.begins, row))
    for turn in turns:
        row = (_clock(turn.begins), turn.kind, f"{turn.ends - turn.begins:.0f} s", "", "",
               f"{abs(degrees(turn.angle)):.0f}° round", "", f"{turn.least / KNOT:.1f} least")  # fmt: skip
        told.append((turn.begins, row))
    return [row for _, row in sorted(told, key=lambda item: item[0])]


def _clock(seconds: float) -> str:
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"


def polar_rows(found: SailedPolar, computed: ChartLine | None = None) -> list[tuple[str, ...]]:
    """The sailed polar by sectors: angle, mean, best, runs, and what is computed at that angle."""
    rows: list[tuple[str, ...]] = []
    for a, s, b, n in zip(found.angle, found.speed, found.best, found.count, strict=True):
        inside = computed is not None and computed.x.min() <= a <= computed.x.max()
        told = f"{float(np.interp(a, computed.x, computed.y)) / KNOT:.1f}" if computed is not None and inside else ""
        rows.append((f"{degrees(a):.0f}°", f"{s / KNOT:.1f}", f"{b / KNOT:.1f}", str(n), told))
    return rows
