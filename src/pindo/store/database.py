"""Connections, transactions, migrations. Every connection is opened here."""

import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from importlib.resources import files
from pathlib import Path

from pindo.store.trouble import StoreError, damaged, missing, read_only, trouble_of

BUSY_SECONDS = 3.0
APPLICATION = 0x50494E44
"""Mark in the head of the file (``PRAGMA application_id``), the letters PIND."""


def _uri(path: Path, mode: str) -> str:
    # as_uri() escapes what a URI would read as its own: ?, # and %.
    return f"{path.absolute().as_uri()}?{mode}"


def connect(path: Path) -> sqlite3.Connection:
    """Open the database with the pragmas that everything relies on. A file that is not there is
    never made.

    FULL: what was acknowledged survives a killed process and a cut of power.

    Raises
    ------
    Trouble
        It is not there, not Pindo's, or cannot be opened.
    """
    return _opened(path, "mode=rw")


def _opened(path: Path, mode: str) -> sqlite3.Connection:
    if not path.is_file():
        raise missing(path)
    try:
        conn = sqlite3.connect(
            _uri(path, mode),
            uri=True,
            timeout=BUSY_SECONDS,
            isolation_level=None,
            check_same_thread=False,
        )
    except sqlite3.Error as error:
        raise trouble_of(error, path) from error
    try:
        conn.row_factory = sqlite3.Row
        conn.execute("PRAGMA synchronous = FULL")
        conn.execute("PRAGMA foreign_keys = ON")
        if mode == "mode=rw":
            conn.execute("PRAGMA journal_mode = WAL")
        if not is_pindos(conn):
            raise damaged(path, "it is not Pindo's")
    except sqlite3.Error as error:
        conn.close()
        raise trouble_of(error, path) from error
    except StoreError:
        conn.close()
        raise
    return conn


def is_pindos(conn: sqlite3.Connection) -> bool:
    """Whether a file is Pindo's: by its mark, or by its migrations where it is older than the
    mark.
    """
    mark = conn.execute("PRAGMA application_id").fetchone()[0]
    named = conn.execute("SELECT count(*) FROM sqlite_master WHERE name = 'migration'").fetchone()[
        0
    ]
    return bool(mark == APPLICATION or (mark == 0 and named == 1))


def connect_to_read(path: Path) -> sqlite3.Connection:
    """Open the database to read it, from a disk that takes no writing too."""
    try:
        return _opened(path, "mode=ro")
    except StoreError:
        wal = path.with_name(path.name + "-wal")
        if os.access(path.parent, os.W_OK) or (wal.exists() and wal.stat().st_size):
            raise
        return _opened(path, "mode=ro&immutable=1")  # nobody can be writing it


def make_private(path: Path) -> None:
    """The file, made empty where it is not there, for its owner alone; its folder too where it
    is made.
    """
    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
        path.chmod(0o600)
    except IsADirectoryError as error:
        raise missing(path) from error
    except OSError as error:
        raise read_only(path) from error


def prepare(path: Path) -> None:
    """Make the data file where there is none, bring an older one up, and look through it once.

    Raises
    ------
    Trouble
        It is damaged, or it is gone while copies of it lie beside it: an empty one is never put in
        its place.
    StoreError
        A newer Pindo wrote it.
    """
    if not path.exists() and any(path.parent.glob("copies/*.sqlite")):
        raise missing(path)
    if not os.access(path, os.W_OK) and path.is_file():
        with closing(connect_to_read(path)):
            return  # it can be looked at, as it is
    make_private(path)
    try:
        with closing(
            sqlite3.connect(
                _uri(path, "mode=rw"), uri=True, timeout=BUSY_SECONDS, isolation_level=None
            )
        ) as conn:
            conn.row_factory = sqlite3.Row
            if path.stat().st_size and not is_pindos(conn):
                raise damaged(path, "it is not Pindo's")
            conn.execute("PRAGMA journal_mode = WAL")
            conn.execute("PRAGMA synchronous = FULL")
            found = [row[0] for row in conn.execute("PRAGMA quick_check(1)")]
            if found != ["ok"]:
                raise damaged(path, found[0])
            migrate(conn)
    except sqlite3.Error as error:
        raise trouble_of(error, path) from error


@contextmanager
def atomic(conn: sqlite3.Connection) -> Iterator[None]:
    """All or nothing. The write lock is taken at once, so that a read inside stays true until
    the commit.
    """
    conn.execute("BEGIN IMMEDIATE")
    try:
        yield
        conn.execute("COMMIT")
    except BaseException:
        # A failed statement may already have ended the transaction; a second error must not hide
        # the first.
        if conn.in_transaction:
            conn.execute("ROLLBACK")
        raise


def migrations() -> list[tuple[str, str]]:
    """Name and text of each numbered .sql file, in order."""
    folder = files("pindo.store").joinpath("migrations")
    return sorted(
        (f.name, f.read_text("utf-8")) for f in folder.iterdir() if f.name.endswith(".sql")
    )


def migrate(conn: sqlite3.Connection, steps: list[tuple[str, str]] | None = None) -> list[str]:
    """Run what has not run yet; each step and its record stand or fall together. Returns the names
    run.

    Raises
    ------
    StoreError
        The file was written by a newer Pindo, or a step leaves broken references.
    """
    steps = migrations() if steps is None else steps
    conn.execute(
        "CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, at TEXT NOT NULL DEFAULT"
        " CURRENT_TIMESTAMP) STRICT"
    )
    done = [row["name"] for row in conn.execute("SELECT name FROM migration ORDER BY name")]
    if done != [name for name, _ in steps[: len(done)]]:
        raise StoreError(
            "This data file was written by another version of Pindo. It was left as it is: open it"
            " with the Pindo that wrote it, or a newer one."
        )
    conn.execute(
        "PRAGMA foreign_keys = OFF"
    )  # a rebuilt parent table would take its children along; no effect inside a transaction
    try:
        for name, sql in steps[len(done) :]:
            with atomic(conn):
                if conn.execute(
                    "SELECT count(*) FROM migration WHERE name = :name", {"name": name}
                ).fetchone()[0]:
                    continue  # another process was quicker
                for statement in _statements(sql):
                    conn.execute(statement)
                if conn.execute("PRAGMA foreign_key_check").fetchone():
                    raise StoreError(
                        f"Migration {name} leaves broken references. Nothing was changed."
                    )
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
