"""The dial on the crank, through the whole road: readings at clock positions, runout with its
doubt, what the turn leaves open, what cures it.
"""

import math
import unittest

import numpy as np

from pindo.core.acts import Happen
from pindo.core.assessment import assess
from pindo.core.geometry.dial import swept
from pindo.core.inputs.quantities import Status
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Verdict
from pindo.core.stations.mate.dials import best_dowel, clock, shims
from tests.support import build, drawn, entered, face, finding, hole, said

EIGHT = [45.0 * k for k in range(8)]
UNEVEN = [0.0, 40.0, 110.0, 150.0, 200.0, 290.0, 330.0]
CLUTCHED = {"coupling": "clutch and bellhousing"}


def read(angle, e=0.2, high=90.0, oval=0.0, mean=0.5, tilt=20.0):
    return (
        mean
        + e * math.cos(math.radians(angle - high))
        + oval / 2.0 * math.cos(2.0 * math.radians(angle - tilt))
    )


def dialled(angles=EIGHT, of="bore", back=None, **how):
    rows = [
        {"n": n, "of": of, "at": f"{a}", "value": f"{read(a, **how):.4f}"}
        for n, a in enumerate(angles, 1)
    ]
    if back is not None:
        off = read(angles[0], **how) + back
        rows.append({"n": 90, "of": of, "at": f"{angles[0]}", "value": f"{off:.4f}"})
    return rows


def of_dials(rows, **more):
    return build(dials=rows, options=CLUTCHED, **more)


def ids(of):
    return {f.id: f for f in assess(of).findings if f.question == "mate.runout"}


class ThroughTheWholeRoad(unittest.TestCase):
    def test_an_offset_comes_out_as_the_full_swing_with_its_doubt_and_verdict(self):
        for e, verdict in ((0.05, Verdict.GOES), (0.125, Verdict.TIGHT), (0.2, Verdict.FOULS)):
            with self.subTest(e):
                made = of_dials(dialled(e=e))
                found = ids(made)["mate.bore_tir"]
                self.assertEqual(found.verdict, verdict)
                self.assertAlmostEqual(found.value, 2.0 * e, places=3)
                # Eight readings to 0.02: u of an amplitude is u sqrt(2 / n).
                self.assertAlmostEqual(found.value_pm, 2.0 * 0.02 * math.sqrt(2.0 / 8.0), places=3)
        q = resolve(of_dials(dialled())).quantities["bore_tir_mm"]
        self.assertEqual(set(q.parts), {f"dials.{n}.value" for n in range(1, 9)})

    def test_ovality_does_not_leak_into_the_offset_where_the_positions_tell_it(self):
        made = of_dials(dialled(UNEVEN, e=0.1, oval=0.3))
        self.assertAlmostEqual(resolve(made).value("bore_tir_mm"), 0.2, places=3)
        oval = finding(made, "mate.bore_oval")
        self.assertEqual(oval.verdict, Verdict.FOULS)
        self.assertGreater(oval.value, 0.3)
        # Four even positions cannot show it, and nothing is claimed of it.
        four = of_dials(dialled([0.0, 90.0, 180.0, 270.0], e=0.1, oval=0.3))
        self.assertNotIn("mate.bore_oval", ids(four))

    def test_an_offset_within_its_doubt_is_not_known_better_than_its_readings(self):
        q = resolve(of_dials(dialled(e=0.0))).quantities["bore_tir_mm"]
        self.assertAlmostEqual(q.value, 0.0, places=3)
        self.assertAlmostEqual(q.pm, 2.0 * 0.02 * math.sqrt(2.0 / 8.0), places=3)

    def test_what_does_not_go_round_or_does_not_come_back_says_nothing(self):
        for angles in ([0.0, 90.0, 180.0], [0.0, 30.0, 60.0, 90.0, 180.0]):
            made = of_dials(dialled(angles))
            told = ids(made)
            self.assertEqual(told["mate.dial.bore.few"].verdict, Verdict.UNMEASURED)
            self.assertEqual(told["mate.bore_tir"].verdict, Verdict.UNMEASURED)
            self.assertIn("do not go round", told["mate.bore_tir"].sentence.mm)
        slipped = ids(of_dials(dialled(back=0.07)))
        self.assertEqual(slipped["mate.dial.bore.closure"].condition, "contradiction")
        self.assertIn(
            "0.07", slipped["mate.dial.bore.closure"].sentence.mm.replace("0.1 mm", "0.07")
        )
        self.assertEqual(slipped["mate.bore_tir"].verdict, Verdict.UNMEASURED)
        steady = of_dials(dialled(back=0.01))
        self.assertEqual(resolve(steady).quantities["bore_tir_mm"].status, Status.STANDING)

    def test_scatter_that_is_more_than_the_dials_own_doubt_counts(self):
        rows = dialled(UNEVEN + [20.0, 250.0], e=0.1)
        quiet = resolve(of_dials(rows)).quantities["bore_tir_mm"].pm
        for n, off in ((2, 0.06), (5, -0.05), (7, 0.04)):
            rows[n]["value"] = f"{float(rows[n]['value']) + off:.4f}"
        loud = resolve(of_dials(rows)).quantities["bore_tir_mm"].pm
        self.assertGreater(loud, 1.5 * quiet)

    def test_a_turn_of_several_states_is_no_turn(self):
        rows = dialled()
        rows[3]["evidence"] = {"tool": "dial indicator", "state": {"position": "hung"}}
        told = ids(of_dials(rows))["mate.bore_tir"]
        self.assertEqual(told.verdict, Verdict.UNMEASURED)
        self.assertIn("several states", told.sentence.mm)

    def test_a_dowel_that_is_changed_spoils_the_turn(self):
        gone = entered(of_dials(dialled()), Happen(event="dowel out, in or replaced"))
        self.assertEqual(ids(gone)["mate.bore_tir"].verdict, Verdict.UNMEASURED)

    def test_a_reading_of_the_whole_swing_still_counts_where_no_turn_was_taken(self):
        made = of_dials([], dims=said(bore_tir_mm="0.1"))
        self.assertAlmostEqual(ids(made)["mate.bore_tir"].value, 0.1)


