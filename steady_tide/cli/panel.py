"""The panel of briefs: what an operator would say of every plan, and what a change of judgement does to all."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Annotated, Any

import typer
import yaml
from pydantic import ValidationError

from steady_tide import library
from steady_tide.cli.shell import AsJson, app, say, say_json
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.planning.panel import VERDICTS, Judged, PanelBrief, Verdict, differences, judge, shares
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import faults_of

WORDS: dict[Verdict, str] = {"whole": "accepted whole", "changed": "one change", "refused": "refused"}


@app.command()
def panel(
    names: Annotated[
        list[str] | None, typer.Argument(metavar="[BRIEF]...", help="Briefs by a part of their name; all if left out.")
    ] = None,
    folder: Annotated[
        Path | None, typer.Option("--briefs", help="A folder of briefs as YAML, in place of those that ship.")
    ] = None,
    change: Annotated[
        list[str] | None,
        typer.Option("--set", help="Try another number, such as items.over=2 or limits.subject_fill=0.4."),
    ] = None,
    verbose: Annotated[bool, typer.Option("--all", help="Tell the briefs that are accepted whole, too.")] = False,
    as_json: AsJson = False,
) -> None:
    """Plan every brief of the panel and tell what an operator would accept, change or refuse."""
    briefs = library.panel() if folder is None else _briefs_in(folder)
    chosen = [entry for entry in briefs if not names or any(name in entry.id for name in names)]
    if not chosen:
        raise BadFile(
            Fault("panel", "no brief has such a name", f"There are {', '.join(b.id for b in briefs[:6])}, ...")
        )
    knowledge = _changed(library.knowledge(), change or [])
    kit = library.demo_kit()
    judged = [judge(entry, kit, lambda brief: plan(brief, kit, knowledge, schools=False)) for entry in chosen]
    before = _last()
    trial = bool(change or folder or names)  # compared with the last whole run, and does not become it
    if not trial:
        _keep(judged)
    if as_json:
        told = [entry.model_dump(mode="json") for entry in judged]
        changed = [entry.model_dump(mode="json") for entry in differences(judged, before)]
        say_json({"shares": shares(judged), "briefs": told, "differences": changed})
        return
    for entry in judged:
        if entry.verdict != "whole" or verbose:
            say("\n".join([f"{WORDS[entry.verdict]}: {entry.id}, {entry.title}", *_wanted(entry)]))
    _say_by_scenario(judged)
    for other in differences(judged, before):
        say(f"since the last run: {other.id} was {WORDS[other.was]}, is {WORDS[other.now]}")


def _wanted(entry: Judged) -> list[str]:
    return [f"    {want.of} is {_short(want.value)}: {want.why}" for want in entry.wanted]


def _short(value: Any) -> str:
    if isinstance(value, float):
        return f"1/{1 / value:.0f}" if 0 < value < 0.3 else f"{value:.3g}"
    return ", ".join(value) or "none" if isinstance(value, tuple) else str(value)


def _say_by_scenario(judged: list[Judged]) -> None:
    scenarios = list(dict.fromkeys(entry.scenario for entry in judged))
    say(f"{'':<14}{'briefs':>8}" + "".join(f"{WORDS[verdict]:>16}" for verdict in VERDICTS))
    for name in [*scenarios, "all"]:
        mine = [entry for entry in judged if name in ("all", entry.scenario)]
        counts = shares(mine)
        say(f"{name:<14}{len(mine):>8}" + "".join(f"{counts[verdict]:>16}" for verdict in VERDICTS))


def _briefs_in(folder: Path) -> list[PanelBrief]:
    found = []
    if not folder.is_dir():
        raise BadFile(Fault(str(folder), "is no folder", "Name the folder that holds the briefs as YAML."))
    if not list(folder.glob("*.yaml")):
        raise BadFile(
            Fault(str(folder), "holds no briefs", "Put briefs into it as YAML; see library/panel for the form.")
        )
    for path in sorted(folder.glob("*.yaml")):
        if path.stat().st_size > sizes.BRIEF:
            raise BadFile(Fault(str(path), "is larger than 1 MB", "Split it."))
        try:
            entries = yaml.safe_load(path.read_text(encoding="utf-8"))
            found += [PanelBrief.model_validate({**entry, "id": f"{path.stem}/{entry['id']}"}) for entry in entries]
        except ValidationError as error:
            raise BadFile(*faults_of(error, (path.name,))) from None
        except (yaml.YAMLError, UnicodeDecodeError, TypeError, KeyError):
            raise BadFile(Fault(str(path), "is no list of briefs", "See library/panel for the form.")) from None
    return found


def _changed(knowledge: Knowledge, changes: list[str]) -> Knowledge:
    """The same knowledge with other numbers. changes: path=number each. Raises BadFile where a path leads nowhere."""
    weights = knowledge.weights.model_dump()
    for change in changes:
        path, _, number = change.partition("=")
        at: Any = weights
        try:
            *steps, last = path.split(".")
            for step in steps:
                at = at[step]
            if isinstance(at[last], dict):
                at, last = at[last], "weight" if "weight" in at[last] else "value"
            at[last] = float(number)
        except (KeyError, TypeError, ValueError):
            raise BadFile(
                Fault("--set", f"'{change}' names no number", "Write items.over=2, as the weights are laid out.")
            ) from None
    return knowledge.model_copy(update={"weights": type(knowledge.weights).model_validate(weights)})


def _last_file() -> Path:
    state = os.environ.get("XDG_STATE_HOME") or Path.home() / ".local" / "state"
    return Path(state) / "steady-tide" / "panel.json"


def _last() -> dict[str, Verdict]:
    try:
        found = json.loads(_last_file().read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return {name: verdict for name, verdict in found.items() if verdict in VERDICTS} if isinstance(found, dict) else {}


def _keep(judged: list[Judged]) -> None:
    file = _last_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(json.dumps({entry.id: entry.verdict for entry in judged}), encoding="utf-8")
    except OSError as error:
        typer.echo(f"The run is not kept for the next: {file} cannot be written ({error.strerror}).", err=True)
