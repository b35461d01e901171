"""Clutch pack: a gearbox that brings its clutches with it, driven through a damper on the crank.
All lengths mm; arrays broadcast. Sums along one axis: closed forms, no published source.
"""

from functools import partial

from pindo.core.inputs.couplings import packed
from pindo.core.inputs.dimensions import Station
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import JOINING, STACK_STATES
from pindo.core.stations.stack.section import section_board

KEY = "stack.pack"
check = partial(Check, station=Station.STACK, question=KEY, accepts=STACK_STATES)


def pack_gap(mouth_s: Numbers, pack_front_mm: Numbers, friction_face_s: Numbers) -> Numbers:
    """Front of the clutch pack to the rear face of the damper. [mm]"""
    return mouth_s + pack_front_mm - friction_face_s


def pack_in_bell(bell_bore_mm: Numbers, pack_od_mm: Numbers) -> Numbers:
    """Radial gap of the pack in the bell. [mm]"""
    return (bell_bore_mm - pack_od_mm) / 2.0


CHECKS = (
    check(
        id="stack.pack_gap",
        title="Clutch pack to damper",
        value=pack_gap,
        at_least="rotating_gap_mm",
        says="Clutch pack stands {value} behind the damper; needs {limit}",
        fouls="Clutch pack stands {over} into the damper",
        why="Damper and pack turn against each other by the damper's springs.",
        caution=JOINING,
    ),
    check(
        id="stack.pack_in_bell",
        title="Clutch pack in the bell",
        value=pack_in_bell,
        at_least="rotating_gap_mm",
        says="Clutch pack clears the bell by {value} all round; needs {limit}",
        fouls="Clutch pack is {over} too large for the bell all round",
        why="It turns with the engine.",
    ),
)

QUESTION = Question(
    path="pack",
    station=Station.STACK,
    name="Clutch pack",
    asks="Does the box's own clutch pack take its drive from the damper and keep clear of it?",
    dimensions={"A": "pack_front_mm", "B": "pack_od_mm"},
    when=packed,
    checks=lambda inputs: CHECKS,
    board=section_board(KEY),
    where="block face",
)
