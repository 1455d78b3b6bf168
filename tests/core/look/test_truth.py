"""Rendered frames against what the plan says and what physics says, worked out here anew."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from steady_tide.core.look.exposure_of_plan import Taking
from steady_tide.core.look.lighting import balance_gains, grey_card, through_filter
from steady_tide.core.look.numbers import measures_of
from steady_tide.core.look.rendering import Moment, Renderer, Window, card_of, layer_speed_deg_s, streak_px
from steady_tide.core.look.shake import shake_of
from steady_tide.core.look.timing import frame_times
from steady_tide.core.measuring.frame_measures import blown_share, snr_of_card
from steady_tide.core.physics.motion import left_over_deg
from steady_tide.core.planning.items.views import fixed_spot_deg
from steady_tide.core.planning.space import Glass
from steady_tide.formats.compressed import compressed
from tests.briefs import LANTERNS
from tests.core.look.made_scenes import EVEN, POST, RAMP, RIDER, rendered, taken

LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
PULSES = {"kind": "lamps", "lamps": [{"lux_at_1m": 900, "distance_m": 1, "output": 1, "kelvin": 4000, "ripple": 0.6}]}
WATER = {"kind": "water", "surface": {"kind": "meter", "ev100": [14, 15]}, "depth_m": [4, 8], "water_type": "1C"}
STILL = {"mount": "tripod"}

SHOTS: dict[str, dict[str, Any]] = {
    "day": {},
    "night": {"light": LANTERNS, "scenario": "low_light"},
    "small": {"light": LANTERNS, "scenario": "low_light", "delivery": {"width": 1920, "height": 1080}},
    "slow": {"delivery": {"slow_factor": 4, "width": 1920, "height": 1080}, "subject": {"speed_m_s": 3}},
    "water": {"light": WATER, "scenario": "underwater", "subject": {"distance_m": [1, 2]}},
}


def snr_by_hand(taking: Taking, iso: float) -> float:
    """Of mid grey at delivered pixels: photons of ISO 12232 to electrons, shot and read noise, averaged."""
    sensor, lens = taking.sensor, taking.lens
    lux_s = 0.18 * 250.0 * lens.transmission / (4.0 * iso)
    electrons = 4090.0 * sensor.quantum_efficiency * sensor.pixel_pitch_um**2 * lux_s
    one = electrons / np.sqrt(electrons + sensor.read_noise_e**2)
    return float(one * np.sqrt(taking.sites_per_px) * taking.noise_gain)


def with_glass(taking: Taking, glass: Glass) -> Taking:
    glasses = list(taking.space.glasses)
    glasses[taking.choice["glasses"]] = glass
    return replace(taking, problem=replace(taking.problem, space=replace(taking.space, glasses=glasses)))


@pytest.mark.parametrize("share", [0.0, 1.0])
@pytest.mark.parametrize("name", SHOTS)
def test_a_grey_card_has_the_noise_that_the_plan_tells(name: str, share: float) -> None:
    taking = taken(**SHOTS[name])
    exposed = taking.exposed(share)
    scale = max(1.0, float(taking.sites_per_px**-0.5))
    card = card_of(Renderer(taking, EVEN, 1), Moment(share), 160, scale)
    measured = snr_of_card(card, scale)
    assert measured == pytest.approx(snr_by_hand(taking, exposed.iso), rel=0.10)
    if share == 0.0:
        assert measured == pytest.approx(taking.priced.snr_dim, rel=0.10)


@pytest.mark.parametrize("ev", [-3.0, 0.0, 2.0])
def test_what_comes_out_dark_is_as_noisy_as_its_light(ev: float) -> None:
    """In the dark the gain ends and the picture is stops under: its grey has so much less light, by hand and in the frame."""
    taking = taken(
        light={"kind": "meter", "ev100": [ev, ev]},
        scenario="low_light",
        pins={"iso_ceiling": 800, "camera": "limpet-7"},
    )
    exposed = taking.exposed(0.0)
    assert exposed.over_stops < -1.0
    sensor = taking.sensor
    lux_s = 2.0**exposed.over_stops * 0.18 * 250.0 * taking.lens.transmission / (4.0 * exposed.iso)
    electrons = 4090.0 * sensor.quantum_efficiency * sensor.pixel_pitch_um**2 * lux_s
    by_hand = electrons / np.sqrt(electrons + sensor.read_noise_e**2) * np.sqrt(taking.sites_per_px) * taking.noise_gain
    renderer = Renderer(taking, EVEN, 1)
    assert taking.snr(exposed) == pytest.approx(by_hand, rel=0.02)
    assert measures_of(renderer, Moment(0.0), False).snr_grey == pytest.approx(by_hand, rel=0.12)
    made = rendered(taking, EVEN, width=480, height=270, scale=8.0)
    luminance = made.light @ LUMINANCE
    assert luminance.mean() / luminance.std() == pytest.approx(by_hand * 8, rel=0.15), "as the frame itself is"


@pytest.mark.parametrize("width", [240, 480, 960])
def test_a_frame_averages_its_photosites(width: int) -> None:
    """Noise of an even frame, however small it is shown, before it is curved."""
    taking = taken(camera_move=STILL)
    made = rendered(taking, EVEN, width=width, height=width * 9 // 16, scale=3840 / width)
    luminance = made.light @ LUMINANCE
    wanted = snr_by_hand(taking, made.exposed.iso) * 3840 / width
    # A moment that comes out brighter or darker has more light or less.
    wanted *= np.sqrt(2.0**made.exposed.over_stops)
    assert luminance.mean() / luminance.std() == pytest.approx(wanted, rel=0.10)
    assert luminance.mean() == pytest.approx(2.0**made.exposed.over_stops, rel=0.02)


def test_two_limits_of_iso_differ_as_the_plan_says() -> None:
    one, other = (
        taken(light=LANTERNS, scenario="low_light", pins={"camera": "limpet-7", "iso_ceiling": iso})
        for iso in (800, 1600)
    )
    ratios = [snr_of_card(card_of(Renderer(t, EVEN, 1), Moment(0.0), 200, 1.2), 1.2) for t in (one, other)]
    assert ratios[0] / ratios[1] == pytest.approx(one.priced.snr_dim / other.priced.snr_dim, rel=0.05)
    assert one.exposed(0.0).over_stops == pytest.approx(other.exposed(0.0).over_stops - 1.0)


@pytest.mark.parametrize(("speed", "distance"), [(1.0, 8.0), (3.0, 6.0), (6.0, 9.0)])
def test_a_moving_point_smears_by_its_way(speed: float, distance: float) -> None:
    """Measured on the frame: the streak is as long as half of its light's height says."""
    taking = taken(
        camera_move=STILL, subject={"speed_m_s": speed, "distance_m": [distance, distance]},
        pins={"shutter_s": 1 / 50, "camera": "limpet-7"},
    )  # fmt: skip
    exposed = taking.exposed(0.5)
    wanted = np.degrees(speed / distance) * exposed.shutter_s * taking.px_per_deg
    renderer = Renderer(taking, RIDER, 3)
    light = renderer.seen(Moment(0.5), exposed, Window(401, 41, 1.0))
    rows = light[..., 1].sum(axis=0)
    half = rows.max() / 2.0
    inside = np.flatnonzero(rows >= half)
    left, right = inside[0], inside[-1]
    # Where it crosses half of its height, between pixels.
    first = left - (rows[left] - half) / (rows[left] - rows[left - 1])
    last = right + (rows[right] - half) / (rows[right] - rows[right + 1])
    assert last - first == pytest.approx(wanted, abs=0.3)
    assert streak_px(renderer, Moment(0.5), exposed, subject=True) == pytest.approx(wanted, abs=0.3)


