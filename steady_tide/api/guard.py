"""A loopback service is still a service: who may ask, how much, and what a page may load."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from steady_tide.api.problems import problem
from steady_tide.core import sizes

OWN_NAMES = {"127.0.0.1", "localhost", "[::1]", "::1"}
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)
# The field card is a page of its own that must work from a file, so its style and script stand in it.
CARD_POLICY = "default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; font-src data:; base-uri 'none'; form-action 'none'; sandbox allow-scripts allow-same-origin"


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
        origin = headers.get("origin")
        if origin is not None and scope["method"] not in ("GET", "HEAD") and urlsplit(origin).netloc != host:
            await problem(403, "foreign-origin", "Foreign origin", "Another site's page may not change anything here.")(
                scope, receive, send
            )
            return
        length = headers.get("content-length", "0")
        largest = sizes.body_of(scope["path"])
        if not length.isdigit() or int(length) > largest:
            await self._too_large(largest)(scope, receive, send)
            return
        await self.app(scope, self._counting(receive, largest), _with_headers(send))

    @staticmethod
    def _too_large(largest: int) -> ASGIApp:
        most = f"{largest // 1000} kB" if largest < 10_000_000 else f"{largest // 1_000_000} MB"
        return problem(413, "too-large", "Too large", f"A request may hold {most} at most.")

    @staticmethod
    def _counting(receive: Receive, largest: int) -> Receive:
        """Cut off a body that goes on although its length was not declared."""
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > largest:
                return {"type": "http.disconnect"}
            return message

        return counted


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
