"""Dials of colour and recording: profile, depth, HDR (several exposures joined in a frame), codec, bit rate."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide.core.planning.dials.dial_kind import NOT_OFFERED, DialKind


def _switch_as_offered(values: Sequence[Any], given: Any) -> Any:
    return given if isinstance(given, bool) and given in values else NOT_OFFERED


RECORDING_DIALS = (
    DialKind(
        id="profile", block="looks", word="colour profile", form="word", row="colour", phrase="the {value} profile",
        tied_by_rules=lambda sheet: {profile.id for profile in sheet.profiles},
        read=lambda look: look.profile.id, order=lambda sheet: [profile.id for profile in sheet.profiles],
        tied="{rival} holds the range of this scene, too.",
    ),
    DialKind(
        id="bit_depth", block="looks", word="bit depth", form="bits", row="colour",
        tied_by_rules=lambda sheet: {depth for profile in sheet.profiles for depth in profile.bit_depths},
        read=lambda look: look.bit_depth,
    ),
    DialKind(
        id="high_dynamic_range", block="looks", word="HDR", form="switch", row="colour",
        tied_by_rules=lambda sheet: {False, True},
        read=lambda look: look.high_dynamic_range, reads=_switch_as_offered, phrase="HDR {value}",
    ),
    DialKind(
        id="codec", block="looks", word="codec", form="word", row="stream", phrase="the {value} codec",
        tied_by_rules=lambda sheet: {codec.id for codec in sheet.codecs},
        read=lambda look: look.codec.id, order=lambda sheet: [codec.id for codec in sheet.codecs],
        tied="{rival} has the bits that this needs, too.",
    ),
    DialKind(
        id="bit_rate_mb_s", block="looks", word="bit rate", form="bit_rate", row="stream",
        tied_by_rules=lambda sheet: {rate for codec in sheet.codecs for rate in codec.bit_rates_mb_s},
        read=lambda look: look.bit_rate_mb_s, key=float,
    ),
)  # fmt: skip
