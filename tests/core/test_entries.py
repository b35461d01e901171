"""What an entry does: a reading of its own, a plan beside what was measured, rows by number; and
what no change may skip.
"""

import unittest

import jsonpatch

from pindo.core.acts import (
    Add,
    CannotEnter,
    Cell,
    Close,
    Copy,
    Move,
    MovedOn,
    Plan,
    Put,
    Read,
    Remove,
    Renumber,
)
from pindo.core.assessment import assess
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source, Tool
from pindo.core.entries import READ_AGAIN, operations
from pindo.core.inputs.quantity import EntryError
from pindo.core.inputs.resolve import resolve
from pindo.core.row_acts import other_sign
from pindo.core.transition import completing, lapsing_with, refusals
from pindo.demo import pump_tender
from tests.support import AT, build, demo, entered, face, hole, statement, states


def standing(of: Build, key: str):
    q = resolve(of).quantities[key]
    return q.value, q.pm, q.source, q.tool


class Readings(unittest.TestCase):
    GUESS = build(
        {
            "nose_mm": {
                "statements": [statement("80", "guess", note="by eye", state={"position": "hung"})]
            }
        },
        state={"position": "bench"},
    )

    def test_a_reading_inherits_nothing_from_what_stood_there(self):
        now = entered(self.GUESS, Read(key="nose_mm", typed="88"))
        old, new = now.dims["nose_mm"].statements
        self.assertEqual((old.takes[0].typed, old.lapsed), ("80", None))
        self.assertEqual(
            (new.source, new.tool, new.pm, new.note, new.state.position),
            (Source.MEASURED, None, None, "", "bench"),
        )
        self.assertEqual(standing(now, "nose_mm"), (88.0, 1.0, Source.MEASURED, None))

    def test_the_tool_in_hand_goes_with_it_where_it_can_read_such_a_size(self):
        now = entered(self.GUESS, Read(key="nose_mm", typed="88", tool=Tool.CALLIPER))
        self.assertEqual(standing(now, "nose_mm"), (88.0, 0.1, Source.MEASURED, Tool.CALLIPER))
        drawn = (
            entered(
                build(), Read(key="nose_mm", typed="88", source=Source.DRAWING, tool=Tool.CALLIPER)
            )
            .dims["nose_mm"]
            .statements[0]
        )
        self.assertEqual((drawn.tool, drawn.state.position), (None, None))
        self.assertIsNone(
            entered(build(), Read(key="inclination_deg", typed="3", tool=Tool.CALLIPER))
            .dims["inclination_deg"]
            .statements[0]
            .tool
        )

    CASES = (
        # key | typed | source
        ("nose_mm", "about 88", Source.GUESS),
        ("nose_mm", "plenty", Source.WORD),
        ("gearbox_torque_nm", "300", Source.UNSAID),
        ("engine_torque_nm", "270", Source.UNSAID),
        ("clocking_deg", "1.5", Source.CHOSEN),
        ("window_mm", "300", Source.CHOSEN),
        ("plate_mm", "18", Source.CHOSEN),
        ("nose_mm", "18", Source.MEASURED),
    )

    def test_evidence_is_never_invented(self):
        for key, typed, source in self.CASES:
            with self.subTest(key=key, typed=typed):
                self.assertEqual(
                    entered(build(), Read(key=key, typed=typed)).dims[key].statements[0].source,
                    source,
                )
        rated = entered(
            build(),
            Read(key="gearbox_torque_nm", typed="300", source=Source.MEASURED, tool=Tool.SCALE),
        )
        self.assertEqual(rated.dims["gearbox_torque_nm"].statements[0].source, Source.UNSAID)

    def test_typed_again_the_older_reading_is_kept_and_out_of_the_verdict_and_papers_stay(self):
        before = build(
            {
                "nose_mm": {
                    "statements": [
                        statement("24", tool="steel rule"),
                        statement("24.5", "drawing", id="s2"),
                    ],
                    "chosen": "s2",
                    "sure": "so it is",
                }
            }
        )
        now = entered(before, Read(key="nose_mm", typed="24.2", tool=Tool.CALLIPER)).dims["nose_mm"]
        self.assertEqual(
            [s.lapsed.event if s.lapsed else None for s in now.statements], [READ_AGAIN, None, None]
        )
        self.assertEqual((now.chosen, now.sure), (None, ""))

    def test_a_plan_stands_beside_what_was_measured(self):
        before = build({"plate_mm": {"statements": [statement("18", tool="digital calliper")]}})
        now = entered(
            before,
            Plan(key="plate_mm", typed="17.6", unit="mm"),
            Plan(key="plate_mm", typed="17.4", unit="mm"),
        )
        said = now.dims["plate_mm"].statements
        self.assertEqual(
            [(s.source, s.takes[0].typed, s.lapsed is None) for s in said],
            [("measured", "18", True), ("chosen", "17.6", False), ("chosen", "17.4", True)],
        )
        self.assertEqual(standing(now, "plate_mm")[0], 17.4)
        # Once it is made and measured, the reading stands again; a figure without a tool is the
        # next decision, and stands too.
        self.assertEqual(
            standing(
                entered(now, Read(key="plate_mm", typed="17.42", tool=Tool.CALLIPER)), "plate_mm"
            ),
            (17.42, 0.1, Source.MEASURED, Tool.CALLIPER),
        )
        self.assertEqual(
            standing(entered(now, Read(key="plate_mm", typed="17.5")), "plate_mm")[:3:2],
            (17.5, Source.CHOSEN),
        )
        rated = build({"engine_torque_nm": {"statements": [statement("256", "catalogue")]}})
        self.assertEqual(
            standing(entered(rated, Read(key="engine_torque_nm", typed="270")), "engine_torque_nm")[
                :3:2
            ],
            (270.0, Source.UNSAID),
        )

    def test_bad_text_is_refused(self):
        with self.assertRaises(EntryError):
            operations(self.GUESS, Read(key="nose_mm", typed="8..8"), AT)
        with self.assertRaisesRegex(CannotEnter, "no dimension"):
            operations(self.GUESS, Read(key="nothing_mm", typed="8"), AT)


