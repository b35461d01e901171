"""The build document: the one model of what is known about a build.

Numbers are kept as they were typed and understood by :mod:`pindo.core.inputs.quantity` whenever
they are needed, so text and value can never disagree. The document knows nothing of checks.
"""

from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, StringConstraints, model_validator

from pindo.core.document import lists, records, rows
from pindo.core.document.evidence import State
from pindo.core.document.typed import EntryUnit, Evidence, Identifier, Key, Model, Text, Typed

MAX_HOLES = 200
MAX_TAKES = 200
MAX_ROWS = 2000


class Take(Model):
    """One reading as it was typed, in the unit that its field showed."""

    typed: Typed
    unit: EntryUnit | None = Field(
        None, description="Unit shown in the field; empty for the kind's base unit."
    )
    at: Text | None = Field(None, description="When, ISO 8601.")


class Statement(Evidence):
    """What one source says of one dimension. Several takes give mean and scatter."""

    id: Identifier
    takes: list[Take] = Field(min_length=1, max_length=MAX_TAKES)


class Dimension(Model):
    """All that was ever said of one dimension; ``chosen`` names the statement that stands."""

    statements: list[Statement] = Field(default_factory=list, max_length=50)
    chosen: Identifier | None = None
    why_chosen: Text = ""
    sure: Text = Field(
        "", description="Who said that a size beyond its usual range is so, and how it was seen."
    )

    @model_validator(mode="after")
    def _ids_are_unique(self) -> "Dimension":
        ids = [s.id for s in self.statements]
        if len(set(ids)) != len(ids):
            raise ValueError("two statements have one id")
        if self.chosen is not None and self.chosen not in ids:
            raise ValueError(f"the chosen statement {self.chosen} is not there")
        return self


Layout = Literal["lengthwise", "reversed", "crosswise left", "crosswise right"]
Backing = Literal["metal", "air", "oil", "water", "unknown"]


class Hole(Model):
    """One hole of a casting, numbered; lengths as typed in the face's unit.

    ``fastening`` says what the plate has at this place: for a hole of the engine a screw through
    the plate into the block; for one of the gearbox a thread in the plate or a bolt with its nut on
    the engine side.
    """

    n: int = Field(ge=1, le=999)
    name: Text = Field("", description="What people call it.")
    role: Literal["bolt", "dowel"] = "bolt"
    u: Typed | None = Field(None, description="Across, to the right as taken.")
    v: Typed | None = Field(None, description="Up.")
    d: Typed | None = Field(
        None, description="Screw or thread by name or diameter; dowel diameter."
    )
    pitch: Typed | None = Field(
        None, description="Pitch of the thread, where its name does not say it."
    )
    land: Typed | None = Field(None, description="Diameter of the land round the hole.")
    fastening: Literal["hex head", "cap head", "countersunk", "tapped", "nut"] | None = None
    plate_hole: Typed | None = Field(
        None, description="Diameter of the clearance hole in the plate."
    )
    recess: Typed | None = Field(None, description="Depth of counterbore or countersink.")
    depth: Typed | None = Field(
        None,
        description="Full thread that the casting, or a tapped blind hole of the plate, offers.",
    )
    flange: Typed | None = Field(
        None, description="Thickness of the casting's flange at this hole."
    )
    backing: Backing = "unknown"
    pin_in_casting: bool | None = Field(None, description="Dowel: a pin stands in the casting.")
    pin_in_plate: bool | None = Field(None, description="Dowel: a pin stands in the plate.")
    stand_out: Typed | None = Field(None, description="Dowel: how far the pin stands out.")
    mating_depth: Typed | None = Field(None, description="Dowel: depth of the hole that it enters.")
    note: Text = ""
    evidence: Evidence | None = Field(
        None, description="Where this hole's figures come from, where it is not as the face."
    )
    said: dict[Key, Evidence] = Field(
        default_factory=dict, max_length=20, description="Evidence of single figures that differs."
    )


