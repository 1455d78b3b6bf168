"""Commands about one's own gear: sheet draft, sheet table, measure noise, measure nd."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Annotated, Any

import typer
from pydantic import ValidationError

from steady_tide import library
from steady_tide.cli.shell import AsJson, app, say, say_json
from steady_tide.core.cameras.clips import draft_of
from steady_tide.core.cameras.completing import Completed, RoughSheet, complete
from steady_tide.core.cameras.known import Known
from steady_tide.core.cameras.mode_table import LARGEST_TEXT, read_mode_table, rough_modes
from steady_tide.core.measuring.glass import GlassMeasured, measure_glass
from steady_tide.core.measuring.noise_ladder import NoiseMeasured, fit_noise
from steady_tide.core.measuring.transfer import Transfer
from steady_tide.core.quantities.errors import BadBrief, BadFile, BadSheet, Fault
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.formats.frames_in import (
    MOST_FRAMES,
    Frames,
    exposure_between,
    iso_of,
    ladder_of,
    same_mode,
    usual_transfer,
)
from steady_tide.formats.kit_file import Spelling, write_sheet_file
from steady_tide.formats.media_in import facts_of_file, frames_of_file

sheet_app = typer.Typer(no_args_is_help=True, help="Begin a camera sheet.", rich_markup_mode=None)
measure_app = typer.Typer(no_args_is_help=True, help="Measure what a sheet only estimates.", rich_markup_mode=None)
app.add_typer(sheet_app, name="sheet")
app.add_typer(measure_app, name="measure")

Name = Annotated[str, typer.Option(help="Name of the camera.")]
Kind = Annotated[str, typer.Option(help="action, drone, phone or other.")]
Sensor = Annotated[str | None, typer.Option(help="Inch type of the sensor, such as 1/2.3.")]
Megapixels = Annotated[float | None, typer.Option(help="Of the sensor, millions.")]
Hours = Annotated[float | None, typer.Option(help="That a charge lasts while recording.")]
Out = Annotated[Path | None, typer.Option(help="Write the sheet to this file, as JSON or, by its ending, as YAML.")]
Curve = Annotated[
    str, typer.Option("--transfer", help="Curve of the files: linear, srgb, rec709, or usual for their kind.")
]


def _known(given: Known, **said: Any) -> Known:
    try:
        return Known.model_validate(
            {**given.model_dump(), **{name: value for name, value in said.items() if value is not None}}
        )
    except ValidationError as error:
        raise BadBrief(*faults_of(error)) from None


def _say_sheet(done: Completed, out: Path | None, as_json: bool, before: Sequence[str]) -> None:
    if done.sheet is None:
        raise BadSheet(*(Fault(where, what, mend) for where, what, mend in done.faults))
    spelling: Spelling = "yaml" if out is not None and out.suffix.lower() in (".yaml", ".yml") else "json"
    if out is not None:
        out.write_text(write_sheet_file(done.sheet, spelling), encoding="utf-8")
    if as_json:
        say(write_sheet_file(done.sheet).rstrip())
        return
    sheet = done.sheet
    lines = [*before, f"{sheet.name} ({sheet.id}): {sheet.mode_count} modes"]
    for mode in sheet.modes:
        rates = ", ".join(f"{rate:g}" for rate in mode.rates)
        lines.append(
            f"  {mode.width} x {mode.height} at {rates} fps; {', '.join(mode.views)}; {', '.join(mode.stabilisation)}; {', '.join(mode.codecs)}"
        )
    lines.append(f"{len(sheet.estimates)} of its numbers are estimates:")
    lines += [f"  {entry.field}: {entry.how}" for entry in sheet.estimates if entry.low is not None]
    if out is not None:
        lines.append(f"Written to {out}.")
    say("\n".join(lines))


@sheet_app.command()
def draft(
    files: Annotated[list[Path], typer.Argument(help="Clips and stills as the camera wrote them.")],
    name: Name = "",
    kind: Kind = "action",
    sensor: Sensor = None,
    hours: Hours = None,
    out: Out = None,
    as_json: AsJson = False,
) -> None:
    """Draft a sheet from a camera's own clips and stills. Only what their headers say is read; nothing is kept."""
    _known_kind(kind)
    begun = draft_of([facts_of_file(file) for file in files])
    sheet = {**begun.sheet, "name": name or begun.sheet.get("name", "My camera"), "kind": kind}
    known = _known(begun.known, sensor_type=sensor, battery_hours=hours)
    notes = [f"{file or 'all'}: {text}" for file, text in begun.notes]
    _say_sheet(complete(RoughSheet(sheet=sheet, known=known), library.typical()), out, as_json, notes)


