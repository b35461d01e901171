"""Converter: value, limit and verdict of each check, the finger test, and the demo's story."""

import unittest

from pindo.core.assessment import assess
from pindo.core.candidates import candidates
from pindo.core.document.written import read
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.assemble.templates import template_steps
from pindo.core.stations.stack.contacts import contacts
from pindo.core.stations.stack.window_of import alone, window
from pindo.demo import dune_car
from tests.support import build, drawn, finding, said, statement

# Block face 0, crank flange 3, spacer 5: flange face 8; mouth at 1 + 15 = 16, pads home at 28.
DIMS = {
    "crank_flange_mm": "3",
    "crank_bore_depth_mm": "40",
    "crank_spacer_mm": "5",
    "separator_mm": "1",
    "plate_mm": "15",
    "pad_depth_mm": "12",
    "seated_depth_mm": "12.4",
    "flexplate_offset_mm": "17",
    "flexplate_thick_mm": "3",
    "converter_pilot_mm": "38",
    "pilot_lead_mm": "2",
    "converter_pilot_d_mm": "44.00",
    "pilot_seat_mm": "44.10",
    "hub_in_pump_mm": "15",
    "hub_in_pump_least_mm": "10",
    "converter_od_mm": "300",
    "bell_bore_mm": "340",
    "pad_count": "3",
    "flexplate_pads": "3",
    "pad_pcd_mm": "260",
    "flexplate_pad_pcd_mm": "260.4",
    "pad_bolt_mm": "10",
    "flexplate_pad_hole_mm": "11",
    "pad_bolt_long_mm": "15",
    "pad_thread_mm": "14",
}
OPTIONS = {
    "coupling": "converter automatic",
    "pilot_in": "crank",
    "converter_joint": "bolts into its pads",
}
BY_HAND = [
    # finding | value | low | high
    ("seated", 0.4, None, 1),
    ("pull_forward", 28 - (8 + 17), 1.6, 4.8),
    ("hub_in_pump", 15 - 3, 10, None),
    ("converter_pilot", 3 - (25 - 38 + 2), 6, None),
    ("converter_bottom", (25 - 38) - (3 - 40), 2, None),
    ("converter_fit", 0.1, 0.02, 0.25),
    ("pads", 0, 0, 0),
    ("pad_circle", 0.5 - 0.2, 0, None),
    ("pad_thread", 12, 10, None),
    ("pad_bottom", 2, 1, None),
    ("converter_in_bell", 20, 3, None),
]


def auto(options=None, **changes):
    return build(said(**(DIMS | changes)), options=OPTIONS | (options or {}))


class Checks(unittest.TestCase):
    def test_each_by_hand(self):
        answer = assess(auto())
        for name, value, low, high in BY_HAND:
            with self.subTest(name):
                found = finding(answer, f"stack.{name}")
                self.assertAlmostEqual(found.value, value)
                self.assertEqual((found.low, found.high), (low, high))
                self.assertEqual(found.verdict, Verdict.GOES)

    def test_each_fouls_beyond_its_limit(self):
        for name, change in {
            "seated": {"pad_depth_mm": "11"},
            "pull_forward": {"plate_mm": "17"},
            "hub_in_pump": {"hub_in_pump_mm": "12"},
            "converter_pilot": {"converter_pilot_mm": "29"},
            "converter_bottom": {"converter_pilot_mm": "61"},
            "converter_fit": {"pilot_seat_mm": "44.4"},
            "pads": {"flexplate_pads": "4"},
            "pad_circle": {"flexplate_pad_pcd_mm": "262"},
            "pad_thread": {"pad_bolt_long_mm": "12"},
            "pad_bottom": {"pad_bolt_long_mm": "16.5"},
            "converter_in_bell": {"converter_od_mm": "335"},
        }.items():
            with self.subTest(name):
                self.assertEqual(finding(auto(**change), f"stack.{name}").verdict, Verdict.FOULS)

    def test_a_flexplate_that_pushes_it_back_says_by_how_much(self):
        found = finding(auto(flexplate_offset_mm="22"), "stack.pull_forward")
        self.assertIn("pushes the converter back by 2.00 mm", found.sentence.mm)

    def test_the_pilots_bore_is_the_crank_or_the_spacer(self):
        found = finding(auto({"pilot_in": "spacer"}), "stack.converter_pilot")
        self.assertAlmostEqual(found.value, 14 + 5)

    def test_studs_bring_their_thread_with_them(self):
        ids = {f.id for f in assess(auto({"converter_joint": "studs with nuts"})).findings}
        self.assertFalse({"stack.pad_thread", "stack.pad_bottom"} & ids)

    def test_a_clutch_is_not_asked_for_and_a_clutch_asks_for_no_converter(self):
        ids = {f.id for f in assess(auto()).findings}
        self.assertFalse({"stack.pilot_engagement", "stack.release_gap", "stack.spline_new"} & ids)
        clutch = {f.question for f in assess(build()).findings}
        self.assertNotIn("stack.converter", clutch)


