"""What window tests count once a process: what is asked of workers, shapes, floats and stiffness, each kept by what it
was asked with.
"""

import pickle
from concurrent.futures import Future, ThreadPoolExecutor

from kelvor.core.build.stiffness.stage import stiffness_stage
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.tank.floating.stage import float_stage
from kelvor.ui.background.runner import _unless_overtaken
from tests.kept import kept

_kept = {}
_floats = {}
_shapes = {}
_stiff = {}


RIDES = ("ride_job", "whole_job", "sweep_job", "lever_job", "candidate_job", "band_job", "size_ride_job")


class Inline(ThreadPoolExecutor):
    """In place of worker processes: one thread. Results come back in the window's thread as ever; without `rides`,
    rides never do.
    """

    def __init__(self, rides):
        super().__init__(1)
        self._rides = rides

    def submit(self, work, /, *values, **named):
        if work is _unless_overtaken:
            _, _, work, *values = values
            values = tuple(values)
        if not self._rides and work.__name__ in RIDES:
            return Future()
        return super().submit(_settled, work, values, named, pickle.dumps((work, values, named)))


def _settled(work, values, named, key):
    if key not in _kept:
        _kept[key] = kept(work, *values, **named)
    return _kept[key]


def kept_float(measured, mass, brief, table, *, quick=False):
    """The float stage, counted once for the same board, brief and coefficients."""
    key = (measured.board, measured.shape.z.shape, mass, brief, table, quick)
    if key not in _floats:
        _floats[key] = kept(float_stage, measured, mass, brief, table, quick=quick)
    return _floats[key]


def kept_geometry(board, resolution=Resolution.NORMAL):
    """The geometry of a board, counted once."""
    key = (board, resolution)
    if key not in _shapes:
        _shapes[key] = geometry(board, resolution)
    return _shapes[key]


def kept_stiffness(measured, mass, brief, table):
    """The stiffness of a board, counted once for the same mass, brief and materials."""
    key = (measured.board, measured.shape.z.shape, mass.total, brief, table)
    if key not in _stiff:
        _stiff[key] = kept(stiffness_stage, measured, mass, brief, table)
    return _stiff[key]
