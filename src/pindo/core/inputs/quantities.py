"""One input as it stands: its value and ±, or why it has none."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from pindo.core.document.evidence import Source, State, Tool


class Status(StrEnum):
    STANDING = "standing"
    MISSING = "missing"
    WORD = "word"
    LAPSED = "lapsed"
    CONTRADICTION = "contradiction"
    BAD_ENTRY = "bad entry"
    QUESTION = "question"
    """It can hardly be, alone or beside another size, and nobody has said that it is so."""


@dataclass(frozen=True, kw_only=True)
class Resolved:
    """One input: its value and ± in the base unit of its kind, or why it has none."""

    address: str
    name: str
    kind: str = "length"
    status: Status = Status.MISSING
    value: float | None = None
    pm: float = 0.0
    source: Source | None = None
    tool: Tool | None = None
    state: State = field(default_factory=State)
    statement: str = ""
    takes: int = 0
    scatter: float | None = None
    """Standard deviation of the takes."""
    detail: str = ""
    provisional: bool = False
    stands_in: str = ""
    """Kind of reading where it stands in place of a computed value: an event of its kind brings
    that back.
    """
    conflict: tuple[str, str] | None = None
    """Ids of the two statements that cannot both hold."""
    asked: float | None = None
    """The value that is asked about."""
    parts: Mapping[str, float] | None = None
    """For one that is derived: change with one standard uncertainty of each of its sources, signed,
    in its own unit (JCGM 100, 5.2.2: correlations follow from shared sources). None for one that
    was said.
    """
    wants: tuple[str, ...] = ()
    """For one that is derived: the inputs that it is made from."""
    choices: tuple[str, ...] = ()
    """For one that is derived: the options that decide how."""

    @property
    def u(self) -> float:
        """Standard uncertainty: half of the ±."""
        return self.pm / 2.0

    @property
    def spread(self) -> Mapping[str, float]:
        """Its standard uncertainty by source, signed; its own where it was said."""
        if self.parts is not None:
            return self.parts
        return {self.address: self.u} if self.pm > 0.0 else {}
