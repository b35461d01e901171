"""Lists that a build keeps: points, mounts, solids, pulleys, joints, steps, log, parts, money.

Each row has a number that is its identity. A column says in its annotation what it is called and
what kind of number it holds: reading, refusing, the screen and the sheets all follow from that one
place. Places are given as
*behind*, *left*, *up*: on the engine behind the block's rear face (station s), left of and above
the crank axis; on the chassis behind the front axle line, left of the centre plane, above the top
of the frame rail. [mm]
"""

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field

from pindo.core.document.evidence import Source
from pindo.core.document.typed import Doubled, Evidence, Key, Lapse, Text, Typed


@dataclass(frozen=True)
class Column:
    """What a column of a list is called that holds words, a choice, a yes or a whole number."""

    label: str


def figure(
    label: str,
    kind: str = "length",
    needed: bool = True,
    source_in: str = "",
    mirrors: bool = False,
) -> Any:
    """A figure as it is typed; ``needed`` ones are those without which the row says nothing.

    ``source_in`` is the choice of the row that says where it comes from, for figures that the row's
    evidence does not speak of. One that ``mirrors`` has the other sign on the other side.
    """
    return Field(
        None,
        title=label,
        json_schema_extra={
            "kind": kind,
            "needed": needed,
            "source_in": source_in,
            "mirrors": mirrors,
        },
    )


class Row(Doubled):
    """A numbered row."""

    n: int = Field(ge=1, le=9999)
    name: Annotated[Text, Column("name")] = ""
    note: Annotated[Text, Column("note")] = ""


class Part(Doubled):
    """A numbered part of a row: a gap of a fit, a point of a hose. Its figures fall under the row's
    evidence.
    """

    n: int = Field(ge=1, le=999)
    lapsed: Lapse | None = None


@dataclass(frozen=True, kw_only=True)
class Parts:
    """What the parts of a row are called, in the annotation of the list that holds them."""

    one: str
    title: str
    named_by: str = ""
    """The words of a part that it goes by."""
    reading_in: str = ""
    """The choice of a part that says which reading it is: what spoils that, spoils the part."""


class MeasuredRow(Row):
    """A row whose figures were taken together: one evidence for all of them, and for those that
    were said at another time their own.
    """

    evidence: Evidence = Field(default_factory=Evidence)
    said: dict[Key, Evidence] = Field(
        default_factory=dict,
        max_length=40,
        description="Evidence of single figures that differs from the row's.",
    )


Lies = Literal["", "behind", "ahead", "left", "right", "above", "below"]
Along = Literal["straight", "lengthwise", "sideways", "upright"]


class Mark(MeasuredRow):
    """A numbered mark on the chassis that tapes are read from, with what is known of its place:
    behind the front axle line, left of the centre plane, above the top of the rail.
    """

    what: Annotated[Text, Column("what it is")] = ""
    back: Typed | None = figure("behind front axle", "length", False)
    left: Typed | None = figure("left of centre", "length", False, mirrors=True)
    up: Typed | None = figure("above rail", "length", False)
    datum: Annotated[bool, Column("holds the frame")] = False
    lies: Annotated[Lies, Column("lies, of the datum")] = ""


class Tape(MeasuredRow):
    """A reading between two marks: the straight distance, or how far the second lies behind, left
    of or above the first (a plumb offset, a difference of level).
    """

    a: Annotated[int | None, Column("from mark")] = None
    b: Annotated[int | None, Column("to mark")] = None
    along: Annotated[Along, Column("read")] = "straight"
    value: Typed | None = figure("reading")


class Boss(MeasuredRow):
    """A threaded place of the chassis at a mark: what it offers, and what it holds."""

    mark: Annotated[int | None, Column("at mark")] = None
    d: Typed | None = figure("thread", "thread")
    depth: Typed | None = figure("full thread")
    hole: Typed | None = figure("hole's depth", "length", False)
    wall: Typed | None = figure("metal behind the hole")
    material: Annotated[Literal["", "steel", "cast iron", "aluminium"], Column("material")] = ""
    holds: Annotated[Text, Column("holds")] = ""


class PosePoint(MeasuredRow):
    """A point known on the engine and measured in the chassis: by its own three figures there, or
    by the mark that it is.
    """

    mark: Annotated[int | None, Column("mark in the chassis")] = None
    on_back: Typed | None = figure("on the engine, behind block face")
    on_left: Typed | None = figure("on the engine, left of crank axis", mirrors=True)
    on_up: Typed | None = figure("on the engine, above crank axis")
    in_back: Typed | None = figure("in the chassis, behind front axle")
    in_left: Typed | None = figure("in the chassis, left of centre", mirrors=True)
    in_up: Typed | None = figure("in the chassis, above rail")


SpokenSide = Literal["", "left", "right"]
Viewpoint = Literal[
    "not said",
    "driver's seat",
    "in front, looking back",
    "the flywheel end",
    "the accessory end",
]
"""Where somebody stood who named a side."""
Body = Literal["engine", "gearbox", "chassis"]
PaperSource = Literal[
    "not said", "drawing", "maker's paper", "catalogue", "seller", "memory", "hearsay", "guess"
]


