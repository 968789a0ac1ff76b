"""The mill: cutters against closed forms, programs read back, demo boards cut from the text of their programs."""

import json
import re
import unittest
from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
from gcodeparser import GcodeParser

from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Cutter, Mill, MillStock
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.mill.contact import Contact, laid_out
from kelvor.core.mill.controller import check_moves, read_program
from kelvor.core.mill.cut import CutBlock, Took, cut, cutting_seconds
from kelvor.core.mill.job import cut_face, face_programs, judged_face, thinnest, wanted_core, wasted
from kelvor.core.mill.judging import GOUGE, OVER, judge_face, step_of_play
from kelvor.core.mill.paths import count, flat_path
from kelvor.core.mill.program import simplified_runs
from kelvor.core.mill.stock import SIDES, clamped_core, least_stock
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.core.shape.checks.clearance import footprints
from kelvor.core.shape.parts.fittings import Plug
from kelvor.core.shape.surface.geometry import geometry
from kelvor.demo.boards import demo_boards
from tests.support import some

BOARDS = {name: board for name, board, _ in demo_boards()}
HEAD, TAIL = "G21\nG90\nG0 Z50\nM3 S18000\n", "M5\nM30\n"
MILL = Mill(flat=0.006, step=0.010, facing=0.0)


def synthetic(height, long=0.2, wide=0.15, pitch=0.001):
    """A face whose height is a function of place."""
    x = np.arange(0.0, long, pitch)
    y = np.tile(np.arange(0.0, wide, pitch), (len(x), 1))
    z = height(np.repeat(x[:, None], y.shape[1], axis=1), y)
    flat = np.zeros(len(x))
    return laid_out(x, y, z, flat, np.full(len(x), wide))


def at(face, radius, *places):
    places = np.array(places)
    return Contact(face, radius, 0.0).tips(places[:, 0], places[:, 1])


@cache
def cut_board(name, side):
    """Programs of a face of a demo board, cut from their text."""
    board = BOARDS[name]
    stock = least_stock(wanted_core(board), MILL)
    files = face_programs(board, MILL, stock, side, Stamp(design=board.name, code=code_of(board), serial="26-001"))
    return files, cut_face(board, MILL, stock, side, files)


def bought(board, mill):
    """The block that shopping list, estimate and forecast tell."""
    return board_mass(geometry(board), replace(HANDBOOK, mill=mill)).blank


