"""Outlines of drawings: curves of a drawing program, and drawings that are too much to read."""

import tempfile
import unittest
from pathlib import Path

import ezdxf
import numpy as np
from ezdxf.enums import InsertUnits

from kelvor.core.base.errors import InputError
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.svg_checks import DEEPEST, MOST_ELEMENTS, checked_svg


class Splines(unittest.TestCase):
    def test_a_spline_is_read_as_the_curve_it_is(self):
        """Half an ellipse 1 400 × 480 mm as a spline through points of it, its mirror the other half."""
        angle = np.linspace(0, np.pi, 41)
        half = np.column_stack([700 - 700 * np.cos(angle), 240 * np.sin(angle)])
        drawing = ezdxf.new(units=InsertUnits.Millimeters)
        for side in (1, -1):
            drawing.modelspace().add_spline([(x, side * y) for x, y in half])
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "ellipse.dxf"
            drawing.saveas(path)
            read = read_outline(path)
        self.assertAlmostEqual(read.length, 1.400, places=3)
        inside = [reading for reading in read.readings if 0.1 < reading.x < 1.3]
        self.assertGreater(len(inside), 5)
        for reading in inside:
            self.assertAlmostEqual(reading.width, 0.48 * np.sqrt(1 - (reading.x / 0.7 - 1) ** 2), delta=0.002)


class TooMuch(unittest.TestCase):
    def refused(self, inner):
        with self.assertRaises(InputError) as caught:
            checked_svg(f'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm">{inner}</svg>', "a.svg")
        return str(caught.exception)

    def test_elements_nested_used_or_counted_without_end(self):
        self.assertIn(f"over {MOST_ELEMENTS} elements", self.refused("<g/>" * (MOST_ELEMENTS + 1)))
        self.assertIn(f"more than {DEEPEST} deep", self.refused("<g>" * DEEPEST + "</g>" * DEEPEST))
        chain = "".join(f'<g id="a{i}"><use href="#a{i + 1}"/></g>' for i in range(4 * DEEPEST))
        self.assertIn("use one another too deep", self.refused(chain))


if __name__ == "__main__":
    unittest.main()
