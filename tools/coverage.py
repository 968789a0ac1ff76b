"""Coverage of the bands that are shown, coefficients counted, and the table of what practitioners expect to read.

    python -m tools.coverage

Some minutes: every coefficient each of the boards reads is moved. The result is published in `docs/methods.md`.
"""

from tests.plausible import rows, table
from tests.reference.test_coverage import compared, summary


def main() -> None:
    """Print both tables."""
    print(table(rows(banded=True)))
    print(table(rows(plain=True, banded=True)))
    print(summary(compared(banded=True))[1])


if __name__ == "__main__":
    main()
