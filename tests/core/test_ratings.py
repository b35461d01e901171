"""Ratings: loads gear by gear, the tyres' cap, the weakest part and what the engine may give; the
starter's sense, side and teeth; pairs at order, at delivery and before the bolts.
"""

import unittest

from pindo.core.assessment import assess
from pindo.core.judging.verdict import Verdict
from tests.core.test_stack import DIMS, OPTIONS
from tests.support import build, drawn, finding, said, statement

G = 9.80665
POWER = {
    "engine_torque_nm": "500",
    "gearbox_torque_nm": "600",
    "clutch_torque_nm": "700",
    "final_drive_ratio": "4",
}
PAPER = {"source": "maker's paper", "pm": "0"}
GEARS = [
    {"n": 1, "name": "first", "evidence": PAPER, "ratio": "5"},
    {"n": 2, "name": "top", "evidence": PAPER, "ratio": "1"},
]


def link(n, name, at, rating=None, source="maker's paper", **more):
    row = {"n": n, "name": name, "at": at, "evidence": {"source": source, "pm": "0"}}
    return row | ({"rating": rating} if rating else {}) | more


SHAFT = link(1, "shaft", "behind the gearbox", "2600 N·m")
HALF = link(2, "half shafts", "behind the final drive", "6000 N·m", share="0.5")


def chain(*links, gears=GEARS, options=None, **changes):
    return build(
        said(**(POWER | changes)),
        options={"drive": "one-piece shaft"} | (options or {}),
        gears=list(gears),
        links=list(links),
    )


class Loads(unittest.TestCase):
    def test_load_is_torque_times_what_is_before_it(self):
        of = chain(SHAFT, HALF)
        for n, load in ((1, 500 * 5), (2, 500 * 5 * 4 / 2)):
            found = finding(of, f"stack.link.{n}")
            rating = (2600, 6000)[n - 1]
            self.assertAlmostEqual(found.value, rating / load)
            self.assertEqual(found.low, 1.0)
            self.assertTrue(found.safety)
            self.assertIn("in first", found.sentence.mm)
        before = chain(link(3, "input shaft", "before the gearbox", "450 N·m"))
        self.assertAlmostEqual(finding(before, "stack.link.3").value, 0.9)
        self.assertEqual(finding(before, "stack.link.3").verdict, Verdict.FOULS)

    def test_tyres_pass_on_no_more_than_their_grip(self):
        """600 kg on a wheel of 0.7 m: 600 g 0.35 = 2059 N·m at the wheels. Half shafts carry half
        of it, the shaft before the final drive a quarter: no gear loads them further.
        """
        grip = 600 * G * 0.35
        of = chain(SHAFT, HALF, driven_axle_kg="600", tyre_mm="700")
        self.assertAlmostEqual(finding(of, "stack.link.2").value, 6000 / (grip / 2))
        self.assertAlmostEqual(finding(of, "stack.link.1").value, 2600 / (grip / 4))
        rows = drawn(of)["stack.strength"].tables[0].rows
        first = next(r for r in rows if r.cells[:2] == ("shaft", "first"))
        self.assertEqual(first.cells[3], "the tyres slip")
        top = next(r for r in rows if r.cells[:2] == ("shaft", "top"))
        self.assertAlmostEqual(top.cells[2], 500.0)
        self.assertAlmostEqual(top.cells[6], 2600 / 500.0)

    def test_without_a_list_the_lowest_gear_and_reverse_count(self):
        of = chain(SHAFT, gears=(), first_gear_ratio="4", reverse_ratio="5.2")
        self.assertAlmostEqual(finding(of, "stack.link.1").value, 2600 / (500 * 5.2))
        self.assertIn("reverse", finding(of, "stack.link.1").sentence.mm)
        none = chain(SHAFT, gears=(), first_gear_ratio="4", reverse_ratio="0")
        self.assertAlmostEqual(finding(none, "stack.link.1").value, 2600 / 2000)

    def test_a_gear_that_is_not_known_may_be_the_hardest(self):
        of = chain(SHAFT, gears=[*GEARS, {"n": 3, "name": "crawler", "evidence": PAPER}])
        found = finding(of, "stack.link.1")
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertIn("crawler", found.sentence.mm)

    def test_memory_shows_its_number_and_closes_nothing(self):
        of = chain(link(1, "shaft", "behind the gearbox", "9000 N·m", "memory"))
        found = finding(of, "stack.link.1")
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertIn("from memory", found.sentence.mm)
        weak = finding(of, "stack.weakest")
        self.assertEqual(weak.verdict, Verdict.UNMEASURED)
        self.assertIn("Not rated by anybody who counts: shaft", weak.sentence.mm)
        (first, _) = drawn(of)["stack.strength"].tables[0].rows
        self.assertEqual(first.cells[4:6], (9000.0, "memory"))


