"""How a run went: what was thrown, what was read, and what was neither read nor refused in one line."""

import resource
import time
import traceback
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from kelvor.core.base.errors import KelvorError
from kelvor.exchange.read_limits import limited

HANG = 10.0
"""What takes more of the processor hangs [s], for a busy machine says nothing of a reader; what waits is stopped."""


@dataclass
class Outcome:
    """How a run went."""

    tried: Counter = field(default_factory=Counter)
    read: Counter = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    slow: list[tuple[float, str]] = field(default_factory=list)
    """What took longer than a second, for somebody to look at."""

    def words(self) -> str:
        told = ", ".join(f"{count} {kind} ({self.read[kind]} read)" for kind, count in sorted(self.tried.items()))
        return f"{told}; {len(self.faults)} faults; at most {memory():.0f} MB"


def memory() -> float:
    """The most this process ever took [MB]."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def guarded(kind: str, path: Path, work: Callable[[], object], outcome: Outcome) -> bool:
    """Whether it could be read; what is no plain refusal goes into the faults."""
    outcome.tried[kind] += 1
    began = time.process_time()
    try:
        with limited(str(path), seconds=20):
            work()
    except KelvorError as error:
        if "\n" in str(error) or not str(error).strip() or str(path.name) not in str(error):
            outcome.faults.append(f"{kind}: no one line that says where: {error!r}")
        return False
    except BaseException as error:  # anything else is what this looks for
        if isinstance(error, KeyboardInterrupt):
            raise
        outcome.faults.append(f"{kind}: {traceback.format_exc(limit=-3)}")
        return False
    finally:
        if (took := time.process_time() - began) > 1.0:
            outcome.slow.append((round(took, 1), path.name))
        if took > HANG:
            outcome.faults.append(f"{kind}: {took:.0f} s")
    outcome.read[kind] += 1
    return True
