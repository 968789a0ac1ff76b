"""Files from outside and files of ours: bounded reading, sizes before drawing, nothing written over unasked, the same
bytes twice.
"""

import contextlib
import csv
import io
import json
import math
import os
import random
import shutil
import sqlite3
import stat
import subprocess
import sys
import tempfile
import time
import unittest
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np
from tools.fuzz.files import fuzz_files
from tools.fuzz.outcome import Outcome
from tools.fuzz.readers import KINDS
from tools.fuzz.workshops import fuzz_workshops
from tools.kills import kill_everything

from kelvor import files
from kelvor.cli import main
from kelvor.core.base.errors import InputError
from kelvor.core.base.units import System
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.demo.boards import demo_boards
from kelvor.devices import rocker_gauge
from kelvor.exchange import read_limits
from kelvor.exchange.dated_copies import dated_copy
from kelvor.exchange.documents import board_text
from kelvor.exchange.export import export
from kelvor.exchange.outlines import MOST_CURVES, joined_curves, read_outline
from kelvor.exchange.readings import read_offsets, readings_of_text, readings_text
from kelvor.exchange.scans import read_points
from kelvor.exchange.sheets import write_sheet_of
from kelvor.exchange.tables import plain_cell
from kelvor.workshop.rescue import rescue
from kelvor.workshop.safety import keep_safe
from kelvor.workshop.store import Store
from tests.support import plain_board

SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


class Folder(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)

    def write(self, name, data):
        path = self.folder / name
        path.write_bytes(data if isinstance(data, bytes) else data.encode())
        return path

    def refused(self, words, read, *arguments, **named):
        with self.assertRaises(InputError) as caught:
            read(*arguments, **named)
        self.assertIn(words, str(caught.exception))
        self.assertNotIn("\n", str(caught.exception))
        return caught.exception

    def kelvor(self, *arguments, given=""):
        """The command line in this process: its code, and its lines on standard output and error."""
        out, err = io.StringIO(), io.StringIO()
        with (
            contextlib.redirect_stdout(out),
            contextlib.redirect_stderr(err),
            mock.patch.object(sys, "stdin", io.StringIO(given)),
        ):
            code = main([str(a) for a in arguments])
        return code, out.getvalue().splitlines(), err.getvalue().splitlines()


