"""What every shape of a solid knows of itself. A shape stands in its own axes about its middle, its
axis along z; lengths in mm.
"""

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

Sizes = tuple[float, ...]
Piece = tuple[Any, np.ndarray, np.ndarray]
"""A convex body of the collision library, its turn (3, 3) [-] and its middle (3,) [mm]."""
ROUND = 24  # corners of a circle in a picture
_TURN = np.linspace(0.0, 2.0 * np.pi, ROUND, endpoint=False)
CIRCLE = np.stack([np.cos(_TURN), np.sin(_TURN)], axis=1)
CUBE = np.array([(x, y, z) for x in (-0.5, 0.5) for y in (-0.5, 0.5) for z in (-0.5, 0.5)])


@dataclass(frozen=True, kw_only=True)
class Mesh:
    """How a shape is made for the view in space: an outline that is turned about z (radius, z), or
    one in x and y that is as thick as ``thick``, with a round hole in its middle. [mm]
    """

    outline: tuple[tuple[float, float], ...]
    turned: bool
    thick: float = 0.0
    hole: float = 0.0


class Shape(ABC):
    """A simple solid. One instance serves for all of its kind; sizes come in the order of
    ``fields``.
    """

    name: ClassVar[str]
    fields: ClassVar[tuple[str, ...]]
    lies: ClassVar[bool] = True
    """Whether it is laid along an axis that is said; a box lies along all three."""

    @abstractmethod
    def pieces(self, sizes: Sizes) -> tuple[Piece, ...]:
        """Convex pieces that fill it and nothing else."""

    @abstractmethod
    def shares(self, x: Any, y: Any, z: Any) -> tuple[Any, ...]:
        """How far its surface reaches along a direction for each mm of half a size, in the order
        of ``fields`` [-]. ``x``, ``y``, ``z``: the direction's components, none below 0.
        """

    @abstractmethod
    def corners(self, sizes: Sizes) -> np.ndarray:
        """Points whose hull it is, shape (n, 3); of one with round ends their middles. [mm]"""

    @abstractmethod
    def mesh(self, sizes: Sizes) -> Mesh:
        """Its form for the view in space."""

    def ball(self, sizes: Sizes) -> float:
        """Radius that is round about each corner, from wherever it is seen. [mm]"""
        return 0.0

    def opening(self, sizes: Sizes) -> float:
        """Diameter of a round hole through it, along z; 0 for none. [mm]"""
        return 0.0


def whole(body: Any) -> tuple[Piece, ...]:
    """One convex body in its own place, unturned. [mm]"""
    return ((body, np.eye(3), np.zeros(3)),)


def discs(diameter: float, length: float) -> np.ndarray:
    """Corners of two equal discs, shape (2 ROUND, 3). [mm]"""
    flat = np.column_stack([CIRCLE * diameter / 2.0, np.full(ROUND, -length / 2.0)])
    return np.concatenate([flat, flat + [0.0, 0.0, length]])


def arc(radius: float, middle: float, first: float, last: float) -> list[tuple[float, float]]:
    """Points (radius, z) of a round end about z = ``middle``, from angle to angle [rad]. [mm]"""
    turns = np.linspace(first, last, 9)
    return [
        (float(max(radius * np.cos(t), 0.0)), float(middle + radius * np.sin(t))) for t in turns
    ]
