"""Footage to be measured: each clip is read in a process of its own, from its file, and only measures come back."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from threading import Event, Thread
from typing import IO, Any

from pydantic import ValidationError

from steady_tide.core.errors import BadFile, Fault
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.formats.media_in import form_of, plainly

WORKER = Path(__file__).with_name("rushes_worker.py")
SECONDS = 4 * 3600.0
CHECKED_EVERY_S = 0.2


class Stopped(Exception):
    """Whoever asked does not want it any more."""


def measure_clip(
    path: Path,
    field_deg: float | None = None,
    tell: Callable[[float], None] | None = None,
    stopped: Event | None = None,
) -> ClipMeasures:
    """Measure a clip.

    path: of the file; field_deg: across its frame, where it is known; tell: hears how far it is, 0 to 1; stopped: set
    where it is not wanted any more. Returns its measures. Raises BadFile, and Stopped.
    """
    try:
        file = path.open("rb")
        head = file.read(64)
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Check the name of the file.")) from None
    with file:
        form = form_of(head, path.name)
        if form == "still":
            raise BadFile(Fault(path.name, "is a still", "Rushes measures clips."))
        file.seek(0)
        options = {"file": path.name[:200], "form": form, "field_deg": field_deg}
        said = _asked(options, path.name, file, tell, stopped)
    try:
        return ClipMeasures.model_validate_json(said)
    except ValidationError:
        raise _unread(path.name, "what was measured makes no sense") from None


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
        raise _unread(name, "; ".join(lines).partition(": ")[2] or "it is damaged")
    if code != 0:
        raise _unread(name, "reading it took more memory or time than a clip needs")
    return found[0]


def _unread(name: str, why: str) -> BadFile:
    return BadFile(Fault(name, f"cannot be measured: {plainly(why)}", "Copy it again from the card."))
