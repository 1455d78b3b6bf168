"""The field card: a plan in the camera's own menu order, with what to check and to mind."""

from __future__ import annotations

from collections.abc import Iterator

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.kit import Knowledge
from steady_tide.core.planning.plan import Caution, Plan, Warning
from steady_tide.core.sheet import DIALS, CameraSheet, MenuDial, MenuPage


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
        glass=plan.values["nd"],
        pages=tuple(_pages(plan, sheet)),
        checks=tuple(_checks(brief, plan, mount.point_of_view)),
        warnings=plan.warnings,
        cautions=plan.cautions,
        given_up_stops=plan.given_up_stops,
    )


def _ev(value: float) -> str:
    return f"{value:.0f}" if abs(value - round(value)) < 0.05 else wording.stops(value)


def _pages(plan: Plan, sheet: CameraSheet) -> Iterator[CardPage]:
    listed = sheet.labels()
    left = [MenuDial(dial=dial, label=dial.replace("_", " ")) for dial in DIALS if dial not in listed and dial != "nd"]
    pages = [*sheet.menu, *([MenuPage(page="Elsewhere", dials=tuple(left))] if left else [])]
    for page in pages:
        rows = tuple(_row(entry, plan) for entry in page.dials if entry.dial in plan.values and entry.dial != "nd")
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


def _checks(brief: Brief, plan: Plan, point_of_view: bool) -> Iterator[Check]:
    settings = plan.settings
    yield Check(id="card", text="card formatted, cells full")
    yield Check(id="lens", text="lens clean, looked at against the light")
    if settings.nd:
        yield Check(id="glass", text=f"{plan.values['nd']} on, clean on both sides")
    else:
        yield Check(id="glass", text="no glass on the lens")
    if settings.iso_floor == settings.iso_ceiling and settings.shutter_mode == "fixed":
        yield Check(id="locked", text=f"exposure locked: ISO {settings.iso_floor} from and to")
    else:
        yield Check(id="metering", text="metering locked on the subject before the take")
    if brief.camera_move.mount == "tripod":
        yield Check(id="tripod", text="tripod weighted, feet set, nothing touched while it runs")
    elif point_of_view:
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
    else:
        yield Check(id="hold", text="each framing held ten seconds, from two angles")
    yield Check(id="test", text="one test take watched before the real one")
