"""From what was said to the number that stands."""

import unittest

from pindo.core.assessment import assess
from pindo.core.document.build import Build, State
from pindo.core.document.evidence import Source, Tool, closes_safety, default_pm, refused_state
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.resolve import resolve
from tests.support import build, demo, face, finding, hole, said, statement

PM = [
    # kind | value | source | tool | ±        defaults by tool and rung of the ladder
    ("length", 100, Source.MEASURED, Tool.CALLIPER, 0.1),
    ("length", 100, Source.MEASURED, Tool.DEPTH_GAUGE, 0.1),
    ("length", 100, Source.MEASURED, Tool.RULE, 0.5),
    ("length", 2000, Source.MEASURED, Tool.TAPE, 1.5),
    ("length", 0.2, Source.MEASURED, Tool.DIAL, 0.02),
    ("length", 100, Source.ELSEWHERE, Tool.CALLIPER, 0.1),
    ("length", 100, Source.MEASURED, None, 1.0),
    ("length", 1500, Source.MEASURED, None, 2.0),
    ("angle", 3, Source.MEASURED, None, 1.0),
    ("angle", 3, Source.MEASURED, Tool.CALLIPER, 1.0),
    ("length", 100, Source.CHOSEN, None, 0.5),
    ("torque", 200, Source.UNSAID, None, 50.0),
    ("angle", 3, Source.MEASURED, Tool.INCLINOMETER, 0.2),
    ("angle", 3, Source.MEASURED, Tool.BUBBLE, 0.5),
    ("length", 100, Source.DRAWING, None, 0.1),
    ("length", 100, Source.CATALOGUE, None, 0.5),
    ("length", 100, Source.PAPER, None, 0.5),
    ("length", 100, Source.GUESS, None, 10.0),
    ("length", 5, Source.GUESS, None, 2.0),
    ("length", 100, Source.MEMORY, None, 10.0),
    ("length", 100, Source.HEARSAY, None, 20.0),
    ("length", 100, Source.SELLER, None, 10.0),
    ("angle", 3, Source.GUESS, None, 2.0),
    ("torque", 200, Source.MEASURED, None, 4.0),
    ("torque", 200, Source.CATALOGUE, None, 10.0),
    ("torque", 200, Source.GUESS, None, 50.0),
    ("count", 8, Source.MEMORY, None, 0.0),
]


def stands(dims, key):
    return resolve(build(dims)).quantities[key]


class DefaultDoubt(unittest.TestCase):
    def test_by_tool_and_rung(self):
        for kind, value, source, tool, pm in PM:
            with self.subTest(f"{kind} {source} {tool}"):
                self.assertAlmostEqual(default_pm(kind, value, source, tool), pm)

    def test_only_catalogue_or_better_closes_safety(self):
        closing = {s for s in Source if closes_safety(s)}
        self.assertEqual(
            closing,
            {
                Source.MEASURED,
                Source.ELSEWHERE,
                Source.CHOSEN,
                Source.DRAWING,
                Source.PAPER,
                Source.CATALOGUE,
            },
        )

    def test_only_a_stated_difference_of_state_refuses(self):
        accepts = {"gearbox": frozenset({"off"}), "position": frozenset({"bench"})}
        self.assertIsNone(refused_state(State(), accepts))
        self.assertIsNone(refused_state(State(gearbox="off", ride="droop"), accepts))
        self.assertEqual(
            refused_state(State(gearbox="on"), accepts), "taken gearbox on, needed gearbox off"
        )


