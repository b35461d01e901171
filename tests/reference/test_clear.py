"""Distances and belt against numeric optimisation and general geometry.

[1] scipy.optimize.minimize (SLSQP): the two nearest points of two convex bodies, from their
inequalities alone. [2] shapely: hull of circles; a belt whose pulleys all touch it inside is the
hull's rim. [3] Closed forms: spheres, capsules, boxes in line.
"""

import unittest

import numpy as np
import shapely
from scipy.optimize import minimize
from scipy.spatial.transform import Rotation

from pindo.core.assessment import assess
from pindo.core.document.rows import Solid
from pindo.core.geometry import belt
from pindo.core.geometry.movement import movement_at
from pindo.core.geometry.solids import Placed, distances, half_extent, placed_solids, pose_of
from pindo.core.inputs.resolve import resolve
from pindo.core.stations.clear.gaps import gap, straight_of
from pindo.core.stations.clear.states import class_rule, pair_states
from tests.support import demo, drawn, finding


class Drawn(unittest.TestCase):
    """A generator of its own for each test: what one draws moves no other."""

    def setUp(self):
        self.rng = np.random.default_rng(51)


def distance(a, b):
    return distances([a], [b])[0]


def solid(shape, sizes, place, turn=None):
    turn = np.eye(3) if turn is None else turn
    return Placed(Solid(n=1, shape=shape), turn, np.array(place, float), tuple(sizes), turn)


def inside(p, x):
    """Inequalities (all >= 0 inside) of a body at a point of the vehicle, in mm."""
    local = p.turn.T @ (x - p.place)
    a = p.sizes
    if p.solid.shape == "box":
        return np.concatenate([np.array(a) / 2 - local, np.array(a) / 2 + local])
    if p.solid.shape == "sphere":
        return np.array([a[0] / 2 - np.linalg.norm(local)])
    if p.solid.shape == "cylinder":
        return np.array([a[0] / 2 - np.hypot(*local[:2]), a[1] / 2 - local[2], a[1] / 2 + local[2]])
    if p.solid.shape == "cone":
        return np.array(
            [
                a[0] / 2 * (0.5 - local[2] / a[1]) - np.hypot(*local[:2]),
                local[2] + a[1] / 2,
                a[1] / 2 - local[2],
            ]
        )
    along = np.clip(local[2], -(a[1] - a[0]) / 2, (a[1] - a[0]) / 2)
    return np.array([a[0] / 2 - np.linalg.norm(local - [0, 0, along])])


def nearest(a, b, rng):
    """[1]"""
    best = np.inf
    middle = np.concatenate([a.place, b.place])
    for start in (middle, *(middle + rng.normal(0, 8, 6) for _ in range(3))):
        found = minimize(
            lambda v: np.sum((v[:3] - v[3:]) ** 2) / 1e4,
            start,
            method="SLSQP",
            options={"maxiter": 600, "ftol": 1e-14},
            constraints=[
                {"type": "ineq", "fun": lambda v: inside(a, v[:3]) / 100},
                {"type": "ineq", "fun": lambda v: inside(b, v[3:]) / 100},
            ],
        )
        # At a cone's tip the inequalities have no slope and the solver gives up there: any point
        # inside both bodies counts.
        if min(inside(a, found.x[:3]).min(), inside(b, found.x[3:]).min()) > -1e-3:
            best = min(best, float(np.linalg.norm(found.x[:3] - found.x[3:])))
    return best


SIZES = {
    "box": (3, 60, 300),
    "cylinder": (2, 60, 300),
    "cone": (2, 60, 300),
    "sphere": (1, 40, 200),
}


def some(shape, place, rng):
    if shape == "capsule":
        d = rng.uniform(20, 80)
        sizes = (d, d + rng.uniform(50, 300))
    else:
        count, low, high = SIZES[shape]
        sizes = tuple(rng.uniform(low, high, count))
    return solid(shape, sizes, place, Rotation.random(rng=rng).as_matrix())


