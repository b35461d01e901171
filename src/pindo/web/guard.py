"""Limits that hold for every request: body size, Host header, headers of every answer."""

import secrets
from contextlib import suppress

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pindo.web.problems import answer

MAX_BODY = 4 * 1024 * 1024


class _TooLarge(Exception):
    pass


class Guard:
    """ASGI middleware: refuses unknown hosts and large bodies, and says what a page may load.

    A page of another site can send requests to a server on this machine under a name of its own (DNS
    rebinding); it cannot forge the Host header, so that is where it stops.
    """

    def __init__(self, app: ASGIApp, hosts: tuple[str, ...]) -> None:
        self.app = app
        self.hosts = hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = {k.decode("latin-1"): v.decode("latin-1") for k, v in scope["headers"]}
        host = headers.get("host", "")
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        if name not in self.hosts:
            await answer(400, "host", "Unknown host", f"Pindo does not answer as “{name[:80]}”. Open it by the address that it printed.")(scope, receive, send)
            return
        too_large = answer(413, "too-large", "The request is too large", f"At most {MAX_BODY // 1024 // 1024} MB at once. Nothing was changed.")
        length = headers.get("content-length", "0")
        if not length.isdigit() or int(length) > MAX_BODY:
            await too_large(scope, receive, send)
            return
        seen = 0
        started = over = False
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["nonce"] = nonce

        async def counted() -> Message:
            nonlocal seen, over
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > MAX_BODY:
                over = True
                raise _TooLarge
            return message

        async def with_headers(message: Message) -> None:
            nonlocal started
            if over and not started:
                return  # whatever the application makes of the broken body, the answer is 413
            if message["type"] == "http.response.start":
                started = True
                message["headers"] = [*message["headers"], *_headers(nonce)]
            await send(message)

        with suppress(_TooLarge):
            await self.app(scope, counted, with_headers)
        if over and not started:
            await too_large(scope, receive, send)


def _headers(nonce: str) -> list[tuple[bytes, bytes]]:
    policy = f"default-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data: blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    return [
        (b"content-security-policy", policy.encode()),
        (b"x-content-type-options", b"nosniff"),
        (b"referrer-policy", b"no-referrer"),
        (b"cross-origin-opener-policy", b"same-origin"),
        (b"cross-origin-resource-policy", b"same-origin"),
    ]
