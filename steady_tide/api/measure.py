"""Routes of measuring: a grey card's ladder, and glass. Frames are read, worked out and forgotten."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import File, Query, UploadFile
from pydantic import BaseModel, Field

from steady_tide.api.station import station
from steady_tide.core.cameras.clips import FileFacts
from steady_tide.core.measuring.glass import GlassMeasured, measure_glass
from steady_tide.core.measuring.noise_ladder import GreyStep, NoiseMeasured, fit_noise
from steady_tide.core.measuring.noise_ladder import grey_step as work_out
from steady_tide.core.measuring.transfer import Transfer
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.formats.frames_in import (
    MOST_FRAMES,
    Frames,
    exposure_between,
    iso_of,
    ladder_of,
    same_mode,
    usual_transfer,
)
from steady_tide.formats.media_in import facts_of_bytes, frames_of_bytes
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame

router = station("measure", "/measure")
MOST_FILES = 8
Curve = Annotated[Literal["usual", "linear", "srgb", "rec709"], Query(description="curve of the files")]


class Ladder(BaseModel):
    """Steps of one grey card."""

    steps: Annotated[list[GreyStep], Field(min_length=1, max_length=40)]


class GlassOut(BaseModel):
    """The glass, and whether the files said how they were exposed."""

    glass: GlassMeasured
    exposure_known: bool


def _read(file: UploadFile, count: int) -> Frames:
    name, data = (file.filename or "the frame")[:200], file.file.read()
    facts: FileFacts = facts_of_bytes(name, data)
    values, codes = frames_of_bytes(name, data, count)
    return Frames(facts, codes, values)


def _curve(text: str) -> Transfer | None:
    curves: dict[str, Transfer | None] = {"usual": None, "linear": "linear", "srgb": "srgb", "rec709": "rec709"}
    return curves[text]


@router.post("/grey-step")
def grey_step(
    files: Annotated[list[UploadFile], File(description="frames at one ISO, two or more for the best")],
    iso: Annotated[
        int | None, Query(ge=10, le=1_000_000, description="left out: from the files' data or names")
    ] = None,
    transfer: Curve = "usual",
) -> list[GreyStep]:
    """Work out level and noise of frames of a grey card, grouped by ISO."""
    if len(files) > MOST_FILES:
        raise BadFile(Fault("the frames", f"are {len(files)}", f"Send {MOST_FILES} at once."))
    read = [_read(file, MOST_FRAMES) for file in files]
    same_mode(read)
    isos = []
    for frames in read:
        its = iso or iso_of(frames.facts)
        if its is None:
            raise BadFile(
                Fault(frames.facts.file, "does not say its ISO", "Type it, or name the file such as card-iso800-1.png.")
            )
        isos.append(its)
    return list(ladder_of(read, isos, _curve(transfer)))


class SampleLadder(BaseModel):
    """Steps of a simulated camera, and how it truly is."""

    steps: list[GreyStep]
    true_read_noise_e: float
    true_full_well_e: float


@router.get("/sample-ladder")
def sample_ladder() -> SampleLadder:
    """Frames of a simulated camera, worked out like one's own: to see what comes of it before filming."""
    sensor = SimulatedSensor(read_noise_e=2.9, full_well_e=6400.0, unevenness=0.006)
    rng = np.random.default_rng(20)
    steps = [
        work_out(
            [grey_frame(sensor, iso, rng, shape=(256, 384), tilt=0.08)[..., 1] for _ in range(2)], iso, "linear", 65_536
        )
        for iso in (100, 200, 400, 800, 1600, 3200)
    ]
    return SampleLadder(steps=steps, true_read_noise_e=sensor.read_noise_e, true_full_well_e=sensor.full_well_e)


@router.post("/noise")
def noise(ladder: Ladder) -> NoiseMeasured:
    """Fit shot and read noise to the steps of a ladder."""
    return fit_noise(ladder.steps)


@router.post("/glass")
def glass(
    with_glass: Annotated[UploadFile, File(description="a frame through the glass")],
    without: Annotated[UploadFile, File(description="the same scene without it")],
    exposure_stops: Annotated[
        float | None,
        Query(
            ge=-20, le=20, description="how much more the frame with the glass was exposed; left out: from the files"
        ),
    ] = None,
    transfer: Curve = "usual",
) -> GlassOut:
    """Find the density and the colour of a piece of glass from two frames."""
    behind, bare = _read(with_glass, 1), _read(without, 1)
    between = exposure_stops if exposure_stops is not None else exposure_between(behind.facts, bare.facts)
    found = measure_glass(
        behind.values[0],
        bare.values[0],
        _curve(transfer) or usual_transfer(bare.facts, bare.codes),
        min(behind.codes, bare.codes),
        between or 0.0,
    )
    return GlassOut(glass=found, exposure_known=between is not None)
