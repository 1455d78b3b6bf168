"""A shoot as one file: the day, its people, its shots, and what the order of the day has to respect."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator, model_validator

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.recipes import Recipes
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.light.sky import Cloud
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen, faults_of
from steady_tide.core.quantities.moments import Day, Moment, known_zone
from steady_tide.core.shoot.film import Film, Framing

FORMAT: Literal["steady-tide/shoot"] = "steady-tide/shoot"
VERSION: Literal[1] = 1

Line = Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")]
Title = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^\x00]*$")]
Key = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[^\x00]*$")]
Minutes = Annotated[float, Field(ge=0, le=1440)]


class Crew(Frozen):
    """The people of a shoot and their way of working."""

    name: Title
    people: Annotated[tuple[Line, ...], Field(max_length=sizes.PEOPLE)] = ()
    school: School = School()


class TypedWindow(Frozen):
    """A span that the person types in: slack water, an opening, the hour of the ferry."""

    name: Key
    start: Moment
    end: Moment

    @model_validator(mode="after")
    def _forwards(self) -> TypedWindow:
        if self.end <= self.start:
            raise ValueError("ends before it begins; give the later time as the end")
        return self


class Way(Frozen):
    """How long it takes from one spot to another, either direction."""

    between: tuple[Key, Key]
    minutes: Minutes


class PresetName(Frozen):
    """What a person calls a preset: the one that holds the settings of a shot on a camera."""

    camera: Key
    shot: Title
    name: Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[^\x00]*$")]


class DayRules(Frozen):
    """What holds for the whole day: when it may run, its windows, its ways, and what changing over takes."""

    earliest: Moment | None = None
    latest: Moment | None = None
    windows: Annotated[tuple[TypedWindow, ...], Field(max_length=sizes.WINDOWS)] = ()
    ways: Annotated[tuple[Way, ...], Field(max_length=sizes.WAYS)] = ()
    usual_way_min: Annotated[Minutes, Field(description="between two spots that no way names")] = 10.0
    camera_change_min: Minutes = 5.0
    glass_change_min: Minutes = 2.0
    housing_min: Annotated[Minutes, Field(description="to open or close a housing with care")] = 12.0
    battery_min: Minutes = 3.0
    preset_names: Annotated[tuple[PresetName, ...], Field(max_length=sizes.PRESET_NAMES)] = ()


class ShotWishes(Frozen):
    """What one shot asks of the order of the day."""

    fixed: Annotated[bool, Field(description="its start may not be moved")] = False
    within: Annotated[
        tuple[Key, ...],
        Field(max_length=20, description="windows of the day's light, or typed ones; any of them will do"),
    ] = ()
    must: Annotated[bool, Field(description="the windows are a must; else a wish with a price")] = True
    wish_stops: Annotated[float, Field(ge=0, le=20, description="given up where a wished window is missed")] = 1.0
    spot: Line = ""
    attended: Annotated[bool, Field(description="someone stays with it while it runs")] = True
    setup_min: Minutes = 5.0


class ShotEntry(Frozen):
    """One shot of the file."""

    starts_at: Moment | None = None
    brief: Brief
    wishes: ShotWishes = ShotWishes()
    ticks: Annotated[dict[Key, bool], Field(max_length=sizes.TICKS, description="what was ticked on the card")] = Field(
        default_factory=dict
    )
    really_set: Annotated[
        dict[Key, Line],
        Field(max_length=sizes.REALLY_SET, description="what was set instead of the plan, dial by dial"),
    ] = Field(default_factory=dict)
    recipes: Annotated[Recipes, Field(description="other ways to film it, kept beside it")] = ()
    framing: Annotated[Framing | None, Field(description="what it is in a film of the shoot")] = None

    def at_one_time(self) -> ShotEntry:
        """The same shot with its sky beginning when it does. Returns another."""
        brief, starts_at = one_time(self.brief, self.starts_at)
        return self.model_copy(update={"brief": brief, "starts_at": starts_at})


class FilmEntry(Frozen):
    """A film of the file. key: by which framings name it."""

    key: Key
    film: Film


class ShootFile(Frozen):
    """A whole shoot. Plans are left out: they follow from the briefs."""

    format: Literal["steady-tide/shoot"] = FORMAT
    version: Literal[1] = VERSION
    title: Title
    place: Line = ""
    day: Day | None = None
    zone: Annotated[str, Field(max_length=64)] = "UTC"
    latitude: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude: Annotated[float, Field(ge=-180, le=180)] | None = None
    mains_hz: Literal[50, 60] = 50
    cloud: Cloud | None = None
    note: Annotated[str, Field(max_length=4000, pattern=r"^[^\x00]*$")] = ""
    crew: Crew | None = None
    rules: DayRules = DayRules()
    shots: Annotated[tuple[ShotEntry, ...], Field(max_length=sizes.SHOTS)] = ()
    films: Annotated[tuple[FilmEntry, ...], Field(max_length=sizes.FILMS)] = ()

    @model_validator(mode="after")
    def _framings_have_films(self) -> ShootFile:
        there = [entry.key for entry in self.films]
        if len(set(there)) < len(there):
            raise ValueError("two films have the same key; give each one of its own")
        for number, shot in enumerate(self.shots):
            if shot.framing is not None and shot.framing.film not in there:
                raise ValueError(
                    f"shots[{number}].framing names the film '{shot.framing.film}', which is not among films; "
                    f"use one of {', '.join(there) or 'none: add it'}"
                )
        return self

    _zone = field_validator("zone")(known_zone)


def read_shoot(data: Any, source: str = "shoot file") -> ShootFile:
    """Read a shoot from decoded JSON.

    data: a mapping as in the published format; source: its name for messages. Returns the shoot.
    Raises BadFile with every fault; a newer version says so plainly.
    """
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadFile(
            Fault(source, "is not a shoot", f'A shoot begins with {{"format": "{FORMAT}", "version": 1, ...}}.')
        )
    version = data.get("version")
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise BadFile(
            Fault(
                f"{source}: version",
                f"it was written by a newer Steady Tide (version {version}, this one reads {VERSION})",
                "Update this one, or save the shoot in the older form there.",
            )
        )
    try:
        shoot = ShootFile.model_validate(data)
        return shoot.model_copy(update={"shots": tuple(entry.at_one_time() for entry in shoot.shots)})
    except ValidationError as error:
        raise BadFile(
            *(Fault(f"{source}: {fault.where}", fault.what, fault.mend) for fault in faults_of(error))
        ) from None
