"""A part of the application's addresses, whole by itself."""

from __future__ import annotations

from fastapi import APIRouter

from steady_tide.api import problems


def station(tag: str, prefix: str = "") -> APIRouter:
    """Routes that belong together. tag: their name in the document; prefix: of their paths, below /api. Returns what they are
    declared on. They are taken into an application as they stand: put into another router, each would be worked out a
    second time, which takes a second at every start."""
    return APIRouter(prefix=f"/api{prefix}", tags=[tag], responses=problems.REFUSALS)
