"""What is handed out of the window: formats, stamps, what is there already."""

import shutil
import zipfile

from PySide6.QtCore import Qt

from kelvor.core.register.stamp import code_of
from kelvor.exchange.formats import WRITERS
from kelvor.ui.hand_out.dialog import HandOutDialog
from tests.ui.case import WindowCase


class HandingOut(WindowCase):
    def test_templates_and_meshes_are_written_beside_the_work(self):
        self.trigger("board.export")
        panel = self.window.dialogs.shown[-1]
        self.assertIsInstance(panel, HandOutDialog)
        for kind in ("pdf", "3mf"):
            panel.kind.setCurrentIndex(panel.kind.findData(kind))
            path = self.folder / f"out.{kind}"
            panel.path.setText(str(path))
            code, step = code_of(self.session.board), self.session.current
            panel.do.click()
            self.assertTrue(panel.busy())
            self.shape.levers.pull("volume", "39" if kind == "pdf" else "38")  # the work goes on meanwhile
            self.wait_for(lambda: not panel.busy())
            self.assertIn(f"Its stamp, {code}, finds this version", panel.problem.text())
            handed = self.session.workshop.registers.of("handed out")
            self.assertIn((code, step), [(record.value.code, record.step) for record in handed])
            self.assertTrue(path.stat().st_size > 20_000)
        self.assertTrue(zipfile.is_zipfile(path))
        self.trigger("view.rack")
        rack = self.window.views["rack"]
        rack.query.setText(code.lower())
        self.assertEqual(rack.view.current().card.name, "Dunlin 39")
        self.assertIn("out.3mf", rack.view.current().by[0].text)
        panel.path.setText(str(self.folder / "no" / "x.stl"))
        panel.kind.setCurrentIndex(1)
        panel.path.setText(str(self.folder / "no" / "x.stl"))
        panel.do.click()
        self.wait_for(lambda: not panel.busy())
        self.assertIn("no such file or folder", panel.problem.text())
        panel.path.setText(str(self.folder / "cancelled.stl"))
        panel.do.click()
        panel.do.click()
        self.wait_for(lambda: not panel.busy())
        self.assertIn("Cancelled", panel.problem.text())
        self.assertFalse((self.folder / "cancelled.stl").exists())
        self.assertEqual(list(self.folder.glob(".kelvor-*")), [])
        panel.close()

    def test_what_is_asked_and_cautioned_follows_the_format(self):
        self.trigger("board.export")
        panel = self.window.dialogs.shown[-1]
        asked = {}
        for i in range(panel.kind.count()):
            panel.kind.setCurrentIndex(i)
            boxes = {"surface": panel.surface, "resolution": panel.resolution, "paper": panel.paper}
            words = panel.caution.text()
            asked[panel.kind.currentData()] = (
                {key for key, box in boxes.items() if box.isEnabled()},
                "100 mm bar" in words,
                "Mill" in words,
            )
        both = {"surface", "resolution"}
        self.assertEqual(asked["pdf"], ({*both, "paper"}, True, False))
        self.assertEqual(asked["stl"], (both, False, True))
        self.assertEqual(asked["json"], (set(), False, False))
        self.assertEqual(len(asked), len(WRITERS))
        panel.close()

    def test_over_what_is_there_only_when_asked_twice_and_over_a_workshop_never(self):
        self.trigger("board.export")
        panel = self.window.dialogs.shown[-1]
        panel.kind.setCurrentIndex(panel.kind.findData("csv"))
        path = self.folder / "there.csv"
        path.write_text("x" * 3000)
        panel.path.setText(str(path))
        panel.do.click()
        self.assertEqual((panel.do.text(), panel.busy(), path.read_text()), ("Replace it", False, "x" * 3000))
        self.assertIn("“there.csv” is there already (3 kB, of 2", panel.problem.text())
        panel.path.setText(str(self.folder / "other.csv"))  # another name: asked anew
        self.assertEqual(panel.do.text(), "Write")
        panel.path.setText(str(path))
        panel.do.click()
        panel.do.click()
        self.wait_for(lambda: not panel.busy())
        self.assertIn("Written", panel.problem.text())
        self.assertTrue(path.read_text().startswith("station_mm"))
        before = self.path.read_bytes()
        other = self.folder / "other.kelvor"
        shutil.copy(self.path, other)
        for target in (self.path, other):
            panel.path.setText(str(target))
            panel.do.click()
            panel.do.click()
            self.assertIn("this is a workshop, and is left as it is", panel.problem.text())
        self.assertEqual((self.path.read_bytes(), other.read_bytes()), (before, before))
        panel.close()

    def test_a_drawing_is_read_beside_the_window_and_can_be_stopped(self):
        slow = self.folder / "slow.svg"
        body = "".join(f'<path d="M {i} 0 {"A 50 20 0 0 1 30 10 " * 3}"/>' for i in range(1300))
        slow.write_text(f'<svg xmlns="http://www.w3.org/2000/svg">{body}</svg>')
        self.trigger("board.readings")
        panel = self.window.dialogs.shown[-1]
        rows = panel.rows()
        panel.read_drawing(slow)
        self.assertTrue(panel.reader.running and panel.reading_row.isVisible())
        self.key(panel, Qt.Key.Key_Escape)
        self.wait_for(lambda: not panel.reader.running)
        self.assertTrue(panel.isVisible())
        self.assertIn("Cancelled", panel.problem.text())
        self.assertEqual((panel.rows(), panel.reading_row.isVisible()), (rows, False))
        panel.close()
