"""A season of winds: what to register for it, within the quotas of the chosen class rule."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QTableWidget, QVBoxLayout, QWidget

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.figures import Figures
from kelvor.core.evaluation.jobs import ride_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.family.class_rules import falls_under, rule_standing
from kelvor.core.family.season import Entrant, Winds, best_choice
from kelvor.core.register.record import Record
from kelvor.core.ride.collector import GearWind
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.controls.panel import heading, plain_label
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.family.shown.class_rules import SEASON_CAUTION, season_words, wind_typed, window_words
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import font
from kelvor.ui.water.logbook import Logbook

OUTSIDE = "not within the limits"
Boards = list[tuple[str, Subject, Figures]]


class SeasonPanel(QWidget):
    """Mean wind, shape and how many boards; the choice, and each board's winds by the tank and by the log."""

    def __init__(
        self,
        session: Session,
        boards: Callable[[], Boards],
        chosen: Callable[[], Record | None],
        told: Callable[[str], None],
    ) -> None:
        """`boards` are those that might be registered, `chosen` the class rule; `told` shows what went wrong."""
        super().__init__()
        self.session, self._boards, self._chosen, self._told = session, boards, chosen, told
        self._entrants: list[Entrant] = []
        self._season = WorkerQuestion(self, "The season was not counted", self._counted, failed=self._fail)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(heading("A season"))
        row = QHBoxLayout()
        self.mean, self.shape, self.most = QLineEdit("15 kn"), QLineEdit("2"), QLineEdit("3")
        for words, field, name in (("Mean wind", self.mean, "Mean wind of the season"),
                                   ("shape", self.shape, "Shape of the season's winds"),
                                   ("boards to register", self.most, "Boards to register")):  # fmt: skip
            field.setAccessibleName(name)
            field.setFixedWidth(70)
            field.returnPressed.connect(self.choose)
            row.addWidget(QLabel(words))
            row.addWidget(field)
        self.shape.setToolTip("Of Weibull's distribution: 2 is usual; more is steadier")
        self.choose_button = QPushButton("Choose")
        self.choose_button.clicked.connect(lambda _=False: self.choose())
        row.addWidget(self.choose_button)
        row.addStretch(1)
        column.addLayout(row)
        self.answer = plain_label()
        self.answer.setWordWrap(True)
        self.answer.setFont(font(14, 600))
        column.addWidget(self.answer)
        self.winds: QTableWidget = figures_table(("Board", "By the tank", "By the log", "Covers alone"))
        column.addWidget(self.winds, 2)
        self.more = plain_label()
        self.more.setWordWrap(True)
        column.addWidget(self.more)

    def _fail(self, words: str) -> None:
        self.answer.setText("")
        self._told(words)

    def choose(self) -> None:
        """Count the winds each board goes in, then choose."""
        self._told("")
        try:
            self._asked_winds = Winds(wind_typed(self.mean.text()), float(self.shape.text().replace(",", ".") or "nan"))
            self._asked_most = int(self.most.text())
            gathered = self._boards()
        except ValueError:
            self._fail("Shape and boards are plain numbers, such as 2 and 3.")
            return
        except KelvorError as error:
            self._fail(str(error))
            return
        self._gathered_now = gathered
        self.answer.setText("Counting the winds each board goes in…")
        self._season.ask(ride_job, [(subject,) for _, subject, _ in gathered])

    def _counted(self, rides: list[object]) -> None:
        record, system = self._chosen(), self.session.system
        quotas = record.value.quotas if record is not None else ()
        names = [wing.name for wing in self.session.brief.wings]
        entrants, outside = [], set()
        for (name, _, figures), ride in zip(self._gathered_now, rides, strict=True):
            rows: tuple[GearWind, ...] = getattr(ride, "quiver", ())
            windows = tuple(
                (row.least, row.most)
                for row in rows
                if row.most > row.least and any(row.gear.startswith(wing) for wing in names)
            )
            counts = tuple(falls_under(quota, figures) is not False for quota in quotas)
            if record is not None and rule_standing(record.value, figures, self.session.brief).met is False:
                windows = ()  # it cannot be registered
                outside.add(name)
            entrants.append(Entrant(name, windows, counts))
        self._entrants = entrants
        self._show_winds(outside, {})
        try:
            choice = best_choice(entrants, self._asked_winds, self._asked_most, [quota.most for quota in quotas])
        except KelvorError as error:
            self._fail(str(error))
            return
        told = season_words(entrants, choice, system)
        self.answer.setText(told.head)
        self._show_winds(outside, dict(zip(choice.boards, choice.alone, strict=True)))
        self.more.setText(" ".join([*(f"{line}." for line in told.lines[len(choice.boards) :]), SEASON_CAUTION]))

    def _show_winds(self, outside: set[str], alone: dict[int, float]) -> None:
        """The winds of each board by the tank and by the log, and what each that is chosen covers alone."""
        rows: list[tuple[str, ...]] = []
        for i, one in enumerate(self._entrants):
            tank = OUTSIDE if one.name in outside else window_words(one, self.session.system)
            rows.append((one.name, tank, self._by_log(one.name), f"{alone[i] * 100:.0f} %" if i in alone else "–"))
        fill_table(self.winds, rows)

    def _by_log(self, name: str) -> str:
        """The winds a board was ridden in, by the sessions of this workshop."""
        ids, names = self.session.workshop.saving.ids, self.session.workshop.store.names()
        days = [
            one.value
            for one in self.session.service(Logbook).all()
            if not one.value.struck
            and one.value.wind_low > 0
            and any(
                name in (setup.value.board, names.get(ids(setup.board or 0)))
                for setup in one.setups  # made ones too
            )
        ]
        if not days:
            return "not ridden yet"
        low, high = min(d.wind_low for d in days), max(max(d.wind_low, d.wind_high) for d in days)
        times = f"{len(days)} session{'s' if len(days) > 1 else ''}"
        return f"{window_words(Entrant('', ((low, high),)), self.session.system)}, {times}"
