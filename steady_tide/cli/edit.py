"""Commands of the edit: notes, tables of colours, the first assembly."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from steady_tide import library
from steady_tide.cli.outside import ShootPath, day_of
from steady_tide.cli.shell import AsJson, SheetFiles, app, camera_of, kit_of, say, say_json
from steady_tide.cli.taken import LogPath, takes_of
from steady_tide.core.edit.display import LookStyle, developing
from steady_tide.core.edit.gathering import Edit
from steady_tide.core.edit.luts import error_of, lut_of, shaped_lut_of
from steady_tide.core.edit.notes import EditShot
from steady_tide.core.gear.sheet import CameraSheet, Profile
from steady_tide.core.quantities.errors import BadFile, BadInput, Fault
from steady_tide.core.rushes.clip_plan import clip_plan
from steady_tide.core.story.telling import Here, StoryShot, film_facts
from steady_tide.formats.cube import write_cube
from steady_tide.formats.edit_notes import write_notes_csv, write_notes_md
from steady_tide.formats.edit_timeline import write_edl, write_otio
from steady_tide.words.edits import edit_lines, edit_text

lut_app = typer.Typer(no_args_is_help=True, help="LUTs.")
app.add_typer(lut_app, name="lut")
LookName = Annotated[str | None, typer.Option(help=f"A look on top: {', '.join(library.looks())}.")]


@app.command()
def edit(
    shoot: ShootPath,
    sheet: SheetFiles = None,
    log: LogPath = None,
    luts: Annotated[Path | None, typer.Option(help="Folder for LUTs, as .cube.")] = None,
    otio: Annotated[Path | None, typer.Option(help="File for the first assembly, as OpenTimelineIO.")] = None,
    edl: Annotated[Path | None, typer.Option(help="File for the first assembly, as an edit decision list.")] = None,
    notes: Annotated[Path | None, typer.Option(help="File for the notes, as Markdown.")] = None,
    csv: Annotated[Path | None, typer.Option(help="File for the notes, as CSV.")] = None,
    film: Annotated[int, typer.Option(min=1, help="Which film of the shoot is assembled.")] = 1,
    look: LookName = None,
    as_json: AsJson = False,
) -> None:
    """Print notes for the edit of a shoot, and write what is asked for."""
    whole = _edit(shoot, sheet, log, look)
    found = whole.notes()
    told = edit_text(found, library.demo_kit().names, whole.look, whole.phone())
    if luts is not None:
        made = {**whole.display_luts(), **whole.shot_luts(found)}
        _folder(luts)
        for name, lut in made.items():
            _write(luts / f"{name}.cube", write_cube(lut))
    if otio is not None or edl is not None:
        keys = list(whole.films)
        if keys and film > len(keys):
            raise BadInput(Fault("--film", f"the shoot has {len(keys)} films", f"Give one from 1 to {len(keys)}."))
        assembly = whole.assembly(keys[film - 1] if keys else None, found)
        if not assembly.clips:
            raise BadInput(
                Fault(str(shoot), "has nothing to assemble", "Frame a film, or give a --log with kept takes.")
            )
        if otio is not None:
            _write(otio, write_otio(assembly))
        if edl is not None:
            _write(edl, write_edl(assembly))
    if notes is not None:
        _write(notes, write_notes_md(whole.title, told))
    if csv is not None:
        _write(csv, write_notes_csv(found))
    if as_json:
        say_json(found.model_dump(mode="json"))
    else:
        say("\n".join(edit_lines(told)) or "This shoot has no shot yet.")


def _edit(path: Path, sheet: list[Path] | None, log: Path | None, look: str | None) -> Edit:
    shoot, kit, outing = day_of(path, sheet)
    knowledge, cameras = library.knowledge(), {camera.id: camera for camera in kit.cameras}
    planned = {shot.key: shot for shot in outing.shots}
    takes = takes_of(log, shoot.title)
    films = {entry.key: entry.film for entry in shoot.films}
    here = None
    if shoot.latitude is not None and shoot.longitude is not None:
        here = Here(shoot.latitude, shoot.longitude)
    told = []
    for number, entry in enumerate(shoot.shots, start=1):
        found = planned.get(str(number))
        if entry.framing is not None:
            plan, camera = (found.plan, found.sheet) if found else (None, None)
            told.append(StoryShot(str(number), entry.brief, entry.framing, plan, camera, entry.starts_at))
    crops = {
        one.key: one.sketch.crops
        for key, film in films.items()
        for one in film_facts(
            key, film, [shot for shot in told if shot.framing.film == key], here, library.framings(), knowledge
        ).framings
        if one.sketch is not None
    }
    shots = []
    for number, entry in enumerate(shoot.shots, start=1):
        found = planned.get(str(number))
        shots.append(
            EditShot(
                key=str(number),
                number=number,
                title=entry.brief.title,
                brief=entry.brief,
                plan=None if found is None else clip_plan(found.brief, found.plan, found.sheet, knowledge),
                framing=entry.framing,
                crops=crops.get(str(number), ()),
                takes=takes.get(entry.brief.title, ()),
            )
        )
    return Edit(shoot.title, tuple(shots), films, cameras, knowledge, _look(look))


def _look(look: str | None) -> LookStyle | None:
    if look is None:
        return None
    looks = library.looks()
    if look not in looks:
        raise BadInput(Fault("--look", f"there is no look '{look[:60]}'", f"Use one of {', '.join(looks)}."))
    return looks[look]


def _folder(path: Path) -> None:
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be made ({error.strerror})", "Give another folder.")) from None


def _write(path: Path, text: str) -> None:
    try:
        path.write_text(text, encoding="utf-8")
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be written ({error.strerror})", "Give another place.")) from None


@lut_app.command()
def display(
    camera: Annotated[str, typer.Option(help="Id of the camera.")],
    profile: Annotated[str, typer.Option(help="Id of its profile.")],
    out: Annotated[Path, typer.Option(help="File to write, as .cube.")],
    sheet: SheetFiles = None,
    shaped: Annotated[
        bool, typer.Option("--shaped", help="With a shaper before the table: finer in the dark.")
    ] = False,
    look: LookName = None,
) -> None:
    """Write the table that shows a profile as a finished picture, and say how exact it is."""
    found = _profile_of(camera_of(kit_of(sheet), camera), profile)
    limits = library.knowledge().limits
    how = developing(found, limits, look=_look(look))
    lut = (shaped_lut_of if shaped else lut_of)(how, f"{profile} of {camera} to display")
    _write(out, write_cube(lut))
    error = error_of(lut, how)
    curve = "the sheet's own curve" if how.own else "a typical curve: the sheet has none, measure a grey card"
    say(
        f"{out}: {lut.size} points, tetrahedra off by {error.most:.2f} codes of 10 bit at most, {error.mean:.3f} on the mean; {curve}"
    )


def _profile_of(camera: CameraSheet, profile: str) -> Profile:
    found = next((one for one in camera.profiles if one.id == profile), None)
    if found is None:
        there = ", ".join(one.id for one in camera.profiles)
        raise BadInput(Fault("--profile", f"the {camera.name} has no profile '{profile[:60]}'", f"Use one of {there}."))
    return found
