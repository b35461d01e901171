"""Whether a file of builds is sound: its own checks, its tables, its histories and its
documents.
"""

import json
import sqlite3
from collections.abc import Callable
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from pindo.core.document.patch import PatchError, applied
from pindo.store.database import (
    connect_to_read,
    is_pindos,
    migrate,
)
from pindo.store.stored import (
    Document,
    Patch,
)
from pindo.store.trouble import StoreError

CheckDocument = Callable[[dict[str, Any]], str]
"""What is wrong with a document, in words; empty for nothing."""


def _soundness(file: Path) -> str:
    try:
        with closing(connect_to_read(file)) as conn:
            return _unsound(conn)
    except StoreError as error:
        return str(error)
    except sqlite3.Error as error:
        return str(error)


def _unsound(conn: sqlite3.Connection) -> str:
    found = [row[0] for row in conn.execute("PRAGMA integrity_check(1)")]
    if found != ["ok"]:
        return str(found[0])
    return (
        "references that lead nowhere"
        if conn.execute("PRAGMA foreign_key_check").fetchone()
        else ""
    )


def _schema(conn: sqlite3.Connection) -> set[tuple[str, str, str]]:
    return {
        (row[0], row[1], " ".join((row[2] or "").split()))
        for row in conn.execute(
            "SELECT type, name, sql FROM sqlite_master WHERE name NOT LIKE 'sqlite_stat%'"
        )
    }


def _own_schema() -> set[tuple[str, str, str]]:
    with closing(sqlite3.connect(":memory:", isolation_level=None)) as conn:
        conn.row_factory = sqlite3.Row
        migrate(conn)
        return _schema(conn)


def _journal_problem(conn: sqlite3.Connection, id: str, version: int, document: Any) -> str:
    rows = conn.execute(
        "SELECT version, inverse FROM journal WHERE build_id = ? ORDER BY version DESC", (id,)
    ).fetchall()
    return history_problem(
        document, version, [(r["version"], json.loads(r["inverse"])) for r in rows]
    )


def documents_problems(conn: sqlite3.Connection, check: CheckDocument) -> list[str]:
    """Builds whose document or history cannot be used, each in words."""
    found = []
    for row in conn.execute("SELECT id, version, document FROM build ORDER BY changed"):
        document = json.loads(row["document"])
        wrong = check(document) or _journal_problem(conn, row["id"], row["version"], document)
        if wrong:
            found.append(f"build {row['id']}: {wrong}")
    return found


@dataclass(frozen=True, kw_only=True)
class Report:
    """How a data file is."""

    builds: int
    size: int
    problems: tuple[str, ...]


def look_through(file: Path, check: CheckDocument) -> Report:
    """Look through a data file or a copy, all of it: pages, references, tables, documents,
    histories. Nothing is changed.
    """
    try:
        with closing(connect_to_read(file)) as conn:
            wrong = _unsound(conn)
            if wrong:
                return Report(builds=0, size=file.stat().st_size, problems=(wrong,))
            builds = conn.execute("SELECT count(*) FROM build").fetchone()[0]
            with closing(_of_this_version(conn)) as now:
                return Report(
                    builds=builds,
                    size=file.stat().st_size,
                    problems=tuple(_strange(now) or documents_problems(now, check)),
                )
    except StoreError as error:
        return Report(builds=0, size=0, problems=(str(error),))
    except (sqlite3.Error, ValueError) as error:
        return Report(builds=0, size=file.stat().st_size, problems=(str(error),))


def _of_this_version(conn: sqlite3.Connection, onto: Path | None = None) -> sqlite3.Connection:
    """The data brought up to this version, on a file of its own: SQLite's nameless one, gone when
    it is closed, or ``onto``.

    Raises StoreError for a newer one, or with triggers or views, which must not run.
    """
    if conn.execute(
        "SELECT count(*) FROM sqlite_master WHERE type IN ('trigger', 'view')"
    ).fetchone()[0]:
        raise StoreError("it holds triggers or views, which Pindo's data never has")
    now = sqlite3.connect(onto or "", isolation_level=None)
    now.row_factory = sqlite3.Row
    conn.backup(now)
    try:
        migrate(now)
    except StoreError as error:
        now.close()
        raise StoreError("it was written by a newer Pindo, or is not Pindo's") from error
    return now


def _strange(conn: sqlite3.Connection) -> list[str]:
    return (
        []
        if is_pindos(conn) and _schema(conn) == _own_schema()
        else ["it holds tables that are not Pindo's"]
    )


def builds_in(file: Path) -> int:
    """How many builds a data file holds; none where it cannot be read."""
    try:
        with closing(connect_to_read(file)) as conn:
            return int(conn.execute("SELECT count(*) FROM build").fetchone()[0])
    except (StoreError, sqlite3.Error):
        return 0


def history_problem(document: Document, version: int, changes: list[tuple[int, Patch]]) -> str:
    """What is wrong with a history (version and inverse of each change, the newest first); empty
    for nothing.

    Every version is there once, and from the document the changes lead back to the beginning, one
    after the other.
    """
    if [v for v, _ in changes] != list(range(version, 0, -1)):
        return "its history has gaps"
    # Pindo's own patches never copy; copies of copies would double the document each time.
    if any(
        not isinstance(op, dict) or op.get("op") == "copy"
        for _, inverse in changes
        for op in inverse
    ):
        return "its history holds operations that are not Pindo's"
    try:
        for _, inverse in changes:
            document = applied(document, inverse)
    except (PatchError, KeyError, TypeError, AttributeError, RecursionError):
        return "its history does not lead back to the beginning"
    return ""
