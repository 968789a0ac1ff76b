"""Constructions on boards: stages and weigh-ins, what a layer buys, cost, makeability, the sheet, the scale, the
workshop's table.
"""

import math
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.brief.brief import Brief
from kelvor.core.build.costing import (
    CORE,
    PARTS,
    STRINGERS,
    WASTE,
    board_cost,
    board_work,
    to_buy,
)
from kelvor.core.build.mass.built import ribs, wood_share
from kelvor.core.build.mass.stages import STAGES, WeighIn, forecasts, traced
from kelvor.core.build.materials.layup import skins, with_construction
from kelvor.core.build.materials.makeability import checked_by_straight_edge, hard_edges, makeability
from kelvor.core.build.materials.recipes import CARBON_BAGGED, GLASS_BY_HAND, HOLLOW_WOOD, SANDWICH
from kelvor.core.build.materials.sheet import BATCH, lamination_sheet
from kelvor.core.build.materials.table import HANDBOOK, changed
from kelvor.core.build.stiffness.sections import stiffness
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.family.options import with_option
from kelvor.core.levers.layer_benefit import built, layer_worth, with_count, worth_asked
from kelvor.core.made.proof import proof_conditions
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.edits import with_tail_cut
from kelvor.core.shape.parts.construction import Coat, Core, Ply, Stringer
from kelvor.core.shape.parts.fittings import FinBox, Fittings, Plug, StrapRow
from kelvor.core.shape.parts.layers import CrossStep, Ledge
from kelvor.core.shape.surface.geometry import geometry
from kelvor.demo.boards import demo_boards
from kelvor.devices.scale import parse_scale_line, scale_lines
from kelvor.exchange.documents import DocumentError, board_text, parse_board
from kelvor.exchange.sheets import write_sheet
from kelvor.ui.build.shown.schedule import hours_words, schedule_rows, schedule_words
from kelvor.workshop.store import Store
from tests.support import demo, plain_board, shape_of


def live_of(construction=CARBON_BAGGED, board=None):
    board = board or plain_board()
    return evaluate_live(with_construction(board, shape_of(board), construction, HANDBOOK), Brief())


class Stages(unittest.TestCase):
    def test_the_last_stage_is_the_board_and_stages_only_add(self):
        for construction in (CARBON_BAGGED, GLASS_BY_HAND, HOLLOW_WOOD):
            live = live_of(construction)
            found = forecasts(live.geometry, live.mass)
            self.assertEqual([f.stage for f in found], list(STAGES))
            self.assertAlmostEqual(found[-1].mass, live.mass.total.mass, places=9)
            masses = [f.mass for f in found]
            self.assertEqual(masses[2:], sorted(masses[2:]))
            self.assertGreater(masses[0], 1.5 * masses[1])  # most of a block becomes dust and offcut
            self.assertGreater(masses[1], masses[2])
        self.assertGreater(live.mass.blank.volume, live.geometry.solid.volume)

    def test_a_weigh_in_says_where_the_grams_came_from(self):
        live = live_of()
        plan = {f.stage: f.mass for f in forecasts(live.geometry, live.mass)}
        weighed = (
            WeighIn("shaped", plan["shaped"] + 0.01),
            WeighIn("laminated", plan["laminated"] + 0.31),
            WeighIn("fitted", plan["fitted"] + 0.30),
        )
        found = {t.stage: t for t in traced(live.geometry, live.mass, weighed)}
        self.assertEqual(found["shaped"].words, "within the band")
        self.assertEqual(found["laminated"].words, "300 g over came with laminating")
        self.assertAlmostEqual(found["fitted"].here, -0.01, places=9)
        self.assertAlmostEqual(found["fitted"].gap, 0.30, places=9)

    def test_grams_are_told_of_what_lies_between_two_readings(self):
        """Planted: so much over at one stage, and nothing after it."""
        live = live_of()
        plan = {f.stage: f.mass for f in forecasts(live.geometry, live.mass)}

        def told(**over):
            weighed = tuple(WeighIn(stage, plan[stage] + more) for stage, more in over.items())
            return {t.stage: t.words for t in traced(live.geometry, live.mass, weighed)}

        found = told(cut=0.209, shaped=0.209 * plan["shaped"] / plan["cut"])
        self.assertIn("209 g over came with the block and the cut", found["cut"])
        self.assertEqual(found["shaped"], "as much over as before")
        # a block 10 % too dense: its foam goes with the chips
        found = told(blank=0.1 * plan["blank"], shaped=0.1 * plan["shaped"])
        self.assertNotIn("came with", found["shaped"])
        found = told(laminated=0.3, finished=0.5)
        self.assertEqual(found["finished"], "200 g over came with the coats, the fittings and finishing")
        found = told(laminated=0.3, fitted=0.3, finished=0.0)
        self.assertEqual(found["finished"], "within the band")

    def test_the_scale_settles_and_says_so(self):
        readings = [parse_scale_line(line) for line in scale_lines(2.5, seed=3)]
        self.assertFalse(readings[0].steady)
        self.assertTrue(readings[-1].steady)
        self.assertAlmostEqual(readings[-1].mass, 2.5, delta=0.2)
        self.assertAlmostEqual(parse_scale_line("ST 5.512 lb").mass, 5.512 * 0.45359237)
        for bad in ("OL", "ST x kg", "hello", "ST 900 kg"):
            with self.assertRaises(InputError):
                parse_scale_line(bad)


