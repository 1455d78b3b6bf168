"""Verdicts on clips, takes and days in words."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.next_time import Learned, NextTime
from steady_tide.core.rushes.report import DayReport
from steady_tide.core.rushes.report import Fault as DayFault
from steady_tide.core.rushes.takes import Take
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.core.rushes.verdict import Finding, Verdict
from steady_tide.words.dial_values import dial_word, value_words, word_and_value
from steady_tide.words.quantities import MINUS, NARROW, TIMES, capital, percent, seconds
from steady_tide.words.quantities import stops as one_decimal

TOLD = 2  # findings in one line


def _signed(value: float) -> str:
    return f"{'+' if value > 0 else MINUS if value < 0 else ''}{abs(value):.1f}"


def _stops(value: float) -> str:
    return f"{one_decimal(abs(value))}{NARROW}stops"


def _at(moments: Any) -> str:
    return f"at {moments[0]:.1f}{NARROW}s" if moments else ""


def _times(count: float) -> str:
    return "once" if round(count) == 1 else "twice" if round(count) == 2 else f"{count:.0f} times"


def _blown(one: Finding) -> str:
    worst, at_s = one.facts.get("worst"), one.facts.get("worst_at_s")
    if worst is not None and at_s is not None and worst > 1.3 * one.amount:
        return f"{percent(one.amount)} blown, {percent(worst)} at {at_s:.1f}{NARROW}s"
    return f"{percent(one.amount)} blown"


def _flicker(one: Finding) -> str:
    hz, rows = one.facts.get("hz"), one.facts.get("band_rows")
    how = f" at {hz:.1f}{NARROW}Hz" if hz else f" in bands of {rows:.0f} rows" if rows else ""
    return f"lamps pulse by {percent(one.amount)}{how}"


FINDINGS: dict[str, Callable[[Finding], str]] = {
    "blown": _blown,
    "drowned": lambda one: f"{percent(one.amount)} lost in black",
    "exposure_stops": lambda one: f"{_stops(one.amount)} {'brighter' if one.amount > 0 else 'darker'} than it was metered for",
    "drift_stops": lambda one: f"the light wanders by {_stops(one.amount)}",
    "jumps": lambda one: f"exposure jumps {_times(one.amount)}, {_at(one.facts.get('at_s'))}".rstrip(", "),
    "noise_stops": lambda one: f"{_stops(one.amount)} noisier than planned",
    "smear_px": lambda one: f"smears {one.amount:.0f}{NARROW}px more than planned",
    "shake_share": lambda one: f"trembles by {percent(one.amount)} of its width a frame",
    "edge_px": lambda one: f"soft, edges are {one.amount:.1f}{NARROW}px wide",
    "focus_px": lambda one: f"focus wanders, edges widen by {one.amount:.1f}{NARROW}px",
    "flicker": _flicker,
    "repeated": lambda one: f"{percent(one.amount)} of its frames are shown twice",
    "gaps": lambda one: f"frames are missing {_times(one.amount)}, {_at(one.facts.get('at_s'))}".rstrip(", "),
    "cast_stops": lambda one: f"a cast, red {_signed(one.facts['red'])} and blue {_signed(one.facts['blue'])}{NARROW}stops against green",
    "colour_drift_stops": lambda one: f"colour wanders by {_stops(one.amount)}",
    "tilt_deg": lambda one: f"leans by {abs(one.amount):.1f}° to the {'right' if one.amount > 0 else 'left'}",
    "haze": lambda one: "veiled, blacks are lifted and contrast is low",
    "spots": lambda one: "a spot stays in the frame" if one.amount == 1 else f"{one.amount:.0f} spots stay in the frame",
    "clipped": lambda one: f"sound clips {percent(one.amount)} of the time",
    "wind": lambda one: f"wind is {percent(one.amount)} of the sound",
    "peak_dbfs_under": lambda one: f"sound peaks at {MINUS}{one.amount:.0f}{NARROW}dBFS only",
    "no_sound": lambda one: "no sound, which was wanted",
    "damaged": lambda one: "its file ends early or is damaged",
    "set/width": lambda one: f"{one.facts['filmed']:.0f}{NARROW}px wide instead of {one.facts['planned']:.0f}",
    "set/height": lambda one: f"{one.facts['filmed']:.0f}{NARROW}px high instead of {one.facts['planned']:.0f}",
    "set/frame_rate": lambda one: f"{one.facts['filmed']:.4g}{NARROW}fps instead of {one.facts['planned']:.4g}",
    "set/shutter_s": lambda one: f"exposed {seconds(one.facts['filmed'])} instead of {seconds(one.facts['planned'])}",
    "set/bit_rate_mb_s": lambda one: f"{one.facts['filmed']:.3g}{NARROW}Mb/s instead of {one.facts['planned']:.3g}",
    "set/bits": lambda one: f"{one.facts['filmed']:.0f}-bit instead of {one.facts['planned']:.0f}-bit",
}  # fmt: skip

# What a day's report calls each kind of fault.
KINDS = {
    "blown": "blown highlights", "drowned": "shadows lost in black", "exposure_stops": "exposure off", "drift_stops": "wandering light",
    "jumps": "exposure jumps", "noise_stops": "noise", "smear_px": "smear", "shake_share": "trembling", "edge_px": "soft focus",
    "focus_px": "wandering focus", "flicker": "pulsing lamps", "repeated": "repeated frames", "gaps": "missing frames",
    "cast_stops": "colour cast", "colour_drift_stops": "wandering colour", "tilt_deg": "leaning horizon", "haze": "veil",
    "spots": "spots on the lens", "clipped": "clipped sound", "wind": "wind", "peak_dbfs_under": "faint sound",
    "no_sound": "missing sound", "damaged": "damaged files", "set/width": "another resolution", "set/height": "another resolution", "set/frame_rate": "another frame rate",
    "set/shutter_s": "another shutter", "set/bit_rate_mb_s": "another bit rate", "set/bits": "another bit depth",
}  # fmt: skip

# How a kind of fault is mended on the camera.
MENDS = {
    "blown": "set a stronger ND filter or a lower compensation", "drowned": "raise the highest ISO or take the filter off",
    "exposure_stops": "set another compensation", "drift_stops": "lock exposure, or narrow the ISO range",
    "jumps": "lock exposure, or lower the highest ISO", "noise_stops": "lower the highest ISO", "smear_px": "set a faster shutter",
    "shake_share": "set stronger stabilisation, or brace the camera", "edge_px": "focus again", "focus_px": "lock focus",
    "flicker": "set a shutter that fits the mains", "repeated": "set the rate of the timeline, or a multiple",
    "gaps": "lower the bit rate, or take a faster card", "cast_stops": "set another white balance",
    "colour_drift_stops": "lock the balance", "tilt_deg": "level the camera, or set a levelled view",
    "wind": "set wind reduction, or cover the microphone", "clipped": "lower the gain, or step back",
    "haze": "wipe the lens, and shade it", "spots": "wipe the lens", "peak_dbfs_under": "go nearer, or plug a microphone in",
    "no_sound": "switch sound on", "damaged": "take another card, and copy the clip again",
}  # fmt: skip

ABOUT = {
    "exposure": "exposure", "noise": "noise", "sharpness": "sharpness", "focus": "focus", "steadiness": "steadiness",
    "light": "steady light", "cadence": "even frames", "colour": "colour", "glass": "a clean lens", "sound": "sound",
    "settings": "settings", "file": "a whole file",
}  # fmt: skip


class FindingText(Frozen):
    """A finding in words. about: its kind."""

    code: str
    severity: str
    text: str


class VerdictText(Frozen):
    """A verdict in words: one line, and each finding."""

    kind: str
    line: str
    findings: tuple[FindingText, ...]


class PlannedRow(Frozen):
    """One thing as planned beside as filmed; either may be missing."""

    title: str
    planned: str | None
    filmed: str | None
    differs: bool = False


def verdict_text(judged: Verdict, planned: bool) -> VerdictText:
    """A verdict in words. planned: whether there is a plan to hold the clip against."""
    findings = tuple(
        FindingText(code=one.code, severity=one.severity, text=FINDINGS[one.code](one)) for one in judged.findings
    )
    if not findings:
        line = "As planned." if planned else "Nothing wrong that can be measured."
    else:
        said = ", ".join(one.text for one in findings[:TOLD])
        more = len(findings) - TOLD
        line = f"{capital(said)}{f', and {more} more' if more > 0 else ''}."
    return VerdictText(kind=judged.kind, line=line, findings=findings)


class Moment(Frozen):
    """Something at a moment of a clip."""

    at_s: float
    text: str


MOST_MOMENTS = 4


def moments_of(clip: ClipMeasures, line: Timeline, judged: Verdict) -> list[Moment]:
    """What is worth looking at in a clip, by its time: the worst of what is blown or trembles, jumps, cuts, gaps."""
    codes = {one.code for one in judged.findings}
    found = []
    if "blown" in codes and clip.exposure.worst_white_at_s is not None:
        worst = clip.exposure.worst_white_share or 0.0
        found.append(Moment(at_s=clip.exposure.worst_white_at_s, text=f"{percent(worst)} blown"))
    moved = [(move, at) for move, at in zip(line.move_px, line.at_s, strict=True) if move is not None]
    if "shake_share" in codes and moved:
        most, at = max(moved)
        found.append(Moment(at_s=at, text=f"trembles, {most:.0f}{NARROW}px"))
    found += [Moment(at_s=at, text="exposure jumps") for at in clip.exposure.jumps_at_s[:MOST_MOMENTS]]
    found += [Moment(at_s=at, text="cut") for at in clip.cuts_at_s[:MOST_MOMENTS]]
    found += [Moment(at_s=at, text="frames missing") for at in clip.cadence.gaps_at_s[:MOST_MOMENTS]]
    return sorted(found[:MOST_MOMENTS], key=lambda one: one.at_s)


# Rows of what stands beside each other, and the findings that say a row differs.
ROWS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("resolution", ("set/width", "set/height")),
    ("frame rate", ("set/frame_rate",)),
    ("shutter", ("set/shutter_s",)),
    ("bit depth", ("set/bits",)),
    ("bit rate", ("set/bit_rate_mb_s",)),
    ("light, EV", ("exposure_stops", "drift_stops")),
    ("median brightness", ("exposure_stops",)),
    ("blown", ("blown",)),
    ("lost in black", ("drowned",)),
    ("signal to noise, grey", ("noise_stops",)),
    ("smear", ("smear_px",)),
    ("trembles a frame", ("shake_share",)),
    ("edges", ("edge_px", "focus_px")),
    ("colour against green", ("cast_stops", "colour_drift_stops")),
    ("lamps pulse", ("flicker",)),
    ("frames shown twice", ("repeated", "gaps")),
    ("horizon leans", ("tilt_deg",)),
    ("sound peaks", ("clipped", "wind", "peak_dbfs_under", "no_sound")),
)


def planned_rows(
    clip: ClipMeasures,
    plan: ClipPlan | None,
    light: tuple[float, float] | None,
    expected_stops: float | None,
    judged: Verdict,
) -> list[PlannedRow]:
    """As planned beside as filmed.

    light: that there was, EV at ISO 100, where the picture tells; expected_stops: how far above mid grey the frames were
    to be. Returns rows.
    """
    codes = {one.code for one in judged.findings}
    planned = {} if plan is None else _planned(plan, expected_stops)
    filmed = _filmed(clip, light, 1.0 if plan is None else plan.delivered_px / clip.width)
    return [
        PlannedRow(
            title=title,
            planned=planned.get(title),
            filmed=filmed.get(title),
            differs=any(code in codes for code in found),
        )
        for title, found in ROWS
        if filmed.get(title) is not None or (title == "shutter" and planned)
    ]


def _planned(plan: ClipPlan, expected_stops: float | None) -> dict[str, str]:
    settings, exposure = plan.settings, plan.exposure
    return {
        "resolution": _frame(settings.width, settings.height),
        "frame rate": f"{settings.frame_rate:.4g}{NARROW}fps",
        "shutter": seconds(max(exposure.shutter_used_s)),
        "bit depth": f"{settings.bit_depth}-bit",
        "bit rate": f"{settings.bit_rate_mb_s:.3g}{NARROW}Mb/s",
        "light, EV": _band(exposure.ev100),
        "median brightness": f"{_signed(expected_stops or 0.0)}{NARROW}stops",
        "signal to noise, grey": f"{exposure.snr:.0f}",
        "smear": f"{exposure.smear_px:.0f}{NARROW}px",
        "lamps pulse": "no",
        "frames shown twice": "none",
        "sound peaks": "wanted" if plan.sound_wanted else "not wanted",
    }


def _filmed(clip: ClipMeasures, light: tuple[float, float] | None, scale: float) -> dict[str, str | None]:
    """What was measured, by row. scale: delivered pixels for a recorded one."""
    share, rate, exposure, colour = clip.motion.shutter_share, clip.frame_rate, clip.exposure, clip.colour
    smoothed = clip.doubted("noise.snr_grey")

    def none_or(value: float | None, nothing: str) -> str | None:
        return None if value is None else nothing if value == 0 else percent(value)

    def said(value: float | None, form: str, unit: str) -> str | None:
        return None if value is None else f"{value:z{form}}{unit}".replace("-", MINUS)

    cast = None
    if colour.red_stops is not None and colour.blue_stops is not None:
        cast = f"red {_signed(colour.red_stops)}, blue {_signed(colour.blue_stops)}{NARROW}stops"
    blur, edge = clip.sharpness.blur_px, clip.sharpness.edge_px
    return {
        "resolution": _frame(clip.width, clip.height),
        "frame rate": said(rate, ".4g", f"{NARROW}fps"),
        "shutter": None if not share or not rate else seconds(share / rate),
        "bit depth": f"{clip.bits}-bit",
        "bit rate": said(clip.bit_rate_mb_s, ".3g", f"{NARROW}Mb/s"),
        "light, EV": None if light is None else _band(light),
        "median brightness": None
        if exposure.median_stops is None
        else f"{_signed(exposure.median_stops)}{NARROW}stops",
        "blown": none_or(exposure.white_share, "none"),
        "lost in black": none_or(exposure.black_share, "none"),
        "signal to noise, grey": said(clip.noise.snr_grey, ".0f", ", smoothed" if smoothed else ""),
        "smear": said(None if blur is None else blur * scale, ".0f", f"{NARROW}px"),
        "trembles a frame": said(clip.motion.shake_px, ".1f", f"{NARROW}px"),
        "edges": said(None if edge is None else edge * scale, ".1f", f"{NARROW}px"),
        "colour against green": cast,
        "lamps pulse": none_or(clip.flicker.depth, "no"),
        "frames shown twice": none_or(clip.cadence.repeated_share, "none"),
        "horizon leans": said(clip.horizon.tilt_deg, ".1f", "°"),
        "sound peaks": "none" if clip.sound is None else said(clip.sound.peak_dbfs, ".0f", f"{NARROW}dBFS"),
    }


def _frame(width: float, height: float) -> str:
    return f"{width:.0f}{NARROW}{TIMES}{NARROW}{height:.0f}"


def _band(ends: tuple[float, float]) -> str:
    low, high = (f"{end:.1f}".replace("-", MINUS) for end in ends)
    return low if low == high else f"{low} to {high}"


def take_words(take: Take, place: int, takes: int) -> str:
    """Why a take stands where it stands. place: from 0; takes: how many there are. Returns a sentence."""
    if takes == 1:
        return "The only take."
    if place == 0:
        if take.ahead is None or take.ahead_in is None or take.ahead < 0.02:
            return "As good as the next one, as far as it can be measured."
        return f"Best for {ABOUT[take.ahead_in]}."
    return "Nothing against it." if take.about is None else f"Held back by {ABOUT[take.about]}."


class NextTimeText(Frozen):
    """Next time, in words. text: what was learned and what would have been better; changes: dial by dial; brief: of the shot
    in the light that there was."""

    text: str
    changes: tuple[str, ...]
    was_stops: float | None
    now_stops: float
    brief: Brief


def learned_words(learned: Learned) -> str:
    """What the clips told, in sentences."""
    said = []
    takes = "the take" if learned.clips == 1 else f"{learned.clips} takes"
    if learned.ev100 is None:
        said.append(f"Nothing of the light can be told from {takes}.")
    elif learned.told:
        said.append(f"The light was EV {_band(learned.ev100)}, planned {_band(learned.planned_ev100)}.")
    else:
        said.append(f"The camera held the light, EV {_band(learned.planned_ev100)} as planned, within its reach.")
    if learned.shake_times is not None:
        how = learned.shake_times
        said.append(
            f"The hand was {how:.1f} times as shaky as usual."
            if how > 1.15
            else f"The hand was {1 / how:.1f} times as steady as usual."
            if how < 0.87
            else "The hand was as usual."
        )
    if learned.habit_stops is not None and abs(learned.habit_stops) >= 0.15:
        more = "more" if learned.habit_stops > 0 else "less"
        said.append(f"The meter gives {_stops(learned.habit_stops)} {more} than its sheet says.")
    return " ".join(said)


def next_time_text(found: NextTime) -> NextTimeText:
    """Next time in words."""
    names = found.plan.names
    changes = tuple(
        f"{word_and_value(dial_word(one.dial), value_words(one.dial, one.now, names))} instead of "
        f"{value_words(one.dial, one.was, names)}"
        for one in found.changes
    )
    said = [learned_words(found.learned)]
    if not changes:
        said.append("The settings of then are still the best.")
    elif found.was_stops is None:
        said.append("The settings of then do not go together in it.")
    else:
        saved = found.was_stops - found.now_stops
        said.append(
            f"Set otherwise it gives up {one_decimal(found.now_stops)} instead of {one_decimal(found.was_stops)}{NARROW}stops."
            if saved >= 0.05
            else "Set otherwise it is as good, and no better."
        )
    return NextTimeText(
        text=" ".join(said),
        changes=changes,
        was_stops=found.was_stops,
        now_stops=found.now_stops,
        brief=found.brief,
    )


class FaultText(Frozen):
    """A kind of fault over a day. clip: where it was worst."""

    code: str
    text: str
    worst: str
    clip: str
    mend: str | None


class ReportText(Frozen):
    """A day's report in words."""

    line: str
    well: str
    faults: tuple[FaultText, ...]
    first: str


