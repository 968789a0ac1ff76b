"""What happens on the water: sessions, what was ridden, tracks, tests and their runs, readings, incidents."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.limits import NAME, Limit, Many, Text, angles, counts, lengths
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.register.record import FILE_NAME, OF, UID

WaterState = Literal["flat", "chop", "swell", "waves", "wake", "current"]
Measured = Literal["mean speed", "best 10 s", "best 500 m", "upwind", "downwind"]
Read = Literal["least wind", "speed", "watts"]
SpeedUnit = Literal["m/s", "km/h", "kn", "mph"]
Change = Literal["A", "B"]
MOST_COLUMNS = 1000
"""No watch or logger writes a table of more."""
_SPEED = Limit(0, 40, Quantity.SPEED)


@frozen(kw_only=True)
class WaterSession:
    """A day, or part of one, on the water.

    Attributes
    ----------
    day:
        YYYY-MM-DD.
    wind_low, wind_high:
        As somebody saw or measured it [m/s]; 0 where nobody said.
    wind_from:
        Where it came from, clockwise from north [rad].
    water:
        How the water was.
    draft:
        Begun by a track that appeared: nobody has looked at it yet.
    struck:
        Why it does not count, where it does not.
    """

    day: Annotated[str, Text(10, least=10)]
    place: Annotated[str, Text(120)] = ""
    wind_low: Annotated[float, _SPEED] = 0.0
    wind_high: Annotated[float, _SPEED] = 0.0
    wind_from: Annotated[float, angles(0, 360)] | None = None
    water: WaterState | None = None
    notes: Annotated[str, Text(4000, lines=True)] = ""
    draft: bool = False
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class SetUp:
    """What was ridden in a session, by whom. Names stand as they were; identities where a register or serial has them.

    Attributes
    ----------
    made:
        The made board's identity; empty for one that is not kept.
    fin_place, mast_track, foil_mast:
        Distances from the tail [m]: the fin's trailing edge, the mast base, the foil's mast; 0 where nobody said.
    front_strap, back_strap:
        Middles of the straps from the tail [m]; 0 where nobody said.
    front_angle, back_angle:
        Of the straps or bindings to the board's length [rad].
    partner:
        The other board's or rider's kit, in words.
    """

    session: Annotated[str, OF]
    board: Annotated[str, NAME]
    made: Annotated[str, OF] = ""
    rider: Annotated[str, Text(80)] = ""
    rides: Annotated[str, Text(400)] = ""
    drive: Annotated[str, Text(80)] = ""
    foil: Annotated[str, Text(80)] = ""
    fin: Annotated[str, Text(80)] = ""
    gear: Annotated[tuple[Annotated[str, OF], ...], Many(12)] = ()
    fin_place: Annotated[float, lengths(0, 7)] = 0.0
    mast_track: Annotated[float, lengths(0, 7)] = 0.0
    foil_mast: Annotated[float, lengths(0, 7)] = 0.0
    front_strap: Annotated[float, lengths(0, 7)] = 0.0
    back_strap: Annotated[float, lengths(0, 7)] = 0.0
    front_angle: Annotated[float, angles(-90, 90)] = 0.0
    back_angle: Annotated[float, angles(-90, 90)] = 0.0
    partner: Annotated[str, Text(400)] = ""
    hours: Annotated[float, Limit(0, 24, unit="h")] = 0.0


@frozen(kw_only=True)
class TrackFile:
    """A watch's file, kept as it came: which session, its name, its kind, its bytes by SHA-256.

    `begun` is its first fix in UTC, `hours` how long somebody sailed, `bests` its fastest windows [m/s], counted when
    it came in.
    """

    session: Annotated[str, OF]
    name: Annotated[str, Text(FILE_NAME, least=1)]
    kind: Annotated[str, Text(8)]
    sha: Annotated[str, Text(64, least=64)]
    begun: Annotated[str, Text(40)] = ""
    hours: Annotated[float, Limit(0, 48, unit="h")] = 0.0
    bests: Annotated[tuple[tuple[Annotated[str, Text(40)], Annotated[float, _SPEED]], ...], Many(20)] = ()
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class OnTheWater:
    """A figure read on the water, to hold against what was computed.

    Attributes
    ----------
    what:
        Least wind that lifted off or planed [m/s], a speed kept up [m/s] or the watts of a pace [W].
    value, wind, speed:
        The reading, the mean wind it was read in [m/s], and the pace of a reading in watts [m/s].
    computed:
        What was computed for this board, rider and gear when it was written down; 0 where nothing was.
    """

    setup: Annotated[str, OF]
    what: Read
    value: Annotated[float, Limit(0, 3000, unit="SI")]
    wind: Annotated[float, _SPEED] = 0.0
    speed: Annotated[float, _SPEED] = 0.0
    computed: Annotated[float, Limit(0, 3000, unit="SI")] = 0.0
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Trial:
    """A test: one question, what differs between A and B, how many pairs in which order.

    Attributes
    ----------
    measure:
        What is compared of each run.
    margin:
        The least difference that matters [m/s].
    order:
        Blocks of two or four, such as “ABBA BAAB”.
    current:
        Drift of the water along the runs where it is known [m/s]; None where it is not.
    more:
        Other differences between A and B, as they were noticed: with any of them nothing is said of the one.
    decided:
        What was decided on it, in words.
    """

    question: Annotated[str, Text(200, least=1)]
    differs: Annotated[str, Text(120, least=1)]
    a: Annotated[str, NAME]
    b: Annotated[str, NAME]
    measure: Measured = "mean speed"
    margin: Annotated[float, Limit(0.01, 10, Quantity.SPEED)] = 0.1
    order: Annotated[str, Text(1000)] = ""
    current: Annotated[float, Limit(-15, 15, Quantity.SPEED)] | None = None
    more: Annotated[str, Text(200)] = ""
    board: Annotated[str, NAME] = "board"
    decided: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class TrialRun:
    """One run of a test: its place in the order, which of the two, who rode, what it came to.

    Attributes
    ----------
    number:
        From 1, in the order they were sailed.
    value:
        Its mean out and back, or its one way [m/s].
    both_ways:
        Whether it was sailed out and back on one line, so that a current falls out.
    at:
        When, UTC.
    wind:
        Mean over the run, where somebody measured it [m/s]; 0 where not.
    felt:
        What the rider said of it.
    """

    trial: Annotated[str, OF]
    number: Annotated[int, counts(1, 10_000)]
    change: Change
    value: Annotated[float, _SPEED]
    rider: Annotated[str, Text(80)] = ""
    both_ways: bool = False
    at: Annotated[str, Text(40)] = ""
    wind: Annotated[float, _SPEED] = 0.0
    track: Annotated[str, OF] = ""
    felt: Annotated[str, Text(4000, lines=True)] = ""
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class Incident:
    """What happened to a fin, a foil, a mast or a board: a crack, a repair, a blow; whether it is retired with it."""

    what: Annotated[str, UID]
    name: Annotated[str, NAME]
    day: Annotated[str, Text(10)] = ""
    words: Annotated[str, Text(4000, lines=True)] = ""
    kind: Literal["crack", "repair", "blow", "other"] = "other"
    retired: bool = False
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class RetireRule:
    """After how many hours a kind of gear is looked at or retired, by its maker or this workshop."""

    kind: Annotated[str, Text(40, least=1)]
    hours: Annotated[float, Limit(0.5, 10_000, unit="h")]
    source: Annotated[str, Text(120)] = "this workshop"


@frozen(kw_only=True)
class ColumnMeanings:
    """What the columns of a kind of CSV file mean, as somebody said once.

    `heads` are the file's own heads in order, `time`, `latitude`, `longitude` and `speed` those that hold them (speed
    may be empty), `unit` of the speed.
    """

    heads: Annotated[tuple[Annotated[str, Text(80)], ...], Many(MOST_COLUMNS)]
    time: Annotated[str, Text(80, least=1)]
    latitude: Annotated[str, Text(80, least=1)]
    longitude: Annotated[str, Text(80, least=1)]
    speed: Annotated[str, Text(80)] = ""
    unit: SpeedUnit = "m/s"


@frozen(kw_only=True)
class ShoreLine:
    """Where land and water meet at a place, as somebody gave it: latitude and longitude of each corner [rad]."""

    place: Annotated[str, NAME]
    points: Annotated[
        tuple[tuple[Annotated[float, angles(-90, 90)], Annotated[float, angles(-180, 180)]], ...], Many(5000, 2)
    ]
