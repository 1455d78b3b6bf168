"""Which of one's own numbers a plan was made with, by their kind."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.own_numbers import Own, OwnNumber, OwnUsed, used
from steady_tide.core.gear.items import piece_of
from steady_tide.core.planning.plan import Plan

Applies = Callable[[OwnNumber, Own, Brief, Plan], bool]


def own_used(own: Own, brief: Brief, plan: Plan) -> tuple[OwnUsed, ...]:
    """The own numbers that a plan was made with. own: those that are switched on; brief, plan: it. Returns them."""
    return tuple(used(number) for number in own.numbers if APPLIES[number.kind](number, own, brief, plan))


def _same_camera(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return number.of["camera"] == plan.camera.id


def _same_light(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return number.of["camera"] == plan.camera.id and number.of["light"] == plan.light_kind


def _same_level(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return number.of["camera"] == plan.camera.id and number.of["level"] == plan.settings.stabilisation


def _same_hands(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return own.shake(brief.camera_move.hands, brief.camera_move.mount) == number


def _same_judge(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return own.noise(brief.camera_move.hands) == number


def _filter_in_front(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    worn = {piece_of(piece) for piece in (*plan.settings.nd, plan.settings.colour_filter or "")}
    return number.of["filter"] in worn


def _card_at_hand(number: OwnNumber, own: Own, brief: Brief, plan: Plan) -> bool:
    return brief.kit.media is None or number.of["medium"] in brief.kit.media


APPLIES: Mapping[str, Applies] = {
    "noise": _same_judge,
    "metering": _same_light,
    "shake": _same_hands,
    "leak": _same_level,
    "keeps": _same_level,
    "readout": _same_camera,
    "glass": _filter_in_front,
    "glass_red": _filter_in_front,
    "glass_blue": _filter_in_front,
    "capacity": _same_camera,
    "draw": _same_camera,
    "heat": _same_camera,
    "card": _card_at_hand,
}
"""When a number of each kind bears on a plan; a kind that is not here enters no plan."""
