"""Hole by hole: sockets, free circles, open holes, holes drilled off, what is proposed."""

import math
import unittest

from pindo.core.assessment import assess
from pindo.core.geometry.screw_lengths import screws
from pindo.core.inputs.fasteners import head, socket
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.outline import plate_of
from tests.support import build, drawn, face, hole, said

DIMS = {
    "plate_mm": "18",
    "window_mm": "0",
    "clocking_deg": "0",
    "outline_margin_mm": "8",
    "pocket_mm": "0",
}


def of(engine=(), gearbox=(), options=None, **dims):
    return build(
        said(**(DIMS | dims)),
        engine_face=face(*engine),
        gearbox_face=face(*gearbox),
        options=options or {},
    )


def ids(made):
    return {f.id: f for f in assess(made).findings}


class Sockets(unittest.TestCase):
    def test_a_socket_takes_a_hexagon_over_its_corners_and_its_walls(self):
        # M10: 16 / cos 30 deg = 18.48, and 3 mm of wall on either side.
        self.assertAlmostEqual(socket("hex head", 10.0, 3.0), 16 / math.cos(math.pi / 6) + 6)
        self.assertIsNone(socket("cap head", 10.0, 3.0))

    def test_a_sunk_screw_gets_the_recess_that_its_tool_needs(self):
        # M10: the socket round a hexagon, a cap head of 16 mm, a countersink of 20 mm.
        hexagon = 16 / math.cos(math.pi / 6) + 6
        for fastening, across in (
            ("hex head", hexagon + 1),
            ("nut", hexagon + 1),
            ("cap head", 16 + 1),
            ("countersunk", head("countersunk", 10).circle),
        ):
            made = of([hole(1, "0", "150", "M10", fastening=fastening, recess="6")])
            drilled = plate_of(resolve(made)).drilling
            self.assertAlmostEqual(next(r for r in drilled if r.label == "E1").recess_d, across)

    def test_recesses_run_into_each_other_or_leave_metal(self):
        across = (16 / math.cos(math.pi / 6) + 6 + 1, 16 + 1, 11)
        hexagon = {"fastening": "hex head", "recess": "6"}
        cases = (
            # Two in one face; one beside a hole without; one of the other face is a plain hole.
            ("E2", across[1], {"fastening": "cap head", "recess": "11"}, "engine"),
            ("E2", across[2], {"fastening": "cap head"}, "engine"),
            ("G2", across[2], {"fastening": "nut", "recess": "6"}, "gearbox"),
        )
        for label, other, how, side in cases:
            for more, verdict in ((0.7, Verdict.GOES), (0.3, Verdict.FOULS), (-2, Verdict.FOULS)):
                v = 150 + (across[0] + other) / 2 + more
                beside = hole(2, "0", f"{v}", "M10", plate_hole="11", **how)
                engine = [hole(1, "0", "150", "M10", plate_hole="11", **hexagon)]
                gearbox = [beside] if side == "gearbox" else []
                engine += [] if side == "gearbox" else [beside]
                found = ids(of(engine, gearbox))
                at = found[f"mate.recess_beside.E1-{label}"]
                self.assertAlmostEqual(at.value, more)
                self.assertEqual((at.low, at.verdict), (0.5, verdict))
        two = ids(of(engine, gearbox, {"plates": "two"}, plate_first_mm="9"))
        self.assertNotIn("mate.recess_beside.E1-G2", two)

    def test_every_recess_that_leaves_too_little_is_told(self):
        cap = {"fastening": "cap head", "recess": "11"}
        places = ((1, 150), (2, 150 + 17.3), (3, -150), (4, -150 - 17.2))
        found = ids(of([hole(n, "0", f"{v}", "M10", **cap) for n, v in places]))
        self.assertEqual(
            {i for i in found if "recess_beside" in i},
            {"mate.recess_beside.E1-E2", "mate.recess_beside.E3-E4"},
        )

    def test_a_neighbour_stands_in_the_socket_or_beside_it(self):
        need = (socket("hex head", 10, 3) + head("cap head", 10).circle) / 2
        for off, verdict in ((2.0, Verdict.GOES), (-2.0, Verdict.FOULS)):
            engine = (
                hole(1, "0", "150", "M10", fastening="hex head"),
                hole(2, f"{need + off}", "150", "M10", fastening="cap head", recess="11"),
            )
            found = ids(of(engine))["mate.socket.E1-E2"]
            self.assertEqual(found.verdict, verdict)
            self.assertAlmostEqual(found.value, off)
            # A cap head is turned from within: nothing stands in its way.
            self.assertNotIn("mate.socket.E2-E1", ids(of(engine)))

    def test_the_pair_that_fouls_is_found_among_many_that_do_not(self):
        screw = {"fastening": "hex head"}
        turns = [math.radians(30 * k) for k in range(12)]
        ring = [
            hole(n, f"{150 * math.sin(t):.3f}", f"{150 * math.cos(t):.3f}", "M10", **screw)
            for n, t in enumerate(turns, 1)
        ]
        # Beside the ninth, up and to the left of it: 20 mm, where 21.5 are wanted.
        t = turns[8]
        u, v = 150 * math.sin(t) - 12, 150 * math.cos(t) + 16
        found = ids(of([*ring, hole(20, f"{u:.3f}", f"{v:.3f}", "M10", **screw)]))
        need = (socket("hex head", 10, 3) + head("hex head", 10).circle) / 2
        self.assertEqual(found["mate.socket.E9-E20"].verdict, Verdict.FOULS)
        self.assertAlmostEqual(found["mate.socket.E9-E20"].value, 20 - need, places=2)
        self.assertNotIn("mate.socket.E1-E2", found)


