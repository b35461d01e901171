"""The version that a build is at, asked or told: a change of one screen is seen at the other."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import closing
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from pindo.store import builds as store
from pindo.store.database import connect_to_read
from pindo.web import models
from pindo.web.asked import PROBLEMS, Conn
from pindo.web.problems import change_line

router = APIRouter(prefix="/api/builds")
LOOK_SECONDS = 0.4
"""How often the file is looked at for somebody who listens."""
BREATH_SECONDS = 15.0
"""A line without meaning, so that a connection that is gone is noticed."""


def _now(conn: Conn, id: str) -> models.Now:
    at = store.version_of(conn, id)
    (last,) = store.journal(conn, id, after=at.number - 1, most=1)
    return models.Now(
        tag=at.tag,
        version=at.number,
        hand=last.hand,
        screen=last.screen,
        who=last.who,
        words=change_line(last)["words"],
    )


@router.get("/{id}/now", responses=PROBLEMS)
def get_now(conn: Conn, id: str) -> models.Now:
    """The version of a build and who made it, for who cannot listen."""
    return _now(conn, id)


def _look(database: Path, id: str) -> models.Now:
    with closing(connect_to_read(database)) as conn:
        return _now(conn, id)


async def _told(request: Request, id: str, first: models.Now) -> AsyncIterator[str]:
    told, still = "", 0.0
    now = first
    while not await request.is_disconnected():
        if now.tag != told:
            told, still = now.tag, 0.0
            yield f"data: {now.model_dump_json()}\n\n"
        elif still >= BREATH_SECONDS:
            still = 0.0
            yield ": still here\n\n"
        await asyncio.sleep(LOOK_SECONDS)
        still += LOOK_SECONDS
        try:
            now = await run_in_threadpool(_look, request.app.state.database, id)
        except Exception:  # gone, or the file is in trouble: who listens asks, and is told in words
            return


@router.get("/{id}/live", include_in_schema=False)
async def listen(request: Request, id: str) -> StreamingResponse:
    """Server-sent events: the version that the build is at, and each that it comes to."""
    first = await run_in_threadpool(_look, request.app.state.database, id)
    return StreamingResponse(
        _told(request, id, first),
        media_type="text/event-stream",
        headers={"Cache-Control": "no-store"},
    )
