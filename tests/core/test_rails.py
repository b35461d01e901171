"""What marks of the bay give to other things: solids, rails, bosses, mounts, through the road."""

import unittest

import numpy as np

from pindo.core.acts import Renumber
from pindo.core.assessment import assess
from pindo.core.document.evidence import Source
from pindo.core.geometry.bay import bay, mark_at
from pindo.core.geometry.solids import half_extent, place, placed_on, pose_of
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.clear.gaps import gap, straight_of
from pindo.core.stations.clear.states import pair_states
from tests.core.test_bay import TRUE, marks, tapes
from tests.support import build, drawn, entered, finding, said

POSE = said(
    block_face_back_mm="600",
    crank_side_mm="0",
    crank_height_mm="300",
    roll_deg="0",
    inclination_deg="3",
    yaw_deg="0",
    separator_mm="0",
    plate_mm="10",
)
SURE = {"source": "drawing", "pm": "0"}
ENGINE = {"n": 9, "back": "-200", "left": "0", "up": "0", "a": "500", "b": "400", "c": "300"}


def solid(n=1, shape="box", **more):
    return {"n": n, "body": "chassis", "shape": shape, "evidence": SURE, **more}


def of_marks(*solids, **more):
    return build(
        **{"marks": marks(), "tape": tapes(), "solids": [*solids, ENGINE | {"evidence": SURE}]}
        | {"dims": POSE}
        | more
    )


class SolidsFromMarks(unittest.TestCase):
    def test_two_opposite_corners_are_a_box_with_the_doubt_of_the_tapes(self):
        inputs = resolve(of_marks(solid(marks=[4, 6], marks_are="corners")))
        q = inputs.quantities
        at = [q[f"solids.1.{f}"].value for f in ("back", "left", "up", "a", "b", "c")]
        np.testing.assert_allclose(at, (825, -265, 140, 1350, 230, 760), atol=1.0)
        back = q["solids.1.back"]
        self.assertEqual(back.source, Source.MEASURED)
        self.assertTrue(all(a.startswith("tape.") for a in back.parts))
        # Half of each of two places that hang together: by their covariance.
        found = bay(inputs)
        rows = [3 * found.numbers.index(n) for n in (4, 6)]
        moved = found.sensitivity[rows].sum(axis=0) / 2.0
        self.assertAlmostEqual(back.pm, 2.0 * float(np.linalg.norm(moved)), places=6)

    def test_a_rail_lies_between_its_ends_whatever_its_shape_and_way(self):
        for shape, sizes in (
            ("box", {"b": "60", "c": "80"}),
            ("cylinder", {"a": "40"}),
            ("capsule", {"a": "40"}),
            ("ring", {"a": "40", "b": "30"}),
        ):
            for first, last in ((5, 6), (6, 5), (3, 1), (4, 7)):
                with self.subTest(shape=shape, marks=(first, last)):
                    rail = solid(
                        shape=shape, marks=[first, last], marks_are="ends", axis="across", **sizes
                    )
                    made = of_marks(rail)
                    inputs = resolve(made)
                    placed = place(inputs, made.solids[0], None)
                    ends = [bay(inputs).place(n) * (-1, 1, 1) for n in (first, last)]
                    np.testing.assert_allclose(placed.place, np.mean(ends, axis=0), atol=1e-6)
                    # Seen along its line it reaches to its marks and no further.
                    along = (ends[0] - ends[1]) / np.linalg.norm(ends[0] - ends[1])
                    field = {"box": "a", "ring": "c"}.get(shape, "b")
                    length = inputs.value(f"solids.1.{field}")
                    self.assertAlmostEqual(length, float(np.linalg.norm(ends[0] - ends[1])), 6)
                    self.assertAlmostEqual(half_extent(placed, along)[field], 0.5, 6)

    def test_a_gap_to_a_rail_moves_with_its_tilt_and_counts_its_doubt(self):
        rail = solid(marks=[1, 2], marks_are="ends", b="60", c="80")
        typed = {"back": "900", "left": "400", "up": "0", "a": "1800", "b": "60", "c": "80"}
        tilted = solid(**typed, tilt="2 ± 0.4", turn="-1 ± 0.2")
        for one in (rail, tilted):
            inputs = resolve(of_marks(one))
            (state,) = pair_states(inputs)
            line = straight_of(inputs, state, pose_of(inputs)[:3, :3])
            read = {a: inputs.value(a) for a, _, _ in line.at}
            self.assertAlmostEqual(gap(read, line), state.pair.distance)
            # The doubt of the whole is that of its straight parts, source by source.
            total = sum((slope * inputs.quantities[a].u) ** 2 for a, _, slope in line.at)
            self.assertAlmostEqual(state.u**2, total, delta=0.02 * total + 1e-9)
            names = {a for a, _, _ in line.at}
            self.assertTrue({"solids.1.tilt", "solids.1.turn"} <= names)
        (state,) = pair_states(resolve(of_marks(tilted)))
        line = straight_of(resolve(of_marks(tilted)), state, pose_of(inputs)[:3, :3])
        slopes = {a: slope for a, _, slope in line.at}
        for field in ("tilt", "turn"):
            gaps = []
            for step in (0.05, -0.05):
                at = float(tilted[field].partition(" ")[0]) + step
                (moved,) = pair_states(resolve(of_marks(tilted | {field: str(at)})))
                gaps.append(moved.pair.distance)
            found = (gaps[0] - gaps[1]) / 0.1
            delta = 0.03 * abs(found) + 0.01
            self.assertAlmostEqual(slopes[f"solids.1.{field}"], found, delta=delta)

    def test_a_rail_by_three_marks_lies_between_its_ends_and_is_no_better_than_the_worst(self):
        rail = solid(marks=[1, 7, 2], marks_are="ends", b="60", c="80")
        guessed = tapes()
        for row in guessed:
            if 2 in (row["a"], row["b"]):
                row["evidence"] = {"source": "guess", "pm": "2"}
        q = resolve(of_marks(rail, tape=guessed)).quantities
        at = [q[f"solids.1.{f}"].value for f in ("back", "left", "up")]
        np.testing.assert_allclose(at, (900.0, 400.0, 0.0), atol=1.0)
        self.assertEqual(q["solids.1.back"].source, Source.GUESS)

    def test_what_gives_no_place_is_said_and_nothing_is_placed(self):
        cases = (
            (solid(marks=[4, 99], marks_are="corners"), {}, "there is no mark 99"),
            (solid(marks=[4], marks_are="ends"), {}, "two marks at its ends"),
            (solid(marks=[4, 6]), {}, "one mark is its middle"),
            (solid(marks=[1, 2], marks_are="corners"), {}, "all on one side along this"),
            (solid(marks=[4]) | {"body": "engine"}, {}, "a solid of the unit has none"),
            (solid(marks=[4]), {"tape": []}, "mark 4 has no place yet"),
        )
        for one, more, words in cases:
            with self.subTest(words):
                made = of_marks(one, **more)
                found = finding(made, "survey.solid.marks.1")
                self.assertEqual(found.verdict, Verdict.UNMEASURED)
                self.assertIn(words, found.sentence.mm)
                body = one["body"]
                self.assertNotIn(1, [p.solid.n for p in placed_on(resolve(made), body)])


