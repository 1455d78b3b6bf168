"""Takes of an exported log, for the commands of a shoot."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from steady_tide.cli.shell import read_log
from steady_tide.core.edit.notes import EditTake
from steady_tide.core.log.log_file import TakeEntry
from steady_tide.formats.log_json import read_log_json

LogPath = Annotated[Path | None, typer.Option(help="A log as exported: its takes and measures count.")]


def takes_of(log: Path | None, shoot: str) -> dict[str, tuple[EditTake, ...]]:
    """Takes of a log by the title of their shot. log: its file, None for none; shoot: its title. Returns them, the oldest first."""
    if log is None:
        return {}
    read = read_log_json(read_log(log), str(log))
    found: dict[str, list[TakeEntry]] = {}
    for take in sorted(read.takes, key=lambda one: one.said.at):
        if take.shoot == shoot and take.ladder is None:
            found.setdefault(take.shot, []).append(take)
    return {
        title: tuple(
            EditTake(
                key=str(take.id), number=number, said=take.said, plan=take.planned, measures=take.measures,
                file=take.measures.file or None if take.measures else None,
            )
            for number, take in enumerate(mine, start=1)
        )
        for title, mine in found.items()
    }  # fmt: skip
