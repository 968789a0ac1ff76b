"""Tests of the workshop as one window sees them: planned, sailed run by run, answered; everything can be taken back."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import TYPE_CHECKING

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Origin
from kelvor.core.register.kinds.water import Measured, Trial, TrialRun
from kelvor.core.register.record import Record
from kelvor.core.water.trials.from_track import Leg
from kelvor.core.water.trials.planning import USUAL_SCATTER, run_order
from kelvor.core.water.trials.results import scatter_of
from kelvor.core.water.trials.trial_records import Test, trials_with_runs
from kelvor.ui.water.logbook import Logbook

if TYPE_CHECKING:
    from kelvor.core.water.sessions.log import Logged
    from kelvor.ui.session.session import Session
    from kelvor.ui.workshop.registers import Registers

USUAL_SPEED = 10.0
"""What a usual scatter is a share of until a test says better [m/s]."""


class Trials:
    """The tests of a workshop, the newest first."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._all: tuple[object, tuple[Test, ...]] | None = None

    @property
    def _registers(self) -> Registers:
        return self._session.workshop.registers

    def all(self) -> tuple[Test, ...]:
        """Every test."""
        here = self._registers, self._registers.turn
        if self._all is None or self._all[0] != here:
            found = trials_with_runs(self._registers.of("test"), self._registers.of("test run"))
            self._all = here, found
        return self._all[1]

    def get(self, uid: str) -> Test | None:
        """A test by its identity."""
        return next((test for test in self.all() if test.record.uid == uid), None)

    def scatter(self, measure: Measured) -> tuple[float, int]:
        """What pairs of this workshop scatter by in a measure [m/s], pooled over its tests, and how many pairs say so;
        a usual share of a usual speed where there are none.
        """
        total, freedom, speeds = 0.0, 0, []
        for test in self.all():
            if test.value.measure == measure and not test.value.more:
                sailed = [r.value for r in test.runs if r.origin != "simulated"]  # what a stand-in sailed says nothing
                scatter, df = scatter_of(test.value, sailed)
                total, freedom = total + df * scatter**2, freedom + df
                speeds += [run.value for run in sailed if not run.struck]
        if freedom >= 2:
            return (total / freedom) ** 0.5, freedom
        speed = sum(speeds) / len(speeds) if speeds else USUAL_SPEED
        return USUAL_SCATTER * speed * 2**0.5, 0

    def track_for(self, test: Test, chosen: Logged | None) -> tuple[Logged, Record]:
        """The track a test's runs are cut from, and its session: the chosen one's, else the newest of the test's board
        and rider that no test has used.

        Raises
        ------
        InputError
            When the chosen session was sailed on another board or by another rider, or there is no such track.
        """
        riders = {run.rider.strip().casefold() for run in test.counted if run.rider.strip()}
        wanted = test.value.board.strip().casefold()
        used = {run.track for other in self.all() for run in other.counted}
        here = [chosen] if chosen is not None and chosen.tracks else self._session.service(Logbook).all()
        for one in here:
            setup = one.setup
            if one.value.struck or setup is None:
                continue
            board, rider = setup.board.strip(), setup.rider.strip()
            other = board if board.casefold() != wanted else rider if riders and rider.casefold() not in riders else ""
            if other and one is chosen:
                accepts = "Choose one of the test's board and rider under Sessions"
                raise InputError(f"it was {other}", where=f"The session of {one.value.day}", accepts=accepts)
            free = [t for t in one.tracks if not t.value.struck and t.value.sha not in used]
            if not other and free:
                return one, free[0]
        accepts = "Add the day's track under Sessions, with the board that was ridden"
        raise InputError(f"no track of {test.value.board} is in the log that no test has used", accepts=accepts)

    # doing

    def begin(self, trial: Trial) -> str:
        """Begin a test; its identity. Raises InputError for an order that is none."""
        run_order(trial.order)
        if trial.a.strip().casefold() == trial.b.strip().casefold():
            raise InputError("A and B are the same", where="Test", accepts="Name what differs")
        return self._registers.keep("test", trial, f"test: {trial.question}")

    def change(self, test: Test, trial: Trial) -> None:
        """Write a test anew: its current, what else differed, what was decided."""
        self._registers.keep("test", trial, f"test: {trial.question}", uid=test.record.uid)

    def sail(
        self,
        test: Test,
        value: float,
        *,
        both_ways: bool,
        rider: str = "",
        wind: float = 0.0,
        felt: str = "",
        origin: Origin = "measured",
        at: str = "",
        track: str = "",
    ) -> None:
        """Write the next run of a test. Raises InputError when all are sailed."""
        order = run_order(test.value.order)
        done = len(test.counted)
        if done >= len(order):
            raise InputError("all runs of the plan are sailed", where="Test", accepts="Plan more pairs first")
        number = max((r.value.number for r in test.runs), default=0) + 1
        run = TrialRun(
            trial=test.record.uid,
            number=number,
            change=order[done],
            value=value,
            rider=rider,
            both_ways=both_ways,
            at=at or datetime.now(UTC).isoformat(timespec="seconds"),
            wind=wind,
            felt=felt,
            track=track,
        )
        self._registers.keep("test run", run, f"run {number}, {order[done]}", origin=origin)

    def from_track(self, test: Test, legs: tuple[Leg, ...], sha: str, *, simulated: bool) -> int:
        """Write what a track was cut into as the next runs; how many were. One gesture."""
        taken = 0
        with self._session.workshop.gestures.as_one(f"{len(legs)} runs from a track"):
            for leg in legs:
                here = self.get(test.record.uid)
                assert here is not None
                if here.done:
                    break
                at = datetime.fromtimestamp(leg.begins, UTC).isoformat(timespec="seconds")
                self.sail(
                    here,
                    leg.value,
                    both_ways=leg.both_ways,
                    at=at,
                    track=sha,
                    origin="simulated" if simulated else "measured",
                )
                taken += 1
        return taken

    def strike(self, run: Record, why: str) -> None:
        """Strike a run, with the reason; the next one takes its place in the order."""
        value = replace(run.value, struck=why.strip())
        self._registers.keep("test run", value, f"run {run.value.number} struck out", uid=run.uid, origin=run.origin)
