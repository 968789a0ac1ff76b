"""Boards, random boards and helpers shared by the tests."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from dataclasses import replace
from functools import cache
from math import radians
from pathlib import Path
from types import SimpleNamespace
from typing import get_args

import numpy as np

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import KNOT
from kelvor.core.brief.brief import Brief
from kelvor.core.evaluation.evaluation import evaluate, ride_case
from kelvor.core.levers.additions import (
    BOTTOM,
    DECK,
    with_layer_added,
    with_parallel_run,
    with_winger,
)
from kelvor.core.new_board.first_boards import first_board, patterns
from kelvor.core.new_board.proposals import proposals
from kelvor.core.ride.case import BoardCase, RideCase
from kelvor.core.ride.condition import Condition
from kelvor.core.ride.model import RideModel
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import Batten, Ruler, Weight
from kelvor.core.shape.curves.outline import NoseKind, Outline, TailKind
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.edits import with_nose_kind, with_tail_kind
from kelvor.core.shape.parts.fittings import Fittings, FoilTracks, StrapRow
from kelvor.core.shape.parts.layers import CutAway, Layout, Plinth, ShapingLayer
from kelvor.core.shape.parts.rails import Rails
from kelvor.core.shape.surface.sections import Resolution, Sections, sections
from kelvor.core.shape.surface.surface import mesh
from kelvor.core.tank.sails.sails import blowing, trimmed_gear
from kelvor.demo.boards import demo_boards
from kelvor.demo.workshop import create_demo
from tests.kept import kept

PLAIN_LENGTH = 1.5
WHOLE = "KELVOR_TESTS_WHOLE"
"""In the environment where `python -m tests --whole` runs every sweep to its end."""


def whole() -> bool:
    """Whether every sweep runs to its end."""
    return WHOLE in os.environ


def some(items, count):
    """So many of the items, evenly from the first to the last; all of them in a whole run."""
    items = list(items)
    if whole() or count >= len(items):
        return items
    return [items[i] for i in np.unique(np.linspace(0, len(items) - 1, count).round().astype(int))]


@cache
def demo(slug):
    """A demo board and its brief."""
    return next((board, brief) for name, board, brief in demo_boards() if name == slug)


@cache
def evaluated(slug):
    """A demo board with everything counted, on few stations; once a run."""
    return kept(evaluate, *demo(slug), Resolution.COARSE)


def case_of(slug, wind=None, board=None, **table):
    """A demo board, or another board under its brief, in a wind [kn], with some coefficients changed."""
    brief = demo(slug)[1]
    settled = evaluated(slug) if board is None else evaluate(board, brief, Resolution.COARSE)
    case = ride_case(settled)
    if table:
        model = case.model
        case = BoardCase(
            RideModel(model.measured, model.measures, model.mass, model.brief, replace(model.table, **table)),
            case.known,
        )
    return RideCase(case, Condition(brief.wind.speed if wind is None else wind * KNOT, brief.pace), draw=False)


def otherwise(slug, **changes):
    """A demo board's model under its brief with something changed."""
    model = ride_case(evaluated(slug)).model
    return RideModel(model.measured, model.measures, model.mass, replace(model.brief, **changes), model.table)


def pulls(gear, felt, off, density=1.225, *, cant=0.0, swung=False, **trim):
    """A gear trimmed in the apparent wind `felt` [m/s] at `off` the bow [rad]."""
    return trimmed_gear(gear, blowing(gear, felt, off, density, cant=cant, swung=swung), **trim)


def plain_board(**changes):
    """A board with a 600 mm ruler on its rocker, even schedules and no layers."""
    length = PLAIN_LENGTH
    board = Board(
        name="Test",
        length=length,
        outline=Outline(
            "squash",
            "round",
            Batten((Weight(0, 0.17), Weight(0.3, 0.23), Weight(0.75, 0.25), Weight(1.2, 0.2), Weight(1.42, 0.11))),
            0.05,
        ),
        rocker=Batten(
            (
                Weight(0, 0.012),
                Weight(0.3, 0.0, ruler=Ruler()),
                Weight(0.9, 0.0),
                Weight(1.25, 0.025),
                Weight(length, 0.09),
            )
        ),
        thickness=Batten(
            (Weight(0, 0.06), Weight(0.35, 0.085), Weight(0.75, 0.09), Weight(1.2, 0.08), Weight(length, 0.045))
        ),
        crown=Schedule.constant(0.004),
        rails=Rails(edge_radius=Schedule.constant(0.003)),
        fittings=Fittings(
            tracks=FoilTracks(at=Place("tail", 0.45)),
            straps=(
                StrapRow(name="Front", at=Place("mast", 0.42), half_spread=0.08),
                StrapRow(name="Back", at=Place("mast", -0.02)),
            ),
        ),
    )
    return replace(board, **changes)


