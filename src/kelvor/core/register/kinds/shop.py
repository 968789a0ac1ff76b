"""What happens to boards in the shop: begun, weighed, worked on, read off, ordered, proved, handed out."""

from __future__ import annotations

from typing import Annotated

from kelvor.core.base.limits import NAME, Limit, Text, counts, masses
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.stages import Stage
from kelvor.core.register.record import OF, SHA, UID, Whereabouts


@frozen(kw_only=True)
class HandedOut:
    """Something that left the program: what it is, under which code and serial, and on which day."""

    name: Annotated[str, Text(400, least=1)]
    code: Annotated[str, Text(20, least=1)]
    serial: Annotated[str, Text(80)] = ""
    day: Annotated[str, Text(40)] = ""


@frozen(kw_only=True)
class Reshape:
    """The old board a new one is to be cut out of, by its name and its number in the file."""

    name: Annotated[str, NAME]
    old: Annotated[int, counts(1, 2**53)]


@frozen(kw_only=True)
class MadeBoard:
    """A board that was begun: its serial, who makes it and how it is built, the day, where it is and with whom.

    The record names the version it is made of.
    """

    serial: Annotated[str, Text(40, least=1)]
    who: Annotated[str, Text(80)] = ""
    built: Annotated[str, Text(200)] = ""
    begun: Annotated[str, Text(40)] = ""
    where: Whereabouts = "in the shop"
    whose: Annotated[str, Text(120)] = ""


@frozen(kw_only=True)
class MassReading:
    """What a scale said of a made board at a stage [kg]; why it is struck out, where it is."""

    made: Annotated[str, UID]
    stage: Stage
    mass: Annotated[float, masses(0.05, 150)]
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Worked:
    """What was done on a made board at a stage: hours, words, a photo by its SHA-256; why it is struck out."""

    made: Annotated[str, UID]
    stage: Stage
    hours: Annotated[float, Limit(0.0, 1000.0, unit="h")] = 0.0
    words: Annotated[str, Text(4000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""
    photo: Annotated[str, SHA] = ""
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Read:
    """What was read off a made board: of which measure of its sheet, on which side or when, in SI."""

    made: Annotated[str, UID]
    measure: Annotated[str, Text(120, least=1)]
    side: Annotated[str, Text(40)] = ""
    value: Annotated[float, Limit(-20, 20, unit="SI")]
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Tolerance:
    """How far off this workshop lets a kind of measure be, in SI."""

    kind: Annotated[str, Text(40, least=1)]
    most: Annotated[float, Limit(1e-5, 1, unit="SI")]


@frozen(kw_only=True)
class Done:
    """Part of the work that is done on a made board, when, and how warm the room was [°C]."""

    made: Annotated[str, UID]
    activity: Annotated[str, Text(40, least=1)]
    at: Annotated[str, Text(40, least=1)]
    celsius: Annotated[float, Limit(-20, 60, unit="°C")] = 20.0
    humidity: Annotated[float, Limit(0, 100, unit="%")] = 0.0
    batch: Annotated[str, Text(200)] = ""


@frozen(kw_only=True)
class Order:
    """Somebody waits for a board: who, until which day (YYYY-MM-DD), what was paid down of which price, in the
    workshop's currency.

    `signed` is the code of the drawing that was signed off, `made` the made board that goes to them. The record names
    the design.
    """

    customer: Annotated[str, Text(120, least=1)]
    due: Annotated[str, Text(10)] = ""
    price: Annotated[float, Limit(0, 1e8, unit="")] = 0.0
    deposit: Annotated[float, Limit(0, 1e8, unit="")] = 0.0
    signed: Annotated[str, Text(20)] = ""
    signed_on: Annotated[str, Text(40)] = ""
    made: Annotated[str, OF] = ""
    words: Annotated[str, Text(4000, lines=True)] = ""


@frozen(kw_only=True)
class Proof:
    """A static proof load on a made board: what was loaded, with how much [N m], and what was seen."""

    made: Annotated[str, UID]
    what: Annotated[str, Text(120, least=1)]
    moment: Annotated[float, Limit(0, 20_000, Quantity.MOMENT)]
    held: bool = True
    words: Annotated[str, Text(4000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""
    struck: Annotated[str, Text(400)] = ""

    @property
    def stage(self) -> Stage:
        """When it is done: on a finished board."""
        return "finished"
