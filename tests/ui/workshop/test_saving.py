"""The disk refuses, the file goes away, another program holds it: nothing is lost, and the window says what is so."""

import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit

from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.table import changed
from kelvor.core.made.made_boards import KINDS, made_boards
from kelvor.core.register.kinds.words import Decision
from kelvor.exchange.checking import problem_lines
from kelvor.ui.build.made import Making
from kelvor.ui.settings import Settings
from kelvor.ui.window.application import make_window
from kelvor.workshop.safety import keep_safe
from kelvor.workshop.store import Store
from tests.ui.case import WindowCase


class SavingCase(WindowCase):
    @property
    def bar(self):
        return self.window.saving_bar

    def every_kind_of_write(self):
        """A step, a brief, a reason, a mark, a pin, a weigh-in, a construction, a material, a rate, a coefficient, a
        decision; and back.
        """
        session = self.session
        self.assertTrue(self.shape.levers.pull("volume", "40"))
        session.briefs.set(replace(session.brief, title="Kept brief"))
        session.versions.set_reason(session.current, "kept reason")
        session.versions.freeze(session.current, "cut", "K-1")
        session.versions.pin(session.current)
        session.service(Making).begin(session.service(Making).suggested(), "Mo")
        session.service(Making).weigh(WeighIn("shaped", 1.234))
        session.workshop.tables.keep_construction(replace(recipes("wing foil")[0], name="Kept construction"))
        session.workshop.tables.keep_material(changed(session.table.stocks[0], "density", 16.5))
        session.workshop.tables.keep_material(replace(session.table.rates, hour=411.0))
        session.versions.decide(session.current, Decision(verdict="parked", why="kept decision"))
        session.workshop.tables.keep_coefficient("arm_share", 0.51)
        session.undo()
        self.app.processEvents()
        return 13

    def assert_kept(self, path, board_name=None):
        """Every one of them is in the file."""
        with closing(Store.open(path)) as shop:
            entry = next(b for b in shop.boards() if b.name == (board_name or self.session.board.name))
            step = shop.steps(entry.id)[shop.left_at(entry.id)]
            self.assertEqual(round(step.volume * 1e3, 3), 40.0)
            self.assertEqual((step.reason, step.frozen), ("kept reason", (("cut", "K-1"),)))
            self.assertEqual(shop.pinned(entry.id), step.id)
            decided = [r for r in shop.records.newest("decision") if r.value.why == "kept decision"]
            self.assertEqual([(r.board, r.step, r.value.verdict) for r in decided], [(entry.id, step.id, "parked")])
            self.assertEqual(shop.board(step.id), self.session.board)
            self.assertEqual(shop.brief(entry.id).title, "Kept brief")
            made = made_boards(shop.records.newest(*KINDS))[-1]
            self.assertEqual((made.record.board, made.record.step), (entry.id, step.id))
            self.assertEqual(made.weighed, (WeighIn("shaped", 1.234),))
            self.assertIn("Kept construction", [c.name for c in shop.constructions()])
            table = shop.materials()
            self.assertEqual((table.stocks[0].density, table.rates.hour), (16.5, 411.0))
            self.assertEqual(shop.coefficients().arm_share, 0.45)
        self.assertEqual(problem_lines(path), [])

    def assert_waiting(self, count, words):
        self.assertEqual(len(self.session.workshop.saving.waiting), count)
        self.assertTrue(self.bar.isVisible())
        self.assertIn(words, self.bar.words.text())
        self.assertEqual(self.window.tape.state.text(), f"{count} not saved")
        self.assertEqual(self.lever_text("volume"), "40.0 L")  # and all of it shows

    def copy_to(self, name):
        path = self.folder / name
        self.window.files.save_copy(path)
        self.wait_for(lambda: not self.session.workshop.copying.running)
        return path

    def tearDown(self):
        self.session.workshop.saving.give_up()
        super().tearDown()


