"""Measures under the feet, the mast that balances, and a paddler's push, worked by hand on boards and curves of known
shape.
"""

import math
import unittest
from dataclasses import replace
from types import SimpleNamespace

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE
from kelvor.core.brief.brief import Brief, Foil, Rider
from kelvor.core.build.mass.properties import MassProperties
from kelvor.core.measures.stance import feet, stance_measures
from kelvor.core.ride import paddling as law
from kelvor.core.ride.equipped import Equipped
from kelvor.core.ride.foiling import dragging, foil_mass, mast_for
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.fittings import Fin, FinBox, Fittings
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.laws.wings import plate_slope
from tests.support import plain_board, shape_of

FOIL = Foil(name="Long fuselage", mass=4.0, mast_length=0.8, span=0.9, fuselage=0.65, lift_ahead=0.12)


def feet_on(board, rider=None):
    """The figures under the feet, by key."""
    measured = geometry(board, Resolution.NORMAL)
    return measured, {figure.key: figure for figure in stance_measures(measured, rider)}


class UnderTheFeet(unittest.TestCase):
    def test_stance_and_tail_area_off_the_outline(self):
        board = plain_board()
        measured, found = feet_on(board)
        self.assertAlmostEqual(found["stance"].value, 0.44, places=9)
        shape, back = measured.shape, board.mast_x - 0.02
        x = np.linspace(0.0, back, 4001)
        half = np.interp(x, shape.x, shape.half_width - shape.inner)
        self.assertAlmostEqual(found["tail_area_behind_foot"].value, 2 * float(np.trapezoid(half, x)), delta=2e-4)
        self.assertLess(found["standing_width_front"].value, 2 * measured.at(shape.half_width, board.mast_x + 0.42))

    def test_a_deck_that_rises_toward_the_nose_tilts_both_feet_by_as_much(self):
        board = plain_board()
        _, level = feet_on(board)
        wedge = replace(
            board,
            thickness=replace(
                board.thickness,
                weights=tuple(replace(w, value=w.value + 0.03 * (w.x - 0.75)) for w in board.thickness.weights),
            ),
        )
        _, tilted = feet_on(wedge)
        for key in ("deck_angle_front", "deck_angle_back"):
            self.assertAlmostEqual(tilted[key].value - level[key].value, math.atan(0.03), delta=0.25 * DEGREE)
            self.assertIn("on the straps", tilted[key].note)

    def test_tracks_on_a_tilted_bottom_tilt_the_box(self):
        board = plain_board()
        _, level = feet_on(board)
        tilted = replace(
            board,
            rocker=replace(
                board.rocker, weights=tuple(replace(w, value=w.value + 0.02 * w.x) for w in board.rocker.weights)
            ),
        )
        _, found = feet_on(tilted)
        turned = found["box_angle"].value - level["box_angle"].value
        stood = found["deck_angle_front"].value - level["deck_angle_front"].value
        # the whole board tilts: under the feet nothing changes against the box, whatever the base line does
        self.assertAlmostEqual(stood, 0.0, delta=0.05 * DEGREE)
        self.assertLess(abs(turned), 1.2 * math.atan(0.02))

    def test_without_straps_half_a_stance_either_side_of_the_volume(self):
        board = plain_board(fittings=Fittings())
        measured, found = feet_on(board, Rider(mass=78.0, height=1.8, stance=0.6))
        self.assertNotIn("stance", found)
        stood = feet(measured, Rider(mass=78.0, height=1.8, stance=0.6))
        self.assertAlmostEqual(stood.front - stood.back, 0.6, places=9)
        self.assertAlmostEqual((stood.front + stood.back) / 2, measured.solid.x, places=9)
        self.assertIn("rider's stance", stood.note)

    def test_fins_in_front_to_fins_behind(self):
        rear = FinBox(name="Rear", at=Place("tail", 0.10), fin=Fin(span=0.20))
        sides = FinBox(name="Sides", at=Place("tail", 0.32), offset=0.12, fin=Fin(span=0.11))
        _, found = feet_on(plain_board(fittings=replace(plain_board().fittings, fin_boxes=(rear, sides))))
        front, back = 2 * sides.fin.area, rear.fin.area
        self.assertAlmostEqual(found["fin_area"].value, front + back, places=9)
        self.assertAlmostEqual(found["fin_area_ratio"].value, front / back, places=9)
        _, alone = feet_on(plain_board(fittings=replace(plain_board().fittings, fin_boxes=(rear,))))
        self.assertNotIn("fin_area_ratio", alone)


