"""Holes of a casting from distances, through the whole road: readings typed, holes placed, what
they say of themselves, the plate that is made of them.
"""

import unittest
from itertools import combinations

import numpy as np

from pindo.core.acts import Add, Cell, Put, Renumber
from pindo.core.assessment import assess
from pindo.core.document.evidence import Source
from pindo.core.geometry.hole_network import pattern
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from tests.support import build, drawn, entered, finding, said

TRUE = {
    1: (-140.0, 95.0),
    2: (-20.0, 168.0),
    3: (112.0, 120.0),
    4: (158.0, -40.0),
    5: (70.0, -150.0),
    6: (-120.0, -118.0),
}
BORE = {1: 12.0, 2: 12.0, 3: 10.5, 4: 10.5, 5: 12.0, 6: 10.5}
REGISTER = 60.0
CALLIPER = {"tool": "digital calliper"}
PAIRS = tuple(combinations(TRUE, 2))


def far(a, b):
    p, q = (TRUE.get(n, (0.0, 0.0)) for n in (a, b))
    return float(np.hypot(p[0] - q[0], p[1] - q[1]))


def holes(**more):
    return [
        {"n": n, "d": "M10", "bore": str(BORE[n]), "backing": "metal", **more.get(f"h{n}", {})}
        for n in TRUE
    ]


def readings(pairs=PAIRS, over="centres", read=None, axis=(1, 3, 5)):
    """Readings of the true pattern to 0.01 mm; ``read`` says some otherwise."""
    rows = []
    for a, b in (*pairs, *((None, n) for n in axis)):
        half = sum(BORE.get(n, REGISTER) for n in (a, b)) / 2.0
        off = {"centres": 0.0, "outside edges": half, "inside edges": -half}[over]
        typed = (read or {}).get((a, b), f"{far(a, b) + off:.2f}")
        rows.append({"a": a, "b": b, "over": over, "value": typed, "evidence": CALLIPER})
    level = f"{TRUE[3][1] - TRUE[1][1]:.2f}"
    rows.append({"a": 1, "b": 3, "along": "up", "value": level, "evidence": CALLIPER})
    return [row | {"n": n} for n, row in enumerate(rows, 1)]


SAID = {"h2": {"lies": "above"}, "h3": {"lies": "right"}}


def of_face(rows=None, said=SAID, **more):
    face = {"register_d": str(REGISTER), "holes": holes(**said)}
    return build(engine_face=face | {"readings": readings() if rows is None else rows} | more)


def places(of, side="engine"):
    q = resolve(of).quantities
    return {n: (q[f"{side}.{n}.u"].value, q[f"{side}.{n}.v"].value) for n in TRUE}


def read_findings(of):
    return {f.id: f for f in assess(of).findings if f.id.startswith("mate.read.")}


