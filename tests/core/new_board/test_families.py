"""First boards of every family: they close, meet the size asked for, and have nothing to mend; levers find every
family's parts.
"""

import math
import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.disciplines import AT_REST, END_FOR_END, FAMILIES, FOILING
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.findings import Severity
from kelvor.core.brief.brief import Brief, Rider
from kelvor.core.evaluation.evaluation import evaluate, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.additions import (
    BOTTOM,
    DECK,
    with_fin_set,
    with_fitting,
    with_layer_added,
    with_parallel_run,
    with_winger,
    without_fittings,
)
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.curvature import with_curvature
from kelvor.core.levers.rocker_lines import ROCKER_LINES, absorbers, line_height, with_line_height
from kelvor.core.new_board.first_boards import patterns
from kelvor.core.new_board.proposals import proposals, proposed_board
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.checks.fairness import line_curve, straight_edge
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.edits.edits import with_nose_kind, with_tail_kind
from kelvor.core.shape.edits.mirror import same_end_for_end
from kelvor.core.shape.edits.weights import Hold, moved, place_and_value
from kelvor.core.shape.parts.fin_sets import ARRANGEMENTS, alignment
from kelvor.core.shape.surface.geometry import geometry
from tests.support import plain_board, shape_of

ALL = [discipline for members in FAMILIES.values() for discipline in members]


def first(discipline, school=0):
    return proposed_board(discipline, proposals(replace(Brief(), discipline=discipline))[school])


class FirstBoards(unittest.TestCase):
    def test_eight_families_and_every_school_is_fair_and_of_the_size_asked(self):
        self.assertEqual(len(FAMILIES), 8)
        for discipline in ALL:
            brief = replace(Brief(rider=Rider(mass=68.0)), discipline=discipline)
            self.assertEqual(sum(discipline in members for members in FAMILIES.values()), 1)
            for proposal in proposals(brief):
                with self.subTest(discipline=discipline, school=proposal.school):
                    board = proposed_board("First", proposal)
                    found = evaluate(board, brief)
                    self.assertNotIsInstance(found, tuple)
                    self.assertEqual([f.text for f in found.findings if f.severity is Severity.WARNING], [])
                    self.assertEqual([f.code for f in found.findings if f.code == "kink"], [])
                    figures = found.figures
                    self.assertAlmostEqual(figures["volume"].value, proposal.volume, delta=1e-3 * proposal.volume)
                    self.assertAlmostEqual(figures["width"].value, proposal.width, delta=2e-4)
                    self.assertEqual(board.length, proposal.length)
                    self.assertIn("common practice, no source", proposal.reasons)
                    for phase in PHASES[discipline]:
                        self.assertIn(phase.headline, figures)
                        self.assertTrue(set(phase.supporting) & set(figures))

    def test_heavier_riders_and_learners_get_more(self):
        for discipline in ALL:
            light, heavy = (
                proposals(replace(Brief(rider=Rider(mass=m)), discipline=discipline))[0] for m in (60.0, 90.0)
            )
            self.assertGreater(heavy.volume, light.volume)
            self.assertGreaterEqual(heavy.length * heavy.width, light.length * light.width)
        learning = proposals(replace(Brief(rider=Rider(skill="learning")), discipline="slalom"))[0]
        self.assertIn("learning", " ".join(learning.reasons))
        self.assertGreater(learning.volume, proposals(replace(Brief(), discipline="slalom"))[0].volume)

    def test_schools_differ_where_they_say(self):
        staged, blended = (first("wakeboard", i) for i in (0, 1))
        flat = [
            evaluate_live(b, replace(Brief(), discipline="wakeboard")).measures.keel_flat for b in (staged, blended)
        ]
        self.assertGreater(flat[0][1] - flat[0][0], flat[1][1] - flat[1][0] + 0.10)
        hollow, inverted = (geometry(first("kite surf", i)).shape for i in (0, 1))
        share = []
        for shape in (hollow, inverted):
            keel, mid, rail = (float(np.interp(0.78, shape.x, line)) for line in (shape.keel, shape.mid, shape.edge_z))
            self.assertGreater(keel, rail + 2e-3)
            share.append((keel - mid) / (keel - rail))
        # two flats into the centre: halfway out the inverted V lies halfway, the hollow a quarter of its depth from the
        # keel
        self.assertAlmostEqual(share[0], 0.25, delta=0.02)
        self.assertAlmostEqual(share[1], 0.50, delta=0.02)
        small, large = (evaluate_live(first("slalom", i), replace(Brief(), discipline="slalom")) for i in (0, 1))
        cut = [
            float(np.interp(0.05, m.geometry.shape.x, m.geometry.shape.edge_z - m.geometry.shape.keel))
            for m in (small, large)
        ]
        self.assertGreater(cut[1], cut[0])

    def test_end_for_end_boards_stay_so(self):
        for discipline in END_FOR_END:
            for i in range(len(patterns(discipline))):
                board = first(discipline, i)
                self.assertTrue(board.mirrored)
                x = np.linspace(0.02, board.length / 2, 30)
                np.testing.assert_allclose(
                    half_width(board.outline, board.length, x),
                    half_width(board.outline, board.length, board.length - x),
                    atol=1e-9,
                )
                shape = shape_of(board)
                np.testing.assert_allclose(
                    np.interp(x, shape.x, shape.keel), np.interp(board.length - x, shape.x, shape.keel), atol=2e-4
                )
                held = Hold("outline", 1)
                place, value = place_and_value(board, held)
                after = same_end_for_end(moved(board, held, place, value + 0.004), board)
                np.testing.assert_allclose(
                    half_width(after.outline, after.length, x),
                    half_width(after.outline, after.length, after.length - x),
                    atol=1e-9,
                )
                self.assertGreater(
                    float(half_width(after.outline, after.length, np.array([after.length - place]))[0]), value + 0.0035
                )

    def test_boards_that_carry_nobody_say_nothing_of_reserve(self):
        for discipline in ALL:
            figures = evaluate(first(discipline), replace(Brief(), discipline=discipline)).figures
            self.assertEqual("reserve_volume" in figures, AT_REST[discipline] is not None)
        waiting = evaluate(first("slalom"), replace(Brief(foils=()), discipline="slalom")).figures[
            "float_roll_stiffness"
        ]
        self.assertIn("standing", waiting.note)