class WhatStands(unittest.TestCase):
    def test_takes_give_mean_and_scatter(self):
        q = stands(
            {
                "plate_mm": {
                    "statements": [statement(("18.0", "18.2", "18.1"), tool="digital calliper")]
                }
            },
            "plate_mm",
        )
        self.assertAlmostEqual(q.value, 18.1)
        self.assertAlmostEqual(q.scatter, 0.1)
        # Student's t for two degrees of freedom is 4.303 (tables): 4.303 * 0.1 / sqrt(3) beside the
        # calliper's 0.1.
        self.assertAlmostEqual(q.pm, (0.1**2 + (4.3027 * 0.1 / 3**0.5) ** 2) ** 0.5, places=4)

    def test_the_best_rung_stands(self):
        rows = [
            statement("18.4", "hearsay", id="a"),
            statement("18.1", tool="digital calliper", id="b"),
            statement("18", "catalogue", id="c"),
        ]
        q = stands({"plate_mm": {"statements": rows}}, "plate_mm")
        self.assertEqual((q.statement, q.status), ("b", Status.STANDING))

    def test_given_pm_beats_the_default(self):
        self.assertEqual(
            stands(
                {"plate_mm": {"statements": [statement("18 ± 0.05", "drawing")]}}, "plate_mm"
            ).pm,
            0.05,
        )
        self.assertEqual(
            stands(
                {"plate_mm": {"statements": [statement("18", "drawing", pm="0.3")]}}, "plate_mm"
            ).pm,
            0.3,
        )

    def test_a_word_counts_as_unmeasured(self):
        q = stands({"plate_mm": {"statements": [statement("plenty", "eye word")]}}, "plate_mm")
        self.assertEqual((q.status, q.value, q.detail), (Status.WORD, None, "plenty"))

    def test_a_bad_entry_is_a_status_not_an_error(self):
        q = stands({"plate_mm": {"statements": [statement("12..5")]}}, "plate_mm")
        self.assertEqual((q.status, q.value), (Status.BAD_ENTRY, None))

    def test_a_lapsed_reading_is_kept_and_does_not_stand(self):
        q = stands(
            {"bore_tir_mm": {"statements": [statement("0.1", lapsed={"event": "dowel out"})]}},
            "bore_tir_mm",
        )
        self.assertEqual((q.status, q.value, q.detail), (Status.LAPSED, None, "dowel out"))

    def test_one_hole_seen_from_both_sides_is_one_place(self):
        behind = resolve(build(gearbox_face=face(hole(1, "3", "4"))))
        front = resolve(build(gearbox_face=face(hole(1, "-3", "4")) | {"taken_from": "front"}))
        self.assertEqual(
            behind.quantities["gearbox.1.u"].value, front.quantities["gearbox.1.u"].value
        )


class Contradiction(unittest.TestCase):
    def test_two_claims_that_cannot_both_hold(self):
        rows = [
            statement("125 N·m", "maker's paper", id="a"),
            statement("90 lbf·ft", "maker's paper", id="b"),
        ]
        q = stands({"engine_torque_nm": {"statements": rows}}, "engine_torque_nm")
        # A load: the higher figure is the safer one and stands meanwhile.
        self.assertTrue(q.provisional)
        self.assertEqual((q.conflict, q.value), (("a", "b"), 125.0))

    def test_a_rating_takes_the_lower_meanwhile(self):
        rows = [
            statement("600 N·m", "maker's paper", id="a"),
            statement("500 N·m", "maker's paper", id="b"),
        ]
        self.assertEqual(
            stands({"gearbox_torque_nm": {"statements": rows}}, "gearbox_torque_nm").value, 500.0
        )

    def test_a_size_has_no_safer_side_and_no_value(self):
        rows = [
            statement("18.0", tool="digital calliper", id="a"),
            statement("19.2", "drawing", id="b"),
        ]
        dims = {"plate_mm": {"statements": rows}}
        self.assertIsNone(stands(dims, "plate_mm").value)
        said_twice = finding(build(dims), "contradiction.plate_mm")
        self.assertIn("18.0 (measured) and 19.2 (drawing) cannot both hold", said_twice.sentence.mm)
        self.assertIn("hold, 1.20 mm, 6.2 % apart", said_twice.sentence.mm)

    def test_choosing_one_settles_it(self):
        rows = [
            statement("18.0", tool="digital calliper", id="a"),
            statement("19.2", "drawing", id="b"),
        ]
        q = stands({"plate_mm": {"statements": rows, "chosen": "b"}}, "plate_mm")
        self.assertEqual((q.value, q.conflict), (19.2, None))

    def test_a_reading_inside_a_papers_doubt_is_no_contradiction(self):
        rows = [
            statement("18.3", tool="digital calliper", id="a"),
            statement("18", "catalogue", id="b"),
        ]
        self.assertIsNone(stands({"plate_mm": {"statements": rows}}, "plate_mm").conflict)


class Catalogue(unittest.TestCase):
    def test_every_dimension_says_how_it_is_taken(self):
        for d in DIMENSIONS.values():
            self.assertTrue(d.how, d.key)
            self.assertTrue(d.name[0].isupper(), d.key)

    def test_the_demo_has_a_mix_of_evidence(self):
        answer = assess(demo())
        sources = {
            q.source for key, q in answer.quantities.items() if key in DIMENSIONS and q.source
        }
        self.assertGreaterEqual(len(sources), 7)
        self.assertGreaterEqual(sum(answer.quantities[k].value is not None for k in DIMENSIONS), 60)

    def test_a_build_with_nothing_in_it_is_all_questions(self):
        answer = assess(Build(name="blank"))
        self.assertTrue(answer.findings)
        self.assertEqual({f.verdict.value for f in answer.findings}, {"unmeasured"})
        self.assertEqual(said(plate_mm="1")["plate_mm"]["statements"][0]["pm"], "0")
