"""The field card: a plan in the camera's own menu order, with what to check and to mind."""

from __future__ import annotations

from collections.abc import Iterator

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.kit import Knowledge, Mount
from steady_tide.core.planning.bench import dial_name
from steady_tide.core.planning.plan import Caution, Plan, Warning
from steady_tide.core.sheet import DIALS, CameraSheet, MenuDial, MenuPage

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
    pages: tuple[CardPage, ...]
    checks: tuple[Check, ...]
    warnings: tuple[Warning, ...]
    cautions: tuple[Caution, ...]
    given_up_stops: float


def card_of(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> Card:
    """Lay a plan out as a card.

    brief, plan: of the shot; sheet: the camera that the plan is for; knowledge: places and mounts.
    Returns the card. Dials that the menu does not list stand on a last page.
    """
    mount = knowledge.mounts[brief.camera_move.mount]
    low, high = plan.exposure.ev100
    return Card(
        title=brief.title,
        camera=plan.camera.name,
        held=mount.phrase,
        light=f"{plan.light_source}, EV {_ev(low)} to {_ev(high)}",
        glass=_before_the_lens(plan),
        pages=tuple(_pages(plan, sheet)),
        checks=tuple(_checks(brief, plan, sheet, mount)),
        warnings=plan.warnings,
        cautions=plan.cautions,
        given_up_stops=plan.given_up_stops,
    )


def _ev(value: float) -> str:
    return f"{value:.0f}" if abs(value - round(value)) < 0.05 else wording.stops(value)


def _pages(plan: Plan, sheet: CameraSheet) -> Iterator[CardPage]:
    listed = sheet.labels()
    left = [
        MenuDial(dial=dial, label=dial_name(dial))
        for dial in DIALS
        if dial not in listed and dial not in BEFORE_THE_LENS and dial not in plan.settled
    ]
    pages = [*sheet.menu, *([MenuPage(page="Elsewhere", dials=tuple(left))] if left else [])]
    for page in pages:
        rows = tuple(
            _row(entry, plan) for entry in page.dials if entry.dial in plan.values and entry.dial not in BEFORE_THE_LENS
        )
        if rows:
            yield CardPage(page=page.page, rows=rows)


def _row(entry: MenuDial, plan: Plan) -> CardRow:
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
