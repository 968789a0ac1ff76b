"""The depth gauge: a dial on a straight rail over the base line that says place and height of the keel.

Its line is the rocker gauge's (`kelvor.devices.rocker_gauge`)::

    K 914.4 4.32     keel, 914.4 mm from the tail, 4.32 mm over the rail
    END              past the last place

``python -m kelvor.devices.depth_gauge SEED PLACE:HEIGHT …`` [mm] is the stand-in:
it draws over an invented board that was to be so high at these places, bent a
little as boards are and off by millimetres at one of them.
"""

from __future__ import annotations

import sys
import time

import numpy as np

from kelvor.devices.rocker_gauge import END

NOISE, BENT, WRONG = 0.05, 0.35, 3.2
"""Standard deviation of a reading, how far the board is bent, and by how much it is off at one place [mm]."""


def depth_gauge_lines(places: list[tuple[float, float]], seed: int = 1) -> list[str]:
    """What the stand-in says at places with heights [mm], and the end."""
    rng = np.random.default_rng(seed)
    wrong = int(rng.integers(len(places))) if places else -1
    turn = rng.uniform(0.0, 2 * np.pi)
    lines = []
    for i, (x, height) in enumerate(places):
        bent = BENT * np.sin(turn + 2 * np.pi * i / max(len(places), 1))
        read = height + bent + (WRONG if i == wrong else 0.0) + rng.normal(0.0, NOISE)
        lines.append(f"K {x:.1f} {read:.2f}")
    return [*lines, END]


def main() -> int:
    """Say the readings, a few each second."""
    try:
        seed = int(sys.argv[1])
        places = [(float(x), float(z)) for x, _, z in (words.partition(":") for words in sys.argv[2:])]
        if not places:
            raise ValueError
    except (IndexError, ValueError):
        sys.stderr.write("Give a seed and places with heights in millimetres, such as 1 305:0.0 914:4.3.\n")
        return 2
    for line in depth_gauge_lines(places, seed):
        sys.stdout.write(line + "\n")
        sys.stdout.flush()
        time.sleep(0.04)
    return 0


if __name__ == "__main__":
    sys.exit(main())
