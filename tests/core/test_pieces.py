"""Pieces of the crank spacer, and parts made for a thickness: value, limit and verdict."""

import unittest

from pindo.core.judging.verdict import Verdict
from tests.core.test_stack import DIMS, OPTIONS
from tests.support import build, drawn, finding, said

SURE = {"source": "drawing", "pm": "0"}
PIECES = [
    {
        "n": 1,
        "name": "hub ring",
        "evidence": SURE,
        "thick": "6",
        "pcd": "96",
        "bolt": "M10",
        "long": "30",
        "clamped": "18",
        "depth": "16",
        "spigot": "60",
        "bore": "60.04",
    },
    {"n": 2, "evidence": SURE, "thick": "4", "bolt": "M8", "long": "20", "clamped": "14"},
]


def stack(pieces=PIECES, made=(), **changes):
    dims = said(**(DIMS | {"crank_pcd_mm": "96"} | changes))
    rows = {"spacer_pieces": list(pieces), "made_for": list(made)}
    return build(dims, options=OPTIONS, **rows)


class Pieces(unittest.TestCase):
    def changed(self, id, **change):
        return finding(stack([PIECES[0] | change, PIECES[1]]), f"stack.piece.{id}")

    def test_pieces_add_up_to_the_spacer(self):
        self.assertEqual(finding(stack(), "stack.piece.sum").verdict, Verdict.GOES)
        for spacer, off, verdict in (("9.95", 0.05, "goes"), ("9.7", 0.3, "fouls")):
            found = finding(stack(crank_spacer_mm=spacer), "stack.piece.sum")
            self.assertAlmostEqual(found.value, off)
            self.assertEqual((found.low, found.high), (-0.2, 0.2))
            self.assertEqual(found.verdict.value, verdict)

    def test_thread_in_use_and_room_before_it_ends(self):
        found = self.changed("thread.1")
        self.assertAlmostEqual(found.value, 12.0)  # 30 - 18
        self.assertAlmostEqual(found.low, 10.0)  # one diameter in steel
        self.assertTrue(found.safety)
        self.assertEqual(self.changed("thread.1", long="27").verdict, Verdict.FOULS)
        self.assertIn("end 2.00 mm before", self.changed("thread.1", long="16").sentence.mm)
        left = self.changed("bottom.1")
        self.assertAlmostEqual(left.value, 4.0)  # 16 - 12
        self.assertEqual(self.changed("bottom.1", depth="12.5").verdict, Verdict.FOULS)
        self.assertIn("bottom 1.00 mm before", self.changed("bottom.1", depth="11").sentence.mm)
        # The second piece's hole was not gauged.
        self.assertEqual(finding(stack(), "stack.piece.bottom.2").verdict, Verdict.UNMEASURED)

    def test_register_and_circle(self):
        self.assertAlmostEqual(self.changed("register.1").value, 0.04)
        self.assertEqual(self.changed("register.1", bore="60.3").verdict, Verdict.FOULS)
        self.assertIn("0.50 mm smaller", self.changed("register.1", bore="59.5").sentence.mm)
        self.assertEqual(self.changed("circle.1").verdict, Verdict.GOES)
        for pcd in ("95", "97"):
            self.assertEqual(self.changed("circle.1", pcd=pcd).verdict, Verdict.FOULS)


class MadeFor(unittest.TestCase):
    SPACER = {
        "n": 1,
        "name": "slave spacer",
        "evidence": SURE,
        "of": "adapter plate",
        "made_for": "19.05",
        "size": "25.4",
        "more": "6.35",
    }

    def of(self, plate, **change):
        made = stack(made=[self.SPACER | change], plate_mm=plate)
        return [finding(made, f"stack.made{part}.1") for part in ("", ".size")]

    def test_a_slave_spacer_follows_its_plate(self):
        """A spacer of plate and 1/4 in, made for a plate of 3/4 in: on 1 in both are wrong."""
        for found in self.of("19.05 mm"):
            self.assertEqual((found.verdict, round(found.value, 6)), (Verdict.GOES, 0.0))
        made, size = self.of("25.4")
        self.assertAlmostEqual(made.value, 6.35)
        self.assertAlmostEqual(size.value, -6.35)
        self.assertEqual((made.low, made.high), (-0.2, 0.2))
        self.assertEqual({made.verdict, size.verdict}, {Verdict.FOULS})
        self.assertIn("Slave spacer, made for a thickness of 19.05 mm", made.sentence.mm)
        thinner, _ = self.of("18")
        self.assertEqual(thinner.verdict, Verdict.FOULS)

    def test_what_it_follows(self):
        """Plate 18, shield 2, crank spacer 10."""
        for of, now in (
            ("plate and shield", 20.0),
            ("crank spacer", 10.0),
            ("all of them", 30.0),
        ):
            made, _ = self.of("18", of=of)
            self.assertAlmostEqual(made.value, now - 19.05, msg=of)
        board = drawn(stack(made=[self.SPACER]))["stack.made"]
        self.assertAlmostEqual(board.tables[0].rows[0].cells[4], 18 - 19.05)


if __name__ == "__main__":
    unittest.main()
