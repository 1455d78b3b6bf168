"""A sensor's noise from frames of a grey card at rising ISO: shot noise, read noise, full well.

In light as a share of white, a patch of mean S taken at g times the lowest ISO has the variance
a g S + b g^2 + c S^2: shot noise, read noise, and photosites that are not alike. Then 1/a electrons fill a
photosite at the lowest ISO, and sqrt(b)/a electrons are its read noise. Source: photon-transfer.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from steady_tide.core.measuring.transfer import Transfer, slope_at, to_light
from steady_tide.core.physics.noise import PHOTONS_PER_LUX_S_UM2
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import CALIBRATION_C

Floats = NDArray[np.float64]
FEWEST_STEPS, LEAST_SPREAD_STOPS = 3, 2.0
MOST_CLIPPED = 0.002
SMOOTHED = 0.12  # correlation of neighbours from which a camera must have smoothed the picture
SMALLEST_PATCH_PX = 48
FITS_WITHIN = 0.15
GREY = 0.18
LEAST_SHOT = 1e-8  # no photosite holds a hundred million electrons


class GreyStep(Frozen):
    """What frames of a grey card at one ISO came to."""

    iso: Annotated[int, Field(ge=10, le=1_000_000)]
    frames: Annotated[int, Field(ge=1, le=16)]
    pixels: Annotated[int, Field(ge=1, le=1_000_000_000)]
    level: Annotated[float, Field(ge=0, le=1.5, description="mean, share of white, in light")]
    variance: Annotated[float, Field(ge=0, le=4, description="of single photosites, in light")]
    by_difference: Annotated[bool, Field(description="from two frames, so that what stands still drops out")]
    clipped: Annotated[float, Field(ge=0, le=1, description="share of photosites at either end of the codes")]
    correlation: Annotated[float, Field(ge=-1, le=1, description="of neighbours; noise of a raw sensor has none")]
    step: Annotated[float, Field(ge=0, le=1, description="one code, in light at this level")]


class SnrPoint(Frozen):
    """Signal to noise at one ISO: as measured, and as fitted."""

    iso: int
    measured: float
    fitted: float
    electrons: float


class NoiseDoubt(Frozen):
    """Why a measurement may not say what it seems to."""

    code: Literal["smoothed", "coarse", "clipped", "poor_fit", "unsure", "single_frames"]
    text: str


class NoiseMeasured(Frozen):
    """A sensor's noise, with one standard error each."""

    base_iso: int
    read_noise_e: float
    read_noise_error_e: float
    full_well_e: float
    full_well_error_e: float
    unevenness: Annotated[float, Field(description="of photosites, share of the signal")]
    card_electrons: Annotated[float, Field(description="that the card left at the lowest ISO")]
    curve: tuple[SnrPoint, ...]
    misfit: Annotated[float, Field(description="largest deviation of a measured SNR from the curve, share")]
    doubts: tuple[NoiseDoubt, ...]


def grey_step(frames: Sequence[Floats], iso: int, transfer: Transfer, codes: int) -> GreyStep:
    """Work out mean and noise of a grey card.

    frames: one or more of the same, shares of the largest code, each (rows, columns) of one channel; iso: that
    they were taken at; transfer: of the file; codes: how many codes it has, such as 256. Returns the step.
    With two frames or more the noise comes from their differences; with one from what a tilted plane leaves.
    Raises BadFile where the patch is too small, or the frames differ in size.
    """
    first = frames[0]
    if min(first.shape) < SMALLEST_PATCH_PX:
        raise BadFile(
            Fault(
                "the frame",
                f"is only {first.shape[1]} x {first.shape[0]} pixels",
                "Fill the middle of the frame with the card.",
            )
        )
    if any(frame.shape != first.shape for frame in frames):
        raise BadFile(Fault("the frames", "differ in size", "Take all frames of a step in one mode."))
    light = [to_light(frame, transfer) for frame in frames]
    level = float(np.mean([frame.mean() for frame in light]))
    ends = [(frame >= 1.0 - 0.5 / codes) | (frame <= 0.0) for frame in frames]
    if len(light) > 1:
        left = [(one - other) / np.sqrt(2.0) for one, other in zip(light[::2], light[1::2], strict=False)]
        # Light that flickers lifts the whole frame; the sensor does not.
        residue = np.stack([difference - difference.mean() for difference in left])
    else:
        residue = np.stack([_without_tilt(light[0])])
    code = float(np.mean([frame.mean() for frame in frames]))
    step = slope_at(min(max(code, 0.0), 1.0), transfer) / (codes - 1)
    return GreyStep(
        iso=iso,
        frames=len(frames),
        pixels=int(residue.size),
        level=level,
        variance=float(max(0.0, residue.var() - step**2 / 12.0)),
        by_difference=len(light) > 1,
        clipped=float(np.mean([end.mean() for end in ends])),
        correlation=float(np.clip(_neighbours(residue), -1.0, 1.0)),
        step=step,
    )


