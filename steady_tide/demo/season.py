"""Load a season of takes by a crew with known habits, once."""

from __future__ import annotations

from datetime import datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any
from uuid import UUID, uuid5

import numpy as np
import yaml
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import Brief, School, read_brief
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.log.ladder import Ladder, LadderBasis, ladder_of
from steady_tide.core.log.notes import GlassNote
from steady_tide.core.log.take import TakeFields
from steady_tide.core.planning.plan import Plan
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.shoot.shoot_file import ShotWishes
from steady_tide.services.crew_kit import CrewKit, read_crew_kit
from steady_tide.services.kept_plans import planned_fields
from steady_tide.services.own_numbers import NOTE
from steady_tide.services.plans import Plans
from steady_tide.services.rush_plans import plan_of
from steady_tide.standins.crew import Habits, faults_of_take, judge_ladder, measured_take, ran_down
from steady_tide.store import ladders as store_ladders
from steady_tide.store import takes as store_takes
from steady_tide.store.database import Database
from steady_tide.store.shoots import add_shoot, crew_school, first_crew, mark_once
from steady_tide.store.shots import add_shot
from steady_tide.store.tables import Shot
from steady_tide.words.log import ladder_title

SEASON = Path(__file__).parent / "season.yaml"
NAMES = UUID("2b6b1f0a-0d0c-4d39-8d0b-6d6f1d3f9a11")


@cache
def season() -> dict[str, Any]:
    """The season as it is written down, truth and all."""
    data: dict[str, Any] = yaml.safe_load(SEASON.read_text(encoding="utf-8"))
    return data


def true_habits() -> Habits:
    """What is true of the season's crew."""
    return Habits(**season()["truth"], scatter=season()["scatter"])


def load_season(database: Database) -> bool:
    """Load shoots, takes, ladders and notes of the season. database: migrated, with the demo. Returns False where that was done
    before."""
    with database.session() as session:
        if not mark_once(session, "demo-season", SEASON.stem):
            return False
        _Season(session).load()
    return True


