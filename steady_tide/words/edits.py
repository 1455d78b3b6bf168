"""Notes for the edit in words: steps with values, what groups share, what cannot be mended."""

from __future__ import annotations

from collections.abc import Mapping

from steady_tide.core.edit.correcting import Correction
from steady_tide.core.edit.display import LookStyle
from steady_tide.core.edit.notes import ClipNote, EditNotes, Group, Lost, Speed
from steady_tide.core.edit.phone import Bars, PhoneEdit
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.verdict import Finding
from steady_tide.words.log import FAULT_WORDS
from steady_tide.words.quantities import MINUS, NARROW, TIMES, percent
from steady_tide.words.verdicts import FINDINGS

# The order in which an edit goes, and what each step is called.
STEPS = (
    "speed",
    "steady",
    "level",
    "crop",
    "denoise",
    "balance",
    "exposure",
    "contrast",
    "sharpen",
    "look",
    "sound",
)
STEP_WORDS = {
    "speed": "speed",
    "steady": "steady",
    "level": "level",
    "crop": "cut",
    "denoise": "denoise",
    "balance": "balance",
    "exposure": "exposure",
    "contrast": "contrast",
    "sharpen": "sharpen",
    "look": "look",
    "sound": "sound",
}


class Step(Frozen):
    """One step with its value."""

    name: str
    value: str


class ClipText(Frozen):
    """Notes of a clip. of: what they rest on; steps: in their order, without what its group shares; lost: what cannot be mended."""

    shot: str
    number: int
    title: str
    take: str | None
    take_words: str
    file: str | None
    group: str
    of: str
    steps: tuple[Step, ...]
    lost: tuple[str, ...]


class GroupText(Frozen):
    """Clips that are corrected alike. shares: their settings; steps: for all of them."""

    letter: str
    shares: str
    clips: str
    of: str
    steps: tuple[Step, ...]
    numbers: tuple[int, ...]


class EditText(Frozen):
    """All notes of a shoot in words. phone: lines for who edits on a phone, empty where nobody does."""

    groups: tuple[GroupText, ...]
    clips: tuple[ClipText, ...]
    without: tuple[str, ...]
    phone: tuple[str, ...]


def edit_text(notes: EditNotes, names: Mapping[str, str], look: LookStyle | None, phone: PhoneEdit | None) -> EditText:
    """Put notes into words. notes: of a shoot; names: of glass, by id; look: on top of all, None for none;
    phone: for who edits on one. Returns them."""
    return EditText(
        groups=tuple(_group(group, notes, names, look) for group in notes.groups),
        clips=tuple(_clip(note) for note in notes.clips),
        without=notes.without,
        phone=() if phone is None else phone_lines(phone),
    )


def _group(group: Group, notes: EditNotes, names: Mapping[str, str], look: LookStyle | None) -> GroupText:
    settings = group.settings
    shares = [str(settings["camera"])]
    shares.append(str(settings["profile"]))
    balance = settings["white_balance"]
    shares.append(f"{balance}{NARROW}K" if isinstance(balance, int) else f"balance {balance}")
    if settings.get("nd"):
        shares.append(" and ".join(names.get(piece, piece) for piece in settings["nd"]))
    if settings.get("colour_filter"):
        shares.append(names.get(str(settings["colour_filter"]), str(settings["colour_filter"])))
    steps = correction_steps(group.correction)
    if look is not None:
        steps.append(Step(name="look", value=look.name))
    return GroupText(
        letter=group.letter,
        shares=", ".join(shares),
        clips=f"{group.clips} {'clip' if group.clips == 1 else 'clips'}",
        of=_of(group.measured, group.clips),
        steps=tuple(steps),
        numbers=tuple(dict.fromkeys(note.number for note in notes.clips if note.group == group.letter)),
    )


def _of(measured: int, clips: int) -> str:
    if measured == 0:
        return "from the plan; nothing is measured yet"
    return "from measures" if measured == clips else f"from measures of {measured} of {clips}"


def correction_steps(done: Correction) -> list[Step]:
    """A correction step by step, in words. done: of a group or a clip. Returns at least one."""
    steps = []
    if done.mired or done.tint_stops:
        tint = "" if not done.tint_stops else f", green {_signed(done.tint_stops)}{NARROW}stops"
        warmer = "" if not done.mired else f" ({'warmer' if done.mired > 0 else 'cooler'})"
        steps.append(Step(name="balance", value=f"{_signed(done.mired, 0)}{NARROW}mired{warmer}{tint}"))
    if done.exposure_stops:
        steps.append(Step(name="exposure", value=f"{_signed(done.exposure_stops)}{NARROW}stops"))
    contrast = []
    if done.veil:
        contrast.append(f"veil of {percent(done.veil)} of grey off")
    if done.black or done.white < 1.0:
        contrast.append(f"black at {percent(done.black)}, white at {percent(done.white)}")
    if done.saturation != 1.0:
        contrast.append(f"saturation {done.saturation:.2f}{TIMES}")
    if contrast:
        steps.append(Step(name="contrast", value=", ".join(contrast)))
    return steps or [Step(name="correction", value="none beyond the profile")]


def _signed(value: float, digits: int = 1) -> str:
    text = f"{abs(value):.{digits}f}"
    return text if float(text) == 0.0 else f"{'+' if value > 0 else MINUS}{text}"


