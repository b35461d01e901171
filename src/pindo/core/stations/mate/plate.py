"""The plate: do its holes leave metal between them, to its edge, its window and its threads?"""

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

import numpy as np
import shapely

from pindo.core.drawing.board import Board
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import head
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_plates, own_thickness
from pindo.core.inputs.threads import thread_words
from pindo.core.judging.check import Check, Input
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding
from pindo.core.stations.mate import formulas, notches, other_plates, other_plates_drawn, stock
from pindo.core.stations.mate.common import (
    FACE_STATES,
    JOINT,
    MOST_OF_ONE_KIND,
    SURE,
    TEARS,
    Candidate,
    Given,
    Stretch,
    at,
    between,
    millimetres,
    pair,
    place,
    worst,
)
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.outline import Circle, outline, pocket
from pindo.core.stations.mate.placing import (
    Lands,
    PlacedHole,
    all_lands,
    coincide,
    one_dowel,
    placed_holes,
    pocket_turn,
)

check = partial(Check, station=Station.MATE, question="mate.plate", accepts=FACE_STATES)


def to_opening(h: PlacedHole, opening: Circle) -> Stretch:
    """From a hole to the edge of an opening, in the face view. [mm]"""
    across, up = opening.u - h.u, opening.v - h.v
    far = float(np.hypot(across, up))
    share = max(far - opening.d / 2, 0.0) / far if far else 0.0
    return h.u, h.v, h.u + across * share, h.v + up * share


def _overlap(a: PlacedHole, b: PlacedHole) -> Check:
    name = f"{a.label} and {b.label}"
    return check(
        id=f"mate.overlap.{a.label}-{b.label}",
        title=f"Holes {name} overlap",
        value=formulas.ligament,
        given=pair(a, b) | {"d1_mm": millimetres(a.plate_d), "d2_mm": millimetres(b.plate_d)},
        stretch=between(a, b),
        at_least="ligament_min_mm",
        caution=JOINT,
        says=f"Holes {name} leave {{value}} of metal between them; need {{limit}}",
        fouls=f"Holes {name} run {{over}} into each other",
        why=(
            "The drill breaks through and neither screw holds. Turn the gearbox, or leave one hole"
            " out if the castings allow it."
        ),
    )


def _spacing(a: PlacedHole, b: PlacedHole) -> Check:
    name = f"{a.label} and {b.label}"
    return check(
        id=f"mate.spacing.{a.label}-{b.label}",
        title=f"Spacing of {name}",
        value=formulas.centre_distance,
        given=pair(a, b) | {"d0_mm": millimetres(max(a.plate_d, b.plate_d))},
        stretch=between(a, b),
        at_least=formulas.spacing_wanted,
        says=f"Holes {name} are {{value}} apart; need {{limit}}",
        why="The metal between two holes has to carry both screws.",
    )


