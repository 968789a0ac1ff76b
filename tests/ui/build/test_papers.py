"""Every number on paper is the board's: read back from the file and held against the board's mesh, in both unit
systems.
"""

import logging
import re
import tempfile
import unittest
from dataclasses import replace
from functools import cache
from itertools import cycle
from pathlib import Path

import numpy as np
import pypdf
import trimesh

from kelvor.core.base.units import Quantity, System, parse, pounds, text
from kelvor.core.build.mass.stages import STAGES, WeighIn, forecasts
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.made.made_boards import made_boards
from kelvor.core.made.sheet import lines_to_measure
from kelvor.core.register.kinds.shop import MadeBoard
from kelvor.core.register.record import Record
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.parts.construction import Ply
from kelvor.core.shape.surface.surface import mesh
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.demo.boards import demo_boards
from kelvor.exchange.beach_papers import write_history
from kelvor.exchange.handing_over import Sent, hand_over
from kelvor.exchange.measures import write_measures
from kelvor.exchange.sheets import write_sheet
from kelvor.exchange.templates import write_pdf
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.papers import card_rows
from kelvor.ui.build.shown.sheet import line_rows, sheet_lines
from kelvor.ui.water.shown.history import history
from tests.support import some
from tests.ui.build.build_case import BuildCase

logging.getLogger("pypdf").setLevel(logging.ERROR)  # of signs beyond sixteen bits it reads no words
METRIC = re.compile(r"\d ?(?:cm|mm|kg|m²|m)\b")
BEGAN = Record("m", "made board", 1, "", "", "claimed", False, MadeBoard(serial="K-1"), 1, 1)


@cache
def boards():
    """Slug, brief, what was computed, and the closed body, of every board of the demo."""
    found = []
    for slug, board, brief in demo_boards():
        live = evaluate_live(board, brief)
        drawn = mesh(live.geometry.shape)
        found.append((slug, brief, live, trimesh.Trimesh(drawn.vertices, drawn.triangles, process=False)))
    return found


def turns():
    """Boards of the demo, read in metres and in inches by turns."""
    return [(system, *board) for system, board in zip(cycle(System), some(boards(), 13), strict=False)]


def words_of(path):
    words = " ".join(" ".join(page.extract_text().split()) for page in pypdf.PdfReader(path).pages)
    assert "\0" not in words, words  # a sign that no face holds
    return words


def centre_line(body, x):
    """Heights at which the section at a place crosses the centre plane, the lower first."""
    rings = body.section(plane_origin=[x, 0, 0], plane_normal=[1, 0, 0]).discrete
    edges = [(a, b) for ring in rings for a, b in zip(ring[:-1], ring[1:], strict=True)]
    crossed = [a[2] + a[1] / (a[1] - b[1]) * (b[2] - a[2]) for a, b in edges if a[1] * b[1] <= 0 and a[1] != b[1]]
    return min(crossed), max(crossed), max(float(ring[:, 1].max()) for ring in rings)


