"""An evaluation as a JSON document and as a table of text."""

from __future__ import annotations

import math
from typing import Any

from kelvor.core.base.figures import Figure, band_words
from kelvor.core.base.findings import Finding
from kelvor.core.base.snapshot import to_plain
from kelvor.core.base.units import System, said_in, text
from kelvor.core.evaluation.evaluation import Evaluation

EVALUATION_SCHEMA = "kelvor.evaluation/1"


def evaluation_document(evaluation: Evaluation) -> dict[str, Any]:
    """Figures, phases and findings in SI, as in ``docs/file-format.md``."""
    return {
        "schema": EVALUATION_SCHEMA,
        "board": {"name": evaluation.live.board.name, "length": evaluation.live.board.length},
        "figures": {key: _figure(f) for key, f in evaluation.figures.items()},
        "phases": [
            {
                "phase": p.phase.key,
                "figures": list(p.phase.figures),
                "verdict": p.outcome.value if p.outcome else None,
                "not_reached": [m.words for m in p.missed],
            }
            for p in evaluation.phases
        ],
        "targets": [
            {
                "figure": v.target.figure,
                "relation": v.target.relation,
                "asked": v.asked,
                "wish": v.target.wish,
                "verdict": v.outcome.value,
                "margin": v.margin,
                "band": v.band,
            }
            for v in evaluation.verdicts
        ],
        "hints": [{"figure": h.figure, "text": h.text} for h in evaluation.hints],
        "findings": [finding_document(f) for f in evaluation.findings],
    }


def finding_document(finding: Finding) -> dict[str, Any]:
    """One finding."""
    plain = to_plain(finding)
    assert isinstance(plain, dict)
    return plain


def _figure(figure: Figure) -> dict[str, Any]:
    d = figure.definition
    return {
        "value": figure.value if math.isfinite(figure.value) else None,
        "unit": d.si,
        "band": figure.band,
        "method": f"{d.method.name} ({d.method.source})",
        "valid": figure.valid,
        "note": figure.note,
        "label": d.label,
        "inputs": dict(figure.inputs),
        "holds_for": d.method.limits,
        "ranks_only": d.ranks,
        "origin": figure.origin,
        "band_by_coefficient": dict(figure.moves),
    }


def evaluation_table(evaluation: Evaluation, system: System) -> str:
    """Figures in the trade's units, a line each."""
    lines = [evaluation.live.board.name]
    for f in evaluation.figures.values():
        shown = text(f.value, f.definition.quantity, system) if f.exists else "–"
        note = f"  ({said_in(f.note, system)})" if f.note else ""
        ranked = "  [ranks only: compare with another board]" if f.definition.ranks else ""
        struck = "" if f.valid else "  [not valid here]"
        band = band_words(f, system, waiting="not counted")
        lines.append(f"  {f.definition.label:<48} {shown:>14}  {band}{note}{ranked}{struck}")
    lines += [f"  {p.phase.name}: {said_in(p.words, system)}" for p in evaluation.phases]
    lines += [said_in(f"  {f.severity.value}: {f.text}. {f.advice}", system) for f in evaluation.findings]
    return "\n".join(lines)
