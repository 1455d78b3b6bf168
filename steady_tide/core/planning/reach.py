"""What a plan's camera would hold with other glass or another ISO, all else as it is: what the gauge draws."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.items.views import ExposureView
from steady_tide.core.planning.metering import meter
from steady_tide.core.planning.plan import Reach
from steady_tide.core.planning.priced_choice import Priced
from steady_tide.core.planning.space import Glass


def reaches_of(problem: CameraProblem, ours: Priced) -> dict[str, tuple[Reach, ...]]:
    """Reach, over and under for each density, floor and ceiling that can be set beside the rest of a plan.

    problem: of the camera; ours: the plan, priced. Returns them by dial, from the lowest reach to the highest. Over and
    under are the ledger's own, the compensation and the meter's habit counted.
    """
    space, choice = problem.space, ours.choice
    held = space.glasses[choice["glasses"]]
    floor, ceiling = space.iso_pairs[choice["iso_pairs"]]
    lens = space.gates[choice["gates"]][0]
    alike = (held.colour, held.housing, held.red_gain_stops)
    fronts = [
        g
        for place, g in enumerate(space.glasses)
        if (g.colour, g.housing, g.red_gain_stops) == alike and space.glass_allowed[lens, place]
    ]
    floors = sorted({low for low, high in space.iso_pairs if high == ceiling}, reverse=True)
    ceilings = sorted({high for low, high in space.iso_pairs if low == floor}, reverse=True)
    return {
        "nd": _reaches(problem, ours, [(problem.dials["nd"].kind.read(g), g, floor, ceiling) for g in fronts]),
        "iso_floor": _reaches(problem, ours, [(low, held, low, ceiling) for low in floors]),
        "iso_ceiling": _reaches(problem, ours, [(high, held, floor, high) for high in ceilings]),
    }


def _reaches(problem: CameraProblem, ours: Priced, tried: Sequence[tuple[Any, Glass, int, int]]) -> tuple[Reach, ...]:
    at, space, choice = problem.at, problem.space, ours.choice
    f_number, fixed_s = space.offer.gate_f_number[choice["gates"]], space.offer.gate_s[choice["gates"]]
    longest_s = np.array(space.paces[int(space.pictures.pace[choice["pictures"]])].automatic_s)
    compensation = np.array(space.compensations[choice["compensations"]])
    glass = np.array([front.stops for _, front, _, _ in tried]) + space.lost_stops[space.gates[choice["gates"]][0]]
    density = np.array([front.density_stops for _, front, _, _ in tried])
    floor, ceiling = np.log2(np.array([[low, high] for _, _, low, high in tried], dtype=float)).T
    asked = meter(
        at.light.ev100, space.sheet, f_number, fixed_s, glass, compensation, longest_s, at.meter_bias_stops(space.sheet)
    )
    view = ExposureView(at, at.light.ev100, space.sheet, asked, glass, density, floor, ceiling)
    slow, fast = ours.reach_camera_ev
    hundred = np.log2(100.0)
    low, high = slow - (ceiling - hundred) + glass, fast - (floor - hundred) + glass
    columns = (low, high, view.over_stops, view.under_stops, glass)
    found = [
        Reach(
            value=value,
            low_ev100=float(columns[0][n]),
            high_ev100=float(columns[1][n]),
            over_stops=float(columns[2][n]),
            under_stops=float(columns[3][n]),
            glass_stops=float(columns[4][n]),
        )
        for n, (value, _, _, _) in enumerate(tried)
    ]
    return tuple(sorted(found, key=lambda reach: (reach.high_ev100, reach.low_ev100)))
