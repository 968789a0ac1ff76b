"""Made boards: what a sheet asks and finds, and the shape as built against a board that is known."""

import math
import unittest
from dataclasses import replace

import networkx
import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.build.materials.work import Activity, activities
from kelvor.core.evaluation.evaluation import ride_case, settle
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.made.as_built import as_built
from kelvor.core.made.made_boards import checked_serial, next_serial
from kelvor.core.made.proof import needed
from kelvor.core.made.schedule import earliest_schedule, missed, waits
from kelvor.core.made.service import service
from kelvor.core.made.sheet import BAGGED, lines_to_measure, reading_passes
from kelvor.core.measures.stance import feet
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.shape.parts.construction import Stringer
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from tests.support import demo


def bent(board, rocker=0.0, width=0.0, thickness=0.0):
    """A board as a workshop might have built it: nose and tail up, wider, thicker, each by so much [m]."""

    def moved(batten, by):
        return batten.with_values(batten.values + by)

    nose = np.array([w.x for w in board.rocker.weights]) / board.length
    return replace(
        board,
        rocker=moved(board.rocker, rocker * np.clip(4 * nose - 3, 0.0, 1.0)),
        outline=replace(board.outline, batten=moved(board.outline.batten, width)),
        thickness=moved(board.thickness, thickness),
    )


def readings_of(planned, built, noise=0.0, seed=4):
    """What tape and caliper say of a board at the places of another's sheet, with so many times their tools' spread."""
    rng, should = np.random.default_rng(seed), {m.key: m for m in lines_to_measure(geometry(built))}
    return {
        m.key: {side: should[m.key].should + noise * m.tool.reads * float(rng.normal()) for side in m.sides}
        for m in lines_to_measure(geometry(planned))
        if m.kind in ("width", "rocker", "thickness")
    }


class ProofLoads(unittest.TestCase):
    """What is asked in use, by statics, and never less for a weaker box."""

    def proof(self, slug, rider=None, table=HANDBOOK, coefficients=HANDBOOK_COEFFICIENTS, **construction):
        board, brief = demo(slug)
        board = replace(board, construction=replace(board.construction, **construction))
        brief = replace(brief, rider=replace(brief.rider, mass=rider or brief.rider.mass))
        return needed(evaluate_live(board, brief, table=table, coefficients=coefficients), table, coefficients)

    def test_a_landing_on_the_back_foot_is_a_force_at_its_distance_from_the_mast(self):
        board = demo("dunlin-39")[0]
        back = min(row.at.x(board.length, board.mast_x) for row in board.fittings.straps)
        told = self.proof("dunlin-39", rider=80.0, blocks="pvc80")
        self.assertAlmostEqual(told.moment, 1.5 * 3 * 80 * 9.80665 * (board.mast_x - back), delta=1.0)
        self.assertEqual((told.part, told.refused), ("mast", ""))
        self.assertIn("a landing of 3 times your weight on the back foot, 17 cm from the mast", told.why)
        harder = replace(HANDBOOK_COEFFICIENTS, landing_load=5.0)
        ratio = self.proof("dunlin-39", coefficients=harder).moment / self.proof("dunlin-39").moment
        self.assertAlmostEqual(ratio, 5 / 3, delta=0.01)

    def test_a_weaker_box_gets_no_smaller_load_but_none_at_all(self):
        weak, strong = self.proof("dunlin-39"), self.proof("dunlin-39", blocks="pvc80")
        self.assertEqual(weak.moment, strong.moment)
        self.assertRegex(
            weak.refused, r"foam alone holds 116 N m at the mast, and the proof would be 530 N m: set it in dense"
        )

    def close(self, slug):
        """What is asked of a demo board with both feet over the mast, and the side force of its ride."""
        board, brief = demo(slug)
        board = replace(board, fittings=replace(board.fittings, straps=()))
        middle = geometry(board).solid.x
        stance = 2 * abs(middle - (board.mast_x or middle)) + (0.0 if board.mast_x else 0.1)
        brief = replace(brief, rider=replace(brief.rider, stance=stance))
        live = evaluate_live(board, brief)
        ridden = RideCase(ride_case(settle(live)), condition_of(brief), draw=False)
        return service(live, HANDBOOK, HANDBOOK_COEFFICIENTS)[0], ridden.fin_load[1], brief

    def test_a_long_mast_and_deep_fins_are_asked_sideways_by_the_rides_own_side_force(self):
        asked, side, brief = self.close("eider-148")
        self.assertEqual(asked.part, "mast, sideways")
        self.assertAlmostEqual(asked.moment, side * brief.foil.mast_length, delta=0.02 * asked.moment)
        self.assertTrue(math.isnan(asked.held))  # what foam holds lengthwise says nothing of it
        asked, side, _ = self.close("skua-102")
        fin = demo("skua-102")[0].fittings.fin_boxes[0].fin
        self.assertEqual(asked.part, "fin box, sideways")
        self.assertAlmostEqual(
            asked.moment, side * HANDBOOK_COEFFICIENTS.fin_centre * fin.span, delta=0.1 * asked.moment
        )

    def test_boards_without_a_foil_are_asked_between_the_feet(self):
        board, brief = demo("redshank-139")
        stood = feet(geometry(board), brief.rider)
        told = self.proof("redshank-139")
        wanted = 1.5 * 3 * brief.rider.mass * 9.80665 * (stood.front - stood.back) / 4
        self.assertEqual((told.part, told.moment), ("deck, at the feet", math.ceil(wanted)))


