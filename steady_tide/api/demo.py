"""Routes of the demo: what came with the program, left with one call and brought back with another."""

from __future__ import annotations

from pydantic import BaseModel

from steady_tide.api.shared import SessionOf
from steady_tide.api.station import station
from steady_tide.services.demo_left import come_back
from steady_tide.store.demo import demo_shoots, leave_demo, left_demo

router = station("demo")


class DemoState(BaseModel):
    """How the demo stands. shoots: of it that are here; left: whether it can be brought back."""

    shoots: int
    left: bool


@router.get("/demo")
def demo_state(session: SessionOf) -> DemoState:
    """How the demo stands."""
    return DemoState(shoots=demo_shoots(session), left=left_demo(session))


@router.post("/demo/leave")
def leave(session: SessionOf) -> DemoState:
    """Put away what came with the program, with what was added to it; one's own shoots, takes and cameras stay."""
    leave_demo(session)
    return demo_state(session)


@router.post("/demo/return")
def bring_back(session: SessionOf) -> DemoState:
    """Bring it back."""
    come_back(session)
    return demo_state(session)
