"""A day's rushes in short: what went well, what went wrong most, what to change on the camera first."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.takes import about
from steady_tide.core.rushes.verdict import Finding, Verdict

# The dial that is set otherwise where a kind of fault comes again.
MENDED_BY: dict[str, str] = {
    "blown": "nd", "drowned": "iso_ceiling", "exposure_stops": "exposure_compensation",
    "drift_stops": "iso_floor", "jumps": "iso_ceiling", "noise_stops": "iso_ceiling", "smear_px": "shutter_s",
    "shake_share": "stabilisation", "edge_px": "focus", "focus_px": "focus", "flicker": "shutter_s",
    "repeated": "frame_rate", "gaps": "bit_rate_mb_s", "cast_stops": "white_balance_k",
    "colour_drift_stops": "white_balance_k", "tilt_deg": "view", "wind": "wind_reduction",
    "set/width": "frame", "set/height": "frame", "set/frame_rate": "frame_rate", "set/shutter_s": "shutter_s",
    "set/bit_rate_mb_s": "bit_rate_mb_s", "set/bits": "bit_depth",
}  # fmt: skip


class Fault(Frozen):
    """A kind of fault over a day: its worst finding, in how many clips, on which camera the most, and the dial that mends it."""

    code: str
    clips: int
    worst: Finding
    worst_clip: str
    camera: str | None
    dial: str | None


class DayReport(Frozen):
    """A day's rushes. well: what was measured in clips and never came out otherwise; faults: the dearest first."""

    clips: int
    good: int
    usable: int
    spoilt: int
    seconds: float
    well: tuple[str, ...]
    faults: tuple[Fault, ...]
    first: Fault | None


Reported = tuple[str, ClipMeasures, Verdict, ClipPlan | None]


def report(clips: Sequence[Reported], limits: Limits) -> DayReport:
    """Put a day's clips together. clips: keys, measures, verdicts, plans where they are known; limits: of judgement. Returns
    the report."""
    found: dict[str, list[tuple[Finding, str, str | None]]] = defaultdict(list)
    for key, _, judged, plan in clips:
        for finding in judged.findings:
            found[finding.code].append((finding, key, None if plan is None else plan.camera))
    faults = []
    for code, entries in found.items():
        worst, key, _ = max(entries, key=lambda entry: entry[0].share)
        cameras = [camera for _, _, camera in entries if camera is not None]
        faults.append(
            Fault(
                code=code,
                clips=len(entries),
                worst=worst,
                worst_clip=key,
                camera=max(set(cameras), key=lambda one: (cameras.count(one), one)) if cameras else None,
                dial=MENDED_BY.get(code),
            )
        )
    # One grave fault costs a take; a slight one in every clip costs the day as much.
    most = limits.rushes_lost_share
    dearness = {fault.code: sum(min(most, entry[0].share) for entry in found[fault.code]) for fault in faults}
    faults.sort(key=lambda fault: -dearness[fault.code])
    kinds = [judged.kind for _, _, judged, _ in clips]
    wrong = {about(code) for code in found}
    return DayReport(
        clips=len(clips),
        good=kinds.count("good"),
        usable=kinds.count("usable"),
        spoilt=kinds.count("spoilt"),
        seconds=sum(clip.seconds for _, clip, _, _ in clips),
        well=tuple(kind for kind in _measurable_kinds(clips) if kind not in wrong),
        faults=tuple(faults),
        first=next((fault for fault in faults if fault.dial is not None), None),
    )


TOLD: tuple[tuple[str, Callable[[ClipMeasures], object]], ...] = (
    ("exposure", lambda clip: clip.exposure.median_stops),
    ("noise", lambda clip: clip.noise.snr_grey),
    ("sharpness", lambda clip: clip.sharpness.blur_px),
    ("focus", lambda clip: clip.sharpness.edge_px),
    ("steadiness", lambda clip: clip.motion.shake_px),
    ("light", lambda clip: clip.flicker.depth),
    ("cadence", lambda clip: clip.cadence.repeated_share),
    ("colour", lambda clip: clip.colour.red_stops),
    ("sound", lambda clip: clip.sound),
)


def _measurable_kinds(clips: Sequence[Reported]) -> list[str]:
    """Kinds of faults that some clip could have shown."""
    return [kind for kind, told in TOLD if any(told(clip) is not None for _, clip, _, _ in clips)]
