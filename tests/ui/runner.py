"""What window tests count once a process: what is asked of workers, and floats, each kept by the values it was asked with."""

import pickle
from concurrent.futures import ThreadPoolExecutor

from kelvor.core.floating.stage import float_stage

_kept = {}
_floats = {}


class Inline(ThreadPoolExecutor):
    """In place of worker processes: one thread. Results come back in the window's thread as ever."""

    def __init__(self):
        super().__init__(1)

    def submit(self, work, /, *values):
        return super().submit(_settled, work, values, pickle.dumps((work, values)))


def _settled(work, values, key):
    if key not in _kept:
        _kept[key] = work(*values)
    return _kept[key]


def kept_float(measured, mass, brief, table, *, quick=False):
    """The float stage, counted once for the same board, brief and coefficients."""
    key = (measured.board, measured.shape.z.shape, mass, brief, table, quick)
    if key not in _floats:
        _floats[key] = float_stage(measured, mass, brief, table, quick=quick)
    return _floats[key]
