"""Shots as experienced people would set them: what a plan for each must come out as."""

from __future__ import annotations

from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.planning.plan import Plan
from tests.briefs import EELGRASS, JAR, PUNTS, QUAY, STARS, SUN, TABLE_LAMP, WRECK, planned


def codes(plan: Plan) -> dict[str, str]:
    return {warning.code: warning.severity for warning in plan.warnings}


def texts(plan: Plan) -> str:
    return " ".join(warning.text for warning in plan.warnings).replace("\u202f", " ")


def test_eelgrass_in_green_water() -> None:
    plan = planned(**EELGRASS)
    s = plan.settings
    assert s.frame_rate in (50, 100)
    assert s.view in ("wide", "rectilinear")
    assert s.stabilisation != "off"
    assert s.colour_filter in ("magenta", None)
    assert s.iso_ceiling <= 1600
    assert s.housing is not None
    assert codes(plan)["housing_needed"] == "warn"
    assert "Red is gone below" in texts(plan)
    assert "diving" in {caution.topic for caution in plan.cautions}


def test_a_wreck_with_lamps_needs_no_filter() -> None:
    plan = planned(**WRECK)
    assert plan.settings.colour_filter is None
    assert plan.settings.white_balance_k == 5500
    assert "The lamps reach" in texts(plan)


def test_too_deep_for_every_housing_is_a_stop() -> None:
    plan = planned(**WRECK, kit={"housings": []})
    assert codes(plan)["housing_missing"] == "stop"
    shallow = {**WRECK, "light": {**WRECK["light"], "depth_m": [2, 4]}}
    assert "housing_missing" not in codes(planned(**shallow, kit={"housings": []}))


def test_blue_water_wants_red_and_bright_shallows_a_lighter_one() -> None:
    def filter_at(depth: list[float], kind: str) -> str | None:
        light = {"kind": "water", "surface": SUN, "depth_m": depth, "water_type": kind}
        return planned(**{**EELGRASS, "light": light}).settings.colour_filter

    assert filter_at([8, 12], "IB") == "red"
    assert filter_at([28, 32], "IB") is None, "deep down there is no red to wait for"
    assert filter_at([2, 3], "IA") in ("light_red", None)


def test_a_turning_jar_on_a_table() -> None:
    plan = planned(**JAR)
    s = plan.settings
    assert plan.camera.id in ("lugger-5", "yawl-12")
    assert s.lens == "long"
    assert s.shutter_s == 0.02
    assert s.iso_floor == s.iso_ceiling <= 100
    assert s.white_balance_k == 5500
    assert s.stabilisation == "off"
    assert s.focus == "locked"
    assert s.profile in ("flat", "log")
    assert "lamps" in {caution.topic for caution in plan.cautions}


@pytest.mark.parametrize("speed", [0, 1.0])
def test_falling_flour_frozen(speed: float) -> None:
    plan = planned(
        scenario="product",
        light={"kind": "lamps", "lamps": [{**TABLE_LAMP, "lux_at_1m": 2200, "distance_m": 0.8, "ripple": 0.02}] * 2},
        subject={"distance_m": [0.5, 0.8], "speed_m_s": speed, "motion_look": "frozen"},
        camera_move={"mount": "tripod"},
        delivery={"slow_factor": 8, "width": 1920, "height": 1080},
    )
    s = plan.settings
    assert s.frame_rate >= 200
    assert s.shutter_s is not None
    assert s.shutter_s <= 1 / 1000
    assert s.stabilisation == "off"
    assert "stops of light are missing" in texts(plan)
    assert "bring them from" in texts(plan)
    assert "flicker" in " ".join(codes(plan))


def test_creek_run_with_the_camera_drone() -> None:
    plan = planned(
        scenario="motion",
        light={"kind": "meter", "ev100": [15, 15]},
        subject={"distance_m": [10, 200]},
        camera_move={"mount": "drone_gimbal", "travel_m_s": 8},
        delivery={"graded": True},
    )
    s = plan.settings
    assert plan.camera.id == "sandpiper-2"
    assert s.shutter_s == 0.02
    assert s.iso_floor == s.iso_ceiling == 100
    assert s.nd
    assert plan.exposure.over_stops < 0.5
    assert plan.exposure.under_stops < 0.5
    assert s.stabilisation == "off"
    assert "flying" in {caution.topic for caution in plan.cautions}


def test_a_freestyle_drone_that_software_steadies_later() -> None:
    plan = planned(scenario="motion", camera_move={"mount": "fpv"}, delivery={"stabilise_later": True, "graded": True})
    s = plan.settings
    assert plan.camera.id == "turnstone"
    assert s.height > s.width * 9 / 16
    assert s.view in ("fisheye", "wide")
    assert s.stabilisation == "off"
    assert s.iso_ceiling == 100
    assert s.nd


def test_stars_over_the_sluice() -> None:
    plan = planned(**STARS)
    s = plan.settings
    assert s.interval_s is not None
    assert s.shutter_s is not None
    assert 15 <= s.shutter_s <= 30
    assert s.shutter_s < s.interval_s <= 2 * s.shutter_s
    assert 800 <= s.iso_ceiling <= 3200
    assert s.white_balance_k is not None
    assert 3200 <= s.white_balance_k <= 4300
    assert s.stabilisation == "off"
    lasts = plan.endurance
    assert lasts.frames == 21_600 // s.interval_s + 1
    assert lasts.screen_s == pytest.approx(lasts.frames / 25)
    assert f"{lasts.frames} frames" in texts(plan)
    assert "Stars move" in texts(plan)
    assert "power bank of at least" in texts(plan)


