"""Two frames compared, in words: for tables under them, and for whoever cannot see them."""

from __future__ import annotations

from collections.abc import Sequence
from math import log2

from pydantic import BaseModel

from steady_tide.core.look.numbers import LookMeasures, LookNumbers, cast_size
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.words.quantities import NARROW, seconds, signed, stops
from steady_tide.words.reasons import item_title

SEEN_STOPS = 0.2  # less is not seen side by side
SEEN_PX, SEEN_SHARE, SEEN_BANDS = 0.5, 0.004, 0.05
CLEAN_SNR = 1e-3
SEEN_STEP_PX, SHORT_SHARE = 8.0, 0.25  # from frame to frame; of it, with the shutter open
LEAST_PRICE, MOST_PRICES = 0.05, 8


class RowText(BaseModel):
    """One quantity of the frames. worse: which of them is clearly worse in it."""

    item: str
    title: str
    unit: str
    left: str
    right: str | None
    plan: str | None  # what the plan says of the left one, where it says something
    worse: str | None = None


class PriceText(BaseModel):
    """An item of the plans' prices, stops; as the ledger calls it."""

    item: str
    title: str
    left: float
    right: float | None


class LookText(BaseModel):
    """One frame, or two, in words."""

    rows: list[RowText]
    prices: list[PriceText]
    text: str


def look_text(left: LookNumbers, right: LookNumbers | None = None) -> LookText:
    """Tell a frame, or compare two. left, right: their numbers. Returns rows and sentences."""
    both = (left, left if right is None else right)

    def row(
        item: str, title: str, unit: str, says: object, plan: str | None = None, worse: str | None = None
    ) -> RowText:
        said = [says(one) for one in both]  # type: ignore[operator]
        return RowText(
            item=item, title=title, unit=unit, left=said[0], right=None if right is None else said[1], plan=plan,
            worse=worse if right is not None else None,
        )  # fmt: skip

    def worse(values: tuple[float, float], least: float) -> str | None:
        return None if abs(values[0] - values[1]) < least else "left" if values[0] > values[1] else "right"

    noise = (-log2(max(left.snr_grey, CLEAN_SNR)), -log2(max(both[1].snr_grey, CLEAN_SNR)))
    casts = (cast_size(left.cast_stops), cast_size(both[1].cast_stops))
    rows = [
        row("over", "mid-grey exposure", "stops", lambda one: _signed(one.over_stops), worse=worse((abs(left.over_stops), abs(both[1].over_stops)), SEEN_STOPS)),
        row("snr", "signal to noise, grey", "", lambda one: _two(one.snr_grey), _two(left.snr_plan), worse(noise, SEEN_STOPS)),
        row("white", "blown", "%", lambda one: f"{100 * one.white_share:.1f}", worse=worse((left.white_share, both[1].white_share), SEEN_SHARE)),
        row("black", "lost in black", "%", lambda one: f"{100 * one.black_share:.1f}", worse=worse((left.black_share, both[1].black_share), 10 * SEEN_SHARE)),
        row("blur", "smear by shake", "px", lambda one: f"{one.blur_px:.1f}", f"{left.blur_plan_px:.1f}", worse((left.blur_px, both[1].blur_px), SEEN_PX)),
        row("subject", "smear of what moves", "px", lambda one: f"{one.subject_px:.1f}", worse=worse((left.subject_px, both[1].subject_px), SEEN_PX)),
        row("cast", "colour cast, red and blue", "stops", lambda one: f"{_signed(one.cast_stops[0])}, {_signed(one.cast_stops[1])}", worse=worse(casts, SEEN_STOPS)),
        row("focus", "smear by focus", "px", lambda one: f"{one.focus_px:.1f}", worse=worse((left.focus_px, both[1].focus_px), SEEN_PX)),
        row("bands", "flicker bands", "stops", lambda one: f"{one.bands_stops:.2f}", worse=worse((left.bands_stops, both[1].bands_stops), SEEN_BANDS)),
        row("bits", "bits a pixel", "", lambda one: f"{one.bits_per_pixel:.2f}", f"{left.bits_plan:.2f}"),
    ]  # fmt: skip
    return LookText(
        rows=rows,
        prices=_prices(left, right),
        text=_alone(left) if right is None else _compared(left, right, noise, casts),
    )


def _prices(left: LookNumbers, right: LookNumbers | None) -> list[PriceText]:
    """Items that either plan gives something up for, the largest first. Items that nobody knows have no words."""
    mine, theirs = dict(left.ledger), dict(right.ledger if right is not None else ())
    known = {*mine, *theirs} & set(USUAL.items)
    items = sorted(known, key=lambda item: -max(mine.get(item, 0.0), theirs.get(item, 0.0)))
    return [
        PriceText(
            item=item, title=item_title(item), left=mine.get(item, 0.0),
            right=None if right is None else theirs.get(item, 0.0),
        )
        for item in items
        if max(mine.get(item, 0.0), theirs.get(item, 0.0)) >= LEAST_PRICE
    ][:MOST_PRICES]  # fmt: skip


