"""Frames as a whole: the same for the same, parts that fit the whole, curves that can be undone, scenes that are in order."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.look.clip_marks import marked
from steady_tide.core.look.drawing import Canvas, box, ellipse, stroke
from steady_tide.core.look.rendering import Drawings, Moment, Renderer, Window, record_fast, shown
from steady_tide.core.look.scene import Scene, drawn
from steady_tide.core.look.scenes import ALL, SCENES, usual_scene
from steady_tide.core.look.smear import disc_spot, path_spot
from steady_tide.core.look.tones import Curve
from steady_tide.core.measuring.frame_measures import length_of_spot
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.situation import situation
from tests.briefs import LANTERNS, brief
from tests.core.look.made_scenes import EVEN, RAMP, rendered, taken

WHOLE = Window(320, 180, 12.0)


def test_the_same_is_drawn_the_same_however_often() -> None:
    taking, drawings = taken(light=LANTERNS, scenario="low_light", camera_move={"mount": "tripod"}), Drawings()
    renderer = Renderer(taking, SCENES["punts"], 7, drawings)
    first = renderer.frame(Moment(0.5), WHOLE)
    again = renderer.frame(Moment(0.5), WHOLE)
    fresh = Renderer(taking, SCENES["punts"], 7).frame(Moment(0.5), WHOLE)
    assert np.array_equal(first.codes, again.codes)
    assert np.array_equal(first.codes, fresh.codes)


def test_the_seed_changes_noise_and_shake_and_nothing_else() -> None:
    taking = taken(camera_move={"mount": "tripod"})
    one, other = (rendered(taking, RAMP, seed=seed) for seed in (1, 2))
    assert not np.array_equal(one.codes, other.codes)
    assert one.exposed == other.exposed
    noise = np.abs(one.light - other.light)
    assert noise.mean() < 0.05
    blocks = [frame.light.reshape(27, 10, 48, 10, 3).mean(axis=(1, 3)) for frame in (one, other)]
    assert blocks[0] == pytest.approx(blocks[1], rel=0.05, abs=0.01)


@pytest.mark.parametrize("centre", [(0.0, 0.0), (-0.2, 0.15)])
def test_a_loupe_shows_a_part_of_the_frame(centre: tuple[float, float]) -> None:
    taking = taken(camera_move={"mount": "tripod"})
    renderer = Renderer(taking, SCENES["quay"], 5)
    exposed = taking.exposed(0.5)
    whole = renderer.seen(Moment(0.5), exposed, Window(960, 540, 4.0))
    part = renderer.seen(Moment(0.5), exposed, Window(480, 272, 1.0, centre))
    small = part.reshape(68, 4, 120, 4, 3).mean(axis=(1, 3))
    row, column = round((0.5 + centre[1]) * 540 - 34), round((0.5 + centre[0]) * 960 - 60)
    there = whole[row : row + 68, column : column + 120]
    assert np.abs(small - there).mean() < 0.15 * there.mean()


@given(headroom=st.floats(2.0, 5.0), shadow=st.floats(5.0, 9.0), lift=st.floats(0.0, 1.5), log=st.floats(0.0, 1.0))
def test_curves_rise_and_can_be_undone(headroom: float, shadow: float, lift: float, log: float) -> None:
    curve = Curve(headroom, shadow, lift, log)
    light = np.geomspace(2.0**-7, curve.white, 200)
    codes = curve.record(light)
    assert (np.diff(codes) > -1e-12).all()
    assert codes[-1] == pytest.approx(1.0, abs=1e-6)
    before_white = light < curve.white * 2.0**-0.05
    assert curve.undo(codes)[before_white] == pytest.approx(light[before_white], rel=0.01)
    assert record_fast(curve, light.astype(np.float32)) == pytest.approx(codes, abs=0.003)


def test_a_finished_picture_is_graded_already_and_grey_is_where_it_belongs() -> None:
    finished, flat = Curve(2.75, 7.5), Curve(3.3, 8.9, 0.8, 0.75)
    codes = np.linspace(0.0, 1.0, 50)
    assert finished.graded(codes) == pytest.approx(codes, abs=0.002)
    grey = np.array([1.0])
    assert flat.graded(flat.record(grey)) == pytest.approx(finished.record(grey), abs=0.01)
    assert finished.record(grey)[0] == pytest.approx(0.461, abs=0.01)  # 0.18 of white, as displays code it
    # As recorded it is flatter: two stops make less of a difference.
    two = np.array([0.5, 2.0])
    assert np.ptp(flat.record(two)) < 0.9 * np.ptp(finished.record(two))


@given(length=st.floats(3.0, 200.0), way=st.floats(0.0, 3.14))
def test_the_length_of_a_streak_is_measured(length: float, way: float) -> None:
    path = np.linspace(-0.5, 0.5, 2001)[:, None] * length * np.array([np.cos(way), np.sin(way)])
    spot = path_spot(path)
    assert spot is not None
    assert float(spot.sum()) == pytest.approx(1.0, abs=1e-3)
    assert length_of_spot(spot) == pytest.approx(length, abs=0.3)


def test_a_disc_has_its_area_and_the_sharp_has_none() -> None:
    spot = disc_spot(20.0)
    assert spot is not None
    assert (spot > spot.max() / 2).sum() == pytest.approx(np.pi * 100, rel=0.05)
    assert disc_spot(0.4) is None
    assert path_spot(np.zeros((9, 2))) is None
    assert length_of_spot(None) == 0.0


@pytest.mark.parametrize(
    ("shape", "area"),
    [(ellipse(0.0, 0.0, 0.2, 0.1, 30.0), np.pi * 0.02), (box(0.05, 0.0, 0.2, 0.1), 0.08), (stroke(-0.1, 0, 0.1, 0, 0.05), 0.02 + np.pi * 0.0025)],
)  # fmt: skip
def test_shapes_cover_their_area(shape: object, area: float) -> None:
    side = np.linspace(-0.5, 0.5, 400, dtype=np.float32)
    x, y = (np.ascontiguousarray(part) for part in np.meshgrid(side, side))
    inside = shape.outside(x, y) < 0  # type: ignore[attr-defined]
    assert inside.mean() == pytest.approx(area, rel=0.03)


@pytest.mark.parametrize("scene", ALL, ids=lambda scene: scene.id)
def test_scenes_have_what_can_be_judged(scene: Scene) -> None:
    """A subject, highlights and shadows, something neutral that is named, and detail down to the pixel."""
    side = (np.arange(480, dtype=np.float32) - 239.5) / 480
    x, y = np.meshgrid(side, -side[105:375])
    canvas = Canvas(np.ascontiguousarray(x), np.ascontiguousarray(y), np.full(x.shape, 1 / 480, np.float32))
    total = np.zeros((*x.shape, 3), np.float32)
    for layer in scene.layers:
        sheet = drawn(layer, canvas)
        assert np.isfinite(sheet.light).all()
        assert sheet.light.min() >= 0.0
        assert sheet.cover.min() >= 0.0
        assert sheet.cover.max() <= 1.0 + 1e-5
        total = total * (1.0 - sheet.cover)[..., None] + sheet.light
    luminance = total @ np.array([0.2126, 0.7152, 0.0722])
    stops = np.log2(np.maximum(luminance, 1e-6) / 0.18)
    assert np.percentile(stops, 99.9) > 1.0
    assert np.percentile(stops, 2) < -0.5
    assert np.abs(np.diff(stops, axis=1)).mean() > 0.01
    assert any(layer.depth == "subject" for layer in scene.layers)
    assert len({layer.depth for layer in scene.layers}) >= 2
    assert scene.neutral
    assert any(scene.id in kind.scenes for kind in library.knowledge().scenarios.values())


@pytest.mark.parametrize("kind", ["everyday", "underwater", "low_light", "motion", "product", "lapse"])
def test_each_kind_of_shot_has_a_scene(kind: str) -> None:
    knowledge = library.knowledge()
    at = situation(brief(scenario=kind), knowledge, USUAL)
    listed = knowledge.scenarios[kind].scenes
    assert usual_scene(at) in listed
    assert set(listed) <= set(SCENES)


def test_an_enlarged_frame_has_no_more_than_its_photosites() -> None:
    """At delivered pixels, of a camera with fewer photosites: noise lies over more than one pixel."""
    taking = taken(light=LANTERNS, scenario="low_light", pins={"camera": "cockle-3", "frame": "1920x1080"})
    assert taking.sites_per_px < 1.0
    light = rendered(taking, EVEN, share=0.0, width=320, height=180, scale=1.0).light[..., 1]
    about = light - light.mean()
    alike = (about[:, 1:] * about[:, :-1]).mean() / (about**2).mean()
    assert alike > 0.1


def test_marks_are_patterns() -> None:
    taking = taken(camera_move={"mount": "tripod"})
    made = rendered(taking, RAMP, width=640, height=64, scale=6.0)
    plain = shown(made.curve, made.codes, False)
    found = marked(plain, made.codes, made.curve)
    changed = (found != plain).any(axis=2).mean(axis=0)
    full = (made.codes.max(axis=2) >= 0.9985).all(axis=0)
    assert 0.2 < changed[full].mean() < 0.5
    middle = (made.codes.max(axis=2) > 0.3).all(axis=0) & (made.codes.max(axis=2) < 0.8).all(axis=0)
    assert changed[middle].max() == 0.0
