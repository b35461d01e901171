"""What several questions of the Mate share: states, cautions, how holes are bound to a formula, and
which of many checks of one kind are asked.
"""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.judging.check import Check, Constant, Input
from pindo.core.stations.mate.placing import PlacedHole, turn_of

FACE_STATES = MappingProxyType({"gearbox": frozenset({"off"})})
MOST_OF_ONE_KIND = 8  # findings of one kind; the rest follow when these are cured
JOINT = "A plate is cut once. Drill the locating holes first, offer it up, then cut the rest."
WIDEST_LAND = 3.0  # a land nobody measured may be as wide as this many of its hole's diameters
SURE = 1.5  # a candidate within this many of its doubts is evaluated in full
TEARS = "A hole too near an edge tears out."
OTHER_SIDE = MappingProxyType({"engine": "gearbox", "gearbox": "engine"})
LOCATED = MappingProxyType({"engine": "engine_joint", "gearbox": "gearbox_joint"})
Stretch = tuple[float, float, float, float]
"""Two points of the face view that a finding speaks of. [mm]"""
Given = dict[str, Input | str]


def millimetres(value: float) -> Constant:
    """A length that is known for certain."""
    return Constant(value, "length")


def place(i: int, h: PlacedHole) -> Given:
    """Where hole ``i`` of a formula stands, and what turns it."""
    at = {"u": h.address("u"), "v": h.address("v")}
    return {f"{axis}{i}_mm": a for axis, a in at.items()} | {f"turn{i}_deg": turn_of(h.side)}


def pair(a: PlacedHole, b: PlacedHole) -> Given:
    """Two holes; two of the gearbox turn together, so their clocking drops out."""
    given = place(1, a) | place(2, b)
    if a.side == b.side:
        given |= {"turn1_deg": Constant(0.0), "turn2_deg": Constant(0.0)}
    return given


def between(a: PlacedHole, b: PlacedHole) -> Stretch:
    """From one hole to the other in the face view."""
    return a.u, a.v, b.u, b.v


def at(h: PlacedHole) -> Stretch:
    """A hole in the face view."""
    return h.u, h.v, h.u, h.v


@dataclass(frozen=True)
class Candidate:
    """A check that may have to be asked: its margin and doubt now, and how to make it."""

    margin: float
    doubt: float
    make: Callable[[], Check]


def worst(candidates: Iterable[Candidate]) -> Iterator[Check]:
    """All that may not go, worst first, and always the tightest one."""
    ordered = sorted(candidates, key=lambda c: c.margin)
    chosen = [c for c in ordered if c.margin <= c.doubt][:MOST_OF_ONE_KIND] or ordered[:1]
    for candidate in chosen:
        yield candidate.make()
