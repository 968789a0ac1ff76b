"""Figures of a ride turning, sliding and landing, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.tank.floating.righting import METHOD as RIGHTING
from kelvor.core.tank.laws.entry import CHOP
from kelvor.core.tank.laws.entry import METHOD as ENTRY
from kelvor.core.tank.rail.pivot import METHOD as PIVOT
from kelvor.core.tank.rail.rail import METHOD as RAIL

# fmt: off
BEAM = Method("sag of the three-point bending test, three times its load",
    "see the Build view: thin shell as a Timoshenko beam", "small deflections")
RAIL_RADIUS_30 = FigureDefinition("rail_radius_30", "Radius, heeled 30°", Q.HEIGHT, RAIL, more="longer", less="tighter",
    head="{} radius", ranks=True, ratio="radius",
    school="Staged rocker kicks and runs flat between; blended rocker turns evenly.", band_share=0.15)
RAIL_RADIUS_45 = FigureDefinition("rail_radius_45", "Radius, heeled 45°", Q.HEIGHT, RAIL, more="longer", less="tighter",
    head="{} radius", ranks=True, ratio="radius",
    school="Staged rocker kicks and runs flat between; blended rocker turns evenly.", band_share=0.15)
RAIL_CROSSOVER = FigureDefinition("rail_crossover", "Rail line turns in from", Q.ANGLE, RAIL, more="later",
    less="earlier", band_least=3 * DEGREE)
RAIL_ENGAGED_30 = FigureDefinition("rail_engaged_30", "Engaged rail, heeled 30°", Q.LENGTH, RAIL, more="longer",
    less="shorter", short="{} of rail in the water", band_least=0.03)
RAIL_ENGAGED_45 = FigureDefinition("rail_engaged_45", "Engaged rail, heeled 45°", Q.LENGTH, RAIL, more="longer",
    less="shorter", head="{} of rail", short="{} of rail at 45°", school="A long straight edge points; curve turns.",
    band_least=0.03)
RAIL_BREAK = FigureDefinition("rail_break", "Break in the rail", Q.DEPTH, RAIL, better=Better.LESS, band_least=0.001)
RAIL_FLAT_30 = FigureDefinition("rail_flat_30", "Rail on its flat, heeled 30°", Q.LENGTH, RAIL, more="longer",
    less="shorter", head="{} on the rail",
    school="A long keel flat with a short rail flat is fast flat and lively on edge.", band_least=0.02)
TURN_MOMENT = FigureDefinition("turn_moment", "Turning moment", Q.MOMENT, PIVOT, more="holds more", less="turns easier",
    head="{} to turn", ratio="to turn", ranks=True,
    school="Hips and wingers give the back foot a pivot; a parallel outline holds a line.", rests=("strap", "fin"),
    band_share=0.3)
TURN_LETS_GO = FigureDefinition("turn_lets_go", "Tail lets go at", Q.FORCE, PIVOT, more="holds more",
    less="lets go earlier", head="lets go at {}", short="lets go at {}", ratio="holds", ranks=True,
    school="Loose and still tracking: less to turn it, as much to break it loose.", rests=("strap", "fin"),
    band_share=0.3)
SLIDE_FORCE = FigureDefinition("slide_force", "Slides at a push of", Q.FORCE, PIVOT, more="holds more",
    less="slides easier", head="slides at {}", short="slides at {}", ratio="holds", ranks=True,
    school="Fins small enough to slide, or deep enough to be pushed.", rests=("strap", "fin"), band_share=0.3)
PIVOT_PLACE = FigureDefinition("pivot_place", "Pivot ahead of the tail", Q.LENGTH, PIVOT, more="further forward",
    less="further aft", short="pivots {} from the tail", band_least=0.05)
BURY_FORCE = FigureDefinition("bury_force", "Force to bury the rail", Q.FORCE, RIGHTING, short="{} buries the rail",
    band_share=0.2, band_least=10.0)
EDGE_RADIUS_FEET = FigureDefinition("edge_radius_feet", "Edge radius at the feet", Q.DEPTH, more="softer",
    less="crisper", short="edge {} at the feet", band_least=0.0002)
FIN_DEPTH = FigureDefinition("fin_depth", "Deepest fin", Q.DEPTH, more="deeper", less="shallower", band_least=0.0001)
FRONT_FIN_AREA = FigureDefinition("front_fin_area", "Fin area without the rear fins", Q.AREA,
    short="{} of fin, rears out", band_least=0.0002)
SLAM = FigureDefinition("slam", "First touch under feet", Q.PRESSURE, ENTRY, better=Better.LESS, more="harder",
    less="softer", head="strikes {}", ratio="strikes", ranks=True,
    school="More rocker is said to land softer. What meets the water under the feet decides: V, a spine; then legs.",
    rests=("strap",), band_share=0.5)
V_UNDER_FEET = FigureDefinition("v_under_feet", "V under the feet", Q.ANGLE, more="more V", less="less V",
    band_least=0.1 * DEGREE)
FLAT_UNDER_FEET = FigureDefinition("flat_under_feet", "Flat between and under the feet", Q.LENGTH, more="longer",
    less="shorter", short="{} flat under the feet", short_below="{} flat above the feet", rests=("strap",),
    band_least=0.004)
CHOP_LOAD = FigureDefinition("chop_load", "Chop load, forward bottom", Q.RATIO, CHOP, better=Better.LESS, more="harder",
    less="softer", ranks=True, band_share=0.4)
TIP_ANGLE = FigureDefinition("tip_angle", "Angle of the tip that kicks", Q.ANGLE, more="steeper", less="flatter",
    head="tip {}", head_below="tip {} down",
    school="Staged rocker kicks hard; blended rocker rises evenly and keeps its speed.", band_least=0.3 * DEGREE)
FLEX_TRAVEL = FigureDefinition("flex_travel", "Flex in a landing of 1500 N", Q.DEPTH, BEAM, more="springier",
    less="stiffer", band_share=1 / 6)
# fmt: on