SUPPORT = {
    "box": lambda n, a, b, c: (a * abs(n[0]) + b * abs(n[1]) + c * abs(n[2])) / 2,
    "sphere": lambda n, a: a / 2,
    "cylinder": lambda n, a, b: a / 2 * np.hypot(n[0], n[1]) + b / 2 * abs(n[2]),
    "capsule": lambda n, a, b: a / 2 + b / 2 * abs(n[2]),
    "ring": lambda n, a, b, c: a / 2 * np.hypot(n[0], n[1]) + c / 2 * abs(n[2]),
}
"""How far a convex body reaches along a direction (its support function [3]), from its sizes."""


class SharesOfSizes(unittest.TestCase):
    def test_a_size_moves_the_surface_as_the_support_function_says(self):
        sizes = {
            "box": (40, 60, 90),
            "sphere": (50,),
            "cylinder": (40, 120),
            "capsule": (40, 120),
            "ring": (90, 60, 20),
        }
        for shape, support in SUPPORT.items():
            turn = Rotation.random(random_state=3).as_matrix()
            directions = np.stack(
                [v / np.linalg.norm(v) for v in np.random.default_rng(4).normal(size=(20, 3))]
            )
            shares = half_extent(solid(shape, sizes[shape], (0, 0, 0), turn), directions)
            for k, field in enumerate("abc"[: len(sizes[shape])]):
                if shape == "ring" and field == "b":
                    continue  # its bore: what bounds it is the whole of it
                more = tuple(s + (i == k) for i, s in enumerate(sizes[shape]))
                moved = [
                    support(turn.T @ n, *more) - support(turn.T @ n, *sizes[shape])
                    for n in directions
                ]
                np.testing.assert_allclose(
                    shares[field], moved, atol=1e-9, err_msg=f"{shape} {field}"
                )


class Distances(Drawn):
    def test_every_kind_against_numeric_optimisation(self):
        kinds = ("box", "cylinder", "capsule", "cone", "sphere")
        for kind in kinds:
            for other in kinds:
                a, b = (
                    some(kind, self.rng.uniform(-50, 50, 3), self.rng),
                    some(other, np.array([700.0, 0, 0]) + self.rng.uniform(-200, 200, 3), self.rng),
                )
                found = distance(a, b)
                self.assertAlmostEqual(
                    found.distance, nearest(a, b, self.rng), delta=0.02, msg=f"{kind} {other}"
                )
                # The two points lie on the bodies and are as far apart as the distance says.
                self.assertAlmostEqual(
                    np.linalg.norm(found.on_chassis - found.on_engine), found.distance, delta=1e-3
                )
                for body, point in ((a, found.on_engine), (b, found.on_chassis)):
                    self.assertGreater(inside(body, point).min(), -0.01)

    def test_closed_forms(self):
        """[3]"""
        self.assertAlmostEqual(
            distance(
                solid("sphere", (40,), (0, 0, 0)), solid("sphere", (60,), (200, 0, 0))
            ).distance,
            150.0,
            places=6,
        )
        self.assertAlmostEqual(
            distance(
                solid("box", (100, 80, 60), (0, 0, 0)), solid("box", (40, 40, 40), (0, 90, 0))
            ).distance,
            30.0,
            places=6,
        )
        overlap = distance(
            solid("box", (100, 100, 100), (0, 0, 0)), solid("box", (100, 100, 100), (80, 0, 0))
        )
        self.assertAlmostEqual(overlap.distance, -20.0, places=4)
        np.testing.assert_allclose(np.abs(overlap.apart), (1, 0, 0), atol=1e-6)

    def test_one_wholly_inside_another_is_signed_too(self):
        """A 20 mm ball in the middle of a 100 mm box must move 60 mm to be out."""
        found = distance(
            solid("sphere", (20,), (0, 0, 0)), solid("box", (100, 200, 200), (0, 0, 0))
        )
        self.assertAlmostEqual(found.distance, -60.0, delta=0.01)

    def test_rigid_motion_leaves_distances(self):
        a, b = some("box", (0, 0, 0), self.rng), some("cylinder", (500, 60, -40), self.rng)
        turn, shift = Rotation.random(rng=self.rng), self.rng.uniform(-500, 500, 3)
        moved = [
            solid(p.solid.shape, p.sizes, turn.apply(p.place) + shift, turn.as_matrix() @ p.turn)
            for p in (a, b)
        ]
        self.assertAlmostEqual(distance(a, b).distance, distance(*moved).distance, places=4)


