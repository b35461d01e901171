"""What goes over the wire beside the build document and the core's own results."""

from collections.abc import Mapping
from typing import Annotated, Any, Generic, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, Field

from pindo.core.acts import Act
from pindo.core.assessment import Tally
from pindo.core.document.build import Build, Layout
from pindo.core.drawing.board import Board
from pindo.core.drawing.shapes import Drawing
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.lapse import Lapsing
from pindo.core.inputs.quantities import Resolved
from pindo.core.judging.gates import OpenItem
from pindo.core.judging.verdict import (
    Missing,
    RuleUsed,
    Sampled,
    Sentence,
    Share,
    Verdict,
    WayOut,
)
from pindo.core.judging.ways import Settle
from pindo.core.ripple import Ripple


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


OPENED_FIELDS = ("why", "caution", "rules", "shares", "missing", "inputs", "ways_out")
"""What of a finding goes out when it is opened."""


class FindingLine(BaseModel):
    """A finding as it stands in a list; the rest of it is asked when it is opened."""

    id: str
    station: Station
    question: str
    title: str
    verdict: Verdict
    condition: str
    kind: str
    value: float | None
    value_pm: float | None
    low: float | None
    high: float | None
    margin: float | None
    u: float | None
    sentence: Sentence
    safety: bool
    provisional: bool
    limit_worked_out: bool
    limit_changed: bool
    waived_by: str
    waiver_ended: str
    sure_at: str
    row: str = Field(description="Address of the row that it speaks of; empty for none.")
    stretch: tuple[float, float, float, float] | None
    at: tuple[float, float, float] | None


F = TypeVar("F")


class AssessmentOf(BaseModel, Generic[F]):
    """The whole answer for one build."""

    findings: tuple[F, ...] = Field(description="In the order of the trade.")
    quantities: Mapping[str, Resolved]
    next: tuple[Settle, ...] = Field(description="Measure next, most settling first.")
    tallies: Mapping[Station, Tally]
    by_question: Mapping[str, Tally]
    asked: tuple[str, ...] = Field(
        description="Dimensions, choices and questions that are asked under the choices made."
    )
    opens: tuple[OpenItem, ...] = Field(description="What is open until a gate.")


class Said(BaseModel, Generic[F]):
    """A document with everything that is said about it; its pictures are fetched by question."""

    document: Build
    assessment: AssessmentOf[F]


class AtVersion(BaseModel):
    """Where a build is."""

    id: str
    version: int
    tag: str = Field(
        description="The version as If-Match wants it, with the epoch of this life of the build."
    )
    updated_at: str
    can_undo: bool
    can_redo: bool
    stepped: Stepped | None = Field(None, description="What was just undone or redone.")
    between: list["ChangeLine"] = Field(
        [],
        description=(
            "Changes of others since the version that this change was made against; it was laid on"
            " them."
        ),
    )


class BuildState(AtVersion, Said[FindingLine]):
    """A build at a version, with everything that is said about it."""


class BoardsOf(BaseModel):
    """The profile (under an empty key) and the board of a question, by its key."""

    tag: str
    boards: Mapping[str, Board]


class Differing(BaseModel, Generic[F]):
    """What reads otherwise than in the version that the screen shows."""

    findings: list[F] = Field(description="Those that are new.")
    altered: dict[str, dict[str, Any]] = Field(
        description="Of those that read otherwise, by id: the fields that differ."
    )
    order: list[str] | None = Field(
        description=(
            "Ids of all findings that there are now, in the order of the trade; none where they"
            " stand as they stood."
        )
    )
    quantities: dict[str, Resolved] = Field(description="Those that stand otherwise.")
    gone: list[str] = Field(description="Addresses that there are no longer.")
    next: tuple[Settle, ...] | None = Field(description="None where it stands.")
    tallies: Mapping[Station, Tally]
    by_question: Mapping[str, Tally] = Field(description="Of questions that tally otherwise.")
    asked: tuple[str, ...] | None = Field(description="None where it is the same.")
    opens: tuple[OpenItem, ...] | None = Field(description="None where it is the same.")
    boards: Mapping[str, Board] = Field(
        description="Boards that differ, of the profile and of the question that is looked at."
    )


class BuildChange(AtVersion, Differing[F], Generic[F]):
    """A build at a new version, as what differs from the one that the screen shows."""

    since: str = Field(description="Tag of the version that it differs from.")
    document: list[dict[str, Any]] = Field(description="JSON Patch from that document to this one.")


class TrialState(Differing[F], Generic[F]):
    """A change that is not stored: all that it makes different from the stored build, and what
    keeping it would spoil.
    """

    ripple: Ripple


class NearState(BaseModel, Generic[F]):
    """What one question says of a change that is not stored."""

    findings: list[F] = Field(description="Those that are new.")
    altered: dict[str, dict[str, Any]] = Field(
        description="Of those that read otherwise, by id: the fields that differ."
    )
    without: list[str] = Field(description="Ids of those that there are no longer.")
    quantities: dict[str, Resolved] = Field(description="Those that stand otherwise.")
    boards: Mapping[str, Board] = Field(description="The board of the question.")


class Detail(BaseModel):
    """Why a finding reads as it does, and what to do about it."""

    why: str
    caution: str
    rules: tuple[RuleUsed, ...]
    shares: tuple[Share, ...]
    missing: tuple[Missing, ...]
    inputs: tuple[str, ...]
    ways: tuple[WayOut, ...]
    sampled: Sampled | None


class Glance(BaseModel):
    """What stands of a build, for the list of builds."""

    tally: Tally
    opens: int = Field(description="Loose, temporary, plugged and unproved items.")
    next: str = Field(description="What to measure next; empty for nothing.")
    side: Drawing | None = Field(description="The build from the side.")


class BuildSummary(BaseModel):
    """A line of the list of builds."""

    id: str
    name: str
    vehicle: str
    version: int
    tag: str
    updated_at: str
    demo: bool = Field(description="Whether it is a made-up build that Pindo ships with.")


class NewBuild(BaseModel):
    """A new build: blank by name, or one of the demos."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(min_length=1, max_length=200)]
    vehicle: Annotated[str, Field(max_length=2000)] = ""
    engine: Annotated[str, Field(max_length=2000)] = ""
    gearbox: Annotated[str, Field(max_length=2000)] = ""
    layout: Layout = ""
    options: Annotated[
        dict[str, str],
        Field(max_length=200, description="Choices that are known from the start, by key."),
    ] = Field(default_factory=dict)
    demo: Literal["pump-tender", "garden-trolley", "timber-winch", "dune-car", ""] = ""


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


class PhotoKept(BaseModel):
    """A photo that was stored."""

    id: str


class PhotoLine(BaseModel):
    """A photo of a build, and whether the log names it."""

    id: str
    size: int = Field(description="Bytes.")
    at: str
    named: bool
    media_type: str


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


class NewJob(BaseModel):
    """A search that is asked for."""

    kind: Annotated[str, Field(max_length=40)]
    build: Annotated[str, Field(max_length=64)]