class Drawings(Folder):
    def dxf(self, entities, unit=4, header=True):
        head = f"0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1015\n9\n$INSUNITS\n70\n{unit}\n0\nENDSEC\n" if header else ""
        return self.write("d.dxf", f"{head}0\nSECTION\n2\nENTITIES\n{entities}0\nENDSEC\n0\nEOF\n")

    @staticmethod
    def line(a, b):
        return f"0\nLINE\n8\n0\n10\n{a[0]}\n20\n{a[1]}\n11\n{b[0]}\n21\n{b[1]}\n"

    def loose(self, count, seed=1):
        """An ellipse of 1500 × 500 mm as loose lines, shuffled and turned about."""
        rng = random.Random(seed)
        points = [
            (750 - 750 * math.cos(2 * math.pi * i / count), 250 * math.sin(2 * math.pi * i / count))
            for i in range(count)
        ]
        lines = [(points[i], points[(i + 1) % count])[:: rng.choice((1, -1))] for i in range(count)]
        rng.shuffle(lines)
        return "".join(self.line(a, b) for a, b in lines)

    def test_thousands_of_loose_lines_are_joined_to_the_whole_board(self):
        for count in (1990, 5000):
            found = read_outline(self.dxf(self.loose(count)))
            self.assertAlmostEqual(found.length, 1.5, places=4)
            self.assertAlmostEqual(max(r.width for r in found.readings), 0.5, delta=1e-3)
            self.assertEqual(found.notes, ("Read in millimetres, as the drawing says",))

    def test_more_curves_than_are_read_are_an_error_and_never_half_a_board(self):
        grid = "".join(self.line((i, 0), (i, 5)) for i in range(MOST_CURVES + 1))
        self.refused(f"has {MOST_CURVES + 1} curves, and {MOST_CURVES} are read", read_outline, self.dxf(grid))

    def test_what_is_left_out_is_said(self):
        other = "".join(self.line((200 + 10 * i, 900), (210 + 10 * i, 900)) for i in range(60))
        found = read_outline(self.dxf(self.loose(300) + other + "0\nPOINT\n8\n0\n10\n5\n20\n5\n"))
        self.assertIn("1 other curve of that size not joined to it was left out", found.notes)
        self.assertIn("Left out: 1 POINT", found.notes)
        open_ = read_outline(self.dxf("0\nARC\n8\n0\n10\n0\n20\n0\n40\n750\n50\n10\n51\n300\n"))
        self.assertTrue(any("Its ends lie" in note and "mm apart" in note for note in open_.notes))

    def test_joining_knows_no_order_and_no_direction(self):
        rng = np.random.default_rng(3)
        points = np.cumsum(rng.normal(0, 20, (60, 2)), axis=0)
        pieces = [points[i : i + 2][:: rng.choice((1, -1))] for i in range(59)]
        order = rng.permutation(59)
        chains = joined_curves([pieces[i] for i in order])
        self.assertEqual(len(chains), 1)
        found = chains[0] if np.allclose(chains[0][0], points[0]) else chains[0][::-1]
        np.testing.assert_allclose(found, points)
        apart = [np.array([[0, 0], [1, 0]]), np.array([[1.6, 0], [2, 0]])]
        self.assertEqual(len(joined_curves(apart)), 2)

    def test_units_are_said_or_refused_and_never_guessed(self):
        circle = "0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n{}\n"
        said = (
            (4, 1.0, "millimetres, as"),
            (5, 0.1, "centimetres"),
            (6, 1e-3, "metres"),
            (1, 1 / 25.4, "inches"),
            (0, 1.0, "not say"),
        )
        for unit, size, words in said:
            found = read_outline(self.dxf(circle.format(700 * size), unit))
            self.assertAlmostEqual(found.length, 1.4, places=3)
            self.assertIn(words, found.notes[0])
        found = read_outline(self.dxf(circle.format(700), header=False))
        self.assertAlmostEqual(found.length, 1.4, places=3)
        self.assertIn("does not say its unit: millimetres were taken", found.notes[0])
        for unit in (8, 20, 24, 25, 99, -1):
            self.refused(
                f"its unit is number {unit}, in which no board is drawn",
                read_outline,
                self.dxf(circle.format(750), unit),
            )

    def test_sizes_are_looked_at_before_anything_is_drawn_out(self):
        for entity, words in (
            (
                "0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n1e7\n",
                "circle on layer “0” is 2e+04 m large. Curves up to 100 m are read",
            ),
            ("0\nARC\n8\n0\n10\n0\n20\n0\n40\n1e300\n50\n0\n51\n90\n", "reaches out of any drawing"),
            ("0\nLINE\n8\n0\n10\nnan\n20\n0\n11\n1\n21\n0\n", "reaches out of any drawing"),
        ):
            self.refused(words, read_outline, self.dxf(entity))
        for body, words in (
            ('<path d="M0 0 L 1e300 5"/>', "reaches out of any drawing"),
            ('<path id="a" d="M0 0 L 9e5 5"/>', "path “a” is 238.1 m large"),
            ("<path d='M0 0L9 9' transform='" + "translate(1)" * 900 + "'/>", "moved about without end"),
            (f'<polygon points="0,0 {"1" * 140_000},5 3,3"/>', "a number in it has too many digits"),
            ("<g>" * 80 + "</g>" * 80, "nested more than 60 deep"),
            ('<g id="a"><use href="#a"/></g>', "uses itself"),
            (
                '<path id="a0" d="M0 0L1 1"/>'
                + "".join(
                    f'<g id="a{i + 1}"><use xlink:href="#a{i}"/><use xlink:href="#a{i}"/></g>' for i in range(24)
                ),
                "over 20000 elements",
            ),
        ):
            self.refused(words, read_outline, self.write("s.svg", f"{SVG}>{body}</svg>"))
        self.refused(
            "declares entities", read_outline, self.write("e.svg", f'<!DOCTYPE svg [<!ENTITY a "b">]>{SVG}>&a;</svg>')
        )
        self.refused("its root is “html”, not svg", read_outline, self.write("h.svg", "<html/>"))
        self.refused("not text in UTF-8 (byte 6)", read_outline, self.write("l.svg", "<svg>ä</svg>".encode("latin-1")))

    def test_an_svg_that_gives_only_its_width_or_height_is_read_at_that_size(self):
        half = '<path d="M 0 240 A 800 240 0 0 1 1600 240 Z"/>'
        for size in ('width="1600mm" height="300mm"', 'width="1600mm"', 'height="30cm"'):
            found = read_outline(self.write("w.svg", f'{SVG} {size} viewBox="0 0 1600 300">{half}</svg>'))
            self.assertAlmostEqual(found.length, 1.6, places=4)
            self.assertIn("Read at the size the drawing says", found.notes[0])
        found = read_outline(
            self.write(
                "w.svg", f'{SVG} viewBox="0 0 6047 1134"><path d="M 0 907 A 3023.5 907 0 0 1 6047 907 Z"/></svg>'
            )
        )
        self.assertIn("96 units were taken for an inch", found.notes[0])
        self.assertAlmostEqual(found.length, 6047 / 96 * 0.0254, places=3)


