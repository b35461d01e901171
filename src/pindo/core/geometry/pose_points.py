"""The pose given by points that were measured on the unit and in the chassis, as derived
quantities.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from pindo.core.document.evidence import Source
from pindo.core.geometry.frames import POSE, YAW_DEG
from pindo.core.geometry.pose import FittedPose, NoPose, fit_pose
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved, Status

ON_UNIT, IN_CHASSIS = ("on_back", "on_left", "on_up"), ("in_back", "in_left", "in_up")


@dataclass(frozen=True)
class MeasuredPoints:
    """Points whose six figures stand."""

    numbers: tuple[int, ...]
    figures: np.ndarray
    """On the unit and in the chassis, shape (n, 6). [mm]"""
    u: np.ndarray
    """Both readings together, shape (n,). [mm]"""


def measured_points(inputs: Inputs) -> MeasuredPoints:
    """The points of a build that can be used."""
    rows, numbers, u = [], [], []
    for point in inputs.build.pose_points:
        fields = (*ON_UNIT, *IN_CHASSIS)
        cells = [inputs.quantities[f"pose_points.{point.n}.{f}"] for f in fields]
        values = [c.value for c in cells if c.value is not None]
        if len(values) == len(fields):
            numbers.append(point.n)
            rows.append(values)
            # On the engine and in the chassis each figure was read once, each with its own ±.
            u.append(math.hypot(max(c.u for c in cells[:3]), max(c.u for c in cells[3:])))
    return MeasuredPoints(tuple(numbers), np.array(rows).reshape(-1, 6), np.array(u))


def pose_from_points(inputs: Inputs) -> FittedPose:
    """The pose that the points fix. Raises NoPose."""
    points = measured_points(inputs)
    signs = np.array([-1.0, 1.0, 1.0])
    on_unit, in_chassis = points.figures[:, :3] * signs, points.figures[:, 3:] * signs
    return fit_pose(on_unit, in_chassis, points.u, YAW_DEG[inputs.build.layout])


def _solve(inputs: Inputs) -> Mapping[str, Resolved]:
    """The six numbers of the pose as the points give them, or why they do not."""
    wants = tuple(
        f"pose_points.{p.n}.{f}" for p in inputs.build.pose_points for f in (*ON_UNIT, *IN_CHASSIS)
    )
    blank = {
        key: Resolved(
            address=key, name=DIMENSIONS[key].name, kind=DIMENSIONS[key].kind, wants=wants, parts={}
        )
        for key in POSE
    }
    try:
        fitted = pose_from_points(inputs)
    except NoPose as error:
        return {key: replace(q, detail=str(error), wants=()) for key, q in blank.items()}
    values = (
        fitted.back_mm,
        fitted.left_mm,
        fitted.up_mm,
        fitted.roll_deg,
        fitted.pitch_deg,
        fitted.yaw_deg,
    )
    numbers = measured_points(inputs).numbers
    sources = [f"pose_points.{n}.{f}" for n in numbers for f in IN_CHASSIS]
    return {
        key: replace(
            blank[key],
            status=Status.STANDING,
            value=value,
            pm=pm,
            source=Source.MEASURED,
            state=inputs.build.pose_points[0].evidence.state,
            detail=f"from {len(fitted.residuals)} points",
            parts=dict(zip(sources, map(float, row), strict=True)),
            wants=(),
        )
        for key, value, pm, row in zip(POSE, values, fitted.pm, fitted.spread, strict=True)
    }


POSE_FROM_POINTS = Provider(
    key="pose from points",
    gives=POSE,
    solve=_solve,
    when=lambda inputs: inputs.options.get("pose_from") == "points",
)
