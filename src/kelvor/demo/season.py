"""An invented season on the water: sessions, tracks of the simulated logger, tests, readings, incidents."""

from __future__ import annotations

from dataclasses import replace
from hashlib import sha256
from math import radians
from typing import Any

import numpy as np

from kelvor.core.base.figures import Origin
from kelvor.core.base.units import KNOT
from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import (
    Incident,
    OnTheWater,
    RetireRule,
    SetUp,
    TrackFile,
    Trial,
    TrialRun,
    WaterSession,
    WaterState,
)
from kelvor.core.register.kinds.words import Said
from kelvor.core.water.tracks.reading import track_read
from kelvor.core.water.trials.planning import run_order
from kelvor.demo.record import evening
from kelvor.devices.gps_logger import fit, planned_fixes
from kelvor.exchange.tracks import read_track
from kelvor.workshop.rows import written_at
from kelvor.workshop.store import Store

BASIN, LIGHT, BUOY = "Skarnfjord, inner basin", "Skarnfjord, off the light", "Skarnfjord, outer buoy"
PLACES = {BASIN: (61.84, 5.02), LIGHT: (61.87, 4.91), BUOY: (61.90, 4.86)}
"""Made-up water [°]."""
DUNLIN = SetUp(session="-", board="SK-09 Dunlin 39", made="demo-made-SK-09", rider="Ronja Vik",
               rides="light days, big wing, knees bent", drive="Gannet 5.3", foil="Lyra 1180",
               foil_mast=0.62, front_strap=0.93, back_strap=0.46)  # fmt: skip
SANDPIPER = replace(DUNLIN, board="SK-07 Sandpiper 46", made="demo-made-SK-07")
SHEARWATER = SetUp(session="-", board="SK-10 Shearwater 76", made="demo-made-SK-10", rider="Isak Brun",
                   rides="heavy on the front foot", drive="Merlin 8.3", fin="Blade 36", gear=("demo-fin-1",),
                   fin_place=0.105, mast_track=1.29, front_strap=0.83, back_strap=0.33,
                   partner="Jorun on his own board, Merlin 8.3")  # fmt: skip


@frozen
class _Day:
    """A session: when, where, in which wind [kn, °], what was ridden, what was said and read; its track, if one was
    kept.
    """

    day: str
    place: str
    wind: tuple[float, float, float]
    water: WaterState
    setup: SetUp
    said: str = ""
    readings: tuple[OnTheWater, ...] = ()
    track: str = ""
    struck: str = ""


def _least(wind: float, computed: float) -> OnTheWater:
    return OnTheWater(setup="-", what="least wind", value=wind * KNOT, wind=wind * KNOT, computed=computed * KNOT)


def _speed(speed: float, wind: float, computed: float) -> OnTheWater:
    return OnTheWater(setup="-", what="speed", value=speed * KNOT, wind=wind * KNOT, computed=computed * KNOT)


DAYS = (
    _Day("2026-04-19", BASIN, (9, 12, 255), "flat", SANDPIPER, "Stuck again. Ten pumps and then a pop.",
         (_least(12.4, 11.6),)),
    _Day("2026-05-24", BASIN, (8, 11, 240), "flat", DUNLIN, "Up before I thought of pumping.", (_least(14.9, 14.0),),
         "wing"),
    _Day("2026-06-02", LIGHT, (12, 15, 230), "chop", DUNLIN, "Touches, slides, flies on.", (), "wing"),
    _Day("2026-06-20", BUOY, (14, 18, 215), "chop", replace(SHEARWATER, fin="Weed 28", gear=("demo-fin-0",)),
         "Too little fin: it slides when I push.", (_speed(23.4, 16, 24.6),)),
    _Day("2026-07-11", BUOY, (14, 17, 225), "chop", SHEARWATER, "Locked in. Calm over the bumps.",
         (_speed(24.1, 15, 24.2),), "slalom"),
    _Day("2026-08-08", BASIN, (10, 13, 250), "flat", replace(DUNLIN, drive="Gannet 4.4"),
         "Worked for every take-off.", (_least(16.6, 15.9),)),
    _Day("2026-08-29", LIGHT, (16, 20, 220), "swell", replace(SHEARWATER, drive="Merlin 7.2"), "", (), "slalom"),
    _Day("2026-09-13", BUOY, (13, 16, 235), "chop", SHEARWATER, "",
         (_speed(29.9, 15, 24.2),), "", "The watch showed the van's speed."),
    _Day("2026-10-03", BUOY, (15, 18, 228), "chop", replace(SHEARWATER, fin_place=0.125),
         "Fin 20 mm further forward: it frees the tail, and the nose wanders.", (), "slalom"),
)  # fmt: skip


