"""The field card: a plan in the camera's own menu order, with what to check and to mind."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.kit import Knowledge, Mount
from steady_tide.core.planning.bench import dial_name
from steady_tide.core.planning.plan import Caution, Plan, Warning
from steady_tide.core.sheet import DIALS, CameraSheet, MenuDial, MenuPage

CODE_TITLE_CHARACTERS = 60
# They are put on by hand and stand in no menu.
BEFORE_THE_LENS = ("nd", "colour_filter", "housing")


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


class Check(Frozen):
    """Something to do before the take."""

    id: str
    text: str


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
    left: tuple[str, ...] = ()  # what is left of charge, room and coolness afterwards
    fails: tuple[str, ...] = ()
    settings_code: str = ""  # the settings as text, for a code that a camera of the future might read
    pages: tuple[CardPage, ...]
    checks: tuple[Check, ...]
    warnings: tuple[Warning, ...]
    cautions: tuple[Caution, ...]
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


def card_of(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge, around: Around | None = None) -> Card:
    """Lay a plan out as a card.

    brief, plan: of the shot; sheet: the camera that the plan is for; knowledge: places and mounts; around: the
    day around it. Returns the card. Dials that the menu does not list stand on a last page.
    """
    day = around or Around()
    mount = knowledge.mounts[brief.camera_move.mount]
    low, high = plan.exposure.ev100
    return Card(
        title=brief.title,
        camera=plan.camera.name,
        held=mount.phrase,
        light=f"{plan.light_source}, EV {_ev(low)} to {_ev(high)}",
        when=day.when,
        glass=_before_the_lens(plan),
        glass_times=day.glass_times,
        begin=day.begin,
        left=day.left,
        fails=day.fails,
        settings_code=settings_code(brief, plan),
        pages=tuple(_pages(plan, sheet, day.changed or frozenset())),
        checks=tuple(_checks(brief, plan, sheet, mount)),
        warnings=plan.warnings,
        cautions=plan.cautions,
        given_up_stops=plan.given_up_stops,
    )


SETTINGS_FORMAT = "steady-tide/settings"


def settings_code(brief: Brief, plan: Plan) -> str:
    """The settings as compact JSON, short enough for a code on paper.

    brief, plan: of the shot. Returns text: format, version, title, camera, and every setting that is set.
    """
    settings = {
        name: value
        for name, value in plan.settings.model_dump(mode="json").items()
        if value is not None and value != [] and name not in plan.settled
    }
    if settings.get("shutter_s"):
        settings["shutter_s"] = round(settings["shutter_s"], 7)
    said = {
        "format": SETTINGS_FORMAT,
        "version": 1,
        "title": brief.title[:CODE_TITLE_CHARACTERS],
        "camera": plan.camera.id,
        "settings": settings,
    }
    return json.dumps(said, ensure_ascii=False, separators=(",", ":"))


def _ev(value: float) -> str:
    return f"{value:.0f}" if abs(value - round(value)) < 0.05 else wording.stops(value)


def _pages(plan: Plan, sheet: CameraSheet, changed: frozenset[str]) -> Iterator[CardPage]:
    listed = sheet.labels()
    left = [
        MenuDial(dial=dial, label=dial_name(dial))
        for dial in DIALS
        if dial not in listed and dial not in BEFORE_THE_LENS and dial not in plan.settled
    ]
    pages = [*sheet.menu, *([MenuPage(page="Elsewhere", dials=tuple(left))] if left else [])]
    for page in pages:
        rows = tuple(
            _row(entry, plan, entry.dial in changed)
            for entry in page.dials
            if entry.dial in plan.values and entry.dial not in BEFORE_THE_LENS
        )
        if rows:
            yield CardPage(page=page.page, rows=rows)


def _row(entry: MenuDial, plan: Plan, changed: bool) -> CardRow:
    plain = plan.values[entry.dial]
    chosen = next((value.value for value in plan.profiles[entry.dial] if value.label == plain), plain)
    own = entry.values.get(str(chosen))
    text, _, unit = (
        plain.partition(wording.NARROW)
        if entry.dial in ("frame_rate", "shutter_s", "white_balance_k", "bit_rate_mb_s")
        else (plain, "", "")
    )
    if entry.dial.startswith("iso_"):
        text = plain.removeprefix(f"ISO{wording.NARROW}")
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
    said = [
        plan.values["nd"] if settings.nd or not settings.colour_filter else "",
        plan.values["colour_filter"] if settings.colour_filter else "",
        plan.values["housing"] if settings.housing else "",
    ]
    return ", ".join(part for part in said if part)


def _checks(brief: Brief, plan: Plan, sheet: CameraSheet, mount: Mount) -> Iterator[Check]:
    settings = plan.settings
    wet = brief.light.kind == "water"
    yield Check(id="card", text="card formatted, cells full" if sheet.card_min_mb_s else "space free, cell full")
    yield Check(id="lens", text="lens clean, looked at against the light")
    if settings.nd or settings.colour_filter:
        yield Check(
            id="glass",
            text=f"{' and '.join(plan.values[name] for name in ('nd', 'colour_filter') if getattr(settings, name))} on, clean on both sides",
        )
    elif sheet.filter_mount.fits:
        yield Check(id="glass", text="no glass on the lens")
    if settings.housing:
        yield Check(id="seal", text=f"{plan.values['housing']}: seal clean, no hair or sand, closed by eye")
        yield Check(id="fog", text="dry insert in, closed in dry air, cooled in the water before the dive")
    if wet:
        yield Check(id="tether", text="rig tethered")
    if sheet.kind == "phone" and brief.delivery.height > brief.delivery.width:
        yield Check(id="upright", text="phone held upright")
    if settings.focus == "locked" and settings.focus_m is not None:
        yield Check(id="focus", text=f"focus locked at {wording.metres(settings.focus_m)}")
    if plan.endurance.frames is not None:
        yield Check(id="interval", text=f"{plan.endurance.frames} frames, {plan.values['interval_s']}; power connected")
        yield Check(id="dew", text="nothing will touch it; dew kept off the lens")
    if settings.iso_floor == settings.iso_ceiling and settings.shutter_mode == "fixed":
        yield Check(id="locked", text=f"exposure locked: ISO {settings.iso_floor} from and to")
    else:
        yield Check(id="metering", text="metering locked on the subject before the take")
    if mount.id == "tripod":
        yield Check(id="tripod", text="tripod weighted, feet set, nothing touched while it runs")
    elif mount.flying:
        yield Check(id="flight", text="airspace, wind and way home checked; charge for the return")
    elif mount.point_of_view:
        yield Check(id="tilt", text="tilted well down, hands in the frame")
    else:
        yield Check(id="grid", text="grid on, horizon level")
    if brief.sound.wanted and brief.sound.wind_m_s >= 5:
        yield Check(id="foam", text="foam on the microphone")
    if plan.exposure.ev100[1] < 6.5:
        yield Check(id="torch", text="torch at hand, way back known")
    if brief.air_c <= 2:
        yield Check(id="warm", text="spare cells warm on the body")
    if brief.subject.event_s is not None:
        yield Check(id="early", text="recording before it happens, not when")
    elif plan.endurance.frames is None:
        yield Check(id="hold", text="each framing held ten seconds, from two angles")
    yield Check(id="test", text="one test take watched before the real one")
