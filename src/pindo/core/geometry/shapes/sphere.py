"""Sphere: diameter."""

from math import pi
from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import Mesh, Piece, Shape, Sizes, arc, whole


class Sphere(Shape):
    """A sphere."""

    name = "sphere"
    fields = ("a",)

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Itself."""
        return whole(coal.Sphere(sizes[0] / 2.0))

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Half its diameter, whichever way."""
        return (np.ones_like(x),)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Its middle."""
        return np.zeros((1, 3))

    def ball(self, sizes: Sizes) -> float:
        """Half its diameter."""
        return sizes[0] / 2.0

    def mesh(self, sizes: Sizes) -> Mesh:
        """Half a circle, turned."""
        outline = arc(sizes[0] / 2.0, 0.0, -pi / 2, 0.0) + arc(sizes[0] / 2.0, 0.0, 0.0, pi / 2)
        return Mesh(outline=tuple(outline), turned=True)
