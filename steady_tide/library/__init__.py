"""The data that ships with the product, read into the core's models."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

import yaml

from steady_tide.core.errors import BadSheet, Fault
from steady_tide.core.kit import Chemistry, Kit, Knowledge, Mount, Weights
from steady_tide.core.light.sky import SkyStops
from steady_tide.core.light.sources import Place
from steady_tide.core.light.water import Waters, WaterType
from steady_tide.core.sheet import CameraSheet
from steady_tide.core.sheet_reading import read_sheet

HERE = Path(__file__).parent
LARGEST_SHEET_BYTES = 2_000_000


def _yaml(name: str) -> Any:
    return yaml.safe_load((HERE / name).read_text(encoding="utf-8"))


@cache
def knowledge() -> Knowledge:
    """Places, skies, waters, mounts, cells and weights. Returns the same frozen value each time."""
    waters = _yaml("waters.yaml")
    types = {
        entry["id"]: WaterType(
            id=entry["id"], name=entry["name"], kd_per_m=tuple(value / 100.0 for value in entry["kd"])
        )
        for entry in waters.pop("types")
    }
    return Knowledge(
        places={entry["id"]: Place.model_validate(entry) for entry in _yaml("places.yaml")},
        mounts={entry["id"]: Mount.model_validate(entry) for entry in _yaml("mounts.yaml")},
        weights=Weights.model_validate(_yaml("weights.yaml")),
        sky=SkyStops.model_validate(_yaml("sky.yaml")),
        waters=Waters.model_validate({**waters, "types": types}),
        chemistries={name: Chemistry.model_validate(entry) for name, entry in _yaml("cells.yaml").items()},
    )


@cache
def demo_kit() -> Kit:
    """All that the demo crew owns. Returns the same frozen value each time."""
    sheets = (load_sheet(path) for path in sorted((HERE / "sheets").glob("*.json")))
    return Kit.model_validate({"cameras": tuple(sheets), **_yaml("kit.yaml")})


def load_sheet(path: Path) -> CameraSheet:
    """Read a camera sheet from a file.

    path: of a JSON file. Returns the sheet.
    Raises BadSheet with the path of the fault; also where the file is missing, too large or no JSON.
    """
    try:
        if path.stat().st_size > LARGEST_SHEET_BYTES:
            raise BadSheet(
                Fault(
                    path.name,
                    f"is larger than {LARGEST_SHEET_BYTES // 1_000_000} MB",
                    "A camera sheet is a few kilobytes of JSON.",
                )
            )
        data = json.loads(path.read_bytes())
    except OSError as error:
        raise BadSheet(
            Fault(str(path), f"cannot be read ({error.strerror})", "Check the name and the rights of the file.")
        ) from None
    except (ValueError, RecursionError) as error:
        raise BadSheet(
            Fault(path.name, f"is not JSON: {error}", "Check the file with an editor that knows JSON.")
        ) from None
    return read_sheet(data, path.name)
