"""Limits that hold for every request: who may ask, from where, how much, how slowly; headers of
every answer.
"""

import asyncio
import re
import secrets
import time
from collections import Counter
from collections.abc import Awaitable, Callable
from contextlib import suppress
from http.cookies import CookieError, SimpleCookie
from urllib.parse import parse_qs

from fastapi.concurrency import run_in_threadpool
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pindo.store.trouble import StoreError
from pindo.web.problems import answer
from pindo.web.shop import Shop

MB = 1024 * 1024
MAX_BODY = 4 * MB
LARGER = {
    "table": 4 * MB,
    "sounds": 8 * MB,
    "photos": 24 * MB,
    "pattern": 24 * MB,
    "bundle": 400 * MB,
    "restored": 1024 * MB,
}
"""Most bytes of a body by the last part of the address, where more than :data:`MAX_BODY` makes
sense.
"""
JSON_TYPES = {"application/json", "application/json-patch+json"}
FILE_TYPES = {
    "image/jpeg",
    "image/png",
    "image/webp",
    "audio/webm",
    "audio/ogg",
    "audio/mp4",
    "audio/mpeg",
    "audio/wav",
    "audio/x-m4a",
    "audio/x-wav",
    "application/zip",
    "application/octet-stream",
    "application/x-zip-compressed",
    "application/vnd.sqlite3",
}
SAFE = ("GET", "HEAD", "OPTIONS")
COOKIE = "pindo-device"

BODY_SECONDS, SLOWEST_BODY = 10.0, 20_000
"""A body has 10 s, and one more for each 20 kB of it that came."""
SEND_SECONDS = 30.0
MOST_COMING = 64
"""Bodies on their way from one client."""


class _Stopped(HTTPException):
    """The request is not read any further; the answer says why."""

    def __init__(self) -> None:
        super().__init__(400)


Refusal = Callable[[Scope, Receive, Send], Awaitable[None]]


class Guard:
    """ASGI middleware. ``hosts`` are names with their port, as a Host header has them; ``shop``
    says who is let in where others than this machine are served.

    A page of another site can send requests to a server on this machine, under a name of its own
    too (DNS rebinding). It can forge neither Host nor Origin nor Sec-Fetch-Site, and cannot send
    JSON without asking first: that is where it stops.
    """

    def __init__(self, app: ASGIApp, hosts: tuple[str, ...], shop: Shop | None = None) -> None:
        self.app = app
        self.hosts = hosts
        self.shop = shop
        self.coming: Counter[str] = Counter()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["nonce"] = nonce
        headers = {k.decode("latin-1").lower(): v.decode("latin-1") for k, v in scope["headers"]}
        client = (scope.get("client") or ("", 0))[0]
        exchange = _Exchange(scope, receive, send, nonce, self.coming, client)
        refusal = (
            self._of_host(headers)
            or await self._of_device(scope, headers, client)
            or _of_site(scope, headers, headers.get("host", ""))
            or _of_length(scope, headers)
        )
        if refusal is not None:
            await refusal(scope, receive, exchange.send)
            return
        has_body = _has_body(headers)
        if has_body and self.coming[client] >= MOST_COMING:
            await answer(
                503,
                "busy",
                "Too much at once",
                "More is on its way from here than Pindo waits for. Nothing was changed; ask"
                " again.",
            )(scope, receive, exchange.send)
            return
        await exchange.carry(self.app, has_body)

    def _of_host(self, headers: dict[str, str]) -> Refusal | None:
        host = headers.get("host", "")
        if host in self.hosts:
            return None
        return answer(
            400,
            "host",
            "Unknown host",
            f"Pindo does not answer as “{host[:80]}”. Open it by the address that it printed.",
        )

    async def _of_device(
        self, scope: Scope, headers: dict[str, str], client: str
    ) -> Refusal | None:
        """In the shop mode: who shows no token of a device is let in by the shop's key alone."""
        shop = self.shop
        if shop is None:
            return None
        asked = parse_qs(scope.get("query_string", b"").decode("latin-1")).get("key", [""])[0]
        if scope["method"] == "GET" and scope["path"] == "/" and asked:
            if not shop.tries.take(client):
                return answer(
                    429,
                    "key",
                    "Too many keys",
                    "Wait a minute, then open the address from the picture code again.",
                )
            if shop.fits(asked):
                try:
                    token = await run_in_threadpool(shop.let_in, headers.get("user-agent", ""))
                except StoreError as error:
                    return answer(409, "devices", "This device is not let in", str(error))
                cookie = f"{COOKIE}={token}; Path=/; HttpOnly; SameSite=Strict; Max-Age=31536000"
                return _moved_to_start(cookie)
        jar: SimpleCookie = SimpleCookie()
        with suppress(CookieError):
            jar.load(headers.get("cookie", ""))
        device = shop.known(jar[COOKIE].value if COOKIE in jar else "")
        if device is None:
            return answer(
                401,
                "key",
                "This shop's key is wanting",
                "Open Pindo once by the whole address that it printed, with its key, or by the"
                " picture code on its first page. Nothing was changed.",
            )
        if not shop.requests.take(device.id):
            return answer(
                429,
                "busy",
                "Too much at once",
                "This device asks more than Pindo answers one. Nothing was changed; ask again.",
            )
        scope["state"]["device"] = device
        return None


def _moved_to_start(cookie: str) -> Refusal:
    moved = answer(303, "key", "The key is known now", "Go on.")
    moved.headers["location"] = "/"
    moved.headers["set-cookie"] = cookie
    return moved


