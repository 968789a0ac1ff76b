"""Wave drag of a hull by its sources, spread over its true breadth or drawn together on its centre plane.

Michell (1898), Phil. Mag. 45, 106, puts the sources on the centre plane; in the form of Tuck, Scullen and Lazauskas
(2002), 24th Symposium on Naval Hydrodynamics, with l = cosh u

    R = 4 ρ g² / (π V²) ∫₀^∞ |∬ y_x e^{k l² z + i k l x} dx dz|² l² du,   k = g / V².

Hogner (1932), Proc. Roy. Soc. A 136 (from memory), leaves them where the hull is: the half-breadth y becomes
sin(κ y)/κ with κ = k l √(l² − 1), which is y as the breadth vanishes. Waves of a wide hull's two sides weaken one
another. Over depth the exponential is integrated exactly, along the hull what it multiplies runs straight between points.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from kelvor.core.fluids import GRAVITY
from kelvor.core.shape.battens import Array

FROUDE_RANGE = (0.15, 0.60)
"""Thin-ship waves are used between these Froude numbers on waterline length."""
BAND = 0.30
"""Share by which the wave drag may be off (general experience with thin-ship theory), beside how far the two part."""
STEEPEST = 3.6
"""Largest u looked at: waves as steep carry nothing of a hull."""


class Waves(NamedTuple):
    """Wave drag [N] with the sources over the true breadth, and drawn together on the centre plane."""

    broad: float
    thin: float

    @property
    def band(self) -> float:
        """Half-width of the band [N]: the theory's own, and where the two part."""
        return float(np.hypot(BAND * self.broad, self.broad - self.thin))


def wave_drag(x: Array, z: Array, half: Array, speed: float, density: float, points: int = 96) -> Waves:
    """Wave drag of a hull moving at `speed` [m/s] in deep water.

    Parameters
    ----------
    x:
        Places along the hull (n,), increasing [m].
    z:
        Heights (n, m) or (m,) for all, increasing to 0 at the water [m].
    half:
        Half-breadths (n, m) [m].
    """
    k = GRAVITY / speed**2
    length = float(x[-1] - x[0])
    # waves steeper than the panels can tell are left out; their share falls with the sixth power of l
    reach = np.arccosh(max(np.pi * 0.75 * len(x) / (k * length), 3.0))
    u = np.linspace(0.0, min(reach, STEEPEST), points)
    wave = np.cosh(u)
    decay, across = k * wave**2, k * wave * np.sinh(u)
    # single precision is a thousand times finer than the panels, and several times as fast
    heights = np.broadcast_to(z, half.shape).astype(np.float32)
    breadths = half.astype(np.float32)
    a, kappa = decay.astype(np.float32), np.maximum(across, 1e-4).astype(np.float32)
    e = np.exp(heights[:, :, None] * a)  # (n, m, p)
    # ∫ e^{az} and ∫ s e^{az} over each layer, s from 0 below to 1 above; by their series where the layer is thin
    layer = np.diff(heights, axis=1)[:, :, None]
    steep, top = a * layer, e[:, 1:]
    thick = steep > 0.1
    whole = np.where(thick, (top - e[:, :-1]) / a, layer * top * (1 - steep / 2 + steep**2 / 6))
    rising = np.where(thick, (top - whole / np.maximum(layer, np.float32(1e-9))) / a, layer * top * (0.5 - steep / 6 + steep**2 / 24))
    weight = np.zeros_like(e)
    weight[:, :-1] = whole - rising
    weight[:, 1:] += rising
    spread = np.sin(breadths[:, :, None] * kappa) / kappa
    phase = np.exp(1j * k * np.outer(x - x[0], wave))
    along = (phase[1:] - phase[:-1]) / (1j * k * wave)[None, :] / np.diff(x)[:, None]
    scale = 4 * density * GRAVITY**2 / (np.pi * speed**2)

    def drag(breadth: NDArray[np.float32]) -> float:
        sections = np.einsum("nmp,nmp->np", np.broadcast_to(breadth, weight.shape), weight).astype(float)
        amplitude = np.abs(np.sum(np.diff(sections, axis=0) * along, axis=0)) ** 2 * wave**2
        return float(scale * np.trapezoid(amplitude, u))

    return Waves(drag(spread), drag(breadths[:, :, None]))
