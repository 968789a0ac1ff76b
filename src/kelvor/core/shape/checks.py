"""Checks: what cannot be a board, and what will trouble its builder or rider."""

from __future__ import annotations

import math

import numpy as np

from kelvor.core.findings import Finding, Severity
from kelvor.core.shape.battens import LEAST_GAP, Batten
from kelvor.core.shape.board import Board
from kelvor.core.shape.clearance import clearances
from kelvor.core.shape.fairness import kinks
from kelvor.core.shape.geometry import Geometry
from kelvor.core.shape.layers import ANGLED, Channels, CrossStep, CutAway, DeckLayer, Layer, Ledge, Plinth
from kelvor.core.shape.outline import half_width
from kelvor.core.shape.schedules import Schedule
from kelvor.core.shape.straight_edge import chord_gap

LENGTH_RANGE = (0.6, 6.5)
"""Lengths Kelvor draws [m]: from a small towed board to the longest race board."""
HALF_WIDTH_LIMIT = 0.75
THICKNESS_LIMIT = 0.45
ROCKER_LIMIT = 1.0
ANGLE_LIMIT = math.radians(60)
WALL_RANGE = (math.radians(5), math.pi / 2)
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
        inner=(outline.tail_closed, outline.nose_closed),
    )
    found += _batten("rocker", board.rocker, board.length, -ROCKER_LIMIT, ROCKER_LIMIT)
    found += _batten("thickness", board.thickness, board.length, 1e-3, THICKNESS_LIMIT)
    rails = board.rails
    found += _schedule("rail apex", rails.apex, 0.02, 0.98) + _schedule("rail tuck", rails.tuck, 0.0, 0.3)
    found += _schedule("rail edge radius", rails.edge_radius, 0.0, 0.1) + _schedule("rail fullness", rails.fullness, 0.0, 1.0)
    found += _schedule("upper chamfer", rails.chamfer, 0.0, 0.4) + _schedule("deck crown", board.crown, -0.1, 0.2)
    if rails.side_wall is not None:
        found += _schedule("side wall", rails.side_wall, 0.0, ANGLE_LIMIT)
    found += _outline_extras(board)
    for layer in (*board.layers, *board.deck_layers):
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
        sizes += [("track length", tracks.length, 0.05, 1.5, "m"), ("track spacing", tracks.spacing, 0.0, 0.4, "m"),
                  ("track depth", tracks.depth, 0.0, 0.2, "m"), ("foil plate", tracks.plate, 0.02, 1.0, "m"),
                  ("track mass", tracks.mass, 0.0, 10.0, "kg"), ("mast on the tracks", tracks.mast, -1.0, 1.0, "m")]  # fmt: skip
    for row in fittings.straps:
        sizes += [
            (f"spread of {row.name}", max(row.half_spread, row.outboard), 0.0, HALF_WIDTH_LIMIT, "m"),
            (f"mass of {row.name}", row.mass, 0.0, 10.0, "kg"), (f"inserts of {row.name}", row.inserts, 1, 24, ""),
            (f"pitch of {row.name}", row.pitch, 0.005, 0.2, "m"),
        ]  # fmt: skip
    for box in fittings.fin_boxes:
        fin, name = box.fin, box.name
        sizes += [(f"span of {name}", fin.span, 0.005, 1.0, "m"), (f"base of {name}", fin.base, 0.01, 0.5, "m"),
                  (f"rake of {name}", fin.rake, -0.6, 1.2, "rad"), (f"tip of {name}", fin.tip, 0.02, 1.2, "of the base"),
                  (f"thickness of {name}", fin.thickness, 0.005, 0.3, "of the chord"), (f"mass of {name}", fin.mass, 0.0, 5.0, "kg"),
                  (f"set depth of {name}", fin.set_depth, 0.0, 0.2, "m"), (f"offset of {name}", box.offset, 0.0, 0.7, "m"),
                  (f"toe of {name}", box.toe, -0.5, 0.5, "rad"), (f"cant of {name}", box.cant, -0.8, 0.8, "rad")]  # fmt: skip
    if (mast := fittings.mast_track) is not None:
        sizes += [("mast track length", mast.length, 0.05, 1.0, "m"), ("mast track depth", mast.depth, 0.0, 0.2, "m"),
                  ("mast track width", mast.width, 0.01, 0.2, "m"), ("mast track mass", mast.mass, 0.0, 5.0, "kg")]  # fmt: skip
    for plug in fittings.plugs:
        sizes += [(f"{plug.kind} length", plug.length, 0.005, 0.6, "m"), (f"{plug.kind} width", plug.width, 0.005, 0.3, "m"),
                  (f"{plug.kind} depth", plug.depth, 0.0, 0.2, "m"), (f"{plug.kind} mass", plug.mass, 0.0, 3.0, "kg")]  # fmt: skip
    for pad in fittings.pads:
        sizes += [(f"cover of {pad.name}", pad.cover, 0.0, 1.0, "of the deck"), (f"thickness of {pad.name}", pad.thickness, 0.0, 0.06, "m"),
                  (f"mass of {pad.name}", pad.areal_mass, 0.0, 8.0, "kg/m²")]  # fmt: skip
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


