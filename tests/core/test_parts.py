"""Parts with a life of their own: one fitted, others on the shelf; kits; versions."""

import unittest

from pydantic import ValidationError

from pindo.core.acts import Add, CannotEnter, Cell, Copy, FitPart, Put, Read, Remove, Renumber
from pindo.core.assessment import assess
from pindo.core.candidates import candidates
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.parts import PartCard
from pindo.core.document.written import written
from pindo.core.enter import asks, enter
from pindo.core.fitting import sizes_of
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.ripple import ripple
from pindo.core.shop_library import (
    FIRST_HEADS,
    SIZE_HEADS,
    alike,
    merged,
    parts_of_table,
    read_parts,
    table_of_parts,
    to_build,
    to_keep,
)
from pindo.demo import garden_trolley, pump_tender
from tests.support import AT, build, entered, said, states

TODAY = "2026-04-16"
OLD_DISC, OFFERED, DISC = 7, 8, 6


def findings(of, today=TODAY):
    return {f.id: f for f in assess(of, (), today).findings}


def answers(of):
    return {k: (f.verdict, f.value, f.value_pm) for k, f in findings(of).items()}


class HolesOnTheShelf(unittest.TestCase):
    def test_a_casting_on_the_shelf_gets_its_holes_there_and_brings_them_when_it_is_fitted(self):
        face = {"unit": "in", "taken_from": "front"}
        made = build(parts=[{"n": 4, "name": "other box", "kind": "gearbox", "face": face}])
        holes = "parts.face.holes"
        typed = entered(
            made,
            Add(list=holes, of=4, row={"role": "bolt"}),
            Cell(list=holes, of=4, row=1, field="u", typed="3 1/2"),
            Cell(list=holes, of=4, row=1, field="v", typed="1.25"),
            Put(list=holes, of=4, row=1, field="backing", value="metal"),
            Copy(list=holes, of=4, row=1, mirror=True),
        )
        self.assertEqual([h.u for h in typed.parts[0].face.holes], ["3 1/2", "-(3 1/2)"])
        self.assertEqual(typed.parts[0].face.holes[1].evidence.source, Source.GUESS)
        self.assertEqual(typed.gearbox_face.holes, [])
        fitted = entered(typed, FitPart(part=4))
        self.assertAlmostEqual(resolve(fitted).quantities["gearbox.1.u"].value, -3.5 * 25.4)
        with self.assertRaises(CannotEnter):
            entered(fitted, Add(list=holes, of=4, row={}))
        with self.assertRaises(EntryError):
            entered(typed, Cell(list=holes, of=4, row=1, field="u", typed="24..1"))


class OtherReadings(unittest.TestCase):
    def test_pressures_temperatures_wires_and_tubes_of_a_part_are_read_in_their_own_units(self):
        pump = {"n": 1, "kind": "pump", "readings": [{"n": 1, "what": "feed"}]}
        there = build(parts=[pump])
        at = {"list": "parts.readings", "of": 1, "row": 1}
        for field, typed, value in (
            ("pressure", "58 psig", 3.999),
            ("temperature", "190 F", 87.78),
            ("wire", "2/0", 67.4),
            ("tube", "dash 6", 9.525),
            ("mass", "12 lb", 5.443),
        ):
            with self.subTest(typed):
                q = resolve(entered(there, Cell(field=field, typed=typed, **at))).quantities
                self.assertAlmostEqual(q[f"parts.1.readings.1.{field}"].value, value, delta=0.05)
        with self.assertRaisesRegex(EntryError, "gauge or absolute"):
            entered(there, Cell(field="pressure", typed="0.99 bar", **at))


