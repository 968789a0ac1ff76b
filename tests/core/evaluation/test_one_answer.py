"""Two figures, or a figure and a picture, that speak of one thing agree; and Why names the method that counted it."""

import math
import re
import unittest
from dataclasses import replace
from typing import ClassVar

import numpy as np

from kelvor.core.base.disciplines import FOILING
from kelvor.core.base.units import KNOT, System
from kelvor.core.evaluation.book import BOOK, BY_KEY, RIDDEN
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.pictures import Chart
from kelvor.core.ride.stage import TOPICS
from kelvor.core.shape.checks.clearance import box_rectangle, clearances, footprints, overlap
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards
from kelvor.ui.shown.panels import why
from tests.support import evaluated

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}

found = evaluated


def value(slug, key):
    return found(slug).figures[key].value


class FiguresAndPictures(unittest.TestCase):
    def test_the_humps_mark_is_the_humps_figure(self):
        for slug in ("dunlin-39", "eider-148", "shearwater-69", "phalarope-174", "whimbrel-97"):
            chart = found(slug).ride.pictures["drag"]
            mark = next(m for m in chart.marks if m.text.startswith("hump"))
            with self.subTest(board=slug):
                self.assertAlmostEqual(mark.y, value(slug, "hump_drag"), places=9)
                self.assertEqual(mark.text, f"hump {value(slug, 'hump_drag'):.0f} N")

    def test_trim_in_the_table_and_on_the_picture(self):
        for slug in ("shearwater-69", "skua-102", "martlet-147"):
            caption = found(slug).ride.pictures["patch"].caption
            state = float(re.search(r"trim ([\d.]+)°", caption)[1])
            note = found(slug).figures["planing_area"].note if "planing_area" in found(slug).figures else caption
            self.assertAlmostEqual(float(re.search(r"trim ([\d.]+)°", note)[1]), state, places=6)
            if "planing_trim" in found(slug).figures:
                self.assertAlmostEqual(np.degrees(value(slug, "planing_trim")), state, delta=0.051)

    def test_the_polars_marks_are_what_is_made_good(self):
        chart = found("skua-102").ride.pictures["polar"]
        made = sorted(float(re.search(r"good ([\d.]+)", m.text)[1]) for m in chart.marks)
        told = sorted(round(value("skua-102", key) / KNOT, 1) for key in ("upwind_vmg", "downwind_vmg"))
        self.assertEqual(made, told)

    def test_the_peak_of_the_righting_curve(self):
        for slug in ("heron-14", "merganser-12", "curlew-102"):
            curve = found(slug).ride.pictures["righting"].lines[0]
            i = int(np.argmax(curve.y))
            self.assertAlmostEqual(
                value(slug, "righting_peak"), float(curve.y[i]), delta=0.03 * abs(float(curve.y[i])) + 0.5
            )
            self.assertAlmostEqual(value(slug, "righting_angle"), float(curve.x[i]), delta=0.08)

    def test_a_righting_curve_that_still_rises_where_it_ends_has_no_peak(self):
        for slug, rises in (("sandpiper-46", True), ("heron-14", False)):
            chart = found(slug).ride.pictures["righting"]
            self.assertEqual(int(np.argmax(chart.lines[0].y)) == len(chart.lines[0].y) - 1, rises)
            self.assertEqual("still rising" in chart.marks[0].text, rises)
            self.assertEqual("peak" in chart.marks[0].text, not rises)

    def test_the_best_fin_lies_on_the_ladders_picture_and_keeps_its_reserve(self):
        for slug in ("shearwater-69", "shearwater-76", "skua-102"):
            chart = found(slug).ride.pictures["fins"]
            best = value(slug, "fin_best")
            run, push = (float(np.interp(best, line.x, line.y)) for line in chart.lines)
            with self.subTest(board=slug):
                self.assertGreaterEqual(run, 0.2 - 0.01)
                self.assertGreaterEqual(push, -0.01)

    def test_every_chart_names_its_axes_with_their_unit(self):
        for slug in DEMO:
            for key, picture in found(slug).ride.pictures.items():
                if isinstance(picture, Chart):
                    self.assertTrue(picture.y_label and picture.x_label, (slug, key))
                    self.assertTrue(all(len(line.x) == len(line.y) for line in picture.lines), (slug, key))


