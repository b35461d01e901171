"""The plate: its outline from the lands of both castings, window and pocket, and the table of
its holes.
"""

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np
import shapely
from shapely import GeometryCollection, MultiPolygon, Point, Polygon, union_all

from pindo.core.geometry.frames import clocked
from pindo.core.inputs.fasteners import counterbore
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantity import parse
from pindo.core.inputs.threads import (
    percent_of_thread,
    pitch_diameter,
    size_words,
    thread_of,
    thread_words,
)
from pindo.core.stations.mate.placing import (
    SIDES,
    Lands,
    PlacedHole,
    all_lands,
    coincide,
    placed_holes,
    pocket_turn,
)

CLOSING_RADIUS_MM = (
    25.0  # a following outline is closed by this radius, so that a saw can follow it
)
ARC_SEGMENTS = 16  # per quarter turn: 0.02 mm of chord error on a 15 mm land
FINE_SEGMENTS = 512  # per quarter turn where a circle's area counts: a millionth
PILOT_MM = 3.0  # hole in the middle of a hole, in a template of wood
DENSITY = {"steel": 7.85e-6, "aluminium": 2.70e-6}  # kg/mm³, common handbook values


@dataclass(frozen=True, kw_only=True)
class Circle:
    """A round opening. [mm]"""

    u: float
    v: float
    d: float


@dataclass(frozen=True, kw_only=True)
class DrillRow:
    """One hole of the plate as it is drilled; u, v seen from behind. [mm], angle [deg] clockwise
    from 12.
    """

    label: str
    side: str
    called: str
    """Its label with what people call the hole."""
    u: float
    v: float
    radius: float
    angle_deg: float
    d: float
    """What is drilled: the clearance hole, the dowel's hole, the tap drill."""
    layer: Literal["clearance", "tapped", "dowel"]
    what: str
    """In words, a thread as what it is."""
    thread: str
    """A thread and how deep it is; empty for other holes."""
    drill: str
    """Tap drill as a drill chart names it, with its per cent of thread; empty for other holes."""
    recess: float | None
    recess_d: float | None
    """Diameter of counterbore or countersink; None where the head's size is not known."""
    play: float
    """How far its screw may stand off the hole's middle. [mm]"""
    depth: float | None
    """Full thread of a tapped hole; None for through."""
    order: int = 0
    """When it is drilled: locating holes first, so that the plate is offered up before the rest."""
    note: str


@dataclass(frozen=True, kw_only=True)
class Plate:
    """The plate as it would be cut. Coordinates as seen from behind, crank axis at (0, 0). [mm]"""

    holes: tuple[PlacedHole, ...]
    outline: tuple[tuple[float, float], ...]
    window: Circle | None
    pocket: Circle | None
    drilling: tuple[DrillRow, ...]
    shared: tuple[tuple[str, str], ...]
    mass_kg: float | None
    lines: tuple[tuple[tuple[float, float], ...], ...] = ()
    """Other closed lines that are cut: the starter's own window, openings of a trimmed part."""
    rough: tuple[tuple[tuple[float, float], ...], ...] = ()
    """Lines of a first cut, with metal for finishing."""
    seen: str = "seen from behind, forwards"
    """From where it is looked at."""


def land_discs(circles: tuple[tuple[float, float, float], ...]) -> GeometryCollection:
    """Circles (u, v, diameter) as polygons. [mm]"""
    rows = np.array(circles).reshape(-1, 3)
    return shapely.geometrycollections(
        shapely.buffer(shapely.points(rows[:, :2]), rows[:, 2] / 2.0, quad_segs=ARC_SEGMENTS)
    )


@lru_cache(maxsize=64)  # ways out and trials ask for the same outline many times
def _outline(
    circles: tuple[tuple[float, float, float], ...], margin_mm: float, ring_mm: float | None
) -> Polygon:
    """Outline round circles (u, v, diameter): their hull, or with ``ring_mm`` their union with a
    ring, closed by a radius.
    """
    discs = land_discs(circles)
    if ring_mm is None:
        return discs.convex_hull.buffer(margin_mm, quad_segs=ARC_SEGMENTS)
    lands = union_all(discs)
    body = (
        union_all(
            [lands, Point(0, 0).buffer(ring_mm + CLOSING_RADIUS_MM / 2, quad_segs=ARC_SEGMENTS)]
        )
        if ring_mm
        else lands
    )
    closed = body.buffer(margin_mm + CLOSING_RADIUS_MM, quad_segs=ARC_SEGMENTS).buffer(
        -CLOSING_RADIUS_MM, quad_segs=ARC_SEGMENTS
    )
    if isinstance(closed, MultiPolygon):
        return closed.convex_hull
    return Polygon(closed.exterior)