@sheet_app.command()
def table(
    file: Annotated[Path, typer.Argument(help="A mode table as CSV, or as text.")],
    name: Name = "My camera",
    kind: Kind = "action",
    sensor: Sensor = None,
    megapixels: Megapixels = None,
    hours: Hours = None,
    out: Out = None,
    as_json: AsJson = False,
) -> None:
    """Make a sheet from a manual's mode table; what the table does not say is estimated, and marked so."""
    _known_kind(kind)
    try:
        data = file.read_bytes()[: 4 * LARGEST_TEXT + 1]
        read = read_mode_table(data.decode("utf-8-sig"))
    except OSError as error:
        raise BadFile(Fault(str(file), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    except UnicodeDecodeError:
        raise BadFile(Fault(str(file), "is no text in UTF-8", "Save the table as CSV.")) from None
    known = _known(Known(), sensor_type=sensor, megapixels=megapixels, battery_hours=hours)
    rough = RoughSheet(sheet={"name": name, "kind": kind, "modes": rough_modes(read.modes)}, known=known)
    doubts = [f"line {doubt.line}: {doubt.what}. {doubt.mend}" for doubt in read.doubts]
    _say_sheet(complete(rough, library.typical()), out, as_json, doubts)


def _known_kind(kind: str) -> None:
    kinds = ("action", "drone", "phone", "other")
    if kind not in kinds:
        raise BadBrief(Fault("--kind", f"there is no '{kind}'", f"Use one of {', '.join(kinds)}."))


def _transfer(text: str) -> Transfer | None:
    curves: dict[str, Transfer | None] = {"usual": None, "linear": "linear", "srgb": "srgb", "rec709": "rec709"}
    if text not in curves:
        raise BadBrief(Fault("--transfer", f"there is no '{text}'", f"Use one of {', '.join(curves)}."))
    return curves[text]


def _frames(file: Path, count: int) -> Frames:
    facts = facts_of_file(file)
    values, codes = frames_of_file(file, count)
    return Frames(facts, codes, values)


@measure_app.command()
def noise(
    frames: Annotated[list[Path], typer.Argument(help="Frames of a grey card at rising ISO, two of each if you can.")],
    iso: Annotated[
        str | None, typer.Option(help="ISO of each file in turn, such as 100,100,200; else from its data or its name.")
    ] = None,
    transfer: Curve = "usual",
    as_json: AsJson = False,
) -> None:
    """Find a sensor's read noise and full well from frames of a grey card at three ISO or more."""
    curve = _transfer(transfer)
    files = [_frames(file, MOST_FRAMES) for file in frames]
    same_mode(files)
    isos = _isos(iso, files)
    measured = fit_noise(ladder_of(files, isos, curve))
    if as_json:
        say_json(measured.model_dump(mode="json"))
    else:
        say("\n".join(_noise_lines(measured)))


def _isos(text: str | None, files: Sequence[Frames]) -> list[int]:
    if text is not None:
        parts = [part.strip() for part in text.split(",")]
        if len(parts) != len(files) or not all(part.isdigit() for part in parts):
            raise BadBrief(
                Fault("--iso", f"'{text}' does not give {len(files)} whole numbers", "Give one for each file.")
            )
        return [int(part) for part in parts]
    found = [iso_of(file.facts) for file in files]
    for file, its in zip(files, found, strict=True):
        if its is None:
            raise BadFile(
                Fault(file.facts.file, "does not say its ISO", "Name it such as card-iso800-1.png, or give --iso.")
            )
    return [its for its in found if its is not None]


def _noise_lines(measured: NoiseMeasured) -> list[str]:
    lines = [
        f"read noise {measured.read_noise_e:.2f} e, +/- {measured.read_noise_error_e:.2f}",
        f"full well {measured.full_well_e:.0f} e, +/- {measured.full_well_error_e:.0f}, at ISO {measured.base_iso}",
        f"photosites differ by {measured.unevenness:.1%}",
        "",
        "ISO     SNR  fitted",
    ]
    lines += [f"{point.iso:<6} {point.measured:5.1f}  {point.fitted:5.1f}" for point in measured.curve]
    return lines + [f"mind: {doubt.text}" for doubt in measured.doubts]


@measure_app.command()
def nd(
    with_glass: Annotated[Path, typer.Argument(metavar="WITH", help="A frame through the filter.")],
    without: Annotated[Path, typer.Argument(metavar="WITHOUT", help="The same scene without it.")],
    exposure: Annotated[
        float | None,
        typer.Option(help="Stops by which the frame with the filter was exposed more; else from their data."),
    ] = None,
    transfer: Curve = "usual",
    as_json: AsJson = False,
) -> None:
    """Find the true density of a filter, and its colour, from two frames of one scene."""
    curve = _transfer(transfer)
    behind, bare = _frames(with_glass, 1), _frames(without, 1)
    between = exposure if exposure is not None else exposure_between(behind.facts, bare.facts)
    measured = measure_glass(
        behind.values[0],
        bare.values[0],
        curve or usual_transfer(bare.facts, bare.codes),
        min(behind.codes, bare.codes),
        between or 0.0,
    )
    if as_json:
        say_json(measured.model_dump(mode="json"))
    else:
        say("\n".join(_glass_lines(measured, between is None)))


def _glass_lines(measured: GlassMeasured, taken_alike: bool) -> list[str]:
    red, green, blue = measured.band_stops
    lines = [
        f"density {measured.stops:.2f} stops, +/- {measured.error_stops:.3f}",
        f"red {red:.2f}, green {green:.2f}, blue {blue:.2f} stops",
        f"against green, red is {measured.red_shift:+.1%} and blue {measured.blue_shift:+.1%}",
    ]
    if taken_alike:
        lines.append("Both frames were taken to be exposed alike; else give --exposure.")
    elif measured.exposure_stops:
        lines.append(f"the frame with the filter was exposed {measured.exposure_stops:+.2f} stops")
    return lines + [f"mind: {doubt}" for doubt in measured.doubts]
