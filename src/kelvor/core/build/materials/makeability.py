"""Whether it can be laid, sanded and checked by hand: corners too tight for their cloth, edges that burn through, bare
rails.

Radii by cloth are in the table of materials; the rest is common practice, no source.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.findings import Finding, Severity
from kelvor.core.build.materials.layup import Layup
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.build.materials.work import EDGE_HOURS, LEAST_EDGE
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.layers import Channels, CrossStep, Ledge, ShapingLayer
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.templates.marking import bottom_lines

BURN_THROUGH = 0.002
"""Below this edge radius sanding burns through to the cloth [m] (common practice, no source)."""
STEEP = np.radians(35)
"""Walls that stand up less have no corner to speak of (judgement)."""
BRIDGES = 0.0003
"""A bubble under the cloth that is thicker than this is told of [m] (common practice, no source)."""
STRAIGHT = ("v", "inverted_v", "bevel", "side_flat")


def makeability(measured: Geometry, laid: Layup, table: MaterialTable) -> list[Finding]:
    """Notes for the builder, each with its place."""
    return [
        *_bare_rail(measured.board, laid),
        *_hard(measured),
        *_edges(measured.board, laid, table),
        *_walls(measured.board, laid, table),
        *_hand_work(measured.board),
    ]


def _edges(board: Board, laid: Layup, table: MaterialTable) -> list[Finding]:
    """Where cloth will not lie round the bottom edge, and where sanding burns through it."""
    found: list[Finding] = []
    x = np.linspace(0.08, 0.92, 60) * board.length
    radius = board.rails.edge_radius.at(x)
    for item in laid.plies:
        cloth = table.cloth(item.ply.cloth)
        round_rail = (
            item.ply.on and item.ply.count > 0 and (item.ply.wrap > 0 or item.ply.zone in ("rail", "all round"))
        )
        i = int(np.argmin(radius))
        if round_rail and radius[i] < cloth.radius:
            found.append(
                Finding(
                    code="corner_tight",
                    severity=Severity.NOTE,
                    place=float(x[i]),
                    value=float(radius[i]),
                    limit=cloth.radius,
                    text=f"{cloth.name} ({item.ply.name.lower()}) will not lie round the bottom edge of "
                    f"{radius[i] * 1000:.1f} mm "
                    f"at {x[i] * 100:.0f} cm",
                    advice=f"It lies round {cloth.radius * 1000:.0f} mm: build the crisp edge up with a resin bead, or "
                    f"end the cloth "
                    "at the edge.",
                )
            )
            break
    i = int(np.argmin(radius))
    if radius[i] < BURN_THROUGH and board.rails.side_wall is None:
        found.append(
            Finding(
                code="burns_through",
                severity=Severity.NOTE,
                place=float(x[i]),
                value=float(radius[i]),
                limit=BURN_THROUGH,
                text=f"Sanding easily burns through an edge of {radius[i] * 1000:.1f} mm at {x[i] * 100:.0f} cm",
                advice="Tape it off below 180 grit and finish it by hand. Dust: mask and extraction, or sand it wet.",
            )
        )
    return found


def _bare_rail(board: Board, laid: Layup) -> list[Finding]:
    """Where no cloth closes the rail."""
    rail = laid.cells.zones["rail"]
    cover = (laid.fibre[:, rail] > 0) | (laid.cells.area[:, rail] < 1e-9)
    walled = any(s.on and s.rail for s in laid.construction.stringers)
    bare = ~cover.all(axis=1) & (laid.cells.x[:, 0] > 0.1 * board.length) & (laid.cells.x[:, 0] < 0.9 * board.length)
    if walled or not bare.any():
        return []
    place = float(laid.cells.x[int(np.argmax(bare)), 0])
    return [
        Finding(
            code="rail_bare",
            severity=Severity.WARNING,
            place=place,
            value=float(bare.mean()),
            limit=0.0,
            text=f"No cloth closes the rail near {place * 100:.0f} cm: the shell is open there and twists like a plank",
            advice="Let deck or bottom cloth run further over the rail, or add rail cloth or a side wall.",
        )
    ]


def _walls(board: Board, laid: Layup, table: MaterialTable) -> list[Finding]:
    """Where cloth bridges the corner of a step, a cut-out or a channel."""
    cloths = [table.cloth(p.ply.cloth) for p in laid.plies if p.ply.zone in ("bottom", "all round") and p.area > 0]
    if not cloths:
        return []
    stiff = max(cloths, key=lambda cloth: cloth.radius)
    found = []
    for layer in board.layers:
        wall = layer.wall if layer.on and isinstance(layer, (Ledge, Channels, CrossStep)) else 0.0
        if wall < STEEP:
            continue
        deep = _height(layer)
        # round a corner of this turn cloth of such a radius stands off by r (sec(turn/2) - 1)
        gap = stiff.radius * (1 / np.cos(wall / 2) - 1)
        if deep > stiff.radius and gap > BRIDGES:
            found.append(
                Finding(
                    code="corner_bridged",
                    severity=Severity.NOTE,
                    value=gap,
                    limit=BRIDGES,
                    text=f"{stiff.name} bridges the corner of {layer.name} by {gap * 1000:.1f} mm: it lies round "
                    f"{stiff.radius * 1000:.0f} mm, the wall stands {deep * 1000:.0f} mm at {np.degrees(wall):.0f}°",
                    advice="Fill the corner with thickened resin, or cut the cloth there and lap it.",
                )
            )
    return found


def _height(layer: object) -> float:
    """How high a wall stands at most [m]."""
    if isinstance(layer, Ledge):
        return max(abs(value) for _, value in layer.height.points)
    if isinstance(layer, Channels):
        return layer.depth
    return abs(layer.height) if isinstance(layer, CrossStep) else 0.0


def hard_edges(measured: Geometry) -> float:
    """Length of edges that are made and kept crisp by hand, both sides [m]: lips of cut-outs, chines and channels,
    steps, and the bottom edge where it is sharper than sanding spares.
    """
    shape, board = measured.shape, measured.board
    long = sum(2 * float(np.hypot(np.diff(x), np.diff(y)).sum()) for _, x, y in bottom_lines(shape) if len(x) > 1)
    for layer in board.layers:
        if layer.on and isinstance(layer, CrossStep):
            long += 2 * measured.at(shape.edge_y, layer.at.x(board.length, board.mast_x))
    if board.rails.side_wall is None:
        sharp = board.rails.edge_radius.at(shape.x) < BURN_THROUGH
        steps = np.hypot(np.diff(shape.x), np.diff(shape.edge_y))
        long += 2 * float(steps[sharp[1:] & sharp[:-1]].sum())
    return long


def _hard(measured: Geometry) -> list[Finding]:
    """How long hard edges take."""
    long = hard_edges(measured)
    if long < LEAST_EDGE:
        return []
    return [
        Finding(
            code="hard_edges",
            severity=Severity.NOTE,
            value=long,
            text=f"{long:.1f} m of hard edges: about {long * EDGE_HOURS:.1f} h by hand beside the rest, counted in "
            "schedule and cost",
            advice="Tape, fill and block them one side at a time. Dust: mask and extraction, or sand it wet.",
        )
    ]


def _hand_work(board: Board) -> list[Finding]:
    """What no straight edge checks, and what no machine sands."""
    found: list[Finding] = []
    by_hand = [
        layer.name
        for layer in board.layers
        if layer.on and isinstance(layer, ShapingLayer) and layer.kind not in STRAIGHT
    ]
    if by_hand:
        found.append(
            Finding(
                code="hand_work",
                severity=Severity.NOTE,
                text=f"No straight edge checks {', '.join(by_hand)}: cut templates across at three stations",
            )
        )
    for layer in board.layers:
        if isinstance(layer, Channels) and layer.on:
            found.append(
                Finding(
                    code="hand_work",
                    severity=Severity.NOTE,
                    text=f"{layer.name}: sanded by hand along their whole length",
                )
            )
    return found


def checked_by_straight_edge(measured: Geometry) -> list[str]:
    """Features of the bottom that a straight edge can check."""
    return [
        layer.name
        for layer in measured.board.layers
        if layer.on and isinstance(layer, ShapingLayer) and layer.kind in STRAIGHT
    ]
