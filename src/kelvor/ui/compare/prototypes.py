"""Boards of the workshop as prototypes: what was computed, weighed and said of each, each in its own column."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Literal

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import Quantity, System, text
from kelvor.core.brief.brief import Brief
from kelvor.core.compare.prototypes import Prototype
from kelvor.core.evaluation.live import Live
from kelvor.core.rack.cards import Card, Drawn, drawn
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.core.register.record import Record
from kelvor.ui.build.made import Making
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.workshop.rack import ON_CARDS, cards, counted_for_cards

if TYPE_CHECKING:
    from kelvor.exchange.handing_over import Sent

Which = Literal["compared", "versions", "family", "discipline"]
WHICH: tuple[tuple[Which, str], ...] = (
    ("compared", "The boards compared"),
    ("versions", "Versions of this board"),
    ("family", "Its parents and children"),
    ("discipline", "All boards of its discipline"),
)


def prototypes_of(session: Session, which: Which, drawn_anew: Mapping[int, Drawn]) -> list[Prototype]:
    """Prototypes of a kind, the board on the bench among them; raises InputError when they cannot be read.

    `drawn_anew` are cards counted meanwhile, by step, where the file has none.
    """
    if which == "compared":
        own = _shown(session, session.live, session.live.board.name, session.board_id, session.current)
        return [own, *(_shown(session, o.live, o.name, o.board, o.step) for o in session.overlays.others())]
    store = session.workshop.store
    if which == "versions":
        known = {**drawn_anew, **counted_for_cards(store)}
        return [
            _prototype(
                session,
                session.board_id,
                f"version {step.number}",
                key,
                known.get(key) or _live(session, key),
                session.brief,
            )
            for key, step in sorted(session.steps.items(), key=lambda item: item[1].number)
        ]
    everything = cards(store, session.workshop.registers.of(*ON_CARDS))
    boards = {card.board: card for card in everything if card.board}
    chosen = (
        [c for c in boards.values() if c.discipline == session.brief.discipline]
        if which == "discipline"
        else _family(boards, session.board_id)
    )
    return [
        _prototype(
            session,
            c.board,
            c.name,
            c.step,
            Drawn(dict(c.figures), c.half) if c.half else drawn_anew.get(c.step),
            session.brief if c.board == session.board_id else store.brief(c.board),
        )
        for c in chosen
    ]


def sent_boards(session: Session) -> tuple[Sent, ...]:
    """The board on the bench and those compared with it, for the page that is handed over."""
    from kelvor.exchange.handing_over import Sent

    own = (session.live, session.live.board.name, session.board_id, session.current, session.results.as_counted())
    rest = [
        (o.live, o.name, o.board, o.step, session.service(RideRequests).figures_of(o.live))
        for o in session.overlays.others()
    ]
    found = []
    for live, name, board, step, figures in (own, *rest):
        known = _shown(session, live, name, board, step)
        verdict = f"{known.verdict}{': ' + known.why if known.why else ''}" if known.verdict else ""
        said = tuple(
            (w, t) for w, t in (("felt", known.felt), ("measured", known.measured), ("claimed", known.claimed)) if t
        )
        stamp = _stamp(session, board, step)
        found.append(Sent(session.subject(live), name, stamp, figures or None, verdict, said))
    return tuple(found)


def _stamp(session: Session, board: int, step: int) -> str:
    """Which version of when a board is."""
    if board == session.board_id and step in session.steps:
        known = session.steps[step]
        return f"version {known.number} of {known.made_at[:10]}"
    other = next((o for o in session.overlays.others() if o.step == step), None)
    return f"version {other.number}" if other is not None and other.number else ""


def _family(boards: dict[int, Card], board: int) -> list[Card]:
    """A board, those it comes from, and all that came from any of them."""
    kin = {board}
    while True:
        more = {c.board for c in boards.values() if c.parent in kin} | {boards[k].parent for k in kin if k in boards}
        more = {k for k in more if k in boards} - kin
        if not more:
            return [boards[k] for k in sorted(kin) if k in boards]
        kin |= more


def _live(session: Session, step: int) -> Drawn | None:
    return drawn(session.live) if step == session.current else None


def _shown(session: Session, live: Live, name: str, board: int, step: int) -> Prototype:
    known = drawn(live)
    brief = session.brief if board == session.board_id or not board else _brief(session, board)
    return _prototype(session, board, name, step, known, brief)


def _brief(session: Session, board: int) -> Brief:
    try:
        return session.workshop.store.brief(board)
    except InputError:
        return session.brief


def _prototype(session: Session, board: int, name: str, step: int, known: Drawn | None, brief: Brief) -> Prototype:
    registers, system = session.workshop.registers, session.system
    decision = registers.decision(step) if step else None
    value = decision.value if decision is not None and isinstance(decision.value, Decision) else None
    number = session.steps[step].number if step in session.steps else 0
    said = [r for r in registers.of("said") if r.board == board and (r.step == step or board != session.board_id)]
    return Prototype(
        key=f"{board}.{step}",
        name=name,
        board=board,
        step=step,
        number=number,
        figures=known.figures if known is not None else {},
        half=known.half if known is not None else (),
        under=_under(brief, system),
        verdict=value.verdict if value is not None else None,
        why=value.why if value is not None else "",
        measured=_measured(session, board, step, said),
        felt=_words(said, "felt"),
        claimed=_words(said, "claimed"),
    )


def _under(brief: Brief, system: System) -> dict[str, str]:
    gear = [part.name for part in (brief.wing, brief.foil) if part is not None]
    return {
        "Rider": f"{brief.rider.name}, {text(brief.rider.mass, Quantity.MASS, system)}",
        "Gear": ", ".join(gear),
        "Wind": text(brief.wind.speed, Quantity.SPEED, system),
    }


def _measured(session: Session, board: int, step: int, said: list[Record]) -> str:
    ids = session.workshop.saving.ids
    scale = [
        f"{made.value.serial} {text(w.mass, Quantity.MASS, session.system)} {w.stage}"
        + (", simulated" if w.origin == "simulated" else "")
        for made in session.service(Making).boards(board)
        if ids(made.record.step or 0) == ids(step)  # a scale's word is of the version that was on it
        for w in made.weighed[-1:]
    ]
    words = _words(said, "measured")
    return "; ".join([*scale, *([words] if words else [])])


def _words(said: list[Record], origin: str) -> str:
    """What was said of a board with an origin, the newest first."""
    found = [r for r in sorted(said, key=lambda r: r.made_at, reverse=True) if r.origin == origin]
    return "; ".join(
        f"{r.value.words} ({r.value.who})" if r.value.who else r.value.words
        for r in found
        if isinstance(r.value, Said) and not r.value.struck
    )
