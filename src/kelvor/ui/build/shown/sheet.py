"""The measure sheet in words: what each line should read, what was read, and whether it passes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import by_key, difference_words
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.made.as_built import AsBuilt
from kelvor.core.made.made_boards import Made
from kelvor.core.made.sheet import BAGGED, MeasureLine, Outcome, gained, reading_passes

MARKS: dict[Outcome, str] = {"pass": "✓ pass", "fail": "✗ fail", "cannot tell": "? cannot tell"}
SHARP = 1
"""Digits more than a quantity is usually shown with: a sheet is read to what its tools show."""

WRONG_LENGTH, WRONG_ANGLE = 0.06, 0.2
"""No board goes wrong by more than this: such a reading is of another unit or place [m, rad] (judgement)."""
FINE = 4e-4
"""Where less than this is let pass, hundredths of a millimetre count [m]."""


@frozen
class SheetLine:
    """A line to read: its measure, the side or the moment, what was read in SI, and whether it passes."""

    measure: MeasureLine
    side: str
    read: float | None
    simulated: bool
    outcome: Outcome | None

    @property
    def counts(self) -> bool:
        """Whether it was read by somebody: what a stand-in said counts for nothing."""
        return self.outcome is not None and not self.simulated


def sheet_lines(measures: Sequence[MeasureLine], made: Made | None, tolerances: Mapping[str, float]) -> list[SheetLine]:
    """Every line of a sheet, in its order."""
    found = []
    for measure in measures:
        readings = made.readings.get(measure.key, {}) if made is not None else {}
        for side in measure.sides:
            entry = readings.get(side)
            value = None if entry is None else float(entry.value.value)
            outcome = None if value is None else reading_passes(measure, value, tolerances)
            found.append(SheetLine(measure, side, value, entry is not None and entry.origin == "simulated", outcome))
    return found


def measure_name(line: SheetLine, system: System) -> str:
    """A line's measure, and its side or moment."""
    words = line.measure.named(system)
    return f"{words}, {line.side}" if line.side else words


def tool_reading(value: float, measure: MeasureLine, system: System) -> str:
    """A reading or what it should be, as its tool shows it."""
    return text(value, measure.tool.quantity, system, extra=SHARP if measure.tool.quantity is Quantity.LENGTH else 0)


def _small(value: float, measure: MeasureLine, system: System) -> str:
    """A difference, to the tenth of a millimetre, finer where less is let pass."""
    tool = measure.tool
    if tool.quantity is Quantity.ANGLE:
        return text(value, Quantity.ANGLE, system, extra=1)
    return text(value, Quantity.DEPTH, system, extra=1 if tool.tolerance < FINE else 0)


def let_pass(most: float, measure: MeasureLine, system: System) -> str:
    """What is let pass, as it is judged: inches in thousandths, for their fractions are coarser."""
    finer = 1 if system is System.INCH and measure.tool.quantity is not Quantity.ANGLE else 0
    return text(most, Quantity.DEPTH, system, extra=finer) if finer else _small(most, measure, system)


def off_words(line: SheetLine, system: System) -> str:
    """How far off it is, with its sign; nothing where nothing was read."""
    if line.read is None:
        return ""
    off = line.read - line.measure.should
    return f"{'+' if off >= 0 else '−'}{_small(abs(off), line.measure, system)}"


def _verdict(line: SheetLine) -> str:
    """Whether it passes; of what a stand-in said the sign alone, and that it did."""
    if line.outcome is None:
        return ""
    return f"{MARKS[line.outcome][0]} simulated" if line.simulated else MARKS[line.outcome]


def possible(measure: MeasureLine, value: float, words: str, system: System) -> None:
    """Refuse what no board of this design can read there: another unit, or another place.

    Raises
    ------
    InputError
        When a reading lies further from what it should be than that itself, and than any board goes wrong: with both.
    """
    angle = measure.tool.quantity is Quantity.ANGLE
    allowed = max(WRONG_ANGLE, abs(measure.should)) if angle else max(WRONG_LENGTH, 0.5 * abs(measure.should))
    if abs(value - measure.should) > allowed:
        raise InputError(
            f"“{words}” is {tool_reading(value, measure, system)}",
            where=measure.named(system),
            accepts=f"It should read {tool_reading(measure.should, measure, system)}: check the unit, and the place",
        )


def line_rows(lines: Sequence[SheetLine], tolerances: Mapping[str, float], system: System) -> list[tuple[str, ...]]:
    """The sheet as a table."""
    rows: list[tuple[str, ...]] = []
    for line in lines:
        most = tolerances.get(line.measure.kind, line.measure.tool.tolerance)
        read = "" if line.read is None else tool_reading(line.read, line.measure, system)
        rows.append(
            (
                measure_name(line, system),
                tool_reading(line.measure.should, line.measure, system),
                f"± {let_pass(most, line.measure, system)}",
                read,
                off_words(line, system),
                _verdict(line),
            )
        )
    return rows


def loud(line: SheetLine, system: System) -> str:
    """A line that was read, to be seen from across the room."""
    if line.read is None or line.outcome is None:
        return ""
    return f"{tool_reading(line.read, line.measure, system)}   {off_words(line, system)}   {MARKS[line.outcome]}"


BUILT = ("volume", "width", "thickness", "nose_rocker", "tail_rocker")
"""Figures that tell what was built, beside what was planned."""


def built_words(found: AsBuilt, built: Live, planned: Live, system: System) -> str:
    """What a board is as it was measured, against its design."""
    now, then = by_key(built.figures), by_key(planned.figures)
    parts = []
    for key in BUILT:
        if key in now and key in then and now[key].exists and then[key].exists:
            figure = now[key]
            by = difference_words(figure, then[key], system)
            size = text(figure.value, figure.definition.quantity, system)
            parts.append(f"{figure.definition.label.lower()} {size} ({by})")
    left = f"; {' and '.join(found.left)} as designed, for want of readings" if found.left else ""
    return f"As measured: {', '.join(parts)}{left}."


def sheet_summary(lines: Sequence[SheetLine], made: Made | None, system: System) -> str:
    """How many lines were read and pass, and what the bag did to the rocker."""
    read = [line for line in lines if line.counts]
    stand_in = sum(line.simulated for line in lines)
    told = f"{stand_in} simulated, which count for nothing." if stand_in else ""
    if made is None or not read:
        return told
    count = {outcome: sum(line.outcome == outcome for line in read) for outcome in MARKS}
    words = f"{len(read)} of {len(lines)} read: {count['pass']} pass, {count['fail']} fail, "
    words += f"{count['cannot tell']} the tool cannot tell. {told}".rstrip()
    rose = []
    for measure in {line.measure.key: line.measure for line in lines if line.measure.sides == BAGGED}.values():
        entries = made.readings.get(measure.key, {})
        by = gained(measure, {side: e.value.value for side, e in entries.items() if e.origin != "simulated"})
        if by is not None and abs(by) > measure.tool.tolerance:
            way = "rose" if by > 0 else "sank"
            at = text(measure.place, Quantity.LENGTH, system)
            rose.append(f"{at} {way} {text(abs(by), Quantity.DEPTH, system)}")
    return f"{words} In the bag the keel at {', at '.join(rose)}." if rose else words
