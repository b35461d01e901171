"""Two hands on one document: changes that do not meet are laid together, changes of one place are
told apart.

Rows are one by their number ``n`` or their ``id``, never by their place in a list, so that a row
taken out shifts nothing.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

GONE: Any = object()
"""Stands for what is not there."""


@dataclass(frozen=True, kw_only=True)
class Conflict:
    """One place that both changed: keys from the top (rows by number or id), and what it was, is
    to one, and to the other.
    """

    place: tuple[str, ...]
    base: Any
    mine: Any
    theirs: Any


def _key_of(row: Any) -> str | None:
    key = row.get("n", row.get("id")) if isinstance(row, dict) else None
    return str(key) if isinstance(key, int | str) else None


def _keyed(rows: list[Any]) -> dict[str, Any] | None:
    """Rows by number or id; None where they have none, or two have one."""
    keys = [_key_of(r) for r in rows]
    if None in keys or len(set(keys)) != len(keys):
        return None
    return dict(zip([k or "" for k in keys], rows, strict=True))


def merged(
    base: Any, mine: Any, theirs: Any, place: tuple[str, ...] = ()
) -> tuple[Any, list[Conflict]]:
    """``theirs`` with the changes from ``base`` to ``mine`` on top, and the places where both
    changed. Pure.

    Values are JSON; ``GONE`` for what is not there. Where they meet, ``theirs`` stands in the
    result.
    """
    if mine in (base, theirs):
        return theirs, []
    if theirs == base:
        return mine, []
    if all(isinstance(x, dict) for x in (base, mine, theirs)):
        return _of_keys(base, mine, theirs, place)
    if all(isinstance(x, list) for x in (base, mine, theirs)):
        rows = [_keyed(x) for x in (base, mine, theirs)]
        if all(r is not None for r in rows):
            found, meet = _of_keys(rows[0] or {}, rows[1] or {}, rows[2] or {}, place)
            return list(found.values()), meet
        if mine[: len(base)] == base and theirs[: len(base)] == base:
            return [
                *theirs,
                *mine[len(base) :],
            ], []  # both only wrote on: nothing of either is lost
    return theirs, [Conflict(place=place, base=base, mine=mine, theirs=theirs)]


def _of_keys(
    base: Mapping[str, Any],
    mine: Mapping[str, Any],
    theirs: Mapping[str, Any],
    place: tuple[str, ...],
) -> tuple[dict[str, Any], list[Conflict]]:
    found: dict[str, Any] = {}
    meet: list[Conflict] = []
    for key in (*theirs, *(k for k in mine if k not in theirs)):
        value, conflicts = merged(
            base.get(key, GONE), mine.get(key, GONE), theirs.get(key, GONE), (*place, key)
        )
        meet += conflicts
        if value is not GONE:
            found[key] = value
    return found, meet


Place = tuple[str, ...]


def places(before: Any, after: Any, place: Place = ()) -> set[Place]:
    """Where two documents differ, rows by number or id. What was only written on at the end of a
    list meets nothing.
    """
    if before == after:
        return set()
    if isinstance(before, dict) and isinstance(after, dict):
        pairs = (before, after)
    elif isinstance(before, list) and isinstance(after, list):
        rows = (_keyed(before), _keyed(after))
        if rows[0] is None or rows[1] is None:
            return set() if after[: len(before)] == before else {place}
        pairs = (rows[0], rows[1])
    else:
        return {place}
    return {
        p
        for key in pairs[0].keys() | pairs[1].keys()
        for p in places(pairs[0].get(key, GONE), pairs[1].get(key, GONE), (*place, key))
    }


def meet(some: set[Place], others: set[Place]) -> bool:
    """Whether two changes touch one place, or one lies inside the other."""
    return any(a[: len(b)] == b[: len(a)] for a in some for b in others)
