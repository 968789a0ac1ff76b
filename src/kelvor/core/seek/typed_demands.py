"""Targets and levers as somebody types them, and boards tried by an executor."""

from __future__ import annotations

import re
from collections.abc import Sequence
from concurrent.futures import Executor

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import FigureDefinition
from kelvor.core.base.units import System, parse
from kelvor.core.evaluation.book import BY_KEY, RIDDEN
from kelvor.core.evaluation.jobs import seek_job
from kelvor.core.evaluation.subject import Subject
from kelvor.core.levers.catalogue import levers
from kelvor.core.levers.lever import Lever
from kelvor.core.seek.engine import Evaluate, Point, Values
from kelvor.core.seek.problem import Demand, Relation, SeekProblem
from kelvor.core.shape.board import Board

_TARGET = re.compile(r"^(?P<what>[^<>=≤≥]+?)\s*(?P<sign><=|>=|=|<|>|≤|≥)\s*(?P<value>.+)$")
_SIGNS: dict[str, Relation] = {
    "=": "equal", ">=": "at least", ">": "at least", "≥": "at least", "<=": "at most", "<": "at most", "≤": "at most",
}  # fmt: skip


def _folded(words: str) -> str:
    return " ".join(re.sub(r"[^a-z0-9%]+", " ", words.casefold()).split())


def figure_of(words: str) -> FigureDefinition:
    """The figure somebody means: its key, its label, or the one whose label holds all the words.

    Raises
    ------
    InputError
        When it is none, or could be several, which are named.
    """
    asked = _folded(words)
    if words.strip() in BY_KEY:
        return BY_KEY[words.strip()]
    exact = [f for f in BY_KEY.values() if asked in (_folded(f.key), _folded(f.label))]
    near = exact or [
        f for f in BY_KEY.values() if asked and set(asked.split()) <= set(_folded(f"{f.key} {f.label}").split())
    ]
    if len(near) == 1 or exact:
        return near[0]
    names = ", ".join(f.key for f in near[:6])
    accepts = f"One of {names}" if near else "A figure such as volume, mass, least_wind_up"
    raise InputError(
        f"“{words.strip()}” is {'several figures' if near else 'no figure'}", where="target", accepts=accepts
    )


def target_of(words: str, system: System = System.METRIC) -> Demand:
    """A target as somebody typed it: “volume >= 34 L”, “mass <= 2.7 kg”, “volume = 34 L”.

    Raises
    ------
    InputError
        When it cannot be read.
    """
    found = _TARGET.match(words.strip())
    if found is None:
        raise InputError(f"“{words.strip()}” is no target", where="target", accepts="Such as volume >= 34 L")
    definition = figure_of(found["what"])
    value = parse(found["value"], definition.quantity, system)
    return Demand(figure=definition.key, relation=_SIGNS[found["sign"]], value=value)


def lever_of(board: Board, words: str) -> Lever:
    """The lever of a board somebody means: its key, its label, or the one that holds all the words.

    Raises
    ------
    InputError
        When there is none, or several, which are named.
    """
    asked, there = _folded(words), levers(board)
    exact = [
        lever for lever in there if words.strip() == lever.key or asked in (_folded(lever.key), _folded(lever.label))
    ]
    if exact:
        return exact[0]
    words_ = set(asked.split())
    near = [
        lever for lever in there if asked and words_ <= set(_folded(f"{lever.key} {lever.label} {lever.group}").split())
    ]
    if near:
        return near[0]
    raise InputError(
        f"“{words.strip()}” is no lever of this board",
        where="lever",
        accepts=", ".join(lever.key for lever in there[:9]),
    )


def demands_to_hold(subject: Subject, keys: Sequence[str]) -> tuple[Demand, ...]:
    """Figures that are to stay as they are, as demands.

    Raises
    ------
    InputError
        When one of them is none, or this board has it not.
    """
    found = []
    for words in keys:
        key = figure_of(words).key
        values = seek_job(subject, (), (key,), ridden=True)
        if values is None:
            raise InputError(f"this board has no {BY_KEY[key].label.lower()}", where="hold")
        found.append(Demand(figure=key, relation="equal", value=values[key], held=True))
    return tuple(found)


def trying(
    subject: Subject,
    problem: SeekProblem,
    executor: Executor | None = None,
    *,
    all_by_it: bool = False,
    also: tuple[str, ...] = (),
) -> Evaluate:
    """Boards tried one after the other, or by an executor: processes of this machine, or a scheduler's. Figures that
    follow at once are quicker tried here, unless `all_by_it` keeps this process free. Figures in `also` are told
    where they exist.
    """
    keys = problem.keys
    ridden = problem.ridden or any(key in RIDDEN for key in also)
    names = tuple(move.lever for move in problem.moves)

    def evaluate(points: Sequence[Point]) -> list[Values | None]:
        jobs = [tuple(zip(names, point, strict=True)) for point in points]
        if executor is None or not (all_by_it or (ridden and len(jobs) > 1)):
            return [seek_job(subject, job, keys, also, ridden=ridden) for job in jobs]
        waiting = [executor.submit(seek_job, subject, job, keys, also, ridden=ridden) for job in jobs]
        return [future.result() for future in waiting]

    return evaluate
