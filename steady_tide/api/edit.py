"""Routes of the edit: notes, tables of colours, the first assembly."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Response
from pydantic import BaseModel

from steady_tide import library
from steady_tide.api.files import file_name
from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.edit.gathering import Edit
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.formats.cube import write_cube
from steady_tide.formats.edit_notes import write_notes_csv, write_notes_md, write_notes_pdf
from steady_tide.formats.edit_timeline import write_edl, write_otio
from steady_tide.formats.shoot_zip import write_shoot_zip
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.edits import edit_kept
from steady_tide.store.shoots import get_shoot
from steady_tide.words.edits import EditText, edit_text

router = station("edit")
LookOf = Annotated[str | None, Query(max_length=60, description="a look on top, by id; left out: none")]
FilmOf = Annotated[UUID | None, Query(description="whose cuts are followed; left out: the kept takes of the day")]
KINDS = {"md": "text/markdown", "csv": "text/csv", "pdf": "application/pdf"}


class LookOut(BaseModel):
    """A look of ours."""

    id: str
    name: str
    says: str


class EditFilm(BaseModel):
    """A film that can be assembled. cuts: of its strip; filmed: of them with a kept take."""

    id: UUID
    title: str
    cuts: int
    filmed: int


class EditOut(BaseModel):
    """What the edit is handed. measured: clips with measures; noted: all that have notes."""

    edit: EditText
    looks: list[LookOut]
    films: list[EditFilm]
    luts: list[str]
    measured: int
    noted: int


def _edit_in_words(whole: Edit, gear: CrewKit) -> EditText:
    return edit_text(whole.notes(), gear.names, whole.look, whole.phone())


@router.get("/shoots/{shoot_id}/edit")
def edit(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, look: LookOf = None
) -> EditOut:
    """Notes for the edit of a shoot: groups, clips, and what can be handed over."""
    whole = edit_kept(session, shoot_id, crew, gear, plans, look)
    notes = whole.notes()
    films = []
    for key, film in whole.films.items():
        clips = whole.assembly(key, notes).clips
        films.append(
            EditFilm(id=UUID(key), title=film.title, cuts=len(clips), filmed=sum(one.take is not None for one in clips))
        )
    return EditOut(
        edit=_edit_in_words(whole, gear),
        looks=[LookOut(id=one.id, name=one.name, says=one.says) for one in library.looks().values()],
        films=films,
        luts=[
            *whole.display_names(),
            *(f"shot-{number}" for number in dict.fromkeys(one.number for one in notes.clips)),
        ],
        measured=sum(note.take is not None and note.correction.of == "measures" for note in notes.clips),
        noted=len(notes.clips),
    )


@router.get("/shoots/{shoot_id}/edit/notes.{ending}", response_class=Response)
def notes(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    shoot_id: UUID,
    ending: Literal["md", "csv", "pdf"],
    look: LookOf = None,
) -> Response:
    """The notes as Markdown, as CSV, or on paper."""
    whole = edit_kept(session, shoot_id, crew, gear, plans, look)
    if ending == "csv":
        content: str | bytes = write_notes_csv(whole.notes())
    else:
        write = write_notes_md if ending == "md" else write_notes_pdf
        content = write(whole.title, _edit_in_words(whole, gear))
    headings = file_name(get_shoot(session, shoot_id), f"-edit.{ending}")
    return Response(content, media_type=KINDS[ending], headers=headings)


@router.get("/shoots/{shoot_id}/edit/luts.zip", response_class=Response)
def luts(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, look: LookOf = None
) -> Response:
    """Tables of colours: one for each profile in use, one for each shot."""
    whole = edit_kept(session, shoot_id, crew, gear, plans, look)
    made = {**whole.display_luts(), **whole.shot_luts(whole.notes())}
    if not made:
        raise BadInput(Fault("the shoot", "has no shot that a camera can film", "Plan one first."))
    content = write_shoot_zip({f"{name}.cube": write_cube(lut).encode() for name, lut in made.items()})
    headings = file_name(get_shoot(session, shoot_id), "-luts.zip")
    return Response(content, media_type="application/zip", headers=headings)


@router.get("/shoots/{shoot_id}/edit/assembly.{ending}", response_class=Response)
def assembly(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    shoot_id: UUID,
    ending: Literal["otio", "edl"],
    film: FilmOf = None,
    folder: Annotated[
        str, Query(max_length=200, pattern=r"^[^\x00]*$", description="before the names of clips in the file")
    ] = "",
) -> Response:
    """The first assembly, as OpenTimelineIO or as an edit decision list."""
    whole = edit_kept(session, shoot_id, crew, gear, plans)
    key = None if film is None else str(film)
    if key is not None and key not in whole.films:
        raise BadInput(Fault("film", "is no film of this shoot", "Read the shoot's story again."))
    laid = whole.assembly(key, whole.notes())
    if not laid.clips:
        raise BadInput(
            Fault("the shoot", "has no kept take to assemble", "Keep some on the card, in Rushes or in the Log.")
        )
    content = write_otio(laid, folder) if ending == "otio" else write_edl(laid, folder)
    kind = "application/json" if ending == "otio" else "text/plain"
    return Response(content, media_type=kind, headers=file_name(get_shoot(session, shoot_id), f".{ending}"))
