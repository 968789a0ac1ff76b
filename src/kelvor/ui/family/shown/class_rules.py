"""Class rules in words: typed, and as margins of boards; a season, and what to register for it."""

from __future__ import annotations

import re
from collections.abc import Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Figures
from kelvor.core.base.units import KNOT, Quantity, System, inside, text
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Target
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.evaluation.verdicts import Outcome, Verdict
from kelvor.core.family.class_rules import RuleStanding, quota_words, typed_limit
from kelvor.core.family.season import Choice, Entrant, board_changes
from kelvor.core.register.kinds.family import ClassRule, Quota
from kelvor.core.seek.typed_demands import target_of

CAUTION = (
    "A margin here is of the design. The class measures the board, by its own rule and measurer: read the rule itself."
)
SEASON_CAUTION = (
    "All with the rider and gear of the bench's brief. Chop and control, which end a large board's day, are not in it."
)
_STRICT = re.compile(r"([<>])(?!=)")
_QUOTA = re.compile(r"^(?:at most\s+)?(?P<most>\d+)\s+boards?(?:\s+(?:with|where)\s+(?P<which>.+))?$", re.IGNORECASE)


def limits_of(words: str, system: System) -> tuple[Target, ...]:
    """Limits as somebody typed them, one a line: “width <= 85 cm”.

    Raises
    ------
    InputError
        Naming the line that is none.
    """
    return tuple(_limit(line, f"limit {i}", system) for i, line in enumerate(_lines(words), 1))


def _lines(words: str) -> list[str]:
    return [line.strip() for line in words.splitlines() if line.strip()]


def _limit(line: str, where: str, system: System) -> Target:
    if strict := _STRICT.search(line):
        accepts = f"Write width {strict[1]}= 85 cm: what is just so is allowed then"
        raise InputError(f"“{strict[1]}” alone is not kept", where=where, accepts=accepts)
    try:
        demand = target_of(line, system)
    except InputError as error:
        raise InputError(error.what, where=where, accepts=error.accepts or "Such as width <= 85 cm") from None
    if demand.relation == "equal":
        raise InputError("a limit is at most or at least", where=where, accepts="Such as width <= 85 cm")
    return Target(figure=demand.figure, relation=demand.relation, value=demand.value)


def quotas_of(words: str, system: System) -> tuple[Quota, ...]:
    """Quotas as somebody typed them, one a line: “at most 3 boards”, “at most 1 board with width >= 72 cm”.

    Raises
    ------
    InputError
        Naming the line that is none.
    """
    found = []
    for i, line in enumerate(_lines(words), 1):
        match = _QUOTA.match(line)
        if match is None:
            raise InputError(
                f"“{line[:40]}” is no quota", where=f"quota {i}", accepts="Such as at most 1 board with width >= 72 cm"
            )
        which = _limit(match["which"], f"quota {i}", system) if match["which"] else None
        found.append(Quota(most=int(match["most"]), which=which))
    return tuple(found)


def rule_lines(rule: ClassRule, system: System) -> tuple[str, str]:
    """Limits and quotas as they are typed."""
    limits = "\n".join(typed_limit(limit, system) for limit in rule.limits)
    return limits, "\n".join(quota_words(quota, system) for quota in rule.quotas)


def limit_label(limit: Target, system: System) -> str:
    """A limit as it is read."""
    definition = BY_KEY[limit.figure]
    return f"{definition.label} {limit.relation} {text(limit.value, definition.quantity, system)}"


def margin_words(verdict: Verdict, system: System) -> str:
    """How much a board has to spare, or lacks."""
    definition = BY_KEY[verdict.target.figure]
    amount = text(abs(verdict.margin), definition.quantity, system)
    if verdict.outcome is Outcome.TOO_CLOSE and verdict.note:  # to what makers hold
        fine, held = (text(abs(v), Quantity.DEPTH, system) for v in (verdict.margin, verdict.band))
        return f"{fine} to spare, makers hold ± {held}: measure the made board"
    return {
        Outcome.MEETS: f"{amount} to spare",
        Outcome.SHORT: f"{amount} {'over' if verdict.target.relation == 'at most' else 'short'}",
        Outcome.TOO_CLOSE: "cannot be told: inside its band",
        Outcome.UNKNOWN: "cannot be told: not computed",
    }[verdict.outcome]


