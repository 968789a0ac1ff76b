"""What long work is about."""

from __future__ import annotations

from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.tank.laws.coefficients import Coefficients


@frozen
class Subject:
    """A board, who rides it with what, where and in which wind (its brief), and the workshop's tables: all a worker
    needs.
    """

    board: Board
    brief: Brief
    table: MaterialTable
    coefficients: Coefficients
