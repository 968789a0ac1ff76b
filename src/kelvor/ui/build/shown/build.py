"""What a construction comes to: weight by thing and zone, stiffness, constructions side by side, weigh-ins."""

from __future__ import annotations

import re
from collections.abc import Sequence

from kelvor.core.base.figures import Figures, difference_words, ranked_words
from kelvor.core.base.units import (
    Quantity,
    System,
    number_text,
    outweighs,
    pounds,
    scale_text,
    text,
    weighed_within,
)
from kelvor.core.build.costing import Cost
from kelvor.core.build.mass.board_mass import BoardMass
from kelvor.core.build.mass.built import CLOTH, COAT, RESIN
from kelvor.core.build.mass.stages import WeighIn, forecasts, traced
from kelvor.core.build.stiffness.stage import FIGURES
from kelvor.core.evaluation.live import Live
from kelvor.core.levers.layer_benefit import Built, Worth
from kelvor.core.made.made_boards import Made
from kelvor.core.register.kinds.shop import MassReading, Proof
from kelvor.core.shape.parts.construction import Construction
from kelvor.ui.shown.shown import Row, money

CAUTION = (
    "Resin and hardener sensitise skin and lungs: gloves, ventilation, cartridge mask. A deep pot of mixed resin heats "
    "up by itself: mix "
    "small, pour out flat. Foam and fibre dust: mask, extraction, or sand it wet. Hot wire: fresh air, never on PVC. "
    "The product's data "
    "sheets, local rules and licensed practice come first."
)


def mass_words(mass: float, band: float) -> str:
    """One unambiguous sentence on what a board weighs."""
    return f"{mass:.2f} ± {band:.2f} kg ({pounds(mass)})"


def _by_thing(mass: BoardMass) -> dict[str, float]:
    """Mass of core, cloth, resin, coats and each fitting [kg]."""
    found: dict[str, float] = {}
    for name, part in mass.parts:
        kind = next(
            (word for start, word in ((CLOTH, "cloth"), (RESIN, "resin"), (COAT, "coats")) if name.startswith(start)),
            name,
        )
        found[kind] = found.get(kind, 0.0) + part.mass
    return found


def weight_rows(mass: BoardMass, system: System, pinned: BoardMass | None) -> list[Row]:
    """Weight by thing, then by zone; they add up to the gram."""
    things, before = _by_thing(mass), _by_thing(pinned) if pinned else {}
    zones: dict[str, float] = {}
    for name, part in mass.parts:
        if name.startswith((CLOTH, RESIN)):
            zone = name.split(", ")[1]
            zones[zone] = zones.get(zone, 0.0) + part.mass

    def aside(kind: str, now: float) -> str:
        if not pinned:
            return ""
        gap = round(now * 1000) - round(before.get(kind, 0.0) * 1000)
        return "same" if gap == 0 else f"{abs(gap)} g {'more' if gap > 0 else 'less'}"

    rows = [Row("", "By thing")]
    rows += [
        Row(f"thing.{kind}", kind[0].upper() + kind[1:], f"{value * 1000:.0f} g", aside(kind, value))
        for kind, value in things.items()
    ]
    total = mass.total.mass
    gap = "" if pinned is None else aside_total(total, pinned.total.mass)
    rows.append(Row("total", "Board as built", f"{total * 1000:.0f} g", gap))
    if zones:
        rows.append(Row("", "Laminate by zone"))
        rows += [Row(f"zone.{zone}", zone.capitalize(), f"{value * 1000:.0f} g") for zone, value in zones.items()]
    return rows


def cost_rows(cost: Cost, currency: str, pinned: Cost | None) -> list[Row]:
    """What a board costs, line by line, by the workshop's own rates, beside the pinned step's."""
    before = {} if pinned is None else {**dict(pinned.lines), "work": pinned.labour, "total": pinned.total}

    def row(key: str, label: str, amount: float) -> Row:
        gap = round(amount) - round(before.get(key, 0.0))
        aside = "" if pinned is None else "same" if gap == 0 else f"{abs(gap)} {'dearer' if gap > 0 else 'cheaper'}"
        return Row(f"cost.{key}", label, money(amount, currency), aside)

    rows = [Row("", "What it costs by your rates")]
    rows += [row(line, line[0].upper() + line[1:], amount) for line, amount in cost.lines]
    rows.append(row("work", f"Work, {cost.hours:.1f} h", cost.labour))
    return [*rows, row("total", "Together", cost.total)]


