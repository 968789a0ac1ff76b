"""A board that floats along: its immersed form, and the resistance of that form.

Friction by the ITTC 1957 line on the wetted surface and the waterline's length,
waves by the sources of the immersed half-breadths, the base drag of an immersed
tail after Hoerner 1965, Fluid-Dynamic Drag, ch. 3 (from memory).
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.fluids import GRAVITY
from kelvor.core.base.smooth import step
from kelvor.core.base.values import frozen
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.tank.displacement import waves
from kelvor.core.tank.laws import friction

STATIONS, WAVES = 41, 28
TOGETHER = 8
"""Speeds whose waves are counted in one go: what they need stays near the processor."""
LEVELS = np.linspace(0.0, 1.0, 12) ** 2
"""Levels at each station, as shares of its own draught from its keel up: close together where a flat bottom ends."""


@frozen(eq=False)
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
    per, begins, widens = 1 / drop, v1 / drop, y2 - y1
    for j, share in enumerate(LEVELS):
        t = ((1 - share) * low)[:, None] * per - begins  # where along each edge the level crosses it
        half[:, j] = np.max((y1 + t * widens) * ((t >= 0) & (t <= 1)), axis=1)
    share = np.clip(-v1 / drop, 0.0, 1.0)  # of each edge, from its first point to the water
    under = np.where(v1 <= 0, np.where(v2 <= 0, 1.0, share), np.where(v2 <= 0, 1 - share, 0.0))
    girth = 2 * np.sum(np.hypot(y2 - y1, v2 - v1) * under, axis=1)
    area: Array = np.asarray(-low * 2 * np.trapezoid(half, LEVELS, axis=1))
    beam = 2 * float(half[:, -1].max()) if half[:, -1].any() else 2 * float(half.max())
    grid = np.linspace(x[0], x[-1], STATIONS)
    even = np.stack([np.interp(grid, x, half[:, j]) for j in range(len(LEVELS))], axis=1)
    levels = np.interp(grid, x, low)[:, None] * (1 - LEVELS)
    side = np.interp(grid, x, np.minimum(v.max(axis=1), 0.0) - low)
    return ImmersedForm(
        grid,
        levels,
        even,
        side,
        float(np.trapezoid(area, x)),
        float(np.trapezoid(girth, x)),
        float(area[0]) if first == 0 else 0.0,
        beam,
        deepest,
    )


@frozen(eq=False)
class Resistance:
    """Drag [N] of a floating form by its parts, and the half-widths of their bands, over speeds.

    `parting` is what the two ways of placing a hull's sources differ by.
    """

    friction: Array
    waves: Array
    tail: Array
    parting: Array
    band: Array

    @property
    def total(self) -> Array:
        """All parts [N]."""
        return self.friction + self.waves + self.tail


def resistance(form: ImmersedForm, speed: Array | float, density: float, viscosity: float, dries: float) -> Resistance:
    """Drag of the form at speeds [m/s] of any shape; above Froude 0.6 the wave drag stays at its value there and the
    band widens.

    An immersed tail begins to run dry at the Froude number `dries`, done where waves are no longer counted.
    """
    v = np.asarray(speed, float)
    q = density * v**2 / 2
    reynolds = v * form.length / viscosity
    # the form drag of slender hulls after Hoerner 1965: 1 + 1.5 (d/l)^1.5
    around = 1 + 1.5 * (2 * form.draught / form.length) ** 1.5
    rubbing = q * form.wetted * friction.ittc57(reynolds) * around
    wave = float(np.sqrt(GRAVITY * form.length))
    slowest, top = waves.FROUDE_RANGE
    making, thin = np.zeros(v.size), np.zeros(v.size)
    counted = np.minimum(v, top * wave).ravel()
    some = np.flatnonzero(v.ravel() / wave >= slowest)
    for part in (some[i : i + TOGETHER] for i in range(0, len(some), TOGETHER)):
        making[part], thin[part] = waves.wave_drag(form.x, form.z, form.half, counted[part], density, WAVES)
    made = waves.Waves(making.reshape(v.shape), thin.reshape(v.shape))
    # Hoerner's base drag, 0.029 / √(friction on the base area); a faster tail runs dry and its waves are counted
    base = np.zeros(v.shape)
    if form.tail > 1e-5:
        wet = 1 - step((v / wave - dries) / (top - dries))
        base = wet * q * form.tail * np.minimum(0.029 / np.sqrt(rubbing / (q * form.tail)), 0.25)
    beyond = np.where(v / wave > top, 0.2 * made.broad, 0.0)
    return Resistance(
        rubbing,
        made.broad,
        base,
        np.abs(made.broad - made.thin),
        friction.band(reynolds) * rubbing + made.band + beyond + 0.5 * base,
    )
