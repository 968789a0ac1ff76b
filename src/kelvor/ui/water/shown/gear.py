"""Gear that wears, ladders of fins, and corrections, in words."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from kelvor.core.base.figures import Figures
from kelvor.core.base.units import KNOT, Quantity, System, text
from kelvor.core.register.kinds.water import Incident
from kelvor.core.register.record import record_name
from kelvor.core.water.calibration import KINDS, Correction, Kind
from kelvor.core.water.sessions.corrected import CORRECTED
from kelvor.core.water.sessions.ladder import Rung
from kelvor.core.water.sessions.wear import Worn
from kelvor.ui.shown.shown import Row

KIND_WORDS: dict[Kind, str] = {
    "mass": "What boards weigh", "least wind": "Least wind", "speed": "Speeds under sail or paddle",
    "watts": "Watts of a pace",
}  # fmt: skip
CAUTION = (
    "A cracked fin, foil, mast or box is retired, not passed on. The maker's rules, local rules and licensed practice "
    "come first."
)


def worn_rows(found: Iterable[Worn]) -> list[tuple[str, ...]]:
    """Name, kind, hours, sessions, last, what it asks for."""
    return [
        (
            record_name(w.record),
            w.record.kind,
            f"{w.hours:.1f}" if w.hours else "",
            str(w.sessions or ""),
            w.last,
            w.due,
        )
        for w in found
    ]


def incident_rows(worn: Worn | None) -> list[Row]:
    """What happened to a piece of gear."""
    if worn is None:
        return []
    rows = [Row("", record_name(worn.record), "")]
    if worn.why:
        rows.append(Row("why", worn.why, tip=worn.why))
    for record in worn.incidents:
        value = record.value
        if isinstance(value, Incident):
            retired = ", retired" if value.retired else ""
            rows.append(
                Row(
                    record.uid,
                    f"{value.day} {value.kind}{retired}: {value.words}",
                    struck=bool(value.struck),
                    tip=value.struck or value.words,
                )
            )
    return rows


def ladder_rows(rungs: Sequence[Rung], system: System) -> list[tuple[str, ...]]:
    """Fins from the largest down: name, depth, share of the width, sessions, wind, best, what was said."""
    found: list[tuple[str, ...]] = []
    for rung in rungs:
        wind = f"{rung.wind[0] / KNOT:.0f}–{rung.wind[1] / KNOT:.0f}" if rung.wind is not None else ""
        found.append(
            (
                rung.name,
                text(rung.span, Quantity.LENGTH, system),
                f"{rung.share:.2f}" if rung.share else "",
                str(rung.sessions or ""),
                wind,
                f"{rung.best / KNOT:.1f}" if rung.best else "",
                rung.said,
            )
        )
    return found


def correction_rows(found: dict[Kind, Correction]) -> list[tuple[str, ...]]:
    """Each kind: factor, what it rests on, left out, used."""
    rows: list[tuple[str, ...]] = []
    for kind in KINDS:
        c = found[kind]
        used = f"× {c.factor:.3f} ± {100 * c.band:.0f} %" if c.used else "plain"
        missed = f"{100 * c.error:.1f} % / {100 * c.plain_error:.1f} %" if len(c.boards) > 1 else ""
        rows.append((KIND_WORDS[kind], used, str(len(c.boards) or "none"), missed, c.why))
    return rows


def board_rows(c: Correction) -> list[Row]:
    """The boards a correction rests on."""
    learnt = [
        Row(name, name, f"{100 * (ratio - 1):+.1f} %", tip="Measured against computed") for name, ratio in c.boards
    ]
    doubted = [
        Row(
            name, name, f"{100 * (ratio - 1):+.1f} %, doubted", tip="Too far off to be learnt from: look at the reading"
        )
        for name, ratio in c.doubted
    ]
    return learnt + doubted


def forecast_rows(plain: Figures, ours: Figures, system: System) -> list[tuple[str, ...]]:
    """Figures of the board on the bench that a correction bears on: plain, and by our own boards."""
    found: list[tuple[str, ...]] = []
    for keys in CORRECTED.values():
        for key in keys:
            before, after = plain.get(key), ours.get(key)
            if before is None or after is None or before.value != before.value:
                continue
            quantity = before.definition.quantity
            told = [f"{text(f.value, quantity, system)} ± {text(f.band, quantity, system)}" for f in (before, after)]
            found.append((before.definition.label, told[0], told[1] if after.value != before.value else "plain"))
    return found
