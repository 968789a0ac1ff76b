"""How a kite board is held on its edge: the heel and the height of the lines with most force to spare.

The force falls off within degrees to either side of the best heel, and the best heel moves with the height of the
lines, so that no net of stances is fine enough: a few, others about the best of them, and between by parabolas.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kelvor.core.base.arrays import Array

EDGES = np.linspace(0.0, 1.0, 7)
"""Shares of the greatest heel that are looked at first."""
ABOUT, CLOSE = np.linspace(-1.0, 1.0, 7), np.linspace(-0.3, 0.3, 7)
"""Steps about the best of these at which it is looked for again, and once more."""
SIDES = np.array([-1.0, 0.0, 1.0])
"""Places of three values, and the heights of the lines between the lowest and the highest."""


def on_edge(
    spare: Callable[[Array, Array], Array], lines: tuple[float, float], most: Array, *, roughly: bool = False
) -> tuple[Array, Array]:
    """Height of the lines [rad] and heel [rad] with most force to spare.

    Parameters
    ----------
    spare:
        Force to spare [N] at heights (..., h, 1) and heels (..., h, k), k of them at each of h heights in each
        condition (...).
    lines:
        Lowest and highest lines [rad].
    most:
        The greatest heel in each condition (...) [rad].
    roughly:
        The best of a few is enough.
    """
    middle, apart, step = (lines[0] + lines[1]) / 2, (lines[1] - lines[0]) / 2, EDGES[1]
    heights = (middle + apart * SIDES)[:, None]

    def seen(edges: Array) -> Array:
        """The same at edges (..., 3 or 1, k) for each of the three heights."""
        return spare(heights, most[..., None, None] * edges)

    looked = seen(EDGES)
    if roughly:
        line, edge = np.divmod(np.argmax(looked.reshape(*most.shape, -1), axis=-1), len(EDGES))
        return heights[line, 0], most * EDGES[edge]
    edges = np.clip(EDGES[np.argmax(looked, axis=-1)], step, 1 - step)[..., None] + step * ABOUT
    at, height = _top(seen(edges), ABOUT)
    edge = edges[..., len(ABOUT) // 2] + step * at
    across = _top(height, SIDES)[0]
    cant = middle + apart * across[..., None]
    # the parabola through the three best edges
    edge = edge[..., 1] + across * (edge[..., 2] - edge[..., 0]) / 2 + across**2 * np.diff(edge, 2, axis=-1)[..., 0] / 2
    edge = np.clip(edge, step * CLOSE[-1], 1 - step * CLOSE[-1])[..., None]
    near = spare(cant[..., None], most[..., None, None] * (edge + step * CLOSE)[..., None, :])[..., 0, :]
    return cant[..., 0], most * (edge[..., 0] + step * _top(near, CLOSE)[0])


def _top(values: Array, at: Array) -> tuple[Array, Array]:
    """Where values (..., k) at evenly spaced places `at` (k,) are highest, between them by a parabola, and how high."""
    i = np.clip(np.argmax(values, axis=-1), 1, len(at) - 2)[..., None]
    low, middle, high = np.moveaxis(np.take_along_axis(values, i + SIDES.astype(int), axis=-1), -1, 0)
    tilt, bend = (high - low) / 2, low - 2 * middle + high
    share = np.where(bend < -1e-9, np.clip(-tilt / np.minimum(bend, -1e-9), -1.0, 1.0), np.sign(tilt))
    place: Array = at[i[..., 0]] + share * (at[1] - at[0])
    return place, middle + share * (tilt + share * bend / 2)
