"""Friction lines, Michell's integral and Hogner's.

ITTC 1957 (8th ITTC, Madrid) and Blasius 1908: closed forms. Wigley hull 10:1:
converged numerical values of Michell's integral on wetted area (general
knowledge; the tolerance is what 81 × 17 points leave). Over its true breadth the
same hull makes 5 to 22 % more (Hogner 1932; ratios converged, own). Resistance of a 14 ft
board: plausible values, common practice, no source; the miss is told.
"""

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.evaluation.evaluation import ride_case, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.tank.displacement import hull
from kelvor.core.tank.displacement.hull import immersed_form, resistance
from kelvor.core.tank.displacement.waves import wave_drag
from kelvor.core.tank.laws.friction import band, blasius, ittc57
from kelvor.demo.boards import demo_boards
from tests.support import wigley

WIGLEY = ((0.25, 1.064), (0.30, 2.142), (0.35, 1.248), (0.40, 2.734), (0.45, 4.154), (0.50, 4.517))


class Friction(unittest.TestCase):
    def test_lines(self):
        for reynolds, expected in ((1e6, 0.004687), (5e6, 0.003397), (1e7, 0.003000), (1e8, 0.002083)):
            self.assertAlmostEqual(float(ittc57(reynolds)), expected, delta=1e-6)
        self.assertAlmostEqual(float(blasius(1e6)), 0.001328, delta=1e-9)

    def test_band_reaches_towards_a_laminar_layer_only_where_one_is_possible(self):
        self.assertAlmostEqual(float(band(1e7)), 0.06, places=9)
        self.assertGreater(float(band(1e6)), 0.2)


BROAD = ((0.25, 1.149), (0.30, 1.103), (0.35, 1.230), (0.40, 1.112), (0.45, 1.069), (0.50, 1.054))


class Waves(unittest.TestCase):
    def test_wigley(self):
        x, z, half, wetted = wigley(81, 17)
        for (froude, expected), (_, ratio) in zip(WIGLEY, BROAD, strict=True):
            with self.subTest(froude=froude):
                speed = froude * np.sqrt(GRAVITY * 2.0)
                found = wave_drag(x, z, half, speed, 1000.0)
                self.assertAlmostEqual(found.thin / (500 * wetted * speed**2) * 1e3 / expected, 1.0, delta=0.004)
                self.assertAlmostEqual(found.broad / found.thin, ratio, delta=0.015)

    def test_broad_and_thin_are_one_as_the_breadth_vanishes(self):
        x, z, half, _ = wigley(81, 17)
        for share, most in ((1.0, 0.25), (0.1, 0.003), (0.01, 0.0001)):
            found = [wave_drag(x, z, share * half, f * np.sqrt(GRAVITY * 2.0), 1000.0) for f, _ in WIGLEY]
            self.assertLess(max(abs(w.broad / w.thin - 1) for w in found), most)
        self.assertLess(found[0].band / found[0].broad, 0.301)

    def test_the_resolution_used_for_boards_is_within_a_tenth_from_froude_three_on(self):
        for slug in ("heron-14", "grebe-14", "shearwater-76", "sandpiper-46"):
            _, board, brief = next(d for d in demo_boards() if d[0] == slug)
            shape, slope = evaluate_live(board, brief).geometry.shape, board.base.slope
            depth = float((shape.z - slope * shape.x[:, None]).min()) + 0.055
            used = immersed_form(shape, depth, slope)
            with mock.patch.multiple(hull, STATIONS=161, LEVELS=np.linspace(0, 1, 30) ** 1.5):
                fine = immersed_form(shape, depth, slope)
            for froude in (0.3, 0.4, 0.5, 0.6):
                with self.subTest(slug, froude=froude):
                    speed = froude * np.sqrt(GRAVITY * used.length)
                    here = wave_drag(used.x, used.z, used.half, speed, 1000.0, hull.WAVES).broad
                    there = wave_drag(fine.x, fine.z, fine.half, speed, 1000.0, 160).broad
                    self.assertAlmostEqual(here / there, 1.0, delta=0.10)

    def test_thin_waves_grow_with_the_square_of_beam(self):
        x, z, half, _ = wigley(41, 9)
        thin, wide = (wave_drag(x, z, half * k, 2.0, 1000.0).thin for k in (1.0, 2.0))
        self.assertAlmostEqual(wide / thin, 4.0, places=4)


