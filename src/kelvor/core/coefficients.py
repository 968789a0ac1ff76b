"""The coefficients of drive and ride: one table, every entry with its source, for the workshop to correct.

No coefficient of these models stands anywhere else. Values marked "from memory"
or "common practice" wait for the workshop's own tests.
"""

from __future__ import annotations

from dataclasses import dataclass, fields

from kelvor.core.units import Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Coefficients:
    """What sails, wings, kites, foils, fins and riders can do; SI."""

    wing_lift_most: float = 1.20
    wing_profile_drag: float = 0.08
    wing_aspect: float = 2.1
    wing_height: float = 1.3
    sail_lift_most: float = 1.30
    sail_profile_drag: float = 0.05
    sail_aspect: float = 3.0
    sail_luff: float = 1.62
    kite_lift_most: float = 0.80
    kite_profile_drag: float = 0.09
    kite_aspect: float = 3.4
    kite_height: float = 14.0
    kite_speed: float = 1.4
    kite_elevation: float = 0.75
    arm_share: float = 0.45
    harness_share: float = 0.60
    rail_arm: float = 0.50
    effort_height: float = 0.42
    stroke_efficiency: float = 0.60
    stroke_rate: float = 0.85
    stroke_push: float = 0.13
    rider_drag_area: float = 0.42
    lying_drag_area: float = 0.12
    body_drag: float = 1.0
    foil_lift_most: float = 1.10
    foil_lift_used: float = 0.80
    foil_zero_lift: float = 0.0611
    foil_profile_drag: float = 0.011
    mast_chord: float = 0.12
    mast_thickness: float = 0.13
    mast_profile_drag: float = 0.009
    stabiliser_share: float = 0.18
    fin_profile_drag: float = 0.0095
    fin_lift_most: float = 1.0
    fin_ventilation: float = 0.80
    slam_share: float = 0.25


@dataclass(frozen=True, slots=True)
class About:
    """What a coefficient is: words, quantity, the range that is accepted (SI), half-width of its band, source."""

    label: str
    group: str
    quantity: Quantity
    low: float
    high: float
    band: float
    source: str


_R, _H, _L, _A, _S = Quantity.RATIO, Quantity.HEIGHT, Quantity.LENGTH, Quantity.ANGLE, Quantity.SAIL_AREA
_PRACTICE = "common practice, no source"
_THIN = "thin cambered membranes in tunnels: Marchaj 1979, Aero-hydrodynamics of Sailing (from memory)"
_NACA = "NACA 0010 to 0012 near Re 5e5 (neuralfoil 0.3.3, n_crit 9), raised for real finish"

