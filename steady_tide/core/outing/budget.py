"""Budgets of a day: charge, cards, heat and flight, as what is left after each shot."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import ceil, inf
from typing import Any, Literal

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.outing.stores import OneBank, OneCard, OneCell, Stores, stores_of
from steady_tide.core.outing.warmth import Body, Heat, heat_of
from steady_tide.core.planning.power_and_cards import cold_of, fed_from_outside
from steady_tide.core.quantities.frozen import Frozen

Kind = Literal["battery", "card", "heat", "flight"]
HARDLY_ANY = 1e-6


class Fail(Frozen):
    """What a shot runs out of, by how much, and when. code: which sentence says it; facts: its quantities."""

    kind: Kind
    code: str
    facts: dict[str, Any]
    short: float
    unit: str


class Flight(Frozen):
    """How a flying camera's charge is spent."""

    minutes_per_charge: float
    reserve_min: float
    flights: int


class ShotBudget(Frozen):
    """What one shot takes, and what is left after it."""

    key: str
    title: str
    starts_at: datetime | None
    drawn_wh: float
    from_bank_wh: float
    wh_left: float
    battery_left: float  # share of what all full cells would give at this temperature
    cell_changes: int
    interrupted: bool  # a take outlasts a cell
    recorded_gb: float
    gb_left: float
    card_left: float
    card_changes: int
    takes: int
    clips: int  # more than takes where the camera splits them
    heat: Heat
    flight: Flight | None
    fails: tuple[Fail, ...]


class CameraBudget(Frozen):
    """One camera's day."""

    id: str
    name: str
    cells: int
    cells_wh: float
    cards_gb: float  # that its shots may use, when all are empty
    spares_used: int  # cells besides its own
    cards_used: int
    shots: tuple[ShotBudget, ...]
    first_fail: str | None  # key of the first shot that fails


class Without(Frozen):
    """A shot that has no plan to be budgeted."""

    key: str
    title: str
    code: str
    facts: dict[str, Any]


class ShootBudget(Frozen):
    """The budgets of a whole day."""

    cameras: tuple[CameraBudget, ...]
    bank_wh_left: float | None  # None where there is no bank
    without: tuple[Without, ...]


def budget_of(outing: Outing, kit: Kit, knowledge: Knowledge) -> ShootBudget:
    """Work a day out, shot after shot over all cameras.

    outing: planned shots in their order; kit: what the crew owns; knowledge: how cells stand the cold, what banks and cards are worth.
    Returns what is left after each. Cells and cards are changed when a take would not fit into what is left;
    a bank feeds what outlasts a charge, and what the cells lack; a card stays in the camera that took it.
    """
    sheets = {shot.sheet.id: shot.sheet for shot in outing.shots}
    stores = stores_of(kit, sheets.values(), knowledge.limits)
    bodies = {name: Body() for name in sheets}
    rows: dict[str, list[ShotBudget]] = {name: [] for name in sheets}
    rooms = {name: _usable(stores, [shot for shot in outing.shots if shot.sheet.id == name]) for name in sheets}
    for shot in outing.shots:
        name = shot.sheet.id
        rows[name].append(_one(shot, stores, rooms[name], bodies[name], knowledge))
    cameras = []
    for name, sheet in sheets.items():
        own = stores.cells_of(name, None)
        cameras.append(
            CameraBudget(
                id=name,
                name=sheet.name,
                cells=len(own),
                cells_wh=sum(cell.wh for cell in own),
                cards_gb=sum(card.capacity_gb for card in rooms[name]),
                spares_used=stores.spares_used(name),
                cards_used=stores.cards_used(name),
                shots=tuple(rows[name]),
                first_fail=next((row.key for row in rows[name] if row.fails), None),
            )
        )
    return ShootBudget(
        cameras=tuple(cameras),
        bank_wh_left=sum(bank.left_wh for bank in stores.banks) if stores.banks else None,
        without=tuple(
            Without(key=entry.key, title=entry.title, code=entry.code, facts=entry.facts) for entry in outing.unplanned
        ),
    )


def _usable(stores: Stores, shots: Sequence[PlannedShot]) -> list[OneCard]:
    """Cards that some shots of one camera may write to."""
    found = {id(card): card for shot in shots for card in _cards_of(shot, stores)}
    return list(found.values())


