"""The machinery round a check: verdicts, doubt, reasons, ways out, what to measure next."""

import unittest
from dataclasses import replace

import jsonpatch
import numpy as np

from pindo.core.acts import Plan
from pindo.core.assessment import assess
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.rules import RULES
from pindo.core.inputs.units import KINDS
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.evaluate import evaluate
from pindo.core.judging.uncertainty import propagate, sample
from pindo.core.judging.verdict import Verdict, decide
from pindo.core.stations.stack import spacing
from pindo.core.transition import completing
from pindo.demo import DEMOS
from tests.support import build, demo, entered, finding, said, statement

GAP = Check(
    id="test.gap",
    station=Station.STACK,
    question="stack.spacing",
    title="Gap",
    value=lambda plate_mm, separator_mm: plate_mm - separator_mm,
    at_least="tip_gap_min_mm",
    says="Gap is {value}; needs {limit}",
)


def with_pm(plate: str, pm: str, separator: str = "0"):
    dims = {"plate_mm": {"statements": [statement(plate, "drawing", pm=pm)]}} | said(
        separator_mm=separator
    )
    return resolve(build(dims))


class VerdictByGuardBand(unittest.TestCase):
    CASES = [
        # margin | U | verdict
        (1.0, 0.5, Verdict.GOES),
        (0.5, 0.5, Verdict.GOES),
        (0.5 - 1e-10, 0.5, Verdict.GOES),
        (0.49, 0.5, Verdict.TIGHT),
        (0.0, 0.0, Verdict.GOES),
        (0.0, 0.5, Verdict.TIGHT),
        (-0.49, 0.5, Verdict.TIGHT),
        (-0.5, 0.5, Verdict.TIGHT),
        (-0.51, 0.5, Verdict.FOULS),
        (-1e-8, 0.0, Verdict.FOULS),
    ]

    def test_both_sides_of_the_limit(self):
        for margin, u, verdict in self.CASES:
            with self.subTest(margin=margin, u=u):
                self.assertEqual(decide(margin, u), verdict)

    def test_the_factor_is_a_rule(self):
        dims = {"plate_mm": {"statements": [statement("2.9", "drawing", pm="1")]}} | said(
            separator_mm="0"
        )
        self.assertEqual(evaluate(GAP, resolve(build(dims))).verdict, Verdict.TIGHT)
        eased = evaluate(
            GAP,
            resolve(
                build(dims, rules={"guard_band_factor": {"value": 1.65, "note": "one-sided band"}})
            ),
        )
        self.assertEqual(eased.verdict, Verdict.GOES)
        self.assertTrue(any(r.id == "guard_band_factor" and r.overridden for r in eased.rules))


class Doubt(unittest.TestCase):
    def test_two_inputs_add_in_squares_with_their_shares(self):
        dims = {
            "plate_mm": {"statements": [statement("10", "drawing", pm="0.3")]},
            "separator_mm": {"statements": [statement("1", "drawing", pm="0.4")]},
        }
        found = evaluate(GAP, resolve(build(dims)))
        self.assertAlmostEqual(found.u, 0.5)
        self.assertAlmostEqual(sum(s.share for s in found.shares), 1.0)
        self.assertEqual([s.address for s in found.shares], ["separator_mm", "plate_mm"])
        self.assertAlmostEqual(found.shares[0].share, 0.64)

    def test_a_bend_inside_the_doubt_is_not_taken_for_a_kink(self):
        """(x + 1)² about 2 with u 0.25: the slope is 6, so u is 1.5; the larger one-sided
        difference would say 1.5625 (JCGM 100, 5.1.2).
        """
        bent = replace(GAP, value=lambda plate_mm: (plate_mm + 1.0) ** 2)
        self.assertAlmostEqual(propagate(bent, with_pm("2", "0.5")).u_margin, 1.5)
        # The end of an overlap is one: flat on one side, a slope of one on the other.
        end = replace(GAP, value=lambda plate_mm: np.minimum(plate_mm, 5.0))
        self.assertAlmostEqual(propagate(end, with_pm("5", "1")).u_margin, 0.5)

    def test_a_kink_does_not_hide_the_doubt(self):
        # At the top of a tent the mean of both slopes is zero; the doubt is not.
        tent = replace(GAP, value=lambda plate_mm: -np.abs(plate_mm - 5.0))
        self.assertAlmostEqual(propagate(tent, with_pm("5", "1")).u_margin, 0.5)

    def test_sampling_agrees_with_linear_propagation(self):
        for check in spacing.CHECKS[:3]:
            with self.subTest(check.id):
                inputs = resolve(demo())
                linear, drawn = propagate(check, inputs), sample(check, inputs)
                self.assertAlmostEqual(
                    (drawn.high - drawn.low) / (2 * 1.96 * linear.u_margin), 1.0, delta=0.02
                )

    def test_sampling_is_the_same_every_time(self):
        inputs = resolve(demo())
        self.assertEqual(sample(spacing.CHECKS[0], inputs), sample(spacing.CHECKS[0], inputs))


