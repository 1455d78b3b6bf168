"""Kept documents say their version, and those of every version are read as today's."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any, get_args

import pytest
from alembic import command
from pydantic import TypeAdapter
from sqlalchemy import text

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.items import Mount
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.log.ladder import Ladder
from steady_tide.core.log.notes import Note
from steady_tide.core.log.take import TakeFields
from steady_tide.core.own.applying import read_number
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import WrongVersion
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.uses.use import Use
from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from steady_tide.store.documents import UPGRADES, VERSION, Kind, newest, upgraded
from steady_tide.store.tables import KeptThing
from steady_tide.words.plans import plan_text
from tests.service import own_database

FILES = sorted((Path(__file__).parents[1] / "old" / "documents").glob("*.json"))
READERS: dict[Kind, Callable[[Any], Any]] = {
    "brief": Brief.model_validate,
    "plan": Plan.model_validate,
    "framing": Framing.model_validate,
    "film": Film.model_validate,
    "use": Use.model_validate,
    "sheet": CameraSheet.model_validate,
    "thing": Mount.model_validate,
    "draft": dict,
    "ladder": Ladder.model_validate,
    "take": TakeFields.model_validate,
    "note": TypeAdapter(Note).validate_python,
    "number": read_number,
    "clip_plan": ClipPlan.model_validate,
}


def kind_and_version(path: Path) -> tuple[Kind, int]:
    kind, _, version = path.stem.partition("-")
    return kind, int(version)  # type: ignore[return-value]


def test_there_is_a_document_of_every_version_of_every_kind() -> None:
    wanted = {(kind, version) for kind in get_args(Kind) for version in range(1, newest(kind) + 1)}
    assert wanted == set(map(kind_and_version, FILES))


@pytest.mark.parametrize("path", FILES, ids=lambda path: path.stem)
def test_a_document_of_any_version_is_read_as_todays(path: Path) -> None:
    kind, version = kind_and_version(path)
    kept = json.loads(path.read_text())
    assert kept.get(VERSION, 1) == version
    READERS[kind](upgraded(kind, kept))


def test_what_went_wrong_with_a_take_of_the_first_version_is_part_of_its_note() -> None:
    first, second = (upgraded("take", json.loads(path.read_text())) for path in FILES if path.stem.startswith("take"))
    assert first == second
    assert second["note"] == "the lens fogged\nsecond try"


def test_a_kept_plan_of_an_earlier_version_is_still_told_in_words() -> None:
    kept = next(json.loads(path.read_text()) for path in FILES if path.stem == "plan-1")
    kept["reasons"]["white_balance_k"] = {"kind": "close", "chosen": 5500, "rival": 6000, "more_stops": 0.01}
    kept["reasons"]["profile"] = {"kind": "as_good", "chosen": "flat", "rival": "log", "more_stops": 0.0}
    words = plan_text(Plan.model_validate(upgraded("plan", kept)))
    assert words.reasons["white_balance_k"].startswith("6000")
    assert words.reasons["profile"].startswith("The log profile")
    assert "fewer bits a pixel" in words.reasons["bit_rate_mb_s"]


def test_a_mount_of_the_first_version_gets_its_traits_and_a_later_one_keeps_its_own() -> None:
    first, second = (json.loads(path.read_text()) for path in FILES if path.stem.startswith("thing"))
    assert upgraded("thing", first)["stands"] is True
    assert upgraded("thing", second)["stands"] is False, "somebody said so"


def test_a_document_of_a_newer_program_is_refused() -> None:
    with pytest.raises(WrongVersion, match="newer version of Steady Tide"):
        upgraded("thing", {VERSION: len(UPGRADES["thing"]) + 2})


def test_rows_are_upgraded_when_read_and_get_their_version_when_written(database: Database) -> None:
    with database.session() as session:
        tripod = session.get(KeptThing, ("mounts", "tripod"))
        assert tripod is not None
        said = dict(tripod.thing)
        old = json.dumps({name: value for name, value in said.items() if name not in ("stands", VERSION)})
        session.execute(text("update things set thing = cast(:old as jsonb) where id = 'tripod'"), {"old": old})
        session.expire_all()
        assert tripod.thing == said, "as before, though the row says no version"
        tripod.thing = {**said, "name": "legs"}
        session.flush()
        kept = session.scalar(text("select thing from things where id = 'tripod'"))
        assert kept == {**said, "name": "legs", VERSION: 2}
        session.rollback()


def test_a_migration_moves_the_names_of_views_in_kept_pins(cluster: Cluster) -> None:
    pins = "select brief #>> '{pins,view}' from shots where brief #>> '{pins,view}' is not null"
    with own_database(cluster, "moved") as moved:
        with moved.session() as session:
            old = """jsonb_set(brief, '{pins}', '{"view": "linear_level"}')"""
            session.execute(text(f"update shots set brief = {old} where id = (select id from shots limit 1)"))
        for target, there in (("0019", "linear_level"), ("head", "rectilinear_level")):
            config = moved.check_known()
            (command.downgrade if target == "0019" else command.upgrade)(config, target)
            with moved.session() as session:
                assert list(session.scalars(text(pins))) == [there]