def _without_tilt(frame: Floats) -> Floats:
    """What is left of a frame without the slow course of its light: a plane and its bend."""
    high, wide = frame.shape
    y, x = np.mgrid[-1 : 1 : high * 1j, -1 : 1 : wide * 1j]
    shapes = np.stack([np.ones_like(x), x, y, x * y, x**2, y**2], axis=-1).reshape(-1, 6)
    found, *_ = np.linalg.lstsq(shapes, frame.reshape(-1), rcond=None)
    return np.asarray(frame - (shapes @ found).reshape(frame.shape))


def _neighbours(residue: Floats) -> float:
    spread = float(residue.var())
    if spread <= 0:
        return 0.0
    return float(
        ((residue[:, :, 1:] * residue[:, :, :-1]).mean() + (residue[:, 1:] * residue[:, :-1]).mean()) / 2 / spread
    )


def fit_noise(steps: Sequence[GreyStep]) -> NoiseMeasured:
    """Fit shot and read noise to a ladder.

    steps: of one camera in one mode, at three ISO or more over two stops or more. Returns the noise with its
    errors and doubts. Raises BadFile where the ladder is too short, or every step is clipped.
    """
    good = sorted(
        (step for step in steps if step.clipped <= MOST_CLIPPED and step.level > 0), key=lambda step: step.iso
    )
    doubts = list(_doubts(steps))
    isos = sorted({step.iso for step in good})
    if len(isos) < FEWEST_STEPS or np.log2(isos[-1] / isos[0]) < LEAST_SPREAD_STOPS:
        clipped = [step.iso for step in steps if step.clipped > MOST_CLIPPED]
        raise BadFile(
            Fault(
                "the ladder",
                f"has {len(isos)} usable ISO steps"
                + (f"; those at ISO {', '.join(map(str, clipped))} are clipped" if clipped else ""),
                "Take frames at three ISO or more, two stops or more apart from end to end, the card near the middle.",
            )
        )
    base = isos[0]
    gain = np.array([step.iso / base for step in good])
    level = np.array([step.level for step in good])
    variance = np.array([step.variance for step in good])
    pixels = np.array([float(step.pixels) for step in good])
    single = np.array([not step.by_difference for step in good])
    found, covariance, with_uneven = _fitted(gain, level, variance, pixels, single)
    shot, read, uneven = found
    if shot < LEAST_SHOT:
        raise BadFile(
            Fault(
                "the ladder",
                "the noise does not grow with the light",
                "Use frames without noise reduction, all in one mode.",
            )
        )
    full_well = 1.0 / shot
    read_e = float(np.sqrt(max(read, 0.0))) / shot
    # Errors of quotients, from the covariance of the fit.
    well_error = full_well * float(np.sqrt(covariance[0, 0])) / shot
    if read > 0:
        by = np.array([-read_e / shot, 0.5 / np.sqrt(read) / shot])
        read_error = float(np.sqrt(by @ covariance[:2, :2] @ by))
    else:
        read_error = float(np.sqrt(np.sqrt(covariance[1, 1]))) / shot
    fitted = shot * gain * level + read * gain**2 + (uneven * level**2 if with_uneven else 0.0) * single
    curve = tuple(
        SnrPoint(
            iso=step.iso,
            measured=float(step.level / np.sqrt(max(step.variance, 1e-18))),
            fitted=float(step.level / np.sqrt(max(model, 1e-18))),
            electrons=float(step.level / (shot * step.iso / base)),
        )
        for step, model in zip(good, fitted, strict=True)
    )
    misfit = max(abs(point.measured / point.fitted - 1.0) for point in curve)
    if misfit > FITS_WITHIN:
        doubts.append(
            NoiseDoubt(
                code="poor_fit",
                text=f"One step lies {misfit:.0%} off the curve. The camera may switch its reading or its noise reduction with the ISO.",
            )
        )
    if single.any() and len(isos) <= FEWEST_STEPS:
        doubts.append(
            NoiseDoubt(
                code="single_frames",
                text="Single frames at three ISO cannot tell noise from photosites that are not alike; the full well may be "
                "off by a quarter. Take two frames of each step, or a fourth ISO.",
            )
        )
    if read_error > 0.25 * max(read_e, 1e-9):
        doubts.append(NoiseDoubt(code="unsure", text="The read noise is unsure: go to a higher ISO, where it shows."))
    return NoiseMeasured(
        base_iso=base,
        read_noise_e=read_e,
        read_noise_error_e=read_error,
        full_well_e=full_well,
        full_well_error_e=well_error,
        unevenness=float(np.sqrt(max(uneven, 0.0))),
        card_electrons=curve[0].electrons,
        curve=curve,
        misfit=float(misfit),
        doubts=tuple(doubts),
    )


