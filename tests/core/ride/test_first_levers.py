"""What a designer turns first, and what the figures on the strip say then: one change, all else kept.

Each trend says its ground: physics by the laws named, or common practice, no source.
"""

import math
import unittest
from dataclasses import replace
from functools import cache

import numpy as np

from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.condition import Condition, condition_of
from kelvor.core.ride.run_up import dived
from kelvor.core.ride.stage import ride
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Channels, Ledge
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.planing.bottom import _plan, planing_bottom
from kelvor.core.tank.planing.states import Planer
from tests.support import demo, evaluated, shape_of


def told(slug, board=None, **brief):
    """A function that tells a figure by key in a wind [kn]; of a demo board or another under its brief."""
    if board is None and not brief:
        case = ride_case(evaluated(slug))
    else:
        case = ride_case(evaluate(board or demo(slug)[0], replace(demo(slug)[1], **brief), Resolution.COARSE))
    known = {}

    def figure(key, wind):
        if wind not in known:
            condition = replace(condition_of(case.brief), wind=wind * KNOT)
            known[wind] = {f.key: f for f in ride(case, condition, pictures=False).figures}
        return known[wind][key]

    figure.case = case
    return figure


def cut(board, *, line=1.0, depth=1.0, on=True):
    """A board with its cut-outs' lines and heights scaled, or filled."""

    def scaled(schedule, by):
        return Schedule(tuple((x, by * value) for x, value in schedule.points))

    layers = tuple(
        replace(layer, line=scaled(layer.line, line), height=scaled(layer.height, depth), on=on)
        if isinstance(layer, Ledge)
        else layer
        for layer in board.layers
    )
    return replace(board, layers=layers)


@cache
def with_cut(slug, line=1.0, depth=1.0, on=True):
    """What is told of a board with its cut-outs scaled or filled."""
    return told(slug, cut(demo(slug)[0], line=line, depth=depth, on=on))


class CutOuts(unittest.TestCase):
    """They let a slalom board run less wet and trimmed as it wants (common practice; physics: weight can press no
    further aft than the back strap), and cost on the way up.
    """

    WINDS = (18, 22, 26)

    def test_filled_they_cost_speed_and_wet_bottom_and_get_going_earlier(self):
        for slug in ("shearwater-76", "shearwater-69"):
            drawn, none = with_cut(slug), with_cut(slug, on=False)
            for wind in self.WINDS:
                gain = drawn("run_speed", wind).value / none("run_speed", wind).value - 1
                self.assertTrue(0.01 < gain < 0.12, (slug, wind, gain))
                self.assertLess(drawn("planing_area", wind).value, 0.9 * none("planing_area", wind).value)
            self.assertGreater(drawn("least_wind", 18).value, none("least_wind", 18).value + 0.1 * KNOT)
            gains = [drawn("run_speed", w).value / none("run_speed", w).value for w in self.WINDS]
            self.assertEqual(sorted(gains), gains)  # the more wind, the more they give

    def test_larger_ones_need_more_wind_and_leave_less_to_spare(self):
        sizes = [with_cut("shearwater-76", line=by) for by in (0.6, 1.0, 1.6)]
        winds = [figure("least_wind", 18).value / KNOT for figure in sizes]
        self.assertTrue(winds[1] - winds[0] > 0.02 and winds[2] - winds[1] > 0.02, winds)
        spare = [figure("drive_margin", 10).value for figure in sizes]
        self.assertEqual(sorted(spare, reverse=True), spare)

    def test_deeper_than_dry_changes_nothing_on_the_plane(self):
        deep = [with_cut("shearwater-76", depth=by) for by in (1.0, 1.5, 2.0)]
        for wind in (18, 26):
            for key in ("run_speed", "planing_area"):
                values = [figure(key, wind).value for figure in deep]
                self.assertLess(np.ptp(values) / values[0], 0.01, (key, wind))

    def test_a_wall_comes_to_count_over_millimetres(self):
        """From nothing to a cut-out of 8 mm the running width falls without a jump."""
        board = demo("shearwater-76")[0]
        beams = []
        for depth in np.linspace(0.05, 0.9, 12):
            beams.append(float(bottom_of(cut(board, depth=float(depth))).beam[3]))
        steps = -np.diff(beams)
        self.assertGreater(sum(steps), 0.02)
        self.assertLess(steps.max(), 0.4 * sum(steps))

    def test_filled_in_much_wind_nobody_can_stand_far_enough_aft(self):
        """The run is struck with its reason where trim is at its flattest and the weight still wanted behind the
        strap.
        """
        board = demo("shearwater-76")[0]
        fore = tuple(replace(r, at=replace(r.at, offset=r.at.offset + 0.5)) for r in board.fittings.straps)
        filled = replace(cut(board, on=False), fittings=replace(board.fittings, straps=fore))
        figure = told("shearwater-76", filled)
        struck = [figure("run_speed", wind) for wind in (14, 30, 38)]
        self.assertTrue(any(not one.valid for one in struck))
        for one in struck:
            if not one.valid:
                self.assertRegex(one.note, r"nobody can stand there: .* \d+ cm behind the back strap")
        self.assertTrue(told("shearwater-76")("run_speed", 22).valid)


