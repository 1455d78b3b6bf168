"""What must only go one way: light, wind, kit, pins; and what must change nothing."""

from __future__ import annotations

from math import log2
from zlib import crc32

from steady_tide.core.brief.brief import KitList
from steady_tide.core.laws.law import Case, Law
from steady_tide.core.light.sources import MeterLight
from steady_tide.core.planning.plan import Plan

SMALL = 1e-6
STEP = 0.35  # stops; steps of a ladder lie so far apart


def _metered(case: Case) -> bool:
    light = case.brief.light
    return isinstance(light, MeterLight) and light.ev100 is not None and light.ev100[1] <= 18.0 and not case.plan.pins


def _in_other_light(case: Case, low_stops: float, high_stops: float) -> Plan | None:
    """The plan on the same camera with both ends of the metered band moved. Returns None where it has none."""
    light = case.brief.light
    assert isinstance(light, MeterLight)
    assert light.ev100 is not None
    low, high = light.ev100
    moved = light.model_copy(update={"ev100": (low + low_stops, high + high_stops)})
    return case.changed_on_camera(light=moved)


def _more_light(case: Case) -> str:
    """A stop more light on the same camera asks for no more gain at the dim end."""
    brighter = _in_other_light(case, 1.0, 1.0)
    if brighter is None:
        return ""
    ours, theirs = case.plan, brighter
    same = ("frame_rate", "lens", "view", "stabilisation", "nd", "interval_s", "f_number", "shutter_s", "recorder")
    if any(getattr(ours.settings, name) != getattr(theirs.settings, name) for name in same):
        return ""
    more = log2(theirs.exposure.iso_used[1] / ours.exposure.iso_used[1])
    if more > STEP:
        return f"a stop more light uses ISO {theirs.exposure.iso_used[1]} instead of {ours.exposure.iso_used[1]}"
    return ""


def _with_light(case: Case) -> str:
    """A stop more light gives up no more where it was too dark."""
    brighter = _in_other_light(case, 1.0, 1.0)
    if (
        brighter is None
        or case.plan.exposure.under_stops < 0.5
        or brighter.exposure.over_stops > case.plan.exposure.over_stops
    ):
        return ""
    deeper = brighter.exposure.under_stops - case.plan.exposure.under_stops
    return f"a stop more light comes out {deeper:.2f} stops darker" if deeper > STEP else ""


def _windy(case: Case) -> bool:
    return case.at.is_heard and case.brief.sound.wind_m_s >= 1.0 and "wind_reduction" not in case.plan.pins


WIND = ("off", "automatic", "on")


def _less_wind(case: Case) -> str:
    sound = case.brief.sound.model_copy(update={"wind_m_s": case.brief.sound.wind_m_s / 2.0})
    calmer = case.changed_on_camera(sound=sound)
    if calmer is None or calmer.settings.microphone != case.plan.settings.microphone:
        return ""
    ours, theirs = case.plan.settings.wind_reduction, calmer.settings.wind_reduction
    return f"half the wind turns reduction from {ours} to {theirs}" if WIND.index(theirs) > WIND.index(ours) else ""


def _left_at_home(case: Case) -> bool:
    return case.brief.kit != KitList() and not case.brief.pins


def _more_kit(case: Case) -> str:
    whole = case.changed(kit=KitList())
    if whole is None:
        return "with the whole kit there is no plan"
    # A camera that would drown, or see nothing sharp, stands behind the others whatever it gives up.
    able = [one.given_up_stops for one in whole.cameras if one.given_up_stops is not None]
    more = min(able) - case.plan.given_up_stops
    return f"with the whole kit it gives up {more:.3f} stops more" if more > SMALL else ""


PINNED = ("shutter_s", "nd", "view", "iso_ceiling", "profile", "white_balance_k", "frame_rate", "stabilisation")


def _pin(case: Case) -> str:
    """The runner-up of a dial, pinned, gives up as much as its profile says, and never less than the plan."""
    dial = PINNED[crc32(case.brief.model_dump_json().encode()) % len(PINNED)]
    rows = [row for row in case.plan.profiles.get(dial, ()) if row.legal and row.value != case.plan.chosen.get(dial)]
    if not rows:
        return ""
    row = rows[len(rows) // 2]
    made = case.changed_on_camera(pins={**case.brief.pins, dial: row.value})
    if made is None:
        return f"{dial} {row.value} is offered, and cannot be pinned"
    if made.given_up_stops < case.plan.given_up_stops - SMALL:
        return f"{dial} {row.value} pinned gives up {case.plan.given_up_stops - made.given_up_stops:.3f} stops less"
    if row.given_up_stops is not None and abs(made.given_up_stops - row.given_up_stops) > SMALL:
        return f"{dial} {row.value} pinned gives up {made.given_up_stops:.3f}, told {row.given_up_stops:.3f}"
    return ""


def _banded(case: Case) -> bool:
    light = case.brief.light
    wide = isinstance(light, MeterLight) and light.ev100 is not None and light.ev100[1] <= 18.0
    return (
        wide
        and not case.plan.pins
        and not case.at.sudden
        and not case.at.lapse
        and case.at.brief.school.glass_gain is None
    )


def _wider_band(case: Case) -> str:
    wider = _in_other_light(case, -0.5, 0.5)
    if wider is None:
        return ""
    ours = case.plan.exposure.reach_ev100
    theirs = wider.exposure.reach_ev100
    narrower = (ours[1] - ours[0]) - (theirs[1] - theirs[0])
    return f"a band a stop wider is met with {narrower:.2f} stops less of reach" if narrower > STEP else ""


def _longer(case: Case) -> str:
    take = case.brief.take.model_copy(
        update={"length_s": case.brief.take.length_s * 1.5, "count": case.brief.take.count or 3}
    )
    first = case.changed_on_camera(take=case.brief.take.model_copy(update={"count": case.brief.take.count or 3}))
    longer = case.changed_on_camera(take=take)
    if longer is None or first is None:
        return ""
    same = all(
        getattr(first.settings, name) == getattr(longer.settings, name)
        for name in ("bit_rate_mb_s", "interval_s", "codec")
    )
    if same and longer.endurance.recorded_gb < first.endurance.recorded_gb - SMALL:
        return "a longer take records less"
    if longer.given_up_stops < first.given_up_stops - STEP and not case.at.lapse:
        return f"a longer take gives up {first.given_up_stops - longer.given_up_stops:.2f} stops less"
    return ""


def _words(case: Case) -> str:
    """Another title changes no value."""
    other = case.changed(title="another title")
    if other is None or other.chosen != case.plan.chosen:
        return "another title changes the plan"
    return ""


def _always(_: Case) -> bool:
    return True


LAWS = (
    Law("more_light_gain", "More light never asks for more gain.", _metered, _more_light),
    Law("more_light_dark", "More light never comes out darker.", _metered, _with_light),
    Law("less_wind", "Less wind never asks for more wind reduction.", _windy, _less_wind),
    Law("more_kit", "More of the kit never makes a plan worse.", _left_at_home, _more_kit),
    Law("pin", "A pin never makes a plan better, and costs what its profile says.", _always, _pin),
    Law("wider_band", "A wider band never narrows the reach.", _banded, _wider_band),
    Law("longer", "A longer take never asks for less.", _always, _longer),
    Law("words", "A word that changes nothing changes nothing.", _always, _words),
)  # fmt: skip
