"""A film with everything that follows from it: its strip, its beats, its framings to scale, and what is missing before it cuts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from math import sqrt
from typing import Literal

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.attachments import together
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.light.sources import sky_of
from steady_tide.core.physics.optics import Projection
from steady_tide.core.planning.framing import framing_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.shoot.film import Beat, Film, FramedShot, Framing, Runs, in_film_order
from steady_tide.core.shoot.movements import MOVEMENTS
from steady_tide.core.story.continuity import Clash, Pair, clashes, pairs, runs_of
from steady_tide.core.story.coverage import Kinds, Missing, missing_of, size_of
from steady_tide.core.story.moving_camera import NEAREST_SHARE, Move, move_of
from steady_tide.core.story.oneself import Oneself, oneself
from steady_tide.core.story.shadow import SunAt, SunOnFraming, sun_at, sun_on_framing, upright_field_deg
from steady_tide.core.story.sketch import EYES_M, Sketch, View, aimed, sketch_of
from steady_tide.core.story.timing import Needs, Strip, Work, needs_of, strip_of, work_of

WIDEST_STRAIGHT_DEG = 170.0
HIGH_SHARE = 0.5  # of its distance: how high what flies is taken to be, unless it is said
WHO_FILMS_M = 1.75  # who casts the shadow


class TakeCount(Frozen):
    """How many takes of a shot there are, by what is thought of them."""

    keep: int = 0
    maybe: int = 0
    no: int = 0
    unrated: int = 0

    @property
    def total(self) -> int:
        """All of them."""
        return self.keep + self.maybe + self.no + self.unrated


@dataclass(frozen=True)
class StoryShot:
    """A shot of a film with its plan and its takes. plan, sheet: None where no camera can film it."""

    key: str
    brief: Brief
    framing: Framing
    plan: Plan | None = None
    sheet: CameraSheet | None = None
    starts_at: datetime | None = None
    setup_min: float = 5.0
    takes: TakeCount = field(default_factory=TakeCount)

    @property
    def framed(self) -> FramedShot:
        """The shot as far as its film needs it."""
        return FramedShot(key=self.key, brief=self.brief, framing=self.framing)


@dataclass(frozen=True)
class Here:
    """Where a shoot is: degrees, north and east positive."""

    latitude: float
    longitude: float


State = Literal["planned", "taken", "kept"]


class FramingFacts(Frozen):
    """A framing with what follows from it. state: whether it was filmed, and kept; end: at the end of its movement; sun: at its time;
    runs: which way its subject goes, as said or as it follows."""

    key: str
    title: str
    camera: str | None
    lens: str | None
    view: str | None
    framing: Framing
    size_m: tuple[float, float]
    distance_m: tuple[float, float]
    slow_factor: float
    mount: str
    starts_at: datetime | None
    state: State
    takes: TakeCount
    needs: Needs
    runs: Runs | None
    sketch: Sketch | None
    end: Sketch | None
    move: Move | None
    sun: SunOnFraming | None
    oneself: Oneself | None
    plan_is_missing: bool


class BeatFacts(Frozen):
    """A beat with what it takes. cuts, filmed: of its framings; there_is_take: of a beat that was struck."""

    beat: Beat
    work: Work
    framings: tuple[str, ...]
    filmed: int
    takes: int


class FilmFacts(Frozen):
    """A whole film. cuts, filmed: on its strip, and of framings with a kept take; cuts_now: whether it can be cut; even: whether its cuts
    are all alike."""

    key: str
    film: Film
    strip: Strip
    work: Work
    beats: tuple[BeatFacts, ...]
    framings: tuple[FramingFacts, ...]
    missing: tuple[Missing, ...]
    clashes: tuple[Clash, ...]
    pairs: tuple[Pair, ...]
    cuts: int
    filmed: int
    cuts_now: bool
    even: bool


def view_of(shot: StoryShot, kinds: Kinds, knowledge: Knowledge) -> tuple[View, tuple[float, float]] | None:
    """What a shot's camera sees, and its fields across and up as of a straight-lined view. kinds: of framings; knowledge: mounts.
    Returns None without a plan."""
    if shot.plan is None or shot.sheet is None:
        return None
    delivery, framing = shot.brief.delivery, shot.framing
    shape = delivery.width / delivery.height
    view = next(entry for entry in shot.sheet.views if entry.id == shot.plan.settings.view)
    across_deg = shot.plan.exposure.field_deg
    if shape < 1.0 and shot.sheet.kind == "phone":  # it is turned: the field is that of the longer side
        across_deg = _short_side_deg(across_deg, 1.0 / shape, view.projection)
    mount = knowledge.mounts.get(shot.brief.camera_move.mount)
    flying = mount is not None and mount.flying
    distance = _start_m(shot)
    camera = framing.camera_m or (HIGH_SHARE * distance if flying else EYES_M)
    seen = View(across_deg, view.projection, shape, camera)
    if framing.pitch_deg is not None:
        seen = View(across_deg, view.projection, shape, camera, framing.pitch_deg)
    elif framing.figure != "person" or flying:
        seen = aimed(
            seen, distance, size_of(kinds.get(framing.kind), framing, shot.brief)[1], stands_of(kinds, framing)
        )
    across = min(WIDEST_STRAIGHT_DEG, across_deg)
    up = (
        upright_field_deg(across, shape)
        if view.projection == "linear"
        else min(WIDEST_STRAIGHT_DEG, across_deg / shape)
    )
    return seen, (across, up)


def stands_of(kinds: Kinds, framing: Framing) -> float:
    """How high above the ground a framing's subject stands: as it says, else as its kind does. Returns metres."""
    kind = kinds.get(framing.kind)
    usual = 0.0 if kind is None or framing.figure == "person" else kind.stands_m
    return usual if framing.stands_m is None else framing.stands_m


