"""What a room asks of the window it stands in."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Protocol

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from PySide6.QtWidgets import QFileDialog, QWidget

    from kelvor.ui.session.session import Session
    from kelvor.ui.settings import Settings


class WindowDialogs(Protocol):
    """Small windows beside the work."""

    def show(self, dialog: QWidget) -> None:
        """Show one."""

    def show_photo(self, title: str, sha: str) -> None:
        """Show a photo that is kept."""

    def show_materials(self) -> None:
        """The workshop's materials and rates."""

    def show_coefficients(self) -> None:
        """The tank's coefficients."""

    def show_schedule(self) -> None:
        """The order of work of a made board."""

    def show_orders(self) -> None:
        """Orders, and what they need."""

    def show_proof(self) -> None:
        """The proof load of a made board."""

    def show_mill(self) -> None:
        """The workshop's mill."""

    def show_weights(self) -> None:
        """Where the weight lies."""


class WindowFiles(Protocol):
    """Files that are asked for."""

    def ask_where(self, title: str, kinds: str, name: str, write: Callable[[Path], object]) -> None:
        """Ask where a file goes; then write it there."""

    def file_dialog(self, title: str, kinds: str, mode: QFileDialog.AcceptMode) -> QFileDialog:
        """A dialog for a file, not shown yet."""


class Papers(Protocol):
    """Papers and scans of made boards."""

    def ask_scan(self) -> None:
        """Ask for a scan of the chosen board."""

    def mill_programs(self, order: Any) -> None:
        """Ask where the programs go that the simulated mill has cut."""


class Window(Protocol):
    """A window on one session, with views that are shown by their key."""

    @property
    def session(self) -> Session:
        """What it works on."""

    @property
    def settings(self) -> Settings:
        """What is kept of this user."""

    @property
    def dialogs(self) -> WindowDialogs:
        """Small windows."""

    @property
    def files(self) -> WindowFiles:
        """Files that are asked for."""

    @property
    def papers(self) -> Papers:
        """What leaves the shop."""

    @property
    def shape(self) -> Any:
        """The Shape view, with which it begins."""

    def guarded(self, run: object) -> None:
        """Do what somebody's input may stop: it says why and changes nothing."""

    def show_view(self, key: str) -> None:
        """Show a view."""

    def show_lever(self, key: str) -> None:
        """Go where a lever is pulled."""
