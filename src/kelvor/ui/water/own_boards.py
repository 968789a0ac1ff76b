"""What the workshop's own boards say of what is computed: gathered from scale and water, shown when asked for."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures
from kelvor.ui.background.runner import WorkerQuestion
from kelvor.ui.build.made import Making

if TYPE_CHECKING:
    from kelvor.core.water.calibration import ComputedAndMeasured, Correction, Kind
    from kelvor.ui.session.session import Session


class OurBoards(QObject):
    """Corrections of a workshop. Nothing is corrected silently: figures say so, and are plain until asked for."""

    changed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self.on = False
        """Whether figures are shown by our own boards."""
        self._masses: dict[int, float] = {}
        self._asked: list[int] = []
        self._ask = WorkerQuestion(
            self, "What boards weigh", self._weighed, failed=lambda words: session.message.emit("problem", words)
        )
        self._found: tuple[object, dict[Kind, Correction]] | None = None

    def turn(self) -> None:
        """Show figures by our own boards, or plain ones."""
        self.on = not self.on
        self.look()
        self.changed.emit()

    def figures(self, figures: Figures) -> Figures:
        """Figures as they are shown now."""
        if not self.on:
            return figures
        from kelvor.core.water.sessions.corrected import applied  # not needed before somebody asks

        return applied(figures, self.corrections())

    def corrections(self) -> dict[Kind, Correction]:
        """Every kind of correction, by what is known."""
        from kelvor.core.water.calibration import KINDS, correction

        key = (self._session.workshop.registers, self._session.workshop.registers.turn, len(self._masses))
        if self._found is None or self._found[0] != key:
            self._found = key, {kind: correction(kind, self._compared(kind)) for kind in KINDS}
        return self._found[1]

    def look(self) -> None:
        """Ask for what is computed of boards that were weighed, where it is not known yet."""
        from kelvor.core.evaluation.jobs import mass_job
        from kelvor.core.evaluation.subject import Subject

        wanted = [step for step, _ in self._weighed_boards().values() if step not in self._masses]
        wanted = [step for step in dict.fromkeys(wanted) if step not in self._asked]
        jobs = []
        session = self._session
        for step in wanted:
            try:
                board = session.board_at(step)
            except InputError:
                continue
            self._asked.append(step)
            jobs.append((step, Subject(board, session.brief, session.table, session.coefficients)))
        if jobs:
            self._ask.ask(mass_job, jobs)

    def _weighed(self, results: list[Any]) -> None:
        self._masses |= {step: mass for step, mass in results if mass is not None}
        self._asked = [step for step in self._asked if step not in self._masses]
        self.changed.emit()

    def _weighed_boards(self) -> dict[str, tuple[int, float]]:
        """Finished boards that a scale weighed: by identity, the step they are made of and their mass [kg]."""
        ids = self._session.workshop.saving.ids
        found = {}
        for made in self._session.service(Making).all_boards():
            last = next((w for w in made.weighed if w.stage == "finished" and w.origin == "measured"), None)
            if last is not None and made.record.step:
                found[made.record.uid] = (ids(made.record.step), last.mass)
        return found

    def _compared(self, kind: Kind) -> list[ComputedAndMeasured]:
        from kelvor.core.register.kinds.water import OnTheWater, SetUp
        from kelvor.core.water.calibration import ComputedAndMeasured

        if kind == "mass":
            names = {made.record.uid: made.value.serial for made in self._session.service(Making).all_boards()}
            return [
                ComputedAndMeasured(uid, names[uid], mass, self._masses[step])
                for uid, (step, mass) in self._weighed_boards().items()
                if step in self._masses
            ]
        from kelvor.ui.water.logbook import Logbook  # it reads tracks, which nothing before this does

        found = []
        for one in self._session.service(Logbook).all():
            if one.value.struck:
                continue
            setups = {record.uid: record.value for record in one.setups if isinstance(record.value, SetUp)}
            for record in one.readings:
                r = record.value
                counts = isinstance(r, OnTheWater) and record.origin == "measured" and not r.struck
                if counts and r.what == kind and r.setup in setups:
                    setup = setups[r.setup]
                    found.append(ComputedAndMeasured(setup.made or setup.board, setup.board, r.value, r.computed))
        return found
