"""The field card: a plan in the camera's own menu order, with what to check and to mind, in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.sheet import CameraSheet, MenuDial, MenuPage
from steady_tide.core.outing.checks import Check, checks_of
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.settings_code import settings_code
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words import quantities as writing
from steady_tide.words.dial_values import dial_word, value_and_unit, value_words
from steady_tide.words.light import source_words
from steady_tide.words.plans import CautionText, WarningText
from steady_tide.words.story_cards import CardStory
from steady_tide.words.templates import say
from steady_tide.words.warnings import caution_words, warning_words


class CardRow(Frozen):
    """One entry of the menu with the value to set; `exact` says the figure behind a label."""

    dial: str
    label: str
    value: str
    unit: str
    exact: str
    pinned: bool
    changed: bool = False  # has to be turned from what the camera is set to before


class Begin(Frozen):
    """What the camera is set to before: a stored preset, or the shot before."""

    preset: int | None
    says: str
    changes: int
    quick: tuple[str, ...]  # dials on a button, by the menu's own labels


class CardPage(Frozen):
    """One page of the camera's menu."""

    page: str
    rows: tuple[CardRow, ...]


class CardCheck(Frozen):
    """Something to do before the take."""

    id: str
    text: str


class FrameOnCard(Frozen):
    """A drawn frame of the plan, or of another one. src: where its picture is."""

    name: str
    says: str
    src: str


class Card(Frozen):
    """Everything that goes outside for one shot."""

    title: str
    camera: str
    held: str
    light: str
    when: str = ""
    glass: str
    glass_times: tuple[str, ...] = ()
    begin: Begin | None = None
    counting: bool = False  # what has to be turned is still being counted; ask again
    left: tuple[str, ...] = ()  # what is left of charge, room and coolness afterwards
    fails: tuple[str, ...] = ()
    settings_code: str = ""  # the settings as text, for a code that a camera of the future might read
    frames: tuple[FrameOnCard, ...] = ()
    story: CardStory | None = None
    pages: tuple[CardPage, ...]
    checks: tuple[CardCheck, ...]
    warnings: tuple[WarningText, ...]
    cautions: tuple[CautionText, ...]
    given_up_stops: float


@dataclass(frozen=True)
class Around:
    """What a card tells of the day around its shot; empty where it is laid out alone."""

    when: str = ""
    changed: frozenset[str] | None = None  # dials to turn; None where it is not known what is set
    begin: Begin | None = None
    left: tuple[str, ...] = ()
    fails: tuple[str, ...] = ()
    glass_times: tuple[str, ...] = ()


def card_of(
    brief: Brief,
    plan: Plan,
    sheet: CameraSheet,
    knowledge: Knowledge,
    around: Around | None = None,
    judgement: Judgement = USUAL,
) -> Card:
    """Lay a plan out as a card.

    brief, plan: of the shot; sheet: the camera that the plan is for; knowledge: places and mounts; around: the
    day around it; judgement: of the plan. Returns the card. Dials that the menu does not list stand on a last page.
    """
    day = around or Around()
    mount = knowledge.mounts[brief.camera_move.mount]
    low, high = plan.exposure.ev100
    return Card(
        title=brief.title,
        camera=plan.camera.name,
        held=mount.phrase,
        light=f"{source_words(plan.light_source)}, EV {_ev(low)} to {_ev(high)}",
        when=day.when,
        glass=_before_the_lens(plan),
        glass_times=day.glass_times,
        begin=day.begin,
        left=day.left,
        fails=day.fails,
        settings_code=settings_code(brief, plan),
        pages=tuple(_pages(plan, sheet, day.changed or frozenset(), judgement)),
        checks=tuple(
            CardCheck(id=_TICK.get(check.id, check.id), text=_check_words(check, plan))
            for check in checks_of(brief, plan, sheet, mount, knowledge.limits)
        ),
        warnings=tuple(
            WarningText(code=entry.code, severity=entry.severity, text=warning_words(entry)) for entry in plan.warnings
        ),
        cautions=tuple(CautionText(topic=entry.topic, text=caution_words(entry)) for entry in plan.cautions),
        given_up_stops=plan.given_up_stops,
    )


def _ev(value: float) -> str:
    return f"{value:.0f}" if abs(value - round(value)) < 0.05 else writing.stops(value)


