"""A scheduler on this machine: the same answers as one process gives, with a worker killed on the way too."""

import unittest
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

from distributed import LocalCluster

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.subject import Subject
from kelvor.core.seek.answer import rounded_answer
from kelvor.core.seek.engine import search
from kelvor.core.seek.problem import Demand, move_of, stated
from kelvor.core.seek.typed_demands import trying
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards
from kelvor.ui.background.more_machines import workers_at


class Scheduler(unittest.TestCase):
    def setUp(self):
        board, brief = next((board, brief) for name, board, brief in demo_boards() if name == "dunlin-39")
        self.subject = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
        demands = [
            Demand(figure="least_wind_up", relation="at most", value=13.9 * KNOT),
            Demand(figure="volume", relation="at least", value=0.0385),
        ]
        self.problem = stated(board, demands, [move_of(board, key) for key in ("width", "thickness")])

    def sought(self, executor=None, told=None):
        evaluate = trying(self.subject, self.problem, executor, all_by_it=True)
        return rounded_answer(self.problem, search(self.problem, evaluate, told=told), evaluate)

    def test_one_process_two_a_scheduler_and_a_worker_killed_find_the_same(self):
        alone = self.sought()
        with ProcessPoolExecutor(2, get_context("spawn")) as pool:
            self.assertEqual(self.sought(pool), alone)
        with LocalCluster(
            n_workers=2, threads_per_worker=1, host="127.0.0.1", dashboard_address=None, protocol="tcp"
        ) as cluster:
            executor, count = workers_at(cluster.scheduler_address)
            self.assertEqual(count, 2)
            victims = [next(iter(cluster.workers.values()))]
            first = victims[0].pid

            def kill(_):
                if victims:
                    victims.pop().process.process.kill()

            self.assertEqual(self.sought(executor, kill), alone)
            self.assertEqual(victims, [])
            self.assertNotIn(first, [worker.pid for worker in cluster.workers.values()])
            executor.shutdown()
        with self.assertRaisesRegex(InputError, "no scheduler answers"):
            workers_at(cluster.scheduler_address)
