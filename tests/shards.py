"""Run the tests: all, or those whose dotted name contains a given word. Closes with `N passed, N failed`.

Long sweeps look at some of their cases; with `--whole` at all of them.
The classes of the suite are dealt out to a process a core and one more, each taking the
next when it has done one; what a process printed is shown when its class ends.
A class says how long it took, and the next run deals out the longest first.
"""

import io
import json
import os
import statistics
import sys
import threading
import time
import traceback
import unittest
from concurrent.futures import ProcessPoolExecutor, as_completed
from multiprocessing import get_context, parent_process
from pathlib import Path

from tests.kept import keeping
from tests.support import WHOLE

TIMES = Path(__file__).with_name("times.json")
"""Spins each class took when the suite was run last to renew them: `python -m tests --times`."""
SPIN = 1_000_000
"""A spin is this many squares added up: 75 ms on a quiet machine of ours."""
SLOWEST = 12


def _flat(suite):
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            yield from _flat(item)
        else:
            yield item


def _classes(words, times):
    """Names of the tests by class, in the order they are dealt out. What cannot be imported is a class of its own."""
    found = {}
    for test in _flat(unittest.defaultTestLoader.discover("tests", top_level_dir=".")):
        if not words or any(w in test.id() for w in words):
            found.setdefault(_class_of(test.id()), []).append(test.id())
    usual = statistics.median(times.values()) if times else 0.0
    return sorted(found.values(), key=lambda names: times.get(_class_of(names[0]), usual), reverse=True)


def _class_of(name):
    return name.rsplit(".", 1)[0]


def spin():
    """Seconds that a spin takes just now: the best of three twentieths, for others may be on the core."""

    def once():
        begin = time.perf_counter()
        sum(i * i for i in range(SPIN // 20))
        return 20 * (time.perf_counter() - begin)

    return min(once() for _ in range(3))


def run_class(names, verbosity):
    """Run tests of one class: how many ran and went wrong, what was printed, seconds, and those of a spin."""
    said, speed, begin = io.StringIO(), spin(), time.perf_counter()
    names = [name.removeprefix("unittest.loader._FailedTest.") for name in names]
    try:
        suite = unittest.defaultTestLoader.loadTestsFromNames(names)
        result = unittest.TextTestRunner(stream=said, verbosity=verbosity).run(suite)
    except BaseException:
        return len(names), len(names), traceback.format_exc(), time.perf_counter() - begin, speed
    bad = len({getattr(t, "test_case", t).id() for t, _ in result.failures + result.errors})
    bad += len(result.unexpectedSuccesses)
    ran = max(result.testsRun, bad)
    return ran, bad, said.getvalue() if bad or verbosity > 1 else "", time.perf_counter() - begin, speed


def _one_thread():
    os.environ["OPENBLAS_NUM_THREADS"] = "1"


def _end_with_the_run():
    """In a process of the suite: end when the run does, however it ends."""
    run = parent_process()
    threading.Thread(target=lambda: (run.join(), os._exit(1)), daemon=True).start()


def _progress(done, classes, ran, failed):
    """How far the suite is, on one line of a terminal."""
    if sys.stderr.isatty():
        sys.stderr.write(f"\r{done} of {classes} classes: {ran - failed} passed, {failed} failed ")
        sys.stderr.flush()


def main() -> int:
    sys.stdout.reconfigure(errors="backslashreplace")  # a test may fail over halves of signs
    words = [word for word in sys.argv[1:] if not word.startswith("--")]
    if "--whole" in sys.argv:
        os.environ[WHOLE] = "yes"
    times = json.loads(TIMES.read_text()) if TIMES.exists() else {}
    speeds = [spin()]  # this machine's speed wanders: looked at before every class
    begin = time.perf_counter()
    classes = _classes(words, times)
    ran = failed = 0
    took = {}
    verbosity = 2 if words else 1
    _one_thread()
    processes = min((os.cpu_count() or 1) + 1, max(len(classes), 1))  # one that waits for a worker leaves a core idle
    with keeping(), ProcessPoolExecutor(processes, get_context("spawn"), _end_with_the_run) as pool:
        asked = {pool.submit(run_class, names, verbosity): names for names in classes}
        for done, future in enumerate(as_completed(asked), 1):
            name = _class_of(asked[future][0])
            try:
                here, bad, said, took[name], speed = future.result()
                speeds.append(speed)
            except Exception as error:
                here, bad, said = len(asked[future]), len(asked[future]), f"{asked[future][0]}: {error!r}\n"
            ran, failed = ran + here, failed + bad
            sys.stdout.write(said)
            sys.stdout.flush()
            _progress(done, len(asked), ran, failed)
        workers = list(pool._processes.values())
    for worker in workers:  # whoever uses the program leaves it too: what breaks then is a failure
        if worker.exitcode:
            ran, failed = ran + 1, failed + 1
            print(f"A process that had run its tests ended with {worker.exitcode}.")
    seconds = time.perf_counter() - begin
    speed = statistics.mean(speeds)
    _tell(took, seconds, speed)
    if "--times" in sys.argv:
        TIMES.write_text(json.dumps({key: round(took[key] / speed) for key in sorted(took)}, indent=1) + "\n")
    print(f"{ran - failed} passed, {failed} failed", flush=True)
    return 1 if failed or not ran else 0


def _tell(took, seconds, speed):
    """How long it took, and which classes took longest."""
    print(f"\nSlowest, in spins of {speed * 1000:.0f} ms:")
    for name in sorted(took, key=took.get, reverse=True)[:SLOWEST]:
        print(f"{took[name] / speed:8.0f}  {name}")
    print(f"{seconds / 60:.1f} minutes, {seconds / speed:.0f} spins")