def _two(value: float) -> str:
    return f"{value:.0f}" if value >= 10 else f"{value:.1f}"


def _signed(value: float) -> str:
    return signed(round(value, 1) + 0.0)


def _stops(value: float) -> str:
    return f"{stops(value)}{NARROW}stop" if stops(value) == "1.0" else f"{stops(value)}{NARROW}stops"


def measures_words(one: LookMeasures, shares: Sequence[str] = ()) -> str:
    """What a frame shows, for whoever cannot see it. shares: clauses of what is blown and lost in black. Returns a sentence."""
    light = "as metered" if abs(one.over_stops) < SEEN_STOPS else (
        f"{_stops(abs(one.over_stops))} {'brighter' if one.over_stops > 0 else 'darker'} than metered"
    )  # fmt: skip
    said = [f"Mid grey is exposed {light}, at {_two(one.snr_grey)} times its noise", *shares]
    smears = (
        ("shake smears", one.blur_px), ("what moves smears", one.subject_px), ("the subject spreads by focus over", one.focus_px),
    )  # fmt: skip
    said += [f"{what} {size:.1f}{NARROW}px" for what, size in smears if size >= 1.0]
    if cast_size(one.cast_stops) >= SEEN_STOPS:
        red, blue = (_signed(value) for value in one.cast_stops)
        said.append(f"a grey card stands {red} stops in red and {blue} in blue off its green")
    if one.bands_stops >= SEEN_BANDS:
        said.append(f"rows go up and down by {one.bands_stops:.2f}{NARROW}stops")
    if one.step_px >= SEEN_STEP_PX and one.open_share < SHORT_SHARE:
        said.append(
            f"the fastest goes {one.step_px:.0f}{NARROW}px from frame to frame, the shutter open for "
            f"{100 * one.open_share:.0f}{NARROW}% of it"
        )
    return "; ".join(said) + "."


def _alone(one: LookNumbers) -> str:
    shares = []
    if one.white_share >= SEEN_SHARE:
        shares.append(f"{100 * one.white_share:.1f}{NARROW}% is blown")
    if one.black_share >= 10 * SEEN_SHARE:
        shares.append(f"{100 * one.black_share:.0f}{NARROW}% is lost in black")
    return measures_words(one, shares)


def _compared(left: LookNumbers, right: LookNumbers, noise: tuple[float, float], casts: tuple[float, float]) -> str:
    said: list[str] = []
    bright = left.over_stops - right.over_stops
    if abs(bright) >= SEEN_STOPS:
        said.append(f"{_stops(abs(bright))} {'brighter' if bright > 0 else 'darker'}")
    noisy = noise[0] - noise[1]
    if abs(noisy) >= SEEN_STOPS:
        said.append(f"{_stops(abs(noisy))} {'noisier' if noisy > 0 else 'cleaner'} in its grey")
    for one, other, what in (
        (left.blur_px, right.blur_px, "by shake"),
        (left.subject_px, right.subject_px, "where it moves"),
        (left.focus_px, right.focus_px, "by focus"),
    ):
        if abs(one - other) >= SEEN_PX:
            said.append(f"{abs(one - other):.1f}{NARROW}px {'softer' if one > other else 'sharper'} {what}")
    white = left.white_share - right.white_share
    if abs(white) >= SEEN_SHARE:
        said.append(f"{100 * abs(white):.1f}{NARROW}% {'more' if white > 0 else 'less'} blown")
    black = left.black_share - right.black_share
    if abs(black) >= 10 * SEEN_SHARE:
        said.append(f"{100 * abs(black):.0f}{NARROW}% {'more' if black > 0 else 'less'} lost in black")
    if abs(casts[0] - casts[1]) >= SEEN_STOPS:
        said.append(
            f"{_stops(abs(casts[0] - casts[1]))} {'farther from' if casts[0] > casts[1] else 'nearer to'} neutral"
        )
    bands = left.bands_stops - right.bands_stops
    if abs(bands) >= SEEN_BANDS:
        said.append(f"{'more' if bands > 0 else 'less'} banded by its lamps")
    if not said:
        return "Nobody would see a difference between the two."
    return f"Left is {', '.join(said[:-1])}{' and ' if len(said) > 1 else ''}{said[-1]}."


def made_with(one: LookNumbers) -> str:
    """What a frame was exposed with: ISO, exposure, price."""
    return f"ISO{NARROW}{one.iso} · {seconds(one.shutter_s)} · costs {stops(one.given_up_stops)} stops"


# What a picture of ours is, and what it cannot show; it stands under every one.
LIMITS = (
    "A drawn scene through your camera's numbers: light, noise, smear, clipping, curve and compression are worked out; "
    "faces, lens flare, ghosts of joined exposures and the maker's own colours are not."
)