class TwoPlates(unittest.TestCase):
    def test_a_screw_clamps_and_holds_in_its_own_plate(self):
        # Of 18 mm the first has 8 and the second 10.
        rows = (
            [hole(1, "0", "150", "M10", fastening="cap head", recess="2", depth="20")],
            [
                hole(1, "0", "-150", "M10", fastening="tapped", flange="12"),
                hole(2, "90", "-150", "M10", fastening="nut", flange="12"),
            ],
        )
        for options, grips, thread in (
            ({"plates": "two"}, (8 - 2, 12, 12 + 10), 10),
            ({}, (18 - 2, 12, 12 + 18), 18),
        ):
            dims = {"plate_first_mm": "8", "separator_mm": "0"}
            options |= {"plate_material": "steel"}
            found = screws(resolve(of(*rows, options, **dims)))
            self.assertEqual(tuple(x.grip for x in found), grips)
            self.assertEqual(found[1].note, "")
            told = ids(of(*rows, options, **dims))
            (held,) = [f for i, f in told.items() if i.startswith("mate.thread")]
            self.assertEqual(held.value, thread)


class BehindTheFlange(unittest.TestCase):
    def told(self, backing, **more):
        g = hole(1, "0", "-150", "M10", fastening="tapped", **more) | {"backing": backing}
        return ids(of((), (g,)))

    def test_a_screw_has_to_pass(self):
        self.assertNotIn("mate.flange", self.told("air"))
        for backing in ("metal", "oil", "water"):
            found = self.told(backing)["mate.flange"]
            self.assertEqual(found.verdict, Verdict.FOULS)
            self.assertIn(f"{backing} behind G1", found.sentence.mm)
        self.assertEqual(self.told("unknown")["mate.flange_unknown"].verdict, Verdict.UNMEASURED)

    def test_room_round_it_is_asked_for_and_held_to_washer_and_socket(self):
        self.assertEqual(self.told("air")["mate.free"].verdict, Verdict.UNMEASURED)
        circle = socket("hex head", 10, 3)
        for free, verdict in (("26", Verdict.GOES), ("22", Verdict.FOULS)):
            found = self.told("air", free=free)
            self.assertNotIn("mate.free", found)
            self.assertEqual(found["mate.free.G1"].verdict, verdict)
            self.assertAlmostEqual(found["mate.free.G1"].value, (float(free) - circle) / 2)


