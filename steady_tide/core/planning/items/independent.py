"""What balance, sharpness, sound, screen, positioning, early start and the charge give up."""

from __future__ import annotations

from math import sqrt
from typing import Any

import numpy as np

from steady_tide.core.gear.items import Microphone
from steady_tide.core.physics.endurance import minutes_to_heat
from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.dials.dial_kind import AUTOMATIC
from steady_tide.core.planning.dials.independent import RAW
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import BALANCE, HABIT, SOUND, AloneView, BalanceView, HabitView, SoundView
from steady_tide.core.planning.space import Floats


def _balance(v: BalanceView) -> Floats:
    at, limits = v.at, v.at.limits
    locked = at.brief.school.white_balance == "locked"
    # Where depth changes the colour, a lock is left behind and automatic follows.
    drift = (1.0 - at.light.lamp_share) * at.light.drift_stops  # lamps bring one white along
    follows = min(1.0, limits.balance_follows_share * drift)
    drifts = limits.balance_automatic_stops
    stops = []
    for value, (warm, cool) in zip(v.values, v.wanted_k, strict=True):
        if value == RAW:
            stops.append(limits.balance_raw_graded_stops if at.graded else limits.balance_raw_straight_stops)
        elif value == AUTOMATIC:
            # What no value of the camera reaches is no reason to leave the balance to it: then its nearest end is set.
            unreached = (
                min((_off_mireds(float(k), warm, cool) for k in v.offered_k), default=0.0) / limits.balance_mireds
            )
            stops.append(drifts + unreached - min(limits.balance_follows_most_stops, follows) if locked else 0.0)
        else:
            kelvin = float(value)
            mireds = limits.balance_mireds
            off = _off_mireds(kelvin, warm, cool) / mireds
            middle = abs(1e6 / kelvin - 2e6 / (warm + cool)) / mireds
            unasked = 0.0 if locked else limits.balance_unasked_lock_stops
            behind = limits.balance_left_behind_share * follows
            stops.append(off + limits.balance_middle_share * middle + unasked + behind)
    return np.array(stops)


def _off_mireds(kelvin: float, warm: float, cool: float) -> float:
    """How far a balance lies outside of a light's own. warm, cool: ends of the light, kelvin. Returns mireds."""
    return abs(1e6 / kelvin - 1e6 / min(max(kelvin, warm), cool))


def _sharpening(v: AloneView) -> Floats:
    limits = v.at.limits
    price = (
        {
            "low": limits.sharpening_graded_low_stops,
            "medium": limits.sharpening_graded_medium_stops,
            "high": limits.sharpening_graded_high_stops,
        }
        if v.at.graded
        else {
            "low": limits.sharpening_straight_low_stops,
            "medium": limits.sharpening_straight_medium_stops,
            "high": limits.sharpening_straight_high_stops,
        }
    )
    return np.array([price[level] for level in v.values])


def _wind(v: SoundView) -> Floats:
    limits, heard = v.at.limits, v.at.is_heard

    def roar(held_m_s: float) -> float:
        return min(limits.wind_roars_most_stops, v.at.roar_stops(held_m_s))

    built_in = roar(limits.fresh_wind_m_s)
    price = {
        "off": built_in,
        "automatic": limits.wind_automatic_stops + limits.wind_automatic_share * built_in,
        "on": (limits.wind_mono_heard_stops if heard else limits.wind_mono_stops),
    }
    # What the camera does to its own microphone leaves another one alone.
    needless = {"off": 0.0, "automatic": limits.wind_automatic_stops, "on": limits.wind_mono_stops}
    return np.array(
        [
            price[sound.wind_reduction]
            if sound.microphone is None
            else needless[sound.wind_reduction] + roar(sound.microphone.wind_held_m_s)
            for sound in v.sounds
        ]
    )


def _voice(v: SoundView) -> Floats:
    """How much farther off a voice is than each microphone reaches; one that is worn is always near."""
    limits = v.at.limits
    if not (v.at.is_heard and v.at.brief.sound.voice):
        return np.zeros(len(v.sounds))
    near, far = v.at.brief.subject.distance_m
    middle = sqrt(near * far)

    def off(one: Microphone | None) -> float:
        reach = limits.built_in_reach_m if one is None else one.reach_m
        return 0.0 if one is not None and one.worn else max(0.0, float(np.log2(middle / reach)))

    return np.array([min(limits.voice_lost_stops, off(sound.microphone)) for sound in v.sounds])


