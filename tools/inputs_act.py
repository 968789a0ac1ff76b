"""Whether everything that can be typed acts:

    python -m tools.inputs_act [brief | fittings | foil | coefficients | mill ...]

Each number and switch of a brief, of a board's fittings, of a foil, of the table of coefficients and of a mill is
changed by itself; something somebody reads must move by it on some demo board: a figure or its band, a picture, a
paper, a programme, or a refusal with its words. The tests walk a few of them, drawn by a seed.
"""

import sys
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from functools import cache
from typing import Any

import numpy as np

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of
from kelvor.core.base.mill import Mill
from kelvor.core.build.costing import to_buy
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.evaluation import Evaluation, evaluate, ride_case, with_ride
from kelvor.core.evaluation.uncertainty import PerturbedRide
from kelvor.core.mill.job import cut_face, face_programs, wanted_core
from kelvor.core.mill.stock import least_stock
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.core.ride.condition import condition_of
from kelvor.core.ride.pictures import Chart
from kelvor.core.ride.stage import ride
from kelvor.core.shape.board import Board
from kelvor.core.shape.surface.geometry import of_sections
from kelvor.core.shape.surface.sections import Resolution, Sections, sections
from kelvor.core.tank.laws.coefficients import ABOUT, Coefficients
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE
from kelvor.core.templates.marking import marks
from kelvor.demo.boards import demo_boards
from kelvor.exchange.drawings import fin_lines
from kelvor.exchange.milling import milling_page

DEMO = {slug: (board, brief) for slug, board, brief in demo_boards()}
BRIEFED, FITTED, FOILED, MILLED = (
    ("dunlin-39", "heron-14", "martlet-147"), ("tern-71", "dunlin-39", "guillemot-113"), "dunlin-39", "dipper-138",
)  # fmt: skip
"""Boards that between them read every part of a brief, fitting, foil and mill."""
DRAWN = ("outboard", "inserts", "pitch", "angle", "set_depth", "width", "length", "depth", "thickness")
"""What of a fitting is drawn or bought, and moves no figure on every board."""
ASKED = ("targets", "known", "hints", "refers")
"""What of a brief asks for figures and moves none."""
READERS = {
    "Hand wing": "sandpiper-46", "Sail": "skua-102", "Kite": "phalarope-174", "Rider": "skua-102", "Paddle": "heron-14",
    "Hull": "shearwater-76", "Air": "sandpiper-46", "Foil": "sandpiper-46", "Fins": "skua-102", "Turning": "tern-71",
    "Landing": "tern-71", "Water": "heron-14",
}  # fmt: skip
"""A board that reads the coefficients of each group."""
OTHERS = {
    "arm_share": "sandpiper-46", "harness_share": "phalarope-174", "lying_drag_area": "merganser-12",
    "body_drag": "stint-33",
    "limb_length": "stint-33", "running_trim": "sandpiper-46", "deck_ends": "heron-14",
    "touch_share": "sandpiper-46", "air_form": "eider-148", "air_skin": "eider-148", "side_push": "martlet-147",
    "step_ahead": "shearwater-76",
    "rider_centre": "sandpiper-46", "mast_centre": "eider-148", "foil_heel": "eider-148", "sail_stalled": "eider-148",
    "fin_reserve": "tern-71", "kite_dive": "redshank-139", "kite_dive_whole": "redshank-139", "step_back": "heron-14",
    "added_mass": "redshank-139", "release_angle": "whimbrel-97", "awash": "dunlin-39", "hull_yaw": "heron-14",
    "slide_heel": "dipper-138", "tail_breaks": "dipper-138", "chop_from": "shearwater-76", "roll_share": "tern-71",
    "pump_reserve": "whimbrel-97",
}  # fmt: skip
"""Coefficients that another board of the demo reads."""
BINDS_AT = {"kite_steered": "high", "tail_breaks": "low", "release_angle": "low"}
"""The end of their range at which limits bind that do not on boards as they are drawn."""
BEFORE_THE_RIDE = ("cruise", "roll_share", "mast_mass", "wing_mass", "fuselage_mass", "rig_height", "rider_centre")
"""Coefficients that the live path or the float read."""
PROVEN = "Loads"
"""The group that proof loads follow; the tests of made boards move it."""
BROAD = Mill(flat=0.006, ball=0.040, step=0.020, facing=0.0)
"""A mill that is soon through."""
SHORT = {"nut": replace(BROAD, sticks_out=0.06)}
"""What only acts on a cutter that sticks out little."""
Path = tuple[str | int, ...]


