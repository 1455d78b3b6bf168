"""What one value of a dial costs in values of others: what a mode map answers when it is asked."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.space import Bools, Ints, Look
from steady_tide.core.quantities.frozen import Frozen

# What one can ask of a map, in the order in which an answer names it.
ASKED = (
    "frame",
    "frame_rate",
    "lens",
    "view",
    "stabilisation",
    "profile",
    "bit_depth",
    "codec",
    "bit_rate_mb_s",
    "high_dynamic_range",
)
# Of these a frame has no more than the map shows at once.
_NOT_INSIDE = ("frame", "lens", "frame_rate")


class FrameLoss(Frozen):
    """What a frame that stays loses besides: pairs of dial and value."""

    frame: str
    lost: tuple[tuple[str, Any], ...]


class Loss(Frozen):
    """What is lost where one value of a dial is wanted."""

    dial: str
    value: Any
    gone: dict[str, tuple[Any, ...]]  # by dial: values that do not exist with it at all
    inside: tuple[FrameLoss, ...]  # what else single frames lose
    count: int  # ways of framing, stabilisation and pace that go with it
    of: int  # as many as there are if it may have any value
    states: tuple[tuple[str, ...], ...] = ()  # row x rate of the map: a letter for each pair, see mode_states


@dataclass(frozen=True)
class _Dial:
    """A dial's values in the order in which people read them, and which of them each picture or look has."""

    values: tuple[Any, ...]
    codes: Ints
    of_looks: bool

    def among(self, pictures: Bools, looks: Bools) -> Bools:
        """Which values are left of some pictures and looks. Returns flags, one a value."""
        found = np.zeros(len(self.values), dtype=np.bool_)
        found[self.codes[looks if self.of_looks else pictures]] = True
        return found

    def only(self, place: int) -> Bools:
        """Where a value stands, to be laid over a mask. place: of the value."""
        here: Bools = self.codes == place
        return here[None, :] if self.of_looks else here[:, None]


def losses_of(
    sheet: CameraSheet, ways: dict[str, NDArray[Any]], looks: Sequence[Look], allowed: Bools, filmed: Bools
) -> Iterator[Loss]:
    """What is lost with each value of each dial that has more than one.

    sheet: the camera; ways: by dial, its value in each picture; looks, allowed: ways of recording, and which picture
    takes which, (P, looks); filmed: pictures that are no interval films, (P,). Yields dial after dial.
    """
    whole = filmed[:, None] & allowed
    dials = _dials(sheet, ways, looks, whole)
    everything = _among(dials, whole)
    frames = dials["frame"].codes
    had = [_among(dials, whole, np.flatnonzero(frames == place)) for place in range(len(dials["frame"].values))]
    for name, dial in dials.items():
        offered = np.flatnonzero(everything[name])
        if len(offered) < 2:
            continue
        others = np.stack([dials[other].codes[filmed] for other in ways if other != name])
        any_value = len(np.unique(others, axis=1).T)
        for place in offered:
            mask = whole & dial.only(int(place))
            left = _among(dials, mask)
            gone = {other: everything[other] & ~left[other] for other in dials if other != name}
            yield Loss(
                dial=name,
                value=dial.values[place],
                gone={
                    other: tuple(dials[other].values[lost] for lost in np.flatnonzero(flags))
                    for other, flags in gone.items()
                    if flags.any()
                },
                inside=tuple(_inside(name, dials, had, mask, gone)) if name not in ("frame", "lens") else (),
                count=int(mask.any(axis=1).sum()),
                of=any_value,
            )


def _among(dials: dict[str, _Dial], mask: Bools, rows: Ints | slice = slice(None)) -> dict[str, Bools]:
    """Which values of each dial are left. mask: pictures by looks; rows: the pictures that count."""
    mine = mask[rows]
    pictures = np.zeros(len(mask), dtype=np.bool_)
    pictures[rows] = mine.any(axis=1)
    looks: Bools = np.asarray(mine.any(axis=0))
    return {name: dial.among(pictures, looks) for name, dial in dials.items()}


def _dials(sheet: CameraSheet, ways: dict[str, NDArray[Any]], looks: Sequence[Look], whole: Bools) -> dict[str, _Dial]:
    order = {
        "lens": [lens.id for lens in sheet.lenses],
        "view": [view.id for view in sorted(sheet.views, key=lambda view: -view.field_deg)],
        "stabilisation": [level.id for level in sheet.stabilisation],
        "profile": [profile.id for profile in sheet.profiles],
        "codec": [codec.id for codec in sheet.codecs],
    }
    found = {}
    for name in ASKED:
        each = ways[name].tolist() if name in ways else [USUAL.dials[name].read(look) for look in looks]
        values = tuple(sorted(set(each), key=lambda value, name=name: _rank(value, order.get(name, []))))  # type: ignore[misc]
        place = {value: index for index, value in enumerate(values)}
        found[name] = _Dial(values, np.array([place[value] for value in each], dtype=np.intp), name not in ways)
    return found


def _rank(value: Any, order: Sequence[str]) -> tuple[float, str]:
    """Numbers by size, frames from the largest, words as the sheet has them."""
    if value in order:
        return (float(order.index(value)), "")
    if isinstance(value, str):
        wide, times, high = value.partition("x")
        return (-float(wide) * float(high), "") if times and wide.isdigit() and high.isdigit() else (0.0, value)
    return (float(value), "")


def _inside(
    name: str, dials: dict[str, _Dial], had: Sequence[dict[str, Bools]], mask: Bools, gone: dict[str, Bools]
) -> Iterator[FrameLoss]:
    """What a frame that stays loses besides what is lost everywhere."""
    frames = dials["frame"]
    for place, frame in enumerate(frames.values):
        left = _among(dials, mask, np.flatnonzero(frames.codes == place))
        if not left["frame"].any():
            continue
        lost = [
            (other, dials[other].values[value])
            for other in dials
            if other not in _NOT_INSIDE and other != name
            for value in np.flatnonzero(had[place][other] & ~left[other] & ~gone[other])
        ]
        if lost:
            yield FrameLoss(frame=frame, lost=tuple(lost))
