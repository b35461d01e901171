"""The starter's opening: does its body pass plate, shield and housing on its way in, do its bolts
come out, and is its mesh proved?
"""

import math
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from itertools import pairwise

import numpy as np
import shapely
from shapely import MultiPolygon, Polygon

from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.drawing.shapes import Shape
from pindo.core.inputs.couplings import bellhoused
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.judging.notice import in_both, notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict, decide
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.common import (
    FACE_STATES,
)
from pindo.core.stations.mate.cut_out import findings
from pindo.core.stations.mate.face_view import face_board
from pindo.core.stations.mate.outline import Plate, plate_of
from pindo.core.stations.mate.trim_cut import FINE, Traced, of_role

check = partial(Check, station=Station.MATE, question="mate.starter", accepts=FACE_STATES)
KEY = "mate.starter"
WHY = "The body and its bolts have to pass, not the pinion alone; the window is cut once."


def drawn_out(starter_bolt_mm: float, tool_room_mm: float) -> float:
    """Room that it takes to draw a bolt: its length, and the tool behind its head. [mm]"""
    return starter_bolt_mm + tool_room_mm


def room(starter_bolt_room_mm: float) -> float:
    """Room behind the head of a bolt. [mm]"""
    return starter_bolt_room_mm


def checks(inputs: Inputs) -> Iterator[Check]:
    """The opening for the starter against the starter's own body; room to draw its bolts."""
    if inputs.value("pocket_mm"):
        yield check(
            id="mate.pocket_body",
            title="Starter through its pocket",
            value=formulas.pocket_room,
            at_least="starter_window_gap_mm",
            says="Starter has {value} of room all round in its pocket; needs {limit}",
            fouls="Starter is {over} too large for its pocket all round",
            why=WHY,
        )
    if side := inputs.options.get("starter_bolts_from"):
        yield check(
            id="mate.starter_bolt",
            title="Starter bolts come out again",
            value=room,
            at_least=drawn_out,
            says=f"Behind the starter's bolts, from {side}, is {{value}}; to draw them takes"
            " {limit}",
            why="A starter that fails is changed on the road: its bolts come out without the box.",
        )


def window(inputs: Inputs) -> tuple[Polygon | MultiPolygon, float] | None:
    """The window to cut: every traced section of the body swept along its way in and grown by its
    room, and the doubt of its line; None until a section is traced. [mm]
    """
    bodies = [t for t in of_role(inputs, "starter body") if t.region is not None]
    if not bodies or _lost_ways(inputs):
        return None
    passed, doubts = [], []
    for t in bodies:
        told = (inputs.quantities.get(f"outlines.{t.row.n}.way_{x}") for x in ("x", "y"))
        way = [(q.value or 0.0, q.pm) if q is not None else (0.0, 0.0) for q in told]
        passed.append(along_way(t.region, (way[0][0], way[1][0])) if t.region else None)
        doubts += [t.pm, way[0][1], way[1][1]]
    room = inputs.rules["starter_window_gap_mm"]
    return shapely.union_all(passed).buffer(room, quad_segs=FINE), max(doubts)


def _lost_ways(inputs: Inputs) -> list[Traced]:
    """Sections whose way in was said and does not stand."""
    found = []
    for t in of_role(inputs, "starter body"):
        told = [inputs.quantities.get(f"outlines.{t.row.n}.way_{x}") for x in ("x", "y")]
        said = (t.row.way_x, t.row.way_y)
        if any(s and (q is None or q.value is None) for s, q in zip(said, told, strict=True)):
            found.append(t)
    return found


def along_way(body: Polygon | MultiPolygon, way: tuple[float, float]) -> Polygon | MultiPolygon:
    """Everything that a body passes over on a straight way: both ends, and what each of its edges
    sweeps. [mm]
    """
    if not any(way):
        return body
    end = shapely.transform(body, lambda p: p + list(way))
    edges = [
        (a, b)
        for part in shapely.get_parts(body)
        for a, b in pairwise(shapely.get_coordinates(part.exterior))
    ]
    strips = [shapely.MultiPoint([a, b, a + way, b + way]).convex_hull for a, b in edges]
    return shapely.union_all([body, end, *strips])


