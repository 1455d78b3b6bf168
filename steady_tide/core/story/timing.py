"""The arithmetic of time: cuts, exact in frames, and what they take to record."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.shoot.film import Film, FramedShot, Framing

RATE_DIGITS = 1000  # rates such as 23.976 are taken to a thousandth


class Cut(Frozen):
    """A piece of the strip. key: its framing, None where nothing is planned; beyond: past the film's end."""

    key: str | None
    beat: str | None
    from_frame: int
    to_frame: int
    beyond: bool = False


class Strip(Frozen):
    """A film as its cuts. unit_s: from one cut to the next; units: that the film holds; rest_s: of the film after them, for
    which its last cut is held; open_units, over_units: that no framing fills, and that are too many."""

    fps: float
    frames: int
    unit_s: float
    units: int
    rest_s: float
    cuts: tuple[Cut, ...]
    open_units: int
    over_units: int
    variation: float  # of the cuts' lengths: standard deviation over mean


class Needs(Frozen):
    """What a framing takes. screen_s: in all; longest_s: of its longest cut; take_s: to record for it at least, handles and
    hold included; recorded_s: as its brief has it, all takes."""

    key: str
    screen_s: float
    longest_s: float
    take_s: float
    recorded_s: float
    short_s: float  # that its takes are too short


class Work(Frozen):
    """What a film or a beat takes: on the screen, recorded, and at the place with setting up and waiting."""

    screen_s: float
    recorded_s: float
    at_place_s: float
    framings: int


def unit_of(film: Film) -> Fraction:
    """From one cut to the next, seconds, exact."""
    if film.music_bpm is None:
        return Fraction(round(film.cut_s * RATE_DIGITS), RATE_DIGITS)
    return Fraction(60 * film.cut_beats * RATE_DIGITS, round(film.music_bpm * RATE_DIGITS))


def strip_of(film: Film, shots: Sequence[FramedShot]) -> Strip:
    """Lay a film's framings out as cuts.

    film: what is made; shots: its framings in film order. Within a beat each framing is cut in once, then those that are
    used again, round by round. Cuts fall on the frame nearest to their beat of the music, so that nothing drifts. Returns
    the strip.
    """
    rate = Fraction(round(film.fps * RATE_DIGITS), RATE_DIGITS)
    unit, length = unit_of(film), Fraction(round(film.length_s * RATE_DIGITS), RATE_DIGITS)
    units = max(1, int(length / unit))
    ends_at = max(1, round(length * rate))

    def frame(place: int) -> int:
        at = unit * place * rate
        return ends_at if place == units else int(at + Fraction(1, 2))

    cuts, place = [], 0
    for shot in _in_rounds(film, shots):
        for until in _split(place, place + shot.framing.units, units):
            cuts.append(
                Cut(
                    key=shot.key,
                    beat=shot.framing.beat,
                    from_frame=frame(place),
                    to_frame=frame(until),
                    beyond=place >= units,
                )
            )
            place = until
    filled = place
    if filled < units:
        cuts += [Cut(key=None, beat=None, from_frame=frame(at), to_frame=frame(at + 1)) for at in range(filled, units)]
    return Strip(
        fps=film.fps,
        frames=ends_at,
        unit_s=float(unit),
        units=units,
        rest_s=float(length - unit * units),
        cuts=tuple(cuts),
        open_units=max(0, units - filled),
        over_units=max(0, filled - units),
        variation=_variation([shot.framing.units for shot in _in_rounds(film, shots)]),
    )


def _split(start: int, end: int, at: int) -> list[int]:
    """Where a cut ends, and before it where the film does if it runs over."""
    return [at, end] if start < at < end else [end]


def _in_rounds(film: Film, shots: Sequence[FramedShot]) -> list[FramedShot]:
    there = {beat.id for beat in film.beats if not beat.removed}
    laid = []
    for beat in film.beats:
        if beat.id not in there:
            continue
        of_beat = [shot for shot in shots if shot.framing.beat == beat.id]
        most = max((shot.framing.uses for shot in of_beat), default=0)
        laid += [shot for turn in range(most) for shot in of_beat if shot.framing.uses > turn]
    return laid


def _variation(lengths: Sequence[int]) -> float:
    if len(lengths) < 2:
        return 0.0
    mean = sum(lengths) / len(lengths)
    return float((sum((one - mean) ** 2 for one in lengths) / len(lengths)) ** 0.5 / mean)


def cut_s(film: Film, framing: Framing) -> float:
    """How long a framing stands on the screen each time, seconds."""
    return float(unit_of(film) * framing.units)


def take_length_s(film: Film, framing: Framing, slow_factor: float) -> float:
    """How long a take of it has to be: what is used, as long as it lasts in life, with its handles; held at least as the film
    says. slow_factor: of the shot. Returns seconds."""
    return max(film.hold_s, cut_s(film, framing) / slow_factor + 2.0 * film.handle_s)


def needs_of(film: Film, shot: FramedShot) -> Needs:
    """What a framing takes, beside what its brief records. Returns both."""
    brief, each = shot.brief, cut_s(film, shot.framing)
    least = each / brief.delivery.slow_factor + 2.0 * film.handle_s
    lapse = brief.traits.interval  # its length follows from its interval
    return Needs(
        key=shot.key,
        screen_s=each * shot.framing.uses,
        longest_s=each,
        take_s=take_length_s(film, shot.framing, brief.delivery.slow_factor),
        recorded_s=brief.running_s,
        short_s=0.0 if lapse else max(0.0, least - brief.take.length_s),
    )


def work_of(film: Film, shots: Sequence[FramedShot], setup_min: dict[str, float]) -> Work:
    """What some framings take together. setup_min: of each shot, as the day has it. Returns seconds."""
    return Work(
        screen_s=sum(needs_of(film, shot).screen_s for shot in shots),
        recorded_s=sum(shot.brief.running_s for shot in shots),
        at_place_s=sum(shot.brief.lasts_s + 60.0 * setup_min.get(shot.key, 0.0) for shot in shots),
        framings=len(shots),
    )
