"""The Family view, driven as a designer would: sizes made, rules changed, changes taken or left, a stretch named."""

import io
import json
from contextlib import redirect_stdout
from unittest import mock

import pypdf
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from scipy.stats import weibull_min

from kelvor.cli import main
from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.family.laws import power_law
from kelvor.core.levers.catalogue import levers
from kelvor.exchange.paper import Chapter
from kelvor.ui.family.shown.class_rules import CAUTION
from kelvor.ui.family.shown.rider_sizes import size_chart_rows
from tests.ui.case import WindowCase


def reading(board, key):
    return next(lever for lever in levers(board) if lever.key == key).read(board)


class FamilyCase(WindowCase):
    def setUp(self):
        super().setUp()
        self.window.show_view("family")
        self.view = self.window.views["family"]
        self.page, self.families = self.view.sizes, self.view.families

    def tearDown(self):
        self.close_panels()
        super().tearDown()

    def press(self, button):
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        self.app.processEvents()

    def begin(self, masses="55, 85", name=""):
        self.press(self.view.new)
        panel = self.window.dialogs.shown[-1]
        for field, words in ((panel.masses, masses), (panel.name, name or panel.name.text())):
            field.clear()
            QTest.keyClicks(field, words)
        self.press(panel.do)
        return panel

    def made(self, masses="55, 85"):
        self.begin(masses)
        self.settled(len(masses.split(",")))

    def settled(self, count):
        self.wait_for(
            lambda: not self.families.making and len(self.families.states) == count,
            40,
        )

    def rows(self):
        table = self.page.table
        return [[table.item(i, j).text() for j in range(table.columnCount())] for i in range(table.rowCount())]

    def choose_rule(self, words):
        table = self.page.follows.rules
        at = next(i for i in range(table.rowCount()) if table.item(i, 0).text() == words)
        table.selectRow(at)
        self.app.processEvents()
        return at

    def amount(self, words):
        self.page.follows.amount.clear()
        QTest.keyClicks(self.page.follows.amount, words)
        self.key(self.page.follows.amount, Qt.Key.Key_Return)

    def boards(self):
        return [entry.name for entry in self.session.workshop.store.boards()]


