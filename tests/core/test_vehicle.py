"""Seat, Line and Clear in a build: which checks are asked, what they say, what they refuse."""

import unittest

import jsonpatch
import numpy as np

from pindo.core.acts import Plan
from pindo.core.assessment import assess, opened
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.lists import COLUMNS, LISTS
from pindo.core.geometry.solids import placed_solids
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.transition import completing
from pindo.demo import garden_trolley, pump_tender
from tests.support import build, demo, drawn, entered, finding, said, statement

TODAY = "2026-11-26"
POINTS = [
    # on the engine, then in the chassis: the unit level, 180 behind the axle, 10 left, 30 down
    ("block left", ("0", "150", "200"), ("180", "160", "170")),
    ("block right", ("0", "-150", "200"), ("180", "-140", "170")),
    ("pulley", ("-600", "0", "0"), ("-420", "10", "-30")),
    ("gearbox lug", ("500", "40", "60"), ("680", "50", "30")),
]


def pointed(rows=POINTS, **more):
    fields = ("on_back", "on_left", "on_up", "in_back", "in_left", "in_up")
    points = [
        {
            "n": i + 1,
            "name": name,
            **dict(zip(fields, (*on, *seen), strict=True)),
            "evidence": {"source": "measured", "tool": "tape"},
        }
        for i, (name, on, seen) in enumerate(rows)
    ]
    return build(pose_points=points, options={"pose_from": "points"}, **more)


class Layouts(unittest.TestCase):
    def test_a_unit_that_stands_nobody_knows_how_or_swings_has_no_place(self):
        document = pump_tender().model_dump(mode="json")
        for layout, why in (("", "how the unit stands"), ("swing arm", "swings with its wheel")):
            with self.subTest(layout):
                made = Build.model_validate(document | {"layout": layout})
                answer = assess(made, (), TODAY)
                told = finding(answer, "survey.layout")
                self.assertEqual(told.verdict, Verdict.UNMEASURED)
                self.assertIn(why, told.sentence.mm)
                placed = ("seat.inclination", "seat.ground", "seat.share.1", "line.angle.1")
                found = {f.id: f for f in answer.findings}
                for id in (i for i in placed if i in found):
                    self.assertEqual(found[id].verdict, Verdict.UNMEASURED, id)
                self.assertFalse([i for i in found if i.startswith("clear.pair.")])
                # What is said of the pose stays: it counts again once the layout is known.
                self.assertEqual(made.dims, pump_tender().dims)
                self.assertTrue(drawn(made)["survey.vehicle"].drawings)
        self.assertEqual(build().layout, "lengthwise")
        self.assertEqual(Build(name="new").layout, "")

    def test_a_side_that_was_said_is_asked_from_where_and_told_in_the_vehicle(self):
        entry = {"n": 1, "name": "crack in the mount", "side": "left"}
        claim = {"n": 1, "what": "rail bent", "side": "right", "viewpoint": "the accessory end"}
        part = {"n": 3, "name": "frame", "claims": [claim]}
        made = build(log=[entry], parts=[part], layout="reversed")
        asked = finding(made, "survey.side.log.1")
        self.assertEqual((asked.verdict, asked.row), (Verdict.UNMEASURED, "log.1"))
        ids = {f.id for f in assess(made).findings}
        self.assertNotIn("survey.side.parts.3.claims.1", ids)
        named = {"vehicle_right": "kerb side", "accessory_end": "timing end"}
        tables = {
            t.key: t
            for t in drawn(made.model_copy(update={"nicknames": named}))["survey.vehicle"].tables
        }
        (said_,) = tables["said"].rows
        self.assertEqual(said_.cells[-1], "engine left = vehicle right “kerb side”")
        rows = {r.cells[1]: r.cells for r in tables["sides"].rows}
        self.assertEqual(rows["accessory end"][2:4], ("timing end", "vehicle rear"))


