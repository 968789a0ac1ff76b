"""Boards and briefs as JSON documents: written plainly, read with every field checked.

The published JSON Schemas in ``docs/schema`` are made from the same types.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, Generic, Literal, TypeVar, get_args, get_type_hints

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from kelvor.core.brief import Brief
from kelvor.core.errors import InputError, KelvorError
from kelvor.core.findings import fatal
from kelvor.core.fluids import TEMPERATURE_RANGE
from kelvor.core.plain import to_plain
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks import check_value
from kelvor.core.shape.geometry import geometry
from kelvor.core.shape.layers import Layer
from kelvor.exchange.files import read_text

BOARD_SCHEMA = "kelvor.board/1"
BRIEF_SCHEMA = "kelvor.brief/1"
_CONFIG = ConfigDict(extra="forbid", allow_inf_nan=False, strict=False)


class _BoardDocument(BaseModel):
    model_config = _CONFIG
    format: Literal["kelvor.board/1"] = Field(alias="schema")
    board: Board


class _BriefDocument(BaseModel):
    model_config = _CONFIG
    format: Literal["kelvor.brief/1"] = Field(alias="schema")
    brief: Brief


D = TypeVar("D", _BoardDocument, _BriefDocument)


class DocumentError(KelvorError, Generic[D]):
    """A document that cannot be used, with every problem and its place."""

    def __init__(self, where: str, problems: list[str]) -> None:
        self.problems = problems
        more = f" (and {len(problems) - 1} more: kelvor check lists them)" if len(problems) > 1 else ""
        super().__init__(f"{where}: {problems[0]}{more}")


def board_text(board: Board) -> str:
    """A board as a JSON document."""
    return json.dumps({"schema": BOARD_SCHEMA, "board": to_plain(board)}, indent=1, ensure_ascii=False) + "\n"


def brief_text(brief: Brief) -> str:
    """A brief as a JSON document."""
    return json.dumps({"schema": BRIEF_SCHEMA, "brief": to_plain(brief)}, indent=1, ensure_ascii=False) + "\n"


def read_board(path: Path) -> Board:
    """The board in a file.

    Raises
    ------
    InputError, DocumentError
        With what is wrong, where, and what would be accepted.
    """
    return parse_board(read_text(path), str(path))


def read_brief(path: Path) -> Brief:
    """The brief in a file; raises like :func:`read_board`."""
    return parse_brief(read_text(path), str(path))


def parse_board(text: str, where: str) -> Board:
    """The board in a JSON text: every field checked, and its lines make a board."""
    board = _parsed(_BoardDocument, BOARD_SCHEMA, text, where).board
    problems = fatal(check_value(board)) or geometry(board)
    if isinstance(problems, tuple):
        raise DocumentError(where, [f"{p.text}. {p.advice}".rstrip(". ") + "." for p in problems])
    return board


def parse_brief(text: str, where: str) -> Brief:
    """The brief in a JSON text: every field checked and in a sensible range."""
    brief = _parsed(_BriefDocument, BRIEF_SCHEMA, text, where).brief
    problems = brief_problems(brief)
    if problems:
        raise DocumentError(where, problems)
    return brief


def brief_problems(brief: Brief) -> list[str]:
    """What no rider, water or wind can be."""
    ranges: list[tuple[str, float, float, float, str]] = [
        ("rider mass", brief.rider.mass, 15, 250, "kg"), ("rider height", brief.rider.height, 0.8, 2.5, "m"),
        ("stance", brief.rider.stance, 0.1, 1.5, "m"), ("water temperature", brief.water.celsius, *TEMPERATURE_RANGE, "°C"),
        ("wind speed", brief.wind.speed, 0, 40, "m/s"), ("wind height", brief.wind.height, 0.3, 100, "m"),
        ("wing lift", brief.wing_lift, 0, 1500, "N"), ("ride height", brief.ride_height, 0, 2, "m"),
        ("pace", brief.pace, 0, 25, "m/s"), ("paddler's watts", brief.watts, 1, 1500, "W"), ("paddler's peak watts", brief.peak_watts, 1, 3000, "W"),
    ]  # fmt: skip
    for foil in brief.foils:
        ranges += [(f"mass of {foil.name}", foil.mass, 0, 30, "kg"), (f"mast of {foil.name}", foil.mast_length, 0, 1.6, "m"),
                   (f"volume of {foil.name}", foil.volume, 0, 0.05, "m³"), (f"span of {foil.name}", foil.span, 0, 3, "m"),
                   (f"area of {foil.name}", foil.area, 0, 1, "m²")]  # fmt: skip
    for wing in brief.wings:
        ranges += [(f"area of {wing.name}", wing.area, 0.3, 25, "m²"), (f"mass of {wing.name}", wing.mass, 0, 40, "kg")]
    return [f"A {name} of {value:g} {unit} cannot be. Give {low:g} to {high:g} {unit}."
            for name, value, low, high, unit in ranges if not low <= value <= high]  # fmt: skip


def _parsed(model: type[D], schema: str, text: str, where: str) -> D:
    try:
        data = json.loads(text, parse_constant=lambda name: name)
    except json.JSONDecodeError as error:
        short = error.msg.startswith("Unterminated") or error.pos >= len(text.rstrip()) - 6
        cut = "; the file seems to be cut off" if short else ""
        raise InputError(f"line {error.lineno}, column {error.colno}: this is not JSON ({error.msg}){cut}",
                         where=where, accepts="Give a document as Kelvor writes it") from None  # fmt: skip
    except RecursionError:
        raise InputError("the document is nested too deep", where=where) from None
    if not isinstance(data, dict) or "schema" not in data:
        raise InputError("this is no Kelvor document", where=where, accepts=f"It must name its schema, such as “{schema}”")
    found = data["schema"]
    if found != schema:
        kind = schema.rsplit("/", 1)[0]
        if isinstance(found, str) and found.startswith(kind + "/"):
            raise InputError(
                f"schema “{found[:40]}” is of another version", where=where, accepts=f"This Kelvor reads “{schema}”"
            )
        raise InputError(
            f"schema is “{str(found)[:40]}”", where=where, accepts=f"Here a document of schema “{schema}” is needed"
        )
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise DocumentError(where, _problems(error, data)) from None


def _problems(error: ValidationError, data: Any) -> list[str]:
    """One sentence a problem, with its path. Of a union only the alternative that the document names is told."""
    found: list[str] = []
    for item in error.errors(include_url=False):
        path, skip, at = "", False, data
        for key in item["loc"]:
            if isinstance(key, int):
                path += f"[{key}]"
                at = at[key] if isinstance(at, list) and key < len(at) else None
            elif isinstance(at, dict) and (key in at or item["type"] in ("missing", "missing_argument")) and not _is_type(key):
                path += f".{key}" if path else str(key)
                at = at.get(key)
            elif _is_type(key):
                skip = skip or not _names(at, str(key))
            else:
                path += f".{key}" if path else str(key)
        if not skip:
            found.append(f"{path}: {_sentence(item)}")
    return found or [f"layers: a layer is of no known kind. Known are {', '.join(_known_kinds())}."]


def _kinds(choice: type) -> tuple[str, ...]:
    """The kinds a layer class stands for, as its own `kind` field says."""
    return get_args(get_type_hints(choice)["kind"])


def _known_kinds() -> list[str]:
    return [kind for choice in get_args(Layer) for kind in _kinds(choice)]


def _is_type(key: str | int) -> bool:
    return key == "dataclass" or any(choice.__name__ == key for choice in get_args(Layer))


def _names(data: Any, choice: str) -> bool:
    if choice == "dataclass":
        return True
    found = next(kind for kind in get_args(Layer) if kind.__name__ == choice)
    return isinstance(data, dict) and data.get("kind", "cut_out") in _kinds(found)


def _sentence(item: Any) -> str:
    kind, given = item["type"], str(item.get("input"))[:40]
    if kind in ("missing", "missing_argument"):
        return "this field is missing."
    if kind in ("unexpected_keyword_argument", "extra_forbidden"):
        return "there is no such field. Take it out, or check its spelling."
    if kind.startswith("float") or kind == "finite_number":
        return f"“{given}” is not a number. Give a number in SI units."
    return f"“{given}” is not accepted. {item['msg']}."


def schemas() -> dict[str, dict[str, Any]]:
    """The published JSON Schemas by file name."""
    return {
        "board.schema.json": _BoardDocument.model_json_schema(by_alias=True),
        "brief.schema.json": _BriefDocument.model_json_schema(by_alias=True),
    }
