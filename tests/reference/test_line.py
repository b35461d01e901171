"""Driveline and chain against exact composition, geometry and general libraries.

[1] The cardan joint from its condition that the two arms of the cross stay square (closed form, any
text on mechanisms). [2] Fourier analysis of the exactly composed chain of joints: the second
harmonic is what beta_eq stands for. [3] scipy.optimize: root finding of the linkage from its
lengths alone. [4] Finite differences of the Euler-Bernoulli beam: first whirling speed of a simply
supported tube. [5] Makers' common table of joint angle by speed, from memory. [6]
scipy.spatial.transform.Rotation: the unit turned and carried by a general library.
"""

import itertools
import unittest

import numpy as np
from scipy.integrate import quad
from scipy.optimize import brentq, fsolve
from scipy.spatial.transform import Rotation

from pindo.core.assessment import assess
from pindo.core.geometry import chain, joints
from pindo.core.geometry.frames import angle_deg
from pindo.core.geometry.travel import arc, links, sideways
from pindo.core.inputs.resolve import resolve
from tests.support import build, demo, finding, said


def composed_lead(bends_deg, phases_rad, turn_deg):
    """[1] Output less input of a chain of cardan joints, each with its driving pin at its phase.
    [rad]
    """
    theta = np.radians(turn_deg)
    for bend, phase in zip(bends_deg, phases_rad, strict=True):
        # The joint counts from its driving fork in its own plane: the pin stands at the phase from
        # the plane's normal.
        local = theta + phase + np.pi / 2
        out = np.radians(joints.output_angle_deg(np.degrees(local), bend))
        theta = theta + (out - local)
    return theta - np.radians(turn_deg)


class OneJoint(unittest.TestCase):
    def test_the_arms_of_the_cross_stay_square(self):
        for bend in (0.0, 5.0, 30.0, 44.0):
            t = np.linspace(0, 720, 97)
            out, b = np.radians(joints.output_angle_deg(t, bend)), np.radians(bend)
            a = np.radians(t)
            # Driving arm in the plane square to x; driven arm in the plane square to (cos b, sin b,
            # 0).
            arm1 = np.array([0 * a, np.cos(a), np.sin(a)])
            arm2 = np.cos(out) * np.array([[0.0], [0.0], [1.0]]) - np.sin(out) * np.array(
                [[-np.sin(b)], [np.cos(b)], [0.0]]
            )
            np.testing.assert_allclose((arm1 * arm2).sum(axis=0), 0.0, atol=1e-12)

    def test_a_worked_direction(self):
        """30 degrees of bend at 45: tan(out) = 1/cos 30, 49.107 degrees."""
        self.assertAlmostEqual(
            joints.output_angle_deg(45.0, 30.0),
            np.degrees(np.arctan(1 / np.cos(np.pi / 6))),
            places=9,
        )

    def test_speed_ratio_runs_between_cos_and_its_inverse(self):
        t = np.linspace(0, 180, 18001)
        ratio = np.gradient(joints.output_angle_deg(t, 25.0), t)
        np.testing.assert_allclose(
            (ratio[1:-1].min(), ratio[1:-1].max()),
            (np.cos(np.radians(25)), 1 / np.cos(np.radians(25))),
            rtol=1e-5,
        )


