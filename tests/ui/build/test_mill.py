"""The mill in Build: a made board cut on the simulated mill, refused where it does not fit, handed out once it is
proven.
"""

import zipfile

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.register.stamp import code_of
from kelvor.devices import mill as device
from kelvor.exchange.stamps import versions_of_code
from kelvor.ui.build.made import Making
from tests.ui.case import WindowCase


class Mill(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("build.mill")
        self.view = self.window.views["build"]
        self.panel = self.view.mill
        self.assertIs(self.view.tabs.currentWidget(), self.panel)

    def type(self, field, words):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, words)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.app.processEvents()

    def cut(self):
        self.panel.cut_button.click()
        self.wait_for(lambda: not self.panel.busy, 60)

    def coarse(self):
        self.type(self.panel._often["step"], "20 mm")
        self.type(self.panel._often["flat"], "6 mm")

    def test_a_made_board_is_cut_proven_and_handed_out_under_its_serial(self):
        """Stopped once and begun again; what changes afterwards takes its programs away until it is undone."""
        boards = self.view.boards
        boards.serial.setText("26-007")
        boards.serial.setModified(True)
        boards.begin_button.click()
        self.coarse()
        self.assertFalse(self.panel.out_button.isEnabled())
        self.panel.cut_button.click()
        self.assertEqual(self.panel.cut_button.text(), "Stop")
        self.wait_for(lambda: "The simulated mill cuts" in self.panel.words.text(), 60)
        self.wait_for(self.panel.milling.mill.reading, 60)
        self.panel.cut_button.click()
        self.assertFalse(self.panel.busy)
        self.assertIn("Stopped", self.panel.problem.text())
        self.assertEqual(self.panel.cut_button.text(), "Cut it, simulated")
        self.cut()
        self.assertEqual(self.panel.problem.text(), "")
        captions = self.panel.picture.captions
        self.assertEqual([words.split(",")[0] for words in captions], ["Deck", "Bottom"])
        for words in captions:
            self.assertIn("simulated", words)
            self.assertIn("nothing cut away", words)
        self.assertIn("foam under a pocket", self.panel.words.text())
        self.assertFalse(self.panel.grab().isNull())
        path = self.folder / "mill.zip"
        self.window.papers.write_programs(self.panel.order, path)
        self.wait_for(path.exists)
        with zipfile.ZipFile(path) as package:
            names = package.namelist()
            texts = {name: package.read(name).decode() for name in names}
        faces = [(side, kind) for side in ("deck", "bottom") for kind in ("flat", "ball", "flat")]
        self.assertEqual(
            names, [f"{i}-{side}-{kind}.nc" for i, (side, kind) in enumerate(faces, 1)] + ["READ FIRST.txt"]
        )
        for text in texts.values():
            head = text.splitlines()[0]
            self.assertIn("26-007", head)
            self.assertIn(code_of(self.session.board), head)
        self.assertIn("hand on the stop", texts["READ FIRST.txt"])
        self.session.workshop.saving.save()
        self.assertTrue(
            any("programs for the mill" in line for line in versions_of_code(code_of(self.session.board), self.path))
        )
        self.assertTrue(self.panel.out_button.isEnabled())
        self.type(self.panel._often["proud"], "0.5 mm")
        self.assertFalse(self.panel.out_button.isEnabled())
        self.assertIn("cut it again", self.panel.words.text())
        self.trigger("edit.undo")
        self.panel.refresh()
        self.assertEqual(self.session.service(Making).mill().proud, 0.00025)
        self.assertTrue(self.panel.out_button.isEnabled())

    def test_what_does_not_fit_is_said_and_nothing_runs(self):
        self.type(self.panel._sizes["thickness"], "90 mm")
        self.panel.cut_button.click()
        self.assertIn("stock's thickness: 90 mm is too small", self.panel.problem.text())
        self.assertFalse(self.panel.busy)
        self.panel.bought.click()
        self.coarse()
        self.type(self.panel._often["flat"], "30 mm")
        self.cut()
        self.assertIn("30.0 mm cutter is too wide", self.panel.problem.text())
        self.assertEqual(self.panel.picture.captions, ())
        self.assertFalse(self.panel.out_button.isEnabled())

    def test_the_mill_stops_where_its_nut_would_run_into_foam(self):
        self.coarse()
        self.window.dialogs.show_mill()
        form = self.window.dialogs.shown[-1].mill_form
        self.type(form.field("sticks_out"), "60 mm")
        self.assertEqual(self.session.service(Making).mill().sticks_out, 0.06)
        self.window.dialogs.shown[-1].close()
        self.cut()
        self.assertIn("The mill stopped", self.panel.problem.text())
        self.assertIn("the collet nut would run into foam", self.panel.problem.text())
        self.assertFalse(self.panel.out_button.isEnabled())

    def test_the_ridge_that_is_wanted_tells_how_far_apart_lines_run(self):
        self.type(self.panel._often["ball"], "25.4 mm")
        self.type(self.panel.ridge, "0.25 mm")
        self.assertAlmostEqual(
            self.session.service(Making).mill().step * 1e3, 5.0150, places=3
        )  # closed: R 12.7, h 0.25
        self.assertEqual(self.panel._often["step"].text(), "5.0 mm")
        self.type(self.panel.ridge, "9 mm")
        self.assertIn("Ridge", self.panel.problem.text())
        self.assertAlmostEqual(self.session.service(Making).mill().step * 1e3, 5.0150, places=3)

    def test_a_device_that_says_something_else_stops_the_cut(self):
        self.coarse()
        self.panel.cut_button.click()
        self.wait_for(self.panel.milling.mill.reading, 60)
        self.panel.milling._heard(f"{device.ALARM} 1-deck-ball.nc, line 3: G2 is not known")
        self.panel.milling.mill.stop(wait=True)
        self.wait_for(lambda: not self.panel.busy, 20)
        self.assertIn("line 3: G2 is not known", self.panel.problem.text())
