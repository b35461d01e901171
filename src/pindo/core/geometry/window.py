"""The window of a few sizes that are chosen together: half-planes, their polygon, its middle, and
what conflicts where there is none. Knows no station.

A half-plane is a row of ``slope`` and ``room``: slope . x + room >= 0, in mm of that check's margin
less its doubt.
"""

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from scipy.optimize import linprog

SURE = 1e-9
FLAT = 1e-12
FAR = 1e4
"""Where a polygon that nothing bounds is cut off. [mm]"""


@dataclass(frozen=True, kw_only=True)
class Polygon:
    """Corners counter-clockwise, shape (m, 2), and for each the half-plane that the edge to the
    next one lies on; -1 where nothing bounds it.
    """

    corners: np.ndarray
    edges: tuple[int, ...]

    @property
    def empty(self) -> bool:
        """Whether no point holds every half-plane."""
        return len(self.corners) == 0


@dataclass(frozen=True, kw_only=True)
class Middle:
    """The place where the least room is largest, the room there, and which half-planes leave it."""

    at: np.ndarray
    room: float
    by: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class Interval:
    """What one size alone may be; ``low_by`` and ``high_by`` are the half-planes at its ends, -1
    for none. [mm]
    """

    low: float
    high: float
    low_by: int
    high_by: int


def polygon(slope: np.ndarray, room: np.ndarray) -> Polygon:
    """What all half-planes of a plane leave, cut one after the other (Sutherland and Hodgman).

    Parameters
    ----------
    slope : (k, 2)
        Change of each margin with each size [-].
    room : (k,)
        Margin less doubt where both sizes are nought. [mm]

    Returns
    -------
    Polygon
        Its corners may be one point, or two on a line; none where the half-planes conflict.
    """
    ring = [(-FAR, -FAR), (FAR, -FAR), (FAR, FAR), (-FAR, FAR)]
    edges = [-1, -1, -1, -1]
    for i, ((a, b), c) in enumerate(zip(slope.tolist(), room.tolist(), strict=True)):
        at = [a * x + b * y + c for x, y in ring]
        new: list[tuple[float, float]] = []
        new_edges: list[int] = []
        for k, here in enumerate(ring):
            n = (k + 1) % len(ring)
            there, inside, next_in = ring[n], at[k] >= -SURE, at[n] >= -SURE
            if inside:
                new.append(here)
                new_edges.append(edges[k])
            if inside != next_in:
                share = at[k] / (at[k] - at[n])
                cut = (
                    here[0] + share * (there[0] - here[0]),
                    here[1] + share * (there[1] - here[1]),
                )
                new.append(cut)
                new_edges.append(i if inside else edges[k])
        ring, edges = _without_doubles(new, new_edges)
        if not ring:
            return Polygon(corners=np.empty((0, 2)), edges=())
    return Polygon(corners=np.array(ring, float), edges=tuple(edges))


def _without_doubles(
    ring: list[tuple[float, float]], edges: list[int]
) -> tuple[list[tuple[float, float]], list[int]]:
    """A ring without corners that lie on the one after them."""
    kept = [
        k
        for k in range(len(ring))
        if len(ring) == 1
        or max(abs(ring[k][j] - ring[(k + 1) % len(ring)][j]) for j in (0, 1)) > SURE
    ]
    if not kept and ring:
        kept = [0]
    return [ring[k] for k in kept], [edges[k] for k in kept]


@lru_cache(maxsize=8)
def _threes(count: int) -> np.ndarray:
    """Every three of a number of rows, shape (n, 3)."""
    return np.array(list(combinations(range(count), 3)))


def middle(
    slope: np.ndarray, room: np.ndarray, counts: np.ndarray, thin_first: tuple[int, ...]
) -> Middle | None:
    """The place that makes the smallest room largest: max t, slope . x + room >= t (a linear
    programme, whose best corner is looked for among all corners, each where three meet).

    Parameters
    ----------
    slope : (k, 2), room : (k,)
        The half-planes.
    counts : (k,) of bool
        Those whose room counts; the others are bounds that need only hold.
    thin_first : tuple of int
        Sizes in the order in which the smaller one wins a tie.

    Returns
    -------
    Middle or None
        None where the bounds alone leave nothing, or nothing counts.
    """
    if len(room) < 3 or not counts.any():
        return None
    rows = np.column_stack([slope, -counts.astype(float)])
    three = _threes(len(room))
    a, b, c = (rows[three[:, k]] for k in range(3))
    bc, ca, ab = np.cross(b, c), np.cross(c, a), np.cross(a, b)
    turn = (a * bc).sum(1)
    good = np.abs(turn) > 1e-9
    if not good.any():
        return None
    p, q, r = (room[three[:, k], None] for k in range(3))
    # Cramer's rule for three rows: rows . x = -room.
    corners = (-(p * bc + q * ca + r * ab))[good] / turn[good, None]
    least = (corners @ rows.T + room).min(1)
    scale = 1e-7 * (1.0 + np.abs(corners).max(1))
    corners = corners[least >= -scale]
    if not len(corners):
        return None
    ties = corners[corners[:, 2] >= corners[:, 2].max() - 1e-7]
    for axis in thin_first:
        ties = ties[ties[:, axis] <= ties[:, axis].min() + 1e-7]
    at = ties[0, :2]
    left = slope @ at + room
    least_room = float(left[counts].min())
    by = tuple(int(i) for i in np.flatnonzero(counts & (left <= least_room + 1e-6)))
    return Middle(at=at, room=least_room, by=by)


