"""From what was said of one dimension to the number that stands: takes, scatter, ladder, lapse,
contradiction.
"""

import math
from dataclasses import dataclass, replace
from functools import lru_cache

from pindo.core.document.evidence import (
    CLAIMS_NOTHING,
    TAKEN_WITH_A_TOOL,
    Source,
    State,
    as_said,
    default_pm,
    rank,
)
from pindo.core.document.sizes import Dimension, Statement
from pindo.core.document.typed import Evidence
from pindo.core.inputs.dimensions import DIMENSIONS, DimensionDef
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.quantity import parse, typed_resolution
from pindo.core.inputs.quantity_reader import EntryError
from pindo.core.inputs.units import KINDS, write


@lru_cache(maxsize=64)
def student_t(dof: int) -> float:
    """Two-sided 95 % factor of Student's t."""
    from scipy.special import stdtrit  # slow to import, seldom wanted

    return float(stdtrit(dof, 0.975))


@dataclass(frozen=True)
class _Said:
    """One statement read: its mean and the two half-widths that matter."""

    statement: Statement
    value: float
    pm: float
    half_width: float
    scatter: float | None


def said_source(source: Source, definition: DimensionDef) -> Source:
    """The source of a dimension's statement as it counts."""
    return as_said(source, definition.sourced)


def given_pm(evidence: Evidence, kind: str) -> float | None:
    """The ± that was typed beside a figure, in the unit of its kind; None where none was."""
    if not evidence.pm:
        return None
    pm = parse(evidence.pm, kind).value
    return None if pm is None else abs(pm)


def _read(statement: Statement, definition: DimensionDef) -> _Said | str:
    """A statement's mean and ±, or the word that stands in place of a number. Raises EntryError."""
    entries = [
        parse(take.typed, definition.kind, take.unit, definition.zero) for take in statement.takes
    ]
    kind = definition.kind
    for entry in entries:
        if entry.value is None:
            return entry.word or ""
    values = [e.value for e in entries if e.value is not None]
    mean = math.fsum(values) / len(values)
    typed_pm = max((e.pm for e in entries if e.pm is not None), default=None)
    given = given_pm(statement, kind)
    given = typed_pm if given is None else given
    pm = (
        default_pm(
            kind,
            mean,
            said_source(statement.source, definition),
            statement.tool,
            definition.made_pm,
        )
        if given is None
        else given
    )
    scatter = None
    if len(values) > 1:
        # What one tool cannot tell (pm) and what the takes do not repeat (Student's t on their
        # mean), GUM 4.2.
        scatter = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (len(values) - 1))
        pm = math.hypot(pm, student_t(len(values) - 1) * scatter / math.sqrt(len(values)))
    digit = typed_resolution(statement.takes[-1].typed, kind, statement.takes[-1].unit)
    return _Said(statement, mean, pm, digit if given is None else given, scatter)


def apart(a: State, b: State) -> bool:
    """Whether two states say something different of one thing; what is not said is the same."""
    return any(
        getattr(a, field) is not None
        and getattr(b, field) is not None
        and getattr(a, field) != getattr(b, field)
        for field in State.model_fields
    )


def difference(a: float, b: float, kind: str) -> str:
    """How far two figures of a kind are apart, in its unit, and in per cent of the larger where
    both are on one side of nought.
    """
    most, one_side = max(abs(a), abs(b)), a * b > 0.0
    per_cent = 100.0 * abs(a - b) / most if one_side else 0.0
    share = f", {per_cent:.{0 if per_cent >= 10.0 else 1}f} %" if one_side else ""
    return f"{write(abs(a - b), kind)}{share}"


