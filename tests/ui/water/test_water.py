"""The Water view, driven as a rider and a designer would: log, drafts, tracks, tests, gear, own boards, history."""

from dataclasses import replace

import pypdf
import shiboken6
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import SetUp, WaterSession
from kelvor.core.register.record import record_name
from kelvor.devices import gps_logger
from kelvor.ui.build.made import Making
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.own_boards import OurBoards
from kelvor.ui.water.shown.water import setup_rows
from kelvor.workshop.rack import cards
from tests.ui.case import WindowCase


def logged(day="2026-11-14", seed=3, legs=None):
    """A day's file of the simulated logger."""
    lap = [{"heading": 280 if k % 2 else 100, "speed": 9.0, "seconds": 60} for k in range(8)]
    noise = {"place": 0.5, "speed": 0.05, "seed": seed}
    legs = legs or [{"seconds": 90}, *lap, {"seconds": 120}, *lap]
    plan = {"begun": f"{day}T11:00:00+00:00", "place": [61.9, 4.9], "noise": noise, "legs": legs}
    return gps_logger.fit(gps_logger.planned_fixes(plan))


class Water(WindowCase):
    def setUp(self):
        super().setUp()
        self.trigger("view.water")
        self.view = self.window.views["water"]
        self.page, self.log = self.view.sessions, self.session.service(Logbook)

    def tearDown(self):
        for panel in self.window.dialogs.shown:
            if shiboken6.isValid(panel):
                panel.close()
        super().tearDown()

    def tab(self, words):
        tabs = self.view.tabs
        tabs.setCurrentIndex(next(i for i in range(tabs.count()) if tabs.tabText(i) == words))
        self.app.processEvents()
        return tabs.currentWidget()

    def panel(self):
        return self.window.dialogs.shown[-1]

    def type_into(self, field, words):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, words)
        self.app.processEvents()

    def cell(self, table, row, column):
        return table.item(row, column).text()