class ForNow(unittest.TestCase):
    def test_a_temporary_part_has_an_end_and_is_told_before_and_after_it(self):
        for until, today, verdict in (
            ("", TODAY, Verdict.UNMEASURED),
            ("2026-04-10", TODAY, Verdict.FOULS),
            ("2026-04-20", TODAY, Verdict.TIGHT),
            ("2027-04-20", TODAY, None),
        ):
            with self.subTest(until):
                card = {"n": 1, "name": "old pump", "state": "temporary", "until": until}
                found = findings(build(parts=[card]), today).get("survey.until.1")
                self.assertEqual(found and found.verdict, verdict)
        final = build(parts=[{"n": 1, "name": "pump", "state": "final", "until": "2026-04-10"}])
        self.assertNotIn("survey.until.1", findings(final))


class Fitting(unittest.TestCase):
    def test_every_size_of_the_catalogue_belongs_to_a_kind_of_part(self):
        kinds = set(PartCard.model_fields["kind"].annotation.__args__)
        self.assertEqual({d.part for d in DIMENSIONS.values()} - kinds, set())

    def test_sizes_go_with_their_part_there_and_back(self):
        there = pump_tender()
        swapped = entered(there, FitPart(part=OLD_DISC))
        cards = {c.n: c for c in swapped.parts}
        self.assertEqual((cards[OLD_DISC].fitted, cards[OLD_DISC].sizes), (True, {}))
        self.assertEqual((cards[DISC].fitted, cards[DISC].state), (False, "spare"))
        own = {k for k in sizes_of("disc") if k in there.dims}
        self.assertEqual(set(cards[DISC].sizes), own)
        value = resolve(swapped).quantities["disc_od_mm"].value
        self.assertAlmostEqual(value, 9.5 * 25.4)
        before, after = findings(there), findings(swapped)
        self.assertEqual(before["stack.release_gap"].verdict, Verdict.FOULS)
        self.assertEqual(after["stack.release_gap"].verdict, Verdict.GOES)
        self.assertEqual(answers(entered(swapped, FitPart(part=DISC))), answers(there))

    def test_a_part_without_a_card_gets_one_and_loses_nothing(self):
        there = build(said(hub_mm="26", plate_mm="18"))
        there = entered(there, Add(list="parts", row={"name": "other", "kind": "disc"}))
        swapped = entered(there, FitPart(part=1))
        self.assertEqual([c.name for c in swapped.parts], ["other", "disc that was fitted"])
        self.assertEqual(set(swapped.dims), {"plate_mm"})
        self.assertEqual(swapped.parts[1].sizes["hub_mm"], there.dims["hub_mm"])
        back = entered(swapped, FitPart(part=2))
        self.assertEqual(back.dims, there.dims)

    def test_another_engine_takes_its_holes_along_and_spoils_what_was_read_against_the_old_one(
        self,
    ):
        there = pump_tender()
        there = entered(there, Add(list="parts", row={"name": "other", "kind": "engine"}))
        other = there.parts[-1].n
        swapped = entered(there, FitPart(part=other))
        self.assertEqual(swapped.engine_face.holes, [])
        shelf = swapped.parts[-1]
        self.assertEqual(shelf.face.holes, there.engine_face.holes)
        gaps = {g.lapsed.event for f in swapped.fits for g in f.gaps if g.lapsed}
        self.assertIn("unit moved", gaps)
        self.assertEqual(
            [e.event for e in swapped.events[len(there.events) :]],
            ["part or supplier changed", "unit moved"],
        )
        back = entered(swapped, FitPart(part=shelf.n))
        self.assertEqual(back.engine_face, there.engine_face)
        # Where it stood was read when it stood there: it has to be read again.
        in_place = [k for k in sizes_of("engine") if DIMENSIONS[k].reading and k in back.dims]
        self.assertGreater(len(in_place), 3)
        for key in in_place:
            self.assertTrue(all(s.lapsed for s in back.dims[key].statements), key)
        block = "engine_length_mm"
        self.assertEqual(back.dims[block], there.dims[block])

    def test_solids_mounts_pulleys_and_choices_go_with_the_casting_they_are_fixed_to(self):
        own = {"on_up": {"source": "measured", "tool": "tape"}}
        points = [{"n": 1, "on_back": "0", "on_up": "3", "evidence": {"tool": "tape"}, "said": own}]
        there = Build.model_validate(
            pump_tender().model_dump(mode="json")
            | {"pose_points": points, "options": pump_tender().options | {"strokes": "two-stroke"}}
        )
        there = entered(there, Add(list="parts", row={"name": "other", "kind": "engine"}))
        other = there.parts[-1].n
        swapped = entered(there, FitPart(part=other))
        self.assertEqual({s.body for s in swapped.solids}, {"gearbox", "chassis"})
        self.assertEqual({m.body for m in swapped.mounts}, {"gearbox"})
        self.assertEqual(swapped.pulleys, [])
        self.assertNotIn("strokes", swapped.options)
        # What was read on the old engine holds nothing in place any more, nothing speaks for it.
        self.assertIsNotNone(swapped.pose_points[0].evidence.lapsed)
        self.assertIsNotNone(swapped.pose_points[0].said["on_up"].lapsed)
        ids = {f.id: f for f in assess(swapped).findings}
        self.assertFalse([i for i in ids if i.startswith("clear.pair.1-")])
        self.assertEqual(ids["seat.mounts"].verdict, Verdict.UNMEASURED)
        # A new row that took an old number keeps it; the one that comes back is numbered on.
        taken = next(s.n for s in there.solids if s.body == "engine")
        chassis = swapped.solids[-1].n
        moved = entered(swapped, Renumber(list="solids", row=chassis, to=taken))
        back = entered(moved, FitPart(part=swapped.parts[-1].n))
        names = [s.name for s in back.solids]
        self.assertEqual(sorted(names), sorted(s.name for s in there.solids))
        self.assertEqual(len({s.n for s in back.solids}), len(names))
        self.assertEqual(back.options, there.options)
        self.assertEqual({m.n: m for m in back.mounts}, {m.n: m for m in there.mounts})
        self.assertEqual(back.pulleys, there.pulleys)

    def test_an_engine_without_a_card_that_has_a_solid_alone_gets_one(self):
        block = {"n": 1, "name": "block", "back": "0", "left": "0", "up": "0", "a": "9"}
        there = build(solids=[block], parts=[{"n": 1, "name": "other", "kind": "engine"}])
        swapped = entered(there, FitPart(part=1))
        self.assertEqual(swapped.solids, [])
        (card,) = [p for p in swapped.parts if not p.fitted]
        self.assertEqual([s.name for s in card.belongs.solids], ["block"])
        bare = entered(build(parts=[{"n": 1, "kind": "engine"}]), FitPart(part=1))
        self.assertEqual(len(bare.parts), 1)

    def test_what_lapses_is_told_before_it_is_kept(self):
        there = written(entered(pump_tender(), Add(list="parts", row={"kind": "gearbox"})))
        change = enter(there, [FitPart(part=there.build.parts[-1].n)], AT)
        old, new = resolve(there.build), resolve(change.after.build)
        touched = ripple(old, new, assess(there.build), assess(change.after.build))
        self.assertIn("unit moved", touched.events)
        own = {x.address for x in touched.lapsing}
        self.assertTrue(own and not own & set(sizes_of("gearbox")), own)

    def test_a_reading_goes_to_the_part_that_it_is_of(self):
        there = pump_tender()
        of_shelf = entered(there, Read(key="hub_mm", typed="24.7", part=OLD_DISC))
        self.assertEqual(of_shelf.dims, there.dims)
        takes = of_shelf.parts[6].sizes["hub_mm"].statements
        self.assertEqual([s.lapsed is None for s in takes], [False, True])
        fitted = entered(there, Read(key="hub_mm", typed="25.9", part=DISC))
        self.assertEqual(resolve(fitted).quantities["hub_mm"].value, 25.9)
        with self.assertRaisesRegex(CannotEnter, "no size of disc"):
            entered(there, Read(key="plate_mm", typed="18", part=OLD_DISC))

    def test_what_cannot_be_fitted_says_why(self):
        there = entered(pump_tender(), Add(list="parts", row={"name": "thing"}))
        for part, words in ((DISC, "fitted already"), (there.parts[-1].n, "what kind of part")):
            with self.assertRaisesRegex(CannotEnter, words):
                entered(there, FitPart(part=part))
        gone = entered(there, Put(list="parts", row=OFFERED, field="state", value="gone"))
        with self.assertRaisesRegex(CannotEnter, "gone"):
            entered(gone, FitPart(part=OFFERED))

    def wanting(self, of, *acts):
        change = enter(written(of), acts, AT)
        return [p.detail for p in asks(change, lambda: states(of))]

    def test_two_of_a_kind_are_not_fitted_and_what_is_kept_is_not_thrown_away(self):
        there = pump_tender()
        put = lambda n, field, value: Put(list="parts", row=n, field=field, value=value)  # noqa: E731
        (two, own) = self.wanting(there, put(OLD_DISC, "fitted", True))
        self.assertIn("one at a time", two)
        self.assertIn("sizes of its own", own)
        # Its successor is fitted and final: it may go.
        self.assertEqual(self.wanting(there, put(OLD_DISC, "state", "gone")), [])
        # The one that is fitted is nobody's successor.
        kept = entered(there, put(DISC, "keep", True))
        (still,) = self.wanting(kept, put(DISC, "state", "gone"))
        self.assertIn("kept until its successor", still)
        for state in ("ordered", "dummy"):
            not_yet = entered(there, put(DISC, "state", state))
            for act in (put(OLD_DISC, "state", "gone"), Remove(list="parts", row=OLD_DISC)):
                with self.subTest(state, act=act.do):
                    (kept,) = self.wanting(not_yet, act)
                    self.assertIn("kept until its successor is fitted", kept)


