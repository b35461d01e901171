"""Box: length, width, height along its own x, y, z."""

from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import CUBE, Mesh, Piece, Shape, Sizes, whole


class Box(Shape):
    """A box."""

    name = "box"
    fields = ("a", "b", "c")
    lies = False

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Itself."""
        return whole(coal.Box(*sizes))

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Each size along its own axis: h = (a |x| + b |y| + c |z|) / 2."""
        return (x, y, z)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Its eight."""
        return np.asarray(CUBE * sizes)

    def mesh(self, sizes: Sizes) -> Mesh:
        """A rectangle as thick as it is high."""
        return Mesh(outline=rectangle(sizes[0], sizes[1]), turned=False, thick=sizes[2])


def rectangle(length: float, width: float) -> tuple[tuple[float, float], ...]:
    """Corners of a rectangle about its middle, in turn. [mm]"""
    x, y = length / 2.0, width / 2.0
    return ((-x, -y), (x, -y), (x, y), (-x, y))
