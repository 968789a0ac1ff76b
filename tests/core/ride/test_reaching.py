"""Places that cannot be reached: what rests on them never meets, and says by how much."""

import unittest
from dataclasses import replace

from kelvor.core.base.disciplines import FOILING
from kelvor.core.brief.brief import Brief, Wing, with_discipline
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.verdicts import Outcome
from kelvor.core.new_board.proposals import brief_for
from kelvor.core.shape.checks.fairness import standing_width
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Ledge
from kelvor.core.shape.surface.sections import Resolution
from kelvor.demo.boards import demo_boards
from tests.support import some

DEMO = {name: (board, brief) for name, board, brief in demo_boards()}


def slid(board, metres):
    """The board with its foil tracks slid along, its straps where they stand."""
    fittings, mast = board.fittings, board.mast_x
    straps = tuple(replace(row, at=Place("tail", row.at.x(board.length, mast))) for row in fittings.straps)
    tracks = replace(fittings.tracks, at=Place("tail", fittings.tracks.at.x(board.length) + metres))
    return replace(board, fittings=replace(fittings, straps=straps, tracks=tracks))


def phase(found, name):
    return next(p for p in found.phases if p.phase.name == name)


class Mast(unittest.TestCase):
    def test_sliding_the_tracks_turns_every_foil_board(self):
        foiling = [(slug, *both) for slug, both in DEMO.items() if both[1].discipline in FOILING]
        for slug, board, brief in some(foiling, 4):
            with self.subTest(board=slug):
                fly = "Lift off" if brief.discipline == "wind foil" else "Fly"
                meets = [
                    not phase(evaluate(slid(board, by), brief, Resolution.COARSE), fly).missed
                    for by in (-0.05, 0.0, 0.05)
                ]
                self.assertTrue(meets[1])
                self.assertIn(False, meets)

    def test_a_mast_beyond_the_track_never_meets_and_says_by_how_much(self):
        board, brief = DEMO["dunlin-39"]
        needed = evaluate(board, brief, Resolution.COARSE).figures["track_needed"].value
        found = evaluate(slid(board, -0.08), brief, Resolution.COARSE)
        tracks = slid(board, -0.08).fittings.tracks
        front = tracks.at.x(board.length) + tracks.travel
        result = phase(found, "Fly")
        self.assertIs(result.outcome, Outcome.SHORT)
        # the foil hardly moves the balance: what is missing is what the tracks were taken away by
        self.assertAlmostEqual(result.missed[0].beyond, needed - front, delta=0.006)
        self.assertRegex(result.words, r"^mast \d\.\d cm beyond the track$")
        self.assertEqual(phase(found, "Touch down").missed, ())


class StrapsAndFins(unittest.TestCase):
    def test_a_strap_on_a_box_stops_the_phases_that_stand_on_it(self):
        board, brief = DEMO["shearwater-76"]
        box = board.fittings.fin_boxes[0]
        thin = replace(
            board,
            thickness=replace(
                board.thickness, weights=tuple(replace(w, value=w.value * 0.85) for w in board.thickness.weights)
            ),
        )
        rows = tuple(
            replace(row, at=Place("tail", box.at.x(board.length) + box.fin.base / 2), half_spread=0.0)
            if "Back" in row.name
            else row
            for row in thin.fittings.straps
        )
        found = evaluate(replace(thin, fittings=replace(thin.fittings, straps=rows)), brief, Resolution.COARSE)
        words = [m.words for m in found.missed]
        self.assertTrue(any("on" in w and w.endswith("cm") for w in words), words)
        self.assertIs(phase(found, "Accelerate").outcome, Outcome.SHORT)

    def test_a_fin_off_the_board_stops_the_phases_it_holds(self):
        board, brief = DEMO["shearwater-76"]
        boxes = tuple(replace(b, at=Place("tail", -0.06)) for b in board.fittings.fin_boxes)
        found = evaluate(replace(board, fittings=replace(board.fittings, fin_boxes=boxes)), brief, Resolution.COARSE)
        self.assertTrue(phase(found, "Run").missed)
        self.assertEqual(phase(found, "Float").missed, ())


class Deck(unittest.TestCase):
    def test_a_dug_out_deck_is_stood_on_inside_its_walls(self):
        found = evaluate(*DEMO["grebe-14"], Resolution.COARSE).live.geometry
        well = next(layer for layer in found.board.deck_layers if layer.kind == "recess")
        middle = found.solid.x
        wide = 2 * well.layout.width.value(middle)
        self.assertLess(standing_width(found, middle), wide + 0.02)
        off = replace(found.board, deck_layers=tuple(replace(x, on=x is not well) for x in found.board.deck_layers))
        flat = evaluate(off, DEMO["grebe-14"][1], Resolution.COARSE).live.geometry
        self.assertGreater(standing_width(flat, middle), standing_width(found, middle) + 0.03)


class Flats(unittest.TestCase):
    def test_a_board_the_same_end_for_end_has_its_flat_amidships(self):
        for slug in ("redshank-139", "dipper-138"):
            found = evaluate(*DEMO[slug], Resolution.COARSE)
            start, end = found.live.measures.keel_flat
            middle = found.live.board.length / 2
            self.assertLess(start, middle, slug)
            self.assertGreater(end, middle, slug)


class Kinks(unittest.TestCase):
    def test_a_corner_in_a_cut_outs_line_is_found_at_its_place(self):
        board, brief = DEMO["turnstone-77"]
        line = Schedule(((0.0, 0.06), (0.20, 0.055), (0.204, 0.02), (0.4, 0.0)))
        cut = Ledge(name="Notch", line=line, height=Schedule.constant(0.004), end=Place("tail", 0.4))
        found = evaluate(replace(board, layers=(*board.layers, cut)), brief, Resolution.COARSE)
        kinks = [f for f in found.findings if f.code == "kink" and "Notch" in f.text]
        self.assertEqual(len(kinks), 1)
        self.assertAlmostEqual(kinks[0].place, 0.20, delta=0.01)


class Briefs(unittest.TestCase):
    def test_another_discipline_takes_no_gear_that_cannot_drive_it(self):
        brief = Brief(wings=(Wing(name="Hand wing 4.4", area=4.4),))
        for discipline, rig in (("slalom", "Sail"), ("twin tip", "Kite"), ("wing foil", "Hand wing")):
            taken = with_discipline(brief, discipline)
            self.assertTrue(taken.wing.name.startswith(rig), discipline)
        self.assertEqual(with_discipline(brief, "paddle race").wings, ())
        self.assertEqual(with_discipline(brief, "slalom").foils, ())

    def test_targets_come_along_where_the_discipline_has_their_figure(self):
        _, brief = DEMO["sandpiper-46"]
        taken = brief_for(brief, "kite foil")
        kept = {t.figure for t in taken.targets}
        self.assertIn("tail_clearance", kept)
        self.assertNotIn("drive_margin", kept)
        self.assertEqual(brief_for(brief, "wing foil").targets, brief.targets)


if __name__ == "__main__":
    unittest.main()
