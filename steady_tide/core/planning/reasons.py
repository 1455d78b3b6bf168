"""Reasons, made from the numbers that decided.

For each dial the plan is held against the cheapest plan with another value of that dial. The item
whose price rises most is what decided; the reason says that item's numbers and names the runner-up.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from steady_tide.core import wording
from steady_tide.core.planning import costs
from steady_tide.core.planning.dials import Dial
from steady_tide.core.planning.items import ITEMS
from steady_tide.core.planning.ledger import Priced
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import Choice, Solution
from steady_tide.core.planning.space import Space
from steady_tide.core.stops import camera_ev

ALIKE_STOPS = 0.005


@dataclass(frozen=True)
class Comparison:
    """A dial's chosen value against its runner-up."""

    at: Situation
    space: Space
    dial: str
    chosen: str
    rival: str
    ours: Priced
    theirs: Priced

    def spoken(self, item: str) -> str:
        """Stops of an item in the rival plan. Returns text."""
        return wording.stops(self.theirs.stops[item])

    def more(self, item: str) -> str:
        """Stops by which the rival plan is worse. Returns text."""
        return wording.stops(self.theirs.stops[item] - self.ours.stops[item])


# What the rival value would have given up: one sentence for each item of the ledger.
_RIVAL_GIVES_UP: dict[str, Callable[[Comparison], str]] = {
    "over": lambda c: f"With {c.rival} the highlights would be {c.spoken('over')} stops over.",
    "under": lambda c: f"With {c.rival} the dimmest part would be {c.spoken('under')} stops under.",
    "noise": lambda c: f"{c.rival} passes the noise limit by {c.spoken('noise')} stops.",
    "light_unused": lambda c: f"{c.rival} leaves {c.more('light_unused')} stops more of the sensor's light unused.",
    "gain_behind_glass": lambda c: (
        f"{c.rival} would buy back with gain {c.more('gain_behind_glass')} stops that the glass takes."
    ),
    "spare_gain": lambda c: f"{c.rival} allows {c.more('spare_gain')} stops of gain that this light never asks for.",
    "unlocked": lambda c: f"{c.rival} lets the exposure drift within the take.",
    "cast": lambda c: _cast_words(c),
    "raised_floor": lambda c: f"{c.rival} forbids the cleanest {c.more('raised_floor')} stops.",
    "metering": lambda c: (
        f"The meter exposes {wording.stops(c.space.sheet.metering_bias_stops)} stops too much; "
        f"{c.rival} would be {c.spoken('metering')} stops off."
    ),
    "glass": lambda c: f"{c.rival} puts more in front of the lens.",
    "star_drift": lambda c: f"With {c.rival} the stars trail {c.spoken('star_drift')} stops past a point.",
    "softness": lambda c: f"{c.rival} is {c.spoken('softness')} stops soft, by its opening or its focus.",
    "focus": lambda c: (
        "Automatic would hunt within the take."
        if c.rival == "automatic"
        else "Locked would lose what moves nearer or farther."
    ),
    "interval": lambda c: (
        f"{_capital(c.rival)} comes to {c.theirs.screen_s:.0f}\u202fs on the screen, this to {c.ours.screen_s:.0f}\u202fs."
    ),
    "motion_look": lambda c: (
        f"{c.rival} is off the wanted {wording.seconds(c.ours.wanted_shutter_s)} by {c.spoken('motion_look')} stops."
    ),
    "loose_shutter": lambda c: (
        f"With {c.rival} the motion look drifts with the light by {c.spoken('loose_shutter')} stops."
    ),
    "smear": lambda c: f"{c.rival} smears {c.theirs.smear_px:.1f} px in a frame, this {c.ours.smear_px:.1f}.",
    "shake": lambda c: f"{c.rival} would leave the picture wandering by {c.spoken('shake')} stops.",
    "software": lambda c: f"Software steadies later and wants the whole frame; {c.rival} cuts it.",
    "horizon": lambda c: f"{c.rival} lets the horizon tilt with the hand.",
    "flicker": lambda c: f"With {c.rival} the lamps would flicker by {c.spoken('flicker')} stops.",
    "crop": lambda c: f"{c.rival} crops {c.more('crop')} stops more.",
    "view": lambda c: (
        f"{c.rival} shows {c.theirs.field_deg:.0f}\u00b0, this {c.ours.field_deg:.0f}\u00b0 of the {c.at.field_wanted_deg:.0f}\u00b0 wanted."
    ),
    "lens": lambda c: f"{c.rival} is {c.more('lens')} stops softer.",
    "bend": lambda c: f"{c.rival} bends lines off the centre.",
    "detail": lambda c: (
        f"{c.rival} falls {c.spoken('detail')} stops short of the timeline's {c.at.brief.delivery.width} pixels."
    ),
    "reframe": lambda c: f"{c.rival} leaves the other shapes {c.spoken('reframe')} stops too little.",
    "most": lambda c: f"{c.rival} records {c.more('most')} stops less than the camera can.",
    "slow_motion": lambda c: (
        f"{c.rival} misses the {c.at.shown_fps:g}\u202ffps that it takes by {c.spoken('slow_motion')} stops."
    ),
    "spare_frames": lambda c: (
        f"{c.rival} takes {2 ** c.theirs.stops['spare_frames']:.2g} times the frames that are shown."
    ),
    "cadence": lambda c: f"{c.rival} repeats frames unevenly on {c.at.brief.delivery.fps:g}\u202ffps.",
    "latitude": lambda c: (
        f"{c.rival} holds {c.spoken('latitude')} stops less range than {'the grade' if c.at.graded else 'the picture'} wants."
    ),
    "finish": lambda c: (
        f"{c.rival} needs a grade, and none is planned."
        if c.theirs.stops["finish"] > 0.5
        else f"{c.rival} is {c.more('finish')} stops farther from a finished picture."
    ),
    "lifted_shadows": lambda c: f"{c.rival} lifts dark noise by {c.more('lifted_shadows')} stops.",
    "tones": lambda c: (
        f"{c.rival} bands when it is graded."
        if c.at.graded
        else f"{c.rival} asks more of the editing machine for nothing."
    ),
    "bits": lambda c: f"{c.rival} leaves {c.theirs.bits_per_pixel:.2f} bits a pixel, this {c.ours.bits_per_pixel:.2f}.",
    "storage": lambda c: (
        f"{c.rival} fills the card {2 ** max(0.0, c.theirs.stops['storage'] - c.ours.stops['storage']):.1f} times as fast."
    ),
    "editing": lambda c: f"{c.rival} is heavier to edit on a phone.",
    "range_mode": lambda c: (
        f"{c.rival} would want several exposures joined in a frame."
        if c.dial != "high_dynamic_range"
        else "It would join several exposures in a frame: ghosts on what moves."
        if not c.at.dark
        else "Several exposures in a frame fail in the dark."
    ),
    "balance": lambda c: f"The light wants {_kelvins(c.at.light.balance_k)}{_off_balance(c)}.",
    "sharpening": lambda c: (
        "Sharpening is left to the edit." if c.at.graded else f"{c.rival} would look wrong straight from the camera."
    ),
    "sound_track": lambda c: (
        "The sound is edited, so it has a track of its own." if c.rival == "off" else "Nobody edits the sound apart."
    ),
    "battery": lambda c: (
        f"{c.rival} draws {c.theirs.needed_wh:.0f}\u202fWh, this {c.ours.needed_wh:.0f} of {c.space.supplies.energy_wh:.0f}."
    ),
    "heat": lambda c: f"{c.rival} draws {c.theirs.power_w:.1f}\u202fW and meets its heat limit sooner.",
    "card": lambda c: f"{c.rival} records {c.theirs.recorded_gb:.0f}\u202fGB; {c.space.supplies.capacity_gb:.0f} fit.",
    "drive": lambda c: f"{c.rival} needs an external drive.",
    "early_start": lambda c: (
        "The moment comes without warning; this keeps what was before it."
        if c.rival == "off"
        else f"{c.rival} runs the camera all the while for nothing."
    ),
    "screen": lambda c: {
        "screen off": "Framing needs it.",
        "screen both": "The front screen only draws power.",
    }.get(c.rival, "Nobody looks at it here."),
    "positioning": lambda c: "Nothing uses it, and it draws power.",
    "handling": lambda c: f"{c.rival} is not the phone that edits.",
    "wind": lambda c: (
        f"Wind {max(c.at.brief.sound.wind_m_s, c.at.brief.camera_move.travel_m_s):g}\u202fm/s: {c.rival} costs {c.spoken('wind')} stops of sound."
        if costs.is_heard(c.at)
        else "The sound of this shot is not used."
    ),
}


