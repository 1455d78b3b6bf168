"""Load a film of the mill, half of it filmed by the simulated crew, once."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any
from uuid import UUID, uuid5

import numpy as np
import yaml
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.log.take import TakeFields
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.story.coverage import framing_brief
from steady_tide.demo.season import true_habits
from steady_tide.services.crew_kit import read_crew_kit
from steady_tide.services.plans import Plans
from steady_tide.services.rush_plans import plan_of
from steady_tide.services.stories import add_framings, usual_light
from steady_tide.standins.crew import measured_take
from steady_tide.store import takes as store_takes
from steady_tide.store.database import Database
from steady_tide.store.films import add_film
from steady_tide.store.shoots import add_shoot, crew_school, first_crew, mark_once
from steady_tide.store.tables import Shoot

FILM = Path(__file__).parent / "film.yaml"
NAMES = UUID("7b0f5c1e-3a55-4d62-9c7e-5f0e6a0f2b18")
SEED = 96


@cache
def film_data() -> dict[str, Any]:
    """The film as it is written down."""
    data: dict[str, Any] = yaml.safe_load(FILM.read_text(encoding="utf-8"))
    return data


def load_film(database: Database) -> bool:
    """Load the film's shoot, its framings and their takes. database: migrated, with the demo. Returns False where that was done before."""
    data = film_data()
    with database.session() as session:
        if not mark_once(session, "demo-film", FILM.stem):
            return False
        crew = first_crew(session)
        shoot = add_shoot(
            session, {**data["shoot"], "rules": {}, "crew_id": None if crew is None else crew.id, "demo": True}
        )
        kept = add_film(session, shoot.id, Film.model_validate(data["film"]).model_dump(mode="json"))
        for place, entry in enumerate(data["framings"]):
            _framing(session, shoot, kept.id, place, entry)
    return True


def _framing(session: Session, shoot: Shoot, film_id: UUID, place: int, entry: dict[str, Any]) -> None:
    gear, school, plans = read_crew_kit(session), crew_school(session), Plans()
    film = Film.model_validate(film_data()["film"])
    framing, brief, at = framing_of_entry(film, str(film_id), place, entry, shoot)
    (row,) = add_framings(session, film_id, [(framing, brief)], at, school, gear, plans)
    plan = plan_of(session, row, gear)
    rng = np.random.default_rng([SEED, place])
    for number, rating in enumerate(entry.get("takes", ())):
        assert plan is not None, f"{brief.title} has no plan"
        when = at + timedelta(seconds=40 * (number + 1))
        seconds = round(float(rng.uniform(10, 16)), 1)
        measures = measured_take(plan, "", 0.0, seconds, true_habits(), rng)
        said = TakeFields.model_validate(
            {"at": when, "camera": plan.camera, "mount": plan.mount, "rating": rating, "seconds": seconds}
        )
        fields = {
            "shot_id": row.id,
            "at": when,
            "said": said.model_dump(mode="json"),
            "made_by": "demo",
            "measures": measures.model_dump(mode="json"),
            "planned": plan.model_dump(mode="json"),
        }
        store_takes.put_take(session, uuid5(NAMES, f"{place}/{number}"), fields)


def framing_of_entry(
    film: Film, film_key: str, place: int, entry: dict[str, Any], shoot: Shoot
) -> tuple[Framing, Brief, datetime]:
    """A framing of the demo, its brief and its start, from how it is written down."""
    kind = library.framings()[entry["kind"]]
    at = datetime.fromisoformat(entry["at"])
    figure = entry.get("figure", kind.figure)
    framing = Framing(
        film=film_key,
        beat=entry["beat"],
        place=place,
        kind=kind.id,
        subject=entry.get("subject", ""),
        figure=figure,
        units=entry["units"],
        from_deg=entry.get("from"),
        heading_deg=entry.get("heading"),
        across=entry.get("across", 0.0),
        movement=entry.get("move"),
        light=entry.get("light"),
        joins=tuple(entry.get("joins", ())),
        runs="left_to_right" if kind.bridges else None,
        slow_factor=entry.get("slow"),
    )
    brief = read_brief(
        {
            "title": entry.get("title", f"{film.beat(entry['beat']).title}: {kind.name}"),  # type: ignore[union-attr]
            "light": {"kind": "place", "place": entry["place"]}
            if "place" in entry
            else usual_light(shoot, at, 600.0).model_dump(mode="json"),
            "subject": {
                "distance_m": entry["distance"],
                "size_m": entry.get("size", max(kind.size_m)),
                "fills": kind.fills,
            },
            "camera_move": {"mount": entry.get("mount", "tripod")},
            "sound": {"wanted": False},
            "pins": {"camera": film_data()["camera"]},
        }
    )
    brief, starts_at = one_time(framing_brief(film, framing, brief), at)
    return framing, brief, starts_at or at