class ChainsOfJoints(unittest.TestCase):
    def second_harmonic(self, bends, phases):
        t = np.arange(0, 360, 0.5)
        lead = composed_lead(bends, phases, t)
        return 2 * np.abs(np.fft.rfft(lead)[2]) / len(t)

    def test_equivalent_bend_against_exact_composition(self):
        """[2] A lead of beta²/4 sin 2 theta is what one joint leaves, to beta^4."""
        rng = np.random.default_rng(41)
        for count in (1, 2, 3):
            for _ in range(12):
                bends, phases = rng.uniform(1, 6, count), rng.uniform(0, np.pi, count)
                expected = 4 * self.second_harmonic(bends, phases)
                found = float(joints.equivalent_bend([np.radians(b) for b in bends], phases))
                self.assertAlmostEqual(found, expected, delta=2e-4)

    def test_shafts_in_one_plane(self):
        """In phase and in one plane beta_eq² is beta1² - beta2² + beta3², whether the bends go
        the same way or not.
        """
        for headings in ((0, 4, 7, 5), (0, 4, 0, 5), (0, -3, 2, 2)):
            axes = [(-np.cos(np.radians(h)), 0.0, -np.sin(np.radians(h))) for h in headings]
            bends, phases = joints.bends_and_phases(axes)
            b = [np.radians(y - x) for x, y in itertools.pairwise(headings)]
            self.assertAlmostEqual(
                float(joints.equivalent_bend(bends, phases)),
                abs(b[0] ** 2 - b[1] ** 2 + b[2] ** 2),
                places=12,
            )

    def test_equal_ends_cancel_and_square_planes_add(self):
        z = [(-1.0, 0.0, 0.0), (-1.0, 0.0, -0.1), (-1.0, 0.0, 0.0)]
        self.assertAlmostEqual(
            float(joints.equivalent_bend(*joints.bends_and_phases(z))), 0.0, places=12
        )
        square = [(-1.0, 0.0, 0.0), (-1.0, 0.0, -0.05), (-1.0, 0.05, -0.05)]
        bends, phases = joints.bends_and_phases(square)
        self.assertAlmostEqual(
            float(joints.equivalent_bend(bends, phases)),
            float(bends[0] ** 2 + bends[1] ** 2),
            delta=2e-5,
        )

    def test_a_straight_joint_keeps_the_plane_of_its_neighbour(self):
        """The middle joint straightened by a hair more and more: what is left goes over into
        what a straight one leaves, without a jump.
        """

        def left(heading, out):
            axes = [(-1.0, 0.0, -0.06), (-1.0, heading, 0.0), (-1.0, 0.0, 0.0), (-1.0, out, -0.05)]
            return float(joints.equivalent_bend(*joints.bends_and_phases(axes)))

        for out in (0.0, 0.04):
            self.assertAlmostEqual(left(0.0, out), left(1e-4, out), delta=2e-5)
        b = [np.arctan(0.06), 0.0, np.arctan(0.05)]
        self.assertAlmostEqual(left(0.0, 0.0), b[0] ** 2 + b[2] ** 2, delta=1e-6)

    def test_yokes_out_of_line_spoil_what_would_cancel(self):
        z = [(-1.0, 0.0, 0.0), (-1.0, 0.0, -0.1), (-1.0, 0.0, 0.0)]
        for yoke in (0.0, 15.0, 45.0, 90.0):
            found = float(joints.equivalent_bend(*joints.bends_and_phases(z, [yoke])))
            # Two equal bends with their pins apart by the yokes' error: 2 beta² |sin yoke|.
            self.assertAlmostEqual(
                found, 2 * np.arctan(0.1) ** 2 * abs(np.sin(np.radians(yoke))), places=9
            )

    def test_beyond_ten_degrees_the_joints_are_composed(self):
        """[2] One joint at 30 degrees: greatest angular acceleration from the speed ratio's own
        derivative, where beta² is 4 % short.
        """
        bend = np.radians(30.0)
        t = np.linspace(0, np.pi, 200_001)
        ratio = np.cos(bend) / (1 - np.sin(bend) ** 2 * np.cos(t) ** 2)
        exact = np.abs(np.gradient(ratio, t)[1:-1]).max()
        found = float(joints.equivalent_bend([bend], [0.0]))
        self.assertAlmostEqual(found / exact, 1.0, delta=1e-4)
        self.assertGreater(exact / bend**2, 1.03)
        small = np.radians(9.99)
        self.assertAlmostEqual(
            float(joints.equivalent_bend([small], [0.0]))
            / float(joints.composed_bend([small], [0.0])),
            1.0,
            delta=0.01,
        )

    def test_true_angle_and_the_shop_rule(self):
        """tan² = tan²v + tan²h holds with one shaft along x; the true angle needs no such luck."""
        v, h = np.radians(4), np.radians(6)
        found = angle_deg((-1.0, 0.0, 0.0), (-1.0, np.tan(h), -np.tan(v)))
        self.assertAlmostEqual(
            found, np.degrees(np.arctan(np.hypot(np.tan(v), np.tan(h)))), places=9
        )
        self.assertAlmostEqual(angle_deg((1.0, 0, 0), (1.0, 1e-7, 0)), np.degrees(1e-7), places=14)


