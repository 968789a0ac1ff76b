"""The workshop file: every step at once on the disk, and nothing else touched."""

import hashlib
import json
import os
import shutil
import sqlite3
import tempfile
import unittest
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from unittest import mock

from tools.kills import kill_rounds

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity
from kelvor.core.brief.brief import Brief, Rider
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.recipes import CARBON_BAGGED
from kelvor.core.build.materials.table import HANDBOOK, changed
from kelvor.core.history.steps import ahead, folded, steps_to
from kelvor.core.levers.layer_benefit import with_count
from kelvor.core.levers.locks import Change
from kelvor.core.register.kinds import KINDS
from kelvor.core.register.kinds.words import OldBoard, Said
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.workshop import create_demo
from kelvor.exchange.checking import problem_lines
from kelvor.workshop import migrations, opening, workshop_file
from kelvor.workshop.rescue import rescue
from kelvor.workshop.soundness import COLUMNS, ONCE, SINCE
from kelvor.workshop.store import Store
from tests.support import demo_at, plain_board

DATA = Path(__file__).parent.parent / "data"


def named(n):
    return replace(plain_board(), name=f"Step {n}")


def length_change(before, after):
    return (Change("Length", Quantity.LENGTH, before, after),)


class Folder(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, True)
        self.path = self.folder / "w.kelvor"


class Keeping(Folder):
    def test_the_next_morning(self):
        shop = Store.create(self.path)
        board_id, first = shop.add_board(named(1), Brief(title="Brief"), "Began")
        second = shop.append(board_id, first.id, named(2), length_change(1.5, 1.4), reason="shorter", volume=0.04)
        shop.pin(board_id, first.id)
        shop.freeze(second.id, "cut", "A-1")
        shop.set_brief(board_id, Brief(title="Other", rider=Rider(mass=60)))
        shop.close()
        again = Store.open(self.path)
        steps = again.steps(board_id)
        self.assertEqual(again.board(second.id), named(2))
        self.assertEqual(steps[second.id].changes, length_change(1.5, 1.4))
        self.assertEqual(steps[second.id].reason, "shorter")
        self.assertEqual(steps[second.id].frozen, (("cut", "A-1"),))
        self.assertEqual((again.pinned(board_id), again.left_at(board_id)), (first.id, second.id))
        self.assertEqual(again.brief(board_id).rider.mass, 60)
        self.assertEqual([b.name for b in again.boards()], ["Step 2"])

    def test_branches_and_tape(self):
        shop = Store.create(self.path)
        board_id, a = shop.add_board(named(1), Brief(), "Began")
        b = shop.append(board_id, a.id, named(2), length_change(1.5, 1.49), gesture="g1")
        c = shop.append(board_id, b.id, named(3), length_change(1.49, 1.48), gesture="g1")
        d = shop.append(board_id, a.id, named(4), length_change(1.5, 1.6))
        steps = shop.steps(board_id)
        self.assertEqual([s.id for s in steps_to(steps, c.id)], [a.id, b.id, c.id])
        self.assertEqual([s.id for s in ahead(steps, a.id)], [d.id])
        stops = folded(steps_to(steps, c.id))
        self.assertEqual(len(stops), 2)
        self.assertEqual(stops[1].changes, length_change(1.5, 1.48))

    def test_two_windows_do_not_harm_each_other(self):
        one = Store.create(self.path)
        board_id, first = one.add_board(named(1), Brief(), "Began")
        two = Store.open(self.path)
        seen = one.changed_elsewhere()
        for i in range(5):
            one.append(board_id, first.id, named(10 + i), ())
            two.append(board_id, first.id, named(20 + i), ())
        self.assertNotEqual(one.changed_elsewhere(), seen)
        names = {one.board(step).name for step in one.steps(board_id)}
        self.assertEqual(len(names), 11)
        self.assertEqual(one.steps(board_id), two.steps(board_id))
        self.assertEqual(len({s.number for s in one.steps(board_id).values()}), 11)

    def test_a_killed_process_loses_no_committed_step(self):
        """Ten rounds here, each killed after some steps were told; `tools.kills.py 200` does two hundred."""
        told, lost, damaged = kill_rounds(self.path, 10, seed=7)
        self.assertGreaterEqual(told, 10)
        self.assertEqual((lost, damaged), (0, 0))

    def test_demo_boards_are_parents_and_children(self):
        shop = create_demo(self.path)
        boards = shop.boards()
        self.assertEqual(len(boards), 26)
        line = [next(b for b in boards if b.name.startswith(name)) for name in ("Stint", "Dunlin", "Sandpiper")]
        for child, parent in zip(line[:-1], line[1:], strict=True):
            self.assertIn(child.parent_step, shop.steps(parent.id))
        for entry in boards:
            steps = shop.steps(entry.id)
            self.assertIsNotNone(shop.pinned(entry.id))
            self.assertTrue(all(s.reason for s in steps.values() if s.changes))
        self.assertEqual(problem_lines(self.path), [])