@dataclass(frozen=True)
class Input:
    """Something typed: where it stands, and whether changing it alone moves something on a board."""

    path: Path
    acts: Callable[[], bool]


def each_changed(value: Any) -> Iterator[tuple[Path, Any]]:
    """A value with one number or switch within it changed, for each: its path and the value."""
    for field in fields(value):
        held = getattr(value, field.name)
        inner: Any
        if is_dataclass(held):
            inner = ((path, {field.name: other}) for path, other in each_changed(held))
        elif isinstance(held, tuple) and held and is_dataclass(held[0]):
            inner = (
                (path, {field.name: (*held[:i], other, *held[i + 1 :])})
                for i, one in enumerate(held)
                for path, other in each_changed(one)
            )
        elif isinstance(held, bool):
            inner = [((), {field.name: not held})]
        elif isinstance(held, int | float):
            count = isinstance(held, int)
            inner = [((), {field.name: (held + 1 if held < 1 else held - 1) if count else held * 1.1 + 0.01})]
        else:
            continue
        yield from (((field.name, *path), replace(value, **changed)) for path, changed in inner)


@cache
def settled(slug: str) -> Evaluation:
    """A demo board with everything counted, on few stations."""
    return evaluate(*DEMO[slug], Resolution.COARSE)


def figures(slug: str, board: Board | None = None, *, quiver: bool = False, **brief: Any) -> dict[str, Any]:
    """Every figure told of a demo board, its board or brief changed; with `quiver` what each wing of it does."""
    own, of = DEMO[slug]
    found = evaluate(board or own, replace(of, **brief), Resolution.COARSE)
    case = ride_case(found)
    told = ride(case, condition_of(case.brief), pictures=quiver)
    values: dict[str, Any] = {f.key: (f.value, f.valid) for f in (*found.figures.values(), *told.figures)}
    return {**values, **{gear.gear: gear.most for gear in told.quiver}}


@cache
def as_it_is(slug: str, quiver: bool) -> dict[str, Any]:
    """Figures of a demo board as it is."""
    return figures(slug, quiver=quiver)


def moved(slug: str, board: Board | None = None, *, quiver: bool = False, **brief: Any) -> bool:
    """Whether a figure of a demo board moves."""
    plain = as_it_is(slug, quiver)
    return any(repr(plain.get(k)) != repr(v) for k, v in figures(slug, board, quiver=quiver, **brief).items())


def papers(board: Board) -> str:
    """What the papers of a board show of its fittings: marks, fins, what is bought."""
    shape = sections(board, Resolution.COARSE)
    assert isinstance(shape, Sections), shape
    measured = of_sections(shape)
    bought = to_buy(measured, board_mass(measured), HANDBOOK)
    return (
        repr([(m.words, m.points.tolist()) for m in marks(measured.shape)])
        + repr(bought)
        + repr([line.points.tolist() for _, line in fin_lines(measured.shape)])
    )


shown_papers = cache(papers)


def brief_inputs() -> Iterator[Input]:
    """Every part of a brief, on a board of each trade; a stance where none is strapped, watts where they are asked."""
    for slug in BRIEFED:
        for path, brief in each_changed(DEMO[slug][1]):
            key = tuple(p for p in path if isinstance(p, str))
            if key[0] not in ASKED:
                new = {f.name: getattr(brief, f.name) for f in fields(brief)}
                yield Input(key, lambda slug=slug, key=key, new=new: moved(slug, quiver="wings" in key, **new))


def fitting_inputs() -> Iterator[Input]:
    """Every part of a fitting: it moves a figure, or what of it is drawn or bought."""
    for slug in FITTED:
        board = DEMO[slug][0]
        for path, fittings in each_changed(board.fittings):
            other = replace(board, fittings=fittings)

            def acts(slug: str = slug, path: Path = path, board: Board = board, other: Board = other) -> bool:
                return (path[-1] in DRAWN and papers(other) != shown_papers(board)) or moved(slug, other)

            yield Input(path, acts)


def foil_inputs() -> Iterator[Input]:
    """Every number of a foil."""
    foil = DEMO[FOILED][1].foil
    for field in fields(foil):
        if field.name != "name":
            changed = replace(foil, **{field.name: getattr(foil, field.name) * 1.1 + 0.01})
            yield Input((field.name,), lambda changed=changed: moved(FOILED, foils=(changed,), foil_in_use=0))


