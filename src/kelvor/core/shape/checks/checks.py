"""Checks: what cannot be a board, and what will trouble its builder or rider."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from kelvor.core.base.findings import Finding, Severity
from kelvor.core.base.limits import angles, depths, field_problems
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.clearance import clearances
from kelvor.core.shape.checks.fairness import kinks
from kelvor.core.shape.checks.straight_edge import chord_gap
from kelvor.core.shape.curves.battens import LEAST_GAP, Batten
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fittings import FoilTracks
from kelvor.core.shape.parts.layers import ANGLED, Channels, DeckLayer, Layer, Ledge, ShapingLayer
from kelvor.core.shape.parts.rails import Rails
from kelvor.core.shape.surface.geometry import Geometry

ANGLE = angles(-60, 60)
DEPTH = depths(-0.15, 0.15)
FAR_OFF = 0.10
"""A fitting farther off the board's ends than this is no slip of the hand [m]."""
FOAM_UNDER_TRACK = 0.018
"""Foam to keep between a track and the deck [m] (common practice, no source)."""
THIN_TAIL = 0.018
"""Below this a foam tail is fragile [m] (common practice, no source)."""


def _fatal(
    code: str,
    text: str,
    place: float | None = None,
    value: float | None = None,
    limit: float | None = None,
    advice: str = "",
) -> Finding:
    return Finding(code=code, text=text, severity=Severity.FATAL, place=place, value=value, limit=limit, advice=advice)


def check_value(board: Board) -> tuple[Finding, ...]:
    """What is wrong with the value itself, before any surface is drawn: fields outside their limits, or else lines out
    of order.
    """
    outside = tuple(
        _fatal("limit", problem.in_words(), advice=f"{problem.accepts}.")
        for problem in field_problems(board)
        if not problem.bearable
    )
    if outside:
        return outside
    outline = board.outline
    found = _batten("outline", outline.batten, board.length, inner=(outline.tail_closed, outline.nose_closed))
    found += _batten("rocker", board.rocker, board.length) + _batten("thickness", board.thickness, board.length)
    rails, schedules = board.rails, [("deck crown", board.crown)]
    schedules += [(f"rail {name}".replace("_", " "), getattr(rails, name)) for name in Rails.__dataclass_fields__]
    for name, schedule in schedules:
        found += [] if schedule is None else _order(name, schedule)
    found += _outline_extras(board) + _places(board)
    for layer in (*board.layers, *board.deck_layers):
        found += _layer(layer)
    return tuple(found)


def _batten(name: str, batten: Batten, length: float, inner: tuple[bool, bool] = (False, False)) -> list[Finding]:
    weights = batten.weights
    found: list[Finding] = []
    if len(weights) < (1 if all(inner) else 2):
        return [_fatal("few_weights", f"The {name} has too few weights", advice="Give at least two.")]
    before = LEAST_GAP if inner[0] else -1e-9
    for i, w in enumerate(weights):
        if w.x < before:
            found.append(
                _fatal(
                    "weight_order",
                    f"Weight {i + 1} of the {name} at {w.x * 100:.1f} cm does not lie ahead of the one before it",
                    w.x,
                    w.x,
                    before,
                    "Weights go from tail to nose.",
                )
            )
        before = w.x + LEAST_GAP
    last = length - (LEAST_GAP if inner[1] else -1e-9)
    if weights[-1].x > last:
        found.append(
            _fatal(
                "weight_outside",
                f"The last weight of the {name} lies beyond the nose",
                weights[-1].x,
                weights[-1].x,
                last,
                "Move it back or lengthen the board.",
            )
        )
    if weights[-1].ruler is not None:
        found.append(_fatal("ruler_end", f"A ruler on the {name} begins at its last weight", weights[-1].x))
    return found


def _order(name: str, schedule: Schedule) -> list[Finding]:
    return [
        _fatal(
            "schedule_order",
            f"Points of the {name} are out of order at {x * 100:.1f} cm",
            x,
            x,
            before,
            "Points go from tail to nose.",
        )
        for (before, _), (x, _) in pairwise(schedule.points)
        if x <= before
    ]


