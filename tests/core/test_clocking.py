"""Clocking: the whole turn against the checks at single angles, the ends of what goes, and what
turns with the gearbox.
"""

import math
import unittest

import numpy as np

from pindo.core.assessment import assess
from pindo.core.document.build import Build
from pindo.core.geometry.solids import pose_of
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.clear.gaps import straight_of
from pindo.core.stations.clear.states import pair_states
from pindo.core.stations.mate.clocking import STEP, swept
from pindo.core.stations.mate.turning import rooms
from tests.support import build, demo, drawn, face, finding, hole, ring_face, said, statement

ASKED = (
    "mate.spacing.",
    "mate.overlap.",
    "mate.edge.",
    "mate.pocket.",
    "mate.head_side.",
    "mate.head_sunk.",
    "mate.lands.",
)
PLATE = {
    "plate_mm": "18",
    "window_mm": "0",
    "clocking_deg": "0",
    "outline_margin_mm": "2",
    "pocket_mm": "0",
}
RNG = np.random.default_rng(5)


def ids(of):
    return {f.id: f for f in assess(of).findings}


def plate(engine, gearbox, options=None, **dims):
    choices = {"coupling": "clutch and bellhousing"} | (options or {})
    return build(said(**(PLATE | dims)), engine_face=engine, gearbox_face=gearbox, options=choices)


def goes_by_checks(made):
    asked = [f for f in assess(made).findings if f.id.startswith(ASKED)]
    return all(f.verdict == Verdict.GOES for f in asked)


def goes_by_turn(made):
    inputs = resolve(made)
    at = rooms(inputs, np.array([inputs.value("clocking_deg")]))
    return bool((at.room >= -1e-9).all())


def heads(angle):
    """Proud heads, one in a deep recess, two in shallow ones, and a hole that only the other
    casting's lands may keep from the edge.
    """
    engine = face(
        *(
            hole(n, f"{r * math.sin(t):.3f}", f"{r * math.cos(t):.3f}", "M10", **more)
            for n, r, t, more in (
                (1, 150, 0.1, {"fastening": "hex head", "land": "22"}),
                (2, 95, 1.4, {"fastening": "cap head", "recess": "10.6", "land": "15"}),
                (3, 150, 2.9, {"fastening": "countersunk", "recess": "3", "land": "22"}),
                (4, 150, 4.4, {"fastening": "cap head", "recess": "9", "land": "22"}),
            )
        )
    )
    tapped = {"land": "30", "fastening": "tapped"}
    gearbox = face(
        *(
            hole(n, f"{152 * math.sin(t):.3f}", f"{152 * math.cos(t):.3f}", "M10", **tapped)
            for n, t in ((1, 0.7), (2, 2.2), (3, 5.2))
        )
    )
    made = plate(engine, gearbox, outline_margin_mm="4")
    return turned(made, angle, "0.4")


def turned(of, angle, pm):
    """The same at another clocking, known to ``pm``. [deg]"""
    document = of.model_dump(mode="json")
    one = statement(f"{angle}", "drawing", pm=pm)
    document["dims"]["clocking_deg"] = {"statements": [one]}
    return Build.model_validate(document)


def angles(of, count):
    """Angles at random, and some close to every end."""
    found = swept(resolve(of))
    near = [e + d for s in found.stretches for e in (s.low, s.high) for d in (-0.06, 0.06)]
    return [*np.round(RNG.uniform(-180, 180, count), 2), *near]


class WholeTurn(unittest.TestCase):
    def test_it_says_what_the_checks_say_at_every_angle(self):
        for angle in angles(demo(), 5):
            made = demo({"clocking_deg": f"{angle:.4f}"})
            self.assertEqual(goes_by_turn(made), goes_by_checks(made), angle)

    def test_it_does_with_heads_recesses_and_narrow_lands(self):
        tried = [
            (goes_by_turn(heads(a)), goes_by_checks(heads(a)), a) for a in angles(heads(0), 40)
        ]
        for turn, checks, angle in tried:
            self.assertEqual(turn, checks, angle)
        # Both are there, or it would be no test.
        self.assertEqual({turn for turn, _, _ in tried}, {True, False})

    def test_a_pocket_of_the_housing_turns_and_one_of_the_engine_does_not(self):
        for on in ("housing", "engine"):
            both = set()
            for angle in range(-180, 180, 45):
                made = plate(
                    face(hole(1, "0", "150", "8", plate_hole="9")),
                    face(hole(1, "0", "-150", "8", fastening="tapped")),
                    {"starter_on": on},
                    pocket_u_mm="100",
                    pocket_v_mm="100",
                    pocket_mm="80",
                    clocking_deg=str(angle),
                )
                self.assertEqual(goes_by_turn(made), goes_by_checks(made), (on, angle))
                both.add(goes_by_turn(made))
            self.assertEqual(both, {True, False}, on)

    def test_ends_are_where_two_holes_come_too_near_by_the_closed_form(self):
        made = plate(
            face(hole(1, "0", "100", "10", plate_hole="11")),
            face(hole(1, "0", "100", "12", fastening="tapped")),
            clocking_deg="90 ± 0",
        )
        (s,) = swept(resolve(made)).stretches
        # Chord 2 R sin(t/2) = 2.2 x 12.
        end = math.degrees(2 * math.asin(2.2 * 12 / 200))
        self.assertAlmostEqual(s.low, end, delta=0.011)
        self.assertAlmostEqual(s.high, 360 - end, delta=0.011)
        self.assertEqual((s.before, s.after), ("holes E1 and G1", "holes E1 and G1"))
        self.assertAlmostEqual(abs(s.best), 180, delta=STEP)
        self.assertAlmostEqual(s.room, 200 - 2.2 * 12, delta=0.01)

    def test_doubt_of_angle_and_places_narrows_what_goes(self):
        def low(pm_turn, pm_place):
            evidence = {"source": "drawing", "pm": f"{pm_place}"}
            made = plate(
                face(hole(1, "0", "100", "10", plate_hole="11"), evidence=evidence),
                face(hole(1, "0", "100", "12", fastening="tapped")),
            )
            return swept(resolve(turned(made, 90, f"{pm_turn}"))).stretches[0].low

        end = math.degrees(2 * math.asin(2.2 * 12 / 200))
        self.assertAlmostEqual(low(2, 0), end + 2, delta=0.05)
        # Half a millimetre along the chord at 100 mm.
        self.assertAlmostEqual(low(0, 0.5), end + math.degrees(0.5 / 100), delta=0.02)


