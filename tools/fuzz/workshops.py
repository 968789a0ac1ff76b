"""Damaged rows, tables and pages of workshops: looked at, opened, read and rescued."""

import random
import shutil
import sqlite3
import tempfile
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from kelvor.core.base.errors import InputError
from kelvor.core.register.kinds import KINDS as RECORDS
from kelvor.demo.workshop import create_demo
from kelvor.exchange.checking import problem_lines
from kelvor.workshop.rack import cards
from kelvor.workshop.rescue import rescue
from kelvor.workshop.soundness import COLUMNS
from kelvor.workshop.store import Damaged, Store
from tools.fuzz.damage import mutated_json
from tools.fuzz.outcome import Outcome, guarded

SAMPLE = Path(__file__).parents[2] / "tests" / "data" / "workshop-v6.kelvor"
"""Holds a record of every kind."""


def fuzz_workshops(count: int, seed: int, outcome: Outcome) -> None:
    """Damage rows, tables and pages of `count` workshops, and look, open, read and rescue."""
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        whole = folder / "whole.kelvor"
        create_demo(whole).close()
        _with_every_kind(whole)
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
            guarded("workshop", path, lambda path=path: _look(path, folder / "new.kelvor", outcome), outcome)
            if path.read_bytes() != before or path.with_name(path.name + "-journal").exists():
                outcome.faults.append(f"workshop {number} (seed {seed}): changed by being looked at")
            for left in (folder / "new.kelvor", path) if len(outcome.faults) == faults else (folder / "new.kelvor",):
                left.unlink(missing_ok=True)


def _with_every_kind(path: Path) -> None:
    """Records of every kind from the kept sample go into a workshop too."""
    with closing(sqlite3.connect(path, isolation_level=None)) as db:
        db.execute("ATTACH ? AS sample", (str(SAMPLE),))
        columns = ", ".join(COLUMNS["records"][1:])
        db.execute(f"INSERT INTO records ({columns}) SELECT {columns} FROM sample.records")
        db.execute("INSERT INTO blob_parts (sha, part, data) SELECT sha, part, data FROM sample.blob_parts")


def _record_changed(db: sqlite3.Connection, rng: random.Random) -> None:
    """A field of a record, of a kind taken by chance, changed: the kinds are as often damaged as each other."""
    [kind] = rng.choice(db.execute("SELECT DISTINCT kind FROM records ORDER BY kind").fetchall())
    key, data = rng.choice(db.execute("SELECT id, data FROM records WHERE kind = ? ORDER BY id", (kind,)).fetchall())
    triggers = db.execute("SELECT name, sql FROM sqlite_master WHERE type = 'trigger'").fetchall()
    for name, _ in triggers:
        db.execute(f"DROP TRIGGER {name}")
    db.execute("UPDATE records SET data = CAST(? AS TEXT) WHERE id = ?", (mutated_json(data, rng), key))
    for _, made in triggers:
        db.execute(made)


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
        if rng.random() < 0.5:
            _record_changed(db, rng)
            return
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
    found = problem_lines(path)
    try:
        shop = Store.open(path)
    except Damaged:
        shop = None
    if shop is not None:
        with closing(shop):
            _read_all(shop, found, outcome)
    saved = rescue(path, new)
    wrong = problem_lines(new)
    if wrong:
        outcome.faults.append(f"workshop: the rescued file is not in order: {wrong[0]}")
    if shop is not None:
        with closing(sqlite3.connect(path)) as old, closing(sqlite3.connect(new)) as kept:
            old.text_factory = kept.text_factory = bytes
            lost = {table: gone for table in COLUMNS if (gone := _missing(table, old, kept))}
        if lost and not saved.damages and not saved.cleaned:
            outcome.faults.append(f"workshop {path.name}: not in the rescued file, and none is named: {lost}")


def _missing(table: str, old: sqlite3.Connection, kept: sqlite3.Connection) -> str:
    """The first row that is not there any more, in short; nothing where all are."""
    try:
        rows = set(old.execute(f"SELECT * FROM {table}"))
    except sqlite3.Error:
        return "all of it"
    return str(next(iter(rows - set(kept.execute(f"SELECT * FROM {table}"))), ""))[:300]


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
        lambda: shop.records.newest(*RECORDS),
        lambda: cards(shop),
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