class Levers(unittest.TestCase):
    def test_every_lever_reads_and_takes_a_step_or_says_why_not(self):
        for discipline in ALL:
            board = first(discipline)
            refused = taken = 0
            for lever in levers(board):
                now = lever.read(board)
                if not math.isfinite(now):
                    continue
                with self.subTest(discipline=discipline, lever=lever.key):
                    self.assertTrue(lever.explains and lever.label)
                    try:
                        after = pull_lever(board, lever, now + lever.step).board
                    except RefusedEdit as error:
                        refused += 1
                        self.assertGreater(len(str(error)), 12)
                        continue
                    taken += 1
                    self.assertAlmostEqual(lever.read(after), now + lever.step, delta=0.03 * abs(lever.step) + 1e-6)
            self.assertGreater(taken, 4 * refused, discipline)

    def test_keel_mid_and_rail_are_equals(self):
        board = first("kite surf")
        for line in ROCKER_LINES:
            for absorber in absorbers(board, line):
                with self.subTest(line=line, absorber=absorber):
                    x = 0.8 * board.length  # ahead of the lowest place, which carries the base line
                    before = {other: line_height(board, other, x) for other in ROCKER_LINES}
                    try:
                        after = with_line_height(board, line, x, before[line] + 0.002, absorber, 0.3)
                    except RefusedEdit:
                        self.assertNotEqual(absorber, "rocker")
                        continue
                    self.assertAlmostEqual(line_height(after, line, x), before[line] + 0.002, delta=4e-5)
                    far = 0.1 * board.length
                    if absorber != "rocker":  # beyond the reach nothing moves
                        self.assertAlmostEqual(line_height(after, line, far), line_height(board, line, far), delta=6e-4)

    def test_a_new_layer_takes_up_a_change_of_mid_and_leaves_keel_and_rail(self):
        board = first("wave windsurf")
        x = 0.5 * board.length
        before = {line: line_height(board, line, x) for line in ROCKER_LINES}
        after = with_line_height(board, "mid", x, before["mid"] + 0.002, "new layer", 0.3)
        self.assertEqual(len(after.layers), len(board.layers) + 1)
        self.assertAlmostEqual(line_height(after, "keel", x), before["keel"], delta=5e-5)
        self.assertAlmostEqual(line_height(after, "rail", x), before["rail"], delta=5e-5)

    def test_tips_of_no_width_take_a_typed_rocker(self):
        board = first("wave windsurf")  # a round tail
        lever = next(item for item in levers(board) if item.key == "tail_rocker")
        after = pull_lever(board, lever, 0.061).board
        self.assertAlmostEqual(line_height(after, "keel", 0.0), 0.061, delta=5e-5)

    def test_curve_taken_out_here_comes_back_there(self):
        board = first("wave windsurf")
        x = board.outline.batten.weights[2].x
        after = with_curvature(board, "outline", x, 0.15)
        places = np.linspace(0.1, 0.9, 81) * board.length
        bend = [
            np.gradient(np.gradient(half_width(b.outline, b.length, places), places), places) for b in (board, after)
        ]
        i = int(np.argmin(np.abs(places - x)))
        self.assertGreater(bend[1][i], bend[0][i] + 0.08)
        self.assertLess((bend[1] - bend[0]).min(), -0.02)  # it is spent elsewhere

    def test_additions_are_boards_and_say_when_they_cannot_be(self):
        for discipline in ("wing foil", "slalom", "twin tip", "paddle race", "wake surf"):
            board = first(discipline)
            for key in (*BOTTOM, *DECK):
                with self.subTest(discipline=discipline, layer=key):
                    try:
                        after, name = with_layer_added(board, key)
                    except RefusedEdit as error:
                        self.assertIn(key, ("cut_away", "plinth", "box_strip"), str(error))
                        continue
                    self.assertNotIsInstance(geometry(after), tuple)
                    self.assertIn(name, [item.name for item in (*after.layers, *after.deck_layers)])
        board = first("paddle surf")
        for arrangement in ARRANGEMENTS:
            fins = with_fin_set(board, arrangement).fittings.fin_boxes
            self.assertEqual(
                sum(b.count for b in fins),
                {"none": 0, "single": 1, "2+1": 3, "twin": 2, "three": 3, "four": 4, "five boxes": 5, "four ends": 4}[
                    arrangement
                ],
            )
        self.assertAlmostEqual(alignment(with_fin_set(board, "2+1")), 0.0, delta=0.04)
        for kind in ("tracks", "foil box", "mast track", "strap row", "vent", "leash plug", "handle", "pad"):
            self.assertNotEqual(with_fitting(board, kind, 1.0).fittings, board.fittings)
        for kind in ("straps", "mast track", "tracks"):
            with self.assertRaises(RefusedEdit):
                without_fittings(board, kind)

    def test_wingers_hips_and_parallel_runs(self):
        board = first("wave windsurf")
        for kind, sign in (("winger", -1), ("hip", 1)):
            after = with_winger(board, 0.4, kind)
            behind = np.array([0.38 if kind == "winger" else 0.4])
            gap = float(
                (half_width(after.outline, after.length, behind) - half_width(board.outline, board.length, behind))[0]
            )
            self.assertGreater(sign * gap, 0.003)
        run = with_parallel_run(board, 1.0)
        middle = np.linspace(0.86, 1.14, 30)
        self.assertLess(np.ptp(half_width(run.outline, run.length, middle)), 1e-9)
        with self.assertRaises(RefusedEdit):
            with_parallel_run(board, 0.1)

    def test_end_kinds_leave_the_rest_of_the_outline(self):
        board = plain_board()
        far = np.linspace(0.45, 1.05, 30)
        before = half_width(board.outline, board.length, far)
        for kind in ("round", "pin", "squash", "square", "chopped", "swallow", "split", "diamond"):
            after = with_tail_kind(board, kind)
            with self.subTest(tail=kind):
                self.assertNotIsInstance(geometry(after), tuple)
                np.testing.assert_allclose(half_width(after.outline, after.length, far), before, atol=8e-4)
        for kind in ("round", "pointed", "blunt", "chopped", "notched"):
            after = with_nose_kind(board, kind)
            with self.subTest(nose=kind):
                self.assertNotIsInstance(geometry(after), tuple)
                np.testing.assert_allclose(half_width(after.outline, after.length, far), before, atol=8e-4)


