"""Fonts, palette and style sheet from the roles."""

from __future__ import annotations

from dataclasses import fields
from functools import cache
from pathlib import Path

from PySide6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPalette, QPixmap
from PySide6.QtWidgets import QApplication

from kelvor.ui.theme.roles import LIGHT, Roles

FAMILY = "Barlow"
_HERE = Path(__file__).parent
_current = [LIGHT]

_SHEET = """
QWidget {{ color: {ink}; }}
QWidget#ground, QMainWindow {{ background: {ground}; }}
QFrame#panel, QScrollArea#panel {{ background: {paper}; border: 1px solid {line}; border-radius: 4px; }}
QWidget#bar {{ background: {bar}; }}
QWidget#bar QLabel {{ color: {on_bar}; }}
QWidget#bar QLabel#quiet {{ color: {on_bar_quiet}; }}
QWidget#bar QToolButton {{ color: {on_bar_quiet}; background: transparent; border: none; padding: 8px 8px 6px 8px;
  border-bottom: 3px solid transparent; }}
QWidget#bar QToolButton:hover, QWidget#bar QToolButton:focus {{ color: {on_bar}; }}
QWidget#bar QToolButton:checked {{ color: {on_bar}; border-bottom: 3px solid {cursor}; font-weight: 700; }}
QWidget#bar QToolButton::menu-indicator {{ image: none; }}
QLineEdit, QComboBox, QPlainTextEdit, QSpinBox {{ background: {board_fill}; border: 1px solid {line};
    border-radius: 3px;
  padding: 2px 6px; selection-background-color: {live}; selection-color: {paper}; min-height: 20px; }}
QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus {{ border: 1px solid {live}; }}
QLineEdit[wrong="true"] {{ border: 1px dashed {short}; }}
QComboBox {{ min-height: 22px; }}
QComboBox::drop-down {{ border: none; width: 20px; }}
QComboBox::down-arrow {{ image: url({chevron}); width: 11px; height: 11px; }}
QWidget#sheet {{ background: {paper}; }}
QScrollArea {{ border: none; background: transparent; }}
QListWidget {{ background: {board_fill}; border: 1px solid {line}; border-radius: 3px; }}
QTableWidget {{ background: {board_fill}; border: 1px solid {line}; gridline-color: {line}; }}
QTableWidget::item:selected {{ background: {live_wash}; color: {ink}; }}
QHeaderView::section {{ background: {paper}; color: {quiet}; border: none; border-bottom: 1px solid {line};
    padding: 3px 4px; }}
QTableWidget#figures {{ border: none; background: {paper}; }}
QTableWidget#figures::item {{ border-bottom: 1px solid {line}; padding-right: 4px; }}
QTableCornerButton::section {{ background: {paper}; border: none; }}
QTabBar::tab {{ background: transparent; color: {quiet}; padding: 5px 12px; border-bottom: 2px solid transparent; }}
QTabBar::tab:selected {{ color: {ink}; border-bottom: 2px solid {cursor}; font-weight: 700; }}
QTabWidget::pane {{ border: none; }}
QListWidget::item:selected {{ background: {live_wash}; color: {ink}; }}
QComboBox QAbstractItemView, QMenu {{ background: {paper}; color: {ink}; border: 1px solid {line};
  selection-background-color: {live_wash}; selection-color: {ink}; }}
QMenu::item {{ padding: 5px 28px 5px 18px; }} QMenu::item:selected {{ background: {live_wash}; }}
QMenu::separator {{ height: 1px; background: {line}; margin: 4px 0; }}
QMenu::item:disabled {{ color: {quiet}; }}
QPushButton {{ background: {paper}; border: 1px solid {line}; border-radius: 3px; padding: 4px 12px; }}
QPushButton:disabled {{ color: {line}; border: 1px dashed {line}; }}
QPushButton:hover, QPushButton:focus {{ border: 1px solid {live}; color: {live}; }}
QPushButton:default {{ background: {live}; color: {paper}; border: 1px solid {live}; }}
QCheckBox::indicator {{ width: 13px; height: 13px; border: 1px solid {quiet}; border-radius: 2px;
    background: {board_fill}; }}
QCheckBox::indicator:checked {{ background: {live}; border: 1px solid {live}; }}
QCheckBox:focus {{ color: {live}; }}
QLabel#heading {{ font-weight: 700; font-size: 15px; }}
QLabel#group {{ font-weight: 700; color: {live}; }}
QLabel#quiet {{ color: {quiet}; }}
QLabel#wrong {{ color: {short}; font-weight: 600; }}
BenchWidget QLabel {{ background: {paper}; border-bottom: 1px solid {line}; }}
QToolTip {{ background: {paper}; color: {ink}; border: 1px solid {line}; padding: 4px; }}
QScrollBar:vertical {{ background: transparent; width: 9px; }}
QScrollBar::handle:vertical {{ background: {line}; border-radius: 4px; min-height: 24px; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{ background: none;
    height: 0; }}
QDialog {{ background: {paper}; }}
QProgressBar {{ border: 1px solid {line}; border-radius: 3px; background: {board_fill}; max-height: 8px; }}
QProgressBar::chunk {{ background: {live}; }}
"""


def roles() -> Roles:
    """The roles in force."""
    return _current[0]


def colour(role: str, alpha: int = 255) -> QColor:
    """The colour of a role; one object for all who ask, so change a copy."""
    return _colour(_current[0], role, alpha)


@cache
def _colour(of: Roles, role: str, alpha: int) -> QColor:
    found = QColor(getattr(of, role))
    found.setAlpha(alpha)
    return found


@cache
def font(size: float = 13.0, weight: int = 400) -> QFont:
    """The shipped font with tabular figures, in pixels; one object for all who ask."""
    found = QFont(FAMILY)
    found.setPixelSize(round(size))
    found.setWeight(QFont.Weight(weight))
    found.setFeature(QFont.Tag("tnum"), 1)
    return found


def load_fonts() -> None:
    """Make the shipped fonts known."""
    for path in sorted((_HERE.parent.parent / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def apply_theme(app: QApplication, chosen: Roles) -> None:
    """Put a theme in force."""
    _current[0] = chosen
    app.setFont(font())
    palette = QPalette()
    for role, name in (
        (QPalette.ColorRole.Window, "ground"),
        (QPalette.ColorRole.Base, "paper"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.Highlight, "live"),
        (QPalette.ColorRole.HighlightedText, "paper"),
        (QPalette.ColorRole.PlaceholderText, "quiet"),
        (QPalette.ColorRole.Button, "paper"),
        (QPalette.ColorRole.ButtonText, "ink"),
    ):
        palette.setColor(role, colour(name))
    app.setPalette(palette)
    named = {name: getattr(chosen, name) for name in (field.name for field in fields(Roles))}
    app.setStyleSheet(_SHEET.format(chevron=(_HERE / "icons" / "chevron.svg").as_posix(), **named))


def icon(name: str, role: str = "ink") -> QIcon:
    """A shipped icon, drawn in the colour of a role."""
    svg = (
        (_HERE / "icons" / f"{name}.svg")
        .read_text(encoding="utf-8")
        .replace("currentColor", getattr(_current[0], role))
    )
    pixmap = QPixmap()
    pixmap.loadFromData(svg.encode(), "SVG")
    return QIcon(pixmap)
