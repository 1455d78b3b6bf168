"""Everything that is kept as open files: the kit with counts and places, all editions, drafts, shoots, the crew."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.recipes import Recipe
from steady_tide.core.gear.items import KINDS, Keeping
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.errors import BadInput
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.core.shoot.film import Film, read_framing
from steady_tide.core.shoot.shoot_file import Crew as CrewFile
from steady_tide.core.shoot.shoot_file import FilmEntry, ShootFile, ShotEntry, ShotWishes
from steady_tide.formats.kit_file import write_kit_file, write_sheet_file
from steady_tide.formats.log_json import write_log_json
from steady_tide.formats.shoot_zip import write_shoot_json
from steady_tide.formats.uses_file import write_uses_file
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import rules_of
from steady_tide.services.log_files import log_file_of, takes_csv_of
from steady_tide.services.practice import memory_of
from steady_tide.services.takes import take_facts
from steady_tide.services.uses_files import uses_file_of
from steady_tide.store import kit as store_kit
from steady_tide.store import shoots as store
from steady_tide.store import shots as store_shots
from steady_tide.store.films import list_films
from steady_tide.store.tables import Camera, KeptThing, Shoot, Shot

README = """Everything that Steady Tide keeps here, as open files.

kit.json                        the kit: cameras with their latest sheets, everything else, counts, states and places
cameras/NAME/edition-N.json     every edition of every camera's sheet, put away ones too
drafts/N-NAME.json              sheets that are begun
shoots/N-NAME.json              shoots with their shots, rules, wishes, ticks and what was set
crew.json                       the crew's way of working
log.json                        takes, ladders with what was said of them, notes of gear, own numbers
takes.csv                       the takes as a table
uses.json                       usual uses: one's own, which are chosen, how often; what was ticked and named when cameras were set up; read in again under Usual uses
practice.json                   what practice remembers, by topic; steady-tide practice --state takes it

Kit > Sheets and kits as files brings kit.json and sheets in; Shoots > Import a shoot brings shoots in; Log > Import and export brings
log.json and takes.csv in. Plans are left
out: they follow from the briefs. Nothing here is locked or packed in a way of its own.
"""


def slug(text: str) -> str:
    """A name for a file. text: any. Returns small letters, figures and dashes."""
    return re.sub(r"[^a-z0-9]+", "-", text.lower()).strip("-")[:60] or "unnamed"


def kit_file_of(session: Session, gear: CrewKit) -> KitFile:
    """The whole kit as its file, with counts, states and places."""
    rows = store_kit.list_things(session)
    cameras = [camera for camera, _ in store_kit.list_cameras(session)]
    kept = [_kept_as("cameras", camera) for camera in cameras] + [_kept_as(row.kind, row) for row in rows]
    things: dict[str, list[Any]] = {kind: [] for kind in KINDS}
    for row in rows:
        things[row.kind].append(row.thing)
    return KitFile.model_validate(
        {
            "format": "steady-tide/kit",
            "version": 2,
            "cameras": [sheet.model_dump(mode="json") for sheet in gear.kit.cameras],
            **things,
            "keeping": [said for said in kept if set(said) != {"kind", "id"}],
        }
    )


def _kept_as(kind: str, row: Camera | KeptThing) -> dict[str, Any]:
    said = Keeping.model_validate(row.keeping).model_dump(mode="json", exclude_defaults=True)
    count = {"count": row.count} if isinstance(row, Camera) and row.count > 1 else {}
    return {"kind": kind, "id": row.id, **said, **count}


def shoot_file_of(session: Session, shoot: Shoot, rows: Sequence[Shot]) -> ShootFile:
    """A kept shoot as its file. rows: its shots in their order. Raises BadInput where an older version took more than a
    file holds."""
    crew = store.crew_of(session, shoot)
    films = {str(row.id): Film.model_validate(row.film) for row in list_films(session, shoot.id)}
    said = {
        "title": shoot.title,
        "place": shoot.place,
        "day": shoot.day,
        "zone": shoot.zone,
        "latitude": shoot.latitude,
        "longitude": shoot.longitude,
        "mains_hz": shoot.mains_hz,
        "cloud": shoot.cloud,
        "note": shoot.note,
        "crew": None
        if crew is None
        else CrewFile(name=crew.name, people=tuple(crew.people), school=School.model_validate(crew.school)),
        "rules": rules_of(shoot),
        "shots": [
            ShotEntry(
                starts_at=shot.starts_at,
                brief=Brief.model_validate(shot.brief),
                wishes=ShotWishes.model_validate(shot.wishes),
                ticks=shot.ticks,
                really_set=shot.really_set,
                recipes=tuple(Recipe.model_validate(recipe) for recipe in shot.recipes),
                framing=read_framing(shot.framing) if (shot.framing or {}).get("film") in films else None,
            )
            for shot in rows
        ],
        "films": [FilmEntry(key=key, film=film) for key, film in films.items()],
    }
    try:
        return ShootFile.model_validate(said)
    except ValidationError as error:  # kept by a version that took more
        raise BadInput(*faults_of(error, ("the shoot",))) from None


def all_files(session: Session, gear: CrewKit) -> dict[str, bytes]:
    """Everything, as open files. Returns their contents by name."""
    files = {"README.txt": README, "kit.json": write_kit_file(kit_file_of(session, gear))}
    for away in (False, True):
        for camera, _ in store_kit.list_cameras(session, away=away):
            for row in store_kit.list_editions(session, camera.id):
                text = write_sheet_file(CameraSheet.model_validate(row.sheet))
                files[f"cameras/{camera.id}/edition-{row.edition}.json"] = text
    for number, draft in enumerate(store_kit.list_drafts(session), start=1):
        name = slug(str((draft.rough.get("sheet") or {}).get("name") or ""))
        said = {"camera_id": draft.camera_id, "edition": draft.edition, "rough": draft.rough}
        files[f"drafts/{number}-{name}.json"] = json.dumps(said, ensure_ascii=False, indent=1) + "\n"
    for number, (shoot, _) in enumerate(store.list_shoots(session), start=1):
        made = shoot_file_of(session, shoot, store_shots.list_planned(session, shoot.id))
        files[f"shoots/{number}-{slug(shoot.title)}.json"] = write_shoot_json(made)
    crew = store.first_crew(session)
    if crew is not None:
        ours = {"name": crew.name, "people": crew.people, "school": crew.school}
        files["crew.json"] = json.dumps(ours, ensure_ascii=False, indent=1) + "\n"
    files["log.json"] = write_log_json(log_file_of(session))
    files["uses.json"] = write_uses_file(uses_file_of(session))
    files["practice.json"] = json.dumps(memory_of(session), indent=1) + "\n"
    files["takes.csv"] = takes_csv_of(session, take_facts(session))
    return {name: text.encode() for name, text in files.items()}
