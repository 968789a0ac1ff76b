"""The rides of the boards behind the one on the bench, and what coefficients leave open in their bands."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from kelvor.core.base.figures import Figures, by_key
from kelvor.core.evaluation.live import Live
from kelvor.core.ride.condition import Condition

if TYPE_CHECKING:
    from kelvor.core.evaluation.uncertainty import Moves
    from kelvor.core.ride.stage import Ride
    from kelvor.ui.background.runner import WorkerQuestion
    from kelvor.ui.session.session import Session


class OverlayRides:
    """Counted under the brief and in the condition of the board on the bench; forgotten when those change."""

    def __init__(self, session: Session, asked: Callable[..., WorkerQuestion], told: Callable[[], None]) -> None:
        """`asked` makes a question to the workers; `told` is called when something of these boards is known."""
        self._session, self._told = session, told
        self._rides: dict[Live, Ride] = {}
        self._settled: dict[Live, Figures] = {}
        self._for: tuple[object, ...] = ()
        self._boards: list[Live] = []
        self._bands_of: list[Live] = []
        self._ask = asked("The ride of the boards behind was not counted", self._take)
        self._ask_bands = asked("Bands of the boards behind were not counted", self._take_bands)

    @property
    def under_way(self) -> bool:
        """Whether rides are awaited."""
        return self._ask.under_way

    @property
    def counting_bands(self) -> bool:
        """Whether bands are awaited."""
        return self._ask_bands.under_way

    def __bool__(self) -> bool:
        """Whether any ride is known."""
        return bool(self._rides)

    def ask(self, condition: Condition) -> None:
        """Count the rides that are not known in this condition."""
        from kelvor.core.evaluation.jobs import whole_job

        session = self._session
        wanted = (condition, session.brief, session.coefficients, session.table)
        if self._for != wanted:
            self.forget()
            self._for = wanted
        pinned = [session.overlays.live] if session.overlays.live is not None else []
        missing = [live for live in (*pinned, *(o.live for o in session.overlays.beside)) if live not in self._rides]
        if missing and not (self._ask.under_way and missing == self._boards):
            self._boards = missing
            self._ask.ask(whole_job, [(session.subject(live), condition) for live in missing])

    def ask_bands(self) -> None:
        """Count what coefficients leave open, for the differences; unless that is known."""
        from kelvor.core.evaluation.jobs import PARTS, band_job

        if self._ask_bands.under_way:
            return
        boards = [live for live, ride in self._rides.items() if any(f.counting for f in ride.figures)]
        if boards:
            self._bands_of = boards
            subject = self._session.subject
            self._ask_bands.ask(
                band_job, [(subject(b), self._rides[b].condition, part) for b in boards for part in range(PARTS)]
            )

    def forget(self) -> None:
        """Other boards, another brief or condition."""
        self._rides, self._settled = {}, {}
        self._ask.drop()
        self._ask_bands.drop()

    def of(self, live: Live) -> Ride | None:
        """The ride of a board, once it is counted."""
        return self._rides.get(live)

    def figures(self, live: Live) -> Figures:
        """All figures of a board, as far as they are counted."""
        ride = self._rides.get(live)
        return {**self._settled.get(live, {}), **(by_key(ride.figures) if ride is not None else {})}

    def _take(self, results: list[tuple[Ride, Figures] | None]) -> None:
        for live, found in zip(self._boards, results, strict=True):
            if found is not None:
                self._rides[live], self._settled[live] = found
        self._told()

    def _take_bands(self, parts: list[Moves | None]) -> None:
        from kelvor.core.evaluation.jobs import PARTS
        from kelvor.core.evaluation.uncertainty import with_bands

        for i, live in enumerate(self._bands_of):
            ride = self._rides.get(live)
            if ride is not None:
                self._rides[live] = with_bands(ride, whole(parts[i * PARTS : (i + 1) * PARTS]))
        self._told()


def whole(parts: list[Moves | None]) -> Moves:
    """The moves of all parts."""
    return {key: moves for part in parts if part is not None for key, moves in part.items()}
