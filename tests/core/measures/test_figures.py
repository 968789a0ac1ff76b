"""Measures, mass, float and phase figures of whole boards, and verdicts."""

import unittest
from dataclasses import replace
from math import atan, radians

import numpy as np

from kelvor.core.base.figures import Figure, FigureDefinition
from kelvor.core.base.fluids import GRAVITY, Water
from kelvor.core.base.units import Quantity
from kelvor.core.brief.brief import Brief, Foil, KnownBoard, Rider, Target
from kelvor.core.build.mass.board_mass import board_mass, core_solid
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.verdicts import Outcome, judge_target
from kelvor.core.measures.check_values import hints
from kelvor.core.shape.board import BaseLine
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.section_view import section_measures
from kelvor.core.shape.surface.sections import Resolution, core_sections, sections_at
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards
from tests.support import cut_away, plain_board, some, trimesh_of, v_layer


def figures(board, brief=None):
    found = evaluate(board, brief or Brief())
    assert not isinstance(found, tuple), found
    return found.figures


class Measures(unittest.TestCase):
    def setUp(self):
        self.board = plain_board(layers=(v_layer(4),))
        self.found = figures(self.board, Brief(rider=Rider(mass=80.0)))

    def value(self, key):
        return self.found[key].value

    def test_size_figures_agree_with_the_drawing(self):
        board, half = self.board, lambda x: float(half_width(self.board.outline, self.board.length, np.array([x]))[0])
        self.assertEqual(self.value("length"), board.length)
        self.assertAlmostEqual(self.value("width_1ft_tail"), 2 * half(0.3048), places=9)
        self.assertAlmostEqual(self.value("width_30cm_nose"), 2 * half(board.length - 0.30), places=9)
        dense = np.linspace(0, board.length, 20001)
        b = half_width(board.outline, board.length, dense)
        self.assertAlmostEqual(self.value("width"), 2 * b.max(), delta=5e-6)
        self.assertAlmostEqual(self.value("wide_point"), dense[b.argmax()], delta=2e-3)
        self.assertAlmostEqual(self.value("planform_area"), 2 * np.trapezoid(b, dense), delta=2e-4)
        self.assertAlmostEqual(self.value("length_times_width"), board.length * 2 * b.max(), delta=1e-5)
        self.assertLess(self.value("planform_area"), self.value("length_times_width"))
        self.assertAlmostEqual(self.value("nose_rocker"), 0.09, places=9)
        self.assertAlmostEqual(self.value("tail_rocker"), 0.012, places=9)
        self.assertAlmostEqual(self.value("volume_per_rider_mass"), self.value("volume") / 80)
        self.assertAlmostEqual(
            self.value("fill_factor"),
            self.value("volume") / (board.length * self.value("width") * self.value("thickness")),
        )

    def test_every_figure_has_method_unit_and_band(self):
        for key, figure in self.found.items():
            with self.subTest(key):
                self.assertTrue(figure.definition.si and figure.definition.method.source and figure.definition.label)
                self.assertTrue(figure.band > 0 or not figure.exists)
                self.assertTrue(figure.exists or figure.note)

    def test_a_run_of_one_width_is_widest_in_its_middle(self):
        """Rounding alone may not choose the wide point, nor where the calipers are laid."""
        sides = (Weight(0, 0.17), Weight(0.45, 0.24, ruler=Ruler(0.05, 0.05)), Weight(0.95, 0.24), Weight(1.35, 0.14))
        board = replace(self.board, outline=replace(self.board.outline, batten=Batten(sides)))
        for factor in (1.0, 1 - 1e-13, 1 + 3e-14):
            weights = [replace(w, value=w.value * factor) for w in sides]
            found = figures(replace(board, outline=replace(board.outline, batten=Batten(tuple(weights)))))
            self.assertAlmostEqual(found["wide_point"].value, 0.70, delta=2e-3)
            self.assertAlmostEqual(found["width"].value, 0.48, delta=1e-6)
            there = section_measures(sections_at(board, np.array([0.6995, 0.70])), 1)
            self.assertAlmostEqual(found["caliper_25"].value, there.caliper_25, delta=2e-4)

    def test_a_rocker_that_bends_evenly_says_so(self):
        length, even = self.board.length, lambda x: 0.09 * ((x - 0.6) / 0.9) ** 2
        rocker = Batten(tuple(Weight(x, even(x)) for x in (0.0, 0.6, length)))
        found = figures(replace(self.board, rocker=rocker))["rocker_radius"]
        self.assertAlmostEqual(found.value, 0.9**2 / (2 * 0.09), delta=1e-6)
        self.assertRegex(found.note, r"^\d+ to \d+ cm from the tail$")
        self.assertRegex(self.found["rocker_radius"].note, r"^\d+ cm from the tail$")

    def test_one_foot_off_is_read_at_the_new_tail(self):
        from kelvor.core.shape.edits.edits import with_tail_cut

        cut = figures(with_tail_cut(self.board, 0.03))
        old = float(2 * half_width(self.board.outline, self.board.length, np.array([0.3048 + 0.03]))[0])
        self.assertAlmostEqual(cut["width_1ft_tail"].value, old, delta=1e-4)
        self.assertNotAlmostEqual(cut["width_1ft_tail"].value, self.value("width_1ft_tail"), places=3)


