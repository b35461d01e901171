"""The wiring of whole families, through assess: value, limit, doubt and verdict against statics by
hand, handbook sums and second routes. The formulas themselves are held by tests/reference.

Source of the expected figures: closed forms of a level unit whose mounts stand square about its
mass centre (common practice, no published source), and sums by hand.
"""

import math
import unittest

import numpy as np

from pindo.core.assessment import assess, evaluate_all, worst_first
from pindo.core.inputs.faces import THREAD_SIZES
from pindo.core.inputs.lapse import lapsing
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.threads import nominal, proof_mpa
from pindo.core.judging.uncertainty import margin_at, margins
from pindo.core.judging.verdict import Verdict
from tests.support import build, demo, drawn, finding, said

G = 9.80665
LEVEL = dict.fromkeys(
    (
        "block_face_back_mm",
        "crank_side_mm",
        "crank_height_mm",
        "roll_deg",
        "inclination_deg",
        "yaw_deg",
        "mass_left_mm",
        "mass_up_mm",
    ),
    "0",
)
MASS, TORQUE, LOW, REVERSE = 400.0, 300.0, 4.0, 3.0
KX, KY, KZ, BACK, SIDE = 300.0, 250.0, 800.0, 400.0, 200.0
UNIT = LEVEL | {
    "mass_back_mm": "-100",
    "unit_mass_kg": f"{MASS}",
    "engine_torque_nm": f"{TORQUE} N·m",
    "first_gear_ratio": f"{LOW}",
    "reverse_ratio": f"{REVERSE}",
    "gyration_roll_mm": "150",
    "gyration_pitch_mm": "300",
    "gyration_yaw_mm": "300",
    "cylinders": "4",
    "idle_rpm": "800",
    "rail_height_mm": "600",
}


def evidence(**more):
    return {"source": "drawing", "pm": "0", **more}


def mounts(**more):
    """Four mounts square about the mass centre, at its height."""
    return [
        {
            "n": n,
            "name": "",
            "back": f"{-100 + BACK * back}",
            "left": f"{SIDE * left}",
            "up": "0",
            "kx": f"{KX} ± 0",
            "ky": f"{KY} ± 0",
            "kz": f"{KZ} ± 0",
            "stiffness_from": "drawing",
            "evidence": evidence(),
            **more,
        }
        for n, back, left in ((1, -1, 1), (2, -1, -1), (3, 1, 1), (4, 1, -1))
    ]


def unit(sizes=None, options=None, rows=None, **more):
    return build(
        said(**{**UNIT, **(sizes or {})}),
        options={"mount_type": "soft rubber", "strokes": "four-stroke", **(options or {})},
        mounts=mounts(**(rows or {})),
        **more,
    )


# Movement of a mount in each load case by hand. [mm]
ROLL = 4 * KZ * SIDE**2
CASES = {
    "first_gear_ratio": TORQUE * 1e3 * LOW / ROLL * SIDE,
    "reverse_ratio": TORQUE * 1e3 * REVERSE / ROLL * SIDE,
    "braking_g": MASS * G / (4 * KX),
    "cornering_g": MASS * G / (4 * KY),
    "bump_g": MASS * G / (4 * KZ),
}