class ThroughTheWholeRoad(unittest.TestCase):
    def test_distances_alone_place_every_hole_with_their_doubt_and_the_plate_follows(self):
        made = of_face()
        for n, place in places(made).items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.02)
        (agree,) = read_findings(made).values()
        self.assertEqual((agree.id, agree.verdict), ("mate.read.engine.agree", Verdict.GOES))
        self.assertIn("6 of 6 holes have a place, from 19 readings, 7 more", agree.sentence.mm)
        self.assertIn("Hole E", agree.sentence.mm)
        q = resolve(made).quantities["engine.3.u"]
        self.assertEqual(q.source, Source.MEASURED)
        self.assertTrue(q.parts and all("reading" in a for a in q.parts))
        found = pattern(resolve(made), "engine")
        at = found.numbers.index(3)
        self.assertAlmostEqual(
            q.pm, 2.0 * float(np.sqrt(found.answer.place_covariance(at)[0, 0])), places=9
        )
        # What is said of the plate rests on them.
        ids = {f.id for f in assess(made).findings}
        self.assertNotIn("mate.holes.engine", ids)

    def test_edges_are_read_with_the_holes_own_diameters_and_the_register(self):
        for over in ("outside edges", "inside edges"):
            with self.subTest(over):
                rows = readings(over=over)
                for n, place in places(of_face(rows)).items():
                    np.testing.assert_allclose(place, TRUE[n], atol=0.03)
        rows = readings(over="outside edges")
        bare = of_face(rows, SAID | {"h4": {"bore": None}})
        unread = finding(bare, "mate.read.engine.unread")
        self.assertEqual(unread.verdict, Verdict.UNMEASURED)
        self.assertIn("their own diameters where edges were read", unread.sentence.mm)
        self.assertIn("Hole E4 can still move", finding(bare, "mate.read.engine.loose").sentence.mm)
        self.assertEqual(places(bare)[4], (None, None))
        self.assertIn("mate.holes.engine", {f.id for f in assess(bare).findings})

    def test_a_face_from_the_front_is_mirrored_with_its_sides(self):
        said = {"h2": {"lies": "above"}, "h3": {"lies": "left"}}
        face = {
            "taken_from": "front",
            "register_d": str(REGISTER),
            "holes": holes(**said),
            "readings": readings(),
        }
        for n, place in places(build(gearbox_face=face), "gearbox").items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.02)

    def test_a_misreading_is_named_with_what_the_rest_expects_and_how_it_came(self):
        true = far(2, 5)
        typed = f"{true:.2f}"
        swapped = typed[0] + typed[2] + typed[1] + typed[3:]
        made = of_face(readings(read={(2, 5): swapped}))
        row = PAIRS.index((2, 5)) + 1
        bad = read_findings(made)[f"mate.read.engine.engine.reading{row}.value"]
        self.assertEqual((bad.verdict, bad.condition), (Verdict.UNMEASURED, "contradiction"))
        self.assertRegex(bad.sentence.mm, rf"^E2 to E5 was read .*; the rest says {true:.2f}")
        self.assertIn(f"two digits swapped: {typed}", bad.sentence.mm)
        self.assertEqual(bad.row, f"engine.reading{row}")
        for n, place in places(made).items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.05)

    def test_one_pair_read_twice_with_two_values_is_told(self):
        again = readings() + [{"n": 90, "a": 2, "b": 5, "value": "300", "evidence": CALLIPER}]
        bad = read_findings(of_face(again))["mate.read.engine.engine.reading90.value"]
        self.assertIn("the rest says", bad.sentence.mm)
        (picture,) = drawn(of_face(again))["mate.pattern"].drawings
        (line,) = [s for s in picture.shapes if s.part == "reading 90 contradicts"]
        np.testing.assert_allclose(line.points, (TRUE[2], TRUE[5]), atol=0.1)

    def test_what_is_open_is_said_and_no_hole_has_a_place_till_then(self):
        floating = [r for r in readings(axis=()) if r.get("along") != "up"]
        turns = of_face(floating)
        self.assertIn(
            "may still move or turn about the crank axis",
            finding(turns, "mate.read.engine.loose").sentence.mm,
        )
        self.assertEqual(set(places(turns).values()), {(None, None)})
        unsided = of_face(said={})
        self.assertIn("mate.read.engine.mirror", read_findings(unsided))
        self.assertEqual(places(unsided)[3], (None, None))
        # A side told along one axis says nothing of the other.
        right = of_face(said={"h3": {"lies": "right"}})
        told = finding(right, "mate.read.engine.turned").sentence.mm
        self.assertIn("stands as well turned by", told)
        self.assertEqual(places(right)[3], (None, None))
        # What is said of a side and what is read of it cannot both hold.
        belied = of_face(said=SAID | {"h1": {"lies": "left"}, "h3": {"lies": "left"}})
        (told,) = [f for id, f in read_findings(belied).items() if ".side." in id]
        self.assertEqual((told.verdict, told.condition), (Verdict.UNMEASURED, "contradiction"))
        self.assertEqual(set(places(belied).values()), {(None, None)})
        few = [p for p in PAIRS if 6 not in p] + [(1, 6), (2, 6)]
        twin = of_face(readings(few))
        told = finding(twin, "mate.read.engine.twin.6")
        self.assertIn("Hole E6 fits at two places; the distance E6 to ", told.sentence.mm)
        self.assertEqual(places(twin)[6], (None, None))
        # Both places are drawn, and one of them is the truth.
        (picture,) = drawn(twin)["mate.pattern"].drawings
        both = [(r.x, r.y) for r in picture.rounds if r.part == "two places"]
        self.assertEqual(len(both), 2)
        self.assertLess(min(np.hypot(x - TRUE[6][0], y - TRUE[6][1]) for x, y in both), 0.1)
        self.assertGreater(np.hypot(*np.subtract(*both)), 10)
        one = [p for p in PAIRS if 6 not in p] + [(1, 6)]
        loose = finding(of_face(readings(one)), "mate.read.engine.loose")
        self.assertIn("Hole E6 can still move", loose.sentence.mm)

    def test_coordinates_that_are_typed_join_the_distances(self):
        few = [p for p in PAIRS if 6 not in p] + [(1, 6), (2, 6)]
        said = SAID | {"h6": {"u": "-120.05", "evidence": CALLIPER}}
        for n, place in places(of_face(readings(few), said)).items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.1)
        # Without a distance they stand for themselves.
        alone = of_face([], SAID | {"h6": {"u": "-120.4", "v": "-118", "evidence": CALLIPER}})
        self.assertEqual(places(alone)[6], (-120.4, -118.0))
        off = SAID | {"h6": {"u": "-110", "evidence": CALLIPER}}
        told = read_findings(of_face(readings(), off)).values()
        (wrong,) = [f for f in told if f.condition == "contradiction"]
        # Only two readings hold the turn, and hardly anything checks them: it may be either.
        self.assertIn("E6, across", wrong.sentence.mm)
        self.assertIn("E1 to E3, up", wrong.sentence.mm)
        self.assertEqual(places(of_face(readings(), off))[4], (None, None))

    def test_readings_are_typed_renumbered_and_drawn(self):
        made = of_face([])
        made = entered(
            made,
            Add(list="engine_face.readings", row={"a": 1, "b": 2}),
            Cell(
                list="engine_face.readings",
                row=1,
                field="value",
                typed="5 1/2 in",
                tool="digital calliper",
            ),
            Put(list="engine_face.readings", row=1, field="over", value="inside edges"),
            Add(list="log", row={"name": "photo", "pin": "engine.2"}),
            Renumber(list="engine_face.holes", row=2, to=20),
        )
        self.assertEqual(made.log[0].pin, "engine.20")
        (row,) = made.engine_face.readings
        self.assertEqual((row.a, row.b, row.over), (1, 20, "inside edges"))
        q = resolve(made).quantities["engine.reading1.value"]
        self.assertAlmostEqual(q.value, 139.7)
        self.assertEqual(q.tool, "digital calliper")
        whole = drawn(of_face())["mate.pattern"]
        (face,) = whole.drawings
        self.assertEqual(sum(s.part == "doubt, 95 %" for s in face.shapes), len(TRUE))
        self.assertRegex(face.view, r"doubt drawn \d+ times")
        found = pattern(resolve(of_face()), "engine")
        worst = max(TRUE, key=found.longest)
        agree = finding(of_face(), "mate.read.engine.agree").sentence.mm
        self.assertIn(f"Hole E{worst} is the least sure", agree)
        # The gearbox' ellipses turn with its clocking: what lay across lies upright.
        said_ = {"h2": {"lies": "above"}, "h3": {"lies": "right"}}
        behind = {"taken_from": "behind", "register_d": str(REGISTER), "holes": holes(**said_)}
        turned = build(said(clocking_deg="90"), gearbox_face=behind | {"readings": readings()})
        straight = build(said(clocking_deg="0"), gearbox_face=behind | {"readings": readings()})
        wide = []
        for made in (straight, turned):
            (face_,) = drawn(made)["mate.pattern"].drawings
            drawn_ = [s for s in face_.shapes if s.part == "doubt, 95 %"]
            wide.append([np.ptp(np.array(s.points), axis=0) for s in drawn_])
        np.testing.assert_allclose(wide[1], np.array(wide[0])[:, ::-1], rtol=0.02)
        table = next(t for t in whole.tables if t.key == "readings_engine")
        self.assertEqual(len(table.rows), 19)
        self.assertAlmostEqual(sum(r.cells[3] for r in table.rows), 700.0, delta=0.01)


