"""What a chart shows: ranges, ticks and the reading under the cursor."""

from __future__ import annotations

from dataclasses import replace
from typing import Generic, TypeVar

import numpy as np

from kelvor.core.base.units import Quantity, System, said_in, text, unit_of
from kelvor.core.base.values import frozen
from kelvor.core.ride.pictures import Chart, ChartLine, Drawing, Picture

P = TypeVar("P", bound=Picture)


@frozen
class Axis:
    """A range in SI, and its ticks as (value in SI, words)."""

    low: float
    high: float
    ticks: tuple[tuple[float, str], ...]

    def share(self, value: float) -> float:
        """Place of a value along the axis, 0 to 1."""
        return (value - self.low) / max(self.high - self.low, 1e-12)


def axis(low: float, high: float, quantity: Quantity, system: System, *, about: int = 5) -> Axis:
    """An axis over a range, with about so many ticks at round numbers of the unit on display."""
    unit = unit_of(quantity, system)
    a, b = (low - unit.offset) / unit.size, (high - unit.offset) / unit.size
    span = max(b - a, 1e-9)
    raw = span / about
    power = 10 ** np.floor(np.log10(raw))
    step = float(next(s for s in (1, 2, 2.5, 5, 10) if s * power >= raw * 0.999) * power)
    first = np.ceil(a / step - 1e-9) * step
    values = np.arange(first, b + step * 1e-6, step)
    decimals = max(0, int(np.ceil(-np.log10(step) - 1e-9))) + (
        1 if abs(step / power - 2.5) < 1e-9 and power <= 1 else 0
    )
    ticks = tuple(
        (
            float(v * unit.size + unit.offset),
            f"{v + 0.0 if abs(v) > step * 1e-6 else 0.0:.{decimals}f}".replace("-", "−"),
        )
        for v in values
    )
    return Axis(low, high, ticks)


@frozen
class PictureBehind(Generic[P]):
    """The same picture of a board shown behind, what that board is called, and the role of its colour."""

    picture: P
    name: str
    role: str = "pinned"


def of_kind(behind: list[PictureBehind[Picture]], kind: type[P]) -> tuple[PictureBehind[P], ...]:
    """Those of one kind of picture."""
    return tuple(PictureBehind(b.picture, b.name, b.role) for b in behind if isinstance(b.picture, kind))


def ranges(chart: Chart, behind: tuple[PictureBehind[Chart], ...], system: System) -> tuple[Axis, Axis]:
    """Both axes of a chart, room for those behind in them."""
    lines = [*chart.lines, *(line for other in behind for line in other.picture.lines)]
    xs = np.concatenate([line.x for line in lines])
    tops, lows = [], []
    for line in lines:
        wide = line.band if line.band is not None else 0.0
        tops.append(float(np.max(line.y + np.minimum(wide, 0.5 * np.abs(line.y) + 1e-12))))
        lows.append(float(np.min(line.y)))
    low, high = min(lows), max(tops)
    if chart.from_zero and low >= 0:
        low = 0.0
    room = 0.06 * (high - low or abs(high) or 1.0)
    bottom = low - (0 if chart.from_zero and low >= 0 else room)
    return (
        axis(float(xs.min()), float(xs.max()), chart.x, system, about=7),
        axis(bottom, high + room, chart.y, system),
    )


def picture_in(picture: Picture, system: System) -> Picture:
    """A picture with its words in the reader's units; what is drawn stays as it is."""
    if system is System.METRIC:
        return picture
    title, caption = said_in(picture.title, system), said_in(picture.caption, system)
    if isinstance(picture, Drawing):
        return replace(
            picture,
            title=title,
            caption=caption,
            labels=tuple((x, y, said_in(w, system)) for x, y, w in picture.labels),
        )
    return replace(
        picture,
        title=title,
        caption=caption,
        x_label=_axis_words(picture.x_label, picture.x, system),
        y_label=_axis_words(picture.y_label, picture.y, system),
        lines=tuple(replace(line, name=said_in(line.name, system)) for line in picture.lines),
        marks=tuple(replace(mark, text=said_in(mark.text, system)) for mark in picture.marks),
    )


def _axis_words(words: str, quantity: Quantity, system: System) -> str:
    """An axis label that ends on its metric unit, ending on the reader's."""
    metric, own = unit_of(quantity).sign, unit_of(quantity, system).sign
    return words[: -len(metric)] + own if metric and words.endswith(metric) else words


def chart_reading(chart: Chart, behind: tuple[PictureBehind[Chart], ...], x: float, system: System) -> str:
    """What the lines read at a place: “4.6 kn: drag 118 N, push of the hand wing 121 N; step 9: drag 131 N”."""
    words = f"{text(x, chart.x, system)}: " + ", ".join(
        f"{line.name} {text(_at(line, x), chart.y, system)}" for line in chart.lines
    )
    for other in behind:
        line = other.picture.lines[0]
        words += f"; {other.name}: {line.name} {text(_at(line, x), chart.y, system)}"
    return words


def chart_rows(
    chart: Chart, behind: tuple[PictureBehind[Chart], ...], system: System, own: str = "on the bench"
) -> list[tuple[str, ...]]:
    """The numbers of a chart, a row a point, in the reader's units: board, line, place, value, half-width of
    its band.
    """
    x_unit, y_unit = unit_of(chart.x, system), unit_of(chart.y, system)
    found: list[tuple[str, ...]] = [
        ("board", "line", chart.x_label, f"{chart.title}, {y_unit.sign}".rstrip(", "), "band")
    ]
    for board, picture in ((own, chart), *((other.name, other.picture) for other in behind)):
        for line in picture.lines:
            bands = line.band if line.band is not None else np.full_like(line.y, np.nan)
            for x, y, band in zip(line.x, line.y, bands, strict=True):
                shown = ((x - x_unit.offset) / x_unit.size, (y - y_unit.offset) / y_unit.size, band / y_unit.size)
                found.append((board, line.name, *(f"{v:.6g}" if np.isfinite(v) else "" for v in shown)))
    return found


def _at(line: ChartLine, x: float) -> float:
    return float(np.interp(x, line.x, line.y))
