"""Stiffness against published closed forms and a general section library.

Sources: sectionproperties 3.10.2 (numbers in tests/data/section-properties.json, made once by its finite elements on
thin shells drawn inward by their thickness); Allen 1969 and beam theory for the sandwich; Bredt 1896; Jones, Mechanics
of Composite Materials, 2nd ed., for reduced stiffnesses (worked numbers from memory); Euler–Bernoulli frequencies.
"""

import json
import math
import unittest
from pathlib import Path

import numpy as np

from kelvor.core.base.units import OUNCE_PER_SQUARE_YARD
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.laminate import Lamina, engineering, fibre_volume, laid, lamina
from kelvor.core.build.materials.layup import cloth_plan, layup, skins, with_construction
from kelvor.core.build.materials.recipes import CARBON_BAGGED, GLASS_BY_HAND, recipes
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.build.stiffness.beam import first_frequency, three_point, tip, twist
from kelvor.core.build.stiffness.sections import Stiffness, closed_shells, solid_torsion, stiffness
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.construction import Construction, Ply
from kelvor.core.shape.surface.geometry import geometry
from tests.support import plain_board, shape_of, trimesh_of

REFERENCE = json.loads((Path(__file__).parents[1] / "data" / "section-properties.json").read_text())


def even_beam(length, bending=1000.0, twist_=500.0, shear=1e5, count=61):
    x = np.linspace(0, length, count)
    one = np.ones(count)
    return Stiffness(x, bending * one, twist_ * one, shear * one, 0 * one, one)


def inset(y, z, t):
    """The midline of a wall whose outer face is the half-curve (y, z)."""
    dy, dz = np.gradient(y), np.gradient(z)
    n = np.hypot(dy, dz)
    return np.maximum(y - t / 2 * dz / n, 0.0), z + t / 2 * dy / n


def one_shell(y, z, along, shear):
    """EI about its own neutral axis, GJ and that axis of one shell, through what a board's sections are read by."""
    found = closed_shells(*(np.asarray(values)[None] for values in (y, z, along, shear)))
    axis = float(found.first[0] / found.stretch[0])
    return float(found.second[0] - axis * found.first[0]), float(found.twist[0]), axis


class ClosedShells(unittest.TestCase):
    """Against sectionproperties: bending within 1.5 %, twist within 2 %: a midline is not a wall of some thickness."""

    def against(self, y, z, t, reference):
        my, mz = inset(np.asarray(y), np.asarray(z), t)
        ones = np.full(len(my) - 1, t)
        bending, torsion, _ = one_shell(my, mz, ones, ones)  # moduli of one: EI is I, GJ is J
        self.assertAlmostEqual(bending / reference["I"], 1.0, delta=0.015)
        self.assertAlmostEqual(torsion / reference["J"], 1.0, delta=0.02)

    def test_ellipse(self):
        r = REFERENCE["ellipse"]
        angle = np.linspace(-np.pi / 2, np.pi / 2, 181)
        self.against(r["a"] * np.cos(angle), r["b"] * np.sin(angle), r["t"], r)

    def test_ellipse_closed_form(self):
        """a 0.30 b 0.06 wall 1.5 mm, midline: I 4.361e-6, J 1.522e-5 m⁴ (closed form)."""
        angle = np.linspace(-np.pi / 2, np.pi / 2, 4001)
        t = np.full(4000, 0.0015)
        bending, torsion, axis = one_shell(0.30 * np.cos(angle), 0.06 * np.sin(angle), t, t)
        self.assertAlmostEqual(bending, 4.361e-6, delta=2e-9)
        self.assertAlmostEqual(torsion, 1.522e-5, delta=2e-8)
        self.assertAlmostEqual(axis, 0.0, places=9)

    def test_box_by_bredt(self):
        w, h, t = 0.498, 0.098, 0.002
        y, z = np.array([0, w / 2, w / 2, 0]), np.array([-h / 2, -h / 2, h / 2, h / 2])
        bending, torsion, _ = one_shell(y, z, np.full(3, t), np.full(3, t))
        self.assertAlmostEqual(torsion, 4 * (w * h) ** 2 * t / (2 * (w + h)), delta=1e-12)
        self.assertAlmostEqual(bending, 2 * t * w * (h / 2) ** 2 + 2 * t * h**3 / 12, delta=1e-11)
        self.assertAlmostEqual(bending / REFERENCE["box"]["I"], 1.0, delta=0.01)
        self.assertAlmostEqual(torsion / REFERENCE["box"]["J"], 1.0, delta=0.02)

    def test_sections_of_boards(self):
        for slug in ("dunlin-39", "turnstone-77", "heron-14"):
            with self.subTest(slug):
                r = REFERENCE[slug]
                self.against(r["y"], r["z"], r["t"], r)

    def test_solid_cores_by_saint_venant(self):
        """A⁴/(40 I_p): within 12 % of the finite elements for boards; 22 % where a deep well is cut into a
        race board.
        """
        for slug, within in (("dunlin-39", 0.12), ("turnstone-77", 0.12)):
            r = REFERENCE[slug]
            y, z = np.array(r["y"]), np.array(r["z"])
            area = abs(float(np.sum((y[:-1] + y[1:]) * np.diff(z))))
            ring = np.concatenate([np.column_stack([y, z]), np.column_stack([-y, z])[::-1]])
            a, b = ring, np.roll(ring, -1, axis=0)
            cross = a[:, 0] * b[:, 1] - b[:, 0] * a[:, 1]
            zc = float(np.sum((a[:, 1] + b[:, 1]) * cross)) / 6 / (cross.sum() / 2)
            zz = abs(float(np.sum(cross * (a[:, 1] ** 2 + a[:, 1] * b[:, 1] + b[:, 1] ** 2)))) / 12 - area * zc**2
            yy = abs(float(np.sum(cross * (a[:, 0] ** 2 + a[:, 0] * b[:, 0] + b[:, 0] ** 2)))) / 12
            self.assertAlmostEqual(zz / r["solid_I"], 1.0, delta=0.01)
            self.assertAlmostEqual(float(solid_torsion(area, yy + zz)) / r["solid_J"], 1.0, delta=within, msg=slug)