class Mass(unittest.TestCase):
    def test_core_against_its_own_mesh(self):
        board = plain_board(layers=(v_layer(3), cut_away(6)))
        board = replace(board, skin=replace(board.skin, deck=0.001, bottom=0.0008, rail=0.0012))
        core = core_solid(geometry(board, Resolution.FINE))
        body = trimesh_of(core_sections(board, Resolution.FINE))
        self.assertTrue(body.is_watertight)
        self.assertAlmostEqual(core.volume / body.volume, 1, delta=1e-3)
        self.assertAlmostEqual(core.x, body.center_mass[0], delta=5e-4)
        np.testing.assert_allclose([core.ixx, core.iyy, core.izz], np.diag(body.moment_inertia), rtol=5e-3)

    def test_parts_add_up_and_density_is_exact(self):
        measured = geometry(plain_board())
        found = board_mass(measured)
        self.assertAlmostEqual(sum(p.mass for _, p in found.parts), found.total.mass, places=12)
        core = dict(found.parts)["core"]
        self.assertAlmostEqual(core.mass, found.core.volume * 28.0, places=12)
        self.assertAlmostEqual(dict(found.parts)["deck skin"].mass, measured.shells["deck"].area * 1.05, places=12)
        heavier = replace(plain_board(), materials=replace(plain_board().materials, core_density=38.0))
        self.assertAlmostEqual(
            board_mass(geometry(heavier)).total.mass - found.total.mass, 10 * found.core.volume, places=9
        )

    def test_straps_anchored_to_the_mast_move_with_it(self):
        board = plain_board()
        tracks = replace(board.fittings.tracks, at=Place("tail", 0.55))
        moved = replace(board, fittings=replace(board.fittings, tracks=tracks))
        self.assertAlmostEqual(
            moved.fittings.straps[0].at.x(moved.length, moved.mast_x)
            - board.fittings.straps[0].at.x(board.length, board.mast_x),
            0.1,
        )