class Limits(unittest.TestCase):
    def test_angle_by_speed(self):
        """[5]"""
        for rpm, deg in (
            (5000, 3.25),
            (4500, 3.67),
            (4000, 4.25),
            (3500, 5.0),
            (3000, 5.83),
            (2500, 7.0),
            (2000, 8.67),
            (1500, 11.5),
            (1000, 11.5),
            (6500, 2.5),
            (3250, 5.415),
        ):
            self.assertAlmostEqual(float(joints.angle_limit_deg(rpm)), deg, places=3)

    def test_critical_speed_against_a_beam_of_finite_differences(self):
        """[4]"""
        length, od, wall, n = 1.2, 0.076, 0.0025, 400
        inner = od - 2 * wall
        inertia, area = np.pi / 64 * (od**4 - inner**4), np.pi / 4 * (od**2 - inner**2)
        h = length / n
        d2 = (
            np.diag(-2 * np.ones(n - 1)) + np.diag(np.ones(n - 2), 1) + np.diag(np.ones(n - 2), -1)
        ) / h**2
        lowest = np.linalg.eigvalsh(206e9 * inertia * d2 @ d2 / (7850 * area))[0]
        self.assertAlmostEqual(
            float(joints.critical_rpm(1200.0, 76.0, 2.5, 206.0, 7850.0))
            / (np.sqrt(lowest) * 30 / np.pi),
            1.0,
            delta=1e-4,
        )


class Travel(unittest.TestCase):
    def test_an_arm_keeps_its_length(self):
        for rise in (-90.0, -10.0, 0.0, 75.0):
            shift, turn = arc(rise, 460.0, -35.0)
            self.assertAlmostEqual(
                np.hypot(460.0 - shift, -35.0 - rise), np.hypot(460.0, -35.0), places=9
            )
            c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
            np.testing.assert_allclose(
                (460 * c + 35 * s, 460 * s - 35 * c), (460 - shift, -35 - rise), atol=1e-9
            )

    def test_links_against_root_finding(self):
        """[3] The axle carries both joints; each link keeps its length."""
        g = {
            "lower_link_mm": 600.0,
            "lower_link_rise_mm": 40.0,
            "upper_link_mm": 450.0,
            "upper_link_rise_mm": -30.0,
            "link_spread_mm": 180.0,
            "link_offset_mm": 25.0,
        }
        g |= {
            "lower_link_ahead_mm": 35.0,
            "lower_link_below_mm": 70.0,
        }  # the axle's centre lies 35 behind and 70 above the lower joint
        a = np.array([np.sqrt(600**2 - 40**2), 40.0])
        b = np.array([25 + np.sqrt(450**2 - 30**2), 180 - 30.0])
        for rise in (-80.0, -20.0, 0.0, 35.0, 80.0):

            def gaps(v, rise=rise):
                x, t = v  # shift and turn of the axle, centre at (x - 35, rise + 70)
                turn = np.array([[np.cos(t), -np.sin(t)], [np.sin(t), np.cos(t)]])
                low = np.array([x - 35.0, rise + 70.0]) + turn @ [35.0, -70.0]
                top = low + turn @ [25.0, 180.0]
                return [np.hypot(*(a - low)) - 600.0, np.hypot(*(b - top)) - 450.0]

            x, t = fsolve(gaps, (0.0, 0.0), xtol=1e-12)
            shift, turn = links(rise, g)
            self.assertAlmostEqual(float(shift), x, delta=0.01)
            self.assertAlmostEqual(float(turn), np.degrees(t), delta=0.002)


