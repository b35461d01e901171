"""Where the unit sits: its attitude, and the points that its place was found from."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.geometry.frames import POSE, YAW_DEG, direction_in_vehicle, point_in_vehicle
from pindo.core.geometry.pose import NoPose
from pindo.core.geometry.pose_points import POSE_FROM_POINTS, measured_points, pose_from_points
from pindo.core.geometry.solids import pose_of
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Constant
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.seat.common import REST
from pindo.core.stations.seat.views import carried, seat_drawings, unit_points

check = partial(Check, station=Station.SEAT, question="seat.place", accepts=REST)
Read = Mapping[str, Any]


def inclination(read: Read, layout_yaw_deg: float) -> Any:
    """Crank line in the vehicle, positive when the accessory end is the higher one. [deg]"""
    return np.degrees(np.arcsin(direction_in_vehicle(read, layout_yaw_deg, (1.0, 0.0, 0.0))[2]))


def tilt_most(crosswise_tilt_max_deg: float) -> float:
    """Limit of tilt either way. [deg]"""
    return crosswise_tilt_max_deg


def tilt_least(crosswise_tilt_max_deg: float) -> float:
    """Limit of tilt either way. [deg]"""
    return -crosswise_tilt_max_deg


def residual(read: Read, layout_yaw_deg: float) -> Any:
    """Distance of a measured point from where the pose puts it. [mm]"""
    at = point_in_vehicle(read, layout_yaw_deg, read["on_back"], read["on_left"], read["on_up"])
    return np.sqrt(
        (at[0] + read["in_back"]) ** 2
        + (at[1] - read["in_left"]) ** 2
        + (at[2] - read["in_up"]) ** 2
    )


def attitude(inputs: Inputs) -> Check:
    """Inclination; a transaxle or a chain wants the crank level, a shaft drive's band is for its
    joints and its oil.
    """
    yaw = YAW_DEG[inputs.build.layout]
    level = (
        abs(yaw) == 90.0
        or inputs.options.get("drive") in ("chain", "half shafts")
        or inputs.options.get("final_drive_in") == "the gearbox"
    )
    return check(
        id="seat.inclination",
        title="Inclination of the crank line",
        value=inclination,
        reads=POSE,
        given={"layout_yaw_deg": Constant(yaw)},
        kind="angle",
        at_least=tilt_least if level else "inclination_min_deg",
        at_most=tilt_most if level else "inclination_max_deg",
        says="Crank line leans {value}, accessory end high; wants {limit}",
        fouls="Crank line leans {over}, accessory end low; wants {limit}",
        why=(
            "Oil runs to one end of a tilted sump."
            if level
            else "Oil has to reach its pick-up, and the shaft's joints work against this angle."
        ),
    )


def _residual_limit(u_mm: float, point_residual_factor: float) -> float:
    return point_residual_factor * u_mm


def point_checks(inputs: Inputs) -> Iterator[Check]:
    """Each measured point against the pose that all of them give, in its own doubt."""
    if inputs.options.get("pose_from") != "points":
        return
    try:
        fitted = pose_from_points(inputs)
    except NoPose:
        return
    points = measured_points(inputs)
    names = {p.n: p.name for p in inputs.build.pose_points}
    for n, far, u in zip(points.numbers, fitted.residuals, points.u, strict=True):
        name = names[n] or f"point {n}"
        yield check(
            id=f"seat.point.{n}",
            title=f"Point {n} against the pose",
            value=plain.given,
            given={"x": Constant(far, "length"), "u_mm": Constant(float(2.0 * u), "length")},
            at_most=_residual_limit,
            says=(
                f"Point {n}, {literal(name)}, lies {{value}} from where the pose puts it; allowed"
                " {limit}"
            ),
            why=(
                "A point that does not fit was misread, has moved, or is another point. Read it"
                " again before anything is cut."
            ),
        )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Attitude and points."""
    yield attitude(inputs)
    yield from point_checks(inputs)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Points that fix no pose."""
    if inputs.options.get("pose_from") != "points":
        return
    try:
        pose_from_points(inputs)
    except NoPose as error:
        yield notice(
            "seat.points",
            "seat.place",
            "Pose from points",
            Verdict.UNMEASURED,
            f"Pose from points: {error}",
            why="Three points that are not in one line fix the pose; a fourth tells a misreading.",
        )


def _readouts(inputs: Inputs) -> Table | None:
    """Where the named points of the unit stand in the vehicle; None until the pose is known."""
    matrix = pose_of(inputs)
    if matrix is None:
        return None
    points, floor = unit_points(inputs), inputs.value("rail_height_mm")
    rows = tuple(
        TableRow(
            cells=(
                p.name,
                -float(x),
                float(y),
                float(z),
                None if floor is None else float(z) + floor,
            )
        )
        for p, (x, y, z) in zip(points, carried(matrix, [p.at for p in points]), strict=True)
    )
    heads = ("behind front axle", "left of centre", "above rail", "above ground")
    columns = (
        Column(key="point", label="point"),
        *(Column(key=h, label=h, kind="length", places=1) for h in heads),
    )
    return Table(key="readouts", title="Where it sits", columns=columns, rows=rows, of_record=True)


def board(inputs: Inputs, seen: Seen) -> Board:
    """Three views and where the named points stand."""
    table = _readouts(inputs)
    return Board(drawings=seat_drawings(inputs, "seat.place"), tables=(table,) if table else ())


QUESTION = Question(
    path="place",
    station=Station.SEAT,
    name="Where it sits",
    asks="Where does the unit sit, and do the points that it was found from agree?",
    options=("pose_from", "final_drive_in"),
    dimensions={
        "A": "block_face_back_mm",
        "B": "crank_side_mm",
        "C": "crank_height_mm",
        "D": "roll_deg",
        "E": "inclination_deg",
        "F": "yaw_deg",
    },
    lists=("pose_points",),
    gives=(POSE_FROM_POINTS,),
    checks=checks,
    notices=notices,
    board=board,
    where="engine",
    gaps=True,
)
