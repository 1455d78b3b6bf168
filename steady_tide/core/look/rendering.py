"""From a plan and a scene to a picture: what the lens sees, what the sensor makes of it, what is recorded and shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property, partial
from itertools import groupby
from typing import Any, TypeVar

import cv2
import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from steady_tide.core.light.water import LUMINANCE
from steady_tide.core.look.drawing import Array, Canvas
from steady_tide.core.look.exposure_of_plan import Exposed, Taking
from steady_tide.core.look.lighting import Lit, balance_gains, grey_card, lit, through_filter
from steady_tide.core.look.scene import Layer, Scene, drawn
from steady_tide.core.look.sensor import flicker_gain, sensed
from steady_tide.core.look.shake import Shake, shake_of
from steady_tide.core.look.smear import DENSE, disc_spot, path_spot, softened, spread
from steady_tide.core.look.tones import Curve
from steady_tide.core.measuring.frame_measures import length_of_spot
from steady_tide.core.physics.optics import behind_flat_port_deg

Floats = NDArray[np.float64]
Made = TypeVar("Made")
STEEPEST_DEG = 80.0  # from the axis; beyond it a plane scene has no end
WIDE_DEG = 90.0
KEPT_DRAWINGS = 40
LEAST_SKEW_PX = 0.2
PATH_PLACES = 2000
STREAK_PX = 64.0  # on which a streak is measured


@dataclass(frozen=True)
class Window:
    """Which part of the delivered frame is rendered. width, height: pixels; scale: delivered pixels for each of them;
    centre: of the part, shares of the delivered width and height from the middle, right and down."""

    width: int
    height: int
    scale: float
    centre: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class Moment:
    """When: share of the way through the light band, and seconds of the event."""

    share: float
    time_s: float = 0.0


@dataclass
class Drawings:
    """Layers that were drawn lately: they hang on scene and view, not on exposure or colour."""

    kept: LRUCache[tuple[Any, ...], Any] = field(default_factory=lambda: LRUCache(KEPT_DRAWINGS))

    def cached(self, key: tuple[Any, ...], make: Callable[[], Made]) -> Made:
        """What was made under a key, or is made now."""
        if key not in self.kept:
            self.kept[key] = make()
        found: Made = self.kept[key]
        return found


@dataclass(frozen=True)
class Recorded:
    """A frame as the file holds it, before it is compressed.

    codes: shares of the largest code, (rows, columns, 3); light: what they were made of, times mid grey, balanced;
    curve: between them; exposed: the moment; graded: whether it was balanced to be graded.
    """

    codes: Array
    light: Array
    curve: Curve
    exposed: Exposed
    graded: bool


def curve_of(taking: Taking, exposed: Exposed) -> Curve:
    """The curve of a plan's profile at a moment."""
    profile = taking.look.profile
    headroom = taking.headroom_stops(exposed)
    return Curve(
        headroom_stops=headroom,
        shadow_stops=taking.range_stops - taking.profile_headroom_stops,
        lift_stops=profile.shadow_lift_stops,
        log_share=min(1.0, profile.needs_grading_stops / taking.at.limits.look_log_stops),
    )


