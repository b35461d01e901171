"""Lists that a build keeps: points, mounts, solids, pulleys, joints, steps, log, parts, money.

Each row has a number that is its identity. A column says in its annotation what it is called and what kind of
number it holds: reading, refusing, the screen and the sheets all follow from that one place. Places are given as
*behind*, *left*, *up*: on the engine behind the block's rear face (station s), left of and above the crank axis;
on the chassis behind the front axle line, left of the centre plane, above the top of the frame rail. [mm]
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Annotated, Any, Literal, get_args, get_origin

from pydantic import Field, StringConstraints

from pindo.core.evidence import Source, State
from pindo.core.threads import GRADES
from pindo.core.typed import Evidence, Key, Lapse, Model, Text, Typed


@dataclass(frozen=True)
class Column:
    """What a column of a list is called that holds words, a choice, a yes or a whole number."""

    label: str


def _figure(label: str, kind: str = "length", needed: bool = True, source_in: str = "") -> Any:
    """A figure as it is typed; ``needed`` ones are those without which the row says nothing.

    ``source_in`` is the choice of the row that says where it comes from, for figures that the row's evidence does not speak of.
    """
    return Field(None, title=label, json_schema_extra={"kind": kind, "needed": needed, "source_in": source_in})


class Row(Model):
    """A numbered row."""

    n: int = Field(ge=1, le=9999)
    name: Annotated[Text, Column("name")] = ""
    note: Annotated[Text, Column("note")] = ""


class MeasuredRow(Row):
    """A row whose figures were taken together: one evidence for all of them, and for those that were said at another time their own."""

    evidence: Evidence = Field(default_factory=Evidence)
    said: dict[Key, Evidence] = Field(default_factory=dict, max_length=40, description="Evidence of single figures that differs from the row's.")


class PosePoint(MeasuredRow):
    """A point known on the engine and measured in the chassis."""

    on_back: Typed | None = _figure("on the engine, behind block face")
    on_left: Typed | None = _figure("on the engine, left of crank axis")
    on_up: Typed | None = _figure("on the engine, above crank axis")
    in_back: Typed | None = _figure("in the chassis, behind front axle")
    in_left: Typed | None = _figure("in the chassis, left of centre")
    in_up: Typed | None = _figure("in the chassis, above rail")


Body = Literal["engine", "gearbox", "chassis"]
PaperSource = Literal["not said", "drawing", "maker's paper", "catalogue", "seller", "memory", "hearsay", "guess"]


class Mount(MeasuredRow):
    """One mount of the unit: its rubber's middle on the engine side. One of the gearbox is told behind the bell's mouth and moves with it."""

    body: Annotated[Literal["engine", "gearbox"], Column("fixed to")] = "engine"
    back: Typed | None = _figure("behind block face, or the mouth")
    left: Typed | None = _figure("left of crank axis")
    up: Typed | None = _figure("above crank axis")
    kx: Typed | None = _figure("stiffness lengthwise", "stiffness", True, "stiffness_from")
    ky: Typed | None = _figure("stiffness sideways", "stiffness", True, "stiffness_from")
    kz: Typed | None = _figure("stiffness upright", "stiffness", True, "stiffness_from")
    stiffness_from: Annotated[PaperSource, Column("stiffness and rating from")] = "not said"
    slot: Typed | None = _figure("slot, travel in all", "length", False)
    slot_at: Typed | None = _figure("slot, from its middle", "length", False)
    travel: Typed | None = _figure("travel allowed", "length", False)
    rating: Typed | None = _figure("rated load", "force", False, "stiffness_from")


SolidClass = Literal["metal", "exhaust", "shielded exhaust", "line", "wiring", "fan", "shroud", "core", "belt", "steering", "sheet", "shaft", "tunnel", "ground"]


class Solid(MeasuredRow):
    """A body of the build in simple shapes, places from its middle.

    Sizes: box length, width, height; cylinder, capsule, cone diameter and length; sphere diameter; ring outside diameter, inside
    diameter, length; panel with a round hole: length, width, thickness, hole. One of the gearbox is told behind the bell's mouth and moves with it.
    """

    body: Annotated[Body, Column("fixed to")] = "engine"
    class_: Annotated[SolidClass, Column("class")] = "metal"
    shape: Annotated[Literal["box", "cylinder", "capsule", "cone", "sphere", "ring", "panel with hole"], Column("shape")] = "box"
    axis: Annotated[Literal["along", "across", "upright"], Column("axis")] = "along"
    back: Typed | None = _figure("middle, behind")
    left: Typed | None = _figure("middle, left")
    up: Typed | None = _figure("middle, up")
    a: Typed | None = _figure("length or diameter")
    b: Typed | None = _figure("width, length or inside diameter", "length", False)
    c: Typed | None = _figure("height, thickness or length of a ring", "length", False)
    hole: Typed | None = _figure("hole of a panel", "length", False)
    tilt: Typed | None = _figure("tilt, rear end low", "angle", False)
    turn: Typed | None = _figure("turn, rear end right", "angle", False)


class Pulley(MeasuredRow):
    """A pulley of the belt run, in belt order; seen from the accessory end, looking at the engine."""

    right: Typed | None = _figure("right of crank axis")
    up: Typed | None = _figure("above crank axis")
    d: Typed | None = _figure("diameter")
    over: Annotated[Literal["pitch line", "outside"], Column("diameter over")] = "outside"
    side: Annotated[Literal["ribs", "back"], Column("belt runs on its")] = "ribs"
    plane: Typed | None = _figure("plane ahead of crank pulley")
    ribs: Typed | None = _figure("ribs", "count", False)
    wants: Annotated[Literal["not said", "as the crank", "against the crank", "either"], Column("must turn")] = "not said"


JointState = Literal["open", "started", "loose on purpose", "snug", "torqued", "marked", "due again"]


JointKind = Literal["not said", "rotating", "fuel", "oil or coolant", "steering", "brakes", "wheels", "drive shaft", "mounts", "structure", "lifting gear", "other"]
Grade = Literal["", "4.6", "5.8", "8.8", "9.8", "10.9", "12.9", "grade 2", "grade 5", "grade 8"]
assert set(get_args(Grade)) == {"", *GRADES}
Surface = Literal["not said", "dry", "as delivered", "oiled", "locker"]


def _unsaid() -> Evidence:
    return Evidence(source=Source.UNSAID)


class BoltedJoint(MeasuredRow):
    """Screws that belong together, with the torque and where it comes from. Its evidence is the torque's: no gauge reads one."""

    evidence: Evidence = Field(default_factory=_unsaid)
    kind: Annotated[JointKind, Column("holds")] = "not said"
    bolts: Typed | None = _figure("bolts", "count")
    d: Typed | None = _figure("thread", "thread")
    pitch: Typed | None = _figure("thread pitch", "length", False)
    strength: Annotated[Grade, Column("class or grade")] = ""
    surface: Annotated[Surface, Column("thread and head are")] = "not said"
    friction: Typed | None = _figure("friction from its sheet", "ratio", False)
    torque: Typed | None = _figure("torque", "torque", False)
    stages: Annotated[Text, Column("stages, % or torques")] = "30, 60, 100"
    order: Annotated[Literal["star", "centre out"], Column("order")] = "star"
    locker: Annotated[Literal["not said", "none", "locker", "sealant"], Column("locker")] = "not said"
    single_use: Annotated[Literal["no", "new", "spent"], Column("single use")] = "no"
    again: Annotated[bool, Column("again after first heat")] = False
    state: Annotated[JointState, Column("state")] = "open"


