"""Speed, as ratios against a general library on the same work, side by side in one run.

    ./run bench [live] [whole] [solid] [build] [float] [hand] [start] [crowd] [ride] [rack] [waiting] [milling] [water]
    [seek] [starts] [family] [days]

Absolute milliseconds depend on the machine and are only for orientation.
"""

import gc
import os
import shutil
import subprocess
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path
from statistics import median

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np

from bench import compare, days, hand, rack, ride, waiting
from kelvor.core.base.errors import RefusedEdit
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.board_mass import board_mass
from kelvor.core.build.materials.layup import with_construction
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.build.stiffness.stage import stiffness_stage
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.levers.additions import (
    BOTTOM,
    DECK,
    with_fin_set,
    with_fitting,
    with_layer_added,
    with_winger,
)
from kelvor.core.levers.layer_benefit import built, layer_worth, with_count, worth_asked
from kelvor.core.shape.edits.weights import Hold, moved, place_and_value
from kelvor.core.shape.surface.geometry import geometry
from kelvor.core.shape.surface.sections import Resolution
from kelvor.core.shape.surface.surface import mesh
from kelvor.core.tank.floating.balance import plane_at, sink
from kelvor.core.tank.floating.clipping import Hull
from kelvor.core.tank.floating.stage import float_stage
from kelvor.demo.boards import demo_boards
from kelvor.ui.ride.ride_requests import RideRequests

FRAME = 1000 / 60


def timed(work, rounds):
    """Median milliseconds of `work(i)`, after two rounds to warm up."""
    spans = []
    for i in range(rounds + 2):
        begin = time.perf_counter()
        work(i)
        spans.append((time.perf_counter() - begin) * 1000)
    return median(spans[2:])


def in_turns(works, rounds, run=10):
    """Like `timed` for works by name, a run of each in every round, so that a busy moment hits all."""
    spans = {name: [] for name in works}
    for first in range(0, rounds * run, run):
        for name, work in works.items():
            for i in range(first, first + run):
                begin = time.perf_counter()
                work(i)
                if i > first + 1:  # after two to warm up
                    spans[name].append((time.perf_counter() - begin) * 1000)
    return {name: median(found) for name, found in spans.items()}


def say(name, ours, other, theirs, aim=""):
    print(f"{name:<34} {ours:8.2f} ms   {other:<44} {theirs:8.2f} ms   ratio {ours / theirs:6.3f}   {aim}")


def live():
    """Edit → geometry → figures, dragging a weight up and along, against trimesh and NumPy on the same mesh."""
    import trimesh

    _, board, brief = demo_boards()[1]
    surface = mesh(geometry(board).shape)

    def with_trimesh(_):
        body = trimesh.Trimesh(surface.vertices, surface.triangles, process=False)
        return body.mass_properties

    def one_pass(_):
        v = surface.vertices
        return (v * v).sum(), v.mean(axis=0)

    works = {"trimesh": with_trimesh, "pass": one_pass}
    for words, line, dx in (
        ("weight pulled out", "outline", 0.0),
        ("weight slid along", "outline", 1e-4),
        ("rocker weight", "rocker", 0.0),
    ):
        held = Hold(line, 3)
        x, value = place_and_value(board, held)

        def edited(i, held=held, x=x, value=value, dx=dx):
            return evaluate_live(moved(board, held, x + dx * i, value + 1e-4 * (i % 40)), brief)

        def headline(i, edited=edited):
            found = edited(i)
            return found.geometry.solid.volume, found.wide_point, found.keel_flat

        works[f"headline figures, {words}"] = headline
        works[f"all live figures, {words}"] = lambda i, edited=edited: edited(i).figures
    gc.collect()
    gc.disable()  # as in the window, which sweeps while nothing is asked of it
    found = in_turns(works, 8)
    gc.enable()
    theirs, other = found.pop("trimesh"), "trimesh: volume, centre, inertia"
    say(other, theirs, "one NumPy pass over its vertices", found.pop("pass"))
    for words, ours in found.items():
        say(words, ours, other, theirs, "aim ≤ 0.15" if words.startswith("headline") else "aim ≤ 0.3")


