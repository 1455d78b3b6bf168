"""The scenes, one file each, and which of them a brief is shown with."""

from __future__ import annotations

from steady_tide.core.brief.brief import Brief
from steady_tide.core.look.scene import Scene
from steady_tide.core.look.scenes import creek, eelgrass, flour, frost, jar, mud, punts, quay, sand, sluice

ALL = tuple(module.SCENE for module in (quay, frost, creek, mud, punts, sluice, eelgrass, sand, jar, flour))
SCENES: dict[str, Scene] = {scene.id: scene for scene in ALL}
COLD_C = 0.0


def scenes_for(brief: Brief) -> tuple[Scene, ...]:
    """Scenes for a brief, the one that is most like it first, then all others. brief: what will be filmed."""
    return tuple(sorted(ALL, key=lambda scene: (scene.id != usual_scene(brief), brief.scenario not in scene.kinds)))


def usual_scene(brief: Brief) -> str:
    """The scene that is most like what a brief says. Returns its id."""
    kind, subject = brief.scenario, brief.subject
    flies = brief.camera_move.mount == "drone_gimbal"
    if kind == "product":
        falls = subject.motion_look == "frozen" or subject.event_s is not None
        return "flour" if falls else "jar"
    if kind == "underwater":
        return "sand" if subject.speed_m_s > 0.0 else "eelgrass"
    if kind == "low_light":
        return "punts"
    if flies:
        return "creek"
    if kind == "motion":
        return "mud"
    if kind == "lapse":
        return "sluice"
    return "frost" if brief.air_c < COLD_C else "quay"
