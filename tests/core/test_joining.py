"""Joining: gaps round the faces, what meets where they stop, and whether screws may draw."""

import unittest

import jsonpatch

from pindo.core.assessment import assess
from pindo.core.document.build import Build
from pindo.core.geometry.faces_apart import faces_apart
from pindo.core.inputs.lapse import event_patch, lapsing
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.stack.contacts import contacts
from tests.core.test_window import DIMS as STACK
from tests.core.test_window import OPTIONS
from tests.support import build, drawn, finding, said

SURE = {"source": "drawing", "pm": "0"}
DIMS = STACK | {
    "dowel_out_mm": "9",
    "ear_mm": "14",
    "stud_thread_mm": "12",
    "faces_across_mm": "400",
}
DONE = {"dry_run": "they meet", "turning_test": "turns freely", "joined_with": "they meet"}


def gaps(*values, pm="0"):
    step = 360 / len(values)
    return [
        {
            "n": i + 1,
            "evidence": {"source": "drawing", "pm": pm},
            "at": f"{i * step:g}",
            "gap": f"{v}",
        }
        for i, v in enumerate(values)
    ]


def stack(options=None, read=(), **changes):
    return build(
        said(**(DIMS | changes)), options=OPTIONS | DONE | (options or {}), join_gaps=list(read)
    )


def gate(*args, **changes):
    return finding(stack(*args, **changes), "stack.gate")


class Plane(unittest.TestCase):
    def test_mean_tilt_and_open_side(self):
        """5 at 12 o'clock, 3 at 3, 1 at 6, 3 at 9: mean 3, 4 across, open at 12."""
        found = faces_apart([0, 90, 180, 270], [5, 3, 1, 3], [0.1] * 4)
        self.assertAlmostEqual(found.mean, 3.0)
        self.assertAlmostEqual(found.across, 4.0)
        self.assertAlmostEqual(found.open_at, 0.0)
        self.assertAlmostEqual(found.u_mean, 0.05 / 2)  # 0.05 over root 4
        self.assertAlmostEqual(found.u_across, 2 * 0.05 / 2**0.5)
        turned = faces_apart([0, 90, 180, 270], [3, 5, 3, 1], [0.1] * 4)
        self.assertAlmostEqual(turned.open_at, 90.0)

    def test_too_few_or_one_side_alone_say_nothing(self):
        self.assertIsNone(faces_apart([0, 180], [1, 1], [0.1] * 2))
        self.assertIsNone(faces_apart([0, 30, 60, 90], [1, 1, 1, 1], [0.1] * 4))
        self.assertIsNotNone(faces_apart([10, 130, 250], [1, 1, 1], [0.1] * 3))


