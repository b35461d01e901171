"""The window of thicknesses against a general-purpose linear programme and a grid of points.

References: scipy.optimize.linprog (HiGHS) for middle, emptiness and openings; shapely for the
polygon; brute force over a grid. Sums of a rectangle and a normal: closed form of the variance,
JCGM 101:2008, 6.4, from memory.
"""

import unittest
from itertools import combinations

import numpy as np
import shapely
from scipy.optimize import linprog

from pindo.core.geometry.window import conflict, interval, lack, middle, opening, polygon
from pindo.core.judging.stack_up import drawn_sums

BOX = (np.vstack([np.eye(2), -np.eye(2)]), np.array([20.0, 20.0, 20.0, 20.0]))
FREE = [(None, None)]


def half_planes(rng, n):
    """Random half-planes, some parallel, in a box of 40 mm; now and then none is left."""
    turn = rng.choice(np.linspace(0, 2 * np.pi, 9)[:-1], n) + rng.normal(0, 0.2, n)
    turn[: n // 3] = rng.choice([0, np.pi / 2, np.pi, 5 * np.pi / 4], n // 3)
    slope = np.stack([np.cos(turn), np.sin(turn)], 1) * rng.uniform(0.3, 2.0, (n, 1))
    room = -(slope @ rng.uniform(-5, 5, 2)) + rng.uniform(-0.5, 6, n)
    counts = np.array([True] * n + [False] * 4)
    return np.vstack([slope, BOX[0]]), np.concatenate([room, BOX[1]]), counts


def largest_room(slope, room, counts):
    cost = np.zeros(slope.shape[1] + 1)
    cost[-1] = -1.0
    held = np.column_stack([-slope, counts * 1.0])
    return linprog(cost, A_ub=held, b_ub=room, bounds=FREE * len(cost))


class Windows(unittest.TestCase):
    def test_polygon_middle_and_conflict_beside_linear_programmes(self):
        rng = np.random.default_rng(7)
        shut = 0
        for n in (4, 9, 20) * 30:
            slope, room, counts = half_planes(rng, n)
            cut = polygon(slope, room)
            best = largest_room(slope, room, counts)
            got = middle(slope, room, counts, (1, 0))
            self.assertAlmostEqual(got.room, best.x[2], places=6)
            self.assertEqual(cut.empty, best.x[2] < -1e-7)
            found = list(conflict(slope, room))
            self.assertEqual(bool(found), cut.empty)
            for few in combinations(found, max(len(found) - 1, 0)):
                held = linprog(
                    [0, 0], A_ub=-slope[list(few)], b_ub=room[list(few)], bounds=FREE * 2
                )
                self.assertEqual(held.status, 0)  # any one less of them and the rest hold
            if not cut.empty:
                continue
            shut += 1
            held = linprog([0, 0], A_ub=-slope[found], b_ub=room[found], bounds=FREE * 2)
            self.assertEqual(held.status, 2)
            self.assertAlmostEqual(lack(slope, room, counts), -best.x[2], places=6)
        self.assertGreater(shut, 10)

    def test_polygon_is_what_shapely_cuts(self):
        rng = np.random.default_rng(11)
        for _ in range(40):
            slope, room, _ = half_planes(rng, 8)
            left = shapely.box(-20, -20, 20, 20)
            for (a, b), c in zip(slope, room, strict=True):
                size = np.hypot(a, b)
                foot, along = -c * np.array([a, b]) / size**2, np.array([-b, a]) / size * 500
                far = np.array([a, b]) / size * 500
                corners = (foot - along, foot + along, foot + along + far, foot - along + far)
                left = left.intersection(shapely.Polygon(corners))
            cut = polygon(slope, room)
            area = 0.0 if len(cut.corners) < 3 else shapely.Polygon(cut.corners).area
            self.assertAlmostEqual(area, left.area, places=5)
            for (x, y), edge in zip(cut.corners, cut.edges, strict=True):
                self.assertAlmostEqual(slope[edge] @ (x, y) + room[edge], 0.0, places=6)

    def test_grid_of_points_is_inside_exactly_where_all_hold(self):
        rng = np.random.default_rng(5)
        x, y = (a.ravel() for a in np.meshgrid(np.arange(-20, 20, 0.4), np.arange(-20, 20, 0.4)))
        slope, room, _ = half_planes(rng, 12)
        while polygon(slope, room).empty:
            slope, room, _ = half_planes(rng, 12)
        holds = (slope @ np.stack([x, y]) + room[:, None]).min(0)
        inside = shapely.contains_xy(shapely.Polygon(polygon(slope, room).corners), x, y)
        clear = np.abs(holds) > 1e-9
        np.testing.assert_array_equal(inside[clear], holds[clear] > 0)

    def test_a_tie_goes_to_the_thinner_spacer_then_the_thinner_plate(self):
        # A strip 4 mm wide along the plate: every plate between its bounds is as good.
        slope = np.array([[0.0, 1.0], [0.0, -1.0], [1.0, 0.0], [-1.0, 0.0]])
        room = np.array([0.0, 4.0, -5.0, 9.0])
        got = middle(slope, room, np.array([True, True, False, False]), (1, 0))
        np.testing.assert_allclose(got.at, (5.0, 2.0))
        # A wedge that lets both slide: the spacer's share is made least.
        slope = np.array(
            [[1.0, -1.0], [-1.0, 1.0], [0.0, 1.0], [0.0, -1.0], [1.0, 0.0], [-1.0, 0.0]]
        )
        room = np.array([0.0, 2.0, 0.0, 30.0, 0.0, 30.0])
        got = middle(slope, room, np.array([True, True, False, False, False, False]), (1, 0))
        np.testing.assert_allclose(got.at, (1.0, 0.0), atol=1e-9)

    def test_one_alone(self):
        got = interval(np.array([1.0, -2.0, 0.0]), np.array([-3.0, 10.0, 1.0]))
        self.assertEqual((got.low, got.high, got.low_by, got.high_by), (3.0, 5.0, 0, 1))
        self.assertIsNone(interval(np.array([1.0, -1.0]), np.array([-3.0, 2.0])))
        self.assertIsNone(interval(np.array([0.0]), np.array([-1.0])))

    def test_opening_is_the_least_change_that_leaves_a_place(self):
        rng = np.random.default_rng(2)
        tried = 0
        while tried < 25:
            slope, room, _ = half_planes(rng, 9)
            helps = np.concatenate([rng.choice([-1.0, 0.0, 1.0], 9), np.zeros(4)])
            change = opening(slope, room, helps, 60.0)
            if not polygon(slope, room).empty:
                self.assertAlmostEqual(change, 0.0, places=7)
                continue
            tried += 1
            if change is None:
                continue
            self.assertFalse(polygon(slope, room + helps * (change + np.sign(change) * 1e-5)).empty)
            self.assertTrue(polygon(slope, room + helps * change * 0.99).empty)


class Sums(unittest.TestCase):
    def test_drawn_sums_have_the_closed_variance(self):
        parts = {"plate": 0.05, "flange": -0.15, "spacer": 0.1}
        for flat in (frozenset(), frozenset({"flange"}), frozenset(parts)):
            sums = drawn_sums(3.0, parts, flat, 1_000_000)
            self.assertAlmostEqual(sums.mean(), 3.0, delta=1e-3)
            self.assertAlmostEqual(sums.var(), 0.05**2 + 0.15**2 + 0.1**2, delta=1e-4)
        edge = np.sqrt(3.0) * 0.3
        self.assertLessEqual(np.abs(sums - 3.0).max(), edge + 1e-9)


if __name__ == "__main__":
    unittest.main()