class Mast(unittest.TestCase):
    def test_the_foils_own_centre_by_its_shares(self):
        found = foil_mass(FOIL, 0.5, 0.01, TABLE)
        rest = 1 - TABLE.mast_mass - TABLE.wing_mass - TABLE.fuselage_mass
        front = FOIL.lift_ahead + 0.02
        ahead = (
            TABLE.wing_mass * front + TABLE.fuselage_mass * (front - FOIL.fuselage / 2) + rest * (front - FOIL.fuselage)
        )
        self.assertAlmostEqual(found.mass, 4.0, places=12)
        self.assertAlmostEqual(found.x, 0.5 + ahead, places=9)
        self.assertAlmostEqual(found.z, 0.01 - 0.8 * (1 - TABLE.mast_mass / 2), places=9)

    def test_moments_about_the_lift_vanish_where_the_mast_is_put(self):
        brief = replace(Brief(), rider=Rider(mass=82.0, height=1.8), foils=(FOIL,))
        board = MassProperties(mass=7.2, x=0.83, z=0.04)
        for stood in (0.45, 0.62, 0.80):
            # the foil's drag pulls a mast and the board's thickness below the deck that drives it
            nose_down = dragging(board, brief, TABLE) * (FOIL.mast_length + 0.1)
            mast = mast_for(board, brief, stood, TABLE, nose_down)
            lift = mast + FOIL.lift_ahead
            foil = foil_mass(FOIL, mast, 0.0, TABLE)
            moment = 7.2 * (0.83 - lift) + 82.0 * (stood - lift) + 4.0 * (foil.x - lift)
            self.assertAlmostEqual(moment + nose_down / GRAVITY, 0.0, places=9)
            self.assertTrue(30 < nose_down < 90, nose_down)

    def test_feet_forward_mast_forward_nearly_as_far(self):
        brief = replace(Brief(), rider=Rider(mass=80.0, height=1.8), foils=(FOIL,))
        board = MassProperties(mass=8.0, x=0.8, z=0.0)
        moved = mast_for(board, brief, 0.70, TABLE) - mast_for(board, brief, 0.60, TABLE)
        self.assertAlmostEqual(moved, 0.10 * 80 / 88, places=9)


def paddled(mass=100.0, **brief):
    """What the laws of paddling read of a model: weight, rider, table."""
    asked = {"peak_watts": 300.0, "rider": SimpleNamespace(mass=80.0)} | brief
    read = SimpleNamespace(weight=mass * GRAVITY, table=TABLE, brief=SimpleNamespace(**asked), density=1025.0)
    read.moved = Equipped.moved.fget(read)
    return read


def curve_of(drag, most=5.0, count=400):
    """A drag curve from a function of speed."""
    speeds = np.linspace(0.01, most, count)
    return law.Paddling(speeds, drag(speeds), 0.1 * drag(speeds), ())