def v_layer(degrees=5.0, holds="keel", **changes):
    return ShapingLayer(kind="v", name="V", amount=Schedule.constant(radians(degrees)), holds=holds, **changes)


def cut_away(degrees=6.0, hinge=0.26, blend=0.0):
    return CutAway(name="Tail cut", angle=radians(degrees), hinge=Place("tail", hinge), blend=blend)


def shape_of(board, resolution=Resolution.NORMAL) -> Sections:
    found = sections(board, resolution)
    assert not isinstance(found, tuple), found
    return found


def trimesh_of(shape):
    import trimesh

    surface = mesh(shape)
    return trimesh.Trimesh(surface.vertices, surface.triangles, process=False)


def random_board(seed: int) -> Board:
    """A random legal board: any end types, layers, rails and schedules. Some come out with findings; most close."""
    rng = np.random.default_rng(seed)
    length = float(rng.uniform(1.1, 2.6))
    half = float(rng.uniform(0.18, 0.38))
    tail = str(rng.choice(["round", "squash", "chopped"]))
    nose = str(rng.choice(["round", "pointed", "chopped"]))
    weights = [
        Weight(0.2 * length, half * rng.uniform(0.8, 0.95)),
        Weight(0.48 * length, half),
        Weight(0.78 * length, half * rng.uniform(0.7, 0.9)),
    ]
    if tail != "round":
        weights.insert(0, Weight(0.0, half * rng.uniform(0.4, 0.8)))
    if nose == "chopped":
        weights.append(Weight(length, half * rng.uniform(0.25, 0.5)))
    thick = float(rng.uniform(0.06, 0.13))

    def schedule(low, high):
        n = int(rng.integers(1, 4))
        return Schedule(tuple((float(x), float(rng.uniform(low, high))) for x in np.linspace(0.2, 0.85, n) * length))

    layers = []
    for kind, low, high in (("belly", 0, 0.006), ("v", 0, 0.1), ("hollow", 0, 0.005), ("bevel", 0.1, 0.4)):
        if rng.random() < 0.6:
            across = "edge" if kind == "bevel" else str(rng.choice(["share", "centre", "edge"]))
            layers.append(
                ShapingLayer(
                    kind=kind,
                    name=kind,
                    amount=schedule(low, high),
                    layout=Layout(across, schedule(0.01, 0.12)),
                    holds=str(rng.choice(["keel", "rail"])),
                )
            )
    if rng.random() < 0.6:
        layers.append(
            CutAway(
                name="cut",
                angle=float(rng.uniform(0.02, 0.12)),
                hinge=Place("tail", 0.17 * length),
                blend=float(rng.choice([0, 0.03])),
            )
        )
    if rng.random() < 0.6:
        layers.append(
            Plinth(
                name="plinth", width=float(rng.uniform(0.08, 0.16)), start=Place("mast", -0.17), end=Place("mast", 0.17)
            )
        )
    return Board(
        name=f"Random {seed}",
        length=length,
        outline=Outline(tail, nose, Batten(tuple(weights)), 0.25 * half if tail == "squash" else 0.0),
        rocker=Batten(
            (
                Weight(0, rng.uniform(0, 0.02)),
                Weight(0.25 * length, 0.0, ruler=Ruler(0.03, 0.1) if rng.random() < 0.5 else None),
                Weight(0.6 * length, 0.0),
                Weight(length, rng.uniform(0.03, 0.12)),
            )
        ),
        thickness=Batten(
            (
                Weight(0, thick * 0.75),
                Weight(0.3 * length, thick * 0.95),
                Weight(0.6 * length, thick),
                Weight(length, thick * 0.6),
            )
        ),
        crown=schedule(0, 0.008),
        layers=tuple(layers),
        rails=Rails(
            apex=schedule(0.3, 0.6),
            tuck=schedule(0, 0.03),
            edge_radius=schedule(0, 0.012),
            fullness=schedule(0, 1),
            chamfer=schedule(0.01, 0.06),
        ),
        fittings=Fittings(tracks=FoilTracks(at=Place("tail", 0.32 * length))),
    )


