"""Physical dominance: no dial is turned to dodge a price, and each thing is there for what it is made for."""

from __future__ import annotations

from collections.abc import Callable
from math import log2

import numpy as np

from steady_tide.core.laws.law import Case, Law
from steady_tide.core.physics.optics import blur_spot_deg
from steady_tide.core.planning.geometry import hyperfocal_of_plan_m
from steady_tide.core.planning.priced_choice import Priced

SEEN = 0.1  # stops; less of anything is not worth turning a dial for
SAME = 1e-6
# What a picture does not show: how much was turned for it.
UNSEEN_ITEMS = frozenset(
    ("gain_used", "gain_behind_glass", "gain_allowed", "needless_density", "spare_gain", "raised_floor")
)
# What is spent: charge, room, work, things to carry. A plan may save these at the price of the picture.
SPENT_ITEMS = frozenset(
    ("glass", "storage", "editing", "battery", "heat", "card", "drive", "by_hand", "attached", "stills", "handling",
     "spare_frames", "most", "positioning", "screen", "microphone", "sound_track", "early_start")
)  # fmt: skip
RIPPLE_SEEN = 0.02
PASSES = 1.25  # as sharp as passes, or as the sharpest, to a third of a stop
DODGED = ("f_number", "exposure_compensation", "frame_rate", "colour_filter", "codec", "iso_floor", "iso_ceiling")


def _worse_by(theirs: Priced, ours: Priced, items: frozenset[str], but: bool = False) -> float:
    """By how much one plan gives up more than another, at most, in some items or in all but them. Returns stops."""
    return max(theirs.stops[item] - ours.stops[item] for item in ours.stops if (item in items) is not but)


def _better_picture(case: Case, theirs: Priced, beyond: float = SEEN) -> str:
    """The item by which another plan's picture is better, empty where it is worse in any, or in none better."""
    ours = case.ours
    # Where the light changes it is no loss that the exposure follows.
    follows = {"unlocked"} if case.at.steadiness == 0.0 else set()
    shown = UNSEEN_ITEMS | SPENT_ITEMS | follows
    if _worse_by(theirs, ours, shown, but=True) > SAME or theirs.snr_dim < ours.snr_dim * (1.0 - 1e-9):
        return ""
    if _worse_by(theirs, ours, SPENT_ITEMS) > SAME:
        return ""
    gains = {item: ours.stops[item] - theirs.stops[item] for item in ours.stops if item not in shown}
    gains["signal to noise"] = log2(theirs.snr_dim / ours.snr_dim)
    best = max(gains, key=lambda item: gains[item])
    return f"{best} {gains[best]:.2f}" if gains[best] > beyond else ""


def _dodge(case: Case) -> str:
    total = case.ours.given_up(case.at.weights)
    for dial in DODGED:
        for value, other in case.rivals(dial).items():
            by = _better_picture(case, other)
            if by and other.given_up(case.at.weights) > total + SAME:
                return f"{dial} {value} is better in {by} and no worse in anything, {other.given_up(case.at.weights) - total:.2f} dearer"
    return ""


def _nearest_rival(case: Case) -> str:
    total, tie = case.ours.given_up(case.at.weights), SEEN
    for dial in case.problem.dials:
        for value, other in case.rivals(dial).items():
            by = _better_picture(case, other, 0.3)
            if by and other.given_up(case.at.weights) <= total + tie:
                return f"{dial} {value} is better in {by} at the same price"
    return ""


def _has_filter(kind: str) -> Callable[[Case], bool]:
    def found(case: Case) -> bool:
        settings = case.plan.settings
        return kind not in case.plan.pins and bool(settings.colour_filter if kind == "colour_filter" else settings.nd)

    return found


def _colour_filter(case: Case) -> str:
    bare = case.rivals("colour_filter").get("none")
    if bare is None or bare.stops["cast"] >= case.ours.stops["cast"] + SEEN:
        return ""
    return f"the cast is {case.ours.stops['cast']:.2f} with it and {bare.stops['cast']:.2f} without"


def _density(case: Case) -> str:
    """Without any, something has to be over, too short, or too loose."""
    glass = case.space.glasses[case.choice["glasses"]]
    bare = case.rivals("nd").get("none")
    if bare is None or glass.density_stops == 0.0 or glass.polarises:
        return ""
    wanted = ("over", "motion_look", "loose_shutter", "softness", "aperture", "unlocked", "star_drift")
    if bare.stops["flicker"] > case.ours.stops["flicker"] + RIPPLE_SEEN or any(
        bare.stops[item] >= case.ours.stops[item] + SEEN for item in wanted
    ):
        return ""
    return f"{'+'.join(glass.ids)} takes {glass.density_stops:g} stops that nothing was over by"


