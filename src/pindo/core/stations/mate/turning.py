"""The plate's checks over many angles of the gearbox at once: what room each leaves, with its
doubt.

Only what hangs on the clocking is asked: holes of the two castings against each other, holes to
the outline and the starter's pocket, heads beside the other casting. The formulas are those of the
checks; the doubt is linear (JCGM 100).
"""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from pindo.core.geometry.frames import clocked
from pindo.core.inputs.fasteners import on_face
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.plates import own_plates
from pindo.core.inputs.quantities import Resolved
from pindo.core.stations.mate.common import OTHER_SIDE, WIDEST_LAND
from pindo.core.stations.mate.outline import land_discs, pocket
from pindo.core.stations.mate.placing import (
    ONE_DOWEL_MM,
    SIDES,
    PlacedHole,
    all_lands,
    placed_holes,
    pocket_turn,
)


@dataclass(frozen=True, kw_only=True)
class Rooms:
    """What each thing leaves at each angle: shape (angles, things)."""

    names: tuple[str, ...]
    kinds: tuple[str, ...]
    room: np.ndarray
    """Margin less its doubt; plus nought goes. NaN where nobody can say. [mm]"""
    bare: np.ndarray
    """Margin alone. [mm]"""
    limit: np.ndarray
    """What is asked of each, shape (things,). [mm]"""


def covariance(inputs: Inputs, prefix: str) -> np.ndarray:
    """Of a hole's or land's place as told, shape (2, 2). [mm²]"""
    told = [inputs.quantities[f"{prefix}.{f}"] for f in ("u", "v")]
    sources = list(dict.fromkeys(s for q in told for s in q.spread))
    rows = np.array([[q.spread.get(s, 0.0) for s in sources] for q in told]).reshape(2, -1)
    return np.asarray(rows @ rows.T)


def _u(q: Resolved | None) -> float:
    return 0.0 if q is None else q.u


@dataclass(frozen=True, kw_only=True)
class Circles:
    """Circles of one side as told, before the gearbox is turned. [mm]"""

    at: np.ndarray
    """Shape (n, 2)."""
    doubt: np.ndarray
    """Covariance, shape (n, 2, 2)."""


def _holes(inputs: Inputs, holes: list[PlacedHole]) -> Circles:
    told = [[inputs.value(h.address(f)) or 0.0 for f in ("u", "v")] for h in holes]
    doubt = [covariance(inputs, f"{h.side}.{h.hole.n}") for h in holes]
    return Circles(at=np.array(told).reshape(-1, 2), doubt=np.array(doubt).reshape(-1, 2, 2))


def apart(
    fixed: Circles, turning: Circles, degrees: np.ndarray, u_turn: float
) -> tuple[np.ndarray, np.ndarray]:
    """Distances of every fixed circle to every turning one, and their standard uncertainty, both
    of shape (angles, fixed, turning). [mm]

    Parameters
    ----------
    degrees : shape (angles,)
    u_turn
        Standard uncertainty of the angle. [deg]
    """
    t = np.radians(degrees)[:, None, None]
    c, s = np.cos(t), np.sin(t)
    (x, y), (a, b) = turning.at.T, fixed.at.T
    across, up = x * c + y * s - a[:, None], y * c - x * s - b[:, None]
    far = np.hypot(across, up)
    safe = np.maximum(far, 1e-9)
    p, q = across / safe, up / safe
    own = fixed.doubt[:, None]
    square = p * p * own[..., 0, 0] + 2 * p * q * own[..., 0, 1] + q * q * own[..., 1, 1]
    # The line between the two, seen from the turning part as it was told.
    m, n = p * c - q * s, p * s + q * c
    own = turning.doubt[None]
    square = square + m * m * own[..., 0, 0] + 2 * m * n * own[..., 0, 1] + n * n * own[..., 1, 1]
    return far, np.sqrt(square + ((m * y - n * x) * math.radians(u_turn)) ** 2)


