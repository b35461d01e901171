"""Pose and mounts against general libraries and closed forms.

[1] scipy.spatial.transform.Rotation.align_vectors: an independent solution of the weighted rotation
fit. [2] scipy.linalg.eigh: the generalised eigenproblem K v = w² M v. [3] Potential energy of
springs, differentiated numerically: an independent stiffness matrix. [4] Statics: reactions balance
weight and moments (closed form). [5] shapely: ends of a slot and points in it.
"""

import unittest

import numpy as np
import shapely
from scipy.linalg import eigh
from scipy.spatial.transform import Rotation

from pindo.core.geometry import mounts as m
from pindo.core.geometry.frames import POSE, point_in_vehicle, rotation
from pindo.core.geometry.pose import NoPose, fit_pose, turns_of
from pindo.core.stations.seat.mounts import slot_left
from pindo.core.stations.seat.room import bonnet_gap, ground_gap

NUMBERS = (1, 2, 3, 4)


def read(**changes):
    """A unit on four mounts, level, at the vehicle's origin."""
    found = dict.fromkeys(POSE, 0.0) | {
        "unit_mass_kg": 500.0,
        "mass_back_mm": -190.0,
        "mass_left_mm": 8.0,
        "mass_up_mm": 95.0,
        "engine_torque_nm": 500.0,
        "first_gear_ratio": 5.0,
        "reverse_ratio": 4.5,
    }
    for n, back, left, up in (
        (1, -520, 230, -60),
        (2, -520, -230, -60),
        (3, 620, 150, -80),
        (4, 620, -150, -80),
    ):
        found |= {
            f"mounts.{n}.back": back,
            f"mounts.{n}.left": left,
            f"mounts.{n}.up": up,
            f"mounts.{n}.kx": 300.0 + n,
            f"mounts.{n}.ky": 250.0,
            f"mounts.{n}.kz": 800.0 - 60 * n,
        }
    return found | changes


