"""Films, framings, the sun and one's own shadow, in words."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime, tzinfo

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.shoot.film import Film
from steady_tide.core.story.continuity import Clash
from steady_tide.core.story.coverage import Kinds, Missing
from steady_tide.core.story.moving_camera import Move
from steady_tide.core.story.oneself import Oneself
from steady_tide.core.story.shadow import SunOnFraming
from steady_tide.core.story.sun_day import SunOfDay
from steady_tide.core.story.telling import FilmFacts, FramingFacts
from steady_tide.words.quantities import NARROW, TIMES, metres, quoted
from steady_tide.words.templates import say

SIDES = {
    "none": "the sun is down",
    "front": "front light, the sun behind the camera",
    "side": "side light",
    "back": "back light, the sun behind what is filmed",
    "against": "against the sun, it shines into the lens",
}
# Compass points as they are said, every 22.5 degrees from north.
POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass(heading_deg: float) -> str:
    """A heading in degrees and as a compass point. heading_deg: from north by east. Returns text such as 225° (SW)."""
    turned = heading_deg % 360.0
    return f"{turned:.0f}° ({POINTS[round(turned / 22.5) % 16]})"


def sun_lines(found: SunOnFraming) -> list[str]:
    """The sun against a framing, line by line."""
    sun, shadow = found.sun, found.shadow
    lines = [f"sun {sun.altitude_deg:.1f}° high at {compass(sun.azimuth_deg)}".replace("-", "\u2212")]
    where = "; it stands in the frame" if found.in_frame else ""
    lines.append(f"{SIDES[found.side]}, {found.apart_deg:.0f}° from the heading{where}")
    if shadow.length_m is None:
        lines.append("no shadow of your own")
        return lines
    long = f"{shadow.length_m:.1f}" if shadow.length_m < 100 else f"{shadow.length_m:.0f}"
    lines.append(f"your own shadow {long}{NARROW}m long towards {compass(shadow.heading_deg)}")
    if shadow.from_m is None or shadow.to_m is None:
        lines.append("it stays out of the frame")
    else:
        lines.append(f"it falls into the frame, from {shadow.from_m:.1f} to {shadow.to_m:.1f}{NARROW}m along it")
    return lines


MOVES = {
    "push_in": "push-in",
    "pull_back": "pull-back",
    "reveal": "reveal",
    "pan": "pan",
    "tilt": "tilt",
    "arc": "arc",
    "follow": "follow",
    "fly_over": "fly-over",
    "steps": "in steps",
}
HINTS = {
    "two_points": "Two points of support: elbows at the body, the strap taut.",
    "elbows": "Elbows at the body, and lean.",
    "walk": "A quiet walk, knees soft.",
    "gimbal": "A gimbal, or wheels: so far and so fast hands shake.",
    "backwards": "Begin at the end, film it backwards and reverse it: framing and focus are easier to start from than to hit.",
    "carry": "",
}
RUNS = {
    "left_to_right": "left to right",
    "right_to_left": "right to left",
    "towards": "towards the camera",
    "away": "away from the camera",
}
WISHES = {
    "front": "front light",
    "side": "side light",
    "back": "back light",
    "against": "against the sun",
    "shade": "open shade",
}
STATES = {"planned": "is not filmed yet", "taken": "has no kept take", "kept": "is kept"}
SKIES = {
    "clear": "clear sky",
    "haze": "thin haze",
    "bright_cloud": "bright cloud",
    "overcast": "heavy overcast",
    "storm": "storm",
}
JOINS = {"shape": "like shape", "colour": "like colour", "motion": "like motion", "luminance": "like brightness"}

STORY_WORDS = {
    "movement": MOVES,
    "runs": RUNS,
    "light": WISHES,
    "join": JOINS,
    "figure": {"person": "somebody", "thing": "a thing", "ground": "the place itself"},
}


class NeedText(Frozen):
    """What is to be minded before a film cuts. strong: it does not cut without; beat, key: where, None for the whole film."""

    code: str
    strong: bool
    head: str
    text: str
    beat: str | None
    key: str | None


class FramingText(Frozen):
    """A framing in words. heading: its number and kind; where: lens, distance, movement; state: takes; minds: what goes wrong in it;
    says: what else it needs told."""

    key: str
    number: int
    kind: str
    where: str
    state: str
    minds: tuple[str, ...]
    says: tuple[str, ...]


class WorkText(Frozen):
    """A row of what it takes."""

    name: str
    value: str


class FilmText(Frozen):
    """A film with its numbers and its words. cuts_words: so many cuts, so many filmed; work: by beat, under "" of all."""

    told: FilmFacts
    cuts_words: str
    length_words: str
    framings: tuple[FramingText, ...]
    needs: tuple[NeedText, ...]
    work: dict[str, tuple[WorkText, ...]]
    joins: tuple[str, ...]


def film_text(told: FilmFacts, kinds: Kinds) -> FilmText:
    """Put a film into words. told: with all that follows; kinds: of framings. Returns it."""
    numbers = {one.key: place for place, one in enumerate(told.framings, start=1)}
    titles = {one.key: f"framing {numbers[one.key]}" for one in told.framings}
    work = {"": _work(told.work.screen_s, told.work.recorded_s, told.work.at_place_s, told.film)}
    for beat in told.beats:
        work[beat.beat.id] = _work(beat.work.screen_s, beat.work.recorded_s, beat.work.at_place_s, told.film)
    return FilmText(
        told=told,
        cuts_words=f"{_count(told.cuts, 'cut')}, {told.filmed} filmed",
        length_words=_length(told),
        framings=tuple(_framing(one, numbers[one.key], told.film, kinds) for one in told.framings),
        needs=(*_missing(told, kinds, titles), *_clashes(told, titles), *_rhythm(told)),
        work=work,
        joins=tuple(
            f"{titles[pair.one].capitalize()} and {numbers[pair.other]} join by {JOINS[pair.by]}: {pair.tag}."
            for pair in told.pairs
        ),
    )


def _count(number: int, thing: str) -> str:
    return f"{number} {thing}{'' if number == 1 else 's'}"


def duration(value_s: float) -> str:
    """A length of time as people say it. value_s: seconds. Returns text such as 5.0 s, 2 min 10 s or 1 h 24 min."""
    if value_s < 60.0:
        return f"{value_s:.1f}{NARROW}s"
    minutes, rest = divmod(round(value_s), 60)
    if minutes < 60:
        return f"{minutes}{NARROW}min" + (f" {rest}{NARROW}s" if rest and minutes < 10 else "")
    hours, minutes = divmod(minutes, 60)
    return f"{hours}{NARROW}h {minutes}{NARROW}min"


def _length(told: FilmFacts) -> str:
    strip = told.strip
    said = f"a cut every {strip.unit_s:.3g}{NARROW}s, {_count(strip.units, 'cut length')} in {told.film.length_s:g}{NARROW}s"
    if strip.over_units:
        return f"{said}; {duration(strip.over_units * strip.unit_s)} too long"
    if strip.open_units:
        return f"{said}; {duration(strip.open_units * strip.unit_s)} still open"
    if strip.rest_s > 0.02:
        return f"{said}; the last one is held {strip.rest_s:.2g}{NARROW}s longer"
    return said


def _work(screen_s: float, recorded_s: float, at_place_s: float, film: Film) -> tuple[WorkText, ...]:
    return (
        WorkText(name="on the screen", value=duration(screen_s)),
        WorkText(
            name=f"recorded, {_count(film.tries, 'try').replace('trys', 'tries')} each, held {film.hold_s:g}{NARROW}s",
            value=duration(recorded_s),
        ),
        WorkText(name="at the place", value=duration(at_place_s)),
    )


def _framing(one: FramingFacts, number: int, film: Film, kinds: Kinds) -> FramingText:
    minds, says = [], []
    if one.sun is not None and one.sun.shadow.in_frame:
        minds.append("your shadow is in the frame")
    if one.sketch is not None and not one.sketch.subject_sharp:
        minds.append("the subject is out of focus")
    if one.sketch is not None:
        lost = [crop.shape for crop in one.sketch.crops if not crop.whole]
        if lost:
            minds.append(f"the {' and '.join(lost)} cut loses part of it")
    if one.needs.short_s > 0.05:
        minds.append(f"its takes are {one.needs.short_s:.1f}{NARROW}s too short")
    if one.move is not None:
        if one.move.verdict != "works":
            minds.append(move_words(one.move))
        else:
            says.append(move_words(one.move))
        says += [HINTS[hint] for hint in one.move.hints if HINTS[hint]]
    if one.oneself is not None:
        says += oneself_words(one.oneself)
        if one.oneself.late_s > 0.0:
            minds.append(f"the timer is {one.oneself.late_s:.0f}{NARROW}s too short to get there")
        if one.oneself.seen is False:
            minds.append("you cannot see the frame from the front")
    if one.plan_is_missing:
        minds.append("no camera here can film it")
    return FramingText(
        key=one.key,
        number=number,
        kind=kinds[one.framing.kind].name if one.framing.kind in kinds else one.framing.kind,
        where=_where(one),
        state=_state(one),
        minds=tuple(minds),
        says=tuple(says),
    )


def _where(one: FramingFacts) -> str:
    near, far = one.distance_m
    distance = metres(far) if near == far else f"{metres(near).split(NARROW)[0]} to {metres(far)}"
    parts = [] if one.view is None else [one.view.replace("_", " ")]
    parts.append(distance)
    if one.framing.heading_deg is not None:
        parts.append(f"heading {compass(one.framing.heading_deg)}")
    movement = one.framing.movement
    if movement is not None:
        parts.append(MOVES[movement.kind])
    if one.slow_factor > 1.0:
        parts.append(f"slowed {one.slow_factor:g}{TIMES}")
    return ", ".join(parts)


def _state(one: FramingFacts) -> str:
    if one.state == "kept":
        return f"{one.takes.keep} kept"
    if one.state == "taken":
        return f"{_count(one.takes.total, 'take')}, none kept"
    return "missing"


def move_words(move: Move) -> str:
    """A movement in a sentence: how fast, and whether that works. Returns text."""
    unit = "m" if move.unit == "m" else "\u00b0"
    gap = NARROW if move.unit == "m" else ""
    said = (
        f"{MOVES[move.kind]}, {move.path:.3g}{gap}{unit} in {move.real_s:.3g}{NARROW}s: "
        f"{move.speed:.2g}{gap}{unit}{'/s'}"
    )
    if move.step is not None:
        said += f", {1000 * move.step:.2g}{NARROW}mm from frame to frame"
    if move.grows is not None:
        said += f", {move.grows:.2g}{TIMES} as large at the end"
    if move.verdict == "too_fast":
        return f"{said}; too fast, {move.fastest:.2g}{gap}{unit}/s at most"
    if move.verdict == "too_slow":
        return f"{said}; so slow that it looks like a mistake, {move.slowest:.2g}{gap}{unit}/s at least"
    return f"{said}; works from {move.slowest:.2g} to {move.fastest:.2g}{gap}{unit}/s"


def oneself_words(own: Oneself) -> list[str]:
    """What who films himself needs told, sentence by sentence."""
    near, far = own.walk_m
    lines = [f"Mark at {metres(own.mark_m)}" + (f", focus locked at {metres(own.focus_m)}." if own.focus_m else ".")]
    lines.append(
        f"Whole and sharp from {metres(near)} {'on' if far is None else f'to {metres(far)}'}, "
        f"{metres(own.aside_m)} to either side."
    )
    timer = "no timer is set" if own.timer_s is None else f"the timer gives {own.timer_s:.0f}{NARROW}s"
    lines.append(f"{own.there_s:.0f}{NARROW}s to walk there and turn; {timer}.")
    lines.append("A test take first: look at its edges and its focus.")
    return lines


MISSING: Mapping[str, tuple[bool, str, str]] = {
    "nothing": (True, "Nothing is framed for {beat}.", "Let framings be proposed, or add one."),
    "no_kind": (False, "No {kind} in {beat}.", "{says}"),
    "one_angle": (False, "One angle of {subject} in {beat}.", "Two are wanted, thirty degrees or more apart."),
    "unbridged": (True, "From {from} to {to} nothing bridges.", "A way out, a way in, a cutaway or the place itself would."),
    "unfilmed": (True, "{title} {state}.", ""),
    "open": (True, "{length} of the film have no framing.", "Add framings, or let some stand longer."),
}  # fmt: skip
CLASHES: Mapping[str, tuple[str, str]] = {
    "jump": ("From {one} to {other} the cut jumps.", "Both show {subject} as large, from nearly the same side."),
    "direction": ("{subject} turns round between {one} and {other}.", "It went {way}: keep it, or cut away between."),
    "line": ("Between {one} and {other} the camera crosses the line of action.", "Film one of them from the other side."),
    "light_side": ("Between {one} and {other} the light changes sides.", "It came from the {side}."),
    "weather": ("{one} and {other} have another sky.", "{before} and {after}: they will not match."),
    "balance": ("{one} and {other} are balanced otherwise.", "{before} and {after} K: set both alike, or match them later."),
    "profile": ("{one} and {other} have another profile.", "{before} and {after}: they will not match without a grade."),
    "wears": ("{subject} wears something else in {one} and {other}.", "{before} and {after}."),
}  # fmt: skip


def _missing(told: FilmFacts, kinds: Kinds, titles: Mapping[str, str]) -> list[NeedText]:
    beats = {beat.beat.id: beat.beat.title for beat in told.beats}
    framings = {one.key: one for one in told.framings}
    found = []
    for one in told.missing:
        facts = _facts(one, told, kinds, beats, titles, framings)
        strong, head, text = MISSING[one.code]
        key = one.facts.get("key")
        found.append(
            NeedText(
                code=one.code,
                strong=strong,
                head=say(head, facts),
                text=say(text, facts),
                beat=one.beat,
                key=key,
            )
        )
    return found


def _facts(
    one: Missing,
    told: FilmFacts,
    kinds: Kinds,
    beats: Mapping[str, str],
    titles: Mapping[str, str],
    framings: Mapping[str, FramingFacts],
) -> dict[str, object]:
    facts: dict[str, object] = {**one.facts, "beat": quoted(beats.get(one.beat or "", ""))}
    if one.code == "no_kind":
        kind = kinds[one.facts["kind"]]
        facts |= {"kind": kind.name, "says": kind.says}
    if one.code == "unbridged":
        facts |= {"from": quoted(one.facts["from"]), "to": quoted(one.facts["to"])}
    if one.code == "unfilmed":
        framing = framings[one.facts["key"]]
        facts |= {"title": f"{titles[framing.key].capitalize()}, {framing.title}", "state": STATES[framing.state]}
    if one.code == "open":
        facts["length"] = duration(one.facts["units"] * told.strip.unit_s)
    return facts


def _clashes(told: FilmFacts, titles: Mapping[str, str]) -> list[NeedText]:
    beat_of = {one.key: one.framing.beat for one in told.framings}
    return [
        NeedText(
            code=clash.code,
            strong=clash.code in ("jump", "direction", "line"),
            head=_capital(say(CLASHES[clash.code][0], _of_clash(clash, titles))),
            text=say(CLASHES[clash.code][1], _of_clash(clash, titles)),
            beat=beat_of[clash.other],
            key=clash.other,
        )
        for clash in told.clashes
    ]


def _of_clash(clash: Clash, titles: Mapping[str, str]) -> dict[str, object]:
    facts: dict[str, object] = dict(clash.facts)
    before, after = clash.facts.get("one"), clash.facts.get("other")
    facts |= {"before": SKIES.get(str(before), str(before)), "after": SKIES.get(str(after), str(after))}
    facts |= {"one": titles[clash.one], "other": titles[clash.other]}
    if "way" in facts:
        facts["way"] = RUNS[str(facts["way"])]
    return facts


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _rhythm(told: FilmFacts) -> list[NeedText]:
    if not told.even:
        return []
    return [
        NeedText(
            code="even",
            strong=False,
            head="All cuts are of one length.",
            text="Let some stand twice as long, or slow one: a film breathes.",
            beat=None,
            key=None,
        )
    ]


class SunText(Frozen):
    """A framing's sun through its day, with words. lines: of its own time; wish: when the wanted light is there."""

    sun: SunOfDay
    lines: tuple[str, ...]
    wish: str
    shadow: str
    harsh: str


