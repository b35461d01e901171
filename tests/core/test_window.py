"""The window of thicknesses: from what is typed to what goes, what closes it and what opens it."""

import unittest
from itertools import pairwise

import numpy as np

from pindo.core.assessment import assess
from pindo.core.geometry.stacking import stack_to
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.stack_up import drawn_sums, stack_up
from pindo.core.judging.uncertainty import outcome
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.stack.pieces import CHOSEN, along, made_u, pieces, straight
from pindo.core.stations.stack.thicknesses import GRID, candidates, rooms, shim_words
from pindo.core.stations.stack.window_of import (
    PLATE,
    SHIM,
    SPACER,
    alone,
    bounds_of,
    doubt,
    openings,
    window,
)
from pindo.core.stations.stack.window_view import bounding, named
from pindo.demo import dune_car
from tests.core.test_stack import DIMS as HAND
from tests.core.test_stack import OPTIONS
from tests.support import build, demo, drawn, finding, said, statement

DIMS = HAND | {"shaft_tip_out_mm": "32"}
"""The stack that is added up by hand, its nose well in its bearing."""
ADJUSTABLE = {"release_type": "stands off, adjustable"}
KINDS = (
    {},
    ADJUSTABLE,
    {"release_type": "rides on the fingers"},
    {"plate_at": "bell and gearbox"},
    {"discs": "two"},
    {"starter_side": "on the gearbox' side of the ring", "starter_on": "housing"},
)


def stack(options=None, rows=None, **changes):
    dims = said(**{k: v for k, v in (DIMS | changes).items() if v is not None})
    return build(dims, options=OPTIONS | (options or {}), **(rows or {}))


def read(of, key):
    return next(t for t in drawn(of)["stack.window"].tables if t.key == key)


class Pieces(unittest.TestCase):
    def test_every_check_is_the_least_of_its_straight_pieces(self):
        """Over random stacks of every kind: the pieces' least margin is the check's own, and each
        moves straight with plate, spacer and shim.
        """
        rng = np.random.default_rng(3)
        for options in KINDS:
            for _ in range(12):
                shift = {k: f"{float(v) + rng.uniform(-6, 6):.2f}" for k, v in DIMS.items()}
                shift |= {"disc_wear_mm": "2", "lever_ratio": "1.5"}
                shift |= {"hub2_front_mm": f"{rng.uniform(20, 40):.2f}", "hub2_mm": "26"}
                inputs = resolve(stack(options, **shift))
                for check in along(inputs):
                    values = inputs.known(check.addresses)
                    if values is None:
                        continue
                    own = outcome(check, inputs, values).margin
                    parts = [outcome(p, inputs, values).margin for p in straight(check)]
                    self.assertAlmostEqual(own, min(parts), msg=check.id)

    def test_a_piece_is_its_slope_and_its_room(self):
        inputs = resolve(stack())
        at = np.array([inputs.value(a) for a in CHOSEN])
        for p in pieces(inputs).known:
            values = inputs.known(p.check.addresses)
            self.assertAlmostEqual(
                float(p.slope @ at) + p.room,
                outcome(p.check, inputs, values).margin,
                msg=p.check.id,
            )


