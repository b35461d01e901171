"""Copies of the data file: made while it is in use, kept in rotation, looked through before they
are put in place.
"""

import logging
import os
import re
import sqlite3
import threading
import time
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from pindo.store.database import (
    BUSY_SECONDS,
    connect,
    connect_to_read,
    is_pindos,
    make_private,
)
from pindo.store.soundness import (
    CheckDocument,
    _of_this_version,
    _soundness,
    _strange,
    _unsound,
    documents_problems,
)
from pindo.store.trouble import StoreError, Trouble, held, missing

log = logging.getLogger(__name__)
NEWEST_KEPT = 8
DAYS_KEPT = 14
_NAME = re.compile(r"^copy-(\d{6,})-(\d{8})T(\d{6})\.sqlite$")


@dataclass(frozen=True, kw_only=True)
class Copy:
    """One copy of the data, beside it."""

    name: str
    made_at: str
    size: int


def folder_of(path: Path) -> Path:
    """Where the copies of a data file lie."""
    return path.parent / "copies"


def copies(path: Path) -> list[Copy]:
    """Copies of a data file, the newest first: by number, since clocks go back."""
    found = []
    with suppress(OSError):
        for file in folder_of(path).iterdir():
            if match := _NAME.match(file.name):
                day, clock = match[2], match[3]
                found.append(
                    (
                        int(match[1]),
                        Copy(
                            name=file.name,
                            made_at=f"{day[:4]}-{day[4:6]}-{day[6:]}T{clock[:2]}:{clock[2:4]}:{clock[4:]}+00:00",
                            size=file.stat().st_size,
                        ),
                    )
                )
    return [copy for _, copy in sorted(found, key=lambda x: -x[0])]


def copy_named(path: Path, name: str) -> Path:
    """The file of a copy. Raises StoreError for a name that is none of them."""
    if name not in [c.name for c in copies(path)]:
        raise StoreError(f"There is no copy {name[:80]}. Nothing was changed.")
    return folder_of(path) / name


def _is_ours(file: Path) -> bool:
    try:
        with closing(connect_to_read(file)):
            return True
    except StoreError:
        return False


def backup(path: Path, to: Path) -> None:
    """Copy the data file while it is in use; the copy appears whole or not at all, for its owner
    alone.

    Raises
    ------
    StoreError
        There is no data file, ``to`` is the data file itself or another program's, or it cannot be
        written.
    """
    if not path.exists():
        raise missing(path)
    own = {path.resolve()} | {
        path.resolve().with_name(path.name + end) for end in ("-wal", "-shm", "-journal")
    }
    if to.resolve() in own or (to.exists() and to.samefile(path)):
        raise StoreError(
            f"{to} is the data file itself: a backup goes to a name of its own. Nothing was"
            " changed."
        )
    if to.exists() and not _is_ours(to):
        raise StoreError(
            f"{to} is there already and is no copy of Pindo's data. Nothing was changed: choose"
            " another name."
        )
    part = to.with_name(to.name + ".part")
    try:
        if not to.parent.is_dir():
            raise FileNotFoundError(f"there is no folder {to.parent}")
        part.unlink(missing_ok=True)
        make_private(part)
        with closing(connect_to_read(path)) as source, closing(sqlite3.connect(part)) as target:
            _copied(source, target, path)
            target.execute("PRAGMA journal_mode = DELETE")
        _settle(part)
        part.replace(to)
        _settle(to.parent)
    except (OSError, sqlite3.Error, Trouble) as error:
        with suppress(OSError):
            part.unlink(missing_ok=True)
        raise StoreError(
            f"The backup could not be written to {to}: {error} The data file is untouched."
        ) from error


def _copied(source: sqlite3.Connection, target: sqlite3.Connection, path: Path) -> None:
    """All pages from one to the other, as one transaction. Waiting for a file that is held has
    an end, which SQLite's own copying has not. Raises Trouble.
    """
    end = time.monotonic() + BUSY_SECONDS

    def look(status: int, _: int, __: int) -> None:
        if status in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED) and time.monotonic() > end:
            raise held(path)

    source.backup(target, progress=look, sleep=0.1)


