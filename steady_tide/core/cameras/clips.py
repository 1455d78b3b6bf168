"""What a camera's own clips and stills tell of it: modes, bit rates, codecs, lens figures, as a draft to confirm."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field

from steady_tide.core.cameras.known import Known
from steady_tide.core.quantities.frame_rates import written_rate
from steady_tide.core.quantities.frozen import Frozen

# Codec names of the decoder, and what we call them. Older codecs than these are not recorded by cameras that have modes.
_CODECS = {
    "h264": "older",
    "hevc": "efficient",
    "av1": "efficient",
    "vp9": "efficient",
    "mpeg4": "older",
    "mjpeg": "mezzanine",
}
# Colour codes of ISO/IEC 23091-2. Source: h273.
_HLG, _PQ, _PRIMARIES_2020, _UNSAID = 18, 16, 9, 2
_BIT_STEPS = (1, 5, 10)  # Mb/s to which a mean is rounded, below 20, below 100, above


class FileFacts(Frozen):
    """What one file says of itself."""

    file: Annotated[str, Field(max_length=200)]
    size_bytes: Annotated[int, Field(ge=0)]
    kind: Literal["clip", "still"]
    width: Annotated[int, Field(ge=16, le=32_768)]
    height: Annotated[int, Field(ge=16, le=32_768)]
    rate: Annotated[float, Field(gt=0, le=4000)] | None = None
    codec: Annotated[str, Field(max_length=40)] | None = None
    pixel_format: Annotated[str, Field(max_length=40)] | None = None
    bits: Annotated[int, Field(ge=1, le=32)] | None = None
    bit_rate_mb_s: Annotated[float, Field(gt=0, le=100_000)] | None = None
    seconds: Annotated[float, Field(ge=0, le=1e7)] | None = None
    primaries: int = _UNSAID
    transfer: int = _UNSAID
    turned: Annotated[int, Field(ge=-360, le=360)] = 0
    sound: bool = False
    frames: Annotated[int, Field(ge=0)] = 0
    name: Annotated[str, Field(max_length=80)] = ""
    recorded_at: Annotated[
        str | None, Field(max_length=80, description="as the file has it, by the camera's clock")
    ] = None
    f_number: Annotated[float, Field(ge=0, le=1000)] | None = None
    shutter_s: Annotated[float, Field(ge=0, le=100_000)] | None = None
    iso: Annotated[float, Field(ge=0, le=1e8)] | None = None
    focal_mm: Annotated[float, Field(ge=0, le=10_000)] | None = None
    equivalent_mm: Annotated[float, Field(ge=0, le=10_000)] | None = None

    @property
    def written_rate(self) -> float | None:
        """Frames per second as they are written."""
        return None if self.rate is None else written_rate(round(self.rate, 3))


class ClipsDraft(Frozen):
    """A sheet's beginning from files, and what they cannot tell."""

    sheet: dict[str, Any]
    known: Known
    notes: tuple[tuple[str, str], ...]  # file, or empty for all of them; what to mind


