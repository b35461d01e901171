"""The made plate: distances that prove it, holes as made, crank line, readings that lie."""

import unittest

import numpy as np

from pindo.core.assessment import assess
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.made import check_distances, made
from pindo.core.stations.mate.outline import plate_of
from tests.support import build, demo, drawn, face, hole, said

DIMS = {
    "plate_mm": "18",
    "window_mm": "240",
    "clocking_deg": "0",
    "outline_margin_mm": "8",
    "pocket_mm": "0",
}
EXACT = {"source": "measured", "tool": "digital calliper", "pm": "0.02"}
ENGINE = [
    hole(1, "0", "180", "M10", fastening="countersunk", recess="6", plate_hole="11"),
    hole(2, "150", "-100", "M10", fastening="countersunk", recess="6", plate_hole="11"),
    hole(3, "-150", "-100", "M10", fastening="countersunk", recess="6", plate_hole="11"),
    hole(21, "170", "30", "12", role="dowel"),
    hole(22, "-170", "30", "12", role="dowel"),
]
GEARBOX = [
    hole(1, "90", "160", "M10", fastening="tapped"),
    hole(21, "120", "-150", "14", role="dowel"),
    hole(22, "-120", "-150", "14", role="dowel"),
]


def of(proofs=(), options=None, **dims):
    return build(
        said(**(DIMS | dims)),
        engine_face=face(*ENGINE),
        gearbox_face=face(*GEARBOX),
        options={"coupling": "clutch and bellhousing"} | (options or {}),
        proofs=list(proofs),
    )


def places(moved):
    """Drawn places by label, some of them moved. [mm]"""
    found = {r.label: np.array([r.u, r.v]) for r in plate_of(resolve(of())).drilling}
    return found | {k: found[k] + np.array(v) for k, v in moved.items()}


def proofs(moved=None, over="centres", wrong=None, only=None):
    """The check distances of a plate with some holes moved, as a calliper reads them."""
    at = places(moved or {})
    size = {r.label: r.d for r in plate_of(resolve(of())).drilling}
    found = []
    for n, c in enumerate(check_distances(plate_of(resolve(of())).drilling), 1):
        far = float(np.hypot(*(at[c.a] - at[c.b])))
        half = (size[c.a] + size[c.b]) / 2
        far += {"centres": 0, "outside edges": half, "inside edges": -half}[over]
        far += (wrong or {}).get(n, 0.0)
        row = {"n": n, "a": c.a, "b": c.b, "over": over, "value": f"{far:.4f}", "evidence": EXACT}
        if only is None or c.a in only or c.b in only:
            found.append(row)
    return found


def ids(made_):
    return {f.id: f for f in assess(made_).findings if f.question == "mate.proving"}


class CheckDistances(unittest.TestCase):
    def test_every_hole_is_held_by_three_from_more_than_one_side(self):
        for build_ in (of(), demo()):
            rows = plate_of(resolve(build_)).drilling
            at = {r.label: np.array([r.u, r.v]) for r in rows}
            found = check_distances(rows)
            number = {label: k for k, label in enumerate(at)}
            lines = np.zeros((len(found), 2 * len(at)))
            for k, c in enumerate(found):
                unit = (at[c.a] - at[c.b]) / np.linalg.norm(at[c.a] - at[c.b])
                lines[k, 2 * number[c.a] :][:2] = unit
                lines[k, 2 * number[c.b] :][:2] = -unit
            # All of it is rigid, and well so: only the whole may shift and turn.
            strength = np.linalg.svd(lines)[1]
            self.assertGreater(sorted(strength)[-(2 * len(at) - 3)], 0.05)
            for label in at:
                self.assertGreaterEqual(sum(label in (c.a, c.b) for c in found), 3)

    def test_over_the_edges_the_drilled_diameters_count(self):
        (table,) = [t for t in drawn(of())["mate.proving"].tables if t.key == "check_distances"]
        size = {r.label: r.d for r in plate_of(resolve(of())).drilling}
        # M10 is drilled for its thread: 8.5.
        self.assertAlmostEqual(size["G1"], 8.5)
        for a, b, centres, outside, inside in (r.cells for r in table.rows):
            self.assertAlmostEqual(outside - centres, (size[a] + size[b]) / 2)
            self.assertAlmostEqual(centres - inside, (size[a] + size[b]) / 2)