class NewWorkshop(SavingCase):
    def test_an_existing_name_is_left_as_it_is(self):
        for path in (self.path, self.folder / "other.kelvor", self.folder):
            if path.suffix and path != self.path:
                shutil.copy(self.path, path)
            before = path.read_bytes() if path.is_file() else None
            board = self.session.board
            self.window.guarded(lambda w, path=path: w.files.create_workshop(path))
            self.assertIn("there already, and is left as it is", self.problem())
            self.assertTrue(path.exists())
            self.assertEqual(path.read_bytes() if path.is_file() else None, before)
            self.assertEqual((self.session.workshop.store.path, self.session.board), (self.path, board))
        self.every_kind_of_write()
        self.assert_kept(self.path)


class Refusing(SavingCase):
    def full(self):
        db = self.session.workshop.store._db
        db.execute(
            f"PRAGMA max_page_count = {db.execute('PRAGMA page_count').fetchone()[0]}"
        )  # SQLite's own way to a full disk
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:  # no room inside the file either
            other.execute("CREATE TABLE IF NOT EXISTS filler (x)")
        self.session.workshop.store.still_there()

    def test_a_full_disk(self):
        with mock.patch.object(Store, "writing", side_effect=_full):
            count = self.every_kind_of_write()
            self.assert_waiting(
                count,
                "Not saved: the disk is full. Step 9: Volume and 12 more wait in this window. Make room, or "
                "save a copy",
            )
            self.window.close()
            self.assertTrue(self.window.isVisible())
            self.assertIn("Leave? 13 changes are not on the disk.", self.bar.words.text())
            self.window.close()  # asked again, dropped never
            self.assertTrue(self.window.isVisible())
            self.bar.stay.click()
            self.assertNotIn("Leave?", self.bar.words.text())
        self.bar.again.click()
        self.app.processEvents()
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(self.path)

    def test_sqlites_own_full_disk_and_a_copy_elsewhere(self):
        db = self.session.workshop.store._db
        pages = db.execute("PRAGMA page_count").fetchone()[0]
        db.execute(f"PRAGMA max_page_count = {pages}")
        self.session.briefs.set(replace(self.session.brief, notes=os.urandom(9000).hex()))
        self.assertIn("Not saved: the disk is full. The brief waits in this window.", self.bar.words.text())
        self.session.briefs.set(replace(self.session.brief, notes="short"))
        self.every_kind_of_write()
        path = self.copy_to("copy.kelvor")
        self.assertEqual(self.session.workshop.store.path, path)
        self.assertEqual(self.session.workshop.saving.waiting, [])
        self.assert_kept(path)
        self.assertIn("You go on in it", self.problem())

    def test_a_read_only_file(self):
        self.path.chmod(0o444)
        with mock.patch.object(Store, "writing", side_effect=_read_only):  # root writes anyway
            self.assert_waiting(self.every_kind_of_write(), "Not saved: the file or its folder is read-only.")
        path = self.copy_to("writable.kelvor")
        self.assert_kept(path)

    def test_a_board_added_while_the_disk_is_full(self):
        with mock.patch.object(Store, "writing", side_effect=_full):
            self.session.file.add_board(replace(self.session.board, name="Waiting board"), self.session.brief, "Began")
            self.every_kind_of_write()
            self.assertIn("The new board “Waiting board” and 13 more wait", self.bar.words.text())
        self.session.undo()
        self.session.redo()
        self.trigger("workshop.save")
        self.assert_kept(self.path, "Waiting board")
        self.assertGreater(self.session.board_id, 0)
        self.assertTrue(all(step > 0 for step in self.session.steps))

    def test_looking_about_on_a_read_only_file_nags_nobody(self):
        with mock.patch.object(Store, "writing", side_effect=_read_only):
            self.session.undo()
            self.session.redo()
            self.assertFalse(self.bar.isVisible())
            self.assertEqual(self.window.tape.state.text(), "saved")


