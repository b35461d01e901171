"""Parts as things with a life of their own: where they are from, what is claimed of them, their own
sizes while they lie on the shelf; kits and what came of them; versions and what hangs on them.
"""

from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from pindo.core.document.faces import Face
from pindo.core.document.rows import (
    Column,
    MeasuredRow,
    Mount,
    Part,
    Parts,
    Pulley,
    Row,
    Solid,
    SpokenSide,
    Viewpoint,
    figure,
)
from pindo.core.document.sizes import Dimension
from pindo.core.document.typed import Key, Model, Text, Typed

PartKind = Literal[
    "",
    "engine",
    "gearbox",
    "plate",
    "shield",
    "crank",
    "crank spacer",
    "flywheel",
    "flexplate",
    "disc",
    "clutch cover",
    "clutch",
    "converter",
    "pilot bearing",
    "release",
    "starter",
    "shaft",
    "half shaft",
    "axle",
    "belt",
    "chain",
    "suspension",
    "chassis",
    "unit",
    "alternator",
    "pump",
    "exhaust",
    "radiator",
    "mount",
    "hose",
    "loom",
    "screws",
    "other",
]
PartState = Literal["absent", "ordered", "dummy", "mock-up", "temporary", "final", "spare", "gone"]


def _day(text: str) -> str:
    """A day of the calendar, or nothing: one that never comes would never be due."""
    if text:
        date.fromisoformat(text)
    return text


Date = Annotated[str, StringConstraints(pattern=r"^(\d{4}-\d{2}-\d{2})?$"), AfterValidator(_day)]


class Claim(Part):
    """What somebody says of a part: whether he did it himself, in which set-up, and what one's own
    check says to it; a side that he names is one for somebody who stands somewhere.
    """

    what: Annotated[Text, Column("what is said")] = ""
    who: Annotated[Text, Column("by whom")] = ""
    himself: Annotated[
        Literal["not said", "did it himself", "heard of it"], Column("first hand")
    ] = "not said"
    set_up: Annotated[Text, Column("in which set-up")] = ""
    checked: Annotated[Literal["not checked", "holds", "does not hold"], Column("own check")] = (
        "not checked"
    )
    seen: Annotated[Text, Column("what was seen")] = ""
    side: Annotated[SpokenSide, Column("side, as said")] = ""
    viewpoint: Annotated[Viewpoint, Column("seen from")] = "not said"


class Due(Part):
    """Something of a part that has a date: a certificate, a test, a thing to be sent back."""

    what: Annotated[Text, Column("what is due")] = ""
    on: Annotated[Date, Column("on, as 2026-12-31")] = ""
    done: Annotated[bool, Column("done")] = False


class PartReading(Part):
    """Something that was read of a part and is no size of the catalogue: a pressure, the
    temperature that it opens at, the section of its wire, the tube that its fitting takes.
    """

    what: Annotated[Text, Column("what was read")] = ""
    pressure: Typed | None = figure("pressure, gauge or absolute", "pressure", False)
    temperature: Typed | None = figure("temperature", "temperature", False)
    wire: Typed | None = figure("wire, section or gauge", "wire", False)
    tube: Typed | None = figure("tube, outside or dash", "length", False)
    mass: Typed | None = figure("mass", "mass", False)


class Belongings(Model):
    """What goes with a casting when it is taken out: the solids, mounts and pulleys that are fixed
    to it, and the choices that are its own.
    """

    solids: list[Solid] = Field(default_factory=list, max_length=200)
    mounts: list[Mount] = Field(default_factory=list, max_length=12)
    pulleys: list[Pulley] = Field(default_factory=list, max_length=30)
    options: dict[Key, Typed] = Field(default_factory=dict, max_length=20)


