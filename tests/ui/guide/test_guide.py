"""The guide: nothing in it that is not so, every place there, and F1 leading to it from where the hand is."""

import ast
import re
from functools import cache
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton, QTabWidget

from kelvor.core.levers.catalogue import GROUPS
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.guide.pages import FOLDER, LEVER_PLACES, TAB_PLACES, guide_page, pages, slug
from kelvor.ui.seek.seek_panel import SeekPanel
from kelvor.ui.window.actions.table import all_actions
from kelvor.ui.window.views import VIEWS
from tests.ui.case import WindowCase

SOURCE = Path("src/kelvor")
KEY = r"(?:Ctrl\+|Shift\+|Alt\+)+(?:[A-Z]|\d)|F\d\d?"


@cache
def literals():
    """Every piece of text in the program, as the window may show it."""
    found = set()
    for folder in ("ui", "core", "exchange"):
        for path in (SOURCE / folder).rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                if isinstance(node, ast.Constant) and isinstance(node.value, str):
                    found.add(node.value)
    return found


def places():
    """Every place that something leads to."""

    def below(kind):
        for one in kind.__subclasses__():
            yield one
            yield from below(one)

    kinds = {one.__name__: one.guide for one in below(Panel)}
    return [*(view.guide for view in VIEWS), *LEVER_PLACES.values(), *TAB_PLACES.values(), *kinds.values()]


class Words(WindowCase):
    def test_every_word_in_bold_is_in_the_program_and_every_key_does_what_is_said(self):
        keys = {action.shortcut: action for action in all_actions() if action.shortcut}
        checked = 0
        for one in pages():
            if one.key == "glossary":
                continue
            for bold, key in re.findall(rf"\*\*([^*]+)\*\*(?: \(({KEY})[^)]*\))?", one.text):
                words = " ".join(bold.split())
                with self.subTest(page=one.key, words=words):
                    checked += 1
                    if re.fullmatch(KEY, words) or words in ("Shift", "Alt+M"):
                        self.assertTrue(words in keys or words in ("Shift", "Alt+M"), words)
                        continue
                    shown = [action.label for action in all_actions()]
                    there = any(words in text for text in (*literals(), *shown)) or words in (
                        "difference",
                        "ride strip",
                    )
                    self.assertTrue(there, f"nothing in the program says “{words}”")
                    if key:
                        self.assertIn(words.rstrip("…"), keys[key].label)
        self.assertGreater(checked, 50)

    def test_links_pictures_and_places_are_there(self):
        self.assertEqual({one.key for one in pages()}, {path.stem for path in FOLDER.glob("*.md")})
        for one in pages():
            for target in re.findall(r"\]\(([^)]+)\)", one.text):
                self.assertTrue((FOLDER / target.partition("#")[0]).resolve().is_file(), (one.key, target))
            self.assertFalse(re.search(r"[“”]{2}|\bTODO\b|\?\?", one.text))
        for place in places():
            key, _, section = place.partition("#")
            if not place:
                continue
            self.assertEqual(guide_page(key).key, key, place)
            self.assertTrue(not section or section in map(slug, guide_page(key).headings), place)

    def test_every_lever_and_every_panel_leads_somewhere(self):
        self.assertEqual(set(GROUPS) - set(LEVER_PLACES), set())
        shown = set()
        for view in VIEWS:
            self.window.show_view(view.key)
            tabs = getattr(self.window.views[view.key], "tabs", None)
            if isinstance(tabs, QTabWidget):
                shown |= {tabs.tabText(i) for i in range(tabs.count())}
        self.assertEqual(set(TAB_PLACES) - shown, set())
        self.assertTrue(all(view.guide != "index" for view in VIEWS))

    def test_every_view_and_every_word_of_the_trade_is_told(self):
        told = " ".join(one.text for one in pages())
        for view in VIEWS:
            self.assertTrue(view.shortcut in told, view.words)
        for word in ("apex", "cut-out", "flat run", "one-foot-off", "swing weight", "tuck", "toe-in", "inverted v",
                     "winger", "stagger", "planing area", "recovery volume", "spine", "chine"):  # fmt: skip
            self.assertRegex(guide_page("glossary").text.casefold(), rf"\*\*[^*]*{word}")


class Leading(WindowCase):
    def guide(self):
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_F1)
        return self.window.dialogs.shown[-1]

    def test_f1_leads_from_where_the_hand_is(self):
        self.window.activateWindow()
        self.window.shape.levers.list.setFocus()
        self.window.shape.levers.list.choose("tail_rocker")
        guide = self.guide()
        self.assertEqual(guide.shown.key, "shape")
        self.assertEqual(guide.reader.textCursor().block().text(), "Rocker")
        self.assertGreater(guide.reader.verticalScrollBar().value(), 0)
        self.window.show_view("water")
        self.window.views["water"].setFocus()
        self.window.actions_by_key["help.guide"].trigger()
        self.assertEqual((guide.shown.key, guide.list.currentItem().text()), ("water", "Water"))
        self.assertEqual(guide.reader.textCursor().block().text(), "Sessions")
        panel = SeekPanel(self.window, self.session)
        self.window.dialogs.show(panel)
        panel.activateWindow()
        field = panel.findChildren(type(guide.typed))[0]
        field.setFocus()
        self.wait_for(lambda: QApplication.focusWidget() is field, 5)
        self.window.actions_by_key["help.guide"].trigger()
        self.assertEqual(guide.reader.textCursor().block().text(), "Seek")
        self.trigger("board.trade")
        asking = self.window.dialogs.shown[-1]
        next(button for button in asking.findChildren(QPushButton) if button.text() == "?").click()
        self.assertEqual(guide.reader.textCursor().block().text(), "Trade-off")

    def test_words_are_found_links_followed_and_pictures_fit(self):
        self.window.dialogs.guide()
        guide = self.window.dialogs.shown[-1]
        guide.resize(900, 600)
        QTest.keyClicks(guide.typed, "trade-off")
        self.assertEqual(guide.shown.key, "seek")
        self.assertIn("trade-off", guide.reader.textCursor().selectedText().casefold())
        guide.typed.clear()
        QTest.keyClicks(guide.typed, "zebra")
        self.assertIn("try one of them", guide.problem.text())
        guide.go("ride")
        guide.reader.anchorClicked.emit("tank.md")
        self.assertEqual(guide.shown.key, "tank")
        guide.go("shape")
        wide = guide.reader.document().size().width()
        self.assertLessEqual(wide, guide.reader.viewport().width() + 1)
        shown = guide.reader.loadResource(2, "../screenshots/shape.png")
        self.assertIsInstance(shown, QImage)
        self.assertGreater(shown.width(), 300)