def _microphone(v: SoundView) -> Floats:
    """What each microphone takes to set up, to feed and to cut."""
    limits = v.at.limits
    by_phone = v.at.brief.delivery.edit_device == "phone"
    take_h = v.at.brief.take.length_s / 3600.0

    how = {
        "cable": limits.microphone_cable_stops,
        "wireless": limits.microphone_wireless_stops,
        "recorder": limits.microphone_recorder_stops,
    }

    def work(one: Microphone | None) -> float:
        if one is None:
            return 0.0
        stops = how[one.how]
        if one.how == "recorder":
            stops += limits.sync_on_phone_stops if by_phone else 0.0
        elif v.sheet.microphone_in == "adapter":
            stops += limits.adapter_stops
        if one.runs_h is not None:
            stops += max(0.0, float(np.log2(take_h / one.runs_h)))
        return stops

    return np.array([work(sound.microphone) for sound in v.sounds])


def _track(v: AloneView) -> Floats:
    limits = v.at.limits
    edited = v.at.is_heard and v.at.graded and v.at.brief.delivery.edit_device == "desktop"
    wrong, right = limits.sound_track_wrong_stops, limits.sound_track_kept_stops
    price = {"off": wrong if edited else 0.0, "on": right if edited else wrong}
    return np.array([price[setting] for setting in v.values])


def _battery(v: HabitView) -> Floats:
    needed = v.needed_wh * v.at.limits.battery_margin
    have = np.maximum(v.space.supplies.energy_wh(v.needed_wh), 1e-6)
    return np.asarray(np.log2(np.maximum(1.0, needed / have)))


def _heat(v: HabitView) -> Floats:
    supplies, limit = v.space.supplies, v.space.sheet.power.heat_limit_c
    warming = v.space.sheet.power.warming_w(v.draw_w, v.at.sun_w_m2)
    minutes = minutes_to_heat(warming, supplies.heat_k_per_w, supplies.heat_tau_s, v.at.brief.air_c, limit)
    return np.asarray(np.log2(np.maximum(1.0, v.at.brief.take.length_s / 60.0 / np.maximum(minutes, 1e-6))))


def _early(v: HabitView) -> Floats:
    limits = v.at.limits
    sudden = v.at.brief.subject.event_s is not None
    kept, missed = (
        (limits.early_kept_stops, limits.early_missed_stops) if sudden else (limits.early_needless_stops, 0.0)
    )
    price = {True: kept, False: missed}
    return np.asarray(v.every + np.array([price[habit.pre_record_s > 0] for habit in v.habits]))


def _self_view(v: HabitView) -> Floats:
    """Who films himself wants to see the frame: by a lens that looks at him, or a screen in front. A lens that looks at
    him is wrong for everything else."""
    front = np.array([lens.faces == "front" for lens in v.space.sheet.lenses])[v.pictures.lens]
    if not v.at.brief.camera_move.self_framed:
        return np.asarray(v.every + v.at.limits.faces_wrong_stops * front[:, None])
    shown = np.array([habit.screen == "both" for habit in v.habits])
    return np.asarray(v.every + ~(front[:, None] | shown))


def _screen(v: HabitView) -> Floats:
    limits, mount = v.at.limits, v.at.mount
    unseen = mount.point_of_view or mount.flying or v.at.lapse
    at_front = v.at.brief.camera_move.self_framed
    both = 0.0 if at_front else limits.screen_both_stops
    price = {
        "off": limits.screen_off_unseen_stops if unseen else limits.screen_off_stops,
        "back": 0.0,
        "both": both,
    }
    return np.asarray(v.every + np.array([price[habit.screen] for habit in v.habits]))


def _positioning(v: HabitView) -> Floats:
    on = v.at.limits.positioning_stops
    return np.asarray(v.every + np.array([on * (habit.positioning == "on") for habit in v.habits]))


def _balance_facts(c: Comparison) -> dict[str, Any]:
    warm, cool = balance_behind_k(c.at, c.space.glasses[c.ours.choice["glasses"]])
    far = c.theirs.stops["balance"] >= c.at.limits.told_balance_stops
    case = "automatic" if c.rival == AUTOMATIC else "off" if far else "near"
    return {"case": case, "wanted_k": [warm, cool]}


