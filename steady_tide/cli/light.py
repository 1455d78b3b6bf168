"""Commands about light: light, day, water."""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path
from typing import Annotated
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
import typer

from steady_tide import library
from steady_tide.cli.shell import AsJson, app, read_json, say
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.light.account import steps
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.pictures import water_picture
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sources import WaterLight
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.moments import is_within
from steady_tide.formats.day_csv import write_day_csv
from steady_tide.words.light import source_words, steps_text
from steady_tide.words.quantities import stops as in_stops


@app.command()
def light(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Say how much light a brief has, of which colour, and what each step contributes in stops."""
    what, world = read_brief(read_json(brief)), library.knowledge().world
    found = resolve(what.light, world, what.subject.distance_m)
    told = steps_text(steps(what.light, world, what.subject.distance_m))
    if as_json:
        said = {
            "light": {**found.model_dump(mode="json"), "source": source_words(found.source)},
            "steps": [step.model_dump(mode="json") for step in told],
        }
        say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    low, high = found.ev100
    lines = [
        f"{what.title}: {source_words(found.source)}",
        f"EV {in_stops(low)} to {in_stops(high)}, ripple {found.ripple:.0%}",
    ]
    lines += [f"{_signed(step.stops[0], n)} {_signed(step.stops[1], n)}  {step.name}" for n, step in enumerate(told)]
    lines.append(f"balance {found.balance_k[0]} to {found.balance_k[1]} K")
    if found.deepest_m is not None:
        lines += [
            f"red, green, blue {', '.join(in_stops(s) for s in found.colour_stops[end])} stops at the {name} end"
            for end, name in ((0, "dim"), (1, "bright"))
        ]
    say("\n".join(lines))


def _signed(stops: float, place: int) -> str:
    """The first step says where the light starts, the others what they change."""
    return f"{in_stops(stops):>6}" if place == 0 else f"{('+' if stops >= 0 else '') + in_stops(stops):>6}"


@app.command()
def day(
    latitude: Annotated[float, typer.Argument(min=-90, max=90, help="Degrees, north positive.")],
    longitude: Annotated[float, typer.Argument(min=-180, max=180, help="Degrees, east positive.")],
    on: Annotated[str, typer.Argument(metavar="DATE", help="Such as 2026-10-11.")],
    tz: Annotated[str, typer.Option(help="Time zone of the place, such as Europe/London.")] = "UTC",
    cloud: Annotated[str, typer.Option(help="clear, haze, bright_cloud, overcast or storm.")] = "clear",
    as_csv: Annotated[bool, typer.Option("--csv", help="Print every minute as CSV.")] = False,
) -> None:
    """Say how the light goes through a day at a place. South and west need -- before them: day -- -34 18 2026-10-11."""
    stops = library.knowledge().sky
    try:
        zone, date_ = ZoneInfo(tz), date.fromisoformat(on)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        wrong = "--tz" if isinstance(error, ZoneInfoNotFoundError) else "DATE"
        what = f"there is no zone '{tz[:40]}'" if wrong == "--tz" else f"'{on[:40]}' is no date"
        raise BadBrief(Fault(wrong, what, "Give such as 2026-10-11 and Europe/London.")) from None
    if cloud not in stops.cloud:
        raise BadBrief(Fault("--cloud", f"there is no sky '{cloud}'", f"Use one of {', '.join(stops.cloud)}."))
    if not is_within(date_):
        raise BadBrief(Fault("DATE", f"the year {date_.year} is out of reach", "Give a year from 1900 to 2199."))
    found = day_of_light(latitude, longitude, *local_day(date_, zone), stops, cloud)
    if as_csv:
        typer.echo(write_day_csv(found, zone), nl=False)
        return
    noon = int(np.argmax(found.sun_deg))
    lines = [
        f"brightest EV {found.level_ev100.max():.1f} on level ground, {found.facing_ev100.max():.1f} facing the sun",
        f"sun highest {found.sun_deg[noon]:.1f} degrees at {found.moment(noon).astimezone(zone):%H:%M}, moon {found.night_moon_lit:.0%} lit",
    ]
    lines += [
        f"{w.start.astimezone(zone):%H:%M} to {w.end.astimezone(zone):%H:%M}  {w.kind.replace('_', ' ')}"
        for w in found.windows
    ]
    say("\n".join(lines))


@app.command()
def water(
    kind: Annotated[
        str, typer.Argument(metavar="TYPE", help="A water type: I, IA, IB, II, III, 1C, 3C, 5C, 7C or 9C.")
    ],
    depth: Annotated[str, typer.Option(help="From and to, metres, such as 3:7.")],
    distance: Annotated[float, typer.Option(min=0.01, max=100, help="From subject to lens, metres.")] = 1.0,
    as_json: AsJson = False,
) -> None:
    """Say what a water does to red, green and blue, which filter balances it where, and where red ends."""
    top, _, bottom = depth.partition(":")
    ends = [number_of(part) for part in (top, bottom or top)]
    if None in ends:
        raise BadBrief(Fault("--depth", f"'{depth}' is no pair of depths", "Give such as 3:7, the shallower first."))
    source = {"kind": "water", "surface": {"kind": "meter", "ev100": [15, 15]}, "depth_m": ends, "water_type": kind}
    what = read_brief({"light": source, "subject": {"distance_m": [distance, distance]}})
    assert isinstance(what.light, WaterLight)
    filters = [
        ("none", (0.0, 0.0, 0.0)),
        *((f.id, f.band_stops) for f in library.demo_kit().filters if f.kind == "colour"),
    ]
    world = library.knowledge().world
    picture = water_picture(what.light, world, (distance, distance), filters)
    found = resolve(what.light, world, (distance, distance))
    if as_json:
        said = {**picture.model_dump(mode="json"), "colour_stops": found.colour_stops, "red_left": found.red_left}
        say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    lines = [f"{picture.water}: red is down to a tenth at {picture.red_gone_m:.1f} m"]
    for end, name in ((1, "shallow"), (0, "deep")):
        red, green, blue = (in_stops(stops) for stops in found.colour_stops[end])
        lines.append(
            f"{name} end: red {red}, green {green}, blue {blue} stops; {found.red_left[end]:.0%} of the red is left"
        )
    for entry in picture.filters:
        where = (
            "nowhere within 40 m"
            if entry.depth_m is None
            else f"from {entry.depth_m[0]:.1f} to {entry.depth_m[1]:.1f} m"
        )
        lines.append(f"{entry.id.replace('_', ' '):<10} balances {where}")
    say("\n".join(lines))


def number_of(text: str) -> float | None:
    """A number as typed. Returns None where it is none."""
    try:
        return float(text)
    except ValueError:
        return None
