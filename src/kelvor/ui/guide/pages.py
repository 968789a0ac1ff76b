"""The pages of the guide as they lie beside the program, and places in them: “shape#rocker”."""

from __future__ import annotations

import re
from functools import cache
from pathlib import Path

import kelvor
from kelvor.core.base.values import frozen

FOLDER = Path(kelvor.__file__).parent / "guide"
_HEADING = re.compile(r"^## (.+)$", re.MULTILINE)


@frozen
class GuidePage:
    """A page: its key (the name of its file), title and text in Markdown."""

    key: str
    title: str
    text: str

    @property
    def headings(self) -> tuple[str, ...]:
        """Its sections, in order."""
        return tuple(_HEADING.findall(self.text))


@cache
def pages() -> tuple[GuidePage, ...]:
    """All pages, in the order in which the first one names them."""
    first = (FOLDER / "index.md").read_text(encoding="utf-8")
    keys = ["index", *dict.fromkeys(re.findall(r"\]\(([a-z-]+)\.md", first))]
    return tuple(_page(key) for key in keys)


def _page(key: str) -> GuidePage:
    text = (FOLDER / f"{key}.md").read_text(encoding="utf-8")
    return GuidePage(key, text.partition("\n")[0].lstrip("# "), text)


def guide_page(key: str) -> GuidePage:
    """A page by its key, the first one where there is none of that key."""
    return next((one for one in pages() if one.key == key), pages()[0])


def slug(heading: str) -> str:
    """A section's part of a place, as in “#bottom-layers”."""
    return re.sub(r"[^a-z0-9]+", "-", heading.casefold()).strip("-")


def pages_with(words: str) -> list[tuple[GuidePage, int]]:
    """Pages that hold all the words, those that say them most often first, with how often."""
    asked = words.casefold().split()
    counts = [(one, [one.text.casefold().count(word) for word in asked]) for one in pages()]
    return sorted(((one, sum(each)) for one, each in counts if asked and all(each)), key=lambda row: -row[1])


LEVER_PLACES = {
    "Outline": "shape#outline",
    "Rocker": "shape#rocker",
    "Thickness": "shape#thickness-and-deck",
    "Deck": "shape#thickness-and-deck",
    "Bottom layers": "shape#bottom",
    "Rails": "shape#rails",
    "Fittings": "shape#fittings-and-fins",
    "Fins": "shape#fittings-and-fins",
    "At the cursor": "shape#levers",
    "Laminate": "build#construction",
}
"""Where the levers of a group are explained."""
TAB_PLACES = {
    "Sessions": "water#sessions",
    "Tests": "water#tests",
    "Gear": "water#gear",
    "Our boards": "water#our-boards",
    "Layers": "build#construction",
    "Stiffness": "build#construction",
    "Side by side": "build#construction",
    "Boards made": "build#boards-begun",
    "Weigh-ins": "build#boards-begun",
    "Measures": "build#boards-begun",
    "Mill": "build#mill",
    "Quiver": "ride#gear-for-a-wind",
    "Why": "ride#why",
    "Sizes": "family#a-size-run",
    "In one picture": "family#in-one-picture",
    "Class rules": "family#class-rules",
    "Options": "family#options",
    "For whom": "family#for-whom",
}
"""Where the pages of a view are told of, by what stands on their tabs."""
