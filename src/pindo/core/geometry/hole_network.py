"""Holes of a casting from distances between them: nobody can measure a coordinate from the crank
axis, but from hole to hole and from the bore every calliper reads.

As seen from behind: u to the right, v up, the crank axis at nought. What is typed of u and v joins
the readings.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pindo.core.document.build import Build
from pindo.core.document.evidence import Source, State, rank
from pindo.core.document.faces import Face, HoleReading
from pindo.core.geometry.network.adjust import adjust
from pindo.core.geometry.network.placed import Placed, placed
from pindo.core.geometry.network.readings import (
    Distance,
    Fixed,
    NetworkError,
    Offset,
    Reading,
    Side,
)
from pindo.core.geometry.point_sets import Sight, Together, with_sets
from pindo.core.inputs.faces import point_at, reading_at
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved, Status

AXIS = 0
"""What the crank axis is called among the holes."""
PLACE = ("u", "v")
SIDES = ("engine", "gearbox")
LIES: Mapping[str, tuple[int, int]] = {
    "right": (0, 1),
    "left": (0, -1),
    "above": (1, 1),
    "below": (1, -1),
}
NAMES = (("right", "left"), ("above", "below"))
EDGES: Mapping[str, int] = {"centres": 0, "outside edges": -1, "inside edges": 1}
"""What half of both diameters adds to a reading."""
NEXT_PM = 0.1
"""± of the distance that is proposed next: a calliper. [mm]"""


def face_of(build: Build, side: str) -> Face:
    """The face of a casting that is fitted: engine or gearbox."""
    return build.engine_face if side == "engine" else build.gearbox_face


def _edge(inputs: Inputs, side: str, n: int) -> Resolved | None:
    """Diameter that an edge of a hole, or of the register on the axis, is read from."""
    return inputs.quantities.get(f"{side}.register" if n == AXIS else f"{side}.{n}.bore")


DIAMETER_PM = 0.002
"""± of a diameter at the least: a figure without any doubt would drown the others. [mm]"""


@dataclass(frozen=True, kw_only=True)
class Wide:
    """Diameters over which edges were read, as points of the network after all others."""

    at: Mapping[int, int]
    """Hole -> its point."""
    readings: tuple[Reading, ...]
    fixed: tuple[Fixed, ...]
    start: tuple[tuple[float, float], ...]


def _wide(inputs: Inputs, side: str, rows: Sequence[HoleReading], first: int) -> Wide:
    """The diameter of every hole over whose edge something was read. [mm]"""
    ends = [AXIS if n is None else n for r in rows if EDGES[r.over] for n in (r.a, r.b)]
    at: dict[int, int] = {}
    readings: list[Reading] = []
    start = []
    for n in dict.fromkeys(ends):
        q = _edge(inputs, side, n)
        if q is None or q.value is None:
            continue
        at[n] = first + len(at)
        pm = max(q.pm, DIAMETER_PM)
        readings.append(Offset(id=q.address, a=None, b=at[n], axis=0, value=q.value, pm=pm))
        start.append((q.value, 0.0))
    fixed = tuple(Fixed(point=i, axis=1) for i in at.values())
    return Wide(at=at, readings=tuple(readings), fixed=fixed, start=tuple(start))


def _over_edges(
    readings: Sequence[Reading], rows: Mapping[str, HoleReading], wide: Wide, inputs: Inputs
) -> list[Reading]:
    """The readings as they were taken: those over edges with both diameters as unknowns."""
    found: list[Reading] = []
    for r in readings:
        row = rows.get(r.id)
        if row is None or not isinstance(r, Distance) or not EDGES[row.over]:
            found.append(r)
            continue
        q = inputs.quantities[r.id]
        both = (wide.at[AXIS if row.a is None else row.a], wide.at[row.b or AXIS])
        raw = replace(r, value=q.value or 0.0, pm=q.pm, wide=both, edge=-float(EDGES[row.over]))
        found.append(raw)
    return found


def _reading(inputs: Inputs, side: str, r: HoleReading, at: Mapping[int, int]) -> Reading | None:
    """A reading between two points of the network; None while it says nothing. [mm]"""
    q = inputs.quantities[reading_at(side, r.n)]
    ends = [AXIS if n is None else n for n in (r.a, r.b)]
    if q.value is None or ends[0] == ends[1] or any(n not in at for n in ends):
        return None
    a, b = (at[n] for n in ends)
    if r.along != "straight":
        axis = 0 if r.along == "across" else 1
        return Offset(id=q.address, a=a, b=b, axis=axis, value=q.value, pm=q.pm)
    value, pm = q.value, q.pm
    if EDGES[r.over]:
        edges = [_edge(inputs, side, n) for n in ends]
        known = [e for e in edges if e is not None and e.value is not None]
        if len(known) < 2:
            return None
        value += EDGES[r.over] * math.fsum(e.value or 0.0 for e in known) / 2.0
        pm = math.hypot(pm, *(e.pm / 2.0 for e in known))
    return Distance(id=q.address, a=a, b=b, value=value, pm=pm) if value > 0.0 else None


def _typed(inputs: Inputs, side: str, face: Face, at: Mapping[int, int]) -> Iterator[Reading]:
    """Coordinates that were typed beside the distances."""
    for hole in face.holes:
        for axis, field in enumerate(PLACE):
            q = inputs.as_said(f"{side}.{hole.n}.{field}")
            if q is not None and q.value is not None:
                yield Offset(
                    id=q.address, a=at[AXIS], b=at[hole.n], axis=axis, value=q.value, pm=q.pm
                )


def sets_of(inputs: Inputs, side: str, at: Mapping[int, int]) -> list[Together]:
    """The sets of points of a casting, with the points of them that say something. [mm]"""
    face, found = face_of(inputs.build, side), []
    for s in face.sets:
        own = []
        for p in face.points:
            addresses = tuple(point_at(side, p.n, f) for f in ("x", "y"))
            x, y = (inputs.quantities[a] for a in addresses)
            hole = AXIS if p.hole is None else p.hole
            if p.of == s.n and x.value is not None and y.value is not None and hole in at:
                own.append(
                    Sight(
                        addresses=addresses,
                        point=at[hole],
                        at=(x.value, y.value),
                        pm=(x.pm, y.pm),
                    )
                )
        found.append(Together(n=s.n, true_scale=s.scale == "true", points=tuple(own)))
    return found


def _solve(inputs: Inputs, side: str) -> Placed | None:
    face = face_of(inputs.build, side)
    if not (face.readings or face.points) or not face.holes:
        return None
    numbers = [AXIS, *(h.n for h in face.holes)]
    at = {n: i for i, n in enumerate(numbers)}
    found = [(r, _reading(inputs, side, r, at)) for r in face.readings]
    readings = [read for _, read in found if read is not None]
    readings += _typed(inputs, side, face, at)
    sets = sets_of(inputs, side, at)
    flip = -1 if face.taken_from == "front" else 1
    sides = [
        Side(point=at[h.n], axis=axis, sign=sign * (flip if axis == 0 else 1))
        for h in face.holes
        if h.lies
        for axis, sign in (LIES[h.lies],)
    ]
    fixed = [Fixed(point=at[AXIS], axis=axis) for axis in range(len(PLACE))]
    unread = [reading_at(side, r.n) for r, read in found if read is None]
    said = {a for s in sets for p in s.points for a in p.addresses}
    every = [point_at(side, p.n, f) for p in face.points for f in ("x", "y")]
    try:
        laid = with_sets(len(numbers), at[AXIS], readings, sets, fixed, sides)
        start = laid.start
        told = [r for r, read in found if read is not None and r.along == "straight"]
        wide = _wide(inputs, side, told, len(numbers) if start is None else len(start))
        if wide.at:
            if start is None:
                first = adjust(len(numbers), readings, dim=2, fixed=fixed, sides=sides, snoop=False)
                start = np.nan_to_num(first.places)
            start = np.concatenate([start, wide.start])
            rows = {reading_at(side, r.n): r for r in told}
            readings = [*_over_edges(readings, rows, wide, inputs), *wide.readings]
            fixed += wide.fixed
        said -= {a for s in laid.lost for p in s.points for a in p.addresses}
        unread += [a for a in every if a not in said]
        return placed(
            numbers,
            [*readings, *laid.readings],
            fixed,
            sides,
            names=NAMES,
            unread=unread,
            start=start,
        )
    except NetworkError:
        return None


def pattern(inputs: Inputs, side: str) -> Placed | None:
    """The holes of a casting, placed by their readings; None where it has none. [mm]"""
    return inputs.once(("holes", side), lambda: _solve(inputs, side))


def _told(state: State) -> int:
    """How much a state says: of several that readings were taken in, the one that says most."""
    return sum(getattr(state, field) is not None for field in State.model_fields)


def _given(inputs: Inputs) -> Mapping[str, Resolved]:
    """Every hole's place, each coordinate with its parts by reading; no value while the hole is
    not held.
    """
    given = {}
    for side in SIDES:
        face, found = face_of(inputs.build, side), pattern(inputs, side)
        for hole in face.holes if face.readings or face.points else ():
            place = None if found is None else found.place(hole.n)
            for axis, field in enumerate(PLACE):
                address = f"{side}.{hole.n}.{field}"
                blank = replace(inputs.said[address], value=None, status=Status.MISSING, parts={})
                if found is None or place is None:
                    why = "its distances do not hold it yet"
                    given[address] = replace(blank, detail=why)
                    continue
                # The arm of a true scale is no reading: it has no doubt to speak of.
                own = found.parts(hole.n, axis).items()
                parts = {a: v for a, v in own if inputs.as_said(a) is not None}
                read = [q for a in parts if (q := inputs.as_said(a)) is not None]
                said = [q.source for q in read if q.source is not None]
                given[address] = replace(
                    blank,
                    status=Status.STANDING,
                    detail="",
                    value=float(place[axis]),
                    pm=2.0 * math.hypot(*parts.values()),
                    source=max(said, key=rank, default=Source.MEASURED),
                    state=max((q.state for q in read), key=_told, default=blank.state),
                    parts=parts,
                )
    return given


def _addresses(build: Build) -> tuple[str, ...]:
    faces = ((side, face_of(build, side)) for side in SIDES)
    return tuple(
        f"{side}.{h.n}.{f}"
        for side, face in faces
        if face.readings or face.points
        for h in face.holes
        for f in PLACE
    )


HOLES_FROM_READINGS = Provider(key="holes from distances", rows=_addresses, solve=_given)