def _of_site(scope: Scope, headers: dict[str, str], host: str) -> Refusal | None:
    """Writes come from Pindo's own pages, or from a program that is no browser; nothing of the
    data is a part of other sites' pages.
    """
    site, origin = headers.get("sec-fetch-site"), headers.get("origin")
    writes = scope["method"] not in SAFE
    own_site = site in ("same-origin", "none") if site is not None else True
    own_origin = origin == f"{scope.get('scheme', 'http')}://{host}" if origin is not None else True
    if writes and not (own_site and own_origin):
        return answer(
            403,
            "origin",
            "Asked from another page",
            "Changes are taken from Pindo's own pages only. Nothing was changed.",
        )
    if (
        site == "cross-site"
        and scope["path"].startswith("/api/")
        and headers.get("sec-fetch-mode") != "navigate"
    ):
        return answer(
            403,
            "origin",
            "Asked from another page",
            "Pindo's data is no part of other sites' pages.",
        )
    if not writes:
        return None
    kind = headers.get("content-type", "").partition(";")[0].strip().lower()
    taken = FILE_TYPES if _last(scope) in LARGER else JSON_TYPES
    if _has_body(headers) and kind not in taken:
        return answer(
            415,
            "content-type",
            "The kind of content is not taken",
            f"Send it as {', '.join(sorted(taken))}, not as “{kind[:60]}”. Nothing was changed.",
        )
    return None


def _has_body(headers: dict[str, str]) -> bool:
    return headers.get("content-length", "0") != "0" or "transfer-encoding" in headers


def _last(scope: Scope) -> str:
    return str(scope["path"]).rsplit("/", 1)[-1]


def _most(scope: Scope) -> int:
    return LARGER.get(_last(scope), MAX_BODY)


def _too_large(scope: Scope) -> Refusal:
    return answer(
        413,
        "too-large",
        "The request is too large",
        f"At most {_most(scope) // MB} MB at once. Nothing was changed.",
    )


def _of_length(scope: Scope, headers: dict[str, str]) -> Refusal | None:
    length = headers.get("content-length", "0")
    return (
        _too_large(scope)
        if not re.fullmatch(r"\d{1,15}", length) or int(length) > _most(scope)
        else None
    )


class _Exchange:
    """One request and its answer: bytes counted and timed, headers added."""

    def __init__(
        self,
        scope: Scope,
        receive: Receive,
        send: Send,
        nonce: str,
        coming: Counter[str],
        client: str,
    ) -> None:
        self.scope, self._receive, self._send, self._nonce = scope, receive, send, nonce
        self._coming, self._client, self._counted = coming, client, False
        self._began = time.monotonic()
        self._seen = 0
        self._whole = self._started = False
        self._stopped: Refusal | None = None

    def _count(self, here: bool) -> None:
        """Counts the body among those of its client that are on their way, or no more."""
        if here != self._counted:
            self._counted = here
            self._coming[self._client] += 1 if here else -1
            if not self._coming[self._client]:
                del self._coming[self._client]

    async def carry(self, app: ASGIApp, has_body: bool) -> None:
        self._count(has_body)
        try:
            with suppress(_Stopped):  # where it was not turned into an answer already
                await app(self.scope, self.receive, self.send)
        finally:
            self._count(False)
        if self._stopped is not None and not self._started:
            why, self._stopped = self._stopped, None
            await why(self.scope, self._receive, self.send)

    async def receive(self) -> Message:
        if self._whole:
            return await self._receive()
        left = self._began + BODY_SECONDS + self._seen / SLOWEST_BODY - time.monotonic()
        try:
            message = await asyncio.wait_for(self._receive(), max(left, 0.01))
        except TimeoutError:
            raise self._stop(
                answer(
                    408,
                    "slow",
                    "The request came too slowly",
                    "It was not waited for any longer. Nothing was changed.",
                )
            ) from None
        self._seen += len(message.get("body", b""))
        self._whole = message["type"] != "http.request" or not message.get("more_body", False)
        if self._whole:
            self._count(False)
        if self._seen > _most(self.scope):
            raise self._stop(_too_large(self.scope))
        return message

    def _stop(self, why: Refusal) -> _Stopped:
        self._stopped = why
        return _Stopped()

    async def send(self, message: Message) -> None:
        if self._stopped is not None and not self._started:
            return  # whatever is made of the broken body, the answer says why it broke
        if message["type"] == "http.response.start":
            self._started = True
            message["headers"] = _with_defaults(
                message.get("headers", []), self._nonce, self.scope["path"]
            )
        try:
            await asyncio.wait_for(self._send(message), SEND_SECONDS)
        except TimeoutError:
            raise ConnectionAbortedError("the client does not read its answer") from None


def _with_defaults(
    headers: list[tuple[bytes, bytes]], nonce: str, path: str
) -> list[tuple[bytes, bytes]]:
    said = {name.lower() for name, _ in headers}
    return [*headers, *((name, value) for name, value in _headers(nonce, path) if name not in said)]


def _headers(nonce: str, path: str) -> list[tuple[bytes, bytes]]:
    policy = (
        f"default-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data: blob:;"
        " object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
        if not path.startswith("/api/")
        else "default-src 'none'; frame-ancestors 'none'; sandbox"
    )
    return [
        (b"content-security-policy", policy.encode()),
        (b"x-content-type-options", b"nosniff"),
        (b"referrer-policy", b"no-referrer"),
        (b"cross-origin-opener-policy", b"same-origin"),
        (b"cross-origin-resource-policy", b"same-origin"),
        (b"permissions-policy", b"camera=(self), microphone=(self), geolocation=()"),
        (b"cache-control", b"no-store"),
    ]
