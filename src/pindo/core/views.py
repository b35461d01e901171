"""The vehicle in three flat views, to scale: what Seat and Clear draw, and the profile's side view.

Side: vehicle front to the left, x behind the front axle line, y above the ground. Plan: from above, front to the
left, x behind, y to the right of the vehicle upwards. Front: seen from behind, x to the right, y above the ground.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
import shapely

from pindo.core.clear.solids import Placed
from pindo.core.drawing import Shape

VIEWS = ("side", "plan", "front")
TITLES = {"side": "from the left, vehicle front to the left", "plan": "from above, vehicle front to the left, vehicle right is up", "front": "from behind, forwards"}
ROUND = 24  # corners of a circle in a view


def project(view: str, points: Any, floor_mm: float) -> np.ndarray:
    """Points of the vehicle, shape (n, 3) [mm], in a view, shape (n, 2) [mm]. ``floor_mm`` is the rail's height."""
    p = np.atleast_2d(np.asarray(points, float))
    if view == "side":
        return np.stack([-p[:, 0], p[:, 2] + floor_mm], axis=1)
    if view == "plan":
        return np.stack([-p[:, 0], -p[:, 1]], axis=1)
    return np.stack([-p[:, 1], p[:, 2] + floor_mm], axis=1)


_TURN = np.linspace(0.0, 2.0 * np.pi, ROUND, endpoint=False)
_CIRCLE = np.stack([np.cos(_TURN), np.sin(_TURN)], axis=1)


@lru_cache(maxsize=512)
def _corners(shape: str, sizes: tuple[float, ...]) -> np.ndarray:
    """Points in a solid's own axes whose hull it is, a circle as its corners; of sphere and capsule the middles of their round ends. [mm]"""
    if shape == "box":
        return np.array([(x, y, z) for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)]) * sizes
    if shape == "panel with hole":
        return np.array([(x, y, z) for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)]) * sizes[:3]
    if shape == "ring":
        flat = np.column_stack([_CIRCLE * sizes[0] / 2.0, np.full(ROUND, -sizes[2] / 2.0)])
        return np.concatenate([flat, flat + [0.0, 0.0, sizes[2]]])
    if shape == "sphere":
        return np.zeros((1, 3))
    if shape == "capsule":
        straight = max(sizes[1] - sizes[0], 0.0) / 2.0
        return np.array([(0.0, 0.0, -straight), (0.0, 0.0, straight)])
    ring = np.column_stack([_CIRCLE * sizes[0] / 2.0, np.full(ROUND, -sizes[1] / 2.0)])
    far = [[0.0, 0.0, sizes[1] / 2.0]] if shape == "cone" else ring + [0.0, 0.0, sizes[1]]
    return np.concatenate([ring, far])


def _flat(placed: Placed, view: str, floor_mm: float) -> np.ndarray:
    """Points of a view whose hull is the solid's outline, shape (n, 2). [mm]"""
    points = project(view, _corners(placed.solid.shape, placed.sizes) @ placed.turn.T + placed.place, floor_mm)
    if placed.solid.shape not in ("sphere", "capsule"):
        return points
    return (points[:, None] + _CIRCLE * placed.sizes[0] / 2.0).reshape(-1, 2)  # a ball is a circle from wherever it is seen


STYLE = {"exhaust": "hot", "shielded exhaust": "hot", "line": "tender", "wiring": "tender", "steering": "steering"}


def solid_shapes(placed: Sequence[Placed], view: str, floor_mm: float) -> list[Shape]:
    """The solids as shapes of a view, the engine's after the chassis' so that they lie on top."""
    drawn = [p for fixed in (True, False) for p in placed if (p.solid.body == "chassis") == fixed]
    if not drawn:
        return []
    points = [_flat(p, view, floor_mm) for p in drawn]
    which = np.repeat(np.arange(len(drawn)), [len(p) for p in points])
    # A line through the points has the same hull and is made far quicker than as many points.
    hulls = shapely.convex_hull(shapely.linestrings(np.concatenate(points), indices=which))
    outlines = [
        Shape(part=p.solid.name or f"{p.solid.body} solid {p.solid.n}", points=tuple(map(tuple, shapely.get_coordinates(hull)[:-1].tolist())), style=STYLE.get(p.solid.class_, "casting" if p.solid.body == "chassis" else "body"))
        for p, hull in zip(drawn, hulls, strict=True)
    ]  # fmt: skip
    return [s for p, outline in zip(drawn, outlines, strict=True) for s in (outline, *_hole(p, view, floor_mm))]


def _hole(placed: Placed, view: str, floor_mm: float) -> list[Shape]:
    """The opening of a ring or a panel, where it is looked through."""
    if placed.solid.shape not in ("ring", "panel with hole"):
        return []
    d = placed.sizes[1] if placed.solid.shape == "ring" else placed.sizes[3]
    rim = np.column_stack([_CIRCLE * d / 2.0, np.zeros(ROUND)])
    flat = project(view, rim @ placed.turn.T + placed.place, floor_mm)
    hull = shapely.MultiPoint(flat).convex_hull
    if not isinstance(hull, shapely.Polygon) or hull.area < 0.3 * np.pi / 4 * d**2:
        return []
    return [Shape(part=f"hole of {placed.solid.name or f'solid {placed.solid.n}'}", points=tuple(map(tuple, shapely.get_coordinates(hull)[:-1].tolist())), style="opening")]
