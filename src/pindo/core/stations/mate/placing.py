"""Hole patterns placed in the face view: the gearbox turned by its clocking, the plate's own
holes.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from pindo.core.document.faces import Face, Hole
from pindo.core.geometry.frames import clocked
from pindo.core.inputs.fasteners import clearance_hole
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Constant, Input

LAND_FACTOR = 2.4  # a land nobody measured is drawn at twice the edge rule of its hole
SIDES = ("engine", "gearbox")


@dataclass(frozen=True, kw_only=True)
class PlacedHole:
    """A hole where it stands in the face view. [mm]"""

    side: str
    hole: Hole
    u: float
    v: float
    d: float
    plate_d: float
    """Diameter of the hole that the plate gets here; of a tapped one, its thread's."""
    pitch: float | None
    """Of its thread, where it is told. [mm]"""
    land: float
    pm: float
    """Half-width of the radial doubt of its place."""

    @property
    def label(self) -> str:
        return label_of(self.side, self.hole.n)

    @property
    def called(self) -> str:
        """Its label with what people call it."""
        return f"{self.label} {self.hole.name}".strip()

    def address(self, field: str) -> str:
        return f"{self.side}.{self.hole.n}.{field}"


@dataclass(frozen=True, kw_only=True)
class PlacedLand:
    """Metal of a casting's face, as a circle. [mm]"""

    side: str
    name: str
    prefix: str
    """Address prefix of its u, v and diameter."""
    size_field: str
    u: float
    v: float
    d: float


Lands = Mapping[str, list[PlacedLand]]


def label_of(side: str, n: int) -> str:
    """A hole as drawings and sheets name it: E3, G5."""
    return f"{'E' if side == 'engine' else 'G'}{n}"


def face_of(inputs: Inputs, side: str) -> Face:
    return inputs.build.engine_face if side == "engine" else inputs.build.gearbox_face


def turn_of(side: str) -> Input | str:
    """What turns a side's holes: the clocking for the gearbox, nothing for the engine."""
    return "clocking_deg" if side == "gearbox" else Constant(0.0)


def plate_hole(inputs: Inputs, side: str, hole: Hole, d: float) -> float | None:
    """Hole of the plate at a place: as typed, else as the table has it; None where neither says.
    [mm]
    """
    if hole.role == "dowel" or hole.fastening == "tapped":
        return d
    return inputs.value(f"{side}.{hole.n}.plate_hole") or clearance_hole(d)


def pocket_turn(inputs: Inputs) -> Input | str:
    """What turns the starter's opening: the clocking where the starter bolts to the housing,
    nothing elsewhere.
    """
    return "clocking_deg" if inputs.options.get("starter_on") == "housing" else Constant(0.0)


def _turned(
    inputs: Inputs, side: str, rows: list[tuple[float, float]]
) -> list[tuple[float, float]]:
    """Places of one side in the face view; while the clocking is unknown the gearbox stands at
    0. [mm]
    """
    turn = inputs.value("clocking_deg") or 0.0
    if side == "engine" or turn == 0.0 or not rows:
        return rows
    across, up = np.array(rows).T
    u, v = clocked(across, up, turn)
    return list(zip(u.tolist(), v.tolist(), strict=True))


def placed_holes(inputs: Inputs) -> list[PlacedHole]:
    """Every hole with a known place and diameter, engine first, in the face view. [mm]"""
    found = []
    for side in SIDES:
        known = []
        for hole in face_of(inputs, side).holes:
            u, v, d = (inputs.quantities[f"{side}.{hole.n}.{f}"] for f in ("u", "v", "d"))
            size = plate_hole(inputs, side, hole, d.value) if d.value and d.value > 0.0 else None
            if u.value is not None and v.value is not None and d.value and size:
                known.append((hole, u.value, v.value, d.value, size, math.hypot(u.pm, v.pm)))
        places = _turned(inputs, side, [(u, v) for _, u, v, *_ in known])
        for (hole, _, _, d_mm, size, pm), (u_mm, v_mm) in zip(known, places, strict=True):
            land = inputs.value(f"{side}.{hole.n}.land") or LAND_FACTOR * d_mm
            found.append(
                PlacedHole(
                    side=side,
                    hole=hole,
                    u=u_mm,
                    v=v_mm,
                    d=d_mm,
                    plate_d=size,
                    pitch=inputs.value(f"{side}.{hole.n}.pitch"),
                    land=land,
                    pm=pm,
                )
            )
    return found


def placed_lands(inputs: Inputs, side: str) -> list[PlacedLand]:
    """Metal of one casting: the measured land round each hole, and the lands without a hole.
    [mm]
    """
    face = face_of(inputs, side)
    rows = [(f"{side}.{h.n}", "land", f"land of {label_of(side, h.n)}") for h in face.holes]
    rows += [(f"{side}.land{land.n}", "d", land.name or f"land {land.n}") for land in face.lands]
    known = []
    for prefix, size_field, name in rows:
        u, v, d = (
            inputs.value(f"{prefix}.u"),
            inputs.value(f"{prefix}.v"),
            inputs.value(f"{prefix}.{size_field}"),
        )
        if u is not None and v is not None and d:
            known.append((prefix, size_field, name, u, v, d))
    places = _turned(inputs, side, [(row[3], row[4]) for row in known])
    return [
        PlacedLand(side=side, name=name, prefix=prefix, size_field=field, u=u, v=v, d=d)
        for (prefix, field, name, _, _, d), (u, v) in zip(known, places, strict=True)
    ]


def all_lands(inputs: Inputs) -> Lands:
    """Metal of both castings. [mm]"""
    return {side: placed_lands(inputs, side) for side in SIDES}


ONE_DOWEL_MM = 1.0  # two dowel holes of one pin lie as close as this


def one_dowel(a: PlacedHole, b: PlacedHole) -> bool:
    """Whether two dowel holes are one place that a single pin passes through: castings and plate
    in line.
    """
    return (
        a.side != b.side
        and a.hole.role == b.hole.role == "dowel"
        and math.hypot(a.u - b.u, a.v - b.v) <= ONE_DOWEL_MM + a.pm + b.pm
    )


def dowel_places(inputs: Inputs) -> list[tuple[tuple[str, int], ...]]:
    """Dowel places as side and number; holes of both castings that run into each other are one
    place.
    """
    placed = {(h.side, h.hole.n): h for h in placed_holes(inputs) if h.hole.role == "dowel"}
    every = [
        (side, h.n) for side in SIDES for h in face_of(inputs, side).holes if h.role == "dowel"
    ]
    found: list[tuple[tuple[str, int], ...]] = []
    taken: set[tuple[str, int]] = set()
    for at in every:
        if at in taken:
            continue
        mine = placed.get(at)
        mates = [
            k
            for k, h in placed.items()
            if mine
            and k not in taken
            and h.side != mine.side
            and math.hypot(h.u - mine.u, h.v - mine.v) < (h.d + mine.d) / 2
        ]
        found.append((at, *mates))
        taken |= {at, *mates}
    return found


def coincide(a: PlacedHole, b: PlacedHole) -> bool:
    """Holes of both patterns that become one shared through-bolt: centres within their clearance.

    (H1 - F)/2 + (H2 - F)/2, floating fastener, ASME Y14.5.
    """
    if a.side == b.side or "dowel" in (a.hole.role, b.hole.role) or abs(a.d - b.d) > 0.5:
        return False
    return bool(
        ((a.u - b.u) ** 2 + (a.v - b.v) ** 2) ** 0.5
        <= (a.plate_d - a.d) / 2 + (b.plate_d - b.d) / 2
    )
