"""From a camera and what is at hand to all legal combinations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

import numpy as np

from steady_tide.core.gear.attachments import before_lens, with_attachments
from steady_tide.core.gear.items import Attachment, Filter, Housing, Microphone
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.dials.dial_kind import DialKind
from steady_tide.core.planning.lens_fronts import Wet, fronts_of
from steady_tide.core.planning.offers import offered
from steady_tide.core.planning.power_and_cards import Supplies
from steady_tide.core.planning.space import Bools, Offer, Sound, Space
from steady_tide.core.quantities.identity_cache import KEPT, once_for_each


@dataclass(frozen=True)
class Gear:
    """What can be put on a camera: glass, attachments, housings, microphones."""

    filters: Sequence[Filter] = ()
    attachments: Sequence[Attachment] = ()
    housings: Sequence[Housing] = ()
    microphones: Sequence[Microphone] = ()


def _sounds(sheet: CameraSheet, microphones: Sequence[Microphone], wet: Wet | None) -> tuple[Sound, ...]:
    """What can be heard with. One by cable or wireless needs a way in, and in the wet only one apart keeps dry."""
    fitting = [
        one
        for one in microphones
        if (not one.fits or sheet.id in one.fits)
        and (one.how == "recorder" or (sheet.microphone_in != "none" and wet is None))
    ]
    return tuple(Sound(one, reduction) for one, reduction in product([None, *fitting], sheet.wind_reduction))


@lru_cache(maxsize=KEPT)
def _same(attachments: tuple[Attachment, ...]) -> tuple[Attachment, ...]:
    """The very same tuple for equal attachments, so that a sheet with them is made once."""
    return attachments


@once_for_each
def _offer_of(sheet: CameraSheet, dials: dict[str, DialKind]) -> Offer:
    """A camera is asked again and again with other gear; what it offers by itself is worked out once."""
    return offered(sheet, dials)


def space_of(
    sheet: CameraSheet,
    dials: dict[str, DialKind],
    supplies: Supplies,
    gear: Gear = Gear(),
    wet: Wet | None = None,
    housing: str | None = None,
    glare: bool = False,
) -> Space:
    """Lay out all that a camera can do.

    sheet: the camera; dials: all that there are, by id; supplies: cards and charge; gear: what can be put on it; wet: how
    deep it goes, None in the dry; housing: id of one that is pinned; glare: whether there is any.
    Returns the space; what does not fit is left out.
    """
    before = () if wet is not None else tuple(a for a in gear.attachments if sheet.filter_mount.fits in a.fits)
    sheet = with_attachments(sheet, _same(before))
    offer = _offer_of(sheet, dials)
    kept = offer.look_offered & _on_cards(supplies, offer)
    card_too_slow = supplies.has_card and not kept.any()
    fronts = fronts_of(sheet, gear.filters, gear.housings, wet, housing, glare)
    of_id = {piece.id: piece for piece in before}
    put = [of_id.get(before_lens(lens.id)) for lens in sheet.lenses]
    return Space(
        offer=offer,
        supplies=supplies,
        glasses=fronts.glasses,
        look_allowed=offer.look_offered if card_too_slow else kept,
        sounds=_sounds(sheet, gear.microphones, wet),
        lost_stops=np.array([piece.stops if piece else 0.0 for piece in put]),
        glass_allowed=np.array(
            [[piece is None or piece.takes_filters or not glass.pieces for glass in fronts.glasses] for piece in put]
        ),
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
