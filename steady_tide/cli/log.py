"""Commands of the Log: what takes teach, and test ladders."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any
from zoneinfo import ZoneInfo

import typer

from steady_tide import library
from steady_tide.cli.shell import AsJson, SheetFiles, app, kit_of, read_json, read_log, say
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.gear.kit import Kit
from steady_tide.core.log.filmed_ladder import FilmedLadder, filmed_ladder
from steady_tide.core.log.judging import contradictions
from steady_tide.core.log.ladder import DIALS, Ladder, LadderBasis, ladder_of, not_held, offered, visible
from steady_tide.core.log.log_file import LogFile, TakeEntry
from steady_tide.core.log.recurring import Recurring, recurring
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.log.take_verdicts import seen_takes
from steady_tide.core.own.applying import names_of
from steady_tide.core.own.own_kind import Evidence
from steady_tide.core.own.readings import Found, find_all
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.moments import known_zone
from steady_tide.formats.log_json import read_log_json
from steady_tide.formats.takes_csv import ReadTake, RowDoubt, read_takes_csv
from steady_tide.words.log import (
    amount_words,
    contradiction_words,
    ladder_word,
    not_held_words,
    recurring_line,
    recurring_more,
    rung_label,
    step_words,
)
from steady_tide.words.own import how_many, own_span, own_title, own_value
from steady_tide.words.quantities import capital


@app.command()
def log(
    file: Annotated[Path, typer.Argument(help="A log as JSON, or takes as CSV.")],
    sheet: SheetFiles = None,
    zone: Annotated[str, typer.Option(help="For times of a CSV that name none.")] = "UTC",
    as_json: AsJson = False,
) -> None:
    """Tell what takes teach: what recurs, one's own numbers with their spans, and what does not go together."""
    data = read_log(file)
    kit, knowledge = kit_of(sheet), library.knowledge()
    doubts: tuple[RowDoubt, ...] = ()
    filmed: list[FilmedLadder] = []
    notes: list[Any] = []
    if data.lstrip()[:1] == b"{":
        read = read_log_json(data, str(file))
        takes = seen_takes([_seen(entry) for entry in read.takes], knowledge.limits)
        filmed = _ladders(read, takes)
        notes = [entry.note for entry in read.notes]
    else:
        known_zone(zone)
        listed = read_takes_csv(data, ZoneInfo(zone), str(file))
        takes, doubts = [_listed(take) for take in listed.takes], listed.doubts
    judged = [one for ladder in filmed for one in ladder.judged]
    found = find_all(Evidence(takes, judged, notes, (), kit, knowledge))
    recurs = recurring(takes, knowledge.limits)
    names = {mount.id: mount.name for mount in knowledge.mounts.values()} | kit.names
    titles = {ladder.key: ladder.title for ladder in filmed}
    against = [contradiction_words(one, titles) for one in contradictions(judged, knowledge.limits)]
    if as_json:
        _say_json(takes, doubts, recurs, found, against)
        return
    lines = [f"{len(takes)} {'take' if len(takes) == 1 else 'takes'}"]
    lines += [f"row {one.row}, {one.column}: {one.what}. {one.mend}" for one in doubts]
    lines += [f"{capital(recurring_line(one, names))} ({recurring_more(one)})" for one in recurs]
    lines += [_own_line(one, kit) for one in found]
    say("\n".join([*lines, *against]))


def _seen(entry: TakeEntry) -> TakeSeen:
    plan = entry.planned
    return TakeSeen(
        key=str(entry.id),
        at=entry.said.at,
        said=entry.said,
        shot=f"{entry.shoot}/{entry.shot}",
        scenario=None if plan is None else plan.scenario,
        place=None,
        light=None if plan is None else plan.light_kind,
        measures=entry.measures,
        plan=plan,
        ladder=None if entry.ladder is None else str(entry.ladder),
        rung=entry.rung,
    )


def _listed(take: ReadTake) -> TakeSeen:
    return TakeSeen(key=str(take.id), at=take.said.at, said=take.said, shot=f"{take.shoot}/{take.shot}")


def _ladders(read: LogFile, takes: list[TakeSeen]) -> list[FilmedLadder]:
    return [
        filmed_ladder(str(one.id), one.title, one.ladder, [said.answer for said in one.answers], takes)
        for one in read.ladders
    ]