class Worth(unittest.TestCase):
    def test_one_layer_is_what_its_square_metres_weigh(self):
        live = live_of()
        now = built(live.geometry, live.board.construction, Brief(), HANDBOOK)
        asked = worth_asked(live.board.construction)
        worth = [layer_worth(live.geometry, now, Brief(), HANDBOOK, *each) for each in asked]
        for i, ply in enumerate(live.board.construction.plies):
            item = live.mass.layup.plies[i]
            more = next(w for w in worth if w.ply == ply.name and w.change == 1)
            # the skin's thickness grows and the core gives way: a little less than the layer itself
            self.assertAlmostEqual(
                more.mass, (item.fibre + item.resin) / ply.count, delta=0.06 * (item.fibre + item.resin) + 2e-3
            )
            self.assertLessEqual(more.sag, 1e-9)
            self.assertLessEqual(more.twist, 1e-9)
            self.assertGreater(more.cost, 0)

    def test_three_hundred_grams_without_losing_stiffness(self):
        """What the Build view is for: on the first demo's shape a lighter construction that bends no more."""
        live = live_of(GLASS_BY_HAND)
        a = built(live.geometry, GLASS_BY_HAND, Brief(), HANDBOOK)
        b = built(live.geometry, SANDWICH, Brief(), HANDBOOK)
        self.assertGreater(a.mass - b.mass, 0.3)
        self.assertLessEqual(b.sag, a.sag)
        self.assertGreater(b.cost, a.cost)

    def test_cost_follows_the_workshops_rates(self):
        live = live_of()
        dearer = replace(HANDBOOK, rates=replace(HANDBOOK.rates, hour=640.0))
        base, dear = (board_cost(live.geometry, live.mass, table) for table in (HANDBOOK, dearer))
        self.assertAlmostEqual(dear.labour, 2 * base.labour)
        self.assertEqual((dear.hours, dear.lines), (base.hours, base.lines))
        self.assertAlmostEqual(base.total, sum(v for _, v in base.lines) + base.labour)
        more = live_of(with_count(live.board.construction, 0, 1))
        more_cost = board_cost(more.geometry, more.mass, HANDBOOK)
        self.assertAlmostEqual(more_cost.hours - base.hours, HANDBOOK.rates.layer)

    def test_each_fin_box_costs_what_the_workshop_says(self):
        """Ten more a box on a tri: thirty more on the board, whichever kind it is."""
        board, brief = demo("tern-71")
        live = evaluate_live(board, brief)
        kinds = {box.kind.replace(" ", "_") for box in board.fittings.fin_boxes}
        rates = replace(HANDBOOK.rates, **{kind: getattr(HANDBOOK.rates, kind) + 10.0 for kind in kinds})
        base, dear = (board_cost(live.geometry, live.mass, t).total for t in (HANDBOOK, replace(HANDBOOK, rates=rates)))
        self.assertAlmostEqual(dear - base, 10.0 * sum(box.count for box in board.fittings.fin_boxes))

    def test_an_estimate_and_the_shopping_list_are_one_answer(self):
        for name, board, brief in demo_boards():
            live = evaluate_live(board, brief)
            if live.mass.layup is None:
                continue
            with self.subTest(name):
                bought, spent = (
                    to_buy(live.geometry, live.mass, HANDBOOK),
                    board_cost(live.geometry, live.mass, HANDBOOK),
                )
                self.assertAlmostEqual(sum(b.cost for b in bought), spent.total - spent.labour, places=6)
                self.assertGreater(min(b.cost for b in bought), 0.0, "everything that is bought has a price")
                core = next(b for b in bought if b.line == CORE)
                blank = next(f.mass for f in forecasts(live.geometry, live.mass) if f.stage == "blank")
                stock = HANDBOOK.stock(board.construction.core.stock)
                if board.construction.core.build == "solid" and not board.construction.stringers:
                    self.assertAlmostEqual(core.amount * 1e-3 * stock.density, blank, places=9)

    def test_hours_of_the_estimate_are_those_of_the_schedule(self):
        plain = replace(HOLLOW_WOOD, core=replace(HOLLOW_WOOD.core, build="solid"), stringers=())
        wood = Stringer(name="Middle", material="cedar")
        solid, hollow, stiffened = (
            live_of(c) for c in (plain, replace(plain, core=HOLLOW_WOOD.core), replace(plain, stringers=(wood,)))
        )
        hours = {}
        for name, live in (("solid", solid), ("hollow", hollow), ("stringer", stiffened)):
            work = board_work(live.geometry, live.board.construction, HANDBOOK)
            hours[name] = board_cost(live.geometry, live.mass, HANDBOOK).hours
            told = schedule_words(work, {}, 20.0)
            self.assertTrue(told.startswith(f"{hours_words(hours[name])} of hands"), told)
        self.assertAlmostEqual(hours["hollow"], 1.6 * hours["solid"])  # ribs and planks: common practice, no source
        self.assertAlmostEqual(hours["stringer"], hours["solid"] + 1.0)

    def test_a_coat_on_the_deck_alone_weighs_is_bought_and_mixed_by_the_deck(self):
        live = live_of(replace(CARBON_BAGGED, coats=(Coat(name="Grip", areal_mass=0.2, zone="deck"),)))
        weight = 0.2 * live.geometry.shells["deck"].area
        self.assertAlmostEqual(dict(live.mass.parts)["coat, Grip"].mass, weight, places=9)
        bought = next(b for b in to_buy(live.geometry, live.mass, HANDBOOK) if b.what == "Grip")
        self.assertAlmostEqual(bought.amount, weight, places=9)
        mixed = next(b for b in lamination_sheet(live.geometry, live.mass.layup, HANDBOOK).batches if b.step == "Grip")
        self.assertAlmostEqual(mixed.resin, weight, places=9)

    def test_parts_that_are_bought_ready_are_priced_by_piece(self):
        """By hand: a pair of tracks, a long box, two rows of three inserts on the centreline, one plug."""
        fittings = replace(
            plain_board().fittings,
            fin_boxes=(FinBox(name="Fin", kind="long box", at=Place("tail", 0.1)),),
            straps=tuple(StrapRow(name=n, at=Place("tail", x)) for n, x in (("Front", 0.9), ("Back", 0.5))),
            plugs=(Plug(kind="vent", at=Place("tail", 1.1)),),
            pad_cover=0.0,
        )
        live, rates = live_of(board=replace(plain_board(), fittings=fittings)), HANDBOOK.rates
        expected = 2 * rates.foil_track + rates.long_box + 6 * rates.insert + rates.plug
        self.assertAlmostEqual(dict(board_cost(live.geometry, live.mass, HANDBOOK).lines)[PARTS], expected)
        one_box = with_option(live.board, "deep foil box", "no straps")
        other = live_of(live.board.construction, one_box)
        gap = dict(board_cost(other.geometry, other.mass, HANDBOOK).lines)[PARTS] - expected
        self.assertAlmostEqual(gap, rates.foil_box - 2 * rates.foil_track - 6 * rates.insert)

    def test_a_stringer_is_priced_by_the_wood_in_the_board(self):
        wood = Stringer(name="Middle", material="cedar", width=0.004)
        with_one = live_of(replace(CARBON_BAGGED, stringers=(wood,)))
        found = next(b for b in to_buy(with_one.geometry, with_one.mass, HANDBOOK) if b.line == STRINGERS)
        shape = with_one.geometry.shape
        volume = 0.004 * float(np.trapezoid(shape.deck - shape.keel, shape.x))
        self.assertAlmostEqual(found.cost, volume * WASTE * HANDBOOK.stock("cedar").price, delta=0.01 * found.cost)
        self.assertAlmostEqual(found.amount, with_one.board.length)

    def test_blocks_and_potting_weigh_by_the_pockets_walls(self):
        """One long box, 270 × 26 × 30 mm, worked by hand: potted over 2 (270 + 26) × 30 + 270 × 26 mm², its block 20 mm
        wider all round and 10 mm deeper, less the box."""
        box = FinBox(name="Fin", kind="long box", at=Place("tail", 0.8))
        board = replace(plain_board(), fittings=Fittings(fin_boxes=(box,), other_mass=0.0))
        dense = replace(CARBON_BAGGED, core=Core(stock="eps15"), blocks="pvc80", potting=0.6)
        plain, more = (live_of(c, board) for c in (replace(dense, blocks="", potting=0.0), dense))
        parts = dict(more.mass.parts)
        self.assertAlmostEqual(parts["potting"].mass, 0.6 * 0.02478, places=6)
        foam = HANDBOOK.stock("pvc80").density - HANDBOOK.stock("eps15").density
        self.assertAlmostEqual(parts["dense blocks"].mass, foam * (0.81840e-3 - 0.21060e-3), places=6)
        self.assertAlmostEqual(
            more.mass.total.mass - plain.mass.total.mass, parts["potting"].mass + parts["dense blocks"].mass, places=9
        )
        bought = {b.what: b.amount for b in to_buy(more.geometry, more.mass, HANDBOOK)}
        self.assertAlmostEqual(bought[f"{HANDBOOK.stock('pvc80').name}, blocks about the fittings"], 0.8184, places=4)
        costs = [dict(board_cost(live.geometry, live.mass, HANDBOOK).lines) for live in (plain, more)]
        self.assertNotIn("blocks and potting", costs[0])
        self.assertGreater(costs[1]["blocks and potting"], 0)

    def test_a_box_that_leaves_too_little_foam_is_a_doubt(self):
        deep = FinBox(name="Deep fin", kind="deep box", at=Place("tail", 0.1))
        board = replace(plain_board(), fittings=Fittings(fin_boxes=(deep,)))
        shallow = replace(board, fittings=Fittings(fin_boxes=(replace(deep, kind="side box", at=Place("tail", 0.5)),)))
        told = [proof_conditions(live_of(board=b), ()) for b in (board, shallow)]
        self.assertTrue(any("Deep fin" in words for words in told[0]), told)
        self.assertFalse(any("Deep fin" in words for words in told[1]), told)

    def test_a_seal_coat_comes_before_the_cloth(self):
        sealed = replace(CARBON_BAGGED, coats=(*CARBON_BAGGED.coats, Coat(name="Seal coat", areal_mass=0.1)))
        plain, more = ({f.stage: f.mass for f in forecasts(x.geometry, x.mass)} for x in (live_of(), live_of(sealed)))
        gained = more["laminated"] - plain["laminated"]
        area = sum(shell.area for shell in live_of().geometry.shells.values())
        self.assertAlmostEqual(gained, 0.1 * area, delta=0.002)
        self.assertAlmostEqual(more["shaped"], plain["shaped"], places=9)

    def test_stringers_walls_and_chambers(self):
        plain = live_of(replace(CARBON_BAGGED, core=Core(stock="eps15")))
        stiff = live_of(
            replace(
                CARBON_BAGGED, core=Core(stock="eps15"), stringers=(Stringer(name="S", material="poplar", width=0.006),)
            )
        )
        self.assertGreater(stiff.mass.total.mass, plain.mass.total.mass + 0.1)
        sags = [built(live.geometry, live.board.construction, Brief(), HANDBOOK) for live in (plain, stiff)]
        self.assertLess(sags[1].sag, sags[0].sag)
        measured = geometry(plain_board())
        shares = [wood_share(measured, Core(stock="paulownia", build=b)) for b in ("solid", "chambered", "hollow")]
        self.assertEqual(shares[0], 1.0)
        self.assertTrue(shares[0] > shares[1] > shares[2] > 0.1)
        hollow = Core(stock="paulownia", build="hollow", pitch=0.2)
        self.assertTrue((np.diff(ribs(measured, hollow)) >= 0.2 - 1e-9).all())
        parts = dict(live_of(replace(HOLLOW_WOOD, core=hollow)).mass.parts)
        self.assertTrue(0.02 < parts["glue lines"].mass < 0.4)
        self.assertNotIn("glue lines", dict(plain.mass.parts))


