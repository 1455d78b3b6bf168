"""From a camera and what is at hand to all legal combinations."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np

from steady_tide.core.gear import Filter, Housing
from steady_tide.core.optics import hyperfocal_m
from steady_tide.core.planning.dials.kind import DialKind
from steady_tide.core.planning.fronts import Wet, fronts_of
from steady_tide.core.planning.geometry import focal_mm
from steady_tide.core.planning.offers import Offer, offered
from steady_tide.core.planning.space import Bools, FocusLens, Habit, Space
from steady_tide.core.planning.supplies import Supplies
from steady_tide.core.same import once_for_each
from steady_tide.core.sheet import CameraSheet


@once_for_each
def _offer_of(sheet: CameraSheet, dials: dict[str, DialKind]) -> Offer:
    """A camera is asked again and again with other gear; what it offers by itself is worked out once."""
    return offered(sheet, dials)


def space_of(
    sheet: CameraSheet,
    dials: dict[str, DialKind],
    supplies: Supplies,
    filters: Sequence[Filter] = (),
    housings: Sequence[Housing] = (),
    wet: Wet | None = None,
    housing: str | None = None,
    glare: bool = False,
) -> Space:
    """Lay out all that a camera can do.

    sheet: the camera; dials: all that there are, by id; supplies: cards and charge; filters, housings: at hand; wet: how
    deep it goes, None in the dry; housing: id of one that is pinned; glare: whether there is any.
    Returns the space; what does not fit is left out.
    """
    offer = _offer_of(sheet, dials)
    allowed = offer.allowed
    kept = allowed & _on_cards(supplies, offer)
    card_too_slow = supplies.has_card and not kept.any()
    fronts = fronts_of(sheet, filters, housings, wet, housing, glare)
    focuses, focus_allowed = _focuses(sheet)
    gates = _gates(sheet)
    return Space(
        sheet=sheet,
        supplies=supplies,
        pictures=offer.pictures,
        timings=offer.timings,
        paces=offer.paces,
        gates=gates,
        glasses=fronts.glasses,
        iso_pairs=tuple(
            (low, high) for low in sorted(sheet.iso.floors) for high in sorted(sheet.iso.ceilings) if low <= high
        ),
        compensations=tuple(sorted(sheet.compensation_stops)),
        looks=offer.looks,
        look_allowed=allowed if card_too_slow else kept,
        look_offered=allowed,
        to_drive=offer.to_drive,
        focuses=focuses,
        focus_allowed=focus_allowed,
        focus_lenses=_focus_lenses(sheet),
        habits=tuple(
            Habit(screen, positioning, early)
            for screen, positioning, early in product(sheet.screens, sheet.positioning, sorted(sheet.pre_record_s))
        ),
        alone={kind.id: tuple(kind.offers(sheet)) for kind in dials.values() if kind.offers is not None},
        openings_mm=np.array([focal_mm(sheet, sheet.lenses[lens]) / f for lens, f, _ in gates]),
        too_deep=fronts.too_deep,
        flat_port=fronts.flat_port,
        card_too_slow=card_too_slow,
    )


def _on_cards(supplies: Supplies, offer: Offer) -> Bools:
    """Which looks the cards or drives at hand can take. Without any card nothing is ruled out."""
    looks = offer.looks
    to_drive = offer.to_drive
    if not supplies.has_card:
        return ~to_drive | supplies.has_drive
    fits = np.array([look.bit_rate_mb_s * supplies.card_margin <= supplies.fastest_mb_s for look in looks])
    return np.where(to_drive, supplies.has_drive, fits)


def _gates(sheet: CameraSheet) -> tuple[tuple[int, float, float], ...]:
    """Lens, f-number and exposure in seconds; NaN stands for automatic."""
    exposures = [*sorted(sheet.shutter.fixed_s, reverse=True), *([float("nan")] if sheet.shutter.auto else [])]
    return tuple((index, f, t) for index, lens in enumerate(sheet.lenses) for f in lens.f_numbers for t in exposures)


_FOCUSES = {
    "fixed": ("fixed",),
    "automatic": ("automatic", "locked", "hyperfocal", "infinity"),
    "manual": ("locked", "hyperfocal", "infinity"),
}
FOCUS_ORDER = ("fixed", "automatic", "locked", "hyperfocal", "infinity")
SHARP_PX = 2.0  # of the lens's own photosites over which a point may spread


def _focus_lenses(sheet: CameraSheet) -> tuple[FocusLens, ...]:
    return tuple(
        FocusLens(
            lens.closest_m,
            hyperfocal_m(focal_mm(sheet, lens), min(lens.f_numbers), SHARP_PX * lens.sensor.pixel_pitch_um / 1000.0),
        )
        for lens in sheet.lenses
    )


def _focuses(sheet: CameraSheet) -> tuple[tuple[str, ...], Bools]:
    offered = [_FOCUSES[lens.focus] for lens in sheet.lenses]
    known = tuple(name for name in FOCUS_ORDER if any(name in names for names in offered))
    return known, np.array([[name in names for name in known] for names in offered])
