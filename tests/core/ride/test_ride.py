"""The ride: every phase of every discipline, sense checks with their conditions, plausibility against the
trade, jobs.
"""

import math
import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.brief.brief import Brief, Foil, Rider, Wind, Wing
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.book import RIDDEN
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.evaluation.jobs import lever_job, ride_job, sweep_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.ride.condition import Condition, condition_of, span, windy
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.pictures import Chart, Drawing
from kelvor.core.ride.stage import ride
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards
from tests.support import evaluated

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}
FIRST = {brief.discipline: name for name, _, brief in reversed(demo_boards())}


def pulled(board, key, value):
    lever = next(lever for lever in levers(board) if lever.key == key)
    return pull_lever(board, lever, value).board


def figures(board, brief):
    return evaluate(board, brief).figures


def small_foil_board():
    return pulled(first_board("Small", "wing foil", 1.40, 0.47, 0.08), "volume", 0.033)


def small_foil_brief(area, mass=66.0, foil=0.12):
    return Brief(
        rider=Rider(mass=mass),
        wings=(Wing(name="wing", area=area),),
        foils=(Foil(name="foil", area=foil, span=0.9, mass=4.0),),
    )


def slalom(width=0.73, **layers):
    return first_board("Slalom", "slalom", 2.30, width, 0.112)


def slalom_brief(knots=18, mass=85.0):
    return Brief(
        discipline="slalom",
        rider=Rider(mass=mass, height=1.82),
        wind=Wind(speed=knots * KNOT),
        wings=(Wing(name="sail", area=7.8, mass=9.0),),
        foils=(),
    )


class EveryPhase(unittest.TestCase):
    def test_every_discipline_has_all_its_figures_with_band_and_reason(self):
        self.assertEqual(set(FIRST), {d for members in FAMILIES.values() for d in members})
        for discipline, name in FIRST.items():
            found = evaluated(name)
            self.assertEqual([p.phase.key for p in found.phases], [p.key for p in PHASES[discipline]])
            for phase in PHASES[discipline]:
                for key in phase.figures:
                    with self.subTest(discipline=discipline, phase=phase.name, figure=key):
                        self.assertIn(key, found.figures)
                        figure = found.figures[key]
                        if figure.valid and key in RIDDEN:
                            self.assertTrue(math.isfinite(figure.value))
                            self.assertTrue(figure.band > 0 or figure.value == 0)
                            self.assertGreater(figure.band_of_difference if figure.band else 1, 0)
                            self.assertLessEqual(figure.band_of_difference, figure.band)
                        elif not figure.valid:
                            self.assertTrue(figure.note, "struck without a reason")
                        self.assertTrue(figure.definition.method.source)

    def test_every_phase_has_a_picture_that_can_be_drawn(self):
        for discipline, name in FIRST.items():
            pictures = evaluated(name).ride.pictures
            for phase in PHASES[discipline]:
                with self.subTest(discipline=discipline, phase=phase.name):
                    shown = [pictures[key] for key in phase.pictures if key in pictures]
                    self.assertTrue(shown, phase.pictures)
                    for picture in shown:
                        if isinstance(picture, Chart):
                            self.assertTrue(picture.lines and picture.title and picture.caption)
                            for line in picture.lines:
                                self.assertTrue(np.isfinite(line.y).all() and np.all(np.diff(line.x) > 0))
                        else:
                            self.assertIsInstance(picture, Drawing)
                            self.assertTrue(all(np.isfinite(f.points).all() for f in picture.forms))

    def test_most_figures_of_the_demo_hold(self):
        """A struck figure is the exception: fewer than one in eight over the fleet."""
        told = [f for name in FIRST.values() for f in evaluated(name).ride.figures]
        struck = [f.key for f in told if not f.valid]
        self.assertLess(len(struck), len(told) / 8, struck)


