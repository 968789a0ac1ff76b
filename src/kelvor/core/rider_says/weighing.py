"""What a candidate does on this board: for the sentence, against other phases, against what keeps the rider safe."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from kelvor.core.base.figures import Better, Figure, Figures
from kelvor.core.base.values import frozen
from kelvor.core.evaluation.jobs import LeverEffect
from kelvor.core.levers.lever import Lever
from kelvor.core.levers.locks import Change
from kelvor.core.register.record import Verdict
from kelvor.core.ride.shared_phases import Phase
from kelvor.core.rider_says.saying import Candidate, Group, Saying

GUARDED: tuple[tuple[str, int], ...] = (
    ("nose_under_margin", 1), ("nose_touch_pitch", 1), ("nose_margin", 1), ("fin_margin", 1), ("fin_margin_push", 1),
    ("wrinkle_margin", 1), ("reserve_volume", 1), ("float_deck_depth", -1),
)  # fmt: skip
"""Margins of nose, fin, strength and float: (figure, which way is safer). What lowers one says so first."""
SHARE = 0.01
"""Effects and harms are counted in hundredths of a figure (our own choice)."""
BANDS = 4.0
"""A figure near nothing counts as so many of its own bands (our own choice)."""


@frozen
class FigureMove:
    """A figure that a candidate moves beyond the band: by how much [SI], the band of that, and whether it helps.

    It neither helps nor harms (None) where neither more nor less is better.
    """

    figure: Figure
    moved: float
    band: float
    helps: bool | None


@frozen
class WeighedCandidate:
    """A candidate as it does on this board.

    Attributes
    ----------
    speaks:
        What it moves of the figures that speak of the sentence, the most first.
    leads:
        Every phase that this board has, and how the figure that leads it moves: None within its band.
    lowers:
        Guarded margins it lowers.
    refused:
        Why it cannot be done on this board.
    """

    group: Group
    candidate: Candidate
    lever: Lever
    speaks: tuple[FigureMove, ...]
    leads: tuple[tuple[Phase, FigureMove | None], ...]
    lowers: tuple[FigureMove, ...]
    refused: str = ""

    @property
    def score(self) -> float:
        """Effect per harm: hundredths of the figures gained, over one and the hundredths that others lose."""
        gain = sum((1 if m.helps else -1) * _share(m) for m in self.speaks)
        return gain / (1 + sum(_share(m) for m in self.costs))

    @property
    def costs(self) -> tuple[FigureMove, ...]:
        """What gets worse of the figures that lead phases and are not what the sentence is about, the most first."""
        about = {moves.figure.key for moves in self.speaks}
        worse = [m for _, m in self.leads if m is not None and m.helps is False and m.figure.key not in about]
        return tuple(sorted(worse, key=lambda m: -_share(m)))

    @property
    def holds(self) -> bool | None:
        """Whether what is computed says it helps; None where nothing computed speaks of it."""
        return None if not self.speaks else self.score > 0


def read_keys(saying: Saying) -> tuple[str, ...]:
    """Figures a lever's effect has to tell for a sentence."""
    return tuple(dict.fromkeys(key for key, _ in (*saying.wants, *GUARDED)))


def weighed_candidate(
    saying: Saying,
    group: Group,
    candidate: Candidate,
    lever: Lever,
    effect: LeverEffect,
    figures: Figures,
    phases: Sequence[Phase],
) -> WeighedCandidate:
    """A candidate by what a fair step of its lever does."""
    if effect.refused:
        return WeighedCandidate(group, candidate, lever, (), (), (), effect.refused)
    moved = {
        key: (figures[key], candidate.sign * by, band)
        for key, by, band in effect.changes
        if key in figures and abs(by) > band
    }
    wants = dict(saying.wants)
    speaks = [FigureMove(*moved[key], moved[key][1] * way > 0) for key, way in wants.items() if key in moved]
    speaks.sort(key=lambda m: -_share(m))
    leads = tuple(
        (phase, FigureMove(*moved[key], _better(*moved[key][:2])) if (key := phase.headline) in moved else None)
        for phase in phases
        if phase.headline in figures and figures[phase.headline].exists
    )
    lowers = [FigureMove(*moved[key], False) for key, way in GUARDED if key in moved and moved[key][1] * way < 0]
    return WeighedCandidate(group, candidate, lever, tuple(speaks), leads, tuple(lowers))


def ranked_candidates(candidates: Iterable[WeighedCandidate]) -> list[WeighedCandidate]:
    """Most effect per harm first; what nothing speaks of after, then what works against it, then what is refused."""
    return sorted(candidates, key=lambda w: (bool(w.refused), w.holds is False, -w.score))


def _better(figure: Figure, moved: float) -> bool | None:
    better = figure.definition.better
    return moved > 0 if better is Better.MORE else moved < 0 if better is Better.LESS else None


def _share(moves: FigureMove) -> float:
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
