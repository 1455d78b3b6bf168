"""What came out otherwise in a clip, and how much that matters: findings in codes and quantities."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import hypot
from typing import Any, Literal

from pydantic import Field

from steady_tide.core.planning.plan import Facts
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.planned_and_filmed import Against, against

Severity = Literal["note", "bad"]
Graded = tuple[str, float | None, dict[str, Any]]
BAD = 1.0
# What a blown picture shows for that reason alone.
BLOWN_EXPLAINS = ("haze", "cast_stops", "colour_drift_stops")


class Finding(Frozen):
    """One thing that came out otherwise than one would want. amount: in its own unit; share: of what spoils a take."""

    code: str
    severity: Severity
    amount: float
    share: float
    facts: Facts = Field(default_factory=dict)


class Verdict(Frozen):
    """A clip in short. findings: the worst first."""

    kind: Literal["good", "usable", "spoilt"]
    findings: tuple[Finding, ...]


def verdict(clip: ClipMeasures, plan: ClipPlan | None, limits: Limits, content_stops: float = 0.0) -> Verdict:
    """Judge a clip.

    clip: measured; plan: that it was filmed by, if that is known; limits: of judgement; content_stops: how much brighter
    than grey that is which fills its frames. Returns what came out otherwise, the worst first; what could not be measured,
    or is in doubt, says nothing.
    """
    held: dict[str, Against] = {}
    if plan is not None:
        compared = against(clip, plan.settings, plan.exposure, limits, plan.delivered_px)
        held = {one.item: one for one in compared}
    measured = _measured(clip, plan, held, content_stops)
    found = [graded for graded in (_graded(*one, limits) for one in measured) if graded is not None]
    if clip.doubted("seconds"):
        found.append(_grave("damaged", limits))
    if any(finding.code == "blown" and finding.severity == "bad" for finding in found):
        found = [finding for finding in found if finding.code not in BLOWN_EXPLAINS]
    found += _set_otherwise(held, limits)
    if plan is not None and plan.sound_wanted and clip.sound is None:
        found.append(_grave("no_sound", limits))
    found.sort(key=lambda finding: -finding.share)
    kind: Literal["good", "usable", "spoilt"] = "good"
    if found:
        kind = "spoilt" if any(finding.severity == "bad" for finding in found) else "usable"
    return Verdict(kind=kind, findings=tuple(found))


GRADES: Mapping[str, Callable[[Limits], tuple[float, float]]] = {
    "blown": lambda limits: (limits.rushes_blown_noticed, limits.rushes_blown_spoils),
    "drowned": lambda limits: (limits.rushes_drowned_noticed, limits.rushes_drowned_spoils),
    "exposure_stops": lambda limits: (limits.rushes_exposure_stops_noticed, limits.rushes_exposure_stops_spoils),
    "drift_stops": lambda limits: (limits.rushes_drift_stops_noticed, limits.rushes_drift_stops_spoils),
    "jumps": lambda limits: (limits.rushes_jumps_noticed, limits.rushes_jumps_spoils),
    "noise_stops": lambda limits: (limits.rushes_noise_stops_noticed, limits.rushes_noise_stops_spoils),
    "smear_px": lambda limits: (limits.rushes_smear_px_noticed, limits.rushes_smear_px_spoils),
    "shake_share": lambda limits: (limits.rushes_shake_share_noticed, limits.rushes_shake_share_spoils),
    "edge_px": lambda limits: (limits.rushes_edge_px_noticed, limits.rushes_edge_px_spoils),
    "focus_px": lambda limits: (limits.rushes_focus_px_noticed, limits.rushes_focus_px_spoils),
    "flicker": lambda limits: (limits.rushes_flicker_noticed, limits.rushes_flicker_spoils),
    "repeated": lambda limits: (limits.rushes_repeated_noticed, limits.rushes_repeated_spoils),
    "gaps": lambda limits: (limits.rushes_gaps_noticed, limits.rushes_gaps_spoils),
    "cast_stops": lambda limits: (limits.rushes_cast_stops_noticed, limits.rushes_cast_stops_spoils),
    "colour_drift_stops": lambda limits: (
        limits.rushes_colour_drift_stops_noticed,
        limits.rushes_colour_drift_stops_spoils,
    ),
    "tilt_deg": lambda limits: (limits.rushes_tilt_deg_noticed, limits.rushes_tilt_deg_spoils),
    "haze": lambda limits: (limits.rushes_haze_noticed, limits.rushes_haze_spoils),
    "spots": lambda limits: (limits.rushes_spots_noticed, limits.rushes_spots_spoils),
    "clipped": lambda limits: (limits.rushes_clipped_noticed, limits.rushes_clipped_spoils),
    "wind": lambda limits: (limits.rushes_wind_noticed, limits.rushes_wind_spoils),
    "peak_dbfs_under": lambda limits: (limits.rushes_peak_dbfs_under_noticed, limits.rushes_peak_dbfs_under_spoils),
}
"""From when a fault is noticed, and from when it spoils a take, by its code."""


def _graded(code: str, amount: float | None, facts: dict[str, Any], limits: Limits) -> Finding | None:
    """A finding, where an amount is noticed at all. code: of the fault."""
    if amount is None:
        return None
    noticed, spoils = GRADES[code](limits)
    if abs(amount) < noticed:
        return None
    share = abs(amount) / spoils
    return Finding(code=code, severity="bad" if share >= BAD else "note", amount=amount, share=share, facts=facts)


def _grave(code: str, limits: Limits) -> Finding:
    """A finding that needs no measuring: a take that is lost."""
    return Finding(code=code, severity="bad", amount=1.0, share=limits.rushes_lost_share)


def _measured(
    clip: ClipMeasures, plan: ClipPlan | None, held: dict[str, Against], content_stops: float
) -> list[Graded]:
    """Amounts that are graded, each with the facts that its sentence needs. held: the clip against its plan."""
    exposure, motion, sharpness, colour, sound = clip.exposure, clip.motion, clip.sharpness, clip.colour, clip.sound
    scale = 1.0 if plan is None else plan.delivered_px / clip.width
    off = None
    if plan is not None and exposure.median_stops is not None:
        off = exposure.median_stops - plan.target_stops - content_stops
    pointed = plan is not None and plan.settings.white_balance == "locked"
    cast = None
    if pointed and not clip.doubted("colour") and colour.red_stops is not None and colour.blue_stops is not None:
        cast = hypot(colour.red_stops, colour.blue_stops)
    smear = None
    if plan is not None and sharpness.blur_px is not None and not clip.doubted("sharpness.blur_px"):
        smear = max(0.0, sharpness.blur_px * scale - plan.exposure.smear_px)
    graded: list[Graded] = [
        ("blown", exposure.white_share, {"worst_at_s": exposure.worst_white_at_s, "worst": exposure.worst_white_share}),
        ("drowned", exposure.black_share, {}),
        ("exposure_stops", off, {}),
        ("drift_stops", exposure.drift_stops, {}),
        ("jumps", float(len(exposure.jumps_at_s)), {"at_s": exposure.jumps_at_s[:1]}),
        ("noise_stops", max(0.0, -(held["snr"].apart_stops or 0.0)) if "snr" in held else None, {}),
        ("smear_px", smear, {"way_deg": sharpness.blur_deg}),
        ("shake_share", None if motion.shake_px is None else motion.shake_px / clip.width, {}),
        ("edge_px", None if sharpness.edge_px is None else sharpness.edge_px * scale, {}),
        ("focus_px", None if sharpness.focus_drift_px is None else sharpness.focus_drift_px * scale, {}),
        ("flicker", clip.flicker.depth, {"hz": clip.flicker.hz, "band_rows": clip.flicker.band_rows}),
        ("repeated", clip.cadence.repeated_share, {}),
        ("gaps", float(len(clip.cadence.gaps_at_s)), {"at_s": clip.cadence.gaps_at_s[:1]}),
        ("cast_stops", cast, {"red": colour.red_stops, "blue": colour.blue_stops}),
        ("colour_drift_stops", None if clip.doubted("colour") else colour.drift_stops, {}),
        ("tilt_deg", clip.horizon.tilt_deg, {}),
        ("haze", clip.haze.share, {}),
        ("spots", None if clip.haze.spots is None else float(clip.haze.spots), {}),
    ]
    if sound is not None and (plan is None or plan.sound_wanted):
        under = None if sound.peak_dbfs is None else max(0.0, -sound.peak_dbfs)
        graded += [
            ("clipped", sound.clipped_share, {"peak_dbfs": sound.peak_dbfs}),
            ("wind", sound.wind_share, {}),
            ("peak_dbfs_under", under, {}),
        ]
    return graded


def _set_otherwise(held: dict[str, Against], limits: Limits) -> list[Finding]:
    """Settings that were others than planned. Another rate spoils a take; the others are worth a note."""
    found = []
    for item in ("width", "height", "frame_rate", "shutter_s", "bit_rate_mb_s", "bits"):
        one = held.get(item)
        if one is None or not one.differs or (item == "height" and held["width"].differs):
            continue
        grave = item == "frame_rate"
        found.append(
            Finding(
                code=f"set/{item}",
                severity="bad" if grave else "note",
                amount=one.filmed,
                share=BAD if grave else limits.rushes_set_otherwise_share,
                facts={"planned": one.planned, "filmed": one.filmed},
            )
        )
    return found
