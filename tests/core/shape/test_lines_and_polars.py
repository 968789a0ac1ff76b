"""Measures along lines, polars and thresholds on shapes whose answer is known in closed form."""

import math
import unittest
from dataclasses import fields, replace
from types import SimpleNamespace

import numpy as np

from kelvor.core.base.units import DEGREE
from kelvor.core.measures.lines import cut_outs, volume_up_to, width_held
from kelvor.core.ride.model import Running, hump, threshold
from kelvor.core.ride.sailing import DOWNWIND_LEAST, UPWIND_MOST, Polar
from kelvor.core.shape.checks.straight_edge import chord_gap, flat_run, flat_runs, straight_aft
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.baseline import relevelled
from kelvor.core.shape.parts.layers import Ledge
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.displacement.hull import immersed_form
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.sails.sails import gear_of
from tests.support import demo, plain_board, pulls, shape_of

X = np.linspace(0.0, 2.0, 401)


def board_of(half, area=None, volume=1.0, layers=(), length=2.0):
    """What a measure reads of a board: stations, half-widths, section areas."""
    shape = SimpleNamespace(x=X, half_width=half)
    board = SimpleNamespace(length=length, mast_x=None, layers=layers)
    areas = SimpleNamespace(area=np.ones_like(X) if area is None else area)
    return SimpleNamespace(shape=shape, areas=areas, solid=SimpleNamespace(volume=volume), board=board)


class WidthAndVolume(unittest.TestCase):
    def test_a_parabola_holds_its_width_as_its_root_says(self):
        """b = B (1 − ((x − c)/a)²) is within d of B over 2 a √(d/B)."""
        top, centre, half_length = 0.30, 1.1, 1.3
        half = top * (1 - ((X - centre) / half_length) ** 2)
        start, end = width_held(board_of(half))
        held = 2 * half_length * math.sqrt(0.0025 / top)
        self.assertAlmostEqual(end - start, held, delta=2e-3)
        self.assertAlmostEqual((start + end) / 2, centre, delta=2e-3)

    def test_parallel_sides_hold_it_from_end_to_end_and_a_taper_only_at_its_wide_end(self):
        self.assertEqual(width_held(board_of(np.full_like(X, 0.25))), (0.0, 2.0))
        start, end = width_held(board_of(0.1 + 0.1 * X))
        self.assertEqual(end, 2.0)
        self.assertAlmostEqual(start, 2.0 - 0.025, delta=1e-6)

    def test_volume_up_to_a_place_is_the_integral_of_the_areas(self):
        wedge = board_of(np.ones_like(X), area=X, volume=0.08)
        found = volume_up_to(wedge, np.array([0.0, 0.5, 1.0, 2.0]))
        for place, volume in zip((0.0, 0.5, 1.0, 2.0), found, strict=True):
            self.assertAlmostEqual(volume, 0.08 * (place / 2.0) ** 2, delta=1e-6)

    def test_cut_outs_by_hand_and_tiers_counted_once(self):
        """A strip 6 cm wide over 40 cm on both sides, 8 mm deep: 480 cm² and 0.384 L; a second tier inside it adds
        litres only.
        """
        half = np.full_like(X, 0.3)
        cut = Ledge(name="Cut", line=Schedule.constant(0.06), height=Schedule.constant(0.008), end=Place("tail", 0.4))
        tier = replace(cut, name="Tier", line=Schedule.constant(0.03), height=Schedule.constant(0.004))
        area, litres = cut_outs(board_of(half), [cut])
        self.assertAlmostEqual(area, 0.048, delta=6e-4)
        self.assertAlmostEqual(litres, 3.84e-4, delta=6e-6)
        both = cut_outs(board_of(half), [cut, tier])
        self.assertAlmostEqual(both[0], area, places=12)
        self.assertAlmostEqual(both[1], litres + 2 * 0.03 * 0.4 * 0.004, delta=1e-6)

    def test_a_cut_out_wider_than_the_board_takes_no_more_than_the_board(self):
        half = 0.02 + 0.1 * X
        cut = Ledge(name="Cut", line=Schedule.constant(0.5), height=Schedule.constant(0.01), end=Place("tail", 0.4))
        area, _ = cut_outs(board_of(half), [cut])
        self.assertAlmostEqual(area, 2 * (0.02 * 0.4 + 0.1 * 0.4**2 / 2), delta=4e-4)


