"""Run the tests: all, or those whose dotted name contains a given word. Closes with `N passed, N failed`."""

import sys
import unittest


def _flat(suite):
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            yield from _flat(item)
        else:
            yield item


def main() -> int:
    words = sys.argv[1:]
    cases = [
        t
        for t in _flat(unittest.defaultTestLoader.discover("tests", top_level_dir="."))
        if not words or any(w in t.id() for w in words)
    ]
    result = unittest.TextTestRunner(stream=sys.stdout, verbosity=2 if words else 1).run(unittest.TestSuite(cases))
    bad = len({getattr(t, "test_case", t).id() for t, _ in result.failures + result.errors})
    print(f"{result.testsRun - min(bad, result.testsRun)} passed, {bad} failed", flush=True)
    return 1 if bad or not result.testsRun or not result.wasSuccessful() else 0


if __name__ == "__main__":
    sys.exit(main())
