"""As planned beside as filmed: what a clip shows of its settings, held against those that were wanted."""

from __future__ import annotations

from math import log2

from steady_tide.core.planning.plan import Exposure, Settings
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.measures import ClipMeasures


class Against(Frozen):
    """One thing that was planned, and what a clip shows of it. apart: by how many stops, where that can be said; differs:
    whether that is more than measuring strays."""

    item: str
    planned: float
    filmed: float
    apart_stops: float | None = None
    differs: bool


def against(
    clip: ClipMeasures, settings: Settings, exposure: Exposure, limits: Limits, delivered_px: int | None = None
) -> tuple[Against, ...]:
    """Hold a clip against its plan.

    clip: measured; settings, exposure: of the plan; limits: of judgement; delivered_px: width of the timeline, that of the
    recording where it is left out. Returns what can be compared; what the clip does not tell, or is in doubt, is left out.
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
            Against(
                item="frame_rate",
                planned=settings.frame_rate,
                filmed=clip.frame_rate,
                differs=off > limits.rushes_rate_share,
            )
        )
        share = clip.motion.shutter_share
        if share is not None and share > 0.0 and not clip.doubted("motion.shutter_share"):
            # Anywhere between what the dim and the bright end ask for is as planned.
            filmed, ends = share / clip.frame_rate, sorted(exposure.shutter_used_s)
            nearest = min(max(filmed, ends[0]), ends[1])
            found.append(_in_stops("shutter_s", nearest, filmed, limits.noticed_stops))
    if clip.bit_rate_mb_s:
        found.append(_in_stops("bit_rate_mb_s", settings.bit_rate_mb_s, clip.bit_rate_mb_s, limits.rushes_bits_stops))
    if clip.noise.snr_grey is not None and not clip.doubted("noise.snr_grey"):
        # The plan's is that of a delivered pixel, which several recorded ones make.
        delivered = clip.noise.snr_grey * clip.width / (delivered_px or clip.width)
        one = _in_stops("snr", exposure.snr, delivered, limits.rushes_noise_stops_noticed)
        # Cleaner than at the dim end is as planned.
        found.append(one.model_copy(update={"differs": one.differs and delivered < exposure.snr}))
    if clip.flicker.depth is not None:
        seen = clip.flicker.depth >= limits.rushes_flicker_noticed
        found.append(Against(item="flicker", planned=0.0, filmed=clip.flicker.depth, differs=seen))
    return tuple(found)


def _in_stops(item: str, planned: float, filmed: float, least: float) -> Against:
    apart = log2(filmed / planned)
    return Against(item=item, planned=planned, filmed=filmed, apart_stops=apart, differs=abs(apart) >= least)
