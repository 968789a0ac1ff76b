"""What every version must show: one lever of a demo board turned, all else kept, and the figure on the strip.

Each row says its ground: physics by the laws of the figure, or common practice, no source. Rows of cut-outs, kites,
landing, turning and fins stand in `test_first_levers` and `test_turning_levers`.
"""

import unittest
from dataclasses import replace

from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.levers.catalogue import levers, pull_lever, pulled_by
from tests.core.ride.test_first_levers import told
from tests.support import demo


def turned(slug, key, by=None, to=None):
    """A demo board with a lever moved by, or set to, an amount."""
    board = demo(slug)[0]
    if not by and to is None:
        return board
    lever = next(item for item in levers(board) if item.key == key)
    return pull_lever(board, lever, lever.read(board) + by if to is None else to).board


class Rows(unittest.TestCase):
    def row(self, slug, lever, amounts, *wanted, to=False, wind=None):
        """Figures rise (+), fall (−) or stay within 1 % (=) over the amounts of a lever."""
        wing = demo(slug)[1].wing
        wind = wind or (demo(slug)[1].wind.speed / KNOT if wing is not None else 0)
        boards = [turned(slug, lever, **{"to" if to else "by": amount}) for amount in amounts]
        read = [told(slug, board) for board in boards]
        for key, sense in wanted:
            with self.subTest(board=slug, lever=lever, figure=key):
                figures = [figure(key, wind) for figure in read]
                values = [figure.value for figure in figures]
                if sense == "=":
                    self.assertLess((max(values) - min(values)) / abs(values[0]), 0.01, values)
                else:
                    signed = values if sense == "+" else [-value for value in values]
                    self.assertTrue(all(a < b for a, b in zip(signed, signed[1:], strict=False)), values)

    def test_tails(self):
        """Common practice; physics: the wedge of still water under a wide tail, the curve of a longer radius."""
        self.row(
            "skua-102",
            "width_1ft_tail",
            (0.0, 0.02, 0.04),
            ("least_wind", "-"),
            ("upwind_vmg", "+"),
            ("rail_radius_30", "+"),
        )
        self.row("martlet-147", "width_1ft_tail", (0.0, 0.02, 0.04), ("wake_slope", "-"))
        cut = ("pitch_to_spare", "+"), ("hump_drag", "+"), ("least_wind_up", "+")
        self.row("dunlin-39", "layer.Tail cut.angle", (4 * DEGREE, 6 * DEGREE, 9 * DEGREE), *cut, to=True)

    def test_width_and_length(self):
        """Physics: righting by the cube of the waterline, friction by its area; common practice for kite boards."""
        self.row("merganser-12", "width", (0.0, 0.02), ("righting_peak", "+"), ("paddle_speed", "-"))
        self.row("redshank-139", "width", (0.0, 0.02), ("pull_to_plane", "-"), ("least_wind", "-"))
        self.row("fulmar-104", "width", (-0.04, 0.0, 0.04), ("least_wind_up", "="))
        self.row("dunlin-39", "length", (0.0, 0.10), ("least_wind_up", "-"), ("hump_drag", "-"))

    def test_bottom_and_deck(self):
        """Physics: a filled well holds no water, hollows cost lift of still water and soften no first touch."""
        wells = ("footwell_water", "-"), ("foot_width", "+"), ("righting_peak", "-")
        self.row("grebe-14", "deck.Standing well.amount", (None, 0.0), *wells, to=True)
        doubles = ("hump_drag", "+"), ("least_wind", "+"), ("run_speed", "=")
        self.row("shearwater-76", "layer.Double concave.amount", (0.0, 0.0025, 0.005), *doubles, to=True)
        self.row("redshank-139", "layer.Single concave.amount", (0.0, 0.005), ("slam", "="), to=True)
        self.row("dunlin-39", "volume", (0.0, 0.006), ("hump_drag", "-"))

    def test_a_towed_boards_drag_runs_on_over_its_rocker(self):
        """Physics: tips that turn up ever more leave the bottom between them what it was."""
        board = demo("dipper-138")[0]
        lever = next(item for item in levers(board) if item.key == "nose_rocker")
        boards = (pulled_by(board, lever, by) for by in (0.0, 0.5, 1.0, 1.5))
        drags = [told("dipper-138", one)("tow_drag", 0).value for one in boards]
        self.assertLess(max(drags) / min(drags), 1.1, drags)

    def test_a_larger_foil_lifts_off_by_the_root_of_its_area(self):
        """Physics: lift goes with area and the square of speed, at one span over chord."""
        foils = demo("plover-119")[1].foils
        larger = tuple(replace(foil, area=1.25 * foil.area, span=1.25**0.5 * foil.span) for foil in foils)
        plain, off = (told("plover-119", foils=each)("lift_off_speed", 16).value for each in (foils, larger))
        self.assertAlmostEqual(off / plain, 1.25**-0.5, delta=0.01)

    def test_ten_kilograms_of_rider_by_power(self):
        """Physics: a foil's lift-off goes with the root of the weight; least wind with its root to its whole."""
        for slug, key, low, high in (
            ("dunlin-39", "lift_off_speed", 0.45, 0.55),
            ("shearwater-76", "least_wind", 0.5, 1.0),
            ("tern-71", "least_wind", 0.5, 1.05),
        ):
            rider = demo(slug)[1].rider
            light, heavy = (
                told(slug, rider=replace(rider, mass=rider.mass + by))(key, 16).value for by in (-10.0, 10.0)
            )
            case = told(slug).case.model.weight / 9.81
            power = (heavy / light - 1) / (20 / case)
            with self.subTest(board=slug):
                self.assertTrue(low < power < high, power)


if __name__ == "__main__":
    unittest.main()
