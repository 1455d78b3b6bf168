"""Faults that a frame shows: how plain each is, which dials bring them, which arithmetic keeps them away."""

from __future__ import annotations

from math import log2

from steady_tide.core.log.take import FaultCode
from steady_tide.core.look.numbers import LookMeasures, cast_size
from steady_tide.core.practice.question import PracticeRules, World

# Faults that can be seen, with the dials whose wrong value brings them.
DIALS_OF: dict[FaultCode, tuple[str, ...]] = {
    "blown": ("exposure_compensation", "iso_floor", "nd"),
    "under": ("exposure_compensation", "iso_ceiling", "nd"),
    "noise": ("iso_floor", "shutter_s", "nd", "f_number"),
    "blur": ("shutter_s", "stabilisation", "iso_ceiling"),
    "colour": ("white_balance_k",),
    "bands": ("shutter_s",),
    "focus": ("focus",),
    "stutter": ("shutter_s",),
}
MOVING: frozenset[FaultCode] = frozenset({"stutter"})  # that are seen in a clip alone
STILL = tuple(fault for fault in DIALS_OF if fault not in MOVING)
HALF_TURN = 0.5  # of a frame's time
SUMS_OF: dict[FaultCode, tuple[str, ...]] = {
    "blown": ("density",), "under": ("density", "lamp"), "noise": ("lamp",), "blur": ("half_turn",), "stutter": ("half_turn", "slow"),
    "colour": ("red",),
}  # fmt: skip


def own_dials(world: World) -> frozenset[str]:
    """Dials that bring the faults of one's own takes. Returns their ids."""
    return frozenset(dial for fault in world.own_faults for dial in DIALS_OF.get(fault, ()))


def plain(of: LookMeasures, rules: PracticeRules) -> dict[FaultCode, float]:
    """How plain each fault is in a frame. of: its measures; rules: of practice. Returns by fault, 1 where it is just seen, 0 or less where it is not there."""
    return {
        "blown": of.over_stops / rules["seen_exposure_stops"],
        "under": -of.over_stops / rules["seen_exposure_stops"],
        "noise": log2(rules["clean_snr"] / max(of.snr_grey, 1e-3)) / rules["seen_noise_stops"],
        "blur": max(of.blur_px, of.subject_px) / rules["seen_smear_px"],
        "colour": cast_size(of.cast_stops) / rules["seen_cast_stops"],
        "bands": of.bands_stops / rules["seen_bands_stops"],
        "focus": of.focus_px / rules["seen_focus_px"],
        "stutter": (
            log2(HALF_TURN / max(of.open_share, 1e-6)) / rules["seen_turn_stops"]
            if of.step_px >= rules["seen_step_px"]
            else 0.0
        ),
    }


def the_fault(of: LookMeasures, best: LookMeasures, rules: PracticeRules, moving: bool = False) -> FaultCode | None:
    """The one fault of a frame that the best frame does not have. of, best: their measures; moving: whether a clip is seen. Returns None where there is none, or several are
    as plain."""
    here, there = plain(of, rules), plain(best, rules)
    order = sorted(DIALS_OF if moving else STILL, key=lambda fault: -here[fault])
    first, second = order[0], order[1]
    seen = here[first] >= 1.0 and here[first] - max(0.0, there[first]) >= 1.0
    alone = here[second] <= rules["second_share"] * here[first]
    return first if seen and alone and here[first] <= rules["most_plain"] else None


def looks_different(one: LookMeasures, other: LookMeasures, rules: PracticeRules) -> bool:
    """Whether two frames can be told apart by looking. one, other: their measures."""
    here, there = plain(one, rules), plain(other, rules)
    faults = any(abs(max(0.0, here[fault]) - max(0.0, there[fault])) >= 1.0 for fault in STILL)
    wider = max(one.px_per_deg, other.px_per_deg) / min(one.px_per_deg, other.px_per_deg)
    return faults or wider >= rules["seen_view_times"]
