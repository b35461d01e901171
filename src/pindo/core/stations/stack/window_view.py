"""The window drawn: plate thickness to the right, crank spacer upwards, where it stands."""

import math
from textwrap import wrap

import numpy as np

from pindo.core.drawing.shapes import Drawing, Handle, Note, Round, Shape
from pindo.core.geometry.window import Polygon
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.stations.stack.pieces import CHOSEN
from pindo.core.stations.stack.thicknesses import Candidate
from pindo.core.stations.stack.window_of import PLATE, SPACER, Window, bounds_of

LEAST = 6.0
"""Smallest stretch that is drawn. [mm]"""
ROUND = 0.25
"""Room left round it, as a share. [-]"""
SHAPE = 0.7
"""Shorter side of the picture over the longer one, at least: a flat strip cannot be read. [-]"""
MOST_SHOWN = 12
PANE = (440.0, 245.0)
"""What a screen of ordinary width has for the picture and its names. [px]"""
LETTER, LINE, GAP = 7.4, 18.0, 16.0
"""Of the names: width of a letter, from one line to the next, from the picture. [px]"""
LETTERS = 25
"""Most letters of a line of a name."""

Led = dict[str, list[tuple[float, float]]]
"""Names of edges, each with the places that it leads to. [mm]"""


def _extents(found: Window, here: tuple[float, float] | None) -> tuple[float, ...]:
    points = [
        *found.polygon.corners.tolist(),
        *([] if found.free.empty else found.free.corners.tolist()),
        *([here] if here else []),
    ]
    top = (bounds_of(PLATE).high, bounds_of(SPACER).high)
    if not points:
        points = [(0.0, 0.0), (min(top[0], 40.0), min(top[1], 20.0))]
    at = np.array(points, float)
    low, high = at.min(0), at.max(0)
    wide = np.maximum(high - low, LEAST) * (1.0 + 2.0 * ROUND)
    wide = np.maximum(wide, SHAPE * wide.max())
    # Below nothing there is no thickness: what the shape adds goes to where some can be.
    low = np.maximum((low + high - wide) / 2.0, np.minimum(low - ROUND * LEAST, 0.0))
    return float(low[0]), float(low[0] + wide[0]), float(low[1]), float(low[1] + wide[1])


def _line(a: float, b: float, c: float, box: tuple[float, ...]) -> tuple[tuple[float, float], ...]:
    """The stretch of a x + b y + c = 0 inside a box; empty where it passes beside it."""
    x1, x2, y1, y2 = box
    ends = []
    if abs(b) > 1e-9:
        ends += [(x, -(a * x + c) / b) for x in (x1, x2)]
    if abs(a) > 1e-9:
        ends += [(-(b * y + c) / a, y) for y in (y1, y2)]
    inside = [
        (x, y) for x, y in ends if x1 - 1e-6 <= x <= x2 + 1e-6 and y1 - 1e-6 <= y <= y2 + 1e-6
    ]
    if len(inside) < 2:
        return ()
    return inside[0], max(inside, key=lambda p: abs(p[0] - inside[0][0]) + abs(p[1] - inside[0][1]))


def _edge(found: Window, i: int, box: tuple[float, ...]) -> list[Shape]:
    """A half-plane's line with strokes on the side that does not go."""
    (a, b), c = found.slope[i].tolist(), float(found.room[i])
    ends = _line(a, b, c, box)
    if not ends:
        return []
    title = found.edges[i].title
    (xa, ya), (xb, yb) = sorted(ends)
    length, size = math.hypot(xb - xa, yb - ya), math.hypot(a, b)
    off = max(box[1] - box[0], box[3] - box[2]) / 40.0
    ux, uy = -a / size * off, -b / size * off
    shapes = [Shape(part=title, points=ends, style="thin", closed=False)]
    for k in range(1, max(int(length / off), 2)):
        x, y = xa + (xb - xa) * k * off / length, ya + (yb - ya) * k * off / length
        stroke = ((x, y), (x + 0.6 * ux, y + 0.6 * uy))
        shapes.append(Shape(part=title, points=stroke, style="thin", closed=False))
    return shapes


def _anchors(found: Window, box: tuple[float, ...]) -> Led:
    """Where each name leads: the middles of its edges, or of its lines where they conflict."""
    led: Led = {}
    corners, edges = found.polygon.corners, found.polygon.edges
    for k, i in enumerate(edges):
        if i >= 0:
            at = (corners[k] + corners[(k + 1) % len(corners)]) / 2.0
            led.setdefault(found.edges[i].title, []).append((float(at[0]), float(at[1])))
    for i in found.closed_by if not edges else ():
        (a, b), c = found.slope[i].tolist(), float(found.room[i])
        if ends := _line(a, b, c, box):
            at = np.mean(ends, 0)
            led.setdefault(found.edges[i].title, []).append((float(at[0]), float(at[1])))
    return led


def _lines(name: str) -> list[str]:
    """A name in lines that leave room for the picture."""
    return wrap(name, LETTERS)


def _scale(led: Led, box: tuple[float, ...]) -> tuple[float, float]:
    """How large the picture comes out beside its names [px/mm], and the width of those [px]."""
    x1, x2, y1, y2 = box
    words = max((LETTER * len(line) + GAP for name in led for line in _lines(name)), default=0.0)
    return min(PANE[1] / (y2 - y1), (PANE[0] - words) / (x2 - x1)), words


