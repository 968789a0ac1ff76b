"""How often an independent value lies inside the band that is shown: at least nine times in ten.

Independent: laws in closed form, other libraries' and converged records (named in the tests beside each), check values
of the trade and what practitioners expect to read (common practice, from memory, no source; `tests/plausible.py`). The
suite takes the methods' own bands, which are narrower than what is shown; `python -m tools.coverage` counts the
coefficients too.
"""

import sys
import unittest
from copy import copy
from dataclasses import replace
from math import radians

import numpy as np

from kelvor.core.base.fluids import GRAVITY, Water, air_density, vapour_pressure
from kelvor.core.base.units import DEGREE, INCH, KNOT, POUND
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.evaluation.uncertainty import with_counted_bands
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.model import SHARES
from kelvor.core.shape.parts.fittings import Fin
from kelvor.core.tank.displacement.waves import wave_drag
from kelvor.core.tank.laws.coefficients import ABOUT
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.tank.laws.wind import apparent
from kelvor.core.tank.laws.wings import image_factor, surface_ratio
from kelvor.core.tank.lifting.cavitation import cavitation_speed
from kelvor.core.tank.lifting.fins import BAND, FinLaw, fin_of, fins_holding
from kelvor.core.tank.lifting.foils import FoilWing, lift_off_speed
from kelvor.core.tank.sails.sails import gear_of, wind_at
from tests.core.ride.test_ride import slalom, slalom_brief, small_foil_board, small_foil_brief
from tests.plausible import rows, table
from tests.reference.prism import OPENPLANING, balanced, prism
from tests.reference.test_check_values import figures_of, of_size, of_thickness
from tests.reference.test_displacement import BROAD, WIGLEY
from tests.support import evaluated, pulls, wigley

SEA = Water()


def planing():
    """Trim and drag of prisms by openplaning 0.4.9; drag at 4° in closed form."""
    for mass, beam, rise, lcg, knots, trim, _, drag in OPENPLANING:
        planer = prism(beam, radians(rise))
        found = balanced(planer, mass * GRAVITY, beam, radians(rise), knots * KNOT, lcg, 0.9)
        yield f"trim at {knots} kn", trim, trim, found.trim / DEGREE, 1.0
        yield f"planing drag at {knots} kn", drag, drag, found.drag, SHARES["lift"] * found.drag
    for knots, drag in ((15, 119), (20, 106), (25, 93), (30, 85)):
        ours = float(prism(0.6).at(90 * GRAVITY, knots * KNOT, 4 * DEGREE).drag)
        yield f"planing drag at 4°, {knots} kn", drag, drag, ours, SHARES["lift"] * ours


def floating():
    """Wigley's hull over its true breadth (converged); a 4.27 m board under 95 kg (a record; ours under 88 kg)."""
    x, z, half, wetted = wigley(81, 17)
    for (froude, thin), (_, ratio) in zip(WIGLEY, BROAD, strict=True):
        speed = froude * np.sqrt(GRAVITY * 2.0)
        found = wave_drag(x, z, half, speed, 1000.0)
        value = thin * ratio * 500 * wetted * speed**2 / 1e3
        yield f"waves at Froude {froude:.2f}", value, value, found.broad, found.band
    model = ride_case(evaluated("heron-14")).model
    for speed, drag in ((2.5, 25), (3.0, 41), (3.5, 54)):
        state = model.running(speed)
        yield f"14 ft board at {speed} m/s", drag, drag, state.drag, state.band


def lifting():
    """Foils near the surface and take-off (own record), fins of a slalom board (Helmbold), cavitation (panels)."""
    for depth, ratio, sigma in ((0.5, 0.80, 0.53), (1, 0.90, 0.34), (2, 0.96, 0.16), (3, 0.98, 0.07)):
        here, image = float(surface_ratio(6.0, depth)), float(image_factor(depth / 6))
        yield f"lift {depth} chords deep", ratio, ratio, here, SHARES["foil"] * here
        yield f"image {depth} chords deep", sigma, sigma, image, SHARES["foil"] * image
    for area, speed in ((0.10, 4.24), (0.12, 3.87), (0.15, 3.47)):
        ours = lift_off_speed(FoilWing(area, 0.9, 0.8), 80 * GRAVITY, 0.85, SEA.density)
        yield f"take-off on {area * 1e4:.0f} cm²", speed, speed, ours, 0.06 * ours
    for span, leeway in ((0.33, 3.3), (0.37, 2.8), (0.40, 2.5)):
        load = fins_holding(
            (fin_of(Fin(span=span, base=0.125, rake=0.1, tip=0.5), 0.3),),
            430.0,
            10.0,
            SEA.density,
            FinLaw(0.0095, 1.0, 0.8),
        )
        yield f"leeway on {span * 100:.0f} cm", leeway, leeway, load.leeway / DEGREE, BAND * load.leeway / DEGREE
    for lift, knots in ((0.2, 33), (0.4, 23)):
        ours = cavitation_speed(0.10, lift, 0.3, SEA.density, vapour_pressure(15)) / KNOT
        yield f"boils lifting {lift}", knots, knots, ours, 0.15 * ours


