"""The Mate board: both patterns and the plate, seen from behind, forwards. x is u, y is v."""

from pindo.core.dimensions import DIMENSIONS, LEDGERS, Station
from pindo.core.drawing import Callout, Drawing, Gap, Handle, Note, Point, Round, Shape
from pindo.core.frames import clocked
from pindo.core.mate.fasteners import head
from pindo.core.mate.pattern import SIDES, placed_lands
from pindo.core.mate.plate import Plate
from pindo.core.resolve import Inputs

VIEW = "seen from behind, forwards"
BLANK_MM = 150.0  # half-width of the picture while there are no holes


def _rounds(plate: Plate, inputs: Inputs) -> list[Round]:
    found = []
    for side in SIDES:
        found += [Round(part=f"{side} casting", x=x.u, y=x.v, d=x.d, style="land", label=x.name if x.size_field == "d" else "") for x in placed_lands(inputs, side)]
    for opening, name in ((plate.window, "window"), (plate.pocket, "starter pocket")):
        if opening:
            found.append(Round(part=name, x=opening.u, y=opening.v, d=opening.d, style="opening"))
    for h in plate.holes:
        size = head(h.hole.fastening or "", h.d)
        if size:
            found.append(Round(part=f"{h.label} head", x=h.u, y=h.v, d=size.circle, style="head"))
        style = "dowel" if h.hole.role == "dowel" else "tapped" if h.hole.fastening == "tapped" else "hole"
        found.append(Round(part=h.side, x=h.u, y=h.v, d=h.plate_d, style=style, label=h.label))
    return found


def _gap(finding: str, at: dict[str, Point], plate: Plate) -> Gap | None:
    """Where a finding about holes shows: its id ends in one hole or two (``E3-G5``)."""
    names = finding.rpartition(".")[2].split("-")
    if not all(n in at for n in names):
        return None
    x1, y1 = at[names[0]]
    if len(names) == 2:
        x2, y2 = at[names[1]]
    elif ".pocket." in finding and plate.pocket:
        x2, y2 = plate.pocket.u, plate.pocket.v
        far = ((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5
        share = max(far - plate.pocket.d / 2, 0.0) / far if far else 0.0
        x2, y2 = x1 + (x2 - x1) * share, y1 + (y2 - y1) * share
    else:
        x2, y2 = x1, y1
    return Gap(finding=finding, x1=x1, y1=y1, x2=x2, y2=y2)


def _anchors(plate: Plate, inputs: Inputs, reach: float) -> dict[str, Point]:
    found: dict[str, Point] = {"clocking_deg": _clocking_mark(inputs, reach)}
    if plate.window:
        found["window_mm"] = (-plate.window.d / 2 * 0.5, -plate.window.d / 2 * 0.866)
    if plate.pocket:
        found |= {"pocket_u_mm": (plate.pocket.u, plate.pocket.v), "pocket_v_mm": (plate.pocket.u + 3, plate.pocket.v - 3), "pocket_mm": (plate.pocket.u - plate.pocket.d / 2, plate.pocket.v)}
    if plate.outline:
        low = min(plate.outline, key=lambda p: p[1])
        right = max(plate.outline, key=lambda p: p[0])
        found |= {"outline_margin_mm": low, "plate_mm": right}
    return found


def _clocking_mark(inputs: Inputs, reach: float) -> Point:
    u, v = clocked(0.0, reach + 12, inputs.value("clocking_deg") or 0.0)
    return float(u), float(v)


def face_view(inputs: Inputs, plate: Plate, findings: tuple[str, ...] = ()) -> Drawing:
    """The picture of the plate with both patterns; ``findings`` are the ids to mark in it."""
    points = [*plate.outline, *((h.u, h.v) for h in plate.holes)]
    reach = max((max(abs(x), abs(y)) for x, y in points), default=BLANK_MM)
    at = {h.label: (h.u, h.v) for h in plate.holes}
    shapes = [
        Shape(part="crank axis", points=((-12, 0), (12, 0)), style="axis", closed=False),
        Shape(part="crank axis", points=((0, -12), (0, 12)), style="axis", closed=False),
    ]
    mark = _clocking_mark(inputs, reach)
    shapes.append(Shape(part="gearbox 12 o'clock", points=((0, 0), mark), style="hidden", closed=False))
    if plate.outline:
        shapes.insert(0, Shape(part="plate", points=plate.outline, style="body"))
    limits, clocking = DIMENSIONS["clocking_deg"].adjustable, inputs.value("clocking_deg")
    handles = []
    if limits and clocking is not None and any(h.side == "gearbox" for h in plate.holes):
        handles.append(Handle(address="clocking_deg", name="Clocking of the gearbox", x=mark[0], y=mark[1], turns=True, value=clocking, low=limits.low, high=limits.high, step=limits.step))
    letters = LEDGERS[Station.MATE]
    return Drawing(
        view=VIEW,
        x_low=-reach - 30,
        x_high=reach + 30,
        y_low=-reach - 24,
        y_high=reach + 24,
        shapes=tuple(shapes),
        rounds=tuple(_rounds(plate, inputs)),
        callouts=tuple(Callout(letter=letters[key], address=key, x=x, y=y) for key, (x, y) in _anchors(plate, inputs, reach).items()),
        gaps=tuple(g for f in findings if (g := _gap(f, at, plate)) is not None),
        handles=tuple(handles),
        notes=(Note(text="left", x=-reach - 22, y=0), Note(text="right", x=reach + 14, y=0)),
    )
