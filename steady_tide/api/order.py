"""Routes of the order of the day: looked for with its progress told, and taken."""

from __future__ import annotations

import asyncio
import os
import time
from collections.abc import AsyncIterator, Callable
from datetime import datetime, timedelta
from threading import Event, Thread
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from steady_tide.api.services import services_at
from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.start_time import brief_at
from steady_tide.core.light.day import local_day
from steady_tide.core.light.sources import has_sky
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.order import DayOrder, Progress, Stopping, order_of
from steady_tide.core.outing.planned import Outing
from steady_tide.core.outing.schedule import day_asked, day_ends
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan, Overtaken, SteadyTideError
from steady_tide.core.quantities.moments import Moment
from steady_tide.core.shoot.shoot_file import DayRules
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import outing_kept, rules_of, where_is
from steady_tide.services.kept_plans import held_gear, planned_fields
from steady_tide.services.planning_pool import Turn
from steady_tide.services.plans import Plans
from steady_tide.services.search_queue import Searches
from steady_tide.store import shots as store_shots
from steady_tide.store.shoots import get_shoot
from steady_tide.words.orders import OrderText, order_text
from steady_tide.words.refusals import refusal_words

router = station("outside", "/shoots/{shoot_id}/order")


class OrderLine(BaseModel):
    """One line of the search's story: how far it is, or how it ended."""

    kind: Literal["waiting", "pricing", "better", "order", "problem"]
    done: int = 0  # of the pricing; of those who wait, how many are before
    total: int = 0
    progress: Progress | None = None
    order: OrderText | None = None
    problem: str | None = None


class Starts(BaseModel):
    """When shots begin; None takes a start back."""

    model_config = ConfigDict(extra="forbid")

    starts: Annotated[dict[UUID, Moment | None], Field(max_length=sizes.SHOTS)]


class Taken(BaseModel):
    """When the changed shots began before, for taking it back."""

    before: dict[UUID, datetime | None]


@router.post(
    "",
    response_class=StreamingResponse,
    responses={200: {"model": OrderLine, "description": "One such line after the other (application/x-ndjson)."}},
)
async def look_for(
    request: Request,
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    shoot_id: UUID,
    seconds: Annotated[float, Query(ge=0.5, le=60)] = 10.0,
) -> StreamingResponse:
    """Look for the order that gives up least, line by line; closing the connection ends the search."""
    shoot = await run_in_threadpool(get_shoot, session, shoot_id)
    outing = await run_in_threadpool(outing_kept, session, shoot, crew, gear, plans)
    where, rules = where_is(shoot), rules_of(shoot)
    begin, end = _ends(where, rules, outing)
    search = Search(outing, where, rules, begin, end, crew, gear, plans, seconds)
    return StreamingResponse(_story(search, services_at(request).searches), media_type="application/x-ndjson")


def _ends(where: DayPlace, rules: DayRules, outing: Outing) -> tuple[datetime, datetime]:
    first = next((shot.starts_at for shot in outing.shots if shot.starts_at), None)
    day = where.day or (first.astimezone(where.zone).date() if first else None)
    if day is None:
        raise BadInput(Fault("day", "is not known of this shoot", "Give the shoot its day."))
    begin, end = day_ends(rules, local_day(day, where.zone)[0])
    if not timedelta(0) < end - begin <= timedelta(days=3):
        raise BadInput(Fault("latest", "lies not within three days after the earliest", "Change the day's ends."))
    return begin, end


class Search:
    """One search in a thread of its own."""

    def __init__(
        self,
        outing: Outing,
        where: DayPlace,
        rules: DayRules,
        begin: datetime,
        end: datetime,
        crew: School,
        gear: CrewKit,
        plans: Plans,
        seconds: float,
    ) -> None:
        self.outing, self.where, self.rules = outing, where, rules
        self.begin, self.end, self.crew, self.seconds = begin, end, crew, seconds
        self.gear, self.plans = gear, plans
        self.stopped = Event()
        self._stopping = Stopping()

    def stop(self) -> None:
        """End it with what it has."""
        self.stopped.set()
        self._stopping.stop()

    def run(self, searches: Searches, tell: Callable[[OrderLine], None]) -> None:
        """Wait for one's turn, then work, telling each step."""
        if not searches.take(self.stopped, lambda before: tell(OrderLine(kind="waiting", done=before))):
            tell(OrderLine(kind="problem", problem="Too many orders are being looked for. Try again in a minute."))
            return
        try:
            self._work(tell)
        finally:
            searches.leave(self.stopped)

    def _work(self, tell: Callable[[OrderLine], None]) -> None:
        try:
            tell(OrderLine(kind="order", order=order_text(self._found(tell))))
        except NoLegalPlan as error:
            tell(OrderLine(kind="problem", problem=refusal_words(error)))
        except SteadyTideError as error:
            tell(OrderLine(kind="problem", problem=str(error)))

    def _found(self, tell: Callable[[OrderLine], None]) -> DayOrder:
        def priced(done: int, total: int) -> bool:
            tell(OrderLine(kind="pricing", done=done, total=total))
            return not self.stopped.is_set()

        def replan(brief: Brief, camera: str) -> Plan:
            if self.stopped.is_set():
                raise Overtaken
            return self.plans.plan(brief, self.crew, self.gear, only=camera, schools=False, turn=Turn.NOBODY)

        ends = (self.begin, self.end)
        task = day_asked(self.outing, self.where, self.rules, ends, self.gear.kit, self.gear.knowledge, replan, priced)
        return order_of(
            task,
            time.monotonic,
            self.seconds,
            lambda progress: tell(OrderLine(kind="better", progress=progress)),
            self._stopping,
            max(1, min(8, os.cpu_count() or 1)),
        )


async def _story(search: Search, searches: Searches) -> AsyncIterator[str]:
    lines: asyncio.Queue[OrderLine | None] = asyncio.Queue()
    loop = asyncio.get_running_loop()

    def tell(line: OrderLine | None) -> None:
        loop.call_soon_threadsafe(lines.put_nowait, line)

    def work() -> None:
        try:
            search.run(searches, tell)
        finally:
            tell(None)

    Thread(target=work, name="order", daemon=True).start()
    try:
        while (line := await lines.get()) is not None:
            yield line.model_dump_json() + "\n"
    finally:
        search.stop()  # whoever asked may have gone


@router.put("")
def take(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, asked: Starts) -> Taken:
    """Give shots their starts, all or none; what the sky lights is planned again for its new hour."""
    mine = {shot.id: shot for shot in store_shots.list_planned(session, shoot_id)}
    before: dict[UUID, datetime | None] = {}
    for shot_id, starts_at in asked.starts.items():
        shot = mine.get(shot_id)
        if shot is None:
            raise BadInput(Fault(f"starts.{shot_id}", "is no shot of this shoot", "Look at the shoot again."))
        if shot.starts_at == starts_at:
            continue
        brief = Brief.model_validate(shot.brief)
        if starts_at is None and has_sky(brief.light):
            continue  # what the sky lights always has a time: its light's
        before[shot_id] = shot.starts_at
        if starts_at is not None:
            brief = brief_at(brief, starts_at)
        changed = (
            {}
            if brief.model_dump(mode="json") == shot.brief
            else planned_fields(brief, crew, held_gear(session, shot, gear), plans)
        )
        store_shots.put_shot(session, store_shots.locked_shot(session, shot_id), {"starts_at": starts_at, **changed})
    return Taken(before=before)
