"""Limits: every field of every kept value declares what it can be, once; merging of two windows' changes."""

import dataclasses
import json
import types
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Annotated, Literal, Union, get_args, get_origin

from kelvor.core.base.errors import InputError, KelvorError
from kelvor.core.base.limits import Along, Limit, Many, Text, field_problems, limit_of, typed_name, within
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.snapshot import hints_of
from kelvor.core.base.units import Quantity, System, parse
from kelvor.core.brief.brief import Brief, Foil, Rider, Target, Wing
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.table import MaterialTable
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.history.merging import merged
from kelvor.core.levers.catalogue import levers, pull_lever
from kelvor.core.shape.board import Board
from kelvor.core.shape.checks.checks import check_value
from kelvor.core.shape.curves.places import Place
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.parts.layers import Channels, DeckLayer, Ledge, ShapingLayer
from kelvor.demo.boards import all_demo_boards, demo_boards
from kelvor.exchange.documents import board_text, parse_board, schemas
from tests.support import cut_away, plain_board, v_layer

SCHEMAS = Path(__file__).parents[3] / "docs" / "schema"


def undeclared(kind, at="", seen=None):
    """Fields below a dataclass that are a number or a text and declare no limit."""
    seen = set() if seen is None else seen
    if kind in seen:
        return
    seen.add(kind)
    for name, hint in hints_of(kind).items():
        yield from _undeclared(hint, f"{at}{kind.__name__}.{name}", (), seen)


def _undeclared(hint, at, declared, seen):
    while get_origin(hint) is Annotated:
        declared, hint = (*declared, *hint.__metadata__), hint.__origin__
    if hint in (float, int):
        if not any(isinstance(m, Limit) for m in declared):
            yield at
    elif hint is str:
        if not any(isinstance(m, Text) for m in declared):
            yield at
    elif dataclasses.is_dataclass(hint):
        yield from undeclared(hint, "", seen)
    elif get_origin(hint) in (tuple, Union, types.UnionType):
        for part in get_args(hint):
            if part not in (Ellipsis, type(None)):
                yield from _undeclared(part, at, (), seen)
    elif get_origin(hint) is not Literal and hint is not bool and not isinstance(hint, type):
        yield f"{at}: {hint}"


