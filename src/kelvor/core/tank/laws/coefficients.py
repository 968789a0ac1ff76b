"""The coefficients of drive and ride: one table, every entry with its source, for the workshop to correct.

Each is declared once: its value with its words, unit, range, band and source beside it. No number of these models that
could be otherwise stands anywhere else. Values marked "from memory", "common practice" or "judgement" wait for the
workshop's own tests.
"""

from __future__ import annotations

from dataclasses import fields
from typing import Annotated, get_type_hints

from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen


@frozen
class About:
    """What a coefficient is: words, quantity, the range that is accepted (SI), half-width of its band, source; whether
    it sets the `scene` a figure is told in, which leaves nothing open.
    """

    label: str
    group: str
    quantity: Quantity
    low: float
    high: float
    band: float
    source: str
    scene: bool = False


_R, _H, _L, _A, _S, _V = (
    Quantity.RATIO,
    Quantity.HEIGHT,
    Quantity.LENGTH,
    Quantity.ANGLE,
    Quantity.SAIL_AREA,
    Quantity.SPEED,
)
_PRACTICE = "common practice, no source"
_JUDGEMENT = "judgement"
_THIN = "thin cambered membranes in tunnels: Marchaj 1979, Aero-hydrodynamics of Sailing (from memory)"
_SAILS = "main sails of yachts behind a mast: Hazen 1980 (from memory)"
_NACA = "NACA 0010 to 0012 near Re 5e5 (neuralfoil 0.3.3, n_crit 9), raised for real finish"


