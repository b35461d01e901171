"""What each part carries of the engine's torque, gear by gear, and where the tyres cap it. [N·m]

Load of a part: T x the ratios before it x its share, no more than mu m g r over the ratios behind
it.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from pindo.core.document.stack_rows import Link
from pindo.core.inputs.inputs import Inputs
from pindo.core.judging.check import Formula
from pindo.core.numbers import Numbers, over

GRAVITY = 9.80665
BEFORE, BEHIND, AXLE, FED = (
    "before the gearbox",
    "behind the gearbox",
    "behind the final drive",
    "fed by power",
)
GRIPS = ("driven_axle_kg", "tyre_mm")
"""What the tyres' cap follows from."""
ENGINE = "engine_torque_nm"
FINAL = "final_drive_ratio"


def grip_torque(driven_axle_kg: Numbers, tyre_mm: Numbers, tyre_grip: float) -> Numbers:
    """Torque at the wheels at which the tyres slip: mu m g r. [N·m]"""
    return tyre_grip * driven_axle_kg * GRAVITY * tyre_mm / 2000.0


@dataclass(frozen=True, kw_only=True)
class Gearing:
    """A gear: its address or ratio, and what it is called."""

    name: str
    address: str


def gears(inputs: Inputs) -> list[Gearing]:
    """Gears of the build's list; lowest and reverse where it has none."""
    own = [
        Gearing(name=row.name or f"gear {row.n}", address=f"gears.{row.n}.ratio")
        for row in inputs.build.gears
    ]
    if own:
        return own
    pairs = (("lowest gear", "first_gear_ratio"), ("reverse", "reverse_ratio"))
    return [
        Gearing(name=name, address=a)
        for name, a in pairs
        if (a == "first_gear_ratio" or inputs.value(a))
    ]


def final_of(inputs: Inputs) -> tuple[str, ...]:
    """The final drive, where the build has one that is told."""
    return (FINAL,) if inputs.options.get("drive") != "chain" else ()


def caps(inputs: Inputs) -> bool:
    """Whether the tyres' grip is known: without it no load is capped, which is the safe side."""
    return all(inputs.value(a) is not None for a in GRIPS)


def load(at: str, gear: str, final: tuple[str, ...], capped: bool, share: str) -> Formula:
    """Torque at a part in a gear, as a function of what it reads and of the tyres' grip."""

    def value(read: Mapping[str, Numbers], tyre_grip: float) -> Numbers:
        ratio = np.abs(read[gear])
        final_drive: Numbers = read[final[0]] if final else 1.0
        part: Numbers = read[share] if share else 1.0
        ahead: Mapping[str, Numbers] = {BEFORE: 1.0, BEHIND: ratio, AXLE: ratio * final_drive}
        after: Mapping[str, Numbers] = {BEFORE: ratio * final_drive, BEHIND: final_drive, AXLE: 1.0}
        torque: Numbers = read[ENGINE] * ahead[at] * part
        if not capped:
            return torque
        most = grip_torque(read[GRIPS[0]], read[GRIPS[1]], tyre_grip)
        return np.minimum(torque, over(most, after[at]) * part)

    return value


@dataclass(frozen=True, kw_only=True)
class Carried:
    """A part in the gear that loads it most."""

    id: str
    name: str
    rating: str
    at: str
    gear: Gearing
    reads: tuple[str, ...]
    load: Formula
    row: str = ""


@dataclass(frozen=True, kw_only=True)
class InGear:
    """What a part carries in one gear."""

    gear: Gearing
    reads: tuple[str, ...]
    load: Formula
    torque: float | None
    """Its load; nothing while something that it reads is not known. [N·m]"""


def in_gears(inputs: Inputs, at: str, share: str) -> Iterator[InGear]:
    """The load of a part gear by gear: where it sits, and the address of its share."""
    final, capped = final_of(inputs), caps(inputs)
    for gear in gears(inputs):
        of = load(at, gear.address, final, capped, share)
        grips, split = GRIPS if capped else (), (share,) if share else ()
        reads = (ENGINE, gear.address, *final, *grips, *split)
        known = inputs.known(reads)
        torque = None if known is None else float(of(known, inputs.rules["tyre_grip"]))
        yield InGear(gear=gear, reads=reads, load=of, torque=torque)


def share_of(row: Link) -> str:
    """Address of the part's share of the torque; empty where it carries all."""
    return f"links.{row.n}.share" if row.share else ""


def _hardest(inputs: Inputs, at: str, share: str) -> InGear:
    """The gear in which a part carries most; one that is not known may be the hardest."""
    every = list(in_gears(inputs, at, share))
    return max(every, key=lambda one: math.inf if one.torque is None else one.torque)


def carried(inputs: Inputs) -> list[Carried]:
    """Every part of the list that is rated by torque, in the gear that loads it most."""
    found = []
    for row in inputs.build.links:
        if row.at == FED:
            continue
        most = _hardest(inputs, row.at, share_of(row))
        found.append(
            Carried(
                id=f"stack.link.{row.n}",
                name=row.name or f"part {row.n}",
                rating=f"links.{row.n}.rating",
                at=row.at,
                gear=most.gear,
                reads=most.reads,
                load=most.load,
                row=f"links.{row.n}",
            )
        )
    return found


def capped_by_grip(inputs: Inputs, of: Formula, reads: tuple[str, ...], engine: float) -> bool:
    """Whether the tyres slip before the part has all of the engine's torque."""
    known = inputs.known(reads)
    if known is None:
        return False
    more = dict(known) | {ENGINE: engine * 1.01}
    grip = inputs.rules["tyre_grip"]
    return float(of(more, grip)) <= float(of(known, grip)) * 1.001


def margin_with_grip(inputs: Inputs, of: Formula, reads: tuple[str, ...], rating: str) -> float:
    """Rating over load, the tyres holding whatever comes."""
    known, rated = inputs.known(reads), inputs.value(rating)
    if known is None or rated is None:
        return 0.0
    return float(over(rated, of(known, 1e6)))
