"""steady-tide: the same core from the shell, without server or database."""

from __future__ import annotations

import typer

from steady_tide.cli import (  # each brings its commands
    backup,
    edit,
    kit,
    light,
    log,
    look,
    outside,
    panel,
    practice,
    rushes,
    shots,
    story,
    uses,
    worker,
)
from steady_tide.cli.shell import BAD_INPUT, NO_PLAN, app
from steady_tide.core.errors import BadInput, NoLegalPlan
from steady_tide.words.refusals import refusal_words
from steady_tide.words.writing import NARROW

__all__ = [
    "backup",
    "edit",
    "kit",
    "light",
    "log",
    "look",
    "outside",
    "panel",
    "practice",
    "run",
    "rushes",
    "shots",
    "story",
    "uses",
    "worker",
]


def run() -> None:
    """The command. Exits with 2 on bad input and with 3 where no legal plan exists."""
    try:
        app(standalone_mode=True)
    except BadInput as error:
        for fault in error.faults:
            typer.echo(f"{error.subject}: {fault}", err=True)
        raise SystemExit(BAD_INPUT) from None
    except NoLegalPlan as error:
        typer.echo(refusal_words(error).replace(NARROW, " "), err=True)
        raise SystemExit(NO_PLAN) from None
