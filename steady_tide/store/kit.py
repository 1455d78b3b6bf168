"""The crew's kit, kept: cameras with all editions of their sheets, and everything else."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import Text, cast, delete, func, select, text
from sqlalchemy.orm import Session

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Conflict, Fault, NotFound
from steady_tide.store.merging import merged, stamped
from steady_tide.store.tables import Camera, KeptThing, Mark, SheetDraft, SheetEdition, Shot

REVISION = "kit"
MOST = {"cameras": sizes.CAMERAS, "mounts": sizes.MOUNTS, "chemistries": sizes.CELL_KINDS}  # of the others, THINGS
# Held while a new database gets its kit, so that two requests do not both bring it.
_LOCK = 6_120_706


def revision(session: Session) -> str | None:
    """A word that changes with every change of the kit. Returns None before there is any."""
    mark = session.get(Mark, REVISION)
    return None if mark is None else mark.value


def changed(session: Session) -> None:
    """Say that the kit has changed."""
    mark = session.get(Mark, REVISION)
    if mark is None:
        session.add(Mark(key=REVISION, value=uuid4().hex))
    else:
        mark.value = uuid4().hex
    session.flush()


def seed(session: Session, cameras: Iterable[dict[str, Any]], things: Iterable[tuple[str, dict[str, Any]]]) -> None:
    """Fill an empty kit with examples, once. cameras: sheets; things: kind and thing."""
    session.execute(text("select pg_advisory_xact_lock(:key)"), {"key": _LOCK})
    session.expire_all()
    if revision(session) is not None:
        return
    for sheet in cameras:
        add_camera(session, sheet, None, example=True)
    for kind, thing in things:
        put_thing(session, kind, thing, {}, example=True)
    changed(session)


def check_room(session: Session) -> None:
    """Raise BadInput where the kit has become larger than its file is read again. Asked after whatever adds to it."""
    session.flush()
    things = select(KeptThing.kind, func.count()).where(KeptThing.deleted_at.is_(None)).group_by(KeptThing.kind)
    counts: dict[str, int] = {kind: count for kind, count in session.execute(things)}
    counts["cameras"] = session.scalar(select(func.count()).select_from(Camera).where(Camera.deleted_at.is_(None))) or 0
    for kind, count in counts.items():
        most = MOST.get(kind, sizes.THINGS)
        if count > most:
            raise BadInput(Fault(kind, f"would be {count}, and a kit holds {most}", "Put some away first."))
    sizes_of = select(func.sum(func.octet_length(cast(KeptThing.thing, Text)))).where(KeptThing.deleted_at.is_(None))
    size = session.scalar(sizes_of) or 0
    sheets = select(func.sum(func.octet_length(cast(SheetEdition.sheet, Text)))).join(
        Camera, (SheetEdition.camera_id == Camera.id) & (SheetEdition.edition == Camera.edition)
    )
    size += session.scalar(sheets.where(Camera.deleted_at.is_(None))) or 0
    if size > sizes.KIT - sizes.MB:
        raise BadInput(
            Fault("the kit", f"would take {size / sizes.MB:.1f} MB", f"It may take {sizes.in_mb(sizes.KIT) - 1} MB.")
        )


def list_cameras(session: Session, away: bool = False) -> Sequence[tuple[Camera, dict[str, Any]]]:
    """Cameras with their latest sheets, in the order in which they came. away: those that were put away."""
    query = (
        select(Camera, SheetEdition.sheet)
        .join(SheetEdition, (SheetEdition.camera_id == Camera.id) & (SheetEdition.edition == Camera.edition))
        .where(Camera.deleted_at.is_not(None) if away else Camera.deleted_at.is_(None))
        .order_by(Camera.position)
    )
    return [(camera, sheet) for camera, sheet in session.execute(query)]


def get_camera(session: Session, camera_id: str, away: bool = False) -> Camera:
    """One camera. away: also where it was put away. Raises NotFound."""
    camera = session.get(Camera, camera_id)
    if camera is None or (camera.deleted_at is not None and not away):
        raise NotFound(f"There is no camera '{camera_id}' in the kit.")
    return camera


def get_edition(session: Session, camera_id: str, edition: int) -> dict[str, Any]:
    """A sheet as it was in an edition. Raises NotFound."""
    found = session.get(SheetEdition, (camera_id, edition))
    if found is None:
        raise NotFound(f"There is no edition {edition} of '{camera_id}'.")
    return found.sheet


def list_editions(session: Session, camera_id: str) -> Sequence[SheetEdition]:
    """All editions of a camera's sheet, the latest first."""
    query = select(SheetEdition).where(SheetEdition.camera_id == camera_id).order_by(SheetEdition.edition.desc())
    return session.scalars(query).all()


