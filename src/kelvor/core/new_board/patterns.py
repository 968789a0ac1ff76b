"""Patterns: the proportions of a first board of every discipline, by school.

Lengths are shares of the board's length, half-widths shares of the greatest
half-width, thicknesses shares of the greatest thickness, rocker heights
millimetres per metre of length. All of it is common practice, no source; a
designer shapes on from there.
"""

from __future__ import annotations

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.values import frozen
from kelvor.core.shape.curves.outline import NoseKind, TailKind

Pairs = tuple[tuple[float, float], ...]


@frozen(kw_only=True)
class Pattern:
    """One school of one discipline.

    Attributes
    ----------
    outline, thickness:
        (share of length, share of the greatest), from tail to nose.
    rocker:
        (share of length, height in mm per metre of length).
    flat:
        Which rocker weight begins the ruler, or None; `blends` are its blend lengths as shares of the length.
    corner, depth, spread:
        Of the tail, as shares of the greatest half-width.
    rail:
        Apex share below, tuck [mm], edge radius aft and fore [mm], fullness, chamfer [mm].
    crown:
        [mm].
    """

    school: str
    says: str
    tail: TailKind
    nose: NoseKind
    outline: Pairs
    rocker: Pairs
    thickness: Pairs
    flat: int | None = 1
    blends: tuple[float, float] = (0.04, 0.09)
    corner: float = 0.0
    depth: float = 0.0
    spread: float = 0.0
    nose_corner: float = 0.0
    rail: tuple[float, float, float, float, float, float] = (0.42, 12, 2, 8, 0.5, 40)
    side_wall: float | None = None
    crown: float = 5.0
    mirrored: bool = False
    winger: tuple[float, float, float] | None = None


def _ends(*pairs: tuple[float, float]) -> Pairs:
    """The aft half given from the tail to the middle, mirrored."""
    return (*pairs, *((1 - x, v) for x, v in reversed(pairs) if x != 0.5))


_KITE_SURF_OUTLINE: Pairs = ((0.0, 0.24), (0.17, 0.74), (0.47, 1.0), (0.76, 0.86), (0.93, 0.50))
_WAVE_OUTLINE: Pairs = ((0.05, 0.36), (0.15, 0.66), (0.45, 1.0), (0.74, 0.885), (0.92, 0.51))
_WAKE_OUTLINE = _ends((0.0, 0.66), (0.12, 0.83), (0.28, 0.95), (0.5, 1.0))
_WING_OUTLINE: Pairs = ((0.0, 0.64), (0.18, 0.885), (0.48, 1.0), (0.77, 0.84), (0.93, 0.50))
_WING_ROCKER: Pairs = ((0.0, 2.0), (0.155, 0.0), (0.58, 0.0), (0.82, 16.0), (1.0, 54.0))
_WING_THICK: Pairs = ((0.0, 0.68), (0.2, 0.905), (0.47, 1.0), (0.76, 0.865), (1.0, 0.36))

