"""Stack: every spacing check against sums done by hand, and what must match."""

import unittest

from pindo.core.assessment import assess
from pindo.core.judging.verdict import Verdict
from tests.support import build, demo, drawn, finding, said

# One stack whose figures are easy to add up. Stations: flange 5, spacer to 15, friction face 43,
# mouth 20, tip -2, nose to 22, pilot bearing (in the crank, flush) -9 to 5.
DIMS = {
    "crank_flange_mm": "5",
    "crank_bore_depth_mm": "40",
    "crank_spacer_mm": "10",
    "flywheel_mm": "28",
    "separator_mm": "2",
    "plate_mm": "18",
    "shaft_tip_out_mm": "22",
    "nose_mm": "24",
    "nose_chamfer_mm": "2",
    "pilot_sunk_mm": "0",
    "pilot_width_mm": "14",
    "hub_front_mm": "3",
    "hub_mm": "26",
    "spline_start_mm": "40",
    "spline_mm": "60",
    "finger_height_mm": "42",
    "release_parked_mm": "71",
    "release_shim_mm": "2",
    "guide_tube_mm": "60",
    "bolt_heads_mm": "-8",
    "cover_height_mm": "60",
    "bell_depth_mm": "150",
    "flywheel_od_mm": "310",
    "bell_bore_mm": "326",
    "window_mm": "320",
    "ring_front_mm": "6",
    "ring_width_mm": "12",
    "starter_parked_mm": "17",
    "starter_out_mm": "38",
    "pinion_mm": "20",
    "disc_wear_mm": "2",
    "lever_ratio": "1.5",
    "finger_travel_mm": "8",
    "slave_stroke_mm": "16",
}
OPTIONS = {"pilot_in": "crank", "starter_on": "plate", "release_type": "stands off"}

BY_HAND = [
    # finding | value | limit below
    ("pilot_engagement", 5 - 0, 9.8),  # nose bears from -2 + 2 to 22; bearing ends at 5; 0.7 x 14
    ("tip_clearance", -2 - (5 - 40), 2),
    ("shoulder_clearance", (-2 + 24) - 5, 1.5),
    ("spline_new", 72 - 46, 24),  # hub 46 to 72, spline 38 to 98
    ("spline_worn", 71 - 45, 24),  # half of 2 mm nearer to the flywheel
    ("guide_tube", (20 + 60) - 72, 2),
    ("bolt_heads", 3 - 1 + 8, 2),
    ("release_gap", (20 + 71 - 2) - (43 + 42), 3.5),  # shift 2 x 1.5 and 0.5 to spare
    ("release_stroke", 16, 1.1 * (4 + 8)),
    ("flywheel_in_bell", 8, 3),
    ("flywheel_in_window", 5, 3),
    ("cover_to_bell", (20 + 150) - (43 + 60), 3),
    ("starter_parked", (15 + 6) - (2 + 17), 1.5),
    ("starter_mesh", 33 - 21, 0.6 * 12),  # pinion 20 to 40, ring 21 to 33
]


def stack(options=None, **changes):
    return build(said(**(DIMS | changes)), options=OPTIONS | (options or {}))


class Spacing(unittest.TestCase):
    def test_each_check_by_hand(self):
        answer = assess(stack())
        for name, value, low in BY_HAND:
            with self.subTest(name):
                found = finding(answer, f"stack.{name}")
                self.assertAlmostEqual(found.value, value)
                self.assertAlmostEqual(found.low, low)

    def test_the_pilot_moves_with_the_piece_that_it_sits_in(self):
        def shoulder(place):
            return finding(stack({"pilot_in": place}), "stack.shoulder_clearance").value

        self.assertEqual([shoulder(p) for p in ("crank", "spacer", "flywheel")], [17.0, 7.0, -21.0])

    def test_the_starter_moves_with_the_face_that_it_bolts_to(self):
        def parked(place):
            return finding(stack({"starter_on": place}), "stack.starter_parked").value

        self.assertEqual([parked(p) for p in ("engine", "plate", "housing")], [4.0, 2.0, -16.0])

    def test_a_choice_not_made_is_asked(self):
        found = finding(stack({"pilot_in": ""}), "stack.pilot_engagement")
        self.assertIn("pilot bearing or converter pilot sits in", found.sentence.mm.lower())
        self.assertEqual(
            finding(stack({"release_type": ""}), "stack.release_gap").verdict, Verdict.UNMEASURED
        )

    def test_a_shaft_that_misses_its_bearing_says_by_how_much(self):
        found = finding(stack(shaft_tip_out_mm="5"), "stack.pilot_engagement")
        self.assertIn("Nose misses its bearing by 12.00 mm", found.sentence.mm)

    def test_millimetre_for_millimetre(self):
        """The plate moves everything of the gearbox back; the spacer moves everything of the
        flywheel back.
        """
        moves = {
            "plate_mm": {"tip_clearance": 1, "release_gap": 1, "spline_new": 0, "bolt_heads": 0},
            "crank_spacer_mm": {"tip_clearance": 0, "release_gap": -1, "guide_tube": -1},
        }
        for key, effects in moves.items():
            for name, effect in effects.items():
                before, after = (
                    finding(stack(**{key: f"{float(DIMS[key]) + d}"}), f"stack.{name}").value
                    for d in (0, 1)
                )
                self.assertAlmostEqual(after - before, effect, msg=f"{key} {name}")