class AsBuilt(unittest.TestCase):
    def test_a_board_that_was_built_otherwise_is_found_again(self):
        for slug in ("dunlin-39", "turnstone-77", "kittiwake-109", "heron-14"):
            planned, _ = demo(slug)
            built = bent(planned, rocker=0.006, width=0.003, thickness=-0.002)
            found = geometry(as_built(geometry(planned), readings_of(planned, built)).board)
            true, design = geometry(built), geometry(planned)
            with self.subTest(slug):
                # of what the litres were off, next to nothing is left
                off, left = (abs(g.solid.volume - true.solid.volume) for g in (design, found))
                self.assertGreater(off, 2e-4)
                self.assertLess(left, 0.12 * off + 2e-5)
                x = np.linspace(0.1, planned.length - 0.35, 30)
                for line in ("half_width", "keel", "deck"):
                    here, there = (np.interp(x, g.shape.x, getattr(g.shape, line)) for g in (found, true))
                    self.assertLess(np.abs(here - there).max(), 1.2e-3, line)

    def test_noise_of_the_tools_stays_noise(self):
        planned, _ = demo("kittiwake-109")
        design = geometry(planned)
        volumes = [
            geometry(as_built(design, readings_of(planned, planned, noise=1.0, seed=seed)).board).solid.volume
            for seed in range(5)
        ]
        self.assertLess(np.abs(np.array(volumes) / design.solid.volume - 1).max(), 0.006)

    def test_what_was_not_read_stays_as_designed(self):
        planned, _ = demo("dunlin-39")
        read = readings_of(planned, bent(planned, width=0.004))
        found = as_built(geometry(planned), {key: value for key, value in read.items() if key.startswith("width")})
        self.assertEqual((set(found.used), set(found.left)), ({"outline"}, {"rocker", "thickness"}))
        self.assertEqual(found.board.rocker, planned.rocker)
        with self.assertRaisesRegex(InputError, "three stations"):
            as_built(geometry(planned), {"width@0.305": {"left": 0.22}})


class Sheets(unittest.TestCase):
    def test_a_reading_decides_only_where_its_tool_can_tell(self):
        measures = {m.key: m for m in lines_to_measure(geometry(demo("dunlin-39")[0]))}
        rocker, plate = measures["rocker@0.914"], measures["flat.tracks"]
        self.assertEqual(rocker.sides, BAGGED)
        for off, outcome in (
            (0.0, "pass"),
            (0.0011, "pass"),
            (0.0016, "cannot tell"),
            (-0.0019, "fail"),
            (0.004, "fail"),
        ):
            self.assertEqual(reading_passes(rocker, rocker.should + off, {}), outcome, off)
        self.assertEqual(
            [reading_passes(plate, gap, {}) for gap in (0.0002, 0.0003, 0.0004)], ["pass", "cannot tell", "fail"]
        )
        self.assertEqual(reading_passes(plate, 0.0004, {"flat": 0.0006}), "pass")

    def test_serials(self):
        self.assertEqual(next_serial([], 2026), "26-001")
        self.assertEqual(next_serial(["SK-09", "SK-10", "one of a kind"], 2026), "SK-11")
        self.assertEqual(next_serial(["SK-100", "SK-099"], 2026), "SK-101")
        self.assertEqual(checked_serial("  A 7 ", ["a 8"]), "A 7")
        for wrong in ("", "  ", "a 8 "):
            with self.assertRaises(InputError):
                checked_serial(wrong, ["A 8"])


