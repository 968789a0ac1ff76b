"""The rack and the register, as a designer uses them: typed, clicked, decided, taken back."""

import os
import re
from contextlib import closing
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest

from kelvor.core.base.units import System
from kelvor.core.brief.brief import Rider
from kelvor.core.rack.cards import drawn
from kelvor.core.register.kinds.words import Decision
from kelvor.workshop.rack import cards
from kelvor.workshop.store import Store
from tests.ui.case import WindowCase


class Rack(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.rack")
        self.rack = self.window.views["rack"]
        self.wait_for(lambda: all(card.counted for card in self.rack._cards), seconds=60)

    def shown(self):
        model = self.rack.view.cards
        return [model.found(row).card for row in range(model.rowCount()) if model.found(row) is not None]

    def names(self):
        return [card.name for card in self.shown()]

    def test_the_one_that_stuck_is_found_by_typing_with_why_and_what_came_of_it(self):
        QTest.keyClicks(self.rack.query, "stuck to the water last spring")
        self.assertEqual(self.names()[0], "Sandpiper 46")
        details = self.rack.details
        self.assertEqual(details.name.text(), "Sandpiper 46")
        self.assertIn("parent of Dunlin 39", details.stands.text())
        self.assertIn("flatter tail of Dunlin lets go", self.texts(details))
        step = self.session.workshop.store.steps(self.rack.view.current().card.board)[
            self.rack.view.current().card.step
        ]
        self.assertIn(
            f"{step.number}: {step.changes[0].label[:1].upper()}{step.changes[0].label[1:]}", self.texts(details)
        )
        QTest.keyClick(self.rack.query, Qt.Key.Key_Return)
        self.assertEqual(self.session.board.name, "Sandpiper 46")
        self.assertIs(self.window.stack.currentWidget(), self.window.shape)

    def texts(self, widget):
        from PySide6.QtWidgets import QLabel

        return " ".join(label.text() for label in widget.findChildren(QLabel) if not label.isHidden())

    def test_words_and_a_range_hold_what_the_ledger_says(self):
        QTest.keyClicks(self.rack.query, "slalom 90-120 L")
        self.assertEqual(set(self.names()), {"Shearwater 69", "Shearwater 76", "Tern, the yellow one"})
        volume = next(card.figures["volume"] for card in self.shown() if card.name == "Shearwater 69")
        self.rack.open(next(card.key for card in self.shown() if card.name == "Shearwater 69"))
        self.assertAlmostEqual(self.session.results.figures()["volume"].value, volume, delta=2e-6)

    def test_an_absurd_range_and_words_nobody_wrote_are_told(self):
        QTest.keyClicks(self.rack.query, "9000-9999 L")
        self.assertIn("No board lies in “9000-9999 L”", self.rack.told.text())
        self.rack.query.setText("xyzzyq")
        self.assertIn("Nothing is written like that", self.rack.told.text())
        QTest.keyClick(self.rack.query, Qt.Key.Key_Escape)
        self.assertEqual((self.rack.query.text(), len(self.names())), ("", 30))

    def test_in_order_of_a_figure_and_in_groups(self):
        self.rack.order.setCurrentIndex(self.rack.order.findData("volume"))
        volumes = [card.figures.get("volume", 9.0) for card in self.shown()]
        self.assertEqual(volumes, sorted(volumes))
        self.rack.group.setCurrentIndex(self.rack.group.findData("verdict"))
        model = self.rack.view.cards
        heads = [model.data(model.index(row)) for row in range(model.rowCount()) if model.found(row) is None]
        self.assertEqual([re.sub(r"\W+\d+$", "", head) for head in heads], ["Dropped", "Kept", "Parked", "Not decided"])

    def test_keys_alone_walk_search_and_open(self):
        QTest.keyClick(self.rack.query, Qt.Key.Key_Down)
        self.assertTrue(self.rack.view.hasFocus())
        before = self.rack.view.current().card.name
        QTest.keyClick(self.rack.view, Qt.Key.Key_Left)
        walked = self.rack.view.current().card.name
        self.assertNotEqual(walked, before)
        QTest.keyClicks(self.rack.view, "h")
        QTest.keyClicks(self.rack.query, "eron")
        self.assertEqual(self.names()[0], "Heron 14")

    def test_decide_and_words_are_kept_found_and_taken_back(self):
        self.rack.query.setText("Turnstone")
        details = self.rack.details
        details.why.setText("spins out on every lip")
        details.who.setText("Tove Aal")
        QTest.mouseClick(details.verdicts["dropped"], Qt.MouseButton.LeftButton)
        details.words.setPlainText("The nose is an anvil.")
        details.rides.setText("late and hard")
        QTest.mouseClick(details.say, Qt.MouseButton.LeftButton)
        self.rack.read()
        self.rack.query.setText("anvil")
        found = self.rack.view.current()
        self.assertEqual(
            (found.card.name, found.card.verdict, found.card.why), ("Turnstone 77", "dropped", "spins out on every lip")
        )
        self.assertIn("Tove Aal, late and hard; felt", found.by[0].where)
        self.session.undo()
        self.session.undo()
        self.rack.read()
        self.assertEqual(self.names(), [])
        self.rack.query.setText("Turnstone")
        self.assertIsNone(self.rack.view.current().card.verdict)
        self.session.redo()
        self.rack.read()
        self.assertEqual(self.rack.view.current().card.verdict, "dropped")

    def test_words_are_struck_with_a_reason_and_stay_in_the_file(self):
        record = next(
            r
            for r in self.session.workshop.registers.of("said")
            if "anything" in r.value.words or "glued" in r.value.words
        )
        self.rack.query.setText("Sandpiper 46")
        self.assertFalse(self.rack.details.strike(record))
        self.assertIn("Give the reason", self.rack.details.problem.text())
        self.rack.details.why.setText("said of another board")
        self.assertTrue(self.rack.details.strike(record))
        self.rack.read()
        self.rack.query.setText("glued down")
        self.assertNotIn("glued", " ".join(s.text for card in self.shown() for s in card.words))
        revisions = self.session.workshop.store.records.revisions(record.uid)
        self.assertEqual([r.value.struck for r in revisions], ["", "said of another board"])

    def test_ten_old_boards_from_a_notebook(self):
        self.rack.from_notebook.setChecked(True)
        book = self.rack.notebook
        for n in range(10):
            QTest.keyClicks(book.name, f"Scribble {n}")
            QTest.keyClicks(book.sizes["length"], "212")
            if n % 2:
                QTest.keyClicks(book.sizes["volume"], "76 L")
            QTest.keyClicks(book.said, f"number {n}, sold to a lighthouse keeper")
            QTest.keyClick(book.said, Qt.Key.Key_Return)
            self.assertTrue(book.name.hasFocus() or not self.window.isActiveWindow())
        self.rack.read()
        self.rack.query.setText("lighthouse keeper")
        self.assertEqual(len(self.names()), 10)
        self.rack.query.setText("scribble 70–80 L")
        self.assertEqual(len(self.names()), 5)
        self.session.undo()
        self.rack.read()
        self.rack.query.setText("lighthouse keeper")
        self.assertEqual(len(self.names()), 9)

    def test_a_photo_that_is_none_is_refused_by_name_and_nothing_typed_is_lost(self):
        book = self.rack.notebook
        book.name.setText("With a picture")
        book.sizes["length"].setText("two and a half")
        none = self.path.with_name("none.jpg")
        none.write_bytes(os.urandom(500))
        self.assertFalse(book.take_photo(none))
        self.assertIn("none.jpg", book.words.text())
        self.assertFalse(book.keep())
        self.assertIn("two and a half", book.words.text())
        self.assertEqual(book.name.text(), "With a picture")
        book.sizes["length"].setText("250")
        image = QImage(40, 20, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.red)
        some = self.path.with_name("some.png")
        image.save(str(some))
        self.assertTrue(book.take_photo(some))
        self.assertTrue(book.keep())
        self.rack.read()
        self.rack.query.setText("With a picture")
        self.assertIsNotNone(self.rack.view.photo(self.rack.view.current().card))

    def test_lineage_puts_children_under_their_parents(self):
        self.rack.lineage.setChecked(True)
        tree = self.rack.tree
        tops = [tree.topLevelItem(i) for i in range(tree.topLevelItemCount())]
        first = next(item for item in tops if item.text(0) == "Sandpiper 46")
        self.assertEqual(first.child(0).text(0), "Dunlin 39")
        self.assertEqual(first.child(0).child(0).text(0), "Stint 33")
        self.assertEqual(first.text(3), "Dropped")

    def test_a_reshape_is_told_by_both_boards_and_taken_back(self):
        fulmar = next(e for e in self.session.workshop.store.boards() if e.name.startswith("Fulmar"))
        self.session.file.open_board(fulmar.id)
        self.trigger("view.reshape")
        panel = self.window.dialogs.shown[-1]
        panel.old.setCurrentIndex(panel.old.findText("Sandpiper 46, as it stands"))
        panel.foam.setCurrentIndex(1)
        panel.do.click()

        def stands(name):
            self.trigger("view.rack")
            self.rack.read()
            self.rack.query.setText(name)
            return self.rack.details.stands.text()

        self.assertIn("to be cut out of Sandpiper 46", stands("Fulmar"))
        self.assertIn("its foam becomes Fulmar 104", stands("Sandpiper"))
        self.rack.query.clear()
        self.rack.lineage.setChecked(True)
        tops = [self.rack.tree.topLevelItem(i) for i in range(self.rack.tree.topLevelItemCount())]
        old = next(item for item in tops if item.text(0) == "Sandpiper 46")
        below = {old.child(i).text(0): old.child(i).text(4) for i in range(old.childCount())}
        self.assertIn("To be cut out of the one above", below["Fulmar 104"])
        self.assertNotIn("cut out", below["Dunlin 39"])
        self.rack.lineage.setChecked(False)
        self.trigger("edit.undo")
        self.assertNotIn("cut out of", stands("Fulmar"))
        self.trigger("edit.redo")
        self.assertIn("cut out of", stands("Fulmar"))
        self.trigger("view.reshape")
        self.window.dialogs.shown[-1]._off()
        self.assertNotIn("cut out of", stands("Fulmar"))

    def test_chosen_boards_lie_behind_the_one_on_the_bench(self):
        self.rack.query.setText("slalom")
        self.rack.view.selectAll()
        QTest.mouseClick(self.rack.details.behind, Qt.MouseButton.LeftButton)
        self.assertEqual({shown.name for shown in self.session.overlays.beside}, {"Shearwater 69", "Shearwater 76"})

    def test_a_step_brings_its_card_along(self):
        self.window.shape.levers.pull("width", "50")
        card = next(card for card in cards(self.session.workshop.store) if card.board == self.session.board_id)
        self.assertTrue(card.counted)
        self.assertEqual(card.figures, drawn(self.session.live).figures)
        self.assertAlmostEqual(card.figures["width"], 0.5, places=6)

    def test_inches_show_on_cards(self):
        self.session.set_system(System.INCH)
        self.rack.query.setText("Dunlin")
        self.assertIn('"', self.rack.view.cards.words(self.rack.view.current()))


class Feeling(WindowCase):
    def test_words_a_workshop_adds_are_searched_by_and_taken_back(self):
        self.trigger("view.rack")
        rack = self.window.views["rack"]
        rack.query.setText('"like a church"')
        self.assertEqual(rack.view.cards.rowCount(), 0)
        self.trigger("workshop.feel")
        panel = self.window.dialogs.shown[-1]
        panel.words.setText("alone")
        panel.do.click()
        self.assertIn("Give two or more", panel.problem.text())
        panel.words.setText("like a church, pivots on a plate")
        panel.do.click()
        self.assertIn("(yours)", panel.list.item(0).text())
        rack.read()
        self.assertEqual(rack.view.current().card.name, "Kittiwake 109")
        panel.list.setCurrentRow(5)
        panel.off.click()
        self.assertIn("the usual ones stay", panel.problem.text())
        self.session.undo()
        rack.read()
        self.assertEqual(rack.view.cards.rowCount(), 0)
        panel.close()


class Copies(WindowCase):
    def test_a_dated_copy_with_pages_is_written_on_closing(self):
        self.trigger("workshop.copies")
        panel = self.window.dialogs.shown[-1]
        panel.folder.setText(str(self.folder / "nowhere"))
        panel.do.click()
        self.assertIn("there is no such folder", panel.problem.text())
        folder = self.folder / "copies"
        folder.mkdir()
        panel.folder.setText(str(folder))
        panel.pages.setChecked(True)
        panel.do.click()
        self.assertEqual(list(folder.iterdir()), [])
        self.session.versions.set_reason(self.session.current, "the last words of the day")
        self.window.close()
        [copy] = folder.glob("demo *.kelvor")
        self.assertRegex(copy.name, r"^demo [0-9a-f]{6} \d{4}-\d\d-\d\d\.kelvor$")
        with closing(Store.open(copy)) as shop:
            self.assertIn("the last words of the day", [s.reason for s in shop.steps(self.session.board_id).values()])
        page = next(folder.glob("demo */Sandpiper 46*.txt")).read_text(encoding="utf-8")
        self.assertIn("It stuck to the water", page)
        self.assertEqual(list(folder.glob("*.new")), [])


class Tape(WindowCase):
    def test_a_version_is_dropped_from_the_tape_and_says_so(self):
        self.trigger("edit.decide")
        panel = self.window.dialogs.shown[-1]
        panel.verdict.setCurrentIndex(panel.verdict.findData("dropped"))
        panel.why.setText("sticks")
        panel.who.setText("Ronja")
        panel.do.click()
        dots = self.window.tape.dots
        stops = dots.stops()
        self.assertIn("dropped: sticks (Ronja)", dots.words(stops[dots.current_index(stops)]))
        self.session.undo()
        self.assertEqual(self.session.workshop.registers.decision(self.session.current).value.verdict, "kept")


class Register(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.register")
        self.view = self.window.views["register"]

    def choose(self, name):
        for row in range(self.view.things.count()):
            if self.view.things.item(row).text() == name:
                self.view.things.setCurrentRow(row)
                return
        self.fail(f"{name} is not in the register")

    def briefs(self, name):
        store = self.session.workshop.store
        return {board: brief for board in store.names() if (brief := store.brief(board)).rider.name == name}

    def test_a_riders_weight_changes_once_for_all_their_boards_and_is_taken_back_at_once(self):
        before = {board: brief.rider.mass for board, brief in self.briefs("Ronja Vik").items()}
        self.assertGreater(len(before), 2)
        self.choose("Ronja Vik")
        mass = self.view.form.field("mass")
        mass.setText("71.5")
        QTest.keyClick(mass, Qt.Key.Key_Return)
        self.assertIn("Revision 2", self.view.revision.text())
        self.assertIn("hold an older revision", self.view.users.text())
        self.assertEqual({b.rider.mass for b in self.briefs("Ronja Vik").values()}, set(before.values()))
        QTest.mouseClick(self.view.everywhere, Qt.MouseButton.LeftButton)
        self.assertEqual({b.rider.mass for b in self.briefs("Ronja Vik").values()}, {71.5})
        self.assertEqual(self.session.brief.rider.mass, 71.5)
        self.assertFalse(self.view.everywhere.isEnabled())
        self.session.undo()
        self.assertEqual({board: brief.rider.mass for board, brief in self.briefs("Ronja Vik").items()}, before)
        self.session.redo()
        self.assertEqual({b.rider.mass for b in self.briefs("Ronja Vik").values()}, {71.5})

    def test_what_a_brief_refers_to_stays_on_the_register(self):
        self.choose("Isak Brun")
        QTest.mouseClick(self.view.off, Qt.MouseButton.LeftButton)
        self.assertIn("Isak Brun stays: In 9 briefs", self.view.problem.text())
        uid = self.view.add_thing()
        self.assertEqual(self.view.title.text(), "New rider")
        QTest.mouseClick(self.view.off, Qt.MouseButton.LeftButton)
        self.assertTrue(self.session.workshop.registers.get(uid).gone)
        self.session.undo()
        self.assertFalse(self.session.workshop.registers.get(uid).gone)

    def test_never_the_wrong_rig(self):
        self.view.kinds.setCurrentRow(2)
        self.assertEqual(self.view.kind, "sail")
        self.assertFalse(self.view.take.isEnabled())
        self.assertIn("wing foil board", self.view.take.toolTip())
        self.view.kinds.setCurrentRow(3)
        self.choose("Gannet 3.1")
        QTest.mouseClick(self.view.take, Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.brief.wing.name, "Gannet 3.1")

    def test_values_that_cannot_be_are_refused_with_what_can(self):
        self.choose("Ronja Vik")
        mass = self.view.form.field("mass")
        mass.setText("900")
        QTest.keyClick(mass, Qt.Key.Key_Return)
        self.assertIn("15.00 kg to 250.00 kg", self.view.problem.text())
        self.assertEqual(self.view.record().value.mass, 69.0)

    def test_the_brief_says_what_is_newer_takes_it_and_keeps_what_was_changed_in_it(self):
        self.choose("Ronja Vik")
        registers = self.session.workshop.registers
        record = self.view.record()
        registers.keep("rider", replace(record.value, mass=72.0), "rider", uid=record.uid)
        self.trigger("view.brief")
        part = self.window.views["brief"].rider.register
        self.assertEqual(part.words.text(), "Newer in the register: Ronja Vik.")
        QTest.mouseClick(part.take, Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.brief.rider.mass, 72.0)
        self.assertTrue(part.words.isHidden())
        self.session.briefs.set(replace(self.session.brief, rider=replace(self.session.brief.rider, stance=0.6)))
        self.assertEqual(part.words.text(), "Changed here: Ronja Vik.")
        QTest.mouseClick(part.keep, Qt.MouseButton.LeftButton)
        self.assertEqual(registers.get(record.uid).value.stance, 0.6)
        self.assertTrue(part.words.isHidden())
        self.session.undo()
        self.assertEqual((registers.get(record.uid).value.stance, self.session.brief.rider.stance), (0.52, 0.6))

    def test_gear_that_is_renamed_or_taken_out_of_a_brief(self):
        session, brief = self.session, self.session.brief
        names = lambda: {r.name for r in session.brief.refers if r.part == "wing"}  # noqa: E731
        first, *rest = brief.wings
        session.briefs.set(replace(brief, wings=(replace(first, name="Gannet, patched"), *rest)))
        self.assertIn("Gannet, patched", names())
        self.trigger("view.brief")
        self.assertEqual(self.window.views["brief"].rider.register.words.text(), f"Changed here: {first.name}.")
        session.briefs.set(replace(session.brief, wings=tuple(rest), wing_in_use=0))
        self.assertEqual(names(), {wing.name for wing in rest})

    def test_the_wind_of_a_day_is_no_change_of_the_place(self):
        session = self.session
        session.briefs.set(replace(session.brief, wind=replace(session.brief.wind, speed=9.0)))
        self.trigger("view.brief")
        self.assertTrue(self.window.views["brief"].rider.register.words.isHidden())

    def test_registers_are_filled_from_briefs_once(self):
        self.session.briefs.set(replace(self.session.brief, rider=Rider(name="Somebody new"), refers=()))
        QTest.mouseClick(self.view.gather, Qt.MouseButton.LeftButton)
        names = [r.value.name for r in self.session.workshop.registers.of("rider")]
        self.assertEqual(names.count("Somebody new"), 1)
        self.assertTrue(any(r.name == "Somebody new" for r in self.session.brief.refers))
        QTest.mouseClick(self.view.gather, Qt.MouseButton.LeftButton)
        self.assertEqual([r.value.name for r in self.session.workshop.registers.of("rider")], names)
        self.session.undo()
        self.assertNotIn("Somebody new", [r.value.name for r in self.session.workshop.registers.of("rider")])

    def test_another_windows_records_come_in(self):
        with closing(Store.open(self.session.workshop.store.path)) as other:
            other.records.keep("rider", "from-elsewhere", Rider(name="Elsewhere"))
            other.records.keep(
                "decision",
                "d-elsewhere",
                Decision(verdict="parked"),
                board=self.session.board_id,
                step=self.session.current,
            )
        self.session.file.look_elsewhere()
        self.choose("Elsewhere")
        self.assertEqual(self.session.workshop.registers.decision(self.session.current).value.verdict, "parked")
