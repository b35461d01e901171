"""A question of a station: one declaration, from which ledger, letters, tallies, catalogue,
pictures, sheets and tests of completeness follow.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from pindo.core.drawing.board import Board, Reading
from pindo.core.errors import PindoError
from pindo.core.inputs.dimensions import DIMENSIONS, LEDGERS, OPTIONS, DimensionDef, Station
from pindo.core.inputs.inputs import PROVIDERS, ROW_PROVIDERS, Inputs, Provider
from pindo.core.judging.check import Check
from pindo.core.judging.gates import OpenItem
from pindo.core.judging.verdict import Finding


class DeclarationError(PindoError, ValueError):
    """A question is not declared as it should be; the message says what is wrong."""


@dataclass(frozen=True, kw_only=True)
class Seen:
    """What is said of a build when a board is drawn or a question concludes."""

    findings: Sequence[Finding] = ()
    opens: Sequence[OpenItem] = ()
    """What is open until a gate."""
    today: str = ""
    """ISO 8601 date that ends of waivers are held against; without it none holds."""


def _no_checks(inputs: Inputs) -> Iterable[Check]:
    return ()


def _no_notices(inputs: Inputs) -> Iterable[Finding]:
    return ()


def _no_conclusion(inputs: Inputs, seen: Seen) -> Iterable[Finding]:
    return ()


def _no_items(inputs: Inputs) -> Iterable[OpenItem]:
    return ()


def _no_orders(inputs: Inputs) -> Iterable[Reading]:
    return ()


def _no_board(inputs: Inputs, seen: Seen) -> Board:
    return Board()


def _always(inputs: Inputs) -> bool:
    return True


@dataclass(frozen=True, kw_only=True, eq=False)
class Question:
    """One question of a station, in plain words."""

    path: str
    """Its name for programs, within its station: release."""
    station: Station
    name: str
    asks: str = ""
    """The question itself, as a person puts it."""
    dimensions: Mapping[str, str | DimensionDef] = field(default_factory=dict)
    """Its ledger in the order in which it is taken: callout letter -> dimension. Letters are
    written down, so that a new dimension never renames a printed one.
    """
    options: tuple[str, ...] = ()
    """Choices that belong to it, by key."""
    lists: tuple[str, ...] = ()
    """Lists of the build that belong to it."""
    faces: tuple[Literal["engine", "gearbox"], ...] = ()
    """Castings whose hole patterns belong to it: engine, gearbox."""
    gives: tuple[Provider, ...] = ()
    """Derived quantities that it works out for others too."""
    when: Callable[[Inputs], bool] = _always
    """Builds that it is asked of."""
    checks: Callable[[Inputs], Iterable[Check]] = _no_checks
    notices: Callable[[Inputs], Iterable[Finding]] = _no_notices
    concludes: Callable[[Inputs, Seen], Iterable[Finding]] = _no_conclusion
    """Findings that rest on all the others: steps and gates."""
    opens: Callable[[Inputs], Iterable[OpenItem]] = _no_items
    """What is open until a gate."""
    board: Callable[[Inputs, Seen], Board] = _no_board
    orders: Callable[[Inputs], Iterable[Reading]] = _no_orders
    """Lengths that are ordered or cut: told when they change."""
    where: str = ""
    """Part of the vehicle that the profile flags where a finding has no place of its own: block
    face, engine, driven axle; empty for none.
    """
    first: bool = False
    """Whether its findings come before those of every other question."""
    gaps: bool = False
    """Whether its lengths are gaps that a trial fit can read."""
    sees_all: bool = False
    """Whether its board shows findings of other stations."""
    files: tuple[tuple[str, str], ...] = ()
    """Files that it gives out beside its sheet: their path under the build, and what they are
    called.
    """

    @property
    def key(self) -> str:
        """Its name for programs, the station's in front: stack.release."""
        return f"{self.station.value}.{self.path}"

    @property
    def concluding(self) -> bool:
        """Whether it has findings that rest on all the others."""
        return self.concludes is not _no_conclusion

    @property
    def ledger(self) -> tuple[str, ...]:
        """Keys of its dimensions, in ledger order."""
        given = self.dimensions.values()
        return tuple(d if isinstance(d, str) else d.key for d in given)


QUESTIONS: dict[str, Question] = {}
"""Every question that is enrolled, in the order of the trade."""


def enrol(question: Question) -> None:
    """Takes a question up: its dimensions into the catalogue, its letters into the ledgers, what it
    gives among the derived quantities.

    Raises
    ------
    DeclarationError
        Its key or a derived address is taken, or it names a dimension that there is not or twice.
    """
    if question.key in QUESTIONS:
        raise DeclarationError(f"{question.key} is enrolled already")
    ledger: dict[str, str] = {}
    for letter, given in question.dimensions.items():
        if isinstance(given, DimensionDef):
            DIMENSIONS[given.key] = given
        key = given if isinstance(given, str) else given.key
        if key not in DIMENSIONS:
            raise DeclarationError(f"{question.key}: there is no dimension {key}")
        if key in ledger:
            raise DeclarationError(f"{question.key}: {key} has two letters")
        ledger[key] = letter
    for option in question.options:
        if option not in OPTIONS:
            raise DeclarationError(f"{question.key}: there is no choice {option}")
    for provider in question.gives:
        for address in provider.gives:
            if address in PROVIDERS:
                raise DeclarationError(f"{question.key}: {address} is given already")
            PROVIDERS[address] = provider
        if provider.rows is not None:
            ROW_PROVIDERS.append(provider)
    LEDGERS[question.key] = ledger
    QUESTIONS[question.key] = question


def withdraw(question: Question) -> None:
    """Takes a question out again, with the dimensions that it brought itself and what it gives."""
    QUESTIONS.pop(question.key)
    LEDGERS.pop(question.key)
    for given in question.dimensions.values():
        if isinstance(given, DimensionDef):
            DIMENSIONS.pop(given.key)
    for provider in question.gives:
        for address in provider.gives:
            PROVIDERS.pop(address)
        if provider.rows is not None:
            ROW_PROVIDERS.remove(provider)


def asked_at(address: str, inputs: Inputs) -> str:
    """Key of the question that asks for a dimension: of those asked of the build the first at the
    dimension's own station, else the first; empty for none.
    """
    asking = [q for q in QUESTIONS.values() if address in LEDGERS[q.key] and q.when(inputs)]
    home = DIMENSIONS[address].station if address in DIMENSIONS else None
    return min(asking, key=lambda q: q.station != home).key if asking else ""
