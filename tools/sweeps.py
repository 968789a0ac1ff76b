"""Whether a figure leaps where a lever only moves a little:

    python -m tools.sweeps [SEED]

Twelve levers of each of nine demo boards are moved two fair steps either way, in thirteen, and every figure of the ride
is followed. A leap is a step that parts from the steps before and after it by more than the figure's band at the
moment; a struck figure ends its sweep.
"""

import sys
from itertools import takewhile

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.levers.catalogue import levers, pulled_by
from kelvor.core.levers.lever import Lever
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.stage import ride
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards

BOARDS = (
    "shearwater-76", "skua-102", "tern-71", "redshank-139", "dunlin-39", "heron-14", "martlet-147", "dipper-138",
    "guillemot-113",
)  # fmt: skip
LEVERS, STEPS = 12, 13
Followed = list[dict[str, tuple[float, float, bool]]]
"""Value, band and whether it holds, of every figure at each step."""


def followed(board: Board, brief: Brief, lever: Lever) -> Followed:
    """Figures of a board at each step of a lever, as far as it can be pulled."""
    steps: Followed = []
    for by in np.linspace(-2, 2, STEPS):
        try:
            pulled = pulled_by(board, lever, by)
        except RefusedEdit:  # the lever's end
            continue
        found = evaluate(pulled, brief, Resolution.COARSE)
        if isinstance(found, tuple):  # no board any more
            continue
        told = ride(ride_case(found), condition_of(brief), pictures=False)
        steps.append({f.key: (f.value, f.band, f.valid and f.exists) for f in told.figures})
    return steps


def leaps(values: np.ndarray, bands: np.ndarray) -> np.ndarray:
    """Which steps (n - 1,) part from both of their neighbours by more than the band there."""
    steps = np.diff(values)
    before, after = np.r_[steps[1], steps[:-1]], np.r_[steps[1:], steps[-2]]
    parts = np.minimum(np.abs(steps - before), np.abs(steps - after))
    found: np.ndarray = parts > np.maximum(bands[1:], bands[:-1])
    return found


def main() -> None:
    """Print every leap, and how many figures were followed."""
    rng = np.random.default_rng(int(sys.argv[1]) if len(sys.argv) > 1 else 35)
    boards = {slug: (board, brief) for slug, board, brief in demo_boards()}
    seen = leapt = 0
    for slug in BOARDS:
        board, brief = boards[slug]
        there = [lever for lever in levers(board) if not lever.choices]
        for i in sorted(rng.permutation(len(there))[:LEVERS]):
            lever = there[i]
            steps = followed(board, brief, lever)
            for key in {key: None for step in steps for key in step}:
                held = list(takewhile(lambda told: told[2], (step[key] for step in steps if key in step)))
                if len(held) < 4:
                    continue
                seen += 1
                values, bands, _ = (np.array(column) for column in zip(*held, strict=True))
                for j in np.flatnonzero(leaps(values, bands)):
                    leapt += 1
                    print(f"{slug}, {lever.key}: {key} {values[j]:.4g} to {values[j + 1]:.4g}", flush=True)
        print(f"{slug}: {seen} sweeps so far, {leapt} leaps", flush=True)


if __name__ == "__main__":
    main()
