"""Sets of points, through the whole road: traces, scans, readouts and photos join the distances."""

import math
import unittest

import numpy as np

from pindo.core.acts import Add, Cell, Renumber
from pindo.core.assessment import assess
from pindo.core.geometry.hole_network import pattern
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from tests.core.test_holes import REGISTER, TRUE, far, holes
from tests.support import build, entered

CALLIPER = {"tool": "digital calliper"}
FINE = {"source": "measured", "pm": "0.1"}


def seen(n, of=None, turn=20.0, shift=(300.0, -80.0), scale=1.0, front=False, read=None, first=1):
    """The true holes in the axes of a set: turned, shifted, scaled, perhaps seen from the front."""
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    rows = []
    for i, (hole, (u, v)) in enumerate((of or TRUE).items()):
        x, y = scale * (c * u - s * v) + shift[0], scale * (s * u + c * v) + shift[1]
        dx, dy = (read or {}).get(hole, (0.0, 0.0))
        x, y = (-x if front else x) + dx, y + dy
        rows.append(
            {
                "n": first + i,
                "of": n,
                "hole": hole or None,
                "x": f"{x:.3f}",
                "y": f"{y:.3f}",
                "evidence": FINE,
            }
        )
    return rows


def level(n=1):
    """What holds the frame: one reading to the axis, one level."""
    return [
        *(
            {"n": n + i, "a": None, "b": b, "value": f"{far(0, b):.2f}", "evidence": CALLIPER}
            for i, b in enumerate((1, 4, 5))
        ),
        {
            "n": n + 3,
            "a": 1,
            "b": 3,
            "along": "up",
            "value": f"{TRUE[3][1] - TRUE[1][1]:.2f}",
            "evidence": CALLIPER,
        },
    ]


def of_face(points, sets=({"n": 1},), readings=None, said=None, **more):
    lies = {"h2": {"lies": "above"}, "h3": {"lies": "right"}} if said is None else said
    face = {"register_d": str(REGISTER), "holes": holes(**lies)}
    rows = level() if readings is None else readings
    extra = {"readings": rows, "sets": list(sets), "points": points}
    return build(engine_face=face | extra | more)


def places(of):
    q = resolve(of).quantities
    return {n: (q[f"engine.{n}.u"].value, q[f"engine.{n}.v"].value) for n in TRUE}


def said_of(of):
    return {f.id: f for f in assess(of).findings if f.id.startswith("mate.read.engine")}


AXIS = {0: (0.0, 0.0)}


class Placed(unittest.TestCase):
    def check(self, made, atol=0.05):
        for n, place in places(made).items():
            self.assertIsNotNone(place[0], said_of(made))
            np.testing.assert_allclose(place, TRUE[n], atol=atol)

    def test_a_set_with_its_own_shift_and_turn_places_the_holes(self):
        for turn in (0.0, 20.0, 135.0, -100.0):
            with self.subTest(turn):
                self.check(of_face(seen(1, turn=turn)))

    def test_one_seen_from_the_front_is_mirrored(self):
        front = ({"n": 1, "taken_from": "front"},)
        self.check(of_face(seen(1, front=True), front))
        # Said to be seen from behind it contradicts the sides.
        wrong = said_of(of_face(seen(1, front=True)))
        agree = wrong.get("mate.read.engine.agree")
        self.assertTrue(agree is None or agree.verdict != Verdict.GOES)

    def test_it_tells_the_pattern_from_its_mirror_image_by_itself(self):
        made = of_face(seen(1), said={"h3": {"lies": "right"}})
        self.assertNotIn("mate.read.engine.mirror", said_of(made))
        self.check(made)

    def test_a_scale_of_its_own_takes_one_distance(self):
        photo = ({"n": 1, "scale": "its own"},)
        rows = [*level(), {"n": 9, "a": 2, "b": 5, "value": f"{far(2, 5):.2f}"}]
        self.check(of_face(seen(1, scale=3.7), photo, rows))
        without = said_of(of_face(seen(1, scale=3.7), photo))
        self.assertIn("wants one distance", without["mate.read.engine.lost"].sentence.mm)

    def test_the_axis_may_be_among_its_points(self):
        rows = [r for r in level() if r["a"] is not None]
        self.check(of_face(seen(1, AXIS | TRUE), readings=rows))

    def test_an_axis_that_two_distances_reach_lies_at_two_places(self):
        two = [r for r in level() if r["b"] != 5]
        told = said_of(of_face(seen(1), readings=two))["mate.read.engine.twin.0"]
        self.assertEqual(told.verdict, Verdict.UNMEASURED)
        self.assertIn("The axis fits at two places; the distance the axis to E", told.sentence.mm)
        self.assertEqual(set(places(of_face(seen(1), readings=two)).values()), {(None, None)})

    def test_one_reading_across_fits_two_directions(self):
        across = f"{TRUE[3][0] - TRUE[1][0]:.2f}"
        rows = [r | {"along": "across", "value": across} if "along" in r else r for r in level()]
        told = said_of(of_face(seen(1), readings=rows))["mate.read.engine.turned"]
        # A quarter turn less the slope of E1 to E3, twice.
        slope = math.degrees(math.atan2(TRUE[3][1] - TRUE[1][1], TRUE[3][0] - TRUE[1][0]))
        self.assertIn(f"turned by {2 * slope:.1f}°", told.sentence.mm)
        self.assertEqual(set(places(of_face(seen(1), readings=rows)).values()), {(None, None)})

    def test_two_sets_that_share_holes_reach_each_other(self):
        near = {n: TRUE[n] for n in (1, 2, 3, 4)}
        far_side = {n: TRUE[n] for n in (3, 4, 5, 6)}
        points = [
            *seen(1, near),
            *seen(2, far_side, turn=-65.0, shift=(-40.0, 900.0), first=20),
        ]
        self.check(of_face(points, ({"n": 1}, {"n": 2})), 0.1)


