"""Damaged workshops: what is sound opens, what is not is named with its place, and the file itself is left as it is."""

import json
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import unittest
import zlib
from contextlib import closing, redirect_stderr, redirect_stdout
from io import StringIO
from pathlib import Path

from kelvor.cli import main
from kelvor.core.base.errors import InputError
from kelvor.core.base.snapshot import to_plain
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.register.kinds.water import TrialRun
from kelvor.core.register.kinds.words import Said
from kelvor.exchange.checking import problem_lines
from kelvor.workshop.rack import cards
from kelvor.workshop.rescue import rescue
from kelvor.workshop.rows import Damaged
from kelvor.workshop.soundness import COLUMNS, DERIVED, examined
from kelvor.workshop.store import Store
from tests.support import demo_at

DATA = Path(__file__).parents[1] / "data"


class Damaging(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.whole = Path(tempfile.mkdtemp()) / "demo.kelvor"
        demo_at(cls.whole)

    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.path = self.folder / "w.kelvor"
        shutil.copy(self.whole, self.path)

    def sql(self, *statements):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as db:
            for statement, *values in statements:
                db.execute(statement, values)

    def snapshot(self, **changes):
        """A step's board with fields changed, packed."""
        with closing(Store.open(self.whole)) as shop:
            data = to_plain(shop.board(2))
        data.update(changes)
        return zlib.compress(json.dumps(data).encode())


class Named(Damaging):
    CASES = (
        ("UPDATE steps SET snapshot = X'0000' WHERE id = 2", "step 2: its board cannot be unpacked"),
        (
            "UPDATE steps SET changes = '[{\"label\": 3}]' WHERE id = 2",
            "step 2: what it changed cannot be read; the board itself is sound",
        ),
        (
            "UPDATE steps SET title = CAST(X'FFFE' AS TEXT) WHERE id = 2",
            "step 2: its title cannot be read and is left empty",
        ),
        ("UPDATE steps SET volume = 'much' WHERE id = 2", "step 2: its volume cannot be"),
        ("UPDATE steps SET parent = '{}' WHERE id = 2", "step 2: which step it follows cannot be read"),
        ("UPDATE steps SET parent = 9999 WHERE id = 2", "step 2: the step before it is not sound"),
        ("UPDATE boards SET name = CAST(X'80' AS TEXT) WHERE id = 1", "board 1: its name cannot be read; “"),
        ("DELETE FROM boards WHERE id = 1", "its entry is missing; it is made anew from its steps"),
        (
            "UPDATE briefs SET data = '{\"foil_in_use\": -1}' WHERE board_id = 1",
            "brief 1: it has foil_in_use: −1 cannot be. Give 0 to 59",
        ),
        ("UPDATE briefs SET data = 'nonsense' WHERE board_id = 1", "brief 1: it cannot be read"),
        (
            "INSERT INTO reasons VALUES (NULL, 7777, '', 'why')",
            "step 7777, reason: the step it belongs to is not there",
        ),
        ("INSERT INTO frozen VALUES (NULL, 2, '', 'eaten', '')", "mark: there is no mark “eaten”"),
        ("UPDATE pins SET step_id = 7777 WHERE board_id = 1", "pin: the step it belongs to is not there"),
        (
            "UPDATE left_at SET step_id = 7777 WHERE board_id = 1",
            "where it was left: its step is not there; it stands at the nearest that is",
        ),
        ("INSERT INTO constructions VALUES (NULL, '', 'Ours', '{}')", "construction “Ours”: it cannot be read"),
        ("INSERT INTO materials VALUES (NULL, '', 'steel', '{}')", "materials, entry 1: there is no kind “steel”"),
        ("INSERT INTO weighings VALUES (NULL, 1, 2, '', 'shaped', -4.0, '')", "weigh-in 1: “-4.0” cannot be"),
        ("INSERT INTO coefficients VALUES (NULL, '', 'arm_share', 9.0)", "coefficient “arm_share”: “9.0” cannot be"),
        ("INSERT INTO coefficients VALUES (NULL, '', 'arm_share', X'FF')", "coefficient “arm_share”: “"),
        (
            "UPDATE boards SET created_at = CAST('2026' AS BLOB) WHERE id = 1",
            "its time cannot be read and is left empty",
        ),
        ("UPDATE steps SET snapshot = CAST(snapshot AS TEXT) WHERE id = 2", "its board is not kept as it should be"),
        ("DROP TABLE pins", "table pins: it is missing from the file"),
    )

    def test_check_reads_every_table_and_names_each_row_with_its_place(self):
        for statement, words in self.CASES:
            with self.subTest(statement):
                shutil.copy(self.whole, self.path)
                self.sql(("PRAGMA foreign_keys = OFF",), (statement,))
                found = problem_lines(self.path)
                self.assertTrue(any(words in line and str(self.path) in line for line in found), found)

    def test_a_board_that_unpacks_to_gigabytes_or_has_a_wrong_field_is_refused(self):
        bomb = zlib.compress(b" " * (64 << 20), 9)
        for blob, words in (
            (bomb, "unpacks to more than any board has"),
            (zlib.compress(b"{}")[:-3], "is cut off"),
            (self.snapshot(length=40.0), "length: 4 000.0 cm cannot be. Give 60.0 cm to 650.0 cm"),
            (self.snapshot(length=True), "cannot be read"),
            (self.snapshot(rocker=None), "cannot be read"),
            (self.snapshot(zero="bow"), "“bow” is not known"),
        ):
            with self.subTest(words):
                shutil.copy(self.whole, self.path)
                self.sql(("UPDATE steps SET snapshot = ? WHERE id = 2", blob))
                self.assertIn(words, problem_lines(self.path)[0])
                with closing(Store.open(self.path)) as shop, self.assertRaises(Damaged) as caught:
                    shop.board(2)
                self.assertIn(", step 2: its board", str(caught.exception))

    def test_older_versions_are_read_row_by_row_too(self):
        for version in (1, 2, 3):
            sample = DATA / f"workshop-v{version}.kelvor"
            self.assertEqual(problem_lines(sample), [])
            shutil.copy(sample, self.path)
            self.sql(("UPDATE steps SET snapshot = X'00' WHERE id = (SELECT max(id) FROM steps)",))
            before = self.path.read_bytes()
            self.assertEqual(len(problem_lines(self.path)), 1 + sum("not there" in p for p in problem_lines(self.path)))
            self.assertEqual(self.path.read_bytes(), before)


class WhatOlderOnesWrote(Damaging):
    """Kelvor 0.14 kept any text and identities of any length: none of that is damage."""

    def test_such_rows_are_whole_writable_and_named_where_they_were_cleaned(self):
        said = '{"words": "free\\u200b in the nose \\ud83d", "who": "Zoé\\u00a0L", "rides": "\\ud83c\\udfc4\\u200d"}'
        read = '{"made": "m", "measure": "rocker@0.305", "value": 0.004}'
        uid = "0123456789abcdef0123456789abcdef-rocker@0.305-before the bag"
        self.sql(
            ("INSERT INTO records VALUES (NULL, ?, 'read', '', 'measured', 0, 1, 2, ?)", uid, read),
            ("INSERT INTO records VALUES (NULL, 'w', 'said', '', 'felt', 0, 1, 2, ?)", said),
            ("INSERT INTO reasons VALUES (NULL, 2, '', ?)", "why\ufeff" + "y" * 30_000),
            ("UPDATE steps SET snapshot = ? WHERE id = 2", self.snapshot(name="Tern\u200b 40")),
        )
        self.assertEqual(problem_lines(self.path), [])
        out = StringIO()
        with redirect_stdout(out):
            self.assertEqual(main(["check", str(self.path)]), 0)
        for words in ("words “free", "reason: its text is read as “whyy", "step 2: name “Tern", "in order"):
            self.assertIn(words, out.getvalue())
        new = self.folder / "new.kelvor"
        with redirect_stdout(StringIO()), redirect_stderr(StringIO()):
            main(["rescue", str(self.path), "--out", str(new)])
        for path in (self.path, new):
            with closing(Store.open(path)) as shop:
                kept = {record.uid: record.value for record in shop.records.newest("said", "read")}
                self.assertEqual(kept[uid].value, 0.004)
                self.assertEqual((kept["w"].words, kept["w"].who), ("free in the nose �", "Zoé\u00a0L"))
                self.assertEqual(kept["w"].rides, "🏄\u200d")
                self.assertEqual(shop.board(2).name, "Tern 40")
                shop.set_reason(2, "the next morning")
        self.assertEqual(examined(new, 1.0).cleaned, [])

    def test_the_writer_refuses_what_the_reader_would(self):
        with closing(Store.open(self.path)) as shop:
            said = Said(words="x" * 20_001)
            for write in (
                lambda: shop.set_reason(2, "x" * 20_001),
                lambda: shop.freeze(2, "cut", "x" * 2001),
                lambda: shop.records.keep("said", "u" * 201, Said(words="x")),
                lambda: shop.records.keep("test run", "r", TrialRun(trial="t", number=1, change="A", value=50.0)),
                lambda: shop.keep_coefficient("arm_share", 9.0),
                lambda: shop.weigh(1, 2, WeighIn("cut", -1.0)),
            ):
                with self.assertRaises(InputError):
                    write()
            shop.records.keep("said", "s", said)  # an older Kelvor's longer words may be written anew
        self.assertEqual(problem_lines(self.path), [])


class Rescued(Damaging):
    def test_everything_sound_comes_over_and_the_lost_step_is_bridged(self):
        with closing(Store.open(self.path)) as shop:
            board = next(b for b in shop.boards() if len(shop.steps(b.id)) >= 4)
            steps = sorted(shop.steps(board.id))
        self.sql(("UPDATE steps SET snapshot = X'78' WHERE id = ?", steps[1]))
        before = self.path.read_bytes()
        out, err = StringIO(), StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main(["rescue", str(self.path), "--out", str(self.folder / "new.kelvor")])
        self.assertEqual(code, 0)
        self.assertIn("26 boards, 70 steps, 26 briefs kept", out.getvalue())
        self.assertIn("step 2: its board", err.getvalue())
        self.assertEqual(self.path.read_bytes(), before)
        with closing(Store.open(self.folder / "new.kelvor")) as new, closing(Store.open(self.whole)) as whole:
            kept = new.steps(board.id)
            self.assertEqual(sorted(kept), [steps[0], *steps[2:]])
            self.assertEqual(kept[steps[2]].parent, steps[0])
            for step in kept:
                self.assertEqual(new.board(step), whole.board(step))
                self.assertEqual(kept[step].reason, whole.steps(board.id)[step].reason)
            self.assertEqual([new.brief(b.id) for b in new.boards()], [whole.brief(b.id) for b in whole.boards()])
        self.assertEqual(problem_lines(self.folder / "new.kelvor"), [])
        with redirect_stdout(out), redirect_stderr(err):
            self.assertEqual(
                main(["rescue", str(self.path), "--out", str(self.folder / "new.kelvor")]), 2
            )  # over nothing

    def test_damaged_pages_lose_what_lies_on_them_and_no_more(self):
        whole = self.path.read_bytes()
        rng = random.Random(3)
        with closing(Store.open(self.whole)) as shop:
            steps = {s for b in shop.boards() for s in shop.steps(b.id)}
            boards = {s: shop.board(s) for s in steps}
        kept_most = 0
        for _ in range(4):
            page = rng.randrange(2, len(whole) // 4096)
            self.path.write_bytes(whole[: page * 4096] + rng.randbytes(4096) + whole[(page + 1) * 4096 :])
            before = self.path.read_bytes()
            new = self.folder / "new.kelvor"
            new.unlink(missing_ok=True)
            found = rescue(self.path, new)
            self.assertEqual(self.path.read_bytes(), before)
            with closing(Store.open(new)) as shop:
                back = {s for b in shop.boards() for s in shop.steps(b.id)}
                self.assertTrue(all(shop.board(s) == boards[s] for s in back))
            self.assertEqual(problem_lines(new), [])
            self.assertTrue(back == steps or found.damages)
            kept_most += len(back) >= len(steps) - 12
        self.assertGreaterEqual(kept_most, 3)

    def test_a_damaged_workshop_opens_on_what_is_sound_and_takes_no_writing(self):
        whole = self.path.read_bytes()
        self.path.write_bytes(whole[: 8 * 4096] + b"\xff" * 4096 + whole[9 * 4096 :])
        before = self.path.read_bytes()
        with self.assertRaises(Damaged):
            Store.open(self.path)
        with closing(Store.open_sound(self.path)) as shop:
            self.assertTrue(shop.damages)
            board = shop.boards()[0]
            shop.board(shop.left_at(board.id))
            with self.assertRaises(InputError) as caught:
                shop.set_reason(shop.left_at(board.id), "why")
            self.assertIn("Save a repaired copy", str(caught.exception))
        self.assertEqual(self.path.read_bytes(), before)

    def test_what_never_ends_in_place_of_a_table_is_not_asked(self):
        endless = "WITH RECURSIVE n(k) AS (SELECT 1 UNION ALL SELECT k + 1 FROM n) SELECT k, k, k FROM n"
        for harm, words in (
            (("DROP TABLE cards", f"CREATE VIEW cards (step_id, book, data) AS {endless}"), "“cards”"),
            (("DROP TABLE pins", f"CREATE VIEW Pins (board_id, step_id, k) AS {endless}"), "“pins”"),
            ((f"CREATE TRIGGER sit AFTER INSERT ON reasons BEGIN SELECT count(*) FROM ({endless}); END",), "“sit”"),
            (("DROP TABLE coefficients", "CREATE VIRTUAL TABLE coefficients USING fts5(name)"), "“coefficients"),
        ):
            with self.subTest(words):
                shutil.copy(self.whole, self.path)
                self.sql(*((statement,) for statement in harm))
                with self.assertRaises(Damaged) as caught:
                    Store.open(self.path)
                self.assertIn(f"{words}", str(caught.exception))
                self.assertIn("is of another make", str(caught.exception))
                with closing(Store.open_sound(self.path)) as shop:
                    self.assertEqual((len(shop.boards()), len(cards(shop)) > 25), (26, True))
                    self.assertTrue(shop.damages)
                new = self.folder / f"{words.strip('“”')}.kelvor"
                rescue(self.path, new)
                with closing(Store.open(new)) as shop:
                    shop.set_reason(shop.left_at(shop.boards()[0].id), "and on")

    def test_a_link_to_a_workshop_whose_writer_died_is_opened_and_rolled_back(self):
        script = (
            "import os, sqlite3, sys\ndb = sqlite3.connect(sys.argv[1], isolation_level=None)\ndb.execute('PRAGMA "
            "cache_size = 1')\n"
            "db.execute('BEGIN IMMEDIATE')\n"
            "for i in range(40): db.execute(\"INSERT INTO reasons VALUES (NULL, 2, '', ?)\", ('half written ' * "
            "900,))\nos._exit(9)\n"
        )
        subprocess.run([sys.executable, "-c", script, str(self.path)], check=False)
        self.assertTrue(self.path.with_name(self.path.name + "-journal").exists())
        (self.folder / "elsewhere").mkdir()
        link = self.folder / "elsewhere" / "link.kelvor"
        link.symlink_to(self.path)
        with closing(Store.open(link)) as shop:
            self.assertEqual(len(shop.boards()), 26)
            self.assertFalse(any("half written" in s.reason for b in shop.boards() for s in shop.steps(b.id).values()))
        self.assertTrue(link.is_symlink())
        self.assertEqual(problem_lines(self.path), [])

    def test_the_board_last_worked_on_is_found_without_its_mark(self):
        self.sql(("DELETE FROM left_at",))
        with closing(Store.open(self.path)) as shop:
            self.assertEqual(shop.last_board(), shop.boards()[0].id)
            self.assertEqual(len(shop.boards()), 26)

    def test_every_column_of_every_table_is_known(self):
        with closing(sqlite3.connect(self.whole)) as db:
            tables = {row[0] for row in db.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            self.assertEqual(tables, {*COLUMNS, *DERIVED})
            for table, columns in COLUMNS.items():
                self.assertEqual(tuple(row[1] for row in db.execute(f"PRAGMA table_info({table})")), columns)
        self.assertEqual(examined(self.whole, 1.0).damages, [])