class Order(unittest.TestCase):
    def test_what_meets_first(self):
        """Stations of the stack: hub ends at 72, spline begins at 28 when joined; the nose's tip at
        -12 meets the bearing's rear at 5; dowels stand out 9. The rest never meets.
        """
        found, open_ = contacts(resolve(stack()))
        self.assertEqual(open_, [])
        at = {c.feature.name: c.at for c in found}
        self.assertAlmostEqual(at["spline into the disc's hub"], 72 - (-12 + 40))
        self.assertAlmostEqual(at["nose into its bearing"], 5 + 12)
        self.assertAlmostEqual(at["dowels into their holes"], 9)
        self.assertAlmostEqual(at["release bearing on the fingers"], 85 - 89)
        self.assertAlmostEqual(at["shaft shoulder on the bearing"], 5 - 12)
        self.assertAlmostEqual(at["shaft tip in the bottom of the bore"], -35 + 12)
        self.assertAlmostEqual(at["guide tube on the disc's hub"], 72 - 80)
        self.assertAlmostEqual(at["clutch cover on the bell's floor"], 103 - 170)
        self.assertEqual([c.at for c in found], sorted((c.at for c in found), reverse=True))

    def test_each_hub_of_several_discs(self):
        """The last hub ends at 43 + 30 + 26 = 99: met first, and the one beside the guide tube."""
        last = {"hub2_front_mm": "30", "hub2_mm": "26"}
        at = {c.feature.name: c.at for c in contacts(resolve(stack({"discs": "two"}, **last)))[0]}
        self.assertAlmostEqual(at["spline into the last disc's hub"], 99 - 28)
        self.assertAlmostEqual(at["spline into the disc's hub"], 72 - 28)
        self.assertAlmostEqual(at["guide tube on the last disc's hub"], 99 - 80)
        self.assertNotIn("guide tube on the disc's hub", at)
        of = stack({"discs": "two"}, **last)
        tube = finding(of, "stack.guide_tube")
        self.assertAlmostEqual(tube.value, 80 - 99)
        self.assertEqual(tube.verdict, Verdict.FOULS)
        # 28 to 88 of teeth on a hub of 73 to 99: 15 new; worn it comes 1.5 x 2 mm nearer.
        self.assertAlmostEqual(finding(of, "stack.spline_last_new").value, 15.0)
        self.assertAlmostEqual(finding(of, "stack.spline_last_worn").value, 18.0)
        for discs, come in (("two", 3.0), ("three", 5.0)):
            worn = finding(stack({"discs": discs}, **last), "stack.spline_last_worn")
            self.assertAlmostEqual(worn.value, 15.0 + come)
        unread = stack({"discs": "two"})
        for id in ("spline_last_new", "spline_last_worn", "guide_tube"):
            self.assertEqual(finding(unread, f"stack.{id}").verdict, Verdict.UNMEASURED)
        one = {f.id for f in assess(stack()).findings}
        self.assertFalse({"stack.spline_last_new", "stack.spline_last_worn"} & one)

    def test_what_is_not_measured_is_open(self):
        of = build(said(**{k: v for k, v in DIMS.items() if k != "hub_mm"}), options=OPTIONS)
        _, open_ = contacts(resolve(of))
        self.assertEqual({gone for _, gone in open_}, {("hub_mm",)})
        rows = {r.cells[0]: r for r in drawn(of)["stack.gate"].tables[0].rows}
        self.assertIn("disc hub length", rows["spline into the disc's hub"].cells[3])

    def test_a_guide_stud_reaches_the_first_tooth(self):
        (stud,) = [r for r in drawn(stack())["stack.gate"].readings if "stud" in r.name]
        self.assertAlmostEqual(stud.value, 12 + 18 + 14 + 44)


