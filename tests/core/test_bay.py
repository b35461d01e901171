"""The bay from a tape, through the whole road: readings typed, marks placed, findings, the pose."""

import unittest
from itertools import combinations

import numpy as np

from pindo.core.assessment import assess
from pindo.core.document.evidence import Source
from pindo.core.geometry.bay import bay
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.networks import slip
from pindo.core.judging.verdict import Verdict
from pindo.demo import pump_tender
from tests.support import build, drawn

TRUE = {
    1: (0.0, 400.0, 0.0),
    2: (1800.0, 400.0, 0.0),
    3: (900.0, -400.0, 0.0),
    4: (150.0, -380.0, 520.0),
    5: (700.0, 300.0, 610.0),
    6: (1500.0, -150.0, -240.0),
    7: (400.0, 20.0, 880.0),
}
EVIDENCE = {"source": "measured", "tool": "tape", "pm": "2"}
PAIRS = tuple(combinations(TRUE, 2))


def marks(**more):
    """Three marks hold the frame by six figures, one lies on the left of nobody's guess."""
    held = {
        1: {"back": "0", "left": "400", "up": "0", "datum": True},
        2: {"left": "400", "up": "0", "datum": True, "lies": "behind"},
        3: {"up": "0", "datum": True, "lies": "right"},
        4: {"lies": "above"},
    }
    return [
        {"n": n, "evidence": EVIDENCE, **held.get(n, {}), **more.get(f"m{n}", {})} for n in TRUE
    ]


def tapes(pairs=PAIRS, read=None):
    """Readings of the true places, to a tenth of a millimetre; ``read`` says some otherwise."""
    found = []
    for n, (a, b) in enumerate(pairs, 1):
        far = float(np.linalg.norm(np.subtract(TRUE[a], TRUE[b])))
        typed = (read or {}).get((a, b), f"{far:.1f}")
        found.append({"n": n, "a": a, "b": b, "value": typed, "evidence": EVIDENCE})
    return found


def of_bay(**more):
    return build(**({"marks": marks(), "tape": tapes()} | more))


def findings(of):
    """What is said of the readings."""
    return {f.id: f for f in assess(of).findings if f.id.startswith("survey.bay.")}


