"""A trade-off curve as the panel shows it: a chart, and a row for each of its boards."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kelvor.core.base.units import System, inside, text, unit_of
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark
from kelvor.core.seek.problem import Demand, SeekProblem
from kelvor.core.seek.trade import Trade, TradePoint


def wishes_met(point: TradePoint, wishes: Sequence[Demand]) -> int:
    """How many of the brief's wishes a board meets; what does not exist there is not met."""
    return sum(w.figure in point.values and w.met_by(point.values[w.figure]) for w in wishes)


def trade_chart(problem: SeekProblem, trade: Trade, wishes: Sequence[Demand], system: System) -> Chart:
    """The second figure over the first, the wishes that each board meets written at it."""
    first, second = (BY_KEY[key] for key in problem.keys)
    points = sorted(trade.points, key=lambda p: p.values[first.key])
    x, y = (np.array([p.values[d.key] for p in points]) for d in (first, second))
    marks = tuple(
        ChartMark(float(a), f"{wishes_met(p, wishes)} of {len(wishes)}" if wishes else "", float(b))
        for a, b, p in zip(x, y, points, strict=True)
    )
    caption = "Each mark is a board, with how many of the brief's wishes it meets" if wishes else "Each mark is a board"
    title = f"{second.label} against {inside(first.label)}"
    labels = [f"{d.label}, {sign}" if (sign := unit_of(d.quantity, system).sign) else d.label for d in (first, second)]
    return Chart(
        title,
        caption,
        labels[0],
        first.quantity,
        labels[1],
        second.quantity,
        (ChartLine("", "now", x, y),),
        marks,
        from_zero=False,
    )


def trade_heads(problem: SeekProblem) -> tuple[str, ...]:
    """Heads of the table."""
    return (*(BY_KEY[key].label for key in problem.keys), "Wishes", "What moves")


def trade_rows(problem: SeekProblem, trade: Trade, wishes: Sequence[Demand], system: System) -> list[tuple[str, ...]]:
    """A row for each board: both figures, wishes met, what moves."""
    rows = []
    for point in trade.points:
        figures = [text(point.values[key], BY_KEY[key].quantity, system) for key in problem.keys]
        moved = [
            f"{lever.told} {text(now + by * lever.step, lever.quantity, system)}"
            for lever, now, by in zip(problem.levers, problem.readings, point.x, strict=True)
            if abs(by) > 0.05
        ]
        met = f"{wishes_met(point, wishes)} of {len(wishes)}" if wishes else ""
        rows.append((*figures, met, ", ".join(moved) or "nothing"))
    return rows
