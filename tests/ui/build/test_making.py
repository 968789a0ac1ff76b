"""From the design to a measured board: begun, cut on the simulated mill, weighed, measured, ridden as built, shipped;
each thing that leaves the program under one stamp.
"""

import zipfile

import pypdf
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.register.stamp import code_of
from kelvor.exchange.stamps import versions_of_code
from kelvor.ui.build.made import Making
from kelvor.ui.ride.ride_requests import RideRequests
from tests.ui.case import WindowCase


class FromDesignToBoard(WindowCase):
    settles = rides = True

    def tab(self, widget):
        self.view.tabs.setCurrentWidget(widget)
        self.app.processEvents()

    def read(self, line, words):
        sheet = self.view.sheet
        sheet.table.selectRow(line)
        sheet.field.setFocus()
        QTest.keyClicks(sheet.field, words)
        QTest.keyClick(sheet.field, Qt.Key.Key_Return)

    def text(self, path):
        return " ".join(" ".join(page.extract_text() for page in pypdf.PdfReader(path).pages).split())

    def test_the_whole_way(self):
        self.trigger("view.build")
        self.view = view = self.window.views["build"]
        session = self.session
        self.tab(view.boards)
        view.boards.serial.setText("26-100")
        view.boards.serial.setModified(True)
        view.boards.begin_button.click()
        # cut
        self.tab(view.mill)
        for name, words in (("step", "15 mm"), ("flat", "6 mm")):
            field = view.mill._often[name]
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, words)
            QTest.keyClick(field, Qt.Key.Key_Return)
        view.mill.cut_button.click()
        self.wait_for(lambda: not view.mill.busy, 90)
        self.assertTrue(view.mill.out_button.isEnabled(), view.mill.problem.text())
        programs = self.folder / "mill.zip"
        self.window.papers.write_programs(view.mill.order, programs)
        # weighed at three stages by the simulated scale, and once for good
        self.tab(view.weigh_ins)
        for stage, mass in (("cut", 0.83), ("laminated", 1.81), ("finished", 2.66)):
            session.service(Making).weigh(WeighIn(stage, mass))
        view.weigh_ins.refresh()
        self.assertIn("2.660 kg", " ".join(view.weigh_ins.table.item(6, j).text() for j in range(3)))
        # measured: the simulated gauge first, then by hand, two stations of the rocker off
        self.tab(view.sheet)
        view.sheet.gauge_button.click()
        self.wait_for(lambda: not view.sheet.gauge.reading(), 30)
        self.assertTrue(any(line.simulated for line in view.sheet.lines))
        rocker = [i for i, line in enumerate(view.sheet.lines) if line.measure.kind == "rocker"]
        first = view.sheet.lines[rocker[0]].side
        for i in rocker:
            line = view.sheet.lines[i]
            if line.side == first:
                off = 0.004 if line.measure.place > 1.0 else 0.0
                self.read(i, f"{(line.measure.should + off) * 1000:.1f} mm")
        self.wait_for(lambda: bool(view.sheet.built.text()), 20)
        verdicts = [line.outcome for line in view.sheet.lines if line.counts]
        self.assertIn("fail", verdicts)
        self.assertIn("pass", verdicts)
        # what that does to the ride: as built, behind the board on the bench
        view.sheet.behind_button.click()
        beside = session.overlays.beside[-1]
        self.assertEqual(beside.name, "26-100 as measured")
        self.wait_for(
            lambda: (
                session.service(RideRequests).of(beside.live) is not None and not session.service(RideRequests).behind()
            ),
            90,
        )
        ours, theirs = session.service(RideRequests).figures(), session.service(RideRequests).of(beside.live)
        moved = [f.key for f in theirs.figures if f.key in ours and f.exists and f.value != ours[f.key].value]
        self.assertGreater(len(moved), 5)
        # papers
        card, sheet = self.folder / "card.pdf", self.folder / "sheet.pdf"
        self.window.papers.write_papers(card)
        self.wait_for(card.exists)
        self.window.papers.write_measures(sheet)
        self.wait_for(sheet.exists)
        self.wait_for(programs.exists)
        words = self.text(card)
        self.assertIn("2.660 kg on the scale", words)
        self.assertIn("Prototype, not for sale", words)  # a station of the rocker is off
        code = code_of(session.board)
        with zipfile.ZipFile(programs) as package:
            texts = [package.read(name).decode().splitlines()[0] for name in package.namelist()]
        for head in (*texts, words, self.text(sheet)):
            self.assertIn(code, head)
            self.assertIn("26-100", head)
        session.workshop.saving.save()
        told = " ".join(versions_of_code(code, self.path))
        for thing in ("programs for the mill", "ship card", "measure sheet"):
            self.assertIn(thing, told)
