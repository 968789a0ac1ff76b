"""Where things lie on the bench: bands and scales, without painting."""

from __future__ import annotations

from kelvor.core.base.values import frozen

LEFT, RIGHT = 36.0, 36.0
RULER = 40.0
PAD = 20.0
KNOB = 20.0
SCALES = (1.0, 2.0, 5.0)
"""How much heights are stretched in the profile."""


@frozen
class BenchBand:
    """A horizontal band of the bench: from `top` to `bottom`, with heights growing upward from `zero` [px]."""

    top: float
    bottom: float
    zero: float
    scale: float  # px per metre

    def y(self, value: float) -> float:
        """Pixel of a height [m]."""
        return self.zero - value * self.scale

    def value(self, y: float) -> float:
        """Height [m] of a pixel."""
        return (self.zero - y) / self.scale


@frozen
class BenchLayout:
    """Bands of one bench size. x grows from the tail at the left."""

    scale: float
    plan: BenchBand
    profile: BenchBand
    strip: BenchBand
    width: float
    height: float

    def px(self, x: float) -> float:
        """Pixel of a place [m]."""
        return LEFT + x * self.scale

    def x(self, px: float) -> float:
        """Place [m] of a pixel."""
        return (px - LEFT) / self.scale


def bench_layout(
    width: float, height: float, length: float, half_width: float, depth: float, stretch: float
) -> BenchLayout:
    """Lay out the bands: the plan at true proportion, the profile stretched, the strip below.

    `depth` is the height of the profile from base to highest point [m].
    """
    free = height - RULER - KNOB
    scale = (width - LEFT - RIGHT) / length
    scale = min(scale, 0.5 * free / (2 * half_width))
    plan_high = 2 * half_width * scale + 2 * PAD
    wanted = depth * scale * stretch + 2 * PAD + 14
    profile_high = min(wanted, free - plan_high - 84.0)
    plan_top = RULER
    profile_top = plan_top + plan_high
    strip_top = profile_top + profile_high
    bottom = height - KNOB
    return BenchLayout(
        scale,
        BenchBand(plan_top, profile_top, plan_top + plan_high / 2, scale),
        BenchBand(profile_top, strip_top, strip_top - PAD, scale * stretch),
        BenchBand(strip_top, bottom, bottom - 6, 1.0),
        width,
        height,
    )
