"""Evaluation: a board and a brief to all figures, stage by stage.

geometry → measures → mass (the live path) → float and stiffness → ride → verdicts by phase.
Each stage is complete and frozen before the next begins.
"""

from __future__ import annotations

from dataclasses import replace

from kelvor.core.base.figures import Figures, by_key
from kelvor.core.base.findings import Finding
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.build.stiffness.stage import StiffnessStage, stiffness_stage
from kelvor.core.evaluation.live import Live, evaluate_live
from kelvor.core.evaluation.verdicts import Outcome, Verdict, judge_targets, worst
from kelvor.core.measures.check_values import Hint, hints
from kelvor.core.ride.case import BoardCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.phases import PHASES
from kelvor.core.ride.shared_phases import Phase
from kelvor.core.ride.stage import Ride, board_case, ride
from kelvor.core.ride.unreachable import Unreached, unreached
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.checks import check_geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.floating.stage import FloatStage, float_stage
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS, Coefficients


@frozen(eq=False)
class PhaseResult:
    """A phase with the verdicts of the targets that belong to it, the one that speaks, and places it rests on that
    cannot be had.
    """

    phase: Phase
    verdicts: tuple[Verdict, ...]
    speaks: Verdict | None
    missed: tuple[Unreached, ...] = ()

    @property
    def outcome(self) -> Outcome | None:
        """How the phase stands: short where a place cannot be reached, else as its verdict says; None without
        a target.
        """
        if self.missed:
            return Outcome.SHORT
        return self.speaks.outcome if self.speaks is not None else None

    @property
    def words(self) -> str:
        """Its outcome in words."""
        if self.missed:
            return self.missed[0].words
        return self.outcome.value if self.outcome is not None else "no target"


@frozen(eq=False)
class Evaluation:
    """Everything known about a board for a brief; without a ride until that has been counted."""

    live: Live
    floating: FloatStage
    stiffness: StiffnessStage | None
    figures: Figures
    phases: tuple[PhaseResult, ...]
    verdicts: tuple[Verdict, ...]
    hints: tuple[Hint, ...]
    findings: tuple[Finding, ...]
    ride: Ride | None = None
    missed: tuple[Unreached, ...] = ()
    """Places of mast, fins and straps that cannot be reached."""


def settle(live: Live, *, quick: bool = False) -> Evaluation:
    """The stages that may lag behind a drag: float, stiffness, verdicts, hints, findings; `quick` floats the waiting
    posture only.
    """
    floating = float_stage(live.geometry, live.mass.total, live.brief, live.coefficients, quick=quick)
    return joined_stages(live, floating, stiffness_stage(live.geometry, live.mass, live.brief, live.table))


def joined_stages(live: Live, floating: FloatStage, stiff: StiffnessStage | None) -> Evaluation:
    """A board with its float and stiffness counted: verdicts, hints, findings."""
    figures = by_key(live.figures + floating.figures + (stiff.figures if stiff else ()))
    verdicts = judge_targets(live.brief, figures)
    remarks = hints(live.brief.discipline, figures) if live.brief.hints else ()
    found = check_geometry(live.geometry)
    missed = unreached(live.board, figures, found)
    return Evaluation(
        live,
        floating,
        stiff,
        figures,
        phase_results(live.brief, verdicts, missed),
        verdicts,
        remarks,
        found,
        missed=missed,
    )


def phase_results(
    brief: Brief, verdicts: tuple[Verdict, ...], missed: tuple[Unreached, ...]
) -> tuple[PhaseResult, ...]:
    """The phases of the brief's discipline, each with the verdicts of its own figures and the places it cannot have."""
    found = []
    for phase in PHASES[brief.discipline]:
        own = tuple(v for v in verdicts if v.target.figure in phase.figures)
        rests = {part for figure in (phase.heads, *phase.supports) for part in figure.rests}
        found.append(PhaseResult(phase, own, worst(own), tuple(m for m in missed if m.part in rests)))
    return tuple(found)


def ride_case(evaluation: Evaluation) -> BoardCase:
    """The board of an evaluation, ready to ride in any condition."""
    live = evaluation.live
    return board_case(live.geometry, live.measures, live.mass.total, live.brief, evaluation.figures, live.coefficients)


def with_ride(evaluation: Evaluation, ridden: Ride) -> Evaluation:
    """The evaluation with its ride, and verdicts that count it."""
    figures = {**evaluation.figures, **by_key(ridden.figures)}
    verdicts = judge_targets(evaluation.live.brief, figures)
    return replace(
        evaluation,
        ride=ridden,
        figures=figures,
        verdicts=verdicts,
        phases=phase_results(evaluation.live.brief, verdicts, evaluation.missed),
    )


def evaluate(
    board: Board,
    brief: Brief,
    resolution: Resolution = Resolution.NORMAL,
    table: MaterialTable = HANDBOOK,
    coefficients: Coefficients = HANDBOOK_COEFFICIENTS,
) -> Evaluation | tuple[Finding, ...]:
    """All stages, the ride in the brief's own condition, or the fatal findings that leave no board."""
    live = evaluate_live(board, brief, resolution, table, coefficients)
    if isinstance(live, tuple):
        return live
    settled = settle(live)
    return with_ride(settled, ride(ride_case(settled), condition_of(brief), settled.floating))
