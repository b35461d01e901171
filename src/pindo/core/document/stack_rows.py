"""Lists of the Stack: pieces of the crank spacer, parts made for a thickness, what is in stock."""

from typing import Annotated, Literal

from pydantic import Field

from pindo.core.document.evidence import Source, Tool
from pindo.core.document.rows import Column, MeasuredRow, Row, figure
from pindo.core.document.typed import Evidence, Typed


def _calliper() -> Evidence:
    return Evidence(tool=Tool.CALLIPER)


def _unsaid() -> Evidence:
    return Evidence(source=Source.UNSAID)


class SpacerPiece(MeasuredRow):
    """One piece between crank flange and flywheel, the one at the crank first, with what it is
    bolted to the piece before it by.
    """

    evidence: Evidence = Field(default_factory=_calliper)
    thick: Typed | None = figure("thickness")
    pcd: Typed | None = figure("bolt circle")
    bolt: Typed | None = figure("bolt", "thread")
    long: Typed | None = figure("bolt under its head")
    clamped: Typed | None = figure("clamped under the head")
    depth: Typed | None = figure("full thread behind the joint")
    spigot: Typed | None = figure("register that centres it")
    bore: Typed | None = figure("its bore for the register")


class MadeFor(MeasuredRow):
    """A part that was made for a thickness of the stack: slave spacer, joining bolts, shaft. A
    change of the thickness and not of the part is a fault.
    """

    evidence: Evidence = Field(default_factory=_calliper)
    of: Annotated[
        Literal["adapter plate", "plate and shield", "crank spacer", "all of them"],
        Column("follows the"),
    ] = "adapter plate"
    made_for: Typed | None = figure("made for a thickness of")
    size: Typed | None = figure("its own size", "length", False)
    more: Typed | None = figure("should be that and", "length", False)


class Spacer(Row):
    """A disc, ring or washer that is at hand or offered: a crank spacer, a shim, a core."""

    use: Annotated[
        Literal["crank spacer", "shim under the slave", "core or offcut"], Column("is a")
    ] = "shim under the slave"
    thick: Typed | None = figure("thickness")
    across: Typed | None = figure("diameter", "length", False)
    pieces: Typed | None = figure("pieces", "count", False)
    price: Typed | None = figure("price", "money", False)
    wait: Typed | None = figure("days to wait", "count", False)


class Gear(MeasuredRow):
    """A gear of the box, by its ratio."""

    ratio: Typed | None = figure("ratio", "ratio")


class Link(MeasuredRow):
    """A part that carries the engine's torque or its power, and what it is rated for by whom. The
    rating's evidence is the row's.
    """

    evidence: Evidence = Field(default_factory=_unsaid)
    at: Annotated[
        Literal[
            "before the gearbox",
            "behind the gearbox",
            "behind the final drive",
            "fed by power",
        ],
        Column("carries it"),
    ] = "behind the gearbox"
    share: Typed | None = figure("share of the torque", "ratio", False)
    rating: Typed | None = figure("rated torque", "torque", False)
    power: Typed | None = figure("rated power", "power", False)
    speed: Typed | None = figure("at engine speed", "speed", False)


class JoinGap(MeasuredRow):
    """The gap between the two faces at one place, as they stop when they are brought together by
    hand.
    """

    evidence: Evidence = Field(default_factory=_calliper)
    at: Typed | None = figure("clockwise from 12, from behind", "angle")
    gap: Typed | None = figure("gap")


class Pin(MeasuredRow):
    """A pin in its bore: what was supplied, the largest gauge that goes into the bore and the
    smallest that does not, and what it carries.
    """

    evidence: Evidence = Field(default_factory=_calliper)
    pin: Typed | None = figure("pin, diameter")
    go: Typed | None = figure("goes in")
    no_go: Typed | None = figure("does not go in")
    pins: Typed | None = figure("pins", "count", False)
    across: Typed | None = figure("shaft that it crosses", "length", False)
    torque: Typed | None = figure("torque that it carries", "torque", False)
