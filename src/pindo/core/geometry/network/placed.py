"""Points of a build that all readings together place: where each is, how surely, and why not."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from pindo.core.geometry.network.adjust import Adjusted, adjust
from pindo.core.geometry.network.readings import (
    Array,
    Fixed,
    Lines,
    Offset,
    Reading,
    Side,
)
from pindo.core.geometry.network.twins import Twin, next_distance, twins


@dataclass(frozen=True, kw_only=True)
class Placed:
    """The points of a build as all readings together place them."""

    numbers: tuple[int, ...]
    """What the points are called, in the order of the network."""
    answer: Adjusted
    sensitivity: Array
    """What one standard uncertainty of each reading moves each coordinate. (n dim x m) [mm]"""
    unread: tuple[str, ...]
    """Addresses of readings that stand between no two points, or have no figure."""
    mirrored: str
    """The direction in which nobody has said on which side the points lie; empty for none."""
    held: int
    """Coordinates that hold the frame."""
    frame: int
    """Coordinates that it takes to hold it."""
    twins: tuple[Twin, ...]
    belied: tuple[int, ...]
    """Points that their readings put on the other side of the datum than was said: one of the two
    is wrong, and with it the whole may stand mirrored.
    """

    def place(self, number: int) -> Array | None:
        """Where a point lies; None while it is not held, or may as well lie elsewhere. [mm]"""
        if number not in self.numbers or self.mirrored or self.belied or self.held < self.frame:
            return None
        if number in self.doubtful or any(self.numbers[t.point] == number for t in self.twins):
            return None
        found = self.answer.places[self.numbers.index(number)]
        return found if bool(np.isfinite(found).all()) else None

    @property
    def doubtful(self) -> set[int]:
        """Points that lie elsewhere if another reading is the wrong one."""
        return {self.numbers[p] for s in self.answer.suspects for p in s.doubtful}

    def u(self, number: int) -> Array:
        """Standard uncertainty of a point along the axes. [mm]"""
        at = self.numbers.index(number)
        variance = np.diag(self.answer.place_covariance(at))
        return np.asarray(np.sqrt(np.maximum(variance, 0.0)))

    def longest(self, number: int) -> float:
        """Longest semi-axis of a point's 95 % ellipse or ellipsoid. [mm]"""
        return float(self.answer.semi_axes(self.numbers.index(number))[0])

    def parts(self, number: int, axis: int) -> dict[str, float]:
        """What each reading moves a coordinate by, per standard uncertainty, by address. [mm]"""
        dim = self.answer.places.shape[1]
        row = self.sensitivity[dim * self.numbers.index(number) + axis]
        return {r.id: float(v) for r, v in zip(self.answer.readings, row, strict=True) if v}

    def next(self, pm: float) -> tuple[int, int] | None:
        """Numbers of the two points whose distance, taken to ``pm``, would help most. [mm]"""
        pair = next_distance(self.answer, pm)
        return None if pair is None else (self.numbers[pair[0]], self.numbers[pair[1]])


@lru_cache(maxsize=64)
def _adjusted(
    points: int,
    dim: int,
    readings: tuple[Reading, ...],
    fixed: tuple[Fixed, ...],
    sides: tuple[Side, ...],
) -> Adjusted:
    """The adjustment of these readings, kept: looking for a misreading takes a while."""
    return adjust(points, readings, dim=dim, fixed=fixed, sides=sides)


def _cost(lines: Lines, x: Array) -> float:
    miss = (lines.values(x) - lines.read) / lines.sigma
    return float(miss @ miss)


def _mirrored(
    answer: Adjusted,
    fixed: Sequence[Fixed],
    sides: Sequence[Side],
    names: Sequence[tuple[str, str]],
) -> str:
    """The direction in which the whole network may as well lie on the other side of its datum."""
    x = answer.places
    alive = [i for i in range(len(x)) if i not in answer.loose]
    if len(alive) < 2:
        return ""
    lines = Lines(answer.readings, x.shape)
    cost = _cost(lines, np.nan_to_num(x))
    for axis, name in enumerate(names):
        if any(s.axis == axis for s in sides):
            continue
        held = [f.value for f in fixed if f.axis == axis] or [0.0]
        at = float(np.mean(held))
        if any(abs(v - at) > 1e-6 for v in held):
            continue
        other = np.nan_to_num(x).copy()
        other[:, axis] = 2.0 * at - other[:, axis]
        if float(np.ptp(x[alive, axis])) > 1.0 and _cost(lines, other) < cost + 1.0:
            return " or ".join(name)
    return ""


def _about(sides: Sequence[Side], fixed: Sequence[Fixed]) -> tuple[Side, ...]:
    """Sides told of the datum: its middle along their axis, where that is not nought."""
    found = []
    for s in sides:
        held = [f.value for f in fixed if f.axis == s.axis]
        of = float(np.mean(held)) if held else 0.0
        found.append(Side(point=s.point, axis=s.axis, sign=s.sign, of=of))
    return tuple(found)


def placed(
    numbers: Sequence[int],
    readings: Sequence[Reading],
    fixed: Sequence[Fixed],
    sides: Sequence[Side],
    *,
    names: Sequence[tuple[str, str]],
    unread: Sequence[str] = (),
    frame: int = 0,
) -> Placed:
    """The points of a build, placed. [mm]

    Parameters
    ----------
    numbers
        What the points are called.
    names
        What the two sides of the datum are called along each axis: as many as dimensions.
    unread, frame
        As in :class:`Placed`.

    Raises
    ------
    NetworkError
        A reading is no length, or not between two points that are there.
    """
    dim = len(names)
    shape = (len(numbers), dim)
    about = _about(sides, fixed)
    answer = _adjusted(len(numbers), dim, tuple(readings), tuple(fixed), about)
    lines = Lines(answer.readings, shape)
    slope = lines.slopes(np.nan_to_num(answer.places)) / lines.sigma[:, None]
    scale = 1.0 if answer.agrees else answer.variance_factor
    moves = (answer.covariance / scale) @ slope.T * np.sqrt(scale)
    x = answer.places
    belied = (s.point for s in about if s.sign * (x[s.point, s.axis] - s.of) < 0.0)
    return Placed(
        numbers=tuple(numbers),
        answer=answer,
        sensitivity=np.asarray(moves),
        unread=tuple(unread),
        mirrored=_mirrored(answer, fixed, about, names),
        held=len(fixed) + sum(isinstance(r, Offset) and r.a is None for r in answer.readings),
        frame=frame,
        twins=tuple(twins(answer, fixed)),
        belied=tuple(dict.fromkeys(numbers[p] for p in belied)),
    )
