"""The command line: ``kelvor`` opens the window; :data:`COMMANDS` do their work without it."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.plain_text import one_line

if TYPE_CHECKING:
    from kelvor.core.base.mill import MillStock
    from kelvor.core.brief.brief import Brief
    from kelvor.core.shape.board import Board

COMMANDS = (
    "evaluate",
    "export",
    "read",
    "check",
    "rescue",
    "list",
    "show",
    "compare",
    "stamp",
    "mill",
    "seek",
    "demo-boards",
    "install",
    "uninstall",
)
STANDARD_INPUT = "-"


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
        print(f"kelvor: {one_line(str(error), 2000)}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0
    except MemoryError:
        print("kelvor: this needs more memory than there is. Give a smaller file.", file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        print("kelvor: stopped.", file=sys.stderr)
        return 2


def _window(arguments: list[str]) -> int:
    parser = _Parser(
        prog="kelvor",
        description="A bench for board designers.",
        epilog=f"Commands: {', '.join(COMMANDS)}; kelvor COMMAND --help tells more.",
    )
    parser.add_argument("workshop", nargs="?", help="workshop file to open")
    parser.add_argument("--demo", action="store_true", help="open a fresh copy of the demo workshop")
    options = parser.parse_args(arguments)
    from kelvor.ui.window.application import run_application

    return run_application(Path(options.workshop) if options.workshop else None, demo=options.demo)


def _command(arguments: list[str]) -> int:
    options = _parser().parse_args(arguments)
    doings: dict[str, Callable[[argparse.Namespace], int]] = {
        "evaluate": _evaluate,
        "export": _export,
        "read": _read,
        "check": lambda o: _check(Path(o.file)),
        "rescue": lambda o: _rescue(Path(o.file), Path(o.out)),
        "list": _list,
        "show": _show,
        "compare": _compare,
        "stamp": lambda o: _stamp(o.code, Path(o.file)),
        "mill": _mill,
        "seek": _seek,
        "demo-boards": lambda o: _demo_boards(Path(o.out), over=o.force),
        "install": lambda o: _install(o.exec),
        "uninstall": lambda o: _uninstall(),
    }
    return doings[options.command](options)


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="kelvor")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    _board_commands(commands)
    _workshop_commands(commands)
    return parser


def _board_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    """What is done with documents of boards."""
    from kelvor.exchange.formats import PAPERS, READERS, RESOLUTIONS, SURFACES, WRITERS

    evaluate = commands.add_parser("evaluate", help="print the figures of a board")
    evaluate.add_argument("board")
    evaluate.add_argument("--brief")
    evaluate.add_argument("--json", action="store_true")
    evaluate.add_argument(
        "--bands", action="store_true", help="count what every coefficient leaves open in the bands: some seconds"
    )
    evaluate.add_argument("--units", choices=("metric", "inch"), default="metric")
    export = commands.add_parser("export", help="write a board to another format")
    export.add_argument("board", help="board document; - reads it from the standard input")
    export.add_argument(
        "--to",
        required=True,
        choices=tuple(WRITERS),
        help="; ".join(f"{writer.key}: {writer.words}" for writer in WRITERS.values()),
    )
    export.add_argument("--out", required=True)
    export.add_argument("--surface", choices=tuple(SURFACES), default="finished")
    export.add_argument("--resolution", choices=tuple(RESOLUTIONS), default="normal")
    export.add_argument("--paper", choices=tuple(PAPERS), default="a4")
    export.add_argument("--step", type=int, default=0, help="the version, for the stamp")
    export.add_argument("--serial", default="", help="the made board's serial, for the stamp")
    export.add_argument(
        "--block", type=float, nargs=3, metavar=("LENGTH", "WIDTH", "THICKNESS"), help="it is cut from, in mm"
    )
    reader = commands.add_parser("read", help="read a board, an offset table or an outline, and print it as JSON")
    reader.add_argument("kind", choices=tuple(READERS))
    reader.add_argument("file")
    reader.add_argument("--nose-first", action="store_true", help="the nose of the outline lies at the left")
    reader.add_argument("--progress", action="store_true", help="say on standard error how far it is")
    comparer = commands.add_parser(
        "compare", help="tell what of a board differs from another, largest first by what would be felt"
    )
    comparer.add_argument("board", help="the reference, a board document")
    comparer.add_argument("other")
    comparer.add_argument("--brief")
    comparer.add_argument("--datum", default="tail", help="where they are laid together: tail, nose, foil mast, fin, …")
    comparer.add_argument("--json", action="store_true")
    comparer.add_argument("--to", choices=("pdf", "svg"), help="write the page to hand over, or the overlay alone")
    comparer.add_argument("--out")
    making, seeking = _make_and_seek(commands)
    demo = commands.add_parser("demo-boards", help="write the demo boards and their briefs")
    demo.add_argument("--out", required=True)
    for writer in (export, demo, comparer, making, seeking):
        writer.add_argument("--force", action="store_true", help="write over files that are there")


def _make_and_seek(commands: argparse._SubParsersAction[_Parser]) -> tuple[_Parser, _Parser]:
    """Programs for a mill, and the least change that meets targets."""
    miller = commands.add_parser(
        "mill", help="programs for a mill (G-code), cut on the simulated mill before they are written"
    )
    miller.add_argument("board")
    miller.add_argument("--out", required=True, help="a ZIP")
    for name, words in (("ball", "diameter of the ball cutter"), ("flat", "diameter of the flat cutter"),
                        ("step", "between two lines"), ("proud", "left on for sanding")):  # fmt: skip
        miller.add_argument(f"--{name}", type=float, metavar="MM", help=words)
    miller.add_argument("--stock", type=float, nargs=3, metavar=("LENGTH", "WIDTH", "THICKNESS"), help="in mm")
    miller.add_argument("--travel", type=float, nargs=3, metavar=("X", "Y", "Z"), help="of the mill, in mm")
    seeker = commands.add_parser(
        "seek", help="the least change of a board that meets targets, or what stands in the way"
    )
    seeker.add_argument("board")
    seeker.add_argument("--brief", help="whose targets are met where none is given")
    seeker.add_argument("--target", action="append", default=[], metavar="WORDS", help="such as 'volume >= 34 L'")
    seeker.add_argument("--move", required=True, help="levers that may move, such as width,thickness,length")
    seeker.add_argument("--hold", default="", help="figures that stay as they are, such as length,mass")
    seeker.add_argument("--far", type=float, default=6.0, help="how many fair steps a lever may go")
    seeker.add_argument("--json", action="store_true")
    seeker.add_argument("--out", help="a folder for the board that is found")
    return miller, seeker


def _workshop_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    """What is done with files of a workshop."""
    check = commands.add_parser("check", help="list every problem of a file")
    check.add_argument("file")
    saver = commands.add_parser("rescue", help="write all that is sound of a workshop into a new file")
    saver.add_argument("file")
    saver.add_argument("--out", required=True)
    lister = commands.add_parser("list", help="list the boards of a workshop, or find some of them")
    lister.add_argument("file")
    lister.add_argument(
        "--search", default="", metavar="WORDS", help='words, feelings, figures, such as "wing foil 33-40 L sticks"'
    )
    teller = commands.add_parser("show", help="tell what a workshop knows of a board")
    teller.add_argument("file")
    teller.add_argument("board", help="its name, the beginning of it, or its number")
    installer = commands.add_parser("install", help="tell this user's desktop of the program: entry, icon, file type")
    installer.add_argument("--exec", default="", metavar="COMMAND", help="what starts it; this Python by itself")
    commands.add_parser("uninstall", help="take entry, icon and file type away; workshops stay")
    stamper = commands.add_parser("stamp", help="find the version a stamp's code was handed out of")
    stamper.add_argument("code", help="eight signs, such as K7QM-4D2X")
    stamper.add_argument("file")
    for command in (lister, teller):
        command.add_argument("--json", action="store_true")


def _evaluate(options: argparse.Namespace) -> int:
    from kelvor.core.base.units import System
    from kelvor.core.brief.brief import Brief
    from kelvor.core.evaluation.evaluation import evaluate
    from kelvor.exchange.documents import DocumentError, read_board, read_brief
    from kelvor.exchange.evaluations import evaluation_document, evaluation_table
    from kelvor.exchange.read_limits import limited

    with limited(options.board):
        board = read_board(Path(options.board))
    brief = read_brief(Path(options.brief)) if options.brief else Brief()
    result = evaluate(board, brief)
    if isinstance(result, tuple):
        raise DocumentError(options.board, [f.text for f in result])
    if options.bands:
        from kelvor.core.evaluation.uncertainty import with_counted_bands
        from kelvor.core.ride.condition import condition_of

        result = with_counted_bands(result, condition_of(brief))
    if options.json:
        print(json.dumps(evaluation_document(result), indent=1, ensure_ascii=False))
    else:
        print(evaluation_table(result, System(options.units)))
    return 0


def _export(options: argparse.Namespace) -> int:
    from datetime import date

    from kelvor.core.register.stamp import Stamp, code_of
    from kelvor.exchange.documents import parse_board, read_board
    from kelvor.exchange.export import export
    from kelvor.exchange.formats import RESOLUTIONS
    from kelvor.exchange.read_limits import limited
    from kelvor.files import may_write, same_file

    out = Path(options.out)
    if options.board != STANDARD_INPUT and same_file(out, Path(options.board)):
        raise InputError("this is the board that is being read", where=options.out, accepts="Give another name")
    may_write(out, over=options.force)
    with limited(options.board):
        given = options.board == STANDARD_INPUT
        board = parse_board(sys.stdin.read(), "standard input", None) if given else read_board(Path(options.board))
    day = date.today().isoformat()
    stamp = Stamp(design=board.name, code=code_of(board), version=options.step, serial=options.serial, day=day)
    resolution = RESOLUTIONS[options.resolution]
    block = _stock(options.block) if options.block else None
    export(
        board, options.to, out, options.surface, resolution, options.paper, stamp=stamp, block=block, over=options.force
    )
    return 0


def _stock(given: Sequence[float]) -> MillStock:
    """A block as it is typed [mm]; raises InputError outside of what one can be."""
    from kelvor.core.base.limits import limit_of, within
    from kelvor.core.base.mill import MillStock

    names = ("length", "width", "thickness")
    sides = {
        name: within(limit_of(MillStock, name), mm / 1000, f"stock's {name}")
        for name, mm in zip(names, given, strict=True)
    }
    return MillStock(**sides)


def _mill(options: argparse.Namespace) -> int:
    from dataclasses import replace
    from datetime import date

    from kelvor.core.base.limits import limit_of, within
    from kelvor.core.base.mill import Mill
    from kelvor.core.build.mass.board_mass import blank
    from kelvor.core.register.stamp import Stamp, code_of
    from kelvor.core.shape.surface.geometry import geometry
    from kelvor.exchange.documents import read_board
    from kelvor.exchange.milling import mill_board
    from kelvor.files import may_write

    out = may_write(Path(options.out), over=options.force)
    board = read_board(Path(options.board))
    given = {name: getattr(options, name) for name in ("ball", "flat", "step", "proud")}
    given |= dict(zip(("travel_x", "travel_y", "travel_z"), options.travel or (None,) * 3, strict=True))
    typed: dict[str, Any] = {
        name: within(limit_of(Mill, name), mm / 1000, name) for name, mm in given.items() if mm is not None
    }
    mill = replace(Mill(), **typed)
    found = geometry(board)
    if isinstance(found, tuple):
        raise InputError(found[0].text, where=board.name, accepts=found[0].advice.rstrip("."))
    stock = blank(found, mill)
    if options.stock:
        stock = _stock(options.stock)
    stamp = Stamp(design=board.name, code=code_of(board), day=date.today().isoformat())
    for face in mill_board(board, mill, stock, stamp, out, over=options.force):
        judged = face.judged
        print(
            f"{face.side}: {sum(took for _, took in face.times) / 60:.0f} min, left on {judged.usual * 1e3:.2f} mm "
            f"for nine tenths of it, {judged.worst_left * 1e3:.2f} at most"
        )
        for spot in judged.spots:
            print(f"  {spot.off * 1e3:+.2f} mm at {spot.x:.3f} m from the core's tail, {spot.y:+.3f} m: {spot.why}")
    return 0


def _read(options: argparse.Namespace) -> int:
    from kelvor.exchange.formats import READERS
    from kelvor.exchange.read_limits import limited

    with limited(options.file):
        told = _told if options.progress else lambda words: None
        print(READERS[options.kind].read(Path(options.file), options.nose_first, told))
    return 0


def _seek(options: argparse.Namespace) -> int:
    from kelvor.core.brief.brief import Brief
    from kelvor.core.seek.answer import answer_lines
    from kelvor.exchange.documents import read_board, read_brief
    from kelvor.exchange.seeking import answer_document, sought, write_answer

    board = read_board(Path(options.board))
    brief = read_brief(Path(options.brief)) if options.brief else Brief()
    move, hold = ([part for part in words.split(",") if part.strip()] for words in (options.move, options.hold))
    if not 0.5 <= options.far <= 40:
        raise InputError(f"{options.far:g} fair steps", where="--far", accepts="0.5 to 40")
    problem, answer = sought(board, brief, options.target, move, hold, options.far)
    if options.json:
        print(json.dumps(answer_document(problem, answer), indent=1, ensure_ascii=False))
    else:
        for line in answer_lines(problem, answer):
            print(one_line(line, 400) if not line.startswith("  ") else f"  {one_line(line, 400)}")
    if options.out:
        print(write_answer(problem, answer, Path(options.out), over=options.force), file=sys.stderr)
    return 0


def _told(words: str) -> None:
    """How far a long read is, for whoever shows it."""
    print(f"· {words}", file=sys.stderr, flush=True)


def _check(path: Path) -> int:
    from kelvor.exchange.checking import cleaned_text_lines, problem_lines
    from kelvor.exchange.read_limits import limited

    with limited(str(path), seconds=600):
        found, mended = problem_lines(path), cleaned_text_lines(path)
    for words in mended:
        print(one_line(f"cleaned: {words}", 2000))
    for problem in found:
        print(one_line(problem, 2000), file=sys.stderr)
    if not found:
        print(one_line(f"{path}: in order"))
    return 2 if found else 0


def _rescue(path: Path, new: Path) -> int:
    from kelvor.workshop.rescue import rescue

    found = rescue(path, new)
    for damage in found.damages:
        print(one_line(f"left out or mended: {damage}", 2000), file=sys.stderr)
    for mended in found.cleaned:
        print(one_line(f"cleaned: {mended}", 2000))
    print(one_line(f"{new}: {found.kept()} kept; {len(found.damages)} places were damaged"))
    return 0


def _list(options: argparse.Namespace) -> int:
    from kelvor.exchange.listing import card_document, card_words, listed

    found, told = listed(Path(options.file), options.search)
    if options.json:
        print(json.dumps([card_document(card) for card in found], indent=1, ensure_ascii=False))
    else:
        for card in found:
            print(card_words(card))
    for words in told:
        print(f"kelvor: {one_line(words, 400)}", file=sys.stderr)
    return 0


def _show(options: argparse.Namespace) -> int:
    from kelvor.exchange.listing import board_named, card_document, listed_board

    card = board_named(Path(options.file), options.board)
    if options.json:
        print(json.dumps(card_document(card), indent=1, ensure_ascii=False))
    else:
        for line in listed_board(card):
            print(line)
    return 0


def _stamp(code: str, path: Path) -> int:
    from kelvor.exchange.stamps import versions_of_code

    for line in versions_of_code(code, path):
        print(one_line(line, 400))
    return 0


def _compare(options: argparse.Namespace) -> int:
    from kelvor.core.brief.brief import Brief
    from kelvor.core.compare.curves import DATUMS
    from kelvor.exchange.comparing import compared, difference_document, difference_line
    from kelvor.exchange.documents import read_board, read_brief

    if options.datum not in DATUMS:
        raise InputError(f"“{options.datum}” is no place to lay boards together", accepts=f"Give {', '.join(DATUMS)}")
    brief = read_brief(Path(options.brief)) if options.brief else Brief()
    reference, other = read_board(Path(options.board)), read_board(Path(options.other))
    if options.to:
        return _hand_over(options, (reference, other), brief)
    found = compared(reference, other, brief)
    if options.json:
        print(json.dumps([difference_document(d) for d in found], indent=1, ensure_ascii=False))
    else:
        for d in found:
            print(one_line(difference_line(d), 400))
    return 0


def _hand_over(options: argparse.Namespace, boards: tuple[Board, Board], brief: Brief) -> int:
    from kelvor.core.build.materials.table import HANDBOOK
    from kelvor.core.evaluation.subject import Subject
    from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
    from kelvor.exchange.handing_over import Sent, hand_over

    if not options.out:
        raise InputError("no file is named for the page", accepts="Give --out FILE")
    out = Path(options.out)
    if out.suffix.lower() != f".{options.to}":
        raise InputError(
            f"--to {options.to} and the file's ending differ", where=str(out), accepts=f"Name it .{options.to}"
        )
    sent = [Sent(Subject(b, brief, HANDBOOK, HANDBOOK_COEFFICIENTS), b.name) for b in boards]
    print(hand_over(sent, out, datum=options.datum, over=options.force))
    return 0


def _demo_boards(folder: Path, *, over: bool) -> int:
    from kelvor.demo.boards import demo_boards
    from kelvor.exchange.documents import board_text, brief_text
    from kelvor.files import refusal_reason, written_whole

    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise InputError(refusal_reason(error), where=str(folder), accepts="Give a folder") from None
    for name, board, brief in demo_boards():
        for path, text in (
            (folder / f"{name}.json", board_text(board)),
            (folder / f"{name}.brief.json", brief_text(brief)),
        ):
            with written_whole(path, over=over) as temporary:
                temporary.write_text(text, encoding="utf-8")
        print(folder / f"{name}.json")
    return 0


def _install(command: str) -> int:
    from kelvor.desktop import install

    for path in install(command):
        print(path)
    return 0


def _uninstall() -> int:
    from kelvor.desktop import uninstall

    gone = uninstall()
    for path in gone:
        print(f"gone: {path}")
    if not gone:
        print("nothing was installed")
    return 0
