"""Hole patterns out of drawings: the circles of a DXF or SVG, with what was left out and why."""

import io
import math
import re
from collections import Counter
from collections.abc import Iterator
from typing import Any
from xml.etree import ElementTree as ET

import numpy as np
import shapely
from ezdxf import recover
from ezdxf.lldxf.const import DXFError

from pindo.core.errors import PindoError
from pindo.core.geometry.circles import Circle, ClosedLine, Found, Pattern, fit_circle

MOST_CIRCLES = 400
MOST_ENTITIES = 200_000
DEEPEST = 4
MOST_LINES = 30
MOST_CORNERS = 390
LINE_OFF = 0.05
"""How far a line may be off for having fewer corners. [mm]"""
ROUND_SHARE = 0.002
"""How far a curve may leave its circle, of its diameter, and still be meant as one."""
DXF_UNITS = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m"}
MM = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8, "px": 25.4 / 96.0}
DRAWN_PM = 0.1
"""± of a drawing: the fourth part of what a hole has in play. [mm]"""


class NoPattern(PindoError, ValueError):
    """The file holds no pattern that can be read; the message says why. Nothing was kept."""


def _circle(x: float, y: float, d: float, off: float, factor: float) -> Circle:
    pm = math.hypot(DRAWN_PM, 2.0 * off * factor)
    return Circle(x=x * factor, y=y * factor, d=d * factor, pm=pm, d_pm=pm)


def _of_points(points: np.ndarray) -> tuple[float, float, float, float] | None:
    """A closed curve that is meant as a circle: middle, diameter, how far it leaves it."""
    fitted = fit_circle(points)
    if fitted is None:
        return None
    far = np.hypot(points[:, 0] - fitted.x, points[:, 1] - fitted.y)
    off = float(np.max(np.abs(far - fitted.d / 2.0)))
    turn = np.sort(np.arctan2(points[:, 1] - fitted.y, points[:, 0] - fitted.x))
    gap = float(np.max(np.diff(np.append(turn, turn[0] + 2.0 * math.pi))))
    if off > ROUND_SHARE * fitted.d or gap > math.pi / 3:
        return None
    return fitted.x, fitted.y, fitted.d, off


def _entities(found: Any, depth: int = 0) -> Iterator[Any]:
    """Entities of a space, those of blocks where they are put."""
    for count, entity in enumerate(found):
        if count > MOST_ENTITIES:
            raise NoPattern(f"The drawing holds more than {MOST_ENTITIES} parts: export the face.")
        if entity.dxftype() == "INSERT" and depth < DEEPEST:
            yield from _entities(entity.virtual_entities(), depth + 1)
        else:
            yield entity


def _along(part: Any) -> Any:
    """Points of a piece of a closed line: of an arc close together, of a line its ends."""
    return part.flattening(0.001) if part.dxftype() == "ARC" else (part.dxf.start, part.dxf.end)


def _dxf_circle(entity: Any) -> tuple[float, float, float, float] | None:
    kind = entity.dxftype()
    if kind == "CIRCLE":
        c = entity.dxf.center
        return float(c.x), float(c.y), 2.0 * float(entity.dxf.radius), 0.0
    if kind == "ELLIPSE" and abs(entity.dxf.ratio - 1.0) <= ROUND_SHARE:
        c, arm = entity.dxf.center, entity.dxf.major_axis
        return float(c.x), float(c.y), 2.0 * float(arm.magnitude), 0.0
    points = _closed(entity)
    return None if points is None or len(points) < 12 else _of_points(points)


def _closed(entity: Any) -> np.ndarray | None:
    """Points of a closed curve, arcs and splines as fine as counts, shape (n, 2)."""
    if entity.dxftype() == "LWPOLYLINE" and entity.closed:
        # Half circles told by their bulge: the points of the arcs, not their chords.
        return np.array(
            [(p.x, p.y) for part in entity.virtual_entities() for p in _along(part)]
        ).reshape(-1, 2)
    if entity.dxftype() == "SPLINE":
        points = [(p.x, p.y) for p in entity.flattening(0.001)]
        if len(points) > 3 and math.dist(points[0], points[-1]) <= 0.01:
            return np.array(points[:-1])
    return None


def simple(points: np.ndarray, off: float) -> np.ndarray | None:
    """A closed line with no more corners than count, none off by more than ``off``; None for one
    that crosses itself or encloses nothing.
    """
    ring = shapely.Polygon(points) if len(points) >= 3 else shapely.Polygon()
    if not ring.is_valid or ring.area <= 0.0:
        return None
    found = shapely.get_coordinates(ring.simplify(off).exterior)[:-1]
    return found if 3 <= len(found) <= MOST_CORNERS else None


