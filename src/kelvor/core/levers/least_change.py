"""The least change of a batten's heights that meets measures linear in them.

min ½ δᵀ(K + ℓ⁻⁴M)δ subject to Cδ = d, with K the bending and M the
displacement of the change along the curve. Bending alone would move the whole
board; the displacement term keeps the change near its place, within ℓ.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.shape.curves.battens import Structure

RANGE = 0.1
"""How far a change reaches, as a share of the length."""
OVERREACH = 2.0
"""A change that moves any weight more than this times what was asked is refused."""


@lru_cache(maxsize=64)
def energy(structure: Structure) -> Array:
    """K + ℓ⁻⁴M for a batten whose places run over [0, 1]."""
    s = np.linspace(0.0, 1.0, 201)
    bend, shift = structure.rows(s, 2), structure.rows(s)
    found: Array = (bend.T @ bend + shift.T @ shift / RANGE**4) / len(s)
    return found


def over_unit(structure: Structure, length: float) -> Structure:
    """A batten's structure with its places, and its rulers' blends, over [0, 1]: so that the reach of a change is a
    share of the length.
    """
    return Structure(
        tuple(place / length for place in structure.places),
        structure.knuckles,
        tuple(
            None if r is None else replace(r, blend_aft=r.blend_aft / length, blend_fore=r.blend_fore / length)
            for r in structure.rulers
        ),
        structure.start,
        structure.end,
    )


def smallest(matrix: Array, rows: Array, wanted: Array, free: np.ndarray) -> Array:
    """The change of least energy with rows @ change = wanted, as nearly as the weights that are `free` allow."""
    a = matrix[np.ix_(free, free)]
    chol = np.linalg.cholesky(a + 1e-12 * np.trace(a) * np.eye(len(a)))
    whitened = np.linalg.solve(chol, rows[:, free].T).T
    u, s, vt = np.linalg.svd(whitened, full_matrices=False)
    useful = s > 1e-6 * s[0]
    y = vt[useful].T @ ((u[:, useful].T @ wanted) / s[useful])
    change = np.zeros(len(matrix))
    change[free] = np.linalg.solve(chol.T, y)
    return change


def least_change(structure: Structure, rows: Array, wanted: Array, free: np.ndarray) -> Array:
    """Change of each weight's value so that rows @ change = wanted; weights not `free` stay.

    Parameters
    ----------
    structure:
        Batten with places scaled to [0, 1].
    rows:
        One row per measure (k, n); `wanted` (k,) in the same unit as values.

    Raises
    ------
    RefusedEdit
        When locks leave no weight to move, when two demands conflict, or when
        some weight would move more than twice what was asked.
    """
    if not free.any():
        raise RefusedEdit("Everything that could move is locked.")
    change = smallest(energy(structure), rows, wanted, free)
    asked = float(np.max(np.abs(wanted)))
    if float(np.max(np.abs(rows @ change - wanted))) > max(2e-5, 1e-3 * asked):
        raise RefusedEdit("These demands conflict: nothing that may still move can meet them all.")
    if float(np.max(np.abs(change))) > OVERREACH * asked + 1e-9:
        raise RefusedEdit(
            f"That would move a weight {np.max(np.abs(change)) * 1000:.0f} mm for the {asked * 1000:.0f} mm asked. "
            "Move a weight there by hand, or unlock what is near."
        )
    return change
