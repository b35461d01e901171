"""Rows of what happened and what is planned: steps, log, trial fits, cuts, parts, money, hours."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from pindo.core.document.evidence import State
from pindo.core.document.rows import (
    Column,
    MeasuredRow,
    Part,
    Parts,
    Row,
    SpokenSide,
    Viewpoint,
    figure,
)
from pindo.core.document.typed import Lapse, Text, Typed

Gate = Literal["", "lift", "start", "motion", "hand-over"]


GATES = ("lift", "start", "motion", "hand-over")


Watch = Annotated[str, StringConstraints(pattern=r"^[a-z]+\.[A-Za-z0-9_.-]{1,79}$")]


class Step(Row):
    """A step of the build's own plan. ``needs``, ``hides`` and ``needs_hold`` name steps by
    number.
    """

    phase: Annotated[Text, Column("phase")] = ""
    needs: Annotated[list[int], Column("needs steps")] = Field(default_factory=list, max_length=100)
    hides: Annotated[list[int], Column("hides steps")] = Field(
        default_factory=list,
        max_length=100,
        description="Steps whose work cannot be reached once this one is done.",
    )
    needs_hold: Annotated[list[int], Column("needs a hold from steps")] = Field(
        default_factory=list,
        max_length=100,
        description="Steps that give the hold to tighten against: a brake, a belt.",
    )
    hold: Annotated[bool, Column("hold point")] = False
    watches: Annotated[list[Watch], Column("watches")] = Field(
        default_factory=list,
        max_length=40,
        description="Questions, or single findings by id, that must stand before it is passed.",
    )
    optional: Annotated[bool, Column("optional")] = False
    proves: Annotated[Text, Column("control or function that it proves")] = ""
    gate: Annotated[Gate, Column("gate")] = ""
    helpers: Annotated[int, Column("helpers")] = Field(0, ge=0, le=20)
    tools: Annotated[Text, Column("tools")] = ""
    caution: Annotated[Text, Column("caution")] = ""
    asks: Annotated[Text, Column("as built, asked")] = ""
    state: Annotated[Literal["open", "done", "left out"], Column("state")] = "open"
    as_built: Annotated[Text, Column("as built")] = ""
    by: Annotated[Text, Column("by")] = ""
    reason: Annotated[Text, Column("reason, left out or out of order")] = ""
    until: Annotated[Text, Column("left out until")] = ""
    at: Text | None = None
    lapsed: Lapse | None = Field(
        None, description="Why it is open again: what it proved was touched since."
    )
    minutes: Typed | None = figure("time taken", "time", False)


class LogEntry(Row):
    """What happened, who saw it, with pictures."""

    at: Annotated[Text, Column("when")] = ""
    who: Annotated[Text, Column("who")] = ""
    about: Annotated[Text, Column("about")] = ""
    pin: Annotated[Text, Column("pinned to")] = ""
    pinned_version: Annotated[Text, Column("its version then")] = ""
    side: Annotated[SpokenSide, Column("side, as said")] = ""
    viewpoint: Annotated[Viewpoint, Column("seen from")] = "not said"
    photos: list[Typed] = Field(
        default_factory=list, max_length=50, description="Ids of attachments."
    )
    sounds: list[Typed] = Field(
        default_factory=list, max_length=50, description="Ids of voice notes."
    )


FitKind = Literal["gap", "lever", "exhaust", "starter depth", "belt"]


PairClass = Literal[
    "metal to chassis",
    "fan to shroud",
    "fan to core",
    "exhaust to line or wiring",
    "shielded exhaust to line or wiring",
    "belt to anything",
    "steering",
    "bonnet or sheet",
    "shaft to tunnel",
]


class FitGap(Part):
    """One gap of a trial fit: what was predicted then, what was read. One of the user's own has
    a title and a class, and no finding.
    """

    finding: Typed = ""
    title: Annotated[Text, Column("name")] = ""
    kind: Annotated[FitKind, Column("kind of reading")] = "gap"
    class_: Annotated[PairClass, Column("between")] = "metal to chassis"
    predicted: float | None = Field(None, allow_inf_nan=False)
    predicted_pm: float | None = Field(None, allow_inf_nan=False)
    measured: Typed | None = figure("read", "length", False)


class Fit(MeasuredRow):
    """A trial fit in a stated attitude: predicted and measured gaps side by side."""

    at: Annotated[Text, Column("when")] = ""
    state: State = Field(default_factory=State)
    was_on: Annotated[Text, Column("what was on")] = ""
    gaps: Annotated[
        list[FitGap], Parts(one="Gap", title="Gaps", named_by="title", reading_in="kind")
    ] = Field(default_factory=list, max_length=200)


class Modification(Row):
    """A cut, bend or weld, planned and as built."""

    kind: Annotated[
        Literal["cut", "bend", "grind", "drill", "weld", "glue", "dent", "scrap"], Column("kind")
    ] = "cut"
    planned: Annotated[Text, Column("planned")] = ""
    as_built: Annotated[Text, Column("as built")] = ""
    reason: Annotated[Text, Column("reason")] = ""
    structural: Annotated[bool, Column("structural")] = False
    reversible: Annotated[bool, Column("reversible")] = False
    state: Annotated[Literal["planned", "made", "inspected"], Column("state")] = "planned"


class Provisional(Row):
    """Something that is there for now, and the gate that it blocks."""

    kind: Annotated[
        Literal[
            "rag",
            "loop",
            "bypass",
            "plug",
            "wood",
            "temporary part",
            "uncertified part",
            "missing guard",
            "unproved",
        ],
        Column("kind"),
    ] = "temporary part"
    owner: Annotated[Text, Column("owner")] = ""
    reason: Annotated[Text, Column("reason")] = ""
    until: Annotated[Text, Column("until")] = ""
    blocks: Annotated[Gate, Column("blocks")] = "start"
    state: Annotated[Literal["open", "removed", "signed"], Column("state")] = "open"
    limit: Annotated[Text, Column("limit of use")] = ""
    by: Annotated[Text, Column("signed by")] = ""


class MoneyLine(Row):
    """A line of money. A credit names the one payment that it gives back."""

    state: Annotated[
        Literal[
            "planned",
            "quoted",
            "ordered",
            "paid",
            "refund asked",
            "refund received",
            "wasted",
            "unpriced",
        ],
        Column("state"),
    ] = "planned"
    amount: Typed | None = figure("amount", "money", False)
    credit_of: Annotated[int | None, Column("gives back line")] = None
    part: Annotated[int | None, Column("for part")] = None


class Hours(Row):
    """Time as worked."""

    at: Annotated[Text, Column("when")] = ""
    who: Annotated[Text, Column("who")] = ""
    minutes: Typed | None = figure("time", "time")
    rework: Annotated[bool, Column("rework")] = False