class Cures(unittest.TestCase):
    def test_the_dowel_that_leaves_the_least_and_which_way(self):
        for offset, dowel, left in ((0.05, 0.0, 0.05), (0.2, 0.18, 0.02), (0.5, 0.53, 0.03)):
            self.assertEqual(best_dowel(offset, (0.18, 0.36, 0.53))[0], dowel)
            self.assertAlmostEqual(best_dowel(offset, (0.18, 0.36, 0.53))[1], left)
        for e, verdict, words in (
            (0.05, Verdict.GOES, "No offset dowel is wanted"),
            (0.2, Verdict.TIGHT, "moves the bell towards 3:00, where the dial reads most"),
            (1.0, Verdict.UNMEASURED, "No offset dowel brings the bell true"),
        ):
            told = ids(of_dials(dialled(e=e)))["mate.dial.bore.dowel"]
            self.assertEqual(told.verdict, verdict)
            self.assertIn(words, told.sentence.mm)
        self.assertEqual(
            [clock(d) for d in (0.0, 29.0, 105.0, 352.0)], ["12:00", "1:00", "3:30", "11:30"]
        )

    def test_shims_bring_the_face_true_and_are_nought_where_it_reads_least(self):
        pattern = face(hole(1, "150", "0"), hole(2, "-150", "0"), hole(3, "0", "150"))
        made = of_dials(
            dialled(of="face", e=0.1, high=90.0),
            dims=said(face_sweep_mm="200", clocking_deg="0"),
            gearbox_face=pattern,
        )
        found = dict(shims(resolve(made)))
        self.assertAlmostEqual(found["G2"], 0.0)
        # 0.1 mm on a radius of 100: 1.5 as much at 150, from one side to the other twice that.
        self.assertAlmostEqual(found["G1"], 0.3, places=3)
        self.assertAlmostEqual(found["G3"], 0.15, places=3)
        tables = {t.key: t for t in drawn(made)["mate.runout"].tables}
        self.assertEqual([r.cells[0] for r in tables["shims"].rows], ["G1", "G2", "G3"])
        (row,) = tables["turns"].rows
        self.assertEqual((row.cells[0], row.cells[3]), ("face", "3:00"))
        (picture,) = drawn(made)["mate.runout"].drawings
        at = {r.part: (r.x, r.y) for r in picture.rounds}
        self.assertGreater(at["reading 3"][0], 100.0)
        self.assertGreater(-100.0, at["reading 7"][0] - 30.0)


class AgainstClosedForms(unittest.TestCase):
    def test_the_fit_is_that_of_a_general_solver_for_uneven_positions(self):
        rng = np.random.default_rng(8)
        for angles in (UNEVEN, [*EIGHT, 0.0], [5.0, 95.0, 170.0, 280.0]):
            values = [read(a, e=0.13, high=200.0, oval=0.04) + rng.normal(0, 0.01) for a in angles]
            found = swept(
                [str(i) for i in range(len(angles))], angles, values, [0.01] * len(angles)
            )
            t = np.radians(angles)
            columns = [np.ones_like(t), np.cos(t), np.sin(t)]
            if len({round(a) for a in angles}) >= 6:
                columns += [np.cos(2 * t), np.sin(2 * t)]
            x, *_ = np.linalg.lstsq(np.stack(columns, 1), np.array(values), rcond=None)
            np.testing.assert_allclose(found.high, x[1:3], atol=1e-12)
