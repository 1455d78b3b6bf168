"""What the routes work with: made once with the application, found through each request."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import cast

from fastapi import FastAPI, Request

from steady_tide.core.brief.brief import School
from steady_tide.devices.light_meter import LightMeter
from steady_tide.devices.sky import SkyService
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import PresetShelf
from steady_tide.services.frame_cache import LookShelf
from steady_tide.services.plan_refresh import Keeper
from steady_tide.services.planning_pool import Desk
from steady_tide.services.plans import Plans
from steady_tide.services.practice import Asked
from steady_tide.services.search_queue import Searches
from steady_tide.services.uses import StandingShelf
from steady_tide.store.database import Database


@dataclass
class Services:
    """What the routes work with.

    database: migrated; plans: planning, remembered; refresh: whoever makes old plans anew, if somebody does; files: the process
    that reads large files and sets paper; frames: pictures that are drawn; drops: folder of clips that are handed over; passing: the same where it goes with the service; searches:
    long ones, a few at a time; presets, standing: of days and of the year, counted once; questions: of practice; sky: who knows the
    clouds; meter: for light, if there is one; school, kit: as they were last read, for when the database is away; is_ending: whether
    the service is told to stop, so that lines that stay open end with it.
    """

    database: Database
    plans: Plans
    refresh: Keeper | None
    files: Desk
    frames: LookShelf
    drops: Path
    presets: PresetShelf
    standing: StandingShelf
    sky: SkyService
    meter: LightMeter | None
    passing: TemporaryDirectory[str] | None = None
    searches: Searches = field(default_factory=Searches)
    questions: Asked = field(default_factory=Asked)
    school: School = field(default_factory=School)
    kit: CrewKit | None = None
    is_ending: Callable[[], bool] = lambda: False


def put_services(app: FastAPI, services: Services) -> None:
    """Give an application what its routes work with."""
    app.state.services = services


def services_of(app: FastAPI) -> Services:
    """What an application works with. Returns it."""
    return cast(Services, app.state.services)


def services_at(request: Request) -> Services:
    """What the application of a request works with. Returns it."""
    return services_of(request.app)
