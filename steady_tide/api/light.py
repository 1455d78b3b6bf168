"""Routes of the light: a shoot's day, glass through it, the instruments' pictures, the meter, tracks and dives."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np
from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.services import services_at
from steady_tide.api.shared import AsideDesk, CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.light.day import DayOfLight, HourOfSky, Window, day_of_light, local_day
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sky import Cloud
from steady_tide.core.light.sources import WaterLight
from steady_tide.core.outing.day import glass_through_day
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, DeviceSilent, Fault
from steady_tide.core.shoot.track import Track
from steady_tide.devices.light_meter import MeterReading
from steady_tide.devices.sky import SkyService
from steady_tide.formats.day_csv import write_day_csv
from steady_tide.formats.day_svg import write_day_svg
from steady_tide.formats.gpx import read_track
from steady_tide.formats.uddf import Dive, read_dive
from steady_tide.formats.windows_ics import write_windows_ics
from steady_tide.services.days import kit_for, outing_of_rows
from steady_tide.services.isolated_reading import read_aside
from steady_tide.services.planning_pool import Desk
from steady_tide.store.shoots import get_shoot
from steady_tide.store.shots import get_shot, page_of
from steady_tide.store.tables import Shoot
from steady_tide.words.glass import SpanText, span_text

router = station("light")
SENT_STEP_S, FILE_STEP_S = 300.0, 60.0
NIGHT_AFTER = timedelta(hours=12)  # of a day that its last shots run into
CLOUD_IF_NOTHING_KNOWN: Cloud = "clear"


class SkyFacts(BaseModel):
    """Which sky a day was worked out with, who said so, and since when."""

    chosen: bool
    source: str
    made_at: datetime | None
    problem: str | None
    hours: list[HourOfSky]


class DayOut(BaseModel):
    """The light of a shoot's day, a value every step from local midnight on."""

    start: datetime
    end: datetime
    zone: str
    step_s: float
    sun_deg: list[float]
    moon_deg: list[float]
    moon_lit: float
    level_ev100: list[float]
    facing_ev100: list[float]
    kelvin: list[float]
    windows: list[Window]
    sky: SkyFacts


class TrackLight(BaseModel):
    """The light at one point of a track: level ground and what faces the sun, clear sky."""

    at: datetime
    level_ev100: float
    facing_ev100: float


class TrackOut(BaseModel):
    """A track, with the light along the way under a clear sky."""

    track: Track
    light: list[TrackLight]


class DiveLight(BaseModel):
    """Light and colour at one moment of a dive."""

    seconds: float
    depth_m: float
    ev100: float
    red_stops: float
    green_stops: float
    blue_stops: float


class DiveOut(BaseModel):
    """A dive, with the light and the colour along it."""

    dive: Dive
    light: list[DiveLight]


class GlassTimes(BaseModel):
    """When glass is changed if a shot is held through its shoot's day."""

    items: list[SpanText]
    total: int


def _day(
    service: SkyService, shoot: Shoot, step_s: float, until: datetime | None = None
) -> tuple[DayOfLight, SkyFacts]:
    day, latitude, longitude = shoot.day, shoot.latitude, shoot.longitude
    if day is None or latitude is None or longitude is None:
        missing = [name for name in ("day", "latitude", "longitude") if getattr(shoot, name) is None]
        raise BadInput(
            *(
                Fault(name, "is not known of this shoot", "Give it, and the light of the day follows.")
                for name in missing
            )
        )
    start, end = local_day(day, ZoneInfo(shoot.zone))
    end = min(max(end, until or end), end + NIGHT_AFTER)
    told = _sky(service, shoot, latitude, longitude, start, end)
    found = day_of_light(latitude, longitude, start, end, library.knowledge().sky, told.hours, step_s=step_s)
    return found, told


def _sky(
    service: SkyService, shoot: Shoot, latitude: float, longitude: float, start: datetime, end: datetime
) -> SkyFacts:
    """The person's own choice, else the forecast; where that fails, a clear sky, and it is said."""
    if shoot.cloud is not None:
        hours = [HourOfSky.model_validate({"start": start, "cloud": shoot.cloud})]
        return SkyFacts(chosen=True, source="your own choice", made_at=None, problem=None, hours=hours)
    try:
        forecast = service.forecast(latitude, longitude, start, end)
    except DeviceSilent as silent:
        hours = [HourOfSky(start=start, cloud=CLOUD_IF_NOTHING_KNOWN)]
        return SkyFacts(chosen=False, source="a clear sky", made_at=None, problem=str(silent), hours=hours)
    return SkyFacts(
        chosen=False, source=forecast.source, made_at=forecast.made_at, problem=None, hours=list(forecast.hours)
    )


def _last_end(session: Session, shoot_id: UUID) -> datetime | None:
    """When the last shot of a shoot is over."""
    rows, _ = page_of(session, shoot_id, 0, sizes.SHOTS)
    ends = [row.starts_at + timedelta(seconds=row.summary.get("lasts_s", 0.0)) for row in rows if row.starts_at]
    return max(ends, default=None)


@router.get("/shoots/{shoot_id}/light")
def shoot_light(session: SessionOf, request: Request, shoot_id: UUID) -> DayOut:
    """The light of a shoot's day, every five minutes, and of the night after it as far as its shots go."""
    shoot = get_shoot(session, shoot_id)
    day, sky = _day(services_at(request).sky, shoot, SENT_STEP_S, _last_end(session, shoot_id))

    def rounded(values: np.ndarray, decimals: int = 2) -> list[float]:
        return [float(value) for value in np.round(values, decimals)]

    return DayOut(
        start=day.start,
        end=day.start + timedelta(seconds=float(day.seconds[-1])),
        zone=shoot.zone,
        step_s=SENT_STEP_S,
        sun_deg=rounded(day.sun_deg),
        moon_deg=rounded(day.moon_deg),
        moon_lit=day.night_moon_lit,
        level_ev100=rounded(day.level_ev100),
        facing_ev100=rounded(day.facing_ev100),
        kelvin=rounded(day.kelvin, 0),
        windows=list(day.windows),
        sky=sky,
    )


