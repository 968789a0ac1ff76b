"""What is known of the board on the bench beyond its live figures: float, stiffness, ride and verdicts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from kelvor.core.disciplines import AT_REST
from kelvor.core.figures import Figures, by_key
from kelvor.core.live import Live
from kelvor.ui.timers import single_shot

if TYPE_CHECKING:
    from kelvor.core.evaluation import Evaluation
    from kelvor.core.floating.stage import PostureFloat
    from kelvor.core.ride.stage import Ride
    from kelvor.ui.session import Session

SETTLE_AFTER_MS = 70
"""Float and verdicts follow when the hand rests this long."""


class Known:
    """Everything counted of the board as it last settled, and what of it is being renewed."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._evaluation: Evaluation | None = None
        self._timer = single_shot(session, SETTLE_AFTER_MS, self.settle_now)

    @property
    def evaluation(self) -> Evaluation:
        """What is known of the board as it last settled."""
        if self._evaluation is None:
            from kelvor.core.evaluation import settle

            self._evaluation = settle(self._session.live)
        return self._evaluation

    def forget(self) -> None:
        """Another board stands on the bench, and nothing of it is needed yet."""
        self._evaluation = None

    def follow(self) -> None:
        """The board moved: settle once the hand rests."""
        self._timer.start()

    def settle_now(self) -> None:
        """Bring float and verdicts up to the board on the bench."""
        self._timer.stop()
        from kelvor.core.evaluation import settle

        self._evaluation = settle(self._session.live)
        self._session.settled.emit()
        self._session.riding.ask()

    def figures(self) -> Figures:
        """All figures, the live ones newest; the ride's may be those of a moment ago, see :meth:`Riding.behind`."""
        session = self._session
        return {**session.riding.figures(), **self.evaluation.figures, **by_key(session.live.figures)}

    def take_ride(self, ridden: Ride, live: Live) -> None:
        """A ride of `live` is known: its verdicts count it, where that is the board that settled last."""
        from kelvor.core.evaluation import with_ride

        if live is self.evaluation.live:
            self._evaluation = with_ride(self.evaluation, ridden)

    def settling(self) -> bool:
        """Whether float, stiffness and verdicts are still those of the board before."""
        return self.evaluation.live is not self._session.live

    def renewing(self) -> frozenset[str]:
        """Figures that are still those of the board before."""
        from kelvor.core.book import RIDDEN

        session, settled = self._session, frozenset[str]()
        if self.settling():
            settled = frozenset(self.evaluation.figures) - {figure.key for figure in session.live.figures}
        return settled | (frozenset(RIDDEN) if session.riding.behind() else frozenset())

    def afloat(self) -> PostureFloat | None:
        """The board at rest with its rider as the discipline waits; None where it carries nobody."""
        session = self._session
        waiting = AT_REST[session.brief.discipline]
        return None if waiting is None or not session.standing else self.evaluation.floating.postures[waiting]
