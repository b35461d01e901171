"""Definitions of units.

[1] International yard and pound agreement, 1959: 1 in = 25.4 mm, 1 lb = 0.45359237 kg. [2] 3rd
General Conference on Weights and Measures, 1901: standard gravity 9.80665 m/s². [3] scipy.constants
(CODATA and NIST SP 811 factors), an independent library. [4] ASTM B258, American wire gauge: 2/0
has 67.4 mm², gauge 4 has 21.2 mm² (handbook tables, from memory). [5] ASME B94.11M drill sizes: #1
0.2280 in, #80 0.0135 in, A 0.234 in, E 0.250 in, R 0.339 in, Z 0.413 in (from memory).
"""

import unittest

import scipy.constants as c

from pindo.core.inputs.quantity import parse
from pindo.core.inputs.units import inch_fraction, to_base, wire_section_mm2
from pindo.core.tables import read_table

SCIPY = [
    # amount | unit | kind | value in the base unit, by [3]
    (1, "in", "length", c.inch * 1e3),
    (1, "ft", "length", c.foot * 1e3),
    (1, "lbf·ft", "torque", c.lbf * c.foot),
    (1, "lbf·in", "torque", c.lbf * c.inch),
    (1, "kgf·m", "torque", c.kgf),
    (1, "lb", "mass", c.lb),
    (1, "psi", "pressure", c.psi / 1e5),
    (1, "hp", "power", c.hp / 1e3),
    (1, "lbf/in", "stiffness", c.lbf / (c.inch * 1e3)),
    (1, "in²", "area", c.inch**2 * 1e6),
    (1, "sq ft", "area", c.foot**2 * 1e6),
    (1, "cu in", "volume", c.inch**3 * 1e3),
    (1, "US gal", "volume", c.gallon_US * 1e3),
    (1, "imp gal", "volume", c.gallon_imp * 1e3),
    (1, "US gal/min", "flow", c.gallon_US * 1e3),
    (1, "m³/h", "flow", 1e3 / 60),
    (68, "°F", "temperature", c.convert_temperature(68, "F", "C")),
]


class Definitions(unittest.TestCase):
    def test_against_scipy(self):
        for amount, unit, kind, value in SCIPY:
            with self.subTest(unit):
                self.assertAlmostEqual(
                    to_base(amount, unit, kind), value, delta=1e-12 * max(1, abs(value)) * 100
                )

    def test_torque_by_definition(self):
        """[1], [2]: 0.45359237 x 9.80665 x 0.3048 exactly."""
        self.assertEqual(to_base(1, "lbf·ft", "torque"), 0.45359237 * 9.80665 * 0.3048)

    def test_wire_gauges(self):
        """[4], to the digits that the tables print."""
        for gauge, section in ((-1, 67.4), (4, 21.2), (14, 2.08), (16, 1.31)):
            self.assertAlmostEqual(wire_section_mm2(gauge), section, delta=0.06)

    def test_drills(self):
        """[5]; sizes run one way through both series without a gap."""
        for name, inches in (
            ("#1", 0.228),
            ("#80", 0.0135),
            ("A", 0.234),
            ("E", 0.25),
            ("R", 0.339),
            ("Z", 0.413),
        ):
            self.assertAlmostEqual(
                parse(f"drill {name}" if len(name) == 1 else name).value, inches * 25.4, places=9
            )
        rows = read_table("drills", "name", "diameter_in")
        sizes = {row["name"]: float(row["diameter_in"]) for row in rows}
        letters = [sizes[chr(x)] for x in range(ord("A"), ord("Z") + 1)]
        numbers = [sizes[f"#{n}"] for n in range(80, 0, -1)]
        self.assertEqual(numbers + letters, sorted(numbers + letters))
        self.assertEqual(len(sizes), 106)

    def test_fractions_of_an_inch(self):
        for mm, text in (
            (19.05, "3/4"),
            (28.575, "1 1/8"),
            (0.396875, "1/64"),
            (25.4, "1"),
            (-9.525, "-3/8"),
            (10.0, None),
            (0.0, None),
        ):
            self.assertEqual(inch_fraction(mm), text)
