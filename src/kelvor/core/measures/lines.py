"""Measures read along the lines: how long width is held, how rocker enters and leaves, what wingers, hips and cut-outs
take.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import lru_cache

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.figures import Figure, FigureDefinition, Method
from kelvor.core.base.units import Quantity as Q
from kelvor.core.brief.brief import Rider
from kelvor.core.measures.stance import feet
from kelvor.core.shape.checks.straight_edge import straight_aft
from kelvor.core.shape.curves.battens import cached_rows
from kelvor.core.shape.curves.schedules import sampled
from kelvor.core.shape.parts.layers import Channels, Ledge
from kelvor.core.shape.surface.geometry import Geometry

HELD_WITHIN = 0.005
"""Width counts as held while the half-width stays within half of this of the widest [m]."""
END_SHARE = 0.10
"""Entry and exit are the keel's mean slope over this share of the length at either end."""
UNDER_RIDER = 0.15
"""What lies under the rider reaches this far beyond the feet [m]."""
CUT = Method(
    "outline outside the line of each cut-out, times its height for the litres",
    "geometry",
    "walls and run-outs not counted",
)
BATTEN = Method("second derivative of the rocker's batten", "geometry", "reference rocker, without what layers add")
PARTS = Method("section areas between two places", "geometry: trapezoid rule along x", "boards that close")

# fmt: off
WIDTH_HELD = FigureDefinition("width_held", "Width held, within 5 mm", Q.LENGTH, more="longer", less="shorter")
STRAIGHT_TO_TIP = FigureDefinition("straight_beyond_boot", "Straight from back foot to tail", Q.LENGTH, more="longer",
    less="shorter", rests=("strap",), short="straight {} past the boot")
WINGER_ANGLE = FigureDefinition("winger_angle", "Winger's pull-in angle", Q.ANGLE, more="sharper", less="gentler")
HIP_TO_FINS = FigureDefinition("hip_to_fins", "Hip ahead of the front fins", Q.LENGTH, more="further ahead",
    less="nearer")
HIP_TO_CHANNELS = FigureDefinition("hip_to_channels", "Hip ahead of the channels' start", Q.LENGTH,
    more="further ahead", less="nearer")
CUT_AREA = FigureDefinition("cut_out_area", "Cut-outs, area", Q.AREA, CUT)
CUT_VOLUME = FigureDefinition("cut_out_volume", "Cut-outs, litres", Q.VOLUME, CUT)
ENTRY = FigureDefinition("entry_slope", "Entry slope, last tenth of nose", Q.ANGLE, more="steeper", less="flatter")
EXIT = FigureDefinition("exit_slope", "Exit slope, last tenth of tail", Q.ANGLE, more="steeper", less="flatter")
PEAK_BEND = FigureDefinition("rocker_curvature", "Rocker, peak curvature", Q.CURVATURE, BATTEN, more="tighter",
    less="gentler")
LEAST_RADIUS = FigureDefinition("rocker_radius", "Rocker, radius at its peak", Q.HEIGHT, BATTEN, more="longer",
    less="tighter")
FEET_HEIGHT = FigureDefinition("feet_height", "Deck, front foot over back", Q.DEPTH, more="higher in front",
    less="lower in front", rests=("strap",))
TAIL_THIRD = FigureDefinition("volume_tail_third", "Volume, tail third", Q.VOLUME, PARTS)
MIDDLE_THIRD = FigureDefinition("volume_middle_third", "Volume, middle third", Q.VOLUME, PARTS)
NOSE_THIRD = FigureDefinition("volume_nose_third", "Volume, nose third", Q.VOLUME, PARTS)
UNDER_FEET = FigureDefinition("volume_under_rider", "Volume under the rider", Q.VOLUME, PARTS, rests=("strap",))
FIGURES = (
    TAIL_THIRD, MIDDLE_THIRD, NOSE_THIRD, UNDER_FEET, WIDTH_HELD, STRAIGHT_TO_TIP, WINGER_ANGLE, HIP_TO_FINS,
    HIP_TO_CHANNELS,
    CUT_AREA, CUT_VOLUME, ENTRY, EXIT, PEAK_BEND, LEAST_RADIUS, FEET_HEIGHT,
)
# fmt: on


def line_measures(measured: Geometry, rider: Rider | None) -> tuple[Figure, ...]:
    """All figures of this module; those a board has nothing for are left out."""
    board, shape, length = measured.board, measured.shape, measured.board.length
    stand = feet(measured, rider)
    found: list[Figure] = []

    def add(definition: FigureDefinition, value: float, band: float, note: str = "") -> None:
        if math.isfinite(value):
            found.append(
                Figure(definition=definition, value=float(value), band=band, band_of_difference=band / 10, note=note)
            )

    low, high = max(stand.back - UNDER_RIDER, 0.0), min(stand.front + UNDER_RIDER, length)
    upto = volume_up_to(measured, np.array([0.0, length / 3, 2 * length / 3, length, low, high]))
    for definition, volume in zip((TAIL_THIRD, MIDDLE_THIRD, NOSE_THIRD), np.diff(upto[:4]), strict=True):
        add(
            definition,
            float(volume),
            2e-3 * float(volume),
            f"{volume / measured.solid.volume * 100:.0f} % of the board",
        )
    volume = float(upto[5] - upto[4])
    add(
        UNDER_FEET,
        volume,
        2e-3 * volume,
        f"{low * 100:.0f} to {high * 100:.0f} cm from the tail, {stand.note}; "
        f"{volume / measured.solid.volume * 100:.0f} % of the board",
    )
    start, end = width_held(measured)
    add(WIDTH_HELD, end - start, 2e-3, f"{start * 100:.1f} to {end * 100:.1f} cm from the tail")
    add(
        STRAIGHT_TO_TIP,
        straight_aft(shape.x, shape.half_width, stand.back),
        4e-3,
        f"from {stand.back * 100:.0f} cm, gap 0.5 mm",
    )
    _wingers(measured, add)
    cuts = [layer for layer in board.layers if isinstance(layer, Ledge) and layer.on and layer.kind == "cut_out"]
    if cuts:
        area, litres = cut_outs(measured, cuts)
        add(CUT_AREA, area, 0.01 * area, ", ".join(cut.name for cut in cuts))
        add(CUT_VOLUME, litres, 0.1 * litres, "lifted bottom under the outline")
    _ends_and_bend(measured, add)
    deck = measured.deck_line
    add(
        FEET_HEIGHT,
        measured.at(deck, stand.front) - measured.at(deck, stand.back),
        5e-4,
        f"above the base line, {stand.note}",
    )
    return tuple(found)


