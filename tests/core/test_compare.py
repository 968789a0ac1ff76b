"""Boards over one another: what was changed comes first, and nothing differs from itself."""

import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.compare.curves import CURVES, DATUMS, difference, place_of, slide
from kelvor.core.compare.ledger import ledger
from kelvor.core.errors import RefusedEdit
from kelvor.core.levers.catalogue import levers, pull
from kelvor.core.live import evaluate_live
from kelvor.core.shape.edits import with_length
from kelvor.demo.boards import demo_boards

DEMO = {slug: (board, brief) for slug, board, brief in demo_boards()}


def live(slug, change=lambda board: board):
    board, brief = DEMO[slug]
    return evaluate_live(change(board), brief)


class Ledger(unittest.TestCase):
    def test_a_single_planted_change_comes_first_or_is_named_a_tie_and_its_number_is_right(self):
        """Of every lever of three boards; a tie is one change under two names, such as a width and a planform."""
        planted, missed = 0, []
        for slug in ("dunlin-39", "shearwater-76", "kittiwake-109"):
            board, brief = DEMO[slug]
            here = evaluate_live(board, brief)
            for lever in levers(board):
                if lever.group == "At the cursor" or lever.choices:
                    continue
                try:
                    changed = pull(board, lever, lever.read(board) + 2 * lever.step).board
                except RefusedEdit:
                    continue
                there = evaluate_live(changed, brief)
                if isinstance(there, tuple) or abs(lever.read(changed) - lever.read(board)) < 1e-9:
                    continue
                planted += 1
                found = ledger(here, there)
                first = found[0]
                if first.key != lever.key and lever.label not in first.ties:
                    missed.append((slug, lever.key, first.key))
                told = next(d for d in found if d.key == lever.key)
                self.assertAlmostEqual(told.more / (lever.read(changed) - lever.read(board)), 1.0, delta=0.01)
        self.assertGreater(planted, 60)
        self.assertLess(len(missed), 0.05 * planted, missed)

    def test_a_board_does_not_differ_from_itself(self):
        here = live("grebe-14")
        self.assertEqual(ledger(here, here), [])

    def test_the_other_way_round_every_sign_turns(self):
        a, b = live("shearwater-69"), live("shearwater-76")
        there = {d.key: d.more for d in ledger(a, b)}
        back = {d.key: d.more for d in ledger(b, a)}
        self.assertEqual(set(there), set(back))
        self.assertTrue(all(np.isnan(there[k]) or abs(there[k] + back[k]) < 1e-12 for k in there))

    def test_what_only_one_board_has_is_told(self):
        board, brief = DEMO["dunlin-39"]
        bare = evaluate_live(
            replace(board, layers=tuple(layer for layer in board.layers if layer.kind != "bevel")), brief
        )
        keys = [d for d in ledger(evaluate_live(board, brief), bare) if np.isnan(d.there)]
        self.assertTrue(any("bevel" in d.label.lower() for d in keys))


class Over(unittest.TestCase):
    def test_a_board_over_itself_is_all_zeros_at_every_datum_it_has(self):
        here = live("shearwater-76")
        for datum in DATUMS:
            slid = slide(here, here, datum)
            if slid is not None:
                for curve in CURVES:
                    self.assertEqual((slid, float(np.abs(difference(here, here, curve, slid)[1]).max())), (0.0, 0.0))

    def test_datums_lie_where_the_board_has_them(self):
        here = live("dunlin-39")
        board = here.board
        self.assertIsNone(place_of(here, "mast track"))
        self.assertEqual((place_of(here, "foil mast"), place_of(here, "nose")), (board.mast_x, board.length))
        self.assertAlmostEqual(
            place_of(here, "centre of mass"), {f.key: f.value for f in here.figures}["mass_centre_x"], places=9
        )
        self.assertAlmostEqual(
            place_of(here, "wide point"), {f.key: f.value for f in here.figures}["wide_point"], delta=1e-3
        )

    def test_a_longer_board_laid_at_the_nose_parts_by_what_it_is_longer(self):
        short, long = live("dunlin-39"), live("dunlin-39", lambda b: with_length(b, b.length + 0.05))
        self.assertAlmostEqual(slide(short, long, "nose"), -0.05, places=9)
        self.assertAlmostEqual(slide(short, long, "middle"), -0.025, places=9)
        outline = next(curve for curve in CURVES if curve.key == "outline")
        x, more = difference(short, long, outline, slide(short, long, "tail"))
        self.assertLessEqual(float(x[-1]), short.board.length)
        self.assertGreater(float(more[-1]), 0.0)


if __name__ == "__main__":
    unittest.main()
