"""What the screen asks once: dimensions, choices, rules, lists, events and questions."""

from typing import Literal

from pydantic import BaseModel, Field

from pindo.core.document.records import Step
from pindo.core.inputs.dimensions import Station


class DimensionRow(BaseModel):
    """One dimension of the catalogue."""

    key: str
    name: str
    station: Station
    part: str
    kind: str
    unit: str
    imperial: str
    how: str
    tool: str
    adjustable: bool
    low: float | None
    high: float | None
    step: float | None
    event: str = Field(description="The event that a change of this size is; empty for none.")
    sourced: bool = Field(description="No gauge reads it: a paper or a person says it.")
    decided: bool = Field(
        description="A figure typed for it is a decision, unless a tool is named."
    )
    zero: list[str] = Field(description="Words that mean nought here.")


class OptionRow(BaseModel):
    """One choice."""

    key: str
    name: str
    station: Station
    choices: list[str]
    default: str = Field(description="What holds until something else is said; empty for nothing.")


class RuleRow(BaseModel):
    """One limit of the rules table."""

    id: str
    name: str
    value: float
    unit: str
    source: str
    reason: str


class LedgerRow(BaseModel):
    """A line of a station's ledger: letter and dimension."""

    letter: str
    key: str


class ColumnRow(BaseModel):
    """One column of a list."""

    field: str
    label: str
    kind: str
    choices: list[str]
    needed: bool
    mirrors: bool


class PartListRow(BaseModel):
    key: str
    field: str
    one: str
    title: str
    columns: list[ColumnRow]


class ListRow(BaseModel):
    """One list of the build: points, mounts, solids, pulleys, joints, log."""

    key: str
    title: str
    one: str
    station: Station
    measured: bool = Field(description="Whether its rows carry evidence.")
    record: bool = Field(description="Facts of record: stored at once, never held as a trial.")
    origin: str = Field(description="Where its places are told from.")
    parts: list[PartListRow] = Field(description="Lists that each of its rows has.")
    columns: list[ColumnRow]


class EventRow(BaseModel):
    """An event of the floor."""

    name: str
    asks: str = Field(description="What it has to name: part, joint, test or nothing.")


class StateFieldRow(BaseModel):
    """One thing that can be said of the state a reading was taken in; no choices means free
    text.
    """

    field: str
    name: str
    choices: list[str]


class QuestionRow(BaseModel):
    """One question of a station: what it asks for, and what a step of the plan may watch."""

    key: str
    station: Station
    name: str
    asks: str
    ledger: list[LedgerRow]
    lists: list[str]
    faces: list[Literal["engine", "gearbox"]] = Field(
        description="Castings whose hole patterns belong to it."
    )
    path: str = Field(description="Its name within its station, as it stands in addresses.")
    options: list[str]
    gaps: bool = Field(description="Whether its lengths are gaps that a trial fit can read.")
    files: list[tuple[str, str]] = Field(
        description="Files that it gives out: path under the build, and name."
    )


class Catalogue(BaseModel):
    """All that does not change while Pindo runs: dimensions, choices, limits, sources, tools,
    events.
    """

    dimensions: list[DimensionRow]
    options: list[OptionRow]
    rules: list[RuleRow]
    sources: list[str]
    tools: list[str]
    tools_of_kind: dict[str, list[str]] = Field(description="Tools that can read a kind of number.")
    questions: list[QuestionRow]
    events: list[EventRow]
    state_fields: list[StateFieldRow]
    parts: list[str]
    lists: list[ListRow]
    templates: dict[str, dict[str, dict[str, list[Step]]]]