def spacing_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Spacing and overlap of every two holes of the plate, engine's and gearbox's together."""
    if len(holes) < 2:
        return
    at = np.array([(h.u, h.v, h.plate_d, h.pm) for h in holes])
    i, j = np.triu_indices(len(holes), k=1)
    apart = np.hypot(at[i, 0] - at[j, 0], at[i, 1] - at[j, 1])
    doubt = SURE * np.hypot(at[i, 3], at[j, 3])
    margin = apart - inputs.rules["hole_spacing_factor"] * np.maximum(at[i, 2], at[j, 2])
    metal = apart - (at[i, 2] + at[j, 2]) / 2.0 - inputs.rules["ligament_min_mm"]
    overlaps, spacings = [], []
    two = own_plates(inputs)
    own = [k for k in np.argsort(margin) if not two or holes[i[k]].side == holes[j[k]].side]
    for k in own[: 4 * MOST_OF_ONE_KIND]:
        a, b = holes[i[k]], holes[j[k]]
        if coincide(a, b) or one_dowel(a, b):
            continue
        if metal[k] <= doubt[k]:
            overlaps.append(Candidate(metal[k], doubt[k], partial(_overlap, a, b)))
        else:
            spacings.append(Candidate(margin[k], doubt[k], partial(_spacing, a, b)))
    yield from worst(overlaps)
    yield from worst(spacings)


def _edge(h: PlacedHole, e: float, margin: float) -> Check:
    return check(
        id=f"mate.edge.{h.label}",
        title=f"Edge distance of {h.label}",
        value=formulas.edge_distance,
        given={"base_mm": millimetres(e - margin), "d0_mm": millimetres(h.plate_d)},
        stretch=at(h),
        at_least=formulas.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the plate's edge; needs {{limit}}",
        fouls=f"Hole {h.label} lies {{over}} outside the plate",
        why=TEARS,
    )


def _window(h: PlacedHole) -> Check:
    return check(
        id=f"mate.window.{h.label}",
        title=f"Window at hole {h.label}",
        value=formulas.window_distance,
        given={"u1_mm": h.address("u"), "v1_mm": h.address("v"), "d0_mm": millimetres(h.plate_d)},
        stretch=at(h),
        at_least=formulas.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the window's edge; needs {{limit}}",
        fouls=f"Window swallows hole {h.label} by {{over}}",
        why=TEARS,
        caution=JOINT,
    )


def _pocket(h: PlacedHole, opening: Circle, turn: Input | str) -> Check:
    return check(
        id=f"mate.pocket.{h.label}",
        title=f"Starter pocket at hole {h.label}",
        value=formulas.pocket_distance,
        given=place(1, h) | {"d0_mm": millimetres(h.plate_d), "turn2_deg": turn},
        stretch=to_opening(h, opening),
        at_least=formulas.edge_wanted,
        says=f"Hole {h.label} stands {{value}} from the starter pocket; needs {{limit}}",
        fouls=f"Starter pocket swallows hole {h.label} by {{over}}",
        why=TEARS,
        caution=JOINT,
    )


def edge_checks(inputs: Inputs, holes: list[PlacedHole], lands: Lands) -> Iterator[Check]:
    """Edge distance of each hole towards the outline, the window and the starter pocket."""
    if not holes:
        return
    places = np.array([(h.u, h.v) for h in holes])
    wanted = inputs.rules["edge_factor"] * np.array([h.plate_d for h in holes])
    doubt = SURE * np.array([h.pm for h in holes])
    shape, margin = outline(inputs, holes, lands), inputs.value("outline_margin_mm")
    if shape is not None and margin is not None:
        points = shapely.points(places)
        e = shapely.distance(shape.exterior, points) * np.where(
            shapely.contains(shape, points), 1.0, -1.0
        )
        yield from worst(
            Candidate(
                e[k] - wanted[k],
                SURE * inputs.quantities["outline_margin_mm"].pm,
                partial(_edge, h, float(e[k]), margin),
            )
            for k, h in enumerate(holes)
        )
    if diameter := inputs.value("window_mm"):
        room = np.hypot(places[:, 0], places[:, 1]) - diameter / 2 - wanted
        yield from worst(
            Candidate(room[k], doubt[k], partial(_window, h)) for k, h in enumerate(holes)
        )
    if (opening := pocket(inputs)) is not None:
        room = np.hypot(places[:, 0] - opening.u, places[:, 1] - opening.v) - opening.d / 2 - wanted
        yield from worst(
            Candidate(room[k], doubt[k], partial(_pocket, h, opening, pocket_turn(inputs)))
            for k, h in enumerate(holes)
        )


def _in_plate(inputs: Inputs, h: PlacedHole) -> Given:
    """Thickness of the plate that a hole is in: the whole, or its own of two."""
    if not own_plates(inputs):
        return {"whole_mm": "plate_mm", "other_mm": millimetres(0.0)}
    if h.side == "engine":
        return {"whole_mm": "plate_first_mm", "other_mm": millimetres(0.0)}
    return {"whole_mm": "plate_mm", "other_mm": "plate_first_mm"}


def _floor(inputs: Inputs, h: PlacedHole) -> Check:
    return check(
        id=f"mate.recess.{h.label}",
        title=f"Plate under the recess of {h.label}",
        value=formulas.recess_floor,
        given=_in_plate(inputs, h)
        | {
            "recess_mm": h.address("recess"),
            "factor": "recess_floor_factor",
            "d_mm": millimetres(h.d),
        },
        stretch=at(h),
        at_least=formulas.times_diameter,
        says=f"Plate has {{value}} left under the recess of {h.label}; needs {{limit}}",
        fouls=f"Recess of {h.label} goes {{over}} through the plate",
        why="The head pulls through a thin floor.",
    )


def floor_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """The plate left under each recess."""
    floors = []
    for h in holes:
        thickness = own_thickness(inputs, h.side)
        recess = inputs.value(h.address("recess"))
        if (
            h.hole.role == "dowel"
            or recess is None
            or thickness is None
            or not head(h.hole.fastening or "", h.d)
        ):
            continue
        left = thickness - recess - inputs.rules["recess_floor_factor"] * h.d
        doubt = SURE * inputs.quantities[h.address("recess")].pm
        floors.append(Candidate(left, doubt, partial(_floor, inputs, h)))
    yield from worst(floors)


def thread_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Thread engagement in the plate, of the hole with the least."""
    material = inputs.options.get("plate_material", "steel")
    rule = "thread_aluminium_factor" if material == "aluminium" else "thread_steel_factor"
    tapped = [h for h in holes if h.hole.fastening == "tapped" and h.hole.role == "bolt"]

    def room(h: PlacedHole) -> float:
        thickness = own_thickness(inputs, h.side) or 0.0
        return (
            min(thickness, inputs.value(h.address("depth")) or thickness) - inputs.rules[rule] * h.d
        )

    if tapped:
        h = min(tapped, key=room)
        deep: Given = (
            {"depth_mm": h.address("depth")} if inputs.value(h.address("depth")) is not None else {}
        )
        value = formulas.thread_in_plate if deep else formulas.own_plate
        yield check(
            id="mate.thread",
            title="Thread engagement in the plate",
            value=value,
            given=_in_plate(inputs, h) | {"factor": rule, "d_mm": millimetres(h.d)} | deep,
            stretch=at(h),
            at_least=formulas.times_diameter,
            caution="Screening only, not an approval of the joint.",
            says=(
                f"{thread_words(h.d, h.pitch)} at {h.label} has {{value}} of thread in the plate"
                f" ({material}); needs {{limit}}"
            ),
            why=(
                "The screw should break before the thread strips, and the softer metal strips"
                " first."
            ),
        )


