"""What the engine drives through, and what that asks: which kinds have a bellhousing, a clutch of
the shop's own, a converter, a clutch pack, a hub.
"""

from pindo.core.inputs.inputs import Inputs

CLUTCH = frozenset({"", "clutch and bellhousing"})
"""A clutch between flywheel and input shaft; also while nobody has said."""
CONVERTER = "converter automatic"
PACK = "dual clutch box"
HUBBED = frozenset({"centrifugal clutch", "belt drive", "direct hub on its shaft"})
"""Kinds that sit on the engine's own shaft by a hub and a key, without a bellhousing."""


def coupling(inputs: Inputs) -> str:
    """What was said; empty for nothing."""
    return inputs.options.get("coupling", "")


def clutched(inputs: Inputs) -> bool:
    """Whether a clutch is fitted here, by its disc and cover."""
    return coupling(inputs) in CLUTCH


def converter(inputs: Inputs) -> bool:
    """Whether a torque converter is bolted to a flexplate."""
    return coupling(inputs) == CONVERTER


def packed(inputs: Inputs) -> bool:
    """Whether the gearbox brings its clutches with it, driven through a damper."""
    return coupling(inputs) == PACK


def bellhoused(inputs: Inputs) -> bool:
    """Whether two castings are bolted face to face."""
    return coupling(inputs) not in HUBBED


def hubbed(inputs: Inputs) -> bool:
    """Whether a hub sits on the engine's own shaft."""
    return coupling(inputs) in HUBBED
