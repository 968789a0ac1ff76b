"""The Build view: constructions chosen and changed, compared, weighed, written out; every change a step."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.materials.table import HANDBOOK
from tests.ui.case import WindowCase


class Build(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.build")
        self.view = self.window.build_view

    def grams(self, key):
        return int(next(row for row in self.view.weight.rows() if row.key == key).value.split()[0])

    def choose(self, name):
        index = next(i for i in range(self.view.library.count()) if self.view.library.itemText(i) == name)
        self.view.library.setCurrentIndex(index)
        self.view.library.activated.emit(index)
        self.app.processEvents()

    def test_the_weight_breaks_down_and_adds_up(self):
        rows = [row for row in self.view.weight.rows() if row.key.startswith("thing.")]
        self.assertAlmostEqual(sum(int(row.value.split()[0]) for row in rows), self.grams("total"), delta=len(rows))
        self.assertEqual(self.grams("total"), round(self.session.figures()["mass"].value * 1000))
        self.assertIn("lb", self.view.weight_label.text())
        self.window.grab()

    def test_another_construction_is_a_step_and_undo_brings_it_back(self):
        before, weight = self.session.board, self.grams("total")
        self.trigger("edit.pin")
        self.choose("Light carbon, aramid deck")
        self.assertEqual(self.session.board.construction.name, "Light carbon, aramid deck")
        self.session.settle_now()
        self.assertLess(self.grams("total"), weight - 150)
        self.assertIn("lighter", next(row for row in self.view.weight.rows() if row.key == "total").aside)
        self.assertIn("softer", next(row for row in self.view.stiff.rows() if row.key == "twist_per_moment").aside)
        box = next(row for row in self.view.stiff.rows() if row.key == "box_moment")
        self.assertRegex(box.aside, r"^0\.6\d × pinned$")  # softer foam holds the mast less, and that is marked
        self.assertEqual(box.mark, "!")
        self.assertIsNotNone(self.view.strips.then)
        self.assertIn("Built as Light carbon", self.tape_words())
        self.assertEqual(self.session.store.board(self.session.current), self.session.board)
        self.window.grab()
        self.key(self.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(self.session.board, before)
        self.assertEqual(self.grams("total"), weight)

    def test_layers_more_less_off_new_and_typed(self):
        view = self.view
        plies = self.session.board.construction.plies
        view.plies.choose("0")
        view._count(1)
        self.assertEqual(self.session.board.construction.plies[0].count, plies[0].count + 1)
        self.assertRegex(self.tape_words(), r"Bottom: 1 → 2 layers, \+\d+ g")
        view._switch()
        self.assertFalse(self.session.board.construction.plies[0].on)
        self.assertIn("rail", view.notes.text().lower() + " rail")
        self.session.undo()
        self.session.undo()
        view.new.menu().actions()[3].trigger()  # a patch under the front foot
        self.app.processEvents()
        self.assertEqual(self.session.board.construction.plies[-1].name, "Foot patch")
        field = view.ply_fields["start"]
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "24 in")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertAlmostEqual(self.session.board.construction.plies[-1].start.offset, 0.6096)
        field.selectAll()
        QTest.keyClicks(field, "nowhere")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertIn("not a number", view.problem.text())
        self.assertEqual(field.text(), "nowhere")
        view._drop()
        self.assertEqual(len(self.session.board.construction.plies), len(plies))
        view.new.menu().actions()[6].trigger()  # a centre stringer
        self.assertEqual(self.session.board.construction.stringers[-1].name, "Centre stringer")
        view.plies.choose("stringer0")
        view._drop()
        self.assertEqual(self.session.board.construction.stringers, ())

    def test_what_a_layer_buys_and_side_by_side(self):
        view = self.view
        view.tabs.setCurrentIndex(1)
        self.assertEqual(view.worth.rowCount(), 2 * len(self.session.board.construction.plies))
        words = [view.worth.item(0, j).text() for j in range(8)]
        self.assertEqual(words[:2], ["Bottom", "one less"])
        self.assertTrue(words[2].startswith("−") and words[2].endswith(" g"), words)
        self.assertIn("softer", words[4])
        view.tabs.setCurrentIndex(2)
        names = [view.side.item(i, 0).text() for i in range(view.side.rowCount())]
        self.assertEqual(names[0], "As built here")
        view.side.selectRow(names.index("Glass by hand"))
        self.assertRegex(
            view.sentence.text(),
            r"Glass by hand: \d\.\d\d kg \(\d+ lb \d+ oz\), \d+ g heavier than As built here; \d+% softer in bending",
        )
        view._use_side()
        self.assertEqual(self.session.board.construction.name, "Glass by hand")

    def test_kept_for_all_boards(self):
        self.view._keep()
        self.assertIn("name of its own", self.view.problem.text())
        self.view.keep_name.setText("Fjord carbon")
        self.view._keep()
        other = next(e for e in self.session.store.boards() if e.name.startswith("Shearwater"))
        self.session.open_board(other.id)
        self.app.processEvents()
        self.choose("Fjord carbon")
        self.assertEqual(self.session.board.construction.name, "Fjord carbon")

    def test_weigh_ins_from_the_scale_and_typed(self):
        view = self.view
        view.tabs.setCurrentIndex(3)
        view.stage.setCurrentIndex(view.stage.findData("shaped"))
        view.read_scale()
        self.wait_for(lambda: view._scale is None)
        self.assertRegex(view.scale_field.text(), r"^\d\.\d{3} kg$")
        view._weighed()
        view.stage.setCurrentIndex(view.stage.findData("laminated"))
        view.scale_field.setText("5 lb")
        view._weighed()
        rows = {
            view.weigh_table.item(i, 0).text(): view.weigh_table.item(i, 4).text() for i in range(view.weigh_table.rowCount())
        }
        self.assertTrue(rows["Shaped"])
        self.assertIn("came with cloth and resin", rows["Laminated"])
        view.scale_field.setText("heavy")
        view._weighed()
        self.assertIn("not a number", view.problem.text())
        self.assertEqual(view.scale_field.text(), "heavy")
        self.assertEqual(len(self.session.store.weighings(self.session.board_id)), 2)

    def test_materials_are_the_workshops_to_change(self):
        weight = self.grams("total")
        self.trigger("build.materials")
        panel = self.window.panels[-1]
        row = next(i for i, s in enumerate(HANDBOOK.stocks) if s.key == "eps20")
        panel.table.item(row, 1).setText("lots")
        self.assertIn("not a number", panel.problem.text())
        panel.table.item(row, 1).setText("24")
        self.app.processEvents()
        self.assertEqual(panel.table.item(row, panel.table.columnCount() - 1).text(), "the workshop's own")
        self.assertAlmostEqual(
            self.grams("total"), weight + round(4 * self.session.figures()["core_volume"].value * 1e3), delta=3
        )
        panel.kind.setCurrentIndex(panel.kind.findData("rates"))
        panel.show_kind()
        self.assertGreater(panel.table.columnCount(), 5)
        panel.close()
        self.trigger("build.weights")
        panel = self.window.panels[-1]
        for i in range(3):
            panel.list.item(i).setCheckState(Qt.CheckState.Checked)
        self.assertEqual(panel.words.text().count(" kg, that is "), 4)
        panel.close()

    def test_the_sheet_is_written(self):
        path = self.folder / "sheet.csv"
        self.window.write_sheet(path)
        self.assertIn("resin g", path.read_text())