def _cast_words(c: Comparison) -> str:
    """What filters leave of the colours, or why none is worth its light."""
    if c.at.light.lamp_share >= 0.5:
        return f"The lamps bring the colour; {c.rival} would only take their light."
    left = f"leaves {c.ours.stops['cast']:.1f} stops of cast"
    if c.dial == "colour_filter":
        return f"With {c.rival} the colours stand {c.spoken('cast')} stops apart; this {left}."
    return f"{c.rival} leaves {c.spoken('cast')} stops of cast."


def _off_balance(c: Comparison) -> str:
    if c.rival == "automatic":
        return "; automatic drifts within a take"
    return f"; {c.rival} sits {c.spoken('balance')} stops off" if c.theirs.stops["balance"] >= 0.1 else ""


def _kelvins(band: tuple[int, int]) -> str:
    return f"{band[0]}\u202fK" if band[0] == band[1] else f"{band[0]} to {band[1]}\u202fK"


# What the chosen value achieves, where that is worth saying before the rival: by dial and item.
def _lead(c: Comparison, item: str) -> str:
    if (
        c.dial == "shutter_s"
        and item in ("motion_look", "loose_shutter")
        and abs(np.log2(c.ours.shutter_dim_s / c.ours.wanted_shutter_s)) < 0.1
    ):
        shown = min(float(c.space.pictures.rate[c.ours.choice.pictures]), c.at.shown_fps)
        if c.at.brief.subject.motion_look == "natural" and not c.at.lapse:
            return f"Half of the frame interval at {shown:g}\u202ffps."
    if c.dial == "nd" and item in ("over", "under", "motion_look", "loose_shutter"):
        return _glass_lead(c)
    if c.dial == "frame_rate" and item in ("slow_motion", "spare_frames", "cadence"):
        delivery = c.at.brief.delivery
        slowed = f", slowed {delivery.slow_factor:g}{wording.TIMES}" if delivery.slow_factor > 1 else ""
        return f"The timeline is {delivery.fps:g}\u202ffps{slowed}."
    if c.dial == "lens" and item in ("view", "bend", "softness"):
        return f"It shows {c.ours.field_deg:.0f}\u00b0."
    if c.dial == "shutter_s" and c.at.brief.subject.motion_look == "frozen" and item == "motion_look":
        return f"Frozen asks for {wording.seconds(c.ours.wanted_shutter_s)}."
    if c.dial == "iso_ceiling" and item == "noise":
        return f"Signal to noise {c.ours.snr_dim:.0f}, limit {c.at.noise_limit_snr:.0f}."
    return ""


