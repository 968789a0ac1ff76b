"""What Python has lost is swept up in the window's own thread.

Python's collector runs in whichever thread happens to make the next object. A
widget or timer that only a cycle still holds would then be destroyed in a
thread that is not its own, and the window with it.
"""

from __future__ import annotations

import gc

from PySide6.QtCore import QObject, QTimer

EVERY_MS = 400


class GarbageCollector(QObject):
    """In place of Python's automatic collector: looks now and then, in the thread it lives in, whether there is enough
    to sweep.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self._look)
        self._timer.start()
        self._begun = False

    def _look(self) -> None:
        if not self._begun:
            self._begun = True
            gc.freeze()  # modules and what else stays: not worth looking at before the first picture, or ever
            return
        counts, limits = gc.get_count(), gc.get_threshold()
        for generation in (2, 1, 0):
            if counts[generation] > limits[generation] > 0:
                gc.collect(generation)
                return
