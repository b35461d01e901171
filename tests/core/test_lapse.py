"""Events of the floor: what they spoil, listed before and undone like any change."""

import unittest

import jsonpatch

from pindo.core.build import Build
from pindo.core.lapse import EVENTS, event_patch, events_of_change, lapsing
from pindo.core.verdict import Verdict
from tests.support import demo, finding


def after(build, event, part=""):
    return Build.model_validate(jsonpatch.apply_patch(build.model_dump(mode="json"), event_patch(build, event, part, "2026-01-02T03:04:05Z")))


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
        self.assertNotIn("inclination_deg", {x.address for x in lapsing(guessed, "mount shimmed, slotted, welded or loaded")})

    def test_a_trial_fit_lapses_with_its_attitude(self):
        gone = [x for x in lapsing(demo(), "gearbox off") if x.address.startswith("fits.")]
        self.assertEqual([x.name for x in gone], ["Fit 1 trial hang"])
        self.assertIn("lapsed", finding(after(demo(), "gearbox off"), "log.fit.1").condition)
        self.assertFalse([x for x in lapsing(after(demo(), "gearbox off"), "gearbox off") if x.address.startswith("fits.")])

    def test_another_part_takes_its_papers_with_it(self):
        gone = {x.address for x in lapsing(demo(), "part or supplier changed", "clutch cover")}
        self.assertLessEqual({"finger_height_mm", "lever_ratio", "clutch_torque_nm"}, gone)
        self.assertNotIn("crank_flange_mm", gone)
        self.assertEqual(finding(after(demo(), "part or supplier changed", "clutch cover"), "stack.release_gap").condition, "lapsed")

    def test_a_lapse_is_undone_like_any_patch(self):
        build = demo().model_dump(mode="json")
        spoiled = jsonpatch.apply_patch(build, event_patch(demo(), "gearbox off"))
        back = jsonpatch.make_patch(spoiled, build)
        self.assertEqual(back.apply(spoiled), build)

    def test_a_changed_thickness_is_an_event_of_its_own(self):
        self.assertEqual(events_of_change(demo(), demo({"plate_mm": "20"})), ["plate, shield, spacer or adapter thickness"])
        self.assertEqual(events_of_change(demo(), demo({"nose_mm": "20"})), [])
        both = events_of_change(demo(), demo({"plate_mm": "20", "crank_height_mm": "-20"}))
        self.assertEqual(set(both), {"plate, shield, spacer or adapter thickness", "unit moved"})

    def test_every_kind_that_an_event_spoils_is_spelled_as_a_plain_word(self):
        self.assertTrue(all(kind == kind.strip().lower() for e in EVENTS.values() for kind in e.spoils))
