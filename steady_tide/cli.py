"""steady-tide: the same core from the shell, without server or database."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any

import typer

from steady_tide import library
from steady_tide.core import wording
from steady_tide.core.brief import read_brief
from steady_tide.core.card import card_of
from steady_tide.core.errors import BadBrief, BadInput, Fault, NoLegalPlan, NotPlannedYet
from steady_tide.core.kit import Kit
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.formats.card_html import write_card

BAD_INPUT, NO_PLAN = 2, 3
LARGEST_BRIEF_BYTES = 1_000_000

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    rich_markup_mode=None,
    help="The setting sheet for the next shot, priced in stops.",
)


@app.callback()
def _main() -> None:
    """Keeps `plan` a command of its own."""


@app.command()
def plan(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    sheet: Annotated[
        list[Path] | None,
        typer.Option(help="A camera sheet as JSON; may be given more than once. Plans on these cameras only."),
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print the whole plan as JSON.")] = False,
    card: Annotated[
        Path | None, typer.Option(help="Write the field card to this file, as self-contained HTML.")
    ] = None,
) -> None:
    """Plan a shot: read a brief, print the setting sheet."""
    data = _read_json(brief)
    what = read_brief(data)
    kit = library.demo_kit()
    if sheet:
        cameras = tuple(library.load_sheet(path) for path in sheet)
        kit = Kit(
            cameras=cameras,
            filters=tuple(
                f.model_copy(update={"fits": (*f.fits, *(c.filter_mount.fits or "" for c in cameras))})
                for f in kit.filters
            ),
        )
    knowledge = library.knowledge()
    answer = plan_shot(what, kit, knowledge)
    if card is not None:
        chosen = next(camera for camera in kit.cameras if camera.id == answer.camera.id)
        card.write_text(write_card(card_of(what, answer, chosen, knowledge), key=what.title), encoding="utf-8")
    typer.echo(answer.model_dump_json(indent=2) if as_json else "\n".join(_lines(what.title, answer)))


def _read_json(path: Path) -> Any:
    try:
        if path.stat().st_size > LARGEST_BRIEF_BYTES:
            raise BadBrief(Fault(str(path), "is larger than 1 MB", "A brief is a few lines of JSON."))
        return json.loads(path.read_bytes())
    except OSError as error:
        raise BadBrief(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    except (ValueError, RecursionError) as error:
        raise BadBrief(Fault(str(path), f"is not JSON: {error}", "Check the brackets and commas.")) from None


def _lines(title: str, answer: Plan) -> list[str]:
    low, high = answer.exposure.ev100
    lines = [
        f"{title}: {answer.camera.name}",
        f"{answer.light_source}, EV {wording.stops(low)} to {wording.stops(high)}",
        "",
    ]
    lines += [f"{name:<22} {value:<20} {answer.reasons[name]}" for name, value in answer.values.items()]
    lines += ["", f"{wording.stops(answer.given_up_stops)} stops given up"]
    lines += [
        f"  {wording.stops(item.given_up_stops):>4}  {item.title}: {item.why}"
        for item in answer.ledger
        if item.given_up_stops >= 0.05
    ]
    lines += [f"  mind: {warning.text}" for warning in answer.warnings]
    lines += [f"  safety: {caution.text}" for caution in answer.cautions]
    lines += [
        f"  others would {rival.name}: {wording.stops(rival.given_up_stops)} stops; {', '.join(f'{d} {v}' for d, v in rival.changes.items())}"
        for rival in answer.schools
    ]
    return [line.replace(wording.NARROW, " ") for line in lines]


def run() -> None:
    """The command. Exits with 2 on bad input and with 3 where no legal plan exists."""
    try:
        app(standalone_mode=True)
    except BadInput as error:
        for fault in error.faults:
            typer.echo(f"{error.subject}: {fault}", err=True)
        raise SystemExit(BAD_INPUT) from None
    except NotPlannedYet as error:
        typer.echo(f"brief: {error}", err=True)
        raise SystemExit(BAD_INPUT) from None
    except NoLegalPlan as error:
        typer.echo(str(error).replace(wording.NARROW, " "), err=True)
        raise SystemExit(NO_PLAN) from None
