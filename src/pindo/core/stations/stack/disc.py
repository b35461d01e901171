"""Disc and spline: is the hub on its teeth, new and worn, and clear of what stands still?

All lengths mm; arrays broadcast. Sums along one axis: closed forms, no published source.
"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from pindo.core.inputs.couplings import clutched, packed
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.question import Question
from pindo.core.numbers import Numbers
from pindo.core.stations.stack.common import STACK_STATES
from pindo.core.stations.stack.discs import disc_count
from pindo.core.stations.stack.section import section_board
from pindo.core.stations.stack.spacing import overlap

check = partial(Check, station=Station.STACK, question="stack.disc", accepts=STACK_STATES)


def spline_engagement_new(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
) -> Numbers:
    """Full teeth of the shaft inside the hub of a new disc. [mm]"""
    start, front = tip_s + spline_start_mm, friction_face_s + hub_front_mm
    return overlap(start, start + spline_mm, front, front + hub_mm)


def spline_engagement_worn(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
    disc_wear_mm: Numbers,
) -> Numbers:
    """The same with a worn disc: its middle stands half the wear nearer to the flywheel. [mm]"""
    front = hub_front_mm - disc_wear_mm / 2.0
    return spline_engagement_new(tip_s, spline_start_mm, spline_mm, friction_face_s, front, hub_mm)


def whole_hub_less(hub_mm: Numbers, spline_short_max_mm: float) -> Numbers:
    """The engagement wanted: the whole hub less what may stand off. [mm]"""
    return hub_mm - spline_short_max_mm


def guide_tube_gap(
    mouth_s: Numbers,
    guide_tube_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
) -> Numbers:
    """Rear end of a new disc's hub to the end of the guide tube. [mm]"""
    return mouth_s + guide_tube_mm - (friction_face_s + hub_front_mm + hub_mm)


def hub_to_bolt_heads(
    hub_front_mm: Numbers, bolt_heads_mm: Numbers, disc_wear_mm: Numbers
) -> Numbers:
    """Front end of a worn disc's hub to the heads of the flywheel bolts. [mm]"""
    return hub_front_mm - disc_wear_mm / 2.0 - bolt_heads_mm


CHECKS = (
    check(
        id="stack.spline_new",
        title="Hub on the spline, new disc",
        value=spline_engagement_new,
        at_least=whole_hub_less,
        says="Hub has {value} on the spline with a new disc; needs {limit}",
        fouls="Hub misses the spline by {over} with a new disc",
        why="A hub that is short on its spline carries the torque on the ends of the teeth.",
    ),
    check(
        id="stack.spline_worn",
        title="Hub on the spline, worn disc",
        value=spline_engagement_worn,
        at_least=whole_hub_less,
        says="Hub has {value} on the spline with a worn disc; needs {limit}",
        fouls="Hub misses the spline by {over} with a worn disc",
        why=(
            "The disc walks towards the flywheel as it wears; the spline must still be under the"
            " whole hub."
        ),
    ),
    check(
        id="stack.guide_tube",
        title="Hub to guide tube",
        value=guide_tube_gap,
        at_least="hub_gap_min_mm",
        says="Hub clears the guide tube by {value}; needs {limit}",
        fouls="Hub runs {over} into the guide tube",
        why="The hub turns at engine speed, the guide tube stands still.",
    ),
    check(
        id="stack.bolt_heads",
        title="Hub to flywheel bolts",
        value=hub_to_bolt_heads,
        at_least="hub_gap_min_mm",
        says="Hub clears the flywheel bolts by {value} with a worn disc; needs {limit}",
        fouls="Hub runs {over} into the flywheel bolts with a worn disc",
        why=(
            "With the clutch down the hub turns against the bolt heads; a worn disc sits nearer to"
            " them."
        ),
    ),
)


LAST = {"hub_front_mm": "hub2_front_mm", "hub_mm": "hub2_mm"}
"""The sizes of the last hub in the place of the first one's."""


def spline_engagement_last_worn(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
    disc_wear_mm: Numbers,
    discs: str,
) -> Numbers:
    """The last of several discs, all worn: it moves by the wear of those before it and half its
    own. [mm]
    """
    front = hub_front_mm - (disc_count(discs) - 0.5) * disc_wear_mm
    return spline_engagement_new(tip_s, spline_start_mm, spline_mm, friction_face_s, front, hub_mm)


NEW, WORN, TUBE, HEADS = CHECKS
LAST_HUB = (
    replace(
        NEW,
        id="stack.spline_last_new",
        title="Last hub on the spline, new discs",
        given=LAST,
        says="Last hub has {value} on the spline with new discs; needs {limit}",
        fouls="Last hub misses the spline by {over} with new discs",
    ),
    replace(
        WORN,
        id="stack.spline_last_worn",
        title="Last hub on the spline, worn discs",
        value=spline_engagement_last_worn,
        given={**LAST, "discs": "discs"},
        says="Last hub has {value} on the spline with worn discs; needs {limit}",
        fouls="Last hub misses the spline by {over} with worn discs",
    ),
    replace(TUBE, given=LAST),
)
"""What is asked of the last hub of several discs; it is the one beside the guide tube."""


def checks(inputs: Inputs) -> Iterator[Check]:
    """All of it of a clutch, of several discs for the first hub and the last; of a box that brings
    its clutches, the hub of the damper alone.
    """
    if not clutched(inputs):
        yield NEW
    elif disc_count(inputs.options.get("discs", "one")) > 1.0:
        yield from (NEW, WORN, *LAST_HUB, HEADS)
    else:
        yield from CHECKS


QUESTION = Question(
    path="disc",
    station=Station.STACK,
    name="Disc",
    asks="Is the hub on its teeth, new and worn, and clear of what stands still?",
    dimensions={
        "A": "hub_front_mm",
        "B": "hub_mm",
        "C": "spline_start_mm",
        "D": "spline_mm",
        "E": "guide_tube_mm",
        "F": "bolt_heads_mm",
        "G": "disc_wear_mm",
        "H": "hub2_front_mm",
        "J": "hub2_mm",
    },
    when=lambda inputs: clutched(inputs) or packed(inputs),
    checks=checks,
    board=section_board("stack.disc"),
    where="block face",
)