class Gone(SavingCase):
    def after(self, harm, words):
        left = self.session.board.name
        harm()
        count = self.every_kind_of_write()
        self.assert_waiting(count, words)
        path = self.copy_to("saved.kelvor")
        self.assertEqual(self.session.workshop.saving.waiting, [])
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(path, left)
        with closing(Store.open(path)) as shop:
            self.assertEqual(len(shop.boards()), 26)
        self.shape.levers.pull("volume", "41")  # and the work goes on in the copy
        self.assertEqual(self.window.tape.state.text(), "saved")
        self.assertEqual(self.session.workshop.store.board(self.session.current), self.session.board)

    def test_deleted(self):
        self.after(self.path.unlink, "Not saved: the file was moved or deleted.")

    def test_moved_by_a_sync_program_and_back(self):
        elsewhere = self.folder / "elsewhere.kelvor"
        self.path.rename(elsewhere)
        self.every_kind_of_write()
        self.assertIn("the file was moved or deleted", self.bar.words.text())
        elsewhere.rename(self.path)
        self.bar.again.click()
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(self.path)

    def test_replaced_by_another(self):
        def harm():
            other = self.folder / "other.kelvor"
            Store.create(other).close()
            other.replace(self.path)

        self.after(harm, "Not saved: another file took its place.")
        with closing(Store.open(self.path)) as other:
            self.assertEqual(other.boards(), [])

    def test_overwritten_by_another_workshop(self):
        def harm():
            other = self.folder / "other.kelvor"
            with closing(Store.create(other)) as shop:
                shop.add_board(replace(self.session.board, name="Somebody else's"), self.session.brief, "Began")
            self.path.write_bytes(other.read_bytes())

        self.session.undo()  # a board and its steps the window has seen
        self.session.redo()
        self.after(harm, "Not saved: another workshop was written over it.")

    def test_an_older_copy_put_back_over_the_open_file(self):
        """The same inode and the same first board: a step made then had itself for a parent."""
        older = self.path.read_bytes()
        self.shape.levers.pull("width", "50")
        self.session.versions.set_reason(self.session.current, "after the copy")
        self.after(lambda: self.path.write_bytes(older), "Not saved: an older copy was put back over it.")
        self.assertEqual(self.path.read_bytes(), older)
        with closing(Store.open(self.folder / "saved.kelvor")) as shop:
            self.assertIn("after the copy", {step.reason for step in shop.steps(self.session.board_id).values()})

    def test_an_older_copy_in_which_somebody_went_on(self):
        older = self.path.read_bytes()
        self.shape.levers.pull("width", "50")
        self.path.write_bytes(older)
        with closing(Store.open(self.path)) as other:
            for k in range(3):
                other.keep_coefficient("landing_load", 3.0 + k / 10)
        self.session.file.look_elsewhere()
        self.assertIn("an older copy was put back over it", self.problem())

    def test_overwritten_after_work_that_was_saved_and_without_a_safety_copy(self):
        for safe in (True, False):
            if not safe:
                self.session.workshop._safe = None
            self.shape.levers.pull("width", "50")
            self.session.versions.set_reason(self.session.current, "saved before")
            saved = self.session.current
            board = self.session.board
            os.truncate(self.session.workshop.store.path, 3000)
            self.every_kind_of_write()
            path = self.copy_to(f"safe {safe}.kelvor")
            self.assert_kept(path)
            steps = self.session.steps
            before = steps[self.session.current].parent
            self.assertEqual((self.session.workshop.store.board(before), steps[before].reason), (board, "saved before"))
            self.assertEqual(len(self.session.workshop.store.boards()), 26 if safe else 1)
            self.assertEqual("Left out" in self.problem(), not safe)
            self.assertGreater(saved, 0)

    def test_cut_short(self):
        self.after(lambda: os.truncate(self.path, 3000), "Not saved: the file was overwritten or cut short.")

    def test_it_is_told_before_anybody_writes(self):
        self.path.unlink()
        self.session.file.look_elsewhere()
        self.assertIn("the file was moved or deleted", self.problem())

    def test_leaving_by_the_copy_and_without_it(self):
        self.path.unlink()
        self.every_kind_of_write()
        fresh = self.folder / "fresh.kelvor"
        self.window.files.when_saved(lambda: self.window.files.create_workshop(fresh))
        self.assertFalse(fresh.exists())
        self.assertIn("Leave?", self.bar.words.text())
        self.copy_to("kept.kelvor")
        self.app.processEvents()
        self.assertEqual(self.session.workshop.store.path, fresh)  # what was asked for is done once nothing waits
        with closing(Store.open(self.folder / "kept.kelvor")) as shop:
            self.assertEqual(len(shop.boards()), 26)
        fresh.unlink()
        self.session.briefs.set(replace(self.session.brief, title="dropped"))
        self.window.close()
        self.assertTrue(self.window.isVisible())
        self.bar.leave.click()
        self.assertFalse(self.window.isVisible())


