"""Arithmetic against the clock: half-turn, density, slow motion, minutes on a card, distance of a lamp, depth of red."""

from __future__ import annotations

from collections.abc import Callable
from math import log2, sqrt
from random import Random
from typing import Any

from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.brief.scenario_traits import OF_SCENARIO
from steady_tide.core.brief.traits import Traits
from steady_tide.core.light.water import red_gone_m
from steady_tide.core.practice.faults import SUMS_OF
from steady_tide.core.practice.question import PracticeKind, Question, World
from steady_tide.core.quantities.stops import half_turn_s, nd_asked

RATES = (24, 25, 30, 50, 60, 100, 120, 200, 240)
TIMELINES = (24, 25, 30)
CARDS_GB = (32, 64, 128, 256, 512)
STREAMS_MB_S = (45, 60, 100, 120, 150, 200)
LAMPS_LUX = (1000, 1600, 2500, 4000, 6400)
SUBJECTS_LUX = (60, 125, 250, 500)
F_NUMBERS = (1.8, 2.0, 2.8, 4.0)
RED_LEFT = 0.1
MOST_TIMES = 1024.0  # farther off than ten stops is off, and no more is told


def _half_turn(world: World, chance: Random) -> dict[str, Any]:
    rate = chance.choice(RATES)
    return {"rate": rate, "answer": float(half_turn_s(rate))}


def _density(world: World, chance: Random) -> dict[str, Any]:
    while True:
        facts = {"ev100": chance.randint(9, 16), "f_number": chance.choice(F_NUMBERS), "rate": chance.choice(TIMELINES)}
        wanted = float(nd_asked(facts["ev100"], facts["f_number"], half_turn_s(facts["rate"])))
        if 1.0 <= wanted <= 10.0:
            return {**facts, "answer": wanted}


def _slow(world: World, chance: Random) -> dict[str, Any]:
    timeline = chance.choice(TIMELINES)
    rate = chance.choice([rate for rate in RATES if rate >= 2 * timeline])
    return {"rate": rate, "timeline": timeline, "answer": rate / timeline}


def _minutes(world: World, chance: Random) -> dict[str, Any]:
    card, stream = chance.choice(CARDS_GB), chance.choice(STREAMS_MB_S)
    return {"card_gb": card, "stream_mb_s": stream, "answer": card * 8000.0 / stream / 60.0}


def _lamp(world: World, chance: Random) -> dict[str, Any]:
    lamp, wanted = chance.choice(LAMPS_LUX), chance.choice(SUBJECTS_LUX)
    return {"lux_at_1m": lamp, "lux": wanted, "answer": sqrt(lamp / wanted)}


def _red(world: World, chance: Random) -> dict[str, Any]:
    waters = world.knowledge.waters
    water = waters.types[chance.choice(sorted(waters.types))]
    return {"water": water.name, "water_type": water.id, "answer": red_gone_m(waters, water, RED_LEFT)}


def _any(traits: Traits) -> bool:
    return True


# What is asked, its unit, how many stops of light a doubling of the answer is, and in which kinds of shot one needs it.
ASKED: dict[str, tuple[Callable[[World, Random], dict[str, Any]], str, float, Callable[[Traits], bool]]] = {
    "half_turn": (_half_turn, "s", 1.0, _any),
    "density": (_density, "stops", 0.0, lambda traits: not traits.under_water),  # is stops itself
    "slow": (_slow, "times", 1.0, lambda traits: traits.fast or traits.on_table),
    "minutes": (_minutes, "min", 1.0, _any),
    "lamp": (_lamp, "m", 2.0, lambda traits: traits.brings_light),
    "red": (_red, "m", 1.0, lambda traits: traits.under_water),
}


def _topics(world: World) -> tuple[str, ...]:
    if world.school is not None:
        return ()
    if world.past is not None:
        own = {sums for fault in world.own_faults for sums in SUMS_OF.get(fault, ())}
        return tuple(topic for topic in ASKED if topic in own)
    if not world.scenario:
        return tuple(ASKED)
    traits = OF_SCENARIO[world.scenario]
    return tuple(topic for topic, (*_, needed) in ASKED.items() if needed(traits))


def _ask(world: World, topic: str, chance: Random) -> dict[str, Any]:
    made, unit, *_ = ASKED[topic]
    facts = made(world, chance)
    return {"code": topic, "facts": facts, "form": "number", "unit": unit, "brief": _brief(topic, facts)}


def _brief(topic: str, facts: dict[str, Any]) -> Brief:
    """A shot in which the Bench does the same sum."""
    light: dict[str, Any] = {"kind": "place", "place": "full_sun"}
    more: dict[str, Any] = {}
    if topic == "half_turn":
        more = {"pins": {"frame_rate": float(facts["rate"])}}
    elif topic == "density":
        light = {"kind": "meter", "ev100": (facts["ev100"], facts["ev100"])}
        more = {"delivery": {"fps": facts["rate"]}}
    elif topic == "slow":
        more = {"delivery": {"fps": facts["timeline"], "slow_factor": facts["answer"]}}
    elif topic == "minutes":
        more = {"take": {"length_s": 60.0 * facts["answer"], "count": 1}}
    elif topic == "lamp":
        light = {"kind": "lamps", "lamps": ({"lux_at_1m": facts["lux_at_1m"], "distance_m": facts["answer"]},)}
        more = {"scenario": "product", "camera_move": {"mount": "tripod"}}
    else:
        surface = {"kind": "place", "place": "full_sun"}
        light = {
            "kind": "water",
            "surface": surface,
            "depth_m": (0.0, facts["answer"]),
            "water_type": facts["water_type"],
        }
        more = {"scenario": "underwater", "camera_move": {"mount": "tray"}}
    return read_brief({"light": light, **more})


def _judge(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    true, each = question.facts["answer"], ASKED[question.code][2]
    if each == 0.0:
        price = abs(given - true)
    else:
        price = each * abs(log2(min(MOST_TIMES, max(1.0 / MOST_TIMES, given / true))))
    return price, true, question.code, question.facts


ARITHMETIC = PracticeKind("arithmetic", _topics, lambda world, topic: topic in ASKED, _ask, _judge)
