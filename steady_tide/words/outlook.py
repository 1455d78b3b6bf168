"""What a plan looks ahead to, in words: how evenly frames are shown."""

from __future__ import annotations

from steady_tide.core.planning.outlook import Outlook, SlowMotion
from steady_tide.core.planning.slow_motion import Cadence, SlowRate


class CadenceText(Cadence):
    """How evenly captured frames are shown, in words."""

    text: str


class RateText(SlowRate):
    """One capture rate for an event on a timeline."""

    cadence: CadenceText


class SlowMotionText(SlowMotion):
    """Slow motion of a shot."""

    chosen: CadenceText
    rates: tuple[RateText, ...]


class OutlookText(Outlook):
    """Everything that is drawn of a plan besides its light."""

    slow: SlowMotionText | None


def outlook_text(outlook: Outlook) -> OutlookText:
    """Put an outlook into words. outlook: numbers. Returns its text."""
    said = outlook.model_dump()
    if outlook.slow is not None:
        said["slow"]["chosen"]["text"] = cadence_words(outlook.slow.chosen)
        for rate, told in zip(outlook.slow.rates, said["slow"]["rates"], strict=True):
            told["cadence"]["text"] = cadence_words(rate.cadence)
    return OutlookText.model_validate(said)


def cadence_words(found: Cadence) -> str:
    """How evenly captured frames are shown. Returns a clause."""
    (captured, shown), steps = found.ratio, found.steps
    if found.even:
        return "every frame, evenly" if captured == shown else f"every {_nth(captured // shown)} frame, evenly"
    pattern = " ".join(str(step) for step in steps)
    if captured < shown:
        if captured == 1:
            return f"every frame {'twice' if shown == 2 else f'{shown} times'}: it moves in jerks"
        held = sum(1 for step in steps if step == 0)
        return f"{held} of {len(steps)} shown frames repeat the one before ({pattern})"
    return f"uneven steps of {min(steps)} and {max(steps)} frames ({pattern}): it judders"


def _nth(number: int) -> str:
    return {2: "second", 3: "third"}.get(number, f"{number}th")
