"""What has to be packed for a day's plans, and what of it the kit lacks."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from math import ceil
from typing import Literal

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.kit import Cell, Keeping, Kit, Knowledge, Medium, piece_of
from steady_tide.core.light.sources import Lamp, LampLight, WaterLight
from steady_tide.core.outing.budget import ShootBudget
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.planning.supplies import BANK_EFFICIENCY

NARROW = wording.NARROW
Group = Literal["cameras", "housings", "glass", "lamps", "power", "storage", "support", "small things"]
ENOUGH_LIGHT_OVER = 0.7  # stops of glass that are worth buying
FRESH_WIND_M_S = 5.0
DARK_EV = 6.5


class PackLine(Frozen):
    """One thing to pack."""

    id: str
    group: Group
    name: str
    count: int
    have: int | None  # None for what the kit does not list, such as a tripod
    shots: tuple[str, ...]  # titles
    note: str = ""


class Packing(Frozen):
    """The packing list of a day."""

    lines: tuple[PackLine, ...]
    missing: tuple[str, ...]  # what the kit lacks, and for which shot


def packing_of(
    outing: Outing, budget: ShootBudget, kit: Kit, knowledge: Knowledge, kept: Mapping[str, Keeping] | None = None
) -> Packing:
    """Work out what to pack.

    outing: the planned day; budget: of the same day; kit: what the crew owns; knowledge: names of mounts;
    kept: state and place of things by id, where they are known.
    Returns the list, in the order in which a bag is packed, and what is missing.
    """
    lines = [
        *_cameras(outing),
        *_housings(outing, kit),
        *_glass(outing, kit),
        *_lamps(outing, kit),
        *_power(outing, budget, kit),
        *_storage(outing, budget, kit),
        *_support(outing, knowledge),
        *_small(outing),
    ]
    lines = [_kept_as(line, kit, kept or {}) for line in lines]
    lacking = [
        f"{line.count - line.have} more {line.name}" + (f", for {_and(line.shots)}" if line.shots else "")
        for line in lines
        if line.have is not None and line.have < line.count
    ]
    return Packing(lines=tuple(lines), missing=(*lacking, *_missing(outing, budget)))


def _kept_as(line: PackLine, kit: Kit, kept: Mapping[str, Keeping]) -> PackLine:
    """A line with where its things lie, and how many of them are ready."""
    cells = [cell for cell in kit.batteries if cell.kind == "cell" and line.id == f"spare-{next(iter(cell.fits), '')}"]
    cards = [medium for medium in kit.media if line.id == {"card": "cards", "drive": "drive"}[medium.kind]]
    own = [line.id.removeprefix("cell-").removeprefix("mount-")]
    ready_ones: list[Cell | Medium] = [*cells, *cards]
    things = [(thing.id, thing.count) for thing in ready_ones] or [(name, 0) for name in own]
    known = [(kept[name], count) for name, count in things if name in kept]
    if not known:
        return line
    ready, owned = sum(keeping.ready for keeping, _ in known), sum(count for _, count in known)
    word = "charged" if cells else "formatted" if cards else ""
    notes = [line.note] if line.note else []
    if word and ready < line.count:
        notes.append(f"{ready} of {owned} {word} now")
    notes += dict.fromkeys(keeping.where for keeping, _ in known if keeping.where)
    return line.model_copy(update={"note": "; ".join(notes)})


def _titles(shots: Sequence[PlannedShot]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(shot.brief.title for shot in shots))


def _and(titles: Sequence[str]) -> str:
    return ", ".join(f"\u201c{title}\u201d" for title in titles)


def _cameras(outing: Outing) -> Iterator[PackLine]:
    for sheet in {shot.sheet.id: shot.sheet for shot in outing.shots}.values():
        users = [shot for shot in outing.shots if shot.sheet.id == sheet.id]
        yield PackLine(id=sheet.id, group="cameras", name=sheet.name, count=1, have=1, shots=_titles(users))


def _housings(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    names = {housing.id: housing for housing in kit.housings}
    for housing in dict.fromkeys(shot.plan.settings.housing for shot in outing.shots if shot.plan.settings.housing):
        users = [shot for shot in outing.shots if shot.plan.settings.housing == housing]
        known = names.get(housing)
        depth = f"to {known.proof_depth_m:g}{NARROW}m" if known else ""
        yield PackLine(
            id=housing,
            group="housings",
            name=known.name if known else housing,
            count=1,
            have=1 if known else 0,
            shots=_titles(users),
            note=depth,
        )


def _glass(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    known = {glass.id: glass for glass in kit.filters}
    worn = [
        (piece_of(glass), shot)
        for shot in outing.shots
        for glass in (
            *shot.plan.settings.nd,
            *([shot.plan.settings.colour_filter] if shot.plan.settings.colour_filter else []),
        )
    ]
    for glass in dict.fromkeys(glass for glass, _ in worn):
        users = [shot for worn_glass, shot in worn if worn_glass == glass]
        cameras = ", ".join(dict.fromkeys(shot.sheet.name for shot in users))
        yield PackLine(
            id=glass,
            group="glass",
            name=known[glass].name if glass in known else glass,
            count=1,
            have=1 if glass in known else 0,
            shots=_titles(users),
            note=f"for the {cameras}",
        )


def _lamps_of(brief: Brief) -> tuple[Lamp, ...]:
    return brief.light.lamps if isinstance(brief.light, LampLight | WaterLight) else ()


def _lamps(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    wanted: dict[tuple[float, int], list[tuple[int, PlannedShot]]] = {}
    for shot in outing.shots:
        lamps = _lamps_of(shot.brief)
        for kind in {(lamp.lux_at_1m, lamp.kelvin) for lamp in lamps}:
            count = sum((lamp.lux_at_1m, lamp.kelvin) == kind for lamp in lamps)
            wanted.setdefault(kind, []).append((count, shot))
    for (lux, kelvin), uses in wanted.items():
        like = next(
            (lamp for lamp in kit.lamps if lamp.kelvin == kelvin and abs(lamp.lux_at_1m - lux) < 0.02 * lux), None
        )
        strong = f"{lux:g}{NARROW}lx at 1{NARROW}m, {kelvin}{NARROW}K"
        yield PackLine(
            id=like.id if like else f"lamp-{lux:g}-{kelvin}",
            group="lamps",
            name=like.name if like else f"lamp of {strong}",
            count=max(count for count, _ in uses),
            have=like.count if like else 0,
            shots=_titles([shot for _, shot in uses]),
            note=strong if like else "",
        )


def _power(outing: Outing, budget: ShootBudget, kit: Kit) -> Iterator[PackLine]:
    for camera in budget.cameras:
        used = camera.shots
        spare_kinds = [cell for cell in kit.batteries if cell.kind == "cell" and camera.id in cell.fits]
        spares = sum(row.cell_changes for row in used)
        yield PackLine(
            id=f"cell-{camera.id}",
            group="power",
            name=f"{camera.name} cell, charged, in the camera",
            count=1,
            have=1,
            shots=(),
            note=f"{sum(row.drawn_wh for row in used):.1f}{NARROW}Wh drawn in all",
        )
        if spares:
            yield PackLine(
                id=f"spare-{camera.id}",
                group="power",
                name=spare_kinds[0].name if spare_kinds else f"{camera.name} spare cell",
                count=spares,
                have=sum(cell.count for cell in spare_kinds),
                shots=tuple(row.title for row in used if row.cell_changes),
                note="charged",
            )
    for cell in kit.batteries:
        if cell.kind != "cell" and any(row.from_bank_wh for camera in budget.cameras for row in camera.shots):
            fed = tuple(row.title for camera in budget.cameras for row in camera.shots if row.from_bank_wh)
            yield PackLine(id=cell.id, group="power", name=cell.name, count=1, have=cell.count, shots=fed)


def _storage(outing: Outing, budget: ShootBudget, kit: Kit) -> Iterator[PackLine]:
    sheets = {shot.sheet.id: shot.sheet for shot in outing.shots}
    cards = 0
    for camera in budget.cameras:
        if sheets[camera.id].card_min_mb_s:
            cards += 1 + sum(row.card_changes for row in camera.shots)
    if cards:
        kinds = [medium for medium in kit.media if medium.kind == "card"]
        yield PackLine(
            id="cards",
            group="storage",
            name=kinds[0].name if len(kinds) == 1 else "card",
            count=cards,
            have=sum(medium.count for medium in kinds),
            shots=(),
            note="formatted in its camera",
        )
    driven = [shot for shot in outing.shots if shot.on_drive]
    if driven:
        drives = [medium for medium in kit.media if medium.kind == "drive"]
        yield PackLine(
            id="drive",
            group="storage",
            name=drives[0].name if drives else "external drive with its cable",
            count=1,
            have=len(drives),
            shots=_titles(driven),
        )


def _support(outing: Outing, knowledge: Knowledge) -> Iterator[PackLine]:
    for mount in dict.fromkeys(shot.brief.camera_move.mount for shot in outing.shots):
        known = knowledge.mounts[mount]
        if mount in ("two_hands", "walking", "drone_gimbal", "fpv"):
            continue
        users = [shot for shot in outing.shots if shot.brief.camera_move.mount == mount]
        yield PackLine(id=f"mount-{mount}", group="support", name=known.name, count=1, have=None, shots=_titles(users))


def _small(outing: Outing) -> Iterator[PackLine]:
    def line(name: str, text: str, users: list[PlannedShot]) -> Iterator[PackLine]:
        if users:
            yield PackLine(id=name, group="small things", name=text, count=1, have=None, shots=_titles(users))

    shots = outing.shots
    yield from line("cloth", "lens cloth, blower", list(shots))
    yield from line(
        "inserts", "dry inserts, seal grease, a bucket of fresh water", [s for s in shots if s.plan.settings.housing]
    )
    yield from line("tether", "tether", [s for s in shots if isinstance(s.brief.light, WaterLight)])
    yield from line(
        "foam",
        "foam for the microphone",
        [s for s in shots if s.brief.sound.wanted and s.brief.sound.wind_m_s >= FRESH_WIND_M_S],
    )
    yield from line("torch", "torch, red light", [s for s in shots if s.plan.exposure.ev100[1] < DARK_EV])
    yield from line("weights", "weight for the tripod", [s for s in shots if s.brief.camera_move.mount == "tripod"])
    yield from line("warm", "warm pocket for the spare cells", [s for s in shots if s.brief.air_c <= 2])
    yield from line(
        "flags",
        "tape, flags, a black ground",
        [s for s in shots if s.brief.scenario == "product"],
    )


def _missing(outing: Outing, budget: ShootBudget) -> Iterator[str]:
    """What no line can say: charge, room and glass that the plans lack."""
    for camera in budget.cameras:
        for row in camera.shots:
            for fail in row.fails:
                if fail.kind == "battery":
                    bank = ceil(fail.short / BANK_EFFICIENCY)
                    yield f"{fail.short:.0f}{NARROW}Wh of charge for the {camera.name}, for \u201c{row.title}\u201d: spare cells, or a bank of {bank}{NARROW}Wh where it stands still"
                elif fail.kind == "card":
                    yield f"{fail.short:.0f}{NARROW}GB of room for the {camera.name}, for \u201c{row.title}\u201d"
                elif fail.kind == "flight":
                    yield f"another charged pack for the {camera.name}, for \u201c{row.title}\u201d"
    for shot in outing.shots:
        exposure = shot.plan.exposure
        lacks = exposure.nd_asked_stops - exposure.nd_stops
        fixed = shot.plan.settings.shutter_mode == "fixed"
        if fixed and exposure.over_stops >= ENOUGH_LIGHT_OVER and shot.sheet.filter_mount.fits:
            yield f"{lacks:.0f} more stops of ND for the {shot.sheet.name}, for \u201c{shot.brief.title}\u201d"
    for entry in outing.unplanned:
        yield f"\u201c{entry.title}\u201d has no plan: {entry.why}"
