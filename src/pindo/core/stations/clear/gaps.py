"""The gap between two solids, and what it is called."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from pindo.core.geometry.frames import POSE
from pindo.core.geometry.solids import (
    THICKNESS,
    Placed,
    angle_slopes,
    clocking_slope,
    clocks,
    half_extent,
)
from pindo.core.inputs.inputs import Inputs
from pindo.core.stations.clear.states import PairState

SURE = 1.5  # a pair within this many of its doubts of its limit is evaluated in full


@dataclass(frozen=True)
class Straight:
    """A distance near where it was computed: ``start`` and its slope in each input."""

    start: float
    at: tuple[tuple[str, float, float], ...]
    """Address, value there, slope [mm per unit]."""


def gap(read: Mapping[str, Any], straight: Straight) -> Any:
    """Distance of a pair, straight about the place where it was computed. [mm]

    Exact to first order: d' = n . (movement of the chassis' point - movement of the engine's
    point), n the line between the two points.
    """
    total: Any = straight.start
    for address, value, slope in straight.at:
        total = total + slope * (read[address] - value)
    return total


def straight_of(inputs: Inputs, state: PairState, matrix: np.ndarray) -> Straight:
    """The pair's distance as a straight function of pose, places, sizes and clocking; ``matrix``
    is the vehicle from the powertrain, shape (4, 4). [mm]
    """
    n, pair, quantities = state.pair.apart, state.pair, inputs.quantities
    rows = list(zip(POSE, map(float, state.slopes), strict=True))
    for placed, sign in ((pair.engine, -1.0), (pair.chassis, 1.0)):
        prefix = f"solids.{placed.solid.n}."
        back, left, up = sign * (n @ placed.axes)
        rows += [
            (prefix + "back", -float(back)),
            (prefix + "left", float(left)),
            (prefix + "up", float(up)),
        ]
        rows += [(prefix + field, -float(share)) for field, share in half_extent(placed, n).items()]
        point = pair.on_engine if sign < 0.0 else pair.on_chassis
        angles = [quantities.get(prefix + f) for f in ("tilt", "turn")]
        own_turn = 0.0 if angles[1] is None else angles[1].value or 0.0
        slopes = angle_slopes(placed, own_turn, placed.axes, point, n)
        rows += [
            (q.address, sign * slope)
            for q, slope in zip(angles, slopes, strict=True)
            if q is not None and q.value is not None
        ]
        if placed.solid.body == "gearbox":
            rows += [(key, -float(back)) for key in THICKNESS]
            if clocks(inputs):
                rows.append(("clocking_deg", sign * clocking_slope(matrix, point, n)))
    return Straight(
        pair.distance,
        tuple(
            (address, quantities[address].value or 0.0, round(g, 12))
            for address, g in rows
            if abs(g) > 1e-9
        ),
    )


def solid_name(placed: Placed) -> str:
    return placed.solid.name or f"{placed.solid.body} solid {placed.solid.n}"


def pair_id(state: PairState) -> str:
    """Id of a pair's finding."""
    return f"clear.pair.{state.id}"
