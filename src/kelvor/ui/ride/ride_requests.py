"""The ride of the board on the bench: asked of worker processes, never counted in the window's own."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Signal

from kelvor.core.base.figures import Figures, by_key
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.live import Live
from kelvor.core.ride import condition as conditions
from kelvor.core.ride.condition import Condition
from kelvor.ui.background.runner import IDLE, POINTER, WorkerQuestion, workers_started
from kelvor.ui.background.timers import single_shot
from kelvor.ui.ride.overlay_rides import OverlayRides, whole

if TYPE_CHECKING:
    from kelvor.core.evaluation.jobs import LeverEffect, SweepPoint
    from kelvor.core.evaluation.uncertainty import Moves
    from kelvor.core.ride.stage import Ride
    from kelvor.ui.session.session import Session

FIRST_AFTER_MS = 250
LEVERS_AFTER_MS = 700
"""What levers do is counted when the board has stood still this long."""
BANDS_AFTER_MS = 400
"""And what its coefficients leave open in its bands this long after its ride is known."""


class RideRequests(QObject):
    """Ride, sweep over conditions and what levers do, for the board on the bench and the pinned one."""

    ridden = Signal()
    """A ride arrived."""
    swept = Signal()
    """The sweep over conditions went on, ended or was given up."""
    levers_counted = Signal()
    """What levers do went on, or is complete."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self._session = session
        self._chosen: Condition | None = None
        self.ride: Ride | None = None
        self.behind_it: OverlayRides = OverlayRides(session, self._asked, self._behind_ridden)
        self._asked_live: Live | None = None
        self._ridden_live: Live | None = None
        self.sweep: tuple[SweepPoint, ...] = ()
        self.pinned_sweep: tuple[SweepPoint, ...] = ()
        self.effects: dict[str, LeverEffect] = {}
        self._ask = self._asked("The ride was not counted", self._take, priority=POINTER)
        self._ask_sweep = self._asked(
            "The range was not counted", self._take_sweep, lambda _count, _point: self.swept.emit()
        )
        self._ask_levers = self._asked(
            "What levers do was not counted", lambda _: self.levers_counted.emit(), self._take_effect
        )
        self._ask_bands = self._asked("Bands were not counted", self._take_bands)
        self._bands_at_rest = single_shot(self, BANDS_AFTER_MS, self._ask_bands_now)
        self._after_first_picture = single_shot(self, FIRST_AFTER_MS, self._ask_now)
        session.live_changed.connect(self._board_moves)
        self._at_rest = single_shot(self, LEVERS_AFTER_MS, self._ask_levers_now)
        self._lever_keys: list[str] = []
        self._levers_for: tuple[Live, Brief] | None = None
        self._swept_for: tuple[object, ...] = ()

    def _asked(
        self,
        words: str,
        done: Callable[[list[Any]], None],
        progress: Callable[[int, Any], None] | None = None,
        *,
        priority: str = IDLE,
    ) -> WorkerQuestion:
        return WorkerQuestion(self, words, done, progress, failed=self._tell, priority=priority)

    def _tell(self, words: str) -> None:
        """A job failed: it is said once, what was known stays, and marked as it is."""
        self._session.message.emit("problem", words)
        self.swept.emit()
        self.levers_counted.emit()

    # which condition

    @property
    def condition(self) -> Condition:
        """The condition the ride is looked at in: the slider's, or the brief's own."""
        return self._chosen or conditions.condition_of(self._session.brief)

    @property
    def as_in_brief(self) -> bool:
        """Whether that is the brief's own."""
        return self.condition == conditions.condition_of(self._session.brief)

    def set_condition(self, value: float | None) -> None:
        """Look at the ride in another wind, or at another speed [m/s]; None goes back to the brief's own."""
        self._chosen = None if value is None else conditions.at(self._session.brief, value)
        self.ask()

    def brief_changes(self, before: Brief, after: Brief) -> None:
        """A new brief: a condition chosen for the old one is given up where it no longer fits."""
        if before.discipline != after.discipline or conditions.span(before) != conditions.span(after):
            self._chosen = None
        if before.discipline != after.discipline:
            self.ride = self._ridden_live = None
            self.behind_it.forget()
            self.effects, self.sweep, self.pinned_sweep = {}, (), ()

    # asking

    def ask(self) -> None:
        """Count the ride of the board on the bench, and of the pinned one, in the chosen condition.

        The first time only once the window stands: starting the workers must not keep its first picture waiting.
        """
        if workers_started():
            self._ask_now()
        else:
            self._after_first_picture.start()

    def _board_moves(self) -> None:
        """What waits in line is of a board that is gone: it must not keep the hand waiting."""
        session = self._session
        if self._levers_for is not None and self._levers_for != (session.live, session.brief):
            self._ask_levers.drop()
        if self._swept_for and self._swept_for[0] is not session.live:
            self._ask_sweep.drop()
            self._swept_for = ()
        if self._ridden_live is not session.live:
            self._bands_at_rest.stop()
            self._ask_bands.drop()

    def _ask_now(self) -> None:
        from kelvor.core.evaluation.jobs import ride_job

        session = self._session
        self._asked_live = session.live
        self._board_moves()
        self._bands_at_rest.stop()
        self._ask_bands.drop()
        self._ask.ask(ride_job, [(session.subject(), self.condition)])
        self.behind_it.ask(self.condition)

    def ask_sweep(self) -> None:
        """Count the ride over the brief's whole range, for this board and the pinned one, unless that is done or under
        way.
        """
        from kelvor.core.evaluation.jobs import sweep_job
        from kelvor.core.ride.stage import SWEEP

        session = self._session
        wanted = (session.live, session.overlays.live, session.brief, session.coefficients)
        if self._swept_for == wanted:
            return
        self._swept_for = wanted
        low, high = conditions.span(session.brief)
        values = [low + (high - low) * i / (SWEEP - 1) for i in range(SWEEP)]
        boards = [session.live] if session.overlays.live is None else [session.live, session.overlays.live]
        self._ask_sweep.ask(sweep_job, [(session.subject(board), value) for board in boards for value in values])
        self.swept.emit()

    def stop_sweep(self) -> None:
        """Give up the sweep that is under way."""
        self._ask_sweep.drop()
        self._swept_for = ()
        self.swept.emit()

    def ask_levers(self, keys: list[str]) -> None:
        """Count what a fair step of these levers does, once the hand has rested, unless that is done or under way."""
        session = self._session
        if self._levers_for == (session.live, session.brief) and (
            self._ask_levers.under_way or all(key in self.effects for key in keys)
        ):
            return
        self._lever_keys = keys
        self._at_rest.start()

    def _ask_levers_now(self) -> None:
        from kelvor.core.evaluation.jobs import lever_job

        session = self._session
        wanted = (session.live, session.brief)
        if self.behind():
            return  # the next ride asks again
        if self._ask_bands.under_way:
            self._at_rest.start()  # first what is already on show
            return
        if self._levers_for != wanted:
            self.effects = {}
        self._levers_for = wanted
        missing = [key for key in self._lever_keys if key not in self.effects]
        self._ask_levers.ask(lever_job, [(session.subject(), key) for key in missing])

    def _ask_bands_now(self) -> None:
        from kelvor.core.evaluation.jobs import PARTS, band_job

        session = self._session
        if self.ride is None or self.behind() or self._ask_bands.under_way:
            return  # the next ride asks again, and the pinned step's follow what is under way
        if any(f.counting for f in self.ride.figures):
            self._ask_bands.ask(band_job, [(session.subject(), self.ride.condition, part) for part in range(PARTS)])
        else:
            self.behind_it.ask_bands()

    def forget(self) -> None:
        """Another board comes on the bench."""
        self._after_first_picture.stop()
        self._at_rest.stop()
        self._bands_at_rest.stop()
        for asked in (
            self._ask,
            self._ask_sweep,
            self._ask_levers,
            self._ask_bands,
        ):
            asked.drop()
        self.behind_it.forget()
        self._chosen = self.ride = self._ridden_live = None
        self.sweep = self.pinned_sweep = ()
        self.effects, self._levers_for, self._swept_for = {}, None, ()

    def forget_pinned(self) -> None:
        """Another step is pinned, or none."""
        self.pinned_sweep, self._swept_for = (), ()
        self.behind_it.forget()

    # what is known

    def behind(self) -> bool:
        """Whether the ride on show is not that of the board on the bench in the chosen condition."""
        return (
            self._ridden_live is not self._session.live or self._ask.under_way or self._after_first_picture.isActive()
        )

    def under_way(self) -> bool:
        """Whether anything is being counted."""
        return (
            self._after_first_picture.isActive()
            or self._at_rest.isActive()
            or self.behind_it.under_way
            or any(asked.under_way for asked in (self._ask, self._ask_sweep, self._ask_levers))
        )

    def sweeping(self) -> tuple[int, int]:
        """How far the sweep is: counted, of how many; (0, 0) when none is under way."""
        return (self._ask_sweep.counted, self._ask_sweep.jobs) if self._ask_sweep.under_way else (0, 0)

    def counting_levers(self) -> bool:
        """Whether what levers do is being counted."""
        return self._ask_levers.under_way or self._at_rest.isActive()

    def counting_bands(self) -> bool:
        """Whether what coefficients leave open is being counted."""
        return self._bands_at_rest.isActive() or self._ask_bands.under_way or self.behind_it.counting_bands

    def of(self, live: Live) -> Ride | None:
        """The ride of a board shown behind the one on the bench, once it is counted."""
        return self.behind_it.of(live)

    def figures_of(self, live: Live) -> Figures:
        """All figures of a board shown behind the one on the bench, as far as they are counted."""
        return self.behind_it.figures(live)

    @property
    def pinned(self) -> Ride | None:
        """The pinned step's ride."""
        live = self._session.overlays.live
        return None if live is None else self.behind_it.of(live)

    def figures(self) -> Figures:
        """The ride's figures, perhaps those of a moment ago."""
        return by_key(self.ride.figures) if self.ride is not None else {}

    def pinned_figures(self) -> Figures:
        """The pinned step's figures of the ride."""
        return by_key(self.pinned.figures) if self.pinned is not None else {}

    # taking

    def _take(self, results: list[Ride | None]) -> None:
        if results[0] is None:
            return
        self._ridden_live = self._asked_live
        self._show(results[0])
        self._bands_at_rest.start()

    def _show(self, ridden: Ride) -> None:
        self.ride = ridden
        if self._ridden_live is not None:
            self._session.results.take_ride(ridden, self._ridden_live)
        self.ridden.emit()

    def _take_bands(self, parts: list[Moves | None]) -> None:
        from kelvor.core.evaluation.uncertainty import with_bands

        if self.ride is not None and not self.behind():
            self._show(with_bands(self.ride, whole(parts)))
            self.behind_it.ask_bands()

    def _behind_ridden(self) -> None:
        if self.behind_it:
            self._bands_at_rest.start()
        if self.pinned is not None:
            self._session.overlays.take(by_key(self.pinned.figures))
        self.ridden.emit()

    def _take_sweep(self, points: list[SweepPoint | None]) -> None:
        from kelvor.core.ride.stage import SWEEP

        self.sweep = tuple(p for p in points[:SWEEP] if p is not None)
        self.pinned_sweep = tuple(p for p in points[SWEEP:] if p is not None)
        self.swept.emit()

    def _take_effect(self, _count: int, effect: LeverEffect) -> None:
        self.effects[effect.lever] = effect
        self.levers_counted.emit()