class Sizes(FamilyCase):
    def test_sizes_become_boards_by_rules_and_the_family_is_taken_back_at_once(self):
        parent, before = self.session.board, len(self.boards())
        self.made("55, 85, 100")
        self.assertIs(self.session.board, parent)  # the bench is not disturbed
        self.assertEqual(len(self.boards()), before + 3)
        rows = self.rows()
        self.assertEqual([row[1] for row in rows], ["55 kg", "69 kg", "85 kg", "100 kg"])
        self.assertEqual(rows[1][8], "the parent")
        litres = float(rows[1][4].split()[0])
        for row, mass in zip(rows, (55, 69, 85, 100), strict=True):
            self.assertAlmostEqual(float(row[4].split()[0]), litres * mass / 69, delta=0.09)  # power one
        self.assertEqual({row[8] for row in rows} - {"the parent"}, {"by the rules"})
        self.page.table.selectRow(3)
        self.assertIn("No mere stretch: outline", self.page.words.text())
        size = self.page.chosen()
        entry = next(e for e in self.session.workshop.store.boards() if e.name == size.board.name)
        brief = self.session.workshop.store.brief(entry.id)
        self.assertEqual(brief.rider.mass, 100.0)
        self.assertIn("rider", [r.part for r in self.session.brief.refers])  # the parent's is one of the register
        self.assertNotIn("rider", [r.part for r in brief.refers])
        self.press(self.page.open_button)
        self.assertEqual(self.session.board.name, "Dunlin 39 for 100 kg")
        self.session.undo()
        self.assertEqual(self.session.board.name, "Dunlin 39")
        self.window.show_view("family")
        self.session.undo()
        self.assertEqual(self.families.all(), [])
        self.assertIn("No family yet", self.page.words.text())
        self.session.redo()
        self.assertEqual(len(self.rows()), 4)

    def test_a_change_of_the_parent_is_offered_taken_by_one_left_by_another(self):
        self.made("55, 85")
        self.assertTrue(self.window.shape.levers.pull("nose_rocker", "105 mm"))
        self.wait_for(lambda: [row[8] for row in self.rows()].count("5 changes offered") == 2, 40)
        self.page.table.selectRow(2)
        self.assertIn("Taking it gives: rocker, nose 93.7 mm → 108.1 mm", self.page.words.text())
        size = self.page.chosen()
        before = reading(size.board, "nose_rocker")
        self.press(self.page.take_button)
        self.wait_for(lambda: self.rows()[2][8] == "by the rules", 40)
        step, board = self.families.standing(size.board_id)
        self.assertAlmostEqual(
            reading(board, "nose_rocker") / reading(self.session.board, "nose_rocker"),
            (board.length / self.session.board.length) ** 0.5,
            places=3,
        )
        self.assertEqual(
            self.session.workshop.store.steps(size.board_id)[step].title, "Takes what changed of its parent"
        )
        self.page.table.selectRow(0)
        self.press(self.page.leave_button)
        self.assertFalse(self.page.take_button.isVisible())
        self.assertIn("Left as it is", self.page.words.text())
        self.session.undo()
        self.wait_for(self.page.take_button.isVisible, 40)
        self.session.undo()  # what the other size took
        self.assertAlmostEqual(reading(self.families.standing(size.board_id)[1], "nose_rocker"), before, places=6)
        self.wait_for(lambda: self.rows()[2][8] == "5 changes offered", 40)

    def test_a_size_changed_by_hand_says_so_and_keeps_it(self):
        self.made("85, 100")
        self.page.table.selectRow(1)
        self.press(self.page.open_button)
        self.assertTrue(self.window.shape.levers.pull("layer.Tail cut.angle", "11°"))
        self.window.show_view("family")
        self.wait_for(lambda: self.rows()[1][8] == "changed by hand", 40)
        self.page.table.selectRow(1)
        self.assertIn("rocker, tail cut angle 8.5° → 11.0°", self.page.words.text())
        self.assertNotIn("Not by the rules", self.page.words.text())  # once is enough: the table says it
        table = self.page.obeyed
        rows = [[table.item(i, j).text() for j in range(4)] for i in range(table.rowCount())]
        self.assertIn(["Rocker, tail cut angle", "8.5°", "11.0°  ≠", "8.5°"], rows)
        length = next(row for row in rows if row[0] == "Length")
        self.assertEqual(length[1], length[2])

    def test_sizes_between_two_parents(self):
        self.press(self.view.new)
        panel = self.window.dialogs.shown[-1]
        panel.other.setCurrentIndex(panel.other.findText("Stint 33"))
        for field, words in ((panel.other_mass, "50 kg"), (panel.masses, "60")):
            field.setText(words)
        self.press(panel.do)
        self.settled(1)
        size = self.families.sizes(self.view.family().uid)[0].board
        entry = next(e for e in self.session.workshop.store.boards() if e.name == "Stint 33")
        ends = [reading(b, "volume") for b in (self.families.standing(entry.id)[1], self.session.board)]
        self.assertTrue(ends[0] < reading(size, "volume") < ends[1])

    def test_a_size_that_is_only_stretched_is_named_with_the_ratios(self):
        self.made("85")
        while self.page.follows.rules.rowCount() > 3:  # litres, length and width are left
            self.page.follows.rules.selectRow(3)
            self.press(self.page.follows.off)
        self.wait_for(lambda: self.rows()[1][8].endswith("offered"), 40)
        self.page.table.selectRow(1)
        self.wait_for(self.page.take_button.isVisible, 40)
        self.press(self.page.take_button)
        self.wait_for(lambda: self.rows()[1][8] == "only a stretch", 40)
        self.assertRegex(self.page.words.text(), r"Only its parent stretched \(length × 1\.\d+, width × 1\.\d+")
        self.session.undo()
        self.assertNotIn("only a stretch", self.rows()[1][8])

    def test_rules_are_changed_by_typing_and_a_wrong_word_says_what_would_do(self):
        self.made("85, 100")
        self.choose_rule("Length")
        self.amount("a lot")
        self.assertIn("Such as 0.40", self.page.problem.text())
        self.assertEqual(self.page.follows.amount.text(), "a lot")
        self.amount("0.40")
        self.assertEqual(self.page.problem.text(), "")
        self.wait_for(lambda: "offered" in self.rows()[2][8], 40)
        self.choose_rule("Panel V")
        self.assertEqual(self.page.follows.amount.text(), "−0.30°")
        self.amount("-0.5")
        self.assertIn(
            "−0.50° for 10 kg",
            [self.page.follows.rules.item(i, 1).text() for i in range(self.page.follows.rules.rowCount())],
        )
        self.page.follows.more.setCurrentIndex(self.page.follows.more.findData("planform_area"))
        self.press(self.page.follows.add_rule_button)
        self.assertIn("decide each other", self.page.problem.text())
        self.page.follows.more.setCurrentIndex(self.page.follows.more.findData("crown"))
        self.press(self.page.follows.add_rule_button)
        self.assertEqual(self.page.problem.text(), "")
        self.session.undo()
        self.assertNotIn(
            "Deck, deck crown, middle",
            [self.page.follows.rules.item(i, 0).text() for i in range(self.page.follows.rules.rowCount())],
        )

    def test_sizes_for_heavy_riders_are_built_otherwise_when_taken(self):
        self.made("75, 100")
        self.page.follows.built.setCurrentIndex(2)
        self.page.follows.built.activated.emit(2)
        self.assertIn("from which weight on", self.page.problem.text())
        name = self.page.follows.built.itemText(2)
        self.page.follows.since.setText("90")
        self.key(self.page.follows.since, Qt.Key.Key_Return)
        self.wait_for(lambda: [row[8] for row in self.rows()[1:]] == ["by the rules", "1 change offered"], 40)
        self.page.table.selectRow(2)
        self.assertIn(f"Taking it gives: built as {name}", self.page.words.text())
        self.press(self.page.take_button)
        self.wait_for(lambda: self.rows()[2][8] == "by the rules", 40)
        self.assertEqual(self.page.chosen().board.construction.name, name)

    def test_what_is_no_size_is_told(self):
        for masses, words in (("", "a family needs a size"), ("55, blue", "blue"), ("55, 400", "is no rider")):
            panel = self.begin(masses)
            self.assertIn(words, panel.problem.text())
            self.assertEqual(self.families.all(), [])
            panel.close()
        self.begin("20, 85")
        self.settled(1)
        self.assertIn("too far from the parent", self.window.heard.text())
        self.assertEqual(len(self.rows()), 2)
        self.page.masses.setText("85")
        self.press(self.page.add_button)
        self.assertIn("there is a size for 85 kg already", self.page.problem.text())
        self.page.masses.setText("60 kg 95")
        self.press(self.page.add_button)
        self.settled(3)
        self.assertEqual([row[1] for row in self.rows()], ["60 kg", "69 kg", "85 kg", "95 kg"])


