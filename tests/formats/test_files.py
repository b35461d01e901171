"""Files in and out: nothing that a name holds breaks one, nothing hostile comes in with one."""

import csv
import io
import json
import re
import unittest
import zipfile
from xml.etree import ElementTree as ET

import ezdxf.recover
import pypdf
from PIL import Image

from pindo.core.inputs.resolve import resolve
from pindo.core.stations.mate.outline import plate_of
from pindo.demo import pump_tender
from pindo.formats.bundle import BadBundle, read_bundle, write_bundle
from pindo.formats.csv_table import drilling_csv
from pindo.formats.dxf import plate_dxf
from pindo.formats.paper import REGULAR, WIDE, fitted, register_fonts
from pindo.formats.picture_code import code_letters, code_svg, modules
from pindo.formats.pictures import NotAPicture, cleaned
from pindo.formats.plain_text import cell
from pindo.formats.svg import plate_svg
from pindo.formats.template_pdf import TooLarge, template_pdf
from pindo.web.routes_files import file_name
from tests.robust.hostile import TEXTS
from tests.support import build, face, hole


def made(form, size=(40, 30), exif=False, **more):
    stream = io.BytesIO()
    picture = Image.new("RGB", size, "teal")
    found = Image.Exif()
    if exif:
        found[0x0112] = 6  # turned
        found.get_ifd(0x8825)[1] = "N"  # where it was taken
        found[0x010F] = "a camera"
    picture.save(stream, form, exif=found, **more)
    return stream.getvalue()


class Names(unittest.TestCase):
    PLATE = plate_of(resolve(pump_tender()))

    def test_drawings_are_whole_whatever_the_name(self):
        for text in TEXTS:
            with self.subTest(text[:30]):
                titled = ET.fromstring(plate_svg(self.PLATE, text))
                self.assertTrue(titled[0].text.endswith("seen from behind, forwards"))
                document, auditor = ezdxf.recover.read(io.BytesIO(plate_dxf(self.PLATE, text)))
                self.assertEqual(auditor.errors, [])
                self.assertTrue(
                    [
                        t
                        for t in document.modelspace().query("TEXT")
                        if t.dxf.text.endswith("millimetres")
                    ]
                )

    def test_a_dxf_text_holds_no_codes(self):
        text = plate_dxf(self.PLATE, "100%% ^J \\U+0041").decode()
        self.assertIn("100%%%%%% ^ J /U+0041", text)

    def test_a_cell_is_guarded_where_a_spreadsheet_would_run_it_and_nowhere_else(self):
        for text, shown in (
            ("", ""),
            ("drill through", "drill through"),
            ("-3.5", "-3.5"),
            ("+10", "+10"),
            ("=1+1", "'=1+1"),
            ("@SUM(A1)", "'@SUM(A1)"),
            ("-2+3", "'-2+3"),
            ("\tx", "'\tx"),
        ):
            self.assertEqual(cell(text), shown)
        rows = list(csv.DictReader(io.StringIO(drilling_csv(self.PLATE).decode())))
        self.assertFalse([r for r in rows for value in r.values() if value.startswith("'")])

    def test_paper_shows_letters_of_other_scripts_or_says_that_it_lacks_them(self):
        register_fonts()
        self.assertEqual(fitted("Rail, 5 ± 0.1 mm", REGULAR), ("Rail, 5 ± 0.1 mm", REGULAR))
        self.assertEqual(fitted("дизель Ω ±", REGULAR), ("дизель Ω ±", WIDE))
        self.assertEqual(fitted("ディ a", REGULAR), ("□□ a", WIDE))
        self.assertEqual(fitted("a\x00b\u202ec\nd", REGULAR)[0].count("□"), 0)
        text = (
            pypdf.PdfReader(io.BytesIO(template_pdf(self.PLATE, "дизель"))).pages[0].extract_text()
        )
        self.assertIn("дизель", text)

    def test_file_names_are_safe_on_every_system(self):
        cases = {
            "../../etc/passwd": "etc-passwd.x",
            "CON": "build CON.x",
            "nul.txt": "build nul.txt.x",
            "a/b:c*d": "a-b-c-d.x",
            " . ": "build.x",
            "дизель": "дизель.x",
            "a\r\nb": "a--b.x",
            "🔧": "build.x",
        }
        self.assertEqual({name: file_name(name, ".x") for name in cases}, cases)
        self.assertLessEqual(len(file_name("ж" * 500, ".pindo.zip").encode()), 140)

    def test_a_plate_that_takes_more_sheets_than_anybody_glues_is_no_template(self):
        far = build(
            engine_face=face(hole(1, "0", "0"), hole(2, "400000", "0"), hole(3, "0", "400000"))
        )
        with self.assertRaisesRegex(TooLarge, "at most 48"):
            template_pdf(plate_of(resolve(far)), "x")


