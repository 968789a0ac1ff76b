"""On the plane: drag, trim, what of the bottom is wet, and where it presses against the feet."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.smooth import refined
from kelvor.core.base.units import DEGREE, KNOT
from kelvor.core.base.units import Quantity as Q
from kelvor.core.ride.case import RideCase
from kelvor.core.ride.figures.on_the_plane import (
    FEET_TO_PRESSURE,
    NOSE_MARGIN,
    PLANING_AREA,
    PLANING_DRAG,
    PLANING_LENGTH,
    PLANING_TRIM,
    RELEASED_AREA,
    RUNNING_BEAM,
    WEIGHT_PLACE,
    WETTED_BEHIND_FOOT,
)
from kelvor.core.ride.model import Running
from kelvor.core.ride.pictures import Chart, ChartLine, ChartMark, Drawing, Form
from kelvor.core.ride.run_up import nose_pitch
from kelvor.core.ride.topic import tells
from kelvor.core.ride.topics.drawings import plan_outline
from kelvor.core.ride.topics.under_way import held_words
from kelvor.core.tank.planing import savitsky
from kelvor.core.tank.planing.states import pressure


@tells(
    PLANING_DRAG,
    PLANING_TRIM,
    WEIGHT_PLACE,
    PLANING_AREA,
    PLANING_LENGTH,
    RUNNING_BEAM,
    RELEASED_AREA,
    WETTED_BEHIND_FOOT,
    FEET_TO_PRESSURE,
    NOSE_MARGIN,
    pictures="patch",
)
def plane_figures(case: RideCase) -> None:
    """What planes at the run: drag, trim, wetted bottom, centre of pressure against the feet."""
    collected, model, state = case.collected, case.model, case.planing
    foot = case.board.feet
    why = ""
    if not state.planes > 0:
        why = f"the bottom cannot carry {state.load:.0f} N at {state.speed / KNOT:.0f} kn"
    elif model.unplaned(state):
        why = model.unplaned(state)
    elif model.unheld(state):
        why = model.unheld(state)
    elif state.wetted / max(state.beam, 1e-6) > savitsky.LAMBDA_MOST + 0.05:
        why = "wetted more than four beams long"
    trim = model.base_trim(state)
    note = f"{state.speed / KNOT:.1f} kn, {state.load:.0f} N on the bottom, trim {trim / DEGREE:.1f}°"
    collected.add(PLANING_DRAG, state.drag, note, band=state.band, invalid=why)
    collected.add(PLANING_TRIM, trim, held_words(state), invalid=why)
    collected.add(PLANING_AREA, state.area, note, invalid=why)
    collected.add(PLANING_LENGTH, state.wetted, note, invalid=why)
    collected.add(
        RUNNING_BEAM,
        state.beam,
        f"mean of what is wet at {state.speed / KNOT:.1f} kn; speed lifts {state.moving * 100:.0f} %",
    )
    collected.add(
        RELEASED_AREA,
        model.bottom.released,
        f"behind {model.bottom.aft * 100:.0f} cm from the tail and outside the running bottom",
    )
    behind = max(0.0, min(foot.back - model.bottom.aft, state.wetted)) * state.beam
    collected.add(WETTED_BEHIND_FOOT, behind, foot.note, invalid=why)
    middle = (foot.front + foot.back) / 2
    collected.add(
        FEET_TO_PRESSURE,
        middle - state.centre,
        f"feet's middle {middle * 100:.0f} cm, pressure {state.centre * 100:.0f} cm from the tail",
        invalid=why,
    )
    _weight(case, state, why)
    height, _ = nose_pitch(model, state)
    collected.add(
        NOSE_MARGIN,
        height,
        f"nose tip at {state.speed / KNOT:.0f} kn, trim {trim / DEGREE:.0f}°",
    )
    _patch(case, state, note)


def _weight(case: RideCase, state: Running, why: str) -> None:
    """Where the rider's weight on the deck holds the running trim, and whether it can press there."""
    (aft, fore), back, leans = case.model.reach, case.board.feet.back, case.model.leans(state)
    trim = case.model.base_trim(state) / DEGREE
    words = f"holds {trim:.1f}° of trim; it can press from {(aft - back) * 100:.0f} to {(fore - back) * 100:.0f} cm"
    if leans > 0.01:
        words += f"; against the pull your body leans {leans * 100:.0f} cm aft of it"
    off = max(aft - state.place, state.place - fore, 0.0)
    if off > 5e-3:
        words += f"; {off * 100:.0f} cm beyond that, the board stands as flat or as steep as it can"
    case.collected.add(WEIGHT_PLACE, state.place - back, words, invalid=why)


def _patch(case: RideCase, state: Running, note: str) -> None:
    bottom = case.model.bottom
    along, across, share = pressure(bottom, state.wetted, state.trim)
    forms = [Form("board", plan_outline(case.measured), closed=True)]
    for (low, high), (inner, outer), p in zip(along, across, share, strict=True):
        here, there = (float(np.interp(a, bottom.x, bottom.half)) for a in (low, high))
        port = np.array([[low, inner * here], [high, inner * there], [high, outer * there], [low, outer * here]])
        port[:, 0] += bottom.aft
        forms += [Form("patch", port * [1, side], closed=True, depth=float(p)) for side in (1, -1)]
    foot = case.board.feet
    forms += [Form("mark", np.array([[f - 0.05, 0.0], [f + 0.05, 0.0]])) for f in (foot.back, foot.front)]
    middle = state.centre
    case.collected.pictures["patch"] = Drawing(
        "What is wet, and where it presses",
        f"{note}. Darker presses harder; bars are the feet.",
        tuple(forms),
        ((middle, 0.0, "centre of pressure"),),
        water=False,
    )


@tells(pictures="wetted")
def wetted(case: RideCase) -> None:
    """Wetted bottom against the share of the load that speed lifts."""
    model = case.model
    top = max(1.6 * case.run.speed, 4.0) if model.wing is None else 1.2 * case.run_up.lift_off
    speeds = np.linspace(0.8, top, 31)
    states = model.curve(speeds)
    area = np.array([s.area for s in states])
    shares = np.maximum.accumulate(np.array([s.moving for s in states]))
    marks = [
        ChartMark(float(np.interp(share, shares, speeds)), f"speed lifts {share * 100:.0f} %")
        for share in (0.25, 0.5, 0.9)
        if shares[-1] >= share
    ]
    beams = ", ".join(f"{s.beam * 100:.0f} cm at {s.speed / KNOT:.0f} kn" for s in (states[7], states[18], states[-1]))
    case.collected.pictures["wetted"] = Chart(
        "Wetted bottom over speed",
        f"Running beam {beams}.",
        "board speed, kn",
        Q.SPEED,
        "cm²",
        Q.AREA,
        (ChartLine("wetted", "now", *refined(speeds, area, 0.12 * area)),),
        tuple(marks),
    )