class StraightEdges(unittest.TestCase):
    def test_the_flat_of_a_curve_is_the_chord_of_its_gap(self):
        """z = x²/2R under a straight edge of length L gapes L²/8R: L = √(8 R g)."""
        for radius in (2.0, 6.0, 15.0):
            line = (X - 0.8) ** 2 / (2 * radius)
            start, end = flat_run(X, line)
            self.assertAlmostEqual(end - start, math.sqrt(8 * radius * 5e-4), delta=0.012)
            self.assertLessEqual(chord_gap(X, line, start, end), 5e-4 * 1.2)

    def test_several_lines_at_once_are_each_by_itself(self):
        lines = tuple((X - c) ** 2 / (2 * r) for c, r in ((0.5, 3.0), (1.2, 8.0), (0.9, 20.0)))
        self.assertEqual(flat_runs(X, lines), [flat_run(X, line) for line in lines])

    def test_straight_tips_do_not_win_over_the_middle_of_a_board_alike_at_both_ends(self):
        middle = X - 1.0
        kicked = np.where(np.abs(middle) < 0.5, middle**2 / 6, 0.25 / 6 + (np.abs(middle) - 0.5) * 0.4)
        start, end = flat_run(X, kicked)
        self.assertTrue(start < 1.0 < end)
        tilted = kicked + 0.05 * np.maximum(middle, 0.0)  # no longer alike: its longest flat may be a tip
        start, end = flat_run(X, tilted)
        self.assertGreater(end - start, 0.4)

    def test_a_straight_kick_is_no_flat_however_long_it_is(self):
        """A board on a base that rises by 2 %: a tail kick of 6° and 0.6 m, a flat of 0.4 m, an arc to the nose."""
        slope, kick, flat = 0.02, math.tan(math.radians(6)), 0.4
        rocker = np.where(X < 0.6, (0.6 - X) * kick, np.where(0.6 + flat < X, (X - 0.6 - flat) ** 2 / 2, 0.0))
        line = rocker + slope * X
        start, end = flat_run(X, line)
        self.assertLess(end, 0.65)
        start, end = flat_run(X, line, base=slope)
        self.assertGreater(start, 0.58)
        self.assertAlmostEqual(end - start, flat + math.sqrt(2 * 5e-4) / 2, delta=0.05)
        gentle = np.where(X < 0.6, (0.6 - X) * math.tan(math.radians(2.0)), rocker) + slope * X
        self.assertLess(flat_run(X, gentle, base=slope)[0], 0.01)  # along the base within 3°: what it runs on

    def test_the_aft_flat_is_the_same_however_a_board_was_laid_before(self):
        """A kite surf board with a straight kick: laid on it once, it was laid on it for good."""
        board = demo("phalarope-174")[0]
        laid = relevelled(of_sections(shape_of(board)), "aft flat")
        self.assertLess(abs(math.degrees(laid.base.slope)), 1.0)
        tipped = replace(board, base=replace(laid.base, slope=math.tan(math.radians(-5.3))))
        again = relevelled(of_sections(shape_of(tipped)), "aft flat")
        self.assertAlmostEqual(again.base.slope, laid.base.slope, places=9)

    def test_a_straight_edge_laid_aft_reaches_as_far_as_the_line_is_straight(self):
        line = np.where(X > 0.7, 0.25, 0.25 - (0.7 - X) ** 2)
        # from 1.2 to 0.7 it is straight; beyond, the chord may cut the corner by half a millimetre
        reach = straight_aft(X, line, 1.2)
        self.assertGreater(reach, 0.5)
        self.assertLess(reach, 0.62)
        self.assertAlmostEqual(straight_aft(X, np.full_like(X, 0.2), 1.2), 1.2, delta=1e-6)


