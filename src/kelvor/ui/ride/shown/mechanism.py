"""What a rider's word for the fin comes from, with this board's own numbers; what the tank says of a wind."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.figures import Figure, Figures
from kelvor.core.base.units import KNOT, Quantity, System, text
from kelvor.core.brief.brief import Brief
from kelvor.core.shape.surface.geometry import Geometry
from kelvor.core.water.sessions.ladder import Suits

FELT = ("stiff", "loose", "wanders", "tail walks")
_STEP = 0.010
"""A step of a fin along its box [m] (common practice, no source)."""


def mechanism_words(felt: str, measured: Geometry, figures: Sequence[Figure], system: System) -> str:
    """Fin forward or back, why, and this board's own numbers."""
    boxes = measured.board.fittings.fin_boxes
    if not boxes:
        return "This board has no fin: its foil's mast does that work."
    board = measured.board
    box = min(boxes, key=lambda b: b.at.x(board.length, board.mast_x))
    trail = box.at.x(board.length, board.mast_x)
    straps = sorted(row.at.x(board.length, board.mast_x) for row in board.fittings.straps)
    centre = trail + box.fin.base / 2
    area = text(box.fin.area, Quantity.AREA, system)
    parts = []
    if len(straps) > 1:
        arm = 0.5 * (straps[0] + straps[-1]) - centre
        where, does = ("behind", "shortens") if arm > 0 else ("ahead of", "lengthens")
        share = 100 * _STEP / max(abs(arm), 0.05)
        parts.append(
            f"{box.name} works {text(abs(arm), Quantity.LENGTH, system)} {where} the middle of the stance: "
            f"{text(_STEP, Quantity.DEPTH, system)} forward {does} that arm by {share:.0f} %, and its hold against yaw "
            "with it."
        )
    else:
        parts.append(f"{box.name} stands {text(trail, Quantity.LENGTH, system)} from the tail, {area}.")
    yaw = next((f for f in figures if f.key == "yaw_inertia"), None)
    if yaw is not None and yaw.value == yaw.value:
        parts.append(f"The board's own yaw inertia is {text(yaw.value, Quantity.INERTIA, system)}.")
    advice = {
        "stiff": "Fin forward frees the tail, at the price of tracking.",
        "loose": "Fin back holds the tail and tracks, at the price of easy turns.",
        "wanders": "Fin back, or a fin with more area: the lift's centre moves aft, behind the feet.",
        "tail walks": "A smaller fin, or the mast base forward: the fin lifts the tail out when it carries too much.",
    }[felt]
    return f"{advice} {' '.join(parts)} (Common practice for the direction; the numbers are this board's.)"


def tank_suits(brief: Brief, figures: Figures, wind: float, logged: Sequence[Suits]) -> str:
    """What is computed for a wind with the board on the bench and the gear in use, and where the log parts from it."""
    least = figures.get("least_wind_up") or figures.get("least_wind")
    if least is None or least.value != least.value:
        return "The tank says nothing of least wind for this discipline."
    gear = brief.wing.name if brief.wing is not None else "its gear"
    told = f"The tank: {brief.title or 'the board on the bench'} with {gear} goes from {least.value / KNOT:.1f} kn"
    goes = wind >= least.value
    if abs(wind - least.value) <= least.band:
        return f"{told}; {wind / KNOT:.0f} kn is too close to call."
    rode = [s for s in logged if brief.wing is not None and brief.wing.name in s.words]
    if goes:
        return f"{told}: enough today." + ("" if rode else " The log has not seen it in such a wind.")
    return f"{told}: too little today." + (" The log parts from it: it was ridden in such a wind." if rode else "")
