"""Whether it can be laid, sanded and checked by hand: corners too tight for their cloth, edges that burn through, bare
rails.

Radii by cloth are in the table of materials; the rest is common practice, no source.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.findings import Finding, Severity
from kelvor.core.materials.layup import Layup
from kelvor.core.materials.table import MaterialTable
from kelvor.core.shape.board import Board
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.layers import Channels, ShapingLayer

BURN_THROUGH = 0.002
"""Below this edge radius sanding burns through to the cloth [m] (common practice, no source)."""
STRAIGHT = ("v", "inverted_v", "bevel", "side_flat")


def makeability(measured: Geometry, laid: Layup, table: MaterialTable) -> list[Finding]:
    """Notes for the builder, each with its place."""
    return [
        *_edges(measured.board, laid, table),
        *_bare_rail(measured.board, laid),
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
