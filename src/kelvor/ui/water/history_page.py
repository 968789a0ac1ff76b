"""The history of a made board on one page, from brief to sessions; to be read here or printed."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import text
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.live import Live
from kelvor.core.made.made_boards import Made
from kelvor.core.made.sheet import lines_to_measure
from kelvor.ui.build.made import Making
from kelvor.ui.build.shown.sheet import measure_name, sheet_lines
from kelvor.ui.controls.panel import heading, panel, plain_label
from kelvor.ui.controls.tables import figures_table, fill_table, fit_columns
from kelvor.ui.session.session import Session
from kelvor.ui.theme.style import colour, font
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.shown.history import HistoryChapter, history
from kelvor.ui.water.trials import Trials

NONE = "No board is made yet: begin one in Build."


class HistoryPage(QWidget):
    """A board is chosen above; its chapters stand below."""

    print_asked = Signal()

    def __init__(self, session: Session, trials: Trials) -> None:
        super().__init__()
        self.session, self.trials = session, trials
        self.chapters: list[HistoryChapter] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        frame, inner = panel(), QVBoxLayout()
        frame.setLayout(inner)
        inner.setContentsMargins(16, 10, 16, 10)
        head = QHBoxLayout()
        head.addWidget(heading("History of"))
        self.board = QComboBox()
        self.board.setAccessibleName("Board")
        self.board.setMinimumWidth(240)
        self.board.activated.connect(lambda _: self._show())
        head.addWidget(self.board)
        head.addStretch(1)
        self.print = QPushButton("Print…")
        self.print.clicked.connect(self.print_asked)
        head.addWidget(self.print)
        inner.addLayout(head)
        self.told = plain_label()
        self.told.setWordWrap(True)
        inner.addWidget(self.told)
        self.table = figures_table(("", "", ""))
        self.table.setWordWrap(True)
        self.table.horizontalHeader().setVisible(False)
        inner.addWidget(self.table, 1)
        column.addWidget(frame, 1)

    def refresh(self) -> None:
        """Show the boards there are, and the chosen one."""
        boards = self.session.service(Making).all_boards()
        names = self.session.workshop.store.names()
        ids = self.session.workshop.saving.ids
        here = self.board.currentData()
        self.board.clear()
        for made in boards:
            self.board.addItem(f"{made.value.serial} {names.get(ids(made.record.board or 0), '')}", made.record.uid)
        at = self.board.findData(here)
        if at < 0:  # the one under the lamp, else the last that was sailed
            chosen = self.session.service(Making).chosen()
            at = self.board.findData(chosen.record.uid) if chosen is not None else self.board.count() - 1
        self.board.setCurrentIndex(at)
        self.print.setEnabled(bool(boards))
        self._show()

    def made(self) -> Made | None:
        """The chosen board."""
        uid = self.board.currentData()
        return next((m for m in self.session.service(Making).all_boards() if m.record.uid == uid), None)

    def _show(self) -> None:
        made = self.made()
        if made is None:
            self.told.setText(NONE)
            fill_table(self.table, [])
            return
        try:
            self.chapters = self._history(made)
        except InputError as error:
            self.told.setText(str(error))
            fill_table(self.table, [])
            return
        self.told.setText("What was measured, felt, claimed and computed stands apart, and says so.")
        rows: list[tuple[str, ...]] = []
        for chapter in self.chapters:
            rows.append((chapter.title, "", chapter.origin))
            rows += [("", *row) for row in chapter.rows]
        fill_table(self.table, rows)
        for row, told in enumerate(rows):
            head, origin = self.table.item(row, 0), self.table.item(row, 2)
            if told[0] and head is not None and origin is not None:
                head.setFont(font(13, 600))
                origin.setForeground(colour("quiet"))
        fit_columns(self.table)  # heads are bold by now
        self.table.setColumnWidth(1, 260)
        self.table.resizeRowsToContents()

    def _history(self, made: Made) -> list[HistoryChapter]:
        session = self.session
        ids = session.workshop.saving.ids
        store, step, board_id = session.workshop.store, ids(made.record.step or 0), ids(made.record.board or 0)
        brief = session.brief if board_id == ids(session.board_id) else store.brief(board_id)
        live = session.drawn(session.board_at(step), brief)
        registers = session.workshop.registers
        decisions = [r for r in registers.of("decision") if ids(r.board or 0) == board_id]
        incidents = [r for r in registers.of("incident") if r.value.what == made.record.uid]
        tests = self.trials.all()
        number = next((s.number for s in store.steps(board_id).values() if s.id == step), 0)
        return history(
            made,
            live,
            number,
            brief,
            session.service(Logbook).all(),
            tests,
            decisions,
            incidents,
            self._targets(brief),
            self._measured(made, live),
            session.system,
        )

    def _targets(self, brief: Brief) -> list[tuple[str, str]]:
        from kelvor.core.evaluation.book import BY_KEY  # with all that is ridden: not before it is looked at

        found = []
        for target in brief.targets:
            definition = BY_KEY.get(target.figure)
            if definition is not None:
                value = (
                    f"{target.value:.2f} × the known board"
                    if target.relative
                    else text(target.value, definition.quantity, self.session.system)
                )
                found.append((definition.label, f"{target.relation} {value}{' (a wish)' if target.wish else ''}"))
        return found

    def _measured(self, made: Made, live: Live) -> list[tuple[str, str]]:
        """What was read off it against its sheet: what fails first, told one by one; the rest counted."""
        if not made.readings:
            return []
        lines = sheet_lines(lines_to_measure(live.geometry), made, self.session.service(Making).tolerances())
        read = [line for line in lines if line.counts]
        passed = sum(line.outcome == "pass" for line in read)
        found = [
            (measure_name(line, self.session.system), str(line.outcome)) for line in read if line.outcome != "pass"
        ]
        return [("Readings", f"{len(read)}, {passed} pass"), *found] if read else []
