"""What a practitioner expects to read, beside what the tank says: six figures a family, each with its condition.

Common practice, from memory, no source. Nothing is tuned to it; every miss stands in `docs/methods.md` with its cause.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.units import DEGREE, KNOT, Quantity, System, text
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.evaluation.uncertainty import with_counted_bands
from kelvor.core.new_board.first_boards import first_board
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.condition import condition_of
from kelvor.core.shape.surface.sections import Resolution
from tests.support import demo, evaluated

EXPECTED = (
    # board, figure, least, most [SI], condition
    ("dunlin-39", "least_wind_up", 14 * KNOT, 18 * KNOT, "4.4 m², 69 kg, 39 L"),
    ("dunlin-39", "least_wind_pumped", 10 * KNOT, 15 * KNOT, "the same, pumped"),
    ("dunlin-39", "hump_trim", 4 * DEGREE, 9 * DEGREE, "sinker on the way up"),
    ("sandpiper-46", "least_wind_up", 10 * KNOT, 13 * KNOT, "5.3 m², 69 kg, 46 L"),
    ("sandpiper-46", "hump_trim", 4 * DEGREE, 9 * DEGREE, "where the deck breaks the surface"),
    ("sandpiper-46", "feet_for_balance", -0.12, -0.05, "foil's drag a mast below"),
    ("curlew-102", "paddle_watts_4", 70, 130, "paddled at 4 kn, hull in the water"),
    ("curlew-102", "peak_watts", 250, 450, "onto the foil by paddling"),
    ("curlew-102", "lift_off_speed", 5.5 * KNOT, 7.5 * KNOT, "large foil, 63 kg"),
    ("eider-148", "least_wind_up", 8 * KNOT, 11 * KNOT, "8.3 m² sail"),
    ("eider-148", "run_speed", 16 * KNOT, 22 * KNOT, "8.3 m², 11 kn, 115°"),
    ("eider-148", "upwind_vmg", 6.5 * KNOT, 10 * KNOT, "8.3 m², 11 kn"),
    ("shearwater-76", "least_wind", 10 * KNOT, 12 * KNOT, "planes, 8.3 m²"),
    ("shearwater-76", "run_speed", 21 * KNOT, 25 * KNOT, "8.3 m², 13 kn, 115°"),
    ("shearwater-76", "trim", 2 * DEGREE, 4 * DEGREE, "running"),
    ("shearwater-76", "fin_best", 0.38, 0.42, "the same sail"),
    ("shearwater-76", "holds_to", 135 * DEGREE, 145 * DEGREE, "deepest course still planing"),
    ("skua-102", "upwind_vmg", 5 * KNOT, 7 * KNOT, "10.4 m², 13 kn"),
    ("turnstone-77", "least_wind", 12 * KNOT, 15 * KNOT, "planes, 5.1 m², 58 kg"),
    ("turnstone-77", "planing_speed", 7 * KNOT, 10 * KNOT, "58 kg"),
    ("turnstone-77", "hump_drag", 90, 150, "58 kg"),
    ("turnstone-77", "run", 20 * KNOT, 26 * KNOT, "5.1 m², 17 kn, 115°"),
    ("turnstone-77", "fin_margin", 0.4, 0.8, "the same"),
    ("turnstone-77", "fin_release_angle", 10 * DEGREE, 18 * DEGREE, "board level"),
    ("phalarope-174", "pull_to_plane", 200, 350, "63 kg"),
    ("phalarope-174", "upwind_angle", 54 * DEGREE, 64 * DEGREE, "7 m², 16 kn"),
    ("phalarope-174", "run", 18 * KNOT, 26 * KNOT, "7 m², 16 kn, 115°"),
    ("redshank-137", "upwind_angle", 57 * DEGREE, 67 * DEGREE, "10 m², 16 kn"),
    ("redshank-137", "edged", 0.33, 0.5, "share of the width wet, edging upwind"),
    ("redshank-137", "run", 18 * KNOT, 26 * KNOT, "10 m², 16 kn, 115°"),
    ("kittiwake-109", "paddle_watts_4", 130, 180, "84 kg, 109 L, at 4 kn"),
    ("kittiwake-109", "paddle_watts_3", 30, 70, "at 3 kn"),
    ("kittiwake-109", "planing_drag", 110, 180, "on a wave at 9 kn"),
    ("kittiwake-109", "wake_slope", 6 * DEGREE, 12 * DEGREE, "wave that carries it at 9 kn"),
    ("kittiwake-109", "nose_under_margin", 5 * DEGREE, 14 * DEGREE, "on the wave"),
    ("kittiwake-109", "righting_peak", 25, 80, "standing"),
    ("heron-14", "start_time", 6, 10, "to race pace"),
    ("heron-14", "paddle_speed", 4.7 * KNOT, 5.7 * KNOT, "on the paddler's watts"),
    ("heron-14", "pace_watts", 150, 230, "at race pace"),
    ("merganser-12", "paddle_speed", 4.3 * KNOT, 5.3 * KNOT, "prone, on the paddler's watts"),
    ("merganser-12", "start_time", 6, 10, "to race pace"),
    ("merganser-12", "glide_loss", 0.2 * KNOT, 0.6 * KNOT, "between strokes"),
    ("dipper-138", "tow_drag", 180, 300, "84 kg at 19 kn"),
    ("martlet-147", "wake_slope", 9 * DEGREE, 14 * DEGREE, "58 kg, no rope, 9.5 kn"),
    ("martlet-147", "tow_drag", 100, 160, "58 kg at 9.5 kn"),
    ("martlet-147", "trim", 2 * DEGREE, 8 * DEGREE, "on the wake"),
    ("swift-138", "wake_slope", 9 * DEGREE, 14 * DEGREE, "58 kg, no rope, 9.5 kn"),
    ("swift-138", "weight_place", 0.05, 0.30, "ahead of the back foot"),
)


@dataclass(frozen=True)
class Row:
    """A figure of a board beside what is expected of it; struck figures are NaN."""

    family: str
    board: str
    figure: str
    label: str
    quantity: Quantity
    value: float
    band: float
    least: float
    most: float
    condition: str

    @property
    def inside(self) -> bool:
        """Whether the figure's band meets what is expected."""
        return self.value + self.band >= self.least and self.value - self.band <= self.most

    def line(self) -> str:
        """The row as text, a cross before it where it misses."""
        value, band, low, high = (
            text(v, self.quantity, System.METRIC) for v in (self.value, self.band, self.least, self.most)
        )
        said = "struck" if np.isnan(self.value) else f"{value} ±{band}"
        return (
            f"{'  ' if self.inside else 'x '}{self.board:<15} {self.label:<36} {said:>22}   {low} to {high}   "
            f"{self.condition}"
        )