# What a recorder that leaves nothing to the hand has no entry for.
SET_BY_HAND_ONLY = {"shutter_s", "iso_floor", "iso_ceiling", "white_balance_k"}


def _pages(plan: Plan, sheet: CameraSheet, changed: frozenset[str], judgement: Judgement) -> Iterator[CardPage]:
    listed = sheet.labels()
    by_hand = {kind.id for kind in judgement.dial_kinds if kind.by_hand}
    if not all(way.by_hand for way in sheet.ways if way.id == plan.settings.recorder):
        by_hand |= SET_BY_HAND_ONLY
    left = [
        MenuDial(dial=dial, label=dial_word(dial, judgement))
        for dial in judgement.listed
        if dial not in listed and dial not in by_hand and dial not in plan.settled
    ]
    pages = [*sheet.menu, *([MenuPage(page="Elsewhere", dials=tuple(left))] if left else [])]
    for page in pages:
        rows = tuple(
            _row(entry, plan, entry.dial in changed, judgement)
            for entry in page.dials
            if entry.dial in plan.chosen and entry.dial not in by_hand
        )
        if rows:
            yield CardPage(page=page.page, rows=rows)


def _row(entry: MenuDial, plan: Plan, changed: bool, judgement: Judgement) -> CardRow:
    chosen = plan.chosen[entry.dial]
    own = entry.values.get(str(chosen))
    plain = value_words(entry.dial, chosen, plan.names, judgement)
    text, unit = value_and_unit(entry.dial, chosen, plan.names, judgement)
    return CardRow(
        dial=entry.dial,
        label=entry.label,
        value=own or text,
        unit=unit,
        exact=plain if own and own != plain else "",
        pinned=entry.dial in plan.pins,
        changed=changed,
    )


def _before_the_lens(plan: Plan) -> str:
    settings = plan.settings

    def said(dial: str) -> str:
        return value_words(dial, plan.chosen[dial], plan.names)

    parts = [
        said("nd") if settings.nd or not settings.colour_filter else "",
        said("colour_filter") if settings.colour_filter else "",
        said("attachment") if settings.attachment else "",
        said("housing") if settings.housing else "",
    ]
    return ", ".join(part for part in parts if part)


# Checks that are ticked under one name, whatever they say.
_TICK = {"no_glass": "glass"}
CHECKS = {
    "lens": "lens clean, looked at against the light",
    "glass": "{worn} on, clean on both sides",
    "no_glass": "no filter on the lens",
    "seal": "{housing_name}: seal clean, no hair or sand, closed by eye",
    "fog": "dry insert in, closed in dry air, cooled in the water before the dive",
    "tether": "rig tethered",
    "upright": "phone held upright",
    "focus": "focus locked at {focus_m:metres}",
    "interval": "{frames} frames, {pace}; power connected",
    "dew": "nothing will touch it; dew kept off the lens",
    "locked": "exposure locked: ISO {iso} from and to",
    "lock_together": "held on the subject until exposure and focus lock together",
    "attached": "{attachment_name} on, corners looked at",
    "microphone": "{microphone_name} charged, connected, heard in a test",
    "metering": "metering locked on the subject before the take",
    "tripod": "tripod weighted, feet set, nothing touched while it runs",
    "flight": "airspace, wind and way home checked; charge for the return",
    "tilt": "tilted well down, hands in the frame",
    "grid": "grid on, horizon level",
    "foam": "foam on the microphone",
    "torch": "torch at hand, way back known",
    "warm": "spare cells warm on the body",
    "early": "recording before it happens, not when",
    "hold": "each framing held ten seconds, from two angles",
    "test": "one test take watched before the real one",
}


def _check_words(check: Check, plan: Plan) -> str:
    facts: dict[str, Any] = dict(check.facts)
    if check.id == "card":
        return "card formatted, cells full" if facts["takes_card"] else "space free, cell full"
    if check.id == "glass":
        worn = ("nd", "colour_filter")
        facts["worn"] = " and ".join(value_words(d, plan.chosen[d], plan.names) for d in worn if facts[d])
    if check.id == "seal":
        facts["housing_name"] = plan.names.get(facts["housing"], facts["housing"])
    for put in ("attachment", "microphone"):
        if put in facts:
            facts[f"{put}_name"] = plan.names.get(facts[put], facts[put])
    if check.id == "interval":
        facts["pace"] = value_words("interval_s", facts["interval_s"])
    return say(CHECKS[check.id], facts)