def aside_total(now: float, before: float) -> str:
    """The whole board against the pinned step."""
    gap = round((now - before) * 1000)
    return "same" if gap == 0 else f"{abs(gap)} g {'heavier' if gap > 0 else 'lighter'}"


WEAKER = 0.85
"""Below this share of the pinned step a local strength is marked."""


def stiffness_rows(
    figures: Figures, pinned: Figures, system: System, renewing: frozenset[str] = frozenset()
) -> list[Row]:
    """Stiffness figures against the pinned step; local strengths as ratios to it, marked where they are weaker, and
    where they are still those of the board before.
    """
    rows = []
    for definition in FIGURES:
        figure, then = figures.get(definition.key), pinned.get(definition.key)
        if figure is None:
            continue
        shown = text(figure.value, definition.quantity, system) if figure.exists else "–"
        aside, mark, tip = difference_words(figure, then, system), "", figure.note
        if definition.ranks:  # told against the reference alone, here as everywhere
            shown, aside = ranked_words(figure, then), "of the reference" if then is not None else ""
            if figure.exists and then is not None and then.exists and 0 < figure.value < WEAKER * then.value:
                mark = "!"
                ratio = figure.value / then.value
                tip = f"Weaker than the reference: {definition.label.lower()} at {ratio:.0%} of it. {figure.note}"
        waits = definition.key in renewing
        rows.append(
            Row(definition.key, definition.label, shown, aside, not figure.valid, mark=mark, tip=tip, renewing=waits)
        )
    return rows


def worth_rows(worth: tuple[Worth, ...]) -> list[tuple[str, ...]]:
    """What a layer buys: ply, one more or less, grams, inertia, bend, twist, dents, cost."""

    def share(value: float, more: str, less: str) -> str:
        by = f"{1 + value:.1f} ×" if value > 1 else f"{abs(value):.0%}"
        return "same" if abs(value) < 0.005 else f"{by} {more if value > 0 else less}"

    rows: list[tuple[str, ...]] = [
        (
            f"{w.ply} {w.change:+d}".replace("-", "−"),
            f"{w.mass * 1000:+.0f} g".replace("-", "−"),
            f"{w.yaw:+.3f}".replace("-", "−"),
            share(w.sag, "softer", "stiffer"),
            share(w.twist, "softer", "stiffer"),
            share(w.dent, "tougher", "softer"),
            f"{w.cost:+.0f}".replace("-", "−"),
        )
        for w in worth
    ]
    return rows


def worth_heads(currency: str) -> tuple[str, ...]:
    """Heads of what a layer buys; money is in the workshop's own."""
    return ("Layer", "Weighs", "Yaw, kg m²", "Bends", "Twists", "Dents", currency.capitalize())


def side_heads(currency: str) -> tuple[str, ...]:
    """Heads of constructions side by side."""
    return ("Construction", "Weighs", "Sag", "Twist", "Dents", currency.capitalize(), "Hours")


def side_rows(entries: list[tuple[Construction, Built]], system: System) -> list[tuple[str, ...]]:
    """Constructions of one shape side by side; dents as a ratio to the first."""
    found: list[tuple[str, ...]] = []
    for c, b in entries:
        first = entries[0][1]
        cells = (
            c.name,
            f"{b.mass:.2f} kg · {pounds(b.mass)}",
            text(b.sag, Quantity.FLEX, system),
            text(b.twist, Quantity.TWIST, system),
            f"{b.dent / max(first.dent, 1e-9):.2f} ×",
            f"{b.cost:,.0f}".replace(",", "\u202f"),
            f"{b.hours:.0f}",
        )
        found.append(cells)
    return found


AS_BUILT, NOW = "As built here", "now"
"""The first row beside others, and how a sentence names it."""


def side_sentence(a: tuple[Construction, Built], b: tuple[Construction, Built]) -> str:
    """One sentence: a against b."""
    gap = a[1].mass - b[1].mass
    bend, twist = a[1].sag / b[1].sag - 1, a[1].twist / b[1].twist - 1

    def share(value: float) -> str:
        return "as stiff" if abs(value) < 0.01 else f"{abs(value):.0%} {'softer' if value > 0 else 'stiffer'}"

    weight = (
        f"{abs(gap) * 1000:.0f} g {'heavier' if gap > 0 else 'lighter'} than "
        f"{NOW if b[0].name == AS_BUILT else b[0].name}"
    )
    return (
        f"{a[0].name}: {a[1].mass:.2f} kg ({pounds(a[1].mass)}), {weight}; {share(bend)} in bending, "
        f"{share(twist)} in twist."
    )