class Float(unittest.TestCase):
    def test_every_posture_balances(self):
        """Forces and moments of the solved attitude vanish, taken anew from its parts."""
        from kelvor.core.tank.floating.clipping import Hull
        from kelvor.core.tank.floating.posture import FloatingCase
        from kelvor.core.tank.floating.rider import rider_body

        for _, board, brief in some(demo_boards(), 9):
            found = evaluate(board, brief)
            measured, mass, foil = found.live.geometry, found.live.mass.total, brief.foil
            rho = brief.water.density
            for posture, state in found.floating.postures.items():
                with self.subTest(board=board.name, posture=posture):
                    self.assertTrue(state.level.found)
                    plane, place = state.level.plane, state.level.place
                    body = rider_body(
                        posture,
                        brief.rider.mass,
                        brief.rider.height,
                        brief.rider.stance,
                        float(measured.shape.half_width.max()),
                    ).upright_on(board.base.slope)
                    deck = measured.at(measured.shape.deck, place)
                    wet = Hull(measured.shape).immersion(plane) + body.immersion(plane, place, deck)
                    lift = 0.0 if posture == "sitting" else brief.wing_lift / GRAVITY
                    held = FloatingCase(
                        measured, mass, brief, posture, Hull(measured.shape), HANDBOOK_COEFFICIENTS
                    ).fixed[2:]  # rig, water in a footwell
                    weight = (
                        mass.mass + foil.mass - rho * foil.volume + brief.rider.mass - lift + sum(w.mass for w in held)
                    )
                    self.assertAlmostEqual(rho * wet.volume, weight, places=5)
                    mast = board.mast_x if board.mast_x is not None else measured.solid.x
                    slope, keel = board.base.slope, measured.at(measured.shape.keel, mast)
                    below = 0.6 * foil.mast_length  # a foil hangs square to the base line, which lies level

                    def along(x, z, slope=slope):  # along the water, which runs with the base line
                        return x + slope * z

                    moment = (
                        mass.mass * along(mass.x, mass.z)
                        + (foil.mass - rho * foil.volume) * along(mast + slope * below, keel - below)
                        + (brief.rider.mass - lift) * along(place + body.centre_x, deck + body.centre_z)
                        + sum(w.mass * along(w.x, w.z) for w in held)
                    )
                    self.assertAlmostEqual(rho * along(wet.x, wet.z), moment, delta=2e-3)
                    self.assertLessEqual(state.window[0], place)
                    self.assertGreaterEqual(state.window[1], place)
                    self.assertGreater(state.window[1] - state.window[0], 1e-3)

    def test_senses(self):
        board = plain_board()
        base = figures(board, Brief(rider=Rider(mass=75)))
        heavier = figures(board, Brief(rider=Rider(mass=85)))
        lifted = figures(board, Brief(rider=Rider(mass=75), wing_lift=160.0))
        fresh = figures(board, Brief(rider=Rider(mass=75), water=Water(kind="fresh", celsius=25)))
        deep = "float_deck_depth"
        self.assertGreater(heavier[deep].value, base[deep].value)
        self.assertLess(lifted[deep].value, base[deep].value)
        self.assertGreater(fresh[deep].value, base[deep].value)
        self.assertLess(base["float_sitting_deck_depth"].value, base["float_standing_deck_depth"].value)
        self.assertFalse(np.isfinite(base["float_trim"].value))
        self.assertIn("held by the rider", base["float_trim"].note)

    def test_level_is_the_base_line(self):
        """The same board drawn tilted, and laid level by its base line, floats and flies the same."""
        board = plain_board(layers=(v_layer(4), cut_away(6)))
        tilt = 0.03
        places = np.array(board.rocker.places)
        tilted = replace(
            board, rocker=board.rocker.with_values(board.rocker.values + tilt * places), base=BaseLine(slope=tilt)
        )
        level, laid = figures(board), figures(tilted)
        for key in (
            "float_deck_depth",
            "float_sitting_deck_depth",
            "float_knee_place",
            "float_roll_held",
            "roll_inertia",
            "pitch_inertia",
            "lean_before_touch",
            "nose_rocker",
        ):
            self.assertAlmostEqual(
                laid[key].value, level[key].value, delta=1e-2 * max(1.0, abs(level[key].value)), msg=key
            )
        # drawn tilted by shear, the board differs by cos 1.7°; the wrong sign would move the knees by more than 5 cm
        self.assertAlmostEqual(laid["float_alone_trim"].value, level["float_alone_trim"].value, delta=radians(0.2))

    def test_nobody_on_it(self):
        """Board and foil alone: the further aft the heavy foil hangs, the higher the nose lies."""
        board = plain_board()
        trims = []
        for mast in (0.40, 0.50, 0.75):
            tracks = replace(board.fittings.tracks, at=Place("tail", mast))
            found = figures(replace(board, fittings=replace(board.fittings, tracks=tracks)))
            trims.append(found["float_alone_trim"].value)
        self.assertTrue(trims[0] > trims[1] > trims[2])

    def test_a_large_board_floats_dry_and_comes_back(self):
        from kelvor.core.new_board.first_boards import first_board

        board = first_board("Big", "wing foil", 2.2, 0.8, 0.14)
        tracks = replace(board.fittings.tracks, at=Place("tail", 1.05))
        big = figures(replace(board, fittings=replace(board.fittings, tracks=tracks)), Brief(rider=Rider(mass=60)))
        self.assertLess(big["float_deck_depth"].value, 0)
        self.assertEqual(big["float_roll_held"].value, 0)
        self.assertGreater(big["float_roll_stiffness"].value, 0)
        self.assertTrue(np.isfinite(big["float_trim"].value))