def _glass_lead(c: Comparison) -> str:
    glass = c.space.glasses[c.ours.choice.glasses]
    _, f_number, _ = c.space.gates[c.ours.choice.gates]
    floor, _ = c.space.iso_pairs[c.ours.choice.iso_pairs]
    asked = c.at.light.ev100[1] + np.log2(floor / 100.0) - float(camera_ev(f_number, c.ours.shutter_bright_s))
    if not glass.ids:
        return ""
    if asked <= 0:
        return ""
    return f"{' + '.join(glass.names)} takes {glass.stops:g} of {asked:.1f} stops too many."


# What a dial, or each dial of a block, can decide by itself. A rival plan may also turn other dials; what those
# cost is no reason for this one.
_DECIDES: dict[str, frozenset[str]] = {
    "frame": frozenset(["detail", "reframe", "most", "light_unused", "noise", "bits", "editing", "battery", "heat"]),
    "frame_rate": frozenset(
        ["slow_motion", "spare_frames", "cadence", "motion_look", "smear", "over", "under", "noise", "bits"]
    ),
    "interval_s": frozenset(["interval", "motion_look", "under", "noise", "over", "star_drift", "battery"]),
    "lens": frozenset(
        [
            "view",
            "bend",
            "lens",
            "softness",
            "detail",
            "noise",
            "over",
            "under",
            "smear",
            "shake",
            "focus",
            "light_unused",
        ]
    ),
    "f_number": frozenset(["softness", "over", "under", "noise", "motion_look", "loose_shutter", "glass"]),
    "colour_filter": frozenset(["cast", "under", "noise", "glass", "over"]),
    "housing": frozenset(["glass", "cast"]),
    "view": frozenset(["view", "bend", "horizon", "light_unused", "noise", "detail", "smear"]),
    "stabilisation": frozenset(["shake", "smear", "software", "crop", "light_unused", "noise", "detail", "view"]),
    "gates": frozenset(
        ["over", "under", "noise", "motion_look", "loose_shutter", "smear", "flicker", "star_drift", "softness"]
    ),
    "glasses": frozenset(["over", "under", "noise", "glass", "gain_behind_glass", "motion_look", "loose_shutter"]),
    "iso_pairs": frozenset(["over", "under", "noise", "gain_behind_glass", "spare_gain", "raised_floor", "unlocked"]),
    "compensations": frozenset(["over", "under", "noise", "metering"]),
    "looks": frozenset(
        [
            "latitude",
            "finish",
            "lifted_shadows",
            "tones",
            "bits",
            "storage",
            "editing",
            "range_mode",
            "card",
            "drive",
        ]
    ),
    "focuses": frozenset(["focus"]),
    "habits": frozenset(["battery", "heat", "early_start", "screen", "positioning"]),
    "balances": frozenset(["balance"]),
    "sharpness": frozenset(["sharpening"]),
    "wind": frozenset(["wind"]),
    "tracks": frozenset(["sound_track"]),
}


