"""How large what comes from outside may be, and how many of each may be kept: the one table.

Sizes are in bytes; beyond them reading stops before it begins. Whatever can be made within the counts can be sent out
and read again: a file's size follows from the counts and sizes of what stands in it.
"""

from __future__ import annotations

from fnmatch import fnmatchcase

KB, MB, GB = 1_000, 1_000_000, 1_000_000_000

# How many of each, and how large one is when it is kept.
SHOTS = 500  # of a shoot: a day
FILMS, BEATS = 20, 40  # of a shoot, and of a film
USES = 100  # of one's own
SHOT = 40 * KB  # its brief, wishes, ticks and what was set, as JSON
TICKS, REALLY_SET = 60, 60  # of a shot
PEOPLE, WINDOWS, WAYS = 100, 20, 200  # of a crew and a day
PRESET_NAMES = 100  # of a day
CAMERAS, THINGS, MOUNTS, CELL_KINDS = 200, 500, 200, 100  # of a kit, and of each other kind
KIT = 10 * MB  # all of it, as JSON

# What is read from a file or a request, by what it is.
BRIEF = 1 * MB
YAML = 2 * MB  # takes longer to read than JSON
DRAFT = 600 * KB  # of a sheet that is begun
TRACK_OR_DIVE = 10 * MB  # as XML: a day at a point a second
SHOOT = SHOTS * SHOT + 1 * MB  # as JSON, and in its ZIP once unpacked
SHOOT_ZIP = 3 * SHOOT  # with its cards, lists and sheets
ZIP_ENTRIES = CAMERAS + 20
FRAME = 200 * MB  # of a still or a frame to be measured
CLIP = 8 * GB
CLIP_HEAD, CLIP_TAIL = 2 * MB, 12 * MB  # the parts of a clip where its index stands
STILL = 40 * MB  # of a picture that stands as a scene
STILLS, STILL_KEPT = 24, 6 * MB  # how many, and one once it is made smaller
METER_ANSWER = 4096
FOLDERS, CLIPS = 40, 5000  # of rushes, and clips in each
FOLDER_DEPTH = 6  # folders below a folder that are looked into
DROP = 8 * GB  # of a clip that is handed over instead of named
TAKES, NOTES, LADDERS, ANSWERS = 20_000, 2000, 200, 500  # of a log; answers on one ladder
RUNGS = 6  # of a ladder
TAKE_PAGE = 200  # takes told at once
LOG = 30 * MB  # its file, as JSON or CSV
PRACTICE = 2 * MB  # what practice remembers, as JSON
CLIP_PAGE = 200  # clips told at once

# Bodies of requests: what is sent in them, and a little for its envelope.
BODY = 1 * MB
BODY_OF = {
    "/api/kit/import": KIT + 100 * KB,
    "/api/shoots/import": SHOOT_ZIP,
    "/api/shoots/*/shots/import": 5 * MB,
    "/api/tracks": TRACK_OR_DIVE,
    "/api/dives": TRACK_OR_DIVE,
    "/api/sheets/clips": CLIP_HEAD + CLIP_TAIL + 2 * MB,
    "/api/look/stills": STILL + 100 * KB,
    "/api/measure/grey-step": 160 * MB,
    "/api/measure/glass": 160 * MB,
    "/api/rushes/drops": DROP,
    "/api/log/import": LOG + 100 * KB,
    "/api/uses/import": USES * SHOT + 1 * MB,
}


def body_of(path: str) -> int:
    """How large the body of a request may be. path: where it goes. Returns bytes."""
    return next((size for pattern, size in BODY_OF.items() if fnmatchcase(path, pattern)), BODY)


def in_mb(size: int) -> int:
    """Whole megabytes, for a sentence. size: bytes."""
    return size // MB
