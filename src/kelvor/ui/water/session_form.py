"""Logging a session: the last set-up stands in its fields, in the order of the card; Enter keeps it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import degrees, radians
from typing import get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QFormLayout, QHBoxLayout, QLineEdit, QPlainTextEdit, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of, typed_name, within
from kelvor.core.base.units import KNOT, Quantity, parse, text
from kelvor.core.register.kinds.water import SetUp, WaterSession, WaterState
from kelvor.core.register.kinds.words import Said
from kelvor.core.register.record import RecordKind, record_name
from kelvor.core.water.sessions.log import Logged, bearing_of, bearing_words, day_of
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.session.session import Session as Bench
from kelvor.ui.water.logbook import Logbook, today

PLACES = (
    ("fin_place", "Fin, from the tail"), ("mast_track", "Mast base"), ("foil_mast", "Foil mast"),
    ("front_strap", "Front strap"), ("back_strap", "Back strap"),
)  # fmt: skip


class SessionForm(Panel):
    """A session in fields; another board brings its own last set-up."""

    guide = "water#sessions"

    kept = Signal(str)

    def __init__(self, parent: QWidget, bench: Bench, session: Logged | None = None) -> None:
        title = "Log a session" if session is None or session.value.draft else f"Session of {session.value.day}"
        super().__init__(parent, title, "Keep")
        self.bench, self.session = bench, session
        self.explain("As last time, until you change it. Enter keeps it; Tab goes on in the order of the card.")
        # two columns in the order of the card
        holder = QWidget()
        columns = QHBoxLayout(holder)
        columns.setContentsMargins(0, 0, 0, 0)
        columns.setSpacing(22)
        self._forms = (QFormLayout(), QFormLayout())
        for form in self._forms:
            form.setSpacing(7)
            columns.addLayout(form)
        self.column.insertWidget(2, holder)
        value = session.value if session is not None else WaterSession(day=today().isoformat())
        setup = (
            session.setup if session is not None and session.setup is not None else bench.service(Logbook).proposed()
        )
        if session is None:
            value = replace(value, place=self._last_place())
        self._made = bench.service(Logbook).board_names()
        self.board = self._choice(0, "Board", tuple(self._made.values()), setup.board)
        self.day = self._line(0, "Day", value.day)
        self.place = self._choice(0, "Place", self._names("place"), value.place)
        self.wind = self._line(0, "Wind, kn", _wind(value))
        self.bearing = self._line(0, "From", bearing_words(value.wind_from))
        self.water = self._choice(0, "Water", ("", *get_args(WaterState)), value.water or "", free=False)
        self.rider = self._choice(0, "Rider", self._names("rider"), setup.rider)
        self.rides = self._line(0, "How they ride", setup.rides)
        self.drive = self._choice(0, "Wing, sail or kite", self._names("sail", "hand wing", "kite"), setup.drive)
        self.foil = self._choice(1, "Foil", self._names("foil"), setup.foil)
        self.fin = self._choice(1, "Fin", self._names("fin"), setup.fin)
        self.places = {key: self._line(1, words, "") for key, words in PLACES}
        self.angles = self._line(1, "Straps turned, °", "")
        self.partner = self._line(1, "The other board", setup.partner)
        self.hours = self._line(1, "Hours", f"{setup.hours:g}" if setup.hours else "")
        self.words = QPlainTextEdit()
        self.words.setAccessibleName("Words")
        self.words.setPlaceholderText("What was said, as it was said")
        self.words.setTabChangesFocus(True)
        self.words.setFixedHeight(64)
        self.column.insertWidget(3, self.words)
        self._show_places(setup)
        self._setup = setup
        self.board.activated.connect(lambda _: self._another_board())
        for field in self.findChildren(QLineEdit):
            field.setCursorPosition(0)
        self.do.setFocus()

    def _last_place(self) -> str:
        log = self.bench.service(Logbook).all()
        return log[0].value.place if log else self.bench.brief.place

    def _names(self, *kinds: RecordKind) -> tuple[str, ...]:
        return tuple(record_name(record) for record in self.bench.workshop.registers.of(*kinds))

    def _line(self, column: int, words: str, shown: str) -> QLineEdit:
        field = QLineEdit(shown)
        field.setAccessibleName(words)
        self._forms[column].addRow(words, field)
        return field

    def _choice(self, column: int, words: str, choices: Sequence[str], shown: str, *, free: bool = True) -> QComboBox:
        box = QComboBox()
        box.setAccessibleName(words)
        box.setEditable(free)
        box.setMinimumWidth(190)
        box.addItems(list(dict.fromkeys(choices)))
        if free:
            box.setEditText(shown)
        else:
            box.setCurrentText(shown)
        self._forms[column].addRow(words, box)
        return box

    def _show_places(self, setup: SetUp) -> None:
        for key, field in self.places.items():
            place = getattr(setup, key)
            field.setText(text(place, Quantity.LENGTH, self.bench.system) if place > 0 else "")
        self._told = {key: field.text() for key, field in self.places.items()}
        turned = (setup.front_angle, setup.back_angle)
        self.angles.setText(", ".join(f"{degrees(angle):.0f}" for angle in turned) if any(turned) else "")

    def _another_board(self) -> None:
        """What was ridden with that board last."""
        setup = self.bench.service(Logbook).proposed(self.board.currentText())
        self._setup = setup
        for box, told in ((self.rider, setup.rider), (self.drive, setup.drive), (self.foil, setup.foil),
                          (self.fin, setup.fin)):  # fmt: skip
            box.setEditText(told)
        self.rides.setText(setup.rides)
        self.partner.setText(setup.partner)
        self._show_places(setup)

    def act(self) -> bool:
        """Keep what stands in the fields."""
        old = self.session.value if self.session is not None else None
        low, high = self._winds()
        water = self.water.currentText()
        value = WaterSession(
            day=day_of(self.day.text(), today()),
            place=self.place.currentText().strip(),
            wind_low=low,
            wind_high=high,
            wind_from=bearing_of(self.bearing.text().split("°")[0]),
            water=next((state for state in get_args(WaterState) if state == water), None),
            notes=old.notes if old is not None else "",
            struck=old.struck if old is not None else "",
        )
        words = self.words.toPlainText().strip()
        setup = self._ridden()
        said = Said(words=words, who=setup.rider, rides=setup.rides) if words else None
        self.kept.emit(self.bench.service(Logbook).log(value, setup, said, self.session))
        return True

    def _winds(self) -> tuple[float, float]:
        typed = self.wind.text().replace("–", "-").replace(",", ".").lower().removesuffix("kn").strip()
        if not typed:
            return 0.0, 0.0
        try:
            found = sorted(float(part) * KNOT for part in typed.split("-"))
        except ValueError:
            found = []
        if not 1 <= len(found) <= 2:
            raise InputError(f"“{self.wind.text()}” is no wind", where="Wind", accepts="Type it like 12–15")
        for wind in found:
            within(limit_of(WaterSession, "wind_low"), wind, "Wind")
        return found[0], found[-1]

    def _ridden(self) -> SetUp:
        board = typed_name(self.board.currentText(), "The board")
        made = next((uid for uid, words in self._made.items() if words == board and uid != words), "")
        places = {}
        for key, words in PLACES:
            typed = self.places[key].text().strip()
            if typed == self._told[key]:  # as it was, to the last digit
                places[key] = getattr(self._setup, key)
                continue
            place = parse(typed, Quantity.LENGTH, self.bench.system) if typed else 0.0
            places[key] = within(limit_of(SetUp, key), place, words)
        front, back = self._turned()
        registers = self.bench.workshop.registers
        ridden = {box.currentText().strip() for box in (self.drive, self.foil, self.fin)}
        gear = tuple(
            r.uid for r in registers.of("sail", "hand wing", "kite", "foil", "fin") if record_name(r) in ridden
        )
        return SetUp(
            session="-",
            board=board,
            made=made,
            rider=self.rider.currentText().strip(),
            rides=self.rides.text().strip(),
            drive=self.drive.currentText().strip(),
            foil=self.foil.currentText().strip(),
            fin=self.fin.currentText().strip(),
            gear=gear[:12],
            partner=self.partner.text().strip(),
            front_angle=front,
            back_angle=back,
            hours=self._hours(),
            **places,
        )

    def _turned(self) -> tuple[float, float]:
        typed = self.angles.text().replace("°", "").strip()
        if not typed:
            return 0.0, 0.0
        try:
            found = [radians(float(part)) for part in typed.split(",")]
        except ValueError:
            found = []
        if len(found) != 2:
            raise InputError(f"“{self.angles.text()}” is not two angles", where="Straps turned", accepts="Like 15, -6")
        limit = limit_of(SetUp, "front_angle")
        return within(limit, found[0], "Front strap"), within(limit, found[1], "Back strap")

    def _hours(self) -> float:
        typed = self.hours.text().replace(",", ".").removesuffix("h").strip()
        if not typed:
            return 0.0
        try:
            return within(limit_of(SetUp, "hours"), float(typed), "Hours")
        except ValueError:
            raise InputError(f"“{typed}” is no number of hours", where="Hours", accepts="Type it like 1.5") from None


def _wind(value: WaterSession) -> str:
    low, high = value.wind_low / KNOT, value.wind_high / KNOT
    return f"{low:.0f}–{high:.0f}" if high > low > 0 else f"{high:.0f}" if high > 0 else ""
