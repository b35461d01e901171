"""Who works when: one change of a build at a time, and no more of them together than the machine
has hands, each in the order in which it came.
"""

import asyncio
import os
from collections.abc import AsyncIterator
from contextlib import AbstractAsyncContextManager, asynccontextmanager
from typing import Annotated
from weakref import WeakKeyDictionary

from fastapi import Depends

from pindo.web.problems import Refused

TURN_SECONDS, WORK_SECONDS = 4.0, 10.0
AT_ONCE = max(2, os.cpu_count() or 2)


class Turns:
    """Waiting takes no thread and has an end; a heavy change of one build keeps nobody waiting
    at another but for its share of the machine.
    """

    def __init__(self) -> None:
        self._work = asyncio.Semaphore(AT_ONCE)
        self._builds: dict[str, tuple[asyncio.Lock, int]] = {}

    @asynccontextmanager
    async def work(self) -> AsyncIterator[None]:
        """A place to compute at. Raises Refused (503) when none is free in time."""
        await _in_time(
            self._work,
            WORK_SECONDS,
            "Pindo is busy",
            "More is asked at once than this machine works out.",
        )
        try:
            yield
        finally:
            self._work.release()

    @asynccontextmanager
    async def turn(self, id: str) -> AsyncIterator[None]:
        """One's turn at a build. Raises Refused (503) when it does not come in time."""
        lock, waiting = self._builds.get(id, (asyncio.Lock(), 0))
        self._builds[id] = (lock, waiting + 1)
        try:
            await _in_time(
                lock, TURN_SECONDS, "The build is busy", "Another change of this build takes long."
            )
            try:
                yield
            finally:
                lock.release()
        finally:
            lock, waiting = self._builds[id]
            if waiting == 1:
                del self._builds[id]
            else:
                self._builds[id] = (lock, waiting - 1)


async def _in_time(
    what: asyncio.Lock | asyncio.Semaphore, seconds: float, title: str, words: str
) -> None:
    try:
        await asyncio.wait_for(what.acquire(), seconds)
    except TimeoutError:
        raise Refused(
            503,
            "busy",
            title,
            f"{words} Nothing of yours was stored; what you typed is kept and asked again.",
        ) from None


_OF_LOOP: WeakKeyDictionary[asyncio.AbstractEventLoop, Turns] = WeakKeyDictionary()


def _turns() -> Turns:
    return _OF_LOOP.setdefault(asyncio.get_running_loop(), Turns())


def a_place() -> AbstractAsyncContextManager[None]:
    """A place to compute at, for a route that first waits for what is sent."""
    return _turns().work()


async def working() -> AsyncIterator[None]:
    """For a route that computes: it waits for a place."""
    async with _turns().work():
        yield


async def changing(id: str) -> AsyncIterator[None]:
    """For a route that changes a build: it waits for its turn, then for a place."""
    turns = _turns()
    async with turns.turn(id), turns.work():
        yield


# The place is given back when the answer is worked out, not when a slow client has read it.
Working = Annotated[None, Depends(working, scope="function")]
Changing = Annotated[None, Depends(changing, scope="function")]