class Pose(unittest.TestCase):
    def test_the_six_numbers_come_from_the_points(self):
        q = resolve(pointed()).quantities
        for key, value in (
            ("block_face_back_mm", 180),
            ("crank_side_mm", 10),
            ("crank_height_mm", -30),
            ("inclination_deg", 0),
            ("roll_deg", 0),
            ("yaw_deg", 0),
        ):
            self.assertAlmostEqual(q[key].value, value, places=9)
            self.assertGreater(q[key].pm, 0.0)
        self.assertEqual(finding(pointed(), "seat.point.3").verdict, Verdict.GOES)

    def test_a_misread_point_stands_out(self):
        rows = [*POINTS[:3], ("gearbox lug", ("500", "40", "60"), ("680", "50", "48"))]
        worst = max(
            (f for f in assess(pointed(rows)).findings if f.id.startswith("seat.point.")),
            key=lambda f: f.value,
        )
        self.assertEqual(worst.verdict, Verdict.FOULS)
        self.assertIn("from where the pose puts it", worst.sentence.mm)

    def test_too_few_points_say_so_and_the_pose_is_missing(self):
        few = pointed(POINTS[:2])
        self.assertIn("2 of 3 points have all six figures", finding(few, "seat.points").sentence.mm)
        self.assertEqual(resolve(few).quantities["crank_height_mm"].status, Status.MISSING)

    def test_inclination_is_asked_by_layout(self):
        self.assertEqual(
            (finding(demo(), "seat.inclination").low, finding(demo(), "seat.inclination").high),
            (2.0, 4.0),
        )
        self.assertEqual(finding(garden_trolley(), "seat.inclination").low, -4.0)

    def test_moving_the_unit_moves_its_points(self):
        before, after = (
            {r.cells[0]: r.cells[1:] for r in drawn(b)["seat.place"].tables[0].rows}
            for b in (demo(), demo({"crank_height_mm": "-22"}))
        )
        for name, row in before.items():
            self.assertAlmostEqual(after[name][2] - row[2], 10.0)
            self.assertAlmostEqual(after[name][0], row[0])


class Mounts(unittest.TestCase):
    def test_shares_add_up_and_follow_the_mass_centre(self):
        answer = assess(demo(), ())
        shares = [finding(answer, f"seat.share.{n}").value for n in (1, 2, 3, 4)]
        self.assertAlmostEqual(sum(shares), 100.0, places=6)
        ahead = assess(demo({"mass_back_mm": "-300"}), ())
        self.assertGreater(finding(ahead, "seat.share.1").value, shares[0])

    def test_two_mounts_hold_nothing(self):
        two = demo()
        two.mounts = two.mounts[:2]
        self.assertIn("2 of 3 are entered", finding(assess(two, ()), "seat.mounts").sentence.mm)
        self.assertIn(
            "gaps are held to the class table alone",
            finding(assess(two, ()), "clear.movement").sentence.mm,
        )

    def test_a_slot_near_its_end_is_not_called_good(self):
        found = finding(assess(demo(), ()), "seat.slot.1")
        self.assertAlmostEqual(found.value, 15 - 12.2)
        self.assertEqual(found.verdict, Verdict.TIGHT)

    def test_stiff_mounts_promise_no_isolation(self):
        self.assertFalse(
            [f for f in assess(garden_trolley(), ()).findings if f.id == "seat.isolation"]
        )


