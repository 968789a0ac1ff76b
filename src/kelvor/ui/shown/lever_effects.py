"""What levers do in every phase, for the cells beside them and in words."""

from __future__ import annotations

from typing import TYPE_CHECKING

from kelvor.core.base.figures import Better, Figure, Figures
from kelvor.core.base.units import System, number_text, text, unit_of
from kelvor.core.base.values import frozen
from kelvor.core.levers.lever import Lever

if TYPE_CHECKING:
    from kelvor.core.evaluation.jobs import LeverEffect
    from kelvor.core.ride.shared_phases import Phase


@frozen
class Does:
    """Effects of levers on the figures that head the phases."""

    phases: tuple[Phase, ...]
    figures: Figures
    effects: dict[str, LeverEffect]
    pinned_name: str = ""

    @property
    def heads(self) -> str:
        """Initials of the phases."""
        return "".join(phase.name[0] for phase in self.phases)

    def cells(self, lever: str) -> tuple[int, ...]:
        """One cell a phase; none while the lever is not counted."""
        effect = self.effects.get(lever)
        return (
            () if effect is None else tuple(cell(self.figures.get(p.headline), effect, p.headline) for p in self.phases)
        )

    def words(self, lever: Lever, system: System) -> str:
        """What a fair step does, phase by phase, with the band of the difference, and what is held meanwhile."""
        effect = self.effects.get(lever.key)
        if effect is None:
            return ""
        if effect.refused:
            return f"A fair step is refused: {effect.refused}"
        step = text(lever.step, lever.quantity, system)
        lines = [words for phase in self.phases if (words := self._phase(phase, effect, system))]
        held = f" Held meanwhile: {', '.join(effect.held)}." if effect.held else ""
        if not effect.changes or all(moved == 0.0 for _, moved, _ in effect.changes):
            return f"No computed effect on the ride.{held}"
        lead = "The next" if lever.choices else f"+{step}"
        return f"{lead}: {'; '.join(lines) if lines else 'nothing beyond the band'}.{held}"

    def _phase(self, phase: Phase, effect: LeverEffect, system: System) -> str:
        figure = self.figures.get(phase.headline)
        for key, moved, band in effect.changes:
            if figure is not None and key == phase.headline and abs(moved) > band:
                return f"{phase.name.lower()} {effect_words(figure, moved, band, system)}"
        return ""


def effect_words(figure: Figure, moved: float, band: float, system: System) -> str:
    """By how much a figure moves and which way, with the band of the difference; a share where it only ranks."""
    q = figure.definition.quantity
    word = figure.definition.more if moved > 0 else figure.definition.less
    if figure.definition.ranks and figure.value > 0:
        return f"{abs(moved) / figure.value * 100:.1f} % {word}"
    extra = next((e for e in range(3) if any(c in "123456789" for c in number_text(abs(moved), q, system, extra=e))), 2)
    unit = unit_of(q, system).sign
    joint = "" if unit in ("", "°") else " "
    size, wide = number_text(abs(moved), q, system, extra=extra), number_text(band, q, system, extra=extra)
    if not any(c in "123456789" for c in wide):
        wide = number_text(band, q, system, extra=extra + 1)
    return f"{size}{joint}{unit} {word} (±{wide})"


def cell(figure: Figure | None, effect: LeverEffect, key: str) -> int:
    """A lever's cell: 1 better, −1 worse, 2 more and −2 less where neither is better, 0 nothing beyond the band."""
    for name, moved, band in effect.changes:
        if figure is not None and name == key and abs(moved) > band:
            up = 1 if moved > 0 else -1
            better = {Better.MORE: 1, Better.LESS: -1}.get(figure.definition.better, 0)
            return up * better if better else 2 * up
    return 0