class AsDrilled(unittest.TestCase):
    def told(self, window_mm="0", pocket_mm="0", pocket_u_mm="0", pocket_v_mm="0", **offs):
        dims = {
            "window_mm": window_mm,
            "pocket_mm": pocket_mm,
            "pocket_u_mm": pocket_u_mm,
            "pocket_v_mm": pocket_v_mm,
        }
        e = [
            hole(n, u, v, "M10", fastening="countersunk", recess="6", plate_hole="11")
            for n, u, v in ((1, "0", "150"), (2, "150", "-80"), (3, "-150", "-80"))
        ]
        return ids(of([e[0] | offs, *e[1:]], **dims))

    def test_the_screw_passes_within_its_play_and_the_edge_shrinks(self):
        self.assertNotIn("mate.drilled.E1", self.told())
        near = self.told(off_u="0.3", off_v="-0.3")
        self.assertAlmostEqual(near["mate.drilled.E1"].value, math.hypot(0.3, 0.3))
        self.assertEqual(near["mate.drilled.E1"].verdict, Verdict.GOES)
        far = self.told(off_u="3", off_v="4")
        self.assertEqual(far["mate.drilled.E1"].verdict, Verdict.FOULS)
        # Hull of lands of 24 mm with a margin of 8: 20 mm to the edge, 5 of them gone.
        self.assertAlmostEqual(far["mate.drilled_edge.E1"].value, 15, delta=0.03)
        self.assertEqual(far["mate.drilled_edge.E1"].low, 1.2 * 11)

    def test_the_nearest_edge_may_be_the_window_or_the_pocket(self):
        near = self.told(off_u="0.3", off_v="-0.4", window_mm="280")
        # 150 less 140 of the window, less 0.5 that it is off.
        self.assertAlmostEqual(near["mate.drilled_edge.E1"].value, 9.5)
        self.assertEqual(near["mate.drilled_edge.E1"].verdict, Verdict.FOULS)
        beside = {"pocket_mm": "60", "pocket_u_mm": "0", "pocket_v_mm": "105"}
        near = self.told(off_u="0.3", off_v="-0.4", **beside)
        self.assertAlmostEqual(near["mate.drilled_edge.E1"].value, 45 - 30 - 0.5)

    def test_what_has_no_play_is_held_to_the_drawing(self):
        for as_it_is in ({"fastening": "tapped", "recess": None}, {"role": "dowel", "d": "10"}):
            for off, verdict in (("0.05", Verdict.GOES), ("0.5", Verdict.FOULS)):
                found = self.told(off_u=off, off_v="0", **as_it_is)["mate.drilled.E1"]
                self.assertEqual((found.verdict, found.high), (verdict, 0.25))

    def test_one_offset_alone_says_nothing_of_the_other(self):
        found = self.told(off_u="0.3")["mate.drilled.E1"]
        self.assertEqual(found.verdict, Verdict.UNMEASURED)
        self.assertIn("drilled off, up", found.sentence.mm)

    def test_the_cure_is_told_with_its_sizes(self):
        why = self.told(off_u="3", off_v="4")["mate.drilled.E1"].why
        # Round 10 + 2 x 5 + 1; slot 11 x 16; washer 2 x 5 + 11 + 2 x 1.5.
        self.assertIn("Open it to 21.0 mm, or slot it 11.0 x 16.0 mm", why)
        self.assertIn("washer of 24.0 mm; the usual washer does not cover that", why)
        self.assertIn(
            "; the usual washer covers that", self.told(off_u="1", off_v="0")["mate.drilled.E1"].why
        )


class Proposed(unittest.TestCase):
    def rows(self, *args, **dims):
        (table,) = drawn(of(*args, **dims))["mate.screws"].tables
        return {r.cells[0]: r.cells for r in table.rows}

    def test_each_way_with_its_reason(self):
        alone = hole(1, "0", "150", "M10")
        under = hole(2, "150", "0", "M10")
        land = hole(1, "150", "12", "M10", land="30")
        for thick, best, words in (
            ("18", "cap head", "a counterbore leaves enough"),
            ("12", "countersunk", "only a countersink"),
            ("6", "none", "too thin for any head"),
        ):
            rows = self.rows((alone, under), (land,), plate_mm=thick)
            self.assertEqual(rows["E1"][2], "hex head")
            self.assertEqual(rows["E2"][2], best)
            self.assertIn(words, rows["E2"][3])
        self.assertEqual(self.rows((), (land,), plate_mm="18")["G1"][2], "tapped")
        aluminium = ((), (land,), {"plate_material": "aluminium"})
        self.assertEqual(self.rows(*aluminium, plate_mm="14")["G1"][2], "nut")
        self.assertEqual(self.rows(*aluminium, plate_mm="15")["G1"][2], "tapped")

    def test_a_land_lies_over_it_from_any_side(self):
        for off, best in (
            (8.5, "cap head"),
            (-8.5, "cap head"),
            (30, "hex head"),
            (-30, "hex head"),
        ):
            land = hole(1, f"{100 + off}", f"{-100 - off}", "M10", land="30")
            rows = self.rows((hole(1, "100", "-100", "M10"),), (land,))
            self.assertEqual(rows["E1"][2], best, off)

    def test_a_land_that_nobody_measured_may_lie_over_it(self):
        rows = self.rows((hole(2, "150", "0", "M10"),), (hole(1, "150", "22", "M10"),))
        self.assertIn("not measured", rows["E2"][3])


if __name__ == "__main__":
    unittest.main()
