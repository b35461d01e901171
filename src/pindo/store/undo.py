"""Undo and redo: the last change of one's own hand, out from under what others changed since."""

import sqlite3
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from threading import Lock

from pindo.core.document.patch import difference
from pindo.store.builds import (
    COLUMNS,
    MOST_TRIES,
    change_of,
    document_at,
    get,
    journal,
    laid_on,
    moved_on,
    put,
    version_of,
)
from pindo.store.database import atomic
from pindo.store.stored import NOBODY, Author, Crowded, Document, JournalLine, Stored, Version
from pindo.store.trouble import StoreError

SELECT_STACK = (
    "SELECT version, kind, target, hand FROM journal WHERE build_id = :id AND version > :after"
    " ORDER BY version"
)
SELECT_CHANGE = f"SELECT {COLUMNS} FROM journal WHERE build_id = :id AND version = :version"

Accept = Callable[[Stored, Document, Document], Document]
"""Looks at what a step would leave before it is stored: the build now, the document after the
step, and the one that stood before or after the change alone.
"""


class NothingToUndo(StoreError):
    """There is no change to undo or redo."""


class SomeoneElses(StoreError):
    """The only change that could be undone or redone is another hand's: it is named before it is
    taken.
    """

    def __init__(self, kind: str, change: JournalLine) -> None:
        super().__init__(
            f"The last change is not yours: {change.who or 'someone at another screen'}, version"
            f" {change.version}. Nothing was {'undone' if kind == 'undo' else 'done again'}."
        )
        self.kind = kind
        self.change = change


@dataclass(frozen=True, kw_only=True)
class Stacks:
    """Versions of the changes that can be undone and done again, each with the hand whose it is;
    the next one last.
    """

    done: list[tuple[int, str]]
    undone: list[tuple[int, str]]


class _Steps:
    """The stacks of one life of a build up to a version, read on from there."""

    def __init__(self) -> None:
        self.version = 0
        self._done: dict[int, str] = {}
        self._undone: dict[int, str] = {}
        self._by_hand: dict[str, set[int]] = {}
        self._hand_of: dict[int, str] = {}

    def take(self, version: int, kind: str, target: int | None, hand: str) -> None:
        """One more line of the journal."""
        self.version = version
        if kind == "change":
            self._done[version] = self._hand_of[version] = hand
            for gone in self._by_hand.pop(hand, ()):
                self._undone.pop(gone, None)
        elif kind == "undo" and target is not None and self._done.pop(target, None) is not None:
            self._undone[target] = hand
            self._by_hand.setdefault(hand, set()).add(target)
        elif kind == "redo" and target is not None and self._undone.pop(target, None) is not None:
            self._done[target] = self._hand_of[target]

    @property
    def stacks(self) -> Stacks:
        """As they stand."""
        return Stacks(done=list(self._done.items()), undone=list(self._undone.items()))


MOST_KEPT = 256
_STEPS: OrderedDict[tuple[str, str], _Steps] = OrderedDict()
_LOCK = Lock()


def undo_stacks(conn: sqlite3.Connection, id: str) -> Stacks:
    """Read from the journal, never stored: a change empties its hand's redo stack, an undo moves
    one over. Of a build that was asked for before, only what is new is read.
    """
    epoch = version_of(conn, id).epoch
    with _LOCK:
        steps = _STEPS.setdefault((id, epoch), _Steps())
        _STEPS.move_to_end((id, epoch))
        while len(_STEPS) > MOST_KEPT:
            _STEPS.popitem(last=False)
        for row in conn.execute(SELECT_STACK, {"id": id, "after": steps.version}):
            steps.take(row["version"], row["kind"], row["target"], row["hand"])
        return steps.stacks


def step(
    conn: sqlite3.Connection,
    id: str,
    expected: Version,
    kind: str,
    by: Author = NOBODY,
    of: int | None = None,
    accept: Accept = lambda _, after, __: after,
) -> Stored:
    """Undo or redo one change (``kind``), as a new version: the last one of this hand, or the
    change ``of`` that is named.

    A change that others have built on is taken out from under them where the two do not meet.
    ``accept`` looks at the document before it is stored.

    Raises
    ------
    NotFound, NothingToUndo
        No such build, or nothing to step over.
    SomeoneElses
        Only another hand's change could be taken; ``of`` takes it.
    Stale
        Made for another life of the build, or others changed the same since.
    """
    for _ in range(MOST_TRIES):
        current = get(conn, id)
        # A step that is sent again because its answer was lost must not step twice.
        mine_since = any(c.hand == by.hand for c in journal(conn, id, after=expected.number))
        if expected.epoch != current.epoch or expected.number > current.version or mine_since:
            raise moved_on(conn, current, expected, "nothing was changed")
        target = _target(conn, id, kind, by.hand, of)
        was, became = (
            document_at(conn, current, target.version - 1),
            document_at(conn, current, target.version),
        )
        base, mine = (became, was) if kind == "undo" else (was, became)
        after = laid_on(
            conn,
            current,
            Version(epoch=current.epoch, number=target.version),
            base,
            mine,
            current.document,
        )
        after = accept(current, after, mine)
        patch, inverse = difference(current.document, after), difference(after, current.document)
        with atomic(conn):
            if version_of(conn, id) == current.at:
                return put(
                    conn, current, after, kind, target.version, patch, inverse, by, target.why
                )
    raise Crowded(
        "Others changed this build each time before yours could be stored. Nothing was changed; try"
        " again."
    )


def _target(conn: sqlite3.Connection, id: str, kind: str, hand: str, of: int | None) -> JournalLine:
    stacks = undo_stacks(conn, id)
    stack = stacks.done if kind == "undo" else stacks.undone
    own = [v for v, h in stack if h == hand]
    if of is not None:
        if of not in [v for v, _ in stack]:
            raise NothingToUndo(
                f"Version {of} is no change that can be"
                f" {'undone' if kind == 'undo' else 'done again'} now."
            )
        chosen = of
    elif own:
        chosen = own[-1]
    elif stack:
        raise SomeoneElses(kind, _change_at(conn, id, stack[-1][0]))
    else:
        raise NothingToUndo(f"There is nothing to {kind}.")
    return _change_at(conn, id, chosen)


def _change_at(conn: sqlite3.Connection, id: str, version: int) -> JournalLine:
    return change_of(conn.execute(SELECT_CHANGE, {"id": id, "version": version}).fetchone())