def named(led: Led, box: tuple[float, ...], scale: float) -> tuple[list[Shape], list[Note]]:
    """Names of the edges in a column beside the picture, by the heights of what they lead to."""
    _, x2, y1, _ = box
    column, line = x2 + GAP / scale, LINE / scale
    order = sorted(led, key=lambda name: -max(y for _, y in led[name]))
    told = [_lines(name) for name in order]
    tops: list[float] = []
    below = math.inf
    for name, lines in zip(order, told, strict=True):
        tops.append(min(max(y for _, y in led[name]), below))
        below = tops[-1] - len(lines) * line
    floor = y1
    for k in reversed(range(len(order))):
        tops[k] = max(tops[k], floor + (len(told[k]) - 1) * line)
        floor = tops[k] + line
    shapes = [
        Shape(
            part=name,
            points=(at, (column - GAP / 4.0 / scale, y + line / 4.0)),
            style="leader",
            closed=False,
        )
        for name, y in zip(order, tops, strict=True)
        for at in led[name]
    ]
    notes = [
        Note(text=text, x=column, y=y - k * line)
        for lines, y in zip(told, tops, strict=True)
        for k, text in enumerate(lines)
    ]
    return shapes, notes


def _axes(box: tuple[float, ...], scale: float) -> tuple[list[Shape], list[Note]]:
    """Round figures of both sizes, with fine lines; what they are stands outside of them."""
    x1, x2, y1, y2 = box
    rough = max(x2 - x1, y2 - y1) / 6.0
    step = next(s for s in (0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0) if s >= min(rough, 100.0))
    shapes: list[Shape] = []
    notes: list[Note] = []
    for low, high, upright in ((x1, x2, True), (y1, y2, False)):
        for k in range(math.ceil(low / step), math.floor(high / step) + 1):
            v = k * step
            ends = ((v, y1), (v, y2)) if upright else ((x1, v), (x2, v))
            shapes.append(Shape(part="grid", points=ends, style="grid", closed=False))
            x, y = (v, y1 - LINE / scale) if upright else (x1, v)
            notes.append(Note(text=f"{v:g}", x=x, y=y))
    notes.append(Note(text="plate, mm", x=x1, y=y1 - 2.0 * LINE / scale))
    notes.append(Note(text="crank spacer, mm", x=x1, y=y2 + LINE / scale))
    return shapes, notes


def _ring(of: Polygon) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in of.corners)


def bounding(found: Window) -> list[int]:
    """The half-planes that make the window's edges; those that conflict where there is none."""
    if found.polygon.empty:
        return list(found.closed_by)
    return [i for i in dict.fromkeys(found.polygon.edges) if i >= 0]


def picture(inputs: Inputs, found: Window, stock: list[Candidate]) -> Drawing:
    """The window to scale, the lines that bound it with their names, thicknesses that can be had
    as dots, the place where it stands to be dragged.
    """
    plate, spacer = (inputs.value(a) for a in CHOSEN[:2])
    here = None if plate is None or spacer is None else (plate, spacer)
    box = _extents(found, here)
    x1, x2, y1, y2 = box
    span = max(x2 - x1, y2 - y1)
    led = _anchors(found, box)
    scale, words = _scale(led, box)
    shapes, notes = _axes(box, scale)
    if not found.free.empty:
        shapes.append(
            Shape(part="window with another shim", points=_ring(found.free), style="hidden")
        )
    if not found.polygon.empty:
        shapes.append(Shape(part="window", points=_ring(found.polygon), style="body"))
    for i in bounding(found):
        shapes += _edge(found, i, box)
    leaders, names = named(led, box, scale)
    shapes += leaders
    notes += names
    dots = [
        Round(
            part=f"{c.blank.called}, {c.ring.called}",
            x=c.plate,
            y=c.ring.thick,
            d=span / 60.0,
            style="hole" if c.goes else "land",
        )
        for c in stock[:MOST_SHOWN]
        if x1 <= c.plate <= x2 and y1 <= c.ring.thick <= y2
    ]
    if found.middle is not None:
        dots.append(
            Round(
                part="middle",
                x=float(found.middle.at[0]),
                y=float(found.middle.at[1]),
                d=span / 30.0,
                style="joint",
                label="middle",
            )
        )
    handles: tuple[Handle, ...] = ()
    if here is not None:
        limits, other = bounds_of(PLATE), bounds_of(SPACER)
        dots.append(Round(part="as it stands", x=here[0], y=here[1], d=span / 60.0, style="joint"))
        handles = (
            Handle(
                address=CHOSEN[PLATE],
                address_y=CHOSEN[SPACER],
                name=f"{DIMENSIONS[CHOSEN[PLATE]].name}, {DIMENSIONS[CHOSEN[SPACER]].name.lower()}",
                x=here[0],
                y=here[1],
                turns=False,
                value=here[0],
                value_y=here[1],
                low=min(limits.low, other.low),
                high=max(limits.high, other.high),
                step=limits.step,
            ),
        )
    return Drawing(
        name="Window",
        view="plate to the right, crank spacer upwards, mm; inside all goes",
        x_low=x1,
        x_high=x2 + words / scale,
        y_low=y1 - 2.0 * LINE / scale,
        y_high=y2 + LINE / scale,
        shapes=tuple(shapes),
        rounds=tuple(dots),
        handles=handles,
        notes=tuple(notes),
    )
