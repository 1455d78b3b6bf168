"""The data that ships with the product, read into the core's models."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

import yaml

from steady_tide.core.brief.knowledge import Knowledge, Weights
from steady_tide.core.brief.options import BriefOptions
from steady_tide.core.brief.scenarios import Scenario
from steady_tide.core.brief.traits import Trait
from steady_tide.core.cameras.fields import FieldGroup
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.cameras.typical import Typical
from steady_tide.core.edit.display import LookStyle
from steady_tide.core.gear.forms import GearForm
from steady_tide.core.gear.items import Chemistry, Mount
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.sky import SkyStops
from steady_tide.core.light.sources import Place
from steady_tide.core.light.water import Waters, WaterType
from steady_tide.core.planning.panel import PanelBrief
from steady_tide.core.practice.question import PracticeRules
from steady_tide.core.quantities.palette import Palette
from steady_tide.core.story.coverage import KindOfFraming
from steady_tide.core.uses.habits import HabitKind
from steady_tide.core.uses.use import Use

HERE = Path(__file__).parent


def _yaml(name: str) -> Any:
    return yaml.safe_load((HERE / name).read_text(encoding="utf-8"))


@cache
def knowledge() -> Knowledge:
    """Places, skies, waters, mounts, cells and weights. Returns the same frozen value each time."""
    waters = _yaml("waters.yaml")
    types = {
        entry["id"]: WaterType(
            id=entry["id"], name=entry["name"], kd_per_m=tuple(value / 100.0 for value in entry["kd"])
        )
        for entry in waters.pop("types")
    }
    return Knowledge(
        places={entry["id"]: Place.model_validate(entry) for entry in _yaml("places.yaml")},
        mounts={entry["id"]: Mount.model_validate(entry) for entry in _yaml("mounts.yaml")},
        weights=Weights.model_validate(_yaml("weights.yaml")),
        sky=SkyStops.model_validate(_yaml("sky.yaml")),
        waters=Waters.model_validate({**waters, "types": types}),
        scenarios={entry["id"]: Scenario.model_validate(entry) for entry in _yaml("scenarios.yaml")},
        chemistries={name: Chemistry.model_validate(entry) for name, entry in _yaml("cells.yaml").items()},
    )


@cache
def typical() -> Typical:
    """What is typical of cameras, for what a person does not know. Returns the same frozen value each time."""
    return Typical.model_validate(_yaml("typical.yaml"))


@cache
def sheet_fields() -> tuple[FieldGroup, ...]:
    """Every field of a sheet with its explanation. Returns the same frozen value each time."""
    return tuple(FieldGroup.model_validate(group) for group in _yaml("sheet_fields.yaml"))


@cache
def gear_forms() -> tuple[GearForm, ...]:
    """The form of every kind of gear but cameras. Returns the same frozen value each time."""
    return tuple(GearForm.model_validate(form) for form in _yaml("gear_forms.yaml"))


@cache
def brief_options() -> BriefOptions:
    """What a brief's choices are called. Returns the same frozen value each time."""
    return BriefOptions.model_validate(_yaml("options.yaml"))


def limit_names() -> tuple[str, ...]:
    """Names of all limits, in their order. Returns them."""
    return tuple(_yaml("weights.yaml")["limits"])


def scenario_traits() -> dict[str, tuple[Trait, ...]]:
    """Traits of each scenario, by id, in their order. Returns them."""
    return {entry["id"]: Scenario.model_validate(entry).traits for entry in _yaml("scenarios.yaml")}


@cache
def palette() -> Palette:
    """Colours and sizes of type. Returns the same frozen value each time."""
    return Palette.model_validate(_yaml("palette.yaml"))


@cache
def demo_kit() -> Kit:
    """All that the demo crew owns. Returns the same frozen value each time."""
    paths = sorted((HERE / "sheets").glob("*.json"))
    sheets = (read_sheet(json.loads(path.read_bytes()), path.name) for path in paths)
    return Kit.model_validate({"cameras": tuple(sheets), **_yaml("kit.yaml")})


@cache
def framings() -> dict[str, KindOfFraming]:
    """Kinds of framing, in the order in which they are proposed. Returns the same value each time."""
    return {entry["id"]: KindOfFraming.model_validate(entry) for entry in _yaml("framings.yaml")}


@cache
def looks() -> dict[str, LookStyle]:
    """Looks of ours, by id. Returns the same value each time."""
    return {entry["id"]: LookStyle.model_validate(entry) for entry in _yaml("looks.yaml")}


@cache
def habits() -> dict[str, HabitKind]:
    """What is set once on a camera, by id. Returns the same value each time."""
    return {entry["id"]: HabitKind.model_validate(entry) for entry in _yaml("habits.yaml")}


@cache
def glossary() -> dict[str, dict[str, str]]:
    """The product's own words, by id: the term, and what it means. Returns the same value each time."""
    found: dict[str, dict[str, str]] = _yaml("glossary.yaml")
    return found


@cache
def practice() -> PracticeRules:
    """How practice judges. Returns the same frozen value each time."""
    return PracticeRules.model_validate(_yaml("practice.yaml"))


@cache
def panel() -> tuple[PanelBrief, ...]:
    """Briefs with what an operator accepts of their plans. Returns the same frozen value each time."""
    paths = sorted((HERE / "panel").glob("*.yaml"))
    return tuple(
        PanelBrief.model_validate({**entry, "id": f"{path.stem}/{entry['id']}"})
        for path in paths
        for entry in map(_of_use, yaml.safe_load(path.read_text(encoding="utf-8")))
    )


def _of_use(entry: dict[str, Any]) -> dict[str, Any]:
    """An entry of the panel; one of a use of the shelf takes its brief from there."""
    named = entry.get("use")
    if named is None:
        return entry
    brief = uses()[named].brief.model_dump(mode="json", exclude_defaults=True, exclude={"title"})
    rest = {name: value for name, value in entry.items() if name != "use"}
    return {"id": named, "title": uses()[named].name, "brief": brief, **rest}


@cache
def uses() -> dict[str, Use]:
    """The shelf: what people usually film, by id. Returns the same value each time."""
    return {
        entry["id"]: Use.model_validate({**entry, "brief": {"title": entry["name"], **entry["brief"]}})
        for entry in _yaml("uses.yaml")
    }