class Rails(unittest.TestCase):
    def test_a_mark_off_the_line_of_its_rail_is_told(self):
        line = {1: (0.0, 400.0, 0.0), 2: (1800.0, 400.0, 0.0)}
        self.assertEqual({n: TRUE[n] for n in line}, line)
        rail = solid(marks=[1, 7, 2], marks_are="ends", b="60", c="80")
        found = finding(of_marks(rail), "survey.straight.1.7")
        self.assertEqual(found.verdict, Verdict.FOULS)
        self.assertAlmostEqual(found.value, float(np.hypot(380.0, 880.0)), delta=1.0)
        self.assertEqual(found.low, None)
        (drawing, *_) = drawn(of_marks(rail))["survey.bay"].drawings
        (drawn_rail,) = [s for s in drawing.shapes if s.style == "rail"]
        np.testing.assert_allclose(drawn_rail.points, ((0, 0), (1800, 0)), atol=0.6)

    def test_bosses_say_what_they_offer_and_which_are_free(self):
        boss = {"evidence": {"tool": "vernier depth gauge"}, "mark": 5}
        rows = [
            boss | {"n": 1, "d": "M10x1.5", "depth": "18", "wall": "8", "material": "steel"},
            boss | {"n": 2, "d": "M10", "depth": "12", "wall": "1", "name": "by the box"},
            boss | {"n": 3, "d": "M8", "depth": "20", "hole": "15", "wall": "9", "holds": "loom"},
            boss | {"n": 4, "mark": None, "d": "M8"},
        ]
        made = of_marks(bosses=rows)
        for id, verdict in (
            ("survey.boss.thread.1", Verdict.GOES),
            ("survey.boss.wall.1", Verdict.GOES),
            # Nobody named its metal: the weakest counts.
            ("survey.boss.thread.2", Verdict.FOULS),
            ("survey.boss.wall.2", Verdict.FOULS),
            ("survey.boss.deep.3", Verdict.UNMEASURED),
            ("survey.boss.thread.4", Verdict.UNMEASURED),
            ("survey.boss.mark.4", Verdict.UNMEASURED),
        ):
            self.assertEqual(finding(made, id).verdict, verdict, id)
        self.assertEqual(finding(made, "survey.boss.thread.2").low, 15.0)
        self.assertIn("Boss 2, by the box, has", finding(made, "survey.boss.thread.2").sentence.mm)
        table = next(t for t in drawn(made)["survey.bay"].tables if t.key == "bosses")
        self.assertEqual(table.title, "Bosses: 3 of 4 free")
        self.assertEqual([r.address[-1] for r in table.rows], ["1", "2", "4", "3"])
        np.testing.assert_allclose(table.rows[0].cells[5:8], TRUE[5], atol=0.6)
        self.assertIn("M10", table.rows[0].cells[2])
        self.assertNotIn("survey.boss.deep.1", {f.id for f in assess(made).findings})
        found = bay(resolve(made))
        self.assertAlmostEqual(table.rows[0].cells[8], 2.0 * float(max(found.u(5))), places=6)
        self.assertEqual(table.rows[2].cells[5:], (None,) * 4)
        unheld = next(
            t
            for t in drawn(of_marks(bosses=rows, tape=[]))["survey.bay"].tables
            if t.key == "bosses"
        )
        self.assertEqual({r.cells[5:] for r in unheld.rows}, {(None,) * 4})
        rail = solid(marks=[1, 2], marks_are="ends", b="60", c="80")
        (line,) = next(
            t for t in drawn(of_marks(rail))["survey.bay"].tables if t.key == "rails"
        ).rows
        np.testing.assert_allclose(line.cells[2:], (1800.0, 0.0, 0.0), atol=0.6)