def _ends_and_bend(measured: Geometry, add: Callable[..., None]) -> None:
    """Entry and exit of the keel, and where the rocker bends most."""
    board, length = measured.board, measured.board.length
    keel, run = measured.keel_line, END_SHARE * length
    add(ENTRY, math.atan2(measured.at(keel, length) - measured.at(keel, length - run), run), 2e-3, "keel")
    add(EXIT, math.atan2(measured.at(keel, 0.0) - measured.at(keel, run), run), 2e-3, "keel")
    x, key = _along_the_rocker(length)
    bend = cached_rows(board.rocker.structure(), key, 2) @ board.rocker.values
    peak = float(bend.max())
    if peak > 1e-3:
        where = x[bend > peak * (1 - 1e-6)]  # one place, or all of a stretch that bends evenly
        at = f"{' to '.join(f'{place * 100:.0f}' for place in dict.fromkeys((where[0], where[-1])))} cm from the tail"
        add(PEAK_BEND, peak, 0.01 * peak, at)
        add(LEAST_RADIUS, 1 / peak, 0.01 / peak, at)


@lru_cache(maxsize=16)
def _along_the_rocker(length: float) -> tuple[Array, tuple[float, ...]]:
    """Places at which the batten's bend is read [m], and the same as a key."""
    x = np.linspace(0.04 * length, 0.96 * length, 121)
    x.setflags(write=False)
    return x, tuple(x.tolist())


def volume_up_to(measured: Geometry, places: Array) -> Array:
    """Volume of the board from its tail to each place (n,) [m³]."""
    x, area = measured.shape.x, measured.areas.area
    run = np.concatenate([[0.0], np.cumsum((area[1:] + area[:-1]) / 2 * np.diff(x))])
    found: Array = np.interp(places, x, run) * (measured.solid.volume / run[-1])
    return found


def width_held(measured: Geometry) -> tuple[float, float]:
    """From where to where the width stays within `HELD_WITHIN` of the widest [m]."""
    x, b = measured.shape.x, measured.shape.half_width
    limit = float(b.max()) - HELD_WITHIN / 2
    top = int(np.argmax(b))
    aft, fore = np.nonzero(b[:top] < limit)[0], np.nonzero(b[top:] < limit)[0]
    start = float(x[0]) if not len(aft) else float(np.interp(limit, b[aft[-1] : aft[-1] + 2], x[aft[-1] : aft[-1] + 2]))
    if not len(fore):
        return start, float(x[-1])
    i = top + int(fore[0])
    return start, float(np.interp(-limit, -b[i - 1 : i + 1], x[i - 1 : i + 1]))


def cut_outs(measured: Geometry, cuts: list[Ledge]) -> tuple[float, float]:
    """Plan area of cut-outs [m²] and what they lift out [m³]; where tiers lie over one another the area counts once."""
    board, x, half = measured.board, measured.shape.x, measured.shape.half_width
    key = tuple(x.tolist())
    widest, lifted = np.zeros_like(x), np.zeros_like(x)
    for cut in cuts:
        start, end = cut.start.x(board.length, board.mast_x), cut.end.x(board.length, board.mast_x)
        line = sampled(cut.line, key)
        outside = np.clip(line if cut.across == "edge" else half - line, 0.0, half) * ((x >= start) & (x <= end))
        widest = np.maximum(widest, outside)
        lifted += outside * sampled(cut.height, key)
    return float(2 * np.trapezoid(widest, x)), float(2 * np.trapezoid(lifted, x))


def _wingers(measured: Geometry, add: Callable[[FigureDefinition, float, float, str], None]) -> None:
    board = measured.board
    for winger in board.outline.wingers:
        if winger.kind == "winger":
            angle = math.pi / 2 if winger.run <= 0 else math.atan2(winger.pull_in, winger.run)
            add(
                WINGER_ANGLE,
                angle,
                0.01,
                f"{winger.pull_in * 1000:.0f} mm over {winger.run * 100:.1f} cm at {winger.x * 100:.0f} cm from the "
                f"tail",
            )
            break
    hips = [winger.x for winger in board.outline.wingers]
    if not hips:
        return
    hip, mast = max(hips), board.mast_x
    fins = [box.at.x(board.length, mast) + box.fin.base for box in board.fittings.fin_boxes]
    if fins:
        add(HIP_TO_FINS, hip - max(fins), 1e-3, "to the foremost fin's leading edge")
    ends = [layer.end.x(board.length, mast) for layer in board.layers if isinstance(layer, Channels) and layer.on]
    if ends:
        add(HIP_TO_CHANNELS, hip - max(ends), 1e-3, "to the channels' fore end")