@pytest.mark.parametrize("mount", ["two_hands", "walking", "chest", "handlebar"])
def test_shake_smears_what_stands_as_much_as_it_is_priced(mount: str) -> None:
    taking = taken(camera_move={"mount": mount}, pins={"shutter_s": 1 / 100})
    wanted = taking.at.mount.shake_deg_s * taking.exposed(0.5).shutter_s * taking.px_per_deg
    measured = streak_px(Renderer(taking, EVEN, 11), Moment(0.5), taking.exposed(0.5), subject=False)
    # On a shaking bar the hand turns within the exposure; elsewhere it goes straight.
    assert measured == pytest.approx(wanted, abs=0.3, rel=0.06)


def test_a_fast_pan_leans_by_the_readout() -> None:
    taking = taken(
        camera_move={"mount": "tripod", "turn_deg_s": 40}, delivery={"width": 1920, "height": 1080},
        pins={"shutter_s": 1 / 480, "camera": "limpet-7"},
    )  # fmt: skip
    renderer = Renderer(taking, POST, 3)
    light = renderer.seen(Moment(0.5), taking.exposed(0.5), Window(960, 540, 2.0))[..., 1]
    columns = np.arange(light.shape[1])
    middles = (light * columns).sum(axis=1) / light.sum(axis=1)
    used = (
        taking.sensor.readout_ms / 1000.0 * np.sqrt(taking._seen.photosites[0] / taking._picture.sampling[0] * 9 / 16)
    )
    wanted = -40.0 * used / taking.sensor.height_px * taking.px_per_deg * (light.shape[0] - 1) / light.shape[0]
    leaned = 2.0 * (middles[-6:].mean() - middles[5:11].mean()) * light.shape[0] / (light.shape[0] - 11)
    assert leaned == pytest.approx(wanted, abs=1.0)


