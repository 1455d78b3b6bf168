"""Routes of the Shoots station."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, field_validator
from sqlalchemy.orm import Session

from steady_tide.api.shared import SessionOf
from steady_tide.api.station import station
from steady_tide.core.light.sky import Cloud
from steady_tide.core.quantities.moments import Day, known_zone
from steady_tide.services.changes import Change, changed
from steady_tide.store import shoots as store
from steady_tide.store import shots as store_shots
from steady_tide.store.merging import revision_of
from steady_tide.store.tables import Shoot

router = station("shoots", "/shoots")

Line = Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")]


class ShootFields(BaseModel):
    """What a person enters for a shoot."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    title: Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^\x00]*$")]
    place: Line = ""
    day: Day | None = None
    zone: Annotated[str, Field(max_length=64)] = "UTC"
    latitude: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude: Annotated[float, Field(ge=-180, le=180)] | None = None
    mains_hz: Literal[50, 60] = 50
    cloud: Annotated[Cloud | None, Field(description="the sky by one's own judgement; left out: as forecast")] = None
    note: Annotated[str, Field(max_length=4000, pattern=r"^[^\x00]*$")] = ""

    _zone = field_validator("zone")(known_zone)


class ShootOut(ShootFields):
    """A shoot as kept."""

    id: UUID
    revision: int
    shots: int
    demo: Annotated[bool, Field(description="whether it came with the program")] = False
    crew: str | None = None
    people: list[str] = []
    school: dict[str, Any] = {}


class ShootList(BaseModel):
    """All shoots."""

    items: list[ShootOut]
    total: int


def _fields(shoot: Shoot) -> dict[str, Any]:
    return {name: getattr(shoot, name) for name in ShootFields.model_fields}


def _out(session: Session, shoot: Shoot, count: int) -> ShootOut:
    crew = store.crew_of(session, shoot)
    return ShootOut(
        **_fields(shoot),
        id=shoot.id,
        revision=revision_of(shoot.stamps),
        shots=count,
        demo=shoot.demo,
        crew=crew.name if crew else None,
        people=crew.people if crew else [],
        school=crew.school if crew else {},
    )


@router.get("")
def list_all(session: SessionOf) -> ShootList:
    """All shoots by day."""
    items = [_out(session, shoot, count) for shoot, count in store.list_shoots(session)]
    return ShootList(items=items, total=len(items))


@router.post("", status_code=201)
def add(session: SessionOf, fields: ShootFields) -> ShootOut:
    """Keep a new shoot."""
    return _out(session, store.add_shoot(session, fields.model_dump()), 0)


@router.get("/{shoot_id}")
def get(session: SessionOf, shoot_id: UUID) -> ShootOut:
    """One shoot."""
    return _out(session, store.get_shoot(session, shoot_id), len(store_shots.list_shots(session, shoot_id)))


@router.patch("/{shoot_id}")
def change(session: SessionOf, shoot_id: UUID, said: Change) -> ShootOut:
    """Change fields of a shoot. Others may have changed other ones meanwhile; of the same field one is asked."""
    shoot = store.locked_shoot(session, shoot_id)
    whole, shoot.stamps = changed(ShootFields, _fields(shoot), shoot.stamps, said.revision, said.change)
    for name in said.change:
        setattr(shoot, name, getattr(whole, name))
    session.flush()
    return _out(session, shoot, len(store_shots.list_shots(session, shoot_id)))


@router.delete("/{shoot_id}", status_code=204)
def remove(session: SessionOf, shoot_id: UUID) -> None:
    """Remove a shoot; it can be brought back."""
    store.remove_shoot(session, shoot_id)


@router.post("/{shoot_id}/restore")
def restore(session: SessionOf, shoot_id: UUID) -> ShootOut:
    """Bring a removed shoot back."""
    shoot = store.restore_shoot(session, shoot_id)
    return _out(session, shoot, len(store_shots.list_shots(session, shoot_id)))
