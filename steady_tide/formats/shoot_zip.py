"""A shoot with everything in one ZIP; coming in, only its shoot file is read, and nothing is unpacked."""

from __future__ import annotations

import io
import struct
import zipfile
import zlib
from collections.abc import Mapping
from typing import Any

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.shoot.shoot_file import ShootFile, read_shoot
from steady_tide.formats.decoded import NotTaken, json_of
from steady_tide.formats.readable import readable_json

SHOOT_NAME = "shoot.json"
# What the library lets out over a ZIP that was damaged or made to hurt.
BROKEN = (
    zipfile.BadZipFile, zlib.error, struct.error, NotImplementedError, RuntimeError, ValueError, LookupError, EOFError,
    OSError,
)  # fmt: skip
EARLIEST = (1980, 1, 1, 0, 0, 0)  # one moment for all files, so that the same shoot gives the same ZIP


def write_shoot_json(shoot: ShootFile) -> str:
    """Write a shoot as its file. Returns JSON, the same for the same shoot."""
    return readable_json(shoot.model_dump(mode="json"), 1, sizes.SHOOT)


def write_shoot_zip(files: Mapping[str, bytes]) -> bytes:
    """Put files into a ZIP. files: contents by name, "shoot.json" among them. Returns it."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(zipfile.ZipInfo(name, EARLIEST), content, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def read_shoot_file(data: bytes, source: str = "shoot file") -> ShootFile:
    """Read a shoot from JSON or from a ZIP.

    data: the file; source: its name for messages. Returns the shoot. Raises BadFile with what is wrong.
    """
    if len(data) > sizes.SHOOT_ZIP:
        raise BadFile(
            Fault(
                source,
                f"is larger than {sizes.in_mb(sizes.SHOOT_ZIP)} MB",
                f"A shoot holds {sizes.SHOTS} shots of {sizes.SHOT // 1000} kB.",
            )
        )
    if data[:4] == b"PK\x03\x04" or data[:4] == b"PK\x05\x06":
        data = _from_zip(data, source)
    return read_shoot(_decoded(data, source), source)


def _decoded(data: bytes, source: str) -> Any:
    if len(data) > sizes.SHOOT:
        raise BadFile(
            Fault(
                source,
                f"is larger than {sizes.in_mb(sizes.SHOOT)} MB",
                f"A shoot holds {sizes.SHOTS} shots of {sizes.SHOT // 1000} kB.",
            )
        )
    try:
        return json_of(data)
    except NotTaken as error:
        raise BadFile(Fault(source, f"is neither a ZIP nor JSON: {error}", "Give a shoot.json or its ZIP.")) from None


def _from_zip(data: bytes, source: str) -> bytes:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = archive.infolist()
            if len(entries) > sizes.ZIP_ENTRIES:
                raise BadFile(
                    Fault(source, f"holds {len(entries)} files", f"A shoot's ZIP holds fewer than {sizes.ZIP_ENTRIES}.")
                )
            for entry in entries:
                parts = entry.filename.replace("\\", "/").split("/")
                if entry.filename.startswith(("/", "\\")) or ".." in parts or ":" in parts[0]:
                    raise BadFile(
                        Fault(source, f"holds a file that would land outside: {entry.filename[:80]!r}", "Pack it anew.")
                    )
            named = [entry for entry in entries if entry.filename == SHOOT_NAME]
            if len(named) != 1:
                raise BadFile(Fault(source, f"holds {len(named)} files called {SHOOT_NAME}", "It must hold one."))
            entry = named[0]
            if entry.flag_bits & 0x1:
                raise BadFile(Fault(source, "is locked with a password", "Pack it without."))
            if entry.file_size > sizes.SHOOT:
                raise BadFile(
                    Fault(
                        source,
                        f"{SHOOT_NAME} is too large when unpacked",
                        f"A shoot holds {sizes.SHOTS} shots of {sizes.SHOT // 1000} kB.",
                    )
                )
            with archive.open(entry) as stream:
                content = stream.read(sizes.SHOOT + 1)  # the directory may lie about the size
    except BROKEN:
        raise BadFile(Fault(source, "is a broken ZIP", "Export it again.")) from None
    if len(content) > sizes.SHOOT:
        raise BadFile(
            Fault(
                source,
                f"{SHOOT_NAME} is too large when unpacked",
                f"A shoot holds {sizes.SHOTS} shots of {sizes.SHOT // 1000} kB.",
            )
        )
    return content