def _pairs(
    inputs: Inputs, e: list[PlacedHole], g: list[PlacedHole], degrees: np.ndarray, k: float
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Room and margin of spacing for every engine hole and gearbox hole, and what is asked; one
    screw or one pin through both asks nothing.
    """
    far, u = apart(
        _holes(inputs, e), _holes(inputs, g), degrees, _u(inputs.quantities["clocking_deg"])
    )
    big = np.maximum.outer([h.plate_d for h in e], [h.plate_d for h in g])
    wanted = inputs.rules["hole_spacing_factor"] * big
    dowel = np.logical_and.outer(
        [h.hole.role == "dowel" for h in e], [h.hole.role == "dowel" for h in g]
    )
    bolt = np.logical_and.outer(
        [h.hole.role == "bolt" for h in e], [h.hole.role == "bolt" for h in g]
    ) & (np.abs(np.subtract.outer([h.d for h in e], [h.d for h in g])) <= 0.5)
    play = np.add.outer([(h.plate_d - h.d) / 2 for h in e], [(h.plate_d - h.d) / 2 for h in g])
    one_pin = ONE_DOWEL_MM + np.add.outer([h.pm for h in e], [h.pm for h in g])
    one = (dowel & (far <= one_pin)) | (bolt & (far <= play))
    # Two plates: a hole of one casting and a hole of the other are in metal of their own.
    bare = np.where(one | own_plates(inputs), np.inf, far - wanted)
    return bare - k * u, bare, wanted


def _near_edge(inputs: Inputs, holes: list[PlacedHole], k: float) -> list[PlacedHole]:
    """Holes that an edge may come too near to: round every other its own land alone is enough."""
    margin = inputs.quantities["outline_margin_mm"]
    if margin.value is None or len(holes) < 3:
        return []
    sure = margin.value - k * margin.u
    factor = inputs.rules["edge_factor"]
    return [h for h in holes if h.land / 2 + sure < factor * h.plate_d]


def _edges(
    inputs: Inputs,
    holes: list[PlacedHole],
    rim: list[PlacedHole],
    degrees: np.ndarray,
    k: float,
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Edge distance of the holes ``rim`` to the hull of the lands, shape (angles, rim): as
    the outline has it. [mm]
    """
    margin = inputs.quantities["outline_margin_mm"]
    present = inputs.value("clocking_deg") or 0.0
    lands = all_lands(inputs)
    corners = {}
    for side in SIDES:
        circles = [(h.u, h.v, h.land) for h in holes if h.side == side]
        circles += [(x.u, x.v, x.d) for x in lands[side] if x.size_field == "d"]
        hull = shapely.get_coordinates(land_discs(tuple(circles)).convex_hull)
        turn = -present if side == "gearbox" else 0.0
        corners[side] = np.stack(clocked(hull[:, 0], hull[:, 1], turn), 1)
    box = corners["gearbox"]
    turned = np.stack(clocked(box[:, 0], box[:, 1], degrees[:, None]), -1)
    still = np.broadcast_to(corners["engine"], (len(degrees), *corners["engine"].shape))
    hulls = shapely.convex_hull(shapely.multipoints(np.concatenate([still, turned], 1)))
    rings = shapely.get_exterior_ring(hulls)
    found = []
    for h in rim:
        u, v = h.u, h.v
        if h.side == "gearbox":
            u, v = clocked(u, v, degrees - present)
        points = shapely.points(
            np.broadcast_to(u, degrees.shape), np.broadcast_to(v, degrees.shape)
        )
        found.append(shapely.distance(rings, points))
    e = np.stack(found, 1) + (margin.value or 0.0)
    wanted = inputs.rules["edge_factor"] * np.array([h.plate_d for h in rim])
    return e - wanted - k * margin.u, e - wanted, wanted


def _pocket(
    inputs: Inputs, holes: list[PlacedHole], degrees: np.ndarray, k: float
) -> tuple[np.ndarray, np.ndarray, np.ndarray, list[PlacedHole]] | None:
    """Holes of the side that the pocket does not turn with, to its edge. [mm]"""
    if pocket(inputs) is None:
        return None
    on_box = pocket_turn(inputs) == "clocking_deg"
    moved = [h for h in holes if (h.side == "engine") == on_box]
    if not moved:
        return None
    u, v, d = (inputs.quantities[f"pocket_{x}mm"] for x in ("u_", "v_", ""))
    opening = Circles(
        at=np.array([[u.value or 0.0, v.value or 0.0]]),
        doubt=np.array([np.diag([u.u**2, v.u**2])]),
    )
    own, u_turn = _holes(inputs, moved), _u(inputs.quantities["clocking_deg"])
    far, doubt = (
        apart(own, opening, degrees, u_turn) if on_box else apart(opening, own, degrees, u_turn)
    )
    far, doubt = (x.reshape(len(degrees), -1) for x in (far, doubt))
    wanted = inputs.rules["edge_factor"] * np.array([h.plate_d for h in moved])
    bare = far - (d.value or 0.0) / 2 - wanted
    return bare - k * np.hypot(doubt, d.u / 2), bare, wanted, moved


def _heads(
    inputs: Inputs, holes: list[PlacedHole], degrees: np.ndarray, k: float
) -> tuple[list[str], list[np.ndarray], list[np.ndarray], list[float]]:
    """Heads and nuts beside the other casting's lands; NaN where one may lie under a land that
    nobody measured.
    """
    lands, rules = all_lands(inputs), inputs.rules
    gap_min, sunk_min = rules["head_side_gap_mm"], rules["head_sunk_min_mm"]
    u_turn = _u(inputs.quantities["clocking_deg"])
    names: list[str] = []
    rooms: list[np.ndarray] = []
    bares: list[np.ndarray] = []
    limits: list[float] = []
    for h in holes:
        size = on_face(h.hole.fastening or "", h.d)
        if h.hole.role == "dowel" or size is None:
            continue
        recess = inputs.quantities.get(h.address("recess"))
        deep = None if recess is None else recess.value
        sunk = (deep or 0.0) - size.height - sunk_min
        if own_plates(inputs) or (deep is not None and sunk - k * _u(recess) >= 0.0):
            continue  # It may pass under the other casting, or has to lie below its plate's face.
        mine, reach = _holes(inputs, [h]), size.circle / 2 + gap_min
        others = lands[OTHER_SIDE[h.side]]
        room = np.full(len(degrees), np.inf)
        bare = room.copy()
        if others:
            d = np.array([x.d for x in others])
            u_d = np.array([_u(inputs.quantities[f"{x.prefix}.{x.size_field}"]) for x in others])
            told = Circles(
                at=np.array(
                    [[inputs.value(f"{x.prefix}.{f}") or 0.0 for f in ("u", "v")] for x in others]
                ),
                doubt=np.array([covariance(inputs, x.prefix) for x in others]),
            )
            far, u = (
                apart(mine, told, degrees, u_turn)
                if h.side == "engine"
                else apart(told, mine, degrees, u_turn)
            )
            gaps = far.reshape(len(degrees), -1) - d / 2 - reach
            doubt = np.hypot(u.reshape(len(degrees), -1), u_d / 2)
            bare, room = gaps.min(1), (gaps - k * doubt).min(1)
        if deep is not None:
            # A recess that is too shallow is held to the face where metal lies over it.
            bare = np.where(bare < 0.0, sunk, bare)
            room = np.where(room < 0.0, sunk - k * _u(recess), room)
        unseen = [x for x in holes if x.side != h.side and inputs.value(x.address("land")) is None]
        if unseen:
            them = _holes(inputs, unseen)
            far, _ = (
                apart(mine, them, degrees, 0.0)
                if h.side == "engine"
                else apart(them, mine, degrees, 0.0)
            )
            wide = reach + WIDEST_LAND / 2 * np.array([x.d for x in unseen])
            room = np.where((far.reshape(len(degrees), -1) < wide).any(1), np.nan, room)
        names.append(f"{'nut' if h.hole.fastening == 'nut' else 'head'} of {h.label}")
        rooms.append(room)
        bares.append(bare)
        limits.append(max(gap_min, 1.0))
    return names, rooms, bares, limits


def rooms(inputs: Inputs, degrees: np.ndarray) -> Rooms | None:
    """What every thing that hangs on the clocking leaves at these angles; None until both castings
    have a hole.

    Parameters
    ----------
    degrees : shape (angles,)
        Clockwise from behind.
    """
    holes = placed_holes(inputs)
    e, g = ([h for h in holes if h.side == side] for side in SIDES)
    if not e or not g:
        return None
    k = inputs.rules["guard_band_factor"]
    count = len(degrees)
    room, bare, wanted = (x.reshape(*x.shape[:-2], -1) for x in _pairs(inputs, e, g, degrees, k))
    names = [f"holes {a.label} and {b.label}" for a in e for b in g]
    kinds = ["holes"] * len(names)
    found, plain, limits = [room], [bare], [wanted]
    if (rim := _near_edge(inputs, holes, k)) and inputs.options.get("outline") != "following":
        room, bare, wanted = _edges(inputs, holes, rim, degrees, k)
        found, plain, limits = [*found, room], [*plain, bare], [*limits, wanted]
        names += [f"edge at {h.label}" for h in rim]
        kinds += ["edge"] * len(rim)
    if (opening := _pocket(inputs, holes, degrees, k)) is not None:
        room, bare, wanted, moved = opening
        found, plain, limits = [*found, room], [*plain, bare], [*limits, wanted]
        names += [f"starter pocket at {h.label}" for h in moved]
        kinds += ["pocket"] * len(moved)
    labels, rows, bares, asked = _heads(inputs, holes, degrees, k)
    if labels:
        found, plain = [*found, np.stack(rows, 1)], [*plain, np.stack(bares, 1)]
        limits.append(np.array(asked))
        names += labels
        kinds += ["heads"] * len(labels)
    return Rooms(
        names=tuple(names),
        kinds=tuple(kinds),
        room=np.concatenate(found, 1).reshape(count, -1),
        bare=np.concatenate(plain, 1).reshape(count, -1),
        limit=np.concatenate(limits),
    )
