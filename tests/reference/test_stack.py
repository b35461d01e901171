"""Stack against solids laid out one on another in a general-purpose geometry library: common
practice, no published source.

Each part is a rectangle pushed against the one before it, as it is on the bench; gaps and overlaps
are then measured, not computed. Reference: shapely, distance and intersection of the rectangles.
Every figure goes the whole road, from the document to the finding.
"""

import unittest

import numpy as np
from shapely import Point, affinity, box

from pindo.core.assessment import assess
from pindo.core.inputs.ranges import TOGETHER
from pindo.core.stations.stack import match
from tests.support import build, finding, said

LOW = {
    "crank_flange_mm": 20,
    "crank_spacer_mm": 0,
    "flywheel_mm": 25,
    "separator_mm": 1,
    "plate_mm": 10,
    "shaft_tip_out_mm": -10,
    "nose_mm": 15,
    "nose_chamfer_mm": 0.5,
    "pilot_sunk_mm": 0,
}
HIGH = {
    "crank_flange_mm": 35,
    "crank_spacer_mm": 20,
    "flywheel_mm": 45,
    "separator_mm": 3,
    "plate_mm": 25,
    "shaft_tip_out_mm": 20,
    "nose_mm": 30,
    "nose_chamfer_mm": 2,
    "pilot_sunk_mm": 4,
}
OTHERS = (
    "hub_front_mm",
    "hub_mm",
    "spline_start_mm",
    "spline_mm",
    "pilot_width_mm",
    "finger_height_mm",
    "ring_width_mm",
    "pinion_mm",
    "ring_front_mm",
    "starter_out_mm",
)
FIXED = {
    "disc_wear_mm": 3.0,
    "release_parked_mm": 70.0,
    "release_shim_mm": 4.0,
    "starter_parked_mm": -20.0,
    "bell_depth_mm": 150.0,
    "cover_height_mm": 60.0,
    "guide_tube_mm": 40.0,
    "lever_ratio": 2.0,
}


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


def upto(x):
    """Everything before a place."""
    return box(-500.0, 0.0, x, 10.0)


def stack(v, **options):
    """A build of these sizes, each said to be so however odd, without any doubt."""
    dims = {
        k: d | {"sure": "drawn"} for k, d in said(**{k: f"{x:.9f}" for k, x in v.items()}).items()
    }
    sure = {rule.key: "drawn" for rule in TOGETHER}
    return assess(build(dims, sure=sure, options=options), ())


