"""What a network leaves open: points that may lie at two places, the distance worth taking next."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from pindo.core.geometry.network.adjust import CRITICAL, Adjusted
from pindo.core.geometry.network.readings import Array, Distance, Fixed, Lines


@dataclass(frozen=True, kw_only=True)
class Twin:
    """A point that its readings allow at two places, and the distance that decides between them."""

    point: int
    other: tuple[float, ...]
    to: int | None
    here: float
    there: float
    """What that distance is at the place that was taken, and at the other. [mm]"""


def twins(answer: Adjusted, fixed: Sequence[Fixed], count: int) -> Iterator[Twin]:
    """Points, the first ``count``, that lie as well on the other side of the points that they were
    measured from. A plane's datum is such a point too: the rest may stand on its other side.
    """
    x = answer.places
    points, dim = x.shape
    lines = Lines(answer.readings, (points, dim))
    for p in range(count):
        # The arm of a set of points is no distance.
        mine = [
            k
            for k, r in enumerate(answer.readings)
            if p in (r.a, r.b) and not (isinstance(r, Distance) and max(r.a, r.b) >= count)
        ]
        to = [
            r.a if r.b == p else r.b for k in mine if isinstance(r := answer.readings[k], Distance)
        ]
        nailed = any(f.point == p for f in fixed)
        datum = dim == 2 and {f.point for f in fixed if f.point < count} == {p}
        if p in answer.loose or (nailed and not datum) or len(set(to)) != dim:
            continue
        if len(mine) != len(to):
            continue  # A height or an offset decides it.
        base = x[[t for t in to if t is not None]]
        normal = np.linalg.svd(base - base.mean(axis=0))[2][-1]
        off = float((x[p] - base[0]) @ normal)
        other = x.copy()
        other[p] = x[p] - 2.0 * off * normal
        miss = (lines.values(other) - lines.read)[mine] / lines.sigma[mine]
        here = (lines.values(x) - lines.read)[mine] / lines.sigma[mine]
        if float(miss @ miss) - float(here @ here) > CRITICAL**2 or abs(off) < 1e-6:
            continue
        yield _twin(answer, x[:count], other[p], p, set(to))


def _twin(answer: Adjusted, x: Array, there: Array, p: int, taken: set[int | None]) -> Twin:
    best: tuple[float, int | None, float, float] = (0.0, None, 0.0, 0.0)
    for q in range(len(x)):
        if q == p or q in taken or q in answer.loose:
            continue
        a, b = float(np.linalg.norm(x[q] - x[p])), float(np.linalg.norm(x[q] - there))
        doubt = float(np.sqrt(np.trace(answer.place_covariance(q)) + 1.0))
        if abs(a - b) / doubt > best[0]:
            best = (abs(a - b) / doubt, q, a, b)
    return Twin(point=p, other=tuple(map(float, there)), to=best[1], here=best[2], there=best[3])


def next_distance(answer: Adjusted, pm: float, count: int) -> tuple[int, int] | None:
    """The pair of the first ``count`` points whose distance, taken to ± ``pm``, makes the longest
    semi-axis of them smallest; None where every pair is measured or nothing is held. [mm]
    """
    x, q = answer.places, answer.covariance
    points, dim = x.shape
    able = [p for p in range(count) if p not in answer.loose]
    taken = {frozenset((r.a, r.b)) for r in answer.readings if isinstance(r, Distance)}
    best: tuple[float, tuple[int, int]] | None = None
    blocks = [(p, slice(p * dim, p * dim + dim)) for p in able]
    now = {p: float(np.linalg.eigvalsh(q[at, at])[-1]) for p, at in blocks}
    for a, b in combinations(able, 2):
        if frozenset((a, b)) in taken:
            continue
        between = x[b] - x[a]
        far = float(np.linalg.norm(between))
        if far < 1e-6:
            continue
        g = np.zeros(points * dim)
        g[b * dim : b * dim + dim] = between / far
        g[a * dim : a * dim + dim] = -between / far
        qg = q @ g
        gain = 1.0 / ((pm / 2) ** 2 + float(g @ qg))
        longest = 0.0
        for p, at in blocks:
            if now[p] <= longest:
                continue
            lesser = q[at, at] - gain * np.outer(qg[at], qg[at])
            longest = max(longest, float(np.linalg.eigvalsh(lesser)[-1]))
        if best is None or longest < best[0]:
            best = (longest, (a, b))
    return None if best is None else best[1]
