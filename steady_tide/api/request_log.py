"""Every request has an id, told in its answer and in each line of the log that belongs to it."""

from __future__ import annotations

import re
import time
from uuid import uuid4

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

HEADER = "X-Request-ID"
GIVEN = re.compile(r"[\w-]{1,64}")

log = structlog.get_logger()


class RequestLog:
    """Names each request, and logs how it ended: at level info, failures at level error."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        given = Headers(scope=scope).get(HEADER, "")
        name = given if GIVEN.fullmatch(given) else uuid4().hex
        status = 0

        async def named(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                MutableHeaders(scope=message)[HEADER] = name
            await send(message)

        began = time.perf_counter()
        with structlog.contextvars.bound_contextvars(request_id=name):
            asked = {"method": scope["method"], "path": scope["path"]}
            try:
                await self.app(scope, receive, named)
            except Exception:
                log.exception("request failed", **asked)
                raise
            log.info("request", **asked, status=status, ms=round(1000 * (time.perf_counter() - began), 1))