class Held(SavingCase):
    def test_another_program_holds_it_and_lets_go(self):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("BEGIN EXCLUSIVE")
            self.every_kind_of_write()
            self.assert_waiting(
                13,
                "Another program holds the file: step 9: Volume and 12 more wait here, and Kelvor tries again by "
                "itself.",
            )
            first = min(self.session.steps)
            self.session.boards.clear()
            self.session.versions.go_to(min(s for s in self.session.steps if s > 0))
            self.assertIn("Waiting for it", self.problem())
            self.key(self.window, Qt.Key.Key_Escape)
            self.assertEqual(self.problem(), "")
            self.assertLess(first, 0)
            other.execute("ROLLBACK")
        self.wait_for(lambda: not self.session.workshop.saving.waiting)
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(self.path)

    def test_leaving_a_held_file_is_done_once_everything_is_saved(self):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("BEGIN EXCLUSIVE")
            self.every_kind_of_write()
            self.window.close()
            self.assertTrue(self.window.isVisible())
            self.assertIn("Leave? 13 changes are not on the disk.", self.bar.words.text())
            other.execute("ROLLBACK")
        self.wait_for(lambda: not self.window.isVisible())
        self.assert_kept(self.path)

    def test_a_held_workshop_has_no_safety_copy_and_a_free_one_a_whole_one(self):
        folder = self.folder / "copies"
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("BEGIN EXCLUSIVE")
            self.assertIsNone(keep_safe(folder, self.session.workshop.store))
            other.execute("ROLLBACK")
        first = keep_safe(folder, self.session.workshop.store)
        self.assertEqual(problem_lines(first), [])
        before = first.read_bytes()
        self.shape.levers.pull("volume", "40")
        self.assertEqual(keep_safe(folder, self.session.workshop.store), first)
        self.assertEqual(first.with_suffix(".before").read_bytes(), before)
        self.assertEqual(sorted(p.suffix for p in folder.iterdir()), [".before", ".copy"])
        with closing(Store.open(first)) as shop:
            self.assertEqual(shop.board(shop.left_at(self.session.board_id)), self.session.board)

    def test_walking_goes_on_when_it_is_let_go(self):
        step = min(self.session.steps)
        with closing(sqlite3.connect(self.path, isolation_level=None)) as other:
            other.execute("BEGIN EXCLUSIVE")
            self.session.boards.clear()
            self.session.versions.go_to(step)
            self.assertNotEqual(self.session.current, step)
            other.execute("ROLLBACK")
        self.wait_for(lambda: self.session.current == step)
        self.assertEqual(self.problem(), "")


class DamagedFiles(SavingCase):
    def test_a_damaged_workshop_is_open_named_and_repaired_into_a_copy(self):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as db:
            db.execute("UPDATE briefs SET data = '{' WHERE board_id = ?", (self.session.board_id,))
            db.execute(
                "UPDATE steps SET snapshot = X'00' WHERE id = (SELECT max(id) FROM steps WHERE board_id <> ?)",
                (self.session.board_id,),
            )
        before = self.path.read_bytes()
        self.window.files.open_workshop(self.path)
        self.assertIn("This workshop is damaged (", self.bar.words.text())
        self.assertEqual(self.bar.copy.text(), "Save a repaired copy…")
        self.bar.more.click()
        panel = self.window.dialogs.shown[-1]
        shown = [panel.list.item(i).text() for i in range(panel.list.count())]
        panel.close()
        self.assertTrue(any("brief" in line for line in shown) and any("its board" in line for line in shown), shown)
        self.every_kind_of_write()
        self.assertEqual(self.path.read_bytes(), before)
        path = self.copy_to("repaired.kelvor")
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(path)
        self.assertEqual(self.path.read_bytes(), before)

    def test_a_check_beside_the_window_names_what_it_finds_and_the_rest_goes_on(self):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as db:
            db.execute(
                "UPDATE steps SET snapshot = X'00' WHERE id = (SELECT max(id) FROM steps WHERE board_id <> ?)",
                (self.session.board_id,),
            )
        self.window.files.look_through()
        self.wait_for(self.bar.isVisible)
        self.assertIn("something cannot be read: “", self.bar.words.text())
        self.assertIn("its board is cut off", self.bar.words.text())
        self.every_kind_of_write()
        self.assertEqual(self.session.workshop.saving.waiting, [])
        path = self.copy_to("repaired.kelvor")
        self.assertFalse(self.bar.isVisible())
        self.assert_kept(path)

    def test_starting_on_a_damaged_workshop(self):
        with closing(sqlite3.connect(self.path, isolation_level=None)) as db:
            db.execute("UPDATE steps SET snapshot = X'00' WHERE id = ?", (self.session.current,))
        window = make_window(Store.open(self.path), Settings(self.folder / "s.json"))
        self.assertEqual(window.session.board.name, self.session.board.name)
        self.assertIn("its board", window.saving_bar.words.text())
        window.close()
        window.session.workshop.store.close()
        window.deleteLater()


