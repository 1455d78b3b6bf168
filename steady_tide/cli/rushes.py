"""The command that measures footage."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

from steady_tide.cli.shell import BAD_INPUT, AsJson, SheetFiles, app, say
from steady_tide.core.errors import BadInput
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.formats.rushes_in import measure_clip
from steady_tide.words.rushes import clip_lines


@app.command()
def rushes(
    files: Annotated[list[Path], typer.Argument(help="Clips as the camera wrote them.")],
    sheet: SheetFiles = None,
    field_deg: Annotated[
        float | None,
        typer.Option("--field", min=1, max=179, help="Field across the frame, degrees, where it is known."),
    ] = None,
    as_json: AsJson = False,
) -> None:
    """Measure footage: exposure, noise, shake, blur, flicker, cadence, colour, sound; what a clip does not allow is doubted."""
    found: list[ClipMeasures] = []
    faults: list[str] = []
    for file in files:
        try:
            found.append(measure_clip(file, field_deg))
        except BadInput as error:
            faults += [f"{error.subject}: {fault}" for fault in error.faults]
    if as_json:
        say(json.dumps({"clips": [clip.model_dump(mode="json") for clip in found]}, indent=2, ensure_ascii=False))
    else:
        say("\n".join(line for clip in found for line in clip_lines(clip)))
    for fault in faults:
        typer.echo(fault, err=True)
    if faults:
        raise SystemExit(BAD_INPUT)