def _own_line(one: Found, kit: Kit) -> str:
    title = capital(own_title(one.kind.id, names_of(one.of, kit, library.knowledge())))
    count = how_many(one.kind.id, one.count)
    if one.number is None:
        return f"{title}: too few to tell ({count})"
    number = one.number
    typical = "" if one.usual is None else f"; typical {own_value(number.kind, one.usual)}"
    span = own_span(number.kind, number.low, number.high)
    return f"{title}: {own_value(number.kind, number.value)} from {count}, nine times in ten {span}{typical}"


def _say_json(
    takes: list[TakeSeen], doubts: tuple[RowDoubt, ...], recurs: tuple[Recurring, ...], found: tuple[Found, ...],
    against: list[str],
) -> None:  # fmt: skip
    own = [
        {
            "kind": one.kind.id,
            "of": one.of,
            "count": one.count,
            "usual": one.usual,
            "number": None
            if one.number is None
            else one.number.model_dump(mode="json", include={"value", "low", "high", "spread"}),
        }
        for one in found
    ]
    said = {
        "takes": len(takes),
        "doubts": [one.model_dump(mode="json") for one in doubts],
        "recurring": [one.model_dump(mode="json") for one in recurs],
        "own": own,
        "contradictions": against,
    }
    say(json.dumps(said, indent=2, ensure_ascii=False))


@app.command()
def ladder(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    dial: Annotated[
        str | None, typer.Option(help="The dial that varies; left out: all that are worth it are told.")
    ] = None,
    values: Annotated[
        str | None, typer.Option(help="Two to six values with commas between, as the plan has them.")
    ] = None,
    passes: Annotated[int, typer.Option(min=1, max=4, help="How often each is filmed: 1, 2 or 4.")] = 2,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """Plan a test ladder: one dial varies, all else stays; what cannot be held, in which order it is filmed, how long it takes."""
    what = read_brief(read_json(brief))
    basis = _basis(what, kit_of(sheet))
    if dial is not None and values is not None:
        legal = [entry.value for entry in basis.plan.profiles.get(dial, ()) if entry.legal and entry.value is not None]
        made = [ladder_of(basis, dial, _values(values, legal), passes)]
    elif dial is not None and dial not in DIALS:
        made = [ladder_of(basis, dial, ())]  # says which there are
    else:
        made = list(offered(basis, DIALS if dial is None else (dial,), passes))
        if dial is not None and not made:
            raise BadInput(Fault("--dial", f"no values of {dial} are worth a ladder here", "Name some with --values."))
    if as_json:
        say(json.dumps({"ladders": [one.model_dump(mode="json") for one in made]}, indent=2, ensure_ascii=False))
        return
    say("\n\n".join("\n".join(_ladder_lines(one, basis.plan.camera.name, whole=dial is not None)) for one in made))


def _basis(what: Brief, kit: Kit) -> LadderBasis:
    knowledge = library.knowledge()
    plan = plan_shot(what, kit, knowledge, schools=False)
    sheet = kit.camera(plan.camera.id)
    assert sheet is not None

    def planner(other: Brief) -> Plan:
        return plan_shot(other, kit, knowledge, schools=False, only=plan.camera.id)

    return LadderBasis(what, plan, sheet, knowledge, planner)


def _values(text: str, legal: list[Any]) -> list[Any]:
    """Values that were typed, as the plan has them. Raises BadInput where one is none of these."""
    known = {str(value).removesuffix(".0"): value for value in legal}
    found = []
    for part in (part.strip() for part in text.split(",")):
        if part not in known:
            raise BadInput(
                Fault("--values", f"'{part}' is not to be had", f"Use some of {', '.join(known) or 'none'}.")
            )
        found.append(known[part])
    return found


def _ladder_lines(one: Ladder, camera: str, whole: bool) -> list[str]:
    head = f"{capital(ladder_word(one.dial))} on the {camera}, {one.minutes:.0f} min"
    lines = [head]
    for place, rung in enumerate(one.rungs):
        amount = None if one.quantity is None else rung.amount(one.quantity)
        lines.append(f"  {rung_label(one, place):<16} {amount_words(one.quantity, amount, measured=True)}".rstrip())
    limits = library.knowledge().limits
    lines += [f"  {not_held_words(moved, {})}" for moved in not_held(one, limits)]
    if not visible(one, limits):
        lines.append("  Neighbours can hardly be told apart.")
    if whole:
        lines += [f"  {number}. {step}" for number, step in enumerate(step_words(one), start=1)]
    return lines
