"""Figures of a ride under way, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.model import METHOD as HULL
from kelvor.core.ride.run_up import METHOD as DRIVE
from kelvor.core.ride.run_up import PULL, PUMPED

# fmt: off
NOSE = Method("height of the nose tip over the water at the trim told for the running hull",
    "geometry, at the hull's trim", "flat water")
CLEARS = Method("speed at which foil and bottom have lifted what the hull cannot carry with a dry deck",
    "hydrostatics; lift of foil and bottom as told for the hull", "level trim")
HUMP_DRAG = FigureDefinition("hump_drag", "Drag at the hump", Q.FORCE, HULL, better=Better.LESS,
    short="{} of drag at the hump")
HUMP_SPEED = FigureDefinition("hump_speed", "Speed at the hump", Q.SPEED, HULL, more="later", less="earlier",
    band_share=0.12)
HUMP_TRIM = FigureDefinition("hump_trim", "Trim at the hump", Q.ANGLE, HULL, more="nose higher", less="nose lower",
    band_least=1.5 * DEGREE)
DRIVE_MARGIN = FigureDefinition("drive_margin", "Drive to spare at the hump", Q.FORCE, DRIVE, better=Better.MORE,
    more="better", less="worse", head="{} to spare", head_below="{} short", short="{} of drive to spare",
    short_below="{} of drive short",
    school="A longer flat passes the hump sooner and sticks more when you touch down; a shorter one with a steep step "
            "lets go sooner.")
LEAST_WIND = FigureDefinition("least_wind", "Least wind to go", Q.SPEED, DRIVE, better=Better.LESS, more="later",
    less="earlier", head="{} of wind",
    school="Wide tails plane early; pulled-in tails turn. With large cut-outs a wide tail may sink instead: see what "
            "is released.")
LEAST_WIND_UP = FigureDefinition("least_wind_up", "Least wind to lift off", Q.SPEED, DRIVE, better=Better.LESS,
    more="later", less="earlier", head="{} of wind", short="lifts off in {}",
    school="Foil boards leave the water, so some give up tail for release; others keep it to push against.")
LEAST_WIND_PUMPED = FigureDefinition("least_wind_pumped", "Least wind to lift off, pumped", Q.SPEED, PUMPED,
    better=Better.LESS, more="later", less="earlier", short="pumped in {}")
SPEED_TO_SPARE = FigureDefinition("speed_to_spare", "Speed beyond lift-off", Q.SPEED, DRIVE, better=Better.MORE,
    band_share=0.1, band_least=0.1)
PLANING_SPEED = FigureDefinition("planing_speed", "Planing from", Q.SPEED, HULL, better=Better.LESS, more="later",
    less="earlier", short="planes from {}", band_share=0.07)
DECK_CLEARS_SPEED = FigureDefinition("deck_clears_speed", "Deck clears the water at", Q.SPEED, CLEARS,
    better=Better.LESS, more="later", less="earlier", short="deck clears at {}", band_share=0.15)
TAIL_PUSH_ANGLE = FigureDefinition("tail_push_angle", "Tail can be pushed down by", Q.ANGLE, better=Better.MORE,
    short="tail pushes {} down", band_least=0.3 * DEGREE)
NOSE_UNDER_MARGIN = FigureDefinition("nose_under_margin", "Nose-dive margin", Q.ANGLE, NOSE, better=Better.MORE,
    more="more room", less="less room", short="nose buries {} down", band_least=1.2 * DEGREE)
NOSE_CLEARANCE = FigureDefinition("nose_clearance", "Nose tip above the water, planing", Q.DEPTH, NOSE,
    better=Better.MORE, more="higher", less="lower", short="nose {} up at the hump",
    short_below="nose {} down at the hump", band_least=0.02)
PULL_TO_PLANE = FigureDefinition("pull_to_plane", "Kite pull to plane", Q.FORCE, PULL, better=Better.LESS,
    head="{} of pull", school="Flat and wide planes in less pull; rocker and narrow ends hold in chop.")
# fmt: on
