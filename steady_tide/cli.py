"""steady-tide: the same core from the shell, without server or database."""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path
from typing import Annotated, Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
import typer

from steady_tide import library
from steady_tide.core import wording
from steady_tide.core.brief import read_brief
from steady_tide.core.card import card_of
from steady_tide.core.errors import BadBrief, BadInput, Fault, NoLegalPlan
from steady_tide.core.kit import Kit
from steady_tide.core.light.account import steps
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.pictures import water_picture
from steady_tide.core.light.sources import WaterLight, resolve
from steady_tide.core.planning.plan import Plan, RankedCamera
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.sheet import CameraSheet
from steady_tide.formats.card_html import write_card
from steady_tide.formats.day_csv import write_day_csv

BAD_INPUT, NO_PLAN = 2, 3
LARGEST_BRIEF_BYTES = 1_000_000

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    rich_markup_mode=None,
    help="The setting sheet for the next shot, priced in stops.",
)

SheetFiles = Annotated[
    list[Path] | None,
    typer.Option("--sheet", help="A camera sheet as JSON; may be given more than once. Uses these cameras only."),
]
AsJson = Annotated[bool, typer.Option("--json", help="Print everything as JSON.")]


@app.command()
def plan(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    sheet: SheetFiles = None,
    as_json: AsJson = False,
    explain: Annotated[
        str | None, typer.Option(help="Print one dial only: its reason and what each of its values would cost.")
    ] = None,
    card: Annotated[
        Path | None, typer.Option(help="Write the field card to this file, as self-contained HTML.")
    ] = None,
) -> None:
    """Plan a shot: read a brief, print the setting sheet."""
    what = read_brief(_read_json(brief))
    kit, knowledge = _kit(sheet), library.knowledge()
    answer = plan_shot(what, kit, knowledge)
    if card is not None:
        chosen = next(camera for camera in kit.cameras if camera.id == answer.camera.id)
        card.write_text(write_card(card_of(what, answer, chosen, knowledge), key=what.title), encoding="utf-8")
    if explain is not None:
        _explain(answer, explain, as_json)
    else:
        _say(answer.model_dump_json(indent=2) if as_json else "\n".join(_lines(what.title, answer)))


