"""What every command shares: the program, its options, reading and saying."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any

import typer

from steady_tide import library
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadBrief, BadFile, BadInput, Fault
from steady_tide.formats.decoded import NotTaken, json_of
from steady_tide.formats.kit_file import load_sheet
from steady_tide.formats.log_json import read_log_json
from steady_tide.words.quantities import NARROW

BAD_INPUT, NO_PLAN = 2, 3

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    rich_markup_mode=None,
    help="The setting sheet for the next shot, priced in stops.",
)


@app.callback()
def _program() -> None:
    """With one command alone loaded its name is asked for all the same."""


SheetFiles = Annotated[
    list[Path] | None,
    typer.Option(
        "--sheet", help="A camera sheet as JSON or YAML; may be given more than once. Uses these cameras only."
    ),
]
AsJson = Annotated[bool, typer.Option("--json", help="Print everything as JSON.")]


def kit_of(sheets: list[Path] | None) -> Kit:
    """The demo library, or its gear around cameras from files: glass is taken to fit them."""
    kit = library.demo_kit()
    if not sheets:
        return kit
    given = tuple(load_sheet(path) for path in sheets)
    for index, camera in enumerate(given):
        if camera.id in {other.id for other in given[:index]}:
            raise BadBrief(
                Fault(str(sheets[index]), f"a camera '{camera.id}' was given before", "Give each sheet its own id.")
            )
    mounts = tuple(camera.filter_mount.fits for camera in given if camera.filter_mount.fits)
    filters = tuple(f.model_copy(update={"fits": (*f.fits, *mounts)}) if f.kind != "colour" else f for f in kit.filters)
    return kit.model_copy(update={"cameras": given, "filters": filters})


def camera_of(kit: Kit, camera: str | None) -> CameraSheet:
    """The camera that is named with --camera. Raises BadInput where there is none."""
    found = kit.camera(camera)
    if found is None:
        there = ", ".join(one.id for one in kit.cameras)
        raise BadInput(Fault("--camera", f"there is no camera '{(camera or '')[:60]}'", f"Use one of {there}."))
    return found


def own_of(path: Path) -> tuple[OwnNumber, ...]:
    """The own numbers that are switched on in a log's file. Raises BadFile."""
    return read_log_json(read_log(path), str(path)).own


def read_log(path: Path) -> bytes:
    """Read a log's file. Raises BadFile where it is too large, or not there."""
    try:
        if path.stat().st_size > sizes.LOG:
            raise BadFile(Fault(str(path), f"is larger than {sizes.in_mb(sizes.LOG)} MB", "Export fewer takes."))
        return path.read_bytes()
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None


def read_json(path: Path) -> Any:
    """Decode a JSON file. Raises BadBrief where it is none, too large, or not there."""
    try:
        if path.stat().st_size > sizes.BRIEF:
            raise BadBrief(Fault(str(path), "is larger than 1 MB", "A brief is a few lines of JSON."))
        return json_of(path.read_bytes())
    except OSError as error:
        raise BadBrief(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    except NotTaken as error:
        raise BadBrief(Fault(str(path), f"is not JSON: {error}", "Mend it there.")) from None


def say(text: str) -> None:
    """Print a text, if there is one, in plain blanks."""
    if text:
        typer.echo(text.replace(NARROW, " "))


def say_json(value: Any) -> None:
    """Print a value as JSON."""
    say(json.dumps(value, indent=2, ensure_ascii=False))