class Window(unittest.TestCase):
    def test_the_plate_alone_ends_where_the_sums_say(self):
        """Nothing has a doubt but plate and spacer, both made to 0.1 mm. The bearing stands off by
        p + 2 + 69 - 85, which wants 3.5: p >= 17.5; the stroke of 16 has 1.1 (p - 14 + 8):
        p <= 20.545; root of squares of the two comes off.
        """
        found = window(resolve(stack()))
        only = alone(found, 0, 10.0)
        made = 0.1 * 2**0.5
        self.assertAlmostEqual(only.low, 17.5 + made, delta=2e-3)
        self.assertAlmostEqual(only.high, 14 + 16 / 1.1 - 8 - made, delta=2e-3)
        ends = [found.edges[i].title for i in (only.low_by, only.high_by)]
        self.assertEqual(ends, ["Release gap", "Release stroke"])

    def test_inside_beside_and_at_the_edge(self):
        """The verdict is that of the worst check where it stands, and the sentence names the
        stretch that goes.
        """
        for plate, verdict in (("18", "goes"), ("17.4", "fouls"), ("25", "fouls")):
            answer = finding(stack(plate_mm=plate), "stack.window")
            self.assertEqual(answer.verdict.value, verdict, answer.sentence)
            self.assertIn("with that spacer a plate of 17.64 mm to 20.40 mm", answer.sentence.mm)
        rough = said(**DIMS) | {"plate_mm": {"statements": [statement("17.5", pm="0.3")]}}
        doubtful = finding(build(rough, options=OPTIONS), "stack.window")
        self.assertEqual(doubtful.verdict, Verdict.TIGHT)

    def test_nothing_chosen_is_unmeasured_and_names_the_middle(self):
        answer = finding(stack(plate_mm=None), "stack.window")
        self.assertEqual(answer.verdict, Verdict.UNMEASURED)
        self.assertIn("stand in its middle", answer.sentence.mm)

    def test_what_is_not_measured_keeps_it_open(self):
        answer = finding(stack(guide_tube_mm=None), "stack.window")
        self.assertEqual(answer.verdict, Verdict.UNMEASURED)
        self.assertEqual([m.address for m in answer.missing], ["guide_tube_mm"])
        self.assertIn("not yet in it: hub to guide tube", answer.sentence.mm)
        # What fouls already is told as such, whatever else is not known.
        fouled = finding(stack(guide_tube_mm=None, plate_mm="12"), "stack.window")
        self.assertEqual(fouled.verdict, Verdict.FOULS)

    def test_doubt_draws_every_edge_in(self):
        wide = window(resolve(stack()))
        dims = said(**DIMS) | {"release_parked_mm": {"statements": [statement("71", pm="0.4")]}}
        narrow = window(resolve(build(dims, options=OPTIONS)))
        for axis, other in ((0, 10.0), (1, 18.0)):
            a, b = alone(wide, axis, other), alone(narrow, axis, other)
            self.assertLess(a.low, b.low + 1e-9)
            self.assertGreater(a.high, b.high - 1e-9)
        # Root of squares of 0.4 and the plate's 0.1, at two standard uncertainties.
        self.assertAlmostEqual(
            alone(narrow, 0, 10.0).low, 17.5 + np.sqrt(0.4**2 + 0.02), delta=1e-3
        )

    def test_the_middle_leaves_most_and_takes_the_thinner_on_a_tie(self):
        found = window(resolve(stack()))
        at, room = found.middle.at, found.middle.room
        p, s = np.meshgrid(np.arange(0, 60, 0.25), np.arange(0, 60, 0.25))
        grid = found.slope[:, 0, None, None] * p + found.slope[:, 1, None, None] * s
        least = (grid + found.room[:, None, None])[found.counts].min(0)
        self.assertLessEqual(least.max(), room + 1e-6)
        self.assertGreater(least.max(), room - 0.3)
        here = found.slope @ at + found.room
        self.assertAlmostEqual(here[found.counts].min(), room)


class Closed(unittest.TestCase):
    def test_it_names_the_fewest_that_conflict_and_what_opens_it(self):
        shut = stack(slave_stroke_mm="11")
        answer = finding(shut, "stack.window")
        self.assertEqual(answer.verdict, Verdict.FOULS)
        # The gap of a worn disc wants 3.5, the stroke leaves 11 / 1.1 - 8 = 2, each less its doubt
        # of 0.141: 1.783 short, shared as 1 to 1.1 of it, (1.5 + 0.283) 1.1 / 2.1.
        self.assertIn("let release gap and release stroke go together", answer.sentence.mm)
        self.assertIn("each lacks 0.93 mm", answer.sentence.mm)
        found = window(resolve(shut))
        self.assertTrue(found.polygon.empty and found.sure)
        self.assertEqual(len(found.closed_by), 2)
        ways = {o.address: o.change for o in openings(resolve(shut), found)}
        # 1.1 (3.5 + 8) = 12.65 of stroke; the doubt of a plate as made is in both.
        self.assertAlmostEqual(ways["slave_stroke_mm"], 1.65 + 2.2 * 0.1 * 2**0.5, delta=0.01)
        for address, change in ways.items():
            value = str(float(DIMS.get(address, "0")) + change + np.sign(change) * 1e-3)
            if address == "slave_stroke_mm":
                value = str(11 + change + 1e-3)
            opened = window(resolve(stack(**{"slave_stroke_mm": "11", address: value})))
            self.assertFalse(opened.polygon.empty, address)

    def test_doubt_alone_closes_it_as_tight(self):
        dims = said(**(DIMS | {"slave_stroke_mm": "13"})) | {
            "release_parked_mm": {"statements": [statement("71", pm="1")]}
        }
        found = finding(build(dims, options=OPTIONS), "stack.window")
        self.assertIn("with their doubt each lacks", found.sentence.mm)
        self.assertEqual(found.verdict, Verdict.TIGHT)

    def test_what_no_thickness_helps_names_the_part(self):
        answer = finding(stack(nose_mm="10"), "stack.window.part")
        self.assertEqual(answer.verdict, Verdict.FOULS)
        self.assertIn("nose in the pilot bearing", answer.sentence.mm)

    def test_another_shim_is_told(self):
        """Worked out with the shim that is fitted; a shim of its own opens a wider window."""
        thick = stack(release_shim_mm="12")
        found = window(resolve(thick))
        self.assertTrue(found.polygon.empty)
        self.assertFalse(found.free.empty)
        self.assertIn("with another shim some do", finding(thick, "stack.window").sentence.mm)
        none = stack(release_shim_mm=None)
        self.assertIsNone(window(resolve(none)).shim)
        self.assertEqual(finding(none, "stack.window").verdict, Verdict.UNMEASURED)
        self.assertFalse(drawn(none)["stack.window"].failed)