class Said(unittest.TestCase):
    def test_inside_outside_open_and_none(self):
        def of(clocking, engine=None):
            first = engine or hole(1, "0", "100", "10", plate_hole="11")
            dims = {} if clocking is None else {"clocking_deg": clocking}
            made = plate(face(first), face(hole(1, "0", "100", "12", fastening="tapped")), **dims)
            if clocking is None:
                del made.dims["clocking_deg"]
            return ids(made)

        inside = of("90")["mate.clocking.inside"]
        self.assertEqual(inside.verdict, Verdict.GOES)
        self.assertIn("ended by holes E1 and G1", inside.sentence.mm)
        outside = of("5")["mate.clocking.outside"]
        self.assertEqual(outside.verdict, Verdict.TIGHT)
        self.assertIn("At 5.0°", outside.sentence.mm)
        open_ = of(None)["mate.clocking.open"]
        self.assertEqual(open_.verdict, Verdict.UNMEASURED)
        self.assertEqual(open_.missing[0].address, "clocking_deg")
        near_axis = hole(1, "0", "2", "10", plate_hole="11")
        made = plate(face(near_axis), face(hole(1, "0", "4", "12", fastening="tapped")))
        none = ids(made)["mate.clocking.none"]
        self.assertEqual(none.verdict, Verdict.FOULS)

    def test_a_land_nobody_measured_is_not_passed_over(self):
        made = plate(
            face(hole(1, "0", "100", "M10", fastening="hex head", land="22")),
            face(hole(1, "0", "-100", "12", fastening="tapped")),
        )
        found = swept(resolve(made))
        self.assertEqual(found.unsaid, ("head of E1",))
        (s,) = found.stretches
        self.assertIn("not measured", s.before)
        self.assertFalse(
            goes_by_turn(plate(made.engine_face, made.gearbox_face, clocking_deg="180"))
        )

    def test_without_a_plate_nothing_turns(self):
        made = plate(ring_face(), ring_face(), plate_mm="0")
        self.assertIsNone(swept(resolve(made)))

    def test_chart_and_tables_show_the_stretches(self):
        board = drawn(demo())["mate.clocking"]
        (chart,) = board.charts
        found = swept(resolve(demo()))
        self.assertEqual(
            [(b.low, b.high) for b in chart.bands], [(s.low, s.high) for s in found.stretches]
        )
        self.assertEqual((len(chart.x), chart.at, chart.sets), (721, 0.0, "clocking_deg"))
        turned = {t.key: t for t in board.tables}["turned"]
        self.assertEqual([r.cells[1] for r in turned.rows], sorted(r.cells[1] for r in turned.rows))


class TurnsWithIt(unittest.TestCase):
    def test_the_output_joint_goes_round_the_crank(self):
        beside = {"output_left_mm": "100", "output_up_mm": "0", "roll_deg": "0"}
        still, turned = (
            finding(demo(beside | {"clocking_deg": t}), "line.angle.1") for t in ("0", "90")
        )
        # By 90 deg clockwise from behind what stood left stands above: as if it had been told so.
        above = finding(
            demo(beside | {"output_left_mm": "0", "output_up_mm": "100", "clocking_deg": "0"}),
            "line.angle.1",
        )
        self.assertAlmostEqual(turned.value, above.value, places=9)
        self.assertNotAlmostEqual(still.value, above.value, places=2)

    def test_a_joint_on_the_crank_axis_asks_for_no_clocking(self):
        made = demo({"output_left_mm": "0", "output_up_mm": "0"})
        self.assertNotIn("clocking_deg", finding(made, "line.angle.1").inputs)
        made = demo({"output_left_mm": "5", "output_up_mm": "0"})
        del made.dims["clocking_deg"]
        self.assertEqual(finding(made, "line.angle.1").verdict, Verdict.UNMEASURED)

    def test_bodies_of_the_gearbox_turn_and_their_gaps_know_how_fast(self):
        def gaps(angle):
            made = demo({"clocking_deg": angle})
            for s in made.solids:
                if s.body == "engine":
                    s.body = "gearbox"
            inputs = resolve(made)
            return inputs, {s.id: s for s in pair_states(inputs)}

        inputs, near = gaps("3")
        _, there = gaps("3.01")
        checked = 0
        for id, state in near.items():
            straight = straight_of(inputs, state, pose_of(inputs))
            slope = {a: g for a, _, g in straight.at}.get("clocking_deg", 0.0)
            self.assertAlmostEqual(
                (there[id].pair.distance - state.pair.distance) / 0.01, slope, delta=0.05
            )
            checked += abs(slope) > 0.2
        self.assertGreater(checked, 3)

    def test_without_a_clocking_nothing_of_the_gearbox_is_placed(self):
        made = demo()
        made.solids[0].body = "gearbox"
        del made.dims["clocking_deg"]
        told = ids(made)["clear.unplaced.clocking"]
        self.assertIn("clocking is not known", told.sentence.mm)


if __name__ == "__main__":
    unittest.main()
