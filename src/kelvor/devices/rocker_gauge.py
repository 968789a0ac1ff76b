"""The rocker gauge: a wheel on a straight rail that says place and height as it is drawn along a bottom.

Its line, one reading each::

    K 125.0 3.42     keel, 125.0 mm from the tail, 3.42 mm above the rail
    END              drawn off the nose

``python -m kelvor.devices.rocker_gauge`` is the stand-in: it draws an invented
board of the discipline named, with the noise of a good gauge, and writes these
lines to standard output as a gauge on a port would.
"""

from __future__ import annotations

import sys
import time
from typing import get_args

import numpy as np

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.shape.surface.sections import Resolution, sections

NOISE = 1.5e-4
"""Standard deviation of one reading [m] (common practice, no source)."""
END = "END"
_SIZES: dict[str, tuple[float, float, float]] = {
    "wing foil": (1.38, 0.52, 0.095), "kite foil": (1.19, 0.45, 0.05), "downwind foil": (2.17, 0.51, 0.14),
    "wind foil": (2.06, 0.88, 0.14),
    "slalom": (2.28, 0.68, 0.105), "course racing": (2.34, 0.99, 0.13), "wave windsurf": (2.16, 0.57, 0.115),
    "kite surf": (1.69, 0.465, 0.05),
    "twin tip": (1.37, 0.405, 0.012), "paddle surf": (2.49, 0.74, 0.105), "paddle race": (4.2, 0.62, 0.18),
    "prone race": (3.6, 0.50, 0.15),
    "wakeboard": (1.36, 0.42, 0.018), "wake surf": (1.41, 0.51, 0.045),
}  # fmt: skip
"""Invented boards on the rack: length, width, thickness [m]."""


@frozen
class GaugeReading:
    """One reading: place from the tail and height of the keel above the gauge's rail [m]."""

    x: float
    height: float


def parse_rocker_line(line: str) -> GaugeReading | None:
    """A reading, or None at the end of a draw.

    Raises
    ------
    InputError
        When the line is none that a rocker gauge says.
    """
    words = line.split()
    if words == [END]:
        return None
    try:
        if len(words) != 3 or words[0] != "K":
            raise ValueError
        x, height = float(words[1]) * 1e-3, float(words[2]) * 1e-3
    except ValueError:
        raise InputError(
            f"“{line[:40]}” is no reading", where="rocker gauge", accepts="Readings read “K 125.0 3.42”"
        ) from None
    if not (0 <= x <= 7 and abs(height) <= 1):
        raise InputError(
            f"a reading of {x:g} m and {height:g} m", where="rocker gauge", accepts="Check the gauge's zero"
        ) from None
    return GaugeReading(x, height)


def rocker_gauge_lines(discipline: Discipline, seed: int = 1, step: float = 0.05) -> list[str]:
    """What the stand-in says while it draws its board: a reading every `step` metres, and the end."""
    length, width, thick = _SIZES[discipline]
    shape = sections(first_board("On the rack", discipline, length, width, thick), Resolution.NORMAL)
    assert not isinstance(shape, tuple), "the board on the rack closes"
    rng = np.random.default_rng(seed)
    places = np.append(np.arange(0.0, length - 0.02, step), length)
    heights = np.interp(places, shape.x, shape.keel) + rng.normal(0.0, NOISE, len(places)) + 0.012 + 0.004 * places
    return [*(f"K {x * 1e3:.1f} {z * 1e3:.2f}" for x, z in zip(places, heights, strict=True)), END]


def main() -> int:
    """Say the readings, a few each second."""
    wanted = sys.argv[1] if len(sys.argv) > 1 else "kite surf"
    pause = float(sys.argv[2]) if len(sys.argv) > 2 else 0.04
    discipline: Discipline | None = next((kind for kind in get_args(Discipline) if kind == wanted), None)
    if discipline is None:
        sys.stderr.write(f"There is no board for “{wanted}” on the rack.\n")
        return 2
    for line in rocker_gauge_lines(discipline):
        sys.stdout.write(line + "\n")
        sys.stdout.flush()
        time.sleep(pause)
    return 0


if __name__ == "__main__":
    sys.exit(main())
