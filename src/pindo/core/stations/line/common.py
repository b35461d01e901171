"""What several questions of the Line share: states, cautions, lengths that are ordered."""

from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any

from pindo.core.drawing.board import Reading
from pindo.core.inputs.derived import derived
from pindo.core.inputs.inputs import Inputs
from pindo.core.inputs.quantities import Resolved

REST = MappingProxyType(
    {"ride": frozenset({"rest"}), "position": frozenset({"resting loaded", "stand", "bench"})}
)
SPIN = (
    "A shaft that lets go goes through the floor. Guards on, shaft balanced by a maker, nobody in"
    " its plane."
)


def ordered(
    inputs: Inputs,
    name: str,
    part: str,
    reads: tuple[str, ...],
    length: Callable[[Mapping[str, Any]], Any],
    kind: str = "length",
) -> list[Reading]:
    """A length that is ordered from a maker, with its ± by source; none while a size is missing."""
    found = derived(inputs, length, Resolved(address=name, name=name), reads)
    if found.value is None:
        return []
    return [Reading(name=name, value=found.value, pm=found.pm, kind=kind, ordered=True, part=part)]
