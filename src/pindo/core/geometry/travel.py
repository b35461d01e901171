"""The axle and the wheel over their travel: an arc, two links, a pivot, a strut; from ride height.

Fore and aft, in side view: each guide answers how far the axle's centre goes forward and how far
the axle turns (nose up) at a given rise. Sideways, seen from behind: how far the drive joint in the
hub goes inboard.
"""

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from pindo.core.numbers import Numbers

Read = Mapping[str, Numbers]
# Positions of the lower link tried between its stops; the path is smooth, so a straight line
# between two is exact to micrometres.
STEPS = 401


def arc(rise_mm: Numbers, forward_mm: Numbers, up_mm: Numbers) -> tuple[Numbers, Numbers]:
    """Axle on an arm about a pivot ``forward`` ahead of it and ``up`` above it: forward shift [mm],
    turn nose up [deg].

    The axle goes round the pivot: forward shift = forward - sqrt(r² - (up - rise)²).
    """
    square = forward_mm**2 + up_mm**2 - (up_mm - rise_mm) ** 2
    ahead = np.sign(forward_mm) * np.sqrt(np.where(square > 0, square, np.nan))
    # The pivot stays: a rising axle in front of which the pivot lies turns its nose down.
    turned = np.degrees(np.arctan2(up_mm - rise_mm, ahead) - np.arctan2(up_mm, forward_mm))
    return forward_mm - ahead, turned


def leaf(rise_mm: Numbers, read: Read, radius_share: float) -> tuple[Numbers, Numbers]:
    """Leaf springs: an arc about the front eye with a share of the front half as radius; the
    turn is the leaf's. [mm, deg]
    """
    radius = radius_share * read["spring_front_half_mm"]
    up = -read["spring_eye_drop_mm"] * radius_share
    return arc(rise_mm, np.sqrt(np.maximum(radius**2 - up**2, 1e-9)), up)


LINKS = (
    "lower_link_mm",
    "lower_link_rise_mm",
    "upper_link_mm",
    "upper_link_rise_mm",
    "link_spread_mm",
    "link_offset_mm",
    "lower_link_ahead_mm",
    "lower_link_below_mm",
)
WISHBONES = (
    "arm_mm",
    "arm_rise_mm",
    "upper_arm_mm",
    "upper_arm_rise_mm",
    "knuckle_spread_mm",
    "knuckle_offset_mm",
    "arm_inside_mm",
    "arm_below_mm",
)


def links(rise_mm: Numbers, read: Read, names: tuple[str, ...] = LINKS) -> tuple[Numbers, Numbers]:
    """Two links (a four-bar) that carry a point of their coupler: the axle's centre, or the drive
    joint of a hub. Shift [mm], turn [deg].

    The coupler is solved by intersecting two circles for each position of the lower link; the rise
    asked for is found between positions. NaN where the links do not reach.
    """
    columns = np.broadcast_arrays(
        *(np.asarray(read[k], float) for k in names), np.asarray(rise_mm, float)
    )
    found = []
    for *geometry, rise in zip(*(c.ravel().tolist() for c in columns), strict=True):
        z, x, t = _path(tuple(geometry))
        reached = z.size > 0 and z[0] <= rise <= z[-1]
        found.append(
            (np.interp(rise, z, x), np.interp(rise, z, t)) if reached else (np.nan, np.nan)
        )
    shift, turn = np.array(found).T
    return shift.reshape(columns[0].shape), turn.reshape(columns[0].shape)


