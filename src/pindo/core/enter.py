"""Entering: what acts make of a build, what lapses with it, what is wanting first. One way for
every client, stored or only tried.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from pindo.core.acts import Act
from pindo.core.document.build import Build
from pindo.core.document.patch import Patch, applied, difference
from pindo.core.document.written import Written, rewritten
from pindo.core.entries import operations
from pindo.core.errors import PindoError
from pindo.core.inputs.lapse import Lapsing
from pindo.core.inputs.problems import Problem, problems
from pindo.core.stations.assemble.steps import StepState
from pindo.core.transition import completing, lapsing_with, refusals

Apply = Callable[[dict[str, Any], Patch], dict[str, Any]]


class Unreadable(PindoError, ValueError):
    """Entries that cannot be read; ``problems`` has each with its place. Nothing was changed."""

    def __init__(self, found: Sequence[Problem]) -> None:
        super().__init__("; ".join(p.detail for p in found[:5]))
        self.problems = list(found)


def laid_out(before: Written, document: dict[str, Any]) -> Written:
    """A document that was made from another, read where it differs.

    Raises
    ------
    ValidationError, Unreadable
        It is no build; an entry in it cannot be read.
    """
    after = rewritten(before, document)
    if found := problems(after.build, before.build):
        raise Unreadable(found)
    return after


@dataclass(frozen=True)
class Change:
    """What acts make of a build."""

    before: Written
    after: Written
    lapses: tuple[Lapsing, ...]
    """Readings that lapse with it, said anew ones left out."""

    @property
    def patch(self) -> Patch:
        """JSON Patch from before to after."""
        return difference(self.before.document, self.after.document)

    @property
    def inverse(self) -> Patch:
        """JSON Patch back."""
        return difference(self.after.document, self.before.document)


def enter(before: Written, acts: Iterable[Act], at: str, apply: Apply = applied) -> Change:
    """The build after some acts, one after the other, each against what the one before it made.

    Parameters
    ----------
    before : Written
        The build as it stands.
    acts
        What somebody did.
    at : str, ISO 8601
        When.
    apply
        What lays operations on a document; the web bounds what they may copy.

    Raises
    ------
    CannotEnter, MovedOn, EntryError, PatchError, ValidationError, Unreadable
        One of them does not fit; none is kept.
    """
    now = before
    for act in acts:
        now = laid_out(now, apply(now.document, operations(now.build, act, at)))
    return Change(before, now, tuple(lapsing_with(before.build, now.build)))


def completed(change: Change, at: str) -> Change:
    """A change with the lapses that go with it by the rules of the trade."""
    more = completing(change.before.build, change.after.build, at)
    if not more:
        return change
    after = laid_out(change.after, applied(change.after.document, more))
    return Change(change.before, after, change.lapses)


def asks(change: Change, states: Callable[[], Iterable[StepState]]) -> list[Problem]:
    """What is wanting before a change may be kept: a name, a torque with a source, a limit.

    ``states`` tells how the steps stood before it; it is called only where a rule asks.
    """
    before, after = change.before.build, change.after.build
    ruled: tuple[Callable[[Build], Any], ...] = (
        lambda b: b.steps,
        lambda b: b.joints,
        lambda b: b.provisional,
        lambda b: b.parts,
    )
    if all(part(before) == part(after) for part in ruled):
        return []
    return refusals(before, after, states())