class Had(unittest.TestCase):
    SHEETS = (
        {"n": 1, "name": "twenty", "thick": "20", "price": "40"},
        {"n": 2, "name": "thick", "thick": "30", "wait": "5"},
        {"n": 3, "name": "thin", "thick": "12"},
    )
    SHIMS = (
        {"n": 1, "use": "shim under the slave", "thick": "1", "pieces": "3"},
        {"n": 2, "use": "crank spacer", "name": "ring", "thick": "12"},
    )

    def ranked(self, **changes):
        of = stack(rows={"sheets": list(self.SHEETS), "spacers": list(self.SHIMS)}, **changes)
        inputs = resolve(of)
        found = window(inputs)
        return inputs, found, candidates(inputs, found)

    def test_as_it_comes_and_milled_are_ranked_by_the_room_they_leave(self):
        _, _, ranked = self.ranked()
        self.assertEqual(
            [c.room for c in ranked if c.goes],
            sorted((c.room for c in ranked if c.goes), reverse=True),
        )
        names = {(c.blank.called, c.milled) for c in ranked if c.goes}
        self.assertIn(("twenty", False), names)
        self.assertIn(("thick", True), names)
        self.assertNotIn(("thick", False), names)
        self.assertNotIn(("thin", True), names)

    def test_the_room_of_each_is_what_the_checks_say_of_it(self):
        inputs, _, ranked = self.ranked()
        for c in ranked[:6]:
            planned: Inputs = inputs
            for a, v in zip(CHOSEN, (c.plate, c.ring.thick, c.shim), strict=True):
                planned = planned.with_value(a, v)
            own = [
                outcome(check, planned, planned.known(check.addresses)).margin
                for check in along(planned)
                if planned.known(check.addresses)
                and set(CHOSEN)
                & {s for a in check.addresses for s in planned.quantities[a].wants or (a,)}
            ]
            self.assertTrue(c.room - 1e-9 <= min(own) <= c.most + 1e-9, c)
            self.assertEqual(c.goes, c.verdict == Verdict.GOES)

    def test_shims_are_laid_up_from_what_is_there(self):
        inputs, found, ranked = self.ranked()
        told = {shim_words(inputs, found, c) for c in ranked if c.goes}
        self.assertTrue(told & {"as it is", "none", "1 from the list", "1 + 1 from the list"}, told)
        self.assertEqual(stack_to([1, 1, 2.5], 1.9, 2.1, 2.0), (0, 1))
        self.assertEqual(stack_to([1, 1, 2.5], 2.4, 2.6, 2.5), (2,))
        self.assertEqual(stack_to([1, 1, 2.5], -1, 1, 0), ())
        self.assertIsNone(stack_to([1, 1, 2.5], 5.1, 6.0, 5.5))

    def test_plate_as_rolled_has_the_mills_tolerance(self):
        """Release gap of a plate as it comes: 0.3 of the mill, 0.1 each of spacer and shim."""
        _, _, ranked = self.ranked()
        rolled = next(c for c in ranked if not c.milled and c.finding == "stack.release_gap")
        off = np.sqrt(0.3**2 + 0.1**2 + 0.1**2)
        gap = (2 + rolled.plate + 71 - rolled.shim) - (5 + rolled.ring.thick + 28 + 42)
        self.assertAlmostEqual(rolled.room, gap - 3.5 - off, places=6)

    def test_cores_are_used(self):
        """A core of 18 mm, 130 across, holds the crank's bolts and yields the spacer; one of 100
        does not. Shims that no washer lays up are cut from it too.
        """
        core = {"n": 1, "use": "core or offcut", "name": "core", "thick": "18", "across": "130"}
        for across, turned in (("130", True), ("100", False)):
            rows = {"sheets": list(self.SHEETS), "spacers": [core | {"across": across}]}
            of = stack(rows=rows, crank_pcd_mm="96", crank_spacer_mm="0", release_parked_mm="61")
            inputs = resolve(of)
            found = window(inputs)
            ranked = candidates(inputs, found)
            told = {c.ring.called for c in ranked}
            self.assertEqual("turned from core" in told, turned, told)
            words = {shim_words(inputs, found, c) for c in ranked if c.shim <= 18}
            self.assertFalse({"to be made"} & words)

    def test_no_other_shim_leaves_more_room(self):
        """Each plate with each ring, beside every shim to a tenth."""
        for options in ({}, ADJUSTABLE):
            inputs = resolve(stack(options))
            found = window(inputs)
            known = found.pieces.known
            u = made_u()
            u[PLATE] = 0.1
            slope = np.array([p.slope for p in known])
            base = np.array([p.room for p in known]) - doubt(inputs, known, u)
            plates, thick = np.array([16.0, 18.0, 19.3, 20.0]), np.array([8.0, 10.0])
            limits = bounds_of(SHIM)
            shims = np.arange(limits.low, limits.high + GRID / 2, GRID)
            own = rooms(inputs, found, known, plates, thick, 0.1)
            for i, plate in enumerate(plates):
                for j, ring in enumerate(thick):
                    fixed = base + slope[:, PLATE] * plate + slope[:, SPACER] * ring
                    every = fixed[:, None] + slope[:, SHIM, None] * shims
                    self.assertAlmostEqual(own.room[i, j], every.min(0).max(), delta=2e-6)

    def test_what_the_best_is_cut_from(self):
        rows = {"sheets": list(self.SHEETS), "spacers": list(self.SHIMS)}
        of = stack(rows=rows, crank_pcd_mm="96", crank_register_mm="60")
        told = {r.cells[0]: r.cells for r in read(of, "cut").rows}
        inputs = resolve(of)
        best = candidates(inputs, window(inputs))[0]
        self.assertEqual(told["plate"][1:3], (best.plate, best.blank.called))
        # Bolts on 96 and 13 of metal round them; the crank's register in its middle.
        self.assertEqual(told["crank spacer"][4:], (122.0, 60.0))
        shut = [t.key for t in drawn(stack(slave_stroke_mm="11"))["stack.window"].tables]
        self.assertNotIn("cut", shut)

    def test_a_shim_alone(self):
        """At plate 18 and spacer 10 the gap of 6 less the shim wants 3.5, the stroke 6.545 at most:
        a shim up to 2.5, less its doubt of 0.1 and the plate's.
        """
        rows = {r.cells[0]: r.cells for r in read(stack(), "alone").rows}
        shim = rows["shim under the slave alone"]
        self.assertAlmostEqual(shim[2], 0.0)
        self.assertAlmostEqual(shim[3], 2.5 - 0.1 * 3**0.5, delta=0.01)
        stuck = {r.cells[0]: r.cells for r in read(stack(slave_stroke_mm="11"), "alone").rows}
        self.assertIn("no shim does", stuck["shim under the slave alone"][4])

    def test_the_board_tells_all_of_it(self):
        of = stack(rows={"sheets": list(self.SHEETS), "spacers": list(self.SHIMS)})
        had = read(of, "had")
        self.assertTrue(any("thick" in str(r.cells[1]) and r.cells[9] == 5 for r in had.rows))
        bounds = {r.cells[0]: r for r in read(of, "bounds").rows}
        self.assertEqual(
            bounds["Release gap"].cells[1], "thicker plate, thinner spacer, thinner shim"
        )
        alone_ = read(of, "alone").rows[0]
        self.assertAlmostEqual(alone_.cells[2], 17.64, delta=0.01)
        drawing = drawn(of)["stack.window"].drawings[0]
        (handle,) = drawing.handles
        self.assertEqual((handle.address, handle.address_y), ("plate_mm", "crank_spacer_mm"))
        self.assertEqual((handle.value, handle.value_y), (18.0, 10.0))
        shut = read(stack(slave_stroke_mm="11"), "opens")
        self.assertIn("Slave stroke", [r.cells[0] for r in shut.rows])


