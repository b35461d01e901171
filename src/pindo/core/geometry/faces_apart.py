"""Two faces that stand apart: mean gap, tilt and open side from gaps read round them.

g(t) = g0 + a cos t + b sin t by least squares; t clockwise from 12, seen from behind. Tilt across
the faces 2 hypot(a, b), open side atan2(b, a).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

LEAST = 3
"""Places that a plane takes."""
WIDEST_DEG = 200.0
"""Gap between neighbouring places beyond which one side was not read. [deg]"""


@dataclass(frozen=True, kw_only=True)
class Apart:
    """How two faces stand apart. [mm], [deg]"""

    mean: float
    u_mean: float
    across: float
    """Difference of the gap on the two sides, where it is most."""
    u_across: float
    open_at: float
    """Clockwise from 12."""


def faces_apart(at: Sequence[float], gap: Sequence[float], pm: Sequence[float]) -> Apart | None:
    """The plane through some gaps; None while fewer than three places, or only one side, are read.

    Parameters
    ----------
    at
        Places, clockwise from 12. [deg]
    gap, pm
        Gaps and their ±. [mm]
    """
    places = sorted({round(a % 360.0, 1) for a in at})
    if len(places) < LEAST:
        return None
    apart = [(b - a) for a, b in zip(places, [*places[1:], places[0] + 360.0], strict=True)]
    if max(apart) > WIDEST_DEG:
        return None
    turn = np.radians(np.asarray(at, float))
    design = np.column_stack([np.ones(len(turn)), np.cos(turn), np.sin(turn)])
    found, *_ = np.linalg.lstsq(design, np.asarray(gap, float), rcond=None)
    spread = np.linalg.pinv(design) * (np.asarray(pm, float) / 2.0)
    u = np.sqrt((spread**2).sum(1))
    g0, a, b = (float(x) for x in found)
    half = math.hypot(a, b)
    u_half = math.hypot(a * u[1], b * u[2]) / half if half > 1e-12 else float(max(u[1], u[2]))
    return Apart(
        mean=g0,
        u_mean=float(u[0]),
        across=2.0 * half,
        u_across=2.0 * u_half,
        open_at=math.degrees(math.atan2(b, a)) % 360.0,
    )
