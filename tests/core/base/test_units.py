import random
import unittest

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import (
    Quantity,
    System,
    number_text,
    outweighs,
    parse,
    pounds,
    said_in,
    scale_text,
    text,
    unit_of,
)

L = Quantity.LENGTH


class Parsing(unittest.TestCase):
    def test_lengths_in_any_unit(self):
        """The inch is 25.4 mm exactly (international yard and pound agreement, 1959)."""
        for typed, metres in (
            ("47", 0.47),
            ("47 cm", 0.47),
            ("470mm", 0.47),
            ("0.47 m", 0.47),
            ("1,5", 0.015),
            ("5'8 1/2\"", 68.5 * 0.0254),
            ("19 1/4", 19.25 * 0.0254),
            ('2 1/8"', 2.125 * 0.0254),
            ("2⅛″", 2.125 * 0.0254),
            ("5 ft 8.5 in", 68.5 * 0.0254),
            ("5'", 1.524),
            ("-3 mm", -0.003),
            ("−3 mm", -0.003),
            ("3/4", 0.75 * 0.0254),
            ("18 1/2 in", 18.5 * 0.0254),
        ):
            with self.subTest(typed):
                self.assertAlmostEqual(parse(typed, L), metres, places=12)

    def test_a_bare_number_takes_the_unit_on_display(self):
        self.assertAlmostEqual(parse("19", L, System.INCH), 19 * 0.0254)
        self.assertAlmostEqual(parse("19", L, System.METRIC), 0.19)
        self.assertAlmostEqual(parse("7", Quantity.MASS, System.INCH), 7 * 0.45359237)

    def test_other_quantities(self):
        for typed, quantity, value in (
            ("33 L", Quantity.VOLUME, 0.033),
            ("15 kn", Quantity.SPEED, 15 * 1852 / 3600),
            ("18 km/h", Quantity.SPEED, 5.0),
            ("8°", Quantity.ANGLE, 0.13962634015954636),
            ("55%", Quantity.RATIO, 0.55),
            ("6 lb", Quantity.MASS, 2.72155422),
            ("6 oz/yd²", Quantity.AREAL_MASS, 6 * 0.0339057474),
            ("11 °C", Quantity.TEMPERATURE, 284.15),
            ("10 m", Quantity.HEIGHT, 10.0),
        ):
            with self.subTest(typed):
                self.assertAlmostEqual(parse(typed, quantity), value, places=8)

    def test_nonsense_is_told_with_what_would_do(self):
        for typed, quantity in (
            ("abc", L),
            ("", L),
            ("47 kg", L),
            ("1/0", L),
            ("12 L", Quantity.MASS),
            ("1e400", L),
            ("nan", L),
            ("--3", L),
            ("9" * 400, L),
            ("9" * 5000 + " mm", Quantity.DEPTH),
            ("1/" + "9" * 5000, L),
        ):
            with self.subTest(typed), self.assertRaises(InputError) as caught:
                parse(typed, quantity)
            self.assertIn("Write a number", str(caught.exception))

    def test_thousands_are_read_as_they_are_shown_and_two_marks_are_not_guessed_at(self):
        for typed, quantity, value in (
            ("6\u202f000 cm²", Quantity.AREA, 0.6),
            ("−17\u202f600.0 cm", L, -176.0),
            ("1 234.5 mm", Quantity.DEPTH, 1.2345),
            ("1\u00a0234 567 N", Quantity.FORCE, 1234567.0),
            ("18 1/2 in", L, 18.5 * 0.0254),
            ("5' 8 1/2\"", L, 68.5 * 0.0254),
        ):
            with self.subTest(typed):
                self.assertAlmostEqual(parse(typed, quantity), value, places=9)
        for typed in ("1.234,5 mm", "1,234.5 mm", "1.2.3"):
            with self.subTest(typed), self.assertRaises(InputError) as caught:
                parse(typed, L)
            self.assertIn("has two decimal marks. Write 1234.5", str(caught.exception))

    def test_every_shown_number_of_every_quantity_is_read_back(self):
        """Both systems, every unit, finer and coarser: what is read lies within half of the last digit shown."""
        rng, wrong = random.Random(4), []
        for system in System:
            for quantity in Quantity:
                unit = unit_of(quantity, system)
                for extra in (-1, 0, 1, 2):
                    for _ in range(40):
                        value = unit.offset + unit.size * rng.choice([-1, 1]) * 10 ** rng.uniform(-3, 6)
                        shown = text(value, quantity, system, extra=extra)
                        inches = unit.fractional and extra <= 0
                        grain = (1.0 if extra < 0 else 1 / 32) if inches else 10.0 ** -max(unit.decimals + extra, 0)
                        if abs(parse(shown, quantity, system) - value) > 0.501 * grain * unit.size + 1e-9 * abs(value):
                            wrong.append((shown, quantity))
        self.assertEqual(wrong, [])


