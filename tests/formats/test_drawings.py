"""Drawings, templates and tables read back by the libraries that others would read them with."""

import csv
import io
import math
import re
import struct
import unittest
from collections import Counter
from xml.etree import ElementTree as ET

import ezdxf
import numpy as np
import pypdf
import shapely
from PIL import Image
from reportlab.pdfbase.pdfmetrics import stringWidth

from pindo.core.assessment import assess
from pindo.core.document.build import Build
from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.inputs.resolve import resolve
from pindo.core.stations.mate.outline import plate_of
from pindo.demo import garden_trolley, pump_tender
from pindo.formats.csv_table import drilling_csv
from pindo.formats.dxf import plate_dxf
from pindo.formats.handover_pdf import handover_report
from pindo.formats.paper import BOLD, MONO, REGULAR
from pindo.formats.pdf_page import CELL, GUTTER, column_widths
from pindo.formats.pictures import for_paper
from pindo.formats.sheet_pdf import station_sheet
from pindo.formats.stl import plate_stl
from pindo.formats.svg import plate_svg
from pindo.formats.template_pdf import FOOT, MARGIN, OVERLAP, template_pdf
from tests.support import build, demo, drawn, face, hole

POINT = 25.4 / 72  # mm


def lines_of(page):
    """Straight strokes of a PDF page in mm, with the drawing's own transforms applied."""
    matrix, stack, here, found = np.eye(3), [], None, []
    for operands, operator in (
        page.get_contents().operations
        if hasattr(page.get_contents(), "operations")
        else pypdf.generic.ContentStream(page.get_contents(), page.pdf).operations
    ):
        if operator == b"q":
            stack.append(matrix.copy())
        elif operator == b"Q":
            matrix = stack.pop()
        elif operator == b"cm":
            a, b, c, d, e, f = map(float, operands)
            matrix = np.array([[a, b, 0], [c, d, 0], [e, f, 1]]) @ matrix
        elif operator in (b"m", b"l"):
            x, y, _ = np.array([float(operands[0]), float(operands[1]), 1]) @ matrix * POINT
            if operator == b"l":
                found.append((*here, x, y))
            here = (x, y)
    return found


def diameters_of(page):
    """Diameters of the circles of a PDF page, which are drawn as four curves each. [mm]"""
    contents = page.get_contents()
    stream = pypdf.generic.ContentStream(contents, page.pdf)
    points, found = [], []
    for operands, operator in stream.operations:
        if operator == b"m":
            points = [tuple(map(float, operands))]
        elif operator == b"c":
            points.append(tuple(map(float, operands[4:])))
            if len(points) == 5:
                (low, *_), (high, *_) = min(points), max(points)
                found.append((high - low) * POINT)
        elif operator == b"l":
            points = []
    return found


def check_bars(page):
    return [
        s
        for s in lines_of(page)
        if abs(s[1] - s[3]) < 1e-6 and abs(abs(s[2] - s[0]) - 100.0) < 0.01
    ]


