"""The whole answer: order, completeness, and that nothing a person enters stops it."""

import json
import math
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from pindo.core.assessment import assess, worst_first
from pindo.core.document.build import Build
from pindo.core.document.evidence import LADDER
from pindo.core.document.lists import LISTS
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS, Station
from pindo.core.inputs.problems import problems
from pindo.core.judging.question import QUESTIONS
from pindo.core.judging.verdict import SEVERITY, Verdict
from pindo.core.stations.stack import spacing
from pindo.demo import DEMOS
from tests.support import demo, drawn, face, finding, hole, statement

SECTIONS = ("stack.spacing", "stack.disc", "stack.release", "stack.starter", "stack.match")
ENTRIES = ("0", "-5", "18", "1e6", "-1e6", "plenty", "12..5", "3/4", "1e-9", "400 ± 300")


def documents():
    """Builds as no one would enter them: odd values, words and nonsense anywhere."""
    one = st.builds(
        lambda t, s: {"statements": [statement(t, s)]},
        st.sampled_from(ENTRIES),
        st.sampled_from([s.value for s in LADDER]),
    )
    dims = st.dictionaries(st.sampled_from(sorted(DIMENSIONS)), one, max_size=len(DIMENSIONS))
    options = st.fixed_dictionaries(
        {}, optional={k: st.sampled_from([*o.choices, "", "sideways"]) for k, o in OPTIONS.items()}
    )
    holes = st.lists(
        st.tuples(
            *[st.sampled_from(ENTRIES)] * 3,
            st.sampled_from(["hex head", "cap head", "countersunk", "tapped", "nut", None]),
        ),
        max_size=5,
    )
    faces = holes.map(
        lambda rows: face(
            *(
                hole(i + 1, u, v, d, fastening=f, recess="5", land="20")
                for i, (u, v, d, f) in enumerate(rows)
            )
        )
    )
    entry = st.sampled_from(ENTRIES)

    def rows(fields, most, **choices):
        row = st.fixed_dictionaries(
            dict.fromkeys(fields.split(), entry)
            | {k: st.sampled_from(v) for k, v in choices.items()}
        )
        return st.lists(row, max_size=most).map(
            lambda found: [r | {"n": i + 1} for i, r in enumerate(found)]
        )

    lists = st.fixed_dictionaries(
        {
            "mounts": rows("back left up kx ky kz slot slot_at travel rating", 4),
            "solids": rows(
                "back left up a b c tilt turn",
                5,
                body=["engine", "chassis"],
                shape=["box", "cylinder", "capsule", "cone", "sphere"],
            ),
            "pulleys": rows("right up d plane ribs", 4, side=["ribs", "back"]),
            "pose_points": rows("on_back on_left on_up in_back in_left in_up", 4),
            "joints": rows(
                "bolts d torque", 2, strength=["8.8", ""], stages=["30, 60, 100", "tight", "-5"]
            ),
            "money": rows("amount", 3, state=["paid", "refund asked", "unpriced"]),
        }
    )
    layout = st.sampled_from(["lengthwise", "reversed", "crosswise left", "crosswise right"])
    return st.builds(
        lambda d, o, e, g, rows, way: Build.model_validate(
            {
                "name": "odd",
                "dims": d,
                "options": o,
                "engine_face": e,
                "gearbox_face": g,
                "layout": way,
            }
            | rows
        ),
        dims,
        options,
        faces,
        faces,
        lists,
        layout,
    )


