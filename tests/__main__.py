"""Run the tests: all, or those whose dotted name contains a given word. Closes with `N passed, N failed`."""

import sys

from tests.shards import main

if __name__ == "__main__":
    sys.exit(main())
