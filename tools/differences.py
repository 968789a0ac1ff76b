"""Whether figures that are told apart keep their sign, whatever the coefficients are:

    python -m tools.differences [DRAWS]

A lever of each of seven demo boards is moved by a step, both boards counted with every coefficient drawn about its own
band, and the sign of each figure's difference compared with the one told.
"""

import sys
from dataclasses import fields, replace

import numpy as np

from kelvor.core.base.figures import Figure, difference_band, told_apart
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.levers.catalogue import levers, pull
from kelvor.core.ride.case import BoardCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.model import RideModel
from kelvor.core.ride.stage import ride
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import ABOUT
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.demo.boards import demo_boards

PAIRS = (
    ("shearwater-76", "width"), ("eider-148", "width_1ft_tail"), ("heron-14", "width"), ("turnstone-77", "nose_rocker"),
    ("guillemot-113", "width"), ("martlet-147", "tail_rocker"), ("redshank-137", "width"),
)  # fmt: skip
KEPT = 0.95
"""Share of the draws in which a sign is kept where it counts as sure."""


def figures(model: RideModel, table, condition) -> dict[str, Figure]:
    """Figures of a board with a table of coefficients."""
    drawn = RideModel(model.measured, model.measures, model.mass, model.brief, table)
    told = ride(BoardCase(drawn, {}), condition, pictures=False).figures
    return {f.key: f for f in told if f.valid and f.exists}


def drawn(rng) -> object:
    """The table with every coefficient drawn about its value by its band, inside its limits."""
    values = {}
    for field in fields(TABLE):
        about = ABOUT[field.name]
        values[field.name] = float(
            np.clip(getattr(TABLE, field.name) + about.band * rng.normal(), about.low, about.high)
        )
    return replace(TABLE, **values)


def main() -> None:
    """Print how many differences are told, sure, and told though they are not."""
    draws = int(sys.argv[1]) if len(sys.argv) > 1 else 30
    boards = {slug: (board, brief) for slug, board, brief in demo_boards()}
    rng = np.random.default_rng(41)
    tables = [drawn(rng) for _ in range(draws)]
    seen = told = sure = both = 0
    for slug, key in PAIRS:
        board, brief = boards[slug]
        lever = next(lever for lever in levers(board) if lever.key == key)
        both_boards = board, pull(board, lever, lever.read(board) + lever.step).board
        models = [ride_case(evaluate(b, brief, Resolution.COARSE)).model for b in both_boards]
        condition = condition_of(brief)
        here, there = (figures(model, TABLE, condition) for model in models)
        moved = [tuple(figures(model, table, condition) for model in models) for table in tables]
        for name in sorted(here.keys() & there.keys()):
            gap = there[name].value - here[name].value
            if here[name].definition.ranks or abs(gap) < 1e-12:
                continue
            gaps = [b[name].value - a[name].value for a, b in moved if name in a and name in b]
            kept = np.mean([one * gap > 0 for one in gaps]) >= KEPT if gaps else False
            pair = tuple(replace(figures[name], band_of_difference=0.0) for figures in (there, here))
            if not told_apart(*pair):  # nothing to be read
                continue
            apart = abs(gap) > difference_band(there[name], here[name], counted=False)
            seen, told, sure, both = seen + 1, told + apart, sure + kept, both + (apart and kept)
            if apart != kept:
                words = "told though its sign turns" if apart else "sure and not told"
                print(f"{words}: {slug}, {key}: {name} {gap:+.4g}")
    print(f"{seen} differences to be read, {told} told, {sure} keep their sign in 95 of 100 of {draws} draws")
    print(
        f"{both / max(told, 1):.0%} of what is told is sure; {1 - both / max(sure, 1):.0%} of what is sure is not told"
    )


if __name__ == "__main__":
    main()
