"""Practice in the shell: five minutes of questions, asked again when they are due."""

from __future__ import annotations

import json
import time
from datetime import UTC, datetime
from functools import cache
from pathlib import Path
from typing import Annotated, Any

import typer

from steady_tide import library
from steady_tide.cli.shell import AsJson, app, camera_of, say, say_json
from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.practice.decks import decks_of, in_deck
from steady_tide.core.practice.kinds import KINDS, ask, judge, topics
from steady_tide.core.practice.question import Judged, Question, World
from steady_tide.core.practice.schedule import (
    Memory,
    learned,
    next_time,
    next_topics,
    read_memory,
    standing,
    went,
)
from steady_tide.core.practice.seeing import sights_of
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, BadInput, Fault, NoLegalPlan, NotFound
from steady_tide.formats.decoded import json_of
from steady_tide.words.practice import (
    QuestionText,
    judged_words,
    question_text,
    read_answer,
    standing_words,
    until_words,
)

SESSION_S = 300.0
MOST = 40


def _world(camera: str | None, deck: str) -> World:
    kit, knowledge = library.demo_kit(), library.knowledge()
    if camera is not None:
        camera_of(kit, camera)

    @cache
    def planned(brief: str, only: str | None) -> Plan:
        return plan(Brief.model_validate_json(brief), kit, knowledge, only=only, schools=False)

    world = World(
        kit,
        knowledge,
        library.uses(),
        library.practice(),
        lambda brief, only: planned(brief.model_dump_json(), only),
        lambda brief, only, tries: sights_of(brief, only, tries, kit, knowledge),
        camera,
    )
    try:
        return in_deck(world, deck)
    except BadInput:
        there = ", ".join(decks_of(world.uses, knowledge, None))
        raise BadInput(Fault("--deck", f"there is no deck '{deck[:60]}'", f"Use one of {there}.")) from None


def _memory(path: Path | None) -> Memory:
    if path is None or not path.exists():
        return {}
    try:
        if path.stat().st_size > sizes.PRACTICE:
            raise BadFile(Fault(str(path), "is too large for what practice remembers", "Give the file it wrote."))
        return read_memory(json_of(path.read_bytes()))
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be read ({error.strerror})", "Give the file it wrote.")) from None
    except ValueError as error:
        raise BadFile(
            Fault(str(path), f"is not what practice wrote: {error}", "Give the file it wrote, or a new name.")
        ) from None


def _keep(path: Path | None, memory: Memory) -> None:
    if path is None:
        return
    beside = path.with_name(f"{path.name}.new")
    try:
        beside.write_text(json.dumps(memory, indent=1), encoding="utf-8")
        beside.replace(path)
    except OSError as error:
        raise BadFile(Fault(str(path), f"cannot be written ({error.strerror})", "Give another place.")) from None


def _shown(told: QuestionText) -> list[str]:
    """What is looked at, told by its measures, and the choices, numbered from one."""
    names = ("",) if len(told.frames) == 1 else ("the first: ", "the second: ")
    frames = [f"  {name}{frame.says}" for name, frame in zip(names, told.frames, strict=False)]
    return frames + [
        f"  {row.word + ': ' if row.word else ''}{'   '.join(f'{n} {value}' for n, value in enumerate(row.values, start=1))}"
        for row in told.rows
    ]