class Fingers(unittest.TestCase):
    def screws(self, options=None, **changes):
        return finding(auto(options, **changes), "stack.converter_screws")

    def test_screws_wait_for_the_gap_and_for_the_first_finger_test(self):
        unknown = build(
            said(**{k: v for k, v in DIMS.items() if k != "pad_depth_mm"}), options=OPTIONS
        )
        found = finding(unknown, "stack.converter_screws")
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertEqual([m.address for m in found.missing], ["pad_depth_mm"])
        self.assertEqual(self.screws().verdict, Verdict.UNMEASURED)
        self.assertEqual([m.address for m in self.screws().missing], ["finger_before"])
        moved = self.screws({"finger_before": "moves freely"})
        self.assertEqual(moved.verdict, Verdict.GOES)
        self.assertIn("Screws may be drawn", moved.sentence.mm)
        # One that its doubt may put outside does not let anybody draw.
        rough = said(**DIMS) | {"pad_depth_mm": {"statements": [statement("13.5", pm="0.5")]}}
        options = OPTIONS | {"finger_before": "moves freely"}
        unsure = finding(build(rough, options=options), "stack.converter_screws")
        self.assertEqual(unsure.verdict, Verdict.TIGHT)
        self.assertIn("Draw no screw: the gap at its pads is not sure", unsure.sentence.mm)
        # A gap outside its limits blocks, whatever the fingers say.
        wide = self.screws({"finger_before": "moves freely"}, plate_mm="18")
        self.assertEqual(wide.verdict, Verdict.FOULS)
        self.assertIn("Draw no screw", wide.sentence.mm)

    def test_no_screw_is_drawn_on_a_converter_of_another_gearbox(self):
        free = {"finger_before": "moves freely"}
        for own, wanted, one, other in (
            ("converter_lockup", "gearbox_lockup", "with lock-up", "without lock-up"),
            ("converter_drive", "pump_drive", "splines", "two slots"),
        ):
            alike = self.screws(free | {own: one, wanted: one})
            found = self.screws(free | {own: one, wanted: other})
            self.assertEqual((alike.verdict, found.verdict), (Verdict.GOES, Verdict.FOULS))
            self.assertIn("not a converter of this gearbox", found.sentence.mm)

    def test_stuck_at_any_of_the_three_moments_blocks(self):
        for key in ("finger_before", "finger_during", "finger_after"):
            found = self.screws({"finger_before": "moves freely"} | {key: "does not move"})
            self.assertEqual(found.verdict, Verdict.FOULS, key)
            self.assertIn("part the faces again", found.sentence.mm)
        for key in ("finger_during", "finger_after"):
            for said_, verdict in (
                ("not yet", "unmeasured"),
                ("moves freely", "goes"),
                ("does not move", "fouls"),
            ):
                found = finding(auto({key: said_}), f"stack.{key}")
                self.assertEqual(found.verdict.value, verdict)
        self.assertIn("spins", finding(auto(), "stack.finger_after").sentence.mm)
        studs = finding(auto({"converter_joint": "studs with nuts"}), "stack.finger_after")
        self.assertIn("only rocks", studs.sentence.mm)


class Contacts(unittest.TestCase):
    def test_where_a_converter_meets(self):
        """Its pilot begins at 28 - 38 = -10, pads at 28, the flexplate's at 25: the pilot is in its
        bore (crank flange at 3) 13 before the faces meet; bottom (-37) and flexplate stay clear.
        """
        found, open_ = contacts(resolve(auto(dowel_out_mm="9")))
        at = {c.feature.name: (c.at, c.feature.enters) for c in found}
        for name, (apart, enters) in {
            "converter pilot into its bore": (13.0, True),
            "converter pads on the flexplate": (-3.0, False),
            "converter pilot in the bottom of the bore": (-27.0, False),
        }.items():
            self.assertAlmostEqual(at[name][0], apart, msg=name)
            self.assertEqual(at[name][1], enters, name)
        self.assertEqual(open_, [])

    def test_a_plate_too_thin_stops_at_the_pads_and_may_not(self):
        rows = {
            r.cells[0]: r
            for r in drawn(auto(plate_mm="10", dowel_out_mm="9"))["stack.gate"].tables[0].rows
        }
        pads = rows["converter pads on the flexplate"]
        self.assertAlmostEqual(pads.cells[1], 2.0)
        self.assertEqual((pads.cells[3], pads.mark), ("must not", "fouls"))
        clear = rows["converter pilot in the bottom of the bore"]
        self.assertEqual((clear.cells[3], clear.mark), ("never", ""))
        self.assertEqual(rows["converter pilot into its bore"].mark, "")


