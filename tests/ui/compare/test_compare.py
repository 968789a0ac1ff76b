"""The Compare view: boards of the rack over the one on the bench, read with one cursor."""

import csv
import re
import sqlite3
from contextlib import closing

import pypdf
import svgelements
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit

from kelvor.core.base.units import KNOT, Quantity
from kelvor.core.evaluation.live import evaluate_live
from kelvor.demo.boards import demo_boards
from kelvor.ui.compare.view import FAMILY, OVER, PHASES, SOLID
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.shown_boards import Shown
from kelvor.ui.shape.shown.solid_parts import board_solid, laid_solid
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
        self.assertEqual(
            [view.ledger.other.itemText(i) for i in range(view.ledger.other.count())], ["version 1", "Sandpiper 46"]
        )
        self.assertEqual([b.name for b in view.lines.lines.behind], ["version 1", "Sandpiper 46"])
        view.ledger.other.setCurrentIndex(1)
        self.assertTrue(view.ledger.first.text().startswith("Sandpiper 46: "))
        rows = {row.key: row for row in view.ledger.rows.rows() if row.key}
        self.assertRegex(rows["length"].value, r"^\+7\.5 cm   \(145\.5 → 153\.0 cm\)$")
        view.lines.lines.reading_at = 1.2
        reading = view.lines.lines.reading()
        self.assertEqual(len(re.findall(r" mm", reading)), 3, reading)

    def test_a_lever_pulled_is_the_first_line_of_the_ledger(self):
        self.session.versions.pin(self.session.current)
        self.window.shape.levers.pull("nose_rocker", "99")
        self.trigger("view.compare")
        view = self.window.views["compare"]
        self.wait_for(lambda: not view.ledger._asked.under_way)
        self.assertIn("mm", view.ledger.rows.rows()[1].value)
        self.assertRegex(view.ledger.first.text(), r"^version 8: rocker: nose −8\.0 mm")
        self.session.undo()
        self.assertIn("Nothing to compare with yet", view.told.text())

    def test_a_datum_that_a_board_has_not_is_said_and_the_rest_is_shown(self):
        self.session.versions.pin(self.session.current)
        self.window.shape.levers.pull("width", "51")
        self.trigger("view.compare")
        view = self.window.views["compare"]
        view.datum.setCurrentIndex(view.datum.findData("mast track"))
        self.assertIn("No mast track on the board on the bench, version 8", view.told.text())
        self.assertTrue(view.ledger.rows.rows())


class Laid(WindowCase):
    def compared(self, *names):
        """The Compare view with boards of the rack behind the one on the bench."""
        store, session = self.window.session.workshop.store, self.session
        shown = []
        for entry in store.boards():
            if entry.name in names:
                step = store.left_at(entry.id)
                live = evaluate_live(store.board(step), session.brief)
                shown.append(Shown(live, entry.name, board=entry.id, step=step, number=1))
        session.versions.pin(None)
        session.overlays.show_beside(shown)
        self.trigger("view.compare")
        return self.window.views["compare"]


