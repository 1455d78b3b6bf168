"""A plan in words: the setting sheet as it is read, sent and shown."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from steady_tide.core.planning import plan as core
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import CameraName, Endurance, Exposure, Plan, Settings, WhyNot
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.dial_values import CAMERA, dial_word, value_words
from steady_tide.words.light import source_words
from steady_tide.words.own import OwnText, own_number_text
from steady_tide.words.plan_lines import WITH_VIEW, change_words, sheet_line
from steady_tide.words.quantities import stops
from steady_tide.words.reasons import item_title, reason_words
from steady_tide.words.refusals import camera_words, pins_words
from steady_tide.words.rows import RowText, rows_of, settled_words
from steady_tide.words.schools import rival_words
from steady_tide.words.warnings import caution_words, warning_words


class CameraText(Frozen):
    """A camera of the kit with its best plan for the shot, or why it has none."""

    id: str
    name: str
    kind: str
    given_up_stops: float | None
    why: str
    chosen: dict[str, Any]
    values: dict[str, str]
    says: str  # its plan in one line


class ItemText(Frozen):
    """One thing given up: how many stops, how much a stop matters here, what that comes to."""

    item: str
    title: str
    dial: str
    stops: float
    weight: float
    given_up_stops: float
    why: str
    weight_why: str


@dataclass(frozen=True)
class ValueText:
    """One value of a dial with the price of the best plan that has it; of these, too, a plan holds hundreds."""

    value: Any
    label: str
    legal: bool
    given_up_stops: float | None
    why_not: str | None


class WarningText(Frozen):
    """Something that will go wrong, or would."""

    code: str
    severity: Literal["stop", "warn", "note"]
    text: str


class CautionText(Frozen):
    """Something that can hurt someone."""

    topic: str
    text: str


class RivalText(Frozen):
    """Another way of working, as differences from this plan and at this plan's prices."""

    axis: str
    school: str
    name: str
    chosen: dict[str, Any]
    changes: dict[str, str]
    says: str  # the changes in few words
    given_up_stops: float


class PlanText(Frozen):
    """A setting sheet with its reasons, its price and what others would do."""

    camera: CameraName
    settings: Settings
    chosen: dict[str, Any]  # value of each dial, in the form that pins it
    values: dict[str, str]  # the same in words
    rows: tuple[RowText, ...]  # the sheet as it is shown, row by row
    says: str  # the whole in one line
    settled_says: str  # what leaves nothing to choose, in words
    exposure: Exposure
    endurance: Endurance
    light_source: str
    ledger: tuple[ItemText, ...]
    given_up_stops: float
    reasons: dict[str, str]
    runner_up_stops: dict[str, float | None]
    profiles: dict[str, tuple[ValueText, ...]]
    settled: tuple[str, ...]  # dials that leave nothing to choose on this camera for this shot
    pins: dict[str, Any]
    warnings: tuple[WarningText, ...]
    cautions: tuple[CautionText, ...]
    schools: tuple[RivalText, ...]
    cameras: tuple[CameraText, ...]
    combinations: int
    graded: bool
    own: tuple[OwnText, ...] = ()  # one's own numbers that it was made with


_WHY_NOT = {
    "at_speed_only": "Not for interval films.",
    "interval_films_only": "Only for interval films.",
    "too_near": "It cannot be sharp on a subject so near.",
    "longer_than_frame": "Longer than a frame lasts.",
    "longer_than_pause": "Longer than the pause between frames.",
    "needs_drive": "It records to a drive, and the kit has none.",
    "needs_faster_card": "No card in the kit is fast enough.",
    "no_mode": "No mode that films this shot offers it.",
}


def why_not_words(why: WhyNot, pins: dict[str, Any], names: dict[str, str], judgement: Judgement = USUAL) -> str:
    """Why a value is not offered. pins, names: of the plan. Returns a sentence."""
    if why.code != "pins":
        return _WHY_NOT[why.code]
    said = pins_words([[dial, pins[dial]] for dial in why.pins], names, judgement)
    return f"Not offered with {said}, which you pinned."