class Plausible(unittest.TestCase):
    """Against the trade's check values (common practice, no source); the size of each miss is in the message."""

    def test_a_small_foil_board_lifts_in_about_fifteen_knots_with_five_square_metres(self):
        found = {area: figures(small_foil_board(), small_foil_brief(area))["least_wind_up"] for area in (5.0, 4.0, 2.5)}
        knots = {area: f.value / KNOT for area, f in found.items()}
        # ours needs some 3 kn less than is said: told in docs/methods.md
        self.assertAlmostEqual(knots[5.0], 15, delta=3.5, msg=f"5 m²: {knots[5.0]:.1f} kn")
        self.assertGreater(knots[4.0], knots[5.0] + 1.0)
        # 2.5 m² is said to suit about 25 kn: it must lift off below that; ours does so early
        self.assertTrue(16 < knots[2.5] < 25, f"2.5 m²: {knots[2.5]:.1f} kn")

    def test_the_useful_fins_of_a_73_cm_slalom_board(self):
        for knots in (14, 18, 22):
            best = figures(slalom(), slalom_brief(knots))["fin_best"].value
            # half a rung of the ladder either way
            # 33 to 40 cm are said; ours are a tenth longer: told in docs/methods.md
            self.assertTrue(0.315 <= best <= 0.46, f"{best * 100:.1f} cm in {knots} kn")

    def test_side_force_of_a_slalom_rider(self):
        force = evaluate(slalom(), slalom_brief()).figures
        case = ride_case(evaluate(slalom(), slalom_brief()))
        self.assertTrue(380 <= float(case.rigged.held(0.0, 0.0)) <= 480)
        # 60 to 70 km/h are said
        self.assertTrue(50 < force["run_speed"].value * 3.6 < 70)

    def test_a_race_board_cannot_be_paddled_onto_the_plane(self):
        """340 to 600 W of drag at 2.5 to 5 m/s for a 14 ft board: only on a bump."""
        case = ride_case(evaluated("grebe-14"))
        self.assertGreater(case.model.running(5.0).drag * 5.0, 340)
        self.assertLess(case.model.running(2.5).moving, 0.3)


