"""The laws of the ride on boards: parts add up, curves run on without jumps, and each answers to what it should."""

import math
import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.brief.brief import Wing
from kelvor.core.evaluation.evaluation import evaluate, ride_case, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.ride import paddling as paddle
from kelvor.core.ride.run_up import least_wind, nose_pitch, pumping
from kelvor.core.ride.sailing import fin_lengths, fin_loads, polar
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.fittings import Fin
from kelvor.core.shape.parts.layers import Channels
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.floating.righting import flooded, righting, stepped_back
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.core.tank.lifting.fins import FinLaw, SetFin, engaging, fin_of, fins_holding
from kelvor.core.tank.lifting.foils import FoilWing, foil_drag, roll_damping
from kelvor.core.tank.lifting.pumping import endurance, heaving_power, strokes
from kelvor.core.tank.rail.pivot import Pressed, Tail, tail
from kelvor.demo.boards import demo_boards
from tests.core.ride.test_first_levers import told
from tests.support import shape_of, trimesh_of

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}
CASES: dict = {}


def volume_below(surface, depth, slope):
    """Volume of a closed surface under z = depth + slope·x: the flux of height through what of it is below (divergence
    theorem).
    """
    surface.vertices[:, 2] -= depth + slope * surface.vertices[:, 0]
    corners = surface.slice_plane([0, 0, 0], [0, 0, -1]).triangles
    across = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])[:, 2] / 2
    return float(np.sum(corners[:, :, 2].mean(axis=1) * across))


def case_of(name, **changes):
    """A demo board ready to ride, its brief changed; kept between tests."""
    board, brief = DEMO[name]
    key = (name, tuple(sorted(changes)), repr(tuple(changes.values())))
    if key not in CASES:
        CASES[key] = ride_case(settle(evaluate_live(board, replace(brief, **changes))))
    return CASES[key]


class Running(unittest.TestCase):
    def test_parts_add_up_to_the_drag(self):
        for name in ("dunlin-39", "shearwater-76", "heron-14", "redshank-139"):
            for speed in (1.0, 2.5, 4.0, 7.0):
                with self.subTest(name=name, speed=speed):
                    r = case_of(name).model.running(speed)
                    self.assertAlmostEqual(
                        r.friction + r.waves + r.lift_drag + r.body + r.foil + r.air, r.drag, delta=0.002 * r.drag
                    )
                    self.assertGreater(r.band, 0)
                    self.assertTrue(0 <= r.moving <= 1)

    def test_no_jumps_along_the_curve(self):
        """A tenth of a metre a second changes drag by less than 22 % of it (its square alone makes 21 % at 1 m/s) or 18
        N.
        """
        for name in DEMO:
            model = case_of(name).model
            drag = np.array([state.drag for state in model.curve(np.arange(1.0, 6.0, 0.1))])
            steps = np.abs(np.diff(drag))
            with self.subTest(name=name):
                worst = int(np.argmax(steps / np.maximum(drag[:-1], 60)))
                self.assertTrue(
                    np.all(steps < np.maximum(0.22 * drag[:-1], 18)),
                    f"{drag[worst]:.0f} to {drag[worst + 1]:.0f} N at {1 + worst / 10:.1f} m/s",
                )

    def test_weight_and_water_are_felt(self):
        light, heavy = (
            case_of("shearwater-76", rider=replace(DEMO["shearwater-76"][1].rider, mass=m)).model for m in (60.0, 95.0)
        )
        for speed in (2.0, 4.0, 8.0):
            self.assertGreater(heavy.running(speed).drag, light.running(speed).drag)

    def test_the_foil_takes_its_share_and_then_all(self):
        model = case_of("dunlin-39").model
        lift = [model.running(v).foil_lift for v in (1.0, 2.0, 3.0, 6.0)]
        self.assertEqual(sorted(lift), lift)
        self.assertAlmostEqual(lift[1] / lift[0], 4.0, places=6)
        self.assertAlmostEqual(lift[-1], model.weight, places=6)
        self.assertEqual(model.running(6.0).load, 0.0)

    def test_floating_a_load_is_floating_its_volume(self):
        for slug in ("grebe-14", "dunlin-39", "shearwater-76", "redshank-139"):
            model = case_of(slug).model
            slope = model.measured.board.base.slope
            for share in (0.1, 0.37, 0.62, 0.9):
                load = share * model.floater.buoyancy
                form = model.floater.form_at(load)
                with self.subTest(board=slug, share=share):
                    # a surface of triangles, cut at that water, holds what the load displaces
                    wet = volume_below(trimesh_of(model.measured.shape), model.floater.reach[0] + form.draught, slope)
                    self.assertAlmostEqual(wet * model.density * GRAVITY / load, 1.0, delta=4e-3)
            self.assertIsNone(model.floater.form_at(1.02 * model.floater.buoyancy))
            self.assertLess(model.floater.dry_load, model.floater.buoyancy)

    def test_a_little_more_rider_sinks_a_board_a_little(self):
        board, brief = next((b, br) for name, b, br in demo_boards() if name == "heron-14")
        riders = [replace(brief, rider=replace(brief.rider, mass=brief.rider.mass + kg)) for kg in (0, 1, 2, 3, 4)]
        side = [evaluate(board, heavier, Resolution.COARSE).figures["lateral_area"].value for heavier in riders]
        gains = np.diff(side)
        self.assertTrue((gains > 0).all(), gains)
        self.assertLess(gains.max() / gains.min(), 1.3)

    def test_the_nose_comes_down_with_less_trim(self):
        model = case_of("shearwater-76").model
        state = model.running(8.0)
        height, pitch = nose_pitch(model, state)
        lower, less = nose_pitch(model, replace(state, trim=state.trim - 2 * DEGREE))
        self.assertGreater(height, lower)
        self.assertGreater(pitch, less)