def add_camera(session: Session, sheet: dict[str, Any], known: dict[str, Any] | None, example: bool = False) -> Camera:
    """Keep a new camera. sheet: its first edition; known: what it was drafted from. Returns it. Raises Conflict."""
    session.execute(text("select pg_advisory_xact_lock(hashtext(:key))"), {"key": f"cameras/{sheet['id']}"})
    if session.scalar(select(Camera.id).where(Camera.id == sheet["id"])) is not None:
        raise Conflict(f"There is a camera '{sheet['id']}' already, perhaps put away. Give this one another id.")
    last = session.scalar(select(func.max(Camera.position))) or 0
    camera = Camera(
        id=sheet["id"], edition=sheet.get("edition", 1), position=last + 1, known=known, example=example, keeping={}
    )
    session.add(camera)
    session.flush()
    session.add(SheetEdition(camera_id=camera.id, edition=camera.edition, sheet=sheet))
    changed(session)
    return camera


def next_edition(session: Session, camera_id: str, made_on: int) -> int:
    """The number of a camera's next edition, the camera locked.

    made_on: edition that the change was made on. Raises NotFound, and Conflict where there is a newer one.
    """
    camera = locked_camera(session, camera_id)
    if camera.edition != made_on:
        raise Conflict(
            f"The sheet was changed elsewhere meanwhile: it is at edition {camera.edition}, this change was made on {made_on}."
        )
    highest = session.scalar(select(func.max(SheetEdition.edition)).where(SheetEdition.camera_id == camera_id)) or 0
    return highest + 1


def add_edition(session: Session, sheet: dict[str, Any], known: dict[str, Any] | None) -> Camera:
    """Keep a new edition of a sheet and make it the latest. sheet: with its number. Returns the camera."""
    camera = get_camera(session, sheet["id"])
    session.add(SheetEdition(camera_id=camera.id, edition=sheet["edition"], sheet=sheet))
    camera.edition = sheet["edition"]
    camera.known = known
    changed(session)
    return camera


def locked_camera(session: Session, camera_id: str) -> Camera:
    """One camera, held until the end of the unit of work, as it is now. Raises NotFound."""
    query = select(Camera).where(Camera.id == camera_id).with_for_update().execution_options(populate_existing=True)
    camera = session.scalar(query)
    if camera is None or camera.deleted_at is not None:
        raise NotFound(f"There is no camera '{camera_id}' in the kit.")
    return camera


def put_camera_away(session: Session, camera_id: str, away: bool) -> Camera:
    """Put a camera away, or bring it back; its editions stay. Returns it. Raises NotFound."""
    camera = get_camera(session, camera_id, away=True)
    camera.deleted_at = datetime.now(UTC) if away else None
    changed(session)
    return camera


def list_things(session: Session, away: bool = False) -> Sequence[KeptThing]:
    """Everything but the cameras, in order."""
    query = select(KeptThing).where(KeptThing.deleted_at.is_not(None) if away else KeptThing.deleted_at.is_(None))
    return session.scalars(query.order_by(KeptThing.kind, KeptThing.position)).all()


def get_thing(session: Session, kind: str, thing_id: str, away: bool = False) -> KeptThing:
    """One thing. away: also where it was put away. Raises NotFound."""
    found = session.get(KeptThing, (kind, thing_id))
    if found is None or (found.deleted_at is not None and not away):
        raise NotFound(f"There is no '{thing_id}' among the {kind}.")
    return found


def locked_thing(session: Session, kind: str, thing_id: str) -> KeptThing | None:
    """One thing, held until the end of the unit of work, as it is now, also where it was put away; None where there is
    none. Two that would bring the same new thing wait for each other."""
    session.execute(text("select pg_advisory_xact_lock(hashtext(:key))"), {"key": f"{kind}/{thing_id}"})
    query = select(KeptThing).where(KeptThing.kind == kind, KeptThing.id == thing_id).with_for_update()
    return session.scalar(query.execution_options(populate_existing=True))


