"""What routes take from a request: a connection, the version that is expected, who asks, a body
on its way to a file.
"""

import re
import sqlite3
import tempfile
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import IO, Annotated, Any

from fastapi import Depends, Header, Query, Request
from fastapi.concurrency import run_in_threadpool

from pindo.store.database import connect, connect_to_read
from pindo.store.devices import Device
from pindo.store.stored import Author, Version
from pindo.store.trouble import Trouble
from pindo.web.problems import ProblemDetails, Refused

Short = Annotated[str, Query(max_length=300)]
PROBLEM = {"model": ProblemDetails, "content": {"application/problem+json": {}}}
PROBLEMS: dict[int | str, dict[str, Any]] = dict.fromkeys(
    (400, 403, 404, 408, 409, 412, 413, 415, 422, 428, 503, 507), PROBLEM
)
_TAG = re.compile(r"([0-9a-f]{1,32})-([0-9]{1,12})")
IN_MEMORY = 4 * 1024 * 1024


def connection(request: Request) -> Iterator[sqlite3.Connection]:
    """A connection for one request; one to read with, where the disk takes no writing."""
    with closing(_connected(request.app.state.database)) as conn:
        yield conn


def _connected(path: Path) -> sqlite3.Connection:
    try:
        return connect(path)
    except Trouble as trouble:
        if trouble.kind != "read-only":
            raise
        return connect_to_read(path)


Conn = Annotated[sqlite3.Connection, Depends(connection)]


def expected_version(
    if_match: Annotated[
        str | None, Header(description="ETag of the version that the change was made against.")
    ] = None,
) -> Version:
    """The version named by If-Match (RFC 9110); without it 428 (RFC 6585)."""
    if if_match is None:
        raise Refused(
            428,
            "if-match",
            "The version is missing",
            "Send If-Match with the ETag of the version you changed. Nothing was stored.",
        )
    match = (
        _TAG.fullmatch(if_match.strip().removeprefix('"').removesuffix('"'))
        if re.fullmatch(r'\s*".*"\s*', if_match)
        else None
    )
    if match is None:
        raise Refused(
            412,
            "if-match",
            "The version cannot be read",
            "If-Match is the ETag as it was given, in quotation marks. Nothing was stored.",
        )
    return Version(epoch=match[1], number=int(match[2]))


Expected = Annotated[Version, Depends(expected_version)]


def seen_version(
    seen: Annotated[
        str, Query(max_length=60, description="Tag of the version that was on the screen.")
    ] = "",
) -> Version | None:
    """The version that a change was made on; nothing is held against a change that does not say
    it.
    """
    if not seen:
        return None
    match = _TAG.fullmatch(seen)
    if match is None:
        raise Refused(
            422,
            "seen",
            "The version cannot be read",
            "“seen” is the tag of a version as it was given. Nothing was stored.",
        )
    return Version(epoch=match[1], number=int(match[2]))


Seen = Annotated[Version | None, Depends(seen_version)]


Name = Annotated[str, Query(max_length=64)]


def author(request: Request, who: Short = "", hand: Name = "", screen: Name = "") -> Author:
    """Who asks: a person's name, the browser or script (undo takes back its own), and which of
    its screens; in the shop mode the device too, which nobody can leave out.
    """
    device: Device | None = getattr(request.state, "device", None)
    named = who if device is None else f"{who}, {device.name}" if who else device.name
    return Author(who=named[:300], hand=hand, screen=screen)


By = Annotated[Author, Depends(author)]


async def body_file(request: Request) -> IO[bytes]:
    """The body in a file that is gone when it is closed; small ones stay in memory."""
    file: IO[bytes] = tempfile.SpooledTemporaryFile(max_size=IN_MEMORY)  # noqa: SIM115  it is closed by whoever reads it
    try:
        async for chunk in request.stream():
            await run_in_threadpool(file.write, chunk)
    except BaseException:
        file.close()
        raise
    file.seek(0)
    return file