class Senses(unittest.TestCase):
    def test_more_mass_needs_more_wind(self):
        light, heavy = (
            figures(small_foil_board(), small_foil_brief(5.0, mass))["least_wind_up"].value for mass in (60, 75)
        )
        self.assertGreater(heavy, light + 0.5 * KNOT)

    def test_a_larger_foil_lifts_off_earlier(self):
        small, large = (
            figures(small_foil_board(), small_foil_brief(5.0, foil=a))["lift_off_speed"].value for a in (0.08, 0.16)
        )
        self.assertAlmostEqual(small / large, math.sqrt(2), delta=0.03)

    def test_a_wider_tail_without_cut_outs_gets_going_earlier(self):
        board = slalom()
        board = replace(board, layers=tuple(layer for layer in board.layers if layer.kind != "cut_out"))
        brief = slalom_brief()
        wide = pulled(
            board, "width_1ft_tail", next(x for x in levers(board) if x.key == "width_1ft_tail").read(board) + 0.06
        )
        now, then = (ride_case(evaluate(b, brief)).least_winds[0].wind for b in (wide, board))
        self.assertLess(now, then)

    def test_cut_outs_take_running_bottom_away_and_keep_litres(self):
        board = slalom()
        plain = replace(board, layers=tuple(layer for layer in board.layers if layer.kind != "cut_out"))
        self.assertGreater(len(board.layers), len(plain.layers))
        cut, whole = (ride_case(evaluate(b, slalom_brief())).model.bottom for b in (board, plain))
        self.assertGreater(cut.released, whole.released + 0.01)
        self.assertLess(float(cut.beam[1]), float(whole.beam[1]))

    def test_more_wind_is_faster_and_the_range_agrees_with_single_rides(self):
        board, brief = slalom(), slalom_brief()
        job = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        low, high = span(brief)
        speeds = [sweep_job(job, wind)[1]["run_speed"][0] for wind in np.linspace(low, high, 4)]
        self.assertEqual(sorted(speeds), speeds)
        alone = ride_job(job, Condition(high, 0.0))
        self.assertAlmostEqual(next(f.value for f in alone.figures if f.key == "run_speed"), speeds[-1], places=9)

    def test_convex_rocker_at_equal_tail_trim_lifts_more_and_moves_the_pressure_forward(self):
        """Methods: the sign depends on the datum of the trim; ours is the tail tangent."""
        board = first_board("Wave", "paddle surf", 2.6, 0.72, 0.11)
        case = ride_case(evaluate(board, Brief(discipline="paddle surf")))
        bottom = case.model.bottom
        j = 3
        curved, flat = 4 * DEGREE * bottom.flat[j] + bottom.curved[j], 4 * DEGREE * bottom.flat[j]
        self.assertGreater(curved.sum(), flat.sum())
        self.assertGreater((curved @ bottom.ahead[j]) / curved.sum(), (flat @ bottom.ahead[j]) / flat.sum())

    def test_a_stepped_hull_has_second_stability(self):
        board, brief = DEMO["heron-14"]
        low, high = (
            ride_case(evaluate(pulled(board, "layer.Chine, inner hull.height", h), brief)).righting
            for h in (0.02, 0.10)
        )
        self.assertLess(high.at(3 * DEGREE), low.at(3 * DEGREE))  # the outer hull left the water
        self.assertGreater(high.at(25 * DEGREE) / high.at(3 * DEGREE), 1.1 * low.at(25 * DEGREE) / low.at(3 * DEGREE))

    def test_figures_outside_a_methods_range_are_struck_with_the_reason(self):
        board, brief = DEMO["kittiwake-109"]
        slow = ride(ride_case(evaluate(board, brief)), Condition(brief.wind.speed, 1.2))
        planing = next(f for f in slow.figures if f.key == "planing_area")
        self.assertFalse(planing.valid)
        self.assertIn("the bottom cannot carry", planing.note)

    def test_no_gear_is_said(self):
        board, brief = DEMO["sandpiper-46"]
        found = figures(board, replace(brief, wings=()))
        self.assertFalse(found["least_wind_up"].valid)
        self.assertIn("add a sail, wing or kite", found["least_wind_up"].note)

    def test_wind_is_told_with_its_height(self):
        for name in ("dunlin-39", "shearwater-76", "redshank-139"):
            note = figures(*DEMO[name])["least_wind_up" if name == "dunlin-39" else "least_wind"].note
            self.assertIn("at 10 m", note)

    def test_pop_uses_the_construction(self):
        found = figures(*DEMO["redshank-139"])
        self.assertTrue(found["flex_travel"].valid if "flex_travel" in found else found["bend_sag"].valid)


class Jobs(unittest.TestCase):
    def test_a_job_is_what_evaluation_says(self):
        board, brief = DEMO["dunlin-39"]
        told = {f.key: f.value for f in ride_job(Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)).figures}
        for key, figure in evaluate(board, brief).figures.items():
            if key in told and figure.exists:
                self.assertAlmostEqual(told[key], figure.value, places=9)

    def test_a_lever_is_the_difference_of_two_boards(self):
        board, brief = DEMO["dunlin-39"]
        effect = lever_job(Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS), "length")
        lever = next(lever for lever in levers(board) if lever.key == "length")
        longer = pull_lever(board, lever, lever.read(board) + lever.step).board
        before, after = figures(board, brief), figures(longer, brief)
        told = {key: (moved, band) for key, moved, band in effect.changes}
        for key in ("least_wind_up", "hump_drag", "yaw_inertia_with_foil", "float_deck_depth"):
            moved, band = told[key]
            # the job looks at fewer stations; its band must cover what that costs
            self.assertAlmostEqual(
                moved, after[key].value - before[key].value, delta=max(2 * band, 0.35 * abs(moved)), msg=key
            )

    def test_a_lever_that_cannot_be_pulled_says_why(self):
        board, brief = DEMO["dunlin-39"]
        self.assertTrue(lever_job(Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS), "no such").refused)

    def test_conditions(self):
        for name in ("dunlin-39", "heron-14", "dipper-138"):
            brief = DEMO[name][1]
            low, high = span(brief)
            own = condition_of(brief)
            self.assertTrue(low < (own.wind if windy(brief) else own.pace) < high)


if __name__ == "__main__":
    unittest.main()
