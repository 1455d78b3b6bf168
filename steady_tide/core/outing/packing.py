"""What has to be packed for a day's plans, and what of it the kit lacks."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from math import ceil
from typing import Any, Literal

from pydantic import Field

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.items import Cell, Keeping, Medium, piece_of
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.sources import Lamp, LampLight, WaterLight
from steady_tide.core.outing.budget import ShootBudget
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits

Group = Literal["cameras", "housings", "glass", "sound", "lamps", "power", "storage", "support", "small things"]


class Said(Frozen):
    """Something to be said. code: which sentence; facts: its quantities."""

    code: str
    facts: dict[str, Any] = Field(default_factory=dict)


class PackLine(Frozen):
    """One thing to pack."""

    id: str
    group: Group
    name: Said  # `named` for what has a name of its own
    count: int
    have: int | None  # None for what the kit does not list, such as a tripod
    shots: tuple[str, ...]  # titles
    notes: tuple[Said, ...] = ()


class Packing(Frozen):
    """The packing list of a day."""

    lines: tuple[PackLine, ...]
    missing: tuple[Said, ...]  # what the kit lacks, and for which shot


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
        *_attachments(outing, kit),
        *_microphones(outing, kit),
        *_lamps(outing, kit, knowledge.limits),
        *_power(outing, budget, kit),
        *_storage(outing, budget, kit),
        *_support(outing, knowledge),
        *_small(outing, knowledge),
    ]
    lines = [_kept_as(line, kit, kept or {}) for line in lines]
    lacking = [
        Said(code="more", facts={"count": line.count - line.have, "name": line.name.model_dump(), "shots": line.shots})
        for line in lines
        if line.have is not None and line.have < line.count
    ]
    return Packing(lines=tuple(lines), missing=(*lacking, *_missing(outing, budget, knowledge.limits)))


def _named(name: str) -> Said:
    return Said(code="named", facts={"name": name})


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
    notes = [*line.notes]
    if word and ready < line.count:
        notes.append(Said(code=f"{word}_now", facts={"ready": ready, "owned": owned}))
    places = dict.fromkeys(keeping.where for keeping, _ in known if keeping.where)
    notes += [Said(code="lies", facts={"where": where}) for where in places]
    return line.model_copy(update={"notes": tuple(notes)})


def _titles(shots: Sequence[PlannedShot]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(shot.brief.title for shot in shots))


def _cameras(outing: Outing) -> Iterator[PackLine]:
    for sheet in {shot.sheet.id: shot.sheet for shot in outing.shots}.values():
        users = [shot for shot in outing.shots if shot.sheet.id == sheet.id]
        yield PackLine(id=sheet.id, group="cameras", name=_named(sheet.name), count=1, have=1, shots=_titles(users))


def _housings(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    names = {housing.id: housing for housing in kit.housings}
    for housing in dict.fromkeys(shot.plan.settings.housing for shot in outing.shots if shot.plan.settings.housing):
        users = [shot for shot in outing.shots if shot.plan.settings.housing == housing]
        known = names.get(housing)
        yield PackLine(
            id=housing,
            group="housings",
            name=_named(known.name if known else housing),
            count=1,
            have=1 if known else 0,
            shots=_titles(users),
            notes=(Said(code="deep", facts={"proof_m": known.proof_depth_m}),) if known else (),
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
        cameras = list(dict.fromkeys(shot.sheet.name for shot in users))
        yield PackLine(
            id=glass,
            group="glass",
            name=_named(known[glass].name if glass in known else glass),
            count=1,
            have=1 if glass in known else 0,
            shots=_titles(users),
            notes=(Said(code="for_cameras", facts={"cameras": cameras}),),
        )


def _attachments(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    yield from _by_name(outing, "glass", {a.id: a.name for a in kit.attachments}, lambda s: s.plan.settings.attachment)


def _microphones(outing: Outing, kit: Kit) -> Iterator[PackLine]:
    known = {one.id: one.name for one in kit.microphones}
    yield from _by_name(outing, "sound", known, lambda s: s.plan.settings.microphone)


def _by_name(
    outing: Outing, group: Group, known: Mapping[str, str], of: Callable[[PlannedShot], str | None]
) -> Iterator[PackLine]:
    """A line for each thing that a plan names. known: names by id; of: which a shot needs."""
    for thing in dict.fromkeys(name for shot in outing.shots if (name := of(shot)) is not None):
        users = [shot for shot in outing.shots if of(shot) == thing]
        yield PackLine(
            id=thing,
            group=group,
            name=_named(known.get(thing, thing)),
            count=1,
            have=1 if thing in known else 0,
            shots=_titles(users),
        )


def _lamps_of(brief: Brief) -> tuple[Lamp, ...]:
    return brief.light.lamps if isinstance(brief.light, LampLight | WaterLight) else ()


def _lamps(outing: Outing, kit: Kit, limits: Limits) -> Iterator[PackLine]:
    same = limits.same_lamp_share
    wanted: dict[tuple[float, int], list[tuple[int, PlannedShot]]] = {}
    for shot in outing.shots:
        lamps = [lamp for lamp in _lamps_of(shot.brief) if lamp.ours is not False]
        for kind in {(lamp.lux_at_1m, lamp.kelvin) for lamp in lamps}:
            count = sum((lamp.lux_at_1m, lamp.kelvin) == kind for lamp in lamps)
            wanted.setdefault(kind, []).append((count, shot))
    for (lux, kelvin), uses in wanted.items():
        like = next((lamp for lamp in kit.lamps if lamp.is_like(lux, kelvin, same)), None)
        strong = Said(code="strength", facts={"lux_at_1m": lux, "kelvin": kelvin})
        yield PackLine(
            id=like.id if like else f"lamp-{lux:g}-{kelvin}",
            group="lamps",
            name=_named(like.name) if like else Said(code="lamp_like", facts=strong.facts),
            count=max(count for count, _ in uses),
            have=like.count if like else 0,
            shots=_titles([shot for _, shot in uses]),
            notes=(strong,) if like else (),
        )


def _power(outing: Outing, budget: ShootBudget, kit: Kit) -> Iterator[PackLine]:
    for camera in budget.cameras:
        used = camera.shots
        spare_kinds = [cell for cell in kit.batteries if cell.kind == "cell" and camera.id in cell.fits]
        spares = camera.spares_used
        yield PackLine(
            id=f"cell-{camera.id}",
            group="power",
            name=Said(code="own_cell", facts={"camera": camera.name}),
            count=1,
            have=1,
            shots=(),
            notes=(Said(code="drawn", facts={"wh": sum(row.drawn_wh for row in used)}),),
        )
        if spares:
            yield PackLine(
                id=f"spare-{camera.id}",
                group="power",
                name=_named(spare_kinds[0].name)
                if spare_kinds
                else Said(code="spare_cell", facts={"camera": camera.name}),
                count=spares,
                have=sum(cell.count for cell in spare_kinds),
                shots=tuple(row.title for row in used if row.cell_changes),
                notes=(Said(code="charged"),),
            )
    for cell in kit.batteries:
        if cell.kind != "cell" and any(row.from_bank_wh for camera in budget.cameras for row in camera.shots):
            fed = tuple(row.title for camera in budget.cameras for row in camera.shots if row.from_bank_wh)
            yield PackLine(id=cell.id, group="power", name=_named(cell.name), count=1, have=cell.count, shots=fed)


def _storage(outing: Outing, budget: ShootBudget, kit: Kit) -> Iterator[PackLine]:
    cards = sum(camera.cards_used for camera in budget.cameras)
    if cards:
        kinds = [medium for medium in kit.media if medium.kind == "card"]
        yield PackLine(
            id="cards",
            group="storage",
            name=_named(kinds[0].name) if len(kinds) == 1 else Said(code="card"),
            count=cards,
            have=sum(medium.count for medium in kinds),
            shots=(),
            notes=(Said(code="formatted"),),
        )
    driven = [shot for shot in outing.shots if shot.on_drive]
    if driven:
        drives = [medium for medium in kit.media if medium.kind == "drive"]
        yield PackLine(
            id="drive",
            group="storage",
            name=_named(drives[0].name) if drives else Said(code="drive"),
            count=1,
            have=len(drives),
            shots=_titles(driven),
        )


def _support(outing: Outing, knowledge: Knowledge) -> Iterator[PackLine]:
    for mount in dict.fromkeys(shot.brief.camera_move.mount for shot in outing.shots):
        known = knowledge.mounts[mount]
        if known.nothing_to_pack:
            continue
        users = [shot for shot in outing.shots if shot.brief.camera_move.mount == mount]
        yield PackLine(
            id=f"mount-{mount}", group="support", name=_named(known.name), count=1, have=None, shots=_titles(users)
        )


def _small(outing: Outing, knowledge: Knowledge) -> Iterator[PackLine]:
    shots, limits, mounts = outing.shots, knowledge.limits, knowledge.mounts
    wanted = {
        "cloth": list(shots),
        "inserts": [s for s in shots if s.plan.settings.housing],
        "tether": [s for s in shots if isinstance(s.brief.light, WaterLight)],
        "foam": [s for s in shots if s.brief.sound.wanted and s.brief.sound.wind_m_s >= limits.fresh_wind_m_s],
        "torch": [s for s in shots if s.plan.exposure.ev100[1] < limits.torch_ev],
        "weights": [s for s in shots if mounts[s.brief.camera_move.mount].stands],
        "warm": [s for s in shots if s.brief.air_c <= limits.warm_cells_c],
        "flags": [s for s in shots if s.brief.traits.on_table],
    }
    for name, users in wanted.items():
        if users:
            yield PackLine(
                id=name, group="small things", name=Said(code=name), count=1, have=None, shots=_titles(users)
            )


def _missing(outing: Outing, budget: ShootBudget, limits: Limits) -> Iterator[Said]:
    """What no line can say: charge, room and glass that the plans lack."""
    for camera in budget.cameras:
        for row in camera.shots:
            for fail in row.fails:
                facts = {"short": fail.short, "camera": camera.name, "shot": row.title}
                if fail.kind == "battery":
                    facts["short"] = ceil(fail.short)
                    yield Said(code="charge", facts={**facts, "bank_wh": ceil(fail.short / limits.bank_efficiency)})
                elif fail.kind == "card":
                    yield Said(code="room", facts=facts)
                elif fail.kind == "flight":
                    yield Said(code="pack", facts=facts)
    for shot in outing.shots:
        exposure = shot.plan.exposure
        lacks = exposure.nd_asked_stops - exposure.nd_stops
        fixed = shot.plan.settings.shutter_mode == "fixed"
        worth_it = exposure.over_stops >= limits.glass_worth_buying_stops
        if fixed and worth_it and shot.sheet.filter_mount.fits:
            facts = {"stops": lacks, "camera": shot.sheet.name, "shot": shot.brief.title}
            yield Said(code="density", facts=facts)
    for entry in outing.unplanned:
        yield Said(code="no_plan", facts={"shot": entry.title, "code": entry.code, "facts": entry.facts})
