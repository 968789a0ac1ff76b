"""Documents from outside: every problem with its place, nothing changed."""

import json
import tempfile
import unittest
from pathlib import Path

from kelvor import files
from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.snapshot import to_plain
from kelvor.core.brief.brief import Brief, Rider, Target
from kelvor.demo.boards import demo_boards
from kelvor.exchange.checking import problem_lines
from kelvor.exchange.documents import (
    DocumentError,
    board_text,
    brief_text,
    parse_board,
    parse_brief,
    read_board,
    schemas,
)
from tests.support import cut_away, plain_board, v_layer

SCHEMAS = Path(__file__).parents[2] / "docs" / "schema"


class RoundTrip(unittest.TestCase):
    def test_demo_boards_and_briefs(self):
        for name, board, brief in demo_boards():
            with self.subTest(name):
                self.assertEqual(parse_board(board_text(board), "x"), board)
                self.assertEqual(parse_brief(brief_text(brief), "x"), brief)

    def test_published_schemas_are_those_of_the_code(self):
        for name, schema in schemas().items():
            self.assertEqual(
                json.loads((SCHEMAS / name).read_text(encoding="utf-8")),
                json.loads(json.dumps(schema)),
                "run tools/write_schemas.py",
            )


class BadBoards(unittest.TestCase):
    def setUp(self):
        self.data = json.loads(board_text(plain_board(layers=(v_layer(3), cut_away(6)))))

    def said(self, change=None, text=None):
        data = json.loads(json.dumps(self.data))
        if change:
            change(data)
        with self.assertRaises(KelvorError) as caught:
            parse_board(text if text is not None else json.dumps(data), "b.json")
        error = caught.exception
        return error.problems if isinstance(error, DocumentError) else [str(error)]

    def test_fields(self):
        board = lambda d: d["board"]  # noqa: E731
        cases = [
            (lambda d: board(d).update(length="long"), "board.length: “long” is not a number"),
            (
                lambda d: board(d)["outline"]["batten"]["weights"][2].update(x="a"),
                "board.outline.batten.weights[2].x: “a” is not a number",
            ),
            (lambda d: board(d).pop("rocker"), "board.rocker: this field is missing"),
            (lambda d: board(d).update(colour="red"), "board.colour: there is no such field"),
            (lambda d: board(d)["layers"][0].update(depth=3), "board.layers[0].depth: there is no such field"),
            (lambda d: board(d)["layers"][1].update(angle="steep"), "board.layers[1].angle: “steep” is not a number"),
            (
                lambda d: board(d)["outline"].update(tail="forked"),
                "board.outline.tail: “forked” is not known. Known are 'round'",
            ),
            (lambda d: board(d)["layers"][0].update(kind="wavy"), "a layer is of no known kind"),
            (lambda d: board(d).update(length=float("nan")), "board.length"),
        ]
        for change, words in cases:
            with self.subTest(words):
                found = self.said(change)
                self.assertEqual(len(found), 1, found)
                self.assertIn(words, found[0])

    def test_every_problem_is_listed(self):
        def both(d):
            d["board"]["length"] = "long"
            d["board"]["rocker"]["weights"][0]["value"] = None

        self.assertEqual(len(self.said(both)), 2)

    def test_shapes_that_are_no_board(self):
        for change, words in (
            (
                lambda d: d["board"].update(length=0.0002),
                "board.length: 0.02 cm cannot be. Give 60.0 cm to 650.0 cm (0.6 to 6.5 m in the document)",
            ),
            (lambda d: d["board"].update(length=20.0), "0.6 to 6.5 m"),
            (lambda d: d["board"]["outline"]["batten"]["weights"].reverse(), "tail to nose"),
            (lambda d: d["board"]["layers"][1].update(angle=0.5), "Deck and bottom meet"),
            (lambda d: d["board"].update(length=1500.0), "cm cannot be"),  # millimetres for metres
        ):
            with self.subTest(words):
                self.assertTrue(any(words in problem for problem in self.said(change)))

    def test_broken_or_foreign_documents(self):
        whole = json.dumps(self.data)
        self.assertIn("cut off", self.said(text=whole[: len(whole) // 2])[0])
        self.assertIn("line 1, column", self.said(text="{'a': 1}")[0])
        self.assertIn("no Kelvor document", self.said(text="[1, 2]")[0])
        self.assertIn("another version", self.said(lambda d: d.update(schema="kelvor.board/9"))[0])
        self.assertIn("kelvor.board/1", self.said(lambda d: d.update(schema="kelvor.brief/1"))[0])
        self.assertTrue(self.said(text="[" * 100_000)[0])

    def test_files(self):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            huge = folder / "huge.json"
            with open(huge, "wb") as file:
                file.truncate(2 * 1024**3)  # a sparse file of 2 GB
            binary = folder / "x.json"
            binary.write_bytes(b"\xff\xfe\x00")
            for path, words in (
                (huge, "2147 MB"),
                (binary, "not text"),
                (folder, "folder"),
                (folder / "none.json", "no such file"),
            ):
                with self.subTest(words), self.assertRaises(InputError) as caught:
                    read_board(path)
                self.assertIn(words, str(caught.exception))
                self.assertTrue(problem_lines(path))


class BadBriefs(unittest.TestCase):
    def test_ranges_and_fields(self):
        for brief, words in (
            (Brief(rider=Rider(mass=-3)), "brief.rider.mass: −3.00 kg cannot be. Give 15.00 kg to 250.00 kg."),
            (Brief(rider=Rider(height=176)), "brief.rider.height: 17 600.0 cm"),  # centimetres for metres
            (Brief(wing_lift=1e6), "brief.wing_lift: 1 000 000 N cannot be. Give 0 N to 1 500 N"),
        ):
            with self.subTest(words), self.assertRaises(DocumentError) as caught:
                parse_brief(brief_text(brief), "b")
            self.assertIn(words, caught.exception.problems[0])
        data = {
            "schema": "kelvor.brief/1",
            "brief": to_plain(Brief(targets=(Target(figure="volume", relation="at least", value=1.0),))),
        }
        data["brief"]["targets"][0]["relation"] = "about"
        with self.assertRaises(DocumentError) as caught:
            parse_brief(json.dumps(data), "b")
        self.assertIn("brief.targets[0].relation", caught.exception.problems[0])


class WrittenWhole(unittest.TestCase):
    def test_a_failed_write_leaves_what_was_there(self):
        with tempfile.TemporaryDirectory() as name:
            path = Path(name) / "a.txt"
            path.write_text("old")
            with self.assertRaises(files.AlreadyThere), files.written_whole(path):
                self.fail("the block must not run")
            with self.assertRaises(InputError) as caught, files.written_whole(path, over=True) as temporary:
                temporary.write_text("half")
                raise OSError(28, "No space left on device")
            self.assertIn("the disk is full", str(caught.exception))
            self.assertEqual(path.read_text(), "old")
            self.assertEqual([p.name for p in Path(name).iterdir()], ["a.txt"])
            with files.written_whole(path, over=True) as temporary:
                temporary.write_text("new")
            self.assertEqual(path.read_text(), "new")
            with self.assertRaises(InputError), files.written_whole(Path(name) / "nowhere" / "b.txt"):
                self.fail("the block must not run")
