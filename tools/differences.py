"""Whether figures that are told apart keep their sign, whatever the coefficients are:

    python -m tools.differences [DRAWS]

A lever of each of seven demo boards is moved by a step, both boards counted with every coefficient drawn about its own
band, and then by five other methods, and the sign of each figure's difference compared with the one told.
"""

import sys
from contextlib import ExitStack, contextmanager
from dataclasses import fields, replace
from unittest.mock import patch

import numpy as np

from kelvor.core.base.figures import Figure, difference_band, told_apart
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.ride.case import BoardCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.model import RideModel
from kelvor.core.ride.stage import ride
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.displacement.waves import wave_drag
from kelvor.core.tank.laws.coefficients import ABOUT
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.planing.edge import edge_trim
from kelvor.demo.boards import demo_boards

PAIRS = (
    ("shearwater-76", "width"), ("eider-148", "width_1ft_tail"), ("heron-14", "width"), ("turnstone-77", "nose_rocker"),
    ("guillemot-113", "width"), ("martlet-147", "tail_rocker"), ("redshank-137", "width"),
)  # fmt: skip
TANK = "kelvor.core.tank"


def _schlichting(reynolds):
    """Friction of a smooth plate, turbulent from its edge on (Prandtl and Schlichting 1932, from memory)."""
    return 0.455 / np.log10(np.maximum(np.asarray(reynolds, float), 1e4)) ** 2.58


def _low_aspect(aspect):
    """Lift slope of a plate as π/2 of its aspect ratio where it is small, 2π where it is great."""
    a = np.asarray(aspect, float)
    return np.pi / 2 * a / (1 + a / 4)


def _fewer_waves(*args):
    """Seven tenths of the waves of a thin ship, as broad hulls are said to make."""
    made, thin = wave_drag(*args)
    return 0.7 * made, thin


METHODS = {
    "friction of Prandtl and Schlichting": (
        (f"{TANK}.planing.states.ittc57", _schlichting), (f"{TANK}.laws.friction.ittc57", _schlichting),
        ("kelvor.core.ride.floater.ittc57", _schlichting),
    ),
    "seven tenths of the waves": ((f"{TANK}.displacement.waves.wave_drag", _fewer_waves),),
    "the mean beam lifts": ((f"{TANK}.planing.bottom.lifting_beam", lambda mean, greatest, length: mean),),
    "slopes of slender plates": (
        (f"{TANK}.lifting.fins.plate_slope", _low_aspect), ("kelvor.core.ride.equipped.plate_slope", _low_aspect),
        (f"{TANK}.lifting.foils.helmbold", _low_aspect),
    ),
    "the edge as a wedge beside a wall": (
        (f"{TANK}.planing.edge.edge_trim", lambda *args: edge_trim(*args) / 1.26),
    ),
}  # fmt: skip
"""Other methods, by what takes the place of which function."""
KEPT = 0.95
"""Share of the draws in which a sign is kept where it counts as sure."""


@contextmanager
def by(swaps):
    """The tank by another method."""
    with ExitStack() as stack:
        for name, function in swaps:
            stack.enter_context(patch(name, function))
        yield


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
    seen = told = sure = both = by_all = 0
    for slug, key in PAIRS:
        board, brief = boards[slug]
        lever = next(lever for lever in levers(board) if lever.key == key)
        both_boards = board, pull_lever(board, lever, lever.read(board) + lever.step).board
        condition = condition_of(brief)
        models = [ride_case(evaluate(b, brief, Resolution.COARSE)).model for b in both_boards]
        otherwise = {}
        for method, swaps in METHODS.items():
            with by(swaps):  # nothing counted before may be kept
                fresh = [ride_case(evaluate(b, brief, Resolution.COARSE)).model for b in both_boards]
                otherwise[method] = tuple(figures(model, TABLE, condition) for model in fresh)
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
            turned = [
                method
                for method, (a, b) in otherwise.items()
                if name in a and name in b and (b[name].value - a[name].value) * gap <= 0
            ]
            if apart and turned:
                print(f"turned by {', '.join(turned)}: {slug}, {key}: {name} {gap:+.4g}")
            seen, told, sure, both = seen + 1, told + apart, sure + kept, both + (apart and kept)
            by_all += apart and not turned
            if apart != kept:
                words = "told though its sign turns" if apart else "sure and not told"
                print(f"{words}: {slug}, {key}: {name} {gap:+.4g}")
    print(f"{seen} differences to be read, {told} told, {sure} keep their sign in 95 of 100 of {draws} draws")
    print(
        f"{both / max(told, 1):.0%} of what is told is sure; {1 - both / max(sure, 1):.0%} of what is sure is untold; "
        f"{by_all} of {told} told keep it by all {len(METHODS)} other methods"
    )


if __name__ == "__main__":
    main()
