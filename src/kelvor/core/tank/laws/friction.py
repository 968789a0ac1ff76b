"""Friction of a smooth plate.

ITTC 1957 model-ship correlation line (8th ITTC, Madrid 1957) and Blasius 1908
for a laminar layer. Below a Reynolds number of about five million a board's
layer is partly laminar: the truth lies between the two.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array

LAMINAR_BELOW = 5e6
"""Below this Reynolds number the band reaches down to Blasius."""


def ittc57(reynolds: Array | float) -> Array:
    """Friction coefficient of the ITTC 1957 line."""
    r = np.maximum(np.asarray(reynolds, float), 1e4)
    coefficient: Array = 0.075 / (np.log10(r) - 2) ** 2
    return coefficient


def blasius(reynolds: Array | float) -> Array:
    """Friction coefficient of a laminar plate, Blasius 1908."""
    coefficient: Array = 1.328 / np.sqrt(np.maximum(np.asarray(reynolds, float), 1.0))
    return coefficient


def band(reynolds: Array | float) -> Array:
    """Share by which friction may part from ITTC 1957: 6 %, more where the layer is partly laminar."""
    r = np.asarray(reynolds, float)
    laminar = np.clip(np.log10(LAMINAR_BELOW / np.maximum(r, 1e3)), 0.0, 1.0)
    share: Array = 0.06 + 0.5 * laminar * (1 - blasius(r) / ittc57(r))
    return share
