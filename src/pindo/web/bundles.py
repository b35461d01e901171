"""A build with everything that belongs to it, out of the store and in again."""

import sqlite3
from collections.abc import Iterator
from typing import IO

from pydantic import TypeAdapter, ValidationError

from pindo.formats.bundle import BadBundle, read_bundle, write_bundle
from pindo.formats.pictures import cleaned
from pindo.formats.sounds import sound, sound_type
from pindo.store import builds as store
from pindo.store import photos, soundness
from pindo.store.stored import Author, Document, JournalLine, Stored
from pindo.web import answers, service

_HISTORY = TypeAdapter(list[JournalLine])
MOST_CHANGES = 50_000


def _photos(conn: sqlite3.Connection, id: str) -> Iterator[tuple[str, str, bytes]]:
    for line in photos.listed(conn, id):
        yield (line.id, *photos.get(conn, id, line.id))


def write(conn: sqlite3.Connection, id: str, stream: IO[bytes]) -> str:
    """Write a build as it is at one moment; returns its name. Raises NotFound."""
    conn.execute("BEGIN")
    try:
        stored, history = store.get(conn, id), store.whole_journal(conn, id)
        write_bundle(
            stream, stored.document, _HISTORY.dump_python(history, mode="json"), _photos(conn, id)
        )
    finally:
        conn.execute("COMMIT")
    return str(stored.document.get("name", ""))


def _history(document: Document, rows: list[dict[str, object]]) -> list[JournalLine]:
    """The history of a bundle. Raises BadBundle where it does not belong to the document."""
    if not 1 <= len(rows) <= MOST_CHANGES:
        raise BadBundle(f"Its history has no change, or more than {MOST_CHANGES}.")
    try:
        changes = _HISTORY.validate_python(rows)
    except ValidationError as error:
        raise BadBundle("Its history cannot be read.") from error
    for c in changes:
        if (
            c.kind not in ("create", "change", "undo", "redo")
            or max(map(len, (c.who, c.hand, c.why, c.at, c.screen))) > 400
        ):
            raise BadBundle("Its history cannot be read.")
    if wrong := soundness.history_problem(
        document, changes[-1].version, [(c.version, c.inverse) for c in reversed(changes)]
    ):
        raise BadBundle(f"As it is, {wrong}.")
    return changes


def take_in(conn: sqlite3.Connection, stream: IO[bytes], by: Author, today: str) -> Stored:
    """A build from its bundle, as a new build with its history and pictures; whole or not at all.

    Raises
    ------
    BadBundle, NotAPicture, NotASound, Refused, TooManyPictures
        Something in it cannot be taken.
    """
    bundle = read_bundle(stream)
    build = answers.read_build(dict(bundle.document))
    changes = _history(bundle.document, bundle.history)
    pictures = [
        (id, *(sound(content) if sound_type(content) else cleaned(content)))
        for id, content in bundle.photos.items()
    ]
    service.accepted("", build, today)
    stored = store.create(conn, bundle.document, by, "imported", past=changes)
    try:
        for id, media_type, content in pictures:
            photos.keep(conn, stored.id, media_type, content, id)
    except Exception:
        store.delete(conn, stored.id, stored.at)
        raise
    return stored
