"""Forms of the bottom and local strength, each against the shape a shaper would template: read off finished
sections.
"""

import unittest
from dataclasses import replace
from math import degrees, radians, tan

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.recipes import CARBON_BAGGED
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.evaluation import evaluate, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.additions import BOTTOM, with_layer_added
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.locks import thickest, wide_point_of
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.parts.layers import CrossStep, Layout, Ledge, ShapingLayer, step_height
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards
from tests.support import demo, plain_board, shape_of

MIDDLE = 0.75


def bottom(layer, x=MIDDLE):
    """The bottom's half-section at a place, measured over a board without the layer: half-places and heights [m]."""
    with_, without = (shape_of(plain_board(layers=layers), Resolution.FINE) for layers in ((layer,), ()))
    i, j = (int(np.argmin(np.abs(shape.x - x))) for shape in (with_, without))
    edge = with_.columns.edge
    y = with_.y[i, : edge + 1]
    flat = np.interp(y, without.y[j, : without.columns.edge + 1], without.z[j, : without.columns.edge + 1])
    return y, with_.z[i, : edge + 1] - flat


def form(kind, amount, **changes):
    return ShapingLayer(kind=kind, name=kind, amount=Schedule.constant(amount), **changes)


class Forms(unittest.TestCase):
    """Each form at stated half-places, in shares of the half-width to the bottom's edge.

    The edge itself is rounded by its radius, which takes a tenth of a millimetre there.
    """

    def heights(self, layer, *shares):
        y, z = bottom(layer)
        return [float(np.interp(share * y[-1], y, z)) for share in shares], float(y[-1])

    def test_v_rises_evenly_from_the_keel(self):
        (centre, half, edge), wide = self.heights(form("v", radians(4)), 0.0, 0.5, 1.0)
        self.assertAlmostEqual(centre, 0.0, places=6)
        self.assertAlmostEqual(half, wide / 2 * tan(radians(4)), delta=2e-5)
        self.assertAlmostEqual(edge, wide * tan(radians(4)), delta=2e-5)

    def test_inverted_v_falls_as_evenly_and_holds_its_rail(self):
        (centre, half, edge), wide = self.heights(form("inverted_v", radians(2), holds="rail"), 0.0, 0.5, 1.0)
        self.assertAlmostEqual(edge, 0.0, delta=1e-4)
        self.assertAlmostEqual(centre, wide * tan(radians(2)), delta=6e-5)
        self.assertAlmostEqual(half, centre / 2, delta=4e-5)

    def test_a_concave_is_a_parabola_of_its_depth(self):
        (centre, half, edge), _ = self.heights(form("hollow", 0.004, holds="rail"), 0.0, 0.5, 1.0)
        self.assertAlmostEqual(centre, 0.004, delta=2e-5)
        self.assertAlmostEqual(half, 0.75 * 0.004, delta=3e-5)
        self.assertAlmostEqual(edge, 0.0, delta=1e-4)

    def test_a_belly_is_the_same_parabola_the_other_way(self):
        (centre, half, edge), _ = self.heights(form("belly", 0.006), 0.0, 0.5, 1.0)
        self.assertAlmostEqual(centre, 0.0, places=6)
        self.assertAlmostEqual(half, 0.25 * 0.006, delta=3e-5)
        self.assertAlmostEqual(edge, 0.006, delta=1e-4)

    def test_a_double_concave_touches_at_keel_and_rail_and_is_deepest_between(self):
        (centre, quarter, half, edge), _ = self.heights(form("double", 0.003), 0.0, 0.25, 0.5, 1.0)
        self.assertAlmostEqual(centre, 0.0, places=6)
        self.assertAlmostEqual(edge, 0.0, delta=1e-4)
        self.assertAlmostEqual(half, 0.003, delta=3e-5)
        self.assertAlmostEqual(quarter, 0.75 * 0.003, delta=3e-5)

    def test_a_spine_rises_fast_by_the_keel_and_is_spent_at_its_width(self):
        layer = form("spine", 0.003, layout=Layout("centre", Schedule.constant(0.10)))
        y, z = bottom(layer)
        self.assertAlmostEqual(float(np.interp(0.05, y, z)), 0.75 * 0.003, delta=4e-5)
        self.assertAlmostEqual(float(np.interp(0.10, y, z)), 0.003, delta=4e-5)
        self.assertAlmostEqual(float(np.interp(0.17, y, z)), 0.003, delta=4e-5)

    def test_a_bevel_keeps_inside_its_width(self):
        layer = form("bevel", radians(15), layout=Layout("edge", Schedule.constant(0.03)))
        y, z = bottom(layer)
        self.assertAlmostEqual(float(np.interp(y[-1] - 0.035, y, z)), 0.0, delta=2e-5)
        self.assertAlmostEqual(float(z[-1]), 0.03 * tan(radians(15)), delta=2.5e-4)

    def test_a_cut_out_lifts_what_lies_outside_its_line_by_its_height(self):
        layer = Ledge(
            name="Cut",
            line=Schedule.constant(0.06),
            height=Schedule.constant(0.008),
            wall=radians(90),
            end=Place("tail", 1.0),
        )
        y, z = bottom(layer, 0.5)
        self.assertAlmostEqual(float(z[-1]), 0.008, delta=1e-4)
        self.assertAlmostEqual(float(np.interp(y[-1] - 0.09, y, z)), 0.0, delta=5e-5)

    def test_a_step_across_lifts_what_lies_behind_it_by_its_height_over_its_wall(self):
        """Twelve millimetres by a wall of 45°: half of it half way, all of it 12 mm behind."""
        step = CrossStep(name="Step", at=Place("tail", 0.5), height=0.012, wall=radians(45))
        found = step_height(step, 0.5, np.array([0.6, 0.5, 0.494, 0.488, 0.2]))
        np.testing.assert_allclose(found, [0, 0, 0.006, 0.012, 0.012], atol=1e-9)

    def test_levers_and_locks_read_what_the_board_measures(self):
        """The lever of the wide point and the lock's greatest thickness against the figures of the ledger."""
        board, brief = demo("shearwater-76")
        figures = {f.key: f.value for f in evaluate_live(board, brief).figures}
        self.assertAlmostEqual(wide_point_of(board), figures["wide_point"], delta=0.003)
        self.assertAlmostEqual(thickest(board), figures["thickness"], delta=0.004)

    def test_every_kind_that_can_be_added_closes_or_says_why_not(self):
        board = plain_board()
        for key in BOTTOM:
            with self.subTest(layer=key):
                try:
                    added, _ = with_layer_added(board, key)
                except RefusedEdit as error:
                    self.assertTrue(str(error).endswith("."))
                    continue
                found = evaluate_live(added, Brief())
                self.assertFalse(isinstance(found, tuple), key)

    def test_a_spoon_entry_rounds_the_nose_and_leaves_the_flat(self):
        board, _ = with_layer_added(plain_board(), "spoon")
        shape, plain = shape_of(board), shape_of(plain_board())
        rise = shape.edge_z - shape.keel - (plain.edge_z - plain.keel)
        self.assertGreater(float(np.interp(0.92 * board.length, shape.x, rise)), 0.003)
        self.assertLess(abs(float(np.interp(0.5 * board.length, shape.x, rise))), 1e-5)