class Weakest(unittest.TestCase):
    def test_the_part_and_the_torque_that_makes_it_one(self):
        """Gearbox 600 over 500: 1.2, the shaft 3500 over 2500: 1.4: the engine may give 600."""
        found = finding(chain(SHAFT | {"rating": "3500 N·m"}), "stack.weakest")
        self.assertEqual(found.verdict, Verdict.GOES)
        self.assertIn("Weakest is gearbox, 1.20 times its load in any gear", found.sentence.mm)
        self.assertIn("may give 600.0 N·m", found.sentence.mm)
        shaft = finding(chain(SHAFT), "stack.weakest")
        self.assertIn("Weakest is shaft, 1.04 times its load in first", shaft.sentence.mm)
        self.assertIn("may give 520.0 N·m", shaft.sentence.mm)

    def test_its_verdict_has_its_doubt(self):
        """2600 over 2500 is 1.04; with 5 % on the rating nobody can say that it goes."""
        of = chain(SHAFT | {"evidence": {"source": "maker's paper"}})
        self.assertEqual(finding(of, "stack.link.1").verdict, Verdict.TIGHT)
        self.assertEqual(finding(of, "stack.weakest").verdict, Verdict.TIGHT)

    def test_three_ratings_from_memory(self):
        """Clutch 650, engine 500, box 380: 1.30 and 0.76, weakest the box, 380 (common practice, no
        published source; single observation).
        """
        of = chain(SHAFT, gearbox_torque_nm="380", clutch_torque_nm="650")
        self.assertAlmostEqual(finding(of, "stack.clutch_torque").value, 1.30)
        self.assertAlmostEqual(finding(of, "stack.gearbox_torque").value, 0.76)
        found = finding(of, "stack.weakest")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertIn("gearbox, 0.76", found.sentence.mm)
        self.assertIn("380.0 N·m", found.sentence.mm)

    def test_where_the_tyres_slip_first_more_torque_loads_it_no_further(self):
        of = chain(
            link(1, "shaft", "behind the gearbox", "530 N·m"),
            driven_axle_kg="600",
            tyre_mm="700",
            gearbox_torque_nm="9000",
            clutch_torque_nm="9000",
        )
        self.assertNotIn("may give", finding(of, "stack.weakest").sentence.mm)


class Power(unittest.TestCase):
    def test_torque_from_power_is_no_more_than_the_greatest(self):
        """9549 x 150 / 3000 = 477.5 N·m."""
        fine = {"engine_power_kw": "150 kW", "engine_rpm": "3000"}
        self.assertNotIn("stack.power_torque", {f.id for f in assess(chain(**fine)).findings})
        wrong = finding(chain(**fine, engine_torque_nm="400"), "stack.power_torque")
        self.assertEqual(wrong.verdict, Verdict.FOULS)
        self.assertIn("477.4 N·m", wrong.sentence.mm)
        self.assertIn("352.1 lbf·ft", wrong.sentence.inch)

    def test_what_feeds_or_cools_is_compared_at_the_same_speed(self):
        pump = {"power": "120 kW", "speed": "3000"}
        engine = {"engine_power_kw": "100 kW", "engine_rpm": "3000"}
        of = chain(link(1, "fuel pump", "fed by power", **pump), **engine)
        found = finding(of, "stack.fed.1")
        self.assertAlmostEqual(found.value, 1.2)
        self.assertEqual(found.verdict, Verdict.GOES)
        weak = chain(link(1, "fuel pump", "fed by power", **pump | {"power": "90 kW"}), **engine)
        self.assertEqual(finding(weak, "stack.fed.1").verdict, Verdict.FOULS)
        other = chain(link(1, "fuel pump", "fed by power", **pump | {"speed": "4500"}), **engine)
        self.assertEqual(finding(other, "stack.fed_speed.1").verdict, Verdict.UNMEASURED)


RAN = {"starter_pair": "a pair that ran together"}
SHIFTED = {"starter_pair": "profile-shifted"}