def decider(at: Situation, dial: Dial, ours: Priced, theirs: Priced) -> str | None:
    """The item of a dial's own whose price rises most in the rival plan.

    at: gives the weights; dial: which; ours, theirs: two plans. Returns the item, None where
    nothing of its own rises.
    """
    rises = {
        item: at.weights[item] * (theirs.stops[item] - ours.stops[item])
        for item in _DECIDES.get(dial.id) or _DECIDES[dial.block]
    }
    item = max(sorted(rises), key=lambda name: rises[name])
    return item if rises[item] > ALIKE_STOPS else None


@dataclass(frozen=True)
class Contest:
    """A dial's values with their least prices, and the combination that holds the second place."""

    dial: Dial
    prices: np.ndarray
    own: int
    second: int | None
    rival: Choice | None


def contest(dial: Dial, solution: Solution, own: int) -> Contest:
    """Find the runner-up of a dial.

    dial: one dial; solution: with that dial free; own: place of the chosen value. Returns the contest.
    """
    prices = np.full(len(dial.values), np.inf)
    np.minimum.at(prices, dial.of_candidate, solution.minima[dial.block])
    others = prices.copy()
    others[own] = np.inf
    second = int(np.argmin(others))
    if not np.isfinite(others[second]):
        return Contest(dial, prices, own, None, None)
    return Contest(dial, prices, own, second, solution.best(dial.block, np.flatnonzero(dial.of_candidate == second)))