class Rows(unittest.TestCase):
    FACED = build(
        engine_face=face(hole(1, "0", "10"), hole(4, "5", "")),
        mounts=[
            {"n": 2, "name": "left", "back": "-40", "evidence": {"source": "drawing", "pm": "1"}}
        ],
    )

    def test_a_figure_typed_over_another_is_a_reading_of_its_own(self):
        now = entered(
            self.FACED,
            Cell(list="mounts", row=2, field="back", typed="-42"),
            Cell(list="engine_face.holes", row=1, field="u", typed="1.5", tool=Tool.CALLIPER),
        )
        self.assertEqual(now.mounts[0].said["back"].source, Source.MEASURED)
        q = resolve(now).quantities
        self.assertEqual((q["mounts.2.back"].source, q["mounts.2.back"].pm), (Source.MEASURED, 1.0))
        self.assertEqual((q["engine.1.u"].tool, q["engine.1.u"].pm), (Tool.CALLIPER, 0.1))
        self.assertEqual((q["engine.1.v"].source, q["engine.1.v"].pm), (Source.DRAWING, 0.0))
        # Whoever says anew where the row comes from speaks of all of it.
        self.assertEqual(
            entered(now, Put(list="mounts", row=2, field="evidence/source", value="catalogue"))
            .mounts[0]
            .said,
            {},
        )

    def test_a_hole_may_come_from_elsewhere_than_its_face(self):
        now = entered(
            self.FACED,
            Put(list="engine_face.holes", row=1, field="evidence/source", value="measured"),
            Put(list="engine_face.holes", row=1, field="evidence/state/position", value="hung"),
        )
        q = resolve(now).quantities
        self.assertEqual(
            (q["engine.1.u"].source, q["engine.1.u"].state.position, q["engine.4.u"].source),
            (Source.MEASURED, "hung", Source.DRAWING),
        )

    def test_an_empty_cell_falls_under_what_the_row_declares(self):
        now = entered(self.FACED, Cell(list="mounts", row=2, field="up", typed="12"))
        self.assertEqual(
            (now.mounts[0].said, resolve(now).quantities["mounts.2.up"].source),
            ({}, Source.DRAWING),
        )

    def test_a_row_that_is_gone_is_said(self):
        with self.assertRaisesRegex(MovedOn, "Number 7 of mounts is not there"):
            operations(self.FACED, Cell(list="mounts", row=7, field="back", typed="1"), AT)

    def test_numbers_are_given_once_and_followed(self):
        now = entered(
            self.FACED, Add(list="engine_face.holes", row={"role": "dowel"}), Add(list="mounts")
        )
        self.assertEqual(
            ([h.n for h in now.engine_face.holes], [m.n for m in now.mounts]), ([1, 4, 5], [2, 3])
        )
        landed = entered(
            now,
            Add(list="engine_face.lands"),
            Add(list="engine_face.lands"),
            Remove(list="engine_face.lands", row=1),
            Cell(list="engine_face.lands", row=2, field="u", typed="7"),
        )
        self.assertEqual(
            [
                (x.n, x.u)
                for x in entered(
                    landed, Renumber(list="engine_face.lands", row=2, to=1)
                ).engine_face.lands
            ],
            [(1, "7")],
        )
        with self.assertRaisesRegex(CannotEnter, "Number 5 is taken"):
            operations(now, Renumber(list="engine_face.holes", row=1, to=5), AT)
        steps = build(
            steps=[{"n": 1, "name": "a"}, {"n": 2, "name": "b", "needs": [1], "hides": [1]}],
            parts=[{"n": 1, "step": 1}],
            money=[{"n": 1}, {"n": 2, "credit_of": 1}],
        )
        moved = entered(
            steps, Renumber(list="steps", row=1, to=9), Renumber(list="money", row=1, to=8)
        )
        self.assertEqual(
            (
                moved.steps[1].needs,
                moved.steps[1].hides,
                moved.parts[0].step,
                moved.money[1].credit_of,
            ),
            ([9], [9], 9, 8),
        )
        self.assertEqual(
            [h.n for h in entered(now, Remove(list="engine_face.holes", row=4)).engine_face.holes],
            [1, 5],
        )


