"""Routes of the kit: cameras, the words that a brief may use, and the schema of a camera sheet."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel

from steady_tide import library
from steady_tide.core.errors import NotFound
from steady_tide.core.kit import Mount, NdFilter
from steady_tide.core.light.sources import Place
from steady_tide.core.sheet import CameraSheet

router = APIRouter(tags=["kit"])


class Cameras(BaseModel):
    """The crew's cameras."""

    items: list[CameraSheet]
    total: int


class Vocabulary(BaseModel):
    """What a brief can name."""

    scenarios: list[str]
    places: list[Place]
    mounts: list[Mount]
    filters: list[NdFilter]


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


@router.get("/vocabulary")
def vocabulary() -> Vocabulary:
    """Scenarios, places, mounts and filters that a brief can name."""
    known = library.knowledge()
    return Vocabulary(
        scenarios=list(known.weights.scenarios),
        places=list(known.places.values()),
        mounts=list(known.mounts.values()),
        filters=list(library.demo_kit().filters),
    )