@frozen
class _Test:
    """A test: its question, how far B truly is from A [kn], how much pairs scatter [kn], what is said of A and of B."""

    trial: Trial
    base: float
    true: float
    scatter: float
    day: str
    felt: tuple[str, str] = ("", "")
    sailed: int = 0


TESTS = (
    _Test(Trial(question="Is the 36 blade faster than the 28 weed fin, half wind?", differs="the fin", a="Weed 28",
                b="Blade 36", margin=0.3 * KNOT, order="ABBA BAAB ABBA BAAB", board="SK-10 Shearwater 76",
                decided="Blade 36 stays in above 14 kn."),
          23.2, 0.85, 0.42, "2026-07-18", ("slides when I push", "holds when I push")),
    _Test(Trial(question="Does the mast base 20 mm further aft cost speed?", differs="the mast base",
                a="base at 129 cm", b="base at 127 cm", margin=0.15 * KNOT, order="ABBA BAAB ABBA",
                board="SK-10 Shearwater 76"),
          23.9, 0.03, 0.30, "2026-08-30"),
    _Test(Trial(question="Does the shim of +0.5° lift off earlier and still run as fast?", differs="the shim",
                a="no shim", b="shim +0.5°", margin=0.15 * KNOT, order="ABBA BAAB ABBA BAAB",
                board="SK-09 Dunlin 39"),
          16.4, -0.62, 0.30, "2026-09-06", ("", "feels faster, lighter on the back foot")),
    _Test(Trial(question="Is version 2 of the rail worth its hours?", differs="the rail", a="SK-07", b="SK-09",
                margin=0.2 * KNOT, order="ABBA BAAB", board="SK-09 Dunlin 39"),
          15.8, 0.2, 0.3, "2026-10-10", sailed=3),
)  # fmt: skip
"""One that shows a difference, one that does not, one where the watch and the rider disagree, one in progress."""


ABOUT = {
    "demo-made-SK-07": ("sandpiper-46", 4),
    "demo-made-SK-09": ("dunlin-39", 5),
    "demo-made-SK-10": ("shearwater-76", -1),
}
"""Of which design and version each made board is."""


def fill_season(store: Store, boards: dict[str, int], versions: dict[str, list[int]]) -> None:
    """The season, in a workshop whose boards and their versions go by their slugs."""
    keep = store.records.keep
    for i, day in enumerate(DAYS):
        with written_at(evening(day.day)):
            _sailed_day(store, i, day, boards, versions)
    for i, test in enumerate(TESTS):
        with written_at(evening(test.day)):
            _test(store, f"demo-test-{i}", test, i)
    keep(
        "incident",
        "demo-incident-0",
        Incident(
            what="demo-fin-0",
            name="Weed 28",
            day="2026-07-19",
            kind="crack",
            words="Hairline at the root after the sandbank.",
        ),
    )
    keep("retire rule", "demo-rule-0", RetireRule(kind="fin", hours=120.0, source="this workshop"))