class NothingStopsIt(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(documents())
    def test_any_document_is_assessed_and_drawn(self, build):
        answer = assess(
            build,
            [f.id for f in assess(build, ()).findings if f.verdict.value in ("fouls", "tight")][:3],
        )
        for f in answer.findings:
            self.assertTrue(f.sentence.mm and f.sentence.inch, f.id)
            for number in (f.value, f.margin, f.u):
                self.assertTrue(number is None or math.isfinite(number), f.id)
        shown = drawn(build)
        self.assertFalse(any(board.failed for board in shown.values()))
        for drawing in (d for board in shown.values() for d in board.drawings):
            self.assertLess(drawing.x_low, drawing.x_high)
            self.assertTrue(
                all(math.isfinite(x) for s in drawing.shapes for p in s.points for x in p)
            )

    def test_figures_without_any_doubt_are_assessed_and_have_ways_out(self):
        def certain(part):
            if isinstance(part, dict):
                return {k: "0" if k == "pm" else certain(v) for k, v in part.items()}
            return [certain(x) for x in part] if isinstance(part, list) else part

        for make in DEMOS.values():
            build = Build.model_validate(certain(make().model_dump(mode="json")))
            answer = assess(build)
            self.assertTrue(any(f.ways_out for f in answer.findings))
            self.assertGreater(drawn(build)[""].drawings[0].x_high, 0.0)

    HOSTILE = (
        "{x}",
        "{a",
        "}{",
        "{value}",
        "{value:>99999999}",
        "{0.__class__}",
        "{{value}}",
        "%s %(n)s",
        "quote ' \" `",
        "\u202eback",
        "a\tb",
    )

    def test_no_name_opens_a_field_or_changes_a_verdict(self):
        for make in DEMOS.values():
            plain = make().model_dump(mode="json")
            verdicts = {f.id: (f.verdict, f.value) for f in assess(make(), ()).findings}
            for name in self.HOSTILE:
                with self.subTest(name):
                    document = json.loads(json.dumps(plain))
                    for row in (
                        *(r for key in LISTS for r in document[key]),
                        *document["engine_face"]["holes"],
                        *document["gearbox_face"]["lands"],
                    ):
                        row["name"] = name
                    answer = assess(Build.model_validate(document), ())
                    self.assertEqual(
                        {f.id: (f.verdict, f.value) for f in answer.findings}, verdicts
                    )
                    self.assertTrue(
                        any(
                            name in f.sentence.mm
                            for f in answer.findings
                            if f.id.startswith("clear.pair")
                        )
                        or not plain["solids"]
                    )
                    self.assertFalse(any(len(f.sentence.mm) > 1000 for f in answer.findings))

    def test_a_check_that_fails_names_itself_and_the_rest_is_read(self):
        first, second, *rest = spacing.CHECKS
        broken = replace(first, value=lambda nose_mm: {}[nose_mm])
        mended = replace(spacing.QUESTION, checks=lambda inputs: [broken, second, *rest])
        with (
            mock.patch.dict(QUESTIONS, {mended.key: mended}),
            self.assertLogs("pindo.core.assessment", "ERROR"),
        ):
            answer = assess(demo(), ())
        self.assertEqual(finding(answer, broken.id).verdict, "unmeasured")
        self.assertIn("Pindo failed here", finding(answer, broken.id).sentence.mm)
        self.assertEqual(finding(answer, second.id).verdict, finding(demo(), second.id).verdict)

    def test_a_question_that_fails_names_itself_and_the_rest_is_read(self):
        def failing(*_):
            raise RuntimeError("x")

        broken = replace(spacing.QUESTION, checks=failing, board=failing)
        with (
            mock.patch.dict(QUESTIONS, {broken.key: broken}),
            self.assertLogs("pindo.core.assessment", "ERROR"),
        ):
            answer = assess(demo(), ())
            shown = drawn(demo())
        told = finding(answer, "stack.spacing.failed")
        self.assertEqual(told.verdict, "unmeasured")
        self.assertIn("Pindo failed here", told.sentence.mm)
        self.assertEqual([k for k, b in shown.items() if b.failed], ["stack.spacing"])
        other = "stack.release_gap"
        self.assertEqual(finding(answer, other), finding(assess(demo(), ()), other))

    def test_one_missing_input_changes_only_the_findings_that_read_it(self):
        whole = {f.id: f for f in assess(demo()).findings}
        less = demo()
        del less.dims["nose_mm"]
        for f in assess(less).findings:
            if "nose_mm" not in f.inputs:
                self.assertEqual(f.verdict, whole[f.id].verdict, f.id)
            else:
                self.assertEqual(f.verdict.value, "unmeasured", f.id)

    def test_the_answer_is_the_same_every_time(self):
        self.assertEqual(assess(demo()), assess(demo()))


class Order(unittest.TestCase):
    def test_worst_first(self):
        ranks = [SEVERITY[f.verdict] for f in worst_first(assess(demo()).findings)]
        self.assertEqual(ranks, sorted(ranks))

    def test_tallies_count_each_finding_once(self):
        answer = assess(demo())
        for station in (Station.MATE, Station.STACK):
            t = answer.tallies[station]
            self.assertEqual(
                t.goes + t.tight + t.fouls + t.unmeasured,
                sum(f.station == station for f in answer.findings),
            )
        asked = [k for k in answer.asked if k in DIMENSIONS]
        self.assertIn("pinion_drop_mm", asked)
        self.assertNotIn("chain_centre_mm", asked)
        missing = sum(answer.quantities[k].value is None for k in asked)
        own = sum(
            f.station == Station.SURVEY and f.verdict == Verdict.UNMEASURED for f in answer.findings
        )
        # The bay, a boss, a claim that nobody checked, a fact that nobody knows.
        self.assertEqual(own, 4)
        self.assertEqual(answer.tallies[Station.SURVEY].unmeasured, missing + own)

    def test_ids_are_unique(self):
        ids = [f.id for f in assess(demo()).findings]
        self.assertEqual(len(ids), len(set(ids)))


class Pictures(unittest.TestCase):
    def test_the_section_is_to_scale_and_speaks_the_ledgers_letters(self):
        shown = drawn(demo())
        sections = {k: shown[k].drawings[0] for k in shown if k in SECTIONS}
        section = sections["stack.spacing"]
        plate = next(s for s in section.shapes if s.part == "adapter plate")
        self.assertAlmostEqual(
            max(x for x, _ in plate.points) - min(x for x, _ in plate.points), 18.0
        )
        marked = set()
        for key, drawing in sections.items():
            for mark in drawing.callouts:
                self.assertEqual(mark.letter, LEDGERS[key][mark.address])
                self.assertIn(mark.address, QUESTIONS[key].ledger)
                marked.add(mark.address)
        asked = {k for q in sections for k in QUESTIONS[q].ledger} & set(assess(demo()).asked)
        lengths = {k for k in asked if DIMENSIONS[k].kind == "length"}
        self.assertLessEqual(
            lengths - marked,
            {
                "disc_wear_mm",
                "finger_travel_mm",
                "slave_stroke_mm",
                "crank_bolt_mm",
                "flywheel_hole_mm",
                "starter_out_old_mm",
                "starter_backlash_mm",
                "starter_centre_old_mm",
            },
        )
        self.assertEqual({h.address for h in section.handles}, {"plate_mm", "crank_spacer_mm"})

    def test_the_last_of_two_discs_is_marked_where_it_stands(self):
        two = demo()
        two.options["discs"] = "two"
        section = drawn(two)["stack.disc"].drawings[0]
        self.assertLessEqual(
            {"hub2_front_mm", "hub2_mm"},
            {mark.address for mark in section.callouts},
        )

    def test_a_part_drawn_at_a_usual_size_says_so(self):
        less = demo()
        del less.dims["flywheel_mm"]
        section = drawn(less)["stack.spacing"].drawings[0]
        self.assertFalse(next(s for s in section.shapes if s.part == "flywheel").known)

    def test_the_profile_flags_the_worst(self):
        profile = drawn(demo())[""].drawings[0]
        self.assertEqual(len(profile.gaps), len({g.finding for g in profile.gaps}))
        self.assertTrue(profile.gaps)
        self.assertIn(profile.gaps[0].finding, {f.id for f in assess(demo()).findings})
        self.assertIn("accessory end “fan end” = vehicle front", profile.view)

    def test_the_gap_of_a_finding_is_as_long_as_its_value(self):
        answer = assess(demo())
        shown = drawn(demo())
        for name in (
            "stack.release_gap",
            "stack.tip_clearance",
            "stack.pilot_engagement",
            "stack.guide_tube",
            "stack.shoulder_clearance",
        ):
            # Each stands in the picture of its own question, and in no other.
            gap, *more = [
                g
                for key in SECTIONS
                if key in shown
                for g in shown[key].drawings[0].gaps
                if g.finding == name
            ]
            self.assertEqual(more, [])
            self.assertAlmostEqual(
                abs(gap.x2 - gap.x1), abs(finding(answer, name).value), places=6, msg=name
            )


class Problems(unittest.TestCase):
    def test_all_problems_of_a_document_at_once_each_at_its_place(self):
        build = demo()
        build.dims["nose_mm"].statements[0].takes[0].typed = "12..5"
        build.dims["hub_mm"].statements[0].pm = "about"
        build.engine_face.holes[2].u = "1,234"
        build.options["pilot_in"] = "sump"
        found = {p.pointer: p.detail for p in problems(build)}
        self.assertEqual(
            set(found),
            {
                "/dims/nose_mm/statements/0/takes/0/typed",
                "/dims/hub_mm/statements/0/pm",
                "/engine_face/holes/2/u",
                "/options/pilot_in",
            },
        )
        self.assertIn("not one of: crank, spacer, flywheel", found["/options/pilot_in"])

    def test_what_the_model_refuses(self):
        for document, words in (
            ({"name": ""}, "at least 1 character"),
            (
                {"name": "x", "engine_face": face(hole(1, "0", "0"), hole(1, "1", "1"))},
                "hole number 1 is used twice",
            ),
            (
                {
                    "name": "x",
                    "dims": {"plate_mm": {"statements": [statement("1"), statement("2")]}},
                },
                "two statements have one id",
            ),
            (
                {"name": "x", "rules": {"edge_factor": {"value": float("nan"), "note": "why not"}}},
                "finite",
            ),
            ({"name": "x", "rules": {"edge_factor": {"value": 1, "note": " "}}}, "at least 3"),
            ({"name": "x", "colour": "red"}, "Extra inputs"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ValueError, words):
                Build.model_validate(document)

    def test_the_published_schema_is_the_models(self):
        import json

        published = json.loads(
            (Path(__file__).parents[2] / "docs" / "build.schema.json").read_text("utf-8")
        )
        self.assertEqual(
            published, Build.model_json_schema(), "run: ./pindo schema > docs/build.schema.json"
        )
