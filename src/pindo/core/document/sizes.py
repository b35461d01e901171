"""What is said of a size: readings, statements with their evidence, the one that stands."""

from pydantic import Field, model_validator

from pindo.core.document.typed import EntryUnit, Evidence, Identifier, Model, Text, Typed

MAX_TAKES = 200


class Take(Model):
    """One reading as it was typed, in the unit that its field showed."""

    typed: Typed
    unit: EntryUnit | None = Field(
        None, description="Unit shown in the field; empty for the kind's base unit."
    )
    at: Text | None = Field(None, description="When, ISO 8601.")


class Statement(Evidence):
    """What one source says of one dimension. Several takes give mean and scatter."""

    id: Identifier
    takes: list[Take] = Field(min_length=1, max_length=MAX_TAKES)


class Dimension(Model):
    """All that was ever said of one dimension; ``chosen`` names the statement that stands."""

    statements: list[Statement] = Field(default_factory=list, max_length=50)
    chosen: Identifier | None = None
    why_chosen: Text = ""
    sure: Text = Field(
        "", description="Who said that a size beyond its usual range is so, and how it was seen."
    )

    @model_validator(mode="after")
    def _ids_are_unique(self) -> "Dimension":
        ids = [s.id for s in self.statements]
        if len(set(ids)) != len(ids):
            raise ValueError("two statements have one id")
        if self.chosen is not None and self.chosen not in ids:
            raise ValueError(f"the chosen statement {self.chosen} is not there")
        return self