class Plate(unittest.TestCase):
    def setUp(self):
        self.plate = plate_of(resolve(demo()))

    def test_dxf_read_back(self):
        doc = ezdxf.read(io.StringIO(plate_dxf(self.plate, "Pump tender").decode("utf-8")))
        self.assertEqual(doc.units, ezdxf.units.MM)
        self.assertFalse(doc.audit().errors)
        circles = {
            layer: [c for c in doc.modelspace().query("CIRCLE") if c.dxf.layer == layer]
            for layer in ("CLEARANCE", "TAP_DRILL", "DOWEL", "WINDOW", "RECESS")
        }
        self.assertEqual(
            {k: len(v) for k, v in circles.items()},
            {"CLEARANCE": 14, "TAP_DRILL": 10, "DOWEL": 4, "WINDOW": 2, "RECESS": 13},
        )
        drawn = sorted(
            (round(c.dxf.center.x, 4), round(c.dxf.center.y, 4), round(2 * c.dxf.radius, 4))
            for k in ("CLEARANCE", "TAP_DRILL", "DOWEL")
            for c in circles[k]
        )
        self.assertEqual(
            drawn,
            sorted((round(r.u, 4), round(r.v, 4), round(r.d, 4)) for r in self.plate.drilling),
        )
        # A tapped hole is drawn at its tap drill, a recess at its own size, a thread is told in
        # words.
        self.assertEqual({round(2 * c.dxf.radius, 3) for c in circles["TAP_DRILL"]}, {8.5})
        self.assertEqual({round(2 * c.dxf.radius, 3) for c in circles["RECESS"]}, {22.4, 17.0})
        self.assertIn(
            "G9 tap M10 x 1.5, through, drill 8.5 mm, 77 % of thread by (d - drill)/(1.299 P)",
            [t.dxf.text for t in doc.modelspace().query("TEXT")],
        )
        (outline,) = doc.modelspace().query("LWPOLYLINE")
        self.assertTrue(outline.closed)
        self.assertIn(
            "seen from behind", " ".join(t.dxf.text for t in doc.modelspace().query("TEXT"))
        )

    def test_svg_is_at_true_size(self):
        root = ET.fromstring(plate_svg(self.plate, "Pump tender"))
        _, _, width, height = map(float, root.get("viewBox").split())
        self.assertEqual(
            (root.get("width"), root.get("height")), (f"{width:.3f}mm", f"{height:.3f}mm")
        )
        holes = {
            c.get("id"): c
            for c in root.iter("{http://www.w3.org/2000/svg}circle")
            if (c.get("class") or "").startswith("hole")
        }
        g9 = next(r for r in self.plate.drilling if r.label == "G9")
        self.assertAlmostEqual(float(holes["G9"].get("cx")), g9.u, places=3)
        self.assertAlmostEqual(float(holes["G9"].get("cy")), -g9.v, places=3)

    def test_every_circle_of_every_file_is_one_of_the_plate(self):
        """Openings, holes and recesses, by middle and diameter: DXF by ezdxf, SVG by its elements,
        the 1:1 template by the curves of its pages, read back in millimetres.
        """

        def rounded(rows):
            return sorted(tuple(round(float(x), 2) + 0.0 for x in row) for row in rows)

        openings = [(o.u, o.v, o.d) for o in (self.plate.window, self.plate.pocket) if o]
        holes = [(r.u, r.v, r.d) for r in self.plate.drilling]
        recesses = [(r.u, r.v, r.recess_d) for r in self.plate.drilling if r.recess and r.recess_d]
        self.assertEqual(len(openings), 2)
        doc = ezdxf.read(io.StringIO(plate_dxf(self.plate, "x").decode("utf-8")))
        dxf = [
            (c.dxf.center.x, c.dxf.center.y, 2 * c.dxf.radius)
            for c in doc.modelspace().query("CIRCLE")
        ]
        self.assertEqual(rounded(dxf), rounded(openings + holes + recesses))
        root = ET.fromstring(plate_svg(self.plate, "x"))
        svg = [
            (float(c.get("cx")), -float(c.get("cy")), 2 * float(c.get("r")))
            for c in root.iter("{http://www.w3.org/2000/svg}circle")
        ]
        self.assertEqual(rounded(svg), rounded(openings + holes + recesses))
        drawn = set()
        for page in pypdf.PdfReader(io.BytesIO(template_pdf(self.plate, "x"))).pages[:1]:
            drawn |= {round(d, 1) for d in diameters_of(page)}
        self.assertLessEqual({round(d, 1) for _, _, d in openings + holes}, drawn)
        self.assertLessEqual(drawn, {round(d, 1) for _, _, d in openings + holes + recesses})

    def test_drilling_table(self):
        rows = list(csv.DictReader(io.StringIO(drilling_csv(self.plate).decode("utf-8"))))
        self.assertEqual(len(rows), 28)
        for row in rows:
            u, v, radius, angle = (
                float(row[k]) for k in ("right_mm", "up_mm", "radius_mm", "clockwise_from_12_deg")
            )
            self.assertAlmostEqual(radius * np.sin(np.radians(angle)), u, delta=0.01)
            self.assertAlmostEqual(radius * np.cos(np.radians(angle)), v, delta=0.01)

    def test_threads_of_either_system_are_what_they_are(self):
        for d, unit, diameter, what, drill in (
            ("3/8-16", "mm", 5 / 16 * 25.4, "tap 3/8-16, 12 deep", "drill 5/16 in, 7.94 mm"),
            ("7/16 UNC", "mm", 0.368 * 25.4, "tap 7/16-14, 12 deep", "drill U, 9.35 mm"),
            ("10", "mm", 10.0, "tap M10, pitch not told, 12 deep", "pitch not told"),
            ("3/8", "in", 9.525, "tap 3/8 in, pitch not told", "pitch not told"),
        ):
            face = {
                "unit": unit,
                "holes": [
                    hole(
                        1,
                        "0",
                        "0",
                        d,
                        fastening="tapped",
                        **({"depth": "12"} if unit == "mm" else {}),
                    )
                ],
            }
            (row,) = plate_of(resolve(build(gearbox_face=face))).drilling
            self.assertAlmostEqual(row.d, diameter, places=6)
            self.assertIn(what, row.what)
            self.assertIn(drill, row.drill)

    def test_a_note_cannot_become_a_formula(self):
        holes = {"holes": [hole(1, "0", "0", note="=1+1")]}
        self.assertIn("'=1+1", drilling_csv(plate_of(resolve(build(engine_face=holes)))).decode())


