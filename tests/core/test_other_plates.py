"""Mount plates and port plates, through the whole road."""

import io
import math
import unittest

import ezdxf
import shapely

from pindo.core.assessment import assess
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.other_plates_drawn import cut
from pindo.formats.dxf import plate_dxf
from tests.support import build, drawn

EXACT = {"source": "drawing", "pm": "0"}


def plate(holes=(), ports=(), **more):
    row = {
        "n": 1,
        "name": "left foot",
        "material": "steel",
        "thick": "10",
        "margin": "12",
        "evidence": EXACT,
        "holes": [{"n": n} | h for n, h in enumerate(holes, 1)],
        "ports": [{"n": n} | p for n, p in enumerate(ports, 1)],
    }
    return build(plates=[row | more], options={"coupling": "clutch and bellhousing"})


def at(x, y, d="M10", how="through", face="one face"):
    return {"x": f"{x}", "y": f"{y}", "d": d, "how": how, "face": face}


def port(x, y, wide, tall=None, face="one face"):
    return {"x": f"{x}", "y": f"{y}", "wide": f"{wide}", "tall": tall, "face": face}


def ids(made):
    return {f.id: f for f in assess(made).findings if f.id.startswith("mate.other.1.")}


class Holes(unittest.TestCase):
    def test_spacing_of_both_faces_edge_and_thread(self):
        told = ids(plate([at(0, 0), at(20, 0, how="tapped", face="the other"), at(90, 0)]))
        near = told["mate.other.1.spacing.A1-B2"]
        # M10 passes through 11: 2.2 x 11 wanted.
        self.assertEqual((near.value, round(near.low, 9), near.verdict), (20, 24.2, Verdict.FOULS))
        self.assertAlmostEqual(told["mate.other.1.edge"].value, 12 + 5.5)
        self.assertEqual(told["mate.other.1.edge"].verdict, Verdict.GOES)
        thread = told["mate.other.1.thread"]
        self.assertEqual((thread.value, thread.low, thread.verdict), (10, 10, Verdict.GOES))
        soft = ids(plate([at(0, 0), at(60, 0, how="tapped")], material="aluminium"))
        self.assertEqual(soft["mate.other.1.thread"].verdict, Verdict.FOULS)
        unsaid = ids(plate([at(0, 0), at(60, 0, how="tapped")], material=""))
        self.assertEqual(unsaid["mate.other.1.thread"].verdict, Verdict.FOULS)
        thin = ids(plate([at(0, 0), at(60, 0)], margin="2"))["mate.other.1.edge"]
        self.assertEqual(thin.verdict, Verdict.FOULS)

    def test_what_is_wanting_is_named(self):
        told = ids(plate([at(0, 0), at(60, 0) | {"y": None}]))["mate.other.1.open"]
        self.assertEqual(told.verdict, Verdict.UNMEASURED)
        self.assertIn("hole 2", told.sentence.mm)
        self.assertIn("its holes", ids(plate())["mate.other.1.open"].sentence.mm)
        self.assertEqual(
            ids(plate([at(0, 0)], margin=None))["mate.other.1.edge"].verdict, Verdict.UNMEASURED
        )


FRAME = (at(-60, 0), at(60, 0))