class Line(unittest.TestCase):
    def test_lifting_the_pinions_nose_cures_the_wobble(self):
        self.assertEqual(finding(assess(demo(), ()), "line.torsional").verdict, Verdict.TIGHT)
        ways = opened(resolve(demo()), "line.torsional").ways
        self.assertIn("pinion_angle_deg", [w.address for w in ways])
        self.assertEqual(
            finding(assess(demo({"pinion_angle_deg": "2.1"}), ()), "line.torsional").verdict,
            Verdict.GOES,
        )

    def test_a_change_of_ride_height_moves_the_joints(self):
        a, b = (
            finding(assess(x, ()), "line.angle.3").value
            for x in (demo(), demo({"pinion_drop_mm": "184"}))
        )
        self.assertAlmostEqual(a - b, 1.7, delta=0.1)  # 30 mm over a metre

    def test_slip_follows_the_guide(self):
        found = finding(assess(demo({"bump_mm": "110"}), ()), "line.slip_inwards")
        self.assertLess(found.value, finding(assess(demo(), ()), "line.slip_inwards").value)
        pivot = demo(
            {"pivot_forward_mm": "1400", "pivot_up_mm": "0"},
            options=demo().options | {"axle_guide": "pivot"},
        )
        self.assertEqual(finding(assess(pivot, ()), "line.slip_inwards").verdict, Verdict.GOES)

    def test_the_order_sheet_is_the_distance_of_the_joints(self):
        orders = {o.name: o for o in drawn(demo())["line.shaft"].readings}
        self.assertAlmostEqual(
            orders["Shaft, rear piece, joint to joint"].value,
            (1005**2 + 109**2 + 8**2) ** 0.5,
            delta=0.02,
        )
        self.assertGreater(orders["Shaft, front piece, joint to joint"].pm, 1.0)

    def test_half_shafts_of_a_crosswise_unit(self):
        dims = said(
            block_face_back_mm="60",
            crank_side_mm="210",
            crank_height_mm="-20",
            roll_deg="0",
            inclination_deg="0",
            yaw_deg="0",
            plate_mm="0",
            separator_mm="0",
            gearbox_length_mm="180",
            output_left_mm="-60",
            output_up_mm="-40",
            inner_joint_half_mm="90",
            outer_joint_left_mm="560",
            outer_joint_drop_mm="120",
            driven_axle_back_mm="0",
            bump_mm="60",
            droop_mm="80",
            plunge_in_mm="20",
            plunge_out_mm="20",
        )
        made = build(
            dims,
            layout="crosswise left",
            options={"drive": "half shafts", "axle_guide": "fixed", "wheel_guide": "rigid axle"},
        )
        answer = assess(made, ())
        self.assertEqual(
            {f.id for f in answer.findings if f.id.startswith("line.")},
            {
                f"line.{x}.{s}"
                for x in ("half_angle", "plunge_in", "plunge_out")
                for s in ("left", "right")
            },
        )
        board = drawn(made)["line.half"]
        left, right = (o.value for o in board.readings)
        doubtful = made.model_dump(mode="json")
        doubtful["dims"]["outer_joint_left_mm"]["statements"][0]["pm"] = "3"
        told = Build.model_validate(doubtful)
        doubt = drawn(told)["line.half"].readings[0].pm
        self.assertAlmostEqual(doubt, 3.0 * 440 / left, delta=0.02)
        self.assertGreater(
            right, left
        )  # the gearbox reaches 180 to the right: its output stands 30 left of the middle
        self.assertEqual(len(board.charts), 1)

    def test_a_drive_that_nobody_named_is_asked(self):
        self.assertIn("say whether it is one shaft", finding(build(), "line.drive").sentence.mm)

    def test_the_chart_runs_from_droop_to_bump(self):
        (chart,) = drawn(demo())["line.shaft"].charts
        self.assertEqual((chart.x[0], chart.x[-1]), (-90.0, 75.0))
        slip = next(s for s in chart.series if s.kind == "length")
        inwards = finding(assess(demo(), ()), "line.slip_inwards").value
        self.assertAlmostEqual(22 + min(slip.values), inwards, delta=0.05)


