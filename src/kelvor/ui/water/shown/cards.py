"""Cards for the beach: what stands on them, in the order in which it is typed in afterwards."""

from __future__ import annotations

from collections.abc import Callable
from typing import get_args

from kelvor.core.base.units import KNOT, Quantity, System, text
from kelvor.core.register.kinds.water import SetUp, Trial, WaterState
from kelvor.core.register.record import Record, record_name
from kelvor.core.water.trials.planning import riders_for, run_order

RING = "○ "
_MOST = 7
"""So many of a register are printed to be ringed."""


def session_fields(
    setup: SetUp, place: str, of: Callable[..., list[Record]], system: System
) -> list[tuple[str, str, str]]:
    """Rows of a card: what, as last time, and what may be ringed instead."""

    def rings(*kinds: str, but: str) -> str:
        names = [record_name(record) for record in of(*kinds)]
        return "   ".join(f"{RING}{name}" for name in names if name != but)[: 26 * _MOST]

    def length(value: float) -> str:
        return text(value, Quantity.LENGTH, system) if value > 0 else ""

    states = "   ".join(f"{RING}{state}" for state in get_args(WaterState))
    return [
        ("Board", setup.board, ""),
        ("Day", "", ""),
        ("Place", place, rings("place", but=place)),
        ("Wind, kn", "", "   ".join(f"{RING}{w}" for w in ("8–10", "10–13", "13–16", "16–20", "20–25", "25+"))),
        ("From", "", "   ".join(f"{RING}{p}" for p in ("N", "NE", "E", "SE", "S", "SW", "W", "NW"))),
        ("Water", "", states),
        ("Rider", setup.rider, rings("rider", but=setup.rider)),
        ("How they ride", setup.rides, ""),
        ("Wing, sail, kite", setup.drive, rings("sail", "hand wing", "kite", but=setup.drive)),
        ("Foil", setup.foil, rings("foil", but=setup.foil)),
        ("Fin", setup.fin, rings("fin", but=setup.fin)),
        ("Fin, from the tail", length(setup.fin_place), ""),
        ("Mast base", length(setup.mast_track), ""),
        ("Foil mast", length(setup.foil_mast), ""),
        ("Front strap", length(setup.front_strap), ""),
        ("Back strap", length(setup.back_strap), ""),
        ("Straps turned, °", "", ""),
        ("The other board", setup.partner, ""),
        ("Hours", "", ""),
    ]


def test_words(trial: Trial) -> list[str]:
    """What stands above the runs of a test's card."""
    return [
        f"Only this differs: {trial.differs}. A: {trial.a}. B: {trial.b}. Board: {trial.board}.",
        f"Each run out and back on one line. {trial.margin / KNOT:.2f} kn matters.",
        "Ashore between runs: change, wait, write. Nothing else changes; if it does, write it down.",
    ]


def test_lines(trial: Trial, riders: list[str]) -> list[tuple[str, ...]]:
    """A line for each run: number, which, who; the rest is filled in."""
    order = run_order(trial.order)
    turn = riders_for(trial.order, len(riders))
    rows: list[tuple[str, ...]] = []
    for i, change in enumerate(order):
        name = trial.a if change == "A" else trial.b
        rows.append((str(i + 1), f"{change}, {name}", riders[turn[i]] if riders else "", "", "", "", ""))
    return rows