class Candidates(unittest.TestCase):
    def test_they_are_ranked_by_what_they_measure_and_refused_ones_keep_their_reason(self):
        there = pump_tender()
        best, fitted, offered = candidates(written(there), "disc", AT, TODAY)
        self.assertEqual([c.part for c in (best, fitted, offered)], [OLD_DISC, DISC, OFFERED])
        self.assertEqual((best.tally.fouls, fitted.tally.fouls), (0, 1))
        self.assertEqual(offered.against[0].verdict, Verdict.FOULS)
        self.assertIn("23 splines", offered.against[0].text)
        self.assertEqual((offered.sizes, offered.of_sizes, offered.weakest), (3, 10, Source.SELLER))
        # A name says nothing; a reason is kept, and ranks last.
        renamed = entered(
            there,
            Put(list="parts", row=OFFERED, field="name", value="perfect fit, every build"),
            Put(list="parts", row=OLD_DISC, field="refused", value="worn to the rivets"),
        )
        order = candidates(written(renamed), "disc", AT, TODAY)
        self.assertEqual([c.part for c in order], [DISC, OFFERED, OLD_DISC])
        self.assertEqual(order[-1].refused, "worn to the rivets")


class Claims(unittest.TestCase):
    def test_claims_origin_and_dates(self):
        there = pump_tender()
        found = findings(there)
        self.assertEqual(found["survey.claim.2.1"].verdict, Verdict.FOULS)
        self.assertEqual(found["survey.claim.8.1"].verdict, Verdict.UNMEASURED)
        holds = entered(
            there, Put(list="parts.claims", of=8, row=1, field="checked", value="holds")
        )
        self.assertNotIn("survey.claim.8.1", findings(holds))
        nowhere = entered(there, Put(list="parts", row=9, field="donor", value=""))
        self.assertEqual(findings(nowhere)["survey.origin.9"].verdict, Verdict.UNMEASURED)
        again = entered(there, Put(list="parts.due", of=9, row=1, field="done", value=False))
        for today, verdict in (
            ("2026-06-01", None),
            ("2026-06-25", Verdict.TIGHT),
            ("2026-07-01", Verdict.FOULS),
        ):
            with self.subTest(today):
                due = findings(again, today).get("survey.due.9.1")
                self.assertEqual(due and due.verdict, verdict)


