"""Water density against general reference libraries: iapws (IAPWS-95) and gsw (TEOS-10)."""

import unittest

import gsw
from iapws import IAPWS97

from kelvor.core.base.fluids import fresh_water_density, sea_water_density


class Density(unittest.TestCase):
    def test_fresh(self):
        for celsius in (2, 8, 15, 25, 35):
            reference = IAPWS97(T=celsius + 273.15, P=0.101325).rho
            # Tanaka 2001 and IAPWS-97 agree to some 10 ppm
            self.assertAlmostEqual(fresh_water_density(celsius), reference, delta=0.03)

    def test_sea(self):
        for celsius in (2, 11, 15, 25):
            conservative = gsw.CT_from_t(35.16504, celsius, 0)
            reference = gsw.rho(35.16504, conservative, 0)
            # practical salinity 35 against absolute 35.165 g/kg; the two equations of state differ by some 10 ppm
            self.assertAlmostEqual(sea_water_density(celsius), reference, delta=0.03)
