"""Exports read back by general libraries: trimesh, ezdxf, pypdf."""

import csv
import math
import re
import tempfile
import unittest
import xml.etree.ElementTree as ElementTree
from pathlib import Path
from types import SimpleNamespace

import ezdxf
import numpy as np
import pypdf
import shapely
import trimesh

from kelvor.core.build.mass.board_mass import core_solid
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.templates.cutting_out import KERF, WIRE
from kelvor.core.templates.rail_bands import first_cuts, rail_bands
from kelvor.demo.boards import all_demo_boards
from kelvor.exchange.export import export
from kelvor.exchange.templates import SHEETS, templates
from tests.support import cut_away, demo, plain_board, shape_of, v_layer

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
    def sheets(self, paper):
        """Each sheet's size, drawing operators and words."""
        pages = pypdf.PdfReader(self.write("pdf", paper=paper)).pages
        return [(p.mediabox[2:], p.get_contents().get_data().decode("latin-1"), p.extract_text()) for p in pages]

    def test_sheets_bar_and_marks(self):
        for paper, (wide, high) in SHEETS.items():
            with self.subTest(paper):
                for box, page, words in self.sheets(paper):  # either way up, whichever takes fewer sheets
                    np.testing.assert_allclose(sorted(map(float, box), reverse=True), [wide * MM, high * MM], atol=0.02)
                    bars = [
                        (float(a), float(b)) for a, b in re.findall(r"n ([\d.]+) [\d.]+ m ([\d.]+) [\d.]+ l S", page)
                    ]
                    self.assertTrue(any(abs((b - a) / MM - 100) < 0.01 for a, b in bars), "100 mm check bar")
                    self.assertGreaterEqual(len(re.findall(r" c\b", page)), 4, "registration circles")
                    self.assertIn("Follow the data sheets", words)
                    self.assertRegex(words, r"sheet \d+/\d+ along, \d+/\d+ up")

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

    def test_all_that_is_marked_is_on_template_and_drawing(self):
        """Boxes, tracks, inserts, plugs, lines of cut-outs, stations, the base line and the fins, where they belong."""
        board, _ = demo("shearwater-76")
        found = {t.title: t for t in templates(shape_of(board), board.length)}
        words = " ".join(note for _, _, note in found["Half outline"].notes)
        for name in ("Cut-outs", "Centre fin, 80 mm deep", "Mast track", "Vent", "Front straps", "Back straps"):
            self.assertIn(name, words)
        box = board.fittings.fin_boxes[0]
        fin = found[f"Fin, {box.name}: {box.fin.name}"]
        self.assertAlmostEqual(fin.size()[1], 1000 * (box.fin.span + box.fin.set_depth), delta=0.01)
        self.assertIn("keel 0.0 mm", " ".join(note for _, _, note in found["Rocker: keel, rail and deck"].notes))
        path = self.folder / "marked.dxf"
        export(board, "dxf", path)
        lines = list(ezdxf.readfile(path).modelspace().query("LWPOLYLINE"))
        of = {layer: [line for line in lines if line.dxf.layer == layer] for layer in {x.dxf.layer for x in lines}}
        rows = board.fittings.straps
        holes = sum(r.inserts * len({r.half_spread, r.outboard or r.half_spread}) * 2 for r in rows)
        self.assertEqual(len(of["plan inserts deck"]), holes)
        for layer in ("plan lines bottom", "plan mast track deck", "plan stations", "profile base", "fins"):
            self.assertTrue(of[layer], layer)
        (slot,) = of["plan boxes bottom"]
        places = np.array([point[:2] for point in slot.get_points()])
        middle = 1000 * (box.at.x(board.length, board.mast_x) + box.fin.base / 2)
        np.testing.assert_allclose(places.mean(axis=0), [middle, 0.0], atol=1e-6)
        np.testing.assert_allclose(np.ptp(places, axis=0), [1000 * v for v in BOX_SIZES[box.kind][:2]], atol=1e-6)

    def test_every_place_on_the_paper_is_the_boards(self):
        """Of all demo boards: straps, boxes, tracks and plugs, and how high keel and rail are."""
        for item in all_demo_boards():
            board, shape = item.start, shape_of(item.start)
            found = {t.title: t for t in templates(shape, board.length)}
            told = [words for _, _, words in found["Half outline"].notes]
            fittings, where = board.fittings, (board.length, board.mast_x)
            wanted = [(row.name, row.at.x(*where)) for row in fittings.straps]
            wanted += [(box.name, box.at.x(*where) + box.fin.base / 2) for box in fittings.fin_boxes]
            wanted += [(plug.kind.capitalize(), plug.at.x(*where)) for plug in fittings.plugs]
            if fittings.tracks is not None:
                wanted.append(("Foil tracks" if fittings.tracks.spacing else "Foil box", fittings.tracks.at.x(*where)))
            if fittings.mast_track is not None:
                wanted.append(("Mast track", fittings.mast_track.at.x(*where)))
            for name, place in wanted:
                with self.subTest(board.name, fitting=name):
                    line = re.compile(rf"^{re.escape(name)}\b.*, middle ([\d.]+) cm, ")
                    places = [float(read[1]) for words in told if (read := line.match(words))]
                    self.assertTrue(any(abs(place * 100 - at) < 0.051 for at in places), told)
            measured = geometry(board)
            for _, _, words in found["Rocker: keel, rail and deck"].notes:
                if read := re.fullmatch(r"([\d.]+) cm: keel (-?[\d.]+) mm, rail (-?[\d.]+) mm", words):
                    x, keel, rail = (float(part) for part in read.groups())
                    for told_, line in ((keel, measured.keel_line), (rail, measured.rail_line)):
                        self.assertAlmostEqual(told_, 1000 * measured.at(line, x / 100), delta=0.3, msg=words)

    def test_a_hot_wire_and_a_bed_give_the_profile_and_the_rocker(self):
        """The wire's template stands out of the foam by half the kerf less the wire's radius, all round; shapely
        measures it. The bed's edge is the bottom's centreline.
        """
        board, _ = demo("shearwater-76")
        shape = shape_of(board)
        path = self.folder / "wire.dxf"
        export(board, "dxf", path)
        lines = {line.dxf.layer: line for line in ezdxf.readfile(path).modelspace().query("LWPOLYLINE")}
        wire = np.array([p[:2] for p in lines["hot wire"].get_points()])
        low = float(wire[:, 1].max()) - 1000 * float(shape.z.max()) - (KERF - WIRE) / 2 * 1000
        x = shape.x * 1000
        foam = np.concatenate(
            [
                np.column_stack([x, 1000 * shape.z.max(axis=1) + low]),
                np.column_stack([x, 1000 * shape.z.min(axis=1) + low])[::-1],
            ]
        )
        edge = shapely.LineString(foam)
        inner = wire[(wire[:, 0] > 150) & (wire[:, 0] < x[-1] - 150)]
        away = np.array([edge.distance(shapely.Point(p)) for p in inner[::5]])
        np.testing.assert_allclose(away, (KERF - WIRE) / 2 * 1000, atol=0.02)
        self.assertTrue(all(shapely.Polygon(wire).buffer(0.05).contains(shapely.Point(p)) for p in foam[5:-5:20]))
        bed = np.array([p[:2] for p in lines["rocker bed"].get_points()])
        up = bed[:, 1] - bed[:, 1].min()
        np.testing.assert_allclose(up, 1000 * (shape.keel - shape.keel.min()), atol=0.001)
        found = {t.title: t for t in templates(shape, board.length)}
        self.assertIn("melts 1.2 mm", found["Hot-wire profile"].notes[0][2])
        self.assertGreater(len(found["Rocker bed: long side, under the centreline"].notes), 4)

    def test_rail_bands_of_a_round_rail_are_those_of_a_polygon_of_sixteen_sides(self):
        """A closed form: flats about a circle of radius r are 2 r tan 11.25° wide; the first, at 45° on the square,
        leaves it r (2 - √2) from its corner.
        """
        r, turn = 0.04, np.linspace(-np.pi / 2, np.pi / 2, 2001)
        round_, flat = np.stack([0.3 + r * np.cos(turn), r * np.sin(turn)], 1), np.linspace(0.0, 0.3, 50)
        half = np.concatenate([np.stack([flat, -r + 0 * flat], 1), round_, np.stack([flat[::-1], r + 0 * flat], 1)])
        shape = SimpleNamespace(y=half[None, :, 0], z=half[None, :, 1], deck=np.array([r]))
        bands = rail_bands(shape, 0)
        self.assertEqual(
            [round(float(np.degrees(band.faces)), 1) for band in bands], [67.5, 45, 22.5, -22.5, -45, -67.5]
        )
        for band in bands:
            self.assertAlmostEqual(band.width, 2 * r * math.tan(math.pi / 16), delta=1e-6)
        for cut in first_cuts(shape, 0):
            self.assertAlmostEqual(cut.inset, r * (2 - math.sqrt(2)), delta=1e-6)

    def test_no_flat_cuts_into_the_rail(self):
        for slug in ("dunlin-39", "kittiwake-109", "redshank-137", "heron-14"):
            shape = shape_of(demo(slug)[0])
            for index in range(8, len(shape.x) - 8, 25):
                points = np.stack([shape.y[index], shape.z[index]], 1)
                for band in rail_bands(shape, index):
                    over = points @ [math.cos(band.faces), math.sin(band.faces)]
                    reach = np.dot(band.upper, [math.cos(band.faces), math.sin(band.faces)])
                    self.assertAlmostEqual(float(over.max()), float(reach), delta=1e-9)
