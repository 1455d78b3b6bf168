"""How the parts of a sheet follow from what is known, and what is taken where nothing is: part by part."""

from __future__ import annotations

import re
from collections.abc import Iterable
from contextlib import suppress
from itertools import pairwise
from math import atan, degrees, sqrt
from typing import Any

from pydantic import ValidationError

from steady_tide.core.cameras.known import Known
from steady_tide.core.cameras.typical import Triple, Typical, TypicalKind
from steady_tide.core.gear.sheet import Estimate
from steady_tide.core.quantities.errors import Fault
from steady_tide.core.quantities.stops import read_seconds

ALL = "all"  # a mode that names it offers all that the camera has
CARD_MARGIN = 1.25
HOURS_FRAME = (3840, 2160, 30.0)  # what makers usually run when they state battery hours
FULL_FRAME_MM = 36.0
# How menus list what they offer: from the widest view, from no stabilisation.
_ORDER = {
    "views": ("fisheye", "wide", "rectilinear", "rectilinear_level", "tight"),
    "stabilisation": ("off", "standard", "strong", "strongest"),
}


class Filler:
    """Fills a document part by part; each part may look at those before it."""

    def __init__(self, doc: dict[str, Any], known: Known, typical: Typical) -> None:
        self.doc, self.known, self.typical = doc, known, typical
        # Estimates that came with the sheet stay; those of a wrong form are told by the reading.
        said = doc.get("estimates")
        self.estimates: list[Estimate] = []
        for entry in said if isinstance(said, list) else ():
            with suppress(ValidationError):
                self.estimates.append(Estimate.model_validate(entry))

    @property
    def kind(self) -> TypicalKind:
        return self.typical.kinds.get(str(self.doc.get("kind")), self.typical.kinds["other"])

    def lacking(self) -> Iterable[Fault]:
        """What only the person can say."""
        if not str(self.doc.get("name") or "").strip():
            yield Fault("name", "is missing", "Give the camera a name.")
        said = self.known.sensor_type
        if said and width_of_type(said, self.typical.inch_types) is None:
            yield Fault(
                "known.sensor_type", f"'{said}' is no sensor type", "Write it such as 1/2.3, or give millimetres."
            )
        modes = self.doc.get("modes")
        if not isinstance(modes, list) or not modes:
            yield Fault(
                "modes", "there is none yet", "Paste the mode table of the manual, drop clips, or add one by hand."
            )
            return
        for index, mode in enumerate(modes):
            if not isinstance(mode, dict):
                yield Fault(f"modes[{index}]", "is no mode", "Give it as width, height and rates.")
                continue
            for field, mend in (
                ("width", "Give it in pixels."),
                ("height", "Give it in pixels."),
                ("rates", "Give such as 25, 50."),
            ):
                if not mode.get(field):
                    yield Fault(f"modes[{index}].{field}", "is missing", mend)

    def put(
        self,
        part: dict[str, Any],
        path: str,
        key: str,
        value: Any,
        how: str,
        between: tuple[float, float] | None = None,
    ) -> Any:
        """Set what is missing, and write down that it is an estimate. Returns what stands there."""
        if part.get(key) is None:
            part[key] = value
            if how:
                low, high = between or (None, None)
                field = f"{path}.{key}" if path else key
                self.estimates.append(Estimate(field=field, low=low, high=high, how=how))
        return part[key]

    def triple(self, part: dict[str, Any], path: str, key: str, triple: Triple, how: str, scale: float = 1.0) -> float:
        value, low, high = (_short(number * scale) for number in triple)
        return float(self.put(part, path, key, value, how, (low, high)))

    def fill(self) -> None:
        """Work through the parts."""
        doc = self.doc
        doc.setdefault("format", "steady-tide/camera-sheet")
        doc.setdefault("version", 2)
        doc["name"] = str(doc["name"]).strip()
        doc["id"] = doc.get("id") or slug(doc["name"])
        self.put(doc, "", "kind", "action", "taken for an action camera")
        self._recording()
        self._mode_lists()
        self._views()
        self._steadying()
        self._lenses()
        self._windows()
        self._readout()
        self._exposure()
        self._power()
        self._body()
        if self.estimates:
            doc["estimates"] = [entry.model_dump(mode="json", exclude_none=True) for entry in self.estimates]

    def _used(self, field: str) -> list[Any]:
        """Values that the modes name, in their order."""
        return list(
            dict.fromkeys(value for mode in self.doc["modes"] for value in (mode.get(field) or ()) if value != ALL)
        )

    def _recording(self) -> None:
        doc, modes = self.doc, self.doc["modes"]
        profiles = doc.setdefault("profiles", [])
        for name in self._used("profiles") or ([] if profiles else ["natural"]):
            if all(profile.get("id") != name for profile in profiles):
                profiles.append({"id": name})
        codecs = doc.setdefault("codecs", [])
        for name in self._used("codecs") or ([] if codecs else ["efficient"]):
            if all(codec.get("id") != name for codec in codecs):
                codecs.append({"id": name})
        depths_used = sorted(self._used("bit_depths"))
        for index, codec in enumerate(codecs):
            path, usual = f"codecs[{index}]", self.typical.codecs.get(codec["id"], self.typical.codecs["unknown"])
            mine = [
                mode
                for mode in modes
                if codec["id"] in (mode.get("codecs") or [codec["id"]]) or ALL in (mode.get("codecs") or ())
            ]
            depths = sorted({d for mode in mine for d in mode.get("bit_depths") or ()})
            if codec["id"] == "older" and depths != [8]:
                depths = [d for d in depths if d == 8]
            rates = sorted({float(r) for mode in mine for r in mode.get("bit_rates_mb_s") or ()})
            if depths and codec.get("bit_depths") is None:
                codec["bit_depths"] = depths
            self.put(codec, path, "bit_depths", [8], "8 bit is always there; the table does not say more")
            if rates and codec.get("bit_rates_mb_s") is None:
                codec["bit_rates_mb_s"] = rates
            self.put(codec, path, "bit_rates_mb_s", [usual.bits_mb_s], "typical of such a codec; read it off a clip")
            self.triple(codec, path, "efficiency", usual.efficiency, "typical of such a codec")
            codec.setdefault("phone_edits", usual.phone_edits)
        offered = sorted({depth for codec in codecs for depth in codec["bit_depths"]})
        for index, profile in enumerate(profiles):
            path, look = (
                f"profiles[{index}]",
                self.typical.profiles.get(profile["id"], self.typical.profiles["unknown"]),
            )
            for field in ("range_stops", "shadow_lift_stops", "needs_grading_stops"):
                self.triple(profile, path, field, getattr(look, field), "typical of such a profile")
            usual_depths = [8] if profile["id"] == "vivid" and 8 in offered else offered
            self.put(profile, path, "bit_depths", usual_depths, "all depths that it records" if not depths_used else "")
        if any(mode.get("high_dynamic_range") for mode in modes) and doc.get("high_dynamic_range") is None:
            fast = max(max(map(float, mode["rates"])) for mode in modes if mode.get("high_dynamic_range"))
            plain = [profile["id"] for profile in profiles if profile["id"] in ("natural", "vivid")] or [
                profiles[0]["id"]
            ]
            wide: dict[str, Any] = {
                "profiles": plain,
                "bit_depths": [8] if 8 in offered else offered,
                "fastest_fps": fast,
            }
            doc["high_dynamic_range"] = wide
            self.triple(
                wide,
                "high_dynamic_range",
                "gain_stops",
                self.typical.wide_range.gain_stops,
                "typical of several exposures in one frame",
            )

    def _mode_lists(self) -> None:
        doc = self.doc
        if not doc.get("lenses"):
            doc["lenses"] = [
                {"id": name} for name in dict.fromkeys(mode.get("lens") or "main" for mode in doc["modes"])
            ]
        ids = {
            "codecs": [codec["id"] for codec in doc["codecs"]],
            "views": [view["id"] for view in doc.get("views") or ()],
            "stabilisation": [level["id"] for level in doc.get("stabilisation") or ()],
        }
        for field, fallback in (
            ("views", ["wide", "rectilinear"] if doc["kind"] == "action" else ["rectilinear"]),
            ("stabilisation", ["off"]),
        ):
            ids[field] = list(dict.fromkeys([*ids[field], *self._used(field)])) or fallback
        if "off" not in ids["stabilisation"]:
            ids["stabilisation"].insert(0, "off")
        for field, order in _ORDER.items():
            ids[field].sort(key=lambda name, order=order: order.index(name) if name in order else len(order))  # type: ignore[misc]
        self._ids = ids
        for index, mode in enumerate(doc["modes"]):
            path = f"modes[{index}]"
            mode["lens"] = mode.get("lens") or doc["lenses"][0]["id"]
            for field in ("views", "codecs", "stabilisation"):
                if ALL in (mode.get(field) or ()):
                    mode[field] = list(ids[field])
                self.put(mode, path, field, list(ids[field]), "the table does not say: all that the camera has")
            if "off" not in mode["stabilisation"]:
                mode["stabilisation"] = ["off", *mode["stabilisation"]]
            for field in _ORDER:
                mode[field] = [name for name in ids[field] if name in mode[field]]
            if ALL in (mode.get("profiles") or ()):
                mode.pop("profiles")
            if mode.get("bit_depths"):
                here = {d for codec in doc["codecs"] if codec["id"] in mode["codecs"] for d in codec["bit_depths"]}
                mode["bit_depths"] = [depth for depth in mode["bit_depths"] if depth in here] or mode["bit_depths"]

    def _views(self) -> None:
        views = self.doc.setdefault("views", [])
        for name in self._ids["views"]:
            if all(view.get("id") != name for view in views):
                views.append({"id": name})
        alone = len(views) == 1 and views[0].get("id") == "rectilinear"
        framed = self._framed()
        widest_straight = next(
            (v["id"] for name in ("rectilinear", "rectilinear_level", "tight") for v in views if v.get("id") == name),
            None,
        )
        for index, view in enumerate(views):
            path = f"views[{index}]"
            usual = (
                self.typical.whole_linear
                if alone
                else self.typical.views.get(view["id"], self.typical.views["unknown"])
            )
            view.setdefault("projection", usual.projection)
            if usual.levelled:
                view.setdefault("levelled", True)
            if framed and (view["id"] == widest_straight or (widest_straight is None and index == 0)):
                self.put(view, path, "field_deg", framed[0], "from the equivalent focal length", (framed[1], framed[2]))
            self.triple(view, path, "field_deg", usual.field_deg, "typical of such a view")

    def _framed(self) -> tuple[float, float, float] | None:
        if self.known.equivalent_mm is None:
            return None
        field = degrees(2 * atan(FULL_FRAME_MM / 2 / self.known.equivalent_mm))
        return _short(field), _short(field * 0.95), _short(min(field * 1.05, 179))

    def _steadying(self) -> None:
        levels = self.doc.setdefault("stabilisation", [])
        for name in self._ids["stabilisation"]:
            if all(level.get("id") != name for level in levels):
                levels.append({"id": name})
        for index, level in enumerate(levels):
            if level["id"] == "off":
                level.update({"keeps": 1.0, "leak": 1.0, **{k: v for k, v in level.items() if v is not None}})
                continue
            usual = self.typical.stabilisation.get(level["id"], self.typical.stabilisation["unknown"])
            for field in ("keeps", "leak", "power_w"):
                self.triple(level, f"stabilisation[{index}]", field, getattr(usual, field), "typical of such a level")

    def _lenses(self) -> None:
        known, kind, sensor_usual = self.known, self.kind, self.typical.sensor
        for index, lens in enumerate(self.doc["lenses"]):
            path = f"lenses[{index}]"
            lens.setdefault("name", f"{str(lens['id']).replace('_', ' ')} lens")
            if lens.get("f_numbers") is None:
                value, low, high = kind.f_number
                lens["f_numbers"] = [value]
                self.estimates.append(
                    Estimate(field=f"{path}.f_numbers[0]", low=low, high=high, how="typical of the kind of camera")
                )
            self.triple(lens, path, "transmission", sensor_usual.transmission, "typical of a small lens")
            self.triple(lens, path, "closest_m", kind.closest_m, "typical of the kind of camera")
            self.put(lens, path, "focus", kind.focus, "typical of the kind of camera")
            sensor = lens.setdefault("sensor", {})
            self._sensor(
                sensor,
                f"{path}.sensor",
                [mode for mode in self.doc["modes"] if mode["lens"] == lens["id"]],
                known,
                kind,
            )

    def _sensor(
        self, sensor: dict[str, Any], path: str, modes: list[dict[str, Any]], known: Known, kind: TypicalKind
    ) -> None:
        modes = modes or self.doc["modes"]
        usual = self.typical.sensor
        widest = max(int(mode["width"]) for mode in modes)
        tallest = max(int(mode["height"]) for mode in modes)
        flattest = min(int(mode["width"]) / int(mode["height"]) for mode in modes)
        if known.megapixels is not None:
            shape = min(4 / 3, flattest)
            width = max(widest, round(sqrt(known.megapixels * 1e6 * shape) / 2) * 2)
            how = "from the megapixels"
        else:
            width, how = widest, "the widest mode; the sensor may be larger"
        self.put(sensor, path, "width_px", width, how, (float(width), _short(width * 1.3)))
        height = max(tallest, round(int(sensor["width_px"]) / flattest / 2) * 2)
        if known.megapixels is not None:
            height = max(height, round(known.megapixels * 1e6 / int(sensor["width_px"]) / 2) * 2)
        self.put(sensor, path, "height_px", height, how, (float(height), _short(height * 1.3)))
        by_type = width_of_type(known.sensor_type, self.typical.inch_types) if known.sensor_type else None
        if known.sensor_width_mm or by_type:
            wide_mm = known.sensor_width_mm or by_type or 0.0
            pitch = wide_mm * 1000 / int(sensor["width_px"])
            self.put(
                sensor,
                path,
                "pixel_pitch_um",
                _short(pitch),
                "from the sensor's width and pixels",
                (_short(pitch * 0.93), _short(pitch * 1.07)),
            )
        self.triple(
            sensor,
            path,
            "pixel_pitch_um",
            kind.sensor_width_mm,
            "typical of the kind of camera",
            1000 / int(sensor["width_px"]),
        )
        self.triple(
            sensor, path, "quantum_efficiency", usual.quantum_efficiency, "typical of small sensors; measure the noise"
        )
        self.triple(sensor, path, "read_noise_e", usual.read_noise_e, "typical of small sensors; measure the noise")
        area = float(sensor["pixel_pitch_um"]) ** 2
        self.triple(
            sensor,
            path,
            "full_well_e",
            usual.full_well_e_per_um2,
            "from the area of a photosite; measure the noise",
            area,
        )

    def _windows(self) -> None:
        lenses = {lens["id"]: lens for lens in self.doc["lenses"]}
        for index, mode in enumerate(self.doc["modes"]):
            path = f"modes[{index}]"
            sensor = lenses.get(mode["lens"], self.doc["lenses"][0])["sensor"]
            wide, high = int(sensor["width_px"]), int(sensor["height_px"])
            window_h = min(high, round(wide * int(mode["height"]) / int(mode["width"])))
            window_w = min(wide, round(window_h * int(mode["width"]) / int(mode["height"])))
            window = [max(window_w, int(mode["width"])), max(window_h, int(mode["height"]))]
            self.put(mode, path, "window_px", window, "taken to read the whole width of the sensor")
            slow = mode.get("intervals_s") or max(map(float, mode["rates"])) < self.typical.sampling.from_fps
            usual = self.typical.sampling.slow if slow else self.typical.sampling.fast
            if not (slow and usual[0] == 1.0):
                self.triple(mode, path, "sampling", usual, "fast modes usually read part of the photosites")

    def _readout(self) -> None:
        for index, lens in enumerate(self.doc["lenses"]):
            sensor = lens["sensor"]
            longest = min(
                (
                    1000.0
                    / fastest
                    / (mode["window_px"][1] / int(sensor["height_px"]) * float(mode.get("sampling") or 1.0))
                    for mode in self.doc["modes"]
                    if mode["lens"] == lens["id"]
                    for fastest in [
                        1 / min(mode["intervals_s"]) if mode.get("intervals_s") else max(map(float, mode["rates"]))
                    ]
                ),
                default=self.typical.sensor.readout_ms_most,
            )
            longest = min(longest, self.typical.sensor.readout_ms_most / self.typical.sensor.readout_share[0])
            self.triple(
                sensor,
                f"lenses[{index}].sensor",
                "readout_ms",
                self.typical.sensor.readout_share,
                "no longer than the fastest mode allows; measure it on a pan",
                longest,
            )

    def _exposure(self) -> None:
        doc, lists = self.doc, self.typical.lists
        shutter = doc.setdefault("shutter", {})
        self.put(
            shutter,
            "shutter",
            "fixed_s",
            [_short(read_seconds(text)) for text in lists.shutter_s],
            "a usual list; read it off the menu",
        )
        self.put(shutter, "shutter", "auto", True, "nearly all cameras have it")
        iso = doc.setdefault("iso", {})
        self.put(iso, "iso", "floors", list(lists.iso), "a usual list; read it off the menu")
        self.put(iso, "iso", "ceilings", list(lists.iso), "a usual list; read it off the menu")
        for field in ("compensation_stops", "balance_k", "sharpness", "wind_reduction"):
            self.put(doc, "", field, list(getattr(lists, field)), "a usual list; read it off the menu")

    def _power(self) -> None:
        power, known, kind = self.doc.setdefault("power", {}), self.known, self.kind
        if known.battery_mah and known.battery_v and power.get("battery_wh") is None:
            power["battery_wh"] = _short(known.battery_mah * known.battery_v / 1000)
        self.triple(
            power, "power", "battery_wh", kind.battery_wh, "typical of the kind of camera; it is printed on the cell"
        )
        self.triple(
            power, "power", "per_gigapixel_s_w", self.typical.power.per_gigapixel_s_w, "typical of small cameras"
        )
        wide, high, rate = HOURS_FRAME
        pixels_w = float(power["per_gigapixel_s_w"]) * wide * high * rate / 1e9
        hours, how = kind.hours, "typical of the kind of camera; time a charge"
        if known.battery_hours:
            hours = (known.battery_hours, known.battery_hours * 1.15, known.battery_hours * 0.85)
            how = "from the hours a charge lasts"
        else:
            hours = (hours[0], hours[2], hours[1])
        least = self.typical.power.least_base_w
        base = [max(least, float(power["battery_wh"]) / value - pixels_w) for value in hours]
        self.put(power, "power", "base_w", _short(base[0]), how, (_short(base[1]), _short(max(base[2], base[1]))))
        for field in ("heat_k_per_w", "heat_tau_s", "heat_limit_c"):
            self.triple(power, "power", field, getattr(kind, field), "not known of this camera; typical of the kind")

    def _body(self) -> None:
        doc = self.doc
        self.put(doc, "", "filter_mount", {"fits": None, "stack": 1}, "taken to have no mount for filters")
        if isinstance(doc["filter_mount"], dict):
            doc["filter_mount"].setdefault("fits", None)
        if doc.get("memory") is None and doc.get("card_min_mb_s") is None:
            fastest = max(float(rate) for codec in doc["codecs"] for rate in codec["bit_rates_mb_s"])
            if doc["kind"] == "phone":
                memory = self.typical.phone_memory
                self.put(doc, "", "memory", memory.model_dump(), "typical of a phone; look at its free space")
            else:
                self.put(doc, "", "card_min_mb_s", _short(fastest * CARD_MARGIN), "the highest bit rate with a margin")


