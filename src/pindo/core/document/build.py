"""The build document: the one model of what is known about a build.

Numbers are kept as they were typed and understood by :mod:`pindo.core.inputs.quantity` whenever
they are needed, so text and value can never disagree. The document knows nothing of checks.
"""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator

from pindo.core.document import lists, mate_rows, records, rows, stack_rows
from pindo.core.document.evidence import State
from pindo.core.document.faces import Face, twice
from pindo.core.document.parts import Date, Fact, Kit, PartCard, Variant
from pindo.core.document.sizes import Dimension
from pindo.core.document.typed import Key, Model, Text, Typed

MAX_ROWS = 2000


Layout = Literal["", "lengthwise", "reversed", "crosswise left", "crosswise right", "swing arm"]
"""How the unit stands; empty while nobody has said."""


class Override(Model):
    """A limit of the rules table changed for this build, with the reason."""

    value: float = Field(allow_inf_nan=False)
    note: Annotated[str, StringConstraints(min_length=3, max_length=2000, strip_whitespace=True)]


class Waiver(Model):
    """A finding accepted by name for a time; it never reads as *goes*."""

    who: Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
    reason: Annotated[str, StringConstraints(min_length=3, max_length=2000, strip_whitespace=True)]
    until: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}$")]


class LaidOut(Model):
    """What the steps were laid out for."""

    kind: Text
    way: Text
    coupling: Text = ""


class EventRecord(Model):
    """An event that happened to the build, and how many readings lapsed with it."""

    event: Text
    part: Text = ""
    at: Text | None = None
    lapsed: int = 0


class Aside(Model):
    """What an earlier version kept at a place that there is no longer."""

    place: Annotated[str, StringConstraints(max_length=300)]
    value: Text


class Build(Model):
    """Everything known about one build."""

    schema_version: Literal[4] = 4
    name: Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
    vehicle: Text = ""
    engine: Text = ""
    gearbox: Text = ""
    notes: Text = ""
    hoist_on: Date = Field("", description="The day that the hoist is hired for, ISO 8601.")
    layout: Layout = ""
    nicknames: dict[Key, Text] = Field(
        default_factory=dict, max_length=40, description="The user's own names of sides and ends."
    )
    state: State = Field(default_factory=State)
    options: dict[Key, Typed] = Field(default_factory=dict, max_length=200)
    dims: dict[Key, Dimension] = Field(default_factory=dict, max_length=500)
    engine_face: Face = Field(default_factory=Face)
    gearbox_face: Face = Field(default_factory=lambda: Face(taken_from="front"))
    marks: list[rows.Mark] = Field(default_factory=list, max_length=200)
    tape: list[rows.Tape] = Field(default_factory=list, max_length=MAX_ROWS)
    bosses: list[rows.Boss] = Field(default_factory=list, max_length=200)
    pose_points: list[rows.PosePoint] = Field(default_factory=list, max_length=100)
    dials: list[mate_rows.Dial] = Field(default_factory=list, max_length=200)
    locators: list[mate_rows.Locator] = Field(default_factory=list, max_length=40)
    proofs: list[mate_rows.Proof] = Field(default_factory=list, max_length=500)
    sheets: list[mate_rows.Sheet] = Field(default_factory=list, max_length=100)
    outlines: list[mate_rows.Outline] = Field(default_factory=list, max_length=60)
    plates: list[mate_rows.OtherPlate] = Field(default_factory=list, max_length=20)
    spacer_pieces: list[stack_rows.SpacerPiece] = Field(default_factory=list, max_length=12)
    made_for: list[stack_rows.MadeFor] = Field(default_factory=list, max_length=40)
    spacers: list[stack_rows.Spacer] = Field(default_factory=list, max_length=100)
    gears: list[stack_rows.Gear] = Field(default_factory=list, max_length=24)
    links: list[stack_rows.Link] = Field(default_factory=list, max_length=60)
    join_gaps: list[stack_rows.JoinGap] = Field(default_factory=list, max_length=60)
    pins: list[stack_rows.Pin] = Field(default_factory=list, max_length=40)
    mounts: list[rows.Mount] = Field(default_factory=list, max_length=12)
    solids: list[rows.Solid] = Field(default_factory=list, max_length=200)
    pulleys: list[rows.Pulley] = Field(default_factory=list, max_length=30)
    joints: list[rows.BoltedJoint] = Field(default_factory=list, max_length=200)
    steps: list[records.Step] = Field(default_factory=list, max_length=400)
    laid_out: LaidOut | None = None
    log: list[records.LogEntry] = Field(default_factory=list, max_length=MAX_ROWS)
    fits: list[records.Fit] = Field(default_factory=list, max_length=200)
    modifications: list[records.Modification] = Field(default_factory=list, max_length=MAX_ROWS)
    provisional: list[records.Provisional] = Field(default_factory=list, max_length=MAX_ROWS)
    parts: list[PartCard] = Field(default_factory=list, max_length=MAX_ROWS)
    kits: list[Kit] = Field(default_factory=list, max_length=100)
    facts: list[Fact] = Field(default_factory=list, max_length=100)
    variants: list[Variant] = Field(default_factory=list, max_length=500)
    money: list[records.MoneyLine] = Field(default_factory=list, max_length=MAX_ROWS)
    hours: list[records.Hours] = Field(default_factory=list, max_length=MAX_ROWS)
    rules: dict[Key, Override] = Field(default_factory=dict, max_length=500)
    waivers: dict[Annotated[str, StringConstraints(max_length=80)], Waiver] = Field(
        default_factory=dict, max_length=500
    )
    events: list[EventRecord] = Field(default_factory=list, max_length=5000)
    aside: list[Aside] = Field(
        default_factory=list,
        max_length=5000,
        description="What an earlier version kept and this one has no place for.",
    )
    sure: dict[Key, Text] = Field(
        default_factory=dict,
        max_length=200,
        description=(
            "Sets of sizes that read as if they could not hold together, and who said that they do."
        ),
    )

    @model_validator(mode="after")
    def _row_numbers_are_unique(self) -> "Build":
        for name in lists.LISTS:
            rows = getattr(self, name)
            if again := twice(rows):
                raise ValueError(f"number {again[0]} is used twice in {name.replace('_', ' ')}")
            for parts in lists.PARTS[name]:
                for row in rows:
                    if again := twice(getattr(row, parts.field)):
                        raise ValueError(f"{parts.one.lower()} {again[0]} is there twice")
        return self
