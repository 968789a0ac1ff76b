"""Wave drag of a hull by its sources, spread over its true breadth or drawn together on its centre plane.

Michell (1898), Phil. Mag. 45, 106, puts the sources on the centre plane; in the form of Tuck, Scullen and Lazauskas
(2002), 24th Symposium on Naval Hydrodynamics, with l = cosh u

    R = 4 ρ g² / (π V²) ∫₀^∞ |∬ y_x e^{k l² z + i k l x} dx dz|² l² du,   k = g / V².

Hogner (1932), Proc. Roy. Soc. A 136 (from memory), leaves them where the hull is: the half-breadth y becomes
sin(κ y)/κ with κ = k l √(l² − 1), which is y as the breadth vanishes. Waves of a wide hull's two sides weaken one
another. Over depth the exponential is integrated exactly, along the hull what it multiplies runs straight between
points.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY

FROUDE_RANGE = (0.15, 0.60)
"""Thin-ship waves are used between these Froude numbers on waterline length."""
BAND = 0.30
"""Share by which the wave drag may be off (general experience with thin-ship theory), beside how far the two part."""
STEEPEST = 3.6
"""Largest u looked at: waves as steep carry nothing of a hull."""


class Waves(NamedTuple):
    """Wave drag [N] over speeds with the sources over the true breadth, and drawn together on the centre plane."""

    broad: Array
    thin: Array

    @property
    def band(self) -> Array:
        """Half-width of the band [N]: the theory's own, and where the two part."""
        half: Array = np.hypot(BAND * self.broad, self.broad - self.thin)
        return half


def wave_drag(x: Array, z: Array, half: Array, speed: Array | float, density: float, points: int = 96) -> Waves:
    """Wave drag of a hull moving at speeds [m/s] of any shape in deep water.

    Parameters
    ----------
    x:
        Places along the hull (n,), increasing [m].
    z:
        Heights (n, m) or (m,) for all, increasing to 0 at the water [m].
    half:
        Half-breadths (n, m) [m].
    """
    v = np.asarray(speed, float).ravel()
    k = GRAVITY / v**2
    # waves steeper than the panels can tell are left out; their share falls with the sixth power of l
    reach = np.arccosh(np.maximum(np.pi * 0.75 * len(x) / (k * float(x[-1] - x[0])), 3.0))
    u = np.linspace(0.0, np.minimum(reach, STEEPEST), points)  # (points, speeds), each wave by itself from here on
    wave = np.cosh(u).ravel()
    number = (k * wave.reshape(u.shape)).ravel()
    decay, across = number * wave, np.maximum(number * np.sinh(u).ravel(), 1e-4)
    heights = np.broadcast_to(z, half.shape)
    e = heights[:, :, None] * decay  # (n, m, p)
    np.exp(e, out=e)
    # ∫ b e^{az} dz by parts, b straight within each layer: [b e^{az}]/a - Σ (slope of b) [e^{az}]/a²
    fall = e[:, 1:] - e[:, :-1]
    fall /= np.maximum(heights[:, 1:] - heights[:, :-1], 1e-9)[:, :, None]
    # sines in single precision are a thousand times finer than the panels, and many times as fast
    spread = half.astype(np.float32)[:, :, None] * across.astype(np.float32)
    np.sin(spread, out=spread)
    grows = (spread[:, 1:] - spread[:, :-1]).astype(float)
    broad = spread[:, -1] - spread[:, 0] * e[:, 0] - np.einsum("nmp,nmp->np", grows, fall) / decay
    thin = half[:, -1:] - half[:, :1] * e[:, 0] - np.matmul((half[:, 1:] - half[:, :-1])[:, None], fall)[:, 0] / decay
    sections = np.stack([broad / (decay * across), thin / decay])
    # ∫ e^{iklx} dx over each panel: its value in the middle by how far the panel reaches around it
    around = (x[1:] - x[:-1])[:, None] / 2 * number
    middle = (((x[1:] + x[:-1]) / 2 - x[0])[:, None] * number).astype(np.float32)
    whole = np.sin(around.astype(np.float32)) / around
    along = np.stack([np.cos(middle) * whole, np.sin(middle) * whole])
    amplitude = np.einsum("snp,cnp->scp", sections[:, 1:] - sections[:, :-1], along)
    square = (np.sum(amplitude**2, axis=1) * wave**2).reshape(2, *u.shape)
    drag = 4 * density * GRAVITY**2 / (np.pi * v**2) * np.trapezoid(square, u[None], axis=1)
    return Waves(*drag.reshape(2, *np.shape(speed)))
