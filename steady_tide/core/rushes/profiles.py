"""Which curve a camera's profile wrote its codes with, so that it can be undone before anything is measured."""

from __future__ import annotations

import numpy as np

from steady_tide.core.gear.sheet import Profile
from steady_tide.core.look.tones import typical_curve
from steady_tide.core.measuring.transfer import Table
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.quantities.limits import Limits

POINTS = 513


def table_of(profile: Profile, limits: Limits) -> tuple[Table, bool] | None:
    """The curve of a profile, as a table from codes to light.

    profile: of a sheet; limits: of judgement. Returns the table, and whether it is the sheet's own; a typical one of ours
    stands in where the sheet has none. None for a finished picture, which the stream's own curve undoes.
    """
    if profile.curve is not None:
        codes, stops = np.array(profile.curve).T
        every = np.interp(np.linspace(0.0, 1.0, POINTS), codes, stops)
        return Table(tuple((GREY_REFLECTANCE * np.exp2(every)).tolist())), True
    if profile.needs_grading_stops < limits.noticed_stops:
        return None
    curve = typical_curve(profile, limits)
    return Table(tuple((GREY_REFLECTANCE * curve.undo(np.linspace(0.0, 1.0, POINTS))).tolist())), False