def random_family_board(seed: int) -> Board:
    """A random board of a random discipline: a first board of odd size with ends, layers, deck features and fins thrown
    on.
    """
    rng = np.random.default_rng(seed)
    discipline = str(rng.choice(get_args(Discipline)))
    pattern = patterns(discipline)[int(rng.integers(len(patterns(discipline))))]
    proposal = next(p for p in proposals(replace(Brief(), discipline=discipline)) if p.school == pattern.school)
    thick = float(
        np.clip(proposal.volume / (0.58 * proposal.length * proposal.width), 0.012, 0.3) * rng.uniform(0.8, 1.3)
    )
    board = first_board(
        "Random",
        discipline,
        proposal.length * float(rng.uniform(0.85, 1.15)),
        proposal.width * float(rng.uniform(0.85, 1.15)),
        thick,
        pattern.school,
    )
    attempts: list = []
    if rng.random() < 0.7:
        attempts.append(lambda b: with_tail_kind(b, str(rng.choice(get_args(TailKind)))))
    if rng.random() < 0.5:
        attempts.append(lambda b: with_nose_kind(b, str(rng.choice(get_args(NoseKind)))))
    if rng.random() < 0.3:
        attempts.append(
            lambda b: with_winger(b, float(rng.uniform(0.1, 0.6)) * b.length, str(rng.choice(["winger", "hip"])))
        )
    if rng.random() < 0.2:
        attempts.append(lambda b: with_parallel_run(b, 0.5 * b.length))
    for key in rng.choice([*BOTTOM, *DECK], size=int(rng.integers(0, 4)), replace=False):
        attempts.append(lambda b, key=str(key): with_layer_added(b, key)[0])
    if rng.random() < 0.3:
        attempts.append(
            lambda b: replace(
                b, rails=replace(b.rails, side_wall=Schedule.constant(radians(float(rng.uniform(5, 35)))))
            )
        )
    for change in attempts:
        with contextlib.suppress(RefusedEdit):
            board = change(board)
    return board


def folds(shape: Sections) -> list[str]:
    """What is folded in the sections of a board: columns out of order, or section polygons that cross themselves."""
    import shapely

    found = []
    apex, top = shape.columns.apex, shape.columns.top
    if (np.diff(shape.y[:, : apex + 1], axis=1) < -1e-9).any():
        found.append("bottom columns out of order")
    if (np.diff(shape.y[:, apex : top + 1], axis=1) > 1e-9).any():
        found.append("deck columns out of order")
    if (np.diff(shape.x) < -1e-12).any():
        found.append("stations out of order")
    for i in range(2, len(shape.x) - 2, 9):
        if shape.half_width[i] < 0.01:
            continue
        ring = np.column_stack([shape.y[i, : top + 1], shape.z[i, : top + 1]])
        ring = np.concatenate([ring, [[ring[0, 0], ring[-1, 1]]]]) if shape.inner[i] == 0 else ring
        if shapely.Polygon(ring).buffer(0).area < 0.999 * abs(shapely.Polygon(ring).area):
            found.append(f"section {i} crosses itself")
    return found


def closed_and_outward(surface) -> list[str]:
    """What keeps a mesh from being one closed, outward surface: edges not shared by two triangles that run against each
    other.
    """
    t = surface.triangles
    edges = np.concatenate([t[:, [0, 1]], t[:, [1, 2]], t[:, [2, 0]]]).astype(np.int64)
    key, back = edges[:, 0] * len(surface.vertices) + edges[:, 1], edges[:, 1] * len(surface.vertices) + edges[:, 0]
    found = []
    if len(np.unique(key)) != len(key) or not np.array_equal(np.sort(key), np.sort(back)):
        found.append("edges are not shared by just two triangles")
    if surface.volume() <= 0:
        found.append("it faces inward")
    return found


def wigley(along, deep):
    """Wigley's hull, length 2, beam 0.2, draught 0.125 m: places, heights, half-breadths, wetted area [m²]."""
    x, z = np.linspace(0, 2.0, along), np.linspace(-0.125, 0.0, deep)
    half = 0.1 * (1 - (x[:, None] - 1) ** 2) * (1 - (z[None, :] / 0.125) ** 2)
    return x, z, half, 0.59516


def curved_plank(outline, rocker):
    """Sections of a thin plank whose edge bends by `outline` in plan and by `rocker` in profile [1/m]."""
    x = np.linspace(-0.5, 0.5, 201)
    edge = 0.25 - outline * x**2 / 2
    keel = rocker * x**2 / 2
    y = np.stack([np.zeros_like(x), edge, edge, np.zeros_like(x)], axis=1)
    z = np.stack([keel, keel, keel + 0.01, keel + 0.01], axis=1)
    return SimpleNamespace(x=x, y=y, z=z, mid=keel)


@cache
def _demo() -> Path:
    path = Path(tempfile.mkdtemp()) / "demo.kelvor"
    path.write_bytes(kept(_demo_workshop))
    return path


def _demo_workshop() -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        create_demo(Path(folder) / "demo.kelvor").close()
        return (Path(folder) / "demo.kelvor").read_bytes()


def demo_at(path: Path) -> Path:
    """A fresh copy of the demo workshop at `path`; it is made once a run."""
    return Path(shutil.copy(_demo(), path))
