"""What of a plan makes its picture: the planner's own numbers for one choice, at any moment of the light."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import Lens, Sensor
from steady_tide.core.light.balance import mired
from steady_tide.core.light.resolving import World
from steady_tide.core.physics.motion import left_over_deg
from steady_tide.core.physics.noise import averaging_gain, grey_electrons, signal_to_noise
from steady_tide.core.physics.optics import WATER_INDEX, blur_spot_deg, diffraction_deg
from steady_tide.core.planning.brief_cache import cached_brief
from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.dials.dial_kind import AUTOMATIC
from steady_tide.core.planning.geometry import Geometry, geometry, hyperfocal_of_plan_m
from steady_tide.core.planning.items.cast import filter_works
from steady_tide.core.planning.items.views import ExposureView, fixed_spot_deg
from steady_tide.core.planning.ledger import price
from steady_tide.core.planning.metering import exposure_times, meter
from steady_tide.core.planning.outcome import settings_of
from steady_tide.core.planning.plan import Settings
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.ranking import chosen_values, entries_of, rank
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Glass, Look, Pictures, Space

Bands = NDArray[np.float64]


@dataclass(frozen=True)
class Exposed:
    """One moment of the light, as the camera takes it.

    share: of the way from the dim to the bright end; over_stops: how much brighter than mid grey the metered grey comes
    out; grey_e: electrons that mid grey leaves in a photosite.
    """

    share: float
    ev100: float
    shutter_s: float
    iso: float
    over_stops: float
    grey_e: float

    @property
    def dark_stops(self) -> float:
        """By how much grey comes out darker than meant, as a negative number; 0 where it does not."""
        return min(self.over_stops, 0.0)


@dataclass(frozen=True)
class Taking:
    """A brief taken with one choice of settings. world: waters, for what lies between."""

    problem: CameraProblem
    choice: Choice
    priced: Priced
    world: World

    @property
    def at(self) -> Situation:
        """What is asked."""
        return self.problem.at

    @property
    def space(self) -> Space:
        """What the camera can do."""
        return self.problem.space

    @cached_property
    def settings(self) -> Settings:
        """The settings, as they are written."""
        return settings_of(self.problem, self.choice)

    @cached_property
    def chosen(self) -> dict[str, Any]:
        """The value of each dial, in the form that pins it."""
        return {"camera": self.space.sheet.id, **chosen_values(self.problem, self.choice)}

    @cached_property
    def _picture(self) -> Pictures:
        return self.space.pictures.take(np.array([self.choice["pictures"]], dtype=np.intp))

    @cached_property
    def _seen(self) -> Geometry:
        delivery = self.at.brief.delivery
        return geometry(self._picture, self.space.sheet, delivery.width, delivery.height, self.space.flat_port)

    @property
    def lens(self) -> Lens:
        """Through which it is taken."""
        return self.space.sheet.lenses[int(self._picture.lens[0])]

    @property
    def sensor(self) -> Sensor:
        """On which it is taken."""
        return self.lens.sensor

    @property
    def glass(self) -> Glass:
        """What stands before it."""
        return self.space.glasses[self.choice["glasses"]]

    @property
    def look(self) -> Look:
        """How it is coloured and recorded."""
        return self.space.looks[self.choice["looks"]]

    @property
    def balance(self) -> Any:
        """Kelvins, None on automatic, "raw" for the sensor's own."""
        balance = self.space.balances[self.choice["balances"]]
        return None if balance == AUTOMATIC else balance

    @property
    def straight(self) -> bool:
        """Whether straight lines stay so."""
        return bool(self._picture.straight[0])

    @property
    def px_per_deg(self) -> float:
        """Delivered pixels a degree, at the centre."""
        return float(self._seen.px_per_deg[0])

    @property
    def sites_per_px(self) -> float:
        """Photosites behind one delivered pixel; below 1 where the frame is enlarged."""
        return float(self._seen.photosites[0]) / self.at.delivered_px

    @property
    def noise_gain(self) -> float:
        """By how much the camera's own reduction betters the signal-to-noise ratio."""
        return float(self._picture.noise_gain[0])

    @property
    def readout_s(self) -> float:
        """From the first to the last row of the delivered frame."""
        used = np.sqrt(self._seen.photosites[0] / self._picture.sampling[0] * self._shape)
        return self.sensor.readout_ms / 1000.0 * float(min(1.0, used / self.sensor.height_px))

    @property
    def _shape(self) -> float:
        delivery = self.at.brief.delivery
        upright = delivery.height > delivery.width and self.space.sheet.kind == "phone"
        return delivery.width / delivery.height if upright else delivery.height / delivery.width

    @property
    def rate(self) -> float:
        """Frames written for a second of the recording."""
        return float(self._picture.rate[0])

    @property
    def interval_s(self) -> float | None:
        """Between the frames of an interval film."""
        found = float(self._picture.interval_s[0])
        return None if np.isnan(found) else found

    @property
    def range_stops(self) -> float:
        """From the darkest usable tone to clipping."""
        return self.space.holds_stops(self.look)

    @property
    def profile_headroom_stops(self) -> float:
        """Above mid grey, in the profile."""
        return self.at.limits.look_headroom_share * self.range_stops

    def headroom_stops(self, exposed: Exposed) -> float:
        """Above mid grey until the picture clips: in the profile, or where the photosites are full."""
        full = float(np.log2(self.sensor.full_well_e / exposed.grey_e))
        return min(full + self._joined_stops, self.profile_headroom_stops)

    @property
    def _joined_stops(self) -> float:
        wide = self.space.sheet.high_dynamic_range
        return wide.gain_stops if wide is not None and self.look.high_dynamic_range else 0.0

    @property
    def bits_per_pixel(self) -> float:
        """Of the file."""
        return self.priced.bits_per_pixel

    @property
    def unsteadied_share(self) -> float:
        """What stabilisation leaves of a wander, as the planner prices it."""
        wander = self.at.wander_deg
        left = left_over_deg(wander, float(self._seen.margin_deg[0]), float(self._picture.leak[0]))
        return float(left) / wander if wander > 0.0 else 0.0

    def exposed(self, share: float) -> Exposed:
        """Take a moment of the light. share: of the way from its dim to its bright end. Returns what the camera comes to."""
        low, high = self.at.light.ev100
        ev = low + share * (high - low)
        sheet, gate = self.space.sheet, self.choice["gates"]
        f_number, fixed_s = self.space.offer.gate_f_number[[gate]], self.space.offer.gate_s[[gate]]
        longest = np.array([self.space.paces[int(self._picture.pace[0])].automatic_s])
        stops = np.array([self.glass.stops]) + self.space.lost_stops[self._picture.lens]
        floor, ceiling = np.log2(np.array(self.space.iso_pairs[self.choice["iso_pairs"]], dtype=float))[:, None]
        compensation = np.array([self.space.compensations[self.choice["compensations"]]])
        asked = meter((ev, ev), sheet, f_number, fixed_s, stops, compensation, longest, self.at.meter_bias_stops(sheet))
        view = ExposureView(
            self.at, (ev, ev), sheet, asked, stops, np.array([self.glass.density_stops]), floor, ceiling
        )
        iso = float(np.exp2(view.used_bright[0]))
        sensor = self.sensor
        return Exposed(
            share=share,
            ev100=ev,
            shutter_s=float(exposure_times((ev, ev), sheet, f_number, fixed_s, stops, longest).dim_s[0]),
            iso=iso,
            over_stops=float(view.bright_stops[0]),
            grey_e=float(grey_electrons(iso, sensor.pixel_pitch_um, sensor.quantum_efficiency, self.lens.transmission)),
        )

    def snr(self, exposed: Exposed) -> float:
        """Signal to noise of grey at delivered pixels, at the light that the exposure really catches: as the planner has it
        for mid grey, and less where the picture comes out dark."""
        caught = exposed.grey_e * 2.0**exposed.dark_stops
        one = float(signal_to_noise(caught, self.sensor.read_noise_e))
        return one * float(averaging_gain(self.sites_per_px, 1.0)) * self.noise_gain

    def balance_k(self, share: float) -> float:
        """Balance of what lights the subject at a moment, kelvin; of the surface's light under water. Between the ends
        reciprocals count."""
        light = self.at.light
        from_above = light.lamp_share < self.at.limits.lamps_lead_share
        ends = light.surface_balance_k if from_above and light.surface_balance_k is not None else light.balance_k
        return 1e6 / (mired(ends[0]) + share * (mired(ends[1]) - mired(ends[0])))

    def filter_share(self, share: float) -> float:
        """How far a filter, or red gain, has red to wait for at a moment, 0 to 1."""
        if self.at.light.deepest_m is None:
            return 1.0
        dim, bright = (filter_works(self.at, left) for left in self.at.light.red_left)
        return dim + share * (bright - dim)

    def distance_m(self, depth: str, share: float = 0.0) -> float:
        """How far a layer of a scene is. depth: near, subject, far or sky; share: under water the bright end is where the
        subject is nearest, as the planner has it. Returns metres."""
        near, far = self.at.brief.subject.distance_m
        limits, wet = self.at.limits, self.at.light.deepest_m is not None
        middle = float(np.sqrt(near * far))
        if wet and depth == "subject":
            return float(middle ** (1.0 - share) * near**share)
        if depth == "near":
            return limits.look_near_share * near
        if depth == "subject":
            return middle
        times = limits.look_water_far_times if wet else limits.look_far_times
        return far * times if depth == "far" or wet else 1e6

    def blur_disc_deg(self, distance_m: float) -> float:
        """Over which angle a point at a distance spreads by focus. Returns degrees."""
        lens, opening = self.lens, float(self.space.offer.openings_mm[self.choice["gates"]])
        there = distance_m / WATER_INDEX if self.space.flat_port else distance_m
        focus = self.space.focuses[self.choice["focuses"]]
        if lens.focus == "fixed" or focus == "fixed":
            return float(fixed_spot_deg(lens, np.array(opening), there))
        if focus == "infinity":
            sharp = 1e6
        elif focus == "hyperfocal":
            delivery, circle_px = self.at.brief.delivery, self.at.limits.focus_px
            picture, gate = self.choice["pictures"], self.choice["gates"]
            sharp = hyperfocal_of_plan_m(self.space, delivery, picture, gate, circle_px)
        else:
            sharp = self.at.focus_distance_m(lens)
        return float(blur_spot_deg(opening, sharp, there))

    @property
    def soft_deg(self) -> float:
        """Width at half height of the spot that lens and opening make of a sharp point, degrees."""
        opening = float(self.space.offer.openings_mm[self.choice["gates"]])
        site_deg = 1.0 / (self.px_per_deg * np.sqrt(self.sites_per_px))
        own = self.at.limits.look_lens_px * 2.0**self.lens.softer_stops * site_deg * 2.3548
        return float(np.hypot(diffraction_deg(opening), own))


def taking_of(
    brief: Brief, kit: Kit, knowledge: Knowledge, crew: School | None = None, only: str | None = None
) -> Taking:
    """Take a brief with the plan that gives up least; pins decide what they name.

    brief, kit, knowledge, crew, only: as the planner takes them. Returns the taking. Raises what the planner raises.
    """
    known = cached_brief(brief.in_school(crew or School()), kit, knowledge, USUAL)
    best = rank(known, entries_of(known.at, kit, knowledge, only), best_only=True)[0]
    problem, choice = best.entry.problem, best.choice
    assert problem is not None
    assert choice is not None
    assert best.prepared is not None
    return Taking(problem, choice, price(known.at, problem.space, choice, best.prepared.precomputed), knowledge.world)