class OnMounts(unittest.TestCase):
    def test_each_load_case_in_its_turn_is_the_greatest(self):
        """Every other case made nothing, the movement is that case's own."""
        none = {"braking_g": 0.0, "cornering_g": 0.0, "bump_g": 1.0}
        for case, sizes, rules, expected in (
            ("lowest gear", {"reverse_ratio": "1"}, none, CASES["first_gear_ratio"]),
            ("reverse", {"first_gear_ratio": "1"}, none, CASES["reverse_ratio"]),
            ("braking", {}, none | {"braking_g": 0.9}, 0.9 * CASES["braking_g"]),
            ("cornering", {}, none | {"cornering_g": 0.7}, 0.7 * CASES["cornering_g"]),
            ("bump", {}, none | {"bump_g": 3.0}, 2.0 * CASES["bump_g"]),
        ):
            if "gear" not in case and case != "reverse":
                sizes = {"engine_torque_nm": "20 N·m"}
            over = {key: {"value": v, "note": "for the test"} for key, v in rules.items()}
            for n in range(1, 5):
                found = finding(unit(sizes, rules=over), f"seat.travel.{n}")
                self.assertAlmostEqual(found.value, expected, places=4, msg=case)
                self.assertEqual(found.inputs.count("unit_mass_kg"), 1)

    def test_share_squash_load_and_isolation(self):
        of = unit(rows={"rating": "2500 N", "travel": "1"})
        weight = MASS * G / 4
        for n in range(1, 5):
            self.assertAlmostEqual(finding(of, f"seat.share.{n}").value, 25.0, places=6)
            squash = finding(of, f"seat.squash.{n}")
            self.assertAlmostEqual(squash.value, weight / KZ, places=6)
            self.assertEqual((squash.high, squash.verdict), (8.0, Verdict.GOES))
            load = finding(of, f"seat.load.{n}")
            bump = assess(of).findings and load.value
            self.assertAlmostEqual(bump, 3.0 * weight, delta=1e-6 * weight)
            self.assertEqual((load.high, load.verdict), (2500.0, Verdict.FOULS))
            self.assertEqual(finding(of, f"seat.travel.{n}").high, 1.0)
        roll = finding(of, "seat.isolation")
        hertz = math.sqrt(ROLL / (MASS * 150.0**2) * 1e3) / (2 * math.pi)
        self.assertAlmostEqual(roll.value, hertz, places=4)
        self.assertAlmostEqual(roll.high, 800 / 60 * 4 / 2 / math.sqrt(2), places=2)
        two = finding(unit(options={"strokes": "two-stroke"}), "seat.isolation")
        self.assertAlmostEqual(two.high, 2 * roll.high, places=6)
        stiff = assess(unit(options={"mount_type": "stiff"}))
        self.assertNotIn("seat.isolation", {f.id for f in stiff.findings})

    def test_the_mount_nearer_to_the_mass_carries_more_and_doubt_goes_with_the_lever(self):
        """100 mm off the middle of 800: 62.5 % and 37.5 %; du = u / 800 x 100 %."""
        of = unit({"mass_back_mm": "-200"})
        shares = [finding(of, f"seat.share.{n}").value for n in range(1, 5)]
        for found, expected in zip(shares, (31.25, 31.25, 18.75, 18.75), strict=True):
            self.assertAlmostEqual(found, expected, places=6)
        dims = of.model_dump(mode="json")["dims"]
        dims["mass_back_mm"]["statements"][0]["pm"] = "8"
        doubtful = finding(of.model_validate(of.model_dump() | {"dims": dims}), "seat.share.1")
        self.assertAlmostEqual(doubtful.value_pm, 8 / 800 * 50, places=6)

    def test_movement_counts_towards_what_it_moves_to(self):
        """A unit that brakes goes forward; in the lowest gear its left side lifts, in reverse its
        right one, with as much as that gear gives.
        """
        engine = {"n": 1, "body": "engine", "shape": "box", "a": "200", "b": "400", "c": "200"}
        engine |= {"back": "-100", "left": "0", "up": "0", "evidence": evidence()}
        rules = {"braking_g": 0.9, "cornering_g": 0.0, "bump_g": 1.0}
        over = {key: {"value": v, "note": "for the test"} for key, v in rules.items()}
        # Chassis: behind the front axle, left, above the rail's top.
        for where, at, expected in (
            ("ahead", ("-230", "0", "0"), 0.9 * CASES["braking_g"]),
            ("behind", ("30", "0", "0"), 0.0),
            ("over the left", ("-100", "190", "130"), CASES["first_gear_ratio"] * 190 / SIDE),
            ("over the right", ("-100", "-190", "130"), CASES["reverse_ratio"] * 190 / SIDE),
        ):
            back, left, up = at
            other = {"n": 2, "body": "chassis", "shape": "sphere", "a": "20"}
            other |= {"back": back, "left": left, "up": up, "evidence": evidence()}
            still = {"engine_torque_nm": "20 N·m"} if where in ("ahead", "behind") else {}
            rule = over if still else over | {"braking_g": {"value": 0.0, "note": "for the test"}}
            of = unit(still, solids=[engine, other], rules=rule)
            found = finding(of, "clear.pair.1-2")
            room = 20.0  # left between them at rest, whichever way
            self.assertAlmostEqual(found.value, room, places=6, msg=where)
            own = 20.0  # of the class table, metal on soft mounts
            self.assertAlmostEqual(found.low - own, expected, delta=0.02, msg=where)