class Starter(unittest.TestCase):
    PAIR = {
        "flywheel_od_mm": "331",
        "starter_centre_mm": "175.8",
        "ring_module_mm": "2.5",
        "ring_teeth": "130",
        "pinion_teeth": "10",
    }

    def of(self, options=None, **changes):
        return build(said(**(DIMS | self.PAIR | changes)), options=OPTIONS | (options or {}))

    def test_crank_and_pinion_turn_against_each_other(self):
        for crank, pinion, verdict in (
            ("clockwise", "anticlockwise", "goes"),
            ("anticlockwise", "anticlockwise", "fouls"),
            ("", "clockwise", "unmeasured"),
        ):
            options = {"crank_turns": crank, "pinion_turns": pinion}
            self.assertEqual(
                finding(self.of(options), "stack.starter_sense").verdict.value, verdict
            )

    def test_behind_the_ring_the_pinion_comes_forward(self):
        """Ring 21 to 33; flange of the housing at 20: pinion parked 17 ahead of it, at 3, stands
        deep in the ring. On a bell further back, plate 60: flange 62, parked at 45, thrown to 24.
        """
        behind = {"starter_side": "on the gearbox' side of the ring", "starter_on": "housing"}
        self.assertAlmostEqual(
            finding(self.of(behind, plate_mm="60"), "stack.starter_parked").value, 62 - 17 - 33
        )
        mesh = finding(self.of(behind, plate_mm="60"), "stack.starter_mesh")
        self.assertAlmostEqual(mesh.value, 33 - 24)  # pinion 24 to 44 on a ring to 33
        self.assertEqual(finding(self.of(behind), "stack.starter_parked").verdict, Verdict.FOULS)

    def test_the_pair_that_ran_tells_its_own_distance(self):
        near = finding(self.of(RAN, starter_centre_old_mm="175.9"), "stack.starter_centres")
        self.assertAlmostEqual(near.value, -0.1)
        self.assertEqual((near.low, near.high, near.verdict), (-0.2, 0.2, Verdict.GOES))
        far = finding(self.of(RAN, starter_centre_old_mm="175.3"), "stack.starter_centres")
        self.assertEqual(far.verdict, Verdict.FOULS)

    def test_profile_shift_moves_the_centre_without_backlash(self):
        plain = finding(self.of(SHIFTED, pinion_shift="0", ring_shift="0"), "stack.starter_centres")
        self.assertAlmostEqual(plain.value, 0.8)
        shifted = finding(
            self.of(SHIFTED, pinion_shift="0.5", ring_shift="0"), "stack.starter_centres"
        )
        # About m x less what the working angle takes back: 2.5 x 0.5 = 1.25.
        self.assertAlmostEqual(shifted.value, 0.8 - 1.25, delta=0.05)
        self.assertEqual(shifted.verdict, Verdict.FOULS)

    def test_backlash_that_was_read(self):
        self.assertNotIn("stack.starter_backlash", {f.id for f in assess(self.of()).findings})
        for read, verdict in (("0.5", "goes"), ("0.1", "fouls"), ("1.2", "fouls")):
            found = finding(
                self.of({"starter_tried": "flywheel on"}, starter_backlash_mm=read),
                "stack.starter_backlash",
            )
            self.assertEqual(found.verdict.value, verdict)

    def test_the_unit_is_spun_on_the_bench(self):
        for key, bad, good in (
            ("spun_by_hand", "rubs or binds", "free all round"),
            ("spun_by_starter", "howls or knocks", "quiet"),
        ):
            for said_, verdict in (("not yet", "unmeasured"), (bad, "fouls"), (good, "goes")):
                found = finding(self.of({key: said_}), f"stack.{key}")
                self.assertEqual(found.verdict.value, verdict)

    def test_noses_are_compared(self):
        (nose,) = drawn(self.of(RAN, starter_out_old_mm="35"))["stack.starter"].readings
        self.assertEqual(nose.name, "Nose longer than the ring's own starter")
        self.assertAlmostEqual(nose.value, 3.0)
        (backlash,) = drawn(self.of())["stack.starter"].readings
        self.assertAlmostEqual(backlash.value, 2 * 0.36397 * 0.8, places=3)


