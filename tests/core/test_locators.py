"""Locators: the float of each joint, the swing of all, and joints that nothing centres."""

import math
import unittest

from pindo.core.assessment import assess
from pindo.core.judging.verdict import Verdict
from tests.support import build, drawn, said, statement

CLUTCHED = {"coupling": "clutch and bellhousing"}
EXACT = {"source": "drawing", "pm": "0"}


def joint(n, by, hole=None, inside=None, hole_2=None, **more):
    return {
        "n": n,
        "name": f"J{n}",
        "by": by,
        "hole": hole,
        "inside": inside,
        "hole_2": hole_2,
        "evidence": EXACT,
        **more,
    }


def of(*rows, **dims):
    return build(said(**dims), locators=list(rows), options=CLUTCHED)


def ids(made):
    return {f.id: f for f in assess(made).findings if f.question == "mate.locators"}


FINE = (
    joint(1, "dowels", "12.02", "12.00"),
    joint(2, "register", "100.06", "100.00"),
    joint(3, "fitted bolts", "10.02", "10.00"),
)


class Swing(unittest.TestCase):
    def test_floats_add_at_worst_and_by_squares_as_is_likely(self):
        told = ids(of(*FINE))["mate.locators.swing"]
        # Floats 0.01, 0.03, 0.01: worst 2 x 0.05, likely 2 x sqrt(0.0011).
        self.assertIn(f"swings {2 * math.sqrt(0.0011):.2f} mm", told.sentence.mm)
        self.assertIn("0.10 mm at worst", told.sentence.mm)
        self.assertEqual(told.verdict, Verdict.GOES)

    def test_a_worst_beyond_the_limit_is_tight_and_never_fouls_of_itself(self):
        # Floats 0.01 and 0.12: likely 0.241, worst 0.26; with 0.14 even the likely is beyond 0.25.
        for hole, verdict in (("100.24", Verdict.TIGHT), ("100.28", Verdict.UNMEASURED)):
            wide = joint(2, "register", hole, "100.0")
            self.assertEqual(ids(of(FINE[0], wide))["mate.locators.swing"].verdict, verdict)

    def test_doubt_of_the_sizes_counts_against_it(self):
        loose = FINE[1] | {"hole": "100.2", "evidence": EXACT}
        self.assertEqual(ids(of(loose))["mate.locators.swing"].verdict, Verdict.GOES)
        # 0.20 and ± 0.06 of a clearance is 0.26 at worst.
        doubted = loose | {"evidence": {"source": "drawing", "pm": "0.06"}}
        self.assertEqual(ids(of(doubted))["mate.locators.swing"].verdict, Verdict.TIGHT)

    def test_a_dial_stands_for_the_joints_that_it_saw(self):
        rows = [
            joint(1, "bolts into threads", "11", "10", dialled=True),
            joint(2, "dowels", "12.02", "12.00"),
        ]
        told = ids(of(*rows, bore_tir_mm="0.10"))
        self.assertIn("0.12 mm at worst, the dialled part", told["mate.locators.swing"].sentence.mm)
        self.assertEqual(told["mate.locators.swing"].verdict, Verdict.GOES)
        self.assertEqual(told["mate.locators.joint.1"].verdict, Verdict.TIGHT)
        undialled = ids(of(*rows))["mate.locators.swing"]
        self.assertEqual(undialled.verdict, Verdict.UNMEASURED)

    def test_the_dial_s_own_doubt_counts_in_full(self):
        rows = [joint(1, "dowels", "12.00", "12.00", dialled=True)]
        for pm, verdict in (("0.04", Verdict.GOES), ("0.06", Verdict.TIGHT)):
            made = of(*rows)
            document = made.model_dump(mode="json")
            dial = statement("0.20", "measured", "dial indicator", pm=pm)
            document["dims"]["bore_tir_mm"] = {"statements": [dial]}
            told = ids(made.model_validate(document))["mate.locators.swing"]
            self.assertEqual(told.verdict, verdict, pm)

    def test_a_dial_read_in_another_attitude_stands_for_nothing(self):
        made = of(joint(1, "bolts into threads", "11", "10", dialled=True))
        document = made.model_dump(mode="json")
        hung = {"position": "hung"}
        dial = statement("0.05", "measured", "dial indicator", pm="0", state=hung)
        document["dims"]["bore_tir_mm"] = {"statements": [dial]}
        told = ids(made.model_validate(document))["mate.locators.swing"]
        self.assertEqual(told.verdict, Verdict.UNMEASURED)
        self.assertNotIn("the dialled part", told.sentence.mm)