class Driving(unittest.TestCase):
    def test_larger_gear_needs_less_wind_and_none_is_enough_for_everything(self):
        case = case_of("dunlin-39")
        winds = [least.wind for least in case.least_winds]
        areas = [g.area for g in case.gears]
        self.assertEqual([w for _, w in sorted(zip(areas, winds, strict=True), reverse=True)], sorted(winds))
        scrap = case_of("dunlin-39", wings=(Wing(name="Scrap", area=0.3, mass=0.5),), wing_in_use=0)
        self.assertTrue(math.isnan(scrap.least_winds[0][0]))

    def test_going_over_the_hump_asks_no_more_than_going_all_the_way(self):
        case = case_of("eider-148")
        over = least_wind(case.rigged, case.run_up, case.run_up.top.speed).wind
        self.assertLessEqual(over, case.least_winds[0][0] + 1e-6)

    def test_no_course_into_the_wind_and_faster_with_more_of_it(self):
        case = case_of("shearwater-76")
        slow, fast = (polar(case.rigged, knots * KNOT) for knots in (12, 20))
        self.assertLess(slow.at(40 * DEGREE), 0.6 * slow.speed.max())
        self.assertGreater(fast.speed.max(), slow.speed.max() + 1.0)
        up, down = (fast.best(upwind=u, running=case.run_up.planes) for u in (True, False))
        self.assertTrue(40 * DEGREE < up.angle < 90 * DEGREE < down.angle)
        self.assertAlmostEqual(up.made_good, up.speed * math.cos(up.angle), delta=0.05)

    def test_a_heavier_rider_holds_more_sail(self):
        rider = DEMO["skua-102"][1].rider
        light, heavy = (case_of("skua-102", rider=replace(rider, mass=m)) for m in (70.0, 100.0))
        self.assertAlmostEqual(float(heavy.rigged.held(0.0, 0.0) / light.rigged.held(0.0, 0.0)), 100 / 70, places=6)


