"""What the plate is cut from and in what order it is drilled; templates of wood."""

import unittest

from pindo.core.assessment import assess
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.outline import plate_of, wooden
from pindo.core.stations.mate.stock import blank, offers
from tests.support import build, demo, drawn, face, hole, said

DIMS = {"plate_mm": "18", "clocking_deg": "0", "outline_margin_mm": "10", "window_mm": "0"}


def sheet(n, long, wide, thick, price=None, material="steel"):
    return {"n": n, "long": long, "wide": wide, "thick": thick, "price": price} | (
        {"material": material} if material is not None else {}
    )


def of(*sheets, turned=False):
    # A slim plate: three holes in one line, the lands 24 wide.
    ends = ((0, 0), (120, 160), (240, 320)) if turned else ((0, 0), (200, 0), (400, 0))
    holes = [
        hole(n, f"{u}", f"{v}", land="24", backing="metal") for n, (u, v) in enumerate(ends, 1)
    ]
    return build(
        said(**DIMS),
        engine_face=face(*holes),
        options={"coupling": "clutch and bellhousing", "plate_material": "steel"},
        sheets=list(sheets),
    )


class Stock(unittest.TestCase):
    def test_the_blank_is_turned_so_that_it_wants_least_and_has_the_saw_round_it(self):
        for turned in (False, True):
            found = blank(resolve(of(turned=turned)))
            # 400 between centres, 24 of land, 2 x 10 of margin, 2 x 5 of saw.
            self.assertAlmostEqual(found.long, 454, delta=0.1)
            self.assertAlmostEqual(found.wide, 54, delta=0.1)

    def test_of_two_plates_the_thicker_is_looked_for(self):
        made = of(sheet(1, "500", "200", "10"))
        for first, thick, word in (("8", 10, "as it is"), ("11", 11, "1.0 mm too thin")):
            document = made.model_dump(mode="json")
            document["options"]["plates"] = "two"
            document["dims"] |= said(plate_first_mm=first)
            two = resolve(type(made).model_validate(document))
            self.assertEqual(blank(two).thick, thick)
            self.assertEqual(offers(two)[0].why, word)

    def test_the_cheapest_that_holds_it_comes_first_and_every_refusal_has_its_reason(self):
        rows = (
            sheet(1, "500", "200", "20", "90"),
            sheet(2, "100", "500", "18", "60"),
            sheet(3, "450", "200", "18", "20"),
            sheet(4, "500", "200", "15", "10"),
            sheet(5, "500", "200", "18", "10", "aluminium"),
            sheet(6, "500", None, "18"),
        )
        found = offers(resolve(of(*rows)))
        self.assertEqual([o.sheet.n for o in found], [2, 1, 6, 4, 5, 3])
        self.assertEqual(
            [o.why for o in found],
            [
                "as it is",
                "2.0 mm to be milled off",
                "a size is wanting",
                "3.0 mm too thin",
                "the plate is steel",
                "4 mm too short or narrow",
            ],
        )
        # 500 x 100 less 454 x 54: a strip over the whole width, one beside the plate.
        strips = [tuple(round(x) for x in s) for s in found[0].strips]
        self.assertEqual(strips, [(100, 46), (454, 46)])

    def test_none_that_holds_it_is_said(self):
        def told(*rows):
            return {f.id: f for f in assess(of(*rows)).findings}.get("mate.stock")

        self.assertIsNone(told())
        self.assertIsNone(told(sheet(1, "500", "200", "20"), sheet(2, "1", "1", "1")))
        self.assertEqual(told(sheet(2, "10", "10", "20")).verdict, Verdict.FOULS)
        self.assertEqual(told(sheet(2, "10", "10", None)).verdict, Verdict.UNMEASURED)


class Order(unittest.TestCase):
    def test_locating_holes_are_drilled_first_and_no_drill_is_changed_twice(self):
        rows = sorted(plate_of(resolve(demo())).drilling, key=lambda r: r.order)
        self.assertEqual([r.order for r in rows], list(range(1, len(rows) + 1)))
        self.assertEqual([r.label for r in rows[:4]], ["E21", "E22", "G21", "G22"])
        drills = [r.d for r in rows[4:]]
        self.assertEqual(
            len(set(drills)), sum(a != b for a, b in zip(drills, [0, *drills[:-1]], strict=True))
        )
        table = {t.key: t for t in drawn(demo())["mate.plate"].tables}["drilling"]
        self.assertEqual(table.rows[0].cells[1], "E21")


class Wood(unittest.TestCase):
    def test_it_carries_locating_holes_at_size_and_pilots_elsewhere(self):
        metal = plate_of(resolve(demo()))
        wood = wooden(metal)
        self.assertEqual(wood.outline, metal.outline)
        for a, b in zip(metal.drilling, wood.drilling, strict=True):
            self.assertEqual((a.u, a.v), (b.u, b.v))
            self.assertEqual(b.d, a.d if a.layer == "dowel" else 3.0)
            self.assertIsNone(b.recess if b.layer != "dowel" else None)


if __name__ == "__main__":
    unittest.main()