class Cutters(unittest.TestCase):
    """Closed forms of a ball over simple faces; what is left between lines."""

    def test_a_ball_on_a_slope_rides_over_it_by_its_radius_over_the_cosine(self):
        for degrees in (10, 30, 45, 60):
            slope = np.tan(np.radians(degrees))
            tip = at(synthetic(lambda x, y, s=slope: s * y), 0.01, (0.1, 0.07))[0]
            wanted = 0.07 * slope + 0.01 * (1 / np.cos(np.radians(degrees)) - 1)
            self.assertAlmostEqual(tip, wanted, delta=0.0002)  # points a millimetre apart, R 10
            self.assertLessEqual(tip, wanted + 1e-7)

    def test_a_ball_on_a_ball_is_a_ball_of_both_radii_and_in_a_trough_of_their_difference(self):
        big, small = 0.1, 0.01
        dome = synthetic(lambda x, y: np.sqrt(np.maximum(big**2 - (x - 0.1) ** 2 - y**2, 0.0)))
        for off in (0.0, 0.02, 0.05):
            centre = np.sqrt((big + small) ** 2 - off**2)
            self.assertAlmostEqual(at(dome, small, (0.1, off))[0], centre - small, delta=0.0001)
        trough = synthetic(lambda x, y: big - np.sqrt(np.maximum(big**2 - y**2, 0.0)), wide=0.09)
        for off in (0.0, 0.03):
            centre = big - np.sqrt((big - small) ** 2 - off**2)
            self.assertAlmostEqual(at(trough, small, (0.1, off))[0], centre - small, delta=0.0001)

    def test_tips_against_those_of_a_published_library_on_the_same_face(self):
        """Eighty drops of two balls on a wavy face, by opencamlib 2023.01.11; the data say how."""
        found = json.loads(Path("tests/data/dropped-balls.json").read_text())["tips"]
        for radius in (6.0, 10.0):
            tips = np.array([row[1:] for row in found if row[0] == radius]) / 1000
            wavy = synthetic(
                lambda x, y: (
                    0.02 * np.cos(9 * (x - 0.1))
                    + 0.012 * np.sin(20 * (y - 0.08) + 3 * x)
                    + 0.004 * np.sin(60 * x) * np.cos(45 * (y - 0.08))
                ),
                wide=0.16,
            )
            ours = at(wavy, radius / 1000, *(tips[:, :2] + [0.0, 0.08]))
            np.testing.assert_allclose(ours, tips[:, 2], atol=0.00006)  # points a millimetre apart
            self.assertGreater(np.ptp(tips[:, 2]), 0.02)

    def test_a_square_groove_keeps_its_corner(self):
        """What a ball leaves in a right angle is R (√2 − 1): 2.4853 mm at R 6."""
        tip = at(synthetic(lambda x, y: np.abs(y - 0.05)), 0.006, (0.1, 0.05))[0]
        self.assertAlmostEqual(tip, 0.0024853, delta=0.0001)

    def test_between_lines_stays_what_the_circle_leaves(self):
        for radius, step, left in ((6, 2, 0.08392), (6, 6, 0.80385), (12.7, 6, 0.35942), (12.7, 5.0150, 0.25)):
            self.assertAlmostEqual(Mill(ball=2e-3 * radius, step=1e-3 * step).scallop * 1e3, left, places=4)

    def test_an_upright_wall_is_passed_a_radius_away(self):
        wall = synthetic(lambda x, y: np.where(y < 0.0505, 0.04, 0.0))
        contact = Contact(wall, 0.01, 0.0)
        self.assertGreater(contact.tips(np.array([0.1]), np.array([0.058]))[0], 0.03)
        self.assertLess(contact.tips(np.array([0.1]), np.array([0.0615]))[0], 0.001)


