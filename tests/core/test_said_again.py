"""What is said of one thing twice, anywhere: in lists, parts of rows, holes; figures, dates,
counts.
"""

import unittest

from pindo.core.acts import Add, Beside, CannotEnter, Cell, Happen, Settle
from pindo.core.assessment import assess
from pindo.core.document.evidence import Source, Tool
from pindo.core.inputs.beside import word
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.demo import pump_tender
from tests.support import build, entered, finding, hole

MOUNT = {"n": 1, "name": "left", "back": "-300", "left": "250", "up": "-20"}


def mounted(**evidence):
    return build(mounts=[MOUNT | {"evidence": {"tool": "tape", **evidence}}])


def beside(of, typed, source="measured", field="back", list="mounts", **more):
    return entered(of, Beside(list=list, row=1, field=field, typed=typed, source=source, **more))


class Figures(unittest.TestCase):
    def test_two_readings_of_a_cell_that_differ_leave_it_unmeasured_and_are_told(self):
        of = beside(mounted(), "-330", tool="tape")
        q = resolve(of).quantities["mounts.1.back"]
        self.assertEqual((q.status, q.value), (Status.CONTRADICTION, None))
        found = finding(of, "contradiction.mounts.1.back")
        self.assertEqual((found.verdict, found.station), (Verdict.UNMEASURED, "seat"))
        for words in ("-300 (measured)", "-330 (measured)", "30.00 mm", "9.1 % apart"):
            self.assertIn(words, found.sentence.mm)
        self.assertEqual(found.missing[0].status, "contradiction")
        # Nothing that reads the cell may say more than that.
        self.assertEqual(finding(of, "seat.mounts").verdict, Verdict.UNMEASURED)

    def test_within_what_tool_and_digit_leave_open_the_better_evidence_stands(self):
        of = beside(mounted(), "-301.4", tool="tape")
        self.assertEqual(resolve(of).quantities["mounts.1.back"].value, -300.0)
        claimed = build(mounts=[MOUNT | {"evidence": {"source": "seller"}}])
        better = beside(claimed, "-301.4", tool="digital calliper")
        q = resolve(better).quantities["mounts.1.back"]
        self.assertEqual((q.value, q.source), (-301.4, Source.MEASURED))

    def test_two_claims_are_held_to_the_last_digit(self):
        claimed = build(mounts=[MOUNT | {"evidence": {"source": "seller"}}])
        for typed, status in (("-301", Status.STANDING), ("-302", Status.CONTRADICTION)):
            of = beside(claimed, typed, "memory")
            self.assertEqual(resolve(of).quantities["mounts.1.back"].status, status, typed)

    def test_a_guess_contradicts_nothing(self):
        of = beside(mounted(), "-400", "guess")
        self.assertEqual(resolve(of).quantities["mounts.1.back"].value, -300.0)

    def test_a_counts_second_number_needs_no_doubt(self):
        joint = {"n": 1, "name": "flywheel", "bolts": "6"}
        of = beside(build(joints=[joint]), "8", "maker's paper", "bolts", "joints")
        found = finding(of, "contradiction.joints.1.bolts")
        self.assertIn("2, 25 % apart", found.sentence.mm)
        self.assertEqual(found.station, "assemble")

    def test_a_part_of_a_row_and_a_hole_are_compared_in_their_own_units(self):
        piece = {"n": 1, "what": "plate", "count": "1", "came": "1", "measured": "17.5"}
        calliper = {"tool": "digital calliper"}
        kit = build(kits=[{"n": 1, "pieces": [piece], "evidence": calliper}])
        of = entered(
            kit,
            Beside(
                list="kits.pieces", of=1, row=1, field="measured", typed="5/8 in", source="measured"
            ),
        )
        self.assertIn("1.62 mm", finding(of, "contradiction.kits.1.pieces.1.measured").sentence.mm)
        face = {"unit": "in", "evidence": {"source": "drawing", "pm": "0"}}
        drilled = build(engine_face=face | {"holes": [hole(1, "1.000", "2", "M10")]})
        for typed, stands in (("1.000", True), ("1.010", False)):
            said = beside(drilled, typed, "drawing", "u", "engine_face.holes")
            q = resolve(said).quantities["engine.1.u"]
            self.assertEqual(q.status == Status.STANDING, stands, typed)

    def test_a_hole_from_the_front_is_mirrored_for_both_statements(self):
        face = {"taken_from": "front", "holes": [hole(1, "100", "20", "M10")]}
        of = beside(build(gearbox_face=face), "100.05", field="u", list="gearbox_face.holes")
        self.assertAlmostEqual(resolve(of).quantities["gearbox.1.u"].value, -100.0)


