"""Walk a window at random: gestures of all views, undo and redo, then back to the first and forward again.

    .venv/bin/python -m tools.gesture_walk [GESTURES] [SEED]

A fault is a traceback, something that waits for the disk, a walk back that does not end where it began, or one forward
that does not end where it turned.
"""

import os
import random
import sys
import tempfile
import traceback
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from kelvor.core.base.errors import KelvorError
from kelvor.core.build.mass.stages import STAGES, WeighIn
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.levers.catalogue import levers
from kelvor.core.register.kinds import KINDS
from kelvor.core.register.kinds.water import WaterSession
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.ui.build.made import Making
from kelvor.ui.shape.bench.bench import Hold
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.window.main_window import MainWindow

VIEWS = ("brief", "shape", "ride", "compare", "build", "water", "family", "rack")
WORDS = ("drier start", "plus rapide\u202f!", "🏄\u200d♀️ glides", "نرم", "half typed")


def state(window: MainWindow) -> dict[str, Any]:
    """All that gestures change, as the window holds it."""
    session = window.session
    registers = session.workshop.registers
    return {
        "board": (session.board_id, session.board),
        "brief": session.brief,
        "reference": session.overlays.step,
        "reasons": {s.id: s.reason for s in session.steps.values() if s.reason},
        "marks": {s.id: s.frozen for s in session.steps.values() if s.frozen},
        "tables": (session.table, session.coefficients, session.workshop.tables.kept),
        "records": {r.uid: (r.kind, r.value) for kind in KINDS for r in registers.of(kind)},
    }


