"""What a person types, understood, asked about or refused."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from pindo.core.inputs.quantity import echo, echo_entry, parse, typed_resolution
from pindo.core.inputs.quantity_reader import AskAgain, EntryError

LENGTHS = [
    # typed | unit of the field | value mm | ± mm
    ('3/4"', "mm", 19.05, None),
    ("1-1/8 in", "mm", 28.575, None),
    ("1 1/8 in", "mm", 28.575, None),
    ("0.339in", "mm", 8.6106, None),
    ("19,05", "mm", 19.05, None),
    ("12,5", "mm", 12.5, None),
    ("1,234.5", "mm", 1234.5, None),
    ("1,234,567", "mm", 1234567.0, None),
    ("0,125", "mm", 0.125, None),
    ("12.5 ± 0.1", "mm", 12.5, 0.1),
    ("12.5 +/- 0.1", "mm", 12.5, 0.1),
    ("3/4 in ± 1 mm", "mm", 19.05, 1.0),
    ("3/4 in ± 1/64", "mm", 19.05, 25.4 / 64),
    ("3/4", "in", 19.05, None),
    ("2-3/4", "in", 69.85, None),
    ("-3/8", "in", -9.525, None),
    ("R", "mm", 0.339 * 25.4, None),
    ("drill E", "mm", 0.250 * 25.4, None),
    ("#7", "mm", 0.201 * 25.4, None),
    ("142.6 - 12.7/2", "mm", 136.25, None),
    ("(10 + 2) * 3", "mm", 36.0, None),
    ("2*(3+4)/7", "mm", 2.0, None),
    ("1in + 3mm", "mm", 28.4, None),
    ("1in + 3", "mm", 28.4, None),
    ("2'6\"", "mm", 762.0, None),
    ("2 ft 6 in", "mm", 762.0, None),
    ("5'", "mm", 1524.0, None),
    ("1e-3", "mm", 0.001, None),
    ("5 thou", "mm", 0.127, None),
    ("-4.2", "mm", -4.2, None),
    ("−4.2", "mm", -4.2, None),
    ("4 cm", "mm", 40.0, None),
    ("dash 6", "mm", 9.525, None),
    # ranges: the middle and half of it; a larger one first is arithmetic
    ("20-25", "mm", 22.5, 2.5),
    ("1/4 - 3/8 in", "mm", 7.9375, 1.5875),
    ("1/4-3/8", "in", 7.9375, 1.5875),
    ("100 to 380", "mm", 240.0, 140.0),
    ("380 to 100", "mm", 240.0, 140.0),
    ("25-20", "mm", 5.0, None),
    ("-5 to -3", "mm", -4.0, 1.0),
    ("1 in to 30 mm", "mm", 27.7, 2.3),
    # shop forms
    ("1½", "in", 38.1, None),
    ("½ in", "mm", 12.7, None),
    ("45 mm OD", "mm", 45.0, None),
    ("ø45", "mm", 45.0, None),
    ("about 20", "mm", 20.0, 2.0),
    ("ca. 300", "mm", 300.0, 30.0),
    ("half inch", "mm", 12.7, None),
    ("an inch and a quarter", "mm", 31.75, None),
    ("01A+0017.46", "mm", 17.46, None),
    ("17.46MM", "mm", 17.46, None),
]

OTHER_KINDS = [
    # typed | kind | value in its base unit
    ("72 lbf·ft", "torque", 72 * 1.3558179483314004),
    ("65", "torque", 65.0),
    ("2/0 AWG", "wire", 67.4),
    ("2/0", "wire", 67.4),
    ("4 gauge", "wire", 21.15),
    ("10 DP", "module", 2.54),
    ("58.0 psi", "pressure", 3.999),
    ("1 bar gauge", "pressure", 1.0),
    ("0.99 bar absolute", "pressure", 0.99),
    ("8", "count", 8.0),
    ("12 %", "ratio", 0.12),
    ("68 °F", "temperature", 20.0),
    ("6.5 hp", "power", 4.847),
    ("3 t", "mass", 3000.0),
    ("90 ft lbs", "torque", 90 * 1.3558179483314004),
    ("14 in lb", "torque", 14 * 0.1129848290276167),
    ("3.2:1", "ratio", 3.2),
    ("2-3 deg", "angle", 2.5),
    ("58 psig", "pressure", 3.999),
    ("1.5 h", "time", 90.0),
    ("1 h 20 min", "time", 80.0),
    ("€ 180.50", "money", 180.5),
    ("$12", "money", 12.0),
    ("M10", "thread", 10.0),
    ("3/8-16", "thread", 9.525),
    ("3/8 UNC", "thread", 9.525),
    ("No. 10-24", "thread", 4.826),
    ("7/16-14", "thread", 11.1125),
]

THREADS = [
    # typed | pitch mm | echo
    ("M10", 1.5, "M10"),
    ("M10x1.25", 1.25, "M10 x 1.25"),
    ("3/8-16", 25.4 / 16, "3/8-16"),
    ("3/8 UNC", 25.4 / 16, "3/8-16"),
    ("3/8 UNF", 25.4 / 24, "3/8-24"),
    ("No. 10-24", 25.4 / 24, "No. 10-24"),
    ("10", None, "10 mm"),
]

ASKED = [
    # typed | kind | unit | words of the question
    ("1,234", "length", "mm", "1234, or 1.234"),
    ("3/4", "length", "mm", "Is 3/4 in inches"),
    ("2-3/4", "length", "mm", "Is 2-3/4 in inches"),
    ("125 N·m or 90 lbf·ft", "torque", None, "enter each as a statement of its own"),
    ("0.99 bar", "pressure", None, "gauge or absolute"),
    ("-11/16", "length", "mm", "Is 11/16 in inches"),
    ("(11/16)", "length", "mm", "Is 11/16 in inches"),
    ("3/4+1", "length", "mm", "Is 3/4 in inches"),
    ("1+3/4", "length", "mm", "Is 3/4 in inches"),
    ("1/4-3/8", "length", "mm", "Is 1/4 in inches"),
    ("12.5 ± 0.1 in", "length", "mm", "the ± alone in in, or both"),
    ("2-3", "count", None, "A count is one number"),
    ("3/8-16 UNF", "thread", None, "which of the two holds"),
]

REFUSED = [
    ("", "length", "Nothing was typed"),
    ("12..5", "length", "not understood|do not group"),
    ("1,23,4", "length", "more than one comma"),
    ("12,34.5", "length", "do not group thousands"),
    ("3/0", "length", "divides by zero"),
    ("4/(2-2)", "length", "divides by zero"),
    ("2in * 3in", "length", "multiplies two numbers with units"),
    ("4/(2in)", "length", "divides by a number with a unit"),
    ("(1+2", "length", "bracket is not closed"),
    ("1+", "length", "number is missing at the end"),
    ("5 bananas", "length", "not understood here. Units: mm, in"),
    ("1 ± 2 ± 3", "length", "more than one ±"),
    ("1 ± -2", "length", "below zero"),
    ("5 ± 1e999", "length", "± is too large"),
    ("5 ± 1e308", "length", "± is too large"),
    ("٣", "length", "Type the figures as 0 to 9"),
    ("1²", "length", "Type the figures as 0 to 9"),
    ("1 in mm", "length", "not understood|two units"),
    ("#93", "length", "no drill #93"),
    ("1e12", "length", "too large"),
    ("6.5", "count", "whole number"),
    ("9" * 200, "length", "longer than 120"),
    ("(" * 40 + "1" + ")" * 40, "length", "Too many brackets"),
    ("__import__('os')", "length", "not"),
]


class Understood(unittest.TestCase):
    def test_lengths(self):
        for typed, unit, value, pm in LENGTHS:
            with self.subTest(typed):
                entry = parse(typed, "length", unit)
                self.assertAlmostEqual(entry.value, value, places=9)
                self.assertEqual(entry.typed, typed)
                (
                    self.assertIsNone(entry.pm)
                    if pm is None
                    else self.assertAlmostEqual(entry.pm, pm, places=9)
                )

    def test_other_kinds(self):
        for typed, kind, value in OTHER_KINDS:
            with self.subTest(typed):
                self.assertAlmostEqual(parse(typed, kind).value, value, delta=abs(value) * 5e-4)

    def test_a_word_is_kept_and_has_no_value(self):
        for typed in ("plenty", "just clears", "about level"):
            entry = parse(typed)
            self.assertEqual((entry.word, entry.value), (typed, None))

    def test_echo_names_both_units(self):
        self.assertEqual(echo(19.05, "length"), "19.05 mm = 3/4 in")
        self.assertEqual(echo(10.0, "length"), "10 mm = 0.3937 in")
        self.assertEqual(echo(8.0, "count"), "8")

    def test_last_digit_typed_is_the_doubt_of_a_bare_statement(self):
        self.assertAlmostEqual(typed_resolution("125 N·m", "torque"), 0.5)
        self.assertAlmostEqual(typed_resolution("90 lbf·ft", "torque"), 0.5 * 1.3558179483314004)
        self.assertAlmostEqual(typed_resolution("19,05", "length"), 0.005)
        self.assertEqual(typed_resolution("3/4 in", "length"), 0.0)

    def test_threads_by_name_with_their_pitch(self):
        for typed, pitch, words in THREADS:
            with self.subTest(typed):
                entry = parse(typed, "thread", "mm")
                self.assertAlmostEqual(entry.pitch or 0.0, pitch or 0.0, places=6)
                self.assertTrue(
                    echo_entry(entry, "thread").startswith(words), echo_entry(entry, "thread")
                )

    def test_the_echo_tells_a_range_from_a_difference_and_a_guess(self):
        for typed, words in (
            ("20-25", "22.5 mm.*± 2.5, read as a range"),
            ("25-20", "5 mm.*read as a difference"),
            ("about 20", "± 2, a guess"),
        ):
            with self.subTest(typed):
                self.assertRegex(echo_entry(parse(typed, "length", "mm"), "length"), words)

    def test_words_that_mean_nought_only_where_the_hint_says_so(self):
        self.assertEqual(parse("Flush", "length", "mm", ("flush", "none")).value, 0.0)
        self.assertEqual(
            (parse("flush", "length", "mm").value, parse("flush", "length", "mm").word),
            (None, "flush"),
        )


class AskedOrRefused(unittest.TestCase):
    def test_two_readings_are_asked_about(self):
        for typed, kind, unit, words in ASKED:
            with self.subTest(typed), self.assertRaisesRegex(AskAgain, words):
                parse(typed, kind, unit)

    def test_each_refusal_says_why(self):
        for typed, kind, words in REFUSED:
            with self.subTest(typed), self.assertRaisesRegex(EntryError, words):
                parse(typed, kind)

    @settings(max_examples=400, deadline=None)
    @given(st.text(alphabet="0123456789.,+-*/()±'\"inmft#R eE°", max_size=24))
    def test_no_text_breaks_the_reader(self, typed):
        try:
            value = parse(typed, "length").value
        except EntryError:
            return
        self.assertTrue(value is None or abs(value) < 1e9)


class ThereAndBack(unittest.TestCase):
    @settings(max_examples=200, deadline=None)
    @given(st.integers(0, 40), st.integers(1, 63), st.sampled_from([2, 4, 8, 16, 32, 64]))
    def test_every_fraction_of_a_rule_reads_as_its_length(self, whole, part, over):
        part %= over
        text = (
            f"{whole}-{part}/{over} in"
            if whole and part
            else f"{part}/{over} in"
            if part
            else f"{whole} in"
        )
        self.assertAlmostEqual(parse(text).value, (whole + part / over) * 25.4, places=9)

    @settings(max_examples=200, deadline=None)
    @given(st.floats(-5000, 5000, allow_nan=False).map(lambda x: round(x, 3)))
    def test_a_decimal_reads_the_same_with_point_or_comma(self, value):
        plain = f"{value:.2f}"
        self.assertEqual(parse(plain).value, parse(plain.replace(".", ",")).value)


class WhatItNames(unittest.TestCase):
    """A bolt by its spanner, a pipe over its bead: asked about, never guessed."""

    def test_a_name_that_stands_for_two_sizes_is_asked_about(self):
        for typed, kind, words in (
            ("12 mm bolt", "thread", "spanner"),
            ("half-inch nut", "thread", "spanner"),
            ("13 AF", "thread", "spanner"),
            ("19 mm spanner", "length", "spanner"),
            ("number ten", "thread", "No. 10"),
            ("38 over bead", "length", "Over a bead"),
            ("1 1/2 in over the barb", "length", "Over a bead"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(AskAgain, words):
                parse(typed, kind)

    def test_what_says_where_it_was_taken_is_read(self):
        for typed, value in (("38 bore", 38.0), ("1 1/2 in od", 38.1), ("ø 12", 12.0)):
            self.assertAlmostEqual(parse(typed).value, value)
        self.assertEqual(parse("M12x1.25", "thread").value, 12.0)
        self.assertEqual(parse("over the moon", "length").word, "over the moon")
