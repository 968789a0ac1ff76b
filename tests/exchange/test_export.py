"""Exports read back by general libraries: trimesh, ezdxf, and the PDF's own drawing operators."""

import csv
import re
import tempfile
import unittest
import xml.etree.ElementTree as ElementTree
import zlib
from base64 import a85decode
from pathlib import Path

import ezdxf
import numpy as np
import trimesh

from kelvor.core.mass.board_mass import core_solid
from kelvor.core.shape.geometry import geometry
from kelvor.core.shape.outline import half_width
from kelvor.core.shape.sections import Resolution
from kelvor.exchange.export import export
from kelvor.exchange.templates import SHEETS, templates
from tests.support import cut_away, plain_board, shape_of, v_layer

MM = 72 / 25.4


class Case(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.board = plain_board(layers=(v_layer(4), cut_away(6)))
        cls.measured = geometry(cls.board)

    def setUp(self):
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def write(self, to, **options):
        path = self.folder / f"board.{to}"
        export(self.board, to, path, over=True, **options)
        return path


class Exported(Case):
    def test_meshes_are_closed_outward_and_in_millimetres(self):
        for to in ("stl", "obj", "3mf"):
            with self.subTest(to):
                body = trimesh.load(self.write(to), force="mesh")
                body.merge_vertices()
                self.assertTrue(body.is_watertight and body.is_winding_consistent)
                self.assertAlmostEqual(body.volume * 1e-9 / self.measured.solid.volume, 1, delta=1e-3)
                self.assertAlmostEqual(body.extents[0], 1500, places=2)

    def test_core_and_resolution(self):
        core = trimesh.load(self.write("stl", surface="core"), force="mesh")
        self.assertAlmostEqual(core.volume * 1e-9 / core_solid(self.measured).volume, 1, delta=2e-3)
        coarse = trimesh.load(self.write("stl", resolution=Resolution.COARSE), force="mesh")
        self.assertLess(len(coarse.faces), 0.6 * len(core.faces))

    def test_dxf(self):
        document = ezdxf.readfile(self.write("dxf"))
        self.assertFalse(document.audit().has_errors)
        layers = {line.dxf.layer for line in document.modelspace()}
        self.assertLessEqual({"plan outline", "profile keel", "profile rail", "profile deck"}, layers)
        outline = next(line for line in document.modelspace() if line.dxf.layer == "plan outline")
        points = np.array([p[:2] for p in outline.get_points()])
        at = points[np.argmin(np.abs(points[:, 0] - 750) + (points[:, 1] < 0) * 1e6)]
        self.assertAlmostEqual(at[1], 1000 * half_width(self.board.outline, 1.5, at[:1] / 1000)[0], delta=0.01)
        self.assertEqual(document.units, 4)

    def test_svg_is_full_size(self):
        root = ElementTree.parse(self.write("svg")).getroot()
        width, box = float(root.get("width").removesuffix("mm")), root.get("viewBox").split()
        self.assertAlmostEqual(width, float(box[2]), places=2)
        plan = next(e for e in root if e.get("data-layer") == "outline")
        xs = [float(pair.split(",")[0]) for pair in plan.get("points").split()]
        self.assertAlmostEqual(max(xs) - min(xs), 1500, places=2)

    def test_offset_table(self):
        rows = list(csv.DictReader(self.write("csv").open()))
        x = np.array([float(r["station_mm"]) for r in rows]) / 1000
        b = np.array([float(r["half_width_mm"]) for r in rows]) / 1000
        np.testing.assert_allclose(b, half_width(self.board.outline, 1.5, x), atol=1e-5)
        for row in rows[:: len(rows) // 5]:
            self.assertAlmostEqual(float(row["deck_mm"]) - float(row["keel_mm"]), float(row["thickness_mm"]), places=2)


class Templates(Case):
    def operators(self, paper):
        """Page boxes and decoded drawing operators of each sheet."""
        data = self.write("pdf", paper=paper).read_bytes()
        boxes = [tuple(map(float, m)) for m in re.findall(rb"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]", data)]
        streams = re.findall(rb"stream\r?\n(.*?)endstream", data, re.S)
        pages = [zlib.decompress(a85decode(s.strip().removesuffix(b"~>"))).decode("latin-1") for s in streams]
        return boxes, [p for p in pages if "100 mm" in p]

    def test_sheets_bar_and_marks(self):
        for paper, (wide, high) in SHEETS.items():
            boxes, pages = self.operators(paper)
            with self.subTest(paper):
                self.assertEqual(len(boxes), len(pages))
                for box in boxes:  # either way up, whichever takes fewer sheets
                    np.testing.assert_allclose(sorted(box, reverse=True), [wide * MM, high * MM], atol=0.02)
                for page in pages:
                    bars = [
                        (float(a), float(b)) for a, b in re.findall(r"n ([\d.]+) [\d.]+ m ([\d.]+) [\d.]+ l S", page)
                    ]
                    self.assertTrue(any(abs((b - a) / MM - 100) < 0.01 for a, b in bars), "100 mm check bar")
                    self.assertGreaterEqual(len(re.findall(r" c\b", page)), 4, "registration circles")
                    self.assertIn("Follow the data sheets", page)
        self.assertIn("sheet 1/", pages[0])

    def test_drawn_at_full_size_and_complete(self):
        found = {t.title: t for t in templates(shape_of(self.board), 1.5)}
        outline = found["Half outline"]
        self.assertAlmostEqual(outline.size()[0], 1500, places=6)
        self.assertAlmostEqual(outline.size()[1], 1000 * self.measured.shape.half_width.max(), places=3)
        sections = [t for title, t in found.items() if title.startswith("Section")]
        self.assertGreaterEqual(len(sections), 4)
        for template in sections:
            x = float(re.search(r"Section ([\d.]+)", template.title)[1]) / 100
            self.assertAlmostEqual(
                template.size()[0], 2000 * half_width(self.board.outline, 1.5, np.array([x]))[0], delta=0.6
            )
        self.assertIn("Rocker: keel, rail and deck", found)