LEFT_OUT = {
    "SPLINE": "splines that are no circles",
    "LWPOLYLINE": "lines that are not closed or cross themselves",
    "ARC": "arcs",
    "LINE": "lines",
}


def dxf_pattern(content: bytes, unit: str = "") -> Pattern:
    """The circles of a DXF: circles, and closed curves that are meant as such, in blocks too.

    Parameters
    ----------
    unit
        In place of what the file says of its unit, or says not.

    Raises
    ------
    NoPattern
        It is no DXF, or holds no circle.
    """
    try:
        doc, _ = recover.read(io.BytesIO(content))
    except (OSError, DXFError, ValueError, KeyError, IndexError, AttributeError) as error:
        raise NoPattern("This is no DXF that can be read. Nothing was kept.") from error
    said = unit or DXF_UNITS.get(doc.header.get("$INSUNITS", 0), "")
    factor = MM.get(said, 1.0)
    found: list[Found] = []
    lines: list[ClosedLine] = []
    left = Counter[str]()
    for entity in _entities(doc.modelspace()):
        circle = _dxf_circle(entity)
        curve = _closed(entity) if circle is None else None
        line = None if curve is None else simple(curve * factor, LINE_OFF)
        if line is not None:
            lines.append(_line(line, str(entity.dxf.layer)))
        elif circle is None:
            left[LEFT_OUT.get(entity.dxftype(), "")] += 1
        elif circle is not None and circle[2] > 0.0:
            found.append(Found(circle=_circle(*circle, factor), layer=str(entity.dxf.layer)))
    return _pattern(found, lines, said, left)


def _line(points: np.ndarray, layer: str) -> ClosedLine:
    corners = tuple((float(x), float(y)) for x, y in points)
    return ClosedLine(points=corners, pm=DRAWN_PM, layer=layer)


def _pattern(found: list[Found], lines: list[ClosedLine], unit: str, left: Counter[str]) -> Pattern:
    if not found and not lines:
        raise NoPattern(
            "The drawing holds no circle and no closed line: draw every hole as a circle. Nothing"
            " was kept."
        )
    if len(found) > MOST_CIRCLES:
        raise NoPattern(
            f"The drawing holds {len(found)} circles, at most {MOST_CIRCLES} are read: export the"
            " face alone."
        )
    notes = tuple(f"{count} {what} left out" for what, count in left.items() if what)
    if not all(math.isfinite(v) for f in found for v in (f.circle.x, f.circle.y, f.circle.d)):
        raise NoPattern("A circle of the drawing is no number. Nothing was kept.")
    layers = tuple(sorted(({f.layer for f in found} | {x.layer for x in lines}) - {""}))
    return Pattern(
        circles=tuple(found),
        lines=largest(lines),
        unit="mm" if unit else "",
        layers=layers,
        notes=notes,
    )


def largest(lines: list[ClosedLine]) -> tuple[ClosedLine, ...]:
    """Closed lines, the largest first, no more of them than anybody looks at."""
    by_size = sorted(lines, key=lambda x: -shapely.Polygon(x.points).area)
    return tuple(by_size[:MOST_LINES])


_LENGTH = re.compile(r"^\s*([0-9.eE+-]+)\s*(mm|cm|in|px|pt|)\s*$")
_CALL = re.compile(r"(matrix|translate|scale|rotate)\s*\(([^)]*)\)")


def _matrix(text: str) -> np.ndarray:
    """A transform attribute, shape (3, 3)."""
    whole = np.eye(3)
    for name, inside in _CALL.findall(text):
        v = [float(x) for x in inside.replace(",", " ").split()]
        one = np.eye(3)
        if name == "matrix" and len(v) == 6:
            one[:2] = np.array(v).reshape(3, 2).T
        elif name == "translate" and v:
            one[:2, 2] = v[0], v[1] if len(v) > 1 else 0.0
        elif name == "scale" and v:
            one[0, 0], one[1, 1] = v[0], v[-1]
        elif name == "rotate" and v:
            t = math.radians(v[0])
            one[:2, :2] = [[math.cos(t), -math.sin(t)], [math.sin(t), math.cos(t)]]
            if len(v) == 3:
                to, back = np.eye(3), np.eye(3)
                to[:2, 2], back[:2, 2] = v[1:], [-v[1], -v[2]]
                one = to @ one @ back
        whole = whole @ one
    return whole


