"""Who the board is for: rider, place, water and wind."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QLabel, QPlainTextEdit

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.errors import InputError
from kelvor.core.base.fluids import Water
from kelvor.core.base.limits import Limit, limit_of, text_of, typed_name
from kelvor.core.base.units import Quantity as Q
from kelvor.core.brief.brief import Brief, Rider, Wind, with_discipline
from kelvor.ui.background.timers import single_shot
from kelvor.ui.brief.form import FormPanel, Say, field_of
from kelvor.ui.brief.from_register import FromRegister
from kelvor.ui.session.session import Session

KELVIN = 273.15
NOTES_AFTER_MS = 800
"""What the rider says is kept when typing rests this long."""


class RiderPanel(FormPanel):
    """Who it is for and where it rides, down to what the rider says."""

    def __init__(self, session: Session, say: Say) -> None:
        super().__init__(session, say, "Who it is for")
        self._notes_shown = ""
        _, grid = self._part()
        brief, rider, wind = (partial(field_of, at) for at in ((), ("rider",), ("wind",)))
        self._text(grid, "Brief", text_of(Brief, "title"), *brief("title"))
        disciplines: list[tuple[str, str]] = [
            (key, key.capitalize()) for members in FAMILIES.values() for key in members
        ]
        self._choice(grid, "Discipline", disciplines, lambda b: b.discipline, with_discipline)
        self._text(grid, "Place", text_of(Brief, "place"), *brief("place"))
        self.register = FromRegister(self.session)
        grid.addWidget(self.register, grid.rowCount(), 0, 1, 2)
        self._group(grid, "Rider")
        self._text(grid, "Name", text_of(Rider, "name"), *rider("name"))
        for words, name in (("Mass, dressed", "mass"), ("Height", "height"), ("Stance", "stance")):
            self._number(grid, words, limit_of(Rider, name), *rider(name))
        self._choice(
            grid, "Skill", [("learning", "learning"), ("riding", "riding"), ("expert", "expert")], *rider("skill")
        )
        self._group(grid, "Water and wind")
        self._choice(grid, "Water", [("sea", "sea"), ("fresh", "fresh")], *field_of(("water",), "kind"))
        celsius = limit_of(Water, "celsius")
        self._number(
            grid,
            "Temperature",
            Limit(KELVIN + celsius.low, KELVIN + celsius.high, Q.TEMPERATURE),
            lambda b: b.water.celsius + KELVIN,
            lambda b, v: replace(b, water=replace(b.water, celsius=v - KELVIN)),
        )
        self._number(grid, "Wind", limit_of(Wind, "speed"), *wind("speed"))
        self._number(grid, "measured at a height of", limit_of(Wind, "height"), *wind("height"))
        self._choice(grid, "as", [("mean", "mean wind"), ("gust", "gusts")], *wind("kind"))
        self.notes = QPlainTextEdit()
        self.notes.setAccessibleName("What the rider says")
        self.notes.setPlaceholderText("What the rider says, in the rider's words")
        self.notes.setMinimumHeight(60)
        self.notes.focusOutEvent = self._notes_left  # type: ignore[method-assign]
        self._notes_rest = single_shot(self, NOTES_AFTER_MS, self.keep_notes)
        self.notes.textChanged.connect(self._notes_typed)
        self.session.about_to_leave.connect(self.keep_notes)
        label = QLabel("What the rider says")
        label.setObjectName("group")
        self.column.addWidget(label)
        self.column.addWidget(self.notes, 1)

    def show_brief(self) -> None:
        """Show the brief; words being typed stay."""
        super().show_brief()
        brief = self.session.brief
        if brief.notes != self._notes_shown and not self.notes.hasFocus():
            self._notes_shown = brief.notes
            self.notes.setPlainText(brief.notes)

    def _notes_left(self, event: Any) -> None:
        QPlainTextEdit.focusOutEvent(self.notes, event)
        self.keep_notes()

    def _notes_typed(self) -> None:
        if self.notes.hasFocus():
            self._notes_rest.start()

    def keep_notes(self) -> None:
        """Keep what the rider says, as far as it is typed."""
        self._notes_rest.stop()
        words = self.notes.toPlainText()
        if words == self._notes_shown:
            return
        try:
            words = typed_name(words, "What the rider says", text_of(Brief, "notes"))
        except InputError as error:
            self._say(str(error))
            return
        self._notes_shown = self.notes.toPlainText()
        self._edit(lambda b, v: replace(b, notes=v), words)
