"""Families: a size run with its rides, a matrix of options, and boards to register beside SciPy's milp."""

from __future__ import annotations

import time
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

from kelvor.core.build.materials.recipes import recipes
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.subject import Subject
from kelvor.core.family.options import boxes_of, options_job, straps_of
from kelvor.core.family.rules import first_rules
from kelvor.core.family.season import Entrant, Winds, best_choice
from kelvor.core.family.size_state import Basis, size_job, size_ride_job, state_job
from kelvor.core.family.sizing import Parent, brief_of_size
from kelvor.core.ride.condition import condition_of
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

MASSES = (48.0, 55.0, 62.0, 76.0, 84.0, 93.0, 104.0)


def _took(work):
    begin = time.perf_counter()
    found = work()
    return time.perf_counter() - begin, found


def sizes():
    """Seven sizes made, judged and ridden on two processes (aim ≤ 6 s)."""
    for name in ("dunlin-39", "shearwater-69"):
        _, board, brief = next(row for row in demo_boards() if row[0] == name)
        basis = Basis(Parent(board, brief.rider.mass), first_rules(board, brief.discipline))
        with ProcessPoolExecutor(2, get_context("spawn")) as pool:
            list(pool.map(abs, range(2)))

            def run(pool=pool, basis=basis, brief=brief):
                made = [job.result() for job in [pool.submit(size_job, basis, mass, "x") for mass in MASSES]]
                jobs = [pool.submit(state_job, basis, basis, one.mass, one.board) for one in made]
                for one in made:
                    own = brief_of_size(brief, one.mass)
                    subject = Subject(one.board, own, HANDBOOK, HANDBOOK_COEFFICIENTS)
                    jobs.append(pool.submit(size_ride_job, "x", subject, condition_of(own)))
                return [job.result() for job in jobs]

            cold, _ = _took(run)
            warm, found = _took(run)
        print(
            f"seven sizes of {name:<14} {cold:6.2f} s at first, {warm:5.2f} s again   {len(found)} answers   aim ≤ 6 s"
        )


def matrix():
    """Sixty options (aim ≤ 3 s)."""
    _, board, brief = next(row for row in demo_boards() if row[0] == "dunlin-39")
    basis = Basis(Parent(board, brief.rider.mass), first_rules(board, brief.discipline))
    boards = [board, *(basis.made(mass, "x").board for mass in MASSES[:4])]
    constructions = recipes("wing foil")[:3]

    def run():
        return [options_job(b, HANDBOOK, constructions, boxes_of(b), straps_of(b)) for b in boards]

    took, found = _took(run)
    print(f"matrix of {sum(map(len, found))} options, one process  {took:6.2f} s   aim ≤ 3 s")


def register():
    """Three of twelve boards over a season, with a quota, beside SciPy's milp (aim ≤ 1 s)."""
    rng = np.random.default_rng(3)
    entrants = [
        Entrant(str(k), ((lo, lo + float(rng.uniform(2, 5))),), (bool(k % 3 == 0),))
        for k, lo in enumerate(rng.uniform(3, 12, 12).tolist())
    ]
    winds = Winds(7.5)
    ends = sorted({end for one in entrants for window in one.windows for end in window})
    middles = [(a + b) / 2 for a, b in zip(ends[:-1], ends[1:], strict=True)]
    parts = np.array([winds.share(a, b) for a, b in zip(ends[:-1], ends[1:], strict=True)])
    covers = np.array([[any(lo <= m <= hi for lo, hi in one.windows) for one in entrants] for m in middles], float)
    n, m = len(entrants), len(parts)
    rows = [
        np.concatenate([np.ones(n), np.zeros(m)]),
        np.concatenate([[float(one.counts[0]) for one in entrants], np.zeros(m)]),
    ]
    rows += [np.concatenate([-covers[j], np.eye(m)[j]]) for j in range(m)]
    limits = LinearConstraint(np.array(rows), -np.inf, np.array([3, 1, *np.zeros(m)]))

    def theirs():
        return -milp(
            np.concatenate([np.zeros(n), -parts]), integrality=np.ones(n + m), bounds=Bounds(0, 1), constraints=limits
        ).fun

    best_choice(entrants, winds, 3, (1,))
    ours, found = _took(lambda: best_choice(entrants, winds, 3, (1,)))
    other, covered = _took(theirs)
    print(
        f"3 of 12 boards to register         {ours * 1e3:6.2f} ms  covers {found.covered:.4f}   scipy milp "
        f"{other * 1e3:6.2f} ms, {covered:.4f}   ratio {ours / other:.3f}   aim ≤ 1 s"
    )


def run():
    sizes()
    matrix()
    register()
