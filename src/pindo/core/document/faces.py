"""Bolting faces of castings: holes, lands, from which side they were taken."""

from collections import Counter
from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, model_validator

from pindo.core.document.rows import Column, MeasuredRow, Part, Row, figure
from pindo.core.document.typed import Doubled, Evidence, Key, Model, Text, Typed

MAX_HOLES = 200
Backing = Literal["metal", "air", "oil", "water", "unknown"]


class Hole(Doubled):
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
    bore: Typed | None = Field(
        None, description="Diameter of the hole itself, where its edges are read from."
    )
    lies: Literal["", "left", "right", "above", "below"] = Field(
        "", description="Where it lies of the crank axis, as taken: distances cannot tell."
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
    free: Typed | None = Field(
        None,
        description=(
            "Free circle round the hole on the casting's far side, where head, washer and socket"
            " go: to the next wall or nib."
        ),
    )
    off_u: Typed | None = Field(
        None, description="How far across its place the plate's hole was drilled, as taken."
    )
    off_v: Typed | None = Field(
        None, description="How far above its place the plate's hole was drilled."
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


class HoleReading(MeasuredRow):
    """A reading between two holes of a casting, or from the crank axis to one: between centres,
    over the outside or the inside edges, or how far the second lies across or up from the first.
    """

    a: Annotated[int | None, Column("from hole, empty for the axis")] = None
    b: Annotated[int | None, Column("to hole")] = None
    over: Annotated[Literal["centres", "outside edges", "inside edges"], Column("over")] = "centres"
    along: Annotated[Literal["straight", "across", "up"], Column("read")] = "straight"
    value: Typed | None = figure("reading")


class PointSet(Row):
    """Points that were taken together, with a shift and a turn of their own: a trace, a scan, a
    photo, a drawing, a milling machine's readout.
    """

    taken_from: Annotated[Literal["behind", "front"], Column("seen from")] = "behind"
    scale: Annotated[Literal["true", "its own"], Column("its scale is")] = "true"


class SetPoint(MeasuredRow):
    """A hole of the casting in a set of points: right and up in the set's own axes."""

    of: Annotated[int | None, Column("of set")] = None
    hole: Annotated[int | None, Column("hole, empty for the axis")] = None
    x: Typed | None = figure("right")
    y: Typed | None = figure("up")


class Land(Model):
    """A raised part of a casting's face without a hole: a rib end, a nib."""

    n: int = Field(ge=1, le=999)
    name: Text = ""
    u: Typed | None = None
    v: Typed | None = None
    d: Typed | None = None


def twice(found: Sequence[Hole | Land | Row | Part]) -> list[int]:
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
    register_d: Typed | None = Field(
        None, description="Diameter of the register or bore on the axis, where its edge is read."
    )
    evidence: Evidence = Field(default_factory=Evidence)
    readings: list[HoleReading] = Field(
        default_factory=list,
        max_length=1000,
        description="Distances that the holes are placed by; what is typed of u and v joins them.",
    )
    sets: list[PointSet] = Field(default_factory=list, max_length=50)
    points: list[SetPoint] = Field(
        default_factory=list,
        max_length=2000,
        description="Holes in sets of points, which join the distances.",
    )
    holes: list[Hole] = Field(default_factory=list, max_length=MAX_HOLES)
    lands: list[Land] = Field(default_factory=list, max_length=MAX_HOLES)

    @model_validator(mode="after")
    def _numbers_are_unique(self) -> "Face":
        if again := twice(self.holes):
            raise ValueError(f"hole number {again[0]} is used twice")
        if again := twice(self.readings):
            raise ValueError(f"reading number {again[0]} is used twice")
        if again := twice(self.sets):
            raise ValueError(f"point set number {again[0]} is used twice")
        if again := twice(self.points):
            raise ValueError(f"point number {again[0]} is used twice")
        if again := twice(self.lands):
            raise ValueError(f"land number {again[0]} is used twice")
        return self
