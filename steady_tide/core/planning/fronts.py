"""What can stand in front of a lens: housings that are deep enough, each with the glass that fits its port."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from steady_tide.core.gear import Filter, Housing, piece_of
from steady_tide.core.planning.space import Glass
from steady_tide.core.sheet import CameraSheet


def glasses_of(
    sheet: CameraSheet, filters: Sequence[Filter], housings: Sequence[Housing], deepest_m: float | None
) -> tuple[list[Glass], bool]:
    """Lay out what can stand in front of a camera's lens; the bare body only as deep as it is proof.

    sheet: the camera; filters, housings: at hand; deepest_m: how deep it goes under water, metres, None in the dry.
    Returns the candidates, and whether nothing at hand goes so deep.
    """
    cases: list[Housing | None] = [None]
    too_deep = False
    if deepest_m is not None:
        fitting = [housing for housing in housings if sheet.id in housing.fits]
        cases = [None] if sheet.proof_depth_m >= deepest_m else []
        cases += [housing for housing in fitting if housing.proof_depth_m >= deepest_m]
        if not cases:
            too_deep = True
            cases = [max(fitting, key=lambda housing: housing.proof_depth_m)] if fitting else [None]
    return [glass for case in cases for glass in _behind(sheet, filters, case)], too_deep


def _behind(sheet: CameraSheet, filters: Sequence[Filter], case: Housing | None) -> list[Glass]:
    mount, stack = (sheet.filter_mount.fits, sheet.filter_mount.stack) if case is None else (case.filters, case.stack)
    owned = (place for f in filters if mount and mount in f.fits for place in f.positions())
    fitting = sorted(owned, key=lambda f: (f.kind, f.stops, f.id))
    densities = [f for f in fitting if f.kind == "nd"]
    colours: list[Filter | None] = [None, *(f for f in fitting if f.kind == "colour")]
    found = []
    for colour in colours:
        for count in range(max(0, stack + 1 - (colour is not None))):
            for combo in combinations(densities, count):
                if len({piece_of(f.id) for f in combo}) < count:
                    continue  # one piece cannot be turned to two places
                pieces = [*combo, *([colour] if colour else [])]
                found.append(
                    Glass(
                        ids=tuple(f.id for f in combo),
                        stops=sum(f.stops for f in pieces),
                        names=tuple(f.name for f in pieces),
                        colour=colour.id if colour else None,
                        band_stops=colour.band_stops if colour else (0.0, 0.0, 0.0),
                        colour_stops=colour.stops if colour else 0.0,
                        housing=case.id if case else None,
                    )
                )
    return found
