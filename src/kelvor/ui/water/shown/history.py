"""The history of a made board on one page: what it should do, weighs, measured, did, what was said and decided."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.units import KNOT, Quantity, System, outweighs, scale_text, text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief
from kelvor.core.build.mass.stages import forecasts
from kelvor.core.evaluation.live import Live
from kelvor.core.made.made_boards import Made
from kelvor.core.register.kinds.water import Incident, OnTheWater, SetUp
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.core.register.record import Record
from kelvor.core.water.sessions.log import Logged
from kelvor.core.water.trials.trial_records import Test
from kelvor.ui.water.shown.trials import trial_headline
from kelvor.ui.water.shown.water import READ_AS, computed_words, sailed_reading_words, wind_words


@frozen
class HistoryChapter:
    """A part of the page: its title, and rows of what and what of it; `origin` says where they come from."""

    title: str
    origin: str
    rows: tuple[tuple[str, str], ...]


def history(
    made: Made,
    live: Live,
    version: int,
    brief: Brief,
    log: Sequence[Logged],
    tests: Sequence[Test],
    decisions: Sequence[Record],
    incidents: Sequence[Record],
    targets: Sequence[tuple[str, str]],
    measured: Sequence[tuple[str, str]],
    system: System,
) -> list[HistoryChapter]:
    """The chapters of a board, from brief to sessions; what nothing is known of is left out."""
    board, value = live.board, made.value
    width = 2 * float(live.geometry.shape.half_width.max())
    size = f"{text(board.length, Quantity.LENGTH, system)} × {text(width, Quantity.LENGTH, system)}"
    volume = text(live.geometry.solid.volume, Quantity.VOLUME, system)
    own = [
        one for one in log if any(isinstance(r.value, SetUp) and r.value.made == made.record.uid for r in one.setups)
    ]
    name, meant = f"{value.serial} {board.name}", f"{brief.title}: {brief.rider.name}, {brief.place}"
    chapters = [
        HistoryChapter("What it is", "drawn", (
            ("Design", f"{board.name}, version {version}, {size}, {volume}"),
            ("Made", ", ".join(p for p in (value.begun, value.who, value.built) if p)),
            ("Where it is", f"{value.where}{f', {value.whose}' if value.whose else ''}"),
        )),
        HistoryChapter("What it should do", "claimed", (("For", meant), *targets)),
        HistoryChapter("What it weighs", "measured", _weights(made, live, system)),
        HistoryChapter("What was measured", "measured", tuple(measured)),
        HistoryChapter(
            "Days on the water", "measured and felt", tuple(_day(one) for one in own if not one.value.struck)
        ),
        HistoryChapter("Read on the water", "measured", _readings(own, system)),
        HistoryChapter("Tests", "measured", tuple(
            (test.value.question, trial_headline(test.value, test.answer)
             + (f". {test.value.decided}" if test.value.decided else "")
             + (" (simulated runs)" if test.simulated else ""))
            for test in tests if test.value.board in (name, board.name, value.serial)
        )),
        HistoryChapter("What was said", "felt", tuple(
            (f"{one.value.day} {r.value.who}", f"“{r.value.words}”")
            for one in own for r in one.words if isinstance(r.value, Said) and not r.value.struck
        )),
        HistoryChapter("What happened to it", "measured", tuple(
            (f"{r.value.day} {r.value.kind}", r.value.words) for r in incidents if isinstance(r.value, Incident)
        )),
        HistoryChapter("What was decided", "claimed", tuple(
            (r.value.verdict, ", ".join(p for p in (r.value.why, r.value.who) if p))
            for r in decisions if isinstance(r.value, Decision)
        )),
    ]  # fmt: skip
    return [chapter for chapter in chapters if chapter.rows]


def _weights(made: Made, live: Live, system: System) -> tuple[tuple[str, str], ...]:
    plan = {f.stage: f.mass for f in forecasts(live.geometry, live.mass)}
    rows = []
    for said in made.weighed:
        mark = " (simulated)" if said.origin == "simulated" else ""
        planned = plan[said.stage]
        gap = outweighs(said.mass - planned, system)
        told = f"{scale_text(said.mass, system)}{mark}, forecast {scale_text(planned, system)}, {gap}"
        rows.append((said.stage.capitalize(), told))
    return tuple(rows)


def _day(one: Logged) -> tuple[str, str]:
    setup = one.setup
    gear = (setup.rider, setup.drive, setup.foil, setup.fin) if setup is not None else ()
    best = f"10 s {one.best[1] / KNOT:.1f} kn" if one.best is not None else ""
    simulated = any(t.origin == "simulated" for t in one.tracks)
    parts = (one.value.place, wind_words(one), *gear, f"{best} (simulated)" if best and simulated else best)
    return one.value.day, ", ".join(part for part in parts if part)


def _readings(own: Sequence[Logged], system: System) -> tuple[tuple[str, str], ...]:
    rows = []
    for one in own:
        for record in one.readings:
            r = record.value
            if isinstance(r, OnTheWater) and not r.struck:
                told = f"{sailed_reading_words(r, system)}. {computed_words(r, system)}"
                rows.append((f"{one.value.day} {READ_AS[r.what].lower()}", told))
    return tuple(rows)