class BodiesWithAHole(Drawn):
    """A ring and a panel with a hole against closed forms: never wider than the truth, and
    nearer by 0.3 % of the radius at most.
    """

    def close(self, found, truth, radius):
        self.assertLessEqual(found, truth + 1e-6)
        self.assertGreater(found, truth - 0.003 * radius)

    def test_a_fan_in_its_shroud(self):
        ring = solid("ring", (560.0, 500.0, 80.0), (0, 0, 0))
        for off in (0.0, 12.0):
            fan = solid("cylinder", (430.0, 50.0), (off, 0, 10))
            self.close(distance(fan, ring).distance, 35.0 - off, 250.0)
        self.close(distance(solid("sphere", (40.0,), (0, 0, 0)), ring).distance, 230.0, 250.0)

    def test_a_ring_from_outside_and_through_its_wall(self):
        ring = solid("ring", (560.0, 500.0, 80.0), (0, 0, 0))
        outside = distance(solid("sphere", (40.0,), (400.0, 0, 0)), ring).distance
        self.assertAlmostEqual(outside, 100.0, delta=0.7)
        self.assertLess(distance(solid("sphere", (40.0,), (262.0, 0, 0)), ring).distance, 0.0)
        above = distance(solid("box", (30.0, 30.0, 30.0), (265.0, 0, 100.0)), ring).distance
        self.assertAlmostEqual(above, 45.0, delta=0.01)

    def test_a_tube_through_a_panel(self):
        panel = solid("panel with hole", (600.0, 400.0, 4.0, 120.0), (0, 0, 0))
        for x in (0.0, 20.0):
            self.close(
                distance(solid("cylinder", (60.0, 300.0), (x, 0, 0)), panel).distance,
                30.0 - x,
                60.0,
            )
        self.assertLess(
            distance(solid("cylinder", (60.0, 300.0), (150.0, 0, 0)), panel).distance, 0.0
        )

    def test_any_way_round(self):
        turn, shift = Rotation.random(rng=self.rng), np.array([300.0, -40.0, 90.0])
        for shape, sizes in (
            ("ring", (560.0, 500.0, 80.0)),
            ("panel with hole", (600.0, 400.0, 4.0, 120.0)),
        ):
            ball = np.array([12.0, -9.0, 3.0])
            still = distance(
                solid("sphere", (30.0,), ball), solid(shape, sizes, (0, 0, 0))
            ).distance
            moved = distance(
                solid("sphere", (30.0,), turn.apply(ball) + shift),
                solid(shape, sizes, shift, turn.as_matrix()),
            ).distance
            self.assertAlmostEqual(still, moved, places=4)


class ThePairs(unittest.TestCase):
    def test_the_straight_line_is_the_slope_of_the_distance(self):
        """Each slope of a tight pair against the distance computed anew after a small change of
        that input.
        """
        inputs = resolve(demo())
        matrix = pose_of(inputs)
        for state in pair_states(inputs)[:8]:
            line = straight_of(inputs, state, matrix)
            for address, value, slope in line.at:
                if address.startswith("solids.") and address.endswith((".a", ".b", ".c")):
                    continue  # sizes are bounded: a far face does not move a near one
                step = 0.05
                again = [
                    x
                    for x in pair_states(inputs.with_value(address, value + step))
                    if x.id == state.id
                ]
                self.assertAlmostEqual(
                    (again[0].pair.distance - state.pair.distance) / step,
                    slope,
                    delta=0.06,
                    msg=f"{state.id} {address}",
                )
            read = {a: v for a, v, _ in line.at}
            self.assertAlmostEqual(gap(read, line), state.pair.distance)

    def test_movement_counts_once_and_only_towards(self):
        inputs = resolve(demo())
        for state in pair_states(inputs)[:10]:
            moved = movement_at(inputs, state.pair.on_engine[None])[:, 0]
            self.assertAlmostEqual(
                state.moves, max(0.0, float((moved @ state.pair.apart).max())), places=9
            )

    def test_every_engine_solid_meets_every_chassis_solid(self):
        placed = placed_solids(resolve(demo()))
        engine = sum(p.solid.body != "chassis" for p in placed)
        self.assertEqual(len(pair_states(resolve(demo()))), engine * (len(placed) - engine))

    def test_class_table(self):
        for a, b, stiff, rule in (
            ("metal", "metal", False, "clear_metal_soft_mm"),
            ("metal", "metal", True, "clear_metal_stiff_mm"),
            ("fan", "shroud", False, "clear_fan_shroud_mm"),
            ("core", "fan", False, "clear_fan_core_mm"),
            ("exhaust", "wiring", False, "clear_exhaust_mm"),
            ("line", "exhaust", False, "clear_exhaust_mm"),
            ("shielded exhaust", "line", False, "clear_exhaust_shielded_mm"),
            ("metal", "steering", True, "clear_steering_mm"),
            ("exhaust", "steering", False, "clear_steering_mm"),
            ("belt", "metal", False, "clear_belt_mm"),
            ("metal", "sheet", False, "clear_sheet_mm"),
            ("tunnel", "shaft", False, "clear_tunnel_mm"),
        ):
            self.assertEqual(class_rule(a, b, stiff), rule)


