"""Typed measures, locks and levers."""

import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.snapshot import from_plain, to_plain
from kelvor.core.levers.catalogue import levers, pull_lever, with_length_at
from kelvor.core.levers.locks import volume_of, widest, with_locks_held, with_volume
from kelvor.core.levers.typed_measures import with_batten_at, with_width_at
from kelvor.core.shape.board import Board, LockedZone, Locks
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.edits.edits import with_length, with_nose_kind, with_tail_kind
from kelvor.core.shape.edits.weights import (
    Hold,
    added,
    moved,
    place_and_value,
    taken_off,
    with_ruler_toggled,
)
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards, sandpiper
from tests.support import plain_board, random_board


def lever(board, key):
    return next(item for item in levers(board) if item.key == key)


class Areas(unittest.TestCase):
    def test_a_typed_area_gives_the_width_or_the_length_whichever_is_free(self):
        board = demo_boards()[0][1]
        held = replace(board, locks=replace(board.locks, measures=("width",)))
        for key in ("length_times_width", "planform_area"):
            asked = lever(board, key).read(board) * 1.03
            wider, longer = (pull_lever(b, lever(b, key), asked).board for b in (board, held))
            for changed in (wider, longer):
                self.assertAlmostEqual(lever(changed, key).read(changed) / asked, 1.0, delta=1e-4)
            self.assertEqual(wider.length, board.length)
            self.assertGreater(widest(wider), widest(board) * 1.02)
            self.assertAlmostEqual(widest(longer), widest(board), delta=2e-4)
            self.assertGreater(longer.length, board.length * 1.02)


class Typed(unittest.TestCase):
    def test_a_width_is_met_near_by(self):
        """12 mm more a foot off the tail: met exactly, fading away forward, and the nose hardly stirred."""
        board = plain_board()
        x = 0.3048
        before = lambda at: float(half_width(board.outline, board.length, np.array([at]))[0])  # noqa: E731
        wider = with_width_at(board, x, 2 * before(x) + 0.012)
        after = lambda at: float(half_width(wider.outline, wider.length, np.array([at]))[0])  # noqa: E731
        self.assertAlmostEqual(2 * (after(x) - before(x)), 0.012, places=9)
        self.assertLess(abs(after(board.length - x) - before(board.length - x)), 5e-4)
        self.assertLess(abs(after(0.75) - before(0.75)), 0.004)
        self.assertEqual([w.x for w in wider.outline.batten.weights], [w.x for w in board.outline.batten.weights])

    def test_rocker_and_thickness_leave_rulers_alone(self):
        board = plain_board()
        higher = with_batten_at(board, "rocker", 1.3, float(board.rocker.at(np.array([1.3]))[0]) + 0.008)
        flat = np.linspace(0.3, 0.9, 50)
        np.testing.assert_allclose(higher.rocker.at(flat), board.rocker.at(flat), atol=1e-12)
        thicker = with_batten_at(board, "thickness", 0.3, 0.09)
        self.assertAlmostEqual(float(thicker.thickness.at(np.array([0.3]))[0]), 0.09, places=9)

    def test_conflicts_and_overreach_are_refused(self):
        board = replace(plain_board(), locks=Locks(zones=(LockedZone(name="all", start=0, end=1.5),)))
        with self.assertRaises(RefusedEdit):
            with_width_at(board, 0.3, 0.6)
        with self.assertRaises(RefusedEdit) as caught:
            pull_lever(plain_board(), lever(plain_board(), "wide_point"), 1.47)
        self.assertTrue(str(caught.exception))

    def test_volume_by_thickness_alone(self):
        board = plain_board()
        for litres in (0.036, 0.05):
            again = with_volume(board, litres)
            self.assertAlmostEqual(volume_of(again, Resolution.NORMAL), litres, places=7)
            self.assertEqual(again.outline, board.outline)
        with self.assertRaises(RefusedEdit):
            with_volume(board, 0.4)


