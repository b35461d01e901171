"""Joint angles of the shaft: within their limits, equal, and quiet at speed."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.drawing.board import Board
from pindo.core.geometry import joints
from pindo.core.geometry.shafts import Shaft, shaft_of
from pindo.core.inputs.dimensions import SHAFTS, Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.line.common import REST, SPIN
from pindo.core.stations.line.view import shaft_drawing

FLAT_DEG = 1.0  # joints whose planes differ by less count as lying in one plane
check = partial(Check, station=Station.LINE, question="line.angles", accepts=REST)
Read = Mapping[str, Any]


def _excited(body: Shaft, upto: int, coast: bool, read: Read, shaft_speed_rpm: Any) -> Any:
    """Excitation of the first joints at speed. [rad/s²]"""
    return joints.excitation(body.wobble(upto, coast, read), shaft_speed_rpm)


def _equal_least(joint_equal_max_deg: float) -> float:
    return -joint_equal_max_deg


def _in_one_plane(inputs: Inputs, body: Shaft) -> bool:
    read = inputs.known((*body.reads, *body.yokes))
    if read is None:
        return True
    bends, phases = body.phased(body.axes(read), read)
    twist = (np.degrees(phases[-1] - phases[-2]) + 90.0) % 180.0
    return bool(
        min(twist, 180.0 - twist) < FLAT_DEG
        or min(np.degrees(bends[-1]), np.degrees(bends[-2])) < FLAT_DEG
    )


def _joint_places(inputs: Inputs, body: Shaft) -> list[tuple[float, float, float]]:
    """Where the joints are in the vehicle: behind the front axle line, left, above the ground."""
    read, floor = inputs.known(body.reads), inputs.value("rail_height_mm") or 0.0
    if read is None:
        return []
    return [(-float(p[0]), float(p[1]), float(p[2]) + floor) for p in body.places(read)]


def checks(inputs: Inputs) -> Iterator[Check]:
    """Angles, equality, excitation."""
    body = shaft_of(inputs)
    if body is None:
        return
    at = _joint_places(inputs, body)
    names = (
        ["at the gearbox", "at the centre bearing", "at the axle"]
        if body.two
        else ["at the gearbox", "at the axle"]
    )
    for i, name in enumerate(names):
        yield check(
            id=f"line.angle.{i + 1}",
            title=f"Joint angle {name}",
            value=partial(body.angle, i),
            reads=body.reads,
            at=at[i] if at else None,
            at_least="joint_angle_min_deg",
            at_most=joints.angle_limit_deg,
            kind="angle",
            caution=SPIN,
            says=f"Joint {i + 1}, {name}, stands at {{value}}; wants {{limit}} at this speed",
            why=(
                "A joint at too great an angle wears and drones; one that stands straight dents its"
                " needles. The limit falls with speed."
            ),
        )
    if _in_one_plane(inputs, body):
        yield check(
            id="line.equal",
            title="Angles at both ends of the shaft",
            value=body.ends,
            reads=body.reads,
            at_least=_equal_least,
            at_most="joint_equal_max_deg",
            kind="angle",
            says="End angles differ by {value}; allowed {limit}",
            fouls="End angles differ by {value}; allowed {limit}",
            why=(
                "Equal angles in one plane cancel each other's wobble. Raise or lower the pinion's"
                " nose, or one end."
            ),
        )
    speed: dict[str, Any] = {"kind": "acceleration", "caution": SPIN}
    yield check(
        id="line.torsional",
        title="Torsional excitation at the axle",
        value=partial(_excited, body, body.count, False),
        reads=(*body.reads, *body.yokes),
        at_most="torsional_max",
        **speed,
        says="All joints together excite {value} at full speed; at most {limit}",
        why=(
            "What the joints do not cancel reaches the axle as twice-per-turn torque: gears rattle,"
            " the cab drones."
        ),
    )
    for coast, words in ((False, "drive"), (True, "coast")):
        yield check(
            id=f"line.inertial_{words}",
            title=f"Inertial excitation in {words}",
            value=partial(_excited, body, body.count - 1, coast),
            reads=(*body.reads, *body.yokes),
            at_most=f"inertial_{words}_max",
            **speed,
            says=f"The shaft itself is shaken by {{value}} in {words}; at most {{limit}}",
            why=(
                "The piece between two joints turns unevenly even where the ends cancel; its own"
                " mass shakes its neighbours."
            ),
        )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """A drive that nobody has named."""
    if not inputs.options.get("drive"):
        yield notice(
            "line.drive",
            "line.angles",
            "Drive",
            Verdict.UNMEASURED,
            "Drive: say whether it is one shaft, two pieces, half shafts or a chain",
            why="The kind of drive decides which angles and lengths are asked.",
        )


QUESTION = Question(
    path="angles",
    station=Station.LINE,
    name="Joint angles",
    asks="Do the joints of the shaft stand within their limits, equal, and quiet at speed?",
    options=("drive", "axle_guide", "axle_attitude"),
    dimensions={
        "A": "output_left_mm",
        "B": "output_up_mm",
        "C": "shaft_speed_rpm",
        "D": "centre_bearing_back_mm",
        "E": "centre_bearing_left_mm",
        "F": "centre_bearing_drop_mm",
        "G": "pinion_drop_mm",
        "H": "pinion_forward_mm",
        "J": "pinion_left_mm",
        "K": "pinion_angle_deg",
        "L": "pinion_turn_deg",
        "M": "yoke_phase_deg",
        "N": "front_yoke_phase_deg",
        "P": "wheelbase_mm",
        "Q": "gearbox_length_mm",
    },
    when=lambda inputs: inputs.options.get("drive", "") in ("", *SHAFTS),
    checks=checks,
    notices=notices,
    board=lambda inputs, seen: Board(drawings=(shaft_drawing(inputs, "line.angles"),)),
    where="driven axle",
)
