"""Trim: one cut line for a part that has to clear others, and what metal it leaves.

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
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Round, Shape
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Missing, Verdict, decide
from pindo.core.stations.mate.common import clutched
from pindo.core.stations.mate.outline import DrillRow, Plate

KEY = "mate.trim"
FINE = 64
"""Segments of a quarter turn."""
MOST_NECK = 400.0
HALVINGS = 40
CRUMB = 1.0
"""Pieces smaller than this are no metal. [mm²]"""
WHY = "Cut once: a rim that is too thin cracks, and metal does not come back."
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


def trim(inputs: Inputs) -> Trim | None:
    """The cut; None until a part, something that stays clear and the gap are known."""
    return inputs.once("trim", lambda: _trim(inputs))


def _trim(inputs: Inputs) -> Trim | None:
    parts, keeps = of_role(inputs, "part to trim"), of_role(inputs, "stays clear")
    gap = inputs.quantities["trim_gap_mm"]
    known = [t.region for t in (*parts, *keeps)]
    if gap.value is None or not parts or not keeps or any(r is None for r in known):
        return None
    part = shapely.union_all([t.region for t in parts])
    keep = shapely.union_all([t.region for t in keeps])
    left = part.difference(keep.buffer(gap.value, quad_segs=FINE))
    stock = min(inputs.rules["finish_stock_mm"], gap.value)
    rough = part.difference(keep.buffer(gap.value - stock, quad_segs=FINE))
    pm = math.hypot(max(t.pm for t in parts), max(t.pm for t in keeps), gap.pm)
    return Trim(part=part, keep=keep, left=left, rough=rough, neck=narrowest(left), pm=pm)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Outlines that are none yet, and what the cut leaves."""
    rows = [o for o in inputs.build.outlines if o.role != "starter body"]
    every = [traced(inputs, row) for row in inputs.build.outlines]
    for t in every:
        if t.region is None:
            yield notice(
                f"{KEY}.open.{t.row.n}",
                KEY,
                f"Outline of {t.name}",
                Verdict.UNMEASURED,
                f"The outline of {t.name} is not closed: it wants three points at least, in turn"
                " and without crossing, all with both figures; or one point and a diameter",
                why="What has no outline clears nothing.",
                row=f"outlines.{t.row.n}",
            )
    if not rows:
        return
    found = trim(inputs)
    if found is None:
        yield from _wanting(inputs)
        return
    yield from _left(inputs, found)
    yield from _bosses(inputs, found)


def _wanting(inputs: Inputs) -> Iterator[Finding]:
    roles = {o.role for o in inputs.build.outlines}
    gap = inputs.quantities["trim_gap_mm"]
    gone = [r for r in ("part to trim", "stays clear") if r not in roles]
    missing: tuple[Missing, ...] = ()
    if gap.value is None:
        missing = (
            Missing(
                address="trim_gap_mm",
                name=gap.name,
                letter="A",
                status=gap.status.value,
                detail=gap.detail,
            ),
        )
    if gone or missing:
        what = [f"an outline that is “{r}”" for r in gone] + ["the gap"] * bool(missing)
        yield notice(
            f"{KEY}.wanting",
            KEY,
            "Cut line",
            Verdict.UNMEASURED,
            f"No line is drawn yet: it wants {' and '.join(what)}",
            why=WHY,
            missing=missing,
        )


def _left(inputs: Inputs, found: Trim) -> Iterator[Finding]:
    pieces = [p for p in shapely.get_parts(found.left) if p.area > CRUMB]
    before = [p for p in shapely.get_parts(found.part) if p.area > CRUMB]
    if not pieces or len(pieces) > len(before):
        text = "Nothing is left of the part" if not pieces else "The cut takes the part in pieces"
        yield notice(f"{KEY}.rim", KEY, "Metal left by the cut", Verdict.FOULS, text, why=WHY)
        return
    if found.part.intersection(found.left).area >= found.part.area - CRUMB:
        text = "The part stands clear as it is: nothing is cut"
        yield notice(f"{KEY}.rim", KEY, "Metal left by the cut", Verdict.GOES, text, why=WHY)
        return
    least = inputs.rules["rim_least_mm"]
    factor = inputs.rules["guard_band_factor"] / 2.0
    if found.neck is None:
        text = "The cut leaves one body without a narrow place"
        yield notice(f"{KEY}.rim", KEY, "Metal left by the cut", Verdict.GOES, text, why=WHY)
        return
    yield notice(
        f"{KEY}.rim",
        KEY,
        "Metal left by the cut",
        decide(found.neck - least, factor * found.pm),
        in_both(
            "The narrowest {at} that the cut leaves is {neck} (± {pm}); needs {least}",
            "metal",
            1,
            neck=found.neck,
            pm=found.pm,
            least=least,
        ),
        why=WHY,
    )


