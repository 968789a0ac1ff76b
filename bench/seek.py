"""Seeking beside SciPy's general optimisers on the same functions: boards tried and time; two workers beside one; what
a rider's sentence takes.
"""

from __future__ import annotations

import time
from concurrent.futures import ProcessPoolExecutor
from functools import cache, partial
from multiprocessing import get_context

import numpy as np
from scipy.optimize import minimize

from kelvor.core.base.units import KNOT
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.jobs import lever_job
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers
from kelvor.core.rider_says.saying import lever_for, said_of
from kelvor.core.rider_says.table import SAYINGS
from kelvor.core.rider_says.weighing import read_keys
from kelvor.core.seek.engine import search
from kelvor.core.seek.problem import Demand, move_of, stated
from kelvor.core.seek.trade import trade_off, traded
from kelvor.core.seek.typed_demands import trying
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

LEVERS = ("width", "thickness", "length", "tail_rocker", "nose_rocker", "width_1ft_nose")
BOARDS = ("dunlin-39", "curlew-102", "eider-148", "skua-102", "guillemot-113", "heron-14", "merganser-12")
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


def _wished(name):
    """A natural wish for a board: 4 % more litres, no more swing, half a per cent of mass, the centre 2 mm forward."""
    _, board, brief = next(row for row in demo_boards() if row[0] == name)
    now = {f.key: f.value for f in evaluate_live(board, brief).figures}
    rows = (
        ("volume", "at least", 1.04 * now["volume"], 1e-3),
        ("mass", "at most", 1.005 * now["mass"], 0.05),
        ("yaw_inertia", "at most", now["yaw_inertia"], 0.02 * now["yaw_inertia"]),
        ("volume_centre_x", "at least", now["volume_centre_x"] + 0.002, 0.01),
    )
    return Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS), rows


class General:
    """The same problem as a general optimiser wants it, with the boards it tries counted."""

    def __init__(self, subject, problem, rows):
        self.problem, self.rows, self.tried = problem, rows, 0
        evaluate = trying(subject, problem)

        @cache
        def values(x):
            self.tried += 1
            return evaluate([x])[0]

        self.values = values

    def slack(self, x, row):
        """By how much a demand is met at a point, scaled; −9 where no board results."""
        figure, relation, value, scale = row
        found = self.values(tuple(np.round(x, 6)))
        return -9.0 if found is None else (1 if relation == "at least" else -1) * (found[figure] - value) / scale

    def missed(self, x):
        return max(0.0, -min(self.slack(x, row) for row in self.rows))

    def scipy(self, method, options, start):
        limits = [{"type": "ineq", "fun": partial(self.slack, row=row)} for row in self.rows]
        return minimize(
            lambda x: 0.5 * x @ x, start, method=method, bounds=self.problem.room, constraints=limits, options=options
        ).x

    def nlopt(self, start):
        """COBYLA of Powell 1994 as nlopt has it."""
        import nlopt

        opt = nlopt.opt(nlopt.LN_COBYLA, len(start))
        opt.set_min_objective(lambda x, _: float(0.5 * x @ x))
        for row in self.rows:
            opt.add_inequality_constraint(lambda x, _, row=row: -self.slack(x, row), 1e-4)
        opt.set_lower_bounds([low for low, _ in self.problem.room])
        opt.set_upper_bounds([high for _, high in self.problem.room])
        opt.set_initial_step(1.0)
        opt.set_xtol_abs(0.02)
        opt.set_maxeval(200)
        return np.array(opt.optimize(start))


METHODS = (
    ("SLSQP", {"eps": 0.5, "maxiter": 30, "ftol": 1e-3}),
    ("COBYQA", {"initial_tr_radius": 1.0, "final_tr_radius": 0.05, "maxfev": 120}),
)


def live():
    """Six levers, four live targets (aim ≤ 2 s)."""
    subject = _subject()
    problem = _asked(subject, LIVE)
    search(problem, trying(subject, problem))  # warm
    ours, found = _took(lambda: search(problem, trying(subject, problem)))
    print(
        f"seek, 6 levers, 4 live targets     {ours:6.2f} s  {found.state.tried:4d} boards  |x|² {found.size:6.2f}  "
        f"{'met' if found.met else 'not met'}   aim ≤ 2 s"
    )
    for method, options in METHODS:
        general = General(subject, problem, LIVE)
        theirs, x = _took(lambda m=method, o=options, g=general: g.scipy(m, o, np.zeros(len(LEVERS))))
        print(
            f"  {method:<33} {theirs:6.2f} s  {general.tried:4d} boards  |x|² {float(x @ x):6.2f}  "
            f"missed by {general.missed(x):.3f}   ratio {ours / theirs:.3f}"
        )


def starts(names=BOARDS, many=20):
    """Boards of many kinds: the least change found here beside the best that three general optimisers find from twenty
    starts each (minutes).
    """
    for name in names:
        subject, rows = _wished(name)
        problem = _asked(subject, rows)
        found = search(problem, trying(subject, problem))
        general = General(subject, problem, rows)
        rng, lows_highs = np.random.default_rng(7), np.array(problem.room)
        best = {}
        for at in range(many):
            start = np.zeros(len(LEVERS)) if at == 0 else rng.uniform(*np.maximum(np.minimum(lows_highs, 3), -3).T)
            for method, options in (*METHODS, ("COBYLA of nlopt", None)):
                try:
                    x = general.nlopt(start) if options is None else general.scipy(method, options, start)
                except (RuntimeError, ValueError):
                    continue  # an optimiser that gives up has found nothing
                if general.missed(x) < 0.02:
                    best[method] = min(best.get(method, np.inf), float(x @ x))
        theirs = ", ".join(f"{method} {size:.2f}" for method, size in best.items()) or "none met it"
        print(
            f"seek, {many} starts, {name:<14} |x|² {found.size:6.2f} {'met' if found.met else 'not met'} with "
            f"{found.state.tried} boards; {theirs}; they tried {general.tried}"
        )


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
        print(
            f"seek, with the ride, {workers} worker{'s' if workers > 1 else ' '}      {took:6.2f} s  "
            f"{found.state.tried:4d} boards  |x|² {found.size:6.2f}   aim ≤ 20 s"
        )
    print(
        f"  two workers beside one: ratio {spans[1][0] / spans[0][0]:.3f}, the same point: "
        f"{spans[0][1].state.x == spans[1][1].state.x}"
    )


def trade():
    """A curve of nine points between two figures of the ride, four levers, on two workers (aim ≤ 60 s)."""
    subject = _subject()
    moves = [move_of(subject.board, key, 6.0) for key in LEVERS[:4]]
    problem = traded(
        subject.board,
        "least_wind_up",
        "nose_touch_pitch",
        {"least_wind_up": 14 * KNOT, "nose_touch_pitch": 0.09},
        moves,
    )
    with ProcessPoolExecutor(2, get_context("spawn")) as pool:
        list(pool.map(abs, range(2)))
        took, found = _took(lambda: trade_off(problem, trying(subject, problem, pool, all_by_it=True)))
    print(
        f"trade-off, two of the ride         {took:6.2f} s  {found.tried:4d} boards  {len(found.points)} on it "
        "  aim ≤ 60 s"
    )


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
            took, _ = _took(
                lambda a=asked, k=keys: [
                    job.result() for job in [pool.submit(lever_job, subject, key, float(sign), k) for key, sign in a]
                ]
            )
            print(f"“{saying.words}”, {len(asked)} candidates   {took:6.2f} s")