def width_of_type(text: str, known: dict[str, float]) -> float | None:
    """How wide the picture of a sensor type is. text: such as 1/2.3; known: widths of types, mm.

    Returns millimetres, between the known types where it is none of them; None where it is no type, or beyond them.
    The inches of a type are a convention, not a width.
    """
    inches = _inches(text)
    steps = sorted((_inches(name) or 0.0, wide) for name, wide in known.items())
    if inches is None:
        return None
    for (low, narrow), (high, wide) in pairwise(steps):
        if low - 1e-9 <= inches <= high + 1e-9:
            return narrow + (wide - narrow) * (inches - low) / (high - low)
    return None


def _inches(text: str) -> float | None:
    found = re.fullmatch(r"\s*(\d+(?:[.,]\d+)?)\s*(?:/\s*(\d+(?:[.,]\d+)?))?\s*(?:\"|″|in|inch|-type)?\s*", text)
    if not found:
        return None
    over, under = (float((part or "1").replace(",", ".")) for part in found.groups())
    return over / under if under > 0 else None


def slug(name: str) -> str:
    """An id from a name. name: free text. Returns lower case letters, digits and dashes."""
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60].strip("-") or "camera"


def _short(value: float) -> float:
    """A number with the digits that an estimate deserves: three or four."""
    rounded = float(f"{value:.4g}")
    return int(rounded) if rounded == int(rounded) and abs(rounded) >= 10 else rounded
