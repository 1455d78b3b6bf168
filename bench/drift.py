"""How far measures of footage stray on frames as cameras record them: drawn by Look, compressed at a plan's bits, measured.

Run: python bench/drift.py. Each shot is drawn for two seconds at delivered pixels about its middle, written nearly whole and at
the bits that its plan has, in H.264 and HEVC, with and without being smoothed as a camera smooths in the dark, and measured;
beside stands what it was drawn with.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
from numpy.typing import NDArray
from shots import DAY, NIGHT, WATER

from steady_tide import library
from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.look.rendering import Moment, Renderer, streak_px
from steady_tide.formats.rushes_worker import measured
from steady_tide.services.look_frames import LookAsked, Looker, scene_of

SHOTS: dict[str, dict[str, Any]] = {
    "quay, tripod": {"light": DAY, "camera_move": {"mount": "tripod"}},
    "quay, hand": {"light": DAY, "camera_move": {"mount": "walking"}},
    "quay, pan": {
        "light": DAY,
        "camera_move": {"mount": "tripod", "turn_deg_s": 6},
    },
    "punts": NIGHT,
    "jar": {
        "light": {"kind": "lamps", "lamps": [{"lux_at_1m": 900, "distance_m": 1.0, "kelvin": 5500}]},
        "scenario": "product",
        "camera_move": {"mount": "tripod"},
        "subject": {"distance_m": [0.5, 0.8]},
    },
    "eelgrass": {**WATER, "camera_move": {"mount": "tray"}},
    "frost": {"light": {"kind": "place", "place": "snow_or_sand_in_sun"}, "air_c": -6, "camera_move": {"mount": "two_hands"}},
    "creek": {
        "light": DAY, "scenario": "motion", "subject": {"distance_m": [15, 200]},
        "camera_move": {"mount": "drone_gimbal", "travel_m_s": 7},
    },
    "mud race": {
        "light": DAY, "scenario": "motion", "subject": {"distance_m": [0.6, 15], "speed_m_s": 3},
        "camera_move": {"mount": "chest", "travel_m_s": 3},
    },
    "stars": {
        "light": {"kind": "place", "place": "starlight"}, "scenario": "lapse", "camera_move": {"mount": "tripod"},
        "take": {"length_s": 21600, "count": 1},
    },
    "flour": {
        "light": {"kind": "lamps", "lamps": [{"lux_at_1m": 2200, "distance_m": 0.9, "kelvin": 5500}]},
        "scenario": "product", "subject": {"distance_m": [0.5, 0.8], "speed_m_s": 1},
        "camera_move": {"mount": "tripod"},
    },
}  # fmt: skip
WAYS = (("libx264", False, False), ("libx265", False, False), ("libx265", False, True), ("libx264", True, False),
        ("libx265", True, False), ("libx265", True, True))  # codec, at the plan's bits, smoothed  # fmt: skip
SIZE = (640, 360)


def written(path: Path, frames: list[NDArray[np.uint8]], codec: str, bits: float | None, fps: float) -> None:
    """Write a clip. bits: a pixel; None for nearly whole."""
    with av.open(str(path), "w") as box:
        options = {"preset": "veryfast", **({"x265-params": "log-level=none"} if codec == "libx265" else {})}
        if bits is None:
            options["crf"] = "2"
        stream = box.add_stream(codec, rate=Fraction(fps).limit_denominator(1001), options=options)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        if bits is not None:
            stream.bit_rate = round(bits * SIZE[0] * SIZE[1] * fps)
        for frame in frames:
            for packet in stream.encode(av.VideoFrame.from_ndarray(frame, format="rgb24")):
                box.mux(packet)
        for packet in stream.encode(None):
            box.mux(packet)


def smoothed(frames: list[NDArray[np.uint8]]) -> list[NDArray[np.uint8]]:
    """As a camera smooths: each frame with some of those before it where nothing moved, then by its neighbours of like tone."""
    found, before = [], frames[0].astype(np.float32)
    for frame in frames:
        now = frame.astype(np.float32)
        apart = cv2.GaussianBlur(np.abs(now - before).mean(axis=2), (0, 0), 2.0)
        share = (0.6 * np.exp(-((apart / 12.0) ** 2)))[..., None]
        before = share * before + (1.0 - share) * now
        found.append(cv2.bilateralFilter(np.clip(before, 0, 255).astype(np.uint8), 5, 12, 2.0))
    return found


def clips() -> Iterator[tuple[str, str, dict[str, Any], dict[str, float]]]:
    kit, knowledge, looker = library.demo_kit(), library.knowledge(), Looker()
    for name, what in SHOTS.items():
        asked = LookAsked(brief=read_brief(what), size=SIZE, loupe=(0.0, 0.0), graded=False)
        taking = looker.taking(asked, School(), kit, knowledge, "kit")
        renderer = Renderer(taking, scene_of(asked), asked.own_seed, looker.drawings)
        frames = [np.ascontiguousarray(frame) for frame in looker.film(asked, taking, 2.0, 0, 50, compress=False)]
        exposed = taking.exposed(asked.at)
        places = np.array([renderer.way_px(renderer.scene.layers[0], n / taking.rate, 1.0) for n in range(50)])
        moves = np.diff(places, axis=0)
        truth = {
            "snr": taking.snr(exposed),
            "shake": float(np.sqrt(((moves - moves.mean(axis=0)) ** 2).sum(axis=1).mean())),
            "blur": max(
                streak_px(renderer, Moment(asked.at), exposed, subject=False),
                float(np.hypot(*moves.mean(axis=0))) * exposed.shutter_s * taking.rate,
            ),
            "pan": float(np.hypot(*moves.mean(axis=0))),
        }
        with tempfile.TemporaryDirectory() as folder:
            plain = smoothed(frames)
            for codec, thin, camera in WAYS:
                path = Path(folder) / "clip.mp4"
                bits = taking.bits_per_pixel if thin else None
                written(path, plain if camera else frames, codec, bits, taking.at.brief.delivery.fps)
                with path.open("rb") as file:
                    found = measured(file, {"file": name, "form": "mov", "field_deg": None})
                rate = f"{bits:.2f} bits a pixel" if bits is not None else "nearly whole"
                yield name, f"{codec[3:]}, {rate}{', smoothed' if camera else ''}", found, truth


def said(value: float | None) -> str:
    return "   –" if value is None else f"{value:4.1f}"


def main() -> None:
    print(
        f"{'shot':<14} {'file':<34} {'SNR as drawn, measured':<24} {'shake':<12} {'pan':<12} {'smear':<12} doubts noise"
    )
    for name, file, found, truth in clips():
        motion, noise = found["motion"], found["noise"]
        print(
            f"{name:<14} {file:<34} {said(truth['snr'])} {said(noise['snr_grey']):<19} {said(truth['shake'])} "
            f"{said(motion['shake_px']):<7} {said(truth['pan'])} {said(motion['pan_px']):<7} {said(truth['blur'])} "
            f"{said(found['sharpness']['blur_px']):<7} {any(d['field'] == 'noise.snr_grey' for d in found['doubts'])}"
        )


if __name__ == "__main__":
    main()