def sun_text(sun: SunOfDay, wish: str | None, zone: tzinfo) -> SunText:
    """Put a framing's sun into words. sun: through the day; wish: the light that is wanted; zone: of the place. Returns it."""

    def clock(at: datetime) -> str:
        return f"{at.astimezone(zone):%H:%M}"

    def spans(all_of: tuple[object, ...]) -> str:
        return ", ".join(f"{clock(span.start)} to {clock(span.end)}" for span in all_of)  # type: ignore[attr-defined]

    wished = ""
    if wish == "shade":
        wished = "Open shade: the sun's side does not matter; mind its cast."
    elif wish is not None:
        name = WISHES[wish]
        wished = f"{_capital(name)}, as wished, {spans(sun.wanted)}." if sun.wanted else f"No {name} on this day."
    return SunText(
        sun=sun,
        lines=() if sun.now is None else tuple(_capital(line) + "." for line in sun_lines(sun.now)),
        wish=wished,
        shadow=f"Your own shadow is in the frame {spans(sun.shadow)}." if sun.shadow else "",
        harsh=f"Harsh sun from above {spans(sun.harsh)}: find open shade, or wait." if sun.harsh else "",
    )


def story_lines(film: FilmText) -> list[str]:
    """A film as text, line by line."""
    told = film.told
    music = "" if told.film.music_bpm is None else f", to music at {told.film.music_bpm:g} beats a minute"
    lines = [
        f"{told.film.title}: a film of {told.film.length_s:g}{NARROW}s, {' and '.join(told.film.shapes)}{music}",
        f"  {film.cuts_words}; {film.length_words}",
        "  " + "; ".join(f"{row.name} {row.value}" for row in film.work[""]),
    ]
    framings = {one.key: one for one in film.framings}
    for beat in told.beats:
        struck = " (struck)" if beat.beat.removed else ""
        lines.append(f"  {beat.beat.title}{struck}: {duration(beat.work.screen_s)} on the screen")
        for key in beat.framings:
            one = framings[key]
            lines.append(f"    {one.number} {one.kind}, {one.where}; {one.state}")
            lines += [f"      ! {mind}" for mind in one.minds]
    if film.needs:
        lines.append("  Before it cuts")
        lines += [f"    {'!' if need.strong else '-'} {need.head} {need.text}".rstrip() for need in film.needs]
    else:
        lines.append("  It cuts.")
    lines += [f"  {join}" for join in film.joins]
    return lines
