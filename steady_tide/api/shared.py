"""What several stations' routes need: the session, the crew's kit and its way of working, the planner."""

from __future__ import annotations

import asyncio
from collections.abc import Callable, Iterator
from typing import Annotated, TypeVar

from fastapi import Depends, Query, Request
from sqlalchemy.orm import Session

from steady_tide.api.services import services_at
from steady_tide.core.brief.brief import School
from steady_tide.core.quantities.errors import Overtaken, StoreUnavailable
from steady_tide.services.crew_kit import CrewKit, read_crew_kit, typical_kit
from steady_tide.services.days import PresetShelf
from steady_tide.services.frame_cache import LookShelf
from steady_tide.services.plan_refresh import Keeper
from steady_tide.services.planning_pool import Desk
from steady_tide.services.plans import Plans
from steady_tide.store.shoots import crew_school

LOOKS_EVERY_S = 0.1  # whether whoever asked is still there
HELD = r"^[a-z0-9][a-z0-9_.-]{0,59}:[0-9]{1,7}(,[A-Za-z0-9_./~%-]+:[0-9]{1,7})*$"


def _session(request: Request) -> Iterator[Session]:
    with services_at(request).database.session() as session:
        yield session


# Ends with the route function, before the answer goes out: what is answered as saved is saved.
SessionOf = Annotated[Session, Depends(_session, scope="function")]


def _crew_way(request: Request) -> School:
    """The crew's way; while the database is away, as it was last read: planning goes on without it."""
    services = services_at(request)
    try:
        with services.database.session() as session:
            services.school = crew_school(session)
    except StoreUnavailable:
        pass
    return services.school


CrewWay = Annotated[School, Depends(_crew_way)]


def _crew_kit(request: Request) -> CrewKit:
    """The kit; while the database is away, as it was last read: planning goes on without it."""
    services = services_at(request)
    try:
        with services.database.session() as session:
            services.kit = read_crew_kit(session, services.kit)
    except StoreUnavailable:
        if services.kit is None:
            services.kit = typical_kit()
    return services.kit


CrewKitOf = Annotated[CrewKit, Depends(_crew_kit)]


def _held_kit(
    request: Request,
    gear: CrewKitOf,
    held: Annotated[
        str | None,
        Query(
            pattern=HELD,
            max_length=4000,
            description="a camera and an edition of its sheet, such as limpet-7:2: plan with that one; after commas own numbers "
            "with theirs",
        ),
    ] = None,
) -> CrewKit:
    """The kit with an older sheet of one camera, and older own numbers, where a plan keeps some."""
    if held is None:
        return gear
    (camera_id, edition), *own = [
        (name, int(kept)) for name, _, kept in (one.rpartition(":") for one in held.split(","))
    ]
    counts = {number.key: number.edition for number in gear.own}
    older = any(counts.get(key, kept) != kept for key, kept in own)
    if gear.has(camera_id) and gear.bare_camera(camera_id).edition == edition and not older:
        return gear
    with services_at(request).database.session() as session:
        return gear.holding(session, camera_id, edition, dict(own))


HeldKit = Annotated[CrewKit, Depends(_held_kit)]


async def _plans(request: Request) -> Plans:
    return services_at(request).plans


PlansOf = Annotated[Plans, Depends(_plans)]


async def _keeper(request: Request) -> Keeper | None:
    return services_at(request).refresh


KeeperOf = Annotated[Keeper | None, Depends(_keeper)]


async def _aside(request: Request) -> Desk:
    return services_at(request).files


# What is slow and no planning: paper is set, and large files are read, in a process of their own.
AsideDesk = Annotated[Desk, Depends(_aside)]


async def _presets(request: Request) -> PresetShelf:
    return services_at(request).presets


PresetsOf = Annotated[PresetShelf, Depends(_presets)]


async def _looks(request: Request) -> LookShelf:
    return services_at(request).frames


LooksOf = Annotated[LookShelf, Depends(_looks)]


Made = TypeVar("Made")


async def while_wanted(request: Request, made: asyncio.Future[Made], give_up: Callable[[], bool]) -> Made:
    """Wait for what is made as long as whoever asked is there.

    made: by another process; give_up: called when he is gone, tells whether waiting ends then. Returns it. Raises Overtaken.
    """
    while not made.done():
        await asyncio.wait({made}, timeout=LOOKS_EVERY_S)
        if not made.done() and await request.is_disconnected() and give_up():
            # Nobody hears any more how it ends.
            made.add_done_callback(lambda done: done.cancelled() or done.exception())
            raise Overtaken
    return await made
