"""Check values of the trade. Common practice, no published source, unless a mark says more; each is
arithmetic on one figure.

Marks: (single) one observation; (contradictory) the sources do not agree, so the tool must ask.
"""

import unittest

import numpy as np

from pindo.core.geometry import chain
from pindo.core.geometry.frames import POSE, point_in_vehicle
from pindo.core.geometry.mounts import GRAVITY
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.quantity_reader import AskAgain
from pindo.core.inputs.rules import RULES
from pindo.core.judging.verdict import Verdict
from pindo.demo import garden_trolley
from tests.support import build, drawn, finding, said, statement

NM = 1.3558179483314004


class Torques(unittest.TestCase):
    def test_stages_of_the_flywheel_bolts(self):
        """20, 45, 72 lbf·ft are 27.1, 61.0, 97.6 N·m (single)."""
        for typed, nm in (
            ("20 lbf·ft", 27.1),
            ("45 lbf·ft", 61.0),
            ("72 lbf·ft", 97.6),
            ("17 lbf·ft", 23.0),
            ("11 lbf·ft", 14.9),
            ("30 lbf·ft", 40.7),
            ("310 lbf·ft", 420.3),
        ):
            self.assertAlmostEqual(parse(typed, "torque").value, nm, delta=0.05)
        self.assertAlmostEqual(parse("65 N·m", "torque").value / NM, 47.9, delta=0.05)

    def test_two_figures_joined_by_or_are_asked_about(self):
        """125 N·m or 90 lbf·ft: 3.0 N·m apart (contradictory)."""
        with self.assertRaises(AskAgain):
            parse("125 N·m or 90 lbf·ft", "torque")
        rows = [
            statement("125 N·m", "maker's paper", id="a"),
            statement("90 lbf·ft", "maker's paper", id="b"),
        ]
        self.assertEqual(
            finding(
                build({"engine_torque_nm": {"statements": rows}}), "contradiction.engine_torque_nm"
            ).condition,
            "contradiction",
        )
        self.assertAlmostEqual(125 - 90 * NM, 3.0, delta=0.05)

    def test_ratings_from_memory_close_nothing(self):
        """Clutch 650, engine 500, box 380 N·m from memory (single): ratios 1.30 and 0.76, no
        verdict.
        """
        dims = {
            k: {"statements": [statement(v, "memory")]}
            for k, v in (
                ("clutch_torque_nm", "650"),
                ("engine_torque_nm", "500"),
                ("gearbox_torque_nm", "380"),
            )
        }
        self.assertEqual(finding(build(dims), "stack.clutch_torque").verdict, Verdict.UNMEASURED)
        on_paper = said(clutch_torque_nm="650", engine_torque_nm="500", gearbox_torque_nm="380")
        self.assertAlmostEqual(finding(build(on_paper), "stack.clutch_torque").value, 1.30)
        self.assertAlmostEqual(finding(build(on_paper), "stack.gearbox_torque").value, 0.76)


class Lengths(unittest.TestCase):
    def test_tap_drill_letter_r(self):
        self.assertAlmostEqual(parse("R").value, 8.61, delta=0.005)
        self.assertAlmostEqual(parse("0.339 in").value, 8.61, delta=0.005)

    def test_a_shaft_too_long_by_x_wants_a_plate_of_x(self):
        """3/4 in of excess: the tip clears with a plate of 19.05 mm exactly as it would without
        both (single).
        """
        base = {"crank_flange_mm": "0", "crank_bore_depth_mm": "30", "separator_mm": "0"}
        plain = finding(
            build(said(**base, plate_mm="0", shaft_tip_out_mm="20")), "stack.tip_clearance"
        ).value
        longer = finding(
            build(said(**base, plate_mm="3/4 in", shaft_tip_out_mm="39.05")), "stack.tip_clearance"
        ).value
        self.assertAlmostEqual(plain, longer)

    def test_a_plate_of_one_inch_where_three_quarters_is_wanted(self):
        """The nose sits 6.35 mm less in its bearing (single)."""

        def engaged(plate):
            dims = said(
                separator_mm="0",
                plate_mm=plate,
                shaft_tip_out_mm="30",
                nose_mm="30",
                nose_chamfer_mm="0",
                crank_flange_mm="0",
                crank_spacer_mm="0",
                flywheel_mm="28",
                pilot_sunk_mm="0",
                pilot_width_mm="14",
            )
            return finding(
                build(dims, options={"pilot_in": "crank"}), "stack.pilot_engagement"
            ).value

        self.assertAlmostEqual(engaged("3/4 in") - engaged("1 in"), 6.35)

    def test_a_nose_that_could_still_go_in_by_0_to_3_2_mm_is_tight(self):
        """1/4 to 3/8 in of room less a plate change of 1/4 in leaves 0 to 3.2 mm: straddles a
        limit of 2, never goes (single).
        """
        dims = {
            "crank_bore_depth_mm": {"statements": [statement("31.6 ± 1.6", "maker's paper")]}
        } | said(crank_flange_mm="0", separator_mm="0", plate_mm="0", shaft_tip_out_mm="30")
        found = finding(build(dims), "stack.tip_clearance")
        self.assertEqual(found.verdict, Verdict.TIGHT)
        self.assertAlmostEqual(found.value, 1.6)

    def test_disc_larger_than_the_friction_face(self):
        """228 on 200 fails by 28 mm (single)."""
        found = finding(build(said(friction_face_mm="200", disc_od_mm="228")), "stack.disc_on_face")
        self.assertIn("hangs over a friction face of 200.00 mm by 28.00 mm", found.sentence.mm)

    def test_two_dowel_places_exactly_one_pin_each(self):
        holes = [
            {
                "n": i,
                "role": "dowel",
                "u": f"{150 * i}",
                "v": "0",
                "d": "16",
                "pin_in_casting": False,
                "pin_in_plate": True,
            }
            for i in (1, 2)
        ]
        made = build(said(plate_mm="18"), engine_face={"holes": holes})
        self.assertEqual(
            [finding(made, f"mate.dowel_pins.E{i}").verdict for i in (1, 2)], [Verdict.GOES] * 2
        )
        self.assertEqual(finding(made, "mate.dowel_places.engine").verdict, Verdict.GOES)

    def test_hoses_and_cables(self):
        """1.5, 1.75, 2.0 in and a 2/0 cable of 67.4 mm² (single)."""
        self.assertEqual(
            [round(parse(f"{x} in").value, 2) for x in (1.5, 1.75, 2.0)], [38.1, 44.45, 50.8]
        )
        self.assertAlmostEqual(parse("2/0 awg", "wire").value, 67.4, delta=0.05)

    def test_pressure_near_one_bar_is_asked_about(self):
        """0.99 bar fed, 3.5 wanted: gauge or absolute (single)."""
        with self.assertRaisesRegex(AskAgain, "gauge or absolute"):
            parse("0.99", "pressure")
        self.assertAlmostEqual(parse("50.8 psi", "pressure").value, 3.5, delta=0.005)


