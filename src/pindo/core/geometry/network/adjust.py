"""The adjustment: places with their doubt, redundancy, the global test, misreadings."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse.csgraph import connected_components
from scipy.special import chdtri

from pindo.core.geometry.network.readings import (
    Array,
    Distance,
    Fixed,
    Lines,
    NetworkError,
    Reading,
    Side,
    Sighted,
)
from pindo.core.geometry.network.solve import solve
from pindo.core.geometry.network.start import best_places, free_of

CRITICAL = 3.29
LEAST_REDUNDANCY = 0.1
LEAST_FREEDOM = 2
LEVEL = 0.05
OUTSIDE = 0.05
"""Share of the truth that an ellipse leaves outside."""
MOST_TRIED = 8
ALIKE = 6.63
"""Difference of the weighted squares below which two explanations are alike: chi-square, one
degree of freedom, 1 %.
"""
HARDLY = 0.3
"""Redundancy below which a misreading mostly bends the others."""
ROUGH_ROUNDS = 6
ROUGHLY = 1.5
"""Explanations that are this many times worse after a few rounds are no explanations."""
LOOSE = 1e-10
"""Share of the strongest direction below which a direction counts as held by nothing."""


@dataclass(frozen=True, kw_only=True)
class Suspect:
    """A reading that the rest contradicts, with what the rest expects of it. [mm]"""

    id: str
    read: float
    expected: float
    pm: float
    w: float
    rivals: tuple[str, ...] = ()
    """Readings of which the same could be said: the rest cannot tell which of them it is."""
    doubtful: tuple[int, ...] = ()
    """Points that lie elsewhere, beyond their own doubt, if it is one of those."""


@dataclass(frozen=True, kw_only=True)
class Adjusted:
    """Points as all readings together say.

    ``places`` n x dim, nan for a point that is not held; ``covariance`` of all coordinates in the
    order of the points, from the readings' own doubt, enlarged where the global test fails high;
    ``residuals`` adjusted - read.
    """

    places: Array
    covariance: Array
    readings: tuple[Reading, ...]
    residuals: Array
    redundancy: Array
    freedom: int
    variance_factor: float
    """Weighted square sum over the degrees of freedom; 1 is expected. nan for none."""
    agrees: bool
    """Whether the global test passes or only says that the ± were pessimistic."""
    loose: tuple[int, ...]
    """Points that the readings do not hold in the frame."""
    suspects: tuple[Suspect, ...] = ()
    """Readings that were left out, the worst first."""

    def place_covariance(self, point: int) -> Array:
        """Covariance of one point, dim x dim. [mm²]"""
        dim = self.places.shape[1]
        at = slice(point * dim, point * dim + dim)
        return self.covariance[at, at]

    def semi_axes(self, point: int) -> Array:
        """Semi-axes of the 95 % ellipse or ellipsoid of a point, the longest first. [mm]

        sqrt(eigenvalue x chi-square quantile with as many degrees of freedom as dimensions):
        2.4477 for two, 2.7955 for three.
        """
        values = np.linalg.eigvalsh(self.place_covariance(point))[::-1]
        factor = float(chdtri(self.places.shape[1], OUTSIDE))
        return np.asarray(np.sqrt(np.maximum(values, 0.0) * factor))


def _held(points: int, readings: Sequence[Reading], fixed: Sequence[Fixed]) -> tuple[int, ...]:
    """Points that no chain of readings ties to the frame."""
    links = np.zeros((points + 1, points + 1))
    for r in readings:
        links[points if r.a is None else r.a, r.b] = 1
        if isinstance(r, Sighted):
            links[r.turn, r.b] = 1
    for f in fixed:
        links[points, f.point] = 1
    _, label = connected_components(links, directed=False)
    return tuple(i for i in range(points) if label[i] != label[points])


def _answer(
    x: Array, readings: Sequence[Reading], fixed: Sequence[Fixed], away: Sequence[int]
) -> Adjusted:
    points, dim = x.shape
    lines = Lines(readings, (points, dim))
    held = np.zeros((points, dim), bool)
    for f in fixed:
        held[f.point, f.axis] = True
    for p in away:
        held[p] = True
    free = np.flatnonzero(~held.reshape(-1))
    value, slope = lines.values(x), lines.slopes(x)
    a = slope[:, free] / lines.sigma[:, None]
    # Directions that no reading holds: the smallest singular values beside the largest.
    strength, rows = np.linalg.eigh(a.T @ a)
    strong = strength > LOOSE * max(float(np.max(strength, initial=0.0)), 1e-12)
    weak = rows[:, ~strong].T
    share = np.zeros(points * dim)
    share[free] = np.max(np.abs(weak), axis=0, initial=0.0) if len(weak) else 0.0
    loose = {int(i) for i in np.flatnonzero(share.reshape(points, dim).max(axis=1) > 1e-4)}
    q = (rows[:, strong] / strength[strong]) @ rows[:, strong].T
    covariance = np.zeros((points * dim, points * dim))
    covariance[np.ix_(free, free)] = q
    v = value - lines.read
    redundancy = 1.0 - np.einsum("ij,jk,ik->i", a, q, a)
    freedom = len(readings) - int(np.sum(strong))
    factor = float((v / lines.sigma) @ (v / lines.sigma)) / freedom if freedom > 0 else float("nan")
    agrees = freedom <= 0 or factor * freedom <= float(chdtri(freedom, LEVEL / 2))
    if not agrees:
        covariance *= factor
    places = x.copy()
    gone = sorted(loose | set(away))
    places[gone] = np.nan
    return Adjusted(
        places=places,
        covariance=covariance,
        readings=tuple(readings),
        residuals=v,
        redundancy=redundancy,
        freedom=freedom,
        variance_factor=factor,
        agrees=agrees,
        loose=tuple(gone),
    )


def normalised(answer: Adjusted) -> Array:
    """Residuals over their own standard deviation, w = v / (sigma sqrt(r)); 0 where nothing checks
    the reading (r below 0.1). In the shape of the readings.
    """
    sigma = np.array([max(r.pm, 1e-6) / 2 for r in answer.readings])
    r = answer.redundancy
    able = r >= LEAST_REDUNDANCY
    return np.asarray(
        np.where(able, answer.residuals / (sigma * np.sqrt(np.where(able, r, 1.0))), 0.0)
    )


def _least_without(
    kept: list[Reading],
    x: Array,
    answer: Adjusted,
    w: Array,
    fixed: Sequence[Fixed],
    away: Sequence[int],
) -> tuple[int, Array, Adjusted, list[int], list[int]] | None:
    """The reading without which the others agree best, its places and answer, and the readings
    without which they would agree as well, with the points that those place elsewhere; None
    where none may be left out.

    Residuals alone mislead where a misreading bent the whole: the readings with the largest and
    their neighbours are each left out in earnest.
    """
    points, dim = x.shape
    first = kept[int(np.argmax(np.abs(w)))]
    ends = {first.a, first.b}
    near = [k for k, r in enumerate(kept) if {r.a, r.b} & ends]
    # A reading that hardly anything checks shows no residual: it may be the one all the same.
    hardly = [k for k in np.argsort(answer.redundancy) if answer.redundancy[k] < HARDLY]
    most = np.argsort(-np.abs(w))[:MOST_TRIED].tolist()
    able = dict.fromkeys([*most, *map(int, hardly[:MOST_TRIED]), *near])
    found: list[tuple[float, int, Array, Adjusted]] = []
    free = free_of(points, dim, fixed)
    # Where a misreading pulls no harder than others the rest lies nearly where it will be.
    about = solve(Lines(kept, (points, dim)), x, free, robust=True)
    rough = []
    for k in list(able)[: 3 * MOST_TRIED]:
        lines = Lines(kept[:k] + kept[k + 1 :], (points, dim))
        there = solve(lines, about, free, robust=False, rounds=ROUGH_ROUNDS)
        miss = (lines.values(there) - lines.read) / lines.sigma
        rough.append((float(miss @ miss), k, there))
    least = min((cost for cost, _, _ in rough), default=0.0)
    for cost, k, there in rough:
        if cost > ROUGHLY * least + 4.0 * ALIKE:
            continue
        rest = kept[:k] + kept[k + 1 :]
        again = solve(Lines(rest, (points, dim)), there, free, robust=False)
        without = _answer(again, rest, fixed, away)
        if set(without.loose) - set(answer.loose):
            continue
        sigma = np.array([max(r.pm, 1e-6) / 2 for r in rest])
        found.append((float(np.sum((without.residuals / sigma) ** 2)), k, again, without))
    if not found:
        return None
    cost, k, again, without = min(found, key=lambda f: f[0])
    alike = [f for f in found if f[1] != k and f[0] - cost < ALIKE]
    doubtful = [
        p
        for p in range(points)
        if p not in without.loose
        and any(
            float(np.linalg.norm(other[p] - again[p])) > float(without.semi_axes(p)[0])
            for _, _, other, _ in alike
        )
    ]
    return k, again, without, [f[1] for f in alike], doubtful


def adjust(
    points: int,
    readings: Iterable[Reading],
    *,
    dim: int = 3,
    fixed: Sequence[Fixed] = (),
    sides: Sequence[Side] = (),
    snoop: bool = True,
    start: Array | None = None,
) -> Adjusted:
    """Places of ``points`` points from readings between them. [mm]

    Without ``start``, places of an earlier answer, first places come from the readings alone.
    One misreading at a time is left out, the one with the largest w first, and the rest solved
    anew, while it has two degrees of freedom or more.

    Raises
    ------
    NetworkError
        A reading is of a point to itself, of a point that is not there, or no finite length.
    """
    all_readings = list(readings)
    for r in all_readings:
        if not (0 <= r.b < points and (r.a is None or 0 <= r.a < points)) or r.a == r.b:
            raise NetworkError(f"Reading {r.id} is not between two points that are there.")
        if not np.isfinite(r.value) or (isinstance(r, Distance) and r.value <= 0.0):
            raise NetworkError(f"Reading {r.id} is no length.")
    if points == 0:
        empty = np.zeros((0, dim))
        return _answer(empty, (), (), ())
    away = _held(points, all_readings, fixed)
    kept = [r for r in all_readings if r.b not in away]
    inner = [f for f in fixed if f.point not in away]
    known = start is not None and start.shape == (points, dim) and bool(np.isfinite(start).all())
    x = best_places(kept, points, dim, inner, sides, start if known else None)
    answer = _answer(x, kept, inner, away)
    suspects: list[Suspect] = []
    while snoop and answer.freedom >= LEAST_FREEDOM:
        w = normalised(answer)
        if float(np.max(np.abs(w), initial=0.0)) <= CRITICAL:
            break
        found = _least_without(kept, x, answer, w, inner, away)
        if found is None:
            break  # The only readings that hold a point cannot be called wrong by the others.
        worst, again, without, rivals, doubtful = found
        out = kept[worst]
        alone = Lines([out], (points, dim))
        slope = alone.slopes(again)[0]
        doubt = 2.0 * float(np.sqrt(max(slope @ without.covariance @ slope, 0.0)))
        suspects.append(
            Suspect(
                id=out.id,
                read=out.value,
                expected=float(alone.values(again)[0]),
                pm=doubt,
                w=float(w[worst]),
                rivals=tuple(kept[k].id for k in rivals),
                doubtful=tuple(doubtful),
            )
        )
        kept, x, answer = kept[:worst] + kept[worst + 1 :], again, without
    return replace(answer, suspects=tuple(suspects))
