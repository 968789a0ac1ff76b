"""What panels show, without a window."""

import subprocess
import sys
import unittest
from dataclasses import replace

import numpy as np

from kelvor.core.base.figures import (
    Figure,
    FigureDefinition,
    band_words,
    by_key,
    difference_words,
)
from kelvor.core.base.units import Quantity, System, pounds
from kelvor.core.brief.brief import Brief, Rider, Target
from kelvor.core.build.materials.layup import cloth_plan
from kelvor.core.build.materials.recipes import CARBON_BAGGED
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.book import BOOK, BY_KEY
from kelvor.core.evaluation.evaluation import evaluate, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.verdicts import Outcome, Verdict
from kelvor.core.history.steps import Step, TapeStop
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.layer_benefit import Worth
from kelvor.core.levers.locks import Change
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.edits.weights import Hold, moved
from kelvor.core.shape.parts.construction import Coat, Ply, Stringer
from kelvor.demo.boards import demo_boards, sandpiper
from kelvor.ui.build.shown.build import worth_heads, worth_rows
from kelvor.ui.build.shown.construction import (
    NEW_PARTS,
    moved_inward,
    part_of,
    part_rows,
    ply_words,
    with_new_part,
    with_part,
)
from kelvor.ui.family.shown.families import masses_of
from kelvor.ui.shape.shown.handles import drag_change, line_name, line_quantity
from kelvor.ui.shown.panels import ledger_rows, lever_rows, tiles, why
from kelvor.ui.shown.wording import change_words, step_words, stop_words, verdict_words
from tests.support import plain_board, v_layer

M, IN = System.METRIC, System.INCH
L = Quantity.LENGTH


def step(number=2, volume=0.0, **changes):
    return Step(id=number, parent=number - 1, number=number, volume=volume, **changes)


class Wording(unittest.TestCase):
    def test_steps_word_themselves(self):
        cut = Change("Tail cut angle", Quantity.ANGLE, 0.10471975512, 0.13962634016)
        self.assertEqual(change_words(cut, M), "Tail cut angle 6.0° → 8.0°")
        words = step_words(step(volume=0.0362, changes=(cut,)), (cut,), 0.0366, M)
        self.assertEqual(words, "Tail cut angle 6.0° → 8.0°, −0.4 L")
        width = Change("Max width", L, 0.47, 0.45)
        paid = Change("Thickest", L, 0.081, 0.084)
        self.assertEqual(
            step_words(step(changes=(width, paid)), (width, paid), None, M),
            "Max width 47.0 → 45.0 cm, paid by thickest 8.1 → 8.4 cm",
        )
        self.assertEqual(change_words(width, IN), 'Max width 18 1/2 → 17 23/32"')
        self.assertEqual(change_words(Change("Bevel", Quantity.COUNT, None, None), M), "Bevel added")
        self.assertEqual(step_words(step(title="Began"), (), None, M), "Began")
        stop = TapeStop(step(volume=0.04, changes=(width,)), step(volume=0.041), (width,))
        self.assertIn("−1.0 L", stop_words(stop, step(1, volume=0.041), M))

    def test_differences_read_as_their_meaning(self):
        definition = FigureDefinition("w", "Wide", L, more="wider", less="narrower")
        now = Figure(definition=definition, value=0.47)
        for then, words in ((0.458, "+1.2 cm wider"), (0.48, "−1.0 cm narrower"), (0.47, "same"), (0.4699999, "same")):
            self.assertEqual(difference_words(now, replace(now, value=then), M), words)
        self.assertEqual(difference_words(now, None, M), "")
        self.assertEqual(difference_words(now, replace(now, valid=False), M), "")
        self.assertEqual(difference_words(replace(now, value=float("nan")), now, M), "")

    def test_bands_and_verdicts(self):
        definition = FigureDefinition("m", "Mass", Quantity.MASS)
        self.assertEqual(band_words(Figure(definition=definition, value=3, band=0.17), M), "±0.17 kg")
        self.assertIn("within 0.0010", band_words(Figure(definition=definition, value=3, band=0.001), M))
        target = Target(figure="m", relation="at most", value=3.0)
        self.assertEqual(verdict_words(Verdict(target, 3.0, Outcome.SHORT, -0.2), Quantity.MASS, M), "short by 0.20 kg")
        wish = replace(target, wish=True)
        self.assertEqual(verdict_words(Verdict(wish, 3.0, Outcome.MEETS), Quantity.MASS, M), "wish: meets")
        self.assertEqual(verdict_words(None, Quantity.MASS, M), "")