class Fins(unittest.TestCase):
    law = FinLaw(0.0095, 1.0, 0.8)

    def test_a_toed_pair_is_loaded_against_itself_at_zero_yaw(self):
        fin = Fin(span=0.12, base=0.10)
        pair = tuple(fin_of(fin, 0.2, toe=2 * DEGREE, cant=5 * DEGREE, side=s) for s in (1, -1))
        plain = tuple(fin_of(fin, 0.2, side=s) for s in (1, -1))
        self.assertAlmostEqual(fins_holding(pair, 0.0, 8.0, 1025, self.law).leeway, 0.0, places=9)
        self.assertGreater(
            fins_holding(pair, 0.0, 8.0, 1025, self.law).drag, fins_holding(plain, 0.0, 8.0, 1025, self.law).drag
        )
        order = engaging(pair)
        self.assertAlmostEqual(order[0][1], -order[1][1], places=12)
        self.assertAlmostEqual(order[1][1] / DEGREE, 2.0, delta=0.02)

    def test_heel_turns_lift_upward(self):
        fin = (fin_of(Fin(span=0.36, base=0.11), 0.3),)
        level, heeled = (fins_holding(fin, 400.0, 9.0, 1025, self.law, heel=h) for h in (0.0, 6 * DEGREE))
        self.assertEqual(level.up, 0.0)
        self.assertAlmostEqual(heeled.up, 400 * math.sin(6 * DEGREE), delta=1.0)

    def test_a_ladder_gains_margin_with_length_and_the_fitted_one_is_in_it(self):
        model = case_of("shearwater-69").model
        rungs = fin_lengths(model)
        margins = [fin_loads(model, fins, 380.0, (10.0,))[0].margin for _, fins in rungs]
        self.assertEqual(sorted(margins), margins)
        fitted = max(b.fin.span for b in model.measured.board.fittings.fin_boxes)
        self.assertTrue(any(abs(span - fitted) < 1e-9 for span, _ in rungs))

    def test_foil_damping_and_drag(self):
        wing = FoilWing(0.12, 0.9, 0.8)
        damping = [roll_damping(wing, knots * KNOT, 0.8, 1025, 0.12) for knots in (0.0, 1.5, 3.0)]
        self.assertEqual(sorted(damping), damping)
        # strips of an elliptic wing under way, and of a plate at half a radian a second at rest, added up
        y = np.linspace(-wing.span / 2, wing.span / 2, 20001)
        chord = 4 * wing.area / (np.pi * wing.span) * np.sqrt(np.maximum(1 - (2 * y / wing.span) ** 2, 0.0))
        under_way = 1025 / 2 * 8.0 * float(wing.slope(0.8)) * np.trapezoid(chord * y**2, y)
        self.assertAlmostEqual(roll_damping(wing, 8.0, 0.8, 1025, 0.0) / under_way, 1, delta=1e-3)
        at_rest = 1025 / 2 * 2.0 * wing.chord * 0.5 * np.trapezoid(np.abs(y) ** 3, y)
        self.assertAlmostEqual(roll_damping(wing, 0.0, 0.8, 1025, 0.0) / at_rest, 1, delta=1e-3)
        self.assertAlmostEqual(
            (damping[2] - damping[1]) / (1.5 * KNOT) / ((damping[1] - damping[0]) / (1.5 * KNOT)), 1.0, delta=0.4
        )
        drag = [float(foil_drag(wing, 700.0, v, 0.4, 1025, HANDBOOK_COEFFICIENTS)) for v in (3.0, 5.5, 11.0)]
        self.assertTrue(drag[1] < drag[0] and drag[1] < drag[2])  # induced below, profile above


class Balance(unittest.TestCase):
    def test_a_curve_begins_at_nothing_and_has_a_peak(self):
        for name in ("grebe-14", "kittiwake-109", "merganser-12"):
            curve = case_of(name).righting
            self.assertAlmostEqual(float(curve.moment[0]), 0.0, delta=0.5)
            heel, peak = curve.peak
            self.assertGreater(peak, 10)
            self.assertTrue(5 * DEGREE < heel < 41 * DEGREE)

    def test_the_curve_agrees_with_a_finer_board(self):
        case = case_of("grebe-14")
        fine = righting(case.measured, case.model.mass, case.brief, case.model.table, "standing")
        for heel in (6, 14, 25):
            self.assertAlmostEqual(
                case.righting.at(heel * DEGREE), fine.at(heel * DEGREE), delta=0.02 * fine.at(heel * DEGREE) + 0.5
            )

    def test_stepping_further_back_sinks_the_tail(self):
        case = case_of("grebe-14")
        near, far = (
            stepped_back(case.coarse, case.model.mass, case.brief, case.model.table, share * case.measured.board.length)
            for share in (0.35, 0.15)
        )
        self.assertGreater(far.trim, near.trim)
        self.assertGreater(far.tail_sink, near.tail_sink)
        self.assertLessEqual(far.waterline, near.waterline + 1e-6)

    def test_full_foot_wells_put_the_deck_deeper(self):
        case = case_of("heron-14")
        water, deeper = flooded(
            case.coarse, case.model.mass, case.brief, case.model.table, "standing", case.righting.place
        )
        self.assertGreater(water, 10)
        area = water / case.model.density / deeper
        self.assertTrue(1.0 < area < 3.0)  # a waterplane's area of a 14 ft board [m²]


