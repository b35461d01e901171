"""Axes, signs, layouts, names of ends and sides."""

import unittest

import numpy as np

from pindo.core.geometry.frames import (
    SIDES,
    YAW_DEG,
    Pose,
    clocked,
    powertrain_from_face,
    side_in_vehicle,
    transform,
    vehicle_from_powertrain,
)
from pindo.core.inputs.faces import face_u


class Signs(unittest.TestCase):
    def test_positive_pitch_lowers_the_gearbox_end(self):
        (gearbox_end,) = transform(vehicle_from_powertrain(Pose(pitch_deg=3)), [(-1000, 0, 0)])
        np.testing.assert_allclose(gearbox_end, (-998.6295, 0, -52.3360), atol=1e-4)

    def test_positive_roll_is_the_clocking_sense(self):
        """Seen from behind the top of the unit goes to the right: vehicle right is -y."""
        (top,) = transform(vehicle_from_powertrain(Pose(roll_deg=90)), [(0, 0, 100)])
        np.testing.assert_allclose(top, (0, -100, 0), atol=1e-9)
        np.testing.assert_allclose(clocked(0, 100, 90), (100, 0), atol=1e-9)
        np.testing.assert_allclose(powertrain_from_face(100, 0, 0), (0, -100, 0))

    def test_a_pose_places_the_origin(self):
        (origin,) = transform(
            vehicle_from_powertrain(
                Pose(x_mm=-150, y_mm=12, z_mm=40, roll_deg=5, pitch_deg=3, yaw_deg=180)
            ),
            [(0, 0, 0)],
        )
        np.testing.assert_allclose(origin, (-150, 12, 40))

    def test_a_mouth_is_mirrored_on_entry(self):
        self.assertEqual((face_u(12.5, "front"), face_u(12.5, "behind")), (-12.5, 12.5))


class Layouts(unittest.TestCase):
    CASES = [
        # side | layout | words
        (1, "lengthwise", "accessory end = vehicle front"),
        (1, "reversed", "accessory end = vehicle rear"),
        (2, "reversed", "flywheel end = vehicle front"),
        (3, "reversed", "engine left = vehicle right"),
        (1, "crosswise left", "accessory end = vehicle left"),
        (1, "crosswise right", "accessory end = vehicle right"),
        (5, "crosswise left", "engine top"),
    ]

    def test_both_ends_are_named_in_every_layout(self):
        for number, layout, words in self.CASES:
            with self.subTest(layout=layout, side=number):
                self.assertEqual(side_in_vehicle(number, layout), words)

    def test_sides_have_numbers_and_aliases(self):
        self.assertEqual([s.number for s in SIDES], [1, 2, 3, 4, 5, 6])
        self.assertTrue(all(s.aliases for s in SIDES))
        self.assertEqual(
            set(YAW_DEG), {"lengthwise", "reversed", "crosswise left", "crosswise right"}
        )