def bottom_of(board):
    """The planing bottom of a board."""
    return planing_bottom(of_sections(shape_of(board, Resolution.COARSE)), TABLE.release_angle, TABLE.wall_dries)


class Grooves(unittest.TestCase):
    def test_channels_are_bridged_and_rub_more_the_deeper_they_are(self):
        """Physics: water runs across a groove; its walls are wet. Not a hundredth of the speed a millimetre."""
        for slug, wind in (("shearwater-69", 18), ("shearwater-76", 18)):
            board = demo(slug)[0]
            runs, starts = [], []
            for depth in (0.0005, 0.0035, 0.0045, 0.008):
                channels = Channels(
                    name="Channels", start=Place("tail", 0.05), end=Place("tail", 0.55), inner=0.03, count=2,
                    width=0.03, gap=0.01, depth=depth,
                )  # fmt: skip
                figure = told(slug, replace(board, layers=(*board.layers, channels)))
                runs.append(figure("run_speed", wind).value)
                starts.append(figure("least_wind", wind).value / KNOT)
            slower = -np.diff(runs) / runs[0] / np.diff((0.5, 3.5, 4.5, 8.0))
            self.assertTrue((slower > 0).all() and (slower < 0.01).all(), (slug, slower))
            self.assertLess(np.ptp(starts), 0.15)

    def test_what_rubs_beside_the_bottom_are_their_walls(self):
        """Eight walls of 8 mm, half a metre long (closed form)."""
        channels = Channels(
            name="Channels", start=Place("tail", 0.2), end=Place("tail", 0.7), inner=0.05, count=2, width=0.03,
            gap=0.01, depth=0.008, run_out=0.0,
        )  # fmt: skip
        board = demo("skua-102")[0]
        bottom = bottom_of(replace(board, layers=(*board.layers, channels)))
        self.assertGreater(bottom.longest + bottom.aft, 0.7)
        self.assertAlmostEqual(float(bottom.grooves[-1]), 8 * 0.008 * 0.5, delta=0.1 * 8 * 0.008 * 0.5)
        dry = Planer(replace(bottom, grooves=0 * bottom.grooves), 1025.0, 1.19e-6, TABLE.trim_least)
        states = [
            planer.at(800.0, 8.0, 4 * DEGREE) for planer in (Planer(bottom, 1025.0, 1.19e-6, TABLE.trim_least), dry)
        ]
        more = float(states[0].area - states[1].area)
        self.assertAlmostEqual(more, float(np.interp(states[0].wetted, bottom.lengths, bottom.grooves)), delta=1e-3)
        self.assertGreater(float(states[0].rubbing), float(states[1].rubbing))


class Weight(unittest.TestCase):
    def test_the_mast_foot_aft_lifts_the_nose_and_dries_the_bottom(self):
        """Physics: moments about the tail."""
        board = demo("shearwater-76")[0]
        track = board.fittings.mast_track

        def moved(by):
            at = replace(track.at, offset=track.at.offset - by)
            return replace(board, fittings=replace(board.fittings, mast_track=replace(track, at=at)))

        figures = [told("shearwater-76", moved(by)) for by in (0.0, 0.03, 0.10)]
        rides = [RideCase(f.case, Condition(18 * KNOT, 0.0), draw=False) for f in figures]
        trims = [r.model.base_trim(r.planing) / DEGREE for r in rides]
        wet = [f("planing_area", 18).value for f in figures]
        self.assertEqual(sorted(trims), trims)
        self.assertEqual(sorted(wet, reverse=True), wet)
        self.assertGreater(trims[-1] - trims[0], 0.03)

    def test_ten_kilograms_of_rider(self):
        """Least wind goes with load by a power between a half and one (drag over pressure), common practice."""
        rider = demo("shearwater-76")[1].rider
        winds = [
            told("shearwater-76", rider=replace(rider, mass=rider.mass + by))("least_wind", 18).value
            for by in (-10.0, 10.0)
        ]
        power = math.log(winds[1] / winds[0]) / math.log((rider.mass + 10 + 17) / (rider.mass - 10 + 17))
        self.assertTrue(0.5 < power < 1.2, power)