@pytest.mark.parametrize("profile", ["natural", "flat"])
def test_what_is_above_the_headroom_is_blown(profile: str) -> None:
    """A ramp whose share above any light is known; what is half a stop brighter is blown half a stop earlier."""
    taking = taken(camera_move=STILL, pins={"profile": profile, "camera": "limpet-7", "sharpness": "low"})
    made = {share: rendered(taking, RAMP, share, width=960, height=64, scale=4.0) for share in (0.0, 0.5, 1.0)}
    focal_px = taking.px_per_deg * 180.0 / np.pi
    wanted_half = 2.0 * np.tan(np.radians(taking.at.field_wanted_deg / 2.0))
    px = (np.arange(960) - 479.5) * 4.0
    # A wide view bends: where a column looks follows from its angle.
    x = px / focal_px / wanted_half if taking.straight else np.tan(px / focal_px) / wanted_half
    stops = 12.0 * np.clip(x, -0.5, 0.5)
    for share, frame in made.items():
        exposed = taking.exposed(share)
        full = np.log2(taking.sensor.full_well_e / exposed.grey_e)
        # Shining things keep their light: metered grey is at 1, which is 0.18 of white.
        over = stops + np.log2(0.18) + exposed.over_stops
        # Of a light that is warmer or cooler than the balance one band is full first.
        first = float(np.log2(grey_card(taking, share) * balance_gains(taking, share, graded=False)).max())
        above = (over + first >= min(full, 0.27 * taking.range_stops)).mean()
        assert blown_share(frame.codes) == pytest.approx(above, abs=0.002), share
    # Half a stop more light each time.
    shares = [blown_share(made[share].codes) for share in (0.0, 0.5, 1.0)]
    assert shares == sorted(shares)
    assert shares[0] < shares[2]


def planck(kelvin: float, nm: float) -> float:
    """Of a black body, by hand: h c / k in micrometre kelvins is 14,388."""
    return float(nm**-5 / np.expm1(14_387_769.0 / (nm * kelvin)))


@pytest.mark.parametrize("set_k", [4500, 5500, 6500])
def test_kelvins_set_wrong_cast_as_black_bodies_do(set_k: int) -> None:
    taking = taken(
        light={"kind": "meter", "ev100": [14, 15], "balance_k": 5500},
        pins={"white_balance_k": set_k, "camera": "limpet-7"},
    )
    centres = [centre for centre, _ in taking.world.waters.bands_nm]
    grey = grey_card(taking, 0.5) * balance_gains(taking, 0.5, graded=False)
    ratios = [planck(5500, nm) / planck(set_k, nm) for nm in centres]
    for band in (0, 2):
        wanted = np.log2(ratios[band] / ratios[1])
        assert np.log2(grey[band] / grey[1]) == pytest.approx(wanted, abs=0.05)


