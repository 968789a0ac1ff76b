"""Any text a keyboard can make is welcome: whatever is written with it opens whole and writable the next morning."""

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import date, timedelta

import shiboken6
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QPlainTextEdit, QTabWidget

from kelvor.core.base.limits import field_problems
from kelvor.core.register.kinds.family import ClassRule
from kelvor.core.register.kinds.words import Decision
from kelvor.core.shape.parts.layers import ShapingLayer
from kelvor.ui.build.made import Making
from kelvor.ui.session.shown_boards import Shown
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.window.views import VIEWS
from kelvor.workshop.rescue import rescue
from kelvor.workshop.soundness import COLUMNS, examined
from tests.ui.case import WindowCase
from tests.ui.water.test_water import logged

TEXTS = {
    "ordinary": "Rails by hand",
    "French": "« très vite »\u00a0: 1\u202f320\u00a0g\u00a0!",
    "emoji": "glisse 🏄🏽\u200d♀️ 👩\u200d🔧 \U0001f3f4\U000e0067\U000e0062\U000e0077\U000e007f \U0001fae9",
    "Persian": "می\u200cروم \u200fلوح\u200e 40 نرم",
    "copied": "free\u200b in\u202e the\ufeff nose\u2028and\tround\x07 \ud83d",
    "long": "x" * 400,
}


class Writing(WindowCase):
    """Each gesture writes `words` through its own panel; `said` is what it refused with."""

    def panel(self, key):
        self.trigger(key)
        return self.window.dialogs.shown[-1]

    def put(self, panel, **typed):
        for name, words in typed.items():
            field = getattr(panel, name)
            field.setPlainText(words) if isinstance(field, QPlainTextEdit) else field.setText(words)
        panel.do.click()
        self.app.processEvents()
        refused = panel.problem.text() if shiboken6.isValid(panel) and panel.isVisible() else ""
        if refused:
            for name, words in typed.items():  # nothing typed is lost
                field = getattr(panel, name)
                self.assertEqual(field.text() if isinstance(field, QLineEdit) else field.toPlainText(), words, name)
        if shiboken6.isValid(panel):
            panel.close()
        return refused

    def view(self, key):
        self.trigger(f"view.{key}")
        return self.window.views[key]

    def gestures(self, words):
        """Everything a person can write, each as a call; of a text that one refuses, the rest is told apart."""
        name = words[:60]
        session, registers, log = self.session, self.session.workshop.registers, self.session.service(Logbook)
        build, water = self.view("build"), self.view("water")
        boards = build.boards
        one = next(s for s in log.all() if s.setups)
        number = len(session.service(Making).all_boards())
        due = (date.today() + timedelta(days=3)).isoformat()
        layer = next(item for item in session.board.layers if isinstance(item, ShapingLayer))
        form = water.sessions

        def begin():
            boards.serial.setText(f"{words[:30]} {number}")
            boards.serial.setModified(True)
            boards.who.setText(name)
            boards.begin_button.click()

        def work():
            boards.hours.setText("2,5")
            boards.words.setText(words)
            boards.write_button.click()
            boards.whose.setText(name)
            boards.whose.editingFinished.emit()
            boards.entries.selectRow(0)
            boards.words.setText(words)
            boards.strike_button.click()

        def read():
            build.sheet.refresh()
            for line in range(6):
                build.sheet.table.selectRow(line)
                QTest.keyClicks(build.sheet.field, "0.4")
                QTest.keyClick(build.sheet.field, Qt.Key.Key_Return)

        def tick():
            panel = self.panel("build.schedule")
            panel.batch.setText(words[:200])
            panel.do.click()
            panel.close()

        def say():
            form.words_button.click()
            panel = self.window.dialogs.shown[-1]
            note = self.folder / f"{name[:40]}.ogg".replace("/", "-").replace("\ud83d", "\udcff")
            note.write_bytes(b"OggS" + name.encode("utf-8", "replace"))
            panel.take_file(note)
            return self.put(panel, words=words, who=name, rides=words)

        def log_session():
            form.log_button.click()
            panel = self.window.dialogs.shown[-1]
            panel.place.setEditText(name)
            panel.rider.setEditText(name)
            panel.fin.setEditText(name)
            panel.board.setEditText(name)
            return self.put(panel, words=words, rides=words, partner=words)

        def track():
            log.take_track(logged(f"2026-10-{number % 20 + 1:02d}", seed=number), f"{words}\n\udcff.fit", one.uid)
            self.wait_for(lambda: not log._incoming)

        def columns():
            heads = ";".join(["Zeit", "Breite", "Laenge", *(f"{name}{i}" for i in range(100))])
            row = ";".join(["1794654000", "61,9", "4,9", *("0" for _ in range(100))])
            log.take_track(f"{heads}\n{row}\n".encode("utf-8", "replace"), f"{name}.csv")
            panel = self.window.dialogs.shown[-1]
            for key, head in (("time", "Zeit"), ("latitude", "Breite"), ("longitude", "Laenge")):
                panel.boxes[key].setCurrentIndex(panel.boxes[key].findData(head))
            self.put(panel)

        def plan():
            water.tests.plan.click()
            typed = {"question": words[:200], "a": f"A {name}", "b": f"B {name}", "differs": name, "more": words[:200]}
            return self.put(self.window.dialogs.shown[-1], current="20", **typed)

        def run():
            tests = water.tests
            tests.refresh()
            tests.value.setText("21.5")
            tests.felt.setText(words)
            tests.rider.setText(name)
            QTest.keyClick(tests.value, Qt.Key.Key_Return)
            tests.decided.setText(words)
            tests.decided.editingFinished.emit()

        def gear():
            water.tabs.setCurrentWidget(water.gear)
            water.gear.refresh()
            water.gear.table.selectRow(0)
            water.gear.words.setText(words)
            water.gear.write()

        def old_board():
            rack = self.view("rack")
            rack.notebook.name.setText(name)
            rack.notebook.said.setText(words)
            rack.notebook.who.setText(name)
            rack.notebook.keep()

        def rider():
            view = self.view("register")
            uid = view.add_thing()
            line = view.form.field("name")
            line.setText(name)
            line.editingFinished.emit()
            return "" if registers.get(uid) is not None else "gone"

        def rename():
            layers = tuple(replace(item, name=name) if item is layer else item for item in session.board.layers)
            session.commit(replace(session.board, name=name, layers=layers), (), title=f"called {words}")

        def reason():
            self.window.tape.reason.setText(words)
            self.window.tape.reason.editingFinished.emit()
            session.versions.freeze(session.current, "drawn", words)

        def brief():
            session.briefs.set(replace(session.brief, rider=replace(session.brief.rider, name=name)))

        def construction():
            panel = build.made
            panel.keep_name.setText(name)
            panel._keep()

        def rule():
            registers.keep("class rule", ClassRule(name=name, source=words), "a class rule")

        def undone():
            session.undo()
            session.redo()

        yield from (begin, work, read, tick)
        yield lambda: self.put(self.panel("build.proof"), moment="600 N m", words=words, who=name)
        yield lambda: self.put(self.panel("build.orders"), customer=name, due=due, price="1")
        yield lambda: self.put(self.panel("board.notes"), words=words, source=words)
        yield lambda: self.put(self.panel("edit.decide"), why=words, who=name)
        yield lambda: self.put(self.panel("workshop.feel"), words=f"{words[:30]}, {name[:30]} b")
        yield from (say, log_session, track, columns, plan, run, gear, rider, rename, reason, brief, construction)
        yield from (rule, undone)
        yield lambda: self.put(self.panel("board.child"), name=name, reason=words)
        yield old_board