def _clip(note: ClipNote) -> ClipText:
    steps = [Step(name="speed", value=speed_words(note.speed))]
    if note.steady_share is not None:
        steps.append(Step(name="steady", value=f"afterwards; it costs about {percent(note.steady_share)} of the width"))
    if note.turn_deg is not None:
        steps.append(Step(name="level", value=f"turn by {_signed(note.turn_deg)}\u00b0"))
    steps += [
        Step(
            name="crop",
            value=f"{one.shape}: {one.width}{NARROW}{TIMES}{NARROW}{one.height} from {one.left}, {one.top}",
        )
        for one in note.windows
    ]
    if note.denoise is not None:
        radius = f", then within {note.denoise.radius_px:.1f}{NARROW}px" if note.denoise.radius_px else ""
        frames = f"join {note.denoise.frames} frames" if note.denoise.frames > 1 else "in the frame alone"
        steps.append(Step(name="denoise", value=f"{frames}{radius}; {note.denoise.short:.1f}{TIMES} less is wanted"))
    if note.rest is not None:
        steps += [Step(name=f"{one.name} beside the group", value=one.value) for one in correction_steps(note.rest)]
    if note.sharpen is not None:
        steps.append(
            Step(
                name="sharpen",
                value=f"{percent(note.sharpen.amount)} at {note.sharpen.radius_px:.1f}{NARROW}px",
            )
        )
    if note.sound is not None:
        said = [f"{_signed(note.sound.gain_db)}{NARROW}dB"]
        if note.sound.limited_db:
            said.append(f"hold peaks by {note.sound.limited_db:.1f}{NARROW}dB")
        if note.sound.cut_hz is not None:
            said.append(f"cut below {note.sound.cut_hz:.0f}{NARROW}Hz for the wind")
        steps.append(Step(name="sound", value=", ".join(said)))
    return ClipText(
        shot=note.shot,
        number=note.number,
        title=note.title,
        take=note.take,
        take_words="not filmed yet" if note.take is None else f"take {note.take_number}",
        file=note.file,
        group=note.group,
        of="measured" if note.correction.of == "measures" and note.take is not None else "planned",
        steps=tuple(steps),
        lost=tuple(lost_words(one) for one in note.lost),
    )


def speed_words(speed: Speed) -> str:
    """How fast a clip is played, and which frames are shown again. Returns text."""
    said = f"{speed.percent:.4g}{NARROW}% of {speed.capture_fps:g} on {speed.timeline_fps:g}{NARROW}fps"
    if speed.even:
        step = speed.steps[0]
        return said if step == 1 else f"{said}, every {_nth(step)} frame"
    again = sum(step == 0 for step in speed.steps)
    if again:
        return f"{said}; {again} of {len(speed.steps)} frames are shown again"
    return f"{said}; frames are left out unevenly, it judders"


def _nth(number: int) -> str:
    return {2: "second", 3: "third", 4: "fourth"}.get(number, f"{number}th")


def lost_words(lost: Lost) -> str:
    """What cannot be mended. Returns text."""
    form = FINDINGS.get(lost.code)
    found = Finding(code=lost.code, severity="bad", amount=lost.amount, share=1.0, facts=lost.facts)
    if form is not None:
        return form(found)
    return FAULT_WORDS.get(lost.code, lost.code.removeprefix("set/").replace("_", " ") + " other than planned")


def phone_lines(phone: PhoneEdit) -> tuple[str, ...]:
    """For who edits on a phone. Returns sentences."""
    wide, high = phone.frame
    lines = []
    if phone.smaller:
        lines.append(
            f"Export at {wide}{NARROW}{TIMES}{NARROW}{high}: larger frames stall a phone and gain nothing there."
        )
    if phone.codec is not None:
        lines.append(f"Record in {phone.codec.replace('_', ' ')} where a phone edits: it copes with no other here.")
    lines.append(f"In this order: {', '.join(STEP_WORDS[step] for step in STEPS)}.")
    lines += [bars_words(bars) for bars in phone.bars]
    return tuple(lines)


def bars_words(bars: Bars) -> str:
    """A picture whole in another shape. Returns a sentence."""
    where = "left and right" if bars.beside else "above and below"
    frame, picture = ("{}{n}{t}{n}{}".format(*size, n=NARROW, t=TIMES) for size in (bars.frame, bars.picture))
    if bars.bar == 0:
        return f"{bars.shape} fills {bars.within} of {frame}."
    return f"{bars.shape} whole in {bars.within} of {frame}: picture {picture}, bars of {bars.bar}{NARROW}px {where}."


def edit_lines(edit: EditText) -> list[str]:
    """Notes as text, line by line."""
    lines = []
    for group in edit.groups:
        numbers = ", ".join(str(number) for number in group.numbers)
        lines.append(f"Group {group.letter}: {group.shares}; shots {numbers}, {group.clips}, {group.of}")
        lines += [f"  {step.name}: {step.value}" for step in group.steps]
    for clip in edit.clips:
        lines.append(f"{clip.number} {clip.title}, {clip.take_words}, group {clip.group}, {clip.of}")
        lines += [f"  {step.name}: {step.value}" for step in clip.steps]
        lines += [f"  ! cannot be mended: {lost}" for lost in clip.lost]
    lines += [f"No notes of {title}: no camera can film it." for title in edit.without]
    lines += list(edit.phone)
    return lines