def _one(shot: PlannedShot, stores: Stores, rooms: Sequence[OneCard], body: Body, knowledge: Knowledge) -> ShotBudget:
    charge = _charge(shot, stores, knowledge)
    room = _room(shot, stores, rooms)
    heat = heat_of(shot, body, knowledge)
    fails = [*charge.fails, *room.fails, *_heat_fails(shot, heat)]
    limit = shot.sheet.clip_limit_min
    lapse = shot.plan.settings.interval_s is not None
    clips = 1 if limit is None or lapse else ceil(shot.brief.take.length_s / 60.0 / limit - 1e-9)
    return ShotBudget(
        key=shot.key,
        title=shot.brief.title,
        starts_at=shot.starts_at,
        drawn_wh=charge.needed_wh - charge.short_wh,
        from_bank_wh=charge.bank_wh,
        wh_left=charge.left_wh,
        battery_left=charge.left_wh / charge.full_wh if charge.full_wh else 0.0,
        cell_changes=charge.changes,
        interrupted=charge.interrupted,
        recorded_gb=room.recorded_gb,
        gb_left=room.left_gb,
        card_left=room.left_gb / room.full_gb if room.full_gb else 0.0,
        card_changes=room.changes,
        takes=shot.takes,
        clips=clips * shot.takes,
        heat=heat,
        flight=charge.flight,
        fails=tuple(fails),
    )


@dataclass
class _Charge:
    needed_wh: float
    full_wh: float
    left_wh: float = 0.0
    bank_wh: float = 0.0
    short_wh: float = 0.0
    changes: int = 0
    pieces_on: int = 0
    interrupted: bool = False
    flight: Flight | None = None
    fails: tuple[Fail, ...] = ()


def _charge(shot: PlannedShot, stores: Stores, knowledge: Knowledge) -> _Charge:
    sheet, brief = shot.sheet, shot.brief
    reserve = sheet.power.reserve_share
    allowed = brief.kit.batteries
    cells = stores.cells_of(sheet.id, allowed)
    cells_c = shot.plan.endurance.cells_c
    cold = {cell.chemistry: cold_of(cell.chemistry, cells_c, knowledge.chemistries) for cell in cells}

    def gives(cell: OneCell) -> float:
        return cell.usable_wh(cold[cell.chemistry], reserve)

    full = sum(cell.wh * cold[cell.chemistry] * (1.0 - reserve) for cell in cells)
    used = _Charge(needed_wh=shot.plan.endurance.needed_wh, full_wh=full)
    largest = max(cell.wh * cold[cell.chemistry] * (1.0 - reserve) for cell in cells)
    banks = stores.banks_allowed(allowed) if fed_from_outside(brief, sheet, knowledge) else []
    piece = used.needed_wh / shot.takes
    for _ in range(shot.takes):
        left = piece
        if left > largest:  # nobody changes a cell in the middle of a take if it can be helped
            left -= _from_banks(used, banks, left)
        left = _from_cells(used, stores, sheet.id, cells, gives, left)
        left -= _from_banks(used, banks, left)
        if left > HARDLY_ANY:
            used.short_wh += left
    used.left_wh = sum(gives(cell) for cell in cells)
    per_charge = largest / shot.plan.endurance.power_w * 60.0
    if shot.plan.endurance.power_w and _flies(shot):
        used.flight = Flight(
            minutes_per_charge=per_charge,
            reserve_min=per_charge / (1.0 - reserve) * reserve,
            flights=used.pieces_on,
        )
    if used.short_wh > HARDLY_ANY:
        used.fails = (_out_of_charge(shot, used),)
    return used


def _from_banks(used: _Charge, banks: list[OneBank], wanted_wh: float) -> float:
    drawn = 0.0
    for bank in banks:
        part = min(bank.left_wh, wanted_wh - drawn)
        bank.left_wh -= part
        drawn += part
    used.bank_wh += drawn
    return drawn


def _from_cells(
    used: _Charge,
    stores: Stores,
    camera: str,
    cells: list[OneCell],
    gives: Callable[[OneCell], float],
    wanted_wh: float,
) -> float:
    """Draw a take from the cell in the camera, or change it first. Returns what is still wanted, watt-hours."""
    if wanted_wh <= HARDLY_ANY:
        return 0.0
    left = wanted_wh
    current = stores.in_use.get(camera, cells[0])
    while left > HARDLY_ANY:
        if gives(current) < left:
            fresh = max(cells, key=gives)
            if gives(fresh) <= HARDLY_ANY:
                break
            if fresh is not current:
                used.changes += 1
                used.pieces_on += 1
                used.interrupted |= left < wanted_wh
                current = fresh
        part = min(gives(current), left)
        current.left_wh -= part
        current.used_by.add(camera)
        left -= part
    stores.in_use[camera] = current
    used.pieces_on = max(used.pieces_on, 1)
    return left


