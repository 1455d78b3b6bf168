"""How long going outside takes: budgets, presets, cards on paper, the order of the day.

Usage: .venv/bin/python bench/outside.py
Milliseconds (least, median and most) beside a baseline of the same run: planning the demo day's shots once. For the
order of days of 10, 20 and 40 shots: seconds, what is given up, and the proof or the gap.
"""

from __future__ import annotations

import random
import time
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from zoneinfo import ZoneInfo

import yaml
from timing import times_ms

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.day_task import DayPrices, DayTask, ShotTask, Span
from steady_tide.core.outing.order import order_of
from steady_tide.core.outing.planned import Outing, outing_of
from steady_tide.core.outing.presets import Task, fewest_taps, presets_of_day
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.shoot.shoot_file import read_shoot
from steady_tide.formats.card_html import write_cards
from steady_tide.formats.card_pdf import write_card_pdf
from steady_tide.words.days import whole_day
from steady_tide.words.orders import clash_words

DEMO = Path(__file__).parents[1] / "steady_tide" / "demo" / "harrow_fleet.yaml"
KNOWN, KIT = library.knowledge(), library.demo_kit()


def say(name: str, ms: tuple[float, float, float], budget_ms: float | None = None) -> None:
    """Print one line."""
    budget = "" if budget_ms is None else f"   budget {budget_ms:g}"
    print(f"{name:<44} {ms[0]:8.1f} {ms[1]:8.1f} {ms[2]:8.1f}{budget}")


def random_day(count: int, seed: int = 0) -> DayTask:
    """A full day with six cameras, four spots, windows and prices of the light; half of its windows are musts."""
    draw = random.Random(1000 * count + seed)
    pace = 960 / count
    shots = []
    for n in range(count):
        wished = min(1000, max(10, round(30 + n * pace + draw.gauss(0, 1.2 * pace))))
        start = max(0, wished - round(pace * 2))
        shots.append(
            ShotTask(
                key=str(n),
                title=f"shot {n}",
                camera=f"camera {draw.randrange(6)}",
                length_min=max(3, round(pace * draw.choice([0.2, 0.3, 0.4]))),
                setup_min=round(pace * 0.1),
                spot=["", "quay", "mill", "flats"][int(4 * n / count)],
                glass=draw.choice(["", "nd8", "nd32"]),
                housing=draw.choice(["", "", "", "case"]),
                wished_min=wished,
                windows=(Span(start, min(1080, start + round(pace * 6))),) if draw.random() < 0.3 else (),
                must=draw.random() < 0.5,
                light_stops=tuple((60 * hour, draw.random()) for hour in range(18)) if draw.random() < 0.3 else (),
            )
        )
    ways = {("quay", "mill"): 8, ("quay", "flats"): 15, ("mill", "flats"): 20}
    begin = datetime(2026, 10, 11, 4, tzinfo=UTC)
    return DayTask(
        begin,
        1080,
        tuple(shots),
        DayPrices.from_limits(KNOWN.limits),
        ways,
        usual_way_min=8,
        camera_change_min=2,
        glass_change_min=2,
        housing_min=6,
    )


def random_settings(count: int) -> Task:
    """Settings of one camera that all differ in a few of twelve dials; harder than real days."""
    draw = random.Random(count)
    kinds = [[draw.randrange(most) for most in (3, 3, 3, 2, 3, 3, 2, 3, 2, 2, 2, 2)] for _ in range(max(4, count // 2))]
    wanted = []
    for _ in range(count):
        settings = list(draw.choice(kinds))
        for _ in range(2):
            settings[draw.randrange(12)] = draw.randrange(3)
        wanted.append(tuple(settings))
    return Task(tuple(wanted), (4, 4, 4, 4, 4, 5, 5, 5, 6, 6, 6, 6), 2, 2, 5, 4)


def main() -> None:
    """Measure and print."""
    data = yaml.safe_load(DEMO.read_text())
    fields = data["shoots"][0]
    shots = [{**entry, "brief": {**entry["brief"], "mains_hz": fields["mains_hz"]}} for entry in fields["shots"]]
    shoot = read_shoot({"format": "steady-tide/shoot", "version": 1, "crew": data["crew"], **fields, "shots": shots})
    crew = shoot.crew.school if shoot.crew else School()

    def planner(brief: Brief, kit: Kit, school: School) -> Plan:
        return plan(brief, kit, KNOWN, crew=school, schools=False)

    print(f"{'milliseconds':<44} {'least':>8} {'median':>8} {'most':>8}")
    outing = outing_of(shoot, KIT, planner)
    say(f"baseline: plan {len(outing.shots)} shots, all cameras", times_ms(lambda: outing_of(shoot, KIT, planner), 3))
    forty = Outing(tuple(replace(outing.shots[n % len(outing.shots)], key=str(n)) for n in range(40)))
    say("budget, 40 shots", times_ms(lambda: budget_of(forty, KIT, KNOWN), 15), 50)
    presets = presets_of_day(outing)
    say("presets, the demo day's three cameras", times_ms(lambda: presets_of_day(outing), 3))
    for count in (10, 20, 40):
        task = random_settings(count)
        say(f"presets, {count} shots that all differ", times_ms(lambda: fewest_taps(task), 1))  # noqa: B023
    where = DayPlace(shoot.title, shoot.place, shoot.day, ZoneInfo(shoot.zone), shoot.latitude, shoot.longitude)
    cards = whole_day(outing, where, KIT, KNOWN, crew, presets)
    one = cards.model_copy(update={"cards": cards.cards[4:5], "packing": ()})
    say("one card as PDF", times_ms(lambda: write_card_pdf(one), 7), 1000)
    say(f"{len(cards.cards)} cards and a cover as PDF", times_ms(lambda: write_card_pdf(cards), 3))
    say(f"{len(cards.cards)} cards as HTML", times_ms(lambda: write_cards(cards, "k"), 5))
    print()
    print(f"{'order of the day':<24} {'s':>6} {'given up':>9} {'at least':>9}  proof or gap, stops")
    for count in (10, 20, 40):
        found = order_of(random_day(count), time.monotonic, 10.0)
        if not found.feasible:
            print(
                f"{count:>3} shots, 6 cameras     {found.seconds:6.1f}  no order: {'; '.join(map(clash_words, found.clash)) or 'none found'}"
            )
            continue
        given, least = found.given_up_stops or 0.0, found.at_least_stops or 0.0
        proof = "proven" if found.proven else f"gap {given - least:.2f}"
        print(f"{count:>3} shots, 6 cameras     {found.seconds:6.1f} {given:9.2f} {least:9.2f}  {proof}")


if __name__ == "__main__":
    main()