class Taking(Laid):
    def test_the_tail_of_another_board_is_one_step_told_and_taken_back(self):
        view = self.compared("Sandpiper 46")
        before, count = self.session.board, len(self.session.steps)
        view.ledger.zone.setCurrentIndex(view.ledger.zone.findData("tail outline"))
        view.ledger.take.click()
        self.assertEqual(len(self.session.steps), count + 1)
        self.assertEqual(self.session.step().title, "Outline of the tail of Sandpiper 46 taken on")
        self.assertRegex(
            view.ledger.taken.text(),
            r"^Joined [\d.]+ cm from the tail; what the lines lie apart there, [\d.]+ mm, is led over\. Gave: ",
        )
        litres = (
            self.session.live.geometry.solid.volume - evaluate_live(before, self.session.brief).geometry.solid.volume
        )
        self.assertIn(f"volume {litres * 1e3:+.1f} L", view.ledger.taken.text())
        self.session.undo()
        self.assertEqual(self.session.board, before)

    def test_what_the_other_board_has_not_is_said_and_nothing_changes(self):
        view = self.compared("Sandpiper 46")
        view.ledger.zone.setCurrentIndex(view.ledger.zone.findData("fins"))
        before = self.session.current
        view.ledger.take.click()
        self.assertEqual(
            (view.ledger.taken.text(), self.session.current), ("“Sandpiper 46” has no fins to take.", before)
        )

    def test_a_locked_volume_pays_for_an_outline_taken_on(self):
        view = self.compared("Sandpiper 46")
        self.trigger("lock.volume")
        litres = self.session.live.geometry.solid.volume
        view.ledger.zone.setCurrentIndex(view.ledger.zone.findData("outline"))
        view.ledger.take.click()
        self.assertAlmostEqual(self.session.live.geometry.solid.volume, litres, delta=2e-5)
        self.assertIn("Thickest", [change.label for change in self.session.step().changes])

    def test_a_board_is_parked_where_it_is_compared_and_the_rack_knows_why(self):
        view = self.compared("Sandpiper 46", "Stint 33")
        view.ledger.other.setCurrentIndex([view.ledger.other.itemText(i) for i in range(2)].index("Stint 33"))
        view.ledger.deciding.why.setText("waits for more wind")
        view.ledger.deciding.verdicts["parked"].click()
        self.assertEqual(view.ledger.deciding.label.words(), "Stint 33 is parked: waits for more wind")
        step = view.ledger.chosen().step
        record = self.session.workshop.registers.decision(step)
        self.assertEqual((record.value.verdict, record.value.why), ("parked", "waits for more wind"))
        self.session.undo()
        self.assertNotIn("waits for more wind", view.ledger.deciding.label.words())

    def test_sections_follow_the_station_and_say_where_a_board_ends(self):
        view = self.compared("Sandpiper 46")
        view.tabs.setCurrentIndex(OVER)
        view.over.view.setFocus()
        QTest.keyClick(view.over.view, Qt.Key.Key_Right)
        first = view.over.view.words()
        self.assertIn("on the bench", first)
        self.assertRegex(
            first.splitlines()[2], r"^Sandpiper 46: [\d.]+ cm \([+−][\d.]+\) wide, [\d.]+ mm \([+−].* thick$"
        )
        view.datum.setCurrentIndex(view.datum.findData("nose"))
        view.over.view._move_to(0.0)
        self.assertNotEqual(view.over.view.words(), first)
        QTest.mouseMove(view.over.view, QPoint(300, 100))


class Felt(Laid):
    def test_what_riders_of_this_workshop_feel_puts_the_ledger_in_another_order(self):
        view = self.compared("Sandpiper 46")
        self.wait_for(lambda: not view.ledger._asked.under_way)
        order = [row.key for row in view.ledger.rows.rows() if row.key]
        view.ledger.felt.click()
        dialog = view.ledger.felt_dialog
        self.assertEqual({row.aside for row in dialog.rows.rows() if row.key}, {""})
        dialog.rows.choose("wide_point")
        dialog.rows.begin_typing()
        self.type_over(dialog.rows, "1 mm")
        row = next(row for row in dialog.rows.rows() if row.key == "wide_point")
        self.assertEqual((row.value, row.aside), ("0.1 cm", "yours"))
        self.wait_for(lambda: not view.ledger._asked.under_way)
        keys = [row.key for row in view.ledger.rows.rows() if row.key]
        self.assertLess(keys.index("wide_point"), order.index("wide_point"))
        dialog.rows.begin_typing()
        editor = dialog.rows.findChildren(QLineEdit, "typed")[-1]
        editor.setText("much")
        QTest.keyClick(editor, Qt.Key.Key_Return)
        self.assertIn("much", dialog.problem.text())
        self.session.undo()
        self.assertEqual(self.session.workshop.registers.least_felt(), {})
        dialog.close()

    def test_a_board_that_cannot_be_read_any_more_is_named_and_the_others_are_laid_behind(self):
        self.trigger("view.rack")
        rack = self.window.views["rack"]
        self.wait_for(lambda: all(card.counted for card in rack._cards), seconds=60)
        bad, good = (next(c for c in rack._cards if c.name == name) for name in ("Sandpiper 46", "Stint 33"))
        with closing(sqlite3.connect(self.path)) as db, db:
            db.execute("UPDATE steps SET snapshot = X'00' WHERE id = ?", (bad.step,))
        said = []
        self.session.message.connect(lambda kind, words: said.append((kind, words)))
        rack.view.choose_again({bad.key, good.key})
        rack.lay_behind()
        self.assertEqual([shown.name for shown in self.session.overlays.beside], ["Stint 33"])
        self.assertEqual(said[-1][0], "problem")

    def test_a_board_of_another_discipline_is_said_to_be_ridden_as_this_one(self):
        view = self.compared()
        board, brief = next((b, br) for slug, b, br in demo_boards() if slug == "heron-14")
        self.session.overlays.show_beside([Shown(evaluate_live(board, brief), board.name)])
        view.tabs.setCurrentIndex(PHASES)
        self.assertIn(
            "Boards of another discipline (paddle race) are ridden as wing foil here", view.phases.under.text()
        )