class Sideways(unittest.TestCase):
    """How far the drive joint goes inboard, by root finding from the lengths alone [3]."""

    def test_wishbones(self):
        g = {
            "arm_mm": 340.0,
            "arm_rise_mm": 12.0,
            "upper_arm_mm": 240.0,
            "upper_arm_rise_mm": -18.0,
            "knuckle_spread_mm": 210.0,
            "knuckle_offset_mm": 25.0,
            "arm_inside_mm": 40.0,
            "arm_below_mm": 95.0,
        }
        a, b = (
            np.array([np.sqrt(340**2 - 12**2), 12.0]),
            np.array([25 + np.sqrt(240**2 - 18**2), 210 - 18.0]),
        )
        for rise in (-70.0, 0.0, 60.0):

            def gaps(v, rise=rise):
                x, t = v
                turn = np.array([[np.cos(t), -np.sin(t)], [np.sin(t), np.cos(t)]])
                low = np.array([x - 40.0, rise + 95.0]) + turn @ [40.0, -95.0]
                return [
                    np.hypot(*(a - low)) - 340.0,
                    np.hypot(*(b - low - turn @ [25.0, 210.0])) - 240.0,
                ]

            self.assertAlmostEqual(
                float(sideways("wishbones", rise, g)),
                fsolve(gaps, (0.0, 0.0), xtol=1e-12)[0],
                delta=0.01,
            )

    def test_strut(self):
        g = {
            "arm_mm": 330.0,
            "arm_rise_mm": 5.0,
            "arm_inside_mm": 30.0,
            "arm_below_mm": 60.0,
            "strut_up_mm": 620.0,
            "strut_inside_mm": 90.0,
        }
        a, top = np.array([np.sqrt(330**2 - 5**2), 5.0]), np.array([90.0, 620.0])
        for rise in (-70.0, 0.0, 60.0):

            def gaps(v, rise=rise):
                x, t = v
                turn = np.array([[np.cos(t), -np.sin(t)], [np.sin(t), np.cos(t)]])
                low = np.array([x - 30.0, rise + 60.0]) + turn @ [30.0, -60.0]
                line = turn @ top  # the strut's own direction, fixed to the knuckle
                return [
                    np.hypot(*(a - low)) - 330.0,
                    (line[0] * (top - low)[1] - line[1] * (top - low)[0]) / 600.0,
                ]

            self.assertAlmostEqual(
                float(sideways("strut", rise, g)),
                fsolve(gaps, (0.0, 0.0), xtol=1e-12)[0],
                delta=0.02,
            )

    def test_swing_arm_keeps_its_length_and_a_rigid_axle_stays(self):
        shift = sideways("swing arm", 50.0, {"swing_inside_mm": 600.0, "swing_rise_mm": 20.0})
        self.assertAlmostEqual(np.hypot(600.0 - shift, 20.0 - 50.0), np.hypot(600.0, 20.0))
        self.assertEqual(sideways("rigid axle", 50.0, {}), 0.0)


def carried(value, point, layout_yaw=0.0):
    """[6] A point of the unit (behind the block face, left, up) in the vehicle, x forward. [mm]"""
    turn = Rotation.from_euler(
        "ZYX",
        [value("yaw_deg") + layout_yaw, -value("inclination_deg"), value("roll_deg")],
        degrees=True,
    )
    back, left, up = point
    return np.array(
        [-value("block_face_back_mm"), value("crank_side_mm"), value("crank_height_mm")]
    ) + turn.apply([-back, left, up])