def _polariser(case: Case) -> str:
    glass = case.space.glasses[case.choice["glasses"]]
    return f"{'+'.join(glass.ids)} without glare" if glass.polarises and not case.brief.glare else ""


def _housing(case: Case) -> str:
    settings = case.plan.settings
    needed = case.at.wet is not None or settings.colour_filter is not None
    return "" if needed else f"{settings.housing} in the dry"


def _closes(case: Case) -> bool:
    lens = case.sheet.lenses[case.space.gates[case.choice["gates"]][0]]
    return case.at.darkness == 1.0 and len(lens.f_numbers) > 1 and "f_number" not in case.plan.pins


def _open_in_the_dark(case: Case) -> str:
    lens = case.sheet.lenses[case.space.gates[case.choice["gates"]][0]]
    if case.plan.settings.f_number <= min(lens.f_numbers):
        return ""
    wide = case.rivals("f_number").get(str(min(lens.f_numbers)))
    if wide is None:
        return ""
    asked = ("softness", "over", "flicker", "motion_look", "loose_shutter", "focus", "star_drift", "smear")
    if any(wide.stops[item] > case.ours.stops[item] + SEEN / 2 for item in asked):
        return ""
    return f"f/{case.plan.settings.f_number:g} where f/{min(lens.f_numbers):g} costs no sharpness and no light"


def _focusable(case: Case) -> bool:
    lens = case.sheet.lenses[case.space.gates[case.choice["gates"]][0]]
    return lens.focus != "fixed" and len(case.space.focuses) > 1 and "focus" not in case.plan.pins


def _focus(case: Case) -> str:
    """A distance that is set beforehand is the one at which the subject is sharpest, or as sharp as can be seen."""
    at, space = case.at, case.space
    lens_number, f_number, _ = space.gates[case.choice["gates"]]
    lens = case.sheet.lenses[lens_number]
    near, far = at.brief.subject.distance_m
    if at.lapse and at.light.night_sky:
        near = far
    opening_mm = float(space.offer.openings_mm[case.choice["gates"]])
    far_m = hyperfocal_of_plan_m(
        space, at.brief.delivery, case.choice["pictures"], case.choice["gates"], at.limits.focus_px
    )
    distances = {"hyperfocal": far_m, "infinity": 1e9, "locked": at.focus_distance_m(lens)}
    allowed = {name: metres for name, metres in distances.items() if name in space.focuses}

    def blur_px(metres: float) -> float:
        spots = [float(blur_spot_deg(np.array(opening_mm), metres, end)) for end in (near, far)]
        return max(spots) * case.ours.px_per_deg

    chosen = case.plan.settings.focus
    if chosen not in allowed:
        return ""
    passes = at.limits.focus_px
    own, best = blur_px(allowed[chosen]), min((blur_px(metres), name) for name, metres in allowed.items())
    if own <= passes * PASSES or own <= PASSES * best[0]:
        return ""
    return f"{chosen} spreads the subject over {own:.1f} px at f/{f_number:g}, {best[1]} over {best[0]:.1f}"


def _far(case: Case) -> bool:
    return _focusable(case) and case.brief.subject.distance_m[0] >= case.at.limits.focus_far_m


def _far_is_far(case: Case) -> str:
    there = {"infinity", "hyperfocal"} & set(case.space.focuses)
    chosen = case.plan.settings.focus
    if not there or chosen in there:
        return ""
    if chosen == "locked" and (case.plan.settings.focus_m or 0.0) >= case.at.limits.focus_far_m:
        return ""
    return f"{chosen} for what is {case.brief.subject.distance_m[0]:g} m away"


def _nothing_moves(case: Case) -> bool:
    brief = case.brief
    still = (
        brief.subject.speed_m_s == 0.0 and brief.camera_move.travel_m_s == 0.0 and brief.camera_move.turn_deg_s == 0.0
    )
    held = case.at.mount.stands and brief.subject.motion_look != "frozen" and case.brief.traits.under_water is False
    dark = case.plan.exposure.under_stops > SEEN or case.ours.stops["noise"] > SEEN
    return (
        still
        and held
        and case.at.moving == 0.0
        and dark
        and not case.at.sudden
        and "shutter_s" not in case.plan.pins
        and brief.subject.event_s is None
    )


