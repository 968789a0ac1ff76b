"""From floating to planing: nothing counted twice, no corner on the way, trim by moments."""

import unittest
from dataclasses import replace
from functools import cache

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import rising
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.evaluation.evaluation import evaluate, ride_case, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.measures.stance import feet
from kelvor.core.shape.edits.edits import with_width_scaled
from kelvor.core.shape.parts.fittings import Fittings
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.displacement.hull import resistance
from kelvor.core.tank.planing import savitsky
from kelvor.core.tank.planing.bottom import lifting_beam
from kelvor.core.tank.planing.states import Planer
from kelvor.demo.boards import demo_boards
from tests.support import evaluated

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}
FINE = np.arange(0.6, 9.0, 0.05)


def model_of(board, brief):
    return ride_case(settle(evaluate_live(board, brief))).model


@cache
def model(slug):
    return model_of(*DEMO[slug])


def wider(slug, key, by, brief=None):
    board, own = DEMO[slug]
    lever = next(lever for lever in levers(board) if lever.key == key)
    return model_of(pull_lever(board, lever, lever.read(board) + by).board, brief or own)


class Floats(unittest.TestCase):
    """Below Froude 0.6 a hull that floats its load has friction, waves and the drag of its tail, and nothing else."""

    def test_drag_is_that_of_the_floating_form_alone(self):
        for slug in ("heron-14", "grebe-14", "kittiwake-109", "shearwater-76"):
            m = model(slug)
            form = m.floater.form_at(m.weight)
            for froude in (0.3, 0.45, 0.58):
                speed = froude * float(np.sqrt(GRAVITY * form.length))
                state = m.running(speed)
                alone = resistance(form, speed, m.density, m.viscosity, m.table.tail_dries)
                with self.subTest(slug, froude=froude):
                    self.assertEqual((state.lift_drag, state.body, state.moving, state.raised), (0.0, 0.0, 0.0, 0.0))
                    # the form's own form drag against the table's, and forms read between loads
                    self.assertAlmostEqual((state.friction + state.waves) / alone.total, 1.0, delta=0.08)

    def test_a_board_under_more_than_it_floats_is_raised_by_speed(self):
        """What the board cannot float hangs in the water by the rider's limbs, less as speed lifts it."""
        m = model("redshank-139")
        sunk = m.weight - m.floater.buoyancy
        lifted = [m.running(v).raised * m.weight for v in (0.6, 1.2, 1.8)]
        self.assertAlmostEqual(lifted[1] / lifted[0], 4.0, delta=0.05)
        self.assertLess(max(lifted), sunk)
        self.assertGreater(m.running(1.0).body / m.running(1.0).drag, 0.8)
        self.assertEqual(m.running(6.0).body, 0.0)