@pytest.mark.parametrize("light_k", [2700, 5500, 8000])
def test_an_automatic_balance_mends_red_against_blue_as_far_as_it_reaches(light_k: int) -> None:
    taking = taken(
        light={"kind": "meter", "ev100": [14, 15], "balance_k": light_k},
        pins={"white_balance_k": "auto", "camera": "limpet-7"},
    )
    assert taking.balance is None
    before, gains = grey_card(taking, 0.5), balance_gains(taking, 0.5, graded=False)
    apart = float(np.log2(before[0] / before[2]))
    after = float(np.log2((before * gains)[0] / (before * gains)[2]))
    reach = taking.at.limits.balance_reach_stops
    assert after == pytest.approx(apart - np.clip(apart, -reach, reach), abs=1e-6)


def test_pulsing_lamps_leave_ripple_and_bands() -> None:
    taking = taken(
        light=PULSES, scenario="product", camera_move=STILL, pins={"shutter_s": 1 / 240, "camera": "cockle-3"}
    )
    made = Renderer(taking, EVEN, 3).seen(Moment(1.0), taking.exposed(1.0), Window(64, 540, 4.0))
    rows = made[..., 1].mean(axis=1)
    swing = (rows.max() - rows.min()) / (rows.max() + rows.min())
    assert swing == pytest.approx(0.6 * abs(np.sinc(100.0 / 240)), abs=0.02)
    # From one crossing of the middle to the next but one lies a band.
    about = rows - (rows.max() + rows.min()) / 2.0
    crossings = np.flatnonzero(np.diff(np.sign(about)) != 0)
    if len(crossings) >= 3:
        band_px = (crossings[2] - crossings[0]) * 4.0
        assert band_px == pytest.approx(2160 / (taking.readout_s * 100.0), rel=0.03)
    else:
        assert taking.readout_s * 100.0 < 1.5  # less than a band and a half fits


def test_whole_pulses_leave_nothing() -> None:
    taking = taken(
        light=PULSES, scenario="product", camera_move=STILL, pins={"shutter_s": 1 / 50, "camera": "limpet-7"}
    )
    rows = Renderer(taking, EVEN, 3).seen(Moment(1.0), taking.exposed(1.0), Window(64, 540, 4.0))[..., 1].mean(axis=1)
    assert rows.max() / rows.min() == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize("shot", ["day", "night", "water"])
def test_bits_are_those_of_the_plan(shot: str) -> None:
    from steady_tide.core.look.scenes import SCENES, usual_scene

    taking = taken(**SHOTS[shot])
    made = rendered(taking, SCENES[usual_scene(taking.at)], width=640, height=360, scale=6.0)
    found = compressed(made.codes, taking.bits_per_pixel, taking.look.bit_depth, taking.look.codec.efficiency)
    assert found.bits_per_pixel == pytest.approx(taking.bits_per_pixel, rel=0.15)
    assert np.abs(found.codes - made.codes).mean() < 0.03


@pytest.mark.parametrize("level", ["off", "standard", "strong"])
def test_steadying_leaves_what_is_priced(level: str) -> None:
    taking = taken(camera_move={"mount": "walking"}, pins={"stabilisation": level, "camera": "limpet-7"})
    renderer = Renderer(taking, POST, 5)
    times = np.linspace(0.0, 60.0, 1500)
    scale = 1.0
    left = np.array([renderer.way_px(POST.layers[0], float(t), scale) for t in times]) / taking.px_per_deg
    left -= left.mean(axis=0)
    wander = taking.at.mount.shake_deg_s * taking.at.mount.settle_s
    stabilisation = next(s for s in taking.space.sheet.stabilisation if s.id == level)
    margin = float(taking._seen.margin_deg[0])
    wanted = float(left_over_deg(wander, margin, stabilisation.leak)) if level != "off" else wander
    assert np.sqrt((left**2).sum(axis=1).mean()) == pytest.approx(wanted, rel=0.15)


@pytest.mark.parametrize(("rms", "settle"), [(2.0, 0.3), (12.0, 0.25), (60.0, 0.12)])
def test_a_path_has_its_mounts_speed_and_excursion(rms: float, settle: float) -> None:
    path = shake_of(rms, settle, 9)
    times = np.linspace(0.0, 400.0, 80_001)
    places = path.at(times)
    speed = np.diff(places, axis=0) / (times[1] - times[0])
    assert np.sqrt((speed**2).sum(axis=1).mean()) == pytest.approx(rms, rel=0.03)
    assert np.sqrt((places**2).sum(axis=1).mean()) == pytest.approx(rms * settle, rel=0.03)
    assert np.hypot(*path.speed(np.array(path.usual_moment_s(rms)))) == pytest.approx(rms, rel=0.05)


