"""The command that measures footage."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any

import typer
from pydantic import BaseModel, ConfigDict, ValidationError

from steady_tide import library
from steady_tide.cli.shell import BAD_INPUT, AsJson, app, read_json, say
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.plan import CameraName, Exposure, Settings
from steady_tide.core.quantities.errors import BadBrief, BadInput, Fault
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.planned_and_filmed import Against, against
from steady_tide.formats.kit_file import load_sheet
from steady_tide.formats.rushes_in import Profiled, measure_clip
from steady_tide.services.rush_curves import profiled_of
from steady_tide.words.rushes import against_lines, clip_lines


class ExposureRead(Exposure):
    """The same, with whatever words stand beside."""

    model_config = ConfigDict(frozen=True, extra="ignore")


class PlanRead(BaseModel):
    """What is taken of a plan that was printed."""

    model_config = ConfigDict(frozen=True)

    settings: Settings
    exposure: ExposureRead
    camera: CameraName | None = None


@app.command()
def rushes(
    files: Annotated[list[Path], typer.Argument(help="Clips as the camera wrote them.")],
    plan: Annotated[
        Path | None, typer.Option(help="The plan as `steady-tide plan --json` printed it: what differs is told.")
    ] = None,
    field_deg: Annotated[
        float | None,
        typer.Option("--field", min=1, max=179, help="Field across the frame, degrees, where it is known."),
    ] = None,
    camera: Annotated[
        str | None, typer.Option(help="Id of the camera in the demo library, for the curve of its profile.")
    ] = None,
    sheet: Annotated[Path | None, typer.Option(help="A camera sheet as JSON or YAML, for the same.")] = None,
    profile: Annotated[
        str | None,
        typer.Option(help="Id of the profile it was filmed in; left out: the plan's, or a finished picture."),
    ] = None,
    quick: Annotated[bool, typer.Option("--quick", help="Look at bursts of frames instead of all.")] = False,
    as_json: AsJson = False,
) -> None:
    """Measure footage: exposure, noise, shake, blur, flicker, cadence, colour, sound; what a clip does not allow is doubted."""
    planned = None if plan is None else _plan_of(plan)
    if planned is not None and field_deg is None:
        field_deg = planned.exposure.field_deg
    profiled = _profiled(_sheet_of(camera, sheet, planned), profile, planned)
    found: list[ClipMeasures] = []
    faults: list[str] = []
    for file in files:
        try:
            found.append(measure_clip(file, field_deg, profiled, quick).measures)
        except BadInput as error:
            faults += [f"{error.subject}: {fault}" for fault in error.faults]
    if as_json:
        say(json.dumps({"clips": [_as_json(clip, planned) for clip in found]}, indent=2, ensure_ascii=False))
    else:
        say("\n".join(line for clip in found for line in (*clip_lines(clip), *against_lines(_against(clip, planned)))))
    for fault in faults:
        typer.echo(fault, err=True)
    if faults:
        raise SystemExit(BAD_INPUT)


def _sheet_of(camera: str | None, sheet: Path | None, planned: PlanRead | None) -> CameraSheet | None:
    """The sheet that is named, or else that of the plan's camera, where the library has it."""
    if sheet is not None:
        return load_sheet(sheet)
    named = camera or (planned.camera.id if planned is not None and planned.camera is not None else None)
    found = next((one for one in library.demo_kit().cameras if one.id == named), None)
    if camera is not None and found is None:
        names = ", ".join(one.id for one in library.demo_kit().cameras)
        raise BadBrief(Fault("--camera", f"there is no camera '{camera}'", f"Use one of {names}, or give its --sheet."))
    return found


def _profiled(sheet: CameraSheet | None, profile: str | None, planned: PlanRead | None) -> Profiled | None:
    """The curve that is to be undone; none for a finished picture."""
    if profile is not None and sheet is None:
        raise BadBrief(Fault("--profile", "needs the camera's sheet", "Name the camera with --camera or --sheet."))
    chosen = profile or (None if planned is None else planned.settings.profile)
    if sheet is None or chosen is None:
        return None
    if profile is not None and all(one.id != profile for one in sheet.profiles):
        names = ", ".join(one.id for one in sheet.profiles)
        raise BadBrief(Fault("--profile", f"the {sheet.name} has no profile '{profile}'", f"It has {names}."))
    return profiled_of(sheet, chosen)[0]


def _plan_of(path: Path) -> PlanRead:
    try:
        return PlanRead.model_validate(read_json(path))
    except ValidationError as error:
        where = ".".join(str(step) for step in error.errors()[0]["loc"])
        raise BadBrief(
            Fault(str(path), f"is no plan: {where} does not fit", "Print one with steady-tide plan BRIEF.json --json.")
        ) from None


def _against(clip: ClipMeasures, planned: PlanRead | None) -> tuple[Against, ...]:
    return () if planned is None else against(clip, planned.settings, planned.exposure, library.knowledge().limits)


def _as_json(clip: ClipMeasures, planned: PlanRead | None) -> dict[str, Any]:
    said = clip.model_dump(mode="json")
    if planned is not None:
        said["against"] = [entry.model_dump(mode="json") for entry in _against(clip, planned)]
    return said
