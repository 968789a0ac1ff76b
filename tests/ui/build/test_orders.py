"""Orders, shopping list, custom or moulded, proof loads: driven as a board builder would."""

from dataclasses import replace
from datetime import date, timedelta

import pypdf
import shiboken6
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from kelvor.core.build.costing import WASTE, to_buy, together
from kelvor.core.made.made_boards import made_boards
from kelvor.core.made.mould_break_even import moulded
from kelvor.core.made.orders import day_read, open_orders_by_day
from kelvor.core.made.proof import proof_conditions
from kelvor.core.register.kinds.shop import Order
from kelvor.core.register.record import Record
from kelvor.core.register.stamp import code_of
from kelvor.ui.build.shown.build import volume_words
from tests.ui.case import WindowCase


class Orders(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.build")
        self.view = self.window.views["build"]
        self.trigger("build.orders")
        self.panel = self.window.dialogs.shown[-1]

    def tearDown(self):
        for panel in self.window.dialogs.shown:
            panel.close()
        super().tearDown()

    def row(self, at):
        return [self.panel.table.item(at, j).text() for j in range(self.panel.table.columnCount())]

    def rows(self):
        return [self.row(i) for i in range(self.panel.table.rowCount())]

    def take(self, **given):
        for name, words in given.items():
            getattr(self.panel, name).setText(words)
        self.panel.do.click()
        self.app.processEvents()

    def choose(self, customer):
        at = next(i for i, row in enumerate(self.rows()) if row[0] == customer)
        self.panel.table.selectRow(at)
        return at

    def test_an_order_from_taking_it_to_delivery(self):
        due = (date.today() + timedelta(days=3)).isoformat()
        self.take(customer="Nils Roth", due=due, price="18000", deposit="6000")
        self.assertEqual(self.panel.problem.text(), "")
        # due first: it stands above those of the demo
        self.assertEqual(
            self.row(0),
            ["Nils Roth", "Dunlin 39", f"{due}, in 3 days", "6000 of 18000 crowns", "not signed off", "not begun"],
        )
        self.choose("Nils Roth")
        self.panel.sign_button.click()
        code = code_of(self.session.board)
        self.assertIn(code, self.row(0)[4])
        # the board begun after another change is not what was signed
        self.shape.levers.pull("volume", "41")
        self.view.boards.serial.setText("26-031")
        self.view.boards.serial.setModified(True)
        self.view.boards.begin_button.click()
        self.panel.refresh()
        self.choose("Nils Roth")
        self.assertEqual(self.panel.goes_button.text(), "26-031 goes to them")
        self.panel.goes_button.click()
        self.assertEqual(self.row(0)[5], "26-031, begun: of another version than was signed off")
        self.panel.sign_button.click()
        self.assertEqual(self.row(0)[5], "26-031, begun")
        self.panel.close_order.click()
        self.assertNotIn("Nils Roth", [row[0] for row in self.rows()])
        self.trigger("edit.undo")
        self.panel.refresh()
        self.assertIn("Nils Roth", [row[0] for row in self.rows()])

    def test_what_cannot_be_is_said_and_nothing_is_taken(self):
        before = self.rows()
        for given, words in (
            ({"customer": "", "due": ""}, "nobody is named"),
            ({"customer": "Nils", "due": "next week"}, "“next week” is no day. Type it like 2027-03-15"),
            ({"customer": "Nils", "due": "", "price": "cheap"}, "“cheap” is no amount"),
            ({"customer": "Nils", "due": "", "price": "100", "deposit": "200"}, "more is paid down than it costs"),
        ):
            self.take(**given)
            self.assertIn(words, self.panel.problem.text())
            self.assertEqual(self.rows(), before)

    def test_the_shopping_list_is_of_what_is_not_begun_and_says_for_whom(self):
        self.choose("Tuva Hald")
        path = self.folder / "list.pdf"
        self.window.papers.write_shopping(self.panel, path)
        self.wait_for(path.exists)
        words = pypdf.PdfReader(path).pages[0].extract_text()
        self.assertIn("Tuva Hald", words)
        self.assertNotIn("Isak Brun", words)  # his board is begun
        self.assertIn(code_of(self.session.board), words)
        live = self.session.live
        lines = {line.what: line for line in to_buy(live.geometry, live.mass, self.session.table)}
        foam = next(line for what, line in lines.items() if ", block " in what)
        self.assertAlmostEqual(foam.amount, live.mass.blank.volume * 1000, delta=1e-9)
        self.assertIn(f"offcut {foam.amount - live.mass.core.volume * 1000:.0f} L", volume_words(live))
        self.assertIn(f"{foam.amount:.2f} L", words)
        # cloth as the laminator's sheet cuts it, and what is bought over
        ply = live.mass.layup.plies[0]
        cloth = self.session.table.cloth(ply.ply.cloth)
        same = sum(p.area for p in live.mass.layup.plies if p.ply.cloth == ply.ply.cloth)
        bought = next(line for what, line in lines.items() if what.startswith(cloth.name))
        self.assertAlmostEqual(bought.amount, same * WASTE, places=9)
        twice = together([tuple(lines.values()), tuple(lines.values())])
        self.assertAlmostEqual(twice[0].amount, 2 * foam.amount)
        self.assertEqual(len(twice), len(lines))

    def test_a_mould_pays_after_so_many_boards(self):
        self.panel.mould.setText("30000")
        self.panel.each.setText("3000")
        self.panel.refresh()
        words = self.panel.pays.text()
        self.assertRegex(words, r"A mould of 30000 crowns pays after \d+ boards: each saves \d+ of \d+ crowns. One is")
        custom = float(words.split(" of ")[2].split()[0])
        pays = int(words.split("after ")[1].split()[0])
        self.assertTrue((pays - 1) * (custom - 3000) < 30000 <= pays * (custom - 3000) + 1)
        self.panel.each.setText("99000")
        self.panel.refresh()
        self.assertIn("no mould pays", self.panel.pays.text())
        # closed: 1000 saved a board pays 10 000 at the tenth
        self.assertEqual([moulded(m, 5000, 4000).pays for m in (9_999, 10_000, 10_001)], [10, 10, 11])


class Proofs(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.build")
        self.view = self.window.views["build"]
        self.view.tabs.setCurrentWidget(self.view.boards)
        self.view.boards.serial.setText("26-040")
        self.view.boards.serial.setModified(True)
        self.view.boards.begin_button.click()

    def card(self, name):
        path = self.folder / name
        self.window.papers.write_papers(path)
        self.wait_for(path.exists)
        return " ".join(pypdf.PdfReader(path).pages[0].extract_text().split())

    def prove(self, moment, held=True):
        self.trigger("build.proof")
        panel = self.window.dialogs.shown[-1]
        shown = panel.moment.text()
        if moment:
            panel.moment.setText(moment)
        panel.held.setCurrentIndex(0 if held else 1)
        QTest.keyClick(panel.moment, Qt.Key.Key_Return)
        self.app.processEvents()
        return shown, panel.problem.text() if shiboken6.isValid(panel) else ""

    def test_a_layer_fewer_than_kept_is_a_prototype_until_a_load_proves_it(self):
        session = self.session
        construction = session.board.construction
        session.workshop.tables.keep_construction(construction)
        self.assertNotIn("Prototype", self.card("whole.pdf"))
        plies = (replace(construction.plies[0], on=False), *construction.plies[1:])
        session.build_with(
            replace(construction, plies=plies, blocks="pvc80"), "a layer off, the tracks in dense blocks"
        )
        self.view.boards.serial.setText("26-041")
        self.view.boards.serial.setModified(True)
        self.view.boards.begin_button.click()
        self.assertTrue(proof_conditions(session.live, session.workshop.tables.kept))
        words = self.card("fewer.pdf")
        self.assertIn("Prototype, not for sale", words)
        self.assertRegex(words, r"layers? fewer than")
        shown, problem = self.prove("10 N m")
        self.assertEqual(problem, "")
        self.assertIn(f"static load of {shown}", words)
        self.assertIn("Prototype, not for sale", self.card("little.pdf"))
        self.prove("")
        proved = self.card("proved.pdf")
        self.assertNotIn("Prototype", proved)
        self.assertIn("Proof load, mast: ", proved)
        self.prove("5000 N m", held=False)
        self.assertIn("Prototype, not for sale", self.card("broke.pdf"))
        rows = [self.view.boards.entries.item(i, 2).text() for i in range(self.view.boards.entries.rowCount())]
        self.assertTrue(any("gave way" in row for row in rows))

    def test_no_load_is_told_that_foam_alone_would_not_bear(self):
        self.trigger("build.proof")
        panel = self.window.dialogs.shown[-1]
        self.assertEqual(panel.moment.text(), "")
        told = " ".join(label.text() for label in panel.findChildren(QLabel))
        self.assertRegex(
            told, r"None is told: foam alone holds 116 N m at the mast, and the proof would be 530 N m: set it in"
        )
        panel.close()

    def test_a_moment_that_cannot_be_read_is_said(self):
        _, problem = self.prove("strong")
        self.assertIn("strong", problem)
        self.window.dialogs.shown[-1].close()


class Days(WindowCase):
    def test_orders_stand_by_their_day_and_none_last(self):
        def record(uid, **value):
            return Record(uid, "order", 1, uid, uid, "claimed", False, Order(customer=uid, **value))

        records = [record("a"), record("b", due="2026-12-01"), record("c", due="2026-11-20")]
        found = open_orders_by_day(records, made_boards([]), date(2026, 11, 27))
        self.assertEqual([(o.value.customer, o.days) for o in found], [("c", -7), ("b", 4), ("a", None)])
        self.assertEqual(day_read(" 2027-01-05 "), "2027-01-05")
