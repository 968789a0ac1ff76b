"""Figures of a ride paddled, as a table."""

from __future__ import annotations

from kelvor.core.base.figures import Better, FigureDefinition, Method
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.model import METHOD as HULL
from kelvor.core.ride.paddling import BURIED, START, STROKE_YAW, TRACKING
from kelvor.core.ride.paddling import METHOD as PADDLE

# fmt: off
LENGTHS = Method("speed over the root of g times the waterline's length", "W. Froude 1874 (from memory)",
    "waterline at rest, level")
SLOPE = Method("slope whose pull on the whole weight is the drag", "statics; the drag as told for the hull",
    "steady speed, water that slopes and does not turn")
PADDLE_WATTS_2 = FigureDefinition("paddle_watts_2", "Drag power at 2 kn", Q.POWER, HULL, better=Better.LESS)
PADDLE_WATTS_3 = FigureDefinition("paddle_watts_3", "Drag power at 3 kn", Q.POWER, HULL, better=Better.LESS)
PADDLE_WATTS_4 = FigureDefinition("paddle_watts_4", "Drag power at 4 kn", Q.POWER, HULL, better=Better.LESS,
    head="{} at 4 kn", school="A round displacement hull is quicker at four knots; a flat one lifts sooner.")
PADDLE_WATTS_5 = FigureDefinition("paddle_watts_5", "Drag power at 5 kn", Q.POWER, HULL, better=Better.LESS)
DRAG_FOIL_30 = FigureDefinition("drag_foil_30", "Drag, 30 % on the foil", Q.FORCE, HULL, better=Better.LESS)
DRAG_FOIL_60 = FigureDefinition("drag_foil_60", "Drag, 60 % on the foil", Q.FORCE, HULL, better=Better.LESS,
    short="{} with 60 % on the foil")
DRAG_FOIL_90 = FigureDefinition("drag_foil_90", "Drag, 90 % on the foil", Q.FORCE, HULL, better=Better.LESS)
PEAK_WATTS = FigureDefinition("peak_watts", "Peak watts over the hump", Q.POWER, PADDLE, better=Better.LESS,
    short="{} over the hump")
BUMP_SLOPE = FigureDefinition("bump_slope", "Slope of bump it needs", Q.ANGLE, SLOPE, better=Better.LESS,
    more="steeper", less="gentler", head="{} of slope",
    school="A cutting bow tracks and pulls in messy water; a flat spoon climbs.")
YAW_HOLD = FigureDefinition("yaw_hold", "Yaw hold, 10° off at 3 kn", Q.MOMENT, TRACKING, better=Better.MORE,
    more="tracks more", less="turns easier", short="{} hold it 10° off", band_share=0.2, band_least=0.2)
PADDLE_SPEED = FigureDefinition("paddle_speed", "Speed at the paddler's watts", Q.SPEED, PADDLE, better=Better.MORE,
    more="faster", less="slower", head="{}",
    school="Displacement hulls are quick at low power; planing hulls have no cap on a bump.")
PACE_WATTS = FigureDefinition("pace_watts", "Paddler's watts at the pace", Q.POWER, PADDLE, better=Better.LESS,
    short="{} of yours at the pace")
PACE_DRAG = FigureDefinition("pace_drag", "Drag at the pace", Q.FORCE, PADDLE, better=Better.LESS,
    short="{} of drag at the pace")
GLIDE_LOSS = FigureDefinition("glide_loss", "Speed lost between strokes", Q.SPEED, PADDLE, better=Better.LESS,
    short="loses {} between strokes", band_share=0.2)
FROUDE = FigureDefinition("waterline_froude", "Froude number at the pace", Q.RATIO, LENGTHS,
    more="faster for its length", less="slower for its length", band_share=0.01)
START_TIME = FigureDefinition("start_time", "Seconds to the pace", Q.TIME, START, better=Better.LESS, more="slower",
    less="quicker", head="{}", school="Lightest, or durable: mass costs at every start, less between.", band_share=0.25)
YAW_PER_STROKE = FigureDefinition("yaw_per_stroke", "Yaw a stroke", Q.ANGLE, STROKE_YAW, better=Better.LESS, ranks=True,
    short="yaws {} a stroke", band_share=0.4)
NOSE_RECOVERY = FigureDefinition("nose_recovery", "Moment lifting a buried nose", Q.MOMENT, BURIED, better=Better.MORE,
    short="{} bring the nose up", short_below="{} bring the nose down", band_share=0.05)
TOW_DRAG = FigureDefinition("tow_drag", "Drag at tow speed", Q.FORCE, HULL, better=Better.LESS,
    short="{} of drag in tow")
WAKE_SLOPE = FigureDefinition("wake_slope", "Slope of wake that drives it", Q.ANGLE, SLOPE, better=Better.LESS,
    more="steeper", less="gentler", head="{} of slope", school="Planing area pushes; a pulled-in tail releases.")
# fmt: on