class Doubt(unittest.TestCase):
    def test_the_places_carry_what_the_set_is_good_for(self):
        made = of_face(seen(1))
        q = resolve(made).quantities["engine.5.u"]
        self.assertTrue(any("point" in a for a in q.parts))
        self.assertFalse([a for a in q.parts if "scale" in a])
        loud = [p | {"evidence": FINE | {"pm": "0.8"}} for p in seen(1)]
        self.assertGreater(resolve(of_face(loud)).quantities["engine.5.u"].pm, 3 * q.pm)

    def test_the_ellipses_hold_the_truth_about_as_often_as_they_say(self):
        rng, inside, count = np.random.default_rng(8), 0, 0
        for _ in range(60):
            read = {n: rng.normal(0, 0.05, 2) for n in TRUE}
            made = of_face(seen(1, read=read))
            found = pattern(resolve(made), "engine")
            for n in (2, 5, 6):
                at = found.numbers.index(n)
                off = found.answer.places[at] - TRUE[n]
                inside += off @ np.linalg.solve(found.answer.place_covariance(at), off) < 5.991
                count += 1
        self.assertGreater(inside / count, 0.88)

    def test_a_misread_point_is_named_with_what_the_rest_expects(self):
        rows = [
            *level(),
            *(
                {"n": 20 + i, "a": a, "b": b, "value": f"{far(a, b):.2f}"}
                for i, (a, b) in enumerate(((1, 2), (2, 3), (3, 4), (4, 5), (5, 6), (6, 1)))
            ),
        ]
        rows = [r | {"evidence": CALLIPER} for r in rows]
        told = said_of(of_face(seen(1, read={5: (6.0, 0.0)}), readings=rows))
        (id,) = [i for i in told if "point5.x" in i]
        self.assertIn("E5 in set 1, right was read", told[id].sentence.mm.replace("e5", "E5"))
        self.assertIn("6.0", told[id].sentence.mm)


class Typed(unittest.TestCase):
    def test_acts_put_sets_and_points_and_a_renumbered_hole_is_followed(self):
        made = of_face(seen(1))
        made = entered(
            made,
            Add(list="engine_face.sets", row={"name": "readout"}),
            Add(list="engine_face.points", row={"of": 2, "hole": 1}),
            Cell(list="engine_face.points", row=7, field="x", typed="12.5", tool=None),
            Renumber(list="engine_face.holes", row=1, to=11),
            Renumber(list="engine_face.sets", row=2, to=5),
        )
        point = made.engine_face.points[-1]
        self.assertEqual((point.of, point.hole, point.x), (5, 11, "12.5"))
        self.assertEqual(made.engine_face.points[0].hole, 11)

    def test_points_that_say_nothing_are_told(self):
        lonely = [{"n": 40, "of": 9, "hole": 1, "x": "1", "y": "2"}]
        told = said_of(of_face([*seen(1), *lonely]))["mate.read.engine.lost"]
        self.assertIn("Point 40 of the engine", told.sentence.mm)
        self.assertEqual(told.row, "engine.point40")

    def test_a_bad_figure_is_asked_about_and_no_place_is_made_of_it(self):
        rows = seen(1)
        rows[0]["x"] = "twelve"
        self.assertEqual(resolve(of_face(rows)).quantities["engine.point1.x"].value, None)
        self.assertIn("mate.read.engine.lost", said_of(of_face(rows)))


if __name__ == "__main__":
    unittest.main()
