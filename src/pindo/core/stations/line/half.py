"""Half shafts: do angle and plunge last over the travel of the wheels?"""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

from pindo.core.drawing.board import Board, Reading
from pindo.core.geometry.half_shafts import HalfShafts, half_shafts_of
from pindo.core.geometry.travel import SIDE_READS
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.line.common import REST, ordered
from pindo.core.stations.line.shaft import guide_notices
from pindo.core.stations.line.view import half_chart, half_drawing

check = partial(Check, station=Station.LINE, question="line.half", accepts=REST)
Read = Mapping[str, Any]


def _angle(body: HalfShafts, left: bool, read: Read, spring_radius_share: float) -> Any:
    """Largest angle of one side over the travel. [deg]"""
    return body.angle(left, read, spring_radius_share)


def _plunge(
    body: HalfShafts, left: bool, inwards: bool, read: Read, spring_radius_share: float
) -> Any:
    """Plunge left at one end over the travel. [mm]"""
    shorter, longer = body.plunge(left, read, spring_radius_share)
    return read["plunge_in_mm"] - shorter if inwards else read["plunge_out_mm"] - longer


def checks(inputs: Inputs) -> Iterator[Check]:
    """Angle and plunge of both half shafts over the travel; none until it is said what guides
    the wheels both ways.
    """
    body = half_shafts_of(inputs)
    if body is None or not (body.sideways and body.guided):
        return
    for left in (True, False):
        side = "left" if left else "right"
        yield check(
            id=f"line.half_angle.{side}",
            title=f"Half shaft angle, {side}",
            value=partial(_angle, body, left),
            reads=body.travel_reads,
            at_most="cv_angle_max_deg",
            kind="angle",
            says=(
                f"{side.capitalize()} half shaft reaches {{value}} over the travel; at most"
                " {limit}"
            ),
            why="Joints heat, wear and let go beyond their angle.",
        )
        for way, dim, words in (
            ("in", "plunge_in_mm", "inwards"),
            ("out", "plunge_out_mm", "outwards"),
        ):
            yield check(
                id=f"line.plunge_{way}.{side}",
                title=f"{side.capitalize()} shaft, plunge free {words}",
                value=partial(_plunge, body, left, way == "in"),
                reads=(*body.travel_reads, dim),
                at_least="plunge_spare_mm",
                says=(
                    f"{side.capitalize()} joint has {{value}} of plunge free {words}; needs"
                    " {limit}"
                ),
                fouls=f"{side.capitalize()} joint runs {{over}} beyond its end {words}",
                why="A joint that bottoms breaks its cage; one that parts drops the shaft.",
            )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Guides that nobody has named."""
    yield from guide_notices(inputs, "line.half")
    if inputs.options.get("wheel_guide", "") not in SIDE_READS:
        yield notice(
            "line.wheel_guide",
            "line.half",
            "Wheel guide",
            Verdict.UNMEASURED,
            "Wheel guide: say what guides the wheels sideways, and angle and plunge over the"
            " travel can be told",
            why="A wheel on arms goes inboard as it rises: the half shaft's plunge is mostly that.",
        )


def orders(inputs: Inputs) -> Iterator[Reading]:
    """Joint to joint of both sides at ride height."""
    body = half_shafts_of(inputs)
    if body is None:
        return
    for left, side in ((True, "left"), (False, "right")):
        name = f"Half shaft, {side}, joint to joint"
        yield from ordered(inputs, name, "half shaft", body.reads, partial(body.length, left))


def board(inputs: Inputs, seen: Seen) -> Board:
    """Both half shafts, angles and length over the travel, what is ordered."""
    return Board(
        drawings=(half_drawing(inputs),),
        charts=half_chart(inputs),
        readings=tuple(orders(inputs)),
    )


QUESTION = Question(
    path="half",
    station=Station.LINE,
    name="Half shafts",
    asks="Do angle and plunge of the half shafts last over the travel of the wheels?",
    options=("drive", "axle_guide", "wheel_guide"),
    dimensions={
        "A": "final_drive_ratio",
        "B": "output_left_mm",
        "C": "output_up_mm",
        "D": "axle_drop_mm",
        "E": "bump_mm",
        "F": "droop_mm",
        "G": "arm_mm",
        "H": "arm_rise_mm",
        "J": "arm_below_mm",
        "K": "arm_inside_mm",
        "L": "upper_arm_mm",
        "M": "upper_arm_rise_mm",
        "N": "knuckle_spread_mm",
        "P": "knuckle_offset_mm",
        "Q": "strut_up_mm",
        "R": "strut_inside_mm",
        "S": "swing_inside_mm",
        "T": "swing_rise_mm",
        "U": "inner_joint_half_mm",
        "V": "outer_joint_left_mm",
        "W": "outer_joint_drop_mm",
        "X": "driven_axle_back_mm",
        "Y": "plunge_in_mm",
        "Z": "plunge_out_mm",
        "AA": "gearbox_length_mm",
        "AB": "spring_front_half_mm",
        "AC": "spring_eye_drop_mm",
        "AD": "pivot_forward_mm",
        "AE": "pivot_up_mm",
        "AF": "lower_link_mm",
        "AG": "lower_link_rise_mm",
        "AH": "upper_link_mm",
        "AJ": "upper_link_rise_mm",
        "AK": "link_spread_mm",
        "AL": "link_offset_mm",
        "AM": "lower_link_ahead_mm",
        "AN": "lower_link_below_mm",
    },
    when=lambda inputs: inputs.options.get("drive") == "half shafts",
    checks=checks,
    notices=notices,
    orders=orders,
    board=board,
    where="driven axle",
)
