"""Kill processes at random while they write, and look whether anything that was told to be written is lost.

    .venv/bin/python -m tools.kills [ROUNDS]

Each round starts a child that edits, fills the registers, migrates, exports or
rescues, and tells what is done on a pipe only after it has returned. It is
killed without warning. What was told must be in the file; files are old or new,
whole; nothing is left half written; a source is never touched.
"""

import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from contextlib import closing
from dataclasses import replace
from pathlib import Path

from kelvor.core.base.errors import KelvorError
from kelvor.core.brief.brief import Brief
from kelvor.core.new_board.first_boards import first_board
from kelvor.demo.workshop import create_demo
from kelvor.exchange.checking import problem_lines
from kelvor.exchange.export import export
from kelvor.files import swept
from kelvor.workshop.store import Store

SAMPLES = Path(__file__).parents[1] / "tests" / "data"
_BEGIN = """
import itertools, shutil, sys
from dataclasses import replace
from pathlib import Path
from kelvor.workshop.store import Store
path, mark = Path(sys.argv[1]), sys.argv[2]
"""
EDITS = (
    _BEGIN
    + """
shop = Store.open(path)
board_id = shop.boards()[0].id
at = shop.left_at(board_id)
board = shop.board(at)
for n in itertools.count():
    at = shop.append(board_id, at, replace(board, name=f"{mark}-{n}"), ()).id
    print("step", at, f"{mark}-{n}", flush=True)
"""
)
REGISTERS = (
    _BEGIN
    + """
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.brief.brief import Wing
from kelvor.core.register.kinds import KINDS, value_of
shop = Store.open(path)
board_id = shop.boards()[0].id
at = shop.left_at(board_id)
for n in itertools.count():
    word = f"{mark}-{n}"
    shop.set_brief(board_id, replace(shop.brief(board_id), title=word)); print("brief", word, flush=True)
    shop.set_reason(at, word); print("reason", word, flush=True)
    shop.freeze(at, "cut", word); print("mark", word, flush=True)
    shop.pin(board_id, at if n % 2 else None); print("pin", at if n % 2 else None, flush=True)
    shop.weigh(board_id, at, WeighIn("shaped", 1 + n / 1000)); print("weigh", 1 + n / 1000, flush=True)
    shop.keep_construction(replace(recipes("wing foil")[0], name=word)); print("construction", word, flush=True)
    if n: shop.drop_construction(f"{mark}-{n - 1}"); print("dropped", f"{mark}-{n - 1}", flush=True)
    shop.keep_material(replace(shop.materials().rates, hour=float(n))); print("rates", float(n), flush=True)
    shop.keep_coefficient("arm_share", 0.2 + n % 50 / 100); print("coefficient", 0.2 + n % 50 / 100, flush=True)
    for kind in KINDS:
        uid = f"{kind.replace(' ', '_')}@{word}"
        needs = {"said": {"words": "w"}, "feel": {"words": ("a", "b")}, "foil": {"name": "n"}}
        needs["handed out"] = {"name": "n", "code": "K7QM-4D2X"}
        needs["reshape"] = {"name": "n", "old": 1}
        needs["made board"] = {"serial": word}
        needs["weighed"] = {"made": "m", "stage": "cut", "mass": 1.0}
        needs["worked"] = {"made": "m", "stage": "cut"}
        needs["read"] = {"made": "m", "measure": "twist", "value": 0.0}
        needs["done"] = {"made": "m", "activity": "shape", "at": "2026-11-27T08:00:00+00:00"}
        needs["tolerance"] = {"kind": word, "most": 0.001}
        needs["order"] = {"customer": word}
        needs["proof"] = {"made": "m", "what": "mast", "moment": 300.0}
        needs["session"] = {"day": "2026-10-14", "place": word}
        needs["set-up"] = {"session": "s", "board": word}
        needs["track"] = {"session": "s", "name": word, "kind": "fit", "sha": "0" * 64}
        needs["on the water"] = {"setup": "s", "what": "speed", "value": 9.0}
        needs["test"] = {"question": word, "differs": "d", "a": "A", "b": "B"}
        needs["test run"] = {"trial": "t", "number": 1, "change": "A", "value": 9.0}
        needs["incident"] = {"what": "f", "name": word}
        needs["retire rule"] = {"kind": "fin", "hours": 99.0}
        needs["columns"] = {"heads": ("t", "a", "o"), "time": "t", "latitude": "a", "longitude": "o"}
        needs["search"] = {"asked": "{}"}
        needs["family"] = {"name": "Family", "mass": 70.0}
        needs["class rule"] = {"name": "Class"}
        needs["note"] = {"words": word}
        needs["size"] = {"family": "f", "mass": 70.0, "parent": 1}
        needs["shore line"] = {"place": word, "points": ((1.0, 0.1), (1.0, 0.2))}
        needs["felt"] = {"name": "n", "lever": "width", "least": 0.01}
        given = needs.get(kind, {"name": "n", "area": 5.0} if kind in ("sail", "hand wing", "kite") else {})
        shop.records.keep(kind, uid, value_of(kind)(**given), board=board_id, step=at, blob=word.encode())
        print("record", uid, flush=True)
"""
)
MIGRATIONS = (
    _BEGIN
    + """
print("ready", flush=True)
Store.open(path).close()
print("done", flush=True)
"""
)
EXPORTS = (
    _BEGIN
    + """
from kelvor.exchange.export import export
shop = Store.open(path)
board = shop.board(shop.left_at(shop.boards()[0].id))
print("ready", flush=True)
for n in itertools.count():
    for kind in ("stl", "csv", "3mf", "json"):
        export(board, kind, path.with_suffix("." + kind), over=True)
"""
)
RESCUES = (
    _BEGIN
    + """
from kelvor.workshop.rescue import rescue
print("ready", flush=True)
for n in itertools.count():
    rescue(path, path.with_name(f"{mark}-{n}.kelvor"))
    print("rescued", f"{mark}-{n}.kelvor", flush=True)
"""
)
Told = list[list[str]]


