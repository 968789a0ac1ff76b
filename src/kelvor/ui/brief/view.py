"""The Brief view: who the board is for, where it rides, what it must do."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QHBoxLayout, QWidget

from kelvor.ui.brief.gear_panel import GearPanel
from kelvor.ui.brief.rider_panel import RiderPanel
from kelvor.ui.brief.targets_panel import TargetsPanel
from kelvor.ui.session.session import Session

if TYPE_CHECKING:
    from kelvor.ui.session.window_protocols import Window


class BriefView(QWidget):
    """The brief as one page: rider and place, gear, targets."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.setObjectName("ground")
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 0, 10, 4)
        row.setSpacing(8)
        self.targets = TargetsPanel(session)
        self.rider = RiderPanel(session, self.targets.problem.setText)
        self.gear = GearPanel(session, self.targets.problem.setText)
        for panel, share in ((self.rider, 13), (self.gear, 12), (self.targets, 25)):
            row.addWidget(panel, share)
        session.brief_changed.connect(self.refresh)
        session.units_changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the brief."""
        for panel in (self.gear, self.rider, self.targets):
            panel.show_brief()


def brief_view(window: Window) -> BriefView:
    """The Brief view of a window."""
    return BriefView(window.session)