class StraightEdge(unittest.TestCase):
    """Closed form: a straight edge of length l under a circular arc of radius R leaves the sagitta R − √(R² − l²/4)."""

    def test_the_gap_under_an_arc_and_on_a_flat(self):
        from kelvor.core.shape.checks.fairness import BoardCurve

        x = np.linspace(0.0, 2.0, 801)
        radius = 6.0
        arc = BoardCurve(
            x, -(radius - np.sqrt(radius**2 - (x - 1.0) ** 2))
        )  # convex upward: a deck seen by an edge from below
        for length in (0.3, 0.6, 1.0):
            found = straight_edge(arc, 1.0, length)
            self.assertAlmostEqual(found.gap, radius - math.sqrt(radius**2 - length**2 / 4), delta=2e-5)
            self.assertAlmostEqual(found.gap_at, 1.0, delta=0.01)
        flat = line_curve(geometry(plain_board()), "keel")
        self.assertLess(straight_edge(flat, 0.6, 0.5).gap, 1e-6)
        self.assertGreater(straight_edge(flat, 1.3, 0.3, under=False).gap, 1e-4)

    def test_kinks_are_found_where_they_are_and_nowhere_else(self):
        board = plain_board()
        self.assertEqual([f for f in settle(evaluate_live(board, Brief())).findings if f.code == "kink"], [])
        weights = board.rocker.weights
        broken = replace(
            board, rocker=board.rocker.with_weight(3, replace(weights[3], value=weights[3].value + 0.02, knuckle=True))
        )
        meant = [f for f in settle(evaluate_live(broken, Brief())).findings if f.code == "kink"]
        self.assertEqual(meant, [])  # a knuckle is meant
        self.assertIn("wing foil", FOILING)