class BehindThePlate(unittest.TestCase):
    """What hangs on the gearbox goes with the plate, what hangs on the chain's engine with the
    engine.
    """

    def test_a_thicker_plate_moves_the_gearbox_its_solids_and_their_gaps(self):
        def middles(plate):
            inputs = resolve(demo({"plate_mm": plate}))
            return {
                p.solid.body: p.place
                for p in placed_solids(inputs)
                if p.solid.name in ("Block and head", "Gearbox case", "Left rail")
            }

        thin, thick = middles("18"), middles("38")
        self.assertTrue(np.allclose(thin["engine"], thick["engine"]))
        self.assertTrue(np.allclose(thin["chassis"], thick["chassis"]))
        self.assertAlmostEqual(
            float(np.linalg.norm(thin["gearbox"] - thick["gearbox"])), 20.0, places=6
        )

    def test_moving_the_engine_moves_the_chain_out_of_its_plane_and_its_reading_lapses(self):
        before = garden_trolley()
        moved = {}
        for by in (0.0, 20.0):
            after = entered(
                before,
                *(
                    Plan(key=key, typed=str((resolve(before).value(key) or 0.0) + by), unit="mm")
                    for key in ("block_face_back_mm", "crank_side_mm")
                ),
            )
            kept = Build.model_validate(
                jsonpatch.apply_patch(after.model_dump(mode="json"), completing(before, after, ""))
            )
            moved[by] = (
                resolve(kept).quantities["driver_plane_mm"].status,
                finding(kept, "line.chain_plane").value,
            )
        self.assertEqual([m[0] for m in moved.values()], ["standing", "lapsed"])
        self.assertGreater(abs(moved[20.0][1] - moved[0.0][1]), 1.0)

    def test_a_level_transaxle_fouls_no_band_of_a_shaft_drive(self):
        level = {"options": pump_tender().options | {"drive": "half shafts"}}
        self.assertNotEqual(
            finding(demo({"inclination_deg": "0"}, **level), "seat.inclination").verdict, "fouls"
        )
        self.assertEqual(
            finding(demo({"inclination_deg": "0"}), "seat.inclination").verdict, "fouls"
        )

    def test_a_belts_direction_is_asked(self):
        document = pump_tender().model_dump(mode="json")
        document["pulleys"][0]["wants"] = "not said"
        asked = finding(Build.model_validate(document), "clear.belt_turn")
        self.assertEqual(asked.verdict, "unmeasured")

    def test_a_pair_without_a_finding_reads_no_better_than_its_inputs(self):
        document = pump_tender().model_dump(mode="json")
        of = drawn(Build.model_validate(document), TODAY)["clear.pairs"].tables[0]
        quiet = next(p for p in of.rows if p.finding == "")
        self.assertEqual(quiet.mark, "goes")
        for solid in document["solids"]:
            if solid["name"] == quiet.cells[1]:
                solid["evidence"] = {"source": "measured", "lapsed": {"event": "unit moved"}}
        guessed = Build.model_validate(document)
        again = drawn(guessed, TODAY)["clear.pairs"].tables[0]
        same = {p.mark for p in again.rows if p.cells[1] == quiet.cells[1]}
        self.assertNotIn("goes", same)


class Trolley(unittest.TestCase):
    def test_nothing_is_asked_of_a_bellhousing_that_is_not_there(self):
        answer = assess(garden_trolley(), ())
        self.assertFalse([f for f in answer.findings if f.station.value == "mate"])
        own = {f.question for f in answer.findings if f.station.value == "stack"}
        self.assertEqual(own, {"stack.hub"})
        self.assertEqual(answer.tallies["survey"].unmeasured, 0)

    def test_its_story(self):
        answer = assess(garden_trolley(), ())
        fouls = {f.id for f in answer.findings if f.verdict == Verdict.FOULS}
        self.assertEqual(
            fouls,
            {
                "line.chain_even",
                "line.chain_plane",
                "line.road_speed",
                "line.hub_on_shaft",
                "stack.hub_pressure",
                "clear.pair.2-14",
            },
        )
        self.assertEqual(
            [w.address for w in opened(resolve(garden_trolley()), "line.chain_plane").ways],
            ["driver_plane_mm"],
        )
        ground = finding(answer, "seat.ground")
        self.assertTrue(next(r for r in ground.rules if r.id == "ground_gap_min_mm").overridden)


