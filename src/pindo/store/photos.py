"""Pictures of a build: bytes beside the document, named by their content."""

import hashlib
import sqlite3

from pindo.store.builds import NotFound, now
from pindo.store.database import StoreError, atomic

# The first bytes tell what a file is; the name and the header that came with it do not.
_MARKS = ((b"\xff\xd8\xff", "image/jpeg"), (b"\x89PNG\r\n\x1a\n", "image/png"))

INSERT = """
    INSERT INTO photo (id, build_id, media_type, content, at) VALUES (:id, :build_id, :media_type, :content, :at)
    ON CONFLICT (id) DO NOTHING
"""
SELECT = "SELECT media_type, content FROM photo WHERE id = :id AND build_id = :build_id"


class NotAPicture(StoreError):
    """The bytes are no JPEG, PNG or WebP picture."""


def media_type_of(content: bytes) -> str:
    """Type of a picture by its first bytes. Raises NotAPicture."""
    for mark, media_type in _MARKS:
        if content.startswith(mark):
            return media_type
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        return "image/webp"
    raise NotAPicture("This is no JPEG, PNG or WebP picture. Nothing was stored.")


def keep(conn: sqlite3.Connection, build_id: str, content: bytes) -> str:
    """Store a picture and return its id; the same picture twice is stored once."""
    media_type = media_type_of(content)
    id = hashlib.sha256(build_id.encode() + b"\0" + content).hexdigest()[:24]
    with atomic(conn):
        conn.execute(INSERT, {"id": id, "build_id": build_id, "media_type": media_type, "content": content, "at": now()})
    return id


def get(conn: sqlite3.Connection, build_id: str, id: str) -> tuple[str, bytes]:
    """Type and bytes of a picture. Raises NotFound."""
    row = conn.execute(SELECT, {"id": id, "build_id": build_id}).fetchone()
    if row is None:
        raise NotFound(f"There is no picture {id}.")
    return row["media_type"], row["content"]
