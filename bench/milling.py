"""The mill and the scan beside general libraries: tool paths beside SciPy's grey dilation of the same faces, the
simulated cut beside what is aimed at, a scan laid on beside trimesh's registration of the same points.
"""

from __future__ import annotations

import time
import warnings

import numpy as np

from kelvor.core.base.mill import Mill
from kelvor.core.made.scan import laid_on
from kelvor.core.mill.contact import face
from kelvor.core.mill.job import cut_face, face_programs, wanted_core
from kelvor.core.mill.paths import paths
from kelvor.core.mill.program import programs
from kelvor.core.mill.stock import SIDES, clamped_core, least_stock
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.surface.sections import Resolution, sections
from kelvor.core.shape.surface.surface import mesh
from kelvor.demo.boards import demo_boards
from kelvor.ui.background.runner import IDLE, _workers, close_workers

BOARD = next(board for name, board, _ in demo_boards() if name == "shearwater-76")
MILL = Mill(flat=0.006, step=0.006)
STAMP = Stamp(design="bench", code="0")


def _took(work):
    begin = time.perf_counter()
    found = work()
    return time.perf_counter() - begin, found


def mill():
    """Both faces of a board of 2.3 m, lines 6 mm apart."""
    core = wanted_core(BOARD)
    stock = least_stock(core, MILL)
    clamps = [clamped_core(core, MILL, stock, side) for side in SIDES]
    alone, _ = _took(lambda: [programs(clamp, paths(clamp), STAMP) for clamp in clamps])
    pool = _workers(IDLE)
    [f.result() for f in [pool.submit(face_programs, BOARD, MILL, stock, side, STAMP) for side in SIDES]]
    both, files = _took(
        lambda: [f.result() for f in [pool.submit(face_programs, BOARD, MILL, stock, side, STAMP) for side in SIDES]]
    )
    close_workers()
    theirs, _ = _took(lambda: [_dilated(clamp) for clamp in clamps])
    lines = sum(program.text.count("\n") for side in files for program in side)
    print(
        f"tool paths and programs, both faces, 6 mm   {both:5.1f} s in two workers, {alone:.1f} in one   aim 5   "
        f"{lines} lines"
    )
    print(
        f"   SciPy's grey dilation of both faces, 1 mm  {theirs:5.1f} s   ratio {alone / theirs:.2f}: heights alone, "
        "no rails, lines, layers or text"
    )
    cut, faces = _took(
        lambda: [cut_face(BOARD, MILL, stock, side, one) for side, one in zip(SIDES, files, strict=True)]
    )
    worst = max(one.judged.worst_gouge for one in faces) * 1e3
    print(
        f"simulated cut of both faces from the text, with what it left   {cut:5.1f} s   aim 10   deepest into "
        f"the core {worst:.2f} mm"
    )


def _dilated(clamp):
    from scipy.ndimage import grey_dilation

    over, pitch, radius = face(clamp), 0.001, MILL.ball / 2
    y = np.arange(-float(over.half.max()) - radius, float(over.half.max()) + radius, pitch)
    heights = np.stack([np.interp(y, a, z) for a, z in zip(over.y[::2], over.z[::2], strict=True)])
    x = np.arange(0.0, float(over.x[-1]), pitch)
    field = np.stack([np.interp(x, over.x[::2], column) for column in heights.T], axis=1)
    reach = np.arange(-10, 11) * pitch
    room = radius**2 - reach[:, None] ** 2 - reach**2
    return grey_dilation(field, footprint=room >= 0, structure=np.sqrt(np.maximum(room, 0)) - radius)


def scan():
    """A scan of 200 000 points laid on; trimesh's nearest points and fits of the same cloud, from where ours ended."""
    import trimesh

    shape = sections(BOARD, Resolution.FINE)
    body = mesh(shape)
    solid = trimesh.Trimesh(body.vertices, body.triangles, process=False)
    points, _ = trimesh.sample.sample_surface(solid, 200_000, seed=1)
    turn = trimesh.transformations.rotation_matrix(np.radians(9), [1, -1, 3])[:3, :3]
    given = 1000 * (np.asarray(points) @ turn.T + [0.1, -0.05, 0.03])
    ours, found = _took(lambda: laid_on(given, shape))
    there = np.asarray(points)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        theirs, _ = _took(
            lambda: trimesh.registration.icp(
                there[:20_000] + 1e-3, there, max_iterations=20, scale=False, reflection=False
            )
        )
    off = float(np.abs(found.points - there).max()) * 1e3
    print(f"a scan of 200 000 points laid on and measured   {ours:5.1f} s   aim 5   motion found to {off:.4f} mm")
    print(
        f"   trimesh 5, 20 rounds on 20 000 of its points, without the way round or distances   {theirs:5.1f} s   "
        f"ratio {ours / theirs:.2f}"
    )


def run():
    """Both."""
    mill()
    scan()
