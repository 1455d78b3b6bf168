"""How far measures of footage stray on frames as cameras record them: drawn by Look, compressed at a plan's bits, measured.

Run: python bench/drift.py. Each shot is drawn for two seconds at delivered pixels about its middle, written once nearly whole
and once at the bits that its plan has, in H.264 and HEVC, and measured; beside stands what it was drawn with.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray
from shots import DAY, NIGHT, WATER

from steady_tide import library
from steady_tide.core.brief import School, read_brief
from steady_tide.core.look.rendering import Moment, Renderer, streak_px
from steady_tide.formats.rushes_worker import measured
from steady_tide.services.looking import LookAsked, Looker, scene_of

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
}
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
            "blur": streak_px(renderer, Moment(asked.at), exposed, subject=False),
            "pan": float(np.hypot(*moves.mean(axis=0))),
        }
        with tempfile.TemporaryDirectory() as folder:
            for codec in ("libx264", "libx265"):
                for bits in (None, taking.bits_per_pixel):
                    path = Path(folder) / "clip.mp4"
                    written(path, frames, codec, bits, taking.at.brief.delivery.fps)
                    with path.open("rb") as file:
                        found = measured(file, {"file": name, "form": "mov", "field_deg": None})
                    rate = "nearly whole" if bits is None else f"{bits:.2f} bits a pixel"
                    yield name, f"{codec[3:]}, {rate}", found, truth


def said(value: float | None) -> str:
    return "   –" if value is None else f"{value:4.1f}"


def main() -> None:
    print(f"{'shot':<14} {'file':<24} {'SNR as drawn, measured':<24} {'shake':<12} {'pan':<12} smear")
    for name, file, found, truth in clips():
        motion, noise = found["motion"], found["noise"]
        print(
            f"{name:<14} {file:<24} {said(truth['snr'])} {said(noise['snr_grey']):<19} {said(truth['shake'])} "
            f"{said(motion['shake_px']):<7} {said(truth['pan'])} {said(motion['pan_px']):<7} {said(truth['blur'])} "
            f"{said(found['sharpness']['blur_px'])}"
        )


if __name__ == "__main__":
    main()