class InOnePicture(FamilyCase):
    rides = True

    def test_overlay_law_and_rockers_are_those_of_the_sizes(self):
        self.made("55, 85, 100")
        self.view.tabs.setCurrentIndex(1)
        page = self.view.picture
        self.wait_for(lambda: len(self.families.figures) == 4, 60)
        self.assertEqual(
            [other.live.board.name for other in page.overlay.others],
            ["Dunlin 39 for 55 kg", "Dunlin 39 for 85 kg", "Dunlin 39 for 100 kg"],
        )
        self.assertEqual(page.overlay.name, "Dunlin 39")
        noses = [float(small.y[-1]) for small in page.rockers.boards]
        self.assertEqual(noses, sorted(noses))
        page.figure.setCurrentIndex(page.figure.findData("width"))
        boards = [self.session.board, *(s.board for s in self.families.sizes(self.view.family().uid))]
        law = power_law([69, 55, 85, 100], [reading(board, "width") for board in boards])
        self.assertIn(f"to the power {law.power:.2f} ({law.low:.2f} to {law.high:.2f})", page.law.text())
        self.assertEqual(page.law.text().count("scaled alike: 1/3"), 1)
        page.figure.setCurrentIndex(page.figure.findData("least_wind_up"))
        self.assertIn("own rider", page.figure.currentText())
        shown = [row for row in page.chart.rows()[1:] if row[1] == "sizes"]
        self.assertEqual([(row[0], row[2]) for row in shown], [("family", m) for m in ("55", "69", "85", "100")])
        winds = [
            self.families.figures[s.record.uid]["least_wind_up"].value
            for s in self.families.sizes(self.view.family().uid)
        ]
        self.assertEqual(winds, sorted(winds))  # a heavier rider with the same wing needs more
        page.datum.setCurrentIndex(page.datum.findData("fin"))
        self.assertIn("Without a fin", page.missing.text())
        self.view.tabs.setCurrentIndex(0)
        self.page.table.selectRow(3)
        self.assertRegex(self.page.words.text(), r"Under its own rider, float: .* lift off: least wind to lift off \d")


