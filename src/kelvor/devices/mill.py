"""The mill: a controller that reads programs as text and cuts a block of foam.

``python -m kelvor.devices.mill OUT`` is the stand-in. It reads what is clamped from its input, one JSON object: the
stock's ends, sides and height [m], the collet nut, travels, and programs in order with the cutter that is in the
spindle::

    {"ends": [-0.06, 2.36], "half": 0.42, "height": 0.2, "nut": 0.05, "travel": [3.0, 1.25, 0.4],
     "programs": [{"file": "1-deck-ball.nc", "kind": "ball", "diameter": 0.02, "cuts": 0.18, "sticks_out": 0.23}]}

It knows nothing of the board: only the text. It says where it is, and stops at what a mill would stop at::

    AT 37.5 1-deck-ball.nc
    TOOK 80.0 18.0 412.0 -33.5 61.2 1-deck-ball.nc
    ALARM 1-deck-ball.nc, line 812: a rapid move below the top of the stock
    END

TOOK is the most a program took at once: how deep and how wide, and where the tip was [mm].
What it cut, heights of the block every 2 mm, stands in OUT (NumPy's .npy) when it ends.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.mill import Cutter
from kelvor.core.mill.controller import check_moves, read_program
from kelvor.core.mill.cut import CutBlock, cut

AT, TOOK, ALARM, END = "AT", "TOOK", "ALARM", "END"


def run_programs(clamped: dict[str, Any], out: Path) -> None:
    """Cut a block with programs, saying how far it is; raises KelvorError where a mill would stop."""
    (low, high), half, height = clamped["ends"], float(clamped["half"]), float(clamped["height"])
    block = CutBlock.whole((float(low), float(high)), half, height)
    x, y, z = clamped["travel"]
    files = clamped["programs"]
    for i, program in enumerate(files):
        path = Path(program["file"])
        cutter = Cutter(
            program["kind"], float(program["diameter"]), float(program["cuts"]), float(program["sticks_out"])
        )
        moves = read_program(path.read_text(encoding="ascii"), path.name)
        check_moves(moves, cutter, (float(low), float(high), -half, half, height), (x, y, z), path.name)

        def told(share: float, at: int = i, name: str = path.name) -> None:
            _say(f"{AT} {100 * (at + share) / len(files):.1f} {name}")

        took = cut(block, moves, cutter, float(clamped["nut"]), path.name, told)
        _say(f"{TOOK} {' '.join(f'{1000 * v:.2f}' for v in (took.depth, took.width, *took.place))} {path.name}")
    np.save(out, block.heights)


def _say(words: str) -> None:
    sys.stdout.write(words + "\n")
    sys.stdout.flush()


def main() -> int:
    """Run what is clamped; 2 for what cannot be read."""
    try:
        out = Path(sys.argv[1])
        clamped = json.loads(sys.stdin.read())
        run_programs(clamped, out)
    except KelvorError as error:
        _say(f"{ALARM} {error}")
        return 1
    except (IndexError, KeyError, TypeError, ValueError, OSError) as error:
        sys.stderr.write(f"The mill cannot read what is clamped: {error}\n")
        return 2
    _say(END)
    return 0


if __name__ == "__main__":
    sys.exit(main())