def _settle(path: Path) -> None:
    """Have a file or folder on the disk, not only on its way there."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def make_copy(path: Path) -> Copy:
    """A copy beside the data, looked through, and the oldest ones taken away: the newest eight and
    one a day for a fortnight stay.

    Raises
    ------
    StoreError
        It could not be made, or reads back damaged; it is taken away then.
    """
    folder = folder_of(path)
    try:
        folder.mkdir(mode=0o700, exist_ok=True)
    except OSError as error:
        raise StoreError(
            f"The folder for copies cannot be made: {error}. The data file is untouched."
        ) from error
    there = copies(path)
    number = 1 + max((int(c.name.split("-")[1]) for c in there), default=0)
    file = folder / f"copy-{number:06d}-{datetime.now(UTC):%Y%m%dT%H%M%S}.sqlite"
    backup(path, file)
    if wrong := _soundness(file):
        file.unlink()
        raise StoreError(
            f"The copy reads back damaged ({wrong}) and was taken away: look after the disk."
            " ./pindo check tells how the data is."
        )
    _rotate(path)
    return next(c for c in copies(path) if c.name == file.name)


def _rotate(path: Path) -> None:
    there = copies(path)
    days: dict[str, str] = {}
    for copy in there:
        days.setdefault(copy.made_at[:10], copy.name)
    kept = {c.name for c in there[:NEWEST_KEPT]} | set(list(days.values())[:DAYS_KEPT])
    for copy in there:
        if copy.name not in kept:
            (folder_of(path) / copy.name).unlink(missing_ok=True)


def restore(copy: Path, path: Path, check: CheckDocument) -> str:
    """Put a copy in place of the data; what was there is kept under a name of its own, which is
    returned (empty when there was nothing).

    Everything is looked at on a third file first: whether it is Pindo's, whole, of a version that
    can be brought up, without tables or triggers of others, and every document and history in it.
    Builds get a new epoch, so that no change made against the former data fits.

    Raises
    ------
    StoreError
        ``copy`` cannot be put in place, with the reason. Nothing was changed then.
    """
    if not copy.is_file():
        raise StoreError(f"There is no file {copy}. Nothing was changed.")
    trial = path.with_name(path.name + ".restoring")
    make_private(trial)
    try:
        try:
            _brought_up(copy, trial, check)
        except sqlite3.Error as error:
            raise StoreError(
                f"{copy} cannot be restored ({error}). Nothing was changed."
            ) from error
        return _put_in_place(trial, path)
    finally:
        for end in ("", "-wal", "-shm", "-journal"):
            with suppress(OSError):
                trial.with_name(trial.name + end).unlink(missing_ok=True)


def _brought_up(copy: Path, trial: Path, check: CheckDocument) -> None:
    """The copy on a third file, of this version, looked through."""

    def refuse(why: str) -> StoreError:
        return StoreError(f"{copy} cannot be restored: {why}. Nothing was changed.")

    # A copy is read as it lies; one that was taken with its log of changes is read with it.
    mode = "mode=ro" if copy.with_name(copy.name + "-wal").exists() else "mode=ro&immutable=1"
    with closing(sqlite3.connect(f"{copy.absolute().as_uri()}?{mode}", uri=True)) as source:
        if not is_pindos(source):
            raise refuse("it is not Pindo's data")
        if wrong := _unsound(source):
            raise refuse(f"it is damaged ({wrong})")
        try:
            now = _of_this_version(source, trial)
        except StoreError as error:
            raise refuse(str(error)) from error
    with closing(now):
        try:
            found = _strange(now) or documents_problems(now, check)
        except (ValueError, RecursionError) as error:
            raise refuse(str(error)) from error
        if found:
            raise refuse(
                "; ".join(found[:3]) + (f" and {len(found) - 3} more" if len(found) > 3 else "")
            )
        now.execute("UPDATE build SET epoch = lower(hex(randomblob(6)))")
        now.execute("PRAGMA journal_mode = DELETE")


def _former_name(path: Path) -> Path:
    base = f"before-restore-{datetime.now(UTC):%Y%m%dT%H%M%S}"
    return next(
        f
        for n in range(1000)
        if not (f := path.with_name(f"{base}{f'-{n}' if n else ''}.sqlite")).exists()
    )


def _put_in_place(trial: Path, path: Path) -> str:
    if not path.exists():
        trial.replace(path)
        return ""
    former = _former_name(path)
    if not _soundness(path):
        try:
            backup(path, former)
            # Into the living file, as one transaction: whoever reads or writes it now sees the old
            # data or the new.
            with closing(sqlite3.connect(trial)) as source, closing(connect(path)) as target:
                _copied(source, target, path)
        except (StoreError, sqlite3.Error) as error:
            former.unlink(missing_ok=True)
            raise StoreError(
                f"The copy could not be put in place: {error} The data is as it was."
            ) from error
        return former.name
    # It cannot be read as a whole: it is moved aside as it is, with what belongs to it.
    try:
        for end in ("-wal", "-shm", "-journal"):
            beside = path.with_name(path.name + end)
            if beside.exists():
                beside.rename(former.with_name(former.name + end))
        path.rename(former)
        trial.replace(path)
    except OSError as error:
        raise StoreError(f"The copy could not be put in place of {path}: {error}.") from error
    return former.name


def _count(file: Path) -> int:
    """Changes that a data file has seen."""
    with closing(connect_to_read(file)) as conn:
        return int(conn.execute("SELECT coalesce(max(changed), 0) FROM build").fetchone()[0])


class Keeper:
    """Makes copies by itself: at the start, and after so many changes or hours with a change. It
    looks from time to time, in a thread of its own.
    """

    def __init__(
        self, path: Path, changes: int = 200, hours: float = 4.0, look_seconds: float = 20.0
    ) -> None:
        self.path = path
        self.trouble = ""
        self._changes, self._seconds, self._look = changes, hours * 3600.0, look_seconds
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, name="keeper", daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stop.set()
        self._thread.join(1.0)

    def _newest(self) -> int:
        """Changes in the newest copy; -1 where there is none that can be read."""
        there = copies(self.path)
        try:
            return _count(folder_of(self.path) / there[0].name) if there else -1
        except (StoreError, sqlite3.Error):
            return -1

    def _run(self) -> None:
        copied, waited, first = self._newest(), 0.0, True
        while True:
            try:
                count = _count(self.path)
                due = (
                    copied < 0
                    or abs(count - copied) >= self._changes
                    or (count != copied and (first or waited >= self._seconds))
                )
                if due:
                    make_copy(self.path)
                    copied, waited = count, 0.0
                self.trouble, first = "", False
            except (StoreError, sqlite3.Error, OSError) as error:
                if str(error) != self.trouble:
                    log.warning("no copy was made: %s", error)
                self.trouble = str(error)
            if self._stop.wait(self._look):
                return
            waited += self._look