def outline(inputs: Inputs, holes: list[PlacedHole], lands: Lands) -> Polygon | None:
    """Outline of the plate: the lands' hull grown by the margin, or their union closed by a radius.

    None while there are fewer than three holes.
    """
    if len(holes) < 3:
        return None
    circles = [(h.u, h.v, h.land) for h in holes]
    circles += [(x.u, x.v, x.d) for side in SIDES for x in lands[side] if x.size_field == "d"]
    opening = window(inputs)
    ring = (
        (opening.d / 2 if opening else 0.0)
        if inputs.options.get("outline") == "following"
        else None
    )
    return _outline(tuple(circles), inputs.value("outline_margin_mm") or 0.0, ring)


def window(inputs: Inputs) -> Circle | None:
    """The opening round flywheel and clutch, concentric with the crank."""
    d = inputs.value("window_mm")
    return Circle(u=0.0, v=0.0, d=d) if d and d > 0 else None


def pocket(inputs: Inputs) -> Circle | None:
    """The opening for the starter's pinion; with a starter on the housing it turns with the
    gearbox.
    """
    u, v, d = (inputs.value(k) for k in ("pocket_u_mm", "pocket_v_mm", "pocket_mm"))
    if u is None or v is None or not d or d <= 0:
        return None
    if pocket_turn(inputs) == "clocking_deg" and (turn := inputs.value("clocking_deg")) is not None:
        u, v = (float(x) for x in clocked(u, v, turn))
    return Circle(u=u, v=v, d=d)


def tap_drill(h: PlacedHole) -> tuple[float, str] | None:
    """Tap drill of a tapped hole and its name with the per cent of thread; None until its pitch is
    told. [mm]

    By the drill chart; for a thread that it does not hold d - P, the usual rule.
    """
    if h.pitch is None:
        return None
    row = thread_of(h.d, h.pitch)
    drill = parse(row.drill, "length").value if row else h.d - h.pitch
    if drill is None or not 0.0 < drill < h.d:
        return None
    name = row.drill if row else f"{drill:.2f}"
    size = f"drill {name}" + ("" if name.replace(".", "").isdigit() else f", {drill:.2f}") + " mm"
    return (
        drill,
        (
            f"{size}, {percent_of_thread(h.d, drill, h.pitch):.0f} % of thread by (d -"
            " drill)/(1.299 P)"
        ),
    )


def _thread(h: PlacedHole, depth: float | None) -> str:
    return f"{thread_words(h.d, h.pitch)}, " + ("through" if depth is None else f"{depth:g} deep")


def _what(h: PlacedHole, depth: float | None) -> str:
    if h.hole.role == "dowel":
        return f"dowel {h.d:g}"
    if h.hole.fastening == "tapped":
        return f"tap {_thread(h, depth)}"
    screw = size_words(h.d) if h.pitch is None else thread_words(h.d, h.pitch)
    return f"through for {screw}" + (f", {h.hole.fastening}" if h.hole.fastening else "")


def recess_across(inputs: Inputs, h: PlacedHole) -> float | None:
    """Diameter of a counterbore or countersink; None for a hole that has none, or whose head's
    size is not known. [mm]
    """
    how = h.hole.fastening or ""
    across = counterbore(how, h.d, inputs.rules["socket_wall_mm"])
    if across is None or not inputs.value(h.address("recess")):
        return None
    # A countersink is as wide as its head; a tool moves in a counterbore.
    return across + (0.0 if how == "countersunk" else inputs.rules["counterbore_play_mm"])


def _drill_row(h: PlacedHole, inputs: Inputs) -> DrillRow:
    tapped = h.hole.fastening == "tapped" and h.hole.role == "bolt"
    depth = inputs.value(h.address("depth")) if tapped else None
    drill = tap_drill(h) if tapped else None
    recess = inputs.value(h.address("recess"))
    return DrillRow(
        label=h.label,
        side=h.side,
        called=h.called,
        u=h.u,
        v=h.v,
        radius=math.hypot(h.u, h.v),
        angle_deg=math.degrees(math.atan2(h.u, h.v)) % 360.0,
        d=drill[0] if drill else h.plate_d,
        layer="dowel" if h.hole.role == "dowel" else "tapped" if tapped else "clearance",
        what=_what(h, depth),
        thread=_thread(h, depth) if tapped else "",
        drill=(
            drill[1]
            if drill
            else "pitch not told: no drill, the circle is the thread"
            if tapped
            else ""
        ),
        recess=recess,
        recess_d=recess_across(inputs, h),
        play=(h.plate_d - h.d) / 2.0,
        depth=depth,
        note=h.hole.note or h.hole.name,
    )