class Mount(MeasuredRow):
    """One mount of the unit: its rubber's middle on the engine side. One of the gearbox is told
    behind the bell's mouth and moves with it.
    """

    body: Annotated[Literal["engine", "gearbox"], Column("fixed to")] = "engine"
    back: Typed | None = figure("behind block face, or the mouth")
    left: Typed | None = figure("left of crank axis", mirrors=True)
    up: Typed | None = figure("above crank axis")
    kx: Typed | None = figure("stiffness lengthwise", "stiffness", True, "stiffness_from")
    ky: Typed | None = figure("stiffness sideways", "stiffness", True, "stiffness_from")
    kz: Typed | None = figure("stiffness upright", "stiffness", True, "stiffness_from")
    stiffness_from: Annotated[PaperSource, Column("stiffness and rating from")] = "not said"
    slot: Typed | None = figure("slot, travel in all", "length", False)
    slot_at: Typed | None = figure("slot, from its middle", "length", False)
    travel: Typed | None = figure("travel allowed", "length", False)
    rating: Typed | None = figure("rated load", "force", False, "stiffness_from")
    mark: Annotated[int | None, Column("meets mark in the chassis")] = None


SolidClass = Literal[
    "metal",
    "exhaust",
    "shielded exhaust",
    "line",
    "wiring",
    "fan",
    "shroud",
    "core",
    "belt",
    "steering",
    "sheet",
    "shaft",
    "tunnel",
    "ground",
]


class Solid(MeasuredRow):
    """A body of the build in simple shapes, places from its middle.

    Sizes: box length, width, height; cylinder, capsule, cone diameter and length; sphere diameter;
    ring outside diameter, inside diameter, length; panel with a round hole: length, width,
    thickness, hole. One of the gearbox is told behind the bell's mouth and moves with it.
    """

    body: Annotated[Body, Column("fixed to")] = "engine"
    class_: Annotated[SolidClass, Column("class")] = "metal"
    shape: Annotated[
        Literal["box", "cylinder", "capsule", "cone", "sphere", "ring", "panel with hole"],
        Column("shape"),
    ] = "box"
    axis: Annotated[Literal["along", "across", "upright"], Column("axis")] = "along"
    back: Typed | None = figure("middle, behind")
    left: Typed | None = figure("middle, left", mirrors=True)
    up: Typed | None = figure("middle, up")
    a: Typed | None = figure("length or diameter")
    b: Typed | None = figure("width, length or inside diameter", "length", False)
    c: Typed | None = figure("height, thickness or length of a ring", "length", False)
    hole: Typed | None = figure("hole of a panel", "length", False)
    tilt: Typed | None = figure("tilt, rear end low", "angle", False)
    turn: Typed | None = figure("turn, rear end right", "angle", False, mirrors=True)
    marks: Annotated[list[int], Column("marks in the bay")] = Field(
        default_factory=list, max_length=12, description="Marks that give its place, by number."
    )
    marks_are: Annotated[Literal["middle", "corners", "ends"], Column("they are its")] = "middle"


class Pulley(MeasuredRow):
    """A pulley of the belt run, in belt order; seen from the accessory end, looking at the
    engine.
    """

    right: Typed | None = figure("right of crank axis", mirrors=True)
    up: Typed | None = figure("above crank axis")
    d: Typed | None = figure("diameter")
    over: Annotated[Literal["pitch line", "outside"], Column("diameter over")] = "outside"
    side: Annotated[Literal["ribs", "back"], Column("belt runs on its")] = "ribs"
    plane: Typed | None = figure("plane ahead of crank pulley")
    ribs: Typed | None = figure("ribs", "count", False)
    wants: Annotated[
        Literal["not said", "as the crank", "against the crank", "either"], Column("must turn")
    ] = "not said"


JointState = Literal[
    "open", "started", "loose on purpose", "snug", "torqued", "marked", "due again"
]


JointKind = Literal[
    "not said",
    "rotating",
    "fuel",
    "oil or coolant",
    "steering",
    "brakes",
    "wheels",
    "drive shaft",
    "mounts",
    "structure",
    "lifting gear",
    "other",
]
Grade = Literal["", "4.6", "5.8", "8.8", "9.8", "10.9", "12.9", "grade 2", "grade 5", "grade 8"]
Surface = Literal["not said", "dry", "as delivered", "oiled", "locker"]


def _unsaid() -> Evidence:
    return Evidence(source=Source.UNSAID)


class BoltedJoint(MeasuredRow):
    """Screws that belong together, with the torque and where it comes from. Its evidence is the
    torque's: no gauge reads one.
    """

    evidence: Evidence = Field(default_factory=_unsaid)
    kind: Annotated[JointKind, Column("holds")] = "not said"
    bolts: Typed | None = figure("bolts", "count")
    d: Typed | None = figure("thread", "thread")
    pitch: Typed | None = figure("thread pitch", "length", False)
    strength: Annotated[Grade, Column("class or grade")] = ""
    surface: Annotated[Surface, Column("thread and head are")] = "not said"
    friction: Typed | None = figure("friction from its sheet", "ratio", False)
    torque: Typed | None = figure("torque", "torque", False)
    stages: Annotated[Text, Column("stages, % or torques")] = "30, 60, 100"
    order: Annotated[Literal["star", "centre out"], Column("order")] = "star"
    locker: Annotated[Literal["not said", "none", "locker", "sealant"], Column("locker")] = (
        "not said"
    )
    single_use: Annotated[Literal["not said", "no", "new", "spent"], Column("single use")] = (
        "not said"
    )
    again: Annotated[bool, Column("again after first heat")] = False
    state: Annotated[JointState, Column("state")] = "open"