class PoseFromPoints(unittest.TestCase):
    def setUp(self):
        self.rng = np.random.default_rng(31)

    def test_exact_points_give_the_pose_back(self):
        for yaw in (0.0, 180.0, 90.0):
            points = self.rng.uniform(-600, 600, (5, 3))
            turn = Rotation.from_euler("xyz", [2.0, -3.0, yaw + 1.0], degrees=True)
            fitted = fit_pose(
                points, turn.apply(points) + [-180.0, 12.0, -30.0], np.full(5, 0.5), yaw
            )
            np.testing.assert_allclose(
                [
                    fitted.back_mm,
                    fitted.left_mm,
                    fitted.up_mm,
                    fitted.roll_deg,
                    fitted.pitch_deg,
                    fitted.yaw_deg,
                ],
                [180, 12, -30, 2, 3, 1],
                atol=1e-9,
            )
            self.assertLess(fitted.rms, 1e-9)

    def test_noisy_points_against_scipy(self):
        """[1]"""
        for _ in range(20):
            points = self.rng.uniform(-600, 600, (6, 3))
            u = self.rng.uniform(0.3, 3.0, 6)
            seen = (
                Rotation.from_euler("xyz", self.rng.uniform(-8, 8, 3), degrees=True).apply(points)
                + self.rng.normal(0, 1, (6, 3)) * u[:, None]
            )
            w = 1 / u**2
            a, b = points - (w @ points) / w.sum(), seen - (w @ seen) / w.sum()
            expected, _ = Rotation.align_vectors(b, a, weights=w)
            found = fit_pose(points, seen, u)
            turn = rotation(found.roll_deg, found.pitch_deg, found.yaw_deg)
            np.testing.assert_allclose(turn, expected.as_matrix(), atol=1e-7)

    def test_the_doubt_against_repeated_measuring(self):
        """5 of 6 numbers at least: the spread of 400 drawn readings is what the ± promises (18 %
        is three standard errors).
        """
        points = np.array(
            [(500, 200, 100), (500, -200, 120), (-500, 150, -80), (-450, -160, 60), (0, 0, 300)],
            float,
        )
        drawn = []
        for _ in range(400):
            f = fit_pose(points, points + self.rng.normal(0, 0.8, points.shape), np.full(5, 0.8))
            drawn.append((f.back_mm, f.left_mm, f.up_mm, f.roll_deg, f.pitch_deg, f.yaw_deg))
        # The a priori ±, without the enlargement by the residuals that a single fit may carry.
        exact = fit_pose(points, points, np.full(5, 0.8))
        np.testing.assert_allclose(2 * np.std(drawn, axis=0) / exact.pm, 1.0, atol=0.18)

    def test_the_doubt_of_a_gap_takes_the_whole_of_the_covariance(self):
        """400 drawn readings again: the height of a far corner scatters as the correlated
        numbers say, and not as if each stood alone.
        """
        points = np.array(
            [(500, 200, 100), (500, -200, 120), (300, 150, -80), (350, -160, 60)], float
        )
        corner = {"roll_deg": 0.0, "inclination_deg": 0.0, "yaw_deg": 0.0}
        heights = []
        for _ in range(400):
            f = fit_pose(points, points + self.rng.normal(0, 0.8, points.shape), np.full(4, 0.8))
            pose = dict(
                zip(
                    POSE,
                    (f.back_mm, f.left_mm, f.up_mm, f.roll_deg, f.pitch_deg, f.yaw_deg),
                    strict=True,
                )
            )
            heights.append(float(point_in_vehicle(pose, 0.0, -450.0, 0.0, 50.0)[2]))
        exact = fit_pose(points, points, np.full(4, 0.8))
        base = dict.fromkeys(POSE, 0.0) | corner
        slope = np.array(
            [
                (
                    point_in_vehicle(base | {k: 1e-3}, 0.0, -450.0, 0.0, 50.0)[2]
                    - point_in_vehicle(base | {k: -1e-3}, 0.0, -450.0, 0.0, 50.0)[2]
                )
                / 2e-3
                for k in POSE
            ]
        )
        each = slope * np.array(exact.pm) / 2
        together = np.sqrt(each @ exact.correlation @ each)
        self.assertAlmostEqual(np.std(heights) / together, 1.0, delta=0.12)
        self.assertGreater(np.sqrt(each @ each) / together, 1.5, "the case is one where it matters")

    def test_turns_of_is_the_inverse_of_rotation(self):
        for _ in range(30):
            roll, pitch, yaw = self.rng.uniform(-85, 85, 3)
            np.testing.assert_allclose(
                turns_of(Rotation.from_euler("xyz", [roll, -pitch, yaw], degrees=True).as_matrix()),
                (roll, pitch, yaw),
                atol=1e-9,
            )

    def test_refusals(self):
        line = np.array([(0, 0, 0), (100, 0, 0), (200, 0, 0)], float)
        with self.assertRaisesRegex(NoPose, "lie in one line"):
            fit_pose(line, line, np.ones(3))
        with self.assertRaisesRegex(NoPose, "2 of 3 points"):
            fit_pose(line[:2], line[:2], np.ones(2))


class Slots(unittest.TestCase):
    def test_the_nearer_end_of_the_slot(self):
        slot = shapely.LineString([(-15.0, 0.0), (15.0, 0.0)])
        for at in (-12.2, 0.0, 4.5, 15.0, 17.0):
            pin = shapely.Point(at, 0.0)
            expected = slot.boundary.distance(pin) * (1.0 if slot.distance(pin) == 0.0 else -1.0)
            self.assertAlmostEqual(slot_left(30.0, at), expected, places=9)


class GroundAndBonnet(unittest.TestCase):
    def test_against_a_turned_point(self):
        """[1] The point turned by a general library about the block face's centre, then stood
        above the rail.
        """
        draw = np.random.default_rng(3)
        for _ in range(20):
            back, left, up, roll, pitch, yaw = draw.uniform(-8, 8, 6) + (400, 0, 120, 0, 0, 0)
            at = dict(zip(POSE, (back, left, up, roll, pitch, yaw), strict=True)) | {
                "sump_back_mm": -300.0,
                "sump_mm": 260.0,
                "top_back_mm": -250.0,
                "engine_top_mm": 480.0,
                "rail_height_mm": 620.0,
                "bonnet_height_mm": 900.0,
            }
            turn = Rotation.from_euler("ZYX", [yaw, -pitch, roll], degrees=True)  # front up is plus
            self.assertAlmostEqual(
                float(ground_gap(at, 0.0, 0.0)), 620.0 + up + turn.apply([300.0, 0.0, -260.0])[2]
            )
            self.assertAlmostEqual(
                float(bonnet_gap(at, 0.0)), 900.0 - up - turn.apply([250.0, 0.0, 480.0])[2]
            )


