"""Ring: outside diameter, inside diameter, length. What is inside it is free."""

from typing import Any

import coal
import numpy as np

from pindo.core.geometry.shapes.shape import Mesh, Piece, Shape, Sizes, discs

PIECES = 48  # they reach into the ring by 0.2 % of its radius at most


class Ring(Shape):
    """A ring."""

    name = "ring"
    fields = ("a", "b", "c")

    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Boxes from the inner circle's chord to the outer circle, as wide as its sector."""
        outer, inner, length = sizes[0] / 2.0, self.opening(sizes) / 2.0, sizes[2]
        half = np.pi / PIECES
        near = inner * np.cos(half)
        piece = coal.Box(outer - near, 2.0 * outer * np.tan(half), length)
        return tuple(
            (
                piece,
                np.array(
                    [[np.cos(t), -np.sin(t), 0.0], [np.sin(t), np.cos(t), 0.0], [0.0, 0.0, 1.0]]
                ),
                np.array([np.cos(t), np.sin(t), 0.0]) * (outer + near) / 2.0,
            )
            for t in 2.0 * half * np.arange(PIECES)
        )

    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """Both diameters across its axis, its length along it."""
        across = np.hypot(x, y)
        return (across, across, z)

    def corners(self, sizes: Sizes) -> np.ndarray:
        """Both of its outer discs."""
        return discs(sizes[0], sizes[2])

    def opening(self, sizes: Sizes) -> float:
        """Its inside diameter, never more than the outside one."""
        return min(sizes[1], sizes[0])

    def mesh(self, sizes: Sizes) -> Mesh:
        """Its section, turned."""
        r, inner, half = sizes[0] / 2.0, self.opening(sizes) / 2.0, sizes[2] / 2.0
        section = ((inner, -half), (r, -half), (r, half), (inner, half), (inner, -half))
        return Mesh(outline=section, turned=True)
