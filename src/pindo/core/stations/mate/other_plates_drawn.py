"""Mount plates and port plates as they are drawn and cut."""

import math
from dataclasses import replace

import shapely
from shapely import Polygon

from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Round, Shape
from pindo.core.inputs.fasteners import head
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.threads import percent_of_thread, thread_words
from pindo.core.stations.mate.other_plates import FINE, Hole, Known, every
from pindo.core.stations.mate.outline import DENSITY, DrillRow, Plate, in_order

ROOM = 20.0
"""Between plates that are drawn side by side. [mm]"""


def _drill(h: Hole, shift: float) -> DrillRow:
    tapped = h.row.how == "tapped"
    d = h.thread - (h.pitch or 0.0) if tapped else h.d
    size = head(h.row.how, h.thread)
    words = thread_words(h.thread, h.pitch)
    drill = ""
    if tapped:
        drill = (
            f"drill {d:.2f} mm, {percent_of_thread(h.thread, d, h.pitch):.0f} % of thread"
            if h.pitch
            else "pitch not told: no drill, the circle is the thread"
        )
    return DrillRow(
        label=h.label,
        side="engine" if h.row.face == "one face" else "gearbox",
        called=h.label,
        u=h.x + shift,
        v=h.y,
        radius=math.hypot(h.x, h.y),
        angle_deg=math.degrees(math.atan2(h.x, h.y)) % 360.0,
        d=d,
        layer="dowel" if h.row.how == "locating" else "tapped" if tapped else "clearance",
        what=f"tap {words}" if tapped else f"{h.row.how} for {words}",
        thread=words if tapped else "",
        drill=drill,
        recess=size.height if size and not tapped else None,
        recess_d=size.circle if size and not tapped else None,
        play=(h.d - h.thread) / 2.0,
        depth=None,
        note="",
    )


def _ring(region: Polygon, shift: float) -> tuple[tuple[float, float], ...]:
    return tuple((float(x) + shift, float(y)) for x, y in region.exterior.coords[:-1])


def cut(inputs: Inputs) -> Plate | None:
    """All of them side by side as one drawing, each from its own face A; None while none has an
    outline.
    """
    rings: list[tuple[tuple[float, float], ...]] = []
    holes: list[DrillRow] = []
    right = 0.0
    for p in every(inputs):
        if p.outline is None:
            continue
        low, _, high, _ = p.outline.bounds
        shift = right - low
        rings.append(_ring(p.outline, shift))
        holes += [
            replace(r, label=f"{p.row.n}{r.label}", called=f"{p.name} {r.called}")
            for r in (_drill(h, shift) for h in p.holes)
        ]
        rings += [_ring(x.region, shift) for x in p.ports if x.row.face != "the other"]
        right += high - low + ROOM
    if not rings:
        return None
    return Plate(
        holes=(),
        outline=rings[0],
        window=None,
        pocket=None,
        drilling=in_order(holes),
        shared=(),
        mass_kg=None,
        lines=tuple(rings[1:]),
    )


def mass(inputs: Inputs, p: Known) -> float | None:
    """Mass of a plate, its openings taken out; None until all of it is known. [kg]"""
    thick = inputs.value(f"plates.{p.row.n}.thick")
    if p.outline is None or not thick or p.row.material not in DENSITY:
        return None
    holes = [shapely.Point(h.x, h.y).buffer(h.d / 2, quad_segs=FINE) for h in p.holes]
    ports = [x.region for x in p.ports if x.row.face != "the other"]
    area = p.outline.difference(shapely.union_all([*holes, *ports])).area
    return float(area * thick * DENSITY[p.row.material])


def table(inputs: Inputs) -> Table:
    """Every plate with its size and mass."""
    columns = (
        Column(key="plate", label="other plate"),
        Column(key="long", label="length", kind="length", places=0),
        Column(key="wide", label="width", kind="length", places=0),
        Column(key="thick", label="thickness", kind="length", places=1),
        Column(key="holes", label="holes", kind="count", places=0),
        Column(key="ports", label="ports", kind="count", places=0),
        Column(key="mass", label="mass", kind="mass", places=2),
    )
    rows = []
    for p in every(inputs):
        size: tuple[float | None, float | None] = (None, None)
        if p.outline is not None:
            x1, y1, x2, y2 = p.outline.bounds
            size = (x2 - x1, y2 - y1)
        rows.append(
            TableRow(
                cells=(
                    p.name,
                    *size,
                    inputs.value(f"plates.{p.row.n}.thick"),
                    float(len(p.holes)),
                    float(len(p.ports)),
                    mass(inputs, p),
                ),
                address=f"plates.{p.row.n}",
            )
        )
    return Table(key="others", title="Other plates", columns=columns, rows=tuple(rows))


def drawings(inputs: Inputs) -> tuple[Drawing, ...]:
    """A picture of each plate that has an outline, both faces one over the other."""
    found = []
    for p in every(inputs):
        if p.outline is None:
            continue
        x1, y1, x2, y2 = p.outline.bounds
        shapes = [Shape(part=p.name, points=_ring(p.outline, 0.0), style="body")]
        shapes += [
            Shape(
                part=f"port {x.row.n}",
                points=_ring(x.region, 0.0),
                style="hidden" if x.row.face == "the other" else "opening",
            )
            for x in p.ports
        ]
        styles = {"tapped": "tapped", "locating": "dowel"}
        rounds = tuple(
            Round(
                part=p.name,
                x=h.x,
                y=h.y,
                d=h.d,
                style=styles.get(h.row.how, "hole"),
                label=h.label,
            )
            for h in p.holes
        )
        found.append(
            Drawing(
                name=p.name,
                view="looked at from its one face, A; what belongs to the other, B, dashed",
                x_low=x1 - 15.0,
                x_high=x2 + 15.0,
                y_low=y1 - 15.0,
                y_high=y2 + 15.0,
                shapes=tuple(shapes),
                rounds=rounds,
            )
        )
    return tuple(found)