class NothingCentres(unittest.TestCase):
    def test_bolts_alone_float_by_their_clearance(self):
        for row, floats in (
            (joint(1, "bolts into threads", "11", "10"), "0.50"),
            (joint(1, "bolts with nuts", "11", "10", "12"), "1.50"),
        ):
            told = ids(of(row, *FINE[1:]))
            self.assertEqual(told["mate.locators.joint.1"].verdict, Verdict.UNMEASURED)
            self.assertIn(f"floats by {floats} mm", told["mate.locators.joint.1"].sentence.mm)
            self.assertEqual(told["mate.locators.swing"].verdict, Verdict.UNMEASURED)

    def test_pins_out_nothing_or_not_said_leave_no_swing_to_tell(self):
        for row, words in (
            (FINE[0] | {"out": True}, "pins of J1 are out"),
            (joint(1, "nothing"), "Nothing holds J1"),
            (joint(1, "not said", "12.1", "12"), "Nobody has said what locates J1"),
            (joint(1, "dowels", "12.02"), "pin, spigot or bolt wanting"),
        ):
            told = ids(of(row, *FINE[1:]))
            self.assertIn(words, told["mate.locators.joint.1"].sentence.mm)
            self.assertNotIn("mate.locators.swing", told)

    def test_a_pin_larger_than_its_hole_is_no_gain(self):
        told = ids(of(joint(1, "dowels", "12.00", "12.02")))["mate.locators.swing"]
        self.assertIn("0.00 mm at worst", told.sentence.mm)

    def test_one_larger_than_any_press_fit_is_misread(self):
        for row in (
            joint(1, "dowels", "12.00", "12.10"),
            joint(1, "bolts with nuts", "11", "10", "9.9"),
        ):
            told = ids(of(row, *FINE[1:]))
            self.assertEqual(told["mate.locators.joint.1"].verdict, Verdict.UNMEASURED)
            self.assertIn("0.10 mm larger than its hole", told["mate.locators.joint.1"].sentence.mm)
            self.assertNotIn("mate.locators.swing", told)


class Wedge(unittest.TestCase):
    def test_a_part_that_is_not_as_thick_everywhere(self):
        for thick, verdict in (("18.1", Verdict.GOES), ("18.4", Verdict.FOULS)):
            row = FINE[0] | {"thickest": thick, "thinnest": "18.0", "apart": "300"}
            told = ids(of(row))["mate.locators.tilt.1"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn("over 300", told.sentence.mm)
        half = ids(of(FINE[0] | {"thickest": "18.1"}))["mate.locators.tilt.1"]
        self.assertEqual(half.verdict, Verdict.UNMEASURED)


class Shown(unittest.TestCase):
    def test_the_table_says_which_joint_to_dial(self):
        board = drawn(of(joint(1, "bolts into threads", "11", "10"), FINE[1]))["mate.locators"]
        (table,) = board.tables
        self.assertEqual([r.cells[4] for r in table.rows], ["dial it", ""])
        self.assertAlmostEqual(table.rows[0].cells[2], 0.5)
        self.assertAlmostEqual(table.rows[1].cells[3], 100 * 0.03 / 0.53)


if __name__ == "__main__":
    unittest.main()
