"""Words for changes, differences and verdicts."""

from __future__ import annotations

from kelvor.core.base.disciplines import FOILING, Discipline
from kelvor.core.base.units import Quantity, System, number_text, signed, text
from kelvor.core.evaluation.verdicts import Outcome, Verdict
from kelvor.core.history.steps import Step, TapeStop
from kelvor.core.levers.locks import ALONG, Change


def change_words(change: Change, system: System) -> str:
    """A change, such as “Tail cut angle 6.0° → 8.0°”."""
    q = change.quantity
    if change.before is None:
        return f"{change.label} added" if change.after is None else f"{change.label} {text(change.after, q, system)}"
    if change.after is None:
        return f"{change.label} taken off"
    if q is Quantity.CHOICE:
        return change.label
    return f"{change.label} {number_text(change.before, q, system)}{_degree(q)} → {text(change.after, q, system)}"


def _degree(quantity: Quantity) -> str:
    return "°" if quantity is Quantity.ANGLE else ""


def step_words(step: Step, changes: tuple[Change, ...], before_volume: float | None, system: System) -> str:
    """A step in words: what changed, what paid for it, and the litres it cost or gave."""
    if not changes:
        return step.title or "Began"
    first, *paid = [change_words(c, system) for c in changes]
    words = first[0].upper() + first[1:]
    if step.title:
        words = "; ".join([step.title, *([first, *paid] if len(changes) <= 3 else [first, f"{len(paid)} more"])])
    elif paid:
        along = [p[0].lower() + p[1:] for p in paid if p.startswith(ALONG)]
        paying = [p[0].lower() + p[1:] for p in paid if not p.startswith(ALONG)]
        words += "".join(f", {p}" for p in along) + (", paid by " + " and ".join(paying) if paying else "")
    if before_volume is not None and step.volume and all(c.quantity is not Quantity.VOLUME for c in changes):
        litres = step.volume - before_volume
        if abs(litres) >= 0.5e-4:
            words += f", {signed(litres, Quantity.VOLUME, system)}"
    return words


def stop_words(stop: TapeStop, before: Step | None, system: System) -> str:
    """A stop on the tape in words."""
    return step_words(stop.step, stop.changes, before.volume if before else None, system)


def escaped(words: str) -> str:
    """Words as they stand, for a label of rich text."""
    return words.replace("&", "&amp;").replace("<", "&lt;")


def verdict_words(verdict: Verdict | None, quantity: Quantity, system: System, *, spare: bool = True) -> str:
    """A verdict, such as “meets” or “short by 1.2 cm”, and what is to `spare`; nothing without one."""
    if verdict is None:
        return ""
    wish = "wish: " if verdict.target.wish else ""
    if verdict.outcome is Outcome.SHORT:
        return f"{wish}short by {text(abs(verdict.margin), quantity, system)}"
    if spare and verdict.outcome is Outcome.MEETS and abs(verdict.margin) > 1e-9:
        left = text(verdict.margin, quantity, system)
        if any(c in "123456789" for c in left):
            return f"{wish}meets, {left} to spare"
    return f"{wish}{verdict.outcome.value}"


_WATER = (
    "Wind offshore, cold, alone: leash as the discipline demands, buoyancy, a way to call for help. Local rules "
    "come first."
)
_FOILS = (
    "Sharp foils and fins: helmet, impact vest and distance to others. A cracked foil mast, fin or box is retired. "
)
_TOWED = (
    "Towing: an observer in the boat, the boat's rules, never near the propeller; helmet and impact vest. "
    "Cold, alone: buoyancy, a way to call for help. Local rules come first."
)


def caution(discipline: Discipline) -> str:
    """The usual caution on the water for a discipline."""
    if discipline in ("wakeboard", "wake surf"):
        return _TOWED
    return (_FOILS if discipline in FOILING else "A cracked fin or box is retired, not passed on. ") + _WATER
