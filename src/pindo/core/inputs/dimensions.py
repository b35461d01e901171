"""The catalogue: every single dimension and choice that a question asks for, how it is taken, what
spoils it.

What is shipped stands in tables; a question may bring dimensions of its own. Which letters they
have at a station is said by the station's questions. Hole patterns are in the build's faces.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal, cast

from pindo.core.document.evidence import Tool
from pindo.core.tables import listed, read_table


class Station(StrEnum):
    """The stations in the order of the trade."""

    SURVEY = "survey"
    MATE = "mate"
    STACK = "stack"
    SEAT = "seat"
    LINE = "line"
    CLEAR = "clear"
    ASSEMBLE = "assemble"
    LOG = "log"


Conditions = tuple[tuple[str, tuple[str, ...]], ...]
"""Choices that must all be made: each an option and what it may be; an empty text is nothing
said.
"""


def holds(when: Conditions, options: Mapping[str, str]) -> bool:
    """Whether the choices of a build are those."""
    return all(options.get(option, "") in choices for option, choices in when)


def conditions(text: str) -> Conditions:
    """Conditions as a table writes them: ``drive: chain / half shafts; belt: yes``, ``-`` for
    nothing said.
    """
    found = []
    for part in text.split("; ") if text else ():
        option, _, choices = part.partition(": ")
        found.append((option, tuple("" if c == "-" else c for c in listed(choices))))
    return tuple(found)


@dataclass(frozen=True, kw_only=True)
class Adjustable:
    """A dimension that the fabricator may choose: bounds, and the step that a way out is rounded
    to.
    """

    low: float
    high: float
    step: float
    reach: float = math.inf
    """Largest change that a way out may propose."""


@dataclass(frozen=True, kw_only=True)
class DimensionDef:
    """What the trade calls a dimension and how it is taken."""

    key: str
    name: str
    station: Station
    part: str
    how: str
    tool: Tool | None
    """What reads it; None where no gauge of the shop does: a paper or a person says it."""
    kind: str = "length"
    can: tuple[float, float] = (-math.inf, math.inf)
    """The range that such a size can have; what lies outside is asked about."""
    adjustable: Adjustable | None = None
    reading: str = ""
    """Kind of reading that an event may spoil; empty for a size of a part."""
    event: str = ""
    """Event that a change of this dimension is."""
    safer: Literal["low", "high", ""] = ""
    """Which of two statements stands meanwhile when they contradict each other."""
    when: Conditions = ()
    """Choices under which it is asked for."""
    made_pm: float | None = None
    """Making tolerance of a size that may be chosen; None for one that is only read."""
    decided: bool = False
    """Whether a figure typed for it is a decision, unless a tool is named with it."""
    zero: tuple[str, ...] = ()
    """Words that mean nought here."""
    also: tuple[str, ...] = ()
    """Other kinds of part that have such a size in its place: a flexplate for a flywheel."""

    @property
    def sourced(self) -> bool:
        """Whether a paper or a person says it, since no gauge reads it."""
        return self.tool is None


@dataclass(frozen=True, kw_only=True)
class OptionDef:
    """A choice that decides which formula holds; no ``choices`` means free text, ``default`` is
    what holds until something else is said.
    """

    key: str
    name: str
    station: Station
    choices: tuple[str, ...] = ()
    when: Conditions = ()
    default: str = ""
    on_paper: bool = False
    """Whether every sheet tells it in its head."""
    reading: str = ""
    """Kind of reading, of a test that an event may undo; empty for what is a fact of the build."""


SHAFTS = ("one-piece shaft", "two-piece shaft")
DIMENSION_COLUMNS = (
    "station",
    "key",
    "name",
    "part",
    "tool",
    "kind",
    "how",
    "least",
    "most",
    "adjust_least",
    "adjust_most",
    "step",
    "reach",
    "made_pm",
    "decided",
    "safer",
    "reading",
    "event",
    "when",
    "words_for_nought",
)


OPTION_COLUMNS = ("station", "key", "name", "choices", "default", "when", "on_paper", "reading")


def _number(cell: str, otherwise: float) -> float:
    return float(cell) if cell else otherwise


def _dimension(row: dict[str, str]) -> DimensionDef:
    adjustable = None
    if row["step"]:
        low, high, step = (float(row[c]) for c in ("adjust_least", "adjust_most", "step"))
        reach = _number(row["reach"], math.inf)
        adjustable = Adjustable(low=low, high=high, step=step, reach=reach)
    return DimensionDef(
        key=row["key"],
        name=row["name"],
        station=Station(row["station"]),
        part=listed(row["part"])[0],
        also=listed(row["part"])[1:],
        how=row["how"],
        tool=Tool(row["tool"]) if row["tool"] else None,
        kind=row["kind"],
        can=(_number(row["least"], -math.inf), _number(row["most"], math.inf)),
        adjustable=adjustable,
        reading=row["reading"],
        event=row["event"],
        safer=cast(Literal["low", "high", ""], row["safer"]),
        when=conditions(row["when"]),
        made_pm=float(row["made_pm"]) if row["made_pm"] else None,
        decided=row["decided"] == "yes",
        zero=listed(row["words_for_nought"]),
    )


def _option(row: dict[str, str]) -> OptionDef:
    return OptionDef(
        key=row["key"],
        name=row["name"],
        station=Station(row["station"]),
        choices=listed(row["choices"]),
        when=conditions(row["when"]),
        default=row["default"],
        on_paper=row["on_paper"] == "yes",
        reading=row["reading"],
    )


DIMENSIONS: dict[str, DimensionDef] = {
    row["key"]: _dimension(row) for row in read_table("dimensions", *DIMENSION_COLUMNS)
}
"""Every dimension by key; a question that is enrolled adds those that it brings."""
OPTIONS: dict[str, OptionDef] = {
    row["key"]: _option(row) for row in read_table("options", *OPTION_COLUMNS)
}
LEDGERS: dict[str, dict[str, str]] = {}
"""Question -> dimension key -> callout letter, in ledger order, as the question says.

A dimension of two questions has a letter at each.
"""


def letter_at(question: str, address: str) -> str:
    """Callout letter of a dimension in a question's ledger, or an empty string."""
    return LEDGERS.get(question, {}).get(address, "")


def options_of(said: Mapping[str, str]) -> dict[str, str]:
    """Choices as they stand: what holds until something else is said, and what was said."""
    defaults = {o.key: o.default for o in OPTIONS.values() if o.default}
    return defaults | {key: text for key, text in said.items() if text}
