"""First places from nothing: the shape from its distances, the frame from what holds it."""

from collections.abc import Iterator, Sequence
from itertools import combinations, islice

import numpy as np
from numpy.typing import NDArray
from scipy.sparse.csgraph import shortest_path

from pindo.core.geometry.network.readings import (
    Array,
    Distance,
    Fixed,
    Lines,
    Offset,
    Reading,
    Side,
)
from pindo.core.geometry.network.solve import pull, solve

STARTS = 10
TURNS = 8
ROUNDS = 25
MOST_MOVED = 4
MISREAD = 3
"""Misreadings that a start may have and still be a good one."""
CAPPED = 25.0
"""What a reading costs at most when starts are compared: a misreading is wrong anywhere."""
MOST_FLIPPED = 3
"""Points that are tried on their other side all together, at most."""
MOST_SETS = 56
"""Sets of distances that are cut with one another to find where else a point may lie."""
MOST_PLACES = 3
NEAR = 5.0
"""Places nearer than this are one. [mm]"""
MISFIT = 12.0
"""What a reading costs, beyond which its points are worth putting elsewhere."""


def _scaled(readings: Sequence[Reading], points: int, dim: int) -> Array:
    """First places in a frame of their own: classical scaling of the distances, completed along
    the shortest ways (Torgerson; Isomap's completion).
    """
    way = np.full((points, points), np.inf)
    for r in readings:
        if isinstance(r, Distance):
            way[r.a, r.b] = way[r.b, r.a] = min(way[r.a, r.b], max(r.value, 1e-6))
        elif r.a is not None:
            far = max(abs(r.value), 1.0)
            way[r.a, r.b] = way[r.b, r.a] = min(way[r.a, r.b], far * 1.5)
    whole = shortest_path(np.where(np.isinf(way), 0.0, way), directed=False)
    far = np.max(whole[np.isfinite(whole)], initial=1.0)
    whole = np.where(np.isfinite(whole), whole, far)
    middle = np.eye(points) - 1.0 / points
    gram = -0.5 * middle @ (whole**2) @ middle
    values, vectors = np.linalg.eigh(gram)
    top = np.argsort(values)[::-1][:dim]
    found = np.zeros((points, dim))
    found[:, : len(top)] = vectors[:, top] * np.sqrt(np.maximum(values[top], 0.0))
    return found


def _turned(v: Array) -> Array:
    """Rotation matrices, one a row of ``v``: rotation vectors (Rodrigues), or plane angles."""
    if v.shape[1] == 1:
        c, s = np.cos(v[:, 0]), np.sin(v[:, 0])
        return np.stack([np.stack([c, -s], 1), np.stack([s, c], 1)], 1)
    angle = np.linalg.norm(v, axis=1)
    k = v / np.maximum(angle, 1e-12)[:, None]
    cross = np.zeros((len(v), 3, 3))
    cross[:, 0, 1], cross[:, 0, 2], cross[:, 1, 2] = -k[:, 2], k[:, 1], -k[:, 0]
    cross -= cross.transpose(0, 2, 1)
    s, c = np.sin(angle)[:, None, None], 1.0 - np.cos(angle)[:, None, None]
    return np.asarray(np.eye(3) + s * cross + c * (cross @ cross))