class Paddling(unittest.TestCase):
    def test_watts_starts_and_glides(self):
        case = case_of("grebe-14")
        curve = case.paddling
        speeds = [paddle.speed_at(curve, watts) for watts in (40, 80, 160)]
        self.assertEqual(sorted(speeds), speeds)
        self.assertAlmostEqual(curve.at(speeds[1]) * speeds[1], 80, delta=1.5)
        quick, slow = (case_of("grebe-14", peak_watts=w) for w in (900.0, 400.0))
        self.assertLess(paddle.start_time(quick.model, curve, 2.8), paddle.start_time(slow.model, curve, 2.8))
        self.assertTrue(math.isnan(paddle.start_time(case.model, curve, 6.4)))
        self.assertGreater(paddle.glide_loss(case.model, curve, 3.0), paddle.glide_loss(case.model, curve, 2.0))

    def test_a_fin_holds_the_course_and_slows_the_yaw(self):
        board, brief = DEMO["grebe-14"]
        bare = ride_case(settle(evaluate_live(replace(board, fittings=replace(board.fittings, fin_boxes=())), brief)))
        case = case_of("grebe-14")
        form = case.model.floater.form_at(case.model.weight)
        self.assertGreater(
            paddle.yaw_hold(case.model, 10 * DEGREE, 1.5, form), paddle.yaw_hold(bare.model, 10 * DEGREE, 1.5, form)
        )
        self.assertLess(
            paddle.yaw_per_stroke(case.model, case.paddling, 2.5, form),
            paddle.yaw_per_stroke(bare.model, bare.paddling, 2.5, form),
        )


class Pumped(unittest.TestCase):
    def test_arms_push_by_what_of_their_power_reaches_the_board(self):
        """45 % of the arms' 100 W over the speed while the foil lifts nothing, of the body's as far as it does."""
        case = case_of("sandpiper-46")
        speeds = case.run_up.speeds[[0, -1]]
        slow, fast = pumping(case.model, case.run_up, speeds)
        self.assertAlmostEqual(slow / (0.45 * 100 / max(speeds[0], 0.5)), 1, delta=0.06)
        lifts = case.run_up.curve[-1].foil_lift / case.model.weight
        self.assertGreater(lifts, 0.8)
        self.assertAlmostEqual(fast / (0.45 * (100 + lifts * case.brief.peak_watts) / speeds[1]), 1, delta=1e-6)