class Walk:
    """One window and a dice."""

    def __init__(self, window: MainWindow, seed: int) -> None:
        self.window, self.session = window, window.session
        self.dice = random.Random(seed)
        self.count: Counter[str] = Counter()
        self.faults: list[str] = []

    def gestures(self) -> list[Callable[[], object]]:
        """What can be done, each as a hand does it."""
        return [
            self.nudge, self.nudge, self.drag, self.type_volume, self.build, self.pin, self.reason, self.mark,
            self.decide, self.brief, self.look, self.say, self.log, self.begin, self.weigh, self.read, self.let_pass,
            self.tick, self.coefficient, self.construction, self.half_typed, self.half_a_reason, self.go_to, self.open,
        ]  # fmt: skip

    def view(self, name: str) -> Any:
        self.window.show_view(name)
        QApplication.processEvents()
        return self.window.views[name]

    def nudge(self) -> None:
        shape = self.view("shape")
        lever = self.dice.choice(levers(self.session.board))
        if shape.levers.row(lever.key) is not None:
            shape.levers._nudged(lever.key, self.dice.choice((-2.0, -1.0, 1.0, 2.0)))

    def type_volume(self) -> None:
        self.view("shape").levers.pull("volume", f"{self.dice.uniform(30, 90):.1f}")

    def drag(self) -> None:
        bench = self.view("shape").bench
        held = Hold(self.dice.choice(("outline", "rocker", "thickness")), self.dice.randrange(1, 4))
        with suppress(IndexError):
            start = bench.handle_point(held)
            for kind, point in (
                (QEvent.Type.MouseButtonPress, start),
                (QEvent.Type.MouseMove, start + QPointF(0, 2)),
                (QEvent.Type.MouseMove, start + QPointF(0, self.dice.uniform(-12, 12))),
            ):
                self._mouse(bench, kind, point)
            self._mouse(bench, QEvent.Type.MouseButtonRelease, point)

    def _mouse(self, widget: Any, kind: QEvent.Type, point: QPointF) -> None:
        button, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
        held = none if kind is QEvent.Type.MouseButtonRelease else button
        event = QMouseEvent(
            kind, point, QPointF(widget.mapToGlobal(point.toPoint())), button, held, Qt.KeyboardModifier.NoModifier
        )
        QApplication.sendEvent(widget, event)

    def build(self) -> None:
        recipe = self.dice.choice(recipes(self.session.brief.discipline))
        self.session.build_with(recipe, f"Built as {recipe.name}")

    def pin(self) -> None:
        self.session.versions.pin(self.dice.choice((None, self.session.current)))

    def reason(self) -> None:
        tape = self.window.tape
        tape.reason.setFocus()
        tape.reason.setText(self.dice.choice(WORDS))
        QTest.keyClick(tape.reason, Qt.Key.Key_Return)

    def half_typed(self) -> None:
        """Words in a field that nobody has left."""
        fields = [f for f in self.window.findChildren(QLineEdit) if f.isVisible() and f.isEnabled()]
        if fields:
            field = self.dice.choice(fields)
            field.setFocus()
            QTest.keyClicks(field, self.dice.choice(("7", "a", "3.5")))

    def half_a_reason(self) -> None:
        """Words of the tape or the notes that nobody has left."""
        if self.dice.random() < 0.5:
            field: Any = self.window.tape.reason
        else:
            field = self.view("brief").rider.notes
        field.setFocus()
        QTest.keyClicks(field, self.dice.choice("abc"))

    def mark(self) -> None:
        self.session.versions.freeze(self.session.current, "drawn", self.dice.choice(WORDS))

    def decide(self) -> None:
        self.session.versions.decide(self.session.current, Decision(verdict="parked", why=self.dice.choice(WORDS)))

    def brief(self) -> None:
        rider = replace(self.session.brief.rider, mass=float(self.dice.randrange(50, 95)))
        self.session.briefs.set(replace(self.session.brief, rider=rider))

    def look(self) -> None:
        self.view(self.dice.choice(VIEWS))

    def say(self) -> None:
        words, session = Said(words=self.dice.choice(WORDS)), self.session
        session.workshop.registers.keep("said", words, "words", origin="felt", board=session.board_id)

    def log(self) -> None:
        value = WaterSession(day=f"2026-06-{self.dice.randrange(1, 29):02d}", place=self.dice.choice(WORDS))
        self.session.service(Logbook).log(value, self.session.service(Logbook).proposed(), None)

    def begin(self) -> None:
        boards = self.view("build").boards
        boards.serial.setText(f"W-{self.dice.randrange(10**6)}")
        boards.serial.setModified(True)
        boards.begin_button.click()

    def weigh(self) -> None:
        if self.session.service(Making).chosen() is not None:
            self.session.service(Making).weigh(WeighIn(self.dice.choice(STAGES), self.dice.uniform(0.5, 5)))

    def read(self) -> None:
        sheet = self._sheet()
        if sheet.field.isEnabled():
            sheet.table.selectRow(self.dice.randrange(max(len(sheet.lines), 1)))
            sheet.field.setFocus()
            QTest.keyClicks(sheet.field, f"{self.dice.uniform(0, 90):.1f}")
            QTest.keyClick(sheet.field, Qt.Key.Key_Return)

    def let_pass(self) -> None:
        sheet = self._sheet()
        sheet.table.selectRow(self.dice.randrange(max(len(sheet.lines), 1)))
        sheet.most.setFocus()
        sheet.most.setText(f"{self.dice.uniform(0.3, 2):.1f}")
        QTest.keyClick(sheet.most, Qt.Key.Key_Return)

    def _sheet(self) -> Any:
        view = self.view("build")
        view.tabs.setCurrentWidget(view.sheet)
        QApplication.processEvents()
        return view.sheet

    def tick(self) -> None:
        making = self.session.service(Making)
        if making.chosen() is not None:
            making.tick(self.dice.choice(making.schedule()), 20.0, 50.0, self.dice.choice(WORDS))

    def coefficient(self) -> None:
        self.session.workshop.tables.keep_coefficient("arm_share", round(self.dice.uniform(0.3, 0.6), 3))

    def construction(self) -> None:
        made = replace(recipes("wing foil")[0], name=self.dice.choice(WORDS))
        self.session.workshop.tables.keep_construction(made)

    def go_to(self) -> None:
        self.session.versions.go_to(self.dice.choice(list(self.session.steps)))

    def open(self) -> None:
        self.session.file.open_board(self.dice.choice(self.session.workshop.store.boards()).id)

    def undo(self) -> None:
        self.window.actions_by_key["edit.undo"].trigger()

    def redo(self) -> None:
        self.window.actions_by_key["edit.redo"].trigger()

    def once(self, do: Callable[[], object]) -> None:
        """One gesture; a fault is kept in words."""
        self.count[do.__name__] += 1
        try:
            with suppress(KelvorError):  # refused, and said
                do()
            QApplication.processEvents()
        except Exception:
            self.faults.append(f"{do.__name__}: {traceback.format_exc()}")
        if self.session.workshop.saving.waiting:
            self.faults.append(f"{do.__name__}: {self.session.workshop.saving.words()}")
            self.session.workshop.saving.give_up()

    def go(self, gestures: int) -> list[str]:
        """Walk; what went wrong."""
        caught, sys.excepthook = sys.excepthook, self._caught
        try:
            history, do = self.session.workshop.gestures, self.gestures()
            begun = state(self.window)
            for _ in range(gestures):
                act = self.dice.choices(("do", "undo", "redo"), (4, 2, 1))[0]
                if act == "do":
                    self.once(self.dice.choice(do))
                elif history.last if act == "undo" else history.next:
                    self.once(self.undo if act == "undo" else self.redo)
            self.window.setFocus()
            QApplication.processEvents()
            turned, deep = state(self.window), len(history._done)
            while history.last and len(self.faults) < 20:
                self.once(self.undo)
            self._same(begun, "back at the first")
            for _ in range(deep):
                if history.next and len(self.faults) < 20:
                    self.once(self.redo)
            self._same(turned, "where it turned")
        finally:
            sys.excepthook = caught
        return self.faults

    def _caught(self, kind: type[BaseException], error: BaseException, trace: Any) -> None:
        if not isinstance(error, KelvorError):
            self.faults.append("".join(traceback.format_exception(kind, error, trace)))

    def _same(self, wanted: dict[str, Any], where: str) -> None:
        now = state(self.window)
        for key, value in wanted.items():
            if now[key] == value:
                continue
            told = f"{where}: {key} differ"
            if isinstance(value, dict):
                keys = [k for k in {**value, **now[key]} if value.get(k) != now[key].get(k)]
                told += "".join(f"\n  {k}: {value.get(k)!r} became {now[key].get(k)!r}" for k in keys[:5])
            self.faults.append(told)


def main() -> int:
    from kelvor.demo.workshop import create_demo
    from kelvor.ui.background.runner import close_workers
    from kelvor.ui.session import slow_results
    from kelvor.ui.settings import Settings
    from kelvor.ui.window.application import make_application, make_window
    from kelvor.workshop.store import Store

    slow_results.SETTLE_AFTER_MS = 10**7
    gestures, seed = (int(word) for word in (*sys.argv[1:3], "3000", "1")[:2])
    with tempfile.TemporaryDirectory() as name:
        make_application()
        path = Path(name) / "walk.kelvor"
        create_demo(path)
        window = make_window(Store.open(path), Settings(Path(name) / "settings.json"))
        window.resize(1280, 800)
        window.show()
        window.activateWindow()
        QApplication.processEvents()
        window.session.finish_start()
        walk = Walk(window, seed)
        faults = walk.go(gestures)
        print(f"{sum(walk.count.values())} gestures: {dict(walk.count)}; {len(faults)} faults")
        for words in faults[:10]:
            print(words)
        window.close()
        close_workers()
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
