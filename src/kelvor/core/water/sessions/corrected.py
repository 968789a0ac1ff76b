"""Figures as a workshop's own boards have them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from kelvor.core.base.figures import Figures
from kelvor.core.water.calibration import Correction, Kind

CORRECTED: dict[Kind, tuple[str, ...]] = {
    "mass": ("mass",),
    "least wind": ("least_wind", "least_wind_up", "least_wind_pumped"),
    "speed": ("run_speed", "upwind_vmg", "downwind_vmg", "paddle_speed"),
    "watts": ("paddle_watts_2", "paddle_watts_3", "paddle_watts_4", "paddle_watts_5", "pace_watts"),
}
"""Which figures a kind of correction bears on."""
BY_OURS = "By your own boards"


def correction_reason(correction: Correction) -> str:
    """What a correction rests on, in a sentence."""
    names = ", ".join(name for name, _ in correction.boards[:6])
    return f"{BY_OURS}: × {correction.factor:.3f} from {names}. {correction.why}"


def applied(figures: Figures, corrections: Mapping[Kind, Correction]) -> Figures:
    """Figures with every correction that is used; each says so, and what it was before."""
    found = dict(figures)
    for kind, correction in corrections.items():
        if not correction.used:
            continue
        for key in CORRECTED[kind]:
            figure = found.get(key)
            if figure is None or figure.value != figure.value:
                continue
            value = figure.value * correction.factor
            band = max(correction.band * abs(value), 0.0)
            was = ("computed, plain", f"{figure.value:.6g} {figure.definition.si}")
            note = f"{correction_reason(correction)} {figure.note}".strip()
            found[key] = replace(
                figure,
                value=value,
                band=band,
                band_of_difference=figure.band_of_difference * correction.factor,
                note=note,
                inputs=(*figure.inputs, was),
            )
    return found