class Reasons(unittest.TestCase):
    def test_a_missing_input_is_named_with_its_reason(self):
        found = evaluate(GAP, resolve(build(said(plate_mm="5"))))
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertIn("dust shield or separator (not measured)", found.sentence.mm)

    def test_the_sentence_speaks_both_units(self):
        found = evaluate(GAP, with_pm("19.05", "0.1"))
        self.assertEqual(found.sentence.mm, "Gap is 19.05 ± 0.10 mm; needs 2 mm")
        self.assertEqual(found.sentence.inch, "Gap is 0.7500 ± 0.0039 in; needs 0.0787 in")

    def test_a_reading_in_another_state_does_not_count(self):
        bell = finding(demo(), "stack.cover_to_bell")
        self.assertEqual(
            (bell.verdict, bell.missing[0].status), (Verdict.UNMEASURED, "other state")
        )
        self.assertIn("taken hung", bell.sentence.mm)

    def test_weak_evidence_cannot_close_a_strength_finding(self):
        clutch = finding(demo(), "stack.clutch_torque")
        self.assertEqual(clutch.missing[0].status, "weak evidence")
        self.assertIn("from memory", clutch.sentence.mm)
        settled = demo()
        settled.dims["clutch_torque_nm"].statements[0].source = Source.CATALOGUE
        self.assertNotEqual(finding(settled, "stack.clutch_torque").verdict, Verdict.UNMEASURED)

    def test_a_torque_is_neither_measured_nor_chosen_and_only_a_paper_closes_what_rests_on_it(self):
        closed = {
            "maker's paper": True,
            "catalogue": True,
            "measured": False,
            "measured elsewhere": False,
            "chosen": False,
            "memory": False,
            "not said": False,
        }
        for source, goes in closed.items():
            document = demo().model_dump(mode="json")
            for key, typed in (
                ("engine_torque_nm", "300"),
                ("clutch_torque_nm", "700"),
                ("gearbox_torque_nm", "600"),
            ):
                document["dims"][key] = {"statements": [statement(typed, source)]}
            for joint in document["joints"]:
                joint |= {"evidence": {"source": source}, "surface": "oiled"}
            answer = assess(Build.model_validate(document), ())
            for id in (
                "stack.clutch_torque",
                "stack.gearbox_torque",
                "assemble.preload.1",
                "assemble.clamp.1",
            ):
                with self.subTest(source, finding=id):
                    self.assertEqual(finding(answer, id).verdict, "goes" if goes else "unmeasured")

    def test_an_override_shows_wherever_it_acts(self):
        changed = demo(rules={"pilot_share": {"value": 0.5, "note": "short nose, light duty"}})
        found = finding(changed, "stack.pilot_engagement")
        rule = next(r for r in found.rules if r.id == "pilot_share")
        self.assertEqual(
            (rule.value, rule.default, rule.overridden, rule.note),
            (0.5, 0.7, True, "short nose, light duty"),
        )
        self.assertEqual(found.verdict, Verdict.GOES)

    def test_a_waiver_never_reads_as_goes(self):
        waived = demo(
            waivers={
                "stack.release_gap": {
                    "who": "the owner",
                    "reason": "bench only",
                    "until": "2027-01-01",
                }
            }
        )
        found = finding(assess(waived, (), "2027-01-01"), "stack.release_gap")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertIn("the owner, until 2027-01-01", found.waived_by)

    def test_a_waiver_ends_on_its_date_and_opens_nothing_afterwards(self):
        waived = demo(
            waivers={
                "stack.release_gap": {
                    "who": "the owner",
                    "reason": "bench only",
                    "until": "2027-01-01",
                }
            }
        )
        for today in ("2027-01-02", ""):
            answer = assess(waived, (), today)
            found = finding(answer, "stack.release_gap")
            self.assertEqual((found.waived_by, bool(found.waiver_ended)), ("", True), today)
            self.assertIn("Release gap fouls", finding(answer, "assemble.hold.30").sentence.mm)
        self.assertNotIn(
            "Release gap", finding(assess(waived, (), "2026-12-31"), "assemble.hold.30").sentence.mm
        )

    def test_every_rule_has_source_and_reason(self):
        for rule in RULES.values():
            self.assertTrue(rule.source and rule.reason and rule.name, rule.id)


