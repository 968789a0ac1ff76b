"""Fields that read quantities: any unit in, limits told, what cannot be read stays to be mended, emptiness has a
meaning.
"""

import math
import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.base.limits import Limit
from kelvor.core.base.units import Quantity, System
from kelvor.ui.controls.fields import QuantityField
from kelvor.ui.window.application import make_application


class Fields(unittest.TestCase):
    def setUp(self):
        self.app = make_application()
        self.changed, self.problems = [], []

    def field(self, *arguments, value=0.5, system=System.METRIC):
        field = QuantityField(*arguments)
        field.changed.connect(self.changed.append)
        field.problem.connect(self.problems.append)
        field.show_value(value, system)
        return field

    def type(self, field, words):
        field.selectAll()
        QTest.keyClick(field, Qt.Key.Key_Delete)
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)

    def test_any_unit_and_the_value_in_metres(self):
        field = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH))
        for words, value in (("47", 0.47), ("18 1/2 in", 0.4699), ("550 mm", 0.55), ("1' 8\"", 0.508)):
            self.type(field, words)
            self.assertAlmostEqual(self.changed.pop(), value, places=6)
        self.assertEqual(self.problems, [""] * 4)

    def test_entering_the_same_again_changes_nothing(self):
        field = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH), value=1 / 3)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(self.changed, [])
        self.type(field, field.text())
        self.assertEqual(self.changed, [])

    def test_limits_are_told_and_what_was_typed_stays(self):
        field = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH))
        self.type(field, "2 m")
        self.assertEqual((self.changed, field.text()), ([], "2 m"))
        self.assertIn("Width: 200.0 cm cannot be. Give 10.0 cm to 100.0 cm", self.problems[-1])
        field.show_value(0.7, System.METRIC)
        self.assertEqual(field.text(), "2 m")
        field.limit(3.0)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(self.changed, [2.0])
        self.assertEqual(field.property("wrong"), "false")

    def test_a_field_that_turns_to_something_else_forgets(self):
        field = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH))
        self.type(field, "wide")
        self.assertIn("Width: ", self.problems[-1])
        field.forget()
        field.show_value(0.7, System.METRIC)
        self.assertEqual(field.text(), "70.0 cm")

    def test_the_limits_themselves_can_be_typed_in_inches(self):
        field = self.field("From", Limit(0.0, 1.397, Quantity.LENGTH), value=0.2, system=System.INCH)
        self.type(field, '55"')
        self.assertAlmostEqual(self.changed[-1], 1.397)

    def test_an_empty_field_stands_for_its_value(self):
        for empty in (0.0, math.nan):
            with self.subTest(empty=empty):
                field = self.field("Patch", Limit(0.0, 1.0, Quantity.LENGTH), empty)
                self.type(field, "")
                value = self.changed.pop()
                self.assertTrue(value == empty or (math.isnan(value) and math.isnan(empty)))
                field.show_value(empty, System.METRIC)
                self.assertEqual(field.text(), "")
                self.type(field, "30")
                self.assertAlmostEqual(self.changed.pop(), 0.3)
        plain = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH))
        self.type(plain, "")
        self.assertEqual(self.changed, [])
        self.assertEqual(plain.property("wrong"), "true")

    def test_units_on_display_follow(self):
        field = self.field("Width", Limit(0.1, 1.0, Quantity.LENGTH), value=0.508)
        self.assertEqual(field.text(), "50.8 cm")
        field.show_value(0.508, System.INCH)
        self.assertEqual(field.text(), '20"')
        self.type(field, "18")
        self.assertAlmostEqual(self.changed[-1], 18 * 0.0254)
