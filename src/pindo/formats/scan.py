"""Holes out of a picture: a scan or photo of a gasket, a rubbing or a face. Their edges are
followed to a fraction of a pixel, put straight by what is known in the picture, and circles laid
through.
"""

import io
import math

import cv2
import numpy as np
from PIL import Image

from pindo.core.geometry.circles import Circle, ClosedLine, Found, Pattern, fit_circle
from pindo.core.geometry.photo import PICK_PX, TILT_SHARE, Known, NotSeen, in_plane
from pindo.formats.pattern_in import NoPattern, largest, simple
from pindo.formats.pictures import cleaned

LEAST_PX = 8.0
"""Smallest hole that is looked for, across."""
WIDEST = 0.3
"""Largest, of the shorter side of the picture."""
LEAST_ROUND = 0.72
"""4 pi area over the square of the rim: 1 for a circle; a circle seen aslant has less."""
LEAST_ASPECT = 0.5
RAYS = 90
REACH = 5.0
"""How far the edge is looked for on both sides of the rim. [px]"""
STEP = 0.25
LEAST_EDGES = 0.6
LEAST_CONTRAST = 18.0
"""Of 256 greys, between inside and outside: less is grain."""
EDGE_PX = 0.3
"""± of a middle that shadow, burr and lens leave at least, however well the edges fit. [px]
Proposed.
"""
LEAST_BLOT = 0.01
"""Least share of the picture that an outline encloses."""
SAME = 0.35
"""Circles whose middles are nearer than this share of their diameter are one."""


def _grey(content: bytes) -> np.ndarray:
    with Image.open(io.BytesIO(content)) as picture:
        return np.asarray(picture.convert("L"))


