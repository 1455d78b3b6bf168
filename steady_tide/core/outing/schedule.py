"""From a planned day to one that can be ordered: windows of the light, prices by the hour, moved shots."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta, tzinfo
from math import ceil

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.start_time import moved_brief
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.day import DayOfLight, WindowKind
from steady_tide.core.light.sources import has_sky
from steady_tide.core.outing.budget import ShootBudget, budget_of
from steady_tide.core.outing.day import DayPlace, light_of
from steady_tide.core.outing.day_task import DayPrices, DayTask, ShotTask, Span
from steady_tide.core.outing.light_hours import LightHours, by_the_hour, hours_of
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import BadFile, Fault, NoLegalPlan
from steady_tide.core.shoot.shoot_file import DayRules

# What a shot may ask of the light of the day, by name.
LIGHT_WINDOWS = ("daylight", "low_sun", "not_harsh", "twilight", "dark", "moonlight")
ANY_TIME = "any_time"  # asked for instead of a window: whatever the brief says of its light
TOUCHING_S = 1.0  # between two spans that are one
EARLIEST_H, DAY_H = 4, 28  # where nobody says otherwise: from four in the morning until eight the next
MOST_PRICED = 80  # plans made to learn how the light of the day changes them
IMPOSSIBLE_STOPS = 20.0


Spans = list[tuple[datetime, datetime]]
TWILIGHTS: tuple[WindowKind, ...] = ("civil", "nautical", "astronomical", "night")


def light_spans(day: DayOfLight) -> dict[str, Spans]:
    """When the day offers each of `LIGHT_WINDOWS`. day: its light. Returns spans by name, UTC."""
    whole = (day.start, day.moment(len(day.seconds) - 1))

    def spans_of(*kinds: WindowKind) -> Spans:
        return _joined([(window.start, window.end) for window in day.windows if window.kind in kinds])

    daylight, dark = _without(spans_of(*TWILIGHTS), whole), spans_of("astronomical", "night")
    return {
        "daylight": daylight,
        "low_sun": spans_of("low_sun"),
        "not_harsh": _both(daylight, _without(spans_of("harsh"), whole)),
        "twilight": spans_of("civil"),
        "dark": dark,
        "moonlight": _both(spans_of("moon"), dark),
    }


def _joined(spans: Spans) -> Spans:
    """Spans that touch made one, in order."""
    found: Spans = []
    for start, end in sorted(spans):
        if found and (start - found[-1][1]).total_seconds() <= TOUCHING_S:
            found[-1] = (found[-1][0], max(end, found[-1][1]))
        else:
            found.append((start, end))
    return found


def _without(spans: Spans, whole: tuple[datetime, datetime]) -> Spans:
    """What of the whole lies in none of the spans."""
    edges = [whole[0], *(edge for span in spans for edge in span), whole[1]]
    return [(a, b) for a, b in zip(edges[::2], edges[1::2], strict=True) if (b - a).total_seconds() > TOUCHING_S]


def _both(some: Spans, others: Spans) -> Spans:
    """Where spans of one list and of the other overlap."""
    overlaps = [(max(a, c), min(b, d)) for a, b in some for c, d in others]
    return sorted((a, b) for a, b in overlaps if b > a)


def day_ends(rules: DayRules, midnight: datetime) -> tuple[datetime, datetime]:
    """When a day may begin and must be over. rules: of the shoot; midnight: local, as the day begins."""
    begin = rules.earliest or midnight + timedelta(hours=EARLIEST_H)
    return begin, rules.latest or max(begin, midnight + timedelta(hours=EARLIEST_H)) + timedelta(hours=DAY_H)


def task_of(
    outing: Outing,
    rules: DayRules,
    begin: datetime,
    end: datetime,
    zone: tzinfo,
    judged: DayPrices,
    spans: dict[str, list[tuple[datetime, datetime]]],
    budget: ShootBudget | None = None,
    prices: dict[str, tuple[tuple[datetime, float], ...]] | None = None,
    hours: Mapping[str, LightHours] | None = None,
) -> DayTask:
    """Put a day in the form in which it is ordered.

    outing: planned shots; rules: of the day; begin, end: aware; zone: of the place; judged: what an order gives up for
    what; spans: when the
    light offers its windows; budget: says where cells are changed; prices: what each shot gives up from a time
    on; hours: when the day has the light that a shot's brief says. Returns the task. Raises BadFile where a shot asks for a window that nobody typed.
    """
    changes = {row.key: row.cell_changes for camera in budget.cameras for row in camera.shots} if budget else {}
    typed = {window.name: [(window.start, window.end)] for window in rules.windows}
    known = {**spans, **typed}

    def minute(moment: datetime) -> int:
        return round((moment - begin).total_seconds() / 60.0)

    def windows(shot: PlannedShot) -> tuple[Span, ...]:
        found = []
        for name in shot.wishes.within:
            if name == ANY_TIME:
                return ()
            if name not in known:
                raise BadFile(
                    Fault(
                        f"\u201c{shot.brief.title}\u201d: within",
                        f"there is no window called '{name}'",
                        f"Type it into the day, or use one of {', '.join([*typed, *LIGHT_WINDOWS])}.",
                    )
                )
            found += [Span(minute(a), minute(b), name, name in typed) for a, b in known[name]]
            if not known[name]:
                found.append(Span(-1, -1, name, name in typed))
        return tuple(found)

    def lit(shot: PlannedShot) -> LightHours | None:
        """What its brief says counts unless another light of the day is asked for."""
        asked = {*LIGHT_WINDOWS, ANY_TIME} - set(typed)
        return None if asked & set(shot.wishes.within) else (hours or {}).get(shot.key)

    def hours_of(shot: PlannedShot) -> tuple[Span, ...] | None:
        there = lit(shot)
        return None if there is None else tuple(Span(minute(a), minute(b)) for a, b in there.spans)

    return DayTask(
        begin=begin.astimezone(zone),
        length_min=max(1, minute(end)),
        shots=tuple(
            ShotTask(
                key=shot.key,
                title=shot.brief.title,
                camera=shot.sheet.id,
                length_min=max(1, ceil(shot.lasts_s / 60.0)),
                setup_min=ceil(shot.wishes.setup_min + rules.battery_min * changes.get(shot.key, 0)),
                attended=shot.wishes.attended,
                spot=shot.wishes.spot,
                glass="+".join([*shot.plan.settings.nd, shot.plan.settings.colour_filter or ""]),
                housing=shot.plan.settings.housing or "",
                wished_min=None if shot.starts_at is None else minute(shot.starts_at),
                fixed=shot.wishes.fixed and shot.starts_at is not None,
                windows=windows(shot),
                must=shot.wishes.must,
                wish_stops=shot.wishes.wish_stops,
                light_stops=tuple((minute(at), stops) for at, stops in (prices or {}).get(shot.key, ())),
                light_name=there.phrase if (there := lit(shot)) is not None else "",
                hours=hours_of(shot),
            )
            for shot in outing.shots
        ),
        prices=judged,
        ways={way.between: ceil(way.minutes) for way in rules.ways},
        usual_way_min=ceil(rules.usual_way_min),
        camera_change_min=ceil(rules.camera_change_min),
        glass_change_min=ceil(rules.glass_change_min),
        housing_min=ceil(rules.housing_min),
    )


def day_asked(
    outing: Outing,
    where: DayPlace,
    rules: DayRules,
    ends: tuple[datetime, datetime],
    kit: Kit,
    knowledge: Knowledge,
    replan: Callable[[Brief, str], Plan],
    report: Callable[[int, int], bool] = lambda done, total: True,
) -> DayTask:
    """Put a day with all that its shots ask, its light and its prices in the form in which it is ordered.

    outing: planned shots; where: place and zone; rules: of the day; ends: when it may begin and must be over; kit,
    knowledge: as for planning; replan, report: as for `light_prices`. Returns the task. Raises BadFile as `task_of`.
    """
    light = light_of(where, knowledge, ends)
    clear = light_of(replace(where, cloud="clear"), knowledge, ends)
    hours = {} if clear is None else {shot.key: hours_of(shot.brief, clear, knowledge) for shot in outing.shots}
    task = task_of(
        outing,
        rules,
        *ends,
        where.zone,
        DayPrices.from_limits(knowledge.limits),
        light_spans(light) if light is not None else {},
        budget_of(outing, kit, knowledge),
        light_prices(outing, *ends, replan, report),
        {key: there for key, there in hours.items() if there is not None},
    )
    unseen = () if clear else tuple(s.brief.title for s in outing.shots if by_the_hour(s.brief, knowledge))
    return replace(task, unseen=unseen)


def light_prices(
    outing: Outing,
    begin: datetime,
    end: datetime,
    replan: Callable[[Brief, str], Plan],
    report: Callable[[int, int], bool] = lambda done, total: True,
) -> dict[str, tuple[tuple[datetime, float], ...]]:
    """What shots that the sky lights would give up if they began at other hours.

    outing: planned shots; begin, end: of the day; replan: on one camera; report: hears how many plans are made
    and says whether to go on. Returns by shot the times from which a price holds, against its best hour.
    """
    lit = [shot for shot in outing.shots if has_sky(shot.brief.light) and shot.starts_at and not shot.wishes.fixed]
    if not lit:
        return {}
    hours = (end - begin).total_seconds() / 3600.0
    step = max(1.0, hours * len(lit) / MOST_PRICED)
    times = [begin + timedelta(hours=step * n) for n in range(ceil(hours / step))]
    done, total = 0, len(times) * len(lit)
    prices: dict[str, tuple[tuple[datetime, float], ...]] = {}
    for shot in lit:
        assert shot.starts_at is not None
        found: list[tuple[datetime, float]] = []
        for at in times:
            done += 1
            if not report(done, total):
                return prices
            found.append((at, _price(shot, at + timedelta(hours=step / 2) - shot.starts_at, replan)))
        best = min(stops for _, stops in found)
        prices[shot.key] = tuple((at, stops - best) for at, stops in found)
    return prices


def _price(shot: PlannedShot, by: timedelta, replan: Callable[[Brief, str], Plan]) -> float:
    try:
        return min(IMPOSSIBLE_STOPS, replan(moved_brief(shot.brief, by), shot.sheet.id).given_up_stops)
    except NoLegalPlan:
        return IMPOSSIBLE_STOPS