class PartCard(Row):
    """A part of the build and where it stands. One part of a kind is fitted: its sizes are the
    build's; every other one lies on the shelf with its own.
    """

    kind: Annotated[PartKind, Column("kind")] = ""
    fitted: Annotated[bool, Column("fitted")] = False
    state: Annotated[PartState, Column("state")] = "absent"
    until: Annotated[Date, Column("temporary until, as 2026-12-31")] = ""
    source: Annotated[Text, Column("from")] = ""
    donor: Annotated[Text, Column("donor")] = ""
    version: Annotated[Text, Column("version")] = ""
    mileage: Annotated[Text, Column("mileage or hours")] = ""
    marks: Annotated[Text, Column("numbers and marks on it")] = ""
    keep: Annotated[bool, Column("keep until its successor is fitted")] = False
    wait_days: Annotated[int | None, Column("wait, days")] = Field(None, ge=0, le=9999)
    needed_by: Annotated[Text, Column("needed by")] = ""
    step: Annotated[int | None, Column("step that needs it")] = None
    stations: Annotated[Text, Column("touches")] = ""
    refused: Annotated[Text, Column("refused, because")] = ""
    claims: Annotated[
        list[Claim], Parts(one="Claim", title="What is said of it", named_by="what")
    ] = Field(default_factory=list, max_length=50)
    due: Annotated[list[Due], Parts(one="Date", title="Dates", named_by="what")] = Field(
        default_factory=list, max_length=50
    )
    readings: Annotated[
        list[PartReading], Parts(one="Reading", title="Other readings of it", named_by="what")
    ] = Field(default_factory=list, max_length=50)
    photos: list[Typed] = Field(
        default_factory=list, max_length=50, description="Ids of attachments."
    )
    sizes: dict[Key, Dimension] = Field(
        default_factory=dict,
        max_length=100,
        description="Its own sizes while it lies on the shelf; those of a fitted part are dims.",
    )
    face: Face | None = Field(
        None, description="Its hole pattern while it lies on the shelf, where it is a casting."
    )
    belongs: Belongings | None = Field(
        None, description="What is fixed to it, while it lies on the shelf."
    )


class KitLine(Part):
    """A piece of a kit: how many there should be and of which size, what came."""

    what: Annotated[Text, Column("piece")] = ""
    kind: Annotated[PartKind, Column("kind of part")] = ""
    count: Typed | None = figure("should be", "count")
    came: Typed | None = figure("came", "count")
    size: Typed | None = figure("size, as it should be", "length", False)
    measured: Typed | None = figure("size, as measured", "length", False)
    once: Annotated[Literal["no", "with the kit", "to buy"], Column("single use")] = "no"
    step: Annotated[int | None, Column("step that needs it")] = None


class Kit(MeasuredRow):
    """A kit as its supplier says it, by version, and what was received of it; its evidence is that
    of what was measured.
    """

    supplier: Annotated[Text, Column("supplier")] = ""
    version: Annotated[Text, Column("version")] = ""
    came_on: Annotated[Date, Column("came on, as 2026-12-31")] = ""
    return_by: Annotated[Date, Column("may go back until")] = ""
    pieces: Annotated[list[KitLine], Parts(one="Piece", title="Pieces", named_by="what")] = Field(
        default_factory=list, max_length=200
    )


class Fact(Row):
    """Something of the build that other things hang on, in the user's own words: an engine
    generation, a chassis revision. ``value`` is empty until somebody knows it.
    """

    value: Annotated[Text, Column("is")] = ""
    known_by: Annotated[Text, Column("how it is told")] = ""


class Condition(Part):
    """A fact, by its number, and what it has to be."""

    fact: Annotated[int | None, Column("fact, by number")] = None
    value: Annotated[Text, Column("has to be")] = ""


class Variant(Row):
    """A rule of the user's own: under these facts a part, a step or a size applies or does not. The
    row with more facts holds over the one with fewer.
    """

    when: Annotated[list[Condition], Parts(one="Fact", title="When")] = Field(
        default_factory=list, max_length=12
    )
    target: Annotated[Literal["part", "step", "size", "question"], Column("of a")] = "part"
    which: Annotated[Typed, Column("which, by number or key")] = ""
    does: Annotated[Literal["applies", "does not apply", "is modified"], Column("it")] = "applies"
    says: Annotated[Text, Column("how, why")] = ""