class Beams(unittest.TestCase):
    def test_sandwich_beam(self):
        """Width 100 mm, skins 0.8 mm (E 20 GPa), core 20 mm (G 4.62 MPa), 100 N on 0.4 m: 0.384 + 1.002 mm (Allen 1969,
        closed form).
        """
        b, t, c, e, ec, g = 0.1, 0.0008, 0.020, 20e9, 12e6, 4.62e6
        d = c + t
        bending = e * b * t * d * d / 2 + e * b * t**3 / 6 + ec * b * c**3 / 12
        shear = b * d * d / c * g
        found = three_point(even_beam(0.4, bending, 1.0, shear), 0.0, 0.4, 100.0)
        self.assertAlmostEqual(found.bending * 1e3, 0.384, delta=0.0015)
        self.assertAlmostEqual(found.shear * 1e3, 1.002, delta=0.0025)
        self.assertAlmostEqual(found.total, found.bending + found.shear)

    def test_cantilever_and_twist(self):
        beam = even_beam(2.0)
        found = tip(beam, 0.5, 2.0, 100.0)
        self.assertAlmostEqual(found.bending, 100 * 1.5**3 / (3 * 1000), delta=1e-5)  # P l³ / 3 EI
        self.assertAlmostEqual(found.shear, 100 * 1.5 / 1e5, delta=1e-9)
        self.assertAlmostEqual(twist(beam, 0.5, 1.5), 1.0 / 500, places=9)
        aside = three_point(beam, 0.0, 2.0, 100.0, 0.5)
        self.assertAlmostEqual(aside.bending, 100 * 0.5**2 * 1.5**2 / (3 * 1000 * 2.0), delta=1e-6)  # P a² b² / 3 EI l

    def test_frequency_of_an_even_beam(self):
        """Pinned at both ends: f = π/2 √(EI / m l⁴); pinned at quarter points it is higher by the overhang's
        solution.
        """
        beam = even_beam(2.0, 1000.0)
        mass = np.full(61, 3.0)
        exact = math.pi / 2 * math.sqrt(1000.0 / (3.0 * 2.0**4))
        self.assertAlmostEqual(first_frequency(beam, mass, (0.0, 2.0)) / exact, 1.0, delta=1e-3)
        # the free-free beam's nodes lie at 0.2242 l: pinned there it vibrates as if free, (4.730)²/2π √(EI/ml⁴)
        free = 4.7300**2 / (2 * math.pi) * math.sqrt(1000.0 / (3.0 * 2.0**4))
        self.assertAlmostEqual(first_frequency(beam, mass, (0.2242 * 2, 0.7758 * 2)) / free, 1.0, delta=5e-3)