class PumpedOn(unittest.TestCase):
    """Flying on by pumping, by hand and as it is told."""

    def test_watts_are_held_by_the_work_above_what_is_kept_up(self):
        """Morton 1996: at the most nothing; 15 kJ above 200 W give 15000/150 s at 350 W, less 15000/400 s at 600."""
        self.assertAlmostEqual(endurance(350, 200, 600, 15e3), 100 - 37.5, places=9)
        self.assertEqual((endurance(600, 200, 600, 15e3), endurance(200, 200, 600, 15e3)), (0.0, math.inf))

    def test_a_foil_takes_in_no_more_than_lift_swings(self):
        """Half of swing times heave: 1 m² of no thickness at 2 m/s in water of 1000 kg/m³ has 2 000 N a coefficient."""
        wing = FoilWing(1.0, 3.0, 10.0)
        took = heaving_power(wing, 500.0, np.array([2.0]), 0.4, 1.0, 1.2, 1000.0)  # 800 N at the most, 500 flown
        self.assertAlmostEqual(float(took[0]), 300 * 1.2 / 2, places=9)
        whole = heaving_power(
            wing, 500.0, np.array([2.0, 1.0]), 1.0, 1.0, 1.2, 1000.0
        )  # no more than the weight; stalled
        self.assertEqual(whole.tolist(), [500 * 1.2 / 2, 0.0])

    def test_mass_is_set_going_twice_a_stroke(self):
        self.assertAlmostEqual(strokes(9.0, 0.0, 0.1, 1.2, 1.3), 2 * 1.3 * 9.0 * 1.2**2 / 2, places=9)
        self.assertAlmostEqual(
            strokes(0.0, 0.9, 0.1, 1.2, 1.3), 2 * 1.3 * 0.9 * (2 * math.pi * 0.13) ** 2 / 2, places=9
        )

    def test_span_helps_and_mass_hinders(self):
        """As oscillating foils and their riders do: a kilogram of board costs some ten watts, 2 % of them."""
        board, brief = DEMO["whimbrel-97"]

        def watts(board=board, **foil):
            foils = (replace(brief.foil, **foil),)
            return told("whimbrel-97", board, foils=foils, foil_in_use=0)("pump_watts", 0).value

        plain, foil = watts(), brief.foil
        self.assertTrue(0.7 < watts(span=1.2 * foil.span) / plain < 0.9)
        fittings = board.fittings
        heavy = replace(board, fittings=replace(fittings, other_mass=fittings.other_mass + 1))
        self.assertTrue(1.01 < watts(heavy) / plain < 1.05)
        self.assertAlmostEqual(watts(heavy), watts(mass=foil.mass + 1), delta=2)
        time = told("whimbrel-97")("pump_time", 0)
        kept = told("whimbrel-97", watts=200.0)("pump_time", 0)
        self.assertGreater(kept.value, time.value)
        weak = told("whimbrel-97", peak_watts=380.0)("pump_time", 0)
        self.assertFalse(weak.valid)
        self.assertIn("more than your 380 W", weak.note)