class Kits(unittest.TestCase):
    def piece(self, **cells):
        there = pump_tender()
        acts = [
            Cell(list="kits.pieces", of=1, row=4, field=field, typed=typed)
            for field, typed in cells.items()
        ]
        return findings(entered(there, *acts))

    def test_what_came_is_held_against_what_should_have(self):
        found = findings(pump_tender())
        self.assertEqual(found["survey.kit.1.3.count"].verdict, Verdict.FOULS)
        self.assertIn(
            "1 missing (5 of 6); step 8 needs it", found["survey.kit.1.3.count"].sentence.mm
        )
        self.assertEqual(found["survey.kit.1.5.count"].verdict, Verdict.TIGHT)
        self.assertNotIn("survey.kit.1.1.count", found)
        self.assertNotIn("survey.kit.1.1.size", found)
        # 31.9 for 25: 6.9 too long, 27.6 %.
        self.assertIn("6.9 mm larger, 27.6%", found["survey.kit.1.4.size"].sentence.mm)
        self.assertIn("0.272 in larger", found["survey.kit.1.4.size"].sentence.inch)

    def test_a_size_is_held_to_its_last_digit_and_the_tool(self):
        # The list's half digit 0.5 and the calliper's 0.1 reach 25.6 and no further.
        for typed, verdict in (
            ("25.6", None),
            ("25.7", Verdict.FOULS),
            ("24.4", None),
            ("24.3", Verdict.FOULS),
            ("", Verdict.UNMEASURED),
        ):
            with self.subTest(typed):
                size = self.piece(measured=typed).get("survey.kit.1.4.size")
                self.assertEqual(size and size.verdict, verdict)
        self.assertEqual(self.piece(came="")["survey.kit.1.4.came"].verdict, Verdict.UNMEASURED)

    def test_the_last_day_for_return(self):
        there = pump_tender()
        for today, verdict in (
            ("2026-04-01", Verdict.UNMEASURED),
            ("2026-04-13", Verdict.TIGHT),
            ("2026-04-21", Verdict.FOULS),
        ):
            with self.subTest(today):
                found = findings(there, today)["survey.kit.1.return"]
                self.assertEqual(found.verdict, verdict)
                self.assertIn("3 things of it are open", found.sentence.mm)
        sooner = Build.model_validate(
            there.model_dump(mode="json")
            | {"rules": {"due_soon_days": {"value": 20, "note": "slow post"}}}
        )
        pressed = findings(sooner, "2026-04-01")["survey.kit.1.return"]
        self.assertEqual(pressed.verdict, Verdict.TIGHT)
        with self.assertRaises(ValidationError):
            entered(there, Put(list="kits", row=1, field="return_by", value="2026-02-30"))
        closed = entered(there, *(Remove(list="kits.pieces", of=1, row=n) for n in (3, 4, 5)))
        self.assertNotIn("survey.kit.1.return", findings(closed, "2026-04-21"))


