"""Sizes read off a photo: a known length gives its scale, the four corners of a known rectangle put
its plane straight; lengths, angles and circles in that plane follow, each with an honest ±.

A point is picked to about a pixel. A known length says nothing of how far the camera looked from
the side: its ± carries a share for that, which four corners do away with. What lies in front of or
behind the plane is drawn larger or smaller in either case: that cannot be seen in the photo.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from pindo.core.errors import PindoError

Points = Sequence[tuple[float, float]]
PICK_PX = 1.0
"""Standard uncertainty of one picked coordinate. [px] Proposed."""
TILT_SHARE = 0.02
"""Half-width of what a plane that was looked at from the side may be short by: 1 - cos 11.5 deg.
Proposed.
"""
TILT_DEG = 1.2
"""The same for an angle: the most that a right angle changes at such a tilt. [deg] Proposed."""
LEAST_PX = 8.0
LEAST_BEND = 0.02
"""Sine of the least corner that a rectangle may show: a plane seen from its edge says nothing."""


class NotSeen(PindoError, ValueError):
    """The points do not say it; the message says what is wanted."""


@dataclass(frozen=True, kw_only=True)
class Known:
    """What is known in the photo: two points and their distance, or the four corners of a rectangle
    in turn with its width and height. Points in pixels, lengths in mm with their ±.
    """

    points: Points
    width: float
    width_pm: float = 0.0
    height: float = 0.0
    height_pm: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Seen:
    """What was read off: its value and ±, both in mm or deg."""

    value: float
    pm: float
    kind: str


def stated(known: Known) -> Known:
    """What is known, with its ± said: a length is as true as it was measured.

    Raises
    ------
    NotSeen
        A ± is wanting.
    """
    if known.width_pm <= 0.0 or (len(known.points) > 2 and known.height_pm <= 0.0):
        raise NotSeen("Say how true what is known is: its ± in mm.")
    return known


def _straight(corners: np.ndarray, width: float, height: float) -> np.ndarray:
    """The homography from pixels to mm in the plane of a rectangle: shape (3, 3).

    Four point pairs, eight equations (direct linear transformation; Hartley and Zisserman, Multiple
    View Geometry, 4.1).
    """
    flat = np.array([(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)])
    rows = []
    for (x, y), (u, v) in zip(corners, flat, strict=True):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y, -u])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y, -v])
    _, _, vt = np.linalg.svd(np.asarray(rows))
    return np.asarray(vt[8].reshape(3, 3))


def in_plane(known: Known, points: np.ndarray) -> np.ndarray:
    """Points of the photo in the plane of what is known, shape (n, 2). [mm]

    Raises
    ------
    NotSeen
        Neither two points nor four corners, too near to one another, or no size.
    """
    said = np.asarray(known.points, dtype=float)
    if known.width <= 0.0 or (len(said) == 4 and known.height <= 0.0):
        raise NotSeen("The known length has no size: type it in.")
    if len(said) == 2:
        apart = float(np.hypot(*(said[1] - said[0])))
        if apart < LEAST_PX:
            raise NotSeen("The two known points are one: pick the ends of the known length.")
        return np.asarray(points * (known.width / apart))
    if len(said) != 4:
        raise NotSeen("Pick two points of a known distance, or the four corners of a rectangle.")
    sides = np.hypot(*(said - np.roll(said, -1, axis=0)).T)
    if sides.min() < LEAST_PX:
        raise NotSeen("Two of the corners are one: pick the four corners in turn.")
    ahead, back = np.roll(said, -1, axis=0) - said, np.roll(said, 1, axis=0) - said
    bent = np.abs(ahead[:, 0] * back[:, 1] - ahead[:, 1] * back[:, 0])
    if np.any(bent < LEAST_BEND * np.hypot(*ahead.T) * np.hypot(*back.T)):
        raise NotSeen("Three of the corners lie on one line: pick the four corners in turn.")
    h = _straight(said, known.width, known.height)
    homogeneous = np.column_stack([points, np.ones(len(points))]) @ h.T
    if np.any(homogeneous[:, 2] * homogeneous[0, 2] <= 0.0):
        raise NotSeen("The corners cross: pick them in turn, round the rectangle.")
    return np.asarray(homogeneous[:, :2] / homogeneous[:, 2:])


def _length(at: np.ndarray) -> float:
    return float(np.hypot(*(at[1] - at[0])))


def _angle(at: np.ndarray) -> float:
    """Angle at the second of three points. [deg]"""
    a, b = at[0] - at[1], at[2] - at[1]
    return float(np.degrees(np.arctan2(abs(a[0] * b[1] - a[1] * b[0]), a @ b)))


def _circle(at: np.ndarray) -> float:
    """Diameter of the circle nearest to points: least squares in x² + y² = 2ax + 2by + c (Kåsa
    1976), which for points all round is the geometric fit. [mm]
    """
    left = np.column_stack([2.0 * at, np.ones(len(at))])
    (a, b, c), *_ = np.linalg.lstsq(left, (at**2).sum(axis=1), rcond=None)
    return float(2.0 * np.sqrt(max(0.0, c + a * a + b * b)))


_FORMULAS: dict[str, tuple[Callable[[np.ndarray], float], int, str]] = {
    "length": (_length, 2, "length"),
    "angle": (_angle, 3, "angle"),
    "circle": (_circle, 3, "length"),
}
"""What can be read off: its formula, the points that it takes at least, the kind of its number."""


def read_off(known: Known, points: Points, what: str, pick_px: float = PICK_PX) -> Seen:
    """A length between two points, the angle at the second of three, or the diameter of a circle
    through three or more.

    The ± is twice the standard uncertainty of all picked points and of what is known, propagated by
    first derivatives (JCGM 100, 5.1.2); with a length alone the share of a tilted plane is added as
    it is, since it only ever makes things shorter.

    Parameters
    ----------
    known : Known
        What is known in the photo.
    points
        What is read, in pixels.
    what : str
        ``length``, ``angle`` or ``circle``.
    pick_px : float
        Standard uncertainty of a picked coordinate: what a point of the screen is there. [px]

    Raises
    ------
    NotSeen
        Too few points; they lie on one another or, for a circle, on a line.
    """
    if what not in _FORMULAS:
        raise NotSeen(f"There is no {what[:40]} to read: a length, an angle or a circle.")
    formula, least, kind = _FORMULAS[what]
    picked = np.asarray(points, dtype=float).reshape(-1, 2)
    if len(picked) < least:
        raise NotSeen(f"Pick {least} points for the {what}: there are {len(picked)}.")
    if not np.all(np.isfinite(picked)) or not np.all(np.isfinite(np.asarray(known.points))):
        raise NotSeen("A point is no number.")
    if what == "circle":
        spread = np.linalg.svd(picked - picked.mean(axis=0), compute_uv=False)
        if spread[1] < 0.02 * spread[0]:
            raise NotSeen("The points of the circle lie on a line: pick them further round it.")

    def value(x: np.ndarray) -> float:
        n = 2 * len(known.points)
        at = Known(
            points=[(float(a), float(b)) for a, b in x[:n].reshape(-1, 2)],
            width=float(x[-2]),
            height=float(x[-1]),
        )
        return formula(in_plane(at, x[n:-2].reshape(-1, 2)))

    start = np.concatenate(
        [np.asarray(known.points, dtype=float).ravel(), picked.ravel(), [known.width, known.height]]
    )
    u = np.concatenate(
        [
            np.full(len(start) - 2, max(pick_px, PICK_PX)),
            [known.width_pm / 2.0, known.height_pm / 2.0],
        ]
    )
    read = value(start)
    steps = np.where(u > 0.0, u, 0.0)
    squares = 0.0
    for i in np.flatnonzero(steps):
        step = np.zeros(len(start))
        step[i] = steps[i] / 2.0
        squares += (value(start + step) - value(start - step)) ** 2
    pm = 2.0 * float(np.sqrt(squares))
    if len(known.points) == 2:
        pm += TILT_DEG if kind == "angle" else TILT_SHARE * read
    return Seen(value=read, pm=pm, kind=kind)