class Sessions(Water):
    def test_a_session_before_its_board_was_begun_is_questioned(self):
        made = self.session.service(Making).begin("26-050", "Aron")
        for day, asked in (("2026-01-05", True), ("2099-01-05", False)):
            uid = self.session.workshop.registers.keep("session", WaterSession(day=day), "a session")
            self.session.workshop.registers.keep(
                "set-up",
                SetUp(session=uid, board="26-050 Dunlin 39", made=made),
                "a set-up",
                board=self.session.board_id,
            )
            self.page.choose(uid)
            rows = {row.label: row.value for row in self.page.setup.rows()}
            self.assertEqual("Is this right?" in rows, asked)
        self.page.choose(next(one.uid for one in self.log.all() if one.value.day == "2026-01-05"))
        rows = {row.label: row.value for row in self.page.setup.rows()}
        self.assertRegex(rows["Is this right?"], r"^26-050 was begun on \d{4}-\d\d-\d\d, after this day\.")

    def test_the_demos_past_lies_in_the_order_it_happened(self):
        """Boards weighed as they were built, sailed after they were begun, none worked on at one moment."""
        for made in self.session.service(Making).all_boards():
            days = [entry.first_at[:10] for entry in made.entries]
            self.assertEqual(days, sorted(days), made.value.serial)
            self.assertTrue(all(made.value.begun <= day <= "2026-11-30" for day in days), made.value.serial)
        self.assertFalse([one.value.day for one in self.log.all() for row in setup_rows(
            one, self.session.system, {m.record.uid: m.value for m in self.session.service(Making).all_boards()}
        ) if row.key == "doubt"])  # fmt: skip
        worked = [card.touched for card in cards(self.session.workshop.store)]
        self.assertEqual(len(set(worked)), len(worked))

    def test_a_session_as_last_time_takes_eight_keys_at_most(self):
        self.trigger("view.shape")
        before, last = len(self.log.all()), self.log.all()[0].setup
        pressed = [(self.window, Qt.Key.Key_L, Qt.KeyboardModifier.AltModifier)]
        self.key(*pressed[-1])
        pressed.append((self.panel().do, Qt.Key.Key_Return))
        self.key(*pressed[-1])
        self.assertLessEqual(len(pressed), 8)
        self.assertEqual(len(self.log.all()), before + 1)
        one = self.page.one()
        same = [replace(setup, session="", hours=0.0, gear=()) for setup in (one.setup, last)]
        self.assertEqual(*same)
        self.assertIn("demo-fin-1", one.setup.gear)
        self.assertEqual(self.cell(self.page.table, 0, 1), last.board)
        self.session.undo()
        self.assertEqual(len(self.log.all()), before)

    def test_another_board_brings_its_own_last_set_up_and_all_is_typed_in_the_cards_order(self):
        self.page.log_button.click()
        form = self.panel()
        form.board.setCurrentText("SK-09 Dunlin 39")
        form.board.activated.emit(form.board.currentIndex())
        self.assertEqual((form.rider.currentText(), form.foil.currentText()), ("Ronja Vik", "Lyra 1180"))
        for field, words in (
            (form.day, "14.11.2026"), (form.wind, "11-14"), (form.bearing, "WSW"), (form.places["foil_mast"], "62.5"),
            (form.places["front_strap"], "92.5"), (form.angles, "15, -6"), (form.hours, "1.25"),
        ):  # fmt: skip
            self.type_into(field, words)
        form.words.setPlainText("It let go by itself.\nLovely.")
        self.key(form.do, Qt.Key.Key_Return)
        one = self.page.one()
        self.assertEqual((one.value.day, round(one.value.wind_high / KNOT, 6)), ("2026-11-14", 14.0))
        self.assertAlmostEqual(one.setup.foil_mast, 0.625)
        self.assertAlmostEqual(one.setup.front_strap, 0.925)
        self.assertEqual(one.words[0].value.words, "It let go by itself.\nLovely.")
        self.assertEqual((one.words[0].value.who, one.words[0].origin), ("Ronja Vik", "felt"))
        rows = {row.label: row.value for row in self.page.setup.rows()}
        self.assertEqual(rows["Foil mast"], "62.5 cm")
        self.assertIn("248° WSW", rows["Wind"])
        self.assertEqual(self.session.workshop.registers.get(one.setup.made).value.serial, "SK-09")

    def test_what_cannot_be_is_said_and_nothing_typed_is_lost(self):
        before = len(self.log.all())
        self.page.log_button.click()
        form = self.panel()
        for field, words, said in (
            (form.day, "31.2.", "is no day"), (form.wind, "breezy", "is no wind"),
            (form.bearing, "upwind", "no bearing"), (form.places["fin_place"], "12 m", "cannot be"),
            (form.hours, "long", "no number of hours"),
        ):  # fmt: skip
            kept = field.text()
            self.type_into(field, words)
            self.key(form.do, Qt.Key.Key_Return)
            self.assertIn(said, form.problem.text())
            self.assertEqual(field.text(), words)
            field.setText(kept)
        self.assertEqual(len(self.log.all()), before)

    def test_a_track_in_the_watched_folder_becomes_a_draft_that_enter_keeps(self):
        folder = self.folder / "watch"
        folder.mkdir()
        self.view.watch(folder)
        (folder / "today.fit").write_bytes(logged())
        self.wait_for(lambda: any(one.value.draft for one in self.log.all()))
        draft = next(one for one in self.log.all() if one.value.draft)
        self.assertEqual((draft.value.day, draft.tracks[0].origin), ("2026-11-14", "simulated"))
        self.assertEqual(draft.setup.board, "SK-10 Shearwater 76")
        self.assertIn("draft", self.page.count.text())
        self.assertEqual(self.page.one().uid, draft.uid)
        self.key(self.page.table, Qt.Key.Key_Return)
        self.key(self.panel().do, Qt.Key.Key_Return)
        self.assertFalse(self.log.get(draft.uid).value.draft)
        (folder / "again.fit").write_bytes(logged())  # the same bytes under another name
        self.wait_for(lambda: "in the log already" in self.page.panel.problem.text())
        self.assertEqual(sum(len(one.tracks) for one in self.log.all() if one.value.day == "2026-11-14"), 1)

    def test_the_log_is_searched_as_typed(self):
        self.type_into(self.page.search, "weed 28")
        self.assertEqual(self.page.table.rowCount(), 1)
        self.assertEqual(self.cell(self.page.table, 0, 0), "2026-06-20")
        self.assertIn("1 of 9", self.page.count.text())
        self.type_into(self.page.search, "nothing like it")
        self.assertEqual(self.page.table.rowCount(), 0)
        self.assertEqual(self.page.panel.title.text(), "No session")

    def test_words_and_readings_are_kept_and_struck_with_a_reason(self):
        one = self.page.one()
        self.page.words_button.click()
        panel = self.panel()
        panel.words.setPlainText("Free in the nose.")
        self.key(panel.do, Qt.Key.Key_Return)
        self.page.read_button.click()
        panel = self.panel()
        panel.what.setCurrentIndex(panel.what.findData("speed"))
        self.assertEqual(panel.beside.text(), "")  # another board is on the bench: nothing is computed for this one
        self.assertIn("put the board that was ridden", panel.beside.placeholderText())
        for field, words in ((panel.value, "24.4"), (panel.wind, "16"), (panel.beside, "25.1")):
            self.type_into(field, words)
        self.key(panel.do, Qt.Key.Key_Return)
        one = self.log.get(one.uid)
        self.assertEqual(one.words[-1].value.words, "Free in the nose.")
        reading = one.readings[-1]
        self.assertAlmostEqual(reading.value.value, 24.4 * KNOT)
        self.assertEqual(reading.origin, "measured")
        self.page.said.choose(reading.uid)
        self.page.strike_button.click()
        panel = self.panel()
        self.key(panel.do, Qt.Key.Key_Return)
        self.assertIn("no reason", panel.problem.text())
        self.type_into(panel.why, "the van")
        self.key(panel.do, Qt.Key.Key_Return)
        self.assertEqual(self.log.get(one.uid).readings[-1].value.struck, "the van")
        self.assertTrue(next(row for row in self.page.said.rows() if row.key == reading.uid).struck)

    def test_a_voice_note_counts_as_words_and_comes_out_as_it_went_in(self):
        one, note = self.page.one(), self.folder / "beach.ogg"
        note.write_bytes(b"OggS" + bytes(range(200)))
        (self.folder / "card.jpg").write_bytes(b"not a picture")
        self.page.words_button.click()
        panel = self.panel()
        self.assertFalse(panel.take_file(self.folder / "card.jpg"))
        self.assertIn("card.jpg: this is no photo", panel.problem.text())
        self.assertTrue(panel.take_file(note))
        self.key(panel.do, Qt.Key.Key_Return)
        record = self.log.get(one.uid).words[-1]
        self.assertEqual((record.value.words, record.origin), ("beach.ogg", "felt"))
        self.view._write_file(record.value.file, self.folder / "out.ogg")
        self.assertEqual((self.folder / "out.ogg").read_bytes(), note.read_bytes())

    def test_a_watched_folder_is_watched_again_the_next_day(self):
        folder = self.folder / "watch"
        folder.mkdir()
        self.view.watch(folder)
        again = self.open_window()
        (folder / "later.fit").write_bytes(logged("2026-11-21"))
        self.wait_for(lambda: any(one.value.day == "2026-11-21" for one in again.session.service(Logbook).all()))
        again.close()
        again.session.workshop.store.close()
        again.deleteLater()

    def test_a_card_for_the_beach_carries_its_stamp_and_the_order_of_the_form(self):
        path = self.folder / "card.pdf"
        self.view.papers.write_session_card(path)
        self.wait_for(path.exists)
        words = " ".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
        places = [words.index(word) for word in ("Board", "Place", "Rider", "Fin, from the tail", "Hours")]
        self.assertEqual(places, sorted(places))
        self.assertIn("SK-10", words)
        self.assertRegex(words, r"[0-9A-Z]{4}-[0-9A-Z]{4}")