def killed(script: str, path: Path, mark: str, after: float, lines: int = 1) -> Told:
    """Run a child, kill it some time after it has told so many lines, and return the lines it told whole.

    Raises
    ------
    CalledProcessError
        When it fell by itself before.
    """
    environment = {**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)}
    child = subprocess.Popen(
        [sys.executable, "-c", script, str(path), mark], stdout=subprocess.PIPE, text=True, env=environment
    )
    assert child.stdout is not None
    first = "".join(child.stdout.readline() for _ in range(lines))
    time.sleep(after)
    if not first.endswith("\n"):
        child.wait()
    fell = child.poll()
    child.send_signal(signal.SIGKILL)
    rest = child.stdout.read()
    child.wait()
    child.stdout.close()
    if fell:
        raise subprocess.CalledProcessError(fell, mark)
    told = (first + rest).split("\n")[:-1]
    return [line.split() for line in told if line.split()]


def kill_rounds(path: Path, rounds: int, seed: int = 1) -> tuple[int, int, int]:
    """Rounds of edits: steps told, steps lost, rounds after which the file could not be opened."""
    rng = random.Random(seed)
    if not path.exists():
        shop = Store.create(path)
        shop.add_board(first_board("Kill", "wing foil", 1.4, 0.5, 0.09), Brief(), "Began")
        shop.close()
    told, lost, damaged = 0, 0, 0
    for number in range(rounds):
        lines = killed(EDITS, path, str(number), rng.uniform(0.0, 0.01), lines=rng.randint(1, 6))
        try:
            with closing(Store.open(path)) as shop:
                steps = shop.steps(shop.boards()[0].id)
                for _, step_id, name in lines:
                    told += 1
                    lost += int(step_id) not in steps or shop.board(int(step_id)).name != name
        except KelvorError:
            damaged += 1
    return told, lost, damaged


def _registers(path: Path, mark: str, after: float) -> tuple[int, list[str]]:
    lines = killed(REGISTERS, path, mark, after)
    last = {line[0]: line[-1] for line in lines}
    wrong = []
    with closing(Store.open(path)) as shop:
        board_id = shop.boards()[0].id
        step = shop.steps(board_id)[shop.left_at(board_id)]
        names = [c.name for c in shop.constructions()]
        number = {word: int(word.split("-")[1]) for word in last.values() if word.startswith(f"{mark}-")}
        # the write after the last one told may be there as well
        newer = {
            "brief": shop.brief(board_id).title,
            "reason": step.reason,
            "mark": step.frozen[-1][1] if step.frozen else "",
        }
        for kind, found in newer.items():
            if kind in last and not (
                found.startswith(f"{mark}-") and int(found.split("-")[1]) - number[last[kind]] in (0, 1)
            ):
                wrong.append(f"{kind}: {found}, told {last[kind]}")
        kept = [int(name.split("-")[1]) for name in names if name.startswith(f"{mark}-")]
        if "construction" in last and max(kept, default=-1) < number[last["construction"]]:
            wrong.append(f"construction {last['construction']} is not there")
        if last.get("dropped") in names:
            wrong.append(f"{last['dropped']} was dropped and is there")
        weighed = max((w.mass for w in shop.weighings(board_id) if w.stage == "shaped"), default=0.0)
        if "weigh" in last and weighed < float(last["weigh"]) - 1e-9:
            wrong.append(f"weighed {weighed}, told {last['weigh']}")
        recorded = {record.uid for record in shop.records.of_board(board_id)}
        wrong += [
            f"record {line[-1]} is not there" for line in lines if line[0] == "record" and line[-1] not in recorded
        ]
        if "rates" in last and shop.materials().rates.hour < float(last["rates"]):
            wrong.append("rates")
    return len(lines), wrong


