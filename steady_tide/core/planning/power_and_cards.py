"""What a camera has to live on during a shot: charge, cards, and how it sheds its heat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.items import Cell, Chemistry, Medium
from steady_tide.core.gear.sheet import CameraSheet, Memory, Power
from steady_tide.core.light.sources import WaterLight
from steady_tide.core.physics.endurance import cell_temperature_c, cold_factor
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.quantities.stops import Number


def heat_kept(brief: Brief, knowledge: Knowledge) -> float:
    """What is left of the thermal resistance of still air. brief: of the shot; knowledge: mounts and judgement. Returns
    a share."""
    limits = knowledge.limits
    if isinstance(brief.light, WaterLight):
        return limits.heat_kept_in_water
    mount = knowledge.mounts.get(brief.camera_move.mount)
    if mount is not None and mount.inside:
        return 1.0
    windy = max(brief.sound.wind_m_s, brief.camera_move.travel_m_s) >= limits.fresh_wind_m_s
    return limits.heat_kept_in_wind if windy else 1.0


def fed_from_outside(brief: Brief, sheet: CameraSheet, knowledge: Knowledge) -> bool:
    """Whether a bank or the mains can feed a camera in a shot: it stands still, and dry."""
    wet = isinstance(brief.light, WaterLight)
    mount = knowledge.mounts.get(brief.camera_move.mount)
    return sheet.power.runs_on_bank and not wet and mount is not None and mount.stands


def standby_w(power: Power, limits: Limits) -> float:
    """What a body draws while it waits. power: of its sheet; limits: what stands in for it. Returns watts."""
    return power.standby_w if power.standby_w is not None else limits.standby_share * power.base_w


def cold_of(chemistry: str, cell_c: float, chemistries: dict[str, Chemistry]) -> float:
    """Share of a full charge that a kind of cell gives. cell_c: how warm it is, degrees Celsius. Returns 0 to 1; an
    unknown kind counts as ordinary."""
    return float(cold_factor(cell_c, _kind(chemistry, chemistries).left))


def _kind(chemistry: str, chemistries: dict[str, Chemistry]) -> Chemistry:
    return chemistries.get(chemistry) or chemistries["ordinary"]


@dataclass(frozen=True)
class Charge:
    """What cells of one kind hold that may be drawn in the warm, and how they stand the cold."""

    wh: float
    left: tuple[tuple[float, float], ...]

    def gives_wh(self, cells_c: Number) -> Number:
        """What comes out. cells_c: how warm they are, degrees Celsius. Returns watt-hours."""
        return self.wh * cold_factor(cells_c, self.left)


@dataclass(frozen=True)
class Supplies:
    """Charge, cards and heat of one camera in one shot."""

    own: Charge
    spares: tuple[Charge, ...]
    charges: int
    bank_wh: float
    standby_w: float
    heat_k_per_w: float
    heat_tau_s: float
    fastest_mb_s: float
    capacity_gb: float
    largest_gb: float  # of one card
    has_card: bool
    has_drive: bool
    card_margin: float
    air_c: float
    at_work_s: float  # filming and waiting
    cell_warmth_share: float

    def cells_c(self, needed_wh: Number) -> Number:
        """How warm the cells are in the body by the end of the shot. needed_wh: what the shot takes, watt-hours.
        Returns degrees Celsius. The sun is left out, for a shadow takes it away."""
        power_w = np.asarray(needed_wh) * 3600.0 / self.at_work_s
        return cell_temperature_c(
            self.air_c, power_w, self.heat_k_per_w, self.heat_tau_s, self.at_work_s, self.cell_warmth_share
        )

    def charge_wh(self, needed_wh: Number) -> Number:
        """What one charge of its own cell gives. needed_wh: what the shot takes, watt-hours. Returns watt-hours."""
        return self.own.gives_wh(self.cells_c(needed_wh))

    def energy_wh(self, needed_wh: Number) -> Number:
        """All that can be drawn. needed_wh: what the shot takes, watt-hours. Returns watt-hours."""
        cells_c = self.cells_c(needed_wh)
        return sum((spare.gives_wh(cells_c) for spare in self.spares), start=self.own.gives_wh(cells_c)) + self.bank_wh


def supplies_of(
    sheet: CameraSheet, brief: Brief, cells: Sequence[Cell], media: Sequence[Medium], knowledge: Knowledge
) -> Supplies:
    """What there is for a camera in a shot.

    sheet: the camera, whose own cell is charged; brief: the shot; cells, media: taken along;
    knowledge: how cells stand the cold, and what banks and cards are worth. Returns the supplies; a power bank counts
    only where the camera stands on a tripod in the dry.
    """
    power, limits, chemistries = sheet.power, knowledge.limits, knowledge.chemistries

    keeps = 1.0 - power.reserve_share

    def charge(wh: float, chemistry: str) -> Charge:
        return Charge(wh * keeps, _kind(chemistry, chemistries).left)

    fitting = [cell for cell in cells if cell.kind == "cell" and sheet.id in cell.fits]
    banks = [cell for cell in cells if cell.kind != "cell"] if fed_from_outside(brief, sheet, knowledge) else []
    shed = heat_kept(brief, knowledge)
    usable = [medium for medium in media if not medium.fits or sheet.id in medium.fits]
    cards: list[Medium | Memory] = [medium for medium in usable if medium.kind == "card" and sheet.card_min_mb_s]
    cards += [sheet.memory] if sheet.memory else []
    drives = [medium for medium in usable if medium.kind == "drive"]
    return Supplies(
        own=charge(power.battery_wh, power.chemistry),
        spares=tuple(charge(cell.wh * cell.count, cell.chemistry) for cell in fitting),
        charges=1 + sum(cell.count for cell in fitting),
        bank_wh=sum(cell.wh * cell.count * limits.bank_efficiency for cell in banks),
        standby_w=standby_w(power, limits),
        # The body stores as much heat as ever, so it settles sooner where it sheds it faster.
        heat_k_per_w=power.heat_k_per_w * shed,
        heat_tau_s=power.tau_s * shed,
        fastest_mb_s=max((card.write_mb_s for card in cards), default=0.0),
        capacity_gb=sum(card.capacity_gb * (card.count if isinstance(card, Medium) else 1) for card in cards),
        largest_gb=max((card.capacity_gb for card in cards), default=0.0),
        has_card=bool(cards),
        has_drive=bool(drives),
        card_margin=limits.card_margin,
        air_c=brief.air_c,
        at_work_s=brief.running_s + 60.0 * brief.take.standby_min,
        # The pack of what flies lies apart from what the camera warms.
        cell_warmth_share=0.0 if power.motors_w else limits.cell_warmth_share,
    )