class Declared(unittest.TestCase):
    def test_every_number_and_text_that_is_kept_declares_what_it_can_be(self):
        for kind in (Board, Brief, MaterialTable, WeighIn):
            self.assertEqual(list(undeclared(kind)), [])

    def test_the_published_schema_carries_the_same_limits(self):
        published = {path.name: json.loads(path.read_text()) for path in SCHEMAS.glob("*.json")}
        self.assertEqual(published, schemas())
        rider = published["brief.schema.json"]["$defs"]["Rider"]["properties"]
        self.assertEqual((rider["mass"]["minimum"], rider["mass"]["maximum"], rider["mass"]["unit"]), (15, 250, "kg"))
        self.assertEqual(rider["name"]["maxLength"], 80)
        board = published["board.schema.json"]["$defs"]
        self.assertEqual(board["Rails"]["properties"]["apex"]["values"], {"minimum": 0.02, "maximum": 0.98})
        self.assertEqual(
            (board["Ply"]["properties"]["count"]["maximum"], board["Board"]["properties"]["layers"]["maxItems"]),
            (40, 60),
        )

    def test_nothing_that_ships_is_outside_its_limits(self):
        for item in all_demo_boards():
            self.assertEqual(field_problems(item.start), ())
            self.assertEqual(field_problems(item.brief), ())

    def test_window_document_and_check_say_the_same_range(self):
        limit = limit_of(Rider, "mass")
        self.assertEqual(limit.range_words(), "15.00 kg to 250.00 kg")
        self.assertEqual(limit.range_words(System.INCH), "33.07 lb to 551.16 lb")
        with self.assertRaises(InputError) as caught:
            within(limit, 7.0, "Mass, dressed", System.INCH)
        self.assertEqual(str(caught.exception), "Mass, dressed: 15.43 lb cannot be. Give 33.07 lb to 551.16 lb")
        self.assertEqual(
            field_problems(Brief(rider=Rider(mass=7.0)))[0].sentence(),
            "rider.mass: 7.00 kg cannot be. Give 15.00 kg to 250.00 kg.",
        )

    def test_half_the_document_has_ranges_no_more_the_other_half_too(self):
        board = next(b for _, b, _ in demo_boards() if b.construction is not None)
        made = board.construction
        foil = Foil(name="F")
        for value, words in (
            (replace(made, plies=(replace(made.plies[0], count=-3),)), "plies[0].count: −3 cannot be. Give 0 to 40"),
            (replace(made, plies=(replace(made.plies[0], count=1000),)), "plies[0].count: 1\u202f000 cannot be"),
            (
                replace(made, coats=(replace(made.coats[0], areal_mass=-0.1),)),
                "coats[0].areal_mass: −100 g/m² cannot be. Give 0 g/m² to",
            ),
            (replace(foil, fuselage=1e6), "fuselage: 100\u202f000\u202f000.0 cm cannot be"),
            (cut_away(5, blend=-1), "blend: −100.0 cm cannot be. Give 0.0 cm to 200.0 cm (0 to 2 m in the document)"),
            (cut_away(80), "angle: 80.0° cannot be. Give 0.0° to 60.0° (0 to 1.047 rad in the document)"),
            (
                replace(plain_board(), base=replace(plain_board().base, slope=True)),
                "base.slope: “True” is not a number",
            ),
            (replace(plain_board(), zero="bow"), "zero: “bow” is not known. Known are tail, nose, middle, mast"),
            (Wing(name=" ", area=5.0), "name: is empty. Give 1 to 80 letters"),
            (Wing(name="a\x00b", area=5.0), "holds signs that cannot be shown"),
            (replace(plain_board(), crown=Schedule(())), "crown.points: has 0 entries. Give 1 to 200"),
            (
                replace(plain_board(), length=float("nan")),
                "length: it is not finite. Give a number in m from 0.6 to 6.5",
            ),
        ):
            with self.subTest(words):
                self.assertIn(words, field_problems(value)[0].sentence())

    def test_amounts_of_layers_are_held_to_depth_or_angle_by_their_kind(self):
        for layer, words in (
            (v_layer(75), "75.0° cannot be"),
            (ShapingLayer(kind="hollow", name="H", amount=Schedule.constant(0.3)), "300.0 mm cannot be"),
            (DeckLayer(kind="dish", name="D", amount=Schedule.constant(0.3)), "300.0 mm cannot be"),
        ):
            field = "deck_layers" if isinstance(layer, DeckLayer) else "layers"
            found = check_value(replace(plain_board(), **{field: (layer,)}))
            self.assertIn(words, found[0].text)
            self.assertTrue(found[0].advice.startswith("Give "))

    def test_levers_far_off_are_refused_in_words_with_their_unit(self):
        board = next(
            item.start
            for item in all_demo_boards()
            if any(isinstance(layer, (Ledge, Channels)) for layer in item.start.layers)
        )
        told = 0
        for lever in levers(board):
            try:
                after = pull_lever(board, lever, 1e4).board
            except KelvorError:
                continue
            for finding in check_value(after):
                if finding.code == "limit":
                    told += 1
                    self.assertRegex(finding.advice, r"^Give .+ to .+\.$")
                    self.assertNotRegex(finding.text + finding.advice, r"\b(rad|SI)\b")
        self.assertGreater(told, 10)

    def test_fittings_off_the_board_are_ridden_a_little_off_and_refused_far_off(self):
        item = next(i for i in all_demo_boards() if i.start.fittings.straps and i.start.fittings.fin_boxes)
        board, fittings = item.start, item.start.fittings
        for x in (-0.09, board.length + 0.09):
            off = replace(
                board,
                fittings=replace(fittings, straps=tuple(replace(s, at=Place("tail", x)) for s in fittings.straps)),
            )
            found = evaluate(off, item.brief)
            self.assertNotIsInstance(found, tuple)
            self.assertTrue(any("off the board" in f.text for f in found.findings))
        far = replace(
            board, fittings=replace(fittings, fin_boxes=(replace(fittings.fin_boxes[0], at=Place("tail", 5.0)),))
        )
        finding = evaluate(far, item.brief)[0]
        self.assertIn("would lie off the board, 500.0 cm from the tail", finding.text)
        self.assertIn(f"0 to {board.length * 100:.1f} cm", finding.advice)

    def test_names_are_plain(self):
        self.assertEqual(typed_name("  Dunlin <b>39</b> "), "Dunlin <b>39</b>")
        self.assertEqual(typed_name("a\nb\u200b \ud800"), "a b �")
        for words, said in (
            ("", "is empty"),
            ("x" * 81, "has 81 letters. Up to 80 are kept"),
            ("\u200b\u202e", "is empty"),
        ):
            with self.assertRaises(InputError) as caught:
                typed_name(words)
            self.assertIn(said, str(caught.exception))
            self.assertEqual(str(caught.exception), one_line(str(caught.exception)))

    def test_a_text_that_an_older_kelvor_kept_is_drawn_and_a_document_with_it_refused(self):
        long = replace(plain_board(), name="x" * 300)
        self.assertEqual(check_value(long), ())
        with self.assertRaises(KelvorError) as caught:
            parse_board(board_text(long), "d.json")
        self.assertIn("d.json: board.name: has 300 letters. Up to 80 are kept", str(caught.exception))

    def test_a_checked_part_is_remembered_and_a_changed_one_is_read_anew(self):
        board = plain_board()
        self.assertEqual(field_problems(board), ())
        worse = replace(board, skin=replace(board.skin, deck=0.5))
        self.assertEqual([p.path for p in field_problems(worse)], ["skin.deck"])
        self.assertEqual([p.path for p in field_problems(worse)], ["skin.deck"])  # never remembered as sound
        self.assertEqual(field_problems(board), ())

    def test_every_limit_can_be_typed(self):
        """The two ends of each declared range, as they are said, are read back inside it."""
        seen = 0
        for kind in (Board, Brief, MaterialTable):
            for part in {type(v) for v in _values(kind)}:
                for name, hint in hints_of(part).items():
                    for mark in getattr(hint, "__metadata__", ()):
                        limit = mark.value if isinstance(mark, Along) else mark
                        if isinstance(limit, Limit) and not limit.unit and limit.quantity is not Quantity.COUNT:
                            for end in (limit.low, limit.high):
                                value = parse(limit.said(end), limit.quantity)
                                self.assertAlmostEqual(
                                    value, end, delta=max(1e-3, 1e-3 * abs(end)), msg=f"{part.__name__}.{name}"
                                )
                                seen += 1
        self.assertGreater(seen, 60)
        self.assertEqual(Many(3).least, 0)


