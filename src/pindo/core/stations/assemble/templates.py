"""Steps of the trade, by kind of build and the way that the unit goes in: a template that the
build copies and makes its own.

A step watches only what can be read before it: runout waits for the bell on the plate, the release
for the cover on the flywheel.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from pindo.core.inputs.couplings import CONVERTER
from pindo.core.tables import read_table

COLUMNS = (
    "block", "n", "name", "phase", "needs", "hides", "needs_hold", "hold", "watches", "gate",
    "helpers", "tools", "caution", "asks", "proves",
)  # fmt: skip
DRIVEN: Mapping[str, str] = MappingProxyType(
    {"shaft to a rear axle": "shaft", "half shafts": "half"}
)
"""Part of the work that each kind of build with a gearbox has of its own."""
FITTED: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "from above": ("join", "fit"),
        "from below": ("join", "fit below"),
        "to the gearbox that stays": ("join stays",),
    }
)
"""Parts of the work that each way in has."""
USUAL_WAY = "from above"
"""How it is laid out while nobody has said."""
TEMPLATES: Mapping[str, Mapping[str, tuple[str, ...]]] = MappingProxyType(
    {
        kind: {way: ("common", "unit", *fitted, own, "end") for way, fitted in FITTED.items()}
        for kind, own in DRIVEN.items()
    }
    | {"chain": dict.fromkeys(FITTED, ("chain",))}
)
"""Parts of the work, by kind of build and the way in."""
OTHERWISE: Mapping[str, Mapping[str, str]] = MappingProxyType(
    {CONVERTER: MappingProxyType({"unit": "unit converter"})}
)
"""Parts of the work that a coupling has in the place of a clutch's."""


def _step(row: dict[str, str]) -> dict[str, Any]:
    words = {k: row[k] for k in ("name", "phase", "gate", "tools", "caution", "asks")}
    steps = {k: [int(n) for n in row[k].split()] for k in ("needs", "hides", "needs_hold")}
    more = {"n": int(row["n"]), "helpers": int(row["helpers"] or 0), "hold": row["hold"] == "yes"}
    proves = {"proves": row["proves"]} if row["proves"] else {}
    return words | steps | more | proves | {"watches": row["watches"].split()}


def template_steps(
    build_type: str, way_in: str = USUAL_WAY, coupling: str = ""
) -> list[dict[str, Any]]:
    """The steps of a kind of build that goes in one way and drives through one coupling, as rows of
    the build document.

    Raises
    ------
    KeyError
        There is no such kind or way.
    """
    rows = read_table("steps", *COLUMNS)
    other = OTHERWISE.get(coupling, {})
    blocks = [other.get(block, block) for block in TEMPLATES[build_type][way_in]]
    return [_step(r) for block in blocks for r in rows if r["block"] == block]
