"""Notes for the edit as Markdown, CSV and on paper."""

from __future__ import annotations

import csv
from io import StringIO

from steady_tide.core.edit.notes import ClipNote, EditNotes, whole_correction
from steady_tide.formats.table_text import safe
from steady_tide.formats.typeset import typeset
from steady_tide.words.edits import ClipText, EditText

COLUMNS = (
    "number", "title", "take", "file", "camera", "profile", "group", "of", "mired", "tint_stops", "exposure_stops", "veil", "black", "white",
    "saturation", "denoise_frames", "denoise_radius_px", "sharpen_radius_px", "sharpen_amount", "speed_percent", "capture_fps", "timeline_fps",
    "steady_share", "turn_deg", "cuts", "gain_db", "limited_db", "cut_hz", "lost",
)  # fmt: skip


def write_notes_md(title: str, edit: EditText) -> str:
    """Write notes as Markdown. title: of the shoot; edit: in words. Returns text."""
    lines = [f"# Edit notes: {_plain(title)}", ""]
    if edit.groups:
        lines += ["## Groups", ""]
    for group in edit.groups:
        numbers = ", ".join(str(number) for number in group.numbers)
        lines += [f"### {group.letter}: {_plain(group.shares)}", "", f"Shots {numbers}; {group.clips}, {group.of}.", ""]
        lines += [f"- **{step.name}** {_plain(step.value)}" for step in group.steps] + [""]
    if edit.clips:
        lines += ["## Clips", ""]
    for clip in edit.clips:
        lines += [f"### {_plain(_heading(clip))}", "", f"Group {clip.group}, {clip.of}.", ""]
        lines += [f"- **{step.name}** {_plain(step.value)}" for step in clip.steps]
        lines += [f"- **cannot be mended:** {_plain(lost)}" for lost in clip.lost] + [""]
    if edit.without:
        lines += ["## Without notes", "", *(f"- {_plain(title)}: no camera can film it." for title in edit.without), ""]
    if edit.phone:
        lines += ["## On a phone", "", *(f"- {_plain(line)}" for line in edit.phone), ""]
    return "\n".join(lines)


def _heading(clip: ClipText) -> str:
    file = "" if clip.file is None else f" ({clip.file})"
    return f"{clip.number} {clip.title}, {clip.take_words}{file}"


def _plain(text: str) -> str:
    """Text that Markdown takes for no sign of its own."""
    return "".join(f"\\{letter}" if letter in "\\`*_{}[]<>#|" else letter for letter in text.replace("\n", " "))


def write_notes_csv(notes: EditNotes) -> str:
    """Write notes as CSV, one row a clip, values without their units, which the headings name. Returns text with a heading line."""
    text = StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(COLUMNS)
    for note in notes.clips:
        rows.writerow([safe(cell) for cell in _row(note)])
    return text.getvalue()


def _row(note: ClipNote) -> tuple[object, ...]:
    done, sound = whole_correction(note), note.sound
    return (
        note.number, note.title, note.take_number or "", note.file or "", note.camera_name, note.profile, note.group, done.of,
        round(done.mired, 1), round(done.tint_stops, 2), round(done.exposure_stops, 2), round(done.veil, 3), round(done.black, 3),
        round(done.white, 3), round(done.saturation, 2), note.denoise.frames if note.denoise else "",
        round(note.denoise.radius_px, 2) if note.denoise else "", round(note.sharpen.radius_px, 2) if note.sharpen else "",
        round(note.sharpen.amount, 2) if note.sharpen else "", round(note.speed.percent, 3), note.speed.capture_fps, note.speed.timeline_fps,
        "" if note.steady_share is None else round(note.steady_share, 3), "" if note.turn_deg is None else round(note.turn_deg, 2),
        "; ".join(f"{one.shape} {one.width}x{one.height}+{one.left}+{one.top}" for one in note.windows),
        round(sound.gain_db, 1) if sound else "", round(sound.limited_db, 1) if sound else "", sound.cut_hz or "" if sound else "",
        "; ".join(lost.code for lost in note.lost),
    )  # fmt: skip


def write_notes_pdf(title: str, edit: EditText) -> bytes:
    """Write notes on paper, A4. title: of the shoot; edit: in words. Returns the file."""
    return typeset("edit_notes.typ", {"title": title, **edit.model_dump(mode="json")})
