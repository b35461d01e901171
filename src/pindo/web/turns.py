"""One change of a build at a time, each in its turn: a heavy one keeps nobody waiting at another build, and nobody for ever."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from pindo.web.problems import Refused

WAIT_SECONDS = 4.0


class Turns:
    """A lock for each build that somebody is changing."""

    def __init__(self, wait_seconds: float = WAIT_SECONDS) -> None:
        self._wait = wait_seconds
        self._guard = threading.Lock()
        self._locks: dict[str, tuple[threading.Lock, int]] = {}

    @contextmanager
    def turn(self, id: str) -> Iterator[None]:
        """Wait for one's turn at a build. Raises Refused (503) when it does not come in time."""
        with self._guard:
            lock, waiting = self._locks.get(id, (threading.Lock(), 0))
            self._locks[id] = (lock, waiting + 1)
        taken = lock.acquire(timeout=self._wait)
        try:
            if not taken:
                raise Refused(503, "busy", "The build is busy", "Another change of this build takes long. Nothing of yours was stored; it is kept and asked again.")
            yield
        finally:
            if taken:
                lock.release()
            with self._guard:
                lock, waiting = self._locks[id]
                if waiting == 1:
                    del self._locks[id]
                else:
                    self._locks[id] = (lock, waiting - 1)
