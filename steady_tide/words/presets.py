"""Presets and what is turned by hand, in words."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from steady_tide.core.outing.presets import Change, PresetPlan, Step, StoredPreset
from steady_tide.words.dial_values import value_words


class PresetText(StoredPreset):
    """What is stored under one number, in words. chosen: the values themselves, in the form that pins them."""

    values: dict[str, str]
    chosen: dict[str, Any] = Field(default_factory=dict)


class ChangeText(Change):
    """One dial to turn by hand, its value in words."""

    value: str


class StepText(Step):
    """How the camera is brought from the shot before to this one."""

    changes: tuple[ChangeText, ...]


class PresetsText(PresetPlan):
    """Presets and quick buttons of one camera for a day, in words."""

    presets: tuple[PresetText, ...]
    steps: tuple[StepText, ...]


def presets_text(plan: PresetPlan) -> PresetsText:
    """Put presets into words. plan: values. Returns its text."""
    said = plan.model_dump()
    for preset in said["presets"]:
        preset["chosen"] = preset["values"]
        preset["values"] = {dial: value_words(dial, value) for dial, value in preset["values"].items()}
    for step in said["steps"]:
        for change in step["changes"]:
            change["value"] = value_words(change["dial"], change["value"])
    return PresetsText.model_validate(said)