class Solids(unittest.TestCase):
    def test_a_solid_that_cannot_be_placed_says_so(self):
        less = demo()
        less.solids[3].up = None
        self.assertIn(
            "Alternator cannot be placed yet: middle, up is wanting",
            finding(assess(less, ()), "clear.solid.4").sentence.mm,
        )

    def test_moving_away_from_a_rail_widens_its_gap(self):
        for way in opened(resolve(demo()), "clear.pair.4-21").ways:
            after = finding(assess(demo({way.address: f"{way.target}"}), ()), "clear.pair.4-21")
            self.assertGreater(
                after.margin, finding(assess(demo(), ()), "clear.pair.4-21").margin, way.address
            )

    def test_the_belt_of_the_demo(self):
        answer = assess(demo(), ())
        self.assertEqual(finding(answer, "clear.belt_plane.4").verdict, Verdict.FOULS)
        self.assertEqual(finding(answer, "clear.belt_turn.3").verdict, Verdict.GOES)
        wrong = demo()
        wrong.pulleys[2].side = "back"
        self.assertIn(
            "turns against the crank and must turn as the crank",
            finding(assess(wrong, ()), "clear.belt_turn.3").sentence.mm,
        )

    def test_weak_evidence_closes_no_gap_to_the_steering(self):
        weak = demo()
        steering = next(s for s in weak.solids if s.class_ == "steering" and s.n == 26)
        steering.evidence = steering.evidence.model_copy(update={"source": Source.MEMORY})
        weak = Build.model_validate(weak.model_dump())
        found = next(f for f in assess(weak, ()).findings if f.id.endswith("-26"))
        self.assertEqual(
            (found.verdict, found.missing[0].status), (Verdict.UNMEASURED, "weak evidence")
        )


class Rows(unittest.TestCase):
    def test_every_list_of_the_build_is_described_once(self):
        self.assertEqual(set(LISTS), {k for k in Build.model_fields if k in LISTS})
        for key in LISTS:
            self.assertTrue(COLUMNS[key], key)

    def test_numbers_are_unique(self):
        with self.assertRaisesRegex(ValueError, "number 1 is used twice in mounts"):
            build(mounts=[{"n": 1}, {"n": 1}])

    def test_a_bad_cell_never_stops_the_others(self):
        bad = demo()
        bad.mounts[0].kz = "stiff-ish 3..4"
        q = resolve(bad).quantities
        self.assertEqual(
            (q["mounts.1.kz"].status, q["mounts.2.kz"].status), (Status.BAD_ENTRY, Status.STANDING)
        )
        self.assertEqual(finding(assess(bad, ()), "line.angle.1").verdict, Verdict.GOES)

    def test_both_demos_are_drawn_whole(self):
        for make, line in ((pump_tender, "line.shaft"), (garden_trolley, "line.chain")):
            made = make()
            b = drawn(made)
            views = b["seat.place"].drawings
            self.assertEqual([d.name for d in views], ["Side", "From above", "From behind"])
            self.assertTrue(all(d.shapes for d in (*b[""].drawings, *b[line].drawings)))
            self.assertEqual(len(b["clear.pairs"].scene.solids), len(made.solids))
            unit = sum(s.body != "chassis" for s in made.solids)
            pairs = unit * (len(made.solids) - unit)
            self.assertIn(f"{pairs}", b["clear.pairs"].tables[0].note)
            self.assertFalse(any(board.failed for board in b.values()))
            for handle in views[0].handles:
                self.assertEqual(
                    (handle.address, handle.address_y), ("block_face_back_mm", "crank_height_mm")
                )

    def test_nothing_left_of_the_unknown_pose(self):
        places = {"back": "0", "left": "0", "up": "0"}
        blank = build(solids=[{"n": 1, "a": "10", "b": "10", "c": "10"} | places])
        self.assertEqual(resolve(blank).value("solids.1.a"), 10.0)
        self.assertIn(
            "because the pose is not known: solid 1",
            finding(blank, "clear.unplaced.pose").sentence.mm,
        )
        self.assertEqual(statement("1")["id"], "s1")