class Entries(unittest.TestCase):
    def test_units_by_definition(self):
        for typed, kind, value in (
            ("100 PS", "power", 73.549875),
            ("10 mrad", "angle", math.degrees(0.01)),
            ("2 kgf", "force", 19.6133),
            ("250 kPa", "pressure", 2.5),
            ("3 kN", "force", 3000.0),
            ("1.5 h", "time", 90.0),
            ("60 mph", "road speed", 96.56064),
            ("2 kN/m", "stiffness", 2.0),
        ):
            self.assertAlmostEqual(parse(typed, kind).value, value, places=6, msg=typed)

    def test_a_doubt_takes_the_unit_that_was_typed(self):
        for typed, value, pm in (
            ("1 in ± 1/64", 25.4, 25.4 / 64),
            ("10 cm ± 1", 100.0, 10.0),
            ("10 mm ± 1 thou", 10.0, 0.0254),
        ):
            found = parse(typed)
            self.assertAlmostEqual(found.value, value, places=9)
            self.assertAlmostEqual(found.pm, pm, places=9)

    def test_a_lapsed_row_counts_for_nothing(self):
        row = {"evidence": evidence(lapsed={"event": "unit moved"})}
        of = unit(rows=row)
        self.assertEqual(finding(of, "seat.share.1").verdict, Verdict.UNMEASURED)
        self.assertEqual(finding(of, "seat.share.1").condition, "lapsed")
        self.assertIn("unit moved", finding(of, "seat.share.1").sentence.mm)


class Ranking(unittest.TestCase):
    def test_the_worst_first(self):
        found = worst_first(assess(demo(), ()).findings)
        rank = {"fouls": 0, "tight": 1, "unmeasured": 2, "goes": 3}
        order = [rank[f.verdict.value] for f in found]
        self.assertEqual(order, sorted(order))
        fouling = [f.margin for f in found if f.verdict == Verdict.FOULS and f.margin is not None]
        self.assertEqual(len(fouling), len([m for m in fouling if m < 0]))

    def test_the_nearest_thread(self):
        for d, size in ((9.95, 10.0), (12.05, 12.0), (9.5, 9.525), (13.5, None)):
            self.assertAlmostEqual(nominal(d, THREAD_SIZES) or 0.0, size or 0.0, places=9, msg=d)

    def test_proof_loads_step_with_size(self):
        """ISO 898-1: 8.8 to M16 580 MPa, above 600; 10.9 830; SAE J429: grade 5 to 1 in 85 ksi,
        above 74 ksi (from memory).
        """
        for grade, d, mpa in (("8.8", 16, 580), ("8.8", 18, 600), ("10.9", 20, 830)):
            self.assertEqual(proof_mpa(grade, d), mpa, (grade, d))
        for d, ksi in ((25.4, 85), (28.575, 74)):
            self.assertAlmostEqual(proof_mpa("grade 5", d), ksi * 6.894757, delta=1.0)