class Pictures(unittest.TestCase):
    def test_where_and_with_what_it_was_taken_stays_behind_and_it_stands_upright(self):
        for form, media_type in (
            ("JPEG", "image/jpeg"),
            ("PNG", "image/png"),
            ("WEBP", "image/webp"),
        ):
            kind, content = cleaned(made(form, exif=True))
            picture = Image.open(io.BytesIO(content))
            self.assertEqual(
                (kind, picture.size, dict(picture.getexif()), b"a camera" in content),
                (media_type, (30, 40), {}, False),
            )
            self.assertEqual(cleaned(content), (kind, content), "what is clean is kept as it is")

    def test_large_ones_are_made_smaller_and_bombs_are_told_by_their_head(self):
        self.assertEqual(
            Image.open(io.BytesIO(cleaned(made("JPEG", (5000, 2500)))[1])).size, (4000, 2000)
        )
        for size in ((12_500, 40), (8000, 8000), (11_000, 11_000)):
            stream = io.BytesIO()
            Image.new("1", size).save(stream, "PNG")
            with self.assertRaisesRegex(NotAPicture, f"{size[0]} x {size[1]} pixels"):
                cleaned(stream.getvalue())

    def test_what_is_no_picture_is_refused(self):
        for content in (
            b"",
            b"<svg onload=alert(1)>",
            b"<html>",
            b"GIF89a" + b"0" * 60,
            made("PNG")[:60],
            made("JPEG")[:100],
            b"\x89PNG\r\n\x1a\n" + b"0" * 64,
            b"RIFF\x00\x00\x00\x00WEBP",
            b"%PDF-1.4",
        ):
            with self.assertRaisesRegex(NotAPicture, "Nothing was stored"):
                cleaned(content)


class Bundles(unittest.TestCase):
    def bundle(self, **files):
        stream = io.BytesIO()
        write_bundle(stream, {"name": "a"}, [{"version": 1}], [("ab" * 8, "image/png", b"picture")])
        if not files:
            return stream
        with zipfile.ZipFile(stream) as before:
            contents = {n: before.read(n) for n in before.namelist()} | {
                k: v for k, v in files.items() if v is not None
            }
        changed = io.BytesIO()
        with zipfile.ZipFile(changed, "w", zipfile.ZIP_DEFLATED) as after:
            for name, content in contents.items():
                if files.get(name, b"") is not None:
                    after.writestr(name, content)
        return changed

    def test_there_and_back(self):
        read = read_bundle(self.bundle())
        self.assertEqual(
            (read.document, read.history, read.photos),
            ({"name": "a"}, [{"version": 1}], {"ab" * 8: b"picture"}),
        )

    def test_what_is_not_as_it_was_written_is_refused(self):
        manifest = json.loads(zipfile.ZipFile(self.bundle()).read("manifest.json"))
        cases = [
            (self.bundle(**{"build.json": b'{"name": "b"}'}), "checksum"),
            (self.bundle(**{"history.json": None}), "no history.json"),
            (self.bundle(**{"../evil.sh": b"x"}), "never has"),
            (self.bundle(**{"photos/x.svg": b"<svg>"}), "never has"),
            (self.bundle(**{"photos/" + "cd" * 8 + ".png": b"more"}), "do not agree"),
            (self.bundle(**{"build.json": b" " * 30_000_000}), "unpacks to far more"),
            (
                self.bundle(**{"manifest.json": json.dumps(manifest | {"version": 2}).encode()}),
                "no build bundle",
            ),
            (self.bundle(**{"manifest.json": b"[" * 100_000}), "no JSON"),
            (io.BytesIO(b"PK\x03\x04 nothing"), "no zip file"),
            (io.BytesIO(self.bundle().getvalue()[:300]), "no zip file"),
        ]
        for stream, words in cases:
            with self.subTest(words), self.assertRaisesRegex(BadBundle, words):
                read_bundle(stream)


class PictureCode(unittest.TestCase):
    def test_svg_and_terminal_show_the_same_code_with_its_corners_and_quiet_zone(self):
        """Finder patterns of 7 modules at three corners, 4 of white round all (ISO/IEC 18004)."""
        text = "http://192.168.7.20:8137/?key=abcDEF_123"
        rows = modules(text)
        finder = [
            [x in (0, 6) or y in (0, 6) or (2 <= x <= 4 and 2 <= y <= 4) for x in range(7)]
            for y in range(7)
        ]
        for across, down in ((0, 0), (len(rows) - 7, 0), (0, len(rows) - 7)):
            corner = [row[across : across + 7] for row in rows[down : down + 7]]
            self.assertEqual(corner, finder)
        svg = code_svg(text).decode()
        drawn = {(int(x), int(y)) for x, y in re.findall(r"M(\d+),(\d+)h1", svg)}
        dark = {(x + 4, y + 4) for y, row in enumerate(rows) for x, on in enumerate(row) if on}
        self.assertEqual(drawn, dark)
        self.assertIn(f'viewBox="0 0 {len(rows) + 8} {len(rows) + 8}"', svg)
        halves = {"█": "00", "▀": "01", "▄": "10", " ": "11"}
        seen = set()
        for y, line in enumerate(code_letters(text).split("\n")):
            for x, sign in enumerate(line):
                upper, lower = halves[sign]
                seen |= {(x, 2 * y)} if upper == "1" else set()
                seen |= {(x, 2 * y + 1)} if lower == "1" else set()
        self.assertEqual(seen, dark)