class OnSprings(unittest.TestCase):
    def energy(self, r, move):
        """[3] Potential energy of all springs for a small movement of the mass centre. [N·mm]"""
        centre = np.array(
            [
                float(x)
                for x in point_in_vehicle(
                    r, 0.0, r["mass_back_mm"], r["mass_left_mm"], r["mass_up_mm"]
                )
            ]
        )
        total = 0.0
        for n in NUMBERS:
            arm = (
                np.array(
                    [
                        float(x)
                        for x in point_in_vehicle(
                            r, 0.0, *(r[f"mounts.{n}.{f}"] for f in ("back", "left", "up"))
                        )
                    ]
                )
                - centre
            )
            d = move[:3] + np.cross(move[3:], arm)
            total += 0.5 * sum(
                r[f"mounts.{n}.{f}"] * x**2 for f, x in zip(("kx", "ky", "kz"), d, strict=True)
            )
        return total

    def test_the_stiffness_matrix_is_the_curvature_of_the_energy(self):
        r = read(roll_deg=1.0, inclination_deg=3.0, yaw_deg=-2.0)
        k, _, _ = m.stiffness(r, NUMBERS, 0.0)
        step = np.array([1e-2] * 3 + [1e-4] * 3)
        for i in range(6):
            for j in range(6):
                ei, ej = np.eye(6)[i] * step, np.eye(6)[j] * step
                second = (
                    self.energy(r, ei + ej)
                    - self.energy(r, ei - ej)
                    - self.energy(r, ej - ei)
                    + self.energy(r, -ei - ej)
                ) / (4 * step[i] * step[j])
                self.assertAlmostEqual(k[0, i, j], second, delta=max(1.0, abs(second)) * 1e-5)

    def test_reactions_balance_the_weight(self):
        """[4]"""
        r = read()
        k, lever, springs = m.stiffness(r, NUMBERS, 0.0)
        moved = m.solve(k, m.weight_load(r))[0]
        forces = -springs[0] * np.einsum("mjk,k->mj", lever[0], moved)
        arm = m.arms(r, NUMBERS, 0.0)[0]
        np.testing.assert_allclose(forces.sum(axis=0), (0, 0, 500 * 9.80665), atol=1e-6)
        np.testing.assert_allclose(np.cross(arm, forces).sum(axis=0), 0.0, atol=1e-4)

    def test_two_axle_closed_form(self):
        """[4] On soft sideways springs the front pair's share is the lever of the mass centre:
        (620 + 190)/(620 + 520).
        """
        r = read(
            **{f"mounts.{n}.{f}": 1e-3 for n in NUMBERS for f in ("kx", "ky")}, mass_left_mm=0.0
        )
        k, lever, springs = m.stiffness(r, NUMBERS, 0.0)
        moved = m.solve(k, m.weight_load(r))[0]
        up = -springs[0, :, 2] * np.einsum("mk,k->m", lever[0, :, 2], moved)
        self.assertAlmostEqual((up[0] + up[1]) / up.sum(), 810 / 1140, delta=2e-3)

    RADII = {"gyration_roll_mm": 215.0, "gyration_pitch_mm": 390.0, "gyration_yaw_mm": 405.0}

    def test_modes_against_scipy(self):
        """[2] All six, whichever way the unit stands: its inertias about its own axes turned
        with it [1].
        """
        for yaw in (0.0, 90.0, 180.0):
            r = read(inclination_deg=3.0, roll_deg=1.0, **self.RADII)
            k, _, _ = m.stiffness(r, NUMBERS, yaw)
            hertz, turn = m.modes_hz(k, r, yaw)
            own = Rotation.from_euler("ZYX", [yaw, -3.0, 1.0], degrees=True).as_matrix()
            mass = np.diag([500.0] * 3 + [0.0] * 3)
            mass[3:, 3:] = own @ np.diag([500 * x**2 for x in self.RADII.values()]) @ own.T
            squares, vectors = eigh(k[0], mass)
            np.testing.assert_allclose(hertz[0], np.sqrt(squares * 1e3) / (2 * np.pi), rtol=1e-9)
            # Share of a mode's kinetic energy that is turn about the crank.
            about = 500 * 215.0**2 * (own[:, 0] @ vectors[3:]) ** 2
            np.testing.assert_allclose(turn[0], about, atol=1e-9)
            self.assertAlmostEqual(turn[0].sum(), 1.0)

    def test_the_mode_about_the_crank_is_the_same_crosswise_as_lengthwise(self):
        """Mounts and unit turned together by 90 degrees: nothing that the unit feels has changed
        but the names of kx and ky.
        """
        r = read(**self.RADII)
        crosswise = r | {
            f"mounts.{n}.{a}": r[f"mounts.{n}.{b}"]
            for n in NUMBERS
            for a, b in (("kx", "ky"), ("ky", "kx"))
        }
        found = []
        for values, yaw in ((r, 0.0), (crosswise, 90.0)):
            k, _, _ = m.stiffness(values, NUMBERS, yaw)
            hertz, turn = m.modes_hz(k, values, yaw)
            found.append(hertz[0, turn[0].argmax()])
        self.assertAlmostEqual(*found)

    def test_three_mounts_carry_by_statics_alone(self):
        """[4] Forces and moments balance whatever the stiffness, and so does the solution on
        springs that are soft sideways.
        """
        r = read()
        arm = m.arms(r, NUMBERS[:3], 0.0)
        share = m.three_shares(arm)[0]
        np.testing.assert_allclose(
            (share.sum(), share @ arm[0, :, 0], share @ arm[0, :, 1]), (1.0, 0.0, 0.0), atol=1e-9
        )
        soft = r | {f"mounts.{n}.{f}": 1e-3 for n in NUMBERS for f in ("kx", "ky")}
        k, lever, springs = m.stiffness(soft, NUMBERS[:3], 0.0)
        moved = m.solve(k, m.weight_load(soft))[0]
        up = -springs[0, :, 2] * np.einsum("mk,k->m", lever[0, :, 2], moved)
        np.testing.assert_allclose(up / up.sum(), share, atol=2e-3)
        self.assertTrue(np.isnan(m.three_shares(arm * [1.0, 0.0, 1.0])).all())

    def test_a_mount_of_the_gearbox_goes_back_with_the_plate(self):
        thick = read(separator_mm=1.0, plate_mm=18.0)
        still, moved = m.arms(thick, NUMBERS, 0.0)[0], m.arms(thick, NUMBERS, 0.0, {3, 4})[0]
        np.testing.assert_allclose(
            moved - still, [(0, 0, 0), (0, 0, 0), (-19, 0, 0), (-19, 0, 0)], atol=1e-9
        )

    def test_the_left_side_lifts_in_the_lowest_gear(self):
        r = read()
        k, lever, _ = m.stiffness(r, NUMBERS, 0.0)
        moved = m.solve(k, m.loads(r, 0.0, False, 1.0, 1.0, 3.0))
        up = np.einsum("mk,k->m", lever[0, :, 2], moved[0, 0])
        self.assertGreater(up[0], 0)
        self.assertLess(up[1], 0)
        # Reverse is the other way, by the ratio of the ratios.
        np.testing.assert_allclose(
            np.einsum("mk,k->m", lever[0, :, 2], moved[1, 0]), -up * 4.5 / 5.0, rtol=1e-9
        )

    def test_mounts_in_one_line_leave_a_freedom(self):
        r = read(
            **{f"mounts.{n}.left": 0.0 for n in NUMBERS},
            **{f"mounts.{n}.up": -60.0 for n in NUMBERS},
        )
        k, _, _ = m.stiffness(r, NUMBERS, 0.0)
        self.assertTrue(np.isnan(m.solve(k, m.weight_load(r))).all())
