"""Programs handed out: never unproven, never half; the stand-in of the mill as the process it is."""

import contextlib
import io
import json
import subprocess
import sys
import tempfile
import unittest
import zipfile
from dataclasses import replace
from pathlib import Path

import numpy as np

from kelvor.cli import main
from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Mill
from kelvor.core.mill.job import cut_face, face_programs, wanted_core
from kelvor.core.mill.judging import ToleranceSpot
from kelvor.core.mill.stock import SIDES, least_stock
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.demo.boards import demo_boards
from kelvor.exchange.documents import board_text
from kelvor.exchange.milling import write_programs

BOARD = next(board for name, board, _ in demo_boards() if name == "redshank-139")
MILL = Mill(flat=0.006, step=0.012)


def run_cli(*arguments):
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


class Handed(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.stock = least_stock(wanted_core(BOARD), MILL)
        cls.stamp = Stamp(design=BOARD.name, code=code_of(BOARD), serial="SK-09")
        cls.files = {side: face_programs(BOARD, MILL, cls.stock, side, cls.stamp) for side in SIDES}
        cls.faces = [cut_face(BOARD, MILL, cls.stock, side, cls.files[side]) for side in SIDES]

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def write(self, faces, path):
        files = [file for side in SIDES for file in self.files[side]]
        return write_programs(BOARD, MILL, self.stock, self.stamp, files, faces, path, False)

    def test_what_was_not_cut_or_was_cut_into_is_not_handed_out(self):
        path = self.folder / "mill.zip"
        with self.assertRaises(InputError) as caught:
            self.write(self.faces[:1], path)
        self.assertIn("the bottom was not run on the simulated mill", str(caught.exception))
        judged = self.faces[0].judged
        spot = ToleranceSpot("deck", 0.4, 0.1, -0.0013, "cut into the core")
        dug = replace(self.faces[0], judged=replace(judged, worst_gouge=0.0013, spots=(spot,)))
        with self.assertRaises(InputError) as caught:
            self.write([dug, self.faces[1]], path)
        self.assertIn("deck, 400 mm from the tail, 100 across: it cuts 1.30 mm into the core", str(caught.exception))
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_the_package_says_how_to_clamp_and_what_is_left(self):
        path = self.write(self.faces, self.folder / "mill.zip")
        with zipfile.ZipFile(path) as package:
            self.assertIsNone(package.testzip())
            words = package.read("READ FIRST.txt").decode()
        for said in (self.stamp.words, "turn it over about the X axis", "Dowels on the centreline", "hand on the stop",
                     f"Stock {self.stock.length * 1e3:.1f} x"):  # fmt: skip
            self.assertIn(said, words)
        with self.assertRaises(InputError):  # not over what is there
            self.write(self.faces, path)

    def test_the_command_line_cuts_before_it_writes(self):
        board, out = self.folder / "board.json", self.folder / "mill.zip"
        board.write_text(board_text(BOARD), encoding="utf-8")
        code, printed, _ = run_cli("mill", str(board), "--out", str(out), "--step", "15", "--flat", "6")
        self.assertEqual(code, 0)
        self.assertRegex(printed, r"deck: \d+ min, left on \d\.\d\d mm for nine tenths of it")
        self.assertTrue(zipfile.is_zipfile(out))
        other = self.folder / "other.zip"
        for arguments, words in (
            (("--stock", "1600", "500", "20"), "stock's thickness: 20 mm is too small"),
            (("--travel", "1000", "800", "300"), "travel along the board: 1000 mm is too short"),
            (("--flat", "40"), "too wide"),
            (("--ball", "900"), "ball"),
        ):
            code, _, err = run_cli("mill", str(board), "--out", str(other), "--step", "15", *arguments)
            self.assertEqual(code, 2)
            self.assertIn(words, err)
            self.assertFalse(other.exists())
        code, _, err = run_cli("mill", str(board), "--out", str(out))
        self.assertEqual(code, 2)

    def device(self, text, name="1-deck-ball.nc", **more):
        program = self.folder / name
        program.write_text(text, encoding="ascii")
        clamped = {"ends": [0.0, 0.2], "half": 0.05, "height": 0.06, "nut": 0.05, "travel": [1.0, 1.0, 0.3], **more}
        clamped["programs"] = [
            {"file": str(program), "kind": "ball", "diameter": 0.02, "cuts": 0.06, "sticks_out": 0.09}
        ]
        out = self.folder / "heights.npy"
        done = subprocess.run(
            [sys.executable, "-m", "kelvor.devices.mill", str(out)],
            input=json.dumps(clamped),
            capture_output=True,
            text=True,
            check=False,
        )
        return done, out

    def test_the_stand_in_cuts_what_the_text_says_and_nothing_else(self):
        text = "G21\nG90\nG0 Z70\nM3 S1\nG0 X20 Y0 Z70\nG1 X20 Y0 Z50 F500\nG1 X180 Y0 Z50 F3000\nG0 Z70\nM5\nM30\n"
        done, out = self.device(text)
        self.assertEqual((done.returncode, done.stdout.splitlines()[-1]), (0, "END"))
        self.assertRegex(done.stdout, r"AT 100\.0 1-deck-ball\.nc")
        heights = np.load(out)
        x, y = np.arange(heights.shape[0]) * 0.002, np.arange(heights.shape[1]) * 0.002 - 0.05
        self.assertAlmostEqual(float(heights[50, 25]), 0.05, places=6)
        beside = heights[50, int(np.argmin(np.abs(y - 0.006)))]  # R − √(R² − 6²) over the tip, R 10
        self.assertAlmostEqual(float(beside), 0.05 + 0.002, places=5)
        untouched = heights[:, np.abs(y) > 0.0101]
        self.assertTrue((untouched == np.float32(0.06)).all())
        self.assertEqual(float(heights[int(np.argmin(np.abs(x - 0.195))), 25]), np.float32(0.06))

    def test_the_stand_in_stops_at_what_a_mill_would_stop_at(self):
        good = "G21\nG90\nG0 Z70\nM3 S1\nG0 X20 Y0 Z70\nG1 X20 Y0 Z50 F500\nG0 Z70\nM5\nM30\n"
        for text, words in (
            (good[:-5], "does not end in M30"),
            (good.replace("G0 X20 Y0 Z70", "G0 X20 Y0 Z40"), "line 5, X 20.0 Y 0.0 Z 40.0: a rapid move below the top"),
            (good.replace("G21", "G20"), "line 1: it is in inches"),
        ):
            done, out = self.device(text)
            self.assertEqual(done.returncode, 1)
            self.assertIn(words, done.stdout)
            self.assertTrue(done.stdout.startswith("ALARM"))
            self.assertFalse(out.exists())
        done, _ = self.device(good, ends=[0.0])
        self.assertEqual(done.returncode, 2)
        self.assertIn("cannot read what is clamped", done.stderr)