def canvas_of(taking: Taking, width: int, height: int, step: float, centre: tuple[float, float]) -> Canvas:
    """Where each pixel of a part of the frame looks.

    width, height: pixels; step: delivered pixels for each; centre: of the part, delivered pixels from the middle. Returns
    the canvas in scene coordinates, in which the wanted field is one wide.
    """
    focal_px = taking.px_per_deg * 180.0 / np.pi
    wanted = taking.at.field_wanted_deg
    if taking.space.flat_port:
        wanted = float(behind_flat_port_deg(wanted))
    # Beyond a right angle a plane grows faster than what is seen of it; scenes are composed for less.
    half = 2.0 * float(np.tan(np.radians(min(wanted, WIDE_DEG) / 2.0))) * max(1.0, wanted / WIDE_DEG)
    u = ((np.arange(width) - (width - 1) / 2.0) * step + centre[0]).astype(np.float32)[None, :]
    v = (-(np.arange(height) - (height - 1) / 2.0) * step - centre[1]).astype(np.float32)[:, None]
    if taking.straight:
        x, y = np.broadcast_arrays(u / np.float32(focal_px * half), v / np.float32(focal_px * half))
        foot = np.full(x.shape, step / focal_px / half, dtype=np.float32)
        return Canvas(np.ascontiguousarray(x), np.ascontiguousarray(y), foot)
    radius = np.hypot(u, v) + np.float32(1e-6)
    tangent = np.tan(np.minimum(radius / np.float32(focal_px), np.float32(np.radians(STEEPEST_DEG))))
    away = tangent / radius / np.float32(half)
    foot = (1.0 + tangent * tangent) * np.float32(step / focal_px / half)
    return Canvas(u * away, v * away, foot)


def distance_of(taking: Taking, layer: Layer, share: float = 0.0) -> float:
    """How far a layer is at a moment, metres."""
    return taking.distance_m(layer.depth, share) if layer.at_m is None else layer.at_m


def layer_speed_deg_s(taking: Taking, layer: Layer) -> tuple[float, float]:
    """How fast a layer goes through the frame, right and up, degrees a second, shake apart."""
    move, at = taking.at.brief.camera_move, taking.at
    if layer.depth == "near" and not layer.flows[0] and not layer.flows[1] and not layer.subject:
        return 0.0, 0.0  # it rides with the camera
    distance = distance_of(taking, layer)
    travel = np.degrees(move.travel_m_s / distance) if distance < 1e5 else 0.0
    right, up = layer.flows[0] * travel, layer.flows[1] * travel
    if layer.subject and at.brief.subject.speed_m_s > 0.0:
        return right + layer.heads[0] * at.subject_deg_s, up + layer.heads[1] * at.subject_deg_s
    return right - move.turn_deg_s + layer.turns_deg_s, up


