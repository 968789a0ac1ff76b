"""Boards, briefs and class rules as JSON documents: written plainly, read with every field checked.

The published JSON Schemas in ``docs/schema`` are made from the same types.
"""

from __future__ import annotations

import dataclasses
import json
from pathlib import Path
from typing import Any, Generic, Literal, TypeVar, get_args, get_type_hints

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.findings import fatal
from kelvor.core.base.limits import Along, Limit, Many, Text, declared, document_unit, field_problems
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.snapshot import from_plain, to_plain
from kelvor.core.brief.brief import Brief
from kelvor.core.build.materials.layup import cloth_plan
from kelvor.core.build.materials.table import HANDBOOK, MaterialTable
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.family.class_rules import check_rule
from kelvor.core.register.kinds.family import ClassRule
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.checks import check_value
from kelvor.core.shape.parts.layers import Layer
from kelvor.core.shape.surface.geometry import geometry
from kelvor.files import read_text

BOARD_SCHEMA = "kelvor.board/1"
BRIEF_SCHEMA = "kelvor.brief/1"
RULE_SCHEMA = "kelvor.rule/1"
_CONFIG = ConfigDict(extra="forbid", allow_inf_nan=False, strict=True)


class _BoardDocument(BaseModel):
    model_config = _CONFIG
    format: Literal["kelvor.board/1"] = Field(alias="schema")
    board: Board


class _BriefDocument(BaseModel):
    model_config = _CONFIG
    format: Literal["kelvor.brief/1"] = Field(alias="schema")
    brief: Brief


class _RuleDocument(BaseModel):
    model_config = _CONFIG
    format: Literal["kelvor.rule/1"] = Field(alias="schema")
    rule: ClassRule


D = TypeVar("D", _BoardDocument, _BriefDocument, _RuleDocument)


class DocumentError(KelvorError, Generic[D]):
    """A document that cannot be used, with every problem and its place."""

    def __init__(self, where: str, problems: list[str]) -> None:
        self.problems = problems
        more = f" (and {len(problems) - 1} more: kelvor check lists them)" if len(problems) > 1 else ""
        super().__init__(f"{one_line(where)}: {one_line(problems[0])}{more}")


def board_text(board: Board) -> str:
    """A board as a JSON document."""
    return json.dumps({"schema": BOARD_SCHEMA, "board": to_plain(board)}, indent=1, ensure_ascii=False) + "\n"


def brief_text(brief: Brief) -> str:
    """A brief as a JSON document."""
    return json.dumps({"schema": BRIEF_SCHEMA, "brief": to_plain(brief)}, indent=1, ensure_ascii=False) + "\n"


def rule_text(rule: ClassRule) -> str:
    """A class rule as a JSON document."""
    return json.dumps({"schema": RULE_SCHEMA, "rule": to_plain(rule)}, indent=1, ensure_ascii=False) + "\n"


def board_of_text(text: str) -> Board:
    """A board from what :func:`board_text` wrote a moment ago, in a process of our own: trusted, so quick."""
    return from_plain(Board, json.loads(text)["board"])


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


def read_rule(path: Path) -> ClassRule:
    """The class rule in a file; raises like :func:`read_board`."""
    return parse_rule(read_text(path), str(path))


def parse_rule(text: str, where: str) -> ClassRule:
    """The class rule in a JSON text: every field checked, and that it can be a rule."""
    rule = _parsed(_RuleDocument, RULE_SCHEMA, text, where).rule
    _refuse(where, [p.sentence() for p in field_problems(rule, "rule")])
    try:
        check_rule(rule)
    except InputError as error:
        raise InputError(error.what, where=f"{where}, {error.where}", accepts=error.accepts) from None
    return rule


def parse_board(text: str, where: str, table: MaterialTable | None = HANDBOOK) -> Board:
    """The board in a JSON text: every field checked, of materials that `table` (if any) knows, and its lines make a
    board.
    """
    board = _parsed(_BoardDocument, BOARD_SCHEMA, text, where).board
    _refuse(where, [p.sentence() for p in field_problems(board, "board")])
    found = (
        fatal(check_value(board))
        or (cloth_plan(board.construction, table) if board.construction and table else ())
        or geometry(board)
    )
    if isinstance(found, (tuple, list)):
        _refuse(where, [f"{p.text}. {p.advice}".rstrip(". ") + "." for p in found])
    return board


def parse_brief(text: str, where: str) -> Brief:
    """The brief in a JSON text: every field checked and in a sensible range."""
    brief = _parsed(_BriefDocument, BRIEF_SCHEMA, text, where).brief
    _refuse(
        where,
        [p.sentence() for p in field_problems(brief, "brief")]
        + [
            f"brief.targets[{i}].figure: there is no figure “{one_line(target.figure, 60)}”. Give one that kelvor "
            f"evaluate --json names."
            for i, target in enumerate(brief.targets)
            if target.figure not in BY_KEY
        ],
    )
    return brief


