"""Colours by role, light and dark. No widget names a colour of its own."""

from __future__ import annotations

from kelvor.core.base.values import frozen


@frozen
class Roles:
    """Twenty roles."""

    name: str
    bar: str
    on_bar: str
    on_bar_quiet: str
    ground: str
    paper: str
    board_fill: str
    line: str
    ink: str
    quiet: str
    live: str
    live_wash: str
    pinned: str
    beside: str
    beside_b: str
    beside_c: str
    cursor: str
    short: str
    water: str
    grid: str


LIGHT = Roles(
    name="light", bar="#1d2b36", on_bar="#f6f3ec", on_bar_quiet="#a9b5bd", ground="#f3f0e8", paper="#fcfaf6",
    board_fill="#ffffff", line="#dcd3c4", ink="#1d2b36", quiet="#6b7177", live="#0b6a6e", live_wash="#e2edec",
    pinned="#b4532a", beside="#5a55a8", beside_b="#6b6a12", beside_c="#2a5d9c", cursor="#e0893a", short="#7b2a56",
    water="#d3e5e6", grid="#d9d6c8",
)  # fmt: skip
DARK = Roles(
    name="dark", bar="#0d141a", on_bar="#eef0ec", on_bar_quiet="#8b979f", ground="#141c22", paper="#1b252d",
    board_fill="#232f38", line="#35434d", ink="#e9ebe6", quiet="#9aa6ad", live="#4fb8b4", live_wash="#213a40",
    pinned="#e08a5c", beside="#aca8ee", beside_b="#d3cf6a", beside_c="#86b6ec", cursor="#eda55a", short="#d98bb4",
    water="#1f3d45", grid="#34424b",
)  # fmt: skip


def contrast(a: str, b: str) -> float:
    """Contrast ratio of two colours, WCAG 2.1 (relative luminance)."""

    def luminance(colour: str) -> float:
        parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        r, g, bl = (c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
        return 0.2126 * r + 0.7152 * g + 0.0722 * bl

    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)