def report_text(found: DayReport, camera_names: dict[str, str]) -> ReportText:
    """A day's report in words. camera_names: by id."""
    if found.clips == 0:
        return ReportText(line="No clip is measured yet.", well="", faults=(), first="")
    line = f"{_many(found.clips, 'clip')}, {found.seconds / 60:.1f}{NARROW}min: {found.good} as planned, {found.usable} usable, {found.spoilt} spoilt."
    well = "" if not found.well else f"Went well: {', '.join(ABOUT[kind] for kind in found.well)}."
    faults = tuple(_fault(one, camera_names) for one in found.faults)
    first = ""
    if found.first is not None:
        where = f" on the {camera_names.get(found.first.camera, found.first.camera)}" if found.first.camera else ""
        mend = MENDS.get(found.first.code) or f"set the {dial_word(found.first.dial or 'view')} as planned"
        first = f"Change first{where}: {mend}."
    return ReportText(line=line, well=well, faults=faults, first=first)


def _fault(one: DayFault, camera_names: dict[str, str]) -> FaultText:
    camera = f", mostly the {camera_names.get(one.camera, one.camera)}" if one.camera else ""
    return FaultText(
        code=one.code,
        text=f"{capital(KINDS[one.code])} in {_many(one.clips, 'clip')}{camera}",
        worst=FINDINGS[one.code](one.worst),
        clip=one.worst_clip,
        mend=MENDS.get(one.code),
    )


def _many(count: int, what: str) -> str:
    return f"{count} {what}" if count == 1 else f"{count} {what}s"