class SharedDiameters(unittest.TestCase):
    def test_a_diameter_that_was_misread_is_named_and_not_the_five_readings_over_it(self):
        rows = readings(over="outside edges")
        wrong = of_face(rows, SAID | {"h4": {"bore": "12.5", "evidence": CALLIPER}})
        told = [f for f in read_findings(wrong).values() if f.condition == "contradiction"]
        (bore,) = told
        self.assertRegex(
            bore.sentence.mm, r"^E4, its diameter was read 12.50 mm; the rest says 10.[45]"
        )
        self.assertEqual(bore.row, "engine.4")
        for n, place in places(wrong).items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.1)

    def test_a_doubt_of_it_is_shared_by_all_readings_over_it(self):
        def pm(bore_pm):
            evidence = {"source": "drawing", "pm": bore_pm}
            more = {f"h{n}": SAID.get(f"h{n}", {}) | {"evidence": evidence} for n in TRUE}
            q = resolve(of_face(readings(over="outside edges"), more)).quantities
            return q["engine.5.u"]

        # Ten diameters of 0.2 that moved by themselves would hardly show beside fifteen readings.
        self.assertIn("engine.5.bore", pm("0.2").parts)
        self.assertGreater(pm("0.2").pm, pm("0.01").pm)

    def test_a_diameter_without_any_doubt_keeps_the_others_in_sight(self):
        exact = {"evidence": {"source": "drawing", "pm": "0"}}
        more = {f"h{n}": SAID.get(f"h{n}", {}) | exact for n in TRUE}
        for n, place in places(of_face(readings(over="inside edges"), more)).items():
            np.testing.assert_allclose(place, TRUE[n], atol=0.05)


