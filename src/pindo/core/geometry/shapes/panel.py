"""Panel with a round hole in its middle: length, width, thickness, hole."""

from itertools import pairwise
from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.box import rectangle
from pindo.core.geometry.shapes.shape import CUBE, Mesh, Piece, Shape, Sizes

PIECES = 48  # round the hole: they reach into it by 0.2 % of its radius at most


class Panel(Shape):
    """A panel with a hole."""

    name = "panel with hole"
    fields = ("a", "b", "c", "hole")

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Prisms from a chord of the hole out to the edge."""
        return tuple(
            (_prism(outline, sizes[2]), np.eye(3), np.zeros(3))
            for outline in _sectors(sizes[0], sizes[1], sizes[3])
        )

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Those of a box, and the hole's diameter in the panel's plane."""
        return (x, y, z, np.hypot(x, y))

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Its eight."""
        return np.asarray(CUBE * sizes[:3])

    def opening(self, sizes: Sizes) -> float:
        """Its hole."""
        return sizes[3]

    def mesh(self, sizes: Sizes) -> Mesh:
        """Its outline with the hole, as thick as it is."""
        outline = rectangle(sizes[0], sizes[1])
        return Mesh(outline=outline, turned=False, thick=sizes[2], hole=sizes[3])


def _prism(outline: np.ndarray, thickness: float) -> Any:
    """Convex outline, shape (k, 2), as a plate about z = 0. [mm]"""
    points = coal.StdVec_Vec3s()
    for x, y in outline:
        for z in (-thickness / 2.0, thickness / 2.0):
            points.append(np.array([x, y, z]))
    return coal.Convex.convexHull(points, True, None)


def _sectors(length: float, width: float, hole: float) -> list[np.ndarray]:
    """Convex outlines, each shape (k, 2), that cover a panel and leave its round hole: from a
    chord of the hole out to the edge. [mm]
    """
    r = min(hole, length, width) / 2.0
    half = np.array([length, width]) / 2.0
    corners = [np.array([x, y]) for x in (-half[0], half[0]) for y in (-half[1], half[1])]
    edges = np.linspace(-np.pi, np.pi, PIECES + 1)
    found = []
    for t0, t1 in pairwise(edges):
        rays = [np.array([np.cos(t), np.sin(t)]) for t in (t0, t1)]
        rim = [ray * (half / np.maximum(np.abs(ray), 1e-12)).min() for ray in rays]
        between = [c for c in corners if t0 < np.arctan2(c[1], c[0]) < t1]
        # Where the hole meets the edge nothing is left.
        if between or any(np.linalg.norm(edge) - r > 1e-6 for edge in rim):
            found.append(np.array([*(r * ray for ray in rays), *rim, *between]))
    return found