class ManyPlans(unittest.TestCase):
    def test_margins_are_those_of_every_plan_by_itself(self):
        """One call for a formula, one by one through what is derived: both as with_value has it."""
        inputs = resolve(demo())
        asked = {check.id: check for check, _ in evaluate_all(inputs).values()}
        for ids, planned in (
            (("stack.release_gap", "stack.release_stroke"), {"release_shim_mm": (0.0, 1.0, 2.5)}),
            (("stack.pilot_engagement", "stack.tip_clearance"), {"plate_mm": (15.0, 17.0, 19.0)}),
            (("line.torsional",), {"pinion_angle_deg": (0.0, 2.0), "pinion_drop_mm": (200, 220.0)}),
        ):
            arrays = {a: np.array(v, float) for a, v in planned.items()}
            found = margins([asked[id] for id in ids], inputs, arrays)
            for i in range(len(next(iter(arrays.values())))):
                one = inputs
                for address, values in arrays.items():
                    one = one.with_value(address, float(values[i]))
                for id in ids:
                    self.assertAlmostEqual(found[id][i], margin_at(asked[id], one), 9, id)

    def test_the_window_of_a_way_out_ends_where_the_finding_does(self):
        of = demo()
        (way,) = finding(assess(of), "stack.release_gap").ways_out
        self.assertLess(way.low, way.target + 1e-9)
        for value, verdict in (
            (way.low, Verdict.GOES),
            (way.high, Verdict.GOES),
            (way.high + 0.1, Verdict.TIGHT),
        ):
            tried = resolve(of).with_value(way.address, value)
            found = {c.id: f for c, f in evaluate_all(tried).values()}["stack.release_gap"]
            self.assertEqual(found.verdict, verdict, value)


class WhatLapses(unittest.TestCase):
    def test_each_event_lapses_what_it_spoils_and_nothing_else(self):
        """What a gearbox on or off moves is how the unit sits; a dowel moves the bell alone."""
        pose, bell = {"inclination_deg", "crank_height_mm"}, {"face_tir_mm"}
        parts = {"nose_mm", "friction_face_mm", "crank_pcd_mm", "wheelbase_mm"}
        for event, gone, stays in (
            ("gearbox on", pose, bell | parts),
            ("gearbox off", pose, bell | parts),
            ("dowel out, in or replaced", bell, pose | parts),
            ("springs, spacers, tyres or load", {"rail_height_mm"}, pose | bell | parts),
            ("first heat", set(), pose | bell | parts),
        ):
            found = {x.address for x in lapsing(demo(), event)}
            self.assertLessEqual(gone, found, event)
            self.assertFalse(stays & found, event)


LENGTH, DROP, RPM = 1200.0, 60.0, 3000.0
SHAFT = {
    "separator_mm": "0",
    "plate_mm": "0",
    "gearbox_length_mm": "500",
    "output_left_mm": "0",
    "output_up_mm": "0",
    "wheelbase_mm": f"{500 + LENGTH}",
    "pinion_forward_mm": "0",
    "pinion_left_mm": "0",
    "pinion_turn_deg": "0",
    "pinion_drop_mm": f"{DROP}",
    "yoke_phase_deg": "0",
    "shaft_speed_rpm": f"{RPM} rpm",
    "tube_od_mm": "76",
    "tube_wall_mm": "2",
}


class ShaftDrives(unittest.TestCase):
    """A shaft in the upright plane: both joint angles are plain differences of slopes."""

    def of(self, nose_up="0", drive="one-piece shaft", **sizes):
        sizes = UNIT | SHAFT | {"pinion_angle_deg": nose_up} | sizes
        return assess(build(said(**sizes), options={"drive": drive, "axle_guide": "rigid"}), ())

    def test_angles_their_difference_and_what_they_excite(self):
        slope, turn = math.degrees(math.atan(DROP / LENGTH)), (2 * math.pi * RPM / 60) ** 2
        for nose in (0.0, 1.5, -2.0):
            answer = self.of(f"{nose}")
            # A nose up meets a shaft that comes from above more nearly.
            first, last = slope, abs(slope - nose)
            self.assertAlmostEqual(finding(answer, "line.angle.1").value, first, places=6)
            self.assertAlmostEqual(finding(answer, "line.angle.2").value, last, places=6)
            self.assertAlmostEqual(abs(finding(answer, "line.equal").value), abs(first - last), 6)
            equal = finding(answer, "line.equal")
            self.assertEqual((equal.low, equal.high), (-1.0, 1.0))
            square = [math.radians(a) ** 2 for a in (first, last)]
            for id, expected, most in (
                ("line.torsional", abs(square[0] - square[1]) * turn, 300.0),
                ("line.inertial_drive", square[0] * turn, 1000.0),
                ("line.inertial_coast", square[1] * turn, 1000.0),
            ):
                found = finding(answer, id)
                # The small-angle sum of SAE AE-7 and the exact path differ by the fourth power.
                self.assertLess(abs(found.value - expected), 0.02 * max(expected, 10), id)
                self.assertEqual(found.high, most, id)
                verdict = Verdict.GOES if found.value < most else Verdict.FOULS
                self.assertEqual(found.verdict, verdict, id)

    def test_the_longest_piece_decides_the_speed(self):
        """n = 30 pi / L² sqrt(E (D² + d²) / (16 rho)), a tube on two ends."""

        def speed(length):
            stiff = 206e9 * (0.076**2 + 0.072**2) / (16 * 7850)
            return 0.75 * 30 * math.pi / (length / 1e3) ** 2 * math.sqrt(stiff)

        one = finding(self.of(), "line.critical")
        self.assertAlmostEqual(one.value, speed(math.hypot(LENGTH, DROP)), delta=2.0)
        self.assertEqual((one.low, one.verdict), (RPM, Verdict.GOES))
        for bearing in (900.0, 1400.0):
            sizes = {
                "centre_bearing_back_mm": f"{bearing}",
                "centre_bearing_left_mm": "0",
                "centre_bearing_drop_mm": "30",
                "front_yoke_phase_deg": "0",
            }
            two = self.of(drive="two-piece shaft", **sizes)
            pieces = (math.hypot(bearing - 500, 30), math.hypot(500 + LENGTH - bearing, DROP - 30))
            found = finding(two, "line.critical").value
            self.assertAlmostEqual(found, speed(max(pieces)), delta=0.001 * found)