def _named(shoot: Shoot, ending: str, media_type: str, content: str | bytes) -> Response:
    plain = "".join(c if c.isascii() and c.isalnum() else "-" for c in shoot.title.lower()).strip("-") or "shoot"
    disposition = f'attachment; filename="{plain}-light.{ending}"'
    return Response(content, media_type=media_type, headers={"Content-Disposition": disposition})


@router.get("/shoots/{shoot_id}/light.csv", response_class=Response)
def shoot_light_csv(session: SessionOf, request: Request, shoot_id: UUID) -> Response:
    """The light of a shoot's day as CSV, every minute."""
    shoot = get_shoot(session, shoot_id)
    day, _ = _day(services_at(request).sky, shoot, FILE_STEP_S)
    return _named(shoot, "csv", "text/csv", write_day_csv(day, ZoneInfo(shoot.zone)))


@router.get("/shoots/{shoot_id}/light.svg", response_class=Response)
def shoot_light_svg(session: SessionOf, request: Request, shoot_id: UUID) -> Response:
    """The light of a shoot's day as a drawing."""
    shoot = get_shoot(session, shoot_id)
    day, _ = _day(services_at(request).sky, shoot, FILE_STEP_S)
    title = f"{shoot.title}, {shoot.day:%d %B %Y}" if shoot.day else shoot.title
    return _named(shoot, "svg", "image/svg+xml", write_day_svg(day, ZoneInfo(shoot.zone), title))


@router.get("/shoots/{shoot_id}/light.ics", response_class=Response)
def shoot_light_ics(session: SessionOf, request: Request, shoot_id: UUID) -> Response:
    """The light windows of a shoot's day as iCalendar."""
    shoot = get_shoot(session, shoot_id)
    day, _ = _day(services_at(request).sky, shoot, FILE_STEP_S)
    return _named(
        shoot, "ics", "text/calendar", write_windows_ics(shoot.title, shoot.place, day.windows, datetime.now(UTC))
    )


@router.get("/shots/{shot_id}/glass-times")
def shot_glass_times(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> GlassTimes:
    """When glass is changed if this shot comes early or late. None where its light does not follow the hour."""
    shot = get_shot(session, shot_id)
    zone = ZoneInfo(get_shoot(session, shot.shoot_id).zone)
    outing = outing_of_rows(session, [shot], crew, gear, plans)
    kit = kit_for(outing, gear)
    spans = [span for planned in outing.shots for span in glass_through_day(planned, kit, gear.knowledge, zone, crew)]
    names = {place.id: place.name for piece in kit.filters for place in piece.positions()}
    return GlassTimes(items=[span_text(span, names) for span in spans], total=len(spans))


@router.post("/meter/readings", status_code=201)
def take_reading(request: Request) -> MeterReading:
    """Ask the light meter for a reading."""
    meter = services_at(request).meter
    if meter is None:
        raise DeviceSilent("There is no light meter here. Type what yours shows.")
    return MeterReading.model_validate(meter.read())


XML_BODY = {"requestBody": {"content": {"application/xml": {"schema": {"type": "string"}}}, "required": True}}


@router.post("/tracks", openapi_extra=XML_BODY)
async def track(request: Request, desk: AsideDesk) -> TrackOut:
    """Read a GPX track: place, times, speed, and the light along the way. Stores nothing."""
    # Reading takes long enough to hold up everyone else.
    return await run_in_threadpool(_track_out, desk, await request.body())


def _track_out(desk: Desk, data: bytes) -> TrackOut:
    found = read_aside(desk, read_track, data)
    sky = library.knowledge().sky
    light = []
    for point in found.points:
        day = day_of_light(point.latitude, point.longitude, point.at, point.at + timedelta(minutes=1), sky)
        light.append(
            TrackLight(at=point.at, level_ev100=float(day.level_ev100[0]), facing_ev100=float(day.facing_ev100[0]))
        )
    return TrackOut(track=found, light=light)


@router.post("/dives", openapi_extra=XML_BODY)
async def dive(
    request: Request,
    desk: AsideDesk,
    water_type: Annotated[str, Query(max_length=20)] = "1C",
    surface_ev100: Annotated[float, Query(ge=-12, le=20)] = 14.0,
) -> DiveOut:
    """Read a UDDF dive profile: depths, bottom time, and light and colour along it. Stores nothing."""
    return await run_in_threadpool(_dive_out, desk, await request.body(), water_type, surface_ev100)


def _dive_out(desk: Desk, data: bytes, water_type: str, surface_ev100: float) -> DiveOut:
    found = read_aside(desk, read_dive, data)
    world = library.knowledge().world
    light = []
    for sample in found.samples:
        here = WaterLight.model_validate(
            {
                "kind": "water",
                "surface": {"kind": "meter", "ev100": [surface_ev100, surface_ev100]},
                "depth_m": [min(sample.depth_m, 300.0)] * 2,
                "water_type": water_type,
            }
        )
        at = resolve(here, world)
        red, green, blue = at.colour_stops[0]
        light.append(
            DiveLight(
                seconds=sample.seconds,
                depth_m=sample.depth_m,
                ev100=at.ev100[0],
                red_stops=red,
                green_stops=green,
                blue_stops=blue,
            )
        )
    return DiveOut(dive=found, light=light)
