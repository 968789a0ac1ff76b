"""Figures of a ride pumped, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition
from kelvor.core.base.units import Quantity as Q
from kelvor.core.tank.lifting.pumping import HELD, METHOD

# fmt: off
PUMP_WATTS = FigureDefinition("pump_watts", "Watts to pump it on", Q.POWER, METHOD, better=Better.LESS,
    short="pumps on at {}",
    school="A large, slender foil and little weight pump easily; some carry a heavier board for the way to the first "
            "bump.",
    band_share=0.18)
PUMP_TIME = FigureDefinition("pump_time", "Pumped on for", Q.TIME, HELD, better=Better.MORE, more="longer",
    less="shorter", short="you pump it {}")
# fmt: on
