"""Wave drag of a thin hull, Michell's integral.

Michell (1898), Phil. Mag. 45, 106; in the form of Tuck, Scullen and Lazauskas
(2002), 24th Symposium on Naval Hydrodynamics. With l = cosh u

    R = 4 ρ g² / (π V²) ∫₀^∞ |∬ y_x e^{k l² z + i k l x} dx dz|² l² du,   k = g / V².

Cells are integrated exactly: half-breadths run straight between the points, so
y_x is constant along a cell and linear over its depth.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.fluids import GRAVITY
from kelvor.core.shape.battens import Array

FROUDE_RANGE = (0.15, 0.60)
"""Michell is used between these Froude numbers on waterline length."""
BAND = 0.30
"""Share by which the wave drag may be off (general experience with thin-ship theory on beamy hulls)."""
THIN = 0.2
"""Beam over length above which a hull is hardly thin any more."""


def wave_drag(x: Array, z: Array, half: Array, speed: float, density: float, points: int = 96) -> float:
    """Wave drag [N] of a hull moving at `speed` [m/s] in deep water.

    Parameters
    ----------
    x, z:
        Places along the hull (n,), increasing, and heights (m,), increasing to 0 at the water [m].
    half:
        Half-breadths (n, m) [m].
    """
    k = GRAVITY / speed**2
    length = float(x[-1] - x[0])
    # waves steeper than the panels can tell are left out; their share falls with the sixth power of l
    reach = np.arccosh(max(np.pi * 0.75 * len(x) / (k * length), 3.0))
    u = np.linspace(0.0, min(reach, 3.6), points)
    wave = np.cosh(u)
    decay = k * wave**2
    zs, dz = z[:, None], np.diff(z)[:, None]
    e = np.exp(decay[None, :] * zs)  # (m, p)
    # ∫ e^{az} and ∫ s e^{az} over each layer, s from 0 below to 1 above
    a = np.maximum(decay[None, :] * dz, 1e-9)
    whole = (e[1:] - e[:-1]) / decay[None, :]
    rising = np.where(a > 1e-4, (e[1:] - whole / dz) / decay[None, :], dz * e[1:] / 2)
    weight = np.zeros((len(z), points))
    weight[:-1] += whole - rising
    weight[1:] += rising
    steps = np.diff(half, axis=0) @ weight / np.diff(x)[:, None]  # (n-1, p)
    phase = np.exp(1j * k * np.outer(x - x[0], wave))
    along = (phase[1:] - phase[:-1]) / (1j * k * wave)[None, :]
    amplitude = np.abs(np.sum(steps * along, axis=0)) ** 2 * wave**2
    total = float(np.sum((amplitude[1:] + amplitude[:-1]) / 2 * np.diff(u)))
    return 4 * density * GRAVITY**2 / (np.pi * speed**2) * total
