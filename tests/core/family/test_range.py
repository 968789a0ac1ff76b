"""Options of a range and which board for whom: cells against the board built so, stock added up, reasons that hold."""

import math
import unittest
from dataclasses import replace

from kelvor.core.base.errors import InputError, RefusedEdit
from kelvor.core.base.figures import by_key
from kelvor.core.build.costing import together
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.family.options import (
    DESIGNED,
    NO_STRAPS,
    boxes_of,
    options_job,
    straps_of,
    with_option,
)
from kelvor.core.family.rider_sizes import Customer, ease, fits, wanted_litres
from kelvor.core.new_board.proposals import proposals
from kelvor.core.shape.surface.geometry import geometry
from kelvor.demo.boards import demo_boards

BOARDS = {name: (board, brief) for name, board, brief in demo_boards()}


class Options(unittest.TestCase):
    def test_each_cell_weighs_what_the_board_built_so_weighs(self):
        """Beside the live figures of the same board built the same way, another path to the same number."""
        board, brief = BOARDS["dunlin-39"]
        chosen = recipes("wing foil")[:2]
        cells = options_job(board, HANDBOOK, chosen, boxes_of(board), straps_of(board))
        self.assertEqual(len(cells), 2 * 2 * 2)
        for cell in cells:
            self.assertEqual(cell.problem, "")
            variant = with_option(board, cell.boxes, cell.straps)
            construction = next(c for c in chosen if c.name == cell.construction)
            built = with_construction(variant, geometry(variant).shape, construction, HANDBOOK)
            self.assertAlmostEqual(cell.mass, by_key(evaluate_live(built, brief).figures)["mass"].value, places=9)
            self.assertGreater(cell.cost, sum(line.cost for line in cell.needs))  # material, then hours
        by = {(c.construction, c.boxes, c.straps): c for c in cells}
        name = chosen[0].name
        self.assertLess(by[name, DESIGNED, NO_STRAPS].mass, by[name, DESIGNED, DESIGNED].mass)
        needs = by[name, "deep foil box", DESIGNED].needs
        self.assertEqual([line.what for line in needs if line.what.startswith("Foil")], ["Foil box"])

    def test_what_to_stock_is_the_sum_of_what_each_needs(self):
        board, _ = BOARDS["shearwater-69"]
        cells = options_job(board, HANDBOOK, recipes("slalom")[:1], (DESIGNED, "twin fins"), (DESIGNED,))
        needs = together([cell.needs for cell in cells])
        cloth = next(line for line in needs if line.unit == "m²" and "roll" in line.what)
        each = [sum(line.amount for line in cell.needs if line.what == cloth.what) for cell in cells]
        self.assertAlmostEqual(cloth.amount, sum(each), places=9)
        boxes = sum(line.amount for line in needs if line.what.startswith("Fin box"))
        self.assertEqual(boxes, 1 + 2)  # one board with a single fin, one with a twin

    def test_what_cannot_be_is_said_in_its_cell(self):
        board, _ = BOARDS["tern-71"]
        cells = options_job(board, HANDBOOK, recipes("wave windsurf")[:1], ("deep foil box",), (DESIGNED,))
        self.assertEqual(cells[0].problem, "This board has no foil.")
        with self.assertRaises(RefusedEdit):
            with_option(board, "nine fins", DESIGNED)


class Whom(unittest.TestCase):
    def test_litres_by_weight_and_skill_are_those_sizes_are_proposed_with(self):
        """Beside the sizes proposed for a first board, at its reference weight: common practice, no source."""
        brief = BOARDS["dunlin-39"][1]
        volumes = {}
        for skill in ("learning", "riding", "expert"):
            rider = replace(brief.rider, mass=75.0, skill=skill)
            volumes[skill] = proposals(replace(brief, rider=rider))[0].volume
        for skill in ("learning", "expert"):
            ours = wanted_litres(volumes["riding"], 75.0, "riding", 1.0, Customer(75.0, skill))
            self.assertAlmostEqual(ours, volumes[skill], delta=1e-5)  # proposed to a tenth of a decilitre
        heavier = wanted_litres(0.040, 70.0, "riding", 0.8, Customer(91.0))
        self.assertAlmostEqual(heavier, 0.040 * 1.3**0.8, places=12)
        with self.assertRaisesRegex(InputError, "no rider"):
            wanted_litres(0.04, 70.0, "riding", 1.0, Customer(900.0))

    def test_what_does_not_go_in_the_wind_comes_last_and_too_close_is_no_refusal(self):
        board, brief = BOARDS["dunlin-39"]
        figure = next(f for f in evaluate_live(board, brief).figures if f.key == "volume")

        def wind(value, band):
            return {"least_wind_up": replace(figure, value=value, band=band)}

        boards = [("near", 0.041, wind(9.0, 0.5)), ("right", 0.040, wind(7.0, 0.5)), ("far", 0.055, wind(6.0, 0.5))]
        found = fits(boards, Customer(75.0, wind=7.2), 0.040)
        self.assertEqual([fit.name for fit in found], ["right", "far", "near"])
        self.assertEqual([fit.goes for fit in found], [None, True, False])  # 7.0 ± 0.5 in 7.2 cannot be told
        self.assertAlmostEqual(found[1].off, math.log(55 / 40))
        calm = fits(boards, Customer(75.0), 0.040)  # no wind asked for
        self.assertEqual([fit.name for fit in calm], ["right", "near", "far"])
        even = [("small", 0.038, {}), ("large", 0.040 * 40 / 38, {})]
        self.assertEqual(fits(even, Customer(75.0, "learning"), 0.040)[0].name, "large")
        self.assertEqual(fits(even, Customer(75.0, "expert"), 0.040)[0].name, "small")

    def test_ease_is_words_and_grows_with_litres(self):
        told = [ease(v, 0.050, "wing foil") for v in (0.030, 0.042, 0.050)]
        self.assertEqual(told, ["for those who ride already", "asks for some practice", "easy to learn on"])
        self.assertEqual(ease(0.060, 0.050, "slalom"), told[0])  # nobody learns on a racing board, however large