class TwoWindows(SavingCase):
    def test_changes_of_one_brief_and_table_from_two_windows_are_both_kept(self):
        other = make_window(Store.open(self.path), Settings(self.folder / "s.json"))
        a, b = self.session, other.session
        b.file.open_board(a.board_id)
        a.briefs.set(replace(a.brief, rider=replace(a.brief.rider, mass=81.0)))
        b.briefs.set(replace(b.brief, title="From B", rider=replace(b.brief.rider, height=1.9)))
        self.assertEqual((b.brief.rider.mass, b.brief.rider.height, b.brief.title), (81.0, 1.9, "From B"))
        a.file.look_elsewhere()
        self.assertEqual(a.brief, b.brief)
        a.undo()  # takes back A's own change only
        self.assertEqual((a.brief.rider.mass != 81.0, a.brief.rider.height, a.brief.title), (True, 1.9, "From B"))
        stock = a.table.stocks[0]
        a.workshop.tables.keep_material(changed(stock, "density", 17.0))
        b.workshop.tables.keep_material(changed(b.table.stocks[0], "price", 99.0))
        self.assertEqual((b.table.stocks[0].density, b.table.stocks[0].price), (17.0, 99.0))
        a.workshop.tables.keep_material(replace(a.table.rates, hour=1.0))
        b.workshop.tables.keep_material(replace(b.table.rates, coat=9.0))
        b.workshop.tables.keep_coefficient("arm_share", 0.6)
        a.workshop.tables.keep_coefficient("rail_arm", 0.4)
        b.versions.set_reason(b.current, "from b")
        b.versions.pin(b.current)
        for session in (a, b):
            session.file.look_elsewhere()
        self.assertEqual((a.table.rates, a.coefficients, a.brief), (b.table.rates, b.coefficients, b.brief))
        self.assertEqual((a.table.rates.hour, a.table.rates.coat, a.coefficients.arm_share), (1.0, 9.0, 0.6))
        self.assertEqual((a.steps[b.current].reason, a.overlays.step), ("from b", b.current))
        other.close()
        b.workshop.store.close()
        other.deleteLater()


