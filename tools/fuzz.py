"""Throw damaged files at every reader, and damaged rows at every table: each is read as it stands, or refused in one
line.

    .venv/bin/python -m tools.fuzz [FILES] [WORKSHOPS] [SEED]

Files are changed where it hurts: a field, a cell, a group code, an attribute,
bytes. A fault is a traceback, a message of more than one line, a hang, a
document that is accepted and says something else than its text, a workshop that
is changed by being looked at, or one whose rescue drops a row and names none.
"""

import copy
import json
import random
import shutil
import sqlite3
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

from kelvor.core.errors import InputError, KelvorError
from kelvor.demo.boards import demo_boards
from kelvor.demo.workshop import create_demo
from kelvor.devices import rocker_gauge, scale
from kelvor.exchange.checking import problems
from kelvor.exchange.documents import board_text, brief_text, parse_board, parse_brief
from kelvor.exchange.export import export
from kelvor.exchange.limited import limited
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.readings import read_offsets
from kelvor.files import read_text
from kelvor.workshop.rescue import rescue
from kelvor.workshop.soundness import COLUMNS, examined
from kelvor.workshop.store import Damaged, Store

NASTY = ("", "x", "nan", "inf", "-1", "0", "1e300", "-1e300", "1e-300", "9" * 400, "9" * 5000, "1_0", "true", "ä\u202f",
         "\ud800", "\0", "<", "&",
         "'", '"', ";", ",", "1,5", "1.234,5", "½", "-", "[", "{", "\n", "x" * 300, "0x10", "٣",
         "1" * 140_000)  # fmt: skip
VALUES = (None, True, False, -1, 0, 1, 0.5, 1e300, -1e300, 1e-300, 10**40, "", "x", "1_0", "NaN", [], {}, [1, 2],
          {"kind": "v"}, [[]], "x" * 300,
          "\u0000", "a\nb", {"datum": "tail", "offset": 1e9}, [None] * 1000)  # fmt: skip


@dataclass
class Outcome:
    """How a run went."""

    tried: Counter = field(default_factory=Counter)
    read: Counter = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    slow: list[tuple[float, str]] = field(default_factory=list)
    """What took longer than a second, for somebody to look at."""

    def words(self) -> str:
        told = ", ".join(f"{count} {kind} ({self.read[kind]} read)" for kind, count in sorted(self.tried.items()))
        return f"{told}; {len(self.faults)} faults"


def _places(data: object, at: tuple = ()):
    yield at
    for key, value in data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ():
        yield from _places(value, (*at, key))