Gate = Literal["", "lift", "start", "motion", "hand-over"]
GATES = ("lift", "start", "motion", "hand-over")


Watch = Annotated[str, StringConstraints(pattern=r"^[a-z]+\.[A-Za-z0-9_.-]{1,79}$")]


class Step(Row):
    """A step of the build's own plan. ``needs``, ``hides`` and ``needs_hold`` name steps by number."""

    phase: Annotated[Text, Column("phase")] = ""
    needs: Annotated[list[int], Column("needs steps")] = Field(default_factory=list, max_length=100)
    hides: Annotated[list[int], Column("hides steps")] = Field(default_factory=list, max_length=100, description="Steps whose work cannot be reached once this one is done.")
    needs_hold: Annotated[list[int], Column("needs a hold from steps")] = Field(default_factory=list, max_length=100, description="Steps that give the hold to tighten against: a brake, a belt.")
    hold: Annotated[bool, Column("hold point")] = False
    watches: Annotated[list[Watch], Column("watches")] = Field(default_factory=list, max_length=40, description="Questions, or single findings by id, that must stand before it is passed.")
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
    lapsed: Lapse | None = Field(None, description="Why it is open again: what it proved was touched since.")
    minutes: Typed | None = _figure("time taken", "time", False)


class LogEntry(Row):
    """What happened, who saw it, with pictures."""

    at: Annotated[Text, Column("when")] = ""
    who: Annotated[Text, Column("who")] = ""
    about: Annotated[Text, Column("about")] = ""
    photos: list[Typed] = Field(default_factory=list, max_length=50, description="Ids of attachments.")


