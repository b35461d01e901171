"""Least squares from a first guess: Gauss and Newton, damped after Levenberg and Marquardt."""

import numpy as np
from numpy.typing import NDArray
from scipy.linalg.lapack import dposv

from pindo.core.geometry.network.readings import Array, Lines

MOST_ROUNDS = 60
FAR = 3.0
"""Residuals in sigma beyond which a robust solution pulls no harder (Huber)."""


def pull(miss: Array) -> Array:
    """What each reading costs, from its residual in sigma: a square, a line beyond ``FAR``.
    Both of shape (m,).
    """
    far = np.abs(miss)
    return np.asarray(np.where(far <= FAR, far * far, 2.0 * FAR * far - FAR**2))


def solve(
    lines: Lines,
    start: Array,
    free: NDArray[np.bool_],
    robust: bool,
    rounds: int = MOST_ROUNDS,
) -> Array:
    """The places of least weighted squares near ``start``; ``robust`` gives a reading that is far
    off the pull of one that is 3 sigma off (Huber), so that a misreading bends no start. [mm]
    """
    x, damp, still = start.copy(), 1e-3, 1e-9

    def cost_of(v: Array) -> float:
        return float(np.sum(pull(v))) if robust else float(v @ v)

    miss = (lines.read - lines.values(x)) / lines.sigma
    cost = cost_of(miss)
    for _ in range(rounds):
        a = lines.slopes(x)[:, free] / lines.sigma[:, None]
        weight = np.minimum(1.0, FAR / np.maximum(np.abs(miss), 1e-12)) if robust else np.ones(1)
        normal = (a.T * weight) @ a
        right = (a.T * weight) @ miss
        scale = np.diag(normal) + 1e-9 * max(float(np.max(np.diag(normal), initial=0.0)), 1e-12)
        while True:
            lever = normal.copy()
            lever.flat[:: len(lever) + 1] += damp * scale
            _, step, unsolved = dposv(lever, right, lower=1, overwrite_a=1)
            moved = x.reshape(-1).copy()
            moved[free] += step
            tried = moved.reshape(x.shape)
            miss_there = (lines.read - lines.values(tried)) / lines.sigma
            found = np.inf if unsolved else cost_of(miss_there)
            # At the bottom rounding alone decides: no damping betters that.
            if found <= cost + still * max(cost, 1.0) or damp > 1e8:
                break
            damp *= 8.0
        better = cost - found
        x, miss, cost = tried, miss_there, found
        damp = max(damp / 10.0, 1e-12)
        if float(np.max(np.abs(step), initial=0.0)) < 1e-6 or better < still * max(cost, 1.0):
            break
    return x
