"""The numbers of a frame: measured from it, beside what the plan says."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from steady_tide.core.frozen import Frozen
from steady_tide.core.light.water import LUMINANCE
from steady_tide.core.look.lighting import balance_gains, grey_card
from steady_tide.core.look.marking import darkest_code
from steady_tide.core.look.rendering import Moment, Recorded, Renderer, card_of, streak_px
from steady_tide.core.measuring.frame_measures import (
    blown_share,
    cast_of_card,
    drowned_share,
    snr_of_card,
)
from steady_tide.core.motion import blur_px
from steady_tide.core.planning.outcome import ledger_of

CARD_PX = 128


class LookNumbers(Frozen):
    """What a frame was made from, and what it came to. Of `snr`, `blur`, `bits` the plan's own stand beside."""

    camera: str
    scene: str
    ev100: float
    iso: int
    shutter_s: Annotated[float, Field(ge=1e-7, le=1e6)]
    over_stops: float  # brighter than metered, negative for darker
    headroom_stops: float  # above mid grey, until it clips
    snr_grey: float
    snr_plan: float
    blur_px: float  # of what stands, by shake
    blur_plan_px: float
    subject_px: float  # of what moves, by its way through the frame
    white_share: float
    black_share: float
    cast_stops: tuple[float, float]  # red and blue of a grey card, against its green
    bits_per_pixel: float
    bits_plan: float
    given_up_stops: float
    ledger: tuple[tuple[str, float], ...]  # items of the plan's price, weighted stops, the most first
    graded: bool


def numbers_of(renderer: Renderer, moment: Moment, made: Recorded, bits_per_pixel: float) -> LookNumbers:
    """Measure a frame.

    renderer: of its plan and scene; moment: when; made: as recorded; bits_per_pixel: that it took. Returns the numbers; noise, smear and cast are measured on a grey card and a point that
    went through the same sensor, exposure and balance.
    """
    taking, exposed = renderer.taking, made.exposed
    scale = max(1.0, 1.0 / float(np.sqrt(taking.sites_per_px)))
    card = card_of(renderer, moment, CARD_PX, scale)
    grey = grey_card(taking, moment.share) * balance_gains(taking, moment.share, made.graded)
    standing, moving = (streak_px(renderer, moment, exposed, subject) for subject in (False, True))
    return LookNumbers(
        camera=taking.space.sheet.name,
        scene=renderer.scene.id,
        ev100=exposed.ev100,
        iso=round(exposed.iso),
        shutter_s=exposed.shutter_s,
        over_stops=exposed.over_stops,
        headroom_stops=made.curve.headroom_stops,
        snr_grey=snr_of_card(card, scale),
        snr_plan=taking.snr(exposed),
        blur_px=standing,
        blur_plan_px=float(blur_px(taking.at.mount.shake_deg_s, exposed.shutter_s, taking.px_per_deg)),
        subject_px=moving,
        white_share=blown_share(made.codes),
        black_share=drowned_share(made.codes, darkest_code(made.curve)),
        cast_stops=cast_of_card(np.asarray(grey / float(grey @ LUMINANCE), dtype=np.float32)[None, None, :]),
        bits_per_pixel=bits_per_pixel,
        bits_plan=taking.bits_per_pixel,
        given_up_stops=taking.priced.given_up(taking.at.weights),
        ledger=tuple((item.item, item.given_up_stops) for item in ledger_of(taking.at, taking.priced)),
        graded=made.graded,
    )