class Gate(unittest.TestCase):
    def test_faces_that_met_by_hand_may_be_screwed(self):
        found = gate(read=gaps(0, 0, 0, 0))
        self.assertEqual(found.verdict, Verdict.GOES)
        self.assertIn("in even rounds", found.sentence.mm)

    def test_gaps_that_their_doubt_may_open_have_not_met(self):
        self.assertEqual(gate(read=gaps(0, 0, 0, 0, pm="0.1")).verdict, Verdict.GOES)
        for read in (gaps(0, 0, 0, 0, pm="0.3"), gaps(*[0.08] * 4, pm="0.1")):
            self.assertNotEqual(gate(read=read).verdict, Verdict.GOES)
        said_ = gate({"joined_with": "they stop"}, gaps(0, 0, 0, 0))
        self.assertEqual(said_.verdict, Verdict.UNMEASURED)

    def test_a_spline_that_is_not_in_and_a_feature_that_is_not_known(self):
        """Teeth that begin late meet their hub at 4 mm: faces 5 mm apart are for hands alone."""
        late = stack(read=gaps(*[5.0] * 4), spline_start_mm="80")
        self.assertEqual(finding(late, "stack.gate").verdict, Verdict.FOULS)
        told = [f.sentence.mm for f in assess(late).findings if f.question == "stack.gate"]
        self.assertTrue(any("spline is not in its hub" in t for t in told), told)
        unknown = {k: v for k, v in DIMS.items() if k != "bell_depth_mm"}
        of = build(said(**unknown), options=OPTIONS | DONE, join_gaps=gaps(*[9.0] * 4))
        self.assertEqual(finding(of, "stack.gate").verdict, Verdict.UNMEASURED)

    def test_each_thing_that_is_not_done_keeps_it_open(self):
        for key in DONE:
            found = gate({key: "not yet"}, gaps(0, 0, 0, 0))
            self.assertEqual(found.verdict, Verdict.UNMEASURED, key)
            self.assertIn("Draw no screw", found.sentence.mm)
            self.assertEqual([m.address for m in found.missing], [key])
        self.assertEqual(gate().verdict, Verdict.UNMEASURED)  # no gap is read

    def test_binding_blocks(self):
        self.assertEqual(gate({"turning_test": "binds"}, gaps(0, 0, 0, 0)).verdict, Verdict.FOULS)

    def test_lean(self):
        leaning = gate(read=gaps(0.6, 0.3, 0, 0.3))
        self.assertEqual(leaning.verdict, Verdict.FOULS)
        self.assertIn("lean 0.60 mm from side to side, open at 0 deg", leaning.sentence.mm)
        unsure = stack(read=gaps(0.5, 0.25, 0, 0.25, pm="0.1"))
        self.assertEqual(finding(unsure, "stack.gate.lean").verdict, Verdict.TIGHT)
        # A lean that is just too much to be sure of never outweighs a stop that nobody knows.
        self.assertEqual(finding(unsure, "stack.gate").verdict, Verdict.UNMEASURED)
        self.assertEqual(gate(read=gaps(0.06, 0.03, 0, 0.03)).verdict, Verdict.GOES)

    def test_above_the_dowels_only_by_hand_and_never_far(self):
        high = gate(read=gaps(*[9.5] * 4))
        self.assertEqual(high.verdict, Verdict.FOULS)
        self.assertIn("above their dowels", high.sentence.mm)
        far = gate(read=gaps(*[10.5] * 4), dowel_out_mm="12")
        self.assertIn("screws may draw 10.0 mm at most", far.sentence.mm)
        self.assertEqual(far.verdict, Verdict.FOULS)

    def test_a_stop_that_something_explains(self):
        """A shaft that stands out further lands its shoulder on the bearing with 3 mm to go."""
        found = gate(read=gaps(*[3.0] * 4), shaft_tip_out_mm="42")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertIn("this meets: shaft shoulder on the bearing", found.sentence.mm)
        begins = gate(read=gaps(*[9.0] * 4))
        self.assertEqual(begins.verdict, Verdict.TIGHT)
        self.assertIn("begins to go in: dowels", begins.sentence.mm)

    def test_a_stop_that_nothing_explains_is_no_go_and_offers_what_may_be_wrong(self):
        of = stack(read=gaps(*[3.0] * 4))
        found = finding(of, "stack.gate")
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertIn("nothing that is measured meets there", found.sentence.mm)
        table = next(t for t in drawn(of)["stack.gate"].tables if t.key == "wrong")
        rows = {(r.cells[0], r.address): r.cells for r in table.rows}
        # The bearing would stand 7 mm nearer to the fingers than its -4 says.
        parked = rows["release bearing on the fingers", "release_parked_mm"]
        self.assertAlmostEqual(parked[3], 71 - 7)
        self.assertAlmostEqual(parked[4], -7)

    def test_a_bearing_that_rides_may_touch(self):
        riding = {"release_type": "rides on the fingers"}
        found = gate(riding, gaps(*[3.0] * 4), release_parked_mm="64")
        self.assertEqual(found.verdict, Verdict.TIGHT)
        self.assertIn("release bearing on the fingers", found.sentence.mm)


class Undone(unittest.TestCase):
    """What was proved at the bench holds for what was on it then."""

    def test_events_undo_the_tests_and_the_gaps(self):
        read = [g | {"evidence": {"tool": "digital calliper"}} for g in gaps(0, 0, 0, 0)]
        of = stack({"finger_before": "moves freely", "spun_by_hand": "free all round"}, read)
        for event, which in (
            ("gearbox off", ""),
            ("plate, shield, spacer or adapter thickness", ""),
            ("dowel out, in or replaced", ""),
            ("part or supplier changed", "flexplate"),
        ):
            with self.subTest(event):
                told = {x.address for x in lapsing(of, event, which)}
                self.assertLessEqual({*DONE, "finger_before", "spun_by_hand"}, told)
                self.assertIn("join_gaps.1", told)
                after = Build.model_validate(
                    jsonpatch.apply_patch(of.model_dump(mode="json"), event_patch(of, event, which))
                )
                self.assertFalse({*DONE, "finger_before", "spun_by_hand"} & set(after.options))
                self.assertEqual(finding(after, "stack.gate").verdict, Verdict.UNMEASURED)
        self.assertFalse({x.address for x in lapsing(of, "gearbox on")} & set(DONE))


if __name__ == "__main__":
    unittest.main()
