"""As planned beside as filmed: what a clip shows of its settings, held against those that were wanted."""

from __future__ import annotations

from math import log2

from steady_tide.core.frozen import Frozen
from steady_tide.core.planning.plan import Exposure, Settings
from steady_tide.core.rushes.measures import ClipMeasures

RATE_WITHIN = 0.005  # of itself
SHUTTER_STOPS, NOISE_STOPS, BITS_STOPS = 0.5, 0.5, 0.7  # less is no difference that a clip can show
FLICKER_SEEN = 0.02


class Against(Frozen):
    """One thing that was planned, and what a clip shows of it. apart: by how many stops, where that can be said; differs:
    whether that is more than measuring strays."""

    item: str
    planned: float
    filmed: float
    apart_stops: float | None = None
    differs: bool


def against(clip: ClipMeasures, settings: Settings, exposure: Exposure) -> tuple[Against, ...]:
    """Hold a clip against its plan.

    clip: measured; settings, exposure: of the plan. Returns what can be compared; what the clip does not tell is left out.
    """
    found = [
        Against(item="width", planned=settings.width, filmed=clip.width, differs=clip.width != settings.width),
        Against(item="height", planned=settings.height, filmed=clip.height, differs=clip.height != settings.height),
    ]
    if clip.bits != settings.bit_depth:
        found.append(Against(item="bits", planned=settings.bit_depth, filmed=clip.bits, differs=True))
    if clip.frame_rate is not None:
        off = abs(clip.frame_rate / settings.frame_rate - 1.0)
        found.append(
            Against(item="frame_rate", planned=settings.frame_rate, filmed=clip.frame_rate, differs=off > RATE_WITHIN)
        )
        share = clip.motion.shutter_share
        told = not any(doubt.field == "motion.shutter_share" for doubt in clip.doubts)
        if share is not None and share > 0.0 and told:
            # Anywhere between what the dim and the bright end ask for is as planned.
            filmed, ends = share / clip.frame_rate, sorted(exposure.shutter_used_s)
            nearest = min(max(filmed, ends[0]), ends[1])
            found.append(_in_stops("shutter_s", nearest, filmed, SHUTTER_STOPS))
    if clip.bit_rate_mb_s:
        found.append(_in_stops("bit_rate_mb_s", settings.bit_rate_mb_s, clip.bit_rate_mb_s, BITS_STOPS))
    smoothed = any(doubt.field == "noise.snr_grey" for doubt in clip.doubts)
    if clip.noise.snr_grey is not None and not smoothed:
        one = _in_stops("snr", exposure.snr, clip.noise.snr_grey, NOISE_STOPS)
        # Cleaner than at the dim end is as planned.
        found.append(one.model_copy(update={"differs": one.differs and clip.noise.snr_grey < exposure.snr}))
    if clip.flicker.depth is not None:
        found.append(
            Against(item="flicker", planned=0.0, filmed=clip.flicker.depth, differs=clip.flicker.depth > FLICKER_SEEN)
        )
    return tuple(found)


def _in_stops(item: str, planned: float, filmed: float, least: float) -> Against:
    apart = log2(filmed / planned)
    return Against(item=item, planned=planned, filmed=filmed, apart_stops=apart, differs=abs(apart) >= least)
