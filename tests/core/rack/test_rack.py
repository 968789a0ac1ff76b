"""Finding a board by what it is and by what was said of it."""

import unittest
from dataclasses import replace

from kelvor.core.base.units import Quantity
from kelvor.core.evaluation.book import BOOK
from kelvor.core.rack.cards import (
    Card,
    CardWords,
    card_outline,
    drawn,
    half_widths,
    packed_card,
    unpacked_card,
)
from kelvor.core.rack.search import Index, range_words, understood
from kelvor.demo.boards import demo_boards
from tests.support import evaluated

PLANTED = (
    ("it sticks to the water before it lets go", "stuck to the water"),
    ("sticky at touchdown, had to pump twice", "sticks when it touches down"),
    ("feels draggy below ten knots", "draggy"),
    ("too loose on the bottom turn", "loose"),
    ("the tail slides when I push", "slides"),
    ("skatey until the long fin went in", "no grip"),
    ("catches its rail in chop", "catchy"),
    ("trips over its own edge", "grabs"),
    ("wobbly while kneeling", "tippy"),
    ("calm as a table", "stable"),
    ("bogs out of the gybe", "sluggish"),
    ("won't plane under twelve knots", "late to plane"),
    ("gets going in nothing at all", "light wind"),
    ("pearled twice off the drop", "nosedives"),
    ("purls on every steep one", "buries the nose"),
    ("tail sinks when I step back", "squats"),
    ("corky, sits on top of the water", "too big"),
    ("carves like on rails", "turns well"),
    ("slams on flat landings, my knees", "hard landing"),
    ("cracked by the front insert", "broke"),
)
"""What a notebook holds, and what somebody types a year later (invented)."""


def card(i, text="", **more):
    return Card(
        i,
        f"Board {i}",
        "wing foil",
        f"2025-{i % 12 + 1:02d}-01",
        words=(CardWords("said", text, 4.0, i),) if text else (),
        half=(0.1,),
        **more,
    )


class Finding(unittest.TestCase):
    def test_twenty_phrasings_land_in_the_first_five(self):
        plain = [card(100 + i, f"version {i}: rail band a little fuller, weighed and sanded") for i in range(60)]
        index = Index([*plain, *(card(i, text) for i, (text, _) in enumerate(PLANTED))])
        missed = []
        for i, (text, typed) in enumerate(PLANTED):
            found, _ = index.find(typed)
            if i not in [f.card.board for f in found[:5]]:
                missed.append((typed, text, [f.by[0].text for f in found[:5]]))
        self.assertEqual(missed, [])

    def test_found_as_a_plain_scan_finds_them(self):
        texts = [text for text, _ in PLANTED]
        index = Index([card(i, text) for i, text in enumerate(texts)])
        for word in ("water", "tail", "knots", "rail", "board"):
            found = {
                f.card.board
                for f in index.find(f'"{word}"')[0]
                if any(word in said.text for said in f.by) or word == "board"
            }
            scan = {i for i, text in enumerate(texts) if word in text or word == "board"}
            self.assertEqual(found, scan, word)

    def test_all_words_first_else_most_of_them_and_told_so(self):
        index = Index(
            [card(1, "stuck to the water last spring"), card(2, "stuck in traffic"), card(3, "spring in the step")]
        )
        found, _ = index.find("the one that stuck to the water last spring")
        self.assertEqual([f.card.board for f in found if f.whole], [1])
        self.assertEqual([f.whole for f in index.find("stuck unicorn")[0]], [False, False])

    def test_words_a_workshop_adds(self):
        index = Index([card(1, "goes like a train")], own=(("like a train", "tracks hard"),))
        self.assertEqual([f.card.board for f in index.find('"tracks hard"')[0]], [1])
        self.assertEqual(Index(index.cards).find('"tracks hard"')[0], [])

    def test_whatever_is_typed_is_answered(self):
        index = Index([card(1, "fine")])
        for typed in (
            '"',
            "“ ”",
            "'",
            "x",
            "",
            "   ",
            "9" * 10_000,
            "a" * 10_000,
            "(((",
            "\\w+",
            "1-",
            "-5 L",
            "5–3 L",
            "∞ L",
            "%",
            "of the",
        ):
            found, query = index.find(typed)
            self.assertIsInstance(found, list, typed)
            range_words(query, index.cards)


class Ranges(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.cards = []
        for i, (slug, board, brief) in enumerate(demo_boards(), 1):
            counted = drawn(evaluated(slug).live)
            cls.cards.append(Card(i, board.name, brief.discipline, "", figures=counted.figures, half=counted.half))
        cls.index = Index(cls.cards)

    def test_ranges_hold_what_the_figures_of_the_book_say(self):
        by_key = {figure.key: figure for figure in BOOK}
        for typed, key, low, high in (
            ("33–40 L", "volume", 0.033, 0.040),
            ("volume 100 to 130 L", "volume", 0.1, 0.13),
            ("width 50-60 cm", "width", 0.5, 0.6),
            ("nose rocker > 150 mm", "nose_rocker", 0.15, 1e9),
            ("under 3 kg", "mass", 0.0, 3.0),
            ("tail rocker 0–20 mm", "tail_rocker", 0.0, 0.02),
        ):
            found, query = self.index.find(typed)
            wanted = {c.name for c in self.cards if low <= c.figures.get(key, -1.0) <= high}
            self.assertEqual({f.card.name for f in found}, wanted, typed)
            self.assertEqual(query.told, ())
            self.assertIn(by_key[key].quantity, Quantity)

    def test_words_and_ranges_at_once(self):
        found, _ = self.index.find("wing foil 33–40 L")
        self.assertTrue(found)
        self.assertTrue(
            all(f.card.discipline == "wing foil" and 0.033 <= f.card.figures["volume"] <= 0.040 for f in found)
        )

    def test_an_absurd_range_is_told_with_how_far_the_boards_reach(self):
        found, query = self.index.find("9000–9999 L")
        self.assertEqual(found, [])
        self.assertRegex(
            range_words(query, self.cards)[0],
            r"No board lies in “9000–9999 L”: volume, finished runs from [\d.]+ L to [\d.]+ L\.",
        )
        self.assertIn("names no figure", understood("12–19").told[0])
        self.assertTrue(understood("width 3 kg").ranges[0].keys == ("mass",) or understood("width 3 kg").told)


class Cards(unittest.TestCase):
    def test_a_card_says_what_the_book_says_and_comes_back_from_its_text(self):
        live = evaluated("dunlin-39").live
        counted = drawn(live)
        said = {f.key: f.value for f in live.figures}
        self.assertTrue(all(abs(value / said[key] - 1) < 1e-6 for key, value in counted.figures.items() if value))
        self.assertEqual(unpacked_card(packed_card(counted)), counted)
        self.assertIsNone(unpacked_card("{}"))

    def test_its_outline_is_the_boards(self):
        live = evaluated("shearwater-76").live
        points = card_outline(half_widths(live.geometry), live.board.length)
        self.assertAlmostEqual(float(points[:, 1].max()) * 2, live.geometry.shape.half_width.max() * 2, delta=0.002)
        self.assertEqual(float(points[:, 0].max()), live.board.length)
        self.assertFalse(replace(card(1), half=()).counted)


if __name__ == "__main__":
    unittest.main()