class WholeDrives(unittest.TestCase):
    def test_slip_over_the_travel_of_a_leaf_sprung_axle(self):
        """The axle's centre kept on its arc by root finding [3], the centre joint fixed, the
        length measured between them.
        """
        made = demo({"inclination_deg": "3.4", "yaw_deg": "0.7", "roll_deg": "-0.5"})
        v, answer = resolve(made).value, assess(made, ())
        radius, up = 0.75 * v("spring_front_half_mm"), -0.75 * v("spring_eye_drop_mm")
        ahead = np.sqrt(radius**2 - up**2)
        fixed = np.array(
            [
                -v("centre_bearing_back_mm"),
                v("centre_bearing_left_mm"),
                -v("centre_bearing_drop_mm"),
            ]
        )

        def length(rise):
            shift = brentq(lambda x: np.hypot(ahead - x, up - rise) - radius, -ahead / 2, ahead / 2)
            # The axle keeps its attitude here: its joint goes as its centre does.
            joint = np.array(
                [
                    -v("wheelbase_mm") + v("pinion_forward_mm") + shift,
                    v("pinion_left_mm"),
                    -v("pinion_drop_mm") + rise,
                ]
            )
            return np.linalg.norm(joint - fixed)

        change = np.array(
            [length(r) for r in np.linspace(-v("droop_mm"), v("bump_mm"), 331)]
        ) - length(0.0)
        self.assertAlmostEqual(
            finding(answer, "line.slip_inwards").value, v("slip_in_mm") + change.min(), delta=0.02
        )
        self.assertAlmostEqual(
            finding(answer, "line.slip_outwards").value, v("slip_out_mm") - change.max(), delta=0.02
        )
        # The first joint's angle, between the turned crank line and the line to the centre joint.
        output = carried(
            v,
            (
                v("separator_mm") + v("plate_mm") + v("gearbox_length_mm"),
                v("output_left_mm"),
                v("output_up_mm"),
            ),
        )
        crank = carried(v, (1.0, 0.0, 0.0)) - carried(v, (0.0, 0.0, 0.0))
        cos = crank @ (fixed - output) / np.linalg.norm(fixed - output)
        self.assertAlmostEqual(
            finding(answer, "line.angle.1").value, np.degrees(np.arccos(cos)), places=6
        )

    def test_the_pinion_joint_rides_on_the_axle_that_turns(self):
        """An axle on a pivot arm is one rigid body about the pivot: its joint, turned about it
        by a general library [6], against the slip that is told.
        """
        dims = {
            "pivot_forward_mm": "700",
            "pivot_up_mm": "60",
            "axle_drop_mm": "262",
            "pinion_drop_mm": "204",
        }
        made = demo(
            dims,
            options=demo().options
            | {
                "axle_guide": "pivot",
                "axle_attitude": "turns with its guide",
            },
        )
        v, answer = resolve(made).value, assess(made, ())
        fixed = np.array(
            [
                -v("centre_bearing_back_mm"),
                v("centre_bearing_left_mm"),
                -v("centre_bearing_drop_mm"),
            ]
        )
        axle = np.array([-v("wheelbase_mm"), 0.0, -262.0])
        joint, pivot = (
            np.array([-v("wheelbase_mm") + v("pinion_forward_mm"), v("pinion_left_mm"), -204.0]),
            axle + [700.0, 0.0, 60.0],
        )

        def length(rise):
            def carried_by(turn, point):
                return pivot + Rotation.from_euler("y", turn).apply(point - pivot)

            turn = brentq(lambda t: carried_by(t, axle)[2] - axle[2] - rise, -0.3, 0.3)
            return np.linalg.norm(carried_by(turn, joint) - fixed)

        change = np.array(
            [length(r) for r in np.linspace(-v("droop_mm"), v("bump_mm"), 331)]
        ) - length(0.0)
        self.assertAlmostEqual(
            finding(answer, "line.slip_inwards").value, v("slip_in_mm") + change.min(), delta=0.02
        )
        self.assertAlmostEqual(
            finding(answer, "line.slip_outwards").value, v("slip_out_mm") - change.max(), delta=0.02
        )
        # Joint and axle centre are two places: with the joint's height left out the slip would be
        # another.
        level = assess(demo(dims | {"axle_drop_mm": "204"}, options=made.options), ())
        self.assertGreater(
            abs(
                finding(level, "line.slip_outwards").value
                - finding(answer, "line.slip_outwards").value
            ),
            2.0,
        )

    def test_half_shafts_of_a_turned_crosswise_unit(self):
        dims = {
            "block_face_back_mm": 60,
            "crank_side_mm": 210,
            "crank_height_mm": -20,
            "roll_deg": 1.5,
            "inclination_deg": -0.8,
            "yaw_deg": 0.6,
            "plate_mm": 12,
            "separator_mm": 1,
            "gearbox_length_mm": 180,
            "output_left_mm": -60,
            "output_up_mm": -40,
            "inner_joint_half_mm": 90,
            "outer_joint_left_mm": 560,
            "outer_joint_drop_mm": 120,
            "driven_axle_back_mm": 5,
            "bump_mm": 60,
            "droop_mm": 80,
            "plunge_in_mm": 20,
            "plunge_out_mm": 20,
        }
        answer = assess(
            build(
                said(**{k: str(x) for k, x in dims.items()}),
                layout="crosswise left",
                options={
                    "drive": "half shafts",
                    "axle_guide": "fixed",
                    "wheel_guide": "rigid axle",
                },
            ),
            (),
        )
        v = dims.__getitem__
        # Crosswise with the accessory end to the left: the joint on the vehicle's left lies towards
        # the accessory end.
        for side, sign in (("left", 1.0), ("right", -1.0)):
            inner = carried(v, (193.0 - sign * 90.0, -60.0, -40.0), 90.0)
            outer = np.array([[-5.0, sign * 560.0, -120.0 + r] for r in np.linspace(-80, 60, 281)])
            across = outer - inner
            change = np.linalg.norm(across, axis=1) - np.linalg.norm(
                np.array([-5.0, sign * 560.0, -120.0]) - inner
            )
            angle = np.degrees(np.arccos(np.abs(across[:, 1]) / np.linalg.norm(across, axis=1)))
            self.assertAlmostEqual(
                finding(answer, f"line.half_angle.{side}").value, angle.max(), delta=0.01, msg=side
            )
            # The shortest place may lie between two of the places that are asked.
            self.assertAlmostEqual(
                finding(answer, f"line.plunge_in.{side}").value,
                20 + change.min(),
                delta=0.15,
                msg=side,
            )
            self.assertAlmostEqual(
                finding(answer, f"line.plunge_out.{side}").value,
                20 - change.max(),
                delta=0.01,
                msg=side,
            )