class Bring(unittest.TestCase):
    def test_tools_for_what_is_still_wanted(self):
        """Of a blank stack; what is measured, and what another coupling asks, is not brought."""
        (table,) = drawn(build(said(nose_d_mm="17")))["stack.spacing"].tables
        rows = {r.cells[0]: r.cells[1:] for r in table.rows}
        names = " ".join(str(r.cells[2]) for r in table.rows)
        self.assertIn("vernier depth gauge", rows)
        self.assertIn("makers' papers", rows)
        self.assertNotIn("converter pads", names)
        less = sum(n for n, _ in rows.values())
        (full,) = drawn(build())["stack.spacing"].tables
        self.assertEqual(sum(r.cells[1] for r in full.rows) - less, 1)


class Release(unittest.TestCase):
    def test_adjustable_stands_in_a_band(self):
        found = finding(stack({"release_type": "stands off, adjustable"}), "stack.release_gap")
        self.assertEqual((found.low, found.high, found.verdict), (2.0, 5.0, Verdict.GOES))

    def test_riding_needs_room_to_be_pushed_back(self):
        riding = {"release_type": "rides on the fingers"}
        found = finding(stack(riding, release_parked_mm="62"), "stack.retract_reserve")
        self.assertAlmostEqual(found.value, 5.0)
        self.assertAlmostEqual(found.low, 2 * 1.5 + 1)
        self.assertIn(
            "does not reach the new fingers by 4.00 mm",
            finding(stack(riding), "stack.retract_reserve").sentence.mm,
        )
        self.assertAlmostEqual(
            finding(stack(riding, release_parked_mm="62"), "stack.release_stroke").low, 8.8
        )
        # A bearing that does not reach the fingers has its gap of 4 to close before it frees
        # anything: 1.1 x (4 + 8).
        short = finding(stack(riding, slave_stroke_mm="12"), "stack.release_stroke")
        self.assertAlmostEqual(short.low, 13.2)
        self.assertEqual(short.verdict, Verdict.FOULS)


class BehindTheBell(unittest.TestCase):
    """A plate between bell and gearbox moves shaft, tube and slave back, and leaves bell and
    starter where they are.
    """

    def test_what_moves_and_what_stays(self):
        front, behind = (
            assess(stack({"plate_at": at, "starter_on": "housing"}))
            for at in ("engine and bell", "bell and gearbox")
        )
        for name, change in (
            ("pilot_engagement", 0),
            ("tip_clearance", 0),
            ("release_gap", 0),
            ("guide_tube", 0),
            ("cover_to_bell", -18),
            ("starter_parked", 18),
        ):
            self.assertAlmostEqual(
                finding(behind, f"stack.{name}").value - finding(front, f"stack.{name}").value,
                change,
                msg=name,
            )
        self.assertNotIn("stack.flywheel_in_window", {f.id for f in behind.findings})


