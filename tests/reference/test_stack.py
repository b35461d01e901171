"""Stack against solids laid out one on another in a general-purpose geometry library: common practice, no published source.

Each part is a rectangle pushed against the one before it, as it is on the bench; gaps and overlaps are then measured,
not computed. Reference: shapely, distance and intersection of the rectangles.
"""

import unittest

import numpy as np
from shapely import Point, affinity, box

from pindo.core.stack import interchange, spacing


def behind(part, width, gap=0.0):
    """A rectangle of a width that begins where a part ends."""
    at = part.bounds[2] + gap
    return box(at, 0.0, at + width, 10.0)


def gap(a, b):
    """Distance of b's front from a's rear, measured; negative when they stand in one another."""
    inside = a.intersection(b).bounds
    return -(inside[2] - inside[0]) if inside and inside[2] > inside[0] else a.distance(b)


def shared(a, b):
    return a.intersection(b).area / 10.0 if a.intersects(b) else -a.distance(b)


class Axial(unittest.TestCase):
    def test_every_engagement_and_gap_against_rectangles(self):
        draw = np.random.default_rng(5)
        for _ in range(60):
            lo = {"crank_flange_mm": 20, "crank_spacer_mm": 0, "flywheel_mm": 25, "separator_mm": 1, "plate_mm": 10, "shaft_tip_out_mm": -10, "nose_mm": 15, "nose_chamfer_mm": 0.5}
            hi = {"crank_flange_mm": 35, "crank_spacer_mm": 20, "flywheel_mm": 45, "separator_mm": 3, "plate_mm": 25, "shaft_tip_out_mm": 20, "nose_mm": 30, "nose_chamfer_mm": 2}
            v = {k: float(draw.uniform(lo[k], hi[k])) for k in lo}
            r = {
                k: float(draw.uniform(4, 40))
                for k in ("hub_front_mm", "hub_mm", "spline_start_mm", "spline_mm", "pilot_width_mm", "finger_height_mm", "ring_width_mm", "pinion_mm", "wear", "ring_front_mm", "starter_out_mm")
            }
            crank = box(0.0, 0.0, v["crank_flange_mm"], 10.0)
            spacer = behind(crank, v["crank_spacer_mm"])
            wheel = behind(spacer, v["flywheel_mm"])
            joint = behind(box(0.0, 0.0, v["separator_mm"], 10.0), v["plate_mm"])
            shaft = box(joint.bounds[2] - v["shaft_tip_out_mm"], 0.0, joint.bounds[2] - v["shaft_tip_out_mm"] + 300.0, 10.0)
            axial = [v[k] for k in ("separator_mm", "plate_mm", "shaft_tip_out_mm")]
            stack = [v[k] for k in ("crank_flange_mm", "crank_spacer_mm", "flywheel_mm")]
            sunk = 2.0
            for where, holder in (("crank", crank), ("spacer", spacer), ("flywheel", wheel)):
                bearing = box(holder.bounds[2] - sunk - r["pilot_width_mm"], 0.0, holder.bounds[2] - sunk, 10.0)
                nose = box(shaft.bounds[0] + v["nose_chamfer_mm"], 0.0, shaft.bounds[0] + v["nose_mm"], 10.0)
                said = spacing.pilot_engagement(*axial, v["nose_mm"], v["nose_chamfer_mm"], where, *stack, sunk, r["pilot_width_mm"])
                self.assertAlmostEqual(said, shared(nose, bearing), msg=where)
                said = spacing.shoulder_clearance(*axial, v["nose_mm"], where, *stack, sunk)
                self.assertAlmostEqual(said, gap(box(-500.0, 0.0, bearing.bounds[2], 10.0), behind(nose, 200.0)), msg=where)
            hub = behind(wheel, r["hub_mm"], r["hub_front_mm"])
            teeth = box(shaft.bounds[0] + r["spline_start_mm"], 0.0, shaft.bounds[0] + r["spline_start_mm"] + r["spline_mm"], 10.0)
            args = (*axial, r["spline_start_mm"], r["spline_mm"], *stack, r["hub_front_mm"], r["hub_mm"])
            self.assertAlmostEqual(spacing.spline_engagement_new(*args), shared(teeth, hub))
            worn = affinity.translate(hub, -r["wear"] / 2.0)
            self.assertAlmostEqual(spacing.spline_engagement_worn(*args, r["wear"]), shared(teeth, worn))
            fingers = behind(wheel, 0.001, r["finger_height_mm"] - 0.001)
            bearing = box(joint.bounds[2] + 70.0 - 4.0, 0.0, joint.bounds[2] + 300.0, 10.0)
            self.assertAlmostEqual(spacing.release_gap(*axial[:2], 70.0, 4.0, *stack, r["finger_height_mm"]), gap(box(-500.0, 0.0, fingers.bounds[2], 10.0), bearing))
            ring = behind(spacer, r["ring_width_mm"], r["ring_front_mm"])
            for where, face in (("engine", 0.0), ("plate", v["separator_mm"]), ("housing", joint.bounds[2])):
                pinion = box(face + r["starter_out_mm"] - r["pinion_mm"], 0.0, face + r["starter_out_mm"], 10.0)
                said = spacing.mesh_depth(where, "engine and bell", *axial[:2], r["starter_out_mm"], r["pinion_mm"], *stack[:2], r["ring_front_mm"], r["ring_width_mm"])
                self.assertAlmostEqual(said, shared(pinion, ring), msg=where)
                parked = box(-500.0, 0.0, face - 20.0, 10.0)
                self.assertAlmostEqual(spacing.parked_gap(where, "engine and bell", *axial[:2], -20.0, *stack[:2], r["ring_front_mm"]), gap(parked, box(ring.bounds[0], 0.0, 600.0, 10.0)), msg=where)
            wall = box(joint.bounds[2] + 150.0, 0.0, 900.0, 10.0)
            cover = behind(wheel, 60.0)
            self.assertAlmostEqual(spacing.cover_to_bell(*axial[:2], "engine and bell", 150.0, *stack, 60.0), gap(cover, wall))
            tube = box(joint.bounds[2] + 40.0, 0.0, 900.0, 10.0)
            self.assertAlmostEqual(spacing.guide_tube_gap(*axial[:2], 40.0, *stack, r["hub_front_mm"], r["hub_mm"]), gap(box(-500.0, 0.0, hub.bounds[2], 10.0), tube))


