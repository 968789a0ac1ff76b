"""Two people's changes of one value, brought together."""

from __future__ import annotations

import dataclasses
from typing import Any


def merged(base: Any, mine: Any, theirs: Any) -> Any:
    """What `mine` changed of `base`, laid over `theirs`: two people's changes of one value, field by field.

    Where both changed the same field, mine counts. Lists of equal length are merged entry by entry.
    """
    if mine in (base, theirs):
        return theirs
    if theirs == base:
        return mine
    if dataclasses.is_dataclass(mine) and not isinstance(mine, type) and type(mine) is type(theirs) is type(base):
        return dataclasses.replace(
            mine,
            **{f.name: merged(*(getattr(v, f.name) for v in (base, mine, theirs))) for f in dataclasses.fields(mine)},
        )
    if isinstance(mine, tuple) and isinstance(theirs, tuple) and isinstance(base, tuple):
        if len(mine) == len(theirs) == len(base):
            return tuple(merged(*three) for three in zip(base, mine, theirs, strict=True))
        kept = tuple(item for item in theirs if item in mine or item not in base)  # less what I took off
        return kept + tuple(item for item in mine if item not in base and item not in kept)
    return mine


def differing_fields(before: Any, after: Any) -> list[str]:
    """The fields in which two values of one kind differ, in words."""
    return [
        f.name.replace("_", " ")
        for f in dataclasses.fields(before)
        if getattr(before, f.name) != getattr(after, f.name)
    ]