def _longest_where_nothing_moves(case: Case) -> str:
    settings = case.plan.settings
    for value, other in case.rivals("shutter_s").items():
        if value == "auto" or other.shutter_dim_s <= case.ours.shutter_dim_s * 1.01:
            continue
        if other.stops["flicker"] > case.ours.stops["flicker"] + 0.03:
            continue
        lighter = case.ours.stops["under"] + case.ours.stops["noise"] - other.stops["under"] - other.stops["noise"]
        spoilt = max(
            other.stops[item] - case.ours.stops[item] for item in ("over", "star_drift", "loose_shutter", "smear")
        )
        if lighter > 2 * SEEN and spoilt <= SEEN:
            return f"1/{1 / case.ours.shutter_dim_s:.0f} s at {settings.frame_rate:g} fps, and {value} s is {lighter:.1f} stops lighter"
    return ""


def _legs(case: Case) -> bool:
    return case.at.mount.stands and not case.at.lapse and case.at.darkness > 0 and not case.at.mount.like


def _legs_as_hands(case: Case) -> str:
    hands, school = case.brief.camera_move.model_copy(update={"mount": "two_hands"}), case.brief.school
    # Who keeps stabilisation in the dark accepts noise for a shorter exposure in hands alone.
    school = school.model_copy(update={"dark_stabilisation": "drop"})
    held = case.changed_on_camera(camera_move=hands, school=school)
    if held is None or held.settings.frame_rate != case.plan.settings.frame_rate:
        return ""
    if case.plan.exposure.snr_limit > held.exposure.snr_limit * 1.001:
        return f"noise limit {case.plan.exposure.snr_limit:.1f} on legs, {held.exposure.snr_limit:.1f} in hands"
    more = case.plan.exposure.under_stops - held.exposure.under_stops
    if more > SEEN:
        return f"{more:.2f} stops darker on legs than in two hands"
    return ""


def _within_camera(case: Case) -> str:
    sheet, ours, settings = case.sheet, case.ours, case.plan.settings
    shortest = sheet.shutter.auto_fastest_s if settings.shutter_mode == "auto" else min(sheet.shutter.fixed_s or (0.0,))
    pace = case.space.paces[int(case.space.pictures.pace[case.choice["pictures"]])]
    longest = pace.automatic_s if settings.shutter_mode == "auto" else pace.longest_s
    for seconds in (ours.shutter_dim_s, ours.shutter_bright_s):
        if not shortest * (1 - 1e-3) <= seconds <= longest * (1 + 1e-3):
            return f"{seconds:.5f} s is not within {shortest:.5f} to {longest:.5f} s"
    return ""


def _always(_: Case) -> bool:
    return True


LAWS = (
    Law("dodge", "No dial is turned to dodge a price: no plan that differs in one dial is better in the picture and no "
        "worse in anything that is shown or spent.", _always, _dodge),
    Law("colour_filter", "A colour filter is on only where it brings the colours nearer.", _has_filter("colour_filter"),
        _colour_filter),
    Law("density", "An ND filter is on only where something would otherwise be over, too short or too loose.",
        _has_filter("nd"), _density),
    Law("polariser", "A polariser is on only where there is glare.", _has_filter("nd"), _polariser),
    Law("housing", "A housing is on only where depth or spray asks for it, or a filter that only fits it.",
        lambda case: case.plan.settings.housing is not None and "housing" not in case.plan.pins, _housing),
    Law("open_in_the_dark", "The lens stands open in the dark until depth, sharpness or light asks otherwise.", _closes,
        _open_in_the_dark),
    Law("focus", "A focus that is set beforehand lies where the subject is sharpest for the f-number in use.", _focusable,
        _focus),
    Law("far_focus", "What is far is focused far.", _far, _far_is_far),
    Law("nearest_rival", "What lies within a tenth of a stop in price is not better in the picture.", _always,
        _nearest_rival),
    Law("nothing_moves", "Where nothing moves and it is dark or noisy the exposure goes up to the frame.", _nothing_moves,
        _longest_where_nothing_moves),
    Law("legs", "A tripod films no darker than two still hands.", _legs, _legs_as_hands),
    Law("times", "Exposure times stay within the camera, automatic ones too.", _always, _within_camera),
)  # fmt: skip
