"""The page of the demo cameras: each figure of a sheet that a reader may ask about, and where it comes from."""

from __future__ import annotations

from collections.abc import Iterable

from steady_tide import library
from steady_tide.core.cameras.mode_map import shape_of
from steady_tide.core.gear.sheet import CameraSheet

INTRODUCTION = """# The demo cameras

All seven cameras are invented. Nothing in their sheets is copied from a real one. This page is written by `scripts/documents.py`
from the sheets in `steady_tide/library/sheets`; a test compares it with them.

| figure | where it comes from |
|---|---|
| frame sizes | 16:9 widths of the video standards (1280, 1920, 2560, 3840, 5120), and 4:3 or 3:2 frames of the same widths |
| photosites | 12 to 24 million in 4:3 or 3:2, with a few per cent more than the widest frame needs |
| pixel pitch | the sensor's width by its photosites; action cameras 1.15 to 1.75 µm, phones 1.0 to 1.8 µm, the camera drone 2.5 µm |
| full well | 2,000 to 2,150 electrons for each square micrometre, in the published range for such photosites (photon-transfer) |
| fastest rate of a frame | the lines that are read, times the readout of one; the reader refuses a sheet that breaks it |
| fields of view | a field that the lens can draw, cut down for the straighter views |
| ISO | full stops from the sensor's base, some of two thirds at its ends (iso12232), up to where the noise is plain |
| rates | those of 24, 25, 30, 50 and 60 fps timelines and their multiples, as far as the readout allows |
| bit rates | chosen: two for a codec, below what its card or memory writes |
| cells, heat, depths, limits of clips | chosen for the part that each camera plays |

What each is for: the **Limpet 7** is wide and tough, the **Cockle 3** older and plain, the **Winkle** small and cheap, the
**Sandpiper 2** flies on a gimbal, the **Turnstone** flies bare, the **Lugger 5** is a phone with its built-in app and manual
settings, the **Yawl 12** a phone for those who grade.
"""


def _list(values: Iterable[float]) -> str:
    return ", ".join(f"{value:g}" for value in values)


def _of(sheet: CameraSheet) -> str:
    sensors = [
        f"| {lens.name} | {_list(lens.f_numbers)} | {lens.sensor.width_px} × {lens.sensor.height_px} "
        f"| {lens.sensor.pixel_pitch_um:g} µm | {lens.sensor.full_well_e:g} | {lens.sensor.readout_ms:g} ms |"
        for lens in sheet.lenses
    ]
    sizes: dict[tuple[int, int], set[float]] = {}
    for mode in sheet.modes:
        sizes.setdefault((mode.width, mode.height), set()).update(mode.rates)
    frames = [
        f"| {width} × {height} | {shape_of(width, height)} | {_list(sorted(rates))} |"
        for (width, height), rates in sorted(sizes.items(), reverse=True)
    ]
    views = [f"{view.id} {view.field_deg:g}°" for view in sheet.views]
    rates = [f"{codec.id} {_list(codec.bit_rates_mb_s)} Mb/s" for codec in sheet.codecs]
    return "\n".join(
        [
            f"## {sheet.name}",
            "",
            "| lens | f-numbers | photosites | pitch | full well | readout |",
            "|---|---|---|---|---|---|",
            *sensors,
            "",
            "| frame | shape | rates, fps |",
            "|---|---|---|",
            *frames,
            "",
            f"- Views: {', '.join(views)}.",
            f"- Lowest ISO {_list(sheet.iso.floors)}; highest ISO {_list(sheet.iso.ceilings)}.",
            f"- Bit rates: {'; '.join(rates)}.",
            f"- White balance: {_list(sheet.balance_k)} K.",
            f"- Stabilisation: {', '.join(level.id for level in sheet.stabilisation)}.",
        ]
    )


def fleet_page() -> str:
    """The page of the demo cameras. Returns its text."""
    sheets = sorted(library.demo_kit().cameras, key=lambda sheet: sheet.name)
    return "\n\n".join([INTRODUCTION.strip(), *(_of(sheet) for sheet in sheets)]) + "\n"