@cache
def _plain(slug: str):
    """A first board of a demo board's discipline and size, under the same brief."""
    board, brief = demo(slug)
    figures = evaluated(slug).figures
    first = first_board("Plain", brief.discipline, board.length, figures["width"].value, figures["thickness"].value)
    return evaluate(first, brief, Resolution.COARSE)


def _read(found, slug: str, key: str) -> tuple[str, Quantity, float, float]:
    """Label, quantity, value and band of a figure, or of what no phase lists."""
    brief = demo(slug)[1]
    if key in found.figures:
        figure = found.figures[key]
        return (
            figure.definition.label,
            figure.definition.quantity,
            figure.value if figure.valid else float("nan"),
            figure.band,
        )
    case = RideCase(ride_case(found), condition_of(brief), draw=False)
    if key == "run":
        return "Speed on the fast course", Quantity.SPEED, case.run.speed, 0.05 * case.run.speed
    if key == "trim":
        return "Trim, running", Quantity.ANGLE, case.model.base_trim(case.planing), 1 * DEGREE
    if key == "holds_to":
        polar = case.polar
        runs = polar.angle[polar.speed > case.under_way]
        return "Planes down to", Quantity.ANGLE, float(runs[-1]) if len(runs) else float("nan"), 2.5 * DEGREE
    assert key == "edged", key
    sailed = case.board.rigged.at(case.condition.wind, case.up.angle, case.up.speed)
    width = 2 * case.measured.at(case.measured.shape.edge_y, case.board.feet.back)
    return (
        "Width wet on edge",
        Quantity.SHARE,
        min(case.board.rigged.wet_width(sailed, case.up.speed) / width, 1.0),
        0.1,
    )


def rows(*, plain: bool = False, banded: bool = False) -> list[Row]:
    """All rows, of the demo boards or of plain boards of their size; bands with what coefficients leave open, or the
    methods' own.
    """
    told, boards = [], {}
    for slug, key, least, most, condition in EXPECTED:
        if slug not in boards:
            found = _plain(slug) if plain else evaluated(slug)
            boards[slug] = with_counted_bands(found, condition_of(demo(slug)[1])) if banded else found
        label, quantity, value, band = _read(boards[slug], slug, key)
        name = f"plain {slug.partition('-')[0]}" if plain else slug
        family = next(words for words, members in FAMILIES.items() if demo(slug)[1].discipline in members)
        told.append(Row(family, name, key, label, quantity, value, band, least, most, condition))
    return told


def table(found: list[Row]) -> str:
    """The rows as text, family by family."""
    lines, family = [], ""
    for row in found:
        if row.family != family:
            family = row.family
            lines.append(f"{family}")
        lines.append(row.line())
    lines.append(
        f"{sum(r.inside for r in found)} of {len(found)} meet what is expected (common practice, from memory, no "
        f"source)"
    )
    return "\n".join(lines)