@cache
def read(slug: str, table: Coefficients, *, whole: bool, pictures: bool) -> dict[Any, Any]:
    """What is shown of a board: figures and their bands, and what its pictures draw."""
    if whole:
        found = evaluate(*DEMO[slug], Resolution.COARSE, coefficients=table)
    else:
        still = replace(settled(slug), live=replace(settled(slug).live, coefficients=table))
        found = with_ride(
            still, ride(ride_case(still), condition_of(still.live.brief), still.floating, pictures=pictures)
        )
    shown = {key for phase in found.phases for key in phase.phase.figures}
    lines: dict[Any, Any] = {
        (key, line.name): tuple(line.y)
        for key, picture in found.ride.pictures.items()
        if isinstance(picture, Chart)
        for line in picture.lines
    }
    lines["quiver"] = tuple((row.gear, row.note, row.most) for row in found.ride.quiver)
    return (lines if pictures else {}) | {
        key: (figure.value if figure.valid else None, figure.band)
        for key, figure in found.figures.items()
        if key in shown
    }


@cache
def ridden(slug: str) -> PerturbedRide:
    """A board whose ride is counted with any coefficient moved."""
    return PerturbedRide(ride_case(settled(slug)), condition_of(DEMO[slug][1]))


def coefficient_acts(key: str) -> bool:
    """Whether moving a coefficient by its band moves a figure that is shown, or else its band or a picture."""
    about, slug = ABOUT[key], OTHERS.get(key) or READERS[ABOUT[key].group]
    if key in ridden(slug).read and key not in BINDS_AT and ridden(slug).moves(key):
        return True
    ways = [getattr(about, BINDS_AT[key]) - getattr(TABLE, key)] if key in BINDS_AT else [about.band, -about.band]
    whole = key in BEFORE_THE_RIDE
    return any(
        read(slug, other, whole=whole, pictures=p) != read(slug, TABLE, whole=whole, pictures=p)
        for other in (replace(TABLE, **{key: getattr(TABLE, key) + by}) for by in ways)
        for p in (False, True)
    )


def coefficient_inputs() -> Iterator[Input]:
    """Every coefficient but those that proof loads follow."""
    for key, about in ABOUT.items():
        if about.group != PROVEN:
            yield Input((key,), lambda key=key: coefficient_acts(key))


@cache
def milled(mill: Mill) -> tuple[str, ...] | str:
    """Programmes of one face, how long they take and the page beside them, or what is refused."""
    board = DEMO[MILLED][0]
    stock, stamp = least_stock(wanted_core(board), BROAD), Stamp(design=board.name, code=code_of(board), serial="1")
    try:
        files = face_programs(board, mill, stock, "bottom", stamp)
        face = cut_face(board, mill, stock, "bottom", files)
        told = milling_page(board, mill, stock, stamp, [face])
    except InputError as problem:
        return str(problem)
    return (*(file.text for file in files), repr(face.times), repr(face.judged), told)


def mill_inputs() -> Iterator[Input]:
    """Every number of a mill, at the least and at the most it may be told."""
    for field in fields(Mill):
        ends = (limit_of(Mill, field.name).low, limit_of(Mill, field.name).high)
        whole = isinstance(getattr(BROAD, field.name), int)

        def acts(name: str = field.name, ends: tuple[float, float] = ends, whole: bool = whole) -> bool:
            mill = SHORT.get(name, BROAD)
            others = (replace(mill, **{name: round(end) if whole else end}) for end in ends)
            return any(milled(other) != milled(mill) for other in others)

        yield Input((field.name,), acts)


WALKS: dict[str, Callable[[], Iterator[Input]]] = {
    "brief": brief_inputs, "fittings": fitting_inputs, "foil": foil_inputs, "coefficients": coefficient_inputs,
    "mill": mill_inputs,
}  # fmt: skip


def idle(inputs: Sequence[Input], *, few: int | None = None, seed: int = 35) -> tuple[list[Path], int]:
    """What moves nothing on any board, and how many were walked: all, or a `few` drawn by a seed."""
    paths = list(dict.fromkeys(one.path for one in inputs))
    if few is not None:
        paths = [paths[i] for i in np.random.default_rng(seed).permutation(len(paths))[:few]]
    return [path for path in paths if not any(one.acts() for one in inputs if one.path == path)], len(paths)


def main() -> None:
    """Walk what is named, or everything, and print what is idle."""
    for name in sys.argv[1:] or WALKS:
        stands, walked = idle(list(WALKS[name]()))
        print(
            f"{name}: {walked} walked, idle: {', '.join('.'.join(map(str, p)) for p in stands) or 'none'}", flush=True
        )


if __name__ == "__main__":
    main()