class Names(unittest.TestCase):
    def test_each_edge_is_named_once_beside_the_picture_and_led_to(self):
        for of in (stack(), demo(), dune_car()):
            found = window(resolve(of))
            shown = drawn(of)["stack.window"].drawings[0]
            by_name = {}
            for i in bounding(found):
                by_name.setdefault(found.edges[i].title, []).append(i)
            leaders = [s for s in shown.shapes if s.style == "leader"]
            self.assertEqual({s.part for s in leaders}, set(by_name))
            column = max(n.x for n in shown.notes)
            notes = sorted((n for n in shown.notes if n.x == column), key=lambda n: -n.y)
            self.assertLess(column, shown.x_high)
            for leader in leaders:
                at, end = leader.points
                # It begins on a line of that name and ends before the word.
                off = [abs(found.slope[i] @ at + found.room[i]) for i in by_name[leader.part]]
                self.assertLess(min(off), 2e-3)
                self.assertTrue(at[0] < end[0] < column)
            # The lines of the names read down the column, none over another.
            down = sorted({s.part: s.points[1][1] for s in leaders}.items(), key=lambda p: -p[1])
            self.assertEqual(" ".join(n.text for n in notes), " ".join(name for name, _ in down))
            # To scale and no strip: with the axes' names it is at least 0.7 as high as wide.
            across = [p[0] for s in shown.shapes if s.part == "grid" for p in s.points]
            up = [p[1] for s in shown.shapes if s.part == "grid" for p in s.points]
            sides = sorted((max(across) - min(across), max(up) - min(up)))
            self.assertGreaterEqual(sides[0], 0.7 * sides[1] - 1e-3)
            line = (shown.y_high - shown.y_low) / 18.0
            for high, low in pairwise(n.y for n in notes):
                self.assertGreater(high - low, line)
            self.assertTrue(all(shown.y_low <= n.y <= shown.y_high for n in shown.notes))

    def test_names_that_lead_to_one_height_go_down_the_column(self):
        led = {name: [(5.0, 10.0)] for name in ("one", "a name of two lines for its length", "two")}
        _, notes = named(led, (0.0, 10.0, 0.0, 10.0), 18.0)  # a line is 1 mm
        self.assertEqual([n.y for n in notes], [10.0, 9.0, 8.0, 7.0])
        _, notes = named({k: [(5.0, 1.0)] for k in led}, (0.0, 10.0, 0.0, 10.0), 18.0)
        self.assertEqual([n.y for n in notes], [3.0, 2.0, 1.0, 0.0])


