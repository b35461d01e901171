"""Trim of a part and the starter's window: lines against closed forms, verdicts, outputs."""

import io
import math
import unittest

import ezdxf
import numpy as np
import shapely

from pindo.core.assessment import assess
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.notches import plate_to_cut
from pindo.core.stations.mate.starter import along_way, window
from pindo.core.stations.mate.trim_cut import narrowest, trim, trimmed
from pindo.formats.dxf import plate_dxf
from tests.support import build, drawn, ring_face, said

CLUTCHED = {"coupling": "clutch and bellhousing"}
EXACT = {"source": "drawing", "pm": "0"}


def outline(n, role, points, across=None, pm="0", **more):
    return {
        "n": n,
        "name": f"O{n}",
        "role": role,
        "across": across,
        "points": [{"n": i, "x": f"{x}", "y": f"{y}"} for i, (x, y) in enumerate(points, 1)],
        "evidence": EXACT | {"pm": pm},
        **more,
    }


COVER = outline(1, "part to trim", ((0, 0), (200, 0), (200, 100), (0, 100)))


def housing(r=40.0, pm="0", y=100.0, gap="5"):
    return outline(2, "stays clear", ((100, y),), f"{2 * r}", pm, gap=gap)


def of(*outlines, options=None, **more):
    dims = said(**more.pop("dims", {}))
    return build(dims, outlines=list(outlines), options=CLUTCHED | (options or {}), **more)


def ids(made, question="mate.trim"):
    return {f.id: f for f in assess(made).findings if f.question == question}


