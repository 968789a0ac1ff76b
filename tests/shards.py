"""Run the tests: all, or those whose dotted name contains a given word. Closes with `N passed, N failed`.

The classes of the suite are dealt out to one process a core, each taking the
next when it has done one; what a process printed is shown when its class ends.
"""

import io
import os
import sys
import threading
import traceback
import unittest
from concurrent.futures import ProcessPoolExecutor, as_completed
from multiprocessing import get_context, parent_process

LONGEST = ("tests.core.test_coefficients", "tests.core.test_true", "tests.test_hostile", "tests.exchange", "tests.ui")
"""Modules that take longest begin first, so that no core waits for another at the end."""


def _flat(suite):
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            yield from _flat(item)
        else:
            yield item


def _classes(words):
    """Names of the tests by class, in the order they are dealt out. What cannot be imported is a class of its own."""
    found = {}
    for test in _flat(unittest.defaultTestLoader.discover("tests", top_level_dir=".")):
        if not words or any(w in test.id() for w in words):
            found.setdefault(test.id().rsplit(".", 1)[0], []).append(test.id())
    rank = {key: i for i, key in enumerate(LONGEST)}
    return sorted(
        found.values(), key=lambda names: min((rank[k] for k in LONGEST if names[0].startswith(k)), default=len(rank))
    )


def run_class(names, verbosity):
    """Run tests of one class: how many ran, how many went wrong, and what was printed."""
    said = io.StringIO()
    names = [name.removeprefix("unittest.loader._FailedTest.") for name in names]
    try:
        suite = unittest.defaultTestLoader.loadTestsFromNames(names)
        result = unittest.TextTestRunner(stream=said, verbosity=verbosity).run(suite)
    except BaseException:
        return len(names), len(names), traceback.format_exc()
    bad = len({getattr(t, "test_case", t).id() for t, _ in result.failures + result.errors})
    bad += len(result.unexpectedSuccesses)
    ran = max(result.testsRun, bad)
    return ran, bad, said.getvalue() if bad or verbosity > 1 else ""


def _one_thread():
    os.environ["OPENBLAS_NUM_THREADS"] = "1"


def _end_with_the_run():
    """In a process of the suite: end when the run does, however it ends."""
    run = parent_process()
    threading.Thread(target=lambda: (run.join(), os._exit(1)), daemon=True).start()


def main() -> int:
    sys.stdout.reconfigure(errors="backslashreplace")  # a test may fail over halves of signs
    words = sys.argv[1:]
    classes = _classes(words)
    ran = failed = 0
    verbosity = 2 if words else 1
    _one_thread()
    processes = min(os.cpu_count() or 1, max(len(classes), 1))
    with ProcessPoolExecutor(processes, get_context("spawn"), _end_with_the_run) as pool:
        asked = {pool.submit(run_class, names, verbosity): names for names in classes}
        for future in as_completed(asked):
            try:
                here, bad, said = future.result()
            except Exception as error:
                here, bad, said = len(asked[future]), len(asked[future]), f"{asked[future][0]}: {error!r}\n"
            ran, failed = ran + here, failed + bad
            sys.stdout.write(said)
            sys.stdout.flush()
        workers = list(pool._processes.values())
    for worker in workers:  # whoever uses the program leaves it too: what breaks then is a failure
        if worker.exitcode:
            ran, failed = ran + 1, failed + 1
            print(f"A process that had run its tests ended with {worker.exitcode}.")
    print(f"{ran - failed} passed, {failed} failed", flush=True)
    return 1 if failed or not ran else 0