class Mounts(unittest.TestCase):
    def meets(self, slot=None, body="engine", back="-300", mark=5):
        # Level, the block face 600 mm behind the axle: mark 5 lies 100 mm behind it.
        dims = POSE | said(inclination_deg="0")
        mount = {"n": 1, "body": body, "back": back, "left": "300", "up": "0", "mark": mark}
        mount |= {"evidence": SURE} | ({"slot": slot} if slot else {})
        return finding(of_marks(mounts=[mount], dims=dims), "seat.meets.1")

    def test_a_mount_is_held_against_its_mark_with_hole_and_slot(self):
        near = self.meets(back="100")
        # Within what the hole gives, but not sure of it: tapes do not know better.
        self.assertEqual(near.verdict, Verdict.TIGHT)
        self.assertLess(near.value, 1.0)
        # Of the gearbox: the plate takes it 10 mm back, past the hole; a slot reaches it.
        away = self.meets(back="100", body="gearbox")
        self.assertEqual(away.verdict, Verdict.FOULS)
        self.assertAlmostEqual(away.value, 10.0, delta=0.6)
        self.assertEqual(self.meets(slot="24", back="100", body="gearbox").verdict, Verdict.GOES)
        self.assertEqual(self.meets(back="100", mark=99).verdict, Verdict.UNMEASURED)
        board = drawn(
            of_marks(
                dims=POSE | said(inclination_deg="0"),
                mounts=[
                    {"n": 1, "back": "100", "left": "310", "up": "-20", "mark": 5, "evidence": SURE}
                ],
            )
        )["seat.mounts"]
        (row,) = board.tables[0].rows
        np.testing.assert_allclose(row.cells[2:], (0.0, 10.0, -330.0), atol=0.6)

    def test_points_of_the_pose_read_the_same_place(self):
        inputs = resolve(of_marks())
        for n, true in TRUE.items():
            got = [inputs.value(mark_at(n, f)) for f in ("at_back", "at_left", "at_up")]
            np.testing.assert_allclose(got, true, atol=0.6)

    def test_another_number_for_a_mark_is_followed_by_all_that_names_it(self):
        rail = solid(marks=[5, 7], marks_are="ends", b="60", c="80")
        mount = {"n": 1, "back": "100", "left": "300", "up": "0", "mark": 5, "evidence": SURE}
        point = {"n": 1, "mark": 5}
        boss = {"n": 1, "mark": 5}
        before = of_marks(rail, mounts=[mount], pose_points=[point], bosses=[boss])
        after = entered(before, Renumber(list="marks", row=5, to=50))
        self.assertEqual(after.solids[0].marks, [50, 7])
        self.assertEqual((after.mounts[0].mark, after.pose_points[0].mark), (50, 50))
        self.assertEqual(after.bosses[0].mark, 50)
        self.assertFalse(any(5 in (t.a, t.b) for t in after.tape))
        np.testing.assert_allclose(
            bay(resolve(after)).place(50), bay(resolve(before)).place(5), atol=1e-6
        )