@app.command()
def practice(
    kind: Annotated[list[str] | None, typer.Option(help=f"Of {', '.join(KINDS)}; all if left out.")] = None,
    camera: Annotated[str | None, typer.Option(help="Id of the camera to practise with; any if left out.")] = None,
    deck: Annotated[
        str,
        typer.Option(
            help="Of one kind of shot, such as scenario:underwater, or another way of working, such as school:shutter:free."
        ),
    ] = "",
    state: Annotated[Path | None, typer.Option(help="File that remembers what is known and when it is due.")] = None,
    minutes: Annotated[float, typer.Option(min=0.1, max=60, help="How long.")] = SESSION_S / 60,
    seed: Annotated[int | None, typer.Option(help="The same seed asks the same questions.")] = None,
    show: Annotated[
        int, typer.Option("--show", min=0, max=MOST, help="Print so many questions with their answers instead.")
    ] = 0,
    as_json: AsJson = False,
) -> None:
    """Practise arithmetic, dials, orders and menus: questions of the planner's own, asked again when they are due."""
    kinds = tuple(kind or ())
    for one in kinds:
        if one not in KINDS:
            raise BadInput(Fault("--kind", f"there is no kind '{one[:40]}'", f"Use one of {', '.join(KINDS)}."))
    world = _world(camera, deck)
    gear = world.kit.names
    all_topics = topics(world, kinds)
    if not all_topics:
        raise BadInput(Fault("--camera", "leaves nothing to ask of that kind", "Practise with another camera or kind."))
    memory = _memory(state)
    chance = seed if seed is not None else int(time.time())
    if show:
        every = next_topics({}, all_topics, datetime.now(UTC), chance, len(all_topics), world.rules)
        _print(world, every, show, chance, gear, as_json)
        return
    say(standing_words(standing(memory, all_topics, datetime.now(UTC), world.rules)) + ". An empty line ends it.")
    ends = time.monotonic() + 60.0 * minutes
    waiting = [
        (topic, chance, True) for topic in next_topics(memory, all_topics, datetime.now(UTC), chance, MOST, world.rules)
    ]
    right = asked = 0
    while waiting and time.monotonic() < ends:
        topic, turn, counts = waiting.pop(0)
        try:
            question = ask(world, topic, turn)
        except (NoLegalPlan, NotFound):
            continue
        told = question_text(question, world.knowledge, gear)
        say("\n".join(["", told.says, *_shown(told)]))
        began = time.monotonic()
        judged = None
        while judged is None:
            try:
                text = input(f"{told.hint}: ")
            except EOFError:
                text = ""
            if not text.strip():
                waiting.clear()
                break
            try:
                judged = judge(world, question, read_answer(question, text))
            except BadInput as error:
                say(str(error))
        if judged is None:
            break
        took = time.monotonic() - began
        asked, right = asked + 1, right + judged.right
        say("\n".join(judged_words(question, judged, gear)))
        if not judged.right:
            waiting.append((topic, turn + 1, False))  # once more before it ends, with other numbers
        if counts:
            now = datetime.now(UTC)
            memory = learned(
                memory, topic, went(judged, took, world.rules.kinds[question.kind].usual_s, world.rules), now
            )
            _keep(state, memory)
            say(f"asked again {until_words(next_time(memory, topic, now))}")
    now = datetime.now(UTC)
    say(f"\n{right} of {asked} right. {standing_words(standing(memory, all_topics, now, world.rules))}.")


def _print(world: World, asked: tuple[str, ...], most: int, seed: int, gear: dict[str, str], as_json: bool) -> None:
    """Questions with their best answers. most: how many; what the camera's shots do not show is passed over."""
    items: list[tuple[Question, Judged]] = []
    for topic in asked:
        if len(items) == most:
            break
        try:
            question = ask(world, topic, seed)
        except (NoLegalPlan, NotFound):
            continue
        best = judge(world, question, _any(question)).best
        items.append((question, judge(world, question, best)))
    if as_json:
        say_json({"questions": [{**q.model_dump(mode="json"), "best": j.best} for q, j in items]})
        return
    for question, judged in items:
        told = question_text(question, world.knowledge, gear)
        say("\n".join([told.says, *_shown(told), *judged_words(question, judged, gear), ""]))


def _any(question: Question) -> Any:
    """Some answer in the right form."""
    if question.form == "number":
        return 1.0
    if question.form == "one":
        return 0
    return tuple(range(len(question.rows[0].values))) if question.form == "order" else tuple(0 for _ in question.rows)