def put_thing(
    session: Session, kind: str, thing: dict[str, Any], keeping: dict[str, Any], example: bool = False
) -> KeptThing:
    """Keep a thing under its id, new or changed; what differs is stamped. Returns it."""
    found = locked_thing(session, kind, thing["id"])
    if found is None:
        last = session.scalar(select(func.max(KeptThing.position)).where(KeptThing.kind == kind)) or 0
        found = KeptThing(kind=kind, id=thing["id"], position=last + 1, example=example)
        session.add(found)
    before = {"thing": found.thing or {}, "keeping": found.keeping or {}}
    after = {"thing": thing, "keeping": keeping}
    found.stamps = stamped(_in_one(before), _in_one(after), found.stamps or {})
    found.thing, found.keeping, found.deleted_at = thing, keeping, None
    changed(session)
    return found


def _in_one(parts: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """Fields of the parts of a thing, under one name each."""
    return {f"{part}.{name}": value for part, fields in parts.items() for name, value in fields.items()}


def put_thing_away(session: Session, kind: str, thing_id: str, away: bool) -> KeptThing:
    """Put a thing away, or bring it back. Returns it. Raises NotFound."""
    found = get_thing(session, kind, thing_id, away=True)
    found.deleted_at = datetime.now(UTC) if away else None
    changed(session)
    return found


def put_examples_away(session: Session, stay: set[str], away: bool) -> int:
    """Put all examples away, or bring them back. stay: kinds that briefs name and that stay. Returns how many."""
    now = datetime.now(UTC) if away else None
    rows: list[Camera | KeptThing] = [
        *session.scalars(select(Camera).where(Camera.example)),
        *session.scalars(select(KeptThing).where(KeptThing.example, KeptThing.kind.not_in(stay))),
    ]
    moved = [row for row in rows if (row.deleted_at is None) == away]
    for row in moved:
        row.deleted_at = now
    changed(session)
    return len(moved)


def shots_with(session: Session, camera_id: str) -> Sequence[Shot]:
    """Shots whose plan is for a camera."""
    query = select(Shot).where(Shot.deleted_at.is_(None), Shot.made_on["camera"].astext == camera_id)
    return session.scalars(query.order_by(Shot.starts_at.asc().nulls_last(), Shot.position)).all()


def list_drafts(session: Session) -> Sequence[SheetDraft]:
    """Sheets that were begun, the latest first."""
    return session.scalars(select(SheetDraft).order_by(SheetDraft.updated_at.desc())).all()


def get_draft(session: Session, draft_id: UUID) -> SheetDraft:
    """One of them. Raises NotFound."""
    found = session.get(SheetDraft, draft_id)
    if found is None:
        raise NotFound("That draft is gone. It may have been saved as a sheet.")
    return found


def add_draft(
    session: Session, draft_id: UUID, camera_id: str | None, edition: int | None, rough: dict[str, Any]
) -> SheetDraft:
    """Keep a sheet that is begun. Returns it; said again, it stays. Raises Conflict where another stands under that id."""
    session.execute(text("select pg_advisory_xact_lock(hashtext(:key))"), {"key": f"draft/{draft_id}"})
    found = session.get(SheetDraft, draft_id)
    if found is not None and found.rough != rough:
        raise Conflict("Under this id another sheet is begun already: change that one, or take another id.")
    if found is None:
        found = SheetDraft(id=draft_id, camera_id=camera_id, edition=edition, rough=rough, stamps={})
        session.add(found)
        session.flush()
    return found


def change_draft(session: Session, draft_id: UUID, made_on: int, change: Mapping[str, Any]) -> SheetDraft:
    """Change a sheet that is begun, field by field.

    made_on: revision that the change was made on; change: fields such as `sheet.name`, None takes one out. Returns it. Raises
    NotFound, and Conflict where a field was changed meanwhile.
    """
    query = select(SheetDraft).where(SheetDraft.id == draft_id).execution_options(populate_existing=True)
    found = session.scalar(query.with_for_update())
    if found is None:
        raise NotFound("That draft is gone. It may have been saved as a sheet.")
    rough = found.rough
    now = {f"{part}.{name}": value for part, fields in rough.items() for name, value in fields.items()}
    then, found.stamps = merged(now, found.stamps or {}, made_on, change)
    kept: dict[str, dict[str, Any]] = {part: {} for part in rough}
    for field, value in then.items():
        part, _, name = field.partition(".")
        if value is not None or field not in change:
            kept[part][name] = value
    found.rough = kept
    session.flush()
    return found


def drop_draft(session: Session, draft_id: UUID) -> None:
    """Let go of a draft; gone already is fine."""
    session.execute(delete(SheetDraft).where(SheetDraft.id == draft_id))
