"""The worked example of docs/add-a-question.md runs as it is printed, up to the sheet."""

import io
import re
import unittest
from pathlib import Path

import pypdf

from pindo.core.inputs.dimensions import DIMENSIONS, Station
from pindo.core.judging.question import QUESTIONS, DeclarationError, enrol, withdraw
from pindo.formats.sheet_pdf import station_sheet
from tests.support import drawn


class TheExample(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        page = (Path(__file__).parents[2] / "docs" / "add-a-question.md").read_text("utf-8")
        cls.blocks = re.findall(r"```python\n(.*?)```", page, re.S)
        cls.names = {}
        exec("\n".join(cls.blocks), cls.names)

    def test_it_runs_and_leaves_nothing_behind(self):
        self.assertEqual(len(self.blocks), 4)
        found = self.names["finding"]
        self.assertAlmostEqual(found.value, self.by_hand())
        self.assertNotIn("stack.shield", QUESTIONS)
        self.assertNotIn("shield_bulge_mm", DIMENSIONS)

    def by_hand(self):
        values = self.names["answer"].quantities
        flange, spacer, ring, shield = (
            values[k].value
            for k in ("crank_flange_mm", "crank_spacer_mm", "ring_front_mm", "separator_mm")
        )
        return flange + spacer + ring - shield - 2.0

    def test_its_doubt_is_that_of_every_reading_behind_it(self):
        found, values = self.names["finding"], self.names["answer"].quantities
        behind = (
            "crank_flange_mm",
            "crank_spacer_mm",
            "ring_front_mm",
            "separator_mm",
            "shield_bulge_mm",
        )
        square = sum(values[k].pm ** 2 for k in behind)
        self.assertAlmostEqual(found.u, square**0.5)
        self.assertEqual(set(found.inputs), set(behind))

    def test_picture_table_figure_and_sheet_follow(self):
        enrol(self.names["QUESTION"])
        try:
            shown = drawn(self.names["build"])
            content = station_sheet(self.names["build"], self.names["answer"], Station.STACK, shown)
        finally:
            withdraw(self.names["QUESTION"])
        board = shown["stack.shield"]
        self.assertEqual([c.letter for c in board.drawings[0].callouts], ["A"])
        self.assertAlmostEqual(board.readings[0].value, self.by_hand())
        pages = pypdf.PdfReader(io.BytesIO(content)).pages
        text = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in pages))
        for words in ("Shield and ring", "room behind the shield", "Dust shield, bulge"):
            self.assertIn(words, text)

    def test_a_size_with_two_letters_is_refused(self):
        from dataclasses import replace

        twice = {"A": self.names["BULGE"], "B": "shield_bulge_mm"}
        wrong = replace(self.names["QUESTION"], dimensions=twice)
        with self.assertRaisesRegex(DeclarationError, "shield_bulge_mm has two letters"):
            enrol(wrong)
        self.assertNotIn("stack.shield", QUESTIONS)
        DIMENSIONS.pop("shield_bulge_mm", None)


if __name__ == "__main__":
    unittest.main()
