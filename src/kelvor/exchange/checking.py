"""Checking any of our files: every problem, each with its place."""

from __future__ import annotations

import json
from pathlib import Path

from kelvor.core.base.errors import KelvorError
from kelvor.core.base.plain_text import one_line
from kelvor.exchange.documents import (
    BRIEF_SCHEMA,
    RULE_SCHEMA,
    DocumentError,
    parse_board,
    parse_brief,
    parse_rule,
)
from kelvor.exchange.formats import READERS
from kelvor.files import SQLITE_HEADER, read_text
from kelvor.workshop.opening import WAIT
from kelvor.workshop.soundness import examined


def cleaned_text_lines(path: Path) -> list[str]:
    """One line for every text of a workshop that is read without signs that cannot be shown, or cut short: no
    problem, older Kelvors kept what was typed. Empty for any other file.
    """
    try:
        return [one_line(f"{path}: {found}") for found in examined(path, WAIT).cleaned]
    except KelvorError:
        return []


def problem_lines(path: Path) -> list[str]:
    """One line a problem; empty when the file is in order."""
    try:
        with open(path, "rb") as file:
            is_database = file.read(16) == SQLITE_HEADER
    except (OSError, ValueError):
        is_database = False
    try:
        if is_database or path.suffix == ".kelvor":
            return [one_line(f"{path}: {damage}") for damage in examined(path, WAIT).damages]
        reader = next(
            (r for r in READERS.values() if path.suffix.lower() in r.endings and path.suffix.lower() != ".json"), None
        )
        if reader is not None:  # a drawing or a table: in order where it can be read
            reader.read(path, False, lambda words: None)
            return []
        text = read_text(path)
        schema = _schema(text)
        if schema == BRIEF_SCHEMA:
            parse_brief(text, str(path))
        elif schema == RULE_SCHEMA:
            parse_rule(text, str(path))
        else:
            parse_board(text, str(path))
    except DocumentError as error:
        return [f"{path}: {problem}" for problem in error.problems]
    except KelvorError as error:
        return [str(error)]
    return []


def _schema(text: str) -> str | None:
    try:
        data = json.loads(text)
    except (ValueError, RecursionError):
        return None
    found = data.get("schema") if isinstance(data, dict) else None
    return found if isinstance(found, str) else None