class Kites(unittest.TestCase):
    def wind(self, slug, area):
        wing = demo(slug)[1].wings[0]
        wings = (replace(wing, name="kite", area=area, mass=0.35 * area),)
        key = "least_wind_up" if slug == "plover-119" else "least_wind"
        return told(slug, wings=wings, wing_in_use=0)(key, 16).value / KNOT

    def test_a_larger_one_gets_going_earlier_by_its_root_until_it_does_not_fly(self):
        """Physics: parked, force goes with area and the square of the wind. A foil needs so little that the kite's
        own weight binds: √(2 · 2 · 0.35 · 9.81 / (1.225 · 0.8)) = 3.74 m/s, 7.3 kn, whatever its area (closed form).
        """
        for slug in ("phalarope-174", "redshank-137"):
            small, large = self.wind(slug, 7.0), self.wind(slug, 12.0)
            self.assertAlmostEqual(math.log(large / small) / math.log(12 / 7), -0.5, delta=0.08, msg=slug)
        self.assertTrue(10.5 < self.wind("phalarope-174", 7.0) < 14, "63 kg on 7 m²: some 12 to 14, common practice")
        self.assertGreater(self.wind("plover-119", 7.0), 8.5)
        for area in (14.0, 16.0):
            self.assertAlmostEqual(self.wind("plover-119", area), 7.27, delta=0.03)

    def test_a_dive_brings_a_board_as_far_as_force_and_time_say(self):
        """Constant force: m (v − v₀) = F t, the dive's way over its speed across the wind, with 6 % of water."""
        case = ride_case(evaluated("phalarope-174"))
        speeds, winds = np.linspace(0.2, 9.0, 60), np.array([5.0, 8.0])
        mass, force = case.model.weight / 9.80665, 120.0
        across = math.sqrt(case.model.table.kite_speed**2 - 1)
        ends = dived(case.rigged, winds, speeds, np.full((2, 60), force))
        for wind, end in zip(winds, ends, strict=True):
            self.assertAlmostEqual(end, min(0.8 + force * 28.0 / (across * wind) / (1.06 * mass), 9.0), delta=1e-6)


class Humps(unittest.TestCase):
    def test_both_are_told_where_either_may_be_the_greater(self):
        """Physics: limbs and hull drag most at 3.5 kn, the hull again near 6 kn; two kilograms turn which is more."""
        rider, told_of = demo("dunlin-39")[1].rider, []
        for mass in (69.5, 71.5):
            figures = told("dunlin-39", rider=replace(rider, mass=mass))
            speed = figures("hump_speed", 14)
            told_of.append((speed.value / KNOT, figures("hump_drag", 14).value))
            self.assertIn("twice on the way", figures("hump_drag", 14).note)
            self.assertGreater(speed.band, 2 * KNOT)
        self.assertGreater(abs(told_of[0][0] - told_of[1][0]), 2)  # the speed told jumps, and says that it may
        self.assertLess(abs(told_of[1][1] / told_of[0][1] - 1), 0.08)  # the force does not
        self.assertNotIn("twice", told("shearwater-76")("hump_drag", 18).note)


class NarrowPlans(unittest.TestCase):
    """A wetted plan against the rectangle of its beam, in closed form."""

    def test_a_rectangle_is_savitskys(self):
        x = np.linspace(0.0, 1.0, 2001)
        np.testing.assert_allclose(_plan(x, np.full_like(x, 0.3), 0.6), (1.0, 3 / 4, 1 / 3), atol=1e-5)

    def test_a_tail_that_narrows_carries_its_pressure_further_fore_than_its_rectangle(self):
        bottom = bottom_of(demo("shearwater-76")[0])
        rectangle = replace(bottom, plan=np.tile((1.0, 3 / 4, 1 / 3), (len(bottom.lengths), 1)))
        for speed in (4.0, 12.0):
            centres = [
                float(Planer(b, 1025.0, 1.19e-6, TABLE.trim_least).at(850.0, speed, 4 * DEGREE).centre)
                for b in (bottom, rectangle)
            ]
            self.assertGreater(centres[0], centres[1] + 0.003, speed)

    def test_a_triangle_with_its_point_aft(self):
        """b = ξ: 2∫(1 − ξ)ξ = 1/3 of the wedge; ∫ξ⁴/∫ξ³ = 4/5; ∫ξ²(1 − ξ)/∫ξ(1 − ξ) = 1/2."""
        x = np.linspace(0.0, 2.0, 4001)
        np.testing.assert_allclose(_plan(x, 0.15 * x, 0.6), (1 / 3, 4 / 5, 1 / 2), atol=1e-5)


if __name__ == "__main__":
    unittest.main()
