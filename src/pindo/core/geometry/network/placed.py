"""Points of a build that all readings together place: where each is, how surely, and why not."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from pindo.core.geometry.network.adjust import CRITICAL, Adjusted, adjust
from pindo.core.geometry.network.readings import (
    Array,
    Fixed,
    Lines,
    Offset,
    Reading,
    Side,
    Sighted,
)
from pindo.core.geometry.network.twins import Twin, next_distance, twins


@dataclass(frozen=True, kw_only=True)
class Placed:
    """The points of a build as all readings together place them."""

    numbers: tuple[int, ...]
    """What the points are called, in the order of the network; shift and turn of sets of points
    come after them and have no number.
    """
    answer: Adjusted
    sensitivity: Array
    """What one standard uncertainty of each reading moves each coordinate. (n dim x m) [mm]"""
    unread: tuple[str, ...]
    """Addresses of readings that stand between no two points, or have no figure."""
    mirrored: str
    """The direction in which nobody has said on which side the points lie; empty for none."""
    nailed: frozenset[int]
    """Points whose places are given: the datum."""
    held: int
    """Coordinates that hold the frame."""
    frame: int
    """Coordinates that it takes to hold it."""
    twins: tuple[Twin, ...]
    turned: float
    """How far the whole may as well stand turned about the datum, perhaps mirrored as well; nought
    where only one way fits. [deg]
    """
    belied: tuple[int, ...]
    """Points that their readings put on the other side of the datum than was said: one of the two
    is wrong, and with it the whole may stand mirrored.
    """

    def place(self, number: int) -> Array | None:
        """Where a point lies; None while it is not held, or may as well lie elsewhere. [mm]"""
        if number not in self.numbers or self.mirrored or self.belied or self.held < self.frame:
            return None
        if self.turned or any(t.point in self.nailed for t in self.twins):
            return None
        if number in self.doubtful or any(self.numbers[t.point] == number for t in self.twins):
            return None
        found = self.answer.places[self.numbers.index(number)]
        return found if bool(np.isfinite(found).all()) else None

    @property
    def doubtful(self) -> set[int]:
        """Points that lie elsewhere if another reading is the wrong one."""
        found = {p for s in self.answer.suspects for p in s.doubtful}
        return {n for i, n in enumerate(self.numbers) if i in found}

    @property
    def loose(self) -> list[int]:
        """Points that the readings do not hold."""
        return [n for i, n in enumerate(self.numbers) if i in self.answer.loose]

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
        pair = next_distance(self.answer, pm, len(self.numbers))
        return None if pair is None else (self.numbers[pair[0]], self.numbers[pair[1]])


@lru_cache(maxsize=64)
def _adjusted(
    points: int,
    dim: int,
    readings: tuple[Reading, ...],
    fixed: tuple[Fixed, ...],
    sides: tuple[Side, ...],
    start: tuple[tuple[float, ...], ...],
) -> Adjusted:
    """The adjustment of these readings, kept: looking for a misreading takes a while."""
    first = np.array(start) if start else None
    return adjust(points, readings, dim=dim, fixed=fixed, sides=sides, start=first)


def _cost(lines: Lines, x: Array) -> float:
    miss = (lines.values(x) - lines.read) / lines.sigma
    return float(miss @ miss)


def _mirrored(
    answer: Adjusted,
    fixed: Sequence[Fixed],
    sides: Sequence[Side],
    names: Sequence[tuple[str, str]],
    count: int,
) -> str:
    """The direction in which the whole network may as well lie on the other side of its datum."""
    x = answer.places
    alive = [i for i in range(count) if i not in answer.loose]
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
        other[:count, axis] = 2.0 * at - other[:count, axis]
        if float(np.ptp(x[alive, axis])) > 1.0 and _cost(lines, other) < cost + 1.0:
            return " or ".join(name)
    return ""


TURNS = np.arange(-180.0, 180.0, 0.25)
OTHERWISE_DEG = 2.0
"""Ways to stand that are nearer than this are one. [deg]"""


def _turned(answer: Adjusted, fixed: Sequence[Fixed], sides: Sequence[Side], count: int) -> float:
    """Another way in which a plane network stands as well about its datum: distances and sets of
    points go round with it, and what is read across or up may be so in two directions. Nought for
    none. [deg]
    """
    # Diameters and the like are no places.
    offsets = [r for r in answer.readings if isinstance(r, Offset) and r.b < count]
    fixed = [f for f in fixed if f.point < count]
    alive = [i for i in range(count) if i not in answer.loose]
    nailed = {f.axis for f in fixed if f.value == 0.0}
    if not offsets or len(alive) < 2 or len(nailed) < 2 or len({f.point for f in fixed}) != 1:
        return 0.0
    x = np.nan_to_num(answer.places[:count])
    read = np.array([r.value for r in offsets])
    sigma = np.array([max(r.pm, 1e-6) / 2 for r in offsets])
    a = np.array([-1 if r.a is None else r.a for r in offsets])
    b, axis = np.array([r.b for r in offsets]), np.array([r.axis for r in offsets])
    between = x[b] - np.where(a[:, None] >= 0, x[np.maximum(a, 0)], 0.0)
    now = (np.take_along_axis(between, axis[:, None], 1)[:, 0] - read) / sigma
    enough = float(now @ now) + CRITICAL**2
    # Points that were seen from one side are not mirrored.
    seen = any(isinstance(r, Sighted) for r in answer.readings)
    for flip in (1.0,) if seen else (1.0, -1.0):
        t = np.radians(TURNS)
        c, s = np.cos(t)[:, None], np.sin(t)[:, None]
        p, q = between[:, 0] * flip, between[:, 1]
        slope = np.where(axis == 0, -s * p - c * q, c * p - s * q)
        value = np.where(axis == 0, c * p - s * q, s * p + c * q)
        # One step of Newton from each turn of the grid, so that a narrow place is not missed.
        miss = (value - read) / sigma
        lean = slope / sigma
        step = -np.sum(miss * lean, 1) / np.maximum(np.sum(lean * lean, 1), 1e-12)
        near = np.abs(step) < np.radians(0.5)
        t = t + np.clip(step, -0.01, 0.01)
        c, s = np.cos(t)[:, None], np.sin(t)[:, None]
        value = np.where(axis == 0, c * p - s * q, s * p + c * q)
        cost = np.sum(((value - read) / sigma) ** 2, 1)
        turn = np.degrees(t)
        other = (np.abs(turn) > OTHERWISE_DEG) | (flip < 0)
        for k in np.flatnonzero(near & other & (cost < enough)):
            y = np.stack(
                [c[k] * x[:, 0] * flip - s[k] * x[:, 1], s[k] * x[:, 0] * flip + c[k] * x[:, 1]], 1
            )
            if all(d.sign * (y[d.point, d.axis] - d.of) >= 0.0 for d in sides):
                apart = float(np.max(np.abs(y - x)[alive]))
                if apart > NEAR_MM:
                    return float(turn[k]) or 180.0
    return 0.0


NEAR_MM = 0.5
"""Two ways to stand that are nearer than this everywhere are one. [mm]"""


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
    start: Array | None = None,
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
    start : shape (points, dimensions), optional
        First places; of more points than numbers where sets have shifts and turns. [mm]

    Raises
    ------
    NetworkError
        A reading is no length, or not between two points that are there.
    """
    dim = len(names)
    shape = (len(numbers) if start is None else len(start), dim)
    first = () if start is None else tuple(tuple(map(float, p)) for p in start)
    about = _about(sides, fixed)
    answer = _adjusted(shape[0], dim, tuple(readings), tuple(fixed), about, first)
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
        mirrored=_mirrored(answer, fixed, about, names, len(numbers)),
        nailed=frozenset(f.point for f in fixed),
        held=len(fixed) + sum(isinstance(r, Offset) and r.a is None for r in answer.readings),
        frame=frame,
        twins=tuple(twins(answer, fixed, len(numbers))),
        turned=_turned(answer, fixed, about, len(numbers)) if dim == 2 else 0.0,
        belied=tuple(dict.fromkeys(numbers[p] for p in belied)),
    )
