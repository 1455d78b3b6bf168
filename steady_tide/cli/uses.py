"""Commands of usual uses: the shelf, standing presets, the set-up pass."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Annotated

import typer

from steady_tide import library
from steady_tide.cli.shell import AsJson, SheetFiles, app, camera_of, kit_of, say, say_json
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadFile, BadInput, Fault, NoLegalPlan
from steady_tide.core.uses.habits import habits_of
from steady_tide.core.uses.standing import PlannedUse, Standing, standing_of
from steady_tide.core.uses.two_uses import beside
from steady_tide.core.uses.use import Use
from steady_tide.formats.set_up_pdf import write_set_up_pdf
from steady_tide.words.uses import beside_lines, beside_text, card_lines, set_up_card, standing_lines, standing_text

Chosen = Annotated[
    list[str] | None,
    typer.Argument(metavar="[USE[=TIMES]]...", help="Uses by id, with how often in a year; all if left out."),
]
OfCamera = Annotated[str | None, typer.Option(help="Id of the camera.")]


def _chosen(said: list[str] | None) -> list[Use]:
    shelf = library.uses()
    if not said:
        return list(shelf.values())
    found = []
    for one in said:
        name, _, often = one.partition("=")
        if name not in shelf:
            raise BadInput(Fault("USE", f"there is no use '{name[:60]}'", f"Use one of {', '.join(shelf)}."))
        try:
            times = float(often) if often else shelf[name].per_year
        except ValueError:
            times = -1.0
        if not 0.0 <= times <= 10_000.0:
            raise BadInput(Fault("USE", f"'{often[:20]}' is no number of times", "Give such as night_street=20."))
        found.append(shelf[name].model_copy(update={"per_year": times}))
    return found


def _standing(kit: Kit, sheet: CameraSheet, uses: list[Use]) -> tuple[Standing | None, list[str]]:
    planned, without = [], []
    for use in uses:
        try:
            made = plan(use.brief, kit, library.knowledge(), only=sheet.id, schools=False)
        except NoLegalPlan:
            without.append(use.name)
            continue
        planned.append(PlannedUse(use.id, use.name, use.per_year, made))
    return (standing_of(sheet, planned, time.monotonic) if planned else None), without


def _say_beside(two: list[Use], camera: str | None, kit: Kit, as_json: bool) -> None:
    if len(two) != 2 or camera is None:
        raise BadInput(Fault("--beside", "takes two uses and a camera", "Give two ids and --camera ID."))
    body = camera_of(kit, camera)
    found = beside((two[0], two[1]), lambda brief: plan(brief, kit, library.knowledge(), only=body.id, schools=False))
    told = beside_text(found, kit.names)
    if as_json:
        say_json(told.model_dump(mode="json"))
        return
    say("\n".join(beside_lines(told)))


@app.command()
def uses(
    chosen: Chosen = None,
    camera: OfCamera = None,
    side: Annotated[bool, typer.Option("--beside", help="Two uses side by side on the camera.")] = False,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """List the shelf of usual uses; with --camera the presets that take the fewest taps over a year, or with --beside two of them compared."""
    mine = _chosen(chosen)
    if side:
        _say_beside(mine, camera, kit_of(sheet), as_json)
        return
    if camera is None:
        if as_json:
            say_json({"uses": [use.model_dump(mode="json") for use in mine]})
            return
        say("\n".join(f"{use.id:16} {use.per_year:4.0f} a year  {use.name}. {use.says}" for use in mine))
        return
    kit = kit_of(sheet)
    found, without = _standing(kit, camera_of(kit, camera), mine)
    if as_json:
        said = None if found is None else found.model_dump(mode="json")
        say_json({"standing": said, "without": without})
        return
    lines = [] if found is None else standing_lines(standing_text(found, {}))
    if without:
        lines.append(f"it cannot film {', '.join(without)}")
    say("\n".join(lines))


@app.command()
def setup(
    camera: Annotated[str, typer.Argument(help="Id of the camera.")],
    chosen: Annotated[
        list[str] | None, typer.Option("--use", help="A use by id, such as night_street=20; all if left out.")
    ] = None,
    sheet: SheetFiles = None,
    mains: Annotated[int, typer.Option(help="50 or 60 hertz.")] = 50,
    pdf: Annotated[Path | None, typer.Option(help="File for the card on paper.")] = None,
    as_json: AsJson = False,
) -> None:
    """Print the card by which a camera is set up once: every preset in its menu's order, and what is set once."""
    kit, mine = kit_of(sheet), _chosen(chosen)
    body = camera_of(kit, camera)
    found, _ = _standing(kit, body, mine)
    habits = habits_of(library.habits(), body, [(use.brief, use.per_year) for use in mine], mains)
    card = set_up_card(body, found, habits, {}, kit.names)
    if pdf is not None:
        try:
            pdf.write_bytes(write_set_up_pdf(card, {}))
        except OSError as error:
            raise BadFile(Fault(str(pdf), f"cannot be written ({error.strerror})", "Give another place.")) from None
    if as_json:
        say_json(card.model_dump(mode="json"))
        return
    say("\n".join(card_lines(card)))