class FiguresAndFigures(unittest.TestCase):
    def test_thirds_are_the_whole_and_tiers_count_once(self):
        for slug in DEMO:
            thirds = sum(value(slug, f"volume_{part}_third") for part in ("tail", "middle", "nose"))
            self.assertAlmostEqual(thirds, value(slug, "volume"), delta=1e-9, msg=slug)
            self.assertLessEqual(value(slug, "volume_under_rider"), value(slug, "volume") + 1e-12)
        self.assertLess(value("skua-102", "cut_out_area"), 0.25 * value("skua-102", "planform_area"))

    def test_a_radius_is_one_over_its_curvature_and_length_over_width(self):
        for slug in DEMO:
            if "rocker_radius" in found(slug).figures:
                self.assertAlmostEqual(value(slug, "rocker_radius") * value(slug, "rocker_curvature"), 1.0, places=9)
            self.assertAlmostEqual(
                value(slug, "length_over_width") * value(slug, "width"), value(slug, "length"), delta=1e-9
            )

    def test_the_wind_to_go_is_no_more_than_the_wind_to_fly(self):
        for slug, (_, brief) in DEMO.items():
            figures = found(slug).figures
            if (
                brief.discipline in FOILING
                and "least_wind" in figures
                and figures["least_wind_up"].valid
                and figures["least_wind"].valid
            ):
                self.assertLessEqual(figures["least_wind"].value, figures["least_wind_up"].value + 1e-6, slug)

    def test_more_wind_than_the_least_leaves_drive_to_spare(self):
        for slug in ("dunlin-39", "shearwater-69", "fulmar-104", "tern-71"):
            figures, brief = found(slug).figures, DEMO[slug][1]
            if "drive_margin" in figures:
                least = figures["least_wind_up" if brief.discipline in FOILING else "least_wind"].value
                self.assertEqual(figures["drive_margin"].value > 0, brief.wind.speed > least, slug)

    def test_the_same_statement_of_balance_on_one_page(self):
        for slug in ("heron-14", "grebe-14", "shearwater-76", "skua-102"):
            notes = " ".join(
                f.note for k, f in found(slug).figures.items() if k in ("float_roll_stiffness", "righting_peak")
            )
            self.assertIn("upright", notes)
            self.assertFalse("comes back by itself" in notes and value(slug, "float_roll_stiffness") < 0, slug)


class Methods(unittest.TestCase):
    """What Why says of the method is the method of the function that counted it."""

    NAMED: ClassVar = {
        "board_air_drag": "apparent wind",
        "track_needed": "balanced about the foil's lift",
        "nose_recovery": "buried nose",
        "yaw_per_stroke": "push of a stroke",
        "chop_load": "forward bottom",
        "pull_to_plane": "share of the pull",
        "side_force": "body outside the straps",
        "sail_force": "body outside the straps",
        "fins_engage": "angle of attack",
        "nose_under_margin": "nose tip",
        "weight_place": "about the tail",
        "deck_clears_speed": "dry deck",
        "released_area": "behind the release",
        "wake_slope": "slope whose pull",
        "bump_slope": "slope whose pull",
        "pitch_to_spare": "pitch the tail leaves",
        "waterline_froude": "root of g",
        "lateral_area": "under still water",
        "arm_reach": "shoulder",
        "roll_damping_15": "strip theory",
        "foil_cavitation": "vapour pressure",
        "slam": "first touch",
        "rail_radius_30": "heeled surface",
        "turn_moment": "turned about the back foot",
        "net_force": "forces and roll in balance",
        "flex_travel": "bending test",
        "rail_to_rail": "added mass",
        "cut_out_volume": "times its height",
    }

    def test_each_names_what_counted_it(self):
        for key, words in self.NAMED.items():
            with self.subTest(figure=key):
                self.assertIn(words, BY_KEY[key].method.name)

    def test_why_tells_it_in_the_window_with_what_the_figure_rests_on(self):
        for slug, (_, brief) in DEMO.items():
            for phase in PHASES[brief.discipline]:
                for key in phase.figures:
                    lines = dict(why(found(slug).figures[key], System.METRIC))
                    self.assertEqual(lines["Method"], BY_KEY[key].method.name, (slug, key))
                    self.assertTrue(lines["Source"] and ("Ranks only" in lines) == BY_KEY[key].ranks)

    def test_a_figure_is_told_by_one_topic_and_shown_where_a_phase_says(self):
        keys = [figure.key for topic in TOPICS for figure in topic.figures]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertEqual(set(keys), set(RIDDEN))
        self.assertEqual(len({figure.key for figure in BOOK}), len(BOOK))
        going = [phase.name for phase in PHASES["wing foil"] if "hump_drag" in phase.figures]
        self.assertEqual(going, ["Get going"])
        shown = {key for phases in PHASES.values() for phase in phases for key in phase.figures}
        unshown = [key for key in RIDDEN if key not in shown]
        self.assertEqual(
            set(unshown) - {"planing_length", "released_area", "footwell_water", "touch_drag", "board_air_drag"}, set()
        )


