"""Numbers that an audit found wrong, missing or implausible, each against its check value."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.light import sky, water
from steady_tide.core.light.balance import balance_through_k
from steady_tide.core.light.flicker import ripple_left, ripple_stops
from steady_tide.core.light.resolving import Light, resolve
from steady_tide.core.look.exposure_of_plan import taking_of
from steady_tide.core.physics import optics
from steady_tide.core.physics.endurance import cell_temperature_c, cold_factor, minutes_to_heat
from steady_tide.core.physics.motion import lean_deg, repeats_unevenly
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.enumeration import _offer_of
from steady_tide.core.planning.geometry import geometry
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.space import Glass
from tests.briefs import SUN, decided

KNOWN = library.knowledge()
WATERS = KNOWN.waters


def light_of(light: dict[str, Any], distance_m: tuple[float, float] = (1.0, 1.0)) -> Light:
    return resolve(read_brief({"light": light}).light, KNOWN.world, distance_m)


def dive(depth_m: float, kind: str = "IB", **more: Any) -> dict[str, Any]:
    return {"kind": "water", "surface": SUN, "depth_m": [depth_m, depth_m], "water_type": kind, **more}


def at(**fields: Any) -> Any:
    return situation(read_brief({"title": "t", "light": SUN, **fields}), KNOWN, USUAL)


@pytest.mark.parametrize(("metres", "lost"), [(1, 1.5), (2, 2.0), (6, 2.5), (9, 3.0), (15, 4.0), (30, 5.0)])
@pytest.mark.parametrize("kind", ["IA", "IB"])
def test_clear_sea_loses_what_the_old_exposure_tables_say(kind: str, metres: float, lost: float) -> None:
    above, below = light_of(SUN).ev100[1], light_of(dive(metres, kind)).ev100[1]
    wide = 0.5 if kind == "IB" else 0.85  # the tables do not say which clear sea; the clearest is clearer than most
    assert above - below == pytest.approx(lost, abs=wide)


def test_what_stands_gets_a_third_to_a_half_of_what_falls_on_level_ground() -> None:
    shares = WATERS.upright_share(np.array([1.0, 6.0, 15.0]))
    assert ((shares > 0.25) & (shares < 0.5)).all()
    assert WATERS.upright_share(0.0) == pytest.approx(1.0), "at the surface it is still the air's light"
    assert WATERS.upright_share(6.0, 10.0) > WATERS.upright_share(6.0, 60.0), "a low sun lights from the side"


def test_water_between_takes_contrast_and_the_more_the_longer() -> None:
    kind = WATERS.types["3C"]
    left = [float(water.seen_through(WATERS, kind, 5.0, metres).contrast_left) for metres in (0.01, 0.5, 1.0, 3.0)]
    assert left[0] == pytest.approx(1.0, abs=0.01)
    assert left == sorted(left, reverse=True)


@pytest.mark.parametrize(("in_air", "in_water"), [(118, 79.5), (90, 63.7), (78, 56.0)])
def test_a_flat_port_narrows_the_field(in_air: float, in_water: float) -> None:
    assert optics.behind_flat_port_deg(in_air) == pytest.approx(in_water, abs=0.1)
    assert optics.in_air_deg(in_water) == pytest.approx(in_air, abs=0.3)


def test_a_dome_keeps_the_field_and_a_flat_case_does_not() -> None:
    kit = library.demo_kit()
    flat = next(housing for housing in kit.housings if housing.id == "limpet-case")
    from steady_tide.core.planning.planner import plan

    def field(port: str) -> float:
        case = flat.model_copy(update={"port": port})
        owned = kit.model_copy(update={"housings": (case,)})
        said = {"scenario": "underwater", "light": dive(12), "pins": {"view": "wide", "stabilisation": "off"}}
        brief = read_brief({"title": "t", **said})
        return plan(brief, owned, KNOWN, schools=False, only="limpet-7").exposure.field_deg

    assert field("flat") == pytest.approx(80.5, abs=0.2)
    assert field("dome") == pytest.approx(120, abs=0.2)


def test_lamps_of_a_pool_hall_pulse_and_keep_their_white_under_water() -> None:
    hall = {"kind": "place", "place": "pool_hall"}
    under = light_of({"kind": "water", "surface": hall, "depth_m": [1, 1], "water_type": "I"})
    assert under.ripple == pytest.approx(light_of(hall).ripple)
    assert under.balance_k[0] == light_of(hall).balance_k[0]
    assert float(ripple_stops(ripple_left(0.3, 1 / 60, 50))) == pytest.approx(0.14, abs=0.01)


def test_flicker_is_judged_at_both_ends_of_the_light() -> None:
    wide = {"kind": "place", "place": "workshop"}
    free = decided(light=wide, school={"shutter": "free"}, pins={"shutter_s": "automatic", "iso_ceiling": 100})
    bright_s = min(free.exposure.shutter_used_s)
    flicker = next(item.stops for item in free.ledger if item.item == "flicker")
    assert flicker >= 0.5 * float(ripple_stops(ripple_left(0.3, bright_s, 50))) - 1e-9


def test_a_lamp_that_travels_leaves_near_and_far_two_stops_apart() -> None:
    lamp = {"lux_at_1m": 2600, "distance_m": 0.5, "far_m": 1.0}
    lit = light_of({"kind": "lamps", "lamps": [lamp]})
    stood = light_of({"kind": "lamps", "lamps": [{**lamp, "far_m": None}]})
    assert lit.ev100[1] == stood.ev100[1]
    assert stood.ev100[0] - lit.ev100[0] == pytest.approx(2.0)


def test_a_lamp_never_reaches_far_in_harbour_water() -> None:
    reach = {kind: water.lamp_reach_m(WATERS, WATERS.types[kind], 5200) for kind in ("I", "3C", "9C")}
    assert reach["9C"] < 1.5
    assert reach["9C"] < min(reach["3C"], reach["I"]) < 20
    assert water.lamp_reach_m(WATERS, WATERS.types["I"], 200) < water.lamp_reach_m(WATERS, WATERS.types["I"], 5200)


def test_red_is_gone_at_seven_metres_in_clear_water() -> None:
    assert water.red_gone_m(WATERS, WATERS.types["IB"]) == pytest.approx(7.0, abs=0.7)


def test_what_is_passed_and_what_is_followed() -> None:
    passing = at(subject={"speed_m_s": 30, "distance_m": [2, 2]})
    assert np.radians(passing.subject_deg_s) / 50 == pytest.approx(0.3, abs=0.001)
    followed = at(subject={"speed_m_s": 9, "distance_m": [7, 8]}, camera_move={"mount": "tripod", "turn_deg_s": 70})
    assert followed.subject_deg_s == pytest.approx(np.degrees(9 / 7) - 70)


def test_a_turn_on_purpose_is_no_smear_and_leans_lines() -> None:
    """While the picture's rows are read it turns by an angle, which is across what its height is down."""
    still, turned = (
        decided(camera_move={"mount": "tripod", "turn_deg_s": turn}, pins={"shutter_s": "1/50"}) for turn in (0, 120)
    )
    assert turned.exposure.smear_px == still.exposure.smear_px == 0
    skew = next(warning for warning in turned.warnings if warning.code == "skew")
    asked = read_brief(
        {
            "title": "test",
            "light": SUN,
            "camera_move": {"mount": "tripod", "turn_deg_s": 120},
            "pins": {"shutter_s": "1/50"},
        }
    )
    taking = taking_of(asked, library.demo_kit(), KNOWN)
    shift_px = 120 * taking.readout_s * taking.px_per_deg  # as the frame of Look shows it
    assert skew.facts["skew_deg"] == pytest.approx(np.degrees(np.arctan(shift_px / 2160)), rel=1e-6)
    assert lean_deg(120, 0.015, 60) == pytest.approx(np.degrees(np.arctan(1.8 / 60)))