class ClassRulesPage(FamilyCase):
    rides = True

    def setUp(self):
        super().setUp()
        board = next(e for e in self.session.workshop.store.boards() if e.name == "Shearwater 69")
        self.session.file.open_board(board.id)
        self.view.tabs.setCurrentIndex(2)
        self.rules = self.view.rules

    def type_rule(self, limits, quotas="", name="Bay 70", **days):
        self.press(self.rules.buttons["New…"])
        panel = self.window.dialogs.shown[-1]
        panel.name.setText(name)
        panel.limits.setPlainText(limits)
        panel.quotas.setPlainText(quotas)
        for field, words in days.items():
            getattr(panel, field).setText(words)
        self.press(panel.do)
        return panel

    def margin(self, row, column=1):
        return self.rules.margins.item(row, column).text()

    def test_a_rule_is_typed_followed_while_designing_and_taken_back(self):
        panel = self.type_rule("width <= 72 cm\nlength <= 230 cm", "at most 2 boards", since="soon")
        self.assertIn("no day", panel.problem.text())
        panel.since.setText("2026-01-01")
        panel.limits.setPlainText("width < 72 cm")
        self.press(panel.do)
        self.assertIn("limit 1: “<” alone is not kept. Write width <= 85 cm", panel.problem.text())
        panel.limits.setPlainText("width <= 72 cm\nlength <= 230 cm")
        self.press(panel.do)
        self.assertEqual(self.margin(0), "3.0 cm to spare")
        self.assertEqual(self.margin(1), "3.0 cm over")
        self.rules.under.setCurrentIndex(1)
        self.rules.under.activated.emit(1)
        self.window.show_view("shape")
        self.assertTrue(self.window.ruled.isVisible())
        self.assertEqual(self.window.ruled.text(), "Bay 70: length 3.0 cm over · max width 3.0 cm to spare")
        self.assertEqual([limit.figure for limit in self.bench.limits], ["width", "length"])
        plain = self.bench.grab().toImage()
        self.assertTrue(self.shape.levers.pull("length", "229 cm"))
        self.wait_for(lambda: self.window.ruled.text().startswith("Bay 70: max width"), 10)
        self.assertIn("length 1.0 cm to spare", self.window.ruled.text())
        self.session.undo()
        self.wait_for(lambda: "3.0 cm over" in self.window.ruled.text(), 10)
        self.session.undo()  # under no rule again
        self.wait_for(lambda: not self.window.ruled.isVisible(), 10)
        self.assertNotEqual(plain, self.bench.grab().toImage())  # the lines on the plan are gone

    def test_rules_are_read_and_written_as_files(self):
        self.type_rule("width <= 72 cm\nmass >= 5.5 kg", "at most 1 board with width >= 70 cm", source="Notice 3")
        path = self.folder / "rule.json"
        self.view.papers.write_rule_to(self.rules.chosen(), path)
        with redirect_stdout(io.StringIO()) as said:
            self.assertEqual(main(["check", str(path)]), 0)
        self.assertIn("in order", said.getvalue())
        self.press(self.rules.buttons["Take off"])
        self.assertEqual(self.rules.rules_.all(), [])
        self.view.papers.read_rule_from(self.rules.rules_, path)
        value = self.rules.rules_.all()[0].value
        self.assertEqual(
            (value.name, value.source, len(value.limits), value.quotas[0].most), ("Bay 70", "Notice 3", 2, 1)
        )
        path.write_text(path.read_text().replace('"at most"', '"at least"', 1).replace("0.72", "0.99"))
        plain = json.loads(path.read_text())
        plain["rule"]["limits"].append(
            {"figure": "width", "relation": "at most", "value": 0.7, "relative": False, "wish": False}
        )
        path.write_text(json.dumps(plain))
        with self.assertRaisesRegex(InputError, "at least 99.0 cm and at most 70.0 cm"):
            self.view.papers.read_rule_from(self.rules.rules_, path)

    def test_the_sheet_says_what_the_page_says(self):
        self.type_rule("width <= 72 cm\nlength <= 230 cm", "at most 2 boards")
        told = []
        self.rules.sheet_asked.connect(told.append)
        self.press(self.rules.sheet_button)
        path = self.folder / "sheet.pdf"
        chapters = [Chapter("Margins", "", told[0][1], (200, 150, 160), ("Limit", "Board", "Margin"))]
        self.view.papers.write("Rule sheet: Bay 70", chapters, CAUTION, path)
        self.wait_for(path.exists, 30)
        words = " ".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
        for said in ("Max width at most 72.0 cm", "3.0 cm to spare", "3.0 cm over", "The class measures the board"):
            self.assertIn(said, " ".join(words.split()))

    def test_what_to_register_for_a_season(self):
        self.type_rule("length <= 240 cm", "at most 2 boards\nat most 1 board with width >= 68 cm")
        for field, words in ((self.rules.season.mean, "14 kn"), (self.rules.season.most, "2")):
            field.setText(words)
        self.press(self.rules.season.choose_button)
        self.wait_for(lambda: self.rules.season.answer.text().startswith("Register Shearwater 69: together"), 40)
        self.assertRegex(self.rules.season._by_log("Shearwater 76"), r" kn, \d+ sessions$")  # ridden as SK-10
        entrant = self.rules.season._entrants[0]
        low, high = min(w[0] for w in entrant.windows), max(w[1] for w in entrant.windows)
        share = weibull_min(2.0, scale=14 * KNOT / 0.8862269).cdf([low, high])  # Γ(3/2)
        self.assertIn(f"{(share[1] - share[0]) * 100:.0f} % of the season", self.rules.season.answer.text())
        self.assertIn("Chop and control", self.rules.season.more.text())
        self.type_rule("length <= 230 cm", name="Short")  # the board is longer, and cannot be registered
        self.press(self.rules.season.choose_button)
        self.wait_for(lambda: "no board has winds" in self.rules.problem.text(), 40)
        self.assertEqual(self.rules.season.answer.text(), "")
        self.assertEqual(self.rules.season.winds.item(0, 1).text(), "not within the limits")
        self.rules.season.mean.setText("fresh")
        self.press(self.rules.season.choose_button)
        self.assertIn("no wind", self.rules.problem.text())


