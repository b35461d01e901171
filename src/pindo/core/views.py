"""The vehicle in three flat views, to scale: what Seat and Clear draw, and the profile's side view.

Side: vehicle front to the left, x behind the front axle line, y above the ground. Plan: from above, front to the
left, x behind, y to the right of the vehicle upwards. Front: seen from behind, x to the right, y above the ground.
"""

from functools import lru_cache
from typing import Any

import numpy as np
import shapely

from pindo.core.clear.solids import Placed
from pindo.core.drawing import Point, Shape

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


def _ring(radius: float, z: float) -> np.ndarray:
    t = np.linspace(0.0, 2.0 * np.pi, ROUND, endpoint=False)
    return np.stack([radius * np.cos(t), radius * np.sin(t), np.full_like(t, z)], axis=1)


@lru_cache(maxsize=512)
def _corners(shape: str, sizes: tuple[float, ...]) -> np.ndarray:
    """Points whose hull is the solid (capsule and sphere: near enough to draw), in its own axes."""
    if shape == "box":
        return np.array([(x, y, z) for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)]) * sizes
    r = sizes[0] / 2.0
    if shape == "cylinder":
        return np.concatenate([_ring(r, -sizes[1] / 2), _ring(r, sizes[1] / 2)])
    if shape == "cone":
        return np.concatenate([_ring(r, -sizes[1] / 2), [[0.0, 0.0, sizes[1] / 2]]])
    straight = 0.0 if shape == "sphere" else max(sizes[1] - sizes[0], 0.0) / 2.0
    levels = np.linspace(-1.0, 1.0, 9)
    return np.concatenate([_ring(r * float(np.sqrt(1 - h * h)), r * h + (straight if h >= 0 else -straight)) for h in levels])


def outline(placed: Placed, view: str, floor_mm: float) -> tuple[Point, ...]:
    """Outline of a solid in a view."""
    return _outline(placed.solid.shape, placed.sizes, placed.turn.tobytes(), placed.place.tobytes(), view, floor_mm)


@lru_cache(maxsize=2048)  # the chassis stands still while the unit is dragged, and Seat and Clear draw the same solids
def _outline(shape: str, sizes: tuple[float, ...], turn: bytes, place: bytes, view: str, floor_mm: float) -> tuple[Point, ...]:
    points = _corners(shape, sizes) @ np.frombuffer(turn).reshape(3, 3).T + np.frombuffer(place)
    hull = shapely.convex_hull(shapely.multipoints(project(view, points, floor_mm)))
    return tuple((x, y) for x, y in shapely.get_coordinates(hull)[:-1].tolist()) if isinstance(hull, shapely.Polygon) else ()


STYLE = {"exhaust": "hot", "shielded exhaust": "hot", "line": "tender", "wiring": "tender", "steering": "steering"}


def solid_shape(placed: Placed, view: str, floor_mm: float) -> Shape:
    """A solid as a shape of a view: the engine's over the chassis'."""
    style = STYLE.get(placed.solid.class_, "body" if placed.solid.body == "engine" else "casting")
    return Shape(part=placed.solid.name or f"{placed.solid.body} solid {placed.solid.n}", points=outline(placed, view, floor_mm), style=style)
