"""The pose given by points that were measured on the unit and in the chassis, as derived
quantities.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pindo.core.document.evidence import Source, rank
from pindo.core.document.rows import PosePoint
from pindo.core.geometry.bay import AT, mark_at
from pindo.core.geometry.frames import NO_POSE, POSE, YAW_DEG
from pindo.core.geometry.pose import FittedPose, NoPose, fit_pose
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved, Status

ON_UNIT, IN_CHASSIS = ("on_back", "on_left", "on_up"), ("in_back", "in_left", "in_up")

SIGNS = np.array([-1.0, 1.0, 1.0])
"""Behind, left, up as x forward, y left, z up."""


@dataclass(frozen=True)
class MeasuredPoints:
    """Points whose six figures stand."""

    numbers: tuple[int, ...]
    figures: np.ndarray
    """On the unit and in the chassis, shape (n, 6). [mm]"""
    u: np.ndarray
    """Both readings together, shape (n,). [mm]"""


def _in_chassis(inputs: Inputs, point: PosePoint) -> tuple[list[float], float] | None:
    """Behind, left, up in the chassis and their greatest standard uncertainty, by the point's mark
    or by its own figures; None while they are not there. [mm]
    """
    at = _chassis_addresses(point)
    cells = [q for a in at if (q := inputs.quantities.get(a)) is not None]
    values = [c.value for c in cells if c.value is not None]
    return (values, max(c.u for c in cells)) if len(values) == len(at) else None


def _chassis_addresses(point: PosePoint) -> tuple[str, ...]:
    if point.mark is not None:
        return tuple(mark_at(point.mark, f) for f in AT)
    return tuple(f"pose_points.{point.n}.{f}" for f in IN_CHASSIS)


def _parts(inputs: Inputs, points: MeasuredPoints, row: Sequence[float]) -> dict[str, float]:
    """What each source moves one number of the pose by, per standard uncertainty: a point's own
    figures in the chassis, or the readings that its mark was placed by.
    """
    found: dict[str, float] = {}
    rows = {p.n: p for p in inputs.build.pose_points}
    for i, n in enumerate(points.numbers):
        for axis, address in enumerate(_chassis_addresses(rows[n])):
            # The fit counts forwards, a figure behind the axle backwards.
            moved = float(row[3 * i + axis]) * SIGNS[axis]
            if rows[n].mark is None:
                found[address] = found.get(address, 0.0) + moved
                continue
            u = float(points.u[i])
            on = max(inputs.quantities[f"pose_points.{n}.{f}"].u for f in ON_UNIT)
            found[f"pose_points.{n}.{ON_UNIT[axis]}"] = moved / u * on
            for reading, part in inputs.quantities[address].spread.items():
                found[reading] = found.get(reading, 0.0) + moved / u * part
    return found


def measured_points(inputs: Inputs) -> MeasuredPoints:
    """The points of a build that can be used."""
    rows, numbers, u = [], [], []
    for point in inputs.build.pose_points:
        on_unit = [inputs.quantities[f"pose_points.{point.n}.{f}"] for f in ON_UNIT]
        there = _in_chassis(inputs, point)
        values = [c.value for c in on_unit if c.value is not None]
        if len(values) == len(on_unit) and there is not None:
            numbers.append(point.n)
            rows.append([*values, *there[0]])
            # On the engine and in the chassis each figure was read once, each with its own ±.
            u.append(math.hypot(max(c.u for c in on_unit), there[1]))
    return MeasuredPoints(tuple(numbers), np.array(rows).reshape(-1, 6), np.array(u))


def pose_from_points(inputs: Inputs) -> FittedPose:
    """The pose that the points fix. Raises NoPose."""
    points = measured_points(inputs)
    on_unit, in_chassis = points.figures[:, :3] * SIGNS, points.figures[:, 3:] * SIGNS
    return fit_pose(on_unit, in_chassis, points.u, YAW_DEG[inputs.build.layout])


def _solve(inputs: Inputs) -> Mapping[str, Resolved]:
    """The six numbers of the pose as the points give them, or why there are none."""
    wants = tuple(
        f"pose_points.{p.n}.{f}"
        for p in inputs.build.pose_points
        for f in (*ON_UNIT, *(IN_CHASSIS if p.mark is None else ()))
    )
    blank = {
        key: Resolved(
            address=key, name=DIMENSIONS[key].name, kind=DIMENSIONS[key].kind, wants=wants, parts={}
        )
        for key in POSE
    }
    if inputs.build.layout in NO_POSE:
        why = NO_POSE[inputs.build.layout]
        return {key: replace(q, detail=why, wants=()) for key, q in blank.items()}
    try:
        fitted = pose_from_points(inputs)
    except NoPose as error:
        return {key: replace(q, detail=str(error), wants=()) for key, q in blank.items()}
    points = measured_points(inputs)
    parts = [_parts(inputs, points, row) for row in fitted.spread]
    # A pose is no better known than the worst figure that it was found from.
    said = (inputs.quantities[a].source for a in {a for own in parts for a in own})
    source = max((s for s in said if s is not None), key=rank, default=Source.MEASURED)
    values = (
        fitted.back_mm,
        fitted.left_mm,
        fitted.up_mm,
        fitted.roll_deg,
        fitted.pitch_deg,
        fitted.yaw_deg,
    )
    return {
        key: replace(
            blank[key],
            status=Status.STANDING,
            value=value,
            pm=2.0 * math.hypot(*own.values()),
            source=source,
            state=inputs.build.pose_points[0].evidence.state,
            detail=f"from {len(fitted.residuals)} points",
            parts=own,
            wants=(),
        )
        for key, value, own in zip(POSE, values, parts, strict=True)
    }


POSE_FROM_POINTS = Provider(
    key="pose from points",
    gives=POSE,
    solve=_solve,
    when=lambda inputs: (
        inputs.build.layout in NO_POSE or inputs.options.get("pose_from") == "points"
    ),
)