class _Season:
    """A season on its way into a database."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self.rng = np.random.default_rng(season()["seed"])
        self.gear: CrewKit = read_crew_kit(session)
        self.school: School = crew_school(session)
        self.plans = Plans()
        self.habits = true_habits()
        self.shots: dict[str, tuple[Shot, ClipPlan, Brief, float]] = {}

    def load(self) -> None:
        """All of it."""
        crew = first_crew(self.session)
        for entry in season()["shoots"]:
            kept = add_shoot(
                self.session,
                {**entry["shoot"], "rules": {}, "crew_id": None if crew is None else crew.id, "demo": True},
            )
            for shot in entry["shots"]:
                self._film(kept.id, entry["shoot"]["place"], shot)
        for ladder in season()["ladders"]:
            self._ladder(ladder)
        for number, note in enumerate(season()["notes"]):
            self._note(number, note)

    def _film(self, shoot_id: UUID, place: str, shot: dict[str, Any]) -> None:
        row, brief = self._planned(shoot_id, shot)
        plan = plan_of(self.session, row, self.gear)
        assert plan is not None
        content = float(self.rng.normal(0.0, self.habits.scatter["content_stops"]))
        self.shots[shot["title"]] = (row, plan, brief, content)
        at = shot["starts_at"]
        for number in range(shot["takes"]):
            at += timedelta(seconds=float(self.rng.uniform(60, 200)))
            seconds = round(float(self.rng.uniform(12, 50)), 1)
            measures = measured_take(plan, shot["hands"], content, seconds, self.habits, self.rng)
            faults = faults_of_take(plan, place, self.habits, self.rng)
            rating = "no" if len(faults) > 1 else ("keep", "keep", "maybe", "no")[int(self.rng.integers(0, 4))]
            self._take(f"{shot['title']}/{number}", row, at, shot["hands"], plan, seconds, measures, faults, rating)

    def _take(
        self, name: str, row: Shot, at: datetime, hands: str, plan: ClipPlan, seconds: float, measures: Any, faults: list[str],
        rating: str | None, **more: Any,
    ) -> None:  # fmt: skip
        said = TakeFields.model_validate(
            {
                "at": at, "camera": plan.camera, "mount": plan.mount, "hands": hands, "rating": rating, "faults": faults,
                "seconds": seconds,
            }
        )  # fmt: skip
        fields = {
            "shot_id": row.id, "at": at, "said": said.model_dump(mode="json"), "made_by": "demo",
            "measures": measures.model_dump(mode="json"), "planned": plan.model_dump(mode="json"), **more,
        }  # fmt: skip
        store_takes.put_take(self.session, uuid5(NAMES, name), fields)

    def _planned(self, shoot_id: UUID, shot: dict[str, Any]) -> tuple[Shot, Brief]:
        brief = read_brief(
            {
                "title": shot["title"],
                "scenario": shot.get("scenario", "everyday"),
                "light": shot["light"],
                "subject": {"distance_m": [1.5, 8], "speed_m_s": 1},
                "camera_move": {
                    "mount": shot["mount"],
                    "travel_m_s": shot.get("travel_m_s", 0.0),
                    "hands": shot["hands"],
                },
                "delivery": {"width": 3840, "height": 2160},
                "take": {"length_s": 30, "count": shot["takes"], "standby_min": 10},
                "pins": {"camera": shot["camera"]},
                "mains_hz": 50,
            }
        )
        brief, starts_at = one_time(brief, shot["starts_at"])
        fields = planned_fields(brief, self.school, self.gear, self.plans)
        wishes = ShotWishes().model_dump(mode="json")
        return add_shot(self.session, shoot_id, {"starts_at": starts_at, "wishes": wishes, **fields}), brief

    def _ladder(self, asked: dict[str, Any]) -> None:
        row, plan, brief, content = self.shots[asked["shot"]]
        ladder = self._made(row, brief, asked)
        title = ladder_title(ladder, plan.camera_name, brief.title)
        kept = store_ladders.add_ladder(self.session, row.id, title, ladder.model_dump(mode="json"))
        at = asked["at"]
        hands = brief.camera_move.hands or ""
        filmed: dict[int, list[float]] = {}
        for number, rung in enumerate(ladder.order):
            at += timedelta(seconds=ladder.take_s + 25)
            held = ladder.rungs[rung].planned
            measures = measured_take(held, hands, content, ladder.take_s, self.habits, self.rng)
            assert measures.noise.snr_grey is not None
            filmed.setdefault(rung, []).append(measures.noise.snr_grey * measures.width / held.delivered_px)
            self._take(
                f"{asked['shot']}/ladder/{number}", row, at, hands, held, ladder.take_s, measures, [], None,
                ladder_id=kept.id, rung=rung,
            )  # fmt: skip
        amounts = {rung: float(np.median(seen)) for rung, seen in filmed.items()}
        usual = self.gear.bare[1].weights.noise_limit_snr["balanced"]
        for who, times in asked["asked"].items():
            answers = judge_ladder(ladder, amounts, who, times, usual, at + timedelta(days=1), self.habits, self.rng)
            for number, answer in enumerate(answers):
                name = uuid5(NAMES, f"{asked['shot']}/{who}/{number}")
                said = answer.model_copy(update={"at": answer.at + timedelta(seconds=20 * number)})
                store_ladders.put_answer(self.session, kept.id, name, said.at, said.model_dump(mode="json"))

    def _made(self, row: Shot, brief: Brief, asked: dict[str, Any]) -> Ladder:
        plan = Plan.model_validate(row.plan)

        def planner(other: Brief) -> Plan:
            return self.plans.plan(other, self.school, self.gear, only=plan.camera.id, schools=False)

        basis = LadderBasis(brief, plan, self.gear.camera(plan.camera.id), self.gear.knowledge, planner)
        return ladder_of(basis, asked["dial"], asked["values"])

    def _note(self, number: int, note: dict[str, Any]) -> None:
        if note["kind"] == "charge":
            said = NOTE.validate_python(ran_down(note, *self.gear.bare, self.habits, self.rng))
        else:
            stops = round(self.habits.glass[note["filter"]] + float(self.rng.normal(0.0, 0.05)), 2)
            said = GlassNote.model_validate({**note, "stops": stops})
        kept, _ = store_takes.put_note(
            self.session, uuid5(NAMES, f"note/{number}"), said.at, said.model_dump(mode="json")
        )
        kept.demo = True
