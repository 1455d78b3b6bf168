"""The mode map: which frame, rate, view and stabilisation exist together, and what one value of a dial costs in others."""

from __future__ import annotations

from collections.abc import Iterator
from math import gcd
from typing import Any

import numpy as np

from steady_tide.core.cameras.mode_cells import MapCell, MapRow
from steady_tide.core.cameras.mode_losses import Loss, losses_of
from steady_tide.core.cameras.mode_states import states_of
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.offers import offered
from steady_tide.core.quantities.frozen import Frozen

# Shapes that people have a name for; others are written as they are.
KNOWN_SHAPES = ((16, 9), (4, 3), (3, 2), (1, 1), (17, 9), (21, 9), (9, 16), (3, 4))
SHAPE_TOLERANCE = 0.012


class FilmRow(Frozen):
    """A frame for interval films, with its pauses in seconds."""

    lens: str
    width: int
    height: int
    views: tuple[str, ...]
    intervals_s: tuple[float, ...]


class ModeMap(Frozen):
    """All modes of a camera as one picture."""

    camera: str
    name: str
    edition: int
    rates: tuple[float, ...]
    views: tuple[str, ...]
    steadyings: tuple[str, ...]
    rows: tuple[MapRow, ...]
    films: tuple[FilmRow, ...]
    losses: tuple[Loss, ...]
    count: int


def shape_of(width: int, height: int) -> str:
    """How wide a frame is for its height. width, height: pixels. Returns such as 16:9."""
    ratio = width / height
    wide, high = min(KNOWN_SHAPES, key=lambda shape: abs(shape[0] / shape[1] / ratio - 1.0))
    if abs(wide / high / ratio - 1.0) <= SHAPE_TOLERANCE:
        return f"{wide}:{high}"
    shared = gcd(width, height)
    wide, high = width // shared, height // shared
    return f"{wide}:{high}" if max(wide, high) < 40 else f"{ratio:.2f}:1"


def mode_map(sheet: CameraSheet) -> ModeMap:
    """Draw up the modes of a camera as the planner sees them, rules included.

    sheet: the camera. Returns rows of frames by lens, shape and size, columns of rates, and for every value
    that one can ask for what is lost with it. Films at intervals stand apart.
    """
    # A map is of the modes: a way of recording that offers less of them is asked about on the Bench.
    offer = offered(sheet.model_copy(update={"recorders": ()}), USUAL.dials)
    pictures, looks, allowed = offer.pictures, offer.looks, offer.look_offered
    ways = {
        dial: USUAL.dials[dial].read(sheet, pictures)
        for dial in ("frame", "frame_rate", "lens", "view", "stabilisation")
    }
    filmed = np.isnan(pictures.interval_s)
    labels = sheet.labels()
    views = sorted(sheet.views, key=lambda view: -view.field_deg)
    rows, films = [], []
    frames = sorted(
        {(mode.lens, mode.width, mode.height) for mode in sheet.modes},
        key=lambda key: ([lens.id for lens in sheet.lenses].index(key[0]), -round(key[1] / key[2], 2), -key[1]),
    )
    for lens, width, height in frames:
        here = (ways["lens"] == lens) & (ways["frame"] == f"{width}x{height}")
        cells = [
            _cell(
                sheet,
                float(rate),
                np.flatnonzero(here & filmed & (pictures.rate == rate)),
                ways,
                pictures.mode,
                looks,
                allowed,
            )
            for rate in np.unique(pictures.rate[here & filmed])
        ]
        if cells:
            named = labels.get("frame")
            rows.append(
                MapRow(
                    lens=lens,
                    lens_name=next(entry.name for entry in sheet.lenses if entry.id == lens),
                    width=width,
                    height=height,
                    shape=shape_of(width, height),
                    label=named.values.get(f"{width}x{height}", "") if named else "",
                    cells=tuple(cells),
                )
            )
        slow = here & ~filmed
        if slow.any():
            films.append(
                FilmRow(
                    lens=lens,
                    width=width,
                    height=height,
                    views=tuple(view.id for view in views if view.id in set(ways["view"][slow])),
                    intervals_s=tuple(float(pause) for pause in np.unique(pictures.interval_s[slow])),
                )
            )
    rates = tuple(float(rate) for rate in np.unique(pictures.rate[filmed]))
    grid = [(view.id, level.id) for view in views for level in sheet.stabilisation]
    losses = (
        loss.model_copy(update={"states": states_of(rows, rates, grid, loss.dial, loss.value)})
        for loss in losses_of(sheet, ways, looks, allowed, filmed)
    )
    return ModeMap(
        camera=sheet.id,
        name=sheet.name,
        edition=sheet.edition,
        rates=rates,
        views=tuple(view.id for view in views),
        steadyings=tuple(level.id for level in sheet.stabilisation),
        rows=tuple(rows),
        films=tuple(films),
        losses=tuple(losses),
        count=int(filmed.sum()),
    )


def _cell(
    sheet: CameraSheet, rate: float, here: Any, ways: dict[str, Any], mode: Any, looks: Any, allowed: Any
) -> MapCell:
    fits = [look for index, look in enumerate(looks) if allowed[here, index].any()]
    to_drive = all(
        look.codec.id in sheet.modes[int(mode[place])].drive_codecs
        for place in here
        for index, look in enumerate(looks)
        if allowed[place, index]
    )
    return MapCell(
        rate=rate,
        pairs=tuple((str(ways["view"][place]), str(ways["stabilisation"][place])) for place in here),
        high_dynamic_range=any(look.high_dynamic_range for look in fits),
        bit_depths=tuple(sorted({look.bit_depth for look in fits})),
        codecs=tuple(dict.fromkeys(look.codec.id for look in fits)),
        profiles=tuple(dict.fromkeys(look.profile.id for look in fits)),
        to_drive=to_drive,
        without=dict(_lacking(here, looks, allowed)),
    )


def _lacking(here: Any, looks: Any, allowed: Any) -> Iterator[tuple[str, tuple[int, ...]]]:
    """Ways of recording that some pairs of a cell have and others lack."""
    mine = allowed[here]
    for dial in ("profile", "bit_depth", "codec", "high_dynamic_range"):
        values = [str(USUAL.dials[dial].read(look)) for look in looks]
        for value in dict.fromkeys(values):
            has = mine[:, [index for index, its in enumerate(values) if its == value]].any(axis=1)
            if has.any() and not has.all():
                yield f"{dial}={value}", tuple(np.flatnonzero(~has).tolist())