def _rims(grey: np.ndarray) -> list[np.ndarray]:
    """Rims of round blots, dark or light, as contours; each shape (n, 2) [px]."""
    soft = cv2.GaussianBlur(grey, (5, 5), 0)
    block = max(31, (min(grey.shape) // 12) | 1)
    masks = [
        cv2.threshold(soft, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)[1],
        cv2.adaptiveThreshold(soft, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY, block, 4),
    ]
    found = []
    widest = WIDEST * min(grey.shape)
    for mask in masks:
        contours, _ = cv2.findContours(mask, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for contour in contours:
            if len(contour) < math.pi * LEAST_PX * 0.7:
                continue
            area, around = cv2.contourArea(contour), cv2.arcLength(contour, True)
            if around <= 0.0 or 4.0 * math.pi * area / around**2 < LEAST_ROUND:
                continue
            (_, sides, _) = cv2.minAreaRect(contour)
            if min(sides) < LEAST_PX or max(sides) > widest:
                continue
            if min(sides) / max(sides) >= LEAST_ASPECT:
                found.append(contour[:, 0].astype(float))
    return found


def _edges(grey: np.ndarray, rim: np.ndarray) -> np.ndarray | None:
    """Points of a rim to a fraction of a pixel: along rays from its middle, where grey changes
    most; None where too few rays meet an edge. Shape (n, 2). [px]
    """
    ellipse = cv2.fitEllipse(rim.astype(np.float32)) if len(rim) >= 5 else None
    if ellipse is None:
        return None
    (cx, cy), (a, b), turn = ellipse
    t = np.linspace(0.0, 2.0 * math.pi, RAYS, endpoint=False)
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    x, y = a / 2.0 * np.cos(t), b / 2.0 * np.sin(t)
    on = np.stack([cx + c * x - s * y, cy + s * x + c * y], 1)
    # Outwards, square to the ellipse.
    u, v = np.cos(t) / max(a, 1e-9), np.sin(t) / max(b, 1e-9)
    normal = np.stack([c * u - s * v, s * u + c * v], 1)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    reach = min(REACH, 0.3 * min(a, b))
    steps = np.arange(-reach, reach + STEP / 2, STEP)
    at = (on[:, None] + normal[:, None] * steps[None, :, None]).astype(np.float32)
    values = cv2.remap(
        grey.astype(np.float32),
        at[..., 0],
        at[..., 1],
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    values = cv2.GaussianBlur(values, (5, 1), 0)
    change = np.gradient(values, axis=1)
    # An edge of a hole goes one way all round: dark inside, or light.
    contrast = float(np.median(values[:, -1] - values[:, 0]))
    if abs(contrast) < LEAST_CONTRAST:
        return None
    sign = 1.0 if contrast > 0.0 else -1.0
    rise = np.maximum(sign * change, 0.0)
    peak = rise.argmax(1)
    height = rise[np.arange(RAYS), peak]
    inner = (peak > 0) & (peak < len(steps) - 1)
    strong = inner & (height > 0.35 * float(np.median(height))) & (height > 0.5)
    if strong.sum() < LEAST_EDGES * RAYS:
        return None
    k = np.flatnonzero(strong)
    # The middle of the change about its peak.
    window = np.arange(-4, 5)
    index = np.clip(peak[k, None] + window, 0, len(steps) - 1)
    weight = rise[k[:, None], index]
    offset = (weight * steps[index]).sum(1) / np.maximum(weight.sum(1), 1e-9)
    return np.asarray(on[k] + normal[k] * offset[:, None])


def _lines(grey: np.ndarray, known: Known | None) -> tuple[ClosedLine, ...]:
    """Rims of large blots, dark or light, put straight: what a part looks like on paper. Without
    anything known they would have no size.
    """
    if known is None:
        return ()
    soft = cv2.GaussianBlur(grey, (5, 5), 0)
    level, mask = cv2.threshold(soft, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    dark, light = soft[soft <= level], soft[soft > level]
    if not dark.size or not light.size or float(light.mean() - dark.mean()) < LEAST_CONTRAST:
        return ()
    found = []
    for which in (mask, 255 - mask):
        contours, _ = cv2.findContours(which, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
        for contour in contours:
            rim = contour[:, 0].astype(float)
            edge = (rim.min() <= 1) or bool((rim.max(0) >= np.array(grey.shape[::-1]) - 2).any())
            if edge or cv2.contourArea(contour) < LEAST_BLOT * grey.size:
                continue
            try:
                flat = _plane(known, rim)
            except NotSeen:
                continue
            scale = float(np.ptp(flat, axis=0).max() / max(np.ptp(rim, axis=0).max(), 1.0))
            line = simple(flat, 0.7 * scale)
            if line is None:
                continue
            near = np.hypot(*(flat[None] - line[:, None]).transpose(2, 0, 1)).argmin(1)
            middle = fit_circle(flat)
            doubt = 0.0 if middle is None else _rectified(known, rim, middle)[0]
            found.append(
                ClosedLine(
                    points=tuple((float(x), float(y)) for x, y in line),
                    pm=math.hypot(1.5 * scale, doubt),
                    px=tuple((float(x), float(y)) for x, y in rim[near]),
                )
            )
    return largest(found)


def _plane(known: Known | None, points: np.ndarray) -> np.ndarray:
    """Points of the picture in the plane of what is known, y up, shape (n, 2). [mm], or [px]"""
    flat = points if known is None else in_plane(known, points)
    # Pixels count downwards; so does a rectangle whose corners were picked clockwise.
    down = known is None or len(known.points) < 4 or _clockwise(np.asarray(known.points, float))
    return np.asarray(flat * np.array([1.0, -1.0 if down else 1.0]))


def _clockwise(corners: np.ndarray) -> bool:
    """Whether corners go round clockwise as the picture is looked at, shape (n, 2). [px]"""
    x, y = corners.T
    return bool(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y) > 0.0)


def _rectified(known: Known | None, edges: np.ndarray, circle: Circle) -> tuple[float, float]:
    """± of middle and diameter that come from picking what is known, and from its own ±. [mm]"""
    if known is None:
        return EDGE_PX, EDGE_PX
    corners = np.asarray(known.points, float)
    square = np.zeros(2)

    def moved(other: Known) -> np.ndarray:
        fitted = fit_circle(_plane(other, edges))
        if fitted is None:
            return np.zeros(2)
        off = math.hypot(fitted.x - circle.x, fitted.y - circle.y)
        return np.array([off, fitted.d - circle.d])

    for k in range(corners.size):
        picked = corners.copy().reshape(-1)
        picked[k] += PICK_PX
        points = [(float(a), float(b)) for a, b in picked.reshape(-1, 2)]
        square += moved(_as(known, points=points)) ** 2
    if known.width_pm:
        square += moved(_as(known, width=known.width + known.width_pm / 2.0)) ** 2
    if known.height_pm and known.height:
        square += moved(_as(known, height=known.height + known.height_pm / 2.0)) ** 2
    middle, wide = 2.0 * np.sqrt(square)
    if len(corners) == 2:
        # Looked at aslant, by how much nobody knows.
        far = math.hypot(circle.x, circle.y)
        middle, wide = middle + TILT_SHARE * far, wide + TILT_SHARE * circle.d
    scale = circle.d / max(_across(edges), 1e-9)
    return math.hypot(float(middle), EDGE_PX * scale), math.hypot(float(wide), EDGE_PX * scale)


def _as(known: Known, **change: object) -> Known:
    fields = {
        "points": known.points,
        "width": known.width,
        "width_pm": known.width_pm,
        "height": known.height,
        "height_pm": known.height_pm,
    }
    return Known(**(fields | change))  # type: ignore[arg-type]


def _across(edges: np.ndarray) -> float:
    return float(np.mean(np.ptp(edges, axis=0)))


def picture_pattern(content: bytes, known: Known | None = None) -> Pattern:
    """The round holes of a picture, put straight by what is known in it.

    Parameters
    ----------
    known
        Two points and their distance, or the four corners of a rectangle with its sides, in pixels
        of the picture as it is kept (upright, its longer side 4000 at most). Without it the
        pattern is in pixels and has a scale of its own.

    Raises
    ------
    NoPattern
        No round hole was found.
    NotAPicture
        It is no picture, or too large.
    NotSeen
        What is known makes no plane.
    """
    _, kept = cleaned(content)
    grey = _grey(kept)
    if known is not None:
        in_plane(known, np.asarray(known.points, float))
    found: list[Found] = []
    for rim in _rims(grey):
        edges = _edges(grey, rim)
        if edges is None:
            continue
        try:
            circle = fit_circle(_plane(known, edges))
        except NotSeen:
            continue  # It lies beyond the horizon of what is known.
        if circle is None or circle.d <= 0.0 or circle.d_pm > 0.2 * circle.d:
            continue
        middle, wide = _rectified(known, edges, circle)
        x, y = edges.mean(0)
        found.append(
            Found(
                circle=Circle(
                    x=circle.x,
                    y=circle.y,
                    d=circle.d,
                    pm=math.hypot(circle.pm, middle),
                    d_pm=math.hypot(circle.d_pm, wide),
                ),
                px=(float(x), float(y), _across(edges)),
            )
        )
    kept_ones: list[Found] = []
    for f in sorted(found, key=lambda f: f.circle.pm):
        apart = (
            math.hypot(f.px[0] - o.px[0], f.px[1] - o.px[1]) > SAME * max(f.px[2], o.px[2])
            for o in kept_ones
        )
        if all(apart):
            kept_ones.append(f)
    lines = _lines(grey, known)
    if not kept_ones and not lines:
        raise NoPattern(
            "No round hole was found in the picture: take it square on, with even light, holes"
            " darker or lighter than what is round them."
        )
    tall, wide_px = grey.shape
    return Pattern(
        lines=lines,
        circles=tuple(sorted(kept_ones, key=lambda f: (round(f.px[1] / 40.0), f.px[0]))),
        unit="px" if known is None else "mm",
        size=(int(wide_px), int(tall)),
    )
