"""Thousands of random legal boards of all families: how many close, and whether any surface is open, inward or folded.

.venv/bin/python -m tools.random_boards [COUNT] [FIRST SEED]
"""

import collections
import sys
import time

from tests.support import closed_and_outward, folds, random_family_board

from kelvor.core.shape.surface.sections import Resolution, sections
from kelvor.core.shape.surface.surface import mesh


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 2000
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    begin, refused, wrong = time.monotonic(), collections.Counter(), []
    for seed in range(first, first + count):
        shape = sections(random_family_board(seed), Resolution.NORMAL)
        if isinstance(shape, tuple):
            refused[shape[0].code] += 1
            continue
        problems = folds(shape) + closed_and_outward(mesh(shape))
        if problems:
            wrong.append(seed)
            print(seed, problems)
    closing = count - sum(refused.values())
    print(
        f"{count} boards in {time.monotonic() - begin:.0f} s: {closing} close, {sum(refused.values())} refused "
        f"{dict(refused)}, {len(wrong)} wrong"
    )
    sys.exit(1 if wrong else 0)


if __name__ == "__main__":
    main()
