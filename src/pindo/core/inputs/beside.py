"""Figures, dates and words of rows that are said more than once: what stands of them, and what
cannot both be so.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date

from pindo.core.document.build import Build
from pindo.core.document.evidence import CLAIMS_NOTHING, TAKEN_WITH_A_TOOL, rank
from pindo.core.document.faces import Hole
from pindo.core.document.lists import COLUMNS, LISTS, NOT_FIGURES, PARTS
from pindo.core.document.typed import Doubled, Other
from pindo.core.inputs.dimensions import Station
from pindo.core.inputs.quantities import Resolved, Status
from pindo.core.inputs.quantity import typed_resolution
from pindo.core.inputs.statements import apart, difference

Read = Callable[[Other], Resolved]


def _reach(q: Resolved, typed: str, unit: str | None) -> tuple[float, float]:
    """Half-widths of a figure: its ±, and the last digit that was typed, in its base unit."""
    if q.kind in ("count", "money", "time", "thread"):
        return 0.0, 0.0
    return q.pm, typed_resolution(typed, q.kind, unit)


def _apart(
    a: tuple[Resolved, str], b: tuple[Resolved, str], unit: str | None, in_place: bool
) -> bool:
    """Whether two figures cannot both hold, by the rule that the ledger's statements are held to:
    ± where a tool took part, else the last digit typed.
    """
    (first, _), (second, _) = a, b
    if any(q.source in CLAIMS_NOTHING for q in (first, second)):
        return False
    if in_place and apart(first.state, second.state):
        return False
    tool = any(q.source in TAKEN_WITH_A_TOOL for q in (first, second))
    reach = sum(_reach(q, typed, unit)[0 if tool else 1] for q, typed in (a, b))
    return abs((first.value or 0.0) - (second.value or 0.0)) > reach + 1e-9


def with_others(
    own: Resolved,
    typed: str | None,
    field: str,
    of: Doubled,
    read: Read,
    unit: str | None = None,
    in_place: bool = False,
) -> Resolved:
    """What stands of a figure that others speak of too.

    Parameters
    ----------
    own : Resolved
        The figure as the row says it, typed as ``typed``.
    field
        Its column; ``of`` is what has the others' words.
    read
        Resolves what another says.
    unit
        Of figures that name none.
    in_place
        Whether readings in different states are both true, each of its state.

    Returns
    -------
    Resolved
        The one with the best evidence; without a value where two cannot both hold.
    """
    more = [o for o in of.others if o.field == field and not o.settled]
    if not more:
        return own
    told = [(own, typed or ""), *((read(o), o.typed) for o in more)]
    standing = [(q, t) for q, t in told if q.status == Status.STANDING and q.value is not None]
    if not standing:
        return own
    best, _ = min(standing, key=lambda s: rank(s[0].source) if s[0].source else 99)
    for i, a in enumerate(standing):
        for b in standing[i + 1 :]:
            if _apart(a, b, unit, in_place):
                (first, one), (second, two) = a, b
                words = difference(first.value or 0.0, second.value or 0.0, own.kind)
                said = " and ".join(
                    f"{t} ({q.source.value})" if q.source else t
                    for q, t in ((first, one), (second, two))
                )
                return replace(
                    best,
                    value=None,
                    status=Status.CONTRADICTION,
                    detail=f"{said}: {words} apart",
                )
    return best


@dataclass(frozen=True, kw_only=True)
class Spoken:
    """Something that is said more than once: a figure by its address, or words."""

    address: str
    name: str
    station: Station
    is_figure: bool
    texts: tuple[str, ...]
    """As it was typed; the row's own first."""


def _said(of: Doubled, field: str) -> list[str]:
    """What others say of a field and nobody has settled, as it was typed."""
    return [o.typed for o in of.others if o.field == field and not o.settled]


def _spoken(at: str, label: str, station: Station, of: Doubled, list_key: str) -> Iterator[Spoken]:
    columns = {c.field: c for c in COLUMNS.get(list_key, ())}
    for field in dict.fromkeys(o.field for o in of.others if not o.settled):
        own = getattr(of, field, None)
        texts = [] if own in (None, "", []) else [str(own)]
        texts += _said(of, field)
        column = columns.get(field)
        yield Spoken(
            address=f"{at}.{field}",
            name=f"{label}, {column.label if column else field.replace('_', ' ')}",
            station=station,
            is_figure=column is None or column.kind not in NOT_FIGURES,
            texts=tuple(texts),
        )


def spoken_twice(build: Build) -> Iterator[Spoken]:
    """Every figure, date or word of rows, parts of rows and holes that somebody else speaks of."""
    for key, of in LISTS.items():
        station = Station(of.station)
        for row in getattr(build, key):
            label = f"{of.one} {row.n} {row.name}".strip()
            yield from _spoken(f"{key}.{row.n}", label, station, row, key)
            for parts in PARTS[key]:
                for part in getattr(row, parts.field):
                    at = f"{key}.{row.n}.{parts.field}.{part.n}"
                    yield from _spoken(at, parts.label(part, label), station, part, parts.key)
    for side, face in (("engine", build.engine_face), ("gearbox", build.gearbox_face)):
        for hole in face.holes:
            name = f"{side.capitalize()} hole {_called(hole)}"
            yield from _spoken(f"{side}.{hole.n}", name, Station.MATE, hole, "")


def _called(hole: Hole) -> str:
    return f"{hole.n} {hole.name}".strip()


def _day(text: str) -> date | None:
    try:
        return date.fromisoformat(text.strip())
    except ValueError:
        return None


def unlike(texts: Sequence[str]) -> str:
    """How words that are said of one thing differ, in words; empty where they are the same.

    Dates say how many days lie between them.
    """
    plain = {" ".join(t.casefold().split()) for t in texts}
    if len(plain) < 2:
        return ""
    days = [_day(t) for t in texts]
    known = [d for d in days if d is not None]
    told = " and ".join(dict.fromkeys(texts))
    if len(known) == len(texts):
        return f"{told}: {(max(known) - min(known)).days} days apart"
    return told


def word(of: Doubled, field: str) -> str:
    """What words say; nothing while somebody else says otherwise."""
    own = str(getattr(of, field))
    return "" if unlike([own, *_said(of, field)]) else own


def soonest(of: Doubled, field: str) -> str:
    """The earliest date that anybody says, ISO 8601: what is said twice is due at the sooner."""
    days = [d for t in (str(getattr(of, field)), *_said(of, field)) if (d := _day(t)) is not None]
    return min(days).isoformat() if days else ""