class WhatNoChangeMaySkip(unittest.TestCase):
    STEPS = build(
        steps=[
            {"n": 1, "name": "measure", "asks": "what was found"},
            {"n": 2, "name": "lift", "hold": True, "needs": [1]},
        ]
    )

    def refused(self, before, *acts):
        stood = states(before, assess(before).findings, "2026-11-26")
        return [p.detail for p in refusals(before, entered(before, *acts), stood)]

    def test_a_step_closes_only_with_what_it_asks(self):
        self.assertEqual(
            self.refused(self.STEPS, Close(n=1, state="done")),
            ["Write it down first: what was found."],
        )
        self.assertEqual(
            self.refused(self.STEPS, Close(n=1, state="done", as_built="all there")), []
        )
        self.assertEqual(len(self.refused(self.STEPS, Close(n=2, state="done"))), 2)
        self.assertRegex(
            self.refused(self.STEPS, Close(n=2, state="done", by="I."))[0],
            "waits for “.*out of order.*name and a reason",
        )
        self.assertEqual(
            self.refused(self.STEPS, Close(n=2, state="done", by="I.", reason="crane was here")), []
        )

    def test_left_out_is_a_waiver(self):
        self.assertEqual(len(self.refused(self.STEPS, Close(n=1, state="left out"))), 3)
        self.assertEqual(
            self.refused(
                self.STEPS,
                Close(n=1, state="left out", by="I.", reason="no such part", until="2027-01-01"),
            ),
            [],
        )
        opened = entered(
            self.STEPS,
            Close(n=1, state="left out", by="I.", reason="x", until="y"),
            Close(n=1, state="open"),
        )
        self.assertEqual((opened.steps[0].state, opened.steps[0].reason), ("open", ""))

    def test_torqued_wants_a_torque_with_a_source_and_signed_a_name_and_a_limit(self):
        joint = {
            "n": 1,
            "name": "flywheel",
            "torque": "90",
            "bolts": "8",
            "evidence": {"source": "memory"},
        }
        for more, words in (
            ({}, "torque with a source"),
            ({"evidence": {"source": "maker's paper"}}, "locker"),
            (
                {"evidence": {"source": "maker's paper"}, "locker": "none", "single_use": "spent"},
                "spent",
            ),
        ):
            with self.subTest(words):
                self.assertRegex(
                    " ".join(
                        self.refused(
                            build(joints=[joint | more]),
                            Put(list="joints", row=1, field="state", value="torqued"),
                        )
                    ),
                    words,
                )
        item = build(provisional=[{"n": 1, "name": "hose", "state": "open"}])
        self.assertEqual(
            len(self.refused(item, Put(list="provisional", row=1, field="state", value="signed"))),
            2,
        )
        self.assertEqual(
            self.refused(
                item,
                Put(list="provisional", row=1, field="limit", value="30 km/h"),
                Put(list="provisional", row=1, field="by", value="I."),
                Put(list="provisional", row=1, field="state", value="signed"),
            ),
            [],
        )

    def test_a_changed_size_takes_its_readings_with_it_and_spares_what_was_said_with_it(self):
        before = pump_tender()
        after = entered(before, Plan(key="plate_mm", typed="17.6", unit="mm"))
        self.assertIn("face_tir_mm", [x.address for x in lapsing_with(before, after)])
        kept = Build.model_validate(
            jsonpatch.apply_patch(after.model_dump(mode="json"), completing(before, after, AT))
        )
        self.assertEqual(
            (resolve(kept).quantities["face_tir_mm"].status, kept.events[-1].event),
            ("lapsed", "plate, shield, spacer or adapter thickness"),
        )
        both = entered(
            before,
            Plan(key="plate_mm", typed="17.6", unit="mm"),
            Read(key="face_tir_mm", typed="0.09"),
        )
        self.assertNotIn("face_tir_mm", [x.address for x in lapsing_with(before, both)])
        # A first entry changes nothing that anybody read against.
        bare = build({"face_tir_mm": {"statements": [statement("0.1", tool="dial indicator")]}})
        self.assertEqual(lapsing_with(bare, entered(bare, Read(key="plate_mm", typed="18"))), [])
        same = entered(before, Plan(key="plate_mm", typed="18", unit="mm"))
        self.assertEqual(lapsing_with(demo({"plate_mm": "18"}), same), [])


