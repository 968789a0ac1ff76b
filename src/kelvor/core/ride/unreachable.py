"""Places that cannot be reached: a mast beyond its tracks, fins and straps that lie off the board or on one another.

A phase whose figures rest on such a part never meets, whatever its figures say.
"""

from __future__ import annotations

from kelvor.core.base.figures import Figures
from kelvor.core.base.findings import Finding, Rests
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board

REACHED = 1e-4
"""A place that lies within this is reached [m]."""


@frozen
class Unreached:
    """What rests on a place that cannot be had: the part, by how much it is missed [m], and in words."""

    part: Rests
    beyond: float
    words: str


def unreached(board: Board, figures: Figures, findings: tuple[Finding, ...]) -> tuple[Unreached, ...]:
    """Every place of mast, fins and straps that cannot be reached."""
    found: list[Unreached] = []
    tracks = board.fittings.tracks
    needed = figures.get("track_needed")
    if tracks is not None:
        middle = tracks.at.x(board.length)
        if needed is not None and needed.valid:
            beyond = abs(needed.value - middle) - tracks.travel
            if beyond > REACHED:
                found.append(Unreached("mast", beyond, f"mast {beyond * 100:.1f} cm beyond the track"))
        stands = abs(tracks.mast) - tracks.travel
        if stands > REACHED:
            found.append(Unreached("mast", stands, f"mast stands {stands * 100:.1f} cm beyond the track"))
    for finding in findings:
        if finding.code not in (
            "strap_outside",
            "fitting_outside",
            "tracks_outside",
            "fittings_clash",
            "fittings_meet",
        ):
            continue
        for part in finding.parts:
            by = abs(finding.value or 0.0)
            found.append(Unreached(part, by, f"{finding.said} by {by * 100:.1f} cm"))
    return tuple(found)
