"""Layers, deck and fittings of first boards that are paddled or towed."""

from __future__ import annotations

from math import radians

from kelvor.core.new_board.drawing import MM, DrawnSize, board_ends, degrees, shaping
from kelvor.core.new_board.patterns import Pattern
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.fin_sets import fin_set
from kelvor.core.shape.parts.fittings import Fittings, Pad, Plug
from kelvor.core.shape.parts.layers import Channels, DeckLayer, Layer, Layout, Ledge


def surf_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Boards that are stood on and paddled into waves."""
    layers = (
        shaping("v", "Nose V", degrees(size, (0.6, 0), (0.95, 5))),
        shaping("hollow", "Single concave", size.schedule((0.1, 1.0), (0.4, 4.0), (0.7, 0), scale=MM), holds="rail"),
        shaping("v", "Tail V", degrees(size, (0.0, 3.0), (0.2, 0.0))),
    )
    fittings = Fittings(
        fin_boxes=fin_set(
            "2+1" if pattern.school == "pulled-in tail" else "four",
            size.length,
            size.half,
            span=0.12,
            box="tab box",
            at=0.075,
        ),
        plugs=(
            Plug(kind="leash plug", at=Place("tail", 0.05), depth=0.012),
            Plug(kind="handle", at=Place("tail", size.x(0.47)), length=0.15, depth=0.03),
            Plug(kind="vent", at=Place("tail", size.x(0.62))),
        ),
        pads=(
            Pad(
                name="Deck pad", start=Place("tail", 0.18), end=Place("tail", size.x(0.70)), cover=0.9, thickness=0.005
            ),
        ),
    )
    return layers, (), fittings


def paddle_race_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Race boards with a standing well."""
    hull: tuple[Layer, ...]
    if pattern.school == "cutting bow":
        hull = (
            shaping("belly", "Round bow", size.schedule((0.55, 0), (0.85, 18), (0.98, 10), scale=MM)),
            shaping("v", "Nose V", degrees(size, (0.6, 0), (0.97, 24))),
            Ledge(
                kind="chine",
                name="Chine, inner hull",
                line=size.schedule((0.05, 0.72 * size.half), (0.45, 0.76 * size.half), (0.8, 0.55 * size.half)),
                across="centre",
                height=Schedule.constant(0.035),
                wall=radians(70),
                start=Place("tail", 0.25),
                end=Place("nose", 0.9),
                run_out=0.35,
            ),
        )
    else:
        hull = (shaping("belly", "Round belly", size.schedule((0.1, 4), (0.6, 6), (0.95, 6), scale=MM)),)
    deck = (
        DeckLayer(
            kind="recess",
            name="Standing well",
            amount=size.schedule((0.2, 0), (0.24, 45), (0.58, 45), (0.66, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.80 * size.half)),
            wall=radians(65),
        ),
        DeckLayer(kind="peak", name="Bow peak", amount=size.schedule((0.68, 0), (0.85, 20), (1.0, 10), scale=MM)),
    )
    fittings = Fittings(
        fin_boxes=fin_set("single", size.length, size.half, span=0.19, box="long box", at=0.06),
        plugs=(
            Plug(kind="handle", at=Place("tail", size.x(0.48)), length=0.16, depth=0.03),
            Plug(kind="vent", at=Place("nose", 0.6)),
            Plug(kind="leash plug", at=Place("tail", 0.2)),
        ),
        pads=(
            Pad(
                name="Standing pad",
                areal_mass=0.7,
                start=Place("tail", size.x(0.22)),
                end=Place("tail", size.x(0.62)),
                cover=0.75,
                thickness=0.004,
            ),
        ),
    )
    return hull, deck, fittings


def prone_race_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Race boards that are lain and knelt on."""
    layers = (
        shaping("belly", "Round belly", size.schedule((0.1, 8), (0.5, 14), (0.9, 18), scale=MM)),
        shaping("v", "Nose V", degrees(size, (0.7, 0), (0.97, 20))),
    )
    deck = (
        DeckLayer(
            kind="relief",
            name="Arm relief",
            amount=size.schedule((0.5, 0), (0.56, 18), (0.68, 18), (0.74, 0), scale=MM),
            layout=Layout("edge", Schedule.constant(0.4 * size.half)),
        ),
        DeckLayer(
            kind="dish",
            name="Chest dish",
            amount=size.schedule((0.2, 0), (0.3, 8), (0.52, 12), (0.62, 0), scale=MM),
            layout=Layout("centre", Schedule.constant(0.6 * size.half)),
        ),
    )
    fittings = Fittings(
        fin_boxes=fin_set("single", size.length, size.half, span=0.20, box="long box", at=0.09),
        plugs=(Plug(kind="vent", at=Place("nose", 0.5)), Plug(kind="leash plug", at=Place("tail", 0.2))),
        pads=(
            Pad(
                name="Chest and knee pad",
                start=Place("tail", size.x(0.22)),
                end=Place("tail", size.x(0.66)),
                cover=0.6,
                thickness=0.006,
            ),
        ),
    )
    return layers, deck, fittings


def wakeboard_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Towed boards, the same end for end."""
    layers: tuple[Layer, ...] = (
        shaping(
            "spine",
            "Centre spine",
            size.schedule((0.2, 0.0), (0.36, 3.0), (0.64, 3.0), (0.8, 0.0), scale=MM),
            Layout("centre", Schedule.constant(0.35 * size.half)),
        ),
        shaping(
            "tunnel",
            "Tip tunnels",
            size.schedule((0.03, 3.0), (0.2, 2.0), (0.32, 0.0), (0.68, 0.0), (0.8, 2.0), (0.97, 3.0), scale=MM),
            Layout("centre", Schedule.constant(0.55 * size.half)),
            holds="rail",
        ),
    )
    return layers, (), board_ends(size, 0.021, 0.56, 0.09)[1]


def wake_surf_parts(size: DrawnSize, pattern: Pattern) -> tuple[tuple[Layer, ...], tuple[DeckLayer, ...], Fittings]:
    """Boards for the wave behind a boat."""
    surf = pattern.school == "surf style"
    layers: tuple[Layer, ...] = (
        shaping(
            "hollow",
            "Single concave",
            size.schedule((0.05, 2.0), (0.4, 4.0 if surf else 1.5), (0.75, 0), scale=MM),
            holds="rail",
        ),
    )
    if surf:
        layers = (
            *layers,
            Channels(
                name="Channels",
                start=Place("tail", 0.09),
                end=Place("tail", size.x(0.30)),
                inner=0.045,
                count=2,
                width=0.024,
                gap=0.014,
                depth=0.003,
                run_out=0.10,
            ),
        )
    kick = DeckLayer(
        kind="kick", name="Tail kick pad", amount=size.schedule((0.02, 14), (0.07, 5), (0.12, 0), scale=MM)
    )
    fittings = Fittings(
        fin_boxes=fin_set(
            "four" if surf else "single",
            size.length,
            size.half,
            span=0.10 if surf else 0.05,
            box="tab box" if surf else "bolts",
            at=0.07,
        ),
        pads=(Pad(name="Traction", start=Place("tail", 0.08), end=Place("nose", 0.3), cover=0.85, thickness=0.004),),
        other_mass=0.0,
    )
    return layers, (kick,) if surf else (), fittings
