"""Made boards in the Build view: weighed, measured, scanned, planned, photographed, shipped."""

import re

import numpy as np
import pypdf
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.base.units import Quantity, System, parse
from kelvor.core.build.mass.stages import WeighIn, forecasts
from kelvor.core.made.made_boards import KINDS, made_boards
from kelvor.core.made.sheet import lines_to_measure
from kelvor.ui.build.made import Making
from kelvor.ui.compare.prototypes import prototypes_of
from tests.core.made.test_scan import scanned
from tests.ui.build.build_case import BuildCase


class MadeBoards(BuildCase):
    def test_weigh_ins_from_the_scale_and_typed(self):
        view = self.view.weigh_ins
        self.show_tab("Boards made")
        self.begin("K-20")
        self.show_tab("Weigh-ins")
        self.assertIn("K-20, of version", view.of.text())
        view.stage.setCurrentIndex(view.stage.findData("shaped"))
        view.read_button.click()
        self.wait_for(lambda: not view.scale.reading())
        self.assertRegex(view.field.text(), r"^\d\.\d{3} kg$")
        view.field.setText(f" {view.field.text()} ")  # a space more makes no measured one of it
        view.write_button.click()
        view.stage.setCurrentIndex(view.stage.findData("laminated"))
        view.field.setText("5 lb")
        view.write_button.click()
        rows = {self.row(view.table, i)[0]: self.row(view.table, i) for i in range(view.table.rowCount())}
        # the stand-in's reading is shown as what it is, and neither opens a gap nor closes one
        self.assertRegex(rows["Shaped"][2], r"^\d\.\d{3} kg, simulated$")
        self.assertEqual(rows["Shaped"][3], "")
        self.assertIn("counts for nothing", rows["Shaped"][4])
        self.assertIn("came with the block, the cut, shaping and laminating", rows["Laminated"][4])
        view.field.setText("heavy")
        view.write_button.click()
        self.assertIn("not a number", view.problem.text())
        self.assertEqual(view.field.text(), "heavy")
        kept = made_boards(self.session.workshop.store.records.newest(*KINDS))[-1]
        self.assertEqual(kept.value.serial, "K-20")
        self.assertEqual({w.stage: w.origin for w in kept.weighed}, {"shaped": "simulated", "laminated": "measured"})

    def test_two_boards_of_one_design_never_mix(self):
        """Weights, hours and words of each; a serial is borne once; all of it struck out or taken back, never lost."""
        boards, weigh, making = self.view.boards, self.view.weigh_ins, self.session.service(Making)
        self.show_tab("Boards made")
        before = boards.table.rowCount()
        first = boards.serial.text()  # the workshop's own way of counting, gone on with
        self.assertEqual(first, "SK-11")
        self.begin(first, "Aron Lie")
        self.begin(first.lower())
        self.assertIn("another board bears", boards.problem.text())
        self.begin("SK-12")
        self.assertEqual(boards.table.rowCount(), before + 2)
        self.show_tab("Weigh-ins")
        weigh.stage.setCurrentIndex(weigh.stage.findData("finished"))
        weigh.field.setText("2.61 kg")
        weigh.write_button.click()
        self.show_tab("Boards made")
        boards.table.selectRow(before)  # the other one goes under the lamp
        self.assertEqual(making.chosen().value.serial, first)
        self.show_tab("Weigh-ins")
        self.assertFalse([row for row in self.rows(weigh.table) if row[2]])
        self.show_tab("Boards made")
        boards.hours.setText("two")
        boards.words.setText("Rails by hand.")
        boards.write_button.click()
        self.assertIn("no number of hours", boards.problem.text())
        self.assertEqual(boards.words.text(), "Rails by hand.")
        boards.hours.setText("2,5")
        boards.write_button.click()
        self.assertEqual([row[5:7] for row in self.rows(boards.table)][before:], [("2.5", ""), ("", "2.61 kg")])
        boards.entries.selectRow(0)
        boards.strike_button.click()
        self.assertIn("reason", boards.problem.text())
        boards.words.setText("hours of the other one")
        boards.strike_button.click()
        self.assertIn("struck out, hours of the other one: 2.5 h", self.row(boards.entries, 0)[2])
        self.assertEqual(self.row(boards.table, before)[5], "")
        boards.where.setCurrentIndex(boards.where.findData("out on loan"))
        boards.where.activated.emit(boards.where.currentIndex())
        boards.whose.setText("Ronja")
        boards.whose.editingFinished.emit()
        self.assertEqual(self.row(boards.table, before)[7], "out on loan, Ronja")
        self.assertEqual(self.session.versions.serial(), first)  # on drawings and files from now on
        for _ in range(4):
            self.trigger("edit.undo")
        self.assertEqual(self.row(boards.table, before)[5:8], ["", "", "in the shop"])
        self.assertEqual(boards.entries.rowCount(), 0)

    def test_a_photo_of_the_work_is_kept_whole_and_shown(self):
        boards = self.view.boards
        self.show_tab("Boards made")
        self.begin("K-21")
        wrong, right = self.folder / "notes.jpg", self.folder / "rails.png"
        wrong.write_text("no photo")
        self.assertFalse(boards.take_photo(wrong))
        self.assertIn("notes.jpg", boards.problem.text())
        self.window.grab().save(str(right))
        self.assertTrue(boards.take_photo(right))
        boards.words.setText("rails")
        boards.write_button.click()
        self.assertIn("a photo", self.row(boards.entries, 0)[2])
        self.wait_for(lambda: not self.session.workshop.saving.waiting)
        boards.entries.selectRow(0)
        boards.entries.itemActivated.emit(boards.entries.item(0, 0))
        panel = self.window.dialogs.shown[-1]
        self.assertEqual(panel.windowTitle(), "K-21, blank")
        self.assertGreater(panel.picture.pixmap().width(), 300)
        sha = self.session.service(Making).chosen().entries[0].value.photo
        self.assertEqual(self.session.workshop.store.records.blob(sha), right.read_bytes())

    def test_weights_from_before_serials_go_with_the_first_board(self):
        session, weigh = self.session, self.view.weigh_ins
        session.file.open_board(next(b.id for b in session.workshop.store.boards() if b.name.startswith("Heron")))
        session.workshop.tables.weigh(session.board_id, session.current, WeighIn("shaped", 4.2))
        self.show_tab("Weigh-ins")
        self.assertIn("takes these weights over", weigh.of.text())
        self.assertFalse(weigh.write_button.isEnabled())
        self.show_tab("Boards made")
        self.begin("K-1")
        self.assertEqual(
            (session.service(Making).chosen().weighed, session.workshop.tables.weighed), ((WeighIn("shaped", 4.2),), ())
        )
        self.trigger("edit.undo")
        self.assertEqual(
            (session.service(Making).boards(), session.workshop.tables.weighed), ((), (WeighIn("shaped", 4.2),))
        )

    def test_what_a_scale_said_is_told_of_the_version_that_was_on_it_alone(self):
        self.show_tab("Boards made")
        self.begin("K-4")
        self.session.service(Making).weigh(WeighIn("finished", 2.51))

        cut = self.session.current
        self.assertTrue(self.shape.levers.pull("volume", "45"))
        told = {one.step: one.measured for one in prototypes_of(self.session, "versions", {})}
        self.assertEqual([step for step, words in told.items() if "K-4 " in words], [cut], told)

    def test_a_board_is_weighed_against_the_version_it_is_made_of(self):
        self.show_tab("Boards made")
        self.begin("K-3")
        self.show_tab("Weigh-ins")
        table = self.view.weigh_ins.table
        planned = [row[1] for row in self.rows(table)]
        self.assertTrue(self.shape.levers.pull("volume", "45"))
        self.app.processEvents()
        self.view.refresh()
        self.assertEqual([row[1] for row in self.rows(table)], planned)

    def test_a_builder_who_reads_inches_weighs_and_measures_in_them(self):
        self.show_tab("Boards made")
        self.begin("K-5")
        self.session.set_system(System.INCH)
        self.show_tab("Weigh-ins")
        panel = self.view.weigh_ins
        panel.field.setText("6 lb 2 oz")
        panel.write()
        [said] = self.session.service(Making).chosen().weighed
        self.assertAlmostEqual(said.mass, 6.125 * 0.45359237, places=9)  # the international pound
        row = next(row for row in self.rows(panel.table) if row[2])
        self.assertEqual(row[2], "6 lb 2.0 oz")
        self.assertRegex(row[1], r"^\d+ lb [\d.]+ oz ± [\d.]+ oz$")
        self.assertRegex(row[3], r"^[+−][\d.]+ oz$")
        self.assertNotRegex(" ".join(row), r"\d g\b|kg")
        self.show_tab("Measures")
        sheet = self.view.sheet
        self.assertFalse([row[0] for row in self.rows(sheet.table) if " cm" in row[0] or " mm" in row[0]])
        at = next(i for i, row in enumerate(self.rows(sheet.table)) if row[0].startswith("Hollow across"))
        told = self.row(sheet.table, at)[2].removeprefix("± ")
        judged = sheet.lines[at].measure.tool.tolerance
        self.assertAlmostEqual(parse(told, Quantity.DEPTH), judged, delta=2e-5)  # shown as it is judged, not 1/32"

    def test_a_measure_sheet_is_typed_with_gloves_on(self):
        """A number and Enter, line by line; what ruins boards is found, and what the tool cannot tell is said."""
        self.show_tab("Boards made")
        self.begin("K-30")
        self.show_tab("Measures")
        sheet = self.view.sheet
        typed = {
            "Twist, tail against nose": ("0.4", "✓ pass"),
            "Keel, 91.4 cm, before the bag": ("0.4", "✓ pass"),
            "Keel, 91.4 cm, after the bag": ("4.4", "✗ fail"),  # four millimetres more than before it
            "Half width, 30.5 cm, left": ("22.6", "? cannot tell"),
            "Foil plate, gap": ("0.4", "✗ fail"),
            "Foil tracks, apart, aft": ("90.1", "✓ pass"),
        }
        for name, (words, verdict) in typed.items():
            at = next(i for i, row in enumerate(self.rows(sheet.table)) if row[0] == name)
            sheet.table.selectRow(at)
            QTest.keyClicks(sheet.field, words)
            QTest.keyClick(sheet.field, Qt.Key.Key_Return)
            self.assertEqual(self.row(sheet.table, at)[5], verdict, name)
            self.assertIn(verdict, sheet.last.text())
            self.assertEqual(sheet.table.currentRow(), min(at + 1, sheet.table.rowCount() - 1))
        self.assertIn("6 of 60 read: 3 pass, 2 fail, 1 the tool cannot tell", sheet.summary.text())
        self.assertIn("at 91.4 cm rose 4.0 mm", sheet.summary.text())
        sheet.table.selectRow(1)
        QTest.keyClick(sheet.field, Qt.Key.Key_Down)
        self.assertEqual(sheet.table.currentRow(), 2)
        QTest.keyClicks(sheet.field, "flat")
        QTest.keyClick(sheet.field, Qt.Key.Key_Return)
        self.assertIn("not a number", sheet.problem.text())
        self.assertEqual(sheet.field.text(), "flat")
        # what is let pass is the workshop's own
        sheet.table.selectRow(1)
        sheet.most.setText("0.5")
        QTest.keyClick(sheet.most, Qt.Key.Key_Return)
        self.assertEqual(self.row(sheet.table, 1)[2:6], ["± 0.5 mm", "0.4 mm", "+0.4 mm", "? cannot tell"])
        path = self.folder / "sheet.pdf"
        self.window.papers.write_measures(path)
        self.wait_for(path.exists)
        page = pypdf.PdfReader(path).pages[0].extract_text()
        self.assertIn("K-30", page)
        self.assertIn(self.session.service(Making).stamp().code, page)
        self.assertIn("cannot tell", page)
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        self.assertEqual(self.row(sheet.table, 1)[2], "± 1.0 mm")
        self.assertEqual(sheet.lines[-1].read, None)

    def test_a_board_as_measured_lies_behind_and_becomes_a_board(self):
        """Three millimetres wider all along: told in litres, laid behind, kept, ridden."""
        session = self.session
        self.show_tab("Boards made")
        self.begin("K-32")
        self.show_tab("Measures")
        sheet = self.view.sheet
        for at, line in enumerate(sheet.lines):
            if line.measure.kind == "width":
                sheet.table.selectRow(at)
                sheet.field.setText(f"{line.measure.should * 100 + 0.3:.2f}")
                sheet.write()
        self.wait_for(lambda: bool(sheet.built.text()))
        self.assertRegex(sheet.built.text(), r"As measured: volume, finished 38\.\d L \(\+0\.\d L more\)")
        self.assertRegex(sheet.built.text(), r"max width 49\.\d cm \(\+0\.6 cm wider\)")
        self.assertIn("rocker and thickness as designed, for want of readings", sheet.built.text())
        sheet.behind_button.click()
        self.assertIn("K-32 as measured", [other.name for other in session.overlays.others()])
        planned = session.live.geometry.solid.volume
        sheet.keep_button.click()
        self.assertEqual(session.board.name, "Dunlin 39 K-32")
        self.assertGreater(session.live.geometry.solid.volume, planned + 3e-4)
        self.trigger("edit.undo")
        self.assertEqual(session.board.name, "Dunlin 39")

    def test_the_schedule_is_ticked_and_its_clock_goes_by_the_room(self):
        self.show_tab("Boards made")
        self.begin("K-33")
        self.view.boards.schedule_button.click()
        panel = self.window.dialogs.shown[-1]
        self.assertIn("K-33", panel.windowTitle())

        def states():
            return {row[0]: row[5] for row in self.rows(panel.table)}

        self.assertEqual([work for work, state in states().items() if state], ["Cut and shape"])
        panel.humidity.setText("55")
        panel.batch.setText("lot 7, 100 to 30")
        for _ in range(3):
            panel.do.click()
        self.assertIn("20 °C, 55 %, lot 7, 100 to 30", self.row(panel.table, 0)[6])
        self.assertEqual(states()["Cut and shape"], "done")
        self.assertRegex(states()["Laminate, bottom"], r"^done, cures \d+ h \d\d more$")
        warm = panel.words.text()
        panel.room.setText("10")
        panel.refresh()
        self.assertNotEqual(panel.words.text(), warm)
        cold = int(re.search(r"(\d+) h", states()["Laminate, deck"])[1])
        panel.room.setText("20")
        panel.refresh()
        self.assertAlmostEqual(cold, 2 * int(re.search(r"(\d+) h", states()["Laminate, deck"])[1]), delta=2)
        panel.room.setText("hot")
        panel.do.click()
        self.assertIn("not a number", panel.problem.text())
        self.trigger("edit.undo")
        panel.room.setText("20")
        panel.refresh()
        self.assertEqual(states()["Laminate, bottom"][:2], "in")

    def test_a_reading_of_another_unit_or_place_is_refused_with_what_it_should_be(self):
        self.show_tab("Boards made")
        self.begin("K-36")
        self.show_tab("Measures")
        panel = self.view.sheet
        at = max(range(len(panel.lines)), key=lambda i: panel.lines[i].measure.should)
        for words in ("9 m", "3 mm"):
            panel.table.selectRow(at)
            self.type(panel.field, words)
            self.assertRegex(
                panel.problem.text(), rf"“{words}” is .*\. It should read .*: check the unit, and the place"
            )
        rocker = next(
            i for i, line in enumerate(panel.lines) if line.measure.kind == "rocker" and line.measure.should > 0.02
        )
        should = panel.lines[rocker].measure.should
        panel.table.selectRow(rocker)
        self.type(panel.field, f"{should * 1000:.0f} cm")  # millimetres typed as centimetres
        self.assertIn("check the unit", panel.problem.text())
        self.assertEqual(self.session.service(Making).chosen().readings, {})
        self.type(panel.field, f"{should * 1000 + 4:.0f} mm")
        self.assertEqual(panel.problem.text(), "")
        self.assertEqual(len(self.session.service(Making).chosen().readings), 1)

    def test_a_scan_is_laid_on_and_coloured(self):
        self.show_tab("Boards made")
        self.begin("K-35")
        dented = scanned(self.session.live.geometry.shape, 30_000, dents=((0.7, 0.1, 0.004, 0.015),))
        points = 1000 * dented + [40, 5, -12]
        path = self.folder / "scan.xyz"
        np.savetxt(path, points, fmt="%.3f")
        self.window.papers.read_scan(path)
        self.wait_for(lambda: bool(self.window.dialogs.shown), 40)
        panel = self.window.dialogs.shown[-1]
        self.assertIn("K-35", panel.windowTitle())
        self.assertRegex(panel.words.text(), r"points, read as mm\. Nine tenths lie within 0\.\d\d mm")
        row = self.row(panel.table, 0)
        self.assertRegex(row[1], r"^(69|70)\.\d cm from the tail, (9|10|11)\.\d cm to port")
        self.assertRegex(row[2], r"^[34]\.\d\d mm low")
        pixels = panel.picture.grab().toImage()
        colours = {pixels.pixelColor(x, y).name() for x in range(0, pixels.width(), 3) for y in range(0, 300, 3)}
        self.assertGreater(len(colours), 10)
        panel.close()
        bad = self.folder / "bad.xyz"
        bad.write_text("1 2 3\n1 x 3\n", encoding="utf-8")
        self.window.papers.read_scan(bad)
        self.wait_for(lambda: "line 2" in self.window.heard.text())

    def test_the_stage_card_goes_along_with_the_board(self):
        self.show_tab("Boards made")
        self.begin("K-34")
        path = self.folder / "card.pdf"
        self.window.papers.write_stage_card(path)
        self.wait_for(path.exists)
        words = " ".join(pypdf.PdfReader(path).pages[0].extract_text().split())
        self.assertIn("K-34", words)
        self.assertIn(self.session.service(Making).stamp().code, words)
        for item in self.session.service(Making).schedule():
            self.assertIn(item.words, words)
        finished = forecasts(self.session.live.geometry, self.session.live.mass)[-1]
        self.assertIn(f"Finished {finished.mass:.3f} ± {finished.band:.3f} kg", words)
        self.assertIn("data sheet comes first", words)

    def test_ship_card_and_care_sheet(self):
        """On one paper with the stamp: the scale beside the forecast, what is off, and care for what it is of."""
        self.show_tab("Boards made")
        path = self.folder / "papers.pdf"
        self.begin("K-34", "Aron Lie")
        self.session.service(Making).weigh(WeighIn("finished", 2.71))
        gap = next(m for m in lines_to_measure(self.session.service(Making).live().geometry) if m.key == "flat.tracks")
        self.session.service(Making).read(gap, "", 4e-4)
        self.window.papers.write_papers(path)
        self.wait_for(path.exists)
        words = " ".join(" ".join(page.extract_text().split()) for page in pypdf.PdfReader(path).pages)
        stamp = self.session.service(Making).stamp()
        for said in (
            "K-34",
            stamp.code,
            "2.710 kg on the scale, finished (forecast 2.633 ± 0.157 kg finished)",
            "Prototype, not for sale: foil plate, gap is off",
            "0 of 1 readings pass",
            "Polystyrene softens",
            "Carbon dust",
            "A mast with a crack",
        ):
            self.assertIn(said, words)
        self.assertNotIn("Hand tight", words)  # there is no fin on it
        handed = self.session.workshop.registers.of("handed out")
        self.assertIn(("ship card", stamp.code, "K-34"), [(r.value.name, r.value.code, r.value.serial) for r in handed])

    def test_the_simulated_gauge_finds_one_place_and_stays_marked(self):
        self.show_tab("Boards made")
        self.begin("K-35")
        self.show_tab("Measures")
        page = self.view.sheet
        at = next(i for i, line in enumerate(page.lines) if line.side == "after the bag")
        page.table.selectRow(at)
        page.gauge_button.click()
        self.wait_for(lambda: any(line.read is not None for line in page.lines))
        read = [(i, line) for i, line in enumerate(page.lines) if line.read is not None]
        self.assertEqual({(line.measure.kind, line.side) for _, line in read}, {("rocker", "after the bag")})
        self.assertEqual([line.outcome for _, line in read].count("fail"), 1)
        self.assertTrue(all(self.row(page.table, i)[5].endswith(" simulated") for i, _ in read))
        self.assertEqual(page.built.text(), "")  # no shape is told from what a stand-in said
        self.assertEqual(page.summary.text(), f"{len(read)} simulated, which count for nothing.")
        # what is measured takes its place, and is not drawn over again, not even where both say the same
        page.table.selectRow(at)
        self.session.service(Making).read(page.lines[at].measure, "after the bag", page.lines[at].read)
        self.assertFalse(self.row(page.table, at)[5].endswith("simulated"))
        page.table.selectRow(at)
        page.gauge_button.click()
        self.wait_for(lambda: not page.gauge.reading())
        self.assertFalse(self.row(page.table, at)[5].endswith("simulated"))
        self.assertIn("1 of 60 read", page.summary.text())
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        self.assertFalse(any(line.read is not None for line in page.lines))

    def test_a_degree_of_toe_is_found(self):
        session = self.session
        session.file.open_board(next(b.id for b in session.workshop.store.boards() if b.name.startswith("Kittiwake")))
        self.show_tab("Boards made")
        self.begin("K-31")
        self.show_tab("Measures")
        sheet = self.view.sheet
        at = next(i for i, line in enumerate(sheet.lines) if line.measure.key == "toe.1" and line.side == "left")
        should = np.degrees(sheet.lines[at].measure.should)
        for off, verdict in ((0.1, "✓ pass"), (0.3, "? cannot tell"), (1.0, "✗ fail")):
            sheet.table.selectRow(at)
            sheet.field.setText(f"{should + off:.2f}")
            sheet.write()
            self.assertEqual(self.row(sheet.table, at)[5], verdict)