class Tables(Folder):
    """What belongs to the workshop and to no board: appended, taken back, never rewritten."""

    def test_constructions_are_kept_changed_dropped_and_kept_again(self):
        with closing(Store.create(self.path)) as store:
            for layers in (1, 3):
                store.keep_construction(replace(with_count(CARBON_BAGGED, 0, layers), name="Ours"))
            self.assertEqual([c.plies[0].count for c in store.constructions()], [CARBON_BAGGED.plies[0].count + 3])
            store.drop_construction("Ours")
            self.assertEqual(store.constructions(), ())
            store.keep_construction(replace(CARBON_BAGGED, name="Ours"))
            store.drop_construction("never there")
        with closing(Store.open(self.path)) as store:
            self.assertEqual([c.name for c in store.constructions()], ["Ours"])

    def test_materials_follow_the_last_entry_and_the_rates(self):
        with closing(Store.create(self.path)) as store:
            self.assertEqual(store.materials(), HANDBOOK)
            eps = next(s for s in HANDBOOK.stocks if s.key == "eps20")
            store.keep_material(changed(eps, "density", 23.0))
            store.keep_material(replace(HANDBOOK.rates, hour=410.0))
            found = store.materials()
            self.assertEqual((found.stock("eps20").density, found.rates.hour), (23.0, 410.0))
            self.assertEqual(found.stock("eps20").source, "the workshop's own")
            store.keep_material(eps)
            store.keep_material(HANDBOOK.rates)
            self.assertEqual(store.materials(), HANDBOOK)

    def test_coefficients_are_kept_and_the_last_one_counts(self):
        with closing(Store.create(self.path)) as store:
            self.assertEqual(store.coefficients(), HANDBOOK_COEFFICIENTS)
            store.keep_coefficient("arm_share", 0.5)
            store.keep_coefficient("arm_share", 0.55)
        with closing(Store.open(self.path)) as store:
            self.assertEqual(store.coefficients(), replace(HANDBOOK_COEFFICIENTS, arm_share=0.55))
            rows = store._db.execute("SELECT count(*) FROM coefficients").fetchone()[0]
            self.assertEqual(rows, 2)  # nothing is overwritten

    def test_weigh_ins_belong_to_their_board_and_can_be_taken_back(self):
        demo_at(self.path)
        with closing(Store.open(self.path)) as store:
            first, second = (entry.id for entry in store.boards()[:2])
            before = {board: store.weighings(board) for board in (first, second)}
            store.weigh(first, store.left_at(first), WeighIn("shaped", 0.8))
            store.weigh(first, store.left_at(first), WeighIn("shaped", 0.9, "simulated"))
            self.assertIn(WeighIn("shaped", 0.9, "simulated"), store.weighings(first))
            self.assertNotIn(WeighIn("shaped", 0.8), store.weighings(first))
            self.assertEqual(store.weighings(second), before[second])
            store.weigh(first, store.left_at(first), WeighIn("shaped", 0.0))
            self.assertNotIn("shaped", {w.stage for w in store.weighings(first)})