def mutated_json(text: str, rng: random.Random) -> bytes:
    data = json.loads(text)
    for _ in range(rng.choice((1, 1, 1, 2, 5))):
        path = rng.choice([p for p in _places(data) if p] or [()])
        if not path:
            break
        at, value = data, copy.deepcopy(rng.choice(VALUES))
        for key in path[:-1]:
            at = at[key]
        match rng.randrange(5):
            case 0 if isinstance(at, dict):
                del at[path[-1]]
            case 1 if isinstance(at, list):
                at.extend(copy.deepcopy(at[: rng.choice((1, 50))]) * rng.choice((1, 400)))
            case 2 if isinstance(at, dict):
                at[rng.choice(("extra", "kind", "name", path[-1] + "s"))] = value
            case _:
                at[path[-1]] = value
    return mutated_bytes(json.dumps(data, ensure_ascii=rng.random() < 0.5).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_bytes(data: bytes, rng: random.Random, share: float = 1.0) -> bytes:
    """Bytes cut, doubled, changed or put in, in a share of the cases."""
    if rng.random() > share or not data:
        return data
    at, count = rng.randrange(len(data)), rng.choice((1, 3, 40, 4000))
    match rng.randrange(4):
        case 0:
            return data[:at]
        case 1:
            return data[:at] + rng.randbytes(min(count, 400)) + data[at + count :]
        case 2:
            return data[:at] + data[max(0, at - count) : at] * rng.choice((1, 3)) + data[at:]
        case _:
            return data[:at] + rng.choice(NASTY).encode("utf-8", "surrogatepass") + data[at:]


def mutated_lines(text: str, rng: random.Random, marks: str) -> bytes:
    """Cells of a table, or lines of a drawing, changed."""
    lines = text.splitlines()
    for _ in range(rng.choice((1, 1, 2, 6))):
        i = rng.randrange(len(lines)) if rng.random() < 0.7 else rng.randrange(min(60, len(lines)))
        match rng.randrange(6):
            case 0:
                del lines[i]
                lines = lines or [""]
            case 1:
                lines[i:i] = [lines[i]] * rng.choice((1, 2, 3000))
            case 2:
                lines[i] = ""
            case 3:
                lines[i] = rng.choice(NASTY)
            case _:
                cells = lines[i].split(marks) if marks else [lines[i]]
                cells[rng.randrange(len(cells))] = rng.choice(
                    (*NASTY, "1", "99", "25", "1e22", "LINE", "ARC", "SPLINE", "INSERT")
                )
                lines[i] = (marks or "").join(cells)
    return mutated_bytes(rng.choice(("\n", "\r\n")).join(lines).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_svg(text: str, rng: random.Random) -> bytes:
    head, parts = text.split("<", 1)[0], ["<" + part for part in text.split("<")[1:]]
    for _ in range(rng.choice((1, 1, 3))):
        i = rng.randrange(len(parts))
        match rng.randrange(7):
            case 0:
                parts[i:i] = [parts[i]] * rng.choice((1, 40))
            case 1:
                parts.pop(i)
                parts = parts or ["<svg/>"]
            case 2:
                parts[i:i] = ["<g transform='" + "scale(1.5)" * rng.choice((1, 40, 3000)) + "'>"] * rng.choice((1, 80))
            case 3:
                parts[i:i] = [
                    "<path d='M0 0 "
                    + rng.choice(("A 1 1 0 0 1 9 9 ", "L 1e300 1e300 ", "C nan 1 2 3 4 5 ", "h 1" + "0" * 40)) * 30
                    + "'/>"
                ]
            case 4:
                parts[i:i] = ["<g id='r'><use href='#r'/></g>", "<!DOCTYPE x [<!ENTITY e 'e'>]>"][rng.randrange(2) :]
            case _:
                words = parts[i].split('"')
                if len(words) > 1:
                    words[rng.randrange(len(words) // 2) * 2 + 1] = rng.choice(NASTY)
                parts[i] = '"'.join(words)
    return mutated_bytes((head + "".join(parts)).encode("utf-8", "surrogatepass"), rng, 0.15)


def _says_the_same(text: str, read: str) -> bool:
    """Whether everything a document says is also said by what was read from it."""

    def inside(a: object, b: object) -> bool:
        if isinstance(a, dict):
            return isinstance(b, dict) and all(key in b and inside(value, b[key]) for key, value in a.items())
        if isinstance(a, list):
            return isinstance(b, list) and len(a) == len(b) and all(map(inside, a, b))
        return a == b and isinstance(a, bool) == isinstance(b, bool)

    return inside(json.loads(text), json.loads(read))


def _guarded(kind: str, path: Path, work: Callable[[], object], outcome: Outcome) -> bool:
    """Whether it could be read; what is no plain refusal goes into the faults."""
    outcome.tried[kind] += 1
    began = time.monotonic()
    try:
        with limited(str(path), seconds=20):
            work()
    except KelvorError as error:
        if "\n" in str(error) or not str(error).strip() or str(path.name) not in str(error):
            outcome.faults.append(f"{kind}: no one line that says where: {error!r}")
        return False
    except BaseException as error:  # anything else is what this looks for
        if isinstance(error, KeyboardInterrupt):
            raise
        outcome.faults.append(f"{kind}: {traceback.format_exc(limit=-3)}")
        return False
    finally:
        if (took := time.monotonic() - began) > 1.0:
            outcome.slow.append((round(took, 1), path.name))
    outcome.read[kind] += 1
    return True


def fuzz_files(count: int, seed: int, outcome: Outcome, keep: Path | None = None) -> None:
    """Throw `count` damaged files at the readers."""
    rng = random.Random(seed)
    boards = demo_boards()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        sources: dict[str, list[str]] = {"csv": [], "dxf": [], "svg": []}
        for _, board, _ in boards[:3]:
            for kind, texts in sources.items():
                path = folder / f"whole.{kind}"
                export(board, kind, path, over=True)
                texts.append(path.read_text(encoding="utf-8"))
        for number in range(count):
            kind = rng.choice(("board", "brief", "csv", "dxf", "svg", "line"))
            path = folder / f"{number}.{kind if kind in sources else 'json'}"
            if kind == "line":
                _device_line(rng, outcome)
                continue
            if kind in ("board", "brief"):
                _, board, brief = rng.choice(boards)
                data = mutated_json(board_text(board) if kind == "board" else brief_text(brief), rng)
            elif kind == "svg":
                data = mutated_svg(rng.choice(sources["svg"]), rng)
            else:
                data = mutated_lines(rng.choice(sources[kind]), rng, "," if kind == "csv" else "")
            path.write_bytes(data)
            faults = len(outcome.faults)
            if kind in ("board", "brief"):
                read, write = (parse_board, board_text) if kind == "board" else (parse_brief, brief_text)
                if _guarded(kind, path, lambda path=path, read=read: read(read_text(path), str(path)), outcome):
                    text = read_text(path)
                    if not _says_the_same(text, write(read(text, str(path)))):
                        outcome.faults.append(f"{kind} {number}: read as something else than it says")
            else:
                found: list = []
                reader = read_offsets if kind == "csv" else read_outline
                was_read = _guarded(
                    kind, path, lambda path=path, reader=reader, found=found: found.append(reader(path)), outcome
                )
                if was_read and kind != "csv" and not (0.6 <= found[0].length <= 6.5 and found[0].notes):
                    outcome.faults.append(f"{kind} {number}: read as {found[0].length} m with {found[0].notes}")
            if len(outcome.faults) > faults and keep is not None:
                shutil.copy(path, keep / path.name)
            path.unlink()


def _device_line(rng: random.Random, outcome: Outcome) -> None:
    line = rng.choice(("K 125.0 3.42", "END", "ST 2.847 kg", "OL", "US 1.0 lb"))
    words = line.split()
    words[rng.randrange(len(words))] = rng.choice(NASTY)
    for parse, where in ((rocker_gauge.parse_line, Path("rocker gauge")), (scale.parse_line, Path("scale"))):
        _guarded("line", where, lambda parse=parse: parse(" ".join(words)[:4096]), outcome)


def fuzz_workshops(count: int, seed: int, outcome: Outcome) -> None:
    """Damage rows, tables and pages of `count` workshops, and look, open, read and rescue."""
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        whole = folder / "whole.kelvor"
        create_demo(whole).close()
        with closing(Store.open(whole)) as shop:
            board = shop.boards()[0].id
            step = shop.left_at(board)
            shop.keep_coefficient("arm_share", 0.5)
            shop.keep_material(shop.materials().rates)
            shop.freeze(step, "cut", "K-1")
        for number in range(count):
            path = folder / f"{number}.kelvor"
            shutil.copy(whole, path)
            _damage(path, rng)
            before = path.read_bytes()
            faults = len(outcome.faults)
            _guarded("workshop", path, lambda path=path: _look(path, folder / "new.kelvor", outcome), outcome)
            if path.read_bytes() != before or path.with_name(path.name + "-journal").exists():
                outcome.faults.append(f"workshop {number} (seed {seed}): changed by being looked at")
            for left in (folder / "new.kelvor", path) if len(outcome.faults) == faults else (folder / "new.kelvor",):
                left.unlink(missing_ok=True)


def _damage(path: Path, rng: random.Random) -> None:
    if rng.random() < 0.4:
        data = bytearray(path.read_bytes())
        for _ in range(rng.choice((1, 1, 4))):
            at = rng.randrange(100, len(data))
            for i in range(at, min(at + rng.choice((1, 20, 4096)), len(data))):
                data[i] = rng.randrange(256)
        path.write_bytes(data[: rng.randrange(4096, len(data))] if rng.random() < 0.15 else data)
        return
    with closing(sqlite3.connect(path, isolation_level=None)) as db:
        db.execute("PRAGMA foreign_keys = OFF")
        for _ in range(rng.choice((1, 1, 3))):
            table = rng.choice(list(COLUMNS))
            column = rng.choice(COLUMNS[table])
            value = rng.choice(
                (
                    None,
                    -1,
                    0,
                    10**15,
                    1.5,
                    "x",
                    "",
                    b"\xff\xfe",
                    b"",
                    "{}",
                    "[]",
                    "null",
                    "9" * 5000,
                    "[" * 3000,
                    1e308,
                    "\u0000",
                    "x" * 200_000,
                )
            )
            where = f"WHERE rowid = (SELECT rowid FROM {table} ORDER BY random() LIMIT 1)"
            try:
                match rng.randrange(8):
                    case 0:
                        db.execute(f"DELETE FROM {table} {where}")
                    case 1:
                        db.execute(f"UPDATE {table} SET {column} = CAST(X'FFFE41' AS TEXT) {where}")
                    case 2 if rng.random() < 0.3:
                        db.execute(f"DROP TABLE {table}")
                    case 3:
                        db.execute(f"DELETE FROM {table}")
                    case 4:
                        db.execute(f"UPDATE {table} SET {column} = substr({column}, 1, length({column}) / 2) {where}")
                    case _:
                        db.execute(f"UPDATE {table} SET {column} = ? {where}", (value,))
            except sqlite3.Error:
                continue


def _look(path: Path, new: Path, outcome: Outcome) -> None:
    """Check, open, read all of it, and rescue: what is not in the new file is named."""
    found = problems(path)
    try:
        shop = Store.open(path)
    except Damaged:
        shop = None
    if shop is not None:
        with closing(shop):
            _read_all(shop, found, outcome)
    saved = rescue(path, new)
    wrong = problems(new)
    if wrong:
        outcome.faults.append(f"workshop: the rescued file is not in order: {wrong[0]}")
    if shop is not None:
        with closing(sqlite3.connect(path)) as old, closing(sqlite3.connect(new)) as kept:
            old.text_factory = kept.text_factory = bytes
            lost = sum(_missing(table, old, kept) for table in COLUMNS)
        if lost and not saved.damages:
            outcome.faults.append(f"workshop: {lost} rows are not in the rescued file, and none is named")


def _missing(table: str, old: sqlite3.Connection, kept: sqlite3.Connection) -> int:
    try:
        rows = set(old.execute(f"SELECT * FROM {table}"))
    except sqlite3.Error:
        return 1
    return len(rows - set(kept.execute(f"SELECT * FROM {table}")))


def _read_all(shop: Store, found: list[str], outcome: Outcome) -> None:
    """Every row as a window would ask for it: a refusal must have been named by the check."""
    refused = 0
    boards = []
    for ask in (
        lambda: boards.extend(shop.boards()),
        shop.materials,
        shop.coefficients,
        shop.constructions,
        shop.last_board,
    ):
        refused += not _asked(ask)
    for entry in boards:
        for ask in (shop.brief, shop.pinned, shop.weighings, shop.left_at):
            refused += not _asked(lambda ask=ask, entry=entry: ask(entry.id))
        steps: dict = {}
        refused += not _asked(lambda steps=steps, entry=entry: steps.update(shop.steps(entry.id)))
        refused += sum(not _asked(lambda step=step: shop.board(step)) for step in steps)
    if refused and not found:
        outcome.faults.append("workshop: something cannot be read, and the check called it in order")


def _asked(ask: Callable[[], object]) -> bool:
    try:
        ask()
    except InputError:
        return False
    return True


def main() -> int:
    numbers = [int(word) for word in sys.argv[1:]]
    files, workshops, seed = (*numbers, *(5000, 300, 1)[len(numbers) :])
    outcome = Outcome()
    keep = Path(tempfile.mkdtemp(prefix="fuzz-"))
    fuzz_files(files, seed, outcome, keep)
    fuzz_workshops(workshops, seed, outcome)
    print(outcome.words())
    print("slowest:", sorted(outcome.slow, reverse=True)[:12])
    for fault in outcome.faults[:40]:
        print(fault)
    if outcome.faults:
        print(f"kept in {keep}; files are examined with {examined.__name__}")
    return 1 if outcome.faults else 0


if __name__ == "__main__":
    sys.exit(main())
