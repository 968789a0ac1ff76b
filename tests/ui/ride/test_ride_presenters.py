"""What the Ride view says, without a window: axes, readings, tiles' words, what buys most, cells, the range, the
quiver.
"""

import unittest
from dataclasses import replace
from math import radians

import numpy as np

from kelvor.core.base.figures import Better
from kelvor.core.base.units import KNOT, Quantity, System
from kelvor.core.brief.brief import Target
from kelvor.core.evaluation.book import BOOK, BY_KEY
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.jobs import LeverEffect
from kelvor.core.evaluation.verdicts import judge_targets
from kelvor.core.levers.catalogue import levers
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.pictures import Chart, ChartLine
from kelvor.demo.boards import demo_boards
from kelvor.ui.ride.shown.ride import buys, phase_rows, quiver_rows, range_chart, target_words
from kelvor.ui.shown.charts import PictureBehind, axis, chart_reading, ranges
from kelvor.ui.shown.lever_effects import Does
from kelvor.ui.shown.panels import why

M, IN = System.METRIC, System.INCH
BOARDS = {name: (board, brief) for name, board, brief in demo_boards()}


def chart(values, **more):
    x = np.linspace(0, 10 * KNOT, len(values))
    line = ChartLine("drag", "now", x, np.array(values, float), np.full(len(values), 2.0))
    return Chart("Drag", "caption", "speed, kn", Quantity.SPEED, "N", Quantity.FORCE, (line,), **more)


class Charts(unittest.TestCase):
    def test_ticks_are_round_in_the_unit_on_display(self):
        across = axis(0.0, 10 * KNOT, Quantity.SPEED, M, about=5)
        self.assertEqual([words for _, words in across.ticks], ["0", "2", "4", "6", "8", "10"])
        self.assertAlmostEqual(across.ticks[2][0], 4 * KNOT, places=12)
        self.assertEqual(axis(radians(-10), radians(30), Quantity.ANGLE, M, about=4).ticks[0][1], "−10")
        self.assertNotIn("−0", [words for _, words in axis(-1.0, 1.0, Quantity.FORCE, M).ticks])
        self.assertAlmostEqual(across.share(5 * KNOT), 0.5)

    def test_the_pinned_line_has_room_and_the_band_shows(self):
        now, then = chart([0, 10, 20]), chart([0, 30, 60])
        _, up = ranges(now, (PictureBehind(then, "step 9"),), M)
        self.assertGreaterEqual(up.high, 60)
        self.assertEqual(up.low, 0)
        self.assertLess(ranges(chart([-5, 10], from_zero=False), (), M)[1].low, -5)

    def test_a_reading_names_every_line_and_the_pinned_step(self):
        words = chart_reading(chart([0, 10, 20]), (PictureBehind(chart([0, 30, 60]), "step 9"),), 5 * KNOT, M)
        self.assertEqual(words, "5.0 kn: drag 10 N; step 9: drag 30 N")


class Words(unittest.TestCase):
    def test_every_headline_and_supporting_figure_of_a_tile_has_words(self):
        for discipline, phases in PHASES.items():
            for phase in phases:
                with self.subTest(discipline=discipline, phase=phase.name):
                    self.assertIn("{}", phase.heads.head)
                    self.assertTrue(phase.heads.school)
                    self.assertTrue(phase.pictures)

    def test_definitions_read_in_the_trades_words(self):
        self.assertEqual(len(BY_KEY), len(BOOK), "a figure is declared twice")
        for definition in BOOK:
            with self.subTest(key=definition.key):
                self.assertTrue(definition.label[0].isupper() and "_" not in definition.label)
                self.assertTrue(definition.more and definition.less and definition.method.limits)
                self.assertLessEqual(len(definition.label), 34)

    def test_why_tells_claim_and_school(self):
        found = evaluate(*BOARDS["heron-14"])
        lines = dict(why(found.figures["paddle_speed"], M, "", found.ride.claims["paddle_speed"]))
        self.assertIn("It is said", lines["Claim"])
        self.assertIn("% of what is wet at rest", lines["Claim"])
        self.assertIn("Displacement hulls", lines["Schools"])

    def test_why_tells_what_the_method_alone_leaves_open(self):
        found = evaluate(*BOARDS["heron-14"])
        self.assertEqual(
            dict(why(found.figures["righting_peak"], M))["It leaves open"], "at least 12 % of it and ±3 N m (judgement)"
        )
        self.assertNotIn("It leaves open", dict(why(found.figures["pace_drag"], M)))