class Gear(Water):
    rides = True

    def test_a_cracked_fin_is_to_be_retired_and_a_rule_asks_to_look(self):
        gear = self.tab("Gear")
        self.assertEqual((self.cell(gear.table, 0, 0), self.cell(gear.table, 0, 5)), ("Weed 28", "retire it"))
        self.assertIn("not passed on", gear.incidents.rows()[1].tip)
        gear.retired.setChecked(True)
        self.type_into(gear.words, "sawn in half")
        self.key(gear.words, Qt.Key.Key_Return)
        worn = {record_name(w.record): w.due for w in gear.found}
        self.assertEqual(worn["Weed 28"], "retired")
        self.assertEqual([self.cell(gear.ladder, i, 0) for i in range(gear.ladder.rowCount())], ["Blade 36"])
        at = next(i for i, w in enumerate(gear.found) if record_name(w.record) == "Blade 36")
        gear.table.selectRow(at)
        self.type_into(gear.hours, "2")
        gear.rule_button.click()
        self.assertEqual({record_name(w.record): w.due for w in gear.found}["Blade 36"], "look at it")

    def test_what_suits_a_wind_by_the_log_and_by_the_tank_and_where_they_part(self):
        self.session.results.settle_now()
        self.wait_for(lambda: "least_wind_up" in self.session.results.as_counted())
        gear = self.tab("Gear")
        self.type_into(gear.wind, "9")
        first = [self.cell(gear.suits, i, 0) for i in range(gear.suits.rowCount())]
        self.assertTrue(all("Gannet 5.3" in words for words in first), first)
        self.assertIn("The tank:", gear.tank.text())
        self.type_into(gear.wind, "17")
        self.assertTrue(any("Merlin" in self.cell(gear.suits, i, 0) for i in range(gear.suits.rowCount())))

    def test_stiff_is_answered_with_the_boards_own_numbers(self):
        gear = self.tab("Gear")
        self.assertEqual(gear.board.currentText(), "SK-10 Shearwater 76")
        gear.feel.setCurrentIndex(gear.feel.findData("stiff"))
        gear.feel.activated.emit(gear.feel.currentIndex())
        self.assertRegex(
            gear.mechanism.text(), r"^Fin forward frees the tail.*\d+\.\d cm behind the middle of the stance.*by \d+ %"
        )
        gear.feel.setCurrentIndex(gear.feel.findData("loose"))
        gear.feel.activated.emit(gear.feel.currentIndex())
        self.assertIn("Fin back holds the tail", gear.mechanism.text())


