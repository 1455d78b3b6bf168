"""Films that several tests use."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.sources import SkyLight
from steady_tide.core.shoot.film import Beat, Film, FramedShot, Framing
from steady_tide.core.shoot.shoot_file import FilmEntry, ShootFile, ShotEntry
from steady_tide.core.story.coverage import framing_brief, proposals
from tests.briefs import brief

NOON = datetime(2026, 10, 18, 11, tzinfo=UTC)


def film(**fields: Any) -> Film:
    """A film of twenty seconds at 96 beats a minute, of two beats."""
    usual = {
        "title": "The mill wakes",
        "length_s": 20,
        "music_bpm": 96,
        "beats": (Beat(id="a", title="Arrive", subjects=("Wren",)), Beat(id="b", title="Rest", subjects=("Wren",))),
    }
    return Film.model_validate({**usual, **fields})


def framed(key: str, beat: str = "a", of: Film | None = None, given: Brief | None = None, **fields: Any) -> FramedShot:
    """A framing with the brief that its film makes of it."""
    framing = Framing.model_validate({"film": "f", "beat": beat, "place": int(key), **fields})
    return FramedShot(key=key, brief=framing_brief(of or film(), framing, given or brief()), framing=framing)


def sky(at: datetime = NOON, minutes: int = 30) -> SkyLight:
    """A clear sky over the mill."""
    return SkyLight(kind="sky", latitude=52.06, longitude=1.31, start=at, end=at + timedelta(minutes=minutes))


def mill_shoot(per_beat: int = 3) -> ShootFile:
    """A shoot with a film of which framings were proposed."""
    told, kinds, limits = film(shapes=("16:9", "9:16")), library.framings(), library.knowledge().limits
    shots = []
    for place, beat in enumerate(told.beats):
        at = NOON + timedelta(minutes=40 * place)
        for one in proposals(told, "f", beat, (), kinds, sky(at), False, limits)[:per_beat]:
            shots.append(ShotEntry(starts_at=at, brief=one.brief, framing=one.framing))
    return ShootFile(
        title="Mill",
        day=NOON.date(),
        zone="Europe/London",
        latitude=52.06,
        longitude=1.31,
        shots=tuple(shots),
        films=(FilmEntry(key="f", film=told),),
    )
