"""The views of a window, in the order of work. One line here is all a new view needs to stand in tabs, menu, finder and
help.

A view is made when it is first shown, by a function of one argument, the window. It may have a method `shut`, called
when the window closes, and an attribute `says`: whether it shows what is said itself. What is done in it is undone by
the window's one history.
"""

from __future__ import annotations

import importlib
from typing import TYPE_CHECKING, cast

from kelvor.core.base.values import frozen

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from kelvor.ui.window.actions.table import Action
    from kelvor.ui.window.main_window import MainWindow


@frozen
class View:
    """A view: its key, its tab's words and shortcut, what is done there, where it is made (“module:function”), and its
    own actions.
    """

    key: str
    words: str
    shortcut: str
    about: str
    maker: str
    actions: tuple[Action, ...] = ()
    tiles: bool = True
    """Whether the phases of the board on the bench stand above it."""
    guide: str = "index"
    """The place in the guide that tells of it."""

    def make(self, window: MainWindow) -> QWidget:
        """Make it; its module is loaded now."""
        module, _, name = self.maker.partition(":")
        return cast("QWidget", getattr(importlib.import_module(module), name)(window))


FIRST = "shape"
"""The view a window begins with."""
VIEWS: list[View] = [
    View(
        "rack",
        "Rack",
        "Ctrl+B",
        "All boards of the workshop: found by what they are, what was said of them and what became of them.",
        "kelvor.ui.rack.view:rack_view",
        tiles=False,
        guide="keep#rack",
    ),
    View(
        "register",
        "Register",
        "Ctrl+6",
        "Riders, places, sails, wings, kites, foils, fins and paddles: kept once, taken into brief after brief.",
        "kelvor.ui.register.view:register_view",
        tiles=False,
        guide="brief#gear",
    ),
    View(
        "brief",
        "Brief",
        "Ctrl+1",
        "Who the board is for, the water and wind, foils, sails or kites, and what it must do.",
        "kelvor.ui.brief.view:brief_view",
        guide="brief",
    ),
    View(
        "shape",
        "Shape",
        "Ctrl+2",
        "The board itself: drag lead weights, type dimensions, pull levers.",
        "kelvor.ui.shape.view:shape_view",
        guide="shape",
    ),
    View(
        "ride",
        "Ride",
        "Ctrl+3",
        "What it does on the water, phase by phase, and why.",
        "kelvor.ui.ride.view:ride_view",
        guide="ride",
    ),
    View(
        "compare",
        "Compare",
        "Ctrl+4",
        "Boards over one another: where their lines part, and what of it would be felt, largest first.",
        "kelvor.ui.compare.view:compare_view",
        tiles=False,
        guide="keep#compare",
    ),
    View(
        "build",
        "Build",
        "Ctrl+5",
        "How it is built, what it weighs, costs and stands.",
        "kelvor.ui.build.view:build_view",
        guide="build",
    ),
    View(
        "water",
        "Water",
        "Ctrl+7",
        "Days on the water: what was ridden, tracks, tests, what was said, and what our own boards say.",
        "kelvor.ui.water.view:water_view",
        tiles=False,
        guide="water",
    ),
    View(
        "family",
        "Family",
        "Ctrl+8",
        "Sizes of a board by rules, all in one picture, class rules, options, and which board for whom.",
        "kelvor.ui.family.view:family_view",
        tiles=False,
        guide="family",
    ),
]