class Ports(unittest.TestCase):
    def test_ports_meet_by_the_area_that_they_share(self):
        for shift, verdict in ((0, Verdict.GOES), (6, Verdict.FOULS)):
            ports = (port(0, 0, 40), port(shift, 0, 40, face="the other"))
            told = ids(plate(FRAME, ports))["mate.other.1.port.1"]
            self.assertEqual(told.verdict, verdict)
            # Two circles of 40, d apart: 2 r² acos(d/2r) - d/2 sqrt(4 r² - d²).
            lens = 2 * 400 * math.acos(shift / 40) - shift / 2 * math.sqrt(1600 - shift**2)
            self.assertIn(f"{100 * lens / (math.pi * 400):.0f} % of the", told.sentence.mm)
        small = (port(0, 0, 40), port(5, 0, 30, face="the other"))
        self.assertEqual(ids(plate(FRAME, small))["mate.other.1.port.1"].verdict, Verdict.GOES)
        alone = ids(plate(FRAME, (port(0, 0, 40),)))["mate.other.1.port.1"]
        self.assertEqual(alone.verdict, Verdict.UNMEASURED)

    def test_doubt_of_the_places_keeps_a_port_from_going(self):
        ports = (port(0, 0, 40), port(0, 0, 40, face="the other"))
        told = ids(plate(FRAME, ports, evidence={"source": "drawing", "pm": "1"}))
        self.assertEqual(told["mate.other.1.port.1"].verdict, Verdict.TIGHT)

    def test_a_gasket_has_land_to_the_edge_too(self):
        # The outline goes round ports with its margin: what is narrower than 4 mm is blown out.
        for margin, verdict in (("12", Verdict.GOES), ("3", Verdict.FOULS)):
            ports = (port(0, 60, 40, "20"),)
            told = ids(plate((at(-60, 0), at(60, 0)), ports, margin=margin))["mate.other.1.land"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn(
                f"port 1 and the plate's edge a gasket has {margin}.0 mm", told.sentence.mm
            )

    def test_what_does_not_read_or_is_in_no_table_is_wanting(self):
        told = ids(plate((at(0, 0, d="31"), at(60, 0)), (port(0, 60, 40, "tall"),)))
        self.assertEqual(told["mate.other.1.open"].verdict, Verdict.UNMEASURED)
        self.assertIn("hole 1, port 1", told["mate.other.1.open"].sentence.mm)

    def test_the_land_of_the_gasket_is_the_narrowest(self):
        ports = (port(0, 0, 40, "20"), port(47, 0, 40, "20"))
        told = ids(plate(FRAME, ports))["mate.other.1.land"]
        # The second port ends at 67, beyond the hole's middle at 60: it runs into it.
        self.assertEqual(told.verdict, Verdict.FOULS)
        ports = (port(-10, 0, 40, "20"), port(35, 0, 40, "20"))
        told = ids(plate((at(-60, 0), at(80, 0)), ports))["mate.other.1.land"]
        self.assertEqual(told.verdict, Verdict.GOES)
        self.assertIn("ports 1 and 2 a gasket has 5.0 mm", told.sentence.mm)


class Drawn(unittest.TestCase):
    def test_picture_mass_and_drawing_are_those_of_the_plate(self):
        ports = (port(0, 0, 40, "20"), port(0, 0, 40, "20", face="the other"))
        holes = (*FRAME, at(0, 40, "M8 x 1.25", "tapped"), at(0, -40, "8", "locating"))
        made = plate(holes, ports)
        board = drawn(made)["mate.plate"]
        picture = {d.name: d for d in board.drawings}["left foot"]
        self.assertEqual([s.style for s in picture.shapes], ["body", "opening", "hidden"])
        (row,) = {t.key: t for t in board.tables}["others"].rows
        outline = shapely.Polygon(picture.shapes[0].points)
        slot = 20 * 20 + math.pi * 100
        round_ = math.pi / 4 * (2 * 11**2 + 8**2 + 8**2)
        self.assertAlmostEqual(
            row.cells[6], (outline.area - slot - round_) * 10 * 7.85e-6, places=2
        )
        doc = ezdxf.read(io.StringIO(plate_dxf(cut(resolve(made)), "x").decode()))
        sizes = sorted(
            (e.dxf.layer, round(2 * e.dxf.radius, 3))
            for e in doc.modelspace()
            if e.dxftype() == "CIRCLE"
        )
        self.assertIn(("TAP_DRILL", 6.75), sizes)
        self.assertIn(("DOWEL", 8.0), sizes)
        self.assertEqual(sizes.count(("CLEARANCE", 11.0)), 2)
        self.assertIsNone(cut(resolve(plate())))


if __name__ == "__main__":
    unittest.main()
