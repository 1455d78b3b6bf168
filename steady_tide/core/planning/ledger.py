"""The price of one combination, item by item: the same costs as in the search, for a single candidate."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from steady_tide.core.lapse import frames_of, screen_s
from steady_tide.core.noise import averaging_gain
from steady_tide.core.planning import costs
from steady_tide.core.planning.metering import exposure_times, meter
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import Choice
from steady_tide.core.planning.space import Space, geometry
from steady_tide.core.stops import camera_ev


@dataclass(frozen=True)
class Priced:
    """A combination with what it gives up, in stops by item, and the quantities behind that."""

    choice: Choice
    stops: dict[str, float]
    iso_dim: float
    iso_bright: float
    shutter_dim_s: float
    shutter_bright_s: float
    wanted_shutter_s: float
    snr_dim: float
    smear_px: float
    field_deg: float
    usable_w_px: float
    bits_per_pixel: float
    reach_camera_ev: tuple[float, float]
    power_w: float
    needed_wh: float
    recorded_gb: float
    screen_s: float
    px_per_deg: float

    def given_up(self, at: Situation) -> float:
        """Weighted sum. at: the situation that gives the weights. Returns stops."""
        return sum(at.weights[name] * stops for name, stops in self.stops.items())


def light_missing_stops(space: Space, priced: Priced) -> float:
    """Light that the dim end lacks at base gain, or, as a negative number, that the bright end has too much.

    space: of the camera; priced: the plan. Returns stops.
    """
    floor, _ = space.iso_pairs[priced.choice.iso_pairs]
    gained = float(np.log2(max(priced.iso_dim, floor) / min(space.sheet.iso.floors)))
    lacking = priced.stops["under"] + gained
    return lacking if lacking > 0.05 else -priced.stops["over"]


def price(at: Situation, space: Space, choice: Choice) -> Priced:
    """Price one combination. at: what is asked; space: of the camera; choice: it. Returns stops by item."""
    return price_all(at, space, [choice])[0]


def price_all(at: Situation, space: Space, choices: Sequence[Choice]) -> list[Priced]:
    """Price some combinations at once.

    at: what is asked; space: of the camera; choices: N of them. Returns stops by item for each.
    """
    if not choices:
        return []
    sheet = space.sheet
    pictures = space.pictures.take(np.array([c.pictures for c in choices], dtype=np.intp))
    seen = geometry(pictures, sheet, at.brief.delivery.width, at.brief.delivery.height)
    gates = [space.gates[c.gates] for c in choices]
    f_number, fixed_s = np.array([f for _, f, _ in gates]), np.array([t for _, _, t in gates])
    glasses = [space.glasses[c.glasses] for c in choices]
    nd_stops = np.array([glass.stops for glass in glasses])
    density_stops = np.array([glass.density_stops for glass in glasses])
    floor, ceiling = np.log2(np.array([space.iso_pairs[c.iso_pairs] for c in choices], dtype=float)).T
    compensation = np.array([space.compensations[c.compensations] for c in choices])
    looks = [space.looks[c.looks] for c in choices]
    longest_s = np.array([space.paces[pace].longest_s for pace in pictures.pace])
    exposures = exposure_times(at.light.ev100, sheet, f_number, fixed_s, nd_stops, longest_s)
    asked = meter(at.light.ev100, sheet, f_number, fixed_s, nd_stops, compensation, longest_s)
    used_dim, used_bright = np.clip(asked.iso_dim, floor, ceiling), np.clip(asked.iso_bright, floor, ceiling)
    noise_of = np.array(
        [float(costs.noise_of_iso(sheet.lenses[lens], iso)) for lens, iso in zip(pictures.lens, used_dim, strict=True)]
    )
    shortfall = costs.noise_shortfall(at, seen.photosites, pictures.noise_gain)
    habits = [space.habits[c.habits] for c in choices]
    # Those of one picture each: the square's diagonal.
    of_look = costs.look_costs(at, space, looks, pictures)
    of_habit = costs.habit_costs(at, space, pictures, habits)
    openings = space.openings_mm[[c.gates for c in choices]]
    spots = np.array(
        [
            costs.spots_deg(at, sheet.lenses[lens], opening)
            for lens, opening in zip(pictures.lens, openings, strict=True)
        ]
    ).T
    items: costs.Items = {
        **costs.picture_costs(at, space, pictures, seen),
        **costs.gate_costs(at, exposures, pictures.capture_hz),
        **costs.drift_costs(at, seen.px_per_deg, exposures.dim_s),
        **costs.softness_costs(at, seen.px_per_deg, *spots),
        **costs.smear_costs(at, seen.px_per_deg, pictures.steadied, exposures.dim_s),
        **costs.exposure_costs(at.light.ev100, sheet, asked, nd_stops, density_stops, floor, ceiling),
        **costs.noise_costs(shortfall, noise_of),
        **costs.compensation_costs(sheet, compensation),
        **costs.glass_costs(at, glasses),
        **{name: np.diagonal(stops) for name, stops in {**of_look, **of_habit}.items()},
        **costs.focus_costs(at, [space.focuses[c.focuses] for c in choices]),
        **costs.balance_costs(at, [space.balances[c.balances] for c in choices]),
        **costs.sharpness_costs(at, [sheet.sharpness[c.sharpness] for c in choices]),
        **costs.wind_costs(at, [sheet.wind_reduction[c.wind] for c in choices]),
        **costs.track_costs(at, [sheet.sound_track[c.tracks] for c in choices]),
    }
    snr = np.exp2(-noise_of) * averaging_gain(seen.photosites, at.delivered_px) * pictures.noise_gain
    smear = costs.smear_px(at, seen.px_per_deg, exposures.dim_s)
    wanted = costs.wanted_shutter_s(at, pictures.capture_hz)
    rates = np.array([look.bit_rate_mb_s for look in looks])
    bits = rates * 1e6 / (pictures.width_px * pictures.height_px * pictures.rate)
    draw = np.diagonal(costs.draw_w(space, pictures, habits))
    needed = np.diagonal(costs.needed_wh(at, space, pictures, habits))
    shown = screen_s(frames_of(at.brief.take.length_s, pictures.interval_s), at.brief.delivery.fps)
    size = np.diagonal(costs.recorded_gb(at, rates, pictures))
    slowest = np.where(np.isnan(fixed_s), longest_s, fixed_s)
    fastest = np.where(np.isnan(fixed_s), sheet.shutter.auto_fastest_s, fixed_s)
    every = {name: np.broadcast_to(stops, len(choices)).tolist() for name, stops in items.items()}
    return [
        Priced(
            choice=choice,
            stops={name: stops[n] for name, stops in every.items()},
            iso_dim=float(np.exp2(used_dim[n])),
            iso_bright=float(np.exp2(used_bright[n])),
            shutter_dim_s=float(exposures.dim_s[n]),
            shutter_bright_s=float(exposures.bright_s[n]),
            wanted_shutter_s=float(wanted[n]),
            snr_dim=float(snr[n]),
            smear_px=float(smear[n]),
            field_deg=float(seen.field_deg[n]),
            usable_w_px=float(seen.usable_w_px[n]),
            bits_per_pixel=float(bits[n]),
            reach_camera_ev=(float(camera_ev(f_number[n], slowest[n])), float(camera_ev(f_number[n], fastest[n]))),
            power_w=float(draw[n]),
            needed_wh=float(needed[n]),
            recorded_gb=float(size[n]),
            screen_s=float(shown[n]),
            px_per_deg=float(seen.px_per_deg[n]),
        )
        for n, choice in enumerate(choices)
    ]
