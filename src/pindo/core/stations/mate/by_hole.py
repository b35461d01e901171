"""Hole by hole: room for head, washer and socket on both faces, and what stands behind them."""

import math
from collections.abc import Iterator
from functools import partial
from itertools import combinations

from pindo.core.drawing.board import Column, Table, TableRow
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import HEXAGONS, Head, head, on_face, socket, washer
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_plates, own_thickness
from pindo.core.judging.check import Check
from pindo.core.judging.notice import notice
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.as_drilled import drilled_checks, off_place
from pindo.core.stations.mate.common import (
    FACE_STATES,
    OTHER_SIDE,
    SURE,
    WIDEST_LAND,
    Candidate,
    at,
    between,
    millimetres,
    pair,
    worst,
)
from pindo.core.stations.mate.outline import recess_across
from pindo.core.stations.mate.placing import PlacedHole, all_lands, coincide, face_of, label_of

KEY = "mate.screws"
THROUGH = ("tapped", "nut")
"""Screws of the gearbox that go through its flange."""

check = partial(Check, station=Station.MATE, question=KEY, accepts=FACE_STATES)


def turned_within(h: PlacedHole, wall_mm: float) -> float | None:
    """Circle that it takes to turn a screw: of its socket, or its head alone where the key goes
    into it; None where the table does not hold it. [mm]
    """
    size = head(h.hole.fastening or "", h.d)
    if h.hole.fastening in HEXAGONS:
        return socket(h.hole.fastening or "", h.d, wall_mm)
    return None if size is None else size.circle


def _on_one_face(a: PlacedHole, b: PlacedHole) -> bool:
    """Whether both heads stand on the same face of the plate."""
    return a.side == b.side and a.hole.fastening in HEXAGONS and a.hole.role == "bolt"


def _socket(a: PlacedHole, b: PlacedHole, circle: float, other: Head) -> Check:
    return check(
        id=f"mate.socket.{a.label}-{b.label}",
        title=f"Socket at {a.label} beside {b.label}",
        value=formulas.ligament,
        given=pair(a, b) | {"d1_mm": millimetres(circle), "d2_mm": millimetres(other.circle)},
        stretch=between(a, b),
        at_least=zero_room,
        says=f"A socket on {a.label} clears the head at {b.label} by {{value}}",
        fouls=f"No socket goes on {a.label}: the head at {b.label} stands {{over}} in it",
        why="A screw that no socket reaches is tightened by feel. Turn one from within instead.",
    )


def zero_room() -> float:
    """A socket may touch its neighbour. [mm]"""
    return 0.0


def socket_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Sockets beside the heads of their neighbours."""
    wall, found = inputs.rules["socket_wall_mm"], []
    for one, other in combinations(holes, 2):
        for a, b in ((one, other), (other, one)):
            beside = head(b.hole.fastening or "", b.d)
            if not _on_one_face(a, b) or beside is None or b.hole.role != "bolt":
                continue
            circle = turned_within(a, wall)
            if circle is None or coincide(a, b):
                continue
            room = math.hypot(a.u - b.u, a.v - b.v) - (circle + beside.circle) / 2.0
            doubt = SURE * math.hypot(a.pm, b.pm)
            found.append(Candidate(room, doubt, partial(_socket, a, b, circle, beside)))
    yield from worst(found)


def _merged(a: PlacedHole, b: PlacedHole, across: float, other: float) -> Check:
    return check(
        id=f"mate.recess_beside.{a.label}-{b.label}",
        title=f"Recess of {a.label} beside {b.label}",
        value=formulas.ligament,
        given=pair(a, b) | {"d1_mm": millimetres(across), "d2_mm": millimetres(other)},
        stretch=between(a, b),
        at_least="ligament_min_mm",
        says=f"The recess of {a.label} leaves {{value}} of metal beside {b.label}; needs {{limit}}",
        fouls=f"The recess of {a.label} runs {{over}} into {b.label}",
        why="A cutter that runs into a hole wanders, and the head loses part of its seat.",
    )


def recess_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Recesses beside the holes, and the recesses in the same face, of their neighbours."""
    found, sunk = [], [(h, recess_across(inputs, h)) for h in holes]
    for a, across in sunk:
        if across is None:
            continue
        for b, wide in sunk:
            both = wide is not None and b.side == a.side
            if own_plates(inputs) and b.side != a.side:
                continue
            if b is a or coincide(a, b) or (both and a.label > b.label):
                continue
            other = max(wide or 0.0, b.plate_d) if both else b.plate_d
            room = math.hypot(a.u - b.u, a.v - b.v) - (across + other) / 2.0
            room -= inputs.rules["ligament_min_mm"]
            doubt = SURE * math.hypot(a.pm, b.pm)
            found.append(Candidate(room, doubt, partial(_merged, a, b, across, other)))
    yield from worst(found)


