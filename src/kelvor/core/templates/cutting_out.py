"""What a board is cut out of the block by, and laid on: the profile for a hot wire, and the bed for its rocker.

A hot wire runs straight across the board, so it leaves the highest of the deck and the lowest of the bottom at every
place. It runs over the template with its own radius and melts half its kerf about its middle: the template is larger
than the foam by the difference.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.shape.surface.sections import Sections

WIRE, KERF = 0.0005, 0.0012
"""A usual wire's diameter, and how wide it melts, at a usual pace [m] (common practice, no source): try both on a piece
of the same foam.
"""
BED = 0.05
"""The bed stands so high under the lowest point of the bottom [m] (common practice, no source)."""


def wire_profile(shape: Sections, wire: float = WIRE, kerf: float = KERF) -> Array:
    """Once round the template for a hot wire that runs across, (n, 2) as places and heights [m]: the deck from tail to
    nose, then the bottom back.
    """
    high, low = shape.z.max(axis=1), shape.z.min(axis=1)
    out = kerf / 2 - wire / 2
    deck, bottom = np.stack([shape.x, high], axis=1), np.stack([shape.x, low], axis=1)
    return np.concatenate([_moved(deck, out), _moved(bottom, -out)[::-1]])


def rocker_bed(shape: Sections) -> Array:
    """The upper edge of a bed that carries the board along its centreline, (n, 2) as places and heights over the
    floor it stands on [m].
    """
    keel: Array = np.stack([shape.x, shape.keel - float(shape.keel.min()) + BED], axis=1)
    return keel


def _moved(line: Array, by: float) -> Array:
    """A line (n, 2) moved so far to its left, square to itself."""
    way = np.gradient(line, axis=0)
    way /= np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-12)[:, None]
    found: Array = line + by * np.stack([-way[:, 1], way[:, 0]], axis=1)
    return found
