"""Outlines as they are traced, and the cut of a part that has to clear others.

What stays clear is grown by the gap; what of the part lies in it goes. The narrowest metal is
where a band that wears away from all sides would first part or open what is left (the width at
which its topology changes, by halving).
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import shapely
from shapely import MultiPolygon, Point, Polygon

from pindo.core.document.mate_rows import Outline
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved
from pindo.core.stations.mate.outline import DrillRow, Plate

FINE = 64
"""Segments of a quarter turn."""
MOST_NECK = 400.0
HALVINGS = 40
CRUMB = 1.0
"""Pieces smaller than this are no metal. [mm²]"""
Ring = tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True)
class Traced:
    """An outline as it is known: its region, or the circle that it is. [mm]"""

    row: Outline
    region: Polygon | None
    """None while it has fewer than three points and no diameter, or crosses itself."""
    pm: float
    """Half-width of the doubt of its line."""
    d: float = 0.0
    """Diameter of one that is round, else of a circle as large. [mm]"""

    @property
    def name(self) -> str:
        return self.row.name or f"outline {self.row.n}"


def traced(inputs: Inputs, row: Outline) -> Traced:
    """An outline of the list."""
    places, pm = [], 0.0
    for p in row.points:
        told = [inputs.quantities.get(f"outlines.{row.n}.points.{p.n}.{f}") for f in ("x", "y")]
        known = [(q.value, q.pm) for q in told if q is not None and q.value is not None]
        if len(known) == 2:
            places.append((known[0][0], known[1][0]))
            pm = max(pm, *(k[1] for k in known))
    across = inputs.quantities.get(f"outlines.{row.n}.across")
    if len(places) == 1 and across is not None and across.value and across.value > 0.0:
        region = Point(places[0]).buffer(across.value / 2, quad_segs=FINE)
        doubt = math.hypot(pm, across.pm / 2)
        return Traced(row=row, region=region, pm=doubt, d=across.value)
    whole = len(places) == len(row.points) >= 3
    region = Polygon(places) if whole else None
    if region is not None and (not region.is_valid or region.area <= 0.0):
        region = None
    d = 0.0 if region is None else 2.0 * math.sqrt(region.area / math.pi)
    return Traced(row=row, region=region, pm=pm, d=d)


def of_role(inputs: Inputs, role: str) -> list[Traced]:
    """Every outline of a role."""
    return [traced(inputs, row) for row in inputs.build.outlines if row.role == role]


@dataclass(frozen=True, kw_only=True)
class Trim:
    """What a cut leaves. [mm]"""

    part: Polygon | MultiPolygon
    keep: Polygon | MultiPolygon
    """What stays clear, not grown."""
    left: Polygon | MultiPolygon
    rough: Polygon | MultiPolygon
    """What is left of the first cut, with metal for finishing."""
    neck: float | None
    """Narrowest metal; None where it nowhere is."""
    spare: float
    """How much farther than its gap the part stands from what stays clear; 0 where it is cut."""
    pm: float


def _topology(region: Polygon | MultiPolygon) -> tuple[int, int]:
    """Pieces and holes of a region, crumbs left out."""
    parts = [p for p in shapely.get_parts(region) if p.area > CRUMB]
    return len(parts), sum(len(p.interiors) for p in parts)


def narrowest(region: Polygon | MultiPolygon) -> float | None:
    """Width of the narrowest metal of a region: worn from all sides by half of it, the region
    parts, or opens one of its holes; None for a body that just shrinks. [mm]
    """
    was = _topology(region)

    def changed(width: float) -> bool:
        now = _topology(region.buffer(-width / 2.0, quad_segs=16))
        # What shrinks to nothing in one piece has no neck; a ring does have one, all round.
        return now != was and (now[0] > 0 or was[1] > 0)

    steps = [MOST_NECK * (k / 100.0) ** 2 for k in range(1, 101)]
    low = 0.0
    for high in steps:
        if changed(high):
            break
        if region.buffer(-high / 2.0, quad_segs=16).is_empty:
            return None
        low = high
    else:
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2.0
        low, high = (low, middle) if changed(middle) else (middle, high)
    return high


def thin(region: Polygon | MultiPolygon, width: float) -> float:
    """Area of the largest piece of a region that no disc of a width reaches: a strip, a tongue, a
    knife edge; corners leave little. [mm²]
    """
    reached = region.buffer(-width / 2.0, quad_segs=16).buffer(width / 2.0, quad_segs=16)
    left = shapely.get_parts(region.difference(reached.buffer(0.01)))
    return max((float(p.area) for p in left), default=0.0)


def trim(inputs: Inputs) -> Trim | None:
    """The cut; None until a part, something that stays clear and its gap are known."""
    return inputs.once("trim", lambda: _trim(inputs))


def gap_of(inputs: Inputs, t: Traced) -> Resolved | None:
    """The gap wanted round what stays clear; None until it is said. [mm]"""
    q: Resolved | None = inputs.quantities.get(f"outlines.{t.row.n}.gap")
    return None if q is None or q.value is None or q.value < 0.0 else q


def _trim(inputs: Inputs) -> Trim | None:
    parts, keeps = of_role(inputs, "part to trim"), of_role(inputs, "stays clear")
    gaps = [gap_of(inputs, t) for t in keeps]
    known = [t.region for t in (*parts, *keeps)]
    if not parts or not keeps or any(x is None for x in (*known, *gaps)):
        return None
    part = shapely.union_all([t.region for t in parts])
    stock = inputs.rules["finish_stock_mm"]

    def grown(less: float) -> Polygon | MultiPolygon:
        wide = [(t.region, g.value or 0.0) for t, g in zip(keeps, gaps, strict=True) if g]
        return shapely.union_all(
            [region.buffer(max(gap - less, 0.0), quad_segs=FINE) for region, gap in wide if region]
        )

    left, rough = part.difference(grown(0.0)), part.difference(grown(stock))
    # The gap is chosen: only both lines have a doubt.
    pm = math.hypot(max(t.pm for t in parts), max(t.pm for t in keeps))
    spare = min(
        float(part.distance(t.region)) - (g.value or 0.0)
        for t, g in zip(keeps, gaps, strict=True)
        if g
    )
    return Trim(
        part=part,
        keep=shapely.union_all([t.region for t in keeps]),
        left=left,
        rough=rough,
        neck=narrowest(left),
        spare=max(spare, 0.0),
        pm=pm,
    )


def rings(region: Polygon | MultiPolygon) -> Iterator[Ring]:
    """Closed lines of a region, outside and holes. [mm]"""
    for part in shapely.get_parts(region):
        if isinstance(part, Polygon) and part.area > CRUMB:
            for ring in (part.exterior, *part.interiors):
                yield tuple((float(x), float(y)) for x, y in ring.coords[:-1])


def _hole_rows(holes: Sequence[Traced]) -> Iterator[DrillRow]:
    for t in holes:
        if t.region is None:
            continue
        c = t.region.centroid
        yield DrillRow(
            label=t.name,
            side="part",
            called=t.name,
            u=float(c.x),
            v=float(c.y),
            radius=math.hypot(c.x, c.y),
            angle_deg=math.degrees(math.atan2(c.x, c.y)) % 360.0,
            d=t.d,
            layer="dowel",
            what=t.row.role,
            thread="",
            drill="",
            recess=None,
            recess_d=None,
            play=0.0,
            depth=None,
            note="",
        )


def trimmed(inputs: Inputs) -> Plate | None:
    """The part as it is cut, for drawings and 1:1 templates: what is left, the line of the first
    cut, bolt bosses and locating holes; None while there is no line.
    """
    found = trim(inputs)
    if found is None:
        return None
    found_rings = sorted(rings(found.left), key=lambda r: -Polygon(r).area)
    if not found_rings:
        return None
    holes = [*of_role(inputs, "locating hole"), *of_role(inputs, "bolt boss")]
    return Plate(
        holes=(),
        outline=found_rings[0],
        window=None,
        pocket=None,
        drilling=tuple(_hole_rows(holes)),
        shared=(),
        mass_kg=None,
        lines=tuple(found_rings[1:]),
        rough=tuple(rings(found.rough)),
    )