def interval(slope: np.ndarray, room: np.ndarray) -> Interval | None:
    """What half-planes of one size leave, shapes (k,) and (k,); None where they conflict. [mm]"""
    low, high, low_by, high_by = -FAR, FAR, -1, -1
    for i, (a, c) in enumerate(zip(slope.tolist(), room.tolist(), strict=True)):
        if abs(a) < FLAT:
            if c < -SURE:
                return None
        elif a > 0.0 and -c / a > low:
            low, low_by = -c / a, i
        elif a < 0.0 and c / -a < high:
            high, high_by = c / -a, i
    if low > high + SURE:
        return None
    return Interval(low=low, high=high, low_by=low_by, high_by=high_by)


def conflict(slope: np.ndarray, room: np.ndarray) -> tuple[int, ...]:
    """A smallest set of half-planes of a plane that cannot hold together: one that no size helps,
    two that face each other, or three (Helly); the one that lacks most. Empty where all hold.

    By Farkas: rows with weights w >= 0, sum w slope = 0 and sum w room < 0.
    """
    flat = np.abs(slope).max(1) < FLAT
    if (flat & (room < -SURE)).any():
        return (int(np.where(flat, room, np.inf).argmin()),)
    index = np.flatnonzero(~flat)
    a, c = slope[index], room[index]
    length = np.hypot(a[:, 0], a[:, 1])
    a, c = a / length[:, None], c / length
    best: tuple[float, tuple[int, ...]] = (-SURE, ())
    i, j = np.triu_indices(len(index), 1)
    facing = np.abs(a[i] + a[j]).max(1) < 1e-9
    lack = np.where(facing, c[i] + c[j], np.inf)
    if len(lack) and lack.min() < -SURE:
        k = int(lack.argmin())
        return int(index[i[k]]), int(index[j[k]])
    if len(index) < 3:
        return ()
    three = _threes(len(index))
    p, q, r = (a[three[:, k]] for k in range(3))

    def cross(u: np.ndarray, v: np.ndarray) -> np.ndarray:
        return np.asarray(u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0])

    w = np.stack([cross(q, r), cross(r, p), cross(p, q)], 1)
    w = np.where(w.sum(1, keepdims=True) < 0.0, -w, w)
    around = (w.min(1) > 1e-12) & (w.sum(1) > 1e-9)
    lack = np.where(around, (w * c[three]).sum(1) / np.maximum(w.sum(1), 1e-12), np.inf)
    k = int(lack.argmin())
    if lack[k] < best[0]:
        found = index[three[k]]
        return int(found[0]), int(found[1]), int(found[2])
    return ()


def lack(slope: np.ndarray, room: np.ndarray, counts: np.ndarray) -> float:
    """What every counting half-plane of a conflict has too little where they share it best: the
    greatest least room, with its sign turned (a linear programme). [mm]
    """
    size = slope.shape[1]
    found = linprog(
        np.array([0.0] * size + [-1.0]),
        A_ub=np.column_stack([-slope, counts.astype(float)]),
        b_ub=room,
        bounds=[(-FAR, FAR)] * size + [(-FAR, FAR)],
    )
    return -float(found.x[size]) if found.status == 0 else FAR


def opening(slope: np.ndarray, room: np.ndarray, helps: np.ndarray, most: float) -> float | None:
    """The least change of one more size that leaves a place where every half-plane holds: least
    |d| with slope . x + room + helps d >= 0 (a linear programme).

    Parameters
    ----------
    slope : (k, n), room : (k,)
        The half-planes.
    helps : (k,)
        Change of each room with that size [-].
    most : float
        Largest change that is looked at. [mm]

    Returns
    -------
    float or None
        Signed; None where no change of it does. [mm]
    """
    size = slope.shape[1]
    held = np.column_stack([-slope, -helps, helps])
    found = linprog(
        np.array([0.0] * size + [1.0, 1.0]),
        A_ub=held,
        b_ub=room,
        bounds=[(-FAR, FAR)] * size + [(0.0, most), (0.0, most)],
    )
    if found.status != 0:
        return None
    return float(found.x[size] - found.x[size + 1])
