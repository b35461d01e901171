"""Acts: what a client may do to a build, each in one word of its own."""

from typing import Annotated, Any, Literal

from pydantic import Field

from pindo.core.document.evidence import (
    Source,
    Tool,
)
from pindo.core.document.typed import EntryUnit, Key, Model, Text, Typed
from pindo.core.errors import PindoError

Patch = list[dict[str, Any]]
NewRows = list[dict[str, Any]]


class CannotEnter(PindoError, ValueError):
    """The act does not fit this build; the message says why. Nothing was changed."""


class MovedOn(CannotEnter):
    """What the act was made against is no longer there: somebody else was quicker."""


Of = Annotated[
    int | None,
    Field(ge=0, le=9999, description="Number of the row that a part belongs to."),
]


class Read(Model):
    """A figure typed on a line of the ledger: a reading of its own, whatever stood there before."""

    do: Literal["read"] = "read"
    key: Key
    typed: Typed
    unit: EntryUnit | None = None
    source: Source | None = Field(None, description="Where it is not as the line is usually taken.")
    tool: Tool | None = None
    part: int | None = Field(
        None, description="Number of the part on the shelf whose size it is; left out, the build's."
    )


class Plan(Model):
    """A size that is decided after a trial: it stands beside what was measured, which is kept."""

    do: Literal["plan"] = "plan"
    key: Key
    typed: Typed
    unit: EntryUnit | None = None


class Cell(Model):
    """A figure typed into a list or a face; ``row`` is its number."""

    do: Literal["cell"] = "cell"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    field: Key
    typed: Typed | None = None
    source: Source | None = Field(
        None,
        description=(
            "Where it was not read here and now: filled down from a neighbour, from another table."
        ),
    )
    tool: Tool | None = None


class Beside(Model):
    """What somebody else, another paper or another reading says of a figure, a date or words of a
    row. It stands beside what the row says until one of them is settled.
    """

    do: Literal["beside"] = "beside"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    field: Key
    typed: Annotated[Typed, Field(min_length=1)]
    source: Source = Source.UNSAID
    tool: Tool | None = None
    who: Text = ""


class Settle(Model):
    """Which of two statements of one thing holds, and why. The other is kept with the reason."""

    do: Literal["settle"] = "settle"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    other: int = Field(ge=0, le=19, description="Which of the others, from nought.")
    holds: bool = Field(description="Whether it holds, in place of what the row says.")
    why: Annotated[Text, Field(min_length=3)]


class Put(Model):
    """A choice, a yes or words of a row: no figure."""

    do: Literal["put"] = "put"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    field: Annotated[str, Field(max_length=60)]
    value: Any = None


class Add(Model):
    """A new row; its number is the next that was never used in the list as it stands."""

    do: Literal["add"] = "add"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: dict[str, Any] = Field(default_factory=dict)


class AddRows(Model):
    """Several new rows at once, numbered on from the last: a table that was brought along."""

    do: Literal["rows"] = "rows"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    rows: NewRows = Field(min_length=1, max_length=2000)


class Remove(Model):
    """A row taken out, by number."""

    do: Literal["remove"] = "remove"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)


class Copy(Model):
    """A row beside one that it is like, with the next number; ``mirror`` puts it on the other side.
    Nobody measured it: its figures are a guess until they are read.
    """

    do: Literal["copy"] = "copy"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    mirror: bool = False


class Move(Model):
    """A row one place up (-1) or down (1); its number stays."""

    do: Literal["move"] = "move"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    by: Literal[-1, 1]


class Renumber(Model):
    """Another number for a row or a hole; everything that names it follows."""

    do: Literal["renumber"] = "renumber"
    list: Annotated[str, Field(max_length=40)]
    of: Of = None
    row: int = Field(ge=0, le=9999)
    to: int = Field(ge=1, le=999)


class Close(Model):
    """A step done, left out or opened again."""

    do: Literal["step"] = "step"
    n: int
    state: Literal["open", "done", "left out"]
    as_built: Text = ""
    by: Text = ""
    reason: Text = ""
    until: Text = ""


class FitPart(Model):
    """The part of its kind that is built in from now on: its sizes become the build's, those of the
    part that was fitted go to the shelf with it.
    """

    do: Literal["fit"] = "fit"
    part: int = Field(ge=1, le=9999)


class Happen(Model):
    """An event of the floor: what it spoils lapses, as the build stands then."""

    do: Literal["event"] = "event"
    event: Text
    which: Text = ""


class Raw(Model):
    """Operations as they are, for what no other act is for."""

    do: Literal["patch"] = "patch"
    ops: list[dict[str, Any]] = Field(max_length=2000)


Act = Annotated[
    Read
    | Plan
    | Cell
    | Beside
    | Settle
    | Put
    | Add
    | AddRows
    | Remove
    | Copy
    | Move
    | Renumber
    | Close
    | FitPart
    | Happen
    | Raw,
    Field(discriminator="do"),
]