@dataclass(frozen=True)
class Renderer:
    """Renders one plan with one scene. seed: of shake and noise; drawings: kept between plans."""

    taking: Taking
    scene: Scene
    seed: int
    drawings: Drawings = field(default_factory=Drawings)

    @cached_property
    def shake(self) -> Shake:
        """The path of the hand; two plans of a shot share it."""
        mount = self.taking.at.mount
        return shake_of(mount.shake_deg_s, mount.settle_s, self.seed)

    def frame(self, moment: Moment, window: Window, graded: bool = False, noise_of: int = 0) -> Recorded:
        """Render a part of a frame.

        moment: when; window: which part; graded: whether it will be, which a raw balance hangs on; noise_of: which frame,
        so that each has its own noise. Returns what the file holds of it.
        """
        taking = self.taking
        exposed = taking.exposed(moment.share)
        # An enlarged frame has no more than its photosites: it is rendered at these, then made larger.
        site = 1.0 / np.sqrt(taking.sites_per_px)
        step = max(window.scale, site)
        wide = max(8, round(window.width * window.scale / step))
        high = max(8, round(window.height * window.scale / step))
        light = self.seen(moment, exposed, Window(wide, high, step, window.centre))
        light = self.sensed(light, exposed, step, _seed(self.seed, noise_of))
        light = scaled(light, balance_gains(taking, moment.share, graded))
        if (wide, high) != (window.width, window.height):
            light = np.asarray(cv2.resize(light, (window.width, window.height), interpolation=cv2.INTER_CUBIC))
        return recorded(taking, light, exposed, window.scale, graded)

    def sensed(self, light: Array, exposed: Exposed, step: float, seed: int) -> Array:
        """What the sensor makes of light. step: delivered pixels for each pixel; seed: of the noise."""
        taking = self.taking
        sites = taking.sites_per_px * step**2
        return sensed(
            light, exposed.grey_e, taking.sensor.read_noise_e, taking.sensor.full_well_e, sites, taking.noise_gain, seed
        )

    def seen(self, moment: Moment, exposed: Exposed, window: Window) -> Array:
        """The light that falls on a part of the sensor in one exposure.

        Returns times mid grey as it comes out, before any balance, (rows, columns, 3).
        """
        taking, delivery = self.taking, self.taking.at.brief.delivery
        middle = (window.centre[0] * delivery.width, window.centre[1] * delivery.height)
        rows_s = self._row_times(window, middle)
        total = np.zeros((window.height, window.width, 4), dtype=np.float32)
        for layers in self._moving_alike():
            group = self._together(layers, moment.share, window, middle)
            group = self._moved(layers[0], group, moment, window, rows_s)
            group = spread(group, self.spot(layers[0], exposed, moment, window.scale))
            total = over(total, spread(group, self._disc(layers[0], window)))
        light = scaled(total, through_filter(taking, moment.share) * 2.0**exposed.over_stops)
        light = softened(light, taking.soft_deg * taking.px_per_deg / window.scale / 2.3548)
        if taking.at.light.ripple > 0.0 and not taking.at.lapse:
            times = moment.time_s + rows_s
            gain = flicker_gain(taking.at.light.ripple, exposed.shutter_s, taking.at.brief.mains_hz, times)
            light *= gain.astype(np.float32)[:, None, None]
        return light

    def _moving_alike(self) -> list[tuple[Layer, ...]]:
        """Layers one behind the other that move alike and are as sharp, so that they are smeared together."""

        def kind(layer: Layer) -> tuple[Any, ...]:
            disc = self.taking.blur_disc_deg(distance_of(self.taking, layer)) * self.taking.px_per_deg
            return layer_speed_deg_s(self.taking, layer), round(disc, 1), layer.fills

        return [tuple(alike) for _, alike in groupby(self.scene.layers, key=kind)]

    def _together(self, layers: tuple[Layer, ...], share: float, window: Window, middle: tuple[float, float]) -> Array:
        """Some layers in their light, one over the other: times metered grey, and what they cover, (rows, columns, 4)."""
        taking = self.taking
        contrast = round(float(np.clip(taking.at.contrast_stops / self.scene.stops, 0.6, 1.5)), 3)
        view = (
            self.scene.id, window, round(taking.px_per_deg, 4), taking.straight, taking.at.field_wanted_deg,
            taking.space.flat_port,
        )  # fmt: skip
        by = tuple(lit(taking, distance_of(taking, layer, share), share) for layer in layers)
        of_light = tuple((*one.by.round(6), *one.veil.round(6)) for one in by)

        def canvas() -> Canvas:
            return canvas_of(taking, window.width, window.height, window.scale, middle)

        def painted(layer: Layer) -> Array:
            sheet = drawn(layer, self.drawings.cached(("canvas", *view), canvas), contrast)
            return np.dstack([sheet.light, sheet.cover])

        def make() -> Array:
            total: Array | None = None
            for layer, one in zip(layers, by, strict=True):
                here = self.drawings.cached((layer.id, contrast, *view), partial(painted, layer))
                here = here if layer.shines else _lit(here, one)
                total = here if total is None else over(total, here)
            assert total is not None
            return total

        return self.drawings.cached(("lit", tuple(layer.id for layer in layers), *view, contrast, of_light), make)

    def _row_times(self, window: Window, middle: tuple[float, float]) -> Floats:
        """When each row of a part is read, against the middle of the frame, seconds."""
        high = self.taking.at.brief.delivery.height
        down = (np.arange(window.height) - (window.height - 1) / 2.0) * window.scale + middle[1]
        return np.asarray(down / high * self.taking.readout_s)

    def path_px(self, layer: Layer, times_s: Floats, start_s: float, scale: float) -> Floats:
        """Where a point of a layer goes, pixels right and down of where it is at a start. times_s: after it."""
        right, up = layer_speed_deg_s(self.taking, layer)
        shake, begun = self.shake, self._begun_s + start_s
        wander = shake.at(begun + times_s) - shake.at(np.array(begun))
        degrees = times_s[:, None] * np.array([right, up]) - wander
        return np.asarray(degrees * np.array([1.0, -1.0]) * self.taking.px_per_deg / scale)

    @cached_property
    def _begun_s(self) -> float:
        return self.shake.usual_moment_s(self.taking.at.mount.shake_deg_s)

    def spot(self, layer: Layer, exposed: Exposed, moment: Moment, scale: float) -> Array | None:
        """What an exposure makes of a point of a layer. scale: delivered pixels for each of its pixels."""
        rough = self.path_px(layer, np.linspace(-0.5, 0.5, 33) * exposed.shutter_s, moment.time_s, scale)
        length = float(np.hypot(*np.diff(rough, axis=0).T).sum())
        places = int(np.clip(DENSE * length, 9, PATH_PLACES))
        # The middle of each part of the exposure counts once.
        times = (np.arange(places) + 0.5) / places * exposed.shutter_s - exposed.shutter_s / 2.0
        return path_spot(self.path_px(layer, times, moment.time_s, scale))

    def _disc(self, layer: Layer, window: Window) -> Array | None:
        taking = self.taking
        disc_deg = taking.blur_disc_deg(distance_of(taking, layer))
        return disc_spot(disc_deg * taking.px_per_deg / window.scale)

    def _moved(self, layer: Layer, group: Array, moment: Moment, window: Window, rows_s: Floats) -> Array:
        """Layers where they are by then, each row when it is read."""
        along = self.path_px(layer, rows_s, moment.time_s, window.scale) + self.way_px(
            layer, moment.time_s, window.scale
        )
        if float(np.abs(along).max()) < LEAST_SKEW_PX:
            return group
        across = np.arange(window.width, dtype=np.float32)[None, :] - along[:, :1].astype(np.float32)
        down = np.arange(window.height, dtype=np.float32)[:, None] - along[:, 1:].astype(np.float32)
        x, y = (np.ascontiguousarray(side) for side in np.broadcast_arrays(across, down))
        edge = cv2.BORDER_REFLECT if layer.fills else cv2.BORDER_CONSTANT
        return np.asarray(cv2.remap(group, x, y, cv2.INTER_LINEAR, borderMode=edge))

    def way_px(self, layer: Layer, time_s: float, scale: float) -> Floats:
        """Where a layer has come to between frames: what moves goes on, of the wander stabilisation leaves its share."""
        right, up = layer_speed_deg_s(self.taking, layer)
        shake = self.shake
        wander = shake.at(np.array(self._begun_s + time_s)) - shake.at(np.array(self._begun_s))
        degrees = time_s * np.array([right, up]) - self.taking.unsteadied_share * wander
        return np.asarray(degrees * np.array([1.0, -1.0]) * self.taking.px_per_deg / scale)


