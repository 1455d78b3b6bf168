"""Standing presets and the set-up pass, in words."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.habits import Habit
from steady_tide.core.uses.sharing import Shared
from steady_tide.core.uses.standing import Standing
from steady_tide.core.uses.two_uses import Beside
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.quantities import quoted


class StandingPresetText(Frozen):
    """A preset to store. serves: uses that begin from it, with what is turned after it."""

    number: int
    use: str
    name: str
    serves: tuple[str, ...]


class StandingUseText(Frozen):
    """How a use is reached. begins: from where; turn: what then; taps: expected, each time."""

    id: str
    name: str
    per_year: float
    begins: str
    turn: str
    taps: float


class StandingText(Frozen):
    """A camera's standing presets in words. says: in a sentence; proof: whether it is the best."""

    camera: str
    name: str
    presets: tuple[StandingPresetText, ...]
    quick: tuple[str, ...]
    uses: tuple[StandingUseText, ...]
    taps: float
    by_menu: float
    says: str
    proof: str


class SetUpRow(Frozen):
    """A row of the set-up card: what stands in the menu under a label, for each preset. same: whether all presets have it."""

    id: str
    label: str
    values: tuple[str, ...]
    same: bool


class SetUpPage(Frozen):
    """A page of the camera's menu."""

    page: str
    rows: tuple[SetUpRow, ...]


class SetUpHabit(Frozen):
    """Something that is set once. where: page and label of the menu, or that it has to be looked for."""

    id: str
    name: str
    where: str
    value: str
    why: str
    known: bool


class SetUpCard(Frozen):
    """Everything that is set on a camera once, in its menu's order. presets: names by number."""

    camera: str
    name: str
    presets: tuple[str, ...]
    quick: tuple[str, ...]
    pages: tuple[SetUpPage, ...]
    habits: tuple[SetUpHabit, ...]


class BesideDialText(Frozen):
    """A dial at which two uses differ, in words. costs: of the first's value in the second's light, and the other way round, stops; None where it cannot
    be had there."""

    dial: str
    word: str
    values: tuple[str, str]
    costs: tuple[float | None, float | None]


class BesideText(Frozen):
    """Two uses side by side in words. says: sentences on what it costs to film the one with the other's settings."""

    camera: str
    name: str
    titles: tuple[str, str]
    given_up: tuple[float, float]
    dials: tuple[BesideDialText, ...]
    same: int
    whole: tuple[float | None, float | None]
    stored: tuple[float | None, float | None]
    says: tuple[str, ...]


class SharedText(Frozen):
    """A use with the cheapest preset of another one, in a sentence. costs_stops: None where no preset can film it."""

    use: str
    preset: int | None
    costs_stops: float | None
    says: str


def shared_text(shared: Shared, names: Mapping[str, str]) -> SharedText:
    """Put a use with another's preset into words. shared: it; names: of presets as a person calls them, by use. Returns it."""
    if shared.costs_stops is None:
        says = f"{shared.name}: no other preset films it"
    else:
        cost = f"{shared.costs_stops:.1f} stops more" if shared.costs_stops >= 0.05 else "nothing"
        says = f"{shared.name} with preset {shared.preset}, {quoted(names.get(shared.preset_use, shared.preset_name))}, as it is stored: {cost}"
    return SharedText(use=shared.use, preset=shared.preset, costs_stops=shared.costs_stops, says=says)


def beside_text(found: Beside, gear: Mapping[str, str]) -> BesideText:
    """Put two uses side by side into words. found: them; gear: names of glass and housings, by id. Returns it."""

    def sentence(mine: int, other: int) -> str:
        whole, stored = found.whole[mine], found.stored[mine]
        begins = f"With the settings of {quoted(found.titles[mine])}, {quoted(found.titles[other])}"
        if stored is None:
            return f"{begins} cannot be filmed."
        anew = "with filter and housing put on anew"
        if whole is None:
            return f"{begins} gives up {stored:.1f} stops more {anew}; with those on it is not offered."
        if whole - stored < 0.05:
            return f"{begins} gives up {whole:.1f} stops more."
        return f"{begins} gives up {whole:.1f} stops more, {stored:.1f} {anew}."

    return BesideText(
        camera=found.camera,
        name=found.name,
        titles=found.titles,
        given_up=found.given_up,
        dials=tuple(
            BesideDialText(
                dial=one.dial,
                word=dial_word(one.dial),
                values=(value_words(one.dial, one.values[0], gear), value_words(one.dial, one.values[1], gear)),
                costs=one.costs,
            )
            for one in found.dials
        ),
        same=found.same,
        whole=found.whole,
        stored=found.stored,
        says=(sentence(0, 1), sentence(1, 0)) if found.dials else ("They are set alike.",),
    )


def beside_lines(told: BesideText) -> list[str]:
    """Two uses side by side as lines of text. told: in words. Returns lines."""

    def cost(stops: float | None) -> str:
        return "cannot" if stops is None else f"{stops:.1f}"

    wide = max([len(one.word) for one in told.dials] + [len("gives up, stops")])
    columns = [max([len(one.values[side]) for one in told.dials] + [len(told.titles[side])]) for side in (0, 1)]
    lines = [
        f"{told.name:{wide}}  {told.titles[0]:{columns[0]}}  {told.titles[1]:{columns[1]}}  stops, in the other's light"
    ]
    lines += [
        f"{one.word:{wide}}  {one.values[0]:{columns[0]}}  {one.values[1]:{columns[1]}}  {cost(one.costs[0])} and {cost(one.costs[1])}"
        for one in told.dials
    ]
    mine, other = (f"{stops:.1f}" for stops in told.given_up)
    lines.append(f"{'gives up, stops':{wide}}  {mine:{columns[0]}}  {other}")
    return [*lines, f"{told.same} more dials are set alike", *told.says]