def _short_side_deg(field: float, shape: float, projection: Projection) -> float:
    return upright_field_deg(field, shape) if projection == "linear" else field / shape


def _start_m(shot: StoryShot) -> float:
    """How far the subject is as the framing begins."""
    near, far = shot.brief.subject.distance_m
    movement = shot.framing.movement
    return far if movement is not None and movement.traits.towards else sqrt(near * far)


def sun_of(shot: StoryShot, here: Here | None) -> SunAt | None:
    """Where the sun stands as a shot begins: under its own sky, else where the shoot is. Returns None where that is not known."""
    sky = sky_of(shot.brief.light)
    at = shot.starts_at or (None if sky is None else sky.start)
    if at is None or (sky is None and here is None):
        return None
    latitude, longitude = (sky.latitude, sky.longitude) if sky else (here.latitude, here.longitude)  # type: ignore[union-attr]
    return sun_at(latitude, longitude, at)


def film_facts(
    key: str, film: Film, shots: Sequence[StoryShot], here: Here | None, kinds: Kinds, knowledge: Knowledge
) -> FilmFacts:
    """Tell a film.

    key, film: of it; shots: its framings with plans and takes; here: where the shoot is; kinds: of framings; knowledge: limits and mounts.
    Returns everything that follows. Framings of beats that are not there are told, but not cut.
    """
    limits = knowledge.limits
    by_key = {shot.key: shot for shot in shots}
    framed = in_film_order(film, tuple(shot.framed for shot in shots))
    there = {beat.id for beat in film.beats if not beat.removed}
    cut_in = tuple(shot for shot in framed if shot.framing.beat in there)
    strip = strip_of(film, cut_in)
    suns = {shot.key: sun for shot in shots if (sun := sun_of(shot, here)) is not None}
    order = [by_key[cut.key].framed for cut in strip.cuts if cut.key is not None]
    told = tuple(_framing_facts(film, by_key[one.key], here, suns.get(one.key), kinds, knowledge) for one in framed)
    kept = {one.key for one in told if one.state == "kept"}
    missing = [
        *missing_of(film, cut_in, kinds, strip.open_units, limits),
        *(
            Missing(code="unfilmed", beat=one.framing.beat, facts={"key": one.key})
            for one in told
            if one.state != "kept" and one.framing.beat in there
        ),
    ]
    setup = {shot.key: shot.setup_min for shot in shots}
    drawn = [cut for cut in strip.cuts if not cut.beyond]
    return FilmFacts(
        key=key,
        film=film,
        strip=strip,
        work=work_of(film, cut_in, setup),
        beats=tuple(_beat(film, beat, framed, by_key, kept, setup) for beat in film.beats),
        framings=told,
        missing=tuple(missing),
        clashes=clashes(film, order, suns, {shot.key: shot.plan for shot in shots if shot.plan is not None}, limits),
        pairs=pairs(framed),
        cuts=len(drawn),
        filmed=sum(cut.key in kept for cut in drawn),
        cuts_now=bool(drawn) and all(cut.key in kept for cut in drawn),
        even=len(order) >= limits.story_cuts_even_from and strip.variation < limits.story_variation_share,
    )