SHEETS = {"A4": (210.0, 297.0), "A3": (297.0, 420.0), "Letter": (215.9, 279.4)}


class Solid(unittest.TestCase):
    def test_it_is_closed_and_holds_as_much_metal_as_the_plate_has(self):
        plate = plate_of(resolve(demo()))
        raw = plate_stl(plate, 18.0)
        (count,) = struct.unpack("<I", raw[80:84])
        rows = np.frombuffer(raw[84:], dtype=[("v", "<f4", (4, 3)), ("none", "<u2")])
        self.assertEqual(count, len(rows))
        corners = rows["v"][:, 1:].astype(float)
        edges = Counter()
        for triangle in np.round(corners, 3).tolist():
            for a, b in zip(triangle, triangle[1:] + triangle[:1], strict=True):
                edges[tuple(a), tuple(b)] += 1
        # Every edge is walked once each way: no gap and no face turned inside out.
        self.assertEqual(set(edges.values()), {1})
        self.assertTrue(all((b, a) in edges for a, b in edges))
        volume = np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2]))
        rim = shapely.Polygon(plate.outline)
        openings = [(o.u, o.v, o.d) for o in (plate.window, plate.pocket)]
        openings += [(r.u, r.v, r.d) for r in plate.drilling]
        discs = [shapely.Point(u, v).buffer(d / 2, 256) for u, v, d in openings]
        metal = rim.difference(shapely.union_all(discs)).area
        self.assertAlmostEqual(volume.sum() / 6 / (metal * 18.0), 1.0, places=3)
        self.assertEqual((corners[..., 2].min(), corners[..., 2].max()), (0.0, 18.0))