class Axial(unittest.TestCase):
    def setUp(self):
        self.draw = np.random.default_rng(5)

    def sizes(self):
        v = {k: float(self.draw.uniform(LOW[k], HIGH[k])) for k in LOW}
        return v | {k: float(self.draw.uniform(4, 40)) for k in OTHERS} | FIXED

    def value(self, answer, name, expected, msg):
        self.assertAlmostEqual(finding(answer, f"stack.{name}").value, expected, places=6, msg=msg)

    def test_every_engagement_and_gap_against_rectangles(self):
        for turn in range(12):
            v = self.sizes()
            crank = box(0.0, 0.0, v["crank_flange_mm"], 10.0)
            spacer = behind(crank, v["crank_spacer_mm"])
            wheel = behind(spacer, v["flywheel_mm"])
            shield = box(0.0, 0.0, v["separator_mm"], 10.0)
            joint = behind(shield, v["plate_mm"])
            mouth = joint.bounds[2]
            tip = mouth - v["shaft_tip_out_mm"]
            where = ("crank", "spacer", "flywheel")[turn % 3]
            holder = {"crank": crank, "spacer": spacer, "flywheel": wheel}[where]
            face = ("engine", "plate", "housing")[turn % 3]
            flange = {"engine": 0.0, "plate": shield.bounds[2], "housing": mouth}[face]
            answer = stack(v, pilot_in=where, starter_on=face, release_type="stands off")
            rear = holder.bounds[2] - v["pilot_sunk_mm"]
            bearing = box(rear - v["pilot_width_mm"], 0.0, rear, 10.0)
            nose = box(tip + v["nose_chamfer_mm"], 0.0, tip + v["nose_mm"], 10.0)
            hub = behind(wheel, v["hub_mm"], v["hub_front_mm"])
            teeth = behind(upto(tip + v["spline_start_mm"]), v["spline_mm"])
            worn = affinity.translate(hub, -v["disc_wear_mm"] / 2.0)
            ring = behind(spacer, v["ring_width_mm"], v["ring_front_mm"])
            thrown = flange + v["starter_out_mm"]
            pinion = box(thrown - v["pinion_mm"], 0.0, thrown, 10.0)
            fingers = upto(wheel.bounds[2] + v["finger_height_mm"])
            parked = behind(joint, 300.0, v["release_parked_mm"] - v["release_shim_mm"])
            cover = behind(wheel, v["cover_height_mm"])
            expected = {
                "pilot_engagement": shared(nose, bearing),
                "shoulder_clearance": gap(upto(rear), behind(nose, 200.0)),
                "spline_new": shared(teeth, hub),
                "spline_worn": shared(teeth, worn),
                "release_gap": gap(fingers, parked),
                "starter_mesh": shared(pinion, ring),
                "starter_parked": gap(
                    upto(flange + v["starter_parked_mm"]), behind(upto(ring.bounds[0]), 300.0)
                ),
                "cover_to_bell": gap(cover, behind(joint, 300.0, v["bell_depth_mm"])),
                "guide_tube": gap(upto(hub.bounds[2]), behind(joint, 300.0, v["guide_tube_mm"])),
            }
            for name, value in expected.items():
                with self.subTest(name, turn=turn):
                    self.value(answer, name, value, f"{where}, {face}")

    def test_what_two_checks_share_they_share_with_its_doubt(self):
        """Release gap and guide tube both stand on mouth and friction face: each has the doubt of
        every reading once, sum of squares, and names the readings, not the derived places.
        """
        v = self.sizes()
        dims = {
            k: d | {"sure": "drawn"} for k, d in said(**{k: f"{x}" for k, x in v.items()}).items()
        }
        doubts = {"separator_mm": 0.2, "plate_mm": 0.3, "crank_flange_mm": 0.4, "flywheel_mm": 0.5}
        for key, pm in doubts.items():
            dims[key]["statements"][0]["pm"] = f"{pm}"
        sure = {rule.key: "drawn" for rule in TOGETHER}
        answer = assess(build(dims, sure=sure, options={"release_type": "stands off"}), ())
        together = float(np.sqrt(sum(pm**2 for pm in doubts.values())))
        for name in ("release_gap", "guide_tube", "cover_to_bell"):
            found = finding(answer, f"stack.{name}")
            self.assertAlmostEqual(found.u, together, places=9, msg=name)
            self.assertEqual({s.address for s in found.shares}, set(doubts), name)


class Interchange(unittest.TestCase):
    def ring(self, diameter):
        return Point(0.0, 0.0).buffer(diameter / 2.0, 512)

    def test_bolts_in_the_holes_of_another_circle(self):
        """Six screws set into six holes; the least room round any of them, minus where one cuts
        the wall.
        """
        for crank, flywheel, screw, hole in (
            (96.0, 96.0, 12.0, 12.5),
            (96.0, 96.4, 12.0, 12.5),
            (95.2, 96.0, 12.0, 12.5),
            (110.0, 108.0, 10.0, 11.0),
        ):
            room = []
            for turn in np.arange(6) * np.pi / 3.0:
                a, b = (
                    Point(d / 2.0 * np.cos(turn), d / 2.0 * np.sin(turn)) for d in (crank, flywheel)
                )
                room.append(b.buffer(hole / 2.0, 512).exterior.distance(a) - screw / 2.0)
            self.assertAlmostEqual(
                match.bolt_circle_play(crank, flywheel, screw, hole), min(room), delta=2e-3
            )

    def test_clearances_of_rings(self):
        """Twice the gap between two circles on one centre, minus where the inner one is the
        larger.
        """
        for f in (
            match.register_clearance,
            match.disc_on_face,
            match.nose_clearance,
            match.release_bore_clearance,
            match.spline_od_difference,
            match.pattern_difference,
        ):
            for outer, inner in ((80.05, 80.0), (282.0, 279.4), (19.9, 20.0)):
                gap_mm = self.ring(outer).exterior.distance(self.ring(inner).exterior) * (
                    1.0 if outer > inner else -1.0
                )
                self.assertAlmostEqual(f(outer, inner), 2.0 * gap_mm, delta=2e-3, msg=f.__name__)
        self.assertAlmostEqual(
            match.bearing_press(35.03, 35.0),
            2.0 * self.ring(35.03).exterior.distance(self.ring(35.0).exterior),
            delta=2e-3,
        )


if __name__ == "__main__":
    unittest.main()
