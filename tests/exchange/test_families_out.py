"""Boards of every discipline through every format and back: areas by shapely, meshes by trimesh, documents by value."""

import csv
import tempfile
import unittest
from pathlib import Path
from typing import get_args

import ezdxf
import numpy as np
import shapely
import trimesh

from kelvor.core.base.disciplines import Discipline
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.board_mass import core_solid
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.new_board.first_boards import first_board, patterns
from kelvor.core.new_board.proposals import proposals
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.surface.section_view import half_outline, outline_ring
from kelvor.exchange.documents import board_text, parse_board
from kelvor.exchange.export import export
from kelvor.exchange.outlines import read_outline
from kelvor.exchange.readings import read_offsets

DISCIPLINES = get_args(Discipline)


def first(discipline):
    """The first proposal of a discipline as a board, measured."""
    brief = Brief(discipline=discipline)
    proposal = proposals(brief)[0]
    thickness = float(np.clip(proposal.volume / (0.58 * proposal.length * proposal.width), 0.012, 0.3))
    board = first_board("Out", discipline, proposal.length, proposal.width, thickness, patterns(discipline)[0].school)
    live = evaluate_live(board, brief)
    assert not isinstance(live, tuple), live
    return live


class EveryDiscipline(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.live = {discipline: first(discipline) for discipline in DISCIPLINES}

    def setUp(self):
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def figure(self, live, key):
        return next(f.value for f in live.figures if f.key == key)

    def test_the_cutters_mesh_holds_the_volume_on_the_ledger(self):
        for discipline, live in self.live.items():
            with self.subTest(discipline):
                path = self.folder / f"{discipline}.stl"
                export(live.board, "stl", path, over=True)
                body = trimesh.load(path, force="mesh")
                body.merge_vertices()
                self.assertTrue(body.is_watertight and body.is_winding_consistent)
                self.assertAlmostEqual(body.volume * 1e-9 / self.figure(live, "volume"), 1.0, delta=2e-3)
                self.assertAlmostEqual(body.extents[0] / 1000, live.board.length, delta=2e-4)
                self.assertAlmostEqual(body.extents[1] / 1000, self.figure(live, "width"), delta=1e-3)

    def test_the_core_is_inside_the_board_and_weighs_what_the_ledger_says(self):
        for discipline in ("wing foil", "slalom", "paddle race", "wakeboard"):
            with self.subTest(discipline):
                live = self.live[discipline]
                path = self.folder / "core.stl"
                export(live.board, "stl", path, surface="core", over=True)
                core = trimesh.load(path, force="mesh")
                self.assertAlmostEqual(core.volume * 1e-9 / core_solid(live.geometry).volume, 1.0, delta=5e-3)

    def test_the_drawn_outline_holds_the_planform_area(self):
        for discipline, live in self.live.items():
            with self.subTest(discipline):
                path = self.folder / "plan.dxf"
                export(live.board, "dxf", path, over=True)
                document = ezdxf.readfile(path)
                self.assertFalse(document.audit().has_errors)
                line = next(e for e in document.modelspace() if e.dxf.layer == "plan outline")
                area = shapely.Polygon([p[:2] for p in line.get_points()]).area * 1e-6
                self.assertAlmostEqual(area / self.figure(live, "planform_area"), 1.0, delta=2e-3)

    def test_the_offset_table_holds_widest_point_and_nose_rocker(self):
        for discipline, live in self.live.items():
            with self.subTest(discipline):
                path = self.folder / "offsets.csv"
                export(live.board, "csv", path, over=True)
                rows = list(csv.DictReader(path.open()))
                halves, keel = (
                    np.array([float(row[key]) for row in rows]) / 1000 for key in ("half_width_mm", "keel_mm")
                )
                self.assertAlmostEqual(2 * halves.max(), self.figure(live, "width"), delta=1e-3)
                self.assertAlmostEqual(keel[-1] - keel.min(), self.figure(live, "nose_rocker"), delta=1e-3)

    def test_our_own_drawings_and_tables_are_read_back_for_every_discipline(self):
        for discipline, live in self.live.items():
            for to in ("dxf", "svg", "csv"):
                with self.subTest(discipline, to=to):
                    path = self.folder / f"board.{to}"
                    export(live.board, to, path, over=True)
                    readings = read_offsets(path).readings if to == "csv" else read_outline(path).readings
                    widths = np.array([(r.x, r.width) for r in readings if r.width is not None])
                    inside = (widths[:, 0] > 0.15 * live.board.length) & (widths[:, 0] < 0.85 * live.board.length)
                    expected = 2 * half_width(live.board.outline, live.board.length, widths[inside, 0])
                    self.assertGreater(inside.sum(), 10)
                    self.assertLess(np.abs(widths[inside, 1] - expected).max(), 0.6e-3)

    def test_a_swallow_is_followed_in_to_its_apex(self):
        live = self.live["wake surf"]
        outline = live.board.outline
        self.assertEqual(outline.tail, "swallow")
        ring = outline_ring(live.geometry.shape)
        apex = ring[np.argmin(np.where(ring[:, 1] == 0, ring[:, 0], np.inf))]
        self.assertAlmostEqual(apex[0], outline.tail_depth, delta=2e-3)
        half = half_outline(live.geometry.shape)
        whole = shapely.Polygon(ring)
        self.assertTrue(whole.is_valid)
        self.assertAlmostEqual(2 * shapely.Polygon(half).area, whole.area, places=9)
        lost = outline.tail_depth * outline.tail_spread / 2
        self.assertAlmostEqual(
            np.trapezoid(2 * live.geometry.shape.half_width, live.geometry.shape.x) - whole.area, lost, delta=2e-4
        )

    def test_documents_bring_every_board_back(self):
        for discipline, live in self.live.items():
            with self.subTest(discipline):
                self.assertEqual(parse_board(board_text(live.board), "here"), live.board)

    def test_paper_has_every_template_at_full_size(self):
        for discipline in ("course racing", "twin tip", "paddle race"):
            with self.subTest(discipline):
                path = self.folder / "paper.pdf"
                export(self.live[discipline].board, "pdf", path, paper="a3", over=True)
                words = path.read_bytes()
                self.assertTrue(words.startswith(b"%PDF-"))
                sheets = words.count(b"/Type /Page\n") + words.count(b"/Type /Page ")
                rolls = self.live[discipline].board.length / 0.42
                self.assertGreater(sheets, rolls)