def built(board, construction):
    return settle(evaluate_live(with_construction(board, shape_of(board), construction, HANDBOOK), Brief()))


class LocalStrength(unittest.TestCase):
    """What only ranks, by its law: statics of a box in foam, root of foam and skin for a dent, cube root for a
    wrinkle.
    """

    @staticmethod
    def built(**changes):
        return built(plain_board(**changes), CARBON_BAGGED)

    def value(self, found, key):
        return found.figures[key].value

    def test_a_longer_track_holds_by_its_square(self):
        short = self.built()
        tracks = plain_board().fittings.tracks
        longer = self.built(
            fittings=replace(plain_board().fittings, tracks=replace(tracks, length=tracks.length * 1.2))
        )
        self.assertAlmostEqual(self.value(longer, "box_moment") / self.value(short, "box_moment"), 1.44, places=6)

    def test_a_box_in_foam_by_statics(self):
        found = self.built()
        board = found.live.board
        stock = HANDBOOK.stock(board.construction.core.stock)
        tracks = board.fittings.tracks
        self.assertAlmostEqual(
            self.value(found, "box_moment"), stock.strength * 0.044 * tracks.length**2 / 4, delta=1e-6
        )

    def test_a_fin_box_twists_by_its_depth(self):
        board, brief = next((b, br) for name, b, br in demo_boards() if name == "shearwater-76")
        found = evaluate(board, brief, Resolution.COARSE)
        stock = HANDBOOK.stock(board.construction.core.stock)
        length, _, depth, _ = BOX_SIZES["deep box"]
        self.assertAlmostEqual(self.value(found, "fin_box_torque"), stock.strength * length * depth**2 / 4, delta=1e-6)

    def test_a_stronger_foam_dents_later_by_its_root_and_wrinkles_later(self):
        light, strong = (
            HANDBOOK.stock("eps20"),
            max((s for s in HANDBOOK.stocks if s.key.startswith("eps")), key=lambda s: s.strength),
        )
        found = []
        for stock in (light, strong):
            construction = replace(CARBON_BAGGED, core=replace(CARBON_BAGGED.core, stock=stock.key))
            found.append(built(plain_board(), construction))
        dent = self.value(found[1], "dent_front") / self.value(found[0], "dent_front")
        self.assertAlmostEqual(dent, (strong.strength / light.strength) ** 0.5, delta=0.01)
        wrinkle = self.value(found[1], "wrinkle_margin") / self.value(found[0], "wrinkle_margin")
        self.assertAlmostEqual(wrinkle, (strong.e * strong.g / (light.e * light.g)) ** (1 / 3), delta=0.12)

    def test_only_rankings_are_told_as_ratios(self):
        found = self.built()
        for key in ("dent_front", "wrinkle_margin", "box_moment", "fin_box_torque"):
            self.assertTrue(found.figures[key].definition.ranks, key)
        self.assertFalse(found.figures["bend_sag"].definition.ranks)


class Refused(unittest.TestCase):
    def test_a_lever_pulled_beyond_its_range_says_the_range_and_leaves_the_board(self):
        for slug, board, _ in demo_boards():
            if slug not in ("dunlin-39", "turnstone-77", "shearwater-76", "dipper-138"):
                continue
            for lever in levers(board):
                if lever.choices or not np.isfinite(lever.read(board)):
                    continue
                with self.subTest(board=slug, lever=lever.key):
                    before = hash(board)
                    try:
                        pull_lever(board, lever, 1e4)
                    except RefusedEdit as error:
                        self.assertGreater(len(str(error)), 8)
                        self.assertNotIn("Traceback", str(error))
                    self.assertEqual(hash(board), before)

    def test_a_slot_left_by_a_refusal_is_as_it_was(self):
        board = next(b for name, b, _ in demo_boards() if name == "turnstone-77")
        lever = next(found for found in levers(board) if found.key == "winger.0.angle")
        with self.assertRaises(RefusedEdit):
            pull_lever(board, lever, radians(91))
        self.assertAlmostEqual(degrees(lever.read(board)), 16.7, delta=0.1)


if __name__ == "__main__":
    unittest.main()