class Typing(SavingCase):
    def test_a_reason_stays_with_the_step_it_was_typed_on(self):
        step = self.session.current
        self.trigger("edit.reason")
        tape = self.window.tape.reason
        tape.setText("typed on the first")
        self.assertTrue(tape.hasFocus())
        self.shape.levers.pull("volume", "40")  # an action comes between
        self.assertNotEqual(self.session.current, step)
        self.assertEqual(self.session.steps[step].reason, "typed on the first")
        self.assertEqual(self.session.step().reason, "")
        self.assertEqual(tape.text(), "")

    def test_half_a_reason_outlives_the_saving_of_its_step(self):
        with mock.patch.object(Store, "writing", side_effect=_full):
            self.shape.levers.pull("volume", "40")
            self.trigger("edit.reason")
            tape = self.window.tape.reason
            tape.setText("half a rea")
            waiting = self.session.current
        self.session.workshop.saving.save()
        self.app.processEvents()
        self.assertEqual((tape.text(), self.session.current > 0, waiting < 0), ("half a rea", True, True))
        tape.setText("half a reason no more")
        self.key(tape, Qt.Key.Key_Return)
        self.assertEqual(
            self.session.workshop.store.steps(self.session.board_id)[self.session.current].reason,
            "half a reason no more",
        )
        stop = self.window.tape.dots.stops()[-1].step
        self.assertEqual(stop.id, self.session.current)  # and the tape names it by the id in the file

    def test_what_is_half_typed_goes_into_the_workshop_it_was_typed_in(self):
        step, board_id = self.session.current, self.session.board_id
        self.window.show_view("brief")
        self.window.views["brief"].rider.notes.setPlainText("half a note")
        self.window.tape.reason.setText("half a reason")
        fresh = self.folder / "fresh.kelvor"
        self.window.files.create_workshop(fresh)
        self.assertEqual(self.session.workshop.store.path, fresh)
        with closing(Store.open(self.path)) as old, closing(Store.open(fresh)) as new:
            self.assertEqual(
                (old.steps(board_id)[step].reason, old.brief(board_id).notes), ("half a reason", "half a note")
            )
            first = new.boards()[0].id
            self.assertEqual([s.reason for s in new.steps(first).values()], [""])
            self.assertEqual(new.brief(first).notes, "")

    def test_notes_are_kept_while_they_are_typed(self):
        self.window.show_view("brief")
        view = self.window.views["brief"].rider
        view.notes.setFocus()
        view.notes.setPlainText("Sinks the nose when")
        self.wait_for(lambda: self.session.brief.notes == "Sinks the nose when")
        view.notes.setPlainText("Sinks the nose when pumping")
        self.assertTrue(view.notes.hasFocus())
        self.window.close()  # no field is left, nothing rests
        with closing(Store.open(self.path)) as shop:
            self.assertEqual(shop.brief(self.session.board_id).notes, "Sinks the nose when pumping")

    def test_faults_of_the_program_say_what_is_saved_and_refusals_are_no_faults(self):
        import sys

        from kelvor.core.base.errors import InputError
        from kelvor.ui.window.application import report_faults

        before = sys.excepthook
        self.addCleanup(lambda: setattr(sys, "excepthook", before))
        report_faults(self.window, self.folder)
        sys.excepthook(InputError, InputError("the disk is tired", where="w.kelvor"), None)
        self.assertEqual(self.problem(), "w.kelvor: the disk is tired.")
        with mock.patch.object(sys.stderr, "write"):
            sys.excepthook(ValueError, ValueError("x"), None)
            self.assertIn("Something went wrong inside Kelvor. Everything you did is saved.", self.problem())
            with mock.patch.object(Store, "writing", side_effect=_full):
                self.shape.levers.pull("volume", "40")
                sys.excepthook(ValueError, ValueError("x"), None)
        self.assertIn("1 of your changes wait in this window, not saved yet.", self.problem())

    def test_a_name_of_300_letters_is_refused_and_a_long_one_does_not_widen_the_window(self):
        self.trigger("board.child")
        panel = self.window.dialogs.shown[-1]
        panel.findChild(QLineEdit).setText("x" * 300)
        panel.do.click()
        self.assertIn("Up to 80 are kept", panel.problem.text())
        panel.close()
        self.session.file.add_board(replace(self.session.board, name="W" * 80), self.session.brief, "Began")
        self.app.processEvents()
        self.assertLessEqual(self.window.minimumSizeHint().width(), 1280)
        self.session.file.add_board(replace(self.session.board, name="<b>bold</b>"), self.session.brief, "Began")
        self.assertEqual(self.window.title.text().split(" · ")[0], "<b>bold</b>")
        self.assertIs(self.window.title.textFormat(), Qt.TextFormat.PlainText)


def _full(*_):
    from kelvor.workshop.opening import trouble

    raise trouble(sqlite3.OperationalError("database or disk is full"), Path("w.kelvor"), None)


def _read_only(*_):
    from kelvor.workshop.opening import trouble

    raise trouble(sqlite3.OperationalError("attempt to write a readonly database"), Path("w.kelvor"), None)
