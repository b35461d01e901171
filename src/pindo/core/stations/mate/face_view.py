"""The Mate board: both patterns and the plate, seen from behind, forwards. x is u, y is v."""

from collections.abc import Callable, Sequence

from pindo.core.drawing.board import Board, Reading
from pindo.core.drawing.callouts import Stretch, lettered
from pindo.core.drawing.shapes import Drawing, Gap, Handle, Note, Point, Round, Shape
from pindo.core.geometry.frames import clocked
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.fasteners import on_face
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.question import Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate.outline import Plate, plate_of
from pindo.core.stations.mate.placing import SIDES, placed_lands

OPEN = (Verdict.FOULS, Verdict.TIGHT)
VIEW = "seen from behind, forwards"
BLANK_MM = 150.0  # half-width of the picture while there are no holes


def _rounds(plate: Plate, inputs: Inputs) -> list[Round]:
    found = []
    for side in SIDES:
        found += [
            Round(
                part=f"{side} casting",
                x=x.u,
                y=x.v,
                d=x.d,
                style="land",
                label=x.name if x.size_field == "d" else "",
            )
            for x in placed_lands(inputs, side)
        ]
    for opening, name in ((plate.window, "window"), (plate.pocket, "starter pocket")):
        if opening:
            found.append(Round(part=name, x=opening.u, y=opening.v, d=opening.d, style="opening"))
    for h in plate.holes:
        size = on_face(h.hole.fastening or "", h.d)
        if size:
            found.append(Round(part=f"{h.label} head", x=h.u, y=h.v, d=size.circle, style="head"))
        style = (
            "dowel"
            if h.hole.role == "dowel"
            else "tapped"
            if h.hole.fastening == "tapped"
            else "hole"
        )
        found.append(Round(part=h.side, x=h.u, y=h.v, d=h.plate_d, style=style, label=h.called))
    return found


def _side(inputs: Inputs, way: str) -> str:
    """Left or right of the engine, with the user's own name."""
    own = inputs.build.nicknames.get(f"engine_{way}", "").strip()
    return f"{way} “{own}”" if own else way


def _anchors(plate: Plate, inputs: Inputs, reach: float) -> dict[str, Point]:
    found: dict[str, Point] = {"clocking_deg": _clocking_mark(inputs, reach)}
    if plate.window:
        found["window_mm"] = (-plate.window.d / 2 * 0.5, -plate.window.d / 2 * 0.866)
    if plate.pocket:
        found |= {
            "pocket_u_mm": (plate.pocket.u, plate.pocket.v),
            "pocket_v_mm": (plate.pocket.u + 3, plate.pocket.v - 3),
            "pocket_mm": (plate.pocket.u - plate.pocket.d / 2, plate.pocket.v),
        }
    if plate.outline:
        low = min(plate.outline, key=lambda p: p[1])
        right = max(plate.outline, key=lambda p: p[0])
        found |= {"outline_margin_mm": low, "plate_mm": right}
    return found


def _clocking_mark(inputs: Inputs, reach: float) -> Point:
    u, v = clocked(0.0, reach + 12, inputs.value("clocking_deg") or 0.0)
    return float(u), float(v)


def _sizes(plate: Plate) -> dict[str, Stretch]:
    """The two ends of each size that the face shows. [mm]"""
    found: dict[str, Stretch] = {}
    if plate.window:
        r = plate.window.d / 2
        found["window_mm"] = (-r * 0.5, -r * 0.866, r * 0.5, r * 0.866)
    if plate.pocket:
        u, v, r = plate.pocket.u, plate.pocket.v, plate.pocket.d / 2
        found |= {
            "pocket_u_mm": (0.0, v, u, v),
            "pocket_v_mm": (u, 0.0, u, v),
            "pocket_mm": (u - r, v, u + r, v),
        }
    return found


def face_view(
    inputs: Inputs, plate: Plate, question: str, findings: Sequence[Finding] = ()
) -> Drawing:
    """The picture of the plate with both patterns, the letters of a question, and what ``findings``
    speak of in it.
    """
    points = [*plate.outline, *((h.u, h.v) for h in plate.holes)]
    reach = max((max(abs(x), abs(y)) for x, y in points), default=BLANK_MM)
    shapes = [
        Shape(part="crank axis", points=((-12, 0), (12, 0)), style="axis", closed=False),
        Shape(part="crank axis", points=((0, -12), (0, 12)), style="axis", closed=False),
    ]
    mark = _clocking_mark(inputs, reach)
    shapes.append(
        Shape(part="gearbox 12 o'clock", points=((0, 0), mark), style="hidden", closed=False)
    )
    if plate.outline:
        shapes.insert(0, Shape(part="plate", points=plate.outline, style="body"))
    limits, clocking = DIMENSIONS["clocking_deg"].adjustable, inputs.value("clocking_deg")
    handles = []
    if limits and clocking is not None and any(h.side == "gearbox" for h in plate.holes):
        handles.append(
            Handle(
                address="clocking_deg",
                name="Clocking of the gearbox",
                x=mark[0],
                y=mark[1],
                turns=True,
                value=clocking,
                low=limits.low,
                high=limits.high,
                step=limits.step,
            )
        )
    return Drawing(
        view=VIEW,
        two_sided=True,
        x_low=-reach - 30,
        x_high=reach + 30,
        y_low=-reach - 24,
        y_high=reach + 24,
        shapes=tuple(shapes),
        rounds=tuple(_rounds(plate, inputs)),
        callouts=lettered(question, _anchors(plate, inputs, reach), _sizes(plate)),
        gaps=tuple(
            Gap(finding=f.id, x1=f.stretch[0], y1=f.stretch[1], x2=f.stretch[2], y2=f.stretch[3])
            for f in findings
            if f.stretch is not None
        ),
        handles=tuple(handles),
        notes=(
            Note(text=_side(inputs, "left"), x=-reach - 22, y=0),
            Note(text=_side(inputs, "right"), x=reach + 14, y=0),
        ),
    )


def face_board(question: str) -> Callable[[Inputs, Seen], Board]:
    """The face view as the board of one question of the station, with what it speaks of."""

    def board(inputs: Inputs, seen: Seen) -> Board:
        made = plate_of(inputs)
        own = [f for f in seen.findings if f.question == question and f.verdict in OPEN]
        mass = (
            ()
            if made.mass_kg is None
            else (Reading(name="Plate", value=made.mass_kg, kind="mass", places=2),)
        )
        return Board(drawings=(face_view(inputs, made, question, own),), readings=mass)

    return board
