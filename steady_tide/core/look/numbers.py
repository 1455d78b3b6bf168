"""The numbers of a frame: measured from it, beside what the plan says."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from steady_tide.core.light.water import LUMINANCE
from steady_tide.core.look.clip_marks import darkest_code
from steady_tide.core.look.lighting import balance_gains, grey_card
from steady_tide.core.look.rendering import (
    Moment,
    Recorded,
    Renderer,
    card_of,
    curve_of,
    distance_of,
    layer_speed_deg_s,
    streak_px,
)
from steady_tide.core.look.sensor import flicker_gain
from steady_tide.core.measuring.frame_measures import (
    blown_share,
    cast_of_card,
    drowned_share,
    snr_of_card,
)
from steady_tide.core.physics.motion import blur_px
from steady_tide.core.planning.outcome import ledger_of
from steady_tide.core.quantities.frozen import Frozen

CARD_PX = 128
ROWS = 256  # of a frame, at which bands are looked for


class LookMeasures(Frozen):
    """What a plan comes to in a frame, as far as no frame has to be drawn for it."""

    over_stops: float  # brighter than metered, negative for darker
    headroom_stops: float  # above mid grey, until it clips
    snr_grey: float
    blur_px: float  # of what stands, by shake
    subject_px: float  # of what moves, by its way through the frame
    focus_px: float  # over which a point of the subject spreads by focus
    cast_stops: tuple[float, float]  # red and blue of a grey card, against its green
    bands_stops: float  # between the brightest and the darkest row, by pulsing lamps
    px_per_deg: float
    step_px: float  # how far the fastest goes from one captured frame to the next; 0 in an interval film
    open_share: float  # of the time of a captured frame in which the shutter is open
    given_up_stops: float


class LookNumbers(LookMeasures):
    """What a frame was made from, and what it came to. Of `snr`, `blur`, `bits` the plan's own stand beside."""

    camera: str
    scene: str
    ev100: float
    iso: int
    shutter_s: Annotated[float, Field(ge=1e-7, le=1e6)]
    snr_plan: float
    blur_plan_px: float
    white_share: float
    black_share: float
    bits_per_pixel: float
    bits_plan: float
    ledger: tuple[tuple[str, float], ...]  # items of the plan's price, weighted stops, the most first
    graded: bool


def measures_of(renderer: Renderer, moment: Moment, graded: bool) -> LookMeasures:
    """Measure what needs no frame: noise, smear, focus, cast and bands, on a grey card and a point that went through the same sensor, exposure and balance.

    renderer: of a plan and a scene; moment: when; graded: whether it will be. Returns the measures.
    """
    taking, exposed = renderer.taking, renderer.taking.exposed(moment.share)
    scale = _card_scale(renderer)
    grey = grey_card(taking, moment.share) * balance_gains(taking, moment.share, graded)
    standing, moving = (streak_px(renderer, moment, exposed, subject) for subject in (False, True))
    subject = next((layer for layer in renderer.scene.layers if layer.subject), renderer.scene.layers[-1])
    return LookMeasures(
        over_stops=exposed.over_stops,
        headroom_stops=curve_of(taking, exposed).headroom_stops,
        snr_grey=snr_of_card(card_of(renderer, moment, CARD_PX, scale, stops=exposed.dark_stops), scale),
        blur_px=standing,
        subject_px=moving,
        focus_px=taking.blur_disc_deg(distance_of(taking, subject, moment.share)) * taking.px_per_deg,
        cast_stops=cast_of_card(np.asarray(grey / float(grey @ LUMINANCE), dtype=np.float32)[None, None, :]),
        bands_stops=_bands_stops(renderer, exposed.shutter_s),
        px_per_deg=taking.px_per_deg,
        step_px=0.0 if taking.interval_s is not None else _speed_px_s(renderer) / taking.rate,
        open_share=exposed.shutter_s * taking.rate if taking.interval_s is None else 1.0,
        given_up_stops=taking.priced.given_up(taking.at.weights),
    )


def cast_size(cast_stops: tuple[float, float]) -> float:
    """How far apart the bands of a grey card stand. cast_stops: red and blue against green. Returns stops."""
    red, blue = cast_stops
    return max(abs(red), abs(blue), abs(red - blue))


def _speed_px_s(renderer: Renderer) -> float:
    """How fast the fastest of a scene goes through the frame, shake apart, delivered pixels a second."""
    speeds = [layer_speed_deg_s(renderer.taking, layer) for layer in renderer.scene.layers]
    return float(max(np.hypot(*speed) for speed in speeds)) * renderer.taking.px_per_deg


def _card_scale(renderer: Renderer) -> float:
    return max(1.0, 1.0 / float(np.sqrt(renderer.taking.sites_per_px)))


def _bands_stops(renderer: Renderer, shutter_s: float) -> float:
    taking = renderer.taking
    if taking.at.lapse or taking.at.light.ripple <= 0.0:
        return 0.0
    rows_s = np.linspace(-0.5, 0.5, ROWS) * taking.readout_s
    gain = flicker_gain(taking.at.light.ripple, shutter_s, taking.at.brief.mains_hz, rows_s)
    return float(np.log2(gain.max() / max(float(gain.min()), 1e-6)))


def numbers_of(renderer: Renderer, moment: Moment, made: Recorded, bits_per_pixel: float) -> LookNumbers:
    """Measure a frame.

    renderer: of its plan and scene; moment: when; made: as recorded; bits_per_pixel: that it took. Returns the numbers.
    """
    taking, exposed = renderer.taking, made.exposed
    return LookNumbers(
        **measures_of(renderer, moment, made.graded).model_dump(),
        camera=taking.space.sheet.name,
        scene=renderer.scene.id,
        ev100=exposed.ev100,
        iso=round(exposed.iso),
        shutter_s=exposed.shutter_s,
        snr_plan=taking.snr(exposed),
        blur_plan_px=float(blur_px(taking.at.mount.shake_deg_s, exposed.shutter_s, taking.px_per_deg)),
        white_share=blown_share(made.codes),
        black_share=drowned_share(made.codes, darkest_code(made.curve)),
        bits_per_pixel=bits_per_pixel,
        bits_plan=taking.bits_per_pixel,
        ledger=tuple((item.item, item.given_up_stops) for item in ledger_of(taking.at, taking.priced)),
        graded=made.graded,
    )