class Versions(unittest.TestCase):
    def ruled(self, facts, *rules):
        """A build of three steps, the facts by number, rules as (conditions, what it does)."""
        return build(
            steps=[{"n": 1, "name": "brackets"}, {"n": 2, "needs": [1]}, {"n": 3, "hold": True}],
            facts=[{"n": n, "name": f"fact {n}", "value": v} for n, v in facts.items()],
            variants=[
                {
                    "n": i,
                    "when": [
                        {"n": k, "fact": f, "value": v} for k, (f, v) in enumerate(when.items(), 1)
                    ],
                    "target": "step",
                    "which": which,
                    "does": does,
                }
                for i, (when, which, does) in enumerate(rules, 1)
            ],
        )

    def status(self, of):
        return {s.n: s.status for s in states(of)}

    def test_a_revision_holds_over_its_family(self):
        family = ({1: "long"}, "1", "applies")
        revision = ({1: "long", 2: "A"}, "1", "does not apply")
        for facts, one, two in (
            ({1: "long", 2: "a"}, "does not apply", "can do"),
            ({1: "long", 2: "B"}, "can do", "waits"),
            ({1: "short", 2: "A"}, "can do", "waits"),
            # Nobody knows the revision: the family's rule may not speak for it.
            ({1: "long", 2: ""}, "can do", "waits"),
        ):
            with self.subTest(facts):
                of = self.ruled(facts, family, revision)
                self.assertEqual((self.status(of)[1], self.status(of)[2]), (one, two))
                asked = findings(of).get("survey.fact.2")
                self.assertEqual(asked and asked.verdict, None if facts[2] else Verdict.UNMEASURED)

    def test_two_rules_as_narrow_a_fact_in_no_row_and_a_rule_of_nothing(self):
        clash = self.ruled({1: "x"}, ({1: "x"}, "1", "applies"), ({1: "x"}, "1", "does not apply"))
        self.assertEqual(self.status(clash)[1], "can do")
        self.assertEqual(findings(clash)["survey.clash.step.1"].verdict, Verdict.FOULS)
        nothing = self.ruled({}, ({7: "x"}, "9", "does not apply"))
        self.assertIn("Fact 7", findings(nothing)["survey.fact.7"].sentence.mm)
        self.assertIn("not there", findings(nothing)["survey.rule.1"].sentence.mm)

    def test_a_hold_point_is_never_ruled_out_and_no_finding_is_hidden(self):
        of = self.ruled({}, ({}, "3", "does not apply"))
        self.assertNotEqual(self.status(of)[3], "does not apply")
        there = pump_tender()
        hidden = entered(
            there,
            Add(
                list="variants",
                row={"target": "size", "which": "nose_mm", "does": "does not apply"},
            ),
        )
        self.assertNotIn("nose_mm", assess(hidden).asked)
        self.assertEqual(answers(hidden).keys(), answers(there).keys())

    def test_parts_that_do_not_apply_shut_no_gate_and_numbers_are_followed(self):
        there = pump_tender()
        self.assertIn("parts.1", {o.row for o in assess(there).opens})
        ruled = entered(
            there,
            Add(list="variants", row={"which": "1", "does": "does not apply"}),
        )
        self.assertNotIn("parts.1", {o.row for o in assess(ruled).opens})
        moved = entered(
            ruled,
            Renumber(list="parts", row=1, to=77),
            Renumber(list="facts", row=1, to=5),
            Renumber(list="steps", row=8, to=88),
        )
        self.assertEqual(moved.variants[-1].which, "77")
        self.assertEqual([m.part for m in moved.money if m.n == 6], [77])
        self.assertEqual(moved.variants[0].when[0].fact, 5)
        self.assertEqual(moved.kits[0].pieces[2].step, 88)

    def test_both_demos_tell_it(self):
        for of, rule, question, words in (
            (pump_tender(), 1, "seat.mounts", "gearbox version early"),
            (garden_trolley(), 3, "seat.room", "track gauge narrow"),
        ):
            told = findings(of)[f"survey.says.{rule}"]
            self.assertEqual(told.station.value, question.partition(".")[0])
            self.assertIn(words, told.sentence.mm)


