"""Patterns laid on one another, against truth that is known and a general solver.

Sources: movements made up here; scipy's Rotation.align_vectors and its minimiser as an independent
solver.
"""

import math
import unittest

import numpy as np
from scipy.optimize import minimize
from scipy.spatial.transform import Rotation

from pindo.core.geometry.registration import laid, passing, register

RNG = np.random.default_rng(3)
PATTERN = np.array(
    [(-140, 95), (-20, 168), (112, 120), (158, -40), (70, -150), (-120, -118), (30, 150)], float
)


class Register(unittest.TestCase):
    def test_turn_shift_and_mirror_come_back(self):
        for turn, shift, mirrored in (
            (33.0, (12.0, -7.0), False),
            (-171.0, (0.0, 0.0), False),
            (90.0, (300.0, 100.0), True),
        ):
            there = laid(PATTERN, turn, np.array(shift), mirrored)
            order = RNG.permutation(len(PATTERN))
            match = register(there[order], PATTERN, 2.0, mirrored=mirrored, on_axis=False)
            self.assertAlmostEqual(match.turn_deg, turn, places=6)
            np.testing.assert_allclose(match.shift, shift, atol=1e-6)
            self.assertEqual({(order[i], j) for i, j in match.pairs}, {(k, k) for k in range(7)})
            # The other hand meets fewer holes, or none.
            other = register(there, PATTERN, 2.0, mirrored=not mirrored, on_axis=False)
            self.assertTrue(other is None or len(other.pairs) < 7)

    def test_holes_that_only_one_of_them_has_do_not_mislead(self):
        there = laid(PATTERN, 40.0, np.array([5.0, 9.0]), False)
        fixed = np.concatenate([there[:5], RNG.uniform(-180, 180, (4, 2))])
        match = register(fixed, PATTERN, 1.0, mirrored=False, on_axis=False)
        self.assertGreaterEqual(set(match.pairs), {(k, k) for k in range(5)})
        self.assertAlmostEqual(match.turn_deg, 40.0, delta=0.3)

    def test_the_fit_is_that_of_an_independent_solver(self):
        there = laid(PATTERN, 25.0, np.zeros(2), False) + RNG.normal(0, 0.2, PATTERN.shape)
        match = register(there, PATTERN, 2.0, mirrored=False, on_axis=False)
        a, b = (np.column_stack([x - x.mean(0), np.zeros(len(x))]) for x in (there, PATTERN))
        rotation, _ = Rotation.align_vectors(a, b)
        self.assertAlmostEqual(match.turn_deg, -rotation.as_euler("zyx", degrees=True)[0], places=6)

    def test_about_the_axis_only_a_turn_is_looked_for(self):
        there = laid(PATTERN, 62.0, np.zeros(2), False)
        match = register(there, PATTERN, 1.0, mirrored=False, on_axis=True)
        self.assertAlmostEqual(match.turn_deg, 62.0, places=6)
        self.assertEqual(match.shift, (0.0, 0.0))
        moved = laid(PATTERN, 62.0, np.array([30.0, 0.0]), False)
        self.assertIsNone(register(moved, PATTERN, 1.0, mirrored=False, on_axis=True))

    def test_too_few_holes_match_nothing(self):
        self.assertIsNone(register(PATTERN[:2], PATTERN, 1.0, mirrored=False, on_axis=False))


class Pass(unittest.TestCase):
    def test_the_least_play_is_as_large_as_a_general_solver_makes_it(self):
        for _ in range(6):
            there = PATTERN + RNG.normal(0, 0.3, PATTERN.shape)
            play = RNG.uniform(0.3, 0.8, len(PATTERN))
            found = passing(PATTERN, there, play.tolist(), on_axis=False)

            def worst(x, there=there, play=play):
                moved = laid(there, math.degrees(x[0]), x[1:], False)
                return -float(np.min(play - np.hypot(*(moved - PATTERN).T)))

            best = min(
                minimize(
                    worst,
                    start,
                    method="Nelder-Mead",
                    options={"xatol": 1e-8, "fatol": 1e-8, "maxiter": 4000},
                ).fun
                for start in (np.zeros(3), np.array([0.001, 0.1, -0.1]))
            )
            self.assertAlmostEqual(min(found.room), -best, delta=0.01)

    def test_one_hole_off_is_cured_by_opening_it(self):
        there = PATTERN.copy()
        there[3] += (2.0, 0.0)
        found = passing(PATTERN, there, [0.5] * 7, on_axis=False)
        self.assertLess(min(found.room), 0.0)
        self.assertEqual(found.cured_by, 3)
        # The others lie as they are: 2 mm off, of which its hole allows 0.5.
        self.assertAlmostEqual(found.opened_to, 1.5, delta=0.01)
        there[5] += (0.0, 3.0)
        self.assertIsNone(passing(PATTERN, there, [0.5] * 7, on_axis=False).cured_by)

    def test_all_pass_where_they_do(self):
        found = passing(PATTERN, PATTERN + np.array([0.4, 0.0]), [0.3] * 7, on_axis=False)
        self.assertGreater(min(found.room), 0.29)
        self.assertIsNone(found.cured_by)
        # About the axis the shift stays, and they do not.
        held = passing(PATTERN, PATTERN + np.array([0.4, 0.0]), [0.3] * 7, on_axis=True)
        self.assertLess(min(held.room), 0.0)


if __name__ == "__main__":
    unittest.main()