def floating():
    """One sinkage of a floating board, and the whole float stage, against bisection on trimesh slices."""
    import trimesh
    from trimesh.intersections import slice_mesh_plane

    _, board, brief = demo_boards()[0]
    measured = geometry(board)
    surface = mesh(measured.shape)
    body = trimesh.Trimesh(surface.vertices, surface.triangles, process=False)
    target = 0.5 * measured.solid.volume
    hull = Hull(measured.shape)

    def wet(depth):
        part = slice_mesh_plane(body, [0, 0, -1.0], [0, 0, depth], cap=False)
        v = part.vertices - [0, 0, depth]
        a, b, c = (v[part.faces[:, i]] for i in range(3))
        return float(np.einsum("ij,ij->", a, np.cross(b, c)) / 6)

    def bisect(_):
        low, high = 0.0, 0.2
        while high - low > 1e-7:
            middle = (low + high) / 2
            low, high = (middle, high) if wet(middle) < target else (low, middle)
        return low

    ours = lambda _: sink(hull.immersion, 1000 * target, 1000.0, 0.0, 0.0, 0.0, 0.2)  # noqa: E731
    assert abs(ours(0) - bisect(0)) < 2e-5, (ours(0), bisect(0))
    assert plane_at(0.1, 0, 0).depth == 0.1
    theirs = timed(bisect, 5)
    say("float: one sinkage", timed(ours, 30), "bisection on trimesh slices", theirs)
    found = evaluate_live(board, brief)
    say(
        "float: three postures, windows",
        timed(lambda _: float_stage(found.geometry, found.mass.total, brief, found.coefficients), 8),
        "the same one bisection",
        theirs,
    )


def start():
    """From the start of Python to the first painted window, against an empty PySide6 window."""
    empty = (
        "from PySide6.QtWidgets import QApplication, QMainWindow\na = QApplication([])\nw = "
        "QMainWindow()\nw.resize(1280, 800)\n"
        "w.show()\na.processEvents()"
    )
    with tempfile.TemporaryDirectory() as folder:
        from kelvor.demo.workshop import create_demo

        create_demo(Path(folder) / "d.kelvor").close()
        frame = (
            "from kelvor.ui.window.application import *\na = make_application()\napply_theme(a, LIGHT)\nw = "
            "opening_window('')\n"
            "w.show()\na.processEvents()\n"
        )
        board = frame + (
            f"from kelvor.workshop.store import Store\nm = make_window(Store.open(Path('{folder}/d.kelvor')), "
            f"Settings(Path('{folder}/s.json')))\n"
            "import os\nb = type(m.shape.bench)\np = b.paintEvent\nb.paintEvent = lambda s, e: (p(s, e), os._exit(0))\n"
            "m.show()\nw.close()\na.processEvents()"
        )

        def run(script):
            return lambda _: subprocess.run(
                [sys.executable, "-c", script], check=True, env={**os.environ, "PYTHONPATH": "src"}, capture_output=True
            )

        spans = {frame: [], board: [], empty: []}
        for _ in range(5):  # in turns, so that a busy moment hits all
            for script, found in spans.items():
                found.append(timed(run(script), 1))
        first, full, bare = (median(found) for found in spans.values())
        say("start to first window", first, "empty PySide6 window", bare, "aim ≤ 2.5")
        say("start to the board on the bench", full, "empty PySide6 window", bare, "aim ≤ 3.5")
        timing = timed(run("import PySide6.QtWidgets, numpy, sqlite3"), 3)
        say("", full, "importing Qt, NumPy and sqlite3 alone", timing)