class Through(Laid):
    def test_two_solids_lie_through_one_another_on_their_base_lines(self):
        view = self.compared("Sandpiper 46")
        own, other = self.session.live.geometry, self.session.overlays.beside[0].live.geometry
        laid, alone = laid_solid(own, other, 0.1), board_solid(other.board, moving=False)
        self.assertAlmostEqual(float(laid.vertices[:, 0].min() - alone.vertices[:, 0].min()), 0.1, places=9)
        lowest = own.above_base(laid.vertices[:, 0], laid.vertices[:, 2]).min()
        self.assertAlmostEqual(
            float(lowest), float(other.above_base(alone.vertices[:, 0], alone.vertices[:, 2]).min()), places=6
        )
        view.tabs.setCurrentIndex(SOLID)
        view.datum.setCurrentIndex(view.datum.findData("nose"))
        self.assertAlmostEqual(view.solid.solid.over[1], own.board.length - other.board.length, places=9)
        self.wait_for(lambda: view.solid.solid.state != "asking")


class TakenOut(Laid):
    def test_the_numbers_of_a_chart_are_copied_and_saved_and_its_picture_as_lines(self):
        view = self.compared("Sandpiper 46")
        chart = view.lines.lines
        chart.setFocus()
        QTest.keyClick(chart, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        rows = [line.split("\t") for line in self.app.clipboard().text().splitlines()]
        self.assertEqual(rows[0][:3], ["board", "line", "from its tail, cm"])
        own = [row for row in rows if row[0] == "on the bench"]
        keel = self.session.live.geometry.keel_line
        self.assertAlmostEqual(float(own[-1][3]), keel[-1] * 1000, delta=0.01)
        self.assertAlmostEqual(float(own[-1][2]), self.session.board.length * 100, delta=0.01)
        self.assertEqual({row[0] for row in rows[1:]}, {"on the bench", "Sandpiper 46"})
        table, picture = self.folder / "lines.csv", self.folder / "lines.svg"
        chart.taken_out.save_numbers(table)
        chart.taken_out.save_picture(picture)
        with open(table, newline="", encoding="utf-8") as file:
            self.assertEqual([tuple(row) for row in csv.reader(file)], [tuple(row) for row in rows])
        drawing = svgelements.SVG.parse(str(picture))
        self.assertGreater(sum(isinstance(e, svgelements.Path | svgelements.Polyline) for e in drawing.elements()), 3)
        said = []
        self.session.message.connect(lambda kind, words: said.append((kind, words)))
        chart.taken_out.save_numbers(self.folder / "no such folder" / "lines.csv")
        self.assertEqual(said[-1][0], "problem")
        self.assertIn("no such folder", said[-1][1])


class Family(Laid):
    def page(self, which, *names):
        view = self.compared(*names)
        view.tabs.setCurrentIndex(FAMILY)
        view.family.which.setCurrentIndex(view.family.which.findData(which))
        return view.family

    def cells(self, family, column):
        heads = [family.table.horizontalHeaderItem(i).text() for i in range(family.table.columnCount())]
        return [family.table.item(i, heads.index(column)).text() for i in range(family.table.rowCount())]

    def test_a_figure_dragged_foremost_ranks_the_boards(self):
        family = self.page("compared", "Sandpiper 46", "Stint 33")
        self.assertEqual(self.cells(family, "Board"), ["Stint 33", "Dunlin 39", "Sandpiper 46"])  # by litres
        litres = [float(words.split()[0]) for words in self.cells(family, "Volume, finished")]
        self.assertEqual(litres, sorted(litres))
        family.falling.click()
        self.assertEqual(self.cells(family, "Board"), ["Sandpiper 46", "Dunlin 39", "Stint 33"])
        family.falling.click()
        heads = [family.table.horizontalHeaderItem(i).text() for i in range(family.table.columnCount())]
        family.table.horizontalHeader().moveSection(heads.index("Max width"), 1)
        self.assertEqual(family.order.currentData(), "width")
        widths = [float(words.split()[0]) for words in self.cells(family, "Max width")]
        self.assertEqual(widths, sorted(widths))

    def test_what_was_felt_and_decided_stands_beside_what_is_computed(self):
        family = self.page("family")
        verdicts = dict(zip(self.cells(family, "Board"), self.cells(family, "Decided"), strict=True))
        self.assertEqual(
            (verdicts["Dunlin 39"], verdicts["Stint 33"], verdicts["Sandpiper 46"]), ("Kept", "Parked", "Dropped")
        )
        felt = dict(zip(self.cells(family, "Board"), self.cells(family, "Felt"), strict=True))
        self.assertIn("Touches down and goes on", felt["Dunlin 39"])
        family.table.setFocus()
        QTest.keyClick(family.table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        self.assertIn("Touches down and goes on", self.app.clipboard().text())

    def test_versions_of_this_board_are_laid_behind_beside_what_lies_there(self):
        family = self.page("versions", "Sandpiper 46")
        self.wait_for(lambda: all(board.figures for board in family.boards))
        litres = dict(zip(self.cells(family, "Board"), self.cells(family, "Volume, finished"), strict=True))
        self.assertEqual(litres["version 8"], f"{self.session.live.geometry.solid.volume * 1e3:.1f} L")
        self.assertEqual(litres["version 1"], "46.0 L")
        names = self.cells(family, "Board")
        family.table.selectRow(names.index("version 2"))
        family.behind.click()
        view = self.window.views["compare"]
        self.assertEqual([other.name for other in self.session.overlays.others()], ["Sandpiper 46", "version 2"])
        step = next(step for step in self.session.steps.values() if step.number == 2)
        self.assertEqual(self.session.overlays.others()[1].live.board, self.session.board_at(step.id))
        view.ledger.other.setCurrentIndex(1)
        self.assertTrue(view.ledger.first.text().startswith("version 2: "))

    def test_every_version_of_a_board_is_drawn_small_in_the_order_of_a_figure(self):
        family = self.page("versions")
        family.shown.setCurrentIndex(family.shown.findData("keel"))
        self.wait_for(lambda: all(len(b.x) for b in family.picture.boards))
        self.assertEqual(len(family.picture.boards), len(self.session.steps))
        own = next(b for b in family.picture.boards if b.key == family.picture.here)
        keel = self.session.live.geometry.keel_line
        self.assertAlmostEqual(float(own.y[-1]), float(keel[-1]))
        family.picture.setFocus()
        family.picture.key = family.picture.boards[0].key
        QTest.keyClick(family.picture, Qt.Key.Key_Right)
        self.assertEqual(family.picture.key, family.picture.boards[1].key)


class Ridden(Laid):
    rides = True

    def test_the_page_is_written_beside_the_window_and_tells_what_the_window_tells(self):
        view = self.compared("Sandpiper 46")
        other = self.session.overlays.beside[0].live
        self.wait_for(
            lambda: (
                self.session.service(RideRequests).of(other) is not None
                and not self.session.service(RideRequests).behind()
            ),
            seconds=60,
        )
        view.ledger.page.click()
        dialog = self.window.dialogs.shown[-1]
        path = self.folder / "page.pdf"
        dialog.fileSelected.emit(str(path))
        self.wait_for(path.exists, seconds=60)
        self.wait_for(lambda: not view.ledger._writing.under_way)
        reader = pypdf.PdfReader(path)
        words = " ".join(page.extract_text() for page in reader.pages)
        least = self.session.service(RideRequests).figures()["least_wind_up"].value
        self.assertIn(f"{least / KNOT:.1f} kn", words)
        self.assertIn("Dunlin 39 kept: Lets go where the old one stuck, and turns easier.", words)
        self.assertIn("It stuck to the water", words)
        self.assertNotIn("Ronja Vik, 69", words)  # the rider stays in the shop

    def test_phases_side_by_side_tell_what_differs_and_what_does_not(self):
        view = self.compared("Sandpiper 46")
        view.tabs.setCurrentIndex(PHASES)
        other = self.session.overlays.beside[0].live
        self.wait_for(
            lambda: (
                self.session.service(RideRequests).of(other) is not None
                and not self.session.service(RideRequests).behind()
            ),
            seconds=60,
        )
        table = view.phases.table
        cells = {
            table.item(i, 0).text(): [table.item(i, k).text() for k in (1, 2)]
            for i in range(table.rowCount())
            if table.item(i, 1) is not None
        }
        least = (
            self.session.service(RideRequests).figures()["least_wind_up"].value,
            self.session.service(RideRequests).figures_of(other)["least_wind_up"].value,
        )
        own, apart = cells["Least wind to lift off"]
        self.assertEqual(own, f"{least[0] / KNOT:.1f} kn")
        self.assertRegex(
            apart, rf"^{least[1] / KNOT:.1f} kn\n(−{(least[0] - least[1]) / KNOT:.1f} kn|not to be told apart)"
        )
        self.assertIn("All under one brief: wing foil", view.phases.under.text())
        view.phases.charts.setCurrentIndex(view.phases.charts.findData("drag"))
        chart = view.phases.chart
        self.assertEqual(([b.name for b in chart.behind], chart.chart.y), (["Sandpiper 46"], Quantity.FORCE))
        self.assertIs(chart.behind[0].picture, self.session.service(RideRequests).of(other).pictures["drag"])
