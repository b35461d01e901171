"""What goes over the wire beside the build document and the core's own results."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal, get_type_hints

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict  # the one of the standard library cannot be read before Python 3.12

from pindo.core.assess import Assessment, Tally
from pindo.core.boards import Boards
from pindo.core.build import Build
from pindo.core.dimensions import Station
from pindo.core.entries import Act
from pindo.core.lapse import Lapsing
from pindo.core.resolve import Resolved
from pindo.core.ripple import Ripple
from pindo.core.rows import Step
from pindo.core.verdict import Finding
from pindo.core.ways import Settle


class PatchOperation(BaseModel):
    """One operation of a JSON Patch (RFC 6902)."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True)

    op: Literal["add", "remove", "replace", "move", "copy", "test"]
    path: Annotated[str, Field(max_length=500)]
    value: Any = None
    from_: Annotated[str | None, Field(alias="from", max_length=500)] = None

    def plain(self) -> dict[str, Any]:
        found: dict[str, Any] = {"op": self.op, "path": self.path}
        if self.op in ("add", "replace", "test"):
            found["value"] = self.value
        if self.op in ("move", "copy"):
            found["from"] = self.from_ or ""
        return found


class ChangedPlace(BaseModel):
    """Where a change is looked at: a dimension, a cell or row of a list, a face, a choice."""

    station: Station
    address: str


class Stepped(BaseModel):
    """A change that was undone or redone, in words, with its places."""

    kind: str
    words: list[str]
    places: list[ChangedPlace]


class Acts(BaseModel):
    """What somebody did, one after the other: kept together or not at all."""

    model_config = ConfigDict(extra="forbid")

    acts: Annotated[list[Act], Field(min_length=1, max_length=200)]
    lapse: bool = Field(False, description="Keep it even where readings lapse with it.")


class TrialOf(BaseModel):
    """What is tried, or nothing."""

    model_config = ConfigDict(extra="forbid")

    acts: Annotated[list[Act], Field(max_length=200)] = []


class Said(BaseModel):
    """A document with everything that is said about it."""

    document: Build
    assessment: Assessment
    boards: Boards


class AtVersion(BaseModel):
    """Where a build is."""

    id: str
    version: int
    tag: str = Field(description="The version as If-Match wants it, with the epoch of this life of the build.")
    updated_at: str
    can_undo: bool
    can_redo: bool
    stepped: Stepped | None = Field(None, description="What was just undone or redone.")
    between: list["ChangeLine"] = Field([], description="Changes of others since the version that this change was made against; it was laid on them.")


class BuildState(AtVersion, Said):
    """A build at a version, with everything that is said about it."""


BoardsInPart = TypedDict("BoardsInPart", get_type_hints(Boards), total=False)  # type: ignore[misc]
"""Any of the fields of the boards."""


class TrialState(BaseModel):
    """A change that is not stored: all that it makes different from the stored build, and what keeping it would spoil."""

    findings: list[Finding] = Field(description="Those that are new or read otherwise.")
    order: list[str] = Field(description="Ids of all findings that there are now, in the order of the trade.")
    quantities: dict[str, Resolved] = Field(description="Those that stand otherwise.")
    next: tuple[Settle, ...]
    tallies: Mapping[Station, Tally]
    boards: BoardsInPart = Field(description="Pictures of the profile and of the station that was asked for.")
    ripple: Ripple


class BuildSummary(BaseModel):
    """A line of the list of builds."""

    id: str
    name: str
    vehicle: str
    version: int
    tag: str
    updated_at: str


class NewBuild(BaseModel):
    """A new build: blank by name, or one of the demos."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(min_length=1, max_length=200)]
    vehicle: Annotated[str, Field(max_length=2000)] = ""
    engine: Annotated[str, Field(max_length=2000)] = ""
    gearbox: Annotated[str, Field(max_length=2000)] = ""
    demo: Literal["pump-tender", "garden-trolley", ""] = ""


class Echo(BaseModel):
    """What an entry was understood as; a word has no value."""

    value: float | None
    pm: float | None
    word: str | None
    echo: str


class ChangeLine(BaseModel):
    """A line of the history."""

    version: int
    kind: str
    target: int | None
    who: str
    why: str
    at: str
    words: list[str] = Field(description="What changed, from what to what.")


class EventPreview(BaseModel):
    """What an event would spoil; the act ``event`` carries it out."""

    event: str
    lapsing: list[Lapsing]


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
    decided: bool = Field(description="A figure typed for it is a decision, unless a tool is named.")
    zero: list[str] = Field(description="Words that mean nought here.")
    when_option: str = Field(description="The choice that decides whether it is asked for; empty for always.")
    when_values: list[str]


class OptionRow(BaseModel):
    """One choice."""

    key: str
    name: str
    station: Station
    choices: list[str]
    default: str = Field(description="What holds until something else is said; empty for nothing.")
    when_option: str
    when_values: list[str]


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


class ListRow(BaseModel):
    """One list of the build: points, mounts, solids, pulleys, joints, log."""

    key: str
    title: str
    one: str
    station: Station
    measured: bool = Field(description="Whether its rows carry evidence.")
    record: bool = Field(description="Facts of record: stored at once, never held as a trial.")
    columns: list[ColumnRow]


class PhotoKept(BaseModel):
    """A photo that was stored."""

    id: str


class PhotoLine(BaseModel):
    """A photo of a build, and whether the log names it."""

    id: str
    size: int = Field(description="Bytes.")
    at: str
    named: bool


class Now(BaseModel):
    """Where a build is, asked often: its version, and who made it."""

    tag: str
    version: int
    hand: str
    screen: str
    who: str
    words: list[str]


class CopyLine(BaseModel):
    """A copy of all the data, beside it."""

    name: str
    made_at: str
    size: int = Field(description="Bytes.")


class DataState(BaseModel):
    """The data file and its copies."""

    path: str
    size: int = Field(description="Bytes.")
    builds: int
    copies: list[CopyLine]
    trouble: str = Field(description="Why the last copy could not be made; empty for nothing.")


class Looked(BaseModel):
    """What was found when the data, or a copy, was looked through."""

    builds: int
    size: int
    problems: list[str]


class Restored(BaseModel):
    """What was put in place, and the name under which the former data is kept."""

    kept_as: str
    builds: int


class EventRow(BaseModel):
    """An event of the floor."""

    name: str
    asks: str = Field(description="What it has to name: part, joint, test or nothing.")


class StateFieldRow(BaseModel):
    """One thing that can be said of the state a reading was taken in; no choices means free text."""

    field: str
    name: str
    choices: list[str]


class QuestionRow(BaseModel):
    """One question of a station: what a step of the plan may watch."""

    key: str
    station: Station
    name: str


class Catalogue(BaseModel):
    """All that does not change while Pindo runs: dimensions, choices, limits, sources, tools, events."""

    dimensions: list[DimensionRow]
    ledgers: dict[Station, list[LedgerRow]]
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
    gap_kinds: list[str] = Field(description="What a reading of a trial fit is of.")
    gap_classes: list[str] = Field(description="What a gap of a fit's own lies between.")
    templates: dict[str, list[Step]]