class NoCorners(unittest.TestCase):
    def test_drag_and_trim_run_on_over_speed(self):
        """A twentieth of a metre a second: drag by less than 9 N or 12 % of it, trim by less than 4° (a foil about to
        carry all lifts a tail that was cut away out of the water).
        """
        for slug in DEMO:
            states = model(slug).curve(FINE)
            wet = np.array([s.load > 1.0 for s in states])
            drag, trim = np.array([s.drag for s in states]), np.array([s.trim for s in states])
            with self.subTest(slug):
                steps = np.abs(np.diff(drag))
                worst = int(np.argmax(steps / np.maximum(0.12 * drag[1:], 9.0)))
                self.assertLess(
                    steps[worst], max(0.12 * drag[worst + 1], 9.0), f"{drag[worst]:.0f} N at {FINE[worst]:.2f} m/s"
                )
                both = wet[1:] & wet[:-1] & (np.array([s.load for s in states[1:]]) > 25)
                self.assertLess(np.abs(np.diff(trim))[both].max() / DEGREE, 4.0)

    def test_a_little_more_width_changes_planing_speed_and_hump_a_little(self):
        """An audit saw 7.8, 6.6 and 7.8 kn as a board grew by a twentieth: the figures sat on the speeds looked at."""
        found = [
            ride_case(settle(evaluate_live(*_widened("shearwater-69", by)))).run_up for by in np.linspace(0.0, 0.03, 7)
        ]
        planes, hump = np.array([w.planes for w in found]) / KNOT, np.array([w.top.drag for w in found])
        self.assertLess(np.abs(np.diff(planes)).max(), 0.12)
        self.assertTrue((np.diff(planes) < 0.01).all(), planes)
        self.assertLess(np.abs(np.diff(hump)).max(), 2.5)
        self.assertLess(np.abs(np.diff([w.top.trim for w in found])).max() / DEGREE, 0.4)

    def test_curves_are_drawn_rounder_than_through_the_speeds_looked_at(self):
        def turns(x, y):
            slopes = np.diff(y) / np.diff(x)
            return np.abs(np.diff(slopes)).max() / np.abs(slopes).max()

        for slug in ("dunlin-39", "shearwater-76", "heron-14"):
            pictures = evaluated(slug).ride.pictures
            for line in (pictures[name].lines[0] for name in ("drag", "wetted") if name in pictures):
                self.assertLess(turns(line.x, line.y), 0.6 * turns(line.x[::4], line.y[::4]), slug)
                self.assertLessEqual(line.y.max(), line.y[::4].max() + 1e-9)  # nothing overshoots

    def test_a_table_is_read_through_its_knots_without_overshoot(self):
        knots = np.array([[0.0, 1.0, 1.5, 4.0, 9.0]] * 200)
        values = np.array([[[0.0, 0.5, 2.0, 2.1, 7.0]] * 200])
        at = np.linspace(0.0, 9.0, 200)
        read = rising(knots, values, at)[0]
        self.assertTrue((np.diff(read) >= 0).all())
        self.assertAlmostEqual(float(rising(knots[:1], values[:, :1], np.array([4.0]))[0, 0]), 2.1)
        slopes = np.diff(read) / np.diff(at)
        self.assertLess(np.abs(np.diff(slopes)).max(), 1.5)  # a polygon would turn by 2.96 at its second knot


def _widened(slug, by):
    board, brief = DEMO[slug]
    lever = next(lever for lever in levers(board) if lever.key == "width")
    return (board if by == 0.0 else pull_lever(board, lever, lever.read(board) + by).board), brief


class Moments(unittest.TestCase):
    """Trim is where moments about the tail balance with the rider inside reach."""

    def left_over(self, m, state):
        """Moments about the tail [N m], nose up, each force by hand; over the weight times the board's length."""
        board, brief, rider = m.measured.board, m.brief, m.brief.rider.mass * GRAVITY
        hull = state.load * state.centre
        weights = m.mass.mass * GRAVITY * m.mass.x
        hanging = 0.0
        if m.wing is not None:
            hull += state.foil_lift * (board.mast_x + brief.foil.lift_ahead)
            weights += brief.foil.mass * GRAVITY * board.mast_x
            hanging = state.foil * m.wing.mast
            rider += brief.wing.mass * GRAVITY if m.rig == "hand wing" else 0.0
        elif m.fins:
            hanging = state.foil * m.table.fin_centre * max(f.span for f in m.fins)
        if m.rig == "sail":
            weights += brief.wing.mass * GRAVITY * board.fittings.mast_track.at.x(board.length, board.mast_x)
        stands, shape = feet(m.measured, brief.rider), m.measured.shape
        thick = np.interp((stands.back + stands.front) / 2, shape.x, shape.deck - shape.keel)
        driven = (state.drag - state.air) * thick
        return (hull - weights - rider * state.place - driven - hanging) / (m.weight * board.length)

    def test_nothing_is_left_over_where_the_hull_planes(self):
        for slug, speed in (
            ("shearwater-76", 6.0),
            ("skua-102", 8.0),
            ("heron-14", 7.5),
            ("redshank-139", 7.0),
            ("martlet-147", 6.0),
        ):
            state = model(slug).running(speed)
            with self.subTest(slug):
                self.assertEqual(state.planes, 1.0)
                self.assertLess(abs(self.left_over(model(slug), state)), 1e-6)

    def test_the_trim_is_a_root_wherever_the_weight_is_put(self):
        m = model("shearwater-76")
        places = np.linspace(0.3, 0.7, 41)
        states = [m.running(7.0, stands=float(x)) for x in places]
        self.assertLess(
            max(abs(s.place - x) for s, x in zip(states, places, strict=True) if s.trim > m.planer.least + 1e-4), 1e-6
        )
        trims = np.array([s.trim for s in states]) / DEGREE
        self.assertTrue((np.diff(trims) <= 0).all())  # weight aft lifts the nose
        self.assertLess(np.abs(np.diff(trims)).max(), 0.5)

    def test_straps_further_fore_hold_the_nose_down(self):
        """The weight presses between the feet: there the trim is that of least drag only as long as it can be held."""
        board, brief = DEMO["shearwater-76"]
        rows = tuple(replace(r, at=replace(r.at, offset=r.at.offset + 0.75)) for r in board.fittings.straps)
        m, ahead = (
            model("shearwater-76"),
            model_of(replace(board, fittings=replace(board.fittings, straps=rows)), brief),
        )
        for speed in (6.0, 8.0, 10.0):
            free, held = m.running(speed), ahead.running(speed)
            for who, state in ((m, free), (ahead, held)):
                self.assertTrue(
                    who.reach[0] - 1e-6 <= state.place <= who.reach[1] + 1e-6 or state.trim < 2 * DEGREE + 1e-6
                )
            self.assertLess(held.trim, free.trim - 0.2 * DEGREE)
            self.assertGreater(held.drag, 0.98 * free.drag)  # what is not felt

    def test_the_wetted_bottom_as_a_whole_is_never_held_flatter_than_six_tenths_of_a_degree(self):
        for slug in DEMO:
            m = model(slug)
            bottom = m.bottom
            means = np.sum(bottom.flat * bottom.slope, axis=1) / bottom.flat.sum(axis=1)
            flattest = 0.6 * DEGREE - np.interp(bottom.longest / 2, bottom.lengths, means)
            for state in m.curve(np.linspace(2.0, 9.0, 30)):
                if state.planes == 1.0 and state.load > 1.0:
                    self.assertGreaterEqual(state.trim, flattest - 1e-9, slug)