def rule_line_words(rule: ClassRule, stands: RuleStanding, system: System) -> str:
    """The line above the drawing while a board is designed under a rule: what is broken first."""
    order = {Outcome.SHORT: 0, Outcome.TOO_CLOSE: 1, Outcome.UNKNOWN: 2, Outcome.MEETS: 3}
    rows = sorted(stands.verdicts, key=lambda v: order[v.outcome])
    told = [f"{inside(BY_KEY[v.target.figure].label)} {margin_words(v, system)}" for v in rows]
    return f"{rule.name}: {' · '.join(told)}" if told else f"{rule.name}: quotas only"


@frozen
class Season:
    """What was chosen for a season, in words."""

    head: str
    lines: tuple[str, ...]


def season_words(entrants: Sequence[Entrant], choice: Choice, system: System) -> Season:
    """What to register, and where one hands over to the next."""
    names = [entrants[i].name for i in choice.boards]
    head = f"Register {', '.join(names)}: together {choice.covered * 100:.0f} % of the season's winds."
    lines = [
        f"{entrants[i].name} alone {alone * 100:.0f} %: {window_words(entrants[i], system)}"
        for i, alone in zip(choice.boards, choice.alone, strict=True)
    ]
    for first, second, low, high in board_changes([entrants[i] for i in choice.boards]):
        a, b = (text(wind, Quantity.SPEED, system) for wind in (low, high))
        lines.append(
            f"{first} to {second}: change between {a} and {b}"
            if low <= high
            else f"{first} to {second}: nothing goes between {b} and {a}"
        )
    return Season(head, tuple(lines))


def window_words(entrant: Entrant, system: System) -> str:
    """The winds a board goes in."""
    if not entrant.windows:
        return "no wind it can be sailed in is known"
    low, high = min(w[0] for w in entrant.windows), max(w[1] for w in entrant.windows)
    return f"{text(low, Quantity.SPEED, system)} to {text(high, Quantity.SPEED, system)}"


def within_days(rule: ClassRule, today: str) -> str:
    """Whether a rule holds today, in words where it does not."""
    if rule.since and today < rule.since:
        return f"holds from {rule.since} on"
    if rule.until and today > rule.until:
        return f"held until {rule.until}: look for the new one"
    return ""


def sheet_rows(rule: ClassRule, boards: Sequence[tuple[str, RuleStanding]], system: System) -> list[tuple[str, ...]]:
    """The margins of boards, a row a limit."""
    return [
        (limit_label(limit, system), *(margin_words(stands.verdicts[i], system) for _, stands in boards))
        for i, limit in enumerate(rule.limits)
    ]


def quota_rows(
    rule: ClassRule, boards: Sequence[Figures], counts: Sequence[int], system: System
) -> list[tuple[str, str]]:
    """How many of these boards each quota lets register."""
    return [
        (
            quota_words(quota, system),
            f"{count} of these {len(boards)} would count"
            + ("" if count <= quota.most else f": register {quota.most} of them"),
        )
        for quota, count in zip(rule.quotas, counts, strict=True)
    ]


def wind_typed(words: str) -> float:
    """A wind typed in knots, or with its unit [m/s].

    Raises
    ------
    InputError
        When it is none.
    """
    typed = words.strip().lower().removesuffix("kn").strip().replace(",", ".")
    try:
        return float(typed) * KNOT
    except ValueError:
        raise InputError(f"“{words.strip()[:30]}” is no wind", where="Mean wind", accepts="Such as 14 kn") from None
