"""One light, one picture: shadow is not change, steady light is locked, balance follows the light on the subject."""

from __future__ import annotations

from math import log2

from steady_tide.core.laws.law import Case, Law
from steady_tide.core.light.balance import mired
from steady_tide.core.light.flicker import ripple_left, ripple_stops
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.roles import on_subject
from steady_tide.core.light.sources import LampLight
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.quantities.stops import lux_from_ev100

SEEN = 0.1  # stops
RIPPLE_SEEN = 0.03  # stops
BALANCE_MIREDS = 25.0
STEADY_BAND = 0.25  # stops
A_STEP = 1.0  # stops, of a ladder of ISO


def _gain_range(plan_floor: int, plan_ceiling: int) -> float:
    return log2(plan_ceiling / plan_floor)


def _has_contrast(case: Case) -> bool:
    return case.at.contrast_stops <= 12.0 and not case.at.sudden and "iso_ceiling" not in case.plan.pins


def _shadow(case: Case) -> str:
    """More contrast within one frame opens no range of gain, but for the step that holds the headroom it takes."""
    deeper = case.changed_on_camera(contrast_stops=case.at.contrast_stops + 3.0)
    if deeper is None:
        return ""
    ours = _gain_range(case.plan.settings.iso_floor, case.plan.settings.iso_ceiling)
    theirs = _gain_range(deeper.settings.iso_floor, deeper.settings.iso_ceiling)
    return (
        f"three stops of contrast open the ISO range from {ours:.1f} to {theirs:.1f} stops"
        if theirs > ours + A_STEP + SEEN
        else ""
    )


def _lit_only(case: Case) -> bool:
    light = case.brief.light
    alone = isinstance(light, LampLight) and light.ambient is None and case.brief.light_changes in (None, "steady")
    return alone and not case.at.lapse and case.brief.camera_move.travel_m_s == 0.0


def _sides(case: Case) -> str:
    """The unlit side of a thing and a weaker fill are no change of the light."""
    settings = case.plan.settings
    held = settings.shutter_mode == "fixed" or case.brief.school.shutter == "free"
    if _gain_range(settings.iso_floor, settings.iso_ceiling) > SEEN and held and _by_hand(case) and _can_lock(case):
        return f"lamps alone, and ISO {settings.iso_floor} to {settings.iso_ceiling}"
    return ""


def _can_lock(case: Case) -> bool:
    """Whether the camera offers the highest ISO of the plan as its lowest, too."""
    return case.plan.settings.iso_ceiling in case.problem.dials["iso_floor"].values


def _by_hand(case: Case) -> bool:
    return bool(case.space.offer.by_hand[case.choice["pictures"]])


def _steady(case: Case) -> bool:
    low, high = case.at.light.ev100
    return (
        high - low <= STEADY_BAND
        and case.brief.light_changes in (None, "steady")
        and not case.at.light.sudden
        and not case.plan.pins
        and case.at.light.deepest_m is None
        and not case.at.lapse
        and case.brief.camera_move.travel_m_s == 0.0
        and _by_hand(case)
    )


def _locked(case: Case) -> str:
    settings, school = case.plan.settings, case.at.brief.school
    if settings.iso_floor != settings.iso_ceiling and _can_lock(case):
        return f"ISO {settings.iso_floor} to {settings.iso_ceiling} in a light of {case.at.band_stops:.1f} stops"
    if settings.shutter_mode != "fixed" and school.shutter != "free" and case.sheet.shutter.fixed_s:
        return "the shutter is left free in steady light"
    if settings.white_balance == "automatic" and school.white_balance == "locked" and case.sheet.balance_k:
        return "the balance is automatic in steady light"
    return ""


def _wants_kelvins(case: Case) -> bool:
    locks = case.at.brief.school.white_balance == "locked" and bool(case.sheet.balance_k)
    return locks and "white_balance_k" not in case.plan.pins and _by_hand(case)


def _balance(case: Case) -> str:
    """What is set lies within 25 mired of the light, or is the nearest that the camera has."""
    settings = case.plan.settings
    warm, cool = sorted(balance_behind_k(case.at, case.space.glasses[case.choice["glasses"]]))
    if settings.white_balance == "automatic":
        drifts = (1.0 - case.at.light.lamp_share) * case.at.light.drift_stops > 0.5
        return "" if drifts else f"automatic for a light of {warm} to {cool} K"
    if settings.white_balance_k is None:
        return ""

    def off(kelvin: int) -> float:
        return max(0.0, mired(kelvin) - mired(warm), mired(cool) - mired(kelvin))

    own, best = off(settings.white_balance_k), min(map(off, case.sheet.balance_k))
    if own > BALANCE_MIREDS and own > best + 1e-6:
        return f"{settings.white_balance_k} K is {own:.0f} mired off a light of {warm} to {cool} K"
    return ""


def _two_lights(case: Case) -> bool:
    light = case.brief.light
    return isinstance(light, LampLight) and light.ambient is not None


def _mixed(case: Case) -> str:
    """The balance of the light is the mean of its parts in mireds, by how much each gives: worked out here anew."""
    light = case.brief.light
    assert isinstance(light, LampLight)
    assert light.ambient is not None
    other = resolve(light.ambient, case.knowledge.world)
    parts = [(lamp.lux, 1e6 / lamp.kelvin) for lamp in on_subject(light.lamps)]
    parts.append((float(lux_from_ev100(other.ev100[1])), sum(1e6 / end for end in other.balance_k) / 2.0))
    mix = sum(lux * colour for lux, colour in parts) / sum(lux for lux, _ in parts)
    warm, cool = case.at.light.balance_k
    if abs(mired(warm) + mired(cool) - 2.0 * mix) / 2.0 > BALANCE_MIREDS:
        return f"{warm} to {cool} K for a mix of {1e6 / mix:.0f} K"
    return ""


