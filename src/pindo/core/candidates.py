"""What fits here? Every part of a kind that lies on the shelf is fitted on trial and judged by the
build's own questions: by what it measures, never by what it is called.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from pindo.core.acts import Act, Add, FitPart
from pindo.core.assessment import Assessment, Tally, assess, counted
from pindo.core.document.evidence import LADDER, Source
from pindo.core.document.parts import PartCard
from pindo.core.document.written import Written
from pindo.core.enter import enter
from pindo.core.fitting import OWN_OPTIONS, sizes_of
from pindo.core.judging.verdict import SEVERITY, Finding, Verdict
from pindo.core.shop_library import to_build


@dataclass(frozen=True, kw_only=True)
class Against:
    """A finding that does not go with the candidate in place."""

    id: str
    title: str
    verdict: Verdict
    text: str


@dataclass(frozen=True, kw_only=True)
class Candidate:
    """A part, and what the findings that read its sizes would say."""

    part: int
    """Number of its card; 0 for one of the library."""
    library: str
    """Its id in the library; empty for one of the build."""
    name: str
    fitted: bool
    tally: Tally
    against: tuple[Against, ...]
    """What does not go, worst first."""
    sizes: int
    """How many of the kind's sizes are known of it, of ``of_sizes``."""
    of_sizes: int
    weakest: Source | None
    """The weakest evidence among them."""
    wait_days: int | None
    state: str
    refused: str
    """Why somebody refused it already; it is ranked last and kept."""


def _reading(assessment: Assessment, keys: frozenset[str]) -> list[Finding]:
    return [f for f in assessment.findings if keys & set(f.inputs)]


def _candidate(
    card: PartCard,
    found: Iterable[Finding],
    known: dict[str, Source],
    of_sizes: int,
    id: str,
) -> Candidate:
    findings = list(found)
    against = sorted(
        (f for f in findings if f.verdict != Verdict.GOES), key=lambda f: SEVERITY[f.verdict]
    )
    return Candidate(
        part=0 if id else card.n,
        library=id,
        name=card.name or card.kind,
        fitted=card.fitted,
        tally=counted(f.verdict for f in findings),
        against=tuple(
            Against(id=f.id, title=f.title, verdict=f.verdict, text=f.sentence.mm) for f in against
        ),
        sizes=len(known),
        of_sizes=of_sizes,
        weakest=max(known.values(), key=LADDER.index, default=None),
        wait_days=card.wait_days,
        state=card.state,
        refused=card.refused,
    )


def _order(one: Candidate) -> tuple[bool, int, int, int, int, int]:
    """Refused ones last; then fouls, what is not known, what is tight, the wait."""
    return (
        bool(one.refused),
        one.tally.fouls,
        one.tally.unmeasured,
        one.tally.tight,
        one.wait_days or 0,
        one.part,
    )


def candidates(
    build: Written, kind: str, at: str, today: str, library: Sequence[tuple[str, PartCard]] = ()
) -> list[Candidate]:
    """Parts of a kind ranked by what they measure, the fitted one and those of the shop's library
    among them.

    Parameters
    ----------
    build : Written
        The build as it stands.
    kind : str
        Kind of part, as cards have it.
    at, today : str, ISO 8601
        When it is tried.
    library
        Id and card of each part of the library.
    """
    keys = sizes_of(kind)
    read = frozenset((*keys, *OWN_OPTIONS.get(kind, ())))
    found = []

    def tried(card: PartCard, acts: Sequence[Act], id: str = "") -> None:
        after = enter(build, acts, at).after if acts else build
        now = assess(after.build, (), today)
        known = {
            k: q.source
            for k in keys
            if (q := now.quantities.get(k)) is not None and q.value is not None and q.source
        }
        asked = sum(k in now.asked for k in keys)
        found.append(_candidate(card, _reading(now, read), known, asked, id))

    cards = [c for c in build.build.parts if c.kind == kind and c.state != "gone"]
    for card in cards:
        tried(card, () if card.fitted else (FitPart(part=card.n),))
    free = max((c.n for c in build.build.parts), default=0) + 1
    for id, part in library:
        if part.kind == kind:
            tried(part, (Add(list="parts", row=to_build(part)), FitPart(part=free)), id)
    return sorted(found, key=_order)
