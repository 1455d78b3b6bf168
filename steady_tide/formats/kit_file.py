"""Camera sheets and whole kits as JSON or YAML."""

from __future__ import annotations

import json
from collections import Counter
from pathlib import Path
from typing import Any, Literal

import yaml
from pydantic import ValidationError

from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.gear.items import KINDS
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, BadInput, BadSheet, Fault
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.formats.decoded import decoded
from steady_tide.formats.readable import readable_json

Spelling = Literal["json", "yaml"]


def read_kit_file(data: bytes, name: str) -> KitFile:
    """Read a kit, or one camera sheet as a kit of one.

    data: JSON or YAML; name: of the file, for messages. Returns the kit.
    Raises BadFile where it cannot be decoded, BadSheet with the path of every fault.
    """
    doc = decoded(data, name)
    if isinstance(doc, dict) and doc.get("format") == "steady-tide/camera-sheet":
        return KitFile(format="steady-tide/kit", version=2, cameras=(read_sheet(doc, name),))
    if not isinstance(doc, dict) or doc.get("format") != "steady-tide/kit":
        raise BadFile(
            Fault(
                name,
                "is neither a camera sheet nor a kit",
                'It begins with {"format": "steady-tide/camera-sheet"} or "steady-tide/kit".',
            )
        )
    cameras = doc.get("cameras") or []
    faults: list[Fault] = []
    if isinstance(cameras, list):
        for index, sheet in enumerate(cameras):
            try:
                read_sheet(sheet, f"{name}.cameras[{index}]")
            except BadSheet as error:
                faults.extend(error.faults)
    if faults:
        raise BadSheet(*faults)
    try:
        kit = KitFile.model_validate(doc)
    except ValidationError as error:
        raise BadFile(*faults_of(error, (name,))) from None
    for kind in ("cameras", *KINDS):
        counts = Counter(thing.id for thing in getattr(kit, kind))
        faults += [
            Fault(f"{name}.{kind}", f"'{key}' stands more than once", "Give each its own id.")
            for key, n in counts.items()
            if n > 1
        ]
    if faults:
        raise BadFile(*faults)
    return kit


def load_sheet(path: Path) -> CameraSheet:
    """Read a camera sheet from a file, JSON or YAML.

    path: of the file. Returns the sheet. Raises BadSheet with the path of the fault; also where the file is
    missing, too large or cannot be decoded.
    """
    try:
        if path.stat().st_size > sizes.KIT:
            raise BadSheet(
                Fault(
                    path.name,
                    f"is larger than {sizes.in_mb(sizes.KIT)} MB",
                    "A camera sheet is some kilobytes of text.",
                )
            )
        data = path.read_bytes()
    except OSError as error:
        raise BadSheet(
            Fault(str(path), f"cannot be read ({error.strerror})", "Check the name and the rights of the file.")
        ) from None
    try:
        return read_sheet(decoded(data, path.name), path.name)
    except BadFile as error:
        raise BadSheet(*error.faults) from None


def write_sheet_file(sheet: CameraSheet, spelling: Spelling = "json") -> str:
    """Write a camera sheet. sheet: as kept; spelling: json or yaml. Returns the text."""
    return _written(
        sheet.model_dump(mode="json", exclude_defaults=True) | {"format": sheet.format, "version": sheet.version},
        spelling,
    )


def write_kit_file(kit: KitFile, spelling: Spelling = "json") -> str:
    """Write a kit. kit: as kept; spelling: json or yaml. Returns the text."""
    doc = kit.model_dump(mode="json", exclude_defaults=True)
    doc["cameras"] = [
        {"format": s.format, "version": s.version, **s.model_dump(mode="json", exclude_defaults=True)}
        for s in kit.cameras
    ]
    return _written({"format": kit.format, "version": kit.version, **doc}, spelling)


def _written(doc: dict[str, Any], spelling: Spelling) -> str:
    ordered = {"format": doc["format"], "version": doc["version"], **doc}
    if spelling == "json":
        return readable_json(ordered, 2, sizes.KIT)
    if len(json.dumps(ordered, ensure_ascii=False).encode()) > sizes.YAML // 2:
        raise BadInput(Fault("spelling", "this kit is too large to be read again as YAML", "Take it as JSON."))
    return yaml.dump(ordered, Dumper=_Quoting, allow_unicode=True, sort_keys=False, width=120, default_flow_style=None)


class _Quoting(yaml.SafeDumper):
    """YAML that other readers take the same way: what looks like anything but text is quoted, nothing is aliased."""

    def ignore_aliases(self, data: Any) -> bool:
        return True
