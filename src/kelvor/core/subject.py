"""What long work is about."""

from __future__ import annotations

from kelvor.core.brief import Brief
from kelvor.core.coefficients import Coefficients
from kelvor.core.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.values import frozen


@frozen
class Subject:
    """A board, who rides it with what, where and in which wind (its brief), and the workshop's tables: all a worker
    needs.
    """

    board: Board
    brief: Brief
    table: MaterialTable
    coefficients: Coefficients
