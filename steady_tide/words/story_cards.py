"""What a film says on the cards of its framings, and its list to tick outside."""

from __future__ import annotations

from collections.abc import Iterable

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.story.sketch import Sketch
from steady_tide.words.story import FilmText


class NextFraming(Frozen):
    """The framing that is filmed next."""

    key: str
    says: str


class CardStory(Frozen):
    """What stands on the card of a framing. framing: its number and kind; missing: what its beat still lacks before it cuts; next: framing to
    film after it, None where all are kept."""

    film: str
    beat: str
    framing: str
    takes: str
    minds: tuple[str, ...]
    says: tuple[str, ...]
    missing: tuple[str, ...]
    next: NextFraming | None
    sketch: Sketch | None
    figure: str


class ListedFraming(Frozen):
    """A line of a film's list. tries: boxes to tick; kept: of them that are."""

    number: int
    kind: str
    title: str
    where: str
    minds: tuple[str, ...]
    tries: int
    kept: int
    sketch: Sketch | None
    figure: str


class ListedBeat(Frozen):
    """A beat of the list."""

    title: str
    shows: str
    framings: tuple[ListedFraming, ...]
    missing: tuple[str, ...]


class ListedFilm(Frozen):
    """A film as a list to take outside."""

    title: str
    says: str
    beats: tuple[ListedBeat, ...]


def card_stories(films: Iterable[FilmText]) -> dict[str, CardStory]:
    """What films say on the cards of their framings, by shot. films: of a shoot. Returns it."""
    found = {}
    for film in films:
        told = film.told
        words = {one.key: one for one in film.framings}
        beats = {beat.beat.id: beat.beat.title for beat in told.beats}
        open_ones = [one for one in told.framings if one.state != "kept"]
        for place, one in enumerate(told.framings):
            said = words[one.key]
            later = [other for other in told.framings[place + 1 :] if other.state != "kept"]
            then = next((other for other in (*later, *open_ones) if other.key != one.key), None)
            found[one.key] = CardStory(
                film=told.film.title,
                beat=beats.get(one.framing.beat, ""),
                framing=f"Framing {said.number}, {said.kind}",
                takes="not filmed yet" if one.state == "planned" else said.state,
                minds=said.minds,
                says=said.says,
                missing=tuple(
                    need.head
                    for need in film.needs
                    if need.beat == one.framing.beat and need.key != one.key and need.strong
                ),
                next=None
                if then is None
                else NextFraming(key=then.key, says=f"{words[then.key].number}, {words[then.key].kind}: {then.title}"),
                sketch=one.sketch,
                figure=one.framing.figure,
            )
    return found


def listed(film: FilmText) -> ListedFilm:
    """A film as a list. film: in words. Returns it, beat by beat in the order of the cuts."""
    told = film.told
    words = {one.key: one for one in film.framings}
    by_key = {one.key: one for one in told.framings}
    return ListedFilm(
        title=told.film.title,
        says=f"{film.cuts_words}; {film.length_words}",
        beats=tuple(
            ListedBeat(
                title=beat.beat.title,
                shows=beat.beat.shows,
                framings=tuple(
                    ListedFraming(
                        number=words[key].number,
                        kind=words[key].kind,
                        title=by_key[key].title,
                        where=words[key].where,
                        minds=words[key].minds,
                        tries=told.film.tries,
                        kept=min(told.film.tries, by_key[key].takes.keep),
                        sketch=by_key[key].sketch,
                        figure=by_key[key].framing.figure,
                    )
                    for key in beat.framings
                ),
                missing=tuple(
                    need.head for need in film.needs if need.beat == beat.beat.id and need.code != "unfilmed"
                ),
            )
            for beat in told.beats
            if not beat.beat.removed
        ),
    )
