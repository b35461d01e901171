"""Shaft and slip: does the shaft hold its speed, and does the slip last over the travel?"""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.drawing.board import Board, Reading
from pindo.core.geometry import joints
from pindo.core.geometry.shafts import Shaft, shaft_of
from pindo.core.geometry.travel import READS
from pindo.core.inputs.dimensions import SHAFTS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.line.common import REST, SPIN, ordered
from pindo.core.stations.line.view import shaft_chart, shaft_drawing

check = partial(Check, station=Station.LINE, question="line.shaft", accepts=REST)
Read = Mapping[str, Any]


def _slip(body: Shaft, outwards: bool, read: Read, spring_radius_share: float) -> Any:
    """Slip left at one end over the travel. [mm]"""
    shorter, longer = body.slip_range(read, spring_radius_share)
    return read["slip_out_mm"] - longer if outwards else read["slip_in_mm"] - shorter


def _critical(
    body: Shaft,
    read: Read,
    tube_od_mm: Any,
    tube_wall_mm: Any,
    steel_modulus_gpa: float,
    steel_density: float,
    critical_share: float,
) -> Any:
    """Speed that the longest piece may turn, a share of its critical speed. [rpm]"""
    pieces = (body.piece(i, read) for i in range(body.count - 1))
    longest = np.max(np.stack(np.broadcast_arrays(*pieces)), axis=0)
    return critical_share * joints.critical_rpm(
        longest, tube_od_mm, tube_wall_mm, steel_modulus_gpa, steel_density
    )


def _given_speed(shaft_speed_rpm: Any) -> Any:
    return shaft_speed_rpm


def checks(inputs: Inputs) -> Iterator[Check]:
    """Critical speed, slip."""
    body = shaft_of(inputs)
    if body is None:
        return
    yield check(
        id="line.critical",
        title="Critical speed of the longest piece",
        value=partial(_critical, body),
        reads=body.reads,
        at_least=_given_speed,
        kind="speed",
        caution=SPIN,
        safety=True,
        says=(
            "Longest piece may turn {value} (three quarters of its critical speed); it will turn"
            " {limit}"
        ),
        why=(
            "A shaft near its critical speed bows out and beats itself apart. Screening only: the"
            " shaft maker decides."
        ),
    )
    if body.guided:
        for outwards, side, dim in (
            (False, "inwards", "slip_in_mm"),
            (True, "outwards", "slip_out_mm"),
        ):
            yield check(
                id=f"line.slip_{side}",
                title=f"Slip free {side} over the travel",
                value=partial(_slip, body, outwards),
                reads=(*body.travel_reads, dim),
                at_least="slip_spare_mm",
                says=f"Slip is free by {{value}} {side} over the axle's travel; needs {{limit}}",
                fouls=f"Slip runs {{over}} beyond its end {side}",
                why=(
                    "A slip that bottoms pushes gearbox or axle apart; one that pulls out drops the"
                    " shaft."
                ),
            )


def guide_notices(inputs: Inputs, question: str) -> Iterator[Finding]:
    """A guide of the axle that nobody has named."""
    if inputs.options.get("axle_guide", "") not in READS:
        yield notice(
            "line.guide",
            question,
            "Axle guide",
            Verdict.UNMEASURED,
            "Axle guide: say what guides the axle, and slip over its travel can be told",
            why="Slip and angles at bump and droop follow from the guide.",
        )


def orders(inputs: Inputs) -> Iterator[Reading]:
    """Joint to joint of each piece at ride height."""
    body = shaft_of(inputs)
    for i in range(0 if body is None else body.count - 1):
        piece = "shaft" if body is None or not body.two else ("front piece", "rear piece")[i]
        if body is not None:
            name = f"Shaft, {piece}, joint to joint"
            yield from ordered(inputs, name, "shaft", body.reads, partial(body.piece, i))


def board(inputs: Inputs, seen: Seen) -> Board:
    """The shaft, angles and length over the travel, what is ordered."""
    return Board(
        drawings=(shaft_drawing(inputs, "line.shaft"),),
        charts=shaft_chart(inputs),
        readings=tuple(orders(inputs)),
    )


QUESTION = Question(
    path="shaft",
    station=Station.LINE,
    name="Shaft and slip",
    asks="Does the shaft hold its speed, and does its slip last over the travel?",
    options=("drive", "axle_guide", "axle_attitude"),
    dimensions={
        "A": "axle_drop_mm",
        "B": "tube_od_mm",
        "C": "tube_wall_mm",
        "D": "slip_in_mm",
        "E": "slip_out_mm",
        "F": "bump_mm",
        "G": "droop_mm",
        "H": "spring_front_half_mm",
        "J": "spring_eye_drop_mm",
        "K": "pivot_forward_mm",
        "L": "pivot_up_mm",
        "M": "lower_link_mm",
        "N": "lower_link_rise_mm",
        "P": "upper_link_mm",
        "Q": "upper_link_rise_mm",
        "R": "link_spread_mm",
        "S": "link_offset_mm",
        "T": "lower_link_ahead_mm",
        "U": "lower_link_below_mm",
    },
    when=lambda inputs: inputs.options.get("drive") in SHAFTS,
    checks=checks,
    notices=lambda inputs: guide_notices(inputs, "line.shaft"),
    orders=orders,
    board=board,
    where="driven axle",
)
