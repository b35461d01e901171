"""Gates of the work, and what is open until one of them."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.document.records import GATES

LIFT, START, MOTION, HAND_OVER = GATES

GATE_OF_JOINT: Mapping[str, str] = MappingProxyType(
    {
        "lifting gear": LIFT,
        "rotating": START,
        "fuel": START,
        "oil or coolant": START,
        "steering": MOTION,
        "brakes": MOTION,
        "wheels": MOTION,
        "drive shaft": MOTION,
        "mounts": MOTION,
        "structure": MOTION,
        "other": HAND_OVER,
        "not said": LIFT,
    }
)
"""The first gate that a joint shuts while it is open or loose; one whose kind nobody has said
may be any, so it shuts them all.
"""
MARKED_KINDS = frozenset({"rotating", "fuel", "steering", "brakes", "lifting gear"})
"""Joints that also want their mark: a torque that nobody can see was not proved."""
GATE_OF_ITEM: Mapping[str, str] = MappingProxyType(
    {"wood": START, "uncertified part": START, "missing guard": START, "rag": START}
)
"""What shuts its gate whatever later one was chosen for it."""


@dataclass(frozen=True, kw_only=True)
class OpenItem:
    """Something loose, temporary, looped, plugged or unproved, and the gate that it blocks."""

    kind: str
    text: str
    gate: str
    row: str
    """Address of the row that says so: ``provisional.3``."""


def earlier(a: str, b: str) -> str:
    """The gate that comes first."""
    return min(a, b, key=GATES.index)


def blocks(item: OpenItem, gate: str) -> bool:
    """Whether an open item shuts a gate: its own and every later one."""
    return gate in GATES and item.gate in GATES and GATES.index(item.gate) <= GATES.index(gate)