class Belts(unittest.TestCase):
    def run_of(self, length):
        """Two pulleys of 120 mm over all, 300 mm apart, the belt's pitch line 1 mm outside."""
        row = {"d": "120", "plane": "0", "ribs": "6", "evidence": evidence()}
        belt = dict.fromkeys(("belt_pitch_mm", "belt_back_mm"), "1")
        belt |= {"belt_ribs": "6", "belt_take_up_mm": "10"}
        return build(
            said(belt_length_mm=length, **belt),
            options={"belt": "yes"},
            pulleys=[
                {"n": 1, "name": "crank", "right": "0", "up": "0"} | row,
                {"n": 2, "name": "pump", "right": "300", "up": "0"} | row | {"plane": "3"},
            ],
        )

    def test_length_wrap_plane_and_take_up(self):
        """L = 2 C + pi d; half a turn each; atan(3 / 300) off its plane."""
        length = 600 + math.pi * 122
        for given, spare, words in (
            (length, 10.0, "10.0"),
            (length + 6, 4.0, "4.0"),
            (length - 14, -4.0, "too short by 4.0"),
            (length + 14, -4.0, "too long by 4.0"),
        ):
            found = finding(self.run_of(f"{given:.6f}"), "clear.belt_length")
            self.assertIn(words, found.sentence.mm)
            self.assertAlmostEqual(found.value, spare, places=4)
            self.assertEqual(found.verdict == Verdict.FOULS, spare < 0)
        of = self.run_of(f"{length:.6f}")
        for n in (1, 2):
            self.assertAlmostEqual(finding(of, f"clear.belt_wrap.{n}").value, 180.0, places=6)
            self.assertAlmostEqual(
                finding(of, f"clear.belt_plane.{n}").value, math.degrees(math.atan(0.01)), places=4
            )
        self.assertEqual(finding(of, "clear.belt_plane.1").verdict, Verdict.FOULS)


class Money(unittest.TestCase):
    def test_every_state_goes_where_it_belongs(self):
        states = ("planned", "quoted", "ordered", "paid", "wasted", "refund received")
        rows = [
            {"n": n, "state": s, "amount": f"{10.0**n}"} | ({"credit_of": 4} if n == 6 else {})
            for n, s in enumerate(states, 1)
        ]
        rows[5]["amount"] = "500"
        board = drawn(build(money=rows))["log.money"]
        told = {r.name: r.value for r in board.readings}
        self.assertEqual(told["paid"], 10_000 + 100_000)
        self.assertEqual(told["still to pay"], 10 + 100 + 1000)
        self.assertEqual(told["forecast"], 110_000 + 1110 - 500)


if __name__ == "__main__":
    unittest.main()