def _values(kind):
    """Every dataclass value inside the demo's boards and briefs."""
    stack = (
        [item.start if kind is Board else item.brief for item in all_demo_boards()] if kind is not MaterialTable else []
    )
    while stack:
        value = stack.pop()
        if dataclasses.is_dataclass(value):
            yield value
            stack += [getattr(value, f.name) for f in dataclasses.fields(value)]
        elif isinstance(value, tuple):
            stack += value


class Merging(unittest.TestCase):
    base = Brief(
        foils=(Foil(name="A"), Foil(name="B")), targets=(Target(figure="volume", relation="at least", value=0.03),)
    )

    def test_fields_changed_apart_are_both_kept(self):
        mine = replace(self.base, title="mine", rider=replace(self.base.rider, mass=80.0))
        theirs = replace(self.base, notes="theirs", rider=replace(self.base.rider, height=1.9))
        found = merged(self.base, mine, theirs)
        self.assertEqual(
            (found.title, found.notes, found.rider.mass, found.rider.height), ("mine", "theirs", 80.0, 1.9)
        )

    def test_lists_are_merged_by_entry_and_by_what_came_and_went(self):
        a, b = self.base.foils
        mine = replace(self.base, foils=(replace(a, mass=5.0), b))
        theirs = replace(self.base, foils=(a, replace(b, mass=6.0)))
        self.assertEqual([f.mass for f in merged(self.base, mine, theirs).foils], [5.0, 6.0])
        added = replace(self.base, foils=(a, b, Foil(name="mine")))
        theirs = replace(self.base, foils=(a, b, Foil(name="theirs")))
        self.assertEqual([f.name for f in merged(self.base, added, theirs).foils], ["A", "B", "theirs", "mine"])
        dropped = replace(self.base, foils=(b,))
        self.assertEqual([f.name for f in merged(self.base, dropped, theirs).foils], ["B", "theirs"])

    def test_the_same_field_changed_twice_is_mine_and_nothing_changed_is_theirs(self):
        mine, theirs = replace(self.base, title="mine"), replace(self.base, title="theirs")
        self.assertEqual(merged(self.base, mine, theirs).title, "mine")
        self.assertEqual(merged(self.base, self.base, theirs), theirs)
        self.assertEqual(merged(self.base, mine, self.base), mine)