class Tables(Folder):
    def test_marks_blank_lines_and_places_of_what_is_wrong(self):
        for data, words in (
            (
                b"\xef\xbb\xbfstation mm,width mm\n0,10\n500,400\n\n\n900,wide\n",
                "line 6, column width mm: “wide” is not a number",
            ),
            (b"station mm,width mm\n0,10\n\n700,9000\n", "line 4: width: 900.0 cm cannot be. Give 0.0 cm to 150.0 cm"),
            (b"station mm;width mm\n0;10\n700;1.234,5\n", "“1.234,5” is not a number. Give a number such as 1234.5"),
            (b"station mm,width mm\n0,1_0\n10,2\n", "“1_0” is not a number"),
            (b"station mm,width mm\n0,nan\n10,2\n", "“nan” is not a number"),
            (
                b"station mm,width mm\n" + b"1" * 140_000 + b",3\n",
                "line 2: the table cannot be read (field larger than field limit",
            ),
            ("station mm,breite ä\n1,2\n".encode("latin-1"), "not text in UTF-8 (byte 19)"),
            (b"\n\n\nstation,width mm\n1,2\n2,3\n", "line 4: column “station”"),
        ):
            with self.subTest(words):
                self.refused(words, read_offsets, self.write("t.csv", data))
        good = read_offsets(self.write("g.csv", b"\xef\xbb\xbfstation mm,width mm\r\n0,10\r\n\r\n1500,12\r\n"))
        self.assertEqual((good.length, len(good.readings)), (1.5, 2))
        self.assertEqual(readings_of_text(readings_text(good)), good)

    def test_a_gauge_that_says_nonsense(self):
        for line in ("K 1e999 3", "K nan 3", "K 1 inf", "X", "K", "\x00", "K " + "9" * 4000 + " 1"):
            self.refused("rocker gauge", rocker_gauge.parse_rocker_line, line)


class Limits(Folder):
    def test_time_and_memory_end_in_words(self):
        def forever():
            while True:
                pass

        def greedy():
            return bytearray(400 << 20)

        with self.assertRaises(InputError) as caught, read_limits.limited("f.dxf", seconds=1):
            forever()
        self.assertIn("f.dxf: reading it took longer than 1 s", str(caught.exception))
        with self.assertRaises(InputError) as caught, read_limits.limited("f.dxf", memory=100 << 20):
            greedy()
        self.assertIn("needs more than 100 MB", str(caught.exception))
        self.assertEqual(len(greedy()), 400 << 20)  # and nothing is limited afterwards

    def test_no_regular_file_is_read(self):
        fifo = self.folder / "pipe.svg"
        os.mkfifo(fifo)
        for read in (files.read_text, read_outline, read_offsets):
            self.refused("no regular file", read, fifo)
        for path in ("x" * 400 + ".svg", "a\0b.svg"):
            with self.assertRaises(InputError):
                read_outline(Path(path))


