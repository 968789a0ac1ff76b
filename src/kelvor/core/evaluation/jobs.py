"""Work that runs in a process of its own: the ride, its sweep over conditions, what levers buy.

Plain functions of plain values, so that they can be sent to a worker. Each
worker keeps the last few boards it has counted: moving the wind then costs only
what the wind changes.
"""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import replace
from functools import lru_cache

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.figures import Figure, Figures, by_key, difference_band
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, Wind
from kelvor.core.build.stiffness.stage import StiffnessStage
from kelvor.core.evaluation.evaluation import Evaluation, ride_case, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.evaluation.uncertainty import Moves, PerturbedRide
from kelvor.core.levers.catalogue import levers, pull_lever, pulled_by
from kelvor.core.levers.layer_benefit import Built, Worth, built, layer_worth
from kelvor.core.levers.lever import Lever
from kelvor.core.ride.case import BoardCase
from kelvor.core.ride.condition import Condition, at, condition_of
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.stage import Ride, ride
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.shape.surface.geometry import Geometry, geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.floating.stage import FloatStage
from kelvor.core.tank.laws.coefficients import Coefficients

KEPT = 4
PARTS = 12
"""Bands are counted in so many parts, none of which keeps a newer question waiting for long."""


class _Counted:
    """A board as it was counted, and its figures by condition."""

    def __init__(self, settled: Evaluation, case: BoardCase) -> None:
        self.settled, self.case = settled, case
        self._figures: dict[Condition, dict[str, Figure]] = {}
        self._moved: tuple[Condition, PerturbedRide] | None = None

    def moved(self, condition: Condition) -> PerturbedRide:
        """The board in a condition, its coefficients to be moved."""
        if self._moved is None or self._moved[0] != condition:
            self._moved = condition, PerturbedRide(self.case, condition)
        return self._moved[1]

    def figures(self, condition: Condition) -> dict[str, Figure]:
        """All figures in a condition."""
        if condition not in self._figures:
            self._figures[condition] = {
                **self.settled.figures,
                **by_key(ride(self.case, condition, pictures=False).figures),
            }
        return self._figures[condition]


_kept: OrderedDict[tuple[Board, Brief, Coefficients, Resolution], _Counted] = OrderedDict()


def _counted(subject: Subject, resolution: Resolution = Resolution.NORMAL) -> _Counted | None:
    """The board of a subject, counted or remembered; None where it cannot be drawn."""
    wind = subject.brief.wind
    still = replace(
        subject.brief,
        wind=Wind(speed=1.0, height=wind.height, kind=wind.kind),
        pace=0.0,
        targets=(),
        known=None,
        title="",
        notes="",
        place="",
    )
    key = (subject.board, still, subject.coefficients, resolution)
    found = _kept.get(key)
    if found is None or found.settled.live.table != subject.table:
        live = evaluate_live(subject.board, still, resolution, subject.table, subject.coefficients)
        if isinstance(live, tuple):
            return None
        settled = settle(live, quick=resolution is Resolution.COARSE)
        found = _Counted(settled, ride_case(settled))
        _kept[key] = found
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
    _kept.move_to_end(key)
    return found


def settle_job(subject: Subject) -> tuple[FloatStage, StiffnessStage | None] | None:
    """How a board floats and how stiff it is; None where it cannot be drawn."""
    found = _counted(subject)
    return None if found is None else (found.settled.floating, found.settled.stiffness)


def mass_job(step: int, subject: Subject) -> tuple[int, float | None]:
    """What a board is computed to weigh as built [kg], beside the number it was asked under; None where it cannot be
    drawn.
    """
    live = evaluate_live(subject.board, subject.brief, table=subject.table, coefficients=subject.coefficients)
    return step, None if isinstance(live, tuple) else live.mass.total.mass


def seek_job(
    subject: Subject,
    pulls: tuple[tuple[str, float], ...],
    keys: tuple[str, ...],
    also: tuple[str, ...] = (),
    *,
    ridden: bool,
) -> dict[str, float] | None:
    """Figures of a board with its levers pulled by so many fair steps, in order, each from the reading it meets; None
    where no board results or one of the figures does not exist there. Those in `also` may be missing.

    Float, stiffness and ride are counted on fewer stations, and only where one of the figures needs them.
    """
    board = subject.board
    try:
        for key, steps in pulls:
            lever = next(lever for lever in levers(board) if lever.key == key)
            if abs(steps) > 1e-9:
                board = pulled_by(board, lever, steps)
    except (RefusedEdit, StopIteration):
        return None
    there = replace(subject, board=board)
    live = evaluate_live(board, subject.brief, table=subject.table, coefficients=subject.coefficients)
    if isinstance(live, tuple):
        return None
    figures: Figures = by_key(live.figures)
    if ridden or not {*keys, *also} <= set(figures):
        more = _figures(there)
        if more is None:
            return None
        figures = {**more, **figures}  # what follows at once is counted as it is shown
    every = dict.fromkeys((*keys, *also))
    found = {key: figures[key] for key in every if key in figures and figures[key].exists and figures[key].valid}
    return {key: figure.value for key, figure in found.items()} if set(keys) <= set(found) else None