class ByOurBoards(Water):
    rides = True

    def test_the_log_changes_the_forecast_and_says_by_what_and_plain_is_one_key_away(self):
        ours = self.tab("Our boards")
        self.session.results.settle_now()
        self.wait_for(
            lambda: (
                "least_wind_up" in self.session.results.as_counted()
                and ours.session.service(OurBoards).corrections()["mass"].boards
            )
        )
        ours.refresh()
        rows = {self.cell(ours.table, i, 0): self.cell(ours.table, i, 1) for i in range(ours.table.rowCount())}
        self.assertRegex(rows["Least wind"], r"^× 1\.0\d\d ± \d+ %$")
        self.assertEqual(rows["Watts of a pace"], "plain")
        before = self.session.results.figures()["least_wind_up"]
        self.key(self.window, Qt.Key.Key_O, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        after = self.session.results.figures()["least_wind_up"]
        factor = self.session.service(OurBoards).corrections()["least wind"].factor
        self.assertAlmostEqual(after.value, before.value * factor, places=9)
        self.assertIn("By your own boards", after.note)
        self.assertIn("By our own boards", self.window.ours.text())
        self.trigger("view.ours")
        self.assertEqual(self.session.results.figures()["least_wind_up"].value, before.value)
        self.assertEqual(self.window.ours.text(), "")

    def test_a_reading_taken_out_puts_everything_back_and_simulated_ones_never_enter(self):
        factor = self.session.service(OurBoards).corrections()["least wind"].factor
        one = next(x for x in self.log.all() if any(r.value.what == "least wind" for r in x.readings))
        reading = one.readings[0]
        self.log.strike(reading, "wrong board")
        changed = self.session.service(OurBoards).corrections()["least wind"]
        self.assertNotAlmostEqual(changed.factor, factor)
        self.session.undo()
        self.assertEqual(self.session.service(OurBoards).corrections()["least wind"].factor, factor)
        registers = self.session.workshop.registers
        wild = replace(reading.value, value=60 * KNOT)
        registers.keep("on the water", wild, "a stand-in", origin="simulated")
        self.assertEqual(self.session.service(OurBoards).corrections()["least wind"].factor, factor)

    def test_build_shows_the_weight_so_too(self):
        making = self.session.service(Making)
        self.session.service(OurBoards).look()
        self.wait_for(lambda: self.session.service(OurBoards).corrections()["mass"].boards)
        made = next(m for m in making.all_boards() if m.value.serial == "SK-09")
        entry = next(e for e in made.entries if e.kind == "weighed" and e.value.stage == "finished")
        heavier = replace(entry.value, mass=entry.value.mass * 1.06)  # now both boards are heavy alike
        self.session.workshop.registers.keep("weighed", heavier, "weighed again", uid=entry.uid, origin="measured")
        found = self.session.service(OurBoards).corrections()["mass"]
        self.assertTrue(found.used)
        self.trigger("view.build")
        plain = self.session.live.mass.total.mass
        self.trigger("view.ours")
        self.assertIn(f"{plain * found.factor:.2f} ±", self.window.views["build"].weight_label.text())


class History(Water):
    def test_one_page_from_brief_to_sessions_and_on_paper_under_its_stamp(self):
        history = self.tab("History")
        history.board.setCurrentIndex(history.board.findText("SK-10 Shearwater 76"))
        history.board.activated.emit(history.board.currentIndex())
        titles = [chapter.title for chapter in history.chapters]
        for title in (
            "What it is",
            "What it should do",
            "What it weighs",
            "Days on the water",
            "Tests",
            "What was said",
        ):
            self.assertIn(title, titles)
        chapters = {chapter.title: dict(chapter.rows) for chapter in history.chapters}
        self.assertIn(
            "Blade 36 faster by", chapters["Tests"]["Is the 36 blade faster than the 28 weed fin, half wind?"]
        )
        self.assertRegex(chapters["What it weighs"]["Shaped"], r"^1\.700 kg, forecast \d\.\d{3} kg, [+−]\d+ g$")
        self.assertNotIn("29.9", str(chapters))  # the van's speed was struck
        path = self.folder / "history.pdf"
        self.view.papers.write_history(history.made(), history.chapters, path)
        self.wait_for(path.exists)
        words = " ".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
        self.assertIn("SK-10", words)
        self.assertRegex(words, r"[0-9A-Z]{4}-[0-9A-Z]{4}")
        self.assertIn("Too little fin", words)
