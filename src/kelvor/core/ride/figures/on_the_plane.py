"""Figures of a ride on the plane, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import DEGREE
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.figures.under_way import NOSE
from kelvor.core.tank.planing.states import METHOD as PLANING

# fmt: off
EQUILIBRIUM = Method("moments of pressure, foil, weights and drag about the tail, driven at the deck",
    "Savitsky 1964; vortex lattice for rocker (Katz & Plotkin 2001); statics",
    "trim up to 15°, as flat as a board is held; the rider in balance against the pull")
RELEASED = Method("bottom behind the release and outside the running bottom", "geometry",
    "cut-outs, kick and raised hulls that run dry")
PLANING_DRAG = FigureDefinition("planing_drag", "Drag while planing", Q.FORCE, PLANING, better=Better.LESS,
    head="{} of drag", school="Long flat for speed, curve for the pocket: both agree that curve is placed, not spread.")
PLANING_TRIM = FigureDefinition("planing_trim", "Trim, running", Q.ANGLE, PLANING, more="nose higher",
    less="nose lower", band_least=1.0 * DEGREE)
WEIGHT_PLACE = FigureDefinition("weight_place", "Weight ahead of the back foot", Q.LENGTH, EQUILIBRIUM,
    more="further fore", less="further aft", rests=("strap",), band_least=0.05)
PLANING_AREA = FigureDefinition("planing_area", "Wetted bottom, planing", Q.AREA, PLANING, short="{} wet",
    band_share=0.12)
WETTED_BEHIND_FOOT = FigureDefinition("wetted_behind_foot", "Wet behind the back foot", Q.AREA, PLANING,
    short="{} wet behind the foot", rests=("strap",), band_share=0.12, band_least=0.002)
PLANING_LENGTH = FigureDefinition("planing_length", "Wetted keel, planing", Q.LENGTH, PLANING, more="longer",
    less="shorter", band_share=0.12)
RUNNING_BEAM = FigureDefinition("running_beam", "Running beam", Q.LENGTH, PLANING, more="wider", less="narrower",
    band_share=0.03, band_least=0.01)
RELEASED_AREA = FigureDefinition("released_area", "Bottom released", Q.AREA, RELEASED, band_least=0.01)
FEET_TO_PRESSURE = FigureDefinition("feet_to_pressure", "Feet to pressure centre", Q.LENGTH, PLANING, more="forward",
    less="aft", rests=("strap",), band_least=0.05)
NOSE_MARGIN = FigureDefinition("nose_margin", "Nose above the water, running", Q.DEPTH, NOSE, better=Better.MORE,
    more="higher", less="lower", short="nose {} up", short_below="nose {} down", band_least=0.03)
# fmt: on
