"""Seeking beside SciPy's general optimisers on the same functions: boards tried and time; two workers beside one; what
a rider's sentence takes.
"""

from __future__ import annotations

import time
from concurrent.futures import ProcessPoolExecutor
from functools import cache
from multiprocessing import get_context

import numpy as np
from scipy.optimize import minimize

from kelvor.core.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.core.jobs import lever_job
from kelvor.core.levers.catalogue import levers
from kelvor.core.materials.table import HANDBOOK
from kelvor.core.sayings.saying import lever_for, said_of
from kelvor.core.sayings.table import SAYINGS
from kelvor.core.sayings.weighing import read_keys
from kelvor.core.seeking.asking import trying
from kelvor.core.seeking.engine import search
from kelvor.core.seeking.problem import Demand, move_of, stated
from kelvor.core.seeking.trade import trade_off, traded
from kelvor.core.subject import Subject
from kelvor.core.units import KNOT
from kelvor.demo.boards import demo_boards

LEVERS = ("width", "thickness", "length", "tail_rocker", "nose_rocker", "width_1ft_nose")
LIVE = (("volume", "at least", 0.040, 1e-3), ("mass", "at most", 2.70, 0.05), ("yaw_inertia", "at most", 0.44, 0.02),
        ("volume_centre_x", "at least", 0.668, 0.01))  # fmt: skip


def _subject():
    _, board, brief = next(row for row in demo_boards() if row[0] == "dunlin-39")
    return Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)


def _asked(subject, demands):
    wanted = [Demand(figure=figure, relation=relation, value=value) for figure, relation, value, *_ in demands]
    return stated(subject.board, wanted, [move_of(subject.board, key, 6.0) for key in LEVERS])


def _took(work):
    begin = time.perf_counter()
    found = work()
    return time.perf_counter() - begin, found


def _general(subject, problem, method, options):
    """The same by a general optimiser: its least square, by how much the worst demand is missed, boards tried."""
    evaluate, tried = trying(subject, problem), []

    @cache
    def values(x):
        tried.append(x)
        return evaluate([x])[0]

    def limit(figure, relation, value, scale):
        sign = 1 if relation == "at least" else -1
        return {"type": "ineq", "fun": lambda x: sign * (values(tuple(np.round(x, 6)))[figure] - value) / scale}

    limits = [limit(*row) for row in LIVE]
    found = minimize(lambda x: 0.5 * x @ x, np.zeros(len(LEVERS)), method=method, bounds=problem.room,
                     constraints=limits, options=options)  # fmt: skip
    return float(found.x @ found.x), -min(float(one["fun"](found.x)) for one in limits), len(tried)


def live():
    """Six levers, four live targets (aim ≤ 2 s)."""
    subject = _subject()
    problem = _asked(subject, LIVE)
    search(problem, trying(subject, problem))  # warm
    ours, found = _took(lambda: search(problem, trying(subject, problem)))
    print(f"seek, 6 levers, 4 live targets     {ours:6.2f} s  {found.state.tried:4d} boards  |x|² {found.size:6.2f}  "
          f"{'met' if found.met else 'not met'}   aim ≤ 2 s")  # fmt: skip
    for method, options in (
        ("SLSQP", {"eps": 0.5, "maxiter": 30, "ftol": 1e-3}),
        ("COBYQA", {"initial_tr_radius": 1.0, "final_tr_radius": 0.05, "maxfev": 120}),
    ):
        theirs, (size, missed, tried) = _took(lambda m=method, o=options: _general(subject, problem, m, o))
        print(f"  {method:<33} {theirs:6.2f} s  {tried:4d} boards  |x|² {size:6.2f}  missed by {max(missed, 0):.3f} "
              f"  ratio {ours / theirs:.3f}")  # fmt: skip


def ridden():
    """The same levers with two targets of the ride: two processes beside one (aim ≤ 20 s)."""
    subject = _subject()
    problem = _asked(subject, (("least_wind_up", "at most", 13.9 * KNOT), ("volume", "at least", 0.0385)))
    spans = []
    for workers in (1, 2):
        with ProcessPoolExecutor(workers, get_context("spawn")) as pool:
            list(pool.map(abs, range(workers)))
            took, found = _took(lambda p=pool: search(problem, trying(subject, problem, p, all_by_it=True)))
        spans.append((took, found))
        print(f"seek, with the ride, {workers} worker{'s' if workers > 1 else ' '}      {took:6.2f} s  "
              f"{found.state.tried:4d} boards  |x|² {found.size:6.2f}   aim ≤ 20 s")  # fmt: skip
    print(f"  two workers beside one: ratio {spans[1][0] / spans[0][0]:.3f}, the same point: "
          f"{spans[0][1].state.x == spans[1][1].state.x}")  # fmt: skip


def trade():
    """A curve of nine points between two figures of the ride, four levers, on two workers (aim ≤ 60 s)."""
    subject = _subject()
    moves = [move_of(subject.board, key, 6.0) for key in LEVERS[:4]]
    problem = traded(subject.board, "least_wind_up", "nose_touch_pitch",
                     {"least_wind_up": 14 * KNOT, "nose_touch_pitch": 0.09}, moves)  # fmt: skip
    with ProcessPoolExecutor(2, get_context("spawn")) as pool:
        list(pool.map(abs, range(2)))
        took, found = _took(lambda: trade_off(problem, trying(subject, problem, pool, all_by_it=True)))
    print(f"trade-off, two of the ride         {took:6.2f} s  {found.tried:4d} boards  {len(found.points)} on it "
          "  aim ≤ 60 s")  # fmt: skip


def says():
    """What a rider's sentence takes: all its candidates on two workers."""
    subject = _subject()
    there = levers(subject.board)
    with ProcessPoolExecutor(2, get_context("spawn")) as pool:
        list(pool.map(abs, range(2)))
        for saying in said_of(SAYINGS, subject.brief.discipline)[:3]:
            wanted = [(lever_for(subject.board, there, c.lever), c.sign) for _, c in saying.grouped()]
            keys = read_keys(saying)
            asked = [(lever.key, sign) for lever, sign in wanted if lever is not None]
            took, _ = _took(lambda a=asked, k=keys: [
                job.result() for job in [pool.submit(lever_job, subject, key, float(sign), k) for key, sign in a]
            ])  # fmt: skip
            print(f"“{saying.words}”, {len(asked)} candidates   {took:6.2f} s")
