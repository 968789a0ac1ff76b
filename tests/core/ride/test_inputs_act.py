"""What can be typed acts: a few parts of a brief, a fitting, a foil and the table, drawn by a seed.

`python -m tools.inputs_act` walks all of them, the mill's too.
"""

import unittest

from tools.inputs_act import WALKS, idle


class Acts(unittest.TestCase):
    def walk(self, name, few, least):
        inputs = list(WALKS[name]())
        self.assertGreater(len({one.path for one in inputs}), least)
        stands, walked = idle(inputs, few=few)
        self.assertEqual(stands, [])
        self.assertEqual(walked, few)

    def test_parts_of_a_brief(self):
        self.walk("brief", 6, 20)

    def test_parts_of_a_fitting(self):
        self.walk("fittings", 8, 40)

    def test_parts_of_a_foil(self):
        self.walk("foil", 3, 8)

    def test_coefficients(self):
        self.walk("coefficients", 24, 100)


if __name__ == "__main__":
    unittest.main()
