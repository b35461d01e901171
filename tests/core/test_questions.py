"""What can hardly be is asked about and counts for nothing until somebody says that it is so;
documents of the first version are brought up.
"""

import unittest

from pindo.core.acts import Add, Put, Read
from pindo.core.assessment import assess, assess_inputs
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source, Tool
from pindo.core.document.upgrade import upgraded
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.ranges import TOGETHER
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.question import Seen
from pindo.core.stations.survey import weak as weak_question
from pindo.demo import DEMOS, pump_tender
from tests.support import build, demo, drawn, entered, face, finding, hole, said, statement


class Ranges(unittest.TestCase):
    def test_every_size_has_the_range_that_can_be(self):
        self.assertEqual(
            [k for k, d in DIMENSIONS.items() if d.can is None or not d.can[0] < d.can[1]], []
        )

    def test_nothing_of_the_demos_is_asked_about(self):
        for name, make in DEMOS.items():
            with self.subTest(name):
                self.assertEqual(
                    [f.id for f in assess(make()).findings if f.condition == "question"], []
                )

    def test_outside_its_range_a_size_counts_for_nothing_until_it_is_said_to_be_so(self):
        low, high = DIMENSIONS["hub_mm"].can
        for value in (low - 1.0, high + 1.0):
            with self.subTest(value):
                odd = demo({"hub_mm": str(value)})
                q = resolve(odd).quantities["hub_mm"]
                self.assertEqual((q.value, q.status, q.asked), (None, Status.QUESTION, value))
                asked = finding(odd, "question.hub_mm")
                self.assertEqual(
                    (asked.verdict, asked.station, asked.sure_at),
                    ("unmeasured", "stack", "/dims/hub_mm/sure"),
                )
                self.assertEqual(finding(odd, "stack.spline_new").verdict, "unmeasured")
                document = odd.model_dump(mode="json")
                document["dims"]["hub_mm"]["sure"] = "I. has seen it"
                self.assertEqual(resolve(Build.model_validate(document)).value("hub_mm"), value)

    def test_sizes_that_cannot_hold_together(self):
        odd = build(said(flywheel_od_mm="300", ring_teeth="132", ring_module_mm="2.5"))
        asked = finding(odd, "question.ring_gear")
        self.assertEqual((asked.verdict, asked.sure_at), ("unmeasured", "/sure/ring_gear"))
        self.assertEqual(
            {resolve(odd).value(a) for a in ("flywheel_od_mm", "ring_teeth", "ring_module_mm")},
            {None},
        )
        self.assertEqual(
            resolve(
                Build.model_validate(
                    odd.model_dump(mode="json") | {"sure": {"ring_gear": "counted twice"}}
                )
            ).value("ring_teeth"),
            132.0,
        )
        self.assertEqual(
            resolve(
                build(said(flywheel_od_mm="335", ring_teeth="132", ring_module_mm="2.5"))
            ).value("ring_teeth"),
            132.0,
        )

    def test_each_rule_reads_sizes_that_there_are_and_can_be_broken_and_kept(self):
        keys = [r.key for r in TOGETHER]
        self.assertEqual(len(keys), len(set(keys)))
        for rule in TOGETHER:
            with self.subTest(rule.key):
                self.assertEqual([a for a in rule.reads if a not in DIMENSIONS], [])
                ends = [DIMENSIONS[a].can for a in rule.reads]
                corners = [
                    rule.holds(*(e[(i >> n) & 1] for n, e in enumerate(ends)))
                    for i in range(2 ** len(ends))
                ]
                self.assertIn(False, [bool(c) for c in corners])

    def test_a_size_of_nought_never_makes_a_hole_vanish(self):
        for d in ("0", "-10"):
            with self.subTest(d):
                faces = build(
                    engine_face=face(
                        hole(1, "0", "100", d), *(hole(n, str(40 * n), "0") for n in (2, 3, 4))
                    )
                )
                told = [
                    f.sentence.mm
                    for f in assess(faces).findings
                    if "engine hole 1" in f.sentence.mm.lower() or "E1" in f.sentence.mm
                ]
                self.assertTrue(told)


