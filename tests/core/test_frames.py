"""Axes, signs, layouts, names of ends and sides."""

import unittest
from typing import get_args

import numpy as np

from pindo.core.document.build import Layout
from pindo.core.geometry.frames import (
    SIDES,
    VEHICLE_SIDES,
    YAW_DEG,
    Pose,
    clocked,
    powertrain_from_face,
    side_in_vehicle,
    spoken_side,
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
        ("accessory_end", "lengthwise", "accessory end = vehicle front"),
        ("accessory_end", "reversed", "accessory end = vehicle rear"),
        ("flywheel_end", "reversed", "flywheel end = vehicle front"),
        ("engine_left", "reversed", "engine left = vehicle right"),
        ("accessory_end", "crosswise left", "accessory end = vehicle left"),
        ("accessory_end", "crosswise right", "accessory end = vehicle right"),
        ("engine_top", "crosswise left", "engine top"),
        ("accessory_end", "", "accessory end"),
    ]

    def test_both_ends_are_named_in_every_layout(self):
        for key, layout, words in self.CASES:
            with self.subTest(layout=layout, side=key):
                self.assertEqual(side_in_vehicle(key, layout), words)

    def test_sides_have_numbers_and_aliases(self):
        self.assertEqual([s.number for s in SIDES], [1, 2, 3, 4, 5, 6])
        self.assertTrue(all(s.aliases for s in SIDES))
        self.assertEqual([s.number for s in VEHICLE_SIDES], [7, 8, 9, 10])
        self.assertEqual(set(YAW_DEG), set(get_args(Layout)))
        named = {"accessory_end": "timing end", "vehicle_rear": "boot"}
        self.assertEqual(
            side_in_vehicle("accessory_end", "reversed", named),
            "accessory end “timing end” = vehicle rear “boot”",
        )

    def test_left_and_right_are_somebodys_who_stands_somewhere(self):
        for said, viewpoint, layout, meant, looks in (
            ("left", "driver's seat", "reversed", "vehicle left", "vehicle left"),
            ("left", "in front, looking back", "reversed", "vehicle right", "vehicle right"),
            ("left", "the flywheel end", "lengthwise", "engine left", "vehicle left"),
            ("left", "the flywheel end", "reversed", "engine left", "vehicle right"),
            ("right", "the accessory end", "lengthwise", "engine left", "vehicle left"),
            ("right", "the flywheel end", "crosswise left", "engine right", "vehicle front"),
            ("left", "the accessory end", "", "engine right", None),
        ):
            with self.subTest(said=said, viewpoint=viewpoint, layout=layout):
                side, seen = spoken_side(said, viewpoint, layout)
                self.assertEqual(side.name, meant)
                self.assertEqual(seen and seen.name, looks)
