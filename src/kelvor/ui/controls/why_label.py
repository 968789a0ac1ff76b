"""The words that trace a figure: method, source, band, inputs."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel

from kelvor.ui.shown.wording import escaped
from kelvor.ui.theme.style import font


class WhyLabel(QLabel):
    """Titled lines that wrap, to be read, chosen by mouse or keyboard, and copied."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setFont(font(12))
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.setContentsMargins(12, 6, 10, 8)
        self.setTextInteractionFlags(
            Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
        )

    def tell(self, lines: list[tuple[str, str]], heading: str = "") -> None:
        """Show titled lines below a heading."""
        head = f'<p style="font-size:15px; margin:0 0 6px 0"><b>{escaped(heading)}</b></p>' if heading else ""
        self.setText(head + "<br>".join(f"<b>{title}</b> {escaped(words)}" for title, words in lines))
