"""What a workshop remembers besides boards and steps: riders, places, gear, decisions, words, and boards from a
notebook.

One record for all kinds: a thing has an identity that never changes and
revisions that are only added. Each revision is written with its time and its
origin, and holds one value of its kind; a thing that is struck has a last
revision that says so.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal, get_args

from kelvor.core.brief import Foil, Rider, Wing
from kelvor.core.disciplines import Discipline
from kelvor.core.figures import Origin
from kelvor.core.fluids import Water
from kelvor.core.limits import NAME, Limit, Many, Text, angles, counts, lengths, masses
from kelvor.core.mass.stages import Stage
from kelvor.core.mill import Mill
from kelvor.core.shape.fittings import Fin
from kelvor.core.units import KNOT, Quantity

RecordKind = Literal[
    "rider",
    "place",
    "sail",
    "hand wing",
    "kite",
    "foil",
    "fin",
    "paddle",
    "decision",
    "said",
    "old board",
    "feel",
    "felt",
    "handed out",
    "reshape",
    "made board",
    "weighed",
    "worked",
    "read",
    "tolerance",
    "done",
    "mill",
    "order",
    "proof",
]
Verdict = Literal["kept", "dropped", "parked"]
Whereabouts = Literal["in the shop", "on the rack", "out on loan", "sold", "broken", "lost"]
WHEREABOUTS: tuple[Whereabouts, ...] = get_args(Whereabouts)
REGISTERS: tuple[RecordKind, ...] = ("rider", "place", "sail", "hand wing", "kite", "foil", "fin", "paddle")
"""What is kept in a register: chosen again for board after board."""
LONGEST_PHOTO = 8 * 1024 * 1024
"""No photo is larger [bytes]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Spot:
    """A place to ride: its water, its usual wind [m/s] at a height [m], and where the shore lies.

    `shore` is the bearing from the beach straight out to the water, clockwise from north [rad].
    """

    name: Annotated[str, NAME] = "Place"
    water: Water = Water()
    wind: Annotated[float, Limit(0, 40, Quantity.SPEED)] = 15 * KNOT
    height: Annotated[float, Limit(0.3, 100, Quantity.HEIGHT)] = 10.0
    shore: Annotated[float, angles(0, 360)] = 0.0
    notes: Annotated[str, Text(4000, lines=True)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Paddle:
    """A paddle: length [m], blade area [m²], mass [kg]."""

    name: Annotated[str, NAME] = "Paddle"
    length: Annotated[float, lengths(0.5, 2.6)] = 1.85
    area: Annotated[float, Limit(0.01, 0.15, Quantity.AREA)] = 0.055
    mass: Annotated[float, masses(0.05, 3)] = 0.55


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """What became of a step, why, and who decided."""

    verdict: Verdict = "kept"
    why: Annotated[str, Text(4000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Said:
    """Words about a board, verbatim, who said them and how they ride."""

    words: Annotated[str, Text(20_000, lines=True, least=1)]
    who: Annotated[str, Text(80)] = ""
    rides: Annotated[str, Text(400)] = ""
    struck: Annotated[str, Text(400)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class OldBoard:
    """A board from a notebook: a name, sizes as somebody wrote them down [m, m³], words, and a photo by its SHA-256."""

    name: Annotated[str, NAME] = "Old board"
    discipline: Discipline = "wing foil"
    length: Annotated[float, Limit(0, 7, Quantity.LENGTH)] = 0.0
    width: Annotated[float, Limit(0, 2, Quantity.LENGTH)] = 0.0
    volume: Annotated[float, Limit(0, 1, Quantity.VOLUME)] = 0.0
    made: Annotated[str, Text(40)] = ""
    words: Annotated[str, Text(20_000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""
    photo: Annotated[str, Text(64)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Feel:
    """Words that mean the same when riders of this workshop speak."""

    words: Annotated[tuple[Annotated[str, Text(40, least=1)], ...], Many(40)]


@dataclass(frozen=True, slots=True, kw_only=True)
class LeastFelt:
    """The least difference of a lever's reading that riders of this workshop feel, in SI."""

    name: Annotated[str, Text(120, least=1)]
    lever: Annotated[str, Text(200, least=1)]
    least: Annotated[float, Limit(1e-9, 1e6, unit="SI")]


@dataclass(frozen=True, slots=True, kw_only=True)
class HandedOut:
    """Something that left the program: what it is, under which code and serial, and on which day."""

    name: Annotated[str, Text(400, least=1)]
    code: Annotated[str, Text(20, least=1)]
    serial: Annotated[str, Text(80)] = ""
    day: Annotated[str, Text(40)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reshape:
    """The old board a new one is to be cut out of, by its name and its number in the file."""

    name: Annotated[str, NAME]
    old: Annotated[int, counts(1, 2**53)]


@dataclass(frozen=True, slots=True, kw_only=True)
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """What a scale said of a made board at a stage [kg]; why it is struck out, where it is."""

    made: Annotated[str, Text(64, least=1)]
    stage: Stage
    mass: Annotated[float, masses(0.05, 150)]
    struck: Annotated[str, Text(400)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Worked:
    """What was done on a made board at a stage: hours, words, a photo by its SHA-256; why it is struck out."""

    made: Annotated[str, Text(64, least=1)]
    stage: Stage
    hours: Annotated[float, Limit(0.0, 1000.0, unit="h")] = 0.0
    words: Annotated[str, Text(4000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""
    photo: Annotated[str, Text(64)] = ""
    struck: Annotated[str, Text(400)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """What was read off a made board: of which measure of its sheet, on which side or when, in SI."""

    made: Annotated[str, Text(64, least=1)]
    measure: Annotated[str, Text(120, least=1)]
    side: Annotated[str, Text(40)] = ""
    value: Annotated[float, Limit(-20, 20, unit="SI")]
    struck: Annotated[str, Text(400)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Tolerance:
    """How far off this workshop lets a kind of measure be, in SI."""

    kind: Annotated[str, Text(40, least=1)]
    most: Annotated[float, Limit(1e-5, 1, unit="SI")]


@dataclass(frozen=True, slots=True, kw_only=True)
class Done:
    """Part of the work that is done on a made board, when, and how warm the room was [°C]."""

    made: Annotated[str, Text(64, least=1)]
    activity: Annotated[str, Text(40, least=1)]
    at: Annotated[str, Text(40, least=1)]
    celsius: Annotated[float, Limit(-20, 60, unit="°C")] = 20.0
    humidity: Annotated[float, Limit(0, 100, unit="%")] = 0.0
    batch: Annotated[str, Text(200)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
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
    made: Annotated[str, Text(64)] = ""
    words: Annotated[str, Text(4000, lines=True)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Proof:
    """A static proof load on a made board: what was loaded, with how much [N m], and what was seen."""

    made: Annotated[str, Text(64, least=1)]
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


VALUES: dict[RecordKind, type[Any]] = {
    "rider": Rider, "place": Spot, "sail": Wing, "hand wing": Wing, "kite": Wing, "foil": Foil, "fin": Fin,
    "paddle": Paddle,
    "decision": Decision, "said": Said, "old board": OldBoard, "feel": Feel, "felt": LeastFelt, "handed out": HandedOut,
    "reshape": Reshape, "made board": MadeBoard, "weighed": Weighed, "worked": Worked,
    "read": Read, "tolerance": Tolerance, "done": Done, "mill": Mill, "order": Order, "proof": Proof,
}  # fmt: skip
"""What a record of a kind holds."""
ORIGINS: tuple[Origin, ...] = get_args(Origin)


@dataclass(frozen=True, slots=True)
class Record:
    """A thing as it was last written.

    Attributes
    ----------
    uid:
        Its identity, the same in every revision.
    revision:
        How many times it was written.
    first_at, made_at:
        When it was first and last written.
    gone:
        Whether it was struck or taken off the register; its value stays readable.
    board, step:
        What it is about, where it is about one.
    """

    uid: str
    kind: RecordKind
    revision: int
    first_at: str
    made_at: str
    origin: Origin
    gone: bool
    value: Any
    board: int | None = None
    step: int | None = None


def named(record: Record) -> str:
    """What a record goes by in a list."""
    value = record.value
    if isinstance(value, Decision):
        return value.verdict
    if isinstance(value, Feel):
        return ", ".join(value.words)
    if isinstance(value, MadeBoard):
        return value.serial
    if isinstance(value, (Weighed, Worked)):
        return value.stage
    if isinstance(value, Read):
        return f"{value.measure} {value.side}".strip()
    if isinstance(value, Tolerance):
        return value.kind
    if isinstance(value, Done):
        return value.activity
    if isinstance(value, Mill):
        return "Mill"
    if isinstance(value, Order):
        return value.customer
    if isinstance(value, Proof):
        return value.what
    return value.words if isinstance(value, Said) else str(value.name)