class Courses(unittest.TestCase):
    """A polar drawn by hand: 5 m/s on every course it planes on, 1 m/s where it does not."""

    def polar(self, planes_from, planes_to, leeway=0.0):
        angle = np.radians(np.arange(40.0, 166.0, 5.0))
        inside = (angle >= planes_from * DEGREE - 1e-9) & (angle <= planes_to * DEGREE + 1e-9)
        return Polar(angle, np.where(inside, 5.0, 1.0), np.full_like(angle, 300.0), np.full_like(angle, leeway))

    def test_the_best_courses_are_the_ends_of_what_planes(self):
        polar = self.polar(60, 135)
        up, down = (polar.best(upwind=u, running=3.0) for u in (True, False))
        self.assertAlmostEqual(up.angle, 60 * DEGREE, delta=0.01 * DEGREE)
        self.assertAlmostEqual(up.made_good, 5 * math.cos(60 * DEGREE), places=3)
        self.assertAlmostEqual(down.angle, 135 * DEGREE, delta=0.01 * DEGREE)
        self.assertAlmostEqual(down.made_good, -5 * math.cos(135 * DEGREE), places=3)

    def test_falling_off_the_plane_never_points_higher(self):
        self.assertIsNone(self.polar(90, 95).best(upwind=True, running=3.0))
        self.assertIsNone(self.polar(85, 95).best(upwind=False, running=3.0))
        self.assertIsNone(self.polar(200, 210).best(upwind=True, running=3.0))

    def test_leeway_turns_the_nose_and_not_the_course(self):
        """The wind the board feels is that of its course through the water: what is made good is made good on it."""
        drifting = self.polar(60, 135, leeway=6 * DEGREE)
        up = drifting.best(upwind=True, running=3.0)
        self.assertAlmostEqual(up.made_good, 5 * math.cos(60 * DEGREE), places=3)
        self.assertAlmostEqual(up.leeway, 6 * DEGREE)
        self.assertLess(UPWIND_MOST, 90 * DEGREE)
        self.assertGreater(DOWNWIND_LEAST, 90 * DEGREE)

    def test_between_courses_the_middle_of_the_best(self):
        angle = np.radians(np.arange(40.0, 166.0, 5.0))
        speed = 4.0 + np.maximum(0.0, 1.0 - ((np.degrees(angle) - 62.0) / 20) ** 2)
        best = Polar(angle, speed, np.zeros_like(angle), np.zeros_like(angle)).best(upwind=True, running=1.0)
        fine = np.radians(np.linspace(40, 100, 6001))
        exact = (4.0 + np.maximum(0.0, 1.0 - ((np.degrees(fine) - 62.0) / 20) ** 2)) * np.cos(fine)
        self.assertAlmostEqual(best.angle, float(fine[np.argmax(exact)]), delta=2.5 * DEGREE)
        self.assertAlmostEqual(best.made_good, float(exact.max()), delta=0.03)


class Thresholds(unittest.TestCase):
    @staticmethod
    def at(speeds):
        """Speed lifts 1 − e^(−v/3), and drag has its hump at 4.3 m/s."""
        rest = {f.name: 0.0 for f in fields(Running) if f.name not in ("speed", "moving", "drag")}
        return tuple(
            Running(speed=float(v), moving=1 - math.exp(-v / 3), drag=100 - (v - 4.3) ** 2, **rest) for v in speeds
        )

    def test_planing_begins_between_the_speeds_of_the_curve(self):
        curve = self.at(range(2, 9))
        for share in (0.6, 0.75, 0.9):
            self.assertAlmostEqual(threshold(curve, share, self.at), -3 * math.log(1 - share), delta=1e-4)
        self.assertTrue(math.isnan(threshold(curve, 0.99, self.at)))
        self.assertEqual(threshold(curve, 0.1, self.at), 2.0)

    def test_the_hump_lies_between_the_speeds_of_the_curve(self):
        curve = self.at(range(2, 9))
        self.assertAlmostEqual(hump(curve, 8.0, self.at).speed, 4.3, delta=0.05)
        self.assertAlmostEqual(hump(curve, 4.0, self.at).speed, 4.0, delta=1e-9)


