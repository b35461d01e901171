"""The shop's library of parts: cards with their sizes, beside the builds that they came from."""

import json
import sqlite3
import uuid
from dataclasses import dataclass
from typing import Any

from pindo.store.builds import now
from pindo.store.database import atomic
from pindo.store.stored import NotFound
from pindo.store.trouble import StoreError

MOST_PARTS = 5000

INSERT = """
    INSERT INTO library (id, kind, name, part, came_of, at)
    VALUES (:id, :kind, :name, :part, :came_of, :at)
"""
SELECT = "SELECT id, kind, name, part, came_of, at FROM library WHERE id = :id"
SELECT_ALL = "SELECT id, kind, name, part, came_of, at FROM library ORDER BY kind, name, at"
REPLACE = "UPDATE library SET kind = :kind, name = :name, part = :part, at = :at WHERE id = :id"


class LibraryFull(StoreError):
    """The library has all the parts that it may have."""


@dataclass(frozen=True, kw_only=True)
class Kept:
    """A part as the library keeps it; ``part`` is its card as JSON."""

    id: str
    kind: str
    name: str
    part: dict[str, Any]
    came_of: str
    at: str


def _kept(row: sqlite3.Row) -> Kept:
    return Kept(**{**dict(row), "part": json.loads(row["part"])})


def all_parts(conn: sqlite3.Connection) -> list[Kept]:
    """Every part, by kind and name."""
    return [_kept(row) for row in conn.execute(SELECT_ALL)]


def get(conn: sqlite3.Connection, id: str) -> Kept:
    """One part. Raises NotFound."""
    row = conn.execute(SELECT, {"id": id}).fetchone()
    if row is None:
        raise NotFound(f"There is no part {id} in the library.")
    return _kept(row)


def add(conn: sqlite3.Connection, parts: list[dict[str, Any]], came_of: str) -> list[str]:
    """Keeps parts, all of them or none; returns their ids. Raises LibraryFull."""
    ids = [uuid.uuid4().hex[:16] for _ in parts]
    with atomic(conn):
        count = conn.execute("SELECT count(*) FROM library").fetchone()[0]
        if count + len(parts) > MOST_PARTS:
            raise LibraryFull(
                f"The library has {count} parts; it may have {MOST_PARTS}. Nothing was stored."
            )
        conn.executemany(
            INSERT,
            [
                {
                    "id": id,
                    "kind": part["kind"],
                    "name": part["name"],
                    "part": json.dumps(part, ensure_ascii=False),
                    "came_of": came_of,
                    "at": now(),
                }
                for id, part in zip(ids, parts, strict=True)
            ],
        )
    return ids


def merge(conn: sqlite3.Connection, id: str, part: dict[str, Any], gone: str) -> None:
    """Puts a merged card in the place of one part and takes the other out. Raises NotFound."""
    with atomic(conn):
        for one in (id, gone):
            get(conn, one)
        said = {"kind": part["kind"], "name": part["name"], "at": now(), "id": id}
        conn.execute(REPLACE, {**said, "part": json.dumps(part, ensure_ascii=False)})
        conn.execute("DELETE FROM library WHERE id = :id", {"id": gone})


def delete(conn: sqlite3.Connection, id: str) -> None:
    """Takes a part out for good; builds that it went into keep theirs. Raises NotFound."""
    with atomic(conn):
        if conn.execute("DELETE FROM library WHERE id = :id", {"id": id}).rowcount == 0:
            raise NotFound(f"There is no part {id} in the library.")
