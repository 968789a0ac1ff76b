"""Boards from readings: tape and caliper, the rocker gauge, offset tables, drawings; and old foam under a new shape."""

import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
import shapely

from kelvor.core.base.errors import InputError
from kelvor.core.brief.brief import Brief
from kelvor.core.levers.locks import with_volume
from kelvor.core.levers.typed_measures import with_widest
from kelvor.core.new_board.proposals import proposals, proposed_board
from kelvor.core.new_board.readings import (
    TAPE_PLACES,
    TOLERANCE,
    Reading,
    board_from_readings,
    joined_readings,
)
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.templates.reshape import block, excess
from kelvor.devices.rocker_gauge import parse_rocker_line, rocker_gauge_lines
from kelvor.exchange.export import export
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.readings import read_offsets
from tests.support import plain_board, shape_of


def read_off(board, shares=TAPE_PLACES, noise=0.0, seed=1):
    """What tape, caliper and gauge would read off a board."""
    shape, rng = shape_of(board), np.random.default_rng(seed)

    def at(line, x):
        return float(np.interp(x, shape.x, line) + rng.normal(0, noise))

    return tuple(
        Reading(x, 2 * at(shape.half_width, x), at(shape.keel, x), at(shape.edge_z, x), at(shape.deck - shape.keel, x))
        for x in (share * board.length for share in shares)
    )


class FromReadings(unittest.TestCase):
    def test_nine_places_give_the_board_back(self):
        for discipline in ("kite surf", "wave windsurf", "prone race", "wing foil"):
            board = proposed_board(discipline, proposals(replace(Brief(), discipline=discipline))[0])
            tail = "square" if board.outline.tail == "swallow" else board.outline.tail
            found = board_from_readings(
                "Read", discipline, board.length, read_off(board, noise=2e-4), tail, board.outline.nose
            )
            with self.subTest(discipline):
                for miss in found.misses:
                    self.assertLess(miss.gap, 2.1 * TOLERANCE, miss)
                    self.assertGreaterEqual(miss.read, 5)
                x = np.linspace(0.05, 0.95, 40) * board.length
                gap = half_width(found.board.outline, board.length, x) - half_width(board.outline, board.length, x)
                self.assertLess(np.abs(gap).max(), 4e-3)  # between nine places a tape knows no more
                volumes = [geometry(b).solid.volume for b in (board, found.board)]
                self.assertAlmostEqual(volumes[1] / volumes[0], 1.0, delta=0.06)
                self.assertIn("not read", " ".join(found.notes))

    def test_readings_on_a_batten_leave_few_weights_and_no_ripple(self):
        x = np.linspace(0.0, 1.6, 33)
        parabola = 0.05 * (x / 1.6) ** 2
        readings = tuple(Reading(float(a), rocker=float(b)) for a, b in zip(x, parabola, strict=True))
        found = board_from_readings("Arc", "kite surf", 1.6, readings, "squash", "round")
        self.assertLessEqual(len(found.board.rocker.weights), 4)
        fine = np.linspace(0, 1.6, 400)
        np.testing.assert_allclose(found.board.rocker.at(fine), 0.05 * (fine / 1.6) ** 2, atol=1e-4)
        self.assertIn("Not read, taken from a first board: widths, thicknesses", found.notes)

    def test_what_cannot_be_is_named_with_its_place(self):
        good = read_off(plain_board())
        cases = (
            (1.5, good[:3], "too little"),
            (1.5, (*good, Reading(1.7, 0.2)), "not on the board"),
            (1.5, good[::-1], "does not lie ahead"),
            (1.5, (replace(good[0], width=2.5), *good[1:]), "width: 250.0 cm cannot be"),
            (9.0, good, "900.0 cm cannot be"),
            (1.5, tuple(Reading(r.x, r.width, rail=r.rail) for r in good), "keel was not"),
            (
                1.5,
                tuple(replace(r, thickness=r.thickness if i < 3 else None) for i, r in enumerate(good)),
                "3 places only",
            ),
        )
        for length, readings, words in cases:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                board_from_readings("Bad", "wing foil", length, tuple(readings), "squash", "round")
            self.assertIn(words, str(caught.exception))

    def test_two_sets_join_at_their_places(self):
        tape = (Reading(0.1, width=0.3), Reading(0.5, width=0.5))
        gauge = (Reading(0.105, rocker=0.01), Reading(0.3, rocker=0.0))
        both = joined_readings(tape, gauge)
        self.assertEqual([r.x for r in both], [0.1, 0.3, 0.5])
        self.assertEqual((both[0].width, both[0].rocker), (0.3, 0.01))

    def test_the_gauge_says_what_its_board_is(self):
        lines = rocker_gauge_lines("kite surf", seed=4)
        readings = [parse_rocker_line(line) for line in lines]
        self.assertIsNone(readings[-1])
        x = np.array([r.x for r in readings[:-1]])
        z = np.array([r.height for r in readings[:-1]])
        self.assertTrue((np.diff(x) > 0).all())
        found = board_from_readings(
            "Drawn",
            "kite surf",
            float(x[-1]),
            tuple(Reading(float(a), rocker=float(b)) for a, b in zip(x, z, strict=True)),
            "squash",
            "round",
        )
        self.assertLess(next(m.gap for m in found.misses if m.line == "rocker"), TOLERANCE)
        for bad in ("K 12", "K a b", "Z 1 2", "K 99999 1", ""):
            with self.assertRaises(InputError):
                parse_rocker_line(bad)


