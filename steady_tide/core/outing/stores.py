"""Cells and cards as single things that empty and fill through a day."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from steady_tide.core.gear.items import Cell
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.limits import Limits

OWN = "its own"


@dataclass
class OneCell:
    """One cell with what is left in it."""

    kind_id: str  # of the kit; OWN for the camera's own
    camera: str | None  # whose own it is
    wh: float
    chemistry: str
    fits: tuple[str, ...]
    left_wh: float = field(init=False)
    used_by: set[str] = field(init=False, default_factory=set)  # cameras that drew from it

    def __post_init__(self) -> None:
        self.left_wh = self.wh

    def usable_wh(self, cold: float, reserve: float) -> float:
        """What it still gives: in the cold its last part stays shut in, and a reserve is kept back.

        cold: share of a full charge that comes out; reserve: share of that kept. Returns watt-hours.
        """
        return max(0.0, self.left_wh - self.wh * (1.0 - cold * (1.0 - reserve)))


@dataclass
class OneBank:
    """A bank or the mains, feeding a camera while it runs; its losses are counted."""

    kind_id: str
    left_wh: float


@dataclass
class OneCard:
    """One card, drive or built-in memory with the room that is left on it."""

    name: str
    kind: str
    capacity_gb: float
    write_mb_s: float
    fits: tuple[str, ...]
    kind_id: str
    left_gb: float = field(init=False)
    camera: str | None = None

    def __post_init__(self) -> None:
        self.left_gb = self.capacity_gb


@dataclass
class Stores:
    """Everything that a day lives on."""

    cells: list[OneCell]
    banks: list[OneBank]
    cards: list[OneCard]
    card_margin: float
    in_use: dict[str, OneCell] = field(default_factory=dict)

    def cells_of(self, camera: str, allowed: Sequence[str] | None) -> list[OneCell]:
        """Cells that go into a camera, its own first. allowed: ids taken along; None for all."""
        return [
            cell
            for cell in self.cells
            if cell.camera == camera or (camera in cell.fits and (allowed is None or cell.kind_id in allowed))
        ]

    def spares_used(self, camera: str) -> int:
        """Spare cells that a camera drew from, each counted once however often it was put in."""
        return sum(cell.camera is None and camera in cell.used_by for cell in self.cells)

    def cards_used(self, camera: str) -> int:
        """Cards that a camera wrote to."""
        return sum(card.kind == "card" and card.camera == camera for card in self.cards)

    def banks_allowed(self, allowed: Sequence[str] | None) -> list[OneBank]:
        """Banks taken along. allowed: ids; None for all."""
        return [bank for bank in self.banks if allowed is None or bank.kind_id in allowed]

    def cards_of(self, camera: str, allowed: Sequence[str] | None, mb_s: float, drive: bool) -> list[OneCard]:
        """Cards that a camera may write to at a bit rate, those already in it first, then the smallest.

        allowed: ids taken along, None for all; mb_s: bit rate, megabits per second; drive: whether the mode
        writes to a drive only.
        """
        fitting = [
            card
            for card in self.cards
            if (card.kind == "drive") == drive
            and card.camera in (None, camera)
            and (not card.fits or camera in card.fits)
            and (card.kind == "memory" or allowed is None or card.kind_id in allowed)
            and card.write_mb_s >= mb_s * self.card_margin
        ]
        return sorted(fitting, key=lambda card: (card.camera is None, card.capacity_gb))


def stores_of(kit: Kit, cameras: Iterable[CameraSheet], limits: Limits) -> Stores:
    """All charged, all empty.

    kit: what the crew owns; cameras: those that are used; limits: what banks and cards are worth. Returns the stores.
    """
    used = {camera.id: camera for camera in cameras}
    cells = [
        OneCell(OWN, camera.id, camera.power.battery_wh, camera.power.chemistry, (camera.id,))
        for camera in used.values()
    ]
    cells += [
        OneCell(cell.id, None, cell.wh, cell.chemistry, cell.fits)
        for cell in kit.batteries
        if cell.kind == "cell"
        for _ in range(cell.count)
    ]
    banks = [
        OneBank(cell.id, cell.wh * limits.bank_efficiency)
        for cell in kit.batteries
        if cell.kind != "cell"
        for _ in range(cell.count)
    ]
    cards = [
        OneCard("built-in memory", "memory", camera.memory.capacity_gb, camera.memory.write_mb_s, (camera.id,), OWN)
        for camera in used.values()
        if camera.memory
    ]
    takes_cards = {camera.id for camera in used.values() if camera.card_min_mb_s}
    for medium in kit.media:
        fits = medium.fits if medium.kind == "drive" else tuple(medium.fits or takes_cards)
        cards += [
            OneCard(medium.name, medium.kind, medium.capacity_gb, medium.write_mb_s, fits, medium.id)
            for _ in range(medium.count)
            if fits or medium.kind == "drive"
        ]
    return Stores(cells, banks, cards, limits.card_margin)


def own_cell(sheet: CameraSheet, count: int, chemistry: str | None = None) -> Cell:
    """More cells like the camera's own. Returns an entry of a kit."""
    return Cell(
        id=f"more-{sheet.id}",
        name=f"{sheet.name} spare cell",
        wh=sheet.power.battery_wh,
        chemistry=chemistry or sheet.power.chemistry,
        count=count,
        fits=(sheet.id,),
    )
