"""The Brief view: typed fields, targets, verdicts, undo."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit

from kelvor.core.base.units import KNOT
from kelvor.ui.controls.fields import QuantityField
from tests.ui.case import WindowCase


class BriefPage(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.brief")
        self.view = self.window.views["brief"]

    def field(self, name, kind=QuantityField):
        return [w for w in self.view.findChildren(kind) if w.accessibleName() == name][-1]

    def type_in(self, field, words):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.app.processEvents()

    def test_a_heavier_rider_sinks_deeper(self):
        self.session.results.settle_now()
        depth = self.session.results.figures()["float_deck_depth"].value
        self.type_in(self.field("Mass, dressed"), "190 lb")
        self.assertAlmostEqual(self.session.brief.rider.mass, 190 * 0.45359237)
        self.session.results.settle_now()
        self.assertGreater(self.session.results.figures()["float_deck_depth"].value, depth + 0.05)
        self.assertEqual(self.session.workshop.store.brief(self.session.board_id), self.session.brief)
        self.assertIn("kg", self.field("Mass, dressed").text())

    def test_fields_read_any_unit_and_keep_nonsense(self):
        self.type_in(self.field("Wind"), "30 km/h")
        self.assertAlmostEqual(self.session.brief.wind.speed, 30 / 3.6)
        self.assertEqual(self.field("Wind").text(), "16.2 kn")
        before = self.session.brief
        for typed, words in (("windy", "not a number"), ("900", "cannot be. Give"), ("3 kg", "not a unit")):
            self.type_in(self.field("Wind"), typed)
            self.assertIn(words, self.view.targets.problem.text())
            self.assertEqual(self.field("Wind").text(), typed)
        self.assertEqual(self.session.brief, before)
        self.type_in(self.field("Wind"), "18")
        self.assertAlmostEqual(self.session.brief.wind.speed, 18 * KNOT)
        self.assertEqual(self.view.targets.problem.text(), "")

    def test_undo_takes_back_what_was_typed_on_the_page(self):
        mass, board = self.session.brief.rider.mass, self.session.board
        self.type_in(self.field("Mass, dressed"), "80")
        self.trigger("edit.undo")
        self.assertEqual((self.session.brief.rider.mass, self.session.board), (mass, board))
        self.trigger("edit.redo")
        self.assertEqual(self.session.brief.rider.mass, 80)
        self.assertEqual(self.field("Mass, dressed").text(), "80.00 kg")

    def test_a_target_is_judged_where_it_is_typed(self):
        value = self.field("Target 1: value", QLineEdit)
        self.type_in(value, "80 cm")
        self.assertIn("meets", self.view.targets._verdicts[0].text())
        self.type_in(self.field("Target 1: value", QLineEdit), "10 cm")
        self.assertIn("short by", self.view.targets._verdicts[0].text())
        self.session.results.settle_now()
        self.assertIn("short by", self.window.strip.tiles[0].tile.verdict)
        depth = self.session.results.figures()["float_deck_depth"].value
        self.type_in(self.field("Target 1: value", QLineEdit), f"{depth * 100 + 1:.1f} cm")
        self.assertIn("too close to call", self.view.targets._verdicts[0].text())
        self.type_in(self.field("Target 1: value", QLineEdit), "deep")
        self.assertIn("Target 1", self.view.targets.problem.text())

    def test_targets_are_added_relative_and_dropped(self):
        count = len(self.session.brief.targets)
        self.view.targets.add_target()
        self.assertEqual(len(self.session.brief.targets), count + 1)
        which = self.field(f"Target {count + 1}: figure", QComboBox)
        index = which.findData("mass")
        which.setCurrentIndex(index)
        which.activated.emit(index)
        self.assertEqual(self.session.brief.targets[-1].figure, "mass")
        self.session.briefs.know_pinned()
        self.assertIn("mass", dict(self.session.brief.known.figures))
        self.assertIn("version 1", self.view.targets.known.text())
        self.app.processEvents()
        boxes = [b for b in self.view.findChildren(QCheckBox) if b.text() == "× known" and b.isVisible()]
        boxes[-1].setChecked(True)
        self.assertTrue(self.session.brief.targets[-1].relative)
        self.assertEqual(self.field(f"Target {count + 1}: value", QLineEdit).text(), "1.00")

    def test_what_only_ranks_boards_is_asked_as_a_share_of_a_known_one(self):
        self.session.results.settle_now()
        self.view.targets.add_target()
        number = len(self.session.brief.targets)
        which = self.field(f"Target {number}: figure", QComboBox)
        index = which.findData("wrinkle_margin")
        which.setCurrentIndex(index)
        which.activated.emit(index)
        target = self.session.brief.targets[-1]
        self.assertEqual((target.relative, target.value), (True, 1.0))
        self.session.briefs.know_pinned()
        self.app.processEvents()
        self.assertRegex(self.view.targets._verdicts[-1].text(), r"^now [\d.]+ × known: ")
        boxes = [b for b in self.view.findChildren(QCheckBox) if b.text() == "× known" and b.isVisible()]
        boxes[-1].setChecked(False)
        self.assertTrue(self.session.brief.targets[-1].relative)
        self.assertIn("only ranks boards", self.view.targets.problem.text())

    def test_gear(self):
        foils = len(self.session.brief.foils)
        self.view.gear.add_foil()
        self.assertEqual((len(self.session.brief.foils), self.session.brief.foil_in_use), (foils + 1, foils))
        self.type_in(self.field("Mast length"), "95 cm")
        self.assertAlmostEqual(self.session.brief.foil.mast_length, 0.95)
        self.view.gear.drop_foil()
        self.assertEqual(len(self.session.brief.foils), foils)
        self.view.gear.add_wing()
        self.assertEqual(self.session.brief.wing.area, 5.0)

    def test_check_values_can_be_switched_off(self):
        self.type_in(self.field("Mass, dressed"), "150")
        self.session.results.settle_now()
        self.assertEqual(self.ledger("volume_per_rider_mass").mark, "!")
        self.view.targets.hints.setChecked(False)
        self.session.results.settle_now()
        self.assertEqual(self.ledger("volume_per_rider_mass").mark, "")

    def test_notes_are_kept(self):
        self.view.rider.notes.setFocus()
        self.view.rider.notes.setPlainText("Feels like a slipper.")
        self.field("Wind").setFocus()
        self.app.processEvents()
        self.assertEqual(self.session.brief.notes, "Feels like a slipper.")