class Vehicle(unittest.TestCase):
    def test_inclination_per_metre(self):
        """2 to 3 degrees are 34.9 to 52.4 mm a metre, 10.5 to 15.7 over 300 mm."""
        for deg, metre, part in ((2, 34.9, 10.5), (3, 52.4, 15.7)):
            pose = dict.fromkeys(POSE, 0.0) | {"inclination_deg": float(deg)}
            drop = -point_in_vehicle(pose, 0.0, 1000.0, 0.0, 0.0)[2] / np.cos(np.radians(deg))
            self.assertAlmostEqual(drop, metre, delta=0.06)
            self.assertAlmostEqual(drop * 0.3, part, delta=0.06)

    def test_one_support_moved(self):
        """Tail up 20 over 800 is 1.43 deg; a point 400 above the axis moves 10 mm. Up 30 over
        600: a point 200 high moves 10.0 (single).
        """
        for up, arm, high in ((20, 800, 400), (30, 600, 200)):
            lifted = dict.fromkeys(POSE, 0.0) | {
                "inclination_deg": -float(np.degrees(np.arcsin(up / arm)))
            }
            before = np.array(
                point_in_vehicle(dict.fromkeys(POSE, 0.0), 0.0, 0.0, 0.0, float(high))
            )
            after = np.array(point_in_vehicle(lifted, 0.0, 0.0, 0.0, float(high)))
            self.assertAlmostEqual(float(np.linalg.norm(after - before)), 10.0, delta=0.02)

    def test_a_spring_sags(self):
        """150 kg on two springs of 25 N/mm sags 29.4 mm (assumed figures): the same sum as a
        mount's squash.
        """
        self.assertAlmostEqual(150 * GRAVITY / (2 * 25), 29.4, delta=0.05)

    def test_key_of_a_drive_clutch(self):
        """6.5 mechanical hp at 3600: 12.9 N·m; shaft 19.05, key 4.76, 60 MPa: 4.7 mm of hub,
        14.2 with factor 3 (assumed; single).
        """
        kw = parse("6.5 hp", "power").value
        self.assertAlmostEqual(chain.torque_nm(kw, 3600), 12.9, delta=0.05)
        self.assertAlmostEqual(
            chain.hub_wanted(kw, 3600, 19.05, 4.7625, 60.0, 1.0), 4.7, delta=0.05
        )
        self.assertAlmostEqual(
            chain.hub_wanted(kw, 3600, 19.05, 4.7625, 60.0, 3.0), 14.2, delta=0.05
        )
        self.assertIn(
            "the key wants 14.2 mm", finding(garden_trolley(), "line.hub_on_shaft").sentence.mm
        )

    def test_half_to_three_quarters_of_an_inch_is_called_ample_and_the_class_stays(self):
        """12.7 to 19.05 mm (single, below our default): soft mounts ask 20, stiff ones 10."""
        self.assertEqual(
            (RULES["clear_metal_soft_mm"].value, RULES["clear_metal_stiff_mm"].value), (20.0, 10.0)
        )
        self.assertIn("13 to 19", RULES["clear_metal_soft_mm"].reason)

    def test_a_pulley_two_ribs_wider_than_its_belt(self):
        """Front ribs used, 2 free (single): the belt lies inside the pulley."""
        pulleys = [
            {"n": i, "name": n, "right": x, "up": "0", "d": "100", "plane": "0", "ribs": "8"}
            for i, n, x in ((1, "crank", "0"), (2, "fan", "300"))
        ]
        made = build(
            said(belt_ribs="6", belt_pitch_mm="1.3", belt_back_mm="3.5"),
            pulleys=pulleys,
            options={"belt": "yes"},
        )
        self.assertEqual(finding(made, "clear.belt_ribs.1").margin, 2.0)

    def test_flywheel_stages_as_a_table(self):
        """20, ~45, 72 lbf·ft: 28, 62.5, 100 % of 97.6 N·m (single)."""
        for stages in ("27.78, 62.5, 100", "20, 45, 72", "20 lbf·ft, 45 lbf·ft, 72 lbf·ft"):
            joint = {"n": 1, "bolts": "8", "d": "M12", "torque": "72 lbf·ft", "stages": stages}
            (table,) = drawn(build(joints=[joint]))["assemble.joints"].tables[0].rows
            self.assertIn((27.1, 61.0, 97.6), table.cells)
