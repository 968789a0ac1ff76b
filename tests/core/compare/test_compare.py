"""Boards over one another: what was changed comes first, and nothing differs from itself."""

import unittest
from dataclasses import fields, replace

import numpy as np
import shapely

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.figures import Better, Figure, FigureDefinition
from kelvor.core.base.units import Quantity
from kelvor.core.compare import phases
from kelvor.core.compare.adopting import ZONES, adopted
from kelvor.core.compare.curves import (
    CURVES,
    DATUMS,
    datum_place,
    datum_slide,
    difference,
    matching,
    plan_apart,
    section_at,
)
from kelvor.core.compare.ledger import ledger
from kelvor.core.compare.phases import phases_apart
from kelvor.core.compare.prototypes import Prototype, differing_figures, limits_seen, ranked_boards
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.edits.edits import with_length
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards

DEMO = {slug: (board, brief) for slug, board, brief in demo_boards()}


def live(slug, change=lambda board: board):
    board, brief = DEMO[slug]
    return evaluate_live(change(board), brief)


class Ledger(unittest.TestCase):
    def test_a_single_planted_change_comes_first_or_is_named_a_tie_and_its_number_is_right(self):
        """Of every lever of three boards; a tie is one change under two names, such as a width and a planform."""
        planted, missed = 0, []
        for slug in ("dunlin-39", "shearwater-76", "kittiwake-109"):
            board, brief = DEMO[slug]
            here = evaluate_live(board, brief, Resolution.COARSE)
            for lever in levers(board):
                if lever.group == "At the cursor" or lever.choices:
                    continue
                try:
                    changed = pull_lever(board, lever, lever.read(board) + 2 * lever.step).board
                except RefusedEdit:
                    continue
                there = evaluate_live(changed, brief, Resolution.COARSE)
                if isinstance(there, tuple) or abs(lever.read(changed) - lever.read(board)) < 1e-9:
                    continue
                planted += 1
                found = ledger(here, there)
                first = found[0]
                if first.key != lever.key and lever.label not in first.ties:
                    missed.append((slug, lever.key, first.key))
                told = next(d for d in found if d.key == lever.key)
                self.assertAlmostEqual(told.more / (lever.read(changed) - lever.read(board)), 1.0, delta=0.01)
        self.assertGreater(planted, 60)
        self.assertLess(len(missed), 0.05 * planted, missed)

    def test_what_the_first_does_not_explain_stands_by_what_is_felt_of_it(self):
        here = live("shearwater-76")
        lever = next(lever for lever in levers(here.board) if lever.key == "length")
        longer = pull_lever(here.board, lever, lever.read(here.board) + 0.05).board
        rest = ledger(here, live("shearwater-76", lambda _: longer))[1:]
        self.assertTrue(any(one.follows for one in rest))
        for follows in (False, True):
            felt = [one.felt for one in rest if bool(one.follows) is follows]
            self.assertEqual(felt, sorted(felt, reverse=True))

    def test_a_board_does_not_differ_from_itself(self):
        here = live("grebe-14")
        self.assertEqual(ledger(here, here), [])

    def test_the_other_way_round_every_sign_turns(self):
        a, b = live("shearwater-69"), live("shearwater-76")
        there = {d.key: d.more for d in ledger(a, b)}
        back = {d.key: d.more for d in ledger(b, a)}
        self.assertEqual(set(there), set(back))
        self.assertTrue(all(np.isnan(there[k]) or abs(there[k] + back[k]) < 1e-12 for k in there))

    def test_what_only_one_board_has_is_told(self):
        board, brief = DEMO["dunlin-39"]
        bare = evaluate_live(
            replace(board, layers=tuple(layer for layer in board.layers if layer.kind != "bevel")), brief
        )
        keys = [d for d in ledger(evaluate_live(board, brief), bare) if np.isnan(d.there)]
        self.assertTrue(any("bevel" in d.label.lower() for d in keys))


