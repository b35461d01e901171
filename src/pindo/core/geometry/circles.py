"""Circles through points, by geometric least squares, and patterns of circles that a file or a
picture has.
"""

import math
from dataclasses import dataclass

import numpy as np

ROUNDS = 30
FAR = 3.0
"""Residuals, in their usual size, beyond which a point is left out."""


@dataclass(frozen=True, kw_only=True)
class Circle:
    """A circle with the doubt of its middle and its diameter: half-widths of 95 % intervals, in
    the unit of the points.
    """

    x: float
    y: float
    d: float
    pm: float
    d_pm: float


@dataclass(frozen=True, kw_only=True)
class Found:
    """A circle of a file or a picture: where it is, and where it was seen."""

    circle: Circle
    layer: str = ""
    px: tuple[float, float, float] = (0.0, 0.0, 0.0)
    """Middle and diameter in the picture that it was found in. [px]"""


@dataclass(frozen=True, kw_only=True)
class ClosedLine:
    """A closed line of a file or a picture: its corners in turn."""

    points: tuple[tuple[float, float], ...]
    pm: float
    layer: str = ""
    px: tuple[tuple[float, float], ...] = ()
    """The same in the picture. [px]"""


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """Circles and closed lines of a file or a picture, x to the right and y up."""

    circles: tuple[Found, ...]
    lines: tuple[ClosedLine, ...]
    """Closed lines that are no circles, the largest first."""
    unit: str
    """mm; px where nothing gives it a scale; empty where the file does not say its unit."""
    layers: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    """What was left out, and why."""
    size: tuple[int, int] = (0, 0)
    """Of the picture. [px]"""


def fit_circle(points: np.ndarray) -> Circle | None:
    """The circle nearest to points: geometric least squares by Gauss and Newton from an algebraic
    start (Kåsa 1976), points far off left out once; None for fewer than three or points in a line.

    Parameters
    ----------
    points : shape (n, 2)
    """
    for again in range(2):
        if len(points) < 3:
            return None
        middle = points.mean(0)
        spread = np.linalg.svd(points - middle, compute_uv=False)
        if spread[1] < 1e-3 * max(float(spread[0]), 1e-12):
            return None
        at = points - middle
        (a, b, c), *_ = np.linalg.lstsq(
            np.column_stack([2.0 * at, np.ones(len(at))]), (at**2).sum(1), rcond=None
        )
        x = np.array([a, b, math.sqrt(max(c + a * a + b * b, 1e-12))])
        for _ in range(ROUNDS):
            arm = at - x[:2]
            far = np.maximum(np.hypot(arm[:, 0], arm[:, 1]), 1e-12)
            slope = np.column_stack([-arm / far[:, None], -np.ones(len(at))])
            step = np.linalg.lstsq(slope, -(far - x[2]), rcond=None)[0]
            x = x + step
            if float(np.max(np.abs(step))) < 1e-9 * x[2]:
                break
        arm = at - x[:2]
        far = np.hypot(arm[:, 0], arm[:, 1])
        left = far - x[2]
        usual = 1.4826 * float(np.median(np.abs(left - np.median(left))))
        good = np.abs(left) <= FAR * max(usual, 1e-9 * x[2])
        if again == 0 and not good.all() and good.sum() >= max(3, 0.6 * len(points)):
            points = points[good]
            continue
        break
    freedom = len(at) - 3
    sigma = math.sqrt(float(left @ left) / freedom) if freedom > 0 else 0.0
    slope = np.column_stack([-arm / np.maximum(far, 1e-12)[:, None], -np.ones(len(at))])
    covariance = sigma**2 * np.linalg.pinv(slope.T @ slope)
    return Circle(
        x=float(x[0] + middle[0]),
        y=float(x[1] + middle[1]),
        d=2.0 * float(x[2]),
        pm=2.0 * math.sqrt(max(float(np.linalg.eigvalsh(covariance[:2, :2])[-1]), 0.0)),
        d_pm=4.0 * math.sqrt(max(float(covariance[2, 2]), 0.0)),
    )
