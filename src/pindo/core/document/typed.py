"""Words and figures of the build document that every part of it shares."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from pindo.core.document.evidence import Source, State, Tool

Text = Annotated[str, StringConstraints(max_length=2000)]
Typed = Annotated[str, StringConstraints(max_length=120)]
Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,63}$")]
Identifier = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_-]{0,31}$")]
EntryUnit = Annotated[str, StringConstraints(max_length=12)]


class Model(BaseModel):
    model_config = ConfigDict(extra="forbid", json_schema_serialization_defaults_required=True)


class Lapse(Model):
    """Why a reading no longer counts."""

    event: Text
    at: Text | None = None


class Evidence(Model):
    """What stands behind a number: source, tool, ±, state, note."""

    source: Source = Source.MEASURED
    tool: Tool | None = None
    pm: Typed | None = Field(
        None, description="± as typed; empty for the default of tool and source."
    )
    note: Text = ""
    who: Text = ""
    state: State = Field(default_factory=State)
    lapsed: Lapse | None = None


class Other(Model):
    """What somebody else, another paper or another reading says of a figure, a date or words of a
    row. Both count until one of them is settled.
    """

    field: Key
    typed: Annotated[Typed, StringConstraints(min_length=1)]
    evidence: Evidence = Field(default_factory=Evidence)
    settled: Text = Field("", description="Why it does not hold; empty while nobody has said.")


class Doubled(Model):
    """Something numbered of which figures, dates and words may be said more than once."""

    others: list[Other] = Field(default_factory=list, max_length=20)