def _layer(layer: Layer | DeckLayer) -> list[Finding]:
    name = layer.name
    depth, angle = (-0.15, 0.15), (-ANGLE_LIMIT, ANGLE_LIMIT)
    numbers: list[tuple[str, float, float, float]] = []
    angles: list[tuple[str, float, float, float]] = []
    found: list[Finding] = []
    match layer:
        case CutAway():
            angles, numbers = [("angle", layer.angle, 0.0, ANGLE_LIMIT)], [("blend", layer.blend, 0.0, 2.0)]
        case Plinth():
            numbers = [("width", layer.width, 0.0, 2 * HALF_WIDTH_LIMIT)]
        case CrossStep():
            numbers, angles = [("height", layer.height, *depth)], [("wall", layer.wall, *WALL_RANGE)]
        case Channels():
            numbers = [("width", layer.width, 0.004, 0.2), ("gap", layer.gap, 0.0, 0.3), ("depth", layer.depth, 0.0, 0.05),
                       ("inner lip", layer.inner, 0.0, 1.0), ("run-out", layer.run_out, 0.0, 2.0)]  # fmt: skip
            angles = [("wall", layer.wall, *WALL_RANGE), ("toe", layer.toe, -0.35, 0.35)]
            if not 1 <= layer.count <= 6:
                found.append(
                    _fatal(
                        "layer_range",
                        f"“{name}” cannot have {layer.count} channels a side",
                        None,
                        layer.count,
                        6,
                        "Give 1 to 6.",
                    )
                )
        case Ledge():
            angles, numbers = [("wall", layer.wall, *WALL_RANGE)], [("run-out", layer.run_out, 0.0, 3.0)]
            found += _schedule(f"line of {name}", layer.line, 0.0, 1.0) + _schedule(f"height of {name}", layer.height, 0.0, 0.2)
        case _:
            low, high = angle if layer.kind in ANGLED else depth
            found += _schedule(f"layer {name}", layer.amount, low, high)
            found += _schedule(f"layer width {name}", layer.layout.width, 0.0, 1.0)
            if isinstance(layer, DeckLayer):
                angles = [("wall", layer.wall, *WALL_RANGE)]
    for entries, unit, scale in ((numbers, "cm", 100.0), (angles, "°", 180 / math.pi)):
        for what, value, low, high in entries:
            if not low <= value <= high:
                found.append(_fatal("layer_range", f"The {what} of “{name}” cannot be {value * scale:.1f} {unit}", None, value,
                                    low if value < low else high, f"From {low * scale:.3g} to {high * scale:.3g} {unit} is accepted."))  # fmt: skip
    return found


def _outline_extras(board: Board) -> list[Finding]:
    """Corners, notches and wingers."""
    outline, found = board.outline, []
    sizes = [
        ("tail corner radius", outline.corner_radius, HALF_WIDTH_LIMIT), ("nose corner radius", outline.nose_radius, HALF_WIDTH_LIMIT),
        ("tail notch", outline.tail_depth, 0.4 * board.length), ("tail notch spread", outline.tail_spread, 2 * HALF_WIDTH_LIMIT),
        ("nose notch", outline.nose_depth, 0.4 * board.length), ("nose notch spread", outline.nose_spread, 2 * HALF_WIDTH_LIMIT),
    ]  # fmt: skip
    for name, value, high in sizes:
        if not 0 <= value <= high:
            found.append(_fatal("outline_size", f"A {name} of {value * 100:.1f} cm cannot be drawn", None, value, high,
                                f"Give 0 to {high * 100:.0f} cm."))  # fmt: skip
    for winger in outline.wingers:
        if not 0 < winger.x < board.length or not -0.1 <= winger.pull_in <= 0.2 or not 0 <= winger.run <= 0.5 * board.length:
            found.append(_fatal("winger", f"The {winger.kind} at {winger.x * 100:.1f} cm cannot be drawn", winger.x, winger.pull_in, 0.2,
                                "It must lie on the board and step in by less than 20 cm."))  # fmt: skip
    names = [layer.name for layer in (*board.layers, *board.deck_layers)]
    for name in {n for n in names if names.count(n) > 1}:
        found.append(_fatal("same_name", f"Two layers are called “{name}”", advice="Give each its own name."))
    return found


