"""Notes of rule, patent, name and safety: written, shown where the feature is drawn, listed, taken back."""

from kelvor.core.shape.parts.features import WHOLE, feature_place, features
from kelvor.demo.boards import demo_boards
from tests.ui.case import WindowCase


class NotesOnADesign(WindowCase):
    def tearDown(self):
        self.close_panels()
        super().tearDown()

    def test_a_note_stands_at_its_feature_and_among_what_is_worth_a_look(self):
        self.trigger("board.notes")
        panel = self.window.dialogs.shown[-1]
        panel.do.click()
        self.assertIn("nothing is noted", panel.problem.text())
        panel.kind.setCurrentIndex(panel.kind.findData("patent"))
        panel.about.setCurrentText("Tail cut")
        panel.words.setText("A cut like it may be claimed elsewhere")
        panel.source.setText("a letter of 2026")
        panel.do.click()
        self.assertEqual(panel.problem.text(), "")
        said = "Patent, Tail cut: A cut like it may be claimed elsewhere (a letter of 2026)"
        self.assertEqual(panel.list.item(0).text(), said)
        self.bench.grab()
        hinge = next(layer for layer in self.session.board.layers if layer.name == "Tail cut").hinge.x(
            self.session.board.length, self.session.board.mast_x
        )
        place = next(place for _, words, place in self.bench.annotations.remarks if said in words)
        self.assertAlmostEqual(place, hinge, places=6)
        self.assertTrue(any("no legal advice" in words for _, words, _ in self.bench.annotations.remarks))
        self.trigger("view.findings")
        looked = self.window.dialogs.shown[-1]
        self.assertTrue(any("Patent, Tail cut" in looked.list.item(i).text() for i in range(looked.list.count())))
        self.session.undo()
        self.bench.grab()
        self.assertFalse(any(said in words for _, words, _ in self.bench.annotations.remarks))
        self.session.redo()
        panel.list.setCurrentRow(0)
        panel.off.click()
        self.assertEqual(panel.list.count(), 0)

    def test_every_feature_of_every_demo_board_has_a_place_on_it(self):
        for name, board, _ in demo_boards():
            self.assertIsNone(feature_place(board, WHOLE))
            self.assertIsNone(feature_place(board, "wings"))
            for feature in features(board)[1:]:
                place = feature_place(board, feature)
                with self.subTest(name, feature=feature):
                    self.assertTrue(-0.05 <= place <= board.length + 0.05, place)
