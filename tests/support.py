"""Boards, random boards and helpers shared by the tests."""

from __future__ import annotations

from dataclasses import replace
from math import radians

import numpy as np

from kelvor.core.shape.battens import Batten, Ruler, Weight
from kelvor.core.shape.board import Board
from kelvor.core.shape.fittings import Fittings, FoilTracks, StrapRow
from kelvor.core.shape.layers import CutAway, Layout, Plinth, ShapingLayer
from kelvor.core.shape.outline import Outline
from kelvor.core.shape.places import Place
from kelvor.core.shape.rails import Rails
from kelvor.core.shape.schedules import Schedule
from kelvor.core.shape.sections import Resolution, Sections, sections
from kelvor.core.shape.surface import mesh

PLAIN_LENGTH = 1.5


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
            (Weight(0, 0.012), Weight(0.3, 0.0, ruler=Ruler()), Weight(0.9, 0.0), Weight(1.25, 0.025), Weight(length, 0.09))
        ),
        thickness=Batten((Weight(0, 0.06), Weight(0.35, 0.085), Weight(0.75, 0.09), Weight(1.2, 0.08), Weight(length, 0.045))),
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
            Plinth(name="plinth", width=float(rng.uniform(0.08, 0.16)), start=Place("mast", -0.17), end=Place("mast", 0.17))
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