class Masses(unittest.TestCase):
    def test_what_is_printed_in_pounds_and_ounces_is_read(self):
        """A pound is 0.45359237 kg and 16 ounces (1959, by agreement)."""
        for words, mass in (
            ("6 lb 2 oz", 6.125 * 0.45359237),
            ("9lb 10", 9.625 * 0.45359237),
            ("0 lb 3.5 oz", 3.5 / 16 * 0.45359237),
            ("−1 lb 8 oz", -1.5 * 0.45359237),
            ("11 lbs 5,25 oz", (11 + 5.25 / 16) * 0.45359237),
        ):
            for system in System:
                self.assertAlmostEqual(parse(words, Quantity.MASS, system), mass, places=12, msg=words)
        for mass in (0.05, 2.63, 2.7669, 5.132):
            self.assertAlmostEqual(parse(pounds(mass, 1), Quantity.MASS), mass, delta=0.0015)
        self.assertEqual(
            (scale_text(2.7783, System.INCH), scale_text(2.7783, System.METRIC)), ("6 lb 2.0 oz", "2.778 kg")
        )
        self.assertEqual((outweighs(0.0567, System.INCH), outweighs(-0.0567, System.METRIC)), ("+2.0 oz", "−57 g"))
        self.assertEqual(outweighs(-1.5 * 0.45359237, System.INCH), "−1 lb 8.0 oz")
        self.assertEqual(text(0.00254, Quantity.FLEX, System.INCH), "0.100 in")


class Printing(unittest.TestCase):
    def test_both_systems(self):
        for value, quantity, system, shown in (
            (68.5 * 0.0254, L, System.INCH, "5'8 1/2\""),
            (1.524, L, System.INCH, "5'"),
            (0.48895, L, System.INCH, '19 1/4"'),
            (0.47, L, System.METRIC, "47.0 cm"),
            (-0.012, L, System.METRIC, "−1.2 cm"),
            (-1e-9, L, System.METRIC, "0.0 cm"),
            (0.0862, Quantity.DEPTH, System.METRIC, "86.2 mm"),
            (0.6, Quantity.AREA, System.METRIC, "6\u202f000 cm²"),
            (0.0362, Quantity.VOLUME, System.METRIC, "36.2 L"),
            (0.13962634, Quantity.ANGLE, System.METRIC, "8.0°"),
            (0.053975, Quantity.DEPTH, System.INCH, '2 1/8"'),
        ):
            with self.subTest(shown):
                self.assertEqual(text(value, quantity, system), shown)

    def test_coarser_and_finer(self):
        self.assertEqual(text(0.5134, L, extra=-1), "51 cm")
        self.assertEqual(text(0.5134, L, System.INCH, extra=-1), '20"')
        self.assertEqual(text(0.5134, L, extra=1), "51.34 cm")

    def test_sentences_are_said_in_the_readers_units(self):
        for metric, inch in (
            ("between 31.8 to 40.0 cm from the tail", 'between 12 17/32" to 15 3/4" from the tail'),
            ("85 kg at 10 m, 5.3 m², 12 kn", "187 lb at 33 ft, 5.3 m², 12 kn"),
            ("yaw 0.80 kg m², 40 N m a degree, 5 m/s", "yaw 0.80 kg m², 40 N m a degree, 5 m/s"),
            ("929 cm² released, bowed by 3.2 mm", '144 in² released, bowed by 1/8"'),
            ("mast −2.5 cm", 'mast −31/32"'),
        ):
            self.assertEqual(said_in(metric, System.METRIC), metric)
            self.assertEqual(said_in(metric, System.INCH), inch)

    def test_no_number_is_a_dash(self):
        self.assertEqual(number_text(float("nan"), L), "–")

    def test_fractions_round_trip_without_drift(self):
        """Every 1/32 in up to ten feet reads back as itself, however often."""
        random.seed(3)
        for _ in range(300):
            value = random.randrange(1, 12 * 10 * 32) / 32 * 0.0254
            again = value
            for _ in range(3):
                again = parse(text(again, L, System.INCH), L, System.INCH)
            self.assertAlmostEqual(again, value, places=12)