class Programs(unittest.TestCase):
    """The text: written, read back, refused."""

    def test_another_reader_finds_the_same_way(self):
        (ball, *_), _ = cut_board("dunlin-39", "deck")
        ours = read_program(ball.text)
        place, theirs = {}, []
        for line in GcodeParser(ball.text, include_comments=False).lines:
            if line.command in (("G", 0), ("G", 1)):
                place.update(line.params)
                theirs.append([place.get(axis, 0.0) for axis in "XYZ"])
        np.testing.assert_allclose(ours.ends * 1e3, theirs, atol=1e-9)
        self.assertGreater(len(theirs), 5000)

    def test_every_file_says_of_which_board_it_is_and_in_plain_ascii(self):
        files, _ = cut_board("dunlin-39", "deck")
        for file in files:
            first = file.text.splitlines()[0]
            self.assertIn(code_of(BOARDS["dunlin-39"]), first)
            self.assertIn("26-001", first)
            self.assertTrue(file.text.isascii())

    def test_what_a_controller_does_not_know_is_refused_with_its_line(self):
        for text, line, words in (
            (HEAD + "G1 X1 Y1 Z1 F100\nG2 X3 Y3 I1\n" + TAIL, 6, "not known"),
            ("G90\nG0 Z5\n" + TAIL, 2, "millimetres"),
            ("G21\nG0 Z5\n" + TAIL, 2, "absolute"),
            ("G20\nG90\nG0 Z5\n" + TAIL, 1, "inches"),
            ("G21\nG90\nG1 X1 F100\n" + TAIL, 3, "spindle"),
            (HEAD + "G1 X1\n" + TAIL, 5, "feed"),
            (HEAD + "G1 X1 Y F100\n" + TAIL, 5, "not understood"),
            (HEAD + TAIL + "G0 X1\n", 7, "after the end"),
        ):
            with self.assertRaises(InputError) as caught:
                read_program(text, "one.nc")
            self.assertIn(f"one.nc, line {line}", str(caught.exception))
            self.assertIn(words, str(caught.exception))

    def test_a_half_written_program_is_refused_at_every_length(self):
        text = HEAD + "G1 X1 Y1 Z1 F100\nG1 X2 Y1 Z1 F100\n" + TAIL
        read_program(text)
        for end in range(1, len(text) - 2):
            with self.assertRaises(InputError):
                read_program(text[:end])

    def test_a_mill_refuses_what_would_break_it(self):
        cutter, stock, travel = Cutter("ball", 0.02, 0.1, 0.12), (0.0, 0.1, -0.05, 0.05, 0.04), (0.2, 0.2, 0.1)
        for moves, words in (
            ("G0 X10 Y0 Z30\n", "line 5, X 10.0 Y 0.0 Z 30.0: a rapid move below"),
            ("G1 X150 Y0 Z30 F100\n", "outside of the stock"),
            ("G1 X10 Y0 Z-2 F100\n", "into the table"),
            ("G0 X-15 Y0 Z50\nG1 X115 Y0 Z50 F100\nG0 Z160\n", "along Z"),
        ):
            with self.assertRaises(InputError) as caught:
                check_moves(read_program(HEAD + moves + TAIL), cutter, stock, travel, "one.nc")
            self.assertIn(words, str(caught.exception))

    def test_how_long_it_takes(self):
        """Closed forms: a trapezoid of speed over each move, corners as the deviation lets them."""
        rapid, slow = 1e9, 0.5

        def took(moves):
            text = "G21\nG90\nM3 S1\nG0 X0 Y0 Z0\n" + moves + TAIL
            return cutting_seconds(read_program(text), rapid, slow)

        self.assertAlmostEqual(took("G1 X1000 F3000\n"), 20.1, places=6)
        self.assertAlmostEqual(took("G1 X4 F6000\n"), 0.17889, places=5)
        square = "G1 X100 F3000\nG1 Y100 F3000\nG1 X0 F3000\nG1 Y0 F3000\n"
        self.assertAlmostEqual(took(square), 8.3439, places=4)

    def test_thinning_keeps_what_bends(self):
        t = np.linspace(0, np.pi, 2000)
        arc = np.column_stack([np.cos(t), np.sin(t), 0 * t])
        straight = np.column_stack([t, 2 * t, 3 * t])
        thin_arc, thin_line = simplified_runs([arc, straight], 1e-4)
        self.assertEqual(len(thin_line), 2)
        middles = (thin_arc[1:] + thin_arc[:-1]) / 2
        self.assertLess(float(np.max(1 - np.linalg.norm(middles, axis=1))), 1e-4)
        self.assertLess(len(thin_arc), 200)