def ride_job(subject: Subject, condition: Condition | None = None) -> Ride | None:
    """The ride of a board in a condition, the brief's own by default."""
    found = _counted(subject)
    return None if found is None else ride(found.case, condition or condition_of(subject.brief), found.settled.floating)


def whole_job(subject: Subject, condition: Condition) -> tuple[Ride, Figures] | None:
    """The ride of a board in a condition, and the figures of the stages before it."""
    found = _counted(subject)
    return None if found is None else (ride(found.case, condition, found.settled.floating), found.settled.figures)


SweepPoint = tuple[float, dict[str, tuple[float, float, bool]]]


def sweep_job(subject: Subject, value: float) -> SweepPoint | None:
    """One condition of a sweep: (wind or speed [m/s], value, band and validity by figure)."""
    found = _counted(subject)
    if found is None:
        return None
    ridden = ride(found.case, at(subject.brief, value), pictures=False)
    return value, {f.key: (f.value, f.band, f.valid) for f in ridden.figures}


def band_job(subject: Subject, condition: Condition, part: int) -> Moves | None:
    """What some of the coefficients a ride reads move when moved by their own band: one of `PARTS` parts of them."""
    found = _counted(subject)
    if found is None:
        return None
    moved = found.moved(condition)
    return {key: moved.moves(key) for key in moved.read[part::PARTS]}


@frozen
class LeverEffect:
    """What a fair step of a lever does: differences of the phases' figures, and what is held meanwhile.

    `changes` are (figure key, difference, band of the difference) in SI; `refused` says why it cannot be pulled.
    """

    lever: str
    step: float
    changes: tuple[tuple[str, float, float], ...] = ()
    held: tuple[str, ...] = ()
    refused: str = ""


def _figures(subject: Subject) -> dict[str, Figure] | None:
    found = _counted(subject, Resolution.COARSE)  # both boards of a difference alike
    return None if found is None else found.figures(condition_of(subject.brief))


def lever_job(
    subject: Subject, key: str, sign: float = 1.0, also: tuple[str, ...] = (), *, either: bool = True
) -> LeverEffect:
    """A fair step of a lever, by the difference of two evaluations; levers that cannot go the way of the sign go the
    other where `either` will do. Told are the figures that lead each phase, and those named in `also`.
    """
    lever = next((lever for lever in levers(subject.board) if lever.key == key), None)
    before = _figures(subject)
    if lever is None or before is None:
        return LeverEffect(key, 0.0, refused="this board has no such lever")
    refused = ""
    for factor in (sign, -sign) if either else (sign,):
        effect = _pulled(subject, lever, factor, before, also)
        if isinstance(effect, LeverEffect):
            return effect
        refused = refused or effect
    return LeverEffect(key, lever.step, refused=refused)


def _pulled(
    subject: Subject, lever: Lever, factor: float, before: dict[str, Figure], also: tuple[str, ...]
) -> LeverEffect | str:
    try:
        pulled = pull_lever(subject.board, lever, lever.read(subject.board) + factor * lever.step)
    except RefusedEdit as error:
        return str(error)
    after = _figures(replace(subject, board=pulled.board))
    if after is None:
        return "no board is left there"
    wanted = dict.fromkeys((*(key for phase in PHASES[subject.brief.discipline] for key in phase.figures[:3]), *also))
    changes = []
    for key in wanted:
        a, b = before.get(key), after.get(key)
        if a is None or b is None or not (a.valid and b.valid and a.exists and b.exists):
            continue
        moved = (b.value - a.value) * (1 if factor > 0 else -1)
        changes.append((key, moved, difference_band(b, a, counted=False)))
    return LeverEffect(lever.key, lever.step, tuple(changes), tuple(change.label for change in pulled.changes[1:]))


def candidate_job(subject: Subject, key: str, sign: float, also: tuple[str, ...]) -> LeverEffect:
    """What a lever does the way of the sign, and no other."""
    return lever_job(subject, key, sign, also, either=False)


@lru_cache(maxsize=KEPT)
def _measured(board: Board) -> Geometry | None:
    found = geometry(board)
    return None if isinstance(found, tuple) else found


@lru_cache(maxsize=KEPT * 4)
def built_job(subject: Subject, construction: Construction) -> Built | None:
    """A board's shape built another way; None where it cannot be drawn."""
    measured = _measured(subject.board)
    return None if measured is None else built(measured, construction, subject.brief, subject.table)


def worth_job(subject: Subject, ply: int, change: int) -> Worth | None:
    """What one layer more or less of a ply changes; None where the board cannot be drawn or says nothing of
    its layers.
    """
    measured, construction = _measured(subject.board), subject.board.construction
    now = None if construction is None else built_job(subject, construction)
    return (
        None
        if measured is None or now is None
        else layer_worth(measured, now, subject.brief, subject.table, ply, change)
    )