def _lit(painted: Array, by: Lit) -> Array:
    """A drawn layer in its light, with the veil that lies over what it covers. Returns (rows, columns, 4)."""
    turned = np.zeros((4, 4), dtype=np.float32)
    turned[[0, 1, 2], [0, 1, 2]] = by.by
    turned[:3, 3] = by.veil
    turned[3, 3] = 1.0
    return np.asarray(cv2.transform(painted, turned))


def over(below: Array, above: Array) -> Array:
    """A layer over what lies behind it; both (rows, columns, 4), light times cover and cover. Returns another."""
    left = np.float32(1.0) - cv2.extractChannel(above, 3)
    return np.asarray(cv2.add(cv2.multiply(below, cv2.merge([left] * 4)), above))


def scaled(light: Array, by: Floats) -> Array:
    """Bands, each times a factor of its own. light: (rows, columns, 3 or more). Returns (rows, columns, 3)."""
    turned = np.zeros((3, light.shape[2]), dtype=np.float32)
    turned[[0, 1, 2], [0, 1, 2]] = by
    return np.asarray(cv2.transform(light, turned))


def _seed(*parts: int) -> int:
    """One seed of several. Returns 31 bits."""
    return int(np.random.SeedSequence(parts).generate_state(1)[0]) & 0x7FFFFFFF