def test_water_gives_a_grey_card_the_colour_that_the_planner_has() -> None:
    taking = taken(**SHOTS["water"], pins={"colour_filter": None})
    for share, bands in zip((0.0, 1.0), taking.at.light.colour_stops, strict=True):
        grey = np.log2(grey_card(taking, share))
        assert grey - grey.max() == pytest.approx(bands, abs=0.03)


def test_slow_motion_without_enough_frames_shows_some_again() -> None:
    fast = taken(
        delivery={"slow_factor": 4, "width": 1920, "height": 1080}, pins={"frame_rate": 100, "camera": "limpet-7"}
    )
    slow = taken(
        delivery={"slow_factor": 4, "width": 1920, "height": 1080}, pins={"frame_rate": 50, "camera": "limpet-7"}
    )
    assert [number for number, _ in frame_times(fast, 0.4)] == list(range(10))
    assert [number for number, _ in frame_times(slow, 0.4)] == [0, 0, 1, 1, 2, 2, 3, 3, 4, 4]
    apart = np.diff([time for _, time in frame_times(fast, 0.4)])
    assert apart == pytest.approx(1 / 100)


def test_what_rides_along_stands_and_what_is_passed_goes_by() -> None:
    taking = taken(scenario="motion", camera_move={"mount": "chest", "travel_m_s": 8}, subject={"distance_m": [2, 8]})
    from steady_tide.core.look.scenes.mud import SCENE

    speeds = {layer.id: layer_speed_deg_s(taking, layer) for layer in SCENE.layers}
    assert speeds["gloves"] == (0.0, 0.0)
    assert speeds["mud"][1] == pytest.approx(-np.degrees(8 / 4))


def test_red_gain_lifts_red_after_the_sensor_also_behind_a_filter() -> None:
    """A filter takes light before the sensor; gain adds none, and is told apart also where both work."""
    by_kelvins = {"camera": "cockle-3", "white_balance_k": 6500}
    plain = taken(light=WATER, scenario="underwater", subject={"distance_m": [1, 2]}, pins=by_kelvins)
    filtered = (-0.1, 0.9, 1.3)
    glass, raised = (replace(plain.glass, band_stops=filtered, red_gain_stops=gain) for gain in (0.0, 1.0))
    behind, both = (with_glass(plain, one) for one in (glass, raised))
    for share in (0.0, 0.5, 1.0):
        work = plain.filter_share(share)
        assert 0.0 < work <= 1.0
        wanted = 2.0 ** (glass.colour_stops - work * np.array(filtered))
        assert through_filter(behind, share) == pytest.approx(wanted)
        assert through_filter(both, share) == pytest.approx(wanted)
        lifted = balance_gains(both, share, graded=False) / balance_gains(behind, share, graded=False)
        assert lifted == pytest.approx([2.0**work, 1.0, 1.0])


@pytest.mark.parametrize(("closest", "farthest"), [(0.3, None), (0.1, 0.25)])
def test_a_fixed_lens_is_sharp_between_its_ends_and_as_soft_beyond_as_it_is_priced(
    closest: float, farthest: float | None
) -> None:
    taking = taken(pins={"camera": "limpet-7"})
    lens = taking.lens.model_copy(update={"focus": "fixed", "closest_m": closest, "farthest_m": farthest})
    opening = float(taking.space.offer.openings_mm[taking.choice["gates"]])
    ends = (closest, farthest or 1e9)
    for distance in (0.05, 0.1, 0.2, 0.3, 1.0, 8.0):
        sharp = min(max(distance, ends[0]), ends[1])
        wanted = np.degrees(opening / 1000.0 * abs(1.0 / distance - 1.0 / sharp))
        assert float(fixed_spot_deg(lens, np.array(opening), distance)) == pytest.approx(wanted, rel=1e-6, abs=1e-12)
