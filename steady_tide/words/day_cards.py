"""The cards of a day: each with what the camera is set to before, and with what is left afterwards."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, tzinfo

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.outing.budget import ShootBudget, ShotBudget
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.outing.presets import PresetPlan, Step
from steady_tide.core.planning.glass_times import GlassSpan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.budgets import fail_words
from steady_tide.words.cards import Around, Begin, Card, card_of
from steady_tide.words.glass import span_words
from steady_tide.words.presets import PresetsText, presets_text
from steady_tide.words.quantities import NARROW, quoted
from steady_tide.words.story import FilmText
from steady_tide.words.story_cards import ListedFilm, card_stories, listed

WARM_K = 8.0  # from which on a body that is warm from before is worth a word


class KeyedCard(Frozen):
    """A card and the shot that it is for."""

    key: str
    camera_id: str
    card: Card


class DayCards(Frozen):
    """All cards of a day, in its order, with the presets to store before leaving."""

    title: str
    subtitle: str
    cards: tuple[KeyedCard, ...]
    presets: tuple[PresetsText, ...]
    packing: tuple[str, ...] = ()
    films: tuple[ListedFilm, ...] = ()


@dataclass(frozen=True)
class DayAround:
    """What is known of the day as a whole, worked out once for all its cards."""

    zone: tzinfo
    budget: ShootBudget
    presets: tuple[PresetPlan, ...]
    glass: dict[str, tuple[GlassSpan, ...]] = field(default_factory=dict)


def cards_of(
    outing: Outing,
    title: str,
    subtitle: str,
    around: DayAround,
    knowledge: Knowledge,
    camera: str | None = None,
    packing: Sequence[str] = (),
) -> DayCards:
    """Lay the cards of a day out.

    outing: the planned day; title, subtitle: of the whole; around: what is known of it; knowledge: places and
    mounts; camera: id, for one camera's day only; packing: lines to tick before leaving. Returns the cards.
    """
    wanted = [shot for shot in outing.shots if camera in (None, shot.sheet.id)]
    return DayCards(
        title=title,
        subtitle=subtitle,
        cards=tuple(
            KeyedCard(
                key=shot.key,
                camera_id=shot.sheet.id,
                card=card_of(shot.brief, shot.plan, shot.sheet, knowledge, around_of(shot, around)),
            )
            for shot in wanted
        ),
        presets=tuple(presets_text(plan) for plan in around.presets if camera in (None, plan.camera)),
        packing=tuple(packing),
    )


def around_of(shot: PlannedShot, day: DayAround) -> Around:
    """What the day says of one shot."""
    presets = next((plan for plan in day.presets if plan.camera == shot.sheet.id), None)
    step = next((entry for entry in presets.steps if entry.key == shot.key), None) if presets else None
    row = next((entry for camera in day.budget.cameras for entry in camera.shots if entry.key == shot.key), None)
    return Around(
        when=when(shot.starts_at, day.zone),
        changed=frozenset(change.dial for change in step.changes) if step else None,
        begin=_begin(shot, presets, step) if step and presets else None,
        left=tuple(left_after(row)) if row else (),
        fails=tuple(fail_words(fail) for fail in row.fails) if row else (),
        glass_times=tuple(glass_words(day.glass.get(shot.key, ()), shot.plan.names, day.zone)),
    )


def when(starts_at: datetime | None, zone: tzinfo) -> str:
    """A start as it is read at the place. Returns "" where there is none."""
    if starts_at is None:
        return ""
    local = starts_at.astimezone(zone)
    return f"{local:%A} {local.day} {local:%B}, {local:%H:%M}"


def _begin(shot: PlannedShot, presets: PresetPlan, step: Step) -> Begin:
    labels = shot.sheet.labels()
    place = next(n for n, entry in enumerate(presets.steps) if entry.key == shot.key)
    if step.preset is not None:
        stored = next(preset for preset in presets.presets if preset.number == step.preset)
        says = f"From preset {step.preset}" + (f", {quoted(stored.name)}" if stored.name != stored.shot else "")
    elif place:
        says = f"From {quoted(presets.steps[place - 1].title)}"
    else:
        says = "From scratch"
    return Begin(
        preset=step.preset,
        says=says,
        changes=len(step.changes),
        quick=tuple(labels[change.dial].label for change in step.changes if change.quick),
    )


def left_after(row: ShotBudget) -> list[str]:
    """What is left after a shot, in words: charge, room, warmth, flight."""
    said = [
        f"{100 * row.battery_left:.0f}{NARROW}% charge ({row.wh_left:.1f}{NARROW}Wh)",
        f"{row.gb_left:.0f}{NARROW}GB",
    ]
    if row.cell_changes:
        said.append("change the cell once" if row.cell_changes == 1 else f"change cells {row.cell_changes} times")
    if row.flight is not None:
        flights = "1 flight" if row.flight.flights == 1 else f"{row.flight.flights} flights"
        said.append(
            f"{flights}, {row.flight.minutes_per_charge:.0f}{NARROW}min a charge, {row.flight.reserve_min:.0f} kept for the way home"
        )
    if row.heat.minutes_to_limit is not None:
        said.append(f"hot after {row.heat.minutes_to_limit:.0f}{NARROW}min without a pause")
    elif row.heat.starts_k >= WARM_K:
        said.append(f"{row.heat.starts_k:.0f}{NARROW}K warm from before")
    return said


def glass_words(spans: Sequence[GlassSpan], names: Mapping[str, str], zone: tzinfo) -> list[str]:
    """When glass is changed, in words. spans: of a shot held through the day; names: of glass; zone: of the place."""
    return [
        f"{span_words(span, names)} {span.start.astimezone(zone):%H:%M}\u2013{span.end.astimezone(zone):%H:%M}"
        for span in spans
    ]


def with_films(cards: DayCards, films: Sequence[FilmText]) -> DayCards:
    """Cards with what the films of their shoot say on them. cards: of a day, or of one shot; films: of the shoot. Returns others; the lists of the
    films stand beside the cards of more than one shot."""
    stories = card_stories(films)
    return cards.model_copy(
        update={
            "cards": tuple(
                entry.model_copy(update={"card": entry.card.model_copy(update={"story": stories.get(entry.key)})})
                for entry in cards.cards
            ),
            "films": tuple(listed(film) for film in films) if len(cards.cards) > 1 else (),
        }
    )