class Phases(unittest.TestCase):
    def test_attitudes_by_hand(self):
        board = plain_board(layers=(cut_away(8, 0.3),))
        brief = Brief(foils=(Foil(name="F", mast_length=0.8, lift_ahead=0.1),), ride_height=0.4)
        found = figures(board, brief)
        mast = board.mast_x
        self.assertAlmostEqual(found["nose_touch_pitch"].value, atan(0.09 / (board.length - mast)), places=9)
        self.assertAlmostEqual(
            found["nose_touch_pitch_flying"].value, atan((0.09 + 0.4) / (board.length - mast)), places=9
        )
        rise = float(evaluate_live(board, brief).geometry.keel_line[0])
        self.assertAlmostEqual(found["tail_clearance"].value, atan(rise / 0.3), delta=radians(0.6))
        # lean: the edge at half-width b, r above the foil, reaches the water when r cos φ − b sin φ = depth
        b = float(half_width(board.outline, board.length, np.array([0.75]))[0])
        shape = evaluate_live(board, brief).geometry.shape
        i = int(np.argmax(shape.half_width))
        r, y = shape.apex_z[i] + 0.8, b
        by_apex = np.arccos(0.4 / np.hypot(r, y)) - np.arctan2(y, r)
        self.assertAlmostEqual(found["lean_before_touch"].value, by_apex, delta=radians(1.5))
        self.assertAlmostEqual(found["track_travel"].value, (0.30 - 0.17) / 2)

    def test_no_foil_no_figures(self):
        board = plain_board()
        found = figures(replace(board, fittings=replace(board.fittings, tracks=None)))
        for key in ("lean_before_touch", "mass_to_lift", "yaw_inertia_with_foil"):
            self.assertFalse(found[key].valid)
            self.assertIn("no foil tracks", found[key].note)
        high = figures(board, Brief(ride_height=0.9))["lean_before_touch"]
        self.assertFalse(high.valid)
        self.assertIn("above the mast", high.note)

    def test_less_swing_weight_turns_easier(self):
        board = plain_board()
        lean_nose = replace(board, thickness=board.thickness.with_values(board.thickness.values * [1, 1, 1, 0.8, 0.7]))
        self.assertLess(
            figures(lean_nose)["yaw_inertia_with_foil"].value, figures(board)["yaw_inertia_with_foil"].value
        )