def _lapse_balance(case: Case) -> str:
    automatic = case.plan.settings.white_balance == "automatic"
    return "automatic balance over an interval film" if automatic and case.sheet.balance_k and _by_hand(case) else ""


def _pulses(case: Case) -> bool:
    return case.at.light.ripple > 0.0


def _flicker(case: Case) -> str:
    """Ripple that shows is priced, and told."""
    left = max(
        float(ripple_stops(ripple_left(case.at.light.ripple, seconds, case.brief.mains_hz)))
        for seconds in (case.ours.shutter_dim_s, case.ours.shutter_bright_s)
    )
    if left <= RIPPLE_SEEN:
        return ""
    if case.ours.stops["flicker"] <= 0.0:
        return f"a ripple of {left:.2f} stops is not priced"
    told = {warning.code for warning in case.plan.warnings} & {"flicker", "flicker_clean"}
    return "" if told else f"a ripple of {left:.2f} stops is not told"


def _over(case: Case) -> bool:
    return case.ours.stops["over"] >= case.at.limits.noticed_stops


def _less_light(case: Case) -> str:
    """Too much light is met with what can be had: one's own lamps turned down, else a filter that is at hand."""
    told = next((warning for warning in case.plan.warnings if warning.code == "highlights_lost"), None)
    if told is None:
        return ""
    mend = told.facts.get("mend")
    ours = [lamp for lamp in case.at.light.lamps if lamp.ours or (lamp.ours is None and case.at.owns_light)]
    if case.at.light.deepest_m is not None:
        ours = [lamp for lamp in case.at.light.lamps if lamp.ours is not False]
    share = sum(lamp.lux for lamp in ours) / float(lux_from_ev100(case.at.light.ev100[1]))
    if share > 0.5 and mend not in ("lamps", "lamps_off"):
        return f"{case.ours.stops['over']:.1f} stops over from one's own lamps, and the mend is {mend}"
    worn = case.space.glasses[case.choice["glasses"]]
    denser = any(
        glass.density_stops > worn.density_stops and glass.colour == worn.colour for glass in case.space.glasses
    )
    if mend == "glass" and not denser and not case.space.sheet.filter_mount.fits:
        return "a filter is advised for a camera that takes none"
    return ""


def _needs_light(case: Case) -> bool:
    return any(warning.code in ("light_missing", "light_at_base") for warning in case.plan.warnings)


def _more_light(case: Case) -> str:
    """Advice on lamps only where something is short of its limit, with what the nearer key burns."""
    ours, limits = case.ours, case.at.limits
    short = any(ours.stops[item] >= limits.told_stops for item in ("under", "noise", "motion_look", "smear"))
    if not short and case.brief.subject.motion_look != "frozen":
        return "lamps are advised where nothing is short"
    told = next(w for w in case.plan.warnings if w.code in ("light_missing", "light_at_base"))
    missing = told.facts.get("missing_stops", 0.0)
    floor = log2(case.plan.settings.iso_floor / min(case.sheet.iso.floors))
    burns = missing + case.at.light.ev100[1] - case.plan.exposure.reach_ev100[1] - floor - case.at.over_held_stops
    if burns > 1.0 and not told.facts.get("burns_stops"):
        return f"{missing:.1f} stops more light burn the bright side by {burns:.1f}, which is not said"
    return ""


def _lapse_filter(case: Case) -> str:
    """A filter in an interval film draws motion out, or holds what would be over; never at the price of darkness."""
    glass = case.space.glasses[case.choice["glasses"]]
    bare = case.rivals("nd").get("none")
    if bare is None or glass.density_stops == 0.0 or bare.stops["over"] > SEEN:
        return ""
    if case.ours.stops["under"] > bare.stops["under"] + SEEN:
        return f"{'+'.join(glass.ids)} leaves {case.ours.stops['under']:.1f} stops of darkness"
    moves = case.brief.subject.speed_m_s > 0 or case.brief.subject.motion_look == "streaked"
    return "" if moves else f"{'+'.join(glass.ids)} where nothing moves"


LAWS = (
    Law("shadow", "Shadow is not change: more contrast in one frame never opens the ISO range by more than the headroom that it takes.", _has_contrast, _shadow),
    Law("sides", "The unlit side of a thing and a weaker fill never open the ISO range.", _lit_only, _sides),
    Law("locked", "Steady light is locked: shutter, ISO and balance have one value.", _steady, _locked),
    Law("balance", "A locked balance sits within 25 mired of the light, or at the camera's nearest; automatic is only for "
        "colour that drifts.", _wants_kelvins, _balance),
    Law("mixed", "Two lights on a subject are mixed in mireds by their levels.", _two_lights, _mixed),
    Law("lapse_balance", "An interval film is never balanced automatically.",
        lambda case: case.at.lapse and not case.plan.pins and case.at.brief.school.white_balance == "locked",
        _lapse_balance),
    Law("flicker", "Ripple that shows more than 0.03 stop is priced and told.", _pulses, _flicker),
    Law("less_light", "Too much light is met with what can be had, one's own lamps first.", _over, _less_light),
    Law("more_light", "Lamps are advised only where something is short, with what they burn.", _needs_light, _more_light),
    Law("lapse_filter", "An ND filter in an interval film is there for motion, or for what would be over.",
        lambda case: case.at.lapse and bool(case.plan.settings.nd) and "nd" not in case.plan.pins, _lapse_filter),
)  # fmt: skip
