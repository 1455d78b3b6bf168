"""Commands that plan a shot: plan, cameras, check-sheet."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Any

import typer

from steady_tide import library
from steady_tide.cli.shell import BAD_INPUT, AsJson, SheetFiles, app, kit_of, own_of, read_json, say
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.own.applying import with_own_numbers
from steady_tide.core.planning.estimates import check_estimates
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities.errors import BadBrief, BadInput, Fault
from steady_tide.formats.card_html import write_card
from steady_tide.formats.kit_file import load_sheet
from steady_tide.words.cards import card_of
from steady_tide.words.dial_values import dial_word, word_and_value
from steady_tide.words.estimates import estimate_check_text
from steady_tide.words.plans import CameraText, PlanText, plan_text
from steady_tide.words.quantities import stops


@app.command()
def plan(
    brief: Annotated[Path, typer.Argument(help="A brief as JSON.")],
    sheet: SheetFiles = None,
    as_json: AsJson = False,
    explain: Annotated[
        str | None, typer.Option(help="Print one dial only: its reason and what each of its values would cost.")
    ] = None,
    card: Annotated[
        Path | None, typer.Option(help="Write the field card to this file, as self-contained HTML.")
    ] = None,
    own: Annotated[
        Path | None, typer.Option(help="A log as JSON: plan with the own numbers that are switched on in it.")
    ] = None,
) -> None:
    """Plan a shot: read a brief, print the setting sheet."""
    what = read_brief(read_json(brief))
    kit, knowledge = kit_of(sheet), library.knowledge()
    if own is not None:
        kit, knowledge = with_own_numbers(kit, knowledge, own_of(own))
    made = plan_shot(what, kit, knowledge)
    answer = plan_text(made)
    if card is not None:
        chosen = next(camera for camera in kit.cameras if camera.id == made.camera.id)
        card.write_text(write_card(card_of(what, made, chosen, knowledge), key=what.title), encoding="utf-8")
    if explain is not None:
        _explain(answer, explain, as_json)
    else:
        say(
            answer.model_dump_json(indent=2)
            if as_json
            else "\n".join(
                [*_lines(what.title, answer), *(f"  {used.says}." for used in answer.own), *_estimated(what, kit, made)]
            )
        )


@app.command()
def cameras(
    brief: Annotated[Path | None, typer.Argument(help="A brief as JSON: ranks the cameras for it.")] = None,
    sheet: SheetFiles = None,
    as_json: AsJson = False,
) -> None:
    """List the cameras of the kit; with a brief, rank them for that shot and say why."""
    kit = kit_of(sheet)
    if brief is None:
        listed = [_about(camera) for camera in kit.cameras]
        if as_json:
            say(json.dumps({"items": listed, "total": len(listed)}, indent=2, ensure_ascii=False))
        else:
            say("\n".join(f"{c['id']:<14} {c['name']:<14} {c['kind']:<8} {c['note']}" for c in listed))
        return
    answer = plan_text(plan_shot(read_brief(read_json(brief)), kit, library.knowledge(), schools=False))
    if as_json:
        ranked = [camera.model_dump(mode="json") for camera in answer.cameras]
        say(json.dumps({"items": ranked, "total": len(ranked)}, indent=2, ensure_ascii=False))
    else:
        say("\n".join(_ranked_line(camera) for camera in answer.cameras))


@app.command("check-sheet")
def check_sheet(
    files: Annotated[list[Path], typer.Argument(help="Camera sheets as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Check camera sheets: form, sense and limits. Names every fault with its path."""
    faults: list[Fault] = []
    about = []
    for file in files:
        try:
            about.append(_about(load_sheet(file)))
        except BadInput as error:
            faults.extend(error.faults)
    if as_json:
        said = [{"where": fault.where, "what": fault.what, "mend": fault.mend} for fault in faults]
        say(json.dumps({"sheets": about, "faults": said}, indent=2, ensure_ascii=False))
    else:
        say("\n".join(f"{c['name']} ({c['id']}): good. {c['modes']} modes, {c['lenses']} lenses." for c in about))
        for fault in faults:
            typer.echo(f"camera sheet: {fault}", err=True)
    if faults:
        raise SystemExit(BAD_INPUT)


def _about(camera: CameraSheet) -> dict[str, Any]:
    return {
        "id": camera.id,
        "name": camera.name,
        "kind": camera.kind,
        "modes": camera.mode_count,
        "lenses": len(camera.lenses),
        "proof_depth_m": camera.proof_depth_m,
        "note": camera.note,
    }


def _ranked_line(camera: CameraText) -> str:
    price = "  no" if camera.given_up_stops is None else f"{camera.given_up_stops:4.1f}"
    return f"{price}  {camera.name:<14} {camera.why}"


def _explain(answer: PlanText, dial: str, as_json: bool) -> None:
    if dial not in answer.profiles:
        raise BadBrief(Fault("--explain", f"there is no dial '{dial}'", f"Use one of {', '.join(answer.profiles)}."))
    values = answer.profiles[dial]
    if as_json:
        said = {
            "dial": dial,
            "value": answer.values[dial],
            "reason": answer.reasons[dial],
            "profile": [asdict(value) for value in values],
        }
        say(json.dumps(said, indent=2, ensure_ascii=False))
        return
    lines = [f"{dial_word(dial)}: {answer.values[dial]}", answer.reasons[dial], ""]
    for value in values:
        mark = ">" if value.value == answer.chosen[dial] else " "
        price = "   -" if value.given_up_stops is None else f"{value.given_up_stops:4.1f}"
        lines.append(f"{mark} {price}  {value.label:<18} {value.why_not or ''}".rstrip())
    say("\n".join(lines))


def _estimated(what: Brief, kit: Kit, made: Plan) -> list[str]:
    """What of the plan rests on estimates of the camera's sheet."""
    if not any(camera.estimates for camera in kit.cameras if camera.id == made.camera.id):
        return []
    check = estimate_check_text(check_estimates(what, kit, library.knowledge(), made))
    lines = []
    for matter in check.matters:
        if not matter.decides:
            continue
        ends = [stops(end) if end is not None else "no plan" for end in (matter.worst_stops, matter.best_stops)]
        dials = "; ".join(f"{dial_word(dial.dial)} {dial.at_worst} to {dial.at_best}" for dial in matter.dials)
        lines.append(
            f"  rests on an estimate of {matter.title}: {ends[0]} to {ends[1]} stops{'; ' + dials if dials else ''}. {matter.mend}"
        )
    return lines


def _lines(title: str, answer: PlanText) -> list[str]:
    low, high = answer.exposure.ev100
    lines = [
        f"{title}: {answer.camera.name}",
        f"{answer.light_source}, EV {stops(low)} to {stops(high)}",
        "",
    ]
    lines += [
        f"{dial_word(name):<22} {value:<20} {answer.reasons[name]}"
        for name, value in answer.values.items()
        if name not in answer.settled
    ]
    lines += ["", f"{stops(answer.given_up_stops)} stops given up"]
    lines += [
        f"  {stops(item.given_up_stops):>4}  {item.title}: {item.why}"
        for item in answer.ledger
        if item.given_up_stops >= 0.05
    ]
    severities = {"stop": "STOP", "warn": "watch for", "note": "note"}
    lines += [f"  {severities[warning.severity]}: {warning.text}" for warning in answer.warnings]
    lines += [f"  safety: {caution.text}" for caution in answer.cautions]
    lines += [
        f"  others would {rival.name}: {stops(rival.given_up_stops)} stops; {', '.join(word_and_value(dial_word(d), v) for d, v in rival.changes.items())}"
        for rival in answer.schools
    ]
    return lines