class NoRun(unittest.TestCase):
    """[2] What cannot be a run is refused, and no length is told beside it."""

    def refused(self, rows):
        pulleys = tuple(
            belt.BeltPulley(i + 1, f"p{i + 1}", row[3] if len(row) > 3 else "ribs", "pitch line")
            for i, row in enumerate(rows)
        )
        read = {"belt_pitch_mm": 1.3, "belt_back_mm": 3.5} | {
            f"pulleys.{i + 1}.{f}": row[k]
            for i, row in enumerate(rows)
            for k, f in enumerate(("right", "up", "d"))
        }
        return belt.refusals(pulleys, read)

    def test_each_reason(self):
        good = [(0.0, 0.0, 180.0), (-160.0, 210.0, 70.0), (30.0, 330.0, 130.0), (240.0, 90.0, 62.0)]
        self.assertEqual(self.refused(good), [])
        self.assertEqual(
            self.refused([(0.0, 0.0, 180.0), (60.0, 30.0, 150.0), (300.0, 0.0, 60.0)]),
            ["p1 and p2 overlap"],
        )
        self.assertIn(
            "the span from p1 to p2 passes through p3",
            self.refused([(0.0, 0.0, 100.0), (0.0, 400.0, 100.0), (-50.0, 200.0, 60.0)]),
        )
        self.assertIn(
            "the belt does not touch p2",
            self.refused(
                [
                    (0.0, 0.0, 180.0),
                    (-170.0, 110.0, 70.0, "back"),
                    (0.0, 212.0, 136.0),
                    (252.0, 38.0, 62.0),
                ]
            ),
        )

    def test_no_length_is_told_beside_it(self):
        made = demo()
        made.pulleys[1].up = "40"
        answer = assess(made, ())
        self.assertIn("overlap", finding(answer, "clear.belt_run").sentence.mm)
        self.assertFalse(
            [
                f.id
                for f in answer.findings
                if f.id.startswith(("clear.belt_length", "clear.belt_wrap"))
            ]
        )
        self.assertEqual(drawn(made)["clear.belt"].readings, ())