def standing_text(found: Standing, names: Mapping[str, str]) -> StandingText:
    """Put standing presets into words. found: chosen; names: of presets as a person calls them, by use. Returns it."""
    labels = found.labels

    def turning(dials: Sequence[str]) -> str:
        return ", ".join(labels[dial] for dial in dials)

    by_id = {use.id: use for use in found.uses}
    presets = tuple(
        StandingPresetText(
            number=one.number,
            use=one.use,
            name=names.get(one.use, one.name),
            serves=tuple(
                by_id[use].name + (f", then {turning(turned)}" if turned else "") for use, turned in one.serves.items()
            ),
        )
        for one in found.presets
    )
    called = {one.number: one.name for one in presets}
    return StandingText(
        camera=found.camera,
        name=found.name,
        presets=presets,
        quick=tuple(labels[dial] for dial in found.quick),
        uses=tuple(
            StandingUseText(
                id=use.id,
                name=use.name,
                per_year=use.per_year,
                begins="as it was" if use.preset is None else f"preset {use.preset}, {quoted(called[use.preset])}",
                turn=turning(use.turned),
                taps=use.taps,
            )
            for use in found.uses
        ),
        taps=found.taps,
        by_menu=found.by_menu,
        says=f"{found.taps:.0f} taps in a year, {found.by_menu:.0f} by the menu alone"
        if len(found.uses) > 1
        else "no taps in a year, as only one use is filmed",
        proof="the camera stays as it is set"
        if len(found.uses) == 1
        else "no choice takes fewer"
        if found.proven
        else f"the best found in ten seconds; none takes fewer than {found.least:.0f}",
    )


def set_up_card(
    sheet: CameraSheet,
    found: Standing | None,
    habits: Sequence[Habit],
    names: Mapping[str, str],
    gear: Mapping[str, str],
) -> SetUpCard:
    """The card of a camera's set-up pass.

    sheet: of the camera; found: its standing presets, None where no use is planned on it; habits: that are advised; names: of presets, by use; gear: names of
    glass, by id. Returns it, dials in the menu's order.
    """
    stored = () if found is None else found.presets
    pages = []
    for page in sheet.menu:
        rows = []
        for entry in page.dials:
            values = [preset.values[entry.dial] for preset in stored if entry.dial in preset.values]
            if len(values) != len(stored) or not values:
                continue
            said = tuple(_labelled(sheet, entry.dial, value, gear) for value in values)
            rows.append(SetUpRow(id=f"dial.{entry.dial}", label=entry.label, values=said, same=len(set(said)) == 1))
        if rows:
            pages.append(SetUpPage(page=page.page, rows=tuple(rows)))
    labels = sheet.labels()
    return SetUpCard(
        camera=sheet.id,
        name=sheet.name,
        presets=tuple(names.get(preset.use, preset.name) for preset in stored),
        quick=tuple(
            labels[dial].label if dial in labels else dial_word(dial) for dial in (() if found is None else found.quick)
        ),
        pages=tuple(pages),
        habits=tuple(
            SetUpHabit(
                id=f"habit.{one.id}",
                name=one.name,
                where=f"{one.page}, {one.label}" if one.known else "look for it: the sheet does not say where",
                value=one.words,
                why=one.why,
                known=one.known,
            )
            for one in habits
        ),
    )


def _labelled(sheet: CameraSheet, dial: str, value: Any, gear: Mapping[str, str]) -> str:
    """A value as the camera's own menu calls it, else in our words."""
    own = sheet.labels()[dial].values.get(str(value)) if dial in sheet.labels() else None
    return own or value_words(dial, value, gear)


def standing_lines(told: StandingText) -> list[str]:
    """Standing presets as text, line by line."""
    lines = [f"{told.name}: {told.says}; {told.proof}"]
    for one in told.presets:
        lines.append(f"  preset {one.number}, {one.name}")
        lines += [f"    {serves}" for serves in one.serves]
    if told.quick:
        lines.append(f"  on buttons: {', '.join(told.quick)}")
    free = [use.name for use in told.uses if use.begins == "as it was"]
    if free:
        lines.append(f"  from whatever was there before: {', '.join(free)}")
    return lines


def card_lines(card: SetUpCard) -> list[str]:
    """A set-up card as text, line by line."""
    lines = [f"{card.name}: set it up once"]
    lines += [f"  {number} {name}" for number, name in enumerate(card.presets, start=1)]
    for page in card.pages:
        lines.append(f"  {page.page}")
        for row in page.rows:
            lines.append(f"    {row.label}: {row.values[0] if row.same else ' | '.join(row.values)}")
    if card.quick:
        lines.append(f"  on buttons: {', '.join(card.quick)}")
    lines.append("  once")
    lines += [f"    {one.name}: {one.value} ({one.where}). {one.why}" for one in card.habits]
    return lines
