"""A whole day worked out once: plans, budgets, presets, glass and packing, for whoever shows a part of it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, tzinfo

from steady_tide.core.brief import School
from steady_tide.core.kit import Kit, Knowledge
from steady_tide.core.light.day import DayOfLight, day_of_light, local_day
from steady_tide.core.light.sky import Cloud
from steady_tide.core.light.sources import LightSource, PlaceLight
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.day_cards import DayAround, DayCards, cards_of
from steady_tide.core.outing.packing import Packing, packing_of
from steady_tide.core.outing.planned import Outing
from steady_tide.core.outing.presets import PresetPlan
from steady_tide.core.outing.schedule import has_sky
from steady_tide.core.planning.glass_times import GlassSpan
from steady_tide.core.planning.planner import through_day
from steady_tide.core.wording import NARROW

# Kinds of place that the sky lights: their shots stand on the curve of the day.
BY_DAY = ("full_sun", "snow_or_sand_in_sun")
GLASS_BEFORE_H, GLASS_AFTER_H = 1.0, 3.0  # of a shot's start: what somebody waiting for it may need
WORKED_OUT_STEP_S = 300.0


@dataclass(frozen=True)
class DayPlace:
    """Where and when a shoot is, as far as it is known."""

    title: str
    place: str
    day: date | None
    zone: tzinfo
    latitude: float | None = None
    longitude: float | None = None
    cloud: Cloud = "clear"

    @property
    def subtitle(self) -> str:
        """Day and place in words."""
        said = f"{self.day:%A} {self.day.day} {self.day:%B %Y}" if self.day else ""
        return " \u00b7 ".join(part for part in (said, self.place) if part)


def lit_by_day(light: LightSource) -> bool:
    """Whether the day's own light falls on a shot."""
    return has_sky(light) or (isinstance(light, PlaceLight) and light.place in BY_DAY)


def light_of(where: DayPlace, knowledge: Knowledge, ends: tuple[datetime, datetime] | None = None) -> DayOfLight | None:
    """The light there. ends: of the span, the local day unless given. Returns None where place or day are not known."""
    if where.latitude is None or where.longitude is None:
        return None
    if ends is None:
        if where.day is None:
            return None
        ends = local_day(where.day, where.zone)
    start, end = ends
    return day_of_light(
        where.latitude, where.longitude, start, end, knowledge.sky, where.cloud, step_s=WORKED_OUT_STEP_S
    )


def glass_of_day(
    outing: Outing, kit: Kit, knowledge: Knowledge, day: DayOfLight, crew: School
) -> dict[str, tuple[GlassSpan, ...]]:
    """When glass is changed around each shot that the day lights, if it comes early or late.

    outing: the planned day; kit, knowledge: as for planning; day: the light; crew: its way of working.
    Returns spans by shot, from an hour before its start to three after.
    """
    found = {}
    for shot in outing.shots:
        held = shot.plan.settings.shutter_mode == "fixed" and shot.sheet.filter_mount.fits
        if shot.starts_at is None or not held or not lit_by_day(shot.brief.light):
            continue
        spans = through_day(shot.brief, kit, knowledge, day, crew=crew, only=shot.sheet.id)
        around = [span for span in spans if span.nd is not None and _near(span, shot.starts_at)]
        if len(around) > 1:
            found[shot.key] = tuple(around)
    return found


def _near(span: GlassSpan, starts_at: datetime) -> bool:
    before = (span.end - starts_at).total_seconds() / 3600.0
    after = (span.start - starts_at).total_seconds() / 3600.0
    return before >= -GLASS_BEFORE_H and after <= GLASS_AFTER_H


def whole_day(
    outing: Outing,
    where: DayPlace,
    kit: Kit,
    knowledge: Knowledge,
    crew: School,
    presets: tuple[PresetPlan, ...],
    camera: str | None = None,
    only: str | None = None,
) -> DayCards:
    """Cards for a day.

    outing: the planned day; where: the shoot; kit, knowledge, crew: as for planning; presets: of its cameras;
    camera: id, for one camera's day; only: key, for one shot's card. Returns the cards.
    """
    budget = budget_of(outing, kit, knowledge.chemistries)
    light = light_of(where, knowledge)
    wanted = Outing(tuple(shot for shot in outing.shots if only in (None, shot.key)))
    glass = glass_of_day(wanted, kit, knowledge, light, crew) if light is not None else {}
    around = DayAround(where.zone, budget, presets, glass)
    packing = packing_words(packing_of(outing, budget, kit, knowledge)) if only is None and camera is None else ()
    made = cards_of(outing, where.title, where.subtitle, around, knowledge, camera, packing)
    if only is None:
        return made
    cards = tuple(entry for entry in made.cards if entry.key == only)
    return made.model_copy(update={"cards": cards, "presets": (), "title": cards[0].card.title if cards else ""})


def packing_words(packing: Packing) -> tuple[str, ...]:
    """A packing list to tick, in words."""
    return tuple(
        (f"{line.count}{NARROW}\u00d7{NARROW}{line.name}" if line.count > 1 else line.name)
        + (" (not in the kit)" if line.have is not None and line.have < line.count else "")
        for line in packing.lines
    )