class Lamination(unittest.TestCase):
    def test_reduced_stiffness_worked(self):
        """Glass/epoxy E1 38.6, E2 8.27, G12 4.14 GPa, ν12 0.26: Q11 39.17, Q12 2.18, Q22 8.39, Q66 4.14 GPa (Kaw,
        Mechanics of Composite Materials, worked example, from memory; Q by the closed form)."""
        q = Lamina(38.6e9, 8.27e9, 4.14e9, 0.26).reduced() / 1e9
        for found, wanted in ((q[0, 0], 39.17), (q[0, 1], 2.182), (q[1, 1], 8.392), (q[2, 2], 4.14)):
            self.assertAlmostEqual(found, wanted, delta=0.01)

    def test_turned_stiffness(self):
        """Graphite/epoxy E1 181, E2 10.3, G12 7.17 GPa, ν12 0.28 at 45°: Q̄11 = Q̄22 56.66, Q̄12 42.32, Q̄66 46.59 GPa
        (Tsai and Hahn 1980, T300/5208, from memory)."""
        q = Lamina(181e9, 10.3e9, 7.17e9, 0.28).turned(math.pi / 4) / 1e9
        for found, wanted in ((q[0, 0], 56.66), (q[1, 1], 56.66), (q[0, 1], 42.32), (q[2, 2], 46.59), (q[0, 2], 42.87)):
            self.assertAlmostEqual(found, wanted, delta=0.02)
        full = Lamina(181e9, 10.3e9, 7.17e9, 0.28)
        for angle in (0.3, 1.0):  # invariants under rotation
            a, b = full.reduced(), full.turned(angle)
            self.assertAlmostEqual(
                (a[0, 0] + a[1, 1] + 2 * a[0, 1]) / (b[0, 0] + b[1, 1] + 2 * b[0, 1]), 1.0, places=12
            )

    def test_micromechanics_limits(self):
        fibre, resin = HANDBOOK.fibre("carbon"), HANDBOOK.resin("epoxy")
        none, half = lamina(fibre, resin, 1e-9), lamina(fibre, resin, 0.5)
        self.assertAlmostEqual(none.e1 / resin.e, 1.0, places=6)
        self.assertAlmostEqual(none.e2 / resin.e, 1.0, places=6)
        self.assertAlmostEqual(half.e1, 0.5 * (fibre.e1 + resin.e), delta=1.0)
        self.assertTrue(resin.e < half.e2 < fibre.e2)
        # mass fractions come back: 0.6 by mass of E-glass in epoxy is 0.405 by volume (closed form)
        glass = HANDBOOK.fibre("e_glass")
        self.assertAlmostEqual(fibre_volume(glass, resin, 0.6), (0.6 / 2540) / (0.6 / 2540 + 0.4 / 1150), places=12)

    def test_bias_cloth_twists_and_straight_cloth_bends(self):
        straight = laid(HANDBOOK.cloth("carbon200"), 0.0, HANDBOOK.resin("epoxy"), "bagged", HANDBOOK)
        bias = laid(HANDBOOK.cloth("carbon200"), math.pi / 4, HANDBOOK.resin("epoxy"), "bagged", HANDBOOK)
        terms = ((0, 0), (0, 1), (1, 1), (2, 2))
        (ex, gx), (eb, gb) = (
            engineering(*(np.asarray(part.membrane[i, j]) for i, j in terms)) for part in (straight, bias)
        )
        self.assertGreater(float(ex), 3 * float(eb))
        self.assertGreater(float(gb), 4 * float(gx))
        self.assertAlmostEqual(straight.thickness, bias.thickness)

    def test_ounces_are_converted_exactly(self):
        """1 oz/yd² is 33.906 g/m² (international yard and avoirdupois ounce, exact)."""
        self.assertAlmostEqual(OUNCE_PER_SQUARE_YARD * 1000, 33.905747, places=6)
        self.assertAlmostEqual(HANDBOOK.cloth("glass6").areal_mass, 6 * 0.033906, delta=1e-4)