class Chain(unittest.TestCase):
    CASES = ((10, 48, 12.7, 234.0), (15, 15, 9.525, 300.0), (11, 44, 12.7, 500.0))

    def exact(self, n1, n2, p, c):
        """Length round two pitch circles by integrating the path. [pitches]"""
        r1, r2 = n1 * p / (2 * np.pi), n2 * p / (2 * np.pi)
        tilt = np.arcsin((r2 - r1) / c)
        arc1, arc2 = (
            quad(lambda _: r1, 0, np.pi - 2 * tilt)[0],
            quad(lambda _: r2, 0, np.pi + 2 * tilt)[0],
        )
        return (2 * np.sqrt(c**2 - (r2 - r1) ** 2) + arc1 + arc2) / p

    def test_length_in_pitches(self):
        """The handbook's formula is the first term of a series: exact for equal sprockets, 0.3 %
        off at the worst here.
        """
        for n1, n2, p, c in self.CASES:
            self.assertAlmostEqual(
                chain.length_pitches(c, p, n1, n2) / self.exact(n1, n2, p, c),
                1.0,
                delta=3e-3 if n1 != n2 else 1e-12,
            )

    def test_centre_distance_is_its_inverse(self):
        for n1, n2, p, c in self.CASES:
            wanted = np.ceil(chain.length_pitches(c, p, n1, n2))
            found = chain.centre_for(wanted, p, n1, n2)
            self.assertAlmostEqual(
                found,
                brentq(
                    lambda x, n=(p, n1, n2), w=wanted: chain.length_pitches(x, *n) - w,
                    c * 0.5,
                    c * 1.5,
                ),
                places=6,
            )

    def test_take_up_and_plane(self):
        """Where the chain is straight by root finding [3]; the plane by the angle between two
        vectors.
        """
        for n1, n2, p, c in self.CASES:
            links_ = round(self.exact(n1, n2, p, c))
            straight = brentq(
                lambda x, n=(n1, n2, p), w=links_: self.exact(*n, x) - w, c * 0.8, c * 1.3
            )
            self.assertAlmostEqual(
                chain.take_up_left(10.0, links_, p, c, n1, n2),
                10.0 - abs(straight - c),
                delta=0.0 * c + 2e-3 * c,
                msg=(n1, n2),
            )
            # Over the free span: the tangent to both pitch circles, found as the chord between two
            # points that are square to their radii.
            r1, r2 = (p / (2 * np.sin(np.pi / n)) for n in (n1, n2))
            tilt = brentq(lambda t, r=(r1, r2), far=c: far * np.sin(t) - (r[1] - r[0]), -1.5, 1.5)
            ends = np.array(
                [
                    [-r1 * np.sin(tilt), r1 * np.cos(tilt), 0.0],
                    [c - r2 * np.sin(tilt), r2 * np.cos(tilt), 0.0],
                ]
            )
            plane = ends[1] - ends[0]
            angle = np.degrees(
                np.arccos(
                    min(
                        1.0,
                        plane
                        @ (plane + [0, 0, 3.4])
                        / np.linalg.norm(plane)
                        / np.linalg.norm(plane + [0, 0, 3.4]),
                    )
                )
            )
            self.assertAlmostEqual(
                chain.plane_angle_deg(20.0, 23.4, chain.free_span(c, p, n1, n2)), angle, places=5
            )

    def test_road_speed(self):
        """3600 rpm, 10:48, wheel 114: 750 turns a minute of 0.358 m are 16.1 km/h."""
        self.assertAlmostEqual(
            chain.road_speed_kmh(3600, 1, 10, 48, 114), 750 * np.pi * 0.114 * 60 / 1000, places=9
        )
