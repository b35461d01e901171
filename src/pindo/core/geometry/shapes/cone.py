"""Cone: diameter of its foot and length; its tip is along +z."""

from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import Mesh, Piece, Shape, Sizes, discs, whole


class Cone(Shape):
    """A cone."""

    name = "cone"
    fields = ("a", "b")

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Itself."""
        return whole(coal.Cone(sizes[0] / 2.0, sizes[1]))

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Those of the cylinder about it, which bound its own."""
        return (np.hypot(x, y), z)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Its foot and its tip."""
        foot = discs(*sizes)
        return np.concatenate([foot[: len(foot) // 2], [[0.0, 0.0, sizes[1] / 2.0]]])

    def mesh(self, sizes: Sizes) -> Mesh:
        """Its edge, turned."""
        r, half = sizes[0] / 2.0, sizes[1] / 2.0
        return Mesh(outline=((0.0, -half), (r, -half), (0.0, half)), turned=True)