def _layer(layer: Layer | DeckLayer) -> list[Finding]:
    if isinstance(layer, Ledge):
        return _order(f"line of “{layer.name}”", layer.line) + _order(f"height of “{layer.name}”", layer.height)
    if not isinstance(layer, (ShapingLayer, DeckLayer)):
        return []
    limit = ANGLE if layer.kind in ANGLED else DEPTH
    found = _order(f"layer “{layer.name}”", layer.amount) + _order(f"width of “{layer.name}”", layer.layout.width)
    return found + [
        _fatal(
            "limit",
            f"“{layer.name}” at {x * 100:.1f} cm: {limit.said(value)} cannot be",
            x,
            value,
            limit.low if value < limit.low else limit.high,
            f"Give {limit.range_words()}.",
        )
        for x, value in layer.amount.points
        if not limit.allows(value)
    ]


def _outline_extras(board: Board) -> list[Finding]:
    """Notches and wingers against the board's own length, and names given twice."""
    outline, found = board.outline, []
    for name, value in (("tail notch", outline.tail_depth), ("nose notch", outline.nose_depth)):
        high = 0.4 * board.length
        if value > high:
            found.append(
                _fatal(
                    "outline_size",
                    f"A {name} of {value * 100:.1f} cm cannot be drawn",
                    None,
                    value,
                    high,
                    f"Give 0 to {high * 100:.0f} cm.",
                )
            )
    for winger in outline.wingers:
        if not 0 < winger.x < board.length or winger.run > 0.5 * board.length:
            found.append(
                _fatal(
                    "winger",
                    f"The {winger.kind} at {winger.x * 100:.1f} cm cannot be drawn",
                    winger.x,
                    winger.x,
                    board.length,
                    "It must lie on the board, and run along no more than half of it.",
                )
            )
    names = [layer.name for layer in (*board.layers, *board.deck_layers)]
    for name in {n for n in names if names.count(n) > 1}:
        found.append(_fatal("same_name", f"Two layers are called “{name}”", advice="Give each its own name."))
    return found


def _places(board: Board) -> list[Finding]:
    """Fittings so far off the board that nothing can be counted with them; a little off is told of elsewhere."""
    fittings, length = board.fittings, board.length
    placed = [(box.name, box.at) for box in fittings.fin_boxes] + [(row.name, row.at) for row in fittings.straps]
    placed += [(plug.kind.capitalize(), plug.at) for plug in fittings.plugs]
    placed += [("The foil tracks", fittings.tracks.at)] if fittings.tracks is not None else []
    placed += [("The mast track", fittings.mast_track.at)] if fittings.mast_track is not None else []
    return [
        _fatal(
            "off_board",
            f"{name} would lie off the board, {x * 100:.1f} cm from the tail",
            x,
            x,
            0.0 if x < 0 else length,
            f"Give a place on the board, 0 to {length * 100:.1f} cm from the tail.",
        )
        for name, at in placed
        if not -FAR_OFF <= (x := at.x(length, board.mast_x)) <= length + FAR_OFF
    ]


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
        found.append(
            Finding(
                code="thin_tail",
                place=float(x[i]),
                value=float(thickness[i]),
                limit=least,
                text=f"Only {thickness[i] * 1000:.0f} mm of foam at the tail, {x[i] * 100:.1f} cm from the tip",
                advice=f"Keep {least * 1000:.0f} mm: less cut-away, a hinge further aft, or more thickness there.",
            )
        )
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
            found.append(
                Finding(
                    code="layer_nowhere",
                    place=start,
                    text=f"“{layer.name}” begins and ends at no place on the board",
                    advice="Its end must lie ahead of its start.",
                )
            )
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
                    found.append(
                        Finding(
                            code="channels_outside",
                            place=float(x[i]),
                            value=float(outer[i]),
                            limit=float(limit[i]),
                            text=f"“{layer.name}” {words} {x[i] * 100:.0f} cm from the tail",
                            advice="Move the path, or take fewer or narrower channels.",
                        )
                    )
    for i, (first, inner) in enumerate(tiers):
        for second, outer in tiers[i + 1 :]:
            if first.kind == second.kind and (bad := outer < inner - 1e-4).any() and (outer > inner + 1e-4).any():
                at = float(x[int(np.argmax(bad))])
                found.append(
                    Finding(
                        code="lines_cross",
                        place=at,
                        text=f"The lines of “{first.name}” and “{second.name}” cross near {at * 100:.0f} cm",
                        advice="Move one of them outward along its whole length.",
                    )
                )
    return found


