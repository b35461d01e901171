"""Tables in and out: separators, encodings, what a line is read as, what stays in the tray."""

import unittest

from pindo.core.acts import AddRows
from pindo.core.document.build import Build
from pindo.core.document.evidence import Source
from pindo.core.document.lists import LISTS
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.question import QUESTIONS
from pindo.core.places import FITTED_FACES
from pindo.core.rows_in import rows_in
from pindo.core.tables_in import readings_in
from pindo.demo import pump_tender
from pindo.formats.csv_lists import ledger_csv, list_csv
from pindo.formats.tables import MOST_BYTES, NoTable, csv_of, decoded, table_of
from tests.support import build, entered

SPACING = "stack.spacing"


def taken(of: Build, lines):
    """The build once every line that can be taken was."""
    return entered(of, *(line.act for line in lines if line.act))


class Text(unittest.TestCase):
    def test_the_separator_is_found_and_a_decimal_comma_is_none(self):
        for text, cells in (
            ("plate\t18,2\nnose\t24", [["plate", "18,2"], ["nose", "24"]]),
            ("plate;18,2\nnose;24", [["plate", "18,2"], ["nose", "24"]]),
            ("plate,18.2\nnose,24", [["plate", "18.2"], ["nose", "24"]]),
            ("18,2\n24,1", [["18,2"], ["24,1"]]),
            ("1 7/8 in\r\n24\r\n\r\n", [["1 7/8 in"], ["24"]]),
            ('a;"b;c"\nd;e', [["a", "b;c"], ["d", "e"]]),
            ("", []),
        ):
            with self.subTest(text):
                self.assertEqual(table_of(text), cells)

    def test_encodings_are_read_and_what_is_no_text_is_refused(self):
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "cp1252"):
            with self.subTest(encoding):
                self.assertEqual(decoded("½ in ± 0,1".encode(encoding)), "½ in ± 0,1")
        for content in (b"PK\x03\x04\0\0", b"1" * (MOST_BYTES + 1)):
            with self.assertRaisesRegex(NoTable, "Nothing was taken"):
                decoded(content)

    def test_a_cell_that_a_spreadsheet_would_run_comes_back_as_it_was(self):
        for text in ("=1+1", "-16-1/2 in", "+4", "@x", "'quoted"):
            content = csv_of(["what", "x"], [[text, "1"]])
            self.assertEqual(table_of(decoded(content))[1], [text, "1"])
        self.assertIn(b"'=1+1", csv_of(["a"], [["=1+1"]]))


class Readings(unittest.TestCase):
    def lines(self, text, of=None, source=None, unit=None, order=()):
        found = readings_in(of or build(), table_of(text), SPACING, order, source, unit)
        return found.lines

    def test_names_keys_letters_and_beginnings_find_their_size(self):
        lines = self.lines("Adapter plate\t18\nNOSE_MM\t24\ng\t26.7\nflywheel, fl\t28\nnose\t3")
        self.assertEqual(
            [line.act.key if line.act else line.wrong for line in lines],
            [
                "plate_mm",
                "nose_mm",
                "shaft_tip_out_mm",
                "flywheel_mm",
                "“nose” could be Nose length, tip to shoulder, Nose chamfer.",
            ],
        )

    def test_a_bare_column_goes_into_the_sizes_in_order_and_no_further(self):
        order = list(QUESTIONS[SPACING].ledger)[3:5]
        lines = self.lines("28,1\n1\n7", order=order)
        self.assertEqual([line.act.key for line in lines[:2]], order)
        self.assertIn("more figures than sizes", lines[2].wrong)

    def test_what_was_measured_there_was_not_measured_here(self):
        text = (
            "size;reading;unit;source;±\nplate_mm;18,2;mm;measured;0.1\nnose_mm;15/16;in;drawing;"
        )
        after = resolve(taken(build(), self.lines(text))).quantities
        plate, nose = after["plate_mm"], after["nose_mm"]
        self.assertEqual((plate.value, plate.pm, plate.source), (18.2, 0.1, Source.ELSEWHERE))
        self.assertEqual((nose.value, nose.source), (15 / 16 * 25.4, Source.DRAWING))
        here = resolve(taken(build(), self.lines(text, source=Source.MEASURED))).quantities
        self.assertEqual(here["nose_mm"].source, Source.MEASURED)

    def test_bare_lengths_take_the_unit_that_is_said_and_ratios_do_not(self):
        (plate, ratio) = self.lines("plate_mm\t0.75\nlever_ratio\t3", unit="in")
        self.assertEqual(plate.reads.split(" = ")[0], "19.05 mm")
        self.assertIsNone(ratio.act.unit)

    def test_what_cannot_be_read_stays_with_its_reason(self):
        lines = self.lines(
            "plate_mm\tNaN\nplate_mm\tinf\nplate_mm\t#DIV/0!\nplate_mm\t1,234\nplate_mm\t\n"
            "plate_mm\t18 lbft\nfoo\t1\nplate_mm\t5\tfurlong"
        )
        self.assertEqual([line.act for line in lines], [None] * 8)
        self.assertTrue(all(line.wrong for line in lines))
        self.assertEqual(lines[0].key, "plate_mm")
        self.assertEqual(lines[0].typed, "NaN")

    def test_two_thousand_lines_are_taken_and_one_more_is_refused_whole(self):
        rows = "\n".join(f"plate_mm\t{i}" for i in range(2000))
        self.assertEqual(len(self.lines(rows)), 2000)
        with self.assertRaisesRegex(Exception, "2001 lines; 2000 can be taken"):
            self.lines(rows + "\nplate_mm\t1")

    def test_the_ledger_goes_out_and_comes_back_with_every_figure(self):
        there = pump_tender()
        table = table_of(decoded(ledger_csv(there)))
        again = readings_in(there, table, "", (), None, None).lines
        self.assertEqual({line.reads for line in again if not line.wrong}, {"as it stands"})
        self.assertTrue(all("read it again" in line.wrong for line in again if line.wrong))
        blank = build(options=there.options)
        lines = readings_in(blank, table, "", (), None, None).lines
        known, found = resolve(there).quantities, resolve(taken(blank, lines)).quantities
        single = [k for k, d in there.dims.items() if len(d.statements) == 1]
        self.assertGreater(len(single), 80)
        for key in single:
            if known[key].value is not None and len(there.dims[key].statements[0].takes) == 1:
                with self.subTest(key):
                    self.assertAlmostEqual(found[key].value, known[key].value, places=6)
                    self.assertNotEqual(found[key].source, Source.MEASURED)


