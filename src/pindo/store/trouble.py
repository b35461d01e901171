"""What can go wrong with the data file, in plain words: what happened, what is safe, what to do."""

import sqlite3
from pathlib import Path

from pindo.core.errors import PindoError

NOT_STORED = "Nothing of this was stored; what was stored before is untouched."


class StoreError(PindoError):
    """The store cannot do what was asked; the message is for the person at the screen."""


class Trouble(StoreError):
    """The data file cannot be used as it should. ``kind`` is one of held, full, read-only,
    missing, damaged, failed.
    """

    def __init__(self, kind: str, title: str, words: str) -> None:
        super().__init__(words)
        self.kind = kind
        self.title = title


def held(path: Path) -> Trouble:
    return Trouble(
        "held",
        "The data is held",
        f"Another program holds the data file {path}. {NOT_STORED} Reading goes on. Close that"
        " program; what you typed is kept here and asked again.",
    )


def full(path: Path) -> Trouble:
    return Trouble(
        "full",
        "The disk is full",
        f"The disk that {path} lies on takes nothing more. {NOT_STORED} Make room; what you typed"
        " is kept here and asked again.",
    )


def read_only(path: Path) -> Trouble:
    return Trouble(
        "read-only",
        "The data cannot be written",
        f"{path} or its folder is read-only. {NOT_STORED} Reading goes on. Give it back its rights,"
        " or copy it with ./pindo backup and serve the copy.",
    )


def missing(path: Path) -> Trouble:
    if path.is_dir():
        return Trouble(
            "missing",
            "The data file is not there",
            f"{path} is a folder, where Pindo's data file should be. Nothing was made in its place."
            " Move the folder away and put the data file back.",
        )
    return Trouble(
        "missing",
        "The data file is not there",
        f"{path} is not there any more. Nothing was made in its place. Put it back, or restore a"
        " copy: ./pindo check names the newest good one.",
    )


def damaged(path: Path, why: str) -> Trouble:
    return Trouble(
        "damaged",
        "The data file is damaged",
        f"{path} cannot be read as Pindo's data ({why}). It was left as it is. Restore a copy:"
        " ./pindo check names the newest good one.",
    )


def trouble_of(error: sqlite3.Error, path: Path) -> Trouble:
    """A failure of the database as words for the person at the screen; codes as in SQLite's own
    list of results.
    """
    extended = getattr(error, "sqlite_errorcode", 0) or 0
    code = extended & 0xFF
    if code in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
        return held(path)
    if code == sqlite3.SQLITE_FULL or extended in (
        sqlite3.SQLITE_IOERR_WRITE,
        sqlite3.SQLITE_IOERR_FSYNC,
        sqlite3.SQLITE_IOERR_TRUNCATE,
    ):
        return full(path)
    if code in (sqlite3.SQLITE_READONLY, sqlite3.SQLITE_PERM):
        return read_only(path) if path.exists() else missing(path)
    if code == sqlite3.SQLITE_CANTOPEN:
        return read_only(path) if path.is_file() else missing(path)
    if code in (sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB) or str(error).startswith(
        "no such table"
    ):
        return damaged(path, str(error)) if path.is_file() else missing(path)
    return Trouble("failed", "The data file failed", f"{path}: {error}. {NOT_STORED}")
