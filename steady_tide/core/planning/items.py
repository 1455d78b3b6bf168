"""The items of the ledger: what each is called, and beside which dial it is shown."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Item:
    """One kind of thing that a plan can give up."""

    title: str
    dial: str


ITEMS: dict[str, Item] = {
    "over": Item("brightest part over", "nd"),
    "under": Item("dimmest part under", "iso_ceiling"),
    "noise": Item("noise past the limit", "iso_ceiling"),
    "light_unused": Item("sensor left unread", "view"),
    "gain_behind_glass": Item("gain behind glass", "iso_ceiling"),
    "spare_gain": Item("gain without need", "iso_ceiling"),
    "raised_floor": Item("floor above base", "iso_floor"),
    "metering": Item("meter's habit", "exposure_compensation"),
    "unlocked": Item("exposure may drift", "iso_floor"),
    "cast": Item("colour cast", "colour_filter"),
    "glass": Item("glass in the way", "nd"),
    "motion_look": Item("motion look", "shutter_s"),
    "loose_shutter": Item("shutter left free", "shutter_s"),
    "star_drift": Item("stars that trail", "shutter_s"),
    "softness": Item("soft focus", "f_number"),
    "focus": Item("focus that may miss", "focus"),
    "smear": Item("smear in the frame", "shutter_s"),
    "shake": Item("wandering picture", "stabilisation"),
    "software": Item("steadied twice", "stabilisation"),
    "horizon": Item("tilting horizon", "view"),
    "flicker": Item("lamp flicker", "shutter_s"),
    "crop": Item("cropped by steadying", "stabilisation"),
    "view": Item("field of view", "view"),
    "lens": Item("softer lens", "lens"),
    "bend": Item("bent lines", "view"),
    "detail": Item("short of the timeline", "frame"),
    "reframe": Item("short for other shapes", "frame"),
    "most": Item("less than the most", "frame"),
    "slow_motion": Item("slow motion short", "frame_rate"),
    "spare_frames": Item("frames dropped", "frame_rate"),
    "interval": Item("time on the screen", "interval_s"),
    "cadence": Item("uneven cadence", "frame_rate"),
    "latitude": Item("range short", "profile"),
    "finish": Item("left ungraded", "profile"),
    "lifted_shadows": Item("lifted dark noise", "profile"),
    "tones": Item("tones", "bit_depth"),
    "bits": Item("thin on bits", "bit_rate_mb_s"),
    "storage": Item("card filled", "bit_rate_mb_s"),
    "editing": Item("heavy to edit", "codec"),
    "range_mode": Item("joined exposures", "high_dynamic_range"),
    "balance": Item("white balance", "white_balance_k"),
    "sharpening": Item("sharpening", "sharpness"),
    "wind": Item("wind or mono sound", "wind_reduction"),
    "sound_track": Item("sound track", "sound_track"),
    "battery": Item("battery short", "screen"),
    "heat": Item("heat limit", "screen"),
    "card": Item("card too small", "bit_rate_mb_s"),
    "drive": Item("external drive", "codec"),
    "early_start": Item("start missed", "pre_record_s"),
    "screen": Item("screen habit", "screen"),
    "positioning": Item("positioning", "positioning"),
    "handling": Item("moved to the phone", "camera"),
}
