"""Crank spacing: does the nose sit in its bearing, and does nothing touch that must not?

All lengths mm; arrays broadcast. Sums along one axis: closed forms, no published source.
"""

from collections.abc import Iterator
from functools import partial

import numpy as np

from pindo.core.drawing.board import Board
from pindo.core.geometry.axial import AXIAL, BEHIND_THE_BELL
from pindo.core.inputs.couplings import bellhoused, clutched
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question, Seen
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.bring import bring_table
from pindo.core.stations.stack.common import JOINING, STACK_STATES
from pindo.core.stations.stack.section import section_for

check = partial(Check, station=Station.STACK, question="stack.spacing", accepts=STACK_STATES)


def overlap(a_low: Numbers, a_high: Numbers, b_low: Numbers, b_high: Numbers) -> Numbers:
    """Length that two intervals share; negative is the gap between them. [mm]"""
    return np.minimum(a_high, b_high) - np.maximum(a_low, b_low)


def pilot_engagement(
    tip_s: Numbers,
    nose_mm: Numbers,
    nose_chamfer_mm: Numbers,
    pilot_rear_s: Numbers,
    pilot_width_mm: Numbers,
) -> Numbers:
    """Nose in its bearing: overlap of [tip + chamfer, tip + nose] with the bearing. [mm]"""
    bears, shoulder = tip_s + nose_chamfer_mm, tip_s + nose_mm
    return overlap(bears, shoulder, pilot_rear_s - pilot_width_mm, pilot_rear_s)


def pilot_wanted(pilot_width_mm: Numbers, pilot_share: float, pilot_least_mm: float) -> Numbers:
    """max(share x width, min(least, width)). [mm]"""
    return np.maximum(pilot_share * pilot_width_mm, np.minimum(pilot_least_mm, pilot_width_mm))


def tip_clearance(
    tip_s: Numbers, crank_flange_mm: Numbers, crank_bore_depth_mm: Numbers
) -> Numbers:
    """Shaft tip to the bottom of the crank's bore. [mm]"""
    return tip_s - (crank_flange_mm - crank_bore_depth_mm)


def shoulder_clearance(tip_s: Numbers, nose_mm: Numbers, pilot_rear_s: Numbers) -> Numbers:
    """Shaft shoulder behind the rear end of the pilot bearing. [mm]"""
    return tip_s + nose_mm - pilot_rear_s


def flywheel_in_bell(bell_bore_mm: Numbers, flywheel_od_mm: Numbers) -> Numbers:
    """Radial gap of the flywheel in the bell. [mm]"""
    return (bell_bore_mm - flywheel_od_mm) / 2.0


def flywheel_in_window(window_mm: Numbers, flywheel_od_mm: Numbers) -> Numbers:
    """Radial gap of the flywheel in the plate's window. [mm]"""
    return (window_mm - flywheel_od_mm) / 2.0


CHECKS = (
    check(
        id="stack.pilot_engagement",
        title="Nose in the pilot bearing",
        value=pilot_engagement,
        at_least=pilot_wanted,
        monte_carlo=True,
        says="Nose sits {value} in its bearing; needs {limit}",
        fouls="Nose misses its bearing by {over}; needs {limit} inside",
        why=(
            "A nose held on a corner of its bearing whips, chews the nose and howls with the clutch"
            " down."
        ),
    ),
    check(
        id="stack.tip_clearance",
        title="Shaft tip to the crank bore",
        value=tip_clearance,
        at_least="tip_gap_min_mm",
        says="Shaft tip clears the crank bore by {value}; needs {limit}",
        fouls="Shaft tip goes {over} into the bottom of the crank bore",
        why=(
            "A shaft that bottoms holds the faces apart; drawn up with bolts it breaks ears and the"
            " crank's thrust bearing."
        ),
        caution=JOINING,
    ),
    check(
        id="stack.shoulder_clearance",
        title="Shaft shoulder behind the bearing",
        value=shoulder_clearance,
        at_least="shoulder_gap_min_mm",
        says="Shaft shoulder stands {value} behind the pilot bearing; needs {limit}",
        fouls="Shaft shoulder presses {over} into the pilot bearing",
        why="A shoulder that touches loads the bearing endwise and burns it.",
        caution=JOINING,
    ),
    check(
        id="stack.flywheel_in_bell",
        title="Flywheel in the bell",
        value=flywheel_in_bell,
        at_least="rotating_gap_mm",
        says="Flywheel clears the bell by {value} all round; needs {limit}",
        fouls="Flywheel is {over} too large for the bell all round",
        why="Crank float, flexing and casting scatter add up at the rim.",
    ),
    check(
        id="stack.flywheel_in_window",
        title="Flywheel in the plate's window",
        value=flywheel_in_window,
        at_least="rotating_gap_mm",
        says="Flywheel clears the plate's window by {value} all round; needs {limit}",
        fouls="Flywheel is {over} too large for the window all round",
        why="The rim runs inside the plate.",
    ),
)


_NOSE = frozenset({pilot_engagement, tip_clearance, shoulder_clearance})
"""What is asked of an input shaft whose nose runs in a bearing."""


def checks(inputs: Inputs) -> Iterator[Check]:
    """Behind the bell the plate has no flywheel in its window; only a clutch's shaft has its nose
    in a bearing here.
    """
    behind = inputs.options.get("plate_at") == BEHIND_THE_BELL
    nosed = clutched(inputs)
    for c in CHECKS:
        if not (behind and c.value is flywheel_in_window) and (nosed or c.value not in _NOSE):
            yield c


def board(inputs: Inputs, seen: Seen) -> Board:
    """The section, and what to bring to the bench for what the Stack still wants."""
    bring = bring_table(inputs)
    drawings = (section_for(inputs, "stack.spacing", seen),)
    return Board(drawings=drawings, tables=(bring,) if bring.rows else ())


QUESTION = Question(
    path="spacing",
    station=Station.STACK,
    name="Spacing",
    asks="Does the nose sit in its bearing, and does nothing touch that must not?",
    options=("pilot_in",),
    dimensions={
        "A": "crank_flange_mm",
        "B": "crank_bore_depth_mm",
        "C": "crank_spacer_mm",
        "D": "flywheel_mm",
        "E": "separator_mm",
        "F": "plate_mm",
        "G": "shaft_tip_out_mm",
        "H": "nose_mm",
        "J": "nose_chamfer_mm",
        "K": "pilot_sunk_mm",
        "L": "pilot_width_mm",
        "M": "flywheel_od_mm",
        "N": "bell_bore_mm",
        "P": "window_mm",
    },
    gives=AXIAL,
    when=bellhoused,
    checks=checks,
    board=board,
    where="block face",
)