class RaceBoard(unittest.TestCase):
    """4.27 × 0.6 m, 95 kg all up: 25 N at 2.5 m/s, 41 at 3.0, 54 at 3.5 (common practice, no source)."""

    def test_immersed_form_agrees_with_clipping(self):
        _, board, brief = next(d for d in demo_boards() if d[0] == "grebe-14")
        measured = evaluate_live(board, brief).geometry
        form = immersed_form(measured.shape, float(measured.shape.keel.min()) + 0.06, 0.0)
        from kelvor.core.tank.floating.clipping import Hull, WaterPlane

        exact = Hull(measured.shape).immersion(WaterPlane(float(measured.shape.keel.min()) + 0.06))
        self.assertAlmostEqual(form.volume / exact.volume, 1.0, delta=0.01)

    def test_drag_of_a_fourteen_foot_board(self):
        _, board, brief = next(d for d in demo_boards() if d[0] == "heron-14")
        measured = evaluate_live(board, brief).geometry
        shape = measured.shape
        water = brief.water
        depth = next(
            d
            for d in np.linspace(0.02, 0.2, 200)
            if immersed_form(shape, d, 0.0) is not None and immersed_form(shape, d, 0.0).volume * water.density > 95
        )
        form = immersed_form(shape, float(depth), 0.0)
        for speed, expected in ((2.5, 25), (3.0, 41), (3.5, 54)):
            with self.subTest(speed=speed):
                found = resistance(form, speed, water.density, water.viscosity, 0.5)
                miss = found.total / expected - 1
                # ours is another, invented hull: within a fifth, and told
                self.assertLess(abs(miss), 0.2, f"{found.total:.0f} N against {expected} N")

    def test_friction_of_the_hull_by_hand(self):
        """ITTC 1957 on the wetted surface at the waterline's Reynolds number, Hoerner's 1 + 1.5 (d/l)^1.5 about it;
        half of what a wet tail drags is open.
        """
        _, board, brief = next(d for d in demo_boards() if d[0] == "heron-14")
        form = immersed_form(evaluate_live(board, brief).geometry.shape, 0.10, 0.0)
        for speed in (1.5, 3.0):
            found = resistance(form, speed, 1025.0, 1.19e-6, 0.5)
            line = 0.075 / (np.log10(speed * form.length / 1.19e-6) - 2) ** 2
            by_hand = 1025.0 / 2 * speed**2 * form.wetted * line * (1 + 1.5 * (2 * form.draught / form.length) ** 1.5)
            self.assertAlmostEqual(float(found.friction) / by_hand, 1, places=9)
            sharp = resistance(replace(form, tail=0.0), speed, 1025.0, 1.19e-6, 0.5)
            self.assertAlmostEqual(float(found.band - sharp.band), 0.5 * float(found.tail), places=9)
        self.assertGreater(float(resistance(form, 1.5, 1025.0, 1.19e-6, 0.5).tail), 0.1)

    def test_the_band_of_a_floating_board_adds_up_by_squares(self):
        """Friction's own band, and the shares of waves and limbs, with what the two ways of counting waves part by."""
        _, board, brief = next(d for d in demo_boards() if d[0] == "grebe-14")
        model = ride_case(settle(evaluate_live(board, brief))).model
        state = model.running(2.0)
        rubs = float(band(2.0 * state.wetted / model.viscosity)) * state.friction
        parts = (rubs, 0.30 * state.waves, 0.3 * state.body, 0.10 * state.lift_drag, 0.10 * state.foil, 0.1 * state.air)
        by_hand = np.sqrt(sum(part**2 for part in parts) + state.parting**2)
        self.assertAlmostEqual(state.band / by_hand, 1, delta=0.01)
        self.assertGreater(rubs, 0.2 * state.band)


if __name__ == "__main__":
    unittest.main()
