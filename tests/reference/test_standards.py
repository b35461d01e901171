"""Published tables and rules that the checks of Mate and Stack lean on. Cited from memory unless derived.

[1] ISO 4017, 4032 (hexagon screws and nuts): M8 s 13 k 5.3 m 6.8; M10 s 16 k 6.4 m 8.4; M12 s 18 k 7.5 m 10.8.
[2] ISO 4762 (cap heads): dk 1.5 d nearly, k = d. [3] ISO 10642 (countersunk): theoretical dk = 2.24 d to M12.
[4] ISO 273, clearance holes, medium: 6.6, 9, 11, 13.5, 17.5 for M6, M8, M10, M12, M16.
[5] EN 1993-1-8, Table 3.3: p1 >= 2.2 d0, e1 >= 1.2 d0.
[6] ASME Y14.5, appendix B: fixed fastener T = (H - F)/2, floating fastener T = H - F.
[7] ISO 286-1/-2: H7 and f7 over 10 to 18 mm are 0/+18 and -16/-34 µm: clearance 16 to 52 µm.
[8] ISO 21771 / ISO 53 (gears): centre distance m (z1 + z2)/2; backlash from centre distance j = 2 da tan(alpha).
"""

import math
import unittest

import numpy as np

from pindo.core.mate import geometry
from pindo.core.mate.fasteners import clearance_hole, head
from pindo.core.rules import RULES
from pindo.core.stack import interchange
from pindo.core.tables import read_table
from tests.support import build, finding, said


class Fasteners(unittest.TestCase):
    def test_hexagons(self):
        for d, s, k, m in ((8, 13, 5.3, 6.8), (10, 16, 6.4, 8.4), (12, 18, 7.5, 10.8)):
            screw, nut = head("hex head", d), head("nut", d)
            self.assertAlmostEqual(screw.circle, 2 * s / math.sqrt(3))
            self.assertEqual((screw.height, nut.height), (k, m))

    def test_cap_and_countersunk_heads(self):
        for d in (6, 8, 10, 12, 16):
            self.assertEqual(head("cap head", d).height, d)
            self.assertAlmostEqual(head("cap head", d).circle / d, 1.5, delta=0.2)
            sunk = head("countersunk", d)
            if d < 16:
                self.assertAlmostEqual(sunk.circle / d, 2.24, delta=0.005)
            # The circle is the theoretical sharp edge of a 90 degree cone, the height the real head's, flattened at its rim.
            self.assertLess(sunk.height, (sunk.circle - d) / 2)

    def test_clearance_holes(self):
        for d, hole in ((6, 6.6), (8, 9), (10, 11), (12, 13.5), (16, 17.5)):
            self.assertEqual(clearance_hole(d), hole)

    def test_the_table_runs_one_way(self):
        rows = [[float(x) for x in row] for row in read_table("fasteners")[0]]
        for column in range(len(rows[0])):
            values = [row[column] for row in rows]
            self.assertEqual(values, sorted(values), f"column {column}")


class Rules(unittest.TestCase):
    def test_spacing_and_edges(self):
        self.assertEqual((RULES["hole_spacing_factor"].value, RULES["edge_factor"].value), (2.2, 1.2))

    def test_a_fixed_fastener_passes_to_exactly_its_tolerance(self):
        """[6]: two discs, one inside the other: a screw of d inside a hole of H touches at (H - F)/2."""
        play = geometry.place_play(11.0, 10.0)
        for off, passes in ((play - 1e-6, True), (play + 1e-6, False)):
            angles = np.linspace(0, 2 * np.pi, 721)
            rim = np.hypot(off + 5 * np.cos(angles), 5 * np.sin(angles)).max()
            self.assertEqual(bool(rim <= 5.5), passes)

    def test_running_fit_of_the_nose_lies_inside_the_default_band(self):
        low, high = RULES["nose_clearance_min_mm"].value, RULES["nose_clearance_max_mm"].value
        self.assertTrue(low <= 0.016 and high >= 0.052)


class Gears(unittest.TestCase):
    def test_centre_distance(self):
        self.assertAlmostEqual(interchange.centre_excess(171.8, 3.0, 104, 10), 171.8 - 171.0)

    def test_backlash_from_centre_distance(self):
        """[8], through the exact involute: backlash at the working pitch circle for a small excess."""
        m, z1, z2, alpha = 3.0, 10, 104, math.radians(20)
        a0 = m * (z1 + z2) / 2
        for j in (0.3, 0.6, 0.9):
            excess = interchange.excess_for_backlash(j, 20.0)
            working = math.acos(a0 * math.cos(alpha) / (a0 + excess))
            involute = lambda x: math.tan(x) - x  # noqa: E731
            exact = 2 * (a0 + excess) * (involute(working) - involute(alpha))
            self.assertAlmostEqual(exact / j, 1.0, delta=0.05)

    def test_diametral_pitch(self):
        """10 DP is 25.4/10 mm: beside module 2.5 it looks right and is wrong."""
        dims = said(pinion_module_mm="10 dp", ring_module_mm="2.5")
        self.assertEqual(finding(build(dims), "stack.starter_module").verdict.value, "fouls")