class TracksAsStiffeners(unittest.TestCase):
    def test_tracks_stiffen_where_they_lie_by_the_parallel_axis_and_nowhere_else(self):
        whole = tuple(p for p in CARBON_BAGGED.plies if p.start is None)  # no patch that goes where the tracks go
        made = replace(CARBON_BAGGED, plies=whole)
        board = replace(plain_board(), construction=made)
        without = replace(board, fittings=replace(board.fittings, tracks=None))
        found = []
        for item in (board, without):
            live = evaluate_live(item, Brief())
            assert not isinstance(live, tuple)
            laid = skins(live.geometry.shape, made, HANDBOOK)
            found.append(stiffness(live.geometry, made, laid, HANDBOOK))
        withs, bare = found
        tracks = board.fittings.tracks
        middle = tracks.at.x(board.length)
        under = np.abs(withs.x - middle) < tracks.length / 2 - 0.02
        away = np.abs(withs.x - middle) > tracks.length / 2 + 0.02
        gain = np.interp(withs.x, bare.x, bare.bending)
        self.assertGreater((withs.bending / gain)[under].min(), 1.02)
        np.testing.assert_allclose((withs.bending / gain)[away], 1.0, rtol=2e-3)
        np.testing.assert_allclose(
            np.interp(middle, withs.x, withs.twist), np.interp(middle, bare.x, bare.twist), rtol=2e-3
        )
        # two bars 15 mm of wall by 25 mm deep, set into the bottom: about their common axis with the bare section
        area, e = 2 * 0.015 * tracks.depth, HANDBOOK.stock("abs").e
        live = evaluate_live(without, Brief())
        shape = live.geometry.shape
        i = int(np.argmin(np.abs(shape.x - middle)))
        arm = bare.neutral[i] - (shape.keel[i] + tracks.depth / 2)
        top = shape.columns.top
        girth = np.hypot(np.diff(shape.y[i, : top + 1]), np.diff(shape.z[i, : top + 1]))
        laid = skins(shape, made, HANDBOOK)
        stretch = (
            2 * float(laid.along[i, :top] @ girth) + HANDBOOK.stock(made.core.stock).e * live.geometry.areas.area[i]
        )
        own = e * area * tracks.depth**2 / 12
        joined = bare.bending[i] + own + arm**2 * (stretch * e * area) / (stretch + e * area)
        self.assertAlmostEqual(float(np.interp(shape.x[i], withs.x, withs.bending)) / joined, 1.0, delta=3e-3)


