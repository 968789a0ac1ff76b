"""Made boards: what a sheet asks and finds, and the shape as built against a board that is known."""

import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.errors import InputError
from kelvor.core.making.as_built import as_built
from kelvor.core.making.made import checked_serial, next_serial
from kelvor.core.making.sheet import BAGGED, judged, sheet
from kelvor.core.shape.geometry import geometry
from tests.support import demo


def bent(board, rocker=0.0, width=0.0, thickness=0.0):
    """A board as a workshop might have built it: nose and tail up, wider, thicker, each by so much [m]."""

    def moved(batten, by):
        return batten.with_values(batten.values + by)

    nose = np.array([w.x for w in board.rocker.weights]) / board.length
    return replace(
        board,
        rocker=moved(board.rocker, rocker * np.clip(4 * nose - 3, 0.0, 1.0)),
        outline=replace(board.outline, batten=moved(board.outline.batten, width)),
        thickness=moved(board.thickness, thickness),
    )


def readings_of(planned, built, noise=0.0, seed=4):
    """What tape and caliper say of a board at the places of another's sheet, with so many times their tools' spread."""
    rng, should = np.random.default_rng(seed), {m.key: m for m in sheet(geometry(built))}
    return {
        m.key: {side: should[m.key].should + noise * m.tool.reads * float(rng.normal()) for side in m.sides}
        for m in sheet(geometry(planned))
        if m.kind in ("width", "rocker", "thickness")
    }


class AsBuilt(unittest.TestCase):
    def test_a_board_that_was_built_otherwise_is_found_again(self):
        for slug in ("dunlin-39", "turnstone-77", "kittiwake-109", "heron-14"):
            planned, _ = demo(slug)
            built = bent(planned, rocker=0.006, width=0.003, thickness=-0.002)
            found = geometry(as_built(geometry(planned), readings_of(planned, built)).board)
            true, design = geometry(built), geometry(planned)
            with self.subTest(slug):
                # of what the litres were off, next to nothing is left
                off, left = (abs(g.solid.volume - true.solid.volume) for g in (design, found))
                self.assertGreater(off, 2e-4)
                self.assertLess(left, 0.12 * off + 2e-5)
                x = np.linspace(0.1, planned.length - 0.35, 30)
                for line in ("half_width", "keel", "deck"):
                    here, there = (np.interp(x, g.shape.x, getattr(g.shape, line)) for g in (found, true))
                    self.assertLess(np.abs(here - there).max(), 1.2e-3, line)

    def test_noise_of_the_tools_stays_noise(self):
        planned, _ = demo("kittiwake-109")
        design = geometry(planned)
        volumes = [
            geometry(as_built(design, readings_of(planned, planned, noise=1.0, seed=seed)).board).solid.volume
            for seed in range(5)
        ]
        self.assertLess(np.abs(np.array(volumes) / design.solid.volume - 1).max(), 0.006)

    def test_what_was_not_read_stays_as_designed(self):
        planned, _ = demo("dunlin-39")
        read = readings_of(planned, bent(planned, width=0.004))
        found = as_built(geometry(planned), {key: value for key, value in read.items() if key.startswith("width")})
        self.assertEqual((set(found.used), set(found.left)), ({"outline"}, {"rocker", "thickness"}))
        self.assertEqual(found.board.rocker, planned.rocker)
        with self.assertRaisesRegex(InputError, "three stations"):
            as_built(geometry(planned), {"width@0.305": {"left": 0.22}})


class Sheets(unittest.TestCase):
    def test_a_reading_decides_only_where_its_tool_can_tell(self):
        measures = {m.key: m for m in sheet(geometry(demo("dunlin-39")[0]))}
        rocker, plate = measures["rocker@0.914"], measures["flat.tracks"]
        self.assertEqual(rocker.sides, BAGGED)
        for off, outcome in (
            (0.0, "pass"),
            (0.0011, "pass"),
            (0.0016, "cannot tell"),
            (-0.0019, "fail"),
            (0.004, "fail"),
        ):
            self.assertEqual(judged(rocker, rocker.should + off, {}), outcome, off)
        self.assertEqual([judged(plate, gap, {}) for gap in (0.0002, 0.0003, 0.0004)], ["pass", "cannot tell", "fail"])
        self.assertEqual(judged(plate, 0.0004, {"flat": 0.0006}), "pass")

    def test_serials(self):
        self.assertEqual(next_serial([], 2026), "26-001")
        self.assertEqual(next_serial(["SK-09", "SK-10", "one of a kind"], 2026), "SK-11")
        self.assertEqual(next_serial(["SK-100", "SK-099"], 2026), "SK-101")
        self.assertEqual(checked_serial("  A 7 ", ["a 8"]), "A 7")
        for wrong in ("", "  ", "a 8 "):
            with self.assertRaises(InputError):
                checked_serial(wrong, ["A 8"])


if __name__ == "__main__":
    unittest.main()