class Template(unittest.TestCase):
    def test_pages_have_their_size_ask_not_to_be_scaled_and_carry_a_true_bar(self):
        for paper, size in SHEETS.items():
            pdf = pypdf.PdfReader(
                io.BytesIO(template_pdf(plate_of(resolve(demo())), "Pump tender", paper))
            )
            self.assertEqual(pdf.trailer["/Root"]["/ViewerPreferences"]["/PrintScaling"], "/None")
            self.assertGreater(len(pdf.pages), 1)
            for page in pdf.pages:
                self.assertAlmostEqual(float(page.mediabox.width) * POINT, size[0], delta=0.05)
                self.assertAlmostEqual(float(page.mediabox.height) * POINT, size[1], delta=0.05)
                self.assertEqual(len(check_bars(page)), 1)
                self.assertRegex(page.extract_text(), r"sheet [A-F]\d of \d x \d")

    def test_a_hole_is_where_it_belongs_on_its_sheet(self):
        made = plate_of(resolve(demo()))
        page = pypdf.PdfReader(io.BytesIO(template_pdf(made, "Pump tender"))).pages[0]
        left, top = min(p[0] for p in made.outline) - 2, max(p[1] for p in made.outline) + 2
        tall = 297.0 - 2 * MARGIN - FOOT
        g9 = next(r for r in made.drilling if r.label == "G9")
        x, y = MARGIN + g9.u - left, MARGIN + FOOT + g9.v - (top - tall)
        crosses = [
            s
            for s in lines_of(page)
            if abs((s[0] + s[2]) / 2 - x) < 0.01 and abs((s[1] + s[3]) / 2 - y) < 0.01
        ]
        self.assertEqual(len(crosses), 2, "centre mark of G9")
        self.assertGreater(OVERLAP, 5)

    @staticmethod
    def marks(page, u0, v0):
        """Register marks of a sheet in the plate's coordinates: slanting crosses of 6 mm."""
        slanting = [
            s
            for s in lines_of(page)
            if abs(abs(s[2] - s[0]) - 6.0) < 0.01 and abs(abs(s[3] - s[1]) - 6.0) < 0.01
        ]
        return {
            (
                round((s[0] + s[2]) / 2 + u0 - MARGIN, 2),
                round((s[1] + s[3]) / 2 + v0 - MARGIN - FOOT, 2),
            )
            for s in slanting
        }

    def test_neighbouring_sheets_show_the_same_register_marks_in_what_they_share(self):
        made = plate_of(resolve(demo()))
        pages = pypdf.PdfReader(io.BytesIO(template_pdf(made, "Pump tender"))).pages
        wide, tall = 210.0 - 2 * MARGIN, 297.0 - 2 * MARGIN - FOOT
        left, top = min(p[0] for p in made.outline) - 2, max(p[1] for p in made.outline) + 2
        columns = int(re.search(r"of (\d) x", pages[0].extract_text())[1])
        on = {}
        for i, page in enumerate(pages):
            column, row = i % columns, i // columns
            u0 = left + column * (wide - OVERLAP)
            v0 = top - row * (tall - OVERLAP) - tall
            on[column, row] = {
                (u, v)
                for u, v in self.marks(page, u0, v0)
                if u0 < u < u0 + wide and v0 < v < v0 + tall
            }
        for (column, row), marks in on.items():
            for beside in ((column + 1, row), (column, row + 1)):
                if beside in on:
                    self.assertGreaterEqual(len(marks & on[beside]), 2, f"{column, row} {beside}")

    def test_a_template_says_its_sizes_its_thickness_and_that_something_fouls(self):
        made = plate_of(resolve(demo()))
        free = pypdf.PdfReader(io.BytesIO(template_pdf(made, "x", "A4", (), 18.0)))
        text = " ".join(p.extract_text() for p in free.pages)
        self.assertIn("plate 18.00 mm thick", text)
        self.assertNotIn("FOULS", text)
        for row in made.drilling:
            self.assertIn(row.thread if row.layer == "tapped" else f"d {row.d:.1f}", text)
        fouling = template_pdf(made, "x", "A4", ("Starter pocket at hole G9",), 18.0)
        for page in pypdf.PdfReader(io.BytesIO(fouling)).pages:
            words = page.extract_text()
            self.assertIn("FOULS: Starter pocket at hole G9", words)
            self.assertGreaterEqual(words.count("FOULS"), 2)

    def test_cut_marks_lie_where_a_sheet_goes_over_its_neighbours(self):
        pages = pypdf.PdfReader(io.BytesIO(template_pdf(plate_of(resolve(demo())), "x"))).pages
        columns = int(re.search(r"of (\d) x", pages[0].extract_text())[1])
        edge, top = MARGIN + OVERLAP / 2, 297.0 - MARGIN - OVERLAP / 2
        for i, page in enumerate(pages):
            ticks = [s for s in lines_of(page) if abs(math.dist(s[:2], s[2:]) - 8.0) < 0.01]
            upright = [s for s in ticks if abs(s[0] - s[2]) < 0.01 and abs(s[0] - edge) < 0.01]
            level = [s for s in ticks if abs(s[1] - s[3]) < 0.01 and abs(s[1] - top) < 0.01]
            self.assertEqual(len(upright), 2 if i % columns else 0)
            self.assertEqual(len(level), 2 if i >= columns else 0)

    def test_no_template_without_an_outline(self):
        with self.assertRaisesRegex(ValueError, "takes three holes"):
            template_pdf(plate_of(resolve(build())), "blank")


