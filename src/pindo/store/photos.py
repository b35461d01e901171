"""Pictures of a build: bytes beside the document, named by their content."""

import hashlib
import sqlite3
from dataclasses import dataclass

from pindo.store.builds import now
from pindo.store.database import atomic
from pindo.store.stored import NotFound
from pindo.store.trouble import StoreError

MOST_PICTURES = 500
MOST_BYTES = 256 * 1024 * 1024

INSERT = """
    INSERT INTO picture (id, build_id, media_type, content, at)
    VALUES (:id, :build_id, :media_type, :content, :at)
    ON CONFLICT (build_id, id) DO NOTHING
"""
SELECT = "SELECT media_type, content FROM picture WHERE id = :id AND build_id = :build_id"
SELECT_ALL = (
    "SELECT id, media_type, length(content) AS size, at FROM picture WHERE build_id = :build_id"
    " ORDER BY at, id"
)
SELECT_TOTAL = (
    "SELECT count(*) AS pictures, coalesce(sum(length(content)), 0) AS size FROM picture WHERE"
    " build_id = :build_id"
)


class TooManyPictures(StoreError):
    """The build has all the pictures that it may have."""


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A picture without its bytes."""

    id: str
    media_type: str
    size: int
    at: str


def name_of(content: bytes) -> str:
    """The name of a picture: the same bytes have the same."""
    return hashlib.sha256(content).hexdigest()[:24]


def keep(
    conn: sqlite3.Connection, build_id: str, media_type: str, content: bytes, id: str = ""
) -> str:
    """Store a picture and return its id; the same picture twice is stored once.

    Raises
    ------
    NotFound, TooManyPictures
        No such build; or more than 500 pictures or 256 MB.
    """
    id = id or name_of(content)
    with atomic(conn):
        if conn.execute(SELECT, {"id": id, "build_id": build_id}).fetchone():
            return id
        total = conn.execute(SELECT_TOTAL, {"build_id": build_id}).fetchone()
        if total["pictures"] >= MOST_PICTURES or total["size"] + len(content) > MOST_BYTES:
            raise TooManyPictures(
                f"This build has {total['pictures']} pictures of {total['size'] // 1024 // 1024}"
                f" MB; it may have {MOST_PICTURES} of {MOST_BYTES // 1024 // 1024} MB. Nothing was"
                " stored: delete some in the log first."
            )
        try:
            conn.execute(
                INSERT,
                {
                    "id": id,
                    "build_id": build_id,
                    "media_type": media_type,
                    "content": content,
                    "at": now(),
                },
            )
        except sqlite3.IntegrityError as error:
            raise NotFound(f"There is no build {build_id}. The picture was not stored.") from error
    return id


def get(conn: sqlite3.Connection, build_id: str, id: str) -> tuple[str, bytes]:
    """Type and bytes of a picture. Raises NotFound."""
    row = conn.execute(SELECT, {"id": id, "build_id": build_id}).fetchone()
    if row is None:
        raise NotFound(f"There is no picture {id}.")
    return row["media_type"], row["content"]


def listed(conn: sqlite3.Connection, build_id: str) -> list[Picture]:
    """All pictures of a build, in the order in which they came."""
    return [Picture(**dict(row)) for row in conn.execute(SELECT_ALL, {"build_id": build_id})]


def delete(conn: sqlite3.Connection, build_id: str, id: str) -> None:
    """Delete a picture for good. Raises NotFound."""
    if (
        conn.execute(
            "DELETE FROM picture WHERE id = :id AND build_id = :build_id",
            {"id": id, "build_id": build_id},
        ).rowcount
        == 0
    ):
        raise NotFound(f"There is no picture {id}.")