class Kind(unittest.TestCase):
    def test_a_converter_of_another_kind_is_refused_and_one_that_is_not_said_is_not_passed(self):
        cases = (
            ("lockup", "gearbox_lockup", "with lock-up", "without lock-up"),
            ("drive", "pump_drive", "splines", "two flats"),
        )
        for own, wanted, one, other in cases:
            own = f"converter_{own}"
            for choices, verdict in (
                ({own: one, wanted: one}, "goes"),
                ({own: one, wanted: other}, "fouls"),
                ({own: other, wanted: one}, "fouls"),
                ({own: one}, "unmeasured"),
                ({wanted: one}, "unmeasured"),
                ({own: "of a kind", wanted: "of a kind"}, "unmeasured"),
            ):
                found = finding(auto(choices), f"stack.{own}")
                self.assertEqual(found.verdict.value, verdict, choices)
                gone = {own, wanted} - {k for k, v in choices.items() if v in (one, other)}
                self.assertEqual({m.address for m in found.missing}, gone)


class Window(unittest.TestCase):
    def test_the_plate_alone_is_bounded_by_the_pull_forward(self):
        """g = p - 12: 1.6 to 4.8 of it, less the doubt of plate and spacer as made."""
        found = window(resolve(auto()))
        only, off = alone(found, 0, 5.0), 0.1 * 2**0.5
        self.assertAlmostEqual(only.low, 13.6 + off, places=4)
        self.assertAlmostEqual(only.high, 16.8 - off, places=4)


class Story(unittest.TestCase):
    """The dune car: pads out of reach, a flexplate that would reach and is refused, no screw drawn
    before the fingers.
    """

    def test_pads_nine_millimetres_out_of_reach(self):
        found = finding(dune_car(), "stack.pull_forward")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertAlmostEqual(found.value - found.high, 9.0)

    def test_the_other_flexplate_reaches_and_is_refused_for_its_weight(self):
        ranked = candidates(
            read(dune_car().model_dump(mode="json")), "flexplate", "2026-11-27T12:00:00Z", ""
        )
        other = next(c for c in ranked if not c.fitted)
        against = {a.id: a for a in other.against}
        self.assertNotIn("stack.pull_forward", against)
        self.assertEqual(against["stack.balance"].verdict, Verdict.FOULS)
        self.assertEqual(against["stack.certificate"].verdict, Verdict.UNMEASURED)
        self.assertIn("weight", other.refused)

    def test_it_is_joined_only_after_the_finger_test(self):
        self.assertEqual(finding(dune_car(), "stack.gate").verdict, Verdict.FOULS)
        self.assertIn("gap at its pads", finding(dune_car(), "stack.gate").sentence.mm)
        join = next(s for s in dune_car().steps if s.n == 10)
        self.assertTrue(join.hold)
        self.assertLessEqual({"stack.converter", "stack.gate"}, set(join.watches))

    def test_its_steps_are_a_converters(self):
        rows = {
            r["n"]: r["name"]
            for r in template_steps("half shafts", "from below", "converter automatic")
        }
        self.assertIn("Converter", rows[8])
        self.assertIn("flexplate", rows[7])
        self.assertIn("Disc", {r["n"]: r for r in template_steps("half shafts")}[8]["name"])
        # Another coupling afterwards is told.
        changed = dune_car().model_copy(
            update={"options": dune_car().options | {"coupling": "clutch and bellhousing"}}
        )
        self.assertIn("laid out for", finding(changed, "assemble.laid_out").sentence.mm)

    def test_the_section_shows_the_gap(self):
        (drawing,) = drawn(dune_car())["stack.converter"].drawings
        gap = next(g for g in drawing.gaps if g.finding == "stack.pull_forward")
        self.assertAlmostEqual(gap.x2 - gap.x1, 13.8)
        parts = {s.part for s in drawing.shapes}
        self.assertLessEqual({"flexplate", "converter", "pad", "ring gear"}, parts)
        self.assertFalse({"disc", "clutch cover"} & parts)


if __name__ == "__main__":
    unittest.main()