def checks(inputs: Inputs) -> Iterator[Check]:
    """What follows clocking, plate and openings, where the faces do not meet without a plate; and
    the same of every other plate.
    """
    yield from other_plates.checks(inputs)
    if inputs.value("plate_mm") == 0.0:
        return
    holes = placed_holes(inputs)
    yield from spacing_checks(inputs, holes)
    yield from edge_checks(inputs, holes, all_lands(inputs))
    yield from floor_checks(inputs, holes)
    yield from thread_checks(inputs, holes)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Stock that holds the plate, and what other plates let through."""
    yield from stock.notices(inputs)
    yield from other_plates.notices(inputs)
    yield from notches.notices(inputs)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The plate with what is cut, in what order it is drilled, and what it is cut from."""
    made = face_board("mate.plate")(inputs, seen)
    tables = (stock.table(inputs), stock.drilling(inputs), other_plates_drawn.table(inputs))
    cut = notches.shapes(inputs)
    made = replace(
        made, drawings=tuple(replace(d, shapes=(*d.shapes, *cut)) for d in made.drawings)
    )
    others = other_plates_drawn.drawings(inputs)
    if others:
        first = tuple(replace(d, name="Adapter") for d in made.drawings)
        made = replace(made, drawings=(*first, *others))
    return replace(made, tables=tuple(t for t in tables if t.rows))


QUESTION = Question(
    path="plate",
    station=Station.MATE,
    name="Plate",
    asks="Do its holes leave metal between them, to its edge and its window?",
    options=("plate_at", "plates", "plate_material", "outline"),
    lists=("sheets", "plates"),
    dimensions={
        "A": "clocking_deg",
        "B": "window_mm",
        "C": "outline_margin_mm",
        "D": "plate_mm",
        "E": "separator_mm",
        "F": "plate_first_mm",
    },
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    files=(
        ("plate.dxf", "DXF"),
        ("plate.svg", "SVG"),
        ("plate.pdf", "1:1 on A4"),
        ("plate.pdf?paper=A3", "A3"),
        ("plate.pdf?paper=Letter", "Letter"),
        ("plate.pdf?of=wood", "for wood"),
        ("plate.stl", "STL"),
        ("other-plates.dxf", "others DXF"),
        ("other-plates.pdf", "others 1:1"),
        ("plate.csv", "drilling table"),
    ),
    where="block face",
)
