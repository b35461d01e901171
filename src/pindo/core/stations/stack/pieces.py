"""The straight pieces of the checks along the crank: each margin as the least of a few straight
functions of plate, crank spacer and shim, which is what a window of thicknesses is cut from.

An overlap of two intervals is the least of four differences; a band has two sides. A test holds
every set of pieces to its check.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from pindo.core.geometry.axial import places_at
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Check, Formula
from pindo.core.judging.evaluate import asked_for, missing_inputs
from pindo.core.judging.uncertainty import outcome, propagate
from pindo.core.judging.verdict import Missing
from pindo.core.numbers import Numbers
from pindo.core.stations.stack import converter, disc, release, spacing, starter
from pindo.core.stations.stack.discs import disc_count

CHOSEN = ("plate_mm", "crank_spacer_mm", "release_shim_mm")
"""The sizes that are chosen, in the order of every slope."""
USUAL_PLAN = {"plate_mm": 15.0, "crank_spacer_mm": 0.0, "release_shim_mm": 0.0}
"""What a size that nobody has said is planned at, to have the doubt of all the others."""


def _bearing_nose(nose_mm: Numbers, nose_chamfer_mm: Numbers) -> Numbers:
    return nose_mm - nose_chamfer_mm


def _bearing(pilot_width_mm: Numbers) -> Numbers:
    return pilot_width_mm


def _shoulder_past_front(
    tip_s: Numbers, nose_mm: Numbers, pilot_rear_s: Numbers, pilot_width_mm: Numbers
) -> Numbers:
    return tip_s + nose_mm - (pilot_rear_s - pilot_width_mm)


def _rear_past_chamfer(tip_s: Numbers, nose_chamfer_mm: Numbers, pilot_rear_s: Numbers) -> Numbers:
    return pilot_rear_s - (tip_s + nose_chamfer_mm)


def _teeth(spline_mm: Numbers) -> Numbers:
    return spline_mm


def _hub(hub_mm: Numbers) -> Numbers:
    return hub_mm


def _teeth_past_hub_front(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
) -> Numbers:
    return tip_s + spline_start_mm + spline_mm - (friction_face_s + hub_front_mm)


def _hub_past_teeth_start(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
) -> Numbers:
    return friction_face_s + hub_front_mm + hub_mm - (tip_s + spline_start_mm)


def _teeth_past_worn_hub(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    disc_wear_mm: Numbers,
) -> Numbers:
    front = hub_front_mm - disc_wear_mm / 2.0
    return _teeth_past_hub_front(tip_s, spline_start_mm, spline_mm, friction_face_s, front)


def _worn_hub_past_teeth(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
    disc_wear_mm: Numbers,
) -> Numbers:
    front = hub_front_mm - disc_wear_mm / 2.0
    return _hub_past_teeth_start(tip_s, spline_start_mm, friction_face_s, front, hub_mm)


def _teeth_past_last_worn(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    spline_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    disc_wear_mm: Numbers,
    discs: str,
) -> Numbers:
    front = hub_front_mm - (disc_count(discs) - 0.5) * disc_wear_mm
    return _teeth_past_hub_front(tip_s, spline_start_mm, spline_mm, friction_face_s, front)


def _last_worn_past_teeth(
    tip_s: Numbers,
    spline_start_mm: Numbers,
    friction_face_s: Numbers,
    hub_front_mm: Numbers,
    hub_mm: Numbers,
    disc_wear_mm: Numbers,
    discs: str,
) -> Numbers:
    front = hub_front_mm - (disc_count(discs) - 0.5) * disc_wear_mm
    return _hub_past_teeth_start(tip_s, spline_start_mm, friction_face_s, front, hub_mm)


def _ring(ring_width_mm: Numbers) -> Numbers:
    return ring_width_mm


def _pinion(pinion_mm: Numbers) -> Numbers:
    return pinion_mm


def _pinion_past_ring_front(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
) -> Numbers:
    return starter_flange_s + starter_out_mm - (flywheel_flange_s + ring_front_mm)


def _ring_past_pinion_root(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    pinion_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    rear = flywheel_flange_s + ring_front_mm + ring_width_mm
    return rear - (starter_flange_s + starter_out_mm - pinion_mm)


def _pinion_before_ring_rear(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
    ring_width_mm: Numbers,
) -> Numbers:
    rear = flywheel_flange_s + ring_front_mm + ring_width_mm
    return rear - (starter_flange_s - starter_out_mm)


def _pinion_root_past_ring_front(
    starter_flange_s: Numbers,
    starter_out_mm: Numbers,
    pinion_mm: Numbers,
    flywheel_flange_s: Numbers,
    ring_front_mm: Numbers,
) -> Numbers:
    return starter_flange_s - starter_out_mm + pinion_mm - (flywheel_flange_s + ring_front_mm)


def _travel_wanted(finger_travel_mm: Numbers, travel_factor: float) -> Numbers:
    return travel_factor * finger_travel_mm


def _gap_and_travel_wanted(
    mouth_s: Numbers,
    release_parked_mm: Numbers,
    release_shim_mm: Numbers,
    friction_face_s: Numbers,
    finger_height_mm: Numbers,
    finger_travel_mm: Numbers,
    travel_factor: float,
) -> Numbers:
    gap = release.release_gap(
        mouth_s, release_parked_mm, release_shim_mm, friction_face_s, finger_height_mm
    )
    return travel_factor * (gap + finger_travel_mm)


_VALUES: Mapping[Formula, tuple[Formula, ...]] = {
    spacing.pilot_engagement: (_bearing_nose, _bearing, _shoulder_past_front, _rear_past_chamfer),
    disc.spline_engagement_new: (_teeth, _hub, _teeth_past_hub_front, _hub_past_teeth_start),
    disc.spline_engagement_worn: (_teeth, _hub, _teeth_past_worn_hub, _worn_hub_past_teeth),
    disc.spline_engagement_last_worn: (
        _teeth,
        _hub,
        _teeth_past_last_worn,
        _last_worn_past_teeth,
    ),
    starter.mesh_depth: (_ring, _pinion, _pinion_past_ring_front, _ring_past_pinion_root),
    starter.mesh_behind: (
        _ring,
        _pinion,
        _pinion_before_ring_rear,
        _pinion_root_past_ring_front,
    ),
}
"""What a value is the least of."""
_LIMITS: Mapping[Formula, tuple[Formula, ...]] = {
    release.stroke_wanted: (_travel_wanted, _gap_and_travel_wanted),
}
"""What a limit is the largest of."""
ALONG = (
    spacing.QUESTION,
    disc.QUESTION,
    release.QUESTION,
    converter.QUESTION,
    starter.QUESTION,
)
"""The questions that the window is cut from."""


def along(inputs: Inputs) -> Iterator[Check]:
    """Every check along the crank that is asked of a build."""
    for question in ALONG:
        if question.when(inputs):
            yield from (c for c in question.checks(inputs) if c.kind == "length")


def straight(check: Check) -> Iterator[Check]:
    """A check as several whose margins are straight; its own is the least of theirs."""
    low, high = check.at_least, check.at_most
    values = _VALUES.get(check.value, (check.value,))
    lows = (low,) if low is None or isinstance(low, str) else _LIMITS.get(low, (low,))
    for value in values:
        if low is not None:
            yield from (replace(check, value=value, at_least=x, at_most=None) for x in lows)
        if high is not None:
            yield replace(check, value=value, at_least=None, at_most=high)


_STRAIGHT: dict[Check, tuple[Check, ...]] = {}


def _pieces_of(check: Check) -> tuple[Check, ...]:
    # Checks of a question are objects of its module: their pieces are made once.
    if check not in _STRAIGHT:
        _STRAIGHT[check] = tuple(straight(check))
    return _STRAIGHT[check]


@dataclass(frozen=True, kw_only=True)
class Piece:
    """One straight piece as it stands: margin = slope . (plate, spacer, shim) + room. [mm]"""

    check: Check
    slope: np.ndarray
    room: float
    """Margin where the three are nought."""
    u: float
    """Standard uncertainty of all but the three."""
    parts: Mapping[str, float]
    """The same by source, signed."""


@dataclass(frozen=True, kw_only=True)
class Pieces:
    """All of them, and what is wanting for the others."""

    known: tuple[Piece, ...]
    missing: tuple[Missing, ...]
    open: tuple[str, ...]
    """Titles of the checks that are not among them for want of something."""

    def where(self, wanted: Callable[[Piece], bool]) -> tuple[Piece, ...]:
        """Those that are so."""
        return tuple(p for p in self.known if wanted(p))


def values_at(inputs: Inputs, addresses: Iterable[str], planned: Mapping[str, Any]) -> Any:
    """Quantities by address with some of them planned, places along the crank made anew. [mm]"""
    at = {a: q.value for a in addresses if (q := inputs.quantities.get(a)) is not None}
    base = {s for a in at for s in inputs.quantities[a].wants}
    said = {a: v for a in base if (v := inputs.value(a)) is not None}
    places = places_at({**said, **planned}, inputs.options)
    return {**at, **{a: v for a, v in places.items() if a in at}, **planned}


def planned_inputs(inputs: Inputs) -> Inputs:
    """The inputs with whatever of the three nobody has said planned at a usual size."""
    for address in CHOSEN:
        if inputs.value(address) is None:
            inputs = inputs.with_value(address, USUAL_PLAN[address])
    return inputs


def _piece(check: Check, inputs: Inputs) -> Piece:
    """A piece whose inputs are all there."""
    corners = np.vstack([np.zeros(3), np.eye(3)])
    plan = {a: corners[:, i] for i, a in enumerate(CHOSEN)}
    read = values_at(inputs, check.addresses, plan)
    margin = np.broadcast_to(np.asarray(outcome(check, inputs, read).margin, float), (4,))
    by_source = propagate(check, inputs).contributions
    parts = {s: part for s, part in by_source.items() if s not in CHOSEN}
    return Piece(
        check=check,
        slope=margin[1:] - margin[0],
        room=float(margin[0]),
        u=float(np.sqrt(sum(p * p for p in parts.values()))),
        parts=parts,
    )


def pieces(inputs: Inputs) -> Pieces:
    """Every straight piece of what is asked along the crank."""
    return inputs.once("stack pieces", lambda: _pieces(inputs))


def _pieces(inputs: Inputs) -> Pieces:
    planned = planned_inputs(inputs)
    found: list[Piece] = []
    missing: dict[str, Missing] = {}
    open_: list[str] = []
    for check in along(planned):
        if set(CHOSEN).isdisjoint(asked_for(check, planned)):
            continue  # no thickness moves it: it is no edge of the window
        gone = missing_inputs(check, planned)
        if gone:
            missing |= {m.address: m for m in gone}
            open_.append(check.title)
            continue
        found.extend(_piece(one, planned) for one in _pieces_of(check))
    return Pieces(known=tuple(found), missing=tuple(missing.values()), open=tuple(open_))


def made_u() -> np.ndarray:
    """Standard uncertainty that each of the three is made with, shape (3,). [mm]"""
    return np.array([(DIMENSIONS[a].made_pm or 0.0) / 2.0 for a in CHOSEN])