def _placed(
    shape: Array, readings: Sequence[Reading], fixed: Sequence[Fixed], sides: Sequence[Side]
) -> list[Array]:
    """The shape turned, shifted and perhaps mirrored into the frame, the best fits first: many
    turns at once, each bettered by Gauss and Newton.
    """
    dim = shape.shape[1]
    turns = 1 if dim == 2 else 3
    rows = [
        (-1 if r.a is None else r.a, r.b, r.axis, r.value)
        for r in readings
        if isinstance(r, Offset)
    ]
    rows += [(-1, f.point, f.axis, f.value) for f in fixed]
    flip = np.array([1.0] * (dim - 1) + [-1.0])
    if not rows:
        return [shape, shape * flip]
    a, b, axis = (np.array([r[i] for r in rows], int) for i in range(3))
    want = np.array([r[3] for r in rows], float)
    tied = (a >= 0).astype(float)
    shape = shape - shape.mean(axis=0)
    size = max(float(np.ptp(shape)), 1.0)
    of = np.stack([shape] * TURNS + [shape * flip] * TURNS)
    v = np.random.default_rng(7).normal(0.0, 1.0, (len(of), turns))
    v *= (
        np.random.default_rng(9).uniform(0, np.pi, (len(of), 1))
        / np.linalg.norm(v, axis=1)[:, None]
    )
    x = of @ _turned(v).transpose(0, 2, 1)
    shift = np.zeros((len(of), dim))
    k = np.arange(len(want))

    def missed(x: Array, shift: Array) -> Array:
        value = x[:, b, axis] - tied * x[:, np.maximum(a, 0), axis]
        return np.asarray(value + (1 - tied) * shift[:, axis] - want)

    miss = missed(x, shift)
    damp = np.full(len(of), 1e-2)
    for _ in range(ROUNDS):
        between = x[:, b] - tied[:, None] * x[:, np.maximum(a, 0)]
        slope = np.zeros((len(of), len(want), turns + dim))
        if dim == 2:
            slope[:, :, 0] = np.where(axis == 0, -between[:, :, 1], between[:, :, 0])
        else:
            # d(w x p) / dw along an axis: the axis' row of -[p]x.
            p, q = (axis + 1) % 3, (axis + 2) % 3
            slope[:, k, p] = np.take_along_axis(between, q[None, :, None], 2)[:, :, 0]
            slope[:, k, q] = -np.take_along_axis(between, p[None, :, None], 2)[:, :, 0]
        slope[:, k, turns + axis] = 1 - tied
        normal = slope.transpose(0, 2, 1) @ slope
        right = slope.transpose(0, 2, 1) @ miss[:, :, None]
        scale = np.einsum("kii->ki", normal)
        lever = normal + np.einsum(
            "ki,ij->kij", damp[:, None] * (scale + 1e-9 * scale.max() + 1e-12), np.eye(turns + dim)
        )
        step = -np.linalg.solve(lever, right)[:, :, 0]
        tried = x @ _turned(step[:, :turns]).transpose(0, 2, 1)
        moved = shift + step[:, turns:]
        miss_there = missed(tried, moved)
        better = np.einsum("km,km->k", miss_there, miss_there) < np.einsum("km,km->k", miss, miss)
        x = np.where(better[:, None, None], tried, x)
        shift = np.where(better[:, None], moved, shift)
        miss = np.where(better[:, None], miss_there, miss)
        damp = np.where(better, np.maximum(damp / 10, 1e-9), np.minimum(damp * 10, 1e6))
    x = x + shift[:, None, :]
    wrong = np.zeros(len(of))
    for s in sides:
        wrong += s.sign * (x[:, s.point, s.axis] - s.of) < 0
    order = np.lexsort((np.einsum("km,km->k", miss, miss), wrong))
    kept: list[Array] = []
    for i in order:
        if all(np.max(np.abs(x[i] - other)) > 1e-3 * size for other in kept):
            kept.append(x[i])
        if len(kept) == 2:
            break
    return kept