def _free(h: PlacedHole, circle: float, what: str) -> Check:
    return check(
        id=f"mate.free.{h.label}",
        title=f"Room round the screw at {h.label}",
        value=formulas.free_room,
        given={"free_mm": h.address("free"), "circle_mm": millimetres(circle)},
        stretch=at(h),
        at_least=zero_room,
        says=f"Screw {h.label} has {{value}} round its {what} on the {h.side}",
        fouls=f"A wall or nib stands {{over}} in the way of the {what} at {h.label}",
        why="It is seen upside down, late: a nib is ground off, or the screw goes in elsewhere.",
    )


def _bell_screw(h: PlacedHole, wall: float) -> tuple[float, str] | None:
    """What a screw through the bell's flange needs round it there: its washer, and its socket."""
    circle, plain = socket("hex head", h.d, wall), washer(h.d)
    if circle is None or plain is None:
        return None
    return (circle, "socket") if circle >= plain[0] else (plain[0], "washer")


def free_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Washer and socket on the bell's flange, where the free circle was read."""
    wall, found = inputs.rules["socket_wall_mm"], []
    for h in holes:
        if h.side != "gearbox" or h.hole.role != "bolt" or h.hole.fastening not in THROUGH:
            continue
        free, needs = inputs.value(h.address("free")), _bell_screw(h, wall)
        if free is not None and needs is not None:
            u = inputs.quantities[h.address("free")].pm
            found.append(Candidate((free - needs[0]) / 2.0, SURE * u, partial(_free, h, *needs)))
    yield from worst(found)


def checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Sockets, recesses, free circles, holes as drilled."""
    yield from socket_checks(inputs, holes)
    yield from recess_checks(inputs, holes)
    yield from free_checks(inputs, holes)
    yield from drilled_checks(inputs, holes)


def notices(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Finding]:
    """What stands behind the bell's flange, and where nobody has said what room a screw has."""
    if own_plates(inputs) and not inputs.build.locators:
        yield notice(
            "mate.two_plates",
            KEY,
            "Joint between the two plates",
            Verdict.UNMEASURED,
            "Two plates have a joint of their own: enter among the locators what holds it in line",
            why="Each joint more is a float more: two plates want dowels between them too.",
        )
    through = [
        h for h in face_of(inputs, "gearbox").holes if h.role == "bolt" and h.fastening in THROUGH
    ]
    unknown = [h for h in through if h.backing == "unknown"]
    why = "A screw passes only an open hole; one into oil or water leaks for ever."
    if unknown:
        labels = ", ".join(label_of("gearbox", h.n) for h in unknown)
        yield notice(
            "mate.flange_unknown",
            KEY,
            "What stands behind the bell's flange",
            Verdict.UNMEASURED,
            f"Behind the flange at {labels} nobody has said what there is",
            why=why,
            row=f"gearbox.{unknown[0].n}",
        )
    blind = [h for h in through if h.backing in ("metal", "oil", "water")]
    if blind:
        told = ", ".join(f"{h.backing} behind {label_of('gearbox', h.n)}" for h in blind)
        yield notice(
            "mate.flange",
            KEY,
            "Open holes in the bell's flange",
            Verdict.FOULS,
            f"A screw has to pass and does not: {told}",
            why="A blind hole is opened before the plate goes on; towards oil or water, never. "
            + why,
            caution="Never drill towards an unknown wall.",
            row=f"gearbox.{blind[0].n}",
        )
    bare = [h for h in through if not h.free]
    if bare:
        labels = ", ".join(label_of("gearbox", h.n) for h in bare)
        yield notice(
            "mate.free",
            KEY,
            "Room for heads on the bell's flange",
            Verdict.UNMEASURED,
            f"Room for head, washer and socket at {labels} is not measured: to the next wall or nib"
            " of the bell",
            why='"Fits straight on", and one nib stops one screw: look at every one before.',
            row=f"gearbox.{bare[0].n}",
        )