class Pull(unittest.TestCase):
    """Kites and wings by the lifting line, square to the apparent wind."""

    def test_a_kite_swung_pulls_with_the_square_of_its_speed_and_by_the_cosine_of_its_lines(self):
        kite = gear_of("Kite", "kite", 10.0, 3.0, TABLE)
        still, swung = (pulls(kite, 8.0, 90 * DEGREE, cant=TABLE.kite_elevation, swung=s) for s in (False, True))
        self.assertAlmostEqual(float(swung.ahead) / float(still.ahead), TABLE.kite_speed**2, places=9)
        pressure = 1.225 / 2 * 8.0**2 * 10.0
        self.assertAlmostEqual(
            float(still.ahead), pressure * TABLE.kite_lift_most * math.cos(TABLE.kite_elevation), places=6
        )

    def test_a_sail_and_a_hand_wing_have_no_lines_and_are_never_swung(self):
        for rig, lift in (("sail", TABLE.sail_lift_most), ("hand wing", TABLE.wing_lift_most)):
            gear = gear_of("G", rig, 5.0, 3.0, TABLE)
            plain, swung = (pulls(gear, 8.0, 90 * DEGREE, swung=s) for s in (False, True))
            self.assertAlmostEqual(float(plain.ahead), 1.225 / 2 * 8.0**2 * 5.0 * lift, places=6)
            self.assertEqual(float(plain.ahead), float(swung.ahead))

    def test_flattened_to_what_is_held_it_pulls_just_so_hard_aside(self):
        sail = gear_of("Sail", "sail", 8.0, 9.0, TABLE)
        for most in (100.0, 250.0, 600.0):
            found = pulls(sail, np.linspace(10, 20, 6), np.linspace(25, 70, 6) * DEGREE, most=most)
            self.assertTrue((found.across <= most + 1e-9).all())
            eased = found.lift < sail.lift_most - 1e-9
            self.assertTrue(np.allclose(found.across[eased], most))
            self.assertTrue(eased.any() or most > 500)
            aft = pulls(sail, 14.0, np.linspace(95, 150, 12) * DEGREE, most=most)
            self.assertTrue((np.abs(aft.across) <= most + 1e-9).all())

    def test_the_best_trim_is_the_best_of_all(self):
        """Every lift of a fine grid, its drag by the polar, for drive less a price on the force across."""
        sail = gear_of("Sail", "sail", 8.0, 9.0, TABLE)
        for off, price in ((30, 0.0), (30, 0.1), (60, 0.05), (85, 0.2)):
            lift = np.linspace(0, sail.lift_most, 20001)
            drag = sail.profile_drag + sail.lift_drag * lift**2
            s, c = math.sin(off * DEGREE), math.cos(off * DEGREE)
            worth = (lift * s - drag * c) - price * (lift * c + drag * s)
            found = pulls(sail, 10.0, off * DEGREE, cost=price)
            self.assertAlmostEqual(float(found.lift), float(lift[np.argmax(worth)]), delta=2e-4)

    def test_a_rig_leant_over_feels_the_wind_across_it(self):
        """Apparent wind 10 m/s, 40° off the bow, rig leant 20°: 7.66 ahead and 6.04 across the mast, 38.3° and 9.76 m/s
        (by hand).
        """
        sail = gear_of("Sail", "sail", 8.0, 9.0, TABLE)
        leant, upright = pulls(sail, 10.0, 40 * DEGREE, cant=20 * DEGREE), pulls(sail, 9.7552, 38.254 * DEGREE)
        self.assertAlmostEqual(float(leant.ahead), float(upright.ahead), delta=0.1)


class SeenFromTheSide(unittest.TestCase):
    def test_side_area_under_water_grows_by_the_length_of_the_waterline(self):
        shape = shape_of(plain_board(), Resolution.FINE)
        depths = np.linspace(0.04, 0.06, 5)
        forms = [immersed_form(shape, float(depth), 0.0) for depth in depths]
        areas = np.array([form.lateral for form in forms])
        lengths = np.array([form.length for form in forms])
        # dA/dT is the waterline's length while the deck stays dry
        gains = np.diff(areas) / np.diff(depths)
        self.assertTrue(np.allclose(gains, (lengths[1:] + lengths[:-1]) / 2, rtol=0.04), (gains, lengths))


if __name__ == "__main__":
    unittest.main()