class OnTheBoard(unittest.TestCase):
    def test_areas_of_zones_against_the_mesh(self):
        shape = shape_of(plain_board())
        body = trimesh_of(shape)
        everywhere = Construction(name="All", plies=(Ply(name="All", cloth="glass4", zone="all round"),), coats=())
        found = layup(shape, everywhere, HANDBOOK)
        flat_ends = sum(
            2 * abs(float(np.trapezoid(shape.y[i, : shape.columns.top + 1], shape.z[i, : shape.columns.top + 1])))
            for i in (0, -1)
        )
        self.assertAlmostEqual((found.plies[0].area + flat_ends) / body.area, 1.0, delta=3e-3)
        # a patch of stated size on the flat of the bottom
        piece = Ply(
            name="P",
            cloth="glass4",
            zone="bottom",
            count=2,
            start=Place("tail", 0.403),
            end=Place("tail", 0.791),
            width=0.2,
        )
        patch = Construction(name="P", plies=(piece,), coats=())
        self.assertAlmostEqual(layup(shape, patch, HANDBOOK).plies[0].area / (2 * 0.388 * 0.2), 1.0, delta=5e-3)

    def test_mass_adds_up_to_the_gram_and_thickness_parts_core_from_finished(self):
        board = plain_board()
        for construction in (CARBON_BAGGED, GLASS_BY_HAND):
            built = with_construction(board, shape_of(board), construction, HANDBOOK)
            found = evaluate(built, Brief())
            parts = dict(found.live.mass.parts)
            self.assertAlmostEqual(sum(p.mass for p in parts.values()), found.figures["mass"].value, places=9)
            cloth = sum(p.mass for name, p in parts.items() if name.startswith("cloth"))
            self.assertAlmostEqual(cloth, sum(p.fibre for p in found.live.mass.layup.plies), places=9)
            skin = sum(
                float(s.area) * t
                for s, t in zip(
                    found.live.geometry.shells.values(),
                    (built.skin.bottom, built.skin.rail, built.skin.deck),
                    strict=True,
                )
            )
            self.assertAlmostEqual(
                found.live.geometry.solid.volume - found.figures["core_volume"].value, skin, delta=2e-6
            )
            self.assertEqual({f.key for f in found.stiffness.figures} - set(found.figures), set())

    def test_senses(self):
        board = plain_board()
        shape = shape_of(board)
        base = Construction(
            name="B",
            plies=(
                Ply(name="D", cloth="carbon200", zone="deck", wrap=0.3),
                Ply(name="B", cloth="carbon200", zone="bottom", wrap=0.3),
            ),
        )
        bias = Construction(
            name="B",
            plies=tuple(
                Ply(name=p.name, cloth=p.cloth, zone=p.zone, wrap=p.wrap, angle=math.pi / 4) for p in base.plies
            ),
        )

        def middle(construction):
            measured = geometry(with_construction(board, shape, construction, HANDBOOK))
            found = stiffness(measured, construction, skins(measured.shape, construction, HANDBOOK), HANDBOOK)
            i = len(found.x) // 2
            return found.bending[i], found.twist[i], found.shear[i]

        straight, turned = middle(base), middle(bias)
        self.assertGreater(straight[0], 2 * turned[0])
        self.assertGreater(turned[1], 3 * straight[1])
        open_rail = Construction(
            name="O", plies=tuple(Ply(name=p.name, cloth=p.cloth, zone=p.zone) for p in base.plies)
        )
        self.assertLess(middle(open_rail)[1], 0.2 * straight[1])  # a shell that is open at the rail hardly twists back
        for discipline in ("twin tip", "wakeboard", "paddle surf", "slalom"):
            for construction in recipes(discipline):
                self.assertEqual(cloth_plan(construction, HANDBOOK), [])
        unknown = Construction(name="U", plies=(Ply(name="X", cloth="silk"),))
        self.assertIn("silk", cloth_plan(unknown, HANDBOOK)[0].text)
