"""The settings of a plan as compact JSON, short enough for a code on paper."""

from __future__ import annotations

import json

from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan

CODE_TITLE_CHARACTERS = 60
SETTINGS_FORMAT = "steady-tide/settings"


def settings_code(brief: Brief, plan: Plan) -> str:
    """The settings as compact JSON, short enough for a code on paper.

    brief, plan: of the shot. Returns text: format, version, title, camera, and every setting that is set.
    """
    settings = {
        name: value
        for name, value in plan.settings.model_dump(mode="json").items()
        if value is not None and value != [] and name not in plan.settled
    }
    if settings.get("shutter_s"):
        settings["shutter_s"] = round(settings["shutter_s"], 7)
    said = {
        "format": SETTINGS_FORMAT,
        "version": 1,
        "title": brief.title[:CODE_TITLE_CHARACTERS],
        "camera": plan.camera.id,
        "settings": settings,
    }
    return json.dumps(said, ensure_ascii=False, separators=(",", ":"))
