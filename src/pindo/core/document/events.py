"""The events of the floor and the kinds of reading that each spoils."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Literal

Asks = Literal["", "part", "joint", "test"]


@dataclass(frozen=True, kw_only=True)
class Event:
    """Something that happens to the unit. ``spoils`` names kinds of reading; ``state`` what it
    changes to; ``asks`` what it has to name.
    """

    name: str
    spoils: frozenset[str]
    state: Mapping[str, str] = field(default_factory=dict)
    asks: Asks = ""


def _event(name: str, *spoils: str, asks: Asks = "", **state: str) -> Event:
    return Event(name=name, spoils=frozenset(spoils), state=MappingProxyType(state), asks=asks)


# Kinds of reading: of the catalogue's dimensions, of the readings of a trial fit, of joints
# (torque) and steps (test).
EVENTS: Mapping[str, Event] = MappingProxyType(
    {
        e.name: e
        for e in (
            _event("gearbox on", "gap", "pose", "lever", gearbox="on"),
            _event("gearbox off", "gap", "pose", "lever", "joining", gearbox="off"),
            _event("unit to the bench", "gap", "pose", "lever", position="bench"),
            _event("unit hung", "gap", "pose", "lever", position="hung"),
            _event("unit set down, loose", "gap", "pose", "lever", position="resting loose"),
            _event("unit set down, loaded", "gap", "pose", "lever", position="resting loaded"),
            _event(
                "mount shimmed, slotted, welded or loaded",
                "pose",
                "gap",
                "length",
                "lever",
                "exhaust",
            ),
            _event(
                "plate, shield, spacer or adapter thickness",
                "runout",
                "starter depth",
                "length",
                "lever",
                "gap",
                "joining",
            ),
            _event("dowel out, in or replaced", "runout", "joining"),
            _event("housing welded or ground", "runout", "joining"),
            _event("unit moved", "gap", "lever", "exhaust", "length"),
            _event("springs, spacers, tyres or load", "ride", "length", "gap"),
            _event("part or supplier changed", "joining", asks="part"),
            _event("joint opened", "torque", "test", asks="joint"),
            _event("control, cable or wire touched", "test", asks="test"),
            _event("first heat", "torque again", "belt"),
        )
    }
)