def weigh_rows(live: Live, weigh_ins: tuple[WeighIn, ...], system: System) -> list[tuple[str, ...]]:
    """Stages with forecast, weigh-in, gap and where the grams came from; what a stand-in said is shown as simulated,
    with no gap.
    """
    gaps = {t.stage: t for t in traced(live.geometry, live.mass, weigh_ins)}
    scale = {w.stage: w for w in weigh_ins}
    rows: list[tuple[str, ...]] = []
    for item in forecasts(live.geometry, live.mass):
        found, said = gaps.get(item.stage), scale.get(item.stage)
        marked = "" if said is None or said.origin == "measured" else f", {said.origin}"
        read = "" if said is None else f"{scale_text(said.mass, system)}{marked}"
        words = "" if said is None else "a stand-in's reading: counts for nothing"
        rows.append(
            (
                item.stage.capitalize(),
                weighed_within(item.mass, item.band, system),
                read,
                "" if found is None else outweighs(found.gap, system),
                words if found is None else in_ounces(found.words, system),
            )
        )
    return rows


def in_ounces(words: str, system: System) -> str:
    """A sentence on grams, in the reader's unit."""
    if system is System.METRIC:
        return words
    return re.sub(r"(\d+) g\b", lambda g: outweighs(float(g[1]) / 1000, system).lstrip("+"), words)


def volume_words(live: Live) -> str:
    """Finished volume against the core's, and what is cut away."""
    solid, core, block = live.geometry.solid.volume, live.mass.core.volume, live.mass.blank.volume
    return f"finished {solid * 1e3:.1f} L, core {core * 1e3:.1f}, offcut {(block - core) * 1e3:.0f} L"


def board_sentence(name: str, mass: float, band: float, construction: str) -> str:
    """One unambiguous sentence on what a board weighs."""
    return (
        f"{name}: {mass:.2f} ± {band:.2f} kg, that is {pounds(mass)}{', as ' + construction if construction else ''}."
    )


def scale_sentence(made: Made, live: Live, system: System) -> str:
    """What the scale said last of a made board beside the forecast of its version; nothing where it was never
    weighed.
    """
    if not made.weighed:
        return ""
    said = made.weighed[-1]
    planned = next(f for f in forecasts(live.geometry, live.mass) if f.stage == said.stage)
    words = f"{made.value.serial}, {said.stage}: {text(said.mass, Quantity.MASS, system)} on the scale"
    if said.origin == "simulated":
        return f"{words}, simulated: it counts for nothing."
    forecast = f"{number_text(planned.mass, Quantity.MASS, system)} ± {text(planned.band, Quantity.MASS, system)}"
    return f"{words}, forecast {forecast}, {outweighs(said.mass - planned.mass, system)}."


def made_rows(boards: Sequence[Made], versions: Sequence[int], system: System) -> list[tuple[str, ...]]:
    """Made boards: serial, version, day, who, stage, hours, what the scale said last and where it is."""
    rows: list[tuple[str, ...]] = []
    for made, version in zip(boards, versions, strict=True):
        value, last = made.value, made.weighed[-1] if made.weighed else None
        scale = "" if last is None else text(last.mass, Quantity.MASS, system)
        if last is not None and last.origin == "simulated":
            scale += ", simulated"
        rows.append(
            (
                value.serial,
                str(version or ""),
                value.begun,
                value.who,
                made.stage or "begun",
                f"{made.hours:.1f}" if made.hours else "",
                scale,
                f"{value.where}, {value.whose}" if value.whose else value.where,
            )
        )
    return rows


def entry_rows(made: Made, system: System) -> list[tuple[str, ...]]:
    """What was weighed and done of a made board: day, stage, what, who; struck out with its reason."""
    rows: list[tuple[str, ...]] = []
    for entry in made.entries:
        value = entry.value
        if isinstance(value, MassReading):
            marked = ", simulated: counts for nothing" if entry.origin == "simulated" else ""
            what, who = f"{text(value.mass, Quantity.MASS, system)} on the scale{marked}", ""
        elif isinstance(value, Proof):
            held = "held" if value.held else "gave way"
            load = text(value.moment, Quantity.MOMENT, system)
            what = "; ".join(part for part in (f"proof load, {value.what}: {load} {held}", value.words) if part)
            who = value.who
        else:
            hours = f"{value.hours:.1f} h" if value.hours else ""
            photo = "a photo" if value.photo else ""
            what, who = "; ".join(part for part in (hours, value.words, photo) if part), value.who
        if value.struck:
            what = f"struck out, {value.struck}: {what}"
        rows.append((entry.first_at[:10], value.stage.capitalize(), what, who))
    return rows
