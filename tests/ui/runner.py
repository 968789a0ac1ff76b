"""In place of worker processes: one thread that keeps each settled result by the values it was asked with."""

import pickle
from concurrent.futures import ThreadPoolExecutor

_kept = {}


class Inline(ThreadPoolExecutor):
    """Counts what is asked once in a process, whichever test asks; results come back in the window's thread as ever."""

    def __init__(self):
        super().__init__(1)

    def submit(self, work, /, *values):
        return super().submit(_settled, work, values, pickle.dumps((work, values)))


def _settled(work, values, key):
    if key not in _kept:
        _kept[key] = work(*values)
    return _kept[key]