class Turning(unittest.TestCase):
    def test_a_fin_behind_the_foot_resists_with_the_square_of_its_distance(self):
        """By hand: q A CLα l²/R, on flat water at a radius; beyond its greatest lift it holds no more."""
        measured, law = case_of("tern-71").measured, FinLaw(0.006, 1.0, 0.8)
        fin = SetFin("fin", 0.02, 3.0, 5.0, 0.2, 0.10, thickness=0.11)
        held = Pressed(0.40, 800.0, 30 * DEGREE, 12 * DEGREE, 0.04, 12 * DEGREE, 6.0, 1025.0)
        shape, slope = measured.shape, measured.board.base.slope
        bare, one = tail(shape, slope, (), law, held), tail(shape, slope, (fin,), law, held)
        pressure = 1025.0 / 2 * 36
        self.assertAlmostEqual(one.moment(3.0) - bare.moment(3.0), pressure * 0.02 * 3.0 * 0.3**2 / 3.0, places=6)
        self.assertAlmostEqual(one.moment(0.5) - bare.moment(0.5), pressure * 0.02 * 0.8 * 0.3, places=6)
        # pushed aside up to 12°, the bottom takes its load over its trim by the sine of the heel twice
        force, angle = one.lets_go()
        self.assertAlmostEqual(angle, 12 * DEGREE, places=9)
        by_fin = pressure * 0.02 * 3.0 * angle
        by_rail = 800.0 / np.tan(12 * DEGREE) * 0.25 * angle
        self.assertAlmostEqual(force, by_fin + by_rail, places=6)
        toed = tail(shape, slope, (replace(fin, toe=3 * DEGREE, side=-1, slope=5.0),), law, held)
        self.assertAlmostEqual(toed.lets_go()[1], 0.8 / 5.0 - 3 * DEGREE, places=9)

    def test_the_rail_behind_the_foot_resists_by_the_square_of_its_distance(self):
        """By hand: 100 N a radian 30 cm behind the foot, at 1.5 m; what lies ahead of the foot is not pressed in."""
        x, rail, none = np.array([0.1, 0.4, 0.9]), np.array([100.0, 80.0, 50.0]), np.zeros(3)
        held = Tail(x, rail, none, none, (), 1000.0, 12 * DEGREE, FinLaw(0.006, 1.0, 0.8), 0.4)
        self.assertAlmostEqual(held.moment(1.5), 100 * 0.09 / 1.5, places=9)
        self.assertAlmostEqual(held.centre, (10 + 32 + 45) / 230, places=6)

    def test_a_toed_fin_alone_turns_the_board_by_its_toe(self):
        """Nothing to hold: it sails where its own lift is nothing."""
        fin = SetFin("fin", 0.02, 3.0, 5.0, 0.2, 0.10, toe=3 * DEGREE, side=1)
        self.assertAlmostEqual(
            fins_holding((fin,), 0.0, 6.0, 1025.0, FinLaw(0.006, 1.0, 0.8)).leeway, 3 * DEGREE, places=9
        )

    def test_sections_of_fins_drag_and_stall_by_their_thickness(self):
        """Near Re 5e5 NACA 0009 drags 0.00553 and lifts 1.055 at most, 0012 0.00634 and 1.256 (neuralfoil 0.3.3)."""
        law, pressure = FinLaw(0.006, 1.0, 0.8), 1025.0 / 2 * 36
        thin = SetFin("fin", 0.02, 3.0, 5.0, 0.2, 0.10, thickness=0.09)
        thick = replace(thin, thickness=0.12)
        drags = [fins_holding((fin,), 0.0, 6.0, 1025.0, law).drag / (pressure * 0.02) for fin in (thin, thick)]
        self.assertAlmostEqual(drags[0], 0.006, places=9)
        self.assertAlmostEqual(drags[1], 0.006 * 0.00634 / 0.00553, places=9)
        force = 0.3 * pressure * 0.02
        left = [fins_holding((fin,), force, 6.0, 1025.0, law).stall_margin for fin in (thin, thick)]
        self.assertAlmostEqual((1 - left[0]) / (1 - left[1]), 1.256 / 1.055, places=6)
        eleven = fins_holding((replace(thin, thickness=0.11),), force, 6.0, 1025.0, law)
        self.assertAlmostEqual(eleven.stall_margin, 0.7, places=9)

    def test_walls_of_channels_answer_where_they_grow_deeper(self):
        """Jones: each facing wall π/2 ρ V² h² per angle, at its leading end."""
        board = DEMO["tern-71"][0]
        channels = Channels(
            name="tried", start=Place("tail", 0.05), end=Place("tail", 0.45), inner=0.06, count=2, depth=0.006, wall=1.4
        )
        shape = shape_of(replace(board, layers=(channels,)))
        held = Pressed(0.40, 800.0, 30 * DEGREE, 12 * DEGREE, 0.30, 12 * DEGREE, 6.0, 1025.0)
        walls = tail(shape, board.base.slope, (), FinLaw(0.006, 1.0, 0.8), held)
        self.assertAlmostEqual(walls.walls.sum() / (4 * np.pi / 2 * 1025 * 36 * 0.006**2), 1, delta=0.1)
        self.assertTrue(0.3 < float(np.average(walls.x, weights=walls.walls)) < 0.46)

    def test_gear_without_rig_mass_floats_higher(self):
        wings = (Wing(name="light", area=8.3, mass=0.1),)
        board, brief = DEMO["shearwater-76"]
        with_, without = (
            settle(evaluate_live(board, replace(brief, wings=w, wing_in_use=0))) for w in (brief.wings, wings)
        )
        self.assertGreater(
            with_.figures["float_standing_deck_depth"].value, without.figures["float_standing_deck_depth"].value
        )
        self.assertAlmostEqual(
            (without.figures["reserve_volume"].value - with_.figures["reserve_volume"].value) * brief.water.density,
            brief.wings[0].mass - 0.1,
            places=6,
        )


if __name__ == "__main__":
    unittest.main()
