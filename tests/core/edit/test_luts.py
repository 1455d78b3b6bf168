"""Tables of colours: against an independent colour engine, the decoder library's own filter, and the exact way."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import PyOpenColorIO
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.edit.correcting import Correction
from steady_tide.core.edit.display import Developing, Floats, developing
from steady_tide.core.edit.luts import Lut, error_of, looked_up, lut_of, shaped_lut_of
from steady_tide.core.gear.sheet import Profile
from steady_tide.core.look.tones import Curve
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.formats.cube import write_cube
from tests.checks import at_least_one

LIMITS, LOOKS = library.knowledge().limits, library.looks()
PROFILES = [(camera.id, profile.id) for camera in library.demo_kit().cameras for profile in camera.profiles]
DONE = Correction(mired=-40, tint_stops=0.1, exposure_stops=0.7, veil=0.05, black=0.02, saturation=1.1)


def profile_of(camera: str, profile: str) -> Profile:
    sheet = library.demo_kit().camera(camera)
    assert sheet is not None
    return next(one for one in sheet.profiles if one.id == profile)


def of(camera: str, profile: str) -> Developing:
    return developing(profile_of(camera, profile), LIMITS)


LOG = of("yawl-12", "log")
COLOURS = np.random.default_rng(5).random((4000, 3))


def by_engine(lut: Lut, colours: Floats, folder: Path) -> Floats:
    """The same table as another engine reads it from its file."""
    file = folder / "one.cube"
    file.write_text(write_cube(lut))
    transform = PyOpenColorIO.FileTransform(src=str(file), interpolation=PyOpenColorIO.INTERP_TETRAHEDRAL)
    processor = PyOpenColorIO.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor()
    pixels = colours.astype(np.float32).copy()
    processor.apply(PyOpenColorIO.PackedImageDesc(pixels, len(pixels), 1, 3))
    return np.clip(pixels.astype(float), 0.0, 1.0)


@pytest.mark.parametrize("done", [None, DONE])
@pytest.mark.parametrize("make", [lut_of, shaped_lut_of])
def test_another_engine_reads_the_same_colours(make: object, done: Correction | None, tmp_path: Path) -> None:
    lut = make(replace(LOG, correction=done, look=LOOKS["deep"]), 'a "title"\nwith lines')  # type: ignore[operator]
    assert np.abs(by_engine(lut, COLOURS, tmp_path) - looked_up(lut, COLOURS)).max() * 1023 < 0.05


def test_the_decoders_own_filter_gives_a_frame_the_same_colours(tmp_path: Path) -> None:
    lut = lut_of(replace(LOG, correction=DONE), "shot")
    file = tmp_path / "shot.cube"
    file.write_text(write_cube(lut))
    codes = (np.random.default_rng(2).random((64, 96, 3)) * 65535).astype(np.uint16)
    frame = av.VideoFrame.from_ndarray(codes, format="rgb48le")
    frame.pts, frame.time_base = 0, Fraction(1, 25)
    graph = av.filter.Graph()
    source = graph.add_buffer(width=96, height=64, format="rgb48le", time_base=Fraction(1, 25))
    table = graph.add("lut3d", f"file={file}:interp=tetrahedral")
    sink = graph.add("buffersink")
    source.link_to(table)
    table.link_to(sink)
    graph.configure()
    source.push(frame)
    out = sink.pull().to_ndarray().reshape(-1, 3) / 65535
    assert np.abs(out - looked_up(lut, codes.reshape(-1, 3) / 65535)).max() * 1023 < 0.1


@pytest.mark.parametrize(("camera", "profile"), PROFILES)
def test_codes_and_light_go_round_within_a_code(camera: str, profile: str) -> None:
    how = of(camera, profile)
    codes = np.linspace(how.codes[0], 1.0, 4096)
    assert np.abs(how.recorded(how.light(codes)) - codes).max() * 1023 < 1.0
    assert how.light(np.array([0.0]))[0] <= 2.0**-13


@pytest.mark.parametrize(("camera", "profile"), PROFILES)
def test_how_exact_a_table_is(camera: str, profile: str) -> None:
    how = of(camera, profile)
    plain, shaped = error_of(lut_of(how, "x"), how), error_of(shaped_lut_of(how, "x"), how)
    assert shaped.most < 1.0, "with a shaper below a code of ten bits"
    assert plain.most < 8.0
    assert plain.mean < 0.5
    corrected = replace(how, correction=DONE)
    assert error_of(lut_of(corrected, "x"), corrected).mean < 0.8


def test_a_picture_is_developed_as_look_shows_it_graded() -> None:
    profile = profile_of("yawl-12", "log")
    headroom = LIMITS.look_headroom_share * profile.range_stops
    curve = Curve(headroom, profile.range_stops - headroom, profile.shadow_lift_stops, 1.0)
    codes = np.linspace(0.06, 1.0, 300)
    ours = LOG.developed(np.repeat(codes[:, None], 3, axis=1))[:, 0]
    assert np.abs(ours - curve.graded(codes)).max() * 1023 < 1.0


def test_grey_comes_out_as_grey() -> None:
    for camera, profile in at_least_one(PROFILES):
        how = of(camera, profile)
        grey = how.developed(np.full((1, 3), how.recorded(np.array([1.0]))[0]))[0]
        assert grey[0] == pytest.approx(1.055 * GREY_REFLECTANCE ** (1 / 2.4) - 0.055, abs=2e-3)
        assert np.ptp(grey) < 1e-9


def test_a_sheets_own_curve_counts() -> None:
    measured = Profile(
        id="log", range_stops=12, needs_grading_stops=1.6, bit_depths=(10,), curve=((0.1, -6.0), (0.4, 0.0), (0.9, 5.0))
    )
    how = developing(measured, LIMITS)
    assert how.own
    assert how.light(np.array([0.4, 0.9])) == pytest.approx([1.0, 32.0])
    assert how.headroom_stops == 5.0
    assert not LOG.own


@given(st.floats(-2.0, 2.0))
def test_a_stop_more_is_a_stop_more_of_light(stops: float) -> None:
    light = np.array([0.2])
    code = np.full((1, 3), LOG.recorded(light)[0])
    brighter = np.full((1, 3), LOG.recorded(light * 2.0**stops)[0])
    lifted = replace(LOG, correction=Correction(exposure_stops=stops), headroom_stops=LOG.headroom_stops - stops)
    assert lifted.developed(code)[0, 0] == pytest.approx(LOG.developed(brighter)[0, 0], abs=2e-3)


def test_highlights_that_were_held_stay_held() -> None:
    top = np.full((1, 3), LOG.recorded(np.array([2.0 ** (LOG.headroom_stops - 0.3)]))[0])
    lifted = replace(LOG, correction=Correction(exposure_stops=1.0))
    assert lifted.developed(top)[0, 0] < 1.0


@pytest.mark.parametrize("look", LOOKS)
def test_looks_leave_black_and_white_clean_and_rise(look: str) -> None:
    how = replace(LOG, look=LOOKS[look])
    codes = np.linspace(LOG.codes[0], 1.0, 400)
    shown = how.developed(np.repeat(codes[:, None], 3, axis=1))
    assert shown[0] == pytest.approx([0, 0, 0], abs=5e-3)
    assert np.ptp(shown[-1]) < 0.01
    assert (np.diff(shown, axis=0) > -1e-3).all()


def test_a_file_holds_its_points_in_order() -> None:
    lines = write_cube(lut_of(LOG, 'say "x"')).splitlines()
    assert lines[0] == 'TITLE "say x"'
    assert lines[1] == "LUT_3D_SIZE 33"
    assert len(lines) == 4 + 33**3
    first, second = (np.array(line.split(), dtype=float) for line in lines[4:6])
    assert second[0] >= first[0]
    assert second[1:] == pytest.approx(first[1:]), "red runs first"
