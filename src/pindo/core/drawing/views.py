"""The vehicle in three flat views, to scale: what Seat and Clear draw, and the profile's side view.

Side: vehicle front to the left, x behind the front axle line, y above the ground. Plan: from above,
front to the left, x behind, y to the right of the vehicle upwards. Front: seen from behind, x to
the right, y above the ground.
"""

from collections.abc import Sequence
from functools import lru_cache
from typing import Any

import numpy as np
import shapely

from pindo.core.drawing.shapes import Shape
from pindo.core.geometry.shapes import SHAPES
from pindo.core.geometry.shapes.shape import CIRCLE, ROUND
from pindo.core.geometry.solid_classes import CLASSES
from pindo.core.geometry.solids import Placed

VIEWS = ("side", "plan", "front")
NAMES = {"side": "Side", "plan": "From above", "front": "From behind"}
TITLES = {
    "side": "from the left, vehicle front to the left",
    "plan": "from above, vehicle front to the left, vehicle right is up",
    "front": "from behind, forwards",
}


def project(view: str, points: Any, floor_mm: float) -> np.ndarray:
    """Points of the vehicle, shape (n, 3) [mm], in a view, shape (n, 2) [mm]. ``floor_mm`` is
    the rail's height.
    """
    p = np.atleast_2d(np.asarray(points, float))
    if view == "side":
        return np.stack([-p[:, 0], p[:, 2] + floor_mm], axis=1)
    if view == "plan":
        return np.stack([-p[:, 0], -p[:, 1]], axis=1)
    return np.stack([-p[:, 1], p[:, 2] + floor_mm], axis=1)


@lru_cache(maxsize=512)
def _corners(shape: str, sizes: tuple[float, ...]) -> np.ndarray:
    """Points in a solid's own axes whose hull it is, with balls about them where it is round: made
    once for each of its sizes. [mm]
    """
    return SHAPES[shape].corners(sizes)


def _flat(placed: Placed, view: str, floor_mm: float) -> np.ndarray:
    """Points of a view whose hull is the solid's outline, shape (n, 2). [mm]"""
    points = project(
        view, _corners(placed.solid.shape, placed.sizes) @ placed.turn.T + placed.place, floor_mm
    )
    radius = SHAPES[placed.solid.shape].ball(placed.sizes)
    # A ball is a circle from wherever it is seen.
    return (points[:, None] + CIRCLE * radius).reshape(-1, 2) if radius else points


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
        Shape(
            part=p.solid.name or f"{p.solid.body} solid {p.solid.n}",
            points=tuple(map(tuple, shapely.get_coordinates(hull)[:-1].tolist())),
            style=CLASSES[p.solid.class_].style
            or ("casting" if p.solid.body == "chassis" else "body"),
            label=p.solid.name,
        )
        for p, hull in zip(drawn, hulls, strict=True)
    ]
    return [
        s
        for p, outline in zip(drawn, outlines, strict=True)
        for s in (outline, *_hole(p, view, floor_mm))
    ]


def _hole(placed: Placed, view: str, floor_mm: float) -> list[Shape]:
    """The opening of a ring or a panel, where it is looked through."""
    d = SHAPES[placed.solid.shape].opening(placed.sizes)
    if not d:
        return []
    rim = np.column_stack([CIRCLE * d / 2.0, np.zeros(ROUND)])
    flat = project(view, rim @ placed.turn.T + placed.place, floor_mm)
    hull = shapely.MultiPoint(flat).convex_hull
    if not isinstance(hull, shapely.Polygon) or hull.area < 0.3 * np.pi / 4 * d**2:
        return []
    return [
        Shape(
            part=f"hole of {placed.solid.name or f'solid {placed.solid.n}'}",
            points=tuple(map(tuple, shapely.get_coordinates(hull)[:-1].tolist())),
            style="opening",
        )
    ]
