"""The Compare view: boards of the rack over the one on the bench, read with one cursor."""

import re

from tests.ui.case import WindowCase


class Compare(WindowCase):
    def test_from_the_rack_to_what_would_be_felt(self):
        self.trigger("view.rack")
        rack = self.window.views["rack"]
        self.wait_for(lambda: all(card.counted for card in rack._cards), seconds=60)
        rack.query.setText("wing foil 44–48 L")
        rack.details.compare.click()
        view = self.window.views["compare"]
        self.assertIs(self.window.stack.currentWidget(), view)
        self.assertEqual([view.other.itemText(i) for i in range(view.other.count())], ["version 1", "Sandpiper 46"])
        self.assertEqual([b.name for b in view.lines.behind], ["version 1", "Sandpiper 46"])
        view.other.setCurrentIndex(1)
        self.assertTrue(view.first.text().startswith("Sandpiper 46: "))
        rows = {row.key: row for row in view.rows.rows() if row.key}
        self.assertRegex(rows["length"].value, r"^\+7\.5 cm   \(145\.5 → 153\.0 cm\)$")
        view.lines.reading_at = 1.2
        reading = view.lines.reading()
        self.assertEqual(len(re.findall(r" mm", reading)), 3, reading)

    def test_a_lever_pulled_is_the_first_line_of_the_ledger(self):
        self.session.versions.pin(self.session.current)
        self.window.shape.pull_lever("nose_rocker", "99")
        self.trigger("view.compare")
        view = self.window.views["compare"]
        self.wait_for(lambda: not view._asked.under_way)
        self.assertIn("mm", view.rows.rows()[1].value)
        self.assertRegex(view.first.text(), r"^version 8: rocker: nose −8\.0 mm")
        self.session.undo()
        self.assertIn("Nothing to compare with yet", view.told.text())

    def test_a_datum_that_a_board_has_not_is_said_and_the_rest_is_shown(self):
        self.session.versions.pin(self.session.current)
        self.window.shape.pull_lever("width", "51")
        self.trigger("view.compare")
        view = self.window.views["compare"]
        view.datum.setCurrentIndex(view.datum.findData("mast track"))
        self.assertIn("No mast track on the board on the bench, version 8", view.told.text())
        self.assertTrue(view.rows.rows())
