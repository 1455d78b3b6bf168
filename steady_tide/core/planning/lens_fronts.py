"""What can stand in front of a lens: housings that are deep enough, each with the glass that fits its port."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from steady_tide.core.gear.items import Filter, Housing, piece_of
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.space import Glass


@dataclass(frozen=True)
class Wet:
    """Water at a camera: how deep it goes, metres; the share of a proof depth that is used at most; and whether it is
    under water, or only wet by spray, surf or rain."""

    deepest_m: float
    used_share: float
    under: bool


@dataclass(frozen=True)
class Fronts:
    """What can stand in front of a lens; whether nothing at hand goes so deep; whether the window is flat."""

    glasses: tuple[Glass, ...]
    too_deep: bool
    flat_port: bool


def fronts_of(
    sheet: CameraSheet,
    filters: Sequence[Filter],
    housings: Sequence[Housing],
    wet: Wet | None = None,
    wanted: str | None = None,
    glare: bool = False,
) -> Fronts:
    """Lay out what can stand in front of a camera's lens; body and housings only as deep as they safely go.

    sheet: the camera; filters, housings: at hand; wet: None in the dry; wanted: id of a housing that is pinned; glare:
    whether there is any.
    Returns the candidates. Under water all of them have one kind of window: the pinned housing's, else a dome where
    there is one, since it keeps the view.
    """
    if wet is None:
        return Fronts(tuple(_behind(sheet, filters, None, glare, under=False)), False, False)
    fitting = [housing for housing in housings if sheet.id in housing.fits]
    cases: list[Housing | None] = [None] if sheet.proof_depth_m * wet.used_share >= wet.deepest_m else []
    cases += [housing for housing in fitting if housing.proof_depth_m * wet.used_share >= wet.deepest_m]
    too_deep = not cases
    if too_deep:
        cases = [max(fitting, key=lambda housing: housing.proof_depth_m)] if fitting else [None]
    ports = {"flat" if case is None else case.port for case in cases}
    port = next((case.port for case in fitting if case.id == wanted and case in cases), "dome")
    if port not in ports:
        port = "flat"
    kept = [case for case in cases if ("flat" if case is None else case.port) == port]
    glasses = tuple(glass for case in kept for glass in _behind(sheet, filters, case, glare, wet.under))
    return Fronts(glasses, too_deep, wet.under and port == "flat")


def _behind(
    sheet: CameraSheet, filters: Sequence[Filter], case: Housing | None, glare: bool, under: bool
) -> list[Glass]:
    mount, stack = (sheet.filter_mount.fits, sheet.filter_mount.stack) if case is None else (case.filters, case.stack)
    owned = (place for f in filters if mount and mount in f.fits for place in f.positions())
    fitting = sorted(owned, key=lambda f: (f.kind, f.stops, f.id))
    densities = [f for f in fitting if f.kind != "colour"]
    gains = sorted(sheet.red_gain_stops) if under else [0.0]
    colours: list[Filter | None] = [None, *(f for f in fitting if f.kind == "colour" and under)]
    found = []
    for colour in colours:
        for count in range(max(0, stack + 1 - (colour is not None))):
            for combo in combinations(densities, count):
                if len({piece_of(f.id) for f in combo}) < count:
                    continue  # one piece cannot be turned to two places
                if count > 1 and not glare and any(f.kind == "polariser" for f in combo):
                    continue  # a polariser is stacked only where there is something for it to take
                pieces = [*combo, *([colour] if colour else [])]
                found += [
                    Glass(
                        ids=tuple(f.id for f in combo),
                        stops=sum(f.stops for f in pieces),
                        names=tuple(f.name for f in pieces),
                        colour=colour.id if colour else None,
                        band_stops=colour.band_stops if colour else (0.0, 0.0, 0.0),
                        colour_stops=colour.stops if colour else 0.0,
                        housing=case.id if case else None,
                        polarises=any(f.kind == "polariser" for f in combo),
                        red_gain_stops=gain,
                    )
                    for gain in (gains if colour is None else gains[:1])  # one way to mend red is enough
                ]
    return found
