"""Figures of a ride afloat, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.tank.floating.righting import METHOD as RIGHTING
from kelvor.core.tank.lifting.foils import DAMPING

# fmt: off
REACH = Method("half-width at the shoulder and the deck's height above the water there",
    "body: Winter 2009 (from memory)", "lying flat, at rest")
IMMERSED = Method("profile of what is under still water, and the fins", "hydrostatics", "level trim, no way on")
RIGHTING_PEAK = FigureDefinition("righting_peak", "Peak righting moment", Q.MOMENT, RIGHTING, better=Better.MORE,
    head="rights {}", head_below="tips {}", short="rights {} at most", short_below="tips {} at most",
    school="Flat and wide stands; round and narrow glides. A stepped hull tries for both.", band_share=0.12,
    band_least=3)
RIGHTING_ANGLE = FigureDefinition("righting_angle", "Heel of the peak", Q.ANGLE, RIGHTING, better=Better.MORE,
    more="later", less="earlier", band_least=2 * DEGREE)
WATERPLANE = FigureDefinition("waterplane_area", "Waterplane at rest", Q.AREA, IMMERSED, band_share=0.03)
METACENTRE = FigureDefinition("metacentric_radius", "BM, from the waterplane", Q.LENGTH, IMMERSED, better=Better.MORE,
    more="steadier", less="tippier", band_share=0.05)
RIGHTING_BACK = FigureDefinition("righting_back", "Righting, one foot back", Q.MOMENT, RIGHTING, better=Better.MORE,
    short="{} stepped back", band_share=0.12, band_least=3)
SECOND_STABILITY = FigureDefinition("second_stability", "Righting moment at 15°", Q.MOMENT, RIGHTING,
    better=Better.MORE, short="{} at 15° of heel", band_share=0.12, band_least=3)
FREEBOARD = FigureDefinition("freeboard", "Deck above the water, rider aboard", Q.LENGTH, RIGHTING, better=Better.MORE,
    more="higher", less="lower", short="deck {} up", short_below="deck {} down", band_least=0.02)
FOOTWELL_WATER = FigureDefinition("footwell_water", "Water in full foot wells", Q.MASS, RIGHTING, better=Better.LESS,
    band_share=0.05)
FOOT_WIDTH = FigureDefinition("foot_width", "Deck to stand on, middle", Q.LENGTH, better=Better.MORE, more="wider",
    less="narrower", band_least=0.002)
ARM_REACH = FigureDefinition("arm_reach", "Reach over rail at the shoulder", Q.LENGTH, REACH, better=Better.LESS,
    more="further", less="shorter", short="arms reach {} over", band_least=0.02)
ROLL_DAMPING_0 = FigureDefinition("roll_damping_0", "Foil's roll damping at rest", Q.DAMPING, DAMPING,
    better=Better.MORE, more="steadier", less="livelier", band_share=0.35)
ROLL_DAMPING_15 = FigureDefinition("roll_damping_15", "Foil's roll damping, 1.5 kn", Q.DAMPING, DAMPING,
    better=Better.MORE, more="steadier", less="livelier", short="foil damps {} at 1.5 kn", band_share=0.35)
ROLL_DAMPING_30 = FigureDefinition("roll_damping_30", "Foil's roll damping, 3 kn", Q.DAMPING, DAMPING,
    better=Better.MORE, more="steadier", less="livelier", band_share=0.35)
LIST_ANGLE = FigureDefinition("list_angle", "List with the rig", Q.ANGLE, RIGHTING, better=Better.LESS,
    short="lists {} with the rig", band_share=0.2, band_least=0.3 * DEGREE)
TAIL_SINK = FigureDefinition("tail_sink", "Tail under water, stepped back", Q.LENGTH, RIGHTING, more="deeper",
    less="higher", head="tail {} under", head_below="tail {} above",
    school="A wide tail stays up and holds; a pulled-in one sinks under the foot and pivots.", below="above",
    band_least=0.03)
WATERLINE_LEFT = FigureDefinition("waterline_left", "Waterline left, stepped back", Q.LENGTH, RIGHTING, more="longer",
    less="shorter", short="{} of waterline left", band_least=0.05)
LATERAL_AREA = FigureDefinition("lateral_area", "Side area in the water", Q.AREA, IMMERSED,
    short="{} of side in the water", band_share=0.04)
# fmt: on