class Words(unittest.TestCase):
    def test_balance(self):
        for engine, wheel, verdict in (
            ("by itself", "no weight", "goes"),
            ("by itself", "the weight of another engine", "fouls"),
            ("with a weight on its flywheel", "the weight of this engine", "goes"),
            ("with a weight on its flywheel", "no weight", "fouls"),
            ("with a weight on its flywheel", "the weight of another engine", "fouls"),
            ("by itself", "", "unmeasured"),
        ):
            options = {"engine_balance": engine, "flywheel_balance": wheel}
            found = finding(build(options=options), "stack.balance")
            self.assertEqual(found.verdict.value, verdict, (engine, wheel))

    def test_without_a_certificate_never_above_the_power_it_was_made_for(self):
        power = {"engine_power_kw": "150 kW", "original_power_kw": "120 kW"}
        bare = {"flywheel_certificate": "without one"}

        def certificate(options, **dims):
            return finding(build(said(**dims), options=options), "stack.certificate").verdict

        self.assertEqual(certificate(bare, **power), Verdict.FOULS)
        self.assertEqual(certificate(bare, **power | {"original_power_kw": "150"}), Verdict.TIGHT)
        self.assertEqual(certificate(bare), Verdict.UNMEASURED)
        self.assertEqual(certificate({}), Verdict.UNMEASURED)
        self.assertEqual(certificate({"flywheel_certificate": "with a certificate"}), Verdict.GOES)

    def test_single_use_screws_of_what_turns_are_new_or_do_not_go_in(self):
        def with_joint(**more):
            return build(joints=[{"n": 2, "name": "crank {flange}", "kind": "rotating"} | more])

        cases = (("new", "goes"), ("spent", "fouls"), ("not said", "unmeasured"))
        for said_, verdict in cases:
            found = finding(with_joint(single_use=said_), "stack.single_use.2")
            self.assertEqual((found.verdict.value, found.row), (verdict, "joints.2"))
            self.assertIn("crank {flange}: ", found.sentence.mm)
        self.assertEqual(with_joint().joints[0].single_use, "not said")
        for none in ({"single_use": "no"}, {"single_use": "spent", "kind": "not said"}):
            ids = {f.id for f in assess(with_joint(**none)).findings}
            self.assertNotIn("stack.single_use.2", ids)

    def test_one_pilot_bearing_where_the_stack_has_it(self):
        for found, where, verdict in (
            ("in the crank", "crank", "goes"),
            ("in the flywheel", "crank", "fouls"),
            ("in both", "crank", "fouls"),
            ("in neither", "flywheel", "tight"),
            ("", "crank", "unmeasured"),
        ):
            options = {"pilot_found": found, "pilot_in": where}
            told = finding(build(options=options), "stack.pilot_place")
            self.assertEqual(told.verdict.value, verdict, found)
        blind = {"flywheel_through": "blind in its middle", "pilot_in": "crank"}
        self.assertEqual(finding(build(options=blind), "stack.blind").verdict, Verdict.FOULS)

    def test_a_pair_at_its_three_moments(self):
        """Disc 200 by its paper, 228 when it came, on a face of 210 that was measured on the stand:
        it goes at order and fouls at delivery (a disc of 228 on a face of 200 is common practice,
        no published source; single observation).
        """
        here = {"state": {"position": "stand", "gearbox": "off"}}
        dims = {
            "disc_od_mm": {
                "statements": [
                    statement("200", "seller", id="a"),
                    statement("228", "measured", "digital calliper", "b", **here),
                ]
            },
            "friction_face_mm": {
                "statements": [statement("210", "measured", "digital calliper", **here)]
            },
        }
        table = next(t for t in drawn(build(dims))["stack.match"].tables if t.key == "moments")
        row = next(r for r in table.rows if r.cells[0] == "Disc on its friction face")
        self.assertEqual(row.cells[1:4], ("tight", "fouls", "fouls"))
        self.assertEqual(row.mark, "fouls")

    def test_before_the_bolts_only_what_was_read_here_counts(self):
        elsewhere = {
            "disc_od_mm": {"statements": [statement("200", "measured elsewhere")]},
            "friction_face_mm": {"statements": [statement("210", "measured elsewhere")]},
        }
        table = next(t for t in drawn(build(elsewhere))["stack.match"].tables if t.key == "moments")
        row = next(r for r in table.rows if r.cells[0] == "Disc on its friction face")
        self.assertEqual(row.cells[1:4], ("goes", "goes", "open"))
        self.assertIn("before the bolts: ", row.cells[4])

    def test_words_for_the_maker(self):
        of = build(said(disc_od_mm="228", disc_splines="10"))
        table = next(t for t in drawn(of)["stack.match"].tables if t.key == "order")
        disc = next(r for r in table.rows if r.cells[0] == "Disc")
        self.assertIn("disc diameter 228.00 mm", disc.cells[1])
        self.assertIn("disc hub length", disc.cells[2])


if __name__ == "__main__":
    unittest.main()