class Verdicts(unittest.TestCase):
    def setUp(self):
        self.found = figures(plain_board())
        self.mass = self.found["mass"]

    def outcome(self, offset, relation="at most", **changes):
        target = Target(figure="mass", relation=relation, value=self.mass.value + offset, **changes)
        return judge_target(target, self.found, Brief())

    def test_band_decides_a_close_call(self):
        band = self.mass.band
        self.assertGreater(band, 0.05)
        for offset in (0.9 * band, -0.9 * band):
            self.assertIs(self.outcome(offset).outcome, Outcome.TOO_CLOSE)
        self.assertIs(self.outcome(1.1 * band).outcome, Outcome.MEETS)
        short = self.outcome(-1.1 * band)
        self.assertIs(short.outcome, Outcome.SHORT)
        self.assertAlmostEqual(short.margin, -1.1 * band)
        self.assertIs(self.outcome(-1.1 * band, "at least").outcome, Outcome.MEETS)

    def test_relative_targets_use_the_band_of_a_difference_where_both_were_computed(self):
        known = KnownBoard(name="old", figures=(("mass", self.mass.value * 1.02),), origin="computed")
        brief = Brief(known=known)
        target = Target(figure="mass", relation="at most", value=1.0, relative=True)
        self.assertIs(judge_target(target, self.found, brief).outcome, Outcome.MEETS)
        self.assertIs(
            judge_target(target, self.found, Brief(known=replace(known, origin="claimed"))).outcome, Outcome.TOO_CLOSE
        )
        self.assertGreater(self.mass.band, 0.02 * self.mass.value)
        self.assertIs(judge_target(target, self.found, Brief()).outcome, Outcome.UNKNOWN)

    def test_a_figure_that_only_ranks_is_judged_against_a_known_board_alone(self):
        definition = FigureDefinition("dent", "Dent, rank", Quantity.RATIO, ranks=True)
        found = {"dent": Figure(definition=definition, value=0.4, band=0.01)}
        plain = Target(figure="dent", relation="at least", value=0.1)
        verdict = judge_target(plain, found, Brief())
        self.assertIs(verdict.outcome, Outcome.UNKNOWN)
        self.assertIn("only ranks", verdict.note)
        known = Brief(known=KnownBoard(name="old", figures=(("dent", 0.5),)))
        self.assertIs(judge_target(replace(plain, relative=True, value=1.0), found, known).outcome, Outcome.SHORT)

    def test_a_figure_that_is_not_there_is_not_judged(self):
        verdict = judge_target(Target(figure="float_trim", relation="at most", value=0.0), self.found, Brief())
        self.assertIs(verdict.outcome, Outcome.UNKNOWN)


class CheckValues(unittest.TestCase):
    """Common practice, no source: they warn beside a figure, set nothing, and can be switched off."""

    def test_hints(self):
        board = plain_board()
        light, heavy = evaluate(board, Brief(rider=Rider(mass=75))), evaluate(board, Brief(rider=Rider(mass=240)))
        self.assertIn("volume_per_rider_mass", [h.figure for h in heavy.hints])
        self.assertTrue(all("common practice" in h.text for h in heavy.hints))
        self.assertLess(len(light.hints), len(heavy.hints))
        self.assertEqual(evaluate(board, Brief(rider=Rider(mass=240), hints=False)).hints, ())
        self.assertEqual(heavy.live.board, board)

    def test_sizes_are_held_in_proportion(self):
        """A prone board of 12 ft × 20 in, and one as slender and as heavy for its size at 14 ft, are both usual; one of
        20 in at 14 ft is slender, and told what its own would be.
        """

        def told(length, width, mass):
            values = {"length": length, "width": width, "length_times_width": length * width, "mass": mass}
            found = {
                key: replace(Figure(definition=BY_KEY[key], value=0.0), value=value) for key, value in values.items()
            }
            return {hint.figure: hint.text for hint in hints("prone race", found)}

        self.assertEqual(told(3.66, 0.508, 9.3), {})
        longer = 14 / 12
        self.assertEqual(told(3.66 * longer, 0.508 * longer, 9.3 * longer**2), {})
        slender = told(3.66 * 1.2, 0.508, 9.3 * 1.2)
        self.assertEqual(list(slender), ["width"])
        self.assertIn(
            "a 12 ft prone board is about 20 in wide; as slender, this one 55.2 cm to 64.8 cm", slender["width"]
        )
        self.assertEqual(list(told(3.66, 0.508, 12.0)), ["mass"])

    def test_an_invented_board_of_a_small_size_falls_among_them(self):
        """About 8 cm thick, 140 × 47 cm: near 33 L, fill factor about 0.63 (common practice, no source)."""
        from kelvor.core.new_board.first_boards import first_board

        found = figures(first_board("s", "wing foil", 1.40, 0.47, 0.08))
        self.assertAlmostEqual(found["fill_factor"].value, 0.63, delta=0.07)
        self.assertAlmostEqual(found["volume"].value, 0.033, delta=0.004)
