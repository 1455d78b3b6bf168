"""Plans as an experienced person would check them, and the words that go with them."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.items import views
from steady_tide.core.planning.ledger import price
from steady_tide.core.planning.pinning import all_free
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.search import search
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.space import JOINT_BLOCKS
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.words.plans import PlanText
from steady_tide.words.refusals import refusal_words
from tests.briefs import ALL_KINDS, LANTERNS, PUNTS, QUAY, brief, planned
from tests.small_sheet import laid_out, small_sheet

VIEWS = {
    views.PICTURE, views.GATE, views.FRAME, views.SPOT, views.NOISE, views.EXPOSURE, views.METER, views.FRONT,
    views.LOOK, views.FOCUS, views.HABIT, views.BALANCE, views.SOUND,
}  # fmt: skip


def codes(plan: PlanText) -> set[str]:
    return {warning.code for warning in plan.warnings}


def items(plan: PlanText) -> dict[str, float]:
    return {item.item: item.stops for item in plan.ledger}


def test_walk_and_talk_in_full_sun() -> None:
    s = planned(**QUAY).settings
    assert (s.frame_rate, s.shutter_s) == (25, 0.02)
    assert s.width >= 3840
    assert s.view in ("rectilinear", "rectilinear_level")
    assert s.stabilisation in ("standard", "strong")
    assert s.nd in (("nd64",), ("nd32",))
    assert (s.iso_floor, s.iso_ceiling) == (100, 100)
    assert -0.7 <= s.exposure_compensation <= -0.3
    assert s.white_balance_k is not None
    assert 5300 <= s.white_balance_k <= 5800
    assert (s.profile, s.bit_depth, s.sharpness, s.bit_rate_mb_s) == ("flat", 10, "low", 130)


def test_the_same_without_glass_and_with_a_free_shutter() -> None:
    plan = planned(camera_move={"mount": "walking"}, kit={"filters": []}, school={"shutter": "free"})
    s = plan.settings
    assert (s.shutter_mode, s.shutter_s) == ("auto", None)
    assert (s.profile, s.bit_depth, s.sharpness) == ("natural", 8, "medium")
    assert "over" not in items(plan)
    assert plan.ledger[0].item == "motion_look"
    assert plan.exposure.shutter_used_s[0] > plan.exposure.shutter_used_s[1]


@pytest.mark.parametrize("noise", ["quiet", "bright"])
def test_lantern_punts_on_a_tripod(noise: str) -> None:
    plan = planned(**PUNTS, school={"noise": noise})
    s = plan.settings
    assert (s.frame_rate, s.shutter_s, s.stabilisation) == (25, 0.02, "off")
    assert plan.exposure.snr > 5
    pixels = {value.value: value for value in plan.profiles["frame"]}
    largest = max(pixels, key=lambda frame: int(frame.split("x")[0]) * int(frame.split("x")[1]))
    assert f"{s.width}x{s.height}" != largest
    assert s.white_balance_k is not None
    assert 3200 <= s.white_balance_k <= 4000
    assert not s.high_dynamic_range
    assert "under" in items(plan)


def test_a_brighter_school_raises_the_ceiling_about_a_stop() -> None:
    quiet, bright, get_it = (planned(**PUNTS, school={"noise": noise}) for noise in ("quiet", "bright", "get_it"))
    assert quiet.settings.iso_ceiling == 800
    assert bright.settings.iso_ceiling == 2 * quiet.settings.iso_ceiling
    assert get_it.settings.iso_ceiling > bright.settings.iso_ceiling
    assert quiet.exposure.under_stops == pytest.approx(bright.exposure.under_stops + 1, abs=0.01)


def test_keeping_or_dropping_steadying_in_the_dark() -> None:
    walking = {**PUNTS, "camera_move": {"mount": "walking"}}
    keep = planned(**walking, school={"dark_stabilisation": "keep"})
    drop = planned(**walking, school={"dark_stabilisation": "drop"})
    assert keep.settings.stabilisation != "off"
    assert keep.settings.shutter_s is not None
    assert keep.settings.shutter_s < 0.02 or "pulsing_smear" in codes(keep)
    held = planned(**PUNTS, kit={"cameras": [keep.camera.id]})
    assert keep.settings.iso_ceiling > held.settings.iso_ceiling
    assert (drop.settings.stabilisation, drop.settings.shutter_s) == ("off", 0.02)
    assert "steady_the_camera" in codes(drop)


def test_mud_race_on_the_chest() -> None:
    plan = planned(**ALL_KINDS["mud race"])
    s = plan.settings
    assert s.frame_rate == 50
    assert s.view in ("fisheye", "wide")
    assert s.stabilisation != "off"
    assert s.iso_ceiling == 100
    assert s.wind_reduction in ("on", "automatic")
    assert "mounts" in {caution.topic for caution in plan.cautions}


@pytest.mark.parametrize(("slow", "rate", "width"), [(4, 100, 3840), (8, 200, 2560)])
def test_birds_slowed(slow: float, rate: float, width: int) -> None:
    plan = planned(
        scenario="motion",
        camera_move={"mount": "tripod"},
        delivery={"slow_factor": slow},
        subject={"event_s": 0.5, "speed_m_s": 8, "distance_m": [10, 40]},
    )
    assert (plan.settings.frame_rate, plan.settings.width) == (rate, width)
    assert (items(plan).get("detail", 0.0) > 0.5) == (slow == 8)


def test_lamps_on_the_other_mains_are_told() -> None:
    plan = planned(
        light={"kind": "place", "place": "workshop"},
        mains_hz=60,
        camera_move={"mount": "tripod"},
        pins={"shutter_s": "1/50"},
    )
    assert items(plan)["flicker"] > 0.1
    assert "flicker" in codes(plan)
    clean = planned(
        light={"kind": "place", "place": "workshop"},
        mains_hz=60,
        camera_move={"mount": "tripod"},
        pins={"shutter_s": "1/60"},
    )
    assert items(clean).get("flicker", 0) == pytest.approx(0, abs=1e-9)


def test_software_that_steadies_later_gets_the_tall_whole_frame() -> None:
    s = planned(
        scenario="motion", camera_move={"mount": "fpv"}, delivery={"stabilise_later": True, "graded": True}
    ).settings
    assert s.stabilisation == "off"
    assert s.height > s.width * 9 / 16
    assert s.view in ("fisheye", "wide")


def test_an_upright_clip_for_a_phone() -> None:
    s = planned(delivery={"edit_device": "phone", "width": 1080, "height": 1920}).settings
    assert s.bit_depth == 8
    assert s.profile != "flat"
    assert s.width * s.height < 3840 * 2160


def test_gain_is_held_at_base_behind_glass() -> None:
    def ceiling(low: float, gain: str | None) -> int:
        light = {"kind": "meter", "ev100": [low, 15]}
        plan = planned(light=light, delivery={"graded": True}, school={"glass_gain": gain})
        assert plan.settings.nd, "so bright that glass is worn"
        assert plan.exposure.iso_used[1] == 100, "gain never buys back at the bright end what the glass takes"
        return plan.settings.iso_ceiling

    assert ceiling(14.0, None) == 100
    assert [ceiling(low, "locked") <= 200 for low in (12.0, 13.0, 14.0)] == [True] * 3
    assert ceiling(12.0, None) == ceiling(12.0, "follows") >= 400, "a band of three stops is followed down"


def test_frozen_motion_wants_a_short_exposure() -> None:
    natural = planned(subject={"speed_m_s": 4, "distance_m": [2, 5]}, camera_move={"mount": "tripod"})
    frozen = planned(
        subject={"speed_m_s": 4, "distance_m": [2, 5], "motion_look": "frozen"}, camera_move={"mount": "tripod"}
    )
    assert frozen.exposure.wanted_shutter_s < natural.exposure.wanted_shutter_s / 10
    assert frozen.exposure.shutter_used_s[0] < natural.exposure.shutter_used_s[0]


def test_pins_that_exclude_each_other_are_named_and_no_others() -> None:
    with pytest.raises(NoLegalPlan) as refused:
        planned(pins={"frame_rate": 240, "frame": "3840x2160", "view": "wide", "sharpness": "low"})
    assert set(refused.value.pins) == {"frame_rate", "frame"}
    assert "frame rate 240" in refusal_words(refused.value)
    with pytest.raises(NoLegalPlan) as refused:
        planned(pins={"iso_floor": 800, "iso_ceiling": 400, "profile": "flat"})
    assert set(refused.value.pins) == {"iso_floor", "iso_ceiling"}


def test_an_illegal_value_says_which_pin_makes_it_so() -> None:
    plan = planned(pins={"frame": "5120x3840"})
    rates = {value.value: value for value in plan.profiles["frame_rate"]}
    assert not rates[240].legal
    assert "resolution 5120" in str(rates[240].why_not)
    frames = {value.value: value for value in plan.profiles["frame"]}
    assert all(entry.legal for entry in frames.values())


def test_a_frame_of_interval_films_alone_is_not_to_be_had_at_speed() -> None:
    kit = library.demo_kit()
    limpet = next(camera for camera in kit.cameras if camera.id == "limpet-7")
    film = next(mode for mode in limpet.modes if mode.intervals_s)
    kept = limpet.model_copy(update={"modes": (*limpet.modes, film.model_copy(update={"width": 2048, "height": 1536}))})
    made = plan(brief(**QUAY), kit.model_copy(update={"cameras": (kept,)}), library.knowledge())
    assert {value.value for value in made.profiles["frame"] if not value.legal} == {"2048x1536"}


@pytest.mark.parametrize(
    ("pin", "given", "settled"),
    [
        ("shutter_s", "1/100", 0.01),
        ("shutter_s", 0.0100001, 0.01),
        ("shutter_mode", "auto", None),
        ("width", 2560, 2560),
        ("nd", ["nd64", "nd8"], ("nd8", "nd64")),
        ("nd", [], ()),
        ("nd", "none", ()),
        ("white_balance_k", None, None),
        ("high_dynamic_range", True, True),
        ("frame_rate", 50.0, 50),
    ],
)
def test_pins_are_read_as_people_write_them(pin: str, given: Any, settled: Any) -> None:
    settings = planned(pins={pin: given}).settings
    field = "shutter_s" if pin == "shutter_mode" else pin
    assert getattr(settings, field) == (pytest.approx(settled) if isinstance(settled, float) else settled)


@pytest.mark.parametrize("name", ALL_KINDS)
def test_reasons_are_whole_sentences_with_the_runner_up(name: str) -> None:
    plan = planned(**ALL_KINDS[name])
    assert set(plan.reasons) == set(plan.profiles) == set(plan.values) == set(plan.runner_up_stops)
    for dial, reason in plan.reasons.items():
        assert re.fullmatch(r"[A-Z0-9\u2212+].*\.", reason), (dial, reason)
        assert "None" not in reason
        assert "nan" not in reason
        assert "_" not in reason


def test_a_reason_tells_the_numbers_that_decided() -> None:
    plan = planned(**QUAY)
    assert "6.4 stops too bright; ND 64 removes 6." in plan.reasons["nd"]
    reason = planned(**QUAY, pins={"shutter_s": "1/50"}, kit={"filters": ["nd32", "nd64"]}).reasons["nd"]
    assert "With ND 32 the highlights would be 1.0 stops over." in reason
    assert plan.exposure.nd_asked_stops == pytest.approx(6.39, abs=0.005)


def test_a_pinned_dial_tells_what_it_costs() -> None:
    free = planned(**QUAY)
    held = planned(**QUAY, pins={"iso_ceiling": 800})
    assert held.reasons["iso_ceiling"].startswith("Pinned. Free, it would be ISO\u202f100 as the highest")
    assert held.given_up_stops > free.given_up_stops
    assert held.pins == {"iso_ceiling": 800}


def test_what_is_priced_is_what_is_weighed_and_what_dials_decide() -> None:
    knowledge = library.knowledge()
    at = situation(brief(**QUAY), knowledge, USUAL)
    space = laid_out(small_sheet(), at)
    priced = set(price(at, space, search(at, space, all_free(space)).best()).stops)
    assert priced == set(knowledge.weights.items) == set(USUAL.items)
    decided_by_dials = {item for items in USUAL.decides.values() for item in items}
    assert decided_by_dials == priced - {"handling"}  # that one decides between cameras only
    for item in USUAL.item_kinds:
        assert item.dial in (*USUAL.listed, "camera"), item.id
        assert item.scope in USUAL.alone or item.scope in VIEWS, item.id
        assert set(item.decided_by) <= {*USUAL.dials, *JOINT_BLOCKS}, item.id
    weights = knowledge.weights
    for layer in [
        weights.items,
        *weights.scenarios.values(),
        *(w for axis in weights.schools.values() for w in axis.values()),
    ]:
        assert set(layer) <= priced
        assert all(entry.why.endswith(".") for entry in layer.values())
    assert all(entry.why.endswith(".") for entry in weights.limits.values())
    assert set(knowledge.scenarios) == set(weights.scenarios)


def test_rivals_differ_and_never_cost_less() -> None:
    for fields in (QUAY, PUNTS, {**PUNTS, "camera_move": {"mount": "walking"}}):
        plan = planned(**fields)
        assert plan.schools
        for rival in plan.schools:
            assert rival.changes
            assert rival.given_up_stops >= plan.given_up_stops - 1e-9


def test_other_schools_can_be_left_out_and_change_nothing_else() -> None:
    known, kit = library.knowledge(), library.demo_kit()
    whole = plan(brief(**QUAY), kit, known)
    assert plan(brief(**QUAY), kit, known, schools=False) == whole.model_copy(update={"schools": ()})


def test_cautions_follow_mount_darkness_and_cold() -> None:
    assert {c.topic for c in planned(**PUNTS, air_c=-4).cautions} == {"dark", "cold"}
    assert "flying" in {c.topic for c in planned(camera_move={"mount": "drone_gimbal"}).cautions}
    assert planned(camera_move={"mount": "tripod"}).cautions == ()


def test_light_known_in_two_ways_gives_the_same_plan() -> None:
    by_place = planned(light=LANTERNS, scenario="low_light")
    by_meter = planned(light={"kind": "meter", "ev100": [2, 5]}, scenario="low_light")
    by_lux = planned(light={"kind": "meter", "lux": [10, 80]}, scenario="low_light")
    assert by_place.settings == by_meter.settings == by_lux.settings


@pytest.mark.parametrize("mount", ["walking", "chest", "drone_gimbal", "tripod"])
@pytest.mark.parametrize("place", ["full_sun", "bright_cloud", "snow_or_sand_in_sun"])
def test_with_the_shutter_left_free_glass_is_only_for_what_would_be_over(mount: str, place: str) -> None:
    fields = {"light": {"kind": "place", "place": place}, "camera_move": {"mount": mount, "travel_m_s": 1}}
    free = planned(**fields, school={"shutter": "free"})
    assert free.settings.nd == ()
    assert "over" not in items(free)
    assert "wanted" not in free.reasons["nd"], "nobody wants an exposure that is left to the camera"
    # Pinned all the same, it costs what it takes for nothing; where the shutter is fixed it is what glass is for.
    if free.camera.id == "limpet-7":
        pinned = planned(**fields, school={"shutter": "free"}, kit={"cameras": ["limpet-7"]}, pins={"nd": ["nd16"]})
        assert pinned.given_up_stops > free.given_up_stops
    held = planned(**{**fields, "subject": {"speed_m_s": 2}}, school={"shutter": "half_turn"})
    assert held.settings.nd


@pytest.mark.parametrize("noise", ["quiet", "balanced", "bright"])
@pytest.mark.parametrize("scenario", ["low_light", "everyday"])
def test_a_tripod_in_the_dark_is_never_filmed_darker_than_a_hand(noise: str, scenario: str) -> None:
    def dark(mount: str, ev: float) -> float:
        made = planned(
            scenario=scenario, light={"kind": "meter", "ev100": [ev, ev + 1]}, camera_move={"mount": mount},
            school={"noise": noise}, kit={"cameras": ["limpet-7"]},
        )  # fmt: skip
        return made.exposure.under_stops

    for ev in (-2.0, -0.5, 0.7, 1.6, 2.3, 3.1, 4.2, 5.0):
        assert dark("tripod", ev) <= dark("two_hands", ev) + 0.02, ev
        assert dark("tripod", ev) <= dark("walking", ev) + 0.02, ev


def test_more_noise_is_shown_only_as_far_as_it_buys_a_shorter_exposure() -> None:
    fields = {**PUNTS, "camera_move": {"mount": "walking"}}
    limits = {
        shutter: planned(**fields, pins={"shutter_s": shutter}).exposure.snr_limit
        for shutter in ("1/25", "1/50", "1/100", "1/200")
    }
    assert limits["1/25"] == limits["1/50"]
    assert limits["1/50"] / limits["1/100"] == pytest.approx(np.sqrt(2), rel=0.01), "what a stop less light does to it"
    assert limits["1/200"] == pytest.approx(limits["1/100"]), "a stop at most"
    on_legs = planned(**PUNTS, pins={"shutter_s": "1/100"}).exposure.snr_limit
    assert on_legs == pytest.approx(limits["1/50"])


@pytest.mark.parametrize("band", [[13, 15], [12, 15], [14, 15], [9, 10]])
def test_gain_that_is_locked_leaves_one_exposure(band: list[float]) -> None:
    """Locked as a school is one value; the dim end is then darker."""
    fields = {
        "light": {"kind": "meter", "ev100": band},
        "camera_move": {"mount": "walking"},
        "delivery": {"graded": True},
    }
    locked = planned(**fields, school={"glass_gain": "locked"}).settings
    assert locked.iso_floor == locked.iso_ceiling
    assert locked.shutter_mode == "fixed"
    if band == [12, 15]:
        follows = planned(**fields, school={"glass_gain": "follows"}).settings
        assert follows.iso_ceiling > follows.iso_floor
