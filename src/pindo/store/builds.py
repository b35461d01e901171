"""Builds, versions, the journal; two hands on one build; undo and redo."""

import json
import sqlite3
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from pindo.core.document.patch import applied, difference
from pindo.core.document.written import of_today
from pindo.store.database import atomic
from pindo.store.merge import Conflict, Place, merged, places
from pindo.store.stored import (
    NOBODY,
    Author,
    Crowded,
    Document,
    JournalLine,
    Listed,
    NotFound,
    Patch,
    Stale,
    Stored,
    Version,
    parsed,
)

MOST_BEHIND = 500
MOST_TRIES = 20


COLUMNS = "version, kind, target, patch, inverse, who, hand, why, at, screen"
SELECT_BUILD = "SELECT id, epoch, version, document, updated_at FROM build WHERE id = :id"
SELECT_ALL = """
    SELECT id, epoch, version, updated_at, name, vehicle FROM build ORDER BY changed DESC, id
"""
SELECT_VERSION = "SELECT epoch, version FROM build WHERE id = :id"
SELECT_JOURNAL = (
    f"SELECT {COLUMNS} FROM journal WHERE build_id = :id AND version > :after AND version < :before"
    " ORDER BY version DESC LIMIT :most"
)
SELECT_WHOLE_JOURNAL = f"SELECT {COLUMNS} FROM journal WHERE build_id = :id ORDER BY version"
INSERT_BUILD = """
    INSERT INTO build
        (id, epoch, version, document, created_at, updated_at, changed, name, vehicle)
    SELECT :id, :epoch, :version, :document, :at, :at, coalesce(max(changed), 0) + 1,
        :name, :vehicle
    FROM build
"""
UPDATE_BUILD = """
    UPDATE build SET version = :version, document = :document, updated_at = :at,
        name = :name, vehicle = :vehicle,
        changed = (SELECT max(changed) + 1 FROM build)
    WHERE id = :id
"""
INSERT_CHANGE = """
    INSERT INTO journal
        (build_id, version, kind, target, patch, inverse, who, hand, why, at, screen)
    VALUES (:build_id, :version, :kind, :target, :patch, :inverse, :who, :hand, :why, :at, :screen)
"""
SELECT_KEY = "SELECT version FROM entry WHERE build_id = :build_id AND key = :key"
INSERT_KEY = "INSERT INTO entry (build_id, key, version) VALUES (:build_id, :key, :version)"
END = 2**62