class Range(FamilyCase):
    rides = True

    def words(self, path):
        self.wait_for(path.exists, 30)
        return " ".join(" ".join(page.extract_text() for page in pypdf.PdfReader(path).pages).split())

    def printed(self, page_signal, button, handler):
        """What a page hands to paper, written and read back."""
        told = []
        page_signal.connect(told.append)
        self.press(button)
        path = self.folder / "out.pdf"
        with mock.patch.object(
            self.view.papers,
            "ask",
            lambda title, name, chapters, caution: self.view.papers.write(title, chapters, caution, path),
        ):
            handler(told[0])
        return self.words(path)

    def test_the_matrix_weighs_prices_stocks_and_prints(self):
        self.made("55, 85")
        self.view.tabs.setCurrentIndex(3)
        page = self.view.options
        self.wait_for(lambda: "Options: 36 boards" in page.head.text(), 60)  # 3 sizes, 3 constructions, 2 × 2 layouts
        rows = page.rows()[1]
        self.assertEqual(rows[0][:2], ("Dunlin 39 for 55 kg", "as designed"))
        weight, cost, price = rows[0][2].split("\n")
        self.assertRegex(weight, r"^\d\.\d\d kg$")
        amounts = [int("".join(c for c in words if c.isdigit())) for words in (cost, price)]
        self.assertAlmostEqual(amounts[1], 2 * amounts[0], delta=1)
        page.factor.setText("1.5")
        page.factor.editingFinished.emit()
        dearer = int("".join(c for c in page.rows()[1][0][2].split("\n")[2] if c.isdigit()))
        self.assertAlmostEqual(dearer, 1.5 * amounts[0], delta=1)
        page.factor.setText("cheap")
        page.factor.editingFinished.emit()
        self.assertIn("such as 1.8", page.problem.text())
        page.factor.setText("1.5")
        page.straps.item(1).setCheckState(Qt.CheckState.Unchecked)
        self.wait_for(lambda: "Options: 18 boards" in page.head.text(), 60)
        page.table.setCurrentCell(0, 2)
        one = page.stock.item(0, 1).text()
        page.number.setText("3")
        page.number.editingFinished.emit()
        self.assertIn("3 of each of 1 chosen", page.stock_head.text())
        self.assertAlmostEqual(float(page.stock.item(0, 1).text().split()[0]), 3 * float(one.split()[0]), delta=0.3)
        words = self.printed(page.print_asked, page.print_button, self.view._matrix)
        for said in (weight, "Dunlin 39 for 85 kg", "deep foil box", "To stock: 3 of each"):
            self.assertIn(said, words)

    def test_a_board_for_a_customer_with_the_reason_and_the_chart_on_paper(self):
        self.view.tabs.setCurrentIndex(4)
        page = self.view.whom
        self.assertIn("Make a family first", page.problem.text())
        self.view.tabs.setCurrentIndex(0)
        self.made("55, 85")
        self.view.tabs.setCurrentIndex(4)
        page.mass.setText("84 kg")
        page.wind.setText("30 kn")
        self.press(page.ask_button)
        self.wait_for(lambda: page.table.rowCount() == 3, 60)
        self.assertTrue(page.answer.text().startswith("Dunlin 39 for 85 kg."), page.answer.text())
        row = page.rows(page.table)[0]
        wanted = reading(self.session.board, "volume") * 84 / 69 * 1e3
        self.assertIn(f"just the {wanted:.1f} L for this rider; goes in 30.0 kn", row[4])
        self.assertRegex(row[2], r"^\d\d\.\d kn ±\d")
        page.wind.setText("6 kn")
        self.press(page.ask_button)
        self.wait_for(lambda: "does not go in 6.0 kn" in page.rows(page.table)[0][4], 60)
        chart = {cells[0]: cells for cells in page.rows(page.chart)}
        self.assertEqual(
            chart["55 kg"][2], f"Dunlin 39 for 55 kg ({reading(self.session.board, 'volume') * 55 / 69e-3:.1f} L)"
        )
        self.assertIn("none near", chart["105 kg"][1])
        racing = size_chart_rows([("Bay", 0.110)], (0.110, 75.0, "riding"), 0.8, "slalom", self.session.system)
        self.assertEqual(racing[3][1:3], ("not boards to learn on", "Bay (110.0 L)"))
        words = self.printed(page.print_asked, page.print_button, self.view._chart)
        for said in (chart["55 kg"][2], "does not go in 6.0 kn", "Try before you buy", "For a rider of 84 kg, riding"):
            self.assertIn(said, words)
        page.mass.setText("heavy")
        self.press(page.ask_button)
        self.assertIn("heavy", page.problem.text())
