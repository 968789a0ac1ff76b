"""The simulated mill in words: what it needs, how far it is, what its cut left of the core."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.mill.job import CutFace
from kelvor.core.mill.judging import GOUGE, ToleranceSpot

CAUTION = (
    "Mill: guards, eyes and ears, extraction and dust mask; stock held so that it cannot lift; first run in the air, "
    "hand on the stop. The mill maker's manual, data sheets, local rules and licensed practice come first."
)
MILL_WORDS = {
    "travel_x": "Travel along the board", "travel_y": "Travel across", "travel_z": "Travel up",
    "ball": "Ball cutter, diameter", "ball_cuts": "It cuts along", "flat": "Flat cutter, diameter",
    "flat_cuts": "It cuts along ", "sticks_out": "Cutters stick out", "nut": "Collet nut, diameter",
    "step": "Between two lines", "depth": "Depth of a layer", "proud": "Left proud", "feed": "Feed, m/min",
    "plunge": "Feed downwards, m/min", "acceleration": "Acceleration, m/s²", "spindle": "Spindle, turns a minute",
    "pocket": "Depth of a pocket's pass",
    "safe": "Travels above the stock", "facing": "Planed off either face", "tabs": "Tabs on either side",
    "tab": "Thickness of a tab", "play": "Play of the dowels",
}  # fmt: skip
"""Labels of the mill's fields."""
SUN = np.array([-0.45, 0.35, 0.82])
"""Where the light of the picture comes from: along, across, up."""


def shaded(heights: Array, pitch: float) -> np.ndarray:
    """A block's heights (n, m) as light falls on them, bytes (m, n), as it lies on the mill: X to the right, Y up."""
    along, across = np.gradient(heights.astype(float), pitch)
    normal = np.stack([-along, -across, np.ones_like(along)], axis=-1)
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    light = np.clip(normal @ (SUN / np.linalg.norm(SUN)), 0.0, 1.0)
    # deeper is darker, so that slots and pockets tell themselves from slopes
    low, high = float(heights.min()), float(heights.max())
    deep = 0.62 + 0.38 * (heights - low) / max(high - low, 1e-9)
    found: np.ndarray = np.ascontiguousarray((40 + 210 * light * deep).astype(np.uint8).T[::-1])
    return found


def least_words(least: MillStock, system: System) -> str:
    """What the core needs at least."""
    sizes = (least.length, least.width, least.thickness)
    kinds = (Quantity.LENGTH, Quantity.LENGTH, Quantity.DEPTH)
    return "needs " + " × ".join(text(v, q, system) for v, q in zip(sizes, kinds, strict=True))


def face_words(face: CutFace, system: System) -> str:
    """A face as it was cut, in a line."""
    judged = face.judged
    minutes = sum(took for _, took in face.times) / 60
    away = "nothing cut away"
    if judged.worst_gouge > GOUGE:
        away = f"{_fine(judged.worst_gouge, system)} cut away: not handed out"
    elif judged.faults:
        away = "not handed out"
    return (
        f"{face.side.capitalize()}, simulated: {minutes:.0f} min, nine tenths within {_fine(judged.usual, system)}, "
        f"most left on {_fine(judged.worst_left, system)}, {away}"
    )


def spot_rows(faces: Sequence[CutFace], system: System) -> list[tuple[str, ...]]:
    """Places out of tolerance: which face and which ring of its picture, where, how far off, and why."""
    return [
        (f"{spot.side.capitalize()} {number}", _place(spot, system), _off(spot, system), spot.why)
        for face in faces
        for number, spot in enumerate(face.judged.spots, 1)
    ]


def verdict(faces: Sequence[CutFace], mill: Mill, thinnest: tuple[float, str], wasted: float, system: System) -> str:
    """The cut in a sentence or two."""
    hours = sum(took for face in faces for _, took in face.times) / 3600
    words = f"{hours:.1f} h on the mill. {wasted * 100:.0f} % of the stock is chips and frame."
    left, name = thinnest
    if name:
        words += f" Least foam under a pocket: {text(left, Quantity.DEPTH, system)}, {name.lower()}."
    ridge = _fine(mill.proud + mill.scallop, system)
    return f"{words} Left on by design: {ridge} between two lines, for the sanding block."


def _fine(value: float, system: System) -> str:
    return text(value, Quantity.DEPTH, system, extra=1)


def _off(spot: ToleranceSpot, system: System) -> str:
    return f"{_fine(abs(spot.off), system)} {'left on' if spot.off > 0 else 'cut away'}"


def _place(spot: ToleranceSpot, system: System) -> str:
    side = "port" if spot.y >= 0 else "starboard"
    along, across = text(spot.x, Quantity.LENGTH, system), text(abs(spot.y), Quantity.LENGTH, system)
    return f"at {along}, {across} to {side}"
