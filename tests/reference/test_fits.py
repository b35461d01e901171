"""Fits, hydraulics, gear pairs and the order of contact against things outside the project.

ISO 286-2 limits: values of the published tables, from memory. Tolerance unit i = 0.45 D^(1/3) +
0.001 D and the multiples of the grades: ISO 286-1, from memory. Pascal's law and machine element
handbooks for clutch and pistons: closed forms, from memory. Working angle of shifted gears: scipy's
root finder on the involute function. Contact order: rectangles pushed together in shapely.
"""

import unittest

import numpy as np
from scipy.optimize import brentq
from shapely import affinity, box

from pindo.core.geometry.iso_fits import NoFit, fit, limits
from pindo.core.inputs.resolve import resolve
from pindo.core.stations.stack.contacts import contacts
from pindo.core.stations.stack.cover import mean_radius, pressure_radius
from pindo.core.stations.stack.pedal import area_mm2
from pindo.core.stations.stack.starter import shifted_angle
from pindo.core.tables import read_table
from tests.core.test_converter import DIMS as AUTO
from tests.core.test_converter import OPTIONS as AUTO_OPTIONS
from tests.core.test_window import DIMS, OPTIONS
from tests.support import build, said

# nominal, class, lower and upper deviation in micrometres: ISO 286-2, from memory.
PUBLISHED = (
    (17, "H7", 0, 18),
    (40, "H7", 0, 25),
    (62, "H8", 0, 46),
    (17, "f7", -34, -16),
    (25, "f7", -41, -20),
    (20, "g6", -20, -7),
    (40, "g6", -25, -9),
    (17, "h6", -11, 0),
    (40, "h6", -16, 0),
    (20, "k6", 2, 15),
    (45, "k6", 2, 18),
    (40, "m6", 9, 25),
    (30, "n6", 15, 28),
    (40, "p6", 26, 42),
    (40, "e8", -89, -50),
    (40, "d9", -142, -80),
    (40, "K7", -18, 7),
    (35, "K7", -18, 7),
    (47, "M7", -25, 0),
    (52, "N7", -39, -9),
    (40, "N7", -33, -8),
    (40, "P7", -42, -17),
    (25, "P7", -35, -14),
    (20, "G7", 7, 28),
    (40, "F8", 25, 64),
)


class Iso286(unittest.TestCase):
    def test_published_limits(self):
        for nominal, name, low, high in PUBLISHED:
            with self.subTest(f"{nominal} {name}"):
                got = limits(nominal, name)
                self.assertAlmostEqual((got.low - nominal) * 1000, low, places=6)
                self.assertAlmostEqual((got.high - nominal) * 1000, high, places=6)

    def test_grades_follow_the_tolerance_unit(self):
        """IT6 to IT11 are 10, 16, 25, 40, 64, 100 i, rounded by the standard."""
        multiples = {"IT6": 10, "IT7": 16, "IT8": 25, "IT9": 40, "IT10": 64, "IT11": 100}
        for row in read_table("iso286", *_columns()):
            if row["over_mm"] == "0":
                continue
            middle = np.sqrt(float(row["over_mm"]) * float(row["to_mm"]))
            unit = 0.45 * middle ** (1 / 3) + 0.001 * middle
            for grade, times in multiples.items():
                off = abs(float(row[grade]) - times * unit)
                self.assertLessEqual(off, 0.6 + 0.06 * float(row[grade]), (row, grade))

    def test_play_of_a_running_fit_and_of_a_press(self):
        run = fit(limits(17, "H7"), limits(17, "f7"))
        self.assertAlmostEqual(run.least, 0.016)
        self.assertAlmostEqual(run.most, 0.052)
        press = fit(limits(40, "P7"), limits(40, "h6"))
        self.assertAlmostEqual(press.least, -0.042)
        self.assertAlmostEqual(press.most, -0.001)

    def test_what_is_not_worked_out_says_so(self):
        for nominal, name in ((40, "X7"), (40, "H"), (40, "H4"), (300, "H7"), (0, "H7"), (40, "")):
            with self.assertRaises(NoFit):
                limits(nominal, name)


def _columns():
    from pindo.core.geometry.iso_fits import COLUMNS

    return COLUMNS