def draft_of(facts: Sequence[FileFacts]) -> ClipsDraft:
    """Draft a sheet from files of one camera.

    facts: of its clips and stills. Returns modes with codecs, depths and bit rates, and lens figures; view,
    stabilisation and colour profile stand in no file and are left for the person to say.
    """
    clips = [entry for entry in facts if entry.kind == "clip"]
    stills = [entry for entry in facts if entry.kind == "still"]
    notes: list[tuple[str, str]] = []
    modes: dict[tuple[int, int, tuple[str, ...]], dict[str, Any]] = {}
    for clip in clips:
        rate = clip.written_rate
        if rate is None or not 1 <= rate <= 2000:
            notes.append((clip.file, "says no frame rate, so it gives no mode"))
            continue
        wide, high = clip.width, clip.height
        codec = _CODECS.get(clip.codec or "", clip.codec or "unknown")
        depth = 12 if (clip.bits or 8) >= 12 else 10 if (clip.bits or 8) >= 10 else 8
        key = (wide, high, (codec,))
        mode = modes.setdefault(
            key, {"width": wide, "height": high, "rates": [], "codecs": [codec], "bit_depths": [], "bit_rates_mb_s": []}
        )
        _add(mode["rates"], rate)
        _add(mode["bit_depths"], depth)
        mean = clip.bit_rate_mb_s or (clip.size_bytes * 8e-6 / clip.seconds if clip.seconds else None)
        if mean:
            _add(mode["bit_rates_mb_s"], _round_bits(mean))
        if clip.turned % 180:
            notes.append((clip.file, "is marked as turned upright; the mode stands as the sensor has it"))
        if clip.transfer in (_HLG, _PQ):
            notes.append((clip.file, "was recorded for a wide-range screen; no profile of the sheet is that yet"))
        elif clip.primaries == _PRIMARIES_2020:
            notes.append((clip.file, "names wide colours, as log profiles do: say which profile it was"))
        if rate <= 30 and clip.seconds and clip.frames and clip.frames / clip.seconds > 1.2 * rate:
            notes.append((clip.file, "its frames do not fit its rate: slowed in the camera?"))
    if clips:
        notes.append(
            (
                "",
                "View, stabilisation and profile stand in no file: say them below. A clip slowed in the camera hides its true rate.",
            )
        )
    sheet: dict[str, Any] = {"modes": [_sorted(mode) for mode in _merged(modes.values())]}
    known: dict[str, Any] = {}
    if stills:
        largest = max(stills, key=lambda still: still.width * still.height)
        if (megapixels := round(largest.width * largest.height / 1e6, 2)) > 0.1:
            known["megapixels"] = min(megapixels, 500.0)
        apertures = sorted(
            {round(still.f_number, 2) for still in stills if still.f_number and 0.5 < still.f_number <= 64}
        )
        if apertures:
            sheet["lenses"] = [{"id": "main", "f_numbers": apertures}]
        focal = next(
            (still.equivalent_mm for still in stills if still.equivalent_mm and 5 < still.equivalent_mm <= 600), None
        )
        if focal:
            known["equivalent_mm"] = focal
        for still in stills:
            if (
                still.focal_mm
                and still.equivalent_mm
                and 1 < (width := 36.0 * still.focal_mm / still.equivalent_mm) <= 60
            ):
                known["sensor_width_mm"] = round(width, 2)
                break
        isos = sorted({round(still.iso) for still in stills if still.iso and 10 <= still.iso <= 1_000_000})
        if isos:
            notes.append(("", f"Stills were taken at ISO {', '.join(map(str, isos))}; see which of them films offer."))
    names = [entry.name for entry in facts if entry.name]
    if names:
        sheet["name"] = names[0]
    return ClipsDraft(sheet=sheet, known=Known(**known), notes=tuple(notes))


def _add(values: list[Any], value: Any) -> None:
    if value not in values:
        values.append(value)


def _round_bits(mean: float) -> float:
    """A clip's mean to the step that menus offer near it."""
    step = _BIT_STEPS[0] if mean < 20 else _BIT_STEPS[1] if mean < 100 else _BIT_STEPS[2]
    return float(max(step, round(mean / step) * step))


def _merged(modes: Any) -> list[dict[str, Any]]:
    """Modes that differ only in their codec are one mode for the rates that both have."""
    found: list[dict[str, Any]] = []
    for mode in modes:
        like = next(
            (
                m
                for m in found
                if (m["width"], m["height"]) == (mode["width"], mode["height"])
                and set(m["rates"]) == set(mode["rates"])
            ),
            None,
        )
        if like:
            for field in ("codecs", "bit_depths", "bit_rates_mb_s"):
                for value in mode[field]:
                    _add(like[field], value)
            continue
        taken = {
            rate for m in found if (m["width"], m["height"]) == (mode["width"], mode["height"]) for rate in m["rates"]
        }
        shared = [rate for rate in mode["rates"] if rate in taken]
        for rate in shared:
            other = next(
                m for m in found if (m["width"], m["height"]) == (mode["width"], mode["height"]) and rate in m["rates"]
            )
            for field in ("codecs", "bit_depths", "bit_rates_mb_s"):
                for value in mode[field]:
                    _add(other[field], value)
        left = [rate for rate in mode["rates"] if rate not in taken]
        if left:
            found.append({**mode, "rates": left})
    return found


def _sorted(mode: dict[str, Any]) -> dict[str, Any]:
    kept = {
        name: sorted(values) if name != "codecs" else values
        for name, values in mode.items()
        if isinstance(values, list) and values
    }
    return {"width": mode["width"], "height": mode["height"], **kept}
