"""What is set once on a camera and then left: what is advised for what somebody usually films, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from pydantic import Field, model_validator

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.frozen import Frozen

MATTERS_SHARE = 1.0 / 3.0  # of the year, from which on a case counts


class HabitCase(Frozen):
    """When something else is advised. scenarios: kinds of shot; upright, graded: how it is delivered."""

    scenarios: tuple[str, ...] = ()
    upright: bool = False
    graded: bool = False
    value: str
    why: str

    def is_of(self, brief: Brief) -> bool:
        """Whether a use is one of these."""
        delivery = brief.delivery
        return (
            (not self.scenarios or brief.scenario in self.scenarios)
            and (not self.upright or delivery.height > delivery.width)
            and (not self.graded or brief.graded)
        )


class HabitKind(Frozen):
    """A habit, as data. options: words by value; usual, why: what is advised; check: it is looked at, not chosen; only: kinds of shot that need it;
    by_mains: it follows the mains where one films."""

    id: str
    name: str
    options: Annotated[dict[str, str], Field(min_length=1)]
    usual: str
    why: str
    cases: tuple[HabitCase, ...] = ()
    check: bool = False
    only: tuple[str, ...] = ()
    by_mains: bool = False

    @model_validator(mode="after")
    def _advises_what_there_is(self) -> HabitKind:
        for value in (self.usual, *(case.value for case in self.cases)):
            if value not in self.options:
                raise ValueError(f"{self.id} has no option '{value}'")
        return self


class Habit(Frozen):
    """What is advised on one camera. label, page: the menu's own, None where the sheet does not tell; value: the option that is
    advised, None where the camera has none such; known: whether the sheet tells of it."""

    id: str
    name: str
    label: str | None
    page: str | None
    value: str | None
    words: str
    why: str
    check: bool
    known: bool


def habits_of(
    kinds: Mapping[str, HabitKind], sheet: CameraSheet, uses: Sequence[tuple[Brief, float]], mains_hz: int
) -> tuple[Habit, ...]:
    """What is advised for what somebody films with a camera.

    kinds: of habits; sheet: of the camera, which may tell where they stand; uses: briefs with how often each is filmed in a year; mains_hz: where one films.
    Returns those that matter for these uses, in the menu's order, those of unknown place last.
    """
    told = {habit.id: habit for habit in sheet.habits}
    total = sum(often for _, often in uses) or 1.0
    found = []
    for kind in kinds.values():
        mine = [(brief, often) for brief, often in uses if not kind.only or brief.scenario in kind.only]
        if not mine:
            continue
        value, why = _advised(kind, uses, total, mains_hz)
        entry = told.get(kind.id)
        words: Any = kind.options[value]
        offered = True
        if entry is not None and entry.values:
            offered = value in entry.values
            words = entry.values.get(value, words)
        found.append(
            Habit(
                id=kind.id,
                name=kind.name,
                label=None if entry is None else entry.label,
                page=None if entry is None else entry.page,
                value=value if offered else None,
                words=words if offered else "not on this camera",
                why=why,
                check=kind.check,
                known=entry is not None,
            )
        )
    pages = [page.page for page in sheet.menu]
    return tuple(
        sorted(found, key=lambda one: pages.index(one.page) if one.page in pages else len(pages) + (not one.known))
    )


def _advised(kind: HabitKind, uses: Sequence[tuple[Brief, float]], total: float, mains_hz: int) -> tuple[str, str]:
    if kind.by_mains:
        return str(mains_hz) if str(mains_hz) in kind.options else kind.usual, kind.why
    for case in kind.cases:
        share = sum(often for brief, often in uses if case.is_of(brief)) / total
        if share >= MATTERS_SHARE:
            return case.value, case.why
    return kind.usual, kind.why