def _wind_facts(c: Comparison) -> dict[str, Any]:
    return {"case": "heard" if c.at.is_heard else "unheard", "wind_m_s": c.at.wind_m_s}


def _battery_facts(c: Comparison) -> dict[str, Any]:
    have_wh = float(c.space.supplies.energy_wh(c.ours.needed_wh))
    return {"theirs_wh": c.theirs.needed_wh, "ours_wh": c.ours.needed_wh, "have_wh": have_wh}


BESIDES_ITEMS = (
    Item(
        id="balance", title="white balance", dial="white_balance_k", scope=BALANCE, cost=_balance,
        facts=_balance_facts,
        sentence={
            "automatic": "The light wants {wanted_k:kelvins}; automatic drifts within a take.",
            "off": "The light wants {wanted_k:kelvins}; {rival} sits {theirs:stops} stops off.",
            "near": "The light wants {wanted_k:kelvins}.",
        },
    ),
    Item(
        id="sharpening", title="sharpening", dial="sharpness", scope="sharpness", cost=_sharpening,
        facts=lambda c: {"case": "graded" if c.at.graded else "straight"},
        sentence={
            "graded": "Sharpening is left to the edit.",
            "straight": "{rival} would look wrong straight from the camera.",
        },
    ),
    Item(
        id="wind", title="wind or mono sound", dial="wind_reduction", scope=SOUND, cost=_wind, decided_by=("sounds",),
        facts=_wind_facts,
        sentence={
            "heard": "In wind of {wind_m_s:speed} {rival} costs {theirs:stops} stops of sound.",
            "unheard": "The sound of this shot is not used.",
        },
    ),
    Item(
        id="voice", title="voice far off", dial="microphone", scope=SOUND, cost=_voice,
        sentence="{rival} is {theirs:stops} stops too far from whoever speaks.",
    ),
    Item(
        id="microphone", title="microphone set up", dial="microphone", scope=SOUND, cost=_microphone,
        sentence="{rival} is one more thing to plug in, to charge and to check.",
    ),
    Item(
        id="sound_track", title="sound track", dial="sound_track", scope="sound_track", cost=_track,
        facts=lambda c: {"case": "edited" if c.rival == "off" else "whole"},
        sentence={
            "edited": "The sound is edited, so it has a track of its own.",
            "whole": "Nobody edits the sound apart.",
        },
    ),
    Item(
        id="battery", title="battery short", dial="screen", scope=HABIT, cost=_battery,
        decided_by=("habits", "frame", "interval_s"), facts=_battery_facts,
        sentence="{rival} draws {theirs_wh:wh}, this {ours_wh:wh} of {have_wh:wh}.",
    ),
    Item(
        id="heat", title="heat limit", dial="screen", scope=HABIT, cost=_heat, decided_by=("habits", "frame"),
        facts=lambda c: {"theirs_w": c.theirs.power_w},
        sentence="{rival} draws {theirs_w:watts} and meets its heat limit sooner.",
    ),
    Item(
        id="early_start", title="start missed", dial="pre_record_s", scope=HABIT, cost=_early, decided_by=("habits",),
        facts=lambda c: {"case": "missed" if not c.rival else "needless"},
        sentence={
            "missed": "The moment comes without warning; this keeps what was before it.",
            "needless": "{rival} runs the camera all the while for nothing.",
        },
    ),
    Item(
        id="screen", title="screen habit", dial="screen", scope=HABIT, cost=_screen, decided_by=("habits",),
        facts=lambda c: {"case": c.rival if c.rival in ("off", "both") else "back"},
        sentence={
            "off": "Framing needs it.",
            "both": "The front screen only draws power.",
            "back": "Nobody looks at it here.",
        },
    ),
    Item(
        id="self_view", title="frame unseen", dial="lens", scope=HABIT, cost=_self_view,
        decided_by=("habits",),
        facts=lambda c: {"case": "unseen" if c.at.brief.camera_move.self_framed else "wrong_way"},
        sentence={
            "unseen": "With {rival} you cannot see the frame while you film yourself.",
            "wrong_way": "{rival} faces away from what is filmed.",
        },
    ),
    Item(
        id="positioning", title="positioning", dial="positioning", scope=HABIT, cost=_positioning,
        decided_by=("habits",), sentence="Nothing uses it, and it draws power.",
    ),
)  # fmt: skip