class WritingOver(Folder):
    def setUp(self):
        super().setUp()
        self.board = demo_boards()[0][1]
        self.document = self.write("b.json", board_text(self.board))

    def test_a_file_is_replaced_only_on_a_yes_and_keeps_its_permissions_and_links(self):
        target = self.write("o.csv", b"mine")
        target.chmod(0o600)
        link = self.folder / "l.csv"
        link.symlink_to(target.name)
        code, _, err = self.kelvor("export", self.document, "--to", "csv", "--out", target)
        self.assertEqual((code, target.read_bytes(), len(err)), (2, b"mine", 1))
        self.assertIn("o.csv: a file of this name is there already. Give another name, or --force", err[0])
        self.assertEqual(self.kelvor("export", self.document, "--to", "csv", "--out", link, "--force")[0], 0)
        self.assertTrue(link.is_symlink())
        self.assertTrue(target.read_bytes().startswith(b"station_mm"))
        self.assertEqual(stat.S_IMODE(target.stat().st_mode), 0o600)
        self.assertEqual(self.kelvor("export", self.document, "--to", "csv", "--out", self.folder / "new.csv")[0], 0)

    def test_never_a_workshop_a_pipe_a_device_a_folder_or_the_source(self):
        shop = self.folder / "w.kelvor"
        Store.create(shop).close()
        shutil.copy(shop, self.folder / "renamed.stl")
        os.mkfifo(self.folder / "pipe.stl")
        (self.folder / "link.stl").symlink_to(shop)
        for name, words in (
            ("w.kelvor", "this is a workshop"),
            ("renamed.stl", "this is a workshop"),
            ("link.stl", "this is a workshop"),
            ("pipe.stl", "no regular file"),
            ("/dev/null", "no regular file"),
            (".", "this is a folder"),
            ("b.json", "the board that is being read"),
        ):
            with self.subTest(name):
                before = shop.read_bytes()
                for more in ([], ["--force"]):
                    code, _, err = self.kelvor(
                        "export", self.document, "--to", "stl", "--out", self.folder / name, *more
                    )
                    self.assertEqual((code, len(err)), (2, 1))
                    self.assertIn(words, err[0])
                self.assertEqual(shop.read_bytes(), before)
        self.assertEqual(self.document.read_text(), board_text(self.board))

    def test_what_appears_while_it_is_written_is_not_replaced(self):
        path = self.folder / "x.txt"
        with self.assertRaises(files.AlreadyThere), files.written_whole(path) as temporary:
            temporary.write_text("ours")
            path.write_text("somebody else's")
        self.assertEqual(path.read_text(), "somebody else's")
        self.assertEqual([p.name for p in self.folder.glob(".kelvor-*")], [])

    def test_what_killed_processes_left_is_swept_and_what_lives_is_not(self):
        ended = subprocess.Popen([sys.executable, "-c", ""])
        ended.wait()
        host = files._host()

        def left(host, process, age, ending="0123abcd.stl"):
            path = self.folder / f".kelvor-{host}-{process}-{ending}"
            path.write_text("half")
            os.utime(path, (time.time() - age,) * 2)
            return path

        dead = left(host, ended.pid, 3700)
        journal = left(host, ended.pid, 3700, "0123abcd.kelvor-journal")
        kept = [
            left(host, ended.pid, 60, "0123abce.stl"), left(host, os.getpid(), 3700), left("00000000", ended.pid, 3700),
            left(host, ended.pid, 3700, "notes.txt"),
        ]  # fmt: skip
        notes = self.folder / ".kelvor-2024-notes.txt"
        notes.write_text("mine")
        os.utime(notes, (0, 0))
        self.assertEqual(files.swept(self.folder), 2)
        self.assertFalse(dead.exists() or journal.exists())
        self.assertTrue(all(path.exists() for path in (*kept, notes)))

    def test_another_programs_database_and_a_hot_journal_are_left_as_they_are(self):
        other, journal = self.folder / "notes.db", self.folder / "shop.kelvor-journal"
        with closing(sqlite3.connect(other)) as db:
            db.execute("CREATE TABLE t (x)")
        (self.folder / "shop.kelvor").write_bytes(b"x")
        journal.write_bytes(b"half a step")
        for path in (other, journal):
            before = path.read_bytes()
            with self.assertRaises(InputError) as caught:
                export(self.board, "stl", path, over=True)
            self.assertIn("left as it is", str(caught.exception))
            self.assertEqual(path.read_bytes(), before)

    def test_only_regular_files_of_a_fitting_size_are_read(self):
        os.mkfifo(self.folder / "pipe")
        for path, words in (
            (Path("/dev/zero"), "no regular file"), (self.folder / "pipe", "no regular file"),
            (self.folder, "this is a folder"), (self.folder / "none", "no such file"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                files.read_bytes(path, 1000, "photos")
            self.assertIn(words, str(caught.exception))
            self.assertIn(str(path), str(caught.exception))
        large = self.folder / "large.jpg"
        large.write_bytes(bytes(2_000_000))
        with self.assertRaises(InputError) as caught:
            files.read_bytes(large, 1_000_000, "photos")
        self.assertIn("the file has 2 MB. Photos of up to 1 MB are read", str(caught.exception))

    def test_an_obj_that_names_a_pipe_is_read_without_it(self):
        os.mkfifo(self.folder / "pipe.mtl")
        scan = self.folder / "scan.obj"
        scan.write_text("mtllib pipe.mtl\nusemtl a\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1 2 4\n")
        self.assertGreater(len(read_points(scan)), 3)

    def test_a_real_scan_of_fifty_megabytes_is_read(self):
        scan = self.folder / "scan.xyz"
        scan.write_bytes(b"0.10000 0.20000 0.30000\n" * (50_000_000 // 24))
        self.assertGreater(len(read_points(scan)), 2_000_000)

    def test_cells_that_begin_like_a_formula_are_text(self):
        for words, kept in (
            ("=1+1", "'=1+1"), ("+SUM(A1)", "'+SUM(A1)"), ("-2+3", "'-2+3"), ("@x", "'@x"), ("\tx", "'\tx"),
            ("-0.4", "-0.4"), ("+0,4", "+0,4"), ("Dunlin", "Dunlin"), ("", ""),
        ):  # fmt: skip
            self.assertEqual(plain_cell(words), kept)
        path = self.folder / "offsets.csv"
        export(replace(self.board, name="=cmd()"), "csv", path)
        cells = [cell for row in csv.reader(path.open(encoding="utf-8")) for cell in row]
        self.assertFalse([cell for cell in cells if cell.startswith(("=", "+", "@"))])
        self.assertTrue(any("=cmd()" in cell for cell in cells))

    def test_the_same_board_gives_the_same_bytes(self):
        for kind in ("stl", "3mf", "obj", "dxf", "svg", "pdf", "csv", "json"):
            runs = []
            for turn in (1, 2):
                path = self.folder / f"{turn}.{kind}"
                with mock.patch.object(time, "time", return_value=1e9 * turn):
                    export(self.board, kind, path)
                runs.append(path.read_bytes())
            self.assertEqual(runs[0], runs[1], kind)
        board = next(b for _, b, _ in demo_boards() if b.construction is not None)
        for kind in ("pdf", "csv", "dxf"):
            paths = [self.folder / f"s{turn}.{kind}" for turn in (1, 2)]
            runs = [write_sheet_of(board, Brief(), HANDBOOK, System.METRIC, path, False).read_bytes() for path in paths]
            self.assertEqual(runs[0], runs[1], kind)

    def test_a_board_is_taken_from_standard_input_and_readings_are_printed(self):
        out = self.folder / "o.svg"
        self.assertEqual(self.kelvor("export", "-", "--to", "svg", "--out", out, given=board_text(self.board))[0], 0)
        code, printed, err = self.kelvor("read", "outline", out)
        self.assertEqual((code, err), (0, []))
        self.assertAlmostEqual(readings_of_text("\n".join(printed)).length, self.board.length, delta=1e-4)
        printed = self.kelvor("read", "board", self.document)[1]
        self.assertEqual(json.loads("\n".join(printed)), json.loads(board_text(self.board)))
        self.assertEqual(self.kelvor("read", "offsets", self.document)[0], 2)


class Dated(unittest.TestCase):
    """Dated copies: each workshop's own, private as it is, over nothing that is somebody else's."""

    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        self.copies = self.folder / "copies"
        self.copies.mkdir()

    def shop(self, where, name):
        (self.folder / where).mkdir()
        store = Store.create(self.folder / where / "shop.kelvor")
        self.addCleanup(store.close)
        store.add_board(plain_board(name=name), Brief(), "Began")
        os.chmod(store.path, 0o600)
        return store

    def names(self, path):
        with closing(Store.open(path)) as shop:
            return [entry.name for entry in shop.boards()]

    def test_two_workshops_of_one_name_keep_a_copy_each_and_the_earlier_one(self):
        one, other = self.shop("a", "One"), self.shop("b", "Other")
        first, second = dated_copy(one, self.copies), dated_copy(other, self.copies)
        self.assertEqual((self.names(first), self.names(second)), (["One"], ["Other"]))
        one.add_board(plain_board(name="Two"), Brief(), "Began")
        again = dated_copy(one, self.copies, pages=True)
        self.assertEqual(again, first)
        self.assertEqual(self.names(first), ["Two", "One"])
        [earlier] = self.copies.glob("* earlier.kelvor")
        self.assertEqual(self.names(earlier), ["One"])
        for path in (first, earlier, *self.copies.glob("*/*.txt")):
            self.assertEqual(path.stat().st_mode & 0o777, 0o600, path.name)
        self.assertEqual(next(self.copies.glob("*/")).stat().st_mode & 0o777, 0o700)

    def test_what_is_no_copy_of_it_is_left_as_it_is(self):
        store = self.shop("a", "One")
        copy = dated_copy(store, self.copies)
        mine = copy.with_suffix(".new")
        mine.write_text("mine")
        for make in (lambda: copy.write_text("a letter"), lambda: copy.symlink_to(self.folder / "elsewhere")):
            copy.unlink()
            make()
            with self.assertRaises(InputError) as caught:
                dated_copy(store, self.copies)
            self.assertIn("is left as it is", str(caught.exception))
        copy.unlink()
        pages = self.copies / copy.stem
        (self.folder / "elsewhere").mkdir()
        pages.symlink_to(self.folder / "elsewhere")
        with self.assertRaises(InputError):
            dated_copy(store, self.copies, pages=True)
        self.assertEqual(list((self.folder / "elsewhere").iterdir()), [])
        self.assertEqual(mine.read_text(), "mine")

    def test_safety_and_repaired_copies_are_as_private_as_the_workshop(self):
        store = self.shop("a", "One")
        safe = keep_safe(self.folder / "safety", store)
        new = self.folder / "new.kelvor"
        rescue(store.path, new)
        self.assertEqual([path.stat().st_mode & 0o777 for path in (safe, new, safe.parent)], [0o600, 0o600, 0o700])


class OurOwnCode(Folder):
    def test_children_import_nothing_from_the_folder_somebody_stands_in(self):
        """Hand out, readers, devices and workers are started there, with modules of the same names lying about."""
        for name in ("pydantic", "numpy", "json", "trimesh", "multiprocessing", "kelvor", "argparse", "PySide6"):
            (self.folder / f"{name}.py").write_text(
                "import pathlib; pathlib.Path('caught').write_text('x'); raise SystemExit(7)"
            )
        script = (
            "import sys\nfrom pathlib import Path\nfrom PySide6.QtCore import QCoreApplication\nfrom "
            "kelvor.ui.background.processes import Device, CommandProcess\n"
            "from kelvor.ui.background.runner import WorkerQuestion, close_workers\n"
            "from kelvor.core.base.units import parse, Quantity\n"
            "if __name__ == '__main__':\n"
            "    import os\n    os.chdir(sys.argv[1])\n    app, said = QCoreApplication([]), []\n"
            "    job = CommandProcess(app)\n    job.run(['read', 'offsets', 'none.csv'], said.append, said.append)\n"
            "    device = Device(app)\n    device.line.connect(said.append)\n    device.start('kelvor.devices.scale', "
            "'2')\n"
            "    asked = WorkerQuestion(app, 'It', said.append, failed=said.append)\n    asked.ask(parse, [('1', "
            "Quantity.COUNT)])\n"
            "    import time\n    end = time.monotonic() + 60\n"
            "    while len(said) < 11 and time.monotonic() < end: app.processEvents()\n"
            "    close_workers()\n    print(len(said), [w for w in said if 'no such file' in str(w)])\n"
        )
        main_file = self.write("elsewhere/run.py".replace("/", "-"), script)
        place = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, place, ignore_errors=True)
        shutil.move(main_file, place / "run.py")
        environment = {
            **os.environ,
            "PYTHONPATH": os.pathsep.join(p for p in sys.path if p),
            "QT_QPA_PLATFORM": "offscreen",
        }
        command = [sys.executable, "-P", str(place / "run.py"), str(self.folder)]
        done = subprocess.run(command, env=environment, capture_output=True, text=True, timeout=90, check=False)
        self.assertFalse((self.folder / "caught").exists(), done.stdout + done.stderr)
        self.assertIn("11 ['none.csv: there is no such file or folder.']", done.stdout, done.stderr)


class ShortRuns(Folder):
    """Short runs of the tools; their own run thousands: python -m tools.fuzz, python -m tools.kills."""

    def test_damaged_files_and_workshops_are_read_or_refused(self):
        outcome = Outcome()
        fuzz_files(63, 20, outcome)
        fuzz_workshops(3, 20, outcome)
        self.assertEqual(outcome.faults, [])
        for kind in (*(kind.name for kind in KINDS), "line", "workshop"):
            self.assertGreater(outcome.tried[kind], 2, kind)
        self.assertGreater(sum(outcome.read.values()), 10)

    def test_killed_processes_lose_nothing_that_was_told(self):
        told, wrong = kill_everything(self.folder, 6, seed=4)
        self.assertEqual(wrong, [])
        self.assertGreater(told["edits"] + told["registers"], 5)