class Rows(unittest.TestCase):
    def test_every_list_goes_out_and_comes_back(self):
        there = pump_tender()
        for name in (*LISTS, *FITTED_FACES):
            with self.subTest(name):
                table = table_of(decoded(list_csv(there, name)))
                again = rows_in(there, name, table, None).lines
                self.assertEqual({line.reads for line in again} - {"as it stands"}, set())
                if name not in ("fits", "log") and len(table) > 1:
                    rows = [line.act.row for line in rows_in(build(), name, table, None).lines]
                    got = entered(build(), AddRows(list=name, rows=rows))
                    self.assertEqual(
                        self.cells(got, name), self.cells(self.in_order(there, name), name)
                    )

    def cells(self, of, name):
        """What a list holds but the numbers of its rows and where they are from."""
        head, *rows = table_of(decoded(list_csv(of, name)))
        return [row[1 : -1 if head[-1] == "figures from" else None] for row in rows]

    def in_order(self, of, name):
        """In the unit of a blank face: as new rows are."""
        document = of.model_dump(mode="json")
        face = document.get(name.split(".")[0])
        if name in FITTED_FACES and face["unit"] == "in":
            face["unit"] = "mm"
            for row in (*face["holes"], *face["lands"]):
                for field in ("u", "v", "d", "land", "free"):
                    if row.get(field) and row[field][-1:].isdigit() and row[field][0] != "M":
                        row[field] = f"{row[field]} in"
        return Build.model_validate(document)

    def test_a_unit_in_the_heading_a_row_that_is_there_and_a_bad_choice(self):
        there = pump_tender()
        first = there.mounts[0]
        table = table_of(
            f"no.;left of crank axis [in];fixed to\n{first.n};7.5;engine\n;9;engine\n"
            ";190 mm;engine\n;9;chassis\n;9 ± 1 mm;engine\n"
        )
        changed, new, own, bad, two = rows_in(there, "mounts", table, None).lines
        self.assertEqual((changed.act.row, changed.act.field), (first.n, "left"))
        self.assertEqual(changed.act.typed, "7.5 in")
        self.assertEqual(changed.act.source, Source.ELSEWHERE)
        self.assertEqual(new.act.row["evidence"]["source"], "measured elsewhere")
        self.assertEqual(new.act.row["left"], "9 in")
        self.assertEqual(own.act.row["left"], "190 mm")
        self.assertIn("both figures", two.wrong)
        self.assertEqual(bad.wrong, "“chassis” is none of: engine, gearbox.")
        after = resolve(entered(there, changed.act)).quantities[f"mounts.{first.n}.left"]
        self.assertEqual((after.value, after.source), (7.5 * 25.4, Source.ELSEWHERE))
