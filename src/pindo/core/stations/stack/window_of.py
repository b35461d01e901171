"""The window of plate and crank spacer thickness: half-planes from the straight pieces, each drawn
in by its doubt, and what they leave. [mm]
"""

from dataclasses import dataclass

import numpy as np

from pindo.core.geometry.window import (
    Interval,
    Middle,
    Polygon,
    conflict,
    interval,
    middle,
    opening,
    polygon,
)
from pindo.core.inputs.dimensions import DIMENSIONS, Adjustable
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.uncertainty import outcome
from pindo.core.stations.stack.pieces import (
    CHOSEN,
    Piece,
    Pieces,
    made_u,
    pieces,
    planned_inputs,
    values_at,
)

PLATE, SPACER, SHIM = range(3)
UNHELPED = frozenset({"crank", "engine", "plate", "crank spacer", "shield", "block"})
"""Parts of which no other is fitted to open a window."""
NOT_CHANGED = frozenset({"disc_wear_mm", "nose_chamfer_mm", "finger_travel_mm"})
"""Sizes that no other part is chosen by."""
MOST_CHANGE = 60.0
"""Largest change of a part that is looked at. [mm]"""
STEP = 1.0
"""Change with which a slope is taken; the pieces are straight. [mm]"""


@dataclass(frozen=True, kw_only=True)
class Edge:
    """A half-plane of the window and what it is called."""

    title: str
    finding: str
    piece: Piece | None
    """None for a bound of what can be made."""


@dataclass(frozen=True, kw_only=True)
class Window:
    """What plate and crank spacer may be together."""

    pieces: Pieces
    edges: tuple[Edge, ...]
    slope: np.ndarray
    room: np.ndarray
    counts: np.ndarray
    polygon: Polygon
    middle: Middle | None
    helpless: tuple[Piece, ...]
    """Pieces that hold none of the two and do not go."""
    shim: float | None
    """The shim that it is worked out with; None where nobody has said one."""
    free: Polygon
    """The same with whatever shim each place wants."""
    closed_by: tuple[int, ...]
    """Half-planes that conflict where it is empty."""
    sure: bool
    """Whether it is empty for certain: without any doubt taken off."""

    @property
    def known(self) -> bool:
        """Whether anything bounds it but what can be made."""
        return bool(self.counts.any())


def bounds_of(axis: int) -> Adjustable:
    """What one of the three can be made as."""
    found = DIMENSIONS[CHOSEN[axis]].adjustable
    assert found is not None
    return found


def doubt(inputs: Inputs, found: tuple[Piece, ...], u: np.ndarray) -> np.ndarray:
    """Expanded uncertainty of each piece with the three made to ``u``, shape (k,). [mm]"""
    slope = np.array([p.slope for p in found]).reshape(-1, 3)
    rest = np.array([p.u for p in found])
    factor = inputs.rules["guard_band_factor"]
    return np.asarray(factor * np.sqrt(rest**2 + ((slope * u) ** 2).sum(1)))


def _bounds() -> tuple[list[Edge], np.ndarray, np.ndarray]:
    slope, room, edges = [], [], []
    for axis, part in ((PLATE, "plate"), (SPACER, "crank spacer")):
        limits = bounds_of(axis)
        unit = np.eye(2)[axis]
        slope += [unit, -unit]
        room += [-limits.low, limits.high]
        thin = f"no {part}" if limits.low == 0.0 else f"thinnest {part}"
        edges += [
            Edge(title=t, finding="", piece=None) for t in (thin, f"thickest {part} that is made")
        ]
    return edges, np.array(slope), np.array(room)