class Over(unittest.TestCase):
    def test_a_board_over_itself_is_all_zeros_at_every_datum_it_has(self):
        here = live("shearwater-76")
        for datum in DATUMS:
            slid = datum_slide(here, here, datum)
            if slid is not None:
                for curve in CURVES:
                    self.assertEqual((slid, float(np.abs(difference(here, here, curve, slid)[1]).max())), (0.0, 0.0))

    def test_datums_lie_where_the_board_has_them(self):
        here = live("dunlin-39")
        board = here.board
        self.assertIsNone(datum_place(here, "mast track"))
        self.assertEqual((datum_place(here, "foil mast"), datum_place(here, "nose")), (board.mast_x, board.length))
        self.assertAlmostEqual(
            datum_place(here, "centre of mass"), {f.key: f.value for f in here.figures}["mass_centre_x"], places=9
        )
        self.assertAlmostEqual(
            datum_place(here, "wide point"), {f.key: f.value for f in here.figures}["wide_point"], delta=1e-3
        )

    def test_a_longer_board_laid_at_the_nose_parts_by_what_it_is_longer(self):
        short, long = live("dunlin-39"), live("dunlin-39", lambda b: with_length(b, b.length + 0.05))
        self.assertAlmostEqual(datum_slide(short, long, "nose"), -0.05, places=9)
        self.assertAlmostEqual(datum_slide(short, long, "middle"), -0.025, places=9)
        outline = next(curve for curve in CURVES if curve.key == "outline")
        x, more = difference(short, long, outline, datum_slide(short, long, "tail"))
        self.assertLessEqual(float(x[-1]), short.board.length)
        self.assertGreater(float(more[-1]), 0.0)

    def test_areas_between_outlines_against_shapely(self):
        """Polygons of the same outlines, cut from one another by a general geometry library (shapely 2)."""

        def polygon(shown, slid):
            x, half = shown.geometry.shape.x + slid, shown.geometry.shape.half_width
            return shapely.Polygon([*zip(x, half, strict=True), *zip(x[::-1], -half[::-1], strict=True)])

        for a, b, datum in (
            ("dunlin-39", "sandpiper-46", "foil mast"),
            ("shearwater-69", "shearwater-76", "nose"),
            ("heron-14", "grebe-14", "middle"),
        ):
            here, there = live(a), live(b)
            slid = datum_slide(here, there, datum)
            more, less = plan_apart(here, there, slid)
            own, other = polygon(here, 0.0), polygon(there, slid)
            self.assertAlmostEqual(more, other.difference(own).area, delta=1e-6)
            self.assertAlmostEqual(less, own.difference(other).area, delta=1e-6)

    def test_a_section_is_read_at_the_same_distance_or_the_same_share(self):
        short, long = live("dunlin-39"), live("dunlin-39", lambda b: with_length(b, 1.2 * b.length))
        self.assertAlmostEqual(matching(short, long, 0.5, 0.0, by_share=True), 0.6)
        self.assertAlmostEqual(matching(short, long, 0.5, -0.1, by_share=False), 0.6)
        half = section_at(short, 0.5)
        width = next(c for c in CURVES if c.key == "outline").read(short)
        self.assertAlmostEqual(half[:, 0].max(), np.interp(0.5, short.geometry.shape.x, width), delta=1e-6)
        self.assertEqual(section_at(short, 2.0).shape, (0, 2))

    def test_volume_from_the_tail_on_ends_at_the_litres_of_the_ledger(self):
        along = next(c for c in CURVES if c.key == "volume")
        for slug in ("dunlin-39", "heron-14"):
            shown = live(slug)
            self.assertAlmostEqual(
                along.read(shown)[-1], next(f.value for f in shown.figures if f.key == "volume"), places=9
            )


class Adopting(unittest.TestCase):
    PAIRS = (
        ("dunlin-39", "sandpiper-46"),
        ("heron-14", "grebe-14"),
        ("redshank-139", "redshank-137"),
        ("dipper-138", "swift-138"),
    )

    def test_a_part_of_itself_changes_nothing_and_taken_back_restores_to_a_tenth_of_a_millimetre(self):
        for own, other in self.PAIRS:
            a, b = DEMO[own][0], DEMO[other][0]
            for zone in ZONES:
                with self.subTest(own=own, zone=zone):
                    if zone != "fins" or a.fittings.fin_boxes:
                        self.assertEqual(adopted(a, a, zone).board, a)
                    try:
                        there = adopted(a, b, zone).board
                    except RefusedEdit as error:
                        self.assertEqual((zone, b.fittings.fin_boxes), ("fins", ()), error)
                        continue
                    back = adopted(there, a, zone).board
                    x = np.linspace(0, a.length, 201)
                    for line in ("rocker", "thickness"):
                        apart = np.abs(getattr(back, line).at(x) - getattr(a, line).at(x)).max()
                        self.assertLess(apart, 1e-4)
                    apart = np.abs(half_width(back.outline, a.length, x) - half_width(a.outline, a.length, x))
                    self.assertLess(apart.max(), 1e-4)
                    self.assertEqual(replace(back, rocker=a.rocker, outline=a.outline), a)

    def test_a_tail_taken_on_is_the_others_tail_and_the_nose_stays(self):
        own, other = DEMO["shearwater-69"][0], DEMO["shearwater-76"][0]
        taken = adopted(own, other, "tail outline")
        near, far = np.linspace(0.02, 0.35, 30), np.linspace(taken.joint + 0.5, own.length - 0.02, 30)
        self.assertLess(
            np.abs(
                half_width(taken.board.outline, own.length, near) - half_width(other.outline, other.length, near)
            ).max(),
            1e-3,
        )
        self.assertLess(
            np.abs(half_width(taken.board.outline, own.length, far) - half_width(own.outline, own.length, far)).max(),
            3e-3,
        )
        self.assertGreater(taken.gap, 0.02)  # seven centimetres of width lie between the two

    def test_each_zone_moves_its_own_part_only(self):
        own, other = DEMO["shearwater-69"][0], DEMO["shearwater-76"][0]
        parts = {
            "outline": {"outline"}, "tail outline": {"outline"}, "nose outline": {"outline"},
            "rocker": {"rocker", "base"}, "tail rocker": {"rocker"}, "nose rocker": {"rocker"}, "bottom": {"layers"},
            "rails": {"rails"},
            "deck": {"thickness", "crown", "deck_layers"}, "fins": {"fittings"}, "fittings": {"fittings"},
            "construction": {"construction", "skin", "materials"},
        }  # fmt: skip
        for zone, moved in parts.items():
            taken = adopted(own, other, zone).board
            differs = {f.name for f in fields(own) if getattr(own, f.name) != getattr(taken, f.name)}
            self.assertLessEqual(differs, moved, zone)


