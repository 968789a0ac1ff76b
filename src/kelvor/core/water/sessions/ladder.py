"""A ladder of fins: from too large downward, with what the log knows of each rung; what suits a wind."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from kelvor.core.base.values import frozen
from kelvor.core.register.kinds.water import Incident, SetUp
from kelvor.core.register.kinds.words import Said
from kelvor.core.register.record import Record
from kelvor.core.shape.parts.fittings import Fin
from kelvor.core.water.sessions.log import Logged

SHARES = (0.45, 0.55)
"""Depth of a slalom fin as a share of the board's width (common practice, no source)."""


@frozen
class Rung:
    """A fin on a ladder.

    Attributes
    ----------
    span, share:
        Its depth [m], and as a share of the board's width.
    sessions, wind, best, said:
        How often it was ridden with the board, in which winds [m/s], its best 10 s [m/s], what was said last.
    suits:
        Whether its depth lies in what is usual for the width.
    """

    name: str
    span: float
    share: float
    sessions: int
    wind: tuple[float, float] | None
    best: float
    said: str
    suits: bool


def fin_ladder(
    fins: Iterable[Record], incidents: Iterable[Record], log: Sequence[Logged], board: str, width: float
) -> tuple[Rung, ...]:
    """Fins of the register from the largest down, retired ones left out; what the log tells of each with this board."""
    gone = {r.value.what for r in incidents if isinstance(r.value, Incident) and r.value.retired and not r.value.struck}
    found = []
    for record in fins:
        fin = record.value
        if isinstance(fin, Fin) and record.uid not in gone:
            found.append(_rung(fin, record.uid, log, board, width))
    return tuple(sorted(found, key=lambda rung: -rung.span))


def _rung(fin: Fin, uid: str, log: Sequence[Logged], board: str, width: float) -> Rung:
    winds: list[float] = []
    best, count, said = 0.0, 0, ""
    for one in log:
        rode = [
            r.value
            for r in one.setups
            if isinstance(r.value, SetUp)
            and r.value.board == board
            and (uid in r.value.gear or r.value.fin.casefold() == fin.name.casefold())
        ]
        if not rode or one.value.struck:
            continue
        count += 1
        winds += [w for w in (one.value.wind_low, one.value.wind_high) if w > 0]
        best = max(best, one.best[1] if one.best is not None else 0.0)
        words = [r.value.words for r in one.words if isinstance(r.value, Said) and not r.value.struck]
        said = said or (words[-1] if words else "")
    share = fin.span / width if width > 0 else 0.0
    wind = (min(winds), max(winds)) if winds else None
    return Rung(fin.name, fin.span, share, count, wind, best, said, SHARES[0] <= share <= SHARES[1])


@frozen
class Suits:
    """A set-up that was ridden in a wind like today's: which, how often, its best 10 s [m/s], what was said last."""

    words: str
    sessions: int
    best: float
    said: str


def suited(log: Sequence[Logged], wind: float, slack: float = 0.5) -> tuple[Suits, ...]:
    """What was ridden in this wind [m/s], give or take, the most ridden first; struck sessions and drafts left out."""
    found: dict[str, tuple[int, float, str]] = {}
    for one in log:
        low, high = one.value.wind_low, one.value.wind_high or one.value.wind_low
        if one.value.struck or one.value.draft or high <= 0 or not low - slack <= wind <= high + slack:
            continue
        for record in one.setups:
            s = record.value
            if not isinstance(s, SetUp):
                continue
            words = ", ".join(part for part in (s.board, s.drive, s.foil, s.fin) if part)
            count, best, said = found.get(words, (0, 0.0, ""))
            own = [r.value.words for r in one.words if isinstance(r.value, Said) and not r.value.struck]
            speed = one.best[1] if one.best is not None else 0.0
            found[words] = (count + 1, max(best, speed), said or (own[-1] if own else ""))
    ranked = sorted(found.items(), key=lambda item: (-item[1][0], -item[1][1]))
    return tuple(Suits(words, *rest) for words, rest in ranked)
