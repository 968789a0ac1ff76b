"""A prism as a board's bottom, asked through the planer that a board is asked through; and Savitsky's laws for it."""

from types import SimpleNamespace
from typing import NamedTuple

import numpy as np

from kelvor.core.base.fluids import GRAVITY, Water
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.laws.friction import ittc57
from kelvor.core.tank.planing.bottom import planing_bottom
from kelvor.core.tank.planing.states import Planer

SEA = Water()
OPENPLANING = (
    (100, 0.75, 0, 0.95, 10, 3.70, 2.29, 118.5),
    (90, 0.60, 3, 0.60, 20, 2.69, 1.61, 139.0),
    (95, 0.60, 0, 0.75, 15, 3.72, 1.98, 128.8),
)
"""Mass [kg], beam [m], deadrise [°], LCG [m], speed [kn]: trim [°], wetted length over beam, drag [N]."""


def prism(beam, deadrise=0.0, length=None, density=SEA.density, viscosity=SEA.viscosity):
    """A planer on a bottom of one beam [m] and deadrise [rad] all along."""
    length = 4.2 * beam if length is None else length
    x = np.linspace(0.0, length, 161)
    edge = np.full_like(x, beam / 2)
    y = np.stack([np.zeros_like(x), edge], axis=1)
    shape = SimpleNamespace(
        x=x, y=y, z=y * np.tan(deadrise), edge_y=edge, keel=np.zeros_like(x), columns=SimpleNamespace(edge=1),
        board=SimpleNamespace(layers=()),
    )  # fmt: skip
    measured = SimpleNamespace(shape=shape, board=SimpleNamespace(length=length, base=SimpleNamespace(slope=0.0)))
    return Planer(planing_bottom(measured, TABLE.release_angle, TABLE.wall_dries), density, viscosity, TABLE.trim_least)


class Balanced(NamedTuple):
    """A prism in balance: trim [rad], wetted length over beam, drag [N]."""

    trim: float
    wetted: float
    drag: float


def balanced(planer, weight, beam, deadrise, speed, lcg, vcg):
    """The trim at which weight, pressure and friction balance (Savitsky's eq. 35, thrust along the keel through the
    centre of mass); lcg and vcg ahead of the transom and above the keel [m].
    """
    trims = np.linspace(np.radians(0.7), np.radians(15.0), 2000)
    states = planer.at(weight, speed, trims)
    arm = lcg - planer.bottom.aft - states.centre
    moment = weight * np.cos(trims) * arm + states.rubbing * (vcg - beam / 4 * np.tan(deadrise))
    i = int(np.flatnonzero((moment[:-1] < 0) != (moment[1:] < 0))[-1])
    t = moment[i] / (moment[i] - moment[i + 1])
    return Balanced(*(float(a[i] + t * (a[i + 1] - a[i])) for a in (trims, states.wetted / beam, states.drag)))


def by_law(weight, beam, deadrise, speed, trim, density=SEA.density, viscosity=SEA.viscosity):
    """Wetted length over beam and drag [N] of a prism at a trim, straight from eqs. 15, 16 and 21 to 25."""
    cv, lift = speed / np.sqrt(GRAVITY * beam), weight / (density * speed**2 / 2 * beam**2)
    degrees, rise = np.degrees(trim), np.degrees(deadrise)

    def carries(wetted):
        flat = degrees**1.1 * (0.0120 * np.sqrt(wetted) + 0.0055 * wetted**2.5 / cv**2)
        return flat - 0.0065 * rise * flat**0.60

    grid = np.linspace(1e-3, 4.5, 200_001)
    wetted = float(np.interp(lift, carries(grid), grid))
    moving = 0.0120 * np.sqrt(wetted) * degrees**1.1
    moving -= 0.0065 * rise * moving**0.60
    along = speed * np.sqrt(max(1 - moving / (wetted * np.cos(trim)), 0.05))
    rubbing = density * along**2 * wetted * beam**2 * ittc57(along * wetted * beam / viscosity) / 2 / np.cos(deadrise)
    return wetted, weight * np.tan(trim) + rubbing / np.cos(trim)
