"""What is known of the board on the bench beyond its live figures: float, stiffness, ride and verdicts."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from kelvor.core.base.disciplines import AT_REST
from kelvor.core.base.figures import Figures, by_key
from kelvor.core.evaluation.live import Live
from kelvor.ui.background.runner import POINTER, WorkerQuestion, workers_started
from kelvor.ui.background.timers import single_shot

if TYPE_CHECKING:
    from kelvor.core.evaluation.evaluation import Evaluation
    from kelvor.core.ride.stage import Ride
    from kelvor.core.tank.floating.posture import PostureFloat
    from kelvor.ui.session.session import Session

SETTLE_AFTER_MS = 70
"""Float and verdicts follow when the hand rests this long."""


class SlowResults:
    """Everything counted of the board as it last settled, and what of it is being renewed."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._evaluation: Evaluation | None = None
        self._timer = single_shot(session, SETTLE_AFTER_MS, self.ask)
        self._asked = WorkerQuestion(
            session, "Float and stiffness were not counted", self._take, failed=self._tell, priority=POINTER
        )
        self._asked_live: Live | None = None
        self._ridden: tuple[Live, Ride] | None = None

    @property
    def evaluation(self) -> Evaluation:
        """What is known of the board as it last settled."""
        if self._evaluation is None:
            from kelvor.core.evaluation.evaluation import settle

            self._evaluation = settle(self._session.live)
        return self._evaluation

    def forget(self) -> None:
        """Another board stands on the bench, and nothing of it is needed yet."""
        self._evaluation = None

    def follow(self) -> None:
        """The board moved: settle once the hand rests."""
        self._timer.start()

    def ask(self) -> None:
        """Count float, stiffness and ride of the board on the bench beside the window, once workers are there."""
        if not workers_started():
            self.settle_now()
            return
        from kelvor.core.evaluation.jobs import settle_job

        self._timer.stop()
        self._asked_live = self._session.live
        self._asked.ask(settle_job, [(self._session.subject(),)])
        self._session.rides.ask()

    def _take(self, results: list[Any]) -> None:
        from kelvor.core.evaluation.evaluation import joined_stages

        live, found = self._asked_live, results[0]
        if live is not None and live is self._session.live and found is not None:
            self._evaluation = joined_stages(live, *found)
            if self._ridden is not None and self._ridden[0] is live:  # it came first
                self.take_ride(self._ridden[1], live)
            self._session.settled.emit()

    def _tell(self, words: str) -> None:
        self._session.message.emit("problem", words)

    def settle_now(self) -> None:
        """Bring float and verdicts up to the board on the bench before anything else: it has none yet."""
        self._timer.stop()
        self._asked.drop()
        from kelvor.core.evaluation.evaluation import settle

        self._evaluation = settle(self._session.live)
        self._session.settled.emit()
        self._session.rides.ask()

    def figures(self) -> Figures:
        """All figures as they are shown: plain, or by our own boards."""
        return self._session.ours.figures(self.as_counted())

    def as_counted(self) -> Figures:
        """All figures, the live ones newest.

        The ride's may be those of a moment ago: see :meth:`RideRequests.behind`.
        """
        session = self._session
        return {**session.rides.figures(), **self.evaluation.figures, **by_key(session.live.figures)}

    def take_ride(self, ridden: Ride, live: Live) -> None:
        """A ride of `live` is known: its verdicts count it, where that is the board that settled last."""
        from kelvor.core.evaluation.evaluation import with_ride

        self._ridden = live, ridden
        if live is self.evaluation.live:
            self._evaluation = with_ride(self.evaluation, ridden)

    def settling(self) -> bool:
        """Whether float, stiffness and verdicts are still those of the board before."""
        return self.evaluation.live is not self._session.live

    def renewing(self) -> frozenset[str]:
        """Figures that are still those of the board before."""
        from kelvor.core.evaluation.book import RIDDEN

        session, settled = self._session, frozenset[str]()
        if self.settling():
            settled = frozenset(self.evaluation.figures) - {figure.key for figure in session.live.figures}
        return settled | (frozenset(RIDDEN) if session.rides.behind() else frozenset())

    def afloat(self) -> PostureFloat | None:
        """The board at rest with its rider as the discipline waits; None where it carries nobody."""
        session = self._session
        waiting = AT_REST[session.brief.discipline]
        return None if waiting is None or not session.started else self.evaluation.floating.postures[waiting]