def _met(base: Array, far: Array, sigma: Array, here: Array) -> list[Array]:
    """Where the distances of a point to others, some at a time, meet: the places that agree best
    with all of them, other than ``here``. [mm]

    Parameters
    ----------
    base : shape (k, dim)
        The others.
    far, sigma : shape (k,)
        The distances to them and their standard uncertainties.
    here : shape (dim,)
    """
    dim = base.shape[1]
    chosen = list(islice(combinations(range(len(base)), dim), MOST_SETS))
    sets = np.array(chosen)
    first, others = base[sets[:, 0]], base[sets[:, 1:]]
    # Differences of the squared distances are linear in the place: they leave a line, which the
    # first distance cuts twice.
    left = 2.0 * (others - first[:, None])
    square = far[sets] ** 2
    right = (others**2).sum(2) - (first**2).sum(1)[:, None] - square[:, 1:] + square[:, :1]
    foot = (np.linalg.pinv(left) @ (right - (left @ first[:, :, None])[:, :, 0])[:, :, None])[
        :, :, 0
    ]
    if dim == 3:
        along = np.cross(left[:, 0], left[:, 1])
    else:
        along = np.stack([-left[:, 0, 1], left[:, 0, 0]], axis=1)
    size = np.linalg.norm(along, axis=1)
    along = along / np.maximum(size, 1e-12)[:, None]
    high = np.sqrt(np.maximum(square[:, 0] - (foot**2).sum(1), 0.0))[:, None]
    met = np.concatenate([first + foot + high * along, first + foot - high * along])
    miss = (np.linalg.norm(met[:, None] - base, axis=2) - far) / sigma
    cost = pull(miss).sum(axis=1)
    cost[np.concatenate([size, size]) < 1e-9] = np.inf
    found: list[Array] = []
    for i in np.argsort(cost):
        away = [float(np.linalg.norm(met[i] - other)) for other in (here, *found)]
        if np.isfinite(cost[i]) and min(away) > NEAR:
            found.append(met[i])
        if len(found) == MOST_PLACES:
            break
    return found


def _moved_over(x: Array, lines: Lines, free: NDArray[np.bool_]) -> Array:
    """Points that settled on the wrong side of those that they were measured from, put on the
    other: by the plane of their neighbours, or where the distances alone put them. One after the
    other, the worst first, as long as it betters the whole.
    """
    points, dim = x.shape
    movable = free.reshape(points, dim).all(axis=1)

    def pulls(x: Array) -> Array:
        return pull((lines.values(x) - lines.read) / lines.sigma)

    now = pulls(x)
    for _ in range(points):
        by_point = np.zeros(points)
        np.add.at(by_point, lines.b, now)
        np.add.at(by_point, lines.a[lines.a >= 0], now[lines.a >= 0])
        # A reading that is far off is a misreading, or one of its points is misplaced.
        strained = np.zeros(points)
        np.add.at(strained, lines.b, now > MISFIT)
        np.add.at(strained, lines.a[lines.a >= 0], now[lines.a >= 0] > MISFIT)
        by_point[~movable | (strained < 1)] = 0.0
        changed = False
        for p in np.argsort(by_point)[::-1][:MOST_MOVED]:
            if by_point[p] < 4.0 * MISFIT:
                break
            k = np.flatnonzero(lines.is_distance & ((lines.a == p) | (lines.b == p)))
            to = np.where(lines.a[k] == p, lines.b[k], lines.a[k])
            if len(k) < dim:
                continue
            base = x[to]
            middle = base.mean(axis=0)
            normal = np.linalg.svd(base - middle)[2][-1]
            far = lines.read[k] - lines.over(x)[k]
            tries = [x[p] - 2.0 * float((x[p] - middle) @ normal) * normal]
            tries += _met(base, far, lines.sigma[k], x[p])
            if len(k) > dim:
                # All distances together, which are linear in the place by their differences.
                left = 2.0 * (base[1:] - base[0])
                right = np.sum(base[1:] ** 2, 1) - np.sum(base[0] ** 2) - far[1:] ** 2 + far[0] ** 2
                tries.append(np.linalg.lstsq(left, right, rcond=None)[0])
                tries.append(tries[-1] - 2.0 * float((tries[-1] - middle) @ normal) * normal)
            for there in tries:
                other = x.copy()
                other[p] = there
                other = solve(lines, other, free, robust=True, rounds=6)
                found = pulls(other)
                if float(found.sum()) < 0.98 * float(now.sum()):
                    x, now, changed = other, found, True
                    break
            if changed:
                break
        if not changed:
            break
    return x