def contradict(a: _Said, b: _Said, in_place: bool = False) -> bool:
    """Whether two statements cannot both hold: their intervals are disjoint.

    Of a size that is read ``in_place`` two readings in different states are both true, each of its
    state: hung and loaded, box on and off.

    Two claims are held to what was given or to the last digit typed. Where a tool took part, the ±
    of tool and source count: a calliper is allowed to disagree with a catalogue inside the
    catalogue's ±.
    """
    if any(s.statement.source in CLAIMS_NOTHING for s in (a, b)):
        return False
    if in_place and apart(a.statement.state, b.statement.state):
        return False
    tool = any(s.statement.source in TAKEN_WITH_A_TOOL for s in (a, b))
    reach = (a.pm + b.pm) if tool else (a.half_width + b.half_width)
    return abs(a.value - b.value) > reach + 1e-9


def _standing(
    said: list[_Said], chosen: str | None, in_place: bool
) -> tuple[_Said, tuple[str, str] | None]:
    best = min(said, key=lambda s: (rank(s.statement.source), -len(s.statement.takes)))
    if chosen is not None:
        return next((s for s in said if s.statement.id == chosen), best), None
    for i, a in enumerate(said):
        for b in said[i + 1 :]:
            if contradict(a, b, in_place):
                return best, (a.statement.id, b.statement.id)
    return best, None


def _told(said: list[_Said], conflict: tuple[str, str], kind: str) -> str:
    """What two statements that cannot both hold differ by."""
    a, b = (next(s.value for s in said if s.statement.id == id) for id in conflict)
    return f"two statements cannot both hold: {difference(a, b, kind)} apart"


def resolve_dimension(key: str, dimension: Dimension | None) -> Resolved:
    """What stands for one dimension of the catalogue. Never raises: a bad entry is a status."""
    definition = DIMENSIONS[key]
    blank = Resolved(address=key, name=definition.name, kind=definition.kind)
    if dimension is None or not dimension.statements:
        return blank
    live = [s for s in dimension.statements if s.lapsed is None]
    if not live:
        last = dimension.statements[-1]
        event = last.lapsed.event if last.lapsed else ""
        return replace(
            blank,
            status=Status.LAPSED,
            statement=last.id,
            source=last.source,
            tool=last.tool,
            detail=event,
        )
    said: list[_Said] = []
    word, bad = "", ""
    for statement in live:
        try:
            read = _read(statement, definition)
        except EntryError as error:
            bad = str(error)
            continue
        if isinstance(read, str):
            word = read
        else:
            said.append(read)
    if not said:
        status = Status.BAD_ENTRY if bad else Status.WORD
        return replace(
            blank, status=status, detail=bad or word, statement=live[-1].id, source=live[-1].source
        )
    best, conflict = _standing(said, dimension.chosen, definition.reading != "")
    provisional = False
    if conflict and definition.safer:
        pick = min if definition.safer == "low" else max
        best, provisional = pick(said, key=lambda s: s.value), True
    low, high = definition.can
    odd = not low <= best.value <= high and not dimension.sure
    standing = not odd and (not conflict or provisional)
    return Resolved(
        address=key,
        name=definition.name,
        kind=definition.kind,
        status=(
            Status.STANDING
            if standing
            else Status.CONTRADICTION
            if conflict and not provisional
            else Status.QUESTION
        ),
        value=best.value if standing else None,
        asked=best.value if odd else None,
        pm=best.pm,
        source=said_source(best.statement.source, definition),
        tool=best.statement.tool,
        state=best.statement.state,
        statement=best.statement.id,
        takes=len(best.statement.takes),
        scatter=best.scatter,
        detail=(
            _told(said, conflict, definition.kind)
            if conflict
            else (
                f"such a size is {low:g} to {high:g} {KINDS[definition.kind].unit}".strip()
                if odd
                else ""
            )
        ),
        stands_in=definition.reading if key in STANDS_IN else "",
        provisional=provisional,
        conflict=conflict,
    )


STANDS_IN = frozenset({"chain_centre_mm", "driver_plane_mm"})
"""Readings on the vehicle of what pose and parts also give: while they hold they stand in its
place.
"""
