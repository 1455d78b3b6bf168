"""Clips with notes that several tests use."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import cache
from typing import Any

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.edit.notes import EditShot, EditTake
from steady_tide.core.log.take import TakeFields
from steady_tide.core.planning.planner import plan
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline
from tests.briefs import brief
from tests.films import NOON, sky


@cache
def _planned(text: str) -> ClipPlan:
    given = Brief.model_validate_json(text)
    kit, known = library.demo_kit(), library.knowledge()
    made = plan(given, kit, known, schools=False)
    camera = kit.camera(made.camera.id)
    assert camera is not None
    return clip_plan(given, made, camera, known)


def edit_shot(
    key: str = "1",
    takes: tuple[EditTake, ...] = (),
    camera: str = "yawl-12",
    pins: dict[str, Any] | None = None,
    **fields: Any,
) -> EditShot:
    """A shot by day with its plan. fields: of its brief."""
    given = brief(
        **{
            "title": f"shot {key}",
            "light": sky().model_dump(mode="json"),
            "pins": {"camera": camera, **(pins or {})},
            **fields,
        }
    )
    return EditShot(key, int(key), given.title, given, _planned(given.model_dump_json()), takes=takes)


def edit_take(
    key: str = "t1",
    rating: str | None = "keep",
    seconds: float = 20.0,
    number: int = 1,
    at: datetime = NOON,
    **fields: Any,
) -> EditTake:
    """A take of it. fields: of the take as it is cut."""
    said = TakeFields.model_validate(
        {"at": at + timedelta(minutes=number), "rating": rating, "seconds": seconds, "faults": fields.pop("faults", ())}
    )
    return EditTake(key=key, number=number, said=said, **fields)


def clip_measures(**fields: Any) -> ClipMeasures:
    """Measures of a clip of 3840 by 2160 at 25 frames a second."""
    usual = {
        "file": "a.mp4", "width": 3840, "height": 2160, "frame_rate": 25.0, "seconds": 20.0, "codec": "hevc", "bits": 10,
        "bit_rate_mb_s": 100.0, "frames_measured": 500,
    }  # fmt: skip
    return ClipMeasures.model_validate({**usual, **fields})


def timeline(moves: list[float | None], white: list[float] | None = None) -> Timeline:
    """A timeline with a step a second."""
    steps = len(moves)
    flat = (0.0,) * steps
    return Timeline(
        at_s=tuple(float(n) for n in range(steps)),
        low_stops=flat,
        median_stops=flat,
        high_stops=flat,
        white_share=tuple(white or flat),
        black_share=flat,
        move_px=tuple(moves),
    )
