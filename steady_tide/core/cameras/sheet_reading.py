"""Reading a camera sheet: its form, its sense, and what it says against itself."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import Any

from pydantic import ValidationError

from steady_tide.core.gear.sheet import CameraSheet, Lens, Mode
from steady_tide.core.gear.sheet_paths import value_at
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.quantities.errors import BadSheet, Fault
from steady_tide.core.quantities.frozen import faults_of


def read_sheet(data: Any, name: str = "") -> CameraSheet:
    """Read a camera sheet from decoded JSON.

    data: a mapping in the published format; name: of the file, for messages.
    Returns the sheet. Raises BadSheet with the path of every fault, of form or of sense.
    """
    prefix = (name,) if name else ()
    if not isinstance(data, dict):
        raise BadSheet(
            Fault(name, "a camera sheet is a JSON object", 'Begin with {"format": "steady-tide/camera-sheet", ...}.')
        )
    try:
        sheet = CameraSheet.model_validate(data)
    except ValidationError as error:
        raise BadSheet(*faults_of(error, prefix)) from None
    faults = tuple(contradictions(sheet))
    if faults:
        raise BadSheet(*(Fault(f"{name}.{f.where}" if name else f.where, f.what, f.mend) for f in faults))
    return sheet


def naming_dials(schema: dict[str, Any]) -> dict[str, Any]:
    """A JSON Schema in which a menu may name the dials that there are. schema: with a MenuDial. Returns it changed."""
    schema["$defs"]["MenuDial"]["properties"]["dial"]["enum"] = list(USUAL.listed)
    return schema


def sheet_json_schema() -> dict[str, Any]:
    """JSON Schema of the open camera sheet format."""
    return naming_dials(CameraSheet.model_json_schema())


def contradictions(sheet: CameraSheet) -> Iterator[Fault]:
    """Find what a sheet says against itself.

    sheet: a sheet of good form. Yields a fault for each contradiction.
    """
    for field in ("lenses", "views", "stabilisation", "profiles", "codecs", "recorders"):
        counts = Counter(entry.id for entry in getattr(sheet, field))
        for index, entry in enumerate(getattr(sheet, field)):
            if counts[entry.id] > 1:
                yield Fault(f"{field}[{index}].id", f"'{entry.id}' stands more than once", "Give each its own id.")
    yield from _list_faults(sheet)
    yield from _size_faults(sheet)
    yield from _mode_faults(sheet)
    yield from _reference_faults(sheet)


def _list_faults(sheet: CameraSheet) -> Iterator[Fault]:
    lists: dict[str, tuple[Any, ...]] = {
        "shutter.fixed_s": sheet.shutter.fixed_s,
        "iso.floors": sheet.iso.floors,
        "iso.ceilings": sheet.iso.ceilings,
        "compensation_stops": sheet.compensation_stops,
        "balance_k": sheet.balance_k,
        "sharpness": sheet.sharpness,
        "wind_reduction": sheet.wind_reduction,
        "sound_track": sheet.sound_track,
        "pre_record_s": sheet.pre_record_s,
        "red_gain_stops": sheet.red_gain_stops,
        "positioning": sheet.positioning,
        "screens": sheet.screens,
    }
    for where, values in lists.items():
        for index, value in enumerate(values):
            if value in values[:index]:
                yield Fault(f"{where}[{index}]", f"{value} stands more than once", "Remove one.")
    if not sheet.shutter.fixed_s and not sheet.shutter.auto:
        yield Fault("shutter", "offers neither a fixed exposure nor an automatic one", "Give one of them.")
    if min(sheet.iso.floors) > max(sheet.iso.ceilings):
        yield Fault("iso", "every floor is above every ceiling", "Lower a floor or raise a ceiling.")
    if sheet.memory is None and sheet.card_min_mb_s is None:
        yield Fault("card_min_mb_s", "it neither takes a card nor has a memory", "Give card_min_mb_s or memory.")
    if not sheet.balance_k and not sheet.balance_automatic and not sheet.balance_raw:
        yield Fault("balance_k", "there is neither a fixed balance nor an automatic one", "Give one of them.")


# What a plan works through at once; real cameras stay far below.
MOST_PICTURES, MOST_LOOKS, MOST_EXPOSURES = 20_000, 2_000, 1_000_000


def _size_faults(sheet: CameraSheet) -> Iterator[Fault]:
    pictures = sum(
        len(mode.rates) * max(1, len(mode.intervals_s)) * len(mode.views) * len(mode.stabilisation)
        for mode in sheet.modes
    ) * len(sheet.ways)
    looks = 2 * sum(len(p.bit_depths) for p in sheet.profiles) * sum(len(c.bit_rates_mb_s) for c in sheet.codecs)
    gates = max(len(lens.f_numbers) for lens in sheet.lenses) * (len(sheet.shutter.fixed_s) + 1)
    exposures = gates * len(sheet.iso.floors) * len(sheet.iso.ceilings) * len(sheet.compensation_stops)
    for where, count, most, of in (
        ("modes", pictures, MOST_PICTURES, "recorder, frame, rate, view and stabilisation"),
        ("codecs", looks, MOST_LOOKS, "profile, depth, format and bit rate"),
        ("shutter.fixed_s", exposures, MOST_EXPOSURES, "aperture, exposure, ISO and compensation"),
    ):
        if count > most:
            yield Fault(
                where,
                f"{count:,} combinations of {of} are more than the {most:,} that a plan works through",
                "Leave out steps that nobody would use.",
            )


def _mode_faults(sheet: CameraSheet) -> Iterator[Fault]:
    lenses = {lens.id: lens for lens in sheet.lenses}
    known: dict[str, set[Any]] = {
        "views": {view.id for view in sheet.views},
        "stabilisation": {level.id for level in sheet.stabilisation},
        "codecs": {codec.id for codec in sheet.codecs},
        "drive_codecs": {codec.id for codec in sheet.codecs},
        "profiles": {profile.id for profile in sheet.profiles},
        "bit_depths": {depth for profile in sheet.profiles for depth in profile.bit_depths},
        "bit_rates_mb_s": {rate for codec in sheet.codecs for rate in codec.bit_rates_mb_s},
    }
    seen: dict[tuple[str, int, int, float, bool, bool], int] = {}
    for index, mode in enumerate(sheet.modes):
        where = f"modes[{index}]"
        wrong = [
            Fault(
                f"{where}.{field}[{place}]",
                f"'{value}' is not among the sheet's {field.removeprefix('drive_')}",
                f"Use one of {', '.join(map(str, sorted(ids)))}.",
            )
            for field, ids in known.items()
            for place, value in enumerate(getattr(mode, field) or ())
            if value not in ids
        ]
        yield from wrong
        if not wrong and not _records(sheet, mode):
            yield Fault(
                where,
                "no profile, depth, codec and bit rate of this mode go together",
                "Widen one of profiles, bit_depths, codecs, bit_rates_mb_s.",
            )
        if mode.still_mb is not None and not mode.intervals_s:
            yield Fault(
                f"{where}.still_mb",
                "keeps stills, but has no intervals at which they are taken",
                "Give intervals_s, or leave still_mb out.",
            )
        lens = lenses.get(mode.lens)
        if lens is None:
            yield Fault(
                f"{where}.lens",
                f"'{mode.lens}' is not among the sheet's lenses",
                f"Use one of {', '.join(sorted(lenses))}.",
            )
            continue
        yield from _window_faults(where, mode, lens)
        for place, rate in enumerate(mode.rates):
            key = (mode.lens, mode.width, mode.height, rate, bool(mode.intervals_s), mode.still_mb is not None)
            if key in seen:
                yield Fault(
                    f"{where}.rates[{place}]",
                    f"{mode.width} x {mode.height} at {rate:g} fps stands in modes[{seen[key]}] already",
                    "Keep it in one place.",
                )
            seen[key] = index


def _records(sheet: CameraSheet, mode: Mode) -> bool:
    depths = {depth for p in sheet.profiles if mode.profiles is None or p.id in mode.profiles for depth in p.bit_depths}
    return any(
        codec.id in mode.codecs
        and any(depth in depths and (mode.bit_depths is None or depth in mode.bit_depths) for depth in codec.bit_depths)
        and any(mode.bit_rates_mb_s is None or rate in mode.bit_rates_mb_s for rate in codec.bit_rates_mb_s)
        for codec in sheet.codecs
    )


def _window_faults(where: str, mode: Mode, lens: Lens) -> Iterator[Fault]:
    sensor, (wide, high) = lens.sensor, mode.window_px
    if wide > sensor.width_px or high > sensor.height_px:
        yield Fault(
            f"{where}.window_px",
            f"{wide} x {high} is larger than the sensor, {sensor.width_px} x {sensor.height_px}",
            "Give the part that is read.",
        )
    if mode.width > wide or mode.height > high:
        yield Fault(
            f"{where}.width",
            f"{mode.width} x {mode.height} pixels cannot come from a window of {wide} x {high}",
            "Give the true window, or the size before enlarging.",
        )
    reading_s = sensor.readout_ms / 1000.0 * high / sensor.height_px * mode.sampling
    fastest = 1.0 / min(mode.intervals_s) if mode.intervals_s else max(mode.rates)
    if reading_s * fastest > 1.0 + 1e-9:
        yield Fault(
            f"{where}.intervals_s" if mode.intervals_s else f"{where}.rates[{mode.rates.index(fastest)}]",
            f"{fastest:g} fps leaves {1000 / fastest:.1f} ms, but reading this window takes {1000 * reading_s:.1f} ms",
            "Lower the rate, the window, the sampling or the sensor's readout_ms.",
        )


def _reference_faults(sheet: CameraSheet) -> Iterator[Fault]:
    profiles = {profile.id for profile in sheet.profiles}
    depths = {depth for codec in sheet.codecs for depth in codec.bit_depths}
    for index, profile in enumerate(sheet.profiles):
        if not depths.intersection(profile.bit_depths):
            yield Fault(
                f"profiles[{index}].bit_depths",
                "no codec records any of these depths",
                f"Codecs record {sorted(depths)} bit.",
            )
    for index, name in enumerate(sheet.high_dynamic_range.profiles if sheet.high_dynamic_range else ()):
        if name not in profiles:
            yield Fault(
                f"high_dynamic_range.profiles[{index}]",
                f"'{name}' is not among the sheet's profiles",
                f"Use one of {', '.join(sorted(profiles))}.",
            )
    views = {view.id for view in sheet.views}
    for index, lens in enumerate(sheet.lenses):
        for view in lens.fields_deg:
            if view not in views:
                yield Fault(
                    f"lenses[{index}].fields_deg.{view}",
                    f"'{view}' is not among the sheet's views",
                    f"Use one of {', '.join(sorted(views))}.",
                )
    for name in sheet.power.screen_w:
        if name not in sheet.screens:
            yield Fault(
                f"power.screen_w.{name}",
                f"'{name}' is not among the sheet's screens",
                f"Use one of {', '.join(sheet.screens)}.",
            )
    yield from _view_faults(sheet)
    yield from _recorder_faults(sheet)
    yield from _rule_faults(sheet)
    yield from _estimate_faults(sheet)
    listed: dict[str, str] = {}
    for page_index, page in enumerate(sheet.menu):
        for dial_index, entry in enumerate(page.dials):
            where = f"menu[{page_index}].dials[{dial_index}].dial"
            if entry.dial not in USUAL.listed:
                names = ", ".join(USUAL.listed)
                yield Fault(where, f"there is no dial called '{entry.dial}'", f"Use one of {names}.")
            if entry.dial in listed:
                yield Fault(where, f"'{entry.dial}' stands at {listed[entry.dial]} already", "Keep it in one place.")
            listed[entry.dial] = where


KEEPS_AGREE = 0.08  # of a share; fields are told in whole degrees


def _view_faults(sheet: CameraSheet) -> Iterator[Fault]:
    """Shares that a sheet tells beside fields that say otherwise. Sheets of the first version are taken as they are."""
    if sheet.version == 1:
        return
    for index, view in enumerate(sheet.views):
        for lens in sheet.lenses:
            if view.keeps is None or view not in sheet.views_through(lens):
                continue
            share = sheet.keeps_by_geometry(lens, view)
            if abs(view.keeps / share - 1.0) > KEEPS_AGREE:
                field = lens.fields_deg.get(view.id, view.field_deg)
                yield Fault(
                    f"views[{index}].keeps",
                    f"keeps {view.keeps:.2f} of the width is told, {share:.2f} is what its {field:g}\u00b0 come to",
                    "Leave keeps out, or mend the field.",
                )
                break


def _recorder_faults(sheet: CameraSheet) -> Iterator[Fault]:
    for index, way in enumerate(sheet.recorders):
        for field in ("codecs", "profiles", "stabilisation"):
            known = [entry.id for entry in getattr(sheet, field)]
            for place, name in enumerate(getattr(way, field) or ()):
                if name not in known:
                    yield Fault(
                        f"recorders[{index}].{field}[{place}]",
                        f"'{name}' is not among the sheet's {field}",
                        f"Use one of {', '.join(known)}.",
                    )
        if not way.by_hand and not sheet.shutter.auto:
            yield Fault(
                f"recorders[{index}].by_hand",
                "sets nothing by hand, but the sheet has no automatic shutter",
                "Set shutter.auto, or by_hand.",
            )


def _estimate_faults(sheet: CameraSheet) -> Iterator[Fault]:
    for index, estimate in enumerate(sheet.estimates):
        where = f"estimates[{index}]"
        try:
            value = value_at(sheet, estimate.field)
        except LookupError:
            yield Fault(f"{where}.field", f"there is nothing at '{estimate.field}'", "Name a number of this sheet.")
            continue
        if estimate.low is None and estimate.high is None:
            continue
        low, high = estimate.low, estimate.high
        if isinstance(value, bool) or not isinstance(value, int | float):
            yield Fault(f"{where}.low", f"'{estimate.field}' is no number", "Leave out low and high.")
        elif low is None or high is None or not low <= value <= high:
            yield Fault(
                f"{where}.low",
                f"{value:g} does not lie between {low} and {high}",
                "Give low and high so that the number lies between them.",
            )


def _offered(sheet: CameraSheet) -> dict[str, set[Any]]:
    """Values that a rule may name, for each dial that it may tie."""
    return {
        kind.id: kind.tied_by_rules(sheet)
        for kind in USUAL.dial_kinds
        if kind.listed and kind.tied_by_rules is not None
    }


def _rule_faults(sheet: CameraSheet) -> Iterator[Fault]:
    offered = _offered(sheet)
    for index, rule in enumerate(sheet.rules):
        if len(rule.never) < 2:
            yield Fault(
                f"rules[{index}].never", "names one dial only", "Name two or more, or take the value out of the sheet."
            )
        for dial, values in rule.never.items():
            if dial not in offered:
                yield Fault(
                    f"rules[{index}].never.{dial}",
                    f"a rule cannot tie '{dial}'",
                    f"Use some of {', '.join(offered)}.",
                )
                continue
            for place, value in enumerate(values):
                if value not in offered[dial]:
                    yield Fault(
                        f"rules[{index}].never.{dial}[{place}]",
                        f"{value!r} is not among the values of {dial}",
                        f"Use one of {', '.join(map(str, sorted(offered[dial])))}.",
                    )