def test_a_market_under_lamps_of_the_other_mains() -> None:
    plan = planned(light={"kind": "place", "place": "workshop"}, mains_hz=60)
    assert plan.settings.shutter_s == pytest.approx(1 / 60)
    at_fifty = next(value for value in plan.profiles["shutter_s"] if value.value == pytest.approx(1 / 50))
    assert at_fifty.given_up_stops is not None
    assert at_fifty.given_up_stops > plan.given_up_stops
    held = planned(light={"kind": "place", "place": "workshop"}, mains_hz=60, pins={"shutter_s": "1/50"})
    assert next(item for item in held.ledger if item.item == "flicker").stops == pytest.approx(0.11, abs=0.01)


def test_an_upright_clip_for_the_phone() -> None:
    plan = planned(
        light={"kind": "place", "place": "office"},
        delivery={"width": 1080, "height": 1920, "fps": 30, "edit_device": "phone"},
    )
    s = plan.settings
    assert plan.camera.id in ("lugger-5", "yawl-12")
    assert (s.width, s.height) == (1920, 1080)
    assert s.codec in ("efficient", "older")
    assert s.bit_depth == 8
    assert s.profile not in ("flat", "log")


def test_three_hours_of_frost() -> None:
    plan = planned(
        light={"kind": "place", "place": "snow_or_sand_in_sun"},
        camera_move={"mount": "tripod"},
        air_c=-8,
        take={"length_s": 3 * 3600},
    )
    assert "battery" in {item.item for item in plan.ledger}
    # Three or four watts warm the cell by two fifths of forty to fifty kelvins: less is lost than at the air's -8.
    lasts = plan.endurance
    power = next(one.power for one in library.demo_kit().cameras if one.id == plan.camera.id)
    assert lasts.cells_c == pytest.approx(-8 + 0.4 * power.heat_k_per_w * lasts.needed_wh / (3 + 10 / 60), abs=0.1)
    assert 0.55 < lasts.cold_factor < 0.95
    assert lasts.hours_per_charge == pytest.approx(power.battery_wh * lasts.cold_factor / lasts.power_w)
    assert "cold-rated cells would last" in texts(plan)
    assert f"{100 * lasts.cold_factor:.0f} % of their charge" in texts(plan)
    assert -0.7 <= plan.settings.exposure_compensation <= -0.3


# Shots unlike those above: what a practitioner would say of each.
def test_skiing_with_a_helmet_camera_in_snow() -> None:
    plan = planned(
        scenario="motion",
        light={"kind": "place", "place": "snow_or_sand_in_sun"},
        camera_move={"mount": "helmet", "travel_m_s": 15},
        school={"shutter": "free"},
        air_c=-5,
        delivery={"slow_factor": 2},
    )
    s = plan.settings
    assert s.shutter_mode == "auto"
    assert s.frame_rate == 50
    assert s.iso_ceiling == min(value.value for value in plan.profiles["iso_ceiling"])
    assert s.view in ("fisheye", "wide")
    assert s.wind_reduction in ("on", "automatic")
    assert {"mounts", "cold", "speed"} <= {caution.topic for caution in plan.cautions}


def test_a_talk_at_an_office_table_on_sixty_hertz() -> None:
    plan = planned(
        light={"kind": "place", "place": "office"},
        mains_hz=60,
        camera_move={"mount": "tripod"},
        delivery={"fps": 30},
        subject={"distance_m": [1, 2]},
    )
    s = plan.settings
    assert s.shutter_s == pytest.approx(1 / 60)
    assert s.stabilisation == "off"
    assert s.frame_rate == 30
    assert 4000 <= (s.white_balance_k or 0) <= 4500


def test_clouds_over_a_day_as_an_interval_film() -> None:
    plan = planned(
        scenario="lapse",
        light={"kind": "meter", "ev100": [13, 15]},
        camera_move={"mount": "tripod"},
        take={"length_s": 3600, "screen_s": 15},
    )
    assert plan.settings.interval_s is not None
    assert plan.endurance.screen_s == pytest.approx(15, rel=0.5)
    assert plan.endurance.star_drift_px is None


@pytest.mark.parametrize(
    ("school", "dial", "differs"),
    [
        ({"shutter": "free"}, "shutter_s", True),
        ({"noise": "get_it"}, "iso_ceiling", False),
        ({"colour": "straight"}, "profile", True),
        ({"view": "widest"}, "view", True),
        ({"resolution": "most"}, "frame", True),
    ],
)
def test_each_school_turns_its_own_dial_by_day(school: dict[str, str], dial: str, differs: bool) -> None:
    fields: dict[str, Any] = {**QUAY, "kit": {"cameras": ["limpet-7"]}}
    usual, other = planned(**fields), planned(**fields, school=school)
    assert (usual.values[dial] != other.values[dial]) == differs


@pytest.mark.parametrize(
    ("school", "dial"),
    [
        ({"dark_stabilisation": "drop"}, "stabilisation"),
        ({"dark_profile": "flat"}, "profile"),
        ({"noise": "get_it"}, "iso_ceiling"),
        ({"white_balance": "auto"}, "white_balance_k"),
    ],
)
def test_each_school_turns_its_own_dial_in_the_dark(school: dict[str, str], dial: str) -> None:
    fields: dict[str, Any] = {**PUNTS, "camera_move": {"mount": "walking"}, "kit": {"cameras": ["limpet-7"]}}
    assert planned(**fields).values[dial] != planned(**fields, school=school).values[dial]