class FirstVersion(unittest.TestCase):
    def test_a_step_that_watched_a_station_watches_its_questions(self):
        old = pump_tender().model_dump(mode="json")
        old["schema_version"] = 1
        for step in old["steps"]:
            step.pop("watches")
            step["stations"] = ["stack", "line"]
        new = Build.model_validate(upgraded(old))
        self.assertEqual(new.schema_version, 4)
        self.assertIn("stack.release", new.steps[0].watches)
        self.assertIn("line.angles", new.steps[0].watches)
        self.assertIn("stack.disc", new.steps[0].watches)
        self.assertNotIn("line.travel", new.steps[0].watches)
        self.assertNotIn("clear.belt", new.steps[0].watches)
        self.assertEqual(old["schema_version"], 1)

    def test_what_is_no_document_of_the_first_version_is_left_alone(self):
        for thing in (None, [], "x", {"schema_version": 4, "steps": 3}, {"schema_version": "2"}):
            self.assertIs(upgraded(thing), thing)

    def test_lands_get_the_numbers_of_their_places(self):
        old = pump_tender().model_dump(mode="json") | {"schema_version": 2}
        for name in ("engine_face", "gearbox_face"):
            old[name] = old[name] | {"lands": [{"name": "rib"}, {"name": "nib"}]}
        new = Build.model_validate(upgraded(old))
        self.assertEqual([(x.n, x.name) for x in new.gearbox_face.lands], [(1, "rib"), (2, "nib")])
        self.assertNotIn("n", old["engine_face"]["lands"][0])


class Evidence(unittest.TestCase):
    """What may not close anything: one list, by what it blocks and what would replace it."""

    def tables(self, of):
        inputs = resolve(of)
        seen = Seen(findings=assess_inputs(inputs, ()).findings)
        return {t.key: t for t in weak_question.board(inputs, seen).tables}

    def test_every_way_of_not_counting_is_listed_once_with_what_rests_on_it(self):
        weak = {r.address: r.cells for r in self.tables(demo())["weak"].rows}
        for address, status, blocked, better in (
            ("bore_tir_mm", "lapsed: dowel out", "Runout of the bell's bore", "dial indicator"),
            ("bell_depth_mm", "other state: taken hung", "Clutch cover in the bell", "steel rule"),
            ("engine_torque_nm", "contradiction", "two statements", "a paper or a person"),
            ("clutch_torque_nm", "weak evidence: from memory", "Clutch against", "on paper"),
            ("top_back_mm", "word: somewhere", "Engine under the bonnet", "steel rule"),
            ("joints.2.torque", "weak evidence: from hearsay", "Preload", "the maker's paper"),
            ("mass_left_mm", "only guess", "Weight on mount 1", "tape"),
        ):
            with self.subTest(address):
                _, told, rests, replaced = weak[address]
                self.assertIn(status, told)
                self.assertIn(blocked, rests)
                self.assertIn(better, replaced)
        measured = entered(
            demo(), Read(key="top_back_mm", typed="-120", source=Source.MEASURED, tool=Tool.RULE)
        )
        after = {r.address for r in self.tables(measured)["weak"].rows}
        self.assertEqual(set(weak) - after, {"top_back_mm"})
        # Nothing that is only missing is weak: it is asked for elsewhere.
        self.assertNotIn("weak", self.tables(build()))

    def test_a_question_of_guesses_looks_like_one(self):
        guesses = {
            k: {"statements": [statement("10", "guess")]}
            for k in ("crank_flange_mm", "nose_mm", "pilot_width_mm")
        }
        guesses["plate_mm"] = {"statements": [statement("18", "drawing")]}
        rows = {r.cells[1]: r for r in self.tables(build(guesses))["glance"].rows}
        spacing = rows["Spacing"]
        self.assertEqual(spacing.cells[2:], (0.0, 0.0, 0.0, 1.0, 3.0, 10.0))
        self.assertEqual((spacing.mark, rows["Vehicle"].mark), ("tight", ""))

    def test_readings_in_two_states_are_both_true_each_of_its_own(self):
        def of(key, *states):
            said = [
                statement(typed, source, id=f"s{i}", state=state, pm="0.5")
                for i, (typed, source, state) in enumerate(states)
            ]
            found = resolve(build({key: {"statements": said}})).quantities[key]
            return found.conflict

        hung, loaded = {"position": "hung"}, {"position": "resting loaded"}
        two = (("100", "measured", loaded), ("140", "measured elsewhere", hung))
        self.assertIsNone(of("rail_height_mm", *two))
        self.assertIsNotNone(
            of("rail_height_mm", ("100", "measured", loaded), ("140", "measured elsewhere", {}))
        )
        # The size of a part is one, wherever it was measured.
        self.assertIsNotNone(of("nose_mm", *two))