def crowd():
    """Opening a workshop of 500 boards against one of five."""
    from kelvor.core.base.units import System
    from kelvor.core.new_board.first_boards import first_board
    from kelvor.ui.window.assembly import session_on
    from kelvor.workshop.store import Store

    assert System.METRIC
    with tempfile.TemporaryDirectory() as folder:
        stores = []
        for count in (5, 500):
            store = Store.create(Path(folder) / f"{count}.kelvor")
            store._db.execute("PRAGMA synchronous = OFF")
            board = first_board("B", "wing foil", 1.45, 0.5, 0.09)
            for i in range(count):
                store.add_board(replace(board, name=f"Board {i}"), Brief(), "Began")
            store.close()
            stores.append(Path(folder) / f"{count}.kelvor")

        def opened(path):
            def work(_):
                store = Store.open(path)
                session = session_on(store)
                session.file.open_board(store.last_board())
                session.service(RideRequests).forget()  # the workers' share is timed by itself
                assert store.boards()
                store.close()

            return work

        from kelvor.ui.window.application import make_application

        make_application()
        say(
            "open a workshop of 500 boards", timed(opened(stores[1]), 8), "one of 5 boards", timed(opened(stores[0]), 8)
        )


def loaded_board():
    """A wave board with every layer, deck feature and fitting laid on that finds room."""
    board = next(b for slug, b, _ in demo_boards() if slug == "turnstone-77")
    for key in (*BOTTOM, *DECK):
        try:
            board = with_layer_added(board, key)[0]
        except RefusedEdit:
            continue
    board = with_winger(with_fin_set(board, "five boxes"), 0.5, "hip")
    for kind, x in (
        ("tracks", 0.5),
        ("vent", 1.5),
        ("leash plug", 0.06),
        ("handle", 1.0),
        ("strap row", 0.6),
        ("pad", 0.9),
    ):
        board = with_fitting(board, kind, x)
    return board


def whole():
    """The live path with every layer and fitting on, against trimesh on the same mesh; and cost against mesh
    resolution.
    """
    import trimesh

    board, brief = loaded_board(), replace(Brief(), discipline="wave windsurf")
    measured = geometry(board)
    surface = mesh(measured.shape)
    theirs = timed(lambda _: trimesh.Trimesh(surface.vertices, surface.triangles, process=False).mass_properties, 9)
    held = Hold("outline", 3)
    x, value = place_and_value(board, held)
    ours = timed(lambda i: evaluate_live(moved(board, held, x, value + 1e-4 * (i % 40)), brief), 40)
    count = f"{len(board.layers)} + {len(board.deck_layers)} layers"
    say(
        f"live path, {count}, all fittings",
        ours,
        "trimesh: volume, centre, inertia",
        theirs,
        f"frame {ours / FRAME:.2f}",
    )
    fine = geometry(board, Resolution.FINE).solid.volume
    for resolution in Resolution:
        found = geometry(board, resolution)
        span = timed(lambda _, r=resolution: geometry(moved(board, held, x, value + 1e-4), r), 12)
        off = abs(found.solid.volume / fine - 1)
        say(
            f"  geometry, {resolution.name.lower()}: {found.shape.y.size} points",
            span,
            "the same trimesh",
            theirs,
            f"volume off {off:.1e}",
        )


def solid():
    """From a change of the board to its picture in the solid view, as while dragging, against drawing the
    scene alone.
    """
    from kelvor.ui.shape.shown.solid_parts import board_solid, fins_solid
    from kelvor.ui.shape.solid.scene import SolidScene, surface

    board, brief = loaded_board(), replace(Brief(), discipline="wave windsurf")
    scene, held = SolidScene(), Hold("outline", 3)
    x, value = place_and_value(board, held)

    def follow(i):
        changed = evaluate_live(moved(board, held, x, value + 1e-4 * (i % 40)), brief)
        body = board_solid(changed.board, moving=True)
        scene.put("board", surface(body.vertices, body.triangles), (1, 1, 1), smooth=True, mirror=True, sharp=False)
        fins = fins_solid(changed.geometry)
        scene.put("fins", surface(fins.vertices, fins.triangles), (0, 0, 0), smooth=True)
        scene.frame(body.vertices.min(axis=0), body.vertices.max(axis=0))
        scene.image(335, 310)

    ours = timed(follow, 15)
    say(
        "solid: a drag to its picture",
        ours,
        "drawing the same scene again",
        timed(lambda _: scene.image(335, 310), 15),
        f"frame {ours / FRAME:.2f}",
    )


