"""A board that floats along: its immersed form, and the resistance of that form.

Friction by the ITTC 1957 line on the wetted surface and the waterline's length,
waves by the sources of the immersed half-breadths, the base drag of an immersed
tail after Hoerner 1965, Fluid-Dynamic Drag, ch. 3 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from kelvor.core import friction
from kelvor.core.displacement import waves
from kelvor.core.fluids import GRAVITY
from kelvor.core.shape.battens import Array
from kelvor.core.shape.sections import Sections

STATIONS, WAVES = 61, 36
LEVELS = np.linspace(0.0, 1.0, 8) ** 2
"""Levels at each station, as shares of its own draught from its keel up: close together where a flat bottom ends."""


@dataclass(frozen=True, slots=True, eq=False)
class ImmersedForm:
    """What of a board is under a still water plane.

    Attributes
    ----------
    x, z, half:
        Places along the waterline (n,), levels from each one's keel to the water and half-breadths there (n, m) [m].
    side:
        Height of what is under water at each place, seen from the side (n,) [m].
    volume, wetted, tail:
        Immersed volume [m³], wetted surface and the tail's immersed end [m²].
    beam, draught:
        Of the waterline, and of the deepest point [m].
    covered:
        Share of the waterline's length on which the deck is under water.
    """

    x: Array
    z: Array
    half: Array
    side: Array
    volume: float
    wetted: float
    tail: float
    beam: float
    draught: float
    covered: float

    @property
    def lateral(self) -> float:
        """Area of what is under water, seen from the side [m²]."""
        return float(np.trapezoid(self.side, self.x))

    @property
    def length(self) -> float:
        """Of the waterline [m]."""
        return float(self.x[-1] - self.x[0])


def immersed_form(shape: Sections, depth: float, pitch: float) -> ImmersedForm | None:
    """The form under the plane z = depth + pitch·x of the board's frame; None where it is dry."""
    v = shape.z - (depth + pitch * shape.x)[:, None]
    y = shape.y
    low = v.min(axis=1)
    wet = low < -1e-6
    if wet.sum() < 4:
        return None
    first, last = int(np.argmax(wet)), len(wet) - 1 - int(np.argmax(wet[::-1]))
    kept = np.arange(first, last + 1)
    y, v, x, low = y[kept], v[kept], shape.x[kept], np.minimum(low[kept], 0.0)
    deepest = float(-low.min())
    y1, y2, v1, v2 = y[:, :-1], y[:, 1:], v[:, :-1], v[:, 1:]
    drop = np.where(np.abs(v2 - v1) < 1e-12, 1e-12, v2 - v1)
    half = np.zeros((len(x), len(LEVELS)))
    for j, share in enumerate(LEVELS):
        t = ((1 - share) * low[:, None] - v1) / drop
        crosses = (t >= 0) & (t <= 1)
        half[:, j] = np.max(np.where(crosses, y1 + t * (y2 - y1), 0.0), axis=1)
    share = np.clip(-v1 / drop, 0.0, 1.0)  # of each edge, from its first point to the water
    under = np.where(v1 <= 0, np.where(v2 <= 0, 1.0, share), np.where(v2 <= 0, 1 - share, 0.0))
    girth = 2 * np.sum(np.hypot(y2 - y1, v2 - v1) * under, axis=1)
    area: Array = np.asarray(-low * 2 * np.trapezoid(half, LEVELS, axis=1))
    beam = 2 * float(half[:, -1].max()) if half[:, -1].any() else 2 * float(half.max())
    grid = np.linspace(x[0], x[-1], STATIONS)
    even = np.stack([np.interp(grid, x, half[:, j]) for j in range(len(LEVELS))], axis=1)
    levels = np.interp(grid, x, low)[:, None] * (1 - LEVELS)
    side = np.interp(grid, x, np.minimum(v.max(axis=1), 0.0) - low)
    dry_deck = half[:, -1] > 1e-4
    return ImmersedForm(
        grid, levels, even, side, float(np.trapezoid(area, x)), float(np.trapezoid(girth, x)), float(area[0]) if first == 0 else 0.0,
        beam, deepest, float(1 - np.trapezoid(dry_deck.astype(float), x) / max(x[-1] - x[0], 1e-9)),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Resistance:
    """Drag [N] of a floating form by its parts, and the half-widths of their bands.

    `parting` is what the two ways of placing a hull's sources differ by.
    """

    friction: float
    waves: float
    tail: float
    parting: float
    band: float

    @property
    def total(self) -> float:
        """All parts [N]."""
        return self.friction + self.waves + self.tail


def resistance(form: ImmersedForm, speed: float, density: float, viscosity: float) -> Resistance:
    """Drag of the form at `speed` [m/s]; above Froude 0.6 the wave drag stays at its value there and the band widens."""
    q = density * speed**2 / 2
    reynolds = speed * form.length / viscosity
    # the form drag of slender hulls after Hoerner 1965: 1 + 1.5 (d/l)^1.5
    around = 1 + 1.5 * (2 * form.draught / form.length) ** 1.5
    rubbing = q * form.wetted * float(friction.ittc57(reynolds)) * around
    froude = speed / float(np.sqrt(GRAVITY * form.length))
    top = waves.FROUDE_RANGE[1]
    making = waves.Waves(0.0, 0.0)
    if froude >= waves.FROUDE_RANGE[0]:
        counted = min(speed, top * float(np.sqrt(GRAVITY * form.length)))
        making = waves.wave_drag(form.x, form.z, form.half, counted, density, WAVES)
    # Hoerner's base drag, 0.029 / √(friction on the base area); a faster tail runs dry and its waves are counted
    base = 0.0
    if form.tail > 1e-5 and froude < top:
        base = q * form.tail * min(0.029 / float(np.sqrt(rubbing / (q * form.tail))), 0.25)
    beyond = 0.2 * making.broad if froude > top else 0.0
    return Resistance(rubbing, making.broad, base, abs(making.broad - making.thin),
                      float(friction.band(reynolds)) * rubbing + making.band + beyond + 0.5 * base)  # fmt: skip