class Interchange(unittest.TestCase):
    def ring(self, diameter):
        return Point(0.0, 0.0).buffer(diameter / 2.0, 512)

    def test_bolts_in_the_holes_of_another_circle(self):
        """Six screws set into six holes; the least room round any of them, minus where one cuts the wall."""
        for crank, flywheel, screw, hole in ((96.0, 96.0, 12.0, 12.5), (96.0, 96.4, 12.0, 12.5), (95.2, 96.0, 12.0, 12.5), (110.0, 108.0, 10.0, 11.0)):
            room = []
            for turn in np.arange(6) * np.pi / 3.0:
                a, b = (Point(d / 2.0 * np.cos(turn), d / 2.0 * np.sin(turn)) for d in (crank, flywheel))
                room.append(b.buffer(hole / 2.0, 512).exterior.distance(a) - screw / 2.0)
            self.assertAlmostEqual(interchange.bolt_circle_play(crank, flywheel, screw, hole), min(room), delta=2e-3)

    def test_clearances_of_rings(self):
        """Twice the gap between two circles on one centre, minus where the inner one is the larger."""
        for f in (
            interchange.register_clearance,
            interchange.disc_on_face,
            interchange.nose_clearance,
            interchange.release_bore_clearance,
            interchange.spline_od_difference,
            interchange.pattern_difference,
        ):
            for outer, inner in ((80.05, 80.0), (282.0, 279.4), (19.9, 20.0)):
                gap_mm = self.ring(outer).exterior.distance(self.ring(inner).exterior) * (1.0 if outer > inner else -1.0)
                self.assertAlmostEqual(f(outer, inner), 2.0 * gap_mm, delta=2e-3, msg=f.__name__)
        self.assertAlmostEqual(interchange.bearing_press(35.03, 35.0), 2.0 * self.ring(35.03).exterior.distance(self.ring(35.0).exterior), delta=2e-3)


if __name__ == "__main__":
    unittest.main()
