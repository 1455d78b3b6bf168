"""Warnings (what will go wrong) and cautions (what can hurt someone): codes and texts in one place."""

from __future__ import annotations

from collections.abc import Iterator

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.kit import Mount
from steady_tide.core.planning.ledger import Priced
from steady_tide.core.planning.plan import Caution, Warning
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Space

NOTICED_STOPS = 0.5


def warnings(at: Situation, space: Space, plan: Priced) -> Iterator[Warning]:
    """What will go wrong with a plan.

    at: what is asked; space: of the camera; plan: priced. Yields warnings, the gravest first.
    """
    stops = plan.stops
    steadied = bool(space.pictures.steadied[plan.choice.pictures])
    if stops["over"] >= NOTICED_STOPS:
        more = (
            f" About {wording.stops(stops['over'])} stops more of ND would hold them."
            if space.sheet.filter_mount.fits
            else ""
        )
        yield Warning(
            code="highlights_lost",
            severity="warn",
            text=f"Highlights will be lost. The brightest part is {wording.stops(stops['over'])} stops over.{more}",
        )
    if stops["under"] >= (NOTICED_STOPS if at.dark else 1.0):
        mend = "bring light, or go where light is." if at.dark else "lift it in the edit, or film the dim part apart."
        yield Warning(
            code="too_dark",
            severity="warn",
            text=f"Dark at the dim end. It comes out {wording.stops(stops['under'])} stops under; {mend}",
        )
    if stops["noise"] >= 0.3:
        yield Warning(
            code="noisy",
            severity="warn",
            text=f"Noise past your limit. Mid grey reaches {plan.snr_dim:.0f} to 1, and your school asks for {at.noise_limit_snr:.0f}.",
        )
    if at.dark and steadied and stops["smear"] >= NOTICED_STOPS:
        yield Warning(
            code="pulsing_smear",
            severity="warn",
            text=f"Steady, but pulsing. Each frame smears {plan.smear_px:.0f} px in {wording.seconds(plan.shutter_dim_s)}, and steadying cannot remove that.",
        )
    if not steadied and at.mount.shake_deg_s > 1 and at.weights["shake"] < 1 and stops["shake"] >= NOTICED_STOPS:
        yield Warning(
            code="steady_the_camera",
            severity="warn",
            text="Steady the camera itself. Use a gimbal or a tripod; nothing in the camera steadies this shot.",
        )
    elif stops["shake"] >= NOTICED_STOPS:
        yield Warning(
            code="unsteady",
            severity="warn",
            text=f"The picture will wander, {wording.stops(stops['shake'])} stops past steady. Hold it with both hands, brace, or move less.",
        )
    if stops["slow_motion"] >= 0.1:
        yield Warning(
            code="too_few_frames",
            severity="warn",
            text=f"Too few frames for the slow-down. {at.shown_fps:g} a second are needed.",
        )
    if stops["cadence"] > 0:
        yield Warning(
            code="uneven_cadence",
            severity="note",
            text=f"Motion will judder. The rate does not divide evenly into {at.brief.delivery.fps:g}\u202ffps.",
        )
    if stops["flicker"] >= 0.1:
        yield Warning(
            code="flicker",
            severity="warn",
            text=f"Lamps will flicker by {wording.stops(stops['flicker'])} stops at {at.brief.mains_hz} Hz mains. Look for bands in a test take.",
        )
    if stops["detail"] >= 0.3:
        yield Warning(
            code="soft",
            severity="note",
            text=f"Softer than the timeline. {plan.usable_w_px:.0f} pixels are left for {at.brief.delivery.width}.",
        )
    if len(space.glasses[plan.choice.glasses].ids) > 1:
        yield Warning(
            code="stacked_glass",
            severity="note",
            text="Stacked glass. Look for vignetting and reflections before you rely on it.",
        )
    if at.light.ev100[1] - at.light.ev100[0] > 5:
        yield Warning(
            code="wide_band",
            severity="note",
            text="A wide band of light. Two takes, one for each end, would each hold more.",
        )


def cautions(brief: Brief, mount: Mount, dark: bool) -> Iterator[Caution]:
    """What can hurt someone, by scenario and mount; defers to training, local rules and licensed practice.

    brief: what will be filmed; mount: how the camera is held; dark: whether it is dark. Yields cautions.
    """
    if mount.id in ("helmet", "mouth", "chest", "handlebar"):
        yield Caution(
            topic="mounts",
            text="The ride comes first. A mount can injure in a fall and must not block sight or controls; keep clear of bystanders.",
        )
    if mount.id in ("drone_gimbal", "fpv"):
        yield Caution(
            topic="flying",
            text="Fly within your licence and local aviation rules: in line of sight, away from people, within the wind limit.",
        )
    if dark:
        yield Caution(topic="dark", text="Know the ground by day, be visible, and let someone ashore know the plan.")
    if brief.air_c <= 0:
        yield Caution(
            topic="cold", text="Cold hands fumble and cells cut out early. Keep spares warm on the body; mind the ice."
        )
    if brief.scenario == "motion" and brief.camera_move.travel_m_s > 3 and mount.id not in ("drone_gimbal", "fpv"):
        yield Caution(topic="speed", text="Never look at the screen while moving. Set, start, and look ahead.")
    if mount.id == "walking" and not dark:
        yield Caution(topic="footing", text="Watch your footing, edges and the tide while you film.")
