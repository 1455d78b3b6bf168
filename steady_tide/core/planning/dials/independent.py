"""Dials that stand alone or beside the picture: balance, focus, sharpness, sound, screen, positioning, early start."""

from __future__ import annotations

from typing import Any

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.dials.dial_kind import AUTOMATIC, NONE, DialKind
from steady_tide.core.planning.geometry import hyperfocal_of_plan_m

RAW = "raw"


def balances_of(sheet: CameraSheet) -> tuple[Any, ...]:
    """Balances that a camera can be set to: kelvins, automatic, raw. sheet: of it. Returns them in their order."""
    return (
        *sorted(sheet.balance_k),
        *((AUTOMATIC,) if sheet.balance_automatic else ()),
        *((RAW,) if sheet.balance_raw else ()),
    )


def _balance_settings(_: Any, __: Any, balance: Any) -> dict[str, Any]:
    locked = isinstance(balance, int)
    return {
        "white_balance_k": balance if locked else None,
        "white_balance": "locked" if locked else RAW if balance == RAW else "automatic",
    }


def _focus_settings(problem: Any, choice: Any, focus: str) -> dict[str, Any]:
    at, space, gate = problem.at, problem.space, choice["gates"]
    if focus == "locked":
        at_m = at.focus_distance_m(space.sheet.lenses[space.gates[gate][0]])
    elif focus == "hyperfocal":
        at_m = hyperfocal_of_plan_m(space, at.brief.delivery, choice["pictures"], gate, at.limits.focus_px)
    else:
        at_m = None
    return {"focus": focus, "focus_m": at_m}


BESIDES_DIALS = (
    DialKind(
        id="white_balance_k", block="balances", word="white balance", form="kelvin", row="balance", order=balances_of, read=lambda balance: balance, writes=_balance_settings,
        tied="The light wants {wanted_k:kelvins}; {rival} lies about as near.", tied_item="balance",
    ),
    DialKind(
        id="focus", block="focuses", word="focus", form="word", row="focus",
        read=lambda focus: focus, order=lambda _: ("fixed", "automatic", "locked", "hyperfocal", "infinity"), writes=_focus_settings,
        tied="With {rival} focus the subject is no sharper.",
        only={"fixed": "The lens has a fixed focus."},
    ),
    DialKind(
        id="sharpness", block="sharpness", word="sharpness", form="word", row="sharpness",
        offers=lambda sheet: sheet.sharpness, order=lambda sheet: sheet.sharpness, read=lambda level: level,
        phrase="{value} sharpness",
    ),
    DialKind(
        id="microphone", block="sounds", word="microphone", form="things", row="sound", by_hand=True,
        nothing="built in", read=lambda sound: sound.microphone.id if sound.microphone else NONE, order=lambda _: (),
        writes=lambda _, __, one: {"microphone": None if one == NONE else one},
        only={NONE: "No other microphone at hand fits."},
    ),
    DialKind(
        id="wind_reduction", block="sounds", word="wind reduction", form="word", row="sound",
        order=lambda sheet: sheet.wind_reduction, read=lambda sound: sound.wind_reduction,
        phrase="wind reduction {value}",
        tied="In this wind {rival} sounds alike.",
    ),
    DialKind(
        id="sound_track", block="sound_track", word="sound track", form="word", row="sound",
        offers=lambda sheet: sheet.sound_track, order=lambda sheet: sheet.sound_track, read=lambda setting: setting,
    ),
    DialKind(
        id="pre_record_s", block="habits", word="early start", form="early", row="power",
        read=lambda habit: habit.pre_record_s, key=float, phrase="keeping {value} the start", off="no early start",
        tied="{rival} catches the moment, too.",
    ),
    DialKind(
        id="positioning", block="habits", word="positioning", form="word", row="power",
        read=lambda habit: habit.positioning, order=lambda sheet: sheet.positioning, phrase="positioning {value}",
    ),
    DialKind(
        id="screen", block="habits", word="screen", form="word", row="power",
        read=lambda habit: habit.screen, order=lambda sheet: sheet.screens, phrase="screen {value}",
        tied="With {rival} only the draw of power changes, a little.",
    ),
)  # fmt: skip