class ThroughTheWholeRoad(unittest.TestCase):
    def test_readings_that_agree_place_every_mark(self):
        made = of_bay()
        (agree,) = findings(made).values()
        self.assertEqual((agree.id, agree.verdict), ("survey.bay.agree", Verdict.GOES))
        self.assertIn(
            "7 of 7 marks have a place, from 21 readings, 6 more than needed", agree.sentence.mm
        )
        placed = bay(resolve(made))
        for n, place in TRUE.items():
            np.testing.assert_allclose(placed.place(n), place, atol=0.6)
        self.assertIsNone(placed.place(99))
        board = drawn(made)["survey.bay"]
        self.assertEqual([d.name for d in board.drawings], ["Side", "From above", "From behind"])
        side = board.drawings[0]
        at = {r.part: (r.x, r.y) for r in side.rounds}
        np.testing.assert_allclose(at["6"], (1500.0, -240.0), atol=0.6)
        behind = {r.part: (r.x, r.y) for r in board.drawings[2].rounds}
        np.testing.assert_allclose(behind["6"], (150.0, -240.0), atol=0.6)
        self.assertRegex(side.view, r"doubt drawn \d+ times")
        grown = float(side.view.split("drawn ")[1].split()[0])
        ellipse = next(
            s
            for s, r in zip(
                [s for s in side.shapes if s.part == "doubt, 95 %"], side.rounds, strict=True
            )
            if r.part == "7"
        )
        (x, y), points = at["7"], np.array(ellipse.points)
        far = np.hypot(points[:, 0] - x, points[:, 1] - y).max() / grown
        own = placed.answer.place_covariance(placed.numbers.index(7))[np.ix_([0, 2], [0, 2])]
        self.assertAlmostEqual(
            far, 2.4477 * float(np.sqrt(np.linalg.eigvalsh(own)[-1])), delta=0.02
        )
        (table,) = board.tables
        row = next(r for r in table.rows if r.address == "marks.5")
        np.testing.assert_allclose(row.cells[1:4], TRUE[5], atol=0.6)
        self.assertGreater(row.cells[4], 0.5)

    def test_a_reading_100_mm_short_is_named_left_out_and_leads_to_its_row(self):
        far = float(np.linalg.norm(np.subtract(TRUE[4], TRUE[6])))
        made = of_bay(tape=tapes(read={(4, 6): f"{far - 100:.1f}"}))
        found = findings(made)
        n = PAIRS.index((4, 6)) + 1
        bad = found[f"survey.bay.tape.{n}.value"]
        self.assertEqual((bad.verdict, bad.condition), (Verdict.UNMEASURED, "contradiction"))
        self.assertRegex(bad.sentence.mm, r"4 to 6 was read \d+\.\d mm; the rest says \d+\.\d ±")
        self.assertIn(
            "100.0 mm short (read 100 mm short)",
            bad.sentence.mm.replace("99.9", "100.0").replace("100.1", "100.0"),
        )
        self.assertIn(" in short", bad.sentence.inch)
        self.assertEqual(bad.row, f"tape.{n}")
        np.testing.assert_allclose(bay(resolve(made)).place(6), TRUE[6], atol=1.5)

    def test_where_the_rest_cannot_tell_which_is_wrong_both_are_named(self):
        """The pump tender's own bay: one mark by five tapes, one of them 100 mm short."""
        found = {f.id: f for f in assess(pump_tender()).findings if f.id.startswith("survey.bay.")}
        bad = found["survey.bay.tape.17.value"]
        self.assertRegex(
            bad.sentence.mm,
            r"^4 to 7 was read 734\.0 mm; the rest says 83\d\.\d ± \d\.\d mm: 10\d\.\d mm short"
            r" \(read 100 mm short\), unless it is 5 to 7 that is wrong",
        )
        self.assertIn("and mark 7 has no place till then", bad.sentence.mm)
        placed = bay(resolve(pump_tender()))
        self.assertEqual((placed.doubtful, placed.place(7)), ({7}, None))
        self.assertIsNotNone(placed.place(6))
        self.assertEqual(found["survey.bay.agree"].verdict, Verdict.GOES)
        self.assertIn("7 of 8 marks have a place", found["survey.bay.agree"].sentence.mm)
        self.assertEqual(len(found), 2)

    def test_what_is_wanting_is_said(self):
        few = of_bay(marks=marks(m3={"up": None}))
        said = findings(few)["survey.bay.frame"]
        self.assertIn("5 of 6 figures hold the frame", said.sentence.mm)
        self.assertIsNone(bay(resolve(few)).place(5))
        loose = of_bay(tape=tapes([p for p in PAIRS if 7 not in p or p in ((1, 7), (2, 7))]))
        said = findings(loose)["survey.bay.loose"]
        self.assertIn("Mark 7 can still move", said.sentence.mm)
        self.assertEqual(said.row, "marks.7")
        self.assertNotIn("survey.bay.loose", findings(of_bay()))
        mirror = of_bay(marks=marks(m4={"lies": ""}))
        said = findings(mirror)["survey.bay.mirror"]
        self.assertIn("above or below", said.sentence.mm)
        self.assertIsNone(bay(resolve(mirror)).place(5))
        twin = of_bay(tape=tapes([p for p in PAIRS if 7 not in p or p[0] in (4, 5, 6)]))
        said = findings(twin)["survey.bay.twin.7"]
        self.assertRegex(said.sentence.mm, r"the distance 7 to \d decides: [\d.]+ mm here")
        self.assertIsNone(bay(resolve(twin)).place(7))
        self.assertIsNotNone(bay(resolve(twin)).place(5))
        unread = of_bay(tape=[*tapes(), {"n": 40, "a": 1, "b": 77, "value": "5"}])
        self.assertIn("Reading 40 want", findings(unread)["survey.bay.unread"].sentence.mm)

    def test_what_nothing_checks_goes_nowhere_and_what_disagrees_is_tight(self):
        least = [(1, 2), (1, 3), (2, 3), *((a, 5) for a in (1, 2, 3))]
        alone = {
            "marks": [m for m in marks(m5={"lies": "above"}) if m["n"] in (1, 2, 3, 5)],
            "tape": tapes(least),
        }
        said = findings(of_bay(**alone))["survey.bay.agree"]
        self.assertEqual(said.verdict, Verdict.UNMEASURED)
        self.assertIn("nothing checks their readings", said.sentence.mm)
        # Every reading off by 1.75 mm one way or the other: no single one stands out.
        rng = np.random.default_rng(4)
        rough = {
            p: f"{np.linalg.norm(np.subtract(TRUE[p[0]], TRUE[p[1]])) + 1.75 * sign:.2f}"
            for p, sign in zip(PAIRS, rng.choice([-1, 1], len(PAIRS)), strict=True)
        }
        made = of_bay(tape=tapes(read=rough))
        (said,) = findings(made).values()
        self.assertEqual(said.verdict, Verdict.TIGHT)
        self.assertIn("differ 1.6 times as much as their ± allow", said.sentence.mm)
        clean, enlarged = (bay(resolve(of)).u(7)[0] for of in (of_bay(), made))
        self.assertAlmostEqual(enlarged / clean, 1.6, delta=0.15)

    def test_a_level_between_two_marks_holds_no_frame(self):
        rows = marks()
        rows[2] = {"n": 3, "evidence": EVIDENCE}
        rows[1] = {"n": 2, "evidence": EVIDENCE, "left": "400", "datum": True}
        levels = [
            {"n": 90 + b, "a": 1, "b": b, "along": "upright", "value": "0", "evidence": EVIDENCE}
            for b in (2, 3)
        ]
        found = findings(of_bay(marks=rows, tape=tapes() + levels))
        self.assertIn("4 of 6 figures hold the frame", found["survey.bay.frame"].sentence.mm)

    def test_heights_and_plumb_offsets_hold_what_distances_do_not(self):
        flat = [
            {"n": n, "evidence": EVIDENCE, **({"up": f"{TRUE[n][2]}"} if n > 3 else {})}
            for n in TRUE
        ]
        for mark, held in zip(flat, marks(), strict=True):
            mark.update({k: v for k, v in held.items() if k in ("back", "left", "datum", "lies")})
            if held.get("datum"):
                mark["up"] = held["up"]
        offset = {
            "n": 50,
            "a": 1,
            "b": 6,
            "along": "sideways",
            "value": f"{TRUE[6][1] - TRUE[1][1]:.1f}",
            "evidence": EVIDENCE,
        }
        few = [p for p in PAIRS if 6 not in p] + [(1, 6), (2, 6)]
        placed = bay(resolve(of_bay(marks=flat, tape=[*tapes(few), offset])))
        np.testing.assert_allclose(placed.place(6), TRUE[6], atol=1.0)
        self.assertEqual(placed.unread, ())