def test_a_long_lens_leans_lines_more_than_a_wide_one() -> None:
    def lean(lens: str) -> float:
        made = decided(
            camera_move={"mount": "tripod", "turn_deg_s": 60}, kit={"cameras": ["lugger-5"]}, pins={"lens": lens},
            subject={"distance_m": [20, 60]},
        )  # fmt: skip
        return next((w.facts["skew_deg"] for w in made.warnings if w.code == "skew"), 0.0)

    assert lean("long") > 2.0
    assert lean("extra_wide") < 0.5


def test_a_pan_takes_seven_seconds_across_the_frame() -> None:
    def warned(turn: float, fps: float = 24.0) -> bool:
        made = decided(
            camera_move={"mount": "tripod", "turn_deg_s": turn},
            delivery={"fps": fps},
            pins={"view": "rectilinear", "stabilisation": "off", "camera": "limpet-7"},
        )
        return "pan_too_fast" in {warning.code for warning in made.warnings}

    assert not warned(90 / 7)
    assert warned(90 / 7 * 1.5)
    assert not warned(90 / 7 * 1.5, 60), "a faster timeline bears a faster pan"


@pytest.mark.parametrize(
    ("size", "distance", "lens"), [(30, (4900, 5100), "long"), (1.75, (3.5, 4.5), "main"), (0.03, (0.05, 0.06), "extra_wide")]
)  # fmt: skip
def test_the_field_follows_the_subject(size: float, distance: tuple[float, float], lens: str) -> None:
    made = decided(
        subject={"size_m": size, "distance_m": distance}, camera_move={"mount": "tripod"}, kit={"cameras": ["yawl-12"]}
    )
    assert made.settings.lens == lens


