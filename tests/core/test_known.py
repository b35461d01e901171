"""Known patterns of the shelf laid on the measured castings, through the whole road."""

import unittest

import numpy as np

from pindo.core.geometry.registration import laid
from tests.reference.test_registration import PATTERN
from tests.support import build, drawn, face, hole


def rows(points, d="M10", **more):
    return [hole(n, f"{u:.4f}", f"{v:.4f}", d, **more) for n, (u, v) in enumerate(points, 1)]


def known(engine, shelf=None, gearbox=(), kind="engine"):
    parts = []
    if shelf is not None:
        parts.append({"n": 3, "name": "known block", "kind": kind, "face": face(*rows(shelf))})
    made = build(engine_face=face(*rows(engine)), gearbox_face=face(*rows(gearbox)), parts=parts)
    tables = {t.key: t for t in drawn(made)["mate.pattern"].tables}
    return tables["known"].rows if "known" in tables else ()


class Shelf(unittest.TestCase):
    def test_a_pattern_that_is_the_same_is_found_with_its_turn_and_shift(self):
        moved = laid(PATTERN, -12.0, np.array([4.0, -3.0]), False)
        (row,) = known(PATTERN, moved)
        self.assertEqual(row.cells[:3], ("known block", "engine", "7 of 7"))
        self.assertAlmostEqual(row.cells[3], 12.0, places=3)
        self.assertEqual((row.cells[7], row.mark), ("all pass", "goes"))

    def test_one_hole_that_was_moved_is_named_with_its_cure(self):
        moved = PATTERN.copy()
        moved[3] += (1.9, 0.0)
        (row,) = known(PATTERN, moved)
        self.assertEqual(row.mark, "tight")
        self.assertIn("E4 opened by 2.8 mm", row.cells[7])

    def test_one_taken_from_the_other_side_is_told(self):
        (row,) = known(PATTERN, laid(PATTERN, 0.0, np.zeros(2), True))
        self.assertIn("mirrored", row.cells[7])
        self.assertEqual(row.mark, "fouls")

    def test_another_pattern_meets_too_few_and_one_without_places_is_passed_over(self):
        others = known(PATTERN, PATTERN * 0.7)
        self.assertTrue(not others or others[0].mark == "fouls")
        self.assertEqual(known(PATTERN), ())

    def test_a_bell_that_goes_on_without_a_plate_is_seen(self):
        (row,) = known(PATTERN, None, laid(PATTERN, 30.0, np.zeros(2), False))
        self.assertEqual(row.cells[:3], ("gearbox", "engine", "7 of 7"))
        self.assertAlmostEqual(row.cells[3], -30.0, places=3)
        self.assertEqual(row.mark, "goes")
        self.assertEqual(known(PATTERN, None, PATTERN + np.array([9.0, 0.0])), ())


if __name__ == "__main__":
    unittest.main()
