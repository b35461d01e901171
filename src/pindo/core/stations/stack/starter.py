"""Starter mesh: does the pinion reach the ring, let go of it, and run on its teeth?

All lengths mm; arrays broadcast.
"""

from functools import partial

import numpy as np

from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import STACK_STATES
from pindo.core.stations.stack.section import section_board
from pindo.core.stations.stack.spacing import overlap

check = partial(Check, station=Station.STACK, question="stack.starter", accepts=STACK_STATES)


def parked_gap(
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    starter_flange_s: Numbers,
    starter_parked_mm: Numbers,
) -> Numbers:
    """Parked pinion to the ring gear's front. [mm]"""
    return flywheel_flange_s + ring_front_mm - (starter_flange_s + starter_parked_mm)


def mesh_depth(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    pinion_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    """Face of the thrown pinion inside the ring gear's face. [mm]"""
    front, out = flywheel_flange_s + ring_front_mm, starter_flange_s + starter_out_mm
    return overlap(out - pinion_mm, out, front, front + ring_width_mm)


def mesh_wanted(ring_width_mm: Numbers, mesh_share: float) -> Numbers:
    """Share of the ring's face that must mesh. [mm]"""
    return mesh_share * ring_width_mm


def module_difference(pinion_module_mm: Numbers, ring_module_mm: Numbers) -> Numbers:
    """Pinion's module less the ring gear's. [mm]"""
    return pinion_module_mm - ring_module_mm


def least_module(module_match_max_mm: float) -> float:
    """The same difference the other way. [mm]"""
    return -module_match_max_mm


def centre_excess(
    starter_centre_mm: Numbers, ring_module_mm: Numbers, ring_teeth: Numbers, pinion_teeth: Numbers
) -> Numbers:
    """Measured centre distance less the one without backlash, m (z1 + z2)/2. [mm]"""
    return starter_centre_mm - ring_module_mm * (ring_teeth + pinion_teeth) / 2.0


def excess_for_backlash(backlash_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that a backlash along the pitch circle takes: j/(2 tan alpha). [mm]"""
    return backlash_mm / (2.0 * float(np.tan(np.radians(pressure_angle_deg))))


def least_excess(starter_backlash_min_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that the least backlash takes. [mm]"""
    return excess_for_backlash(starter_backlash_min_mm, pressure_angle_deg)


def most_excess(starter_backlash_max_mm: float, pressure_angle_deg: float) -> float:
    """Centre distance that the most backlash takes. [mm]"""
    return excess_for_backlash(starter_backlash_max_mm, pressure_angle_deg)


CHECKS = (
    check(
        id="stack.starter_parked",
        title="Starter pinion, parked",
        value=parked_gap,
        at_least="parked_gap_min_mm",
        at_most="parked_gap_max_mm",
        says="Parked pinion stands {value} off the ring gear; wants {limit}",
        fouls="Parked pinion stands {over} inside the ring gear",
        why=(
            "Too near rattles on the running ring; too far uses up the throw before the teeth meet."
        ),
    ),
    check(
        id="stack.starter_mesh",
        title="Starter pinion, mesh",
        value=mesh_depth,
        at_least=mesh_wanted,
        says="Thrown pinion meshes {value} of the ring's face; needs {limit}",
        fouls="Thrown pinion stops {over} short of the ring gear",
        why=(
            "Short mesh breaks teeth. A starter tried without the flywheel proves the window, not"
            " the mesh."
        ),
    ),
    check(
        id="stack.starter_module",
        title="Starter teeth on the ring gear",
        value=module_difference,
        at_least=least_module,
        at_most="module_match_max_mm",
        kind="module",
        says=(
            "Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {value},"
            " allowed {limit}"
        ),
        fouls=(
            "Pinion module is {pinion_module_mm}, ring gear {ring_module_mm}; apart by {over},"
            " allowed {limit}"
        ),
        why=(
            "Teeth of two pitches climb on each other: the starter howls, jams or breaks the ring."
            " Another pinion or ring gear, not another gap."
        ),
    ),
    check(
        id="stack.starter_centres",
        title="Starter centre distance",
        value=centre_excess,
        at_least=least_excess,
        at_most=most_excess,
        says="Starter stands {value} beyond the centre distance without backlash; wants {limit}",
        fouls="Starter stands {over} too near: no backlash at all; wants {limit} beyond",
        why=(
            "A tight mesh howls and does not fall out; a wide one rides on the tips."
            " Profile-shifted pairs: go by the original pair's measured distance."
        ),
    ),
)

QUESTION = Question(
    path="starter",
    station=Station.STACK,
    name="Starter mesh",
    asks="Does the pinion reach the ring, let go of it, and run on its teeth?",
    options=("starter_on",),
    dimensions={
        "A": "ring_front_mm",
        "B": "ring_width_mm",
        "C": "starter_parked_mm",
        "D": "starter_out_mm",
        "E": "pinion_mm",
        "F": "starter_centre_mm",
        "G": "ring_teeth",
        "H": "pinion_teeth",
        "J": "ring_module_mm",
        "K": "pinion_module_mm",
    },
    when=bellhoused,
    checks=lambda inputs: CHECKS,
    board=section_board("stack.starter"),
    where="block face",
)
