"""Which plate a hole is in, and how thick that is."""

from pindo.core.inputs.inputs import Inputs


def own_plates(inputs: Inputs) -> bool:
    """Whether each casting has a plate of its own: two plates, screwed and dowelled together."""
    return inputs.options.get("plates") == "two"


def own_thickness(inputs: Inputs, side: str) -> float | None:
    """Thickness of the plate that a side's holes are in. [mm]"""
    whole = inputs.value("plate_mm")
    if not own_plates(inputs):
        return whole
    first = inputs.value("plate_first_mm")
    if side == "engine":
        return first
    return None if whole is None or first is None else whole - first
