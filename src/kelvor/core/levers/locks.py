"""Holding what is locked while something else is changed, and saying what paid for it."""

from __future__ import annotations

from typing import Annotated

import numpy as np

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.limits import Limit, Text
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board, LockedZone
from kelvor.core.shape.curves.outline import half_width, widest_of
from kelvor.core.shape.edits.edits import with_length, with_thickness_scaled, with_width_scaled
from kelvor.core.shape.edits.mirror import same_end_for_end
from kelvor.core.shape.surface.moments import section_areas, solid
from kelvor.core.shape.surface.sections import Resolution, sections

ZONE_TOLERANCE = 5e-4
"""A locked zone may be stirred by this much [m]: battens ring a little beside a moved weight."""
PROBE = 241
_ANY = Limit(-1e12, 1e12, unit="SI")


@frozen
class Change:
    """One thing that changed: a label, its kind, and SI values (None where it was added or taken away)."""

    label: Annotated[str, Text(300)]
    quantity: Quantity
    before: Annotated[float, _ANY] | None
    after: Annotated[float, _ANY] | None


ALONG = "With it the "
"""How the label of a change begins that came along with another, and did not pay for it."""


@frozen
class LockedEdit:
    """A board with its locks held, and the changes that paid for it."""

    board: Board
    paid: tuple[Change, ...]


def volume_of(board: Board, resolution: Resolution = Resolution.COARSE) -> float:
    """Finished volume [m³], or NaN where no board results."""
    shape = sections(board, resolution)
    return float("nan") if isinstance(shape, tuple) else solid(shape.x, section_areas(shape)).volume


def widest(board: Board) -> float:
    """Maximum width [m]."""
    return 2 * _widest(board)[1]


def wide_point_of(board: Board) -> float:
    """Where the board is widest [m]."""
    return _widest(board)[0]


def _widest(board: Board) -> tuple[float, float]:
    x = np.linspace(0, board.length, PROBE)
    return widest_of(x, half_width(board.outline, board.length, x))


def thickest(board: Board) -> float:
    """Greatest thickness of the batten [m]."""
    return float(board.thickness.at(np.linspace(0, board.length, PROBE)).max())


def with_volume(board: Board, volume: float, resolution: Resolution = Resolution.NORMAL) -> Board:
    """The same board at another volume [m³], by one thickness factor.

    Raises
    ------
    RefusedEdit
        When no thickness between half and double gives it.
    """
    f0, v0 = 1.0, volume_of(board, resolution)
    f1 = float(np.clip(volume / v0, 0.5, 2.0)) if np.isfinite(v0) else 1.0
    if abs(f1 - 1) < 1e-12:
        return board
    for _ in range(8):
        v1 = volume_of(with_thickness_scaled(board, f1), resolution)
        if not np.isfinite(v1) or not 0.4 < f1 < 2.5:
            raise RefusedEdit(f"No thickness gives {volume * 1e3:.1f} L with this outline and bottom.")
        if abs(v1 - volume) < 2e-8:
            break
        f0, f1, v0 = f1, f1 + (volume - v1) * (f1 - f0) / (v1 - v0), v1
    return with_thickness_scaled(board, f1)


def with_locks_held(before: Board, after: Board, changed: frozenset[str] = frozenset()) -> LockedEdit:
    """`after` with the locks of `before` held.

    Parameters
    ----------
    changed:
        Measures that were themselves typed ("length", "width", "volume", "thickness"); they do not pay.

    Raises
    ------
    RefusedEdit
        When a lock cannot be held; the message names it.
    """
    locks, paid = before.locks, []
    board = same_end_for_end(after, before) if after.mirrored else after
    if "length_times_width" in locks.measures:
        area = before.length * widest(before)
        width = widest(board)
        if abs(board.length * width - area) > 1e-7:
            if "length" in changed:
                if "width" in locks.measures:
                    raise RefusedEdit("Width and length × width are both locked, so the length cannot change.")
                factor = area / board.length / width
                paid.append(Change("Max width", Quantity.LENGTH, widest(before), width * factor))
                board = with_width_scaled(board, factor)
            else:
                length = area / width
                paid.append(Change("Length", Quantity.LENGTH, before.length, length))
                board = with_length(board, length)
    if "width" in locks.measures and abs(widest(board) - widest(before)) > 2e-4:
        raise RefusedEdit(
            f"The width is locked at {widest(before) * 100:.1f} cm; this would make it {widest(board) * 100:.1f} cm."
        )
    if "volume" in locks.measures:
        if "volume" in changed:
            raise RefusedEdit("The volume is locked. Unlock it to type another.")
        target = volume_of(before)
        if np.isfinite(target) and abs(volume_of(board) - target) > 1e-7:
            if "thickness" in changed:
                raise RefusedEdit("The volume is locked, and thickness is what pays for it. Unlock the volume first.")
            thick = thickest(before)
            board = with_volume(board, target, Resolution.COARSE)
            paid.append(Change("Thickest", Quantity.LENGTH, thick, thickest(board)))
    for zone in locks.zones:
        _check_zone(before, board, zone)
    return LockedEdit(board, tuple(paid))


def _check_zone(before: Board, after: Board, zone: LockedZone) -> None:
    """Raise RefusedEdit when a line moved inside a locked zone. Places count from the nose when the length changed."""
    shift = after.length - before.length
    for offset in (0.0, shift):
        x = np.linspace(max(zone.start, 0.0), min(zone.end, before.length), 61)
        moved = 0.0
        for name in ("outline", "rocker", "thickness"):
            if name == "outline":
                gap = half_width(after.outline, after.length, x + offset) - half_width(before.outline, before.length, x)
            else:
                gap = getattr(after, name).at(x + offset) - getattr(before, name).at(x)
            moved = max(moved, float(np.max(np.abs(gap))))
        if moved <= ZONE_TOLERANCE:
            return
    raise RefusedEdit(
        f"“{zone.name}” is locked, and this would move it by {moved * 1000:.1f} mm. Unlock it, or work further away."
    )
