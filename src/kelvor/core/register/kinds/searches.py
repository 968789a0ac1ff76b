"""Searches that were begun, so that they can be gone on with."""

from __future__ import annotations

from typing import Annotated

from kelvor.core.base.limits import Text
from kelvor.core.base.values import frozen


@frozen(kw_only=True)
class Search:
    """A search on a version: what is asked and what may move, and where it stands, as JSON; nothing where it ended."""

    asked: Annotated[str, Text(1 << 20, least=2)]
    state: Annotated[str, Text(1 << 20)] = ""
