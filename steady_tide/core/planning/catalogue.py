"""The dials and the items with which plans are made. A new one joins its family in `dials/` or `items/`."""

from __future__ import annotations

from steady_tide.core.planning.dials.exposing import EXPOSING_DIALS
from steady_tide.core.planning.dials.framing import FRAMING_DIALS
from steady_tide.core.planning.dials.independent import BESIDES_DIALS
from steady_tide.core.planning.dials.recording import RECORDING_DIALS
from steady_tide.core.planning.items.exposure import EXPOSURE_ITEMS
from steady_tide.core.planning.items.framing import FRAMING_ITEMS
from steady_tide.core.planning.items.independent import BESIDES_ITEMS
from steady_tide.core.planning.items.motion import MOTION_ITEMS
from steady_tide.core.planning.items.recording import RECORDING_ITEMS
from steady_tide.core.planning.judgement import Judgement

USUAL = Judgement(
    (*FRAMING_DIALS, *EXPOSING_DIALS, *RECORDING_DIALS, *BESIDES_DIALS),
    (*EXPOSURE_ITEMS, *FRAMING_ITEMS, *MOTION_ITEMS, *RECORDING_ITEMS, *BESIDES_ITEMS),
)
