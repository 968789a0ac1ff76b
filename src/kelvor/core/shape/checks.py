"""Checks: what cannot be a board, and what will trouble its builder or rider."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.findings import Finding, Severity
from kelvor.core.shape.battens import LEAST_GAP, Batten
from kelvor.core.shape.board import Board
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.layers import CutAway, Plinth, ShapingLayer
from kelvor.core.shape.outline import half_width
from kelvor.core.shape.schedules import Schedule
from kelvor.core.shape.straight_edge import chord_gap

LENGTH_RANGE = (0.6, 6.5)
"""Lengths Kelvor draws [m]: from a small towed board to the longest race board."""
HALF_WIDTH_LIMIT = 0.75
THICKNESS_LIMIT = 0.45
ROCKER_LIMIT = 1.0
ANGLE_LIMIT = math.radians(60)
FOAM_UNDER_TRACK = 0.018
"""Foam to keep between a track and the deck [m] (common practice, no source)."""
THIN_TAIL = 0.018
"""Below this a foam tail is fragile [m] (common practice, no source)."""


def _fatal(
    code: str, text: str, place: float | None = None, value: float | None = None, limit: float | None = None, advice: str = ""
) -> Finding:
    return Finding(code=code, text=text, severity=Severity.FATAL, place=place, value=value, limit=limit, advice=advice)


def check_value(board: Board) -> tuple[Finding, ...]:
    """What is wrong with the value itself, before any surface is drawn; all of it, not just the first."""
    low, high = LENGTH_RANGE
    if not (math.isfinite(board.length) and low <= board.length <= high):
        return (_fatal("length_range", f"A board {board.length:g} m long is outside what Kelvor draws", None, board.length,
                       high if board.length > high else low, f"Lengths from {low} to {high} m are accepted."),)  # fmt: skip
    found: list[Finding] = []
    outline = board.outline
    found += _batten(
        "outline",
        outline.batten,
        board.length,
        2e-3,
        HALF_WIDTH_LIMIT,
        inner=(outline.tail == "round", outline.nose != "chopped"),
    )
    found += _batten("rocker", board.rocker, board.length, -ROCKER_LIMIT, ROCKER_LIMIT)
    found += _batten("thickness", board.thickness, board.length, 1e-3, THICKNESS_LIMIT)
    rails = board.rails
    found += _schedule("rail apex", rails.apex, 0.02, 0.98) + _schedule("rail tuck", rails.tuck, 0.0, 0.3)
    found += _schedule("rail edge radius", rails.edge_radius, 0.0, 0.1) + _schedule("rail fullness", rails.fullness, 0.0, 1.0)
    found += _schedule("upper chamfer", rails.chamfer, 0.0, 0.4) + _schedule("deck crown", board.crown, -0.1, 0.2)
    if not 0 <= outline.corner_radius <= HALF_WIDTH_LIMIT:
        found.append(_fatal("corner_radius", f"A tail corner radius of {outline.corner_radius * 100:.1f} cm cannot be drawn",
                            0.0, outline.corner_radius, 0.0, "Give 0 or more, less than the half-width."))  # fmt: skip
    for layer in board.layers:
        found += _layer(layer)
    for name, t in (("deck", board.skin.deck), ("bottom", board.skin.bottom), ("rail", board.skin.rail)):
        if not 0 <= t <= 0.01:
            found.append(_fatal("skin", f"A {name} skin of {t * 1000:g} mm cannot be built", None, t, 0.01, "Give 0 to 10 mm."))
    if not 5 <= board.materials.core_density <= 1000:
        found.append(_fatal("core_density", f"A core of {board.materials.core_density:g} kg/m³ is no foam or wood", None,
                            board.materials.core_density, 5, "Give 5 to 1000 kg/m³."))  # fmt: skip
    found += _fittings(board)
    if abs(board.base.slope) > 0.5:
        found.append(_fatal("base_slope", "The base line is steeper than 1 in 2", None, board.base.slope, 0.5))
    return tuple(found)


def _fittings(board: Board) -> list[Finding]:
    """Sizes and masses that no fitting or laminate can have."""
    material, fittings = board.materials, board.fittings
    sizes: list[tuple[str, float, float, float, str]] = [
        (f"{zone} laminate", getattr(material, f"{zone}_areal_mass"), 0.0, 10.0, "kg/m²")
        for zone in ("deck", "bottom", "rail", "paint")
    ]
    sizes += [("pad", fittings.pad_areal_mass, 0.0, 5.0, "kg/m²"), ("pad cover", fittings.pad_cover, 0.0, 1.0, "of the deck"),
              ("other fittings", fittings.other_mass, 0.0, 20.0, "kg")]  # fmt: skip
    if (tracks := fittings.tracks) is not None:
        sizes += [("track length", tracks.length, 0.05, 1.5, "m"), ("track spacing", tracks.spacing, 0.02, 0.4, "m"),
                  ("track depth", tracks.depth, 0.0, 0.2, "m"), ("foil plate", tracks.plate, 0.02, 1.0, "m"),
                  ("track mass", tracks.mass, 0.0, 10.0, "kg"), ("mast on the tracks", tracks.mast, -1.0, 1.0, "m")]  # fmt: skip
    for row in fittings.straps:
        sizes += [
            (f"spread of {row.name}", row.half_spread, 0.0, HALF_WIDTH_LIMIT, "m"),
            (f"mass of {row.name}", row.mass, 0.0, 10.0, "kg"),
        ]
    return [
        _fatal(
            "fitting_range",
            f"A {name} of {value:g} {unit} cannot be",
            None,
            value,
            low if value < low else high,
            f"Give {low:g} to {high:g} {unit}.",
        )
        for name, value, low, high, unit in sizes
        if not low <= value <= high
    ]


def _batten(
    name: str, batten: Batten, length: float, low: float, high: float, inner: tuple[bool, bool] = (False, False)
) -> list[Finding]:
    weights = batten.weights
    found: list[Finding] = []
    if len(weights) < (1 if all(inner) else 2):
        return [_fatal("few_weights", f"The {name} has too few weights", advice="Give at least two.")]
    before = LEAST_GAP if inner[0] else -1e-9
    for i, w in enumerate(weights):
        if not (math.isfinite(w.x) and math.isfinite(w.value)):
            return [_fatal("not_finite", f"Weight {i + 1} of the {name} has no finite place or height")]
        if w.x < before:
            found.append(_fatal("weight_order", f"Weight {i + 1} of the {name} at {w.x * 100:.1f} cm does not lie ahead of the "
                                f"one before it", w.x, w.x, before, "Weights go from tail to nose."))  # fmt: skip
        if not low <= w.value <= high:
            found.append(_fatal("weight_range", f"Weight {i + 1} of the {name} holds {w.value * 100:.1f} cm", w.x, w.value,
                                low if w.value < low else high, f"From {low * 100:g} to {high * 100:g} cm is accepted."))  # fmt: skip
        before = w.x + LEAST_GAP
    last = length - (LEAST_GAP if inner[1] else -1e-9)
    if weights[-1].x > last:
        found.append(_fatal("weight_outside", f"The last weight of the {name} lies beyond the nose", weights[-1].x,
                            weights[-1].x, last, "Move it back or lengthen the board."))  # fmt: skip
    if weights[-1].ruler is not None:
        found.append(_fatal("ruler_end", f"A ruler on the {name} begins at its last weight", weights[-1].x))
    return found


def _schedule(name: str, schedule: Schedule, low: float, high: float) -> list[Finding]:
    found: list[Finding] = []
    before = -math.inf
    if not schedule.points:
        return [_fatal("few_points", f"The schedule of {name} has no points", advice="Give at least one.")]
    for x, value in schedule.points:
        if not (math.isfinite(x) and math.isfinite(value)):
            return [_fatal("not_finite", f"A point of {name} has no finite place or value")]
        if x <= before:
            found.append(_fatal("schedule_order", f"Points of {name} are out of order at {x * 100:.1f} cm", x, x, before,
                                "Points go from tail to nose."))  # fmt: skip
        if not low <= value <= high:
            found.append(_fatal("schedule_range", f"{name[0].upper() + name[1:]} of {value:g} at {x * 100:.1f} cm is out of range",
                                x, value, low if value < low else high, f"From {low:g} to {high:g} is accepted."))  # fmt: skip
        before = x
    return found


def _layer(layer: ShapingLayer | CutAway | Plinth) -> list[Finding]:
    if isinstance(layer, CutAway):
        if not 0 <= layer.angle <= ANGLE_LIMIT:
            return [_fatal("cut_angle", f"A cut-away of {math.degrees(layer.angle):.1f}° cannot be drawn", None, layer.angle,
                           ANGLE_LIMIT, "Give 0 to 60°.")]  # fmt: skip
        return []
    if isinstance(layer, Plinth):
        if not 0 <= layer.width <= 2 * HALF_WIDTH_LIMIT:
            return [_fatal("plinth_width", f"A plinth {layer.width * 100:.1f} cm wide cannot be drawn", None, layer.width)]
        return []
    angle = layer.kind in ("v", "bevel")
    low, high = (-ANGLE_LIMIT, ANGLE_LIMIT) if angle else (-0.1, 0.1)
    return _schedule(f"layer {layer.name}", layer.amount, low, high) + _schedule(
        f"layer width {layer.name}", layer.layout.width, 0.0, 1.0
    )


def check_geometry(measured: Geometry) -> tuple[Finding, ...]:
    """Warnings about a board that closes."""
    board, shape = measured.board, measured.shape
    found: list[Finding] = []
    x = shape.x
    thickness = shape.deck - shape.keel
    aft = x < 0.25 * board.length
    i = int(np.argmin(np.where(aft, thickness, np.inf)))
    if thickness[i] < THIN_TAIL:
        found.append(Finding(
            code="thin_tail", place=float(x[i]), value=float(thickness[i]), limit=THIN_TAIL,
            text=f"Only {thickness[i] * 1000:.0f} mm of foam at the tail, {x[i] * 100:.1f} cm from the tip",
            advice=f"Keep {THIN_TAIL * 1000:.0f} mm: less cut-away, a hinge further aft, or more thickness there."))  # fmt: skip
    tracks = board.fittings.tracks
    if tracks is not None:
        found += _tracks(measured)
    for row in board.fittings.straps:
        at = row.at.x(board.length, board.mast_x)
        if not 0 < at < board.length or row.half_spread > np.interp(at, x, shape.half_width):
            found.append(Finding(code="strap_outside", place=at, text=f"{row.name} lies off the deck",
                                 advice="Move it in from the edge or along the board."))  # fmt: skip
    found += _inflections(board)
    return tuple(found)


def _tracks(measured: Geometry) -> list[Finding]:
    board, shape = measured.board, measured.shape
    tracks = board.fittings.tracks
    if tracks is None:
        return []
    found: list[Finding] = []
    middle = tracks.at.x(board.length)
    start, end = middle - tracks.length / 2, middle + tracks.length / 2
    if start < 0.02 or end > board.length - 0.02:
        found.append(Finding(code="tracks_outside", place=middle, text="The foil tracks run off the board",
                             advice="Move them in, or take shorter ones."))  # fmt: skip
        return found
    along = np.linspace(start, end, 9)
    edge = np.interp(along, shape.x, shape.edge_y)
    if edge.min() < tracks.spacing / 2 + 0.02:
        found.append(Finding(code="tracks_wide", place=float(along[np.argmin(edge)]), value=float(edge.min()),
                             limit=tracks.spacing / 2 + 0.02, text="The bottom is too narrow for the foil tracks",
                             advice="Less tuck or bevel there, or more width."))  # fmt: skip
    foam = np.interp(along, shape.x, shape.deck - shape.keel) - tracks.depth
    k = int(np.argmin(foam))
    if foam[k] < FOAM_UNDER_TRACK:
        found.append(Finding(
            code="track_foam", place=float(along[k]), value=float(foam[k]), limit=FOAM_UNDER_TRACK,
            text=f"Only {foam[k] * 1000:.0f} mm of foam between the tracks and the deck at {along[k] * 100:.1f} cm",
            advice=f"Keep {FOAM_UNDER_TRACK * 1000:.0f} mm: thicken there or move the tracks."))  # fmt: skip
    keel = np.interp(along, shape.x, shape.keel)
    tilt = float(np.degrees(np.arctan((keel[-1] - keel[0]) / (end - start) - board.base.slope)))
    bow = chord_gap(shape.x, shape.keel, start, end)
    cut = board.cut_away
    if cut is not None and cut.hinge.x(board.length, board.mast_x) > start and board.plinth is None:
        found.append(Finding(code="cut_under_tracks", place=start, text="The cut-away begins under the foil tracks",
                             advice="Move the hinge aft of them, or lay a plinth."))  # fmt: skip
    elif bow > 0.001:
        found.append(Finding(code="tracks_bowed", place=middle, value=bow, limit=0.001,
                             text=f"The bottom under the foil tracks bows {bow * 1000:.1f} mm, so the plate will not sit true",
                             advice="Lay a plinth or a ruler there."))  # fmt: skip
    if abs(tilt) > 0.25 and board.base.kind == "tracks":
        found.append(Finding(code="tracks_tilted", place=middle, value=tilt, limit=0.25,
                             text=f"The foil tracks stand {tilt:+.1f}° off the base line".replace("-", "−"),
                             advice="Re-level the board on its tracks."))  # fmt: skip
    return found


def _inflections(board: Board) -> list[Finding]:
    """Places where the outline turns hollow between its ends."""
    x = np.linspace(0.04, board.length - 0.04, 161)
    b = half_width(board.outline, board.length, x)
    bend = np.gradient(np.gradient(b, x), x)[4:-4]
    hollow = bend > 0.02
    if not hollow.any():
        return []
    i = int(np.argmax(bend))
    at = float(x[4:-4][i])
    return [Finding(code="hollow_outline", severity=Severity.NOTE, place=at, value=float(bend[i]),
                    text=f"The outline turns hollow near {at * 100:.0f} cm", advice="Move a weight out if that is not meant.")]  # fmt: skip