class Cut(unittest.TestCase):
    """What the simulated mill leaves of demo boards: nothing cut away, and what is left on is named."""

    def test_demo_boards_of_four_shapes_come_out_of_the_block(self):
        """The last has a bottom edge that stands up between two millimetres of a grid."""
        shapes = ("dunlin-39", "deck"), ("martlet-147", "bottom"), ("redshank-139", "deck"), ("dipper-141", "bottom")
        for name, side in some(shapes, 2):
            with self.subTest(name=name, side=side):
                judged = cut_board(name, side)[1].judged
                self.assertLessEqual(judged.worst_gouge, GOUGE)
                self.assertLess(judged.usual, MILL.proud + MILL.scallop)
                self.assertGreater(float(np.median(judged.off)), MILL.proud - GOUGE)
                if judged.worst_left > MILL.proud + MILL.scallop + OVER:
                    self.assertAlmostEqual(judged.spots[0].off, judged.worst_left, places=12)
                    self.assertTrue(all(spot.why for spot in judged.spots))

    def test_the_block_lies_over_the_core_as_heights_do(self):
        """On level places the field and the distances tell the same."""
        face = cut_board("dunlin-39", "deck")[1]
        board = BOARDS["dunlin-39"]
        clamp = clamped_core(wanted_core(board), MILL, least_stock(wanted_core(board), MILL), "deck")
        for x in (0.4, 0.7, 1.0):
            i = int(np.argmin(np.abs(clamp.core.x - clamp.tail - x)))
            deck = float(np.asarray(clamp.up(clamp.core.z[i, clamp.core.columns.top])))
            over = float(face.block.under(np.array(clamp.core.x[i] - clamp.tail), np.array(0.0))) - deck
            self.assertGreater(over, 0.0)
            self.assertLess(over, MILL.proud + MILL.scallop + 2e-4)

    def test_a_program_that_digs_too_deep_is_found_where_it_does(self):
        files, _ = cut_board("dunlin-39", "deck")
        board = BOARDS["dunlin-39"]
        stock = least_stock(wanted_core(board), MILL)
        lines = files[0].text.splitlines()
        for i, line in enumerate(lines):
            if line.startswith("G1"):
                x, y, z = (float(word[1:]) for word in line.split()[1:4])
                if 650 < x < 750 and abs(y) < 40:
                    lines[i] = line.replace(f"Z{z:.3f}", f"Z{z - 2:.3f}")
        dug = replace(files[0], text="\n".join(lines) + "\n")
        judged = cut_face(board, MILL, stock, "deck", (dug,)).judged
        self.assertFalse(judged.safe)
        worst = judged.spots[0]
        self.assertAlmostEqual(worst.off, -(0.002 - MILL.proud), delta=0.0004)
        self.assertAlmostEqual(worst.x, 0.7, delta=0.055)
        self.assertEqual(worst.why, "cut into the core")

    def bad(self, side, change):
        """A face of Dunlin cut from programs of which one was changed: why it is not handed out."""
        board, stock = BOARDS["dunlin-39"], least_stock(wanted_core(BOARDS["dunlin-39"]), MILL)
        files = [replace(file, text=change(file)) for file in cut_board("dunlin-39", side)[0]]
        judged = cut_face(board, MILL, stock, side, [file for file in files if file.text]).judged
        self.assertFalse(judged.safe)
        return " ".join(judged.faults)

    def test_every_kind_of_bad_program_is_refused_with_its_place(self):
        """Kept by nobody of a good one: no roughing, a part not cut, pockets too deep, none, or on the other side."""

        def without(run):
            return lambda file: "\n".join(kept(file.text.splitlines(), run)) + "\n"

        def kept(lines, run):
            on = True
            for line in lines:
                on = not line.startswith(f"({run}") if line.startswith("(") else on
                if on or line in ("M5", "M30"):
                    yield line

        def pockets(pattern, by):
            def change(file):
                return re.sub(pattern, by, file.text) if file.cutter.kind == "flat" else file.text

            return change

        def deeper(found):
            return f"{found[1]}{float(found[2]) - 12:.3f} F"

        def shorter(file):
            """Nothing is cut beyond 600 mm from the tail."""
            return re.sub(r"G1 X(\d{4}|[6-9]\d\d)\.\d.*\n", "", file.text)

        def mirrored(file):
            if file.cutter.kind != "flat":
                return file.text
            return re.sub(r" Y(-?[\d.]+)", lambda y: f" Y{float(y[1]) + 90:.3f}", file.text)

        for side, change, words in (
            ("deck", without("roughing"), r"the ball 20.0 mm takes \d+ mm at once, \d+ mm wide; this mill takes 80 mm"),
            ("deck", shorter, r"Deck, \d+ mm from the core's tail.*not cut"),
            ("bottom", pockets(r"(G1 .* Z)(-?[\d.]+) F", deeper), r"Foil tracks: its pocket is 12\.\d mm too deep"),
            (
                "bottom",
                lambda file: file.text if file.cutter.kind == "ball" else "",
                r"Foil tracks: its pocket is not cut",
            ),
            ("bottom", mirrored, r"the block is cut into by|the flat cutter goes \d"),
        ):
            with self.subTest(words):
                self.assertRegex(self.bad(side, change), words)

    def test_a_block_that_was_not_cut_or_cut_too_deep_is_refused_whatever_its_programs_say(self):
        board, stock = BOARDS["dunlin-39"], least_stock(wanted_core(BOARDS["dunlin-39"]), MILL)
        files, face = cut_board("dunlin-39", "deck")
        took = [Took(0.01, 0.01, (0.0, 0.0, 0.0))] * len(files)
        whole = judged_face(board, MILL, stock, "deck", files, face.block.heights, took)
        self.assertTrue(whole.judged.safe, whole.judged.faults)
        for heights, words in (
            (np.full_like(face.block.heights, stock.thickness), "the block is not cut by"),
            (face.block.heights - np.float32(0.008), "the block is cut into by"),
        ):
            judged = judged_face(board, MILL, stock, "deck", files, heights, took).judged
            self.assertFalse(judged.safe)
            self.assertIn(words, " ".join(judged.faults))
        with self.assertRaises(InputError):
            judged_face(board, MILL, stock, "deck", files, face.block.heights, took[1:])

    def test_programs_are_numbered_without_gaps_and_the_block_that_is_bought_can_be_cut(self):
        for name, board in BOARDS.items():
            core, mill = wanted_core(board), replace(MILL, facing=0.003)
            clamp = clamped_core(core, replace(mill, travel_x=6, travel_z=1), bought(board, mill), "deck")
            self.assertEqual(count(clamp, "deck"), 2 + any(f.side == "deck" for f in footprints(board)), name)
            least = least_stock(core, mill)
            for side in ("length", "width", "thickness"):
                self.assertGreater(getattr(bought(board, mill), side), getattr(least, side) - 1e-9, name)
        # a 20 mm ball and 40 mm of dowel at the ends, 20 of frame beside, 2.5 faced and 4 kept above and below
        block = Mill(ball=0.020, facing=0.0025).block(1.5, 0.5, 0.1)
        np.testing.assert_allclose((block.length, block.width, block.thickness), (1.62, 0.58, 0.113), atol=1e-12)
        names = [file.name for side in SIDES for file in cut_board("redshank-139", side)[0]]
        self.assertEqual([name.split("-")[0] for name in names], [str(i + 1) for i in range(len(names))])

    def test_boxes_are_as_deep_as_they_are_meant(self):
        files, face = cut_board("dunlin-39", "bottom")
        board = BOARDS["dunlin-39"]
        clamp = clamped_core(wanted_core(board), MILL, least_stock(wanted_core(board), MILL), "bottom")
        tracks = board.fittings.tracks
        x = tracks.at.x(board.length) - clamp.tail
        whole = face.block.under(np.array(x), np.array(tracks.spacing / 2))
        between = face.block.under(np.array(x), np.array(0.0))
        self.assertAlmostEqual(float(between - whole), tracks.depth - board.skin.bottom, delta=0.0015)
        self.assertEqual([file.cutter.kind for file in files], ["ball", "flat"])

    def test_what_is_on_one_side_of_the_bottom_stays_there_through_the_flip(self):
        """Turned over about X, port lies at negative Y: a plug of the bottom to port is cut there."""
        board = BOARDS["dunlin-39"]
        for side, hand in (("deck", 1), ("bottom", -1)):
            plug = Plug(
                kind="vent", at=board.fittings.tracks.at, offset=0.12, side=side, length=0.03, width=0.03, depth=0.02
            )
            own = replace(board, fittings=replace(board.fittings, plugs=(plug,), tracks=None, straps=()))
            core = wanted_core(own)
            runs = flat_path(clamped_core(core, MILL, least_stock(core, MILL), side)).runs
            middle = np.concatenate([run.points for run in runs])[:, :2]
            x = plug.at.x(own.length) - core.x[0]
            np.testing.assert_allclose((middle.max(axis=0) + middle.min(axis=0)) / 2, [x, hand * 0.12], atol=1e-9)

    def test_a_flip_that_is_off_makes_a_step_out_on_one_rail_and_in_on_the_other(self):
        board = BOARDS["dunlin-39"]
        core = wanted_core(board)
        clamp = clamped_core(core, MILL, least_stock(core, MILL), "bottom")
        self.assertAlmostEqual(step_of_play(0.0002, 1.5, 1.15) * 1e3, 0.153, places=3)
        # cut so, one rail loses what the other keeps
        files, _ = cut_board("dunlin-39", "bottom")
        moves = read_program(files[0].text)
        centres = moves.ends[~moves.rapid]
        turn, long = np.radians(0.2), float(core.x[-1] - core.x[0])
        for moved, off in (
            (np.array([0.0, 0.001, 0.0]), 0.001),
            (turn * (centres[:, :1] - long / 2) * [0.0, 1.0, 0.0], 0.16 * turn * long),
        ):
            judged = judge_face(clamp, centres + moved, MILL)
            rim = float(np.interp(0.66 * long, core.x - clamp.tail, core.y[:, core.columns.apex]))
            there = (np.abs(judged.x - 0.66 * long) < 0.02) & (rim - np.abs(judged.y) < 0.003)
            port, starboard = (float(judged.off[there & (side * judged.y > 0)].min()) for side in (1, -1))
            self.assertLess(min(port, starboard), MILL.proud - 0.8 * off)
            self.assertGreater(max(port, starboard), MILL.proud)
            self.assertFalse(judged.safe)

    def test_stock_that_is_faced_is_planed_first_and_the_flip_allows_for_it(self):
        board = BOARDS["redshank-139"]
        mill = replace(MILL, facing=0.003, flat=0.012, step=0.02)
        stock = least_stock(wanted_core(board), mill)
        heights = []
        for side in SIDES:
            files = face_programs(board, mill, stock, side, Stamp(design="x", code="y"))[:2]  # faced, then cut
            self.assertEqual([file.cutter.kind for file in files], ["flat", "ball"])
            face = cut_face(board, mill, stock, side, files)
            clamp = clamped_core(wanted_core(board), mill, stock, side)
            heights.append(clamp.height)
            corner = float(face.block.heights[2, 2])
            self.assertAlmostEqual(corner, clamp.height - 0.003, places=6)
            self.assertLessEqual(face.judged.worst_gouge, GOUGE)
        self.assertAlmostEqual(heights[0] - heights[1], 0.003, places=12)

    def test_half_of_a_block_twice_the_core_is_wasted(self):
        self.assertAlmostEqual(wasted(0.025, MillStock(length=1.0, width=0.5, thickness=0.1)), 0.5)

    def test_least_foam_is_under_what_goes_deepest_into_the_thinnest(self):
        board = BOARDS["dunlin-39"]
        core = wanted_core(board)
        left, name = thinnest(core, board)
        deeper = replace(board, fittings=replace(board.fittings, tracks=replace(board.fittings.tracks, depth=0.06)))
        less, under = thinnest(core, deeper)
        self.assertEqual(under, "Foil tracks")
        self.assertLess(less, left)
        thick = float(np.interp(board.fittings.tracks.at.x(board.length), core.x, core.deck - core.keel))
        self.assertAlmostEqual(less, thick + board.skin.bottom - 0.06, delta=0.0005)
        self.assertTrue(name)