def _refuse(where: str, found: list[str]) -> None:
    if found:
        raise DocumentError(where, found)


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    """An object whose keys are each given once."""
    found = dict(pairs)
    if len(found) < len(pairs):
        twice = next(key for i, (key, _) in enumerate(pairs) if key in [k for k, _ in pairs[:i]])
        raise InputError(f"the field “{twice}” is given twice", accepts="Keep one of them")
    return found


def _parsed(model: type[D], schema: str, text: str, where: str) -> D:
    try:
        data = json.loads(text, parse_constant=lambda name: name, object_pairs_hook=_once)
    except InputError as error:
        raise InputError(error.what, where=where, accepts=error.accepts) from None
    except json.JSONDecodeError as error:
        short = error.msg.startswith("Unterminated") or error.pos >= len(text.rstrip()) - 6
        cut = "; the file seems to be cut off" if short else ""
        raise InputError(
            f"line {error.lineno}, column {error.colno}: this is not JSON ({error.msg}){cut}",
            where=where,
            accepts="Give a document as Kelvor writes it",
        ) from None
    except RecursionError:
        raise InputError(
            "the document is nested too deep", where=where, accepts="Give a document as Kelvor writes it"
        ) from None
    except ValueError:  # whole numbers of thousands of digits
        raise InputError(
            "a number in it has too many digits", where=where, accepts="Give numbers in SI units"
        ) from None
    try:
        json.dumps(data, ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError:
        raise InputError("a text in it holds half of a sign", where=where, accepts="Give text in UTF-8") from None
    if not isinstance(data, dict) or "schema" not in data:
        raise InputError(
            "this is no Kelvor document", where=where, accepts=f"It must name its schema, such as “{schema}”"
        )
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
        return model.model_validate_json(text)
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
            elif (
                isinstance(at, dict)
                and (key in at or item["type"] in ("missing", "missing_argument"))
                and not _is_type(key)
            ):
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
    kind, given = item["type"], one_line(str(item.get("input"))[:60], 40)
    if kind in ("missing", "missing_argument"):
        return "this field is missing."
    if kind in ("unexpected_keyword_argument", "extra_forbidden"):
        return "there is no such field. Take it out, or check its spelling."
    if kind.startswith("float") or kind == "finite_number":
        return f"“{given}” is not a number. Give a number in SI units."
    if kind.startswith("int"):
        return f"“{given}” is not a whole number. Give one."
    if kind.startswith("literal"):
        return f"“{given}” is not known. Known are {item['ctx']['expected']}."
    words = next((words for start, words in _PLAIN.items() if kind.startswith(start)), "what the schema says")
    return f"“{given}” is not accepted. Give {words}."


_PLAIN = {
    "string": "a text",
    "bool": "true or false",
    "tuple": "a list",
    "dataclass": "an object with the schema's fields",
    "dict": "an object with the schema's fields",
    "too_long": "fewer entries",
    "too_short": "more entries",
}
"""What would be accepted, by the beginning of pydantic's name of the fault."""


def schemas() -> dict[str, dict[str, Any]]:
    """The published JSON Schemas by file name."""
    found = {
        "board.schema.json": _BoardDocument.model_json_schema(by_alias=True),
        "brief.schema.json": _BriefDocument.model_json_schema(by_alias=True),
        "rule.schema.json": _RuleDocument.model_json_schema(by_alias=True),
    }
    for schema, root in zip(found.values(), (Board, Brief, ClassRule), strict=True):
        for kind in _dataclasses(root):
            for name, entry in schema["$defs"].get(kind.__name__, {}).get("properties", {}).items():
                _declare(entry, declared(kind, name))
    return found


def _dataclasses(kind: Any) -> set[type]:
    """A dataclass and all that its fields hold."""
    if dataclasses.is_dataclass(kind) and isinstance(kind, type):
        return {kind}.union(*(_dataclasses(hint) for hint in get_type_hints(kind).values()))
    return set().union(*(_dataclasses(part) for part in get_args(kind)))


def _declare(entry: dict[str, Any], limits: tuple[Any, ...]) -> None:
    """Write a field's declared limits into its part of the schema."""
    for limit in limits:
        match limit:
            case Limit():
                entry |= {"minimum": limit.low, "maximum": limit.high}
            case Text():
                entry |= {"minLength": limit.least, "maxLength": limit.longest}
            case Many():
                entry |= {"minItems": limit.least, "maxItems": limit.most}
            case Along(value):
                entry |= {"values": {"minimum": value.low, "maximum": value.high}}
        measured = limit.value if isinstance(limit, Along) else limit
        if isinstance(measured, Limit) and document_unit(measured):
            entry["unit"] = document_unit(measured)