class Makeability(unittest.TestCase):
    def test_notes_with_place_and_limit(self):
        board = plain_board()
        crisp = replace(board, rails=replace(board.rails, edge_radius=Schedule(((0.3, 0.001), (1.2, 0.012)))))
        found = {f.code: f for f in self.notes(CARBON_BAGGED, crisp)}
        self.assertAlmostEqual(found["corner_tight"].value, 0.001, delta=1e-4)
        self.assertEqual(found["corner_tight"].limit, HANDBOOK.cloth("carbon200").radius)
        self.assertIn("burns_through", found)
        rolled = replace(board, rails=replace(board.rails, edge_radius=Schedule.constant(0.012)))
        self.assertNotIn("corner_tight", {f.code for f in self.notes(CARBON_BAGGED, rolled)})
        bare = replace(CARBON_BAGGED, plies=tuple(replace(p, wrap=0.0) for p in CARBON_BAGGED.plies))
        self.assertIn("rail_bare", {f.code for f in self.notes(bare, rolled)})
        self.assertEqual(checked_by_straight_edge(geometry(board)), [])

    def test_corners_of_walls_and_hours_of_hard_edges(self):
        """Cloth that lies round a radius r stands off a corner of angle a by r (sec(a/2) - 1); a step across is as long
        as the bottom is wide, a cut-out's lip along a straight line as that.
        """
        plain = replace(
            live_of().board,
            layers=(),
            rails=replace(live_of().board.rails, side_wall=None, edge_radius=Schedule.constant(0.012)),
        )
        self.assertEqual(hard_edges(geometry(plain)), 0.0)
        step = CrossStep(name="Step", at=Place("tail", 0.5), height=0.02, wall=math.radians(90))
        stepped = replace(plain, layers=(step,))
        measured = geometry(stepped)
        wide = 2 * measured.at(measured.shape.edge_y, 0.5)
        self.assertAlmostEqual(hard_edges(measured), wide, places=6)
        found = {f.code: f for f in self.notes(CARBON_BAGGED, stepped)}
        cloth = max(
            (HANDBOOK.cloth(p.cloth) for p in CARBON_BAGGED.plies if p.zone == "bottom"), key=lambda c: c.radius
        )
        self.assertAlmostEqual(found["corner_bridged"].value, cloth.radius * (math.sqrt(2) - 1), places=9)
        self.assertIn(f"{wide:.1f} m of hard edges", found["hard_edges"].text)
        edged, bare = (live_of(CARBON_BAGGED, shape) for shape in (stepped, plain))
        after, before = (board_cost(live.geometry, live.mass, HANDBOOK) for live in (edged, bare))
        self.assertAlmostEqual(after.hours - before.hours, 0.35 * wide, places=6)  # common practice, no source
        self.assertAlmostEqual(after.labour - before.labour, 0.35 * wide * HANDBOOK.rates.hour, places=6)
        rows = schedule_rows(board_work(measured, CARBON_BAGGED, HANDBOOK), {}, 20.0, {})
        self.assertTrue(any(f"Tape, fill and block {wide:.1f} m of hard edges" in row[0] for row in rows), rows)
        soft = replace(plain, layers=(replace(step, wall=math.radians(20)),))
        self.assertNotIn("corner_bridged", {f.code for f in self.notes(CARBON_BAGGED, soft)})
        cut = Ledge(
            name="Cut",
            line=Schedule.constant(0.1),
            across="centre",
            height=Schedule.constant(0.01),
            start=Place("tail", 0.1),
            end=Place("tail", 0.5),
        )
        self.assertAlmostEqual(hard_edges(geometry(replace(plain, layers=(cut,)))), 2 * 0.4, delta=0.03)

    def notes(self, construction, board):
        live = live_of(construction, board)
        return makeability(live.geometry, live.mass.layup, HANDBOOK)


