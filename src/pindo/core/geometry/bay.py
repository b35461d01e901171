"""The bay from a tape: marks on the chassis placed by all readings between them.

Coordinates are behind the front axle line, left of the centre plane, above the top of the rail.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from types import MappingProxyType

import numpy as np

from pindo.core.document.evidence import Source, rank
from pindo.core.geometry.network.adjust import Adjusted, adjust
from pindo.core.geometry.network.readings import (
    Array,
    Distance,
    Fixed,
    Lines,
    NetworkError,
    Offset,
    Reading,
    Side,
)
from pindo.core.geometry.network.twins import Twin, next_distance, twins
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
NEXT_PM = 2.0
"""± of the distance that is proposed next: a tape of a steady hand. [mm]"""


@dataclass(frozen=True, kw_only=True)
class Bay:
    """The marks of a build as all readings together place them."""

    numbers: tuple[int, ...]
    """Numbers of the marks, in the order of the network's points."""
    answer: Adjusted
    sensitivity: Array
    """What one standard uncertainty of each reading moves each coordinate. (3 n x m) [mm]"""
    unread: tuple[str, ...]
    """Addresses of readings that stand between no two marks, or have no figure."""
    mirrored: str
    """The direction in which nobody has said on which side the marks lie; empty for none."""
    held: int
    """Coordinates that hold the frame."""
    twins: tuple[Twin, ...]

    def place(self, mark: int) -> Array | None:
        """Where a mark lies, behind, left, up; None while it is not held, or may as well lie
        elsewhere. [mm]
        """
        if mark not in self.numbers or self.mirrored or self.held < FRAME:
            return None
        if mark in self.doubtful or any(self.numbers[t.point] == mark for t in self.twins):
            return None
        found = self.answer.places[self.numbers.index(mark)]
        return found if bool(np.isfinite(found).all()) else None

    @property
    def doubtful(self) -> set[int]:
        """Marks that lie elsewhere if another reading is the wrong one."""
        return {self.numbers[p] for s in self.answer.suspects for p in s.doubtful}

    def u(self, mark: int) -> Array:
        """Standard uncertainty of a mark along the three axes. [mm]"""
        at = self.numbers.index(mark)
        variance = np.diag(self.answer.place_covariance(at))
        return np.asarray(np.sqrt(np.maximum(variance, 0.0)))

    def parts(self, mark: int, axis: int) -> dict[str, float]:
        """What each reading moves a coordinate by, per standard uncertainty, by address. [mm]"""
        row = self.sensitivity[3 * self.numbers.index(mark) + axis]
        return {r.id: float(v) for r, v in zip(self.answer.readings, row, strict=True) if v}

    def next(self) -> tuple[int, int] | None:
        """Numbers of the two marks whose distance would help most."""
        pair = next_distance(self.answer, NEXT_PM)
        return None if pair is None else (self.numbers[pair[0]], self.numbers[pair[1]])


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


def _mirrored(answer: Adjusted, fixed: Sequence[Fixed], sides: Sequence[Side]) -> str:
    """The direction in which the whole network may as well lie on the other side of its datum."""
    x = answer.places
    alive = [i for i in range(len(x)) if i not in answer.loose]
    if len(alive) < 2:
        return ""
    lines = Lines(answer.readings, (len(x), 3))
    cost = _cost(lines, np.nan_to_num(x))
    names = (("behind", "ahead"), ("left", "right"), ("above", "below"))
    for axis in range(3):
        if any(s.axis == axis for s in sides):
            continue
        held = [f.value for f in fixed if f.axis == axis] or [0.0]
        at = float(np.mean(held))
        if any(abs(v - at) > 1e-6 for v in held):
            continue
        other = np.nan_to_num(x).copy()
        other[:, axis] = 2.0 * at - other[:, axis]
        if float(np.ptp(x[alive, axis])) > 1.0 and _cost(lines, other) < cost + 1.0:
            return " or ".join(names[axis])
    return ""


def _cost(lines: Lines, x: Array) -> float:
    miss = (lines.values(x) - lines.read) / lines.sigma
    return float(miss @ miss)


@lru_cache(maxsize=64)
def _adjusted(
    points: int,
    readings: tuple[Reading, ...],
    fixed: tuple[Fixed, ...],
    sides: tuple[Side, ...],
) -> Adjusted:
    """The adjustment of these readings, kept: looking for a misreading takes a while."""
    return adjust(points, readings, fixed=fixed, sides=sides)


def _solve(inputs: Inputs) -> Bay | None:
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
        answer = _adjusted(len(marks), tuple(readings), tuple(fixed), tuple(_about(sides, fixed)))
    except NetworkError:
        return None
    lines = Lines(answer.readings, (len(marks), 3))
    slope = lines.slopes(np.nan_to_num(answer.places)) / lines.sigma[:, None]
    scale = 1.0 if answer.agrees else answer.variance_factor
    moves = (answer.covariance / scale) @ slope.T * np.sqrt(scale)
    return Bay(
        numbers=tuple(m.n for m in marks),
        answer=answer,
        sensitivity=np.asarray(moves),
        unread=tuple(unread),
        mirrored=_mirrored(answer, fixed, sides),
        held=len(fixed) + sum(isinstance(r, Offset) and r.a is None for r in answer.readings),
        twins=tuple(twins(answer, fixed)),
    )


def _about(sides: Sequence[Side], fixed: Sequence[Fixed]) -> list[Side]:
    """Sides told of the datum: its middle along their axis, where that is not nought."""
    found = []
    for s in sides:
        held = [f.value for f in fixed if f.axis == s.axis]
        found.append(
            Side(point=s.point, axis=s.axis, sign=s.sign, of=float(np.mean(held)) if held else 0.0)
        )
    return found


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


def bay(inputs: Inputs) -> Bay | None:
    """The marks of a build, placed; None where it has none. [mm]"""
    return inputs.once("bay", lambda: _solve(inputs))