def _bosses(inputs: Inputs, found: Trim) -> Iterator[Finding]:
    """Metal round each bolt boss: e >= 1.2 d0 from the middle of its hole."""
    for t in of_role(inputs, "bolt boss"):
        if t.region is None:
            continue
        middle, d0 = t.region.centroid, t.d
        inside = found.left.contains(middle)
        e = float(found.left.boundary.distance(middle)) * (1.0 if inside else -1.0)
        wanted = max(inputs.rules["edge_factor"] * d0, inputs.rules["rim_least_mm"] + d0 / 2.0)
        factor = inputs.rules["guard_band_factor"] / 2.0
        yield notice(
            f"{KEY}.boss.{t.row.n}",
            KEY,
            f"Metal round {t.name}",
            decide(e - wanted, factor * math.hypot(found.pm, t.pm)),
            in_both(
                "The middle of {at} stands {e} from the edge that is left; needs {wanted}"
                if inside
                else "The cut takes the middle of {at}",
                t.name,
                1,
                e=e,
                wanted=wanted,
            ),
            why="A bolt hole too near an edge tears out.",
        )


def _rings(region: Polygon | MultiPolygon) -> Iterator[Ring]:
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
    rings = sorted(_rings(found.left), key=lambda r: -Polygon(r).area)
    if not rings:
        return None
    holes = [*of_role(inputs, "locating hole"), *of_role(inputs, "bolt boss")]
    return Plate(
        holes=(),
        outline=rings[0],
        window=None,
        pocket=None,
        drilling=tuple(_hole_rows(holes)),
        shared=(),
        mass_kg=None,
        lines=tuple(rings[1:]),
        rough=tuple(_rings(found.rough)),
    )


def drawing(inputs: Inputs) -> Drawing:
    """The outlines one over the other, and the line of the cut."""
    every = [traced(inputs, row) for row in inputs.build.outlines]
    shown = [t for t in every if t.region is not None]
    styles = {"part to trim": "body", "stays clear": "casting", "starter body": "thin"}
    shapes = [
        Shape(part=t.name, points=ring, style=styles[t.row.role], label=t.row.name)
        for t in shown
        if t.row.role in styles
        for ring in _rings(t.region)
    ]
    found = trim(inputs)
    if found is not None:
        shapes += [Shape(part="cut line", points=r, style="accent") for r in _rings(found.left)]
        shapes += [Shape(part="first cut", points=r, style="hidden") for r in _rings(found.rough)]
    rounds = tuple(
        Round(
            part=t.name,
            x=float(t.region.centroid.x),
            y=float(t.region.centroid.y),
            d=t.d,
            style="dowel" if t.row.role == "locating hole" else "hole",
            label=t.row.name,
        )
        for t in shown
        if t.row.role not in styles and t.region is not None
    )
    points = [p for s in shapes for p in s.points] or [(-100.0, -100.0), (100.0, 100.0)]
    edge = 20.0
    return Drawing(
        view="one over the other, to scale; first cut dashed, last cut in colour",
        x_low=min(p[0] for p in points) - edge,
        x_high=max(p[0] for p in points) + edge,
        y_low=min(p[1] for p in points) - edge,
        y_high=max(p[1] for p in points) + edge,
        shapes=tuple(shapes),
        rounds=rounds,
    )


def board(inputs: Inputs, seen: Seen) -> Board:
    """The outlines and what becomes of them."""
    columns = (
        Column(key="name", label="outline", wide=1.6),
        Column(key="role", label="is"),
        Column(key="wide", label="width", kind="length", places=1),
        Column(key="tall", label="height", kind="length", places=1),
        Column(key="pm", label="±", kind="length", places=2),
    )
    rows = []
    for row in inputs.build.outlines:
        t = traced(inputs, row)
        box = None if t.region is None else t.region.bounds
        size = (None, None) if box is None else (box[2] - box[0], box[3] - box[1])
        rows.append(
            TableRow(
                cells=(t.name, row.role, *size, t.pm or None),
                address=f"outlines.{row.n}",
                mark="" if box else "unmeasured",
            )
        )
    table = Table(key="outlines", title="Outlines", columns=columns, rows=tuple(rows))
    return Board(drawings=(drawing(inputs),), tables=(table,) if rows else ())


QUESTION = Question(
    path="trim",
    station=Station.MATE,
    name="Trim",
    asks="Where is a cover or shield cut, and what metal is left?",
    dimensions={"A": "trim_gap_mm"},
    lists=("outlines",),
    when=clutched,
    notices=notices,
    board=board,
    files=(
        ("trim.dxf", "DXF"),
        ("trim.svg", "SVG"),
        ("trim.pdf", "1:1 on A4"),
        ("trim.pdf?paper=A3", "A3"),
        ("trim.pdf?paper=Letter", "Letter"),
    ),
    where="block face",
)
