"""Routes of files: a shoot out and in, its list, its calendar."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from typing import Annotated, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel
from sqlalchemy.orm import Session

from steady_tide.api.shared import AsideDesk, CrewKitOf, CrewWay, PlansOf, PresetsOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.outing.day import light_of
from steady_tide.core.outing.planned import Outing
from steady_tide.core.outing.presets import named
from steady_tide.formats.call_sheet_ics import Call, write_call_sheet
from steady_tide.formats.card_html import write_cards
from steady_tide.formats.day_csv import write_day_csv
from steady_tide.formats.shoot_zip import read_shoot_file, write_shoot_json, write_shoot_zip
from steady_tide.formats.shots_csv import ListedShot, RowFault, read_shots_csv, write_shots_csv
from steady_tide.services.all_files import all_files, shoot_file_of
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import kit_for, outing_of_rows, rules_of, where_is
from steady_tide.services.kept_plans import planned_fields, standing_of, summary_of
from steady_tide.services.planning_pool import Turn
from steady_tide.services.planning_tasks import paper_of
from steady_tide.services.plans import Plans
from steady_tide.store import shoots as store
from steady_tide.store import shots as store_shots
from steady_tide.store.films import add_film
from steady_tide.store.shoots import add_crew, crew_named, get_shoot
from steady_tide.store.tables import Shoot, Shot
from steady_tide.words.days import whole_day
from steady_tide.words.summaries import SummaryText, summary_text
from steady_tide.words.warnings import caution_words

router = station("files")
FILE_BODY: dict[str, Any] = {
    "requestBody": {
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
        "required": True,
    }
}


class ShootRead(BaseModel):
    """A shoot that was read from a file and is kept now."""

    id: UUID
    title: str
    shots: int


class ListRead(BaseModel):
    """What became of a list: all its shots are kept, or none, and then the faults say why. ready: how many of its rows
    have none, and would be kept without the others."""

    added: list[UUID]
    ready: int
    faults: list[RowFault]
    passed_over: list[str]


def file_name(shoot: Shoot, ending: str) -> dict[str, str]:
    """The heading that names a download after its shoot."""
    plain = re.sub(r"[^a-z0-9]+", "-", shoot.title.lower()).strip("-") or "shoot"
    return {"Content-Disposition": f'attachment; filename="{plain}{ending}"'}


def _people(session: Session, shoot: Shoot) -> list[str]:
    crew = store.crew_of(session, shoot)
    return crew.people if crew else []


@router.get("/everything.zip", response_class=Response)
def everything(session: SessionOf, gear: CrewKitOf) -> Response:
    """Everything that is kept as open files: kit with counts and places, all editions, drafts, shoots, the crew."""
    headers = {"Content-Disposition": f'attachment; filename="steady-tide-{datetime.now():%Y-%m-%d}.zip"'}
    return Response(write_shoot_zip(all_files(session, gear)), media_type="application/zip", headers=headers)


@router.get("/shoots/{shoot_id}/shoot.json", response_class=Response)
def shoot_json(session: SessionOf, shoot_id: UUID) -> Response:
    """The shoot as one file."""
    shoot = get_shoot(session, shoot_id)
    text = write_shoot_json(shoot_file_of(session, shoot, store_shots.list_planned(session, shoot_id)))
    return Response(text, media_type="application/json", headers=file_name(shoot, ".json"))


ShotTexts = Sequence[tuple[Shot, SummaryText]]


def _shots_in_words(session: Session, rows: Sequence[Shot], crew: School, gear: CrewKit, plans: Plans) -> ShotTexts:
    """Shots with their line in words, as their plans stand now."""
    found = []
    for shot in rows:
        now = standing_of(session, shot, crew, gear, plans)
        found.append((shot, summary_text(summary_of(now.brief, now.plan, now.refusal))))
    return found


def _listed(shots: ShotTexts) -> list[ListedShot]:
    return [
        ListedShot(
            starts_at=shot.starts_at,
            brief=Brief.model_validate(shot.brief),
            ev100=said.ev100,
            camera=said.camera or "",
            sheet=said.sheet or "",
            given_up_stops=said.given_up_stops,
        )
        for shot, said in shots
    ]


@router.get("/shoots/{shoot_id}/shots.csv", response_class=Response)
def shots_csv(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID) -> Response:
    """The shot list as CSV."""
    shoot = get_shoot(session, shoot_id)
    told = _shots_in_words(session, store_shots.list_planned(session, shoot_id), crew, gear, plans)
    text = write_shots_csv(_listed(told), ZoneInfo(shoot.zone))
    return Response(text, media_type="text/csv", headers=file_name(shoot, "-shots.csv"))


def _calls(outing: Outing, told: ShotTexts, people: Sequence[str]) -> list[Call]:
    sheets = {str(row.id): said.sheet or "" for row, said in told}
    return [
        Call(
            title=shot.brief.title,
            starts_at=shot.starts_at,
            lasts_s=shot.lasts_s,
            spot=shot.wishes.spot,
            camera=shot.sheet.name,
            sheet=sheets[shot.key],
            people=tuple(people),
            cautions=tuple(caution_words(caution) for caution in shot.plan.cautions),
        )
        for shot in outing.shots
        if shot.starts_at is not None
    ]


@router.get("/shoots/{shoot_id}/call-sheet.ics", response_class=Response)
def call_sheet(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID) -> Response:
    """The call sheet as iCalendar."""
    shoot = get_shoot(session, shoot_id)
    rows = store_shots.list_planned(session, shoot_id)
    outing = outing_of_rows(session, rows, crew, gear, plans)
    calls = _calls(outing, _shots_in_words(session, rows, crew, gear, plans), _people(session, shoot))
    content = write_call_sheet(shoot.title, shoot.place, calls, datetime.now(UTC))
    return Response(content, media_type="text/calendar", headers=file_name(shoot, "-calls.ics"))


@router.get("/shoots/{shoot_id}/shoot.zip", response_class=Response)
def shoot_zip(
    session: SessionOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    desk: AsideDesk,
    shoot_id: UUID,
) -> Response:
    """The shoot with everything: its file, list, calls, light, cards, packing, and the sheets of its cameras."""
    shoot = get_shoot(session, shoot_id)
    rows = store_shots.list_planned(session, shoot_id)
    outing, told = outing_of_rows(session, rows, crew, gear, plans), _shots_in_words(session, rows, crew, gear, plans)
    where, knowledge, kit = where_is(shoot), gear.knowledge, kit_for(outing, gear)
    stored = named(presets.of_day(outing), rules_of(shoot).preset_names)
    cards = whole_day(outing, where, kit, knowledge, crew, stored)
    files: dict[str, Callable[[], str | bytes]] = {
        "shoot.json": lambda: write_shoot_json(shoot_file_of(session, shoot, rows)),
        "shots.csv": lambda: write_shots_csv(_listed(told), where.zone),
        "calls.ics": lambda: write_call_sheet(
            shoot.title, shoot.place, _calls(outing, told, _people(session, shoot)), datetime.now(UTC)
        ),
        "cards.html": lambda: write_cards(
            cards,
            str(shoot_id),
            ticks={str(row.id): row.ticks for row in rows},
            noted={str(row.id): row.really_set for row in rows},
        ),
        "cards.pdf": lambda: desk.ask(paper_of, (cards, "a6"), Turn.HAND).result(),
    }
    light = light_of(where, knowledge)
    if light is not None:
        files["light.csv"] = lambda: write_day_csv(light, where.zone)
    for sheet in {shot.sheet.id: shot.sheet for shot in outing.shots}.values():
        files[f"cameras/{sheet.id}.json"] = sheet.model_dump_json
    if not outing.shots:
        for name in ("cards.html", "cards.pdf"):
            del files[name]
    made = {name: write() for name, write in files.items()}
    content = write_shoot_zip({name: text.encode() if isinstance(text, str) else text for name, text in made.items()})
    return Response(content, media_type="application/zip", headers=file_name(shoot, ".zip"))


@router.post("/shoots/import", status_code=201, openapi_extra=FILE_BODY)
async def import_shoot(
    session: SessionOf, request: Request, crew: CrewWay, gear: CrewKitOf, plans: PlansOf
) -> ShootRead:
    """Read a shoot from its JSON or ZIP and keep it as a new one; all of it, or nothing."""
    data = await request.body()
    return await run_in_threadpool(_import_shoot, session, data, crew, gear, plans)


def _import_shoot(session: Session, data: bytes, crew: School, gear: CrewKit, plans: Plans) -> ShootRead:
    read = read_shoot_file(data)
    fields = read.model_dump(exclude={"format", "version", "crew", "rules", "shots", "films"})
    shoot = store.add_shoot(session, {**fields, "rules": read.rules.model_dump(mode="json")})
    if read.crew is not None:
        known = crew_named(session, read.crew.name)
        school = read.crew.school.model_dump(exclude_none=True)
        shoot.crew_id = (known or add_crew(session, read.crew.name, list(read.crew.people), school)).id
    films = {entry.key: str(add_film(session, shoot.id, entry.film.model_dump(mode="json")).id) for entry in read.films}
    shots = [
        {
            "starts_at": entry.starts_at,
            "framing": None
            if entry.framing is None
            else entry.framing.model_copy(update={"film": films[entry.framing.film]}).model_dump(mode="json"),
            "wishes": entry.wishes.model_dump(mode="json"),
            "ticks": entry.ticks,
            "really_set": entry.really_set,
            "recipes": [recipe.model_dump(mode="json") for recipe in entry.recipes],
            **planned_fields(entry.brief, crew, gear, plans),
        }
        for entry in read.shots
    ]
    store_shots.add_shots(session, shoot.id, shots)
    return ShootRead(id=shoot.id, title=shoot.title, shots=len(read.shots))


@router.post("/shoots/{shoot_id}/shots/import", openapi_extra=FILE_BODY)
async def import_shots(
    session: SessionOf,
    request: Request,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    shoot_id: UUID,
    leave_out: Annotated[bool, Query(description="keep the rows that have no fault, and leave the others out")] = False,
) -> ListRead:
    """Read a shot list from CSV. Where rows have faults each is told and nothing is kept, so that the list can be mended;
    or the other rows are kept where that is asked for."""
    data = await request.body()
    return await run_in_threadpool(_import_shots, session, shoot_id, data, crew, gear, plans, leave_out)


def _import_shots(
    session: Session, shoot_id: UUID, data: bytes, crew: School, gear: CrewKit, plans: Plans, leave_out: bool
) -> ListRead:
    shoot = get_shoot(session, shoot_id)
    report = read_shots_csv(data, ZoneInfo(shoot.zone), shoot.day)
    faults = list(report.faults)
    known = gear.knowledge
    for shot in report.shots:
        brief = shot.brief
        named = (
            ("mount", brief.camera_move.mount, known.mounts, "."),
            ("place", getattr(brief.light, "place", None), known.places, ", or an EV."),
            ("scenario", brief.scenario, known.scenarios, "."),
        )
        faults += [
            RowFault(
                row=shot.row,
                column=what,
                what=f"there is no {what} '{name}'",
                mend=f"Use one of {', '.join(there)}{end}",
            )
            for what, name, there, end in named
            if name is not None and name not in there
        ]
    faults.sort(key=lambda fault: fault.row)
    wrong = {fault.row for fault in faults}
    ready = [shot for shot in report.shots if shot.row not in wrong]
    if faults and not (leave_out and ready):
        return ListRead(added=[], ready=len(ready), faults=faults, passed_over=list(report.passed_over))
    shots = []
    for shot in ready:
        brief, starts_at = one_time(shot.brief.model_copy(update={"mains_hz": shoot.mains_hz}), shot.starts_at)
        shots.append({"starts_at": starts_at, **planned_fields(brief, crew, gear, plans)})
    added = [shot.id for shot in store_shots.add_shots(session, shoot_id, shots)]
    return ListRead(added=added, ready=0, faults=faults, passed_over=list(report.passed_over))