def shared_holes(holes: list[PlacedHole]) -> list[tuple[PlacedHole, PlacedHole]]:
    """Pairs of both patterns that take one through-bolt."""
    engine, gearbox = ([h for h in holes if h.side == s] for s in SIDES)
    return [(a, b) for a in engine for b in gearbox if coincide(a, b)]


def mass_kg(inputs: Inputs, shape: Polygon | None, holes: list[PlacedHole]) -> float | None:
    """Mass of the plate, openings and holes taken out; None until outline, thickness and
    material are known.
    """
    thickness, material = inputs.value("plate_mm"), inputs.options.get("plate_material", "")
    if shape is None or not thickness or material not in DENSITY:
        return None
    area = shape.area - sum(
        _circle_inside(shape, c.u, c.v, c.d) for c in (window(inputs), pocket(inputs)) if c
    )
    area += _both(shape, window(inputs), pocket(inputs))
    area -= sum(math.pi / 4 * _drilled(h) ** 2 for h in holes)
    return float(area * thickness * DENSITY[material])


def _drilled(h: PlacedHole) -> float:
    """Diameter of the metal that a hole takes out, of a tapped one its pitch diameter. [mm]"""
    return (
        float(pitch_diameter(h.d, h.pitch))
        if h.hole.fastening == "tapped" and h.pitch
        else h.plate_d
    )


def _circle_inside(shape: Polygon, u: float, v: float, d: float) -> float:
    """Area of a round opening inside the outline: the circle itself where it lies within, else
    as fine a polygon as counts. [mm²]
    """
    disc = Point(u, v).buffer(d / 2, quad_segs=FINE_SEGMENTS)
    return math.pi / 4 * d**2 if shape.contains(disc) else float(shape.intersection(disc).area)


def _both(shape: Polygon, a: Circle | None, b: Circle | None) -> float:
    """Area that two openings share inside the outline. [mm²]"""
    if a is None or b is None:
        return 0.0
    discs = [Point(c.u, c.v).buffer(c.d / 2, quad_segs=FINE_SEGMENTS) for c in (a, b)]
    return float(discs[0].intersection(discs[1]).intersection(shape).area)


TURN = {"dowel": 0, "tapped": 1, "clearance": 2}
"""Locating holes first, then what hangs on a drill's size, then what has play."""


def in_order(rows: list[DrillRow]) -> tuple[DrillRow, ...]:
    """The holes with the order in which they are drilled: the engine's dowels first, the gearbox'
    next, then one drill after the other, so that none is changed twice; the table keeps its own
    order.
    """
    drilled = sorted(
        range(len(rows)),
        key=lambda i: (TURN[rows[i].layer], rows[i].side != "engine", rows[i].d, rows[i].angle_deg),
    )
    at = {i: k for k, i in enumerate(drilled, 1)}
    return tuple(replace(r, order=at[i]) for i, r in enumerate(rows))


def wooden(plate: Plate) -> Plate:
    """The plate for a trial in cardboard or plywood: outline, openings and locating holes at their
    size, every other hole a pilot in its middle. It proves the outline, not the position.
    """
    rows = tuple(
        r
        if r.layer == "dowel"
        else replace(
            r, d=PILOT_MM, what="pilot", thread="", drill="", recess=None, recess_d=None, depth=None
        )
        for r in plate.drilling
    )
    return replace(plate, drilling=rows)


def plate_of(inputs: Inputs) -> Plate:
    """Everything that the drawing, the template and the board need of the plate."""
    return inputs.once("plate", lambda: _plate_of(inputs))


def _plate_of(inputs: Inputs) -> Plate:
    holes = placed_holes(inputs)
    shape = outline(inputs, holes, all_lands(inputs))
    return Plate(
        holes=tuple(holes),
        outline=(
            tuple((float(u), float(v)) for u, v in shape.exterior.coords[:-1])
            if shape is not None
            else ()
        ),
        window=window(inputs),
        pocket=pocket(inputs),
        drilling=in_order([_drill_row(h, inputs) for h in holes]),
        shared=tuple((a.label, b.label) for a, b in shared_holes(holes)),
        mass_kg=mass_kg(inputs, shape, holes),
    )