def _tracks(measured: Geometry) -> list[Finding]:
    board = measured.board
    tracks = board.fittings.tracks
    if tracks is None:
        return []
    middle = tracks.at.x(board.length)
    start, end = middle - tracks.length / 2, middle + tracks.length / 2
    if start < 0.02 or end > board.length - 0.02:
        words, advice = "The foil tracks run off the board", "Move them in, or take shorter ones."
        return [Finding(code="tracks_outside", place=middle, text=words, advice=advice)]
    return [*_track_room(measured, tracks, start, end), *_track_seat(measured, start, end)]


def _track_room(measured: Geometry, tracks: FoilTracks, start: float, end: float) -> list[Finding]:
    """Whether bottom and foam are there for the tracks."""
    shape = measured.shape
    found: list[Finding] = []
    along = np.linspace(start, end, 9)
    edge = np.interp(along, shape.x, shape.edge_y)
    if edge.min() < tracks.spacing / 2 + 0.02:
        found.append(
            Finding(
                code="tracks_wide",
                place=float(along[np.argmin(edge)]),
                value=float(edge.min()),
                limit=tracks.spacing / 2 + 0.02,
                text="The bottom is too narrow for the foil tracks",
                advice="Less tuck or bevel there, or more width.",
            )
        )
    foam = np.interp(along, shape.x, shape.deck - shape.keel) - tracks.depth
    k = int(np.argmin(foam))
    if foam[k] < FOAM_UNDER_TRACK:
        found.append(
            Finding(
                code="track_foam",
                place=float(along[k]),
                value=float(foam[k]),
                limit=FOAM_UNDER_TRACK,
                text=f"Only {foam[k] * 1000:.0f} mm of foam between the tracks and the deck at {along[k] * 100:.1f} cm",
                advice=f"Keep {FOAM_UNDER_TRACK * 1000:.0f} mm: thicken there or move the tracks.",
            )
        )
    return found


def _track_seat(measured: Geometry, start: float, end: float) -> list[Finding]:
    """Whether the plate sits true on the tracks, and level."""
    board, shape, middle = measured.board, measured.shape, (start + end) / 2
    found: list[Finding] = []
    keel = np.interp(np.array([start, end]), shape.x, shape.keel)
    tilt = float(np.degrees(np.arctan((keel[-1] - keel[0]) / (end - start) - board.base.slope)))
    bow = chord_gap(shape.x, shape.keel, start, end)
    cut = board.cut_away
    if cut is not None and cut.hinge.x(board.length, board.mast_x) > start and board.plinth is None:
        found.append(
            Finding(
                code="cut_under_tracks",
                place=start,
                text="The cut-away begins under the foil tracks",
                advice="Move the hinge aft of them, or lay a plinth.",
            )
        )
    elif bow > 0.001:
        found.append(
            Finding(
                code="tracks_bowed",
                place=middle,
                value=bow,
                limit=0.001,
                text=f"The bottom under the foil tracks bows {bow * 1000:.1f} mm, so the plate will not sit true",
                advice="Lay a plinth or a ruler there.",
            )
        )
    if abs(tilt) > 0.25 and board.base.kind == "tracks":
        found.append(
            Finding(
                code="tracks_tilted",
                place=middle,
                value=tilt,
                limit=0.25,
                text=f"The foil tracks stand {tilt:+.1f}° off the base line".replace("-", "−"),
                advice="Re-level the board on its tracks.",
            )
        )
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
    return [
        Finding(
            code="hollow_outline",
            severity=Severity.NOTE,
            place=at,
            value=float(bend[i]),
            text=f"The outline turns hollow near {at * 100:.0f} cm",
            advice="Move a weight out if that is not meant.",
        )
    ]