class Panels(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        _, cls.board, cls.brief = demo_boards()[1]
        cls.found = evaluate(cls.board, cls.brief)

    def test_every_ledger_row_exists_and_is_explained(self):
        rows = ledger_rows(self.found.figures, {}, M, {})
        shown = [row.key for row in rows]
        self.assertEqual(shown, [d.key for d in BOOK if d.key in shown])
        self.assertGreater(len(shown), 55)
        for row in rows:
            lines = why(self.found.figures[row.key], M)
            headings = [heading for heading, _ in lines]
            with self.subTest(row.key):
                self.assertIn("Method", headings)
                self.assertIn("Source", headings)
                counted = dict(lines)["Ranks only"] if BY_KEY[row.key].ranks else lines[0][1]
                self.assertTrue("±" in counted or "within" in counted)

    def test_area_is_never_shown_bare(self):
        labels = [row.label.lower() for row in ledger_rows(self.found.figures, {}, M, {})]
        for label in labels:
            if "area" in label:
                self.assertIn("planform", label)
        self.assertTrue(any("length × width" in label for label in labels))
        self.assertTrue(all("gap" in label for label in labels if "flat run" in label))
        self.assertEqual(
            [label for label in labels if "wide one foot" in label],
            ["wide one foot off tail", "wide one foot off nose"],
        )

    def test_levers_cover_the_trade(self):
        rows, found = lever_rows(self.found.live, M, frozenset({"width"}))
        groups = [row.label for row in rows if not row.key]
        self.assertEqual(groups, ["Outline", "Rocker", "Thickness", "Bottom layers", "Rails", "Deck", "Fittings"])
        plain = evaluate(replace(self.board, construction=None), self.brief).live
        self.assertIn(
            "Laminate", [row.label for row in lever_rows(plain, M, frozenset())[0]]
        )  # else it is changed layer by layer
        self.assertEqual(next(row.mark for row in rows if row.key == "width"), "lock")
        for row in rows:
            if row.key:
                self.assertTrue(row.tip.endswith((".", "\u201d")), row.key)
                self.assertTrue(row.value and row.value != "–", row.key)
        # a figure that stands for a lever's own reading reads the same
        for lever in found.values():
            if lever.figure:
                figure = next(f for f in self.found.live.figures if f.key == lever.figure)
                self.assertAlmostEqual(
                    figure.value, lever.read(self.board), delta=3e-4 * max(abs(figure.value), 0.1), msg=lever.key
                )

    def test_tiles_mark_what_is_being_renewed(self):
        live = evaluate_live(moved(self.board, Hold("outline", 2), 0.7, 0.25), self.brief)
        fresh = self.tiles(self.found)
        newer = {**self.found.figures, **by_key(live.figures)}
        lagging = tiles(self.found, live, newer, True, {}, "", M)
        self.assertFalse(any(t.stale for t in fresh))
        self.assertEqual([t.stale for t in lagging], [True, True, True, False, False])
        self.assertEqual(fresh[1].headline, lagging[1].headline)  # the ride is that of a moment ago, and is marked
        self.assertNotEqual(fresh[3].lines, lagging[3].lines)
        self.assertEqual(self.tiles(self.found, self.found.figures, "version 9")[3].headline, "yaw 1.00 × version 9")
        unridden = settle(self.found.live)
        self.assertEqual(tiles(unridden, unridden.live, unridden.figures, True, {}, "", M)[1].headline, "counting")

    def tiles(self, found, pinned=None, name="", system=M):
        return tiles(found, found.live, found.figures, False, pinned or {}, name, system)

    def test_a_tile_says_what_is_to_spare_only_of_the_figure_it_shows(self):
        """A flat 9 cm longer than asked is not 9 cm to spare of the newtons above it."""
        flat, spare = self.found.figures["keel_flat_run"].value, self.found.figures["drive_margin"].value
        for figure, asked, words in (
            ("keel_flat_run", flat - 0.09, "meets"),
            ("drive_margin", spare - 200.0, "meets, 200 N to spare"),
        ):
            brief = replace(self.brief, targets=(Target(figure=figure, relation="at least", value=asked),))
            found = evaluate(self.board, brief)
            going = next(t for t in self.tiles(found) if t.name == "Get going")
            with self.subTest(figure=figure):
                self.assertEqual(going.verdict, words)

    def test_tiles_without_targets_or_foil(self):
        bare = evaluate(self.board, Brief(rider=Rider(mass=70), foils=()))
        shown = self.tiles(bare, system=IN)
        self.assertEqual({t.verdict for t in shown}, {"no target"})
        self.assertEqual(shown[3].headline, "not for this board")

    def test_no_jargon_in_what_the_designer_reads(self):
        words = [row.label + row.tip for row in lever_rows(self.found.live, M, frozenset())[0]]
        words += [row.label for row in ledger_rows(self.found.figures, {}, M, {})]
        for text in words:
            for jargon in ("spline", "knot ", "control point", "vertex", "mesh", "dataclass", "None", "_"):
                self.assertNotIn(jargon, text)


class Handles(unittest.TestCase):
    def test_a_drag_in_words(self):
        board = sandpiper()
        wider = moved(board, Hold("outline", 2), 0.74, 0.2625)
        change = drag_change(board, wider, Hold("outline", 2), M)
        self.assertEqual(
            (change.label, round(change.before, 4), round(change.after, 4)), ("Width at 74.0", 0.515, 0.525)
        )
        slid = moved(board, Hold("outline", 2), 0.70, 0.2575)
        self.assertIn("slid", drag_change(board, slid, Hold("outline", 2), M).label)
        self.assertEqual(line_name("rails.tuck"), "Rail tuck")
        self.assertIs(line_quantity(board, "layer.Side bevel"), Quantity.ANGLE)
        self.assertIs(line_quantity(board, "layer.Concave, middle"), Quantity.DEPTH)

    def test_levers_of_a_bare_board(self):
        keys = {lever.key for lever in levers(plain_board(layers=(v_layer(),)))}
        self.assertIn("layer.V.amount", keys)
        self.assertNotIn("layer.Tail cut.angle", keys)
        board = plain_board()
        no_tracks = replace(board, fittings=replace(board.fittings, tracks=None))
        self.assertNotIn("mast", {lever.key for lever in levers(no_tracks)})


class Parts(unittest.TestCase):
    """Parts of a construction by the keys of their rows."""

    def setUp(self):
        self.board = plain_board()
        self.made = replace(
            CARBON_BAGGED,
            stringers=(Stringer(name="Centre", material="poplar"),),
            coats=(Coat(name="Filler", areal_mass=0.12),),
        )

    def keys(self, construction):
        return [row.key for row in part_rows(construction, self.board, HANDBOOK, System.METRIC) if row.key]

    def test_every_row_names_its_part(self):
        keys = self.keys(self.made)
        self.assertEqual(len(keys), len(self.made.plies) + 2)
        parts = [part_of(self.made, key) for key in keys]
        self.assertEqual(parts, [*self.made.plies, *self.made.stringers, *self.made.coats])
        for key in ("ply99", "coat7", "nothing", "ply", ""):
            self.assertIsNone(part_of(self.made, key), key)
            self.assertEqual(with_part(self.made, key, None), self.made)
        self.assertIsNone(part_of(None, "ply0"))
        self.assertEqual(part_rows(None, self.board, HANDBOOK, System.METRIC), [])

    def test_parts_are_replaced_dropped_and_moved_inward(self):
        for key in self.keys(self.made):
            without = with_part(self.made, key, None)
            self.assertEqual(len(self.keys(without)), len(self.keys(self.made)) - 1)
            self.assertNotIn(part_of(self.made, key), (*without.plies, *without.stringers, *without.coats))
        other = replace(self.made.plies[1], count=5)
        self.assertEqual(with_part(self.made, "ply1", other).plies[1].count, 5)
        moved, key = moved_inward(self.made, "ply2")
        self.assertEqual(key, "ply1")
        self.assertEqual(part_of(moved, key), self.made.plies[2])
        for stays in ("ply0", "coat0", "stringer0", "ply99"):
            self.assertEqual(moved_inward(self.made, stays), (self.made, stays))

    def test_new_parts_have_names_of_their_own_and_lie_on_the_board(self):
        made = self.made
        for _ in range(2):
            for words, make in NEW_PARTS:
                made, key = with_new_part(made, make, self.board)
                part = part_of(made, key)
                self.assertIsNotNone(part, words)
                if isinstance(part, Ply) and part.start is not None and part.end is not None:
                    start, end = (p.x(self.board.length, self.board.mast_x) for p in (part.start, part.end))
                    self.assertTrue(0 <= start < end <= self.board.length, words)
        names = [p.name for p in (*made.plies, *made.stringers, *made.coats)]
        self.assertEqual(len(names), len(set(names)))
        self.assertEqual(cloth_plan(made, HANDBOOK), [])

    def test_layers_in_words(self):
        ply = Ply(
            name="Patch",
            cloth="glass4",
            zone="deck",
            count=2,
            start=Place("tail", 0.3),
            end=Place("tail", 0.9144),
            width=0.25,
        )
        self.assertEqual(
            ply_words(ply, self.board, HANDBOOK, System.METRIC),
            "2 × Glass 4 oz, deck, 30.0 cm to 91.4 cm, 25.0 cm wide",
        )
        self.assertIn("deck, 11 13/16\" to 3',", ply_words(ply, self.board, HANDBOOK, System.INCH))

    def test_what_a_layer_buys_in_words(self):
        rows = worth_rows(
            (
                Worth("Deck", -1, -0.21, -0.04, 2.0, 0.28, -0.61, -483),
                Worth("Deck", 1, 0.21, 0.04, -0.12, 0.001, 0.57, 483),
            )
        )
        self.assertEqual(rows[0], ("Deck −1", "−210 g", "−0.040", "3.0 × softer", "28% softer", "61% softer", "−483"))
        self.assertEqual(rows[1], ("Deck +1", "+210 g", "+0.040", "12% stiffer", "same", "57% tougher", "+483"))
        self.assertEqual(len(rows[0]), len(worth_heads("crowns")))

    def test_pounds_and_ounces(self):
        for mass, words in ((0.45359237, "1 lb 0 oz"), (2.63, "5 lb 13 oz"), (0.0, "0 lb 0 oz"), (0.9, "2 lb 0 oz")):
            self.assertEqual(pounds(mass), words)

    def test_riders_are_read_in_the_unit_that_is_written(self):
        """110 lb are 49.895 kg, 132 lb 59.874 kg: NIST, SP 811."""
        for words, system, masses in (
            ("110, 132 lb", M, (49.895, 59.874)),
            ("55; 70 85", M, (55.0, 70.0, 85.0)),
            ("110", IN, (49.895,)),
            ("60 kg, 70", IN, (60.0, 70.0)),
            ("60 kg 132 lbs", M, (60.0, 59.874)),
        ):
            np.testing.assert_allclose(masses_of(words, system), masses, atol=6e-4, err_msg=words)


class NoWindow(unittest.TestCase):
    def test_presenters_load_without_qt(self):
        script = (
            "import sys, kelvor.ui.shown.panels, kelvor.ui.shape.shown.handles\n"
            "print([m for m in sys.modules if m.startswith('PySide6')])"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "[]")