def _beat(
    film: Film,
    beat: Beat,
    framed: Sequence[FramedShot],
    by_key: dict[str, StoryShot],
    kept: set[str],
    setup: dict[str, float],
) -> BeatFacts:
    mine = [shot for shot in framed if shot.framing.beat == beat.id]
    return BeatFacts(
        beat=beat,
        work=work_of(film, mine, setup),
        framings=tuple(shot.key for shot in mine),
        filmed=sum(shot.key in kept for shot in mine),
        takes=sum(by_key[shot.key].takes.total for shot in mine),
    )


def _framing_facts(
    film: Film, shot: StoryShot, here: Here | None, sun: SunAt | None, kinds: Kinds, knowledge: Knowledge
) -> FramingFacts:
    framing, brief, limits = shot.framing, shot.brief, knowledge.limits
    size = size_of(kinds.get(framing.kind), framing, brief)
    seen = view_of(shot, kinds, knowledge)
    found, sketch, end, move, own = None, None, None, None, None
    mount = knowledge.mounts.get(brief.camera_move.mount)
    if seen is not None and shot.plan is not None and shot.sheet is not None:
        view, fields = seen
        numbers = framing_of(brief, shot.plan, shot.sheet)
        if sun is not None and framing.heading_deg is not None:
            found = sun_on_framing(sun, framing.heading_deg, WHO_FILMS_M, fields, view.pitch_deg)
        shadow = None if found is None or framing.heading_deg is None else (found.shadow, framing.heading_deg)
        shapes, start = brief.delivery.reframe, _start_m(shot)
        stands = stands_of(kinds, framing)
        sketch = sketch_of(
            view, start, size, framing.across, shapes, numbers.sharp_m, framing.foreground_m, shadow, stands
        )
        carried = mount is not None and mount.shake_deg_s > limits.steady_hold_deg_s
        move = move_of(film, framing, brief, fields, carried, limits)
        ends_at = _end_m(start, move)
        if ends_at is not None:
            end = sketch_of(
                view, ends_at, size, framing.across, shapes, numbers.sharp_m, framing.foreground_m, None, stands
            )
        if brief.camera_move.self_framed:
            lens = next(
                entry
                for entry in shot.sheet.lenses
                if entry.id == together(shot.plan.settings.lens, shot.plan.settings.attachment)
            )
            in_front = lens.faces == "front" or shot.plan.settings.screen == "both"
            own = oneself(view, start, size[1], numbers.focus_m, numbers.sharp_m, framing.timer_s, in_front, limits)
    elif sun is not None and framing.heading_deg is not None:
        found = sun_on_framing(
            sun, framing.heading_deg, WHO_FILMS_M, _usual_fields(None if mount is None else mount.field_deg, brief)
        )
    return FramingFacts(
        key=shot.key,
        title=brief.title,
        camera=shot.plan.camera.name if shot.plan else None,
        lens=shot.plan.settings.lens if shot.plan else None,
        view=shot.plan.settings.view if shot.plan else None,
        framing=framing,
        size_m=size,
        distance_m=brief.subject.distance_m,
        slow_factor=brief.delivery.slow_factor,
        mount=brief.camera_move.mount,
        starts_at=shot.starts_at,
        state="kept" if shot.takes.keep else "taken" if shot.takes.total else "planned",
        takes=shot.takes,
        needs=needs_of(film, shot.framed),
        runs=runs_of(film.beat(framing.beat), framing, limits),
        sketch=sketch,
        end=end,
        move=move,
        sun=found,
        oneself=own,
        plan_is_missing=shot.plan is None,
    )


def _usual_fields(field_deg: float | None, brief: Brief) -> tuple[float, float]:
    across = min(WIDEST_STRAIGHT_DEG, field_deg or 60.0)
    return across, upright_field_deg(across, brief.delivery.width / brief.delivery.height)


def _end_m(start: float, move: Move | None) -> float | None:
    towards = 0 if move is None else MOVEMENTS[move.kind].towards
    if move is None or not towards:
        return None
    return max(NEAREST_SHARE * start, start - move.path) if towards > 0 else start + move.path
