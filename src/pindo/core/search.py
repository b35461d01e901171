"""Searches that take long: each yields what it found as it goes, so that it can be told how far it
is and stopped between two steps.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from pindo.core.assessment import assess_inputs, opened, worst_first
from pindo.core.document.written import opened as document_opened
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Finding, Verdict, WayOut


@dataclass(frozen=True, kw_only=True)
class Found:
    """One step of a search: a finding, and the ways out of it."""

    finding: str
    title: str
    verdict: str
    ways: tuple[WayOut, ...]


@dataclass(frozen=True, kw_only=True)
class Step:
    """How far a search is, and what its last step found."""

    done: int
    total: int
    found: Found | None


def every_way_out(document: Mapping[str, Any], today: str) -> Iterator[Step]:
    """The ways out of every size that fouls or is tight, the worst first.

    Parameters
    ----------
    document : mapping
        A build as it is stored.
    today : str, ISO 8601 date
        What waivers are held against.

    Yields
    ------
    Step
        The first one before anything is looked for; then one for each finding.
    """
    inputs = resolve(document_opened(dict(document)).build)
    answer = assess_inputs(inputs, (), today)
    wanting = [
        f
        for f in worst_first(answer.findings)
        if f.verdict in (Verdict.FOULS, Verdict.TIGHT) and f.margin is not None
    ]
    yield Step(done=0, total=len(wanting), found=None)

    def of(finding: Finding) -> Found:
        ways = opened(inputs, finding.id).ways
        return Found(
            finding=finding.id,
            title=finding.title,
            verdict=finding.verdict.value,
            ways=ways,
        )

    for i, finding in enumerate(wanting, 1):
        yield Step(done=i, total=len(wanting), found=of(finding))


SEARCHES: Mapping[str, Callable[[Mapping[str, Any], str], Iterator[Step]]] = MappingProxyType(
    {"ways out": every_way_out}
)
"""What can be searched for, by the name that a client asks it under."""
