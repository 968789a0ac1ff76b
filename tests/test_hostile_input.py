"""Nothing from outside may do more than be refused: mutated documents, damaged files, random words."""

import json
import random
import shutil
import string
import tempfile
import unittest
from pathlib import Path

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.units import Quantity, System, parse
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.demo.boards import demo_boards
from kelvor.exchange.checking import problem_lines
from kelvor.exchange.documents import board_text, brief_text, parse_board, parse_brief
from kelvor.workshop.store import Store
from tests.support import demo_at

NASTY = [
    None,
    True,
    -1,
    0,
    1e300,
    -1e300,
    1e-300,
    "",
    "x",
    [],
    {},
    [1, 2],
    {"kind": "v"},
    "NaN",
    10**40,
    "\u0000",
    [[]],
    0.5,
]


def paths(data, at=()):
    """Every place inside a document."""
    yield at
    items = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    for key, value in items:
        yield from paths(value, (*at, key))


def changed(data, path, value):
    """A copy of a document with one place changed."""
    copy = json.loads(json.dumps(data))
    at = copy
    for key in path[:-1]:
        at = at[key]
    at[path[-1]] = value
    return copy


class Documents(unittest.TestCase):
    def test_a_document_with_any_place_changed_is_read_or_refused_in_words(self):
        rng = random.Random(11)
        refused = 0
        for text, read in (
            (board_text(demo_boards()[0][1]), parse_board),
            (brief_text(demo_boards()[0][2]), parse_brief),
        ):
            data = json.loads(text)
            for path in [p for p in paths(data) if p]:
                mutated = json.dumps(changed(data, path, rng.choice(NASTY)))
                try:
                    read(mutated, "d.json")
                except KelvorError as error:
                    refused += 1
                    self.assertIn("d.json", str(error))
                    self.assertNotIn("\n", str(error).strip())
        self.assertGreater(refused, 150)

    def test_a_document_cut_anywhere_is_refused(self):
        text = board_text(demo_boards()[0][1])
        for cut in range(1, len(text) - 2, len(text) // 60):
            with self.assertRaises(KelvorError):
                parse_board(text[:cut], "d.json")

    def test_keys_dropped_or_doubled(self):
        data = json.loads(board_text(demo_boards()[0][1]))
        for path in [p for p in paths(data) if p and isinstance(p[-1], str)]:
            copy = json.loads(json.dumps(data))
            at = copy
            for key in path[:-1]:
                at = at[key]
            del at[path[-1]]
            try:
                parse_board(json.dumps(copy), "d.json")
            except KelvorError as error:
                self.assertTrue(str(error))


class Files(unittest.TestCase):
    def test_a_workshop_with_bytes_changed_never_harms(self):
        rng = random.Random(5)
        with tempfile.TemporaryDirectory() as name:
            whole = Path(name) / "whole.kelvor"
            demo_at(whole)
            data = whole.read_bytes()
            opened = refused = 0
            for i in range(14):
                path = Path(name) / f"{i}.kelvor"
                broken = bytearray(data)
                start = rng.randrange(len(broken))
                for at in range(start, min(start + rng.choice([1, 40, 3000]), len(broken))):
                    broken[at] = rng.randrange(256)
                path.write_bytes(broken)
                try:
                    shop = Store.open(path)
                    opened += 1
                    shop.close()
                except InputError as error:
                    refused += 1
                    self.assertIn(str(path), str(error))
                    self.assertEqual(path.read_bytes(), bytes(broken))
                self.assertIsInstance(problem_lines(path), list)
                path.unlink(missing_ok=True)
            self.assertGreater(opened, 0)
            self.assertGreater(refused, 0)

    def test_a_folder_and_an_empty_file(self):
        with tempfile.TemporaryDirectory() as name:
            empty = Path(name) / "empty.kelvor"
            empty.touch()
            for path in (empty, Path(name)):
                with self.assertRaises(InputError):
                    Store.open(path)
            self.assertEqual(empty.read_bytes(), b"")
            shutil.copy(empty, Path(name) / "copy.kelvor")
            self.assertTrue(problem_lines(Path(name) / "copy.kelvor"))


class Words(unittest.TestCase):
    def test_random_words_are_a_number_or_refused(self):
        rng = random.Random(2)
        alphabet = string.digits + " .,-/'\"cmftinkgL°²½" + "eE+%x"
        read = 0
        for _ in range(4000):
            words = "".join(rng.choice(alphabet) for _ in range(rng.randrange(9)))
            quantity, system = rng.choice(list(Quantity)), rng.choice(list(System))
            try:
                value = parse(words, quantity, system)
            except InputError as error:
                self.assertTrue(error.accepts)
            else:
                self.assertEqual(value, value)
                read += 1
        self.assertGreater(read, 100)

    def test_levers_take_or_refuse_any_number(self):
        board = demo_boards()[1][1]
        for lever in levers(board):
            for value in (0.0, -1.0, 1e-9, 3.0, 1e9, float("inf")):
                try:
                    result = pull_lever(board, lever, value)
                except KelvorError as error:
                    self.assertTrue(str(error))
                else:
                    self.assertTrue(result.changes)
