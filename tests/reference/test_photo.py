"""Sizes read off a photo against cameras whose truth is known: a pinhole looks at a plane from any
side, and Pillow's perspective transform puts a picture straight. Pinhole model: Hartley and
Zisserman, Multiple View Geometry, 6.1.
"""

import math
import unittest

import numpy as np
from PIL import Image

from pindo.core.geometry.photo import TILT_SHARE, Known, NotSeen, in_plane, read_off

FOCAL, MIDDLE = 3000.0, (2000.0, 1500.0)


def camera(tilt_deg, turn_deg=0.0, away=1500.0):
    """Where a camera sees points of a plane: it looks at the origin from ``away`` mm."""
    a, b = math.radians(tilt_deg), math.radians(turn_deg)
    about_x = np.array([[1, 0, 0], [0, math.cos(a), -math.sin(a)], [0, math.sin(a), math.cos(a)]])
    about_z = np.array([[math.cos(b), -math.sin(b), 0], [math.sin(b), math.cos(b), 0], [0, 0, 1]])
    turn = about_x @ about_z

    def sees(points):
        flat = np.column_stack([np.asarray(points, float), np.zeros(len(points))])
        at = flat @ turn.T + (0.0, 0.0, away)
        return [(FOCAL * x / z + MIDDLE[0], FOCAL * y / z + MIDDLE[1]) for x, y, z in at]

    return sees


RECTANGLE = [(-150, -100), (150, -100), (150, 100), (-150, 100)]
HOLES = [(-90.0, 40.0), (120.0, -75.0)]


def ring(d, n=9):
    return [(d / 2 * math.cos(t), d / 2 * math.sin(t)) for t in np.linspace(0, 6.0, n)]


class Straight(unittest.TestCase):
    def test_four_corners_undo_any_perspective(self):
        truth = math.dist(*HOLES)
        for tilt in (0, 15, 35, 55):
            for turn in (0, 20, 130):
                sees = camera(tilt, turn)
                known = Known(points=sees(RECTANGLE), width=300.0, height=200.0)
                with self.subTest(tilt=tilt, turn=turn):
                    self.assertAlmostEqual(read_off(known, sees(HOLES), "length").value, truth, 6)
                    self.assertAlmostEqual(read_off(known, sees(ring(80)), "circle").value, 80, 6)
                    corner = [(60.0, 0.0), (0.0, 0.0), (0.0, 45.0)]
                    self.assertAlmostEqual(read_off(known, sees(corner), "angle").value, 90.0, 6)

    def test_a_picture_put_straight_by_another_library_agrees(self):
        sees = camera(30, 15)
        corners = np.array(sees(RECTANGLE))
        flat = np.array([(0, 0), (300, 0), (300, 200), (0, 200)], float)
        # Coefficients of Pillow's transform: from the straight picture back to the photo.
        rows = []
        for (u, v), (x, y) in zip(flat, corners, strict=True):
            rows += [[u, v, 1, 0, 0, 0, -x * u, -x * v], [0, 0, 0, u, v, 1, -y * u, -y * v]]
        found = np.linalg.solve(np.array(rows), corners.ravel())
        photo = Image.new("L", (4000, 3000))
        (x, y) = sees([HOLES[0]])[0]
        photo.paste(255, (int(x) - 9, int(y) - 9, int(x) + 10, int(y) + 10))
        straight = photo.transform((300, 200), Image.Transform.PERSPECTIVE, tuple(found))
        lit = np.argwhere(np.asarray(straight) > 128)
        known = Known(points=[tuple(c) for c in corners], width=300.0, height=200.0)
        ((u, v),) = in_plane(known, np.array([[x, y]]))
        self.assertLess(np.hypot(*(lit.mean(axis=0)[::-1] + 0.5 - (u, v))), 1.0)
        self.assertLess(math.dist((u - 150, v - 100), HOLES[0]), 1e-6)

    def test_the_doubt_holds_what_pixels_do(self):
        """Of 400 hands that pick to a pixel 95 of 100 lie within the ±, give or take 2.5."""
        rng = np.random.default_rng(20)
        sees = camera(25, 40)
        for what, points, truth in (
            ("length", HOLES, math.dist(*HOLES)),
            ("circle", ring(80, 6), 80.0),
            ("angle", [(60, 0), (0, 0), (0, 45)], 90.0),
        ):
            held = 0
            for _ in range(400):

                def picked(at):
                    return [tuple(np.array(p) + rng.normal(0, 1.0, 2)) for p in sees(at)]

                known = Known(points=picked(RECTANGLE), width=300.0, height=200.0)
                seen = read_off(known, picked(points), what)
                held += abs(seen.value - truth) <= seen.pm
            with self.subTest(what):
                self.assertAlmostEqual(held / 400, 0.95, delta=0.025)