class Schedules(unittest.TestCase):
    def test_cure_by_temperature(self):
        """Closed form: the pace doubles every ten degrees."""
        for celsius, hours in ((10, 16.0), (15, 8 * math.sqrt(2)), (25, 8 / math.sqrt(2)), (30, 4.0)):
            cured = earliest_schedule((Activity("skin", "Skin", 1.0, 8.0),), celsius)[0].cured
            self.assertAlmostEqual(cured - 1.0, hours, places=9)

    def test_the_longest_way_is_a_general_librarys(self):
        """The critical path by networkx, over an order of work with two ways at once."""
        work = (
            Activity("deck", "Deck", 1.0),
            Activity("bottom", "Bottom", 1.0, 0.3, ("deck",)),
            Activity("boxes", "Boxes", 1.0, 6.0, ("bottom",)),
            Activity("laminate", "Laminate", 1.2, 8.0, ("bottom",)),
            Activity("top", "Top", 1.4, 10.0, ("boxes", "laminate")),
            Activity("weigh", "Weigh", 0.5, 0.0, ("top",)),
        )
        for celsius in (12.0, 20.0, 28.0):
            graph = networkx.DiGraph()
            for item in work:
                lasts = item.hands + item.cure / 2 ** ((celsius - 20) / 10)
                followers = [other.key for other in work if item.key in other.after] or ["end"]
                for other in followers:
                    graph.add_edge(item.key, other, weight=lasts)
            plan = {p.activity.key: p for p in earliest_schedule(work, celsius)}
            self.assertAlmostEqual(
                max(p.cured for p in plan.values()), networkx.dag_longest_path_length(graph), places=9
            )
            way = set(networkx.dag_longest_path(graph)) - {"end"}
            self.assertEqual({key for key, p in plan.items() if p.slack < 1e-9}, way)
        self.assertAlmostEqual({p.activity.key: p.slack for p in earliest_schedule(work, 20.0)}["boxes"], 2.2, places=9)

    def test_the_clock_tells_what_may_be_done_next_and_what_is_too_late(self):
        board = demo("dunlin-39")[0]
        work = activities(board.construction, HANDBOOK.resin(board.construction.resin), HANDBOOK.rates, 3)
        keys = [item.key for item in work]
        self.assertEqual(keys[0], "shape")
        self.assertLess(keys.index("bottom"), keys.index("deck"))
        self.assertEqual(set(waits(work, {}, 20.0)), {"shape"})
        done = {"shape": 30.0, "set": 30.0, "bottom": 2.0}
        cure = next(item.cure for item in work if item.key == "bottom")
        self.assertEqual(waits(work, done, 20.0), {"deck": cure - 2.0})
        self.assertAlmostEqual(waits(work, done, 10.0)["deck"], 2 * cure - 2.0, places=9)
        self.assertEqual(missed(work, done, 20.0), ())
        self.assertIn("sand it first", missed(work, {**done, "bottom": 4 * cure}, 20.0)[0])

    def test_what_must_have_been_done_is_not_asked_for_again(self):
        """A hollow board with stringers that was begun before ribs and stringers were listed: shaped, they are in."""
        board = demo("dunlin-39")[0]
        wood = Stringer(name="Middle", material="cedar")
        built = replace(board.construction, core=replace(board.construction.core, build="hollow"), stringers=(wood,))
        work = activities(built, HANDBOOK.resin(built.resin), HANDBOOK.rates, 3)
        self.assertEqual([item.key for item in work][:3], ["frame", "stringers", "shape"])
        self.assertEqual(set(waits(work, {}, 20.0)), {"frame"})
        self.assertEqual(set(waits(work, {"shape": 2.0}, 20.0)), {"set"})


if __name__ == "__main__":
    unittest.main()