class Phases(unittest.TestCase):
    def test_differences_are_those_of_two_evaluations_and_their_bands_decide(self):
        (a, brief), (b, _) = DEMO["dunlin-39"], DEMO["sandpiper-46"]
        here, there = (evaluate(board, brief).figures for board in (a, b))
        told, apart = set(), {}
        for phase in phases_apart(brief.discipline, here, there):
            for figure in phase.figures:
                apart[figure.key] = figure
                if figure.told:
                    told.add(figure.key)
        wind = apart["least_wind_up"]
        self.assertAlmostEqual(wind.more, there["least_wind_up"].value - here["least_wind_up"].value)
        self.assertTrue(wind.better and wind.more < 0)  # the bigger board lifts off in less wind
        self.assertIn("least_wind_up", told)
        own = phases_apart(brief.discipline, here, here)
        self.assertFalse(any(figure.told for phase in own for figure in phase.figures))

    def test_what_lies_inside_the_band_is_not_told_apart(self):
        """What a coefficient moves on the one board alone, and half of the difference for the method."""
        figure = Figure(
            definition=FigureDefinition("k", "K", Quantity.SPEED, better=Better.LESS), value=5.0, band_of_difference=0.4
        )
        moves = (("c", 0.35),)
        near, far = (
            phases.Apart("k", figure, replace(figure, value=5 + more, moves=moves), 0.4, False) for more in (0.3, 0.5)
        )
        self.assertEqual((near.told, near.better, far.told, far.better), (False, None, True, False))


class Prototypes(unittest.TestCase):
    BOOK = (
        FigureDefinition("v", "Volume", Quantity.VOLUME),
        FigureDefinition("w", "Width", Quantity.LENGTH),
        FigureDefinition("t", "Tail", Quantity.LENGTH),
    )

    def boards(self, *rows):
        return [
            Prototype(key=str(i), name=str(i), figures={"v": v, "w": 0.5, "t": t}, verdict=verdict, why=why)
            for i, (v, t, verdict, why) in enumerate(rows)
        ]

    def test_only_what_differs_as_it_is_printed_has_a_column_and_boards_without_it_come_last(self):
        boards = [*self.boards((0.040, 0.3, None, ""), (0.038, 0.30001, None, "")), Prototype(key="x", name="x")]
        self.assertEqual([d.key for d in differing_figures(boards, self.BOOK)], ["v"])
        self.assertEqual([b.key for b in ranked_boards(boards, "v")], ["1", "0", "x"])
        self.assertEqual([b.key for b in ranked_boards(boards, "v", falling=True)], ["0", "1", "x"])

    def test_a_limit_is_seen_where_all_that_were_dropped_lie_beyond_all_that_were_kept(self):
        rows = ((0.03, 0.30, "kept", ""), (0.04, 0.31, "kept", ""), (0.035, 0.36, "dropped", "catchy"))
        self.assertEqual(limits_seen(self.boards(*rows), self.BOOK), ())  # one reject is none
        rows = (*rows, (0.033, 0.38, "dropped", "catchy"))
        seen = limits_seen(self.boards(*rows), self.BOOK)
        self.assertEqual([(limit.definition.key, limit.at, limit.past) for limit in seen], [("t", 0.36, 1)])
        self.assertEqual((seen[0].dropped, seen[0].kept, seen[0].reasons), (2, 2, ("catchy",)))
        crossed = (*rows, (0.033, 0.37, "kept", "calm all the same"))
        self.assertEqual(limits_seen(self.boards(*crossed), self.BOOK), ())


if __name__ == "__main__":
    unittest.main()
