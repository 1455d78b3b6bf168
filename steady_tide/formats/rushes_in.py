"""Footage to be measured: each clip is read in a process of its own, from its file, and only measures come back."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from threading import Event, Thread
from typing import IO, Any

from pydantic import ConfigDict, Field, ValidationError

from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.formats.media_in import clip_form

WORKER = Path(__file__).with_name("rushes_worker.py")
SECONDS = 4 * 3600.0
CHECKED_EVERY_S = 0.2
MOST_PICTURE = 300_000  # of a small frame, characters


class Shown(Frozen):
    """A small frame of a clip, plain and with what is blown and drowned marked: JPEG in base64."""

    model_config = ConfigDict(str_max_length=MOST_PICTURE)

    at_s: float
    plain: str
    marked: str


class ClipFound(Frozen):
    """What comes back of a clip: its measures, what it was like over its time, small frames of it."""

    measures: ClipMeasures
    timeline: Timeline
    frames: tuple[Shown, ...] = Field(max_length=12)


class Profiled(Frozen):
    """How codes become light. curve: linear light at codes that rise evenly, mid grey being 0.18; doubt: why it is not to be
    trusted wholly."""

    curve: tuple[float, ...]
    doubt: str | None = None


class Stopped(Exception):
    """Whoever asked does not want it any more."""


def measure_clip(
    path: Path,
    field_deg: float | None = None,
    profiled: Profiled | None = None,
    quick: bool = False,
    tell: Callable[[float], None] | None = None,
    stopped: Event | None = None,
) -> ClipFound:
    """Measure a clip.

    path: of the file; field_deg: across its frame, where it is known; profiled: the curve of its profile, that of the
    stream where it is left out; quick: look at bursts of frames instead of all; tell: hears how far it is, 0 to 1;
    stopped: set where it is not wanted any more. Returns its measures, and what shows it. Raises BadFile, and Stopped.
    """
    try:
        file = path.open("rb")
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    with file:
        return measure_open(file, path.name, field_deg, profiled, quick, tell, stopped)


def measure_open(
    file: IO[bytes],
    name: str,
    field_deg: float | None = None,
    profiled: Profiled | None = None,
    quick: bool = False,
    tell: Callable[[float], None] | None = None,
    stopped: Event | None = None,
) -> ClipFound:
    """Measure a clip that is open. file: at any place; name: for messages; the rest, and what is raised: as measure_clip."""
    name = "".join(letter if letter.isprintable() else " " for letter in name)[:200]
    options = {
        "file": name,
        "form": clip_form(file, name),
        "field_deg": field_deg,
        "quick": quick,
        "curve": None if profiled is None else profiled.curve,
        "curve_doubt": None if profiled is None else profiled.doubt,
    }
    said = _asked(options, name, file, tell, stopped)
    try:
        return ClipFound.model_validate_json(said)
    except ValidationError:
        raise _unread(name, "what was measured makes no sense") from None


def _asked(
    options: dict[str, Any],
    name: str,
    file: IO[bytes],
    tell: Callable[[float], None] | None,
    stopped: Event | None,
) -> bytes:
    command = [sys.executable, "-I", str(WORKER), json.dumps(options)]
    process = subprocess.Popen(command, stdin=file, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    lines: list[str] = []
    assert process.stdout is not None
    assert process.stderr is not None

    def listen(stream: IO[bytes]) -> None:
        for line in stream:
            text = line.decode(errors="replace").strip()
            try:
                share = float(text)
            except ValueError:
                lines.append(text)
                continue
            if tell is not None:
                tell(share)

    listening = Thread(target=listen, args=(process.stderr,), daemon=True)
    listening.start()
    found: list[bytes] = []
    reading = Thread(target=lambda stream: found.append(stream.read()), args=(process.stdout,), daemon=True)
    reading.start()
    waited = 0.0
    try:
        while True:
            try:
                code = process.wait(CHECKED_EVERY_S)
                break
            except subprocess.TimeoutExpired:
                waited += CHECKED_EVERY_S
                if stopped is not None and stopped.is_set():
                    raise Stopped from None
                if waited > SECONDS:
                    raise _unread(name, f"it was not read within {SECONDS / 3600:.0f} hours") from None
    finally:
        if process.poll() is None:
            process.kill()
            process.wait()
    listening.join()
    reading.join()
    if code == 3:
        raise _unread(name, lines[-1] if lines else "it is damaged")
    if code != 0:
        raise _unread(name, "reading it took more memory or time than a clip needs")
    return found[0]


def _unread(name: str, why: str) -> BadFile:
    return BadFile(Fault(name, f"cannot be measured: {why}", "Copy it again from the card."))
