"""Simple solids of engine and chassis, and the smallest distance of every relevant pair.

Distances come from the collision library coal (GJK and EPA): signed, negative is the depth of penetration, also for
one solid wholly inside another. Lengths stay in millimetres, where its answers are good to micrometres.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Any

import coal
import numpy as np

from pindo.core.frames import POSE, YAW_DEG, Pose, rotation, vehicle_from_powertrain
from pindo.core.resolve import Inputs
from pindo.core.rows import Solid

AXES = {"along": np.array([[0.0, 0, -1], [0, 1, 0], [1, 0, 0]]), "across": np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]]), "upright": np.eye(3)}
"""Rotation that lays a shape's own z along the axis: rearwards, to the left, up. [-]"""
SIZES = {"box": ("a", "b", "c"), "cylinder": ("a", "b"), "capsule": ("a", "b"), "cone": ("a", "b"), "sphere": ("a",), "ring": ("a", "b", "c"), "panel with hole": ("a", "b", "c", "hole")}
PIECES = 48  # of a ring or round a hole: they reach into it by 0.2 % of its radius at most


THICKNESS = ("separator_mm", "plate_mm")
"""What stands between block face and mouth."""


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
    """Two solids, one of the unit and one of the chassis, with the smallest distance and its two points."""

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


@lru_cache(maxsize=256)
def _pieces(kind: str, sizes: tuple[float, ...]) -> tuple[tuple[Any, np.ndarray, np.ndarray], ...]:
    """Convex pieces of a shape with their turn and place in the shape's own axes."""
    if kind == "ring":
        outer, inner, length = sizes[0] / 2.0, min(sizes[1], sizes[0]) / 2.0, sizes[2]
        half = np.pi / PIECES
        near = inner * np.cos(half)
        # A chord's box from the inner circle's chord to the outer circle, as wide as the outer sector.
        piece = coal.Box(outer - near, 2.0 * outer * np.tan(half), length)
        angles = 2.0 * half * np.arange(PIECES)
        return tuple((piece, np.array([[np.cos(t), -np.sin(t), 0.0], [np.sin(t), np.cos(t), 0.0], [0.0, 0.0, 1.0]]), np.array([np.cos(t), np.sin(t), 0.0]) * (outer + near) / 2.0) for t in angles)
    if kind == "panel with hole":
        return tuple((_prism(outline, sizes[2]), np.eye(3), np.zeros(3)) for outline in _sectors(sizes[0], sizes[1], sizes[3]))
    return ((_shape(kind, sizes), np.eye(3), np.zeros(3)),)


def _prism(outline: np.ndarray, thickness: float) -> Any:
    """Convex outline, shape (k, 2), as a plate about z = 0. [mm]"""
    points = coal.StdVec_Vec3s()
    for x, y in outline:
        for z in (-thickness / 2.0, thickness / 2.0):
            points.append(np.array([x, y, z]))
    return coal.Convex.convexHull(points, True, None)


def _sectors(length: float, width: float, hole: float) -> list[np.ndarray]:
    """Convex outlines, each shape (k, 2), that cover a panel and leave its round hole: from a chord of the hole out to the edge. [mm]"""
    r = min(hole, length, width) / 2.0
    half = np.array([length, width]) / 2.0
    corners = [np.array([x, y]) for x in (-half[0], half[0]) for y in (-half[1], half[1])]
    edges = np.linspace(-np.pi, np.pi, PIECES + 1)
    found = []
    for t0, t1 in pairwise(edges):
        rays = [np.array([np.cos(t), np.sin(t)]) for t in (t0, t1)]
        rim = [ray * (half / np.maximum(np.abs(ray), 1e-12)).min() for ray in rays]
        between = [c for c in corners if t0 < np.arctan2(c[1], c[0]) < t1]
        if between or any(np.linalg.norm(edge) - r > 1e-6 for edge in rim):  # where the hole meets the edge nothing is left
            found.append(np.array([*(r * ray for ray in rays), *rim, *between]))
    return found