def _fitted(
    gain: Floats, level: Floats, variance: Floats, pixels: Floats, single: NDArray[np.bool_]
) -> tuple[NDArray[Any], NDArray[Any], bool]:
    """Weighted least squares, the weights taken from the fit itself. Returns a, b, c, their covariance, whether c counts."""
    with_uneven = bool(single.any()) and len(np.unique(gain)) >= FEWEST_STEPS + 1
    columns = [gain * level, gain**2]
    if with_uneven:
        columns.append(level**2 * single)
    shapes = np.stack(columns, axis=1)
    model = np.maximum(variance, 1e-18)
    found: NDArray[Any] = np.zeros(len(columns))
    for _ in range(12):
        weight = np.sqrt(pixels / 2.0) / model
        found, *_ = np.linalg.lstsq(shapes * weight[:, None], variance * weight, rcond=None)
        model = np.maximum(shapes @ found, variance.min() * 0.05 + 1e-18)
    if with_uneven and found[2] < 0:
        return _fitted(gain, level, variance, pixels, np.zeros_like(single))
    if found[1] < 0:
        # No read noise to be seen: shot noise alone.
        alone = (shapes[:, 0] * weight) @ (variance * weight) / np.square(shapes[:, 0] * weight).sum()
        found = np.array([alone, 0.0, *found[2:]])
        model = np.maximum(shapes @ found, 1e-18)
    weight = np.sqrt(pixels / 2.0) / model
    covariance: NDArray[Any] = np.linalg.pinv((shapes * weight[:, None]).T @ (shapes * weight[:, None]))
    return np.array([*found, *([0.0] if not with_uneven else [])]), covariance, with_uneven


def _doubts(steps: Sequence[GreyStep]) -> list[NoiseDoubt]:
    found = []
    smoothed = [step.iso for step in steps if step.correlation > SMOOTHED]
    if smoothed:
        found.append(
            NoiseDoubt(
                code="smoothed",
                text=f"Neighbouring photosites are alike at ISO {', '.join(map(str, sorted(set(smoothed))))}: the camera smooths the picture, "
                "so less noise was seen than the sensor has. Use stills without processing, or its weakest noise reduction and low sharpness.",
            )
        )
    coarse = [step.iso for step in steps if step.variance < (0.5 * step.step) ** 2]
    if coarse:
        found.append(
            NoiseDoubt(
                code="coarse",
                text=f"At ISO {', '.join(map(str, sorted(set(coarse))))} the noise is smaller than half a code. Use files of more bits.",
            )
        )
    clipped = [step.iso for step in steps if step.clipped > MOST_CLIPPED]
    if clipped:
        found.append(
            NoiseDoubt(
                code="clipped",
                text=f"Frames at ISO {', '.join(map(str, sorted(set(clipped))))} are clipped and were left out.",
            )
        )
    return found


def light_used(measured: NoiseMeasured, pixel_pitch_um: float) -> float | None:
    """Share of the photons that became electrons, lens included, if the card was exposed as metered.

    measured: of a ladder exposed by the camera's own meter without compensation; pixel_pitch_um: side of a
    photosite, micrometres. Returns quantum efficiency times transmission, or None where it cannot be. Source: iso12232.
    """
    asked = PHOTONS_PER_LUX_S_UM2 * pixel_pitch_um**2 * GREY * CALIBRATION_C / (4.0 * measured.base_iso)
    share = measured.card_electrons / asked
    return float(share) if 0.02 < share <= 1.0 else None