@app.command()
def cameras(
    brief: Annotated[Path | None, typer.Argument(help="A brief as JSON: ranks the cameras for it.")] = None,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """List the cameras of the kit; with a brief, rank them for that shot and say why."""
    kit = _kit(sheet)
    if brief is None:
        listed = [_about(camera) for camera in kit.cameras]
        if as_json:
            _say(json.dumps({"items": listed, "total": len(listed)}, indent=2, ensure_ascii=False))
        else:
            _say("\n".join(f"{c['id']:<14} {c['name']:<14} {c['kind']:<8} {c['note']}" for c in listed))
        return
    answer = plan_shot(read_brief(_read_json(brief)), kit, library.knowledge(), schools=False)
    if as_json:
        ranked = [camera.model_dump(mode="json") for camera in answer.cameras]
        _say(json.dumps({"items": ranked, "total": len(ranked)}, indent=2, ensure_ascii=False))
    else:
        _say("\n".join(_ranked_line(camera) for camera in answer.cameras))


@app.command("check-sheet")
def check_sheet(
    files: Annotated[list[Path], typer.Argument(help="Camera sheets as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Check camera sheets: form, sense and limits. Names every fault with its path."""
    faults: list[Fault] = []
    about = []
    for file in files:
        try:
            about.append(_about(library.load_sheet(file)))
        except BadInput as error:
            faults.extend(error.faults)
    if as_json:
        said = [{"where": fault.where, "what": fault.what, "mend": fault.mend} for fault in faults]
        _say(json.dumps({"sheets": about, "faults": said}, indent=2, ensure_ascii=False))
    else:
        _say("\n".join(f"{c['name']} ({c['id']}): good. {c['modes']} modes, {c['lenses']} lenses." for c in about))
        for fault in faults:
            typer.echo(f"camera sheet: {fault}", err=True)
    if faults:
        raise SystemExit(BAD_INPUT)


@app.command()
def light(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Say how much light a brief has, of which colour, and what each step contributes in stops."""
    what, world = read_brief(_read_json(brief)), library.knowledge().world
    found = resolve(what.light, world, what.subject.distance_m)
    told = steps(what.light, world, what.subject.distance_m)
    if as_json:
        said = {"light": found.model_dump(mode="json"), "steps": [step.model_dump(mode="json") for step in told]}
        _say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    low, high = found.ev100
    lines = [
        f"{what.title}: {found.source}",
        f"EV {wording.stops(low)} to {wording.stops(high)}, ripple {found.ripple:.0%}",
    ]
    lines += [f"{_signed(step.stops[0], n)} {_signed(step.stops[1], n)}  {step.name}" for n, step in enumerate(told)]
    lines.append(f"balance {found.balance_k[0]} to {found.balance_k[1]} K")
    if found.deepest_m is not None:
        lines += [
            f"red, green, blue {', '.join(wording.stops(s) for s in found.colour_stops[end])} stops at the {name} end"
            for end, name in ((0, "dim"), (1, "bright"))
        ]
    _say("\n".join(lines))


def _signed(stops: float, place: int) -> str:
    """The first step says where the light starts, the others what they change."""
    return f"{wording.stops(stops):>6}" if place == 0 else f"{('+' if stops >= 0 else '') + wording.stops(stops):>6}"


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
        raise BadBrief(Fault(wrong, f"{error}", "Give such as 2026-10-11 and Europe/London.")) from None
    if cloud not in stops.cloud:
        raise BadBrief(Fault("--cloud", f"there is no sky '{cloud}'", f"Use one of {', '.join(stops.cloud)}."))
    if not 1900 <= date_.year <= 2100:
        raise BadBrief(Fault("DATE", f"the year {date_.year} is out of reach", "Give a year from 1900 to 2100."))
    found = day_of_light(latitude, longitude, *local_day(date_, zone), stops, cloud)
    if as_csv:
        typer.echo(write_day_csv(found, zone), nl=False)
        return
    noon = int(np.argmax(found.sun_deg))
    lines = [
        f"brightest EV {found.level_ev100.max():.1f} on level ground, {found.facing_ev100.max():.1f} facing the sun",
        f"sun highest {found.sun_deg[noon]:.1f} degrees at {found.moment(noon).astimezone(zone):%H:%M}, moon {found.moon_lit:.0%} lit",
    ]
    lines += [
        f"{w.start.astimezone(zone):%H:%M} to {w.end.astimezone(zone):%H:%M}  {w.kind.replace('_', ' ')}"
        for w in found.windows
    ]
    _say("\n".join(lines))


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
        _say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    lines = [f"{picture.water}: red is down to a tenth at {picture.red_gone_m:.1f} m"]
    for end, name in ((1, "shallow"), (0, "deep")):
        red, green, blue = (wording.stops(stops) for stops in found.colour_stops[end])
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
    _say("\n".join(lines))


def number_of(text: str) -> float | None:
    """A number as typed. Returns None where it is none."""
    try:
        return float(text)
    except ValueError:
        return None


def _about(camera: CameraSheet) -> dict[str, Any]:
    return {
        "id": camera.id,
        "name": camera.name,
        "kind": camera.kind,
        "modes": camera.mode_count,
        "lenses": len(camera.lenses),
        "proof_depth_m": camera.proof_depth_m,
        "note": camera.note,
    }


def _kit(sheets: list[Path] | None) -> Kit:
    """The demo library, or its gear around cameras from files: glass is taken to fit them."""
    kit = library.demo_kit()
    if not sheets:
        return kit
    given = tuple(library.load_sheet(path) for path in sheets)
    for index, camera in enumerate(given):
        if camera.id in {other.id for other in given[:index]}:
            raise BadBrief(
                Fault(str(sheets[index]), f"a camera '{camera.id}' was given before", "Give each sheet its own id.")
            )
    mounts = tuple(camera.filter_mount.fits for camera in given if camera.filter_mount.fits)
    filters = tuple(f.model_copy(update={"fits": (*f.fits, *mounts)}) if f.kind == "nd" else f for f in kit.filters)
    return kit.model_copy(update={"cameras": given, "filters": filters})


def _read_json(path: Path) -> Any:
    try:
        if path.stat().st_size > LARGEST_BRIEF_BYTES:
            raise BadBrief(Fault(str(path), "is larger than 1 MB", "A brief is a few lines of JSON."))
        return json.loads(path.read_bytes())
    except OSError as error:
        raise BadBrief(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    except (ValueError, RecursionError) as error:
        raise BadBrief(Fault(str(path), f"is not JSON: {error}", "Check the brackets and commas.")) from None


def _say(text: str) -> None:
    if text:
        typer.echo(text.replace(wording.NARROW, " "))


def _ranked_line(camera: RankedCamera) -> str:
    price = "  no" if camera.given_up_stops is None else f"{camera.given_up_stops:4.1f}"
    return f"{price}  {camera.name:<14} {camera.why}"


def _explain(answer: Plan, dial: str, as_json: bool) -> None:
    if dial not in answer.profiles:
        raise BadBrief(Fault("--explain", f"there is no dial '{dial}'", f"Use one of {', '.join(answer.profiles)}."))
    values = answer.profiles[dial]
    if as_json:
        said = {
            "dial": dial,
            "value": answer.values[dial],
            "reason": answer.reasons[dial],
            "profile": [value.model_dump(mode="json") for value in values],
        }
        _say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    lines = [f"{dial}: {answer.values[dial]}", answer.reasons[dial], ""]
    for value in values:
        mark = ">" if value.label == answer.values[dial] else " "
        price = "   -" if value.given_up_stops is None else f"{value.given_up_stops:4.1f}"
        lines.append(f"{mark} {price}  {value.label:<18} {value.why_not or ''}".rstrip())
    _say("\n".join(lines))


def _lines(title: str, answer: Plan) -> list[str]:
    low, high = answer.exposure.ev100
    lines = [
        f"{title}: {answer.camera.name}",
        f"{answer.light_source}, EV {wording.stops(low)} to {wording.stops(high)}",
        "",
    ]
    lines += [
        f"{name:<22} {value:<20} {answer.reasons[name]}"
        for name, value in answer.values.items()
        if name not in answer.settled
    ]
    lines += ["", f"{wording.stops(answer.given_up_stops)} stops given up"]
    lines += [
        f"  {wording.stops(item.given_up_stops):>4}  {item.title}: {item.why}"
        for item in answer.ledger
        if item.given_up_stops >= 0.05
    ]
    severities = {"stop": "STOP", "warn": "mind", "note": "note"}
    lines += [f"  {severities[warning.severity]}: {warning.text}" for warning in answer.warnings]
    lines += [f"  safety: {caution.text}" for caution in answer.cautions]
    lines += [
        f"  others would {rival.name}: {wording.stops(rival.given_up_stops)} stops; {', '.join(f'{d} {v}' for d, v in rival.changes.items())}"
        for rival in answer.schools
    ]
    return lines


def run() -> None:
    """The command. Exits with 2 on bad input and with 3 where no legal plan exists."""
    try:
        app(standalone_mode=True)
    except BadInput as error:
        for fault in error.faults:
            typer.echo(f"{error.subject}: {fault}", err=True)
        raise SystemExit(BAD_INPUT) from None
    except NoLegalPlan as error:
        typer.echo(str(error).replace(wording.NARROW, " "), err=True)
        raise SystemExit(NO_PLAN) from None
