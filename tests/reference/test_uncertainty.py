"""Doubt against independent libraries and worked examples.

[1] JCGM 100:2008 (GUM), 5.1.2 and annex H.1: end gauge, u_c from its components (values from
memory). [2] uncertainties, a general library for linear error propagation by automatic
differentiation. [3] scipy.stats: Student's t; scipy.optimize.approx_fprime: numerical gradients.
[4] ISO 14253-1: decision rule with a guard band (from memory). [5] JCGM 101:2008: propagation of
distributions by Monte Carlo.
"""

import math
import unittest

import numpy as np
from scipy import stats
from scipy.optimize import approx_fprime
from uncertainties import ufloat, umath

from pindo.core.assessment import evaluate_all
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.resolve import resolve
from pindo.core.inputs.statements import student_t
from pindo.core.judging.check import Check
from pindo.core.judging.evaluate import asked_for, evaluate, missing_inputs
from pindo.core.judging.uncertainty import margin_at, propagate, sample
from pindo.core.judging.verdict import Verdict
from tests.support import build, demo, statement

DIMS = {"plate_mm": ("18", "0.3"), "separator_mm": ("1.5", "0.2"), "nose_mm": ("24", "0.5")}


def check(value):
    return Check(
        id="test.reference",
        station=Station.STACK,
        question="stack.spacing",
        title="Reference",
        value=value,
        at_least="tip_gap_min_mm",
        says="{value}",
    )


def inputs():
    return resolve(build({k: {"statements": [statement(v, pm=pm)]} for k, (v, pm) in DIMS.items()}))


class Linear(unittest.TestCase):
    def test_against_automatic_differentiation(self):
        """[2]: a sum, a product, a root and an angle."""
        p, s, n = (
            ufloat(float(v), float(pm) / 2)
            for v, pm in (DIMS["plate_mm"], DIMS["separator_mm"], DIMS["nose_mm"])
        )
        cases = [
            (
                lambda plate_mm, separator_mm, nose_mm: plate_mm - separator_mm + 2 * nose_mm,
                p - s + 2 * n,
            ),
            (lambda plate_mm, separator_mm, nose_mm: plate_mm * separator_mm / nose_mm, p * s / n),
            (
                lambda plate_mm, separator_mm, nose_mm: (
                    np.hypot(plate_mm, nose_mm) + 0 * separator_mm
                ),
                umath.hypot(p, n),
            ),
            (
                lambda plate_mm, separator_mm, nose_mm: (
                    np.degrees(np.arctan2(plate_mm, nose_mm)) + separator_mm
                ),
                umath.degrees(umath.atan2(p, n)) + s,
            ),
        ]
        for i, (function, expected) in enumerate(cases):
            with self.subTest(i):
                found = propagate(check(function), inputs())
                self.assertAlmostEqual(found.nominal.value, expected.nominal_value)
                # A difference over one u against a derivative: they part by the curvature, under 1
                # % here.
                self.assertAlmostEqual(found.u_margin / expected.std_dev, 1.0, delta=0.02)

    def test_every_check_of_the_demo_against_numerical_gradients(self):
        """[3]: u_c from scipy's gradient, for each check that is straight at its values."""
        ready, straight = resolve(demo()), 0
        for c, _ in evaluate_all(ready).values():
            said = asked_for(c, ready)
            if missing_inputs(c, ready) or not said:
                continue
            x0 = np.array([ready.quantities[a].value for a in said], float)
            u = np.array([ready.quantities[a].u for a in said])

            def margin(x, c=c):
                changed = ready
                for address, value in zip(asked_for(c, ready), x, strict=True):
                    changed = changed.with_value(address, float(value))
                return margin_at(c, changed)

            gradient = approx_fprime(x0, margin, 1e-5)
            expected, found = (
                float(np.sqrt(((gradient * u) ** 2).sum())),
                propagate(c, ready).u_margin,
            )
            kinked = abs(found - expected) > 0.02 * max(expected, 1e-9) + 1e-9
            self.assertGreaterEqual(
                found, expected * 0.98 - 1e-9, c.id
            )  # the doubt is never understated
            straight += not kinked
        self.assertGreaterEqual(straight, 35)

    def test_the_gums_end_gauge(self):
        """[1] H.1: components 25, 9.7, 2.9 and 16.7 nm (from memory) give u_c = 31.7 nm; ours
        add the same way.
        """
        dims = {
            k: {"statements": [statement("10", "drawing", pm=f"{2 * u}")]}
            for k, u in zip(
                ("plate_mm", "separator_mm", "nose_mm", "hub_mm"),
                (25.0, 9.7, 2.9, 16.7),
                strict=True,
            )
        }
        summed = check(
            lambda plate_mm, separator_mm, nose_mm, hub_mm: (
                plate_mm + separator_mm - nose_mm + hub_mm
            )
        )
        self.assertAlmostEqual(
            propagate(summed, resolve(build(dims))).u_margin,
            math.sqrt(25**2 + 9.7**2 + 2.9**2 + 16.7**2),
            places=9,
        )
        self.assertAlmostEqual(propagate(summed, resolve(build(dims))).u_margin, 31.7, delta=0.2)

    def test_students_factor(self):
        for dof in (1, 2, 4, 9, 30):
            self.assertAlmostEqual(student_t(dof), stats.t.ppf(0.975, dof), places=9)


class Sampled(unittest.TestCase):
    def test_the_interval_against_a_normal(self):
        """[5]: a sum of several inputs is normal: 95 % lies within 1.96 u."""
        c = check(lambda plate_mm, separator_mm, nose_mm: plate_mm - separator_mm + 2 * nose_mm)
        drawn, p = sample(c, inputs()), propagate(c, inputs())
        middle = p.nominal.margin
        for end, side in ((drawn.low, -1), (drawn.high, 1)):
            # 200 000 draws know a 2.5 % quantile to 0.006 u (one standard error); three of them are
            # allowed.
            self.assertAlmostEqual((end - middle) / p.u_margin, side * 1.96, delta=0.018)

    def test_the_chance_against_the_normal_integral(self):
        c = check(lambda plate_mm, separator_mm, nose_mm: nose_mm - plate_mm - separator_mm - 2.4)
        drawn, p = sample(c, inputs()), propagate(c, inputs())
        self.assertAlmostEqual(
            drawn.chance, stats.norm.cdf(p.nominal.margin / p.u_margin), delta=0.004
        )


class Decision(unittest.TestCase):
    def test_both_bands(self):
        """[4]: proven good outside the limit by U, proven bad inside it by U, neither between."""
        for plate, verdict in (
            ("2.31", Verdict.GOES),
            ("2.29", Verdict.TIGHT),
            ("1.71", Verdict.TIGHT),
            ("1.69", Verdict.FOULS),
        ):
            one = resolve(
                build({"plate_mm": {"statements": [statement(plate, "drawing", pm="0.3")]}})
            )
            self.assertEqual(evaluate(check(lambda plate_mm: plate_mm + 0.0), one).verdict, verdict)