def explain(
    at: Situation, space: Space, held: Contest, ours: Priced, theirs: Priced | None, names: dict[str, str]
) -> str:
    """Say why a dial has its value.

    at, space: of the plan; held: the contest; ours, theirs: the plan and the runner-up, priced;
    names: of filters by id. Returns the reason.
    """
    dial, prices, own, second = held.dial, held.prices, held.own, held.second
    if second is None or theirs is None:
        if len(dial.values) == 1:
            if dial.id == "housing" and at.light.deepest_m is not None:
                return (
                    "It is not taken into water without one."
                    if dial.values[0] == "none"
                    else "Without it, it is not proof."
                )
            return _ONLY.get((dial.id, dial.values[0]), "The only value this camera has.")
        if dial.id == "interval_s" and not at.lapse:
            return "The shot is filmed at speed."
        return "The only value that fits the pins." if at.brief.pins else "No mode that films this shot offers another."
    chosen, rival = _said(dial, own, names), _said(dial, second, names)
    more = float(prices[second] - prices[own])
    if more < -ALIKE_STOPS:
        item = decider(at, dial, theirs, ours)
        why = f" {_sentence(Comparison(at, space, dial.id, rival, chosen, theirs, ours), item)}" if item else ""
        return f"Pinned. Free, it would be {rival}, and {wording.stops(-more)} stops less given up.{why}"
    item = decider(at, dial, ours, theirs)
    if more <= ALIKE_STOPS:
        return _tie(at, dial, rival, ours, theirs)
    if item is None:
        return f"{_capital(rival)} would turn other dials, and give up {wording.stops(more)} stops more."
    told = Comparison(at, space, dial.id, chosen, rival, ours, theirs)
    return f"{_lead(told, item)} {_sentence(told, item)}".strip()


_ONLY = {
    ("nd", "none"): "No glass at hand fits.",
    ("colour_filter", "none"): "No colour filter at hand fits here.",
    ("housing", "none"): "It stays dry.",
    ("focus", "fixed"): "The lens has a fixed focus.",
    ("interval_s", "off"): "It has no interval mode.",
}


def _tie(at: Situation, dial: Dial, rival: str, ours: Priced, theirs: Priced) -> str:
    """Two values that come to the same: what the other one loses, and what it gains for that."""
    lost, gained = decider(at, dial, ours, theirs), decider(at, dial, theirs, ours)
    if lost is None or gained is None:
        return f"{_capital(rival)} would serve as well."
    worse = at.weights[lost] * (theirs.stops[lost] - ours.stops[lost])
    better = at.weights[gained] * (ours.stops[gained] - theirs.stops[gained])
    return (
        f"{_capital(rival)} comes to the same: {ITEMS[lost].title} costs {wording.stops(worse)} more, "
        f"{ITEMS[gained].title} {wording.stops(better)} less."
    )


def _sentence(told: Comparison, item: str) -> str:
    return _capital(_RIVAL_GIVES_UP[item](told))


def _said(dial: Dial, place: int, names: dict[str, str]) -> str:
    value: Any = dial.values[place]
    text = wording.dial_value(dial.id, value, names)
    if dial.id == "high_dynamic_range":
        return f"wide range {'on' if value else 'off'}"
    if dial.id == "iso_floor":
        return f"a floor of {text}"
    if dial.id == "iso_ceiling":
        return f"a ceiling of {text}"
    return {
        "focus": text,
        "screen": f"screen {text}",
        "positioning": f"positioning {text}",
        "pre_record_s": text if text == "off" else f"keeping {text} the start",
        "stabilisation": f"steadying {text}",
        "sharpness": f"{text} sharpness",
        "wind_reduction": f"wind reduction {text}",
    }.get(dial.id, text)


def _capital(text: str) -> str:
    """A sentence begins with a capital, but an aperture does not."""
    return text if text.startswith("f/") else text[:1].upper() + text[1:]