class Paddle(unittest.TestCase):
    def test_speed_at_watts_is_the_cube_root_on_a_square_law(self):
        curve = curve_of(lambda v: 12.0 * v**2)
        for watts in (20.0, 90.0, 300.0):
            self.assertAlmostEqual(law.speed_at(curve, watts), (watts / 12.0) ** (1 / 3), delta=1e-3)
        self.assertAlmostEqual(law.speed_at(curve, 1e6), 5.0)

    def test_glide_is_the_drag_between_strokes_over_the_mass_that_moves(self):
        model, curve = paddled(), curve_of(lambda v: 12.0 * v**2)
        lost = 12.0 * 9.0 * (TABLE.glide_share / TABLE.stroke_rate) / (100.0 * (1 + TABLE.added_mass))
        self.assertAlmostEqual(law.glide_loss(model, curve, 3.0), lost, delta=1e-3 * lost)

    def test_a_start_without_drag_runs_down_the_line_of_force_over_speed(self):
        """Push F (1 − v/v₀) with F v₀/4 the peak power, from 5 cm/s: t = (m v₀/F) ln((1 − 0.05/v₀)/(1 − v/v₀))."""
        curve = curve_of(lambda v: 0.0 * v)
        moved = 100.0 * (1 + TABLE.added_mass)
        # the blade pushes while it is in the water
        push = (1 - TABLE.glide_share) * TABLE.stroke_push * 80.0 * GRAVITY
        for watts in (150.0, 300.0):
            fades = 4 * watts * TABLE.stroke_efficiency / push
            for pace in (1.5, 3.5):
                exact = moved * fades / push * math.log((1 - 0.05 / fades) / (1 - 0.95 * pace / fades))
                self.assertAlmostEqual(law.start_time(paddled(peak_watts=watts), curve, pace), exact, delta=0.06)

    def test_a_pace_the_watts_do_not_reach_has_no_start(self):
        curve = curve_of(lambda v: 60.0 * v**2)
        self.assertTrue(math.isnan(law.start_time(paddled(), curve, 4.0)))
        self.assertTrue(math.isfinite(law.start_time(paddled(), curve, 0.9)))

    def test_a_buried_nose_of_a_box_lifts_by_its_volume_and_arm(self):
        x = np.linspace(0.0, 4.0, 801)
        measured = SimpleNamespace(
            shape=SimpleNamespace(x=x),
            areas=SimpleNamespace(area=np.full_like(x, 0.05)),
            board=SimpleNamespace(length=4.0),
            solid=SimpleNamespace(x=2.0),
        )
        model = SimpleNamespace(measured=measured, density=1000.0)
        self.assertAlmostEqual(law.nose_recovery(model), 1000 * GRAVITY * 0.05 * 0.6 * 1.7, delta=2.0)

    def test_a_fin_behind_the_middle_holds_the_course_and_one_ahead_turns_off_it(self):
        form = SimpleNamespace(x=np.linspace(0.0, 4.0, 41))
        fin = SimpleNamespace(area=0.02, slope=4.0, x=0.5)
        model = SimpleNamespace(
            fins=(fin,), wing=None, density=1000.0, measured=SimpleNamespace(board=SimpleNamespace(mast_x=None))
        )
        held = law.yaw_hold(model, 0.1, 2.0, form)
        self.assertAlmostEqual(held, 1000 / 2 * 4.0 * 0.1 * 0.02 * 4.0 * 1.5, places=6)
        model.fins = (SimpleNamespace(area=0.02, slope=4.0, x=3.5),)
        self.assertAlmostEqual(law.yaw_hold(model, 0.1, 2.0, form), -held, places=6)
        model.fins, model.table = (), TABLE
        model.wing, model.measured.board.mast_x = SimpleNamespace(mast=0.8), 1.0
        chord = TABLE.mast_chord
        slope = float(plate_slope(1.6 / chord))
        self.assertAlmostEqual(law.yaw_hold(model, 0.1, 2.0, form), 2000.0 * 0.1 * 0.8 * chord * slope * 1.0, places=6)

    def test_a_stroke_turns_the_more_the_further_out_it_pulls_and_the_shorter_it_is_held(self):
        shape = shape_of(plain_board())
        form = SimpleNamespace(x=np.linspace(0.0, 1.4, 29), draught=0.05, length=1.4)
        mass = MassProperties(mass=6.0, x=0.7, z=0.0, yaw=1.0)

        def turned(**changes):
            table = replace(TABLE, **changes)
            model = SimpleNamespace(
                measured=SimpleNamespace(shape=shape),
                table=table,
                density=1025.0,
                mass=mass,
                fins=(SimpleNamespace(area=0.015, slope=3.5, x=0.1),),
            )
            return law.yaw_per_stroke(model, curve_of(lambda v: 8.0 * v**2), 2.0, form)

        self.assertGreater(turned(stroke_arm=TABLE.stroke_arm + 0.1), turned())
        arm = float(shape.half_width.max()) + TABLE.stroke_arm
        self.assertAlmostEqual(turned(stroke_arm=TABLE.stroke_arm + 0.1) / turned(), (arm + 0.1) / arm, places=9)
        self.assertLess(turned(stroke_rate=2 * TABLE.stroke_rate), turned())
        # I θ'' = M − D θ', stepped through the part of a stroke with the blade in the water
        pulls = 1 - TABLE.glide_share
        pushed = 8.0 * 2.0**2 / pulls * arm
        inertia = 1.0 + 1025 * np.pi / 2 * 0.05**2 * 1.4**3 / 12
        damping = 1025 * 2.0 * (0.015 * 3.5 * (0.1 - 0.7) ** 2 + 0.05 * 1.4 * 0.5 * 0.35**2 * 0.1)
        angle = rate = 0.0
        step = pulls / TABLE.stroke_rate / 20_000
        for _ in range(20_000):
            rate += (pushed - damping * rate) / inertia * step
            angle += rate * step
        self.assertAlmostEqual(turned() / angle, 1, delta=1e-3)


if __name__ == "__main__":
    unittest.main()
