"""Any construction on any board: masses add up, more cloth is heavier and no softer, what is off is not there."""

import unittest
from dataclasses import replace
from math import radians
from typing import get_args

import numpy as np

from kelvor.core.base.disciplines import Discipline
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.mass.stages import STAGES, forecasts
from kelvor.core.build.materials.layup import layup, with_construction
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.sheet import lamination_sheet
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.build.stiffness.stage import stiffness_stage
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.layer_benefit import built, with_count
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.parts.construction import ZONES, Coat, Construction, Core, Ply, Stringer
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.exchange.documents import board_text, parse_board
from tests.support import random_family_board

SEEDS = range(8)


def random_construction(seed, length):
    rng = np.random.default_rng(seed)
    plies = []
    for i in range(int(rng.integers(2, 7))):
        zone = ZONES[int(rng.integers(len(ZONES)))]
        start = float(rng.uniform(0, 0.6) * length) if rng.random() < 0.4 else None
        plies.append(
            Ply(
                name=f"Layer {i}",
                cloth=str(rng.choice([c.key for c in HANDBOOK.cloths])),
                zone=zone,
                count=int(rng.integers(1, 4)),
                start=None if start is None else Place("tail", start),
                end=None if start is None else Place("tail", start + 0.3),
                width=0.2 if zone in ("deck", "bottom") and rng.random() < 0.5 else 0.0,
                angle=radians(float(rng.choice([0, 30, 45]))),
                wrap=float(rng.choice([0.0, 0.03])),
            )
        )
    plies += [Ply(name="Bottom", cloth="glass4", zone="bottom"), Ply(name="Deck", cloth="glass4", zone="deck")]
    stringers = (Stringer(name="Keel strip", material="poplar", width=0.004),) if rng.random() < 0.5 else ()
    core = (
        Core(stock="paulownia", build=str(rng.choice(["chambered", "hollow"])))
        if rng.random() < 0.25
        else Core(stock="eps20")
    )
    method = str(rng.choice(["hand", "bagged"]))
    return Construction(
        name=f"Random {seed}", core=core, method=method, plies=tuple(plies), stringers=stringers, bags=2
    )


class RandomConstructions(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.found = []
        seed = 0
        while len(cls.found) < len(SEEDS):
            live = evaluate_live(random_family_board(seed), Brief())
            seed += 1
            if isinstance(live, tuple):
                continue
            construction = random_construction(seed, live.board.length)
            board = with_construction(live.board, live.geometry.shape, construction, HANDBOOK)
            cls.found.append((seed, replace(live.geometry, board=board), construction))

    def again(self, measured: Geometry, construction: Construction):
        return built(measured, construction, Brief(), HANDBOOK)

    def test_parts_are_the_whole_and_the_last_stage_is_the_board(self):
        for _, measured, construction in self.found:
            mass = board_mass(measured, HANDBOOK)
            self.assertAlmostEqual(sum(part.mass for _, part in mass.parts), mass.total.mass, places=9)
            stages = [f.mass for f in forecasts(measured, mass)]
            self.assertAlmostEqual(stages[-1], mass.total.mass, places=6)
            parts = dict(mass.parts)
            wood = sum(parts[name].mass for name in ("Keel strip", "glue lines") if name in parts)
            self.assertAlmostEqual(stages[STAGES.index("shaped")], parts["core"].mass + wood, places=9)
            self.assertTrue(all(np.diff(stages[2:]) >= -1e-9), (construction.name, stages))

    def test_cloth_weighs_its_area_times_its_areal_mass(self):
        for _, measured, construction in self.found:
            laid = layup(measured.shape, construction, HANDBOOK)
            self.assertEqual(len(laid.plies), len(construction.plies))
            skin = float(laid.cells.area.sum())
            for item in laid.plies:
                cloth = HANDBOOK.cloth(item.ply.cloth)
                self.assertAlmostEqual(item.fibre, item.area * cloth.areal_mass, places=6)
                self.assertLessEqual(item.area, item.ply.count * skin * 1.1)
                self.assertGreater(item.resin, 0.0)

    def test_one_layer_more_is_heavier_and_never_softer(self):
        for _, measured, construction in self.found:
            now = self.again(measured, construction)
            for i in range(len(construction.plies)):
                more = self.again(measured, with_count(construction, i, 1))
                self.assertGreater(more.mass, now.mass)
                self.assertGreater(more.cost, now.cost)
                self.assertLessEqual(more.sag, now.sag * (1 + 1e-9), construction.plies[i])
                self.assertLessEqual(more.twist, now.twist * (1 + 1e-9), construction.plies[i])

    def test_what_is_off_is_as_if_it_were_not_there(self):
        for _, measured, construction in self.found:
            ply = construction.plies[0]
            off = replace(construction, plies=(replace(ply, on=False), *construction.plies[1:]))
            without = replace(construction, plies=construction.plies[1:])
            a, b = self.again(measured, off), self.again(measured, without)
            for key in ("mass", "yaw", "sag", "twist", "dent", "cost", "hours"):
                self.assertAlmostEqual(getattr(a, key), getattr(b, key), places=9, msg=key)

    def test_the_order_of_whole_layers_changes_no_weight(self):
        for _, measured, construction in self.found:
            turned = replace(construction, plies=construction.plies[::-1])
            self.assertAlmostEqual(self.again(measured, turned).mass, self.again(measured, construction).mass, places=9)

    def test_coats_weigh_what_they_say(self):
        for _, measured, construction in self.found:
            coated = replace(construction, coats=(*construction.coats, Coat(name="More", areal_mass=0.1)))
            laid = layup(measured.shape, construction, HANDBOOK)
            gain = self.again(measured, coated).mass - self.again(measured, construction).mass
            self.assertAlmostEqual(
                gain / (0.1 * float(laid.cells.area.sum())), 1.0, delta=0.015
            )  # cloth lies on every other station

    def test_the_sheet_lists_every_layer_and_its_cloth(self):
        for _, measured, construction in self.found:
            mass = board_mass(measured, HANDBOOK)
            assert mass.layup is not None
            made = lamination_sheet(measured, mass.layup, HANDBOOK)
            self.assertEqual(
                {cut.ply.name for cut in made.cuts}, {p.name for p in construction.plies if p.on and p.count}
            )

    def test_a_document_brings_it_back(self):
        for _, measured, _ in self.found:
            self.assertEqual(parse_board(board_text(measured.board), "here"), measured.board)

    def test_stiffness_is_finite_everywhere_and_nowhere_negative(self):
        for _, measured, _ in self.found:
            stage = stiffness_stage(measured, board_mass(measured, HANDBOOK), Brief(), HANDBOOK)
            assert stage is not None
            for along in (stage.along.bending, stage.along.twist):
                self.assertTrue(np.isfinite(along).all() and (along >= 0).all())
            self.assertTrue(all(np.isfinite(f.value) for f in stage.figures if f.exists))


class Recipes(unittest.TestCase):
    def test_every_recipe_names_what_the_table_has_and_builds_a_board(self):
        live = evaluate_live(first_board("Recipe", "wing foil", 1.5, 0.6, 0.12), Brief())
        assert not isinstance(live, tuple)
        weights = {}
        for recipe in {r.name: r for key in get_args(Discipline) for r in recipes(key)}.values():
            with self.subTest(recipe.name):
                weights[recipe.name] = built(live.geometry, recipe, Brief(), HANDBOOK).mass
        self.assertLess(weights["Light carbon, aramid deck"], weights["Glass by hand"])