class Sheets(unittest.TestCase):
    def test_cut_list_resin_and_order(self):
        live = live_of()
        found = lamination_sheet(live.geometry, live.mass.layup, HANDBOOK)
        self.assertEqual(len(found.cuts), len(live.board.construction.plies))
        for cut, item in zip(found.cuts, live.mass.layup.plies, strict=True):
            laid_flat = float(2 * np.trapezoid(cut.half, cut.along))
            self.assertAlmostEqual(laid_flat, item.area / cut.count, delta=0.03 * item.area / cut.count + 2e-3)
            self.assertGreater(cut.area, laid_flat)
        coats = sum(p.mass for name, p in live.mass.parts if name.startswith("coat, ") and name != "coat, Paint")
        self.assertAlmostEqual(
            sum(b.resin for b in found.batches), sum(p.resin for p in live.mass.layup.plies) + coats, places=9
        )
        for batch in found.batches:
            self.assertGreaterEqual(batch.pots * BATCH, batch.resin)
        self.assertTrue(any("bag" in line for line in found.order))

    def test_files_hold_it_and_refuse_in_words(self):
        import ezdxf

        folder, live = Path(tempfile.mkdtemp()), live_of()
        for kind in ("csv", "pdf", "dxf"):
            write_sheet(live, folder / f"s.{kind}")
        text = (folder / "s.csv").read_text()
        self.assertIn(f"all,{live.mass.total.mass * 1000:.1f}", text)
        self.assertIn("Under the feet,Glass 6 oz,deck", text)
        self.assertTrue((folder / "s.pdf").read_bytes().startswith(b"%PDF"))
        drawing = ezdxf.readfile(folder / "s.dxf")
        rings = drawing.modelspace().query("LWPOLYLINE")
        self.assertEqual(len(rings), len(live.board.construction.plies))
        with self.assertRaises(InputError):
            write_sheet(live, folder / "s.doc")
        with self.assertRaises(InputError) as caught:
            write_sheet(evaluate_live(plain_board(), Brief()), folder / "n.pdf")
        self.assertIn("no construction", str(caught.exception))


