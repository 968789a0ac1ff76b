"""Figures of a ride in flight, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.tank.lifting.cavitation import METHOD as CAVITATION
from kelvor.core.tank.lifting.foils import METHOD as FOIL
from kelvor.core.tank.planing.states import METHOD as PLANING

# fmt: off
ROOM = Method("pitch the tail leaves while the hull runs, less the pitch the foil asks for",
    "geometry; the foil's lift slope (Helmbold 1942)", "flat water, at the trim of a hull about to lift off")
FELT = Method("true wind at the rider's chest and the board's own speed, added as vectors",
    "log law of the wind (Charnock 1955); vector sum", "on the fast course; without wind the board's speed alone")
AIR = Method("pressure drag of the thickness form and friction of the skin in the apparent wind",
    "Hoerner 1965 (from memory)", "board level and clean; rider and gear are not in it")
LIFT_OFF_SPEED = FigureDefinition("lift_off_speed", "Foil carries all at", Q.SPEED, FOIL, better=Better.LESS,
    more="later", less="earlier", short="foil carries all at {}", rests=("mast",), band_share=0.06)
LIFT_OFF_PITCH = FigureDefinition("lift_off_pitch", "Pitch the foil asks for", Q.ANGLE, FOIL, better=Better.LESS,
    band_least=1.5 * DEGREE)
PITCH_TO_SPARE = FigureDefinition("pitch_to_spare", "Pitch to spare, tail", Q.ANGLE, ROOM, better=Better.MORE,
    more="more room", less="less room", short="{} of pitch to spare", short_below="{} of pitch short",
    band_least=1.8 * DEGREE)
STALL_MARGIN_FOIL = FigureDefinition("stall_margin_foil", "Foil lift left before stall", Q.SHARE, FOIL,
    better=Better.MORE, rests=("mast",), band_least=0.08)
TOUCH_DRAG = FigureDefinition("touch_drag", "Drag of a touch-down", Q.FORCE, PLANING, better=Better.LESS,
    short="{} of drag touching down", band_share=0.25)
TOUCH_MOMENT = FigureDefinition("touch_moment", "Moment of a touch-down", Q.MOMENT, PLANING, better=Better.LESS)
FLY_DRAG = FigureDefinition("fly_drag", "Drag, flying", Q.FORCE, FOIL, better=Better.LESS, rests=("mast",),
    band_share=0.18)
APPARENT_WIND = FigureDefinition("apparent_wind", "Apparent wind, flying", Q.SPEED, FELT, more="more", less="less",
    band_share=0.08)
APPARENT_ANGLE = FigureDefinition("apparent_wind_angle", "Apparent wind, off the bow", Q.ANGLE, FELT,
    more="further aft", less="further ahead", band_least=3 * DEGREE)
BOARD_AIR_DRAG = FigureDefinition("board_air_drag", "Air drag of the flying board", Q.FORCE, AIR, better=Better.LESS,
    short="{} of air on the board", band_share=0.5)
FOIL_CAVITATION = FigureDefinition("foil_cavitation", "Foil cavitates (boils) from", Q.SPEED, CAVITATION,
    better=Better.MORE, more="later", less="earlier", band_share=0.15)
# fmt: on