def words_of(page):
    """Pieces of text of a page: words, x, y, width, size [points]."""
    found = []

    def take(text, _, matrix, font, size):
        if text.strip() and font and size > 7:
            base = str(font["/BaseFont"])
            name = MONO if "Mono" in base else BOLD if "Bold" in base else REGULAR
            found.append(
                (text.strip(), matrix[4], matrix[5], stringWidth(text.strip(), name, size), size)
            )

    page.extract_text(visitor_text=take)
    return found


class Sheet(unittest.TestCase):
    def sheet(self, of, station, **more):
        content = station_sheet(of, assess(of), station, drawn(of), "A4", "2026-01-02", **more)
        return pypdf.PdfReader(io.BytesIO(content))

    def said(self, pdf):
        return re.sub(r"\s+", " ", " ".join(p.extract_text() for p in pdf.pages))

    def test_it_says_what_it_is_for_and_every_finding(self):
        pdf = self.sheet(demo(), Station.STACK)
        text = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in pdf.pages))
        for words in (
            "Pump tender",
            "Stack",
            "gearbox off",
            "Release bearing stands 2.0 ± 0.4 mm off the new fingers",
            "way out",
            "crank spacer, mm",
            "Nose in the pilot bearing Starter pinion, parked Release gap",
            "never an approval",
            "page 2",
            "2026-01-02",
        ):
            self.assertIn(words, text)
        self.assertEqual(sum(len(check_bars(p)) for p in pdf.pages), 1)
        for name in ("Crank flange from block face", "Slave stroke"):
            self.assertIn(name, text)

    def test_a_picture_is_cut_at_its_edge_and_no_wider_than_the_page(self):
        found, frame = [], None
        for page in self.sheet(demo(), Station.CLEAR).pages:
            for operands, operator in pypdf.generic.ContentStream(
                page.get_contents(), page.pdf
            ).operations:
                frame = [float(x) * POINT for x in operands] if operator == b"re" else frame
                if operator == b"W*":
                    found.append(frame)
        shown = drawn(demo())
        cut = (*shown["clear.pairs"].drawings, *shown["clear.belt"].drawings)
        self.assertEqual(len(found), len(cut))
        for (x, _, wide, tall), picture in zip(found, cut, strict=True):
            self.assertTrue(x > 13.9 and x + wide < 196.1)
            self.assertAlmostEqual(
                wide / tall,
                (picture.x_high - picture.x_low) / (picture.y_high - picture.y_low),
                places=3,
            )

    def test_no_words_lie_over_others_or_run_off_the_page(self):
        """Every piece of text with its width in the type that it is set in; letters inside
        pictures are smaller and left out.
        """
        for made in (pump_tender(), garden_trolley()):
            answer = assess(made, ())
            shown = drawn(made)
            sheets = {
                f"{s.value} {u}": station_sheet(made, answer, s, shown, system=u)
                for s in Station
                for u in ("mm", "in")
            } | {"hand-over": handover_report(resolve(made), answer, system="in")}
            for name, content in sheets.items():
                for number, page in enumerate(pypdf.PdfReader(io.BytesIO(content)).pages, 1):
                    said = words_of(page)
                    self.assertGreater(len(said), 4)
                    for i, (text, x, y, width, size) in enumerate(said):
                        self.assertLess(
                            x + width, float(page.mediabox.width) - 20, f"{name} {number}: {text}"
                        )
                        for other, x2, y2, width2, size2 in said[i + 1 :]:
                            over = (
                                abs(y - y2) < 0.6 * min(size, size2)
                                and x < x2 + width2 - 1
                                and x2 < x + width - 1
                            )
                            self.assertFalse(over, f"{name} {number}: {text} / {other}")

    def test_columns_share_the_page_by_what_stands_in_them(self):
        rows = [["no.", "name"], ["1", "turned from disc out of the plate's window"]]

        def across(words):
            return stringWidth(words, REGULAR, CELL) * POINT + GUTTER

        whole = [across("no."), across(rows[1][1])]
        for got, wanted in zip(column_widths(rows, 182.0), whole, strict=True):
            self.assertAlmostEqual(got, wanted, places=6)
        least = [across("no."), across("window")]
        number, words = column_widths(rows, 40.0)
        self.assertAlmostEqual(number + words, 40.0, places=6)
        self.assertGreaterEqual(number, least[0] - 1e-9)
        self.assertGreaterEqual(words, least[1])
        self.assertAlmostEqual(sum(column_widths(rows, 12.0)), 12.0, places=6)

    def test_sizes_stand_under_questions_that_are_asked(self):
        text = self.said(self.sheet(demo(), Station.STACK))
        self.assertIn("Ratings A Engine torque", text)
        self.assertNotIn("Hub N Engine power", text)

    def test_a_missing_number_prints_as_a_box_with_how_to_take_it(self):
        text = " ".join(
            p.extract_text() for p in self.sheet(Build(name="blank"), Station.STACK).pages
        )
        self.assertIn("through the bore to its bottom", re.sub(r"\s+", " ", text))

    def boxes(self, pdf):
        """Dashed boxes to fill in, of all pages."""
        found = 0
        for page in pdf.pages:
            stream = pypdf.generic.ContentStream(page.get_contents(), page.pdf)
            dash: list[float] = []
            for operands, operator in stream.operations:
                if operator == b"d":
                    dash = [float(x) for x in operands[0]]
                found += operator == b"re" and dash == [1.5, 1.5]
        return found

    def test_hole_tables_stand_as_typed_with_boxes_for_what_is_wanting(self):
        full = {
            "engine_face": face(hole(7, "85.80", "-168.40"), hole(8, "1 1/2 in", "30")),
            "dims": {},
        }
        before = self.boxes(self.sheet(build(**full), Station.MATE))
        holes = full["engine_face"]["holes"]
        holes[0] |= {"u": None, "d": None}
        pdf = self.sheet(build(**full), Station.MATE)
        self.assertEqual(self.boxes(pdf) - before, 2)
        text = self.said(pdf)
        self.assertIn("-168.40", text)
        self.assertIn("1 1/2 in", text)
        self.assertIn("up from the crank axis, taken from behind, looking forwards", text)
        self.assertIn("taken from the front, looking rearwards", text)

    def test_lists_say_where_their_places_are_told_from_and_have_room_for_more(self):
        text = self.said(self.sheet(demo(), Station.SEAT))
        self.assertIn("Places: behind the block face, of the gearbox behind the bell's mouth", text)
        self.assertIn("front left: measured, steel rule, ± 1", text)
        self.assertIn("Gaps to read at the next fit", text)

    def test_what_was_worked_out_follows_the_unit_and_what_was_typed_stands(self):
        text = self.said(self.sheet(demo(), Station.STACK, system="in"))
        self.assertIn("Release bearing stands 0.077 ± 0.015 in off the new fingers", text)
        self.assertNotRegex(text, r"stands [\d.]+ ± [\d.]+ mm")
        seat = self.said(self.sheet(demo(), Station.SEAT, system="in"))
        self.assertIn("Where it sits, in", seat)
        self.assertIn("7.008", seat)
        mate = self.said(self.sheet(demo(), Station.MATE, system="in"))
        self.assertIn("Engine face, as typed, mm", mate)
        self.assertIn("102.49", mate)

    def test_a_caution_stands_once_and_there_are_lines_to_sign(self):
        for station in (Station.STACK, Station.ASSEMBLE):
            text = self.said(self.sheet(demo(), station))
            own = {f.caution for f in assess(demo()).findings if f.station == station}
            for caution in own - {""}:
                self.assertLessEqual(
                    text[text.index("Cautions") :].count(caution), 1, f"{station}: {caution}"
                )
            self.assertIn("taken by", text)
        signed = self.said(self.sheet(demo(), Station.ASSEMBLE))
        holds = [x for x in demo().steps if (x.hold or x.gate) and x.state != "done"]
        self.assertEqual(signed.count("signed date"), len(holds))

    def test_the_log_has_entries_fits_with_boxes_and_photos(self):
        log = [
            *demo().model_dump(mode="json")["log"],
            {"n": 90, "name": "Nib seen", "photos": ["p1", "gone"]},
        ]
        with_photo = demo(log=log)
        stream = io.BytesIO()
        Image.new("RGB", (900, 500), "white").save(stream, "PNG")
        small = for_paper(stream.getvalue())
        self.assertEqual(Image.open(io.BytesIO(small)).size, (700, 389))
        self.assertIsNone(for_paper(b"no picture"))
        pdf = self.sheet(with_photo, Station.LOG, pictures={"p1": small})
        self.assertEqual(sum(len(p.images) for p in pdf.pages), 1)
        text = self.said(pdf)
        for words in ("entry 90 · Nib seen", "trial hang: gaps", "1-1/4 in", "31.00 ± 3.00"):
            self.assertIn(words, text)
        self.assertEqual(self.boxes(pdf), 1)

    def test_the_hand_over_has_readings_as_typed_and_the_true_state(self):
        def report(of):
            content = handover_report(resolve(of), assess(of))
            return self.said(pypdf.PdfReader(io.BytesIO(content)))

        text = report(demo())
        self.assertIn("State of the build: on the bench.", text)
        self.assertIn("Readings as typed", text)
        typed = text[text.index("Readings as typed") :]
        for key, said in demo().dims.items():
            self.assertIn(DIMENSIONS[key].name, typed)
            for take in (t for s in said.statements for t in s.takes):
                self.assertIn(take.typed, typed, key)
        self.assertIn("handed over by taken over by date", text)
        steps = demo().model_dump(mode="json")["steps"]

        def closed(*gates):
            made = [x | {"state": "done" if x["gate"] in gates else x["state"]} for x in steps]
            return report(demo(steps=made))

        self.assertIn("State of the build: hung or resting in its place.", closed("lift"))
        self.assertIn("on the bench; closed out of order: Motion: throttle", closed("motion"))
        self.assertRegex(
            closed("lift", "start", "motion", "hand-over"),
            r"moves, controls proved; the hand-over step is closed, but \d+ things stand against",
        )

    def test_survey_lists_what_to_measure_next_and_every_ledger(self):
        text = re.sub(
            r"\s+",
            " ",
            " ".join(p.extract_text() for p in self.sheet(demo(), Station.SURVEY).pages),
        )
        self.assertIn("Measure next", text)
        for key in set(assess(demo(), ()).asked) & set(DIMENSIONS):
            self.assertIn(DIMENSIONS[key].name, text)
