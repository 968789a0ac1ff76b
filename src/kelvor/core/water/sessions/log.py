"""The log: sessions with what was ridden, tracks, words and readings, gathered from records."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from functools import cached_property
from math import degrees, radians

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import OnTheWater, SetUp, TrackFile, WaterSession
from kelvor.core.register.kinds.words import Said
from kelvor.core.register.record import Record, RecordKind

KINDS: tuple[RecordKind, ...] = ("session", "set-up", "track", "on the water", "said")
"""Records the log is gathered from."""


@dataclass(frozen=True)
class Logged:
    """A session as it is known.

    Attributes
    ----------
    record:
        As it was last written.
    setups, tracks, words, readings:
        What was ridden, what the watches kept, what was said, what was read; struck ones too, in the order they were
        written.
    """

    record: Record
    value: WaterSession
    setups: tuple[Record, ...]
    tracks: tuple[Record, ...]
    words: tuple[Record, ...]
    readings: tuple[Record, ...]

    @property
    def uid(self) -> str:
        """Its identity."""
        return self.record.uid

    @property
    def setup(self) -> SetUp | None:
        """What was ridden last in it."""
        value = self.setups[-1].value if self.setups else None
        return value if isinstance(value, SetUp) else None

    @cached_property
    def best(self) -> tuple[str, float] | None:
        """The best 10 seconds of its tracks that count [m/s]."""
        found = [
            (name, speed)
            for track in self.tracks
            if isinstance(track.value, TrackFile) and not track.value.struck
            for name, speed in track.value.bests
            if name == "10 s"
        ]
        return max(found, key=lambda item: item[1]) if found else None

    @property
    def hours(self) -> float:
        """On the water, by what was typed, else by its tracks [h]."""
        typed = sum(r.value.hours for r in self.setups if isinstance(r.value, SetUp))
        kept = sum(r.value.hours for r in self.tracks if isinstance(r.value, TrackFile) and not r.value.struck)
        return float(typed or kept)

    @cached_property
    def text(self) -> str:
        """All that is written of it, small letters, to be searched."""
        parts = [self.value.day, _day_words(self.value.day), self.value.place, self.value.notes, self.value.water or ""]
        if self.value.wind_high > 0:
            parts.append(f"{self.value.wind_low / KNOT:.0f}–{self.value.wind_high / KNOT:.0f} kn")
        for record in self.setups:
            s = record.value
            if isinstance(s, SetUp):
                parts += [s.board, s.rider, s.drive, s.foil, s.fin, s.partner]
        parts += [r.value.words + " " + r.value.who for r in self.words if isinstance(r.value, Said)]
        parts += [r.value.name for r in self.tracks if isinstance(r.value, TrackFile)]
        if self.value.draft:
            parts.append("draft")
        return " ".join(parts).casefold()


def _day_words(day: str) -> str:
    try:
        found = date.fromisoformat(day)
    except ValueError:
        return ""
    return f"{found:%B} {found:%b} {found.day} {found:%A}"


def logged(records: Iterable[Record]) -> tuple[Logged, ...]:
    """Every session, the newest first."""
    sessions: list[Record] = []
    about: dict[str, dict[RecordKind, list[Record]]] = {}
    setups: dict[str, str] = {}
    later: list[Record] = []
    for record in sorted(records, key=lambda r: r.first_at):
        if record.gone:
            continue
        value = record.value
        if isinstance(value, WaterSession):
            sessions.append(record)
        elif isinstance(value, SetUp):
            setups[record.uid] = value.session
            about.setdefault(value.session, {}).setdefault("set-up", []).append(record)
        elif isinstance(value, OnTheWater):
            later.append(record)
        elif isinstance(value, (TrackFile, Said)) and value.session:
            about.setdefault(value.session, {}).setdefault(record.kind, []).append(record)
    for record in later:
        session = setups.get(record.value.setup, "")
        about.setdefault(session, {}).setdefault("on the water", []).append(record)
    found = [_logged(record, about.get(record.uid, {})) for record in sessions]
    return tuple(sorted(found, key=lambda one: (one.value.day, one.record.first_at), reverse=True))


def _logged(record: Record, about: dict[RecordKind, list[Record]]) -> Logged:
    return Logged(
        record, record.value, *(tuple(about.get(kind, ())) for kind in ("set-up", "track", "said", "on the water"))
    )


def searched(log: Sequence[Logged], words: str) -> list[Logged]:
    """Sessions in which every word stands, as they are typed; all of them for none."""
    wanted = words.casefold().split()
    return [one for one in log if all(word in one.text for word in wanted)]


def last_setup(log: Sequence[Logged], board: str = "") -> SetUp | None:
    """What was ridden last, with a board of this name where one is named; struck sessions do not count."""
    for one in log:
        if one.value.struck:
            continue
        for record in reversed(one.setups):
            value = record.value
            if isinstance(value, SetUp) and (not board or value.board.casefold() == board.casefold()):
                return value
    return None


def again(setup: SetUp, session: str) -> SetUp:
    """The same set-up in another session, hours to be said anew."""
    return replace(setup, session=session, hours=0.0)


_POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def bearing_of(words: str) -> float | None:
    """A bearing as somebody typed it, in degrees or as a point of the compass [rad]; None for nothing.

    Raises
    ------
    InputError
        When it is neither.
    """
    typed = words.strip().upper().removesuffix("°").strip()
    if not typed:
        return None
    if typed in _POINTS:
        return radians(22.5 * _POINTS.index(typed))
    try:
        turned = float(typed.replace(",", "."))
    except ValueError:
        turned = -1.0
    if not 0 <= turned <= 360:
        raise InputError(f"“{words.strip()}” is no bearing", where="From", accepts="Degrees from 0 to 360, or SW")
    return radians(turned % 360)


def bearing_words(bearing: float | None) -> str:
    """A bearing as it is read: “240° WSW”."""
    if bearing is None:
        return ""
    turn = degrees(bearing) % 360
    return f"{turn:.0f}° {_POINTS[round(turn / 22.5) % 16]}"


def day_of(words: str, today: date) -> str:
    """A day as somebody typed it: “today”, “yesterday”, 14.10., 2026-10-14, as YYYY-MM-DD.

    Raises
    ------
    InputError
        When it is no day, or one that is yet to come.
    """
    typed = words.strip().casefold()
    if typed in ("", "today"):
        return today.isoformat()
    if typed == "yesterday":
        return date.fromordinal(today.toordinal() - 1).isoformat()
    found: date | None = None
    for form in ("%Y-%m-%d", "%d.%m.%Y", "%d.%m.%y"):
        try:
            found = datetime.strptime(typed, form).date()
            break
        except ValueError:
            continue
    if found is None:
        pieces = typed.rstrip(".").split(".")
        if len(pieces) == 2 and all(piece.strip().isdigit() for piece in pieces):
            try:
                found = date(today.year, int(pieces[1]), int(pieces[0]))
                found = found if found <= today else found.replace(year=today.year - 1)
            except ValueError:
                found = None
    if found is None:
        raise InputError(f"“{words.strip()}” is no day", where="Day", accepts="Type it like 2026-10-14, or 14.10.")
    if found > today:
        raise InputError(f"{found.isoformat()} is yet to come", where="Day", accepts="A session is logged afterwards")
    return found.isoformat()