def check_geometry(measured: Geometry) -> tuple[Finding, ...]:
    """Warnings about a board that closes."""
    board, shape = measured.board, measured.shape
    found: list[Finding] = []
    x = shape.x
    thickness = shape.deck - shape.keel
    aft = x < 0.25 * board.length
    i = int(np.argmin(np.where(aft, thickness, np.inf)))
    least = min(THIN_TAIL, 0.3 * float(thickness.max()))
    if thickness[i] < least:
        found.append(Finding(
            code="thin_tail", place=float(x[i]), value=float(thickness[i]), limit=least,
            text=f"Only {thickness[i] * 1000:.0f} mm of foam at the tail, {x[i] * 100:.1f} cm from the tip",
            advice=f"Keep {least * 1000:.0f} mm: less cut-away, a hinge further aft, or more thickness there."))  # fmt: skip
    found += _tracks(measured)
    found += clearances(measured)
    found += _crossing_lines(measured)
    found += kinks(measured)
    found += _inflections(board)
    return tuple(found)


def _crossing_lines(measured: Geometry) -> list[Finding]:
    """Lines of ledges that cross one another, and channels that leave the bottom."""
    board, x, edge = measured.board, measured.shape.x, measured.shape.edge_y
    found: list[Finding] = []
    tiers = []
    for layer in board.layers:
        if not layer.on or not isinstance(layer, (Ledge, Channels)):
            continue
        start, end = layer.start.x(board.length, board.mast_x), layer.end.x(board.length, board.mast_x)
        inside = (x >= start) & (x <= end) & (edge > 0.02)
        if not inside.any():
            found.append(Finding(code="layer_nowhere", place=start, text=f"“{layer.name}” begins and ends at no place on the board",
                                 advice="Its end must lie ahead of its start."))  # fmt: skip
        elif isinstance(layer, Ledge):
            line = layer.line.at(x)
            tiers.append((layer, np.where(inside, line if layer.across == "centre" else edge - line, np.nan)))
        else:
            last = layer.inner + layer.count * layer.width + (layer.count - 1) * layer.gap
            outer = last + np.tan(layer.toe) * (end - x)
            least = layer.inner + np.tan(layer.toe) * (end - x)
            inboard = (inside & (least < 0), "cross the centreline", 0 * edge)
            for bad, words, limit in ((inside & (outer > edge), "run out through the bottom's edge", edge), inboard):
                if bad.any():
                    i = int(np.argmax(bad))
                    found.append(Finding(code="channels_outside", place=float(x[i]), value=float(outer[i]), limit=float(limit[i]),
                                         text=f"“{layer.name}” {words} {x[i] * 100:.0f} cm from the tail",
                                         advice="Move the path, or take fewer or narrower channels."))  # fmt: skip
    for i, (first, inner) in enumerate(tiers):
        for second, outer in tiers[i + 1 :]:
            if first.kind == second.kind and (bad := outer < inner - 1e-4).any() and (outer > inner + 1e-4).any():
                at = float(x[int(np.argmax(bad))])
                found.append(Finding(code="lines_cross", place=at, text=f"The lines of “{first.name}” and “{second.name}” cross near "
                                     f"{at * 100:.0f} cm", advice="Move one of them outward along its whole length."))  # fmt: skip
    return found


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
    for winger in board.outline.wingers:  # a winger is hollow on purpose
        bend[np.abs(x[4:-4] - winger.x) < winger.run + 0.06] = 0.0
    bend[(x[4:-4] < board.outline.tail_depth + 0.03) | (x[4:-4] > board.length - board.outline.nose_depth - 0.03)] = 0.0
    hollow = bend > 0.02
    if not hollow.any():
        return []
    i = int(np.argmax(bend))
    at = float(x[4:-4][i])
    return [Finding(code="hollow_outline", severity=Severity.NOTE, place=at, value=float(bend[i]),
                    text=f"The outline turns hollow near {at * 100:.0f} cm", advice="Move a weight out if that is not meant.")]  # fmt: skip