def _without_shim(slope: np.ndarray, room: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Half-planes of three sizes with the third eliminated (Fourier and Motzkin)."""
    third = slope[:, SHIM]
    keep, up, down = (
        np.abs(third) < 1e-9,
        np.flatnonzero(third > 1e-9),
        np.flatnonzero(third < -1e-9),
    )
    slopes, rooms = [*slope[keep][:, :SHIM]], [*room[keep]]
    for i in up:
        for j in down:
            a, b = -third[j], third[i]
            slopes.append((a * slope[i] + b * slope[j])[:SHIM])
            rooms.append(a * room[i] + b * room[j])
    return np.array(slopes).reshape(-1, 2), np.array(rooms)


def window(inputs: Inputs) -> Window:
    """The window as it stands, with the shim that is planned or fitted."""
    return inputs.once("stack window", lambda: _window(inputs))


def _window(inputs: Inputs) -> Window:
    found = pieces(inputs)
    shim = inputs.quantities["release_shim_mm"]
    u = made_u()
    if shim.value is not None:
        u[SHIM] = shim.u
    off = doubt(inputs, found.known, u)
    helped = [bool(np.abs(p.slope[:SHIM]).max() > 1e-9) for p in found.known]
    unhelped = [
        p
        for p, h, d in zip(found.known, helped, off, strict=True)
        if not h and p.room + p.slope[SHIM] * (shim.value or 0.0) - d < -1e-9
    ]
    own = [p for p, h in zip(found.known, helped, strict=True) if h]
    own_off = np.array([d for d, h in zip(off, helped, strict=True) if h])
    three = np.array([p.slope for p in own]).reshape(-1, 3)
    rooms = np.array([p.room for p in own]) - own_off
    bound_edges, bound_slope, bound_room = _bounds()
    edges = (
        *(Edge(title=p.check.title, finding=p.check.id, piece=p) for p in own),
        *bound_edges,
    )
    here = rooms + three[:, SHIM] * (shim.value or 0.0)
    slope = np.vstack([three[:, :SHIM], bound_slope])
    room = np.concatenate([here, bound_room])
    counts = np.array([e.piece is not None for e in edges])
    cut = polygon(slope, room)
    most = bounds_of(SHIM)
    shim_bounds = np.array([[0.0, 0.0, 1.0], [0.0, 0.0, -1.0]])
    free_slope, free_room = _without_shim(
        np.vstack([three, shim_bounds]), np.concatenate([rooms, [-most.low, most.high]])
    )
    free = polygon(np.vstack([free_slope, bound_slope]), np.concatenate([free_room, bound_room]))
    return Window(
        pieces=found,
        edges=edges,
        slope=slope,
        room=room,
        counts=counts,
        polygon=cut,
        middle=None if cut.empty else middle(slope, room, counts, (SPACER, PLATE)),
        helpless=tuple(unhelped),
        shim=shim.value,
        free=free,
        closed_by=conflict(slope, room) if cut.empty else (),
        sure=cut.empty and polygon(slope, room + np.concatenate([own_off, np.zeros(4)])).empty,
    )


def alone(found: Window, axis: int, other: float) -> Interval | None:
    """What one of plate and spacer may be alone, with the other as it is. [mm]"""
    return interval(found.slope[:, axis], found.room + found.slope[:, 1 - axis] * other)


@dataclass(frozen=True, kw_only=True)
class Opening:
    """A change of one part that leaves a window. [mm]"""

    address: str
    name: str
    part: str
    now: float
    change: float


def _helps(inputs: Inputs, found: Window, address: str) -> np.ndarray:
    """Change of each half-plane's room with one more size [-]."""
    planned = planned_inputs(inputs)
    value = planned.value(address) or 0.0
    plan = {address: value + np.array([0.0, STEP])}
    helps = np.zeros(len(found.edges))
    for i, edge in enumerate(found.edges):
        if edge.piece is None:
            continue
        check = edge.piece.check
        if address not in {s for a in check.addresses for s in _sources(planned, a)}:
            continue
        margin = outcome(check, planned, values_at(planned, check.addresses, plan)).margin
        both = np.broadcast_to(np.asarray(margin, float), (2,))
        helps[i] = (both[1] - both[0]) / STEP
    return helps


def _sources(inputs: Inputs, address: str) -> tuple[str, ...]:
    q = inputs.quantities.get(address)
    return () if q is None else q.wants or (address,)


def openings(inputs: Inputs, found: Window) -> list[Opening]:
    """For each part that can be another: the least change that leaves a window, least first."""
    planned = planned_inputs(inputs)
    addresses = dict.fromkeys(
        s
        for e in found.edges
        if e.piece is not None
        for a in e.piece.check.addresses
        for s in _sources(planned, a)
    )
    made = []
    for address in addresses:
        d, now = DIMENSIONS.get(address), planned.value(address)
        if d is None or now is None or d.kind != "length":
            continue
        if d.part in UNHELPED or address in NOT_CHANGED:
            continue
        helps = _helps(inputs, found, address)
        if not np.abs(helps).max() > 0.0:
            continue
        change = opening(found.slope, found.room, helps, MOST_CHANGE)
        if change is None or abs(change) < 1e-6:
            continue
        if not d.can[0] <= now + change <= d.can[1]:
            continue
        made.append(Opening(address=address, name=d.name, part=d.part, now=now, change=change))
    return sorted(made, key=lambda o: abs(o.change))