def build():
    """A change of a layer: weight, then stiffness of all sections, against sectionproperties on six of the same
    sections.
    """
    from sectionproperties.analysis import Section
    from sectionproperties.pre import Geometry as Region
    from shapely import Polygon

    _, board, brief = demo_boards()[1]
    measured = geometry(board)
    construction = board.construction
    found = evaluate_live(board, brief)
    shape, top, wall = measured.shape, measured.shape.columns.top, 0.0015

    def theirs(_):
        for i in np.linspace(30, len(shape.x) - 30, 6).astype(int):
            ring = np.concatenate(
                [
                    np.column_stack([shape.y[i, : top + 1], shape.z[i, : top + 1]]),
                    np.column_stack([-shape.y[i, : top + 1], shape.z[i, : top + 1]])[::-1],
                ]
            )
            outer = Polygon(ring).buffer(0)
            region = Region(outer.difference(outer.buffer(-wall)))
            region.create_mesh(mesh_sizes=[wall**2 * 2])
            section = Section(region)
            section.calculate_geometric_properties()
            section.calculate_warping_properties()

    general = timed(theirs, 1)

    def lighter(i):
        changed = with_construction(board, measured.shape, with_count(construction, 0, i % 2), HANDBOOK)
        return board_mass(replace(measured, board=changed), HANDBOOK)

    ours = timed(lighter, 20)
    say(
        "a layer more: weight and balance",
        ours,
        "sectionproperties, six sections",
        general,
        f"frame {ours / FRAME:.2f}",
    )
    ours = timed(lambda _: stiffness_stage(found.geometry, found.mass, brief, HANDBOOK), 20)
    say(
        f"stiffness of all {len(shape.x)} sections, tests",
        ours,
        "sectionproperties, six sections",
        general,
        "aim ≤ 50 ms",
    )
    layers = found.geometry.board.construction
    now = built(found.geometry, layers, brief, HANDBOOK)
    ours = timed(
        lambda _: [layer_worth(found.geometry, now, brief, HANDBOOK, *each) for each in worth_asked(layers)], 5
    )
    say("what every layer buys", ours, "sectionproperties, six sections", general)


def milling():
    """The mill and the scan; their libraries load for them alone."""
    from bench import milling as parts

    parts.run()


def seek():
    """The least change that meets targets, and what a rider's sentence takes."""
    from bench import seek as parts

    parts.live()
    parts.ridden()
    parts.trade()
    parts.says()


def family():
    """Sizes, options, and boards to register; their workers load for them alone."""
    from bench import family as parts

    parts.run()


def starts():
    """Seeking beside three general optimisers from twenty starts each on seven boards: minutes, so only when asked."""
    from bench import seek as parts

    parts.starts()


def water():
    """Tracks and the log; their readers load for them alone."""
    from bench import water as parts

    parts.run()


PARTS = {
    "live": live,
    "whole": whole,
    "solid": solid,
    "build": build,
    "float": floating,
    "hand": lambda: hand.run(say),
    "start": start,
    "crowd": crowd,
    "days": days.run,
    "ride": lambda: ride.run(say, timed),
    "rack": lambda: rack.run(say, timed),
    "compare": lambda: compare.run(say),
    "milling": milling,
    "water": water,
    "seek": seek,
    "starts": starts,
    "family": family,
    "waiting": lambda: waiting.run(say, timed),
}

if __name__ == "__main__":
    chosen = sys.argv[1:] or list(PARTS)
    unknown = [name for name in chosen if name not in PARTS]
    if unknown:
        print(f"no such part: {', '.join(unknown)}; there are {', '.join(PARTS)}", file=sys.stderr)
        sys.exit(2)
    print(f"{os.cpu_count()} cores, {shutil.which('python3')}")
    for name in chosen:
        PARTS[name]()