class Files(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = Path(tempfile.mkdtemp())
        cls.board = proposed_board("Out", proposals(replace(Brief(), discipline="slalom"))[0])
        for kind in ("csv", "dxf", "svg"):
            export(cls.board, kind, cls.folder / f"b.{kind}")

    def write(self, name, text):
        path = self.folder / name
        path.write_text(text, encoding="utf-8")
        return path

    def test_our_own_offset_table_comes_back(self):
        out = read_offsets(self.folder / "b.csv")
        length, readings = out.length, out.readings
        self.assertIn("rows, of which", out.notes[0])
        self.assertAlmostEqual(length, self.board.length, delta=1e-5)
        found = board_from_readings("Back", "slalom", length, readings, "squash", "round")
        x = np.linspace(0.15, 0.95, 60) * length
        np.testing.assert_allclose(
            half_width(found.board.outline, length, x), half_width(self.board.outline, length, x), atol=1.2e-3
        )
        np.testing.assert_allclose(found.board.thickness.at(x), shape_thickness(self.board, x), atol=2.5e-3)

    def test_tables_in_other_units_and_delimiters_say_the_same(self):
        rows = read_off(plain_board())
        plain = "\n".join(
            ["station cm,width cm,rocker mm,thickness in"]
            + [f"{r.x * 100},{r.width * 100},{r.rocker * 1000},{r.thickness / 0.0254}" for r in rows]
        )
        german = "\n".join(
            ["Station (mm);Half width (mm);Keel (mm);Deck (mm)"]
            + [
                ";".join(
                    f"{mm:.4f}".replace(".", ",")
                    for mm in (r.x * 1e3, r.width * 500, r.rocker * 1e3, (r.rocker + r.thickness) * 1e3)
                )
                for r in rows
            ]
        )
        for name, text in (("a.csv", plain), ("b2.csv", german)):
            found = read_offsets(self.write(name, text)).readings
            for a, b in zip(rows, found, strict=True):
                self.assertAlmostEqual(a.x, b.x, places=5)
                self.assertAlmostEqual(a.width, b.width, places=5)
                self.assertAlmostEqual(a.thickness, b.thickness, places=5)

    def test_bad_tables_say_where(self):
        cases = (
            ("station mm,width mm\n10,20\nx,30\n", "line 3, column station mm"),
            ("station,width\n1,2\n2,3\n", "does not say its unit"),
            ("width mm,rocker mm\n1,2\n", "no column gives the station"),
            ("station mm\n1\n", "only stations"),
            ("station mm,width mm\n", "no rows"),
            ("station mm,width mm,width mm\n1,2,3\n", "given twice"),
            ("station mm,width mm\n,3\n", "no station"),
        )
        for text, words in cases:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                read_offsets(self.write("bad.csv", text))
            self.assertIn(words, str(caught.exception))

    def test_our_own_drawings_come_back(self):
        for kind in ("dxf", "svg"):
            found = read_outline(self.folder / f"b.{kind}")
            with self.subTest(kind):
                self.assertAlmostEqual(found.length, self.board.length, delta=5e-5)
                # the stamp is no line, and nothing else is left out
                self.assertEqual(found.notes[1:], ())
                self.assertIn("millimetres" if kind == "dxf" else "mm wide", found.notes[0])
                for reading in found.readings[1:-1]:
                    self.assertAlmostEqual(
                        reading.width,
                        2 * float(half_width(self.board.outline, self.board.length, np.array([reading.x]))[0]),
                        delta=6e-4,
                    )
                turned = read_outline(self.folder / f"b.{kind}", nose_first=True)
                self.assertAlmostEqual(turned.readings[5].width, found.readings[-6].width, delta=1e-6)

    def test_an_ellipse_a_half_and_arcs_in_a_drawing(self):
        import ezdxf
        from ezdxf import units

        drawing = ezdxf.new("R2010")
        drawing.units = units.CM
        drawing.modelspace().add_ellipse((0, 0), major_axis=(80, 0), ratio=0.3)
        drawing.modelspace().add_line((0, 0), (3, 0))
        path = self.folder / "ellipse.dxf"
        drawing.saveas(path)
        found = read_outline(path)
        self.assertAlmostEqual(found.length, 1.6, places=4)
        for reading in found.readings[1:-1]:
            self.assertAlmostEqual(
                reading.width, 0.48 * np.sqrt(1 - (reading.x / 0.8 - 1) ** 2), delta=4e-4
            )  # closed form
        half = self.write(
            "half.svg",
            '<svg xmlns="http://www.w3.org/2000/svg" width="1600mm" height="300mm" viewBox="0 0 1600 300">'
            '<path d="M 0 240 A 800 240 0 0 1 1600 240 Z"/></svg>',
        )
        found = read_outline(half)
        self.assertIn("centreline", found.notes[1])
        self.assertAlmostEqual(max(r.width for r in found.readings), 0.48, delta=1e-3)

    def test_drawings_that_are_none_say_so(self):
        cases = (
            ("x.dxf", "hello", "DXF"),
            ("x.svg", "<svg", "SVG"),
            ("e.svg", '<svg xmlns="http://www.w3.org/2000/svg"/>', "no curve"),
            ("s.svg", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L10 0 L10 5 Z"/></svg>', "mm long"),
            ("x.png", "", "no drawing"),
        )
        for name, text, words in cases:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                read_outline(self.write(name, text))
            self.assertIn(words, str(caught.exception))
        with self.assertRaises(InputError):
            read_outline(self.folder / "missing.dxf")


def shape_thickness(board, x):
    shape = shape_of(board)
    return np.interp(x, shape.x, shape.deck - shape.keel)


class Reshaping(unittest.TestCase):
    def test_a_board_fits_into_itself_and_into_a_larger_one(self):
        old = plain_board()
        found = excess(shape_of(old), shape_of(old))
        self.assertEqual((found.worst()[0], found.slide), ("", 0.0))
        self.assertLess(found.volume, 1e-9)
        smaller = with_volume(with_widest(old, 0.47), 0.9 * geometry(old).solid.volume)
        self.assertLess(excess(shape_of(smaller), shape_of(old)).volume, 2e-6)

    def test_what_sticks_out_is_told_by_its_size_and_place(self):
        old = plain_board()
        wider = with_widest(old, 0.53)
        name, amount, _ = excess(shape_of(wider), shape_of(old), 0.0).worst()
        self.assertEqual(name, "beside")
        self.assertAlmostEqual(amount, 0.015, delta=1.5e-3)  # half of the 30 mm
        thick = replace(old, thickness=old.thickness.with_values(old.thickness.values + 0.012))
        found = excess(shape_of(thick), shape_of(old), 0.0)
        middle = (found.x > 0.2) & (found.x < 1.2)
        np.testing.assert_allclose(
            (found.above + found.below)[middle], 0.012, atol=5e-4
        )  # shared between deck and bottom by the lift
        self.assertGreater(found.volume, 0.9 * 0.012 * 0.5)  # litres by the planform

    def test_the_slide_is_found(self):
        old = plain_board()
        x = np.linspace(0.2, 1.3, 30)
        self.assertTrue(shapely.Polygon(np.column_stack([x, half_width(old.outline, 1.5, x)])).is_valid)
        from kelvor.core.shape.edits.edits import with_tail_cut

        shorter = with_tail_cut(old, 0.08)
        self.assertAlmostEqual(excess(shape_of(shorter), shape_of(old)).slide, 0.08, delta=0.005)
        self.assertEqual(block(shape_of(old), 0.25).bottom.shape, block(shape_of(old), 0.25).top.shape)
