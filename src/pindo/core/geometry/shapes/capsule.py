"""Capsule: diameter and length over its round ends."""

from math import pi
from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import Mesh, Piece, Shape, Sizes, arc, whole


class Capsule(Shape):
    """A capsule."""

    name = "capsule"
    fields = ("a", "b")

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Itself; the library takes the straight part of the length."""
        return whole(coal.Capsule(sizes[0] / 2.0, max(sizes[1] - sizes[0], 1e-6)))

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Its diameter counts whole from every side, its length along its axis: bounds."""
        return (np.ones_like(x), z)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """The middles of its round ends."""
        straight = _straight(sizes)
        return np.array([(0.0, 0.0, -straight), (0.0, 0.0, straight)])

    def ball(self, sizes: Sizes) -> float:
        """Half its diameter."""
        return sizes[0] / 2.0

    def mesh(self, sizes: Sizes) -> Mesh:
        """Both ends and the edge between them, turned."""
        r, straight = sizes[0] / 2.0, _straight(sizes)
        ends = arc(r, -straight, -pi / 2, 0.0) + arc(r, straight, 0.0, pi / 2)
        return Mesh(outline=tuple(ends), turned=True)


def _straight(sizes: Sizes) -> float:
    return max(sizes[1] - sizes[0], 0.0) / 2.0