class Keeping(unittest.TestCase):
    def test_documents_keep_a_construction_and_cuts_move_its_cloth(self):
        board = live_of().board
        self.assertEqual(parse_board(board_text(board), "b.json"), board)
        patch = Ply(name="Patch", cloth="glass4", start=Place("tail", 0.5), end=Place("tail", 0.8))
        board = replace(
            board, construction=replace(board.construction, plies=(patch,), coats=(Coat(name="C", areal_mass=0.1),))
        )
        shorter = with_tail_cut(board, 0.05)
        self.assertAlmostEqual(shorter.construction.plies[0].start.x(shorter.length), 0.45)
        bad = board_text(board).replace('"glass4"', '"silk"')
        with self.assertRaises(DocumentError) as caught:
            parse_board(bad, "b.json")
        self.assertIn("b.json: there is no cloth “silk”", str(caught.exception))

    def test_the_workshop_keeps_constructions_materials_and_weighings(self):
        path = Path(tempfile.mkdtemp()) / "w.kelvor"
        shop = Store.create(path)
        board = live_of().board
        board_id, step = shop.add_board(board, Brief(), "Began")
        own = replace(CARBON_BAGGED, name="Ours")
        shop.keep_construction(own)
        shop.keep_construction(replace(own, bags=5))
        shop.keep_material(changed(HANDBOOK.stock("eps20"), "density", 18.5))
        shop.keep_material(replace(HANDBOOK.rates, hour=410.0))
        shop.weigh(board_id, step.id, WeighIn("shaped", 0.8))
        shop.weigh(board_id, step.id, WeighIn("shaped", 0.82))
        shop.close()
        again = Store.open(path)
        self.assertEqual([c.bags for c in again.constructions()], [5])
        table = again.materials()
        self.assertEqual((table.stock("eps20").density, table.stock("eps20").source), (18.5, "the workshop's own"))
        self.assertEqual((table.stock("eps25"), table.rates.hour), (HANDBOOK.stock("eps25"), 410.0))
        self.assertEqual(again.weighings(board_id), (WeighIn("shaped", 0.82),))
        heavier = evaluate_live(
            board, Brief(), table=replace(table, stocks=tuple(replace(s, density=60.0) for s in table.stocks))
        )
        self.assertGreater(heavier.mass.total.mass, evaluate_live(board, Brief()).mass.total.mass + 0.5)
        again.close()
        for field, value in (("density", -3.0), ("name", 1.0), ("density", math.inf)):
            with self.assertRaises(InputError):
                changed(HANDBOOK.stock("eps20"), field, value)
