"""Devices of the shop: let in once by its key, known by a token of their own, sent away by name."""

import hashlib
import secrets
import sqlite3
from dataclasses import dataclass

from pindo.store.builds import now
from pindo.store.database import atomic
from pindo.store.stored import NotFound
from pindo.store.trouble import StoreError

MOST_DEVICES = 60

INSERT = """
    INSERT INTO device (id, token, name, agent, first_at, gone_at)
    VALUES (:id, :token, :name, :agent, :first_at, NULL)
"""
SELECT_ALL = "SELECT id, token, name, agent, first_at FROM device WHERE gone_at IS NULL"
GONE = "UPDATE device SET gone_at = :at WHERE id = :id AND gone_at IS NULL"
RENAME = "UPDATE device SET name = :name WHERE id = :id AND gone_at IS NULL"


class TooManyDevices(StoreError):
    """The shop has all the devices that it may have."""


@dataclass(frozen=True, kw_only=True)
class Device:
    """A device that is let in."""

    id: str
    token: str
    """Hash of its token."""
    name: str
    agent: str
    first_at: str


def hashed(token: str) -> str:
    """What is kept of a token."""
    return hashlib.sha256(token.encode()).hexdigest()


def all_devices(conn: sqlite3.Connection) -> list[Device]:
    """Every device that is let in, in the order in which they came."""
    return [Device(**dict(row)) for row in conn.execute(f"{SELECT_ALL} ORDER BY first_at, id")]


def let_in(conn: sqlite3.Connection, agent: str) -> tuple[Device, str]:
    """A new device and the token that it shows from now on. Raises TooManyDevices."""
    token = secrets.token_urlsafe(24)
    with atomic(conn):
        count = len(all_devices(conn))
        if count >= MOST_DEVICES:
            raise TooManyDevices(
                f"{count} devices are let in already; send one away on the first page."
            )
        device = Device(
            id=secrets.token_hex(6),
            token=hashed(token),
            name=f"device {count + 1}",
            agent=agent[:200],
            first_at=now(),
        )
        conn.execute(INSERT, device.__dict__)
    return device, token


def rename(conn: sqlite3.Connection, id: str, name: str) -> None:
    """Calls a device by another name. Raises NotFound."""
    with atomic(conn):
        if conn.execute(RENAME, {"id": id, "name": name}).rowcount == 0:
            raise NotFound(f"There is no device {id}.")


def send_away(conn: sqlite3.Connection, id: str) -> None:
    """A device is let in no longer; what it changed stays. Raises NotFound."""
    with atomic(conn):
        if conn.execute(GONE, {"id": id, "at": now()}).rowcount == 0:
            raise NotFound(f"There is no device {id}.")
