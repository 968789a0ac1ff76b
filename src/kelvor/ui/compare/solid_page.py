"""Another board through the one on the bench, as solids."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from kelvor.core.compare.curves import Datum, datum_slide
from kelvor.core.evaluation.live import Live
from kelvor.ui.controls.panel import plain_label
from kelvor.ui.session.session import Session
from kelvor.ui.session.shown_boards import Shown

if TYPE_CHECKING:
    from kelvor.ui.shape.solid.solid_view import SolidView

THROUGH = "In colour {} stands out of the board on the bench, white it lies inside, speckled they are alike."


class SolidPage(QWidget):
    """Made when it is first looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.solid: SolidView | None = None
        self._column, self.bar = QVBoxLayout(self), QHBoxLayout()
        self._column.setContentsMargins(0, 4, 0, 0)
        self._words = plain_label()
        self._words.setWordWrap(True)
        self._words.setObjectName("quiet")
        self.bar.addWidget(self._words, 1)
        self._column.addLayout(self.bar)

    def refresh(self, other: Shown | None, datum: Datum) -> None:
        """Lay a board through the one on the bench, together at a datum."""
        if self.solid is None:
            from kelvor.ui.shape.solid.solid_view import SolidView

            self.solid = SolidView(self.session)
            self.solid.water = False
            self._column.addWidget(self.solid, 1)
        slid = None if other is None else datum_slide(self.session.live, other.live, datum)
        over = None if other is None or slid is None else (other.live, slid, other.role)
        self._words.setText(THROUGH.format(other.name) if over is not None and other is not None else "")
        if _told(over) != _told(self.solid.over):
            self.solid.lay_over(over)

    def shut(self) -> None:
        """The window closes."""
        if self.solid is not None:
            self.solid.close_scene()


def _told(over: tuple[Live, float, str] | None) -> tuple[object, ...]:
    """What makes one board laid through another the same as before."""
    return () if over is None else (id(over[0]), *over[1:])
