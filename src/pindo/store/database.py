"""Connections, transactions, migrations, backup. Every connection is opened here."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

BUSY_SECONDS = 10.0


class StoreError(Exception):
    """The store cannot do what was asked; the message is for the person at the screen."""


def connect(path: Path) -> sqlite3.Connection:
    """Open the database with the pragmas that everything relies on.

    FULL: what was acknowledged survives a killed process and a cut of power.
    """
    conn = sqlite3.connect(path, timeout=BUSY_SECONDS, isolation_level=None, check_same_thread=False)
    conn.row_factory = sqlite3.Row
    conn.execute("PRAGMA journal_mode = WAL")
    conn.execute("PRAGMA synchronous = FULL")
    conn.execute("PRAGMA foreign_keys = ON")
    return conn


@contextmanager
def atomic(conn: sqlite3.Connection) -> Iterator[None]:
    """All or nothing. The write lock is taken at once, so that a read inside stays true until the commit."""
    conn.execute("BEGIN IMMEDIATE")
    try:
        yield
        conn.execute("COMMIT")
    except BaseException:
        # A failed statement may already have ended the transaction; a second error must not hide the first.
        if conn.in_transaction:
            conn.execute("ROLLBACK")
        raise


def migrations() -> list[tuple[str, str]]:
    """Name and text of each numbered .sql file, in order."""
    folder = files("pindo.store").joinpath("migrations")
    return sorted((f.name, f.read_text("utf-8")) for f in folder.iterdir() if f.name.endswith(".sql"))


def migrate(conn: sqlite3.Connection, steps: list[tuple[str, str]] | None = None) -> list[str]:
    """Run what has not run yet; each step and its record stand or fall together. Returns the names run.

    Raises
    ------
    StoreError
        The file was written by a newer Pindo, or a step leaves broken references.
    """
    steps = migrations() if steps is None else steps
    conn.execute("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, at TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP) STRICT")
    done = [row["name"] for row in conn.execute("SELECT name FROM migration ORDER BY name")]
    if done != [name for name, _ in steps[: len(done)]]:
        raise StoreError("This data file was written by another version of Pindo. It was left as it is.")
    conn.execute("PRAGMA foreign_keys = OFF")  # a rebuilt parent table would take its children along; no effect inside a transaction
    try:
        for name, sql in steps[len(done) :]:
            with atomic(conn):
                for statement in _statements(sql):
                    conn.execute(statement)
                if conn.execute("PRAGMA foreign_key_check").fetchone():
                    raise StoreError(f"Migration {name} leaves broken references. Nothing was changed.")
                conn.execute("INSERT INTO migration (name) VALUES (:name)", {"name": name})
    finally:
        conn.execute("PRAGMA foreign_keys = ON")
    return [name for name, _ in steps[len(done) :]]


def _statements(sql: str) -> Iterator[str]:
    # executescript() would commit the transaction that the step has to stand or fall with.
    statement = ""
    for line in sql.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def backup(path: Path, to: Path) -> None:
    """Copy the database while it is in use; the copy appears whole or not at all.

    Raises
    ------
    StoreError
        There is no database at ``path``, or ``to`` cannot be written.
    """
    if not path.exists():
        raise StoreError(f"There is no data file {path}.")
    part = to.with_name(to.name + ".part")
    try:
        with closing(connect(path)) as source, closing(sqlite3.connect(part)) as target:
            source.backup(target)
            target.execute("PRAGMA journal_mode = DELETE")
        part.replace(to)
    except (OSError, sqlite3.Error) as error:
        part.unlink(missing_ok=True)
        raise StoreError(f"The backup could not be written to {to}: {error}. The data file is untouched.") from error


def restore(copy: Path, path: Path) -> None:
    """Put a backup in place of the database; the old file is kept beside it with ``.before-restore``.

    Raises
    ------
    StoreError
        ``copy`` is not a sound Pindo database. Nothing was changed then.
    """
    try:
        with closing(sqlite3.connect(f"file:{copy}?mode=ro", uri=True)) as conn:
            sound = conn.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
            known = conn.execute("SELECT count(*) FROM migration").fetchone()[0] > 0
    except sqlite3.Error as error:
        raise StoreError(f"{copy} is not a Pindo backup ({error}). Nothing was changed.") from error
    if not sound or not known:
        raise StoreError(f"{copy} is damaged. Nothing was changed.")
    path.parent.mkdir(parents=True, exist_ok=True)
    if path.exists():
        backup(path, path.with_name(path.name + ".before-restore"))
    with closing(sqlite3.connect(f"file:{copy}?mode=ro", uri=True)) as source, closing(connect(path)) as target:
        source.backup(target)
