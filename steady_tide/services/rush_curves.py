"""The curves of cameras' profiles, as clips are measured with them."""

from __future__ import annotations

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.rushes.profiles import table_of
from steady_tide.formats.rushes_in import Profiled
from steady_tide.services.crew_kit import read_crew_kit

AS_THE_STREAM_SAYS = "stream"
TYPICAL_DOUBT = "the sheet has no curve for this profile; a typical one was undone"


def sheet_of(session: Session, camera: str) -> CameraSheet | None:
    """A camera's sheet, None where the crew has none of that name any more."""
    return read_crew_kit(session).kit.camera(camera)


def profiled_of(sheet: CameraSheet | None, profile: str) -> tuple[Profiled | None, str]:
    """How codes of a profile become light, and a name for it. sheet: of the camera; profile: its id."""
    chosen = next((one for one in sheet.profiles if one.id == profile), None) if sheet is not None else None
    found = None if chosen is None else table_of(chosen, library.knowledge().limits)
    if sheet is None or found is None:
        return None, AS_THE_STREAM_SAYS
    table, own = found
    named = f"{sheet.id}/{profile}/{'own' if own else 'typical'}"
    return Profiled(curve=table.light, doubt=None if own else TYPICAL_DOUBT), named