class Papers(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "paper.pdf"

    def read(self, pattern, words, quantity, system):
        found = re.search(pattern.replace("#", r"((?:[\d'\" ./,\u202f−]|cm|mm|in|L|lb|oz|kg)+?)"), words)
        self.assertIsNotNone(found, (pattern, words))
        return parse(found[1], quantity, system)

    def test_the_ship_card_tells_the_board(self):
        [made] = made_boards([BEGAN])
        for slug, _, live, body in boards():
            board, (low, high) = live.board, body.bounds
            for system in System:
                rows = dict(card_rows(made, live, (), system))
                sizes, boxes = rows["Sizes, computed"], rows["Boxes and tracks"]
                told = self.read("volume, finished #$", sizes, Quantity.VOLUME, system)
                self.assertAlmostEqual(told, body.volume, delta=6e-5 + 1e-4 * body.volume, msg=slug)
                for key, value in (("^length", high[0] - low[0]), ("max width", high[1] - low[1])):
                    told = self.read(f"{key} #, ", sizes, Quantity.LENGTH, system)
                    self.assertAlmostEqual(told, value, delta=8e-4, msg=f"{slug}, {key}")
                for box in board.fittings.fin_boxes:
                    place = rf"{re.escape(box.name)}: [^;]*trailing edge # from"
                    should = box.at.x(board.length, board.mast_x)
                    told = self.read(place, boxes, Quantity.LENGTH, system)
                    self.assertAlmostEqual(told, should, delta=8e-4, msg=slug)
                if (tracks := board.fittings.tracks) is not None:
                    told = self.read("tracks, middle # from", boxes, Quantity.LENGTH, system)
                    self.assertAlmostEqual(told, tracks.at.x(board.length), delta=8e-4, msg=slug)
                    told = self.read("from the tail, # apart", boxes, Quantity.DEPTH, system)
                    self.assertAlmostEqual(told, tracks.spacing, delta=8e-4, msg=slug)
                metric = METRIC.findall(" ".join(rows.values()))
                self.assertEqual(bool(metric), system is System.METRIC, (slug, metric))

    def test_the_measure_sheet_reads_what_a_caliper_reads_on_the_body(self):
        for system, slug, _, live, body in turns():
            rows = line_rows(sheet_lines(lines_to_measure(live.geometry), None, {}), {}, system)
            write_measures(slug, "", rows, self.path, True)
            words, rocker = words_of(self.path), []
            told = self.read(r"verdict Length # ±", words, Quantity.LENGTH, system)
            self.assertAlmostEqual(told, body.extents[0], delta=5e-4, msg=slug)
            measures = [measure for measure in lines_to_measure(live.geometry) if np.isfinite(measure.place)]
            read = {x: centre_line(body, x) for x in {measure.place for measure in measures}}
            for measure in measures:
                low, high, half = read[measure.place]
                name = f"{re.escape(measure.named(system))}, {measure.sides[-1]}".removesuffix(", ")
                should = {"width": half, "thickness": high - low}.get(measure.kind)
                if measure.kind == "rocker":
                    told = self.read(f"{name} # ±", words, Quantity.DEPTH, system)
                    rocker.append((measure.place, low - told, told))
                elif should is not None:
                    told = self.read(f"{name} # ±", words, measure.tool.quantity, system)
                    self.assertAlmostEqual(told, should, delta=9e-4, msg=f"{slug}, {name}")
            # what lies between keel and rocker is a straight line, and it touches the bottom or its middle
            at, base, told = np.array(rocker).T
            slope, height = np.polyfit(at, base, 1)
            self.assertLess(np.ptp(base - slope * at - height), 1.1e-3, slug)
            self.assertAlmostEqual(slope, live.board.base.slope, delta=1e-3, msg=slug)
            if live.board.base.kind == "middle":
                self.assertAlmostEqual(told[np.argmin(abs(at - live.board.length / 2))], 0.0, delta=9e-4, msg=slug)
            self.assertGreater(told.min(), -3e-3, slug)
            self.assertEqual(bool(METRIC.search(words)), system is System.METRIC, slug)

    def test_the_cloth_on_the_material_sheet_covers_the_body(self):
        zones = ("bottom", "rail", "deck")
        plies = tuple(Ply(name=f"One {zone}", cloth="glass6", zone=zone) for zone in zones)
        size = r"([\d'\" ./cm]+?[\"'m])"
        for system, slug, brief, known, body in turns():
            construction = replace(known.board.construction, plies=plies, stringers=(), notes="")
            live = evaluate_live(replace(known.board, construction=construction), brief)
            finished = forecasts(live.geometry, live.mass)[-1].mass
            write_sheet(live, self.path, system, over=True)
            words, covered = words_of(self.path), 0.0
            for zone in zones:
                cells = re.search(rf"One {zone} [\w ]+ {zone} 1 {size} {size} ([\d.]+) m²", words)
                self.assertIsNotNone(cells, (slug, zone, words))
                long, wide = (parse(cells[i], Quantity.LENGTH, system) for i in (1, 2))
                covered += float(cells[3]) - 2 * 0.02 * (long + wide)  # cut two centimetres larger all round
                if zone == "bottom":
                    self.assertAlmostEqual(long, live.board.length, delta=0.03 * long, msg=slug)
            self.assertAlmostEqual(covered / body.area, 1.0, delta=0.02, msg=f"{slug}, {system}")
            told = self.read("finished # ±", words, Quantity.MASS, system)
            self.assertAlmostEqual(told, finished, delta=2e-3, msg=slug)
            metric = METRIC.findall(words.replace(" m²", ""))
            self.assertEqual(bool(metric), system is System.METRIC, (slug, metric))

    def test_a_history_tells_the_board_and_its_weights(self):
        weighed = WeighIn("finished", 5.125)
        [made] = made_boards([BEGAN])
        made = replace(made, weighed=(weighed,))
        for slug, brief, live, body in boards():
            for system in System:
                found = history(made, live, 3, brief, (), (), (), (), (), (), system)
                chapters = {chapter.title: dict(chapter.rows) for chapter in found}
                design = chapters["What it is"]["Design"]
                told = self.read(f"{live.board.name}, version 3, # × ", design, Quantity.LENGTH, system)
                self.assertAlmostEqual(told, body.extents[0], delta=8e-4, msg=slug)
                told = self.read("× #, ", design, Quantity.LENGTH, system)
                self.assertAlmostEqual(told, body.extents[1], delta=8e-4, msg=slug)
                told = self.read(r", ([\d.,]+ L|[\d.,]+ ft³|#)$", design, Quantity.VOLUME, system)
                self.assertAlmostEqual(told, body.volume, delta=6e-5 + 1e-4 * body.volume, msg=slug)
                scale, forecast, gap = re.split(", (?:forecast )?", chapters["What it weighs"]["Finished"])
                read, planned = (parse(words, Quantity.MASS, system) for words in (scale, forecast))
                self.assertAlmostEqual(read, 5.125, delta=2e-3)
                self.assertAlmostEqual(planned, live.mass.total.mass, delta=2e-3, msg=slug)
                self.assertEqual(gap[0], "+" if read > planned else "−", slug)
                metric = METRIC.findall(" ".join(chapters["What it is"].values()) + scale + forecast + gap)
                self.assertEqual(bool(metric), system is System.METRIC, (slug, metric))

    def test_the_page_of_two_boards_tells_how_their_bodies_differ(self):
        known = {slug: (live.board, brief, body) for slug, brief, live, body in boards()}
        for pair in (("dunlin-39", "stint-33"), ("shearwater-76", "shearwater-69"), ("grebe-14", "heron-14")):
            (one, brief, first), (other, _, second) = (known[slug] for slug in pair)
            sent = [Sent(Subject(board, brief, HANDBOOK, TABLE), board.name, figures={}) for board in (one, other)]
            words = words_of(hand_over(sent, self.path, over=True))
            for label, unit, sizes, grain in (
                ("Volume", "L", [1000 * body.volume for body in (first, second)], 0.11),
                ("Length", "cm", [100 * body.extents[0] for body in (first, second)], 0.06),
                ("Max width", "cm", [100 * body.extents[1] for body in (first, second)], 0.06),
            ):
                told = re.search(rf" {label} ([−+][\d.]+) {unit} ([\d.]+) → ([\d.]+) {unit}", words)
                if told is None:  # too little to be felt, or it follows from another
                    self.assertNotEqual(label, "Volume")
                    continue
                by, before, after = (float(value.replace("−", "-")) for value in told.groups())
                for read, size in ((before, sizes[0]), (after, sizes[1]), (by, sizes[1] - sizes[0])):
                    self.assertAlmostEqual(read, size, delta=grain, msg=f"{pair}, {label}")

    def test_any_sign_of_a_keyboard_is_printed(self):
        """Joined and from right to left where a language is: the letters as a browser would draw them, by eye."""
        rows = [("🏄\u200d♀️ « Ça glisse\u202f! »", "✓ Łódź Ωμέγα шторм\u00a0≤ 2 🌊"), ("日本", "نرم است")]
        write_history("Mésange 39 🌬️", "1\u202f320", [("Said ✗", "felt ○", rows)], self.path, True)
        words = words_of(self.path)
        for said in ("Mésange 39", "1 320", "Said ✗", "felt ○", "« Ça glisse ! »", "✓ Łódź Ωμέγα шторм ≤ 2", "♀"):
            self.assertIn(said, words)
        self.assertIn("\ufffd\ufffd", words)  # there is no face for these here: seen, not left out
        self.assertIn("ﺍﺳﺖ ﻧﺮﻡ", words)  # read off the page from left to right
        self.assertTrue(any("NotoEmoji" in name for name in self.faces()))
        shape, stamp = boards()[1][2].geometry.shape, Stamp(design="Mésange 🌬️", code="AAAA-BBBB", serial="نرم")
        write_pdf(shape, self.path, 1.5, stamp, "core")
        self.assertIn("Mésange", words_of(self.path))
        self.assertTrue(any("NotoEmoji" in name for name in self.faces()))

    def faces(self):
        fonts = pypdf.PdfReader(self.path).pages[0]["/Resources"]["/Font"]
        return [font.get_object()["/BaseFont"] for font in fonts.values()]


class InchPapers(BuildCase):
    """The papers the window writes, for one who reads inches: no metre among them but of cloth, which is sold by it."""

    def setUp(self):
        super().setUp()
        self.session.set_system(System.INCH)
        self.show_tab("Boards made")
        self.begin("K-50", "Aron Lie")

    def written(self, write):
        path = self.folder / "paper.pdf"
        path.unlink(missing_ok=True)
        write(path)
        self.wait_for(path.exists)
        words = words_of(path)
        self.assertIn(self.session.service(Making).stamp().code, words)
        self.assertEqual(METRIC.findall(words.replace(" m²", "")), [], words)
        return words

    def test_what_is_off_is_told_in_inches(self):
        live = self.session.service(Making).live()
        half = next(m for m in lines_to_measure(live.geometry) if m.kind == "width")
        self.session.service(Making).read(half, "left", half.should + 0.006)
        words = self.written(self.window.papers.write_papers)
        place = text(half.place, Quantity.LENGTH, System.INCH)
        self.assertIn(f"half width, {place} is off", words)
        self.assertIn(f"off: half width, {place}", words)
        words = self.written(self.window.papers.write_measures)
        self.assertRegex(words, rf'Half width, {place}, left \S+ in ± 0.059 in \S+ in \+\S+" ✗ fail')
        self.assertIn('Keel, 24", before the bag', words)  # two feet from the tail, as templates are drawn

    def test_the_stage_card_weighs_what_build_weighs(self):
        words = self.written(self.window.papers.write_stage_card)
        live, stages = self.session.live, list(STAGES)
        for forecast in forecasts(live.geometry, live.mass):
            found = re.search(rf"{forecast.stage.capitalize()} (\d+ lb [\d.]+ oz) ± (\d+ lb )?[\d.]+ oz", words)
            self.assertAlmostEqual(parse(found[1], Quantity.MASS, System.INCH), forecast.mass, delta=2e-3)
            stages.remove(forecast.stage)
        self.assertEqual(stages, [])
        rows = self.view.weigh_ins.table
        told = [rows.item(i, 1).text() for i in range(rows.rowCount())]
        self.assertTrue(all(line in words for line in told), told)

    def test_the_material_sheet_names_the_cloth_of_this_board(self):
        words = self.written(self.window.files.write_sheet)
        for item in self.session.live.mass.layup.plies:
            self.assertIn(f"{item.ply.name} {self.session.table.cloth(item.ply.cloth).name}", words)
        self.assertIn(f"Forecast {pounds(self.session.live.mass.total.mass, 1)} ±", words)
