"""Cylinder: diameter and length."""

from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import Mesh, Piece, Shape, Sizes, discs, whole


class Cylinder(Shape):
    """A cylinder."""

    name = "cylinder"
    fields = ("a", "b")

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Itself."""
        return whole(coal.Cylinder(sizes[0] / 2.0, sizes[1]))

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """h = (d sin + l cos) / 2 of the angle to its axis."""
        return (np.hypot(x, y), z)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Both of its discs."""
        return discs(*sizes)

    def mesh(self, sizes: Sizes) -> Mesh:
        """Its edge, turned."""
        r, half = sizes[0] / 2.0, sizes[1] / 2.0
        return Mesh(outline=((0.0, -half), (r, -half), (r, half), (0.0, half)), turned=True)
