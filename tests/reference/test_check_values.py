"""Check values of the trade, each met by an invented board of that size.

Common practice, no source: sizes, litres and masses that designers name. What the first boards miss is stated in the
test with its size, and in docs/methods.md; nothing is tuned to fit.
"""

import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.figures import by_key
from kelvor.core.base.units import DEGREE, FOOT, INCH, POUND
from kelvor.core.brief.brief import Brief, Rider
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.locks import with_volume
from kelvor.core.levers.typed_measures import with_widest
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.new_board.proposals import proposals, proposed_board, sized
from kelvor.core.shape.checks.straight_edge import flat_run
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fin_sets import base_of
from kelvor.core.shape.parts.fittings import Fin
from kelvor.core.shape.parts.layers import ShapingLayer
from tests.core.ride.test_first_levers import told
from tests.support import shape_of


def figures_of(board, discipline, mass=75.0):
    return by_key(evaluate_live(board, replace(Brief(rider=Rider(mass=mass)), discipline=discipline)).figures)


def of_size(discipline, length, width, volume, school=0):
    proposal = proposals(replace(Brief(), discipline=discipline))[school]
    return proposed_board("Check", sized(proposal, length, width, volume))


def of_thickness(discipline, length, width, thickness, school=0):
    """A board whose greatest thickness is the one asked for."""
    name = proposals(replace(Brief(), discipline=discipline))[school].school
    board = with_widest(first_board("Check", discipline, length, width, thickness, name), width)
    for _ in range(4):
        now = figures_of(board, discipline)["thickness"].value
        board = replace(board, thickness=board.thickness.with_values(board.thickness.values * thickness / now))
    return board


class WingFoil(unittest.TestCase):
    def test_thirty_three_litres_in_140_by_47(self):
        found = figures_of(of_size("wing foil", 1.40, 0.47, 0.033), "wing foil", mass=66.0)
        self.assertAlmostEqual(found["thickness"].value, 0.080, delta=0.007)  # about 8 cm
        self.assertAlmostEqual(found["fill_factor"].value, 0.63, delta=0.06)  # about 0.63
        self.assertAlmostEqual(found["area_per_rider_mass"].value, 0.0100, delta=2e-4)  # about 100 cm² a kilogram
        share = found["planform_area"].value / found["length_times_width"].value
        self.assertTrue(0.80 <= share <= 0.90, share)  # true planform is 80–90 % of it
        self.assertAlmostEqual(found["mass_per_volume"].value, 75.0, delta=12)  # about 75 g/L
        self.assertAlmostEqual(found["volume_per_rider_mass"].value, 0.5e-3, delta=1e-6)


class SurfAndTowed(unittest.TestCase):
    def test_kite_surf_five_eight_by_nineteen_by_two_and_an_eighth(self):
        """23–24 L, fill 0.51–0.53, 5–6 lb. The single concave meets it; the inverted V, whose depth is taken at the
        centre, is 1.1 L over.
        """
        for school, litres in ((0, (22.8e-3, 24.6e-3)), (1, (23.0e-3, 25.4e-3))):
            found = figures_of(of_thickness("kite surf", 68 * INCH, 19 * INCH, 2.125 * INCH, school), "kite surf")
            with self.subTest(school):
                self.assertTrue(litres[0] < found["volume"].value < litres[1], found["volume"].value)
                self.assertAlmostEqual(found["fill_factor"].value, 0.52, delta=0.025 if school == 0 else 0.045)
                self.assertTrue(5 * POUND < found["mass"].value < 6.3 * POUND, found["mass"].value)  # 5–6 lb

    def test_about_three_inches_of_flat_depends_on_the_tolerance(self):
        """“About 3 in of flat”: no tolerance is stated. The keel's run is 3–4 in under 0.1 mm, two to three times that
        under 0.5 mm.
        """
        board = of_thickness("kite surf", 68 * INCH, 19 * INCH, 2.125 * INCH)
        measured = evaluate_live(board, replace(Brief(), discipline="kite surf")).geometry
        runs = [np.ptp(flat_run(measured.shape.x, measured.keel_line, tolerance)) for tolerance in (1e-4, 5e-4)]
        self.assertTrue(0.06 < runs[0] < 0.12, runs)
        self.assertGreater(runs[1], 1.8 * runs[0])

    def test_wakeboard_fast_flat_and_lively_on_edge(self):
        """A keel flat near 12 in with a rail flat near 2 in, on one board: a V that grows from the middle lifts the
        rail line alone.

        Under our 0.5 mm the rail's flat reads some 9 in; the 2 in come out under 0.1 mm, for a line so curved.
        """
        board = of_size("wakeboard", 1.40, 0.428, 0.0075)
        ruler = next(lever for lever in levers(board) if lever.key == "ruler")
        board = pull_lever(board, ruler, 0.22).board
        grown = Schedule(((0.54, 0.017), (0.62, 0.0045), (0.70, 0.0), (0.78, 0.0045), (0.86, 0.017)))
        board = replace(board, layers=(ShapingLayer(kind="v", name="Rail rocker", amount=grown),))
        measured = evaluate_live(board, replace(Brief(), discipline="wakeboard")).geometry
        keel = np.ptp(flat_run(measured.shape.x, measured.keel_line))
        rail = [np.ptp(flat_run(measured.shape.x, measured.rail_line, tolerance)) for tolerance in (1e-4, 5e-4)]
        self.assertAlmostEqual(keel, 12 * INCH, delta=2 * INCH)
        self.assertAlmostEqual(rail[0], 2 * INCH, delta=0.8 * INCH)
        self.assertLess(rail[1], 0.7 * keel)
        self.assertLess(float(measured.keel_line[-1]), 2.7 * INCH)  # 2.7 in is a lot

    def test_towed_surf_boards_near_four_nine_and_six_pounds(self):
        found = figures_of(of_size("wake surf", 57 * INCH, 20 * INCH, 0.021), "wake surf")
        self.assertAlmostEqual(found["mass"].value, 6 * POUND, delta=0.8 * POUND)

    def test_prone_twelve_foot_board_misses_its_pounds(self):
        """20–21 lb is named; the first board comes out near 18.7 lb: 1.3 lb light, for builders glass them more than
        our default.
        """
        found = figures_of(of_size("prone race", 12 * FOOT, 20 * INCH, 0.165), "prone race")
        self.assertTrue(17.5 * POUND < found["mass"].value < 21 * POUND, found["mass"].value / POUND)