def test_closest_focus_is_a_limit() -> None:
    near = {"subject": {"distance_m": [0.1, 0.12], "size_m": 0.02}, "camera_move": {"mount": "tripod"}}
    made = decided(**near, kit={"cameras": ["yawl-12"]})
    assert made.settings.lens == "extra_wide"
    long = next(value for value in made.profiles["lens"] if value.value == "long")
    assert not long.legal
    assert long.why_not is not None
    assert long.why_not.code == "too_near"
    blind = decided(**near, kit={"cameras": ["limpet-7"]})
    assert ("too_near", "stop") in {(warning.code, warning.severity) for warning in blind.warnings}
    assert decided(**near).camera.id in ("yawl-12", "lugger-5"), "a body that sees it sharp comes first"


def test_an_upright_cut_has_the_field_of_the_cut() -> None:
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    pictures = _offer_of(sheet, USUAL.dials).pictures
    seen = geometry(pictures, sheet, 1080, 1920)
    tall = np.flatnonzero(
        (pictures.width_px == 2560) & (pictures.height_px == 1920) & ~pictures.steadied & pictures.straight
    )
    field = seen.field_deg[tall[0]]
    told = pictures.field_deg[tall[0]]
    share = 9 / 16 * 3 / 4  # of the width of a 4:3 frame
    assert field == pytest.approx(2 * np.degrees(np.arctan(share * np.tan(np.radians(told / 2)))), abs=0.05)
    # 78 degrees across a 4:3 frame leave 37.7 of an upright cut.
    assert 2 * np.degrees(np.arctan(share * np.tan(np.radians(39)))) == pytest.approx(37.7, abs=0.05)


def test_cells_are_warmer_than_the_air_in_a_body_at_work() -> None:
    # 3.5 W on 13 K/W are 45.5 K at the warmest part; two fifths of it at the cell, when it has settled.
    assert float(cell_temperature_c(-8, 3.5, 13, 1755, 1e9, 0.4)) == pytest.approx(10.2)
    assert float(cell_temperature_c(-8, 3.5, 13, 1755, 1755, 0.4)) == pytest.approx(-8 + 18.2 * (1 - np.exp(-1)))
    ordinary = KNOWN.chemistries["ordinary"].left
    drawn = np.linspace(0.5, 12, 300)
    hours = 7.0 * cold_factor(cell_temperature_c(-25, drawn, 13, 1755, 1e9, 0.4), ordinary) / drawn
    assert np.all(np.diff(hours) < 1e-3), "drawing more to stay warm never makes a charge last longer"


def test_wind_waiting_and_wings_leave_the_cells_colder() -> None:
    frost: dict[str, Any] = {"air_c": -10, "take": {"length_s": 3600}, "pins": {"camera": "limpet-7"}}

    def cells_c(**fields: Any) -> float:
        return decided(**frost | fields).endurance.cells_c

    still = cells_c()
    assert still > 0
    assert -10 < cells_c(sound={"wind_m_s": 9}) < still
    assert -10 < cells_c(take={"length_s": 3600, "standby_min": 180}) < still
    assert cells_c(take={"length_s": 60}) < still
    assert cells_c(camera_move={"mount": "drone_gimbal"}, pins={"camera": "sandpiper-2"}) == -10