PATTERNS: dict[Discipline, tuple[Pattern, ...]] = {
    "wing foil": (
        Pattern(school="just enough volume",
        says="About 0.5 L/kg: kneels under water, light to swing, needs wind or a large wing.",
                tail="squash", nose="round", corner=0.22, outline=_WING_OUTLINE, rocker=_WING_ROCKER,
                thickness=_WING_THICK,
                rail=(0.45, 16, 2, 11, 0.45, 38)),
        Pattern(school="enough to stand on", says="About 1.3 L/kg: stands while waiting, climbs early, more to swing.",
                tail="squash", nose="round", corner=0.25, outline=_WING_OUTLINE, rocker=_WING_ROCKER,
                thickness=_WING_THICK,
                rail=(0.45, 14, 2, 11, 0.7, 34)),
    ),
    "kite foil": (
        Pattern(school="compact", says="Short and light, flat deck to the edge: the kite does the lifting.",
                tail="square", nose="blunt", nose_corner=0.35, outline=((0.0, 0.72), (0.25, 0.94), (0.5, 1.0), (0.8,
                0.84), (1.0, 0.46)),
                rocker=((0.0, 6.0), (0.15, 0.0), (0.62, 0.0), (0.84, 20.0), (1.0, 52.0)), thickness=((0.0, 0.9), (0.5,
                1.0), (1.0, 0.7)),
                rail=(0.35, 8, 2, 6, 0.5, 22), crown=2),
    ),
    "downwind foil": (
        Pattern(school="displacement", says="Round bottom and a narrow entry: quick at low power, rolls freely.",
                tail="pin", nose="pointed", outline=((0.06, 0.30), (0.22, 0.72), (0.5, 1.0), (0.76, 0.74), (0.93,
                0.30)),
                rocker=((0.0, 17.0), (0.2, 2.0), (0.32, 0.0), (0.55, 0.0), (0.8, 6.0), (1.0, 25.0)), flat=2,
                thickness=((0.0, 0.45), (0.25, 0.9), (0.5, 1.0), (0.8, 0.85), (1.0, 0.5)), rail=(0.5, 34, 12, 22, 0.5,
                60), crown=6),
        Pattern(school="planing", says="Flat with a spoon entry: no speed cap on a bump, steadier to stand on.",
                tail="squash", nose="round", corner=0.2, outline=((0.0, 0.46), (0.22, 0.82), (0.5, 1.0), (0.78, 0.80),
                (0.94, 0.42)),
                rocker=((0.0, 10.0), (0.18, 0.0), (0.6, 0.0), (0.82, 11.0), (1.0, 44.0)),
                thickness=((0.0, 0.5), (0.25, 0.92), (0.5, 1.0), (0.8, 0.85), (1.0, 0.4)), rail=(0.45, 20, 3, 14, 0.6,
                48)),
    ),
    "wind foil": (
        Pattern(school="wide tail", says="Width to the tail for leverage against the foil; cut away aft, box level.",
                tail="square", nose="round", outline=((0.0, 0.86), (0.2, 0.96), (0.45, 1.0), (0.75, 0.84), (0.93,
                0.47)),
                rocker=((0.0, 1.0), (0.1, 0.0), (0.6, 0.0), (0.82, 16.0), (1.0, 58.0)),
                thickness=((0.0, 0.9), (0.25, 1.0), (0.6, 0.96), (0.85, 0.76), (1.0, 0.3)), rail=(0.4, 10, 2, 12, 0.62,
                46), crown=7),
    ),
    "slalom": (
        Pattern(school="small cut-outs", says="The tail carries: fin boards live on their tail, so little is cut.",
                tail="squash", nose="round", corner=0.28, outline=((0.0, 0.50), (0.13, 0.74), (0.42, 1.0), (0.72, 0.87),
                (0.92, 0.46)),
                rocker=((0.0, 0.0), (0.42, 0.0), (0.66, 9.0), (0.85, 34.0), (1.0, 76.0)), flat=0, blends=(0.0, 0.2),
                thickness=((0.0, 0.60), (0.12, 0.985), (0.4, 1.0), (0.7, 0.83), (1.0, 0.2)), rail=(0.3, 6, 1, 14, 0.48,
                62), crown=10),
        Pattern(school="large cut-outs", says="Less wetted at speed; too large and the tail sinks and the gybe stalls.",
                tail="squash", nose="round", corner=0.28, outline=((0.0, 0.56), (0.13, 0.78), (0.43, 1.0), (0.72, 0.87),
                (0.92, 0.46)),
                rocker=((0.0, 0.0), (0.42, 0.0), (0.66, 9.0), (0.85, 34.0), (1.0, 76.0)), flat=0, blends=(0.0, 0.2),
                thickness=((0.0, 0.60), (0.12, 0.985), (0.4, 1.0), (0.7, 0.83), (1.0, 0.2)), rail=(0.3, 6, 1, 14, 0.48,
                62), crown=10),
    ),
    "course racing": (
        Pattern(school="full width",
        says="One-foot-off width near the full width: leverage on a large fin, upwind and down.",
                tail="square", nose="round", outline=((0.0, 0.70), (0.125, 0.90), (0.4, 1.0), (0.72, 0.85), (0.92,
                0.45)),
                rocker=((0.0, 0.0), (0.45, 0.0), (0.68, 9.0), (0.86, 36.0), (1.0, 80.0)), flat=0, blends=(0.0, 0.2),
                thickness=((0.0, 0.6), (0.14, 0.9), (0.4, 1.0), (0.7, 0.84), (1.0, 0.2)), rail=(0.28, 6, 1, 16, 0.6,
                80), crown=14),
    ),
    "wave windsurf": (
        Pattern(school="pulled-in tail", says="Quick rail to rail and controlled in power; planes later.",
                tail="round", nose="round", outline=_WAVE_OUTLINE,
                rocker=((0.0, 11.0), (0.2, 1.0), (0.36, 0.0), (0.58, 6.0), (0.8, 38.0), (1.0, 118.0)), flat=None,
                thickness=((0.0, 0.2), (0.2, 0.72), (0.45, 1.0), (0.75, 0.82), (1.0, 0.22)), rail=(0.38, 10, 2, 16,
                0.35, 75), crown=16),
        Pattern(school="wide tail", says="Early planing and drive off the back foot; slower to roll over.",
                tail="squash", nose="round", corner=0.3, outline=((0.0, 0.40), (0.15, 0.74), (0.45, 1.0), (0.74, 0.885),
                (0.92, 0.51)),
                rocker=((0.0, 7.0), (0.2, 0.5), (0.38, 0.0), (0.6, 6.0), (0.8, 36.0), (1.0, 112.0)), flat=None,
                thickness=((0.0, 0.24), (0.2, 0.74), (0.45, 1.0), (0.75, 0.82), (1.0, 0.22)), rail=(0.35, 9, 2, 15, 0.4,
                72), crown=15,
                winger=(0.13, 9, 30)),
    ),
    "kite surf": (
        Pattern(school="single concave",
        says="Lifts and planes early; catches chop, and hard to keep symmetric by hand.",
                tail="squash", nose="round", corner=0.16, outline=_KITE_SURF_OUTLINE,
                rocker=((0.0, 22.0), (0.25, 4.0), (0.45, 0.0), (0.7, 14.0), (1.0, 62.0)), flat=None,
                thickness=((0.0, 0.40), (0.2, 0.74), (0.5, 1.0), (0.78, 0.70), (1.0, 0.26)), rail=(0.3, 8, 1, 8, 0.18,
                68), crown=11),
        Pattern(school="inverted V", says="As a concave, but a straight edge can check it.",
                tail="swallow", nose="round", depth=0.24, spread=0.17, outline=_KITE_SURF_OUTLINE,
                rocker=((0.0, 22.0), (0.25, 4.0), (0.45, 0.0), (0.7, 14.0), (1.0, 62.0)), flat=None,
                thickness=((0.0, 0.40), (0.2, 0.74), (0.5, 1.0), (0.78, 0.70), (1.0, 0.26)), rail=(0.3, 8, 1, 8, 0.18,
                68), crown=11),
    ),
    "twin tip": (
        Pattern(school="stiff frame", says="Parallel and flat through the middle: upwind drive and edge hold.",
                tail="squash", nose="blunt", corner=0.42, nose_corner=0.42, mirrored=True,
                outline=_ends((0.0, 0.82), (0.16, 0.94), (0.34, 0.99), (0.5, 1.0)),
                rocker=_ends((0.0, 27.0), (0.2, 7.0), (0.4, 0.0)), flat=2, blends=(0.2, 0.2),
                thickness=_ends((0.0, 0.5), (0.25, 0.85), (0.5, 1.0)), rail=(0.08, 1.5, 1, 1, 0.0, 6), side_wall=20.0,
                crown=1.0),
        Pattern(school="tuned flex", says="Thinner tips and more rocker: softer landings, springs off chop.",
                tail="squash", nose="blunt", corner=0.5, nose_corner=0.5, mirrored=True,
                outline=_ends((0.0, 0.74), (0.16, 0.90), (0.34, 0.985), (0.5, 1.0)),
                rocker=_ends((0.0, 38.0), (0.25, 9.0), (0.5, 0.0)), flat=None,
                thickness=_ends((0.0, 0.5), (0.25, 0.82), (0.5, 1.0)), rail=(0.08, 1.5, 1, 1, 0.0, 6), side_wall=20.0,
                crown=1.0),
    ),
    "paddle surf": (
        Pattern(school="pulled-in tail", says="Curve placed aft: tight turns off the tail; less glide into a wave.",
                tail="round", nose="pointed", outline=((0.04, 0.30), (0.14, 0.64), (0.45, 1.0), (0.75, 0.83), (0.92,
                0.42)),
                rocker=((0.0, 20.0), (0.2, 4.0), (0.42, 0.0), (0.7, 10.0), (1.0, 62.0)), flat=None,
                thickness=((0.0, 0.30), (0.16, 0.78), (0.48, 1.0), (0.78, 0.8), (1.0, 0.25)), rail=(0.4, 14, 2, 18,
                0.45, 80), crown=9),
        Pattern(school="wide tail", says="Lift under the back foot and early entry; slower rail to rail.",
                tail="squash", nose="round", corner=0.3, outline=((0.0, 0.46), (0.14, 0.76), (0.45, 1.0), (0.75, 0.88),
                (0.92, 0.54)),
                rocker=((0.0, 14.0), (0.2, 2.0), (0.42, 0.0), (0.7, 9.0), (1.0, 50.0)), flat=None,
                thickness=((0.0, 0.3), (0.2, 0.8), (0.48, 1.0), (0.78, 0.82), (1.0, 0.28)), rail=(0.4, 14, 2, 18, 0.5,
                80), crown=9),
    ),
    "paddle race": (
        Pattern(school="cutting bow", says="Glide in clean water; tracks and pulls in messy water.",
                tail="square", nose="pointed", outline=((0.0, 0.50), (0.15, 0.74), (0.45, 1.0), (0.75, 0.80), (0.93,
                0.32)),
                rocker=((0.0, 14.0), (0.2, 4.0), (0.45, 0.0), (0.75, 1.0), (1.0, 9.0)), flat=None,
                thickness=((0.0, 0.62), (0.3, 0.82), (0.55, 0.86), (0.82, 1.0), (1.0, 0.8)), rail=(0.4, 18, 6, 14, 0.8,
                40), crown=2),
        Pattern(school="flat spoon", says="Rides over bumps and turns; slower in the flat.",
                tail="square", nose="round", outline=((0.0, 0.52), (0.15, 0.76), (0.45, 1.0), (0.75, 0.84), (0.94,
                0.44)),
                rocker=((0.0, 12.0), (0.2, 3.0), (0.42, 0.0), (0.7, 3.0), (0.88, 12.0), (1.0, 27.0)), flat=None,
                thickness=((0.0, 0.6), (0.3, 0.85), (0.55, 0.95), (0.8, 1.0), (1.0, 0.55)), rail=(0.42, 16, 4, 14, 0.75,
                44), crown=2),
    ),
    "prone race": (
        Pattern(school="displacement", says="Round and narrow: glide per stroke; sits in its own water.",
                tail="pin", nose="pointed", outline=((0.06, 0.26), (0.18, 0.63), (0.32, 0.90), (0.48, 1.0), (0.76,
                0.76), (0.94, 0.28)),
                rocker=((0.0, 12.0), (0.2, 3.0), (0.45, 0.0), (0.75, 2.0), (1.0, 20.0)), flat=None,
                thickness=((0.0, 0.5), (0.3, 0.86), (0.55, 1.0), (0.8, 0.98), (1.0, 0.6)), rail=(0.45, 30, 10, 20, 0.55,
                60), crown=6),
    ),
    "wakeboard": (
        Pattern(school="staged rocker",
        says="A flat centre with kicked ends: strong kick at the wake, hard on a long flat.",
                tail="squash", nose="blunt", corner=0.55, nose_corner=0.55, mirrored=True, outline=_WAKE_OUTLINE,
                rocker=_ends((0.0, 46.0), (0.16, 15.0), (0.36, 0.0)), flat=2, blends=(0.03, 0.03),
                thickness=_ends((0.0, 0.5), (0.2, 0.8), (0.5, 1.0)), rail=(0.12, 2, 1, 1, 0.0, 6), side_wall=25.0,
                crown=1.0),
        Pattern(school="blended rocker", says="One continuous curve: even speed and easy turning, less platform.",
                tail="squash", nose="blunt", corner=0.55, nose_corner=0.55, mirrored=True, outline=_WAKE_OUTLINE,
                rocker=_ends((0.0, 46.0), (0.25, 11.0), (0.5, 0.0)), flat=None,
                thickness=_ends((0.0, 0.5), (0.2, 0.8), (0.5, 1.0)), rail=(0.12, 2, 1, 1, 0.0, 6), side_wall=25.0,
                crown=1.0),
    ),
    "wake surf": (
        Pattern(school="surf style", says="Volume and crisp edges past the middle: push in the pocket.",
                tail="swallow", nose="round", depth=0.22, spread=0.30, outline=((0.0, 0.38), (0.18, 0.76), (0.45, 1.0),
                (0.74, 0.85), (0.92, 0.47)),
                rocker=((0.0, 22.0), (0.25, 4.0), (0.45, 0.0), (0.72, 14.0), (1.0, 64.0)), flat=None,
                thickness=((0.0, 0.4), (0.25, 0.85), (0.5, 1.0), (0.75, 0.9), (1.0, 0.4)), rail=(0.3, 6, 1, 3, 0.4, 34),
                crown=4),
        Pattern(school="skim style", says="Thin and flat with small fins: releases and spins, needs a bigger wake.",
                tail="round", nose="round", outline=((0.08, 0.54), (0.2, 0.80), (0.46, 1.0), (0.72, 0.88), (0.9, 0.56)),
                rocker=((0.0, 14.0), (0.22, 2.0), (0.4, 0.0), (0.6, 0.0), (0.8, 12.0), (1.0, 44.0)), flat=2,
                blends=(0.1, 0.1),
                thickness=((0.0, 0.6), (0.5, 1.0), (1.0, 0.6)), rail=(0.3, 3, 1, 2, 0.3, 14), crown=1),
    ),
}  # fmt: skip
