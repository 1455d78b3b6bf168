"""The rows of the setting sheet in words: dials that people think of together stand on one line."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.dials.dial_kind import Row
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words import quantities as writing
from steady_tide.words.dial_values import dial_word

Values = dict[str, str]


class RowText(Frozen):
    """A row of the sheet: its value, the dial whose reason stands in it, what it costs, and the dials that are free."""

    id: str
    label: str
    value: str
    main: str
    free: tuple[str, ...]
    dials: tuple[str, ...]
    given_up_stops: float


class DialName(Frozen):
    """A dial and what it is called."""

    id: str
    word: str


class SheetRow(Frozen):
    """A row of the sheet whatever the plan."""

    id: str
    label: str
    dials: tuple[DialName, ...]


def sheet_rows(judgement: Judgement = USUAL) -> tuple[SheetRow, ...]:
    """All rows that a sheet can have. Returns them in their order."""
    return tuple(
        SheetRow(
            id=row.id,
            label=row.label,
            dials=tuple(DialName(id=dial, word=dial_word(dial, judgement)) for dial in dials),
        )
        for row, dials in judgement.rows
    )


def is_free(dial: str, plan: Plan) -> bool:
    """Whether a dial leaves anything to choose on this camera."""
    return dial in plan.profiles and dial not in plan.settled


def rows_of(plan: Plan, values: Values, judgement: Judgement = USUAL) -> tuple[RowText, ...]:
    """Rows that leave something to choose. plan: the plan; values: its values in words. Returns them."""
    return tuple(
        RowText(
            id=row.id,
            label=row.label,
            value=_value(row, dials, plan, values),
            main=_main(row, dials, plan),
            free=tuple(dial for dial in dials if is_free(dial, plan)),
            dials=dials,
            given_up_stops=sum(item.given_up_stops for item in plan.ledger if item.dial in dials),
        )
        for row, dials in judgement.rows
        if any(is_free(dial, plan) for dial in dials)
    )


def settled_words(plan: Plan, values: Values, judgement: Judgement = USUAL) -> str:
    """What leaves nothing to choose on the camera, in one sentence. Returns "" where there is nothing."""
    said = []
    for row, dials in judgement.rows:
        if not any(is_free(dial, plan) for dial in dials):
            value = _value(row, dials, plan, values)
            nd = plan.reasons.get("nd")
            if row.id == "glass" and nd is not None and nd.kind == "only" and not plan.settings.nd:
                value = f"{value}, since no filter at hand fits this camera"
            if value:
                said.append(value if value.startswith("no ") else f"{row.label.lower()} {value}")
    return f"Settled on the {plan.camera.name}: {', '.join(said)}." if said else ""


def _main(row: Row, dials: tuple[str, ...], plan: Plan) -> str:
    """The dial whose reason stands in the row: the first of its own that was decided, for glass the one in use."""
    settings = plan.settings
    if row.id == "glass":
        if settings.nd:
            return "nd"
        if settings.colour_filter or (is_free("colour_filter", plan) and not is_free("nd", plan)):
            return "colour_filter"
        return "housing" if settings.housing and not is_free("nd", plan) else "nd"
    if row.id == "sound" and settings.microphone:
        return "microphone"
    if row.id == "rate" and settings.interval_s is not None:
        return "interval_s"
    return row.main if is_free(row.main, plan) else next((dial for dial in dials if is_free(dial, plan)), row.main)


def _joined(*parts: str | bool | None) -> str:
    return " \u00b7 ".join(part for part in parts if isinstance(part, str) and part)


def _rate(plan: Plan, said: Values) -> str:
    at_speed = plan.settings.interval_s is None
    if at_speed:
        return said["frame_rate"]
    stills = plan.settings.kept_as == "stills" and "kept as stills"
    return _joined(said["interval_s"], f"shown at {said['frame_rate']}", stills)


def _view(plan: Plan, said: Values) -> str:
    lens = said["lens"] if is_free("lens", plan) else ""
    return _joined(lens, said["attachment"] if plan.settings.attachment else "", said["view"])


def _iso(plan: Plan, said: Values) -> str:
    floor, ceiling = plan.settings.iso_floor, plan.settings.iso_ceiling
    return f"{floor}" if floor == ceiling else f"{floor} \u2013 {ceiling}"


def _glass(plan: Plan, said: Values) -> str:
    settings = plan.settings
    return _joined(
        bool(settings.nd or not settings.colour_filter) and said["nd"],
        settings.colour_filter is not None and said["colour_filter"],
        settings.housing is not None and said["housing"],
    )


def _focus(plan: Plan, said: Values) -> str:
    at_m = plan.settings.focus_m
    return said["focus"] if at_m is None else _joined(said["focus"], writing.metres(at_m))


def _colour(plan: Plan, said: Values) -> str:
    return _joined(said["profile"], said["bit_depth"], plan.settings.high_dynamic_range and "HDR")


def _sound(plan: Plan, said: Values) -> str:
    settings = plan.settings
    heard_with = said["microphone"] if settings.microphone else ""
    return _joined(heard_with, f"wind reduction {said['wind_reduction']}", settings.sound_track == "on" and "own track")


def _balance(plan: Plan, said: Values) -> str:
    raised = plan.settings.red_gain_stops > 0 and f"red raised {said['red_gain_stops']}"
    return _joined(said["white_balance_k"], raised)


def _recorder(plan: Plan, said: Values) -> str:
    return said["recorder"] if len(plan.profiles.get("recorder", ())) > 1 else ""


def _power(plan: Plan, said: Values) -> str:
    settings = plan.settings
    return _joined(
        f"screen {said['screen']}",
        settings.positioning == "on" and "positioning",
        settings.pre_record_s > 0 and said["pre_record_s"],
    )


def _stream(plan: Plan, said: Values) -> str:
    if plan.settings.kept_as == "stills":
        return _joined("stills", said["codec"])
    return _joined(said["bit_rate_mb_s"], said["codec"])


# Rows that say more than the value of their main dial.
_SAYS: dict[str, Callable[[Plan, Values], str]] = {
    "rate": _rate,
    "view": _view,
    "iso": _iso,
    "recorder": _recorder,
    "balance": _balance,
    "glass": _glass,
    "focus": _focus,
    "colour": _colour,
    "stream": _stream,
    "sound": _sound,
    "power": _power,
}


def _value(row: Row, dials: Iterable[str], plan: Plan, values: Values) -> str:
    says = _SAYS.get(row.id)
    return says(plan, values) if says else values[row.main]
