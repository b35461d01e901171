"""What is read between points, and what holds their frame."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pindo.core.errors import PindoError

Array = NDArray[np.float64]


class NetworkError(PindoError, ValueError):
    """The readings do not make a network; the message says why."""


@dataclass(frozen=True, kw_only=True)
class Distance:
    """A length between two points, taped or gauged; or over their edges, whose diameters are
    unknowns of the network themselves. [mm]
    """

    id: str
    a: int
    b: int
    value: float
    pm: float
    wide: tuple[int, int] = (-1, -1)
    """Points whose first coordinate is the diameter at ``a`` and at ``b``, where edges were read:
    one diameter is shared by all the readings over it.
    """
    edge: float = 0.0
    """What half of both diameters adds to the length of the middles: +1 outside, -1 inside."""


@dataclass(frozen=True, kw_only=True)
class Offset:
    """How far ``b`` lies along an axis from ``a``, or from the datum where ``a`` is None: a height,
    a difference of level, a plumb offset. [mm]
    """

    id: str
    a: int | None
    b: int
    axis: int
    value: float
    pm: float


@dataclass(frozen=True, kw_only=True)
class Sighted:
    """A coordinate of ``b`` in a set of points with a shift and a turn of its own: a trace, a scan,
    a machine's readout. Both are points of the network that nothing else sees: the shift ``a``, and
    ``turn``, where a length of :data:`TURN_ARM` along the set's own x has gone. Plane only. [mm]
    """

    id: str
    a: int
    b: int
    turn: int
    axis: int
    value: float
    pm: float


TURN_ARM = 100.0
"""As long as places are, so that no unknown is far stronger than another. [mm]"""
Reading = Distance | Offset | Sighted


@dataclass(frozen=True, kw_only=True)
class Fixed:
    """A coordinate that holds the frame. [mm]"""

    point: int
    axis: int
    value: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Side:
    """On which side of the datum a point lies along an axis: +1 or -1. Distances alone cannot tell
    a network from its mirror image.
    """

    point: int
    axis: int
    sign: int
    of: float = 0.0
    """Where the datum lies along that axis. [mm]"""


class Lines:
    """The readings as arrays: values and derivatives of all of them at once."""

    def __init__(self, readings: Sequence[Reading], shape: tuple[int, int]) -> None:
        self.shape = shape
        self.is_distance = np.array([isinstance(r, Distance) for r in readings], bool)
        self.a = np.array([-1 if r.a is None else r.a for r in readings], int)
        self.b = np.array([r.b for r in readings], int)
        self.axis = np.array([getattr(r, "axis", 0) for r in readings], int)
        self.turn = np.array([r.turn if isinstance(r, Sighted) else -1 for r in readings], int)
        self.edge = np.array([r.edge if isinstance(r, Distance) else 0.0 for r in readings])
        wide = [r.wide if isinstance(r, Distance) else (-1, -1) for r in readings]
        self.wide = np.array(wide, int).reshape(-1, 2)
        self._over = np.flatnonzero(self.edge)
        self.read = np.array([r.value for r in readings], float)
        self.sigma = np.array([max(r.pm, 1e-6) / 2 for r in readings], float)
        self._far = np.flatnonzero(self.is_distance)
        self._seen = np.flatnonzero(self.turn >= 0)
        self._on = np.flatnonzero(~self.is_distance & (self.turn < 0))
        self._tied = self._on[self.a[self._on] >= 0]

    def over(self, x: Array) -> Array:
        """What the diameters add to each reading at ``x``. (m)"""
        added = np.zeros(len(self.read))
        k = self._over
        added[k] = self.edge[k] * (x[self.wide[k, 0], 0] + x[self.wide[k, 1], 0]) / 2.0
        return added

    def values(self, x: Array) -> Array:
        """What each reading would be at ``x``. (m)"""
        value = np.empty(len(self.read))
        k = self._far
        between = x[self.b[k]] - x[self.a[k]]
        value[k] = np.sqrt(np.einsum("ij,ij->i", between, between))
        if self._over.size:
            value[k] += self.over(x)[k]
        k = self._on
        value[k] = x[self.b[k], self.axis[k]]
        k = self._tied
        value[k] -= x[self.a[k], self.axis[k]]
        k = self._seen
        if k.size:
            arm, at, along = x[self.turn[k]] / TURN_ARM, x[self.b[k]], self.axis[k] == 0
            turned = np.where(
                along,
                arm[:, 0] * at[:, 0] - arm[:, 1] * at[:, 1],
                arm[:, 1] * at[:, 0] + arm[:, 0] * at[:, 1],
            )
            value[k] = turned + x[self.a[k], self.axis[k]]
        return value

    def slopes(self, x: Array) -> Array:
        """Derivatives of the readings by all coordinates. (m x n dim)"""
        n, dim = self.shape
        slope = np.zeros((len(self.read), n, dim))
        k = self._far
        between = x[self.b[k]] - x[self.a[k]]
        length = np.maximum(np.sqrt(np.einsum("ij,ij->i", between, between)), 1e-9)
        along = between / length[:, None]
        slope[k, self.b[k]] = along
        slope[k, self.a[k]] = -along
        for end in (0, 1):
            k = self._over
            slope[k, self.wide[k, end], 0] += self.edge[k] / 2.0
        k = self._on
        slope[k, self.b[k], self.axis[k]] = 1.0
        k = self._tied
        slope[k, self.a[k], self.axis[k]] = -1.0
        k = self._seen
        if k.size:
            arm, at, along = x[self.turn[k]] / TURN_ARM, x[self.b[k]], self.axis[k] == 0
            slope[k, self.b[k], 0] = np.where(along, arm[:, 0], arm[:, 1])
            slope[k, self.b[k], 1] = np.where(along, -arm[:, 1], arm[:, 0])
            slope[k, self.turn[k], 0] = np.where(along, at[:, 0], at[:, 1]) / TURN_ARM
            slope[k, self.turn[k], 1] = np.where(along, -at[:, 1], at[:, 0]) / TURN_ARM
            slope[k, self.a[k], self.axis[k]] = 1.0
        return slope.reshape(len(self.read), n * dim)
