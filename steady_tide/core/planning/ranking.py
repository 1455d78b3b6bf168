"""The cameras of a kit for one shot: which can do it, what each gives up at its best, why the first is first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from typing import Any

import numpy as np

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.items import Attachment
from steady_tide.core.gear.kit import TAKEN_ALONG, Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.brief_cache import CachedBrief
from steady_tide.core.planning.camera_problem import CameraProblem, conflict, fitting, is_legal, too_near
from steady_tide.core.planning.enumeration import Gear, space_of
from steady_tide.core.planning.ledger import price
from steady_tide.core.planning.pinning import dials_of, read_pins
from steady_tide.core.planning.plan import Apart, CameraWhy, RankedCamera
from steady_tide.core.planning.power_and_cards import supplies_of
from steady_tide.core.planning.prepared import Prepared, prepare
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.search import least, solve
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import Solution
from steady_tide.core.quantities.errors import BadBrief, Fault, NoLegalPlan

TOLD_ITEMS = 2


@dataclass(frozen=True)
class Entry:
    """A camera of the kit, laid out; or why it cannot be taken for this shot."""

    sheet: CameraSheet
    problem: CameraProblem | None
    why_not: CameraWhy | None = None
    refused: BadBrief | None = None


@dataclass(frozen=True)
class Standing:
    """A camera with its best plan."""

    entry: Entry
    total: float
    choice: Choice | None
    why_not: CameraWhy | None
    prepared: Prepared | None = None
    solution: Solution | None = None  # where it is known already, as of the only camera


def entries_of(at: Situation, kit: Kit, knowledge: Knowledge, only: str | None = None) -> list[Entry]:
    """Lay out the cameras of a kit for a brief.

    at: the situation; kit, knowledge: to choose from; only: id of the one camera wanted.
    Returns an entry for each camera that the brief takes along. Raises BadBrief where it names what the
    crew does not have, or pins what no camera offers.
    """
    brief = at.brief
    cameras = taken("cameras", brief.kit.cameras, {c.id: c for c in kit.cameras})
    if not cameras:
        raise BadBrief(Fault("kit.cameras", "there is no camera in the kit", "Take at least one along."))
    gear = {
        field: taken(field, getattr(brief.kit, field), {item.id: item for item in getattr(kit, field)})
        for field in TAKEN_ALONG
    }
    wanted = brief.pins.get("camera")
    if wanted is not None and wanted not in {camera.id for camera in cameras}:
        raise BadBrief(
            Fault(
                "pins.camera",
                f"there is no camera '{wanted}' in the kit",
                f"It has {', '.join(c.id for c in cameras)}.",
            )
        )
    entries = [_entry(at, camera, gear, knowledge) for camera in cameras if only in (None, camera.id)]
    refused = [entry for entry in entries if entry.refused is not None]
    if refused and not any(entry.problem for entry in entries):
        raise _refusal(refused)
    return entries


def _refusal(refused: list[Entry]) -> BadBrief:
    """What no camera offers: said of the one that could be used, or of all of them."""
    first = refused[0]
    assert first.refused is not None
    if len(refused) == 1:
        return first.refused
    name = f"the {first.sheet.name}"
    return BadBrief(
        *(
            Fault(
                fault.where,
                fault.what.replace(f"{name} does not offer", "no camera here offers").replace(
                    f"{name} has no dial", "no camera here has a dial"
                ),
                f"On {name}: {fault.mend[:1].lower()}{fault.mend[1:]}",
            )
            for fault in first.refused.faults
        )
    )


def _entry(at: Situation, sheet: CameraSheet, gear: dict[str, list[Any]], knowledge: Knowledge) -> Entry:
    if sheet.mounts is not None and not {at.mount.id, at.mount.like} & set(sheet.mounts):
        return Entry(sheet, None, CameraWhy(code="mount", facts={"held": at.mount.phrase}))
    kinds = at.judgement.dials
    supplies = supplies_of(sheet, at.brief, gear["batteries"], gear["media"], knowledge)
    housing = at.brief.pins.get("housing")
    pinned_case = housing if isinstance(housing, str) else None
    put_on = Gear(gear["filters"], _focusing(at, gear["attachments"]), gear["housings"], gear["microphones"])
    space = space_of(sheet, kinds, supplies, put_on, at.wet, pinned_case, at.brief.glare)
    if not fitting(at, space).any():
        return Entry(sheet, None, CameraWhy(code="no_interval_mode" if at.lapse else "interval_modes_only"))
    dials = dials_of(space, kinds)
    names = {item.id: item.name for kind in ("housings", "attachments", "microphones") for item in gear[kind]}
    names.update((way.id, way.name) for way in sheet.ways)
    names.update((place.id, place.name) for piece in gear["filters"] for place in piece.positions())
    try:
        pins = read_pins(dials, {name: pin for name, pin in at.brief.pins.items() if name != "camera"}, sheet.name)
    except BadBrief as error:
        return Entry(sheet, None, CameraWhy(code="refused", facts={"what": error.faults[0].what}), error)
    return Entry(sheet, CameraProblem(at, space, dials, pins, names, tuple(gear["housings"]), tuple(gear["lamps"])))


def _focusing(at: Situation, attachments: Sequence[Attachment]) -> list[Attachment]:
    """Those that are of use here: a close-up lens ends what can be sharp at its own focal length."""
    near, far = at.brief.subject.distance_m
    nearest_m = sqrt(near * far) / (1.0 + at.limits.distance_rounded_share)
    wanted = at.brief.pins.get("attachment")
    return [one for one in attachments if one.dioptres * nearest_m <= 1.0 or one.id == wanted]


def taken(field: str, ids: tuple[str, ...] | None, owned: dict[str, Any]) -> list[Any]:
    """Pick what a brief takes from what the crew owns; a missing list means all.

    field: of the brief's kit, for messages; ids: the list; owned: by id. Returns the things.
    Raises BadBrief on an id that the crew does not own.
    """
    if ids is None:
        return list(owned.values())
    unknown = [
        Fault(f"kit.{field}[{index}]", f"the crew has no '{name}'", f"It has {', '.join(owned) or 'none'}.")
        for index, name in enumerate(ids)
        if name not in owned
    ]
    if unknown:
        raise BadBrief(*unknown)
    return [owned[name] for name in dict.fromkeys(ids)]


def rank(cached: CachedBrief, entries: list[Entry], best_only: bool = False) -> list[Standing]:
    """Order cameras by what their best plans give up; a pinned one first, those without a plan last.

    cached: the brief; entries: its cameras; best_only: whether nothing but their best plans is wanted, no other value of
    any dial. Returns their standings; the first has a plan. Raises NoLegalPlan where none has.
    """
    at = cached.at
    # All of the only camera is asked for anyway; of several, all of the best is.
    whole = len(entries) == 1 and not best_only
    standings = []
    for entry in entries:
        problem = entry.problem
        if problem is None:
            standings.append(Standing(entry, np.inf, None, entry.why_not))
            continue
        prepared = prepare(at, problem.space, problem.free_but(), cached.prepared.get(entry.sheet.id), problem.demands)
        cached.remember(entry.sheet.id, prepared)
        found = solve(prepared) if whole else least(prepared)
        if found is None or not np.isfinite(found.total):
            refused = no_legal_plan(problem)
            standings.append(Standing(entry, np.inf, None, CameraWhy(code=refused.code, facts=refused.facts)))
        else:
            standings.append(Standing(entry, found.total, found.best(), None, prepared, found if whole else None))
    wanted = at.brief.pins.get("camera")
    standings.sort(key=lambda s: (s.entry.sheet.id != wanted if wanted else False, _must_not(s), s.total))
    if standings[0].choice is None:
        raise _nobody(standings, wanted)
    return standings


def _must_not(standing: Standing) -> bool:
    """Whether a camera has a plan that must not be followed: it would drown, or see
    nothing sharp."""
    problem = standing.entry.problem
    if standing.choice is None or problem is None:
        return True
    return problem.space.too_deep or too_near(problem.at, problem.space)


def no_legal_plan(problem: CameraProblem) -> NoLegalPlan:
    """The error that names the smallest set of pins that exclude each other. problem: of the camera."""
    camera = problem.space.sheet.name
    if not is_legal(problem, problem.demands):
        return NoLegalPlan("no_mode", {"camera": camera})
    names = conflict(problem, problem.pins)
    pins = [[name, problem.pins[name]] for name in names]
    return NoLegalPlan("pins", {"camera": camera, "pins": pins, "names": problem.names}, names)


def _nobody(standings: list[Standing], wanted: Any) -> NoLegalPlan:
    first = standings[0]
    if len(standings) == 1 and first.entry.problem is not None:
        return no_legal_plan(first.entry.problem)

    def said(standing: Standing) -> dict[str, Any]:
        assert standing.why_not is not None
        return {"camera": standing.entry.sheet.name, "why": standing.why_not.model_dump(mode="json")}

    if wanted:
        pins = no_legal_plan(first.entry.problem).pins if first.entry.problem else ()
        return NoLegalPlan("camera_cannot", said(first), ("camera", *pins))
    blamed = next((no_legal_plan(s.entry.problem).pins for s in standings if s.entry.problem is not None), ())
    return NoLegalPlan("no_camera_can", {"cameras": [said(standing) for standing in standings]}, blamed)


def ranked(at: Situation, standings: list[Standing]) -> list[RankedCamera]:
    """Say of each camera what it would give up, and why not less. standings: as ranked. Returns them in order."""
    able = [s for s in standings if s.entry.problem is not None and s.choice is not None]
    # Alone, there is nothing to compare with.
    priced = {
        s.entry.sheet.id: price(at, s.entry.problem.space, s.choice, s.prepared.precomputed)
        for s in (able if len(able) > 1 else ())
        if s.entry.problem is not None and s.choice is not None and s.prepared is not None
    }
    first = standings[0]
    return [_ranked_camera(at, s, first, standings, priced) for s in standings]


def chosen_values(problem: CameraProblem, choice: Choice) -> dict[str, Any]:
    """The value that a choice has on each dial that is shown. problem: of the camera. Returns values by dial."""
    return {name: dial.value_of(choice[dial.block]) for name, dial in problem.dials.items() if dial.listed}


def _ranked_camera(
    at: Situation, standing: Standing, first: Standing, standings: list[Standing], priced: dict[str, Priced]
) -> RankedCamera:
    sheet, problem = standing.entry.sheet, standing.entry.problem
    chosen: dict[str, Any] = {}
    if problem is None or standing.choice is None:
        assert standing.why_not is not None
        why = standing.why_not
    else:
        chosen = chosen_values(problem, standing.choice)
        if standing is not first:
            why = CameraWhy(code="behind", apart=apart(at, priced[sheet.id], priced[first.entry.sheet.id]))
        else:
            second = next((s for s in standings[1:] if s.choice is not None), None)
            why = _winner(at, standing, second, priced) if len(standings) > 1 else CameraWhy(code="alone")
    return RankedCamera(
        id=sheet.id,
        name=sheet.name,
        kind=sheet.kind,
        given_up_stops=standing.total if standing.choice is not None else None,
        why=why,
        chosen=chosen,
    )


def _winner(at: Situation, first: Standing, second: Standing | None, priced: dict[str, Priced]) -> CameraWhy:
    if second is None:
        return CameraWhy(code="only_one_able")
    facts = {"other": second.entry.sheet.name, "more_stops": second.total - first.total}
    if second.total < first.total:
        return CameraWhy(code="pinned_though_worse", facts=facts)
    told = apart(at, priced[second.entry.sheet.id], priced[first.entry.sheet.id])
    return CameraWhy(code="ahead", facts=facts, apart=told)


def apart(at: Situation, theirs: Priced, ours: Priced) -> Apart:
    """What a plan gives up more than another, and what less: the items that differ most.

    at: gives the weights; theirs, ours: two plans. Returns them, weighted.
    """
    by_item = {item: at.weights[item] * (theirs.stops[item] - ours.stops[item]) for item in theirs.stops}
    seen = at.limits.seen_stops
    worse = sorted((item for item in by_item if by_item[item] >= seen), key=lambda item: -by_item[item])
    better = min(by_item, key=lambda item: by_item[item])
    return Apart(
        more=tuple((item, by_item[item]) for item in worse[:TOLD_ITEMS]),
        less=(better, -by_item[better]) if by_item[better] <= -seen else None,
    )