@lru_cache(maxsize=512)
def _path(geometry: tuple[float, ...]) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Rise, forward shift and turn of the axle along its whole path, in order of the rise."""
    lower, lower_rise, upper, upper_rise, spread, offset, joint_ahead, joint_below = geometry
    # Lower joint at (0, 0) at ride height; x towards the chassis ends, z up.
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
    chosen = min(
        both, key=lambda q: float(np.nan_to_num(np.hypot(*(q[STEPS // 2] - top)), nan=np.inf))
    )
    # Forward is towards +x and up is +z: a turn from x to z lifts the nose.
    turn = np.arctan2(chosen[:, 1] - p[:, 1], chosen[:, 0] - p[:, 0]) - np.arctan2(top[1], top[0])
    # The point that is asked for rides on the coupler, behind and above its lower joint.
    c, s = np.cos(turn), np.sin(turn)
    carried = (
        p
        + np.stack([-joint_ahead * c - joint_below * s, -joint_ahead * s + joint_below * c], axis=1)
        - np.array([-joint_ahead, joint_below])
    )
    good = np.isfinite(turn)
    order = np.argsort(carried[good, 1])
    return carried[good, 1][order], carried[good, 0][order], np.degrees(turn[good])[order]


def guide(kind: str, rise_mm: Numbers, read: Read, radius_share: float) -> tuple[Numbers, Numbers]:
    """Forward shift [mm] and turn nose up [deg] of the axle at a rise, for the guide that the
    build has.
    """
    if kind == "leaf springs":
        return leaf(rise_mm, read, radius_share)
    if kind == "links":
        return links(rise_mm, read)
    if kind == "pivot":
        return arc(rise_mm, read["pivot_forward_mm"], read["pivot_up_mm"])
    return 0.0 * rise_mm, 0.0 * rise_mm


def strut(rise_mm: Numbers, read: Read) -> Numbers:
    """Inboard shift of the drive joint on a lower arm and a strut, which is fixed to the knuckle
    and slides to its top. [mm]

    The arm's joint goes round its pivot; the knuckle turns so that the strut keeps pointing at its
    top.
    """
    inside, below = read["arm_inside_mm"], read["arm_below_mm"]
    top = np.stack(np.broadcast_arrays(read["strut_inside_mm"], read["strut_up_mm"]))

    def joint(swing: Numbers) -> tuple[Numbers, Numbers]:
        """Shift and rise of the drive joint for a rise of the arm's joint."""
        shift, _ = arc(
            swing,
            np.sqrt(np.maximum(read["arm_mm"] ** 2 - read["arm_rise_mm"] ** 2, 1e-9)),
            read["arm_rise_mm"],
        )
        turn = np.arctan2(top[0] - shift, top[1] - swing) - np.arctan2(top[0], top[1])
        c, s = np.cos(turn), np.sin(turn)
        # From the arm's joint the drive joint lies outboard and above: (-inside, below), turned
        # towards the chassis.
        x, z = -inside * c + below * s, inside * s + below * c
        return shift + x + inside, swing + z - below

    swing = rise_mm + 0.0 * inside
    for _ in range(12):  # the drive joint rises nearly as the arm's joint does
        swing = swing + rise_mm - joint(swing)[1]
    return joint(swing)[0]


def sideways(kind: str, rise_mm: Numbers, read: Read) -> Numbers:
    """Inboard shift of the drive joint in the hub at a rise of the wheel, seen from behind. [mm]"""
    if kind == "wishbones":
        return links(rise_mm, read, WISHBONES)[0]
    if kind == "strut":
        return strut(rise_mm, read)
    if kind == "swing arm":
        return arc(rise_mm, read["swing_inside_mm"], read["swing_rise_mm"])[0]
    return 0.0 * rise_mm


SIDE_READS: Mapping[str, tuple[str, ...]] = {
    "wishbones": WISHBONES,
    "strut": (
        "arm_mm",
        "arm_rise_mm",
        "arm_inside_mm",
        "arm_below_mm",
        "strut_up_mm",
        "strut_inside_mm",
    ),
    "swing arm": ("swing_inside_mm", "swing_rise_mm"),
    "rigid axle": (),
}
READS: Mapping[str, tuple[str, ...]] = {
    "leaf springs": ("spring_front_half_mm", "spring_eye_drop_mm"),
    "links": LINKS,
    "pivot": ("pivot_forward_mm", "pivot_up_mm"),
    "fixed": (),
}