def test_a_body_warms_by_its_mass_and_the_sun() -> None:
    power = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7").power
    assert power.tau_s == pytest.approx(0.15 * 900 * 13) == 1755
    assert power.warming_w(0.0, 420.0) == pytest.approx(1.5, abs=0.05)
    phone = next(camera for camera in library.demo_kit().cameras if camera.id == "yawl-12").power
    assert phone.warming_w(0.0, 420.0) == pytest.approx(5.0, abs=0.3)
    drone = next(camera for camera in library.demo_kit().cameras if camera.id == "sandpiper-2").power
    assert drone.warming_w(drone.base_w, 0.0) == pytest.approx(10.0), "motors are cooled by their own wind"
    assert float(minutes_to_heat(4.5, 14, 600, 25, 70)) * 60 == pytest.approx(752, abs=0.5)


def test_the_sun_warms_and_water_and_cloud_do_not() -> None:
    assert at(light={"kind": "place", "place": "full_sun"}).sun_w_m2 == pytest.approx(420)
    assert at(light={"kind": "place", "place": "bright_cloud"}).sun_w_m2 == 0
    assert at(light=dive(3), scenario="underwater").sun_w_m2 == 0


def test_full_wells_are_those_of_small_sensors() -> None:
    for camera in library.demo_kit().cameras:
        for lens in camera.lenses:
            each = lens.sensor.full_well_e / lens.sensor.pixel_pitch_um**2
            assert 1500 <= each <= 2500, (camera.id, lens.id)
    assert library.typical().sensor.full_well_e_per_um2 == (2000, 1500, 2500)


def test_shade_takes_about_a_stop_once_the_sun_is_down() -> None:
    def taken(sun_deg: float) -> float:
        suns = np.array([sun_deg])
        args = (suns, np.array([-90.0]), np.array([180.0]), np.array(["clear"]))
        open_lux, shade_lux = (
            sky.level_and_facing_lux(*args, shade, KNOWN.sky, np.array([400_000.0]))[0][0]
            for shade in ("open", "full")
        )  # fmt: skip
        return float(np.log2(open_lux / shade_lux))

    assert taken(30) == pytest.approx(4.5)
    assert taken(-4) == pytest.approx(1.1, abs=0.2)
    steps = np.abs(np.diff([taken(deg) for deg in np.arange(-8, 12, 0.25)]))
    assert steps.max() < 0.25, "without a step"


def test_facing_a_low_sun_gains_and_fades_to_nothing_at_the_horizon() -> None:
    assert sky.facing_gain(0.0) == pytest.approx(1.0)
    assert sky.facing_gain(10.0) > 2.0
    gains = np.asarray(sky.facing_gain(np.arange(-2, 20, 0.1)))
    assert np.abs(np.diff(np.log2(gains))).max() < 0.25


def test_a_band_is_not_a_contrast() -> None:
    steady = at(light={"kind": "meter", "ev100": [11, 11]}, contrast_stops=14, delivery={"graded": True})
    assert steady.band_stops == 0
    assert steady.range_wanted_stops == 17
    wide = at(light={"kind": "meter", "ev100": [8, 14]}, delivery={"graded": True})
    assert wide.contrast_stops == pytest.approx(8.5)
    assert (
        at(light={"kind": "place", "place": "sunset"}).contrast_stops
        > at(light={"kind": "place", "place": "dull_day"}).contrast_stops
    )


def test_spare_cells_do_not_lengthen_a_take() -> None:
    office = {"light": {"kind": "place", "place": "office"}, "camera_move": {"mount": "tripod"}}
    alone = {"kit": {"cameras": ["limpet-7"]}}
    one = decided(**office, **alone, take={"length_s": 10_800, "count": 1})
    many = decided(**office, **alone, take={"length_s": 600, "count": 9})
    assert "charge_ends_take" in {warning.code for warning in one.warnings}
    assert "charge_ends_take" not in {warning.code for warning in many.warnings}


@pytest.mark.parametrize(("rate", "shown"), [(24, 23.976), (30, 29.97), (60, 59.94), (48, 23.976)])
def test_rates_a_thousandth_off_play_evenly(rate: float, shown: float) -> None:
    assert not repeats_unevenly(rate, shown)
    assert repeats_unevenly(24, 25)


