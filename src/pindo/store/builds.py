"""Builds, versions, the journal, undo and redo."""

import json
import sqlite3
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import jsonpatch

from pindo.store.database import StoreError, atomic

Document = dict[str, Any]
Patch = list[dict[str, Any]]


class NotFound(StoreError):
    """No build of that id."""


class NothingToUndo(StoreError):
    """There is no change to undo or redo."""


class Stale(StoreError):
    """The build has moved on since the version that a change was made against."""

    def __init__(self, yours: int, current: "Stored", since: list["Change"]) -> None:
        super().__init__(f"This build is at version {current.version}; your change was made against version {yours}. Nothing of it was stored.")
        self.yours = yours
        self.current = current
        self.since = since


@dataclass(frozen=True, kw_only=True)
class Stored:
    """A build as it is stored."""

    id: str
    version: int
    document: Document
    updated_at: str


@dataclass(frozen=True, kw_only=True)
class Change:
    """One line of a build's journal."""

    version: int
    kind: str
    target: int | None
    patch: Patch
    inverse: Patch
    who: str
    why: str
    at: str


SELECT_BUILD = "SELECT id, version, document, updated_at FROM build WHERE id = :id"
SELECT_ALL = "SELECT id, version, document, updated_at FROM build ORDER BY updated_at DESC, id"
SELECT_JOURNAL = """
    SELECT version, kind, target, patch, inverse, who, why, at FROM journal
    WHERE build_id = :id AND version > :after ORDER BY version DESC LIMIT :most
"""
SELECT_STACK = "SELECT version, kind, target FROM journal WHERE build_id = :id ORDER BY version"
SELECT_CHANGE = "SELECT version, kind, target, patch, inverse, who, why, at FROM journal WHERE build_id = :id AND version = :version"
INSERT_BUILD = """
    INSERT INTO build (id, version, document, created_at, updated_at) VALUES (:id, 1, :document, :at, :at)
"""
UPDATE_BUILD = "UPDATE build SET version = :version, document = :document, updated_at = :at WHERE id = :id"
INSERT_CHANGE = """
    INSERT INTO journal (build_id, version, kind, target, patch, inverse, who, why, at)
    VALUES (:build_id, :version, :kind, :target, :patch, :inverse, :who, :why, :at)
"""
SELECT_KEY = "SELECT version FROM entry WHERE build_id = :build_id AND key = :key"
INSERT_KEY = "INSERT INTO entry (build_id, key, version) VALUES (:build_id, :key, :version)"


