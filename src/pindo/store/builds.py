"""Builds, versions, the journal; two hands on one build; undo and redo."""

import json
import sqlite3
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import jsonpatch
import jsonpointer

from pindo.store.database import atomic
from pindo.store.merge import Conflict, Place, merged, places
from pindo.store.trouble import StoreError

Document = dict[str, Any]
Patch = list[dict[str, Any]]

MOST_BEHIND = 500
MOST_TRIES = 20


class NotFound(StoreError):
    """No build of that id."""


class Crowded(StoreError):
    """Others changed the build each time before this could be stored."""


class Stale(StoreError):
    """The build has moved on since the version that a change was made against, in the same places or too far."""

    def __init__(self, words: str, yours: int, current: "Stored", since: list["Change"], conflicts: list[Conflict] | None = None) -> None:
        super().__init__(words)
        self.yours = yours
        self.current = current
        self.since = since
        self.conflicts = conflicts or []


@dataclass(frozen=True, kw_only=True)
class Version:
    """A version of one life of a build: ``epoch`` is another after a restore, or a delete and an import."""

    epoch: str
    number: int

    @property
    def tag(self) -> str:
        """As it goes over the wire."""
        return f"{self.epoch}-{self.number}"


@dataclass(frozen=True, kw_only=True)
class Stored:
    """A build as it is stored."""

    id: str
    epoch: str
    version: int
    document: Document
    updated_at: str

    @property
    def at(self) -> Version:
        return Version(epoch=self.epoch, number=self.version)


@dataclass(frozen=True, kw_only=True)
class Listed:
    """A line of the list of builds."""

    id: str
    epoch: str
    version: int
    name: str
    vehicle: str
    updated_at: str

    @property
    def at(self) -> Version:
        return Version(epoch=self.epoch, number=self.version)


@dataclass(frozen=True, kw_only=True)
class Change:
    """One line of a build's journal."""

    version: int
    kind: str
    target: int | None
    patch: Patch
    inverse: Patch
    who: str
    hand: str
    why: str
    at: str
    screen: str = ""


@dataclass(frozen=True, kw_only=True)
class Author:
    """Who changes: the name that was given, the browser or script, and which of its screens."""

    who: str = ""
    hand: str = ""
    screen: str = ""


NOBODY = Author()
COLUMNS = "version, kind, target, patch, inverse, who, hand, why, at, screen"
SELECT_BUILD = "SELECT id, epoch, version, document, updated_at FROM build WHERE id = :id"
SELECT_ALL = """
    SELECT id, epoch, version, updated_at, coalesce(document ->> '$.name', '') AS name, coalesce(document ->> '$.vehicle', '') AS vehicle
    FROM build ORDER BY changed DESC, id
"""
SELECT_VERSION = "SELECT epoch, version FROM build WHERE id = :id"
SELECT_JOURNAL = f"SELECT {COLUMNS} FROM journal WHERE build_id = :id AND version > :after AND version < :before ORDER BY version DESC LIMIT :most"
SELECT_WHOLE_JOURNAL = f"SELECT {COLUMNS} FROM journal WHERE build_id = :id ORDER BY version"
INSERT_BUILD = """
    INSERT INTO build (id, epoch, version, document, created_at, updated_at, changed)
    VALUES (:id, :epoch, :version, :document, :at, :at, (SELECT coalesce(max(changed), 0) + 1 FROM build))
"""
UPDATE_BUILD = """
    UPDATE build SET version = :version, document = :document, updated_at = :at, changed = (SELECT max(changed) + 1 FROM build)
    WHERE id = :id
"""
INSERT_CHANGE = """
    INSERT INTO journal (build_id, version, kind, target, patch, inverse, who, hand, why, at, screen)
    VALUES (:build_id, :version, :kind, :target, :patch, :inverse, :who, :hand, :why, :at, :screen)
"""
SELECT_KEY = "SELECT version FROM entry WHERE build_id = :build_id AND key = :key"
INSERT_KEY = "INSERT INTO entry (build_id, key, version) VALUES (:build_id, :key, :version)"
END = 2**62
_NONE: Any = object()