ABOUT: dict[str, About] = {
    "wing_lift_most": About("Greatest lift coefficient", "Hand wing", _R, 0.5, 2.0, 0.12, _THIN),
    "wing_profile_drag": About("Profile drag coefficient", "Hand wing", _R, 0.01, 0.3, 0.02, _THIN),
    "wing_aspect": About("Aspect ratio × span factor", "Hand wing", _R, 0.8, 6.0, 0.3, "common planforms; lifting line"),
    "wing_height": About("Centre of pressure above the water", "Hand wing", _H, 0.5, 3.0, 0.2, _PRACTICE),
    "sail_lift_most": About("Greatest lift coefficient", "Sail", _R, 0.5, 2.0, 0.12, _THIN),
    "sail_profile_drag": About("Profile drag coefficient", "Sail", _R, 0.01, 0.3, 0.015, _THIN),
    "sail_aspect": About("Aspect ratio × span factor", "Sail", _R, 0.8, 8.0, 0.4, "common planforms; lifting line"),
    "sail_luff": About("Luff over the root of the area", "Sail", _R, 1.2, 2.4, 0.08, _PRACTICE),
    "kite_lift_most": About("Greatest lift coefficient", "Kite", _R, 0.4, 1.5, 0.10, "bowed wings: Dunker 2013 (from memory)"),
    "kite_profile_drag": About("Profile drag with lines", "Kite", _R, 0.02, 0.3, 0.02, "bowed wings: Dunker 2013 (from memory)"),
    "kite_aspect": About("Aspect ratio × span factor", "Kite", _R, 0.8, 8.0, 0.4, "common planforms; lifting line"),
    "kite_height": About("Height while flying low", "Kite", _H, 3.0, 30.0, 4.0, _PRACTICE),
    "kite_speed": About("Flying speed over wind, swinging it", "Kite", _R, 1.0, 6.0, 0.4, "crosswind flight: Loyd 1980; dives "
        "of the first metres (from memory)"),
    "kite_elevation": About("Lines above the horizon", "Kite", _A, 0.1, 1.4, 0.15, _PRACTICE),
    "arm_share": About("Pull the arms hold, of body weight", "Rider", _R, 0.1, 1.0, 0.10, _PRACTICE),
    "harness_share": About("Pull held in a harness, of body weight", "Rider", _R, 0.2, 1.5, 0.10, _PRACTICE),
    "rail_arm": About("Body's centre outside the straps, of height", "Rider", _R, 0.1, 0.7, 0.05, "hanging from straps nearly "
        "level; Winter 2009 (from memory)"),
    "effort_height": About("Sail's centre of effort, of the luff", "Sail", _R, 0.25, 0.6, 0.03, _PRACTICE),
    "stroke_efficiency": About("Stroke efficiency: drag power over rider's power", "Paddle", _R, 0.3, 0.9, 0.08,
    "blade and body losses of flat-water paddling (from memory)"),
    "stroke_rate": About("Strokes a second", "Paddle", _R, 0.3, 2.0, 0.1, _PRACTICE),
    "stroke_push": About("Mean push of a hard stroke, of body weight", "Paddle", _R, 0.05, 0.4, 0.03, "instrumented paddles (from memory)"),
    "rider_drag_area": About("Standing rider, drag coefficient × area", "Air", _S, 0.1, 1.0, 0.08, "standing bodies: Hoerner 1965 (from memory)"),
    "lying_drag_area": About("Lying rider, drag coefficient × area", "Air", _S, 0.03, 0.5, 0.04, "lying bodies: Hoerner 1965 (from memory)"),
    "body_drag": About("Limbs in the water, drag coefficient", "Rider", _R, 0.3, 2.0, 0.3, "blunt cylinders: Hoerner 1965 (from memory)"),
    "foil_lift_most": About("Greatest lift coefficient", "Foil", _R, 0.5, 1.6, 0.10, "12 to 14 % cambered sections near Re 3e5 (from memory)"),
    "foil_lift_used": About("Share of it used to lift off", "Foil", _R, 0.4, 1.0, 0.07, _PRACTICE),
    "foil_zero_lift": About("Zero-lift angle below the plate", "Foil", _A, 0.0, 0.15, 0.013, _PRACTICE),
    "foil_profile_drag": About("Profile drag coefficient", "Foil", _R, 0.004, 0.05, 0.003, _NACA),
    "mast_chord": About("Mast chord", "Foil", _L, 0.06, 0.25, 0.01, _PRACTICE),
    "mast_thickness": About("Mast thickness over chord", "Foil", _R, 0.08, 0.25, 0.02, _PRACTICE),
    "mast_profile_drag": About("Mast drag coefficient", "Foil", _R, 0.004, 0.05, 0.002, _NACA),
    "stabiliser_share": About("Stabiliser area over front wing", "Foil", _R, 0.05, 0.4, 0.03, _PRACTICE),
    "fin_profile_drag": About("Profile drag coefficient", "Fins", _R, 0.004, 0.05, 0.002, _NACA),
    "fin_lift_most": About("Greatest lift coefficient", "Fins", _R, 0.5, 1.6, 0.12, _NACA),
    "fin_ventilation": About("Lift coefficient that draws air", "Fins", _R, 0.3, 1.5, 0.15, "struts near the surface: Swales 1974 (from memory)"),
    "slam_share": About("Share of the rider that strikes with the board", "Landing", _R, 0.0, 1.0, 0.10, _PRACTICE),
}  # fmt: skip


HANDBOOK_COEFFICIENTS = Coefficients()
"""The coefficients as they ship."""


def with_values(values: dict[str, float]) -> Coefficients:
    """The handbook's coefficients with the workshop's own in their place; keys of no coefficient are left out."""
    known = {f.name for f in fields(Coefficients)}
    return Coefficients(**{key: value for key, value in values.items() if key in known})
