"""The shortest step that meets linear demands."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen


@frozen(eq=False)
class Shortest:
    """The shortest x with G x ≥ h, and what each demand pulls with (m,); None where the demands conflict, with the
    shares (m,) by which they do.
    """

    x: Array | None
    pulls: Array


def shortest(matrix: Array, wanted: Array) -> Shortest:
    """Least distance programming: min |x| subject to G x ≥ h.

    Parameters
    ----------
    matrix, wanted:
        G (m, n) and h (m,).

    References
    ----------
    Lawson and Hanson 1974, Solving Least Squares Problems, ch. 23: the residual r of min |[Gᵀ; hᵀ] u − e|, u ≥ 0 with
    e = (0 … 0 1), gives x = −r/r_last; r = 0 where the demands conflict.
    """
    stacked = np.vstack([matrix.T, wanted[None, :]])
    target = np.zeros(len(stacked))
    target[-1] = 1.0
    u = nonnegative(stacked, target)
    r = stacked @ u - target
    if np.linalg.norm(r) < 1e-9 or abs(r[-1]) < 1e-12:
        total = float(u.sum())
        return Shortest(None, u / total if total > 0 else u)
    return Shortest(-r[:-1] / r[-1], -u / r[-1])


def nonnegative(matrix: Array, target: Array) -> Array:
    """Min |A u − b| with u ≥ 0, by active sets.

    References
    ----------
    Lawson and Hanson 1974, ch. 23, algorithm NNLS.
    """
    n = matrix.shape[1]
    u, passive = np.zeros(n), np.zeros(n, dtype=bool)
    small = 10 * np.finfo(float).eps * max(matrix.shape) * float(np.abs(matrix).max(initial=1.0))
    for _ in range(3 * n + 10):
        slope = matrix.T @ (target - matrix @ u)
        slope[passive] = -np.inf
        k = int(np.argmax(slope))
        if slope[k] <= small:
            break
        passive[k] = True
        while True:
            s = np.zeros(n)
            s[passive] = np.linalg.lstsq(matrix[:, passive], target, rcond=None)[0]
            if not (passive & (s <= 0)).any():
                u = s
                break
            out = passive & (s <= 0)
            share = np.min(u[out] / np.maximum(u[out] - s[out], 1e-300))
            u = u + share * (s - u)
            passive &= u > small
            u[~passive] = 0.0
            if not passive.any():
                break
    return u