class Clearing(unittest.TestCase):
    """Footprints by hand."""

    def test_a_toed_box_stands_across_its_own_middle(self):
        board, _ = DEMO["phalarope-174"]
        box = next(b for b in board.fittings.fin_boxes if b.toe > 0)
        corners = box_rectangle(box, 0.30, 1)
        length, width, _, _ = BOX_SIZES[box.kind]
        self.assertAlmostEqual(float(corners[:, 0].mean()), 0.30 + box.fin.base / 2)
        self.assertAlmostEqual(float(corners[:, 1].mean()), box.offset)
        sides = np.hypot(*(np.roll(corners, -1, axis=0) - corners).T)
        self.assertAlmostEqual(float(sides.max()), length)
        self.assertAlmostEqual(float(sides.min()), width)
        nose = corners[np.argmax(corners[:, 0])]
        tail = corners[np.argmin(corners[:, 0])]
        self.assertLess(
            abs(float(nose[1]) - box.offset) - width, abs(float(tail[1]))
        )  # toed in: its nose to the centre

    def test_footprints_meet_where_their_edges_do(self):
        square = np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
        self.assertTrue(overlap(square, square + np.array([0.99, 0.0])))
        self.assertFalse(overlap(square, square + np.array([1.01, 0.0])))
        self.assertTrue(overlap(square, square + np.array([1.01, 0.0]), apart=0.02))
        turned = (square - 0.5) @ np.array([[1.0, 1.0], [-1.0, 1.0]]) / math.sqrt(2) + np.array([1.72, 0.5])
        self.assertFalse(overlap(square, turned))  # its corner points at the square's side, 0.7 from its middle
        self.assertTrue(overlap(square, turned - np.array([0.21, 0.0])))

    def test_each_fitting_of_each_demo_board_has_its_print_and_none_clashes(self):
        for slug, (board, _) in DEMO.items():
            prints = footprints(board)
            rows = sum(
                (1 if r.half_spread == 0 else 2) + (2 if r.outboard and r.outboard != r.half_spread else 0)
                for r in board.fittings.straps
            )
            self.assertEqual(sum(p.kind == "strap" for p in prints), rows, slug)
            self.assertEqual(sum(p.kind == "fin" for p in prints), sum(b.count for b in board.fittings.fin_boxes), slug)
            codes = {f.code for f in clearances(found(slug).live.geometry)}
            self.assertEqual(
                codes & {"fittings_clash", "fittings_meet", "fitting_outside", "strap_outside"}, set(), slug
            )

    def test_two_boxes_pushed_together_are_named_with_their_place_and_by_how_much(self):
        board, _ = DEMO["turnstone-77"]
        box = board.fittings.fin_boxes[0]
        twin = replace(box, name="Second pair", at=Place("tail", box.at.x(board.length) + 0.05))
        crowded = geometry(replace(board, fittings=replace(board.fittings, fin_boxes=(box, twin))), Resolution.COARSE)
        clash = [f for f in clearances(crowded) if f.code == "fittings_clash"]
        self.assertEqual(len(clash), 1)
        self.assertEqual(clash[0].parts, ("fin",))
        length = BOX_SIZES[box.kind][0]
        self.assertAlmostEqual(clash[0].value, length - 0.05 + 0.008, delta=0.01)


if __name__ == "__main__":
    unittest.main()
