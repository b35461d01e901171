"""Mounts: what each carries, how far it moves, whether the unit is kept from shaking."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

import numpy as np

from pindo.core.document.words import literal
from pindo.core.drawing.board import Board, Column, Table, TableRow
from pindo.core.geometry import mounts as m
from pindo.core.geometry.bay import AT, mark_at
from pindo.core.geometry.frames import POSE, YAW_DEG, point_in_vehicle, turned_left_up
from pindo.core.geometry.movement import movement_at, on_mounts
from pindo.core.geometry.solids import THICKNESS, clocks, pose_of
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging import plain
from pindo.core.judging.check import Check, Constant, Input
from pindo.core.judging.notice import notice
from pindo.core.judging.question import Question, Seen
from pindo.core.judging.verdict import Finding, Verdict
from pindo.core.stations.seat.common import REST
from pindo.core.stations.seat.views import carried, seat_drawings, unit_points

HUNG = (
    "Nobody under a hung unit; gear and points rated for it. One support is released only when the"
    " other holds."
)
WELD = (
    "Mounts and frame are structural: a competent welder, inspection and the approval of the place."
)
check = partial(Check, station=Station.SEAT, question="seat.mounts", accepts=REST)
Read = Mapping[str, Any]


def firing_limit(
    idle_rpm: Any, cylinders: Any, firings_per_turn: float, isolation_ratio: float
) -> Any:
    """Highest roll mode that still isolates: firing frequency over sqrt(2). [Hz]

    rpm/60 x cylinders/2 for an even-firing four-stroke.
    """
    return idle_rpm / 60.0 * cylinders * firings_per_turn / isolation_ratio


def slot_left(slot_mm: Any, slot_at_mm: Any) -> Any:
    """Slot left on the shorter side. [mm]"""
    return slot_mm / 2.0 - np.abs(slot_at_mm)


def off_mark(n: int, mark: int, behind: tuple[str, ...], yaw: float, read: Read) -> Any:
    """A mount from the mark that it meets in the chassis, seen from above. [mm]

    Parameters
    ----------
    n, mark
        Their numbers.
    behind
        Thicknesses that stand between the block and what the mount is told from.
    yaw
        Of the layout. [deg]
    """
    back, left, up = (read[f"mounts.{n}.{f}"] for f in m.PLACES)
    back = back + sum(read[a] for a in behind)
    left, up = turned_left_up(read, left, up)
    x, y, _ = point_in_vehicle(read, yaw, back, left, up)
    return np.hypot(x + read[mark_at(mark, AT[0])], y - read[mark_at(mark, AT[1])])


def reach(slot_mm: float, mount_meets_max_mm: float) -> float:
    """What slot and hole give each way. [mm]"""
    return slot_mm / 2.0 + mount_meets_max_mm


def meets(inputs: Inputs) -> Iterator[Check]:
    """Mounts that are to meet a mark of the chassis."""
    for mount in inputs.build.mounts:
        if mount.mark is None:
            continue
        behind = THICKNESS if mount.body == "gearbox" else ()
        turn = ("clocking_deg",) if behind and clocks(inputs) else ()
        own = tuple(f"mounts.{mount.n}.{f}" for f in m.PLACES)
        there = tuple(mark_at(mount.mark, f) for f in AT)
        name = f"Mount {mount.n}" + (f", {mount.name}," if mount.name else "")
        slot: dict[str, Input | str] = {"slot_mm": Constant(0.0)}
        if mount.slot:
            slot = {"slot_mm": f"mounts.{mount.n}.slot"}
        yield check(
            id=f"seat.meets.{mount.n}",
            title=f"Mount {mount.n} and its mark in the chassis",
            value=partial(off_mark, mount.n, mount.mark, behind, YAW_DEG[inputs.build.layout]),
            reads=(*POSE, *own, *behind, *turn, *there),
            given=slot,
            at_most=reach,
            says=(
                f"{literal(name)} stands {{value}} from mark {mount.mark}, seen from above; hole"
                " and slot give {limit}"
            ),
            why="A bracket that is made for another place is cut off again.",
        )


def checks(inputs: Inputs) -> Iterator[Check]:
    """Share, squash, movement, load, isolation, slots."""
    yield from meets(inputs)
    body = on_mounts(inputs)
    if body is None:
        return
    for i, mount in enumerate(inputs.build.mounts):
        name = f"Mount {mount.n}" + (f", {mount.name}," if mount.name else "")
        yield check(
            id=f"seat.share.{mount.n}",
            title=f"Weight on mount {mount.n}",
            value=partial(body.share, i),
            reads=body.share_reads,
            at_least="mount_share_min",
            kind="percent",
            caution=HUNG,
            says=f"{literal(name)} carries {{value}} of the weight; needs {{limit}}",
            fouls=f"{literal(name)} is lifted by {{over}} of the weight",
            why="A mount that carries nothing rattles, and its bracket is made for nothing.",
        )
        yield check(
            id=f"seat.squash.{mount.n}",
            title=f"Squash of mount {mount.n}",
            value=partial(body.squash, i),
            reads=body.rest_reads,
            at_most="mount_static_max_mm",
            says=f"{literal(name)} goes down {{value}} under the weight; at most {{limit}}",
            fouls=f"{literal(name)} rises {{over}} under the weight",
            why="Every gap is read after the rubber is loaded: this is by how much it changes.",
        )
        allowed: Any = "mount_travel_max_mm"
        given: dict[str, Input | str] = {}
        if mount.travel:
            allowed, given = plain.given, {"x": f"mounts.{mount.n}.travel"}
        yield check(
            id=f"seat.travel.{mount.n}",
            title=f"Movement at mount {mount.n}",
            value=partial(body.travel, i),
            reads=(*body.rest_reads, *body.torque_reads),
            at_most=allowed,
            given=given,
            says=(
                f"{literal(name)} moves {{value}} at most over torque, braking, bends and bump;"
                " allowed {limit}"
            ),
            why="Rubber tears and hard parts meet.",
        )
        if mount.rating:
            yield check(
                id=f"seat.load.{mount.n}",
                title=f"Load on mount {mount.n} in a bump",
                value=partial(body.bump_load, i),
                reads=body.rest_reads,
                at_most=plain.given,
                given={"x": f"mounts.{mount.n}.rating"},
                kind="force",
                safety=True,
                caution=WELD,
                says=f"{literal(name)} carries {{value}} in a bump; rated {{limit}}",
                why="Screening of the rubber only: bracket and frame are for a competent person.",
            )
        if mount.slot:
            yield check(
                id=f"seat.slot.{mount.n}",
                title=f"Slot left at mount {mount.n}",
                value=slot_left,
                given={
                    "slot_mm": f"mounts.{mount.n}.slot",
                    "slot_at_mm": f"mounts.{mount.n}.slot_at",
                },
                at_least="slot_left_min_mm",
                says=f"{literal(name)} has {{value}} of slot left; needs {{limit}}",
                fouls=f"{literal(name)} stands {{over}} beyond the end of its slot",
                why="A slot at its end cannot be adjusted any more. Start in the middle.",
            )
    if inputs.options.get("mount_type") == "stiff":
        return  # stiff mounts promise no isolation
    firings = 1.0 if inputs.options.get("strokes") == "two-stroke" else 0.5
    yield check(
        id="seat.isolation",
        title="Roll of the unit against its firing",
        value=body.roll_mode,
        reads=(*body.rest_reads, *m.GYRATION),
        at_most=firing_limit,
        kind="frequency",
        given={"firings_per_turn": Constant(firings)},
        says=(
            "Unit turns about its crank at {value} on its mounts; firing at idle wants it below"
            " {limit}"
        ),
        why=(
            "Of its six modes the one with most turn about the crank takes the firing. Above that"
            " the mounts pass on more than solid ones would. Even firing is assumed."
        ),
    )


def notices(inputs: Inputs) -> Iterator[Finding]:
    """Too few mounts to say anything."""
    count = len(inputs.build.mounts)
    if count < 3:
        yield notice(
            "seat.mounts",
            "seat.mounts",
            "Mounts",
            Verdict.UNMEASURED,
            f"Mounts: {count} of 3 are entered, and three at least hold a unit",
            why="Until the mounts are known nobody can say how far the unit moves.",
        )


def _moves(inputs: Inputs) -> Table | None:
    """What each mount carries and how far it moves; None until mass, mounts and ratios are
    known.
    """
    body, matrix = on_mounts(inputs), pose_of(inputs)
    places = {p.mount: p.at for p in unit_points(inputs) if p.mount}
    numbers = [x.n for x in inputs.build.mounts]
    if body is None or matrix is None or any(n not in places for n in numbers):
        return None
    moved = movement_at(inputs, carried(matrix, [places[n] for n in numbers]))
    read = inputs.known(body.rest_reads)
    if moved is None or read is None or not inputs.value("unit_mass_kg"):
        return None
    arrays = {a: np.asarray(v) for a, v in read.items()}
    far = np.linalg.norm(moved, axis=-1)
    rows = tuple(
        TableRow(
            cells=(
                f"{x.n} {x.name}",
                float(body.share(i, arrays)[0]),
                float(body.squash(i, arrays)[0]),
                *map(float, far[:, i]),
            )
        )
        for i, x in enumerate(inputs.build.mounts)
    )
    columns = (
        Column(key="mount", label="mount"),
        Column(key="share", label="carries", kind="percent", places=0),
        *(Column(key=c, label=c, kind="length", places=1) for c in ("squash", *m.CASES)),
    )
    title = "On its mounts: share, squash and movement from rest"
    return Table(key="mounts", title=title, columns=columns, rows=rows)


def _marks(inputs: Inputs) -> Table | None:
    """How each mount stands to the mark that it meets; None while none can be told."""
    matrix = pose_of(inputs)
    at = {p.mount: p.at for p in unit_points(inputs) if p.mount}
    rows = []
    for mount in inputs.build.mounts:
        there = [] if mount.mark is None else [inputs.value(mark_at(mount.mark, f)) for f in AT]
        if matrix is None or not there or None in there or mount.n not in at:
            continue
        (x, y, z) = carried(matrix, [at[mount.n]])[0]
        back, left, up = (float(v or 0.0) for v in there)
        off = (-float(x) - back, float(y) - left, float(z) - up)
        rows.append(TableRow(cells=(f"{mount.n} {mount.name}".strip(), str(mount.mark), *off)))
    columns = (
        Column(key="mount", label="mount"),
        Column(key="mark", label="mark"),
        *(
            Column(key=c, label=c, kind="length", places=1)
            for c in ("behind its mark", "left of it", "above it")
        ),
    )
    title = "From each mark in the chassis to its mount: what a bracket bridges"
    return Table(key="marks", title=title, columns=columns, rows=tuple(rows)) if rows else None


def _modes(inputs: Inputs) -> Table | None:
    """All six modes, lowest first; None until mass, mounts and radii of gyration are known."""
    body = on_mounts(inputs)
    read = None if body is None else inputs.known((*body.rest_reads, *m.GYRATION))
    if body is None or read is None or min(read[a] for a in (*m.GYRATION, "unit_mass_kg")) <= 0.0:
        return None
    with np.errstate(all="ignore"):
        hertz, turn = body.modes({a: np.asarray(v) for a, v in read.items()})
    if not (np.isfinite(hertz).all() and np.isfinite(turn).all()):
        return None
    rows = tuple(
        TableRow(cells=(str(i), float(h), 100.0 * float(t)))
        for i, (h, t) in enumerate(zip(hertz[0], turn[0], strict=True), 1)
    )
    columns = (
        Column(key="mode", label="mode"),
        Column(key="hertz", label="frequency", kind="frequency", places=1),
        Column(key="turn", label="turn about the crank", kind="percent", places=0),
    )
    return Table(key="modes", title="Its six modes on the mounts", columns=columns, rows=rows)


def board(inputs: Inputs, seen: Seen) -> Board:
    """Three views, what the mounts carry, the modes."""
    tables = (_marks(inputs), _moves(inputs), _modes(inputs))
    return Board(
        drawings=seat_drawings(inputs, "seat.mounts"), tables=tuple(t for t in tables if t)
    )


QUESTION = Question(
    path="mounts",
    station=Station.SEAT,
    name="Mounts",
    asks="What does each mount carry, how far does it move, is the shaking kept out?",
    options=("mount_type", "strokes"),
    dimensions={
        "A": "unit_mass_kg",
        "B": "mass_back_mm",
        "C": "mass_left_mm",
        "D": "mass_up_mm",
        "E": "gyration_roll_mm",
        "F": "gyration_pitch_mm",
        "G": "gyration_yaw_mm",
        "H": "first_gear_ratio",
        "J": "reverse_ratio",
        "K": "cylinders",
        "L": "idle_rpm",
        "M": "engine_torque_nm",
    },
    lists=("mounts",),
    checks=checks,
    notices=notices,
    board=board,
    where="engine",
    gaps=True,
)