SHARPEN_PX = 1.0


def recorded(taking: Taking, light: Array, exposed: Exposed, scale: float, graded: bool = False) -> Recorded:
    """What the camera writes of balanced light: clipped, sharpened, curved, in steps.

    light: times mid grey; scale: delivered pixels for each pixel; a sharpening of fine edges is lost in a small picture.
    """
    curve = curve_of(taking, exposed)
    codes = record_fast(curve, light)
    limits = taking.at.limits
    sharpens = {"medium": limits.look_sharpen_medium, "high": limits.look_sharpen_high}
    much = sharpens.get(taking.settings.sharpness, 0.0) / scale
    if much > 0.02:
        codes += np.float32(much) * (codes - cv2.GaussianBlur(codes, (0, 0), SHARPEN_PX))
    steps = np.float32(2**taking.look.bit_depth - 1)
    codes = np.clip(np.round(codes * steps) / steps, 0.0, 1.0)
    return Recorded(codes.astype(np.float32), light, curve, exposed, graded)


CURVE_STEPS = 8192


def record_fast(curve: Curve, light: Array) -> Array:
    """Codes of light by a table, evenly spaced in the square root of light. Returns codes."""
    root = np.linspace(0.0, np.sqrt(curve.white), CURVE_STEPS)
    table = curve.record(root**2).astype(np.float32)
    place = np.sqrt(np.clip(light, 0.0, np.float32(curve.white))) * np.float32((CURVE_STEPS - 1) / np.sqrt(curve.white))
    return table[np.minimum(place.astype(np.int32), CURVE_STEPS - 1)]


def shown(curve: Curve, codes: Array, graded: bool) -> NDArray[np.uint8]:
    """A frame as a display shows it.

    codes: of the file; graded: given the reference contrast, else as they are. Returns (rows, columns, 3), 0 to 255.
    """
    place = (codes * np.float32(4095.0) + np.float32(0.5)).astype(np.int32)
    steps = np.linspace(0.0, 1.0, 4096)
    table = curve.graded(steps) if graded else steps
    return np.asarray(np.round(table * 255.0).astype(np.uint8)[place])


def card_of(
    renderer: Renderer, moment: Moment, side: int, scale: float, noise_of: int = 0, stops: float = 0.0
) -> Array:
    """A grey card at the subject, lit so that it comes out mid grey, as the sensor gives it, before any balance.

    side: pixels; scale: delivered pixels for each; stops: by which it comes out brighter than mid grey, or darker as a
    negative number. Returns times mid grey, (side, side, 3).
    """
    taking = renderer.taking
    grey = grey_card(taking, moment.share)
    level = (2.0**stops * grey / float(grey @ LUMINANCE)).astype(np.float32)
    card = np.broadcast_to(level, (side, side, 3))
    seed = _seed(renderer.seed, noise_of, 1)
    return renderer.sensed(np.ascontiguousarray(card), taking.exposed(moment.share), scale, seed)


def streak_px(renderer: Renderer, moment: Moment, exposed: Exposed, subject: bool) -> float:
    """How long a streak an exposure makes of a point, measured on it, delivered pixels.

    subject: a point that moves with the subject, else one that stands and only shake smears.
    """
    layers, standing = renderer.scene.layers, Layer("", "near", lambda sheet: None)
    moving = next((layer for layer in layers if layer.subject or layer.flows != (0.0, 0.0)), None)
    layer = moving if subject else standing
    if layer is None:
        return 0.0
    # It is laid on so many pixels that these add little to it.
    times = np.linspace(-0.5, 0.5, 65) * exposed.shutter_s
    rough = np.ptp(renderer.path_px(layer, times, moment.time_s, 1.0), axis=0)
    scale = float(np.hypot(*rough)) / STREAK_PX
    if scale == 0.0:
        return 0.0
    spot = renderer.spot(layer, exposed, moment, scale)
    return length_of_spot(spot) * scale
