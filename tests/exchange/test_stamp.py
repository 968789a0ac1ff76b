"""The stamp: on everything that leaves the program, and back from its code to the version."""

import base64
import contextlib
import hashlib
import io
import json
import re
import tempfile
import unittest
import zipfile
from dataclasses import replace
from pathlib import Path

import ezdxf
import numpy as np
import pypdf
import trimesh

from kelvor.cli import main
from kelvor.core.base.snapshot import to_plain
from kelvor.core.register.stamp import SIGNS, Stamp, code_of, code_read
from kelvor.core.shape.edits.edits import with_thickness_scaled
from kelvor.demo.boards import demo_boards
from kelvor.exchange.documents import board_text, parse_board
from kelvor.exchange.export import export
from kelvor.exchange.formats import WRITERS
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.readings import read_offsets
from kelvor.workshop.store import Store
from tests.support import demo_at

BOARD = demo_boards()[1][1]


class Code(unittest.TestCase):
    def test_the_same_board_has_the_same_code_and_a_tenth_of_a_millimetre_another(self):
        code = code_of(BOARD)
        self.assertEqual(code, code_of(parse_board(board_text(BOARD), "text", None)))
        self.assertNotEqual(code, code_of(with_thickness_scaled(BOARD, 1.001)))
        self.assertNotEqual(code, code_of(replace(BOARD, name="Another")))
        # the same forty bits by the standard library's base 32, in our signs
        plain = json.dumps(json.loads(json.dumps(to_plain(BOARD)), parse_int=float), sort_keys=True,
                           separators=(",", ":"), ensure_ascii=False)  # fmt: skip
        bits = base64.b32encode(hashlib.sha256(plain.encode()).digest()[:5]).decode()
        told = bits.translate(str.maketrans("ABCDEFGHIJKLMNOPQRSTUVWXYZ234567", SIGNS))
        self.assertEqual(code.replace("-", ""), told)
        codes = {code_of(board) for _, board, _ in demo_boards()}
        self.assertEqual(len(codes), len(demo_boards()))
        self.assertTrue(all(set(c) <= {*SIGNS, "-"} and len(c) == 9 for c in codes))

    def test_a_code_is_read_as_people_write_it(self):
        self.assertEqual(code_read(" k7qm 4d2x "), "K7QM-4D2X")
        self.assertEqual(code_read("O7QM-4DIL"), "07QM-4D11")  # signs that are taken for others
        self.assertEqual([code_read(wrong) for wrong in ("", "K7QM", "K7QM-4D2U", "K7QM-4D2XX")], ["", "", "", ""])


class OnPaper(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def written(self, kind):
        path = self.folder / f"board.{kind}"
        stamp = Stamp(design=BOARD.name, code=code_of(BOARD), version=8, serial="SK-09", day="2026-11-27")
        export(BOARD, kind, path, stamp=stamp)
        return path

    def test_every_format_says_of_which_board_it_is(self):
        """Read back by general libraries: pypdf, ezdxf, trimesh; text as text. The document is the board itself."""
        code = code_of(BOARD)
        for kind in set(WRITERS) - {"json"}:
            with self.subTest(kind):
                path = self.written(kind)
                if kind == "pdf":
                    said = [page.extract_text() for page in pypdf.PdfReader(path).pages]
                    self.assertTrue(all(code in words and "version 8" in words for words in said))
                elif kind == "dxf":
                    texts = [entity.dxf.text for entity in ezdxf.readfile(path).modelspace().query("TEXT")]
                    self.assertTrue(any(code in text and "SK-09" in text for text in texts))
                elif kind == "3mf":
                    self.assertIn(code, str(trimesh.load(path).metadata) + _model(path))
                elif kind == "stl":
                    self.assertIn(code.encode(), path.read_bytes()[:80])
                    self.assertTrue(trimesh.load(path).is_watertight)
                elif kind == "zip":
                    with zipfile.ZipFile(path) as package:
                        first = package.read("READ FIRST.txt").decode()
                        self.assertIn(code, first)
                        self.assertIn("SK-09", package.read("drawing.dxf").decode())
                        solid = trimesh.load(io.BytesIO(package.read("board.stl")), file_type="stl")
                    # zero and places as the page tells them: the tail's end, the keel, the fin's middle
                    np.testing.assert_allclose(solid.bounds[:, 0], [0.0, 1000 * BOARD.length], atol=0.5)
                    low = float(re.search(r"Lowest point Z (-?[\d.]+)", first)[1])
                    self.assertAlmostEqual(float(solid.bounds[0, 2]), low, delta=0.01)
                    self.assertRegex(first, r"bottom X +\d+\.\d  Y +-?\d+\.\d  .* deep  ")
                else:
                    self.assertIn(code, path.read_text(encoding="utf-8"))

    def test_an_offset_table_is_read_back_past_its_stamp(self):
        self.assertAlmostEqual(read_offsets(self.written("csv")).length, BOARD.length, delta=2e-3)

    def test_a_drawing_of_ours_leaves_nothing_out_for_its_stamp(self):
        self.assertFalse([note for note in read_outline(self.written("dxf")).notes if "Left out" in note])

    def test_a_code_typed_back_finds_its_version(self):
        path = self.folder / "demo.kelvor"
        demo_at(path)
        with contextlib.closing(Store.open(path)) as store:
            entry = next(entry for entry in store.boards() if entry.name == "Dunlin 39")
            first = min(store.steps(entry.id).values(), key=lambda step: step.number)
            code = code_of(store.board(first.id))
        out, wrong = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(wrong):
            self.assertEqual(main(["stamp", code.lower().replace("-", " "), str(path)]), 0)
            self.assertEqual(main(["stamp", "0000-0000", str(path)]), 2)
            self.assertEqual(main(["stamp", "U", str(path)]), 2)
        self.assertIn("Dunlin 39, version 1", out.getvalue())
        self.assertIn("nothing has the code 0000-0000", wrong.getvalue())
        self.assertIn("is no stamp's code", wrong.getvalue())


def _model(path):
    import zipfile

    with zipfile.ZipFile(path) as package:
        return "".join(package.read(n).decode() for n in package.namelist() if n.endswith(".model"))


if __name__ == "__main__":
    unittest.main()
