"""A simulated camera that films: takes from Look's frames, written as a camera writes them, with chosen faults and their truth."""

from __future__ import annotations

import os
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.sources import LampLight, MeterLight
from steady_tide.core.look.exposure_of_plan import Taking
from steady_tide.services.look_frames import LookAsked, Looker

BT709, SRGB = 1, 13  # source: h273
SOUND_HZ = 48_000
VOICE, HISS, GUSTS = 0.12, 0.002, 0.5  # of full scale


@dataclass(frozen=True)
class Faults:
    """What went otherwise than planned. light_stops: the light against the plan's; shake_times: the hand against what is
    usual; ripple: of the first lamp; settings: dials that were set otherwise; repeat_every: of so many frames one is
    shown twice; sound: voice, wind, or none."""

    light_stops: float = 0.0
    shake_times: float = 1.0
    ripple: float | None = None
    settings: dict[str, Any] = field(default_factory=dict)
    repeat_every: int = 0
    sound: str | None = None


def film_take(
    path: Path,
    brief: Brief,
    chosen: dict[str, Any],
    faults: Faults,
    kit: Kit,
    knowledge: Knowledge,
    crew: School,
    recorded_at: datetime,
    camera: str,
    seconds: float,
    seed: int,
    bits_per_pixel: float,
) -> dict[str, Any]:
    """Film a take and write it.

    path: of the file; brief: of the shot, in metered light or under lamps; chosen: settings of its plan; faults: what
    went otherwise; kit, knowledge, crew: as planned with; recorded_at: by the camera's clock; camera: its name; seconds:
    how long; seed: of shake and noise; bits_per_pixel: that the file may take. Returns its truth.
    """
    there = _there(brief, faults)
    if faults.shake_times != 1.0:
        mount = knowledge.mounts[brief.camera_move.mount]
        shaken = mount.model_copy(update={"shake_deg_s": mount.shake_deg_s * faults.shake_times})
        knowledge = knowledge.model_copy(update={"mounts": {**knowledge.mounts, mount.id: shaken}})
    pinned = {**chosen, **faults.settings}
    asked = LookAsked(
        brief=there, settings=pinned, size=(brief.delivery.width, brief.delivery.height), seed=seed, graded=False
    )
    looker = Looker()
    taking = looker.taking(asked, crew, kit, knowledge)
    rate = brief.delivery.fps
    count = round(seconds * rate)
    frames = _cadenced(looker.film(asked, taking, seconds, 0, count, compress=False), faults.repeat_every)
    written = _written(path, frames, rate, taking, recorded_at, camera, bits_per_pixel, faults.sound, seconds)
    exposed = taking.exposed(asked.at)
    return {
        "ev100": round(exposed.ev100, 2),
        "over_stops": round(exposed.over_stops, 2),
        "snr": round(taking.snr(exposed), 1),
        "shutter_s": exposed.shutter_s,
        "frames": written,
        "repeated_share": 0.0
        if not faults.repeat_every
        else round((written // faults.repeat_every) / (written - 1), 3),
    }


def _there(brief: Brief, faults: Faults) -> Brief:
    """The brief with the light that there was."""
    light = brief.light
    if isinstance(light, MeterLight) and light.ev100 is not None:
        middle = sum(light.ev100) / 2.0 + faults.light_stops
        return brief.model_copy(update={"light": light.model_copy(update={"ev100": (middle, middle)})})
    if isinstance(light, LampLight) and faults.ripple is not None:
        first = light.lamps[0].model_copy(update={"ripple": faults.ripple})
        return brief.model_copy(update={"light": light.model_copy(update={"lamps": (first, *light.lamps[1:])})})
    return brief


def _cadenced(frames: Iterator[NDArray[np.uint8]], repeat_every: int) -> Iterator[NDArray[np.uint8]]:
    """Frames, some of which are shown twice in place of the next."""
    before = None
    for number, frame in enumerate(frames):
        again = repeat_every and before is not None and number % repeat_every == 0
        before = before if again else np.ascontiguousarray(frame)
        assert before is not None
        yield before


def _written(
    path: Path,
    frames: Iterator[NDArray[np.uint8]],
    rate: float,
    taking: Taking,
    recorded_at: datetime,
    camera: str,
    bits_per_pixel: float,
    sound: str | None,
    seconds: float,
) -> int:
    part = path.with_suffix(".part")
    count = 0
    with av.open(str(part), "w", format="mp4", options={"movflags": "use_metadata_tags+faststart"}) as box:
        box.metadata["creation_time"] = recorded_at.isoformat().replace("+00:00", "Z")
        box.metadata["model"] = camera
        options = {"preset": "medium", "x265-params": "log-level=none"}
        stream = box.add_stream("libx265", rate=Fraction(rate).limit_denominator(1001), options=options)
        form = "yuv420p10le" if taking.look.bit_depth > 8 else "yuv420p"
        stream.pix_fmt = form
        audio = None if sound is None else box.add_stream("aac", rate=SOUND_HZ)
        for frame in frames:
            if count == 0:
                stream.height, stream.width = frame.shape[:2]
                stream.bit_rate = round(bits_per_pixel * frame.shape[0] * frame.shape[1] * rate)
                context = stream.codec_context
                context.color_trc, context.colorspace, context.color_primaries = SRGB, BT709, BT709
                context.color_range = 1
            whole = av.VideoFrame.from_ndarray(frame, format="rgb24")
            coded = whole.reformat(format=form, dst_colorspace=BT709, dst_color_range=1)
            for packet in stream.encode(coded):
                box.mux(packet)
            count += 1
        for packet in stream.encode(None):
            box.mux(packet)
        if audio is not None and sound is not None:
            for heard in _heard(sound, seconds):
                for packet in audio.encode(heard):
                    box.mux(packet)
            for packet in audio.encode(None):
                box.mux(packet)
    os.replace(part, path)
    return count


def _heard(sound: str, seconds: float) -> Iterator[av.AudioFrame]:
    """A voice-like murmur over hiss, in wind where that is asked for."""
    rng = np.random.default_rng(7)
    time = np.arange(round(seconds * SOUND_HZ) // 1024 * 1024) / SOUND_HZ
    made = VOICE * np.sin(2 * np.pi * 220 * time) * (
        0.6 + 0.4 * np.sin(2 * np.pi * 3 * time)
    ) + HISS * rng.standard_normal(len(time))
    if sound == "wind":
        rough = np.fft.rfft(rng.standard_normal(len(time)))
        low = np.fft.irfft(rough * (np.fft.rfftfreq(len(time), 1 / SOUND_HZ) < 80.0), len(time))
        made = made + GUSTS * low / np.abs(low).max() * (np.sin(2 * np.pi * 1.1 * time) > 0.0)
    both = np.clip(np.stack([made, made]), -1.0, 1.0).astype(np.float32)
    for start in range(0, both.shape[1], 1024):
        frame = av.AudioFrame.from_ndarray(
            np.ascontiguousarray(both[:, start : start + 1024]), format="fltp", layout="stereo"
        )
        frame.sample_rate, frame.pts = SOUND_HZ, start
        yield frame
