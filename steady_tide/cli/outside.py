"""Commands about going outside, on an exported shoot: budget, card, order, presets."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Annotated
from zoneinfo import ZoneInfo

import typer

from steady_tide import library
from steady_tide.cli.shell import AsJson, SheetFiles, app, kit_of, say, say_json
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.day import local_day
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.mends import Failing, mends
from steady_tide.core.outing.order import order_of
from steady_tide.core.outing.planned import Outing, outing_of
from steady_tide.core.outing.presets import named, presets_of_day
from steady_tide.core.outing.schedule import day_asked, day_ends
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities.errors import BadBrief, BadFile, Fault
from steady_tide.core.shoot.shoot_file import ShootFile
from steady_tide.formats.card_html import Ground, write_cards
from steady_tide.formats.card_pdf import Paper, write_card_pdf
from steady_tide.formats.shoot_zip import read_shoot_file
from steady_tide.words.budgets import BudgetText, budget_text
from steady_tide.words.days import whole_day
from steady_tide.words.mends import MendText, mend_text
from steady_tide.words.orders import OrderText, order_text
from steady_tide.words.presets import PresetsText, presets_text
from steady_tide.words.quantities import stops as in_stops

ShootPath = Annotated[Path, typer.Argument(metavar="SHOOT.json", help="A shoot as exported: its JSON or its ZIP.")]
NO_ORDER = 3


def _shoot(path: Path) -> ShootFile:
    try:
        return read_shoot_file(path.read_bytes(), path.name)
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None


def _planner(brief: Brief, kit: Kit, school: School) -> Plan:
    return plan_shot(brief, kit, library.knowledge(), crew=school, schools=False)


def _school(shoot: ShootFile) -> School:
    return shoot.crew.school if shoot.crew else School()


def day_of(path: Path, sheets: list[Path] | None) -> tuple[ShootFile, Kit, Outing]:
    shoot, kit = _shoot(path), kit_of(sheets)
    return shoot, kit, outing_of(shoot, kit, _planner)


def _where(shoot: ShootFile) -> DayPlace:
    return DayPlace(
        title=shoot.title,
        place=shoot.place,
        day=shoot.day,
        zone=ZoneInfo(shoot.zone),
        latitude=shoot.latitude,
        longitude=shoot.longitude,
        cloud=shoot.cloud or "clear",
    )


@app.command()
def budget(
    shoot: ShootPath,
    sheet: SheetFiles = None,
    mend: Annotated[bool, typer.Option("--mend", help="Try what would mend the first failure of each camera.")] = False,
    as_json: AsJson = False,
) -> None:
    """Say what is left of charge, cards, coolness and flight after each shot of a day."""
    read, kit, outing = day_of(shoot, sheet)
    knowledge = library.knowledge()
    found = budget_text(budget_of(outing, kit, knowledge))

    def replan(brief: Brief, other: Kit, camera: str) -> Plan:
        return plan_shot(brief, other, knowledge, crew=_school(read), only=camera, schools=False)

    ways: dict[str, list[MendText]] = {}
    if mend:
        for camera in found.cameras:
            row = next((row for row in camera.shots if row.key == camera.first_fail), None)
            shot = outing.shot(row.key) if row else None
            if row and shot:
                failing = Failing(outing, shot, row.fails[0], kit, knowledge, replan)
                ways[row.key] = [mend_text(way, shot.plan.names) for way in mends(failing)]
    if as_json:
        said = found.model_dump(mode="json")
        if mend:
            said["mends"] = {key: [way.model_dump(mode="json") for way in tried] for key, tried in ways.items()}
        say_json(said)
        return
    say("\n".join(_budget_lines(found, {key: [way for way in tried if way.works] for key, tried in ways.items()})))


def _budget_lines(found: BudgetText, ways: dict[str, list[MendText]]) -> list[str]:
    lines = []
    for camera in found.cameras:
        cells = "1 cell" if camera.cells == 1 else f"{camera.cells} cells"
        lines.append(f"{camera.name}: {cells}, {camera.cells_wh:g} Wh; {camera.cards_gb:.0f} GB")
        for row in camera.shots:
            lines.append(
                f"  {'x' if row.fails else ' '} {row.title:<34} {100 * row.battery_left:3.0f} % {row.wh_left:5.1f} Wh  {row.gb_left:5.0f} GB  {row.heat.peak_c:3.0f} of {row.heat.limit_c:.0f} C"
            )
            lines += [f"      {fail.text}" for fail in row.fails]
            lines += [
                f"      would do: {way.text} ({_signed(way.given_up_stops)} stops)" for way in ways.get(row.key, [])
            ]
    lines += [f"no plan: {entry.title}: {entry.why}" for entry in found.without]
    return lines


def _signed(stops: float) -> str:
    return f"{'+' if stops >= 0 else ''}{in_stops(stops)}"


@app.command()
def presets(shoot: ShootPath, sheet: SheetFiles = None, as_json: AsJson = False) -> None:
    """Find the presets and quick buttons that leave the fewest taps through a day."""
    read, _, outing = day_of(shoot, sheet)
    found = [presets_text(plan) for plan in named(presets_of_day(outing, time.monotonic), read.rules.preset_names)]
    if as_json:
        say_json({"items": [plan.model_dump(mode="json") for plan in found], "total": len(found)})
    else:
        say("\n".join(line for plan in found for line in _preset_lines(plan)))


def _preset_lines(plan: PresetsText) -> list[str]:
    proof = "" if plan.proven else ", the best found in time"
    lines = [f"{plan.name}: {plan.taps} taps, {plan.taps_by_menu} by the menu alone{proof}"]
    lines += [f"  store {preset.number}: {preset.name}" for preset in plan.presets]
    if plan.quick:
        lines.append(f"  on buttons: {', '.join(plan.labels[dial] for dial in plan.quick)}")
    for step in plan.steps:
        begun = f"from preset {step.preset}" if step.preset else "go on"
        turned = ", ".join(f"{plan.labels[change.dial]} {change.value}" for change in step.changes) or "nothing"
        lines.append(f"    {step.title}: {begun}, change {turned} ({step.taps} taps)")
    return lines


@app.command()
def card(
    shoot: ShootPath,
    pdf: Annotated[Path | None, typer.Option(help="Write the cards to this file, one page a shot.")] = None,
    html: Annotated[Path | None, typer.Option(help="Write the cards to this file, self-contained.")] = None,
    paper: Annotated[str, typer.Option(help="a6, a5 or letter.")] = "a6",
    ground: Annotated[str, typer.Option(help="day, night or red; for --html.")] = "day",
    camera: Annotated[str | None, typer.Option(help="Only this camera's day, by its id.")] = None,
    shot: Annotated[int | None, typer.Option(help="Only this shot, by its number in the file, from 1.")] = None,
    sheet: SheetFiles = None,
) -> None:
    """Write the field cards of a day as PDF or as HTML that works without a network."""
    if pdf is None and html is None:
        raise BadBrief(Fault("card", "has nowhere to go", "Give --pdf FILE or --html FILE."))
    papers: dict[str, Paper] = {"a6": "a6", "a5": "a5", "letter": "letter"}
    grounds: dict[str, Ground] = {"day": "day", "night": "night", "red": "red"}
    for option, value, known in (("--paper", paper, papers), ("--ground", ground, grounds)):
        if value not in known:
            raise BadBrief(Fault(option, f"there is no '{value}'", f"Use one of {', '.join(known)}."))
    read, kit, outing = day_of(shoot, sheet)
    key = None if shot is None else str(shot)
    if camera is not None and camera not in {planned.sheet.id for planned in outing.shots}:
        raise BadBrief(Fault("--camera", f"'{camera}' films nothing that day", "See: steady-tide budget."))
    if key is not None and outing.shot(key) is None:
        raise BadBrief(Fault("--shot", f"there is no planned shot {key}", f"The file has {len(read.shots)}."))
    stored = named(presets_of_day(outing, time.monotonic), read.rules.preset_names)
    cards = whole_day(outing, _where(read), kit, library.knowledge(), _school(read), stored, camera, key)
    if pdf is not None:
        pdf.write_bytes(write_card_pdf(cards, papers[paper]))
    if html is not None:
        ticks = {str(n): entry.ticks for n, entry in enumerate(read.shots, start=1)}
        noted = {str(n): entry.really_set for n, entry in enumerate(read.shots, start=1)}
        text = write_cards(cards, f"{read.title}-{read.day or ''}", grounds[ground], ticks, noted)
        html.write_text(text, encoding="utf-8")
    say(f"{len(cards.cards)} {'card' if len(cards.cards) == 1 else 'cards'} written.")


@app.command()
def order(
    shoot: ShootPath,
    seconds: Annotated[float, typer.Option(min=0.5, max=600, help="How long to look.")] = 10.0,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """Find the order of the day that gives up least. Ctrl-C ends the search with what it has."""
    read, kit, outing = day_of(shoot, sheet)
    knowledge, where = library.knowledge(), _where(read)
    day = read.day or next((s.starts_at.astimezone(where.zone).date() for s in outing.shots if s.starts_at), None)
    if day is None:
        raise BadFile(Fault(f"{shoot.name}: day", "is not known", "Give the shoot its day."))
    begin, end = day_ends(read.rules, local_day(day, where.zone)[0])

    def replan(brief: Brief, camera: str) -> Plan:
        return plan_shot(brief, kit, knowledge, crew=_school(read), only=camera, schools=False)

    task = day_asked(outing, where, read.rules, (begin, end), kit, knowledge, replan)
    found = order_text(order_of(task, time.monotonic, seconds))
    if as_json:
        say_json(found.model_dump(mode="json"))
    else:
        say("\n".join(_order_lines(found, where.zone)))
    if not found.feasible:
        raise SystemExit(NO_ORDER)


def _order_lines(found: OrderText, zone: ZoneInfo | object) -> list[str]:
    if not found.feasible:
        if not found.clash:
            return ["No order was found in the time given. Give it longer with --seconds."]
        return ["The day cannot be had as wished. These exclude each other:", *(f"  {wish}" for wish in found.says)]
    assert isinstance(zone, ZoneInfo)
    lines = [
        f"{place.starts_at.astimezone(zone):%H:%M} to {place.ends_at.astimezone(zone):%H:%M}  {place.title}{_moved(place.moved_min)}"
        for place in found.shots
    ]
    proof = (
        "no order gives up less" if found.proven else f"none gives up less than {in_stops(found.at_least_stops or 0.0)}"
    )
    lines.append(f"gives up {in_stops(found.given_up_stops or 0.0)} stops; {proof} ({found.seconds:.1f} s)")
    if found.left_out_says:
        lines += ["Not placed:", *(f"  {why}" for why in found.left_out_says)]
    if found.unseen_says:
        lines.append(found.unseen_says)
    return lines


def _moved(minutes: int | None) -> str:
    if not minutes:
        return ""
    return f"  ({abs(minutes)} min {'later' if minutes > 0 else 'earlier'})"
