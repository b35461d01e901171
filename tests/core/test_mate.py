"""Mate: hole patterns, plate, heads, dowels, window, pocket, clocking."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from pindo.core.assessment import assess, opened
from pindo.core.inputs.fasteners import clearance_hole, head
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.judging.ways import measure_next
from pindo.core.stations.mate.outline import plate_of
from pindo.core.stations.mate.placing import placed_holes
from tests.support import build, demo, face, finding, hole, ring_face, said

BASE = {
    "plate_mm": "18",
    "window_mm": "0",
    "clocking_deg": "0",
    "outline_margin_mm": "8",
    "pocket_mm": "0",
}


def two(engine, gearbox, options=None, **dims):
    return build(
        said(**(BASE | dims)), engine_face=engine, gearbox_face=gearbox, options=options or {}
    )


def margin(of, id):
    return finding(of, id).margin


class Spacing(unittest.TestCase):
    def test_two_holes_of_one_casting(self):
        made = two(
            face(hole(1, "0", "0", plate_hole="11"), hole(2, "30", "40", plate_hole="11")), face()
        )
        found = finding(made, "mate.spacing.E1-E2")
        # 3-4-5 triangle: 50 mm apart; 2.2 x 11 wanted.
        self.assertAlmostEqual(found.value, 50.0)
        self.assertAlmostEqual(found.low, 24.2)

    def test_holes_that_overlap_foul_with_the_overlap_named(self):
        made = two(
            face(hole(1, "100", "0", plate_hole="11")),
            face(hole(1, "108", "0", "12", fastening="tapped")),
        )
        found = finding(made, "mate.overlap.E1-G1")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertAlmostEqual(found.value, 8 - 11 / 2 - 12 / 2)
        self.assertIn("run 3.50 mm into each other", found.sentence.mm)

    def test_holes_that_coincide_become_one_through_bolt(self):
        made = two(
            face(hole(1, "100", "0", plate_hole="11")), face(hole(4, "100.4", "0", plate_hole="11"))
        )
        self.assertEqual(plate_of(resolve(made)).shared, (("E1", "G4"),))
        self.assertFalse([f.id for f in assess(made).findings if "E1-G4" in f.id])

    def test_clocking_turns_the_gearbox_clockwise_seen_from_behind(self):
        made = two(face(), face(hole(1, "0", "100", "8", fastening="tapped")), clocking_deg="90")
        (g,) = placed_holes(resolve(made))
        np.testing.assert_allclose((g.u, g.v), (100, 0), atol=1e-9)

    def test_a_full_turn_changes_nothing(self):
        a, b = (assess(demo({"clocking_deg": t})) for t in ("3", "-357"))
        np.testing.assert_allclose(
            [f.margin or 0 for f in a.findings], [f.margin or 0 for f in b.findings], atol=1e-9
        )

    @settings(max_examples=25, deadline=None)
    @given(st.floats(-180, 180))
    def test_turning_both_castings_together_leaves_every_margin(self, turn):
        def turned(document):
            c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
            for h in document["holes"]:
                u, v = float(h["u"]), float(h["v"])
                h["u"], h["v"] = f"{u * c + v * s:.9f}", f"{v * c - u * s:.9f}"
            return document

        def margins(e, g):
            made = two(e, g, {"plate_material": "steel"}, window_mm="320")
            # Holes that tie for the worst may change places: the margins of a kind of check are
            # compared, not their holes.
            rows = sorted(
                (f.id.rpartition(".")[0], f.margin)
                for f in assess(made).findings
                if f.margin is not None
            )
            return rows

        def faces():
            return ring_face(fastening="countersunk", recess="6", land="26"), face(
                *(
                    hole(n, f"{150 + 9 * n}", f"{-90 + 21 * n}", "8", fastening="tapped", land="20")
                    for n in range(1, 6)
                )
            )

        still, moved = margins(*faces()), margins(*map(turned, faces()))
        self.assertEqual([kind for kind, _ in still], [kind for kind, _ in moved])
        for (kind, before), (_, after) in zip(still, moved, strict=True):
            # The outline's arcs are polygons of 16 segments a quarter: their facets do not turn.
            self.assertAlmostEqual(
                after, before, delta=0.1 if kind == "mate.edge" else 1e-6, msg=kind
            )


class PlateEdge(unittest.TestCase):
    def test_edge_distance_is_land_and_margin_at_a_corner(self):
        triangle = face(
            *(
                hole(n, u, v, land="30", plate_hole="11")
                for n, (u, v) in enumerate((("0", "0"), ("300", "0"), ("0", "300")), 1)
            )
        )
        made = two(triangle, face(), outline_margin_mm="5")
        found = next(f for f in assess(made).findings if f.id.startswith("mate.edge."))
        self.assertAlmostEqual(found.value, 15 + 5, delta=0.05)
        self.assertAlmostEqual(found.low, 1.2 * 11)

    def test_window_against_a_hole(self):
        made = two(face(hole(1, "0", "170", plate_hole="11")), face(), window_mm="320")
        found = finding(made, "mate.window.E1")
        self.assertAlmostEqual(found.value, 10.0)
        self.assertEqual(found.verdict, Verdict.FOULS)
        swallowed = finding(
            two(face(hole(1, "0", "150")), face(), window_mm="320"), "mate.window.E1"
        )
        self.assertIn("Window swallows hole E1 by 10.00 mm", swallowed.sentence.mm)

    def test_starter_pocket_against_a_hole(self):
        made = two(
            face(hole(1, "-160", "100", plate_hole="11")),
            face(),
            pocket_u_mm="-160",
            pocket_v_mm="60",
            pocket_mm="60",
        )
        self.assertAlmostEqual(margin(made, "mate.pocket.E1"), 10 - 1.2 * 11)

    def test_a_pocket_may_not_be_smaller_than_the_starter(self):
        made = two(
            face(hole(1, "-160", "110", plate_hole="11")),
            face(),
            pocket_u_mm="-160",
            pocket_v_mm="60",
            pocket_mm="62",
            starter_body_mm="54",
        )
        self.assertAlmostEqual(finding(made, "mate.pocket_body").value, 4.0)
        self.assertEqual(
            finding(
                two(face(), face(), pocket_u_mm="-160", pocket_v_mm="60", pocket_mm="62"),
                "mate.pocket_body",
            ).verdict,
            Verdict.UNMEASURED,
        )
        # Shrinking the pocket would clear the hole and catch the starter: it is no way out.
        self.assertEqual(
            [
                w.address
                for w in opened(
                    resolve(
                        two(
                            face(hole(1, "-160", "104", plate_hole="11")),
                            face(),
                            pocket_u_mm="-160",
                            pocket_v_mm="60",
                            pocket_mm="62",
                            starter_body_mm="56",
                        )
                    ),
                    "mate.pocket.E1",
                ).ways
            ],
            [],
        )

    def test_a_starter_on_the_housing_turns_with_the_gearbox(self):
        def at(starter_on):
            made = two(
                face(hole(1, "60", "160", plate_hole="11")),
                face(),
                {"starter_on": starter_on},
                pocket_u_mm="-160",
                pocket_v_mm="60",
                pocket_mm="60",
                clocking_deg="90",
            )
            return plate_of(resolve(made)).pocket, finding(made, "mate.pocket.E1").value

        still, far = at("engine")
        self.assertEqual((still.u, still.v), (-160, 60))
        self.assertAlmostEqual(far, math.hypot(220, 100) - 30)
        turned, near = at("housing")
        np.testing.assert_allclose((turned.u, turned.v), (60, 160), atol=1e-9)
        self.assertAlmostEqual(near, -30.0)

    def test_the_window_is_a_circle(self):
        """Against the same plate without a window: the difference is pi/4 d² t rho to the last
        digit, not a polygon's.
        """
        solid, open_ = (
            plate_of(
                resolve(two(ring_face(land="40"), face(), {"plate_material": "steel"}, window_mm=w))
            ).mass_kg
            for w in ("0", "200")
        )
        self.assertAlmostEqual(solid - open_, math.pi / 4 * 200**2 * 18 * 7.85e-6, places=9)

    def test_mass_of_a_ring(self):
        lands = ring_face(land="40", plate_hole="11")
        made = plate_of(
            resolve(
                two(
                    lands,
                    face(),
                    {"plate_material": "steel"},
                    outline_margin_mm="10",
                    window_mm="200",
                )
            )
        )
        area = (
            abs(
                sum(
                    a[0] * b[1] - b[0] * a[1]
                    for a, b in zip(made.outline, (*made.outline[1:], made.outline[0]), strict=True)
                )
            )
            / 2
        )
        expected = (area - math.pi * 100**2 - 10 * math.pi * 5.5**2) * 18 * 7.85e-6
        self.assertAlmostEqual(made.mass_kg, expected, delta=expected * 1e-3)

    def test_a_following_outline_is_smaller_than_the_hull_and_holds_every_land(self):
        hull, following = (
            plate_of(
                resolve(
                    two(
                        ring_face(land="30"),
                        face(),
                        {"plate_material": "steel", "outline": o},
                        window_mm="300",
                    )
                )
            )
            for o in ("hull", "following")
        )
        self.assertLess(following.mass_kg, hull.mass_kg)
        self.assertEqual(len(following.holes), 10)

    def test_no_outline_before_three_holes(self):
        self.assertEqual(plate_of(resolve(two(face(hole(1, "0", "0")), face()))).outline, ())


class Heads(unittest.TestCase):
    def test_a_proud_head_is_held_to_the_other_casting(self):
        nib = {"lands": [{"n": 1, "name": "drain nib", "u": "100", "v": "20", "d": "20"}]}
        # A hexagon on its washer: 20 mm wide and 2 mm thick at M10; a cap head of 16 mm on none.
        for fastening, circle, proud in (("hex head", 20, "8.4"), ("cap head", 16, "10.0")):
            made = two(face(hole(1, "100", "0", fastening=fastening)), face() | nib)
            found = finding(made, "mate.head_side.E1")
            self.assertAlmostEqual(found.value, 20 - (circle + 20) / 2)
            self.assertIn(f"stands {proud} mm proud", found.sentence.mm)

    def test_a_shallow_recess_under_the_other_casting_fouls(self):
        nib = {"lands": [{"n": 1, "name": "rib", "u": "100", "v": "5", "d": "20"}]}
        made = two(face(hole(1, "100", "0", fastening="cap head", recess="9")), face() | nib)
        found = finding(made, "mate.head_sunk.E1")
        self.assertEqual((found.verdict, found.value), (Verdict.FOULS, -1.0))
        self.assertIn("stands 1.00 mm proud of the face", found.sentence.mm)

    def test_the_floor_under_a_recess(self):
        made = two(face(hole(1, "100", "0", fastening="cap head", recess="15")), face())
        self.assertAlmostEqual(margin(made, "mate.recess.E1"), 18 - 15 - 4)
        through = two(face(hole(1, "100", "0", fastening="cap head", recess="20")), face())
        self.assertIn(
            "goes 2.00 mm through the plate", finding(through, "mate.recess.E1").sentence.mm
        )

    def test_sizes_that_the_table_does_not_hold(self):
        self.assertIsNone(head("hex head", 10.7))
        self.assertIsNone(clearance_hole(31.0))
        self.assertIsNone(head("countersunk", 24.0))
        # What a table lacks is unmeasured with its reason, and the hole does not go unnoticed.
        made = two(
            face(
                hole(1, "100", "0", "31", fastening="hex head"),
                hole(2, "0", "150", "M24", fastening="countersunk"),
            ),
            face(),
        )
        self.assertIn(
            "E1: no clearance hole in the table",
            finding(made, "mate.plate_hole.engine").sentence.mm,
        )
        self.assertIn(
            "E1, E2: head not in the table", finding(made, "mate.head.engine").sentence.mm
        )

    def test_lands_nobody_measured_are_asked_for(self):
        beside = two(
            face(hole(1, "100", "0", "M10", fastening="hex head")),
            face(hole(7, "112", "9", "M10", fastening="tapped")),
        )
        self.assertIn(
            "Heads of E1 may lie under the gearbox: lands of G7 are not measured",
            finding(beside, "mate.lands.engine").sentence.mm,
        )
        self.assertNotIn("mate.head_side.E1", {f.id for f in assess(beside).findings})
        told = two(
            face(hole(1, "100", "0", "M10", fastening="hex head")),
            face(hole(7, "112", "9", "M10", fastening="tapped", land="24")),
        )
        self.assertEqual(finding(told, "mate.head_side.E1").verdict, Verdict.FOULS)
        self.assertIn(
            "nothing of the gearbox's face is known",
            finding(
                two(face(hole(1, "100", "0", "M10", fastening="hex head")), face()),
                "mate.lands.engine",
            ).sentence.mm,
        )


def dowel(n, u, v, casting, in_plate, **more):
    return hole(n, u, v, "12", role="dowel", pin_in_casting=casting, pin_in_plate=in_plate, **more)


class DowelsAndScrews(unittest.TestCase):
    def test_exactly_one_pin_at_each_place(self):
        for casting, in_plate, pins, verdict in (
            (True, False, 1, "goes"),
            (True, True, 2, "fouls"),
            (False, False, 0, "fouls"),
        ):
            found = finding(
                two(face(dowel(1, "0", "0", casting, in_plate)), face()), "mate.dowel_pins.E1"
            )
            self.assertEqual((found.value, found.verdict.value), (pins, verdict))
        self.assertEqual(
            finding(
                two(face(hole(1, "0", "0", role="dowel")), face()), "mate.dowel_pins.E1"
            ).verdict,
            Verdict.UNMEASURED,
        )

    def test_pins_of_one_place_are_counted_over_both_castings_and_the_plate(self):
        for engine, gearbox, plate_mm, pins, verdict in (
            ((True, False), (True, False), "18", 2, "fouls"),
            ((True, False), (True, False), "0", 2, "fouls"),
            ((True, False), (False, False), "18", 1, "goes"),
            (
                (False, True),
                (False, True),
                "18",
                1,
                "goes",
            ),  # one pin of the plate, said on both sides
            ((False, True), (True, False), "18", 2, "fouls"),
            ((False, False), (True, False), "0", 1, "goes"),
        ):
            made = two(
                face(dowel(1, "100", "0", *engine)),
                face(dowel(2, "100.2", "0", *gearbox)),
                plate_mm=plate_mm,
            )
            found = finding(made, "mate.dowel_pins.E1-G2")
            self.assertEqual(
                (found.value, found.verdict.value), (pins, verdict), (engine, gearbox, plate_mm)
            )
            self.assertFalse(
                [f.id for f in assess(made).findings if f.id.startswith("mate.overlap")],
                "a pin through all three is no overlap",
            )

    def test_two_dowels_that_run_into_each_other_off_centre_do_overlap(self):
        made = two(
            face(dowel(1, "100", "0", True, False)), face(dowel(2, "106", "0", False, False))
        )
        self.assertEqual(finding(made, "mate.overlap.E1-G2").verdict, Verdict.FOULS)

    def test_what_locates_each_joint(self):
        self.assertEqual(
            finding(
                two(face(dowel(1, "0", "0", True, False)), face()), "mate.dowel_places.engine"
            ).verdict,
            Verdict.FOULS,
        )
        none = finding(two(ring_face(), face()), "mate.dowels.engine")
        self.assertEqual(none.verdict, Verdict.UNMEASURED)
        register = assess(two(ring_face(), face(), {"engine_joint": "register"}))
        self.assertFalse([f.id for f in register.findings if f.question == "mate.dowels"])

    def test_a_pin_longer_than_its_hole(self):
        made = two(
            face(
                hole(
                    1,
                    "0",
                    "0",
                    role="dowel",
                    pin_in_casting=True,
                    pin_in_plate=False,
                    stand_out="12",
                    mating_depth="11",
                )
            ),
            face(),
        )
        self.assertIn(
            "Dowel E1 is 1.00 mm longer than its hole",
            finding(made, "mate.dowel_bottom.E1").sentence.mm,
        )

    def test_thread_engagement_follows_the_plate_material(self):
        gearbox = face(hole(1, "100", "0", fastening="tapped"))
        for material, wanted in (("steel", 10.0), ("aluminium", 15.0)):
            self.assertEqual(
                finding(
                    two(face(), gearbox, {"plate_material": material}, plate_mm="14"), "mate.thread"
                ).low,
                wanted,
            )

    def test_play_of_a_screw_against_the_doubt_of_its_place(self):
        taken = face(hole(1, "100", "0", "M10", plate_hole="10.5")) | {
            "evidence": {"source": "measured", "tool": "steel rule"}
        }
        found = finding(two(taken, face()), "mate.play.E1")
        self.assertAlmostEqual(found.high, 0.25)
        self.assertAlmostEqual(found.u, math.hypot(0.5, 0.5))
        self.assertEqual(found.verdict, Verdict.TIGHT)
        # The name of a screw has no doubt: what to measure is its place.
        self.assertEqual({s.address for s in found.shares}, {"engine.1.u", "engine.1.v"})
        self.assertIn(
            "engine.1.u", {n.address for n in measure_next([found], resolve(two(taken, face())))}
        )
        better = face(
            hole(
                1,
                "100",
                "0",
                "M10",
                plate_hole="10.5",
                evidence={"source": "measured", "tool": "digital calliper"},
            )
        ) | {"evidence": {"source": "measured", "tool": "steel rule"}}
        self.assertEqual(finding(two(better, face()), "mate.play.E1").verdict, Verdict.GOES)

    def test_what_one_cause_explains_is_one_finding_with_its_holes(self):
        rows = [
            hole(n, f"{40 * n}", "0") | {"backing": b}
            for n, b in enumerate(("unknown", "oil", "metal", "air", "unknown"), 1)
        ]
        answer = assess(two(face(*rows), face()))
        self.assertEqual(
            finding(answer, "mate.backing_unknown").sentence.mm,
            "Behind E1, E5 nobody has said what there is",
        )
        wrong = finding(answer, "mate.backing")
        self.assertEqual(
            (wrong.verdict, wrong.sentence.mm),
            (Verdict.FOULS, "Not metal behind the holes: oil behind E2, air behind E4"),
        )

    def test_without_a_plate_each_screw_must_meet_its_thread(self):
        made = two(
            face(hole(1, "100", "0")),
            face(hole(7, "100", "0.3", plate_hole="11"), hole(8, "-60", "0", plate_hole="11")),
            plate_mm="0",
        )
        self.assertAlmostEqual(margin(made, "mate.direct.G7"), 0.5 - 0.3)
        self.assertIn("misses the nearest thread E1", finding(made, "mate.direct.G8").sentence.mm)


class Incomplete(unittest.TestCase):
    def test_one_bad_hole_never_stops_the_others(self):
        made = two(
            face(hole(1, "0", "0"), hole(2, "30", "40"), hole(3, "next to the pump", "9")), face()
        )
        self.assertIn(
            "engine hole 3, across (only “next to the pump”)",
            finding(made, "mate.holes.engine").sentence.mm,
        )
        self.assertAlmostEqual(finding(made, "mate.spacing.E1-E2").value, 50.0)

    def test_an_empty_face_says_so(self):
        self.assertEqual(
            finding(two(face(), face()), "mate.pattern.engine").verdict, Verdict.UNMEASURED
        )
