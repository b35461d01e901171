"""Holes of the plate that were drilled off their place: does the screw pass, what is left to the
edge, and what cures it.
"""

import math
from collections.abc import Iterator
from functools import partial

import shapely

from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.fasteners import washer
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check
from pindo.core.stations.mate import formulas
from pindo.core.stations.mate.common import FACE_STATES, TEARS, Given, at, millimetres
from pindo.core.stations.mate.outline import outline, pocket
from pindo.core.stations.mate.placing import PlacedHole, all_lands

NO_PLAY = (
    "A thread or a dowel has no play to take it up: the screw leans, or the gearbox stands off the"
    " crank axis."
)

CENTRES = "Play centres nothing: dowels have to."

check = partial(Check, station=Station.MATE, question="mate.screws", accepts=FACE_STATES)


def off_place(inputs: Inputs, h: PlacedHole) -> float | None:
    """How far off its place the plate's hole was drilled; None until both offsets are said. [mm]"""
    u, v = (inputs.value(h.address(f)) for f in ("off_u", "off_v"))
    return None if u is None or v is None else math.hypot(u, v)


def drilled_checks(inputs: Inputs, holes: list[PlacedHole]) -> Iterator[Check]:
    """Holes as drilled: does the screw still pass, and what is left to the edge. Both offsets are
    wanted where one was said.
    """
    shape = outline(inputs, holes, all_lands(inputs))
    for h in holes:
        if not any(h.address(f) in inputs.quantities for f in ("off_u", "off_v")):
            continue
        offs: Given = {f"{f}_mm": h.address(f) for f in ("off_u", "off_v")}
        passes = h.hole.fastening != "tapped" and h.hole.role == "bolt"
        yield check(
            id=f"mate.drilled.{h.label}",
            title=f"Hole {h.label} as drilled",
            value=formulas.drilled_off,
            given=offs
            | (
                {"plate_hole_mm": millimetres(h.plate_d), "d_mm": millimetres(h.d)}
                if passes
                else {}
            ),
            stretch=at(h),
            at_most=formulas.place_play if passes else "made_tol_mm",
            says=f"Hole {h.label} was drilled {{value}} off its place; "
            + ("its screw has {limit}" if passes else "at most {limit}"),
            why=_cure(inputs, h) if passes else NO_PLAY,
        )
        if shape is not None:
            yield check(
                id=f"mate.drilled_edge.{h.label}",
                title=f"Edge left at {h.label} as drilled",
                value=formulas.edge_left,
                given=offs
                | {
                    "e_mm": millimetres(_to_edge(inputs, h, shape)),
                    "d0_mm": millimetres(h.plate_d),
                },
                stretch=at(h),
                at_least=formulas.edge_wanted,
                says=(
                    f"Hole {h.label} as drilled has {{value}} to the edge at worst; needs {{limit}}"
                ),
                why=TEARS,
            )


def _to_edge(inputs: Inputs, h: PlacedHole, shape: shapely.Polygon) -> float:
    """From a hole's place to the nearest of outline, window and starter pocket; minus where it
    lies outside the plate. [mm]
    """
    inside = shape.contains(_point(h))
    found: list[float] = [shape.exterior.distance(_point(h)) * (1.0 if inside else -1.0)]
    if window := inputs.value("window_mm"):
        found.append(math.hypot(h.u, h.v) - window / 2.0)
    if (opening := pocket(inputs)) is not None:
        found.append(math.hypot(h.u - opening.u, h.v - opening.v) - opening.d / 2.0)
    return float(min(found))


def _point(h: PlacedHole) -> shapely.Point:
    return shapely.Point(h.u, h.v)


def slot(h: PlacedHole, off: float, cover_mm: float) -> tuple[float, float, float]:
    """What lets a screw through a hole that was drilled off: a round hole so wide, or a slot so
    long, under a washer so wide. [mm]

    Round H = F + 2 delta and its play; slot from the hole as drilled to the place: hole + delta;
    the washer, about the screw, reaches over the far end of the slot.
    """
    play = h.plate_d - h.d
    return h.d + 2.0 * off + play, h.plate_d + off, 2.0 * off + h.plate_d + 2.0 * cover_mm


def _cure(inputs: Inputs, h: PlacedHole) -> str:
    off = off_place(inputs, h)
    if off is None:
        return CENTRES
    round_d, long, over = slot(h, off, inputs.rules["washer_cover_mm"])
    sold = washer(h.d)
    own = sold is not None and sold[0] >= over
    return (
        f"Open it to {round_d:.1f} mm, or slot it {h.plate_d:.1f} x {long:.1f} mm towards its"
        f" place under a washer of {over:.1f} mm"
        + ("; the usual washer covers that." if own else "; the usual washer does not cover that.")
        + f" {CENTRES}"
    )