class Recorded(Folder):
    def setUp(self):
        super().setUp()
        self.shop = Store.create(self.path)
        self.shop.add_board(plain_board(), Brief(), "Began")
        self.addCleanup(self.shop.close)

    def test_every_revision_stays_and_the_newest_counts(self):
        keep = self.shop.records.keep
        keep("rider", "a", Rider(name="Ada", mass=68.0))
        keep("rider", "b", Rider(name="Bo"))
        keep("rider", "a", Rider(name="Ada", mass=71.0), origin="measured")
        keep("rider", "b", Rider(name="Bo"), gone=True)
        ada, bo = self.shop.records.newest("rider")
        self.assertEqual((ada.value.mass, ada.revision, ada.origin, ada.gone), (71.0, 2, "measured", False))
        self.assertEqual((bo.gone, bo.value.name), (True, "Bo"))
        self.assertEqual([r.value.mass for r in self.shop.records.revisions("a")], [68.0, 71.0])
        with self.assertRaises(InputError), self.shop.writing() as db:
            db.execute("DELETE FROM records")
        with self.assertRaises(InputError), self.shop.writing() as db:
            db.execute("UPDATE records SET gone = 1")
        self.assertEqual(len(self.shop.records.revisions("a")), 2)

    def test_two_windows_change_one_rider(self):
        base = Rider(name="Ada", mass=68.0)
        self.shop.records.keep("rider", "a", base)
        with closing(Store.open(self.path)) as other:
            other.records.keep("rider", "a", replace(base, height=1.81), base=base)
            kept = self.shop.records.keep("rider", "a", replace(base, mass=70.0), base=base)
            self.assertEqual((kept.mass, kept.height), (70.0, 1.81))
            self.assertEqual(other.records.newest("rider")[0].value, kept)

    def test_a_photo_lies_in_parts_and_comes_back_whole(self):
        photo = os.urandom(700_001)
        sha = hashlib.sha256(photo).hexdigest()
        self.shop.records.keep("old board", "o", OldBoard(name="Old", photo=sha), blob=photo)
        self.assertEqual(self.shop.records.blob(sha), photo)
        with self.shop.writing() as db:
            db.execute("DELETE FROM blob_parts WHERE part = 1")
        with self.assertRaises(InputError):
            self.shop.records.blob(sha)

    def test_a_repaired_copy_takes_records_along_and_names_those_that_cannot_be_read(self):
        photo = os.urandom(9)
        self.shop.records.keep("said", "w", Said(words="stuck to the water"), origin="felt", blob=photo)
        self.shop.records.keep("rider", "a", Rider(name="Ada"))
        with self.shop.writing() as db:
            db.execute(
                "INSERT INTO records (uid, kind, made_at, origin, gone, data) VALUES ('x', 'rider', '', 'felt', 0, "
                "'{\"mass\": 9000}')"
            )
        new = self.path.with_name("new.kelvor")
        found = rescue(self.path, new)
        self.assertEqual([d.where for d in found.damages], ["record 3"])
        with closing(Store.open(new)) as shop:
            self.assertEqual([r.uid for r in shop.records.newest("said", "rider")], ["w", "a"])
            self.assertEqual(shop.records.blob(hashlib.sha256(photo).hexdigest()), photo)


