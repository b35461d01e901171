"""The axle over its travel: an arc, two links, or a pivot; in side view, from ride height.

Each guide answers how far the axle centre goes forward and how far the axle turns (nose up) at a given rise.
"""

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import numpy as np

Read = Mapping[str, Any]
STEPS = 401  # positions of the lower link tried between its stops; the path is smooth, so a straight line between two is exact to micrometres


def arc(rise_mm: Any, forward_mm: Any, up_mm: Any) -> tuple[Any, Any]:
    """Axle on an arm about a pivot ``forward`` ahead of it and ``up`` above it: forward shift [mm], turn nose up [deg].

    The axle goes round the pivot: forward shift = forward - sqrt(r² - (up - rise)²).
    """
    square = forward_mm**2 + up_mm**2 - (up_mm - rise_mm) ** 2
    ahead = np.sign(forward_mm) * np.sqrt(np.where(square > 0, square, np.nan))
    # The pivot stays: a rising axle in front of which the pivot lies turns its nose down.
    turned = np.degrees(np.arctan2(up_mm - rise_mm, ahead) - np.arctan2(up_mm, forward_mm))
    return forward_mm - ahead, turned


def leaf(rise_mm: Any, read: Read, radius_share: float) -> tuple[Any, Any]:
    """Leaf springs: an arc about the front eye with a share of the front half as radius; the turn is the leaf's."""
    radius = radius_share * read["spring_front_half_mm"]
    up = -read["spring_eye_drop_mm"] * radius_share
    return arc(rise_mm, np.sqrt(np.maximum(radius**2 - up**2, 1e-9)), up)


LINKS = ("lower_link_mm", "lower_link_rise_mm", "upper_link_mm", "upper_link_rise_mm", "link_spread_mm", "link_offset_mm")


def links(rise_mm: Any, read: Read) -> tuple[Any, Any]:
    """Two links in side view (a four-bar): the axle's lower joint is taken as its centre. Shift [mm], turn nose up [deg].

    The coupler is solved by intersecting two circles for each position of the lower link; the rise asked for is
    found between positions. NaN where the links do not reach.
    """
    columns = np.broadcast_arrays(*(np.asarray(read[k], float) for k in LINKS), np.asarray(rise_mm, float))
    found = []
    for *geometry, rise in zip(*(c.ravel().tolist() for c in columns), strict=True):
        z, x, t = _path(tuple(geometry))
        reached = z.size > 0 and z[0] <= rise <= z[-1]
        found.append((np.interp(rise, z, x), np.interp(rise, z, t)) if reached else (np.nan, np.nan))
    shift, turn = np.array(found).T
    return shift.reshape(columns[0].shape), turn.reshape(columns[0].shape)


@lru_cache(maxsize=512)
def _path(geometry: tuple[float, ...]) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Rise, forward shift and turn of the axle along its whole path, in order of the rise."""
    lower, lower_rise, upper, upper_rise, spread, offset = geometry
    # Axle's lower joint at (0, 0) at ride height; x forward, z up; the chassis ends stand ahead.
    a = np.array([np.sqrt(max(lower**2 - lower_rise**2, 0.0)), lower_rise])
    top = np.array([offset, spread])
    b = top + np.array([np.sqrt(max(upper**2 - upper_rise**2, 0.0)), upper_rise])
    angles = np.arctan2(-a[1], -a[0]) + np.linspace(-0.6, 0.6, STEPS)
    p = a + lower * np.stack([np.cos(angles), np.sin(angles)], axis=1)
    gap = b - p
    far = np.maximum(np.hypot(gap[:, 0], gap[:, 1]), 1e-9)
    along = (np.hypot(*top) ** 2 - upper**2 + far**2) / (2.0 * far)
    square = np.hypot(*top) ** 2 - along**2
    side = np.sqrt(np.where(square > 0, square, np.nan))
    unit = gap / far[:, None]
    normal = np.stack([-unit[:, 1], unit[:, 0]], axis=1)
    both = [p + along[:, None] * unit + s * side[:, None] * normal for s in (1.0, -1.0)]
    chosen = min(both, key=lambda q: float(np.nan_to_num(np.hypot(*(q[STEPS // 2] - top)), nan=np.inf)))
    # Forward is towards +x and up is +z: a turn from x to z lifts the nose.
    turn = np.arctan2(chosen[:, 1] - p[:, 1], chosen[:, 0] - p[:, 0]) - np.arctan2(top[1], top[0])
    good = np.isfinite(turn)
    order = np.argsort(p[good, 1])
    return p[good, 1][order], p[good, 0][order], np.degrees(turn[good])[order]


def guide(kind: str, rise_mm: Any, read: Read, radius_share: float) -> tuple[Any, Any]:
    """Forward shift [mm] and turn nose up [deg] of the axle at a rise, for the guide that the build has."""
    if kind == "leaf springs":
        return leaf(rise_mm, read, radius_share)
    if kind == "links":
        return links(rise_mm, read)
    if kind == "pivot":
        return arc(rise_mm, read["pivot_forward_mm"], read["pivot_up_mm"])
    return 0.0 * rise_mm, 0.0 * rise_mm


READS: Mapping[str, tuple[str, ...]] = {
    "leaf springs": ("spring_front_half_mm", "spring_eye_drop_mm"),
    "links": LINKS,
    "pivot": ("pivot_forward_mm", "pivot_up_mm"),
    "fixed": (),
}
