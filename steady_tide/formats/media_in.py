"""Clips and stills from a camera: what their containers and headers say, and frames for measuring. Nothing is kept."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from steady_tide.core.cameras.clips import FileFacts
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault

SECONDS = 30.0
HEADER_BYTES = 5 * 4  # bits of a code, then frames, rows, columns, bands
WORKER = Path(__file__).with_name("media_worker.py")
# How files of known kinds begin: offset, bytes, how they are opened.
_MARKS: tuple[tuple[int, bytes, str], ...] = (
    (0, b"\xff\xd8\xff", "still"),
    (0, b"\x89PNG\r\n\x1a\n", "still"),
    (0, b"II*\0", "still"),
    (0, b"MM\0*", "still"),
    (4, b"ftyp", "mov"),
    (4, b"moov", "mov"),
    (4, b"mdat", "mov"),
    (4, b"wide", "mov"),
    (4, b"free", "mov"),
    (0, b"\x1a\x45\xdf\xa3", "matroska"),
    (0, b"RIFF", "avi"),
    (0, b"G", "mpegts"),
)
_FRAME_FORMS = {b"\xff\xd8\xff": "jpeg_pipe", b"\x89PNG": "png_pipe", b"II*\0": "tiff_pipe", b"MM\0*": "tiff_pipe"}


@dataclass(frozen=True)
class Part:
    """The beginning and the end of a file, and how long the whole is."""

    name: str
    size: int
    head: bytes
    tail: bytes = b""
    tail_at: int = 0


def form_of(head: bytes, name: str) -> str:
    """Tell what a file is by its beginning. head: its first bytes; name: for messages. Raises BadFile where it is no media file."""
    for offset, mark, form in _MARKS:
        if head[offset : offset + len(mark)] == mark:
            return form
    raise BadFile(
        Fault(
            name,
            "is neither a clip nor a still that can be read",
            "Take MP4, MOV, MKV, AVI, TS, JPEG, PNG or TIFF, as the camera wrote it.",
        )
    )


def refuse_by_size(name: str, size: int, largest: int = sizes.CLIP) -> None:
    """Refuse a file before any of it is read. size: bytes. Raises BadFile."""
    if size > largest:
        raise BadFile(
            Fault(
                name,
                f"is {size / 1e9:.1f} GB; {largest / 1e9:g} GB is the most"
                if largest >= 1e9
                else f"is {size / 1e6:.0f} MB; {largest / 1e6:.0f} MB is the most",
                "A clip of a few seconds says as much.",
            )
        )
    if size == 0:
        raise BadFile(Fault(name, "is empty", "Copy it again from the card."))


def facts_of_file(path: Path) -> FileFacts:
    """Read what a clip or a still says of itself. path: of the file. Raises BadFile."""
    file, size = _opened(path)
    with file:
        refuse_by_size(path.name, size)
        form = form_of(file.read(64), path.name)
        file.seek(0)
        return _facts(path.name, size, form, file)


def facts_of_bytes(name: str, data: bytes) -> FileFacts:
    """The same of a file at hand as a whole. name: for messages. Raises BadFile."""
    refuse_by_size(name, len(data), sizes.FRAME)
    form = form_of(data[:64], name)
    with tempfile.TemporaryFile() as file:
        file.write(data)
        file.seek(0)
        return _facts(name, len(data), form, file)


def facts_of_part(part: Part) -> FileFacts:
    """The same from a file's beginning and end, the middle left out: what a browser hands over.

    part: of the file. Returns its facts. Raises BadFile, also where the clip's index lies in neither.
    """
    refuse_by_size(part.name, part.size)
    if len(part.head) > part.size or part.tail_at + len(part.tail) > part.size or part.tail_at < 0:
        raise BadFile(Fault(part.name, "is shorter than its parts", "Choose the file again."))
    form = form_of(part.head, part.name)
    # The hole in the middle takes no room on the disk.
    with tempfile.TemporaryFile() as whole:
        whole.write(part.head)
        if part.tail:
            whole.seek(part.tail_at)
            whole.write(part.tail)
        whole.truncate(part.size)
        whole.seek(0)
        return _facts(part.name, part.size, form, whole)


def frames_of_file(path: Path, count: int) -> tuple[NDArray[np.float64], int]:
    """The middle of the first frames of a picture or a clip.

    path: of the file; count: how many at most. Returns shares of the largest code, (frames, rows, columns, 3), and
    how many codes the file has. Raises BadFile.
    """
    file, size = _opened(path)
    with file:
        refuse_by_size(path.name, size)
        return _frames(path.name, file.read(64), file, count)


def frames_of_bytes(name: str, data: bytes, count: int) -> tuple[NDArray[np.float64], int]:
    """The same from bytes. name: for messages. Raises BadFile."""
    refuse_by_size(name, len(data), sizes.FRAME)
    with tempfile.TemporaryFile() as file:
        file.write(data)
        file.seek(0)
        return _frames(name, data[:64], file, count)


STILL_PX = 1280  # of the longer side of a still that stands as a scene


def still_of_bytes(name: str, data: bytes) -> bytes:
    """A still made smaller and plain, to stand as a scene. name: for messages; data: JPEG or PNG. Returns PNG. Raises BadFile."""
    refuse_by_size(name, len(data), sizes.STILL)
    if not data.startswith((b"\xff\xd8\xff", b"\x89PNG\r\n\x1a\n")):
        raise BadFile(Fault(name, "is no JPEG and no PNG", "Take a still as a camera or phone writes it."))
    with tempfile.TemporaryFile() as file:
        file.write(data)
        file.seek(0)
        return _asked("still", "still", STILL_PX, name, file)


def facts_of_open(file: IO[bytes], name: str, size: int) -> FileFacts:
    """Read what an open clip says of itself, however large it is. name: for messages; size: bytes. Raises BadFile."""
    return _facts(name, size, clip_form(file, name), file)


def clip_form(file: IO[bytes], name: str) -> str:
    """How an open clip is read, and back to its beginning. name: for messages. Raises BadFile where it is none."""
    try:
        file.seek(0)
        head = file.read(64)
        file.seek(0)
    except OSError as error:
        raise BadFile(Fault(name, f"cannot be read ({error.strerror})", "Check the card, or copy it again.")) from None
    if not head:
        raise BadFile(Fault(name, "is empty", "Copy it again from the card."))
    form = form_of(head, name)
    if form == "still":
        raise BadFile(Fault(name, "is a still", "Rushes measures clips."))
    return form


def _opened(path: Path) -> tuple[IO[bytes], int]:
    try:
        file = path.open("rb")
        size = os.fstat(file.fileno()).st_size
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    if not path.is_file():
        file.close()
        raise BadFile(Fault(str(path), "is no file", "Name a clip or a still."))
    return file, size


def _facts(name: str, size: int, form: str, file: IO[bytes]) -> FileFacts:
    said = _asked("facts", form, 0, name, file)
    try:
        found: dict[str, Any] = json.loads(said)
        return FileFacts.model_validate({**found, "file": name[:200], "size_bytes": size})
    except (ValueError, ValidationError):
        raise _unread(name, "what it says of itself makes no sense") from None


def _frames(name: str, head: bytes, file: IO[bytes], count: int) -> tuple[NDArray[np.float64], int]:
    form = form_of(head, name)
    if form == "still":
        form = next(pipe for mark, pipe in _FRAME_FORMS.items() if head.startswith(mark))
    file.seek(0)
    said = _asked("frames", form, count, name, file)
    bits, *shape = (int(number) for number in np.frombuffer(said[:HEADER_BYTES], dtype="<u4"))
    found = np.frombuffer(said[HEADER_BYTES:], dtype="<u2").reshape(shape)
    return found / 65535.0, 2 ** min(max(bits, 8), 16)


def _asked(what: str, form: str, count: int, name: str, file: IO[bytes]) -> bytes:
    command = [sys.executable, "-I", str(WORKER), what, form, str(count)]
    try:
        done = subprocess.run(command, stdin=file, capture_output=True, timeout=SECONDS, check=False)
    except subprocess.TimeoutExpired:
        raise _unread(name, f"it was not read within {SECONDS:.0f} s") from None
    if done.returncode == 3:
        raise _unread(name, done.stderr.decode(errors="replace") or "it is damaged")
    if done.returncode != 0:
        raise _unread(name, "reading it took more memory or time than a clip needs")
    return done.stdout


def _unread(name: str, why: str) -> BadFile:
    mend = "Copy it again from the card, or take another clip of the same mode."
    return BadFile(Fault(name, f"cannot be read: {why}", mend))
