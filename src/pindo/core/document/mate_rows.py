"""Lists of the Mate: readings of a dial, joints and what locates them, the made plate, outlines,
other plates, stock.
"""

from typing import Annotated, Literal

from pydantic import Field

from pindo.core.document.evidence import Tool
from pindo.core.document.rows import Column, MeasuredRow, Part, Parts, Row, figure
from pindo.core.document.typed import Evidence, Text, Typed


def _dialled() -> Evidence:
    return Evidence(tool=Tool.DIAL)


class Dial(MeasuredRow):
    """A reading of a dial that the crank carries round, in the order in which they were taken. Plus
    where the plunger is pressed in.
    """

    evidence: Evidence = Field(default_factory=_dialled)
    of: Annotated[Literal["bore", "face"], Column("plunger on the")] = "bore"
    at: Typed | None = figure("clockwise from 12, from behind", "angle")
    value: Typed | None = figure("reading, plus pressed in")


Locates = Literal[
    "not said",
    "dowels",
    "register",
    "fitted bolts",
    "bolts into threads",
    "bolts with nuts",
    "nothing",
]


class Locator(MeasuredRow):
    """A joint on the way from the crank to the input shaft, and what holds its two parts in line.
    Its figures are diameters of what locates it: of the hole or bore, and of what is in it.
    """

    by: Annotated[Locates, Column("located by")] = "not said"
    hole: Typed | None = figure("hole or bore", "length", False)
    inside: Typed | None = figure("pin, spigot or bolt", "length", False)
    hole_2: Typed | None = figure("hole of the other part", "length", False)
    out: Annotated[bool, Column("its pins are out now")] = False
    dialled: Annotated[bool, Column("inside what the dial saw")] = False
    thickest: Typed | None = figure("part between, thickest", "length", False)
    thinnest: Typed | None = figure("part between, thinnest", "length", False)
    apart: Typed | None = figure("the two places apart", "length", False)


class Proof(MeasuredRow):
    """A reading of the made plate, whether cut here or bought: between two of its holes, called as
    the drawing calls them, or of one hole, of its window, of its thickness.
    """

    of: Annotated[Literal["distance", "hole", "window", "thickness"], Column("reading of")] = (
        "distance"
    )
    a: Annotated[Text, Column("hole")] = ""
    b: Annotated[Text, Column("to hole")] = ""
    over: Annotated[Literal["centres", "outside edges", "inside edges"], Column("over")] = "centres"
    value: Typed | None = figure("reading")


class OutlinePoint(Part):
    """A point of an outline, in the order in which it goes round."""

    x: Typed | None = figure("right")
    y: Typed | None = figure("up")


class Outline(MeasuredRow):
    """The outline of a part, traced in one plane with the others: closed through its points, or
    round about one.
    """

    role: Annotated[
        Literal[
            "part to trim",
            "stays clear",
            "bolt boss",
            "locating hole",
            "starter body",
            "notch in the plate",
        ],
        Column("is"),
    ] = "part to trim"
    across: Typed | None = figure("diameter, where it is round", "length", False)
    gap: Typed | None = figure("gap wanted round it", "length", False)
    way_x: Typed | None = figure("comes in from, right", "length", False)
    way_y: Typed | None = figure("comes in from, up", "length", False)
    points: Annotated[list[OutlinePoint], Parts(one="Point", title="Points, in turn round it")] = (
        Field(default_factory=list, max_length=400)
    )


PlateFace = Literal["one face", "the other", "both"]


class PlateHole(Part):
    """A hole of a plate of its own: which of its two faces it belongs to, and where."""

    face: Annotated[PlateFace, Column("belongs to")] = "one face"
    x: Typed | None = figure("right")
    y: Typed | None = figure("up")
    d: Typed | None = figure("screw or thread", "thread")
    how: Annotated[
        Literal["through", "tapped", "countersunk", "cap head", "locating"], Column("is")
    ] = "through"


class PlatePort(Part):
    """An opening that lets something through a plate: round, or so wide and so tall with round
    ends.
    """

    face: Annotated[PlateFace, Column("belongs to")] = "one face"
    x: Typed | None = figure("middle, right")
    y: Typed | None = figure("middle, up")
    wide: Typed | None = figure("width, or diameter")
    tall: Typed | None = figure("height, where it is not round", "length", False)


class OtherPlate(MeasuredRow):
    """A plate between two patterns that is no adapter of a bell: under a mount, between a manifold
    and a head. Places from one origin, looked at from one face.
    """

    kind: Annotated[Literal["mount plate", "port plate"], Column("is a")] = "mount plate"
    material: Annotated[Literal["", "steel", "aluminium"], Column("material")] = ""
    thick: Typed | None = figure("thickness")
    margin: Typed | None = figure("metal round its holes")
    holes: Annotated[list[PlateHole], Parts(one="Hole", title="Holes")] = Field(
        default_factory=list, max_length=100
    )
    ports: Annotated[list[PlatePort], Parts(one="Port", title="Ports")] = Field(
        default_factory=list, max_length=40
    )


class Sheet(Row):
    """A piece of plate that is in stock or offered: its size, and what it costs."""

    material: Annotated[Literal["", "steel", "aluminium"], Column("material")] = ""
    long: Typed | None = figure("length")
    wide: Typed | None = figure("width")
    thick: Typed | None = figure("thickness")
    price: Typed | None = figure("price", "money", False)
    wait: Typed | None = figure("days to wait", "count", False)