class Belt(unittest.TestCase):
    def run_of(self, rows, side="ribs"):
        pulleys = tuple(
            belt.BeltPulley(i + 1, f"p{i + 1}", row[3] if len(row) > 3 else side, "pitch line")
            for i, row in enumerate(rows)
        )
        read = {"belt_pitch_mm": 1.3, "belt_back_mm": 3.5}
        for i, row in enumerate(rows):
            read |= {
                f"pulleys.{i + 1}.right": row[0],
                f"pulleys.{i + 1}.up": row[1],
                f"pulleys.{i + 1}.d": row[2],
            }
        return pulleys, read, belt.run(pulleys, read)

    def test_pulleys_inside_the_belt_against_the_hull(self):
        """[2] in belt order: bottom, left, top, right (the crank turns clockwise)."""
        rows = [(0.0, 0.0, 180.0), (-160.0, 210.0, 70.0), (30.0, 330.0, 130.0), (240.0, 90.0, 62.0)]
        hull = shapely.unary_union(
            [shapely.Point(x, y).buffer(d / 2, 4096) for x, y, d in rows]
        ).convex_hull
        _, _, found = self.run_of(rows)
        self.assertAlmostEqual(found.length, hull.length, delta=0.002)
        self.assertAlmostEqual(sum(found.wraps), 360.0, places=9)

    def test_with_a_back_idler_the_path_is_tangent_and_its_integral_is_the_length(self):
        rows = [
            (0.0, 0.0, 182.0),
            (-104.0, 104.0, 70.0, "back"),
            (0.0, 212.0, 136.0),
            (252.0, 38.0, 62.0),
        ]
        pulleys, _, found = self.run_of(rows)
        total = 0.0
        for i, (x1, y1, x2, y2) in enumerate(found.tangents):
            for (cx, cy, d, *_), (px, py) in ((rows[i], (x1, y1)), (rows[(i + 1) % 4], (x2, y2))):
                self.assertAlmostEqual(np.hypot(px - cx, py - cy), d / 2, places=9)
                self.assertAlmostEqual((px - cx) * (x2 - x1) + (py - cy) * (y2 - y1), 0.0, places=6)
            total += np.hypot(x2 - x1, y2 - y1)
            # The arc on the next pulley by small chords, in the sense in which it turns.
            cx, cy, d, *side = rows[(i + 1) % 4]
            sense = 1.0 if side else -1.0
            nx, ny, *_ = found.tangents[(i + 1) % 4]
            start, end = np.arctan2(y2 - cy, x2 - cx), np.arctan2(ny - cy, nx - cx)
            swept = (sense * (end - start)) % (2 * np.pi)
            t = start + sense * np.linspace(0, swept, 20001)
            total += np.hypot(
                np.diff(cx + d / 2 * np.cos(t)), np.diff(cy + d / 2 * np.sin(t))
            ).sum()
        self.assertAlmostEqual(found.length, total, delta=1e-4)
        # Three turn clockwise and one against: the turns still make one round.
        self.assertAlmostEqual(
            sum(w if p.side == "ribs" else -w for w, p in zip(found.wraps, pulleys, strict=True)),
            360.0,
            places=6,
        )

    def test_an_idler_that_the_belt_passes_says_so(self):
        rows = [
            (0.0, 0.0, 180.0),
            (-170.0, 110.0, 70.0, "back"),
            (0.0, 212.0, 136.0),
            (252.0, 38.0, 62.0),
        ]
        self.assertLess(self.run_of(rows)[2].wraps[1], 0.0)

    def test_how_far_a_span_leaves_its_plane(self):
        """The demo's span from water pump to alternator: the angle between the span in space and
        its shadow on the crank pulley's plane.
        """
        made = demo()
        v = resolve(made).value
        a, b = (
            next(p.n for p in made.pulleys if p.name == name)
            for name in ("water pump", "alternator")
        )
        far = np.array([v(f"pulleys.{b}.{f}") - v(f"pulleys.{a}.{f}") for f in ("right", "up")])
        # A tangent to two circles on the same side is the long leg of a right triangle over the
        # line of centres.
        leg = np.sqrt(far @ far - ((v(f"pulleys.{a}.d") - v(f"pulleys.{b}.d")) / 2) ** 2)
        span, shadow = (
            np.array([leg, 0.0, v(f"pulleys.{b}.plane") - v(f"pulleys.{a}.plane")]),
            np.array([leg, 0.0, 0.0]),
        )
        expected = np.degrees(
            np.arccos(span @ shadow / np.linalg.norm(span) / np.linalg.norm(shadow))
        )
        self.assertAlmostEqual(finding(made, f"clear.belt_plane.{a}").value, expected, places=4)

    def test_two_equal_pulleys(self):
        _, _, found = self.run_of([(0.0, 0.0, 100.0), (0.0, 300.0, 100.0)])
        self.assertAlmostEqual(found.length, 600 + np.pi * 100, places=9)
