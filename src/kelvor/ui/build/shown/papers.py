"""The ship card of a made board in words: what it is, what was weighed and measured, and what it lacks to be sold."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.figures import by_key
from kelvor.core.base.units import Quantity, System, inside, scale_text, text, weighed_within
from kelvor.core.evaluation.live import Live
from kelvor.core.made.made_boards import Made
from kelvor.core.made.proof import Needed
from kelvor.core.register.record import Record
from kelvor.core.shape.parts.fittings import BOX_SIZES
from kelvor.ui.build.shown.sheet import SheetLine

SIZES = ("length", "width", "thickness", "volume")
PROTOTYPE = "Prototype, not for sale: "


def card_rows(made: Made, live: Live, lines: Sequence[SheetLine], system: System) -> list[tuple[str, str]]:
    """What stands on the card, each with where it comes from."""
    value, figures, board = made.value, by_key(live.figures), live.board
    sizes = ", ".join(
        f"{figures[key].definition.label.lower()} {text(figures[key].value, figures[key].definition.quantity, system)}"
        for key in SIZES
    )
    scale = next((w for w in reversed(made.weighed) if w.origin == "measured"), None)
    weight = f"forecast {weighed_within(live.mass.total.mass, live.mass.band, system)}"
    if scale is not None:
        weight = f"{scale_text(scale.mass, system)} on the scale, {scale.stage} ({weight} finished)"
    read = [line for line in lines if line.counts]
    passes = sum(line.outcome == "pass" for line in read)
    fails = [inside(line.measure.named(system)) for line in read if line.outcome == "fail"]
    sheet = f"{passes} of {len(read)} readings pass" if read else "not measured"
    if fails:
        sheet += f"; off: {', '.join(dict.fromkeys(fails))}"
    boxes = [
        f"{box.name}: {box.kind}, {text(BOX_SIZES[box.kind][2], Quantity.DEPTH, system)} deep, trailing edge "
        f"{text(box.at.x(board.length, board.mast_x), Quantity.LENGTH, system)} from the tail"
        for box in board.fittings.fin_boxes
    ]
    if (tracks := board.fittings.tracks) is not None:
        at = text(tracks.at.x(board.length), Quantity.LENGTH, system)
        boxes.append(f"foil tracks, middle {at} from the tail, {text(tracks.spacing, Quantity.DEPTH, system)} apart")
    rows = [
        ("Serial", value.serial),
        ("Begun", ", ".join(part for part in (value.begun, value.who) if part)),
        ("Built as", value.built or "as designed"),
        ("Sizes, computed", sizes),
        ("Weight", weight),
        ("Measured", sheet),
        ("Boxes and tracks", "; ".join(boxes) or "none"),
        ("Hours", f"{made.hours:.1f} h" if made.hours else "not written down"),
        ("Where it is", f"{value.where}, {value.whose}" if value.whose else value.where),
    ]
    return [row for row in rows if row[1]]


def warning_words(
    doubts: Sequence[str], lines: Sequence[SheetLine], proved: Record | None, needed: Needed, system: System
) -> str:
    """Why a board is not for sale yet, or the load that proved it; nothing where nothing speaks against it.

    A proof load answers doubts of strength, not what was measured off.
    """
    found = [] if proved is not None else list(doubts)
    found += dict.fromkeys(
        f"{inside(line.measure.named(system))} is off" for line in lines if line.counts and line.outcome == "fail"
    )
    if found:
        how = ""
        if proved is None and doubts and needed.refused:
            how = f" No proof load is told: {needed.refused}."
        elif proved is None and doubts:
            wanted = text(needed.moment, Quantity.MOMENT, system)
            how = f" Prove it by a static load of {wanted} ({needed.why}) before anyone else rides it."
        return f"{PROTOTYPE}{'; '.join(found)}.{how}"
    if proved is not None and doubts:
        value = proved.value
        return f"Proof load, {value.what}: {text(value.moment, Quantity.MOMENT, system)} held, {proved.first_at[:10]}."
    return ""
