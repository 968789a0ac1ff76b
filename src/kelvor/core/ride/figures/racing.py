"""Figures of a ride sailed fast, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.balance import HELD
from kelvor.core.ride.balance import METHOD as SAILING
from kelvor.core.tank.lifting.cavitation import METHOD as CAVITATION
from kelvor.core.tank.lifting.fins import BAND, ENGAGING
from kelvor.core.tank.lifting.fins import METHOD as FINS

# fmt: off
RUN_SPEED = FigureDefinition("run_speed", "Speed on the fast course", Q.SPEED, SAILING, better=Better.MORE,
    more="faster", less="slower", head="{}", short="{} on a reach",
    school="Fins as small as possible, or short and thick: the best length depends on the speed.", band_share=0.05)
UPWIND_VMG = FigureDefinition("upwind_vmg", "Speed made good upwind", Q.SPEED, SAILING, better=Better.MORE,
    more="faster", less="slower", head="{} made good",
    school="Width and rail at the tail give leverage on the fin; a narrower tail points less and rolls over quicker.",
    band_share=0.06)
UPWIND_ANGLE = FigureDefinition("upwind_angle", "Angle to the wind, upwind", Q.ANGLE, SAILING, better=Better.LESS,
    more="lower", less="higher", head="{} to the wind", short="{} to the wind",
    school="A long straight edge points; curve turns.", band_least=3 * DEGREE)
DOWNWIND_VMG = FigureDefinition("downwind_vmg", "Speed made good downwind", Q.SPEED, SAILING, better=Better.MORE,
    more="faster", less="slower", head="{} made good",
    school="Nose rocker saves a dive and costs flat; volume forward does the same and costs swing.", band_share=0.06)
DOWNWIND_ANGLE = FigureDefinition("downwind_angle", "Angle to the wind, downwind", Q.ANGLE, SAILING, better=Better.MORE,
    more="deeper", less="shallower", short="{} off the wind", band_least=3 * DEGREE)
SIDE_FORCE = FigureDefinition("side_force", "Side force the rider holds", Q.FORCE, HELD, better=Better.MORE,
    short="{} held on edge", rests=("strap",), band_share=0.03)
RIG_UP = FigureDefinition("rig_up", "Rig's lift upward", Q.FORCE, SAILING, more="lighter", less="heavier",
    short="rig lifts {}", band_share=0.05)
SAIL_FORCE = FigureDefinition("sail_force", "Sail force held from the straps", Q.FORCE, HELD, better=Better.MORE,
    head="holds {}", short="straps hold {} of sail",
    school="Wide at the straps holds more sail; narrow rolls over quicker.", rests=("strap",), band_share=0.03)
NET_FORCE = FigureDefinition("net_force", "Force to spare, 10 to 20 kn", Q.FORCE, SAILING, better=Better.MORE,
    head="{} to spare", head_below="{} short",
    school="Small cut-outs keep the tail to live on; large ones leave less bottom wet once it runs.")
FIN_MARGIN = FigureDefinition("fin_margin", "Fin lift left, running", Q.SHARE, FINS, better=Better.MORE,
    short="{} of fin left", rests=("fin",))
FIN_MARGIN_PUSH = FigureDefinition("fin_margin_push", "Fin lift left, pushing", Q.SHARE, FINS, better=Better.MORE,
    short="{} of fin left, pushing", short_below="{} more than the fin holds, pushing", rests=("fin",))
FIN_LOAD = FigureDefinition("fin_load", "Fin lift coefficient", Q.RATIO, FINS, better=Better.LESS,
    short="fin lifts {} at most", rests=("fin",), band_share=BAND)
LEEWAY = FigureDefinition("leeway", "Leeway", Q.ANGLE, FINS, better=Better.LESS, rests=("fin",), band_share=BAND)
FIN_UP = FigureDefinition("fin_up", "Fin's lift upward", Q.FORCE, FINS, rests=("fin",), band_share=BAND)
FIN_BEST = FigureDefinition("fin_best", "Best fin, with margin", Q.LENGTH, FINS, more="longer", less="shorter",
    rests=("fin",), band_share=0.08)
FIN_CAVITATION = FigureDefinition("fin_cavitation", "Fin cavitates (boils) from", Q.SPEED, CAVITATION,
    better=Better.MORE, more="later", less="earlier", band_share=0.15)
FINS_ENGAGE = FigureDefinition("fins_engage", "Last fin engages at", Q.ANGLE, ENGAGING, more="later", less="earlier",
    short="last fin engages at {}", rests=("fin",), band_least=0.5 * DEGREE)
FIN_RELEASE_ANGLE = FigureDefinition("fin_release_angle", "Fins let go at", Q.ANGLE, FINS, more="later", less="earlier",
    short="fins let go at {}", rests=("fin",), band_share=BAND)
# fmt: on