def backing(inputs: Inputs) -> Iterator[Finding]:
    """What stands behind the screw holes of the engine."""
    bolts = [h for h in inputs.build.engine_face.holes if h.role == "bolt"]
    caution = "Never drill towards an unknown wall."
    why = "A screw into oil or water leaks, one into air holds nothing, and a drill goes through."
    if unknown := [h for h in bolts if h.backing == "unknown"]:
        yield notice(
            "mate.backing_unknown",
            KEY,
            "What stands behind the engine's holes",
            Verdict.UNMEASURED,
            f"Behind {', '.join(label_of('engine', h.n) for h in unknown)} nobody has said what"
            " there is",
            why=why,
            caution=caution,
            row=f"engine.{unknown[0].n}",
        )
    if wrong := [h for h in bolts if h.backing not in ("unknown", "metal")]:
        yield notice(
            "mate.backing",
            KEY,
            "Metal behind the engine's holes",
            Verdict.FOULS,
            "Not metal behind the holes: "
            + ", ".join(f"{h.backing} behind {label_of('engine', h.n)}" for h in wrong),
            why=why,
            caution=caution,
            row=f"engine.{wrong[0].n}",
        )


def proposed(inputs: Inputs, h: PlacedHole, holes: list[PlacedHole]) -> tuple[str, str]:
    """What fastens a hole best, and why: as the plate's thickness and the other casting allow."""
    thickness = own_thickness(inputs, h.side)
    if thickness is None:
        return "", "the plate's thickness is not known"
    if h.side == "gearbox":
        metal = inputs.options.get("plate_material", "steel")
        factor = inputs.rules[
            "thread_aluminium_factor" if metal == "aluminium" else "thread_steel_factor"
        ]
        if thickness >= factor * h.d:
            return "tapped", f"{thickness:g} mm of {metal} hold the thread, {factor:g} diameters"
        return "nut", f"{thickness:g} mm of {metal} are too thin for the thread"
    over = "the second plate" if own_plates(inputs) else _land_over(inputs, h, holes)
    floor = inputs.rules["recess_floor_factor"] * h.d
    deep = inputs.rules["head_sunk_min_mm"]
    if not over:
        return "hex head", "no land of the bell lies over it"
    cap, flush = head("cap head", h.d), head("countersunk", h.d)
    if cap is not None and thickness - cap.height - deep >= floor:
        return "cap head", f"{over} lies over it and a counterbore leaves enough"
    if flush is not None and thickness - flush.height - deep >= floor:
        return "countersunk", f"{over} lies over it and only a countersink leaves enough"
    return "", f"{over} lies over it and the plate is too thin for any head"


def _land_over(inputs: Inputs, h: PlacedHole, holes: list[PlacedHole]) -> str:
    """What of the other casting may lie over the head of a hexagon here; empty for nothing."""
    size = on_face("hex head", h.d)
    if size is None:
        return "something unknown"
    reach = size.circle / 2 + inputs.rules["head_side_gap_mm"] + h.pm
    lands = [(x.name, x.u, x.v, x.d) for x in all_lands(inputs)[OTHER_SIDE[h.side]]]
    lands += [
        (f"{x.label}, whose land is not measured,", x.u, x.v, WIDEST_LAND * x.d)
        for x in holes
        if x.side != h.side and inputs.value(x.address("land")) is None
    ]
    over = [name for name, u, v, d in lands if math.hypot(u - h.u, v - h.v) < reach + d / 2]
    return over[0] if over else ""


def table(inputs: Inputs, holes: list[PlacedHole]) -> Table:
    """Every screw with what fastens it, the reason of what is proposed, and what stands behind."""
    rows = []
    for h in holes:
        if h.hole.role != "bolt":
            continue
        best, why = proposed(inputs, h, holes)
        off = off_place(inputs, h)
        rows.append(
            TableRow(
                cells=(
                    h.called,
                    h.hole.fastening or "not said",
                    best or "none",
                    why,
                    h.hole.backing,
                    off or None,
                ),
                address=f"{h.side}.{h.hole.n}",
                mark="" if h.hole.fastening else "unmeasured",
            )
        )
    columns = (
        Column(key="hole", label="hole"),
        Column(key="has", label="fastened by"),
        Column(key="best", label="proposed"),
        Column(key="why", label="because"),
        Column(key="behind", label="behind it"),
        Column(key="off", label="drilled off", kind="length", places=2),
    )
    return Table(key="by_hole", title="Hole by hole", columns=columns, rows=tuple(rows), first=8)