class Closed(unittest.TestCase):
    def test_pistons(self):
        """3/4 in: 285.0 mm² (common practice, no published source); a ring is the difference."""
        self.assertAlmostEqual(area_mm2(19.05), 285.0, places=1)
        self.assertAlmostEqual(area_mm2(50, 40), np.pi / 4 * (2500 - 1600))

    def test_working_radius_by_integration(self):
        """Uniform pressure: the integral of r over the ring; uniform wear: of a constant p r."""
        out, inside = 120.0, 80.0
        r = np.linspace(inside, out, 20001)
        by_pressure = np.trapezoid(r * r, r) / np.trapezoid(r, r)
        self.assertAlmostEqual(pressure_radius(240, 160), by_pressure, places=4)
        by_wear = np.trapezoid(r, r) / np.trapezoid(np.ones_like(r), r)
        self.assertAlmostEqual(mean_radius(240, 160), by_wear, places=4)

    def test_working_angle_of_shifted_gears(self):
        def involute(a):
            return np.tan(a) - a

        rng = np.random.default_rng(8)
        for _ in range(40):
            z1, z2 = rng.integers(8, 16), rng.integers(90, 180)
            x1, x2 = rng.uniform(-0.2, 0.8), rng.uniform(-0.3, 1.0)
            a = np.radians(20.0)
            wanted = involute(a) + 2 * np.tan(a) * (x1 + x2) / (z1 + z2)
            exact = brentq(lambda w, v=wanted: involute(w) - v, 0.01, 1.0, xtol=1e-14)
            self.assertAlmostEqual(shifted_angle(x1, x2, z1, z2, 20.0), exact, places=10)


class ContactOrder(unittest.TestCase):
    """The gearbox pushed on from far off, its features as rectangles: where each first touches its
    counterpart is measured.
    """

    SHIFTED = (
        "crank_flange_mm",
        "crank_spacer_mm",
        "flywheel_mm",
        "plate_mm",
        "shaft_tip_out_mm",
        "hub_front_mm",
        "hub_mm",
        "spline_start_mm",
        "finger_height_mm",
        "release_parked_mm",
        "guide_tube_mm",
    )

    def test_solids_pushed_together(self):
        rng = np.random.default_rng(12)
        for _ in range(6):
            shift = {k: f"{float(DIMS[k]) + rng.uniform(-4, 4):.2f}" for k in self.SHIFTED}
            of = build(said(**(DIMS | shift | {"dowel_out_mm": "9"})), options=OPTIONS)
            inputs = resolve(of)
            found, _ = contacts(inputs)
            at = {c.feature.name: c.at for c in found}
            v = {k: float(x) for k, x in (DIMS | shift).items()}
            flange = v["crank_flange_mm"]
            face = flange + v["crank_spacer_mm"] + v["flywheel_mm"]
            mouth = v["separator_mm"] + v["plate_mm"]
            tip = mouth - v["shaft_tip_out_mm"]
            hub = box(face + v["hub_front_mm"], 20, face + v["hub_front_mm"] + v["hub_mm"], 30)
            bearing = box(flange - 14, 8, flange, 20)
            fingers = box(face, 40, face + v["finger_height_mm"], 45)
            start = tip + v["spline_start_mm"]
            moving = {
                "spline into the disc's hub": (box(start, 18, start + 60, 22), hub),
                "nose into its bearing": (box(tip, 7, tip + 300, 9), bearing),
                "shaft shoulder on the bearing": (
                    box(tip + v["nose_mm"], 7, tip + 300, 15),
                    bearing,
                ),
                "release bearing on the fingers": (
                    box(
                        mouth + v["release_parked_mm"] - v["release_shim_mm"],
                        40,
                        mouth + 300,
                        45,
                    ),
                    fingers,
                ),
                "guide tube on the disc's hub": (
                    box(mouth + v["guide_tube_mm"], 24, mouth + 300, 28),
                    hub,
                ),
            }
            for name, (mover, still) in moving.items():
                # From 500 mm off the gap that is left is how far it may still be pushed.
                far = affinity.translate(mover, 500.0)
                self.assertAlmostEqual(500.0 - far.distance(still), at[name], places=6, msg=name)

    def test_a_converter_pushed_on(self):
        rng = np.random.default_rng(5)
        keys = ("crank_flange_mm", "plate_mm", "pad_depth_mm", "flexplate_offset_mm")
        for _ in range(6):
            shift = {k: f"{float(AUTO[k]) + rng.uniform(-4, 4):.2f}" for k in keys}
            dims = AUTO | shift
            of = build(said(**dims, dowel_out_mm="9"), options=AUTO_OPTIONS)
            at = {c.feature.name: c.at for c in contacts(resolve(of))[0]}
            v = {k: float(x) for k, x in dims.items()}
            crank = v["crank_flange_mm"]
            pads = v["separator_mm"] + v["plate_mm"] + v["pad_depth_mm"]
            seat = crank + v["crank_spacer_mm"] + v["flexplate_offset_mm"]
            pilot = box(pads - v["converter_pilot_mm"], 0, pads, 20)
            bottom = crank - v["crank_bore_depth_mm"]
            for name, mover, still in (
                ("converter pilot into its bore", pilot, box(crank - 60, 0, crank, 22)),
                ("converter pilot in the bottom of the bore", pilot, box(-99, 0, bottom, 22)),
                (
                    "converter pads on the flexplate",
                    box(pads, 120, pads + 40, 140),
                    box(seat - 3, 110, seat, 140),
                ),
            ):
                far = affinity.translate(mover, 500.0)
                self.assertAlmostEqual(500.0 - far.distance(still), at[name], places=6, msg=name)


if __name__ == "__main__":
    unittest.main()