def test_the_balance_of_a_reading_goes_from_lamps_to_daylight_without_a_step() -> None:
    middles = []
    for ev in np.arange(2, 12, 0.25):
        warm, cool = light_of({"kind": "meter", "ev100": [float(ev), float(ev)]}).balance_k
        middles.append(2e6 / (1e6 / warm * 0.5 + 1e6 / cool * 0.5) / 2)
    assert middles[0] < 4000 < 5000 < middles[-1]
    assert np.abs(np.diff(1e6 / np.array(middles))).max() < 12, "reciprocal megakelvins a quarter stop"
    warm, cool = light_of({"kind": "meter", "ev100": [-1, 13]}).balance_k
    assert 4300 <= warm <= cool <= 5600, "sunset into night: between the two lights"


def test_the_meters_habit_counts_in_an_interval_film() -> None:
    from steady_tide.core.planning.outlook import outlook_of

    start = datetime(2026, 6, 1, 9, tzinfo=UTC)
    light = {"kind": "sky", "latitude": 52, "longitude": 1, "start": start.isoformat(), "end": "2026-06-01T11:00:00Z"}
    brief = read_brief({"title": "t", "scenario": "lapse", "light": light, "take": {"length_s": 7200}})
    brief = Brief.model_validate({**brief.model_dump(), "camera_move": {"mount": "tripod"}})
    made = decided(scenario="lapse", light=light, take={"length_s": 7200}, camera_move={"mount": "tripod"})
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == made.camera.id)
    lapse = outlook_of(brief, made, sheet, KNOWN).lapse
    unbiased = sheet.model_copy(update={"metering_bias_stops": 0.0})
    other = outlook_of(brief, made, unbiased, KNOWN).lapse
    assert lapse is not None
    assert other is not None
    if made.settings.shutter_s is None:
        assert lapse.course[0].shutter_s != other.course[0].shutter_s


@pytest.mark.parametrize(
    ("at_utc", "km", "phase"),
    # Published perigee at a full moon, and apogee at another.
    [(datetime(2025, 11, 5, 22, 27, tzinfo=UTC), 356_832, 8), (datetime(2025, 4, 13, 22, 47, tzinfo=UTC), 406_295, 12)],
)
def test_the_moon_is_as_far_as_almanacs_say(at_utc: datetime, km: float, phase: float) -> None:
    now = sky.positions(52, 1, at_utc, at_utc)
    assert now.moon_km == pytest.approx((km,), abs=120)
    assert now.moon_phase_deg[0] < phase


def test_a_near_moon_is_brighter_and_stands_lower_than_from_the_middle_of_the_earth() -> None:
    near, far = (float(sky.moon_lux(40.0, 0.0, km)) for km in (356_832, 406_295))
    assert np.log2(near / far) == pytest.approx(2 * np.log2(406_295 / 356_832))
    # Parallax is nearly a degree at the horizon: from the place the moon rises later.
    from astral import Observer, moon

    at_utc = datetime(2025, 11, 6, 17, 0, tzinfo=UTC)
    seen = sky.positions(52, 1, at_utc, at_utc).moon_deg[0]
    assert abs(seen - float(moon.elevation(Observer(52, 1, 0.0), at_utc))) < 1.5


def test_the_balance_is_that_of_the_light_that_a_filter_leaves() -> None:
    """Red against blue, by hand: what the water took, less what the filter holds back, in 45 mireds a stop."""
    assert balance_through_k((5300, 5800), 0.0) == (5300, 5800)
    # 5800 K are 172.4 mireds; a stop of blue takes 45 of them: 127.4, which are 7850 K.
    assert balance_through_k((5300, 5800), 1.0) == (5300, 7800)
    assert balance_through_k((5300, 5800), 9.0) == (5300, 9000), "past two stops no balance follows"
    water = {"kind": "water", "surface": {"kind": "place", "place": "full_sun"}, "depth_m": [3, 4], "water_type": "IB"}
    at = situation(
        read_brief({"title": "x", "scenario": "underwater", "light": water, "subject": {"distance_m": [1, 1]}}),
        library.knowledge(),
        USUAL,
    )
    red, _, blue = at.light.colour_stops[1]
    assert 0.4 < blue - red < 1.9, "the water takes red"
    bare, behind, raised = (
        balance_behind_k(at, glass)
        for glass in (
            Glass(),
            Glass(colour="red", band_stops=(0.0, 1.0, blue - red)),
            Glass(red_gain_stops=(blue - red) / 2.0),
        )
    )
    assert behind == at.light.surface_balance_k, "a filter that holds back all of it leaves the light of the surface"
    assert behind[1] < raised[1] < bare[1]