def _svg_scale(root: ET.Element, unit: str) -> tuple[float, str]:
    """Millimetres of one user unit, and what says so; one where nothing does."""
    if unit:
        return MM[unit], unit
    box = [float(x) for x in (root.get("viewBox") or "").replace(",", " ").split()]
    read = _LENGTH.match(root.get("width") or "")
    if read and read[2] in MM and read[2] != "px":
        size = float(read[1]) * MM[read[2]]
        wide = box[2] if len(box) == 4 else float(read[1])
        return (size / wide if wide else 1.0), read[2]
    return 1.0, ""


def svg_pattern(content: bytes, unit: str = "") -> Pattern:
    """The circles of an SVG, moved and turned as its groups say; y is turned up.

    Parameters
    ----------
    unit
        What one user unit is, in place of what the size of the page says.

    Raises
    ------
    NoPattern
        It is no SVG, or holds no circle.
    """
    try:
        root = ET.fromstring(content)
        if not root.tag.endswith("svg"):
            raise NoPattern("This is no SVG. Nothing was kept.")
        factor, said = _svg_scale(root, unit)
        found: list[Found] = []
        left = Counter[str]()
        lines: list[ClosedLine] = []
        _walk(root, np.eye(3), "", factor, found, lines, left)
    except (ET.ParseError, ValueError, OverflowError, IndexError) as error:
        if isinstance(error, NoPattern):
            raise
        raise NoPattern("This is no SVG that can be read. Nothing was kept.") from error
    return _pattern(found, lines, said, left)


def _walk(
    node: ET.Element,
    matrix: np.ndarray,
    layer: str,
    factor: float,
    found: list[Found],
    lines: list[ClosedLine],
    left: Counter[str],
) -> None:
    kind = node.tag.rsplit("}", 1)[-1]
    if kind in ("defs", "symbol", "clipPath", "mask", "pattern"):
        return
    matrix = matrix @ _matrix(node.get("transform") or "")
    if kind == "g":
        layer = node.get("id") or layer
    if kind in ("circle", "ellipse"):
        rx = float(node.get("r") or node.get("rx") or 0.0)
        ry = float(node.get("r") or node.get("ry") or 0.0)
        x, y, _ = matrix @ np.array(
            [float(node.get("cx") or 0.0), float(node.get("cy") or 0.0), 1.0]
        )
        # The axes of the circle as it is drawn: what a group stretches is no circle.
        long, short = np.linalg.svd(matrix[:2, :2] @ np.diag([rx, ry]), compute_uv=False)
        if long > 0.0 and long - short <= ROUND_SHARE * 2.0 * long:
            d = float(long + short)
            found.append(Found(circle=_circle(float(x), -float(y), d, 0.0, factor), layer=layer))
        else:
            left["ellipses"] += 1
    elif (line := _svg_line(node, kind, matrix, factor)) is not None:
        lines.append(_line(line, layer))
    elif kind in ("path", "rect", "polygon", "polyline", "line"):
        left[f"{kind}s"] += 1
    for child in node:
        _walk(child, matrix, layer, factor, found, lines, left)


def _svg_line(node: ET.Element, kind: str, matrix: np.ndarray, factor: float) -> np.ndarray | None:
    """A closed line of straight pieces: a polygon or a rectangle, y turned up. [mm]"""
    if kind == "polygon":
        numbers = [float(v) for v in (node.get("points") or "").replace(",", " ").split()]
        corners = np.array(numbers[: len(numbers) // 2 * 2]).reshape(-1, 2)
    elif kind == "rect" and not (node.get("rx") or node.get("ry")):
        x, y, w, h = (float(node.get(k) or 0.0) for k in ("x", "y", "width", "height"))
        corners = np.array([(x, y), (x + w, y), (x + w, y + h), (x, y + h)])
    else:
        return None
    there = (matrix @ np.column_stack([corners, np.ones(len(corners))]).T)[:2].T
    return simple(there * np.array([factor, -factor]), LINE_OFF)


def drawing_pattern(content: bytes, unit: str = "") -> Pattern:
    """The circles of a DXF or SVG, whichever the file is.

    Raises
    ------
    NoPattern
        It is neither, or holds no circle.
    """
    head = content[:2000].lstrip()
    if head.startswith(b"<") and b"svg" in content[:4000]:
        return svg_pattern(content, unit)
    return dxf_pattern(content, unit)
