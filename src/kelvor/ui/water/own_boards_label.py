"""Says in the bar that figures are shown by our own boards."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel

from kelvor.ui.theme.roles import DARK
from kelvor.ui.water.own_boards import OurBoards


class OursLabel(QLabel):
    """Empty while figures are plain."""

    def __init__(self, ours: OurBoards) -> None:
        super().__init__()
        self._ours = ours
        self.setContentsMargins(0, 0, 10, 0)
        self.setToolTip("Figures by our own boards; Ctrl+Shift+O shows plain ones")
        ours.changed.connect(self._told)
        self._told()

    def _told(self) -> None:
        self.setText(f'<span style="color:{DARK.cursor}">By our own boards</span>' if self._ours.on else "")
