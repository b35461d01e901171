"""Simple solids of engine and chassis, and the smallest distance of every relevant pair.

Distances come from the collision library coal (GJK and EPA): signed, negative is the depth of penetration, also for
one solid wholly inside another. Lengths stay in millimetres, where its answers are good to micrometres.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import coal
import numpy as np

from pindo.core.frames import POSE, YAW_DEG, Pose, rotation, vehicle_from_powertrain
from pindo.core.resolve import Inputs
from pindo.core.rows import Solid

AXES = {"along": np.array([[0.0, 0, -1], [0, 1, 0], [1, 0, 0]]), "across": np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]]), "upright": np.eye(3)}
"""Rotation that lays a shape's own z along the axis: rearwards, to the left, up. [-]"""
SIZES = {"box": ("a", "b", "c"), "cylinder": ("a", "b"), "capsule": ("a", "b"), "cone": ("a", "b"), "sphere": ("a",)}


@dataclass(frozen=True)
class Placed:
    """A solid where it stands in the vehicle. Not hashable by content: made anew for each assessment."""

    solid: Solid
    turn: np.ndarray
    """Vehicle from shape, shape (3, 3) [-]."""
    place: np.ndarray
    """Middle in the vehicle, shape (3,) [mm]."""
    sizes: tuple[float, ...]
    own_turn: np.ndarray
    """Body (engine or chassis) from shape, shape (3, 3) [-]."""


@dataclass(frozen=True)
class Pair:
    """Two solids with the smallest distance and its two points."""

    engine: Placed
    chassis: Placed
    distance: float
    on_engine: np.ndarray
    on_chassis: np.ndarray
    apart: np.ndarray
    """Unit direction from the engine's solid to the chassis' in which they part, shape (3,) [-]."""


@lru_cache(maxsize=1024)
def _shape(kind: str, sizes: tuple[float, ...]) -> Any:
    if kind == "box":
        return coal.Box(*sizes)
    if kind == "sphere":
        return coal.Sphere(sizes[0] / 2.0)
    if kind == "cylinder":
        return coal.Cylinder(sizes[0] / 2.0, sizes[1])
    if kind == "cone":
        return coal.Cone(sizes[0] / 2.0, sizes[1])
    # A capsule's length is over all; the library takes the straight part.
    return coal.Capsule(sizes[0] / 2.0, max(sizes[1] - sizes[0], 1e-6))


def pose_of(inputs: Inputs) -> np.ndarray | None:
    """Vehicle from powertrain, shape (4, 4); None until the pose is known."""
    values = [inputs.value(key) for key in POSE]
    if any(v is None for v in values):
        return None
    back, left, up, roll, pitch, yaw = (float(v or 0.0) for v in values)
    return vehicle_from_powertrain(Pose(x_mm=-back, y_mm=left, z_mm=up, roll_deg=roll, pitch_deg=pitch, yaw_deg=yaw + YAW_DEG[inputs.build.layout]))


def place(inputs: Inputs, solid: Solid, matrix: np.ndarray | None) -> Placed | None:
    """A solid where it stands; None while a figure that it needs is missing or not above zero."""
    sizes = tuple(inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in SIZES[solid.shape])
    at = [inputs.value(f"solids.{solid.n}.{f}") for f in ("back", "left", "up")]
    if any(v is None for v in at) or any(s <= 0.0 for s in sizes) or (solid.body == "engine" and matrix is None):
        return None
    tilt, turn = (inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in ("tilt", "turn"))
    own = rotation(0.0, tilt, turn)
    if solid.shape != "box":
        own = own @ AXES[solid.axis]
    middle = np.array([-(at[0] or 0.0), at[1], at[2]], float)
    if solid.body == "engine" and matrix is not None:
        return Placed(solid, matrix[:3, :3] @ own, matrix[:3, :3] @ middle + matrix[:3, 3], sizes, own)
    return Placed(solid, own, middle, sizes, own)


def placed_solids(inputs: Inputs) -> list[Placed]:
    """Every solid that can be placed. Kept with the inputs."""
    if "placed" not in inputs.memo:
        matrix = pose_of(inputs)
        inputs.memo["placed"] = [p for s in inputs.build.solids if (p := place(inputs, s, matrix)) is not None]
    found: list[Placed] = inputs.memo["placed"]
    return found


def distances(engine: Sequence[Placed], chassis: Sequence[Placed]) -> list[Pair]:
    """Smallest distance of every solid of the one against every one of the other, signed. [mm]"""
    request = coal.DistanceRequest()
    ready = [[(_shape(p.solid.shape, p.sizes), coal.Transform3s(p.turn, p.place)) for p in side] for side in (engine, chassis)]
    far, rows = [], []
    for shape, at in ready[0]:
        for other, there in ready[1]:
            result = coal.DistanceResult()
            far.append(float(coal.distance(shape, at, other, there, request, result)))
            rows.append((result.getNearestPoint1(), result.getNearestPoint2(), result.normal))
    p, q, normal = np.array(rows).reshape(-1, 3, 3).transpose(1, 0, 2)
    line = q - p
    size = np.sqrt((line**2).sum(axis=1))
    # Where the points meet their line has no direction: the library's normal of the touch has.
    met = (size <= 1e-6) | (np.array(far) == 0.0)
    apart = np.where(met[:, None], normal, line / np.where(met, 1.0, size * np.sign(far))[:, None])
    couples = ((a, b) for a in engine for b in chassis)
    return [Pair(a, b, *row) for (a, b), row in zip(couples, zip(far, p, q, apart, strict=True), strict=True)]


def all_pairs(placed: Sequence[Placed]) -> list[Pair]:
    """Every solid of the engine against every one of the chassis."""
    return distances([p for p in placed if p.solid.body == "engine"], [p for p in placed if p.solid.body == "chassis"])


def half_extent(p: Placed, direction: np.ndarray) -> dict[str, float]:
    """How far the surface moves along a direction for each mm of a size, by field [-]. Bounds the doubt of sizes."""
    local = np.abs(p.turn.T @ direction)
    if p.solid.shape == "box":
        return {"a": 0.5 * float(local[0]), "b": 0.5 * float(local[1]), "c": 0.5 * float(local[2])}
    if p.solid.shape == "sphere":
        return {"a": 0.5}
    round_part = float(np.hypot(local[0], local[1]))
    return {"a": 0.5 * (round_part if p.solid.shape != "capsule" else 1.0), "b": 0.5 * float(local[2])}
