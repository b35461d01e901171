"""Simple solids of engine and chassis, and the smallest distance of every relevant pair.

Distances come from the collision library coal (GJK and EPA): signed, negative is the depth of
penetration, also for one solid wholly inside another. Lengths stay in millimetres, where its
answers are good to micrometres.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import coal
import numpy as np

from pindo.core.document.rows import Solid
from pindo.core.geometry.frames import POSE, YAW_DEG, Pose, rotation, vehicle_from_powertrain
from pindo.core.geometry.shapes import SHAPES
from pindo.core.geometry.shapes.shape import Piece
from pindo.core.inputs.couplings import bellhoused, coupling
from pindo.core.inputs.inputs import Inputs

AXES = {
    "along": np.array([[0.0, 0, -1], [0, 1, 0], [1, 0, 0]]),
    "across": np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]]),
    "upright": np.eye(3),
}
"""Rotation that lays a shape's own z along the axis: rearwards, to the left, up. [-]"""
THICKNESS = ("separator_mm", "plate_mm")
"""What stands between block face and mouth."""


@dataclass(frozen=True)
class Placed:
    """A solid where it stands in the vehicle. Not hashable by content: made anew for each
    assessment.
    """

    solid: Solid
    turn: np.ndarray
    """Vehicle from shape, shape (3, 3) [-]."""
    place: np.ndarray
    """Middle in the vehicle, shape (3,) [mm]."""
    sizes: tuple[float, ...]
    axes: np.ndarray
    """Vehicle from the axes that its place is told in, shape (3, 3) [-]: the gearbox's turn with
    its clocking.
    """


@dataclass(frozen=True)
class Pair:
    """Two solids, one of the unit and one of the chassis, with the smallest distance and its two
    points.
    """

    engine: Placed
    chassis: Placed
    distance: float
    on_engine: np.ndarray
    on_chassis: np.ndarray
    apart: np.ndarray
    """Unit direction from the engine's solid to the chassis' in which they part, shape (3,) [-]."""


@lru_cache(maxsize=1024)
def _pieces(shape: str, sizes: tuple[float, ...]) -> tuple[Piece, ...]:
    """Convex pieces of a shape: made once for each of its sizes."""
    return SHAPES[shape].pieces(sizes)


def pose_of(inputs: Inputs) -> np.ndarray | None:
    """Vehicle from powertrain, shape (4, 4); None until the pose is known."""
    values = [inputs.value(key) for key in POSE]
    if any(v is None for v in values):
        return None
    back, left, up, roll, pitch, yaw = (float(v or 0.0) for v in values)
    return vehicle_from_powertrain(
        Pose(
            x_mm=-back,
            y_mm=left,
            z_mm=up,
            roll_deg=roll,
            pitch_deg=pitch,
            yaw_deg=yaw + YAW_DEG[inputs.build.layout],
        )
    )


def place(inputs: Inputs, solid: Solid, matrix: np.ndarray | None) -> Placed | None:
    """A solid where it stands; None while a figure that it needs is missing or not above zero.

    One of the gearbox is told behind the bell's mouth with the gearbox upright: shield and plate
    take it back, the clocking turns it.
    """
    sizes = tuple(inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in SHAPES[solid.shape].fields)
    at = [inputs.value(f"solids.{solid.n}.{f}") for f in ("back", "left", "up")]
    if (
        any(v is None for v in at)
        or any(s <= 0.0 for s in sizes)
        or (solid.body != "chassis" and matrix is None)
    ):
        return None
    behind = [inputs.value(a) for a in THICKNESS] if solid.body == "gearbox" else []
    clocking = clocking_of(inputs, solid.body)
    if any(t is None for t in behind) or clocking is None:
        return None
    tilt, turn = (inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in ("tilt", "turn"))
    own = rotation(0.0, tilt, turn)
    if SHAPES[solid.shape].lies:
        # Between two ends it lies along the line of its marks.
        own = own @ AXES["along" if solid.marks and solid.marks_are == "ends" else solid.axis]
    middle = np.array([-(at[0] or 0.0) - sum(t or 0.0 for t in behind), at[1], at[2]], float)
    if solid.body == "chassis" or matrix is None:
        return Placed(solid, own, middle, sizes, np.eye(3))
    axes = matrix[:3, :3] @ rotation(clocking, 0.0, 0.0)
    return Placed(solid, axes @ own, axes @ middle + matrix[:3, 3], sizes, axes)


def clocking_of(inputs: Inputs, body: str) -> float | None:
    """Turn of a body about the crank axis, clockwise from behind, which is a positive roll: the
    gearbox's clocking behind a clutch, else nought; None while it is not known. [deg]
    """
    return inputs.value("clocking_deg") if body == "gearbox" and clocks(inputs) else 0.0


def clocks(inputs: Inputs) -> bool:
    """Whether the gearbox may be turned on its plate: it hangs behind a bellhousing."""
    return bool(coupling(inputs)) and bellhoused(inputs)