def _sailed_day(store: Store, i: int, day: _Day, boards: dict[str, int], versions: dict[str, list[int]]) -> None:
    """A day of the season with all that was kept of it."""
    keep = store.records.keep
    slug, version = ABOUT[day.setup.made]
    on: dict[str, Any] = {"board": boards[slug], "step": versions[slug][version]}
    low, high, bearing = day.wind
    uid, setup = f"demo-session-{i}", f"demo-set-up-{i}"
    keep(
        "session",
        uid,
        WaterSession(
            day=day.day,
            place=day.place,
            wind_low=low * KNOT,
            wind_high=high * KNOT,
            wind_from=radians(bearing),
            water=day.water,
        ),
    )
    keep("set-up", setup, replace(day.setup, session=uid, hours=0.0 if day.track else 1.2), **on)
    if day.said:
        said = Said(words=day.said, who=day.setup.rider, rides=day.setup.rides, session=uid)
        keep("said", f"{uid}-said", said, origin="felt", **on)
    for k, reading in enumerate(day.readings):
        value = replace(reading, setup=setup, struck=day.struck)
        keep("on the water", f"{uid}-read-{k}", value, origin="measured", **on)
    if day.track:
        data = _logged(day, i)
        keep("track", f"{uid}-track", _track_file(data, uid, day), origin="simulated", blob=data, **on)


def _logged(day: _Day, seed: int) -> bytes:
    """What the simulated logger keeps of a day, as FIT."""
    bearing, rng = day.wind[2], np.random.default_rng(100 + seed)
    wing = day.track == "wing"
    legs: list[dict[str, float]] = [{"seconds": 150}]
    for lap in range(7):
        angles = (52, -54, 50, -52, 128, -126) if wing else (95, -97, 93, -95, 62, -64, 122, -120)
        for angle in angles:
            upwind = abs(angle) < 80
            speed = (6.6 if upwind else 8.4) if wing else (7.7 if upwind else 11.9)
            legs.append(
                {
                    "heading": float(bearing + angle + rng.normal(0, 4)),
                    "speed": float(speed * (1 + rng.normal(0, 0.03))),
                    "seconds": float(rng.uniform(34, 62)) * (1.55 if upwind else 0.9),
                }
            )
        if lap == 3:
            legs.append({"seconds": 240})
    plan = {"begun": f"{day.day}T11:2{seed}:00+00:00", "place": PLACES[day.place], "current": (0.1, 0.05), "rate": 1,
            "noise": {"place": 1.1, "speed": 0.12, "seed": seed}, "legs": legs}  # fmt: skip
    return fit(planned_fixes(plan))


def _track_file(data: bytes, session: str, day: _Day) -> TrackFile:
    """What is written of a track when it comes in."""
    name = f"{day.day}-{day.track}.fit"
    read = track_read(read_track(data, name))
    bests = tuple((best.name, best.speed) for best in read.bests)
    return TrackFile(
        session=session,
        name=name,
        kind="fit",
        sha=sha256(data).hexdigest(),
        begun=f"{day.day}T11:20:00+00:00",
        hours=round(read.hours, 3),
        bests=bests,
    )


def _test(store: Store, uid: str, test: _Test, seed: int) -> None:
    """A test with its runs, drawn from a stated truth and scatter: they stay marked simulated."""
    store.records.keep("test", uid, test.trial)
    rng = np.random.default_rng(40 + seed)
    order = run_order(test.trial.order)
    origin: Origin = "simulated"
    for i, change in enumerate(order[: test.sailed or len(order)]):
        wind = 15.0 + 0.8 * i / len(order) + rng.normal(0, 0.5)
        speed = (
            test.base
            + (test.true if change == "B" else 0.0)
            + 0.35 * (wind - 15)
            + rng.normal(0, test.scatter / 2**0.5)
        )
        felt = test.felt[change == "B"] if i % 3 == 1 else ""
        run = TrialRun(
            trial=uid,
            number=i + 1,
            change=change,
            value=float(speed) * KNOT,
            rider=_rider(test),
            both_ways=True,
            at=f"{test.day}T1{1 + i // 12}:{5 * (i % 12):02d}:00+00:00",
            wind=float(wind) * KNOT,
            felt=felt,
        )
        store.records.keep("test run", f"{uid}-run-{i}", run, origin=origin)


def _rider(test: _Test) -> str:
    return "Ronja Vik" if "Dunlin" in test.trial.board else "Isak Brun"