def plan_text(plan: Plan, judgement: Judgement = USUAL) -> PlanText:
    """Put a plan into words. plan: codes and quantities; judgement: with which it was made. Returns its text."""
    names = {**plan.names, plan.camera.id: plan.camera.name}

    def words_of(chosen: dict[str, Any]) -> dict[str, str]:
        return {dial: value_words(dial, value, names, judgement) for dial, value in chosen.items()}

    values = words_of(plan.chosen)
    reasons = {dial: reason_words(dial, reason, names, judgement) for dial, reason in plan.reasons.items()}
    cameras = tuple(_camera(entry, words_of(entry.chosen), judgement) for entry in plan.cameras)
    said = {CAMERA: cameras[0].why, **reasons}
    # Made of checked values, of which a plan holds hundreds: checking each again would take longer than telling it.
    return PlanText.model_construct(
        camera=plan.camera,
        settings=plan.settings,
        chosen=plan.chosen,
        values=values,
        rows=rows_of(plan, values, judgement),
        says=sheet_line(plan.chosen, values),
        settled_says=settled_words(plan, values, judgement),
        exposure=plan.exposure,
        endurance=plan.endurance,
        light_source=source_words(plan.light_source),
        ledger=tuple(_item(entry, judgement) for entry in plan.ledger),
        given_up_stops=plan.given_up_stops,
        reasons=said,
        runner_up_stops=plan.runner_up_stops,
        profiles={
            CAMERA: _camera_values(cameras),
            **{
                dial: tuple(_value(plan, dial, entry, names, judgement) for entry in entries)
                for dial, entries in plan.profiles.items()
                if dial != CAMERA
            },
        },
        settled=plan.settled,
        pins=plan.pins,
        warnings=tuple(
            WarningText(code=entry.code, severity=entry.severity, text=warning_words(entry)) for entry in plan.warnings
        ),
        cautions=tuple(CautionText(topic=entry.topic, text=caution_words(entry)) for entry in plan.cautions),
        schools=tuple(
            RivalText(
                axis=rival.axis,
                school=rival.school,
                name=rival_words(rival.axis, rival.school),
                chosen=rival.changes,
                changes=words_of(rival.changes),
                says=change_words(
                    words_of(rival.changes),
                    {dial: dial_word(dial, judgement) for dial in judgement.dials if dial in rival.changes},
                ),
                given_up_stops=rival.given_up_stops,
            )
            for rival in plan.schools
        ),
        cameras=cameras,
        combinations=plan.combinations,
        graded=plan.graded,
        own=tuple(own_number_text(used) for used in plan.own),
    )


def _item(entry: core.LedgerItem, judgement: Judgement) -> ItemText:
    return ItemText(
        item=entry.item,
        title=item_title(entry.item, judgement),
        dial=entry.dial,
        stops=entry.stops,
        weight=entry.weight,
        given_up_stops=entry.given_up_stops,
        why=f"{stops(entry.stops)} stops at {entry.weight:g} each",
        weight_why=entry.weight_why,
    )


def _camera(entry: core.RankedCamera, values: dict[str, str], judgement: Judgement) -> CameraText:
    return CameraText(
        id=entry.id,
        name=entry.name,
        kind=entry.kind,
        given_up_stops=entry.given_up_stops,
        why=camera_words(entry.why, judgement),
        chosen=entry.chosen,
        values=values,
        says=sheet_line(entry.chosen, values, WITH_VIEW) if entry.chosen else "",
    )


def _camera_values(cameras: tuple[CameraText, ...]) -> tuple[ValueText, ...]:
    return tuple(
        ValueText(
            value=entry.id,
            label=entry.name,
            legal=entry.given_up_stops is not None,
            given_up_stops=entry.given_up_stops,
            why_not=entry.why if entry.given_up_stops is None else None,
        )
        for entry in cameras
    )


def _value(plan: Plan, dial: str, entry: core.DialValue, names: dict[str, str], judgement: Judgement) -> ValueText:
    return ValueText(
        value=entry.value,
        label=value_words(dial, entry.value, names, judgement),
        legal=entry.legal,
        given_up_stops=entry.given_up_stops,
        why_not=None if entry.why_not is None else why_not_words(entry.why_not, plan.pins, names, judgement),
    )
