"""Kill a process at random while it commits steps, and look whether any committed one is lost.

    .venv/bin/python -m tools.kill_test [ROUNDS]

A child process appends steps and tells each one's id on a pipe only after the
store has returned. It is killed without warning; every id that was told must
be in the file, whole.
"""

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from kelvor.core.brief import Brief
from kelvor.core.errors import KelvorError
from kelvor.core.starting.families import first_board
from kelvor.workshop.store import Store

_CHILD = """
import sys
from dataclasses import replace
from pathlib import Path
from kelvor.workshop.store import Store
shop = Store.open(Path(sys.argv[1]))
board_id = shop.boards()[0].id
at = shop.left_at(board_id)
board = shop.board(at)
n = 0
while True:
    n += 1
    step = shop.append(board_id, at, replace(board, name=f"{sys.argv[2]}-{n}"), ())
    at = step.id
    print(step.id, f"{sys.argv[2]}-{n}", flush=True)
"""


def kill_rounds(path: Path, rounds: int, seed: int = 1) -> tuple[int, int, int]:
    """Steps told, steps lost, rounds after which the file could not be opened."""
    rng = random.Random(seed)
    if not path.exists():
        shop = Store.create(path)
        shop.add_board(first_board("Kill", "wing foil", 1.4, 0.5, 0.09), Brief(), "Began")
        shop.close()
    told, lost, damaged = 0, 0, 0
    environment = {**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)}
    for number in range(rounds):
        child = subprocess.Popen(
            [sys.executable, "-c", _CHILD, str(path), str(number)], stdout=subprocess.PIPE, text=True, env=environment
        )
        assert child.stdout is not None
        first = child.stdout.readline()
        time.sleep(rng.uniform(0.0, 0.06))
        child.send_signal(signal.SIGKILL)
        rest = child.stdout.read()
        child.wait()
        child.stdout.close()
        lines = [line.split() for line in (first + rest).splitlines() if len(line.split()) == 2 and line]
        if rest and not rest.endswith("\n"):
            lines = lines[:-1]
        try:
            shop = Store.open(path)
            steps = shop.steps(shop.boards()[0].id)
            for step_id, name in lines:
                told += 1
                lost += int(step_id) not in steps or shop.board(int(step_id)).name != name
            shop.close()
        except KelvorError:
            damaged += 1
    return told, lost, damaged


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    with tempfile.TemporaryDirectory() as folder:
        told, lost, damaged = kill_rounds(Path(folder) / "kill.kelvor", rounds)
    print(f"{rounds} kills, {told} steps committed, {lost} lost, {damaged} times the file was damaged")
    sys.exit(1 if lost or damaged else 0)


if __name__ == "__main__":
    main()
