"""How large what comes from outside may be, in bytes: the one table. Beyond it, reading stops before it begins."""

from __future__ import annotations

KB, MB, GB = 1_000, 1_000_000, 1_000_000_000

# What is read from a file or a request, by what it is.
BRIEF = 1 * MB
SHEET_OR_KIT = 2 * MB  # as JSON or YAML
DRAFT = 600 * KB  # of a sheet that is begun
TRACK_OR_DIVE = 5 * MB  # as XML
SHOOT = 3 * MB  # as JSON, and each file in its ZIP once unpacked
SHOOT_ZIP = 5 * MB
FRAME = 200 * MB  # of a still or a frame to be measured
CLIP = 8 * GB
CLIP_HEAD, CLIP_TAIL = 2 * MB, 12 * MB  # the parts of a clip where its index stands
METER_ANSWER = 4096

# Bodies of requests: what is sent in them, and a little for its envelope.
BODY = 1 * MB  # of a list of shots, too
BODY_OF = {
    "/api/kit/import": SHEET_OR_KIT + 100 * KB,
    "/api/shoots/import": SHOOT_ZIP,
    "/api/tracks": TRACK_OR_DIVE,
    "/api/dives": TRACK_OR_DIVE,
    "/api/sheets/clips": CLIP_HEAD + CLIP_TAIL + 2 * MB,
    "/api/measure/grey-step": 160 * MB,
    "/api/measure/glass": 160 * MB,
}


def in_mb(size: int) -> int:
    """Whole megabytes, for a sentence. size: bytes."""
    return size // MB
