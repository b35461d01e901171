"""Geometry against general libraries.

[1] scipy.spatial.transform.Rotation: intrinsic and extrinsic Euler angles. [2] shapely: distances
and hulls of polygons (GEOS), here with circles of 256 segments a quarter. [3] Plane rotation
matrices, closed form.
"""

import unittest

import numpy as np
import shapely
from scipy.spatial.transform import Rotation
from shapely.geometry import MultiPoint, Point

from pindo.core.assessment import assess
from pindo.core.geometry.frames import YAW_DEG, clocked, rotation
from pindo.core.inputs.resolve import resolve
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.outline import plate_of
from pindo.core.stations.mate.placing import placed_holes, placed_lands
from tests.support import demo, finding

FINE = 256


class Rotations(unittest.TestCase):
    def test_roll_pitch_yaw(self):
        """[1]: R = Rz(yaw) Ry(-pitch) Rx(roll) is 'xyz' about fixed axes, pitch with its sign
        turned.
        """
        rng = np.random.default_rng(20)
        for _ in range(50):
            roll, pitch, yaw = rng.uniform(-180, 180), rng.uniform(-80, 80), rng.uniform(-180, 180)
            expected = Rotation.from_euler("xyz", [roll, -pitch, yaw], degrees=True).as_matrix()
            np.testing.assert_allclose(rotation(roll, pitch, yaw), expected, atol=1e-12)
        self.assertEqual(YAW_DEG["reversed"], 180.0)

    def test_clocking(self):
        """[3]: clockwise is the negative angle of the plane's right-handed turn."""
        rng = np.random.default_rng(21)
        for _ in range(20):
            u, v, turn = *rng.uniform(-300, 300, 2), rng.uniform(-360, 360)
            a = -np.radians(turn)
            np.testing.assert_allclose(
                clocked(u, v, turn),
                np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]]) @ [u, v],
                atol=1e-9,
            )


class PlateAgainstShapely(unittest.TestCase):
    def setUp(self):
        self.inputs = resolve(demo({"clocking_deg": "4"}))
        self.answer = assess(demo({"clocking_deg": "4"}))
        self.holes = placed_holes(self.inputs)
        self.at = {h.label: h for h in self.holes}

    def test_every_spacing_and_overlap(self):
        for f in self.answer.findings:
            if f.id.startswith(("mate.spacing.", "mate.overlap.")):
                a, b = (self.at[x] for x in f.id.rpartition(".")[2].split("-"))
                metal = (
                    Point(a.u, a.v)
                    .buffer(a.plate_d / 2, FINE)
                    .distance(Point(b.u, b.v).buffer(b.plate_d / 2, FINE))
                )
                expected = (
                    metal + (a.plate_d + b.plate_d) / 2
                    if f.id.startswith("mate.spacing.")
                    else metal
                )
                self.assertAlmostEqual(f.value, expected, delta=1e-3, msg=f.id)

    def test_the_worst_pairs_are_the_ones_reported(self):
        """All pairs through shapely's tree: what is reported is the smallest of them."""
        points = [Point(h.u, h.v) for h in self.holes]
        room = min(
            a.distance(b) - 2.2 * max(x.plate_d, y.plate_d)
            for i, (a, x) in enumerate(zip(points, self.holes, strict=True))
            for b, y in list(zip(points, self.holes, strict=True))[i + 1 :]
        )
        reported = min(f.margin for f in self.answer.findings if f.id.startswith("mate.spacing."))
        self.assertAlmostEqual(reported, room, places=9)

    def test_the_outline_is_the_hull_of_the_lands_grown_by_the_margin(self):
        discs = [Point(h.u, h.v).buffer(h.land / 2, FINE) for h in self.holes]
        discs += [
            Point(x.u, x.v).buffer(x.d / 2, FINE)
            for side in ("engine", "gearbox")
            for x in placed_lands(self.inputs, side)
        ]
        exact = MultiPoint([p for d in discs for p in d.exterior.coords]).convex_hull.buffer(
            8, FINE
        )
        ours = shapely.Polygon(plate_of(self.inputs).outline)
        self.assertLess(ours.symmetric_difference(exact).area / exact.area, 2e-4)

    def test_edge_window_and_pocket_distances(self):
        outline = shapely.Polygon(plate_of(self.inputs).outline)
        window, opening = Point(0, 0).buffer(326 / 2, FINE), Point(-160, 62.6).buffer(62 / 2, FINE)
        checked = 0
        for f in self.answer.findings:
            shape = {
                "mate.edge": outline.exterior,
                "mate.window": window.exterior,
                "mate.pocket": opening.exterior,
            }.get(f.id.rpartition(".")[0])
            if shape is not None:
                h = self.at[f.id.rpartition(".")[2]]
                self.assertAlmostEqual(
                    abs(f.value), Point(h.u, h.v).distance(shape), delta=2e-3, msg=f.id
                )
                checked += 1
        self.assertGreaterEqual(checked, 3)

    def test_a_head_beside_the_other_casting(self):
        nib = next(x for x in placed_lands(self.inputs, "gearbox") if x.name == "drain nib")
        h = self.at["E9"]
        expected = (
            Point(h.u, h.v)
            .buffer(16 / np.cos(np.pi / 6) / 2, FINE)
            .distance(Point(nib.u, nib.v).buffer(nib.d / 2, FINE))
        )
        found = formulas.head_beside_land(
            h.u, h.v, 0.0, 16 / np.cos(np.pi / 6), nib.u, nib.v, 0.0, nib.d
        )
        self.assertAlmostEqual(found, expected, delta=1e-3)

    def test_what_a_recess_leaves_of_the_plate(self):
        left = (
            shapely.box(0, 0, 60, 18)
            .difference(shapely.box(20, 6.4, 40, 18))
            .intersection(shapely.box(25, 0, 35, 18))
        )
        self.assertAlmostEqual(
            formulas.recess_floor(18.0, 0.0, 11.6), left.bounds[3] - left.bounds[1], places=9
        )

    def test_the_demo_at_its_way_out(self):
        cured = (
            finding(assess(demo({"clocking_deg": "1.5"})), "mate.pocket.G9")
            if any(f.id == "mate.pocket.G9" for f in assess(demo({"clocking_deg": "1.5"})).findings)
            else None
        )
        self.assertTrue(cured is None or cured.verdict.value == "goes")
