"""The whole way, as a new user goes it: brief, shape, float, keep, hand out."""

import re

import trimesh
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest

from kelvor.core.shape.edits.weights import Hold
from kelvor.ui.controls.fields import QuantityField
from tests.ui.case import WindowCase


class Purpose(WindowCase):
    def test_from_a_new_board_to_the_cutter_and_the_next_morning(self):
        # a board of her size
        self.trigger("board.new")
        panel = self.window.dialogs.shown[-1]
        panel.name.setText("Redshank 40")
        panel.length_field.setText("148")
        panel.width_field.setText("50,5")
        panel.volume.setText("40")
        panel.brief.setCurrentIndex(1)
        panel.do.click()
        self.app.processEvents()
        self.assertEqual(self.session.results.evaluation.findings, ())

        # who it is for
        self.trigger("view.brief")
        fields = {w.accessibleName(): w for w in self.window.views["brief"].findChildren(QuantityField)}
        for name, words in (("Mass, dressed", "72"), ("Height", "5'9\""), ("Wind", "16"), ("Mast length", "82 cm")):
            field = fields[name]
            field.setFocus()
            field.selectAll()
            QTest.keyClicks(field, words)
            QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertAlmostEqual(self.session.brief.rider.height, 69 * 0.0254)
        self.window.views["brief"].targets.add_target()

        # shaping: the hand on the plan, a typed rocker, volume held
        self.trigger("view.shape")
        self.trigger("lock.volume")
        before = {key: self.ledger(key).value for key in ("planform_area", "volume", "thickness")}
        start = self.bench.handle_point(Hold("outline", 3))
        self.drag(self.bench, start, start - QPointF(0, 4), start - QPointF(0, 14))
        after = {key: self.ledger(key).value for key in before}
        self.assertNotEqual(after["planform_area"], before["planform_area"])
        self.assertEqual(after["volume"], before["volume"])
        self.assertNotEqual(after["thickness"], before["thickness"])
        self.assertTrue(self.shape.levers.pull("nose_rocker", "3 1/2 in"))
        self.assertEqual(self.lever_text("nose_rocker"), "88.9 mm")

        # how it floats her
        self.session.results.settle_now()
        self.app.processEvents()
        self.assertRegex(self.window.strip.tiles[0].tile.headline, r"^deck \d+ cm under$")
        self.assertRegex(self.window.strip.tiles[0].tile.lines[0], r"^knees [\d.]+ cm either way")
        self.assertEqual(self.window.strip.tiles[0].tile.verdict, "no target")

        # handed out
        self.trigger("board.export")
        panel = self.window.dialogs.shown[-1]
        panel.kind.setCurrentIndex(panel.kind.findData("stl"))
        panel.surface.setCurrentIndex(1)
        path = self.folder / "core.stl"
        panel.path.setText(str(path))
        panel.do.click()
        self.wait_for(lambda: not panel.busy())
        core = trimesh.load(path, force="mesh")
        self.assertTrue(core.is_watertight)
        self.assertAlmostEqual(core.volume * 1e-9, self.session.results.figures()["core_volume"].value, delta=6e-5)
        panel.close()

        # the next morning
        board, words = self.session.board, self.tape_words()
        self.window.close()
        again = self.open_window()
        self.assertEqual(again.session.board, board)
        self.assertEqual(again.tape.words.toolTip(), words)
        self.assertEqual(again.session.brief.rider.mass, 72)
        self.assertIn("Holding volume", again.locks.text())
        self.assertTrue(re.search(r"version \d", again.title.text()))
        again.session.undo()
        self.assertNotEqual(again.session.board, board)
        again.close()
        again.session.workshop.store.close()
        again.deleteLater()
