"""Solids of the chassis that are given by marks of the bay: a box between corners, a rail between
its ends, the middle of anything.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial
from types import MappingProxyType
from typing import Any

import numpy as np

from pindo.core.document.build import Build
from pindo.core.document.evidence import Source, rank
from pindo.core.document.lists import COLUMNS
from pindo.core.document.rows import Solid
from pindo.core.geometry.bay import AT, mark_at
from pindo.core.inputs.derived import derived
from pindo.core.inputs.inputs import Inputs, Provider
from pindo.core.inputs.quantities import Resolved

Read = Mapping[str, Any]
Figure = Callable[[Read], Any]
MIDDLE = ("back", "left", "up")
LENGTH_OF: Mapping[str, str] = MappingProxyType(
    {"box": "a", "cylinder": "b", "capsule": "b", "cone": "b", "ring": "c"}
)
"""The size of each shape that lies between two ends."""
SPAN = 1.0
"""Corners nearer than this along an axis are on one side of the box. [mm]"""


def fields_of(solid: Solid) -> tuple[str, ...]:
    """The figures of a solid that its marks give."""
    if not solid.marks:
        return ()
    if solid.marks_are == "corners":
        return (*MIDDLE, "a", "b", "c")
    if solid.marks_are == "ends":
        return (*MIDDLE, LENGTH_OF.get(solid.shape, "a"), "tilt", "turn")
    return MIDDLE


def unusable(build: Build, solid: Solid) -> str:
    """Why a solid's marks give nothing, in words; empty where they do."""
    known = {m.n for m in build.marks}
    gone = [n for n in solid.marks if n not in known]
    if solid.body != "chassis":
        return "marks of the bay are in the chassis: a solid of the unit has none"
    if gone:
        return f"there is no mark {gone[0]}"
    if solid.marks_are == "corners" and (solid.shape != "box" or len(solid.marks) < 2):
        return "corners are those of a box: two at least, opposite ones"
    if solid.marks_are == "ends" and (solid.shape not in LENGTH_OF or len(solid.marks) < 2):
        return "two marks at its ends are wanted, of a shape that has a length"
    if solid.marks_are == "middle" and len(solid.marks) != 1:
        return "one mark is its middle"
    return ""


def _along(solid: Solid, read: Read) -> np.ndarray:
    """Places of its marks, shape (3, marks, rows). [mm]"""
    rows = np.broadcast_shapes(*(np.shape(v) for v in read.values())) or (1,)
    return np.array(
        [[np.broadcast_to(read[mark_at(n, f)], rows) for n in solid.marks] for f in AT], float
    )


def _forward(solid: Solid, read: Read) -> tuple[Any, Any, Any]:
    """From the last of its marks to the first: forwards, left, up. [mm]"""
    at = _along(solid, read)
    back, left, up = at[:, 0] - at[:, -1]
    return -back, left, up


def _middle(solid: Solid, axis: int, read: Read) -> Any:
    at = _along(solid, read)[axis]
    if solid.marks_are == "ends":
        return (at[0] + at[-1]) / 2.0
    return (at.max(axis=0) + at.min(axis=0)) / 2.0


def _extent(solid: Solid, axis: int, read: Read) -> Any:
    return np.ptp(_along(solid, read)[axis], axis=0)


def _length(solid: Solid, read: Read) -> Any:
    x, y, z = _forward(solid, read)
    return np.sqrt(x**2 + y**2 + z**2)


def _tilt(solid: Solid, read: Read) -> Any:
    """Rear end low, positive. [deg]"""
    x, y, z = _forward(solid, read)
    return np.degrees(np.arctan2(z, np.hypot(x, y)))


def _turn(solid: Solid, read: Read) -> Any:
    """Rear end right, positive. [deg]"""
    x, y, _ = _forward(solid, read)
    return np.degrees(np.arctan2(y, x))


def _formulas(solid: Solid) -> dict[str, Figure]:
    found: dict[str, Figure] = {f: partial(_middle, solid, i) for i, f in enumerate(MIDDLE)}
    if solid.marks_are == "corners":
        found |= {f: partial(_extent, solid, i) for i, f in enumerate(("a", "b", "c"))}
    elif solid.marks_are == "ends":
        found |= {LENGTH_OF[solid.shape]: partial(_length, solid)}
        found |= {"tilt": partial(_tilt, solid), "turn": partial(_turn, solid)}
    return found


def _blank(solid: Solid, field: str) -> Resolved:
    column = next(c for c in COLUMNS["solids"] if c.field == field)
    label = f"Solid {solid.n} {solid.name}".strip()
    return Resolved(
        address=f"solids.{solid.n}.{field}",
        name=f"{label}, {column.label}",
        kind=column.kind,
        parts={},
    )


def _given(inputs: Inputs, solid: Solid) -> dict[str, Resolved]:
    blanks = {f: _blank(solid, f) for f in fields_of(solid)}
    why = unusable(inputs.build, solid)
    if why:
        return {q.address: replace(q, detail=why) for q in blanks.values()}
    reads = tuple(mark_at(n, f) for n in solid.marks for f in AT)
    loose = [n for n in solid.marks if inputs.value(mark_at(n, AT[0])) is None]
    if loose:
        detail = f"mark {loose[0]} has no place yet: see the bay"
        return {q.address: replace(q, detail=detail) for q in blanks.values()}
    found = {}
    for field, formula in _formulas(solid).items():
        q = derived(inputs, formula, blanks[field], reads)
        flat = field in ("a", "b", "c") and (q.value or 0.0) < SPAN
        if flat:
            q = replace(blanks[field], detail="its marks are all on one side along this")
        found[q.address] = replace(q, wants=(), source=_worst(inputs, reads))
    return found


def _worst(inputs: Inputs, reads: tuple[str, ...]) -> Source | None:
    """What is given is no better known than the worst of the marks."""
    said = [s for a in reads if (s := inputs.quantities[a].source) is not None]
    return max(said, key=rank, default=None)


def _solve(inputs: Inputs) -> Mapping[str, Resolved]:
    found: dict[str, Resolved] = {}
    for solid in inputs.build.solids:
        if solid.marks:
            found |= _given(inputs, solid)
    return found


def _addresses(build: Build) -> tuple[str, ...]:
    return tuple(f"solids.{s.n}.{f}" for s in build.solids for f in fields_of(s))


SOLIDS_FROM_MARKS = Provider(key="solids from marks", rows=_addresses, solve=_solve)
