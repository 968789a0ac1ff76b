"""What a candidate does on this board: for the sentence, against other phases, against what keeps the rider safe."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from kelvor.core.figures import Better, Figure, Figures
from kelvor.core.jobs import LeverEffect
from kelvor.core.levers.lever import Lever
from kelvor.core.record import Verdict
from kelvor.core.ride.shared_phases import Phase
from kelvor.core.sayings.saying import Candidate, Group, Saying
from kelvor.core.seek.holding import Change

GUARDED: tuple[tuple[str, int], ...] = (
    ("nose_under_margin", 1), ("nose_touch_pitch", 1), ("nose_margin", 1), ("fin_margin", 1), ("fin_margin_push", 1),
    ("wrinkle_margin", 1), ("reserve_volume", 1), ("float_deck_depth", -1),
)  # fmt: skip
"""Margins of nose, fin, strength and float: (figure, which way is safer). What lowers one says so first."""
SHARE = 0.01
"""Effects and harms are counted in hundredths of a figure (our own choice)."""
BANDS = 4.0
"""A figure near nothing counts as so many of its own bands (our own choice)."""


@dataclass(frozen=True, slots=True)
class Moves:
    """A figure that a candidate moves beyond the band: by how much [SI], the band of that, and whether it helps."""

    figure: Figure
    moved: float
    band: float
    helps: bool


@dataclass(frozen=True, slots=True)
class Weighed:
    """A candidate as it does on this board.

    Attributes
    ----------
    speaks:
        What it moves of the figures that speak of the sentence, the most first.
    costs:
        What gets worse of the figures that lead the other phases.
    lowers:
        Guarded margins it lowers.
    score:
        Effect per harm: hundredths of the figures gained, over one and the hundredths that others lose.
    refused:
        Why it cannot be done on this board.
    """

    group: Group
    candidate: Candidate
    lever: Lever
    speaks: tuple[Moves, ...]
    costs: tuple[Moves, ...]
    lowers: tuple[Moves, ...]
    score: float
    refused: str = ""

    @property
    def holds(self) -> bool | None:
        """Whether what is computed says it helps; None where nothing computed speaks of it."""
        return None if not self.speaks else self.score > 0


def read_keys(saying: Saying) -> tuple[str, ...]:
    """Figures a lever's effect has to tell for a sentence."""
    return tuple(dict.fromkeys(key for key, _ in (*saying.wants, *GUARDED)))


def weighed(
    saying: Saying,
    group: Group,
    candidate: Candidate,
    lever: Lever,
    effect: LeverEffect,
    figures: Figures,
    phases: Sequence[Phase],
) -> Weighed:
    """A candidate by what a fair step of its lever does."""
    if effect.refused:
        return Weighed(group, candidate, lever, (), (), (), 0.0, effect.refused)
    moved = {
        key: (figures[key], candidate.sign * by, band)
        for key, by, band in effect.changes
        if key in figures and abs(by) > band
    }
    wants = dict(saying.wants)
    speaks = [Moves(*moved[key], moved[key][1] * way > 0) for key, way in wants.items() if key in moved]
    leads = [phase.headline for phase in phases if phase.headline in moved and phase.headline not in wants]
    costs = [Moves(*moved[key], False) for key in leads if _worse(*moved[key][:2])]
    lowers = [Moves(*moved[key], False) for key, way in GUARDED if key in moved and moved[key][1] * way < 0]
    gain = sum((1 if m.helps else -1) * _share(m) for m in speaks)
    score = gain / (1 + sum(_share(m) for m in costs))
    speaks.sort(key=lambda m: -_share(m))
    costs.sort(key=lambda m: -_share(m))
    return Weighed(group, candidate, lever, tuple(speaks), tuple(costs), tuple(lowers), score)


def ranked(candidates: Iterable[Weighed]) -> list[Weighed]:
    """Most effect per harm first; what nothing speaks of after, then what works against it, then what is refused."""
    return sorted(candidates, key=lambda w: (bool(w.refused), w.holds is False, -w.score))


def _worse(figure: Figure, moved: float) -> bool:
    better = figure.definition.better
    return (better is Better.MORE and moved < 0) or (better is Better.LESS and moved > 0)


def _share(moves: Moves) -> float:
    whole = max(abs(moves.figure.value), BANDS * moves.figure.band)
    return abs(moves.moved) / whole / SHARE if whole > 0 else 0.0


def is_about(lever: Lever, differs: str) -> bool:
    """Whether what differed in a test, as somebody typed it, names a lever: “the fin” is about a centre fin's span."""
    told = f"{lever.group} {lever.label}".casefold().replace(",", " ").split()
    first = next((word for word in differs.casefold().split() if len(word) > 2 and word != "the"), "")
    return bool(first) and any(one.startswith(first) for one in told)


def outcomes(candidate: Candidate, lever: Lever, tried: Iterable[tuple[Sequence[Change], Verdict]]) -> tuple[int, int]:
    """How often such a change was decided on in this workshop, and how often it was kept."""
    verdicts = [
        verdict
        for changes, verdict in tried
        for change in changes[:1]
        if change.label == lever.label
        and change.before is not None
        and change.after is not None
        and (change.after - change.before) * candidate.sign > 0
    ]
    return len(verdicts), sum(verdict == "kept" for verdict in verdicts)
