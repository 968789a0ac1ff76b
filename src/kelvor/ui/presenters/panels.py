"""What the panels show: plain rows and tiles."""

from __future__ import annotations

from dataclasses import dataclass

from kelvor.core.evaluation import Evaluation, Live
from kelvor.core.figures import Figure, Figures, by_key
from kelvor.core.findings import Finding, Severity
from kelvor.core.seek.lever import Lever
from kelvor.core.seek.levers import GROUPS, levers, levers_at
from kelvor.core.shape.board import Board
from kelvor.core.units import Quantity, System, number_text, text
from kelvor.core.verdicts import Outcome, judge
from kelvor.ui.presenters.wording import band_words, difference_words, verdict_words

LEDGER = (
    "volume", "core_volume", "volume_per_rider_mass", "reserve_volume", "planform_area", "length_times_width", "area_per_rider_mass",
    "width_1ft_tail", "width_1ft_nose", "width_30cm_tail", "width_30cm_nose", "tail_area_behind_foot",
    "width", "thickness", "fill_factor", "length_over_width", "wide_point", "outline_straight_run",
    "nose_rocker", "tail_rocker", "nose_rocker_mid", "tail_rocker_mid", "nose_rocker_rail", "tail_rocker_rail",
    "keel_flat_run", "mid_flat_run", "rail_flat_run", "box_angle", "deck_angle_front", "deck_angle_back",
    "standing_width_front", "standing_width_back", "stance", "fin_area", "fin_alignment", "fin_stagger",
    "volume_centre_x", "caliper_25", "caliper_50", "mass", "mass_per_volume", "mass_centre_x",
    "mass_to_lift", "feet_to_lift", "feet_for_balance", "yaw_inertia", "yaw_inertia_with_foil", "roll_inertia", "pitch_inertia",
    "flat_bottom_area", "track_travel",
    "lean_before_touch", "tail_clearance", "tail_touch_pitch", "nose_touch_pitch", "nose_touch_pitch_flying", "touch_patch_v", "touch_patch_width",
    "float_deck_depth", "float_knee_place", "float_knee_window", "float_roll_held", "float_rider_immersed",
    "float_standing_deck_depth", "float_sitting_deck_depth", "float_trim", "float_alone_trim", "float_roll_stiffness", "float_knee_moment",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Row:
    """A row of a list: a heading when `key` is empty."""

    key: str
    label: str
    value: str = ""
    aside: str = ""
    struck: bool = False
    mark: str = ""
    tip: str = ""


@dataclass(frozen=True, slots=True)
class Tile:
    """A tile of the ride strip."""

    key: str
    name: str
    headline: str
    difference: str
    lines: tuple[str, ...]
    verdict: str
    outcome: str
    stale: bool
    question: str = ""


def ledger_rows(figures: Figures, pinned: Figures, system: System, remarks: dict[str, str]) -> list[Row]:
    """The ledger: figures now, and what they mean against the pinned step."""
    rows = []
    for key in LEDGER:
        figure = figures.get(key)
        if figure is None:
            continue
        q = figure.definition.quantity
        shown = text(figure.value, q, system) if figure.exists else "–"
        rows.append(Row(key, figure.definition.label, shown, difference_words(figure, pinned.get(key), system),
                        struck=not figure.valid, mark="!" if key in remarks else "", tip=remarks.get(key, figure.note)))  # fmt: skip
    return rows


_HEADLINES: dict[str, tuple[str, str]] = {
    "float_deck_depth": ("deck {} under", "deck {} above"),
    "flat_bottom_area": ("{} on the flat", ""),
    "tail_clearance": ("tail clears {}", ""),
    "yaw_inertia_with_foil": ("yaw {}", ""),
    "nose_touch_pitch": ("nose at {}", ""),
    "reserve_volume": ("{} to spare", "{} short"),
    "float_roll_stiffness": ("rights {}", "tips {}"),
    "tail_area_behind_foot": ("{} behind foot", ""),
    "outline_straight_run": ("edge straight {}", ""),
    "rail_flat_run": ("rail flat {}", ""),
    "keel_flat_run": ("keel flat {}", ""),
    "nose_rocker": ("nose up {}", ""),
    "deck_angle_front": ("deck at {}", ""),
    "width_1ft_tail": ("{} at one foot", ""),
    "standing_width_back": ("{} to stand on", ""),
    "length_over_width": ("{} × its width", ""),
    "yaw_inertia": ("yaw {}", ""),
    "mass": ("{}", ""),
}
"""Headlines of the ride strip: for a value, and for a negative one where that reads otherwise."""
_SHORT = {
    "float_knee_window": "knees {} either way keep it level", "float_roll_held": "you hold {} of roll at 5°",
    "keel_flat_run": "keel flat {}, gap 0.5 mm", "float_rider_immersed": "{} of you under water, kneeling",
    "tail_touch_pitch": "flying, tail touches at {} pitch", "feet_for_balance": "feet balance {} ahead of lift",
    "mass_to_lift": "mass {} ahead of lift", "lean_before_touch": "leans {}, rail to water",
    "touch_patch_v": "V {} where it touches first", "touch_patch_width": "over a {} wide bottom",
    "rail_flat_run": "rail flat {}, gap 0.5 mm", "mid_flat_run": "mid flat {}, gap 0.5 mm",
    "outline_straight_run": "edge straight over {}", "width_1ft_tail": "{} wide one foot off tail",
    "width_1ft_nose": "{} wide one foot off nose", "width": "{} wide", "planform_area": "{} planform",
    "tail_area_behind_foot": "{} of tail behind the foot", "standing_width_front": "{} of deck at the front foot",
    "standing_width_back": "{} of deck at the back foot", "float_standing_deck_depth": "standing, deck {} under",
    "float_deck_depth": "kneeling, deck {} under", "float_roll_stiffness": "rights {} at rest", "reserve_volume": "{} to spare afloat",
    "nose_rocker": "nose {} up at the keel", "nose_rocker_rail": "nose {} up at the rail", "tail_rocker": "tail {} up",
    "volume_centre_x": "volume {} from the tail", "fin_area": "{} of fin", "box_angle": "box {} off the base line",
    "deck_angle_front": "deck at {} under the front foot", "stance": "stance {}", "mass": "{} as built", "caliper_25": "{} thick 25 mm in",
    "caliper_50": "{} thick 50 mm in", "yaw_inertia": "{} yaw inertia", "pitch_inertia": "{} pitch inertia",
    "yaw_inertia_with_foil": "{} yaw, with foil", "tail_clearance": "tail clears {}", "nose_touch_pitch": "nose touches at {}",
    "flat_bottom_area": "{} on the flat",
}  # fmt: skip
_TURNED = {" ahead of": " aft of", "rights ": "tips ", " under": " above", " to spare": " short", " up": " down"}
"""How a negative value reads."""
_RATIOS = ("yaw_inertia_with_foil", "yaw_inertia")
"""Figures that head a phase as a ratio to the pinned step: for ranking only."""


def tiles(evaluation: Evaluation, live: Live, pinned: Figures, pinned_name: str, system: System) -> list[Tile]:
    """The ride strip. Figures of the live path are the newest; float may lag behind and is then marked."""
    stale = evaluation.live is not live
    figures = {**evaluation.figures, **by_key(live.figures)}
    found = []
    for result in evaluation.phases:
        phase = result.phase
        head = figures[phase.headline]
        verdict = verdict_words(result.speaks, _quantity(result.speaks.target.figure if result.speaks else "", figures), system)
        outcome = result.speaks.outcome if result.speaks else None
        if stale and result.speaks is not None and not result.speaks.target.figure.startswith("float"):
            fresh = judge(result.speaks.target, figures, live.brief)
            verdict, outcome = verdict_words(fresh, _quantity(fresh.target.figure, figures), system), fresh.outcome
        found.append(Tile(
            phase.key, phase.name, _headline(head, pinned, pinned_name, system), _difference(head, pinned, system),
            tuple(_line(figures[key], system) for key in phase.supporting if key in figures),
            verdict or "no target", (outcome or Outcome.UNKNOWN).value if result.speaks else "none",
            stale and phase.headline.startswith("float"),
                phase.question,
        ))  # fmt: skip
    return found


def _difference(figure: Figure, pinned: Figures, system: System) -> str:
    """The headline's difference; where the headline is a ratio already, only what it means."""
    words = difference_words(figure, pinned.get(figure.key), system)
    return words.partition(" ")[2] if figure.key in _RATIOS and words not in ("", "same") else words


def _quantity(key: str, figures: Figures) -> Quantity:
    return figures[key].definition.quantity if key in figures else Quantity.RATIO


def _headline(figure: Figure, pinned: Figures, pinned_name: str, system: System) -> str:
    if not figure.exists:
        return "not for this board"
    known = pinned.get(figure.key)
    if figure.key in _RATIOS and known is not None and known.exists and known.value > 0 and pinned_name:
        return f"yaw {number_text(figure.value / known.value, Quantity.RATIO, system)} × {pinned_name}"
    up, down = _HEADLINES[figure.key]
    coarse = -1 if figure.key.startswith("float") else 0  # a band of centimetres bears no millimetres
    shown = text(abs(figure.value) if down else figure.value, figure.definition.quantity, system, extra=coarse)
    return (down if down and figure.value < 0 else up).format(shown)


def _line(figure: Figure, system: System) -> str:
    if not figure.exists:
        return f"{figure.definition.label}: {figure.note or 'not for this board'}"
    q = figure.definition.quantity
    value = figure.value / 2 if figure.key == "float_knee_window" else figure.value
    words = _SHORT[figure.key]
    if figure.key == "float_rider_immersed":
        return words.format(f"{value * 100:.0f} %")
    if figure.key == "float_roll_held" and value <= 0:
        return "comes back by itself in roll"
    turn = next((t for t in _TURNED if t in words), "")
    if value < 0 and turn:
        words, value = words.replace(turn, _TURNED[turn]), -value
    return words.format(text(value, q, system))


def lever_rows(
    live: Live, system: System, locked: frozenset[str], station: float | None = None
) -> tuple[list[Row], dict[str, Lever]]:
    """Levers in groups, each with its value, those of the station cursor among them; and the levers by key."""
    rows: list[Row] = []
    board, figures = live.board, by_key(live.figures)
    whole = levers(board)
    here = levers_at(station) if station is not None else ()
    read = {} if station is None else _read_at(live, station)
    found = {lever.key: lever for lever in sorted((*whole, *here), key=lambda lever: GROUPS.index(lever.group))}
    group = ""
    for lever in found.values():
        if lever.group != group:
            group = lever.group
            rows.append(Row("", group))
        shown = lever_value(lever, board, system, figures, read.get(lever.key))
        rows.append(Row(lever.key, lever.label, shown, mark="lock" if lever.key in locked else "", tip=lever.explains))
    return rows, found


def _read_at(live: Live, station: float) -> dict[str, float]:
    """Heights at the cursor off the geometry that is there already."""
    measured = live.geometry
    lines = {"at.keel": measured.keel_line, "at.mid": measured.mid_line, "at.rail": measured.rail_line}
    return {key: measured.at(line, station) for key, line in lines.items()}


def lever_value(lever: Lever, board: Board, system: System, figures: Figures, read: float | None = None) -> str:
    """A lever's value with its unit, `read` already or off its figure where there is one."""
    value = read if read is not None else figures[lever.figure].value if lever.figure in figures else lever.read(board)
    if lever.key == "rails.apex":
        below = round(value * 100)
        return f"{100 - below}/{below}"
    return text(value, lever.quantity, system)


def finding_remark(findings: tuple[Finding, ...]) -> str:
    """What to look at: the first warning in full, and how many more there are."""
    warned = [f for f in findings if f.severity is Severity.WARNING]
    if not warned:
        return ""
    more = f"  (and {len(warned) - 1} more, marked on the profile)" if len(warned) > 1 else ""
    return f"{warned[0].text}. {warned[0].advice}{more}"


def why(figure: Figure, system: System, remark: str = "") -> list[tuple[str, str]]:
    """Why a figure is what it is: (heading, words) pairs."""
    d = figure.definition
    shown = text(figure.value, d.quantity, system, extra=1) if figure.exists else "–"
    lines = [(d.label, f"{shown}, {band_words(figure, system)}")]
    if not figure.valid:
        lines.append(("Not valid here", figure.note or d.method.limits))
    elif figure.note:
        lines.append(("Condition", figure.note))
    lines += [("Method", d.method.name), ("Source", d.method.source)]
    if d.method.limits:
        lines.append(("Holds for", d.method.limits))
    if figure.inputs:
        lines.append(("From", "; ".join(f"{name} {value}" for name, value in figure.inputs)))
    if remark:
        lines.append(("Check value", remark))
    return lines