def _flipped(shape: Array, distances: Sequence[Distance]) -> Iterator[Array]:
    """The shape, and the shapes that its distances allow as well: points that just as many
    distances hold as there are dimensions, on the other side of those that they were measured
    from. A height or a side may decide between them, in another turn of the whole.
    """
    points, dim = shape.shape
    ends: list[list[int]] = [[] for _ in range(points)]
    for r in distances:
        ends[r.b].append(r.a)
        ends[r.a].append(r.b)
    able = [p for p in range(points) if len(ends[p]) == dim and len(set(ends[p])) == dim]
    yield shape
    for count in range(1, min(len(able), MOST_FLIPPED) + 1):
        for chosen in combinations(able[:MOST_FLIPPED], count):
            other = shape.copy()
            for p in chosen:
                base = other[ends[p]]
                normal = np.linalg.svd(base - base.mean(axis=0))[2][-1]
                other[p] -= 2.0 * float((other[p] - base[0]) @ normal) * normal
            yield other


def free_of(points: int, dim: int, fixed: Sequence[Fixed]) -> NDArray[np.bool_]:
    """Which coordinates nothing holds, shape (points dim,)."""
    held = np.zeros((points, dim), bool)
    for f in fixed:
        held[f.point, f.axis] = True
    return ~held.reshape(-1)


def best_places(
    readings: Sequence[Reading],
    points: int,
    dim: int,
    fixed: Sequence[Fixed],
    sides: Sequence[Side],
    start: Array | None,
) -> Array:
    """The places of all points that fit their readings best, from nothing or near ``start``: the
    distances give the shape, what is fixed and the offsets turn it into the frame, sides tell it
    from its mirror image. A point that settled on the wrong side of its neighbours is put over.
    (points x dim) [mm]
    """
    lines = Lines(readings, (points, dim))
    free = free_of(points, dim, fixed)

    def set_in(x: Array) -> Array:
        x = x.copy()
        for f in fixed:
            x[f.point, f.axis] = f.value
        return x

    def cost(x: Array) -> float:
        miss = (lines.values(x) - lines.read) / lines.sigma
        wrong = sum(1 for s in sides if s.sign * float(x[s.point, s.axis] - s.of) < 0)
        return float(np.sum(np.minimum(miss * miss, CAPPED))) + 1e9 * wrong

    if start is not None:
        near = _moved_over(solve(lines, set_in(start), free, robust=True), lines, free)
        return solve(lines, near, free, robust=False)
    found: list[tuple[float, Array]] = []
    # What as many readings cost where they agree, twice over; a few misreadings may be among them,
    # but only once every place that the distances allow was looked at.
    agreed = 2.0 * max(len(readings) - int(free.sum()), 1) + CAPPED
    enough = agreed + (MISREAD - 1) * CAPPED
    rough = _scaled(readings, points, dim)
    size = max(float(np.ptp(rough)), 1.0)
    random = np.random.default_rng(11)
    distances = [r for r in readings if isinstance(r, Distance)]
    for k in range(STARTS):
        first = rough if k == 0 else rough + random.normal(0.0, 0.12 * size, rough.shape)
        own = first
        if len(distances) > dim:
            alone = Lines(distances, (points, dim))
            own = solve(alone, first, np.ones(points * dim, bool), robust=True, rounds=25)
            own = _moved_over(own, alone, np.ones(points * dim, bool))
        for x in (
            x for shape in _flipped(own, distances) for x in _placed(shape, readings, fixed, sides)
        ):
            near = _moved_over(solve(lines, set_in(x), free, robust=True), lines, free)
            found.append((cost(near), near))
            if found[-1][0] < agreed:
                break
        best = min(found, key=lambda f: f[0])
        if best[0] < enough:
            break
    return solve(lines, min(found, key=lambda f: f[0])[1], free, robust=False)
