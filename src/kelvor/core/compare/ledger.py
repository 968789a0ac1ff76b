"""The ledger of differences: what of two boards differs, largest first by what the trade would feel.

Readings are those of the levers both boards have, and a few figures; each is
told against the least difference that is felt (common practice, no source).
What one lever explains is found by pulling it on the reference: the one that
leaves least comes first, so that a width that was widened comes before the
widths, areas and litres that came with it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from math import isnan

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.levers.lever import Lever
from kelvor.core.shape.board import Board

FELT_BY_KEY: dict[str, float] = {
    "length": 0.02, "width": 0.006, "width_1ft_tail": 0.006, "width_1ft_nose": 0.006, "wide_point": 0.02,
    "volume": 0.001, "planform_area": 0.01,
    "length_times_width": 0.01, "rocker_ruler_length": 0.02, "outline_ruler_length": 0.02,
}  # fmt: skip
"""Least difference that is felt, by lever, in SI (common practice, no source)."""
FELT_BY_QUANTITY: dict[Quantity, float] = {
    Quantity.LENGTH: 0.006, Quantity.DEPTH: 0.0015, Quantity.ANGLE: 0.0087, Quantity.VOLUME: 0.001, Quantity.MASS: 0.15,
    Quantity.AREA: 0.01,
    Quantity.CHOICE: 1.0, Quantity.COUNT: 1.0, Quantity.RATIO: 0.05,
}  # fmt: skip
FELT_IN_GROUP: dict[tuple[str, Quantity], float] = {
    ("Rocker", Quantity.DEPTH): 0.002,
    ("Bottom layers", Quantity.DEPTH): 0.001,
    ("Rails", Quantity.DEPTH): 0.001,
    ("Fins", Quantity.LENGTH): 0.005,
    ("Fittings", Quantity.LENGTH): 0.005,
}
"""The same in a group of levers, where one is felt sooner than elsewhere (common practice, no source)."""
ONLY_ONE = 3.0
"""What only one board has is felt like so many times the least (judgement)."""
EXPLAINED, TRIED = 0.5, 6
"""A lever explains a difference when pulling it leaves less than this share of it; so many are tried."""
DEAR = ("_mid", "_rail")
"""Ends of keys of levers that are dear to read, and move with a rocker line only."""
TIED = 0.01
"""Levers that explain as much within this share of the whole are told as a tie."""


@frozen
class Difference:
    """Something that differs: the lever that reads it, both readings (NaN where one board has it not), and how many
    times the felt.

    `follows` names the difference it came with, where one explains it; `ties` those that explain as much.
    """

    key: str
    label: str
    group: str
    quantity: Quantity
    here: float
    there: float
    felt: float
    choices: tuple[str, ...] = ()
    follows: str = ""
    ties: tuple[str, ...] = ()

    @property
    def more(self) -> float:
        """What the other board has more."""
        return self.there - self.here


def least_felt(lever: Lever, own: Mapping[str, float] | None = None) -> float:
    """The least difference of a lever's reading that is felt: the workshop's `own` by lever, else common practice, no
    source.
    """
    known = (
        (own or {}).get(lever.key)
        or FELT_BY_KEY.get(lever.key)
        or FELT_IN_GROUP.get((lever.group, lever.quantity))
        or FELT_BY_QUANTITY.get(lever.quantity)
    )
    return known if known is not None else max(lever.step, 1e-9)


def _read(
    board: Board, known: Mapping[str, float] | None = None, keys: frozenset[str] | None = None
) -> dict[str, tuple[Lever, float]]:
    """Readings of a board's levers by key, or of those in `keys`; what figures say already is not measured again."""
    found = {}
    for lever in levers(board):
        if lever.group != "At the cursor" and (keys is None or lever.key in keys):
            value = known.get(lever.figure) if known is not None and lever.figure else None
            found[lever.key] = lever, float(lever.read(board)) if value is None else value
    return found


def _figures(live: Live) -> dict[str, float]:
    return {figure.key: figure.value for figure in live.figures if figure.exists}


def ledger(
    reference: Live, other: Live, *, explained: bool = True, own: Mapping[str, float] | None = None
) -> list[Difference]:
    """What of the other board differs from the reference, largest first; where it is `explained`, what came with
    another stands below it. `own` is the least that is felt in this workshop, by lever.
    """
    here, there = _read(reference.board, _figures(reference)), _read(other.board, _figures(other))
    found = []
    for key in dict.fromkeys([*here, *there]):
        lever = (here.get(key) or there[key])[0]
        a, b = (readings[key][1] if key in readings else float("nan") for readings in (here, there))
        if isnan(a) and isnan(b):
            continue
        only = isnan(a) != isnan(b)
        felt = ONLY_ONE if only else abs(b - a) / least_felt(lever, own)
        if felt > 1e-3:
            found.append(Difference(key, lever.label, lever.group, lever.quantity, a, b, felt, lever.choices))
    found.sort(key=lambda d: -d.felt)
    return _explained(reference.board, there, found, own) if explained else found


def _explained(
    board: Board, there: dict[str, tuple[Lever, float]], found: list[Difference], own: Mapping[str, float] | None
) -> list[Difference]:
    """Differences, those that one of the largest explains put below it."""
    whole = sum(min(d.felt, 50.0) for d in found)
    tried: list[tuple[float, Difference, dict[str, tuple[Lever, float]]]] = []
    for candidate in [d for d in found if not isnan(d.here) and not isnan(d.there)][:TRIED]:
        lever = there[candidate.key][0]
        looked = frozenset(d.key for d in found if candidate.group == "Rocker" or not d.key.endswith(DEAR))
        try:
            pulled = _read(pull_lever(board, lever, candidate.there).board, None, looked)
        except RefusedEdit:
            continue
        left = sum(
            min(_apart(pulled.get(d.key), there.get(d.key), own) if d.key in looked else d.felt, 50.0) for d in found
        )
        tried.append((left, candidate, pulled))
    if not tried or min(left for left, _, _ in tried) > EXPLAINED * whole:
        return found
    least, first, pulled = min(tried, key=lambda one: one[0])
    ties = tuple(d.label for left, d, _ in tried if d is not first and left - least <= TIED * whole)
    told = []
    for d in found:
        if d is not first:
            with_it = d.key in pulled and _apart(pulled[d.key], there.get(d.key), own) < EXPLAINED * d.felt
            told.append(replace(d, follows=first.label if with_it else ""))
    return [replace(first, ties=ties), *sorted(told, key=lambda d: (bool(d.follows), -d.felt))]


def _apart(
    a: tuple[Lever, float] | None, b: tuple[Lever, float] | None, own: Mapping[str, float] | None = None
) -> float:
    if a is None or b is None:
        return 0.0 if a is b else ONLY_ONE
    if isnan(a[1]) or isnan(b[1]):
        return 0.0 if isnan(a[1]) == isnan(b[1]) else ONLY_ONE
    return abs(b[1] - a[1]) / least_felt(a[0], own)