@frozen(kw_only=True)
class Coefficients:
    """What sails, wings, kites, hulls, foils, fins and riders can do; SI."""

    # fmt: off
    wing_lift_most: Annotated[float, About("Greatest lift coefficient", "Hand wing", _R, 0.5, 2.0, 0.12, _THIN)] = 1.20
    wing_profile_drag: Annotated[float, About(
        "Profile drag coefficient", "Hand wing", _R, 0.01, 0.3, 0.02, _THIN)] = 0.08
    wing_aspect: Annotated[float, About(
        "Aspect ratio × span factor", "Hand wing", _R, 0.8, 6.0, 0.3, "common planforms; lifting line")] = 2.1
    wing_height: Annotated[float, About(
        "Centre of pressure above the water", "Hand wing", _H, 0.5, 3.0, 0.2, _PRACTICE)] = 1.3
    wing_flat: Annotated[float, About(
        "Least lift at which it flies steadily, of the greatest", "Hand wing", _R, 0.2, 1.0, 0.10, _PRACTICE)] = 0.75
    wing_cant: Annotated[float, About(
        "Wing leant over to lift at most", "Hand wing", _A, 0.0, 1.2, 0.12, _PRACTICE)] = 0.45
    sail_lift_most: Annotated[float, About("Greatest lift coefficient", "Sail", _R, 0.5, 2.0, 0.12, _THIN)] = 1.30
    sail_profile_drag: Annotated[float, About(
        "Profile drag coefficient at small lift", "Sail", _R, 0.01, 0.3, 0.006, _SAILS)] = 0.026
    sail_lift_drag: Annotated[float, About(
        "Profile drag that grows with lift, per its square", "Sail", _R, 0.0, 0.1, 0.006, _SAILS)] = 0.016
    sail_flat: Annotated[float, About(
        "Least lift at which it flies steadily, of the greatest", "Sail", _R, 0.1, 1.0, 0.10, _PRACTICE)] = 0.45
    sail_gap: Annotated[float, About(
        "Gap between foot and deck while sailing", "Sail", _H, 0.0, 0.8, 0.07, _PRACTICE)] = 0.10
    sail_cant: Annotated[float, About("Rig leant to windward at most", "Sail", _A, 0.0, 0.6, 0.06, _PRACTICE)] = 0.26
    sail_off: Annotated[float, About("Body to windward of the sail", "Sail", _L, 0.2, 1.5, 0.10, _PRACTICE)] = 0.55
    sail_luff: Annotated[float, About("Luff over the root of the area", "Sail", _R, 1.2, 2.4, 0.08, _PRACTICE)] = 1.62
    effort_height: Annotated[float, About(
        "Sail's centre of effort, of the luff", "Sail", _R, 0.25, 0.6, 0.03, _PRACTICE)] = 0.42
    sail_foot: Annotated[float, About("Foot of the sail above the deck", "Sail", _H, 0.0, 0.8, 0.08, _PRACTICE)] = 0.25
    sail_stalled: Annotated[float, About(
        "Force coefficient stalled, square to the wind", "Sail", _R, 0.6, 2.0, 0.15,
        "flat plates and membranes: Hoerner 1965 (from memory)")] = 1.15
    rig_height: Annotated[float, About(
        "Height of the rig's mass over the root of its area", "Sail", _R, 0.2, 1.0, 0.06, _PRACTICE)] = 0.55
    rig_aside: Annotated[float, About(
        "Rig held this far off the centreline, waiting", "Sail", _L, 0.0, 1.0, 0.12, _PRACTICE)] = 0.45
    kite_lift_most: Annotated[float, About(
        "Greatest lift coefficient", "Kite", _R, 0.4, 1.5, 0.10, "bowed wings: Dunker 2013 (from memory)")] = 0.80
    kite_profile_drag: Annotated[float, About(
        "Profile drag with lines", "Kite", _R, 0.02, 0.3, 0.02,
        "soft kites in flight, lift over drag 3 to 5 with lines: Oehler and Schmehl 2019 (from memory)")] = 0.115
    kite_aspect: Annotated[float, About(
        "Aspect ratio × span factor", "Kite", _R, 0.8, 8.0, 0.4, "common planforms; lifting line")] = 3.4
    kite_height: Annotated[float, About("Height while flying low", "Kite", _H, 3.0, 30.0, 4.0, _PRACTICE)] = 14.0
    kite_speed: Annotated[float, About(
        "Flying speed over wind, swinging it", "Kite", _R, 0.9, 6.0, 0.4,
        "crosswind flight: Loyd 1980; dives of the first metres (from memory)")] = 1.4
    kite_elevation: Annotated[float, About(
        "Lines above the horizon, getting going and at the most", "Kite", _A, 0.1, 1.4, 0.15, _PRACTICE)] = 0.75
    kite_flat: Annotated[float, About(
        "Least lift at which it flies steadily, of the greatest", "Kite", _R, 0.1, 1.0, 0.10, _PRACTICE)] = 0.40
    kite_low: Annotated[float, About(
        "Lines above the horizon at the least", "Kite", _A, 0.1, 1.2, 0.10, _PRACTICE)] = 0.45
    kite_ahead: Annotated[float, About(
        "Share of the level pull that drives on a reach", "Kite", _R, 0.3, 1.0, 0.1, _PRACTICE)] = 0.75
    kite_dive: Annotated[float, About(
        "Way through one dive", "Kite", _L, 5.0, 60.0, 8.0,
        "lines of 23 m through 70°: common practice, no source")] = 28.0
    kite_dive_whole: Annotated[float, About(
        "A dive pulls whole up to this share of the speed it leads to", "Kite", _R, 0.3, 0.99, 0.1, _JUDGEMENT)] = 0.80
    kite_steered: Annotated[float, About(
        "Lift over its own weight with which it can be steered", "Kite", _R, 1.0, 6.0, 0.4, _JUDGEMENT)] = 2.0
    edge_heel: Annotated[float, About("Heel on the edge at most", "Kite", _A, 0.2, 1.3, 0.12, _PRACTICE)] = 0.80
    edge_bite: Annotated[float, About(
        "Depth of the edge under load, its ends out of the water", "Kite", _H, 0.01, 0.2, 0.015, _JUDGEMENT)] = 0.050
    arm_share: Annotated[float, About(
        "Pull the arms hold, of body weight", "Rider", _R, 0.1, 1.0, 0.10, _PRACTICE)] = 0.45
    harness_share: Annotated[float, About(
        "Pull held in a harness, of body weight", "Rider", _R, 0.2, 1.5, 0.10, _PRACTICE)] = 0.60
    rail_arm: Annotated[float, About(
        "Body's centre outside the straps, of height", "Rider", _R, 0.1, 0.7, 0.05,
        "hanging from straps nearly level; Winter 2009 (from memory)")] = 0.50
    body_drag: Annotated[float, About(
        "Limbs in the water, drag coefficient", "Rider", _R, 0.3, 2.0, 0.3,
        "blunt cylinders: Hoerner 1965 (from memory)")] = 1.0
    strap_reach: Annotated[float, About(
        "Place of the body's hold, of the half-width at the back straps", "Rider", _R, 0.4, 1.1, 0.07,
        _PRACTICE)] = 0.85
    side_push: Annotated[float, About(
        "Sideways push with nothing held, of body weight", "Rider", _R, 0.05, 1.0, 0.1, _PRACTICE)] = 0.35
    rider_centre: Annotated[float, About(
        "Centre of a standing rider above the bottom", "Rider", _L, 0.5, 1.3, 0.06,
        "body segments: Winter 2009 (from memory)")] = 0.90
    limb_length: Annotated[float, About(
        "Limbs in the water, length along the flow", "Rider", _L, 0.1, 1.0, 0.1, _PRACTICE)] = 0.45
    same_drag: Annotated[float, About(
        "Drag a rider does not feel, of the least", "Rider", _R, 0.002, 0.2, 0.01, _PRACTICE)] = 0.02
    heel_most: Annotated[float, About(
        "Heel to leeward at which a board still planes well", "Rider", _A, 0.0, 0.4, 0.03, _PRACTICE)] = 0.12
    foil_heel: Annotated[float, About(
        "Heel to windward in flight at most", "Rider", _A, 0.0, 0.8, 0.08, _PRACTICE)] = 0.30
    step_ahead: Annotated[float, About(
        "Rider's step ahead of the front strap to get going", "Rider", _L, 0.0, 0.8, 0.10, _PRACTICE)] = 0.30
    step_back: Annotated[float, About(
        "Back foot of who steps back to pivot, of the length from the tail", "Rider", _R, 0.02, 0.5, 0.03,
        _PRACTICE)] = 0.17
    roll_share: Annotated[float, About(
        "Weight that rolls a board from rail to rail, of the body's", "Rider", _R, 0.1, 1.0, 0.1, _JUDGEMENT)] = 0.50
    deck_ends: Annotated[float, About(
        "Ends of a deck without straps where nobody stands, of its length", "Rider", _R, 0.0, 0.4, 0.04,
        _PRACTICE)] = 0.15
    running_trim: Annotated[float, About(
        "Trim of the hull while the foil is about to lift off", "Rider", _A, 0.0, 0.2, 0.017, _PRACTICE)] = 0.0698
    stroke_efficiency: Annotated[float, About(
        "Stroke efficiency: drag power over rider's power", "Paddle", _R, 0.3, 0.9, 0.08,
        "blade and body losses of flat-water paddling (from memory)")] = 0.60
    stroke_rate: Annotated[float, About("Strokes a second", "Paddle", _R, 0.3, 2.0, 0.1, _PRACTICE)] = 0.85
    stroke_push: Annotated[float, About(
        "Mean push of a hard stroke, of body weight", "Paddle", _R, 0.05, 0.4, 0.03,
        "instrumented paddles (from memory)")] = 0.13
    added_mass: Annotated[float, About(
        "Water that speeds up with the hull, of its load", "Hull", _R, 0.0, 0.4, 0.02,
        "slender bodies: Newman 1977 (from memory)")] = 0.06
    glide_share: Annotated[float, About(
        "Share of a stroke with the blade out of the water", "Paddle", _R, 0.1, 0.8, 0.05, _PRACTICE)] = 0.45
    stroke_arm: Annotated[float, About("Blade outside the rail", "Paddle", _L, 0.0, 0.4, 0.04, _PRACTICE)] = 0.10
    form_drag: Annotated[float, About(
        "Form drag on a hull's friction", "Hull", _R, 1.0, 1.3, 0.02,
        "slender bodies, 1 + 1.5 (d/l)^1.5: Hoerner 1965 (from memory)")] = 1.03
    planing_froude: Annotated[float, About(
        "Froude numbers of the waterline from floating, at 0.6, to planing", "Hull", _R, 0.1, 1.0, 0.12,
        _JUDGEMENT)] = 0.40
    planes: Annotated[float, About(
        "A board planes when speed lifts this share of its load", "Hull", _R, 0.3, 0.95, 0.07,
        "judgement: speed carries more than the water's weight does")] = 0.50
    trim_least: Annotated[float, About(
        "Trim of the whole wetted bottom below which nobody holds it flat", "Hull", _A, 0.0, 0.1, 0.007,
        _JUDGEMENT)] = 0.0105
    release_angle: Annotated[float, About(
        "Turn up within a few centimetres at which a bottom lets the water go", "Hull", _A, 0.01, 0.3, 0.01,
        _PRACTICE)] = 0.0611
    wall_dries: Annotated[float, About(
        "Height of a wall outboard of which half of the bottom runs dry", "Hull", _H, 0.0005, 0.03, 0.002,
        _JUDGEMENT)] = 0.004
    tail_dries: Annotated[float, About(
        "Froude number from which an immersed tail begins to run dry", "Hull", _R, 0.2, 0.59, 0.05, _JUDGEMENT)] = 0.50
    awash: Annotated[float, About(
        "Water over the ends of a deck that counts as dry, of the waterline's length", "Hull", _R, 0.0, 0.5, 0.05,
        _JUDGEMENT)] = 0.12
    hull_yaw: Annotated[float, About(
        "Damping of a hull's yaw, on its draught and length", "Hull", _R, 0.0, 0.5, 0.03, _JUDGEMENT)] = 0.05
    rider_drag_area: Annotated[float, About(
        "Standing rider, drag coefficient × area", "Air", _S, 0.1, 1.0, 0.08,
        "standing bodies: Hoerner 1965 (from memory)")] = 0.42
    lying_drag_area: Annotated[float, About(
        "Lying rider, drag coefficient × area", "Air", _S, 0.03, 0.5, 0.04,
        "lying bodies: Hoerner 1965 (from memory)")] = 0.12
    air_form: Annotated[float, About(
        "Air drag of the board's form on its frontal area", "Air", _R, 0.05, 1.2, 0.15,
        "thick edges, flow along: Hoerner 1965 (from memory)")] = 0.35
    air_skin: Annotated[float, About(
        "Air drag of the board's skin on its planform", "Air", _R, 0.002, 0.05, 0.005,
        "turbulent plates, both sides: Hoerner 1965 (from memory)")] = 0.012
    foil_lift_most: Annotated[float, About(
        "Greatest lift coefficient", "Foil", _R, 0.5, 1.6, 0.10,
        "12 to 14 % cambered sections near Re 3e5 (from memory)")] = 1.10
    foil_lift_used: Annotated[float, About(
        "Share of it used to lift off", "Foil", _R, 0.4, 1.0, 0.07, _PRACTICE)] = 0.80
    foil_zero_lift: Annotated[float, About(
        "Zero-lift angle below the plate", "Foil", _A, 0.0, 0.15, 0.013, _PRACTICE)] = 0.0611
    foil_profile_drag: Annotated[float, About(
        "Profile drag coefficient", "Foil", _R, 0.004, 0.05, 0.003, _NACA)] = 0.011
    mast_chord: Annotated[float, About("Mast chord", "Foil", _L, 0.06, 0.25, 0.01, _PRACTICE)] = 0.12
    mast_thickness: Annotated[float, About("Mast thickness over chord", "Foil", _R, 0.08, 0.25, 0.02, _PRACTICE)] = 0.13
    mast_profile_drag: Annotated[float, About("Mast drag coefficient", "Foil", _R, 0.004, 0.05, 0.002, _NACA)] = 0.009
    cruise: Annotated[float, About(
        "Flying speed over lift-off at which feet and mast balance", "Foil", _R, 1.0, 2.5, 0.15, _PRACTICE)] = 1.3
    fuselage_girth: Annotated[float, About(
        "Fuselage, round its section", "Foil", _L, 0.04, 0.3, 0.02, _PRACTICE)] = 0.11
    fuselage_drag: Annotated[float, About(
        "Fuselage's drag on its skin", "Foil", _R, 0.002, 0.02, 0.0008,
        "turbulent plate with the form drag of a slender body: Hoerner 1965, ch. 6 (from memory)")] = 0.0050
    junction_drag: Annotated[float, About(
        "Drag of a junction, on thickness squared at a tenth of thickness", "Foil", _R, 0.0, 0.6, 0.06,
        "17 (t/c)² − 0.05: Hoerner 1965, ch. 8 (from memory)")] = 0.12
    stabiliser_share: Annotated[float, About(
        "Stabiliser area over front wing", "Foil", _R, 0.05, 0.4, 0.03, _PRACTICE)] = 0.18
    foil_section: Annotated[float, About(
        "Section's thickness over chord", "Foil", _R, 0.06, 0.2, 0.012, _PRACTICE)] = 0.12
    foil_lift_drag: Annotated[float, About(
        "Profile drag that grows with lift beyond 0.4, per its square", "Foil", _R, 0.0, 0.05, 0.003,
        "cambered sections near Re 4e5 (from memory)")] = 0.006
    mast_spray: Annotated[float, About(
        "Spray drag on the thickness squared", "Foil", _R, 0.0, 0.6, 0.06,
        "surface-piercing struts: Hoerner 1965 (from memory)")] = 0.24
    mast_centre: Annotated[float, About(
        "Depth of what a mast holds sideways, of its length", "Foil", _R, 0.3, 1.0, 0.08, _JUDGEMENT)] = 0.60
    pump_efficiency: Annotated[float, About(
        "Pumping: push on the board over the body's power", "Foil", _R, 0.05, 0.9, 0.15,
        "three quarters of a heaving foil, Triantafyllou et al. 2000 (from memory), of what legs keep of their work, "
        "six tenths: judgement; slender foils are flown on for a minute: common practice, no source")] = 0.45
    pump_stroke: Annotated[float, About(
        "Greatest speed of the legs in a stroke that pumps", "Foil", _V, 0.2, 3.0, 0.25, _JUDGEMENT)] = 1.2
    pump_rate: Annotated[float, About("Strokes that pump, a second", "Foil", _R, 0.4, 3.0, 0.2, _PRACTICE)] = 1.3
    pump_reserve: Annotated[float, About(
        "Work above what is kept up, before it is used up", "Rider", Quantity.ENERGY, 1e3, 6e4, 5e3,
        "10 to 25 kJ of trained bodies: Poole et al. 2016 (from memory)")] = 15e3
    mast_clears: Annotated[float, About(
        "Mast out of the water by this much speed over lift-off", "Foil", _R, 0.02, 0.6, 0.04, _JUDGEMENT)] = 0.12
    wing_pump: Annotated[float, About(
        "Power of the arms that pump a hand wing", "Hand wing", Quantity.POWER, 0.0, 400.0, 50.0, _PRACTICE)] = 100.0
    mast_mass: Annotated[float, About(
        "Share of a foil's mass in its mast", "Foil", _R, 0.1, 0.8, 0.06, _PRACTICE)] = 0.42
    wing_mass: Annotated[float, About(
        "Share of a foil's mass in its front wing", "Foil", _R, 0.1, 0.8, 0.06, _PRACTICE)] = 0.32
    fuselage_mass: Annotated[float, About(
        "Share of a foil's mass in its fuselage", "Foil", _R, 0.02, 0.6, 0.04, _PRACTICE)] = 0.16
    fin_profile_drag: Annotated[float, About(
        "Profile drag coefficient, clean", "Fins", _R, 0.003, 0.03, 0.0004,
        "NACA 0009 near Re 5e5 to 1e6 (neuralfoil 0.3.3, large, n_crit 9)")] = 0.0052
    fin_finish: Annotated[float, About(
        "What a real finish and edge add to it", "Fins", _R, 0.0, 0.02, 0.0010, _JUDGEMENT)] = 0.0015
    fin_lift_most: Annotated[float, About("Greatest lift coefficient", "Fins", _R, 0.5, 1.6, 0.12, _NACA)] = 1.0
    fin_ventilation: Annotated[float, About(
        "Lift coefficient that draws air", "Fins", _R, 0.3, 1.5, 0.15,
        "struts near the surface: Swales 1974 (from memory)")] = 0.80
    fin_nose_stall: Annotated[float, About(
        "Angle at which half of the suction at a thin nose is lost", "Fins", _A, 0.05, 0.6, 0.03, _JUDGEMENT)] = 0.21
    fin_centre: Annotated[float, About(
        "Depth of what a fin holds sideways, of its length", "Fins", _R, 0.2, 0.7, 0.05,
        "centre of an elliptic load: lifting line")] = 0.45
    fin_reserve: Annotated[float, About(
        "Lift kept in hand by a well-chosen fin", "Fins", _R, 0.0, 0.6, 0.05, _PRACTICE)] = 0.20
    turn_speed: Annotated[float, About(
        "Speed of a turn on the tail", "Turning", _V, 2.0, 15.0, 1.0, _PRACTICE, scene=True)] = 6.0
    turn_trim: Annotated[float, About(
        "Trim of a tail that is pressed in", "Turning", _A, 0.03, 0.5, 0.05, _JUDGEMENT)] = 0.2094
    turn_bite: Annotated[float, About(
        "Depth of the rail under a foot that presses", "Turning", _H, 0.01, 0.15, 0.015, _JUDGEMENT)] = 0.040
    turn_heel: Annotated[float, About(
        "Heel of a tail that turns", "Turning", _A, 0.1, 1.2, 0.09, _JUDGEMENT, scene=True)] = 0.5236
    turn_radius: Annotated[float, About(
        "Radius of a turn on the tail", "Turning", _L, 0.3, 20.0, 0.3, _JUDGEMENT, scene=True)] = 1.5
    slide_heel: Annotated[float, About(
        "Heel of a tail that slides", "Turning", _A, 0.0, 1.0, 0.05, _JUDGEMENT, scene=True)] = 0.1745
    tail_breaks: Annotated[float, About(
        "Angle of the whole tail to the water beyond which it holds no more", "Turning", _A, 0.05, 0.6, 0.035,
        _JUDGEMENT)] = 0.2094
    landing_load: Annotated[float, About(
        "Landing, times the rider's weight on the back foot", "Loads", _R, 2.0, 5.0, 1.0, _JUDGEMENT)] = 3.0
    touch_share: Annotated[float, About(
        "Weight on the bottom in a touch-down", "Landing", _R, 0.02, 1.0, 0.08, _JUDGEMENT, scene=True)] = 0.20
    air_cushion: Annotated[float, About(
        "V that trapped air is worth under a flat bottom", "Landing", _A, 0.01, 0.2, 0.017,
        "judgement; flat plates: Chuang 1967 (from memory)")] = 0.0698
    landing_speed: Annotated[float, About(
        "Speed of a bottom that lands", "Landing", _V, 1.0, 12.0, 0.5, _PRACTICE, scene=True)] = 5.0
    landing_way: Annotated[float, About(
        "Way down over which the blow of a landing is told", "Landing", _H, 0.001, 0.05, 0.002, _JUDGEMENT)] = 0.005
    bump_speed: Annotated[float, About(
        "Speed of the bumps a board is asked to run with", "Water", _V, 1.0, 12.0, 0.5, _PRACTICE, scene=True)] = 4.887
    chop_from: Annotated[float, About(
        "Place ahead of which the bottom meets chop, of the length", "Water", _R, 0.3, 0.9, 0.05, _JUDGEMENT)] = 0.55
    # fmt: on


ABOUT: dict[str, About] = {
    name: hint.__metadata__[0] for name, hint in get_type_hints(Coefficients, include_extras=True).items()
}
"""What each coefficient is."""

HANDBOOK_COEFFICIENTS = Coefficients()
"""The coefficients as they ship."""


def valid_coefficient(key: str, value: float) -> float:
    """A coefficient's value, if it can be that; raises InputError where it cannot, or there is no such coefficient."""
    about = ABOUT.get(key)
    if about is None:
        raise InputError("there is none of this name", where=f"coefficient “{one_line(key, 40)}”")
    if not about.low <= value <= about.high:
        accepts = f"Give {about.low:g} to {about.high:g}"
        raise InputError(f"{value:g} cannot be", where=f"{about.group}, {about.label}", accepts=accepts)
    return value


def with_values(values: dict[str, float]) -> Coefficients:
    """The handbook's coefficients with the workshop's own in their place; keys of no coefficient are left out."""
    known = {f.name for f in fields(Coefficients)}
    return Coefficients(**{key: value for key, value in values.items() if key in known})