class Interchange(unittest.TestCase):
    CASES = [
        # check | dimensions | value | verdict
        ("disc_on_face", {"friction_face_mm": "200", "disc_od_mm": "228"}, -28.0, "fouls"),
        ("crank_bolts", {"crank_bolts": "8", "flywheel_bolts": "6"}, 2.0, "fouls"),
        (
            "crank_circle",
            {
                "crank_pcd_mm": "96",
                "flywheel_pcd_mm": "96.4",
                "crank_bolt_mm": "12",
                "flywheel_hole_mm": "12.6",
            },
            0.1,
            "goes",
        ),
        (
            "crank_circle",
            {
                "crank_pcd_mm": "96",
                "flywheel_pcd_mm": "97",
                "crank_bolt_mm": "12",
                "flywheel_hole_mm": "12.6",
            },
            -0.2,
            "fouls",
        ),
        (
            "crank_register",
            {"flywheel_register_mm": "60.05", "crank_register_mm": "60"},
            0.05,
            "goes",
        ),
        (
            "crank_register",
            {"flywheel_register_mm": "60.2", "crank_register_mm": "60"},
            0.2,
            "fouls",
        ),
        ("spline_count", {"disc_splines": "10", "shaft_splines": "23"}, -13.0, "fouls"),
        ("spline_od", {"disc_spline_od_mm": "35", "shaft_spline_od_mm": "29"}, 6.0, "fouls"),
        ("spline_od", {"disc_spline_od_mm": "34.8", "shaft_spline_od_mm": "35"}, -0.2, "fouls"),
        ("spline_od", {"disc_spline_od_mm": "35.2", "shaft_spline_od_mm": "35"}, 0.2, "goes"),
        ("nose_fit", {"pilot_bore_mm": "17.02", "nose_d_mm": "16.98"}, 0.04, "goes"),
        ("pilot_press", {"pilot_od_mm": "39.9", "pilot_seat_mm": "40"}, -0.1, "fouls"),
        ("release_bore", {"release_bore_mm": "45.2", "guide_tube_od_mm": "45"}, 0.2, "goes"),
        ("cover_circle", {"cover_pcd_mm": "300", "flywheel_cover_pcd_mm": "302"}, -2.0, "fouls"),
        ("starter_module", {"pinion_module_mm": "10 dp", "ring_module_mm": "3"}, -0.46, "fouls"),
        (
            "starter_centres",
            {
                "starter_centre_mm": "171.8",
                "ring_module_mm": "3",
                "ring_teeth": "104",
                "pinion_teeth": "10",
            },
            0.8,
            "goes",
        ),
        (
            "clutch_torque",
            {"clutch_torque_nm": "650", "engine_torque_nm": "540"},
            650 / 540,
            "fouls",
        ),
        (
            "gearbox_torque",
            {"gearbox_torque_nm": "600", "engine_torque_nm": "540"},
            600 / 540,
            "goes",
        ),
    ]

    def test_each_pair(self):
        for name, dims, value, verdict in self.CASES:
            with self.subTest(name, **dims):
                found = finding(build(said(**dims)), f"stack.{name}")
                self.assertAlmostEqual(found.value, value)
                self.assertEqual(found.verdict.value, verdict)

    def test_spline_standards_are_compared_as_words(self):
        for a, b, verdict in (
            ("straight 10 x 35", "Straight 10x35", "goes"),
            ("10 × 35 straight", "STRAIGHT, 10x35 mm", "goes"),
            ("straight 10 x 35", "involute 10", "fouls"),
            ("straight 10 x 35", "straight 35 x 10", "fouls"),
        ):
            options = {"disc_spline_standard": a, "shaft_spline_standard": b}
            self.assertEqual(
                finding(build(options=options), "stack.spline_standard").verdict.value, verdict
            )


class Units(unittest.TestCase):
    def test_a_stack_typed_in_inches_has_the_same_margins(self):
        inches = {
            k: f"{float(v) / 25.4:.9f} in" if k.endswith("_mm") else v for k, v in DIMS.items()
        }
        a, b = assess(stack()), assess(build(said(**inches), options=OPTIONS))
        for one, other in zip(a.findings, b.findings, strict=True):
            if one.margin is not None:
                self.assertAlmostEqual(one.margin, other.margin, places=6, msg=one.id)

    def test_the_block_face_may_be_anywhere(self):
        """Station 0 is a name: moving the crank's flange and the joint by the same length leaves
        every gap of the gearbox side.
        """
        moved = stack(crank_flange_mm="12", separator_mm="9", starter_parked_mm="17")
        for name in (
            "pilot_engagement",
            "shoulder_clearance",
            "tip_clearance",
            "release_gap",
            "spline_new",
            "cover_to_bell",
            "starter_parked",
        ):
            self.assertAlmostEqual(
                finding(moved, f"stack.{name}").value,
                finding(stack(), f"stack.{name}").value,
                msg=name,
            )

    def test_the_demo_is_the_story_that_it_tells(self):
        answer = assess(demo())
        fouls = {f.id for f in answer.findings if f.verdict == Verdict.FOULS}
        in_the_chassis = {
            "clear.belt_plane.4",
            "clear.pair.4-21",
            "assemble.early.5",
            "assemble.preload.4",
            "log.credit.5",
            "log.fit.1.2",
            "survey.claim.2.1",
            "survey.kit.1.3.count",
            "survey.kit.1.4.size",
        }
        self.assertEqual(
            fouls - in_the_chassis,
            {
                "mate.pocket.G9",
                "mate.dowel_pins.G22",
                "stack.release_gap",
                "stack.starter_module",
                "stack.window",
            },
        )
        self.assertLessEqual(in_the_chassis, fouls)
        self.assertLessEqual(
            {"contradiction", "lapsed", "blocked", "provisional"},
            {f.condition for f in answer.findings},
        )
