"""Sizes proposed from a brief, by school, each with its reasons. They are proposals: nothing is set by them.

All rules are common practice, no source; they scale linearly with the rider's
mass about 75 kg and with skill. Where sail, fins and boxes stay as they are for
a light rider, litres go with less than the mass.
"""

from __future__ import annotations

from dataclasses import replace

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.values import frozen
from kelvor.core.brief.brief import Brief, with_discipline
from kelvor.core.levers.locks import with_volume
from kelvor.core.levers.typed_measures import with_widest
from kelvor.core.new_board.first_boards import first_board, patterns
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.board import Board
from kelvor.core.shape.edits.baseline import relevelled
from kelvor.core.shape.edits.mirror import same_end_for_end
from kelvor.core.shape.surface.geometry import geometry

REFERENCE_MASS = 75.0
SKILL_VOLUME = {"learning": 1.25, "riding": 1.0, "expert": 0.9}
"""What skill multiplies the proposed volume by (common practice, no source)."""
FILL = 0.6
"""A first guess of the fill factor, before the volume is met."""


@frozen
class Proposal:
    """A size by one school: length and width [m], volume [m³], and why."""

    discipline: Discipline
    school: str
    says: str
    length: float
    width: float
    volume: float
    reasons: tuple[str, ...]


@frozen
class _Rule:
    """Length and width [m] for a rider of 75 kg, what ten kilograms add to them, litres per kilogram, why, and
    how much of the rider's mass beyond 75 kg the litres go with.
    """

    length: float
    more_length: float
    width: float
    more_width: float
    litres_per_kg: float
    why: str
    skilled: bool = True
    with_mass: float = 1.0


_RULES: dict[tuple[Discipline, str], _Rule] = {
    ("wing foil", "just enough volume"): _Rule(1.46, 0.05, 0.505, 0.02, 0.5,
    "length × width near 100 cm² and about 0.5 L a kilogram"),
    ("wing foil", "enough to stand on"): _Rule(1.75, 0.06, 0.68, 0.02, 1.3, "enough litres to stand on while waiting"),
    ("kite foil", "compact"): _Rule(1.22, 0.03, 0.46, 0.01, 0.26, "the kite carries the rider at rest",
    with_mass=0.6),
    ("downwind foil", "displacement"): _Rule(2.28, 0.07, 0.50, 0.012, 1.32,
    "80–130 L on 6'6\" to 8'2\" by 18–21 in is usual"),
    ("downwind foil", "planing"): _Rule(2.10, 0.06, 0.53, 0.012, 1.40,
    "80–130 L on 6'6\" to 8'2\" by 18–21 in is usual"),
    ("wind foil", "wide tail"): _Rule(2.10, 0.02, 0.86, 0.03, 1.9, "width for leverage, litres for waiting with a rig"),
    ("slalom", "small cut-outs"): _Rule(2.32, 0.01, 0.71, 0.03, 1.40,
    "width follows sail and rider; a class may cap it",
    with_mass=0.4),
    ("slalom", "large cut-outs"): _Rule(2.30, 0.01, 0.73, 0.03, 1.45,
    "width follows sail and rider; a class may cap it",
    with_mass=0.4),
    ("course racing", "full width"): _Rule(2.38, 0.01, 1.005, 0.01, 2.2,
    "just over a metre wide and about 170 L for sails of 11 m² and more",
    with_mass=0.35),
    ("wave windsurf", "pulled-in tail"): _Rule(2.11, 0.03, 0.555, 0.015, 0.98,
    "66–79 L on 207–209 cm by 55–58 cm is usual"),
    ("wave windsurf", "wide tail"): _Rule(2.07, 0.03, 0.575, 0.015, 1.03, "66–79 L on 207–209 cm by 55–58 cm is usual"),
    ("kite surf", "single concave"): _Rule(1.75, 0.04, 0.475, 0.01, 0.32, "5'8\" × 19\" × 2⅛\" comes out near 23–24 L",
    with_mass=0.4),
    ("kite surf", "inverted V"): _Rule(1.73, 0.04, 0.48, 0.01, 0.32, "5'8\" × 19\" × 2⅛\" comes out near 23–24 L",
    with_mass=0.4),
    ("twin tip", "stiff frame"): _Rule(1.38, 0.03, 0.412, 0.01, 0.075,
    "length and width follow the rider; floats nobody", False,
    with_mass=0.35),
    ("twin tip", "tuned flex"): _Rule(1.36, 0.03, 0.408, 0.01, 0.072,
    "length and width follow the rider; floats nobody", False,
    with_mass=0.35),
    ("paddle surf", "pulled-in tail"): _Rule(2.55, 0.06, 0.735, 0.02, 1.35,
    "litres to stand on, a little over the rider's mass",
    with_mass=0.5),
    ("paddle surf", "wide tail"): _Rule(2.45, 0.06, 0.755, 0.02, 1.40,
    "litres to stand on, a little over the rider's mass",
    with_mass=0.5),
    ("paddle race", "cutting bow"): _Rule(4.267, 0.0, 0.605, 0.015, 3.4,
    "the class gives 14'; 24 in is usual, narrower glides and tips"),
    ("paddle race", "flat spoon"): _Rule(4.267, 0.0, 0.635, 0.015, 3.6,
    "the class gives 14'; a little wider for bumps"),
    ("prone race", "displacement"): _Rule(3.658, 0.0, 0.505, 0.008, 2.2,
    "12' by about 20 in is usual: the arms must reach"),
    ("wakeboard", "staged rocker"): _Rule(1.40, 0.03, 0.428, 0.006, 0.10, "length follows the rider; floats nobody",
    False,
    with_mass=0.35),
    ("wakeboard", "blended rocker"): _Rule(1.40, 0.03, 0.428, 0.006, 0.10, "length follows the rider; floats nobody",
    False,
    with_mass=0.35),
    ("wake surf", "surf style"): _Rule(1.45, 0.04, 0.505, 0.01, 0.27, "about 4'9\": the wake gives the rest",
    with_mass=0.6),
    ("wake surf", "skim style"): _Rule(1.40, 0.04, 0.52, 0.01, 0.20, "short, wide and thin",
    with_mass=0.6),
}  # fmt: skip


