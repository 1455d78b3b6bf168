"""Folders of rushes on this machine: which may be read, what lies in them, and opening a clip without leaving them."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

from sqlalchemy import func
from sqlalchemy.orm import Session

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, BadInput, Fault
from steady_tide.store import queue
from steady_tide.store import rushes as store
from steady_tide.store.tables import Clip, RushFolder

ENDINGS = {".mp4", ".mov", ".m4v", ".mkv", ".webm", ".avi", ".ts", ".mts", ".m2ts", ".3gp"}
ENDS_BYTES = 65_536  # of the beginning and of the end, of which a digest is kept
FOLDERS_QUEUE = "rushes"
MEASURE, FACTS = "measure", "facts"


@dataclass(frozen=True)
class Found:
    """A clip's file as it lies there. name: below the folder."""

    name: str
    size: int
    modified_at: datetime


def real_folder(path: str) -> str:
    """The real path of a folder that someone names. Raises BadInput where there is none that can be read."""
    try:
        real = Path(path).expanduser().resolve(strict=True)
        if not real.is_dir():
            raise BadInput(Fault("path", f"{path} is no folder", "Name a folder of this machine."))
        os.scandir(real).close()
    except (OSError, ValueError, RuntimeError) as error:
        why = getattr(error, "strerror", None) or "it is no path"
        raise BadInput(Fault("path", f"{path} cannot be read ({why})", "Name a folder of this machine.")) from None
    if real == Path(real.anchor):
        raise BadInput(Fault("path", "is the whole machine", "Name the folder that the clips are in."))
    return str(real)


def files_in(folder: str) -> Iterator[Found]:
    """Clips below a folder. Links that lead out are passed over, and whatever cannot be looked at. Raises OSError where the
    folder itself is away."""
    root = os.path.realpath(folder)
    waiting = [(root, 0)]
    count = 0
    os.scandir(root).close()
    while waiting:
        here, depth = waiting.pop()
        try:
            entries = sorted(os.scandir(here), key=lambda entry: entry.name)
        except OSError:
            continue
        for entry in entries:
            try:
                real = os.path.realpath(entry.path)
                if os.path.commonpath([root, real]) != root or entry.name.startswith("."):
                    continue
                if entry.is_dir():
                    if depth < sizes.FOLDER_DEPTH and not entry.is_symlink():
                        waiting.append((entry.path, depth + 1))
                elif entry.is_file() and Path(entry.name).suffix.lower() in ENDINGS:
                    facts = entry.stat()
                    name = os.path.relpath(entry.path, root)
                    name.encode()  # a name that is no text cannot be kept
                    yield Found(name, facts.st_size, datetime.fromtimestamp(facts.st_mtime, UTC))
                    count += 1
            except (OSError, ValueError, OverflowError):
                continue
            if count >= sizes.CLIPS:
                return


def open_clip(folder: str, name: str) -> IO[bytes]:
    """Open a clip for reading. folder: that was named; name: below it. Raises BadFile where it is gone, or leads out."""
    shown = Path(name).name
    root = os.path.realpath(folder)
    try:
        # Whatever it has become meanwhile, opening it does not wait.
        file = os.fdopen(os.open(os.path.join(root, name), os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC), "rb")
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "no such name"
        raise BadFile(Fault(shown, f"cannot be read ({why})", "Put the card or drive in again.")) from None
    # What was opened counts, not what the path said a moment ago.
    real = os.path.realpath(f"/proc/self/fd/{file.fileno()}")
    if os.path.commonpath([root, real]) != root or not os.path.isfile(real):
        file.close()
        raise BadFile(Fault(shown, "leads out of its folder", "Copy the clip itself into the folder."))
    return file


def digest_of_ends(file: IO[bytes]) -> str:
    """A digest of a file's beginning and end, which does not grow with the file."""
    size = os.fstat(file.fileno()).st_size
    made = hashlib.sha256(str(size).encode())
    file.seek(0)
    made.update(file.read(ENDS_BYTES))
    file.seek(max(0, size - ENDS_BYTES))
    made.update(file.read(ENDS_BYTES))
    file.seek(0)
    return made.hexdigest()


def look_into(session: Session, folder: RushFolder) -> int:
    """See what lies in a folder: new clips wait to be measured, changed ones again, missing ones are marked.

    folder: held by this unit of work, so that nobody else looks into it meanwhile. Returns how many are to be measured. A folder that is away keeps all that was measured, and says so.
    """
    try:
        there = {found.name: found for found in files_in(folder.path)}
    except OSError as error:
        folder.problem = f"cannot be read ({error.strerror})"
        return 0
    folder.problem = None
    folder.looked_at = datetime.now(UTC)
    known = {clip.name: clip for clip in store.clips_of(session, folder.id)}
    wanted: list[Clip] = []
    for name, found in there.items():
        clip = known.get(name)
        if clip is None:
            clip = Clip(folder_id=folder.id, name=name, size_bytes=found.size, modified_at=found.modified_at)
            session.add(clip)
            wanted.append(clip)
        elif clip.size_bytes != found.size or abs((clip.modified_at - found.modified_at).total_seconds()) > 2.0:
            clip.size_bytes, clip.modified_at = found.size, found.modified_at
            clip.facts, clip.gone_at = None, None
            measure_anew(clip)
            wanted.append(clip)
        elif clip.gone_at is not None:
            clip.gone_at = None
            if clip.state == "waiting":
                wanted.append(clip)
    for name, clip in known.items():
        thrown_away = folder.kind == "drops" and clip.state in ("done", "failed")
        if name not in there and clip.gone_at is None and not thrown_away:
            clip.gone_at = datetime.now(UTC)
    session.flush()
    ask_to_measure(session, folder, wanted)
    return len(wanted)


def measure_anew(clip: Clip) -> None:
    """Let a clip wait for another measuring; an answer to an older request counts no more."""
    clip.asked += 1
    clip.state, clip.share, clip.problem = "waiting", 0.0, None
    clip.updated_at = func.clock_timestamp()


def ask_to_measure(session: Session, folder: RushFolder, clips: list[Clip]) -> None:
    """Ask the queue for the facts of a folder's clips, then for their measures."""
    if not clips:
        return
    lane = lane_of(folder)
    queue.ask(session, FACTS, [(f"facts/{folder.id}", {"folder_id": str(folder.id)})], lane, priority=10)
    queue.ask(session, MEASURE, [job_of(clip) for clip in clips], lane)


def job_of(clip: Clip) -> tuple[str, dict[str, str | int]]:
    """The key and what is given to the job that measures a clip."""
    return store.job_key(clip), {"clip_id": str(clip.id), "asked": clip.asked}


def lane_of(folder: RushFolder) -> str:
    """The queue of a folder: what was dropped lies where the service is, and is measured there."""
    # The queue's notices go by this name, which the database keeps short.
    return f"drops/{folder.id.hex[:16]}" if folder.kind == "drops" else FOLDERS_QUEUE
