"""Routes of the Bench: a brief in, a plan out. Nothing is stored."""

from __future__ import annotations

import asyncio
from typing import Annotated

from fastapi import Header, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field

from steady_tide.api.shared import CrewKitOf, CrewWay, HeldKit, PlansOf, while_wanted
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.scenarios import SkyHere, turned
from steady_tide.core.brief.start_time import brief_at
from steady_tide.core.planning.interval_film import IntervalFilm, third_of_film
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.quantities.moments import Moment
from steady_tide.services.bench import BenchAnswer, answer_of
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.plans import Plans
from steady_tide.words.own import OwnChangeText, own_change_text
from steady_tide.words.plans import PlanText, plan_text

router = station("bench")
OnlyCamera = Annotated[
    str | None, Query(max_length=60, description="id of a camera: plan on it, and do not rank the others")
]


class FilmAsked(BaseModel):
    """Two of three, and the timeline."""

    timeline_fps: Annotated[float, Field(ge=1, le=240)] = 25.0
    duration_s: Annotated[float, Field(gt=0, le=2_592_000)] | None = None
    interval_s: Annotated[float, Field(gt=0.01, le=86_400)] | None = None
    screen_s: Annotated[float, Field(gt=0, le=36_000)] | None = None


def _sent(made: BaseModel) -> Response:
    # Written out directly: it is a checked model already, and checking it again takes longer than sending it.
    return Response(made.model_dump_json(), media_type="application/json")


@router.post("/plan", response_model=PlanText)
def plan(
    brief: Brief,
    crew: CrewWay,
    kit: HeldKit,
    plans: PlansOf,
    only: OnlyCamera = None,
    schools: Annotated[bool, Query(description="whether to say what other ways of working would change")] = True,
) -> Response:
    """Plan a shot with the crew's kit and, where the brief leaves it open, in the crew's way."""
    if only is not None:
        kit.camera(only)
    return _sent(plan_text(plans.plan(brief, crew, kit, only, schools), plans.judgement))


@router.post("/bench", response_model=BenchAnswer)
async def answer(
    request: Request,
    brief: Brief,
    crew: CrewWay,
    kit: HeldKit,
    plans: PlansOf,
    only: OnlyCamera = None,
    whole: Annotated[bool, Query(description="with other schools, and what rests on estimates")] = True,
    x_editor: Annotated[
        str | None, Header(max_length=64, description="who asks: his newer request takes the place of an older one")
    ] = None,
) -> Response:
    """All that the Bench shows of a brief, in one answer."""
    if only is not None:
        kit.camera(only)
    if plans.desk is None:
        return await run_in_threadpool(_answered_here, brief, crew, kit, plans, only, whole)
    asked = await run_in_threadpool(plans.bench, brief, crew, kit, only, whole, x_editor)
    found = await while_wanted(request, asyncio.wrap_future(asked), asked.cancel)
    if isinstance(found, NoLegalPlan):
        raise found
    return Response(found[0], media_type="application/json")


def _answered_here(brief: Brief, crew: School, kit: CrewKit, plans: Plans, only: str | None, whole: bool) -> Response:
    made = plans.plan(brief, crew, kit, only=only, schools=whole)
    return _sent(answer_of(brief, crew, kit, made, whole, plans.judgement))


class OwnChanges(BaseModel):
    """What own numbers change of a plan, those that decide a dial first."""

    items: list[OwnChangeText]
    total: int


@router.post("/bench/own")
def own_changes(brief: Brief, crew: CrewWay, kit: HeldKit, plans: PlansOf, only: OnlyCamera = None) -> OwnChanges:
    """What each own number changes of a brief's plan: it is planned again without it."""
    if only is not None:
        kit.camera(only)
    made = plans.plan(brief, crew, kit, only)
    items = [own_change_text(one, made.given_up_stops, made.names) for one in plans.own_changes(brief, crew, kit, made)]
    return OwnChanges(items=items, total=len(items))


@router.post("/briefs/turned")
def turned_brief(
    brief: Brief,
    kit: CrewKitOf,
    scenario: Annotated[str, Query(max_length=60, description="the kind of shot that it becomes")],
    latitude: Annotated[float | None, Query(ge=-90, le=90, description="of the shoot, where it is known")] = None,
    longitude: Annotated[float | None, Query(ge=-180, le=180)] = None,
    starts_at: Annotated[Moment | None, Query(description="when the shot begins, where it is known")] = None,
) -> Brief:
    """What a brief becomes in another scenario: what was known of it is kept where it can be, its light where it fits."""
    known = latitude is not None and longitude is not None and starts_at is not None
    here = SkyHere(latitude, longitude, starts_at) if known else None  # type: ignore[arg-type]
    return turned(brief, scenario, kit.kit, kit.knowledge.scenarios, kit.knowledge.places, here)


@router.post("/briefs/placed")
def placed_brief(brief: Brief, starts_at: Moment) -> Brief:
    """The same shot as it begins at a time: its sky begins then, and lasts as long as before."""
    return brief_at(brief, starts_at)


@router.post("/interval-film")
def interval_film(asked: FilmAsked) -> IntervalFilm:
    """Two of duration, interval and time on the screen give the third."""
    return third_of_film(asked.timeline_fps, asked.duration_s, asked.interval_s, asked.screen_s)