def _migration(folder: Path, rng: random.Random) -> tuple[int, list[str]]:
    path = folder / "old.kelvor"
    shutil.copy(SAMPLES / f"workshop-v{rng.choice((1, 2, 3, 4))}.kelvor", path)
    killed(MIGRATIONS, path, "m", rng.uniform(0.0, 0.02))
    with closing(Store.open(path)) as shop:
        steps = sum(len(shop.steps(board.id)) for board in shop.boards())
    wrong = problem_lines(path)
    with closing(Store.open(path)) as shop:
        return steps, wrong + ([] if steps >= 2 else ["a step is gone"])


def _an_hour_later(folder: Path) -> None:
    """What killed processes left is swept once it is an hour old."""
    for left in folder.glob(".kelvor-*"):
        os.utime(left, (0, 0))
    swept(folder)


def _exports(folder: Path, path: Path, rng: random.Random) -> tuple[int, list[str]]:
    with closing(Store.open(path)) as shop:
        board = shop.board(shop.left_at(shop.boards()[0].id))
    whole = {}
    for kind in ("stl", "csv", "3mf", "json"):
        export(board, kind, folder / f"whole.{kind}", over=True)
        whole[kind] = (folder / f"whole.{kind}").read_bytes()
        path.with_suffix(f".{kind}").write_bytes(b"what was there before")
    killed(EXPORTS, path, "e", rng.uniform(0.0, 0.4))
    _an_hour_later(folder)
    wrong = [str(left) for left in folder.glob(".kelvor-*")]
    for kind, data in whole.items():
        if path.with_suffix(f".{kind}").read_bytes() not in (data, b"what was there before"):
            wrong.append(f"half an export: {kind}")
    return len(whole), wrong


def _rescues(folder: Path, mark: str, rng: random.Random) -> tuple[int, list[str]]:
    path = folder / "source.kelvor"
    if not path.exists():
        create_demo(path).close()
    before = path.read_bytes()
    lines = killed(RESCUES, path, mark, rng.uniform(0.0, 1.2))
    _an_hour_later(folder)
    wrong = [] if path.read_bytes() == before else ["the source was touched"]
    found = sorted(folder.glob(f"{mark}-*.kelvor"))
    wrong += [problem for new in found for problem in problem_lines(new)]
    wrong += [f"{line[1]} is not there" for line in lines if line[0] == "rescued" and folder / line[1] not in found]
    wrong += [str(left) for left in folder.glob(".kelvor-*")]
    for new in found:
        new.unlink()
    return len(found), wrong


def kill_everything(folder: Path, rounds: int, seed: int = 1) -> tuple[Counter, list[str]]:
    """Rounds of every kind in turn: what was told by kind, and what is lost or wrong."""
    rng = random.Random(seed)
    path = folder / "kill.kelvor"
    with closing(Store.create(path)) as shop:
        shop.add_board(replace(first_board("Kill", "wing foil", 1.4, 0.5, 0.09)), Brief(), "Began")
    told: Counter = Counter()
    wrong: list[str] = []
    for number in range(rounds):
        kind = ("edits", "registers", "migrations", "exports", "rescues")[number % 5]
        match kind:
            case "edits":
                count, lost, damaged = kill_rounds(path, 1, rng.randrange(1 << 30))
                found = [f"{lost} steps lost"] * bool(lost) + ["the file cannot be opened"] * damaged
            case "registers":
                count, found = _registers(path, f"r{number}", rng.uniform(0.0, 0.3))
            case "migrations":
                count, found = _migration(folder, rng)
            case "exports":
                count, found = _exports(folder, path, rng)
            case _:
                count, found = _rescues(folder, f"n{number}", rng)
        told[kind] += count
        wrong += [f"{kind}, round {number}: {words}" for words in found]
    return told, wrong


def main() -> int:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    with tempfile.TemporaryDirectory() as name:
        told, wrong = kill_everything(Path(name), rounds)
    print(f"{rounds} kills; told and looked for: {dict(told)}; {len(wrong)} lost or wrong")
    for words in wrong[:20]:
        print(words)
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
