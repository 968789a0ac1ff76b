"""The ride beside general libraries on the same work: planing equilibrium, a wing's lattice, what of a mesh is under
water.
"""

from __future__ import annotations

import time
import warnings
from dataclasses import replace
from statistics import median

import numpy as np
from tests.reference.prism import balanced, prism

from kelvor.core.base.fluids import GRAVITY, Water
from kelvor.core.base.units import KNOT
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.evaluation import ride_case, settle
from kelvor.core.evaluation.jobs import lever_job, ride_job, sweep_job
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers
from kelvor.core.ride.condition import condition_of, span
from kelvor.core.ride.stage import SWEEP, ride
from kelvor.core.shape.surface.surface import mesh
from kelvor.core.tank.displacement.hull import immersed_form
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.core.tank.laws.lattice import lattice
from kelvor.demo.boards import demo_boards


def spin(turns=1_000_000):
    """Milliseconds of a fixed loop: how fast this machine is just now. Its speed wanders by half."""
    begin = time.perf_counter()
    sum(i * i for i in range(turns))
    return (time.perf_counter() - begin) * 1000


def looked():
    """Milliseconds of every look at every demo board, each with the spin about it; for a worker, where rides are
    counted.
    """
    looks = {}
    for _, board, brief in demo_boards():
        settled = settle(evaluate_live(board, brief))
        ride(ride_case(settled), condition_of(brief), settled.floating)
        looks[board.name] = []
        for _ in range(9):
            before, begin = spin(100_000), time.perf_counter()
            ride(ride_case(settled), condition_of(brief), settled.floating)
            took = (time.perf_counter() - begin) * 1000
            looks[board.name].append((took, max(before, spin(100_000))))
    return looks


def phases(say, timed):
    """All phases of one condition, board and brief new to the worker; then another condition of the same board. Aims
    150 ms.

    Told as it came, and of the looks with the machine within a tenth of its own pace just before and after.
    """
    from kelvor.ui.background.runner import POINTER, _workers, close_workers

    looks = _workers(POINTER).submit(looked).result()
    close_workers()
    pace = min(turned for several in looks.values() for _, turned in several)
    calm = {name: [took for took, turned in several if turned < 1.1 * pace] for name, several in looks.items()}
    for words, times in (
        ("as they came", {name: [took for took, _ in several] for name, several in looks.items()}),
        ("at the machine's own pace", {name: times for name, times in calm.items() if times}),
    ):
        spans = {name: median(several) for name, several in times.items()}
        worst, count = max(spans, key=spans.get), sum(len(several) for several in times.values())
        print(
            f"all phases, {len(spans)} demo boards, {words + ',':<26} {count:3} looks:  median "
            f"{median(spans.values()):6.1f} ms"
            f"   most {spans[worst]:6.1f} ms ({worst})   aim 150"
        )
    print(f"   a fixed spin beside it                {10 * pace:6.1f} ms at its own pace, {spin():6.1f} ms after")


def sweeps():
    """The sweep over a wind or speed range, on one process. Aim 1.5 s."""
    spans = {}
    for _, board, brief in demo_boards()[::3]:
        job = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        low, high = span(brief)
        begin = time.perf_counter()
        for value in np.linspace(low, high, SWEEP):
            sweep_job(job, float(value))
        spans[board.name] = (time.perf_counter() - begin) * 1000
    worst = max(spans, key=spans.get)
    print(
        f"sweep of {SWEEP} conditions, board and all     median {median(spans.values()):6.0f} ms   most "
        f"{spans[worst]:6.0f} ms ({worst})   aim 1500"
    )


def sensitivities():
    """What 25 levers do, in the two worker processes the window uses. Aim 5 s."""
    from kelvor.ui.background.runner import IDLE, _workers, close_workers

    pool = _workers(IDLE)
    for name in ("dunlin-39", "shearwater-76", "heron-14", "redshank-139"):
        board, brief = next((b, br) for slug, b, br in demo_boards() if slug == name)
        job = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        for future in [pool.submit(ride_job, job) for _ in range(2)]:
            future.result()
        keys = [lever.key for lever in levers(board)][:25]
        begin = time.perf_counter()
        for future in [pool.submit(lever_job, job, key) for key in keys]:
            future.result()
        print(f"25 levers of {board.name:<24} {time.perf_counter() - begin:8.2f} s   in two processes   aim 5")
    close_workers()


def libraries(say, timed):
    """The same work by openplaning, aerosandbox and capytaine."""
    warnings.filterwarnings("ignore")
    water = Water()

    from openplaning import PlaningBoat

    planer = prism(0.6)

    def theirs_planes(_):
        boat = PlaningBoat(
            speed=15 * KNOT,
            weight=95 * GRAVITY,
            beam=0.6,
            lcg=0.75,
            vcg=0.9,
            r_g=0.4,
            beta=0,
            epsilon=0,
            vT=0.9,
            lT=0.75,
            loa=2.5,
            ahr=0.0,
            rho=water.density,
            nu=water.viscosity,
        )
        boat.get_steady_trim(x0=[0.2, 3.7])

    def ours_planes(_):
        balanced(planer, 95 * GRAVITY, 0.6, 0.0, 15 * KNOT, 0.75, 0.9)

    say("equilibrium of a planing prism", timed(ours_planes, 20), "openplaning 0.4.9", timed(theirs_planes, 8))

    import aerosandbox as asb

    wing = asb.Airplane(
        wings=[
            asb.Wing(
                symmetric=True,
                xsecs=[asb.WingXSec(xyz_le=[0, y, 0], chord=1.0, airfoil=asb.Airfoil("naca0012")) for y in (0.0, 1.0)],
            )
        ]
    )

    def theirs_lattice(_):
        asb.VortexLatticeMethod(
            wing, asb.OperatingPoint(velocity=1.0, alpha=4.0), spanwise_resolution=6, chordwise_resolution=12
        ).run()

    def ours_lattice(_):
        lattice(np.array([0.0, 1.0]), np.full(2, 1.0), 12, 6).lift(0.07)

    say("lattice of a wing, 12 × 12 panels", timed(ours_lattice, 30), "aerosandbox 4.2.10", timed(theirs_lattice, 8))

    import capytaine

    _, board, brief = next(d for d in demo_boards() if d[0] == "grebe-14")
    live = evaluate_live(board, replace(brief))
    surface = mesh(live.geometry.shape)
    depth = float(live.geometry.shape.keel.min()) + 0.06
    vertices = surface.vertices - [0, 0, depth]

    def theirs_clip(_):
        body = capytaine.Mesh(vertices=vertices, faces=np.column_stack([surface.triangles, surface.triangles[:, 0]]))
        return body.immersed_part().volume

    def ours_clip(_):
        return immersed_form(live.geometry.shape, depth, 0.0).volume

    say(
        "immersed form of a race board",
        timed(ours_clip, 30),
        "capytaine 3.0, immersed part of its mesh",
        timed(theirs_clip, 4),
    )
    print(f"   volumes {ours_clip(0) * 1e3:.1f} L and {theirs_clip(0) * 1e3:.1f} L")


def run(say, timed):
    """All of it."""
    phases(say, timed)
    sweeps()
    sensitivities()
    libraries(say, timed)