class AgainstPractice(unittest.TestCase):
    """Where the tank and what riders clock part, the figure says so, and by its band it reaches them."""

    def test_slalom_reads_at_the_low_end_of_what_is_clocked_and_says_so(self):
        for slug in ("shearwater-69", "shearwater-76"):  # 58–74 km/h in 22 kn
            run = told(slug)("run_speed", 22)
            with self.subTest(slug=slug):
                self.assertTrue(54 < 3.6 * run.value < 58, run.value)
                self.assertGreater(3.6 * (run.value + run.band), 62)
                self.assertIn("58 to 74 km/h", run.note)
        self.assertNotIn("km/h", told("eider-148")("run_speed", 15).note)

    def test_twin_tips_read_wide_and_say_so(self):
        for slug in ("redshank-137", "redshank-139"):  # 55–63°
            angle = told(slug)("upwind_angle", 16)
            with self.subTest(slug=slug):
                self.assertLess((angle.value - angle.band) / DEGREE, 63)
                self.assertIn("55 to 63° are said of twin tips", angle.note)


class Racing(unittest.TestCase):
    def test_course_racing_just_over_a_metre(self):
        found = figures_of(of_size("course racing", 2.38, 1.005, 0.170), "course racing")
        self.assertGreater(found["width_1ft_tail"].value / found["width"].value, 0.86)  # nearly the full width
        self.assertTrue(0.10 < found["thickness"].value < 0.15)

    def test_upright_race_fins_have_the_areas_that_are_said_of_them(self):
        for span, area in ((0.33, 280), (0.40, 360), (0.70, 620)):  # cm²; the longest is 8 % over
            self.assertAlmostEqual(Fin(name="f", span=span, base=base_of(span)).area * 1e4 / area, 1.0, delta=0.08)

    def test_slalom_fin_of_half_the_width(self):
        board = of_size("slalom", 2.30, 0.73, 0.109, 1)
        span = board.fittings.fin_boxes[0].fin.span
        self.assertTrue(0.45 <= span / 0.73 <= 0.55)  # 33–40 cm on 73 cm
        self.assertTrue(0.33 <= span <= 0.40)

    def test_proposed_sizes_lie_where_the_trade_has_them(self):
        for mass in (60.0, 75.0, 85.0):
            for proposal in proposals(replace(Brief(rider=Rider(mass=mass)), discipline="downwind foil")):
                self.assertTrue(78 * INCH - 0.06 <= proposal.length <= 98 * INCH)  # 6'6" to 8'2"
                self.assertTrue(17.9 * INCH <= proposal.width <= 21.4 * INCH)
                self.assertTrue(78e-3 <= proposal.volume <= 130e-3)
        for proposal in proposals(replace(Brief(rider=Rider(mass=72.0)), discipline="wave windsurf")):
            self.assertTrue(0.545 <= proposal.width <= 0.58 and 2.03 <= proposal.length <= 2.11)  # 207–209 × 55–58 cm
            self.assertTrue(66e-3 <= proposal.volume <= 79e-3)
        race = proposals(replace(Brief(), discipline="paddle race"))[0]
        self.assertAlmostEqual(race.width, 24 * INCH, delta=0.01)

    def test_a_stepped_hull_stands_wide_and_runs_narrow(self):
        """Stands 31 in wide and runs on 24: the outline is the one, the chine's line the other."""
        board = with_volume(with_widest(of_size("paddle race", 14 * FOOT, 31 * INCH, 0.30), 31 * INCH), 0.30)
        chine = next(layer for layer in board.layers if layer.kind == "chine")
        inner = replace(chine, line=Schedule.constant(12 * INCH), height=Schedule.constant(0.06))
        board = replace(board, layers=tuple(inner if layer is chine else layer for layer in board.layers))
        shape = shape_of(board)
        i = int(np.argmin(np.abs(shape.x - 0.45 * board.length)))
        y, z = shape.y[i, : shape.columns.edge + 1], shape.z[i, : shape.columns.edge + 1]
        runs_on = y[z < z[0] + 0.03].max()
        self.assertAlmostEqual(2 * runs_on, 24 * INCH, delta=0.05)
        self.assertAlmostEqual(2 * float(shape.half_width.max()), 31 * INCH, delta=1e-3)