class Settling(unittest.TestCase):
    def test_the_one_that_does_not_hold_stays_with_its_reason(self):
        of = beside(mounted(), "-330", tool="tape", who="brother")
        kept = entered(of, Settle(list="mounts", row=1, other=0, holds=False, why="tape slipped"))
        self.assertEqual(resolve(kept).quantities["mounts.1.back"].value, -300.0)
        (other,) = kept.mounts[0].others
        self.assertEqual(
            (other.typed, other.settled, other.evidence.who), ("-330", "tape slipped", "brother")
        )

    def test_the_other_takes_the_cell_and_brings_its_evidence(self):
        of = beside(mounted(), "-330", "maker's paper", tool="tape")
        kept = entered(of, Settle(list="mounts", row=1, other=0, holds=True, why="own was a slip"))
        q = resolve(kept).quantities["mounts.1.back"]
        self.assertEqual((q.value, q.source), (-330.0, Source.PAPER))
        (other,) = kept.mounts[0].others
        self.assertEqual((other.typed, other.evidence.tool), ("-300", Tool.TAPE))
        self.assertFalse([f for f in assess(kept).findings if f.id.startswith("contradiction.")])

    def test_words_of_a_row_that_has_evidence_bring_none(self):
        of = beside(mounted(), "bent", "measured", "note")
        kept = entered(of, Settle(list="mounts", row=1, other=0, holds=True, why="looked at it"))
        self.assertEqual((kept.mounts[0].note, kept.mounts[0].said), ("bent", {}))
        self.assertEqual(kept.mounts[0].others, [])

    def test_what_is_gone_or_is_no_figure_is_refused(self):
        of = mounted()
        with self.assertRaises(CannotEnter):
            entered(of, Settle(list="mounts", row=1, other=0, holds=True, why="it is so"))
        with self.assertRaises(EntryError):
            beside(of, "24..1")
        with self.assertRaises(CannotEnter):
            beside(of, "3", field="nowhere")

    def test_a_hole_of_which_only_somebody_else_says_the_thread_opens(self):
        bare = build(engine_face={"holes": [{"n": 1, "u": "1", "v": "2"}]})
        of = beside(bare, "M10", "maker's paper", "d", "engine_face.holes")
        self.assertEqual(resolve(of).quantities["engine.1.d"].value, 10.0)

    def test_an_event_spoils_what_others_read_and_what_single_figures_say(self):
        point = {"n": 1, "evidence": {"tool": "tape"}}
        of = build(pose_points=[point])
        of = entered(of, Cell(list="pose_points", row=1, field="in_up", typed="10"))
        of = entered(
            of, Cell(list="pose_points", row=1, field="in_up", typed="12", tool="digital calliper")
        )
        self.assertIn("in_up", of.pose_points[0].said)
        of = beside(of, "12", field="in_up", list="pose_points", tool="tape")
        gone = entered(of, Happen(event="unit hung"))
        self.assertEqual(resolve(gone).quantities["pose_points.1.in_up"].status, Status.LAPSED)


class Words(unittest.TestCase):
    def test_of_two_dates_the_sooner_is_due_and_the_days_between_are_told(self):
        part = {"n": 1, "name": "crane", "due": [{"n": 1, "what": "test", "on": "2026-06-01"}]}
        of = build(parts=[part])
        of = entered(
            of,
            Beside(list="parts.due", of=1, row=1, field="on", typed="2026-04-20", source="seller"),
        )
        found = finding(of, "contradiction.parts.1.due.1.on")
        self.assertIn("42 days apart", found.sentence.mm)
        due = {f.id: f for f in assess(of, (), "2026-04-18").findings}["survey.due.1.1"]
        self.assertEqual(due.verdict, Verdict.TIGHT)
        self.assertIn("2026-04-20", due.sentence.mm)

    def test_the_same_words_in_another_hand_are_no_contradiction(self):
        of = entered(pump_tender(), Add(list="facts", row={"name": "speeds", "value": "Five "}))
        n = of.facts[-1].n
        same = entered(of, Beside(list="facts", row=n, field="value", typed=" five"))
        self.assertNotIn(f"contradiction.facts.{n}.value", {f.id for f in assess(same).findings})
        other = entered(same, Beside(list="facts", row=n, field="value", typed="four"))
        self.assertEqual(
            finding(other, f"contradiction.facts.{n}.value").verdict, Verdict.UNMEASURED
        )
        # Another column's words are no second statement of this one.
        beside_ = entered(same, Beside(list="facts", row=n, field="known_by", typed="his word"))
        ids = {f.id for f in assess(beside_).findings}
        self.assertFalse([i for i in ids if i.startswith("contradiction.facts")])
        # Nothing hangs on a fact that two tell otherwise.
        self.assertEqual(
            (word(other.facts[-1], "value"), word(same.facts[-1], "value").strip()), ("", "Five")
        )
        settled = entered(
            other, Settle(list="facts", row=n, other=1, holds=True, why="counted them")
        )
        self.assertEqual(settled.facts[-1].value, "four")
        still = finding(settled, f"contradiction.facts.{n}.value").sentence.mm
        self.assertIn("four and five", still)
        done = entered(settled, Settle(list="facts", row=n, other=0, holds=False, why="a slip"))
        self.assertNotIn(f"contradiction.facts.{n}.value", {f.id for f in assess(done).findings})
