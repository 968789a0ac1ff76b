"""The command line: ``kelvor``, ``kelvor evaluate``, ``kelvor export``, ``kelvor check``, ``kelvor demo-boards``."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import NoReturn

from kelvor.core.errors import InputError, KelvorError

COMMANDS = ("evaluate", "export", "check", "demo-boards")


class _Parser(argparse.ArgumentParser):
    """Says what was wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise InputError(message, where=self.prog, accepts=f"See {self.prog} --help")


def main(argv: list[str] | None = None) -> int:
    """Run a command; 0 when done, 2 for the user's input with one line on standard error."""
    arguments = sys.argv[1:] if argv is None else argv
    try:
        if arguments and arguments[0] in COMMANDS:
            return _command(arguments)
        return _window(arguments)
    except KelvorError as error:
        print(f"kelvor: {' '.join(str(error).split())}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def _window(arguments: list[str]) -> int:
    parser = _Parser(prog="kelvor", description="A bench for board designers.",
                     epilog="Commands: evaluate, export, check, demo-boards; kelvor COMMAND --help tells more.")  # fmt: skip
    parser.add_argument("workshop", nargs="?", help="workshop file to open")
    parser.add_argument("--demo", action="store_true", help="open a fresh copy of the demo workshop")
    options = parser.parse_args(arguments)
    from kelvor.ui.application import run

    return run(Path(options.workshop) if options.workshop else None, demo=options.demo)


def _command(arguments: list[str]) -> int:
    parser = _Parser(prog="kelvor")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    evaluate = commands.add_parser("evaluate", help="print the figures of a board")
    evaluate.add_argument("board")
    evaluate.add_argument("--brief")
    evaluate.add_argument("--json", action="store_true")
    evaluate.add_argument("--units", choices=("metric", "inch"), default="metric")
    export = commands.add_parser("export", help="write a board to another format")
    export.add_argument("board")
    export.add_argument("--to", required=True, choices=("stl", "3mf", "obj", "dxf", "svg", "pdf", "csv", "json"))
    export.add_argument("--out", required=True)
    export.add_argument("--surface", choices=("finished", "core"), default="finished")
    export.add_argument("--resolution", choices=("coarse", "normal", "fine"), default="normal")
    export.add_argument("--paper", choices=("a4", "a3", "letter"), default="a4")
    check = commands.add_parser("check", help="list every problem of a file")
    check.add_argument("file")
    demo = commands.add_parser("demo-boards", help="write the demo boards and their briefs")
    demo.add_argument("--out", required=True)
    options = parser.parse_args(arguments)
    match options.command:
        case "evaluate":
            return _evaluate(options)
        case "export":
            return _export(options)
        case "check":
            return _check(Path(options.file))
        case _:
            return _demo_boards(Path(options.out))


def _evaluate(options: argparse.Namespace) -> int:
    from kelvor.core.brief import Brief
    from kelvor.core.evaluation import evaluate
    from kelvor.core.units import System
    from kelvor.exchange.documents import DocumentError, read_board, read_brief
    from kelvor.exchange.evaluations import evaluation_document, evaluation_table

    board = read_board(Path(options.board))
    brief = read_brief(Path(options.brief)) if options.brief else Brief()
    result = evaluate(board, brief)
    if isinstance(result, tuple):
        raise DocumentError(options.board, [f.text for f in result])
    if options.json:
        print(json.dumps(evaluation_document(result), indent=1, ensure_ascii=False))
    else:
        print(evaluation_table(result, System(options.units)))
    return 0


def _export(options: argparse.Namespace) -> int:
    from kelvor.exchange.documents import read_board
    from kelvor.exchange.export import RESOLUTIONS, export

    board = read_board(Path(options.board))
    export(board, options.to, Path(options.out), options.surface, RESOLUTIONS[options.resolution], options.paper)
    return 0


def _check(path: Path) -> int:
    from kelvor.exchange.checking import problems

    found = problems(path)
    for problem in found:
        print(problem, file=sys.stderr)
    if not found:
        print(f"{path}: in order")
    return 2 if found else 0


def _demo_boards(folder: Path) -> int:
    from kelvor.demo.boards import demo_boards
    from kelvor.exchange.documents import board_text, brief_text
    from kelvor.exchange.files import reason, written_whole

    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(reason(error), where=str(folder), accepts="Give a folder") from None
    for name, board, brief in demo_boards():
        for path, text in ((folder / f"{name}.json", board_text(board)), (folder / f"{name}.brief.json", brief_text(brief))):
            with written_whole(path) as temporary:
                temporary.write_text(text, encoding="utf-8")
        print(folder / f"{name}.json")
    return 0
