"""``python -m kelvor``."""

import sys

from kelvor.cli import main

if __name__ == "__main__":
    sys.exit(main())
