"""Where a number comes from, how far it may be off, and in which state of the vehicle it was taken.

The ladder runs from a reading taken here down to a guess. From a seller's claim downwards nothing
may close a finding on strength, rotation, brakes, steering, fuel or lifting: it may plan an order.
"""

from collections.abc import Mapping
from enum import StrEnum
from types import MappingProxyType
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints


class Source(StrEnum):
    """Rungs of the ladder of evidence, best first."""

    MEASURED = "measured"
    ELSEWHERE = "measured elsewhere"
    CHOSEN = "chosen"
    """A size that is decided, not read: a plate to be made, a clocking, a plan."""
    DRAWING = "drawing"
    PAPER = "maker's paper"
    CATALOGUE = "catalogue"
    SELLER = "seller"
    MEMORY = "memory"
    HEARSAY = "hearsay"
    WORD = "eye word"
    GUESS = "guess"
    UNSAID = "not said"
    """A figure that no gauge reads and whose paper nobody has named."""


LADDER = tuple(Source)
TAKEN_WITH_A_TOOL = (Source.MEASURED, Source.ELSEWHERE)
CLAIMS_NOTHING = frozenset({Source.CHOSEN, Source.GUESS, Source.UNSAID})
"""A plan or a guess beside a reading is no contradiction: it never said how the thing is."""


def as_said(source: Source, sourced: bool) -> Source:
    """The source as it counts: what no gauge reads (``sourced``: a torque, a rating) was neither
    measured nor chosen, whatever a document says.
    """
    return Source.UNSAID if sourced and source in (*TAKEN_WITH_A_TOOL, Source.CHOSEN) else source


def rank(source: Source) -> int:
    """Place on the ladder, 0 for the best evidence."""
    return LADDER.index(source)


def closes_safety(source: Source) -> bool:
    """Whether this evidence may close a safety finding: catalogue or better."""
    return rank(source) <= rank(Source.CATALOGUE)


class Tool(StrEnum):
    """Measuring tools with a default ± of their own."""

    CALLIPER = "digital calliper"
    DEPTH_GAUGE = "vernier depth gauge"
    RULE = "steel rule"
    TAPE = "tape"
    DIAL = "dial indicator"
    MICROMETER = "micrometer or bore gauge"
    INCLINOMETER = "digital inclinometer"
    BUBBLE = "bubble angle finder"
    COUNT = "count"
    THREAD_GAUGE = "gear or thread gauge"
    SCALE = "scale"
    PHOTO = "photo"


# Half-widths of the 95 % interval; common practice, no published source.
TOOL_PM = {
    Tool.CALLIPER: 0.1,
    Tool.DEPTH_GAUGE: 0.1,
    Tool.RULE: 0.5,
    Tool.TAPE: 1.5,
    Tool.DIAL: 0.02,
    Tool.MICROMETER: 0.01,  # proposed; fits of hundredths cannot be judged with a calliper
    Tool.INCLINOMETER: 0.2,
    Tool.BUBBLE: 0.5,
    Tool.THREAD_GAUGE: 0.005,  # a gauge picks one of the stepped sizes
    Tool.PHOTO: 5.0,  # proposed; one that was measured off carries its own
}
TOOLS_OF_KIND = {
    "length": (
        Tool.CALLIPER,
        Tool.DEPTH_GAUGE,
        Tool.RULE,
        Tool.TAPE,
        Tool.DIAL,
        Tool.MICROMETER,
        Tool.PHOTO,
    ),
    "angle": (Tool.INCLINOMETER, Tool.BUBBLE, Tool.PHOTO),
    "module": (Tool.THREAD_GAUGE, Tool.CALLIPER),
    "count": (Tool.COUNT,),
}
# (absolute, share of the value, least) by source where no tool decides; *proposed* beyond length.
_LENGTH_PM = {
    Source.DRAWING: (0.1, 0.0, 0.0),
    Source.PAPER: (0.5, 0.0, 0.0),
    Source.CATALOGUE: (0.5, 0.0, 0.0),
    Source.SELLER: (0.0, 0.10, 2.0),
    Source.MEMORY: (0.0, 0.10, 2.0),
    Source.HEARSAY: (0.0, 0.20, 2.0),
    Source.WORD: (0.0, 0.20, 2.0),
    Source.GUESS: (0.0, 0.10, 2.0),
    Source.UNSAID: (0.0, 0.10, 2.0),
}
# A reading whose tool nobody named; *proposed*.
UNNAMED_TOOL_MM, UNNAMED_TOOL_LONG_MM, LONG_MM, UNNAMED_TOOL_DEG = 1.0, 2.0, 1000.0, 1.0
MADE_PM = {
    "length": 0.5,
    "angle": 0.25,
}  # making tolerance of a chosen size that has none of its own; *proposed*
_ANGLE_PM = {
    Source.MEASURED: UNNAMED_TOOL_DEG,
    Source.ELSEWHERE: UNNAMED_TOOL_DEG,
    Source.DRAWING: 0.25,
    Source.PAPER: 0.5,
    Source.CATALOGUE: 0.5,
}
_SHARE_PM = {
    Source.MEASURED: 0.02,
    Source.ELSEWHERE: 0.02,
    Source.DRAWING: 0.05,
    Source.PAPER: 0.05,
    Source.CATALOGUE: 0.05,
    Source.SELLER: 0.10,
    Source.MEMORY: 0.10,
    Source.HEARSAY: 0.20,
}


