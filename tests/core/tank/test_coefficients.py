"""The table of coefficients: each has its words and source; that each moves a figure is walked with other inputs."""

import unittest
from dataclasses import fields

from kelvor.core.tank.laws.coefficients import ABOUT, Coefficients
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS as TABLE


class Table(unittest.TestCase):
    def test_every_coefficient_is_declared_whole(self):
        self.assertEqual(set(ABOUT), {f.name for f in fields(Coefficients)})
        for key, about in ABOUT.items():
            with self.subTest(key):
                value = getattr(TABLE, key)
                self.assertTrue(
                    about.low <= value - about.band and value + about.band <= about.high, "its band leaves its range"
                )
                self.assertGreater(about.band, 0)
                self.assertTrue(about.label[0].isalpha() and about.source)
                self.assertRegex(about.source, r"judgement|common practice|memory|lifting line|neuralfoil")


if __name__ == "__main__":
    unittest.main()
