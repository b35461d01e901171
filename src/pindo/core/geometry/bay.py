"""The bay from a tape: marks on the chassis placed by all readings between them.

Coordinates are behind the front axle line, left of the centre plane, above the top of the rail.
"""

import math
from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from pindo.core.document.evidence import Source, rank
from pindo.core.geometry.network.placed import Placed, placed
from pindo.core.geometry.network.readings import (
    Distance,
    Fixed,
    NetworkError,
    Offset,
    Reading,
    Side,
)
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved, Status

AXES = ("back", "left", "up")
AXIS_OF: Mapping[str, int] = MappingProxyType({"lengthwise": 0, "sideways": 1, "upright": 2})
SIDE_OF: Mapping[str, tuple[int, int]] = MappingProxyType(
    {
        "behind": (0, 1),
        "ahead": (0, -1),
        "left": (1, 1),
        "right": (1, -1),
        "above": (2, 1),
        "below": (2, -1),
    }
)
FRAME = 6
"""Coordinates that hold a body in space."""
NAMES = (("behind", "ahead"), ("left", "right"), ("above", "below"))
"""The two sides of the datum along each axis."""
NEXT_PM = 2.0
"""± of the distance that is proposed next: a tape of a steady hand. [mm]"""


def _readings(
    inputs: Inputs, at: Mapping[int, int]
) -> tuple[list[Reading], list[Fixed], list[str]]:
    readings: list[Reading] = []
    fixed: list[Fixed] = []
    unread: list[str] = []
    for m in inputs.build.marks:
        for axis, name in enumerate(AXES):
            address = f"marks.{m.n}.{name}"
            q = inputs.quantities.get(address)
            if q is None or q.value is None:
                continue
            if m.datum:
                fixed.append(Fixed(point=at[m.n], axis=axis, value=q.value))
            else:
                readings.append(
                    Offset(id=address, a=None, b=at[m.n], axis=axis, value=q.value, pm=q.pm)
                )
    for t in inputs.build.tape:
        address = f"tape.{t.n}.value"
        q = inputs.quantities[address]
        a, b = at.get(t.a or 0), at.get(t.b or 0)
        straight = t.along == "straight"
        if q.value is None or a is None or b is None or a == b or (straight and q.value <= 0.0):
            unread.append(address)
        elif straight:
            readings.append(Distance(id=address, a=a, b=b, value=q.value, pm=q.pm))
        else:
            axis = AXIS_OF[t.along]
            readings.append(Offset(id=address, a=a, b=b, axis=axis, value=q.value, pm=q.pm))
    return readings, fixed, unread


def _solve(inputs: Inputs) -> Placed | None:
    marks = inputs.build.marks
    if not marks:
        return None
    at = {m.n: i for i, m in enumerate(marks)}
    readings, fixed, unread = _readings(inputs, at)
    sides = [
        Side(point=at[m.n], axis=SIDE_OF[m.lies][0], sign=SIDE_OF[m.lies][1])
        for m in marks
        if m.lies
    ]
    try:
        return placed(
            [m.n for m in marks],
            readings,
            fixed,
            sides,
            names=NAMES,
            unread=unread,
            frame=FRAME,
        )
    except NetworkError:
        return None


AT = ("at_back", "at_left", "at_up")
"""Where a mark is, as all readings together place it."""
_ALONG = ("behind the front axle", "left of centre", "above rail")


def mark_at(n: int, field: str) -> str:
    """Address of a coordinate of a mark as it is placed, of ``AT``."""
    return f"marks.{n}.{field}"


def _places(inputs: Inputs) -> Mapping[str, Resolved]:
    """Every mark's place, each coordinate with its parts by reading; no value while the mark is
    not held.
    """
    found, given = bay(inputs), {}
    for m in inputs.build.marks:
        place = None if found is None else found.place(m.n)
        for axis, field in enumerate(AT):
            blank = Resolved(
                address=mark_at(m.n, field),
                name=f"Mark {m.n} {m.name}".strip() + f", {_ALONG[axis]}",
                detail="" if place is not None else f"mark {m.n} has no place yet: see the bay",
                parts={},
            )
            if found is None or place is None:
                given[blank.address] = blank
                continue
            parts = found.parts(m.n, axis)
            said = [s for a in parts if (s := inputs.quantities[a].source) is not None]
            given[blank.address] = replace(
                blank,
                status=Status.STANDING,
                value=float(place[axis]),
                pm=2.0 * math.hypot(*parts.values()),
                source=max(said, key=rank, default=Source.MEASURED),
                parts=parts,
            )
    return given


MARK_PLACES = Provider(
    key="places of marks",
    rows=lambda build: tuple(mark_at(m.n, f) for m in build.marks for f in AT),
    solve=_places,
)


def bay(inputs: Inputs) -> Placed | None:
    """The marks of a build, placed; None where it has none. [mm]"""
    return inputs.once("bay", lambda: _solve(inputs))