def driving(banded=False):
    """Drive of hand wings (a record); side force and speed of a 73 cm slalom board, wind for a small foil board
    (trade).
    """
    for area, force in ((5, 148), (4, 118), (3, 89)):
        gear = gear_of("wing", "hand wing", area, 2.6, TABLE)
        ours = float(pulls(gear, *apparent(wind_at(gear, 15 * KNOT, 10), 3.0, radians(90)), air_density(15)).ahead)
        yield f"drive of {area} m²", force, force, ours, ours * ABOUT["wing_lift_most"].band / TABLE.wing_lift_most

    def shown(board, brief):
        found = evaluate(board, brief)
        return with_counted_bands(found, condition_of(brief)) if banded else found

    for area, low, high in ((5.0, 14, 16), (2.5, 23, 27)):
        figure = shown(small_foil_board(), small_foil_brief(area)).figures["least_wind_up"]
        yield f"33 L board lifts off on {area} m²", low * KNOT, high * KNOT, figure.value, figure.band
    found = shown(slalom(), slalom_brief(22))
    rigged = ride_case(found).rigged
    held = float(rigged.held(0.0, 0.0))
    moves = [
        _held(rigged, key) - held
        for key in ("rail_arm", "strap_reach", "effort_height", "sail_luff", "sail_foot", "fin_centre")
    ]
    yield (
        "side force of a 73 cm board",
        400,
        460,
        held,
        float(np.hypot(0.03 * held, np.linalg.norm(moves))) if banded else 0.03 * held,
    )
    yield "73 cm board in 22 kn", 60 / 3.6, 70 / 3.6, found.figures["run_speed"].value, found.figures["run_speed"].band
    yield "its fin", 0.33, 0.40, found.figures["fin_best"].value, found.figures["fin_best"].band


def _held(rigged, key):
    """The side force with a coefficient moved by its band."""
    moved = replace(TABLE, **{key: getattr(TABLE, key) + ABOUT[key].band})
    other, gear = copy(rigged), rigged.gear
    other.model, other.gear = (
        rigged.model.otherwise(table=moved),
        gear_of(gear.name, gear.rig, gear.area, gear.mass, moved),
    )
    return float(other.held(0.0, 0.0))


def sizes():
    """Litres and pounds of boards of stated sizes (trade)."""
    kite = figures_of(of_thickness("kite surf", 68 * INCH, 19 * INCH, 2.125 * INCH), "kite surf")
    yield "kite surf 5'8\", litres", 23e-3, 24e-3, kite["volume"].value, kite["volume"].band
    yield "kite surf 5'8\", mass", 5 * POUND, 6 * POUND, kite["mass"].value, kite["mass"].band
    towed = figures_of(of_size("wake surf", 57 * INCH, 20 * INCH, 0.021), "wake surf")
    yield "towed surf 4'9\", mass", 6 * POUND, 6 * POUND, towed["mass"].value, towed["mass"].band
    prone = figures_of(of_size("prone race", 144 * INCH, 20 * INCH, 0.165), "prone race")
    yield "prone 12 ft, mass", 20 * POUND, 21 * POUND, prone["mass"].value, prone["mass"].band


def compared(*, banded=False):
    """All comparisons: what, least and most of the independent value, ours, its band; SI or as named."""
    told = [row for source in (planing, floating, lifting, lambda: driving(banded), sizes) for row in source()]
    return told + [(f"{r.board}: {r.label}", r.least, r.most, r.value, r.band) for r in rows(banded=banded)]


def summary(told):
    """How many lie inside their bands, and those that do not."""
    missed = [
        f"  missed: {name}, {ours:.4g} ±{band:.2g} for {low:.4g} to {high:.4g}"
        for name, low, high, ours, band in told
        if not (ours + band >= low and ours - band <= high)
    ]
    return 1 - len(missed) / len(told), "\n".join(
        [f"{len(told) - len(missed)} of {len(told)} independent values inside the bands", *missed]
    )


class Coverage(unittest.TestCase):
    def test_most_lie_inside_the_methods_own_bands(self):
        inside, said = summary(compared())
        print(said, file=sys.__stdout__)
        self.assertGreaterEqual(inside, 0.88, said)

    def test_what_a_practitioner_expects_to_read(self):
        found = rows()
        print(table(found), file=sys.__stdout__)
        self.assertEqual(len({row.family for row in found}), 8)
        self.assertTrue(all(sum(r.family == row.family for r in found) >= 6 for row in found))
        # what is missed stands with its cause in docs/methods.md; a struck figure is no answer
        self.assertFalse([row.label for row in found if np.isnan(row.value)])


if __name__ == "__main__":
    unittest.main()
