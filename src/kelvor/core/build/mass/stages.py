"""What the board should weigh at every stage of the work, and where the grams of a weigh-in came from."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import masses
from kelvor.core.base.values import frozen
from kelvor.core.build.mass.board_mass import CORE_BAND, SKIN_BAND, BoardMass
from kelvor.core.build.mass.built import CLOTH, COAT, RESIN
from kelvor.core.shape.surface.geometry import Geometry

Stage = Literal["blank", "cut", "shaped", "laminated", "coated", "fitted", "finished"]
STAGES: tuple[Stage, ...] = ("blank", "cut", "shaped", "laminated", "coated", "fitted", "finished")
_WORDS: dict[Stage, str] = {
    "blank": "the block",
    "cut": "the cut",
    "shaped": "shaping",
    "laminated": "laminating",
    "coated": "the coats",
    "fitted": "the fittings",
    "finished": "finishing",
}
FOAM: tuple[Stage, ...] = ("blank", "cut", "shaped")
"""Stages at which a board is foam, and what is glued into it."""
SCALE_BAND = 0.01
"""A workshop scale reads to this [kg] (common practice, no source)."""


@frozen
class Forecast:
    """What a stage should weigh, its band, and what it adds to the stage before [kg]."""

    stage: Stage
    mass: float
    band: float
    adds: float


@frozen
class WeighIn:
    """A reading of the scale at a stage [kg], and whether a scale or its stand-in said it."""

    stage: Stage
    mass: Annotated[float, masses(0, 150)]
    origin: Origin = "measured"


@frozen
class Traced:
    """A weigh-in against its forecast: the gap so far, what of it came in at this stage [kg], and in words."""

    stage: Stage
    gap: float
    here: float
    words: str


def stage_of(part: str, pads: frozenset[str], stringers: frozenset[str]) -> Stage:
    """At which stage a part comes on the board."""
    if part in ("core", "glue lines") or part in stringers:
        return "shaped"
    if part.startswith((CLOTH, RESIN)) or part.endswith("skin"):
        return "laminated"
    if part.startswith(COAT) and "seal" in part.lower():  # closes the foam before the cloth
        return "laminated"
    if part.startswith(COAT) and "paint" not in part.lower():
        return "coated"
    return "finished" if part in pads or part == "deck pad" or "paint" in part.lower() else "fitted"


def forecasts(measured: Geometry, mass: BoardMass) -> tuple[Forecast, ...]:
    """The forecast of every stage; the last is the board as built, to the gram."""
    pads = frozenset(pad.name for pad in measured.board.fittings.pads)
    stringers = frozenset(s.name for s in mass.layup.construction.stringers) if mass.layup is not None else frozenset()
    adds = dict.fromkeys(STAGES, 0.0)
    for name, part in mass.parts:
        adds[stage_of(name, pads, stringers)] += part.mass
    core = dict(mass.parts)["core"].mass
    density = core / max(mass.core.volume, 1e-9)
    set_in = adds["shaped"] - core  # stringers and walls are glued in before the cut
    surface = sum(shell.area for shell in measured.shells.values())
    early = {
        "blank": set_in + density * mass.blank.volume,
        "cut": set_in + density * (mass.core.volume + mass.mill.proud * surface),
    }
    found: list[Forecast] = []
    run, laid, before = 0.0, 0.0, 0.0
    for stage in STAGES:
        run += adds[stage]
        laid += adds[stage] if stage in ("laminated", "coated", "finished") else 0.0
        now = early.get(stage, run)
        band = ((CORE_BAND * (now if stage in early else adds["shaped"])) ** 2 + (SKIN_BAND * laid) ** 2) ** 0.5
        found.append(Forecast(stage, now, band, now - before))
        before = now
    return tuple(found)


def traced(measured: Geometry, mass: BoardMass, weighed: tuple[WeighIn, ...]) -> tuple[Traced, ...]:
    """Where the grams came from: each measured weigh-in's gap to its forecast, less the gap of the one before it.

    Foam that is too heavy is cut away with the rest of the foam, and so is its gap. What lies between two readings is
    named, all of it: which of it the grams came with nobody read. What a stand-in said is not of this board and counts
    for nothing.
    """
    plan = {f.stage: f for f in forecasts(measured, mass)}
    by_stage = {w.stage: w.mass for w in weighed if w.origin == "measured"}
    found: list[Traced] = []
    last, before = -1, 0.0
    for at, stage in enumerate(STAGES):
        if stage not in by_stage:
            continue
        gap = by_stage[stage] - plan[stage].mass
        if last >= 0 and STAGES[last] in FOAM:  # what is still foam of it now
            left = stage if stage in FOAM else FOAM[-1]
            before *= plan[left].mass / max(plan[STAGES[last]].mass, 1e-9)
        here = gap - before
        *first, own = (_WORDS[between] for between in STAGES[last + 1 : at + 1])
        came = f"{', '.join(first)} and {own}" if first else own
        if abs(gap) <= plan[stage].band + SCALE_BAND:
            words = "within the band"
        elif abs(here) <= SCALE_BAND:
            words = f"as much {'over' if gap > 0 else 'under'} as before"
        else:
            words = f"{abs(here) * 1000:.0f} g {'over' if here > 0 else 'under'} came with {came}"
        found.append(Traced(stage, gap, here, words))
        last, before = at, gap
    return tuple(found)