class Start(unittest.TestCase):
    """What the answers at the start leave open, and how long it is until the hoist."""

    def found(self, of, today="2026-05-01"):
        return {f.id: f for f in assess(of, (), today).findings if f.question == "survey.start"}

    def test_a_coupling_asks_its_own(self):
        for coupling, question in (
            ("converter automatic", "stack.converter"),
            ("dual clutch box", "stack.pack"),
            ("belt drive", "stack.hub"),
            ("direct hub on its shaft", "stack.hub"),
            ("clutch and bellhousing", "stack.release"),
        ):
            answer = assess(build(options={"coupling": coupling}))
            own = {f.question for f in answer.findings if f.station.value == "stack"}
            self.assertIn(question, own, coupling)
            others = {"stack.converter", "stack.pack", "stack.hub", "stack.release"} - {question}
            self.assertFalse(own & others, coupling)
        asked = assess(build(options={"coupling": "converter automatic"})).asked
        self.assertNotIn("finger_height_mm", asked)
        self.assertIn("pad_depth_mm", asked)

    def test_a_bought_plate_wants_its_list_and_lone_hands_want_helpers(self):
        bought = build(options={"plate_from": "bought"})
        self.assertEqual(self.found(bought)["survey.start.kit"].verdict, "unmeasured")
        listed = entered(bought, Add(list="kits", row={"pieces": [{"n": 1, "what": "dowels"}]}))
        self.assertEqual(self.found(listed), {})
        steps = [{"n": 1, "name": "strip"}, {"n": 2, "name": "hang", "helpers": 2}]
        alone = build(options={"hands": "alone"}, steps=steps)
        self.assertIn("“hang” 2", self.found(alone)["survey.start.hands"].sentence.mm)
        self.assertNotIn("survey.start.hands", self.found(build(steps=steps)))

    def test_the_hoist_day_is_held_against_today(self):
        there = demo(hoist_on="2026-05-20")
        for today, verdict in (
            ("2026-04-01", "unmeasured"),
            ("2026-05-06", "tight"),
            ("2026-05-20", "tight"),
            ("2026-05-21", "fouls"),
        ):
            with self.subTest(today):
                hoist = self.found(there, today)["survey.start.hoist"]
                self.assertEqual(hoist.verdict, verdict)
        self.assertNotIn("survey.start.hoist", self.found(there, ""))
        lifted = demo(
            hoist_on="2026-05-20",
            steps=[{"n": 1, "gate": "lift", "state": "done", "by": "I."}],
        )
        self.assertNotIn("survey.start.hoist", self.found(lifted))
        self.assertNotIn("survey.start.hoist", self.found(demo()))


class Begun(unittest.TestCase):
    def test_a_question_of_which_nothing_is_known_says_what_it_needs_first_and_why(self):
        board = drawn(build())["stack.spacing"]
        self.assertEqual(len(board.begin), 3)
        for one in board.begin:
            self.assertEqual(one.letter, LEDGERS["stack.spacing"][one.address])
            self.assertTrue(one.how and one.reason.startswith("settles "))
        self.assertEqual(board.begin[0].tool, DIMENSIONS[board.begin[0].address].tool)
        known = entered(build(), Read(key="flywheel_od_mm", typed="318"))
        self.assertEqual(drawn(known)["stack.spacing"].begin, ())


class Pinned(unittest.TestCase):
    def test_a_photo_keeps_the_version_of_the_part_that_it_shows(self):
        parts = [
            {"n": 1, "name": "pump", "kind": "pump", "version": "early"},
            {"n": 2, "name": "old block", "kind": "engine", "version": "B", "fitted": True},
        ]
        faces = {"engine_face": face(hole(3, "1", "2"))}
        made = build(parts=parts, **faces)
        for pin, version in (
            ("parts.1", "pump, early"),
            ("engine.3", "old block, B"),
            ("engine_length_mm", "old block, B"),
            ("steps.9", ""),
        ):
            with self.subTest(pin):
                kept = entered(made, Add(list="log", row={"name": "photo", "pin": pin}))
                self.assertEqual(kept.log[0].pinned_version, version)
        later = entered(
            made,
            Add(list="log", row={"name": "photo"}),
            Put(list="log", row=1, field="pin", value="parts.1"),
            Put(list="parts", row=1, field="version", value="late"),
        )
        self.assertEqual(later.log[0].pinned_version, "pump, early")