class WaysOut(unittest.TestCase):
    def setUp(self):
        self.answer = assess(demo())

    def test_each_way_out_kept_as_a_plan_clears_its_finding_and_breaks_no_other(self):
        tried = 0
        for make in DEMOS.values():
            start = make()
            answer = assess(start)
            before = {f.id: f.verdict for f in answer.findings}
            for found in answer.findings:
                for way in found.ways_out:
                    planned = entered(
                        start,
                        Plan(key=way.address, typed=f"{way.target:g}", unit=KINDS[way.kind].unit),
                    )
                    after = assess(
                        Build.model_validate(
                            jsonpatch.apply_patch(
                                planned.model_dump(mode="json"), completing(start, planned, "")
                            )
                        )
                    )
                    with self.subTest(found.id, way=way.address):
                        remaining = next((f for f in after.findings if f.id == found.id), None)
                        self.assertTrue(remaining is None or remaining.verdict == Verdict.GOES)
                        for other in after.findings:
                            if other.id in before and other.id != found.id:
                                worse = (before[other.id], other.verdict) in (
                                    (Verdict.GOES, Verdict.FOULS),
                                    (Verdict.GOES, Verdict.TIGHT),
                                    (Verdict.TIGHT, Verdict.FOULS),
                                )
                                self.assertFalse(
                                    worse, f"{way.address} to {way.target} spoils {other.id}"
                                )
                    tried += 1
        self.assertGreaterEqual(tried, 6)

    def test_the_story_of_the_demo(self):
        release = finding(self.answer, "stack.release_gap")
        self.assertEqual([w.address for w in release.ways_out], ["release_shim_mm"])
        module = finding(self.answer, "stack.starter_module")
        self.assertEqual((module.verdict, module.ways_out), (Verdict.FOULS, ()))
        self.assertIn("2.540 mm", module.sentence.mm)

    def test_a_change_that_breaks_another_finding_is_left_out(self):
        # A thicker plate would free the release bearing and pull the nose out of its bearing.
        self.assertNotIn(
            "plate_mm", [w.address for w in finding(self.answer, "stack.release_gap").ways_out]
        )

    def test_one_better_reading_settles_the_tight_finding(self):
        nose = finding(self.answer, "stack.pilot_engagement")
        self.assertEqual(nose.verdict, Verdict.TIGHT)
        wanted = next(n for n in self.answer.next if n.address == "shaft_tip_out_mm")
        self.assertIn("stack.pilot_engagement", wanted.findings)
        better = demo()
        better.dims["shaft_tip_out_mm"].statements[0].pm = f"{wanted.pm_wanted * 0.99:.4f}"
        self.assertEqual(finding(better, "stack.pilot_engagement").verdict, Verdict.GOES)
        worse = demo()
        worse.dims["shaft_tip_out_mm"].statements[0].pm = f"{wanted.pm_wanted * 1.02:.4f}"
        self.assertEqual(finding(worse, "stack.pilot_engagement").verdict, Verdict.TIGHT)


class Binding(unittest.TestCase):
    def test_a_parameter_may_be_bound_to_a_constant_or_another_input(self):
        check = Check(
            id="test.bound",
            station=Station.MATE,
            question="mate.plate",
            title="Bound",
            value=plain.difference,
            at_least=plain.zero,
            given={"a": "plate_mm", "b": Constant(3.0)},
            says="{value}",
        )
        found = evaluate(check, resolve(build(said(plate_mm="5"))))
        self.assertEqual((found.value, found.inputs), (2.0, ("plate_mm",)))
