"""Routes of the kit: cameras, the words that a brief may use, the crew's way, and the schema of a camera sheet."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel

from steady_tide import library
from steady_tide.api.shared import SessionOf
from steady_tide.core.brief import USUAL_SCHOOL, School
from steady_tide.core.errors import NotFound
from steady_tide.core.kit import Cell, Filter, Housing, KitLamp, Medium, Mount
from steady_tide.core.light.sources import Place
from steady_tide.core.sheet import CameraSheet
from steady_tide.store.shoots import change_crew, crew_school

router = APIRouter(tags=["kit"])


class Cameras(BaseModel):
    """The crew's cameras."""

    items: list[CameraSheet]
    total: int


class Named(BaseModel):
    """Something with an id and a name."""

    id: str
    name: str


class CameraName(Named):
    """A camera without its sheet."""

    kind: str


class Vocabulary(BaseModel):
    """What a brief can name, and the crew's way of working; what the crew leaves open follows the usual way."""

    scenarios: list[str]
    places: list[Place]
    mounts: list[Mount]
    waters: list[Named]
    cameras: list[CameraName]
    filters: list[Filter]
    housings: list[Housing]
    lamps: list[KitLamp]
    batteries: list[Cell]
    media: list[Medium]
    school: School


@router.get("/cameras")
def cameras() -> Cameras:
    """All cameras with their sheets."""
    sheets = list(library.demo_kit().cameras)
    return Cameras(items=sheets, total=len(sheets))


@router.get("/cameras/{camera_id}")
def camera(camera_id: str) -> CameraSheet:
    """One camera's sheet."""
    found = next((sheet for sheet in library.demo_kit().cameras if sheet.id == camera_id), None)
    if found is None:
        raise NotFound(f"There is no camera '{camera_id}' in the kit.")
    return found


@router.get("/camera-sheet.schema.json")
def sheet_schema() -> dict[str, Any]:
    """JSON Schema of the open camera sheet format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **CameraSheet.model_json_schema()}


@router.get("/crew/school")
def school(session: SessionOf) -> School:
    """The crew's way of working, which a brief follows where it says nothing."""
    return crew_school(session)


@router.put("/crew/school")
def change_school(session: SessionOf, school: School) -> School:
    """Change the crew's way of working."""
    return School.model_validate(change_crew(session, school).school)


@router.get("/vocabulary")
def vocabulary(session: SessionOf) -> Vocabulary:
    """Everything that a brief can name, and the crew's way."""
    known, kit = library.knowledge(), library.demo_kit()
    return Vocabulary(
        scenarios=list(known.weights.scenarios),
        places=list(known.places.values()),
        mounts=list(known.mounts.values()),
        waters=[Named(id=water.id, name=water.name) for water in known.waters.types.values()],
        cameras=[CameraName(id=sheet.id, name=sheet.name, kind=sheet.kind) for sheet in kit.cameras],
        filters=list(kit.filters),
        housings=list(kit.housings),
        lamps=list(kit.lamps),
        batteries=list(kit.batteries),
        media=list(kit.media),
        school=crew_school(session).over(USUAL_SCHOOL),
    )