class NarrowTails(unittest.TestCase):
    """A slender plan lifts by its greatest span (Jones 1946, NACA Report 835), a short one by its mean."""

    def test_the_beam_that_lifts(self):
        self.assertEqual(lifting_beam(0.5, 0.6, 0.4), 0.5)
        self.assertEqual(lifting_beam(0.5, 0.6, 0.5), 0.5)
        self.assertAlmostEqual(lifting_beam(0.5, 0.6, 1.0), 0.55)
        self.assertAlmostEqual(lifting_beam(0.5, 0.6, 50.0), 0.6, delta=1e-4)

    def test_a_pulled_in_tail_lifts_as_a_rectangle_of_its_greatest_beam(self):
        m = model("guillemot-113")
        bottom, trim, speed = m.bottom, 5 * DEGREE, 8.0
        greatest = 2 * bottom.half[bottom.x <= bottom.longest].max()
        self.assertLess(bottom.beam[-1], 0.97 * bottom.span[-1])
        self.assertLess(bottom.span[-1], greatest)
        self.assertLess(greatest - bottom.span[-1], 0.3 * (greatest - bottom.beam[-1]))
        plain = replace(bottom, curved=np.zeros_like(bottom.curved), rise=np.zeros_like(bottom.rise))
        state = Planer(plain, m.density, m.viscosity, m.table.trim_least).at(1.0, speed, trim)
        alone = (
            savitsky.moving_lift(trim, bottom.longest / bottom.span[-1])
            * m.density
            / 2
            * speed**2
            * bottom.span[-1] ** 2
        )
        self.assertAlmostEqual(float(state.most / alone), 1.0, delta=1e-6)

    def test_an_edge_rolled_in_to_the_keel_leaves_a_ride_of_plain_numbers(self):
        board, brief = DEMO["skua-102"]
        slip = replace(with_width_scaled(board, 0.407), fittings=Fittings())
        found = evaluate(slip, brief, Resolution.COARSE)
        drag = ride_case(found).run_up.drag
        self.assertTrue(np.isfinite(drag).all() and (drag > 0).all())
        self.assertTrue(all(np.isfinite(f.value) for f in found.figures.values() if f.exists and f.valid))


if __name__ == "__main__":
    unittest.main()
