"""What the rider owns: foils, wings, sails or kites, the paddle."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QWidget

from kelvor.core.base.disciplines import FOILING, RIGS
from kelvor.core.base.limits import Limit, limit_of, text_of
from kelvor.core.base.units import Quantity as Q
from kelvor.core.base.units import text
from kelvor.core.brief.brief import FIRST_GEAR, Brief, Foil, Wing
from kelvor.core.ride.condition import condition_of
from kelvor.ui.brief.form import Edit, FormPanel, Read, Say, field_of
from kelvor.ui.session.session import Session


class GearPanel(FormPanel):
    """The gear of the rider; what this discipline does not use is hidden."""

    def __init__(self, session: Session, say: Say) -> None:
        super().__init__(session, say, "What the rider owns")
        self._foil_part()
        self._wing_part()
        self._paddle_part()
        self._power_part()
        self.rest_holder, grid = self._part()
        self._group(grid, "At rest and in flight")
        self._number(
            grid, "Lift of wing, sail or kite at rest", limit_of(Brief, "wing_lift"), *field_of((), "wing_lift")
        )
        self._number(grid, "Ride height, bottom at mast", limit_of(Brief, "ride_height"), *field_of((), "ride_height"))
        self.column.addStretch(1)

    def show_brief(self) -> None:
        """Show the brief, and which gear its discipline uses."""
        brief, system = self.session.brief, self.session.system
        foiling, rig = brief.discipline in FOILING, RIGS.get(brief.discipline)
        self.foil_holder.setVisible(foiling)
        self.wing_holder.setVisible(rig is not None)
        self.paddle_holder.setVisible(rig is None)
        self.power_holder.setVisible(rig is None or (foiling and rig != "kite"))
        self.rest_holder.setVisible(foiling)
        self.wing_title.setText(
            {"hand wing": "Wing in use", "sail": "Sail in use", "kite": "Kite in use"}.get(rig or "", "")
        )
        self.foil_choice.clear()
        self.foil_choice.addItems([foil.name for foil in brief.foils] or ["none"])
        self.foil_choice.setCurrentIndex(min(brief.foil_in_use, len(brief.foils) - 1))
        self.wing_choice.clear()
        self.wing_choice.addItems([f"{w.name}, {text(w.area, Q.SAIL_AREA, system)}" for w in brief.wings] or ["none"])
        self.wing_choice.setCurrentIndex(min(brief.wing_in_use, len(brief.wings) - 1) if brief.wings else 0)
        super().show_brief()

    def _foil_part(self) -> None:
        self.foil_holder, grid = self._part()
        self._group(grid, "Foil in use")
        self.foil_choice = QComboBox()
        self.foil_choice.setAccessibleName("Foil in use")
        self.foil_choice.activated.connect(lambda index: self._edit(lambda b, v: replace(b, foil_in_use=v), index))
        grid.addWidget(
            self._with_buttons(self.foil_choice, self.add_foil, self.drop_foil, "foil"), grid.rowCount(), 0, 1, 2
        )

        def foil(name: str) -> tuple[Read, Edit]:
            return lambda b: getattr(b.foil, name), lambda b, v: _with_foil(b, replace(b.foil, **{name: v}))

        self._text(grid, "Name", text_of(Foil, "name"), *foil("name"))
        for words, name in (
            ("Mass, complete", "mass"),
            ("Water it displaces", "volume"),
            ("Mast length", "mast_length"),
            ("Front wing area", "area"),
            ("Front wing span", "span"),
            ("Fuselage", "fuselage"),
            ("Lifts ahead of mast by", "lift_ahead"),
            ("Raked to the plate", "rake"),
            ("Stabiliser shim", "shim"),
        ):
            self._number(grid, words, limit_of(Foil, name), *foil(name))

    def _wing_part(self) -> None:
        self.wing_holder, grid = self._part()
        self.wing_title = self._group(grid, "Wing in use")
        self.wing_choice = QComboBox()
        self.wing_choice.setAccessibleName("Wing in use")
        self.wing_choice.activated.connect(lambda index: self._edit(lambda b, v: replace(b, wing_in_use=v), index))
        grid.addWidget(
            self._with_buttons(self.wing_choice, self.add_wing, self.drop_wing, "wing"), grid.rowCount(), 0, 1, 2
        )

        def wing(name: str, none: Any) -> tuple[Read, Edit]:
            return lambda b: getattr(b.wing, name) if b.wing else none, lambda b, v: _with_wing(b, name, v)

        self._text(grid, "Name", text_of(Wing, "name"), *wing("name", ""))
        self._number(grid, "Area", limit_of(Wing, "area"), *wing("area", 0.0))
        self._number(grid, "Mass, with its rig", limit_of(Wing, "mass"), *wing("mass", 0.0))

    def _paddle_part(self) -> None:
        self.paddle_holder, grid = self._part()
        self._group(grid, "Speed")
        usual = limit_of(Brief, "pace")
        self.pace = self._number(
            grid,
            "Boat, wave or race speed",
            Limit(0.5, usual.high, usual.quantity),
            lambda b: condition_of(b).pace,
            lambda b, v: replace(b, pace=v),
        )

    def _power_part(self) -> None:
        """What the body gives, paddling or pumping."""
        self.power_holder, grid = self._part()
        self._group(grid, "Rider's watts")
        self._number(grid, "Rider keeps up", limit_of(Brief, "watts"), *field_of((), "watts"))
        self._number(grid, "and for seconds", limit_of(Brief, "peak_watts"), *field_of((), "peak_watts"))

    def _with_buttons(self, box: QComboBox, add: Callable[[], None], drop: Callable[[], None], what: str) -> QWidget:
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(box, 1)
        for words, slot, tip in (("Add", add, f"Add another {what}"), ("Delete", drop, f"Delete this {what}")):
            button = QPushButton(words)
            button.setToolTip(tip)
            button.setAccessibleName(tip)
            button.clicked.connect(slot)
            row.addWidget(button)
        return holder

    def add_foil(self) -> None:
        """Another foil, first like the one in use."""
        new = (
            replace(self.session.brief.foil, name=f"Foil {len(self.session.brief.foils) + 1}")
            if self.session.brief.foils
            else Foil(name="Foil 1")
        )
        self._edit(lambda b, _: replace(b, foils=(*b.foils, new), foil_in_use=len(b.foils)), None)

    def drop_foil(self) -> None:
        """Without the foil in use."""
        i = self.session.brief.foil_in_use
        self._edit(lambda b, _: replace(b, foils=b.foils[:i] + b.foils[i + 1 :], foil_in_use=0), None)

    def add_wing(self) -> None:
        """Another wing, sail or kite of a first size."""
        rig = RIGS.get(self.session.brief.discipline)
        first = FIRST_GEAR[rig] if rig is not None else Wing(name="Wing", area=5.0)
        new = replace(first, name=f"{first.name.split()[0]} {len(self.session.brief.wings) + 1}")
        self._edit(lambda b, _: replace(b, wings=(*b.wings, new), wing_in_use=len(b.wings)), None)

    def drop_wing(self) -> None:
        """Without the wing, sail or kite in use."""
        i = self.session.brief.wing_in_use
        self._edit(lambda b, _: replace(b, wings=b.wings[:i] + b.wings[i + 1 :], wing_in_use=0), None)


def _with_foil(brief: Brief, foil: Foil) -> Brief:
    if not brief.foils:
        return replace(brief, foils=(foil,))
    i = min(brief.foil_in_use, len(brief.foils) - 1)
    return replace(brief, foils=(*brief.foils[:i], foil, *brief.foils[i + 1 :]))


def _with_wing(brief: Brief, name: str, value: Any) -> Brief:
    if brief.wing is None:
        return brief
    i = min(brief.wing_in_use, len(brief.wings) - 1)
    return replace(brief, wings=(*brief.wings[:i], replace(brief.wing, **{name: value}), *brief.wings[i + 1 :]))
