"""Seeking from the command line: what is asked as words, the answer as words and as a document."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.evaluation.subject import Subject
from kelvor.core.seek.answer import Answer, answer_headline, rounded_answer
from kelvor.core.seek.engine import search
from kelvor.core.seek.problem import FAR, SeekProblem, demands_of, move_of, stated, with_levers_pulled
from kelvor.core.seek.typed_demands import demands_to_hold, lever_of, target_of, trying
from kelvor.core.shape.board import Board
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.exchange.documents import board_text
from kelvor.files import written_whole

WORKERS = 2


def sought(
    board: Board, brief: Brief, targets: Sequence[str], move: Sequence[str], hold: Sequence[str], far: float = FAR
) -> tuple[SeekProblem, Answer]:
    """The answer to typed targets; those of the brief where none is typed.

    Raises
    ------
    InputError
        When a target, lever or hold is none.
    RefusedEdit
        When the board has not the figures that are asked for.
    """
    subject = Subject(board, brief, HANDBOOK, HANDBOOK_COEFFICIENTS)
    demands = [target_of(words) for words in targets] or list(demands_of(brief, brief.targets))
    moves = [move_of(board, lever_of(board, words).key, far) for words in move]
    problem = stated(board, [*demands, *demands_to_hold(subject, hold)], moves)
    if not problem.ridden:
        return problem, _answer(problem, trying(subject, problem))
    from concurrent.futures import ProcessPoolExecutor
    from multiprocessing import get_context

    with ProcessPoolExecutor(WORKERS, get_context("spawn")) as executor:
        return problem, _answer(problem, trying(subject, problem, executor))


def _answer(problem: SeekProblem, evaluate: Any) -> Answer:
    return rounded_answer(problem, search(problem, evaluate), evaluate)


def answer_document(problem: SeekProblem, answer: Answer) -> dict[str, Any]:
    """The answer as plain data, SI."""
    return {
        "met": answer.met,
        "headline": answer_headline(answer),
        "moved": [
            {
                "lever": m.lever,
                "before": m.before,
                "after": m.after,
                "steps": m.steps,
                "for": list(m.asked_by),
                "held_back_by": list(m.held_by),
            }
            for m in answer.moved
        ],
        "targets": [
            {
                "figure": d.figure,
                "relation": d.relation,
                "asked": d.value,
                "found": answer.values[d.figure],
                "held": d.held,
                "missed": miss,
            }
            for d, miss in zip(problem.demands, answer.missed, strict=True)
        ],
        "in_the_way": [{"words": one.words, "buys": one.buys} for one in answer.obstacles],
        "idle": list(answer.idle),
        "rounded": answer.rounded,
        "tried": answer.tried,
    }


def write_answer(problem: SeekProblem, answer: Answer, folder: Path, *, over: bool) -> Path:
    """Write the board that was found; its path. Raises InputError when it is there and not to be written over."""
    board = with_levers_pulled(problem, answer.x)
    stem = "".join(c if c.isalnum() else "-" for c in board.name.lower()).strip("-") or "board"
    path = folder / f"{stem}-sought.json"
    with written_whole(path, over=over) as temporary:
        temporary.write_text(board_text(board), encoding="utf-8")
    return path