def now() -> str:
    """The time of day, ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def _dump(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def _columns(document: Document) -> dict[str, str]:
    """A document as it is stored, and what the list of builds shows of it beside it."""
    shown = {key: str(document.get(key) or "") for key in ("name", "vehicle")}
    return {"document": _dump(document), **shown}


def dumped(document: Document) -> bytes:
    """A document as a file, as it is stored."""
    return _dump(document).encode()


def _stored(row: sqlite3.Row) -> Stored:
    return Stored(**{**dict(row), "document": parsed(row["document"])})


def change_of(row: sqlite3.Row) -> JournalLine:
    return JournalLine(
        **{**dict(row), "patch": json.loads(row["patch"]), "inverse": json.loads(row["inverse"])}
    )


def all_builds(conn: sqlite3.Connection) -> list[Listed]:
    """Every build, the latest changed first, without its document."""
    return [Listed(**dict(row)) for row in conn.execute(SELECT_ALL)]


def get(conn: sqlite3.Connection, id: str) -> Stored:
    """One build. Raises NotFound."""
    row = conn.execute(SELECT_BUILD, {"id": id}).fetchone()
    if row is None:
        raise NotFound(f"There is no build {id}.")
    return _stored(row)


def version_of(conn: sqlite3.Connection, id: str) -> Version:
    """Where a build is now, without its document. Raises NotFound."""
    row = conn.execute(SELECT_VERSION, {"id": id}).fetchone()
    if row is None:
        raise NotFound(f"There is no build {id}.")
    return Version(epoch=row["epoch"], number=row["version"])


def create(
    conn: sqlite3.Connection,
    document: Document,
    by: Author = NOBODY,
    why: str = "",
    id: str | None = None,
    past: list[JournalLine] | None = None,
) -> Stored:
    """Store a new build: at version 1, or with the journal that it brings."""
    id = id or uuid.uuid4().hex[:12]
    at, epoch = now(), uuid.uuid4().hex[:12]
    first = JournalLine(
        version=1,
        kind="create",
        target=None,
        patch=[],
        inverse=[],
        who=by.who,
        hand=by.hand,
        why=why,
        at=at,
        screen=by.screen,
    )
    changes = past or [first]
    version = changes[-1].version
    with atomic(conn):
        conn.execute(
            INSERT_BUILD,
            {"id": id, "epoch": epoch, "version": version, "at": at, **_columns(document)},
        )
        for change in changes:
            _journal(conn, id, change)
    return Stored(id=id, epoch=epoch, version=version, document=document, updated_at=at)


def delete(conn: sqlite3.Connection, id: str, expected: Version) -> None:
    """Delete a build with its journal. Raises NotFound or Stale."""
    with atomic(conn):
        current = get(conn, id)
        if current.at != expected:
            raise moved_on(conn, current, expected, "nothing was deleted")
        conn.execute("DELETE FROM build WHERE id = :id", {"id": id})


def _journal(conn: sqlite3.Connection, id: str, change: JournalLine) -> None:
    conn.execute(
        INSERT_CHANGE,
        {
            **change.__dict__,
            "build_id": id,
            "patch": _dump(change.patch),
            "inverse": _dump(change.inverse),
        },
    )


def moved_on(
    conn: sqlite3.Connection,
    current: Stored,
    expected: Version,
    kept: str,
    conflicts: list[Conflict] | None = None,
) -> Stale:
    if current.epoch != expected.epoch:
        return Stale(
            f"This build was restored or made anew since you read it; {kept}.",
            expected.number,
            current,
            [],
        )
    since = journal(conn, current.id, after=expected.number, most=50)
    words = (
        f"This build is at version {current.version}; your change was made against version"
        f" {expected.number}"
    )
    return Stale(
        f"{words}, and the same was changed since; {kept}." if conflicts else f"{words}; {kept}.",
        expected.number,
        current,
        since,
        conflicts,
    )


def document_at(conn: sqlite3.Connection, current: Stored, version: int) -> Document:
    """A build's document as it was at an earlier version, from the inverses in the journal.
    Raises Stale when it is too far back, or no version.
    """
    if not current.version - MOST_BEHIND <= version <= current.version:
        raise moved_on(
            conn, current, Version(epoch=current.epoch, number=version), "nothing was stored"
        )
    document = current.document
    for change in journal(conn, current.id, after=version, most=MOST_BEHIND):
        document = applied(document, change.inverse)
    # A history reaches back over versions of documents: all that is laid together is of one.
    return of_today(document)


def laid_on(
    conn: sqlite3.Connection,
    current: Stored,
    expected: Version,
    base: Document,
    mine: Document,
    theirs: Document,
) -> Document:
    """A change of an earlier version on top of what stands now. Raises Stale where both changed
    the same.
    """
    after, conflicts = merged(base, mine, of_today(theirs))
    if conflicts:
        raise moved_on(
            conn,
            current,
            expected,
            "nothing of yours was stored, and nothing of theirs was lost",
            conflicts,
        )
    return after  # type: ignore[no-any-return]


@dataclass(frozen=True, kw_only=True)
class Editing:
    """What a change is worked out against: the build now, and the document that it was made for
    (the same one most times).
    """

    current: Stored
    base: Document
    others: list[tuple["JournalLine", set[Place]]]
    """What was changed at other screens since the one was read on which this change was made,
    and where.
    """
    lay: Callable[[Document, Document, Document], Document]
    """Lays what was made of an earlier document on what stands now (base, mine, theirs); raises
    Stale where they meet.
    """


def change(
    conn: sqlite3.Connection,
    id: str,
    expected: Version | None,
    edit: Callable[[Editing], Document],
    by: Author = NOBODY,
    why: str = "",
    key: str = "",
    seen: Version | None = None,
) -> Stored:
    """Store ``edit(...)`` as the next version, with its patch and inverse in the journal.

    ``edit`` is worked out before the file is locked, and stored only if the build still is what it
    was worked out against; otherwise it is worked out again. What it refuses leaves no trace.
    ``expected`` is None for a change that says itself what it expects to find; a change of an
    earlier version is laid on the newer one where the two do not meet. ``seen`` is the version that
    was on the screen: ``edit`` is told what other hands changed since. The same ``key`` is stored
    once.

    Raises
    ------
    NotFound, Stale, Crowded
        No such build; the same was changed since ``expected``; or others were quicker every time.
    """
    for _ in range(MOST_TRIES):
        current = get(conn, id)
        if key and conn.execute(SELECT_KEY, {"build_id": id, "key": key}).fetchone():
            return current
        after = edit(_editing(conn, current, expected, _others(conn, current, seen, by)))
        patch, inverse = difference(current.document, after), difference(after, current.document)
        with atomic(conn):
            if version_of(conn, id) != current.at:
                continue
            if key:
                conn.execute(
                    INSERT_KEY, {"build_id": id, "key": key, "version": current.version + 1}
                )
            return put(conn, current, after, "change", None, patch, inverse, by, why)
    raise Crowded(
        "Others changed this build each time before yours could be stored. Nothing of yours was"
        " stored; it is asked again."
    )


def _others(
    conn: sqlite3.Connection, current: Stored, seen: Version | None, by: Author
) -> list[tuple[JournalLine, set[Place]]]:
    if seen is None or seen == current.at:
        return []
    if (
        seen.epoch != current.epoch
        or not current.version - MOST_BEHIND <= seen.number <= current.version
    ):
        raise moved_on(
            conn,
            current,
            seen,
            "what you typed is kept: look at what stands now, and enter it again",
        )
    document = current.document
    found = []
    for change in journal(conn, current.id, after=seen.number, most=MOST_BEHIND):
        after = document
        document = applied(after, change.inverse)
        if (change.hand, change.screen) != (by.hand, by.screen):
            found.append((change, places(document, after)))
    return found


def _editing(
    conn: sqlite3.Connection,
    current: Stored,
    expected: Version | None,
    others: list[tuple[JournalLine, set[Place]]],
) -> Editing:
    if expected is None or expected == current.at:
        return Editing(
            current=current, base=current.document, others=others, lay=lambda _, mine, __: mine
        )
    if expected.epoch != current.epoch or expected.number > current.version:
        raise moved_on(conn, current, expected, "nothing of it was stored")
    base = document_at(conn, current, expected.number)
    return Editing(
        current=current,
        base=base,
        others=others,
        lay=lambda was, mine, theirs: laid_on(conn, current, expected, was, mine, theirs),
    )


def put(
    conn: sqlite3.Connection,
    current: Stored,
    after: Document,
    kind: str,
    target: int | None,
    patch: Patch,
    inverse: Patch,
    by: Author,
    why: str,
) -> Stored:
    at, version = now(), current.version + 1
    conn.execute(UPDATE_BUILD, {"id": current.id, "version": version, "at": at, **_columns(after)})
    _journal(
        conn,
        current.id,
        JournalLine(
            version=version,
            kind=kind,
            target=target,
            patch=patch,
            inverse=inverse,
            who=by.who,
            hand=by.hand,
            why=why,
            at=at,
            screen=by.screen,
        ),
    )
    return Stored(
        id=current.id, epoch=current.epoch, version=version, document=after, updated_at=at
    )


def journal(
    conn: sqlite3.Connection, id: str, after: int = 0, most: int = 200, before: int = END
) -> list[JournalLine]:
    """Changes newer than version ``after`` and older than ``before``, newest first."""
    return [
        change_of(row)
        for row in conn.execute(
            SELECT_JOURNAL, {"id": id, "after": after, "before": before, "most": most}
        )
    ]


def whole_journal(conn: sqlite3.Connection, id: str) -> list[JournalLine]:
    """Every change of a build, the first one first."""
    return [change_of(row) for row in conn.execute(SELECT_WHOLE_JOURNAL, {"id": id})]
