"""Bringing a kit in: what is new comes, what clashes is asked, and nothing is changed before all is answered."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Query, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel
from sqlalchemy.orm import Session

from steady_tide.api.files import FILE_BODY
from steady_tide.api.shared import AsideDesk, CrewKitOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.gear.items import KINDS, Keeping, ready_fits
from steady_tide.core.gear.kit_file import KeptAs
from steady_tide.core.quantities.errors import BadInput, Clash, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.formats.kit_file import read_kit_file
from steady_tide.services.isolated_reading import read_aside
from steady_tide.services.planning_pool import Desk
from steady_tide.store import kit as store
from steady_tide.store.merging import stamped
from steady_tide.store.tables import KeptThing

router = station("kit")
MOST_DIFFERENCES = 4


class KitRead(BaseModel):
    """What became of a kit that was brought in."""

    new: list[str]
    same: list[str]
    taken: list[str]
    kept: list[str]
    beside: list[str]


@router.post("/kit/import", openapi_extra=FILE_BODY)
async def import_kit(
    session: SessionOf,
    gear: CrewKitOf,
    desk: AsideDesk,
    request: Request,
    name: Annotated[str, Query(max_length=200)] = "the file",
    choices: Annotated[
        list[str],
        Query(
            max_length=500, description="answers such as cameras/limpet-7=keep, =take or =beside, one for each clash"
        ),
    ] = [],  # noqa: B006
) -> KitRead:
    """Bring a sheet or a kit in. What differs from what is here under its id has to be answered; else nothing comes in."""
    return await run_in_threadpool(_import, session, gear, desk, await request.body(), name, choices)


def _import(session: Session, gear: CrewKitOf, desk: Desk, data: bytes, name: str, choices: list[str]) -> KitRead:
    read = read_aside(desk, read_kit_file, data, name)
    answers = dict(choice.rpartition("=")[::2] for choice in choices)
    found = KitRead(new=[], same=[], taken=[], kept=[], beside=[])
    clashes = []
    here = {(row.kind, row.id): row for row in (*store.list_things(session), *store.list_things(session, away=True))}
    gone = {row.id for row, _ in store.list_cameras(session, away=True)}
    work: list[tuple[str, str, Any]] = [("cameras", sheet.id, sheet) for sheet in read.cameras]
    work += [(kind, thing.id, thing) for kind, thing in read.things()]
    for kind, key, value in work:
        label, answer = f"{kind}/{key}", answers.get(f"{kind}/{key}")
        if answer not in (None, "keep", "take", "beside"):
            raise BadInput(Fault(f"choices.{label}", f"there is no answer '{answer}'", "Use keep, take or beside."))
        state = _compared(kind, key, value, gear, here, gone)
        if state == "clash" and answer is None:
            mine = gear.camera(key) if kind == "cameras" else KINDS[kind].model_validate(here[(kind, key)].thing)
            clashes.append(
                Fault(
                    label,
                    f"{_name_of(value)} is here already; {_differences(mine, value)}",
                    "Keep yours, take this one, or keep both.",
                )
            )
        elif state == "clash":
            {"keep": found.kept, "take": found.taken, "beside": found.beside}[answer or "keep"].append(label)
        else:
            (found.same if state == "same" else found.new).append(label)
    if clashes:
        raise Clash(*clashes)
    kept = {(said.kind, said.id): said for said in read.keeping}
    for kind, key, value in work:
        label = f"{kind}/{key}"
        if label in found.new or label in found.taken or label in found.beside:
            _bring(session, kind, key, value, label in found.beside, here, gone, gear, {(k, i) for k, i, _ in work})
            if label not in found.beside and (kind, key) in kept:
                _keep(session, kept[(kind, key)])
    store.check_room(session)
    return found


def _keep(session: Session, said: KeptAs) -> None:
    """State and place of what came in, as its file tells them. Raises BadInput where more are ready than there are."""
    keeping = Keeping.model_validate(said.model_dump(exclude={"kind", "id", "count"}))
    kept = keeping.model_dump(mode="json")
    if said.kind == "cameras":
        ready_fits(keeping, said.count)
        camera = store.locked_camera(session, said.id)
        now, then = {"count": camera.count, **camera.keeping}, {"count": said.count, **kept}
        camera.stamps = stamped(now, then, camera.stamps or {})
        camera.count, camera.keeping = said.count, kept
    else:
        thing = store.get_thing(session, said.kind, said.id).thing
        ready_fits(keeping, thing.get("count", 1))
        store.put_thing(session, said.kind, thing, kept)


def _differences(mine: Frozen, theirs: Frozen) -> str:
    """What differs between two of the same form, in one line: numbers and words as they are, the rest by name."""
    ours, other = mine.model_dump(mode="json"), theirs.model_dump(mode="json")
    said = []
    for name in ours:
        if ours[name] == other[name] or name == "edition":
            continue
        short = all(isinstance(part[name], (int, float, str)) and len(str(part[name])) <= 40 for part in (ours, other))
        words = name.replace("_", " ")
        said.append(f"{words} is {other[name]} there, {ours[name]} here" if short else f"{words} differ")
    return "; ".join(said[:MOST_DIFFERENCES]) + ("; and more" if len(said) > MOST_DIFFERENCES else "")


def _name_of(value: Any) -> str:
    return str(getattr(value, "name", value.id))


def _compared(kind: str, key: str, value: Any, gear: CrewKitOf, here: dict[Any, KeptThing], gone: set[str]) -> str:
    if kind == "cameras":
        if gear.has(key):
            mine = gear.camera(key)
            return "same" if mine.model_copy(update={"edition": value.edition}) == value else "clash"
        return "new"
    row = here.get((kind, key))
    if row is None or row.deleted_at is not None:
        return "new"
    return "same" if KINDS[kind].model_validate(row.thing) == value else "clash"


def _bring(
    session: Session,
    kind: str,
    key: str,
    value: Any,
    beside: bool,
    here: dict[Any, KeptThing],
    gone: set[str],
    gear: CrewKitOf,
    coming: set[tuple[str, str]],
) -> None:
    taken = (
        {k for group, k in here if group == kind}
        if kind != "cameras"
        else {sheet.id for sheet in gear.kit.cameras} | gone
    )
    if beside:
        free = (n for n in range(2, 1000) if f"{key[:55]}-{n}" not in taken and (kind, f"{key[:55]}-{n}") not in coming)
        number = next(free)
        fields = {"id": f"{key[:55]}-{number}"}
        if hasattr(value, "name"):
            fields["name"] = f"{value.name[:70]} ({number})"
        value = value.model_copy(update=fields)
    if kind != "cameras":
        row = here.get((kind, value.id))
        store.put_thing(session, kind, value.model_dump(mode="json"), row.keeping if row else {})
        return
    if value.id in taken:
        if value.id in gone:
            store.put_camera_away(session, value.id, False)
        camera = store.get_camera(session, value.id)
        edition = store.next_edition(session, value.id, camera.edition)
        store.add_edition(session, value.model_copy(update={"edition": edition}).model_dump(mode="json"), None)
    else:
        store.add_camera(session, value.model_copy(update={"edition": 1}).model_dump(mode="json"), None)
