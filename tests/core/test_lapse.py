"""Events of the floor: what they spoil, listed before and undone like any change."""

import unittest
from typing import get_args

import jsonpatch

from pindo.core.document.build import Build
from pindo.core.document.events import EVENTS
from pindo.core.document.records import FitKind
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.lapse import event_patch, events_of_change, lapsing
from pindo.core.judging.verdict import Verdict
from tests.support import demo, finding


def after(build, event, part=""):
    return Build.model_validate(
        jsonpatch.apply_patch(
            build.model_dump(mode="json"), event_patch(build, event, part, "2026-01-02T03:04:05Z")
        )
    )


class Events(unittest.TestCase):
    def test_a_dowel_out_spoils_the_runout(self):
        gone = lapsing(demo(), "dowel out, in or replaced")
        self.assertEqual([x.address for x in gone], ["face_tir_mm"])
        lapsed = finding(after(demo(), "dowel out, in or replaced"), "mate.face_tir")
        self.assertEqual((lapsed.verdict, lapsed.condition), (Verdict.UNMEASURED, "lapsed"))
        self.assertIn("lapsed: dowel out, in or replaced", lapsed.sentence.mm)

    def test_an_event_changes_the_state_of_the_unit(self):
        build = after(demo(), "gearbox on")
        self.assertEqual(build.state.gearbox, "on")
        self.assertEqual(build.events[-1].event, "gearbox on")

    def test_papers_do_not_lapse_with_an_event(self):
        spoiled = {x.address for x in lapsing(demo(), "mount shimmed, slotted, welded or loaded")}
        self.assertIn("inclination_deg", spoiled)
        guessed = demo()
        guessed.dims["inclination_deg"].statements[0].source = "guess"
        self.assertNotIn(
            "inclination_deg",
            {x.address for x in lapsing(guessed, "mount shimmed, slotted, welded or loaded")},
        )

    def test_a_trial_fit_lapses_with_its_attitude(self):
        gone = [x for x in lapsing(demo(), "gearbox off") if x.address.startswith("fits.")]
        self.assertEqual(
            [x.name for x in gone],
            [
                "Alternator to Left rail, fit 1 trial hang",
                "Alternator to Steering box, fit 1 trial hang",
            ],
        )
        self.assertIn("lapsed", finding(after(demo(), "gearbox off"), "log.fit.1.1").condition)
        self.assertFalse(
            [
                x
                for x in lapsing(after(demo(), "gearbox off"), "gearbox off")
                if x.address.startswith("fits.")
            ]
        )

    def test_another_part_takes_its_papers_with_it(self):
        gone = {x.address for x in lapsing(demo(), "part or supplier changed", "clutch cover")}
        self.assertLessEqual({"finger_height_mm", "lever_ratio", "clutch_torque_nm"}, gone)
        self.assertNotIn("crank_flange_mm", gone)
        self.assertEqual(
            finding(
                after(demo(), "part or supplier changed", "clutch cover"), "stack.release_gap"
            ).condition,
            "lapsed",
        )

    def test_a_lapse_is_undone_like_any_patch(self):
        build = demo().model_dump(mode="json")
        spoiled = jsonpatch.apply_patch(build, event_patch(demo(), "gearbox off"))
        back = jsonpatch.make_patch(spoiled, build)
        self.assertEqual(back.apply(spoiled), build)

    def test_a_changed_thickness_is_an_event_of_its_own(self):
        self.assertEqual(
            events_of_change(demo(), demo({"plate_mm": "20"})),
            ["plate, shield, spacer or adapter thickness"],
        )
        self.assertEqual(events_of_change(demo(), demo({"nose_mm": "20"})), [])
        both = events_of_change(demo(), demo({"plate_mm": "20", "crank_height_mm": "-20"}))
        self.assertEqual(set(both), {"plate, shield, spacer or adapter thickness", "unit moved"})

    def test_every_kind_that_an_event_spoils_is_carried_by_something_that_can_be_read(self):
        carried = (
            {d.reading for d in DIMENSIONS.values()}
            | set(get_args(FitKind))
            | {"pose", "torque", "torque again", "test"}
        )
        for event in EVENTS.values():
            self.assertLessEqual(event.spoils, carried, event.name)

    def test_each_kind_of_a_fit_lapses_with_its_events(self):
        for kind in get_args(FitKind):
            made = demo()
            made.fits[0].gaps[0].kind = kind
            for event in EVENTS.values():
                gone = "fits.1.gaps.1" in {x.address for x in lapsing(made, event.name)}
                self.assertEqual(gone, kind in event.spoils, (kind, event.name))

    def tight(self):
        made = demo()
        for joint in made.joints:
            joint.state = "marked"
        for step in made.steps:
            step.state, step.by = "done", "I."
        return made

    def test_an_opened_joint_is_open_and_its_single_use_screws_are_spent(self):
        opened = after(self.tight(), "joint opened", "1")
        self.assertEqual(
            [(j.state, j.single_use) for j in opened.joints[:2]],
            [("open", "spent"), ("marked", "no")],
        )
        self.assertEqual(
            {s.n for s in opened.steps if s.state == "open"},
            {s.n for s in opened.steps if s.proves},
            "what went through it is to be proved again",
        )

    def test_a_touched_control_is_proved_again(self):
        touched = after(self.tight(), "control, cable or wire touched", "25")
        self.assertEqual([s.n for s in touched.steps if s.state == "open"], [25])
        self.assertIn(
            "control, cable or wire touched: 25", finding(touched, "assemble.again.25").sentence.mm
        )
        self.assertEqual(
            len(
                [
                    s
                    for s in after(self.tight(), "control, cable or wire touched").steps
                    if s.state == "open"
                ]
            ),
            sum(bool(s.proves) for s in touched.steps),
        )

    def test_first_heat_asks_for_the_wrench_again_where_the_joint_says_so(self):
        warm = after(self.tight(), "first heat")
        self.assertEqual(
            [j.state for j in warm.joints],
            ["marked", "marked", "due again", "due again", "due again"],
        )