def now() -> str:
    """The time of day, ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def _dump(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def _stored(row: sqlite3.Row) -> Stored:
    return Stored(id=row["id"], version=row["version"], document=json.loads(row["document"]), updated_at=row["updated_at"])


def _change(row: sqlite3.Row) -> Change:
    return Change(**{**dict(row), "patch": json.loads(row["patch"]), "inverse": json.loads(row["inverse"])})


def all_builds(conn: sqlite3.Connection) -> list[Stored]:
    """Every build, the latest changed first."""
    return [_stored(row) for row in conn.execute(SELECT_ALL)]


def get(conn: sqlite3.Connection, id: str) -> Stored:
    """One build. Raises NotFound."""
    row = conn.execute(SELECT_BUILD, {"id": id}).fetchone()
    if row is None:
        raise NotFound(f"There is no build {id}.")
    return _stored(row)


def create(conn: sqlite3.Connection, document: Document, who: str = "", why: str = "", id: str | None = None) -> Stored:
    """Store a new build at version 1."""
    id = id or uuid.uuid4().hex[:12]
    at = now()
    with atomic(conn):
        conn.execute(INSERT_BUILD, {"id": id, "document": _dump(document), "at": at})
        _journal(conn, id, 1, "create", None, [], [], who, why, at)
    return Stored(id=id, version=1, document=document, updated_at=at)


def delete(conn: sqlite3.Connection, id: str, expected: int) -> None:
    """Delete a build with its journal. Raises NotFound or Stale."""
    with atomic(conn):
        _expect(conn, id, expected)
        conn.execute("DELETE FROM build WHERE id = :id", {"id": id})


def _journal(conn: sqlite3.Connection, id: str, version: int, kind: str, target: int | None, patch: Patch, inverse: Patch, who: str, why: str, at: str) -> None:
    row = {"build_id": id, "version": version, "kind": kind, "target": target, "patch": _dump(patch), "inverse": _dump(inverse), "who": who, "why": why, "at": at}
    conn.execute(INSERT_CHANGE, row)


def _expect(conn: sqlite3.Connection, id: str, expected: int) -> Stored:
    current = get(conn, id)
    if current.version != expected:
        raise Stale(expected, current, journal(conn, id, after=expected))
    return current


def change(conn: sqlite3.Connection, id: str, expected: int | None, edit: Callable[[Stored], Document], who: str = "", why: str = "", key: str = "") -> Stored:
    """Store ``edit(stored)`` as the next version, with its patch and inverse in the journal.

    ``edit`` runs inside the transaction: what it refuses leaves no trace. ``expected`` is None for a change that says itself what it
    expects to find. The same ``key`` is stored once: whoever sends it again, because the answer was lost, is told what stands.

    Raises
    ------
    NotFound, Stale
        No such build; or it is no longer at ``expected``.
    """
    with atomic(conn):
        current = get(conn, id) if expected is None else _expect(conn, id, expected)
        if key and conn.execute(SELECT_KEY, {"build_id": id, "key": key}).fetchone():
            return current
        after = edit(current)
        patch = jsonpatch.make_patch(current.document, after).patch
        inverse = jsonpatch.make_patch(after, current.document).patch
        if key:
            conn.execute(INSERT_KEY, {"build_id": id, "key": key, "version": current.version + 1})
        return _put(conn, current, after, "change", None, patch, inverse, who, why)


def _put(conn: sqlite3.Connection, current: Stored, after: Document, kind: str, target: int | None, patch: Patch, inverse: Patch, who: str, why: str) -> Stored:
    at, version = now(), current.version + 1
    conn.execute(UPDATE_BUILD, {"id": current.id, "version": version, "document": _dump(after), "at": at})
    _journal(conn, current.id, version, kind, target, patch, inverse, who, why, at)
    return Stored(id=current.id, version=version, document=after, updated_at=at)


def undo_stacks(conn: sqlite3.Connection, id: str) -> tuple[list[int], list[int]]:
    """Versions of the changes that can be undone and redone, the next one last.

    Read from the journal, never stored: a change empties the redo stack, an undo moves one over.
    """
    undone: list[int] = []
    done: list[int] = []
    for row in conn.execute(SELECT_STACK, {"id": id}):
        if row["kind"] == "change":
            done.append(row["version"])
            undone.clear()
        elif row["kind"] == "undo":
            done.remove(row["target"])
            undone.append(row["target"])
        elif row["kind"] == "redo":
            undone.remove(row["target"])
            done.append(row["target"])
    return done, undone


def step(conn: sqlite3.Connection, id: str, expected: int, kind: str, who: str = "") -> Stored:
    """Undo or redo one change (``kind``), as a new version.

    Raises
    ------
    NotFound, Stale, NothingToUndo
        As for :func:`change`; or the stack is empty.
    """
    with atomic(conn):
        current = _expect(conn, id, expected)
        done, undone = undo_stacks(conn, id)
        stack = done if kind == "undo" else undone
        if not stack:
            raise NothingToUndo(f"There is nothing to {kind}.")
        target = _change(conn.execute(SELECT_CHANGE, {"id": id, "version": stack[-1]}).fetchone())
        patch, inverse = (target.inverse, target.patch) if kind == "undo" else (target.patch, target.inverse)
        after = jsonpatch.apply_patch(current.document, patch)
        return _put(conn, current, after, kind, target.version, patch, inverse, who, target.why)


def journal(conn: sqlite3.Connection, id: str, after: int = 0, most: int = 200) -> list[Change]:
    """Changes newer than version ``after``, newest first."""
    return [_change(row) for row in conn.execute(SELECT_JOURNAL, {"id": id, "after": after, "most": most})]