class AnyText(Writing):
    def assert_as_wide_as_before(self, words):
        """No text of any length widens the window, whatever is looked at."""
        self.session.workshop.registers.decide(
            self.session.current, self.session.board_id, Decision(verdict="parked", why=words), "decided"
        )
        session = self.session
        beside = Shown(session.live, "x" * 60, board=session.board_id, step=session.current, number=1)
        session.overlays.show_beside([beside])
        for view in VIEWS:
            self.window.show_view(view.key)
            self.app.processEvents()
            tabs = self.window.views[view.key].findChildren(QTabWidget)
            for at in range(tabs[0].count() if tabs else 0):
                tabs[0].setCurrentIndex(at)
                self.app.processEvents()
                self.assertEqual(self.window.width(), 1280, f"{view.key}, {tabs[0].tabText(at)}")
            self.assertEqual(self.window.width(), 1280, view.key)

    def test_every_gesture_with_every_text_leaves_a_whole_workshop(self):
        for kind, words in TEXTS.items():
            for gesture in self.gestures(words):
                before = len(self.session.workshop.saving.done)
                with self.subTest(kind, gesture=getattr(gesture, "__name__", "panel"), before=before):
                    self.assertFalse(gesture())
                    self.assertEqual(self.session.workshop.saving.waiting, [])
                    self.assertGreater(len(self.session.workshop.saving.done), before)
        self.close_panels()
        self.assert_as_wide_as_before(TEXTS["long"])
        self.assertEqual([str(p) for record in self.session.workshop.registers._records.values()
                          for p in field_problems(record.value)], [])  # fmt: skip
        self.window.close()
        self.session.workshop.store.close()
        found = examined(self.path, 1.0)
        self.assertEqual((found.damages, found.cleaned), ([], []))
        new = self.folder / "repaired.kelvor"
        rescue(self.path, new)
        with closing(sqlite3.connect(self.path)) as one, closing(sqlite3.connect(new)) as other:
            for table, names in COLUMNS.items():
                query = f"SELECT {', '.join(names)} FROM {table} ORDER BY 1"
                self.assertEqual(one.execute(query).fetchall(), other.execute(query).fetchall(), table)
        self.window = self.open_window()
        self.session, self.shape = self.window.session, self.window.shape
        self.assertIsNone(self.session.workshop.store.damages)
        self.session.versions.set_reason(self.session.current, "the next morning")
        self.assertEqual(self.session.workshop.saving.waiting, [])