def default_pm(
    kind: str, value: float, source: Source, tool: Tool | None = None, made_pm: float | None = None
) -> float:
    """Half-width of the 95 % interval of a value whose ± was not given, in the unit of its kind.

    By tool where one was used, else by source; a chosen size has the tolerance that it is made to.
    Common practice or proposed, no published source.
    """
    if kind == "count":
        return 0.0
    if source == Source.CHOSEN:
        return MADE_PM.get(kind, 0.0) if made_pm is None else made_pm
    if source in TAKEN_WITH_A_TOOL and tool in TOOL_PM and tool in TOOLS_OF_KIND.get(kind, ()):
        return TOOL_PM[tool]
    if kind == "length":
        fixed, share, least = _LENGTH_PM.get(
            source, (UNNAMED_TOOL_MM if abs(value) <= LONG_MM else UNNAMED_TOOL_LONG_MM, 0.0, 0.0)
        )
        return max(fixed, share * abs(value), least)
    if kind == "angle":
        return _ANGLE_PM.get(source, 2.0)
    if kind == "module":
        return 0.005 if closes_safety(source) else 0.1
    return _SHARE_PM.get(source, 0.25) * abs(value)


class Position(StrEnum):
    BENCH = "bench"
    STAND = "stand"
    HUNG = "hung"
    RESTING_LOOSE = "resting loose"
    RESTING_LOADED = "resting loaded"


class OnOff(StrEnum):
    ON = "on"
    OFF = "off"


class Ride(StrEnum):
    DROOP = "droop"
    REST = "rest"
    BUMP = "bump"


class Heat(StrEnum):
    COLD = "cold"
    HOT = "hot"


Words = Annotated[str, StringConstraints(max_length=2000)]


class State(BaseModel):
    """State of the unit and the vehicle when a reading was taken; an empty field was not said."""

    model_config = ConfigDict(extra="forbid", json_schema_serialization_defaults_required=True)

    position: Position | None = Field(None, description="Where the unit is.")
    gearbox: OnOff | None = Field(None, description="Gearbox on the engine.")
    parts_on: Annotated[list[Words], Field(max_length=200)] | None = Field(
        None, description="Parts that were on, by name."
    )
    slots: Words | None = Field(None, description="Slot positions of the mounts.")
    mounts: Words | None = Field(None, description="Mount type: soft or stiff rubber, solid.")
    ride: Ride | None = Field(None, description="Ride height: droop, rest or bump.")
    steering: Words | None = Field(None, description="Steering position.")
    heat: Heat | None = Field(None, description="Cold or hot.")


STATE_FIELDS: Mapping[str, tuple[str, tuple[str, ...]]] = MappingProxyType(
    {
        "position": ("Unit position", tuple(Position)),
        "gearbox": ("Gearbox", tuple(OnOff)),
        "ride": ("Ride height", tuple(Ride)),
        "heat": ("Heat", tuple(Heat)),
        "slots": ("Slots", ()),
        "steering": ("Steering", ()),
    }
)
"""What a person may say of a state: field, name, choices (free text without)."""


def refused_state(state: State, accepts: Mapping[str, frozenset[str]]) -> str | None:
    """Why a reading in ``state`` does not count for a check that ``accepts`` these, or None.

    A field that was not said is taken as accepted: only a stated difference refuses.
    """
    for field, allowed in accepts.items():
        found = getattr(state, field)
        if found is not None and found not in allowed:
            words = "gearbox " + found if field == "gearbox" else str(found)
            wanted = " or ".join(
                sorted(("gearbox " + a if field == "gearbox" else a) for a in allowed)
            )
            return f"taken {words}, needed {wanted}"
    return None


def tool_for(tool: Tool | None, kind: str) -> Tool | None:
    """The tool of the run, where it can read such a size at all."""
    known = TOOLS_OF_KIND.get(kind, (Tool.SCALE,) if kind == "mass" else ())
    return tool if tool in known else None
