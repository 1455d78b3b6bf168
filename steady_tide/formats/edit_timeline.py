"""The first assembly as a file that editors open: OpenTimelineIO, and an edit decision list through its adapter."""

from __future__ import annotations

from typing import Any

from steady_tide.core.edit.assembly import Assembly, PlacedClip
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.frame_rates import exact_rate

# Colours that the format knows, one after the other for the groups.
COLOURS = ("CYAN", "GREEN", "ORANGE", "PURPLE", "YELLOW", "BLUE", "PINK", "RED")


def timeline_of(assembly: Assembly, folder: str = "", gaps: bool = True) -> Any:
    """A timeline of the library. assembly: laid out; folder: before the names of files, such as rushes; gaps: whether the format keeps an
    empty place, also at the end. Returns it; clips without footage say so,
    and keep their place."""
    # A moment to load, so it is loaded when it is needed.
    import opentimelineio as otio

    fps = exact_rate(assembly.fps)
    timeline = otio.schema.Timeline(name=assembly.title)
    timeline.global_start_time = otio.opentime.RationalTime(0, fps)
    timeline.metadata["steady_tide"] = {"width": assembly.width, "height": assembly.height, "frames": assembly.frames}
    track = otio.schema.Track(name="picture", kind=otio.schema.TrackKind.Video)
    for clip in assembly.clips:
        track.append(_clip(otio, clip, fps, folder, gaps))
    timeline.tracks.append(track)
    return timeline


def _clip(otio: Any, clip: PlacedClip, fps: float, folder: str, gaps: bool) -> Any:
    length = otio.opentime.RationalTime(clip.frames, fps)
    if clip.key is None and gaps:
        return otio.schema.Gap(name=clip.name, source_range=otio.opentime.TimeRange(duration=length))
    start = otio.opentime.RationalTime(round(clip.start_s * fps), fps)
    media_fps = exact_rate(clip.media_fps)
    there = otio.opentime.TimeRange(
        otio.opentime.RationalTime(0, media_fps),
        otio.opentime.RationalTime(round(clip.media_s * media_fps), media_fps),
    )
    if clip.file is None:
        media = otio.schema.MissingReference(name=clip.name)
        media.available_range = there if clip.take is not None else None
    else:
        media = otio.schema.ExternalReference(target_url=f"{folder}/{clip.file}" if folder else clip.file)
        media.available_range = there
        media.name = clip.file.rsplit("/", 1)[-1]
    made = otio.schema.Clip(name=clip.name, media_reference=media, source_range=otio.opentime.TimeRange(start, length))
    if clip.speed != 1.0:
        made.effects.append(otio.schema.LinearTimeWarp(name="slowed", time_scalar=clip.speed))
    colour = None if clip.group is None else COLOURS[_place(clip.group) % len(COLOURS)]
    made.metadata["steady_tide"] = {
        "shot": clip.key,
        "take": clip.take,
        "group": clip.group,
        "colour": colour,
        "missing": clip.take is None,
    }
    made.metadata["cmx_3600"] = {"reel": _reel(clip)}
    if colour is not None and hasattr(made, "color"):
        made.color = getattr(otio.core.Color, colour, None)
    if colour is not None:
        made.markers.append(_marker(otio, f"group {clip.group}", 0, fps, colour, start))
    if clip.take is None:
        made.markers.append(_marker(otio, clip.name, 0, fps, "RED", start))
    for mark in clip.marks:
        made.markers.append(_marker(otio, mark.code, mark.at_frame, fps, "RED", start))
    return made


def _marker(otio: Any, name: str, at_frame: int, fps: float, colour: str, start: Any) -> Any:
    at = otio.opentime.RationalTime(start.value + at_frame, fps)
    return otio.schema.Marker(
        name=name,
        marked_range=otio.opentime.TimeRange(at, otio.opentime.RationalTime(1, fps)),
        color=colour,
    )


REEL_LENGTH = 8  # letters that the list has room for


def _reel(clip: PlacedClip) -> str:
    """A name of letters and figures, as the list wants it: of the file, else of the shot."""
    if clip.take is None:
        return "MISSING"
    name = clip.name if clip.file is None else clip.file.rsplit("/", 1)[-1].rsplit(".", 1)[0]
    plain = "".join(letter for letter in name if letter.isascii() and letter.isalnum()).upper()
    return plain[:REEL_LENGTH] or "CLIP"


def _place(letter: str) -> int:
    place = 0
    for one in letter:
        place = place * 26 + ord(one) - ord("A") + 1
    return place - 1


def write_otio(assembly: Assembly, folder: str = "") -> str:
    """Write the assembly as OpenTimelineIO's JSON. assembly, folder: as for `timeline_of`. Returns the file."""
    import opentimelineio as otio

    text: str = otio.adapters.write_to_string(timeline_of(assembly, folder), "otio_json")
    return text


def write_edl(assembly: Assembly, folder: str = "") -> str:
    """Write the assembly as an edit decision list, exact in frames; 29.97 and 59.94 are counted with dropped numbers.

    assembly, folder: as for `timeline_of`. Returns the file. Raises BadInput where no timecode counts such a rate.
    """
    import opentimelineio as otio

    rate = exact_rate(assembly.fps)
    if not otio.opentime.RationalTime.is_smpte_timecode_rate(rate):
        raise BadInput(
            Fault(
                "edit decision list",
                f"has no timecode for {assembly.fps:g} frames a second",
                "Take the OpenTimelineIO file, which holds any rate.",
            )
        )
    timeline = timeline_of(assembly, folder, gaps=False)
    text: str = otio.adapters.write_to_string(timeline, "cmx_3600", rate=rate)
    # The adapter leaves this line out. A semicolon before the frames is how the library writes dropped numbers.
    title, _, events = text.partition("\n")
    dropped = ";" in otio.opentime.to_timecode(otio.opentime.RationalTime(0, rate), rate)
    return f"{title}\nFCM: {'DROP FRAME' if dropped else 'NON-DROP FRAME'}\n{events}"
