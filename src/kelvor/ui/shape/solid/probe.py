"""Asks, in a process of its own, whether this machine can draw solids: a missing driver must not take the
window down.
"""

from __future__ import annotations

import sys

from kelvor.ui.shape.solid.scene import SolidScene

if __name__ == "__main__":
    sys.exit(0 if SolidScene().image(16, 16).any() else 1)