def _window(inputs: Inputs) -> Iterator[Finding]:
    """The swept window against the pocket that is drawn, and what it leaves of the plate."""
    found, plate = window(inputs), plate_of(inputs)
    if found is None:
        return
    region, pm = found
    factor = inputs.rules["guard_band_factor"] / 2.0
    if plate.pocket is not None:
        corners = shapely.get_coordinates(region) - (plate.pocket.u, plate.pocket.v)
        spare = plate.pocket.d / 2 - float(np.hypot(*corners.T).max())
        yield notice(
            "mate.starter_window.pocket",
            KEY,
            "Swept starter body in its pocket",
            decide(spare, factor * math.hypot(pm, inputs.quantities["pocket_mm"].pm / 2)),
            in_both(
                "The swept body with its room {at} {spare}"
                + ("" if spare >= 0 else ": cut the window by its own line"),
                "leaves in the round pocket" if spare >= 0 else "stands out of the round pocket by",
                1,
                spare=abs(spare),
            ),
            why=WHY,
        )
    yield from findings(inputs, "mate.starter_window", KEY, "starter's window", region, pm)


def notices(inputs: Inputs) -> Iterator[Finding]:
    """The swept window, and what a trial without the flywheel proves."""
    for t in _lost_ways(inputs):
        yield notice(
            f"mate.starter_way.{t.row.n}",
            KEY,
            f"Way in of {t.name}",
            Verdict.UNMEASURED,
            f"The way in of {t.name} was said and does not stand: no window is drawn",
            why="A body that has farther to go wants a longer window.",
            row=f"outlines.{t.row.n}",
        )
    yield from _window(inputs)
    tried = inputs.options.get("starter_tried")
    if tried == "flywheel off":
        yield notice(
            "mate.starter_mesh",
            KEY,
            "Starter tried without the flywheel",
            Verdict.UNMEASURED,
            "The starter was tried with the flywheel off: that proves its window, not its mesh nor"
            " its parked gap",
            why="Depth of mesh and the parked gap are read with the ring gear in place.",
        )
    if window(inputs) is not None and not inputs.options.get("starter_on"):
        yield notice(
            "mate.starter_face",
            KEY,
            "What the starter bolts to",
            Verdict.UNMEASURED,
            "Nobody has said whether the starter bolts to engine, plate or housing: the window"
            " stays still or turns with the gearbox by that",
            why="A starter thought to bolt to the housing had its window cut twice.",
        )


def lines(inputs: Inputs) -> tuple[tuple[tuple[float, float], ...], ...]:
    """The window's own line, for the plate's drawings. [mm]"""
    found = window(inputs)
    if found is None:
        return ()
    parts = shapely.get_parts(found[0])
    return tuple(tuple((float(x), float(y)) for x, y in p.exterior.coords[:-1]) for p in parts)


def _sheets(inputs: Inputs, plate: Plate) -> Table:
    """What the window is cut from."""
    columns = (
        Column(key="from", label="cut from"),
        Column(key="how", label="how"),
    )
    on = inputs.options.get("starter_on") or "what nobody has said"
    turns = "turns with the gearbox" if on == "housing" else "stays with the engine"
    found = window(inputs)
    size = ""
    if found is not None:
        x1, y1, x2, y2 = found[0].bounds
        size = f", {x2 - x1:.0f} x {y2 - y1:.0f} mm over all"
    rows = (
        TableRow(cells=("plate", f"by the window's line{size}; it {turns}")),
        TableRow(cells=("dust shield", "by the same line, laid on by the engine's dowels")),
        TableRow(cells=("housing", "by the same line where it stands in the way: look before")),
        TableRow(
            cells=(
                f"thread in the {on}",
                "the starter's bolts pass the plate free: their threads in it are drilled out",
            )
        ),
    )
    return Table(key="window", title="Window to cut", columns=columns, rows=rows)


def board(inputs: Inputs, seen: Seen) -> Board:
    """The face with the swept window, and what it is cut from."""
    made, cut = face_board(KEY)(inputs, seen), lines(inputs)
    bodies: list[Traced] = [t for t in of_role(inputs, "starter body") if t.region is not None]
    if not cut:
        return made
    shapes = [Shape(part="starter window", points=ring, style="opening") for ring in cut]
    shapes += [
        Shape(part=t.name, points=tuple(t.region.exterior.coords[:-1]), style="thin")
        for t in bodies
        if t.region is not None
    ]
    drawings = tuple(replace(d, shapes=(*d.shapes, *shapes)) for d in made.drawings)
    return replace(made, drawings=drawings, tables=(_sheets(inputs, plate_of(inputs)),))


QUESTION = Question(
    path="starter",
    station=Station.MATE,
    name="Starter",
    asks="Does the starter pass the plate?",
    options=("starter_on", "starter_bolts_from", "starter_tried"),
    dimensions={
        "A": "pocket_u_mm",
        "B": "pocket_v_mm",
        "C": "pocket_mm",
        "D": "starter_body_mm",
        "G": "starter_bolt_mm",
        "H": "starter_bolt_room_mm",
    },
    when=bellhoused,
    checks=checks,
    notices=notices,
    board=board,
    where="block face",
)
