"""What a layer buys: the board with one layer more or less, in grams, inertia, bend, twist, dents and cost."""

from __future__ import annotations

from dataclasses import replace

from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.costing import board_cost
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.build.stiffness.stage import stiffness_stage
from kelvor.core.shape.parts.construction import Construction, Ply
from kelvor.core.shape.surface.geometry import Geometry


@frozen
class Built:
    """A construction on a shape: mass [kg], yaw inertia [kg m²], sag [m], twist [rad], dent rank, cost, hours."""

    mass: float
    yaw: float
    sag: float
    twist: float
    dent: float
    cost: float
    hours: float


@frozen
class Worth:
    """What one layer more of a ply changes, or less; shares are of the board as it is (0.1 is ten per cent more)."""

    ply: str
    change: int
    mass: float
    yaw: float
    sag: float
    twist: float
    dent: float
    cost: float


def built(measured: Geometry, construction: Construction, brief: Brief, table: MaterialTable) -> Built:
    """A construction on a shape that is already measured; the outer surface does not change with it."""
    board = with_construction(measured.board, measured.shape, construction, table)
    as_built = replace(measured, board=board)
    mass = board_mass(as_built, table)
    stage = stiffness_stage(as_built, mass, brief, table)
    assert stage is not None and mass.layup is not None
    figures = {f.key: f.value for f in stage.figures}
    spent = board_cost(as_built, mass, table)
    axis = board.mast_x if board.mast_x is not None else mass.total.x
    return Built(
        mass.total.mass,
        mass.total.yaw_about(axis),
        figures["bend_sag"],
        figures["twist_per_moment"],
        figures["dent_front"],
        spent.total,
        spent.hours,
    )


def with_count(construction: Construction, index: int, change: int) -> Construction:
    """A construction with one layer more or less of a ply."""
    ply = construction.plies[index]
    changed: Ply = replace(ply, count=max(0, ply.count + change))
    return replace(construction, plies=(*construction.plies[:index], changed, *construction.plies[index + 1 :]))


def worth_asked(construction: Construction) -> list[tuple[int, int]]:
    """What is worth asking of a construction: ply and change, one layer less and one more of each."""
    return [
        (i, change)
        for i, ply in enumerate(construction.plies)
        for change in (-1, 1)
        if ply.on and (change > 0 or ply.count > 0)
    ]


def layer_worth(measured: Geometry, now: Built, brief: Brief, table: MaterialTable, ply: int, change: int) -> Worth:
    """What one layer more or less of a ply changes of a board that is built as `now` says."""
    construction = measured.board.construction
    assert construction is not None
    then = built(measured, with_count(construction, ply, change), brief, table)
    return Worth(
        construction.plies[ply].name,
        change,
        then.mass - now.mass,
        then.yaw - now.yaw,
        then.sag / now.sag - 1,
        then.twist / now.twist - 1,
        then.dent / max(now.dent, 1e-9) - 1,
        then.cost - now.cost,
    )