UNIT = ("engine", "gearbox")


def placed_on(inputs: Inputs, body: str) -> list[Placed]:
    """Every solid of one body that can be placed: kept while neither it nor its body moves."""

    def make() -> list[Placed]:
        matrix = pose_of(inputs) if body in UNIT else None
        own = (s for s in inputs.build.solids if s.body == body)
        return [p for s in own if (p := place(inputs, s, matrix)) is not None]

    return inputs.once(("placed", body), make)


def placed_solids(inputs: Inputs) -> list[Placed]:
    """Every solid that can be placed: the engine's, the gearbox's, the chassis'."""
    return [p for body in (*UNIT, "chassis") for p in placed_on(inputs, body)]


def _ready(p: Placed) -> list[tuple[Any, Any]]:
    return [
        (shape, coal.Transform3s(p.turn @ turn, p.place + p.turn @ at))
        for shape, turn, at in _pieces(p.solid.shape, p.sizes)
    ]


def distances(engine: Sequence[Placed], chassis: Sequence[Placed]) -> list[Pair]:
    """Smallest distance of every solid of the one against every one of the other, signed. [mm]"""
    request = coal.DistanceRequest()
    ready = [[_ready(p) for p in side] for side in (engine, chassis)]
    far, rows = [], []
    for mine in ready[0]:
        for yours in ready[1]:
            best: Any = None
            for shape, at in mine:
                for other, there in yours:
                    result = coal.DistanceResult()
                    found = float(coal.distance(shape, at, other, there, request, result))
                    if best is None or found < best[0]:
                        best = (found, result)
            far.append(best[0])
            rows.append((best[1].getNearestPoint1(), best[1].getNearestPoint2(), best[1].normal))
    p, q, normal = np.array(rows).reshape(-1, 3, 3).transpose(1, 0, 2)
    line = q - p
    size = np.sqrt((line**2).sum(axis=1))
    # Where the points meet their line has no direction: the library's normal of the touch has.
    met = (size <= 1e-6) | (np.array(far) == 0.0)
    apart = np.where(met[:, None], normal, line / np.where(met, 1.0, size * np.sign(far))[:, None])
    couples = ((a, b) for a in engine for b in chassis)
    return [
        Pair(a, b, *row)
        for (a, b), row in zip(couples, zip(far, p, q, apart, strict=True), strict=True)
    ]


def unit_pairs(inputs: Inputs) -> list[Pair]:
    """Every solid of the unit against every one of the chassis; what did not move asks no distance
    again.
    """
    return [
        *inputs.once("engine's distances", lambda: _against_chassis(inputs, "engine")),
        *inputs.once("gearbox's distances", lambda: _against_chassis(inputs, "gearbox")),
    ]


def _against_chassis(inputs: Inputs, body: str) -> list[Pair]:
    own, chassis = placed_on(inputs, body), placed_on(inputs, "chassis")
    return distances(own, chassis) if own and chassis else []


def angle_slopes(
    p: Placed, turn_deg: float, body: np.ndarray, point: np.ndarray, direction: np.ndarray
) -> tuple[float, float]:
    """How far a point of a solid moves along a direction for each degree of its tilt and of its
    turn. [mm/deg]

    Parameters
    ----------
    p, turn_deg
        The solid as it stands, and the turn that it has.
    body : shape (3, 3)
        Vehicle from the body that it is fixed to. [-]
    point, direction : shape (3,)
        In the vehicle. [mm], [-]
    """
    arm, along = body.T @ (point - p.place), body.T @ direction
    s, c = np.sin(np.radians(turn_deg)), np.cos(np.radians(turn_deg))
    # The turn is about the body's own upright, the tilt about the solid's right after it.
    axes = (np.array([s, -c, 0.0]), np.array([0.0, 0.0, 1.0]))
    tilt, turn = (float(np.radians(1.0) * (along @ np.cross(axis, arm))) for axis in axes)
    return tilt, turn


def clocking_slope(matrix: np.ndarray, point: np.ndarray, direction: np.ndarray) -> float:
    """How far a point of the gearbox moves along a direction for each degree of clocking. [mm/deg]

    Parameters
    ----------
    matrix : shape (4, 4)
        Vehicle from powertrain.
    point, direction : shape (3,)
        In the vehicle. [mm], [-]
    """
    arm = np.cross(matrix[:3, 0], point - matrix[:3, 3])
    return float(np.radians(1.0) * (direction @ arm))


def half_extent(p: Placed, direction: np.ndarray) -> dict[str, np.ndarray]:
    """How far the surface moves along directions, shape (..., 3), for each mm of a size, by
    field, shape (...) [-]. Bounds the doubt of sizes.
    """
    x, y, z = np.moveaxis(np.abs(direction @ p.turn), -1, 0)
    shape = SHAPES[p.solid.shape]
    return {
        field: 0.5 * share for field, share in zip(shape.fields, shape.shares(x, y, z), strict=True)
    }
