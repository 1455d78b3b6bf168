"""What a plan is for: speech, stores, views, notes that fit, and reasons that name what decided."""

from __future__ import annotations

from math import log2, sqrt

from steady_tide.core.gear.items import Microphone
from steady_tide.core.laws.law import Case, Law
from steady_tide.core.light.sources import LampLight

SEEN = 0.1  # stops
ARM_M = 0.7
UNREADABLE_STOPS = 3.0


def _speaks(case: Case) -> bool:
    return case.at.is_heard and case.brief.sound.voice and "microphone" not in case.plan.pins


def _distance_m(case: Case) -> float:
    near, far = case.brief.subject.distance_m
    return sqrt(near * far)


def _nearness(case: Case, one: Microphone | None) -> float:
    """By how many stops a voice is too far from a microphone."""
    if one is not None and one.worn:
        return 0.0
    reach = case.at.limits.built_in_reach_m if one is None else one.reach_m
    return max(0.0, log2(_distance_m(case) / reach))


def _microphone(case: Case) -> str:
    """Speech that matters gets the microphone that is nearest to the mouth, unless it roars in the wind."""
    own = case.space.sounds[case.choice["sounds"]].microphone
    there = {sound.microphone.id: sound.microphone for sound in case.space.sounds if sound.microphone is not None}
    calm = [one for one in there.values() if one.wind_held_m_s >= case.at.wind_m_s]
    best = min((_nearness(case, one) for one in calm), default=float("inf"))
    if _nearness(case, own) > best + SEEN and _nearness(case, own) > 0.5:
        return f"{own.id if own else 'the built-in one'} is {_nearness(case, own):.1f} stops too far off"
    return ""


def _microphone_told(case: Case) -> str:
    own = case.space.sounds[case.choice["sounds"]].microphone
    codes = {warning.code for warning in case.plan.warnings}
    if case.brief.sound.voice and _nearness(case, own) >= 0.5 and "voice_far" not in codes:
        return f"a voice {_nearness(case, own):.1f} stops too far off is not told"
    if own is None and case.plan.settings.wind_reduction != "off":
        return ""
    held = case.at.limits.fresh_wind_m_s if own is None else own.wind_held_m_s
    roar = log2(max(case.at.wind_m_s, 1e-3) / held)
    if roar >= 0.5 and not codes & {"wind_roars"}:
        return f"wind {roar:.1f} stops past what {own.id if own else 'the built-in microphone'} stands is not told"
    return ""


def _stores(case: Case) -> str:
    """What one take, one card and one cell hold is compared, and told."""
    lasts, take, supplies = case.plan.endurance, case.brief.take, case.space.supplies
    codes = {warning.code for warning in case.plan.warnings}
    take_gb = lasts.recorded_gb * take.length_s / case.brief.running_s
    if supplies.has_card and take_gb > supplies.largest_gb and "take_over_card" not in codes:
        return f"a take of {take_gb:.0f} GB on a card of {supplies.largest_gb:.0f} is not told"
    if supplies.has_card and lasts.recorded_gb > supplies.capacity_gb and not codes & {"card_small", "take_over_card"}:
        return f"{lasts.recorded_gb:.0f} GB on {supplies.capacity_gb:.0f} is not told"
    power = {"battery_short", "charge_ends_take", "outside_power"}
    if lasts.needed_wh > lasts.available_wh * 1.001 and not codes & power:
        return f"{lasts.needed_wh:.0f} Wh of {lasts.available_wh:.0f} is not told"
    longer = take.length_s / 3600.0 > lasts.hours_per_charge * 1.001
    if longer and supplies.bank_wh == 0.0 and not codes & power:
        return f"a take of {take.length_s / 3600:.1f} h on a charge of {lasts.hours_per_charge:.1f} h is not told"
    minutes = lasts.minutes_to_heat
    if minutes is not None and take.length_s / 60.0 > minutes * 1.001 and "heat" not in codes:
        return f"heat after {minutes:.0f} min of a take of {take.length_s / 60:.0f} is not told"
    return ""


def _smears(case: Case) -> bool:
    return case.ours.stops["smear"] >= UNREADABLE_STOPS and "shutter_s" not in case.plan.pins


