"""Time and memory that reading somebody's file may take: what goes beyond is refused in words."""

from __future__ import annotations

import contextlib
import resource
import signal
import sys
import threading
from collections.abc import Iterator
from pathlib import Path
from types import FrameType

from kelvor.core.base.errors import InputError

MEMORY = 700 * 1024 * 1024
"""What a reader may take beyond what the program itself does [bytes]."""
SECONDS = 20
"""How long a reader may count."""
SIMPLER = "Give the outline alone, or a simpler file"


@contextlib.contextmanager
def limited(where: str, seconds: int = SECONDS, memory: int = MEMORY, accepts: str = SIMPLER) -> Iterator[None]:
    """Run a reader within limits; for a process of its own, on whose main thread this is. Elsewhere there are none:
    time and memory are the whole process's.

    Raises
    ------
    InputError
        When it takes longer or needs more.
    """
    if threading.current_thread() is not threading.main_thread():
        yield
        return

    def stop(number: int, frame: FrameType | None) -> None:
        raise InputError(f"reading it took longer than {seconds} s", where=where, accepts=accepts)

    _, most = resource.getrlimit(resource.RLIMIT_AS)
    before = signal.signal(signal.SIGALRM, stop)
    signal.setitimer(signal.ITIMER_REAL, seconds)
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (_taken() + memory, most))
    try:
        yield
    except MemoryError:
        raise InputError(
            f"reading it needs more than {memory >> 20} MB of memory", where=where, accepts=accepts
        ) from None
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)
        with contextlib.suppress(ValueError, OSError):
            resource.setrlimit(resource.RLIMIT_AS, (most, most))


def _taken() -> int:
    """Address space this process has now [bytes]."""
    pages = int(Path("/proc/self/statm").read_text().split()[0]) if sys.platform == "linux" else 1 << 18
    return pages * resource.getpagesize()
