"""Disciplines, the families they belong to, and what each family needs."""

from __future__ import annotations

from typing import Literal

Discipline = Literal[
    "wing foil",
    "downwind foil",
    "wind foil",
    "kite foil",
    "slalom",
    "course racing",
    "wave windsurf",
    "kite surf",
    "twin tip",
    "paddle surf",
    "paddle race",
    "prone race",
    "wakeboard",
    "wake surf",
]

FAMILIES: dict[str, tuple[Discipline, ...]] = {
    "Foil boards for wing and kite": ("wing foil", "kite foil"),
    "Foil boards for downwind and sail": ("downwind foil", "wind foil"),
    "Windsurf racing": ("slalom", "course racing"),
    "Windsurf waves": ("wave windsurf",),
    "Kite boards": ("kite surf", "twin tip"),
    "Stand-up surf": ("paddle surf",),
    "Paddle racing": ("paddle race", "prone race"),
    "Towed boards": ("wakeboard", "wake surf"),
}
"""The eight families and their disciplines."""

FOILING: tuple[Discipline, ...] = ("wing foil", "downwind foil", "wind foil", "kite foil")
"""Disciplines that ride on a foil."""
END_FOR_END: tuple[Discipline, ...] = ("twin tip", "wakeboard")
"""Disciplines whose boards are usually the same end for end."""


Waiting = Literal["kneeling", "standing", "sitting"]
AT_REST: dict[Discipline, Waiting | None] = {
    "wing foil": "kneeling", "kite foil": "kneeling", "downwind foil": "kneeling", "wind foil": "standing",
    "slalom": "standing",
    "course racing": "standing", "wave windsurf": "standing", "paddle surf": "standing", "paddle race": "standing",
    "prone race": "sitting",
    "kite surf": None, "twin tip": None, "wakeboard": None, "wake surf": None,
}  # fmt: skip
"""How the rider waits on the board in still water; None where the board carries nobody at rest."""

Rig = Literal["hand wing", "sail", "kite"]
RIGS: dict[Discipline, Rig] = {
    "wing foil": "hand wing",
    "kite foil": "kite",
    "wind foil": "sail",
    "slalom": "sail",
    "course racing": "sail",
    "wave windsurf": "sail",
    "kite surf": "kite",
    "twin tip": "kite",
}
"""What drives each discipline that the wind drives."""