class Scaled(unittest.TestCase):
    def test_a_known_length_scales_and_its_doubt_holds_a_tilt_that_nobody_saw(self):
        truth = math.dist(*HOLES)
        for tilt in (0, 5, 11):
            sees = camera(tilt)
            known = Known(points=sees([(-150, 0), (150, 0)]), width=300.0)
            seen = read_off(known, sees(HOLES), "length")
            with self.subTest(tilt):
                self.assertLessEqual(abs(seen.value - truth), seen.pm)
                self.assertGreater(seen.pm, TILT_SHARE * truth)
        ends = sees([(-150, 0), (150, 0)])
        tight = read_off(Known(points=ends, width=300.0), sees(HOLES), "length")
        coarse = read_off(Known(points=ends, width=300.0), sees(HOLES), "length", pick_px=4.0)
        tilted = TILT_SHARE * tight.value
        self.assertAlmostEqual((coarse.pm - tilted) / (tight.pm - tilted), 4.0, places=3)
        loose = read_off(
            Known(points=sees([(-150, 0), (150, 0)]), width=300.0, width_pm=6.0),
            sees(HOLES),
            "length",
        )
        # 2 % of the known length is 2 % of what is read.
        wide = math.hypot(tight.pm - TILT_SHARE * tight.value, 0.02 * tight.value)
        self.assertAlmostEqual(loose.pm, wide + TILT_SHARE * tight.value, places=3)

    def test_an_angle_holds_the_tilt_that_nobody_saw_wherever_it_lies(self):
        for turn in (0, 20, 45, 70):
            sees = camera(11, turn)
            known = Known(points=sees([(-150, 0), (150, 0)]), width=300.0)
            corner = [(600.0, 0.0), (0.0, 0.0), (0.0, 450.0)]
            seen = read_off(known, sees(corner), "angle")
            with self.subTest(turn):
                self.assertLessEqual(abs(seen.value - 90.0), seen.pm)

    def test_what_cannot_be_read_says_what_is_wanted(self):
        two = Known(points=[(0, 0), (100, 0)], width=50.0)
        square = [(0, 0), (100, 0), (100, 100), (0, 100)]
        for known, points, what, words in (
            (two, [(0, 0)], "length", "Pick 2 points"),
            (two, [(0, 0), (5, 5)], "angle", "Pick 3 points"),
            (two, [(0, 0), (5, 0), (10, 0)], "circle", "on a line"),
            (two, [(0, 0), (5, 0)], "volume", "no volume"),
            (two, [(0, 0), (math.nan, 0)], "length", "no number"),
            (Known(points=[(0, 0), (1, 0)], width=50.0), [(0, 0), (9, 9)], "length", "are one"),
            (Known(points=[(0, 0), (90, 0)], width=0.0), [(0, 0), (9, 9)], "length", "no size"),
            (Known(points=square, width=50.0), [(0, 0), (9, 9)], "length", "no size"),
            (
                Known(points=[(0, 0), (50, 0), (100, 0), (0, 90)], width=50.0, height=50.0),
                [(0, 0), (9, 9)],
                "length",
                "one line",
            ),
            (
                Known(points=[(0, 0), (100, 100), (100, 0), (0, 100)], width=50.0, height=50.0),
                [(0, 0), (99, 9)],
                "length",
                "cross",
            ),
        ):
            with self.subTest(words), self.assertRaisesRegex(NotSeen, words):
                read_off(known, points, what)
