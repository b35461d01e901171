"""The plate: its outline from the lands of both castings, window and pocket, and the table of its holes."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely
from shapely import MultiPolygon, Point, Polygon, union_all

from pindo.core.mate.pattern import SIDES, Lands, PlacedHole, all_lands, coincide, placed_holes
from pindo.core.resolve import Inputs

CLOSING_RADIUS_MM = 25.0  # a following outline is closed by this radius, so that a saw can follow it
ARC_SEGMENTS = 16  # per quarter turn: 0.02 mm of chord error on a 15 mm land
DENSITY = {"steel": 7.85e-6, "aluminium": 2.70e-6}  # kg/mm³, common handbook values


@dataclass(frozen=True, kw_only=True)
class Circle:
    """A round opening. [mm]"""

    u: float
    v: float
    d: float


@dataclass(frozen=True, kw_only=True)
class DrillRow:
    """One hole of the plate as it is drilled; u, v seen from behind. [mm], angle [deg] clockwise from 12."""

    label: str
    u: float
    v: float
    radius: float
    angle_deg: float
    d: float
    what: str
    recess: float | None
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


@lru_cache(maxsize=64)  # ways out and trials ask for the same outline many times
def _outline(circles: tuple[tuple[float, float, float], ...], margin_mm: float, ring_mm: float | None) -> Polygon:
    """Outline round circles (u, v, diameter): their hull, or with ``ring_mm`` their union with a ring, closed by a radius."""
    rows = np.array(circles)
    discs = shapely.buffer(shapely.points(rows[:, :2]), rows[:, 2] / 2.0, quad_segs=ARC_SEGMENTS)
    if ring_mm is None:
        return shapely.geometrycollections(discs).convex_hull.buffer(margin_mm, quad_segs=ARC_SEGMENTS)
    lands = union_all(discs)
    body = union_all([lands, Point(0, 0).buffer(ring_mm + CLOSING_RADIUS_MM / 2, quad_segs=ARC_SEGMENTS)]) if ring_mm else lands
    closed = body.buffer(margin_mm + CLOSING_RADIUS_MM, quad_segs=ARC_SEGMENTS).buffer(-CLOSING_RADIUS_MM, quad_segs=ARC_SEGMENTS)
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
    ring = (opening.d / 2 if opening else 0.0) if inputs.options.get("outline") == "following" else None
    return _outline(tuple(circles), inputs.value("outline_margin_mm") or 0.0, ring)


def window(inputs: Inputs) -> Circle | None:
    """The opening round flywheel and clutch, concentric with the crank."""
    d = inputs.value("window_mm")
    return Circle(u=0.0, v=0.0, d=d) if d and d > 0 else None


def pocket(inputs: Inputs) -> Circle | None:
    """The opening for the starter's pinion."""
    u, v, d = (inputs.value(k) for k in ("pocket_u_mm", "pocket_v_mm", "pocket_mm"))
    return Circle(u=u, v=v, d=d) if u is not None and v is not None and d and d > 0 else None


def _what(h: PlacedHole) -> str:
    if h.hole.role == "dowel":
        return f"dowel {h.d:g}"
    if h.hole.fastening == "tapped":
        return f"tap M{h.d:g}, through"
    return f"through for M{h.d:g}" + (f", {h.hole.fastening}" if h.hole.fastening else "")


def _drill_row(h: PlacedHole, inputs: Inputs) -> DrillRow:
    return DrillRow(
        label=h.label,
        u=h.u,
        v=h.v,
        radius=math.hypot(h.u, h.v),
        angle_deg=math.degrees(math.atan2(h.u, h.v)) % 360.0,
        d=h.plate_d,
        what=_what(h),
        recess=inputs.value(h.address("recess")),
        note=h.hole.note,
    )


def shared_holes(holes: list[PlacedHole]) -> list[tuple[PlacedHole, PlacedHole]]:
    """Pairs of both patterns that take one through-bolt."""
    engine, gearbox = ([h for h in holes if h.side == s] for s in SIDES)
    return [(a, b) for a in engine for b in gearbox if coincide(a, b)]


def mass_kg(inputs: Inputs, shape: Polygon | None, holes: list[PlacedHole]) -> float | None:
    """Mass of the plate, openings and holes taken out; None until outline, thickness and material are known."""
    thickness, material = inputs.value("plate_mm"), inputs.options.get("plate_material", "")
    if shape is None or not thickness or material not in DENSITY:
        return None
    openings = [Point(c.u, c.v).buffer(c.d / 2, quad_segs=ARC_SEGMENTS) for c in (window(inputs), pocket(inputs)) if c]
    area = shape.difference(union_all(openings)).area if openings else shape.area
    area -= sum(math.pi / 4 * h.plate_d**2 for h in holes)
    return float(area * thickness * DENSITY[material])


def plate(inputs: Inputs) -> Plate:
    """Everything that the drawing, the template and the board need of the plate."""
    holes = placed_holes(inputs)
    shape = outline(inputs, holes, all_lands(inputs))
    return Plate(
        holes=tuple(holes),
        outline=tuple((float(u), float(v)) for u, v in shape.exterior.coords[:-1]) if shape is not None else (),
        window=window(inputs),
        pocket=pocket(inputs),
        drilling=tuple(_drill_row(h, inputs) for h in holes),
        shared=tuple((a.label, b.label) for a, b in shared_holes(holes)),
        mass_kg=mass_kg(inputs, shape, holes),
    )
