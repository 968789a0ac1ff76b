"""What a designer reads in the window is what counted it: Why on every row of every family, inches everywhere, findings
with their place.
"""

import re

from PySide6.QtCore import Qt
from PySide6.QtGui import QTextDocumentFragment
from PySide6.QtTest import QTest

from kelvor.core.base.findings import Severity
from kelvor.core.base.units import Quantity, System
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.ride.phases import PHASES
from kelvor.demo.boards import demo_boards
from kelvor.ui.shape.findings_panel import FindingsPanel
from kelvor.ui.shown.wording import escaped
from tests.support import some
from tests.ui.case import WindowCase
from tests.ui.ride.test_ride_view import RideCase

METRIC = re.compile(r"(?<!gap )(?<!within )(?<!bends )(?<!Thick )(?<![\d.,])[\d.,]+ (cm²|cm|mm|kg)(?![\w/²³]| m²)")
"""What no reader of inches should meet. What gauges and feelers are set to stays in millimetres, and so do bends under
a load.
"""


class EveryFamily(RideCase):
    def told(self):
        """The plain words of Why."""
        return QTextDocumentFragment.fromHtml(self.page.why.text()).toPlainText()

    def told_by(self, key):
        """The words of Why of a row, which names the method that counted the figure."""
        self.page.rows.choose(key)
        self.assertIn(BY_KEY[key].label, self.told())
        method = BY_KEY[key].method
        self.assertIn(f"<b>Method</b> {escaped(method.name)}<br>", self.page.why.text())
        self.assertIn(f"<b>Source</b> {escaped(method.source)}", self.page.why.text())
        return self.told()

    def drawn(self):
        """The words of the pictures of the page."""
        for widget in (self.page.first, *self.page.others):
            chart = widget.chart.chart
            if widget.isVisible() and widget.chart.isVisible() and chart is not None:
                yield from (
                    chart.title,
                    chart.caption,
                    chart.x_label,
                    chart.y_label,
                    *(mark.text for mark in chart.marks),
                )

    def test_why_on_every_row_of_every_page_and_in_inches(self):
        self.without_levers()
        self.session.set_system(System.INCH)
        boards = {brief.discipline: board.name for _, board, brief in demo_boards()}
        asked = set()
        for discipline, name in some(boards.items(), 7):
            self.open_named(name)
            tiles = [tile.tile for tile in self.window.strip.tiles if tile.isVisible()]
            for tile, phase in zip(tiles, PHASES[discipline], strict=True):
                self.page.show_phase(phase.key)
                shown = [
                    tile.headline,
                    tile.difference,
                    tile.verdict,
                    tile.question,
                    *tile.lines,
                    self.page.asks.text(),
                    *self.drawn(),
                ]
                with self.subTest(discipline=discipline, phase=phase.name):
                    for row in self.page.rows.rows():
                        words = [row.value, row.aside, self.told_by(row.key)]
                        self.assertIn(f"Why {escaped(row.value).replace('–', 'no figure')}?", self.page.why.text())
                        shown += words if BY_KEY[row.key].quantity is not Quantity.FLEX else ()
                        asked.add(row.key)
                    self.assertEqual([words for words in shown if METRIC.search(words)], [])
        self.assertGreater(len(asked), 70)


class WorthALook(WindowCase):
    def panel(self):
        QTest.keyClick(self.window, Qt.Key.Key_F4)
        self.app.processEvents()
        return self.window.findChildren(FindingsPanel)[-1]

    def lines(self, panel):
        return [panel.list.item(i).text() for i in range(panel.list.count())]

    def cut(self):
        """A board whose back strap hangs over the rail and whose second tier runs out of the first."""
        self.session.file.open_board(
            next(b.id for b in self.session.workshop.store.boards() if b.name.startswith("Shearwater 76"))
        )
        self.window.show_view("shape")
        self.shape.levers.pull("layer.Cut-outs, second tier.line", "150 mm")
        self.shape.levers.pull("strap.Back straps.half_spread", "36")
        self.session.results.settle_now()
        self.app.processEvents()

    def test_f4_lists_what_is_found_warnings_first_and_a_click_shows_the_place(self):
        self.cut()
        panel = self.panel()
        found = self.session.results.evaluation.findings
        lines = self.lines(panel)
        self.assertEqual(len(lines), len(found))
        warned = [line.startswith("!") for line in lines]
        self.assertEqual(warned, sorted(warned, reverse=True))
        self.assertEqual(sum(warned), sum(f.severity is Severity.WARNING for f in found))
        crossing = next(f for f in found if f.code == "lines_cross")
        row = next(i for i, line in enumerate(lines) if crossing.text in line)
        self.assertIn(crossing.advice, lines[row])
        self.window.show_view("ride")
        place = panel.list.visualItemRect(panel.list.item(row)).center()
        QTest.mouseClick(panel.list.viewport(), Qt.MouseButton.LeftButton, pos=place)
        self.app.processEvents()
        self.assertIs(self.window.stack.currentWidget(), self.shape)
        self.assertAlmostEqual(self.bench.station, crossing.place, delta=1e-6)

    def test_the_list_follows_the_board_and_the_units(self):
        self.cut()
        panel = self.panel()
        self.assertTrue(any(" cm" in line for line in self.lines(panel)))
        self.session.set_system(System.INCH)
        self.assertEqual([line for line in self.lines(panel) if METRIC.search(line)], [])
        for _ in range(2):
            self.trigger("edit.undo")
        self.session.results.settle_now()
        self.app.processEvents()
        self.assertFalse(any(line.startswith("!") for line in self.lines(panel)), self.lines(panel))


if __name__ == "__main__":
    import unittest

    unittest.main()
