"""Templates and ribs on sheets of ply, read back by ezdxf and looked at by shapely."""

import tempfile
import unittest
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import ezdxf
import numpy as np
from shapely.geometry import Polygon, box

from kelvor.core.base.errors import InputError
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.recipes import HOLLOW_WOOD
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.register.stamp import Stamp
from kelvor.exchange.nesting import KERF, SHEET, NestedPart, nested, parts_of, write_nested
from tests.support import plain_board, shape_of


def rectangle(long, wide):
    return NestedPart("panel", np.array([[0.0, 0.0], [long, 0.0], [long, wide], [0.0, wide]]))


class Nesting(unittest.TestCase):
    def test_a_hollow_boards_parts_lie_on_the_sheets_whole_apart_and_stamped(self):
        board = plain_board()
        board = with_construction(board, shape_of(board), HOLLOW_WOOD, HANDBOOK)
        shape = shape_of(board)
        parts = parts_of(shape, board.length)
        self.assertGreater(sum(part.name.startswith("Rib") for part in parts), 4)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.nested.dxf"
            write_nested(shape, path, board.length, Stamp(design=board.name, code="K7QM-4D2X"))
            space = ezdxf.readfile(path).modelspace()
        cut = [Polygon([(x, y) for x, y, *_ in line.get_points()]) for line in space.query('LWPOLYLINE[layer=="cut"]')]
        sheets = [
            Polygon([(x, y) for x, y, *_ in line.get_points()]) for line in space.query('LWPOLYLINE[layer=="sheet"]')
        ]
        self.assertEqual(len(cut), len(parts))
        for one, other in combinations(cut, 2):
            self.assertGreaterEqual(one.distance(other), KERF - 1.0)
        for part in cut:
            self.assertTrue(any(sheet.buffer(-KERF + 1.0).contains(part) for sheet in sheets))
        wanted = sorted(Polygon(part.ring).area for part in parts)
        np.testing.assert_allclose(sorted(part.area for part in cut), wanted, rtol=1e-9)
        self.assertTrue(any("K7QM-4D2X" in text.dxf.text for text in space.query("TEXT")))

    def test_a_rib_is_the_section_less_planks_and_rails(self):
        board = plain_board()
        thick = replace(HOLLOW_WOOD, core=replace(HOLLOW_WOOD.core, skin=0.02))
        by_skin = []
        for c in (HOLLOW_WOOD, thick):
            built = with_construction(board, shape_of(board), c, HANDBOOK)
            ribs = [part for part in parts_of(shape_of(built), built.length) if part.name.startswith("Rib")]
            by_skin.append({part.name: part for part in ribs})
        name = next(name for name in by_skin[1] if name in by_skin[0] and by_skin[0][name].size[0] > 300)
        thin, heavy = by_skin[0][name], by_skin[1][name]
        taller = thin.ring[:, 1].max() - heavy.ring[:, 1].max()
        self.assertAlmostEqual(taller, 2000 * (0.02 - HOLLOW_WOOD.core.skin), delta=1.5)

    def test_eight_panels_take_two_sheets_and_what_is_too_long_is_named(self):
        """Eight of 600 × 290, 8 mm apart and from the edges: 2 × 600 + 3 × 8 = 1224, so four to a sheet."""
        laid, long = nested([rectangle(600, 290)] * 8 + [rectangle(1500, 100)], (1226.0, 612.0))
        self.assertEqual([item.sheet for item in laid], [0] * 4 + [1] * 4)
        self.assertEqual([part.size for part in long], [(1500.0, 100.0)])
        with self.assertRaisesRegex(InputError, "no part fits a sheet of 2440 × 1220 mm"):
            nested([rectangle(3000, 1300)])

    def test_a_part_is_turned_where_that_helps(self):
        (laid,), _ = nested([rectangle(500, 1500)], SHEET)
        self.assertTrue(box(0, 0, *SHEET).contains(Polygon(laid.ring)))
        self.assertAlmostEqual(Polygon(laid.ring).area, 500 * 1500)
