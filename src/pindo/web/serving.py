"""Serving over sockets: slow and idle connections bounded, an end that comes when it is asked
for.
"""

import asyncio
import contextlib
import gc
import os
import resource
import socket
import sys
from typing import Any

import h11
import uvicorn
from fastapi import FastAPI
from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_SECONDS = 10.0
"""How long the head of a request may take from its first byte, or a connection wait before it
asks anything.
"""
MOST_CONNECTIONS = 512
SPARE_HANDLES = 150
"""Handles that files, the database and the threads need beside connections."""
END_SECONDS = 3
BACKLOG = 32
"""Connections that are taken at one go, before those that are too many are closed. As many again
may still be closing when the next are taken: twice this and what files need stays below the spare
handles.
"""
_HEADERS = [
    (b"content-type", b"text/plain; charset=utf-8"),
    (b"content-security-policy", b"default-src 'none'; frame-ancestors 'none'"),
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (b"cache-control", b"no-store"),
    (b"connection", b"close"),
]


def most_connections() -> int:
    """How many connections may stand at once, from the handles that this process may have (it
    takes as many as it is allowed).
    """
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = MOST_CONNECTIONS + SPARE_HANDLES
    if soft < wanted and (hard == resource.RLIM_INFINITY or hard > soft):
        soft = wanted if hard == resource.RLIM_INFINITY else min(wanted, hard)
        with contextlib.suppress(ValueError, OSError):
            resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
    return max(16, min(MOST_CONNECTIONS, soft - SPARE_HANDLES))


class Protocol(H11Protocol):
    """HTTP/1.1 that closes connections which ask nothing, or too slowly; the longest idle one
    where there are too many.
    """

    most = MOST_CONNECTIONS
    _timer: asyncio.TimerHandle | None = None
    idle_since = 0.0

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self.idle_since = self.loop.time()
        self._wait_for_head()
        if len(self.connections) > self.most:
            # First who asks nothing, then whose request has not come whole; the longest of them.
            # Closing takes a moment: each goes once.
            others = [
                c
                for c in self.connections
                if isinstance(c, Protocol) and not c.transport.is_closing() and not c.answering
            ]
            min(others, key=lambda c: (c.under_way, c.idle_since), default=self).transport.close()

    @property
    def answering(self) -> bool:
        """Whether a request has come whole and is being answered."""
        return self.under_way and not self.cycle.more_body

    @property
    def under_way(self) -> bool:
        return self.cycle is not None and not self.cycle.response_complete

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.under_way:
            self._stop_waiting()
        elif self._timer is None:
            self._wait_for_head()

    def on_response_complete(self) -> None:
        super().on_response_complete()
        self.idle_since = self.loop.time()

    def connection_lost(self, exc: Exception | None) -> None:
        self._stop_waiting()
        super().connection_lost(exc)

    def _wait_for_head(self) -> None:
        self._timer = self.loop.call_later(HEAD_SECONDS, self._too_slow)

    def _stop_waiting(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _too_slow(self) -> None:
        self._timer = None
        if not self.under_way and not self.transport.is_closing():
            self.transport.close()

    def send_400_response(self, msg: str) -> None:
        if self.conn.our_state not in {h11.IDLE, h11.SEND_RESPONSE}:
            self.transport.close()
            return
        for event in (
            h11.Response(status_code=400, headers=_HEADERS, reason=b"Bad Request"),
            h11.Data(data=msg.encode("ascii")),
            h11.EndOfMessage(),
        ):
            self.transport.write(self.conn.send(event) or b"")
        self.transport.close()


class Server(uvicorn.Server):
    """Ends when it is asked to, whatever is under way."""

    def __init__(self, app: FastAPI, host: str, port: int, **more: Any) -> None:
        Protocol.most = most_connections()
        super().__init__(
            uvicorn.Config(
                app,
                host=host,
                port=port,
                log_level="warning",
                server_header=False,
                proxy_headers=False,
                http=Protocol,
                ws="none",
                timeout_graceful_shutdown=END_SECONDS,
                backlog=BACKLOG,
                **more,
            )
        )

    def serve_and_end(self, listening: socket.socket) -> None:
        """Serve until stopped. What a thread still computes then is not waited for: nothing is
        stored but by whole transactions.
        """
        code = 1
        # Answers are trees that reference counting frees; looking through all that is kept for
        # cycles at every trial costs more than it finds.
        gc.collect()
        gc.freeze()
        gc.set_threshold(50_000, 20, 500)
        try:
            self.run(sockets=[listening])
            code = 0
        except KeyboardInterrupt:
            code = 0
        finally:
            sys.stdout.flush()
            os._exit(code)


def listen(host: str, port: int) -> socket.socket:
    """The socket to serve on. Raises OSError when the port is taken or the address is not this
    machine's.
    """
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listening = socket.socket(family, socket.SOCK_STREAM)
    try:
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        # An answer goes out in two pieces; without this the second waits 40 ms for the first to be
        # acknowledged. Accepted sockets inherit it.
        listening.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        listening.bind((host, port))
    except OSError:
        listening.close()
        raise
    listening.listen(BACKLOG)  # who comes before the server is up waits for it
    listening.set_inheritable(True)
    return listening