def pose_of(inputs: Inputs) -> np.ndarray | None:
    """Vehicle from powertrain, shape (4, 4); None until the pose is known."""
    values = [inputs.value(key) for key in POSE]
    if any(v is None for v in values):
        return None
    back, left, up, roll, pitch, yaw = (float(v or 0.0) for v in values)
    return vehicle_from_powertrain(Pose(x_mm=-back, y_mm=left, z_mm=up, roll_deg=roll, pitch_deg=pitch, yaw_deg=yaw + YAW_DEG[inputs.build.layout]))


def place(inputs: Inputs, solid: Solid, matrix: np.ndarray | None) -> Placed | None:
    """A solid where it stands; None while a figure that it needs is missing or not above zero.

    One of the gearbox is told behind the bell's mouth: shield and plate take it back.
    """
    sizes = tuple(inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in SIZES[solid.shape])
    at = [inputs.value(f"solids.{solid.n}.{f}") for f in ("back", "left", "up")]
    if any(v is None for v in at) or any(s <= 0.0 for s in sizes) or (solid.body != "chassis" and matrix is None):
        return None
    behind = [inputs.value(a) for a in THICKNESS] if solid.body == "gearbox" else []
    if any(t is None for t in behind):
        return None
    tilt, turn = (inputs.value(f"solids.{solid.n}.{f}") or 0.0 for f in ("tilt", "turn"))
    own = rotation(0.0, tilt, turn)
    if solid.shape != "box":
        own = own @ AXES[solid.axis]
    middle = np.array([-(at[0] or 0.0) - sum(t or 0.0 for t in behind), at[1], at[2]], float)
    if solid.body != "chassis" and matrix is not None:
        return Placed(solid, matrix[:3, :3] @ own, matrix[:3, :3] @ middle + matrix[:3, 3], sizes, own)
    return Placed(solid, own, middle, sizes, own)


def placed_solids(inputs: Inputs) -> list[Placed]:
    """Every solid that can be placed. Kept with the inputs."""
    if "placed" not in inputs.memo:
        matrix = pose_of(inputs)
        inputs.memo["placed"] = [p for s in inputs.build.solids if (p := place(inputs, s, matrix)) is not None]
    found: list[Placed] = inputs.memo["placed"]
    return found


def _ready(p: Placed) -> list[tuple[Any, Any]]:
    return [(shape, coal.Transform3s(p.turn @ turn, p.place + p.turn @ at)) for shape, turn, at in _pieces(p.solid.shape, p.sizes)]


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
    return [Pair(a, b, *row) for (a, b), row in zip(couples, zip(far, p, q, apart, strict=True), strict=True)]


def all_pairs(placed: Sequence[Placed]) -> list[Pair]:
    """Every solid of the unit, engine and gearbox, against every one of the chassis."""
    unit, chassis = ([p for p in placed if (p.solid.body == "chassis") == fixed] for fixed in (False, True))
    return distances(unit, chassis) if unit and chassis else []


SHARES_OF = {"box": ("a", "b", "c"), "sphere": ("a",), "panel with hole": ("a", "b", "c", "hole"), "ring": ("a", "b", "c")}
"""Sizes of a shape in the order of its shares; diameter and length for round ones."""


def half_extent(p: Placed, direction: np.ndarray) -> dict[str, np.ndarray]:
    """How far the surface moves along directions, shape (..., 3), for each mm of a size, by field, shape (...) [-]. Bounds the doubt of sizes."""
    x, y, z = np.moveaxis(np.abs(direction @ p.turn), -1, 0)
    across, whole = np.hypot(x, y), np.ones_like(x)
    shapes = {
        "box": (x, y, z),
        "sphere": (whole,),
        "panel with hole": (x, y, z, across),
        "ring": (across, across, z),
        "capsule": (whole, z),
    }
    return {field: 0.5 * share for field, share in zip(SHARES_OF.get(p.solid.shape, ("a", "b")), shapes.get(p.solid.shape, (across, z)), strict=True)}
