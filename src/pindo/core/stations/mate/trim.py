"""Trim: one cut line for a part that has to clear others, and what metal it leaves."""

import math
from collections.abc import Iterator

import shapely

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Drawing, Round, Shape
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict, decide
from pindo.core.stations.mate.trim_cut import (
    CRUMB,
    Trim,
    gap_of,
    of_role,
    rings,
    thin,
    traced,
    trim,
)

KEY = "mate.trim"
OF_PLATE = ("starter body", "notch in the plate")
"""Outlines that are no part of a trim: they are cut out of the adapter plate."""
WHY = "Cut once: a rim that is too thin cracks, and metal does not come back."


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Outlines that are none yet, and what the cut leaves."""
    rows = [o for o in inputs.build.outlines if o.role not in OF_PLATE]
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
    gone = [r for r in ("part to trim", "stays clear") if r not in roles]
    bare = [t for t in of_role(inputs, "stays clear") if gap_of(inputs, t) is None]
    if gone or bare:
        what = [f"an outline that is “{r}”" for r in gone]
        what += [f"the gap round {t.name}" for t in bare]
        yield notice(
            f"{KEY}.wanting",
            KEY,
            "Cut line",
            Verdict.UNMEASURED,
            f"No line is drawn yet: it wants {' and '.join(what)}",
            why=WHY,
            row=f"outlines.{bare[0].row.n}" if bare else "",
        )


def _left(inputs: Inputs, found: Trim) -> Iterator[Finding]:
    pieces = [p for p in shapely.get_parts(found.left) if p.area > CRUMB]
    before = [p for p in shapely.get_parts(found.part) if p.area > CRUMB]
    if not pieces or len(pieces) > len(before):
        text = "Nothing is left of the part" if not pieces else "The cut takes the part in pieces"
        yield notice(f"{KEY}.rim", KEY, "Metal left by the cut", Verdict.FOULS, text, why=WHY)
        return
    factor = inputs.rules["guard_band_factor"] / 2.0
    if found.spare > 0.0:
        yield notice(
            f"{KEY}.rim",
            KEY,
            "Metal left by the cut",
            decide(found.spare, factor * found.pm),
            in_both(
                "The part stands clear as it is, by {spare} more than {at} (± {pm}): nothing is"
                " cut",
                "its gap",
                1,
                spare=found.spare,
                pm=found.pm,
            ),
            why=WHY,
        )
        return
    least = inputs.rules["rim_least_mm"]
    sure = factor * found.pm
    for width, verdict in ((least, Verdict.FOULS), (least + sure, Verdict.TIGHT)):
        # A strip or a tongue has no neck, and is thin all the same.
        if thin(found.left, width) > least**2:
            yield notice(
                f"{KEY}.thin",
                KEY,
                "Thin metal left by the cut",
                verdict,
                in_both(
                    "The cut leaves {at} thinner than {width}: a strip, a tongue or a knife edge",
                    "metal",
                    1,
                    width=width,
                ),
                why=WHY,
            )
            if found.neck is None:
                return
            break
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


def drawing(inputs: Inputs) -> Drawing:
    """The outlines one over the other, and the line of the cut."""
    every = [traced(inputs, row) for row in inputs.build.outlines]
    shown = [t for t in every if t.region is not None]
    styles = {
        "part to trim": "body",
        "stays clear": "casting",
        "starter body": "thin",
        "notch in the plate": "thin",
    }
    shapes = [
        Shape(part=t.name, points=ring, style=styles[t.row.role], label=t.row.name)
        for t in shown
        if t.row.role in styles
        for ring in rings(t.region)
    ]
    found = trim(inputs)
    if found is not None:
        # A line and no body: it is closed by its first point.
        shapes += [
            Shape(part="cut line", points=(*r, r[0]), style="cutline", closed=False)
            for r in rings(found.left)
        ]
        shapes += [Shape(part="first cut", points=r, style="hidden") for r in rings(found.rough)]
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
        Column(key="name", label="outline"),
        Column(key="role", label="is"),
        Column(key="wide", label="width", kind="length", places=1),
        Column(key="tall", label="height", kind="length", places=1),
        Column(key="pm", label="±", kind="length", places=2),
        Column(key="gap", label="gap", kind="length", places=1),
    )
    rows = []
    for row in inputs.build.outlines:
        t = traced(inputs, row)
        gap = gap_of(inputs, t)
        box = None if t.region is None else t.region.bounds
        size = (None, None) if box is None else (box[2] - box[0], box[3] - box[1])
        rows.append(
            TableRow(
                cells=(t.name, row.role, *size, t.pm or None, None if gap is None else gap.value),
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
    lists=("outlines",),
    when=bellhoused,
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