class ThePose(unittest.TestCase):
    def points(self, by_mark):
        """Five points of a unit that stands 178 mm behind the axle, square to the vehicle."""
        found = []
        for n in (3, 4, 5, 6, 7):
            back, left, up = TRUE[n]
            own = {"in_back": f"{back}", "in_left": f"{left}", "in_up": f"{up}"}
            on = {"on_back": f"{back - 178}", "on_left": f"{left}", "on_up": f"{up - 20}"}
            where = {"mark": n} if by_mark else own
            found.append({"n": n, "evidence": {"source": "measured", "pm": "1"}, **on, **where})
        return found

    def test_points_that_are_marks_give_the_pose_with_the_doubt_of_the_tapes(self):
        options = {"pose_from": "points"}
        by_mark = resolve(of_bay(pose_points=self.points(True), options=options))
        own = resolve(of_bay(pose_points=self.points(False), options=options))
        for key, expected in (("block_face_back_mm", 178.0), ("crank_height_mm", 20.0)):
            q = by_mark.quantities[key]
            self.assertAlmostEqual(q.value, expected, delta=0.8)
            self.assertAlmostEqual(q.value, own.quantities[key].value, delta=0.8)
            self.assertIn("tape.1.value", q.parts)
            self.assertNotIn("pose_points.4.in_back", q.parts)
            self.assertGreater(q.pm, 0.2)
        self.assertIn("pose_points.4.in_back", own.quantities["block_face_back_mm"].parts)
        # A mark that is not held gives no point.
        loose = tapes([p for p in PAIRS if 7 not in p])
        made = resolve(of_bay(tape=loose, pose_points=self.points(True), options=options))
        self.assertIn("from 4 points", made.quantities["block_face_back_mm"].detail)

    def test_a_doubtful_tape_moves_the_pose_as_its_part_says(self):
        options = {"pose_from": "points"}
        made = {"pose_points": self.points(True), "options": options}
        before = resolve(of_bay(**made)).quantities["crank_height_mm"]
        n = PAIRS.index((2, 7)) + 1
        moved = tapes()
        moved[n - 1]["value"] = f"{float(moved[n - 1]['value']) + 1.0:.1f}"  # one standard u
        after = resolve(of_bay(**made, tape=moved)).quantities["crank_height_mm"]
        self.assertAlmostEqual(
            after.value - before.value, before.parts[f"tape.{n}.value"], delta=0.02
        )

    def test_a_pose_is_no_better_than_the_worst_figure_that_it_rests_on(self):
        options = {"pose_from": "points"}
        tape = tapes()
        made = {"options": options, "pose_points": self.points(True)}
        sure = resolve(of_bay(**made, tape=tape)).quantities["crank_height_mm"]
        self.assertEqual(sure.source, Source.MEASURED)
        tape[PAIRS.index((2, 7))]["evidence"] = {"source": "guess", "pm": "2"}
        guessed = resolve(of_bay(**made, tape=tape)).quantities["crank_height_mm"]
        self.assertEqual(guessed.source, Source.GUESS)
        own = self.points(False)
        own[0]["evidence"] = {"source": "memory", "pm": "1"}
        told = resolve(of_bay(options=options, pose_points=own)).quantities["crank_height_mm"]
        self.assertEqual(told.source, Source.MEMORY)

    def test_a_point_of_its_own_figures_moves_the_pose_with_the_sign_of_its_part(self):
        points = self.points(False)
        made = {"options": {"pose_from": "points"}}
        before = resolve(of_bay(**made, pose_points=points)).quantities
        u = before["pose_points.4.in_back"].u
        points[1]["in_back"] = f"{TRUE[4][0] + u}"
        after = resolve(of_bay(**made, pose_points=points)).quantities
        # The fit's part speaks of both readings of the point, on the unit and in the chassis.
        both = before["block_face_back_mm"].parts["pose_points.4.in_back"]
        moved = after["block_face_back_mm"].value - before["block_face_back_mm"].value
        self.assertGreater(moved, 0.0)
        self.assertAlmostEqual(moved, both * u / (u * 2**0.5), delta=0.02)


class Slips(unittest.TestCase):
    def test_common_slips_are_told_in_words(self):
        for read, expected, words in (
            (182.4, 128.4, "two digits swapped: 128.4"),
            (512.0, 612.3, "read 100 mm short"),
            (660.0, 610.2, "read 50 mm long"),
            (24.1, 612.0, "read in inches, written as millimetres"),
            (612.0, 637.7, ""),
            (-110.0, -120.2, "read 10 mm long"),
            (-21.0, -12.0, "two digits swapped: -12"),
        ):
            self.assertEqual(slip(read, expected, 1.0), words, read)