class StackUps(unittest.TestCase):
    def test_three_ways_of_one_sum(self):
        parts = {"a": 0.05, "b": -0.1, "c": 0.02}
        three = stack_up(parts, frozenset({"b"}), 200_000)
        self.assertAlmostEqual(three.worst, 0.34)
        self.assertAlmostEqual(three.likely, 2 * np.sqrt(0.05**2 + 0.1**2 + 0.02**2))
        self.assertLess(three.drawn, three.likely)
        one = stack_up({"a": 0.05}, frozenset(), 200_000)
        self.assertAlmostEqual(one.drawn, 1.96 * 0.05, delta=0.001)
        flat = stack_up({"a": 0.05}, frozenset({"a"}), 200_000)
        self.assertAlmostEqual(flat.drawn, 0.95 * np.sqrt(3) * 0.05, delta=0.001)

    def test_sums_have_the_mean_and_spread_that_are_said(self):
        sums = drawn_sums(7.0, {"a": 0.3, "b": 0.4}, frozenset({"a"}), 200_000)
        self.assertAlmostEqual(sums.mean(), 7.0, delta=0.005)
        self.assertAlmostEqual(sums.std(), 0.5, delta=0.005)


class Elsewhere(unittest.TestCase):
    def test_a_millimetre_of_plate_shortens_the_shaft(self):
        table = next(t for t in drawn(demo())["stack.window"].tables if t.key == "elsewhere")
        rows = {r.cells[0]: r.cells[2:] for r in table.rows}
        plate, spacer = rows["Shaft, front piece, joint to joint, ordered length"]
        self.assertAlmostEqual(plate, -1.0, delta=0.02)
        self.assertAlmostEqual(spacer, 0.0)
        self.assertAlmostEqual(rows["Thread engagement in the plate"][0], 1.0)
        self.assertTrue(assess(demo()).findings)


if __name__ == "__main__":
    unittest.main()