class CutLine(unittest.TestCase):
    def test_the_part_is_cut_by_what_stays_clear_grown_by_the_gap(self):
        found = trim(resolve(of(COVER, housing())))
        # A half disc of 45 goes; 44 of it in the first cut, which leaves 1 mm for the file.
        self.assertAlmostEqual(found.part.area - found.left.area, math.pi / 2 * 45**2, delta=2)
        self.assertAlmostEqual(found.part.area - found.rough.area, math.pi / 2 * 44**2, delta=2)
        self.assertAlmostEqual(found.left.distance(found.keep), 5, delta=0.01)
        self.assertAlmostEqual(found.neck, 55, delta=0.05)

    def test_the_narrowest_metal_is_held_to_its_limit_with_the_doubt_of_both_lines(self):
        for r, pm, verdict in (
            (40, "0", Verdict.GOES),
            (91, "0", Verdict.FOULS),
            (89, "2", Verdict.TIGHT),
        ):
            told = ids(of(COVER, housing(r, pm)))["mate.trim.rim"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn(f"is {95 - r:.1f} mm", told.sentence.mm)
        self.assertIn("± 2.2", ids(of(COVER, housing(89, "2")))["mate.trim.rim"].sentence.mm)

    def test_a_part_in_pieces_one_that_is_gone_and_one_that_stands_clear(self):
        through = outline(2, "stays clear", ((90, -50), (110, -50), (110, 150), (90, 150)), gap="5")
        told = ids(of(COVER, through))["mate.trim.rim"]
        self.assertEqual(
            (told.verdict, told.sentence.mm), (Verdict.FOULS, "The cut takes the part in pieces")
        )
        over = outline(2, "stays clear", ((-9, -9), (300, -9), (300, 300), (-9, 300)), gap="5")
        self.assertIn("Nothing is left", ids(of(COVER, over))["mate.trim.rim"].sentence.mm)
        away = housing(10, y=300)
        self.assertIn("stands clear as it is", ids(of(COVER, away))["mate.trim.rim"].sentence.mm)

    def test_what_stands_clear_by_less_than_its_doubt_is_tight(self):
        # A circle of 10 whose nearest point is 2 mm farther off than its gap of 5.
        far = outline(3, "stays clear", ((100, 400),), "20", gap="5")
        for pm, verdict in (("1", Verdict.GOES), ("3", Verdict.TIGHT)):
            told = ids(of(COVER, housing(10, pm, y=117), far))["mate.trim.rim"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn("by 2.0 mm more than its gap", told.sentence.mm)
        # Half a millimetre into its gap it is cut, and the narrowest metal is told.
        self.assertNotIn(
            "stands clear", ids(of(COVER, housing(10, y=114.5)))["mate.trim.rim"].sentence.mm
        )

    def test_a_strip_or_a_tongue_has_no_neck_and_is_thin_all_the_same(self):
        def told(*keep):
            return ids(
                of(COVER, *(outline(n, "stays clear", k, gap="0") for n, k in enumerate(keep, 2)))
            )

        strip = ((-10, 3), (210, 3), (210, 120), (-10, 120))
        self.assertEqual(told(strip)["mate.trim.thin"].verdict, Verdict.FOULS)
        self.assertNotIn("mate.trim.rim", told(strip))
        # A tongue of 4 mm beside a broad body: 80 mm long.
        tongue = ((100, 4), (210, 4), (210, 120), (100, 120))
        self.assertEqual(told(tongue)["mate.trim.thin"].verdict, Verdict.FOULS)
        broad = ((100, 8), (210, 8), (210, 120), (100, 120))
        self.assertNotIn("mate.trim.thin", told(broad))
        # Traced to a millimetre and a half it may be thinner than it looks.
        doubted = outline(
            2, "stays clear", ((100, 6), (210, 6), (210, 120), (100, 120)), pm="1.5", gap="0"
        )
        self.assertEqual(ids(of(COVER, doubted))["mate.trim.thin"].verdict, Verdict.TIGHT)
        # Corners are no thin metal.
        self.assertNotIn("mate.trim.thin", ids(of(COVER, housing())))

    def test_a_ring_is_as_narrow_as_its_thinnest_side(self):
        disc = shapely.Point(0, 0).buffer(100, 128)
        even = disc.difference(shapely.Point(0, 0).buffer(60, 128))
        self.assertAlmostEqual(narrowest(even), 40, delta=0.2)
        aside = disc.difference(shapely.Point(20, 0).buffer(60, 128))
        self.assertAlmostEqual(narrowest(aside), 20, delta=0.1)
        self.assertIsNone(narrowest(disc))

    def test_metal_round_a_bolt_boss(self):
        for y, verdict in ((40, Verdict.GOES), (49, Verdict.FOULS)):
            boss = outline(3, "bolt boss", ((100, y),), "10")
            told = ids(of(COVER, housing(), boss))["mate.trim.boss.3"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn(f"stands {55 - y:.1f} mm", told.sentence.mm)
        gone = outline(3, "bolt boss", ((100, 80),), "10")
        told = ids(of(COVER, housing(), gone))["mate.trim.boss.3"]
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn("takes the middle", told.sentence.mm)

    def test_what_is_wanting_is_told(self):
        self.assertEqual(ids(of()), {})
        told = ids(of(COVER))["mate.trim.wanting"]
        self.assertIn("an outline that is “stays clear”", told.sentence.mm)
        told = ids(of(COVER, housing(gap=None)))["mate.trim.wanting"]
        self.assertIn("the gap round O2", told.sentence.mm)
        self.assertEqual(told.row, "outlines.2")
        crossed = outline(1, "part to trim", ((0, 0), (9, 9), (9, 0), (0, 9)))
        half = outline(4, "part to trim", ((0, 0), (9, 9)))
        told = ids(of(crossed, housing(), half))
        self.assertIn("without crossing", told["mate.trim.open.1"].sentence.mm)
        self.assertIn("mate.trim.open.4", told)
        self.assertNotIn("mate.trim.rim", told)


class Outputs(unittest.TestCase):
    def test_the_drawing_holds_both_lines_and_the_locating_holes(self):
        pin = outline(5, "locating hole", ((20, 20),), "8")
        plate = trimmed(resolve(of(COVER, housing(), pin)))
        doc = ezdxf.read(io.StringIO(plate_dxf(plate, "x").decode()))
        layers = {e.dxf.layer: e for e in doc.modelspace() if e.dxftype() == "LWPOLYLINE"}
        self.assertEqual(set(layers), {"OUTLINE", "FIRST_CUT"})
        self.assertTrue(all(e.closed for e in layers.values()))
        cut = shapely.Polygon([p[:2] for p in layers["OUTLINE"].get_points()])
        self.assertAlmostEqual(20000 - cut.area, math.pi / 2 * 45**2, delta=2)
        (hole,) = [e for e in doc.modelspace() if e.dxftype() == "CIRCLE"]
        at = (hole.dxf.center.x, hole.dxf.center.y, hole.dxf.radius)
        np.testing.assert_allclose(at, (20, 20, 4), atol=1e-9)
        self.assertIsNone(trimmed(resolve(of(COVER))))

    def test_the_picture_shows_every_outline_and_the_cut(self):
        (picture,) = drawn(of(COVER, housing()))["mate.trim"].drawings
        self.assertEqual({s.part for s in picture.shapes}, {"O1", "O2", "cut line", "first cut"})


BODY = outline(7, "starter body", ((-150, -30), (-90, -30), (-90, 30), (-150, 30)))
DIMS = {
    "plate_mm": "18",
    "window_mm": "0",
    "clocking_deg": "0",
    "outline_margin_mm": "8",
    "pocket_mm": "0",
    "pocket_u_mm": "-120",
    "pocket_v_mm": "0",
}


def starter(options=None, body=BODY, **dims):
    return of(
        body,
        dims=DIMS | dims,
        options=options,
        engine_face=ring_face(),
    )


class StarterWindow(unittest.TestCase):
    def test_the_body_is_swept_along_its_way_and_grown_by_its_room(self):
        straight, _ = window(resolve(starter()))
        # 60 x 60 with 3 mm all round, its corners round.
        self.assertAlmostEqual(straight.area, 66 * 66 - (4 - math.pi) * 9, delta=0.05)
        aslant, _ = window(resolve(starter(body=BODY | {"way_y": "40"})))
        self.assertAlmostEqual(aslant.area, 66 * 106 - (4 - math.pi) * 9, delta=0.05)
        np.testing.assert_allclose(aslant.bounds, (-153, -33, -87, 73), atol=1e-6)

    def test_a_body_that_is_hollow_on_its_way_is_swept_all_along(self):
        corner = shapely.Polygon([(0, 0), (30, 0), (30, 10), (10, 10), (10, 30), (0, 30)])
        swept = along_way(corner, (100.0, 0.0))
        self.assertAlmostEqual(swept.area, 10 * 130 + 20 * 110)

    def test_it_is_held_to_pocket_holes_and_rim(self):
        told = ids(starter(pocket_mm="100"), "mate.starter")["mate.starter_window.pocket"]
        far = math.hypot(30, 30) + 3
        self.assertEqual(told.verdict, Verdict.GOES)
        self.assertIn(f"{50 - far:.1f} mm", told.sentence.mm)
        told = ids(starter(pocket_mm="80"), "mate.starter")["mate.starter_window.pocket"]
        self.assertEqual(told.verdict, Verdict.FOULS)
        self.assertIn(f"by {far - 40:.1f} mm", told.sentence.mm)
        near = outline(7, "starter body", ((-190, -30), (-150, -30), (-150, 30), (-190, 30)))
        told = ids(starter(body=near), "mate.starter")
        self.assertEqual(told["mate.starter_window.E8"].verdict, Verdict.FOULS)

    def test_the_plate_that_is_left_beside_it(self):
        # Holes at 200 and lands of 20 with a margin of 8: the hull's left side stands near -218.
        def told(left, **dims):
            box = ((left, -9), (left + 30, -9), (left + 30, 9), (left, 9))
            return ids(starter(body=outline(7, "starter body", box), **dims), "mate.starter")

        # 3 mm of room all round: from -153 to -117 beside a window of 220 or 228.
        for window_mm, verdict in (("220", Verdict.GOES), ("228", Verdict.FOULS)):
            found = told(-150, window_mm=window_mm)["mate.starter_window.window"]
            self.assertEqual(found.verdict, verdict)
            self.assertIn(f"{117 - float(window_mm) / 2:.1f} mm is left", found.sentence.mm)
        # One that runs into the window has no bridge beside it.
        self.assertNotIn("mate.starter_window.window", told(-150, window_mm="240"))
        for u, verdict in (("-80", Verdict.GOES), ("-84", Verdict.FOULS)):
            found = told(-150, pocket_mm="60", pocket_u_mm=u)["mate.starter_window.pocket"]
            self.assertIn("stands out of the round pocket", found.sentence.mm)
            left = told(-150, pocket_mm="60", pocket_u_mm=u)["mate.starter_window.beside_pocket"]
            self.assertEqual(left.verdict, verdict)

    def test_a_way_that_does_not_stand_leaves_no_window(self):
        lost = BODY | {"way_y": "some"}
        self.assertIsNone(window(resolve(starter(body=lost))))
        told = ids(starter(body=lost), "mate.starter")
        self.assertEqual(told["mate.starter_way.7"].verdict, Verdict.UNMEASURED)
        self.assertNotIn("mate.starter_way.7", ids(starter(), "mate.starter"))

    def test_bolts_come_out_again(self):
        for room, verdict in (("90", Verdict.GOES), ("60", Verdict.FOULS)):
            sides = {"starter_bolts_from": "the engine's side"}
            made = starter(sides, starter_bolt_mm="45", starter_bolt_room_mm=room)
            told = ids(made, "mate.starter")["mate.starter_bolt"]
            self.assertEqual((told.verdict, told.low), (verdict, 70))
        half = ids(starter(sides, starter_bolt_mm="45"), "mate.starter")["mate.starter_bolt"]
        self.assertEqual(half.verdict, Verdict.UNMEASURED)

    def test_a_trial_without_the_flywheel_proves_no_mesh_and_its_face_is_asked_for(self):
        told = ids(starter({"starter_tried": "flywheel off"}), "mate.starter")
        self.assertEqual(told["mate.starter_mesh"].verdict, Verdict.UNMEASURED)
        self.assertIn("not its mesh", told["mate.starter_mesh"].sentence.mm)
        self.assertEqual(told["mate.starter_face"].verdict, Verdict.UNMEASURED)
        said_ = ids(
            starter({"starter_tried": "flywheel on", "starter_on": "plate"}), "mate.starter"
        )
        self.assertFalse({"mate.starter_mesh", "mate.starter_face"} & set(said_))

    def test_the_plate_is_cut_by_its_line(self):
        plate = plate_to_cut(resolve(starter()))
        doc = ezdxf.read(io.StringIO(plate_dxf(plate, "x").decode()))
        (line,) = [
            e for e in doc.modelspace() if e.dxftype() == "LWPOLYLINE" and e.dxf.layer == "WINDOW"
        ]
        cut = shapely.Polygon([p[:2] for p in line.get_points()])
        self.assertAlmostEqual(cut.area, 66 * 66 - (4 - math.pi) * 9, delta=0.05)


class Notches(unittest.TestCase):
    def told(self, points):
        made = starter(body=outline(9, "notch in the plate", points))
        return made, ids(made, "mate.plate")

    def test_a_notch_is_cut_out_of_the_plate_and_held_off_its_holes(self):
        # Hole E4 stands at (200, 0): its plate hole is 10, 12 are wanted.
        for right, verdict in ((186.0, Verdict.GOES), (190.0, Verdict.FOULS)):
            box = ((150, -20), (right, -20), (right, 20), (150, 20))
            made, told = self.told(box)
            self.assertEqual(told["mate.notch.9.E4"].verdict, verdict)
            self.assertIn(f"stands {200 - right:.1f} mm", told["mate.notch.9.E4"].sentence.mm)
            self.assertNotIn("mate.notch.9.E1", told)
        plate = plate_to_cut(resolve(made))
        self.assertEqual([set(line) for line in plate.lines], [set(box)])
        (picture,) = drawn(made)["mate.plate"].drawings
        self.assertIn(("O9", "opening"), [(s.part, s.style) for s in picture.shapes])
        # It is no part of a trim.
        self.assertEqual(ids(made), {})

    def test_a_thin_bridge_to_the_edge_is_told_and_one_that_is_open_is_not(self):
        made, _ = self.told(((0, 0), (1, 0), (1, 1)))
        rim = shapely.Polygon(plate_to_cut(resolve(made)).outline)
        edge = rim.intersection(shapely.LineString([(0, 0), (0, 400)])).length
        for off, verdict in ((9, Verdict.GOES), (3.5, Verdict.FOULS)):
            box = ((-9, 150), (9, 150), (9, edge - off), (-9, edge - off))
            made, told = self.told(box)
            far = rim.exterior.distance(shapely.Polygon(box))
            self.assertEqual(told["mate.notch.9.rim"].verdict, verdict)
            self.assertIn(
                f"plate's edge {far:.1f} mm is left", told["mate.notch.9.rim"].sentence.mm
            )
        _, told = self.told(((-9, 150), (9, 150), (9, edge + 9), (-9, edge + 9)))
        self.assertNotIn("mate.notch.9.rim", told)

    def test_one_that_misses_the_plate_is_told(self):
        _, told = self.told(((400, 400), (420, 400), (420, 420)))
        self.assertEqual(told["mate.notch.9"].verdict, Verdict.FOULS)


if __name__ == "__main__":
    unittest.main()