FitKind = Literal["gap", "lever", "exhaust", "starter depth", "belt"]
PairClass = Literal[
    "metal to chassis", "fan to shroud", "fan to core", "exhaust to line or wiring", "shielded exhaust to line or wiring", "belt to anything", "steering", "bonnet or sheet", "shaft to tunnel"
]


class FitGap(Model):
    """One gap of a trial fit: what was predicted then, what was read. One of the user's own has a title and a class, and no finding."""

    finding: Typed = ""
    title: Text = ""
    kind: FitKind = "gap"
    class_: PairClass = "metal to chassis"
    predicted: float | None = Field(None, allow_inf_nan=False)
    predicted_pm: float | None = Field(None, allow_inf_nan=False)
    measured: Typed | None = None
    lapsed: Text = ""


class Fit(MeasuredRow):
    """A trial fit in a stated attitude: predicted and measured gaps side by side."""

    at: Annotated[Text, Column("when")] = ""
    state: State = Field(default_factory=State)
    was_on: Annotated[Text, Column("what was on")] = ""
    gaps: list[FitGap] = Field(default_factory=list, max_length=200)


class Modification(Row):
    """A cut, bend or weld, planned and as built."""

    kind: Annotated[Literal["cut", "bend", "grind", "drill", "weld", "glue", "dent", "scrap"], Column("kind")] = "cut"
    planned: Annotated[Text, Column("planned")] = ""
    as_built: Annotated[Text, Column("as built")] = ""
    reason: Annotated[Text, Column("reason")] = ""
    structural: Annotated[bool, Column("structural")] = False
    reversible: Annotated[bool, Column("reversible")] = False
    state: Annotated[Literal["planned", "made", "inspected"], Column("state")] = "planned"


class Provisional(Row):
    """Something that is there for now, and the gate that it blocks."""

    kind: Annotated[Literal["rag", "loop", "bypass", "plug", "wood", "temporary part", "uncertified part", "missing guard", "unproved"], Column("kind")] = "temporary part"
    owner: Annotated[Text, Column("owner")] = ""
    reason: Annotated[Text, Column("reason")] = ""
    until: Annotated[Text, Column("until")] = ""
    blocks: Annotated[Gate, Column("blocks")] = "start"
    state: Annotated[Literal["open", "removed", "signed"], Column("state")] = "open"
    limit: Annotated[Text, Column("limit of use")] = ""
    by: Annotated[Text, Column("signed by")] = ""


class PartCard(Row):
    """A part of the build and where it stands."""

    state: Annotated[Literal["absent", "ordered", "dummy", "mock-up", "temporary", "final", "spare"], Column("state")] = "absent"
    source: Annotated[Text, Column("from")] = ""
    needed_by: Annotated[Text, Column("needed by")] = ""
    step: Annotated[int | None, Column("step that needs it")] = None
    stations: Annotated[Text, Column("touches")] = ""


