"""The mode map in words."""

from __future__ import annotations

from typing import Any

from steady_tide.core.cameras.mode_losses import FrameLoss, Loss
from steady_tide.core.cameras.mode_map import ModeMap
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.dial_values import value_words
from steady_tide.words.quantities import frame

_NOUN = {"stabilisation": "stabilisation", "codec": "codec", "profile": "colour profile"}


class NamedValue(Frozen):
    """A value with the words for it."""

    id: str
    label: str


class LossText(Frozen):
    """What is lost where one value of a dial is wanted, in words."""

    dial: str
    value: Any
    label: str
    gone: dict[str, tuple[str, ...]]
    inside: tuple[tuple[str, str], ...]  # frame, and what else that frame loses
    count: int
    of: int
    states: tuple[tuple[str, ...], ...]


class MapText(ModeMap):
    """All modes of a camera as one picture, in words."""

    views: tuple[NamedValue, ...]  # type: ignore[assignment]
    steadyings: tuple[NamedValue, ...]  # type: ignore[assignment]
    losses: tuple[LossText, ...]  # type: ignore[assignment]


def map_text(found: ModeMap) -> MapText:
    """Put a mode map into words. found: values. Returns its text."""
    said = {name: getattr(found, name) for name in ModeMap.model_fields}
    said["views"] = tuple(NamedValue(id=view, label=value_words("view", view)) for view in found.views)
    said["steadyings"] = tuple(
        NamedValue(id=level, label=value_words("stabilisation", level)) for level in found.steadyings
    )
    said["losses"] = tuple(_loss(loss) for loss in found.losses)
    return MapText.model_construct(**said)


def _loss(loss: Loss) -> LossText:
    return LossText(
        dial=loss.dial,
        value=loss.value,
        label=value_words(loss.dial, loss.value),
        gone={dial: tuple(value_words(dial, value) for value in values) for dial, values in loss.gone.items()},
        inside=tuple((frame(entry.frame), _lost(entry)) for entry in loss.inside),
        count=loss.count,
        of=loss.of,
        states=loss.states,
    )


def _lost(entry: FrameLoss) -> str:
    return "; ".join(_phrase(dial, value) for dial, value in entry.lost)


def _phrase(dial: str, value: Any) -> str:
    """A value with the noun that it needs where it stands among others."""
    if dial == "high_dynamic_range":
        return "HDR"
    said = value_words(dial, value)
    return f"{said} {_NOUN[dial]}" if dial in _NOUN else said