def _half_turn_yields(case: Case) -> str:
    """Where nothing can be seen for smear, a shorter exposure that there is light for is taken."""
    for value, other in case.rivals("shutter_s").items():
        if value == "auto" or other.shutter_dim_s >= case.ours.shutter_dim_s:
            continue
        darker = max(other.stops[item] - case.ours.stops[item] for item in ("under", "noise", "flicker"))
        saved = case.ours.stops["smear"] - other.stops["smear"]
        if saved > 1.0 and darker <= SEEN:
            return f"{case.ours.stops['smear']:.1f} stops of smear, and {value} s leaves {other.stops['smear']:.1f}"
    return ""


def _view(case: Case) -> str:
    """No view that is nearer to the field that is wanted shows straighter lines and costs nothing else."""
    wanted = case.at.field_wanted_deg
    for dial in ("view", "lens"):
        for value, other in case.rivals(dial).items():
            nearer = case.ours.stops["view"] - other.stops["view"]
            items = ("under", "noise", "detail", "bits", "shake", "softness", "lens", "bend", "horizon", "crop", "over")
            worse = max(other.stops[item] - case.ours.stops[item] for item in items)
            saved = other.stops["software"] - case.ours.stops["software"]
            if nearer > 0.4 and max(worse, saved) <= 0.02 and other.stops["focus"] <= case.ours.stops["focus"] + 0.02:
                return f"{case.ours.field_deg:.0f}° of {wanted:.0f}° wanted, where {dial} {value} shows {other.field_deg:.0f}°"
    return ""


def _has_view(case: Case) -> bool:
    return not {"view", "lens"} & set(case.plan.pins) and case.brief.school.view != "any"


def _cautions(case: Case) -> str:
    topics = {caution.topic for caution in case.plan.cautions}
    light = case.brief.light
    if "dark" in topics and case.at.light.indoors:
        return "dark ground where there is a floor"
    if "dark" in topics and case.at.mount.inside:
        return "dark ground inside a vehicle"
    if "waiting" in topics and (case.brief.traits.on_table or isinstance(light, LampLight)):
        return "tide and wind at a lit table"
    if "flying" in topics and not case.at.mount.flying:
        return "flying without a drone"
    if "speed" in topics and case.at.mount.stands:
        return "moving on a stand"
    if "diving" in topics and case.at.light.deepest_m is None:
        return "diving in the dry"
    return ""


def _says_something(case: Case) -> bool:
    return bool(case.plan.warnings or case.plan.cautions)


CONTRARY = (
    ({"flicker"}, {"flicker_clean"}),
    ({"light_missing"}, {"highlights_lost"}),
    ({"housing_needed"}, {"housing_missing"}),
)


def _contrary(case: Case) -> str:
    codes = {warning.code for warning in case.plan.warnings}
    for one, other in CONTRARY:
        if one <= codes and other <= codes:
            both = case.ours.stops["over"] > 0.5 and case.ours.stops["under"] > 0.5
            if one != {"light_missing"} or not both:
                return f"{one} beside {other}"
    return ""


def _reasons(case: Case) -> str:
    """The numbers that a reason cites differ by more than is rounded away."""
    for dial, reason in case.plan.reasons.items():
        if reason.cited is None or reason.kind != "decided":
            continue
        if reason.cited.theirs - reason.cited.ours < 0.05 - 1e-9:
            return f"{dial}: {reason.cited.item} does not rise"
        facts = reason.cited.facts
        for name in facts:
            if name.startswith("theirs_") and f"ours_{name[7:]}" in facts:
                theirs, ours = facts[name], facts[f"ours_{name[7:]}"]
                if f"{theirs:.2g}" == f"{ours:.3g}" and theirs > 0.0:
                    return f"{dial}: {name[7:]} {theirs:.3g} against {ours:.3g}"
    return ""


LAWS = (
    Law("microphone", "Speech that matters gets the microphone that is nearest to the mouth.", _speaks, _microphone),
    Law("microphone_told", "A microphone past its distance or its wind is told.",
        lambda case: case.at.is_heard, _microphone_told),
    Law("stores", "Charge, card and heat are compared with what one take, one card and one cell hold, and told.",
        lambda case: not case.at.lapse, _stores),
    Law("half_turn_yields", "Where smear leaves nothing to be seen, a shorter exposure is taken if there is light.", _smears,
        _half_turn_yields),
    Law("view", "A view is as wide as the shot asks for and no wider.", _has_view, _view),
    Law("cautions", "A caution is tied to the fact that makes it true.", _says_something, _cautions),
    Law("contrary", "No warning stands beside its contrary.", _says_something, _contrary),
    Law("reasons", "A reason cites a number in which the two plans differ by more than is rounded away.",
        lambda case: True, _reasons),
)  # fmt: skip
