"""Commands of Story: films and what is missing of them, the sun and one's own shadow."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Sequence
from datetime import datetime
from pathlib import Path
from typing import Annotated
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import typer

from steady_tide import library
from steady_tide.cli.outside import ShootPath, day_of
from steady_tide.cli.shell import AsJson, SheetFiles, app, say
from steady_tide.cli.taken import LogPath, takes_of
from steady_tide.core.edit.notes import EditTake
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.moments import is_within
from steady_tide.core.story.shadow import sun_at, sun_on_framing, upright_field_deg
from steady_tide.core.story.telling import FilmFacts, Here, StoryShot, TakeCount, film_facts
from steady_tide.words.story import POINTS, film_text, story_lines, sun_lines


@app.command()
def story(shoot: ShootPath, sheet: SheetFiles = None, log: LogPath = None, as_json: AsJson = False) -> None:
    """Print the films of a shoot: their cuts, what they take, and what is missing before they cut."""
    kinds = library.framings()
    films = [film_text(told, kinds) for told in films_of(shoot, sheet, log)]
    if as_json:
        say(json.dumps({"films": [film.model_dump(mode="json") for film in films]}, indent=2, ensure_ascii=False))
        return
    if not films:
        say("This shoot has no film yet. Begin one under Story, beside the shoot's day.")
    for place, film in enumerate(films):
        say("\n".join(([""] if place else []) + story_lines(film)))


def films_of(path: Path, sheet: list[Path] | None, log: Path | None) -> list[FilmFacts]:
    """The films of an exported shoot, with the takes of a log."""
    shoot, kit, outing = day_of(path, sheet)
    planned = {shot.key: shot for shot in outing.shots}
    takes = takes_of(log, shoot.title)
    cameras = {camera.id: camera for camera in kit.cameras}
    here = None
    if shoot.latitude is not None and shoot.longitude is not None:
        here = Here(shoot.latitude, shoot.longitude)
    shots: dict[str, list[StoryShot]] = {entry.key: [] for entry in shoot.films}
    for number, entry in enumerate(shoot.shots, start=1):
        if entry.framing is None:
            continue
        found = planned.get(str(number))
        shots[entry.framing.film].append(
            StoryShot(
                key=str(number),
                brief=entry.brief,
                framing=entry.framing,
                plan=None if found is None else found.plan,
                sheet=None if found is None else cameras[found.plan.camera.id],
                starts_at=entry.starts_at,
                setup_min=entry.wishes.setup_min,
                takes=_counted(takes.get(entry.brief.title, ())),
            )
        )
    knowledge, kinds = library.knowledge(), library.framings()
    return [film_facts(entry.key, entry.film, shots[entry.key], here, kinds, knowledge) for entry in shoot.films]


def _counted(takes: Sequence[EditTake]) -> TakeCount:
    ratings = Counter(take.said.rating or "unrated" for take in takes)
    return TakeCount.model_validate(ratings)


@app.command()
def shadow(
    latitude: Annotated[float, typer.Argument(min=-90, max=90, help="Degrees, north positive.")],
    longitude: Annotated[float, typer.Argument(min=-180, max=180, help="Degrees, east positive.")],
    when: Annotated[str, typer.Argument(help="Such as 2026-10-11T15:30, in the zone of --tz.")],
    heading: Annotated[
        str, typer.Option(help="Of the camera: degrees from north by east, or a compass point such as SW.")
    ],
    height: Annotated[
        float, typer.Option(min=0.1, max=50, help="Of who films, metres; the camera is at the eye.")
    ] = 1.75,
    field: Annotated[float, typer.Option(min=1, max=170, help="Across the frame, degrees.")] = 78.0,
    shape: Annotated[str, typer.Option(help="Of the frame, such as 16:9.")] = "16:9",
    pitch: Annotated[float, typer.Option(min=-89, max=89, help="Of the camera, degrees, upwards positive.")] = 0.0,
    tz: Annotated[str, typer.Option(help="Time zone of the place, such as Europe/London.")] = "UTC",
    as_json: AsJson = False,
) -> None:
    """Say from where the sun lights a framing, and whether one's own shadow falls into it. South and west need -- before them."""
    fields = (field, upright_field_deg(field, _shape(shape)))
    found = sun_on_framing(sun_at(latitude, longitude, _moment(when, tz)), _heading(heading), height, fields, pitch)
    if as_json:
        said = {**found.model_dump(mode="json"), "own_shadow_in_frame": found.shadow.in_frame}
        say(json.dumps(said, indent=2, ensure_ascii=False))
    else:
        say("\n".join(sun_lines(found)))


def _heading(text: str) -> float:
    if text.upper() in POINTS:
        return POINTS.index(text.upper()) * 22.5
    try:
        value = float(text)
    except ValueError:
        value = float("nan")
    if not -360.0 <= value <= 360.0:
        raise BadInput(Fault("--heading", f"'{text[:40]}' is no heading", "Give degrees from 0 to 360, or such as SW."))
    return value % 360.0


def _shape(text: str) -> float:
    wide, _, high = text.partition(":")
    if not (wide.isdecimal() and high.isdecimal() and 0 < int(wide) < 100 and 0 < int(high) < 100):
        raise BadInput(Fault("--shape", f"'{text[:40]}' is no shape", "Give such as 16:9."))
    return int(wide) / int(high)


def _moment(text: str, tz: str) -> datetime:
    try:
        found = datetime.fromisoformat(text)
        zone = ZoneInfo(tz)
    except (ValueError, ZoneInfoNotFoundError, OSError) as error:
        wrong = "--tz" if isinstance(error, ZoneInfoNotFoundError | OSError) else "WHEN"
        what = f"there is no zone '{tz[:40]}'" if wrong == "--tz" else f"'{text[:40]}' is no moment"
        raise BadInput(Fault(wrong, what, "Give such as 2026-10-11T15:30 and Europe/London.")) from None
    found = found if found.tzinfo else found.replace(tzinfo=zone)
    if not is_within(found):
        raise BadInput(Fault("WHEN", f"the year {found.year} is out of reach", "Give a year from 1900 to 2199."))
    return found