class Refusing(Folder):
    def refused(self, path, words):
        before = path.read_bytes() if path.is_file() else None
        with self.assertRaises(InputError) as caught:
            Store.open(path)
        self.assertIn(words, str(caught.exception))
        self.assertIn(str(path), str(caught.exception))
        if before is not None:
            self.assertEqual(path.read_bytes(), before)
            self.assertEqual(sorted(p.name for p in path.parent.iterdir()), sorted({path.name, *self.beside}))
            self.assertTrue(problem_lines(path))

    def setUp(self):
        super().setUp()
        self.beside = set()

    def test_foreign_and_damaged_files_are_left_untouched(self):
        self.refused(self.folder / "none.kelvor", "no such file")
        text = self.folder / "text.kelvor"
        text.write_text("not a database at all, but long enough to have a header")
        self.refused(text, "no workshop file")
        text.unlink()
        foreign = self.folder / "foreign.kelvor"
        with sqlite3.connect(foreign) as db:
            db.execute("CREATE TABLE t (x)")
        db.close()
        self.refused(foreign, "another program")
        foreign.unlink()
        shop = Store.create(self.path)
        shop.add_board(named(1), Brief(), "Began")
        shop.close()
        whole = self.path.read_bytes()
        self.path.write_bytes(whole[: len(whole) // 2])
        self.refused(self.path, "damaged")
        self.path.write_bytes(whole[:4096] + b"\xff" * 4096 + whole[8192:])
        self.refused(self.path, "damaged")

    def test_a_newer_file_is_refused(self):
        Store.create(self.path).close()
        with sqlite3.connect(self.path) as db:
            db.execute("PRAGMA user_version = 99")
        db.close()
        self.refused(self.path, "newer")

    def test_a_full_disk_changes_nothing_and_the_step_can_be_saved_later(self):
        shop = Store.create(self.path)
        board_id, first = shop.add_board(named(1), Brief(), "Began")
        pages = shop._db.execute("PRAGMA page_count").fetchone()[0]
        shop._db.execute(f"PRAGMA max_page_count = {pages}")  # SQLite's own way to a full disk
        noise = replace(plain_board(), name=os.urandom(6000).hex())
        with self.assertRaises(InputError) as caught:
            shop.append(board_id, first.id, noise, ())
        self.assertIn("the disk is full", str(caught.exception))
        self.assertEqual(list(shop.steps(board_id)), [first.id])
        shop._db.execute("PRAGMA max_page_count = 100000")
        self.assertEqual(shop.board(shop.append(board_id, first.id, noise, ()).id), noise)

    def test_nowhere_to_write(self):
        self.path.write_text("x")
        with self.assertRaises(InputError):
            Store.create(self.path)
        with self.assertRaises(InputError) as caught:
            Store.create(self.folder / "no such folder" / "w.kelvor")
        self.assertIn("no such file or folder", str(caught.exception))


class Migrating(Folder):
    def test_the_kept_sample_of_each_version_opens(self):
        for version in range(1, len(migrations.MIGRATIONS) + 1):
            sample = DATA / f"workshop-v{version}.kelvor"
            shutil.copy(sample, self.path)
            shop = Store.open(self.path)
            board = shop.boards()[0]
            steps = shop.steps(board.id)
            self.assertGreaterEqual(len(steps), 2)
            self.assertEqual(shop.board(shop.left_at(board.id)).length, 1.48)
            self.assertEqual({w.origin for w in shop.weighings(board.id)} - {"measured", "simulated"}, set())
            shop.close()

    def test_bringing_a_file_up_loses_no_row_of_any_table(self):
        """A first trial lost pins without a word: every row of every table that was there is there, its values as they
        were.
        """
        for version in range(1, len(migrations.MIGRATIONS)):
            with self.subTest(version):
                shutil.copy(DATA / f"workshop-v{version}.kelvor", self.path)
                tables = [table for table in COLUMNS if SINCE.get(table, 1) <= version]

                def rows(table):
                    columns = ", ".join(c for c in COLUMNS[table] if (table, c) not in ONCE)
                    with closing(sqlite3.connect(self.path)) as db:
                        return db.execute(f"SELECT {columns} FROM {table} ORDER BY 1").fetchall()

                with closing(sqlite3.connect(self.path)) as db:
                    db.execute("INSERT INTO pins VALUES (1, 1)")
                    db.commit()
                before = {table: rows(table) for table in tables}
                self.assertTrue(before["pins"] and before["steps"])
                Store.open(self.path).close()
                self.assertEqual({table: rows(table) for table in tables}, before)

    def test_a_process_killed_while_it_brings_a_file_up_leaves_it_as_it_was(self):
        """Its header may already tell the new version, and what was done of it must be taken back first."""
        journal, kept = self.path.with_name(self.path.name + "-journal"), self.folder / "kept"
        for look in (lambda: Store.open(self.path).close(), lambda: self.assertEqual(problem_lines(self.path), [])):
            shutil.copy(DATA / "workshop-v1.kelvor", self.path)
            with closing(sqlite3.connect(self.path, isolation_level=None)) as db:
                db.execute("PRAGMA synchronous = OFF")  # the journal tells no count, and is read whole
                db.execute("PRAGMA cache_size = 1")
                db.execute("BEGIN IMMEDIATE")
                for lines in migrations.MIGRATIONS[1:]:
                    for line in lines:
                        db.execute(line)
                db.execute(f"PRAGMA user_version = {len(migrations.MIGRATIONS)}")
                for _ in range(60):  # more than the cache holds: the journal is on the disk
                    db.execute("INSERT INTO reasons VALUES (NULL, 1, '', ?)", ("half " * 3000,))
                shutil.copy(journal, kept)
                db.execute("COMMIT")
            shutil.copy(kept, journal)  # as if killed before the journal went
            self.assertEqual(opening.version_of(self.path), len(migrations.MIGRATIONS))
            look()
            with closing(Store.open(self.path)) as shop:
                steps = shop.steps(shop.boards()[0].id)
                self.assertEqual((len(steps), {s.reason for s in steps.values()} & {"half " * 3000}), (2, set()))
                self.assertEqual(shop.records.newest(*KINDS), [])

    def test_the_sample_holds_a_record_of_every_kind(self):
        shutil.copy(DATA / "workshop-v6.kelvor", self.path)
        with closing(Store.open(self.path)) as shop:
            found = {record.uid: record for record in shop.records.newest(*KINDS)}
            self.assertEqual({record.kind for record in found.values()}, set(KINDS))
            self.assertEqual((found["r1"].revision, found["r1"].value.mass), (2, 70.0))
            self.assertEqual((found["s1"].gone, found["s1"].value.name), (True, "Sail 6"))

    def test_what_a_stand_in_once_said_stays_simulated(self):
        shutil.copy(DATA / "workshop-v3.kelvor", self.path)
        with closing(sqlite3.connect(self.path)) as db:
            row = (
                "INSERT INTO weighings (board_id, step_id, made_at, stage, mass, source) VALUES (1, 1, '', "
                "'cut', 1.6, 'scale, simulated')"
            )
            db.execute(row)
            db.commit()
        shop = Store.open(self.path)
        found = {w.stage: w.origin for w in shop.weighings(1)}
        shop.close()
        self.assertEqual(found, {"shaped": "measured", "cut": "simulated"})

    def test_an_older_file_is_brought_up_in_one_go_or_not_at_all(self):
        Store.create(self.path).close()
        good = (*migrations.MIGRATIONS, ("CREATE TABLE later (x)",))
        bad = (*migrations.MIGRATIONS, ("CREATE TABLE later (x)", "CREATE TABLE boards (again)"))
        with (
            mock.patch.object(opening, "MIGRATIONS", bad),
            mock.patch.object(workshop_file, "MIGRATIONS", bad),
            self.assertRaises(InputError),
        ):
            Store.open(self.path)
        with mock.patch.object(opening, "MIGRATIONS", good), mock.patch.object(workshop_file, "MIGRATIONS", good):
            shop = Store.open(self.path)
        self.assertEqual(shop._db.execute("PRAGMA user_version").fetchone()[0], len(good))
        self.assertEqual(json.dumps(shop.boards()), "[]")