class Refused(unittest.TestCase):
    """What does not fit is named, with its place and the limit."""

    def refused(self, mill=MILL, name="dunlin-39", side="bottom", **stock):
        board = BOARDS[name]
        core = wanted_core(board)
        with self.assertRaises(InputError) as caught:
            face_programs(board, mill, replace(least_stock(core, mill), **stock), side, Stamp(design="x", code="y"))
        return str(caught.exception)

    def test_stock_travel_and_cutters(self):
        self.assertRegex(self.refused(thickness=0.08), r"stock's thickness: 80 mm is too small. This core needs \d+ mm")
        self.assertRegex(self.refused(replace(MILL, travel_x=1.2)), r"travel along the board: 1200 mm is too short")
        self.assertRegex(self.refused(replace(MILL, travel_z=0.1)), r"travel upwards: 100 mm")
        words = self.refused(replace(MILL, flat=0.025))
        self.assertRegex(
            words, r"Foil tracks, bottom, \d\.\d+ m from the tail: a 25\.0 mm cutter is too wide for 22\.0 mm"
        )

    def test_a_shank_and_a_nut_in_the_way(self):
        block = CutBlock.whole((0.0, 0.1), 0.05, 0.06)
        deep = read_program(HEAD + "G0 X20 Y0 Z70\nG1 X20 Y0 Z5 F100\nG1 X80 Y0 Z5 F100\nG0 Z70\n" + TAIL)
        with self.assertRaises(InputError) as caught:
            cut(block, deep, Cutter("flat", 0.01, 0.04, 0.08), 0.04, "one.nc")
        self.assertRegex(
            str(caught.exception), r"one\.nc, X \d+\.\d Y 0\.0 Z \d\.\d: the shank would run into foam 5\d mm"
        )
        block = CutBlock.whole((0.0, 0.1), 0.05, 0.06)
        with self.assertRaises(InputError) as caught:
            cut(block, deep, Cutter("flat", 0.01, 0.06, 0.05), 0.04, "one.nc")
        self.assertIn("collet nut would run into foam 5", str(caught.exception))