class LocksHold(unittest.TestCase):
    def test_narrower_holding_area_then_volume(self):
        """47 → 45 cm wide holding length × width gives the length; holding volume says what paid."""
        board = pull_lever(plain_board(), lever(plain_board(), "width"), 0.47).board
        area = board.length * widest(board)
        held = replace(board, locks=Locks(measures=("length_times_width",)))
        result = pull_lever(held, lever(held, "width"), 0.45)
        self.assertAlmostEqual(result.board.length, area / 0.45, delta=2e-4)
        self.assertEqual([c.label for c in result.changes], ["Max width", "Length"])
        both = replace(board, locks=Locks(measures=("length_times_width", "volume")))
        result = pull_lever(both, lever(both, "width"), 0.45)
        self.assertEqual([c.label for c in result.changes], ["Max width", "Length", "Thickest"])
        self.assertAlmostEqual(volume_of(result.board), volume_of(board), places=7)

    def test_a_locked_zone_refuses_and_names_itself(self):
        board = replace(plain_board(), locks=Locks(zones=(LockedZone(name="ahead of the strap", start=0.9, end=1.5),)))
        with self.assertRaises(RefusedEdit) as caught:
            pull_lever(board, lever(board, "nose_rocker"), 0.12)
        self.assertIn("ahead of the strap", str(caught.exception))
        tail = pull_lever(board, lever(board, "tail_rocker"), 0.02).board
        x = np.linspace(0.9, 1.5, 50)
        np.testing.assert_allclose(tail.rocker.at(x), board.rocker.at(x), atol=5e-4)
        cut = with_length_at(board, "tail", -0.03).board  # measured from the nose nothing moved
        self.assertAlmostEqual(cut.length, 1.47)

    def test_locked_measures_cannot_be_typed(self):
        board = replace(plain_board(), locks=Locks(measures=("volume", "width")))
        for key, value in (("volume", 0.04), ("thickness", 0.08), ("width", 0.55)):
            with self.subTest(key), self.assertRaises(RefusedEdit) as caught:
                pull_lever(board, lever(board, key), value)
            self.assertIn("lock", str(caught.exception))

    def test_a_free_edit_passes_untouched(self):
        board = plain_board()
        other = moved(board, Hold("outline", 2), 0.75, 0.26)
        self.assertEqual(with_locks_held(board, other).board, other)
        self.assertEqual(with_locks_held(board, other).paid, ())


class EveryLever(unittest.TestCase):
    def test_reads_back_what_was_typed(self):
        for _, board, _ in demo_boards()[:3]:  # those of all families: tests/core/new_board/test_families.py
            for item in levers(board):
                value = item.read(board)
                with self.subTest(board=board.name, lever=item.key):
                    result = pull_lever(board, item, value + item.step)
                    self.assertAlmostEqual(
                        item.read(result.board), value + item.step, delta=max(5e-3 * item.step, 2e-4 * abs(value))
                    )
                    self.assertNotEqual(result.board, board)

    def test_refuses_the_absurd_in_words(self):
        board = sandpiper()
        for key in (
            "length",
            "width",
            "thickness",
            "nose_rocker",
            "tracks",
            "mast",
            "skin",
            "core_density",
            "layer.Tail cut.angle",
        ):
            for value in (-5.0, 1e5):
                with self.subTest(key=key, value=value), self.assertRaises(RefusedEdit):
                    pull_lever(board, lever(board, key), value)
        with self.assertRaises(RefusedEdit):
            pull_lever(board, lever(board, "length"), float("nan"))


class Edits(unittest.TestCase):
    def test_stretching_between_two_places_moves_only_what_lies_ahead(self):
        board = plain_board()
        longer = with_length(board, 1.56, 0.9, 1.3)
        x = np.linspace(0.02, 0.9, 40)
        np.testing.assert_allclose(longer.rocker.at(x), board.rocker.at(x), atol=1e-9)
        self.assertEqual(longer.mast_x, board.mast_x)
        ahead = np.linspace(1.3, 1.5, 20)
        np.testing.assert_allclose(longer.rocker.at(ahead + 0.06), board.rocker.at(ahead), atol=4e-3)
        with self.assertRaises(RefusedEdit):
            with_length(board, 1.1, 0.9, 1.2)

    def test_changing_an_end_leaves_the_rest(self):
        board = plain_board()
        middle = np.linspace(0.26, 1.24, 60)
        for edit, kinds in (
            (with_tail_kind, ("round", "chopped", "squash")),
            (with_nose_kind, ("pointed", "chopped", "round")),
        ):
            for kind in kinds:
                after = edit(board, kind)
                gap = half_width(after.outline, after.length, middle) - half_width(board.outline, board.length, middle)
                with self.subTest(kind):
                    self.assertLess(np.abs(gap).max(), 2e-4)
                    self.assertTrue(np.isfinite(volume_of(after)))

    def test_weights(self):
        board = plain_board()
        more = added(board, "outline", 0.55)
        self.assertEqual(len(more.outline.batten.weights), 6)
        x = np.linspace(0.3, 1.2, 50)
        gap = half_width(more.outline, 1.5, x) - half_width(board.outline, 1.5, x)
        self.assertLess(np.abs(gap).max(), 1e-12)  # a weight laid on the line moves nothing
        self.assertEqual(taken_off(more, Hold("outline", 2)).outline, board.outline)
        pushed = moved(board, Hold("rocker", 3), 5.0, 0.03)
        self.assertLess(place_and_value(pushed, Hold("rocker", 3))[0], 1.5)  # stays between its neighbours
        self.assertIsNone(with_ruler_toggled(board, Hold("rocker", 1)).rocker.weights[1].ruler)
        for bad in (
            lambda: added(board, "rocker", 0.6),
            lambda: added(board, "outline", 0.752),
            lambda: taken_off(board, Hold("rocker", 0)),
            lambda: with_ruler_toggled(board, Hold("rocker", 4)),
        ):
            with self.assertRaises(RefusedEdit):
                bad()

    def test_values_survive_the_round_trip(self):
        for seed in range(25):
            board = random_board(seed)
            self.assertEqual(from_plain(Board, to_plain(board)), board)
        self.assertEqual(hash(from_plain(Board, to_plain(board))), hash(board))
