"""A loopback service is still a service: who may ask, how much, and what a page may load."""

from __future__ import annotations

import asyncio
import time

from starlette.datastructures import MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from steady_tide.api.problems import UNREADABLE, problem
from steady_tide.core.quantities import sizes
from steady_tide.formats.card_html import script_hash
from steady_tide.formats.nesting import DEEPEST, Nesting

OWN_NAMES = {"127.0.0.1", "localhost", "[::1]", "::1"}
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
# The field card is a page of its own that must work from a file, so its style and script stand in it.
CARD_POLICY = (
    f"default-src 'none'; style-src 'unsafe-inline'; script-src '{script_hash()}'; font-src data:; img-src data:; base-uri 'none'; "
    "form-action 'none'; frame-ancestors 'none'; sandbox allow-scripts allow-same-origin"
)
LONGEST_PATH = 1000
BODY_STARTS_S, BODY_PACE = 20.0, 50_000  # a body may take this long, and a second more for each so many bytes


class Guard:
    """Refuses foreign hosts and origins and overlong bodies, and sets the security headers."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = {name.decode("latin-1").lower(): value.decode("latin-1") for name, value in scope["headers"]}
        host = headers.get("host", "")
        if _name(host) not in OWN_NAMES:
            await problem(
                400, "foreign-host", "Unknown host", "This service answers only to its own address on this machine."
            )(scope, receive, send)
            return
        origin, fetched = headers.get("origin"), headers.get("sec-fetch-site", "none")
        foreign = (origin is not None and origin.partition("://")[2] != host) or fetched in ("cross-site", "same-site")
        if foreign and scope["method"] not in ("GET", "HEAD"):
            await problem(403, "foreign-origin", "Foreign origin", "Another site's page may not change anything here.")(
                scope, receive, send
            )
            return
        if "\x00" in scope["path"] or len(scope["path"]) > LONGEST_PATH:
            await problem(
                404, "not-found", "Not Found", "There is nothing at such an address. Check it, or begin at /."
            )(scope, receive, send)
            return
        length = headers.get("content-length", "0")
        largest = sizes.body_of(scope["path"])
        if not length.isdigit() or int(length) > largest:
            await self._too_large(largest)(scope, receive, send)
            return
        late = BODY_STARTS_S + int(length) / BODY_PACE
        await self.app(
            scope,
            self._counting(receive, largest, late, "json" in headers.get("content-type", "")),
            _with_headers(send),
        )

    @staticmethod
    def _too_large(largest: int) -> ASGIApp:
        return problem(413, "too-large", "Too large", _most(largest))

    @staticmethod
    def _counting(receive: Receive, largest: int, late_s: float, nested: bool) -> Receive:
        """Refuse a body that goes on although its length was not declared, that does not come, or that, where it is nested
        text, lies too deep: readers go into it by calling themselves."""
        seen, whole = 0, False
        nesting = Nesting() if nested else None
        deadline = time.monotonic() + late_s

        async def counted() -> Message:
            nonlocal seen, whole
            if whole:  # what comes now is the end of the connection
                return await receive()
            try:
                message = await asyncio.wait_for(receive(), max(0.0, deadline - time.monotonic()))
            except TimeoutError:
                raise HTTPException(
                    408, f"A request of this size has to be here within {late_s:.0f} seconds. Send it again."
                ) from None
            seen += len(message.get("body", b""))
            whole = not message.get("more_body", False)
            if seen > largest:
                raise HTTPException(413, _most(largest))
            if nesting is not None and nesting.deepest_of(message.get("body", b"")) > DEEPEST:
                raise HTTPException(400, UNREADABLE)
            return message

        return counted


def _most(largest: int) -> str:
    most = f"{largest // 1000} kB" if largest < 10_000_000 else f"{largest // 1_000_000} MB"
    return f"A request may hold {most} at most."


def _name(host: str) -> str:
    if host.startswith("["):
        return host.partition("]")[0] + "]"
    return host.rpartition(":")[0] if ":" in host else host


def _with_headers(send: Send) -> Send:
    async def dressed(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            headers.setdefault("Content-Security-Policy", POLICY)
            headers["X-Content-Type-Options"] = "nosniff"
            headers["Referrer-Policy"] = "no-referrer"
            headers["Cross-Origin-Opener-Policy"] = "same-origin"
            headers["Cross-Origin-Resource-Policy"] = "same-origin"
        await send(message)

    return dressed
