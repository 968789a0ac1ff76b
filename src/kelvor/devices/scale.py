"""The scale: a bench scale that says a mass on its line a few times each second.

Its line::

    ST 2.847 kg      the reading stands
    US 2.731 kg      it still moves
    OL               too heavy

``python -m kelvor.devices.scale KILOGRAMS`` is the stand-in: it says what a
made-up thing of about that mass would make the scale say, settling first. It
knows nothing of the board on the bench, so it can confirm nothing about it.
"""

from __future__ import annotations

import sys
import time

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen

MADE_UP = {
    "blank": 4.310,
    "cut": 1.620,
    "shaped": 1.480,
    "laminated": 3.370,
    "coated": 3.610,
    "fitted": 4.240,
    "finished": 4.520,
}
"""What lies on the stand-in at each stage of the work [kg]: one invented board, always the same."""
GRAIN = 0.001
"""The scale reads to this [kg]."""


@frozen
class ScaleReading:
    """A mass [kg], and whether it stands."""

    mass: float
    steady: bool


def parse_scale_line(line: str) -> ScaleReading:
    """A reading; raises InputError for what no scale says, and for an overload."""
    words = line.split()
    if words == ["OL"]:
        raise InputError("the scale is overloaded", where="scale", accepts="Take the board off")
    try:
        if len(words) != 3 or words[0] not in ("ST", "US") or words[2] not in ("kg", "lb"):
            raise ValueError
        mass = float(words[1]) * (0.45359237 if words[2] == "lb" else 1.0)
    except ValueError:
        raise InputError(f"“{line[:40]}” is no reading", where="scale", accepts="Readings read “ST 2.847 kg”") from None
    if not -1.0 <= mass <= 150.0:
        raise InputError(f"a reading of {mass:g} kg", where="scale", accepts="Set the scale to zero")
    return ScaleReading(mass, words[0] == "ST")


def scale_lines(mass: float, seed: int = 1) -> list[str]:
    """What the stand-in says: a few moving readings, then steady ones of something a little off that mass."""
    rng = np.random.default_rng(seed)
    true = mass * (1 + rng.normal(0.0, 0.02))
    moving = [f"US {true * (1 + 0.3 * np.exp(-1.2 * i) * np.cos(2.5 * i)):.3f} kg" for i in range(6)]
    return [*moving, *(f"ST {round(true / GRAIN) * GRAIN:.3f} kg" for _ in range(3))]


def main() -> int:
    """Say the readings."""
    try:
        mass = float(sys.argv[1])
    except (IndexError, ValueError):
        sys.stderr.write("Give the mass to weigh in kilograms.\n")
        return 2
    for line in scale_lines(mass, int(sys.argv[2]) if len(sys.argv) > 2 else 1):
        sys.stdout.write(line + "\n")
        sys.stdout.flush()
        time.sleep(0.06)
    return 0


if __name__ == "__main__":
    sys.exit(main())
