"""Every limit of the trade that a check uses: value, unit, source and one line of reason.

No limit is written into a formula. A build may override any of them with a note; findings say so.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.tables import read_table


@dataclass(frozen=True, kw_only=True)
class Rule:
    """One limit. ``name`` is what a person calls it."""

    id: str
    name: str
    value: float
    unit: str
    source: str
    reason: str


RULES: Mapping[str, Rule] = MappingProxyType(
    {
        row["id"]: Rule(
            id=row["id"],
            name=row["name"],
            value=float(row["value"]),
            unit=row["unit"],
            source=row["source"],
            reason=row["reason"],
        )
        for row in read_table("rules", "id", "name", "value", "unit", "source", "reason")
    }
)