def now() -> str:
    """The time of day, ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def _dump(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def dumped(document: Document) -> bytes:
    """A document as a file, as it is stored."""
    return _dump(document).encode()


def _stored(row: sqlite3.Row) -> Stored:
    return Stored(**{**dict(row), "document": json.loads(row["document"])})


def change_of(row: sqlite3.Row) -> Change:
    return Change(**{**dict(row), "patch": json.loads(row["patch"]), "inverse": json.loads(row["inverse"])})


def all_builds(conn: sqlite3.Connection) -> list[Listed]:
    """Every build, the latest changed first, without its document."""
    return [Listed(**{**dict(row), "name": str(row["name"]), "vehicle": str(row["vehicle"])}) for row in conn.execute(SELECT_ALL)]


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


def create(conn: sqlite3.Connection, document: Document, by: Author = NOBODY, why: str = "", id: str | None = None, past: list[Change] | None = None) -> Stored:
    """Store a new build: at version 1, or with the journal that it brings."""
    id = id or uuid.uuid4().hex[:12]
    at, epoch = now(), uuid.uuid4().hex[:12]
    first = Change(version=1, kind="create", target=None, patch=[], inverse=[], who=by.who, hand=by.hand, why=why, at=at, screen=by.screen)
    changes = past or [first]
    version = changes[-1].version
    with atomic(conn):
        conn.execute(INSERT_BUILD, {"id": id, "epoch": epoch, "version": version, "document": _dump(document), "at": at})
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


def _journal(conn: sqlite3.Connection, id: str, change: Change) -> None:
    conn.execute(INSERT_CHANGE, {**change.__dict__, "build_id": id, "patch": _dump(change.patch), "inverse": _dump(change.inverse)})


def moved_on(conn: sqlite3.Connection, current: Stored, expected: Version, kept: str, conflicts: list[Conflict] | None = None) -> Stale:
    if current.epoch != expected.epoch:
        return Stale(f"This build was restored or made anew since you read it; {kept}.", expected.number, current, [])
    since = journal(conn, current.id, after=expected.number, most=50)
    words = f"This build is at version {current.version}; your change was made against version {expected.number}"
    return Stale(f"{words}, and the same was changed since; {kept}." if conflicts else f"{words}; {kept}.", expected.number, current, since, conflicts)


def document_at(conn: sqlite3.Connection, current: Stored, version: int) -> Document:
    """A build's document as it was at an earlier version, from the inverses in the journal. Raises Stale when it is too far back, or no version."""
    if not current.version - MOST_BEHIND <= version <= current.version:
        raise moved_on(conn, current, Version(epoch=current.epoch, number=version), "nothing was stored")
    document = json.loads(_dump(current.document))
    for change in journal(conn, current.id, after=version, most=MOST_BEHIND):
        document = jsonpatch.apply_patch(document, change.inverse, in_place=True)
    return document  # type: ignore[no-any-return]


def laid_on(conn: sqlite3.Connection, current: Stored, expected: Version, base: Document, mine: Document, theirs: Document) -> Document:
    """A change of an earlier version on top of what stands now. Raises Stale where both changed the same."""
    after, conflicts = merged(base, mine, theirs)
    if conflicts:
        raise moved_on(conn, current, expected, "nothing of yours was stored, and nothing of theirs was lost", conflicts)
    return after  # type: ignore[no-any-return]


@dataclass(frozen=True, kw_only=True)
class Editing:
    """What a change is worked out against: the build now, and the document that it was made for (the same one most times)."""

    current: Stored
    base: Document
    others: list[tuple["Change", set[Place]]]
    """What was changed at other screens since the one was read on which this change was made, and where."""
    lay: Callable[[Document, Document, Document], Document]
    """Lays what was made of an earlier document on what stands now (base, mine, theirs); raises Stale where they meet."""


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

    ``edit`` is worked out before the file is locked, and stored only if the build still is what it was worked out against; otherwise it is
    worked out again. What it refuses leaves no trace. ``expected`` is None for a change that says itself what it expects to find; a change of
    an earlier version is laid on the newer one where the two do not meet. ``seen`` is the version that was on the screen: ``edit`` is told what other hands changed since.
    The same ``key`` is stored once.

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
                conn.execute(INSERT_KEY, {"build_id": id, "key": key, "version": current.version + 1})
            return put(conn, current, after, "change", None, patch, inverse, by, why)
    raise Crowded("Others changed this build each time before yours could be stored. Nothing of yours was stored; it is asked again.")