class BadInput(unittest.TestCase):
    def test_two_halves_that_nothing_joins(self):
        halves = [p for p in PAIRS if (p[0] <= 3) == (p[1] <= 3)]
        made = of_face(readings(halves, axis=(1, 2, 3)))
        told = finding(made, "mate.read.engine.loose").sentence.mm
        self.assertIn("E4, E5, E6", told)
        found = places(made)
        np.testing.assert_allclose(found[2], TRUE[2], atol=0.05)
        self.assertEqual({found[n] for n in (4, 5, 6)}, {(None, None)})

    def test_a_length_of_nought_a_bore_of_nought_and_what_is_no_number(self):
        for typed in ("0", "nan", "inf", "1e999", "-5", "a lot", "12..5"):
            with self.subTest(typed):
                rows = readings(read={(1, 2): typed})
                told = finding(of_face(rows), "mate.read.engine.unread")
                self.assertEqual(told.verdict, Verdict.UNMEASURED)
                # The others still place every hole.
                np.testing.assert_allclose(places(of_face(rows))[1], TRUE[1], atol=0.05)
        rows = readings(over="outside edges")
        flat = of_face(rows, SAID | {"h4": {"bore": "0"}})
        self.assertIn("mate.read.engine.unread", read_findings(flat))
        self.assertEqual(places(flat)[4], (None, None))

    def test_two_holes_at_one_place_are_no_crash_and_run_into_each_other(self):
        made = of_face()
        document = made.model_dump(mode="json")
        face = document["engine_face"]
        face["holes"].append(face["holes"][0] | {"n": 7})
        far_7 = [far(1, n) for n in (2, 3, 4)]
        face["readings"] += [
            {"n": 80 + i, "a": 7, "b": b, "value": f"{d:.2f}", "evidence": CALLIPER}
            for i, (b, d) in enumerate(zip((2, 3, 4), far_7, strict=True))
        ]
        face["readings"].append({"n": 90, "a": 1, "b": 7, "value": "0.01", "evidence": CALLIPER})
        same = made.model_validate(document)
        told = {f.id: f.verdict for f in assess(same).findings}
        self.assertEqual(told["mate.overlap.E1-E7"], Verdict.FOULS)
