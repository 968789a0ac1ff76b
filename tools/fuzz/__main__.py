"""The whole run, for somebody who waits."""

import sys
import tempfile
from pathlib import Path

from tools.fuzz.files import fuzz_files, fuzz_large
from tools.fuzz.outcome import Outcome
from tools.fuzz.workshops import fuzz_workshops

LARGE = 50_000_000
"""Bytes of a real scan."""


def main() -> int:
    numbers = [int(word) for word in sys.argv[1:]]
    files, workshops, seed = (*numbers, *(10_000, 500, 1)[len(numbers) :])
    outcome = Outcome()
    keep = Path(tempfile.mkdtemp(prefix="fuzz-"))
    fuzz_files(files, seed, outcome, keep)
    fuzz_workshops(workshops, seed, outcome)
    print(outcome.words())
    if files >= 1000:
        fuzz_large(LARGE, seed, outcome)  # makes them too, which takes as much again
    print("slowest:", sorted(outcome.slow, reverse=True)[:12])
    for fault in outcome.faults[:40]:
        print(fault)
    if outcome.faults:
        print(f"kept in {keep}")
    return 1 if outcome.faults else 0


if __name__ == "__main__":
    sys.exit(main())