def _others(conn: sqlite3.Connection, current: Stored, seen: Version | None, by: Author) -> list[tuple[Change, set[Place]]]:
    if seen is None or seen == current.at:
        return []
    if seen.epoch != current.epoch or not current.version - MOST_BEHIND <= seen.number <= current.version:
        raise moved_on(conn, current, seen, "what you typed is kept: look at what stands now, and enter it again")
    document = json.loads(_dump(current.document))
    found = []
    for change in journal(conn, current.id, after=seen.number, most=MOST_BEHIND):
        after = document
        document = jsonpatch.apply_patch(after, change.inverse)
        if (change.hand, change.screen) != (by.hand, by.screen):
            found.append((change, places(document, after)))
    return found


def _editing(conn: sqlite3.Connection, current: Stored, expected: Version | None, others: list[tuple[Change, set[Place]]]) -> Editing:
    if expected is None or expected == current.at:
        return Editing(current=current, base=current.document, others=others, lay=lambda _, mine, __: mine)
    if expected.epoch != current.epoch or expected.number > current.version:
        raise moved_on(conn, current, expected, "nothing of it was stored")
    base = document_at(conn, current, expected.number)
    return Editing(current=current, base=base, others=others, lay=lambda was, mine, theirs: laid_on(conn, current, expected, was, mine, theirs))


def difference(before: Document, after: Document) -> Patch:
    """JSON Patch from one document to another; only what differs at the top is looked into."""
    keys = [k for k in {**before, **after} if before.get(k, _NONE) != after.get(k, _NONE)]
    patch: Patch = jsonpatch.make_patch({k: before[k] for k in keys if k in before}, {k: after[k] for k in keys if k in after}).patch
    return patch


def put(conn: sqlite3.Connection, current: Stored, after: Document, kind: str, target: int | None, patch: Patch, inverse: Patch, by: Author, why: str) -> Stored:
    at, version = now(), current.version + 1
    conn.execute(UPDATE_BUILD, {"id": current.id, "version": version, "document": _dump(after), "at": at})
    _journal(conn, current.id, Change(version=version, kind=kind, target=target, patch=patch, inverse=inverse, who=by.who, hand=by.hand, why=why, at=at, screen=by.screen))
    return Stored(id=current.id, epoch=current.epoch, version=version, document=after, updated_at=at)


def journal(conn: sqlite3.Connection, id: str, after: int = 0, most: int = 200, before: int = END) -> list[Change]:
    """Changes newer than version ``after`` and older than ``before``, newest first."""
    return [change_of(row) for row in conn.execute(SELECT_JOURNAL, {"id": id, "after": after, "before": before, "most": most})]


def history_problem(document: Document, version: int, changes: list[tuple[int, Patch]]) -> str:
    """What is wrong with a history (version and inverse of each change, the newest first); empty for nothing.

    Every version is there once, and from the document the changes lead back to the beginning, one after the other.
    """
    if [v for v, _ in changes] != list(range(version, 0, -1)):
        return "its history has gaps"
    # Pindo's own patches never copy; copies of copies would double the document each time.
    if any(not isinstance(op, dict) or op.get("op") == "copy" for _, inverse in changes for op in inverse):
        return "its history holds operations that are not Pindo's"
    try:
        document = json.loads(_dump(document))
        for _, inverse in changes:
            document = jsonpatch.apply_patch(document, inverse, in_place=True)
    except (ValueError, jsonpatch.JsonPatchException, jsonpointer.JsonPointerException, KeyError, TypeError, IndexError, AttributeError, RecursionError):
        return "its history does not lead back to the beginning"
    return ""


def whole_journal(conn: sqlite3.Connection, id: str) -> list[Change]:
    """Every change of a build, the first one first."""
    return [change_of(row) for row in conn.execute(SELECT_WHOLE_JOURNAL, {"id": id})]
