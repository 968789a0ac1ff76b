"""Long work on other machines: asked once for each address, since whoever answers there is trusted with everything."""

from __future__ import annotations

import os

from PySide6.QtWidgets import QWidget

from kelvor.core.base.plain_text import one_line
from kelvor.ui.background.more_machines import VARIABLE, valid_address
from kelvor.ui.background.runner import work_at
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.settings import Settings

ANSWERED = "workers"
"""The address somebody answered for, with yes or no before it."""


def consent_given(settings: Settings, address: str) -> str:
    """What somebody said of an address: yes, no, or nothing yet."""
    said, _, of = settings.get(ANSWERED).partition(" ")
    return said if of == address else ""


class WorkersDialog(Panel):
    """Where long work goes, and what that means."""

    guide = "file#more-machines"

    def __init__(self, parent: QWidget, settings: Settings) -> None:
        self._address = os.environ.get(VARIABLE, "")
        super().__init__(parent, "Long work on other machines", "Send work there" if self._address else "")
        self._settings = settings
        if not self._address:
            self.explain(
                f"Long work runs in two processes of this machine. {VARIABLE}=tls://HOST:PORT, set before Kelvor is "
                "started, names a scheduler of your workshop that it may be sent to."
            )
            return
        now = "Work is sent there." if consent_given(settings, self._address) == "yes" else "Work stays here."
        self.explain(
            f"{VARIABLE} names {one_line(self._address, 80)}. {now}\n\nWhat comes back from there is taken as our own, "
            "code and all: whoever holds that address, on this machine or another, can do here all that you can. Say "
            "yes only where you know who started it."
        )
        self.button("Work here alone", self._refuse)

    def act(self) -> bool:
        """Send work there, now and at every start."""
        valid_address(self._address)
        self._settings.set(ANSWERED, f"yes {self._address}")
        work_at(self._address)
        return True

    def _refuse(self) -> None:
        self._settings.set(ANSWERED, f"no {self._address}")
        work_at("")
        self.close()
