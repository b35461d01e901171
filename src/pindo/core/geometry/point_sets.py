"""Sets of points in a network of holes: each with a shift and a turn of its own, and where its
scale is not true (a photo, a copier) with that too.

A set is laid on the holes by a plane similarity (Helmert's transformation): its shift and its turn
join the network as two points that only it sees, so that one adjustment holds for all. A true
scale is a turn whose arm has its own length.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from pindo.core.geometry.network.adjust import adjust
from pindo.core.geometry.network.readings import (
    TURN_ARM,
    Array,
    Distance,
    Fixed,
    Lines,
    Reading,
    Side,
    Sighted,
)

ARM_PM = 0.002
"""± of a true scale: 4 µm on a plate of 400 mm. [mm on the arm]"""
LEAST = 2
"""Points of a set that say anything of one another."""
LOOSELY = 3.0
"""Distances out of a set are held this much looser for first places: they share its doubts."""


@dataclass(frozen=True, kw_only=True)
class Sight:
    """A point of a set: which point of the network it is, and where the set has it. [mm]"""

    addresses: tuple[str, ...]
    point: int
    at: tuple[float, float]
    pm: tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class Together:
    """Points that were taken together."""

    n: int
    true_scale: bool
    points: tuple[Sight, ...]


@dataclass(frozen=True, kw_only=True)
class Laid:
    """What the sets bring to the network."""

    readings: tuple[Reading, ...]
    start: Array | None
    """First places of all points, shifts and turns after the holes; None without a set. [mm]"""
    lost: tuple[Together, ...]
    """Sets that say nothing yet: fewer than two points, or no length that gives them a scale."""


def similarity(own: Array, there: Array) -> tuple[Array, Array]:
    """Turn and scale as the vector that 1 goes to, and the shift, that carry points ``there`` to
    ``own`` best: least squares, closed form. Both points of shape (n, 2). [-], [mm]
    """
    a, b = there - there.mean(0), own - own.mean(0)
    size = float(np.sum(a * a))
    turn = np.array([np.sum(a * b), np.sum(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])]) / max(
        size, 1e-12
    )
    return turn, own.mean(0) - _turned(there.mean(0), turn)


def _turned(at: Array, turn: Array) -> Array:
    x, y = at[..., 0], at[..., 1]
    return np.stack([turn[0] * x - turn[1] * y, turn[1] * x + turn[0] * y], -1)


def _between(s: Together, scale: float) -> list[Reading]:
    """Distances of a set's points, for first places: of all pairs, loosely. [mm]"""
    found: list[Reading] = []
    for a, b in combinations(s.points, 2):
        far = float(np.hypot(*(np.array(a.at) - np.array(b.at)))) / scale
        if a.point != b.point and far > 0.0:
            pm = LOOSELY * float(np.hypot(max(*a.pm, *b.pm), 0.0)) / scale
            name = f"set {s.n}, {a.point} to {b.point}"
            found.append(Distance(id=name, a=a.point, b=b.point, value=far, pm=max(pm, 0.01)))
    return found


def _scale(s: Together, readings: Sequence[Reading]) -> float | None:
    """How much longer a set has the holes than they are, by the distances that others have taken
    between them; None where there is none. [-]
    """
    at = {p.point: np.array(p.at) for p in s.points}
    ratios = [
        float(np.hypot(*(at[r.a] - at[r.b]))) / r.value
        for r in readings
        if isinstance(r, Distance) and r.a in at and r.b in at and r.value > 0.0
    ]
    ratios = [r for r in ratios if r > 0.0]
    return float(np.median(ratios)) if ratios else None


FLIPS = ((1.0, 1.0), (-1.0, 1.0), (1.0, -1.0))
WRONG_SIDE = 1e9


def _not_mirrored(
    x: Array, readings: Sequence[Reading], sets: Sequence[Together], sides: Sequence[Side]
) -> Array:
    """First places, or their mirror image where the sets say so: distances cannot tell, points
    that were seen from one side can. [mm]
    """
    lines = Lines(readings, x.shape)

    def cost(y: Array) -> float:
        y = np.nan_to_num(y)
        miss = (lines.values(y) - lines.read) / lines.sigma
        total = float(miss @ miss)
        total += WRONG_SIDE * sum(s.sign * float(y[s.point, s.axis] - s.of) < 0 for s in sides)
        for s in sets:
            known = [p for p in s.points if bool(np.isfinite(x[p.point]).all())]
            if len(known) > LEAST:
                own, there = np.array([p.at for p in known]), y[[p.point for p in known]]
                turn, shift = similarity(own, there)
                doubt = np.maximum([p.pm for p in known], 1e-6)
                off = (own - _turned(there, turn) - shift) / doubt
                total += float(np.sum(np.minimum(off * off, 1e4)))
        return total

    return min((x * np.array(f) for f in FLIPS), key=cost)


def with_sets(
    count: int,
    axis: int,
    readings: Sequence[Reading],
    sets: Sequence[Together],
    fixed: Sequence[Fixed],
    sides: Sequence[Side],
) -> Laid:
    """The sets as readings of the network, with first places of everything.

    Parameters
    ----------
    count
        Points of the network without the sets.
    axis
        Which of them lies at nought: the arm of a true scale is told from there.
    """
    able = [s for s in sets if len({p.point for p in s.points}) >= LEAST]
    lost = [s for s in sets if s not in able and s.points]
    if not able:
        return Laid(readings=(), start=None, lost=tuple(lost))
    loosely = list(readings)
    open_ = [s for s in able if not s.true_scale]
    for s in (s for s in able if s.true_scale):
        loosely += _between(s, 1.0)
    for s in open_:
        scale = _scale(s, loosely)
        if scale is None:
            lost.append(s)
        else:
            loosely += _between(s, scale)
    able = [s for s in able if s not in lost]
    x = adjust(count, loosely, dim=2, fixed=fixed, sides=sides, snoop=False).places
    x = _not_mirrored(x, readings, able, sides)
    found: list[Reading] = []
    start = [np.nan_to_num(x)]
    for s in able:
        known = [p for p in s.points if bool(np.isfinite(x[p.point]).all())]
        if len({p.point for p in known}) < LEAST:
            continue
        turn, shift = similarity(
            np.array([p.at for p in known]), np.array([x[p.point] for p in known])
        )
        place = count + 2 * (len(start) - 1)
        if s.true_scale:
            turn = turn / max(float(np.hypot(*turn)), 1e-12)
            arm = f"scale of set {s.n}"
            found.append(Distance(id=arm, a=axis, b=place + 1, value=TURN_ARM, pm=ARM_PM))
        start.append(np.stack([shift, TURN_ARM * turn]))
        found += [
            Sighted(
                id=p.addresses[i],
                a=place,
                b=p.point,
                turn=place + 1,
                axis=i,
                value=p.at[i],
                pm=p.pm[i],
            )
            for p in s.points
            for i in range(2)
        ]
    if len(start) == 1:
        return Laid(readings=(), start=None, lost=tuple(lost))
    return Laid(readings=tuple(found), start=np.concatenate(start), lost=tuple(lost))