class Land(Model):
    """A raised part of a casting's face without a hole: a rib end, a nib."""

    n: int = Field(ge=1, le=999)
    name: Text = ""
    u: Typed | None = None
    v: Typed | None = None
    d: Typed | None = None


def _twice(found: Sequence[Hole | Land | rows.Row | rows.Part]) -> list[int]:
    """Numbers that two rows have, the least first."""
    return sorted(n for n, times in Counter(row.n for row in found).items() if times > 1)


class Face(Model):
    """A bolting face. ``taken_from`` front: looking rearwards, as into a bellhousing's mouth; u
    is then mirrored.
    """

    taken_from: Literal["behind", "front"] = "behind"
    unit: Literal["mm", "in"] = "mm"
    material: Literal["", "aluminium", "cast iron", "steel"] = ""
    flange: Typed | None = Field(
        None,
        description="Thickness of the casting's flange at its screws, where a hole says no other.",
    )
    evidence: Evidence = Field(default_factory=Evidence)
    holes: list[Hole] = Field(default_factory=list, max_length=MAX_HOLES)
    lands: list[Land] = Field(default_factory=list, max_length=MAX_HOLES)

    @model_validator(mode="after")
    def _numbers_are_unique(self) -> "Face":
        if twice := _twice(self.holes):
            raise ValueError(f"hole number {twice[0]} is used twice")
        if twice := _twice(self.lands):
            raise ValueError(f"land number {twice[0]} is used twice")
        return self


class Override(Model):
    """A limit of the rules table changed for this build, with the reason."""

    value: float = Field(allow_inf_nan=False)
    note: Annotated[str, StringConstraints(min_length=3, max_length=2000, strip_whitespace=True)]


class Waiver(Model):
    """A finding accepted by name for a time; it never reads as *goes*."""

    who: Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
    reason: Annotated[str, StringConstraints(min_length=3, max_length=2000, strip_whitespace=True)]
    until: Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}$")]


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
    layout: Layout = "lengthwise"
    state: State = Field(default_factory=State)
    options: dict[Key, Typed] = Field(default_factory=dict, max_length=200)
    dims: dict[Key, Dimension] = Field(default_factory=dict, max_length=500)
    engine_face: Face = Field(default_factory=Face)
    gearbox_face: Face = Field(default_factory=lambda: Face(taken_from="front"))
    marks: list[rows.Mark] = Field(default_factory=list, max_length=200)
    tape: list[rows.Tape] = Field(default_factory=list, max_length=MAX_ROWS)
    pose_points: list[rows.PosePoint] = Field(default_factory=list, max_length=100)
    mounts: list[rows.Mount] = Field(default_factory=list, max_length=12)
    solids: list[rows.Solid] = Field(default_factory=list, max_length=200)
    pulleys: list[rows.Pulley] = Field(default_factory=list, max_length=30)
    joints: list[rows.BoltedJoint] = Field(default_factory=list, max_length=200)
    steps: list[records.Step] = Field(default_factory=list, max_length=400)
    log: list[records.LogEntry] = Field(default_factory=list, max_length=MAX_ROWS)
    fits: list[records.Fit] = Field(default_factory=list, max_length=200)
    modifications: list[records.Modification] = Field(default_factory=list, max_length=MAX_ROWS)
    provisional: list[records.Provisional] = Field(default_factory=list, max_length=MAX_ROWS)
    parts: list[records.PartCard] = Field(default_factory=list, max_length=MAX_ROWS)
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
            if twice := _twice(rows):
                raise ValueError(f"number {twice[0]} is used twice in {name.replace('_', ' ')}")
            for parts in lists.PARTS[name]:
                for row in rows:
                    if twice := _twice(getattr(row, parts.field)):
                        raise ValueError(f"{parts.one.lower()} {twice[0]} is there twice")
        return self