class Library(unittest.TestCase):
    def test_what_was_measured_there_was_not_measured_here(self):
        there = pump_tender()
        card = to_keep(there, DISC)
        self.assertEqual(set(card.sizes), {k for k in sizes_of("disc") if k in there.dims})
        row = to_build(card)
        here = entered(build(), Add(list="parts", row=row), FitPart(part=1))
        for key in ("hub_mm", "disc_wear_mm"):
            was, now = (resolve(b).quantities[key] for b in (there, here))
            self.assertEqual(now.value, was.value)
            wanted = Source.ELSEWHERE if was.source == Source.MEASURED else was.source
            self.assertEqual(now.source, wanted)
        self.assertEqual(resolve(there).quantities["hub_mm"].source, Source.MEASURED)
        # Readings in the vehicle are of the vehicle; holes go along, as measured elsewhere.
        engine = entered(there, Add(list="parts", row={"kind": "engine", "fitted": True}))
        kept = to_keep(engine, engine.parts[-1].n)
        self.assertNotIn("block_face_back_mm", kept.sizes)
        face = to_build(kept)["face"]
        self.assertEqual(len(face["holes"]), len(there.engine_face.holes))
        sources = {h["evidence"]["source"] for h in face["holes"] if h["evidence"]}
        self.assertNotIn("measured", sources | {face["evidence"]["source"]})
        with self.assertRaisesRegex(CannotEnter, "what kind"):
            to_keep(entered(there, Add(list="parts", row={})), there.parts[-1].n + 1)

    def test_candidates_of_the_library_are_ranked_with_the_rest(self):
        there = pump_tender()
        better = to_keep(there, OLD_DISC)
        bare = entered(there, Remove(list="parts", row=OLD_DISC))
        first = candidates(written(bare), "disc", AT, TODAY, [("abc", better)])[0]
        self.assertEqual((first.library, first.part, first.tally.fouls), ("abc", 0, 0))
        self.assertEqual(first.weakest, Source.ELSEWHERE)

    def test_two_cards_of_one_part_are_found_and_merged_with_what_both_say(self):
        there = pump_tender()
        one, other = to_keep(there, DISC), to_keep(there, DISC)
        third = to_keep(there, OLD_DISC)
        self.assertEqual(alike([("a", one), ("b", other), ("c", third)]), [("a", "b")])
        both = merged(one.model_copy(update={"source": ""}), third)
        self.assertEqual(both.donor, third.donor)
        found = {
            s.takes[0].typed: s.id for s in both.sizes["hub_mm"].statements if s.lapsed is None
        }
        self.assertEqual(set(found), {"26", "24.8"})
        self.assertEqual(len(set(found.values())), 2)
        # Two sizes that cannot both hold are seen once it is fitted.
        fitted = entered(build(), Add(list="parts", row=to_build(both)), FitPart(part=1))
        self.assertIn("contradiction.hub_mm", findings(fitted))
        self.assertEqual(merged(one, other), one)
        with self.assertRaisesRegex(CannotEnter, "not one part"):
            merged(one, to_keep(there, 9))

    def test_it_goes_out_and_comes_back_and_what_is_none_is_refused_whole(self):
        there = pump_tender()
        cards = [to_keep(there, n) for n in (DISC, OLD_DISC, 9)]
        again = parts_of_table([[*FIRST_HEADS, *SIZE_HEADS], *table_of_parts(cards)])
        self.assertEqual([c.name for c in again], [c.name for c in cards])
        for card, back in zip(cards, again, strict=True):
            values = [
                {
                    k: resolve(build({k: d.model_dump(mode="json")})).quantities[k].value
                    for k, d in c.sizes.items()
                }
                for c in (card, back)
            ]
            self.assertEqual(*values)
        as_json = read_parts({"parts": [c.model_dump(mode="json") for c in cards]})
        self.assertEqual(as_json, cards)
        bad = cards[0].model_dump(mode="json")
        bad["sizes"]["hub_mm"]["statements"][0]["takes"][0]["typed"] = "wide-ish 3 4"
        for came, words in (
            ({}, "no parts"),
            ([{"name": "x", "colour": "red"}], "Part 1: colour"),
            ([bad], "Part 1, disc, 11 inch"),
            ([3], "Part 1"),
        ):
            with self.subTest(words), self.assertRaisesRegex(CannotEnter, words):
                read_parts(came)
        for rows, words in (
            ([["part", "kind"]], "no column size, reading"),
            ([["part", "kind", "size", "reading"], ["x", "disc", "foo", "1"]], "Line 2"),
            ([["part", "kind", "size", "reading"], ["x", "sofa", "", ""]], "kind"),
        ):
            with self.subTest(words), self.assertRaisesRegex(CannotEnter, words):
                parts_of_table(rows)