def _flies(shot: PlannedShot) -> bool:
    return shot.sheet.power.reserve_share > 0


def _out_of_charge(shot: PlannedShot, used: _Charge) -> Fail:
    draws = shot.plan.endurance.power_w
    minutes = used.short_wh / draws * 60.0
    if _flies(shot):
        return Fail(
            kind="flight",
            code="flight",
            facts={"minutes": minutes},
            short=minutes,
            unit="min",
        )
    return Fail(
        kind="battery",
        code="cells",
        facts={"short_wh": used.short_wh, "needed_wh": used.needed_wh, "hours": minutes / 60.0},
        short=used.short_wh,
        unit="Wh",
    )


@dataclass
class _Room:
    recorded_gb: float
    full_gb: float = 0.0
    left_gb: float = 0.0
    changes: int = 0
    fails: tuple[Fail, ...] = ()


def _cards_of(shot: PlannedShot, stores: Stores) -> list[OneCard]:
    """Cards that a shot may write to."""
    rate = shot.plan.settings.bit_rate_mb_s
    return stores.cards_of(shot.sheet.id, shot.brief.kit.media, rate, shot.on_drive)


def _room(shot: PlannedShot, stores: Stores, rooms: Sequence[OneCard]) -> _Room:
    """Write the takes of a shot. rooms: all that its camera may use through the day."""
    settings, camera = shot.plan.settings, shot.sheet.id
    drive = shot.on_drive
    room = _Room(recorded_gb=shot.plan.endurance.recorded_gb)
    cards = _cards_of(shot, stores)
    missing = 0.0
    take_gb = room.recorded_gb / shot.takes
    largest_gb = max((card.capacity_gb for card in cards), default=0.0)
    for _ in range(shot.takes):
        left = take_gb
        while left > HARDLY_ANY:
            card = _card_for(cards, camera, left)
            if card is None:
                missing += left
                break
            if card.camera is None:
                room.changes += any(other.camera == camera for other in cards)
                card.camera = camera
            part = min(card.left_gb, left)
            card.left_gb -= part
            left -= part
    room.full_gb = sum(card.capacity_gb for card in rooms)
    room.left_gb = sum(card.left_gb for card in rooms if card.camera in (None, camera))
    if missing > HARDLY_ANY:
        facts = {
            "drive": drive,
            "missing_gb": missing,
            "recorded_gb": room.recorded_gb,
            "mb_s": settings.bit_rate_mb_s,
        }
        code = "room" if cards else "no_room"
        room.fails = (Fail(kind="card", code=code, facts=facts, short=missing, unit="GB"),)
    elif cards and take_gb > largest_gb + HARDLY_ANY:
        facts = {"drive": drive, "take_gb": take_gb, "largest_gb": largest_gb}
        short = take_gb - largest_gb
        room.fails = (Fail(kind="card", code="take_over_card", facts=facts, short=short, unit="GB"),)
    return room


def _card_for(cards: list[OneCard], camera: str, gb: float) -> OneCard | None:
    """The card that takes a clip: one in the camera with room, else the smallest fresh one, else what room is left."""
    mine = [card for card in cards if card.camera == camera]
    fresh = [card for card in cards if card.camera is None]
    for choice in (
        [card for card in mine if card.left_gb >= gb],
        [card for card in fresh if card.left_gb >= gb],
        [card for card in mine if card.left_gb > HARDLY_ANY],
        fresh[::-1],
    ):
        if choice:
            return choice[0]
    return None


def _heat_fails(shot: PlannedShot, heat: Heat) -> Iterator[Fail]:
    if heat.peak_c <= heat.limit_c:
        return
    after = inf if heat.minutes_to_limit is None else heat.minutes_to_limit
    yield Fail(
        kind="heat",
        code="heat",
        facts={"minutes": after, "take_h": shot.brief.take.length_s / 3600.0, "warm_k": heat.starts_k},
        short=heat.peak_c - heat.limit_c,
        unit="K",
    )