class Pages(unittest.TestCase):
    def setUp(self):
        self.board, asked = BOARDS["dunlin-39"]
        # in less wind than that wing lifts it off in
        self.brief = replace(
            asked, targets=(*asked.targets, Target(figure="least_wind_up", relation="at most", value=10 * KNOT))
        )
        self.found = evaluate(self.board, self.brief)
        self.phase = PHASES["wing foil"][2]

    def test_rows_mark_what_is_short_and_rank_as_a_ratio(self):
        rows = phase_rows(self.phase, self.found.figures, {}, judge_targets(self.brief, self.found.figures), M)
        self.assertEqual(rows[0].mark, "!")
        self.assertIn("short by", target_words(judge_targets(self.brief, self.found.figures), self.found.figures, M))
        land = evaluate(*BOARDS["redshank-139"])
        rows = phase_rows(PHASES["twin tip"][3], land.figures, land.figures, (), M, "version 1")
        self.assertEqual(next(r.value for r in rows if r.key == "slam"), "1.00 × version 1")

    def test_what_buys_most_comes_first_and_only_beyond_its_band(self):
        definition = BY_KEY["least_wind_up"]
        effects = {
            "length": LeverEffect("length", 0.02, (("least_wind_up", -0.2, 0.05),), ("Volume",)),
            "width": LeverEffect("width", 0.01, (("least_wind_up", 0.3, 0.05),)),
            "thickness": LeverEffect("thickness", 0.002, (("least_wind_up", -0.04, 0.05),)),
        }
        found = buys(definition, effects, {lever.key: lever for lever in levers(self.board)}, M)
        self.assertEqual([b.lever for b in found], ["width", "length"])
        self.assertLess(found[0].bar, 0)  # later is worse
        self.assertGreater(found[1].bar, 0)
        self.assertIn("Held meanwhile: Volume", found[1].tip)
        self.assertTrue(found[1].change.startswith("−"))

    def test_cells_and_words_of_a_lever(self):
        effect = LeverEffect(
            "length",
            0.02,
            (("least_wind_up", -0.2, 0.05), ("yaw_inertia_with_foil", 0.05, 0.01), ("drive_margin", 0.2, 0.4)),
        )
        does = Does(PHASES["wing foil"], self.found.figures, {"length": effect})
        self.assertEqual(does.cells("length"), (0, 0, 1, -1, 0))
        self.assertEqual(does.cells("width"), ())
        self.assertEqual(does.heads, "FGLFT")
        lever = next(lever for lever in levers(self.board) if lever.key == "length")
        words = does.words(lever, M)
        self.assertIn("lift off 0.4 kn earlier (±0.1)", words)
        self.assertNotIn("get going", words)
        refused = Does(
            PHASES["wing foil"], self.found.figures, {"length": LeverEffect("length", 0.02, refused="No rail is left.")}
        )
        self.assertIn("No rail is left", refused.words(lever, M))

    def test_a_neutral_figure_is_neither_better_nor_worse(self):
        figures = evaluate(*BOARDS["tern-71"]).figures
        self.assertIs(figures["rail_radius_45"].definition.better, Better.NEITHER)
        does = Does(
            (PHASES["wave windsurf"][1],),
            figures,
            {"width": LeverEffect("width", 0.01, (("rail_radius_45", -1.0, 0.1),))},
        )
        self.assertEqual(does.cells("width"), (-2,))

    def test_the_range_leaves_out_what_is_struck(self):
        definition = BY_KEY["drive_margin"]
        points = tuple((float(v), {"drive_margin": (10.0 * v, 1.0, v > 4)}) for v in range(3, 9))
        now, then = range_chart(definition, points, (), 6.0, M, True)
        self.assertEqual(len(now.lines[0].x), 4)
        self.assertIsNone(then)

    def test_the_quiver_in_words(self):
        rows = quiver_rows(self.found.ride.quiver, self.brief, IN)
        self.assertEqual(sum(not row.key for row in rows), len(self.brief.foils))
        self.assertTrue(all(row.value.startswith("from") for row in rows if row.key))
        order = [float(row.value.split()[1]) for row in rows if row.key][: len(self.brief.wings)]
        self.assertEqual(order, sorted(order))  # the brief lists its wings from large to small


if __name__ == "__main__":
    unittest.main()
