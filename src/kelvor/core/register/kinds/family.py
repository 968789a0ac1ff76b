"""Families: a parent, the rules its sizes follow, and the sizes that were made."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.limits import NAME, Limit, Many, Text
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Target
from kelvor.core.register.record import OF, UID
from kelvor.core.shape.parts.construction import Construction

Law = Literal["with weight", "with length", "with width", "per 10 kg", "stays"]
"""How a measure of a size follows: a power of the ratio of riders' masses, of lengths or of widths; so much for ten
kilograms; or not at all.
"""
LAWS: tuple[Law, ...] = ("with weight", "with length", "with width", "per 10 kg", "stays")


@frozen(kw_only=True)
class SizeRule:
    """What one measure of a size follows.

    Attributes
    ----------
    about:
        A lever's key, or a group of levers such as “fins, span”.
    amount:
        The power, or what ten kilograms add [SI].
    why:
        The school's reason.
    """

    about: Annotated[str, Text(200, least=1)]
    law: Law = "with weight"
    amount: Annotated[float, Limit(-1000, 1000)] = 0.0
    why: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Heavier:
    """Sizes for riders of this mass and more [kg] are built as `construction`."""

    since: Annotated[float, Limit(15, 250, Quantity.MASS)]
    construction: Construction


@frozen(kw_only=True)
class Family:
    """A family of sizes of one board. Its record stands on the parent's version.

    Attributes
    ----------
    mass:
        The rider's the parent is for [kg].
    other, other_mass:
        A second parent's version and its rider's mass [kg], for sizes between the two; 0 without.
    rules:
        What the sizes follow, in the order they are shown.
    heavier:
        How sizes for heavy riders are built, where not as the parent is.
    """

    name: Annotated[str, NAME]
    mass: Annotated[float, Limit(15, 250, Quantity.MASS)]
    other: Annotated[int, Limit(0, 2**53)] = 0
    other_mass: Annotated[float, Limit(0, 250, Quantity.MASS)] = 0.0
    rules: Annotated[tuple[SizeRule, ...], Many(80)] = ()
    heavier: Heavier | None = None


@frozen(kw_only=True)
class FamilySize:
    """A size of a family. Its record stands on the size's board.

    Attributes
    ----------
    family:
        Identity of the family.
    mass:
        The rider's it is for [kg].
    parent, rules, heavier:
        The parent's version, the rules and the way of building it was made by, or last took.
    refused:
        What was offered and not taken, by its mark; empty without.
    """

    family: Annotated[str, UID]
    mass: Annotated[float, Limit(15, 250, Quantity.MASS)]
    parent: Annotated[int, Limit(0, 2**53)]
    rules: Annotated[tuple[SizeRule, ...], Many(80)] = ()
    heavier: Heavier | None = None
    refused: Annotated[str, Text(80)] = ""


@frozen(kw_only=True)
class Quota:
    """So many boards at most may be registered for an event; of those that meet `which`, where it is given."""

    most: Annotated[int, Limit(0, 50)]
    which: Target | None = None


@frozen(kw_only=True)
class ClassRule:
    """A rule of a class: limits on figures, quotas of boards for an event, where it was read and for when it holds.

    Days are written as 2026-05-31; an empty one leaves that side open.
    """

    name: Annotated[str, NAME]
    source: Annotated[str, Text(400)] = ""
    since: Annotated[str, Text(10)] = ""
    until: Annotated[str, Text(10)] = ""
    limits: Annotated[tuple[Target, ...], Many(60)] = ()
    quotas: Annotated[tuple[Quota, ...], Many(20)] = ()


@frozen(kw_only=True)
class Entered:
    """A board is designed under a class rule: its record stands on the board."""

    rule: Annotated[str, OF] = ""
