"""Warnings and cautions in words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from steady_tide.core.planning.plan import Caution, Warning
from steady_tide.words import quantities as writing
from steady_tide.words.templates import say

Facts = dict[str, Any]


def _proof(facts: Facts) -> Facts:
    what = f"The {facts['housing']}" if facts["housing"] else f"The body of the {facts['camera']}"
    return {
        "proof": f"{what} is proof to {writing.metres(facts['proof_m'])}"
        if facts["proof_m"]
        else f"{what} is not proof"
    }


def _against(value: float) -> str:
    if writing.stops(abs(value)) == "0.0":
        return "level with"
    return f"{writing.stops(abs(value))} stops {'above' if value > 0 else 'below'}"


def _between(low: float, high: float) -> str:
    if high < 0:
        return f"{writing.stops(-high)} to {writing.stops(-low)} stops below"
    return f"{writing.stops(-low)} below to {writing.stops(high)} stops above"


def _ratio(facts: Facts) -> Facts:
    low, high = facts["wanted"]
    up = facts["stops"] < low
    return {
        "against": _against(facts["stops"]),
        "usual": _between(low, high),
        "turn": "up" if up else "down",
    }


def _fed(facts: Facts) -> Facts:
    return {
        "mend": "Feed it from a power bank or the mains, or stop between takes."
        if facts["can_be_fed"]
        else "Plan a pause to change its battery, or film with two cameras.",
        **_cells(facts),
    }


def _over_mend(facts: Facts) -> Facts:
    mend = {
        "none": "",
        "glass": " About {over_stops:stops} stops more of ND would hold them.",
        "lamps_off": " Turn the lamps off: the other light alone is too much.",
        "lamps": " Turn the lamps down to {output_share:share}, or move them from {from_m:metres} to {to_m:metres}.",
    }[facts["mend"]]
    return {"and_mend": say(mend, facts)}


def _lamp_mend(facts: Facts) -> Facts:
    turned = "turn them up {times:.1f} times" if facts["turn_up"] else "use {times:.1f} times the lamps"
    mend = (
        "At base ISO {missing_stops:stops} stops of light are missing: "
        + turned
        + ", or bring them from {from_m:metres} to {to_m:metres}."
    )
    if facts.get("burns_stops"):
        mend += " The bright side is then {burns_stops:stops} stops over: turn it from the lamp, or use a softer one."
    return {"mend": say(mend, facts)}


def _wind(facts: Facts) -> Facts:
    return {"what": facts["microphone"] or "built-in microphone"}


def _dark_mend(facts: Facts) -> Facts:
    return {
        "mend": {
            "light": "bring light, or go where light is.",
            "edit": "lift it in the edit, or film the dim part apart.",
            "dark": "let it be dark, or film the dim part apart.",
        }[facts["mend"]]
    }


def _ripple(facts: Facts) -> Facts:
    if not facts["pulses"]:
        return {"verdict": "The lamps do not pulse, as far as their ripple is known."}
    verdict = "At {shutter_s:seconds} their ripple leaves {left_stops:.2f} stops."
    return {"verdict": say(verdict, facts)}


def _drift(facts: Facts) -> Facts:
    return {"drift": "" if facts["drift_px"] is None else f" Stars move {facts['drift_px']:.1f} px in a frame."}


def _beyond(facts: Facts) -> Facts:
    return {"beyond_it": " The subject is beyond that." if facts["beyond"] else ""}


def _bank(facts: Facts) -> Facts:
    if facts.get("suffices"):
        first = "Feed it from the power bank, from the first frame on."
        known = "The bank in the kit gives {have_wh:wh}, which suffices."
    else:
        first = "Outside power needed: mains, or a power bank of at least {bank_wh:wh}."
        known = "The bank in the kit gives {have_wh:wh}." if facts["have_wh"] else "There is none in the kit."
    return {
        "first": say(first, facts),
        "known": say(known, facts),
    }


def _cells(facts: Facts) -> Facts:
    cells = facts.get("cells")
    if cells is None:
        return {"and_cells": ""}
    if cells["case"] == "warm":
        return {"and_cells": " Take spare cells, or a lighter mode."}
    if cells["case"] == "flying":
        return {"and_cells": " Land and change batteries; motors draw what they draw."}
    cold = (
        " In air of {air_c:celsius} the cells in the body stand at {cells_c:celsius} and give {left_share:share} of their "
        "charge; "
        "{best} would last {best_h:hours} a charge, and a lighter mode saves some."
    )
    return {"and_cells": say(cold, {**cells, "cells_c": round(cells["cells_c"])})}


# Each code with its sentence; where a part of it depends on the case, what makes that part.
WARNINGS: dict[str, str | tuple[str, Callable[[Facts], Facts]]] = {
    "housing_missing": (
        "Do not take it down. {proof}, this goes to {deepest_m:metres}, and nothing is taken to its very limit. "
        "Take a housing rated for {safe_m:metres} or more, or stay shallower.",
        _proof,
    ),
    "not_proof": ("Keep it dry. {proof}, and water reaches it here. Take a proof body, or a housing.", _proof),
    "own_recorder": (
        "The built-in app sets neither shutter nor kelvins. Hold on the subject until exposure and focus lock, both "
        "together, before the take; for a fixed shutter record by hand."
    ),
    "attached": "An attachment is on the lens. Check the corners in a test take before you rely on it.",
    "voice_far": (
        "The voice is too far from the microphone, by {stops:stops} stops. Come within {reach_m:metres}, or put a "
        "microphone nearer."
    ),
    "wind_roars": (
        "Wind of {wind_m_s:speed} roars in the {what}, which stands {held_m_s:speed}. Shelter it, or film out of the wind.",
        _wind,
    ),
    "frame_unseen": (
        "You will not see the frame. Frame something in your place, mark where you stand, and watch a test take."
    ),
    "stills": "It records stills of {still_mb:g}\u202fMB, {recorded_gb:gb} in all. You join them into a film later.",
    "too_near": (
        "Too near to be sharp. The subject comes to {from_m:metres}, and this lens is sharp from {closest_m:metres} "
        "on. "
        "Step back, or take a body that focuses nearer."
    ),
    "sudden_light": "The light jumps. The exposure is held for its bright part, and what lies between may be dark.",
    "contrast_beyond": (
        "One frame holds {contrast_stops:stops} stops from dark to bright, this profile {holds_stops:stops}. Expose for "
        "what matters, bring light into the dark part, or frame one end out."
    ),
    "glare_stays": "Glare stays: no polariser is on. Change the angle, or put one on.",
    "lamp_ratio": (
        "The {role} lamp stands {against} the key; {usual} is usual. Move it from {from_m:metres} to {to_m:metres}, or "
        "turn it {turn}.",
        _ratio,
    ),
    "mixed_light": (
        "The lamps differ in colour. White balance follows the key; set all lamps alike, or keep the difference on "
        "purpose."
    ),
    "smear_by_day": (
        "Shake smears {smear_px:pixels} a frame at {shutter_s:seconds}. A shorter exposure or a calmer mount helps."
    ),
    "pan_too_fast": (
        "The pan is too fast to follow: {turn_deg_s:degrees} a second. Turn at {allowed_deg_s:degrees} a second "
        "or slower."
    ),
    "skew": "Upright lines lean by {skew_deg:degrees} while you pan at {turn_deg_s:degrees} a second.",
    "thin_later": (
        "Carried, an interval film jumps. Steadier: film at speed with stabilisation and keep every {every}th frame "
        "later; "
        "else fire at every second step and hold the view straight."
    ),
    "backscatter": (
        "Backscatter: particles near the lens light up. Hold lamps wide apart and turned outwards, and get close to "
        "the subject."
    ),
    "lamps_dim_near": "Near and far differ by {apart_stops:stops} stops under these lamps. Turn them down when near.",
    "black_ground": "The black ground makes the meter expose {fooled_stops:stops} stops too much; that is taken off.",
    "reflections": (
        "Its surface mirrors the lamps. Use large soft lights, flags and a clean surround, and check for your own "
        "reflection."
    ),
    "charge_ends_take": (
        "The take is longer than a charge. It ends after {charge_h:hours} of {take_h:hours}, however many spare cells "
        "there are. {mend}{and_cells}",
        _fed,
    ),
    "card_too_slow": (
        "No card in the kit is fast enough. Even the lowest rate, {least_mb_s:mb_s}, wants "
        "{wanted_mb_s:whole}\u202fMb/s held; the fastest card holds {fastest_mb_s:g}."
    ),
    "card_missing": "There is no card in the kit. Take one that holds {least_mb_s:mb_s} or more.",
    "highlights_lost": (
        "Highlights will be lost: the brightest part is {over_stops:stops} stops over.{and_mend}",
        _over_mend,
    ),
    "light_missing": ("The dim end comes out {under_stops:stops} stops under. {mend}", _lamp_mend),
    "too_dark": ("The dim end comes out {under_stops:stops} stops under; {mend}", _dark_mend),
    "light_at_base": ("A high ISO makes up for missing light. {mend}", _lamp_mend),
    "noisy": "It is noisier than your limit: mid grey reaches {snr:whole} to 1, and your school asks for {limit:.0f}.",
    "flicker": (
        "Lamps will flicker by {flicker_stops:stops} stops at {mains_hz} Hz mains. Look for bands in a test take."
    ),
    "flicker_clean": ("No flicker expected. {verdict}", _ripple),
    "stacked_glass": "Filters are stacked. Check for dark corners and reflections before you rely on it.",
    "wide_band": "The band of light is wide. Two takes, one for each end, would each hold more.",
    "bright_ground": "Snow and frost fool the meter and clip early. Watch the histogram's right end.",
    "pulsing_smear": (
        "The picture stands still, but each frame smears {smear_px:pixels} in {shutter_s:seconds}. "
        "Stabilisation cannot remove that."
    ),
    "steady_the_camera": ("No stabilisation of this camera steadies this shot. Use a gimbal or a tripod."),
    "unsteady": (
        "The picture will wander, {shake_stops:stops} stops past steady. Hold it with both hands, brace, or move less."
    ),
    "soft": "It is softer than the timeline: {left_px:whole} pixels are left for {wanted_px}.",
    "soft_focus": (
        "Not all of it is sharp: the worse end is {softness_stops:stops} stops soft. Step back, or film near "
        "and far in two takes."
    ),
    "light_span": (
        "The light is given for {given_h:hours}, but the film runs {film_h:hours}. Give the light for the whole "
        "span; this plan holds for its beginning only."
    ),
    "too_few_frames": "Too few frames for the slow motion: {wanted_fps:g} a second are needed.",
    "uneven_cadence": "Motion will judder. The rate does not divide evenly into {timeline_fps:fps}.",
    "interval_film": ("{frames} frames, {screen_s:whole_s} on the screen at {timeline_fps:fps}.{drift}", _drift),
    "housing_needed": (
        "Only in the {housing}. The body alone is proof to {proof_m:metres}, this goes to {deepest_m:metres}."
    ),
    "red_gone": (
        "Red is gone below {depth_m:metres}. Less than a tenth of it is left; no filter and no balance bring back what "
        "is not there."
    ),
    "lamp_reach": (
        "The lamps reach {reach_m:metres} in colour. Farther off their red falls a stop behind their green.{beyond_it}",
        _beyond,
    ),
    "colour_cast": (
        "A colour cast of {cast_stops:stops} stops stays. Get closer, stay shallower, keep sand or rock in the frame, "
        "or take "
        "lamps."
    ),
    "speed_unknown": (
        "The speed of the subject is not given, so {stands_in_s:seconds} stands for frozen. Give it for a true figure."
    ),
    "outside_power": (
        "{first} One charge lasts {charge_h:hours} of {wanted_h:hours}; in all {needed_wh:wh} are drawn. {known}",
        _bank,
    ),
    "battery_short": (
        "The battery will not last. Filming and waiting take {needed_wh:wh}, and there are {have_wh:wh}.{and_cells}",
        _cells,
    ),
    "battery_close": (
        "The battery lasts, with less than a quarter to spare: {needed_wh:wh} of {have_wh:wh}.{and_cells}",
        _cells,
    ),
    "battery": ("One charge lasts {charge_h:hours}, and {wanted_h:hours} are recorded.{and_cells}", _cells),
    "heat": "It will stop for heat after {minutes:minutes}. Shorter takes, wind, shade, or a lighter mode.",
    "clip_splits": "Clips split after {minutes:g}\u202fmin. Join them in the edit.",
    "take_over_card": (
        "One take records {take_gb:gb}, and the largest card holds {largest_gb:gb}: it ends in the middle. Take a larger "
        "card, a lower bit rate, or two takes."
    ),
    "card_small": "The cards are too small. {recorded_gb:gb} are recorded, {fits_gb:whole} fit.",
    "drive_needed": "This mode records to an external drive only. Mount it so that its cable cannot pull.",
    "way_home": "{reserve_share:share} of the charge is kept for the way home: {charge_h:hours} in the air.",
}

CAUTIONS: dict[str, str] = {
    "diving": (
        "Air, depth, time and buddy come before the camera. Dive within your training; steady your buoyancy first, "
        "touch nothing that lives, mind boats."
    ),
    "seals": (
        "Seal lamps and housing ashore: seals clean, no hair or sand, closed by eye, tried in fresh water without the "
        "camera."
    ),
    "mounts": (
        "The ride comes first. A mount can injure in a fall and must not block sight or controls; keep clear of "
        "bystanders."
    ),
    "flying": (
        "Fly within your licence and local aviation rules: in line of sight, away from people, within the wind limit, "
        "with charge for the return."
    ),
    "night_dive": (
        "A night dive is another dive: a light each and one to spare, a line to the way out, someone ashore, and the "
        "training for it."
    ),
    "wet": (
        "Salt, surf and rain: tether the camera, rinse and dry it before it is opened, and never turn your back to "
        "waves."
    ),
    "driving": "Who drives does not film, touch or look at a camera. Nothing may block sight, airbags or belts.",
    "suction": (
        "Clean and try the hold before driving off, tether it twice, and keep to the law of the road; a camera that "
        "falls can kill."
    ),
    "lamps": (
        "Mains and water stay apart. Lamps are hot, stands are weighted, cables are taped; wiring is for a licensed "
        "hand."
    ),
    "dark": "Know the ground by day, be visible, and let someone know the plan.",
    "waiting": "Do not leave a stand where tide, wind or people reach it; dress for the wait.",
    "cold": "Cold hands fumble and cells cut out early. Keep spares warm on the body; mind the ice.",
    "speed": "Never look at the screen while moving. Set, start, and look ahead.",
    "footing": "Watch your footing, edges and the tide while you film.",
}


def warning_words(warning: Warning) -> str:
    """A warning as a sentence or two."""
    said = WARNINGS[warning.code]
    if isinstance(said, str):
        return say(said, warning.facts)
    template, parts = said
    return say(template, {**warning.facts, **parts(warning.facts)})


def caution_words(caution: Caution) -> str:
    """A caution as a sentence or two."""
    return say(CAUTIONS[caution.topic])
