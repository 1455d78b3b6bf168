"""Load the demo into a database, once."""

from __future__ import annotations

import shutil
from pathlib import Path

import yaml

from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.shoot.shoot_file import DayRules, ShotWishes
from steady_tide.demo.record import RUSHES, trial_day
from steady_tide.services.crew_kit import read_crew_kit
from steady_tide.services.kept_plans import planned_fields
from steady_tide.services.plans import Plans
from steady_tide.services.rush_folders import look_into
from steady_tide.store.database import Database
from steady_tide.store.rushes import add_folder
from steady_tide.store.shoots import add_crew, add_shoot, crew_school, first_crew, mark_once
from steady_tide.store.shots import add_shot

DEMO = Path(__file__).parent / "harrow_fleet.yaml"


def load_demo(database: Database) -> bool:
    """Load crew, shoots and shots. database: migrated. Returns False where that was done before."""
    data = yaml.safe_load(DEMO.read_text(encoding="utf-8"))
    with database.session() as session:
        if not mark_once(session, "demo", DEMO.stem):
            return False
        crew = add_crew(session, **data["crew"])
        gear = read_crew_kit(session)
        plans = Plans()
        school = School.model_validate(data["crew"]["school"])
        for shoot in data["shoots"]:
            rules = DayRules.model_validate(shoot.get("rules", {})).model_dump(mode="json")
            fields = {name: value for name, value in shoot.items() if name != "shots"}
            kept = add_shoot(session, {**fields, "rules": rules, "crew_id": crew.id, "demo": True})
            for shot in shoot["shots"]:
                brief = read_brief({**shot["brief"], "mains_hz": shoot["mains_hz"]})
                wishes = ShotWishes.model_validate(shot.get("wishes", {})).model_dump(mode="json")
                brief, starts_at = one_time(brief, shot["starts_at"])
                planned = planned_fields(brief, school, gear, plans)
                add_shot(session, kept.id, {"starts_at": starts_at, "wishes": wishes, **planned})
    return True


def load_trial(database: Database, folder: Path) -> None:
    """Load the trial evening, and lay its takes into a folder of rushes. database: migrated, with the demo; folder: made
    where it is missing. Does nothing where that was done before."""
    day = trial_day()
    with database.session() as session:
        if not mark_once(session, "demo-rushes", day["shoot"]["title"]):
            return
        gear, plans, school = read_crew_kit(session), Plans(), crew_school(session)
        crew = first_crew(session)
        kept = add_shoot(
            session, {**day["shoot"], "rules": {}, "crew_id": None if crew is None else crew.id, "demo": True}
        )
        for shot in day["shots"]:
            brief = read_brief({**shot["brief"], "mains_hz": day["shoot"]["mains_hz"]})
            brief, starts_at = one_time(brief, shot["starts_at"])
            planned = planned_fields(brief, school, gear, plans)
            wishes = ShotWishes().model_dump(mode="json")
            add_shot(session, kept.id, {"starts_at": starts_at, "wishes": wishes, **planned})
        folder.mkdir(parents=True, exist_ok=True)
        for clip in sorted(RUSHES.glob("*.mp4")):
            shutil.copy2(clip, folder / clip.name)
        laid = add_folder(session, str(folder.resolve()), "named")
        laid.demo = True
        look_into(session, laid)