def proposals(brief: Brief) -> tuple[Proposal, ...]:
    """A size for each school of the brief's discipline."""
    found = []
    for pattern in patterns(brief.discipline):
        rule = _RULES[brief.discipline, pattern.school]
        extra = (brief.rider.mass - REFERENCE_MASS) / 10
        length, width = rule.length + extra * rule.more_length, rule.width + extra * rule.more_width
        skill = SKILL_VOLUME[brief.rider.skill] if rule.skilled else 1.0
        litres = rule.litres_per_kg * (REFERENCE_MASS + rule.with_mass * 10 * extra) * skill
        reasons = [rule.why, f"{brief.rider.mass:.0f} kg at {litres / skill / brief.rider.mass:.2g} L/kg"]
        if skill != 1.0:
            reasons.append(f"× {skill:g} because the rider is {'learning' if skill > 1 else 'an expert'}")
        found.append(
            Proposal(
                brief.discipline,
                pattern.school,
                pattern.says,
                round(length, 3),
                round(width, 3),
                round(litres * 1e-3, 5),
                (*reasons, "common practice, no source"),
            )
        )
    return tuple(found)


def brief_for(brief: Brief, discipline: Discipline) -> Brief:
    """A brief taken over for a new board: with gear that drives the discipline, and targets whose figures it has."""
    taken = with_discipline(brief, discipline)
    if discipline == brief.discipline:
        return taken
    shown = {key for phase in PHASES[discipline] for key in phase.figures}
    return replace(taken, targets=tuple(t for t in taken.targets if t.figure in shown and not t.relative))


def proposed_board(name: str, proposal: Proposal) -> Board:
    """A first board of the proposal's size, fair and levelled, its volume met by thickness.

    Raises
    ------
    RefusedEdit
        When no thickness gives that volume on this outline.
    """
    guess = min(max(proposal.volume / (FILL * proposal.length * proposal.width), 0.012), 0.4)
    board = first_board(name, proposal.discipline, proposal.length, proposal.width, guess, proposal.school)
    if board.mirrored:
        board = same_end_for_end(board)
    board = with_volume(with_widest(board, proposal.width), proposal.volume)
    measured = geometry(board)
    return board if isinstance(measured, tuple) else relevelled(measured, board.base.kind)


def sized(proposal: Proposal, length: float, width: float, volume: float) -> Proposal:
    """The proposal with a size the designer typed instead."""
    return replace(proposal, length=length, width=width, volume=volume)
