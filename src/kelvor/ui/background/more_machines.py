"""Long work sent to other machines of the workshop, by a scheduler of Dask's at the address in KELVOR_WORKERS.

An address takes whatever is sent to it for our own, code and all: without TLS only this machine itself is let in.
"""

from __future__ import annotations

import ipaddress
import threading
from collections.abc import Callable
from concurrent.futures import Executor, Future
from functools import partial
from typing import Any
from urllib.parse import urlsplit

from kelvor import __version__
from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line

VARIABLE = "KELVOR_WORKERS"
TIMEOUT = 5.0
"""So long a scheduler is waited for [s]; the library's own patience does not end where one listens and says nothing."""

_ELSE = f"Start it, or unset {VARIABLE}"


def valid_address(address: str) -> str:
    """An address work may be sent to; raises InputError where that is not safe, or is none."""
    parts = urlsplit(address)
    try:
        port = parts.port
    except ValueError:
        port = None
    if parts.scheme not in ("tls", "tcp") or not parts.hostname or port is None:
        raise InputError(f"{VARIABLE} is no address", where=one_line(address, 80), accepts="Give tls://HOST:PORT")
    if parts.scheme == "tcp" and not _here(parts.hostname):
        raise InputError(
            "work is sent to other machines only over TLS", where=one_line(address, 80), accepts="Give tls://HOST:PORT"
        )
    return address


def _here(host: str) -> bool:
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"


def workers_at(address: str) -> tuple[Executor, int]:
    """The workers of a scheduler, and how many jobs they take at once.

    Raises
    ------
    InputError
        When the address is refused, the library is not there, nobody answers, nobody works there, or a worker has
        another version of Kelvor.
    """
    address = valid_address(address)
    try:
        from distributed import Client
    except ImportError:
        raise InputError(
            "work cannot be sent elsewhere without the library distributed",
            where=VARIABLE,
            accepts="Install requirements/workers.lock",
        ) from None
    connect = partial(Client, address, timeout=TIMEOUT, set_as_default=False)
    found: Future[tuple[Any, set[str], int]] = Future()
    threading.Thread(target=_ask, args=(connect, found), daemon=True).start()
    try:
        client, versions, count = found.result(TIMEOUT + 1.0)  # its own words first, where it has any
    except TimeoutError:
        found.add_done_callback(_let_go)
        raise InputError(
            f"who listens there says nothing for {TIMEOUT:.0f} seconds", where=address, accepts=_ELSE
        ) from None
    except Exception as error:  # the library's own kinds are many
        words = one_line(str(error) or type(error).__name__, 120)
        raise InputError(f"no scheduler answers ({words})", where=address, accepts=_ELSE) from None
    if not count or versions != {__version__}:
        client.close()
        wrong = (
            f"its workers have Kelvor {', '.join(sorted(versions - {__version__}))}" if count else "nobody works there"
        )
        raise InputError(wrong, where=address, accepts=f"Start workers with Kelvor {__version__}")
    return client.get_executor(), count


def _ask(connect: Callable[[], Any], found: Future[tuple[Any, set[str], int]]) -> None:
    """Beside who waits: a connection, the versions of Kelvor that work there, and how many jobs they take at once."""
    try:
        client = connect()
        found.set_result((client, set(client.run(_version).values()), sum(client.nthreads().values())))
    except Exception as error:  # told by who waits
        found.set_exception(error)


def _let_go(late: Future[tuple[Any, set[str], int]]) -> None:
    if late.exception() is None:
        late.result()[0].close()


def _version() -> str:
    from kelvor import __version__ as here

    return here
