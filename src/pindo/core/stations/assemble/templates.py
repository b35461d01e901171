"""Steps of the trade, by kind of build: a template that the build copies and makes its own.

A step watches only what can be read before it: runout waits for the bell on the plate, the release
for the cover on the flywheel.
"""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Any

from pindo.core.tables import read_table

COLUMNS = (
    "block", "n", "name", "phase", "needs", "hides", "needs_hold", "hold", "watches", "gate",
    "helpers", "tools", "caution", "asks", "proves",
)  # fmt: skip
TEMPLATES: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "shaft to a rear axle": ("common", "unit", "fit", "shaft", "end"),
        "half shafts": ("common", "unit", "fit", "half", "end"),
        "chain": ("chain",),
    }
)
"""Parts of the work that each kind of build has."""


def _step(row: dict[str, str]) -> dict[str, Any]:
    words = {k: row[k] for k in ("name", "phase", "gate", "tools", "caution", "asks")}
    steps = {k: [int(n) for n in row[k].split()] for k in ("needs", "hides", "needs_hold")}
    more = {"n": int(row["n"]), "helpers": int(row["helpers"] or 0), "hold": row["hold"] == "yes"}
    proves = {"proves": row["proves"]} if row["proves"] else {}
    return words | steps | more | proves | {"watches": row["watches"].split()}


def template_steps(build_type: str) -> list[dict[str, Any]]:
    """The steps of a kind of build as rows of the build document.

    Raises
    ------
    KeyError
        There is no such kind.
    """
    rows = read_table("steps", *COLUMNS)
    return [_step(r) for block in TEMPLATES[build_type] for r in rows if r["block"] == block]