class RowsBesideOthers(unittest.TestCase):
    def test_a_copy_is_a_guess_and_a_mirrored_one_stands_on_the_other_side(self):
        now = pump_tender()
        first = now.mounts[0]
        same = entered(now, Copy(list="mounts", row=first.n)).mounts[1]
        other = entered(now, Copy(list="mounts", row=first.n, mirror=True)).mounts[1]
        self.assertEqual(same.n, max(m.n for m in now.mounts) + 1)
        self.assertEqual((same.left, same.back, same.kz), (first.left, first.back, first.kz))
        self.assertEqual((other.left, other.back), (other_sign(first.left or ""), first.back))
        self.assertEqual(same.name, f"{first.name}, copy")
        for made in (same, other):
            self.assertEqual((made.evidence.source, made.said), (Source.GUESS, {}))
        self.assertEqual(first.evidence.source, Source.MEASURED)
        # Through the road: the value has the other sign and the doubt of a guess.
        quantities = resolve(entered(now, Copy(list="mounts", row=first.n, mirror=True))).quantities
        was, made_q = (quantities[f"mounts.{n}.left"] for n in (first.n, other.n))
        self.assertAlmostEqual(made_q.value, -was.value)
        self.assertGreater(made_q.pm, was.pm)

    def test_a_solid_turns_with_its_side_and_what_was_signed_or_read_has_no_copy(self):
        now = entered(pump_tender(), Put(list="solids", row=1, field="turn", value="4"))
        made = entered(now, Copy(list="solids", row=1, mirror=True)).solids[1]
        self.assertEqual((made.turn, made.up), ("-4", now.solids[0].up))
        for name, row in (
            ("steps", now.steps[0]),
            ("joints", now.joints[0]),
            ("fits", now.fits[0]),
            ("gearbox_face.lands", now.gearbox_face.lands[0]),
        ):
            with self.assertRaisesRegex(CannotEnter, "written anew, not copied"):
                entered(now, Copy(list=name, row=row.n))

    def test_a_hole_is_copied_to_the_other_side_as_a_guess(self):
        now = pump_tender()
        first = now.engine_face.holes[2]
        made = entered(now, Copy(list="engine_face.holes", row=first.n, mirror=True))
        other = made.engine_face.holes[3]
        self.assertEqual((other.u, other.v, other.d), (other_sign(first.u), first.v, first.d))
        quantities = resolve(made).quantities
        self.assertEqual(quantities[f"engine.{other.n}.u"].source, Source.GUESS)
        self.assertGreater(
            quantities[f"engine.{other.n}.u"].pm, quantities[f"engine.{first.n}.u"].pm
        )

    def test_a_figure_that_was_not_read_here_says_where_it_is_from(self):
        now = pump_tender()
        of = now.mounts[0]
        for source in (Source.GUESS, Source.ELSEWHERE):
            act = Cell(list="mounts", row=of.n, field="back", typed="-500", source=source)
            self.assertEqual(
                resolve(entered(now, act)).quantities[f"mounts.{of.n}.back"].source, source
            )
        blank = entered(now, Add(list="mounts"))
        n = blank.mounts[-1].n
        filled = entered(blank, Cell(list="mounts", row=n, field="up", typed="4", source="guess"))
        self.assertEqual(resolve(filled).quantities[f"mounts.{n}.up"].source, Source.GUESS)
        # A reading typed over it is a reading again.
        read = entered(filled, Cell(list="mounts", row=n, field="up", typed="5"))
        self.assertEqual(resolve(read).quantities[f"mounts.{n}.up"].source, Source.MEASURED)

    def test_the_other_sign_is_typed_as_a_person_would(self):
        for typed, other in (
            ("30", "-30"),
            ("-30 mm", "30 mm"),
            ("1 1/2 in", "-(1 1/2 in)"),
            ("-(1 1/2 in)", "1 1/2 in"),
            ("10 + 5", "-(10 + 5)"),
        ):
            self.assertEqual(other_sign(typed), other)

    def test_a_row_moves_one_place_and_keeps_its_number(self):
        now = pump_tender()
        order = [m.n for m in now.mounts]
        moved = entered(now, Move(list="mounts", row=order[0], by=1))
        self.assertEqual([m.n for m in moved.mounts], [order[1], order[0], *order[2:]])
        self.assertEqual(moved.mounts[1], now.mounts[0])
        back = entered(moved, Move(list="mounts", row=order[0], by=-1))
        self.assertEqual(back.mounts, now.mounts)
        with self.assertRaisesRegex(CannotEnter, "at the end"):
            entered(now, Move(list="mounts", row=order[0], by=-1))
