"""Routes of Look: frames of a plan before it is filmed, films of it, scenes, stills of one's own."""

from __future__ import annotations

import asyncio
from typing import Annotated, Any
from uuid import UUID

from fastapi import Body, Header, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, Field, model_validator

from steady_tide import library
from steady_tide.api.services import services_at
from steady_tide.api.shared import AsideDesk, CrewWay, HeldKit, LooksOf, SessionOf, while_wanted
from steady_tide.api.station import station
from steady_tide.core.look.numbers import LookNumbers
from steady_tide.core.look.scenes import ALL
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.formats.media_in import still_of_bytes
from steady_tide.services.frame_cache import FilmState
from steady_tide.services.isolated_reading import read_aside
from steady_tide.services.look_frames import LookAsked
from steady_tide.services.look_scenes import own_still_in
from steady_tide.store import look_stills as store
from steady_tide.words.looks import LIMITS, LookText, look_text, made_with

router = station("look", "/look")
NUMBERS = "Look-Numbers"
PICTURES: dict[int | str, dict[str, object]] = {
    200: {
        "content": {"image/webp": {}, "image/png": {}},
        "description": "The picture; its numbers stand in the header.",
        "headers": {NUMBERS: {"description": "Numbers of the frame, as JSON", "schema": {"type": "string"}}},
    }
}
FILM: dict[int | str, dict[str, object]] = {200: {"content": {"video/mp4": {}}, "description": "The film."}}
Name = Annotated[str, Query(min_length=1, max_length=120)]


class SceneListed(BaseModel):
    """A scene to choose from. own: whether it is a still of one's own."""

    id: str
    name: str
    kinds: tuple[str, ...]
    shows: str
    neutral: str
    own: bool = False
    distance_m: float | None = None


class Scenes(BaseModel):
    """Scenes, and what every picture of them leaves out."""

    items: list[SceneListed]
    total: int
    limits: str


class ClipAsked(BaseModel):
    """One plan, or two side by side and in step; all of one size and rate."""

    plans: Annotated[tuple[LookAsked, ...], Field(min_length=1, max_length=2)]
    seconds: Annotated[float, Field(ge=0.2, le=6)] = 2.0

    @model_validator(mode="before")
    @classmethod
    def _one_alone(cls, data: Any) -> Any:
        """One plan may be asked for as a frame is, with its seconds beside it."""
        if not isinstance(data, dict) or "plans" in data or "brief" not in data:
            return data
        alone = {name: value for name, value in data.items() if name != "seconds"}
        return {"plans": [alone], **({"seconds": data["seconds"]} if "seconds" in data else {})}


class FramesCompared(BaseModel):
    """Numbers of one frame, or of two."""

    left: LookNumbers
    right: LookNumbers | None = None


class FramesText(LookText):
    """The same in words. made: what each was exposed with."""

    made: list[str]


@router.get("/scenes")
def scenes(session: SessionOf) -> Scenes:
    """Scenes of ours, and stills of one's own."""
    kinds = library.knowledge().scenarios.values()
    stands_for = {s.id: tuple(kind.id for kind in kinds if s.id in kind.scenes) for s in ALL}
    items = [SceneListed(id=s.id, name=s.name, kinds=stands_for[s.id], shows=s.shows, neutral=s.neutral) for s in ALL]
    items += [_listed(still.id, still.name, still.distance_m) for still in store.list_stills(session)]
    return Scenes(items=items, total=len(items), limits=LIMITS)


def _listed(still_id: UUID, name: str, distance_m: float) -> SceneListed:
    shows = "A still of your own. What it has lost already no setting brings back."
    return SceneListed(
        id=str(still_id), name=name, kinds=(), shows=shows, neutral="whatever was grey", own=True, distance_m=distance_m
    )


@router.post("/frame", response_class=Response, responses=PICTURES)
async def frame(
    request: Request,
    asked: LookAsked,
    crew: CrewWay,
    kit: HeldKit,
    shelf: LooksOf,
    x_editor: Annotated[
        str | None, Header(max_length=64, description="who asks: his newer request takes the place of an older one")
    ] = None,
) -> Response:
    """A plan's frame, with the numbers that it was made from and came to in a header."""
    still = await run_in_threadpool(own_still_in, services_at(request).database, asked.scene)
    drawn = asyncio.wrap_future(await run_in_threadpool(shelf.ask, asked, crew, kit, still, x_editor))
    # What is begun is drawn to its end: it is kept, and whoever asks again has it at once.
    found = await while_wanted(request, drawn, lambda: True)
    return Response(found.picture, media_type=f"image/{asked.form}", headers={NUMBERS: found.numbers.model_dump_json()})


@router.post("/told")
def frames_text(asked: Annotated[FramesCompared, Body()]) -> FramesText:
    """Numbers of frames in words: rows for a table, and what the left one is against the right one."""
    said = look_text(asked.left, asked.right)
    return FramesText(
        rows=said.rows,
        prices=said.prices,
        text=said.text,
        made=[made_with(one) for one in (asked.left, asked.right) if one is not None],
    )


@router.post("/clip", status_code=202)
def begin_clip(request: Request, asked: ClipAsked, crew: CrewWay, kit: HeldKit, shelf: LooksOf) -> FilmState:
    """Begin a film. Ask for its state until it is done."""
    first = asked.plans[0]
    for index, other in enumerate(asked.plans):
        if (other.width, other.height, other.brief.delivery.fps) != (
            first.width, first.height, first.brief.delivery.fps,
        ):  # fmt: skip
            raise BadBrief(
                Fault(f"plans[{index}]", "is of another size or rate than the first", "Films in step share both.")
            )
    both = [(one, own_still_in(services_at(request).database, one.scene)) for one in asked.plans]
    return shelf.begin_film(both, crew, kit, asked.seconds)


@router.get("/clips/{clip_id}")
def clip_state(clip_id: str, shelf: LooksOf) -> FilmState:
    """How far a film is."""
    return shelf.film_state(clip_id)


@router.get("/clips/{clip_id}/file", response_class=Response, responses=FILM)
def clip_file(clip_id: str, shelf: LooksOf) -> Response:
    """A film that is done, as MP4."""
    return Response(shelf.film_file(clip_id), media_type="video/mp4")


@router.delete("/clips/{clip_id}", status_code=204)
def stop_clip(clip_id: str, shelf: LooksOf) -> None:
    """Stop a film, and forget it."""
    shelf.stop_film(clip_id)


@router.post("/stills", status_code=201)
def add_still(
    session: SessionOf,
    aside: AsideDesk,
    picture: Annotated[bytes, Body(media_type="application/octet-stream", description="JPEG or PNG, as it was taken")],
    name: Name,
    distance_m: Annotated[float, Query(gt=0.01, le=100_000, description="how far what it shows is")] = 5.0,
) -> SceneListed:
    """Let a still of one's own stand as a scene. It is made smaller, and taken as what a display shows."""
    made = store.add_still(session, name, distance_m, read_aside(aside, _smaller, picture, name))
    return _listed(made.id, made.name, made.distance_m)


@router.delete("/stills/{still_id}", status_code=204)
def delete_still(session: SessionOf, still_id: UUID) -> None:
    """Take a still off."""
    store.delete_still(session, still_id)


def _smaller(data: bytes, name: str) -> bytes:
    return still_of_bytes(name, data)