class AsMade(unittest.TestCase):
    def test_a_plate_to_drawing_goes_over_centres_and_edges(self):
        for over in ("centres", "outside edges", "inside edges"):
            told = ids(of(proofs(over=over)))
            verdicts = {f.verdict for id, f in told.items() if id.startswith("mate.made.E")}
            self.assertEqual(verdicts, {Verdict.GOES}, over)
            self.assertEqual(told["mate.made.line"].verdict, Verdict.GOES)

    def test_a_screw_with_little_play_allows_no_more_than_that(self):
        # A reamed hole of 10.2 for M10 leaves 0.1, less than a hole by hand is allowed.
        shift = {"E1": (0.0, 0.18)}
        told = ids(of(proofs(shift)))["mate.made.E1"]
        self.assertEqual(told.verdict, Verdict.GOES)
        reamed = of(proofs(shift)).model_dump(mode="json")
        reamed["engine_face"]["holes"][0]["plate_hole"] = "10.2"
        told = ids(type(of()).model_validate(reamed))["mate.made.E1"]
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn("0.10 mm is allowed", told.sentence.mm)

    def test_a_moved_hole_comes_out_where_it_stands(self):
        moved = made(resolve(of(proofs({"E1": (0.5, -0.9)}))))
        off = {h.row.label: h for h in moved.holes}
        np.testing.assert_allclose(off["E1"].off, (0.5, -0.9), atol=0.02)
        np.testing.assert_allclose(off["E2"].off, (0, 0), atol=0.02)
        told = ids(of(proofs({"E1": (0.5, -0.9)})))["mate.made.E1"]
        # Play of M10 in 11 is 0.5.
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn("Open it to 13.1 mm, or slot it by 1.0 mm", told.sentence.mm)
        self.assertEqual(ids(of(proofs({"E1": (0.2, 0.1)})))["mate.made.E1"].verdict, Verdict.GOES)

    def test_a_dowel_has_the_making_tolerance_and_an_offset_one_as_its_cure(self):
        told = ids(of(proofs({"G21": (0.0, 0.4)})))["mate.made.G21"]
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn("offset dowel of 0.36 mm leaves 0.04 mm", told.sentence.mm)

    def test_dowels_that_are_off_together_shift_the_crank_line(self):
        both = {"G21": (0.3, 0.0), "G22": (0.3, 0.0)}
        told = ids(of(proofs(both)))["mate.made.line"]
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn("swing 0.60 mm", told.sentence.mm)
        self.assertIn("high at 3:00", told.sentence.mm)
        self.assertIn("Offset dowels of 0.36 mm", told.sentence.mm)
        # One up and one down turn the bell about its middle between them, below the axis.
        turned = made(resolve(of(proofs({"G21": (0.0, 0.12), "G22": (0.0, -0.12)})))).line
        self.assertAlmostEqual(turned.off, 0.001 * 150, delta=0.01)
        self.assertAlmostEqual(turned.towards_deg, 270, delta=1)

    def test_the_plate_is_laid_by_its_engine_dowels(self):
        # Both engine dowels off alike: every other hole is off the other way.
        moved = made(resolve(of(proofs({"E21": (0.2, 0.0), "E22": (0.2, 0.0)}))))
        off = {h.row.label: h.off for h in moved.holes}
        np.testing.assert_allclose(off["E21"], (0, 0), atol=0.02)
        np.testing.assert_allclose(off["E1"], (-0.2, 0), atol=0.02)

    def test_holes_that_nothing_was_read_of_are_named(self):
        told = ids(of(proofs(only={"E1"})))
        unread = told["mate.made.unread"].sentence.mm
        self.assertNotIn("E1,", unread)
        self.assertEqual(told["mate.made.unread"].verdict, Verdict.UNMEASURED)
        self.assertNotEqual(told["mate.made.line"].verdict, Verdict.GOES)


class Readings(unittest.TestCase):
    def test_each_is_held_to_the_drawing(self):
        rows = proofs(wrong={3: 0.4})
        told = ids(of(rows))
        self.assertEqual(told["mate.proof.3"].verdict, Verdict.FOULS)
        self.assertAlmostEqual(told["mate.proof.3"].value, 0.4, places=3)
        self.assertEqual(told["mate.proof.4"].verdict, Verdict.GOES)

    def test_one_that_the_others_contradict_is_asked_for_again(self):
        rows = proofs(wrong={3: 9.0})
        told = ids(of(rows))["mate.proof.3.suspect"]
        self.assertEqual((told.verdict, told.condition), (Verdict.UNMEASURED, "contradiction"))
        true = float(rows[2]["value"]) - 9.0
        self.assertIn(f"they expect {true:.2f} mm", told.sentence.mm)

    def test_a_hole_window_and_thickness_of_their_own(self):
        rows = [
            {"n": 1, "of": "hole", "a": "e1", "value": "11.3", "evidence": EXACT},
            {"n": 2, "of": "window", "value": "240.05", "evidence": EXACT},
            {"n": 3, "of": "thickness", "value": "18.3", "evidence": EXACT},
            {"n": 4, "of": "distance", "a": "E1", "b": "Q9", "value": "80", "evidence": EXACT},
        ]
        told = ids(of(rows))
        self.assertEqual(told["mate.proof.1"].verdict, Verdict.FOULS)
        self.assertEqual(told["mate.proof.2"].verdict, Verdict.GOES)
        self.assertEqual(told["mate.proof.3"].verdict, Verdict.FOULS)
        self.assertIn("Reading 4", told["mate.proof.lost"].sentence.mm)


class Bought(unittest.TestCase):
    def test_it_is_a_claim_until_it_is_measured(self):
        bought = {"plate_from": "bought"}
        self.assertEqual(ids(of((), bought))["mate.bought"].verdict, Verdict.UNMEASURED)
        self.assertNotIn("mate.bought", ids(of(())))
        thick = [
            {"n": 90 + i, "of": "thickness", "value": "18.02", "evidence": EXACT} for i in range(4)
        ]
        self.assertIn("none of its check", ids(of(thick, bought))["mate.bought"].sentence.mm)
        self.assertIn("3 of 4", ids(of([*proofs(), *thick[:3]], bought))["mate.bought"].sentence.mm)
        self.assertNotIn("mate.bought", ids(of([*proofs(), *thick], bought)))


if __name__ == "__main__":
    unittest.main()
