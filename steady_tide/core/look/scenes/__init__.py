"""The scenes, one file each, and which of them a brief is shown with."""

from __future__ import annotations

from steady_tide.core.look.scene import Scene
from steady_tide.core.look.scenes import creek, eelgrass, flour, frost, jar, mud, punts, quay, sand, sluice
from steady_tide.core.planning.situation import Situation

ALL = tuple(module.SCENE for module in (quay, frost, creek, mud, punts, sluice, eelgrass, sand, jar, flour))
SCENES: dict[str, Scene] = {scene.id: scene for scene in ALL}
COLD_C = 0.0


def usual_scene(at: Situation) -> str:
    """The scene that is most like what is asked for. Returns its id."""
    traits, subject = at.brief.traits, at.brief.subject
    if traits.on_table:
        falls = subject.motion_look == "frozen" or subject.event_s is not None
        return "flour" if falls else "jar"
    if traits.under_water:
        return "sand" if subject.speed_m_s > 0.0 else "eelgrass"
    if traits.in_the_dark:
        return "punts"
    if at.mount.flying and not at.mount.point_of_view:
        return "creek"
    if traits.fast:
        return "mud"
    if traits.interval:
        return "sluice"
    return "frost" if at.brief.air_c < COLD_C else "quay"
