"""The command that shows a plan before it is filmed."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any, Literal

import typer
from pydantic import ValidationError

from steady_tide import library
from steady_tide.cli.shell import AsJson, SheetFiles, app, kit_of, read_json, say
from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.quantities.errors import BadBrief, BadFile, Fault
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.formats.compressed import film
from steady_tide.services.look_frames import LookAsked, Looker
from steady_tide.words.looks import LIMITS, look_text, made_with

FILM_S = 2.0


@app.command()
def look(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    out: Annotated[Path | None, typer.Option(help="Write the frame to this file, PNG or WebP by its ending.")] = None,
    pin: Annotated[
        list[str] | None, typer.Option(help="Pin a dial, such as iso_ceiling=1600; may be given more than once.")
    ] = None,
    at: Annotated[Literal["dim", "middle", "bright"], typer.Option(help="Which moment of the light.")] = "middle",
    loupe: Annotated[bool, typer.Option("--loupe", help="The middle at delivered pixels, 480 wide.")] = False,
    graded: Annotated[
        bool | None,
        typer.Option("--graded/--recorded", help="As graded or as recorded; as the brief says if left out."),
    ] = None,
    marks: Annotated[bool, typer.Option("--marks", help="Mark what is blown and what is lost in black.")] = False,
    scene: Annotated[str | None, typer.Option(help="Another scene than the one that is most like the brief.")] = None,
    seed: Annotated[int | None, typer.Option(min=0, help="Of noise and shake, and nothing else.")] = None,
    width: Annotated[int | None, typer.Option(min=64, max=1920, help="Pixels across.")] = None,
    clip: Annotated[Path | None, typer.Option(help="Write two seconds as MP4 to this file.")] = None,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """Show a plan before it is filmed: a frame, a clip, and the numbers that they came to."""
    what = read_brief(read_json(brief))
    if out is None and clip is None and not as_json:
        raise BadBrief(Fault("--out", "nothing would be drawn", "Name a file with --out or --clip, or ask for --json."))
    form = _form_of(out)
    asked = _asked(
        brief=what, settings=dict(_pin(text) for text in pin or ()), at=at, graded=graded, marked=marks, scene=scene,
        seed=seed, form=form, loupe=(0.0, 0.0) if loupe else None, size=width or (480 if loupe else 960),
    )  # fmt: skip
    kit, knowledge, looker = kit_of(sheet), library.knowledge(), Looker()
    taking = looker.taking(asked, School(), kit, knowledge)
    found = looker.frame(asked, taking)
    if out is not None:
        _write(out, found.picture)
    if clip is not None:
        moving = asked.model_copy(update={"size": width or 640, "loupe": None})
        frames = looker.film(moving, taking, FILM_S, 0, round(FILM_S * what.delivery.fps))
        *_, made = film(frames, what.delivery.fps)
        assert isinstance(made, bytes)
        _write(clip, made)
    numbers = found.numbers
    if as_json:
        one = {
            "file": None if out is None else str(out),
            **numbers.model_dump(mode="json"),
            "chosen": taking.chosen,
            "clip": None if clip is None else str(clip),
        }
        say(json.dumps({"frames": [one]}, indent=2, ensure_ascii=False))
        return
    told = look_text(numbers)
    rows = [f"  {row.title:<28} {row.left} {row.unit}".rstrip() for row in told.rows]
    say("\n".join([f"{what.title}: {numbers.camera}, {made_with(numbers)}", *rows, told.text, LIMITS]))


def _form_of(out: Path | None) -> str:
    if out is None:
        return "webp"
    form = out.suffix.lower().lstrip(".")
    if form not in ("png", "webp"):
        raise BadBrief(Fault("--out", f"a frame cannot be written as '{out.suffix or out.name}'", "Use .png or .webp."))
    return form


def _pin(text: str) -> tuple[str, Any]:
    dial, given, value = text.partition("=")
    if not given or not dial:
        raise BadBrief(Fault("--pin", f"'{text}' is no pin", "Write DIAL=VALUE, such as iso_ceiling=1600."))
    try:
        read = json.loads(value)
    except ValueError:
        return dial.strip(), value  # a word, such as flat
    return dial.strip(), tuple(read) if isinstance(read, list) else read


def _asked(**fields: Any) -> LookAsked:
    try:
        return LookAsked(**fields)
    except ValidationError as error:
        raise BadBrief(*faults_of(error)) from None


def _write(file: Path, data: bytes) -> None:
    try:
        file.write_bytes(data)
    except OSError as error:
        raise BadFile(
            Fault(str(file), f"cannot be written ({error.strerror})", "Choose another file, or make the folder.")
        ) from None