class MoneyLine(Row):
    """A line of money. A credit names the one payment that it gives back."""

    state: Annotated[Literal["planned", "quoted", "ordered", "paid", "refund asked", "refund received", "wasted", "unpriced"], Column("state")] = "planned"
    amount: Typed | None = _figure("amount", "money", False)
    credit_of: Annotated[int | None, Column("gives back line")] = None


class Hours(Row):
    """Time as worked."""

    at: Annotated[Text, Column("when")] = ""
    who: Annotated[Text, Column("who")] = ""
    minutes: Typed | None = _figure("time", "time")
    rework: Annotated[bool, Column("rework")] = False


@dataclass(frozen=True, kw_only=True)
class RowList:
    """A list of the build: what it and its rows are called, where it belongs, what reading its rows are."""

    key: str
    title: str
    one: str
    station: str
    model: type[Row]
    reading: str = ""
    evidence_of: tuple[str, ...] = ()
    """The figures that the row's evidence speaks of; all of them when empty."""
    record: bool = False
    """Facts of record: what happened, stored at once and never held as a trial."""


LISTS: Mapping[str, RowList] = MappingProxyType(
    {
        x.key: x
        for x in (
            RowList(key="pose_points", title="Points to find the pose", one="Point", station="seat", model=PosePoint, reading="pose"),
            RowList(key="mounts", title="Mounts", one="Mount", station="seat", model=Mount),
            RowList(key="solids", title="Solids", one="Solid", station="clear", model=Solid),
            RowList(key="pulleys", title="Belt run, in belt order", one="Pulley", station="clear", model=Pulley),
            RowList(key="joints", title="Bolted joints", one="Joint", station="assemble", model=BoltedJoint, evidence_of=("torque",), record=True),
            RowList(key="steps", title="Steps", one="Step", station="assemble", model=Step, record=True),
            RowList(key="log", title="Log", one="Entry", station="log", model=LogEntry, record=True),
            RowList(key="fits", title="Trial fits", one="Fit", station="log", model=Fit, record=True),
            RowList(key="modifications", title="Modifications", one="Modification", station="log", model=Modification, record=True),
            RowList(key="provisional", title="Provisional", one="Item", station="log", model=Provisional, record=True),
            RowList(key="parts", title="Parts", one="Part", station="log", model=PartCard, record=True),
            RowList(key="money", title="Money", one="Line", station="log", model=MoneyLine, record=True),
            RowList(key="hours", title="Hours", one="Hours", station="log", model=Hours, record=True),
        )
    }
)


@dataclass(frozen=True, kw_only=True)
class ColumnOf:
    """A column as the screen and the reader need it."""

    field: str
    label: str
    kind: str
    choices: tuple[str, ...]
    needed: bool
    source_in: str = ""


def _columns(model: type[Row]) -> tuple[ColumnOf, ...]:
    found = []
    for field, info in model.model_fields.items():
        if isinstance(info.json_schema_extra, dict):
            extra = info.json_schema_extra
            found.append(ColumnOf(field=field, label=info.title or field, kind=str(extra["kind"]), choices=(), needed=bool(extra["needed"]), source_in=str(extra["source_in"])))
        elif (column := next((m for m in info.metadata if isinstance(m, Column)), None)) is not None:
            choices = () if get_origin(info.annotation) is list else tuple(str(c) for c in get_args(info.annotation) if isinstance(c, str))
            kind = (
                "numbers"
                if info.annotation == list[int]
                else "words"
                if get_origin(info.annotation) is list
                else "choice"
                if choices
                else "yes"
                if info.annotation is bool
                else "whole"
                if int in (info.annotation, *get_args(info.annotation))
                else "text"
            )
            found.append(ColumnOf(field=field, label=column.label, kind=kind, choices=choices, needed=False))
    return tuple(found)


COLUMNS: Mapping[str, tuple[ColumnOf, ...]] = MappingProxyType({key: _columns(x.model) for key, x in LISTS.items()})
NOT_FIGURES = frozenset({"text", "choice", "yes", "whole", "numbers", "words"})


def figures(key: str) -> tuple[ColumnOf, ...]:
    """The columns of a list that hold figures."""
    return tuple(c for c in COLUMNS[key] if c.kind not in NOT_FIGURES)
